"""What is selected is a part, not a place in a list: it stays selected wherever edits move it."""

import pytest

from ridgeline.design.paths import REMOVE, Change, get
from ridgeline.desk.picks import NOTHING, pick_at, spot_of
from ridgeline.desk.sheets.shape.grips import grips_of
from ridgeline.desk.store import Store
from ridgeline.files.design_file import load


@pytest.fixture
def store(qapp, own_data, whimbrel):
    return Store(whimbrel)


@pytest.mark.parametrize("name", ["whimbrel", "avocet", "turnstone", "dunlin"])
def test_every_grip_selects_what_it_stands_on(name):
    design = load(f"demo:{name}")
    paths = {grip.path for grip in grips_of(design, bodies=True)}
    paths |= {f"surfaces[{i}].controls[{j}]" for i, s in enumerate(design.surfaces) for j in range(len(s.controls))}
    paths |= {f"parts[{i}]" for i in range(len(design.parts))}
    assert len(paths) > 20
    for path in paths:
        pick = pick_at(design, path)
        assert pick != NOTHING and spot_of(design, pick).path == path


@pytest.mark.parametrize("path", ["surfaces[9].stations[0]", "surfaces[0].controls[9]", "parts[999]", "brief.ceiling"])
def test_what_is_not_there_or_is_no_part_selects_nothing(store, path):
    store.select(path)
    assert store.pick == NOTHING and store.spot() is None


def test_a_station_that_went_is_selected_no_longer(store):
    last = len(store.design.surfaces[0].stations) - 1
    store.select(f"surfaces[0].stations[{last}]")
    store.edit([Change(f"surfaces[0].stations[{last}]", REMOVE)], "Remove a station")
    assert store.spot() is None


@pytest.mark.parametrize("path", ["parts[4]", "surfaces[1].stations[0]", "bodies[0].stations[1]"])
def test_the_same_part_stays_selected_when_another_is_removed_before_it(store, path):
    part = path.partition(".")[0]
    field = part.partition("[")[0]
    store.select(path)
    chosen = get(store.design, part).id
    if field == "bodies":
        store.put("bodies[0].name", "Pod", "Rename")
    else:
        store.edit([Change(f"{field}[0]", REMOVE)], "Remove the first")
        assert store.spot().path != path
    assert get(store.design, store.spot().path.partition(".")[0]).id == chosen
    store.undo()
    assert store.spot().path == path


def test_a_part_that_is_removed_and_brought_back_is_selected_again(store):
    store.select("parts[2]")
    store.edit([Change("parts[2]", REMOVE)], "Remove an item")
    assert store.spot() is None
    store.undo()
    assert store.spot().path == "parts[2]"


def test_only_what_is_of_a_kind_asked_for_is_given(store):
    store.select("power.motor")
    assert store.spot("item", "surface") is None and store.spot("link").path == "power.motor"
