import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.engine.aero import neutral_point as hand
from ridgeline.engine.aero.atmosphere import GRAVITY, density, dynamic_viscosity
from ridgeline.engine.aero.drag import DragModel, drag
from ridgeline.engine.aero.flap import flap_effectiveness, flap_lift_arm
from ridgeline.engine.aero.sections import FORMS, drag_coefficient, lift_limit, section, thin_airfoil
from ridgeline.engine.aero.stall import airframe_cl_max, stall_speed


@pytest.mark.parametrize(
    ("elevation", "temperature", "value"),
    # ISO 2533 tables at the standard temperature of each height.
    [(0, 15.0, 1.2250), (1000, 8.5, 1.1117), (2000, 2.0, 1.0066), (3000, -4.5, 0.9093)],
)
def test_density_matches_the_standard_atmosphere(elevation, temperature, value):
    assert density(elevation, temperature) == pytest.approx(value, abs=2e-4)


def test_hot_air_is_thinner_and_stickier():
    assert density(0, 35) < density(0, 15)
    assert dynamic_viscosity(15) == pytest.approx(1.789e-5, rel=2e-3)
    assert dynamic_viscosity(35) > dynamic_viscosity(15)


def test_lift_slope_limits_are_the_flat_plate_and_the_slender_wing():
    assert hand.lift_slope(1e6) == pytest.approx(2 * math.pi, rel=1e-4)
    assert hand.lift_slope(0.01) == pytest.approx(math.pi * 0.01 / 2, rel=1e-3)


def test_lift_slope_matches_accepted_values_for_rectangular_wings():
    # Lifting-surface results for unswept rectangular wings: AR 6 about 4.26/rad, AR 4 about 3.65/rad.
    assert hand.lift_slope(6.0) == pytest.approx(4.26, rel=0.08)
    assert hand.lift_slope(4.0) == pytest.approx(3.65, rel=0.08)
    assert hand.lift_slope(6.0, math.tan(math.radians(30))) < hand.lift_slope(6.0)


def test_downwash_weakens_with_tail_height():
    low, mid, high = (hand.downwash_gradient(4.4, 6.0, h) for h in (0.0, 0.1, 0.2))
    assert low > mid > high
    assert low == pytest.approx(0.86 * 2 * 4.4 / (math.pi * 6))
    assert hand.downwash_gradient(4.4, 6.0, -0.1) == pytest.approx(mid)


def test_without_a_tail_the_neutral_point_is_the_quarter_chord():
    assert hand.hand_neutral_point(4.4, 0.0, 0.0, 0.0, 0.4) == pytest.approx((0.25, 4.4))


def test_neutral_point_of_a_worked_example():
    # a_w 4.4, a_t 3.6, S_t/S 0.2, V_H 0.5, ε′ 0.4, η 0.95: a = 4.8104, x_np = 0.25 + 0.95·0.5·3.6·0.6/4.8104.
    found = hand.hand_neutral_point(4.4, 3.6, 0.2, 0.5, 0.4, 0.95)
    assert found.lift_slope == pytest.approx(4.8104)
    assert found.fraction == pytest.approx(0.25 + 1.026 / 4.8104)


@given(st.floats(0.1, 1.2), st.floats(0.05, 0.3))
def test_a_larger_tail_moves_the_neutral_point_aft(volume, more):
    def place(v):
        return hand.hand_neutral_point(4.4, 3.6, 0.2, v, 0.4).fraction

    assert place(volume + more) > place(volume)


def test_a_body_moves_the_neutral_point_forward_by_munks_moment():
    # dM/dα = 2(k2−k1) q Vol over q S c̄ a, k2−k1 0.87 at fineness 6.
    assert hand.body_shift(0.003, 6.0, 0.25, 0.2, 4.8) == pytest.approx(2 * 0.87 * 0.003 / (0.25 * 0.2 * 4.8))
    assert hand.body_shift(0.0, 6.0, 0.25, 0.2, 4.8) == 0


def test_a_circular_arc_matches_thin_airfoil_theory():
    x = np.linspace(0, 1, 801)
    found = thin_airfoil(x, 4 * 0.05 * x * (1 - x))
    assert found.alpha_0 == pytest.approx(-2 * 0.05, rel=1e-4)
    assert found.cm_quarter == pytest.approx(-math.pi * 0.05, rel=1e-4)


@given(st.floats(0.1, 0.9), st.floats(0.005, 0.08))
def test_a_fold_matches_its_closed_form(x, h):
    theta = math.acos(1 - 2 * x)
    tau = 1 - (theta - math.sin(theta)) / math.pi
    found = thin_airfoil([0, x, 1], [0, h, 0])
    assert found.alpha_0 == pytest.approx((h / x) * (1 - tau / (1 - x)))
    assert found.cm_quarter == pytest.approx(-0.5 * math.sin(theta) * (1 - math.cos(theta)) * h / (x * (1 - x)))


def test_the_fold_of_the_trade_checks():
    found = thin_airfoil([0, 0.3, 1], [0, 0.04, 0])
    assert math.degrees(found.alpha_0) == pytest.approx(-2.43, abs=0.005)
    assert found.cm_quarter == pytest.approx(-0.052, abs=0.0005)


def test_a_reflexed_section_pitches_up_and_a_cambered_one_down():
    assert section("reflexed").cm_quarter > 0
    assert section("flat_bottom").cm_quarter < 0
    assert section("symmetrical").alpha_0 == pytest.approx(section("rounded_plate").alpha_0, abs=1e-12)


def test_lift_limit_grows_by_a_tenth_per_doubling_and_is_held():
    folded = section("folded")
    assert folded.cl_max == pytest.approx(1.05, abs=0.02)
    assert lift_limit(folded, 1e5) == pytest.approx(folded.cl_max)
    assert lift_limit(folded, 2e5) == pytest.approx(folded.cl_max + 0.1)
    assert lift_limit(folded, 1e7) == pytest.approx(folded.cl_max + 0.2)
    assert lift_limit(folded, 1e3) == pytest.approx(folded.cl_max - 0.2)


def test_section_drag_is_least_at_its_own_lift_and_falls_with_reynolds_number():
    form = section("flat_bottom")
    lift = np.linspace(-0.5, 1.2, 200)
    assert abs(lift[np.argmin(drag_coefficient(form, lift, 1e5))] - form.cl_0) < 0.01
    assert drag_coefficient(form, 0.3, 2e5) < drag_coefficient(form, 0.3, 1e5)
    assert drag_coefficient(form, form.cl_0, 1e5) == pytest.approx(form.cd_0)


@pytest.mark.parametrize("form", sorted(FORMS))
def test_every_section_draws_as_a_closed_shape_of_its_chord(form):
    points = section(form, 0.08, 0.03).outline
    assert np.isfinite(points).all()
    assert points[:, 0].min() == pytest.approx(0, abs=1e-9) and points[:, 0].max() == pytest.approx(1)
    x, z = points.T
    area = 0.5 * abs(np.dot(x, np.roll(z, 1)) - np.dot(z, np.roll(x, 1)))
    assert 0.005 < area < 0.1


def test_stall_speed_lifts_the_weight_exactly():
    speed = stall_speed(0.742, 1.225, 0.256, 0.9)
    assert 0.5 * 1.225 * speed**2 * 0.256 * 0.9 == pytest.approx(0.742 * GRAVITY)


@given(st.floats(0.1, 10), st.floats(0.05, 1.5), st.floats(0.08, 0.4))
def test_the_lift_limit_is_taken_at_the_stalls_own_reynolds_number(mass, area, chord):
    cl_max = airframe_cl_max(section("flat_bottom"), mass, 1.225, 1.79e-5, area, chord)
    reynolds = 1.225 * stall_speed(mass, 1.225, area, cl_max) * chord / 1.79e-5
    assert cl_max == pytest.approx(0.88 * lift_limit(section("flat_bottom"), reynolds), rel=0.01)


MODEL = DragModel(0.256, 6.4, 0.203, section("flat_bottom"), 0.06, 0.12, 0.15, 0.9, 0.004)


def test_drag_has_one_minimum_and_more_mass_costs_more():
    speed = np.linspace(6, 30, 300)
    curve = drag(MODEL, speed, 0.742, 1.225, 1.79e-5)
    turns = np.count_nonzero(np.diff(np.sign(np.diff(curve))))
    assert turns == 1
    assert (drag(MODEL, speed, 0.9, 1.225, 1.79e-5) > curve).all()


def test_glide_ratio_of_a_foam_camera_plane_is_of_the_trade():
    speed = np.linspace(6, 25, 100)
    ratio = 0.742 * GRAVITY / drag(MODEL, speed, 0.742, 1.225, 1.79e-5)
    assert 5 < ratio.max() < 14


def test_flap_effectiveness_and_arm_match_thin_airfoil_theory():
    # Hinge at 0.8 chord: θ = acos(−0.6), τ = 1 − (θ − sin θ)/π = 0.5498; arm = 0.64/3.4546 of the chord.
    assert flap_effectiveness(0.2) == pytest.approx(0.85 * 0.54983, rel=1e-4)
    assert flap_lift_arm(0.2) == pytest.approx(0.64 / 3.45459, rel=1e-4)
    assert flap_effectiveness(1.0) == pytest.approx(0.85)


def test_a_thicker_sheet_steps_the_mean_line_of_a_stepped_plate():
    thin, thick = section("stepped_plate", 0.05, 0.02), section("stepped_plate", 0.08, 0.04)
    assert thick.camber == pytest.approx(2 * thin.camber) and thick.alpha_0 < thin.alpha_0
    assert thick.thickness == pytest.approx(0.08) and thick.cd_0 > thin.cd_0


def test_a_folded_sheets_camber_is_half_its_depth_less_what_the_sheet_takes():
    deep, shallow = section("folded", 0.12, 0.02), section("folded", 0.08, 0.02)
    assert deep.camber - shallow.camber == pytest.approx(0.5 * 0.04, abs=2e-3)
    assert section("folded", 0.12, 0.03).camber < deep.camber


def test_curved_sheet_is_an_arc_of_its_height_over_the_sheet():
    shape = section("curved_sheet", 0.07, 0.02)
    assert shape.camber == pytest.approx(0.05, abs=1e-3)
    assert shape.alpha_0 == pytest.approx(-2 * 0.05, rel=0.02)
    assert shape.cm_quarter == pytest.approx(-math.pi * 0.05, rel=0.02)
    assert shape.cl_max == pytest.approx(1.15, abs=0.01)


@given(st.sampled_from(sorted(FORMS)), st.floats(0.02, 0.25), st.floats(0.003, 0.08))
def test_any_thickness_and_sheet_gives_finite_aerodynamics(form, thickness, sheet):
    shape = section(form, round(thickness, 4), round(sheet, 4))
    assert np.isfinite(shape.outline).all() and np.isfinite(shape.line).all()
    assert 0.5 < shape.cl_max < 1.5 and shape.cd_0 > 0.005
    assert abs(shape.alpha_0) < 0.5 and abs(shape.cm_quarter) < 1.0
    assert shape.thickness > 0


def test_a_section_from_coordinates_is_as_good_as_the_form_it_was_drawn_from():
    from ridgeline.design.airframe import Profile

    form = section("semi_symmetrical", 0.12, 0.02)
    profile = Profile(name="same", points=tuple((float(x), float(z)) for x, z in form.outline))
    read = section("profile", profile=profile)
    assert read.alpha_0 == pytest.approx(form.alpha_0, abs=1e-6)
    assert read.cl_max == pytest.approx(form.cl_max, abs=0.05)
    assert read.limit_sigma > form.limit_sigma
