"""What joins two lengths of a spar: a rod in the bore or a tube round it, for a wing in two or a spar that broke."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import NamedTuple

from ridgeline.design.construction import Spar
from ridgeline.design.shelf import Material
from ridgeline.engine.structure.half import spar_section
from ridgeline.engine.structure.joints import socket_bearing
from ridgeline.engine.structure.sections import allowed
from ridgeline.engine.structure.stock import bears_in_bending, section_of

#: Slack that still fits, m, and what a glued fit of stock in stock bears, Pa: as ply or better (second part of the
#: handbook §16.3).
_SLACK, _BEARS = 0.0006, 20e6
#: A sleeve grips at least so many of the inner piece's diameters on either side (chosen: the usual of the trade).
_LEAST_GRIP = 6.0
_STEP = 0.001


class Sleeve(NamedTuple):
    """A stock that joins a spar: inside its bore or round it; ``grip`` m on either side, ``mass`` kg of one.

    ``share`` of what it may carry at limit load.
    """

    material: Material
    inside: bool
    grip: float
    mass: float
    share: float


def sleeves(spar: Spar, stock: Sequence[Material], moment: float, shear: float) -> tuple[Sleeve, ...]:
    """Return what joins two lengths of a spar and bears, the lightest first.

    Parameters
    ----------
    spar : Spar
        Round; a strip is spliced by a like one beside it instead.
    stock : sequence of Material
    moment, shear : float
        At limit load at the joint, N m and N, of all pieces side by side.

    Returns
    -------
    tuple of Sleeve

    Source
    ------
    Bending by the stock alone; length from the bearing of a rod in its socket, (6 M/e² + 4 V/e)/d (second part of the
    handbook §16.3), and no less than six diameters.
    """
    if not spar.round:
        return _splints(spar, stock, moment, shear)
    each, across = abs(moment) / spar.count, abs(shear) / spar.count
    found = []
    for material in stock:
        if not bears_in_bending(material) or material.width > 0:
            continue
        inside = spar.inner > 0 and spar.inner - _SLACK <= material.thickness <= spar.inner + 1e-9
        outside = material.inner > 0 and spar.height - 1e-9 <= material.inner <= spar.height + _SLACK
        if inside or outside:
            found.append(_sleeve(material, inside, material.thickness if inside else spar.height, each, across))
    return tuple(sorted((one for one in found if one.share <= 1 + 1e-9), key=lambda one: one.mass))


def _splints(spar: Spar, stock: Sequence[Material], moment: float, shear: float) -> tuple[Sleeve, ...]:
    """Return strips that bear, as high as the one they are laid beside."""
    each, across = abs(moment) / spar.count, abs(shear) / spar.count
    like = (m for m in stock if bears_in_bending(m) and m.width > 0 and m.thickness <= spar.height + _SLACK)
    found = (_sleeve(material, False, material.thickness, each, across) for material in like)
    return tuple(sorted((one for one in found if one.share <= 1 + 1e-9), key=lambda one: one.mass))


def _sleeve(material: Material, inside: bool, width: float, moment: float, shear: float) -> Sleeve:
    most = section_of(material).modulus * allowed(material.strength, brittle=not material.yields)
    grip = max(grip_of(moment, shear, width), _LEAST_GRIP * width)
    grip = math.ceil(grip / _STEP - 1e-9) * _STEP
    return Sleeve(material, inside, grip, 2 * grip * material.constant, moment / most)


def grip_of(moment: float, shear: float, width: float, bears: float = _BEARS) -> float:
    """Return how deep a rod has to sit so that its socket bears, m: the depth at which the bearing is what is allowed.

    Parameters
    ----------
    moment, shear : float
        N m and N.
    width : float
        Of the rod, m.
    bears : float
        Of the socket, Pa.

    Returns
    -------
    float

    Source
    ------
    The positive root e of p d e² − 4 V e − 6 M = 0.
    """
    a = bears * width
    depth = (4 * shear + math.sqrt(16 * shear**2 + 24 * a * moment)) / (2 * a)
    assert depth <= 0 or socket_bearing(moment, shear, depth, width) <= bears * (1 + 1e-6)
    return depth


def spar_strength(spar: Spar) -> float:
    """Return the moment all pieces of a spar may carry at limit load, N m; nothing where that is not known."""
    if spar.strength is None:
        return 0.0
    return spar.count * spar_section(spar).modulus * allowed(spar.strength, brittle=not spar.yields)
