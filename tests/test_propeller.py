"""Propellers: blade elements against the momentum limit, the published ranges, and tables that replace them."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from ridgeline.design.power import Advance, Propeller
from ridgeline.engine.power.blade_element import HUB, coefficients_over
from ridgeline.engine.power.held_thrust import turns_for_thrust
from ridgeline.engine.power.prop_families import FAMILIES
from ridgeline.engine.power.propeller import PITCH_RATIOS, in_range, law_of
from ridgeline.engine.power.propeller_loads import actuator_disc_thrust, shaft_power, thrust

AIR, INCH = 1.225, 0.0254


def prop(family="thin_electric", diameter_in=9.0, ratio=0.6, blades=2, **more):
    d = diameter_in * INCH
    return Propeller(name="x", family=family, diameter=d, pitch=ratio * d, blades=blades, mass=0.01, **more)


def merit(law):
    return math.sqrt(2 / math.pi) * law.static_thrust**1.5 / law.static_power


def efficiency(law):
    j = np.linspace(0.01, law.j_zero * 0.999, 400)
    c_t, c_p = law.at(j)
    return float((j * c_t / c_p).max())


props = st.builds(
    prop,
    family=st.sampled_from([*FAMILIES, "ducted_fan"]),
    diameter_in=st.floats(2, 18),
    ratio=st.floats(0.2, 1.3),
    blades=st.integers(2, 4),
)


@settings(max_examples=40)
@given(props, st.floats(0.0, 0.99))
def test_no_family_beats_the_momentum_limit_at_any_size_or_advance(p, share):
    # Ideal power of a disc: P ≥ T [V/2 + √(V²/4 + T/(2ρA))]; in a duct that neither opens nor narrows T/(4ρA).
    law, d, n = law_of(p), p.diameter, 120.0
    v = share * law.j_zero * n * d
    pull = float(thrust(law, d, n, v, AIR))
    power = float(shaft_power(law, d, n, v, AIR))
    ducted = p.family == "ducted_fan"
    wake = pull / ((4 if ducted else 2) * AIR * math.pi * d**2 / 4)
    assert power >= pull * (v / 2 + math.sqrt(v * v / 4 + wake)) * (1 - 1e-9)
    if share == 0:
        assert pull <= actuator_disc_thrust(power, d, AIR, ducted)


@pytest.mark.parametrize("blades", [2, 60])
def test_towards_no_solidity_the_blades_reach_the_momentum_limit(blades):
    # Lightly loaded blades without drag at J near zero thrust lose nothing but their swirl and tips: η → 1.
    j = np.array([0.75])
    family = FAMILIES["thin_electric"]
    etas = []
    for chords in (1.0, 0.1, 0.01):
        c_t, c_p = coefficients_over(
            j,
            family=family,
            diameter=0.25,
            pitch_ratio=0.8,
            blades=blades,
            chord_factor=chords * 2 / blades,
            inviscid=True,
        )
        etas.append(float(j[0] * c_t[0] / c_p[0]))
    assert etas == sorted(etas) and etas[-1] == pytest.approx(1.0, abs=0.02) and etas[-1] < 1.0


def test_many_inviscid_blades_standing_come_near_the_ideal_disc():
    c_t, c_p = coefficients_over(
        np.zeros(1),
        family=FAMILIES["wide"],
        diameter=0.25,
        pitch_ratio=0.4,
        blades=40,
        chord_factor=0.05,
        inviscid=True,
    )
    found = math.sqrt(2 / math.pi) * c_t[0] ** 1.5 / c_p[0]
    assert 0.80 < found < 1.0 and HUB < 0.2


@pytest.mark.parametrize("diameter", [8, 9, 10, 11])
def test_static_coefficients_lie_in_the_published_ranges(diameter):
    # Published wind-tunnel tests of two-blade propellers, 8–11 in, 4–7 krpm (handbook of the trade §8).
    assert 0.085 <= law_of(prop("thin_electric", diameter, 0.5)).static_thrust <= 0.11
    assert 0.11 <= law_of(prop("slow_fly", diameter, 0.45)).static_thrust <= 0.13
    for family in ("thin_electric", "slow_fly", "wood", "folding"):
        for ratio in (0.4, 0.5, 0.6, 0.7):
            assert 0.55 <= merit(law_of(prop(family, diameter, ratio))) <= 0.72
        assert 0.4 <= merit(law_of(prop(family, diameter, 1.0))) <= 0.50


@pytest.mark.parametrize("ratio", [0.4, 0.45, 0.5, 0.6, 0.7])
@pytest.mark.parametrize("family", ["thin_electric", "wood", "folding"])
def test_peak_efficiency_and_zero_thrust_lie_in_the_published_ranges(family, ratio):
    law = law_of(prop(family, 9.0, ratio))
    assert 0.5 <= efficiency(law) <= 0.72
    assert 1.15 <= law.j_zero / ratio <= 1.35
    assert float(law.at(law.j_zero)[0]) == pytest.approx(0.0, abs=1e-9)


def test_peak_efficiency_rises_with_pitch_to_about_four_fifths():
    etas = [efficiency(law_of(prop(ratio=r))) for r in (0.4, 0.6, 0.8, 1.0)]
    assert etas == sorted(etas) and etas[-1] == pytest.approx(0.78, abs=0.04)


def test_small_propellers_are_worse_and_more_blades_pull_more():
    merits = [merit(law_of(prop(diameter_in=d))) for d in (2, 4, 6, 9, 14)]
    assert merits == sorted(merits) and merits[0] < 0.56
    pulls = [law_of(prop("wide", 6, blades=b)).static_thrust for b in (2, 3, 4)]
    assert pulls == sorted(pulls) and pulls[2] < 2 * pulls[0]


@settings(max_examples=40)
@given(props)
def test_a_law_is_continuous_and_brakes_past_zero_thrust(p):
    law = law_of(p)
    edges = law.knots[1:]
    for below, above in zip(law.at(edges * (1 - 1e-9)), law.at(edges * (1 + 1e-9)), strict=True):
        assert below == pytest.approx(above, abs=1e-6)
    c_t, _c_p = law.at(np.array([1.1, 1.5, 3.0, 30.0]) * law.j_zero)
    assert (c_t < 0).all()
    far = law.at(np.array([10.0, 20.0]) * law.j_zero)[0]
    assert far[1] == pytest.approx(4 * far[0])


@settings(max_examples=40)
@given(props, st.floats(0.1, 30.0), st.floats(0.0, 30.0))
def test_the_turns_for_a_thrust_give_that_thrust(p, wanted, v):
    law = law_of(p)
    n = float(turns_for_thrust(law, p.diameter, wanted, v, AIR))
    assert n > 0 and float(thrust(law, p.diameter, n, v, AIR)) == pytest.approx(wanted, rel=1e-9)


def rows(law, upto, count=12):
    j = np.linspace(0, upto, count)
    c_t, c_p = law.at(j)
    return tuple(Advance(advance=a, thrust=b, power=c) for a, b, c in zip(j, c_t, c_p, strict=True))


def test_a_table_replaces_the_family_and_says_how_far_it_reaches():
    family = law_of(prop())
    table = law_of(prop("slow_fly", table=rows(family, 0.9 * family.j_zero)))
    j = np.linspace(0, 0.9 * family.j_zero, 12)
    assert table.at(j)[0] == pytest.approx(family.at(j)[0], abs=1e-12)
    assert table.valid_to == pytest.approx(0.9 * family.j_zero) and table.sigma_thrust < family.sigma_thrust
    assert table.j_zero == pytest.approx(family.j_zero, rel=0.05)


@pytest.mark.parametrize(
    "table",
    [
        [(0, 0.1, 0.05), (0.3, 0.08, 0.05)],
        [(0.3, 0.1, 0.05), (0.4, 0.08, 0.05), (0.5, 0.05, 0.04)],
        [(0, 0.1, 0.05), (0.3, 0.08, 0.05), (0.3, 0.05, 0.04)],
        [(0, -0.1, 0.05), (0.3, 0.08, 0.05), (0.5, 0.05, 0.04)],
    ],
)
def test_a_table_that_cannot_be_one_is_refused(table):
    with pytest.raises(ValidationError):
        prop(table=tuple(Advance(advance=a, thrust=b, power=c) for a, b, c in table))


def test_measured_factors_scale_the_law_and_bring_their_own_band():
    base, fitted = law_of(prop()), law_of(prop(thrust_factor=0.9, power_factor=1.1, factor_sigma=0.01))
    assert fitted.static_thrust == pytest.approx(0.9 * base.static_thrust)
    assert fitted.static_power == pytest.approx(1.1 * base.static_power)
    assert fitted.sigma_thrust == 0.01 and fitted.j_zero == base.j_zero


def test_out_of_the_range_of_its_family_the_law_is_held_and_said():
    steep = prop(ratio=1.3)
    assert not in_range(steep)
    assert law_of(steep).static_thrust == law_of(prop(ratio=PITCH_RATIOS[1])).static_thrust


def test_a_fan_in_its_duct_loses_thrust_in_a_straight_line():
    fan = prop("ducted_fan", 2.75, 1.0)
    law = law_of(fan)
    c_t = law.at(np.array([0.0, 0.5, 1.0]) * law.j_zero)[0]
    assert c_t[1] == pytest.approx(c_t[0] / 2) and c_t[2] == pytest.approx(0, abs=1e-12)
    assert law.j_zero == pytest.approx(1.0)


@pytest.mark.parametrize("name", sorted(FAMILIES))
def test_the_piece_an_advance_lies_on_is_found_by_its_knots(name):
    law = law_of(Propeller(name="P", mass=0.01, diameter=0.23, pitch=0.13, family=name))
    j = np.concatenate([np.linspace(0.0, 1.5 * law.knots[-1], 997)[1:], [np.inf]])
    inside = np.abs(j[:, None] - law.knots).min(axis=1) > 1e-9
    assert np.array_equal(law.piece(j)[inside], np.searchsorted(law.knots[1:], j[inside], side="left"))
