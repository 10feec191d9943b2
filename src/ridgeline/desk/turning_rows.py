"""Which way a motor turns, and its propeller's hand, as rows of dimensions."""

from __future__ import annotations

from collections.abc import Iterator

from ridgeline.design.paths import get
from ridgeline.desk.dimensions import Dimension
from ridgeline.desk.store import Store

_WAYS = (("clockwise", "clockwise"), ("anticlockwise", "anticlockwise"))
_HANDS = (("right", "right-handed"), ("left", "left-handed"))
_PAIRS = (("opposed", "against each other"), ("alike", "the same way"))


def turning_rows(store: Store, index: int) -> Iterator[Dimension]:
    """Yield the rows of one motor mount: its turn seen from behind, the propeller's hand, and a pair's sense."""
    power = store.design.power
    if power is None:
        return
    rows = [
        ("Turns, seen from behind", "clockwise", _WAYS),
        ("Propeller", "right_handed", _HANDS),
    ]
    if power.mounts[index].mirrored:
        rows.append(("The pair turns", "opposed", _PAIRS))
    for label, field, words in rows:
        yield _row(store, f"power.mounts[{index}].{field}", label, words)


def _row(store: Store, path: str, label: str, words: tuple[tuple[str, str], ...]) -> Dimension:
    """Return a row that sets a switch by two words, the first for yes."""

    def read() -> str:
        return words[0 if get(store.design, path) else 1][0]

    def choose(word: str) -> None:
        store.put(path, word == words[0][0], f"{label}: {dict(words)[word]}")

    return Dimension(label, read=read, choices=words, choose=choose)
