"""The size of type and everything drawn with it, per cent: chosen in the View menu, in force from the next start.

No Qt is imported here: the scale has to stand before Qt starts. The sheets reflow, since they get fewer of larger px.
"""

from __future__ import annotations

import os
from collections.abc import MutableMapping

from ridgeline.files.choices import remembered

SIZES = (90, 100, 110, 125, 150)
USUAL = 100
_SCALE = "QT_SCALE_FACTOR"
#: The sheets need so many px, counted in those of the size chosen.
_LEAST = (1000, 640)


def chosen_size() -> int:
    """Return the size that is remembered, per cent; the usual one where none is, or what is remembered is none."""
    size = remembered().get("text")
    return size if isinstance(size, int) and size in SIZES else USUAL


def put_in_force(environment: MutableMapping[str, str] = os.environ) -> None:
    """Have Qt draw everything at the chosen size, on top of what the desktop asks for already.

    Parameters
    ----------
    environment : mutable mapping
        Of the process, before Qt starts.
    """
    size = chosen_size()
    if size == USUAL:
        return
    try:
        before = float(environment.get(_SCALE, "1"))
    except ValueError:
        before = 1.0
    environment[_SCALE] = f"{before * size / USUAL:g}"


def fits(size: int, now: int, width: int, height: int) -> bool:
    """Tell whether a screen has room for the sheets at a size.

    Parameters
    ----------
    size, now : int
        To be chosen, and in force, per cent.
    width, height : int
        Of the screen, in px as they are now.

    Returns
    -------
    bool
    """
    scale = now / size
    return width * scale >= _LEAST[0] and height * scale >= _LEAST[1]
