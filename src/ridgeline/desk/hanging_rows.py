"""What an item hangs on, and where in the axes of that, as rows of its dimensions; and on which sides it is."""

from __future__ import annotations

from collections.abc import Iterator

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.carrying import Carrier, carriers, hung_at
from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.desk.dimensions import Dimension
from ridgeline.desk.store import Store

FREE = "nothing: it lies free"
#: What places are called on each kind of carrier: words and field.
_ON_SURFACE = (("Out along its panel", "out"), ("Of its chord", "share"), ("Over its chord line", "up"))
_IN_BODY = (("Behind its nose", "back"), ("Aside in it", "out"), ("Over its origin", "up"))
_AT_MOUNT = (("Behind its place there", "back"), ("Aside there", "out"), ("Over it there", "up"))
_SIDES = (("one", "one"), ("pair", "a pair, one each side"), ("same", "two at one side"))


def hanging_rows(store: Store, index: int) -> Iterator[Dimension]:
    """Yield the rows of what one item hangs on, in the carrier's own axes."""
    part, found = store.design.parts[index], carriers(store.design)

    def read() -> str:
        on = store.design.parts[index].on if index < len(store.design.parts) else None
        return "" if on is None else on.to

    def choose(ident: str) -> None:
        carrier = found.get(ident)
        words = f"{part.name} on {called(carrier)}" if carrier is not None else f"{part.name} lies free"
        store.edit(hang(store.design, index, ident), words)

    words = (("", FREE), *((ident, called(carrier)) for ident, carrier in found.items()))
    yield Dimension("Hangs on", read=read, choices=words, choose=choose)
    carrier = found.get(part.on.to) if part.on is not None else None
    if carrier is None:
        return
    rows = _ON_SURFACE if isinstance(carrier, Surface) else (_IN_BODY if isinstance(carrier, Body) else _AT_MOUNT)
    for label, field in rows:
        yield Dimension(label, f"parts[{index}].on.{field}")


def called(carrier: Carrier) -> str:
    """Return what a builder calls a carrier."""
    return str(getattr(carrier, "name", "the motor mount"))


def sides_row(store: Store, index: int) -> Dimension:
    """Return the switch of an item's sides: one, a pair, or two at one side."""

    def read() -> str:
        part = store.design.parts[index]
        return "pair" if part.mirrored else ("one" if part.count == 1 else "same")

    def choose(word: str) -> None:
        part = store.design.parts[index]
        count = 1 if word == "one" else max(part.count, 2)
        fresh = part.model_copy(update={"mirrored": word == "pair", "count": count})
        store.edit([Change(f"parts[{index}]", fresh)], f"{part.name}: {dict(_SIDES)[word]}")

    return Dimension("Sides", read=read, choices=_SIDES, choose=choose)


def hang(design: Design, index: int, ident: str) -> list[Change]:
    """Return the edit that hangs an item on a part where it lies, or lets it lie free where the id is empty."""
    part = design.parts[index]
    carrier = carriers(design).get(ident)
    on = None if carrier is None else hung_at(part, carrier, design.power, (part.x, part.y, part.z))
    return [Change(f"parts[{index}]", part.model_copy(update={"on": on, "loose": ""}))]
