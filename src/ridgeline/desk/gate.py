"""The window goes first: trials in other threads wait while it works for a hand."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from threading import Event

#: A trial waits no longer than this for the window, s: it is slowed, never stopped.
_LONGEST_WAIT = 2.0
_free = Event()
_free.set()
_depth = 0


@contextmanager
def window_at_work() -> Iterator[None]:
    """Hold the trials of other threads back while the window's own thread works; calls may nest."""
    global _depth
    _depth += 1
    _free.clear()
    try:
        yield
    finally:
        _depth -= 1
        if _depth == 0:
            _free.set()


def let_window_go_first() -> None:
    """Wait, in another thread than the window's, until the window has done what a hand asked for."""
    _free.wait(_LONGEST_WAIT)
