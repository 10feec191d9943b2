"""Passes over a measured length, typed as they are called out: seconds, or a speed over the ground."""

from __future__ import annotations

from typing import Literal, Protocol

from PySide6.QtWidgets import QWidget

from ridgeline.design.flights import SpeedPass
from ridgeline.design.paths import Change
from ridgeline.desk.store import Store
from ridgeline.desk.widgets.fields import Entry
from ridgeline.errors import DesignError
from ridgeline.typed import parse, short
from ridgeline.units import with_unit

#: A course is this long until another length is told, m.
COURSE = 100.0


class Logbook(Protocol):
    """What passes are typed into: a design, a flight of it, and the course they are flown over."""

    store: Store
    course: float

    @property
    def place(self) -> int | None:
        """Place of the flight that is chosen; None where none is."""


class Course(Entry):
    """How long the course is."""

    def __init__(self, parent: QWidget, sheet: Logbook) -> None:
        super().__init__(parent, "length of the course")
        self._sheet = sheet
        self.refresh()

    def current(self) -> str:
        return with_unit(self._sheet.course, "distance", self._sheet.store.units)

    def accept(self, text: str) -> None:
        length = float(parse(text, "distance", path="course", bare=self._sheet.store.unit_of("distance")))
        if not 2 <= length <= 2000:
            raise DesignError("course", f"{length:g} m", "2 m to 2000 m")
        self._sheet.course = length


class PassEntry(Entry):
    """One pass: Enter adds it to the flight that is chosen."""

    def __init__(self, parent: QWidget, sheet: Logbook, way: Literal["up", "down"]) -> None:
        name = "pass up the wind" if way == "up" else "pass down the wind"
        super().__init__(parent, f"{name}: seconds, or a speed")
        self._sheet, self._way = sheet, way
        self.setPlaceholderText("5.6 s")
        self.refresh()

    def accept(self, text: str) -> None:
        place = self._sheet.place
        if place is None:
            raise DesignError("pass", f"“{short(text)}”", "a flight that is chosen first")
        units, made = self._sheet.store.units, None
        try:
            seconds = float(parse(text, "seconds", path="pass", bare=units["seconds"]))
            made = {"length": self._sheet.course, "seconds": seconds}
        except DesignError as refused:
            try:
                made = {"speed": float(parse(text, "speed", path="pass", bare=units["speed"]))}
            except DesignError:
                raise refused from None
        try:
            fresh = SpeedPass.model_validate({"way": self._way, **made})
        except ValueError as error:
            raise DesignError("pass", f"“{short(text)}”", "0.1 to 600 seconds, or 0.5 to 120 m/s") from error
        flight = self._sheet.store.design.flights[place]
        self._sheet.store.edit([Change(f"flights[{place}].passes", (*flight.passes, fresh))], "Add a pass")
