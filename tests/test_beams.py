"""Beams against closed forms: loads at places and spread, bend, props; and the load factors of the cases."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.engine.structure.beam import Carried, Force, bent, carried, prop, strain_energy
from ridgeline.engine.structure.cases import (
    gust_bears,
    gust_factor,
    landing_factor,
    powered_dive,
    pull_factor,
    swing_factor,
    unpowered_dive,
)

L, W, EI = 0.6, 25.0, 6.0
#: Closer towards the tip, as the strips of a lattice are.
Y = L * np.sin(np.linspace(0, np.pi / 2, 81))


def stiff(value=EI):
    return np.full_like(Y, value)


def test_a_force_at_the_tip_bends_a_cantilever_by_a_third_of_its_cube():
    load = carried(Y, np.zeros_like(Y), [Force(L, 8.0)])
    assert load.moment[0] == pytest.approx(8.0 * L) and load.shear[:-1] == pytest.approx(8.0)
    bend = bent(Y, load, stiff())
    assert bend.deflection[-1] == pytest.approx(8.0 * L**3 / (3 * EI), rel=1e-12)
    assert bend.slope[-1] == pytest.approx(8.0 * L**2 / (2 * EI), rel=1e-12)


def test_an_even_load_has_a_moment_of_a_half_and_a_bend_of_an_eighth():
    load = carried(Y, np.full_like(Y, W))
    assert load.moment == pytest.approx(0.5 * W * (L - Y) ** 2, abs=1e-12)
    assert load.shear == pytest.approx(W * (L - Y), abs=1e-12)
    assert bent(Y, load, stiff()).deflection[-1] == pytest.approx(W * L**4 / (8 * EI), rel=1e-3)


def test_an_elliptic_load_acts_at_four_thirds_pi_of_the_half_span():
    """L' = w₀ √(1 − (y/L)²) comes to π w₀ L/4, its middle 4 L/3π out."""
    load = carried(Y, W * np.sqrt(1 - (Y / L) ** 2))
    assert load.shear[0] == pytest.approx(math.pi / 4 * W * L, rel=1e-3)
    assert load.moment[0] == pytest.approx(W * L**2 / 3, rel=1e-3)
    # Tip: ∫ w(s) (s² (3 L − s))/(6 E I) ds = w₀ L⁴/(6 E I) · (3 π/16 − 2/15).
    tip = W * L**4 / (6 * EI) * (3 * math.pi / 16 - 2 / 15)
    assert bent(Y, load, stiff()).deflection[-1] == pytest.approx(tip, rel=1e-3)


def test_a_tapering_beam_agrees_with_itself_refined_without_end():
    """Richardson's extrapolation over three grids of a beam that gets thinner by the cube."""

    def tip(count):
        y = np.linspace(0, L, count + 1)
        load = carried(y, np.full_like(y, W))
        return bent(y, load, EI * (1 - 0.6 * y / L) ** 3).deflection[-1]

    coarse, middle, fine = tip(40), tip(80), tip(160)
    endless = fine + (fine - middle) / 3
    assert coarse == pytest.approx(endless, rel=1e-3)
    assert (coarse - middle) / (middle - fine) == pytest.approx(4.0, rel=0.02)


def test_shear_adds_the_root_moment_over_its_stiffness():
    load = carried(Y, np.full_like(Y, W))
    plain, soft = bent(Y, load, stiff()), bent(Y, load, stiff(), np.full_like(Y, 400.0))
    assert soft.deflection[-1] - plain.deflection[-1] == pytest.approx(load.moment[0] / 400.0, rel=1e-6)
    assert soft.slope == pytest.approx(plain.slope)


def test_a_root_that_turns_lifts_the_tip_by_its_arm():
    load = carried(Y, np.full_like(Y, W))
    turned = bent(Y, load, stiff(), root=0.02).deflection - bent(Y, load, stiff()).deflection
    assert turned == pytest.approx(0.02 * Y)


def test_no_load_no_moment_and_no_bend():
    load = carried(Y, np.zeros_like(Y))
    assert not load.shear.any() and not load.moment.any() and not bent(Y, load, stiff()).deflection.any()


def test_a_stiff_prop_at_the_tip_bears_three_eighths():
    load = carried(Y, np.full_like(Y, W))
    held = prop(Y, load, stiff(), L, math.inf)
    assert held == pytest.approx(3 / 8 * W * L, rel=1e-3)
    left = carried(Y, np.full_like(Y, W), [Force(L, -held)])
    assert bent(Y, left, stiff()).deflection[-1] == pytest.approx(0.0, abs=1e-9)


@given(st.floats(0.2, 1.0), st.floats(10.0, 1e5))
def test_a_spring_gives_by_what_it_bears(place, spring):
    y = np.union1d(Y, [place * L])
    stiffness = EI * (1 - 0.5 * y / L)
    load = carried(y, np.full_like(y, W))
    held = prop(y, load, stiffness, place * L, spring)
    left = carried(y, np.full_like(y, W), [Force(place * L, -held)])
    gives = np.interp(place * L, y, bent(y, left, stiffness).deflection)
    assert gives == pytest.approx(held / spring, rel=1e-6) and held > 0


@pytest.mark.parametrize("place", [0.0, 1.01 * L])
def test_a_prop_stands_on_the_beam(place):
    with pytest.raises(ValueError, match="root and tip"):
        prop(Y, carried(Y, np.full_like(Y, W)), stiff(), place, 1e3)


@given(st.lists(st.floats(-40, 40), min_size=4, max_size=4), st.floats(0.3, 30.0))
def test_the_energy_of_the_bend_is_the_work_of_the_load(terms, stiffness):
    y = np.linspace(0, L, 801)
    spread = np.polynomial.polynomial.polyval(y / L, terms)
    load, along = carried(y, spread), stiffness * (1 - 0.7 * y / L)
    work = 0.5 * float(np.trapezoid(spread * bent(y, load, along).deflection, y))
    assert strain_energy(y, load, along) == pytest.approx(work, rel=1e-3, abs=1e-6)


@given(st.floats(0.0, L), st.floats(-50, 50))
def test_loads_add_up(place, force):
    even, single = carried(Y, np.full_like(Y, W)), carried(Y, np.zeros_like(Y), [Force(place, force)])
    both = carried(Y, np.full_like(Y, W), [Force(place, force)])
    assert both.moment == pytest.approx(even.moment + single.moment)
    assert both.shear == pytest.approx(even.shear + single.shear)
    assert isinstance(both, Carried)


def test_the_cases_are_those_of_the_handbook():
    assert landing_factor(1.0, 0.020, 1.0) == pytest.approx(3.55, abs=0.005)
    assert landing_factor(1.0, 0.020, 0.5) == pytest.approx(7.10, abs=0.01)
    assert pull_factor(21.2, 7.9) == pytest.approx(7.2, abs=0.01)
    assert swing_factor(12.0, 1.0) == pytest.approx(144 / (9.80665 * 1.1))
    assert powered_dive(20.0) == pytest.approx(28.0)
    # A glider of 3 kg/m² and C_D 0.02: √(2·3·9.80665·0.5/(1.225·0.02)); one too clean is held at 2.5 best glides.
    assert unpowered_dive(3.0, 0.02, 20.0, 1.225) == pytest.approx(34.65, abs=0.01)
    assert unpowered_dive(3.0, 0.02, 9.0, 1.225) == pytest.approx(22.5)


def test_a_gust_lifts_by_the_textbook_and_by_no_more_than_the_wing_can():
    """3 kg/m², slope 4.5, chord 0.2 m, 3 m/s at 12 m/s: μ 5.442, K_g 0.4458, Δn 1.50."""
    added = gust_factor(12.0, 3.0, 4.5, 3.0, 0.2, 1.225)
    heavy = 2 * 3.0 / (1.225 * 0.2 * 4.5)
    assert added == pytest.approx(0.88 * heavy / (5.3 + heavy) * 1.225 * 3 * 12 * 4.5 / (2 * 9.80665 * 3.0))
    assert added == pytest.approx(1.504, abs=0.002)
    assert gust_bears(12.0, 7.0, added) == pytest.approx(1 + added)
    assert gust_bears(9.0, 7.0, added) == pytest.approx((9 / 7) ** 2)
