"""A season in a real window: the setup list signed, three flights logged by keys, a version compared and gone back to.

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

from conftest import type_into
from ridgeline.design.keeping import at, same_aircraft
from ridgeline.design.paths import apply
from ridgeline.desk.app import prepare
from ridgeline.desk.store import Store
from ridgeline.desk.window import Window
from ridgeline.engine.advice.benched import benched, noted
from ridgeline.files.design_file import from_text, load, to_text


def live():
    """Let the window live for a moment."""
    for _ in range(3):
        QApplication.processEvents()


def walked(window):
    """See every control go as it ought to, as the walk of the Radio writes it down."""
    here = benched(window.store.design, window.store.report.results.linking)
    day = "2026-11-27"
    for k, stick, way in here.asks():
        window.store.edit([noted(window.store.design, here.outputs[k], stick, way, day)], "Walk")


def signed(window):
    """Sign the list line by line by the keys of the sheet; the propeller's line waits for those before it."""
    refused = []
    window.store.refused.connect(refused.append)
    window.open_sheet("flights.setup")
    sheet = window.sheet
    live()
    rows = sheet.list.rows
    propeller = next(k for k, row in enumerate(rows) if row.lines[0].key == "propeller")
    sheet.list.choose(propeller)
    QTest.keyClick(sheet.list, Qt.Key.Key_Space)
    assert len(refused) == 1 and not window.store.design.signed
    walked(window)
    for k in range(len(sheet.list.rows)):
        line = sheet.list.rows[k].lines[0]
        if line.walked is not None:
            continue
        sheet.list.setFocus()
        sheet.list.choose(k)
        QTest.keyClick(sheet.list, Qt.Key.Key_Space)
        if line.quantity:
            live()
            unit = window.store.units[line.quantity]
            middle = (line.low + line.high) / 2 * unit.factor
            type_into(sheet.reading, f"{middle:.3f}")
    live()
    assert all(row.state == "done" for row in sheet.list.rows) and len(refused) == 1
    assert any("Set up and signed" in str(finding.text) for finding in window.store.findings)
    sheet.grab()


def three_logged(window):
    """Log three flights by keys alone: N, the minutes, Tab, the charge, Tab, and what was seen by its letters."""
    window.open_sheet("flights")
    sheet = window.sheet
    live()
    for minutes, charge, letters in (("4.0", "350", "d"), ("9.5", "840", "nn"), ("6.0", "530", "s")):
        sheet.setFocus()
        QTest.keyClick(sheet, Qt.Key.Key_N)
        live()
        field = window.focusWidget()
        QTest.keyClicks(field, minutes)
        QTest.keyClick(field, Qt.Key.Key_Tab)
        live()
        field = window.focusWidget()
        QTest.keyClicks(field, charge)
        QTest.keyClick(field, Qt.Key.Key_Return)
        sheet.seen.setFocus()
        for letter in letters:
            QTest.keyClicks(sheet.seen, letter)
        QTest.keyClick(sheet.seen, Qt.Key.Key_Space)
        live()
    flights = window.store.design.flights
    assert [flight.aloft for flight in flights] == [240.0, 570.0, 360.0]
    assert [flight.put_back_ah for flight in flights] == [0.35, 0.84, 0.53]
    assert all(len(flight.seen) == 1 for flight in flights)
    assert len(window.store.design.versions) == 1 and window.store.design.versions[0].kept == "flown"
    assert "20 min in 3 flights" in sheet.subtitle()
    sheet.grab()


def compared_and_back(window):
    """Change the wing, keep it, compare it with what flew, and go back; nothing is lost."""
    flown = window.store.design
    window.store.put("surfaces[0].stations[1].chord", 0.165, "Tip")
    window.store.put("parts[0].weighed", window.store.design.parts[0].estimate or 0.1, "Weigh")
    first = flown.revision
    window.open_sheet("flights")
    sheet = window.sheet
    live()
    QTest.keyClick(sheet, Qt.Key.Key_K)
    live()
    changed = window.store.design
    assert [version.number for version in changed.versions] == [first, first + 1]
    sheet.strip.setFocus()
    QTest.keyClick(sheet.strip, Qt.Key.Key_Return)
    live()
    leaf = window.sheet
    assert window.open_key == "flights.versions" and leaf.pair == (first, first + 1)
    assert {"wing.area", "speed.stall"} <= {pair.key for pair in leaf.found.figures}
    leaf.grab()
    cell = leaf.strip.rect()
    QTest.mouseClick(leaf.strip, Qt.MouseButton.LeftButton, pos=QPoint(cell.width() // 4, cell.height() // 2))
    live()
    assert leaf.strip.chosen == first
    QTest.mouseClick(leaf.back_button, Qt.MouseButton.LeftButton)
    live()
    back = window.store.design
    assert back.surfaces == flown.surfaces and back.flights == changed.flights and back.revision == first + 2
    assert same_aircraft(at(back, first + 1), changed)
    assert from_text(to_text(back), "x") == back
    window.store.undo()
    assert window.store.design == changed


def fly_the_season(window):
    """Go the whole way."""
    signed(window)
    three_logged(window)
    compared_and_back(window)


def main():
    """Open a window of its own and do it there."""
    os.environ["RIDGELINE_DATA"] = tempfile.mkdtemp()
    app = prepare("light")
    window = Window(Store(apply(load("demo:whimbrel"), ()), keep=False), first="shape")
    window.resize(1280, 800)
    window.show()
    window.activateWindow()
    QTest.qWaitForWindowActive(window, 5000)
    fly_the_season(window)
    print(f"a season on {app.platformName()}")
    window.store.forget()
    window.close()


if __name__ == "__main__":
    main()
