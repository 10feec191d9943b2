"""Controls in place: what meets at full throw, gyro sense and gain, steering by thrust, and what is set at rest."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.axes import disc_of, on_surface
from ridgeline.design.paths import Change, apply, put
from ridgeline.design.radio import Gyro
from ridgeline.engine.advice.gyro_rules import gains
from ridgeline.engine.aero.at_rest import balance_for, lift_at_rest, moment_at
from ridgeline.engine.aero.trim import trim
from ridgeline.engine.controls.clearing import (
    DISC_ROOM,
    ROOM,
    Moving,
    crossing,
    meetings,
    plates,
    rooms,
    start_for,
    struck,
)
from ridgeline.engine.controls.gyro import BOARD_LAG, SERVO_LAG, most_gain, opposes
from ridgeline.engine.controls.linkage import Throw
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power.full_throttle import THROTTLES
from ridgeline.engine.sizing.passing import passing_controls
from ridgeline.engine.stages.steering import APART, MIXES, flat_turns, mixed_into_throttles, moments, without_fins
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names
from twin_motors import twin

DEGREE = math.radians(1)
LAPWING, WHIMBREL = load("demo:lapwing"), load("demo:whimbrel")


def control_of(design, kind):
    return next((s, c) for s in design.surfaces for c in s.controls if c.kind == kind)


def moving(design, kind, side="starboard", up=12.0, down=12.0):
    return Moving(*control_of(design, kind), side, Throw(up * DEGREE, down * DEGREE))


def findings(design, key):
    return [f for f in evaluate(design).findings if f.key.startswith(key)]


# -- what meets -------------------------------------------------------------------------------------------------------


@given(st.floats(-0.6, 0.6), st.sampled_from(["elevator", "aileron", "rudder"]), st.sampled_from(["starboard", "port"]))
def test_a_control_turns_rigidly_about_its_hinge(angle, kind, side):
    one = moving(LAPWING, kind, side)
    still, swung = plates(one, [0.0, angle])
    assert swung[0] == pytest.approx(still[0])
    sizes = [np.linalg.norm(rows[-1] - rows[0], axis=1) for rows in (still, swung)]
    assert sizes[0] == pytest.approx(sizes[1])
    if side == "starboard":
        edge = on_surface(one.surface, one.control.end, 1.0, 0.0)
        assert still[-1, -1] == pytest.approx(edge)
    # Down is down; of a fin, to starboard.
    way = swung[-1].mean(axis=0) - still[-1].mean(axis=0)
    if abs(angle) > 0.02:
        axis, sign = (1, 1 if side == "starboard" else -1) if kind == "rudder" else (2, -1)
        assert math.copysign(1, way[axis]) == sign * math.copysign(1, angle)


def square(corner, first, second):
    """A plate of five rows of nine places."""
    along, across = np.linspace(0, 1, 5)[:, None, None], np.linspace(0, 1, 9)[None, :, None]
    return (np.array(corner) + along * np.array(first) + across * np.array(second))[None]


def test_plates_cross_where_an_edge_passes_through_and_not_where_they_touch():
    flat = square((0, 0, 0), (1, 0, 0), (0, 1, 0))
    through = square((0.5, 0.5, -0.5), (0, 0, 1), (0, 1, 0))
    beside = square((0.5, 1.5, -0.5), (0, 0, 1), (0, 1, 0))
    assert crossing(flat, through)[0, 0] and crossing(through, flat)[0, 0]
    assert not crossing(flat, beside)[0, 0]
    above = square((0, 0, 0.01), (1, 0, 0), (0, 1, 0))
    assert not crossing(flat, above)[0, 0] and rooms(flat, above)[0, 0] == pytest.approx(0.01)
    assert rooms(flat, through)[0, 0] == 0.0


def test_an_elevator_and_a_rudder_that_meet_are_told_and_the_cut_just_passes():
    k = next(k for k, s in enumerate(LAPWING.surfaces) if s.role == "fin")
    full = put(LAPWING, f"surfaces[{k}].controls[0].start", 0.0)
    (told,) = findings(full, "controls.meets")
    assert told.level == "look" and "meet at full throw" in str(told.text) and len(told.remedies) == 2
    cuts = [way.changes[0].value for way in told.remedies]
    assert all(cut > 0 for cut in cuts)
    for way in told.remedies:
        assert not findings(apply(full, way.changes), "controls.meets")
    rudder = next(way for way in told.remedies if way.changes[0].path == f"surfaces[{k}].controls[0].start")
    less = put(full, rudder.changes[0].path, rudder.changes[0].value - 0.0011)
    assert findings(less, "controls.meets")


def test_a_layout_cuts_the_lesser_of_both():
    k = next(k for k, s in enumerate(LAPWING.surfaces) if s.role == "fin")
    cut = passing_controls(put(LAPWING, f"surfaces[{k}].controls[0].start", 0.0))
    assert cut.surfaces[k].controls[0].start == LAPWING.surfaces[k].controls[0].start
    assert cut.surfaces[:k] == LAPWING.surfaces[:k]
    assert passing_controls(WHIMBREL) == WHIMBREL


@pytest.mark.parametrize("name", sorted(gallery_names()))
def test_nothing_meets_strikes_or_blocks_on_a_sample(name):
    found = evaluate(load(f"demo:{name}")).results.clearing
    assert not found.meetings and not found.struck and not found.blocked


def test_meetings_ask_for_both_ends_of_the_travel():
    fin, rudder = control_of(LAPWING, "rudder")
    whole = rudder.model_copy(update={"start": 0.0})
    elevator = moving(LAPWING, "elevator")
    elevator = elevator._replace(control=elevator.control.model_copy(update={"start": 0.012}))
    for throw, met in ((Throw(0.0, 0.4), True), (Throw(0.0, 0.0), False)):
        found = meetings([elevator, Moving(fin, whole, "starboard", throw)])
        assert bool(found) == met
        if met:
            assert found[0].room < ROOM and found[0].at[0] == pytest.approx(-12 * DEGREE)
    assert start_for(Moving(fin, whole, "starboard", Throw(0.38, 0.38)), elevator) > 0


def test_a_control_in_a_propeller_is_a_stop_and_its_ways_out_clear_it():
    elevator = moving(LAPWING, "elevator", up=30.0, down=30.0)
    x, y, z = on_surface(elevator.surface, elevator.control.start, 1.0, 0.0)
    inside = struck([elevator], [(x, y, z)], 0.05)
    assert inside and inside[0].inside == pytest.approx(0.05 + DISC_ROOM, abs=0.02)
    assert not struck([elevator], [(x + 0.10, y, z)], 0.05)
    # A disc ahead of the trailing edge, beside the control's inner end.
    surface, control = control_of(WHIMBREL, "aileron")
    edge, now = on_surface(surface, control.start, 1.0, 0.0), WHIMBREL.power.mounts[0]
    ahead = now.x - disc_of(now, WHIMBREL.power)[0]
    mount = now.model_copy(update={"x": edge[0] - 0.01 + ahead, "y": edge[1], "z": edge[2]})
    design = put(WHIMBREL, "power.mounts[0]", mount)
    (told,) = findings(design, f"controls.struck.{control.id}")
    assert told.level == "stop" and told.remedies
    for way in told.remedies:
        assert not findings(apply(design, way.changes), f"controls.struck.{control.id}")


def test_a_horn_inside_the_body_is_told_and_moved():
    k = next(k for k, one in enumerate(LAPWING.linkages) if one.control == control_of(LAPWING, "elevator")[1].id)
    body = LAPWING.bodies[0]
    surface, control = control_of(LAPWING, "elevator")
    x, _y, z = on_surface(surface, control.start + 0.002, 0.7, -0.01)
    last = body.stations[-1].model_copy(update={"x": x + 0.3 - body.x, "width": 0.06, "height": 0.08,
                                                "z": z - body.z})  # fmt: skip
    wide = apply(LAPWING, [Change("bodies[0].stations", (*body.stations[:-1], last)),
                           Change(f"linkages[{k}].out", control.start + 0.002)])  # fmt: skip
    (told,) = findings(wide, f"controls.horn.{control.id}")
    assert told.level == "look"
    for way in told.remedies:
        assert not findings(apply(wide, way.changes), f"controls.horn.{control.id}")


# -- gyro -------------------------------------------------------------------------------------------------------------


def test_a_board_upright_opposes_and_upside_down_follows_in_pitch_and_yaw():
    for axis in ("roll", "pitch", "yaw"):
        assert opposes(Gyro(), axis)
        assert opposes(Gyro(upside_down=True), axis) == (axis == "roll")
        assert opposes(Gyro(upside_down=True, reversed=("pitch", "yaw")), axis)
        assert not opposes(Gyro(reversed=(axis,)), axis)


def test_a_gyro_that_fights_is_a_stop_and_is_turned_over():
    wrong = put(WHIMBREL, "radio.gyro", Gyro(upside_down=True, gain=0.1))
    told = findings(wrong, "gyro.sense")
    assert {f.key for f in told} == {"gyro.sense.pitch", "gyro.sense.yaw"} and all(f.level == "stop" for f in told)
    cured = wrong
    for one in told:
        cured = apply(cured, findings(cured, one.key)[0].remedies[0].changes)
    assert not findings(cured, "gyro") and set(cured.radio.gyro.reversed) == {"pitch", "yaw"}
    assert not findings(put(WHIMBREL, "radio.gyro", None), "gyro")


@given(st.floats(1.0, 500.0))
def test_the_largest_gain_leaves_45_degrees(power):
    gain = most_gain(power)
    # A rate loop about inertia alone crosses at ω = gain·power/π; 90° less ω τ are left.
    crossing_at = gain / math.pi * power
    assert math.degrees(math.pi / 2 - crossing_at * (SERVO_LAG + BOARD_LAG)) == pytest.approx(45.0)
    assert math.isinf(most_gain(0.0))
    # 60 ms of servo and board.
    assert most_gain(100.0) == pytest.approx(math.pi / 4 / 0.06 * math.pi / 100)


def test_too_much_gain_is_told_and_the_gain_offered_is_steady():
    loud = put(WHIMBREL, "radio.gyro", Gyro(gain=1.5))
    (told,) = findings(loud, "gyro.gain")
    assert told.level == "look"
    quiet = apply(loud, told.remedies[0].changes)
    assert not findings(quiet, "gyro")
    report = evaluate(loud)
    most = gains(loud, report)
    assert quiet.radio.gyro.gain <= min(most.values()) < quiet.radio.gyro.gain + 0.05
    answer, inertia = report.results.sticking.of("roll"), report.results.motions.inertia
    load = 0.5 * report.results.air.density * report.value("speed.max") ** 2
    scale = report.results.lattice.scale
    assert most["roll"] == pytest.approx(most_gain(answer.roll * load * scale.area * scale.span / inertia.roll))


# -- steering by thrust -----------------------------------------------------------------------------------------------


def test_thrust_turns_it_by_its_arms_and_the_weathercock_holds_it():
    design = twin(WHIMBREL)
    report = evaluate(design)
    amounts = mixed_into_throttles(design.power, design.radio)
    assert sorted(amounts) == [(-0.3, 0.35), (0.3, -0.35)]
    moment, slip = report.value("control.thrust_yaw"), report.value("control.thrust_slip")
    assert moment > 0
    scale = report.results.lattice.scale
    load = 0.5 * report.results.air.density * report.value("speed.cruise") ** 2 * scale.area * scale.span
    assert slip == pytest.approx(moment / (load * report.value("stability.cn_beta")))
    helix = slip * report.value("stability.cl_beta") / report.value("stability.cl_p")
    assert report.value("control.thrust_roll") == pytest.approx(
        helix * 2 * report.value("speed.cruise") / report.value("wing.span"))  # fmt: skip
    side = abs(report.results.lattice.found.beta.side)
    force = side * slip * 0.5 * report.results.air.density * report.value("speed.cruise") ** 2 * scale.area
    radius = report.value("mass.auw") * report.value("speed.cruise") ** 2 / force
    assert report.value("control.thrust_radius") == pytest.approx(radius)
    wide, over = put(design, "power.mounts[0].y", 0.45), report.results.steering
    assert evaluate(wide).value("control.thrust_yaw") == pytest.approx(1.5 * moment, rel=0.02)
    now = APART.index(1.0), MIXES.index(1.0)
    assert (APART[0], APART[-1], MIXES[0], MIXES[-1]) == (0.5, 2.0, 0.5, 1.5)
    assert over.apart[now[0]] == pytest.approx(0.6) and over.mixes[now[1]] == pytest.approx(0.35)
    assert over.radius[now] == pytest.approx(radius)
    assert over.radius[APART.index(1.5), now[1]] == pytest.approx(radius / 1.5)
    less = evaluate(twin(WHIMBREL, 0.35 * MIXES[0])).value("control.thrust_radius")
    assert over.radius[now[0], 0] == pytest.approx(less, rel=1e-6) and less > 1.2 * radius
    assert evaluate(WHIMBREL).figures["control.thrust_yaw"].value is None


@pytest.mark.parametrize("plane", [LAPWING, load("demo:heron"), load("demo:dunlin")], ids=lambda plane: plane.name)
def test_without_a_fin_a_turn_by_thrust_spins_or_is_as_the_rest_holds_it(plane):
    report = evaluate(twin(plane))
    over, model = report.results.steering, report.results.lattice
    bare = without_fins(model, plane.surfaces)
    kept = report.value("stability.cn_beta") + bare.yaw - model.found.beta.yaw
    held = report.value("stability.cn_beta") / abs(model.found.beta.side)
    if kept < 0.004 or abs(bare.side) < 1e-3:
        assert over.bare is None and report.value("control.thrust_slip_bare") is None
    else:
        assert over.bare / over.radius == pytest.approx(np.full_like(over.radius, kept / abs(bare.side) / held))
        assert not np.allclose(over.bare, over.radius)


def test_a_flat_turn_is_closed_and_is_left_where_nothing_holds_or_turns_it():
    moment = np.array([[0.2, 0.4]])
    found = flat_turns(moment, 0.8, 40.0, 12.0, 1.2, 0.05, 0.3)
    slip = moment / (40.0 * 1.2 * 0.05)
    assert found == pytest.approx(0.8 * 12.0**2 / (40.0 * 0.3 * slip))
    assert flat_turns(moment, 0.8, 40.0, 12.0, 1.2, 0.0041, 0.0011) is not None
    assert flat_turns(moment, 0.8, 40.0, 12.0, 1.2, 0.0039, 0.3) is None
    assert flat_turns(moment, 0.8, 40.0, 12.0, 1.2, 0.05, 0.0009) is None
    assert flat_turns(0 * moment, 0.8, 40.0, 12.0, 1.2, 0.05, 0.3) is None


def test_motors_driven_apart_stop_at_nothing_and_at_all():
    pair, thrust = [(0.2, -1.0), (-0.2, 1.0)], 4.0 * np.asarray(THROTTLES)
    whole = moments(pair, 0.5, thrust, [1.0, 2.0], [0.25, 0.5, 1.0])
    assert whole == pytest.approx(np.array([[0.4, 0.8, 0.8], [0.8, 1.6, 1.6]]))


def test_swapped_motors_are_a_stop_and_are_turned_over():
    swapped = twin(WHIMBREL, -0.35)
    (told,) = findings(swapped, "sticks.thrust")
    assert told.level == "stop"
    right = apply(swapped, told.remedies[0].changes)
    assert evaluate(right).value("control.thrust_yaw") > 0 and not findings(right, "sticks.thrust")


def test_without_its_fin_nothing_brings_the_nose_back():
    report = evaluate(LAPWING)
    model = report.results.lattice
    bare = without_fins(model, LAPWING.surfaces)
    assert bare.yaw < 0.3 * model.found.beta.yaw and abs(bare.side) < 0.5 * abs(model.found.beta.side)


def test_a_step_of_throttle_climbs_by_its_thrust():
    report = evaluate(WHIMBREL)
    flown, pulling = report.results.flight, report.results.pulling
    from ridgeline.engine.power.full_throttle import THROTTLES

    cruise, level = report.value("speed.cruise"), flown.cruise_throttle
    low, high = np.interp([level - 0.05, level + 0.05], THROTTLES, pulling.over_throttle(cruise)[0])
    wanted = 0.01 * (high - low) / 0.1 * cruise / (report.value("mass.auw") * 9.80665)
    assert report.value("control.throttle_step") == pytest.approx(wanted, rel=1e-6)


# -- at rest ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("name", ["whimbrel", "dunlin", "turnstone", "avocet"])
def test_where_it_trims_at_rest_is_where_trim_asks_for_that_angle(name):
    design = load(f"demo:{name}")
    report = evaluate(design)
    model, balanced = report.results.lattice, report.results.balance
    here = (balanced.cg_fraction, balanced.shift, balanced.height)
    for c_l in (0.3, 0.6, 0.9):
        solved = trim(model, c_l, *here)
        assert moment_at(model, c_l, solved.control, *here) == pytest.approx(0.0, abs=1e-6)
        found = lift_at_rest(model, 1.4, solved.control, *here)
        assert found == pytest.approx(c_l, abs=1e-4)
        assert balance_for(model, c_l, solved.control, *here[1:]) == pytest.approx(here[0], abs=1e-6)


def test_set_at_rest_as_cruise_asks_it_trims_at_cruise():
    for name in ("whimbrel", "dunlin"):
        design = load(f"demo:{name}")
        report = evaluate(design)
        changes = [Change(f"surfaces[{k}].controls[{j}].neutral", report.value("trim.elevator"))
                   for k, s in enumerate(design.surfaces) for j, c in enumerate(s.controls)
                   if c.kind in ("elevator", "elevon", "ruddervator")]  # fmt: skip
        after = evaluate(apply(design, changes))
        assert after.value("trim.rest_speed") == pytest.approx(report.value("speed.cruise"), rel=0.01)
        assert after.value("trim.rest_balance") == pytest.approx(report.value("balance.cg_fraction"), abs=0.005)


def test_more_reflex_trims_slower_and_a_balance_farther_forward_faster():
    dunlin = load("demo:dunlin")
    k = next(k for k, s in enumerate(dunlin.surfaces) if s.controls)
    up = evaluate(put(dunlin, f"surfaces[{k}].controls[0].neutral", -3 * DEGREE))
    assert up.value("trim.rest_speed") < evaluate(dunlin).value("trim.rest_speed")
    pack = next(k for k, i in enumerate(dunlin.parts) if i.component == "pack")
    ahead = evaluate(put(dunlin, f"parts[{pack}].x", dunlin.parts[pack].x - 0.01))
    assert ahead.figures["trim.rest_speed"].value is None or (
        ahead.value("trim.rest_speed") > evaluate(dunlin).value("trim.rest_speed")
    )


def test_what_trims_far_from_cruise_is_told_and_set_by_hand():
    heron = load("demo:heron")
    (told,) = findings(heron, "sticks.rest")
    assert told.level == "settled" and "no speed" in str(told.text)
    after = evaluate(apply(heron, told.remedies[0].changes))
    assert after.value("trim.rest_speed") == pytest.approx(after.value("speed.cruise"), rel=0.05)


def test_it_may_trim_between_a_little_over_its_stall_and_a_third_over_cruise():
    dunlin = load("demo:dunlin")
    k = next(k for k, s in enumerate(dunlin.surfaces) if s.controls)
    told = {}
    for degrees in (-4.0, -0.5, 0.0, 0.3, 1.0, 1.5):
        design = put(dunlin, f"surfaces[{k}].controls[0].neutral", degrees * DEGREE)
        report = evaluate(design)
        speed = report.value("trim.rest_speed")
        inside = speed is not None and 1.1 * report.value("speed.stall") <= speed <= 1.3 * report.value("speed.cruise")
        told[degrees] = speed
        assert inside == (not findings(design, "sticks.rest")), (degrees, speed)
    assert any(speed is not None and 18 < speed < 60 for speed in told.values()), told


def test_the_arm_of_elevons_is_that_of_their_lift():
    report = evaluate(load("demo:dunlin"))
    pitch = report.results.lattice.pitch_control
    at = 0.25 - pitch.pitch / pitch.lift
    assert report.value("control.pitch_arm") == pytest.approx(at - report.value("balance.cg_fraction"))
    tailed = evaluate(LAPWING)
    assert report.value("control.pitch_arm") < 1 < tailed.value("control.pitch_arm")
    # A usual tailed plane pitches as one at about 1.3 of its stall; elevons on a short arm need more.
    ratio = [r.value("control.pitch_as_tailed") / r.value("speed.stall") for r in (tailed, report)]
    assert 1.0 < ratio[0] < 1.5 < ratio[1]
