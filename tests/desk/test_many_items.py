"""Two thousand items: what a drag touches and what it leaves alone, counted; and that nothing shown goes stale."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import drag
from ridgeline.desk.item_table import COLUMNS
from ridgeline.engine.weights import items as rows

COUNT = 2000


@pytest.fixture
def many(open_window, whimbrel):
    """The weights of a design with two thousand items more, the camera chosen."""
    lamps = tuple(
        whimbrel.parts[3].model_copy(
            update={
                "id": f"lamp{k}",
                "on": None,
                "name": f"Lamp {k}",
                "weighed": 0.0001,
                "sets": (),
                "x": 0.15 + 0.0002 * k,
                "y": 0.3 * (k % 7) / 7,
            }
        )
        for k in range(COUNT)
    )
    window = open_window(whimbrel.model_copy(update={"parts": (*whimbrel.parts, *lamps)}), first="weights")
    window.store.select("parts[3]")
    QApplication.processEvents()
    return window


def test_a_drag_reads_one_item_anew_and_keeps_the_picture_of_the_rest(many, monkeypatch):
    sheet, read = many.sheet, []
    sheet.grab()
    layer, original = sheet.discs._layer, rows._row
    monkeypatch.setattr(rows, "_row", lambda item, *more: read.append(item.name) or original(item, *more))
    before = many.store.report.value("balance.cg_x")
    drag(sheet.mass_side, 40, 0, steps=4)
    assert many.store.report.value("balance.cg_x") > before
    assert many.store.design.parts[3].name in read and not any(name.startswith("Lamp") for name in read)
    sheet.grab()
    assert sheet.discs._layer is layer


def test_a_drag_never_solves_the_lattice_nor_measures_the_shape(many):
    runs = dict(many.store._evaluate.runs)
    drag(many.sheet.mass_plan, 30, 10, steps=3)
    after = many.store._evaluate.runs
    for stage in ("lattice", "shape", "body_sizes", "clearances", "extents", "polar"):
        assert after[stage] == runs[stage], stage
    assert after["masses"] > runs["masses"]


def test_after_a_drag_the_sheet_looks_as_if_drawn_from_nothing(many):
    drag(many.sheet.mass_side, 35, -8, steps=4)
    kept = many.sheet.grab().toImage()
    many.sheet.discs._layer = None
    assert many.sheet.grab().toImage() == kept


def test_the_table_follows_when_the_hand_rests(many, qtbot):
    told = []
    many.sheet.model.dataChanged.connect(lambda *_where: told.append(True))
    drag(many.sheet.mass_side, 30, 0, steps=3)
    qtbot.waitUntil(lambda: bool(told), timeout=5000)
    aft = [column.header for column in COLUMNS].index("aft")
    shown = many.sheet.model.data(many.sheet.model.index(3, aft))
    assert shown == f"{1000 * many.store.design.parts[3].x:.0f}"


def test_another_disc_is_chosen_by_a_press_and_the_picture_made_anew(many):
    sheet = many.sheet
    sheet.grab()
    layer = sheet.discs._layer
    disc = next(d for d in sheet.discs.placed if d.index == 0)
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=QPoint(round(disc.x), round(disc.y)))
    QApplication.processEvents()
    assert many.store.spot().path == "parts[0]" and sheet.chosen == 0
    sheet.grab()
    assert sheet.discs._layer is not layer


def test_items_are_added_and_removed_among_two_thousand(many):
    count = len(many.store.design.parts)
    many.sheet.add_item()
    assert many.sheet.model.rowCount() == count + 1 and many.store.spot().path == f"parts[{count}]"
    many.sheet.remove_item()
    assert many.sheet.model.rowCount() == count
    many.store.undo()
    many.store.undo()
    assert len(many.store.design.parts) == count and not many.store.history.undo_label


def test_a_tail_with_two_thousand_items_on_it_moves_as_one(many):
    store = many.store
    store.put("surfaces[1].x", store.design.surfaces[1].x - 0.25, "Shorten")
    finding = next(f for f in store.report.findings if f.key == "tail.volume_h.low")
    remedy = next(r for r in finding.remedies if r.key == "more_arm_h")
    before = store.design
    store.apply_remedy(remedy)
    low, high = store.report.wanted["tail.volume_h"]
    assert low <= store.report.value("tail.volume_h") <= high
    moved = [a for a, b in zip(before.parts, store.design.parts, strict=True) if a.x != b.x]
    hung = [item for item in moved if item.on is not None]
    # What hangs on the tail needs no edit of its own.
    edited = [c for c in remedy.changes if c.path.startswith("parts")]
    assert hung and len(moved) >= len(edited) > 0
    store.undo()
    assert store.design == before
