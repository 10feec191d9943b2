"""Edits that give more or less control: throws, longer ailerons, more dihedral."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import pairwise
from typing import Any

from ridgeline.design.airframe import ControlSurface, Surface
from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.aero.airframe_lattice import ROLL_CONTROLS, roll_power
from ridgeline.engine.aero.flap import deflection_for, effective_deflection
from ridgeline.engine.aero.throws import travel
from ridgeline.engine.geometry.reference import WINGS
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Remedy, Report
from ridgeline.engine.results import given
from ridgeline.engine.roots import root_in
from ridgeline.engine.stages.handling import SLOW_LIFT

#: The least throw offered: a linkage loses less to its play, rad.
_LEAST_THROW = math.radians(3)
#: Steepest dihedral offered.
_MOST_DIHEDRAL = math.radians(16)


def angle(value: float, decimals: int = 1) -> Measured:
    """Return an angle, rad, to be said with some decimals.

    Parameters
    ----------
    value : float
        rad.
    decimals : int

    Returns
    -------
    Measured
    """
    return Measured(value, "angle", decimals)


def controls_of(design: Design, kinds: tuple[str, ...]) -> Iterator[tuple[int, int, Surface, ControlSurface]]:
    """Yield the controls of some kinds with their places.

    Parameters
    ----------
    design : Design
    kinds : tuple of str

    Yields
    ------
    tuple
        Index of the surface, index of the control on it, and both.
    """
    for i, surface in enumerate(design.surfaces):
        for j, control in enumerate(surface.controls):
            if control.kind in kinds:
                yield i, j, surface, control


def less_throw(design: Design, kinds: tuple[str, ...], share: float) -> Iterator[Remedy]:
    """Offer the throw that has a share of the present effect; a steep flap loses more than its angle.

    Parameters
    ----------
    design : Design
    kinds : tuple of str
        Of controls.
    share : float
        Of the present effect; nothing is offered for nearly all of it, nor a throw that no linkage holds.

    Yields
    ------
    Remedy
    """
    changes = list(throws_by(design, kinds, share))
    if changes and share < 0.98 and min(change.value for change in changes) >= _LEAST_THROW:
        kind = next(controls_of(design, kinds))[3].kind
        yield Remedy("less_throw", say(f"{kind.capitalize()} throw {{}}", angle(changes[0].value, 0)), tuple(changes))


def throws_by(design: Design, kinds: tuple[str, ...], factor: float) -> Iterator[Change]:
    """Yield the throws of some kinds whose effect is a factor of the present one.

    Parameters
    ----------
    design : Design
    kinds : tuple of str
        Of controls.
    factor : float

    Yields
    ------
    Change
        With the throw in rad.
    """
    for i, j, _surface, control in controls_of(design, kinds):
        for way, now in zip(("up", "down"), travel(control, design.brief.purpose), strict=True):
            wanted = deflection_for(factor * effective_deflection(now))
            yield Change(f"surfaces[{i}].controls[{j}].{way}", wanted)


def longer_ailerons(design: Design, report: Report, factor: float) -> Iterator[Remedy]:
    """Offer the throw, up to 25°, or the length inboard that rolls a factor faster; the lattice gives each its roll.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design, with a lattice.
    factor : float
        Of the present roll power.

    Yields
    ------
    Remedy
    """
    changes = list(throws_by(design, ROLL_CONTROLS, factor))
    if changes and max(change.value for change in changes) <= math.radians(25):
        yield Remedy("more_throw", say("Aileron throw {}", angle(changes[0].value, 0)), tuple(changes))
    model = given(report.results.lattice)
    wanted = factor * roll_power(model, design.surfaces)

    def over(share: float) -> float:
        return roll_power(model, _lengthened(design, share)) - wanted

    now, most = over(0.0), over(1.0)
    if most < 0:
        return
    # A hair past the root, so that it is enough.
    share = root_in(over, 0.0, 1.0, 1e-6, now, most) + 1e-6 if now < 0 else 0.0
    longer = _lengthened(design, min(share, 1.0))
    starts = [
        Change(f"surfaces[{i}].controls[{j}].start", longer[i].controls[j].start)
        for i, j, _surface, _control in controls_of(design, ROLL_CONTROLS)
    ]
    if starts:
        yield Remedy("longer_ailerons", say("Ailerons from {} out", Measured(starts[0].value, "length")), tuple(starts))


def _lengthened(design: Design, share: float) -> tuple[Surface, ...]:
    """Return the surfaces with their ailerons drawn inboard by a share of the way to a tenth of the half span.

    A flap in the way stays: they stop at its outer end.
    """
    found = []
    for surface in design.surfaces:
        ends = [c.end for c in surface.controls if c.kind not in ROLL_CONTROLS]
        least = max([0.1 * surface.stations[-1].y, *ends])
        controls = tuple(
            c.model_copy(update={"start": c.start - share * max(c.start - least, 0.0)})
            if c.kind in ROLL_CONTROLS
            else c
            for c in surface.controls
        )
        found.append(surface.model_copy(update={"controls": controls}))
    return tuple(found)


def more_dihedral(design: Design, report: Report, wanted: float | None, spiral: float = 0.0) -> Iterator[Remedy]:
    """Offer an equivalent dihedral, rad, got by tilting every wing's panels outside their first station."""
    handled, form = given(report.results.handling), report.results.shape
    if wanted is None:
        arm = form.tails.arm_v if form.tails else None
        if arm is None or arm <= 0:
            return
        wanted = math.radians(spiral * given(form.reference).span * SLOW_LIFT / arm)
    if wanted > handled.dihedral:
        # Panels that hang are levelled at least.
        wanted = max(wanted, 0.0)
    if not 0 <= wanted <= _MOST_DIHEDRAL:
        return
    turn = wanted - handled.dihedral
    changes = []
    rise = 0.0
    for index, surface in enumerate(design.surfaces):
        if surface.role in WINGS and surface.mirrored:
            stations = tilted(surface, turn)
            rise = max(rise, stations[-1].z)
            changes.append(Change(f"surfaces[{index}].stations", stations))
    if changes:
        yield Remedy(
            "more_dihedral",
            say("Dihedral {}, tips {} up", angle(wanted), Measured(rise, "length")),
            tuple(changes),
        )


def tilted(surface: Surface, turn: float) -> tuple[Any, ...]:
    """Return the stations of a surface with every panel turned up by an angle, rad, more than it is.

    Parameters
    ----------
    surface : Surface
    turn : float
        rad.

    Returns
    -------
    tuple of Station
    """
    stations = [surface.stations[0]]
    for inner, outer in pairwise(surface.stations):
        slope = math.atan2(outer.z - inner.z, outer.y - inner.y) + turn
        rise = stations[-1].z + (outer.y - inner.y) * math.tan(slope)
        stations.append(outer.model_copy(update={"z": rise}))
    return tuple(stations)
