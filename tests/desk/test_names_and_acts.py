"""What is selected is renamed, chosen as another kind, doubled and taken out where its dimensions stand."""

import pytest
from PySide6.QtCore import QItemSelectionModel, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from ridgeline.desk.widgets.fields import VARIED


def rename(desk, path, words):
    """Type another name into the row of names."""
    field = desk.margin.dimensions.fields[path]
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, words)
    QTest.keyClick(field, Qt.Key.Key_Return)
    QApplication.processEvents()


def act(desk, words):
    """Press a button under the dimensions."""
    QTest.mouseClick(desk.margin.dimensions.acts[words], Qt.MouseButton.LeftButton)
    QApplication.processEvents()


@pytest.mark.parametrize(
    ("sheet", "spot", "path"),
    [
        ("shape", "surfaces[0].stations[0]", "surfaces[0].name"),
        ("shape", "bodies[0].stations[1]", "bodies[0].name"),
        ("shape", "wheels[0]", "wheels[0].name"),
        ("weights", "parts[2]", "parts[2].name"),
        ("power", "power.esc", "power.esc.name"),
        ("power", "power.motor", "power.motor.name"),
    ],
)
def test_a_part_is_renamed_where_its_dimensions_stand(desk, sheet, spot, path):
    from ridgeline.design.paths import get

    desk.open_sheet(sheet)
    desk.store.select(spot)
    rename(desk, path, "Seal spotter")
    assert get(desk.store.design, path) == "Seal spotter"
    desk.store.undo()
    assert get(desk.store.design, path) != "Seal spotter"


def test_a_part_keeps_its_name_when_none_is_typed(desk):
    desk.open_sheet("shape")
    desk.store.select("bodies[0].stations[1]")
    before = desk.store.design
    field = desk.margin.dimensions.fields["bodies[0].name"]
    field.setFocus()
    field.selectAll()
    QTest.keyClick(field, Qt.Key.Key_Backspace)
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert desk.store.design is before


def test_a_surface_is_doubled_and_the_copy_taken_out_again(desk):
    desk.open_sheet("shape")
    desk.store.select("surfaces[0].stations[1]")
    count = len(desk.store.design.surfaces)
    act(desk, "Duplicate")
    assert len(desk.store.design.surfaces) == count + 1
    act(desk, "Remove")
    assert len(desk.store.design.surfaces) == count


def test_a_control_is_doubled_into_the_room_beside_it(desk):
    desk.open_sheet("shape.control")
    desk.store.select("surfaces[0].controls[0]")
    act(desk, "Duplicate")
    first, copy = desk.store.design.surfaces[0].controls
    assert copy.id != first.id and copy.kind == first.kind
    assert copy.end <= first.start or copy.start >= first.end
    assert copy.end <= desk.store.design.surfaces[0].stations[-1].y
    act(desk, "Remove")
    assert desk.store.design.surfaces[0].controls == (first,)


def test_an_item_is_doubled_without_its_weighing_and_with_a_name_of_its_own(desk):
    desk.open_sheet("weights")
    store = desk.store
    index = next(k for k, p in enumerate(store.design.parts) if p.weighed is not None and p.component is None)
    store.select(f"parts[{index}]")
    part = store.design.parts[index]
    act(desk, "Duplicate")
    copy = store.design.parts[-1]
    assert copy.weighed is None and copy.name == f"{part.name} 2" and (copy.x, copy.z) == (part.x, part.z)
    assert store.spot("item").index == len(store.design.parts) - 1


def test_the_group_of_an_item_is_a_choice(desk):
    desk.open_sheet("weights")
    desk.store.select("parts[0]")
    desk.margin.dimensions.words["Counts to"].choose("ballast")
    assert desk.store.design.parts[0].group == "ballast"


def pick_rows(desk, *rows):
    sheet = desk.sheet
    flags = QItemSelectionModel.SelectionFlag.Select | QItemSelectionModel.SelectionFlag.Rows
    sheet.table.selectionModel().clearSelection()
    for row in rows:
        sheet.table.selectionModel().select(sheet.model.index(row, 0), flags)
    QApplication.processEvents()


def test_several_items_are_edited_together_as_one_step(desk):
    desk.open_sheet("weights")
    before = desk.store.design
    pick_rows(desk, 1, 3, 4)
    fields = desk.margin.dimensions.fields
    assert fields["parts[1].x"].text() == VARIED
    fields["parts[1].x"].setFocus()
    QTest.keyClicks(fields["parts[1].x"], "310")
    QTest.keyClick(fields["parts[1].x"], Qt.Key.Key_Return)
    assert [desk.store.design.parts[k].x for k in (1, 3, 4)] == [pytest.approx(0.31)] * 3
    assert desk.store.design.parts[2].x == before.parts[2].x
    pick_rows(desk, 1, 3, 4)
    desk.margin.dimensions.words["Counts to"].choose("payload")
    assert {desk.store.design.parts[k].group for k in (1, 3, 4)} == {"payload"}
    desk.store.undo()
    desk.store.undo()
    assert desk.store.design == before


def test_several_items_are_hung_on_another_part_and_taken_out(desk):
    desk.open_sheet("weights")
    store = desk.store
    wing = store.design.surfaces[0]
    pick_rows(desk, 0, 3)
    places = [(store.design.parts[k].x, store.design.parts[k].z) for k in (0, 3)]
    desk.margin.dimensions.words["Hangs on"].choose(wing.id)
    assert {store.design.parts[k].on.to for k in (0, 3)} == {wing.id}
    assert [(p.x, p.z) for p in (store.design.parts[0], store.design.parts[3])] == [
        (pytest.approx(x, abs=1e-9), pytest.approx(z, abs=1e-9)) for x, z in places
    ]
    count = len(store.design.parts)
    pick_rows(desk, 0, 3)
    act(desk, "Remove them")
    assert len(store.design.parts) == count - 2


def test_one_item_alone_again_shows_its_own_dimensions(desk):
    desk.open_sheet("weights")
    pick_rows(desk, 1, 3)
    assert "Hangs on" in desk.margin.dimensions.words and "Remove them" in desk.margin.dimensions.acts
    desk.sheet.table.selectRow(2)
    QApplication.processEvents()
    assert "parts[2].name" in desk.margin.dimensions.fields and "Duplicate" in desk.margin.dimensions.acts


def test_a_motor_is_made_a_pair_a_pusher_and_taken_out_from_its_dimensions(desk):
    desk.open_sheet("shape")
    store = desk.store
    store.select("power.mounts[0]")
    words = desk.margin.dimensions.words
    words["Stands on"].choose("pair")
    assert store.design.power.motors == 2
    desk.margin.dimensions.words["Propeller stands"].choose("behind")
    assert store.design.power.mounts[0].pusher
    said = []
    store.noted.connect(said.append)
    act(desk, "Remove")
    assert store.design.power.motors == 2 and "only one" in said[-1]
    act(desk, "Two motors more")
    assert store.design.power.motors == 4 and store.spot("mount").index == 1
    act(desk, "Remove")
    assert store.design.power.motors == 2


def test_family_and_limits_of_the_parts_are_typed_on_power(desk):
    desk.open_sheet("power")
    desk.store.select("power.propeller")
    thrust = desk.store.report.value("power.static_thrust")
    desk.margin.dimensions.words["Family"].choose("slow_fly")
    assert desk.store.design.power.propeller.family == "slow_fly"
    assert desk.store.report.value("power.static_thrust") != pytest.approx(thrust, rel=1e-3)
    desk.store.select("power.motor")
    rows = {"power.motor.poles", "power.motor.shaft", "power.motor.bolt_circle", "power.motor.price"}
    assert rows <= set(desk.margin.dimensions.fields)
    desk.store.select("power.esc")
    assert {"power.esc.max_erpm", "power.esc.price"} <= set(desk.margin.dimensions.fields)


@pytest.mark.parametrize("size", [(1100, 700), (1280, 800)])
def test_dimensions_never_push_the_findings_out(open_window, whimbrel, size):
    window = open_window(whimbrel, first="weights", size=size)
    window.store.select("parts[0]")
    QApplication.processEvents()
    margin = window.margin
    room = margin.height() - margin.dimensions.parentWidget().parentWidget().height()
    assert room >= 0.3 * margin.height()
    last = list(margin.dimensions.acts.values())[-1]
    last.setFocus()
    assert margin.dimensions.height() >= last.geometry().bottom()


def test_a_fan_is_shown_before_it_is_fitted_and_its_masses_told(desk):
    desk.open_sheet("power")
    store, said = desk.store, []
    store.noted.connect(said.append)
    before = store.design
    button = desk.margin.dimensions.acts["Fan instead"]
    button.rested.emit(True)
    ghost = store.ghost[1]
    assert store.ghost[0].power.propeller.family == "ducted_fan" and store.design is before
    desk.grab()
    act(desk, "Fan instead")
    assert store.report.value("mass.auw") == pytest.approx(ghost.value("mass.auw"))
    assert store.report.value("balance.cg_fraction") == pytest.approx(ghost.value("balance.cg_fraction"))
    assert "motor 55 g → " in said[-1] and "propeller or fan" in said[-1]
    assert "Propeller instead" in desk.margin.dimensions.acts
    store.undo()
    assert store.design == before


def test_longer_motor_leads_are_typed_and_tell_what_they_drop(desk):
    desk.open_sheet("power")
    store = desk.store
    store.select("power.motor")
    type_in(desk, "power.motor_lead", "400 mm")
    assert store.design.power.motor_lead == pytest.approx(0.4)
    assert [p.name for p in store.design.parts if p.component == "motor_leads"] == ["Motor leads"]
    row = next(r for r in desk.sheet.selection().rows if r.label.startswith("They drop"))
    assert 0.05 < float(row.read()) < 0.5
    type_in(desk, "power.motor_lead", "0")
    assert not [p for p in store.design.parts if p.component == "motor_leads"]
    store.select("power.esc")
    rename(desk, "power.esc.connector", "Round 4 mm")
    assert store.design.power.esc.connector == "Round 4 mm"


def type_in(desk, path, words):
    rename(desk, path, words)


def test_a_wing_is_put_on_a_seat_and_its_steps_typed(desk):
    desk.open_sheet("shape")
    store = desk.store
    store.select("surfaces[0].stations[0]")
    act(desk, "On a seat")
    seat = store.design.surfaces[0].seat
    assert seat.front < store.design.surfaces[0].x < seat.back and seat.step == pytest.approx(0.01)
    type_in(desk, "surfaces[0].seat.step", "5")
    assert store.design.surfaces[0].seat.step == pytest.approx(0.005)
    desk.open_sheet("balance.levers")
    assert any("hole" in b.text() or "hole" in b.accessibleName() for b in desk.sheet.buttons) or any(
        "hole" in lever.text.render(store.units) for lever in desk.sheet.levers
    )
    desk.grab()
    desk.open_sheet("shape")
    act(desk, "No seat")
    assert store.design.surfaces[0].seat is None
