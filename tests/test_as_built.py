"""The airframe as it came out: heights of edges and lengths from tip to tail, measured and read back."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.as_built import AsBuilt, Diagonal, Levelled
from ridgeline.design.document import Design
from ridgeline.design.paths import apply
from ridgeline.engine.advice import as_built_rules
from ridgeline.engine.bands import BAND
from ridgeline.engine.geometry.levelled import SIDES, BenchFit, angle_of, bench_fit, skew_of
from ridgeline.engine.geometry.placed import mirrored, placed_at
from ridgeline.files.design_file import load

DEGREE = math.pi / 180


def test_one_millimetre_over_two_hundred_is_029_degrees():
    assert math.degrees(angle_of(0.001, 0.0, 0.200)) == pytest.approx(0.29, abs=0.005)


def measured(design: Design, truth: dict[int, tuple[float, float, float, float]], *, pitch=0.0, tilt=0.0, noise=0.0,
             seed=1, sigma=0.0005) -> AsBuilt:  # fmt: skip
    """Heights of a bent and turned airframe: ``truth`` is incidence, twist of each tip and dihedral off the drawing."""
    chance = np.random.default_rng(seed)
    rows = []
    for k, (incidence, starboard, port, dihedral) in truth.items():
        surface = design.surfaces[k]
        true = surface.model_copy(update={"incidence": surface.incidence + incidence, "cant": surface.cant + dihedral})
        span = surface.stations[-1].y - surface.stations[0].y
        for side, twist in zip(SIDES, (starboard, port), strict=True):
            for share in (0.1, 0.5, 0.95):
                out = surface.stations[0].y + share * span
                here = placed_at(true, [out], warp=twist)
                ends = np.stack([here.leading[0], here.points(1.0)[0, 0]])
                ends = ends if side == "starboard" else mirrored(ends)
                height = 0.3 + ends[:, 2] * math.cos(pitch) - ends[:, 0] * math.sin(pitch) + ends[:, 1] * math.sin(tilt)
                height = height + noise * chance.normal(size=2)
                rows.append(Levelled(of=surface.id, side=side, out=out, leading=height[0], trailing=height[1]))
    return AsBuilt(levelled=tuple(rows), height_sigma=sigma)


def told_of(fit: BenchFit, surface: int):
    return next(one for one in fit.surfaces if one.surface == surface)


@given(
    st.floats(-0.15, 0.15), st.floats(-0.03, 0.03),
    st.lists(st.floats(-2, 2), min_size=7, max_size=7),
)  # fmt: skip
@settings(max_examples=25, deadline=None)
def test_heights_give_back_how_an_airframe_came_out_however_it_stands(pitch, tilt, off):
    design = load("demo:heron")
    wing, tail = 0, next(k for k, one in enumerate(design.surfaces) if one.role == "stabiliser")
    w_s, w_p, w_d, t_i, t_s, t_p, t_d = (value * DEGREE for value in off)
    truth = {wing: (0.0, w_s, w_p, w_d), tail: (t_i, t_s, t_p, t_d)}
    fit = bench_fit(design.surfaces, measured(design, truth, pitch=pitch, tilt=tilt), wing)
    assert fit is not None and fit.reference == wing
    assert fit.pitch == pytest.approx(pitch, abs=3e-4) and fit.tilt == pytest.approx(tilt, abs=2e-3)
    one, other = told_of(fit, wing), told_of(fit, tail)
    assert one.incidence is None
    close = 3e-4
    assert [one.washin[k].value for k in (0, 1)] == pytest.approx([w_s, w_p], abs=close)
    assert one.twist.value == pytest.approx((w_s + w_p) / 2, abs=close)
    assert one.warp.value == pytest.approx((w_s - w_p) / 2, abs=close)
    assert other.incidence.value == pytest.approx(t_i, abs=close)
    assert other.dihedral.value - one.dihedral.value == pytest.approx(t_d - w_d, abs=3e-3)


def test_what_is_measured_with_noise_lies_within_its_band_about_nine_times_in_ten():
    design, noise = load("demo:heron"), 0.0005
    wing, tail = 0, next(k for k, one in enumerate(design.surfaces) if one.role == "stabiliser")
    inside, seen = dict.fromkeys(("incidence", "twist", "warp", "dihedral"), 0), 200
    for seed in range(seen):
        off = np.random.default_rng(1000 + seed).normal(size=6) * 0.6 * DEGREE
        truth = {wing: (0.0, off[0], off[1], off[2]), tail: (off[3], off[4], off[4], off[5])}
        fit = bench_fit(design.surfaces, measured(design, truth, pitch=0.05, tilt=0.01, noise=noise, seed=seed), wing)
        one, other = told_of(fit, wing), told_of(fit, tail)
        for name, told, true in (
            ("incidence", other.incidence, off[3]), ("twist", one.twist, (off[0] + off[1]) / 2),
            ("warp", one.warp, (off[0] - off[1]) / 2), ("dihedral", one.dihedral, off[2]),
        ):  # fmt: skip
            inside[name] += abs(told.value - true) <= BAND * told.sigma
    assert all(0.85 * seen <= many <= 0.97 * seen for many in inside.values()), inside


def test_readings_that_do_not_agree_widen_every_band():
    design = load("demo:heron")
    good = measured(design, {0: (0.0, 0.01, 0.01, 0.0)}, noise=0.0005)
    bad = measured(design, {0: (0.0, 0.01, 0.01, 0.0)}, noise=0.005)
    one, other = (told_of(bench_fit(design.surfaces, rows, 0), 0) for rows in (good, bad))
    assert other.twist.sigma > 3 * one.twist.sigma


def test_places_too_near_one_another_tell_no_twist():
    design = load("demo:heron")
    wing, rows = design.surfaces[0], []
    for apart, told in ((0.25, False), (0.35, True)):
        rows = []
        for share in (0.1, 0.1 + apart):
            out = wing.stations[0].y + share * (wing.stations[-1].y - wing.stations[0].y)
            here = placed_at(wing, [out])
            ends = (float(here.leading[0, 2]), float(here.trailing[0, 2]))
            rows.append(Levelled(of=wing.id, out=out, leading=ends[0], trailing=ends[1]))
        fit = bench_fit(design.surfaces, AsBuilt(levelled=tuple(rows)), 0)
        assert (told_of(fit, 0).twist is not None) == told == (told_of(fit, 0).dihedral is not None)


def test_one_place_tells_no_twist_and_one_side_no_warp():
    design = load("demo:heron")
    whole = measured(design, {0: (0.0, 0.02, 0.01, 0.0)})
    root = whole.model_copy(update={"levelled": whole.levelled[:1]})
    fit = bench_fit(design.surfaces, root, 0)
    assert told_of(fit, 0).twist is None and told_of(fit, 0).dihedral is None
    side = whole.model_copy(update={"levelled": whole.levelled[:3]})
    told = told_of(bench_fit(design.surfaces, side, 0), 0)
    assert told.warp is None and told.twist.value == pytest.approx(0.02, abs=3e-4)
    assert bench_fit(design.surfaces, AsBuilt(), 0) is None


@given(st.floats(-0.05, 0.05))
def test_diagonals_give_back_a_turn_of_the_wing(turn):
    wing = load("demo:heron").surfaces[0]
    here = placed_at(wing, [wing.stations[0].y, wing.stations[-1].y])
    pivot = float(here.leading[0, 0] + 0.5 * here.chord[0])
    tips = np.array([here.points(1.0)[-1, 0, :2], mirrored(here.points(1.0)[-1, 0])[:2]]) - (pivot, 0.0)
    # Starboard aft: what lies out moves back, what lies ahead moves out.
    c, s = math.cos(turn), math.sin(turn)
    turned = np.stack([tips[:, 0] * c + tips[:, 1] * s, tips[:, 1] * c - tips[:, 0] * s], axis=1)
    to = pivot + 0.8
    lengths = np.hypot(*(turned - (0.8, 0.0)).T)
    found = skew_of(wing, Diagonal(of=wing.id, to=to, starboard=lengths[0], port=lengths[1]), 0.001)
    assert found.value == pytest.approx(turn, abs=1e-9)
    # A millimetre on a metre or so of either diagonal.
    assert 0.0005 < found.sigma < 0.003


# -- what is said of it ------------------------------------------------------------------------------------------------


def levels(design: Design, truth: dict[int, tuple[float, float, float, float]], of: int) -> str:
    """Level of the finding on one surface, measured without noise by a fine rule."""
    built = design.model_copy(update={"as_built": measured(design, truth, sigma=0.00005)})
    key = f"flights.built.{design.surfaces[of].id}"
    return next(one.level for one in as_built_rules.findings(built, None) if one.key == key)


@pytest.mark.parametrize(
    ("field", "limit"), [("incidence", 0.5), ("twist", 1.0), ("warp", 0.5), ("dihedral", 3.0)]
)  # fmt: skip
def test_what_is_off_by_more_than_is_worth_setting_right_is_looked_at(field, limit):
    design = load("demo:heron")
    tail = next(k for k, one in enumerate(design.surfaces) if one.role == "stabiliser")
    of = tail if field == "incidence" else 0
    for degrees, level in ((0.9 * limit, "settled"), (1.1 * limit, "look")):
        a = degrees * DEGREE
        off = {"incidence": (a, 0, 0, 0), "twist": (0, a, a, 0), "warp": (0, a, -a, 0), "dihedral": (0, 0, 0, a)}[field]
        truth = {0: (0, 0, 0, 0), tail: (0, 0, 0, 0)} | {of: off}
        assert levels(design, truth, of) == level, degrees


def test_a_wing_askew_by_more_than_a_degree_is_looked_at():
    design = load("demo:heron")
    wing = design.surfaces[0]
    here = placed_at(wing, [wing.stations[0].y, wing.stations[-1].y])
    half, middle = float(here.trailing[-1, 1]), float(here.leading[0, 0] + 0.5 * here.chord[0])
    to = middle + 1.0
    for degrees, level in ((0.9, "settled"), (1.1, "look")):
        apart = 4 * (to - middle) * half * math.sin(degrees * DEGREE)
        port = 2.5
        row = Diagonal(of=wing.id, to=to, starboard=math.sqrt(port**2 - apart), port=port)
        built = design.model_copy(update={"as_built": AsBuilt(diagonals=(row,), length_sigma=0.0001)})
        (finding,) = as_built_rules.findings(built, None)
        assert finding.level == level and "starboard tip" in str(finding.text)


def test_heights_that_do_not_agree_are_taken_again():
    design = load("demo:heron")
    for noise, told in ((0.001, False), (0.002, True)):
        built = design.model_copy(update={"as_built": measured(design, {0: (0, 0, 0, 0)}, noise=noise)})
        keys = [one.key for one in as_built_rules.findings(built, None)]
        assert ("flights.built.scatter" in keys) == told


def test_an_airframe_carried_as_measured_is_as_drawn_from_then_on():
    design = load("demo:heron")
    tail = next(k for k, one in enumerate(design.surfaces) if one.role == "stabiliser")
    truth = {0: (0.0, 0.02, 0.005, 0.01), tail: (0.012, 0.0, 0.0, 0.0)}
    built = design.model_copy(update={"as_built": measured(design, truth, pitch=0.05)})
    for finding in list(as_built_rules.findings(built, None)):
        for way in finding.remedies:
            built = apply(built, way.changes)
    assert all("as drawn" in str(one.text) for one in as_built_rules.findings(built, None))
    assert built.surfaces[tail].incidence == pytest.approx(design.surfaces[tail].incidence + 0.012, abs=3e-4)
    chord = design.surfaces[0].stations[-1].chord
    assert built.surfaces[0].warp_starboard == pytest.approx(chord * 0.0075, abs=2e-4)
    assert built.surfaces[0].stations[-1].twist == pytest.approx(
        design.surfaces[0].stations[-1].twist + 0.0125, abs=3e-4
    )
    # What holds the drawing is edited by nothing else.
    assert built.surfaces[0].incidence == design.surfaces[0].incidence
