import pytest

from ridgeline.design.document import Design
from ridgeline.desk.store import Store
from ridgeline.desk.surface_edits import chosen_surface, duplicate_surface, remove_surface, turn_sides


def test_a_second_wing_makes_a_biplane_with_its_own_neutral_point(desk):
    desk.open_sheet("shape")
    store = desk.store
    before = store.report.value("wing.area")
    duplicate_surface(store)
    assert [s.role for s in store.design.surfaces].count("wing") == 2
    assert store.report.value("wing.area") == pytest.approx(2 * before)
    assert store.report.value("stability.static_margin") is not None
    assert store.report.value("stability.neutral_point_hand") is None
    assert chosen_surface(store) == 2 and (2, 2, "te") in desk.sheet.handles
    desk.grab()
    store.undo()
    assert len(store.design.surfaces) == 2


def test_the_selected_surface_is_removed_with_what_is_built_of_it(desk):
    desk.open_sheet("shape")
    store = desk.store
    tail, before = store.design.surfaces[1], store.design.parts
    built = [p for p in before if p.build is not None and p.build.of == tail.id]
    assert built
    store.select("surfaces[1].stations[0]")
    remove_surface(store)
    assert [s.name for s in store.design.surfaces] == ["Wing"]
    assert [p.id for p in store.design.parts] == [p.id for p in before if p not in built]
    assert "V-tail is gone, and what was built of it" in desk.notice.words
    assert any(f.key == "tail.no_fin" for f in store.report.findings)
    desk.grab()


def test_removing_every_surface_leaves_a_sheet_that_points_to_the_brief(desk):
    desk.open_sheet("shape")
    remove_surface(desk.store)
    remove_surface(desk.store)
    remove_surface(desk.store)
    assert desk.store.design.surfaces == () and desk.sheet.empty
    desk.grab()


def test_a_surface_on_one_side_has_half_its_area(desk):
    store = desk.store
    store.select("surfaces[1].stations[1]")
    before = store.report.results.shape.surfaces[1].area
    turn_sides(store)
    assert store.report.results.shape.surfaces[1].area == pytest.approx(before / 2)
    assert store.history.undo_label == "V-tail on one side"
    turn_sides(store)
    assert store.report.results.shape.surfaces[1].area == pytest.approx(before)


@pytest.mark.parametrize("edit", [duplicate_surface, remove_surface, turn_sides])
def test_without_surfaces_nothing_happens(qapp, edit):
    store = Store(Design(), keep=False)
    edit(store)
    assert store.history.undo_label is None


@pytest.mark.parametrize("words", ["Duplicate the surface", "Remove the surface", "Surface on one side or both"])
def test_surface_edits_stand_in_the_edit_menu_and_the_command_line(desk, words):
    assert words in {action.text() for action in desk.actions()}
    desk.bar.command.run(f"{words} – command")
    assert desk.store.history.undo_label
