"""The throws of another design, taken over: by command, in the window, and with the holes that give them."""

import math

import pytest

from ridgeline.cli import main
from ridgeline.design.paths import apply, put
from ridgeline.desk.throws_from import take_throws
from ridgeline.engine.advice.alike import throws_like
from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import load, save

DEGREE = math.radians(1)
TURNSTONE, WHIMBREL, HERON = (load(f"demo:{name}") for name in ("turnstone", "whimbrel", "heron"))


def linking(design):
    return evaluate(design).results.linking


def taken(design, other):
    return throws_like(design, linking(design), other, linking(other))


def test_controls_then_go_as_far_as_those_of_the_other():
    found = taken(TURNSTONE, HERON)
    assert {row.control.kind for row in found.rows} == {"aileron", "elevator", "rudder"} and not found.missing
    after = linking(apply(TURNSTONE, found.changes))
    thrown = {row.control.kind: row.sides[0].throw for row in linking(HERON).rows}
    for row in after.rows:
        for got, wanted in zip(row.sides[0].throw, thrown[row.control.kind], strict=True):
            assert got == pytest.approx(wanted, abs=0.5 * DEGREE)
        channel = row.sides[0].channel
        assert min(channel.high, channel.low) >= 0.6 - 0.005


def test_holes_change_where_the_present_ones_do_not_reach():
    wild = put(HERON, "brief.purpose", "aerobatic")
    k = next(k for k, s in enumerate(wild.surfaces) if any(c.kind == "aileron" for c in s.controls))
    wild = put(put(wild, f"surfaces[{k}].controls[0].up", 30 * DEGREE), f"surfaces[{k}].controls[0].down", 30 * DEGREE)
    wild = put(wild, "linkages", ())
    found = taken(TURNSTONE, wild)
    row = next(row for row in found.rows if row.control.kind == "aileron")
    paths = {change.path.rsplit(".", 1)[1] for change in found.changes if change.path.startswith("linkages")}
    assert row.throw.up == pytest.approx(30 * DEGREE) and row.reached and paths & {"arm", "horn", "clocked"}
    got = linking(apply(TURNSTONE, found.changes)).of(row.control.id).sides[0].throw
    assert got.up == pytest.approx(30 * DEGREE, abs=0.5 * DEGREE)


def test_kinds_the_other_has_not_are_named_and_left():
    found = taken(TURNSTONE, WHIMBREL)
    assert found.missing == ("elevator", "rudder") and {row.control.kind for row in found.rows} == {"aileron"}
    assert all("surfaces" in change.path or "linkages" in change.path or "radio" in change.path
               for change in found.changes)  # fmt: skip


def test_by_command(capsys):
    assert main(["linkage", "demo:turnstone", "rudder", "--like", "demo:heron"]) == 0
    out = capsys.readouterr().out
    assert "aileron" in out and "--set surfaces[" in out
    assert main(["linkage", "demo:turnstone", "rudder", "--like", "nowhere.ridge"]) == 2


class Desk:
    """What the window keeps of a design, as far as this needs it."""

    def __init__(self, design):
        self.design, self.told, self.edits = design, [], []
        self.refused = self.noted = self

    @property
    def report(self):
        return evaluate(self.design)

    def emit(self, words):
        self.told.append(words)

    def edit(self, changes, label):
        self.edits.append(label)
        self.design = apply(self.design, changes)


def test_in_the_window_it_is_one_edit_and_says_what_came_of_it(tmp_path):
    desk = Desk(TURNSTONE)
    save(HERON, tmp_path / "other.ridge")
    take_throws(desk, str(tmp_path / "other.ridge"))
    assert desk.edits == [f"The throws of {HERON.name}"] and HERON.name in str(desk.told[-1])
    assert desk.design.surfaces != TURNSTONE.surfaces
    take_throws(desk, "demo:whimbrel")
    assert "it has no elevator, rudder" in str(desk.told[-1])
    take_throws(desk, str(tmp_path / "none.ridge"))
    assert len(desk.edits) == 2
    glider = Desk(put(TURNSTONE, "surfaces", tuple(s.model_copy(update={"controls": ()}) for s in TURNSTONE.surfaces)))
    take_throws(glider, "demo:heron")
    assert not glider.edits
