"""Every reader answers every file in plain lines: refused with its place, or read with what was left out."""

import csv
import io
import os

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

import hostile_files
from hostile_files import EXPECTED, FOLDER, READERS, answer
from ridgeline.design.parts import Item
from ridgeline.files.item_file import items_from_text, items_text, read_items
from ridgeline.files.json_text import place_of, read_json, tokens
from ridgeline.files.reading import decode

LARGE = list(hostile_files.large())


@pytest.mark.parametrize("name", sorted(EXPECTED))
def test_a_small_hostile_file_is_answered_with_the_words_it_deserves(qapp_offscreen, name):
    said = answer(name.partition("-")[0], FOLDER / name)
    assert EXPECTED[name] in "\n".join(said) and all("\n" not in line and len(line) < 600 for line in said), said
    assert bool(said) == bool(EXPECTED[name])


def test_every_file_of_the_corpus_is_expected_to_do_something():
    assert {path.name for path in FOLDER.iterdir()} == {*EXPECTED, "expected.json"}


@pytest.mark.parametrize(("kind", "name", "data", "words"), LARGE, ids=[f"{kind} {name}" for kind, name, *_ in LARGE])
def test_a_large_hostile_file_is_answered(qapp_offscreen, tmp_path, kind, name, data, words):
    place = tmp_path / "large"
    place.write_bytes(data)
    said = answer(kind, place)
    assert words in said[0] and "\n" not in said[0] and len(said[0]) < 600


@pytest.mark.parametrize("kind", sorted(READERS))
@pytest.mark.parametrize("what", ["pipe", "folder", "device", "missing", "nul", "long"])
def test_what_is_no_plain_file_is_refused_and_not_waited_for(qapp_offscreen, tmp_path, kind, what):
    place = tmp_path / "given"
    words = {
        "pipe": "a pipe",
        "folder": "a directory",
        "device": "a device",
        "missing": "no such file",
        "nul": "a name no file can have",
        "long": "name too long",
    }[what]
    if what == "pipe":
        os.mkfifo(place)
    elif what == "folder":
        place.mkdir()
    place = {"device": "/dev/zero", "nul": "gi\0ven", "long": "g" * 5000}.get(what, place)
    (said,) = answer(kind, place)
    assert words in said and "\n" not in said and len(said) < 400


def test_a_name_of_a_dash_is_a_name_and_marks_and_returns_are_read():
    assert [item.name for item in read_items(FOLDER / "items-name.csv").items] == ["-"]
    assert [item.name for item in read_items(FOLDER / "items-utf16.csv").items] == ["Spär"]
    assert [item.name for item in read_items(FOLDER / "items-returns.csv").items] == ["Spar", "Rib"]
    assert read_items(FOLDER / "items-thousand.csv").items[0].estimate == pytest.approx(1.5e-3)


names = st.text(min_size=1, max_size=30).filter(lambda t: t.strip() == t and "\0" not in t and t.isprintable())
runners = st.builds(str.__add__, st.sampled_from(["=", "+", "-", "@", "'", "'=", "''"]), names)


@given(names | runners, st.sampled_from([",", ";", "\t"]))
def test_no_cell_that_is_written_is_run_by_a_spreadsheet_and_every_name_comes_back(name, mark):
    item = Item(name=name, group="gear", x=0.1, estimate=0.01)
    text = items_text((item,), mark)
    cell = list(csv.reader(io.StringIO(text), delimiter=mark))[1][0]
    assert cell[0] not in "=+-@\t\r"
    assert items_from_text(text).items == (item,)


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "utf-16-le", "utf-32"])
@pytest.mark.parametrize("ends", ["\n", "\r\n", "\r"])
def test_any_marked_encoding_and_line_end_gives_the_same_text(encoding, ends):
    text = "Möwe 5″\nsecond\n"
    data = text.replace("\n", ends).encode(encoding)
    if encoding == "utf-16-le":
        data = "\ufeff".encode(encoding) + data
    assert decode(data, "x", "table") == text


plain = st.recursive(
    st.none()
    | st.booleans()
    | st.integers(-(10**9), 10**9)
    | st.floats(allow_nan=False, allow_infinity=False)
    | st.text(),
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.text(max_size=5), inner, max_size=4),
    max_leaves=20,
)


@settings(max_examples=200)
@given(plain, st.sampled_from([None, 1, "\t"]))
def test_strict_reading_agrees_with_the_usual_one_and_every_value_has_its_place(data, indent):
    import json

    text = json.dumps(data, indent=indent, ensure_ascii=False)
    assert read_json(text, "x", "design") == data

    def values(node, route=()):
        yield route, node
        if isinstance(node, dict):
            for key, child in node.items():
                yield from values(child, (*route, key))
        elif isinstance(node, list):
            for index, child in enumerate(node):
                yield from values(child, (*route, index))

    lines = text.split("\n")
    for route, value in values(data):
        line, column = (int(word) for word in place_of(text, route).replace("line ", "").split(", column "))
        rest = "\n".join(lines[line - 1 :])[column - 1 :]
        assert json.JSONDecoder().raw_decode(rest)[0] == value
    assert sum(1 for _ in tokens(text)) >= sum(1 for _ in values(data))
