"""Struts, threads and wires that hold wings out on their span: springs between a wing and a body or another wing.

Each adds one force that is not known. All of them together are those by which every one of them is as much longer as
the beams it joins have moved apart. A thread pulls only: where it would push, it hangs slack.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.fastening import Fastening
from ridgeline.engine.aero.wing_body import section_at
from ridgeline.engine.geometry.placed import relative_sizes
from ridgeline.engine.structure.beam import Carried, Force, bent, carried
from ridgeline.engine.structure.cases import ULTIMATE
from ridgeline.engine.structure.half import Half, spar_section
from ridgeline.engine.structure.sections import allowed, tube
from ridgeline.engine.structure.span_load import within_seat

Array = NDArray[np.float64]
#: Young's modulus, Pa, of a strut of carbon rod and of a thread of polyester, and what they break at (second part of
#: the handbook §16.2 of tubes; thread: usual of sewing and kite line).
STRUT, THREAD = (120e9, 400e6), (5e9, 400e6)
#: A brace flatter than this, the sine of its angle to the wing, holds nothing up (chosen).
LEAST_RISE = 0.05


class End(NamedTuple):
    """Where a brace ends on a half: index of the surface, m out, and 1 where it pulls that half down, -1 up."""

    half: int
    out: float
    sign: int


class Brace(NamedTuple):
    """A strut or thread as a spring.

    ``ends`` on halves, one or two; ``long`` m; ``rise`` and ``lean`` the sine and cosine of its angle to the wing, the
    lean positive where its foot is farther in; ``spring`` N/m along it, of all there are a side; ``pulls_only``.
    """

    ident: str
    ends: tuple[End, ...]
    long: float
    rise: float
    lean: float
    spring: float
    pulls_only: bool


class Braced(NamedTuple):
    """What halves carry with their braces, (cases, n) each, None where not known.

    ``thrust`` pushes along the half, N, (cases, n); ``pulls`` of each of the ``braces`` N, (cases, braces), negative
    where it is pushed.
    """

    braces: tuple[Brace, ...]
    carried: tuple[Carried | None, ...]
    thrust: tuple[Array | None, ...]
    pulls: Array


def constants(one: Fastening) -> tuple[float, float]:
    """Return Young's modulus of a strut or thread and what it breaks at, Pa."""
    modulus, strength = THREAD if one.kind == "thread" else STRUT
    return one.modulus or modulus, one.bears or strength


def drop_of(one: Fastening, surfaces: Sequence[Surface], bodies: Sequence[Body]) -> float | None:
    """Return how far the foot of a brace lies below its wing, m, above it negative.

    Parameters
    ----------
    one : Fastening
    surfaces : sequence of Surface
    bodies : sequence of Body

    Returns
    -------
    float or None
        As typed; else by what it stands on: the side of a body that is farther off, or another wing. None where it
        holds no wing, or stands on nothing.
    """
    wing = next((s for s in surfaces if s.id == one.of), None)
    if wing is None or one.drop is not None:
        return None if wing is None else one.drop
    here = _height(wing, one.out)
    other = next((s for s in surfaces if s.id == one.to), None)
    if other is not None:
        return here - _height(other, one.foot)
    body = next((b for b in bodies if b.id == one.to), None)
    under = None if body is None else section_at(body, wing.x + 0.4 * wing.stations[0].chord)
    if under is None:
        return None
    sides = (here - (under.middle - 0.5 * under.height), here - (under.middle + 0.5 * under.height))
    return max(sides, key=abs)


def _height(surface: Surface, out: float) -> float:
    stations = surface.stations
    return surface.z + float(np.interp(out, [s.y for s in stations], [s.z for s in stations]))


def braces_of(
    fastenings: Sequence[Fastening],
    surfaces: Sequence[Surface],
    bodies: Sequence[Body],
    halves: Sequence[Half | None],
) -> tuple[Brace, ...]:
    """Return the braces among fastenings that hold a wing which is known as a beam.

    Parameters
    ----------
    fastenings : sequence of Fastening
    surfaces : sequence of Surface
    bodies : sequence of Body
    halves : sequence of Half or None
        As the surfaces are.

    Returns
    -------
    tuple of Brace
        None of those that stand within the seat or beyond the tip, on nothing, or too flat to hold anything.
    """
    place = {surface.id: k for k, surface in enumerate(surfaces)}
    found = []
    for one in fastenings:
        drop = drop_of(one, surfaces, bodies)
        k = place.get(one.of)
        half = None if k is None else halves[k]
        if drop is None or k is None or half is None or not half.seat < one.out <= half.y[-1]:
            continue
        across = one.out - one.foot
        long = math.hypot(across, drop)
        if long <= 0 or abs(drop) < LEAST_RISE * long:
            continue
        ends = [End(k, one.out, 1)]
        other = place.get(one.to)
        below = None if other is None else halves[other]
        if other is not None and below is not None and below.seat < one.foot <= below.y[-1]:
            ends.append(End(other, one.foot, -1))
        modulus, _strength = constants(one)
        spring = one.count * modulus * tube(one.size, min(one.inner, 0.999 * one.size)).area / long
        found.append(Brace(one.id, tuple(ends), long, drop / long, across / long, spring, one.kind == "thread"))
    return tuple(found)


def _bend(half: Half, load: Carried) -> Array:
    """Return the bend of a half from the edge of its seat, m up, (..., n)."""
    stiff = half.skins.shear
    shear = None if not stiff.any() else np.maximum(stiff, 1e-3)
    found = bent(half.y, load, half.bending, shear).deflection
    bend: Array = found - found[..., half.at_seat : half.at_seat + 1]
    return bend


def braced(halves: Sequence[Half | None], loads: Sequence[Carried | None], braces: Sequence[Brace]) -> Braced:
    """Return what halves carry once braces hold them.

    Parameters
    ----------
    halves : sequence of Half or None
    loads : sequence of Carried or None
        Without braces, by cases: (cases, n) each; None where not known.
    braces : sequence of Brace

    Returns
    -------
    Braced

    Source
    ------
    Force method with as many unknowns as braces: (1/k + G) R = w, w how far the free beams open each brace, G by a unit
    of each (docs/theory.md §13); threads that would push are left out and the rest is found again.
    """
    cases = next((len(load.moment) for load in loads if load is not None), 0)
    pulls = np.zeros((cases, len(braces)))
    held = [b for b in braces if all(halves[e.half] is not None and loads[e.half] is not None for e in b.ends)]
    units = [_units(halves, brace) for brace in held]
    if held and cases:
        opened, gives = _opened(halves, loads, held), _gives(halves, held, units)
        # A brace at an angle pulls along itself, and gives along itself: both count by its rise.
        springs = np.array([brace.spring * brace.rise**2 for brace in held])
        slack = np.array([brace.pulls_only for brace in held])
        signs = np.sign([brace.rise for brace in held])
        columns = [k for k, brace in enumerate(braces) if brace in held]
        for case in range(cases):
            force = _forces(opened[case], gives, springs, slack, signs)
            pulls[case, columns] = force / np.array([brace.rise for brace in held])
    return _with(halves, loads, braces, held, units, pulls)


def _units(halves: Sequence[Half | None], brace: Brace) -> list[Carried]:
    """Return what a unit of force square to the wing, up, makes the half of each end carry."""
    found = []
    for end in brace.ends:
        half = halves[end.half]
        assert half is not None
        plain = carried(half.y, np.zeros_like(half.y), [Force(end.out, 1.0)])
        found.append(within_seat(plain, half.y, half.seat))
    return found


def _opened(halves: Sequence[Half | None], loads: Sequence[Carried | None], held: Sequence[Brace]) -> Array:
    """Return how far the free beams open each brace, m square to the wing, (cases, braces)."""
    bends: dict[int, Array] = {}
    rows = []
    for brace in held:
        total: Array = np.zeros(1)
        for end in brace.ends:
            half, load = halves[end.half], loads[end.half]
            assert half is not None and load is not None
            if end.half not in bends:
                bends[end.half] = _bend(half, load)
            total = total + end.sign * _at(half.y, bends[end.half], end.out)
        rows.append(total)
    return np.array(rows).T


def _at(y: Array, rows: Array, out: float) -> Array:
    """Return rows (cases, n) at a place out, (cases,)."""
    k = min(max(int(np.searchsorted(y, out)), 1), len(y) - 1)
    share = (out - y[k - 1]) / (y[k] - y[k - 1])
    found: Array = (1 - share) * rows[..., k - 1] + share * rows[..., k]
    return found


def _gives(halves: Sequence[Half | None], held: Sequence[Brace], units: Sequence[Sequence[Carried]]) -> Array:
    """Return how far a unit of force of each brace (columns) closes each (rows), m/N."""
    found = np.zeros((len(held), len(held)))
    for j, (brace, mine) in enumerate(zip(held, units, strict=True)):
        for end, unit in zip(brace.ends, mine, strict=True):
            half = halves[end.half]
            assert half is not None
            bend = _bend(half, unit)
            for i, other in enumerate(held):
                found[i, j] += sum(
                    end.sign * there.sign * float(_at(half.y, bend, there.out))
                    for there in other.ends
                    if there.half == end.half
                )
    return found


def _forces(opened: Array, gives: Array, springs: Array, slack: NDArray[np.bool_], signs: Array) -> Array:
    """Return the force of each brace square to the wing, N down, of one case; none of a thread that would push."""
    active = np.ones(len(opened), bool)
    for _ in range(len(opened) + 1):
        force = np.zeros(len(opened))
        which = np.flatnonzero(active)
        if not len(which):
            return force
        system = gives[np.ix_(which, which)] + np.diag(1 / springs[which])
        force[which] = np.linalg.solve(system, opened[which])
        pushed = active & slack & (force * signs < 0)
        if not pushed.any():
            return force
        # The one that pushes hardest goes first: the others may be pulled once it is gone.
        active[int(np.argmin(np.where(pushed, force * signs, 0.0)))] = False
    return force


def _with(
    halves: Sequence[Half | None],
    loads: Sequence[Carried | None],
    braces: Sequence[Brace],
    held: Sequence[Brace],
    units: Sequence[Sequence[Carried]],
    pulls: Array,
) -> Braced:
    """Add the forces of braces to what halves carry."""
    carrying = list(loads)
    thrust: list[Array | None] = [None if load is None else np.zeros_like(load.moment) for load in loads]
    for brace, mine in zip(held, units, strict=True):
        force = pulls[:, list(braces).index(brace)][:, None]
        for end, unit in zip(brace.ends, mine, strict=True):
            half, load, pushed = halves[end.half], carrying[end.half], thrust[end.half]
            assert half is not None and load is not None and pushed is not None
            down = end.sign * force * brace.rise
            carrying[end.half] = Carried(load.shear - down * unit.shear, load.moment - down * unit.moment)
            thrust[end.half] = pushed + end.sign * force * brace.lean * (half.y <= end.out)
    return Braced(tuple(braces), tuple(carrying), tuple(thrust), pulls)


def thrust_share(half: Half, thrust: Array, out: float) -> Array:
    """Return what pushes or pulls along a half over what it may bear at limit load.

    Parameters
    ----------
    half : Half
    thrust : ndarray, shape (cases, n)
        N, positive where it pushes.
    out : float
        To where, m out.

    Returns
    -------
    ndarray, shape (cases, n)
        By the area of its spars, where there are none by that of its skins; a push by Euler from the seat to there too.

    Source
    ------
    N ≤ A σ; of skins a depth h apart 2 M/h; N ≤ π² E I/(1.5 L²) with both ends hinged (docs/theory.md §13).
    """
    deep = np.maximum(relative_sizes(half.surface)[0] * half.chord, 1e-4)
    most = 2 * half.skins.bears / deep
    if half.spar_here.any():
        area = np.zeros(len(half.y))
        for spar, bending in zip(half.spars, half.spar_bending, strict=True):
            if spar.strength is not None:
                stress = allowed(spar.strength, brittle=not spar.yields)
                area += np.where(bending > 0, spar.count * spar_section(spar).area * stress, 0.0)
        most = np.where(half.spar_here, area, most)
    bay = (half.y >= half.seat - 1e-9) & (half.y <= out + 1e-9)
    slender = buckles(float(half.bending[bay].min()), max(out - half.seat, 1e-3)) / ULTIMATE
    found: Array = np.abs(thrust) / np.maximum(np.where(thrust > 0, np.minimum(most, slender), most), 1e-9)
    return found


def buckles(stiffness: float, long: float) -> float:
    """Return the push at which a straight bar with hinged ends buckles, N.

    Parameters
    ----------
    stiffness : float
        E I, N m².
    long : float
        m.

    Returns
    -------
    float

    Source
    ------
    π² E I/L² (Euler).
    """
    return math.pi**2 * stiffness / max(long, 1e-6) ** 2
