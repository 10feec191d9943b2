"""What the controls can do: roll, pitch, rudder, flaps; and stall in trim, in turns and of vortex wings."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.airframe import ControlSurface
from ridgeline.design.paths import put
from ridgeline.engine.aero.critical import (
    VORTEX_ANGLE,
    critical_section,
    trimmed,
    untrimmed,
    vortex_lift,
)
from ridgeline.engine.aero.flap import effective_deflection, flap_drag, flap_effectiveness, thin_effectiveness
from ridgeline.engine.aero.throws import throws_of, travel
from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import load


def with_control(design, kind, start=0.06, end=0.32, **more):
    control = ControlSurface(kind=kind, start=start, end=end, chord_fraction=0.25, **more)
    return put(design, "surfaces[0].controls[-]", control)


def test_ailerons_roll_and_elevators_pitch_and_rudders_yaw_the_way_they_say(whimbrel):
    report = evaluate(whimbrel)
    assert report.value("control.cm_elevator") < 0  # trailing edge down: nose down
    assert report.value("control.cl_aileron") > 0  # starboard up: starboard goes down
    assert report.value("control.cn_rudder") > 0
    assert evaluate(load("demo:avocet")).value("control.cm_elevator") > 0  # a foreplane's elevator down: nose up


def test_roll_rate_is_the_helix_over_half_the_span_at_cruise(whimbrel):
    report = evaluate(whimbrel)
    expected = report.value("control.roll_helix") * 2 * report.value("speed.cruise") / report.value("wing.span")
    assert report.value("control.roll_rate") == pytest.approx(expected)
    by_hand = report.value("control.cl_aileron") * math.radians(12)
    small = report.results.lattice.roll_control.roll
    kept = effective_deflection(math.radians(12)) / math.radians(12)
    assert report.value("control.cl_aileron") == pytest.approx(small * kept) and kept < 1
    assert report.value("control.roll_helix") == pytest.approx(by_hand / -report.value("stability.cl_p"), rel=1e-4)


def test_roll_power_of_a_plain_wing_is_near_strip_theory(whimbrel):
    """C_lδ = (2 a τ/(S b)) ∫ c y dy of strip theory; the lattice loses a third to half of it to the tips' relief."""
    wing = whimbrel.surfaces[0]
    control = wing.controls[0]
    y = np.linspace(control.start, control.end, 400)
    chord = np.interp(y, [s.y for s in wing.stations], [s.chord for s in wing.stations])
    report = evaluate(whimbrel)
    area, span = report.value("wing.area"), report.value("wing.span")
    moment = np.sum(0.5 * (chord[1:] * y[1:] + chord[:-1] * y[:-1]) * np.diff(y))
    strip = 2 * 2 * math.pi * flap_effectiveness(0.22) * moment / (area * span)
    assert 0.45 * strip < report.results.lattice.roll_control.roll < 0.85 * strip


@given(st.floats(0, 1.0))
def test_a_steep_flap_is_never_worth_more_than_its_deflection(deflection):
    assert 0 <= effective_deflection(deflection) <= deflection + 1e-12
    assert effective_deflection(-deflection) == -effective_deflection(deflection)


def test_flap_effectiveness_falls_as_the_handbook_says():
    assert effective_deflection(math.radians(8)) == pytest.approx(math.radians(8))
    assert effective_deflection(math.radians(25)) / math.radians(25) == pytest.approx(0.60 / 0.85)
    assert effective_deflection(math.radians(40)) / math.radians(40) == pytest.approx(0.45 / 0.85)
    assert thin_effectiveness(0.999999) == pytest.approx(1, abs=1e-3)
    assert flap_drag(0.25, 0.5, 0.0) == 0
    assert flap_drag(0.25, 0.5, math.radians(40)) == pytest.approx(
        1.7 * 0.25**1.38 * 0.5 * math.sin(math.radians(40)) ** 2
    )


def test_throws_are_the_documents_own_or_the_usual_ones(whimbrel):
    aileron = whimbrel.surfaces[0].controls[0]
    assert travel(aileron, "camera") == pytest.approx((math.radians(12), math.radians(12)), abs=1e-4)
    bare = aileron.model_copy(update={"up": None, "down": None})
    assert travel(bare, "camera")[0] == pytest.approx(math.radians(15))
    assert travel(bare, "aerobatic")[0] == pytest.approx(math.radians(30))
    flap = ControlSurface(kind="flap", start=0.1, end=0.2, chord_fraction=0.2)
    assert travel(flap, "camera")[0] == 0
    mixed = throws_of(load("demo:dunlin").surfaces, "tailless")
    assert mixed.pitch_up + mixed.roll == pytest.approx(math.radians(17), abs=1e-4)
    assert mixed.yaw == mixed.flap == 0


def test_without_ailerons_the_rudder_rolls_through_the_dihedral(whimbrel):
    plain = put(whimbrel, "surfaces[0].controls", ())
    report = evaluate(plain)
    assert report.results.handling.by_rudder
    assert report.value("control.roll_helix") > 0
    flat = plain
    for index, station in enumerate(plain.surfaces[0].stations):
        flat = put(flat, f"surfaces[0].stations[{index}].z", 0.0 * station.z)
    assert evaluate(flat).value("control.roll_helix") < 0.5 * report.value("control.roll_helix")


def test_flaps_lower_the_stall_and_flaperons_cost_roll(whimbrel):
    flapped = evaluate(with_control(whimbrel, "flap"))
    assert flapped.value("speed.stall_flaps") < flapped.value("speed.stall")
    assert flapped.value("flap.lift") > 0.1 and flapped.value("flap.drag") > 0
    assert flapped.results.flaps.roll_left == 1
    assert flapped.value("speed.approach") == pytest.approx(1.3 * flapped.value("speed.stall_flaps"))
    mixed = put(whimbrel, "surfaces[0].controls[0].kind", "flaperon")
    both = evaluate(put(mixed, "surfaces[0].controls[0].down", math.radians(35)))
    assert both.results.flaps.roll_left < 0.9
    assert evaluate(whimbrel).value("speed.approach") == pytest.approx(1.3 * evaluate(whimbrel).value("speed.stall"))


def test_the_elevator_for_flaps_holds_lift_and_moment(whimbrel):
    report = evaluate(with_control(whimbrel, "flap"))
    model, cg = report.results.lattice, report.value("balance.cg_fraction")
    shift = report.results.balance.shift
    flap = effective_deflection(report.results.flaps.setting)
    elevator = report.value("flap.elevator")
    arm = cg - 0.25
    lift = flap * model.flap.lift + elevator * model.pitch_control.lift
    alpha = -lift / model.found.alpha.lift
    moment = flap * (model.flap.pitch + arm * model.flap.lift)
    moment += elevator * (model.pitch_control.pitch + arm * model.pitch_control.lift)
    moment += alpha * (model.found.alpha.pitch + (arm + shift) * model.found.alpha.lift)
    assert moment == pytest.approx(0, abs=1e-9)


def test_small_flaps_are_said_to_be_too_small(whimbrel):
    small = with_control(whimbrel, "flap", 0.06, 0.10, down=math.radians(10))
    assert any(f.key == "flap.small" for f in evaluate(small).findings)
    assert any(f.key == "flap.worth" for f in evaluate(with_control(whimbrel, "flap", 0.03, 0.34)).findings)


def test_turns_stall_faster_by_the_load_they_carry(whimbrel):
    report = evaluate(whimbrel)
    stall = report.value("speed.stall")
    assert report.value("speed.stall_45") == pytest.approx(stall * 2**0.25)
    assert report.value("speed.stall_60") == pytest.approx(stall * math.sqrt(2))


def test_the_trimmed_stall_carries_the_tails_load(whimbrel):
    """With the balance ahead the tail pushes down, so the whole aircraft lifts less at its stall."""
    report = evaluate(whimbrel)
    model, limits = report.results.lattice, report.results.speeds.limits
    shift = report.results.stability.body_shift
    ahead, behind = (critical_section(model, limits, trimmed(model, cg, shift)) for cg in (0.20, 0.42))
    assert ahead.cl_max < behind.cl_max
    assert ahead.control < behind.control
    neutral = critical_section(model, limits)
    assert neutral.control == 0 and 0.9 < neutral.cl_max / behind.cl_max < 1.1
    assert untrimmed(model).lift_slope == model.found.alpha.lift


@pytest.mark.parametrize("fraction", [0.20, 0.25, 0.30])
def test_half_span_flaps_raise_the_limit_by_what_plain_flaps_do(whimbrel, fraction):
    # Plain flap of 20–30 % chord over half the span, 30° down: +0.25 to +0.5 on the wing.
    half = whimbrel.surfaces[0].stations[-1].y / 2
    flap = (
        whimbrel.surfaces[0]
        .controls[0]
        .model_copy(
            update={"kind": "flap", "start": 0.0, "end": half, "chord_fraction": fraction, "down": math.radians(30)}
        )
    )
    report = evaluate(put(whimbrel, "surfaces[0].controls", (flap,)))
    gain = report.results.flaps.cl_max - report.results.speeds.cl_max
    assert 0.25 <= gain <= 0.50
    assert gain < report.value("flap.lift")
    assert report.value("speed.stall_flaps") < report.value("speed.stall")


@given(st.floats(0.05, 0.45), st.floats(0.0, 0.4), st.floats(0.15, 0.6), st.floats(5, 60))
@settings(max_examples=25)
def test_flaps_never_lower_the_lift_limit(fraction, start, width, degrees):
    design = load("demo:whimbrel")
    reach = design.surfaces[0].stations[-1].y
    flap = (
        design.surfaces[0]
        .controls[0]
        .model_copy(
            update={
                "kind": "flap",
                "start": start * reach,
                "end": min(start + width, 1.0) * reach,
                "chord_fraction": fraction,
                "down": math.radians(degrees),
            }
        )
    )
    report = evaluate(put(design, "surfaces[0].controls", (flap,)))
    assert report.results.flaps.cl_max >= report.results.speeds.cl_max


def test_vortex_lift_is_the_suction_analogy():
    assert vortex_lift(2.0, 0.0) == 0
    slope = (vortex_lift(2.0, 1e-6) - 0) / 1e-6
    assert slope == pytest.approx(2.0, rel=1e-5)
    # Polhamus, NASA TN D-3767, fig. 5: aspect ratio 1 delta, K_p = 1.35, K_v = 3.15 at 20°: C_L about 0.75.
    assert vortex_lift(1.35, math.radians(20)) == pytest.approx(0.75, abs=0.05)


def test_a_delta_is_judged_by_its_vortices_and_not_by_a_section(whimbrel):
    stations = whimbrel.surfaces[0].stations
    delta = put(whimbrel, "surfaces[0].stations", (
        stations[0].model_copy(update={"chord": 0.6}),
        stations[2].model_copy(update={"y": 0.4, "chord": 0.1, "x": 0.5, "z": 0.0, "twist": 0.0}),
    ))  # fmt: skip
    delta = put(delta, "surfaces[0].controls", ())
    report = evaluate(delta)
    speeds = report.results.speeds
    assert speeds.vortex and speeds.section is None
    assert report.value("wing.cl_max") == pytest.approx(vortex_lift(report.value("stability.cl_alpha"), VORTEX_ANGLE))
    assert not any(f.key.startswith("speed.stall.tip") for f in report.findings)
