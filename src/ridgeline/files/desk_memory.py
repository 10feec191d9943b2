"""Which files were used last."""

from __future__ import annotations

from pathlib import Path

from ridgeline.files.choices import remember, remembered

_RECENT_COUNT = 8


def recent_files() -> list[str]:
    """Return the recently used design files that still exist, newest first."""
    found = remembered().get("recent", [])
    return [name for name in found if isinstance(name, str) and _is_there(name)] if isinstance(found, list) else []


def _is_there(name: str) -> bool:
    try:
        return Path(name).is_file()
    except (OSError, ValueError):
        return False


def note_recent(path: Path) -> None:
    """Put a file at the top of the recent list.

    Raises
    ------
    DesignError
        When the list cannot be kept.
    """
    name = str(path.resolve())
    remember(recent=[name, *(other for other in recent_files() if other != name)][:_RECENT_COUNT])
