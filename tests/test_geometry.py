import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.airframe import Body, BodyStation, Station, Surface
from ridgeline.engine.geometry.bodies import measure_body
from ridgeline.engine.geometry.placed import placed
from ridgeline.engine.geometry.planform import chord_at, mean_aerodynamic_chord, panel_areas, sweep_tangent
from ridgeline.engine.geometry.reference import combine_wings, tail_volumes
from ridgeline.engine.geometry.surfaces import measure_surface


def surface(*rows, **more):
    stations = tuple(Station(y=y, chord=c, x=x) for y, c, x in rows)
    return Surface(**({"name": "Wing", "role": "wing", "stations": stations} | more))


def test_straight_taper_matches_the_closed_form():
    # b 1.2 m, c 0.24 → 0.16 m: c̄ = 2/3·0.24·(1+λ+λ²)/(1+λ), ȳ = (b/6)(1+2λ)/(1+λ).
    mean = mean_aerodynamic_chord([0, 0.6], [0.24, 0.16], [0, 0.05])
    assert mean.length == pytest.approx(0.2026667, abs=1e-6)
    assert mean.y == pytest.approx(0.28, abs=1e-12)
    assert mean.x_leading_edge == pytest.approx(0.05 * 0.28 / 0.6, abs=1e-12)


def test_a_delta_has_two_thirds_of_its_root_chord():
    mean = mean_aerodynamic_chord([0, 0.5], [0.6, 1e-12], [0, 0.6])
    assert mean.length == pytest.approx(0.4)
    assert mean.y == pytest.approx(0.5 / 3)
    assert mean.x_leading_edge == pytest.approx(0.2)


@given(st.lists(st.tuples(st.floats(0.02, 0.5), st.floats(0.02, 0.5), st.floats(-0.3, 0.3)), min_size=2, max_size=7))
def test_panels_integrate_as_a_fine_sum_does(rows):
    y = np.cumsum([0.0] + [r[0] for r in rows[1:]])
    c, x = np.array([r[1] for r in rows]), np.array([r[2] for r in rows])
    mean = mean_aerodynamic_chord(y, c, x)
    fine = np.unique(np.concatenate([np.linspace(a, b, 1500) for a, b in pairwise(y)]))
    cf, xf = chord_at(fine, y, c), chord_at(fine, y, x)
    area = np.trapezoid(cf, fine)
    assert mean.length == pytest.approx(np.trapezoid(cf * cf, fine) / area, rel=1e-5)
    assert mean.y == pytest.approx(np.trapezoid(cf * fine, fine) / area, rel=1e-5, abs=1e-9)
    assert mean.x_leading_edge == pytest.approx(np.trapezoid(cf * xf, fine) / area, rel=1e-4, abs=1e-6)


def test_an_extra_station_on_a_straight_line_changes_nothing():
    plain = mean_aerodynamic_chord([0, 0.6], [0.24, 0.16], [0, 0.06])
    split = mean_aerodynamic_chord([0, 0.15, 0.6], [0.24, 0.22, 0.16], [0, 0.015, 0.06])
    assert split == pytest.approx(plain)


@pytest.mark.parametrize("y", [[0, 0], [0.2, 0.1]])
def test_stations_out_of_order_are_refused(y):
    with pytest.raises(ValueError, match="increase"):
        mean_aerodynamic_chord(y, [0.2, 0.1], [0, 0])


def test_area_span_and_aspect_ratio_of_the_demo_wing(whimbrel):
    wing = measure_surface(whimbrel.surfaces[0])
    assert wing.area == pytest.approx(2 * (0.34 * 0.218 + 0.30 * 0.5 * (0.218 + 0.141)))
    assert wing.aspect_ratio == pytest.approx(1.28**2 / wing.area)
    assert wing.true_area > wing.area
    assert panel_areas([0, 0.34], [0.218, 0.218]).sum() == pytest.approx(0.34 * 0.218)


def test_quarter_chord_sweep_of_one_panel():
    assert sweep_tangent([0, 0.5], [0.3, 0.1], [0, 0.2], 0.25) == pytest.approx((0.225 - 0.075) / 0.5)


def test_a_v_tail_counts_by_the_squares_of_its_angle():
    flat = measure_surface(surface((0, 0.1, 0), (0.3, 0.1, 0)))
    tail = measure_surface(surface((0, 0.1, 0), (0.3, 0.1, 0), role="v_tail", cant=math.radians(35)))
    assert tail.area_h == pytest.approx(flat.area * math.cos(math.radians(35)) ** 2)
    assert tail.area_h + tail.area_v == pytest.approx(flat.area)


def test_turning_a_panel_up_keeps_its_length():
    panel = surface((0, 0.1, 0), (0.3, 0.1, 0), cant=math.radians(35), x=0.8, z=0.02)
    root, tip = placed(panel).leading
    assert np.linalg.norm(tip - root) == pytest.approx(0.3)
    assert tip[1] == pytest.approx(0.3 * math.cos(math.radians(35)))


def test_polyhedral_counts_most_where_it_is_far_out():
    outer = surface((0, 0.2, 0), (0.3, 0.2, 0), (0.6, 0.2, 0))
    bent = outer.model_copy(
        update={
            "stations": tuple(s.model_copy(update={"z": max(0.0, s.y - 0.3) * math.tan(0.2)}) for s in outer.stations)
        }
    )
    assert measure_surface(bent).dihedral == pytest.approx(0.75 * 0.2, rel=1e-3)


def volumes(*others):
    wing = measure_surface(surface((0, 0.2, 0), (0.5, 0.2, 0)))
    reference = combine_wings([wing], [0.0])
    return tail_volumes(reference, [wing, *(measure_surface(s) for s in others)], 0.05)


def test_tail_volume_matches_its_definition_and_twin_fins_add():
    tail = surface((0, 0.1, 0), (0.2, 0.1, 0), name="Stab", role="stabiliser", x=0.6)
    fin = surface((0, 0.1, 0), (0.15, 0.1, 0), name="Fin", role="fin", x=0.6, cant=math.pi / 2, mirrored=False)
    one = volumes(tail, fin)
    assert one.horizontal == pytest.approx(0.04 * 0.575 / (0.2 * 0.2))
    assert one.vertical == pytest.approx(0.015 * 0.575 / (0.2 * 1.0))
    assert volumes(tail, fin, fin).vertical == pytest.approx(2 * one.vertical)


def test_a_fin_ahead_of_the_wing_counts_against():
    fin = surface((0, 0.1, 0), (0.15, 0.1, 0), name="Fin", role="fin", x=-0.4, cant=math.pi / 2, mirrored=False)
    assert volumes(fin).vertical < 0
    assert volumes(fin).horizontal is None


def test_a_foreplane_gives_its_volume_by_the_same_arithmetic():
    plane = surface((0, 0.1, 0), (0.2, 0.1, 0), name="Foreplane", role="foreplane", x=-0.5)
    found = volumes(plane)
    assert found.foreplane and found.horizontal == pytest.approx(0.04 * 0.525 / 0.04)


def test_two_wings_are_referred_to_their_area_weighted_mean():
    lower, upper = (
        measure_surface(surface((0, 0.2, 0), (0.5, 0.2, 0))),
        measure_surface(surface((0, 0.1, 0), (0.5, 0.1, 0))),
    )
    both = combine_wings([lower, upper], [0.0, 0.05])
    assert both.area == pytest.approx(0.3)
    assert both.mac == pytest.approx((0.2 * 0.2 + 0.1 * 0.1) / 0.3)
    assert both.mac_x_le == pytest.approx(0.1 * 0.05 / 0.3)


def test_bodies_measure_as_boxes_and_cylinders():
    box = Body(
        name="Box", stations=(BodyStation(x=0, width=0.1, height=0.1), BodyStation(x=0.5, width=0.1, height=0.1))
    )
    tube = box.model_copy(update={"rounding": 1.0})
    assert measure_body(box).volume == pytest.approx(0.005)
    assert measure_body(box).wetted == pytest.approx(0.2)
    assert measure_body(tube).volume == pytest.approx(math.pi * 0.05**2 * 0.5)
    assert measure_body(tube).wetted == pytest.approx(math.pi * 0.1 * 0.5)
    assert measure_body(tube.model_copy(update={"mirrored": True})).volume == pytest.approx(math.pi * 0.05**2)


def test_a_pyramid_body_has_a_third_of_its_box():
    body = Body(name="Cone", stations=(BodyStation(x=0, width=0, height=0), BodyStation(x=0.3, width=0.1, height=0.1)))
    assert measure_body(body).volume == pytest.approx(0.001)
