"""Which stock bears a wing: every rod, tube and strip of a shelf at once, the lightest that holds first."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.construction import Spar
from ridgeline.design.shelf import Material
from ridgeline.engine.structure.beam import Carried, bent
from ridgeline.engine.structure.sections import Section, allowed, channel, strip, tube

Array = NDArray[np.float64]
#: So many of one stock are tried side by side.
COUNTS = (1, 2, 3, 4)


class Tried(NamedTuple):
    """A stock on its place, ``number`` of it side by side, or where ``apart`` one in front and one at the rear.

    ``mass`` kg of both sides; ``share`` of the stress that is allowed at limit load, the greatest along the spar, and
    ``bears`` the share of the load it would bear; ``tip`` m up at limit load; ``fits`` into the wing; ``holds`` when
    it fits, bears and bends no more than is wished.
    """

    material: Material
    number: int
    mass: float
    share: float
    tip: float
    fits: bool
    holds: bool
    apart: bool = False

    @property
    def bears(self) -> float:
        """Return how many times the load it bears."""
        return 1 / self.share if self.share > 0 else np.inf


def section_of(material: Material) -> Section:
    """Return the section of a stock as it stands in a wing.

    Parameters
    ----------
    material : Material
        With a thickness.

    Returns
    -------
    Section
    """
    if material.sides > 0:
        return channel(material.width, material.thickness, material.sides)
    if material.width > 0:
        return strip(material.width, material.thickness)
    return tube(material.thickness, material.inner)


def spar_of(material: Material, **where: Any) -> Spar:
    """Return a spar of a stock, with its constants.

    Parameters
    ----------
    material : Material
        With a thickness.
    **where
        Further fields of the spar: its place, ends and number.

    Returns
    -------
    Spar
    """
    return Spar(
        material=material.name,
        linear=material.constant,
        width=material.width or material.thickness,
        height=material.thickness,
        round=material.width == 0,
        inner=material.inner,
        sides=material.sides,
        modulus=material.modulus or None,
        strength=material.strength or None,
        yields=material.yields,
        **where,
    )


def of_stock(spar: Spar, material: Material) -> Spar:
    """Return a spar of another stock, where it is.

    Parameters
    ----------
    spar : Spar
    material : Material

    Returns
    -------
    Spar
    """
    kept = ("place", "start", "end", "count", "through", "sliding")
    return spar_of(material, **{name: getattr(spar, name) for name in kept})


def boom_fields(material: Material) -> dict[str, Any]:
    """Return what the build of a boom of stock copies from it.

    Parameters
    ----------
    material : Material

    Returns
    -------
    dict
        By field.
    """
    return {
        "stock": material.name,
        "linear": material.constant,
        "inner": material.inner,
        "modulus": material.modulus or None,
        "strength": material.strength or None,
        "yields": material.yields,
    }


def bears_in_bending(material: Material) -> bool:
    """Tell whether a material is known well enough to bear something: by size, strength and stiffness."""
    return material.kind == "length" and min(material.thickness, material.strength, material.modulus) > 0


def search(
    stock: Sequence[Material],
    y: Array,
    load: Carried,
    end: float,
    *,
    room: float,
    most_tip: float,
    skin: Array,
    greatest: Array | None = None,
    counts: Sequence[int] = COUNTS,
    rear_room: float | None = None,
) -> tuple[Tried, ...]:
    """Try every stock as the spar of a half wing.

    Parameters
    ----------
    stock : sequence of Material
        Those that are not known well enough are left out.
    y : ndarray, shape (n,)
        Stations from root to tip, m.
    load : Carried
        At limit load.
    end : float
        Where the spar ends, m out; farther out the skin bears alone.
    room : float
        Height there is for it, m.
    most_tip : float
        Bend of the tip that is wished at limit load, m.
    skin : ndarray, shape (n,)
        Bending stiffness of the skin, N m²: it stiffens the wing and bears nothing at the root, where a seat cuts it.
        More than nothing from the spar's end outwards.
    greatest : ndarray, shape (n,), optional
        Moment of the worst of all cases at each station, N m; that of the load where left out.
    counts : sequence of int
    rear_room : float, optional
        Height there is for a second one at the rear, m: each is tried as two apart too, where it is given.

    Returns
    -------
    tuple of Tried
        The lightest that holds first, then the others by how much they lack.

    Source
    ------
    σ = M/W against what is allowed; the bend of both together, E I of spar and skin added (docs/theory.md §13).
    """
    able = [material for material in stock if bears_in_bending(material)]
    rows = [(material, section_of(material), count, False) for material in able for count in counts]
    if rear_room is not None:
        rows += [(material, section_of(material), 2, True) for material in able]
    if not rows:
        return ()
    inside = y <= end
    stiff = np.array([count * one.second * material.modulus for material, one, count, _apart in rows])
    bearing = np.array(
        [count * one.modulus * allowed(material.strength, brittle=not material.yields)
         for material, one, count, _apart in rows]
    )  # fmt: skip
    mass = np.array([2 * count * material.constant * (end - y[0]) for material, _one, count, _apart in rows])
    tips = bent(y, load, stiff[:, None] * inside + skin).deflection[:, -1]
    shares = float(np.abs(load.moment if greatest is None else greatest)[inside].max()) / bearing
    rooms = (room, room if rear_room is None else min(room, rear_room))
    fits = np.array([material.thickness <= rooms[apart] + 1e-9 for material, _one, _count, apart in rows])
    holds = fits & (shares <= 1 + 1e-9) & (np.abs(tips) <= most_tip + 1e-9)
    lacks = np.maximum(np.maximum(shares, np.abs(tips) / most_tip), np.where(fits, 0.0, np.inf))
    order = np.lexsort((np.where(holds, mass, lacks), ~holds))
    return tuple(
        Tried(
            rows[k][0],
            rows[k][2],
            float(mass[k]),
            float(shares[k]),
            float(tips[k]),
            bool(fits[k]),
            bool(holds[k]),
            rows[k][3],
        )
        for k in order
    )


def may_end(y: Array, moment: Array, skin_bears: Array) -> float:
    """Return how short a spar may end: where the skin alone bears the moment from there outwards, m out.

    Parameters
    ----------
    y : ndarray, shape (n,)
        m.
    moment : ndarray, shape (n,)
        At limit load, N m.
    skin_bears : ndarray, shape (n,)
        Moment the skin alone may bear at limit load, N m.

    Returns
    -------
    float
        The tip where it nowhere bears; between stations the crossing of both lines.
    """
    over = np.abs(moment) - skin_bears
    past = np.flatnonzero(over > 0)
    if not len(past):
        return float(y[0])
    last = int(past[-1])
    if last == len(y) - 1:
        return float(y[-1])
    share = over[last] / (over[last] - over[last + 1])
    return float(y[last] + share * (y[last + 1] - y[last]))
