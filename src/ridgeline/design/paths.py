"""Edits by dotted path: ``surfaces[0].stations[1].chord``. An edit returns a new document.

What an edit does not touch keeps its identity, which is what lets the pipeline reuse its work.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from ridgeline.design.arms import arm_at
from ridgeline.design.base import Node, changed, scalar_kind
from ridgeline.design.carrying import carried
from ridgeline.design.document import Design
from ridgeline.design.explain import explain
from ridgeline.errors import DesignError
from ridgeline.typed import parse, plain_number, short
from ridgeline.units import DisplayUnit

_STEP = re.compile(r"([A-Za-z_]\w*)|\[(\d+|-)\]")
Model = TypeVar("Model", bound=Node)
Step = str | int


@dataclass(frozen=True)
class Change:
    """One edit: put ``value`` at ``path``. ``parts[-]`` appends; ``REMOVE`` takes an entry out."""

    path: str
    value: Any


class _Remove:
    def __repr__(self) -> str:
        return "REMOVE"


REMOVE = _Remove()


def steps(path: str) -> list[Step]:
    """Split a dotted path; ``-1`` stands for "append".

    Raises
    ------
    DesignError
        When the text is not a path.
    """
    return list(_route(path))


@lru_cache(maxsize=2048)
def _route(path: str) -> tuple[Step, ...]:
    found: list[Step] = []
    place = 0
    while place < len(path):
        if path[place] == "." and found:
            place += 1
        match = _STEP.match(path, place)
        if not match:
            raise DesignError(short(path) or "path", f"“{short(path)}”", "a path such as surfaces[0].stations[1].chord")
        name, index = match.groups()
        found.append(name if name else (-1 if index == "-" else int(index)))
        place = match.end()
    if not found:
        raise DesignError("path", "nothing", "a path such as surfaces[0].stations[1].chord")
    return tuple(found)


def get(design: Design, path: str) -> Any:
    """Return what stands at a path.

    Parameters
    ----------
    design : Design
    path : str
        Such as surfaces[0].stations[1].chord.

    Returns
    -------
    object
        What stands there.
    """
    node: Any = design
    walked = ""
    for step in steps(path):
        node = _child(node, step, path, walked)
        walked += f"[{step}]" if isinstance(step, int) else f".{step}"
    return node


def _child(node: Any, step: Step, path: str, walked: str) -> Any:
    if isinstance(step, str) and isinstance(node, BaseModel) and step in type(node).model_fields:
        return getattr(node, step)
    if isinstance(step, int) and isinstance(node, tuple) and 0 <= step < len(node):
        return node[step]
    place = walked.lstrip(".") or "the design"
    if isinstance(node, BaseModel):
        allowed = f"in {place}: " + ", ".join(type(node).model_fields)
    elif isinstance(node, tuple):
        allowed = f"in {place}: [0] to [{len(node) - 1}]" if node else f"nothing yet in {place}"
    else:
        allowed = f"nothing below {place}"
    shown = f"[{step}]" if isinstance(step, int) else f"“{step}”"
    raise DesignError(path, shown, allowed)


def put(design: Design, path: str, value: Any) -> Design:
    """Return the design with ``value`` at ``path``, validated as the editor does, with what hangs on it carried along.

    Parameters
    ----------
    design : Design
    path : str
        That exists, or ends in [-] to append.
    value : object
        In stored units, or REMOVE.

    Returns
    -------
    Design
        With the identity of all it does not touch.

    Raises
    ------
    DesignError
        When the path does not exist or the value is not allowed there.
    """
    fresh: Design = carried(design, _put(design, steps(path), _checked(value, path), path, ""))
    return fresh


def _checked(value: Any, path: str) -> Any:
    """Validate whole parts anew: a copy made with changed fields has not been through the validator."""
    if isinstance(value, tuple):
        return tuple(_checked(entry, path) for entry in value)
    try:
        return type(value).model_validate(value.model_dump()) if isinstance(value, BaseModel) else value
    except ValidationError as error:
        raise explain(error, prefix=path) from error


def _put(node: Any, route: list[Step], value: Any, path: str, walked: str) -> Any:
    step, rest = route[0], route[1:]
    if isinstance(step, int) and isinstance(node, tuple):
        here = f"{walked}[{step}]"
        if step == -1 and not rest:
            return (*node, _entry(node, value, f"{walked}[{len(node)}]"))
        child = _child(node, step, path, walked)
        if value is REMOVE and not rest:
            return node[:step] + node[step + 1 :]
        return (*node[:step], _put(child, rest, value, path, here) if rest else value, *node[step + 1 :])
    child = _child(node, step, path, walked)
    here = f"{walked}.{step}" if walked else str(step)
    fresh = _put(child, rest, value, path, here) if rest else value
    return _with_field(node, str(step), fresh, walked)


def _entry(node: tuple[Any, ...], value: Any, here: str) -> Any:
    """Make plain data that is appended to nodes one of their kind; of an empty field the whole is validated."""
    if isinstance(value, dict) and node and isinstance(node[0], Node):
        try:
            return type(node[0]).model_validate(value)
        except ValidationError as error:
            raise explain(error, prefix=here) from error
    return value


def _with_field(node: Model, field: str, value: Any, walked: str) -> Model:
    """Validate one changed field with its siblings, and keep the siblings' identity."""
    if _validated(node, field, value):
        fresh = node.model_copy(update={field: value})
        try:
            fresh.check()
        except ValueError:
            pass  # the validator below says it in the builder's words
        else:
            return fresh
    siblings = {name: getattr(node, name) for name in type(node).model_fields}
    try:
        checked = type(node).model_validate({**siblings, field: value})
    except ValidationError as error:
        raise explain(error, prefix=walked) from error
    return node.model_copy(update={field: getattr(checked, field)})


def _validated(node: Node, field: str, value: Any) -> bool:
    """Tell whether a field's new value is made of nodes of its former kind: those were validated on their own."""
    former = getattr(node, field)
    if not (isinstance(value, tuple) and isinstance(former, tuple)):
        return isinstance(value, Node) and type(value) is type(former)
    fresh = [*(value[k] for k in changed(value, former)), *value[len(former) :]]
    if fresh and not former:
        return False
    if any(not isinstance(entry, Node) or type(entry) is not type(former[0]) for entry in fresh):
        return False
    limits = type(node).model_fields[field].metadata
    return all(
        getattr(limit, "min_length", 0) <= len(value) <= getattr(limit, "max_length", len(value)) for limit in limits
    )


def apply(design: Design, changes: Iterable[Change]) -> Design:
    """Apply several changes in order; all or nothing.

    Changes inside the entries of one list, such as a tail's items moved together, are put into the design at once.

    Parameters
    ----------
    design : Design
    changes : iterable of Change

    Returns
    -------
    Design
    """
    field = ""
    entries: dict[int, Any] = {}
    for change in changes:
        route = steps(change.path)
        if entries and (route[0] != field or len(route) < 3):
            design, entries = _with_entries(design, field, entries), {}
        if len(route) < 3 or not isinstance(route[1], int):
            design = put(design, change.path, change.value)
            continue
        field, index = str(route[0]), route[1]
        before = _child(_child(design, field, change.path, ""), index, change.path, field)
        entry, value = entries.get(index, before), _checked(change.value, change.path)
        entries[index] = _put(entry, route[2:], value, change.path, f"{field}[{index}]")
    return _with_entries(design, field, entries) if entries else design


def _with_entries(design: Design, field: str, entries: dict[int, Any]) -> Design:
    kept = getattr(design, field)
    fresh = tuple(entries.get(index, entry) for index, entry in enumerate(kept))
    moved: Design = carried(design, _with_field(design, field, fresh, ""))
    return moved


def quantity_at(design: Design, path: str) -> str | None:
    """Return the quantity of the field at a path, or None when it is not a measure."""
    route = steps(path)
    owner = get(design, dotted(route[:-1])) if len(route) > 1 else design
    if not isinstance(route[-1], str) or not isinstance(owner, BaseModel):
        return None
    info = type(owner).model_fields.get(route[-1])
    extra = info.json_schema_extra if info else None
    return str(extra["quantity"]) if isinstance(extra, dict) and "quantity" in extra else None


def dotted(route: Iterable[Step]) -> str:
    """Write a route as a dotted path: ``surfaces[0].stations[1].chord``."""
    text = ""
    for step in route:
        text += f"[{step}]" if isinstance(step, int) else (f".{step}" if text else str(step))
    return text


def read_text(design: Design, path: str, text: str, *, bare: DisplayUnit | None = None) -> Any:
    """Turn typed text into the value for a path: units for measures, ``none`` to clear, else as it stands.

    Parameters
    ----------
    design : Design
    path : str
    text : str
        As typed, with or without a unit.
    bare : DisplayUnit, optional
        Of a number without one.

    Returns
    -------
    object
        For the path, in stored units.
    """
    get(design, path)
    quantity = quantity_at(design, path)
    if text.strip().lower() in ("none", "null"):
        return None
    if quantity is not None:
        return parse(text, quantity, path=path, bare=bare, arm=arm_at(design, _route(path)))
    current, kind = get(design, path), _kind_at(design, path)
    if kind is bool:
        if text.strip().lower() not in ("true", "false", "yes", "no"):
            raise DesignError(path, f"“{short(text)}”", "true or false")
        return text.strip().lower() in ("true", "yes")
    if kind in (int, float):
        return _number(text, path, whole=kind is int)
    if isinstance(current, str) or current is None:
        return text
    raise DesignError(path, f"“{short(text)}”", "a single value; this path names a whole part of the design")


def _kind_at(design: Design, path: str) -> Any:
    """Return what kind of single value a path names; None for a whole part, or an entry of a list."""
    route = steps(path)
    owner = get(design, dotted(route[:-1])) if len(route) > 1 else design
    if isinstance(route[-1], str) and isinstance(owner, BaseModel):
        return scalar_kind(type(owner), route[-1])
    return type(get(design, path)) if isinstance(get(design, path), int | float | str) else None


def _number(text: str, path: str, *, whole: bool) -> int | float:
    allowed = "a whole number" if whole else "a number"
    try:
        value = plain_number(text)
    except ValueError as error:
        raise DesignError(path, str(error), allowed) from error
    if not whole:
        return value
    if not value.is_integer():
        raise DesignError(path, f"“{short(text)}”", allowed)
    return int(value)
