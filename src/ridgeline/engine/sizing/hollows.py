"""Hollows cut out of a solid body: items of negative mass with an extent, sized to what the body lets go."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from ridgeline.design.airframe import Body
from ridgeline.design.carrying import hung_at
from ridgeline.design.document import Design
from ridgeline.design.parts import Item, Size
from ridgeline.engine.sizing.additions import called

#: A first hollow over the longest part of the body that is at least so broad over its greatest section, and what of
#: breadth and height is left as walls (chosen).
_BROAD, _LONG, _WALLS = 0.7, 0.8, 0.3
#: Density of the foam of a body that does not say it is carved, kg/m³ (extruded or beaded foam of bought airframes).
_FOAM = 28.0


def hollow_of(design: Design, body: Body) -> Item:
    """Return a first hollow in a body, hung in it.

    Parameters
    ----------
    design : Design
    body : Body
        Of the design.

    Returns
    -------
    Item
        Its estimate less than nothing: the foam that is cut out.
    """
    sections = body.sections
    x = np.array([s.x for s in sections])
    rows = np.array([(s.width, s.height, s.z) for s in sections])
    fine = np.linspace(x[0], x[-1], 201)
    width, height, z = (np.interp(fine, x, rows[:, k]) for k in range(3))
    thick = width * height >= _BROAD**2 * float((width * height).max())
    middle = 0.5 * (fine[thick][0] + fine[thick][-1])
    half = 0.5 * _LONG * float(fine[thick][-1] - fine[thick][0])
    inside = thick & (np.abs(fine - middle) <= half + 1e-9)
    size = Size(
        length=round(2 * half, 4),
        width=round((1 - _WALLS) * float(width[inside].min()), 4),
        height=round((1 - _WALLS) * float(height[inside].min()), 4),
    )
    carved = body.built is not None and body.built.form == "carved"
    density = body.built.foam_density if carved and body.built is not None else _FOAM
    made = Item(
        name=called(f"Hollow of {body.name}", (p.name for p in design.parts)),
        group="airframe",
        basis="sheet",
        count=2 if body.mirrored else 1,
        mirrored=body.mirrored,
        x=round(float(middle), 4),
        y=body.y,
        z=round(float(np.interp(middle, fine, z)), 4),
        estimate=-round(density * size.length * size.width * size.height, 5),
        size=size,
    )
    return made.model_copy(update={"on": hung_at(made, body, design.power, (made.x, made.y, made.z))})


def hollows_in(design: Design, body: Body) -> Iterator[tuple[int, Item]]:
    """Yield the hollows of a body: what hangs in it, has an extent and a mass less than nothing.

    Parameters
    ----------
    design : Design
    body : Body

    Yields
    ------
    tuple
        Index of the item, and it.
    """
    for index, item in enumerate(design.parts):
        if item.on is not None and item.on.to == body.id and item.size is not None and mass_of_hollow(item) < 0:
            yield index, item


def mass_of_hollow(item: Item) -> float:
    """Return what an item takes out, less than nothing, kg; 0 for what takes nothing out.

    Parameters
    ----------
    item : Item

    Returns
    -------
    float
    """
    mass = item.weighed if item.weighed is not None else item.estimate
    return min(mass or 0.0, 0.0)


def resized(item: Item, size: Size) -> Item:
    """Return a hollow of another extent, in the same foam.

    Parameters
    ----------
    item : Item
        With an extent and an estimate.
    size : Size

    Returns
    -------
    Item
    """
    old = item.size
    assert old is not None and item.estimate is not None
    before = old.length * old.width * old.height
    times = size.length * size.width * size.height / before if before > 0 else 1.0
    return item.model_copy(update={"size": size, "estimate": round(item.estimate * times, 6)})
