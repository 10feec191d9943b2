"""Versions as they are looked at: the aircraft of each, and what it comes to, found when first asked for and kept."""

from __future__ import annotations

from ridgeline.design.document import Design
from ridgeline.design.keeping import at
from ridgeline.design.versions import Version
from ridgeline.desk.store import Store
from ridgeline.engine.report import Report
from ridgeline.errors import DesignError

#: So many are kept: a strip shows fewer, and each is made again in a blink.
_MOST = 64


class Album:
    """The aircraft of a store's versions, each read once."""

    def __init__(self, store: Store) -> None:
        self._store = store
        self._designs: dict[int, tuple[Version, Design]] = {}
        self._reports: dict[int, tuple[Version, Report]] = {}

    def _version(self, number: int) -> Version | None:
        return next((one for one in self._store.design.versions if one.number == number), None)

    def design(self, number: int) -> Design | None:
        """Return the aircraft of a version; None where it cannot be read."""
        version = self._version(number)
        if version is None:
            return None
        known = self._designs.get(number)
        if known is None or known[0] is not version:
            try:
                known = (version, at(self._store.design, number))
            except DesignError:
                return None
            self._designs[number] = known
            while len(self._designs) > _MOST:
                self._designs.pop(next(iter(self._designs)))
        return known[1]

    def report(self, number: int) -> Report | None:
        """Return what a version comes to; None where it cannot be read."""
        version, design = self._version(number), self.design(number)
        if version is None or design is None:
            return None
        known = self._reports.get(number)
        if known is None or known[0] is not version:
            known = (version, self._store.report.trial()(design))
            self._reports[number] = known
            while len(self._reports) > _MOST:
                self._reports.pop(next(iter(self._reports)))
        return known[1]
