"""Values typed where they stand: any unit mix in, refused in place with what was understood and what is allowed."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QEvent, QPoint, QRect, Qt
from PySide6.QtGui import QFocusEvent, QKeyEvent, QKeySequence, QMouseEvent, QMoveEvent, QResizeEvent, QShowEvent
from PySide6.QtWidgets import QLabel, QLineEdit, QWidget

from ridgeline.design import paths
from ridgeline.desk.paint import width_of
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, font, theme
from ridgeline.errors import DesignError
from ridgeline.typed import read, told
from ridgeline.units import shown

#: What the frame and the cursor of a field take, px.
_SIDES = 7


def _is_undo(event: QEvent) -> bool:
    keys = (QKeySequence.StandardKey.Undo, QKeySequence.StandardKey.Redo)
    return isinstance(event, QKeyEvent) and any(event.matches(key) for key in keys)


class Note(QLabel):
    """A slip of paper under a field that says why its value was refused."""

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self.setWordWrap(True)
        self.setFont(font(LABEL))
        self.setMargin(6)
        self.setMaximumWidth(300)
        self.setAccessibleName("why the value was refused")
        self.hide()

    def say(self, field: QWidget, words: str) -> None:
        """Show the reason just below a field, inside the window."""
        inks = theme.inks
        self.setStyleSheet(
            f"background: {inks.paper.name()}; color: {inks.stop.name()}; border: 1px solid {inks.stop.name()};"
        )
        self.setText(words)
        self.setFixedWidth(280)
        self.adjustSize()
        window = self.parentWidget()
        assert window is not None
        place = field.mapTo(window, QPoint(0, field.height() + 4))
        x = min(max(place.x(), 4), window.width() - self.width() - 4)
        y = place.y() if place.y() + self.height() < window.height() else place.y() - field.height() - self.height() - 8
        self.move(x, y)
        self.raise_()
        self.show()


def _note_of(widget: QWidget) -> Note:
    window = widget.window()
    note = window.findChild(Note)
    return note if isinstance(note, Note) else Note(window)


class Entry(QLineEdit):
    """A line edit that commits on Enter or on leaving, reverts on Escape, and keeps refused text for correction."""

    def __init__(self, parent: QWidget, name: str, *, size: int = VALUE, right: bool = True) -> None:
        super().__init__(parent)
        self.setFrame(False)
        self.setFont(font(size))
        self.setAccessibleName(name)
        self.setToolTip(name)
        self.setAlignment(Qt.AlignmentFlag.AlignRight if right else Qt.AlignmentFlag.AlignLeft)
        self._size = size
        self._written = ""
        #: The next press takes the whole value; a press that did is still down.
        self._fresh = self._pressed = False
        #: Where the field stands when its text needs no more room.
        self._home: QRect | None = None
        self._growing = self._handing_in = False
        self.returnPressed.connect(self.commit)
        self.textChanged.connect(lambda _text: self._grow())

    def current(self) -> str:
        """Return the text of the present value; overridden."""
        return ""

    def accept(self, text: str) -> None:
        """Put the typed text to use; raises `DesignError` when it cannot. Overridden."""

    def refresh(self) -> None:
        """Show the present value, unless the builder is typing another one."""
        fresh = self.current()
        if not (self.hasFocus() and self.isModified()):
            self._written = fresh
            if self.text() != fresh:
                self.setText(fresh)

    def commit(self) -> bool:
        """Hand in what was typed. A refused text stays, with the reason under it."""
        if self.text() == self._written:
            self.setModified(False)
            self._mark(None)
            return True
        if self._handing_in:
            # What it is used for may hide the field, which then hands in what is being handed in.
            return True
        self._handing_in = True
        try:
            self.accept(self.text())
        except DesignError as error:
            self._mark(error)
            return False
        finally:
            self._handing_in = False
        self._mark(None)
        self.setModified(False)
        self.refresh()
        self.selectAll()
        return True

    def _mark(self, error: DesignError | None) -> None:
        self.setProperty("wrong", "true" if error else "false")
        self.style().unpolish(self)
        self.style().polish(self)
        note = _note_of(self)
        if error is None:
            note.hide()
        else:
            error = self.refusal(error)
            note.say(
                self, f"Understood {error.understood}. Allowed: {error.allowed}. Escape brings the old value back."
            )

    def refusal(self, error: DesignError) -> DesignError:
        """Return a refusal in the builder's units. Overridden where they are known."""
        return told(error)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.setModified(False)
            self.refresh()
            self._mark(None)
            self.selectAll()
            return
        super().keyPressEvent(event)

    def event(self, event: QEvent) -> bool:
        # Undo is the design's while nothing is being typed here; a field of Qt would keep the keys to itself.
        if event.type() == QEvent.Type.ShortcutOverride and not self.isModified() and _is_undo(event):
            event.ignore()
            return True
        return super().event(event)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._fresh and event.button() == Qt.MouseButton.LeftButton:
            # The press that brings the hand here takes the whole value; the next one places the cursor.
            self._fresh, self._pressed = False, True
            self.selectAll()
            event.accept()
            return
        super().mousePressEvent(event)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if not self._pressed:
            super().mouseMoveEvent(event)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._pressed:
            self._pressed = False
            return
        super().mouseReleaseEvent(event)

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        self._fresh = True
        self.selectAll()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self._fresh = False
        self.commit()
        self._shrink()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if not self._growing:
            self._home = None
            self._grow()

    def moveEvent(self, event: QMoveEvent) -> None:
        super().moveEvent(event)
        if not self._growing:
            self._home = None

    def showEvent(self, event: QShowEvent) -> None:
        super().showEvent(event)
        self._grow()

    def _needed(self) -> int:
        return int(self.fontMetrics().horizontalAdvance(self.text())) + _SIDES

    def _grow(self) -> None:
        """Widen the field over its neighbours while its text needs it: a value is never shown cut."""
        parent = self.parentWidget()
        if parent is None or not self.isVisible():
            return
        home = self._home or self.geometry()
        wide = min(max(self._needed(), home.width()), parent.width() - 2)
        if wide <= 0 or wide == self.width():
            return
        right_set = bool(self.alignment() & Qt.AlignmentFlag.AlignRight)
        left = home.right() + 1 - wide if right_set else home.left()
        left = max(min(left, parent.width() - wide - 1), 0)
        self._set_geometry(QRect(left, home.top(), wide, home.height()))
        self._home = home
        self.raise_()

    def _shrink(self) -> None:
        """Go back to the field's own place when the text has left it."""
        if self._home is not None and self._needed() <= self._home.width():
            self._set_geometry(self._home)
            self._home = None

    def _set_geometry(self, place: QRect) -> None:
        self._growing = True
        # A fixed width is the owner's wish for its own text: what is typed now may need more.
        if self.minimumWidth() == self.maximumWidth():
            self.setFixedWidth(place.width())
        self.setGeometry(place)
        self._growing = False


#: Stands before a value that nobody typed: it follows from others, and goes with them.
ESTIMATED = "≈"
#: Stands where several parts are typed for at once and differ.
VARIED = "several"


class PathField(Entry):
    """A measure of the document at a path, shown and typed in the builder's units."""

    def __init__(
        self,
        parent: QWidget,
        store: Store,
        path: str,
        name: str,
        *,
        size: int = VALUE,
        right: bool = True,
        unit: bool = False,
        decimals: int | None = None,
        changes: Callable[[float], list[paths.Change]] | None = None,
        empty: Callable[[], float | None] | None = None,
        varied: Callable[[], bool] | None = None,
        reads: Callable[[str], float | None] | None = None,
    ) -> None:
        super().__init__(parent, name, size=size, right=right)
        self._store, self._path, self._label = store, path, name
        self._unit, self._decimals, self._changes = unit, decimals, changes
        #: What an empty field stands for, in the stored unit: estimated from other fields.
        self._empty = empty
        #: Whether the parts it is typed for differ in it.
        self._varied = varied
        #: What may be typed besides a value with its unit.
        self._reads = reads
        self.refresh()
        store.changed.connect(self.refresh)

    @property
    def path(self) -> str:
        return self._path

    def rebind(
        self,
        changes: Callable[[float], list[paths.Change]] | None,
        empty: Callable[[], float | None] | None,
        varied: Callable[[], bool] | None,
        reads: Callable[[str], float | None] | None = None,
    ) -> None:
        """Stand for the same place among other parts."""
        self._changes, self._empty, self._varied, self._reads = changes, empty, varied, reads
        self.refresh()

    def current(self) -> str:
        try:
            value = paths.get(self._store.design, self._path)
            quantity = paths.quantity_at(self._store.design, self._path)
        except DesignError:
            return ""
        if self._varied is not None and self._varied():
            return VARIED
        if value is None:
            stands_for = None if self._empty is None else self._empty()
            if stands_for is None or quantity is None:
                return "–"
            return f"{ESTIMATED} {shown(stands_for, quantity, self._store.units, self._decimals)}"
        if quantity is None:
            return str(value)
        text = shown(float(value), quantity, self._store.units, self._decimals)
        symbol = self._store.units[quantity].symbol
        gap = "" if symbol == "°" else " "
        return f"{text}{gap}{symbol}".strip() if self._unit else text

    def accept(self, text: str) -> None:
        quantity = paths.quantity_at(self._store.design, self._path)
        bare = self._store.unit_of(quantity) if quantity else None
        if text.strip() in ("", "–", "-") or text.strip().startswith(ESTIMATED):
            # Words are emptied to none at all; what is measured is not told any more.
            value: Any = "" if isinstance(paths.get(self._store.design, self._path), str) else None
        else:
            value = None if self._reads is None else self._reads(text)
            if value is None:
                value = paths.read_text(self._store.design, self._path, text, bare=bare)
        own = None if value is None or value == "" else self._changes
        changes = [paths.Change(self._path, value)] if own is None else own(value)
        # Validate first, so that the reason appears here and not in the window's strip.
        paths.apply(self._store.design, changes)
        self._store.edit(changes, self._label)

    def refusal(self, error: DesignError) -> DesignError:
        if error.bound is None:
            return error
        units, bound = self._store.units, error.bound
        try:
            unit = read(self.text(), bound.quantity, bare=units[bound.quantity]).unit
        except DesignError:
            unit = None
        return DesignError(error.path, f"“{self.text().strip()}”", told(error, units, unit).allowed)

    def fit_width(self) -> None:
        """Make the field as wide as its text."""
        self._home = None
        self.setFixedWidth(int(width_of(self.text() or "–", self._size)) + _SIDES + 1)
