import json
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from ridgeline.design import document
from ridgeline.design.airframe import Station, Surface
from ridgeline.design.axes import all_discs
from ridgeline.design.document import Design, from_plain
from ridgeline.design.history import History
from ridgeline.design.parts import Item
from ridgeline.design.paths import REMOVE, Change, apply, get, put, quantity_at, read_text, steps
from ridgeline.design.power import Mount
from ridgeline.errors import DesignError


def test_a_design_is_frozen(whimbrel):
    with pytest.raises(ValidationError):
        whimbrel.name = "other"


def test_an_edit_keeps_the_identity_of_what_it_does_not_touch(whimbrel):
    edited = put(whimbrel, "surfaces[0].stations[2].chord", 0.15)
    assert edited.surfaces[0].stations[2].chord == 0.15
    assert whimbrel.surfaces[0].stations[2].chord == 0.141
    assert edited.surfaces[0].stations[0] is whimbrel.surfaces[0].stations[0]
    assert edited.surfaces[1] is whimbrel.surfaces[1]
    assert edited.brief is whimbrel.brief
    # What hangs on the wing moves with it, and nothing else.
    wing = whimbrel.surfaces[0].id
    for now, before in zip(edited.parts, whimbrel.parts, strict=True):
        assert now is before or before.on.to == wing


@pytest.mark.parametrize(
    ("path", "value", "words"),
    [
        ("surfaces[0].stations[0].chord", -0.1, "0.001 m or more"),
        ("surfaces[0].stations[0].chord", float("nan"), "a finite number"),
        ("surfaces[0].stations[0].chord", float("inf"), "finite number"),
        ("surfaces[0].stations[1].y", 0.9, "stations from root to tip"),
        ("surfaces[9].x", 1.0, "in surfaces: [0] to [1]"),
        ("surfaces[0].chords", 1.0, "in surfaces[0]: id, name, role"),
        ("brief.purpose", "bomber", "one of 'trainer'"),
        ("brief.ceiling", 1e6, "25 kg or less"),
        ("parts[0].count", 0, "1 or more"),
        ("parts[0].rail.back", 0.07, "room for the item"),
        ("name.x", 1, "nothing below name"),
    ],
)
def test_a_refused_edit_names_the_path_and_what_is_allowed(whimbrel, path, value, words):
    with pytest.raises(DesignError) as caught:
        put(whimbrel, path, value)
    assert words in str(caught.value)
    assert "understood" in str(caught.value)


@pytest.mark.parametrize("text", ["", "..", "surfaces[", "surfaces[x]", "1surfaces", "a b"])
def test_text_that_is_no_path_is_refused(text):
    with pytest.raises(DesignError):
        steps(text)


def test_changes_apply_all_or_nothing(whimbrel):
    with pytest.raises(DesignError):
        apply(whimbrel, [Change("name", "Half done"), Change("brief.ceiling", -1.0)])
    assert whimbrel.name == "Saltmarsh Whimbrel"


def test_entries_are_appended_and_removed_by_path(whimbrel):
    longer = put(whimbrel, "parts[-]", whimbrel.parts[0])
    assert len(longer.parts) == len(whimbrel.parts) + 1
    assert put(longer, f"parts[{len(whimbrel.parts)}]", REMOVE).parts == whimbrel.parts


def test_plain_data_is_appended_as_an_entry_of_its_kind_or_refused_at_its_place(whimbrel):
    longer = put(whimbrel, "parts[-]", {"name": "Tip light", "group": "payload", "x": 0.3, "estimate": 0.004})
    made = Item(id=longer.parts[-1].id, name="Tip light", group="payload", x=0.3, estimate=0.004)
    assert made.id and longer.parts[-1] == made
    place = f"parts[{len(whimbrel.parts)}]"
    for wrong, where in (({"name": "Light"}, f"{place}.group"), ({"x": 99.0}, place), ("a light", place)):
        with pytest.raises(DesignError) as caught:
            put(whimbrel, "parts[-]", wrong)
        assert caught.value.path.startswith(where)


def test_a_list_takes_no_more_entries_than_it_may_hold(whimbrel):
    design = whimbrel
    for _ in range(20 - len(design.wheels)):
        design = put(design, "wheels[-]", {"x": 0.1, "y": 0.1, "z": -0.1, "diameter": 0.05})
    with pytest.raises(DesignError, match="20 entries at most"):
        put(design, "wheels[-]", design.wheels[0])
    for _ in range(len(design.surfaces[0].stations) - 2):
        design = put(design, "surfaces[0].stations[1]", REMOVE)
    with pytest.raises(DesignError, match="2 entries at least"):
        put(design, "surfaces[0].stations[1]", REMOVE)


def test_an_edit_below_still_has_to_agree_with_what_is_above(whimbrel):
    with pytest.raises(DesignError, match="no unknown one"):
        put(whimbrel, "parts[1].sets", ("Nowhere",))
    four = put(put(whimbrel, "power.mounts", whimbrel.power.mounts * 3), "power.mounts[0].mirrored", True)
    with pytest.raises(DesignError, match="these mounts carry 5"):
        put(four, "power.mounts[1].mirrored", True)


def test_typed_text_becomes_the_fields_own_kind(whimbrel):
    assert read_text(whimbrel, "surfaces[0].x", "20 cm") == pytest.approx(0.2)
    assert read_text(whimbrel, "parts[1].count", "3") == 3
    assert read_text(whimbrel, "parts[1].mirrored", "no") is False
    assert read_text(whimbrel, "parts[1].weighed", "none") is None
    assert quantity_at(whimbrel, "parts[1].weighed") == "mass"
    for path, text in (("parts[1].count", "two"), ("parts[1].mirrored", "perhaps"), ("surfaces[0]", "wing")):
        with pytest.raises(DesignError):
            read_text(whimbrel, path, text)


def test_an_older_version_is_migrated_step_by_step(monkeypatch):
    old = {"format": "ridgeline", "format_version": 4, "title": "Old"}
    monkeypatch.setattr(document, "FORMAT_VERSION", 5)
    monkeypatch.setitem(document.MIGRATIONS, 4, lambda data: {**data, "format_version": 4})
    with pytest.raises(DesignError, match="title"):
        from_plain(old)
    monkeypatch.setitem(
        document.MIGRATIONS, 4, lambda data: {k: v for k, v in data.items() if k != "title"} | {"name": data["title"]}
    )
    assert from_plain(old).name == "Old"


def test_a_droop_of_nothing_was_none_known_before_version_4():
    stations = [{"y": 0.0, "chord": 0.2}, {"y": 0.5, "chord": 0.2}]
    wings = [{"name": n, "role": "wing", "stations": stations, "droop": d} for n, d in (("A", 0.0), ("B", 0.02))]
    old = from_plain({"format": "ridgeline", "format_version": 3, "surfaces": wings})
    assert [s.droop for s in old.surfaces] == [None, 0.02]
    new = from_plain({"format": "ridgeline", "format_version": 4, "surfaces": wings})
    assert [s.droop for s in new.surfaces] == [0.0, 0.02]


def version_1(**power):
    """Return the plain data of the demo as version 1 wrote it."""
    data = json.loads((Path(__file__).parent / "formats/v2/whimbrel.ridge").read_text("utf-8")) | {"format_version": 1}
    data.pop("underlays", None)
    data["brief"] = {k: v for k, v in data["brief"].items() if k not in ("layout", "body_angle")} | {"tail": "v_tail"}
    data["power"] = {k: v for k, v in data["power"].items() if k != "mounts"} | {"x": 0.02, "z": 0.01, **power}
    return data


def test_version_1_gets_its_layout_and_its_motor_mount(by_items):
    design = from_plain(version_1(down_thrust=0.03, right_thrust=0.02, motors=1))
    assert design.brief.layout == "v_tail"
    mount = design.power.mounts[0]
    assert (mount.down, mount.right) == (0.03, 0.02)
    assert all_discs(design.power)[0] == pytest.approx((0.02, 0.0, 0.01), abs=1e-12)
    # What version 1 knew no ids of is numbered as it comes.
    numbered = {"sets": True, "controls": {"__all__": {"id"}}}
    plain = [[s.model_dump(exclude=numbered) for s in one.surfaces] for one in (design, by_items)]
    assert plain[0] == plain[1]
    assert [(p.x, p.y, p.z) for p in design.parts] == [(p.x, p.y, p.z) for p in by_items.parts]


@pytest.mark.parametrize("motors", [1, 2, 3, 4])
def test_version_1_keeps_its_number_of_motors(whimbrel, motors):
    assert from_plain(version_1(motors=motors)).power.motors == motors


@pytest.mark.parametrize("wrong", [0, 9, "two", None, -1])
def test_version_1_with_an_impossible_number_of_motors_is_refused(whimbrel, wrong):
    with pytest.raises(DesignError, match="power"):
        from_plain(version_1(motors=wrong))


def test_more_than_four_motors_are_refused(whimbrel):
    pair = Mount(y=0.1, mirrored=True)
    with pytest.raises(DesignError, match="one to four motors"):
        put(whimbrel, "power.mounts", (pair, pair, pair))


@pytest.mark.parametrize("version", [0, 5, 99, "1", None, True, 1.5])
def test_a_format_version_this_program_does_not_know_is_refused(version):
    with pytest.raises(DesignError, match="format_version"):
        from_plain({"format": "ridgeline", "format_version": version})


def test_a_design_survives_json(whimbrel):
    assert from_plain(json.loads(json.dumps(whimbrel.model_dump(mode="json")))) == whimbrel


@given(
    st.lists(
        st.tuples(st.floats(0.01, 0.5), st.floats(0.01, 1.0), st.floats(-1, 1), st.floats(-0.5, 0.5)),
        min_size=2,
        max_size=8,
    )
)
def test_any_valid_surface_survives_json(rows):
    y = 0.0
    stations = []
    for step, chord, x, z in rows:
        stations.append(Station(y=y, chord=chord, x=x, z=z))
        y += step
    surface = Surface(name="Any", role="wing", stations=tuple(stations))
    assert Surface.model_validate_json(surface.model_dump_json()) == surface


def test_undo_and_redo_walk_the_same_line():
    first, second, third = (Design(name=name) for name in ("one", "two", "three"))
    history = History.of(first).push(second, "name two").push(third, "name three")
    assert history.undo_label == "name three"
    back = history.undo().undo()
    assert back.present is first and back.redo_label == "name two"
    assert back.redo().redo().present is third
    assert back.undo() is back and history.redo() is history


def test_a_drag_is_one_undo_and_the_next_drag_another():
    start = Design(name="start")
    history = History.of(start)
    for name in ("a", "b", "c"):
        history = history.push(Design(name=name), "drag", merge="tip")
    history = history.seal().push(Design(name="d"), "drag", merge="tip")
    assert history.undo().present.name == "c"
    assert history.undo().undo().present is start


def test_a_new_edit_forgets_the_undone_future():
    history = History.of(Design(name="a")).push(Design(name="b"), "b").undo().push(Design(name="c"), "c")
    assert history.redo_label is None
    assert get(history.present, "name") == "c"


moves = st.lists(
    st.one_of(
        st.builds(
            lambda k, f, v: Change(f"parts[{k}].{f}", v), st.integers(0, 12), st.sampled_from("xyz"), st.floats(-3, 3)
        ),
        st.builds(lambda k, v: Change(f"surfaces[0].stations[{k}].chord", v), st.integers(0, 2), st.floats(-0.05, 0.4)),
        st.builds(lambda k: Change(f"parts[{k}]", REMOVE), st.integers(0, 12)),
        st.builds(lambda v: Change("brief.ceiling", v), st.floats(0.1, 3)),
        st.just(Change("parts[-]", {"name": "Lead", "group": "ballast", "x": 0.1, "estimate": 0.01})),
    ),
    max_size=12,
)


@given(moves)
def test_changes_put_in_together_are_those_put_in_one_by_one(whimbrel, changes):
    def by_turns():
        design = whimbrel
        for change in changes:
            design = put(design, change.path, change.value)
        return design

    try:
        wanted = by_turns()
    except DesignError as error:
        with pytest.raises(DesignError) as caught:
            apply(whimbrel, changes)
        assert str(caught.value) == str(error)
    else:
        found = apply(whimbrel, changes)
        assert found.model_copy(update={"parts": ()}) == wanted.model_copy(update={"parts": ()})
        # What is carried along in two steps is rounded twice.
        for one, other in zip(found.parts, wanted.parts, strict=True):
            assert (one.x, one.y, one.z) == pytest.approx((other.x, other.y, other.z), abs=1e-10)
            assert one.model_copy(update={"x": 0.0, "y": 0.0, "z": 0.0, "on": None, "rail": None}) == other.model_copy(
                update={"x": 0.0, "y": 0.0, "z": 0.0, "on": None, "rail": None}
            )
