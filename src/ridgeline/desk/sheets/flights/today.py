"""Today, as it is written into a log; read in one place, so that a test may say another day."""

from __future__ import annotations

from datetime import date


def today() -> str:
    """Return the day, as 2026-11-26."""
    return date.today().isoformat()
