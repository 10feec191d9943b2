"""Write files so that a crash, a kill or a full disk never costs what was there, and doubt what would surprise."""

from __future__ import annotations

import contextlib
import errno
import hashlib
import os
import shutil
import stat
import tempfile
from collections.abc import Iterable
from pathlib import Path
from typing import Literal, NamedTuple

from ridgeline.errors import DesignError
from ridgeline.files.processes import is_running
from ridgeline.typed import short

#: How many earlier states are kept beside a file.
PREVIOUS = 2
_PART = ".part"
#: A file system that cannot do this says so; the save goes on without.
_CANNOT = (errno.EINVAL, errno.ENOSYS, errno.ENOTSUP, errno.EOPNOTSUPP, errno.EPERM, errno.EACCES)

DoubtKind = Literal["changed", "read_only", "exists"]


class Stamp(NamedTuple):
    """What a file was when it was read or written: told apart by content where time and size alone do not do."""

    modified_ns: int
    size: int
    inode: int
    digest: str


class SaveDoubt(DesignError):
    """A save that would surprise: the file changed on disk, is marked read-only, or is another one of that name."""

    def __init__(self, kind: DoubtKind, path: Path, understood: str, allowed: str) -> None:
        super().__init__(path.name, understood, allowed)
        self.kind, self.place = kind, path


def digest_of(data: bytes) -> str:
    """Return what tells one content from another."""
    return hashlib.sha256(data).hexdigest()


def stamp_of(path: Path) -> Stamp | None:
    """Return the stamp of a plain file, None where there is none or it cannot be read."""
    try:
        found = os.stat(path)
        if not stat.S_ISREG(found.st_mode):
            return None
        return Stamp(found.st_mtime_ns, found.st_size, found.st_ino, digest_of(path.read_bytes()))
    except (OSError, ValueError):
        return None


def has_changed(path: Path, stamp: Stamp | None) -> bool:
    """Tell whether a file holds something else than when it was stamped; one that is gone has not."""
    try:
        found = os.stat(path)
    except (OSError, ValueError):
        return False
    if stamp is None:
        return True
    if (found.st_mtime_ns, found.st_size, found.st_ino) == stamp[:3]:
        return False
    now = stamp_of(path)
    return now is not None and now.digest != stamp.digest


def previous_of(path: Path, age: int = 1) -> Path:
    """Return where an earlier state of a file is kept: ``NAME~`` the last, ``NAME~2`` the one before."""
    return path.with_name(f"{path.name}~" if age == 1 else f"{path.name}~{age}")


def write_atomically(
    path: Path, text: str | bytes, *, keep_previous: bool = True, even_if: Iterable[DoubtKind] = ()
) -> Path:
    """Write a file so that at every instant either the old or the new text is whole on disk.

    Links are followed to the file itself. A temporary file in the same folder, flush, sync, the two last states kept
    under ``NAME~`` and ``NAME~2``, rename, sync of the folder. A file of several names (hard links) is written in
    place, since a rename would part them; the whole text lies beside it until that is done. A text that is there
    already is not written again, so that saving twice does not cost an earlier state.

    Returns
    -------
    Path
        The file written, links followed.

    Raises
    ------
    SaveDoubt
        When the file is marked read-only, unless ``even_if`` holds ``"read_only"``.
    DesignError
        When it cannot be written; the old file is then untouched.
    """
    try:
        data = text if isinstance(text, bytes) else text.encode("utf-8")
        target = Path(os.path.realpath(path))
        found = _state_of(target)
        if found is not None:
            if not stat.S_IMODE(found.st_mode) & 0o222 and "read_only" not in even_if:
                raise SaveDoubt("read_only", target, "a file marked read-only", "another name, or to overwrite it")
            if found.st_size == len(data) and target.read_bytes() == data:
                return target
        _write(target, data, found, keep_previous)
        _sweep(target)
        return target
    except UnicodeEncodeError as error:
        raise DesignError(path.name, "letters that cannot be written", "text in UTF-8") from error
    except OSError as error:
        raise DesignError(short(str(path), 100), _reason(error), "a place that can be written") from error
    except ValueError as error:
        if isinstance(error, DesignError):
            raise
        raise DesignError(short(str(path), 100), "a name no file can have", "a place that can be written") from error


def _reason(error: OSError) -> str:
    return (error.strerror or str(error)).lower()


def _state_of(target: Path) -> os.stat_result | None:
    try:
        found = os.stat(target)
    except FileNotFoundError:
        return None
    if not stat.S_ISREG(found.st_mode):
        what = "a directory" if stat.S_ISDIR(found.st_mode) else "a pipe or a device"
        raise DesignError(short(str(target), 100), what, "a plain file")
    return found


def _write(target: Path, data: bytes, found: os.stat_result | None, keep_previous: bool) -> None:
    try:
        part = _write_part(target, data)
    except PermissionError:
        if found is None or not os.access(target, os.W_OK):
            raise
        # The folder takes no new file but this one may be written: the recovery journal stands behind it.
        _write_in_place(target, data)
        return
    try:
        if found is not None:
            _forget_own_links(target)
            _take_over(part, found)
            if keep_previous:
                _rotate(target)
        else:
            mask = os.umask(0)
            os.umask(mask)
            _if_possible(os.chmod, part, 0o666 & ~mask)
        if found is not None and os.stat(target).st_nlink > _own_links(target):
            _write_in_place(target, data)
        else:
            os.replace(part, target)
    finally:
        # Gone when it was renamed.
        part.unlink(missing_ok=True)
    _sync_folder(target.parent)


def _write_part(target: Path, data: bytes) -> Path:
    handle, name = tempfile.mkstemp(prefix=f"{_part_prefix(target)}{os.getpid()}.", suffix=_PART, dir=target.parent)
    try:
        with os.fdopen(handle, "wb") as stream:
            stream.write(data)
            stream.flush()
            os.fsync(stream.fileno())
    except BaseException:
        Path(name).unlink(missing_ok=True)
        raise
    return Path(name)


def _part_prefix(target: Path) -> str:
    # A name may be as long as the file system allows; the temporary one is longer.
    return f".{target.name[:40]}."


def _write_in_place(target: Path, data: bytes) -> None:
    was_read_only = not stat.S_IMODE(os.stat(target).st_mode) & 0o200
    if was_read_only:
        os.chmod(target, stat.S_IMODE(os.stat(target).st_mode) | 0o200)
    with open(target, "r+b") as stream:
        stream.write(data)
        stream.truncate()
        stream.flush()
        os.fsync(stream.fileno())
    if was_read_only:
        os.chmod(target, stat.S_IMODE(os.stat(target).st_mode) & ~0o200)


def _take_over(part: Path, found: os.stat_result) -> None:
    """Give the new file the owner and the rights of the old one, where that can be done."""
    _if_possible(os.chown, part, found.st_uid, found.st_gid)
    _if_possible(os.chmod, part, stat.S_IMODE(found.st_mode))


def _if_possible(do: object, *arguments: object) -> None:
    try:
        do(*arguments)  # type: ignore[operator]
    except OSError as error:
        if error.errno not in _CANNOT:
            raise


def _forget_own_links(target: Path) -> None:
    """Drop a kept state that is still the file itself: a kill came between keeping and renaming."""
    for age in range(1, PREVIOUS + 1):
        kept = previous_of(target, age)
        with contextlib.suppress(OSError):
            if os.path.samefile(kept, target):
                kept.unlink()


def _own_links(target: Path) -> int:
    """Return how many names of a file are its own and that of its kept state."""
    with contextlib.suppress(OSError):
        return 2 if os.path.samefile(previous_of(target), target) else 1
    return 1


def _rotate(target: Path) -> None:
    """Keep the present file as the last state, and the last as the one before; a state that cannot be kept is left."""
    try:
        for age in range(PREVIOUS, 1, -1):
            with contextlib.suppress(FileNotFoundError):
                os.replace(previous_of(target, age - 1), previous_of(target, age))
        kept = previous_of(target)
        if os.stat(target).st_nlink > 1:
            # Written in place afterwards: a link would change with it.
            shutil.copy2(target, kept)
            return
        try:
            os.link(target, kept)
        except OSError:
            shutil.copy2(target, kept)
    except OSError as error:
        if error.errno in (errno.ENOSPC, errno.EDQUOT, errno.EIO):
            raise


def _sync_folder(folder: Path) -> None:
    try:
        handle = os.open(folder, os.O_RDONLY)
    except OSError:
        return  # a folder that may be written but not read
    try:
        os.fsync(handle)
    except OSError as error:
        if error.errno not in _CANNOT:
            raise
    finally:
        os.close(handle)


def parts_left(target: Path) -> list[Path]:
    """Return temporary files that a killed save of this file left."""
    found = []
    with contextlib.suppress(OSError):
        for entry in target.parent.iterdir():
            if not (entry.name.startswith(_part_prefix(target)) and entry.name.endswith(_PART)):
                continue
            owner = entry.name[len(_part_prefix(target)) :].partition(".")[0]
            if not (owner.isdecimal() and is_running(int(owner))):
                found.append(entry)
    return found


def _sweep(target: Path) -> None:
    for left in parts_left(target):
        with contextlib.suppress(OSError):
            left.unlink()
