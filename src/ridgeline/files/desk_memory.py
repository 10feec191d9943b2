"""What the desk remembers between runs: recent files, and recovery copies of unsaved work."""

from __future__ import annotations

from pathlib import Path

from ridgeline.design.document import Design
from ridgeline.errors import DesignError
from ridgeline.files.atomic import write_atomically
from ridgeline.files.choices import data_folder, remember, remembered
from ridgeline.files.design_file import from_text, to_text

_RECENT_COUNT = 8


def recent_files() -> list[str]:
    """Return the recently used design files that still exist, newest first."""
    found = remembered().get("recent", [])
    return [name for name in found if isinstance(name, str) and Path(name).exists()]


def note_recent(path: Path) -> None:
    """Put a file at the top of the recent list."""
    name = str(path.resolve())
    remember(recent=[name, *(other for other in recent_files() if other != name)][:_RECENT_COUNT])


def _recovery_folder() -> Path:
    folder = data_folder() / "unsaved"
    folder.mkdir(exist_ok=True)
    return folder


def keep_unsaved(design: Design, token: str) -> None:
    """Keep a copy of unsaved work under a token of its sitting, for the next start after a crash or a kill."""
    write_atomically(_recovery_folder() / f"{token}.ridge", to_text(design), keep_previous=False)


def unsaved_work() -> list[tuple[str, Design]]:
    """Return the readable recovery copies with their tokens, newest first."""
    found = []
    files = sorted(_recovery_folder().glob("*.ridge"), key=lambda file: file.stat().st_mtime, reverse=True)
    for file in files:
        try:
            found.append((file.stem, from_text(file.read_text("utf-8"), "recovery copy")))
        except (OSError, DesignError):
            continue
    return found


def forget_unsaved(token: str) -> None:
    """Drop a recovery copy, once its work is saved or deliberately left."""
    (_recovery_folder() / f"{token}.ridge").unlink(missing_ok=True)
