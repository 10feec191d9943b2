"""The Sheets leaf: pieces laid while the window stays live, pressed, dragged, typed and written into a folder."""

import math

import pytest
from cut_sheets import spot_of
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from shapely import Point

from conftest import press, type_into
from ridgeline.design.cutting import SheetStock
from ridgeline.design.document import Design
from ridgeline.design.paths import put
from ridgeline.desk.sheets.templates.strip import sized
from ridgeline.desk.stops import STOP, headline
from ridgeline.engine.templates.nesting import Nested, faults
from ridgeline.engine.templates.packing import Packing
from ridgeline.files.design_file import load
from ridgeline.files.sheet_pdf import tiles_of
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


# -- turned, packed, and where it sits --------------------------------------------------------------------------------


def test_a_piece_is_turned_by_key_about_its_middle(leaf):
    window, sheet = leaf()
    one, k = sheet.shown
    middle = one.shape().envelope.centroid
    QTest.keyClick(sheet, Qt.Key.Key_T)
    (laid,) = window.store.design.cutting.laid
    assert laid.piece == one.pattern.key and abs(abs(laid.turn - one.turn) - math.pi) < 1e-9
    sheet.finish_now()
    mine = next(o for o in sheet.found.sheets[k].laid if o.pattern.key == one.pattern.key)
    assert mine.shape().envelope.centroid.distance(middle) < 1e-4
    before = sheet.shown[0].pattern.key
    QTest.keyClick(sheet, Qt.Key.Key_Right)
    assert sheet.shown[0].pattern.key != before
    QTest.keyClick(sheet, Qt.Key.Key_Left)
    assert sheet.shown[0].pattern.key == before


def test_sheets_are_packed_tighter_and_kept_as_laid_by_hand(leaf, monkeypatch):
    window, sheet = leaf("stint")
    said = []
    window.store.noted.connect(said.append)
    assert "Pack tighter" in dict(sheet.selection().acts)
    gained = sheet.found

    class Tighter(Packing):
        """A packer that lays every piece where it lay, and says it gained."""

        def steps(self):
            yield 0.5
            self._best = Nested(gained.sheets, ())

    monkeypatch.setattr("ridgeline.desk.sheets.templates.laying.Packing", Tighter)
    dict(sheet.selection().acts)["Pack tighter"]()
    assert sheet.laying.packing and "packing tighter" in sheet.subtitle()
    assert "Stop packing" in dict(sheet.selection().acts)
    sheet.laying.finish_now()
    assert len(window.store.design.cutting.laid) == sum(len(s.laid) for s in gained.sheets)
    assert said and said[-1].startswith("Packed tighter")
    window.store.undo()
    assert window.store.design.cutting.laid == ()
    sheet.finish_now()
    dict(sheet.selection().acts)["Pack tighter"]()
    QTest.keyClick(sheet, Qt.Key.Key_Escape)
    assert not sheet.laying.busy and window.store.design.cutting.laid == ()


def test_where_a_piece_sits_is_drawn_over_the_aircraft(leaf):
    _window, sheet = leaf()
    spots = sheet.where.spots
    assert spots is not None and len(spots) == len(sheet.shown[0].pattern.outline)
    other = next(one.pattern.key for s in sheet.found.sheets for one in s.laid if one.pattern.key.endswith("1p"))
    sheet.choose(other)
    sheet.grab()
    assert abs(sheet.where.spots.mean(axis=0)[0] - spots.mean(axis=0)[0]) > 5
    aid = next(one.pattern.key for s in sheet.found.sheets for one in s.laid if "card" in one.pattern.key)
    sheet.choose(aid)
    sheet.grab()
    assert sheet.where.spots is None


def test_the_strip_tells_how_large_each_file_is(leaf, open_window):
    _window, sheet = leaf()
    assert {cell.told for cell in sheet.strip.cells} == {"…"}
    sheet.laying.weigh_now()
    told = {cell.text(): cell.told for cell in sheet.strip.cells}
    assert told["DXF"].endswith("kB in 5") and told["STL"].endswith("kB in 7") and told["3MF"].endswith(" kB")
    assert sized(1, 1_234_567) == "1.2 MB" and sized(3, 40) == "0 kB in 3"
    printed = open_window(load("demo:dunlin"), first="templates.prints").sheet
    printed.laying.weigh_now()
    told = {cell.text(): cell.told for cell in printed.strip.cells}
    assert told["DXF"] == "none" and told["STL"].endswith("MB in 21")


def test_pages_are_told_and_shown_over_the_sheets_while_a_hand_rests_on_them(leaf):
    _window, sheet = leaf()
    cells = {cell.text(): cell for cell in sheet.strip.cells}
    assert cells["PDF 1:1"].pages == "5 pages" and cells["DXF"].pages == ""
    assert cells["PDF on A4"].pages == f"{1 + len(list(tiles_of(sheet.found, 'a4')))} pages"
    before = sheet.grab().toImage()
    cells["PDF on A4"].rested.emit("tiles")
    assert sheet.previewed == "tiles" and sheet.grab().toImage() != before
    cells["PDF on A4"].rested.emit("")
    assert sheet.grab().toImage() == before


# -- prints -----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("name", sorted(gallery_names()))
def test_every_sample_s_parts_are_listed_and_drawn(open_window, caplog, name):
    window = open_window(load(f"demo:{name}"), first="templates.prints", size=(1100, 700))
    sheet = window.sheet
    sheet.grab()
    assert sheet.shown is sheet.parts[0] and "parts" in sheet.subtitle() and "h" in sheet.subtitle()
    keys = [sheet.shown.key]
    for _ in sheet.parts[1:]:
        QTest.keyClick(sheet, Qt.Key.Key_Right)
        sheet.grab()
        keys.append(sheet.shown.key)
    assert keys == [one.key for one in sheet.parts] and not caplog.records


def test_a_smaller_bed_cuts_panels_into_more_and_says_what_is_too_large(open_window):
    window = open_window(load("demo:dunlin"), first="templates.prints")
    sheet = window.sheet
    before = len(sheet.parts)
    type_into(window.margin.dimensions.fields["printer.height"], "120 mm")
    assert len(sheet.parts) > before
    type_into(window.margin.dimensions.fields["printer.width"], "60 mm")
    type_into(window.margin.dimensions.fields["printer.depth"], "60 mm")
    assert "larger than the bed" in sheet.subtitle()
    sheet.grab()
    window.store.undo()
    sheet.grab()


def test_a_part_is_pressed_in_the_row_and_in_the_list(open_window):
    sheet = open_window(load("demo:dunlin"), first="templates.prints").sheet
    sheet.grab()
    for index in (3, -2):
        cell, part = sheet._cells[index]
        QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=cell.center().toPoint())
        assert sheet.shown.key == part.key
        sheet.grab()


def test_an_empty_design_has_nothing_to_print_or_to_list(open_window, caplog):
    for key in ("templates.prints", "templates.lists"):
        sheet = open_window(Design(), first=key).sheet
        sheet.grab()
        assert sheet.selection().rows == ()
    assert not caplog.records


# -- lists ------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("name", sorted(gallery_names()))
@pytest.mark.parametrize("size", [(1100, 700), (1920, 1080)])
def test_every_sample_is_listed(open_window, caplog, name, size):
    sheet = open_window(load(f"demo:{name}"), first="templates.lists", size=size).sheet
    sheet.laying.finish_now()
    sheet.grab()
    assert f"{len(sheet.steps)} steps" in sheet.subtitle() and not caplog.records
    assert len(sheet._rows) == len(sheet.steps), "every step has room"


def test_a_step_is_told_of_and_the_school_of_paint_is_chosen(open_window):
    window = open_window(load("demo:whimbrel"), first="templates.lists")
    sheet = window.sheet
    sheet.grab()
    row, step = sheet._rows[7]
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=row.center().toPoint())
    assert sheet.shown.key == step.key
    QTest.keyClick(sheet, Qt.Key.Key_Down)
    assert sheet.shown.key == sheet.steps[8].key
    before = len(sheet.steps)
    sheet.selection().rows[0].choose("whole")
    assert sheet.school == "whole" and len(sheet.steps) < before
    sheet.grab()


def test_a_splice_stands_among_the_joints_and_leads_to_its_working(open_window):
    design = put(load("demo:avocet"), "cutting.sheets", (SheetStock(width=0.6, length=0.45),))
    window = open_window(design, first="structure.joints")
    sheet = window.sheet
    sheet.grab()
    keys = [key for _rect, key in sheet._traced]
    assert "structure.splice_share" in keys
    window.store.put("cutting.sheets", (SheetStock(width=1.0, length=2.0),), "Large sheets")
    sheet.grab()
    assert "structure.splice_share" not in [key for _rect, key in sheet._traced]
