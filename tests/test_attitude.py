"""The balance point's height, turned to the angle the body flies at: margin, trim and stall feel it."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.paths import put
from ridgeline.engine.aero.attitude import Height, arm, drag_couple, margin_of_height
from ridgeline.engine.aero.trim import trim
from ridgeline.engine.pipeline import evaluate

TWENTY = math.radians(20)


def set_at(design, angle):
    """Return a design with wing and tail turned on the body together."""
    for k, surface in enumerate(design.surfaces):
        design = put(design, f"surfaces[{k}].incidence", surface.incidence + angle)
    return design


@given(st.floats(-0.6, 0.4), st.floats(-0.1, 0.1), st.floats(0.1, 0.8), st.floats(3.5, 5.5), st.floats(0.04, 0.1))
def test_what_height_adds_is_how_the_moment_turns_with_lift(height, alpha, c_l, slope, induced):
    """Against the moment itself, of lift at the wing and its drag past a weight that turns with the body."""

    def moment(a):
        lift = c_l + slope * (a - alpha)
        along, over = height * math.sin(a), height * math.cos(a)
        return lift * along - induced * lift**2 * over

    step = 1e-5
    turned = -(moment(alpha + step) - moment(alpha - step)) / (2 * step) / slope
    found = margin_of_height(height, alpha, c_l, slope, induced)
    # Sines for tangents and a turning drag arm: second order in the angle.
    assert found == pytest.approx(turned, abs=0.02 * abs(height) * (abs(alpha) + 0.05))


def test_weight_under_the_wing_steadies_and_over_it_unsteadies(whimbrel):
    def margin(z):
        return evaluate(put(whimbrel, "parts[0].z", z)).value("stability.static_margin")

    low, middle, high = (margin(z) for z in (-0.124, -0.024, 0.176))
    assert low > middle > high
    report = evaluate(whimbrel)
    n, cg = report.value("stability.neutral_point_fraction"), report.value("balance.cg_fraction")
    under = (report.value("balance.cg_z") - report.results.shape.reference.z) / report.value("wing.mac")
    assert under < -0.2, "a high wing"
    c_l = report.results.balance
    blades = report.value("stability.propeller_shift")
    assert report.value("stability.static_margin") - (n - blades - cg) == pytest.approx(
        -under
        * (
            math.tan(attitude(report))
            + lift_in_cruise(report) * (1 / report.value("stability.cl_alpha") - 2 * c_l.height.induced)
        ),
        rel=1e-9,
    )


def terms(report):
    return {term.symbol: term.value for term in report.figures["stability.neutral_in_flight"].working.terms}


def attitude(report):
    return terms(report)["a"]


def lift_in_cruise(report):
    return terms(report)["C_L"]


def test_the_angle_it_is_turned_by_is_that_of_cruise(whimbrel):
    report = evaluate(whimbrel)
    # Neutral elevator and a first guess of the lift limit: within a degree and a half of the trim.
    assert attitude(report) == pytest.approx(report.value("trim.alpha"), abs=math.radians(1.5))


def test_wing_and_tail_set_steeper_fly_the_body_nose_down_and_cost_margin_speed_and_trim(whimbrel):
    plain, steep = evaluate(whimbrel), evaluate(set_at(whimbrel, TWENTY))
    # The canted panels of a V-tail take a little less than the whole of its incidence.
    assert attitude(steep) == pytest.approx(attitude(plain) - TWENTY, abs=math.radians(1))

    # Nose down, the weight under a high wing hangs further aft to the air.
    def hangs(report):
        return terms(report)["z"] * math.tan(attitude(report)) + report.value("balance.cg_fraction")

    lost = plain.value("stability.static_margin") - steep.value("stability.static_margin")
    # What is built into the wing turns with it, and so the balance point a little.
    assert lost == pytest.approx(hangs(steep) - hangs(plain), rel=0.03)
    assert lost > 0.05
    assert steep.value("speed.max") < 0.97 * plain.value("speed.max")
    assert steep.value("trim.alpha") == pytest.approx(plain.value("trim.alpha") - TWENTY, abs=math.radians(4))
    assert abs(steep.value("trim.elevator") - plain.value("trim.elevator")) > math.radians(1)
    assert steep.value("stability.neutral_point_fraction") == pytest.approx(
        plain.value("stability.neutral_point_fraction"), abs=0.01
    )


def test_a_low_wing_gains_what_a_high_one_loses(whimbrel):
    low = put(whimbrel, "surfaces[0].z", -0.10)
    plain, steep = evaluate(low), evaluate(set_at(low, TWENTY))
    assert terms(plain)["z"] > 0.1
    assert steep.value("stability.static_margin") > plain.value("stability.static_margin") + 0.03


def test_trim_turns_the_balance_point_to_its_own_angle(whimbrel):
    report = evaluate(whimbrel)
    model, shift = report.results.lattice, report.results.stability.body_shift
    height = Height(-0.4, 0.02, 0.06)
    for c_l in (0.2, 0.5, 0.9):
        found = trim(model, c_l, 0.33, shift, height)
        # The same as trimming about the place it has turned to, and a couple to hold besides.
        along = 0.25 + float(arm(0.33, height, found.alpha))
        assert along < 0.33 if found.alpha > 0 else along > 0.33
        flat = trim(model, c_l, along, shift)
        gained = -float(drag_couple(height, c_l)) / (
            model.pitch_control.pitch
            + (along - 0.25) * model.pitch_control.lift
            - model.pitch_control.lift
            * (model.found.alpha.pitch + (along - 0.25 + shift) * model.found.alpha.lift)
            / model.found.alpha.lift
        )
        assert found.control - flat.control == pytest.approx(gained, rel=1e-6)
    assert float(drag_couple(height, 0.5)) == pytest.approx(0.4 * (0.02 + 0.06 * 0.25)), "drag over it: nose up"


def test_the_stall_is_held_with_the_weight_where_it_hangs_then(whimbrel):
    low = put(whimbrel, "parts[0].z", -0.15)
    near, far = evaluate(whimbrel), evaluate(low)
    # Further ahead at the stall, by the nose's angle: more load on the tail, a little less lift.
    assert far.value("wing.cl_max") < near.value("wing.cl_max")
    assert far.value("wing.cl_max") > 0.9 * near.value("wing.cl_max")


def test_every_angle_up_to_45_degrees_gives_finite_figures(whimbrel):
    for degrees in (-45, -30, 30, 42.9):
        report = evaluate(set_at(put(whimbrel, "surfaces[0].incidence", 0.0), math.radians(degrees)))
        assert all(f.value is None or np.isfinite(f.value) for f in report.figures.values())
        assert any(f.key == "trim.incidence" for f in report.findings)
