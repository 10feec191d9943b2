"""The Sheets leaf: pieces laid while the window stays live, pressed, dragged, typed and written into a folder."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from shapely import Point

from conftest import press, type_into
from ridgeline.design.document import Design
from ridgeline.design.paths import put
from ridgeline.desk.stops import STOP, headline
from ridgeline.engine.templates.nesting import faults
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names


@pytest.fixture
def leaf(open_window):
    """Return a function that opens the sheets of a sample, all pieces laid."""

    def at(name="whimbrel", design=None, **more):
        window = open_window(design or load(f"demo:{name}"), first="templates", **more)
        sheet = window.sheets["templates"]
        sheet.finish_now()
        sheet.grab()
        return window, sheet

    return at


def spot_of(sheet, key):
    """Return where a piece is drawn, px."""
    for frame, scale, k in sheet._frames:
        for one in sheet.found.sheets[k].laid:
            if one.pattern.key == key:
                inside = one.shape().representative_point()
                return QPoint(round(frame.left() + inside.x * scale), round(frame.bottom() - inside.y * scale))
    raise LookupError(key)


@pytest.mark.parametrize("name", sorted(gallery_names()))
@pytest.mark.parametrize("size", [(1280, 800), (1100, 700)])
def test_every_sample_is_laid_out_and_drawn(leaf, caplog, name, size):
    window, sheet = leaf(name, size=size)
    assert sheet.subtitle() and not sheet.laying.busy
    assert not faults(sheet.found, window.store.design.cutting)
    if sheet.found.sheets:
        assert "sheet" in sheet.subtitle() and "pieces of board" in headline(window.store, STOP["templates"])
    assert not caplog.records


def test_it_is_laid_out_as_the_event_loop_goes_and_anew_after_an_edit(open_window, qtbot):
    window = open_window(load("demo:whimbrel"), first="templates")
    sheet = window.sheets["templates"]
    assert sheet.laying.busy and "laying" in sheet.subtitle()
    qtbot.waitUntil(lambda: not sheet.laying.busy, timeout=20000)
    before = sheet.found
    window.store.put("brief.ceiling", 0.9, "Ceiling")
    assert not sheet.laying.busy and sheet.found is before, "nothing of it hangs on the ceiling"
    window.store.put("surfaces[0].stations[0].chord", 0.19, "Chord")
    assert sheet.laying.busy
    sheet.finish_now()
    assert sheet.found is not before


def test_a_piece_is_pressed_and_shown_large(leaf):
    _window, sheet = leaf()
    first = sheet.shown[0].pattern.key
    other = next(one.pattern.key for one in sheet.found.sheets[1].laid)
    before = sheet.grab().toImage()
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=spot_of(sheet, other))
    QApplication.processEvents()
    assert sheet.shown[0].pattern.key == other != first and sheet.shown[1] == 1
    assert sheet.grab().toImage() != before
    assert sheet.laid_at(QPoint(2, 2).toPointF()) is None


def test_a_piece_is_dragged_and_the_others_make_room(leaf):
    window, sheet = leaf()
    store = window.store
    key = sheet.found.sheets[2].laid[0].pattern.key
    start = spot_of(sheet, key)
    QTest.mousePress(sheet, Qt.MouseButton.LeftButton, pos=start)
    for k in range(1, 6):
        QTest.mouseMove(sheet, start + QPoint(12 * k, -8 * k))
        QApplication.processEvents()
    sheet.grab()
    QTest.mouseRelease(sheet, Qt.MouseButton.LeftButton, pos=start + QPoint(60, -40))
    QApplication.processEvents()
    (laid,) = store.design.cutting.laid
    assert laid.piece == key and laid.sheet == 2
    sheet.finish_now()
    mine = next(one for one in sheet.found.sheets[2].laid if one.pattern.key == key)
    assert (mine.x, mine.y) == pytest.approx((laid.x, laid.y))
    there = Point((start.x() + 60 - sheet._frames[2][0].left()) / sheet.scale,
                  (sheet._frames[2][0].bottom() - start.y() + 40) / sheet.scale)  # fmt: skip
    assert mine.shape().buffer(0.004).contains(there)
    dict(sheet.selection().acts)["Lay all anew"]()
    assert store.design.cutting.laid == ()


def test_kerf_sheets_and_grain_are_typed(leaf):
    window, sheet = leaf()
    store = window.store
    fields = window.margin.dimensions.fields
    type_into(fields["cutting.kerf"], "0.4 mm")
    type_into(fields["cutting.sheets[0].length"], "1000 mm")
    sheet.finish_now()
    assert store.design.cutting.kerf == pytest.approx(0.0004) and len(sheet.found.sheets) < 5
    next(row for row in sheet.selection().rows if row.label == "Pieces lie").choose("any")
    assert store.design.cutting.grain is False
    type_into(window.margin.dimensions.fields["cutting.sheets[0].count"], "1")
    sheet.finish_now()
    assert "on none of them" in sheet.subtitle()
    sheet.grab()


def test_files_are_written_into_a_folder_and_a_bad_one_is_refused(leaf, monkeypatch, tmp_path):
    window, sheet = leaf()
    said, refused = [], []
    window.store.noted.connect(said.append)
    window.store.refused.connect(refused.append)
    ask = "ridgeline.desk.sheets.templates.strip.QFileDialog.getExistingDirectory"
    monkeypatch.setattr(ask, lambda *_a: str(tmp_path / "out"))
    for cell in sheet.strip.cells:
        press(cell)
    assert len(said) == 8 and not refused
    suffixes = sorted(path.suffix for path in (tmp_path / "out").iterdir())
    assert suffixes == [".3mf", *[".csv"] * 5, *[".dxf"] * 5, *[".pdf"] * 3, *[".stl"] * 7, *[".svg"] * 6]
    press(sheet.strip.cells[0])
    assert "is there already" in str(refused[-1])
    (tmp_path / "file").write_text("x", "utf-8")
    monkeypatch.setattr(ask, lambda *_a: str(tmp_path / "file" / "in"))
    press(sheet.strip.cells[0])
    assert len(refused) == 2
    monkeypatch.setattr(ask, lambda *_a: "")
    press(sheet.strip.cells[0])
    assert len(refused) == 2 and len(said) == 8


def test_what_has_no_board_and_an_empty_design_say_so(leaf, open_window, caplog):
    _window, sheet = leaf("dunlin")
    assert sheet.subtitle() == "no piece is cut from sheet"
    window = open_window(Design(), first="templates")
    window.sheets["templates"].grab()
    assert headline(window.store, STOP["templates"]) == "not laid out"
    bare = put(load("demo:whimbrel"), "surfaces[0].built", None)
    assert leaf(design=bare)[1].found is not None
    assert not caplog.records
