"""Bin: the builder's own motors, propellers, packs and controllers, drawn to one scale, with price and count."""

from __future__ import annotations

from collections.abc import Callable
from operator import le
from typing import Any

from pydantic import ValidationError
from PySide6.QtCore import QRectF
from PySide6.QtGui import QMouseEvent, QPainter
from PySide6.QtWidgets import QFileDialog, QMenu, QWidget

from ridgeline.design.explain import explain
from ridgeline.desk.paint import fit, heading, line, width_of, write
from ridgeline.desk.scales import nice_step, ruler
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.power.part_pictures import draw_part, extent_of
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, theme
from ridgeline.desk.widgets.buttons import RuledButton, discard
from ridgeline.desk.widgets.fields import ESTIMATED, Entry
from ridgeline.engine.power.classes import mass_of
from ridgeline.engine.power.exchange import exchange
from ridgeline.engine.power.typed_parts import of_class
from ridgeline.errors import DesignError
from ridgeline.files.own_bin import KINDS, load_bin, read_parts, save_bin
from ridgeline.typed import parse
from ridgeline.units import shown

_TABLES = "Tables (*.csv *.tsv *.txt);;All files (*)"
_LINKS = {"motors": "motor", "propellers": "propeller", "packs": "pack", "escs": "esc"}
_NAMES = {"motors": "Motors", "propellers": "Propellers", "packs": "Packs", "escs": "Controllers"}
_SIDE, _GAP = 276, 18
#: What is typed of each kind: label, field, quantity; a count and a price have none.
_FIELDS: dict[str, tuple[tuple[str, str, str | None], ...]] = {
    "motors": (
        ("Name", "name", "words"),
        ("Speed constant", "kv_rpm_per_v", "speed_constant"),
        ("Winding, cold", "resistance", "resistance"),
        ("No-load current", "no_load_current", "current"),
        ("Greatest current", "max_current", "current"),
        ("Most cells", "max_cells", None),
        ("Mass", "mass", "mass"),
        ("Diameter", "diameter", "length"),
    ),
    "propellers": (
        ("Name", "name", "words"),
        ("Diameter", "diameter", "length"),
        ("Pitch", "pitch", "length"),
        ("Blades", "blades", None),
        ("Mass", "mass", "mass"),
    ),
    "packs": (
        ("Name", "name", "words"),
        ("Cells", "cells", None),
        ("Capacity", "capacity_ah", "capacity"),
        ("Claimed C", "c_rating", None),
        ("One cell's resistance", "cell_resistance", "resistance"),
        ("Mass", "mass", "mass"),
        ("Length", "length", "length"),
    ),
    "escs": (
        ("Name", "name", "words"),
        ("Rating", "max_current", "current"),
        ("On-resistance", "resistance", "resistance"),
        ("Most cells", "max_cells", None),
        ("Receiver supply", "bec_current", "current"),
        ("Mass", "mass", "mass"),
    ),
}
_COUNTED = (("Price", "price", None), ("In the bin", "stock", None))


class PartField(Entry):
    """One value of the chosen part, in the builder's units."""

    def __init__(self, sheet: PowerBinSheet, label: str, field: str, quantity: str | None) -> None:
        super().__init__(sheet, label, right=quantity != "words")
        self._sheet, self._field, self.quantity = sheet, field, quantity
        self.refresh()

    def current(self) -> str:
        part = self._sheet.part
        value = None if part is None else getattr(part, self._field)
        if value is None:
            stands_for = None if part is None or not self.quantity else of_class(part, self._field)
            if stands_for is None:
                return "–"
            return f"{ESTIMATED} {shown(stands_for, str(self.quantity), self._sheet.store.units)}"
        if self.quantity in (None, "words"):
            return f"{value:g}" if isinstance(value, float) else str(value)
        return shown(float(value), str(self.quantity), self._sheet.store.units)

    def accept(self, text: str) -> None:
        self._sheet.change(self._field, self._read(text.strip()))

    def _read(self, text: str) -> Any:
        if self.quantity == "words":
            return text
        if text in ("", "–", "-") or text.startswith(ESTIMATED):
            return None
        if self.quantity is None:
            try:
                number = float(text.replace(",", "."))
            except ValueError as error:
                raise DesignError(self._field, f"“{text}”", "a number") from error
            return int(number) if number.is_integer() and self._field != "price" else number
        bare = self._sheet.store.unit_of(self.quantity)
        return parse(text, self.quantity, path=self._field, bare=bare)


class PowerBinSheet(Sheet):
    """The drawer of parts."""

    key, needs_airframe = "power.bin", False

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.own, problems = load_bin()
        self.problems = problems
        self.chosen: tuple[str, str] | None = None
        self.fields: list[tuple[str, str, PartField]] = []
        self._places: list[tuple[QRectF, str, str]] = []
        #: The first part drawn on each shelf, and where a press goes on from there.
        self._first: dict[str, int] = {}
        self._more: dict[str, tuple[QRectF, int]] = {}
        self.add_buttons: dict[str, RuledButton] = {}
        for kind, name in _NAMES.items():
            button = RuledButton(self, "Add…")
            button.setAccessibleName(f"add to {name.lower()}")
            button.clicked.connect(lambda _=False, k=kind: self._ask_add(k))
            self.add_buttons[kind] = button
        self.read_button = self._button("Read a table…", self._ask_read)
        self.keep_button = self._button("Put in what is fitted", self.keep_fitted)
        self.fit_button = self._button("Fit it", self.fit_chosen)
        self.remove_button = self._button("Take it out", self.remove)

    def _button(self, words: str, do: Callable[[], None]) -> RuledButton:
        button = RuledButton(self, words)
        button.clicked.connect(do)
        return button

    def subtitle(self) -> str:
        count = sum(len(self.own.of(kind)) for kind in KINDS)
        if self.problems:
            return self.problems[0]
        return f"{count} kinds of part; a match takes these first" if count else "empty: add what lies in your drawer"

    @property
    def part(self) -> Any:
        """Return the chosen part."""
        if self.chosen is None:
            return None
        kind, name = self.chosen
        return next((part for part in self.own.of(kind) if part.name == name), None)

    # -- what the hand does --------------------------------------------------------------------------------------

    def choose(self, kind: str, name: str) -> None:
        """Choose a part and show its values."""
        self.chosen = (kind, name)
        self._fill()
        self.refresh()

    def _fill(self) -> None:
        for _label, _field, entry in self.fields:
            discard(entry)
        self.fields = []
        if self.chosen is None or self.part is None:
            return
        for label, field, quantity in (*_FIELDS[self.chosen[0]], *_COUNTED):
            self.fields.append((label, field, PartField(self, label, field, quantity)))

    def change(self, field: str, value: Any) -> None:
        """Change one value of the chosen part.

        Raises
        ------
        DesignError
            When a part of its kind does not allow it.
        """
        part = self.part
        if self.chosen is None or part is None:
            return
        kind, name = self.chosen
        try:
            fresh = KINDS[kind].model_validate({**part.model_dump(), field: value})
        except ValidationError as error:
            raise explain(error, _NAMES[kind].lower()) from error
        if field == "name" and value != name:
            if any(other.name == value for other in self.own.of(kind)):
                raise DesignError("name", f"“{value}”", "a name no other part has")
            self.own = self.own.without(kind, name)
            self.chosen = (kind, str(value))
        self._keep(kind, fresh)

    def _keep(self, kind: str, part: Any) -> None:
        self.own = self.own.with_part(kind, part)
        self._save()
        for _label, _field, entry in self.fields:
            entry.refresh()
        self.update()

    def _save(self) -> None:
        try:
            save_bin(self.own)
        except DesignError as error:
            self.store.refused.emit(error)

    def _ask_add(self, kind: str) -> None:
        from ridgeline.library import shipped_shelf

        menu = QMenu(self)
        for part in getattr(shipped_shelf(), kind):
            menu.addAction(str(part.name)).triggered.connect(lambda _=False, p=part: self.add(kind, p))
        menu.popup(self.add_buttons[kind].mapToGlobal(self.add_buttons[kind].rect().bottomLeft()))

    def add(self, kind: str, part: Any) -> None:
        """Put a part into the bin; one more where one of its name lies there."""
        before = next((p for p in self.own.of(kind) if p.name == part.name), None)
        count = 1 if before is None else (before.stock or 0) + 1
        self._keep(kind, (before or part).model_copy(update={"stock": count}))
        self.choose(kind, part.name)

    def keep_fitted(self) -> None:
        """Put the parts of the design into the bin."""
        train = self.store.design.power
        if train is None:
            return
        counts = {"motors": train.motors, "propellers": train.motors, "packs": train.packs, "escs": train.motors}
        for kind, link in _LINKS.items():
            part = getattr(train, link)
            if all(other.name != part.name for other in self.own.of(kind)):
                self._keep(kind, part.model_copy(update={"stock": counts[kind]}))
        self.refresh()

    def _ask_read(self) -> None:
        name, _kind = QFileDialog.getOpenFileName(self, "Read a table of parts", "", _TABLES)
        if name:
            self.read(name)

    def read(self, place: str) -> None:
        """Add the parts of a table, and say what was left out."""
        try:
            kind, parts, report = read_parts(place)
        except DesignError as error:
            self.store.refused.emit(error)
            return
        self.own = self.own.with_parts(kind, parts)
        self._save()
        self._fill()
        left = f", {len(report)} left out: {report[0]}" if report else ""
        self.store.noted.emit(f"{len(parts)} {_NAMES[kind].lower()} read{left}.")
        self.refresh()

    def fit_chosen(self) -> None:
        """Fit the chosen part to the design."""
        part, design = self.part, self.store.design
        if part is None or self.chosen is None or design.power is None:
            return
        link: Any = _LINKS[self.chosen[0]]
        self.store.edit(exchange(design, link, part, part.name), f"Fit {part.name}")

    def remove(self) -> None:
        """Take the chosen part out of the bin."""
        if self.chosen is None or self.part is None:
            return
        self.own = self.own.without(*self.chosen)
        self._save()
        self.chosen = None
        self._fill()
        self.refresh()

    def showEvent(self, event: object) -> None:
        # The bench and other sheets put parts in too.
        self.own, self.problems = load_bin()
        super().showEvent(event)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        for kind, (rect, onward) in self._more.items():
            if rect.contains(event.position()):
                self._first[kind] = onward
                self.update()
                return
        for rect, kind, name in self._places:
            if rect.contains(event.position()):
                self.choose(kind, name)
                return

    # -- drawing -------------------------------------------------------------------------------------------------

    def _shelf_height(self) -> float:
        return (self.height() - 96) / len(_NAMES)

    def arrange(self) -> None:
        for k, button in enumerate(self.add_buttons.values()):
            button.setGeometry(int(self.width() - PAD - _SIDE - 90), int(44 + k * self._shelf_height()), 66, 22)
        y = self.height() - 34
        self.read_button.setGeometry(PAD, y, 130, 24)
        self.keep_button.setGeometry(PAD + 140, y, 150, 24)
        side = self.width() - PAD - _SIDE
        self.fit_button.setGeometry(side, y, 130, 24)
        self.remove_button.setGeometry(side + 140, y, _SIDE - 140, 24)
        self.keep_button.setEnabled(self.store.design.power is not None)
        for button in (self.fit_button, self.remove_button):
            button.setEnabled(self.part is not None)
        for k, (_label, field, entry) in enumerate(self.fields):
            wide = 160 if field == "name" else 72
            entry.setGeometry(self.width() - PAD - 44 - wide, 78 + 24 * k, wide, 20)
            entry.show()

    def draw(self, p: QPainter) -> None:
        inks, units = theme.inks, self.store.units
        self._places, self._more = [], {}
        room = self.width() - 2 * PAD - _SIDE - 30
        for k, kind in enumerate(_NAMES):
            top = 40 + k * self._shelf_height()
            heading(p, PAD, top + 16, room - 70, _NAMES[kind], "", strong=False)
            self._draw_shelf(p, kind, QRectF(PAD, top + 28, room, self._shelf_height() - 40))
        side = self.width() - PAD - _SIDE
        title = self.part.name if self.part is not None else "press a part"
        heading(p, side, 56, _SIDE, "Its values", fit(title, _SIDE - 90, LABEL), strong=False)
        for k, (label, _field, entry) in enumerate(self.fields):
            y = 92 + 24 * k
            write(p, side, y, label, LABEL, inks.soft)
            quantity = entry.quantity
            if quantity not in (None, "words"):
                write(p, self.width() - PAD - 38, y, units[str(quantity)].symbol, LABEL, inks.soft)

    def _draw_shelf(self, p: QPainter, kind: str, area: QRectF) -> None:
        """Draw the parts of a kind side by side at one scale, on a shelf with its ruler."""
        inks, parts = theme.inks, self.own.of(kind)
        first = self._first.get(kind, 0) if self._first.get(kind, 0) < len(parts) else 0
        parts = parts[first:]
        floor = area.bottom() - 34
        line(p, area.left(), floor, area.right(), floor, inks.ink)
        if not parts:
            write(p, area.left(), floor - 12, "nothing here yet", LABEL, inks.soft)
            return
        sizes = [extent_of(kind, part) for part in parts]
        words = [max(width_of(words, LABEL) for words in (self._caption(p), self._count(p))) for p in parts]
        free = area.width() - _GAP * len(parts) - 60
        # All in view, each wide enough for its caption.
        scale = min((floor - area.top() - 4) / max(h for _w, h in sizes), free / max(sum(w for w, _h in sizes), 1e-6))
        for _ in range(12):
            wide = [w * scale for w, _h in sizes]
            if sum(map(max, wide, words)) <= free or all(map(le, wide, words)):
                break
            scale *= 0.85
        x = area.left()
        for part, (w, h), caption in zip(parts, sizes, words, strict=True):
            place = max(w * scale, caption)
            if (x + place > area.right() - 70 and part is not parts[-1]) or x + place > area.right():
                write(p, area.right(), floor - 10, "and more", LABEL, inks.live, align="right")
                self._more[kind] = (QRectF(area.right() - 70, floor - 28, 70, 26), self.own.of(kind).index(part))
                break
            box = QRectF(x + (place - w * scale) / 2, floor - h * scale, w * scale, h * scale)
            chosen = self.chosen == (kind, part.name)
            draw_part(p, kind, box, inks.live if chosen else inks.ink, chosen)
            ink = inks.live if chosen else inks.ink
            write(p, x + place / 2, floor + 14, self._caption(part), LABEL, ink, chosen, align="centre")
            write(p, x + place / 2, floor + 28, self._count(part), LABEL, inks.soft, align="centre")
            self._places.append((QRectF(x - 6, area.top(), place + 12, area.height()), kind, part.name))
            x += place + _GAP
        else:
            if first:
                write(p, area.right(), floor - 26, "from the start", LABEL, inks.live, align="right")
                self._more[kind] = (QRectF(area.right() - 90, floor - 42, 90, 26), 0)
        factor = self.store.units["length"].factor
        long = 52 / scale * factor
        step = nice_step(long, 2)
        if x + 60 < area.right():
            ruler(p, QRectF(area.right() - 56, floor - 20, 52, 18), 0, long, step)

    def _caption(self, part: Any) -> str:
        name = str(part.name)
        for word in ("Outrunner ", "Flat outrunner ", " Kv"):
            name = name.replace(word, "")
        return name if len(name) <= 20 else name[:19] + "…"

    @staticmethod
    def _count(part: Any) -> str:
        count = "" if part.stock is None else f"{part.stock} × "
        price = "" if part.price is None else f", {part.price:g}"
        return f"{count}{1000 * mass_of(part):.3g} g{price}"
