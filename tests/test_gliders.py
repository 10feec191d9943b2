"""Aircraft without a motor, and ones that only their motors steer: laid out, judged, balanced by coins."""

import math

import pytest

from ridgeline.design.airframe import Station
from ridgeline.design.brief import Brief
from ridgeline.design.document import Design
from ridgeline.design.paths import Change, apply, put
from ridgeline.engine.advice.balance_rules import levers_to
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.register import GLIDER_BLOCK
from ridgeline.engine.sizing.additions import first_train, replaced_by_train
from ridgeline.engine.sizing.constraints import constraint_chart, throw_speed
from ridgeline.engine.sizing.first_mass import radio_pack_mass
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.sizing.mounting import two_more, with_mounts
from ridgeline.engine.sizing.wishes import brief_of
from ridgeline.library import shipped_shelf
from ridgeline.units import SYSTEMS

SHELF = shipped_shelf()
G = 9.80665


def laid_out(**wishes):
    return lay_out(brief_of(wishes), SHELF, "Estuary Plover")


def glider(**wishes):
    return laid_out(**{"purpose": "glider", "propulsion": "none", "span_limit": 2.5, **wishes})


@pytest.fixture(scope="module")
def sailplane():
    return glider(ceiling=0.8, controls="rudder_elevator")


@pytest.fixture(scope="module")
def tossed():
    return glider(ceiling=0.06, controls="none")


def finding(report, key):
    return next((f for f in report.findings if f.key == key), None)


def words(phrase):
    return phrase.render(SYSTEMS["metric"])


@pytest.mark.parametrize(
    ("layout", "ceiling", "purpose"),
    [
        ("conventional", 0.25, "glider"),
        ("v_tail", 1.5, "glider"),
        ("t_tail", 6.0, "glider"),
        ("swept", 0.7, "tailless"),
        ("twin_boom", 0.9, "trainer"),
        ("biplane", 1.0, "scale"),
    ],
)
def test_any_layout_comes_without_a_motor_and_without_a_stop(layout, ceiling, purpose):
    design = glider(layout=layout, ceiling=ceiling, purpose=purpose, span_limit=4.0)
    report = evaluate(design)
    assert design.power is None and not [p for p in design.parts if p.component is not None]
    assert report.value("mass.auw") <= ceiling
    assert [f.key for f in report.findings if f.level == "stop"] == []
    assert all(report.value(key) is not None for key in GLIDER_BLOCK if design.brief.launch == "hand")


def test_no_finding_speaks_of_thrust_or_throttle(sailplane):
    told = [words(f.text) + words(f.reason) for f in evaluate(sailplane).findings]
    assert not [text for text in told if "thrust" in text.lower() or "throttle" in text.lower()]
    assert finding(evaluate(sailplane), "glide.ratio").level == "settled"


def test_a_brief_without_a_motor_asks_for_no_thrust():
    brief = brief_of({"purpose": "glider", "propulsion": "none", "ceiling": 0.8})
    chart = constraint_chart(brief)
    assert brief.thrust_ratio == 0.0 and not chart.floor.any()
    assert {line.key for line in chart.lines} == {"span", "stall", "hand"}
    motored = brief_of({"purpose": "glider", "ceiling": 0.8})
    assert motored.thrust_ratio > 0 and {"climb", "turn", "ceiling"} <= {
        line.key for line in constraint_chart(motored).lines
    }


def test_the_release_height_is_what_a_throw_leaves_over(sailplane):
    report = evaluate(sailplane)
    thrown, slow = throw_speed(report.value("mass.auw")), report.value("glide.sink_speed")
    wanted = 1.7 + 0.5 * max(thrown**2 - slow**2, 0.0) / (2 * G)
    assert report.value("glide.release_height") == pytest.approx(wanted, rel=1e-6)
    assert report.value("glide.still_time") == pytest.approx(wanted / report.value("glide.sink"), rel=1e-6)


def test_a_bungee_lifts_by_its_pull_over_the_run(sailplane):
    drawn = apply(sailplane, [Change("brief.launch", "bungee"), Change("brief.ground_roll", 30.0)])
    report = evaluate(drawn)
    # Half of four times the weight over the run, and half of that is kept.
    assert report.value("glide.release_height") == pytest.approx(1.7 + 0.5 * 0.5 * 4 * 30, rel=1e-6)
    wheeled = put(sailplane, "brief.launch", "wheels")
    assert evaluate(wheeled).value("glide.release_height") is None
    assert "thrown" in evaluate(wheeled).figures["glide.still_time"].why_not


def test_a_toss_glider_is_balanced_by_whole_coins(tossed):
    (coins,) = [part for part in tossed.parts if part.group == "ballast"]
    assert coins.estimate in (0.001, 0.002, 0.004, 0.006, 0.008) and coins.count >= 1
    assert not [part for part in tossed.parts if part.servo or part.group in ("radio", "battery")]
    report = evaluate(tossed)
    assert finding(report, "balance.first_throw") is not None
    nose = min(s.x for body in tossed.bodies for s in body.sections)
    assert coins.x >= nose


def test_coins_bring_the_balance_exactly_where_they_say(tossed):
    bare = apply(tossed, [Change("parts", tuple(p for p in tossed.parts if p.group != "ballast"))])
    report = evaluate(bare)
    aim = report.results.targets.first_aim
    (remedy,) = [r for r in levers_to(bare, report, aim, " for the first throw") if r.key == "coins"]
    after = evaluate(apply(bare, remedy.changes))
    assert after.value("balance.cg_fraction") == pytest.approx(aim, abs=2e-3)
    assert "coins" in words(remedy.text) and words(remedy.text).endswith("for the first throw")


def test_a_glider_with_a_radio_gets_no_coins(sailplane):
    report = evaluate(sailplane)
    found = list(levers_to(sailplane, report, report.value("balance.cg_fraction") - 0.15))
    assert "coins" not in {r.key for r in found}


def test_a_power_train_takes_the_place_of_coins_ahead_and_of_the_radios_pack(sailplane, tossed):
    for design, gone in ((tossed, {"ballast"}), (sailplane, {"battery"})):
        train, _items = first_train(design, SHELF, evaluate(design).value("mass.auw"))
        found = replaced_by_train(design, train)
        assert {design.parts[k].group for k in found} == gone
    tail = {"name": "Tail weight", "group": "ballast", "x": 0.9, "estimate": 0.003}
    behind = apply(tossed, [Change("parts[-]", tail)])
    train, _items = first_train(behind, SHELF, evaluate(behind).value("mass.auw"))
    assert "Tail weight" not in {behind.parts[k].name for k in replaced_by_train(behind, train)}


def test_what_nothing_steers_is_told_so_and_not_blamed_on_a_rudder(tossed):
    report = evaluate(tossed)
    assert finding(report, "control.free").level == "settled" and finding(report, "control.rudder_only") is None


@pytest.fixture(scope="module")
def steered_by_thrust():
    design = laid_out(purpose="trainer", ceiling=0.8, layout="conventional")
    bare = apply(
        design, [Change(f"surfaces[{k}].controls", ()) for k, s in enumerate(design.surfaces) if s.role != "stabiliser"]
    )
    return apply(bare, with_mounts(bare, two_more(bare)))


def test_two_motors_turn_what_has_neither_rudder_nor_ailerons(steered_by_thrust):
    report = evaluate(steered_by_thrust)
    turn = report.value("control.thrust_turn")
    assert turn > 0 and finding(report, "control.thrust_turns") is not None
    assert finding(report, "control.rudder_only") is None and finding(report, "control.free") is None
    flown, model = report.results.flight, report.results.lattice
    each, arm = flown.thrust_at_climb / 2, steered_by_thrust.power.mounts[0].y
    load = 0.5 * report.results.air.density * flown.climb_speed**2 * model.scale.area * model.scale.span
    slip = each * arm / load / report.value("stability.cn_beta")
    helix = report.value("stability.cl_beta") * slip / report.value("stability.cl_p")
    assert turn == pytest.approx(helix * 2 * flown.climb_speed / model.scale.span, rel=1e-3)


def test_motors_farther_out_turn_it_faster_and_one_motor_not_at_all(steered_by_thrust, whimbrel):
    mount = steered_by_thrust.power.mounts[0]
    out = apply(steered_by_thrust, with_mounts(steered_by_thrust, [mount.model_copy(update={"y": 1.5 * mount.y})]))
    assert evaluate(out).value("control.thrust_turn") > 1.2 * evaluate(steered_by_thrust).value("control.thrust_turn")
    assert "either side" in evaluate(whimbrel).figures["control.thrust_turn"].why_not


def test_the_hand_formula_is_not_held_against_a_delta():
    report = evaluate(laid_out(purpose="tailless", ceiling=0.8, layout="delta"))
    assert report.value("stability.neutral_point_hand") is None
    assert "delta" in report.figures["stability.neutral_point_hand"].why_not
    assert finding(report, "balance.hand_check") is None


def drooped(whimbrel, degrees):
    wing = whimbrel.surfaces[0]
    stations = tuple(s.model_copy(update={"z": -math.tan(math.radians(degrees)) * s.y}) for s in wing.stations)
    # Held straight in flight, so that what is drawn is what flies.
    return put(put(whimbrel, "surfaces[0].droop", 0.0), "surfaces[0].stations", stations)


def test_wings_that_hang_are_told_and_raised_again(whimbrel):
    report = evaluate(drooped(whimbrel, 5.0))
    found = finding(report, "shape.anhedral")
    assert found.level == "look" and "anhedral" in words(found.text)
    after = evaluate(apply(drooped(whimbrel, 5.0), found.remedies[0].changes))
    assert finding(after, "shape.anhedral") is None
    assert finding(evaluate(whimbrel), "shape.anhedral") is None
    assert finding(evaluate(drooped(whimbrel, 0.8)), "shape.anhedral") is None


def test_ballast_says_what_it_aims_at(whimbrel):
    tail_heavy = put(whimbrel, "parts[0].x", whimbrel.parts[0].rail.back - 0.5 * whimbrel.parts[0].rail.item_length)
    for found in evaluate(tail_heavy).findings:
        for remedy in found.remedies:
            if remedy.key == "ballast":
                assert words(remedy.text).endswith(("for the first throw", "for settled flying"))


def test_an_empty_design_still_asks_for_everything():
    assert evaluate(Design(brief=Brief(propulsion="none"))).value("glide.ratio") is None


@pytest.mark.parametrize(("rate", "level"), [(14.0, "look"), (16.0, "settled")])
def test_a_roll_of_fifteen_degrees_a_second_by_the_motors_answers_in_time(steered_by_thrust, rate, level):
    mount = steered_by_thrust.power.mounts[0]
    design = steered_by_thrust
    for _ in range(3):
        now = evaluate(design).value("control.thrust_turn")
        y = design.power.mounts[0].y * math.radians(rate) / now
        design = apply(design, with_mounts(design, [mount.model_copy(update={"y": y})]))
    report = evaluate(design)
    assert report.value("control.thrust_turn") == pytest.approx(math.radians(rate), rel=0.02)
    assert finding(report, "control.thrust_turns").level == level


@pytest.mark.parametrize(("degrees", "told"), [(0.97, False), (1.03, True)])
def test_a_degree_of_hanging_is_more_than_building_errs_by(whimbrel, degrees, told):
    assert (finding(evaluate(drooped(whimbrel, degrees)), "shape.anhedral") is not None) is told


@pytest.mark.parametrize(
    ("aspect", "sweep", "holds"), [(3.05, 0.0, True), (2.95, 0.0, False), (6.0, 34.5, True), (6.0, 35.5, False)]
)
def test_the_hand_formula_ends_at_an_aspect_of_three_and_35_degrees_of_sweep(whimbrel, aspect, sweep, holds):
    half, tangent = 0.5 * aspect * 0.2, math.tan(math.radians(sweep))
    stations = tuple(Station(y=y, chord=0.2, x=y * tangent) for y in (0.0, half))
    report = evaluate(put(whimbrel, "surfaces[0].stations", stations))
    by_hand = report.figures["stability.neutral_point_hand"]
    assert (by_hand.value is not None) is holds, by_hand.why_not


@pytest.mark.parametrize(("mass", "pack"), [(0.03, 0.005), (0.5, 0.03), (4.0, 0.1)])
def test_a_pack_for_the_radio_alone_weighs_six_hundredths_within_its_limits(mass, pack):
    assert radio_pack_mass(mass) == pytest.approx(pack)
