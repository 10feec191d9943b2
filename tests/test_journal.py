"""The journal of a sitting: every edit on disk, read back as far as it is whole, never another window's."""

import json
import os
import subprocess
import sys
import time

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.base import Node
from ridgeline.design.document import Design, from_plain
from ridgeline.design.patches import difference, patched
from ridgeline.design.paths import REMOVE, Change, apply, get
from ridgeline.engine.advice.sensitivity import measures
from ridgeline.errors import DesignError
from ridgeline.files import choices, journal, sittings
from ridgeline.files.design_file import load, save, to_text
from ridgeline.files.journal import Opened, read_journal
from ridgeline.files.processes import present, runs_still
from ridgeline.files.sittings import Sitting, drop, leftovers, others_on, undrop

WHIMBREL = load("demo:whimbrel")
MEASURES = [path for path, _label in measures(WHIMBREL)]
LISTS = ["parts", "surfaces", "surfaces[0].stations", "surfaces[1].controls", "bodies[0].stations"]


@st.composite
def edits(draw):
    """Draw a design a few edits away from the sample: numbers changed, entries added, removed and moved."""
    design = WHIMBREL
    for _ in range(draw(st.integers(0, 5))):
        path = draw(st.sampled_from([*MEASURES, *LISTS]))
        try:
            if path in LISTS:
                entries = get(design, path)
                kind = draw(st.sampled_from(["remove", "double", "turn"]))
                index = draw(st.integers(0, max(len(entries) - 1, 0)))
                if kind == "remove":
                    design = apply(design, [Change(f"{path}[{index}]", REMOVE)])
                elif kind == "double":
                    design = apply(design, [Change(f"{path}[-]", entries[index])])
                else:
                    design = apply(design, [Change(path, entries[::-1])])
            else:
                design = apply(design, [Change(path, get(design, path) * draw(st.floats(0.9, 1.1)))])
        except (DesignError, IndexError):
            continue
    return design


@settings(max_examples=60)
@given(edits(), edits())
def test_the_patches_between_two_designs_turn_one_into_the_other(before, after):
    patches = json.loads(json.dumps(difference(before, after)))
    assert from_plain(patched(before.model_dump(mode="json"), patches)) == after
    assert bool(patches) == (before != after)


def test_an_edit_of_one_item_among_thousands_is_a_short_line():
    lamps = tuple(WHIMBREL.parts[3].model_copy(update={"id": f"lamp{k}", "on": None}) for k in range(3000))
    many = WHIMBREL.model_copy(update={"parts": lamps})
    after = apply(many, [Change("parts[2000].x", 0.123)])
    assert difference(many, after) == [[["parts", 2000, "x"], 0.123]]
    fewer = apply(many, [Change("parts[5]", REMOVE)])
    assert len(json.dumps(difference(many, fewer))) < 60


@pytest.mark.parametrize(
    "patch", [[["parts", 99, "x"], 1.0], [["nowhere", "x"], 1.0], [["parts"], 90, 1, []], [["name", 0], 1]]
)
def test_a_patch_that_does_not_fit_is_refused(patch):
    with pytest.raises((LookupError, TypeError)):
        patched(WHIMBREL.model_dump(mode="json"), [patch])


def begin(opened=Opened(None, "Plane")):  # noqa: B008
    said = []
    sitting = Sitting(opened, said.append)
    assert sitting.flush()
    return sitting, said


def beginning():
    header = journal.header_line(present(), "t", 1.0)
    return [header, journal.open_line(Opened(None, "x")), journal.base_line(WHIMBREL)]


def named(name):
    return WHIMBREL.model_copy(update={"name": name})


def test_every_edit_is_on_disk_as_soon_as_it_is_flushed_and_offered_after_the_end(tmp_path):
    sitting, said = begin(Opened(str(tmp_path / "plane.ridge"), "Saltmarsh Whimbrel"))
    for k in range(5):
        sitting.record(WHIMBREL, named(f"Edit {k}"), "rename")
    assert sitting.flush()
    read = read_journal(sitting.path)
    assert len(read.edits) == 5 and read.name == "Edit 4" and read.design() == named("Edit 4")
    assert leftovers() == ([], []), "a running sitting's work is offered to no other window"
    sitting.close(keep=True)
    (left,), report = leftovers()
    assert (left.name, left.edits, left.file, report) == ("Edit 4", 5, str(tmp_path / "plane.ridge"), [])
    assert abs(left.when - time.time()) < 60 and left.base() == WHIMBREL and not said


def test_a_sitting_without_edits_or_with_saved_ones_leaves_nothing():
    for edit in (False, True):
        sitting, _said = begin()
        if edit:
            sitting.record(WHIMBREL, named("x"), "rename")
            sitting.restart(Opened("plane.ridge", "x"))
        sitting.close(keep=True)
    assert leftovers() == ([], []) and not list(sittings.sittings_folder().glob("*.journal"))


@settings(max_examples=25)
@given(st.data())
def test_a_journal_cut_anywhere_gives_the_edits_before_the_cut(tmp_path_factory, data):
    designs = [named(f"Edit {k}") for k in range(1, 5)]
    lines = [
        journal.header_line(present(), "t", 1.0),
        journal.open_line(Opened(None, "x")),
        journal.base_line(WHIMBREL),
    ]
    for k, (before, after) in enumerate(zip([WHIMBREL, *designs], designs, strict=False)):
        lines.append(journal.edit_line("rename", after.name, 2.0 + k, difference(before, after)))
    whole = b"".join(lines)
    starts = [sum(map(len, lines[:k])) for k in range(len(lines) + 1)]
    cut = data.draw(st.integers(starts[3], len(whole)))
    path = tmp_path_factory.mktemp("cut") / "t.journal"
    path.write_bytes(whole[:cut])
    count = sum(start <= cut for start in starts[4:])
    read = read_journal(path)
    assert len(read.edits) == count and bool(read.torn) == (cut not in starts)
    assert read.design() == ([WHIMBREL, *designs][count])


@settings(max_examples=60)
@given(st.binary(max_size=40), st.integers(0, 4000))
def test_a_spoilt_journal_is_read_up_to_there_or_refused(tmp_path_factory, rubbish, place):
    path = tmp_path_factory.mktemp("spoilt") / "t.journal"
    edit = journal.edit_line("rename", "b", 2.0, difference(WHIMBREL, named("b")))
    text = (
        journal.header_line(present(), "t", 1.0)
        + journal.open_line(Opened(None, "x"))
        + journal.base_line(WHIMBREL)
        + edit
    )
    path.write_bytes(text[:place] + rubbish + text[place:])
    try:
        read = read_journal(path)
        if read.edits:
            assert isinstance(read.design(), Design)
    except DesignError as error:
        assert "\n" not in str(error)


def test_rubbish_among_the_journals_is_set_aside_and_said_and_never_deleted():
    folder = sittings.sittings_folder()
    (folder / "bad.journal").write_bytes(b"\xff\xfe rubbish\n")
    old = folder.parent / "unsaved"
    old.mkdir()
    (old / "copy.ridge").write_text(to_text(named("Of old")))
    (old / "spoilt.ridge").write_bytes(b"\x80\x81")
    found, report = leftovers()
    assert [left.name for left in found] == ["Of old"] and found[0].design() == named("Of old")
    assert len(report) == 2 and all("it is kept as" in words for words in report)
    assert (folder / "bad.journal.unread").exists() and (old / "spoilt.ridge.unread").exists()


def test_dropped_work_can_be_taken_back():
    sitting, _said = begin()
    sitting.record(WHIMBREL, named("x"), "rename")
    sitting.close(keep=True)
    (left,), _report = leftovers()
    there = drop(left)
    assert leftovers() == ([], [])
    undrop(left, there)
    assert [again.name for again in leftovers()[0]] == ["x"]


def test_running_work_is_not_dropped():
    sitting, _said = begin()
    sitting.record(WHIMBREL, named("x"), "rename")
    assert sitting.flush()
    running = sittings.Leftover(sitting.path, "x", 0.0, 1, None, read_journal(sitting.path))
    assert drop(running) is None and sitting.path.exists()
    sitting.close(keep=True)
    assert drop(running) is not None


def test_a_lock_whose_process_is_gone_is_stale_and_one_of_another_computer_is_left(monkeypatch):
    sitting, _said = begin()
    sitting.record(WHIMBREL, named("x"), "rename")
    assert sitting.flush()
    mine = present()
    gone = mine._replace(number=999_999_999)
    assert runs_still(mine) is True and runs_still(gone) is False
    assert runs_still(mine._replace(begun=mine.begun + 1)) is False, "the number was given to another process"
    assert runs_still(mine._replace(boot="another")) is False and runs_still(mine._replace(host="another")) is None
    for process, offered in ((gone, 1), (mine, 0), (mine._replace(host="another"), 0)):
        text = sitting.path.read_bytes().split(b"\n", 1)[1]
        sitting.path.write_bytes(journal.header_line(process, sitting.token, 1.0) + text)
        assert len(leftovers()[0]) == offered, process
    # No locks at all: only the process tells.
    monkeypatch.setattr(journal, "is_held", lambda _path: None)
    assert leftovers() == ([], [])
    sitting.close(keep=False)


def test_windows_on_one_file_know_of_each_other_by_whatever_name(tmp_path):
    path = save(WHIMBREL, tmp_path / "plane.ridge")
    (tmp_path / "link.ridge").symlink_to(path)
    first, _said = begin(Opened(str(path), "Whimbrel"))
    second, _said = begin(Opened(str(tmp_path / "link.ridge"), "Whimbrel"))
    first.record(WHIMBREL, named("x"), "rename")
    assert first.flush()
    (other,) = others_on(tmp_path / "link.ridge", token=second.token)
    assert len(other.edits) == 1 and others_on(tmp_path / "else.ridge", token=second.token) == []
    first.close(keep=False)
    assert others_on(path, token=second.token) == []
    second.close(keep=False)


def test_a_long_journal_is_written_anew_with_one_line_and_loses_nothing(monkeypatch):
    monkeypatch.setattr(sittings, "_COMPACT_BYTES", 1000)
    sitting, said = begin()
    base = len(journal.base_line(WHIMBREL))
    for k in range(400):
        sitting.record(WHIMBREL, named(f"{k:0180d}"), "rename")
    assert sitting.flush() and not said
    assert sitting.path.stat().st_size < 3 * base + 3000
    assert leftovers() == ([], []), "the new journal is locked too"
    assert read_journal(sitting.path).design() == named(f"{399:0180d}")
    sitting.close(keep=False)


def test_a_full_disk_is_said_and_the_next_edit_that_fits_brings_all_of_it(monkeypatch):
    sitting, said = begin()
    real = os.write

    def full(handle, data):
        real(handle, bytes(data)[: len(data) // 2])
        raise OSError(28, "No space left on device")

    sitting.record(WHIMBREL, named("a"), "rename")
    assert sitting.flush()
    monkeypatch.setattr(os, "write", full)
    sitting.record(WHIMBREL, named("b"), "rename")
    assert sitting.flush() and said == ["no space left on device"]
    monkeypatch.undo()
    sitting.record(WHIMBREL, named("c"), "rename")
    assert sitting.flush() and said[1:] == [""]
    assert read_journal(sitting.path).design() == named("c") and read_journal(sitting.path).torn == ""
    sitting.close(keep=False)


def test_a_cleared_data_folder_is_made_again_by_the_next_edit(tmp_path):
    sitting, _said = begin()
    sitting.path.unlink()
    sitting.record(WHIMBREL, named("x"), "rename")
    assert sitting.flush() and read_journal(sitting.path).design() == named("x")
    sitting.close(keep=False)


@pytest.mark.parametrize("kind", ["file", "unwritable", "missing parent is a file", "null"])
def test_a_data_folder_that_cannot_be_used_is_said_and_stops_nothing(tmp_path, monkeypatch, kind):
    place = tmp_path / "place"
    if kind == "unwritable":
        place = "/proc/ridgeline"
    elif kind == "null":
        place = "/dev/null"
    else:
        place.write_text("a file")
        place = place / "below" if kind.startswith("missing") else place
    monkeypatch.setenv("RIDGELINE_DATA", str(place))
    assert choices.folder_problem() and choices.remembered() == {}
    said = []
    sitting = Sitting(Opened(None, "x"), said.append)
    sitting.record(WHIMBREL, named("x"), "rename")
    assert sitting.flush() and said and "\n" not in said[0]
    sitting.close(keep=True)
    with pytest.raises(DesignError):
        leftovers()
    with pytest.raises(DesignError):
        choices.remember(theme="dark")


RUBBISH = [
    b"",
    b"{",
    b"[1]",
    b"\xff\xfe\x00",
    b'{"recent": 5, "theme": ["x"], "units": 7}',
    b'{"recent": ["\\u0000", 3, "x"]}',
    b"[" * 5000,
]


@pytest.mark.parametrize("rubbish", RUBBISH)
def test_rubbish_in_the_remembered_choices_counts_as_none_and_is_set_aside(rubbish):
    file = choices.data_folder() / "desk.json"
    file.write_bytes(rubbish)
    assert choices.remembered_word("theme", ("light", "dark")) == "light"
    assert choices.remembered_word("units", ("metric", "imperial")) == "metric"
    from ridgeline.files.desk_memory import recent_files

    assert recent_files() == []
    choices.remember(theme="dark")
    assert choices.remembered()["theme"] == "dark"
    try:
        was_memory = isinstance(json.loads(rubbish), dict)
    except (ValueError, RecursionError):
        was_memory = False
    assert was_memory or (choices.data_folder() / "desk.unread").read_bytes() == rubbish


def test_nodes_are_compared_by_identity_first(monkeypatch):
    """What an edit did not touch is not looked at: the comparison of a node is never asked."""

    def asked(*_pair):
        raise AssertionError("compared")

    after = apply(WHIMBREL, [Change("brief.ceiling", 0.9)])
    monkeypatch.setattr(Node, "__eq__", asked)
    assert difference(WHIMBREL, after) == [[["brief", "ceiling"], 0.9]]


def test_an_ended_process_frees_its_journal(tmp_path):
    """A child is killed while it holds its journal: the system frees the lock, and its work is offered."""
    code = (
        "import sys, time\n"
        "from ridgeline.files.design_file import load\n"
        "from ridgeline.files.sittings import Sitting\n"
        "from ridgeline.files.journal import Opened\n"
        "w = load('demo:whimbrel')\n"
        "s = Sitting(Opened(None, 'x'), print)\n"
        "s.record(w, w.model_copy(update={'name': 'Held'}), 'rename')\n"
        "s.flush(); print('ready', flush=True); sys.stdin.read()\n"
    )
    child = subprocess.Popen([sys.executable, "-c", code], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)
    assert child.stdout.readline().strip() == "ready"
    assert leftovers() == ([], [])
    child.kill()
    child.wait()
    child.stdin.close()
    child.stdout.close()
    assert [left.name for left in leftovers()[0]] == ["Held"]
