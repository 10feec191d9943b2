"""What a design needs that is bought: every part once, what lies there not again, what is made not at all."""

import math
from dataclasses import replace

import pytest

from ridgeline.design.document import Design
from ridgeline.design.paths import put
from ridgeline.engine.build.whole import pieces_of_design
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.templates.nesting import Nested
from ridgeline.engine.templates.shopping import needs_of
from ridgeline.engine.templates.stock_cut import rods_of
from ridgeline.engine.templates.whole import laid_out
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names
from twin_motors import twin

WHIMBREL = load("demo:whimbrel")


@pytest.fixture(scope="module")
def whimbrel():
    return WHIMBREL


@pytest.fixture(scope="module")
def laid(whimbrel):
    return laid_out(whimbrel, whimbrel.cutting)


@pytest.fixture(scope="module")
def needs(whimbrel, laid):
    priced = replace(laid, sheets=tuple(
        replace(one, stock=one.stock.model_copy(update={"price": 2.5, "count": 1})) for one in laid.sheets
    ))  # fmt: skip
    return needs_of(whimbrel, evaluate(whimbrel), priced, {whimbrel.power.pack.name: 1})


def of(needs, kind):
    return [one for one in needs if one.kind == kind]


def test_every_part_of_the_power_train_is_needed_and_what_lies_there_is_not_bought(whimbrel, needs):
    power = whimbrel.power
    (pack,), (motor,) = of(needs, "pack"), of(needs, "motor")
    assert (pack.amount, pack.there, pack.buy, pack.cost) == (1, 1, 0, 0.0) and pack.name == power.pack.name
    assert (motor.amount, motor.there, motor.buy) == (power.motors, None, power.motors) and motor.cost is None
    assert of(needs, "propeller")[0].amount == 1 and of(needs, "speed controller")[0].amount == 1
    twin_ = needs_of(twin(whimbrel), evaluate(twin(whimbrel)), Nested((), ()))
    assert [one.amount for one in (*of(twin_, "motor"), *of(twin_, "propeller"), *of(twin_, "speed controller"))] == [
        2, 2, 2]  # fmt: skip


def test_boards_are_those_that_were_opened_less_those_on_hand(laid, needs):
    count = len(laid.sheets)
    (board,) = of(needs, "board")
    assert count > 1 and (board.amount, board.there, board.buy) == (count, 1, count - 1)
    assert board.cost == pytest.approx(2.5 * (count - 1)) and board.name == "Foam board 5 mm, 508 × 762 mm"


def test_servos_leads_horns_and_rods_are_those_of_the_design(whimbrel, needs):
    design = whimbrel
    report = evaluate(design)
    assert sum(one.amount for one in of(needs, "servo")) == sum(one.count for one in design.parts if one.servo)
    runs = report.results.harness.runs
    leads = {one.name: one.amount for one in of(needs, "lead")}
    assert leads.get("Extension 500 mm", 0) == sum(piece.length == 0.5 for run in runs for piece in run.pieces) > 0
    rows = report.results.linking.rows
    assert sum(one.amount for one in of(needs, "horn")) == sum(len(row.sides) for row in rows) == 4
    wires = rods_of(design, report)["Steel wire 1 mm"]
    assert sorted(round(one.length, 6) for one in wires) == sorted(
        round(row.rod, 6) for row in rows if row.linkage.rod == "Steel wire 1 mm" for _side in row.sides)  # fmt: skip
    assert {one.name for one in of(needs, "rod")} >= {"Carbon tube 6/4 mm, 1000 mm", "Steel wire 1 mm, 1000 mm"}
    joined = put(design, "linkages[0].port", "joined")
    fewer = needs_of(joined, evaluate(joined), Nested((), ()))
    assert sum(one.amount for one in of(fewer, "horn")) == 3
    assert len(rods_of(joined, evaluate(joined))["Steel wire 1 mm"]) == len(wires) - 1
    for kind, horns, rods in (("torque_rod", 2, 2), ("pull_pull", 4, 0), ("spring_line", 4, 0), ("direct", 2, 0)):
        other = put(whimbrel, "linkages[0].kind", kind)
        judged = evaluate(other)
        assert sum(one.amount for one in of(needs_of(other, judged, Nested((), ())), "horn")) == horns, kind
        assert len(rods_of(other, judged).get("Steel wire 1 mm", ())) == rods, kind


def test_fastenings_are_called_by_their_size_where_that_tells_them():
    names = set()
    for kind in ("bolts", "magnets", "prop_bands", "tongue", "bond"):
        one = WHIMBREL.fastenings[0].model_copy(update={"kind": kind, "size": 0.005})
        design = put(WHIMBREL, "fastenings", (one,))
        names |= {one.name for one in needs_of(design, evaluate(design), Nested((), ())) if one.kind == "fastening"}
    assert names == {"Bolt 5 mm", "Magnet 5 mm", "Rubber ring"}


def test_nothing_that_is_made_or_counted_elsewhere_is_bought(whimbrel, needs):
    names = {one.name for one in needs}
    made = {p.name for p in whimbrel.parts if p.build or p.component or p.harness == "leads"}
    assert len(made) > 6 and not made & {one.use for one in needs}
    assert "Motor mount, print" not in names and {"Camera", "Receiver, gyro"} <= names
    assert {one.name: one.amount for one in of(needs, "fastening")} == {"Rubber band": 12, "Screw 3 mm": 4, "Strap": 1}


def test_glue_tape_and_covering_are_what_the_pieces_take(whimbrel, needs):
    pieces = pieces_of_design(whimbrel)
    for kind, unit in (("glue and tape", "m"), ("covering", "m²")):
        for one in of(needs, kind):
            group = "covering" if kind == "covering" else "glue"
            exact = math.fsum((p.area if group == "covering" else p.length) * p.pieces for p in pieces
                              if p.group == group and p.material == one.name)  # fmt: skip
            assert one.unit == unit and exact <= one.amount <= exact + 0.1
    assert of(needs, "covering") and len(of(needs, "glue and tape")) == 2


@pytest.mark.parametrize("name", sorted(gallery_names()))
def test_every_sample_says_what_it_is_made_of(name):
    design = load(f"demo:{name}")
    needs = needs_of(design, evaluate(design), Nested((), ()))
    assert needs and all(one.amount > 0 and one.name and one.use for one in needs)
    assert not needs_of(Design(), evaluate(Design()), Nested((), ()))
