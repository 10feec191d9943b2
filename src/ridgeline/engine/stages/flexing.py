"""The stages of bending: each half of a surface as a beam, what pulls on it, and how it lies at rest and in flight."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.fastening import BRACES, Fastening
from ridgeline.design.parts import Item
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, absent, derive, later
from ridgeline.engine.geometry.planform import panel_areas
from ridgeline.engine.geometry.reference import WINGS, main_wing
from ridgeline.engine.stages.common import NO_MASS, NO_WING, Air, Outcome, Told
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.structure.beam import Carried, bent
from ridgeline.engine.structure.bracing import Braced, braced, braces_of
from ridgeline.engine.structure.half import Half, half_of, seat_of, why_not
from ridgeline.engine.structure.hung import Hanging, hanging_on
from ridgeline.engine.structure.span_load import SpanLoad, hanging_load, span_load, strips_of

Array = NDArray[np.float64]
_KEYS = ("structure.droop", "structure.flight_bend")
#: One sigma, as shares: of the stiffness of skins (paper and core of one board differ from another's), of that of
#: stock, of the moment the lattice gives, and of that of what hangs on a half (chosen: how its mass lies along it).
SKIN_SIGMA, STOCK_SIGMA, LOAD_SIGMA, HUNG_SIGMA = 0.25 / BAND, 0.10 / BAND, 0.07 / BAND, 0.10 / BAND
#: What a moment is called that the edge of a seat has to bear.
AT_SEAT = "moment at the seat"


def beams(surfaces: tuple[Surface, ...], bodies: tuple[Body, ...]) -> Outcome[tuple[Half | None, ...]]:
    """Take each half of a surface as a beam; None where nothing is known of what it bears."""
    return Outcome(tuple(half_of(surface, seat_of(surface, bodies)) for surface in surfaces))


def spread(halves: tuple[Half | None, ...], model: AirframeLattice | None) -> Outcome[tuple[SpanLoad | None, ...]]:
    """Give shear and moment of each half by a unit of each thing that pulls."""
    if model is None:
        return Outcome(tuple(None for _half in halves))
    return Outcome(
        tuple(
            None if half is None else span_load(strips_of(model, k), half.y, half.seat) for k, half in enumerate(halves)
        )
    )


def bracing(fastenings: tuple[Fastening, ...]) -> Outcome[tuple[Fastening, ...]]:
    """Pick the fastenings that hold a wing out on its span: the others leave its bend alone."""
    return Outcome(tuple(one for one in fastenings if one.kind in BRACES))


@dataclass(frozen=True, eq=False)
class Flexed:
    """How each surface lies: what hangs on it, its weight as shear and moment at 1 g, and its bend, m up, (n,) each.

    ``carrying`` is the load in cruise, lift less weight, as its braces leave it. ``rest`` is the bend standing with
    nothing but its weight,
    ``flying`` that in cruise. None where a surface cannot be judged. ``dihedral`` is what the bend adds to the wings'
    equivalent dihedral, rad, where none was measured.
    """

    hanging: tuple[Hanging, ...]
    weight: tuple[Carried | None, ...]
    carrying: tuple[Carried | None, ...]
    rest: tuple[Array | None, ...]
    flying: tuple[Array | None, ...]
    dihedral: float


def pulls_level(model: AirframeLattice, lift: float, pressure: float, flap: float = 0.0) -> tuple[float, float]:
    """Return what of built-in angles and of the angle of attack carries a lift: factors of their loads.

    Parameters
    ----------
    model : AirframeLattice
    lift : float
        Of all surfaces, N.
    pressure : float
        Dynamic pressure, Pa.
    flap : float
        Deflection worth as much as a small one, rad.

    Returns
    -------
    zero, alpha : float
        Pa, and Pa rad.
    """
    found = model.found
    more = 0.0 if model.flap is None else model.flap.lift * flap
    alpha = (lift / (pressure * model.scale.area) - found.zero.lift - more) / found.alpha.lift
    return pressure, pressure * alpha


def settled(half: Half, load: Carried) -> Array:
    """Return how a half bends under a load from the edge of its seat, m up, (n,)."""
    stiff = half.skins.shear
    shear = None if not stiff.any() else np.maximum(stiff, 1e-3)
    found = bent(half.y, load, half.bending, shear).deflection
    return found - float(np.interp(half.seat, half.y, found))


def hold(
    halves: tuple[Half | None, ...],
    loads: list[Carried | None],
    braces: tuple[Fastening, ...],
    surfaces: tuple[Surface, ...],
    bodies: tuple[Body, ...],
) -> Braced:
    """Return what halves carry by cases, (cases, n) each, as their braces leave it.

    Parameters
    ----------
    halves : tuple of Half or None
    loads : list of Carried or None
    braces : tuple of Fastening
    surfaces : tuple of Surface
    bodies : tuple of Body

    Returns
    -------
    Braced
    """
    return braced(halves, loads, braces_of(braces, surfaces, bodies, halves))


def flexed(
    halves: tuple[Half | None, ...],
    loads: tuple[SpanLoad | None, ...],
    model: AirframeLattice | None,
    mass: Masses,
    parts: tuple[Item, ...],
    surfaces: tuple[Surface, ...],
    bodies: tuple[Body, ...],
    braces: tuple[Fastening, ...],
    speed: Speeds | None,
    here: Air,
    told: Told,
) -> Outcome[Flexed | None]:
    """Give the droop at rest and the bend in cruise."""
    if model is None or mass.state is None or speed is None or not any(s.role in WINGS for s in surfaces):
        why = NO_WING if model is None else NO_MASS
        return Outcome(None, tuple(absent(key, why) for key in _KEYS))
    main = surfaces.index(main_wing(surfaces))
    outside = 0.05 if halves[main] is None else max(halves[main].seat, 0.02)  # type: ignore[union-attr]
    hanging = hanging_on(surfaces, parts, mass.expected.tolist(), outside)
    pressure = 0.5 * here.density * speed.cruise**2
    zero, alpha = pulls_level(model, mass.state.mass * GRAVITY, pressure)
    weight: list[Carried | None] = []
    free: list[Carried | None] = []
    for half, load, hung in zip(halves, loads, hanging, strict=True):
        if half is None or load is None:
            weight.append(None)
            free.append(None)
            continue
        down = hanging_load(half.y, half.chord, hung.panel, hung.items, half.seat)
        # Standing and in cruise.
        shear = np.array([down.shear, zero * load.shear[0] + alpha * load.shear[1] + down.shear])
        moment = np.array([down.moment, zero * load.moment[0] + alpha * load.moment[1] + down.moment])
        weight.append(down)
        free.append(Carried(shear, moment))
    held = hold(halves, free, braces, surfaces, bodies).carried
    carrying = [None if one is None else Carried(one.shear[1], one.moment[1]) for one in held]
    rest, flying = (
        [
            None if half is None or one is None else settled(half, Carried(one.shear[k], one.moment[k]))
            for half, one in zip(halves, held, strict=True)
        ]
        for k in (0, 1)
    )
    result = Flexed(
        hanging, tuple(weight), tuple(carrying), tuple(rest), tuple(flying), _dihedral(halves, flying, surfaces)
    )
    half = halves[main]
    if half is None:
        why = f"{surfaces[main].name}: {why_not(surfaces[main])}"
        return Outcome(result, tuple(absent(key, why) for key in _KEYS))
    return Outcome(result, _figures(result, half, main, told))


def _dihedral(halves: tuple[Half | None, ...], flying: list[Array | None], surfaces: tuple[Surface, ...]) -> float:
    """Return what the bend of wings whose droop was not measured adds to the equivalent dihedral of all wings, rad."""
    total = moment = 0.0
    for half, bend, surface in zip(halves, flying, surfaces, strict=True):
        if surface.role not in WINGS:
            continue
        y = np.array([s.y for s in surface.stations]) if half is None else half.y
        chord = np.array([s.chord for s in surface.stations]) if half is None else half.chord
        weight = panel_areas(y, chord) * 0.5 * (y[1:] + y[:-1])
        total += float(weight.sum())
        if half is not None and bend is not None and surface.droop is None:
            step = np.diff(y)
            moment += float(np.sum(weight * np.arctan2(np.diff(bend), np.maximum(step, 1e-9))))
    return moment / total if total > 0 else 0.0


def stiffness_put(half: Half) -> Put:
    """Put the bending stiffness at the seat's edge into a formula, with what skins and stock err by."""
    value, skin = float(half.bending[half.at_seat]), half.skin_share
    sigma = value * math.hypot(SKIN_SIGMA * skin, STOCK_SIGMA * (1 - skin))
    return Put(value, "bending stiffness at the seat", "bending_stiffness", sigma)


def lifted_put(moment: float, label: str, told: Told) -> Put:
    """Put a moment of lift less weight into a formula, N m: it errs as the lattice does and as the mass does."""
    auw = told["mass.auw"]

    def sigma() -> float:
        return abs(moment) * math.hypot(LOAD_SIGMA, auw.sigma / max(auw.value or 1.0, 1e-9))

    return later(moment, label, "torque", sigma)


def bend_figure(key: str, half: Half, tip: float, moment: Put, note: str) -> Figure:
    """Give a bend of the tip by the moment at the seat: by how the load lies along the half, as it was integrated."""
    stiff, long = stiffness_put(half), float(half.y[-1] - half.seat)
    shape = tip * stiff.value / (moment.value * long**2) if moment.value and long else 0.0
    return derive(
        key,
        "{k}·{M}·{L}²/{EI}",
        lambda k, M, L, EI: k * M * L**2 / EI,
        {
            "k": Put(shape, "shape of load and stiffness along the half, integrated", "ratio"),
            "M": moment,
            "L": Put(long, "seat to tip", "length"),
            "EI": stiff,
        },
        source="docs/theory.md §13",
        note=note,
    )


def _figures(found: Flexed, half: Half, main: int, told: Told) -> tuple[Figure, Figure]:
    down, up = found.rest[main], found.flying[main]
    weight, net = found.weight[main], found.carrying[main]
    assert down is not None and up is not None and weight is not None and net is not None
    own = -float(weight.moment[half.at_seat])
    hanging = Put(own, AT_SEAT, "torque", HUNG_SIGMA * abs(own))
    lifted = lifted_put(float(net.moment[half.at_seat]), AT_SEAT, told)
    standing = bend_figure(
        _KEYS[0], half, -float(down[-1]), hanging, "at rest, held at its seat: tips down, by their own weight"
    )
    flies = bend_figure(_KEYS[1], half, float(up[-1]), lifted, "in cruise, 1 g: tips up")
    return standing, flies
