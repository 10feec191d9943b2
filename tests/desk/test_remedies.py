"""Every way out, pressed where it stands: its ghost first, then its effect, then undone."""

import math

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import press
from ridgeline.design.parts import Item
from ridgeline.design.paths import put
from ridgeline.desk.paint import width_of
from ridgeline.desk.theme import LABEL

TROUBLES = {
    "over the ceiling": ("weights", [("brief.ceiling", 0.70)], "mass.over_ceiling"),
    "no reserve": ("weights", [("brief.ceiling", 0.73)], "mass.no_reserve"),
    "small tail": ("shape", [("surfaces[1].stations[1].y", 0.19), ("surfaces[1].controls", ())], "tail.volume_h.low"),
    "small fin": ("shape", [("surfaces[1].cant", 0.35)], "tail.volume_v.low"),
    "fast stall": ("shape", [("brief.stall_speed", 6.5)], "speed.stall.high"),
    "pointed wing": (
        "shape",
        [("surfaces[0].stations[2].chord", 0.07), ("surfaces[0].stations[2].twist", 0.0)],
        "speed.stall.tip",
    ),
    "tail heavy": (
        "balance",
        [("parts[-]", Item(name="Tail lamp", group="payload", x=0.85, estimate=0.03))],
        "balance.tail_heavy",
    ),
    "nose heavy": ("balance", [("parts[0].x", 0.12)], "balance.nose_heavy"),
    "hanging wing": ("balance", [("parts[3].y", 0.12)], "balance.sideways"),
    "little thrust": (
        "power",
        [("power.propeller.diameter", 0.1524), ("power.propeller.pitch", 0.1016)],
        "power.thrust_low",
    ),
    "much current": (
        "power",
        [("power.propeller.diameter", 0.33), ("power.propeller.pitch", 0.20)],
        "power.esc_current",
    ),
    "poor pack": ("power", [("power.pack.c_rating", 8.0)], "power.pack_current"),
    "heavy loading": ("brief", [("brief.wing_loading", 6.0)], "brief.loading"),
    "weak wish": ("brief", [("brief.thrust_ratio", 0.2)], "brief.thrust"),
    "heavy throw": ("brief", [("brief.ceiling", 4.0)], "brief.hand_launch"),
}


@pytest.mark.parametrize("trouble", sorted(TROUBLES))
def test_each_trouble_shows_its_ways_out_their_ghosts_and_is_eased_by_a_press(open_window, whimbrel, trouble):
    stop, edits, key = TROUBLES[trouble]
    design = whimbrel
    for path, value in edits:
        design = put(design, path, value)
    window = open_window(design, first=stop)
    store = window.store
    view = next(v for v in window.margin.findings.views if v.finding.key == key)
    assert view.finding.level in ("look", "stop") and view.buttons
    for index in range(len(view.buttons)):
        view = next(v for v in window.margin.findings.views if v.finding.key == key)
        button = view.buttons[index]
        button.rested.emit(True)
        assert store.ghost is not None and store.ghost[0] != store.design
        window.grab()
        button.rested.emit(False)
        assert store.ghost is None
        press(button)
        assert store.design != design and store.history.undo_label
        levels = {f.key: f.level for f in store.report.findings}
        changed = next((f for f in store.report.findings if f.key == key), None)
        assert levels.get(key, "settled") == "settled" or changed.text != view.finding.text
        store.undo()
        assert store.design == design


def test_a_way_out_says_its_price_on_its_button_and_none_is_cut_or_covered(open_window, whimbrel):
    window = open_window(put(whimbrel, "brief.ceiling", 0.70), first="weights")
    view = next(v for v in window.margin.findings.views if v.finding.key == "mass.over_ceiling")
    ways, bottom = view.finding.remedies, 0
    assert sum(way.price is not None for way in ways) >= 3
    for button, way in zip(view.buttons, ways, strict=True):
        assert button.accessibleName() == (f"{way.text}; {way.price}" if way.price else str(way.text))
        lines = 1 + (button.height() - 24) / 15
        said = [width_of(str(words), LABEL) for words in (way.text, way.price) if words]
        assert lines == int(lines) >= sum(math.ceil(wide / (button.width() - 22)) for wide in said)
        assert button.y() > bottom and button.width() < view.width()
        bottom = button.geometry().bottom()
    assert bottom < view.height()


def test_a_way_out_is_reached_and_pressed_by_keys_alone(desk):
    button = desk.margin.findings.views[0].buttons[0]
    button.setFocus(Qt.FocusReason.TabFocusReason)
    QApplication.processEvents()
    assert desk.store.ghost is not None
    QTest.keyClick(button, Qt.Key.Key_Space)
    QApplication.processEvents()
    assert desk.store.history.undo_label.startswith("Slide pack")


def test_findings_scroll_when_they_do_not_fit(open_window, whimbrel):
    design = put(put(whimbrel, "power.propeller.diameter", 0.28), "power.pack.c_rating", 8.0)
    window = open_window(design, first="power", size=(1100, 700))
    findings = window.margin.findings
    assert findings.height() > 300
    assert [v.finding.level for v in findings.views] == sorted(
        (v.finding.level for v in findings.views), key=["stop", "look", "settled"].index
    )


def test_the_margin_counts_what_stands_in_it(desk):
    for key in ("brief", "shape", "weights", "balance", "power"):
        desk.open_sheet(key)
        assert len(desk.margin.findings.views) == len(desk.margin.findings.of_stop())
        assert all(v.finding.stop == key for v in desk.margin.findings.views)


def test_switching_the_sheet_drops_a_ghost(desk):
    desk.margin.findings.views[0].buttons[0].rested.emit(True)
    assert desk.store.ghost is not None
    desk.open_sheet("shape")
    assert desk.store.ghost is None
