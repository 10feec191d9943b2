"""What places mean: the axes of a surface, a body and a motor mount, and the way from them to those of the aircraft.

Everything that places something takes it from here, as single numbers or as arrays.
"""

from __future__ import annotations

import math
from itertools import pairwise
from typing import Any, NamedTuple

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.power import Mount, PowerTrain

#: A surface turned up by more than this stands: it is drawn from the side, and set straight, for an angle would be a
#: rudder's trim.
UPRIGHT = math.radians(60.0)


def is_upright(surface: Surface) -> bool:
    """Tell whether a surface stands more up than out."""
    return abs(surface.cant) > UPRIGHT


class Cut(NamedTuple):
    """A surface at one place along it, in its own axes: leading edge and its height, chord, m, and twist, rad."""

    x: float
    z: float
    chord: float
    twist: float


def cut_at(surface: Surface, out: float) -> Cut:
    """Return a surface's section at a distance out along its panel.

    Parameters
    ----------
    out : float
        From the surface's root, m; beyond the ends the section of the end is held.

    Returns
    -------
    Cut
        In the surface's own axes, linear between stations.
    """
    stations = surface.stations
    first, last = stations[0], stations[-1]
    if out <= first.y or out >= last.y:
        end = first if out <= first.y else last
        return Cut(end.x, end.z, end.chord, end.twist)
    inner, outer = next((a, b) for a, b in pairwise(stations) if out <= b.y)
    share = (out - inner.y) / (outer.y - inner.y)
    rows = (
        getattr(inner, name) + share * (getattr(outer, name) - getattr(inner, name))
        for name in ("x", "z", "chord", "twist")
    )
    return Cut(*rows)


def raised(surface: Surface, out: Any, up: Any) -> tuple[Any, Any]:
    """Turn a place in a surface's own axes by its cant.

    Parameters
    ----------
    out, up : float or ndarray
        Along the panel and over it, from the surface's origin, m.

    Returns
    -------
    y, z : float or ndarray
        In aircraft axes, starboard, m.
    """
    c, s = math.cos(surface.cant), math.sin(surface.cant)
    return surface.y + out * c - up * s, surface.z + out * s + up * c


def lowered(surface: Surface, y: Any, z: Any) -> tuple[Any, Any]:
    """Turn a place in aircraft axes back into a surface's own: the inverse of `raised`.

    Parameters
    ----------
    y, z : float or ndarray
        In aircraft axes, starboard, m.

    Returns
    -------
    out, up : float or ndarray
        Along the panel and over it, m.
    """
    c, s = math.cos(surface.cant), math.sin(surface.cant)
    return (y - surface.y) * c + (z - surface.z) * s, (z - surface.z) * c - (y - surface.y) * s


def middle_out(surface: Surface) -> float:
    """Return how far out along a panel the middle of its area lies, m: ∫ c y dy / ∫ c dy.

    Parameters
    ----------
    surface : Surface

    Returns
    -------
    float
        From the root, m.
    """
    area = moment = 0.0
    for a, b in pairwise(surface.stations):
        step = b.y - a.y
        area += 0.5 * (a.chord + b.chord) * step
        moment += step * (a.chord * (2 * a.y + b.y) + b.chord * (a.y + 2 * b.y)) / 6
    return moment / area


def middle_back(body: Body) -> float:
    """Return how far behind its origin the middle of a body's skin lies, m, by the girth of a box.

    Parameters
    ----------
    body : Body

    Returns
    -------
    float
        Behind its origin, m.
    """
    skin = moment = 0.0
    for a, b in pairwise(body.stations):
        step = b.x - a.x
        one, other = a.width + a.height, b.width + b.height
        skin += 0.5 * (one + other) * step
        moment += step * (one * (2 * a.x + b.x) + other * (a.x + 2 * b.x)) / 6
    return moment / skin if skin > 0 else 0.5 * (body.stations[0].x + body.stations[-1].x)


def on_surface(surface: Surface, out: float, share: float, over: float) -> tuple[float, float, float]:
    """Return the place in aircraft axes, starboard, of a point on a surface.

    Parameters
    ----------
    out : float
        Along the panel from the surface's root, m.
    share : float
        Of the local chord, behind the leading edge.
    over : float
        Over the chord line, m.

    Returns
    -------
    x, y, z : float
        m.

    Source
    ------
    docs/theory.md §2, places.
    """
    cut = cut_at(surface, out)
    angle = 0.0 if is_upright(surface) else surface.incidence + cut.twist
    c, s = math.cos(angle), math.sin(angle)
    back = share * cut.chord
    y, z = raised(surface, out, cut.z - back * s + over * c)
    return surface.x + cut.x + back * c + over * s, y, z


def from_surface(surface: Surface, x: float, y: float, z: float) -> tuple[float, float, float]:
    """Return where on a surface a place lies: the inverse of `on_surface`.

    Parameters
    ----------
    x, y, z : float
        In aircraft axes, starboard, m.

    Returns
    -------
    out, share, over : float
        m, share of the local chord, m.
    """
    out, up = lowered(surface, y, z)
    cut = cut_at(surface, out)
    angle = 0.0 if is_upright(surface) else surface.incidence + cut.twist
    c, s = math.cos(angle), math.sin(angle)
    along, high = x - surface.x - cut.x, up - cut.z
    return out, (along * c - high * s) / cut.chord, along * s + high * c


def on_body(body: Body, back: float, out: float, up: float) -> tuple[float, float, float]:
    """Return the place in aircraft axes of a point behind, aside and over a body's origin, m.

    Parameters
    ----------
    body : Body
    back, out, up : float
        Behind, aside and over its origin, m.

    Returns
    -------
    x, y, z: float
        m; the starboard one of a pair.
    """
    return body.x + back, body.y + out, body.z + up


def shaft(mount: Mount) -> tuple[float, float, float]:
    """Return the direction the shaft of a mount points forward in, starboard one of a pair.

    Parameters
    ----------
    mount : Mount

    Returns
    -------
    x, y, z: float
        A unit vector.
    """
    level = math.cos(mount.down)
    return -math.cos(mount.right) * level, math.sin(mount.right) * level, -math.sin(mount.down)


def along_shaft(mount: Mount, reach: float) -> tuple[float, float, float]:
    """Return a place along a mount's shaft.

    Parameters
    ----------
    reach : float
        From the firewall, on the side the motor stands, m.

    Returns
    -------
    x, y, z : float
        m; the starboard one of a pair.
    """
    way = -reach if mount.pusher else reach
    f = shaft(mount)
    return mount.x + way * f[0], mount.y + way * f[1], mount.z + way * f[2]


def disc_of(mount: Mount, train: PowerTrain) -> tuple[float, float, float]:
    """Return where the propeller of a mount turns: firewall, spacer, motor and adapter along its shaft.

    Parameters
    ----------
    train : PowerTrain
        Whose motor stands between.

    Returns
    -------
    x, y, z : float
        m; the starboard one of a pair.
    """
    return along_shaft(mount, mount.spacer + train.motor.length + mount.adapter)


def discs_of(mount: Mount, train: PowerTrain) -> tuple[tuple[float, float, float], ...]:
    """Return where the propellers of a mount turn, m, starboard first.

    Parameters
    ----------
    mount : Mount
    train : PowerTrain
        Whose motor stands between.

    Returns
    -------
    tuple of tuple
        x, y, z, m; one, or two of a pair.
    """
    x, y, z = disc_of(mount, train)
    return ((x, y, z), (x, -y, z)) if mount.mirrored else ((x, y, z),)


def all_discs(train: PowerTrain) -> tuple[tuple[float, float, float], ...]:
    """Return where all propellers turn, m."""
    return tuple(place for mount in train.mounts for place in discs_of(mount, train))


def mean_disc(train: PowerTrain) -> tuple[float, float]:
    """Return the mean place behind the datum and height of the discs, m.

    Parameters
    ----------
    train : PowerTrain

    Returns
    -------
    x, z: float
        m.
    """
    places = all_discs(train)
    return sum(x for x, _y, _z in places) / len(places), sum(z for _x, _y, z in places) / len(places)
