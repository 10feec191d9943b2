import json
import os

import pytest

from ridgeline.design.document import Design
from ridgeline.errors import DesignError
from ridgeline.files import atomic, choices, desk_memory
from ridgeline.files.atomic import previous_of
from ridgeline.files.design_file import from_text, load, save, to_text
from ridgeline.library import demo_names, demo_text


def test_a_saved_design_opens_equal(whimbrel, tmp_path):
    path = save(whimbrel, tmp_path / "plane")
    assert path.suffix == ".ridge" and load(path) == whimbrel
    assert path.read_text("utf-8").startswith("{\n")


def test_saving_keeps_the_previous_file_whole(whimbrel, tmp_path):
    path = save(whimbrel, tmp_path / "plane.ridge")
    save(Design(name="Second"), path)
    assert load(path).name == "Second"
    assert from_text(previous_of(path).read_text("utf-8"), "previous") == whimbrel


@pytest.mark.parametrize("step", ["fsync", "replace", "link"])
def test_a_failure_at_any_step_of_saving_leaves_the_old_file(whimbrel, tmp_path, monkeypatch, step):
    path = save(whimbrel, tmp_path / "plane.ridge")

    def fail(*_args, **_more):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(atomic.os, step, fail)
    if step == "link":
        save(Design(name="Second"), path)
        assert from_text(previous_of(path).read_text("utf-8"), "copied") == whimbrel
        return
    with pytest.raises(DesignError, match="no space left"):
        save(Design(name="Second"), path)
    monkeypatch.undo()
    assert load(path) == whimbrel
    assert not [name for name in os.listdir(tmp_path) if name.startswith(".plane")]


def test_saving_where_nothing_can_be_written_says_so(whimbrel, tmp_path):
    with pytest.raises(DesignError, match=r"no such file or directory.*allowed: a place"):
        save(whimbrel, tmp_path / "nowhere" / "plane.ridge")


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "an empty file"),
        ("   \n", "an empty file"),
        ("hello", "line 1, column 1: understood text that is not JSON"),
        ("[1, 2]", "a Ridgeline design"),
        ('{"format": "ridgeline"}', "format_version"),
        ('{"format": "ridgeline", "format_version": 7}', "written by a newer Ridgeline"),
        ('{"format": "ridgeline", "format_version": 1, "wings": []}', "wings: understood"),
        ('{"format": "ridgeline", "format_version": 1, "brief": {"ceiling": NaN}}', "finite numbers only"),
        ('{"format": "ridgeline", "format_version": 1, "brief": {"ceiling": "heavy"}}', "brief.ceiling"),
        ("[" * 100_000, "x.ridge"),
    ],
)
def test_a_bad_file_opens_nothing_and_says_where(text, words):
    with pytest.raises(DesignError) as caught:
        from_text(text, "x.ridge")
    assert words in str(caught.value)


def test_a_truncated_file_names_the_line_it_ends_on(whimbrel):
    text = to_text(whimbrel)
    for share in (0.1, 0.5, 0.99):
        with pytest.raises(DesignError, match=r"x.ridge: line \d+, column \d+"):
            from_text(text[: int(share * len(text))], "x.ridge")


def test_files_that_are_not_text_or_not_there_are_refused(tmp_path):
    picture = tmp_path / "picture.ridge"
    picture.write_bytes(b"\x89PNG\xff\xfe\x00")
    with pytest.raises(DesignError, match="not text"):
        load(picture)
    with pytest.raises(DesignError, match="no such file"):
        load(tmp_path / "gone.ridge")
    with pytest.raises(DesignError, match="directory"):
        load(tmp_path)


def test_a_demo_that_does_not_exist_names_those_that_do():
    with pytest.raises(DesignError, match="demo:whimbrel"):
        load("demo:pelican")


@pytest.mark.parametrize("name", demo_names())
def test_every_demo_file_is_written_as_this_program_writes_it(name):
    assert demo_text(name) == to_text(load(f"demo:{name}"))


def test_recent_files_are_newest_first_without_doubles_and_without_the_gone(tmp_path):
    names = [tmp_path / f"{letter}.ridge" for letter in "abc"]
    for path in names:
        path.write_text("x")
        desk_memory.note_recent(path)
    desk_memory.note_recent(names[0])
    names[1].unlink()
    assert desk_memory.recent_files() == [str(names[0]), str(names[2])]


def test_choices_are_remembered_and_a_broken_memory_counts_as_none():
    choices.remember(theme="dark")
    choices.remember(units="imperial")
    assert choices.remembered() == {"theme": "dark", "units": "imperial"}
    (choices.data_folder() / "desk.json").write_text("{")
    assert choices.remembered() == {}


def test_the_file_is_plain_json_in_si(whimbrel):
    data = json.loads(to_text(whimbrel))
    assert data["format"] == "ridgeline" and data["format_version"] == 4
    assert data["surfaces"][0]["stations"][0]["chord"] == 0.218
