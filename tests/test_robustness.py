"""Whatever is put in, the answer is a result or one clear refusal; nothing else."""

import copy
import json
import re

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.cli import main
from ridgeline.design.document import Design, from_plain
from ridgeline.design.history import History
from ridgeline.design.paths import get, put, read_text, steps
from ridgeline.engine.advice.sensitivity import measures
from ridgeline.engine.pipeline import evaluate
from ridgeline.errors import DesignError
from ridgeline.files.design_file import from_text, load, to_text
from ridgeline.typed import parse
from ridgeline.units import IMPERIAL, METRIC, STORED_UNIT, shown, with_unit

WHIMBREL = load("demo:whimbrel")
PLAIN = WHIMBREL.model_dump(mode="json")
MEASURES = [path for path, _label in measures(WHIMBREL)]

odd_values = st.one_of(
    st.none(),
    st.booleans(),
    st.integers(-(10**9), 10**9),
    st.floats(),
    st.text(max_size=12),
    st.lists(st.integers(), max_size=2),
    st.dictionaries(st.text(max_size=4), st.integers(), max_size=2),
)


def places(node, route=()):
    """Yield the route of every value in plain data."""
    if isinstance(node, dict):
        for key, child in node.items():
            yield from places(child, (*route, key))
    elif isinstance(node, list):
        for index, child in enumerate(node):
            yield from places(child, (*route, index))
    yield route


ROUTES = [route for route in places(PLAIN) if route]

#: Coordinates of items, which all hang on something.
_PLACE = re.compile(r"parts\[\d+\]\.[xyz]")


@settings(max_examples=300)
@given(st.sampled_from(ROUTES), odd_values)
def test_any_value_anywhere_in_a_file_is_taken_or_refused_by_name(route, value):
    data = copy.deepcopy(PLAIN)
    node = data
    for step in route[:-1]:
        node = node[step]
    node[route[-1]] = value
    try:
        design = from_plain(data, source="x.ridge")
    except DesignError as error:
        assert error.allowed and error.understood and error.path.startswith("x.ridge")
    else:
        assert evaluate(design).findings


@settings(max_examples=80)
@given(st.sampled_from(ROUTES))
def test_any_missing_entry_is_filled_by_its_default_or_refused(route):
    data = copy.deepcopy(PLAIN)
    node = data
    for step in route[:-1]:
        node = node[step]
    if isinstance(node, dict):
        del node[route[-1]]
    else:
        node.pop(route[-1])
    try:
        assert evaluate(from_plain(data, source="x.ridge")).findings
    except DesignError as error:
        assert "x.ridge" in str(error)


@settings(max_examples=150)
@given(st.integers(0, len(to_text(WHIMBREL)) - 1), st.characters(codec="utf-8"))
def test_one_wrong_letter_in_a_file_never_crashes_the_reader(place, letter):
    text = to_text(WHIMBREL)
    try:
        assert isinstance(from_text(text[:place] + letter + text[place + 1 :], "x.ridge"), Design)
    except DesignError as error:
        assert "\n" not in str(error)


def test_a_field_with_a_line_end_in_its_name_is_refused_on_one_line():
    with pytest.raises(DesignError) as refused:
        from_text(to_text(WHIMBREL).replace('"endurance"', '"en\\ndurance"', 1), "x.ridge")
    assert str(refused.value).endswith("no field of this name")
    assert "brief.en\\ndurance" in str(refused.value) and "\n" not in str(refused.value)


@settings(max_examples=300)
@given(st.text(max_size=24), st.sampled_from(sorted(STORED_UNIT)))
def test_any_typed_text_is_a_number_or_refused(text, quantity):
    try:
        value = parse(text, quantity)
    except DesignError as error:
        assert error.allowed
    else:
        assert value == value and abs(value) != float("inf")


@settings(max_examples=200)
@given(st.text(alphabet="surfacestations[]0123456789.-_xyz ", max_size=24))
def test_any_text_is_a_path_or_refused(text):
    try:
        assert steps(text)
        get(WHIMBREL, text)
    except DesignError as error:
        assert error.path


def with_value(path, value):
    """Return the plain data of the sample with one value written into it."""
    data = copy.deepcopy(PLAIN)
    node, *route = data, *steps(path)
    for step in route[:-1]:
        node = node[step]
    node[route[-1]] = value
    return data


@settings(max_examples=120)
@given(st.sampled_from(MEASURES), st.floats(-1e4, 1e4))
def test_every_number_of_the_design_can_be_edited_or_is_refused_and_evaluates(path, value):
    try:
        edited = put(WHIMBREL, path, value)
    except DesignError as error:
        # A refusal may come from the neighbours, such as stations out of order; it still names the place.
        assert error.path and path.split(".")[0].startswith(error.path.split(".")[0].split("[")[0])
        # What an edit refuses, the reader of files refuses too.
        with pytest.raises(DesignError):
            from_plain(with_value(path, value))
        return
    report = evaluate(edited)
    assert report.findings
    if _PLACE.fullmatch(path):
        # Kept in the axes of what carries the item: that is what a file says, and to a picometre.
        assert get(edited, path) == pytest.approx(value, rel=1e-9, abs=1e-11)
        assert from_plain(edited.model_dump(mode="json")) == edited
    else:
        assert get(edited, path) == value
        # What was built spreads with an edit; a file says where it lies.
        apart = {"parts": ()} if not path.startswith("parts[") else {}
        assert from_plain(with_value(path, value)).model_copy(update=apart) == edited.model_copy(update=apart)
    assert all(f.value is None or f.value == f.value for f in report.figures.values())


@settings(max_examples=60)
@given(st.sampled_from(MEASURES), st.sampled_from(["1", "-3", "2 in", "4 oz", "12 bananas", "", "1e400", "none"]))
def test_the_command_line_answers_0_or_2_to_any_edit(path, text):
    assert main(["figures", "demo:whimbrel", "--no-throw", "--set", f"{path}={text}", "--json"]) in (0, 2)


@pytest.mark.parametrize("system", [METRIC, IMPERIAL])
@pytest.mark.parametrize("path", MEASURES)
def test_every_number_of_the_design_survives_being_shown_and_typed_back(path, system):
    from ridgeline.design.paths import quantity_at

    quantity = quantity_at(WHIMBREL, path)
    value = float(get(WHIMBREL, path))
    text = shown(value, quantity, system, 9)
    back = read_text(WHIMBREL, path, text, bare=system[quantity])
    assert back == pytest.approx(value, rel=1e-6, abs=1e-8)


def test_every_figure_of_every_demo_can_be_written_in_both_systems():
    for name in ("whimbrel", "dunlin", "avocet", "turnstone"):
        report = evaluate(load(f"demo:{name}"))
        for figure in report.figures.values():
            for system in (METRIC, IMPERIAL):
                if figure.value is not None:
                    assert "nan" not in with_unit(figure.value, figure.quantity, system)
        for finding in report.findings:
            for system in (METRIC, IMPERIAL):
                assert "{" not in finding.text.render(system) + finding.reason.render(system)
                assert all("{" not in remedy.text.render(system) for remedy in finding.remedies)


moves = st.lists(st.sampled_from(["push", "drag", "seal", "undo", "redo"]), max_size=40)


@settings(max_examples=200)
@given(moves)
def test_undo_and_redo_are_a_walk_on_one_line_whatever_the_order(order):
    """Hold the history to a model: a list of names and a place in it."""
    history = History.of(Design(name="0"))
    line, place, open_drag, count = ["0"], 0, False, 0
    for move in order:
        if move in ("push", "drag"):
            count += 1
            name = str(count)
            if move == "drag" and open_drag and place > 0:
                line = [*line[:place], name]
            else:
                line = [*line[: place + 1], name]
                place += 1
            open_drag = move == "drag"
            history = history.push(Design(name=name), move, merge="tip" if move == "drag" else None)
        elif move == "seal":
            history, open_drag = history.seal(), False
        elif move == "undo":
            history, place = history.undo(), max(place - 1, 0)
            open_drag = False
            history = history.seal()
        else:
            history, place = history.redo(), min(place + 1, len(line) - 1)
            open_drag = False
            history = history.seal()
        assert history.present.name == line[place]
        assert (history.undo_label is None) == (place == 0)
        assert (history.redo_label is None) == (place == len(line) - 1)


def test_two_thousand_items_still_roll_up_exactly():
    item = WHIMBREL.parts[3]
    many = WHIMBREL.model_copy(update={"parts": (*WHIMBREL.parts, *(item for _ in range(2000)))})
    report = evaluate(many)
    plain = evaluate(WHIMBREL)
    assert report.value("mass.auw") == pytest.approx(plain.value("mass.auw") + 2000 * item.weighed)
    whole = plain.value("mass.auw") * plain.value("balance.cg_x") + 2000 * item.weighed * item.x
    assert report.value("balance.cg_x") == pytest.approx(whole / report.value("mass.auw"))


def test_the_text_of_a_design_is_stable():
    text = to_text(WHIMBREL)
    assert to_text(from_text(text, "x")) == text
    assert json.loads(text)["surfaces"][1]["role"] == "v_tail"
