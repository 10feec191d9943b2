"""Trims told in clicks: so many of a radio's steps, each a share of the full throw of what the trim moves."""

from __future__ import annotations

import re

from ridgeline.design.airframe import ControlKind
from ridgeline.design.document import Design
from ridgeline.errors import DesignError
from ridgeline.typed import short

_CLICKS = re.compile(r"\s*([-+−]?\d{1,3})\s*clicks?\s*", re.IGNORECASE)
#: What a trim moves.
_MOVES: dict[str, tuple[ControlKind, ...]] = {
    "trim_pitch": ("elevator", "elevon", "ruddervator"),
    "trim_roll": ("aileron", "elevon", "flaperon"),
    "trim_yaw": ("rudder", "ruddervator"),
}


def clicks_at(design: Design, route: tuple[str | int, ...], text: str) -> float | None:
    """Return the angle that clicks of a trim are, rad; None where none are typed, or no trim is typed for.

    Parameters
    ----------
    design : Design
    route : tuple
        Steps of a path.
    text : str
        Such as "4 clicks".

    Returns
    -------
    float or None

    Raises
    ------
    DesignError
        Where nothing says how far the control goes.
    """
    match, kinds = _CLICKS.fullmatch(text), _MOVES.get(str(route[-1])) if route[0] == "flights" else None
    if match is None or kinds is None:
        return None
    throws = [
        throw
        for surface in design.surfaces
        for control in surface.controls
        for throw in (control.up,)
        if control.kind in kinds and throw
    ]
    if not throws:
        raise DesignError("trim", f"“{short(text)}”", "an angle such as 2°: the full throw of that control is not told")
    return float(match.group(1).replace("−", "-")) * design.log_book.click * max(throws)
