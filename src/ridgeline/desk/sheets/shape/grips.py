"""What can be dragged on the three views: stations, roots, bodies, wheels and propeller discs, each as one grip."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.axes import disc_of, is_upright, lowered
from ridgeline.design.document import Design
from ridgeline.design.paths import Change, get
from ridgeline.desk.drawing import Place, chord_point, panel_point
from ridgeline.engine.sizing.hollows import hollows_in, resized

LEAST_CHORD, LEAST_GAP = 0.005, 0.002
Key = tuple[object, ...]


@dataclass(frozen=True)
class Grip:
    """One thing to drag: its key, name, view, the path it selects, where it stands, and the edit a move asks for.

    ``move`` gets the design and the place in the view's own metres, across and along: (y, x) in plan, (x, z) from the
    side, (y, z) from the front.
    """

    key: Key
    name: str
    view: str
    path: str
    place: Place
    move: Callable[[Design, float, float], list[Change]]


def _mm(value: float) -> float:
    return round(value, 4)


def in_panel(surface: Surface, across: float, along: float) -> tuple[float, float]:
    """Return how far out along a panel, and behind its origin, a place in the view it is dragged in lies, m."""
    if is_upright(surface):
        return (along - surface.z) / max(math.sin(abs(surface.cant)), 0.1), across - surface.x
    return (across - surface.y) / max(math.cos(surface.cant), 0.1), along - surface.x


def angle_of(surface: Surface, twist: float) -> float:
    """Return the angle a section stands at to the body axis, rad."""
    return 0.0 if is_upright(surface) else surface.incidence + twist


def edge_move(i: int, j: int, edge: str) -> Callable[[Design, float, float], list[Change]]:
    """Return the edit of dragging a station's leading or trailing edge; the other edge stays."""

    def move(design: Design, across: float, along: float) -> list[Change]:
        surface = design.surfaces[i]
        station = surface.stations[j]
        out, x = in_panel(surface, across, along)
        low = surface.stations[j - 1].y + LEAST_GAP if j else station.y
        high = surface.stations[j + 1].y - LEAST_GAP if j + 1 < len(surface.stations) else 5.0
        out = station.y if j == 0 else min(max(out, low), high)
        if edge == "le":
            back = station.x + station.chord
            x = _mm(min(x, back - LEAST_CHORD))
            update = {"y": _mm(out), "x": x, "chord": _mm(back - x)}
        else:
            # The chord is drawn at its angle, and so a shade shorter.
            level = math.cos(angle_of(surface, station.twist))
            update = {"y": _mm(out), "chord": _mm(max((x - station.x) / level, LEAST_CHORD))}
        return [Change(f"surfaces[{i}].stations[{j}]", station.model_copy(update=update))]

    return move


def _surface_grips(design: Design) -> Iterator[Grip]:
    for i, surface in enumerate(design.surfaces):
        view = "side" if is_upright(surface) else "plan"
        for j, station in enumerate(surface.stations):
            path = f"surfaces[{i}].stations[{j}]"
            for edge, words in (("le", "leading"), ("te", "trailing")):
                place = chord_point(surface, station.y, 1.0 if edge == "te" else 0.0)
                name = f"{surface.name} station {j + 1} {words} edge"
                yield Grip((i, j, edge), name, view, path, place, edge_move(i, j, edge))
            if j > 0 and not is_upright(surface):
                place = panel_point(surface, station.y, station.x, station.z)
                yield Grip(
                    ("front", i, j), f"{surface.name} station {j + 1} height", "front", path, place, _height(i, j)
                )
        root = surface.stations[0]
        if not is_upright(surface):
            place = panel_point(surface, root.y, root.x, root.z)
            path = f"surfaces[{i}].stations[0]"
            yield Grip(("root", i), f"{surface.name}, the whole surface", "side", path, place, _whole(i))


def _height(i: int, j: int) -> Callable[[Design, float, float], list[Change]]:
    """Return the edit of dragging a station up or down from the front: dihedral, or the turn of a V."""

    def move(design: Design, across: float, along: float) -> list[Change]:
        surface = design.surfaces[i]
        station = surface.stations[j]
        # Back into the surface's own axes, where only the height changes.
        z = lowered(surface, across, along)[1]
        return [Change(f"surfaces[{i}].stations[{j}].z", _mm(min(max(z, -3.0), 3.0)))] if station else []

    return move


def _whole(i: int) -> Callable[[Design, float, float], list[Change]]:
    """Return the edit of dragging a whole surface by its root from the side."""

    def move(design: Design, across: float, along: float) -> list[Change]:
        surface = design.surfaces[i]
        root = surface.stations[0]
        return [
            Change(f"surfaces[{i}].x", _mm(across - root.x)),
            Change(f"surfaces[{i}].z", _mm(along - root.z * math.cos(surface.cant))),
        ]

    return move


def body_grips(design: Design, b: int) -> Iterator[Grip]:
    """Yield the grips of one body: top and bottom of each cross-section from the side, its width in plan."""
    body = design.bodies[b]
    for k, station in enumerate(body.sections):
        path = f"bodies[{b}].stations[{k}]"
        words = f"{body.name} section {k + 1}"
        z = station.z
        half = 0.5 * station.height
        for end, sign, name in (("top", 1, "top"), ("low", -1, "bottom")):
            place = (station.x, 0.0, z + sign * half)
            yield Grip(("body", b, k, end), f"{words} {name}", "side", path, place, _skin(b, k, sign))
        side = (station.x, body.y + 0.5 * station.width, z)
        yield Grip(("body", b, k, "side"), f"{words} width", "plan", path, side, _width(b, k))


def hollow_grips(design: Design, body: Body) -> Iterator[Grip]:
    """Yield the grips of what is cut out of a body: its middle and a corner from the side, its width in plan."""
    for index, item in hollows_in(design, body):
        path, size = f"parts[{index}]", item.size
        assert size is not None
        corner = (item.x + 0.5 * size.length, 0.0, item.z + 0.5 * size.height)
        aside = (item.x, item.y + 0.5 * size.width, item.z)

        def shift(_design: Design, across: float, along: float, path: str = path) -> list[Change]:
            return [Change(f"{path}.x", _mm(across)), Change(f"{path}.z", _mm(along))]

        yield Grip(("hollow", index, "middle"), f"{item.name}, where it is", "side", path, (item.x, 0, item.z), shift)
        yield Grip(("hollow", index, "corner"), f"{item.name}, size", "side", path, corner, _hollow(index, "side"))
        yield Grip(("hollow", index, "wide"), f"{item.name}, width", "plan", path, aside, _hollow(index, "plan"))


def _hollow(index: int, view: str) -> Callable[[Design, float, float], list[Change]]:
    """Return the edit of dragging a hollow's corner: its middle stays, and its mass follows."""

    def move(design: Design, across: float, along: float) -> list[Change]:
        item = design.parts[index]
        assert item.size is not None
        if view == "side":
            told = {"length": 2 * (across - item.x), "height": 2 * (along - item.z)}
        else:
            told = {"width": 2 * (across - item.y)}
        size = item.size.model_copy(update={name: _mm(max(value, LEAST_GAP)) for name, value in told.items()})
        return [Change(f"parts[{index}]", resized(item, size))]

    return move


def _between(body: Body, k: int, x: float) -> float:
    low = body.stations[k - 1].x + LEAST_GAP if k else -2.0
    high = body.stations[k + 1].x - LEAST_GAP if k + 1 < len(body.stations) else 10.0
    return min(max(x, low), high)


def _skin(b: int, k: int, sign: int) -> Callable[[Design, float, float], list[Change]]:
    """Return the edit of dragging the top or bottom of a cross-section; the other stays where it is."""

    def move(design: Design, across: float, along: float) -> list[Change]:
        body = design.bodies[b]
        station = body.stations[k]
        across, along = across - body.x, along - body.z
        other = station.z - sign * 0.5 * station.height
        height = max(sign * (along - other), 0.0)
        update = {"x": _mm(_between(body, k, across)), "height": _mm(height), "z": _mm(other + sign * 0.5 * height)}
        return [Change(f"bodies[{b}].stations[{k}]", station.model_copy(update=update))]

    return move


def _width(b: int, k: int) -> Callable[[Design, float, float], list[Change]]:
    def move(design: Design, across: float, along: float) -> list[Change]:
        body = design.bodies[b]
        station = body.stations[k]
        update = {"x": _mm(_between(body, k, along - body.x)), "width": _mm(min(2 * max(across - body.y, 0.0), 2.0))}
        return [Change(f"bodies[{b}].stations[{k}]", station.model_copy(update=update))]

    return move


def _wheel_grips(design: Design) -> Iterator[Grip]:
    for w, wheel in enumerate(design.wheels):

        def move(_design: Design, across: float, along: float, w: int = w) -> list[Change]:
            return [Change(f"wheels[{w}].x", _mm(across)), Change(f"wheels[{w}].z", _mm(along))]

        yield Grip(("wheel", w), wheel.name, "side", f"wheels[{w}]", (wheel.x, wheel.y, wheel.z), move)


def _off_disc(design: Design, path: str) -> Place:
    """Return how far a disc stands off the firewall of its mount, m."""
    mount = get(design, path)
    assert design.power is not None
    x, y, z = disc_of(mount, design.power)
    return x - mount.x, y - mount.y, z - mount.z


def _mount_grips(design: Design) -> Iterator[Grip]:
    if design.power is None:
        return
    for m, mount in enumerate(design.power.mounts):
        path = f"power.mounts[{m}]"

        def along(design: Design, across: float, down: float, path: str = path) -> list[Change]:
            x, _y, z = _off_disc(design, path)
            return [Change(f"{path}.x", _mm(across - x)), Change(f"{path}.z", _mm(down - z))]

        def out(design: Design, across: float, down: float, path: str = path, m: int = m) -> list[Change]:
            mount = design.power.mounts[m] if design.power else None
            x, y, _z = _off_disc(design, path)
            moved = [Change(f"{path}.x", _mm(down - x))]
            # A motor on the centre line stays on it; one that stands to a side moves out and in.
            return [*moved, Change(f"{path}.y", _mm(across - y))] if mount and (mount.mirrored or mount.y) else moved

        place = disc_of(mount, design.power)
        yield Grip(("mount", m, "side"), f"propeller disc {m + 1} from the side", "side", path, place, along)
        yield Grip(("mount", m, "plan"), f"propeller disc {m + 1} in plan", "plan", path, place, out)


def grips_of(design: Design, *, bodies: bool) -> list[Grip]:
    """Return every grip of a design; those of body outlines only when asked for, since they are many."""
    found = [*_surface_grips(design), *_wheel_grips(design), *_mount_grips(design)]
    outlines = (grip for b in range(len(design.bodies)) for grip in body_grips(design, b))
    return [*found, *outlines] if bodies else found
