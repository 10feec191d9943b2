"""Findings on the setup list: lines that are not right, and lines to be done again since something changed."""

from __future__ import annotations

from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.engine.advice.setup_list import Line, setup_list
from ridgeline.engine.advice.signing import signed_of, state_of
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Report

#: So many lines are named.
_NAMED = 3


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge what was signed of the setup list; nothing where nothing was. Which day it is the sheet knows."""
    if not design.signed:
        return
    lines = setup_list(design, report)
    states = {line: state_of(design, line, "") for line in lines}
    for line in (line for line, state in states.items() if state == "wrong" and line.walked is None):
        yield _wrong(design, line)
    again = [line for line, state in states.items() if state == "again" and line.key != "signed"]
    if again:
        named = ", ".join(line.words.lower() for line in again[:_NAMED])
        more = f" and {len(again) - _NAMED} more" if len(again) > _NAMED else ""
        words = say(f"{len(again)} lines of the setup are to be done again." if len(again) > 1 else
                    "A line of the setup is to be done again.")  # fmt: skip
        yield Finding(
            "flights.setup.again", "look", "flights", words, say("{}{}: what they hang on changed.", named, more)
        )
    done = sum(state == "done" for state in states.values())
    if done == len(lines):
        yield Finding(
            "flights.setup.done", "settled", "flights", say("Set up and signed."), say("Every line of the list.")
        )


def _wrong(design: Design, line: Line) -> Finding:
    last = signed_of(design, line)
    words = say("Setup: {} is not right.", line.words)
    why = say(f"{line.told.template} is wished.", *line.told.values)
    if last is not None and last.read is not None and line.quantity:
        read = Measured(last.read, line.quantity)
        why = say(f"{{}} was read; {line.told.template} is wished.", read, *line.told.values)
    return Finding(f"flights.setup.{line.key}.{line.of}", "stop", "flights", words, why)
