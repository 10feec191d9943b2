"""The strip under the templates: what can be written, how many files and how large, each a press away."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from PySide6.QtCore import QEvent, QRectF, Qt, Signal
from PySide6.QtGui import QEnterEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QFileDialog, QWidget

from ridgeline.desk.paint import fit, line, pen, width_of, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.templates.laying import Laying, laying_of
from ridgeline.desk.theme import LABEL, theme
from ridgeline.desk.widgets.buttons import DrawnButton
from ridgeline.errors import DesignError
from ridgeline.files.sheet_pdf import tiles_of
from ridgeline.files.template_files import write_files

#: How tall the strip is, px; what is written, by the words of its cell and what it is for.
TALL = 66
WRITTEN = (
    ("pdf", "PDF 1:1", "by sheet"), ("tiles", "PDF on A4", "tiled, 1:1"), ("dxf", "DXF", "cutting"),
    ("svg", "SVG", "cutting"), ("stl", "STL", "each part"), ("3mf", "3MF", "all parts"), ("lists", "Lists", "tables"),
    ("summary", "One page", "summary"),
)  # fmt: skip


def sized(count: int, size: int) -> str:
    """Return how large files are, in words that fit a cell."""
    large = bytes_told(size)
    return large if count == 1 else f"{large} in {count}"


def bytes_told(size: int) -> str:
    """Return how many bytes there are, in words."""
    return f"{size / 1e6:.1f} MB" if size >= 999_500 else f"{max(size / 1000, 0.1):.0f} kB"


class ExportCell(DrawnButton):
    """One kind of file: its name, what it is for, and its size once that is known."""

    #: The kind a hand rests on, or nothing: what comes out of it is shown on the sheets.
    rested = Signal(str)

    def __init__(self, parent: QWidget, laying: Laying, kind: str, words: str, use: str) -> None:
        super().__init__(parent)
        self._laying, self._kind, self._use = laying, kind, use
        self.setText(words)
        self.setAccessibleName(f"write {words}")
        self.setToolTip(f"Write {words} into a folder")
        laying.changed.connect(self.anew)

    def anew(self) -> None:
        """Show what is known by now."""
        self.update()

    @property
    def told(self) -> str:
        """What it comes to, as far as it is known."""
        known = self._laying.sizes.get(self._kind)
        return "…" if known is None else "none" if known[0] == 0 else sized(*known)

    @property
    def pages(self) -> str:
        """How many pages are printed of it; nothing of what is no paper."""
        found = self._laying.found
        if found is None or not found.sheets or self._kind not in ("pdf", "tiles"):
            return ""
        many = len(found.sheets) if self._kind == "pdf" else 1 + sum(1 for _ in tiles_of(found, "a4"))
        return f"{many} pages" if many > 1 else "one page"

    def enterEvent(self, event: QEnterEvent) -> None:
        super().enterEvent(event)
        self.rested.emit(self._kind)

    def leaveEvent(self, event: QEvent) -> None:
        super().leaveEvent(event)
        self.rested.emit("")

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.live:
            p.fillRect(self.rect(), inks.wash)
            p.fillRect(QRectF(0, 0, 4, self.height()), inks.live)
        known = self._laying.sizes.get(self._kind)
        ink = inks.soft if known == (0, 0) else inks.live if self.live else inks.ink
        room = self.width() - 14
        write(p, 10, 18, fit(self.text(), room, LABEL, True), LABEL, ink, bold=True)
        write(p, 10, 34, fit(self.pages or self._use, room, LABEL), LABEL, inks.soft)
        told = self.told
        if known and width_of(told, LABEL) > room:
            told = bytes_told(known[1])
        write(p, 10, 50, fit(told, room, LABEL), LABEL, inks.soft if known in (None, (0, 0)) else inks.live)
        p.end()


class ExportStrip:
    """The cells of a sheet, and what a press on one does."""

    def __init__(self, sheet: Sheet) -> None:
        self._sheet = sheet
        self.laying = laying_of(sheet.store)
        self.cells: list[ExportCell] = []
        for kind, words, use in WRITTEN:
            cell = ExportCell(sheet, self.laying, kind, words, use)
            cell.clicked.connect(lambda _=False, k=kind: self.ask_folder(k))
            self.cells.append(cell)
        self.laying.watched(sheet)

    def arrange(self) -> None:
        """Place the cells along the lower edge."""
        room = self._sheet.width() - 2 * PAD
        each = room / len(self.cells)
        for k, cell in enumerate(self.cells):
            cell.setGeometry(round(PAD + k * each), self._sheet.height() - TALL + 2, round(each) - 2, TALL - 6)

    def draw(self, p: QPainter) -> None:
        """Draw the rules between the cells."""
        inks = theme.inks
        top = self._sheet.height() - TALL
        line(p, PAD, top, self._sheet.width() - PAD, top, inks.ink)
        p.setPen(pen(inks.hair, 1, Qt.PenStyle.SolidLine))
        for cell in self.cells[1:]:
            line(p, cell.x() - 1, top + 6, cell.x() - 1, self._sheet.height() - 6, inks.hair)

    def ask_folder(self, kind: str) -> None:
        """Ask for a folder, and write into it."""
        name = QFileDialog.getExistingDirectory(self._sheet, "Folder for the templates")
        if name:
            self.write_into(kind, Path(name))

    def write_into(self, kind: str, folder: Path) -> None:
        """Write one kind of file into a folder, and say so or why not."""
        store: Any = self._sheet.store
        try:
            places = write_files(self.laying.files(kind), folder)
        except DesignError as error:
            store.refused.emit(error)
            return
        more = f" and {len(places) - 1} more" if len(places) > 1 else ""
        store.noted.emit(f"Wrote {places[0].name}{more}")
