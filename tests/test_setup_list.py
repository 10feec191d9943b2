"""The setup list: made from what a design has, in order, signed line by line, and armed again by what changed."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.document import Design
from ridgeline.design.paths import REMOVE, apply, put
from ridgeline.engine.advice.benched import benched, noted
from ridgeline.engine.advice.setup_list import absent_now, setup_list, state_now
from ridgeline.engine.advice.signing import open_before, sign, signed_of, state_of, unsigned
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.weights.without import with_the_rest
from ridgeline.errors import DesignError
from ridgeline.files.design_file import from_text, load, to_text
from ridgeline.files.setup_card import setup_card

DAY = "2026-11-27"


def lines_of(design):
    return setup_list(design, evaluate(design))


def named(lines, key, of=None):
    return next(line for line in lines if line.key == key and of in (None, line.of))


def walked(design):
    """The design with everything seen as it ought to be."""
    here = benched(design, evaluate(design).results.linking)
    for k, stick, way in here.asks():
        design = apply(design, (noted(design, here.outputs[k], stick, way, DAY),))
    return design


def all_signed(design, upto="propeller", read=None):
    design = walked(design)
    lines = lines_of(design)
    for line in lines:
        if line.key == upto:
            break
        if line.walked is None:
            middle = None if not line.quantity else (line.low + line.high) / 2
            design = apply(design, (sign(design, lines, line, day=DAY, read=middle),))
    return design


def test_the_list_has_only_what_the_design_has():
    keys = [line.key for line in lines_of(load("demo:whimbrel"))]
    assert keys[0] == "plugs" and keys[-1] == "signed" and keys.index("propeller") > keys.index("field")
    assert "gyro" not in keys and keys.count("throw_up") == 2
    glider = [line.key for line in lines_of(load("demo:plover"))]
    assert not {"plugs", "motor", "sweep", "pack", "propeller", "full", "timer"} & set(glider)
    assert {"balance", "wind", "field", "signed"} <= set(glider)
    bare = load("demo:whimbrel").model_copy(update={"radio": None, "linkages": ()})
    keys = [line.key for line in lines_of(bare)]
    assert not {"directions", "failsafe", "range", "throw_up", "screws"} & set(keys)
    gyro = put(load("demo:whimbrel"), "radio.gyro", {"axes": ["roll", "pitch"]})
    assert str(named(lines_of(gyro), "gyro").told) == "2 axes"


def test_what_is_read_beyond_what_is_wished_is_wrong_and_within_it_is_done():
    design = load("demo:whimbrel")
    lines = lines_of(design)
    up = named(lines, "throw_up")
    wished = evaluate(design).value(f"controls.{up.of}.up")
    off = max(0.0175, 0.10 * wished)
    for read, state in ((wished, "done"), (wished + 0.95 * off, "done"), (wished + 1.05 * off, "wrong")):
        signed = apply(design, (sign(design, lines, up, day=DAY, read=read),))
        assert state_of(signed, up, DAY) == state
    pack = named(lines, "pack")
    for volts, state in ((12.5, "done"), (12.0, "wrong"), (12.9, "wrong")):
        assert state_of(apply(design, (sign(design, lines, pack, day=DAY, read=volts),)), pack, DAY) == state


def test_a_line_is_armed_again_by_what_it_hangs_on_and_by_nothing_else():
    design = load("demo:whimbrel")
    lines = lines_of(design)
    motor, up, balance = (named(lines, key) for key in ("motor", "throw_up", "balance"))
    for line in (motor, up, balance):
        design = apply(design, (sign(design, lines, line, day=DAY, read=line.low and (line.low + line.high) / 2),))
    turned = put(design, "power.motor.kv_rpm_per_v", 1000.0)
    states = {key: state_of(turned, named(lines_of(turned), key), DAY) for key in ("motor", "throw_up", "balance")}
    assert states == {"motor": "again", "throw_up": "done", "balance": "again"}
    linked = put(design, "radio.rates", ())
    assert state_of(linked, named(lines_of(linked), "throw_up"), DAY) == "again"
    assert state_of(linked, named(lines_of(linked), "motor"), DAY) == "again"
    renamed = put(design, "surfaces[0].name", "Another")
    assert state_of(renamed, named(lines_of(renamed), "motor"), DAY) == "done"


def test_what_is_of_the_day_is_looked_at_anew_the_next_day():
    design = load("demo:whimbrel")
    lines = lines_of(design)
    for key, tomorrow in (("field", "again"), ("sweep", "done")):
        line = named(lines, key)
        signed = apply(design, (sign(design, lines, line, day=DAY),))
        assert state_of(signed, line, DAY) == "done" and state_of(signed, line, "2026-11-28") == tomorrow


def test_the_propeller_stays_off_until_all_before_it_is_done():
    design = load("demo:whimbrel")
    lines = lines_of(design)
    with pytest.raises(DesignError, match="propeller off until then"):
        sign(design, lines, named(lines, "propeller"), day=DAY)
    ready = all_signed(design)
    lines = lines_of(ready)
    assert open_before(ready, lines, named(lines, "propeller"), DAY) == ()
    on = apply(ready, (sign(ready, lines, named(lines, "propeller"), day=DAY),))
    with pytest.raises(DesignError, match="Full throttle"):
        sign(on, lines, named(lines, "signed"), day=DAY)
    full = named(lines, "full")
    on = apply(on, (sign(on, lines, full, day=DAY, read=(full.low + full.high) / 2),))
    done = apply(on, (sign(on, lines, named(lines, "signed"), day=DAY, by="KL"),))
    assert state_of(done, named(lines_of(done), "signed"), DAY) == "done"
    assert signed_of(done, named(lines, "signed")).by == "KL"
    # A servo turned over after that arms the walk, and the whole list with it.
    again = put(done, "power.propeller.pitch", 0.1)
    assert state_of(again, named(lines_of(again), "signed"), DAY) == "again"
    assert from_text(to_text(done), "x") == done


def test_what_is_walked_round_is_not_ticked_by_hand():
    design = load("demo:whimbrel")
    lines = lines_of(design)
    with pytest.raises(DesignError, match="a walk round the controls"):
        sign(design, lines, named(lines, "directions"), day=DAY)
    seen = walked(design)
    assert named(lines_of(seen), "directions").walked == "done" and named(lines_of(seen), "failsafe").walked == "done"
    here = benched(design, evaluate(design).results.linking)
    k, stick, way = here.asks()[0]
    wrong = apply(seen, (noted(seen, here.outputs[k], stick, -way, DAY),))
    assert named(lines_of(wrong), "directions").walked == "wrong"


def test_a_signature_is_taken_back():
    design = load("demo:whimbrel")
    lines = lines_of(design)
    line = named(lines, "plugs")
    signed = apply(design, (sign(design, lines, line, day=DAY, good=False),))
    assert state_of(signed, line, DAY) == "wrong"
    assert state_of(apply(signed, (unsigned(signed, line),)), line, DAY) == "open"


@given(st.data())
@settings(max_examples=20, deadline=None)
def test_the_reading_without_some_parts_is_that_of_the_rest(data):
    design = load("demo:whimbrel")
    masses = evaluate(design).results.masses
    off = data.draw(st.sets(st.sampled_from([item.id for item in design.parts]), min_size=1, max_size=4))
    now = state_now(put(design, "log_book.absent", tuple(sorted(off))), masses)
    gone = np.array([item.id in off for item in design.parts])
    m, x = masses.expected, masses.items.place
    mass, state = float(m[gone].sum()), masses.state
    assert now.mass == pytest.approx(state.mass - mass)
    expected = (state.mass * state.cg[0] - float(m[gone] @ x[gone, 0])) / (state.mass - mass)
    assert float(now.cg[0]) == pytest.approx(expected)
    total, cg = with_the_rest(now.mass, now.cg, m[gone], x[gone])
    assert total == pytest.approx(state.mass) and cg == pytest.approx(state.cg)


def test_the_balance_is_read_without_the_propeller_unless_it_is_said_to_be_on():
    design = load("demo:whimbrel")
    propeller = next(item.id for item in design.parts if item.component == "propeller")
    assert absent_now(design) == (propeller,)
    on = put(design, "log_book.absent", ())
    without, with_it = (named(lines_of(one), "balance") for one in (design, on))
    masses = evaluate(design).results.masses
    assert state_now(on, masses) is masses.state
    # The window moves as the balance does, so that the aircraft ends up in the same one.
    shift = float(state_now(design, masses).cg[0] - masses.state.cg[0])
    assert without.low - with_it.low == pytest.approx(shift)


def test_a_part_that_is_gone_is_no_line_any_more():
    design = load("demo:whimbrel")
    control = named(lines_of(design), "throw_up").of
    gone = put(design, "linkages[0]", REMOVE)
    assert control not in {line.of for line in lines_of(gone) if line.key == "throw_up"}


def test_what_is_wished_is_told_by_the_models_own_figures():
    design = load("demo:whimbrel")
    report = evaluate(design)
    lines = setup_list(design, report)
    assert str(named(lines, "timer").told) == f"{report.value('flight.endurance') / 120:.0f} min at first"
    assert named(lines, "wind").high == report.value("flight.wind_limit")
    sideways = named(lines, "sideways")
    assert (sideways.low, sideways.high) == (-0.003, 0.003)
    current = report.figures["power.static_current"]
    full = named(lines, "full")
    assert full.high - current.value == pytest.approx(1.645 * current.sigma + 0.05 * current.value)
    balance, first = named(put_on(lines_of, design), "balance"), report.results.targets.first_throw
    assert balance.low == pytest.approx(report.results.shape.reference.at(first[0]) - 0.002)


def put_on(lines, design):
    return lines(put(design, "log_book.absent", ()))


def test_findings_tell_what_is_not_right_and_what_is_to_be_done_again():
    design = load("demo:whimbrel")

    def told(design):
        return {one.key: one for one in evaluate(design).findings if one.key.startswith("flights.setup")}

    assert told(design) == {}
    lines = lines_of(design)
    wrong = apply(design, (sign(design, lines, named(lines, "pack"), day=DAY, read=11.1),))
    (finding,) = told(wrong).values()
    assert finding.level == "stop" and "11.1 V was read" in str(finding.reason)
    ready = all_signed(design)
    assert told(ready) == {}
    changed = put(put(ready, "power.motor.kv_rpm_per_v", 1000.0), "power.esc.max_current", 25.0)
    again = told(changed)["flights.setup.again"]
    assert again.level == "look" and "motor turns" in str(again.reason)
    lines = lines_of(ready)
    on = apply(ready, (sign(ready, lines, named(lines, "propeller"), day=DAY),))
    full = named(lines, "full")
    on = apply(on, (sign(on, lines, full, day=DAY, read=(full.low + full.high) / 2),))
    done = apply(on, (sign(on, lines, named(lines, "signed"), day=DAY),))
    assert told(done)["flights.setup.done"].level == "settled"


def test_the_card_lists_every_line_with_what_is_wished():
    design = load("demo:whimbrel")
    card = setup_card(design, evaluate(design), DAY)
    for line in lines_of(design):
        assert line.words in card
    assert card.index("PROPELLER OFF UNTIL HERE") < card.index("Propeller on") and "read ________" in card
    signed = setup_card(all_signed(design), evaluate(all_signed(design)), DAY)
    assert signed.count(DAY) > card.count(DAY) and signed.count("read ________") < card.count("read ________")
    with pytest.raises(DesignError, match="laid out"):
        setup_card(Design(), evaluate(Design()), DAY)
