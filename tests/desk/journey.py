"""A whole plane by mouse and keys, from the Brief to the Power sheet, saved and opened again.

Run as a script on a real display it exits 0 when all of it worked; the tests run it offscreen and under Xvfb.
"""

import os
import sys
import tempfile
from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

sys.path.insert(0, str(Path(__file__).parent))
from conftest import drag, press, type_into
from ridgeline.design.document import Design
from ridgeline.desk.app import prepare
from ridgeline.desk.store import Store
from ridgeline.desk.window import Window
from ridgeline.files.design_file import load


def make_a_plane(window, path):
    """Make, shape, weigh, balance, power and save a plane, with a remedy tried; returns the design as saved."""
    store = window.store
    QTest.keyClick(window, Qt.Key.Key_1, Qt.KeyboardModifier.AltModifier)
    brief = window.sheet
    press(brief.purposes["sport"])
    assert store.design.brief.purpose == "sport"
    type_into(brief.fields["ceiling"], "28 oz")
    assert abs(store.design.brief.ceiling - 0.79379) < 1e-4
    loading = store.design.brief.wing_loading
    drag(brief.plot.point, -20, -15)
    assert store.design.brief.wing_loading < loading
    press(brief.lay_out_button)
    assert store.design.surfaces and store.design.power is not None
    type_into(window.title_block.name, "Mud Plover")

    QTest.keyClick(window, Qt.Key.Key_2, Qt.KeyboardModifier.AltModifier)
    shape = window.sheet
    tip = shape.handles[(0, 2, "te")]
    before = store.design.surfaces[0].stations[2]
    drag(tip, 12, 6)
    assert store.design.surfaces[0].stations[2].y > before.y
    chord = window.margin.dimensions.fields["surfaces[0].stations[2].chord"]
    type_into(chord, "5 1/2 in")
    assert abs(store.design.surfaces[0].stations[2].chord - 0.1397) < 1e-9

    QTest.keyClick(window, Qt.Key.Key_3, Qt.KeyboardModifier.AltModifier)
    weights = window.sheet
    weights.table.selectRow(1)
    QApplication.processEvents()
    type_into(window.margin.dimensions.fields["parts[1].weighed"], "14 g")
    assert store.design.parts[1].weighed == 0.014

    window.open_sheet("weights.weigh")
    session = window.sheet
    index = session.part_index
    session.settle()
    press(session.take_button)
    assert store.design.parts[index].weighed is not None and session.part_index != index

    QTest.keyClick(window, Qt.Key.Key_4, Qt.KeyboardModifier.AltModifier)
    balance = window.sheet
    x = next(p.x for p in store.design.parts if p.rail is not None)
    drag(balance.pack, -15, 0)
    assert next(p.x for p in store.design.parts if p.rail is not None) < x
    remedy = next(b for view in window.margin.findings.views for b in view.buttons)
    before = store.design
    press(remedy)
    assert store.design != before
    store.undo()
    assert store.design == before
    press(balance.levers[0])
    aim = store.report.value("balance.first_flight")
    assert abs(store.report.value("balance.cg_fraction") - aim) < 1e-6 or "its end" in store.history.undo_label

    QTest.keyClick(window, Qt.Key.Key_5, Qt.KeyboardModifier.AltModifier)
    power = window.sheet
    drag(power.throttle_handle, 30, 0)
    assert power.throttle is not None
    type_into(window.margin.dimensions.fields["power.motor.kv_rpm_per_v"], "1200")
    assert store.design.power.motor.kv_rpm_per_v == 1200

    window.open_sheet("power.match")
    match = window.sheet
    while match.searching:
        QApplication.processEvents()
    assert match.found.looked_at > 1000 and match.matches.rows
    QTest.mouseClick(match.matches, Qt.MouseButton.LeftButton, pos=match.matches.place_of(0).center().toPoint())
    if match.chosen.esc is not None:
        press(match.fit_button)
        assert store.history.undo_label.startswith("Fit ")

    window.open_sheet("power.bench")
    table = path.with_name("bench.csv")
    table.write_text("throttle (%);V;A;rpm;thrust (g)\n50;11,8;4;7000;300\nbad;1;1;1;1\n70;11,6;8;9000;500\n")
    window.sheet.read(str(table))
    assert len(store.design.power.bench) == 2 and "1 left out" in window.notice.words

    assert store.save(path)
    return store.design


def main():
    os.environ["RIDGELINE_DATA"] = tempfile.mkdtemp()
    app = prepare("light")
    window = Window(Store(Design()), first="brief")
    window.resize(1280, 800)
    window.show()
    QTest.qWaitForWindowExposed(window)
    # A bare X display has no window manager to hand the window its focus.
    window.activateWindow()
    QTest.qWaitForWindowActive(window, 2000)
    saved = make_a_plane(window, Path(os.environ["RIDGELINE_DATA"]) / "plover.ridge")
    assert load(Path(os.environ["RIDGELINE_DATA"]) / "plover.ridge") == saved
    assert window.open(Path(os.environ["RIDGELINE_DATA"]) / "plover.ridge") and window.store.design == saved
    picture = window.grab().toImage()
    colours = {picture.pixelColor(x, y).name() for x in range(0, 1280, 7) for y in range(0, 800, 7)}
    assert len(colours) > 8, "the window is blank"
    print(f"whole journey on {app.platformName()}")
    window.close()


if __name__ == "__main__":
    main()
