"""The propeller on the airframe: wash, torque, side thrust and the force across its shaft, each on its own."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.paths import Change, apply, put
from ridgeline.engine.aero.drag import drag, thrust_left
from ridgeline.engine.aero.slipstream import (
    Scrubbed,
    Strips,
    across_slope,
    body_strips,
    covered,
    induced_speed,
    pressure_gain,
    strips_of,
    thrust_lost,
    tube_radius,
    wash_speed,
)
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power.prop_families import chord_over_diameter
from ridgeline.files.design_file import load

AIR = 1.225


@given(st.floats(0.0, 60.0), st.floats(0.0, 30.0), st.floats(0.01, 0.2))
def test_the_disc_gives_its_thrust_to_the_air_it_drives(thrust, speed, disc):
    """Momentum: T = ρ A (V + v)·2v, and far aft the driven air has 2T/A more pressure at any speed."""
    v = float(induced_speed(thrust, speed, disc, AIR))
    assert v >= 0
    assert AIR * disc * (speed + v) * 2 * v == pytest.approx(thrust, rel=1e-9, abs=1e-9)
    radius = math.sqrt(disc / math.pi)
    far = float(wash_speed(1e5, radius, v))
    assert float(pressure_gain(speed, far, AIR)) == pytest.approx(thrust / disc, rel=1e-6, abs=1e-9)


@given(st.floats(0.01, 2.0), st.floats(0.1, 20.0), st.floats(0.0, 30.0))
def test_what_passes_the_disc_passes_the_tube_behind_it(behind, v, speed):
    far = float(wash_speed(behind, 0.1, v))
    assert v < far < 2 * v or far == pytest.approx(2 * v)
    narrow = float(tube_radius(0.1, speed, v, far))
    assert (speed + far) * narrow**2 == pytest.approx((speed + v) * 0.1**2)
    assert float(wash_speed(-behind, 0.1, v)) == 0.0, "ahead of the disc nothing is driven"


def test_a_strip_is_in_across_or_out_of_the_tube():
    assert covered([0.05, 0.10, 0.15], 0.02, 0.10) == pytest.approx([1.0, 0.5, 0.0])
    assert covered([0.095], 0.02, 0.10) == pytest.approx([0.75])


def test_normal_force_is_that_of_its_published_fit():
    # de Young's form by hand: two blades of c/D 0.08 at P/D 0.75.
    solidity = 4 / (3 * math.pi) * 2 * 0.08
    angle = math.atan(0.75 / (0.75 * math.pi)) + math.radians(8)
    assert across_slope(2, 0.08, 0.75) == pytest.approx(4.25 * solidity * math.sin(angle) / (1 + 2 * solidity))
    assert across_slope(3, 0.08, 0.75) > 1.3 * across_slope(2, 0.08, 0.75)
    assert chord_over_diameter("slow_fly") > chord_over_diameter("thin_electric") > 0.07


def test_strips_add_up_to_what_they_are_cut_from(whimbrel):
    wing, body = whimbrel.surfaces[0], whimbrel.bodies[0]
    cut = strips_of(wing, 0.0, 0.64, (0.0, 0.0, 0.0), 600)
    assert cut.share.sum() == pytest.approx(evaluate(whimbrel).value("wing.area"), rel=1e-3)
    half = strips_of(wing, 0.0, 0.34, (0.0, 0.0, 0.0), 10)
    assert half.share.sum() == pytest.approx(2 * 0.34 * 0.218)
    assert half.behind == pytest.approx(np.full(20, 0.2 + 0.25 * 0.218))
    pieces = body_strips(body, (0.0, 0.0, 0.0))
    assert len(pieces.share) == len(body.stations) - 1 and (pieces.share > 0).all()


def test_nothing_behind_the_disc_nothing_lost(whimbrel):
    report = evaluate(whimbrel)
    washed, size = report.results.polar.washed, whimbrel.power.propeller.diameter
    lost = thrust_lost(washed, size)
    assert 0.03 < lost < 0.15 and report.value("power.wash_drag") == pytest.approx(lost)
    behind = apply(whimbrel, [Change("power.mounts[0].x", 1.2), Change("power.mounts[0].pusher", True)])
    free = evaluate(behind)
    assert free.value("power.wash_drag") == 0 and thrust_left(free.results.polar, size) == 1.0
    assert free.value("speed.max") > report.value("speed.max")
    assert free.value("control.elevator_wash") == 1.0 and free.value("control.elevator_standing") == 0.0


def test_what_the_wash_costs_is_taken_off_thrust_and_put_on_what_cruise_pulls(whimbrel):
    report = evaluate(whimbrel)
    flight, polar, air = report.results.flight, report.results.polar, report.results.air
    left = thrust_left(polar, whimbrel.power.propeller.diameter)
    bare = float(drag(polar, report.value("speed.cruise"), report.value("mass.auw"), air.density, air.viscosity))
    assert flight.cruise_drag == pytest.approx(bare / left)
    assert report.value("power.static_thrust") == pytest.approx(report.results.standing.thrust), "a stand has none"


def test_control_power_with_the_wash_starts_at_a_standstill_and_grows_with_thrust(whimbrel):
    report = evaluate(whimbrel)
    for blown in (report.results.washing.elevator, report.results.washing.rudder):
        assert blown.standing[0] == 0 and blown.slow[0] == pytest.approx(blown.bare), "no thrust, no wash"
        assert (np.diff(blown.standing) >= -1e-9).all() and blown.standing[-1] > 0
        assert (blown.slow >= blown.bare - 1e-9).all() and blown.slow[-1] > 1.2 * blown.bare
        assert 0.1 < blown.share < 0.9
    washing = report.results.washing
    assert report.value("control.elevator_standing") == pytest.approx(washing.elevator.standing[-1], rel=1e-6)


def test_the_working_of_a_blown_elevator_is_momentum_and_geometry(whimbrel):
    report = evaluate(whimbrel)
    terms = {t.symbol: t.value for t in report.figures["control.elevator_wash"].working.terms}
    flight = report.results.flight
    pull = flight.thrust_at_climb / thrust_left(report.results.polar, whimbrel.power.propeller.diameter)
    v = float(induced_speed(pull, flight.climb_speed, math.pi * 0.1016**2, report.results.air.density))
    assert terms["V"] == flight.climb_speed and v < terms["v"] < 2 * v
    assert report.value("control.elevator_wash") == pytest.approx(
        1 + terms["s"] * (((terms["V"] + terms["v"]) / terms["V"]) ** 2 - 1)
    )


def test_elevons_out_of_the_wash_gain_nothing():
    report = evaluate(load("demo:dunlin"))
    washing = report.results.washing
    assert report.value("control.elevator_wash") == 1.0 and (washing.elevator.standing == 0).all()
    assert washing.elevator.slow == pytest.approx(np.full(13, washing.elevator.bare))


def test_judgements_do_not_count_on_the_wash(whimbrel):
    report, higher = evaluate(whimbrel), evaluate(put(whimbrel, "power.mounts[0].z", 0.3))
    # Lifted clear of the tail the wash goes; what is judged stays.
    assert higher.value("control.elevator_wash") == 1.0 < report.value("control.elevator_wash")
    for key in ("control.cm_elevator", "control.cn_rudder", "control.rudder_sideslip"):
        assert higher.value(key) == report.value(key)


def test_the_aileron_that_holds_torque_is_a_balance_of_roll(whimbrel):
    report = evaluate(whimbrel)
    stand, scale = report.results.standing.point, report.results.lattice.scale
    torque = float(stand.shaft_power) / float(stand.omega)
    washing = report.results.washing
    assert washing.torque == pytest.approx(torque)
    # Thrown at √(120 J/(m + 1.3 kg)) into the brief's wind.
    assert washing.release == pytest.approx(math.sqrt(120 / (report.value("mass.auw") + 1.3)) + 1.5)
    q = 0.5 * report.results.air.density * washing.release**2
    roll = report.value("launch.torque_aileron") * q * scale.area * scale.span * abs(report.value("control.cl_aileron"))
    assert roll == pytest.approx(torque)
    assert report.value("launch.torque_aileron") > report.value("trim.torque_aileron") > 0
    wheels = evaluate(put(whimbrel, "brief.launch", "wheels"))
    assert wheels.results.washing.release == pytest.approx(1.1 * wheels.value("speed.stall"))


def test_torque_that_takes_most_of_the_aileron_at_launch_is_told(whimbrel):
    def found(design):
        return next((f for f in evaluate(design).findings if f.key == "launch.torque"), None)

    assert found(whimbrel) is None
    weak = apply(
        whimbrel,
        [
            Change("surfaces[0].controls[0].up", math.radians(2)),
            Change("surfaces[0].controls[0].down", math.radians(2)),
        ],
    )
    told = found(weak)
    assert told.level == "look" and "left" in str(told.reason)


@pytest.mark.parametrize("degrees", [2.0, -3.0])
def test_a_shaft_turned_right_asks_for_left_rudder_by_its_arm(whimbrel, degrees):
    turned = evaluate(put(whimbrel, "power.mounts[0].right", math.radians(degrees)))
    found, plain = turned.value("trim.thrust_rudder"), evaluate(whimbrel).value("trim.thrust_rudder")
    flight, scale = turned.results.flight, turned.results.lattice.scale
    arm = math.sin(math.radians(degrees)) * (turned.value("balance.cg_x") - whimbrel.power.mounts[0].x)
    q = 0.5 * turned.results.air.density * flight.climb_speed**2
    yaw = flight.thrust_at_climb * arm
    held = -yaw / (q * scale.area * scale.span * abs(turned.value("control.cn_rudder")))
    assert found - plain == pytest.approx(held, rel=0.02) and found * degrees < 0


def test_a_lone_motor_off_the_middle_is_held_by_rudder_and_a_pair_is_not():
    twin = load("demo:whimbrel")
    lone = evaluate(put(twin, "power.mounts[0].y", 0.1))
    assert lone.value("trim.thrust_rudder") > math.radians(3), "to starboard: nose to port, rudder to starboard"
    pair = evaluate(apply(twin, [Change("power.mounts[0].y", 0.1), Change("power.mounts[0].mirrored", True)]))
    offset = pair.value("balance.cg_y")
    assert abs(pair.value("trim.thrust_rudder")) < math.radians(0.5) + 10 * abs(offset)


def test_a_propeller_ahead_brings_the_neutral_point_forward_and_one_behind_aft(whimbrel):
    report = evaluate(whimbrel)
    shift = report.value("stability.propeller_shift")
    assert 0.001 < shift < 0.02
    assert report.results.balance.shift == pytest.approx(report.results.stability.body_shift + shift)
    aft = evaluate(put(whimbrel, "power.mounts[0].x", 0.9))
    assert aft.value("stability.propeller_shift") < 0
    # By moments: the same force with its own arm, weighted into the lift.
    terms = {t.symbol: t.value for t in report.figures["stability.propeller_shift"].working.terms}
    k = terms["N"] * terms["C_N"] * terms["A"] / terms["S"]
    moved = (terms["a"] * terms["n"] + k * terms["x"]) / (terms["a"] + k)
    assert terms["n"] - moved == pytest.approx(shift)


def test_a_ducted_fan_blows_clear_of_its_airframe(whimbrel):
    fan = evaluate(put(whimbrel, "power.propeller.family", "ducted_fan"))
    assert fan.value("power.wash_drag") == 0 and fan.value("stability.propeller_shift") is None
    assert fan.value("control.elevator_wash") in (None, 1.0)


def test_the_scrubbed_tube_is_narrower_than_the_disc_and_a_loss_has_an_end():
    def lost(distance, area, behind=0.3):
        thin = Strips(*(np.array([v]) for v in (behind, distance, 1e-6, area)))
        return thrust_lost(Scrubbed(thin, 1), 0.2)

    disc = math.pi * 0.01
    assert lost(0.084, 0.002) == pytest.approx(0.002 / disc) and lost(0.086, 0.002) == 0, "85 % of the radius"
    assert lost(0.0, 0.002, -0.1) == 0 and lost(0.0, 0.02) == 0.35 and thrust_lost(None, 0.2) == 0
    two = Strips(*(np.array([v, v]) for v in (0.3, 0.0, 0.01, 0.002)))
    assert thrust_lost(Scrubbed(two, 2), 0.2) == pytest.approx(0.002 / disc), "each propeller with what is behind it"


def test_bands_of_the_wash_are_those_its_guesses_have(whimbrel):
    figures = evaluate(whimbrel).figures
    lost = figures["power.wash_drag"]
    assert lost.above == pytest.approx(math.hypot(0.5 * lost.value, 0.01))
    ratio = figures["control.elevator_wash"]
    s, v, V = (next(t for t in ratio.working.terms if t.symbol == name) for name in "svV")
    assert (1.645 * s.sigma / s.value, 1.645 * v.sigma / v.value, V.sigma) == pytest.approx((0.4, 0.2, 0.0))
    shift = figures["stability.propeller_shift"]
    assert shift.above == pytest.approx(0.4 * shift.value, rel=0.02)
    torque = next(t for t in figures["trim.torque_aileron"].working.terms if t.symbol == "Q")
    standing = evaluate(whimbrel).results.standing
    doubt = standing.sigmas["shaft_power"] / float(standing.point.shaft_power)
    assert torque.sigma / torque.value == pytest.approx(math.hypot(0.25 / 1.645, doubt))
    flown = {t.symbol: t for t in figures["stability.neutral_in_flight"].working.terms}
    assert 1.645 * flown["a"].sigma == pytest.approx(math.radians(2))
    height = next(t for t in figures["trim.elevator"].working.terms if t.symbol == "z")
    assert height.sigma == 0.05


@pytest.mark.parametrize(("share", "told"), [(0.55, False), (0.65, True)])
def test_torque_is_told_past_three_fifths_of_the_aileron(whimbrel, share, told):
    # A plain flap's small throws count alike, so that the share follows the throw.
    throw = evaluate(whimbrel).value("launch.torque_aileron") / share
    changes = [Change(f"surfaces[0].controls[0].{way}", throw) for way in ("up", "down")]
    report = evaluate(apply(whimbrel, changes))
    assert report.value("launch.torque_aileron") / throw == pytest.approx(share, rel=0.05)
    assert any(f.key == "launch.torque" for f in report.findings) == told
