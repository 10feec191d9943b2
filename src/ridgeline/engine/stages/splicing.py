"""The stage of spliced skins: the force in a skin at a cut, over what the glue on its splice bears."""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

import numpy as np

from ridgeline.design.airframe import Surface
from ridgeline.engine.bands import BAND
from ridgeline.engine.build.cut_up import INSET, SPLICE, Rooms
from ridgeline.engine.build.developed import leading_of
from ridgeline.engine.build.panels import pieces_of_surface
from ridgeline.engine.build.seats import Seat, Seats
from ridgeline.engine.figures import Put, absent, derive
from ridgeline.engine.geometry.placed import relative_sizes
from ridgeline.engine.stages.bearing import Bearing
from ridgeline.engine.stages.common import NO_MASS, Outcome
from ridgeline.engine.structure.cases import ULTIMATE
from ridgeline.engine.structure.fastening_laws import FOAM_SHEAR
from ridgeline.engine.structure.half import Half

#: One sigma of what a glued splice bears, as a share (chosen, as of bonds in §16.3: hands and glues differ).
_SIGMA = 0.35 / BAND
_KEY = "structure.splice_share"
_NONE = "no skin of a surface is spliced"


class Spliced(NamedTuple):
    """A cut across a skin: which surface, by its index, which piece, m out; its force and what its glue bears, N."""

    surface: int
    piece: str
    out: float
    force: float
    bears: float

    @property
    def share(self) -> float:
        """Force over what the splice bears."""
        return self.force / self.bears


def splices(
    surfaces: tuple[Surface, ...],
    seated: Seats,
    rooms: Rooms,
    found: Bearing | None,
    halves: tuple[Half | None, ...],
) -> Outcome[tuple[Spliced, ...]]:
    """Judge every splice of a skin, the nearest to its limit first.

    Source
    ------
    Force in a skin: the moment's share that skins bear, over the depth between them. Glue in shear over half the splice
    (docs/theory.md §15).
    """
    rows = sorted(_rows(surfaces, dict(seated), rooms, found, halves), key=lambda row: -row.share)
    if not rows:
        return Outcome((), (absent(_KEY, NO_MASS if found is None else _NONE),))
    worst = rows[0]
    figure = derive(
        _KEY,
        "{force}/{bears}",
        lambda force, bears: force / bears,
        {
            "force": Put(worst.force, f"in the {worst.piece.lower()} at its cut, at ultimate load", "force"),
            "bears": Put(worst.bears, "glue on one side of the splice may bear", "force", _SIGMA * worst.bears),
        },
        source="second part of the handbook §16.3: a bond in shear on foam",
        note=surfaces[worst.surface].name,
    )
    return Outcome(tuple(rows), (figure,))


def _rows(
    surfaces: tuple[Surface, ...], seated: dict[str, tuple[Seat, ...]], rooms: Rooms, found: Bearing | None,
    halves: tuple[Half | None, ...],
) -> Iterator[Spliced]:  # fmt: skip
    for k, surface in enumerate(surfaces):
        half = halves[k]
        borne = None if found is None else found.borne[k]
        if half is None or borne is None:
            continue
        y, s = [one.y for one in surface.stations], leading_of(surface)[:, 0]
        deep = relative_sizes(surface)[0]
        for piece in pieces_of_surface(surface, seated.get(surface.id, ()), rooms):
            ends = sorted({round(float(outline[:, 0].max()), 6) for outline in piece.parts})
            for cut in ends[:-1] if piece.face not in ("splice", "none") else ():
                out = float(np.interp(cut, s, y))
                chord = float(np.interp(out, half.y, half.chord))
                skins = float(np.interp(out, half.y, half.skins.bending / np.maximum(half.bending, 1e-12)))
                moment = float(np.interp(out, half.y, np.abs(borne.moment).max(axis=0)))
                # Of a plate the couple is between its own faces.
                arm = surface.sheet if piece.face == "plate" else max(deep * chord - surface.sheet, surface.sheet)
                glued = SPLICE * max(chord - 2 * INSET, INSET)
                yield Spliced(k, piece.name, out, ULTIMATE * moment * skins / arm, FOAM_SHEAR * glued)
