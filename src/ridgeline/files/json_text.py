"""JSON read strictly: nothing said twice, no number that is none, and every refusal with its line and column."""

from __future__ import annotations

import json
import math
import re
from collections.abc import Iterator
from typing import Any

from ridgeline.design.paths import dotted
from ridgeline.errors import DesignError
from ridgeline.files.reading import at
from ridgeline.typed import short

Route = tuple[str | int, ...]

#: More entries than any design has; a picture counts as one.
_MOST_ENTRIES = 500_000
_DEEPEST = 60
_LONGEST_WHOLE = 18
_TOKEN = re.compile(r'\s*(?:("[^"\\]*(?:\\.[^"\\]*)*")|([{}\[\]:,])|([^\s{}\[\]:,"]+))', re.DOTALL)


class _Refused(ValueError):
    """A value of the text that is refused; ``token`` is how it is written there."""

    def __init__(self, token: str, understood: str, allowed: str) -> None:
        self.token, self.understood, self.allowed = token, understood, allowed
        super().__init__(understood)


class _Twice(ValueError):
    def __init__(self, name: str) -> None:
        self.name = name
        super().__init__(name)


def read_json(text: str, source: str, what: str) -> Any:
    """Return the data of a JSON text.

    Parameters
    ----------
    text : str
        The whole text.
    source, what : str
        The file's name, and what it should have been; both stand in a refusal.

    Raises
    ------
    DesignError
        With line and column: text that is no JSON, a field that stands twice, a number that is not finite or has
        more digits than a number can hold, nesting deeper than any design's, more entries than any has.
    """
    if text.count(",") > _MOST_ENTRIES:
        raise DesignError(source, f"more than {_MOST_ENTRIES:,} entries".replace(",", " "), f"a {what}")
    try:
        return json.loads(text, parse_constant=_constant, parse_int=_whole, parse_float=_float, object_pairs_hook=_once)
    except json.JSONDecodeError as error:
        # A string without its end runs to the end of the text, whatever place the parser names.
        last = error.pos >= len(text.rstrip()) - 1 or error.msg.startswith("Unterminated string")
        understood = "the end of a file that was cut short" if last else f"text that is not JSON ({error.msg.lower()})"
        raise DesignError(f"{source}: {at(text, error.pos)}", understood, f"a whole {what}") from error
    except RecursionError as error:
        raise DesignError(f"{source}: {at(text, _too_deep(text))}", "JSON nested too deep", f"a {what}") from error
    except _Refused as error:
        place = next((p for _r, p, token in tokens(text) if token == error.token), 0)
        raise DesignError(f"{source}: {at(text, place)}", error.understood, error.allowed) from error
    except _Twice as error:
        place, route = _second(text, error.name)
        raise DesignError(
            f"{source}: {at(text, place)}", f"“{short(error.name)}” a second time{_within(route)}", "each field once"
        ) from error


def _within(route: Route) -> str:
    return f" in {dotted(route[:-1])}" if len(route) > 1 else ""


def _constant(word: str) -> float:
    raise _Refused(word, f"“{word}”", "finite numbers only")


def _whole(word: str) -> int:
    if len(word) > _LONGEST_WHOLE:
        raise _Refused(word, f"a number of {len(word)} digits", f"numbers of up to {_LONGEST_WHOLE} digits")
    return int(word)


def _float(word: str) -> float:
    value = float(word)
    if not math.isfinite(value):
        raise _Refused(word, f"“{short(word)}”, which is not finite", "finite numbers only")
    return value


def _once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found = dict(pairs)
    if len(found) < len(pairs):
        seen: set[str] = set()
        for name, _value in pairs:
            if name in seen:
                raise _Twice(name)
            seen.add(name)
    return found


def tokens(text: str) -> Iterator[tuple[Route, int, str]]:
    """Yield the route, place and first token of every value and every key of well-formed JSON, in the text's order.

    A key comes as its own token, in quotes, under its own route, before its value does.
    """
    stack: list[str | int] = []
    closing: list[str] = []
    place, expecting_key = 0, False
    while (match := _TOKEN.match(text, place)) is not None:
        place = match.end()
        token, start = match[match.lastindex or 0], match.start(match.lastindex or 0)
        if token in ("}", "]"):
            if closing:
                closing.pop()
                stack.pop()
            expecting_key = False
        elif token == ",":
            if closing and closing[-1] == "]":
                stack[-1] = int(stack[-1]) + 1
            expecting_key = bool(closing) and closing[-1] == "}"
        elif token == ":":
            expecting_key = False
        elif expecting_key:
            stack[-1] = json.loads(token) if token.startswith('"') else token
            yield tuple(stack), start, token
        else:
            yield tuple(stack), start, token
            if token in ("{", "["):
                closing.append("}" if token == "{" else "]")
                stack.append("" if token == "{" else 0)
                expecting_key = token == "{"


def _too_deep(text: str) -> int:
    return next((place for route, place, _token in tokens(text) if len(route) > _DEEPEST), 0)


def _second(text: str, name: str) -> tuple[int, Route]:
    """Return the place of a key that stands in one object a second time, and its route."""
    keys: set[Route] = set()
    for route, place, token in tokens(text):
        if route and route[-1] == name and token.startswith('"') and _is_key(text, place, token):
            if route in keys:
                return place, route
            keys.add(route)
    return 0, (name,)


def _is_key(text: str, place: int, token: str) -> bool:
    return text[place + len(token) : place + len(token) + 64].lstrip().startswith(":")


def place_of(text: str, route: Route) -> str:
    """Return line and column of the value at a route, or of the nearest thing round it that is there."""
    best, depth = 0, -1
    for here, place, _token in tokens(text):
        if len(here) > depth and here == route[: len(here)]:
            best, depth = place, len(here)
        elif depth == len(route) and here == route:
            return at(text, place)  # the value after its key
        elif depth == len(route):
            break
    return at(text, best)
