"""The aircraft as outlines in metres, and the views that put them on the sheet."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath

from ridgeline.design.airframe import Body, ControlSurface, Surface
from ridgeline.design.axes import all_discs, discs_of, on_surface, raised
from ridgeline.design.document import Design
from ridgeline.design.hinges import hinge_share
from ridgeline.design.power import Mount
from ridgeline.desk.paint import Same, outline, path_of, pen
from ridgeline.desk.theme import theme
from ridgeline.engine.geometry.placed import outline_over_chord, placed, placed_at, sections
from ridgeline.engine.kept import kept

Point = tuple[float, float]
Place = tuple[float, float, float]


@dataclass(frozen=True)
class View:
    """A parallel view: which aircraft axes run right and down on the sheet, and at what scale (px per m).

    ``plan`` puts starboard right and aft down; ``side`` aft right and up up; ``front`` starboard right and up up.
    """

    kind: str
    x0: float
    y0: float
    scale: float

    def at(self, place: Place) -> Point:
        """Return where a place (x, y, z) stands on the sheet, px."""
        x, y, z = place
        if self.kind == "plan":
            return self.x0 + y * self.scale, self.y0 + x * self.scale
        if self.kind == "side":
            return self.x0 + x * self.scale, self.y0 - z * self.scale
        return self.x0 + y * self.scale, self.y0 - z * self.scale

    def back(self, px: float, py: float) -> Point:
        """Return the metres across and along of a point on the sheet: (y, x), (x, z) or (y, z)."""
        across, along = (px - self.x0) / self.scale, (py - self.y0) / self.scale
        return (across, along) if self.kind == "plan" else (across, -along)


def panel_point(surface: Surface, y: float, x: float, z: float, side: int = 1) -> Place:
    """Return a place of a surface given in its own axes, on the starboard (1) or port (−1) side."""
    across, up = raised(surface, y, z)
    return surface.x + x, side * across, up


def chord_point(surface: Surface, out: float, share: float, side: int = 1) -> Place:
    """Return a place on a surface's chord line, on the starboard (1) or port (−1) side."""
    x, y, z = on_surface(surface, out, share, 0.0)
    return x, side * y, z


def sides_of(surface: Surface) -> tuple[int, ...]:
    """Return the sides a surface is drawn on."""
    return (1, -1) if surface.mirrored else (1,)


def surface_points(surface: Surface, side: int = 1) -> list[Place]:
    """Return the outline of one panel: leading edge out, trailing edge back."""
    here = placed(surface)
    return _places(np.vstack([here.leading, here.trailing[::-1]]), side)


def _places(points: np.ndarray, side: int = 1) -> list[Place]:
    return [(x, side * y, z) for x, y, z in points.tolist()]


def profile_points(surface: Surface, index: int) -> list[Place]:
    """Return a station's true section as it stands in the aircraft, for the view from the side."""
    return [(x, 0.0, z) for x, _y, z in _rings(surface)[index].tolist()]


@kept()
def _rings(surface: Surface) -> np.ndarray:
    return sections(placed(surface), outline_over_chord(surface))


def joined_points(surface: Surface) -> list[list[Place]]:
    """Return the outlines of a surface, its two panels as one where they meet on the centre line."""
    if not surface.mirrored or surface.y + surface.stations[0].y > 1e-9:
        return [surface_points(surface, side) for side in sides_of(surface)]
    starboard, port = surface_points(surface, 1), surface_points(surface, -1)
    return [starboard + port[::-1]]


def control_points(surface: Surface, control: ControlSurface, side: int = 1) -> list[Place]:
    """Return the outline of a control on one panel, following the stations between its ends."""
    inner = [s.y for s in surface.stations if control.start < s.y < control.end]
    here = placed_at(surface, [control.start, *inner, control.end])
    hinge = here.along(1 - hinge_share(surface, control, here.out))
    return _places(np.vstack([hinge, here.trailing[::-1]]), side)


def body_points(body: Body, kind: str, side: int = 1) -> list[Place]:
    """Return the outline of a body in plan or side view."""
    if kind == "plan":
        half = [(s.x, s.width / 2) for s in body.sections]
        return [(x, side * body.y + w, 0.0) for x, w in half] + [(x, side * body.y - w, 0.0) for x, w in reversed(half)]
    return [(s.x, 0.0, s.z + s.height / 2) for s in body.sections] + [
        (s.x, 0.0, s.z - s.height / 2) for s in reversed(body.sections)
    ]


def body_front(body: Body, side: int = 1) -> list[Place]:
    """Return the greatest cross-section of a body, on its side, as a box or eight-sided outline."""
    k = max(range(len(body.stations)), key=lambda k: body.stations[k].width * body.stations[k].height)
    s = body.sections[k]
    w, h, cut = s.width / 2, s.height / 2, 0.3 * body.roundings[k]
    corners = [(-w, -h), (w, -h), (w, h), (-w, h)]
    if cut == 0:
        return [(0.0, side * body.y + y, s.z + z) for y, z in corners]
    points = []
    for y, z in corners:
        a, b = (y * (1 - 2 * cut), z), (y, z * (1 - 2 * cut))
        points += [a, b] if y * z > 0 else [b, a]
    return [(0.0, side * body.y + y, s.z + z) for y, z in points]


_EXTENTS: dict[str, tuple[tuple[object, ...], QRectF]] = {}


def extent(design: Design, kind: str) -> QRectF:
    """Return the box around the whole aircraft in a view, in metres (across, down); kept while it stays."""
    parts = (design.surfaces, design.bodies, design.wheels, design.power)
    kept = _EXTENTS.get(kind)
    if kept is None or any(a is not b for a, b in zip(kept[0], parts, strict=True)):
        kept = _EXTENTS[kind] = (parts, _extent(design, kind))
    return QRectF(kept[1])


def _extent(design: Design, kind: str) -> QRectF:
    view = View(kind, 0.0, 0.0, 1.0)
    places: list[Place] = []
    for surface in design.surfaces:
        for side in sides_of(surface):
            places += surface_points(surface, side)
    for body in design.bodies:
        for side in (1, -1) if body.mirrored else (1,):
            places += body_front(body, side) if kind == "front" else body_points(body, kind, side)
    for wheel in design.wheels:
        r = wheel.diameter / 2
        places += [(wheel.x - r, wheel.y, wheel.z - r), (wheel.x + r, -wheel.y, wheel.z + r)]
    if design.power is not None:
        r = design.power.propeller.diameter / 2
        for x, y, z in all_discs(design.power):
            places += [(x, y + r, z + r), (x, y - r, z - r), (max(x - 0.014, 0.0), y, z)]
    if not places:
        return QRectF(0, 0, 1, 1)
    points = [view.at(place) for place in places]
    xs, ys = [x for x, _ in points], [y for _, y in points]
    return QRectF(min(xs), min(ys), max(max(xs) - min(xs), 1e-3), max(max(ys) - min(ys), 1e-3))


def fitted(design: Design, kind: str, room: QRectF) -> View:
    """Return the view that centres the whole aircraft in a room, as large as fits."""
    box = extent(design, kind)
    scale = min(room.width() / box.width(), room.height() / box.height())
    return View(kind, room.center().x() - box.center().x() * scale, room.center().y() - box.center().y() * scale, scale)


def path_in(view: View, places: list[Place]) -> QPainterPath:
    """Return a closed outline on the sheet."""
    return path_of([view.at(place) for place in places])


def draw_aircraft(
    p: QPainter,
    design: Design,
    view: View,
    *,
    ghost: bool = False,
    fill: QColor | None = None,
    ink: QColor | None = None,
    width: float | None = None,
) -> None:
    """Draw the whole aircraft in a view; as a ghost, dashed and unfilled."""
    inks = theme.inks
    colour = ink or (inks.live if ghost else inks.ink)
    width = width or (1.0 if ghost else 1.5)

    def part(places: list[Place], thin: bool = False) -> None:
        outline(p, path_in(view, places), colour, 1.0 if thin else width, None if ghost or thin else fill, dash=ghost)

    lower_first = sorted(design.surfaces, key=lambda s: s.z)
    under = [s for s in lower_first if s.role == "wing" and s.z <= 0]
    over = [s for s in lower_first if s not in under]
    for surface in under:
        _draw_surface(part, surface, ghost, view.kind)
    for body in design.bodies:
        for side in (1, -1) if body.mirrored else (1,):
            part(body_front(body, side) if view.kind == "front" else body_points(body, view.kind, side))
    if not ghost:
        _draw_wheels(p, design, view)
    for surface in over:
        _draw_surface(part, surface, ghost, view.kind)
    if not ghost:
        draw_propeller(p, design, view)


def shape_key(design: Design) -> tuple[Same, ...]:
    """Return what the drawing of an aircraft hangs on, as a key of a kept picture."""
    power = design.power
    drawn = [*design.surfaces, *design.bodies, *design.wheels]
    drawn += [power.propeller, *power.mounts] if power is not None else []
    return tuple(Same(part) for part in drawn)


def _draw_surface(part: object, surface: Surface, ghost: bool, kind: str) -> None:
    if kind == "side" and abs(surface.cant) < 0.2:
        part(profile_points(surface, 0))  # type: ignore[operator]
        part(profile_points(surface, -1), thin=True)  # type: ignore[operator]
        return
    for places in joined_points(surface):
        part(places)  # type: ignore[operator]
    for side in sides_of(surface):
        if not ghost:
            for control in surface.controls:
                part(control_points(surface, control, side), thin=True)  # type: ignore[operator]


def _draw_wheels(p: QPainter, design: Design, view: View) -> None:
    inks = theme.inks
    for wheel in design.wheels:
        r = wheel.diameter / 2 * view.scale
        for side in (1, -1) if wheel.mirrored and view.kind != "side" else (1,):
            x, y = view.at((wheel.x, side * wheel.y, wheel.z))
            top = view.at((wheel.x, side * 0.35 * wheel.y, 0.0))
            p.setPen(pen(inks.ink, 1.5))
            if view.kind != "plan":
                p.drawLine(int(top[0]), int(top[1]), int(x), int(y))
            p.setBrush(inks.paper)
            if view.kind == "side":
                p.drawEllipse(QRectF(x - r, y - r, 2 * r, 2 * r))
                p.drawEllipse(QRectF(x - 1, y - 1, 2, 2))
            elif view.kind == "front":
                p.drawRect(QRectF(x - r / 4, y - r, r / 2, 2 * r))
            else:
                p.drawRect(QRectF(x - r / 4, y - r, r / 2, 2 * r))


def draw_propeller(p: QPainter, design: Design, view: View) -> None:
    """Draw every propeller disc with its spinner, turned by the shaft's down and side angles."""
    if design.power is None:
        return
    r = design.power.propeller.diameter / 2
    for mount in design.power.mounts:
        for side, place in zip((1, -1), discs_of(mount, design.power), strict=False):
            _draw_disc(p, mount, place, side, r, view)


def _draw_disc(p: QPainter, mount: Mount, place: Place, side: int, r: float, view: View) -> None:
    inks = theme.inks
    x, y, z = place
    if view.kind == "front":
        px, py = view.at(place)
        p.setPen(pen(inks.soft, 1, Qt.PenStyle.DashLine))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawEllipse(QRectF(px - r * view.scale, py - r * view.scale, 2 * r * view.scale, 2 * r * view.scale))
        return
    # The shaft points ahead: down tilts it below the x axis, right turns it to starboard (mirrored on the other side).
    angle = side * mount.right if view.kind == "plan" else mount.down
    c, s = math.cos(angle), math.sin(angle)
    back, tip, width = (-0.03, 0.014, 0.009) if mount.pusher else (0.03, -0.014, 0.009)
    thin = 1.5 / view.scale

    def at(aft: float, across: float) -> Place:
        dx, du = aft * c + across * s, across * c - aft * s
        return (x + dx, y + du, z) if view.kind == "plan" else (x + dx, y, z - du)

    disc = [at(-thin, r), at(thin, r), at(thin, -r), at(-thin, -r)]
    outline(p, path_in(view, disc), inks.soft, 1, inks.fill)
    spinner = [at(back, width), at(0.0, width), at(tip, 0.0), at(0.0, -width), at(back, -width)]
    outline(p, path_in(view, spinner), inks.ink, 1.2, inks.paper)
