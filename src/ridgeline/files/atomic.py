"""Write files so that a crash, a kill or a full disk never costs what was there before."""

from __future__ import annotations

import os
import tempfile
from pathlib import Path

from ridgeline.errors import DesignError


def previous_of(path: Path) -> Path:
    """Return where the previous version of a file is kept."""
    return path.with_name(path.name + "~")


def write_atomically(path: Path, text: str, *, keep_previous: bool = True) -> None:
    """Write a file so that at every instant either the old or the new text is whole on disk.

    Temporary file in the same folder, flush, fsync, keep the old file under ``NAME~``, rename, fsync the folder.

    Raises
    ------
    DesignError
        When the folder cannot be written; the old file is then untouched.
    """
    try:
        handle, temporary = tempfile.mkstemp(prefix=f".{path.name}.", dir=path.parent)
        try:
            with os.fdopen(handle, "w", encoding="utf-8") as stream:
                stream.write(text)
                stream.flush()
                os.fsync(stream.fileno())
            if path.exists():
                os.chmod(temporary, path.stat().st_mode & 0o777)
                if keep_previous:
                    _keep(path)
            else:
                mask = os.umask(0)
                os.umask(mask)
                os.chmod(temporary, 0o666 & ~mask)
            os.replace(temporary, path)
        except BaseException:
            Path(temporary).unlink(missing_ok=True)
            raise
        folder = os.open(path.parent, os.O_RDONLY)
        try:
            os.fsync(folder)
        finally:
            os.close(folder)
    except OSError as error:
        raise DesignError(str(path), (error.strerror or str(error)).lower(), "a folder that can be written") from error


def _keep(path: Path) -> None:
    """Hard-link the present file as the previous one, or copy where links are not possible."""
    kept = previous_of(path)
    kept.unlink(missing_ok=True)
    try:
        os.link(path, kept)
    except OSError:
        kept.write_bytes(path.read_bytes())
