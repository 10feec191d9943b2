"""Sittings: the one that runs in this window, which records its edits, and those that left work behind.

A sitting holds its journal locked while it runs; the system frees the lock when the process ends, however it ends.
Where there are no locks, or one is left hanging, the process itself is looked for.
"""

from __future__ import annotations

import contextlib
import os
import queue
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from uuid import uuid4

from ridgeline.design.document import Design
from ridgeline.design.patches import difference
from ridgeline.errors import DesignError
from ridgeline.files import journal
from ridgeline.files.choices import data_folder
from ridgeline.files.design_file import from_text
from ridgeline.files.journal import JournalRead, Opened, read_journal
from ridgeline.files.processes import present, runs_still
from ridgeline.files.reading import read_text

#: Journals that were dropped lie here, the newest few of them.
_DROPPED = "dropped"
_DROPPED_KEPT = 10
_UNREAD = ".unread"
_LARGEST_COPY = 64_000_000
#: A journal that outgrows its base by this much is written anew with one line.
_COMPACT_BYTES = 16_000_000


def sittings_folder() -> Path:
    """Return the folder of the journals.

    Raises
    ------
    DesignError
        When there is none and none can be made.
    """
    folder = data_folder() / "sittings"
    try:
        folder.mkdir(exist_ok=True)
    except OSError as error:
        reason = (error.strerror or str(error)).lower()
        raise DesignError(str(folder), reason, "a folder that can be written") from error
    return folder


class Sitting:
    """The journal of this window. Recording costs the caller nothing but a queue: a thread of its own writes and syncs.

    Parameters
    ----------
    opened : Opened
        What is worked on.
    told : callable
        Called, from that thread, with one sentence when nothing can be kept; and with nothing when it can again.
    """

    def __init__(self, opened: Opened, told: Callable[[str], None]) -> None:
        self.token = uuid4().hex[:12]
        self._told = told
        self._opened = opened
        self._handle = -1
        self._path: Path | None = None
        self._problem = ""
        #: The state the journal holds, None before its base is written; and how long it was then.
        self._last: Design | None = None
        self._whole = self._base_length = 0
        self._tasks: queue.SimpleQueue[Callable[[], None] | None] = queue.SimpleQueue()
        self._thread: threading.Thread | None = None
        # Looked for now: the thread comes to it a moment later.
        self._folder: Path | None = None
        with contextlib.suppress(DesignError):
            self._folder = sittings_folder()
        self._submit(self._begin)

    @property
    def path(self) -> Path | None:
        """Return the journal's file, once there is one."""
        return self._path

    def record(self, base: Design, design: Design, label: str) -> None:
        """Record that an edit led to a design; ``base`` is what the edits of this sitting began at."""
        at = time.time()
        self._submit(lambda: self._write_edit(base, design, label, at))

    def restart(self, opened: Opened) -> None:
        """Begin anew: the work is saved, or left on purpose, and the journal empty."""
        self._submit(lambda: self._restart(opened))

    def flush(self, seconds: float = 5.0) -> bool:
        """Wait until everything recorded is on disk; False when that takes too long."""
        if self._thread is None:
            return True
        done = threading.Event()
        self._tasks.put(done.set)
        return done.wait(seconds)

    def close(self, *, keep: bool) -> None:
        """End the sitting; its journal stays when ``keep`` is set, to be offered at the next start."""
        self._submit(lambda: self._end(keep))
        self._tasks.put(None)
        if self._thread is not None:
            self._thread.join(5.0)
            self._thread = None

    def _submit(self, task: Callable[[], None]) -> None:
        if self._thread is None:
            self._thread = threading.Thread(target=self._run, name="journal", daemon=True)
            self._thread.start()
        self._tasks.put(task)

    def _run(self) -> None:
        while (task := self._tasks.get()) is not None:
            try:
                task()
            except DesignError as error:
                self._say(str(error))
            except OSError as error:
                self._say((error.strerror or str(error)).lower())

    def _say(self, problem: str) -> None:
        if problem != self._problem:
            self._problem = problem
            self._told(problem)

    def _begin(self) -> None:
        self._folder = self._folder or sittings_folder()
        path = self._folder / f"{self.token}{journal.SUFFIX}"
        self._handle = os.open(path, os.O_RDWR | os.O_CREAT | os.O_EXCL | os.O_CLOEXEC, 0o600)
        self._path = path
        journal.lock(self._handle)
        self._last, self._whole = None, 0
        self._append(journal.header_line(present(), self.token, time.time()) + journal.open_line(self._opened))

    def _ready(self) -> None:
        if self._handle < 0:
            self._begin()
        elif self._path is not None and not self._path.exists():
            # Somebody cleared the folder: begin a new file with what there is.
            os.close(self._handle)
            self._handle = -1
            self.token = uuid4().hex[:12]
            self._begin()

    def _append(self, data: bytes) -> None:
        """Append and sync; what a failure left half-written is cut off again."""
        try:
            os.lseek(self._handle, self._whole, os.SEEK_SET)
            _write_all(self._handle, data)
        except OSError:
            with contextlib.suppress(OSError):
                os.ftruncate(self._handle, self._whole)
            raise
        self._whole += len(data)
        self._say("")

    def _write_edit(self, base: Design, design: Design, label: str, at: float) -> None:
        self._ready()
        fresh = b""
        if self._last is None:
            fresh = journal.base_line(base)
            self._base_length = len(fresh)
        before = base if self._last is None else self._last
        line = journal.edit_line(label, design.name, at, difference(before, design))
        if self._last is not None and self._whole + len(line) > _COMPACT_BYTES + 2 * self._base_length:
            self._compact(base, design, label, at)
        else:
            self._append(fresh + line)
        self._last = design

    def _compact(self, base: Design, design: Design, label: str, at: float) -> None:
        """Write the journal anew with its base and one line; the old one stays until the new one is whole."""
        assert self._path is not None
        fresh = self._path.with_suffix(".fresh")
        data = (
            journal.header_line(present(), self.token, at)
            + journal.open_line(self._opened)
            + journal.base_line(base)
            + journal.edit_line(label, design.name, at, difference(base, design))
        )
        handle = os.open(fresh, os.O_RDWR | os.O_CREAT | os.O_TRUNC | os.O_CLOEXEC, 0o600)
        try:
            journal.lock(handle)
            _write_all(handle, data)
            os.replace(fresh, self._path)
        except OSError:
            os.close(handle)
            fresh.unlink(missing_ok=True)
            raise
        os.close(self._handle)
        self._handle, self._whole = handle, len(data)
        self._say("")

    def _restart(self, opened: Opened) -> None:
        self._opened = opened
        self._ready()
        # A kill between the two leaves a journal without a base: nothing unsaved, which is true.
        os.ftruncate(self._handle, 0)
        self._last, self._whole = None, 0
        self._append(journal.header_line(present(), self.token, time.time()) + journal.open_line(opened))

    def _end(self, keep: bool) -> None:
        if self._handle < 0:
            return
        if not (keep and self._last is not None) and self._path is not None:
            self._path.unlink(missing_ok=True)
        os.close(self._handle)
        self._handle = -1


def _write_all(handle: int, data: bytes) -> None:
    left = memoryview(data)
    while left:
        left = left[os.write(handle, left) :]
    os.fdatasync(handle)


@dataclass
class Leftover:
    """Work a sitting left unsaved.

    ``read`` is its journal, None for a copy kept by an older version of the program, which had no journals.
    """

    path: Path
    name: str
    when: float
    edits: int | None
    file: str | None
    read: JournalRead | None = None

    def design(self) -> Design:
        """Return the work.

        Raises
        ------
        DesignError
            When it cannot be read.
        """
        if self.read is not None:
            return self.read.design()
        return from_text(read_text(self.path, _LARGEST_COPY, "recovery copy"), "recovery copy")

    def base(self) -> Design | None:
        """Return what the edits began at, None where that is not known."""
        return None if self.read is None else self.read.base()


def leftovers() -> tuple[list[Leftover], list[str]]:
    """Return the work sittings that ended left behind, newest first, and what could not be read and was set aside.

    Raises
    ------
    DesignError
        When the folder cannot be read.
    """
    found: list[Leftover] = []
    report: list[str] = []
    folder = sittings_folder()
    for path in _entries(folder, f"*{journal.SUFFIX}"):
        if _running(path):
            continue
        try:
            read = read_journal(path)
        except DesignError as error:
            _set_aside(path, report, error)
            continue
        if read.edits:
            found.append(Leftover(path, read.name, read.last_at, len(read.edits), read.opened.file, read))
        else:
            with contextlib.suppress(OSError):
                path.unlink()
    for path in _entries(folder.parent / "unsaved", "*.ridge"):
        try:
            design = from_text(read_text(path, _LARGEST_COPY, "recovery copy"), "recovery copy")
            found.append(Leftover(path, design.name, path.stat().st_mtime, None, None))
        except DesignError as error:
            _set_aside(path, report, error)
        except OSError:
            continue  # gone meanwhile
    return sorted(found, key=lambda left: -left.when), report


def _entries(folder: Path, pattern: str) -> list[Path]:
    try:
        return sorted(path for path in folder.glob(pattern) if path.is_file())
    except OSError:
        return []


def _running(path: Path) -> bool:
    held = journal.is_held(path)
    if held is False:
        return _just_begun(path)
    try:
        process = read_journal(path).process
    except DesignError:
        return bool(held)
    alive = None if process is None else runs_still(process)
    # A lock without its process is stale; no lock and no way to tell is taken as running, so that nothing is dropped.
    return True if alive is None else alive


def _just_begun(path: Path) -> bool:
    """Tell whether a journal is empty and so young that its sitting may not have locked it yet."""
    try:
        found = path.stat()
    except OSError:
        return False
    return found.st_size == 0 and time.time() - found.st_mtime < 5.0


def _set_aside(path: Path, report: list[str], error: DesignError) -> None:
    aside = path.with_name(path.name + _UNREAD)
    with contextlib.suppress(OSError):
        path.replace(aside)
        report.append(f"{path.name} could not be read ({error.understood}); it is kept as {aside.name}")


def drop(left: Leftover) -> Path | None:
    """Put unwanted work among the dropped, the newest few of which are kept; None while a sitting runs it."""
    if left.read is not None and _running(left.path):
        return None
    folder = left.path.parent / _DROPPED
    try:
        folder.mkdir(exist_ok=True)
        there = folder / left.path.name
        os.replace(left.path, there)
        old = sorted(folder.iterdir(), key=lambda path: path.stat().st_mtime, reverse=True)
        for path in old[_DROPPED_KEPT:]:
            path.unlink()
    except OSError as error:
        reason = (error.strerror or str(error)).lower()
        raise DesignError(left.path.name, reason, "a folder that can be written") from error
    return there


def undrop(left: Leftover, there: Path) -> None:
    """Take dropped work back among what was left."""
    with contextlib.suppress(OSError):
        os.replace(there, left.path)


def others_on(file: Path, *, token: str) -> list[JournalRead]:
    """Return the running sittings, other than this one, that have the same file open."""
    found = []
    try:
        folder = sittings_folder()
    except DesignError:
        return []
    for path in _entries(folder, f"*{journal.SUFFIX}"):
        if path.stem == token or not _running(path):
            continue
        try:
            read = read_journal(path)
        except DesignError:
            continue
        if read.opened.file is not None and _same_file(read.opened.file, file):
            found.append(read)
    return found


def _same_file(name: str, file: Path) -> bool:
    try:
        return os.path.samefile(name, file)
    except (OSError, ValueError):
        return os.path.realpath(name) == os.path.realpath(file)
