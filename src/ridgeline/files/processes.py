"""Which process is which: a number alone is given again to another one."""

from __future__ import annotations

import contextlib
import os
import socket
from pathlib import Path
from typing import NamedTuple


class Process(NamedTuple):
    """A process of a computer: its number, when it began (ticks since start-up), and which start-up that was."""

    number: int
    begun: int
    boot: str
    host: str


def present() -> Process:
    """Return this process."""
    number = os.getpid()
    return Process(number, _begun(number) or 0, _boot(), socket.gethostname())


def is_running(number: int) -> bool:
    """Tell whether a process of this number runs here now."""
    try:
        os.kill(number, 0)
    except PermissionError:
        return True
    except (OSError, OverflowError):
        return False
    return True


def runs_still(process: Process) -> bool | None:
    """Tell whether just this process runs still; None where that cannot be known from here."""
    if process.host != socket.gethostname():
        return None
    if process.boot and _boot() and process.boot != _boot():
        return False
    return is_running(process.number) and (not process.begun or _begun(process.number) == process.begun)


def _begun(number: int) -> int | None:
    with contextlib.suppress(OSError, ValueError, IndexError):
        # The name, in brackets, may hold anything; the start time is the twentieth word after it.
        return int(Path(f"/proc/{number}/stat").read_text("utf-8", "replace").rpartition(")")[2].split()[19])
    return None


def _boot() -> str:
    with contextlib.suppress(OSError):
        return Path("/proc/sys/kernel/random/boot_id").read_text("ascii").strip()
    return ""
