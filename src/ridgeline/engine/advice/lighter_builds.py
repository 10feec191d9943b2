"""What makes a construction lighter: forms, papers, walls, stock and beads, each with what it costs in strength."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.document import Design
from ridgeline.design.parts import Item
from ridgeline.design.paths import Change
from ridgeline.engine.build.whole import parts_of
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.sizing.building import RODS
from ridgeline.engine.sizing.forms import FORM_WORDS, LIGHTER_FORM, rebuilt
from ridgeline.engine.structure.stock import of_stock

#: What is left of a faced board's bending stiffness with one and with both papers off (handbook of the trade §5).
STIFFNESS = {1: 0.10, 2: 0.03}
#: Thin beads instead of usual ones (chosen).
LESS_GLUE = 0.7
#: The thinnest line most nozzles print well, m.
THIN_LINE = 0.00035
#: Forms of bodies whose board can be peeled.
_OF_BOARD = ("plate", "stepped", "curved", "folded", "folded_under", "ribbed", "box", "folded_box", "profile")


class Lighter(NamedTuple):
    """One change that makes something lighter: of which item, in words, at what price, and whether that is grave."""

    of: str
    text: Phrase
    price: Phrase
    grave: bool
    changes: list[Change]


def peeling(item: Item, path: str, peeled: int) -> Iterator[Lighter]:
    """Offer to peel the papers of faced board whose count of peeled ones stands at a path.

    Parameters
    ----------
    item : Item
        Made of it.
    path : str
    peeled : int
        Papers off so far.

    Yields
    ------
    Lighter
    """
    for more in range(peeled + 1, 3):
        which = "one paper" if more == 1 else "both papers"
        left = Measured(STIFFNESS[more], "fraction", 0)
        price = say("leaves {} of the board's bending stiffness: it needs a spar", left)
        yield Lighter(item.id, say("{}: peel {}", item.name, which), price, True, [Change(path, more)])


def thinner_walls(item: Item, base: str, perimeters: float, line_width: float) -> Iterator[Lighter]:
    """Offer fewer perimeters and thinner lines of a printed shell.

    Parameters
    ----------
    item : Item
        Made of it.
    base : str
        Path of what holds both.
    perimeters, line_width : float
        As they are; m.

    Yields
    ------
    Lighter
    """
    if perimeters > 1:
        price = say("half the wall bends and dents sooner")
        changes = [Change(f"{base}.perimeters", perimeters - 1)]
        yield Lighter(item.id, say("{}: one perimeter less", item.name), price, True, changes)
    if line_width > THIN_LINE:
        width = Measured(THIN_LINE, "length", 2)
        price = say("slower to print, a little weaker between layers")
        changes = [Change(f"{base}.line_width", THIN_LINE)]
        yield Lighter(item.id, say("{}: lines of {}", item.name, width), price, False, changes)


def of_pieces(design: Design, item: Item) -> Iterator[Lighter]:
    """Offer what makes the pieces that an item stands for lighter.

    Parameters
    ----------
    design : Design
    item : Item
        Made of pieces.

    Yields
    ------
    Lighter
    """
    build = item.build
    if build is None or build.kind != "pieces":
        return
    if not build.of:
        yield from _beads(design, item)
        return
    for base, part in parts_of(design):
        if part.id == build.of and part.built is not None:
            yield from _shell(item, part, base) if build.pieces == "shell" else _others(item, part, base)


def _shell(item: Item, part: Surface | Body, base: str) -> Iterator[Lighter]:
    built = part.built
    assert built is not None
    if isinstance(part, Surface) and built.form in LIGHTER_FORM:
        form = LIGHTER_FORM[built.form]
        price = say("another section: it stalls sooner, and needs more of a spar")
        words = say("{}: " + f"{FORM_WORDS[form]} instead of {FORM_WORDS[built.form]}", item.name)
        changes = [Change(f"{base}.{name}", value) for name, value in rebuilt(part, form).items()]
        yield Lighter(item.id, words, price, True, changes)
    if built.form in _OF_BOARD and built.board.faced:
        yield from peeling(item, f"{base}.built.board.peeled", built.board.peeled)
    if built.form == "printed":
        yield from thinner_walls(item, f"{base}.built.printing", built.printing.perimeters, built.printing.line_width)


def _others(item: Item, part: Surface | Body, base: str) -> Iterator[Lighter]:
    """Offer slimmer spars, and no covering."""
    built = part.built
    assert built is not None and item.build is not None
    if item.build.pieces == "covering" and built.covering is not None:
        price = say("bare foam dents, and soaks up water")
        yield Lighter(item.id, say("{} left off", item.name), price, False, [Change(f"{base}.built.covering", None)])
    if item.build.pieces == "spars" and isinstance(part, Surface) and part.built is not None:
        for k, spar in enumerate(part.built.spars):
            slimmer = [rod for rod in RODS if rod.constant < spar.linear * 0.95]
            if slimmer:
                rod = max(slimmer, key=lambda rod: rod.constant)
                price = say("bends more: check it at the Structure")
                changes = [Change(f"{base}.built.spars[{k}]", of_stock(spar, rod))]
                yield Lighter(item.id, say("{}: {}", item.name, rod.name), price, True, changes)


def _beads(design: Design, item: Item) -> Iterator[Lighter]:
    changes = [
        Change(f"{base}.built.bead", LESS_GLUE * part.built.bead)
        for base, part in parts_of(design)
        if part.built is not None and part.built.bead > 0
    ]
    if changes:
        price = say("thin beads, joints cut to fit")
        yield Lighter(item.id, say("{}: a third less", item.name), price, False, changes)
