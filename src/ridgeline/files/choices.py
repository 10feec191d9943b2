"""The choices the desk remembers between runs. Light to import: the window asks before its first paint."""

from __future__ import annotations

import json
import os
from pathlib import Path
from typing import Any

from platformdirs import user_data_path

from ridgeline.files.atomic import write_atomically


def data_folder() -> Path:
    """Return the folder for the builder's own data, made on first use (``RIDGELINE_DATA`` overrides it)."""
    named = os.environ.get("RIDGELINE_DATA")
    folder = Path(named) if named else user_data_path("ridgeline", appauthor=False)
    folder.mkdir(parents=True, exist_ok=True)
    return folder


def _memory_file() -> Path:
    return data_folder() / "desk.json"


def remembered() -> dict[str, Any]:
    """Return the remembered choices; an unreadable file counts as none."""
    try:
        memory = json.loads(_memory_file().read_text("utf-8"))
    except (OSError, ValueError):
        return {}
    return memory if isinstance(memory, dict) else {}


def remember(**choices: Any) -> None:
    """Add choices to what is remembered."""
    write_atomically(_memory_file(), json.dumps(remembered() | choices, indent=1), keep_previous=False)
