"""Linkages in a design: throws, servo loads, ways round; what is wrong is told with edits that do what they say."""

import json
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.cli import main
from ridgeline.design.paths import apply, put
from ridgeline.engine.advice.linkage_rules import wrong_ways
from ridgeline.engine.controls.hinge_moment import hinge_moment
from ridgeline.engine.controls.linkage import HINGE_FRICTION
from ridgeline.engine.controls.rods import guides_for, rod_bears
from ridgeline.engine.controls.sense import FOLLOWS, shaped, wanted
from ridgeline.engine.pipeline import Evaluator, evaluate
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.sizing.linkages import linked_up, usual_linkages
from ridgeline.engine.sizing.wishes import brief_of
from ridgeline.engine.stages.linking import EFFICIENCY, control_size
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names, shipped_shelf

SHELF = shipped_shelf()


def judged(design):
    return Evaluator(stock=lambda: SHELF)(design)


def found(report, key):
    return next((f for f in report.findings if f.key == key), None)


@pytest.fixture(scope="module")
def sample():
    return load("demo:whimbrel")


@pytest.fixture(scope="module")
def report(sample):
    return judged(sample)


# -- samples and layouts ----------------------------------------------------------------------------------------------


def held(design):
    """Throws within a degree of the wish, servos on half of their stall, six tenths of the travel, the right way."""
    report_ = judged(design)
    linking = report_.results.linking
    assert linking.rows and not linking.bare
    for row in linking.rows:
        assert not wrong_ways(design, row)
        assert row.share is not None and row.share <= 0.5
        for side in row.sides:
            assert side.throw.up == pytest.approx(row.wish.up, abs=math.radians(1))
            assert side.throw.down == pytest.approx(row.wish.down, abs=math.radians(1))
            used = [e for e, throw in ((side.channel.high, 1), (side.channel.low, 1)) if throw]
            assert min(used) >= 0.6 - 0.005 and not side.travel.binds
    assert not [f for f in report_.findings if f.stop == "controls" and f.level != "settled"]


@pytest.mark.parametrize("name", sorted(gallery_names()))
def test_every_sample_is_linked_to_what_is_wished(name):
    held(load(f"demo:{name}"))


@pytest.mark.parametrize(
    "wishes",
    [{"purpose": "aerobatic", "ceiling": 1.5}, {"layout": "delta", "ceiling": 0.6}, {"layout": "canard"},
     {"purpose": "trainer", "ceiling": 12.0, "span_limit": 6.0}, {"layout": "v_tail", "ceiling": 1.0}],
)  # fmt: skip
def test_every_layout_is_linked_to_what_is_wished(wishes):
    held(lay_out(brief_of({"span_limit": 2.0, **wishes}), SHELF))


# -- figures ----------------------------------------------------------------------------------------------------------


def test_figures_of_a_control_are_those_of_its_linkage(sample, report):
    row = report.results.linking.rows[0]
    ident = row.control.id
    assert report.value(f"controls.{ident}.up") == pytest.approx(row.sides[0].throw.up, abs=1e-4)
    assert row.sides[0].throw.up == pytest.approx(0.20944, abs=1e-4)
    assert report.value(f"controls.{ident}.differential") == pytest.approx(1.0, abs=0.01)
    assert report.value(f"controls.{ident}.play") == pytest.approx(row.play)
    assert report.value(f"controls.{ident}.servo_share") == pytest.approx(row.torque / row.stall)
    bare = evaluate(put(sample, "linkages", ()))
    assert bare.figures[f"controls.{ident}.up"].value is None and len(bare.results.linking.bare) == 2
    assert "nothing is said" in bare.figures[f"controls.{ident}.rod_length"].why_not


def test_a_servo_bears_the_air_of_the_dive_through_its_linkage(sample, report):
    row = report.results.linking.rows[0]
    surface = sample.surfaces[0]
    area, chord = control_size(surface, row.control)
    q = 0.5 * report.results.air.density * report.value("structure.dive_speed") ** 2
    side = row.sides[0]
    here = (side.travel.turns >= side.low) & (side.travel.turns <= side.high)
    rub = HINGE_FRICTION["tape"] * (row.control.end - row.control.start)
    moments = [abs(hinge_moment(0.22, q, area, chord, 0.0, float(a))) + rub for a in side.travel.motion.surface[here]]
    torques = np.array(moments) * np.abs(side.travel.motion.ratio[here]) / EFFICIENCY
    assert row.torque == pytest.approx(torques.max(), rel=0.02) and EFFICIENCY == 0.9
    assert report.value(f"controls.{row.control.id}.hinge_moment") == pytest.approx(max(moments), rel=0.02)
    slower = evaluate(put(sample, "loads.dive_speed", 13.0))
    faster = evaluate(put(sample, "loads.dive_speed", 26.0))
    a, b = (r.results.linking.rows[0].moment - rub for r in (slower, faster))
    assert b == pytest.approx(4 * a, rel=1e-6)


def test_one_servo_for_two_controls_bears_both(sample):
    both = put(load("demo:turnstone"), "parts[10].count", 1)
    rows = {row.control.kind: row for row in evaluate(both).results.linking.rows}
    alone = {row.control.kind: row for row in evaluate(load("demo:turnstone")).results.linking.rows}
    assert rows["elevator"].linkage.servo == rows["rudder"].linkage.servo
    assert rows["elevator"].torque == pytest.approx(alone["elevator"].torque + alone["rudder"].torque, rel=2e-3)


def test_a_corner_of_both_sticks_asks_more_of_a_mixed_control(report):
    row = report.results.linking.of("c27")
    assert row.sides[0].corner.up > row.sides[0].throw.up
    # Seven tenths of either: the corner asks 1.4 of the throw, and the servo ends at its full pulse and a half.
    assert row.sides[0].corner.up <= 1.4 * row.wish.up + 1e-6


# -- which way --------------------------------------------------------------------------------------------------------


def test_sticks_move_surfaces_as_the_book_says():
    """Second part of the handbook §17, positive down: elevon δ = P ∓ R, V-tail P ± Y; a lone rudder to its side."""
    dunlin, whimbrel, turnstone = (load(f"demo:{n}") for n in ("dunlin", "whimbrel", "turnstone"))
    wing, tail = dunlin.surfaces[0], whimbrel.surfaces[1]
    assert [wanted(wing, "elevon", side, "roll") for side in ("starboard", "port")] == [-1, 1]
    assert [wanted(wing, "elevon", side, "pitch") for side in ("starboard", "port")] == [-1, -1]
    assert [wanted(tail, "ruddervator", side, "yaw") for side in ("starboard", "port")] == [1, -1]
    hung = tail.model_copy(update={"cant": -tail.cant})
    assert [wanted(hung, "ruddervator", side, "yaw") for side in ("starboard", "port")] == [-1, 1]
    fin = next(s for s in turnstone.surfaces if s.role == "fin")
    assert wanted(fin, "rudder", "starboard", "yaw") == 1, "its underside looks to starboard"
    avocet = load("demo:avocet")
    assert wanted(avocet.surfaces[1], "elevator", "starboard", "pitch") == 1, "ahead of the wing it goes down to lift"
    assert wanted(wing, "flap", "port", "flap") == 1 and wanted(wing, "aileron", "port", "pitch") == 0


def test_expo_softens_the_middle_and_keeps_the_ends(sample):
    rate = sample.radio.rates[0]
    assert shaped(1.0, rate) == pytest.approx(rate.high) and shaped(-1.0, rate, high=False) == -rate.low
    assert shaped(0.5, rate) == pytest.approx(rate.high * ((1 - rate.expo) * 0.5 + rate.expo * 0.125))
    assert shaped(0.4, None) == 0.4


@pytest.mark.parametrize("name", ["whimbrel", "stint"])
@pytest.mark.parametrize("upturned", [False, True])
def test_a_control_over_the_way_of_a_stick_is_what_it_is_at_each_place(name, upturned):
    design = load(f"demo:{name}")
    channels = [
        c.model_copy(
            update={
                "reversed": c.reversed != upturned, "sub_trim": 0.06, "high": 0.9, "low": 1.2,
                "mix": tuple(part.model_copy(update={"back": 0.4 * part.amount}) for part in c.mix),
            }
        )
        for c in design.radio.channels
    ]  # fmt: skip
    design = put(design, "radio", design.radio.model_copy(update={"channels": tuple(channels)}))
    places = np.linspace(-1, 1, 21)
    for row in judged(design).results.linking.rows:
        stick = FOLLOWS[row.control.kind][0]
        for side, high in ((row.sides[0], True), (row.sides[-1], False)):
            each = [side.angle(row.linkage, design.radio, {stick: float(v)}, high_rate=high) for v in places]
            at_once = side.over(row.linkage, design.radio, stick, places, high_rate=high)
            assert at_once == pytest.approx(each, abs=1e-9) and np.ptp(at_once) > math.radians(3)


@pytest.mark.parametrize("name", sorted(gallery_names()))
def test_a_reversed_channel_is_a_stop_and_its_way_out_turns_it_back(name):
    design = load(f"demo:{name}")
    k = next(k for k, channel in enumerate(design.radio.channels) if "throttle" not in channel.name)
    wrong = put(design, f"radio.channels[{k}].reversed", not design.radio.channels[k].reversed)
    report = judged(wrong)
    told = next(f for f in report.findings if f.key.startswith("controls.way."))
    assert told.level == "stop" and "the wrong way" in str(told.text)
    assert apply(wrong, told.remedies[0].changes).radio == design.radio


def test_servos_the_same_way_round_on_one_lead_turn_both_ailerons_alike(sample):
    one = put(sample, "linkages[0].port", "alike")
    told = found(judged(one), "controls.way.c26")
    assert told.level == "stop" and "same way round" in str(told.reason) and "port" in str(told.text)


# -- what is told -----------------------------------------------------------------------------------------------------


def test_without_linkages_the_usual_ones_are_offered_and_hold(sample):
    bare = put(put(sample, "linkages", ()), "radio", None)
    told = found(judged(bare), "controls.unsaid")
    held(apply(bare, told.remedies[0].changes))


@pytest.mark.parametrize(("up", "level"), [(0.21, None), (0.235, "look")])
def test_a_throw_more_than_a_degree_off_its_wish_is_told(sample, up, level):
    # The radio is set by hand, so that it does not follow.
    row = evaluate(sample).results.linking.rows[0]
    fixed = sample
    for k in (0, 1):
        channel = row.sides[k].channel
        fixed = put(put(fixed, f"radio.channels[{k}].high", channel.high), f"radio.channels[{k}].low", channel.low)
    off = put(fixed, "surfaces[0].controls[0].up", up)
    told = found(judged(off), "controls.throw.c26")
    assert (told.level if told else None) == level
    for way in told.remedies if told else ():
        after = judged(apply(off, way.changes))
        assert found(after, "controls.throw.c26") is None, way.key
        row_ = after.results.linking.of("c26")
        assert row_.sides[0].throw.up == pytest.approx(row_.wish.up, abs=math.radians(0.5))


def test_a_rod_that_does_not_reach_is_a_stop_with_other_holes(sample):
    tight = put(put(sample, "linkages[0].arm", 0.02), "linkages[0].horn", 0.006)
    tight = put(tight, "linkages[0].ahead", 0.03)
    # The radio would keep it off where it binds; sent all the way it is not.
    for k in (0, 1):
        tight = put(put(tight, f"radio.channels[{k}].high", 1.0), f"radio.channels[{k}].low", 1.0)
    report = judged(tight)
    told = found(report, "controls.binds.c26") or found(report, "controls.centre.c26")
    assert told is not None and told.remedies
    after = judged(apply(tight, told.remedies[0].changes))
    assert not [f for f in after.findings if f.key.startswith(("controls.binds", "controls.centre", "controls.throw"))]


@pytest.mark.parametrize(("torque", "level"), [(0.9, "stop"), (1.1, "look"), (1.9, "look"), (2.1, None)])
def test_a_servo_is_planned_on_half_of_its_stall_and_never_on_all(sample, report, torque, level):
    # So many times what is asked of it.
    row = report.results.linking.rows[0]
    index = next(k for k, item in enumerate(sample.parts) if item.id == row.linkage.servo)
    weak = put(sample, f"parts[{index}].servo.stall_torque", torque * row.torque)
    told = found(judged(weak), "controls.servo.c26")
    assert (told.level if told else None) == level
    for way in told.remedies if told else ():
        after = judged(apply(weak, way.changes))
        assert after.results.linking.of("c26").share <= 0.5 + 1e-6, way.key
        if way.key == "servo":
            share, gain = (value.value for value in way.text.values)
            assert after.results.linking.of("c26").share == pytest.approx(share, rel=0.02)
            gained = after.value("mass.auw") - judged(weak).value("mass.auw")
            assert abs(gained) == pytest.approx(gain, abs=1.2e-3)


def test_a_servo_far_too_strong_is_offered_lighter(sample):
    design = load("demo:lapwing")
    told = next(f for f in judged(design).findings if f.key.startswith("controls.servo."))
    assert told.level == "settled" and "less" in told.remedies[0].text.template
    after = judged(apply(design, told.remedies[0].changes))
    assert after.value("mass.auw") < judged(design).value("mass.auw")
    assert max(row.share for row in after.results.linking.rows) <= 0.5


def test_play_past_a_hundredth_and_a_half_of_the_chord_is_told_with_snugger_holes(sample):
    loose = put(sample, "linkages[1].hole_play", 0.0003)
    told = found(judged(loose), "controls.play.c27")
    assert told is not None and "flutter" in str(told.reason)
    after = judged(apply(loose, told.remedies[0].changes))
    assert after.value("controls.c27.play") < judged(loose).value("controls.c27.play")
    tight = put(put(sample, "linkages[0].gear_play", 0.001), "linkages[1].gear_play", 0.001)
    assert not [f for f in judged(tight).findings if f.key.startswith("controls.play")]


def test_a_thin_rod_buckles_between_its_guides_and_guides_hold_it(sample):
    thin = put(put(sample, "linkages[1].rod_size", 0.0008), "linkages[1].guides", 0.0)
    row = judged(thin).results.linking.rows[1]
    told = found(judged(thin), "controls.rod.c27")
    assert told.level == "look"
    second = math.pi * 0.0008**4 / 64
    assert rod_bears(row.linkage, row.rod) == pytest.approx(math.pi**2 * 200e9 * second / row.rod**2)
    after = judged(apply(thin, told.remedies[0].changes))
    assert found(after, "controls.rod.c27") is None
    push = 0.5 * row.stall / row.linkage.arm
    assert guides_for(row.linkage, push) == pytest.approx(math.pi * math.sqrt(200e9 * second / push), abs=0.005)


def test_little_of_the_radio_is_told(sample):
    far = put(put(sample, "linkages[0].arm", 0.012), "linkages[0].horn", 0.012)
    told = found(judged(far), "controls.travel.c26")
    assert told.level == "look"
    after = judged(apply(far, told.remedies[0].changes))
    assert found(after, "controls.travel.c26") is None


# -- how they move ----------------------------------------------------------------------------------------------------


def test_an_edit_of_a_linkage_redoes_the_linkages_alone(sample):
    evaluator = Evaluator()
    evaluator(sample)
    before = dict(evaluator.runs)
    evaluator(put(sample, "linkages[0].horn", 0.015))
    redone = {name for name, runs in evaluator.runs.items() if runs > before.get(name, 0)}
    assert {"moving", "throws", "linking"} <= redone
    assert not redone & {"lattice", "effects", "masses", "balance", "speeds", "flexed", "trim", "drag_list", "polar"}


def test_a_wish_moves_the_radio_and_not_the_holes(sample):
    less = put(sample, "surfaces[0].controls[0].up", 0.15)
    row = evaluate(less).results.linking.rows[0]
    assert row.sides[0].throw.up == pytest.approx(0.15, abs=1e-3) and less.linkages == sample.linkages


@given(st.floats(0.004, 0.02), st.floats(0.006, 0.03), st.integers(-6, 6), st.floats(0.02, 0.3), st.booleans())
@settings(max_examples=25, deadline=None)
def test_no_linkage_puts_nonsense_into_a_figure_or_a_sentence(sample, arm, horn, teeth, ahead, alike):
    design = sample
    rows = {"arm": round(arm, 4), "horn": round(horn, 4), "clocked": teeth, "ahead": round(ahead, 4)}
    for path, value in {**rows, "port": "alike" if alike else "mirrored"}.items():
        design = put(design, f"linkages[0].{path}", value)
    report = judged(design)
    for key, figure in report.figures.items():
        if key.startswith("controls."):
            assert figure.value is None or (math.isfinite(figure.value) and math.isfinite(figure.sigma))
    for finding in report.findings:
        if finding.stop == "controls":
            assert "nan" not in str(finding.text) and "inf " not in str(finding.text)


def test_usual_linkages_are_numbered_and_known_servos_named(sample):
    usual = usual_linkages(put(put(sample, "linkages", ()), "radio", None))
    known = {item.id for item in sample.parts}
    assert {one.servo for one in usual.linkages} <= known and len({one.id for one in usual.linkages}) == 2
    moved = {ident for channel in usual.radio.channels for ident in channel.moves}
    assert {one.id for one in usual.linkages} <= moved and FOLLOWS["elevon"] == ("pitch", "roll")
    again = linked_up(sample, Evaluator(), SHELF)
    assert [one.arm for one in again.linkages] == [one.arm for one in sample.linkages]


def test_figures_are_told_on_the_command_line(capsys):
    assert main(["figures", "demo:whimbrel", "--json", "--no-throw"]) == 0
    told = json.loads(capsys.readouterr().out)["figures"]
    assert told["controls.c26.up"]["value"] == pytest.approx(0.20944, abs=1e-4)
    assert told["controls.c27.servo_share"]["unit"] == "1"
