"""The journal of one sitting: every edit a line of its own, appended and synced, and read back as far as it is whole.

An append-only record was chosen over copies at intervals: a line costs the same however large the design is, so that
every edit can be on disk at once, and a kill can cost at most the line it interrupts.

Lines, each a JSON object: ``sitting`` (who writes it), ``open`` (the file, and the name of what is worked on), ``base``
(the design the edits begin at), ``edit`` (its label, the time and its patches).
"""

from __future__ import annotations

import fcntl
import json
import os
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any, NamedTuple

from ridgeline.design.document import Design, from_plain
from ridgeline.design.patches import Patch, patched
from ridgeline.errors import DesignError
from ridgeline.files.atomic import Stamp
from ridgeline.files.processes import Process

SUFFIX = ".journal"
VERSION = 1
#: A journal longer than this was written by no hand.
_MOST_BYTES = 400_000_000


class Opened(NamedTuple):
    """What a sitting works on: its file where it has one, what that file was, and the design's name."""

    file: str | None
    name: str
    stamp: Stamp | None = None


@dataclass
class JournalRead:
    """A journal as far as it could be read.

    ``texts`` are the lines of the base and of the edits, parsed only when the design is asked for.
    """

    path: Path
    process: Process | None = None
    opened: Opened = field(default_factory=lambda: Opened(None, "Untitled"))
    base_text: bytes = b""
    edits: list[dict[str, Any]] = field(default_factory=list)
    begun_at: float = 0.0
    #: What was wrong with its end, where something was.
    torn: str = ""

    @property
    def last_at(self) -> float:
        """Return when the last edit was made, seconds of the epoch."""
        return max((float(edit.get("at", 0.0)) for edit in self.edits), default=self.begun_at)

    @property
    def name(self) -> str:
        """Return the name of the design after the last edit."""
        return str(self.edits[-1].get("name") or self.opened.name) if self.edits else self.opened.name

    def base(self) -> Design:
        """Return the design the edits begin at.

        Raises
        ------
        DesignError
            When it cannot be read.
        """
        return from_plain(self._data(), source=self.path.name)

    def _data(self) -> Any:
        try:
            return json.loads(self.base_text)["base"]
        except (ValueError, KeyError, TypeError, RecursionError) as error:
            raise DesignError(self.path.name, "a journal whose beginning is spoilt", "a journal of edits") from error

    def design(self) -> Design:
        """Return the design after the last edit that can be read.

        Raises
        ------
        DesignError
            When not even the base can be read.
        """
        data = self._data()
        for count, edit in enumerate(self.edits):
            try:
                patched(data, edit["put"])
            except (LookupError, TypeError, ValueError):
                self.torn = f"{len(self.edits) - count} of {len(self.edits)} edits could not be read"
                break
        return from_plain(data, source=self.path.name)


def header_line(process: Process, token: str, at: float) -> bytes:
    """Return the first line: who writes this journal."""
    return _line({"sitting": VERSION, "token": token, "process": list(process), "at": at})


def open_line(opened: Opened) -> bytes:
    """Return the line that says what is worked on."""
    return _line({"open": {"file": opened.file, "name": opened.name, "stamp": opened.stamp and list(opened.stamp)}})


def base_line(design: Design) -> bytes:
    """Return the line that holds the design the edits begin at."""
    return b'{"base":' + design.model_dump_json().encode("utf-8") + b"}\n"


def edit_line(label: str, name: str, at: float, patches: list[Patch]) -> bytes:
    """Return the line of one edit."""
    return _line({"edit": label, "name": name, "at": at, "put": patches})


def _line(data: dict[str, Any]) -> bytes:
    # Line ends within strings are escaped by JSON: a line is a record.
    return json.dumps(data, ensure_ascii=True, separators=(",", ":")).encode("ascii") + b"\n"


def read_journal(path: Path) -> JournalRead:
    """Read a journal as far as it is whole; a torn last line, as a kill leaves it, is no error.

    Raises
    ------
    DesignError
        When it is no journal at all.
    """
    try:
        if path.stat().st_size > _MOST_BYTES:
            raise DesignError(path.name, "a file of many hundred MB", "a journal of edits")
        lines = path.read_bytes().split(b"\n")
    except OSError as error:
        raise DesignError(path.name, (error.strerror or str(error)).lower(), "a readable journal") from error
    found = JournalRead(path)
    for number, line in enumerate(lines[:-1], start=1):
        if line.startswith(b'{"base":'):
            found.base_text, found.edits = line, []
            continue
        try:
            _take(found, json.loads(line), number)
        except (ValueError, TypeError, KeyError, RecursionError, AttributeError):
            if number == 1:
                raise DesignError(path.name, "no journal", "a journal of edits") from None
            found.torn = f"what follows line {number - 1} could not be read"
            break
    if lines[-1]:
        found.torn = found.torn or "its last line was cut short"
    if found.process is None:
        raise DesignError(path.name, "no journal", "a journal of edits")
    return found


def _take(found: JournalRead, data: dict[str, Any], number: int) -> None:
    if number == 1:
        host_process = data["process"]
        found.process = Process(int(host_process[0]), int(host_process[1]), str(host_process[2]), str(host_process[3]))
        found.begun_at = float(data["at"])
        if int(data["sitting"]) > VERSION:
            raise ValueError("a newer journal")
    elif "open" in data:
        stamp = data["open"]["stamp"]
        file = data["open"]["file"]
        found.opened = Opened(
            None if file is None else str(file),
            str(data["open"]["name"]),
            None if stamp is None else Stamp(int(stamp[0]), int(stamp[1]), int(stamp[2]), str(stamp[3])),
        )
        found.base_text, found.edits = b"", []
    elif isinstance(data["put"], list):
        float(data["at"])
        found.edits.append(data)


def lock(handle: int) -> bool:
    """Lock an open journal for its writer; False when another holds it, or this file system has no locks."""
    try:
        fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return False
    return True


def is_held(path: Path) -> bool | None:
    """Tell whether a writer holds the lock of a journal; None where this file system has no locks."""
    try:
        handle = os.open(path, os.O_RDONLY | os.O_CLOEXEC)
    except OSError:
        return None
    try:
        fcntl.flock(handle, fcntl.LOCK_SH | fcntl.LOCK_NB)
    except BlockingIOError:
        return True
    except OSError:
        return None
    finally:
        os.close(handle)
    return False
