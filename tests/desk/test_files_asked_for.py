"""Every button that asks for a file: an answer is taken, none changes nothing, a bad file is refused in one line."""

import pytest
from PySide6.QtGui import QImage
from PySide6.QtWidgets import QApplication, QFileDialog

from conftest import press
from ridgeline.desk.notice import Notice
from ridgeline.engine.aero.sections import section
from ridgeline.files.design_file import load, save
from ridgeline.files.item_file import items_text
from ridgeline.files.section_file import section_text

BENCH = "throttle;voltage;current;rpm;thrust (g)\n0,5;11,5;6,2;8200;412\n1,0;11,0;15,1;11050;800\n"
PARTS = "# source: a drawer\nname,cells,capacity_mah,cell_resistance_mohm,mass_g\nOld pack,3,1300,8,110\n"
COEFFICIENTS = "J,CT,CP\n0,0.10,0.05\n0.3,0.08,0.048\n0.6,0.03,0.03\n0.8,-0.01,0.01\n"


@pytest.fixture
def answer(monkeypatch):
    """Return a function that says what the next file dialogs answer; it counts how often they were asked."""
    given, asked = [""], []

    def dialog(_parent, title, *_more):
        asked.append(title)
        return given[0], ""

    monkeypatch.setattr(QFileDialog, "getOpenFileName", dialog)
    monkeypatch.setattr(QFileDialog, "getSaveFileName", dialog)

    def say(place):
        given[0] = str(place)
        return asked

    return say


def readers(desk):
    """Return what reads a file: its sheet, what presses its button, and a good file's text."""
    whimbrel = load("demo:whimbrel")
    shape = section("flat_bottom").outline
    return {
        "items": ("weights", lambda s: press(s.read_button), items_text(whimbrel.parts[:2])),
        "section": ("shape.section", lambda s: press(s.read_button), section_text("Flat", shape, "round")),
        "bench": ("power.bench", lambda s: press(s.read_button), BENCH),
        "parts": ("power.bin", lambda s: press(s.read_button), PARTS),
        "coefficients": ("power", lambda s: s._ask_table(), COEFFICIENTS),
        "design": ("balance", lambda _s: desk.filing.choose_open(), None),
    }


READERS = ("items", "section", "bench", "parts", "coefficients", "design")


@pytest.mark.parametrize("name", READERS)
def test_a_file_asked_for_is_read_and_no_answer_changes_nothing(desk, answer, tmp_path, name):
    sheet, ask, text = readers(desk)[name]
    desk.open_sheet(sheet)
    before = desk.store.design
    asked = answer("")
    ask(desk.sheet)
    assert len(asked) == 1 and desk.store.design is before
    place = tmp_path / "given.txt"
    if text is None:
        place = save(load("demo:dunlin"), tmp_path / "given.ridge")
    else:
        place.write_text(text)
    answer(place)
    ask(desk.sheet)
    QApplication.processEvents()
    assert len(asked) == 2
    if name == "parts":
        assert [p.name for p in desk.sheet.own.packs] == ["Old pack"]
    else:
        assert desk.store.design != before
        if name != "design":
            desk.store.undo()
            assert desk.store.design == before


@pytest.mark.parametrize("name", READERS)
@pytest.mark.parametrize("content", [b"", b"\x00\x01\xff\xfe" * 40, b"Dear club,\nthe seals are back.\n"])
def test_what_cannot_be_read_is_refused_in_one_line_and_nothing_changes(desk, answer, tmp_path, name, content):
    sheet, ask, _text = readers(desk)[name]
    desk.open_sheet(sheet)
    before = desk.store.design
    place = tmp_path / "given.txt"
    place.write_bytes(content)
    answer(place)
    ask(desk.sheet)
    assert desk.store.design is before
    assert isinstance(desk.notice, Notice) and desk.notice.isVisible() and "\n" not in desk.notice.words
    assert "given" in desk.notice.words or "No item" in desk.notice.words or "0 rows" in desk.notice.words


WRITERS = {
    "items": ("weights", lambda s, _w: press(s.write_button), "csv"),
    "round": ("shape.section", lambda s, _w: press(s.round_button), "dat"),
    "blocks": ("shape.section", lambda s, _w: press(s.blocks_button), "dat"),
    "design": ("balance", lambda _s, w: w.filing.save(), "ridge"),
}


@pytest.mark.parametrize("name", sorted(WRITERS))
def test_a_place_asked_for_is_written_to_and_said(desk, answer, tmp_path, name):
    sheet, ask, ending = WRITERS[name]
    desk.open_sheet(sheet)
    answer("")
    ask(desk.sheet, desk)
    assert not list(tmp_path.glob("made*"))
    place = tmp_path / f"made.{ending}"
    answer(place)
    ask(desk.sheet, desk)
    assert place.stat().st_size > 100 and "made" in desk.notice.words


@pytest.mark.parametrize("name", sorted(WRITERS))
def test_a_place_that_cannot_be_written_is_refused(desk, answer, tmp_path, name):
    sheet, ask, ending = WRITERS[name]
    desk.open_sheet(sheet)
    answer(tmp_path / "no such folder" / f"made.{ending}")
    ask(desk.sheet, desk)
    assert desk.notice.isVisible() and "made" in desk.notice.words and not list(tmp_path.glob("made*"))


def test_a_picture_is_asked_for_and_can_be_hidden_and_taken_out(desk, answer, tmp_path):
    answer("")
    desk.choose_picture("plan")
    assert desk.store.design.underlays == ()
    for act in (desk.scale_picture, desk.turn_picture, desk.remove_picture):
        act()
        assert "no picture under a view yet" in desk.notice.words
    place = tmp_path / "sketch.png"
    image = QImage(40, 30, QImage.Format.Format_RGB32)
    image.fill(0xFF8080)
    assert image.save(str(place))
    answer(place)
    desk.choose_picture("plan")
    assert desk.open_key == "shape" and desk.sheet.scale_tool.picking
    desk.turn_picture()
    assert not desk.store.design.underlays[0].shown
    desk.remove_picture()
    assert desk.store.design.underlays == ()


def test_recent_files_are_listed_and_opened_from_the_menu(desk, tmp_path):
    desk.filing.fill_recent(desk.recent)
    assert [a.text() for a in desk.recent.actions()] == ["none yet"]
    desk.store.save(tmp_path / "kept.ridge")
    desk.new()
    assert desk.open_key == "brief" and not desk.store.design.surfaces
    desk.filing.fill_recent(desk.recent)
    first = desk.recent.actions()[0]
    assert first.text() == "kept.ridge"
    first.trigger()
    assert desk.store.design.name == "Saltmarsh Whimbrel" and desk.open_key == "balance"
