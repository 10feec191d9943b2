"""Wash: the air the propeller drives over the airframe, and what it, torque and thrust line ask of the controls."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPolygonF

from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.drawing import View, draw_aircraft, extent
from ridgeline.desk.paint import brush_of, fit, heading, pen, rule, width_of, write
from ridgeline.desk.scales import Plot, nice_step
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.turning_rows import turning_rows
from ridgeline.engine.power.full_throttle import THROTTLES
from ridgeline.engine.stages.washing import Blown, Tube, Washing
from ridgeline.units import with_unit

#: The terms, each on its own: key, and its words here.
_ROWS = (
    ("power.wash_drag", "Thrust lost on what stands in it"),
    ("control.elevator_wash", "Elevator power, climbing: times"),
    ("control.rudder_wash", "Rudder power, climbing: times"),
    ("launch.torque_aileron", "Aileron against torque, at launch"),
    ("trim.torque_aileron", "Aileron against torque, climbing"),
    ("trim.thrust_elevator", "Elevator against thrust, climbing"),
    ("trim.thrust_rudder", "Rudder against side thrust, climbing"),
    ("stability.propeller_shift", "Neutral point forward by the blades"),
)
_GAP = 36


class PowerWashSheet(Sheet):
    """The propeller on the airframe."""

    key = "power.wash"
    known_by = "power.wash_drag"

    @property
    def found(self) -> Washing | None:
        """Return what the wash does, None before there is one."""
        result: Washing | None = self.store.report.results.washing
        return result

    def subtitle(self) -> str:
        lost = self.store.report.figures["power.wash_drag"]
        if lost.value is None or self.found is None:
            return self.store.report.figures["control.elevator_wash"].why_not
        if lost.value < 0.0005:
            return "nothing stands behind the propeller"
        return f"{self.words('power.wash_drag', 0)} of the thrust goes on what stands in its own wash"

    def selection(self) -> Selection:
        return Selection(
            "propeller and shaft",
            (
                Dimension("Firewall behind the datum", "power.mounts[0].x"),
                Dimension("Shaft to starboard", "power.mounts[0].y"),
                Dimension("Shaft over the datum", "power.mounts[0].z"),
                Dimension("Shaft down", "power.mounts[0].down"),
                Dimension("Shaft right", "power.mounts[0].right"),
                Dimension("Diameter", "power.propeller.diameter"),
                *turning_rows(self.store, 0),
            )
            if self.store.design.power is not None
            else (),
        )

    def draw(self, p: QPainter) -> None:
        found = self.found
        if found is None:
            why = self.store.report.figures["control.elevator_wash"].why_not
            write(p, PAD, 80, f"{why}.".capitalize(), VALUE, theme.inks.soft)
            return
        high = 0.54 * (self.height() - 48)
        self._draw_views(p, QRectF(PAD, 60, self.width() - 2 * PAD, high - 34), found)
        below = 48 + high + 8
        rule(p, PAD, below - 8, self.width() - 2 * PAD)
        split = PAD + 0.56 * (self.width() - 2 * PAD)
        self._draw_charts(p, QRectF(PAD, below, split - PAD - 20, self.height() - below - 10), found)
        self._draw_terms(p, QRectF(split, below, self.width() - PAD - split, self.height() - below - 10))

    def _draw_views(self, p: QPainter, room: QRectF, found: Washing) -> None:
        """Draw plan and side view at one scale with the driven air over them."""
        inks, design = theme.inks, self.store.design
        plan, side = extent(design, "plan"), extent(design, "side")
        scale = min(
            (room.width() - _GAP) / (plan.width() + side.width()), room.height() / max(plan.height(), side.height())
        )
        self.scale = scale
        left = room.left() + 0.5 * (room.width() - _GAP - (plan.width() + side.width()) * scale)
        middle = room.center().y()
        across = View("plan", left - plan.left() * scale, middle - plan.center().y() * scale, scale)
        left += plan.width() * scale + _GAP
        along = View("side", left - side.left() * scale, middle - side.center().y() * scale, scale)
        for view in (across, along):
            draw_aircraft(p, design, view, fill=inks.paper)
            for tube in found.tubes:
                self._draw_tube(p, view, tube)
        words = "shaded: the driven air, climbing; dashed: standing. Full throttle"
        write(
            p,
            room.left(),
            room.top() - 6,
            words if found.tubes else "a fan blows clear of its airframe",
            LABEL,
            inks.soft,
        )

    def _draw_tube(self, p: QPainter, view: View, tube: Tube) -> None:
        inks, (x, y, z) = theme.inks, tube.place

        def edge(radii: np.ndarray, sign: int) -> list[QPointF]:
            spots = (
                view.at(
                    (x + float(b), y + sign * float(r), z)
                    if view.kind == "plan"
                    else (x + float(b), y, z + sign * float(r))
                )
                for b, r in zip(tube.behind, radii, strict=True)
            )
            return [QPointF(*spot) for spot in spots]

        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(brush_of(inks.live, 44))
        p.drawPolygon(QPolygonF(edge(tube.climbing, 1) + edge(tube.climbing, -1)[::-1]))
        p.setBrush(Qt.BrushStyle.NoBrush)
        for radii, style in ((tube.climbing, Qt.PenStyle.SolidLine), (tube.standing, Qt.PenStyle.DashLine)):
            p.setPen(pen(inks.live, 1, style))
            for sign in (1, -1):
                p.drawPolyline(QPolygonF(edge(radii, sign)))

    def _draw_charts(self, p: QPainter, area: QRectF, found: Washing) -> None:
        inks = theme.inks
        heading(
            p,
            area.left(),
            area.top() + 12,
            area.width(),
            "Full throw over the throttle",
            "N m; solid with the wash, dashed without",
        )
        half = (area.width() - 28) / 2
        rows = (
            ("Elevator", found.elevator, "control.elevator_standing"),
            ("Rudder", found.rudder, "control.rudder_standing"),
        )
        for index, (name, blown, key) in enumerate(rows):
            box = QRectF(area.left() + 34 + index * (half + 28), area.top() + 52, half - 34, area.height() - 82)
            write(p, box.left() - 34, area.top() + 36, name, VALUE, bold=True)
            if blown is None:
                why = self.store.report.figures[key].why_not
                write(p, box.left() - 34, area.top() + 60, fit(why, half, LABEL), LABEL, inks.soft)
                continue
            self._draw_chart(p, box, blown, key)

    def _draw_chart(self, p: QPainter, box: QRectF, blown: Blown, key: str) -> None:
        inks, units = theme.inks, self.store.units
        most = 1.15 * max(float(blown.slow.max()), float(blown.standing.max()), 1e-3)
        plot = Plot.of(box, (0.0, 1.0), (0.0, most))
        plot.side(p, nice_step(most, 5))
        for curve, ink in ((blown.standing, inks.live), (blown.slow, inks.predicted)):
            plot.curve(p, THROTTLES, curve, ink)
        for moment, ink in ((0.0, inks.live), (blown.bare, inks.predicted)):
            plot.level(p, moment, ink, dash=True)
        slow = plot.at(0.04, float(blown.slow[0]))
        stall = with_unit(self.store.report.value("speed.stall") or 0.0, "speed", units)
        write(p, slow.x(), slow.y() - 6, f"at the stall, {stall}", LABEL, inks.predicted, halo=True)
        words = f"standing {self.words(key, 2)}"
        if width_of(words, LABEL) > box.width() - 40:
            words = self.words(key, 2)
        self.written(p, box.right(), box.top() - 16, words, key, LABEL, inks.live, align="right")
        plot.foot(p, 25, 100.0)
        write(p, box.right() + 3, box.bottom() + 15, "%", LABEL, inks.soft)

    def _draw_terms(self, p: QPainter, area: QRectF) -> None:
        """List the terms, each with its own working."""
        inks, report = theme.inks, self.store.report
        heading(
            p,
            area.left(),
            area.top() + 12,
            area.width(),
            "Each on its own",
            "judgements leave the wash out",
            strong=False,
        )
        pitch = min((area.height() - 40) / len(_ROWS), 26)
        y = area.top() + 38
        for key, words in _ROWS:
            figure = report.figures[key]
            write(p, area.left(), y, fit(words, area.width() - 76, LABEL), LABEL, inks.soft)
            decimals = {"fraction": 1, "angle": 1, "ratio": 2}.get(figure.quantity)
            self.written(p, area.right(), y, self.words(key, decimals), key, align="right")
            rule(p, area.left(), y + 6, area.width())
            y += pitch
