"""Weights: masses as discs at their places, the budget as bars, and the table of items."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QKeySequence, QMouseEvent, QPainter, QRegion, QShortcut
from PySide6.QtWidgets import QAbstractItemView, QFileDialog, QHeaderView, QTableView, QWidget

from ridgeline.design.parts import Item
from ridgeline.design.paths import Change
from ridgeline.desk.dimensions import Selection
from ridgeline.desk.drawing import View, draw_aircraft, extent, shape_key
from ridgeline.desk.exporting import ask_export
from ridgeline.desk.item_edits import copy_items, paste_items, read_table
from ridgeline.desk.item_picks import picking_menu
from ridgeline.desk.item_table import COLUMNS, ItemTable
from ridgeline.desk.paint import Same, cg_mark, fit, line, rule, still, width_of, write
from ridgeline.desk.piece_rows import path_built
from ridgeline.desk.scales import nice_step, ruler
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.weights.budget import GROUP_NAMES as _GROUP_NAMES
from ridgeline.desk.sheets.weights.budget import GrowthRow, budget_row, budget_total, draw_budget, draw_total
from ridgeline.desk.sheets.weights.discs import Ground, MassDiscs, disc_radius
from ridgeline.desk.sheets.weights.item_rows import item_selection, many_selection, remove_items
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, theme
from ridgeline.desk.widgets.built_row import TALL, BuiltRow
from ridgeline.desk.widgets.buttons import RuledButton, discard
from ridgeline.desk.widgets.fields import PathField
from ridgeline.desk.widgets.handles import Handle
from ridgeline.engine.weights.items import GROUPS as ITEM_GROUPS
from ridgeline.engine.weights.places import settle
from ridgeline.units import band_shown, shown

_TABLES = "Tables (*.csv *.tsv *.txt);;All files (*)"
_GROUPS = ("airframe", "adhesive", "structure", "radio", "power", "battery", "payload", "gear", "ballast")
#: An item dragged this near a neighbour's line snaps to it, px.
_SNAP_PX = 3.0


class WeightsSheet(Sheet):
    """The weight budget."""

    key = "weights"
    known_by = "mass.auw"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.model = ItemTable(self, store)
        self.table = QTableView(self)
        self.table.setTabKeyNavigation(False)
        self.table.setModel(self.model)
        self.table.setAccessibleName("items aboard")
        self.table.setSelectionBehavior(QAbstractItemView.SelectionBehavior.SelectRows)
        self.table.setSelectionMode(QAbstractItemView.SelectionMode.ExtendedSelection)
        self.table.setEditTriggers(
            QAbstractItemView.EditTrigger.DoubleClicked
            | QAbstractItemView.EditTrigger.EditKeyPressed
            | QAbstractItemView.EditTrigger.AnyKeyPressed
        )
        self.table.setShowGrid(False)
        self.table.verticalHeader().hide()
        self.table.verticalHeader().setDefaultSectionSize(19)
        self.table.verticalHeader().setMinimumSectionSize(16)
        self.table.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Fixed)
        self.table.horizontalHeader().setHighlightSections(False)
        self.table.horizontalHeader().setFixedHeight(22)
        self.table.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.table.selectionModel().currentRowChanged.connect(self._chosen)
        self.table.selectionModel().selectionChanged.connect(self._chose_several)
        self.built = BuiltRow(self, store)
        self.add = RuledButton(self, "Add an item…")
        self.add.clicked.connect(self.ask_item)
        self.remove = RuledButton(self, "Remove it")
        self.remove.clicked.connect(self.remove_item)
        self.read_button = RuledButton(self, "Read a table…")
        self.read_button.clicked.connect(self._ask_read)
        self.write_button = RuledButton(self, "Write the table…")
        self.write_button.clicked.connect(lambda: ask_export(self, self.store, "items"))
        keys = QKeySequence.StandardKey
        for key, do in ((keys.Copy, self.copy_items), (keys.Paste, self.paste_items)):
            QShortcut(key, self.table, do, context=Qt.ShortcutContext.WidgetShortcut)
        self.allowances: dict[str, PathField] = {}
        self.growth = GrowthRow(self)
        self.mass_side = Handle(self, "item from the side", self._drag_side, self._let_go, step=self.document_step)
        self.mass_plan = Handle(self, "item in plan", self._drag_plan, self._let_go, step=self.document_step)
        self.discs = MassDiscs()
        #: What the item under the hand snapped to.
        self.snapped = ""
        self._syncing = self._several = False
        self._columns_of = 0

    def drawn_region(self) -> QRegion:
        return QRegion(self.rect()) - QRegion(self.table.geometry())

    def subtitle(self) -> str:
        report = self.store.report
        auw = report.figures["mass.auw"]
        weighed, listed = report.value("mass.weighed"), report.value("mass.listed")
        if auw.value is None or weighed is None or listed is None:
            return auw.why_not
        units = self.store.units
        band = f"{band_shown(auw.below, auw.above, 'mass', units)} {units['mass'].symbol}"
        return (
            f"{shown(auw.value, 'mass', units)} {band} to expect: {shown(weighed, 'mass', units)} weighed, "
            f"{shown(listed - weighed, 'mass', units)} estimated, "
            f"{shown(auw.value - listed, 'mass', units)} of growth"
        )

    @property
    def chosen(self) -> int | None:
        """Return the index of the selected item."""
        spot = self.store.spot("item")
        if spot is not None:
            return spot.index
        return 0 if self.store.design.parts else None

    def _chosen(self, current: object, _before: object) -> None:
        row = current.row()  # type: ignore[attr-defined]
        if row >= 0 and not self._syncing:
            self.store.select(f"parts[{row}]")

    def _chose_several(self, *_changed: object) -> None:
        """Show what several items can be given at once, and one alone again."""
        several = len(self.chosen_rows) > 1
        if not self._syncing and (several or self._several):
            self._several = several
            self.store.selected.emit()

    def add_item(self) -> None:
        """Add an item at the balance point, to be named and weighed."""
        state = self.store.report.results.masses.state
        x, z = (float(state.cg[0]), float(state.cg[2])) if state is not None else (0.2, 0.0)
        item = Item(name="New item", group="payload", x=round(x, 3), z=round(z, 3), estimate=0.01)
        if self.store.edit([Change("parts[-]", item)], "Add an item"):
            row = len(self.store.design.parts) - 1
            self.store.select(f"parts[{row}]")
            self.table.selectRow(row)
            self.table.edit(self.model.index(row, 0))

    def ask_item(self) -> None:
        """Open the menu of what can be added: a plain item, or one of the library or the bin."""
        menu = picking_menu(self, self.store, self.add_item, self._show_added)
        menu.popup(self.add.mapToGlobal(self.add.rect().topLeft()))

    def _show_added(self) -> None:
        self.table.selectRow(len(self.store.design.parts) - 1)
        self.table.scrollToBottom()

    def remove_item(self) -> None:
        """Remove the selected item, or all of several."""
        rows = self.chosen_rows if len(self.chosen_rows) > 1 else [k for k in (self.chosen,) if k is not None]
        if rows:
            remove_items(self.store, rows)

    def _ask_read(self) -> None:
        name, _kind = QFileDialog.getOpenFileName(self, "Read a table of items", "", _TABLES)
        if name:
            self.read_table(name)

    def read_table(self, place: str) -> None:
        """Add the items of a table as one step, and say what was left out."""
        read_table(self.store, place)

    def copy_items(self) -> None:
        """Copy the selected item, or all, as cells a spreadsheet takes."""
        copy_items(self.store, self.chosen_rows)

    def paste_items(self) -> None:
        """Add items from cells copied in a spreadsheet, header and all."""
        paste_items(self.store)

    def selection(self) -> Selection:
        rows = self.chosen_rows
        if len(rows) > 1:
            return many_selection(self.store, rows)
        return Selection("press an item", ()) if self.chosen is None else item_selection(self.store, self.chosen)

    @property
    def chosen_rows(self) -> list[int]:
        """Return the items selected in the table, from the top: one, or several for an edit of all."""
        count = len(self.store.design.parts)
        return sorted(k.row() for k in self.table.selectionModel().selectedRows() if k.row() < count)

    def arrange(self) -> None:
        top = self._table_top()
        index = self.chosen
        self.built.show_part("" if index is None else path_built(self.store, index))
        room = 0 if self.built.isHidden() else TALL + 8
        self.built.setGeometry(PAD, self.height() - 36 - TALL, self.width() - 2 * PAD, TALL)
        self.table.setGeometry(PAD - 3, top + 16, self.width() - 2 * PAD + 6, self.height() - top - 52 - room)
        total = self.table.width() - 12
        if total != self._columns_of:
            # Widths set anew have the whole table laid out anew: not at every step of a drag.
            self._columns_of = total
            shares = [column.share for column in COLUMNS]
            for column, share in enumerate(shares):
                self.table.setColumnWidth(column, int(total * share / sum(shares)))
        self.add.setGeometry(PAD, self.height() - 30, 130, 24)
        self.remove.setGeometry(PAD + 140, self.height() - 30, 130, 24)
        self.remove.setEnabled(self.chosen is not None)
        self.read_button.setGeometry(self.width() - PAD - 284, self.height() - 30, 132, 24)
        self.write_button.setGeometry(self.width() - PAD - 142, self.height() - 30, 142, 24)
        self._arrange_allowances()
        self.growth.arrange(budget_total(self._budget_area()))
        self._arrange_mass()
        self._sync_row()

    def _arrange_allowances(self) -> None:
        """Put each group's allowance beside its bar, to be typed there."""
        area, rows = self._budget_area(), list(self.groups())
        for name in [n for n in self.allowances if n not in rows]:
            field = self.allowances.pop(name)
            self.store.changed.disconnect(field.refresh)
            discard(field)
        for index, name in enumerate(rows):
            if name not in self.allowances:
                words = f"allowance of {_GROUP_NAMES.get(name, name)}"
                self.allowances[name] = PathField(self, self.store, f"allowances.{name}", words)
            y = budget_row(area, index, len(rows))
            self.allowances[name].setGeometry(int(area.right() - 42), int(y - 6), 42, 17)
            self.allowances[name].show()

    def _budget_area(self) -> QRectF:
        split = PAD + int(0.47 * (self.width() - 2 * PAD))
        return QRectF(split + 14, 36, self.width() - PAD - split - 14, self._table_top() - 48)

    def _sync_row(self) -> None:
        """Show the selected item in the table, without taking the table's answer for a new selection."""
        self.model.follow()
        if self.chosen is not None and self.table.currentIndex().row() != self.chosen and len(self.chosen_rows) < 2:
            self._syncing = True
            self.table.selectRow(self.chosen)
            self._syncing = False

    def _table_top(self) -> int:
        return int(max(320, 0.55 * self.height()))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        hit = self.discs.at(event.position().x(), event.position().y())
        if hit is not None:
            self.store.select(f"parts[{hit}]")

    def draw(self, p: QPainter) -> None:
        split = PAD + int(0.47 * (self.width() - 2 * PAD))
        line(p, split + 0.5, 36, split + 0.5, self._table_top() - 12, theme.inks.hair)
        self._draw_aircraft(p, self._aircraft_area())
        self._draw_budget(p, self._budget_area())
        rule(p, PAD, self._table_top() - 10, self.width() - 2 * PAD)
        write(p, PAD, self._table_top() + 8, "Items", 13, bold=True)
        units = self.store.units
        words = (
            f"{units['mass'].symbol} and {units['length'].symbol}; double-press a value to type; dashed ring = estimate"
        )
        write(p, self.width() - PAD, self._table_top() + 8, words, LABEL, theme.inks.soft, align="right")

    def _draw_budget(self, p: QPainter, area: QRectF) -> None:
        """Draw the budget; a mass that only moves leaves it as it is."""
        report, design = self.store.report, self.store.design
        auw, reserve = report.figures["mass.auw"], report.value("mass.reserve")
        masses = (auw.value, auw.below, auw.above, reserve, report.value("mass.weighed"), tuple(self.groups().items()))
        key = ("budget", *masses, design.brief.ceiling, Same(design.allowances), self.store.system)

        def budget(q: QPainter) -> None:
            draw_budget(q, self, area)
            draw_total(q, self, budget_total(area))

        # Words at the edges reach a little over the room.
        still(p, area.adjusted(-8, -8, 14, 12), key, budget)

    def _aircraft_area(self) -> QRectF:
        split = PAD + int(0.47 * (self.width() - 2 * PAD))
        return QRectF(PAD, 36, split - PAD - 12, self._table_top() - 48)

    def _views(self, room: QRectF) -> tuple[View, float]:
        """Return the side view and where the half plan's centre line lies under it."""
        side, plan = extent(self.store.design, "side"), extent(self.store.design, "plan")
        scale = min(room.width() / side.width(), (room.height() - 90) / (side.height() + plan.width() / 2))
        left = room.left() + (room.width() - side.width() * scale) / 2 - side.left() * scale
        top = room.top() + 52
        return View("side", left, top - side.top() * scale, scale), top + side.height() * scale + 34

    def _arrange_mass(self) -> None:
        """Put a handle on the selected item in both views."""
        index = self.chosen
        for handle in (self.mass_side, self.mass_plan):
            handle.setVisible(index is not None)
        if index is None:
            return
        part = self.store.design.parts[index]
        view, axis = self._views(self._aircraft_area())
        self.mass_side.place(*view.at((part.x, 0.0, part.z)))
        self.mass_plan.place(view.x0 + part.x * view.scale, axis + abs(part.y) * view.scale)
        self.mass_side.chosen = self.mass_plan.chosen = True

    def _let_go(self) -> None:
        if "bay" in self.snapped:
            self.store.noted.emit(f"{self.snapped[0].upper()}{self.snapped[1:]}.")
        self.snapped = ""
        self.store.seal()
        self.refresh()

    def _drag_side(self, px: float, py: float) -> None:
        view, _axis = self._views(self._aircraft_area())
        x, z = view.back(px, py)
        self._move(x, z=z)

    def _drag_plan(self, px: float, py: float) -> None:
        view, axis = self._views(self._aircraft_area())
        self._move((px - view.x0) / view.scale, y=max((py - axis) / view.scale, 0.0))

    def _move(self, x: float, *, y: float | None = None, z: float | None = None) -> None:
        """Move the selected item; it snaps to its neighbours, stays in its own bay and out of another's."""
        index = self.chosen
        if index is None:
            return
        part = self.store.design.parts[index]
        axes, scale = "xy" if y is not None else "xz", self._views(self._aircraft_area())[0].scale
        wanted = (x, part.y if y is None else (-y if part.y < 0 else y), part.z if z is None else z)
        reach = 0.0 if self.mass_side.by_keys or self.mass_plan.by_keys else _SNAP_PX / scale
        place = settle(self.store.design.parts, index, *wanted, reach=reach, axes=axes)
        self.snapped = place.why
        update = {"x": round(place.x, 4), "y": round(place.y, 4), "z": round(place.z, 4)}
        fresh = part.model_copy(update=update)
        self.store.edit([Change(f"parts[{index}]", fresh)], f"Move {part.name}", merge=f"item {index}")

    def _draw_aircraft(self, p: QPainter, room: QRectF) -> None:
        design, inks = self.store.design, theme.inks
        top_view, axis = self._views(room)
        scale, left, side = top_view.scale, top_view.x0, extent(design, "side")
        self.scale = scale
        # The half plan lies on its side under the ruler, starboard down, so that both share one ruler.
        unit = self.store.units["length"]

        def ground(q: QPainter) -> None:
            draw_aircraft(q, design, top_view)
            q.save()
            q.setClipRect(QRectF(room.left(), axis, room.width(), room.bottom() - axis + 4))
            q.translate(left, axis)
            q.rotate(-90)
            q.scale(-1, 1)
            draw_aircraft(q, design, View("plan", 0, 0, scale))
            q.restore()
            low, high = side.left() * unit.factor, side.right() * unit.factor
            rect = QRectF(left + side.left() * scale, axis - 27, side.width() * scale, 20)
            ruler(q, rect, low, high, nice_step(high - low, 8))

        still(p, room.adjusted(0, 0, 0, 5), ("weights", top_view, axis, unit.symbol, *shape_key(design)), ground)
        items, base = self.store.report.results.masses.items, Ground(top_view, left, axis)
        self.discs.draw(p, base, design.parts, items, self.chosen, room)
        self._label_discs(p, top_view, items.mass.argsort()[::-1][: 6 if self.width() > 700 else 4].tolist())
        state = self.store.report.results.masses.state
        if state is not None:
            x = left + float(state.cg[0]) * scale
            line(p, x, room.top(), x, room.bottom(), inks.live, 1.5)
            y = top_view.at((0.0, 0.0, float(state.cg[2])))[1]
            cg_mark(p, x, y, 6)
            key = "balance.cg_fraction"
            words = f"CG {self.words(key)}"
            self.written(p, x + 5, room.top() + 10, words, key, LABEL, inks.live, bold=True, halo=True)
            words = fit(self.snapped or "disc area is mass", room.width(), LABEL)
            write(p, room.left(), room.bottom(), words, LABEL, inks.live if self.snapped else inks.soft, halo=True)

    def _label_discs(self, p: QPainter, side: View, heaviest: list[int]) -> None:
        """Name the heaviest items above the aircraft, in two rows from nose to tail, each with a leader to its disc."""
        inks, design = theme.inks, self.store.design
        ends = [-1e9, -1e9]
        for index in sorted(heaviest, key=lambda k: design.parts[k].x):
            part = design.parts[index]
            mass = float(self.store.report.results.masses.items.mass[index])
            words = f"{part.name.partition(',')[0]} {shown(mass, 'mass', self.store.units)}"
            x, y = side.at((part.x, 0.0, part.z))
            row = 0 if ends[0] <= ends[1] else 1
            left = max(x - width_of(words, LABEL) / 2, ends[row] + 16, PAD)
            ends[row] = left + width_of(words, LABEL)
            base = 68 + 15 * row
            line(p, x, y - disc_radius(mass), min(max(x, left + 4), ends[row] - 4), base + 3, inks.hair)
            write(p, left, base, words, LABEL, inks.ink, halo=True)

    def groups(self) -> dict[str, tuple[float, float]]:
        items = self.store.report.results.masses.items
        known, rest = (
            np.bincount(items.group[mask], items.mass[mask], len(ITEM_GROUPS))
            for mask in (items.weighed, ~items.weighed)
        )
        rows = {ITEM_GROUPS[k]: (float(known[k]), float(rest[k])) for k in np.unique(items.group)}
        return {name: rows[name] for name in _GROUPS if name in rows}
