"""The choices the desk remembers between runs. Light to import: the window asks before its first paint."""

from __future__ import annotations

import contextlib
import json
import os
from pathlib import Path
from typing import Any

from platformdirs import user_data_path

from ridgeline.errors import DesignError
from ridgeline.files.atomic import write_atomically

_ALLOWED = "a folder that can be written"
_MOST_BYTES = 1_000_000


def data_folder() -> Path:
    """Return the folder for the builder's own data, made on first use (``RIDGELINE_DATA`` overrides it).

    Raises
    ------
    DesignError
        When it is not there and cannot be made.
    """
    named = os.environ.get("RIDGELINE_DATA")
    folder = Path(named) if named else user_data_path("ridgeline", appauthor=False)
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except (OSError, ValueError) as error:
        raise DesignError(str(folder), (getattr(error, "strerror", None) or str(error)).lower(), _ALLOWED) from error
    return folder


def folder_problem() -> str:
    """Return why nothing can be kept in the data folder, or nothing when it can."""
    try:
        folder = data_folder()
        trial = folder / f".trial-{os.getpid()}"
        trial.write_bytes(b"kept" * 1024)
        trial.unlink()
    except DesignError as error:
        return f"{error.path}: {error.understood}"
    except OSError as error:
        with contextlib.suppress(OSError):
            trial.unlink()
        return f"{folder}: {(error.strerror or str(error)).lower()}"
    return ""


def _memory_file() -> Path:
    return data_folder() / "desk.json"


def remembered() -> dict[str, Any]:
    """Return the remembered choices; an unreadable file counts as none, and is set aside at the next choice."""
    memory = _read()
    return memory if isinstance(memory, dict) else {}


def _read() -> Any:
    try:
        file = _memory_file()
        if not file.is_file() or file.stat().st_size > _MOST_BYTES:
            return None
        return json.loads(file.read_text("utf-8"))
    except (OSError, ValueError, RecursionError):
        return None


def remembered_word(name: str, among: tuple[str, ...]) -> str:
    """Return a remembered choice if it is one of those there are, else the first of them."""
    word = remembered().get(name)
    return word if isinstance(word, str) and word in among else among[0]


def remember(**choices: Any) -> None:
    """Add choices to what is remembered.

    Raises
    ------
    DesignError
        When they cannot be written.
    """
    file = _memory_file()
    memory = _read()
    if not isinstance(memory, dict):
        set_aside(file)
        memory = {}
    write_atomically(file, json.dumps(memory | choices, indent=1), keep_previous=False)


def set_aside(file: Path) -> Path | None:
    """Keep a file that cannot be read under another name, never over one kept before; None when it is not there."""
    for number in range(1, 100):
        aside = file.with_name(f"{file.stem}.unread{'' if number == 1 else number}")
        if not os.path.lexists(aside):
            try:
                file.replace(aside)
            except OSError:
                return None
            return aside
    return None
