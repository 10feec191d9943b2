"""Controls linked, in a real window: a horn's hole dragged, an arm clocked, two ways out pressed.

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
from hands import Hands

from conftest import drag, type_into
from ridgeline.desk.app import prepare
from ridgeline.desk.store import Store
from ridgeline.desk.window import Window
from ridgeline.engine.advice.benched import WALKED
from ridgeline.files.design_file import load


def horn_dragged(window):
    """Drag the horn's hole nearer to the hinge: the servo bears more, and undo takes it back."""
    store = window.store
    window.open_sheet("controls")
    before, share = store.design, window.sheet.row.share
    drag(window.sheet.horn_handle, 0, -round(window.sheet.scale * 0.006))
    assert store.design.linkages[0].horn < before.linkages[0].horn and window.sheet.row.share > share
    store.undo()
    assert store.design is before


def arm_clocked(window):
    """Clock the arm ahead: up and down no longer take the same travel."""
    drag(window.sheet.tooth_handle, -24, 0)
    channel = window.sheet.row.sides[0].channel
    assert window.store.design.linkages[0].clocked > 0 and abs(channel.high - channel.low) > 0.05
    window.store.undo()


def ways_out_pressed(window):
    """Ask for more throw than its holes give, and for a servo that can do it; press what is offered."""
    store = window.store
    type_into(window.margin.dimensions.fields["surfaces[0].controls[0].up"], "38°")
    told = next(f for f in store.report.findings if f.key == "controls.throw.c26")
    assert told.level == "look"
    hands = Hands(window)
    assert hands.remedy("controls.throw.c26")
    assert not [f for f in store.report.findings if f.key == "controls.throw.c26"]
    store.put("radio.channels[1].reversed", not store.design.radio.channels[1].reversed, "Turned over")
    wrong = next(f for f in store.report.findings if f.key == "controls.way.c26")
    assert wrong.level == "stop"
    assert hands.remedy("controls.way.c26")
    assert not [f for f in store.report.findings if f.key.startswith("controls.way")]


def walked_and_repaired(window):
    """Walk round an aircraft whose port aileron goes the wrong way: it is told, reversed by one press, walked again."""
    store = window.store
    window.open_sheet("controls.radio")
    sheet = window.sheet
    QTest.mouseClick(sheet.walk_button, Qt.MouseButton.LeftButton)
    while sheet.asking:
        asked, here = sheet.asking[0].cell, sheet.here
        way = 0
        if asked.stick in WALKED and asked.output >= 0:
            way = int(here.wanted[asked.output, WALKED.index(asked.stick)])
            way = -way if here.outputs[asked.output].name == "port aileron" else way
        k = next(k for k, (_words, told) in enumerate(sheet.asking[0].answers) if told == way)
        QTest.mouseClick(sheet.answer_buttons[k], Qt.MouseButton.LeftButton)
    assert next(f for f in store.report.findings if f.key == "controls.walk.wrong").level == "stop"
    reversed_ = store.design.radio.channels[1].reversed
    assert Hands(window).remedy("controls.walk.wrong")
    assert store.design.radio.channels[1].reversed != reversed_
    assert not [f for f in store.report.findings if f.key in ("controls.walk.wrong", "controls.way.c26")]
    QTest.mouseClick(sheet.walk_button, Qt.MouseButton.LeftButton)
    while sheet.asking:
        asked = sheet.asking[0].cell
        way = int(sheet.here.wanted[asked.output, WALKED.index(asked.stick)]) if asked.stick in WALKED else 0
        sheet.answer(way if asked.output >= 0 else 0)
    told = next(f for f in store.report.findings if f.key == "controls.walk.seen")
    assert str(told.text).startswith("All ")


def link_it(window):
    """Do all of it, one after another."""
    for step in (horn_dragged, arm_clocked, ways_out_pressed, walked_and_repaired):
        step(window)
        QApplication.processEvents()


def main():
    """Open a window of its own and do it there."""
    os.environ["RIDGELINE_DATA"] = tempfile.mkdtemp()
    app = prepare("light")
    window = Window(Store(load("demo:whimbrel"), keep=False), first="controls")
    window.resize(1280, 800)
    window.show()
    QTest.qWaitForWindowActive(window, 5000)
    link_it(window)
    print(f"a linked wing on {app.platformName()}")
    window.store.forget()
    window.close()


if __name__ == "__main__":
    main()
