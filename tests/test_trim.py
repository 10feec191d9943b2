"""Trim with any one angle held, the elevator over the speed range, and what one side's twist or weight costs."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.airframe import ControlSurface, Station, Surface
from ridgeline.design.paths import apply, put
from ridgeline.engine.advice.trim_rules import setting_changes
from ridgeline.engine.aero.airframe_lattice import is_lopsided, solve_airframe
from ridgeline.engine.aero.attitude import LEVEL, Height
from ridgeline.engine.aero.trim import settings, sweep, trim
from ridgeline.engine.geometry.reference import combine_wings
from ridgeline.engine.geometry.surfaces import measure_surface
from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import load


def wing(half=0.6, chord=0.2, **more):
    rows = (Station(y=0, chord=chord), Station(y=half, chord=chord))
    return Surface(**({"name": "Wing", "role": "wing", "section": "flat_bottom", "stations": rows} | more))


def tail(**more):
    rows = (Station(y=0, chord=0.12), Station(y=0.2, chord=0.12))
    hinge = (ControlSurface(kind="elevator", start=0, end=0.2, chord_fraction=0.35),)
    plain = {"name": "Tail", "role": "stabiliser", "x": 0.75, "z": 0.05, "section": "rounded_plate", "controls": hinge}
    return Surface(**(plain | {"stations": rows} | more))


def model_of(*surfaces):
    wings = [s for s in surfaces if s.role == "wing"]
    reference = combine_wings([measure_surface(s) for s in wings], [s.x for s in wings])
    return solve_airframe(surfaces, reference)


def residual(model, way, c_l, cg, shift, height=LEVEL):
    """Return what is left of lift and moment when a way to trim is put back into the lattice's own columns."""
    found, total = model.found, np.zeros(2)
    columns = [(found.zero, 1.0), (found.alpha, way.alpha), (model.pitch_control, way.control)]
    columns += [(model.wing_angle, way.wing_change), (model.tail_angle, way.tail_change)]
    for case, amount in columns:
        if case is not None:
            total += amount * np.array([case.lift, case.pitch])
    # Lift and the wing's drag past a balance point that turns with the body.
    total[1] += (cg - 0.25 + height.value * math.tan(way.alpha)) * total[0]
    total[1] -= (height.profile + height.induced * c_l**2) * height.value
    return total - [c_l, -shift * found.alpha.lift * way.alpha]


@given(st.floats(0.1, 0.9), st.floats(0.2, 0.45), st.floats(0, 0.05), st.floats(-0.1, 0.1), st.floats(-0.5, 0.3))
def test_every_way_to_trim_balances_lift_and_moment(c_l, cg, shift, body, up):
    model, height = MODEL, Height(up, 0.02, 0.06)
    ways = settings(model, c_l, cg, shift, body, height)
    assert [way.held for way in ways] == ["as_built", "body", "wing", "tail"]
    for way in ways:
        assert residual(model, way, c_l, cg, shift, height) == pytest.approx(0, abs=1e-6)


MODEL = model_of(wing(incidence=0.03), tail())


def test_what_is_held_is_held():
    as_built, body, kept_wing, kept_tail = settings(MODEL, 0.5, 0.33, 0.01, 0.02)
    assert body.alpha == 0.02 and body.control == 0
    assert kept_wing.wing_change == 0 and kept_wing.control == 0
    assert kept_tail.tail_change == 0 and kept_tail.control == 0
    assert as_built.wing_change == as_built.tail_change == 0
    same = trim(MODEL, 0.5, 0.33, 0.01)
    assert (as_built.alpha, as_built.control) == pytest.approx((same.alpha, same.control))


def test_wing_angle_and_body_angle_lift_alike_when_only_the_wing_turns():
    """Turning wing and tail together is turning the body, apart from the body's own moment."""
    model = MODEL
    both = model.wing_angle.lift + model.tail_angle.lift
    assert both == pytest.approx(model.found.alpha.lift, rel=1e-9)
    assert model.wing_angle.pitch + model.tail_angle.pitch == pytest.approx(model.found.alpha.pitch, abs=1e-9)


@pytest.mark.parametrize("held", ["body", "wing", "tail"])
def test_a_setting_built_in_leaves_the_elevator_neutral(whimbrel, held):
    way = next(w for w in evaluate(whimbrel).results.trim.settings if w.held == held)
    built = evaluate(apply(whimbrel, setting_changes(whimbrel, way.wing_change, way.tail_change)))
    # The stall, and with it cruise, moves a little with the incidence.
    assert built.value("trim.elevator") == pytest.approx(0, abs=math.radians(0.15))
    assert built.value("trim.alpha") == pytest.approx(way.alpha, abs=math.radians(0.15))


def test_shims_are_the_change_of_incidence_over_the_root_chord(whimbrel):
    report = evaluate(put(whimbrel, "brief.body_angle", math.radians(1)))
    way = next(w for w in report.results.trim.settings if w.held == "body")
    assert way.alpha == pytest.approx(math.radians(1))
    assert report.value("trim.wing_shim") == pytest.approx(0.218 * math.tan(way.wing_change))
    assert report.value("trim.tail_shim") == pytest.approx(0.138 * math.tan(way.tail_change))


def test_the_sweep_passes_through_the_trim_in_cruise_and_asks_more_up_when_slow(whimbrel):
    report = evaluate(whimbrel)
    found = report.results.trim
    at_cruise = np.interp(report.value("speed.cruise"), found.speed, found.control)
    assert at_cruise == pytest.approx(found.cruise.control, abs=2e-4)
    assert (np.diff(found.control) > 0).all() and (np.diff(found.alpha) < 0).all()
    alphas, controls = sweep(MODEL, [0.3, 0.6], 0.33)
    for c_l, alpha, control in zip((0.3, 0.6), alphas, controls, strict=True):
        one = trim(MODEL, c_l, 0.33)
        assert (alpha, control) == pytest.approx((one.alpha, one.control))


def test_reflex_grows_with_the_margin_and_is_told_in_millimetres_and_sheets():
    dunlin = load("demo:dunlin")
    pack = next(i for i, part in enumerate(dunlin.parts) if part.component == "pack")
    plain = evaluate(dunlin)
    ahead = evaluate(put(dunlin, f"parts[{pack}].x", dunlin.parts[pack].x - 0.02))
    assert ahead.value("trim.reflex") > plain.value("trim.reflex")
    control = dunlin.surfaces[0].controls[0]
    chord = np.interp(0.5 * (control.start + control.end), [0, dunlin.surfaces[0].stations[1].y],
                      [s.chord for s in dunlin.surfaces[0].stations])  # fmt: skip
    angle = -ahead.value("trim.elevator")
    assert ahead.value("trim.reflex") == pytest.approx(control.chord_fraction * chord * math.sin(angle))
    assert ahead.value("trim.reflex_sheets") == pytest.approx(ahead.value("trim.reflex") / dunlin.surfaces[0].sheet)


def test_a_warp_is_held_by_aileron_against_it(whimbrel):
    straight = evaluate(whimbrel).value("trim.aileron")
    low = evaluate(put(whimbrel, "surfaces[0].warp_starboard", 0.003))
    # A starboard tip with its trailing edge low lifts too much: starboard aileron up holds it down.
    assert low.value("trim.aileron") > straight + math.radians(0.5)
    other = evaluate(put(whimbrel, "surfaces[0].warp_port", 0.003))
    assert other.value("trim.aileron") - straight == pytest.approx(-(low.value("trim.aileron") - straight), abs=1e-4)


def test_like_warps_on_both_sides_are_washin_and_need_no_aileron(whimbrel):
    both = put(put(whimbrel, "surfaces[0].warp_starboard", 0.004), "surfaces[0].warp_port", 0.004)
    report, straight = evaluate(both), evaluate(whimbrel)
    assert report.value("trim.aileron") == pytest.approx(straight.value("trim.aileron"), abs=1e-4)
    assert report.value("trim.alpha") < straight.value("trim.alpha")


def test_weight_to_starboard_is_held_by_starboard_aileron_down(whimbrel):
    heavy = {"name": "camera", "group": "payload", "x": 0.28, "y": 0.5, "estimate": 0.03}
    assert evaluate(put(whimbrel, "parts[-]", heavy)).value("trim.aileron") < -math.radians(1)


def test_droop_is_dihedral_that_stability_sees(whimbrel):
    bent, straight = evaluate(put(whimbrel, "surfaces[0].droop", 0.04)), evaluate(whimbrel)
    assert bent.value("stability.dihedral") > straight.value("stability.dihedral") + math.radians(2)
    assert bent.value("stability.cl_beta") < straight.value("stability.cl_beta") - 0.01
    assert bent.value("wing.area") == straight.value("wing.area")


def lone(y, half=0.6):
    rows = (Station(y=0, chord=0.2), Station(y=half, chord=0.2))
    return Surface(name="Lone", role="wing", mirrored=False, y=y, section="flat_bottom", stations=rows)


def test_a_wing_given_as_two_lone_halves_is_the_same_wing():
    """One mirrored wing, and the same panels entered as lone parts, panelled without symmetry."""
    whole = model_of(wing(), tail())
    rows = (Station(y=0, chord=0.2), Station(y=1.2, chord=0.2))
    across = Surface(name="Whole", role="wing", mirrored=False, y=-0.6, section="flat_bottom", stations=rows)
    assert is_lopsided(across) and not is_lopsided(tail(mirrored=False, cant=math.pi / 2))
    lopsided = model_of(across, tail())
    assert lopsided.found.alpha.lift == pytest.approx(whole.found.alpha.lift, rel=0.01)
    assert lopsided.neutral_fraction == pytest.approx(whole.neutral_fraction, abs=0.01)


def test_an_airframe_split_by_a_far_lone_part_keeps_its_derivatives():
    """A tiny lone fin far out makes the lattice drop its symmetry: nothing else may change."""
    speck_rows = (Station(y=0, chord=0.001), Station(y=0.001, chord=0.001))
    speck = Surface(name="Speck", role="fin", mirrored=False, y=2.9, x=4.0, cant=math.pi / 2, stations=speck_rows,
                    section="rounded_plate")  # fmt: skip
    hinge = (ControlSurface(kind="aileron", start=0.3, end=0.55, chord_fraction=0.22),)
    surfaces = wing(controls=hinge, incidence=0.03), tail()
    plain, split = model_of(*surfaces), model_of(*surfaces, speck)
    assert set(split.side) == {1, -1}
    for name in ("alpha", "zero", "pitch_rate"):
        one, other = getattr(plain.found, name), getattr(split.found, name)
        assert (other.lift, other.pitch) == pytest.approx((one.lift, one.pitch), rel=2e-3, abs=2e-4)
    for name in ("beta", "roll_rate", "yaw_rate"):
        one, other = getattr(plain.found, name), getattr(split.found, name)
        assert (other.roll, other.yaw, other.side) == pytest.approx((one.roll, one.yaw, one.side), rel=3e-3, abs=6e-4)
    assert split.roll_control.roll == pytest.approx(plain.roll_control.roll, rel=2e-3)
    assert split.pitch_control.pitch == pytest.approx(plain.pitch_control.pitch, rel=2e-3)


def test_a_twin_fuselage_with_a_lone_boom_tail_is_evaluated_whole(whimbrel):
    off = put(put(whimbrel, "surfaces[1].mirrored", False), "surfaces[1].y", 0.2)
    report = evaluate(put(off, "surfaces[1].cant", 0.0))
    assert report.value("stability.neutral_point_fraction") is not None
    assert report.value("trim.elevator") is not None


@pytest.mark.parametrize("height", [0.045, -0.04])
def test_a_thrust_line_off_the_balance_point_pitches_and_each_cure_cures_it(whimbrel, height):
    off = put(whimbrel, "power.mounts[0].z", height)
    report = evaluate(off)
    found = next(f for f in report.findings if f.key == "trim.throttle")
    assert ("down" if height > 0 else "up") in str(found.text)
    # Over the balance point it pitches down, so the elevator must go up: trailing edge up is negative.
    assert (report.value("trim.thrust_elevator") < 0) == (height > 0)
    assert [remedy.key for remedy in found.remedies] == ["shaft", "thrust_line"]
    moment = abs(report.results.thrusting.moment)
    # The motor hangs on its mount: a tilt moves it a little, and with it the balance point the shaft was aimed at.
    for remedy, left in zip(found.remedies, (0.02 * moment, 0.1 * moment), strict=True):
        after = evaluate(apply(off, remedy.changes))
        assert after.results.thrusting.moment == pytest.approx(0, abs=left)
        assert not any(f.key == "trim.throttle" for f in after.findings)


def test_the_elevator_for_full_throttle_balances_its_moment(whimbrel):
    off = put(whimbrel, "power.mounts[0].z", 0.08)
    report = evaluate(off)
    model, flown = report.results.lattice, report.results.flight
    air, cg = report.results.air, report.value("balance.cg_fraction")
    load = 0.5 * air.density * flown.climb_speed**2 * model.scale.area * model.scale.chord
    elevator, arm = report.value("trim.thrust_elevator"), cg - 0.25
    alpha = -elevator * model.pitch_control.lift / model.found.alpha.lift
    shift = report.results.balance.shift
    moment = elevator * (model.pitch_control.pitch + arm * model.pitch_control.lift)
    moment += alpha * (model.found.alpha.pitch + (arm + shift) * model.found.alpha.lift)
    assert moment * load + report.results.thrusting.moment == pytest.approx(0, abs=1e-9)


def test_balance_marks_allow_for_the_sweep_at_their_station():
    dunlin = load("demo:dunlin")
    root, out = (evaluate(put(dunlin, "brief.mark_out", y)).value("balance.mark") for y in (0.0, 0.2))
    tip = dunlin.surfaces[0].stations[-1]
    assert root - out == pytest.approx(0.2 * tip.x / tip.y)
    assert root == pytest.approx(evaluate(dunlin).value("balance.cg_from_root"))
