import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import drag, press, type_into
from ridgeline.design.airframe import Station, Surface
from ridgeline.design.paths import put
from ridgeline.desk.drawing import View, extent, joined_points, panel_point, surface_points
from ridgeline.desk.item_table import COLUMNS
from ridgeline.desk.paint import fit, width_of, wrap
from ridgeline.desk.scales import nice_step, ticks
from ridgeline.engine.sizing.purposes import PURPOSES
from ridgeline.library import shipped_shelf


@pytest.fixture
def brief(desk):
    desk.open_sheet("brief")
    return desk.sheet


@pytest.fixture
def shape(desk):
    desk.open_sheet("shape")
    return desk.sheet


@pytest.fixture
def weights(desk):
    desk.open_sheet("weights")
    return desk.sheet


@pytest.fixture
def power(desk):
    desk.open_sheet("power")
    return desk.sheet


@pytest.mark.parametrize("key", sorted(PURPOSES))
def test_pressing_a_purpose_sets_its_starting_values(brief, key):
    press(brief.purposes[key])
    chosen = brief.store.design.brief
    assert chosen.purpose == key
    low, high = PURPOSES[key].static_margin
    assert low <= chosen.static_margin <= high
    brief.grab()


def test_a_wish_typed_before_or_after_its_purpose_comes_to_the_same(open_window):
    found = []
    for order in ("purpose first", "wishes first"):
        sheet = open_window(first="brief").sheet
        if order == "purpose first":
            press(sheet.purposes["camera"])
        type_into(sheet.fields["ceiling"], "400 g")
        sheet.store.put("brief.aspect_ratio", 6.5, "Set aspect ratio")
        if order == "wishes first":
            press(sheet.purposes["camera"])
        found.append(sheet.store.design.brief)
    assert found[0] == found[1] and found[0].aspect_ratio == 6.5
    assert found[0].typed == ("aspect_ratio", "ceiling")


def test_what_is_typed_says_so_and_the_purpose_pressed_again_takes_it_back(brief):
    press(brief.purposes["glider"])
    usual = brief.store.design.brief
    brief.store.put("brief.aspect_ratio", 6.5, "Set aspect ratio")
    hint_of = {row.path: row.hint for row in brief.selection().rows}
    assert hint_of["brief.aspect_ratio"].startswith("yours; usual")
    assert hint_of["brief.tail_volume_h"].startswith("usual")
    press(brief.purposes["sport"])
    assert brief.store.design.brief.aspect_ratio == 6.5
    press(brief.purposes["glider"])
    press(brief.purposes["glider"])
    assert brief.store.design.brief.aspect_ratio == usual.aspect_ratio
    brief.store.undo()
    assert brief.store.design.brief.aspect_ratio == 6.5


def test_the_design_point_follows_the_hand_on_the_chart(brief):
    plot = brief.plot
    start, unit = plot.at(2.9, 0.92), plot.at(3.9, 1.92) - plot.at(2.9, 0.92)
    assert (plot.point.centre() - start).manhattanLength() < 2
    drag(plot.point, 40, -30)
    chosen = brief.store.design.brief
    assert chosen.wing_loading == pytest.approx(2.9 + 40 / unit.x(), abs=0.03)
    assert chosen.thrust_ratio == pytest.approx(0.92 - 30 / unit.y(), abs=0.01)
    brief.store.undo()
    assert brief.store.design.brief.wing_loading == 2.9


def test_arrow_keys_move_the_design_point(brief):
    brief.plot.point.setFocus()
    QTest.keyClick(brief.plot.point, Qt.Key.Key_Right)
    assert brief.store.design.brief.wing_loading > 2.9


def test_wishes_are_chosen_and_typed_in_their_sentences(brief):
    brief.words["brief.launch"].choose("wheels")
    assert brief.words["brief.launch"].text() == "from wheels"
    type_into(brief.fields["span_limit"], "4 ft")
    assert brief.store.design.brief.span_limit == pytest.approx(1.2192)
    type_into(brief.fields["bank"], "45")
    assert brief.store.design.brief.bank == pytest.approx(0.7853982)
    type_into(brief.fields["elevation"], "300 ft")
    assert brief.store.design.brief.elevation == pytest.approx(91.44)
    brief._set_pack("2S 450", True)
    assert "2S 450" in brief.store.design.brief.packs


def test_laying_out_is_one_undoable_step_and_raises_the_revision(brief):
    before = brief.store.design
    press(brief.lay_out_button)
    assert brief.store.design.surfaces != before.surfaces
    assert brief.store.design.revision == before.revision + 1 and brief.store.design.note == before.note
    brief.store.undo()
    assert brief.store.design is before


@pytest.mark.parametrize("edge", ["le", "te"])
def test_dragging_a_tip_handle_moves_that_edge_and_leaves_the_other(shape, edge):
    before = shape.store.design.surfaces[0].stations[2]
    drag(shape.handles[(0, 2, edge)], 15, 8)
    after = shape.store.design.surfaces[0].stations[2]
    assert after.y > before.y
    if edge == "le":
        assert after.x > before.x
        assert after.x + after.chord == pytest.approx(before.x + before.chord, abs=2e-4)
    else:
        assert after.x == before.x and after.chord > before.chord
    assert shape.chosen == (0, 2)


def test_a_station_cannot_be_dragged_past_its_neighbours_or_its_own_edge(shape):
    drag(shape.handles[(0, 1, "te")], 900, -900)
    stations = shape.store.design.surfaces[0].stations
    assert stations[0].y < stations[1].y < stations[2].y
    assert stations[1].chord > 0


def test_a_v_tail_tip_is_dragged_along_its_own_slope(shape):
    before = shape.store.design.surfaces[1].stations[1].y
    drag(shape.handles[(1, 1, "te")], 10, 0)
    grown = shape.store.design.surfaces[1].stations[1].y - before
    assert grown * shape._plan.scale == pytest.approx(10 / 0.8192, abs=1.5)


def test_chord_and_distance_are_typed_on_the_drawing(shape):
    chord, out = shape._typed
    type_into(chord, "150")
    type_into(out, "25 in")
    station = shape.store.design.surfaces[0].stations[2]
    assert station.chord == 0.15 and station.y == pytest.approx(0.635)


def test_stations_are_added_and_removed_without_changing_the_wing(shape):
    area = shape.store.report.value("wing.area")
    press(shape.split)
    assert len(shape.store.design.surfaces[0].stations) == 4
    assert shape.store.report.value("wing.area") == pytest.approx(area)
    assert (0, 3, "te") in shape.handles
    press(shape.drop)
    assert len(shape.store.design.surfaces[0].stations) == 3
    assert (0, 3, "te") not in shape.handles


def test_overlays_switch_and_paint(shape):
    for box in shape.overlays.values():
        press(box)
        shape.grab()


def test_a_section_is_chosen_and_changes_the_stall(shape):
    before = shape.store.report.value("speed.stall")
    shape.section.choose("flat_bottom")
    assert shape.store.report.value("speed.stall") < before


def test_an_upright_fin_is_dragged_in_the_side_view(open_window, whimbrel):
    fin = Surface(
        name="Fin",
        role="fin",
        x=0.8,
        mirrored=False,
        cant=1.5707963,
        stations=(Station(y=0, chord=0.12), Station(y=0.15, chord=0.08, x=0.03)),
    )
    window = open_window(put(whimbrel, "surfaces[-]", fin), first="shape")
    drag(window.sheet.handles[(2, 1, "le")], 0, -10)
    assert window.store.design.surfaces[2].stations[1].y > 0.15


def cell(weights, row, field):
    return weights.model.index(row, next(i for i, c in enumerate(COLUMNS) if c.field == field))


def test_items_are_typed_in_the_table_in_any_unit(weights):
    assert weights.model.setData(cell(weights, 1, "weighed"), "2 oz")
    assert weights.store.design.parts[1].weighed == pytest.approx(0.0566990)
    assert weights.model.setData(cell(weights, 1, "x"), "12 in")
    assert weights.store.design.parts[1].x == pytest.approx(0.3048)
    assert weights.model.setData(cell(weights, 1, "weighed"), "")
    assert weights.store.design.parts[1].weighed is None
    assert weights.model.setData(cell(weights, 3, "group"), "ballast")
    assert not weights.model.setData(cell(weights, 3, "group"), "luggage")


def test_a_cell_is_edited_by_keys(weights):
    weights.table.setCurrentIndex(cell(weights, 1, "weighed"))
    weights.table.setFocus()
    weights.table.edit(weights.table.currentIndex())
    editor = QApplication.focusWidget()
    editor.selectAll()
    QTest.keyClicks(editor, "60")
    QTest.keyClick(editor, Qt.Key.Key_Return)
    QApplication.processEvents()
    assert weights.store.design.parts[1].weighed == pytest.approx(0.060)


def test_a_bad_cell_is_refused_with_the_reason(desk, weights):
    before = weights.store.design
    assert not weights.model.setData(cell(weights, 1, "weighed"), "12 bananas")
    assert weights.store.design is before
    assert "12 bananas" in desk.notice.words


def test_items_are_added_and_removed(weights):
    count = len(weights.store.design.parts)
    weights.add_item()
    assert len(weights.store.design.parts) == count + 1 and weights.chosen == count
    press(weights.remove)
    assert len(weights.store.design.parts) == count


def test_pressing_a_disc_selects_its_item(weights):
    weights.grab()
    disc = next(d for d in weights.discs.placed if d.index == 3)
    QTest.mouseClick(weights, Qt.MouseButton.LeftButton, pos=QPointF(disc.x, disc.y).toPoint())
    assert weights.chosen == disc.index


def test_the_kept_ground_of_the_weights_follows_shape_mass_and_units(desk, weights):
    def seen():
        QApplication.processEvents()
        return weights.grab().toImage()

    first = seen()
    for change in (
        lambda: desk.store.put("surfaces[0].stations[0].chord", 0.26, "Chord"),
        lambda: desk.store.put("parts[0].weighed", 0.25, "Weigh"),
        lambda: desk.store.put("allowances.radio", 0.01, "Allow"),
    ):
        change()
        assert seen() != first
        desk.store.undo()
        assert seen() == first
    desk.turn_units()
    assert seen() != first
    desk.turn_units()
    assert seen() == first


def test_table_rows_follow_undo(weights):
    weights.add_item()
    weights.store.undo()
    assert weights.model.rowCount() == len(weights.store.design.parts)


def test_airspeed_and_throttle_are_under_the_hand(power):
    drag(power.speed_handle, 60, 0)
    drag(power.throttle_handle, 40, 0)
    speed, throttle = power._now()
    assert speed > power.store.report.value("speed.cruise")
    assert throttle > power.store.report.value("flight.cruise_throttle")
    power.grab()


def test_fitting_another_pack_takes_its_mass_length_and_name_along(power):
    pack = next(p for p in shipped_shelf().packs if p.name == "3S 1500")
    power.fit("pack", pack)
    design = power.store.design
    assert design.power.pack == pack and design.parts[0].name == "3S 1500"
    assert design.parts[0].weighed is None
    assert design.parts[0].rail.item_length == pytest.approx(pack.length)
    assert power.store.report.value("mass.group.battery") == pytest.approx(pack.mass)
    power.store.undo()
    assert power.store.design.parts[0].weighed == 0.178


@pytest.mark.parametrize("link", ["pack", "esc", "motor", "propeller"])
def test_each_link_shows_its_dimensions(power, link):
    power.store.select(f"power.{link}")
    fields = power.window().margin.dimensions.fields
    assert all(path.startswith(("power.", f"power.{link}")) for path in fields) and len(fields) >= 4


def test_a_power_train_that_does_not_turn_still_paints_its_reason(open_window, whimbrel):
    stuck = put(put(whimbrel, "power.motor.no_load_current", 20.0), "power.motor.resistance", 9.0)
    window = open_window(stuck, first="power")
    window.grab()
    assert any(f.key == "power.stopped" for f in window.store.report.findings)
    without = whimbrel.model_copy(
        update={"power": None, "parts": tuple(p for p in whimbrel.parts if p.component is None)}
    )
    open_window(without, first="power").grab()


def test_views_map_there_and_back():
    for kind in ("plan", "side", "front"):
        view = View(kind, 100.0, 50.0, 400.0)
        x, y = view.at((0.3, 0.2, 0.1))
        back = view.back(x, y)
        assert back == pytest.approx({"plan": (0.2, 0.3), "side": (0.3, 0.1), "front": (0.2, 0.1)}[kind])


def test_outlines_join_on_the_centre_line_and_the_extent_holds_them(whimbrel):
    wing = whimbrel.surfaces[0]
    assert len(joined_points(wing)) == 1
    assert len(joined_points(wing.model_copy(update={"y": 0.1}))) == 2
    assert panel_point(wing, 0.64, 0.035, 0.026, -1)[1] == -0.64
    box = extent(whimbrel, "plan")
    for place in surface_points(wing):
        assert box.left() - 1e-9 <= place[1] <= box.right() + 1e-9


def test_words_fit_and_wrap(desk):
    assert fit("short", 200) == "short"
    long = fit("a very long sentence that does not fit", 80)
    assert long.endswith("…") and width_of(long) <= 80
    assert " ".join(wrap("one two three four", 50)) == "one two three four"


@pytest.mark.parametrize(("span", "wish", "step"), [(1280, 10, 200), (1, 10, 0.1), (7.3, 7, 2), (0.9, 8, 0.2)])
def test_ruler_steps_are_round(span, wish, step):
    assert nice_step(span, wish) == pytest.approx(step)
    assert ticks(-0.1, 2.1, 1.0) == [0, 1, 2]
