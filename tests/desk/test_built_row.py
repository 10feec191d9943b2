"""“Built as” on Sections and Weights, used by mouse and keys."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from ridgeline.desk.surface_edits import add_surface, duplicate_surface
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.sizing.wishes import brief_of
from ridgeline.library import shipped_shelf


@pytest.fixture(scope="module")
def trainer():
    return lay_out(brief_of({"purpose": "trainer", "ceiling": 0.8}), shipped_shelf())


def press(button):
    QTest.mouseClick(button, Qt.MouseButton.LeftButton)
    QApplication.processEvents()


def mass(window):
    return window.store.report.value("mass.auw")


def test_pressing_a_picture_builds_the_wing_that_way_in_one_step(open_window, trainer):
    window = open_window(trainer, first="shape.section")
    row, before = window.sheet.built, mass(window)
    assert row.form == "folded" and len(row.pictures) == 9
    told = row.pictures["plate"].accessibleName()
    assert told.startswith("built as Plate: ") and "lift limit 0.80" in told
    press(row.pictures["plate"])
    surface = window.store.design.surfaces[0]
    assert (surface.section, surface.built.form, row.form) == ("rounded_plate", "plate", "plate")
    assert mass(window) < before - 0.05
    window.store.undo()
    assert window.store.design == trainer and row.form == "folded"


def test_a_picture_is_reached_and_pressed_by_keys(open_window, trainer):
    window = open_window(trainer, first="shape.section")
    picture = window.sheet.built.pictures["stepped"]
    picture.setFocus()
    QTest.keyClick(picture, Qt.Key.Key_Space)
    assert window.store.design.surfaces[0].built.form == "stepped"


def test_the_section_picker_takes_the_construction_along(open_window, trainer):
    window = open_window(trainer, first="shape.section")
    press(window.sheet.forms["curved_sheet"])
    assert window.store.design.surfaces[0].built.form == "curved"
    press(window.sheet.forms["symmetrical"])
    assert window.store.design.surfaces[0].built.form == "ribbed"


def test_pictures_take_two_lines_where_they_would_be_too_narrow(open_window, trainer):
    for size, lines in (((1280, 800), 1), ((1100, 700), 2)):
        row = open_window(trainer, first="shape.section", size=size).sheet.built
        tops = {picture.y() for picture in row.pictures.values()}
        assert len(tops) == lines
        assert all(
            picture.width() >= 56 and picture.geometry().right() <= row.width() for picture in row.pictures.values()
        )
        assert row.geometry().bottom() < row.parentWidget().height() - 40


def test_weights_show_it_for_what_is_made_of_pieces_alone(open_window, trainer):
    window = open_window(trainer, first="weights")
    sheet = window.sheet
    shell = next(i for i, part in enumerate(trainer.parts) if part.name == "Fuselage")
    window.store.select(f"parts[{shell}]")
    QApplication.processEvents()
    assert sheet.built.isVisible() and sheet.built.form == "box"
    assert not sheet.built.geometry().intersects(sheet.table.geometry())
    before = mass(window)
    press(sheet.built.pictures["profile"])
    assert window.store.design.bodies[0].built.form == "profile" and mass(window) < before
    receiver = next(i for i, part in enumerate(trainer.parts) if part.name == "Receiver")
    window.store.select(f"parts[{receiver}]")
    QApplication.processEvents()
    assert not sheet.built.isVisible()


def test_papers_sheet_and_spar_are_typed_beside_it(open_window, trainer):
    window = open_window(trainer, first="weights")
    index = next(i for i, part in enumerate(trainer.parts) if part.name == "Wing panels")
    window.store.select(f"parts[{index}]")
    fields = window.margin.dimensions.fields
    assert "surfaces[0].built.board.peeled" in fields and "surfaces[0].built.strips" in fields
    spar = next(i for i, part in enumerate(trainer.parts) if part.name == "Wing spar")
    window.store.select(f"parts[{spar}]")
    assert "surfaces[0].built.spars[0].end" in window.margin.dimensions.fields
    glue = next(i for i, part in enumerate(trainer.parts) if part.build and part.build.pieces == "glue")
    window.store.select(f"parts[{glue}]")
    assert "surfaces[0].built.bead" in window.margin.dimensions.fields


def test_another_board_is_chosen_from_the_materials(open_window, trainer):
    window = open_window(trainer, first="weights")
    index = next(i for i, part in enumerate(trainer.parts) if part.name == "Wing panels")
    window.store.select(f"parts[{index}]")
    made_of = next(row for row in window.sheet.selection().rows if row.label == "Made of")
    made_of.choose("Extruded sheet 3 mm")
    surface = window.store.design.surfaces[0]
    assert surface.built.board.material == "Extruded sheet 3 mm" and surface.built.board.areal == pytest.approx(0.105)
    assert surface.sheet == pytest.approx(0.003) and not surface.built.board.faced
    assert window.store.design.parts[index].build.material == "Extruded sheet 3 mm"


def test_a_surface_added_or_doubled_brings_its_pieces(open_window, trainer):
    window = open_window(trainer, first="shape")
    before = mass(window)
    add_surface(window.store, "wing")
    one = mass(window)
    assert one > before + 0.05
    window.store.select("surfaces[0].stations[0]")
    duplicate_surface(window.store)
    assert mass(window) > one + 0.1


@pytest.mark.parametrize("name", ["whimbrel", "empty"])
def test_it_paints_for_a_design_that_does_not_say_how_it_is_built(open_window, by_items, name):
    window = open_window(by_items if name == "whimbrel" else None, first="shape.section")
    row = window.sheet.built
    assert row.form == "" and bool(row.pictures) is (name == "whimbrel")
    assert window.grab().width() > 0


def test_laying_out_says_what_it_tries_and_opens_the_shape(open_window, monkeypatch):
    from ridgeline.desk import laying_out

    monkeypatch.setattr(laying_out, "TELLS_AFTER", -1.0)
    window = open_window(first="brief")
    said = []
    window.store.noted.connect(said.append)
    press(window.sheet.lay_out_button)
    QApplication.processEvents()
    assert any(words.startswith("Laying out: trying ") for words in said) and said[-1].startswith("Laid out")
    assert window.sheet.key == "shape" and window.store.design.choices
    window.store.undo()
    assert not window.store.design.surfaces, "one step"
