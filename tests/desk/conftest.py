"""A window on the demo or on an empty design, and hands to use it with."""

import gc

import pytest
from PySide6.QtCore import QCoreApplication, QEvent, QPoint, QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from ridgeline.design.document import Design
from ridgeline.desk.app import prepare
from ridgeline.desk.store import Store
from ridgeline.desk.window import Window


@pytest.fixture(scope="session", autouse=True)
def windows_are_kept():
    """Keep the collector from taking hundreds of closed windows apart in any order, halfway through another test.

    Their wrappers hang in rings over parents Qt has deleted already: now and then a run ended there in a fault of the
    bindings, which one window a sitting never meets.
    """
    gc.disable()
    yield
    # What is left is not looked at again, not at the end of the run either.
    gc.freeze()
    gc.enable()


@pytest.fixture(scope="session")
def qapp():
    return prepare("light")


@pytest.fixture
def open_window(qapp, qtbot, own_data):
    """Return a function that opens a window on a design."""

    opened = []

    def open_one(design=None, first="balance", size=(1280, 800)):
        store = Store(design or Design())
        window = Window(store, first=first)
        qtbot.addWidget(window)
        opened.append(window)
        window.resize(*size)
        window.show()
        QApplication.processEvents()
        return window

    yield open_one
    for window in opened:
        # A window that closes in the tidying-up has nothing to keep.
        window.store.forget()
        window.close()
        # Nothing comes back to an event loop here: without this every window of a run would live to its end.
        window.deleteLater()
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)


@pytest.fixture
def desk(open_window, whimbrel):
    """The window on the demo design."""
    return open_window(whimbrel)


def drag(widget, dx, dy, steps=5):
    """Drag a widget from its middle by some px, as a hand does."""
    start = widget.rect().center()
    QTest.mousePress(widget, Qt.MouseButton.LeftButton, pos=start)
    begun = widget.mapTo(widget.window(), start)
    for k in range(1, steps + 1):
        # The widget moves under the hand, so each place is taken in the window and mapped back.
        there = begun + QPoint(round(dx * k / steps), round(dy * k / steps))
        QTest.mouseMove(widget, widget.mapFrom(widget.window(), there))
        _move(widget, there)
    QTest.mouseRelease(widget, Qt.MouseButton.LeftButton, pos=widget.rect().center())
    QApplication.processEvents()


def _move(widget, there):
    from PySide6.QtCore import QEvent
    from PySide6.QtGui import QMouseEvent

    local = QPointF(widget.mapFrom(widget.window(), there))
    event = QMouseEvent(
        QEvent.Type.MouseMove,
        local,
        QPointF(widget.mapToGlobal(local.toPoint())),
        Qt.MouseButton.NoButton,
        Qt.MouseButton.LeftButton,
        Qt.KeyboardModifier.NoModifier,
    )
    QApplication.sendEvent(widget, event)


def type_into(field, text, enter=True):
    """Type over a field's text."""
    field.setFocus()
    QApplication.processEvents()
    field.selectAll()
    QTest.keyClicks(field, text)
    if enter:
        QTest.keyClick(field, Qt.Key.Key_Return)
    QApplication.processEvents()


def press(widget):
    """Press a widget with the left button."""
    QTest.mouseClick(widget, Qt.MouseButton.LeftButton)
    QApplication.processEvents()
