"""First throws: what a build can be off by, ghosts, odds, tow line, take-off run, and other moments flown on paper."""

from __future__ import annotations

import json
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.document import Design
from ridgeline.design.flights import Flight
from ridgeline.design.paths import apply, put
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.flight import odds as odds_module
from ridgeline.engine.flight.builds import DRAWN, Draws, drawn, sigmas_of, thrown_as
from ridgeline.engine.flight.ghosts import GHOST_BALANCE, GHOST_WIND, ghosts_of, with_ghosts
from ridgeline.engine.flight.launch import DELAY, OUTCOMES, PER_BANK, wind_at
from ridgeline.engine.flight.modelled import aircraft_of
from ridgeline.engine.flight.odds import BUILDS, NOISE, Lever, ballast_of, ballast_place, odds_of, ranked
from ridgeline.engine.flight.run import GRASS, LIFT_OFF, rotation_left, run_length, stance_of
from ridgeline.engine.flight.scenes import APPROACH, BANKED, WINDY, fly_scene, scenes_of
from ridgeline.engine.flight.six_degrees import state_of
from ridgeline.engine.flight.slips import Slips, columns_of, slipped
from ridgeline.engine.flight.throw_figures import thrown_figures
from ridgeline.engine.flight.throwing import PART, TRIM_SPEED, launch_of, sticks_used, throw_all
from ridgeline.engine.flight.towing import SLIPS_OFF, bungee
from ridgeline.engine.flight.trimmed import steady
from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import load
from ridgeline.start import main
from twin_motors import twin


@pytest.fixture(scope="module")
def flown():
    """The Whimbrel, its report, and its launch for three seconds."""
    design = put(load("demo:whimbrel"), "first_throw.seconds", 3.0)
    report = evaluate(design)
    return design, report, launch_of(design, report)


@pytest.fixture(scope="module")
def ghosts(flown):
    design, _report, launch = flown
    keys = ghosts_of(design, launch)
    return keys, with_ghosts(launch, keys)


# -- what a build can be off by ---------------------------------------------------------------------------------------


def off(design, **slips):
    """The coefficients of a design with slips put on them."""
    report = evaluate(design)
    columns = columns_of(report.results.lattice, design.surfaces)
    return slipped(aircraft_of(report), None, columns, Slips(**slips))[0]


@pytest.mark.parametrize(
    ("slip", "path", "by"),
    [
        ("tail", "surfaces[1].incidence", 0.01),
        ("wing", "surfaces[0].incidence", 0.01),
    ],
)
def test_incidences_that_slip_do_what_drawing_them_so_would(whimbrel, slip, path, by):
    was = float(eval_path(whimbrel, path))
    drawn_so, told = aircraft_of(evaluate(put(whimbrel, path, was + by))), off(whimbrel, **{slip: by})
    for name in ("lift_zero", "pitch_zero"):
        plain = getattr(aircraft_of(evaluate(whimbrel)), name)
        assert getattr(told, name) - plain == pytest.approx(getattr(drawn_so, name) - plain, rel=0.03, abs=2e-5)


def eval_path(design, path):
    from ridgeline.design.paths import get

    return get(design, path)


def test_warps_and_washout_that_slip_do_what_measuring_them_so_would(whimbrel):
    chord, angle = whimbrel.surfaces[0].stations[-1].chord, 0.01
    apart = chord * math.tan(angle)
    down = put(put(whimbrel, "surfaces[0].warp_starboard", -apart), "surfaces[0].warp_port", -apart)
    unlike = put(put(whimbrel, "surfaces[0].warp_starboard", apart), "surfaces[0].warp_port", -apart)
    plain = aircraft_of(evaluate(whimbrel))
    measured, told = aircraft_of(evaluate(down)), off(whimbrel, washout=angle)
    assert told.lift_zero < plain.lift_zero
    assert told.lift_zero - plain.lift_zero == pytest.approx(measured.lift_zero - plain.lift_zero, rel=0.05)
    assert off(whimbrel, warp=angle).roll_zero == pytest.approx(aircraft_of(evaluate(unlike)).roll_zero, rel=0.05)
    # Starboard nose up rolls it to port.
    assert off(whimbrel, warp=angle).roll_zero < 0


def test_a_balance_that_slips_does_what_moving_the_pack_would(whimbrel):
    index = next(k for k, part in enumerate(whimbrel.parts) if part.group == "battery")
    moved = put(whimbrel, f"parts[{index}].x", whimbrel.parts[index].x + 0.01)
    before, after = evaluate(whimbrel), evaluate(moved)
    by = float(after.results.masses.state.cg[0] - before.results.masses.state.cg[0])
    told, real = off(whimbrel, balance=by), aircraft_of(after)
    assert told.centre[0] == pytest.approx(real.centre[0])
    assert told.lift_rate == pytest.approx(real.lift_rate, rel=1e-3)
    assert told.pitch_rate == pytest.approx(real.pitch_rate, rel=1e-3)
    assert told.yaw_beta == pytest.approx(real.yaw_beta, rel=2e-3)


def test_weight_thrust_drag_and_throws_slip_by_what_they_are_told(flown):
    _design, _report, launch = flown
    craft, pull = slipped(
        launch.craft, launch.pull, launch.columns,
        Slips(mass=0.1, thrust=0.2, drag=0.3, throws=-0.1, lift_most=0.05, neutral=0.02, down=0.03, side=-0.02),
    )  # fmt: skip
    assert craft.mass == pytest.approx(1.1 * launch.craft.mass)
    assert craft.yaw_inertia == pytest.approx(1.1 * launch.craft.yaw_inertia)
    assert craft.drag.factor == pytest.approx(math.exp(0.3)) and pull.factor == pytest.approx(math.exp(0.2))
    assert craft.roll_aileron == pytest.approx(launch.craft.roll_aileron * math.exp(-0.1))
    assert craft.lift_most == pytest.approx(1.05 * launch.craft.lift_most)
    margins = [-one.pitch_alpha / one.lift_alpha for one in (craft, launch.craft)]
    assert margins[0] - margins[1] == pytest.approx(0.02)
    assert pull.along[1] < launch.pull.along[1] and pull.along[2] > launch.pull.along[2]


# -- the throw --------------------------------------------------------------------------------------------------------


def test_elevator_stands_for_level_flight_at_thirteen_tenths_of_the_stall(flown):
    _design, report, launch = flown
    stall = report.results.speeds.stall
    level = steady(launch.craft, launch.pull, speed=TRIM_SPEED * stall, density=launch.density, path=0.0)
    assert launch.held.pitch == pytest.approx(float(level.pitch[0])) and launch.held.throttle == PART
    assert float(launch.throw.height) == 1.7 and launch.kind == "hand" and not launch.held_by


def test_what_is_planned_is_what_is_flown(flown):
    design, report, _launch = flown
    planned = design
    for field, value in (("speed", 9.0), ("angle", 0.2), ("height", 5.0), ("throttle", 0.4), ("trim", 0.05),
                         ("wind", 2.0), ("pilot", True)):  # fmt: skip
        planned = put(planned, f"first_throw.{field}", value)
    launch = launch_of(planned, report)
    assert (launch.throw.speed, launch.throw.path, launch.throw.height) == (9.0, 0.2, 5.0)
    assert launch.held.throttle == 0.4 and launch.held.pitch == -0.05 and launch.wind == 2.0 and launch.held_by


def test_half_the_step_ends_within_a_hundredth(flown):
    from ridgeline.engine.flight.launch import hands_off
    from ridgeline.engine.flight.six_degrees import fly

    _design, _report, launch = flown
    ends = []
    for rate in (200.0, 400.0):
        path = fly(
            launch.craft, launch.pull, launch.throw.state(), hands_off(launch.held), seconds=2.0,
            density=launch.density, rate=rate,
        )  # fmt: skip
        ends.append(path.state[-1, :3, 0])
    assert np.abs(ends[0] - ends[1]).max() < 0.01 * np.abs(ends[1]).max()


def test_ghosts_do_what_is_wrong_with_them(ghosts):
    keys, thrown = ghosts
    at = {key: k + 1 for k, key in enumerate(keys)}
    heights = thrown.path.height[-1]
    assert set(keys) == {"aft", "fore", "tail_wind", "half", "torque"}
    assert heights[at["aft"]] > heights[0] > heights[at["fore"]]
    assert thrown.outcome[at["half"]] == "sinks"
    start = thrown.told.airspeed[0]
    # A tail wind takes itself off the airspeed at the height of the hand.
    assert start[0] - start[at["tail_wind"]] == pytest.approx(float(wind_at(np.array([1.7]), GHOST_WIND)[0]), abs=0.02)
    assert abs(thrown.told.bank[-1, at["torque"]]) > abs(thrown.told.bank[-1, 0]) + 0.02
    assert GHOST_BALANCE == 0.010


def test_a_balance_told_further_aft_is_the_ghost_of_it(ghosts, flown):
    keys, thrown = ghosts
    _design, _report, launch = flown
    aft = throw_all(launch, Slips(balance=0.010))
    k = 1 + keys.index("aft")
    assert aft.path.height[-1, 0] == pytest.approx(thrown.path.height[-1, k])


def test_a_pilot_holds_what_torque_would_roll(flown):
    _design, _report, launch = flown
    both = throw_all(launch, builds=2, untorqued=1.0, piloted=np.array([0.0, 1.0]))
    assert abs(both.told.bank[-1, 1]) < 0.5 * abs(both.told.bank[-1, 0])
    used = sticks_used(launch, both)
    assert used.shape == (len(both.path.time), 2) and np.ptp(used) == 0.0


def test_wheels_are_flown_from_rotation_and_a_glider_without_throttle():
    design = load("demo:turnstone")
    launch = launch_of(design, evaluate(design))
    assert launch.kind == "wheels" and launch.held.throttle == 1.0 and launch.held_by
    assert float(launch.throw.speed) == pytest.approx(1.2 * launch.stall)
    glider = load("demo:plover")
    unpowered = launch_of(glider, evaluate(glider))
    assert unpowered.pull is None and unpowered.held.throttle == 0.0
    assert not {"half", "torque", "flaps"} & set(ghosts_of(glider, unpowered))
    swung = put(glider, "first_throw.kind", "swing")
    thrown = launch_of(swung, evaluate(swung))
    assert thrown.throw.yaw_rate == pytest.approx(float(thrown.throw.speed) / (thrown.craft.span / 2 + 0.6))


def test_who_flies_a_lively_one_gives_less_stick():
    design = load("demo:avocet")
    report = evaluate(design)
    launch = launch_of(design, report)
    who, craft = launch.human, launch.craft
    quick = craft.roll_aileron * who.aileron / -craft.roll_roll * 2 * TRIM_SPEED * launch.stall / craft.span
    assert who.per_bank == pytest.approx(min(PER_BANK, 0.6 / (DELAY * quick))) and who.per_bank < PER_BANK


def test_what_cannot_be_flown_has_no_launch():
    assert launch_of(Design(), evaluate(Design())) is None


# -- a tow line -------------------------------------------------------------------------------------------------------


def test_a_line_pulls_to_its_peg_and_slackens_on_the_way_there():
    line = bungee(20.0, 30.0, (0.02, 0.0, 0.03))
    near, hook = line(0.0, state_of(place=(0.0, 0.0, 1.0), speed=10.0))
    assert hook == (0.02, 0.0, 0.03)
    assert float(np.linalg.norm(near)) == pytest.approx(20.0, rel=0.01) and near[0, 0] > 0 and near[2, 0] > 0
    half, _hook = line(0.0, state_of(place=(15.0, 0.0, 1.0), speed=10.0))
    assert float(np.linalg.norm(half)) == pytest.approx(10.0, rel=0.02)


@pytest.mark.parametrize("steep", [math.degrees(SLIPS_OFF) - 2, math.degrees(SLIPS_OFF) + 2])
def test_the_ring_slips_off_when_the_line_stands_steeply(steep):
    ahead = 5.0
    place = (30.0 - ahead, 0.0, ahead * math.tan(math.radians(steep)))
    force, _hook = bungee(20.0, 30.0, (0.0, 0.0, 0.0))(0.0, state_of(place=place, speed=10.0))
    assert (float(np.linalg.norm(force)) > 0) == (steep < math.degrees(SLIPS_OFF))
    past, _hook = bungee(20.0, 30.0, (0.0, 0.0, 0.0))(0.0, state_of(place=(31.0, 0.0, 5.0), speed=10.0))
    assert float(np.linalg.norm(past)) == 0.0


# -- odds -------------------------------------------------------------------------------------------------------------


def test_builds_are_drawn_from_the_bands_the_reckoned_one_first(flown):
    design, report, launch = flown
    sigmas = sigmas_of(design, report, launch)
    assert set(sigmas) == set(DRAWN) and all(one >= 0 for one in sigmas.values())
    assert sigmas["mass"] == pytest.approx(report.figures["mass.auw"].sigma / report.value("mass.auw"))
    assert sigmas["balance"] == pytest.approx(float(report.results.masses.state.sigma_cg[0]))
    many = drawn(sigmas, 4000, 1)
    for name in DRAWN:
        assert many.values[name][0] == 0.0
        assert many.values[name].std() == pytest.approx(sigmas[name], rel=0.06)
        assert np.abs(many.values[name]).max() <= 2.5 * sigmas[name] + 1e-12
    again = drawn(sigmas, 4000, 1)
    assert all(np.array_equal(again.values[name], many.values[name]) for name in DRAWN)


@given(st.integers(0, 400))
def test_an_error_that_rules_is_ranked_first_and_noise_is_not_told(seed):
    rng = np.random.default_rng(seed)
    values = {name: rng.normal(size=BUILDS) for name in ("one", "two", "idle")}
    reached = 3 * values["one"] - 1.2 * values["two"] + 0.3 * rng.normal(size=BUILDS)
    found = ranked(values, reached, dict.fromkeys(values, 1.0))
    assert [row.name for row in found[:2]] == ["one", "two"]
    assert found[0].correlation > 0.8 and found[1].correlation <= -NOISE
    assert all(abs(row.correlation) >= NOISE for row in found)
    assert ranked(values, np.zeros(BUILDS), dict.fromkeys(values, 1.0)) == ()


def test_a_lever_is_guessed_by_the_builds_drawn_near_there():
    rng = np.random.default_rng(4)
    row = rng.normal(size=40_000)
    draws = Draws({"balance": row}, {"balance": 1.0})
    well = row < 0.3
    # Moved by −1, what was drawn from a normal is well below 1.3.
    from scipy.stats import norm

    assert odds_module._guessed(Lever("balance", -1.0), draws, well, {}) == pytest.approx(norm.cdf(1.3), abs=0.02)
    assert odds_module._guessed(Lever("other", 0.1), draws, well, {"other": 0.5}) == pytest.approx(well.mean() + 0.05)


def test_a_glider_is_balanced_by_weight_at_its_nose():
    design = load("demo:plover")
    report = evaluate(design)
    weight, (x, _z) = ballast_of(design, report, -0.005), ballast_place(design, -0.005)
    state = report.results.masses.state
    moved = (state.mass * state.cg[0] + weight * x) / (state.mass + weight)
    assert moved == pytest.approx(float(state.cg[0]) - 0.005, abs=1e-6)
    assert ballast_place(design, 0.005)[0] > x
    assert ballast_of(load("demo:whimbrel"), report, -0.005) == 0.0


def test_odds_tell_what_became_of_builds_and_remedies_raise_them(flown):
    design, report, _launch = flown
    quick = launch_of(put(design, "first_throw.seconds", 2.5), report)
    asked = []
    found = odds_of(design, report, quick, builds=40, seed=2, progress=lambda share: asked.append(share) and False)
    for one in (found.piloted, found.alone):
        assert sum(one.shares.values()) == pytest.approx(1.0) and set(one.shares) == set(OUTCOMES)
        assert one.well == pytest.approx(one.shares["climbs"] + one.shares["holds"])
        assert one.sigma == pytest.approx(math.sqrt(max(one.well * (1 - one.well), 1 / 40) / 40), rel=0.02)
    assert found.piloted.well > found.alone.well
    assert all(one.odds > found.judged.well for one in found.better) and len(found.better) <= 3
    assert found.fan[0].shape == found.fan[1].shape and found.fan[0].shape[1] == len(found.fan[2])
    assert asked == sorted(asked) and asked[-1] <= 1.0
    lowest, share = thrown_figures(found)
    assert share.value == pytest.approx(found.piloted.well) and lowest.value == pytest.approx(found.lowest[0])
    assert share.sigma > 0 and share.high > share.value
    # The lowest is of the throw as planned, hands off here, whoever's flights are judged.
    assert not quick.held_by and found.lowest[0] == pytest.approx(float(throw_all(quick, every=10).told.lowest[0]))
    again = odds_of(design, report, quick, builds=40, seed=2, remedies=False)
    assert again.piloted == found.piloted and again.better == ()


def test_a_remedy_gains_what_the_same_builds_gain_by_it(flown):
    design, report, _launch = flown
    quick = launch_of(put(design, "first_throw.seconds", 2.0), report)
    draws = drawn(sigmas_of(design, report, quick), 80, 3)
    plain = odds_module._well(thrown_as(quick, draws.values, seed=3, piloted=1.0), quick)
    nothing = [Lever("path", 0.0), Lever("wind", 0.0), Lever("speed", 0.0)]
    found = odds_module._flown_again(quick, nothing, draws, plain, 3, True, lambda _share: False)
    # What does nothing gains nothing, though fewer builds are flown again than were at first.
    assert [one.odds for one in found] == pytest.approx([plain.mean()] * 3)


def test_odds_are_left_off_when_asked(flown):
    design, report, launch = flown
    asked = []

    def stop(share):
        asked.append(share)
        return len(asked) > 3

    assert odds_of(design, report, launch, builds=20, progress=stop) is None
    assert max(asked) < 0.2


def test_a_build_drawn_as_reckoned_flies_the_plan(flown):
    _design, _report, launch = flown
    nothing = {name: np.zeros(2) for name in DRAWN}
    thrown = thrown_as(launch, nothing, seed=1)
    alone = throw_all(launch, every=10)
    assert thrown.path.state[-1, :3, 1] == pytest.approx(alone.path.state[-1, :3, 0])


# -- wheels -----------------------------------------------------------------------------------------------------------


@given(st.floats(0.3, 12), st.floats(1, 30), st.floats(4, 20), st.floats(0, 3))
def test_a_run_under_a_constant_force_is_the_closed_form(mass, force, lift_off, wind):
    speed = np.linspace(0, 40, 30)
    found = run_length(speed, np.full(30, force), mass=mass, lift_off=lift_off, wind=wind)
    assert found == pytest.approx(mass * (lift_off - wind) ** 2 / (2 * force), rel=1e-3)


def test_a_run_that_never_ends_has_no_length_and_a_gale_needs_none():
    speed = np.linspace(0, 20, 20)
    assert run_length(speed, 5 - speed, mass=1.0, lift_off=8.0) is None
    assert run_length(speed, 5 - speed, mass=1.0, lift_off=8.0, wind=9.0) == 0.0


def test_the_run_of_a_design_is_that_of_its_forces(whimbrel):
    report = evaluate(whimbrel)
    figure = report.figures["flight.takeoff_run"]
    craft, stall = aircraft_of(report), report.results.speeds.stall
    off, wind = LIFT_OFF * stall, whimbrel.brief.head_wind
    # Bounds: the force at either end of the run, held.
    pulling = report.results.pulling
    thrust = [float(np.interp(v, pulling.speed, pulling.point.thrust)) for v in (wind, off)]
    pressed = 0.5 * report.results.air.density * off**2 * craft.area
    most = thrust[0]
    least = thrust[1] - GRASS * craft.mass * GRAVITY - 0.1 * pressed
    ends = [craft.mass * (off - wind) ** 2 / (2 * force) for force in (most, max(least, 0.1))]
    assert ends[0] < figure.value < ends[1] and figure.low < figure.value < figure.high
    assert evaluate(load("demo:plover")).figures["flight.takeoff_run"].why_not == "it has no wheels"
    calm = evaluate(put(whimbrel, "brief.head_wind", 0.0)).value("flight.takeoff_run")
    assert calm > figure.value


def test_it_tips_where_the_balance_point_passes_its_wheels():
    wheels = np.array([[0.30, 0.1, -0.10], [0.90, 0.0, -0.05]])
    stance = stance_of(wheels, np.array([0.35, 0.0, 0.02]))
    assert stance.behind == pytest.approx(-0.05) and stance.tips == pytest.approx(math.atan2(0.05, 0.12))
    assert stance_of(np.zeros((0, 3)), np.zeros(3)) is None


def test_the_nose_wheel_lifts_where_the_pitch_control_outweighs_what_holds_it_down():
    told = {"mass": 1.0, "behind": 0.05, "high": 0.1, "steady": 0.0, "thrust": 5.0, "thrust_arm": 0.0}
    needed = GRAVITY * (0.05 + GRASS * 0.1)
    assert rotation_left(**told, most=2 * needed) == pytest.approx(0.5)
    assert rotation_left(**told, most=0.5 * needed) == pytest.approx(-1.0)
    assert rotation_left(**{**told, "steady": 10.0}, most=0.1) == 1.0


# -- other moments ----------------------------------------------------------------------------------------------------


def test_an_approach_comes_in_along_its_glide(flown):
    design, report, launch = flown
    assert scenes_of(design, launch) == ("throw", "approach", "downwind")
    _keys, thrown, used = fly_scene("approach", design, report, launch)
    glide = steady(launch.craft, None, speed=TRIM_SPEED * launch.stall, density=launch.density)
    far = float(thrown.path.state[-1, 0, 0])
    assert far == pytest.approx(APPROACH / math.tan(-float(glide.path[0])), rel=0.02)
    assert used.pull is None and thrown.outcome == ("sinks",)


def test_flaps_bring_it_in_slower_and_steeper():
    design = load("demo:stint")
    controls = design.surfaces[0].controls
    flap = {"kind": "flap", "start": 0.05, "end": 0.25, "chord_fraction": 0.25}
    design = put(design, "surfaces[0].controls[-]", flap) if not controls else put(
        design, "surfaces[0].controls[0].kind", "flaperon")  # fmt: skip
    report = evaluate(design)
    launch = launch_of(design, report)
    assert launch.flaps.angle > 0 and launch.flaps.limit > 0
    keys, thrown, _used = fly_scene("approach", design, report, launch)
    assert keys == ("lowered",)
    assert thrown.told.airspeed[0, 1] < thrown.told.airspeed[0, 0]
    assert thrown.path.state[-1, 0, 1] < thrown.path.state[-1, 0, 0]
    assert "flaps" in ghosts_of(design, launch)


def test_turning_downwind_in_a_steady_wind_costs_no_airspeed_and_gusts_do(flown):
    design, report, launch = flown
    keys, thrown, _used = fly_scene("downwind", design, report, launch)
    assert keys == ("calm", "in_gusts")
    speed = thrown.told.airspeed
    assert np.abs(speed[:, 0] - speed[:, 1]).max() < 1e-6
    assert speed[:, 2].min() < speed[:, 0].min() - 0.2
    # Over the ground it is carried along by the wind.
    drift = thrown.path.state[-1, 0, 1] - thrown.path.state[-1, 0, 0]
    assert drift == pytest.approx(WINDY * thrown.path.time[-1], rel=1e-6)
    assert thrown.told.bank.max() > 0.8 * BANKED


def test_one_motor_out_turns_it_to_the_dead_side_and_a_pilot_holds_it():
    design = twin(load("demo:lapwing"))
    report = evaluate(design)
    launch = launch_of(design, report)
    assert "engine_out" in scenes_of(design, launch)
    keys, thrown, used = fly_scene("engine_out", design, report, launch)
    assert keys == ("held",) and used.pull.at[1] == pytest.approx(0.3, abs=0.03)
    # Port stopped: it turns and rolls to port.
    assert thrown.path.state[:, 1, 0].min() < -1.0 and thrown.told.bank[:, 0].min() < -0.2
    assert np.abs(thrown.told.bank[-1, 1]) < np.abs(thrown.told.bank[:, 0]).max()


# -- the command line -------------------------------------------------------------------------------------------------


def test_a_throw_by_command_tells_its_path(capsys):
    words = ["throw", "demo:whimbrel", "--set", "first_throw.seconds=1.5", "--cg", "-10mm", "--wind", "3", "--json"]
    assert main(words) == 0
    told = json.loads(capsys.readouterr().out)
    first = told["path"][0]
    assert set(first) == {"t", "x", "y", "h", "V", "alpha", "bank"} and first["h"] == 1.7
    assert told["outcome"] in OUTCOMES and told["launch"]["wind"] == 3.0 and told["odds"] is None
    assert set(told["ghosts"]) == {"aft", "fore", "tail_wind", "half", "torque"}
    assert main([*words[:-5], "--odds", "6", "--seed", "3"]) == 0
    out = capsys.readouterr().out
    assert "come away" in out and "as planned" in out


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (("--cg", "3 cows"), "3 cows"),
        (("--cg", "4 m"), "500 mm"),
        (("--wind", "-40"), "-15"),
        (("--seed", "x"), "a whole number"),
        (("--odds", "1"), "2 to 2000"),
    ],
)
def test_a_throw_refuses_what_cannot_be_meant(capsys, words, said):
    assert main(["throw", "demo:whimbrel", *words]) == 2
    assert said in capsys.readouterr().err.replace("−", "-")


# -- findings ---------------------------------------------------------------------------------------------------------


def finding(design, key):
    return next((one for one in evaluate(design).findings if one.key == key), None)


def test_wheels_too_near_the_balance_point_are_moved_ahead(whimbrel):
    assert finding(whimbrel, "throw.nose_over") is None
    cg = evaluate(whimbrel).results.masses.state.cg
    main = min(range(len(whimbrel.wheels)), key=lambda k: whimbrel.wheels[k].x)
    near = put(whimbrel, f"wheels[{main}].x", float(cg[0]) - 0.010)
    found = finding(near, "throw.nose_over")
    assert found.level == "look" and "onto its nose" in str(found.text)
    mended = apply(near, found.remedies[0].changes)
    assert finding(mended, "throw.nose_over") is None
    assert math.degrees(evaluate(mended).results.running.stance.tips) == pytest.approx(16.0, abs=1.5)


def test_a_nose_wheel_that_stays_down_asks_for_nearer_wheels(whimbrel):
    cg = evaluate(whimbrel).results.masses.state.cg
    main = min(range(len(whimbrel.wheels)), key=lambda k: whimbrel.wheels[k].x)
    others = [wheel for k, wheel in enumerate(whimbrel.wheels) if k == main]
    behind = put(put(whimbrel, "wheels", tuple(others)), "wheels[0].x", float(cg[0]) + 0.25)
    assert evaluate(behind).results.running.left < 0.15
    found = finding(behind, "throw.nose_wheel")
    assert "nose wheel" in str(found.text)
    nearer = apply(behind, found.remedies[0].changes)
    assert evaluate(nearer).results.running.left > evaluate(behind).results.running.left


def test_a_run_is_told_against_the_room_there_is(whimbrel):
    rolls = put(whimbrel, "brief.launch", "wheels")
    assert finding(rolls, "throw.run").level == "settled" and finding(whimbrel, "throw.run") is None
    short = put(rolls, "brief.ground_roll", 2.0)
    assert finding(short, "throw.run").level == "look"
    weak = put(rolls, "power.propeller.thrust_factor", 0.2)
    assert finding(weak, "throw.run").level == "stop"


def test_blades_that_land_first_are_told_unless_they_fold():
    design = load("demo:avocet")
    found = finding(design, "throw.blades")
    assert found.level == "settled" and "land first" in str(found.text) and "A skid of 103 mm" in str(found.reason)
    assert finding(put(design, "power.propeller.family", "folding"), "throw.blades") is None
    assert finding(load("demo:lapwing"), "throw.blades").level == "settled"
    assert finding(load("demo:whimbrel"), "throw.blades") is None


def test_a_flown_trim_far_off_slides_the_pack(whimbrel):
    trim = -evaluate(whimbrel).value("trim.elevator")
    off = whimbrel.model_copy(update={"flights": (Flight(id="f1", trim_pitch=trim + math.radians(6.0)),)})
    found = finding(off, "flights.trim")
    assert found.level == "look" and "forward" in str(found.text) and "aft" in str(found.remedies[0].text)
    near = whimbrel.model_copy(update={"flights": (Flight(id="f1", trim_pitch=trim + 0.002),)})
    assert finding(near, "flights.trim").level == "settled"
