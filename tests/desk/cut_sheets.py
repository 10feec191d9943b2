"""Templates in a real window: pieces laid as the window lives, dragged, turned, packed and stopped, written out.

Run as a script it exits 0.
"""

import os
import sys
import tempfile
from pathlib import Path

from PySide6.QtCore import QDeadlineTimer, QEventLoop, QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QFileDialog

sys.path.insert(0, str(Path(__file__).parent))

from conftest import press
from ridgeline.desk.app import prepare
from ridgeline.desk.store import Store
from ridgeline.desk.window import Window
from ridgeline.engine.templates.nesting import faults
from ridgeline.files.design_file import load


def until(told, most=30000):
    """Let the window live until something is so, or for so long, ms."""
    deadline = QDeadlineTimer(most)
    while not told():
        assert not deadline.hasExpired()
        QApplication.processEvents(QEventLoop.ProcessEventsFlag.AllEvents, 20)


def laid(window):
    """Open the sheets: the pieces lie, none on another, while the window goes on."""
    window.open_sheet("templates")
    sheet = window.sheet
    until(lambda: sheet.found is not None and not sheet.laying.busy)
    assert not sheet.found.left and not faults(sheet.found, window.store.design.cutting)
    sheet.grab()
    return sheet


def spot_of(sheet, key):
    """Return where a piece is drawn, px."""
    for frame, scale, k in sheet._frames:
        for one in sheet.found.sheets[k].laid:
            if one.pattern.key == key:
                inside = one.shape().representative_point()
                return QPoint(round(frame.left() + inside.x * scale), round(frame.bottom() - inside.y * scale))
    raise LookupError(key)


def piece_dragged(window, sheet):
    """Drag a piece: it stays where it was let go, and undo puts it back."""
    key = sheet.found.sheets[2].laid[0].pattern.key
    start = spot_of(sheet, key)
    QTest.mousePress(sheet, Qt.MouseButton.LeftButton, pos=start)
    for k in range(1, 6):
        QTest.mouseMove(sheet, start + QPoint(12 * k, -8 * k))
        QApplication.processEvents()
    QTest.mouseRelease(sheet, Qt.MouseButton.LeftButton, pos=start + QPoint(60, -40))
    until(lambda: not sheet.laying.busy)
    assert [one.piece for one in window.store.design.cutting.laid] == [key]
    assert not faults(sheet.found, window.store.design.cutting)
    window.store.undo()
    until(lambda: not sheet.laying.busy)
    assert window.store.design.cutting.laid == ()


def packed_and_stopped(window, sheet):
    """Pack tighter, and leave off: the window answers all the while, and nothing has moved."""
    before = window.store.design
    dict(sheet.selection().acts)["Pack tighter"]()
    until(lambda: sheet.laying.packing and sheet.laying.progress >= 0)
    assert "packing" in sheet.subtitle()
    QTest.keyClick(sheet, Qt.Key.Key_Escape)
    assert not sheet.laying.busy and window.store.design is before


def written(window, sheet, folder):
    """Write every kind into a folder; a folder that cannot be is refused and leaves nothing."""
    refused = []
    window.store.refused.connect(refused.append)
    kept = QFileDialog.getExistingDirectory
    try:
        QFileDialog.getExistingDirectory = lambda *_a: str(folder / "out")
        for cell in sheet.strip.cells:
            press(cell)
        assert not refused and len(list((folder / "out").iterdir())) > 20
        (folder / "file").write_text("x", "utf-8")
        QFileDialog.getExistingDirectory = lambda *_a: str(folder / "file" / "in")
        press(sheet.strip.cells[0])
        assert len(refused) == 1 and (folder / "file").read_text("utf-8") == "x"
    finally:
        QFileDialog.getExistingDirectory = kept


def leaves_turned(window):
    """Turn the leaves: parts are pressed, and a step of the order."""
    window.open_sheet("templates.prints")
    sheet = window.sheet
    sheet.grab()
    cell, part = sheet._cells[-1]
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=cell.center().toPoint())
    assert sheet.shown.key == part.key
    window.open_sheet("templates.lists")
    sheet = window.sheet
    sheet.grab()
    row, step = sheet._rows[5]
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=row.center().toPoint())
    assert sheet.shown.key == step.key


def cut_the_sheets(window, folder):
    """Go the whole way."""
    sheet = laid(window)
    piece_dragged(window, sheet)
    packed_and_stopped(window, sheet)
    written(window, sheet, folder)
    leaves_turned(window)


def main():
    """Open a window of its own and do it there."""
    os.environ["RIDGELINE_DATA"] = tempfile.mkdtemp()
    app = prepare("light")
    window = Window(Store(load("demo:whimbrel"), keep=False), first="shape")
    window.resize(1280, 800)
    window.show()
    QTest.qWaitForWindowActive(window, 5000)
    cut_the_sheets(window, Path(tempfile.mkdtemp()))
    print(f"cut sheets on {app.platformName()}")
    window.store.forget()
    window.close()


if __name__ == "__main__":
    main()
