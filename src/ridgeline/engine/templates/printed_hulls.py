"""Printed bodies: a hollow shell with a hatch and seats for what passes through it, cut across to the printer's bed."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator, Sequence

import numpy as np
from manifold3d import Manifold
from numpy.typing import NDArray
from scipy.special import gamma

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.cutting import Printer
from ridgeline.engine.geometry.placed import outline_over_chord, placed_at, sections
from ridgeline.engine.templates.openings import HATCH_WIDE, Hatch
from ridgeline.engine.templates.printed_panels import TOO_LARGE, Panel, on_its_rib
from ridgeline.engine.templates.solids import NoSolid, box, closes_welded, largest, loft, outline_corners

Array = NDArray[np.float64]
#: Edges round a body; no section is smaller than this, mm; ends are so many walls thick, and at least this, mm.
AROUND, LEAST, _ENDS, _END = 96, 2.0, 3.0, 1.2
#: Play all round a hatch; a sleeve reaches so far either way of a cut, and is so thick, mm (chosen).
PLAY, SLEEVE, SLEEVE_WALL = 0.3, 8.0, 1.2
#: How far a surface is carried on beyond its root where it is cut out of a body, mm.
_INTO = 2.0
#: How far seats are moved aside where the shell would touch itself, tried in turn, mm.
_ASIDE = (0.0, 0.011, 0.029, 0.053)
#: Powers of a superellipse that are looked up, and what of its box each one fills.
_POWERS = np.linspace(0.01, 1.0, 200)
_FILLED = gamma(1 + _POWERS / 2) ** 2 / gamma(1 + _POWERS)


def power_of(rounding: float) -> float:
    """Return the power of the superellipse that fills as much of its box as a body's section of a rounding does.

    Parameters
    ----------
    rounding : float
        0 a box, 1 an ellipse.

    Returns
    -------
    float

    Source
    ------
    Area of |y|^(2/p) + |z|^(2/p) = 1 in its box: Γ(1 + p/2)² / Γ(1 + p); the body's own blends box and ellipse
    (docs/theory.md §4).
    """
    wanted = 1 - rounding * (1 - math.pi / 4)
    return float(np.interp(-wanted, -_FILLED, _POWERS))


def _rings(body: Body, less: float, start: float | None = None, end: float | None = None) -> Array:
    """Return the rings of a body, (k, n, 3) mm, drawn in all round by so much, between two places of it, m."""
    x = np.array([one.x for one in body.sections])
    low, high = (x[0] if start is None else start), (x[-1] if end is None else end)
    places = np.concatenate([[low], x[(x > low + 1e-6) & (x < high - 1e-6)], [high]])
    rows = np.array([(one.width, one.height, one.z) for one in body.sections])
    width, height, z = (np.interp(places, x, 1000 * column) for column in rows.T)
    rounding = np.interp(places, x, np.array(body.roundings))
    turn = 2 * math.pi * (np.arange(AROUND) + 0.5) / AROUND
    c, s = np.cos(turn), np.sin(turn)
    power = np.array([power_of(one) for one in rounding])[:, None]
    wide, tall = (0.5 * np.maximum(size - 2 * less, LEAST)[:, None] for size in (width, height))
    across, up = wide * np.sign(c) * np.abs(c) ** power, tall * np.sign(s) * np.abs(s) ** power
    found: Array = np.stack(
        [np.broadcast_to(1000 * places[:, None], across.shape), across, up + z[:, None]], axis=-1
    )  # fmt: skip
    return found


def outside_of(body: Body) -> Manifold:
    """Return a body filled, about its own middle plane, mm."""
    return loft(_rings(body, 0.0))


def shell_of(body: Body) -> Manifold:
    """Return the hollow shell of a printed body, its ends closed, about its own middle plane, mm.

    Parameters
    ----------
    body : Body

    Returns
    -------
    Manifold
    """
    assert body.built is not None
    wall = 1000 * body.built.printing.line_width * max(body.built.printing.perimeters, 1.0)
    end = 1e-3 * max(_ENDS * wall, _END)
    x = body.sections
    return outside_of(body) - loft(_rings(body, wall, x[0].x + end, x[-1].x - end))


def through(body: Body, surfaces: Iterable[Surface]) -> Iterator[Manifold]:
    """Yield what of the surfaces passes through a body, in its own frame, mm: their seats, at their incidence."""
    for surface in surfaces:
        here = placed_at(surface, [station.y for station in surface.stations])
        unit = outline_corners(outline_over_chord(surface) * (-1.0, 1.0)) * (-1.0, 1.0)
        rings = 1000 * (sections(here, unit) - np.array([0.0, body.y, 0.0]))
        # Carried on inward a little: halves that only touch would leave a skin without thickness between them.
        inward = rings[0] - rings[1]
        rings = np.concatenate([[rings[0] + inward * (_INTO / max(float(np.linalg.norm(inward, axis=1).max()), 1e-9))],
                                rings])  # fmt: skip
        for side in (1.0, -1.0) if surface.mirrored else (1.0,):
            turned = rings * np.array([1.0, side, 1.0])
            # A ring seen against the way out runs the other way round on the other side.
            way = float(turned[-1, 0, 1] - turned[0, 0, 1]) + float(turned[-1, 0, 2] - turned[0, 0, 2])
            try:
                yield loft(turned if way * side > 0 else turned[:, ::-1])
            except NoSolid:
                yield loft(turned[:, ::-1] if way * side > 0 else turned)


def hulls_of(body: Body, surfaces: Sequence[Surface], hatch: Hatch | None, printer: Printer) -> tuple[Panel, ...]:
    """Return the printed parts of one body: its shell cut across, its hatch, and a sleeve for every cut.

    Parameters
    ----------
    body : Body
        One that is printed.
    surfaces : sequence of Surface
        What may pass through it.
    hatch : Hatch or None
    printer : Printer

    Returns
    -------
    tuple of Panel
    """
    assert body.built is not None
    notes: list[str] = []
    shell = shell_of(body)
    made: list[Panel] = []
    if hatch is not None:
        cut, lid = _hatch(body, shell, hatch)
        shell = shell - cut
        if not lid.is_empty():
            stood, fits = _lying(lid, printer)
            made.append(Panel("hatch", stood, 1, () if fits else (TOO_LARGE,), fits))
    else:
        notes.append("no room for a hatch over the pack")
    x = np.array([one.x for one in body.sections])
    count = max(math.ceil((x[-1] - x[0]) / (printer.height - printer.clear) - 1e-9), 1)
    cuts = np.linspace(x[0], x[-1], count + 1)
    seats = tuple(through(body, surfaces))
    parts: list[Panel] = []
    for aside in _ASIDE:
        # Seats that meet edge to edge leave a shell that touches itself: a hair aside they do not.
        seated = shell
        for k, seat in enumerate(seats):
            seated = seated - seat.translate((0.4 * aside * (k + 1), 0.7 * aside, aside))
        parts = _cut_across(body, seated, cuts, notes, printer)
        if all(closes_welded(part.body) for part in parts):
            break
    sleeves = [Panel("joint sleeve", _sleeve(body, float(cut), printer), k + 1, (), shell=False)
               for k, cut in enumerate(cuts[1:-1])]  # fmt: skip
    return (*parts, *made, *sleeves)


def _cut_across(body: Body, shell: Manifold, cuts: Array, notes: list[str], printer: Printer) -> list[Panel]:
    """Return the parts of a shell between cuts, each on its larger end."""
    parts = []
    for k in range(len(cuts) - 1):
        part = shell
        if k:
            part = part.trim_by_plane((1.0, 0.0, 0.0), 1000 * cuts[k])
        if k < len(cuts) - 2:
            part = part.trim_by_plane((-1.0, 0.0, 0.0), -1000 * cuts[k + 1])
        stood, fits = _standing(largest(part), printer, nose_up=_area(body, cuts[k]) < _area(body, cuts[k + 1]))
        told = (*(notes if k == 0 else ()), *(() if fits else (TOO_LARGE,)))
        parts.append(Panel("shell", stood, k + 1, told, fits))
    return parts


def _area(body: Body, x: float) -> float:
    places = [one.x for one in body.sections]
    return float(np.interp(x, places, [one.width * one.height for one in body.sections]))


def _hatch(body: Body, shell: Manifold, hatch: Hatch) -> tuple[Manifold, Manifold]:
    """Return what is cut out of the top of a shell, and the lid that closes it."""
    places = [one.x for one in body.sections]
    rows = np.array([np.interp([hatch.start, hatch.end], places, [getattr(one, name) for one in body.sections])
                     for name in ("width", "height", "z")])  # fmt: skip
    width, z = 1000 * float(rows[0].min()), 1000 * float(rows[2].max())
    top = 1000 * float((rows[2] + 0.5 * rows[1]).max()) + 5.0
    half = 0.5 * HATCH_WIDE * width

    def cut(play: float) -> Manifold:
        return box((1000 * hatch.start + play, -half + play, z), (1000 * hatch.end - play, half - play, top))

    return cut(0.0), shell ^ cut(PLAY)


def _sleeve(body: Body, cut: float, printer: Printer) -> Manifold:
    """Return the ring that is glued inside a cut, standing."""
    assert body.built is not None
    wall = 1000 * body.built.printing.line_width * max(body.built.printing.perimeters, 1.0)
    reach, less = 1e-3 * SLEEVE, wall + 500 * printer.clearance
    low, high = max(cut - reach, body.sections[0].x), min(cut + reach, body.sections[-1].x)
    ring = loft(_rings(body, less, low, high)) - loft(_rings(body, less + SLEEVE_WALL, low - 1e-4, high + 1e-4))
    return on_its_rib(ring.rotate((0.0, -90.0, 0.0)), printer)[0]


def _standing(part: Manifold, printer: Printer, *, nose_up: bool) -> tuple[Manifold, bool]:
    """Return a part of a shell on its larger end."""
    return on_its_rib(part.rotate((0.0, 90.0 if nose_up else -90.0, 0.0)), printer)


def _lying(part: Manifold, printer: Printer) -> tuple[Manifold, bool]:
    """Return a lid on its back."""
    return on_its_rib(part.rotate((180.0, 0.0, 0.0)), printer)
