"""Cross-sections and joints against closed forms and the handbook's own numbers."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.engine.structure.beam import Force, bent, carried
from ridgeline.engine.structure.joints import (
    band_hold,
    boom_keeps,
    edge_crush,
    hold_down_needed,
    leg_energy,
    magnet_hold,
    sink_that_bends,
    socket_bearing,
    wire_stress,
)
from ridgeline.engine.structure.sections import (
    FACED,
    allowed,
    caps,
    closed_torsion,
    open_torsion,
    plate_torsion,
    skin_buckling,
    strip,
    tube,
    wrinkling,
)
from ridgeline.engine.structure.skins import skins_of
from ridgeline.files.design_file import load
from ridgeline.library import shipped_shelf

sizes = st.floats(1e-3, 0.03)


def test_a_tube_of_6_by_4_bears_2_4_newton_metres_where_143_megapascals_are_allowed():
    """W = π (6⁴ − 4⁴)/(32·6) = 17.0 mm³."""
    found = tube(0.006, 0.004)
    assert found.modulus == pytest.approx(17.02e-9, rel=1e-3)
    assert found.modulus * 143e6 == pytest.approx(2.43, abs=0.01)
    assert tube(0.004) == pytest.approx((math.pi * 4e-6, math.pi * 256e-12 / 64, math.pi * 64e-9 / 32))


@given(sizes, st.floats(0.1, 0.95))
def test_a_tube_is_a_rod_less_the_rod_inside(outer, share):
    inner = share * outer
    assert tube(outer, inner).second == pytest.approx(tube(outer).second - tube(inner).second)
    assert tube(outer, inner).area == pytest.approx(tube(outer).area - tube(inner).area)


@given(sizes, sizes, st.floats(0.2, 3.0))
def test_sections_grow_with_their_size(width, height, size):
    small, large = strip(width, height), strip(size * width, size * height)
    assert large == pytest.approx((size**2 * small.area, size**4 * small.second, size**3 * small.modulus))


def test_two_caps_are_a_strip_with_its_middle_cut_out_where_they_are_thin():
    whole, hole = strip(0.01, 0.0202), strip(0.01, 0.0198)
    found = caps(0.01 * 0.0002, 0.02, 0.0002)
    assert found.second == pytest.approx(whole.second - hole.second, rel=1e-4)
    assert found.modulus == pytest.approx(found.second / 0.0101)


def test_stock_that_breaks_is_held_at_ultimate_and_metal_at_its_yield():
    assert allowed(600e6, brittle=True) == pytest.approx(400e6)
    # A tube's own strength is told as it is held: two thirds of a rod's.
    tubes = [m for m in shipped_shelf().materials if m.inner > 0 and not m.yields]
    assert tubes and all(allowed(m.strength, brittle=True) == pytest.approx(600e6 / 2.25) for m in tubes)
    assert allowed(240e6, brittle=False) == 240e6


def test_a_faced_sheet_is_the_sum_of_its_three_layers():
    """Paper 0.09 mm of 3 GPa on 4.8 mm of 9 MPa: the sum of the layers, within what core and thickness add."""
    facing, core, t, c = 3e9, 9e6, 0.09e-3, 4.82e-3
    exact = core * c**3 / 12 + 2 * facing * (t**3 / 12 + t * (0.5 * (c + t)) ** 2)
    plate = load("demo:whimbrel").surfaces[1]
    chord = np.array([0.1, 0.2])
    skins = skins_of(plate.model_copy(update={"controls": ()}), np.array([0.0, 0.1]), chord)
    assert skins.bending == pytest.approx(exact * chord, rel=0.04) and plate.sheet == pytest.approx(c + 2 * t)
    # The trade's simple form, and what one paper and none leave of it.
    assert facing * t * (c + t) ** 2 / 2 == pytest.approx(exact, rel=0.04) and FACED == (0.03, 0.10, 1.0)


def test_paper_wrinkles_at_about_23_megapascals():
    assert wrinkling(3e9, 9e6, 3.5e6) == pytest.approx(22.8e6, abs=0.3e6)
    assert wrinkling(4e9, 10e6, 4e6) < 27.5e6 and wrinkling(2e9, 8e6, 3e6) > 18e6
    assert skin_buckling(3e9, 0.8e-3, 0.04) == pytest.approx(4.32e6)


def test_a_closed_shell_twists_as_bredt_says():
    round_about = np.linspace(0, 2 * np.pi, 721)[:-1]
    ring = 0.01 * np.column_stack([np.cos(round_about), np.sin(round_about)])
    assert closed_torsion(ring, 1.2e9 * 4e-4) == pytest.approx(2 * math.pi * 0.01**3 * 1.2e9 * 4e-4, rel=1e-4)
    box = np.array([[0, 0], [0.1, 0], [0.1, 0.02], [0, 0.02]])
    walls = np.array([2e5, 1e5, 2e5, 1e5])
    exact = 4 * (0.1 * 0.02) ** 2 / (0.1 / 2e5 + 0.02 / 1e5 + 0.1 / 2e5 + 0.02 / 1e5)
    assert closed_torsion(box, walls) == pytest.approx(exact)
    assert closed_torsion(box[::-1], 1e5) == pytest.approx(closed_torsion(box, 1e5))


def test_a_flat_sandwich_is_a_long_flat_box_and_an_open_sheet_next_to_nothing():
    flat = np.array([[0, 0], [0.2, 0], [0.2, 0.005], [0, 0.005]])
    # Bredt with the edges taken along; a plate leaves those out.
    assert plate_torsion(9e4, 0.005, 0.2) == pytest.approx(closed_torsion(flat, 9e4), rel=0.03)
    assert open_torsion(3.5e6, 0.2, 0.005) < 0.05 * plate_torsion(9e4, 0.005, 0.2)


def test_a_dowel_crushes_the_edge_and_a_stick_along_it_does_not():
    assert edge_crush(40, 0.006, 0.005) == pytest.approx(0.67e6, abs=0.01e6)
    assert edge_crush(40, 0.050, 0.005) == pytest.approx(0.08e6, abs=0.001e6)


def test_eight_strands_hold_32_newton():
    assert band_hold(8, 3.5, math.radians(35)) == pytest.approx(32.1, abs=0.1)
    assert hold_down_needed(4, 0.742, 0.2) == pytest.approx(31.9, abs=0.1)


def test_a_magnet_holds_three_tenths_and_across_half_a_millimetre_a_quarter_of_that():
    assert magnet_hold(20.0) == pytest.approx(6.0)
    assert magnet_hold(20.0, 0.0005) == pytest.approx(1.5)


def test_a_socket_bears_by_its_depth_squared():
    assert socket_bearing(0.5, 0.0, 0.05, 0.006) == pytest.approx(6 * 0.5 / 0.05**2 / 0.006)
    assert socket_bearing(0.0, 10.0, 0.05, 0.006) == pytest.approx(40 / 0.05 / 0.006)
    assert socket_bearing(0.5, 10.0, 0.1, 0.006) < 0.5 * socket_bearing(0.5, 10.0, 0.05, 0.006)


def test_a_leg_takes_up_the_work_of_the_force_that_bends_it():
    long, d, modulus, force = 0.1, 0.003, 200e9, 30.0
    y = np.linspace(0, long, 401)
    load = carried(y, np.zeros_like(y), [Force(long, force)])
    tip = bent(y, load, np.full_like(y, modulus * tube(d).second)).deflection[-1]
    stress = wire_stress(force, long, d)
    assert stress == pytest.approx(force * long / tube(d).modulus)
    assert leg_energy(stress, tube(d).area * long, modulus) == pytest.approx(0.5 * force * tip, rel=1e-4)
    sink = sink_that_bends(stress, tube(d).area * long, modulus, 0.8)
    assert 0.5 * 0.8 * sink**2 == pytest.approx(0.5 * force * tip, rel=1e-4)


def test_a_boom_that_bends_loses_elevator_by_the_slope_at_its_end():
    """Turned by α at the root, the tail stands at α − P L²/(2 E I), P its own lift: what is left is the closed form."""
    q, area, slope, long, stiffness = 200.0, 0.03, 3.5, 0.6, 20.0
    kept = boom_keeps(q, area, slope, long, stiffness)
    lift = q * area * slope * kept
    assert kept == pytest.approx(1 - lift * long**2 / (2 * stiffness))
    assert boom_keeps(q, area, slope, long, math.inf) == 1.0
