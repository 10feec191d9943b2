"""One half of a surface as a beam: what bends, bears and twists at its stations, from skins and spars together."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.axes import is_upright
from ridgeline.design.construction import Spar
from ridgeline.design.hinges import hinge_share
from ridgeline.engine.aero.airframe_lattice import ROLL_CONTROLS
from ridgeline.engine.aero.flap import flap_effectiveness, flap_lift_arm
from ridgeline.engine.aero.sections import SLOPE_FACTOR, section_of
from ridgeline.engine.aero.wing_body import body_under
from ridgeline.engine.geometry.surfaces import measure_surface
from ridgeline.engine.kept import kept
from ridgeline.engine.structure.room import between_skins, sheet_at
from ridgeline.engine.structure.sections import Section, allowed, caps, channel, strip, tube
from ridgeline.engine.structure.skins import Skins, skins_of
from ridgeline.engine.structure.twist import Panel

Array = NDArray[np.float64]
#: Places along a half that follow its loads, beside its stations and the ends of its spars.
_ALONG = 33
#: Two stations hold a step between them, as a share of the half span.
_STEP = 1e-6
#: Shear modulus of what yields (metal, Poisson's ratio 0.3) and of what does not (along the fibre), of Young's.
_SHEAR_METAL, _SHEAR_FIBRE = 1 / 2.6, 1 / 20
NOT_BUILT = "nothing says how it is built"
BOUGHT = "it was bought: what it bears is not known"
NOT_KNOWN = "its spar is of a stock whose stiffness and strength are not known"


@dataclass(frozen=True, eq=False)
class Half:
    """The starboard half of a surface, or a lone one from its root, at stations ``y`` (n,) m out along the panel.

    ``chord`` (n,) m; ``skins`` what it is without spars; ``spars`` the spars, and ``spar_bending`` (k, n) N m² and
    ``spar_bears`` (k, n) N m of each, nothing where it is not; ``seat`` the edge of its seat, m out.
    """

    surface: Surface
    y: Array
    chord: Array
    skins: Skins
    spars: tuple[Spar, ...]
    spar_bending: Array
    spar_bears: Array
    seat: float

    @cached_property
    def bending(self) -> Array:
        """E I of skins and spars, N m²."""
        found: Array = self.skins.bending + self.spar_bending.sum(axis=0)
        return found

    @cached_property
    def bears(self) -> Array:
        """Moment it may carry at limit load, N m: of the spars where there are any, of the skins beyond them.

        Spars share a moment by their stiffness; the skins stiffen, but at the seat they are cut.
        """
        total = self.spar_bending.sum(axis=0)
        with np.errstate(divide="ignore", invalid="ignore"):
            each = np.where(self.spar_bending > 0, self.spar_bears * total / self.spar_bending, np.inf)
        least = each.min(axis=0, initial=np.inf)
        found: Array = np.where(np.isfinite(least), np.maximum(least, 0.0), self.skins.bears)
        # Outside the seat the skins are whole, and carry where the spar carries less.
        return np.maximum(found, np.where(self.y > self.seat + 1e-9, self.skins.bears, 0.0))

    @cached_property
    def spar_here(self) -> NDArray[np.bool_]:
        """Where there is a spar."""
        found: NDArray[np.bool_] = self.spar_bending.sum(axis=0) > 0
        return found

    @property
    def spar_end(self) -> float:
        """Where the outermost spar ends, m out; the root without one."""
        return float(self.y[self.spar_here][-1]) if self.spar_here.any() else float(self.y[0])

    @property
    def half_span(self) -> float:
        """From its root to its tip, m."""
        return float(self.y[-1] - self.y[0])

    @cached_property
    def at_seat(self) -> int:
        """The station at the seat's edge, by its index."""
        return int(np.argmin(np.abs(self.y - self.seat)))

    @cached_property
    def skin_share(self) -> float:
        """The share of the bending stiffness at the seat's edge that the skins give."""
        return float(self.skins.bending[self.at_seat] / self.bending[self.at_seat])

    @cached_property
    def axis(self) -> Array:
        """The share of the chord it bends and twists about, by the stiffness of what bends, (n,)."""
        places = np.array([spar.place for spar in self.spars])
        moment = self.skins.axis * self.skins.bending + (
            places @ self.spar_bending if len(places) else np.zeros(len(self.y))
        )
        found: Array = moment / self.bending
        return found

    @cached_property
    def torsion(self) -> Array:
        """G J of skins and glued-in spars, and what spars side by side add by bending apart, N m², (n,)."""
        found = self.skins.torsion.copy()
        for spar, bending in zip(self.spars, self.spar_bending, strict=True):
            if not spar.sliding and spar.modulus is not None:
                shear = spar.modulus * (_SHEAR_METAL if spar.yields else _SHEAR_FIBRE)
                found = found + np.where(bending > 0, spar.count * shear * _polar(spar), 0.0)
        return found + self._apart

    @cached_property
    def _apart(self) -> Array:
        """What a front and a rear spar add: one is bent up and the other down by a twist.

        Source
        ------
        Of two cantilevers L a chordwise distance h apart, joined along their length, under a torque at the tip
        (docs/theory.md §13): 3 (E I₁ E I₂/(E I₁ + E I₂)) h²/L².
        """
        found = np.zeros(len(self.y))
        if len(self.spars) < 2:
            return found
        order = np.argsort([spar.place for spar in self.spars])
        front, rear = self.spars[order[0]], self.spars[order[-1]]
        first, last = self.spar_bending[order[0]], self.spar_bending[order[-1]]
        both = (first > 0) & (last > 0)
        if not both.any():
            return found
        long = float(self.y[both][-1] - self.y[0])
        apart = (rear.place - front.place) * self.chord
        found[both] = 3 * (first * last)[both] / (first + last)[both] * apart[both] ** 2 / max(long, 1e-6) ** 2
        return found

    @cached_property
    def panel(self) -> Panel | None:
        """The half as it twists; None of one that stands upright, where no air turns it so."""
        if is_upright(self.surface):
            return None
        shape = measure_surface(self.surface)
        plain = SLOPE_FACTOR * 2 * math.pi
        slope = np.full(len(self.y), plain / (1 + plain / (math.pi * shape.aspect_ratio)))
        lift, moment = np.zeros(len(self.y)), np.zeros(len(self.y))
        for control in self.surface.controls:
            if control.kind in ROLL_CONTROLS:
                here = (self.y >= control.start - 1e-9) & (self.y <= control.end + 1e-9)
                share = np.asarray(hinge_share(self.surface, control, self.y[here]), float)
                worth = flap_effectiveness(share)
                lift[here] = slope[here] * worth
                moment[here] = -plain * worth * flap_lift_arm(share)
        held = self.surface.built.root if self.surface.built is not None else None
        spring = math.inf if held is None else held.spring * held.arm**2
        behind = (self.axis - 0.25) * self.chord
        return Panel(self.y, self.chord, self.torsion, behind, slope, lift, moment, spring)

    @property
    def rolls(self) -> bool:
        """Whether it has a control that rolls."""
        return any(control.kind in ROLL_CONTROLS for control in self.surface.controls)

    @cached_property
    def camber_couple(self) -> Array:
        """Couple of the sections over the dynamic pressure, m, nose up: what twists the tips down in a dive, (n,)."""
        found: Array = self.chord**2 * section_of(self.surface).cm_quarter * SLOPE_FACTOR
        return found

    @cached_property
    def sweep(self) -> float:
        """Sweep of the axis it bends about, rad, aft positive."""
        stations = self.surface.stations
        lead = np.interp(self.y[[0, -1]], [s.y for s in stations], [s.x for s in stations])
        axis = lead + self.axis[[0, -1]] * self.chord[[0, -1]]
        return math.atan2(float(axis[1] - axis[0]), self.half_span)


def spar_section(spar: Spar) -> Section:
    """Return the section of one piece of a spar.

    Parameters
    ----------
    spar : Spar

    Returns
    -------
    Section
    """
    if spar.round:
        return tube(spar.height, spar.inner)
    return channel(spar.width, spar.height, spar.sides) if spar.sides else strip(spar.width, spar.height)


def _polar(spar: Spar) -> float:
    """Return the torsion constant of one piece of a spar, m⁴."""
    if spar.round:
        return 2 * tube(spar.height, spar.inner).second
    if spar.sides:
        # Open and thin: a third of the length of its walls times their thickness cubed.
        return (2 * spar.width + spar.height - 2 * spar.sides) * spar.sides**3 / 3
    thin, broad = sorted((spar.width, spar.height))
    # A strip's b t³/3, less what its ends lack (Roark's formulas, table 10.1, case 4, first term).
    return broad * thin**3 * (1 / 3 - 0.21 * thin / broad)


def why_not(surface: Surface) -> str:
    """Tell why a surface cannot be judged; "" where it can."""
    built = surface.built
    if built is None:
        return NOT_BUILT
    if built.form == "bought":
        return BOUGHT
    return NOT_KNOWN if any(s.modulus is None or s.strength is None for s in built.spars) else ""


@kept()
def half_of(surface: Surface, seat: float) -> Half | None:
    """Return a half of a surface as a beam; None where it cannot be judged (`why_not`).

    Parameters
    ----------
    surface : Surface
    seat : float
        Edge of its seat, m out along the panel.

    Returns
    -------
    Half or None
    """
    built = surface.built
    if built is None or why_not(surface):
        return None
    y = _stations(surface, built.spars, seat)
    rows = np.array([(s.y, s.chord) for s in surface.stations])
    chord = np.interp(y, rows[:, 0], rows[:, 1])
    skins = skins_of(surface, y, chord)
    if skins is None:
        return None
    bending, bears = np.zeros((len(built.spars), len(y))), np.zeros((len(built.spars), len(y)))
    for k, spar in enumerate(built.spars):
        if spar.modulus is None or spar.strength is None:
            continue
        (second, section), (start, end) = _bending_of(surface, spar, chord), _reach(surface, spar)
        here = (y >= start - 1e-9) & (y <= end + 1e-9)
        bending[k] = np.where(here, spar.modulus * second, 0.0)
        stress = allowed(spar.strength, brittle=not spar.yields)
        bears[k] = np.where(here, section * stress, 0.0)
    return Half(surface, y, chord, skins, built.spars, bending, bears, seat)


def _bending_of(surface: Surface, spar: Spar, chord: Array) -> tuple[Array, Array]:
    """Return second moment m⁴ and section modulus m³ of all pieces of a spar at chords, (n,)."""
    one, ones = spar_section(spar), np.ones_like(chord)
    if not spar.caps:
        return spar.count * one.second * ones, spar.count * one.modulus * ones
    sheet = sheet_at(surface, spar.place)
    # On the faces of a sheet, within the skins of a hollow form.
    apart = (
        ones * (sheet + spar.height) if sheet is not None else between_skins(surface, spar.place, chord) - spar.height
    )
    found = caps(0.5 * spar.count * one.area, np.maximum(apart, spar.height), spar.height)
    own = spar.count * one.second
    return found.second + own, (found.second + own) / (0.5 * (np.maximum(apart, spar.height) + spar.height))


def seat_of(surface: Surface, bodies: tuple[Body, ...]) -> float:
    """Return the edge of a surface's seat: as it says, or half the width of the body under its root.

    Parameters
    ----------
    surface : Surface
    bodies : tuple of Body

    Returns
    -------
    float
        Out along the panel, m.
    """
    root, half = surface.stations[0].y, surface.stations[-1].y - surface.stations[0].y
    if surface.built is not None and surface.built.seat_out is not None:
        edge = surface.built.seat_out
    else:
        under = body_under(surface, bodies) if surface.mirrored else None
        edge = 0.0 if under is None else 0.5 * under.width - surface.y
    return min(max(edge, root), root + 0.5 * half)


def _reach(surface: Surface, spar: Spar) -> tuple[float, float]:
    first, last = surface.stations[0].y, surface.stations[-1].y
    return first + spar.start * (last - first), first + spar.end * (last - first)


def _stations(surface: Surface, spars: tuple[Spar, ...], seat: float) -> Array:
    """Return places from root to tip: even ones, the stations, the seat's edge, and both sides of every step."""
    first, last = surface.stations[0].y, surface.stations[-1].y
    gap = _STEP * (last - first)
    steps = [end for spar in spars for end in _reach(surface, spar)]
    steps += [end for control in surface.controls for end in (control.start, control.end)]
    sides = np.array([(end - gap, end + gap) for end in steps]).ravel() if steps else np.zeros(0)
    every = np.concatenate([np.linspace(first, last, _ALONG), [s.y for s in surface.stations], [seat], sides])
    y = np.unique(np.clip(every, first, last))
    found: Array = y[np.concatenate([[True], np.diff(y) > 0.5 * gap])]
    return found
