"""The first touches of a newcomer in a real window: press, type, undo, arrows, tab; run as a script it exits 0.

What a window system decides (focus, activation, key routing) is not to be had offscreen.
"""

import os
import sys
import tempfile
from pathlib import Path

from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

sys.path.insert(0, str(Path(__file__).parent))
from conftest import press
from ridgeline.desk.app import prepare
from ridgeline.desk.store import Store
from ridgeline.desk.window import Window
from ridgeline.files.design_file import load

CTRL, SHIFT = Qt.KeyboardModifier.ControlModifier, Qt.KeyboardModifier.ShiftModifier


def press_at(field, share):
    """Press a field somewhere between its left and right end."""
    place = QPoint(int(2 + share * (field.width() - 5)), field.height() // 2)
    QTest.mouseClick(field, Qt.MouseButton.LeftButton, pos=place)
    QApplication.processEvents()


def keys(widget, key, modifier=Qt.KeyboardModifier.NoModifier, count=1):
    """Press a key some times, where the focus is."""
    for _ in range(count):
        QTest.keyClick(QApplication.focusWidget() or widget, key, modifier)
        QApplication.processEvents()


def value_pressed_typed_and_undone(window):
    """Press inside "850 g" in the active window, type 900, Enter, undo: back where it was."""
    store = window.store
    window.open_sheet("brief")
    field = window.sheet.fields["ceiling"]
    begun = store.design
    for share in (0.1, 0.5, 0.9):
        press_at(field, share)
        assert field.hasFocus() and field.selectedText() == field.text() == "850 g"
        QTest.keyClicks(field, "900")
        assert field.text() == "900"
        keys(window, Qt.Key.Key_Return)
        assert store.design.brief.ceiling == 0.9 and field.text() == "900 g"
        keys(window, Qt.Key.Key_Z, CTRL)
        assert store.design is begun and field.text() == "850 g", "undone while the field has the focus"
        window.sheet.setFocus()
    press_at(field, 0.2)
    press_at(field, 0.2)
    assert not field.hasSelectedText() and field.cursorPosition() < len(field.text())
    QTest.keyClicks(field, "7")
    assert field.isModified()
    keys(window, Qt.Key.Key_Z, CTRL)
    assert field.text() == "850 g" and store.design is begun, "what is being typed is undone in the field"
    window.sheet.setFocus()
    # Two edits, two presses of undo.
    press_at(field, 0.5)
    QTest.keyClicks(field, "900")
    keys(window, Qt.Key.Key_Return)
    QTest.keyClicks(field, "950 g")
    keys(window, Qt.Key.Key_Return)
    keys(window, Qt.Key.Key_Z, CTRL, 2)
    assert store.design is begun


def arrows_move_by_document_steps(window):
    """Twelve presses of Shift and an arrow move a tip by twelve millimetres, and are undone as one."""
    store = window.store
    window.open_sheet("shape")
    QApplication.processEvents()
    handle = window.sheet.handles[(0, 2, "te")]
    handle.setFocus()
    QApplication.processEvents()
    before, begun, steps = store.design.surfaces[0].stations[2], store.design, len(store.history.past)
    keys(window, Qt.Key.Key_Down, SHIFT, 12)
    after = store.design.surfaces[0].stations[2]
    assert abs(after.chord - before.chord - 0.012) < 1.5e-4, after.chord - before.chord
    assert len(store.history.past) == steps + 1
    keys(window, Qt.Key.Key_Z, CTRL)
    assert store.design is begun
    window.sheet.setFocus()
    handle.setFocus()
    keys(window, Qt.Key.Key_Down, count=1)
    assert abs(store.design.surfaces[0].stations[2].chord - before.chord - 0.005) < 1.5e-4
    window.sheet.setFocus()
    keys(window, Qt.Key.Key_Z, CTRL)
    assert store.design is begun


def tab_leaves_the_table(window):
    """Tab goes on from the table of items instead of walking its cells."""
    window.open_sheet("weights")
    table = window.sheet.table
    table.setFocus()
    table.selectRow(0)
    QApplication.processEvents()
    keys(window, Qt.Key.Key_Tab)
    assert QApplication.focusWidget() is not table


def a_mount_picked_on_the_shape_opens_the_power(window):
    """A press on a motor mount, then Alt+5: the motor's values are shown."""
    window.open_sheet("shape")
    window.store.select("power.mounts[0]")
    keys(window, Qt.Key.Key_5, Qt.KeyboardModifier.AltModifier)
    assert window.open_key == "power" and "power.motor.kv_rpm_per_v" in window.margin.dimensions.fields


def main():
    os.environ["RIDGELINE_DATA"] = tempfile.mkdtemp()
    app = prepare("light")
    window = Window(Store(load("demo:whimbrel")), first="brief")
    window.resize(1280, 800)
    window.show()
    QTest.qWaitForWindowExposed(window)
    # A bare X display has no window manager to hand the window its focus.
    window.activateWindow()
    QTest.qWaitForWindowActive(window, 2000)
    touches(window)
    print(f"first touches on {app.platformName()}")
    window.close()


def touches(window):
    """Try every first touch in turn."""
    for touch in (
        value_pressed_typed_and_undone,
        arrows_move_by_document_steps,
        tab_leaves_the_table,
        a_mount_picked_on_the_shape_opens_the_power,
    ):
        touch(window)
    press(window.trail)


if __name__ == "__main__":
    main()
