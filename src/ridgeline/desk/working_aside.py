"""Work done aside, off the interface's own thread: the newest wish alone counts, and any can be left off."""

from __future__ import annotations

import logging
from collections.abc import Callable
from threading import Event
from typing import Any

from PySide6.QtCore import QCoreApplication, QObject, QRunnable, QThreadPool, Signal

#: Told the share that is done; tells whether to leave off.
Ask = Callable[[float], bool]


class _Voice(QObject):
    """Speaks for work in another thread."""

    moved = Signal(int, float)
    done = Signal(int, object)


class _Job(QRunnable):
    def __init__(self, number: int, work: Callable[[Ask], Any], voice: _Voice, left: Event) -> None:
        super().__init__()
        self._number, self._work, self._voice, self._left = number, work, voice, left

    def run(self) -> None:
        def ask(share: float) -> bool:
            if not self._left.is_set():
                self._voice.moved.emit(self._number, share)
            return self._left.is_set()

        found = None
        try:
            if not self._left.is_set():
                found = self._work(ask)
        except Exception:
            logging.getLogger("ridgeline.faults").exception("work aside was not done")
        self._voice.done.emit(self._number, found)


class Aside(QObject):
    """One place where work is done aside: a new wish takes the place of the one before."""

    #: What was found; None where it was left off, or failed.
    done = Signal(object)
    #: The share that is done.
    moved = Signal(float)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._pool = QThreadPool(self)
        self._pool.setMaxThreadCount(1)
        self._voice = _Voice()
        self._voice.moved.connect(self._on_moved)
        self._voice.done.connect(self._on_done)
        self._number = 0
        self._lefts = [Event()]
        self.busy = False
        self.share = 0.0
        # Work that nobody will hear of any more is left off, so that closing does not wait for it.
        lefts = self._lefts
        self.destroyed.connect(lambda: lefts[0].set())

    def begin(self, work: Callable[[Ask], Any]) -> None:
        """Begin work; what was under way is left off and not heard of again."""
        self._lefts[0].set()
        self._lefts[0] = Event()
        self._number += 1
        self.busy, self.share = True, 0.0
        self._pool.start(_Job(self._number, work, self._voice, self._lefts[0]))

    def stop(self) -> None:
        """Leave off: nothing is found."""
        if self.busy:
            self._lefts[0].set()

    def settle(self) -> None:
        """Wait until it is done and heard of."""
        while self.busy:
            self._pool.waitForDone()
            QCoreApplication.sendPostedEvents(self._voice)
            QCoreApplication.processEvents()

    def _on_moved(self, number: int, share: float) -> None:
        if number == self._number and self.busy:
            self.share = share
            self.moved.emit(share)

    def _on_done(self, number: int, found: object) -> None:
        if number == self._number:
            self.busy = False
            self.done.emit(found)
