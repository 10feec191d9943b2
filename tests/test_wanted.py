"""Wanted ranges and limits are said once, by the advice and the engine: the sheets only draw them."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.paths import put
from ridgeline.engine.advice.balance_rules import levers_to
from ridgeline.engine.advice.banking_rules import helix_range
from ridgeline.engine.geometry.bodies import underside
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power.ratings import ratings
from ridgeline.engine.report import within
from ridgeline.engine.weights.supports import from_supports, on_supports
from ridgeline.standins.finished_model import FinishedModel


def test_a_range_holds_its_ends_and_an_open_one_goes_on():
    assert within(2.0, (2.0, 3.0)) and within(3.0, (2.0, 3.0)) and not within(3.01, (2.0, 3.0))
    assert within(-1e9, (None, 3.0)) and within(1e9, (2.0, None)) and not within(1.99, (2.0, None))
    assert within(7.0, None)


def test_the_finding_and_the_wanted_range_of_the_elevator_agree(whimbrel):
    for throw in np.radians([8.0, 12.0, 17.0, 24.0, 33.0]):
        design = whimbrel
        for i, surface in enumerate(whimbrel.surfaces):
            for j, control in enumerate(surface.controls):
                if control.kind == "ruddervator":
                    design = put(design, f"surfaces[{i}].controls[{j}].up", float(throw))
        report = evaluate(design)
        told = {finding.key for finding in report.findings}
        weak = not within(report.value("control.elevator_to_stall"), report.wanted["control.elevator_to_stall"])
        touchy = not within(report.value("control.pitch_sensitivity"), report.wanted["control.pitch_sensitivity"])
        assert ("control.elevator_low" in told) == weak
        assert ("control.elevator_touchy" in told) == (touchy and not weak)


def test_controls_have_the_ranges_of_the_purpose_and_of_how_it_is_turned(whimbrel):
    report = evaluate(whimbrel)
    throws = report.results.handling.throws
    assert report.wanted["control.roll_helix"] == helix_range(whimbrel.brief.purpose)
    assert report.wanted["control.rudder_sideslip"] == (None, throws.yaw)
    assert report.wanted["stability.spiral_parameter"] == (1.0, None)
    plain = put(whimbrel, "surfaces[0].controls", ())
    by_rudder = evaluate(plain)
    assert by_rudder.results.handling.by_rudder
    assert by_rudder.wanted["stability.spiral_parameter"] == (5.0, None)


def test_ratings_are_the_limits_of_the_handbook(whimbrel):
    train = whimbrel.power
    held = ratings(train)
    assert held.esc_current == pytest.approx(0.8 * train.esc.max_current)
    assert held.motor_heat == pytest.approx(1100.0 * train.motor.mass)
    tip = math.pi * train.propeller.diameter * held.rpm / 60
    assert tip <= 0.65 * 340.0 + 1e-9
    limit = min(train.motors * held.esc_current, held.pack_current)
    assert evaluate(whimbrel).wanted["power.static_current"] == (None, pytest.approx(limit))


def test_no_propeller_of_the_size_beats_its_disc(whimbrel):
    report = evaluate(whimbrel)
    ideal, found = report.value("power.disc_ratio"), report.value("power.thrust_ratio")
    # T = (2 ρ A P²)^(1/3) of all discs on the shaft power there is.
    point, train = report.results.standing.point, whimbrel.power
    area = math.pi / 4 * train.propeller.diameter**2 * train.motors
    power = float(point.shaft_power) * train.motors
    thrust = (2 * report.results.air.density * area * power**2) ** (1 / 3)
    assert ideal == pytest.approx(thrust / (report.value("mass.auw") * 9.80665), rel=1e-6)
    assert 0.4 * ideal < found < ideal


places = st.floats(-0.5, 0.5)


@given(st.floats(0.1, 3.0), st.floats(0.05, 0.95), st.floats(0.05, 0.95), places)
def test_what_supports_carry_gives_mass_and_balance_back(mass, along, aside, middle):
    front, back = (0.0, 0.0), (0.3, 0.0)
    two = on_supports(mass, (0.3 * along, middle), (front, back))
    found = from_supports(two, (front, back))
    assert found.mass == pytest.approx(mass) and found.cg[0] == pytest.approx(0.3 * along)
    three = ((0.0, -0.4), (0.0, 0.4), (0.5, 0.1))
    weights = np.array([(1 - along) * (1 - aside), (1 - along) * aside, along])
    x, y = weights @ np.array(three)
    found = from_supports(on_supports(mass, (x, y), three), three)
    assert found.mass == pytest.approx(mass) and found.cg == pytest.approx((x, y), abs=1e-9)


@pytest.mark.parametrize(
    ("point", "supports", "why"),
    [
        ((0.4, 0.0), ((0.0, 0.0), (0.3, 0.0)), "outside"),
        ((0.1, 0.0), ((0.2, 0.0), (0.2, 0.0)), "one line"),
        ((0.1, 0.0), ((0.0, 0.0), (0.1, 0.0), (0.3, 0.0)), "one line"),
        ((0.1, 0.3), ((0.0, -0.1), (0.0, 0.1), (0.3, 0.0)), "outside"),
    ],
)
def test_what_would_topple_is_refused(point, supports, why):
    with pytest.raises(ValueError, match=why):
        on_supports(1.0, point, supports)


def test_the_finished_model_is_not_the_predicted_one_and_turns_about_its_supports():
    model = FinishedModel.of(1.0, (0.2, 0.0, 0.05))
    assert model.mass == pytest.approx(1.04) and model.cg == pytest.approx((0.204, -0.003, 0.055))
    assert model.seen_from_supports(0.0, lambda _x: 0.0) == model.cg[:2]
    ahead, _y = model.seen_from_supports(math.radians(45), lambda _x: 0.005)
    assert ahead == pytest.approx(0.204 - 0.050)


def test_the_underside_is_that_of_the_lowest_body_there(whimbrel):
    body = whimbrel.bodies[0]
    section = body.sections[1]
    assert underside([body], section.x) == pytest.approx(min(0.0, section.z - 0.5 * section.height))
    assert underside([body], body.sections[-1].x + 1.0) == 0.0


def test_ballast_that_no_scale_shows_is_not_offered(whimbrel):
    report = evaluate(whimbrel)
    here = report.value("balance.cg_fraction")
    for shift, offered in ((-1e-4, False), (-0.02, True)):
        found = [r for r in levers_to(whimbrel, report, here + shift) if r.key == "ballast"]
        assert bool(found) is offered
        assert all(r.changes[0].value["estimate"] >= 5e-4 for r in found)
