"""A drag polar from strips, wetted area and span: C_D = C_D0(V) + k (C_L − C_L0)² + C_L²/(π A e)."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.flights import Learnt
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.sections import Section, drag_coefficient, section, section_of
from ridgeline.engine.aero.slipstream import Place, Scrubbed, body_strips, joined, strips_of, thrust_lost
from ridgeline.engine.bands import BAND
from ridgeline.engine.geometry.reference import WINGS

#: What a body in the way costs of the surfaces' own span efficiency (Hoerner, Fluid-Dynamic Drag, ch. 7).
BODY_SHARE = 0.93
#: Square corners, open joints and hatches against a smooth flat plate of the same wetted area; flat noses, blunt ends,
#: open sides and what stands out are in the drag list.
_BODY_FORM = 1.6
#: Paper seams, tape edges, hinge gaps, leads: share added to the sum of the parts (one home-built aircraft in another).
_ROUGHNESS = 1.15
#: One sigma of the whole, a share (chosen: sections, seams and edges of one home-built differ from another's).
DRAG_SIGMA = 0.25 / BAND
#: Drag of a body across the flow over its planform (Allen and Perkins, NACA Report 1048: 1.2 round), and the angle past
#: which the polar is no longer followed, rad.
_ACROSS, _MOST_ANGLE = 1.2, math.radians(45)
#: Turbulent skin friction at Re 5·10⁵, where bodies in a wash are; strips a surface is cut into there.
_SKIN, _STRIPS = 0.074 * 5e5**-0.2, 24


@dataclass(frozen=True)
class DragModel:
    """What the polar needs: areas m², lengths m, the wing's section, and the surfaces' own span efficiency.

    ``standing_out`` is the drag area of the drag list, m².

    The body stands at the angle at which the surfaces lift what is asked: ``slope`` 1/rad from ``lift_level`` with the
    body level; a slope of nothing leaves it level.
    """

    area: float
    aspect_ratio: float
    mac: float
    wing_section: Section
    tail_area: float
    tail_chord: float
    body_wetted: float
    body_length: float
    standing_out: float
    span_efficiency: float = 0.86
    body_planform: float = 0.0
    slope: float = 0.0
    lift_level: float = 0.0
    washed: Scrubbed | None = None
    #: Drag of what carries nothing over the reckoned, where flights told it, and one sigma of the whole, a share.
    factor: float = 1.0
    sigma: float = DRAG_SIGMA


def drag_sigma_of(learnt: Learnt) -> float:
    """Return one sigma of the whole drag, a share: what flights left of it, or that of what is reckoned.

    Parameters
    ----------
    learnt : Learnt

    Returns
    -------
    float
    """
    return DRAG_SIGMA if learnt.drag_factor is None else learnt.drag_sigma


def thrust_left(model: DragModel | None, diameter: float) -> float:
    """Return the share of the thrust left once its own wash has scrubbed what stands in it.

    Parameters
    ----------
    model : DragModel
    diameter : float
        Of the propeller, m.

    Returns
    -------
    float
        Share.
    """
    return 1.0 if model is None else 1.0 - thrust_lost(model.washed, diameter)


def scrubbed(surfaces: tuple[Surface, ...], bodies: tuple[Body, ...], places: Sequence[Place]) -> Scrubbed:
    """Return what stands behind propellers at some places, with the drag area of each piece, m².

    Parameters
    ----------
    surfaces : tuple of Surface
    bodies : tuple of Body
    places : list of tuple
        Of the discs, in aircraft axes, m.

    Returns
    -------
    Scrubbed
        Drag areas, m².

    Source
    ------
    Section drag at Re 10⁵ and turbulent skin at Re 5·10⁵, as `drag` has them: docs/theory.md §11.
    """
    parts = []
    for place in places:
        for surface in surfaces:
            shape = section_of(surface) if surface.role in WINGS else section("rounded_plate")
            cut = strips_of(surface, surface.stations[0].y, surface.stations[-1].y, place, _STRIPS)
            parts.append(cut._replace(share=_ROUGHNESS * shape.cd_0 * cut.share))
        for body in bodies:
            cut = body_strips(body, place)
            parts.append(cut._replace(share=_ROUGHNESS * _BODY_FORM * _SKIN * cut.share))
    return Scrubbed(joined(parts), len(places))


def drag(
    model: DragModel, speed: ArrayLike, mass: ArrayLike, air_density: float, viscosity: float
) -> NDArray[np.float64]:
    """Return the drag in level flight, N, broadcasting over ``speed`` (m/s); ±25 % (90 %).

    Parameters
    ----------
    model : DragModel
    speed : array_like
        m/s.
    mass : array_like
        kg.
    air_density : float
        kg/m³.
    viscosity : float
        Pa s.

    Returns
    -------
    ndarray
        N.

    Source
    ------
    docs/theory.md §8: strips at their own Reynolds number, turbulent flat plate 0.074 Re^−0.2 for bodies.
    """
    return drag_of(model, speed, air_density, viscosity)(mass)


def drag_of(
    model: DragModel, speed: ArrayLike, air_density: float, viscosity: float
) -> Callable[[ArrayLike], NDArray[np.float64]]:
    """Return what gives the drag, N, of any mass carried, kg, at given airspeeds: what goes by speed is found once.

    Parameters
    ----------
    model : DragModel
    speed : array_like
        m/s.
    air_density : float
        kg/m³.
    viscosity : float
        Pa s.

    Returns
    -------
    callable
        Of a mass that broadcasts with ``speed``.
    """
    v = np.asarray(speed, float)
    q, terms = 0.5 * air_density * v**2, polar_terms(model)
    fixed = fixed_area(model, v, air_density, viscosity)
    off_best, induced = terms.off_best * model.area, terms.induced * model.area
    per_mass = GRAVITY / (q * model.area)

    def carrying(mass: ArrayLike) -> NDArray[np.float64]:
        c_l = np.asarray(mass, float) * per_mass
        off = c_l - terms.best
        return q * (fixed + off_best * off * off + induced * c_l * c_l + _crossflow(model, c_l))

    return carrying


def _carrying_nothing(model: DragModel, per_metre: NDArray[np.float64]) -> tuple[NDArray[np.float64], ...]:
    """Return the drag areas, m², of the wing at its best lift, the tail, and the skin of the bodies."""
    wing = model.wing_section
    least = model.area * drag_coefficient(wing, wing.cl_0, per_metre * model.mac)
    tail = model.tail_area * drag_coefficient(section("rounded_plate"), 0.0, per_metre * max(model.tail_chord, 1e-3))
    body = _BODY_FORM * 0.074 * (per_metre * max(model.body_length, 1e-3)) ** -0.2 * model.body_wetted
    rough = model.factor * _ROUGHNESS
    return rough * least, rough * tail, rough * body


def fixed_area(model: DragModel, speed: ArrayLike, air_density: float, viscosity: float) -> NDArray[np.float64]:
    """Return the drag area of what carries nothing, m², over airspeed.

    Parameters
    ----------
    model : DragModel
    speed : array_like
        m/s.
    air_density : float
        kg/m³.
    viscosity : float
        Pa s.

    Returns
    -------
    ndarray
    """
    per_metre = air_density * np.asarray(speed, float) / viscosity
    wing, tail, body = _carrying_nothing(model, per_metre)
    found: NDArray[np.float64] = wing + tail + body + model.factor * model.standing_out
    return found


class PolarTerms(NamedTuple):
    """What lifting costs: C_D gains off_best (C_L − best)² + induced C_L² + across |sin α|³."""

    off_best: float
    best: float
    induced: float
    across: float


def polar_terms(model: DragModel) -> PolarTerms:
    """Return what lifting costs by the polar, as coefficients of the wing's area.

    Parameters
    ----------
    model : DragModel

    Returns
    -------
    PolarTerms
    """
    wing = model.wing_section
    induced = 1 / (math.pi * model.aspect_ratio * BODY_SHARE * model.span_efficiency)
    across = _ACROSS * model.body_planform / model.area if model.slope > 0 else 0.0
    return PolarTerms(_ROUGHNESS * wing.k, wing.cl_0, induced, across)


class DragShares(NamedTuple):
    """Drag areas, m², that make up the whole: of what carries nothing, and what lifting costs."""

    wing: float
    tail: float
    bodies: float
    standing_out: float
    lifting: float


def shares(model: DragModel, speed: float, mass: float, air_density: float, viscosity: float) -> DragShares:
    """Return what the drag in level flight is made of.

    Parameters
    ----------
    model : DragModel
    speed : float
        m/s.
    mass : float
        kg.
    air_density : float
        kg/m³.
    viscosity : float
        Pa s.

    Returns
    -------
    DragShares
        They sum to the drag over the dynamic pressure.
    """
    whole = float(drag(model, speed, mass, air_density, viscosity)) / (0.5 * air_density * speed**2)
    per_metre = np.asarray(air_density * speed / viscosity)
    wing, tail, bodies = (float(area) for area in _carrying_nothing(model, per_metre))
    out = model.factor * model.standing_out
    return DragShares(wing, tail, bodies, out, whole - wing - tail - bodies - out)


def _crossflow(model: DragModel, c_l: NDArray[np.float64]) -> NDArray[np.float64] | float:
    """Return the drag area of the bodies at their angle to the air, m²: c_dc A |sin α|³."""
    if model.slope <= 0 or model.body_planform <= 0:
        return 0.0
    alpha = np.clip((c_l - model.lift_level) / model.slope, -_MOST_ANGLE, _MOST_ANGLE)
    across = np.abs(np.sin(alpha))
    return _ACROSS * model.body_planform * across * across * across
