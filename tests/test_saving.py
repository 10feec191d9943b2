"""Saving: whole at every instant, earlier states kept, surprises doubted."""

import errno
import os
import stat

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.document import Design
from ridgeline.errors import DesignError
from ridgeline.files import atomic
from ridgeline.files.atomic import SaveDoubt, has_changed, previous_of, stamp_of, write_atomically
from ridgeline.files.design_file import load, open_file, save, to_text
from ridgeline.files.names import named, safe_name


def test_two_earlier_states_are_kept_and_saving_the_same_again_costs_none(tmp_path):
    path = tmp_path / "plane.ridge"
    for name in ("one", "two", "three", "three"):
        save(Design(name=name), path)
    assert [load(p).name for p in (path, previous_of(path), previous_of(path, 2))] == ["three", "two", "one"]


def test_a_link_is_followed_and_stays_a_link(tmp_path):
    real, link = tmp_path / "real.ridge", tmp_path / "link.ridge"
    save(Design(name="one"), real)
    link.symlink_to(real)
    save(Design(name="two"), link)
    assert link.is_symlink() and load(real).name == "two" and load(previous_of(real)).name == "one"


def test_a_link_to_nowhere_makes_the_file_it_names(tmp_path):
    link = tmp_path / "link.ridge"
    link.symlink_to(tmp_path / "new.ridge")
    save(Design(name="made"), link)
    assert link.is_symlink() and load(tmp_path / "new.ridge").name == "made"


def test_a_file_of_two_names_keeps_one_content(tmp_path):
    first, second = tmp_path / "first.ridge", tmp_path / "second.ridge"
    save(Design(name="one"), first)
    os.link(first, second)
    save(Design(name="two"), first)
    save(Design(name="three"), second)
    assert os.path.samefile(first, second) and load(first).name == "three"
    assert load(previous_of(first)).name == "one" and load(previous_of(second)).name == "two"


def test_a_kept_state_left_linked_by_a_kill_is_not_written_through(tmp_path):
    path = tmp_path / "plane.ridge"
    save(Design(name="one"), path)
    os.link(path, previous_of(path))
    save(Design(name="two"), path)
    assert load(path).name == "two" and load(previous_of(path)).name == "one"


def test_a_file_marked_read_only_is_not_overwritten_unasked(tmp_path):
    path = tmp_path / "plane.ridge"
    save(Design(name="one"), path)
    path.chmod(0o444)
    with pytest.raises(SaveDoubt) as caught:
        save(Design(name="two"), path)
    assert caught.value.kind == "read_only" and load(path).name == "one"
    save(Design(name="two"), path, even_if=["read_only"])
    assert load(path).name == "two" and stat.S_IMODE(path.stat().st_mode) == 0o444


def test_rights_and_owner_go_over_to_the_new_file(tmp_path):
    path = tmp_path / "plane.ridge"
    save(Design(name="one"), path)
    path.chmod(0o640)
    save(Design(name="two"), path)
    assert stat.S_IMODE(path.stat().st_mode) == 0o640


@pytest.mark.parametrize("kind", ["folder", "pipe", "null"])
def test_what_is_no_plain_file_is_not_written_to(tmp_path, kind):
    path = tmp_path / "plane.ridge"
    if kind == "folder":
        path.mkdir()
    elif kind == "pipe":
        os.mkfifo(path)
    else:
        path.symlink_to("/dev/null")
    with pytest.raises(DesignError, match="plain file"):
        save(Design(), path)


def test_names_at_and_past_the_longest_are_written_or_refused(tmp_path):
    longest = tmp_path / ("a" * 249 + ".ridge")
    save(Design(name="one"), longest)
    save(Design(name="two"), longest)
    assert load(longest).name == "two"
    with pytest.raises(DesignError, match="name too long"):
        save(Design(), tmp_path / ("a" * 250 + ".ridge"))
    with pytest.raises(DesignError, match="no file can have"):
        save(Design(), "pla\0ne.ridge")


CALLS = ["mkstemp", "fsync", "replace", "link", "chmod", "chown", "stat", "write", "unlink", "open"]


@pytest.mark.parametrize("code", [errno.ENOSPC, errno.EIO, errno.EACCES])
@pytest.mark.parametrize("call", CALLS)
@pytest.mark.parametrize("turn", [1, 2, 3])
def test_a_failure_of_any_call_at_any_turn_leaves_old_or_new_text_whole(tmp_path, monkeypatch, call, code, turn):
    """Fault injection on the calls a save makes: the file is whole, and no half-written one is left beside it."""
    path = tmp_path / "plane.ridge"
    save(Design(name="old"), path)
    place = atomic.tempfile if call == "mkstemp" else atomic.os
    real, left = getattr(place, call), [turn]

    def failing(*arguments, **more):
        left[0] -= 1
        if left[0] == 0:
            raise OSError(code, os.strerror(code))
        return real(*arguments, **more)

    monkeypatch.setattr(place, call, failing)
    refused = False
    try:
        save(Design(name="new"), path)
    except DesignError as error:
        refused = True
        assert "\n" not in str(error) and os.strerror(code).lower() in str(error)
    monkeypatch.undo()
    assert load(path).name in (("old", "new") if refused else ("new",))
    if call != "unlink":
        assert not list(tmp_path.glob(".plane*"))


def test_a_full_disk_costs_nothing_and_is_said(tmp_path, monkeypatch):
    path = tmp_path / "plane.ridge"
    save(Design(name="old"), path)

    class Full:
        def __init__(self, *_arguments, **_more):
            pass

        def __enter__(self):
            return self

        def __exit__(self, *_error):
            return False

        def write(self, _data):
            raise OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))

    monkeypatch.setattr(atomic.os, "fdopen", Full)
    with pytest.raises(DesignError, match="no space left"):
        save(Design(name="new"), path)
    monkeypatch.undo()
    assert load(path).name == "old" and sorted(os.listdir(tmp_path)) == ["plane.ridge"]


def test_what_a_killed_save_left_is_cleaned_but_not_what_a_running_one_writes(tmp_path):
    path = tmp_path / "plane.ridge"
    dead, alive, other = (
        tmp_path / name
        for name in (
            ".plane.ridge.999999999.x.part",
            f".plane.ridge.{os.getpid()}.y.part",
            ".other.ridge.999999999.z.part",
        )
    )
    for left in (dead, alive, other):
        left.write_text("half")
    save(Design(), path)
    assert not dead.exists() and alive.exists() and other.exists()


def test_a_file_cut_short_in_place_is_read_from_the_whole_text_beside_it(tmp_path):
    path = tmp_path / "plane.ridge"
    path.write_text(to_text(Design(name="new"))[:40])
    (tmp_path / ".plane.ridge.999999999.x.part").write_text(to_text(Design(name="new")))
    opened = open_file(path)
    assert opened.design.name == "new" and "cut short" in opened.note


def test_a_spoilt_file_names_the_earlier_state_that_is_kept(tmp_path):
    path = tmp_path / "plane.ridge"
    save(Design(name="one"), path)
    save(Design(name="two"), path)
    path.write_text("{")
    with pytest.raises(DesignError, match=r"earlier state is kept as plane\.ridge~"):
        load(path)


def test_a_change_is_told_by_content_and_not_by_time(tmp_path):
    path = tmp_path / "plane.ridge"
    save(Design(name="one"), path)
    stamp = stamp_of(path)
    assert not has_changed(path, stamp)
    os.utime(path, ns=(1, 1))
    assert not has_changed(path, stamp)
    path.write_text(to_text(Design(name="two")))
    assert has_changed(path, stamp)
    path.unlink()
    assert not has_changed(path, stamp)


@pytest.mark.parametrize(
    ("name", "made"),
    [
        ("plane", "plane.ridge"),
        ("Mud Plover 1.2", "Mud Plover 1.2.ridge"),
        ("plane.RIDGE", "plane.RIDGE"),
        ("plane.json", "plane.json"),
        ("plane.final", "plane.final.ridge"),
    ],
)
def test_a_name_gets_the_suffix_of_its_kind(tmp_path, name, made):
    assert save(Design(), tmp_path / name).name == made and (tmp_path / made).exists()


@given(st.text(max_size=200))
def test_any_design_name_makes_a_file_name(words):
    name = safe_name(words, ".ridge")
    assert "/" not in name and not name.startswith((".", "-", "~")) and len(name.encode()) <= 126
    assert (named(name, ".ridge").name == name and name.isprintable()) or any(not c.isprintable() for c in words)


def test_a_harmless_name_is_kept_as_it_is():
    assert safe_name("Saltmarsh Whimbrel", ".ridge") == "Saltmarsh Whimbrel.ridge"
    assert safe_name("../../etc/passwd") == "etc passwd" and safe_name("...") == "Untitled"


def test_text_that_is_there_already_is_not_written_again(tmp_path):
    path = tmp_path / "a.txt"
    write_atomically(path, "same")
    inode = path.stat().st_ino
    write_atomically(path, "same")
    assert path.stat().st_ino == inode and not previous_of(path).exists()
