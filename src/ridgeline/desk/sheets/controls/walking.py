"""The walk round the aircraft on the bench: one question after another, and what was answered."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from ridgeline.design.document import Design
from ridgeline.design.paths import Change, apply
from ridgeline.design.walk import Asked
from ridgeline.desk.sheets.controls.stick_table import Cell, rows_of
from ridgeline.engine.advice.benched import LOST, WALKED, Benched, noted, stands

#: How each stick is moved, as a builder is told.
ORDERS: dict[Asked, str] = {
    "roll": "Stick full right",
    "pitch": "Stick full back",
    "yaw": "Rudder full right",
    "flap": "Flaps down",
    "throttle": "Propeller off, throttle up",
    "lost": "Propeller off, transmitter off",
}


class Question(NamedTuple):
    """What is asked: what one output did for a stick, or (``cell.output`` −1) whether anything else moved."""

    cell: Cell
    words: str
    answers: tuple[tuple[str, int], ...]


def questions(design: Design, here: Benched) -> tuple[Question, ...]:
    """Return what is still to be asked, stick after stick: what ought to move, then whether anything else did."""
    found = []
    for stick, _words in rows_of(here):
        column = [0] * len(here.outputs) if stick == LOST else [int(w) for w in here.wanted[:, WALKED.index(stick)]]
        mine = [k for k, way in enumerate(column) if way or stick == LOST]
        found += [question(here, Cell(k, stick)) for k in mine if stands(design, here.outputs[k], stick) is None]
        others = [k for k in range(len(here.outputs)) if k not in mine]
        if others and any(stands(design, here.outputs[k], stick) is None for k in others):
            found.append(Question(Cell(-1, stick), f"{ORDERS[stick]}: beside what ought to move",
                                  (("nothing", 0), ("something", 1))))  # fmt: skip
    return tuple(found)


def question(here: Benched, cell: Cell) -> Question:
    """Return what is asked of one output for a stick."""
    one = here.outputs[cell.output]
    words = f"{ORDERS[cell.stick]}: the {one.name}"
    if cell.stick == LOST:
        rest = ("stopped", "ran on") if one.row is None else ("at rest", "moved")
        return Question(cell, words, ((rest[0], 0), (rest[1], 1)))
    if one.row is None:
        ways = ("backwards", "forward") if cell.stick == "throttle" else ("slower", "faster")
    else:
        ways = ("port", "starboard") if one.level else ("up", "down")
    return Question(cell, words, ((ways[0], -1), ("nothing", 0), (ways[1], 1)))


def answered(design: Design, here: Benched, asked: Question, way: int, day: str) -> tuple[Change, ...]:
    """Return the edits an answer is; nothing where it only leads to further questions."""
    if asked.cell.output >= 0:
        return (noted(design, here.outputs[asked.cell.output], asked.cell.stick, way, day),)
    if way:
        return ()
    column = here.wanted[:, WALKED.index(asked.cell.stick)]
    now = design
    for k, one in enumerate(here.outputs):
        if not column[k]:
            now = apply(now, (noted(now, one, asked.cell.stick, 0, day),))
    return (Change("walk", now.walk),)


def further(here: Benched, stick: Asked) -> Sequence[Question]:
    """Return what is asked when something else moved: each of those that ought not to."""
    column = here.wanted[:, WALKED.index(stick)]
    return [question(here, Cell(k, stick)) for k in range(len(here.outputs)) if not column[k]]
