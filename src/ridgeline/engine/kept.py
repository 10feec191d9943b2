"""Results of functions of one frozen part, kept by its identity: an edit leaves the other parts the same objects."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from threading import Lock
from typing import Any, Concatenate, ParamSpec, TypeVar

Part = TypeVar("Part")
Result = TypeVar("Result")
More = ParamSpec("More")
Of = Callable[Concatenate[Part, More], Result]


def kept(most: int = 256) -> Callable[[Of[Part, More, Result]], Of[Part, More, Result]]:
    """Make a pure function of one immutable object, and of hashable ones after it, remember its latest results.

    Parameters
    ----------
    most : int
        How many results are remembered; the oldest go first.

    Returns
    -------
    callable
        A decorator. What it makes takes its arguments by place.
    """

    def wrap(function: Of[Part, More, Result]) -> Of[Part, More, Result]:
        found: dict[Any, tuple[Part, Result]] = {}
        lock = Lock()

        @wraps(function)
        def remembered(part: Part, /, *more: More.args, **named: More.kwargs) -> Result:
            assert not named, "by place, so that the same call is known again"
            # The part is kept beside its result, so that its identity cannot be taken by another.
            key = (id(part), *more)
            known = found.get(key)
            if known is not None:
                return known[1]
            result = function(part, *more, **named)
            # Trials are evaluated away from the interface: only one thread changes the store at a time.
            with lock:
                if len(found) >= most:
                    found.pop(next(iter(found)))
                found[key] = (part, result)
            return result

        return remembered

    return wrap
