"""What holds parts together: sockets, dowels, bands, magnets, legs and booms."""

from __future__ import annotations

import math

from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.structure.cases import ULTIMATE

#: A magnet holds so much of what is printed on it, and a quarter of that across half a millimetre (second part of the
#: handbook §16.3): taken as a force that falls by e with each such gap, m (form chosen).
_MAGNET, _MAGNET_GAP = 0.3, 0.0005 / math.log(4)


def socket_bearing(moment: float, shear: float, depth: float, width: float) -> float:
    """Return the pressure of a rod on its socket, Pa.

    Parameters
    ----------
    moment, shear : float
        At the mouth of the socket, N m and N.
    depth, width : float
        How far the rod goes in, and how broad it is, m.

    Returns
    -------
    float

    Source
    ------
    (6 M/e² + 4 V/e)/d (second part of the handbook §16.3).
    """
    return (6 * moment / depth**2 + 4 * shear / depth) / width


def edge_crush(force: float, width: float, sheet: float) -> float:
    """Return the pressure of a dowel under bands on the edges of two sides, Pa.

    Parameters
    ----------
    force : float
        N.
    width : float
        Of the dowel, or the length of a stick glued along the edge, m.
    sheet : float
        Thickness of one side, m.

    Returns
    -------
    float

    Source
    ------
    F/(2 d t) (second part of the handbook §16.3).
    """
    return force / (2 * width * sheet)


def band_hold(strands: int, pull: float, angle: float) -> float:
    """Return the force by which bands hold a wing down, N.

    Parameters
    ----------
    strands : int
        That run down to the dowels on one side.
    pull : float
        Of one strand, N.
    angle : float
        Between the strands and the seat, rad.

    Returns
    -------
    float

    Source
    ------
    N T sin β a side (second part of the handbook §16.3).
    """
    return 2 * strands * pull * math.sin(angle)


def hold_down_needed(factor: float, mass: float, wing_mass: float) -> float:
    """Return the force a wing seat has to hold, N: the lift of what hangs below the wing.

    Parameters
    ----------
    factor : float
        Limit load factor.
    mass, wing_mass : float
        All-up, and of the wing, kg.

    Returns
    -------
    float

    Source
    ------
    n (m − m_wing) g × 1.5 (second part of the handbook §16.3).
    """
    return ULTIMATE * factor * (mass - wing_mass) * GRAVITY


def magnet_hold(rated: float, gap: float = 0.0) -> float:
    """Return what a magnet holds, N.

    Parameters
    ----------
    rated : float
        Printed on it, N.
    gap : float
        Between it and its plate, m.

    Returns
    -------
    float
    """
    return _MAGNET * rated * math.exp(-gap / _MAGNET_GAP)


def wire_stress(force: float, arm: float, diameter: float) -> float:
    """Return the bending stress of a leg of wire, Pa.

    Parameters
    ----------
    force : float
        N.
    arm : float
        Of the force, square to it, m.
    diameter : float
        m.

    Returns
    -------
    float

    Source
    ------
    32 F L/(π d³).
    """
    return 32 * force * arm / (math.pi * diameter**3)


def leg_energy(stress: float, volume: float, modulus: float) -> float:
    """Return the energy a straight round leg takes up bent to a stress at its root, J.

    Parameters
    ----------
    stress : float
        Pa.
    volume : float
        Of the wire, m³.
    modulus : float
        Pa.

    Returns
    -------
    float

    Source
    ------
    σ² Vol/(24 E) (second part of the handbook §16.6).
    """
    return stress**2 * volume / (24 * modulus)


def sink_that_bends(stress: float, volume: float, modulus: float, mass: float) -> float:
    """Return the sink at which legs bend for good, m/s.

    Parameters
    ----------
    stress : float
        At which they yield, Pa.
    volume : float
        Of all legs, m³.
    modulus : float
        Pa.
    mass : float
        That lands on them, kg.

    Returns
    -------
    float

    Source
    ------
    ½ m v² taken up by the legs alone.
    """
    return math.sqrt(2 * leg_energy(stress, volume, modulus) / mass)


def boom_keeps(pressure: float, area: float, slope: float, long: float, stiffness: float) -> float:
    """Return what is left of a tail's effect on a boom that bends, 1 on a stiff one.

    Parameters
    ----------
    pressure : float
        q, Pa.
    area : float
        Of the tail, m².
    slope : float
        Of its lift, 1/rad.
    long : float
        Of the boom, m.
    stiffness : float
        E I, N m².

    Returns
    -------
    float

    Source
    ------
    1/(1 + q S_t a_t L²/(2 E I)) (second part of the handbook §16.6).
    """
    return 1 / (1 + pressure * area * slope * long**2 / (2 * stiffness))
