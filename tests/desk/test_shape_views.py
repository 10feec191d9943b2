"""Grips in all three views, pictures under them, and surfaces, motors and outlines added by hand."""

import math

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QColor, QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import drag, press, type_into
from ridgeline.design.underlay import Underlay
from ridgeline.desk.part_edits import add_motors
from ridgeline.desk.sheets.shape.grips import grips_of
from ridgeline.desk.sheets.shape.underlay import add_underlay, image_of, picture_from_file, scaled_by
from ridgeline.desk.surface_edits import ADDED_SURFACES, add_surface
from ridgeline.errors import DesignError
from ridgeline.files.design_file import load, save
from ridgeline.library import demo_names


@pytest.fixture
def shape(desk):
    desk.open_sheet("shape")
    QApplication.processEvents()
    return desk.sheet


@pytest.fixture
def photo(tmp_path):
    image = QImage(400, 200, QImage.Format.Format_RGB32)
    image.fill(QColor("#abc"))
    image.save(str(tmp_path / "photo.png"))
    return tmp_path / "photo.png"


@pytest.mark.parametrize("name", demo_names())
def test_a_grip_put_where_it_stands_changes_nothing_to_speak_of(name):
    """Every grip's edit, asked for its own place, gives back its own design to a tenth of a millimetre."""
    from ridgeline.design.paths import apply

    design = load(f"demo:{name}")
    for grip in grips_of(design, bodies=True):
        x, y, z = grip.place
        across, along = {"plan": (y, x), "side": (x, z), "front": (y, z)}[grip.view]
        moved = apply(design, grip.move(design, across, along))
        again = next(g for g in grips_of(moved, bodies=True) if g.key == grip.key)
        assert again.place == pytest.approx(grip.place, abs=1.5e-4), grip.name


def test_a_tip_is_raised_in_the_front_view(shape):
    before = shape.store.report.value("stability.dihedral")
    drag(shape.handles[("front", 0, 2)], 0, -20)
    wing = shape.store.design.surfaces[0]
    assert wing.stations[2].z == pytest.approx(0.026 + 20 / shape._front.scale, abs=0.003)
    assert shape.store.report.value("stability.dihedral") > before


def test_a_whole_wing_is_moved_in_the_side_view(shape):
    before = shape.store.design.surfaces[0]
    drag(shape.handles[("root", 0)], 15, 0)
    after = shape.store.design.surfaces[0]
    assert after.x > before.x + 0.01 and after.stations == before.stations


def test_body_outlines_are_dragged_once_they_are_shown(shape):
    assert ("body", 0, 1, "top") not in shape.handles
    shape.overlays["bodies"].setChecked(True)
    QApplication.processEvents()
    body = shape.store.design.bodies[0]
    drag(shape.handles[("body", 0, 2, "top")], 0, -10)
    assert shape.store.design.bodies[0].stations[2].height > body.stations[2].height
    bottom = [s.z - s.height / 2 for s in (body.stations[2], shape.store.design.bodies[0].stations[2])]
    assert bottom[0] == pytest.approx(bottom[1], abs=2e-4)
    drag(shape.handles[("body", 0, 2, "side")], 12, 0)
    assert shape.store.design.bodies[0].stations[2].width > body.stations[2].width
    assert "section 3" in shape.selection().title


def test_wheels_and_propeller_discs_are_dragged_and_typed(shape, desk):
    wheel = shape.store.design.wheels[0]
    drag(shape.handles[("wheel", 0)], 10, 0)
    assert shape.store.design.wheels[0].x > wheel.x
    mount = shape.store.design.power.mounts[0]
    drag(shape.handles[("mount", 0, "side")], 0, -10)
    assert shape.store.design.power.mounts[0].z > mount.z
    type_into(desk.margin.dimensions.fields["power.mounts[0].down"], "3 deg")
    assert shape.store.design.power.mounts[0].down == pytest.approx(math.radians(3))
    shape.grab()


@pytest.mark.parametrize(("words", "role"), ADDED_SURFACES)
def test_a_surface_of_any_role_is_added_whole(shape, words, role):
    count = len(shape.store.design.surfaces)
    add_surface(shape.store, role)
    made = shape.store.design.surfaces[-1]
    assert len(shape.store.design.surfaces) == count + 1 and made.role == role
    assert made.name.startswith(words)
    assert shape.store.spot().path.startswith(f"surfaces[{count}]")
    assert shape.store.report.value("stability.neutral_point_x") is not None
    shape.grab()


def test_two_motors_take_the_place_of_one_and_their_parts_follow(shape):
    before = shape.store.report.value("power.static_thrust")
    add_motors(shape.store)
    design = shape.store.design
    assert design.power.motors == 2 and design.power.mounts[0].mirrored
    assert all(p.count == 2 and p.mirrored for p in design.parts if p.component in ("motor", "esc", "propeller"))
    assert shape.store.report.value("power.static_thrust") > 1.4 * before
    assert shape.store.report.value("balance.cg_y") == pytest.approx(0, abs=2e-4)
    add_motors(shape.store)
    assert shape.store.design.power.motors == 4
    shape.grab()


def test_a_picture_is_put_under_a_view_and_scaled_by_two_points(desk, shape, photo):
    assert add_underlay(desk.store, photo, "plan")
    desk.scale_picture()
    tool = desk.sheet.scale_tool
    assert tool.picking
    first, second = QPoint(420, 150), QPoint(620, 150)
    apart = 200 / desk.sheet._plan.scale
    QTest.mouseClick(desk.sheet, Qt.MouseButton.LeftButton, pos=first)
    QTest.mouseClick(desk.sheet, Qt.MouseButton.LeftButton, pos=second)
    assert tool.isVisible() and len(tool.picks) == 2
    before = desk.store.design.underlays[0]
    desk.grab()
    type_into(tool, "50 cm")
    after = desk.store.design.underlays[0]
    assert after.metres_per_pixel == pytest.approx(before.metres_per_pixel * 0.5 / apart)
    assert not tool.isVisible() and tool.index is None
    desk.store.undo()
    assert desk.store.design.underlays[0] == before


def test_the_picture_is_stored_with_the_design_and_comes_back(desk, shape, photo, tmp_path):
    add_underlay(desk.store, photo, "side")
    back = load(save(desk.store.design, tmp_path / "traced"))
    assert back.underlays == desk.store.design.underlays
    image = image_of(back.underlays[0].picture)
    assert (image.width(), image.height()) == (400, 200)
    desk.turn_picture()
    assert not desk.store.design.underlays[0].shown
    desk.remove_picture()
    assert not desk.store.design.underlays
    desk.scale_picture()
    assert "no picture" in desk.notice.words


def test_scaling_keeps_the_first_place_and_brings_the_second_to_its_distance():
    under = Underlay(name="p", picture="x", across=0.1, along=0.2, metres_per_pixel=0.001)
    first, second = (0.3, 0.3), (0.3, 0.7)
    scaled = scaled_by(under, first, second, 0.8)

    k = scaled.metres_per_pixel / under.metres_per_pixel

    def moved(place):
        across, along = place
        return scaled.across + k * (across - under.across), scaled.along + k * (along - under.along)

    assert moved(first) == pytest.approx(first)
    assert math.dist(moved(first), moved(second)) == pytest.approx(0.8)
    for wrong in ((first, first, 0.5), (first, second, 0.0), (first, second, -1.0)):
        with pytest.raises(DesignError):
            scaled_by(under, *wrong)


def test_what_is_no_picture_is_refused(desk, shape, tmp_path):
    wrong = tmp_path / "list.png"
    wrong.write_text("not a picture")
    assert not add_underlay(desk.store, wrong, "plan") and "picture" in desk.notice.words
    with pytest.raises(DesignError, match="readable"):
        picture_from_file(tmp_path / "none.png")
    assert image_of("???").isNull()


def test_a_large_picture_is_made_small_enough_to_keep(qapp, tmp_path):
    image = QImage(3000, 1500, QImage.Format.Format_RGB32)
    image.fill(QColor("#456"))
    image.save(str(tmp_path / "big.jpg"))
    _data, width, height = picture_from_file(tmp_path / "big.jpg")
    assert (width, height) == (1600, 800)


def test_stations_are_still_added_by_the_button(shape):
    count = len(shape.store.design.surfaces[0].stations)
    press(shape.split)
    assert len(shape.store.design.surfaces[0].stations) == count + 1
