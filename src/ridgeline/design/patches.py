"""The difference between two designs as plain data, found by identity: what an edit did not touch is not looked at."""

from __future__ import annotations

import operator
from collections.abc import Callable, Sequence
from typing import Any

from pydantic_core import to_jsonable_python

from ridgeline.design.base import Node

Route = list[str | int]
#: ``[route, value]`` puts a value, ``[route]`` takes it out; ``[route, start, removed, values]`` replaces entries of a
#: list.
Patch = list[Any]


def difference(before: Any, after: Any) -> list[Patch]:
    """Return the patches that turn the plain data of one node into that of another of its kind.

    Parameters
    ----------
    before, after : Node
        Of one kind.

    Returns
    -------
    list of patches
        [path, value], or [path, start, removed, values] within a list.
    """
    found: list[Patch] = []
    _compare(before, after, [], found)
    return found


def _compare(before: Any, after: Any, route: Route, found: list[Patch]) -> None:
    if before is after:
        return
    if isinstance(after, Node) and type(before) is type(after):
        for field in type(after).model_fields:
            _compare(getattr(before, field), getattr(after, field), [*route, field], found)
    elif isinstance(after, tuple) and isinstance(before, tuple) and any(isinstance(e, Node) for e in after + before):
        _compare_lists(before, after, route, found)
    elif before != after:
        found.append([route, to_jsonable_python(after)])


def _compare_lists(before: tuple[Any, ...], after: tuple[Any, ...], route: Route, found: list[Patch]) -> None:
    if len(before) == len(after):
        for index, (old, new) in enumerate(zip(before, after, strict=True)):
            _compare(old, new, [*route, index], found)
        return
    start, end = _ends(before, after, operator.is_)
    fresh = to_jsonable_python(list(after[start : len(after) - end]))
    found.append([route, start, len(before) - end - start, fresh])


def patched(data: Any, patches: list[Patch]) -> Any:
    """Apply patches to plain data in place, and return it.

    Parameters
    ----------
    data : object
        Plain.
    patches : iterable

    Returns
    -------
    object
        The same data.

    Raises
    ------
    LookupError, TypeError, ValueError
        When a patch does not fit the data.
    """
    for route, *rest in patches:
        *way, last = route if len(rest) < 2 else [*route, None]
        node = data
        for step in way:
            node = node[step]
        if not rest:
            del node[last]
        elif len(rest) == 1:
            if isinstance(node, list) and not 0 <= last < len(node):
                raise LookupError(f"no entry {last}")
            node[last] = rest[0]
        else:
            start, removed, values = rest
            if not (isinstance(node, list) and 0 <= start <= start + removed <= len(node)):
                raise LookupError(f"no entries {start} to {start + removed}")
            node[start : start + removed] = values
    return data


def plain_difference(before: Any, after: Any) -> list[Patch]:
    """Return the patches that turn plain data into other plain data.

    Parameters
    ----------
    before, after : object
        Of JSON.

    Returns
    -------
    list of patches
        As of `difference`.
    """
    found: list[Patch] = []
    _compare_plain(before, after, [], found)
    return found


def _compare_plain(before: Any, after: Any, route: Route, found: list[Patch]) -> None:
    if isinstance(before, dict) and isinstance(after, dict):
        found.extend([[*route, key]] for key in before if key not in after)
        for key, value in after.items():
            if key in before:
                _compare_plain(before[key], value, [*route, key], found)
            else:
                found.append([[*route, key], value])
    elif isinstance(before, list) and isinstance(after, list) and any(isinstance(e, dict) for e in after + before):
        _compare_plain_lists(before, after, route, found)
    elif before != after:
        found.append([route, after])


def _compare_plain_lists(before: list[Any], after: list[Any], route: Route, found: list[Patch]) -> None:
    if len(before) == len(after):
        for index, (old, new) in enumerate(zip(before, after, strict=True)):
            _compare_plain(old, new, [*route, index], found)
        return
    start, end = _ends(before, after, operator.eq)
    found.append([route, start, len(before) - end - start, after[start : len(after) - end]])


def _ends(before: Sequence[Any], after: Sequence[Any], same: Callable[[Any, Any], bool]) -> tuple[int, int]:
    """Return how many entries two lists have alike at their beginnings, and at their ends beyond those."""
    shorter = min(len(before), len(after))
    start = next((k for k in range(shorter) if not same(before[k], after[k])), shorter)
    left = shorter - start
    return start, next((k for k in range(left) if not same(before[-1 - k], after[-1 - k])), left)
