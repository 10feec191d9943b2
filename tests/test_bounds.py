"""The bounds of the program, held from both sides: what is just allowed works, what is just past it is refused."""

import math

import numpy as np
import pytest
from PySide6.QtGui import QImage

from ridgeline.design.airframe import Station
from ridgeline.design.paths import get, put
from ridgeline.desk.paint import fit, width_of, wrap
from ridgeline.desk.sheets.shape.underlay import picture_from_file
from ridgeline.engine.aero.airframe_lattice import solve_airframe
from ridgeline.engine.pipeline import evaluate
from ridgeline.errors import DesignError
from ridgeline.files import sittings
from ridgeline.files.design_file import load
from ridgeline.files.journal import Opened
from ridgeline.files.sittings import Sitting, drop, leftovers

WHIMBREL = load("demo:whimbrel")

#: Where physics, or what a hand can make, ends: path and least value, stored units.
LEAST = {
    "surfaces[0].stations[2].chord": 0.001,
    "surfaces[0].controls[0].chord_fraction": 0.01,
    "surfaces[0].thickness": 0.0002,
    "surfaces[0].sheet": 5e-5,
    "power.motor.resistance": 1e-4,
    "power.motor.mass": 1e-4,
    "power.motor.max_current": 0.1,
    "power.motor.kv_rpm_per_v": 10.0,
    "power.motor.diameter": 0.002,
    "power.esc.max_current": 0.1,
    "power.esc.mass": 1e-4,
    "power.pack.capacity_ah": 0.01,
    "power.pack.cell_resistance": 5e-5,
    "power.pack.c_rating": 0.5,
    "power.pack.mass": 1e-4,
    "power.propeller.pitch": 0.003,
    "power.propeller.mass": 1e-4,
    "brief.ground_roll": 0.5,
}


@pytest.mark.parametrize("path", sorted(LEAST))
def test_the_smallest_value_is_taken_and_evaluates_and_less_is_refused(path):
    report = evaluate(put(WHIMBREL, path, LEAST[path]))
    assert all(f.value is None or math.isfinite(f.value) for f in report.figures.values())
    for finding in report.findings:
        words = f"{finding.text} {finding.reason} {' '.join(str(r.text) for r in finding.remedies)}"
        assert "inf" not in words.split() and "nan" not in words.split(), words
    for less in (0.99 * LEAST[path], 0.0):
        with pytest.raises(DesignError, match="or more"):
            put(WHIMBREL, path, less)
    assert get(WHIMBREL, path) > LEAST[path]


def many_stations(surfaces, stations):
    """Return the sample with wings of an elliptic outline one behind the other, each of very many stations."""
    wing, half = WHIMBREL.surfaces[0], WHIMBREL.surfaces[0].stations[-1].y
    share = np.linspace(0, 1, stations)
    outline = tuple(Station(y=half * s, chord=0.22 * math.sqrt(1.02 - s**2)) for s in share)
    made = [
        wing.model_copy(update={"name": f"Wing {k}", "x": 0.4 * k, "z": 0.1 * k, "stations": outline, "controls": ()})
        for k in range(surfaces)
    ]
    return WHIMBREL.model_copy(update={"surfaces": tuple(made)})


def test_a_lattice_of_very_many_stations_is_held_to_its_strips_and_says_so():
    report = evaluate(many_stations(6, 60))
    lattice = report.results.lattice
    assert len(lattice.strip_owner) <= 200 and lattice.skipped > 200
    (finding,) = [f for f in report.findings if f.key == "shape.many_stations"]
    assert "360 stations" in str(finding.text) and finding.level == "look"


def test_stations_that_fit_are_all_followed_and_skipping_some_costs_little():
    few, many = many_stations(1, 45), many_stations(2, 60)
    assert evaluate(few).results.lattice.skipped == 0
    form = evaluate(many).results
    skipping = solve_airframe(many.surfaces, form.shape.reference)
    whole = solve_airframe(many_stations(2, 45).surfaces, form.shape.reference)
    assert skipping.skipped > 0 and whole.skipped == 0
    assert skipping.found.alpha.lift == pytest.approx(whole.found.alpha.lift, rel=0.01)
    assert skipping.neutral_fraction == pytest.approx(whole.neutral_fraction, abs=0.01)


def test_only_the_last_ten_of_the_dropped_are_kept():
    for number in range(12):
        sitting = Sitting(Opened(None, "x"), lambda _words: None)
        sitting.record(WHIMBREL, WHIMBREL.model_copy(update={"name": f"Work {number}"}), "rename")
        sitting.close(keep=True)
        (left,), _report = leftovers()
        drop(left)
    assert len(list((sittings.sittings_folder() / "dropped").iterdir())) == 10


@pytest.mark.parametrize(
    ("width", "height", "taken"), [(16, 16, True), (15, 40, False), (20, 1000, True), (20, 1020, False)]
)
def test_pictures_are_taken_up_to_the_least_and_most_slender(qapp_offscreen, tmp_path, width, height, taken):
    place = tmp_path / "picture.png"
    image = QImage(width, height, QImage.Format.Format_RGB32)
    image.fill(0xFF8080)
    assert image.save(str(place))
    if taken:
        assert picture_from_file(place)[1:] == (width, height)
    else:
        with pytest.raises(DesignError, match=f"a picture of {width} × {height} px"):
            picture_from_file(place)


@pytest.mark.parametrize("words", ["Saltmarsh Whimbrel", "a" * 16_000, "WiWi " * 900, "c\u0304 of the mean chord", ""])
@pytest.mark.parametrize("width", [0.0, 5.0, 60.0, 220.0, 700.0])
def test_words_are_cut_to_as_many_letters_as_fit(qapp_offscreen, words, width):
    cut = fit(words, width)
    if cut == words:
        assert width_of(words) <= width or not words
        return
    assert cut.endswith("…") and words.startswith(cut[:-1])
    kept = len(cut) - 1
    assert width_of(cut) <= width or kept == 0
    assert width_of(words[: kept + 2].rstrip() + "…") > width


@pytest.mark.parametrize("words", ["a" * 2000, "seals and mudflats " * 40, "short", ""])
def test_no_line_of_wrapped_words_is_wider_than_its_room(qapp_offscreen, words):
    lines = wrap(words, 120.0)
    assert all(width_of(line, 11) <= 120.0 for line in lines)
    assert "".join("".join(lines).split()) == "".join(words.split())
