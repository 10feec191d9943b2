"""Bands mean what they say: nine references in ten lie inside, by quantity and in all (`bench/accuracy.py`)."""

import importlib.util
import sys
from pathlib import Path

import pytest

from light_aircraft import AIRCRAFT, TURNING_ROLLS, roll_by_turn_of
from ridgeline.engine.bands import BAND
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.stages.motions import TURN_SIGMA


@pytest.fixture(scope="module")
def accuracy():
    path = Path(__file__).resolve().parents[1] / "bench" / "accuracy.py"
    spec = importlib.util.spec_from_file_location("accuracy", path)
    module = importlib.util.module_from_spec(spec)
    sys.modules["accuracy"] = module
    spec.loader.exec_module(module)
    return module


def test_nine_references_in_ten_lie_inside_their_bands(accuracy):
    found = accuracy.cases()
    measured = [case for case in found if case.kind != "closed form"]
    inside = sum(case.inside for case in measured)
    assert len(measured) >= 39
    assert 0.85 <= inside / len(measured) <= 0.97, [(c.quantity, c.what) for c in found if not c.inside]
    assert all(case.inside for case in found if case.kind == "closed form")
    structure = {"tip bend, m", "divergence, Pa", "reversal, Pa", "landing load factor", "hold of bands, N"}
    assert structure <= {case.quantity for case in found}
    for quantity, (held, count, _median) in accuracy.coverage(found).items():
        if count >= 5:
            assert held / count >= 0.75, quantity


def test_a_case_is_inside_by_its_own_band_alone(accuracy):
    def case(value, reference):
        return accuracy.Case("x", "y", "class", value, 0.1, reference, "z")

    assert case(1.0, 1.16).inside and not case(1.0, 1.17).inside
    assert case(1.1, 1.0).error == pytest.approx(0.1)


@pytest.mark.parametrize("aircraft", AIRCRAFT, ids=lambda a: a.name)
def test_light_aircraft_fly_as_their_books_say(aircraft):
    report = evaluate(aircraft.design)
    # Mean chord and span as printed, so that coefficients refer to the same.
    span, chord = {"Low-wing tourer": (33.4, 5.7), "High-wing tourer": (35.8, 4.9)}[aircraft.design.name]
    assert report.value("wing.span") / (0.3048 / 5) == pytest.approx(span, rel=0.01)
    assert report.value("wing.mac") / (0.3048 / 5) == pytest.approx(chord, rel=0.02)
    outside = []
    for key, printed in aircraft.published.items():
        figure = report.figures[key]
        if not figure.low <= printed <= figure.high:
            outside.append((key, figure.value, printed))
        # No band so wide that it says nothing.
        assert 1.645 * figure.sigma < 0.6 * abs(figure.value), key
    assert len(outside) <= 1, outside


@pytest.mark.parametrize("turning", TURNING_ROLLS, ids=lambda t: t.aircraft.name)
def test_light_aircraft_roll_in_a_turn_as_their_books_say(turning):
    ours = roll_by_turn_of(turning)
    assert abs(ours - turning.published) < BAND * TURN_SIGMA * ours
    assert BAND * TURN_SIGMA < 0.5
