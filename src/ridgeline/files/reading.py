"""Bytes and text of any file, taken in whole or refused in one line: no waiting on pipes, no guess at an encoding.

Every reader of the program comes through here, so that all of them refuse alike.
"""

from __future__ import annotations

import codecs
import os
import stat
from pathlib import Path

from ridgeline.errors import DesignError
from ridgeline.typed import short

_MARKS = (
    (codecs.BOM_UTF8, "utf-8"),
    # The mark of UTF-32 begins with that of UTF-16: it is asked first.
    (codecs.BOM_UTF32_LE, "utf-32-le"),
    (codecs.BOM_UTF32_BE, "utf-32-be"),
    (codecs.BOM_UTF16_LE, "utf-16-le"),
    (codecs.BOM_UTF16_BE, "utf-16-be"),
)


def read_bytes(place: str | Path, most: int, what: str) -> bytes:
    """Return the bytes of a plain file of up to ``most`` bytes; ``what`` names it in a refusal.

    Raises
    ------
    DesignError
        When there is no such file, it is a folder, a pipe or a device, it may not be read, or it is too large.
    """
    name = short(str(place), 100)
    try:
        kind = os.stat(place).st_mode
        if not stat.S_ISREG(kind):
            raise DesignError(name, _kind_of(kind), f"a readable {what}")
        # Should it become a pipe in between, the opening does not wait for a writer.
        handle = os.open(place, os.O_RDONLY | os.O_NONBLOCK | os.O_CLOEXEC)
        with os.fdopen(handle, "rb") as stream:
            size = os.fstat(handle).st_size
            data = stream.read(most + 1) if size <= most else b""
    except ValueError as error:
        if isinstance(error, DesignError):
            raise
        raise DesignError(name, "a name no file can have", f"a readable {what}") from error
    except OSError as error:
        raise DesignError(name, (error.strerror or str(error)).lower(), f"a readable {what}") from error
    if size > most or len(data) > most:
        raise DesignError(name, f"{_size_words(max(size, len(data)))}", f"a {what} of up to {_size_words(most)}")
    return data


def _kind_of(mode: int) -> str:
    if stat.S_ISDIR(mode):
        return "a directory"
    return "a pipe or socket" if stat.S_ISFIFO(mode) or stat.S_ISSOCK(mode) else "a device"


def _size_words(size: int) -> str:
    return f"{size / 1e6:.3g} MB" if size >= 1e6 else f"{max(size // 1000, 1)} kB"


def decode(data: bytes, source: str, what: str, report: list[str] | None = None) -> str:
    """Return bytes as text with plain line ends, whatever its mark of encoding.

    With a ``report``, bytes that are no UTF-8 are read as Western European letters and that is said in it; without one
    they are refused.

    Raises
    ------
    DesignError
        When the bytes are no text.
    """
    mark, encoding = next(((m, e) for m, e in _MARKS if data.startswith(m)), (b"", "utf-8"))
    try:
        text = data[len(mark) :].decode(encoding)
    except UnicodeDecodeError as error:
        if report is None or mark or b"\0" in data:
            raise DesignError(source, "a file that is not text", f"a {what} in UTF-8") from error
        text = data.decode("cp1252", errors="replace")
        report.append("not UTF-8: read as Western European letters; check accents and signs")
    if "\0" in text:
        raise DesignError(f"{source}: {at(text, text.index(chr(0)))}", "a byte that is no text", f"a {what} in UTF-8")
    return text.replace("\r\n", "\n").replace("\r", "\n")


def read_text(place: str | Path, most: int, what: str, report: list[str] | None = None) -> str:
    """Return the text of a file: `read_bytes`, then `decode`."""
    return decode(read_bytes(place, most, what), Path(place).name, what, report)


def at(text: str, place: int) -> str:
    """Return where a place in a text is, as ``line 3, column 14``."""
    start = text.rfind("\n", 0, place) + 1
    return f"line {text.count(chr(10), 0, place) + 1}, column {place - start + 1}"
