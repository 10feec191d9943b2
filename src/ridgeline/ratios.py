"""Scales and ratios as builders write them."""

from __future__ import annotations

from ridgeline.errors import DesignError
from ridgeline.typed import plain_number, short


def ratio_of(text: str, path: str = "scale") -> float:
    """Read a scale as builders write it: ``33 %``, ``1/3``, ``1:3`` or ``0.33``.

    Parameters
    ----------
    text : str
    path : str
        Of what it is, for the refusal.

    Returns
    -------
    float

    Raises
    ------
    DesignError
        When it is none of these, or not more than nothing.
    """
    allowed = "a scale such as 33 %, 1/3, 1:3 or 0.33"
    body = text.strip()
    for mark in (":", "/"):
        above, found, below = body.partition(mark)
        if found:
            try:
                one, other = plain_number(above), plain_number(below)
            except ValueError as error:
                raise DesignError(path, f"“{short(text)}”", allowed) from error
            if one <= 0 or other <= 0:
                raise DesignError(path, f"“{short(text)}”", allowed)
            return one / other
    percent = body.endswith("%")
    try:
        value = plain_number(body.removesuffix("%"))
    except ValueError as error:
        raise DesignError(path, f"“{short(text)}”", allowed) from error
    if value <= 0:
        raise DesignError(path, f"“{short(text)}”", allowed)
    return value / 100 if percent else value
