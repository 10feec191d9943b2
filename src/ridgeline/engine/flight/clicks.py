"""Trims told in clicks: so many of a radio's steps, each a share of the full throw of what the trim moves."""

from __future__ import annotations

import re
from typing import Literal

from ridgeline.design.document import Design
from ridgeline.design.radio import StickName
from ridgeline.engine.controls.sense import FOLLOWS
from ridgeline.engine.register import CONTROL_UP
from ridgeline.engine.report import Report
from ridgeline.errors import DesignError
from ridgeline.typed import short

TrimField = Literal["trim_pitch", "trim_roll", "trim_yaw"]
_CLICKS = re.compile(r"\s*([-+−]?\d{1,3})\s*clicks?\s*", re.IGNORECASE)
#: The stick a trim belongs to.
_STICK: dict[TrimField, StickName] = {"trim_pitch": "pitch", "trim_roll": "roll", "trim_yaw": "yaw"}


def clicks_read(design: Design, report: Report, trim: TrimField, text: str) -> float | None:
    """Return the angle that clicks of a trim are, rad; None where none are typed.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design: what a control's linkage moves it by at full signal.
    trim : str
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
    match = _CLICKS.fullmatch(text)
    if match is None:
        return None
    throws = []
    for surface in design.surfaces:
        for control in surface.controls:
            if _STICK[trim] in FOLLOWS[control.kind]:
                figure = report.figures.get(CONTROL_UP.key(control.id))
                linked = None if figure is None else figure.value
                throws.append(linked if linked is not None else control.up)
    known = [throw for throw in throws if throw]
    if not known:
        raise DesignError("trim", f"“{short(text)}”", "an angle such as 2°: the full throw of that control is not told")
    return float(match.group(1).replace("−", "-")) * design.log_book.click * max(known)
