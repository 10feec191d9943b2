"""Lines of the setup list that were signed: how each stands, and the edits that sign it and take that back."""

from __future__ import annotations

from ridgeline.design.document import Design
from ridgeline.design.flights import Signed
from ridgeline.design.paths import Change
from ridgeline.engine.advice.setup_list import Line, State
from ridgeline.errors import DesignError


def signed_of(design: Design, line: Line) -> Signed | None:
    """Return what was signed of a line last; None where nothing was.

    Parameters
    ----------
    design : Design
    line : Line

    Returns
    -------
    Signed or None
    """
    return next((one for one in reversed(design.signed) if (one.line, one.of) == line.place), None)


def state_of(design: Design, line: Line, day: str) -> State:
    """Return how a line stands: open, done, to be done again since something changed (or another day came), or wrong.

    Parameters
    ----------
    design : Design
    line : Line
    day : str
        Today, as 2026-11-26; "" asks of no day.

    Returns
    -------
    str
    """
    if line.walked is not None:
        return line.walked
    last = signed_of(design, line)
    if last is None:
        return "open"
    if last.setting != line.mark or (line.daily and day and last.day != day):
        return "again"
    if not last.good or not _within(line, last.read):
        return "wrong"
    return "done"


def _within(line: Line, read: float | None) -> bool:
    if read is None:
        return True
    return (line.low is None or read >= line.low) and (line.high is None or read <= line.high)


def open_before(design: Design, lines: tuple[Line, ...], line: Line, day: str) -> tuple[Line, ...]:
    """Return the lines before one that are not done: with the propeller on, none may be.

    Parameters
    ----------
    design : Design
    lines : tuple of Line
    line : Line
        One of them.
    day : str

    Returns
    -------
    tuple of Line
    """
    before = lines[: lines.index(line)]
    return tuple(one for one in before if state_of(design, one, day) != "done")


def sign(
    design: Design, lines: tuple[Line, ...], line: Line, *, day: str, by: str = "", read: float | None = None,
    good: bool = True,
) -> Change:  # fmt: skip
    """Return the edit that signs a line.

    Parameters
    ----------
    design : Design
    lines : tuple of Line
        The whole list.
    line : Line
    day, by : str
    read : float, optional
        What was read, in the stored unit of its quantity.
    good : bool
        False where it was looked at and is not right.

    Returns
    -------
    Change

    Raises
    ------
    DesignError
        When it is signed by walking round the controls, or the propeller is on before all that comes first is done.
    """
    if line.walked is not None:
        raise DesignError(line.words, "a press", "a walk round the controls: it is seen there")
    if not line.bare and good:
        waiting = open_before(design, lines, line, day)
        if waiting:
            more = f" and {len(waiting) - 1} more" if len(waiting) > 1 else ""
            told = f"“{waiting[0].words}”{more} before it, not done"
            raise DesignError(line.words, told, "it last, propeller off until then")
    kept = tuple(one for one in design.signed if (one.line, one.of) != line.place)
    fresh = Signed(line=line.key, of=line.of, day=day, by=by, read=read, good=good, setting=line.mark)
    return Change("signed", (*kept, fresh))


def unsigned(design: Design, line: Line) -> Change:
    """Return the edit that takes the signature of a line back.

    Parameters
    ----------
    design : Design
    line : Line

    Returns
    -------
    Change
    """
    return Change("signed", tuple(one for one in design.signed if (one.line, one.of) != line.place))
