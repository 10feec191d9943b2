"""A throw in a real window: ghosts shown by keys, odds run and left off, a flight diagnosed, cured, and thrown better.

Run as a script it exits 0.
"""

import os
import sys
import tempfile
from pathlib import Path

from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

sys.path.insert(0, str(Path(__file__).parent))

from ridgeline.design.paths import put
from ridgeline.desk.app import prepare
from ridgeline.desk.store import Store
from ridgeline.desk.window import Window
from ridgeline.files.design_file import load


def live():
    """Let the window live for a moment."""
    for _ in range(3):
        QApplication.processEvents()


def season():
    """The season of the Whimbrel, thrown for three seconds."""
    return put(load("demo:season"), "first_throw.seconds", 3.0)


def thrown(window):
    """Throw it, and show ghosts by keys; return how high it ends."""
    window.open_sheet("flights.throw")
    sheet = window.sheet
    live()
    sheet.work.settle()
    live()
    assert sheet.work.current and sheet.plan.thrown is not None
    shown = sheet.shown
    sheet.ghosts.setFocus()
    place = sheet.ghosts.keys.index("fore")
    for _ in range(len(sheet.ghosts.keys)):
        QTest.keyClick(sheet.ghosts, Qt.Key.Key_Up)
    for _ in range(place):
        QTest.keyClick(sheet.ghosts, Qt.Key.Key_Down)
    QTest.keyClick(sheet.ghosts, Qt.Key.Key_Space)
    assert ("fore" in sheet.shown) != ("fore" in shown)
    sheet.grab()
    return sheet


def ends(sheet):
    """How high the plan ends."""
    return float(sheet.plan.thrown.path.height[-1, 0])


def odds(window):
    """Run the odds and leave them off by Escape; then by the button to the end."""
    sheet = window.sheet
    sheet.setFocus()
    QTest.keyClick(sheet, Qt.Key.Key_O)
    assert sheet.work.odd.busy
    live()
    QTest.keyClick(sheet, Qt.Key.Key_Escape)
    sheet.work.settle()
    live()
    assert sheet.work.odds_now is None and not sheet.work.odd.busy
    QTest.mouseClick(sheet.panel.fly_button, Qt.MouseButton.LeftButton)
    assert sheet.work.odd.busy
    # The window is alive while builds are flown.
    QTest.keyClick(sheet, Qt.Key.Key_P)
    live()
    held = window.store.design.first_throw.pilot
    QTest.keyClick(sheet, Qt.Key.Key_P)
    live()
    sheet.work.settle()
    live()
    assert held is True and window.store.design.first_throw.pilot is False
    QTest.mouseClick(sheet.panel.fly_button, Qt.MouseButton.LeftButton)
    sheet.work.settle()
    live()
    found = sheet.work.odds_now
    assert found is not None and 0 <= found.alone.well <= found.piloted.well <= 1
    sheet.grab()


def cured(window):
    """Be told what the flights said, take it in, put it right, and see the next throw the better for it."""
    window.open_sheet("flights.causes")
    leaf = window.sheet
    live()
    assert leaf.said.causes[0].cause.name == "balance" and leaf.list.chosen == 0
    leaf.grab()
    # The elevator stays as it was set on the bench for the balance that was reckoned.
    set_for = window.sheets["flights.throw"].plan.launch.held.pitch
    window.store.put("first_throw.trim", -float(set_for), "As set on the bench")
    live()
    before = window.store.design
    leaf.take()
    live()
    assert window.store.design.learnt.balance < -0.004
    worse = ends(thrown(window))
    window.open_sheet("flights.causes")
    live()
    leaf = window.sheet
    leaf.list.setFocus()
    leaf.list.choose(0)
    QTest.keyClick(leaf.list, Qt.Key.Key_Return)
    live()
    now = window.store.design
    assert now.parts != before.parts and len(now.learnt.taken) == 1
    better = ends(thrown(window))
    assert better > worse + 0.5
    assert window.sheet.work.before is not None
    window.open_sheet("flights.causes")
    live()
    window.sheet.take_back("balance")
    live()
    assert window.store.design.learnt.taken == () and window.store.design.learnt.balance is None


def press_a_ghost(window):
    """Press a ghost's line in the list."""
    sheet = window.sheet
    shown = sheet.shown
    QTest.mouseClick(sheet.ghosts, Qt.MouseButton.LeftButton, pos=QPoint(40, 8))
    assert sheet.shown != shown


def go(window):
    """Go the whole way."""
    thrown(window)
    press_a_ghost(window)
    odds(window)
    cured(window)


def main():
    """Open a window of its own and do it there."""
    os.environ["RIDGELINE_DATA"] = tempfile.mkdtemp()
    app = prepare("light")
    window = Window(Store(season(), keep=False), first="flights")
    window.resize(1280, 800)
    window.show()
    window.activateWindow()
    QTest.qWaitForWindowActive(window, 5000)
    go(window)
    print(f"a throw on {app.platformName()}")
    window.store.forget()
    window.close()


if __name__ == "__main__":
    main()
