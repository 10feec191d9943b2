import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.airframe import ControlSurface, Station, Surface
from ridgeline.design.paths import put
from ridgeline.engine.aero.airframe_lattice import solve_airframe
from ridgeline.engine.aero.critical import critical_section
from ridgeline.engine.aero.trim import trim
from ridgeline.engine.aero.washes import wash_of_control
from ridgeline.engine.geometry.reference import combine_wings
from ridgeline.engine.geometry.surfaces import measure_surface
from ridgeline.engine.pipeline import evaluate
from ridgeline.library import demo_names


def surface(role="wing", half=0.6, root=0.2, tip=0.2, **more):
    stations = (Station(y=0, chord=root), Station(y=half, chord=tip, x=0.25 * (root - tip)))
    return Surface(**({"name": role, "role": role, "section": "symmetrical", "stations": stations} | more))


def tail(**more):
    elevator = (ControlSurface(kind="elevator", start=0.0, end=0.25, chord_fraction=0.3),)
    return surface("stabiliser", 0.25, 0.1, 0.1, x=0.75, z=0.03, controls=elevator, **more)


def model_of(*surfaces):
    wings = [s for s in surfaces if s.role == "wing"]
    reference = combine_wings([measure_surface(s) for s in wings], [s.x for s in wings])
    return solve_airframe(surfaces, reference)


@given(st.floats(0.1, 0.9), st.floats(0.2, 0.45), st.floats(0, 0.05))
def test_trim_balances_the_lattices_own_lift_and_moment(c_l, cg, body):
    model = model_of(surface(incidence=0.03), tail())
    found = trim(model, c_l, cg, body)
    zero, alpha, control = model.found.zero, model.found.alpha, model.pitch_control
    lift = zero.lift + alpha.lift * found.alpha + control.lift * found.control
    moment = zero.pitch + alpha.pitch * found.alpha + control.pitch * found.control
    moment += (cg - 0.25) * lift + body * alpha.lift * found.alpha
    assert lift == pytest.approx(c_l)
    assert moment == pytest.approx(0, abs=1e-9)


def test_a_balance_further_forward_needs_more_up_elevator():
    model = model_of(surface(incidence=0.03), tail())
    assert trim(model, 0.5, 0.25).control < trim(model, 0.5, 0.35).control


def test_at_the_neutral_point_the_elevator_does_not_change_with_speed():
    model = model_of(surface(incidence=0.03), tail())
    at = model.neutral_fraction
    slow, fast = trim(model, 0.8, at).control, trim(model, 0.3, at).control
    # What is left is the elevator's own lift, a few hundredths of a degree per tenth of lift.
    assert abs(slow - fast) < 0.02 * abs(trim(model, 0.8, at - 0.2).control - trim(model, 0.3, at - 0.2).control) + 1e-3


def test_without_an_elevator_there_is_no_trim():
    model = model_of(surface(), tail().model_copy(update={"controls": ()}))
    assert model.pitch_control is None and trim(model, 0.5, 0.3) is None


def test_a_tailless_wing_trims_with_elevons_up_and_more_for_more_margin():
    elevon = (ControlSurface(kind="elevon", start=0.2, end=0.58, chord_fraction=0.2),)
    model = model_of(surface(controls=elevon))
    few, many = trim(model, 0.5, 0.20), trim(model, 0.5, 0.12)
    assert many.control < few.control < 0


def strip_limits(model, limit):
    return np.full(len(model.loading(0.0).c_l), limit)


def test_a_rectangular_wing_stalls_at_the_root_and_a_pointed_one_at_the_tip():
    plain, pointed = model_of(surface()), model_of(surface(tip=0.05))
    root = critical_section(plain, strip_limits(plain, 1.0))
    tip = critical_section(pointed, strip_limits(pointed, 1.0))
    assert root.where < 0.2 and tip.where > 0.6
    assert 0.8 < root.cl_max < 0.95


def test_washout_moves_the_stall_inboard():
    stations = (Station(y=0, chord=0.2), Station(y=0.6, chord=0.09, x=0.03, twist=-0.07))
    straight, twisted = model_of(surface(tip=0.09)), model_of(surface(stations=stations))
    before = critical_section(straight, strip_limits(straight, 1.0))
    after = critical_section(twisted, strip_limits(twisted, 1.0))
    assert after.where < before.where - 0.15


def test_the_critical_section_meets_its_limit_and_no_other_passes_it():
    model = model_of(surface(tip=0.12, incidence=0.02), tail())
    limits = np.where(model.loading(0.0).sheet == 0, 1.1, np.inf)
    found = critical_section(model, limits)
    load = found.loading.c_l[found.loading.sheet == 0]
    assert load.max() == pytest.approx(1.1)
    assert found.role == "wing"


@pytest.mark.parametrize("name", demo_names())
def test_refining_the_lattice_moves_the_demos_neutral_point_less_than_half_a_percent(name, monkeypatch):
    from ridgeline.engine.aero import airframe_lattice
    from ridgeline.files.design_file import load

    design = load(f"demo:{name}")
    coarse = evaluate(design).value("stability.neutral_point_fraction")
    monkeypatch.setattr(airframe_lattice, "ALONG", 8)
    monkeypatch.setattr(airframe_lattice, "ACROSS", 36)
    assert evaluate(design).value("stability.neutral_point_fraction") == pytest.approx(coarse, abs=0.005)


def test_a_canard_has_its_neutral_point_ahead_of_the_wing_alone():
    wing = surface(x=0.6)
    alone = model_of(wing).neutral_fraction
    foreplane = surface("foreplane", 0.25, 0.1, 0.1, x=0.0)
    assert model_of(wing, foreplane).neutral_fraction < alone - 0.2


def test_mirroring_the_whole_airframe_changes_nothing_lengthwise(whimbrel):
    lone = surface(mirrored=False, half=0.5)
    port = lone.model_copy(update={"stations": lone.stations, "cant": 0.0})
    assert model_of(
        surface(), lone.model_copy(update={"role": "stabiliser", "x": 0.8})
    ).found.alpha.lift == pytest.approx(
        model_of(surface(), port.model_copy(update={"role": "stabiliser", "x": 0.8})).found.alpha.lift
    )


def test_controls_act_only_where_they_are():
    model = model_of(surface(), tail())
    lattice = model.solver.lattice
    wash = wash_of_control(lattice, 1, 0.0, 0.25, 0.6)
    assert set(np.unique(lattice.sheet[wash > 0])) == {1}
    assert wash[lattice.sheet == 1] == pytest.approx(0.6)


def test_incidence_lifts_as_an_angle_does(whimbrel):
    model = model_of(surface(incidence=math.radians(3)))
    assert model.found.zero.lift == pytest.approx(math.radians(3) * model.found.alpha.lift)
    more = evaluate(put(whimbrel, "surfaces[0].incidence", math.radians(4)))
    assert more.value("trim.alpha") < evaluate(whimbrel).value("trim.alpha")
