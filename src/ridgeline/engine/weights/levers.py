"""How much of each lever brings the centre of gravity where it is wanted, in closed form."""

from __future__ import annotations

from typing import Any


def slide_for(total: float, moving: float, cg_now: float, cg_wanted: float) -> float:
    """Return how far to slide a mass, m (aft positive): Δx = M Δx_cg/m.

    Parameters
    ----------
    total, moving : float
        All-up mass and the mass that slides, kg.
    cg_now, cg_wanted : float
        Places of the centre of gravity, m.

    Source
    ------
    Moment balance: docs/theory.md §6.
    """
    return total * (cg_wanted - cg_now) / moving


def ballast_for(total: float, cg_now: float, cg_wanted: float, place: float) -> float | None:
    """Return the ballast at ``place`` that moves the centre of gravity, kg, or None when it cannot.

    Parameters
    ----------
    total : float
        kg.
    cg_now, cg_wanted : float
        m behind the datum.
    place : float
        Of the ballast, m.

    Returns
    -------
    float or None
        kg.

    Source
    ------
    m_b = M (x_cg − x_t)/(x_t − x_b): docs/theory.md §6. The target must lie between the ballast and the
    present centre of gravity.
    """
    reach = cg_wanted - place
    needed = total * (cg_now - cg_wanted)
    if reach == 0 or needed / reach < 0:
        return None
    return needed / reach


def ballast_item(name: str, mass: float, place: tuple[float, float, float]) -> dict[str, Any]:
    """Return dead weight as the plain data of an item: kg, at x, y, z in m. The document judges it when it is added."""
    x, y, z = place
    return {"name": name, "group": "ballast", "basis": "stock", "x": x, "y": y, "z": z, "estimate": mass}
