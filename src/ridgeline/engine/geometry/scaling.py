"""Scale a whole airframe by a factor, its tail by another on top: for full-size drawings and sister aircraft."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from ridgeline.design.airframe import Surface
from ridgeline.design.document import Design, from_plain
from ridgeline.design.kinds import KIND_OF, KINDS, PartKind, as_field, listed
from ridgeline.design.parts import Item
from ridgeline.engine.geometry.reference import TAILS
from ridgeline.engine.geometry.surfaces import measure_surface
from ridgeline.engine.weights.estimates import Extent, extents_of, mass_of
from ridgeline.errors import DesignError

#: Built groups grow with the airframe; what is bought keeps its mass until it is chosen anew.
_BUILT = ("airframe", "adhesive", "structure", "gear")
FACTORS = (0.1, 10.0)
TAIL_FACTORS = (0.5, 2.0)


def scaled(design: Design, factor: float, tail: float = 1.0, mass_exponent: float = 3.0) -> Design:
    """Return the design with every length times ``factor``, and tails times ``tail`` about their quarter chords.

    Parameters
    ----------
    factor : float
        Linear scale, 0.1 to 10. Areas go with its square.
    tail : float
        Further linear enlargement of stabilisers, V-tails and fins, 0.5 to 2: scale tails are often too small.
    mass_exponent : float
        Built items' estimates go with ``factor`` to this power: 3 for everything scaled, 2 for the same sheet.

    Raises
    ------
    DesignError
        When a factor or a resulting length is out of range. Weighed values of built items are dropped, since they
        were of another size.

    Source
    ------
    Lengths k, areas k², masses k³ or a chosen exponent (handbook of the trade §0).
    """
    for name, value, (low, high) in (("scale", factor, FACTORS), ("tail", tail, TAIL_FACTORS)):
        if not low <= value <= high:
            raise DesignError(name, f"{value:g}", f"a factor from {low:g} to {high:g}")
    here, there = _growth(design, factor, tail, mass_exponent), _growth(design, factor, tail, mass_exponent, aside=True)
    update: dict[str, Any] = {kind.field: as_field(kind, here.of(kind, listed(design, kind))) for kind in KINDS}
    # What lies aside to fly in another set is of the same airframe.
    lying = {kind.field: there.of(kind, listed(design.aside, kind)) for kind in KINDS}
    update["aside"] = design.aside.model_copy(update=lying)
    return from_plain(design.model_copy(update=update).model_dump(mode="json"), source=f"scaled by {factor:g}")


def _growth(design: Design, factor: float, tail: float, exponent: float, *, aside: bool = False) -> _Growth:
    """Return a scaling with the extents of what is fitted; of what lies aside with its own versions of shared parts."""
    more = (design.aside.surfaces, design.aside.bodies) if aside else ((), ())
    surfaces, bodies = (*design.surfaces, *more[0]), (*design.bodies, *more[1])
    grown = [tuple(_grown(part, KIND_OF[field].lengths, factor) for part in parts)
             for field, parts in (("surfaces", surfaces), ("bodies", bodies))]  # fmt: skip
    return _Growth(factor, tail, factor**exponent, extents_of(*grown), extents_of(surfaces, bodies))


@dataclass(frozen=True)
class _Growth:
    """One scaling: factor of lengths, of tails on top, and of masses; extents of the parts after and before it."""

    factor: float
    tail: float
    mass: float
    larger: dict[str, Extent]
    plain: dict[str, Extent]

    def of(self, kind: PartKind, parts: tuple[Any, ...]) -> tuple[Any, ...]:
        """Return the parts of a kind scaled."""
        grown = [_grown(part, kind.lengths, self.factor) for part in parts]
        if kind is KIND_OF["parts"]:
            pairs = zip(grown, parts, strict=True)
            return tuple(_item(g, item, self.factor, self.mass, self.larger, self.plain) for g, item in pairs)
        if kind is KIND_OF["surfaces"] and self.tail != 1.0:
            return tuple(
                _enlarged(g, part, self.factor, self.tail) if part.role in (*TAILS, "fin") else g
                for g, part in zip(grown, parts, strict=True)
            )
        return tuple(grown)


def _grown(part: Any, lengths: Sequence[str], k: float) -> Any:
    """Return a part with its lengths, given by their names and those of what it holds, times a factor."""
    plain = {name: getattr(part, name) for name in lengths if "." not in name}
    update: dict[str, Any] = {name: value if value is None else value * k for name, value in plain.items()}
    inner: dict[str, list[str]] = {}
    for name in lengths:
        holder, dot, rest = name.partition(".")
        if dot:
            inner.setdefault(holder, []).append(rest)
    for holder, names in inner.items():
        held = getattr(part, holder)
        if isinstance(held, tuple):
            update[holder] = tuple(_grown(one, names, k) for one in held)
        elif held is not None:
            update[holder] = _grown(held, names, k)
    return part.model_copy(update=update)


def _enlarged(grown: Surface, plain: Surface, factor: float, tail: float) -> Surface:
    """Return a scaled tail larger still, of the same board and at the same arm: its quarter chord stays."""
    whole = _grown(plain, KIND_OF["surfaces"].lengths, factor * tail)
    kept = {name: getattr(grown, name) for name in ("x", "y", "z", "thickness", "droop")}
    larger = whole.model_copy(update=kept)
    off = factor * measure_surface(plain).x_quarter - measure_surface(larger).x_quarter
    result: Surface = larger.model_copy(update={"x": larger.x + off})
    return result


def _item(grown: Item, item: Item, k: float, mass: float, larger: dict[str, Extent], plain: dict[str, Extent]) -> Item:
    """Return a scaled item with the mass, recipe and room of its new size; the extents are of what it is built of."""
    update: dict[str, Any] = {}
    if item.group in _BUILT:
        known = item.estimate if item.estimate is not None else item.weighed
        update |= {"estimate": None if known is None else known * mass, "weighed": None}
    if item.build is not None:
        # Areas grow with k², lengths with k; what the chosen exponent asks beyond that goes into the share.
        by_itself = k if item.build.kind == "length" else k * k
        if item.build.kind == "pieces":
            # Strips, ribs and beads grow in their own way: what the pieces come to is asked of them.
            before, after = mass_of(item.build, plain), mass_of(item.build, larger)
            by_itself = after / before if before and after else mass
        own = 1.0 if item.build.of else by_itself
        build = {"share": min(item.build.share * mass / by_itself, 5.0), "extent": item.build.extent * own}
        update["build"] = item.build.model_copy(update=build)
    if item.rail is not None:
        room = (item.rail.back - item.rail.front) * k
        length = min(item.rail.item_length, room)
        rail = {"front": item.rail.front * k, "back": item.rail.back * k, "item_length": length}
        update["rail"] = item.rail.model_copy(update=rail)
        update["x"] = min(max(item.x * k, rail["front"] + length / 2), rail["back"] - length / 2)
        if grown.on is not None:
            # What its room no longer lets lie there is hung where it does.
            update["on"] = grown.on.model_copy(update={"back": grown.on.back + float(update["x"]) - grown.x})
    return grown.model_copy(update=update)
