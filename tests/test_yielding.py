"""What gives between servo and control, and lines that pull: closed forms, signs, and cures that land."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.linkage import Linkage
from ridgeline.design.parts import Servo
from ridgeline.design.paths import Change, apply, put
from ridgeline.engine.advice.servo_rules import quick_enough
from ridgeline.engine.controls.lines import (
    other_line,
    preload_for,
    slack_of,
    spring_left,
    spring_moment,
)
from ridgeline.engine.controls.servo import seconds_per_60
from ridgeline.engine.controls.yielding import (
    arm_bend,
    base_for,
    given_way,
    horn_rock,
    rod_stretch,
    torque_twist,
)
from ridgeline.engine.pipeline import Evaluator, evaluate
from ridgeline.files.design_file import load
from ridgeline.library import shipped_shelf

HERON = load("demo:heron")


def lines(**fields):
    return Linkage(control="c1", kind="pull_pull", arm=0.012, up=0.0, **{"horn": 0.012, "ahead": 0.4, **fields})


# -- what gives -------------------------------------------------------------------------------------------------------


def test_rods_arms_and_horns_give_by_the_closed_forms():
    assert rod_stretch(10.0, 0.5, 1e-6, 200e9) == pytest.approx(10 * 0.5 / (1e-6 * 200e9))
    # A nylon arm 6 mm wide, a quarter of that thick, 15 mm from its screw: F l³/(3 E I).
    assert arm_bend(10.0, 0.015) == pytest.approx(10 * 0.015**3 / (3 * 2.5e9 * 0.0015 * 0.006**3 / 12))
    one = Linkage(control="c1", kind="torque_rod", rod_size=0.002, rod_modulus=200e9)
    polar = math.pi * 0.002**4 / 32
    assert torque_twist(0.05, 0.3, one) == pytest.approx(0.05 * 0.3 / (200e9 / 2.6 * polar))
    # A base 15 mm long and 12 mm wide on a board's core: k w b³/12.
    assert horn_rock(0.05, 0.015) == pytest.approx(12 * 0.05 / (1.2e9 * 0.012 * 0.015**3))


@given(st.floats(0.001, 5.0), st.floats(0.001, 0.3))
def test_a_base_and_what_it_rocks_are_inverse(moment, rocks):
    assert horn_rock(moment, base_for(moment, rocks)) == pytest.approx(rocks)


@given(st.floats(0.001, 1.0), st.floats(1.2, 5.0), st.sampled_from(["rod", "torque_rod", "pull_pull"]))
def test_twice_the_moment_gives_twice_and_nothing_gives_nothing(moment, times, kind):
    one = Linkage(control="c1", kind=kind)
    square = (math.pi / 2, math.pi / 2)
    less, more = (given_way(one, m, 0.7, 0.1, square).whole for m in (moment, times * moment))
    assert more == pytest.approx(times * less) and given_way(one, 0.0, 0.7, 0.1, square).whole == 0.0
    direct = given_way(one.model_copy(update={"kind": "direct"}), moment, 1.0, 0.1, square)
    assert direct.whole == 0.0


def test_a_rod_stretches_and_its_ends_turn_the_control_by_its_horn():
    one = Linkage(control="c1", horn=0.010, arm=0.010, base=0.2, rod_size=0.001, rod_modulus=200e9)
    found = given_way(one, 0.1, 1.0, 0.5, (math.pi / 2, math.pi / 2))
    # 10 N along half a metre of 1 mm wire: 0.0318 mm, over 10 mm.
    assert found.rod == pytest.approx(10 * 0.5 / (200e9 * math.pi * 0.0005**2) / 0.010)
    assert found.arm == pytest.approx(arm_bend(10.0, 0.010) / 0.010) and found.twist == 0.0
    slanted = given_way(one, 0.1, 1.0, 0.5, (math.pi / 2, math.radians(30)))
    assert slanted.rod == pytest.approx(found.rod / math.sin(math.radians(30)) ** 2)


# -- lines ------------------------------------------------------------------------------------------------------------


@given(st.floats(-0.7, 0.7))
def test_equal_radii_over_the_hinge_keep_both_lines_taut(turn):
    assert other_line(lines(), [turn])[0] == pytest.approx(0.0, abs=1e-12)


@pytest.mark.parametrize("behind", [0.002, 0.004])
def test_holes_behind_the_hinge_slacken_and_ahead_of_it_tighten(behind):
    turn = 0.5
    slack = other_line(lines(horn_ahead=-behind), [turn, -turn])
    tight = other_line(lines(horn_ahead=behind), [turn, -turn])
    # 2 f (1 − cos δ), second part of the handbook §17.
    wanted = 2 * behind * (1 - math.cos(turn))
    assert slack.mean() == pytest.approx(wanted, rel=0.15) and tight.mean() == pytest.approx(-wanted, rel=0.15)
    assert slack_of(lines(horn_ahead=-behind), -turn, turn).slack == pytest.approx(slack.max(), rel=1e-2)
    assert slack_of(lines(horn_ahead=behind), -turn, turn).tight == pytest.approx(-tight.min(), rel=1e-2)


def test_unequal_radii_tighten_a_little():
    one = lines(horn=0.020, ahead=0.2)
    found = slack_of(one, -0.7, 0.7)
    # About 2 r_s r_h (1 − cos(δ − φ))/L, δ by r_s sin φ = r_h sin δ.
    delta = math.asin(0.012 * math.sin(0.7) / 0.020)
    rule = 2 * 0.012 * 0.020 * (1 - math.cos(0.7 - delta)) / 0.2
    assert found.slack < 1e-5 and found.tight == pytest.approx(rule, rel=0.5)


@given(st.floats(0.1, 20), st.floats(0, 500), st.floats(-0.6, 0.6))
def test_a_spring_pulls_by_its_preload_and_its_travel(preload, spring, angle):
    one = Linkage(control="c1", kind="spring_line", horn=0.015, preload=preload, spring=max(spring, 0.1))
    force = preload + one.spring * 0.015 * math.sin(angle)
    assert float(spring_moment(one, angle)) == pytest.approx(max(force, 0.0) * 0.015)
    above = one.model_copy(update={"horn_below": False})
    assert float(spring_moment(above, -angle)) == pytest.approx(float(spring_moment(one, angle)))


@given(st.floats(0.0, 0.6), st.floats(0.001, 0.2))
def test_the_preload_that_is_solved_just_holds(away, moment):
    one = Linkage(control="c1", kind="spring_line", horn=0.015, spring=80.0)
    held = one.model_copy(update={"preload": preload_for(one, away, moment)})
    assert spring_left(held, away, moment) == pytest.approx(0.0, abs=1e-9)
    less = held.model_copy(update={"preload": 0.9 * held.preload})
    assert spring_left(less, away, moment) < 0


# -- on an aircraft ---------------------------------------------------------------------------------------------------


def told(design, key):
    return next((f for f in evaluate(design).findings if f.key.startswith(key)), None)


def test_what_gives_is_a_figure_and_the_sum_of_its_parts():
    report = evaluate(HERON)
    for row in report.results.linking.rows:
        figure = report.figures[f"controls.{row.control.id}.give"]
        assert figure.value == pytest.approx(row.given.whole) and figure.sigma > 0
        assert 0 < row.given.whole < 0.5 * max(row.sides[0].throw)


@pytest.mark.parametrize(
    ("path", "value", "key"),
    [("base", 0.012, "base"), ("kind", "torque_rod", "thicker_rod"), ("extension", 0.030, "shorter_arm")],
)
def test_a_soft_part_is_told_and_its_cure_stiffens_it(path, value, key):
    soft = put(HERON, f"linkages[1].{path}", value)
    if path == "kind":
        soft = apply(soft, [Change("linkages[1].rod_size", 0.002), Change("linkages[1].rod_inner", 0.0)])
    ident = soft.linkages[1].control
    found = told(soft, f"controls.give.{ident}")
    assert found is not None
    before = evaluate(soft).value(f"controls.{ident}.give")
    way = next(way for way in found.remedies if way.key == key)
    after = evaluate(apply(soft, way.changes))
    most = max(next(row for row in after.results.linking.rows if row.control.id == ident).sides[0].throw)
    assert after.value(f"controls.{ident}.give") < min(before, 0.2 * most)


def test_lines_that_hang_slack_are_told_and_cured():
    slack = apply(HERON, [Change("linkages[2].kind", "pull_pull"), Change("linkages[2].horn_ahead", -0.015)])
    ident = slack.linkages[2].control
    found = told(slack, f"controls.slack.{ident}")
    assert found.level == "look" and "slack" in str(found.text)
    assert told(apply(slack, found.remedies[0].changes), f"controls.slack.{ident}") is None


def test_a_weak_spring_is_told_and_the_preload_holds():
    weak = apply(HERON, [Change("linkages[1].kind", "spring_line"), Change("linkages[1].preload", 1.0),
                         Change("linkages[1].spring", 5.0)])  # fmt: skip
    ident = weak.linkages[1].control
    found = told(weak, f"controls.spring.{ident}")
    assert found.level == "look"
    held = apply(weak, found.remedies[0].changes)
    assert told(held, f"controls.spring.{ident}") is None
    rows = {row.control.id: row for row in evaluate(held).results.linking.rows}
    assert rows[ident].spring >= 0
    # The servo pulls against the spring as well.
    by_rod = {row.control.id: row for row in evaluate(HERON).results.linking.rows}
    assert rows[ident].torque > by_rod[ident].torque
    bent = told(held, f"controls.bend.{ident}")
    if bent is not None:
        assert told(apply(held, bent.remedies[-1].changes), f"controls.bend.{ident}") is None


def test_a_strong_spring_bends_a_thin_tail():
    design = load("demo:turnstone")
    k = next(k for k, one in enumerate(design.linkages) if one.control == next(
        c.id for s in design.surfaces if s.role == "stabiliser" for c in s.controls))  # fmt: skip
    strong = apply(design, [Change(f"linkages[{k}].kind", "spring_line"), Change(f"linkages[{k}].preload", 60.0)])
    row = evaluate(strong).results.linking.of(design.linkages[k].control)
    soft = evaluate(put(strong, f"linkages[{k}].preload", 30.0)).results.linking.of(design.linkages[k].control)
    assert row.bent > 0 and row.bent > soft.bent
    found = told(strong, f"controls.bend.{design.linkages[k].control}")
    assert (found is not None) == (row.bent > 0.002)


def test_random_linkages_of_every_kind_give_finite_figures():
    rng = np.random.default_rng(3)
    for kind in ("rod", "pull_pull", "spring_line", "torque_rod", "direct"):
        design = apply(HERON, [Change("linkages[1].kind", kind),
                               Change("linkages[1].horn", float(rng.uniform(0.01, 0.05)))])  # fmt: skip
        report = evaluate(design)
        ident = design.linkages[1].control
        for field in ("give", "up", "down", "servo_share", "hinge_moment"):
            value = report.value(f"controls.{ident}.{field}")
            assert value is None or math.isfinite(value)
        assert all(math.isfinite(float(v)) for row in report.results.linking.rows for v in row.given)


# -- servos that are quick, and come back -----------------------------------------------------------------------------


def test_speed_steps_and_centring_are_those_of_servo_and_linkage():
    report = evaluate(HERON)
    row = report.results.linking.rows[0]
    ident, first = row.control.id, row.sides[0]
    turn = max(abs(first.low), abs(first.high))
    item = next(i for i in HERON.parts if i.id == row.linkage.servo)
    wanted = math.degrees(turn) / 60 * item.servo.seconds_per_60_deg
    assert report.value(f"controls.{ident}.time") == pytest.approx(wanted)
    assert report.value(f"controls.{ident}.steps") == pytest.approx(512 * turn / row.linkage.travel)
    ratio = abs(float(np.interp(0.0, first.travel.turns, first.travel.motion.ratio)))
    assert report.value(f"controls.{ident}.centring") == pytest.approx(math.radians(0.45) * ratio + row.play / 2)


@given(st.floats(0.001, 0.2))
def test_servos_are_about_as_quick_as_their_class(mass):
    seconds = seconds_per_60(Servo(), mass)
    assert 0.09 <= seconds <= 0.16
    assert seconds_per_60(Servo(seconds_per_60_deg=0.3), mass) == 0.3


def test_the_classes_of_the_shelf_are_as_quick_as_their_mass_says():
    for servo in shipped_shelf().servos:
        plain = seconds_per_60(Servo(), servo.mass)
        assert servo.seconds_per_60_deg == pytest.approx(plain, rel=0.25)


def test_a_slow_servo_is_told_and_the_quicker_one_keeps_up():
    k = next(k for k, i in enumerate(HERON.parts) if i.id == HERON.linkages[0].servo)
    slow = put(HERON, f"parts[{k}].servo.seconds_per_60_deg", 0.9)
    ident = HERON.linkages[0].control
    report = Evaluator(stock=shipped_shelf)(slow)
    found = next(f for f in report.findings if f.key == f"controls.slow.{ident}")
    row = report.results.linking.of(ident)
    assert found.level == "look" and report.value(f"controls.{ident}.time") > quick_enough(report, row)
    # Half of the time in which it rolls 45°, no more than 0.4 s.
    assert quick_enough(report, row) == pytest.approx(
        min(0.5 * math.radians(45) / report.value("control.roll_rate"), 0.4))  # fmt: skip
    after = Evaluator(stock=shipped_shelf)(apply(slow, found.remedies[0].changes))
    assert not [f for f in after.findings if f.key.startswith("controls.slow")]
    assert after.value(f"controls.{ident}.servo_share") <= 0.5
