"""What gives way between servo and control under the air of a dive: rod, arm, twisted rod, horn on its base, lines."""

from __future__ import annotations

import math
from typing import NamedTuple

from ridgeline.design.linkage import Linkage
from ridgeline.engine.controls.rods import rod_second

#: An arm beyond its servo: width in the plane it turns in at least, m, and of its length; thickness over width; and
#: Young's modulus, Pa (usual nylon arms).
ARM_WIDE, ARM_TAPER, ARM_THICK, ARM_MODULUS = 0.006, 0.35, 0.25, 2.5e9
#: A horn stands on foam of so much stiffness for each depth, Pa/m: of a board's core, 6 MPa over 5 mm; its base is so
#: wide for its length (typical of extruded boards, ± a factor of two).
BEDDING, BASE_WIDE = 6e6 / 0.005, 0.8
#: Shear over Young's modulus of a rod: of a metal one, E/2(1 + ν).
SHEAR = 1 / 2.6


class Given(NamedTuple):
    """How far a control is pushed back through its linkage, rad, by each part of it."""

    rod: float
    arm: float
    twist: float
    horn: float

    @property
    def whole(self) -> float:
        """All of it, rad."""
        return math.fsum(self)


def rod_stretch(force: float, long: float, section: float, modulus: float) -> float:
    """Return how much a rod or line gives under a force along it, m: F L/(E A).

    Parameters
    ----------
    force : float
        N.
    long : float
        m.
    section : float
        m².
    modulus : float
        Pa.

    Returns
    -------
    float
    """
    return force * long / (modulus * section)


def arm_bend(force: float, free: float) -> float:
    """Return how far the end of an arm bends under a rod's force, m: F l³/(3 E I), a cantilever from its screw.

    Parameters
    ----------
    force : float
        N.
    free : float
        Of the arm beyond what the servo holds, m.

    Returns
    -------
    float
    """
    wide = max(ARM_WIDE, ARM_TAPER * free)
    second = ARM_THICK * wide**4 / 12
    return force * free**3 / (3 * ARM_MODULUS * second)


def torque_twist(torque: float, long: float, one: Linkage) -> float:
    """Return how far a torque rod twists, rad: T L/(G J), with J twice the second moment of a round one.

    Parameters
    ----------
    torque : float
        N m.
    long : float
        m.
    one : Linkage
        Whose rod it is.

    Returns
    -------
    float

    Source
    ------
    Second part of the handbook §17.
    """
    return torque * long / (SHEAR * one.rod_modulus * 2 * rod_second(one))


def horn_rock(moment: float, base: float) -> float:
    """Return how far a horn rocks on its base under a moment, rad: 12 M/(k w b³), foam as a bed of springs.

    Parameters
    ----------
    moment : float
        N m.
    base : float
        Along the chord, m.

    Returns
    -------
    float
    """
    return 12 * moment / (BEDDING * BASE_WIDE * base**4)


def base_for(moment: float, rocks: float) -> float:
    """Return the base of a horn that rocks no more than so much under a moment, m: the inverse of `horn_rock`.

    Parameters
    ----------
    moment : float
        N m.
    rocks : float
        rad.

    Returns
    -------
    float
    """
    found: float = (12 * moment / (BEDDING * BASE_WIDE * rocks)) ** 0.25
    return found


def given_way(one: Linkage, moment: float, ratio: float, rod: float, off: tuple[float, float]) -> Given:
    """Return how far a control gives under a moment about its hinge.

    Parameters
    ----------
    one : Linkage
    moment : float
        Of the air and what rubs, N m.
    ratio : float
        Turn of the control over that of the servo there.
    rod : float
        Length between its holes, m.
    off : tuple of float
        How far the rod stands off the line through the arm's and the horn's centre there, rad.

    Returns
    -------
    Given
    """
    if one.kind == "direct":
        return Given(0.0, 0.0, 0.0, 0.0)
    across = max(math.sin(off[1]), 0.2)
    force = moment / (one.horn * across)
    bent = arm_bend(force, one.arm + one.extension)
    area = 0.25 * math.pi * (one.rod_size**2 - one.rod_inner**2)
    arm = bent * abs(ratio) / max(one.arm + one.extension, 1e-6)
    rock = horn_rock(moment, one.base)
    if one.kind == "torque_rod":
        return Given(0.0, arm, torque_twist(moment, rod, one), 0.0)
    stretched = rod_stretch(force, rod, area, one.rod_modulus)
    return Given(stretched / (one.horn * across), arm, 0.0, rock)
