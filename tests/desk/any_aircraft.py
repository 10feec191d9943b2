"""A glider that is given a motor, and an aircraft drawn by hand, in a real window; run as a script it exits 0.

Both begin on a blank page and go by the command line, presses, typed values and drags.
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

from conftest import drag, press, type_into
from ridgeline.design.document import Design
from ridgeline.desk.app import prepare
from ridgeline.desk.store import Store
from ridgeline.desk.window import Window


def say(window, words):
    """Say a command: Ctrl+K, the words, Enter."""
    QTest.keyClick(window, Qt.Key.Key_K, Qt.KeyboardModifier.ControlModifier)
    line = window.bar.command
    assert QApplication.focusWidget() is line
    QTest.keyClicks(line, words)
    QTest.keyClick(line, Qt.Key.Key_Return)
    QApplication.processEvents()


def a_glider_is_given_a_motor(hands, path):
    """A sailplane without power, a hook and a second wing for it; then a power train as one step, and back."""
    window, store = hands.window, hands.store
    hands.brief(purpose="glider", propulsion="none", controls="aileron_elevator", ceiling="900 g", span_limit="2 m")
    hands.lay_out()
    assert store.design.power is None and not [f for f in store.report.findings if f.level == "stop"]
    say(window, "Tow hook")
    hook = next(k for k, part in enumerate(store.design.parts) if part.name == "Tow hook")
    hands.turn("weights")
    hands.pick(f"parts[{hook}]")
    hands.dim(f"parts[{hook}].name", "Bungee hook")
    hands.act("Duplicate")
    assert sum(part.group == "gear" for part in store.design.parts) == 2
    hands.act("Remove")
    assert [part.name for part in store.design.parts if part.group == "gear"] == ["Bungee hook"]
    glider = store.design
    hands.turn("power")
    press(window.sheet.add)
    assert store.design.power is not None and store.design.brief.propulsion == "electric"
    assert store.report.value("power.thrust_ratio") > 0.2
    store.undo()
    assert store.design == glider, "one step, taken back as one"
    store.redo()
    hands.settle()
    assert not [f for f in store.report.findings if f.level == "stop"]
    _kept(window, path)


def an_aircraft_is_drawn_by_hand(hands, path):
    """Wing, tail and body part by part; outline typed, kink, strip, a body's station dragged; then powered, scaled."""
    window, store = hands.window, hands.store
    for words in ("Wing", "Stabiliser", "Fin", "Fuselage", "Main wheels"):
        say(window, words)
    assert [s.role for s in store.design.surfaces] == ["wing", "stabiliser", "fin"]
    hands.outline(0, span="1200 mm", area="24 dm2", taper="0.75")
    leaf = window.sheet
    press(leaf.tips["rounded"])
    stations = len(store.design.surfaces[0].stations)
    press(leaf.kink)
    assert len(store.design.surfaces[0].stations) == stations + 1
    press(leaf.strip)
    assert store.design.surfaces[0].controls[-1].width is not None

    hands.turn("shape.body")
    before = store.design.bodies[0].stations[1]
    drag(window.sheet.handles[("body", 0, 1, "top")], 0, -18)
    assert store.design.bodies[0].stations[1].height > before.height
    hands.pick("bodies[0].stations[1]")
    press(window.sheet.adds)
    assert store.design.bodies[0].stations[2].x > before.x

    say(window, "Power train")
    hands.settle(most=20)
    assert not [f for f in store.report.findings if f.level == "stop"]
    assert store.design.power is not None and store.report.value("stability.static_margin") > 0

    span = store.report.value("wing.span")
    hands.turn("shape.scale")
    hands.type(window.sheet.fields["scale"], "110 %")
    press(window.sheet.go)
    assert abs(store.report.value("wing.span") / span - 1.1) < 1e-3
    _kept(window, path)


def _kept(window, path):
    """What was made is saved, and opens equal; every step of it can be taken back."""
    store = window.store
    type_into(window.title_block.name, path.stem)
    assert store.save(path)
    made = store.design
    while store.history.undo_label is not None:
        store.undo()
    assert store.design == Design()
    assert window.open(path) and store.design == made


JOURNEYS = {"Lookout Plover": a_glider_is_given_a_motor, "Breakwater Rail": an_aircraft_is_drawn_by_hand}


def main():
    os.environ["RIDGELINE_DATA"] = tempfile.mkdtemp()
    app = prepare("light")
    for name, journey in JOURNEYS.items():
        window = Window(Store(Design()), first="brief")
        window.resize(1280, 800)
        window.show()
        QTest.qWaitForWindowExposed(window)
        # A bare X display has no window manager to hand the window its focus.
        window.activateWindow()
        QTest.qWaitForWindowActive(window, 2000)
        journey(Hands(window), Path(os.environ["RIDGELINE_DATA"]) / f"{name}.ridge")
        window.close()
    print(f"any aircraft on {app.platformName()}")


if __name__ == "__main__":
    main()
