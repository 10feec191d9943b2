"""The simulation on plain numbers: energy, mirror images, steps, trims, tow lines, and its own motions."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.engine.aero import modes
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.flight.air_forces import STALLS_OVER, pulled, separated
from ridgeline.engine.flight.craft import Aircraft, Drag, Held, Pull
from ridgeline.engine.flight.six_degrees import (
    PLACE,
    RATES,
    VELOCITY,
    angles_of,
    fly,
    rates_of,
    state_of,
    to_body,
    to_earth,
)
from ridgeline.engine.flight.trimmed import linearised, steady

DENSITY = 1.225
SPEEDS = np.linspace(1.0, 60.0, 40)
NO_DRAG = Drag(SPEEDS, np.zeros(40), 0.0, 0.0, 0.0)
DRAG = Drag(SPEEDS, np.full(40, 0.012), 0.02, 0.3, 0.06)


def craft(**told) -> Aircraft:
    """A small aircraft with a tail, balanced ahead of its neutral point."""
    base = Aircraft(
        mass=0.75, roll_inertia=0.02, pitch_inertia=0.03, yaw_inertia=0.045, area=0.25, span=1.3, chord=0.2,
        centre=(0.0, 0.0), lift_zero=0.25, lift_alpha=4.6, lift_rate=5.0, lift_control=0.4, pitch_zero=0.02,
        pitch_alpha=-0.5, pitch_rate=-11.0, pitch_lag=-3.0, pitch_control=-1.2, lift_most=1.15, drag=DRAG,
        normal_plate=1.23, side_beta=-0.35, roll_beta=-0.06, roll_beta_lift=-0.02, yaw_beta=0.05, side_rate=0.2,
        roll_roll=-0.45, roll_yaw=0.02, roll_yaw_lift=0.22, yaw_roll=0.0, yaw_roll_lift=-0.125, yaw_yaw=-0.07,
        roll_aileron=0.2, roll_rudder=0.005, yaw_rudder=-0.05,
    )  # fmt: skip
    return replace(base, **told)


def thrust(newtons: float = 3.0, at=(0.2, 0.0, 0.0), along=(1.0, 0.0, 0.0), **told) -> Pull:
    throttle, speed = np.array([0.0, 0.5, 1.0]), np.array([0.0, 15.0, 30.0])
    table = newtons * throttle[:, None] * np.array([1.0, 0.6, 0.0])[None, :]
    return Pull(throttle, speed, table, 0.02 * table, at, along, **told)


def held(**told):
    fixed = Held(**told)
    return lambda _time, _state: fixed


# -- geometry and mechanics -------------------------------------------------------------------------------------------


@given(st.floats(-3, 3), st.floats(-1.4, 1.4), st.floats(-3, 3), st.lists(st.floats(-5, 5), min_size=3, max_size=3))
def test_turning_there_and_back_changes_nothing_and_angles_are_those_put_in(bank, pitch, yaw, vector):
    q = state_of(speed=10.0, bank=bank, pitch=pitch, yaw=yaw)[6:10]
    v = np.array(vector)[:, None]
    assert to_body(q, to_earth(q, v)) == pytest.approx(v, abs=1e-9)
    assert [float(angle[0]) for angle in angles_of(q)] == pytest.approx([bank, pitch, yaw], abs=1e-9)


def test_a_state_along_a_path_moves_along_it():
    state = state_of(speed=10.0, path=0.2, pitch=0.3)
    moved = to_earth(state[6:10], state[VELOCITY])[:, 0]
    assert moved == pytest.approx([10 * math.cos(0.2), 0.0, -10 * math.sin(0.2)])


def energy(craft_, path):
    v = (path.state[:, VELOCITY] ** 2).sum(axis=1)
    return 0.5 * craft_.mass * v + craft_.mass * GRAVITY * path.height


def test_energy_holds_with_lift_alone_in_still_air():
    # Drag and every damping that would turn it into rotation off: lift does no work.
    free = craft(drag=NO_DRAG, side_beta=0.0, side_rate=0.0)
    start = state_of(place=(0, 0, 100.0), speed=12.0, pitch=0.1, path=0.05)
    path = fly(free, None, start, held(), seconds=6.0, density=DENSITY)
    total = energy(free, path)
    assert np.abs(total / total[0] - 1).max() < 1e-4


def test_energy_is_lost_to_drag_by_its_power():
    dragged = craft(side_beta=0.0, side_rate=0.0)
    flight = steady(dragged, None, speed=12.0, density=DENSITY)
    path = fly(dragged, None, flight.state(100.0), held(pitch=float(flight.pitch[0])), seconds=4.0, density=DENSITY)
    sink = -(path.height[-1, 0] - path.height[0, 0]) / path.time[-1]
    assert sink == pytest.approx(-12.0 * math.sin(flight.path[0]), rel=1e-6)


def test_a_mirrored_start_gives_the_mirrored_path():
    bank, yaw, roll, aileron = np.random.default_rng(4).uniform(-0.3, 0.3, (4, 24))
    paths = []
    for sign in (1, -1):
        start = state_of(place=(0, 0, 50.0), speed=12.0, pitch=0.05, bank=sign * bank, yaw=sign * yaw,
                         rates=(sign * roll, 0.1, 0.0), builds=24)  # fmt: skip
        paths.append(fly(craft(), None, start, held(aileron=sign * aileron), seconds=2.0, density=DENSITY))
    one, other = (path.state[:, PLACE] for path in paths)
    assert other == pytest.approx(one * np.array([1, -1, 1])[:, None], abs=1e-9)


def test_half_the_step_changes_the_end_by_less_than_a_hundredth():
    start = state_of(place=(0, 0, 30.0), speed=8.0, pitch=0.3, path=0.2, bank=0.1)
    ends = [
        fly(craft(), thrust(sense=1.0), start, held(throttle=0.8), seconds=2.5, density=DENSITY, rate=rate, every=1)
        for rate in (200.0, 400.0)
    ]
    one, other = (path.state[-1, PLACE, 0] for path in ends)
    assert np.abs(one - other).max() < 0.01 * np.abs(other - start[PLACE, 0]).max()


def test_a_body_without_air_tumbles_about_its_axes_as_one_does():
    # Free rotation: its angular momentum in earth axes and its energy stay.
    body = craft(product=0.003)
    start = state_of(place=(0, 0, 1e4), speed=0.001, rates=(3.0, 0.5, -1.0))
    path = fly(body, None, start, held(), seconds=3.0, density=1e-12, ground=lambda x: np.full_like(x, -np.inf))
    inertia = np.array([[0.02, 0, -0.003], [0, 0.03, 0], [-0.003, 0, 0.045]])
    momenta = [to_earth(s[6:10], inertia @ s[RATES])[:, 0] for s in path.state]
    assert momenta[-1] == pytest.approx(momenta[0], rel=1e-5, abs=1e-8)


# -- trims ------------------------------------------------------------------------------------------------------------


def test_a_trimmed_state_stays_for_twenty_seconds():
    speed, throttle = (grid.ravel() for grid in np.meshgrid([9.0, 12.0, 15.0, 20.0], [0.0, 0.5, 1.0]))
    # A torque that nothing holds rolls it away.
    pull = thrust(sense=0.0)
    flight = steady(craft(), pull, speed=speed, density=DENSITY, throttle=throttle)
    assert flight is not None
    start = flight.state(900.0)
    path = fly(
        craft(), pull, start, held(pitch=flight.pitch, throttle=throttle), seconds=20.0, density=DENSITY, rate=100.0
    )
    moved = path.state[-1, VELOCITY] - start[VELOCITY]
    assert np.abs(moved).max() < 1e-3 * speed.min()


def test_level_flight_takes_the_throttle_that_meets_its_drag():
    pull = thrust()
    flight = steady(craft(), pull, speed=14.0, density=DENSITY, path=0.0)
    made, _torque = pulled(pull, flight.throttle, flight.speed * np.cos(flight.alpha))
    change = rates_of(craft(), pull, flight.state(), flight.held, (0, 0, 0), DENSITY)
    assert np.abs(change[[3, 5, 11]]).max() < 1e-8 and 0 < float(flight.throttle[0]) < 1 and float(made[0]) > 0


def test_many_builds_are_trimmed_at_once_each_as_by_itself():
    masses = np.array([0.6, 0.75, 0.9])
    many = steady(craft(mass=masses), None, speed=12.0, density=DENSITY)
    for k, mass in enumerate(masses):
        alone = steady(craft(mass=mass), None, speed=12.0, density=DENSITY)
        assert float(many.alpha[k]) == pytest.approx(float(alone.alpha[0]), abs=1e-9)


def test_a_balance_point_behind_the_neutral_point_diverges_and_a_small_margin_does_not():
    # Moments are told about the neutral point itself: the balance point stands so many chords ahead of it.
    ahead = np.array([0.02, -0.02])
    built = craft(pitch_alpha=0.0, centre=(-ahead * 0.2, 0.0), pitch_zero=ahead * 0.5, lift_control=0.0)
    flight = steady(built, None, speed=12.0, density=DENSITY)
    start = flight.state(900.0)
    start[5] += 0.1
    path = fly(built, None, start, held(pitch=flight.pitch), seconds=25.0, density=DENSITY, rate=100.0)
    alpha = np.arctan2(path.state[:, 5], path.state[:, 3]) - flight.alpha
    grown = np.abs(alpha).max(axis=0) / np.abs(alpha[0])
    assert grown[0] < 3 < grown[1]


# -- the stall, the motor, the tow ------------------------------------------------------------------------------------


def test_flow_separates_from_the_lift_limit_on_and_upside_down_earlier():
    stall = (1.15 - 0.25) / 4.6
    under = (-0.7 * 1.15 - 0.25) / 4.6
    angles = np.array([stall - 0.01, stall + STALLS_OVER / 2, stall + STALLS_OVER, under + 0.01, under - STALLS_OVER])
    assert separated(craft(), angles) == pytest.approx([0.0, 0.5, 1.0, 0.0, 1.0], abs=1e-12)


def forces(alpha: float, **told) -> tuple[float, float]:
    """Lift and drag coefficients at an angle, straight ahead."""
    state = state_of(speed=10.0, pitch=alpha)
    change = rates_of(craft(**told), None, state, Held(), (0, 0, 0), DENSITY)
    load = 0.5 * DENSITY * 100 * 0.25 / 0.75
    x, z = change[3, 0] + GRAVITY * math.sin(alpha), change[5, 0] - GRAVITY * math.cos(alpha)
    return (x * math.sin(alpha) - z * math.cos(alpha)) / load, -(x * math.cos(alpha) + z * math.sin(alpha)) / load


def test_a_plate_across_the_wind_drags_as_a_plate():
    lift, drag = forces(math.pi / 2)
    # All of it normal: C_N90, and what skin and standing parts add.
    assert lift == pytest.approx(0.0, abs=1e-9) and drag == pytest.approx(1.23 + 0.012 / 0.25)
    lift, drag = forces(math.radians(45))
    normal = 1.23 * math.sin(math.pi / 4) / (0.56 + 0.44 * math.sin(math.pi / 4))
    assert lift == pytest.approx(normal * math.cos(math.pi / 4))


def test_lift_and_drag_are_continuous_over_the_stall_and_lift_falls_past_it():
    angles = np.radians(np.linspace(-40, 60, 801))
    lifts, drags = np.array([forces(float(a)) for a in angles]).T
    assert np.abs(np.diff(lifts)).max() < 0.03 and np.abs(np.diff(drags)).max() < 0.03
    past = lifts[angles > (1.15 - 0.25) / 4.6 + STALLS_OVER]
    assert past[0] < 1.15 and lifts.max() < 1.3


def test_a_stalled_plate_pitches_about_its_own_centre_of_pressure():
    state = state_of(speed=10.0, pitch=math.pi / 2)
    # Without the wash's lag: falling turns the angle too.
    change = rates_of(craft(pitch_lag=0.0), None, state, Held(), (0, 0, 0), DENSITY)
    load = 0.5 * DENSITY * 100 * 0.25
    # A fifth of the chord behind the quarter chord, which here is the balance point.
    assert float(change[11, 0]) == pytest.approx(-load * 1.23 * 0.20 * 0.2 / 0.03)


def test_roll_is_damped_before_the_stall_and_driven_past_it():
    def rolled(alpha):
        state = state_of(speed=10.0, pitch=alpha, rates=(0.5, 0.0, 0.0))
        return float(rates_of(craft(roll_yaw_lift=0.0), None, state, Held(), (0, 0, 0), DENSITY)[10, 0])

    assert rolled(0.05) < 0 < rolled(0.5)


def test_a_motor_follows_its_throttle_and_its_torque_rolls_the_aircraft_left():
    pull = thrust(sense=1.0)
    start = state_of(place=(0, 0, 100.0), speed=12.0)
    path = fly(craft(), pull, start, held(throttle=1.0), seconds=0.25, density=DENSITY, every=1)
    assert path.state[-1, 13, 0] == pytest.approx(1 - math.exp(-1), rel=1e-4)
    full = state_of(speed=12.0, runs=1.0)
    turned = rates_of(craft(), pull, full, Held(throttle=1.0), (0, 0, 0), DENSITY)
    bare = rates_of(craft(), replace(pull, sense=0.0), full, Held(throttle=1.0), (0, 0, 0), DENSITY)
    _thrust, torque = pulled(pull, np.array([1.0]), np.array([12.0]))
    assert float(turned[10, 0] - bare[10, 0]) == pytest.approx(-float(torque[0]) / 0.02)


@given(st.floats(0, 1), st.floats(0, 30))
def test_thrust_between_the_rows_of_its_table_is_between_them(runs, speed):
    made, _torque = pulled(thrust(), np.array([runs]), np.array([speed]))
    assert 0 <= float(made[0]) <= 3.0 * runs + 1e-12


def test_a_line_through_the_balance_point_gives_no_moment_and_one_under_it_pulls_the_nose_up():
    # Without the wash's lag: a pull changes the angle, and that the moment, wherever it pulls.
    state, plain = state_of(speed=12.0), craft(pitch_lag=0.0)

    def turned(hook):
        pull = np.array([[5.0], [0.0], [-2.0]])
        return rates_of(plain, None, state, Held(), (0, 0, 0), DENSITY, (pull, hook))[RATES, 0]

    bare = rates_of(plain, None, state, Held(), (0, 0, 0), DENSITY)[RATES, 0]
    assert turned((0.0, 0.0, 0.0)) == pytest.approx(bare)
    # Along the pull itself neither.
    assert turned((0.5, 0.0, -0.2)) == pytest.approx(bare)
    assert turned((0.0, 0.0, 0.1))[1] > bare[1] + 1.0


@pytest.mark.parametrize(("helix", "driven"), [(0.2, True), (0.38, True), (0.45, False), (0.8, False)])
def test_a_stalled_wing_drives_its_roll_until_the_rate_brings_it_out(helix, driven):
    built, v = craft(pitch_lag=0.0, yaw_roll=0.0, yaw_roll_lift=0.0, roll_beta=0.0), 12.0
    rate = helix * 2 * v / built.span
    deep = math.radians(40.0)
    still = state_of(speed=v, pitch=deep)
    rolling = state_of(speed=v, pitch=deep, rates=(rate * math.cos(deep), 0.0, rate * math.sin(deep)))
    more = [rates_of(built, None, one, Held(), (0, 0, 0), DENSITY)[RATES, 0] for one in (still, rolling)]
    # About the direction the air comes from.
    turned = (more[1] - more[0])[0] * math.cos(deep) + (more[1] - more[0])[2] * math.sin(deep)
    assert (turned > 0) == driven


# -- small motions ----------------------------------------------------------------------------------------------------


def test_the_linear_motions_are_those_of_the_textbook_matrices():
    built = craft(pitch_lag=0.0, lift_rate=0.0, side_rate=0.0, roll_zero=0.0)
    v = 13.0
    flight = steady(built, None, speed=v, density=DENSITY)
    along, across = linearised(built, None, flight, DENSITY)
    load = 0.5 * DENSITY * v * v * 0.25
    force, pitch = load / (0.75 * v), load * 0.2 / 0.03
    c_l = 0.75 * GRAVITY * math.cos(flight.path[0]) / load
    # The lift of the control held in trim goes along with the lift of the angle.
    drag_alpha = 4.6 * (2 * 0.02 * (c_l - 0.3) + 2 * 0.06 * c_l)
    c_d = -0.75 * GRAVITY * math.sin(flight.path[0]) / load
    book = modes.longitudinal_matrix(
        x_u=-2 * c_d * force, x_w=(c_l - drag_alpha) * force, z_u=-2 * c_l * force, z_w=-(4.6 + c_d) * force,
        m_w=-0.5 * pitch / v, m_q=-11.0 * 0.2 / (2 * v) * pitch, speed=v,
    )  # fmt: skip
    ours, theirs = modes.lengthwise(along), modes.lengthwise(book)
    for one, other in ((ours.short_period, theirs.short_period), (ours.phugoid, theirs.phugoid)):
        assert one.frequency == pytest.approx(other.frequency, rel=0.01)
    assert ours.short_period.rate == pytest.approx(theirs.short_period.rate, rel=0.01)
    swing = modes.sideways(across).dutch_roll
    assert swing is not None and swing.frequency == pytest.approx(math.sqrt(load * 1.3 * 0.05 / 0.045), rel=0.15)


def test_what_is_flown_moves_as_its_own_linear_motion_says():
    built = craft()
    flight = steady(built, None, speed=13.0, density=DENSITY)
    along, _across = linearised(built, None, flight, DENSITY)
    swing = modes.lengthwise(along).phugoid
    start = flight.state(400.0)
    start[3] += 0.05
    path = fly(
        built, None, start, held(pitch=float(flight.pitch[0])), seconds=3 * swing.period, density=DENSITY, rate=100.0
    )
    u = path.state[:, 3, 0] - float(flight.state()[3, 0])
    crossings = path.time[1:][(u[1:] > 0) & (u[:-1] <= 0)]
    assert np.diff(crossings).mean() == pytest.approx(swing.period, rel=0.02)
