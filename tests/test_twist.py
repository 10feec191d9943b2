"""A twisting wing against closed forms: divergence, reversal, ailerons, with its root held fast and on a spring."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.engine.structure.twist import Panel, swept_divergence

L, C, E, GJ, SLOPE, LIFT, MOMENT = 0.6, 0.2, 0.03, 4.0, 4.2, 1.9, -0.35


def panel(count=41, root=math.inf, torsion=GJ, behind=E, lift=LIFT, moment=MOMENT):
    y = L * np.sin(np.linspace(0, np.pi / 2, count))
    even = np.ones_like(y)
    return Panel(y, C * even, torsion * even, behind * even, SLOPE * even, lift * even, moment * even, root)


def test_an_even_cantilever_diverges_where_the_textbook_says():
    exact = (math.pi / (2 * L)) ** 2 * GJ / (C * E * SLOPE)
    assert panel().divergence == pytest.approx(exact, rel=2e-3)
    assert panel(behind=-E).divergence == math.inf


def test_a_stiff_wing_on_a_soft_root_is_the_typical_section():
    soft = panel(root=0.5, torsion=1e5)
    area = L * C
    diverges = 0.5 / (area * E * SLOPE)
    reverses = -0.5 * LIFT / (area * C * SLOPE * MOMENT)
    assert soft.divergence == pytest.approx(diverges, rel=1e-3)
    assert soft.reversal(10 * reverses) == pytest.approx(reverses, rel=1e-3)


@given(st.floats(0.5, 200.0))
def test_on_a_root_spring_it_diverges_at_the_root_of_beta_tan_beta_l(spring):
    """(β L) tan(β L) = K_θ L/(G J), β² = q c e c_lα/(G J)."""
    q = panel(root=spring).divergence
    low, high = 1e-9, math.pi / 2 - 1e-9
    for _ in range(80):
        beta = 0.5 * (low + high)
        low, high = (beta, high) if beta * math.tan(beta) < spring * L / GJ else (low, beta)
    assert q == pytest.approx((beta / L) ** 2 * GJ / (C * E * SLOPE), rel=5e-3)
    assert q < panel().divergence


@pytest.mark.parametrize("share", [0.05, 0.2, 0.5, 0.8])
def test_what_is_left_of_a_full_span_aileron_is_that_of_the_exact_twist(share):
    wing = panel()
    exact = (math.pi / (2 * L)) ** 2 * GJ / (C * E * SLOPE)
    q = share * exact
    beta = math.sqrt(q * C * E * SLOPE / GJ)
    k = q * (C * E * LIFT + C**2 * MOMENT) / GJ
    # θ = (k/β²)(cos β(L − y)/cos βL − 1); ∫ θ y dy = (k/β²)((1 − cos βL)/(β² cos βL) − L²/2).
    rolls = k / beta**2 * ((1 - math.cos(beta * L)) / (beta**2 * math.cos(beta * L)) - L**2 / 2)
    assert wing.effectiveness(q)[0] == pytest.approx(1 + SLOPE * rolls / (LIFT * L**2 / 2), abs=4e-3)
    tip = k / beta**2 * (1 / math.cos(beta * L) - 1)
    assert wing.control_twist(q)[0, -1] == pytest.approx(tip, rel=5e-3)


def test_reversal_is_where_nothing_is_left():
    wing = panel()
    q = wing.reversal(1e5)
    assert 0 < q < wing.divergence and wing.effectiveness(q)[0] == pytest.approx(0.0, abs=1e-6)
    assert wing.reversal(0.9 * q) == math.inf
    # A control that puts no moment on the section never turns round.
    assert panel(moment=0.0).reversal(1e5) == math.inf


@given(st.floats(0.2, 50.0), st.floats(1.01, 4.0))
def test_a_stiffer_wing_keeps_more(torsion, more):
    q = 0.3 * panel(torsion=torsion, behind=0.02).divergence
    soft, stiff = (panel(torsion=t, behind=0.02, moment=-0.6).effectiveness(q)[0] for t in (torsion, more * torsion))
    assert soft < stiff < 1
    assert panel(torsion=torsion).effectiveness(0.0)[0] == 1.0


def test_pressures_are_answered_all_at_once():
    q = np.linspace(0, 200, 7)
    together = panel().effectiveness(q)
    assert together == pytest.approx([panel().effectiveness(one)[0] for one in q])


def test_more_stations_change_nothing_to_speak_of():
    coarse, fine = panel(15), panel(121)
    assert coarse.divergence == pytest.approx(fine.divergence, rel=5e-3)
    assert coarse.reversal(1e5) == pytest.approx(fine.reversal(1e5), rel=5e-3)


def test_sweep_back_holds_divergence_off_and_sweep_forward_brings_it_near():
    straight = 800.0
    assert swept_divergence(straight, 0.0, 0.6, 0.03, 4.0, 20.0) == straight
    assert swept_divergence(straight, math.radians(-15), 0.6, 0.03, 4.0, 20.0) < straight
    assert swept_divergence(straight, math.radians(15), 0.6, 0.03, 4.0, 20.0) > straight
    assert swept_divergence(straight, math.radians(35), 0.6, 0.03, 4.0, 20.0) == math.inf


def diverges_by_strips(sweep, torsion, bending, count=300):
    """Solve bending and torsion together over strips: α = θ − w′ tan Λ under lift l = q cos²Λ c c_lα α."""
    s = (np.arange(count) + 0.5) * L / count
    here, there = np.meshgrid(s, s, indexing="ij")
    twists = E * np.minimum(here, there) / torsion
    bends = np.where(here <= there, there * here - here**2 / 2, there**2 / 2) / bending
    grows = np.linalg.eigvals((twists - math.tan(sweep) * bends) * (L / count))
    real = grows.real[(np.abs(grows.imag) < 1e-9 * np.abs(grows).max()) & (grows.real > 0)]
    return 1 / real.max() / (C * SLOPE * math.cos(sweep) ** 2)


@pytest.mark.parametrize("bending", [20.0, 60.0])
@pytest.mark.parametrize("degrees", [-20, -15, -10, 0, 5, 8])
def test_the_swept_form_is_that_of_strips_that_bend_and_twist(degrees, bending):
    straight = (math.pi / (2 * L)) ** 2 * GJ / (C * E * SLOPE)
    sweep = math.radians(degrees)
    exact = diverges_by_strips(sweep, GJ, bending)
    assert swept_divergence(straight, sweep, L, E, GJ, bending) == pytest.approx(exact, rel=0.02)
