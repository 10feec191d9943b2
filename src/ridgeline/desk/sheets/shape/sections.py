"""Sections: the chosen surface's profile drawn large, the forms to choose from, and what another sheet would do."""

from __future__ import annotations

import math
from pathlib import Path

from PySide6.QtCore import QRectF, QSize
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QFileDialog, QWidget

from ridgeline.design.airframe import Surface
from ridgeline.design.paths import Change
from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.exporting import ask_export
from ridgeline.desk.paint import fit, heading, line, outline, path_of, write
from ridgeline.desk.scales import ruler
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.store import Store
from ridgeline.desk.surface_edits import chosen_surface
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.built_row import BuiltRow
from ridgeline.desk.widgets.buttons import DrawnButton, RuledButton, WordButton, discard
from ridgeline.engine.aero.sections import FORMS, Section, section, section_of
from ridgeline.engine.bands import BAND
from ridgeline.engine.geometry.placed import mean_chord_of
from ridgeline.engine.sizing.offers import with_section
from ridgeline.errors import DesignError
from ridgeline.files.section_file import read_section
from ridgeline.units import shown, with_unit

_GALLERY = 178
#: Height of the profile drawn large, over the sheet's; on a sheet lower than so many px, where the table needs room.
_LARGE, _LOW, _LARGE_LOW = 0.26, 640, 0.16
#: Where each figure of a section begins, over the width.
_CELLS = (0.0, 0.125, 0.25, 0.40, 0.545, 0.74)
#: Sheets a builder can buy, m.
_SHEETS = (0.002, 0.003, 0.005, 0.006, 0.009)
_FILTER = "Section coordinates (*.dat *.txt *.cor);;All files (*)"


def _explain(button: RuledButton, words: str) -> None:
    """Say at length what a button does whose words are short."""
    button.setAccessibleName(words)
    button.setToolTip(words)


class FormButton(DrawnButton):
    """One form drawn as a small profile, pressed to choose it."""

    def __init__(self, sheet: ShapeSectionSheet, form: str) -> None:
        super().__init__(sheet)
        self.form, self._sheet = form, sheet
        self.setAccessibleName(f"section {FORMS[form].label}")
        self.setToolTip(FORMS[form].label)

    def sizeHint(self) -> QSize:
        return QSize(_GALLERY, 44)

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        surface = self._sheet.surface
        chosen = surface is not None and surface.section == self.form
        live = chosen or self.live
        if chosen:
            p.fillRect(self.rect(), inks.wash)
            p.fillRect(QRectF(0, 0, 3, self.height()), inks.live)
        shape = section(self.form, *self._sheet.ratios())
        wide = self.width() - 20
        base = self.height() - 12
        draw_profile(p, shape, 10, base, wide, inks.live if live else inks.ink, 1.2)
        write(p, 10, 13, FORMS[self.form].label, LABEL, inks.live if live else inks.ink, chosen)
        limit = f"{shape.cl_max:.2f}"
        write(p, self.width() - 10, 13, limit, LABEL, inks.soft, align="right")
        line(p, 0, self.height() - 0.5, self.width(), self.height() - 0.5, inks.hair)


def draw_profile(p: QPainter, shape: Section, x: float, y: float, wide: float, colour: object, width: float) -> None:
    """Draw a section's outline with its chord line at ``y``, ``wide`` px long."""
    points = [(x + a * wide, y - b * wide) for a, b in shape.outline.tolist()]
    outline(p, path_of(points), colour, width, theme.inks.wash)  # type: ignore[arg-type]


class ShapeSectionSheet(Sheet):
    """The profile of one surface, its sheet, and coordinate files."""

    key = "shape.section"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.report: list[str] = []
        self._reported_of = ""
        self.forms = {form: FormButton(self, form) for form in FORMS}
        for form, button in self.forms.items():
            button.clicked.connect(lambda _=False, f=form: self.choose(f))
        self.built = BuiltRow(self, store)
        self.which = WordButton(self, "surface whose section is shown", (), lambda: "", self._select)
        self.which.hide()
        self.surfaces: list[RuledButton] = []
        self.read_button = RuledButton(self, "Read coordinates…")
        self.read_button.clicked.connect(self._ask_read)
        self.round_button = RuledButton(self, "Write round…")
        _explain(self.round_button, "write coordinates round the outline")
        self.round_button.clicked.connect(lambda: ask_export(self, self.store, "section"))
        self.blocks_button = RuledButton(self, "Write halves…")
        _explain(self.blocks_button, "write coordinates of the top, then of the bottom")
        self.blocks_button.clicked.connect(lambda: ask_export(self, self.store, "section_halves"))

    @property
    def index(self) -> int:
        """Return the surface shown: the selected one, or the first wing."""
        return chosen_surface(self.store) or 0

    @property
    def surface(self) -> Surface | None:
        surfaces = self.store.design.surfaces
        return surfaces[self.index] if surfaces else None

    def subtitle(self) -> str:
        surface = self.surface
        return "" if surface is None else f"section of {surface.name}"

    def ratios(self) -> tuple[float, float]:
        """Return thickness and sheet of the surface over its mean chord."""
        surface = self.surface
        if surface is None:
            return 0.09, 0.025
        chord = mean_chord_of(surface)
        return min(surface.thickness / chord, 0.4), min(surface.sheet / chord, 0.2)

    def _select(self, index: str) -> None:
        self.store.select(f"surfaces[{index}].stations[0]")

    def choose(self, form: str) -> None:
        """Set the surface's form."""
        surface = self.surface
        if surface is not None:
            self.store.edit(with_section(self.store.design, self.index, form), f"Set section of {surface.name}")

    def selection(self) -> Selection:
        surface = self.surface
        if surface is None:
            return Selection("", ())
        base = f"surfaces[{self.index}]"
        rows = (
            Dimension("Thickness", f"{base}.thickness", hint="overall, at the thickest"),
            Dimension("Sheet", f"{base}.sheet", hint="of the board or the printed skin"),
            Dimension("Incidence", f"{base}.incidence", hint="to the body axis, along the drawn chord"),
            Dimension("Droop in flight", f"{base}.droop", hint="tips up under load"),
            Dimension("Warp, starboard", f"{base}.warp_starboard", hint="tip trailing edge too low, measured"),
            Dimension("Warp, port", f"{base}.warp_port", hint="tip trailing edge too low, measured"),
        )
        return Selection(surface.name, rows)

    def _ask_read(self) -> None:
        name, _kind = QFileDialog.getOpenFileName(self, "Read section coordinates", "", _FILTER)
        if name:
            self.read(name)

    def read(self, place: str | Path) -> None:
        """Read a coordinate file for the surface, and show what was repaired."""
        surface = self.surface
        if surface is None:
            return
        try:
            found = read_section(place)
        except DesignError as error:
            self.store.refused.emit(error)
            return
        chord = mean_chord_of(surface)
        thick = section("profile", profile=found.profile).thickness * chord
        base = f"surfaces[{self.index}]"
        changes = [
            Change(f"{base}.profile", found.profile),
            Change(f"{base}.section", "profile"),
            Change(f"{base}.thickness", min(max(thick, 5e-4), 0.3)),
        ]
        if self.store.edit(changes, f"Read section of {surface.name}"):
            order = {"round": "round the outline", "blocks": "top, then bottom"}[found.ordering]
            self.report = [f"{len(found.profile.points)} points, {order}", *found.report]
            self._reported_of = found.profile.name
            self.store.noted.emit(f"Read {found.profile.name}: {'; '.join(self.report)}")
            self.update()

    def arrange(self) -> None:
        for index, button in enumerate(self.forms.values()):
            button.setGeometry(PAD, 62 + 46 * index, _GALLERY, 45)
        left = PAD + _GALLERY + 28
        names = [s.name for s in self.store.design.surfaces]
        if [b.text() for b in self.surfaces] != names:
            for old in self.surfaces:
                discard(old)
            self.surfaces = []
            for index, name in enumerate(names):
                made = RuledButton(self, name)
                made.clicked.connect(lambda _=False, i=index: self._select(str(i)))
                self.surfaces.append(made)
        x = left
        for name_button in self.surfaces:
            name_button.setGeometry(int(x), 40, min(name_button.sizeHint().width(), 130), 24)
            name_button.setVisible(x + name_button.width() < self.width() - PAD)
            x += name_button.width() + 8
        self.built.show_part(f"surfaces[{self.index}]" if self.store.design.surfaces else "")
        wide = self.width() - PAD - int(left)
        self.built.setGeometry(int(left), self._built_top() + 8, wide, self.built.tall_for(wide))
        x = left
        for file_button in (self.read_button, self.round_button, self.blocks_button):
            file_button.setGeometry(int(x), self.height() - 40, file_button.sizeHint().width() + 6, 24)
            file_button.show()
            x += file_button.width() + 8

    def _built_top(self) -> int:
        wide = self.width() - 2 * PAD - _GALLERY - 28
        return self.height() - 60 - self.built.tall_for(wide)

    def draw(self, p: QPainter) -> None:
        surface = self.surface
        if surface is None:
            return
        unit = self.store.units["mass"].symbol
        built = f"{unit} with glue and spars; lift limit" if surface.built else "not said yet: press one"
        inks = theme.inks
        heading(p, PAD, 48, _GALLERY, "Built forms", "lift limit")
        left, right = PAD + _GALLERY + 28, self.width() - PAD
        line(p, left - 14.5, 36, left - 14.5, self.height() - 8, inks.hair)
        shape, chord = section_of(surface), mean_chord_of(surface)
        large = (_LARGE if self.height() >= _LOW else _LARGE_LOW) * self.height()
        self._draw_large(p, QRectF(left, 76, right - left, large), shape, chord)
        y = 76 + large + 26
        heading(p, left, self._built_top(), right - left, "Built as", built)
        self._draw_facts(p, left, y, right - left, shape, surface)
        self._draw_sheets(p, left, y + 92, right - left, surface)

    def _draw_large(self, p: QPainter, box: QRectF, shape: Section, chord: float) -> None:
        """Draw the profile at scale with its mean line, thickest place and chord ruler."""
        inks, unit = theme.inks, self.store.units["length"]
        wide = box.width() - 24
        tall = shape.outline[:, 1].max() - shape.outline[:, 1].min()
        wide = min(wide, (box.height() - 70) / max(tall, 0.02))
        x0 = box.left() + 12 + (box.width() - 24 - wide) / 2
        y0 = box.center().y() + 0.5 * (shape.outline[:, 1].max() + shape.outline[:, 1].min()) * wide - 8
        self.scale = wide / chord
        line(p, x0, y0, x0 + wide, y0, inks.hair)
        draw_profile(p, shape, x0, y0, wide, inks.live, 1.8)
        points = [(x0 + a * wide, y0 - b * wide) for a, b in shape.line.tolist()]
        outline(p, path_of(points, closed=False), inks.predicted, 1.3, dash=True)
        top = y0 - shape.outline[:, 1].max() * wide
        write(p, x0 + 0.62 * wide, top - 12, "mean line, dashed", LABEL, inks.predicted)
        ghost = self.store.ghost
        if ghost is not None and self.index < len(ghost[0].surfaces):
            other = section_of(ghost[0].surfaces[self.index])
            points = [(x0 + a * wide, y0 - b * wide) for a, b in other.outline.tolist()]
            outline(p, path_of(points), inks.live, 1, dash=True)
        length = chord * unit.factor
        step = 10 ** math.floor(math.log10(length)) / (2 if length / 10 ** math.floor(math.log10(length)) < 3 else 1)
        ruler(p, QRectF(x0, box.bottom() - 20, wide, 18), 0, length, step, unit=unit.symbol)
        write(p, x0, box.bottom() - 28, "at the mean chord", LABEL, inks.soft)

    def _draw_facts(self, p: QPainter, x: float, y: float, wide: float, shape: Section, surface: Surface) -> None:
        inks, units = theme.inks, self.store.units
        source = shape.label if surface.section != "profile" else f"{shape.label}, from coordinates"
        heading(p, x, y, wide, "What it gives", source)
        cells = (
            ("Thick", f"{100 * shape.thickness:.1f} %"),
            ("Camber", f"{100 * shape.camber:.1f} %".replace("-", "−")),
            ("No lift at", with_unit(shape.alpha_0, "angle", units)),
            ("Moment", f"{shape.cm_quarter:+.3f}".replace("-", "−")),
            ("Lift limit", f"{shape.cl_max:.2f} ± {BAND * shape.limit_sigma * shape.cl_max:.2f}"),
            ("Least drag", f"{shape.cd_0:.3f} ± {0.3 * shape.cd_0:.3f}"),
        )
        for share, end, (label, value) in zip(_CELLS, (*_CELLS[1:], 1.0), cells, strict=True):
            write(p, x + share * wide, y + 28, label, LABEL, inks.soft)
            write(p, x + share * wide, y + 46, fit(value, (end - share) * wide - 2), VALUE)
        write(p, x, y + 66, "limit and drag at Re 100 000; moment about the quarter chord", LABEL, inks.soft)

    def _draw_sheets(self, p: QPainter, x: float, y: float, wide: float, surface: Surface) -> None:
        """Show what other sheets would make of this form; a section from coordinates shows its file's report."""
        inks, units = theme.inks, self.store.units
        if surface.section == "profile":
            told = self.report if surface.profile and surface.profile.name == self._reported_of else []
            heading(p, x, y, wide, "From the file", surface.profile.name if surface.profile else "")
            for number, words in enumerate(told or ["read earlier; stored with the design"]):
                write(p, x, y + 28 + 16 * number, fit(words, wide, LABEL), LABEL, inks.soft)
            return
        if y + 47 > self._built_top() - 18:
            return
        heading(p, x, y, wide, "Other sheets", "the same form, thickness kept where the sheet allows")
        columns = (0.0, 0.16, 0.34, 0.50, 0.66, 0.84)
        for share, words in zip(columns, ("Sheet", "Thick", "Camber", "No lift at", "Lift limit", "Drag"), strict=True):
            write(p, x + share * wide, y + 27, words, LABEL, inks.soft)
        row = y + 47
        sheets = sorted({*_SHEETS, round(surface.sheet, 5)})
        room = int((self._built_top() - 18 - row) // 20) + 1
        mine_at = sheets.index(round(surface.sheet, 5))
        first = min(max(mine_at - room // 2, 0), max(len(sheets) - room, 0))
        for sheet in sheets[first : first + room]:
            mine = abs(sheet - surface.sheet) < 1e-6
            trial = section_of(surface.model_copy(update={"sheet": sheet}))
            cells = (
                with_unit(sheet, "length", units, 1 if self.store.system == "metric" else 2),
                f"{100 * trial.thickness:.1f} %",
                f"{100 * trial.camber:.1f} %",
                shown(trial.alpha_0, "angle", units) + "°",
                f"{trial.cl_max:.2f}",
                f"{trial.cd_0:.3f}",
            )
            if mine:
                p.fillRect(QRectF(x - 6, row - 13, wide + 6, 18), inks.wash)
            for share, words in zip(columns, cells, strict=True):
                write(p, x + share * wide, row, words.replace("-", "−"), VALUE, inks.live if mine else inks.ink, mine)
            row += 20
