"""Results of functions of one frozen part, kept by its identity: an edit leaves the other parts the same objects."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from threading import Lock
from typing import TypeVar

Part = TypeVar("Part")
Result = TypeVar("Result")


def kept(most: int = 256) -> Callable[[Callable[[Part], Result]], Callable[[Part], Result]]:
    """Make a pure function of one immutable object remember its latest results.

    Parameters
    ----------
    most : int
        How many results are remembered; the oldest go first.
    """

    def wrap(function: Callable[[Part], Result]) -> Callable[[Part], Result]:
        found: dict[int, tuple[Part, Result]] = {}
        lock = Lock()

        @wraps(function)
        def remembered(part: Part) -> Result:
            # The part is kept beside its result, so that its identity cannot be taken by another.
            known = found.get(id(part))
            if known is not None:
                return known[1]
            result = function(part)
            # Trials are evaluated away from the interface: only one thread changes the store at a time.
            with lock:
                if len(found) >= most:
                    found.pop(next(iter(found)))
                found[id(part)] = (part, result)
            return result

        return remembered

    return wrap
