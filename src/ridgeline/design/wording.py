"""Places of the document in a builder's words, and what differs between two designs."""

from __future__ import annotations

from typing import Any, NamedTuple

from ridgeline.design.document import Design
from ridgeline.design.patches import difference
from ridgeline.design.paths import dotted, get, quantity_at, steps
from ridgeline.errors import DesignError

#: Fields whose names are not what a builder calls them.
CALLED = {
    "kv_rpm_per_v": "speed constant",
    "capacity_ah": "capacity",
    "temperature_c": "temperature",
    "c_rating": "C rating",
    "x": "aft",
    "y": "out",
    "z": "up",
    "esc": "speed controller",
    "tail_volume_h": "tail volume",
    "tail_volume_v": "fin volume",
}
#: Parents that say nothing their child does not.
_UNSAID = ("power", "brief")
#: What the document notes of its own edits; it says nothing they do not.
_FOLLOWS_EDITS = ("brief", "typed")
_SINGULAR = {"bodies": "body", "parts": "item", "stations": "station", "controls": "control", "mounts": "mount"}


class Differing(NamedTuple):
    """One place where two designs differ; the quantity is that of a measure, None for anything else.

    A value is a number, words, or None where there is nothing; of a whole part it is its name.
    """

    label: str
    quantity: str | None
    before: Any
    after: Any


def words_of(design: Design, path: str) -> str:
    """Return what a dotted path names: ``surfaces[0].stations[1].chord`` is "Wing, station 2, chord".

    A text that is no path of the design comes back as it is.

    Parameters
    ----------
    design : Design
    path : str

    Returns
    -------
    str
    """
    try:
        get(design, path)
        return words_of_route(design, tuple(steps(path)))
    except DesignError:
        return path


def words_of_route(design: Design, route: tuple[str | int, ...]) -> str:
    """Return what a route names, in a builder's words."""
    words: list[str] = []
    node: Any = design
    field = ""
    for step in route:
        if isinstance(step, int):
            node = node[step] if isinstance(node, tuple) and 0 <= step < len(node) else None
            name = getattr(node, "name", None)
            words.append(str(name) if name else f"{_SINGULAR.get(field, field.rstrip('s'))} {step + 1}")
        else:
            node, field = getattr(node, step, None), step
            if not isinstance(node, tuple):
                words.append(CALLED.get(step, step.replace("_", " ")))
    if isinstance(node, tuple) and field:
        words.append(field.replace("_", " "))
    if len(words) > 1 and words[0] in _UNSAID:
        words = words[1:]
    said = ", ".join(words)
    return said[:1].upper() + said[1:]


def differing(before: Design, after: Design) -> list[Differing]:
    """Return the places where two designs differ, in the document's order.

    Parameters
    ----------
    before, after : Design

    Returns
    -------
    list of Differing
        Which wishes were typed is not among them: it follows from the wishes' own edits.
    """
    found: list[Differing] = []
    for route, *rest in difference(before, after):
        if tuple(route[:2]) == _FOLLOWS_EDITS:
            continue
        if len(rest) == 1:
            found.append(_changed(before, after, tuple(route)))
        else:
            start, removed, fresh = rest
            old, new = _at(before, route), _at(after, route)
            where = words_of_route(after, tuple(route))
            for k in range(max(removed, len(fresh))):
                gone = old[start + k] if k < removed else None
                come = new[start + k] if k < len(fresh) else None
                if gone != come:
                    found.append(Differing(where, None, gone and _name(gone), come and _name(come)))
    return found


def _changed(before: Design, after: Design, route: tuple[str | int, ...]) -> Differing:
    quantity = quantity_at(after, dotted(route))
    return Differing(words_of_route(after, route), quantity, _plain(_at(before, route)), _plain(_at(after, route)))


def _plain(value: Any) -> Any:
    if value is None or isinstance(value, bool | int | float | str):
        return value
    return _name(value)


def _name(part: Any) -> str:
    name = getattr(part, "name", None)
    if name:
        return str(name)
    return f"{len(part)} entries" if isinstance(part, tuple) else type(part).__name__.lower()


def _at(node: Any, route: Any) -> Any:
    for step in route:
        node = node[step] if isinstance(step, int) else getattr(node, step)
    return node
