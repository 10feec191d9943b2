"""Names that never change: every part has an id, and what refers to a part does so by it.

Versions of one part that fly in different sets share its id: what follows a wing follows whichever is fitted.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from typing import Annotated, Any

from pydantic import Field

#: An id means nothing by its letters; "" is a part that the design has yet to number.
Ident = Annotated[str, Field(max_length=40, pattern=r"^[A-Za-z0-9_.-]*$")]
_NUMBER = re.compile(r"(\d{1,9})$")


def ident() -> Any:
    """Declare what a part is called for good, whatever its name."""
    return Field("", description="what it is called for good; numbered by the design when left out")


class Numbers:
    """Gives fresh ids: a prefix and a number above every number in use."""

    def __init__(self, taken: Iterable[str]) -> None:
        found = (_NUMBER.search(one) for one in taken)
        self._last = max((int(match.group(1)) for match in found if match), default=0)

    def needed(self, ident: str, prefix: str, seen: set[str] | None) -> str:
        """Return a fresh id for a part without one, or with one in ``seen``; "" where its own will do."""
        fresh = "" if ident and (seen is None or ident not in seen) else self.fresh(prefix)
        if seen is not None:
            seen.add(fresh or ident)
        return fresh

    def fresh(self, prefix: str) -> str:
        """Return an id that no part has."""
        self._last += 1
        return f"{prefix}{self._last}"
