"""Packs: every pack of the bin as a row, with the balance it can reach drawn on the chord."""

from __future__ import annotations

from collections.abc import Iterator

from PySide6.QtCore import QRectF, Qt, QTimer
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QScrollArea, QWidget

from ridgeline.design.document import Design
from ridgeline.desk.drawing import View, draw_aircraft, extent
from ridgeline.desk.paint import heading, line, outline, path_of, write
from ridgeline.desk.scales import nice_step, ruler
from ridgeline.desk.sheets.balance.pack_rows import ROW, PackRows
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, theme
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.engine.advice.balance_rules import pack_on_rail
from ridgeline.engine.advice.pack_bin import PackOption, options
from ridgeline.files.own_bin import load_bin

_TOP = 84
#: Of more packs than this the sheet tries one after another between events, so that it opens at once.
_AT_ONCE = 12


class BalancePacksSheet(Sheet):
    """The packs on hand, fitted one after another."""

    key = "balance.packs"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.rows = PackRows(store)
        self.area = QScrollArea(self)
        self.area.setFrameShape(QScrollArea.Shape.NoFrame)
        self.area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.area.setWidget(self.rows)
        self.area.viewport().setAutoFillBackground(False)
        self.rows.setAutoFillBackground(False)
        self._of: Design | None = None
        self._named = False
        self._search: Iterator[PackOption] | None = None
        self._count = 0
        self._timer = QTimer(self, interval=0)
        self._timer.timeout.connect(self._step)

    @property
    def options(self) -> list[PackOption]:
        return self.rows.options

    @property
    def buttons(self) -> list[RuledButton]:
        return self.rows.buttons

    def subtitle(self) -> str:
        if self._search is not None:
            return f"{len(self.options)} of {self._count} packs tried"
        where = "of your bin and the Brief" if self._named else "of the library; name yours at the Brief or the Bin"
        fitting = sum(bool(option.changes) for option in self.options)
        return f"{fitting} of {self._count} packs go in, {where}"

    def _fill(self) -> None:
        """Try every pack anew when the design changed."""
        if self._of is self.store.design:
            return
        from ridgeline.engine.sizing.matching import packs_to_try
        from ridgeline.library import shipped_shelf

        design = self._of = self.store.design
        own, _report = load_bin()
        packs = packs_to_try(design.brief, own.packs, shipped_shelf())
        self._count, self._named = len(packs), bool(own.packs or design.brief.packs)
        self.rows.clear()
        self._search = options(design, self.store.report, packs)
        if len(packs) <= _AT_ONCE:
            for option in self._search:
                self.rows.take(option)
            self._search = None
        elif self.isVisible():
            self._timer.start()

    def _step(self) -> None:
        """Try one more pack."""
        option = next(self._search, None) if self._search is not None else None
        if option is None:
            self._search = None
            self._timer.stop()
        else:
            self.rows.take(option)
        self._lay_rows()
        self.update()

    def hideEvent(self, event: object) -> None:
        super().hideEvent(event)  # type: ignore[arg-type]
        self._timer.stop()

    def showEvent(self, event: object) -> None:
        super().showEvent(event)
        if self._search is not None:
            self._timer.start()

    def arrange(self) -> None:
        self._fill()
        self._lay_rows()

    def _lay_rows(self) -> None:
        tall = min(ROW * len(self.options) + 22, self._rows_most())
        self.area.setGeometry(PAD, _TOP + 24, self.width() - 2 * PAD + 12, max(int(tall), ROW))
        self.rows.arrange(self.width() - 2 * PAD)

    def _rows_most(self) -> float:
        """Return how tall the rows may be: the bay below them stays in sight."""
        return self.height() - _TOP - 24 - max(130, 0.24 * self.height())

    def draw(self, p: QPainter) -> None:
        inks, units = theme.inks, self.store.units
        heading(p, PAD, 52, self.width() - 2 * PAD, "Packs", "each slid as near the first throw as it goes")
        if self.options:
            low, high = self.rows.reach()
            bar = self.rows.bar().translated(PAD, _TOP)
            ruler(p, bar, low, high, nice_step(high - low, 6), unit="% c\u0304")
            columns = zip(self.rows.columns(), (units["mass"].symbol, "T/W", "min"), strict=True)
            for x, label in columns:
                write(p, PAD + x, _TOP + 12, label, LABEL, inks.soft, align="right")
        self._draw_bay(p, self.area.geometry().bottom() + 22)

    def _draw_bay(self, p: QPainter, top: float) -> None:
        """Draw the aircraft from the side with the pack in its bay, and where a pack under the hand would lie."""
        design, index = self.store.design, pack_on_rail(self.store.design)
        if self.height() - top < 130 or index is None:
            return
        inks, box = theme.inks, extent(design, "side")
        room = QRectF(PAD + 20, top, self.width() - 2 * PAD - 40, self.height() - top - 34)
        scale = min(room.width() / box.width(), room.height() / box.height())
        self.scale = scale
        x0, y0 = room.center().x() - box.center().x() * scale, room.center().y() - box.center().y() * scale
        view = View("side", x0, y0, scale)
        draw_aircraft(p, design, view, fill=inks.paper)
        for shown_design, dash in ((design, False), (self.store.ghost[0] if self.store.ghost else None, True)):
            if shown_design is None or index >= len(shown_design.parts):
                continue
            part = shown_design.parts[index]
            if part.rail is None:
                continue
            x, y = view.at((part.x, 0.0, part.z))
            long = part.rail.item_length * scale
            pack = QRectF(x - long / 2, y - 0.12 * long, long, 0.24 * long)
            left, right, upper, lower = pack.left(), pack.right(), pack.top(), pack.bottom()
            path = path_of([(left, upper), (right, upper), (right, lower), (left, lower)])
            outline(p, path, inks.live, 1.5, None if dash else inks.wash, dash)
        rail = design.parts[index].rail
        if rail is not None:
            y = view.at((0.0, 0.0, design.parts[index].z))[1] + 0.16 * rail.item_length * scale + 4
            line(p, view.at((rail.front, 0, 0))[0], y, view.at((rail.back, 0, 0))[0], y, inks.ink, 1.5)
            write(p, view.at((rail.front, 0, 0))[0], y + 14, "the bay", LABEL, inks.soft, halo=True)
