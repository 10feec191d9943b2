"""The setup list as a card to print: what is looked at, in order, what is wished, and a place for what was read."""

from __future__ import annotations

from datetime import date

from ridgeline.design.document import Design
from ridgeline.engine.advice.cautions import CAUTIONS
from ridgeline.engine.advice.setup_list import Line, setup_list
from ridgeline.engine.advice.signing import signed_of, state_of
from ridgeline.engine.report import Report
from ridgeline.errors import DesignError
from ridgeline.files.card import HEAD, CardLine, drawn_card


def setup_card(design: Design, report: Report, day: str = "") -> str:
    """Return the setup list as an SVG of its true size.

    Parameters
    ----------
    design : Design
        With an airframe.
    report : Report
        Of the design.
    day : str
        Date it is printed with, and for which lines are done; today's where it is left out.

    Returns
    -------
    str

    Raises
    ------
    DesignError
        Where there is no airframe yet.
    """
    if not design.surfaces:
        raise DesignError("setup card", "no airframe", "a design that is laid out")
    today = day or date.today().isoformat()
    rows = [CardLine(design.name, size=HEAD, bold=True, right=f"version {design.revision}, {today}")]
    rows.append(CardLine("", "Setup, in this order", bold=True, ruled=True))
    bare = True
    for line in setup_list(design, report):
        if bare and not line.bare:
            rows.append(CardLine("", "PROPELLER OFF UNTIL HERE", bold=True, ruled=True))
            bare = False
        rows.append(_row(design, line, today))
    rows.append(CardLine("", CAUTIONS["flights"]))
    return drawn_card(rows)


def _row(design: Design, line: Line, day: str) -> CardLine:
    last = signed_of(design, line)
    done = state_of(design, line, day) == "done"
    told = f"{line.words}: {line.told}" + ("; read ________" if line.quantity and not done else "")
    when = "" if not done else ("seen" if last is None else f"{last.by or 'done'} {last.day}")
    return CardLine("", told, boxed=True, right=when)
