"""A wing made to bear, in a real window: the load factor dragged, a stock chosen by keys, a way out pressed.

Run as a script it exits 0.
"""

import os
import sys
import tempfile
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

sys.path.insert(0, str(Path(__file__).parent))
from conftest import drag, press
from ridgeline.desk.app import prepare
from ridgeline.desk.store import Store
from ridgeline.desk.window import Window
from ridgeline.files.design_file import load


def factor_dragged_up_until_it_breaks(window):
    """Drag the load factor up: the spar bears less than is asked, and undo takes the whole drag back."""
    store = window.store
    window.open_sheet("structure")
    before = store.design
    drag(window.sheet.factor_handle, 0, -40)
    first = store.design.loads.factor
    assert first > 4.5 and store.report.value("structure.load_factor") == first
    drag(window.sheet.factor_handle, 0, -60)
    assert store.design.loads.factor > first
    store.undo()
    store.undo()
    assert store.design is before
    store.redo()
    store.redo()
    assert any(f.key == "structure.wing" and f.level != "settled" for f in store.report.findings)


def stock_chosen_by_keys(window):
    """Walk down the list by arrows, see its ghost, fit it with Enter."""
    store = window.store
    window.open_sheet("structure.stock")
    stock = window.sheet.list
    stock.setFocus()
    QTest.keyClick(stock, Qt.Key.Key_Down)
    QApplication.processEvents()
    assert stock.chosen == 0 and store.ghost is not None
    chosen = stock.rows[0]
    assert chosen.holds
    QTest.keyClick(stock, Qt.Key.Key_Return)
    QApplication.processEvents()
    spar = store.design.surfaces[0].built.spars[0]
    assert (spar.material, spar.count) == (chosen.material.name, chosen.number)
    assert store.report.value("structure.wing_share") <= 1 and store.ghost is None


def way_out_pressed(window):
    """Press the first way out of ailerons that reverse too early."""
    store = window.store
    window.open_sheet("structure.twist")
    before = store.report.results.twisting.reversal
    press(window.sheet.buttons[0])
    assert store.report.results.twisting.reversal > 1.05 * before


def make_it_bear(window):
    """Do all of it."""
    factor_dragged_up_until_it_breaks(window)
    stock_chosen_by_keys(window)
    way_out_pressed(window)


def main():
    """Do it in a window of the platform at hand."""
    os.environ["RIDGELINE_DATA"] = tempfile.mkdtemp()
    app = prepare("light")
    window = Window(Store(load("demo:whimbrel")), first="structure")
    window.resize(1280, 800)
    window.show()
    QTest.qWaitForWindowActive(window, 5000)
    make_it_bear(window)
    print(f"a bearing wing on {app.platformName()}")
    window.store.forget()
    window.close()


if __name__ == "__main__":
    main()
