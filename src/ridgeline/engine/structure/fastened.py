"""What each fastening bears, against what the aircraft does to it, and the least more that makes it hold."""

from __future__ import annotations

from ridgeline.design.fastening import Fastening, FasteningKind
from ridgeline.engine.structure.fastening_laws import LAWS, Doing, Share

#: Steps tried of what makes a fastening hold more.
_TRIES = 80


def shares_of(one: Fastening, doing: Doing) -> tuple[Share, ...]:
    """Return every way a fastening may give, the nearest first.

    Parameters
    ----------
    one : Fastening
    doing : Doing

    Returns
    -------
    tuple of Share

    Source
    ------
    Second part of the handbook §16.3, 16.6; docs/theory.md §13.
    """
    return tuple(sorted(LAWS[one.kind](one, doing), key=lambda share: -share.share))


#: Steps in which what makes a fastening hold more grows, and the most of it, by kind and field.
_STEPS: dict[FasteningKind, dict[str, tuple[float, float]]] = {
    "bands": {"length": (0.01, 0.3), "count": (2, 40)},
    "bolts": {"size": (0.001, 0.006), "count": (1, 12)},
    "magnets": {"count": (1, 24)},
    "tongue": {"width": (0.005, 0.2)},
    "elbow": {"width": (0.01, 0.4)},
    "screws": {"count": (2, 12)},
    "bond": {"length": (0.005, 0.4), "width": (0.004, 0.2)},
    "firewall": {"width": (0.001, 0.02), "sheet": (0.0005, 0.01)},
    "prop_bands": {"count": (1, 12)},
    "blade_stop": {"size": (0.0005, 0.006)},
    "strap": {"count": (1, 6)},
    "legs": {"size": (0.0005, 0.014)},
    "skid": {"length": (0.01, 0.5), "width": (0.005, 0.1)},
    "boom": {"size": (0.001, 0.06)},
    "socket": {"length": (0.01, 0.4)},
    "strut": {"size": (0.0005, 0.02), "length": (0.005, 0.12), "width": (0.005, 0.08)},
    "thread": {"size": (0.0001, 0.003), "length": (0.005, 0.12), "width": (0.005, 0.08)},
    "servo_seat": {"length": (0.002, 0.06), "width": (0.002, 0.03)},
    "lines": {},
}


def stronger(one: Fastening, doing: Doing, most: float = 1.0) -> Fastening | None:
    """Return a fastening of the same kind that bears, with the least more of what makes it hold; None without one.

    Parameters
    ----------
    one : Fastening
    doing : Doing
    most : float
        Share it may come to.

    Returns
    -------
    Fastening or None
    """
    trial, steps = one, _STEPS[one.kind]
    for _ in range(_TRIES):
        worst = shares_of(trial, doing)[0]
        if worst.share <= most:
            return trial
        able = (field for field in worst.by if getattr(trial, field) + steps[field][0] <= steps[field][1] + 1e-9)
        field = next(able, None)
        if field is None:
            return None
        trial = _grown(trial, field, steps[field][0])
    return None


def _grown(one: Fastening, field: str, step: float) -> Fastening:
    value = getattr(one, field) + step
    update: dict[str, float | int] = {field: int(value) if field == "count" else round(value, 6)}
    if one.kind in ("boom", "strut") and one.inner:
        # The wall stays.
        update["inner"] = round(one.inner + step, 6)
    grown: Fastening = one.model_copy(update=update)
    return grown
