"""The aircraft from behind: its controls as the sticks have them, its propellers as far as the throttle is open."""

from __future__ import annotations

import math
from collections.abc import Mapping

import numpy as np
from PySide6.QtCore import QPointF, QRectF
from PySide6.QtGui import QPainter, QPainterPath

from ridgeline.design.airframe import Surface
from ridgeline.design.axes import cut_at
from ridgeline.design.document import Design
from ridgeline.design.hinges import hinge_share
from ridgeline.design.radio import Radio, StickName
from ridgeline.desk.drawing import View, draw_aircraft, fitted, panel_point
from ridgeline.desk.paint import hatch, outline, path_of
from ridgeline.desk.sheets.controls.stick_table import angle_of
from ridgeline.desk.theme import theme
from ridgeline.engine.advice.benched import Benched, Movable
from ridgeline.engine.results import given

#: A control that stands this far off neutral is drawn as moved, rad.
_MOVED = math.radians(0.5)


def draw_behind(
    p: QPainter, design: Design, here: Benched, radio: Radio, sticks: Mapping[StickName, float], room: QRectF,
    asked: int,
) -> None:  # fmt: skip
    """Draw the aircraft from behind as the sticks have it; the output that is asked about stands out."""
    inks = theme.inks
    view = fitted(design, "front", room.adjusted(10, 8, -10, -8))
    draw_aircraft(p, design, view, fill=inks.paper)
    for k, one in enumerate(here.outputs):
        if one.row is None:
            _draw_disc(p, design, view, one, sticks.get("throttle", 0.0), live=k == asked)
            continue
        angle = angle_of(one, radio, sticks)
        path = path_of(_turned(view, design.surfaces[one.row.surface], one, angle))
        moved = k == asked or abs(angle) > _MOVED
        outline(p, path, inks.live if moved else inks.ink, 1.6 if moved else 1.0, inks.wash if moved else inks.fill)


def _draw_disc(p: QPainter, design: Design, view: View, one: Movable, throttle: float, *, live: bool) -> None:
    """Draw a propeller's disc as far as the throttle is open."""
    power = design.power
    if power is None or not (throttle > 0 or live):
        return
    mount = next(m for m in power.mounts if m.id == one.of)
    out = math.copysign(mount.y, one.across) if mount.mirrored else mount.y
    x, y = view.at((mount.x, out, mount.z))
    radius = 0.5 * power.propeller.diameter * view.scale
    box = QRectF(x - radius, y - radius, 2 * radius, 2 * radius)
    path = QPainterPath()
    path.addEllipse(box)
    outline(p, path, theme.inks.live, 1.6)
    if throttle > 0:
        share = QPainterPath(QPointF(x, y))
        share.arcTo(box, 90, -360 * throttle)
        hatch(p, share, theme.inks.live)


def _turned(view: View, surface: Surface, one: Movable, angle: float) -> list[tuple[float, float]]:
    """Return a control from behind, its trailing edge where its angle puts it, px."""
    side = 1 if one.side == "starboard" else -1
    control = given(one.row).control
    ends: list[tuple[tuple[float, float], tuple[float, float]]] = []
    for out in np.linspace(control.start, control.end, 7):
        cut = cut_at(surface, float(out))
        behind = float(hinge_share(surface, control, [float(out)])[0]) * cut.chord
        hinge = panel_point(surface, float(out), cut.x + cut.chord - behind, cut.z, side)
        edge = panel_point(surface, float(out), cut.x + cut.chord, cut.z - behind * math.sin(angle), side)
        ends.append((view.at(hinge), view.at(edge)))
    return [first for first, _second in ends] + [second for _first, second in reversed(ends)]
