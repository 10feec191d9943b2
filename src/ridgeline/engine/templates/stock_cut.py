"""Rods, tubes and strips cut from stock lengths: which pieces come out of which length, and what is left of each."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import NamedTuple

from ridgeline.design.document import Design
from ridgeline.design.linkage import LinkageKind
from ridgeline.engine.build.whole import pieces_of_design
from ridgeline.engine.report import Report

#: Lengths that rods and strips are sold in, m, and what a cut takes, m (usual).
STOCK, SAW = (1.0, 2.0), 0.001
#: Linkages that are moved by a stiff rod.
_RODS: tuple[LinkageKind, ...] = ("rod", "torque_rod")


class Wanted(NamedTuple):
    """A length that is wanted: what it is for, and m."""

    name: str
    length: float


class Length(NamedTuple):
    """A stock length: m, what is cut from it, and what is left, m."""

    stock: float
    pieces: tuple[Wanted, ...]
    left: float


def cut_from(wanted: Iterable[Wanted], stock: Sequence[float] = STOCK, saw: float = SAW) -> tuple[Length, ...]:
    """Return the stock lengths that give all that is wanted: the longest first, each into the fullest that takes it.

    Parameters
    ----------
    wanted : iterable of Wanted
    stock : sequence of float
        Lengths that are sold, m; a new one is the shortest that takes the piece.
    saw : float
        What a cut takes, m.

    Returns
    -------
    tuple of Length
        A piece longer than every stock length stands on one of its own, with nothing left.

    Source
    ------
    Best fit, decreasing: no more than 11/9 of the fewest and one (Johnson, 1973).
    """
    opened: list[tuple[float, list[Wanted], float]] = []
    for piece in sorted(wanted, key=lambda one: -one.length):
        able = [k for k, (_s, _p, left) in enumerate(opened) if left >= piece.length - 1e-9]
        if able:
            k = min(able, key=lambda one: opened[one][2])
            long, pieces, left = opened[k]
            opened[k] = (long, [*pieces, piece], max(left - piece.length - saw, 0.0))
            continue
        long = min((one for one in stock if one >= piece.length - 1e-9), default=piece.length)
        opened.append((long, [piece], max(long - piece.length - saw, 0.0)))
    return tuple(Length(long, tuple(pieces), left) for long, pieces, left in opened)


def rods_of(design: Design, report: Report | None = None) -> dict[str, tuple[Wanted, ...]]:
    """Return the rods, tubes and strips of a design by their stock: spars, joiners and the rods of linkages.

    Parameters
    ----------
    design : Design
    report : Report, optional
        Of the design: it knows how long the rods of linkages are, which are left out without it.

    Returns
    -------
    dict
    """
    names = {part.id: part.name for part in design.surfaces}
    found: dict[str, list[Wanted]] = {}
    for piece in pieces_of_design(design):
        if piece.group == "spars" and piece.length > 0:
            words = f"{names.get(piece.of, piece.of)}: {piece.name.lower()}"
            found.setdefault(piece.material, []).extend([Wanted(words, piece.length)] * piece.pieces)
    for row in () if report is None else report.results.linking.rows:
        if row.linkage.kind in _RODS and row.rod > 0:
            # One rod moves both halves where they are joined.
            count = 1 if row.linkage.port == "joined" else len(row.sides)
            words = f"{design.surfaces[row.surface].name}: {row.control.kind}"
            found.setdefault(row.linkage.rod, []).extend([Wanted(words, row.rod)] * count)
    return {material: tuple(pieces) for material, pieces in found.items()}
