"""The items of the design as a table model: typed in place in any unit, refused with the reason."""

from __future__ import annotations

from typing import Any, NamedTuple, get_args

from PySide6.QtCore import QAbstractTableModel, QModelIndex, QObject, QPersistentModelIndex, Qt, QTimer
from PySide6.QtGui import QColor, QPainter, QPixmap

from ridgeline.design.parts import Group
from ridgeline.design.paths import Change, read_text
from ridgeline.desk.paint import pen
from ridgeline.desk.store import Store
from ridgeline.desk.theme import theme
from ridgeline.errors import DesignError
from ridgeline.units import shown

Index = QModelIndex | QPersistentModelIndex


class Column(NamedTuple):
    """A column: its header, the item's field, its quantity when it is a measure, and its share of the width."""

    header: str
    field: str
    quantity: str | None
    share: float


COLUMNS = (
    Column("item", "name", None, 4.2),
    Column("group", "group", None, 2.2),
    Column("pieces", "count", None, 1.3),
    Column("estimate", "estimate", "mass", 1.6),
    Column("weighed", "weighed", "mass", 1.6),
    Column("in all", "", "mass", 1.5),
    Column("aft", "x", "length", 1.3),
    Column("out", "y", "length", 1.3),
    Column("up", "z", "length", 1.3),
    Column("CG band", "", None, 1.6),
)


#: The table is drawn anew at most this often, ms.
_LAG_MS = 80
_MANY = 300


class ItemTable(QAbstractTableModel):
    """Rows are the items of the present design."""

    def __init__(self, parent: QObject, store: Store) -> None:
        super().__init__(parent)
        self._store = store
        self._count = len(store.design.parts)
        self._shown, self._system = store.design, store.system
        # While a mass is dragged its row may lag: else the drawing would lag behind the hand.
        self._lagging = QTimer(self, singleShot=True, interval=_LAG_MS)
        self._lagging.timeout.connect(self._announce)
        store.changed.connect(self.follow)

    def follow(self) -> None:
        """Take over the rows of the present design; asked for twice, the second time does nothing."""
        if self._shown is self._store.design and self._system == self._store.system:
            return
        self._shown, self._system = self._store.design, self._store.system
        count = len(self._store.design.parts)
        if count != self._count:
            self.beginResetModel()
            self._count = count
            self.endResetModel()
        elif count and not (count < _MANY and self._lagging.isActive()):
            # Of many items the table follows when the hand rests; of few, in step.
            self._lagging.start()

    def _announce(self) -> None:
        """Have every cell in view drawn anew."""
        if self._count:
            self.dataChanged.emit(self.index(0, 0), self.index(self._count - 1, len(COLUMNS) - 1))

    def rowCount(self, parent: Index = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else self._count

    def columnCount(self, parent: Index = QModelIndex()) -> int:  # noqa: B008
        return 0 if parent.isValid() else len(COLUMNS)

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if orientation != Qt.Orientation.Horizontal:
            return None
        if role == Qt.ItemDataRole.TextAlignmentRole:
            return int(
                Qt.AlignmentFlag.AlignVCenter
                | (Qt.AlignmentFlag.AlignLeft if section < 2 else Qt.AlignmentFlag.AlignRight)
            )
        if role != Qt.ItemDataRole.DisplayRole:
            return None
        column = COLUMNS[section]
        return column.header

    def flags(self, index: Index) -> Qt.ItemFlag:
        base = Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsEnabled
        return base | Qt.ItemFlag.ItemIsEditable if COLUMNS[index.column()].field else base

    def data(self, index: Index, role: int = Qt.ItemDataRole.DisplayRole) -> Any:
        if not index.isValid() or index.row() >= len(self._store.design.parts):
            return None
        if role in (Qt.ItemDataRole.DisplayRole, Qt.ItemDataRole.EditRole):
            return self._text(index.row(), index.column(), role == Qt.ItemDataRole.EditRole)
        if role == Qt.ItemDataRole.TextAlignmentRole:
            side = Qt.AlignmentFlag.AlignLeft if index.column() < 2 else Qt.AlignmentFlag.AlignRight
            return int(side | Qt.AlignmentFlag.AlignVCenter)
        if role == Qt.ItemDataRole.ForegroundRole:
            return self._ink(index.row(), index.column())
        if role == Qt.ItemDataRole.DecorationRole and index.column() == 0:
            return _mark(self._store.design.parts[index.row()].weighed is not None)
        if role == Qt.ItemDataRole.ToolTipRole and COLUMNS[index.column()].field:
            return "double-press to type another value"
        return None

    def _ink(self, row: int, column: int) -> QColor:
        part = self._store.design.parts[row]
        quiet = COLUMNS[column].field in ("group", "x", "y", "z") or (
            COLUMNS[column].field == "estimate" and part.weighed is not None
        )
        return theme.inks.soft if quiet else theme.inks.ink

    def _text(self, row: int, column: int, editing: bool) -> str:
        part, kind, units = self._store.design.parts[row], COLUMNS[column], self._store.units
        items = self._store.report.results.masses.items
        if kind.header == "in all":
            return shown(float(items.mass[row]), "mass", units, self._grams(float(items.mass[row])))
        if kind.header == "CG band":
            state = self._store.report.results.masses.state
            share = float(state.x_shares[row]) if state is not None else 0.0
            return f"{100 * share:.0f} %" if share >= 0.005 else "–"
        value = getattr(part, kind.field)
        if kind.field == "estimate" and (value is None or part.build is not None):
            value = float(items.estimate[row]) / part.count
        if value is None:
            return "" if editing else "–"
        if kind.quantity is None:
            return str(value)
        digits = self._grams(value) if kind.quantity == "mass" else None
        return shown(float(value), kind.quantity, units, digits)

    def _grams(self, mass: float) -> int:
        return (
            1
            if mass < 0.0995 and self._store.system == "metric" and abs(mass * 1e3 - round(mass * 1e3)) > 0.04
            else self._store.units["mass"].decimals
        )

    def setData(self, index: Index, value: Any, role: int = Qt.ItemDataRole.EditRole) -> bool:
        if role != Qt.ItemDataRole.EditRole:
            return False
        column, row, text = COLUMNS[index.column()], index.row(), str(value).strip()
        if text == self._text(row, index.column(), True):
            return False
        path = f"parts[{row}].{column.field}"
        try:
            if column.field == "group" and text not in get_args(Group):
                raise DesignError(path, f"“{text}”", ", ".join(get_args(Group)))
            if column.quantity and text in ("", "–", "-"):
                fresh = None
            else:
                bare = self._store.unit_of(column.quantity) if column.quantity else None
                fresh = read_text(self._store.design, path, text, bare=bare)
        except DesignError as error:
            self._store.refused.emit(error)
            return False
        part = self._store.design.parts[row]
        changes = [Change(path, fresh)]
        if column.field == "estimate" and part.build is not None:
            # A typed estimate takes the recipe's place.
            changes.append(Change(f"parts[{row}].build", None))
        return self._store.edit(changes, f"Set {column.header} of {part.name}")


def _mark(weighed: bool) -> QPixmap:
    """Draw the state of an item: a disc when weighed, a dashed ring while estimated."""
    picture = QPixmap(24, 24)
    picture.setDevicePixelRatio(2)
    picture.fill(Qt.GlobalColor.transparent)
    p = QPainter(picture)
    p.setRenderHint(QPainter.RenderHint.Antialiasing)
    p.setPen(pen(theme.inks.ink, 1, Qt.PenStyle.SolidLine if weighed else Qt.PenStyle.DotLine))
    p.setBrush(theme.inks.hair if weighed else Qt.BrushStyle.NoBrush)
    p.drawEllipse(1, 1, 9, 9)
    p.end()
    return picture
