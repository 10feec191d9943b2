"""The pack slid on its rail so that the balance moves, as far as the rail goes."""

from __future__ import annotations

from typing import NamedTuple

from ridgeline.design.document import Design
from ridgeline.engine.advice.balance_rules import pack_on_rail, rail_reach
from ridgeline.engine.report import Report
from ridgeline.engine.weights.levers import slide_for


class PackSlid(NamedTuple):
    """A pack slid on its rail: which part it is, where it stands then, how far it goes and would have to, m aft."""

    part: int
    place: float
    move: float
    wanted: float

    @property
    def whole(self) -> bool:
        """Tell whether the rail has room for all of it."""
        return abs(self.move - self.wanted) < 5e-4


def pack_slid(design: Design, report: Report, by: float) -> PackSlid | None:
    """Return the pack slid so that the balance moves, as far as its rail goes.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    by : float
        The balance's move, m aft.

    Returns
    -------
    PackSlid or None
        None where no pack lies on a rail, or weighs nothing.
    """
    index, state = pack_on_rail(design), report.results.masses.state
    if index is None or state is None:
        return None
    moving, x = float(report.results.masses.expected[index]), design.parts[index].x
    if moving <= 0:
        return None
    wanted = slide_for(state.mass, moving, 0.0, by)
    front, back = rail_reach(design.parts[index])
    place = min(max(x + wanted, front), back)
    return PackSlid(index, place, place - x, wanted)
