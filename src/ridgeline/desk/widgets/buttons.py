"""Ruled buttons: remedies, choices written as underlined words, and plain text buttons."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import QEvent, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QEnterEvent, QFocusEvent, QMouseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QAbstractButton, QMenu, QPushButton, QWidget

from ridgeline.desk.paint import fit, line, pen, width_of, wrap, write
from ridgeline.desk.theme import LABEL, VALUE, theme

#: What the words of a ruled button leave free beside them, and how far apart their lines are, px.
_SIDES, _LINE = 22, 15


def discard(widget: QWidget) -> None:
    """Take a widget out of the window at once; it is deleted when the event loop gets to it, and not before."""
    widget.hide()
    widget.setParent(None)
    widget.deleteLater()


class DrawnButton(QAbstractButton):
    """A button that is a drawing, drawn anew when a hand comes or goes."""

    def __init__(self, parent: QWidget) -> None:
        super().__init__(parent)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)

    @property
    def live(self) -> bool:
        """Tell whether a hand or a key rests on it."""
        return self.underMouse() or self.hasFocus()

    def enterEvent(self, event: QEnterEvent) -> None:
        super().enterEvent(event)
        self.update()

    def leaveEvent(self, event: QEvent) -> None:
        super().leaveEvent(event)
        self.update()


class RuledButton(QAbstractButton):
    """A button drawn as a ruled box; resting on it, or reaching it by key, previews what it does.

    Words too long for the box are cut short; with a ``room`` they are wrapped to that width and the box grows. Then
    there may be smaller words ``under`` them, of what a press costs.
    """

    rested = Signal(bool)

    def __init__(
        self,
        parent: QWidget,
        words: str,
        *,
        aside: str = "",
        under: str = "",
        bold: bool = False,
        strong: bool = False,
        room: int = 0,
    ) -> None:
        super().__init__(parent)
        self.setText(words)
        self.setAccessibleName(f"{words}; {under}" if under else words)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._lines = wrap(words, room - _SIDES, LABEL) if room else [words]
        self._under = wrap(under, room - _SIDES, LABEL) if room and under else []
        self._tall = 24 + _LINE * (len(self._lines) + len(self._under) - 1)
        self.setFixedHeight(self._tall)
        self.setToolTip(words)
        self._aside, self._bold, self._strong = aside, bold, strong

    def say(self, words: str) -> None:
        """Write other words on it, in one line."""
        if words == self.text():
            return
        self.setText(words)
        self.setAccessibleName(words)
        self.setToolTip(words)
        self._lines = [words]
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(int(width_of(self.text(), LABEL)) + 26, 24)

    def enterEvent(self, event: QEnterEvent) -> None:
        super().enterEvent(event)
        self.rested.emit(True)
        self.update()

    def leaveEvent(self, event: QEvent) -> None:
        super().leaveEvent(event)
        self.rested.emit(False)
        self.update()

    def focusInEvent(self, event: QFocusEvent) -> None:
        super().focusInEvent(event)
        self.rested.emit(True)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)
        self.rested.emit(False)

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        live = self._strong or self.underMouse() or self.hasFocus() or self.isChecked()
        box = QRectF(0.5, 0.5, self.width() - 1, self.height() - 1)
        p.setPen(pen(inks.live if live else inks.soft, 1))
        p.setBrush(inks.wash if live else Qt.BrushStyle.NoBrush)
        p.drawRect(box)
        if live:
            p.fillRect(QRectF(0, 0, 4, self.height()), inks.live)
        size = 13 if self._bold else LABEL
        room = self.width() - _SIDES - (width_of(self._aside, LABEL) + 12 if self._aside else 0)
        colour = inks.live if live else inks.ink
        top = y = 16 + (self.height() - self._tall) / 2
        for words in self._lines:
            write(p, 12, y, fit(words, room, size, self._bold), size, colour, self._bold)
            y += _LINE
        for words in self._under:
            write(p, 12, y, fit(words, room, LABEL), LABEL, inks.soft)
            y += _LINE
        if self._aside:
            write(p, self.width() - 10, top, self._aside, LABEL, inks.soft, align="right")


class WordButton(QPushButton):
    """An underlined word that opens a short menu of choices; shows the present one."""

    def __init__(
        self,
        parent: QWidget,
        name: str,
        choices: Sequence[tuple[str, str]],
        read: Callable[[], str],
        choose: Callable[[str], None],
        *,
        widest: int = 10_000,
    ) -> None:
        super().__init__(parent)
        self._widest = widest
        self.setFlat(True)
        self.setAccessibleName(name)
        self.setToolTip(name)
        self._choices, self._read, self._choose = dict(choices), read, choose
        self._menu: QMenu | None = None
        self.clicked.connect(self._open)
        self.refresh()

    def _open(self) -> None:
        # Made when first opened: most are never opened, and a list of materials is long.
        if self._menu is None:
            self._menu = QMenu(self)
            for value, words in self._choices.items():
                self._menu.addAction(words).triggered.connect(lambda _=False, v=value: self._choose(v))
        self._menu.popup(self.mapToGlobal(self.rect().bottomLeft()))

    def choose(self, value: str) -> None:
        """Choose a value as the menu does."""
        self._choose(value)

    def offer(self, choices: Sequence[tuple[str, str]]) -> None:
        """Offer other words; the menu is made anew when it is next opened."""
        if dict(choices) != self._choices:
            self._choices, self._menu = dict(choices), None
        self.refresh()

    def rebind(self, read: Callable[[], str], choose: Callable[[str], None]) -> None:
        """Offer the same words for another part."""
        self._read, self._choose = read, choose
        self.refresh()

    def refresh(self) -> None:
        """Show the present choice."""
        self.setText(fit(self._choices.get(self._read(), self._read()), self._widest - 6))
        self.setFixedSize(int(width_of(self.text(), VALUE)) + 4, 20)

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        live = self.underMouse() or self.hasFocus()
        colour = inks.live if live else inks.ink
        write(p, 2, 14, self.text(), VALUE, colour)
        line(p, 2, 17.5, self.width() - 2, 17.5, colour, 2 if live else 1)


class LeafButton(DrawnButton):
    """A word that turns to another leaf of the same stop; the open one is ruled under."""

    def __init__(self, parent: QWidget, words: str, *, chosen: bool) -> None:
        super().__init__(parent)
        self.setText(words)
        self.setAccessibleName(f"{words}, leaf of this sheet")
        self.setToolTip(words)
        self._chosen = chosen
        self.setFixedSize(int(width_of(words, VALUE, True)) + 12, 24)

    def choose(self, chosen: bool) -> None:
        """Show whether it is the open one."""
        self._chosen = chosen
        self.update()

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        live = self._chosen or self.underMouse() or self.hasFocus()
        write(p, 6, 16, self.text(), VALUE, inks.live if live else inks.soft, self._chosen)
        line(p, 6, 21.5, self.width() - 6, 21.5, inks.live if self._chosen else inks.hair, 2 if self._chosen else 1)


class TextButton(QAbstractButton):
    """A quiet text button, such as Undo."""

    def __init__(self, parent: QWidget, words: str, name: str = "") -> None:
        super().__init__(parent)
        self.setText(words)
        self.setAccessibleName(name or words)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def sizeHint(self) -> QSize:
        return QSize(int(width_of(self.text(), VALUE)) + 10, 22)

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        colour = (
            inks.hair if not self.isEnabled() else (inks.live if self.underMouse() or self.hasFocus() else inks.ink)
        )
        write(p, 5, self.height() / 2 + 4, fit(self.text(), self.width() - 8), VALUE, colour)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        super().mouseMoveEvent(event)
        self.update()
