"""The table of items as CSV: round trips, forgiving reading, and bad rows left out one by one."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.brief import Brief
from ridgeline.design.parts import Item
from ridgeline.engine.sizing.constraints import start_brief
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.weights.items import item_arrays
from ridgeline.engine.weights.rollup import roll_up
from ridgeline.errors import DesignError
from ridgeline.files.design_file import from_text, load, to_text
from ridgeline.files.item_file import items_from_text, items_text, read_items
from ridgeline.library import demo_names, shipped_shelf


def same(one, other):
    assert [item.name for item in other] == [item.name for item in one]
    for a, b in zip(one, other, strict=True):
        for key in ("x", "y", "z", "place_sigma"):
            assert getattr(b, key) == pytest.approx(getattr(a, key), rel=1e-12, abs=1e-15)
        for key in ("estimate", "weighed"):
            assert getattr(b, key) == (None if getattr(a, key) is None else pytest.approx(getattr(a, key), rel=1e-12))
        for key in (
            "group",
            "basis",
            "count",
            "mirrored",
            "component",
            "build",
            "servo",
            "drives",
            "sets",
            "on",
            "size",
        ):
            assert getattr(b, key) == getattr(a, key)
        assert (a.rail is None) == (b.rail is None)
        if a.rail is not None:
            assert list(b.rail.model_dump().values()) == pytest.approx(list(a.rail.model_dump().values()), rel=1e-12)


@pytest.mark.parametrize("name", demo_names())
def test_every_demos_items_go_out_and_come_back_the_same(name, tmp_path):
    items = load(f"demo:{name}").parts
    path = tmp_path / "table.csv"
    path.write_text(items_text(items), "utf-8")
    found = read_items(path)
    assert not found.report
    same(items, found.items)


def test_recipes_go_out_and_come_back():
    design = lay_out(start_brief(Brief(ceiling=0.9), "sport"), shipped_shelf())
    found = items_from_text(items_text(design.parts))
    assert any(item.build is not None for item in found.items)
    same(design.parts, found.items)


items = st.builds(
    Item,
    name=st.text(st.characters(blacklist_categories=("Cs", "Cc")), min_size=1, max_size=30).map(str.strip).filter(
        lambda name: name not in ("", "–", "-")
    ),
    group=st.sampled_from(["airframe", "radio", "battery", "ballast"]),
    basis=st.sampled_from(["library", "sheet", "print", "adhesive", "stock"]),
    count=st.integers(1, 9),
    x=st.floats(-1, 2),
    y=st.floats(-1, 1),
    z=st.floats(-0.5, 0.5),
    mirrored=st.booleans(),
    estimate=st.floats(-0.1, 2),
    weighed=st.one_of(st.none(), st.floats(0, 2)),
)  # fmt: skip


@given(st.lists(items, max_size=8))
def test_any_items_go_through_csv_and_json_unchanged(found):
    same(tuple(found), items_from_text(items_text(tuple(found))).items)
    design = load("demo:whimbrel").model_copy(update={"parts": tuple(found)})
    again = from_text(to_text(design), "x").parts
    assert [item.model_copy(update={"id": ""}) for item in again] == found


@given(st.permutations(range(6)), st.lists(st.floats(0.001, 2.0), min_size=6, max_size=6))
def test_any_order_of_items_sums_alike(order, masses):
    rows = [Item(name=f"i{k}", group="airframe", x=0.1 * k, y=0.02 * k, estimate=m) for k, m in enumerate(masses)]

    def state(chosen):
        a = item_arrays(tuple(chosen), None)
        return roll_up(a.mass, a.place, a.sigma, a.sigma_place, a.batch)

    one, other = state(rows), state([rows[k] for k in order])
    assert other.mass == pytest.approx(one.mass) and other.cg == pytest.approx(one.cg)
    assert other.sigma_mass == pytest.approx(one.sigma_mass)


@pytest.mark.parametrize(
    "text",
    [
        "item,aft (mm),estimate (g)\nCamera,250,58\n",
        "Item;Aft [cm];Mass [g]\nCamera;25,0;58,0\n",
        "part\tx (m)\tweight (kg)\nCamera\t0.25\t0.058\n",
        "\n\nname,x (in),mass (oz)\nCamera,9.84251968503937,2.045883\n",
        "item,aft,estimate\nCamera,250,58\n",
        "﻿item,aft (mm),estimate (g)\r\nCamera,250,58\r\n".lstrip("﻿"),
    ],
    ids=["plain", "decimal commas", "pasted cells", "inches and ounces", "no units", "other line ends"],
)
def test_tables_are_read_however_they_are_written(text):
    (item,) = items_from_text(text).items
    assert item.name == "Camera" and item.x == pytest.approx(0.25) and item.estimate == pytest.approx(0.058, rel=1e-5)


def test_bad_rows_are_left_out_one_by_one_with_their_lines():
    text = (
        "item,group,aft (mm),estimate (g),colour\n"
        "Camera,payload,250,58,red\n"
        "Motor,power,forward,44,blue\n"
        "\n"
        "Pack,fuel,100,178,\n"
        "Servo,radio,300,9,\n"
    )
    found = items_from_text(text)
    assert [item.name for item in found.items] == ["Camera", "Servo"]
    told = " | ".join(found.report)
    assert "colour" in told and "line 3" in told and "“forward”" in told and "line 5" in told and "fuel" in told


@pytest.mark.parametrize("text", ["", "\n \n", "height,width\n1,2\n", "Dear club,\nthe seals are back.\n"])
def test_what_is_no_table_of_items_is_refused(text):
    with pytest.raises(DesignError):
        items_from_text(text)


@given(st.text(max_size=300))
def test_any_text_is_read_or_refused(text):
    try:
        found = items_from_text(text)
    except DesignError:
        return
    assert isinstance(found.items, tuple)


def test_a_file_that_is_not_there_is_refused(tmp_path):
    with pytest.raises(DesignError, match="readable"):
        read_items(tmp_path / "none.csv")
