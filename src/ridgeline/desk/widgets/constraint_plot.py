"""The constraint chart: what the wishes allow, and the design point to drag."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPainter, QPainterPath, QPaintEvent, QPolygonF, QResizeEvent
from PySide6.QtWidgets import QWidget

from ridgeline.design.paths import Change
from ridgeline.desk.paint import CENTRE, RIGHT, brush_of, hatch, line, pen, width_of, write
from ridgeline.desk.scales import Plot, nice_step, ticks
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, font, theme
from ridgeline.desk.widgets.handles import Handle
from ridgeline.engine.advice.brief_rules import known_of
from ridgeline.engine.sizing.constraints import Constraint, ConstraintChart, constraint_chart
from ridgeline.engine.sizing.first_lift import first_cl_max
from ridgeline.engine.sizing.purposes import PURPOSES, loading_range
from ridgeline.units import shown, with_unit

#: Where else along a line its words may stand, a share of what is seen of it.
_SHARES = (0.7, 0.5, 0.3, 0.95, 0.15, 0.05)


class ConstraintPlot(QWidget):
    """Thrust ratio over wing loading, with every wish as a hatched line."""

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent)
        self._store = store
        self._chart: ConstraintChart = self._drawn()
        self._held_top: float | None = None
        self.point = Handle(self, "design point", self._drag, self._let_go, size=19)
        self.point.chosen = True
        store.changed.connect(self.refresh)
        self.setAccessibleName("what the wishes allow: thrust ratio over wing loading")

    @property
    def lift_limit(self) -> float | None:
        """Return the lift limit of the airframe, once there is one."""
        return self._store.report.value("wing.cl_max")

    def _drawn(self) -> ConstraintChart:
        """Draw the chart at lift limit and weight of the airframe, once there is one."""
        limit, mass = known_of(self._store.report)
        return constraint_chart(self._store.design.brief, cl_max=limit, mass=mass)

    @property
    def drawn_for(self) -> float:
        """Return the lift limit the chart is drawn for, that of what would be laid out before there is an airframe."""
        return self.lift_limit or first_cl_max(self._store.design.brief)

    def refresh(self) -> None:
        """Follow the brief. While the point is dragged the axes stay where they are."""
        if not self.point.held:
            self._chart = self._drawn()
        else:
            fresh = self._drawn()
            self._chart = fresh if np.array_equal(fresh.loading, self._chart.loading) else self._chart
        self._place_point()
        self.update()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._place_point()

    def _area(self) -> QRectF:
        return QRectF(34, 8, self.width() - 46, self.height() - 40)

    def _top(self) -> float:
        return self._held_top if self._held_top is not None else self._fitting_top()

    def _fitting_top(self) -> float:
        values = PURPOSES[self._store.design.brief.purpose].thrust_ratio
        return max(1.2, math.ceil(5 * 1.35 * max(values[1], self._store.design.brief.thrust_ratio)) / 5)

    @property
    def plot(self) -> Plot:
        """Return the chart of thrust ratio over loading."""
        axis = self._chart.loading
        return Plot.of(self._area(), (float(axis[0]), float(axis[-1])), (0.0, self._top()))

    def at(self, loading: float, thrust: float) -> QPointF:
        """Return where a loading and thrust ratio stand, px."""
        return self.plot.at(loading, thrust)

    def _place_point(self) -> None:
        brief = self._store.design.brief
        where = self.at(brief.wing_loading, brief.thrust_ratio)
        self.point.place(where.x(), where.y())

    def _let_go(self) -> None:
        self._held_top = None
        self._store.seal()
        self.refresh()

    def _drag(self, px: float, py: float) -> None:
        # The axes stay still under a moving hand.
        self._held_top = self._top()
        loading, thrust = self.plot.x.value(px), self.plot.y.value(py)
        self._store.edit(
            [Change("brief.wing_loading", round(loading, 3)), Change("brief.thrust_ratio", round(thrust, 3))],
            "Design point",
            merge="point",
        )

    def paintEvent(self, _event: QPaintEvent) -> None:
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._paint_feasible(p)
        self._paint_habit(p)
        self._paint_axes(p)
        p.save()
        p.setClipRect(self._area().adjusted(0, -6, 4, 0))
        for item in self._chart.lines:
            self._paint_line(p, item)
        p.restore()
        if self._store.design.brief.propulsion == "none":
            words, area = "no motor: only the loading is chosen", self._area()
            write(p, area.center().x(), area.top() + 20, words, LABEL, theme.inks.soft, align=CENTRE, halo=True)
        self._paint_point(p)

    def _paint_axes(self, p: QPainter) -> None:
        inks, area = theme.inks, self._area()
        unit = self._store.units["loading"]
        line(p, area.left(), area.bottom(), area.right(), area.bottom(), inks.ink)
        self.plot.side(p, nice_step(self._top(), 6), digits=1)
        low, high = (float(v) * unit.factor for v in (self._chart.loading[0], self._chart.loading[-1]))
        marks = ticks(low, high, nice_step(high - low, 6))
        for value in marks:
            x = self.at(value / unit.factor, 0).x()
            line(p, x, area.bottom(), x, area.bottom() + 4, inks.ink)
            if x < area.right() - 54:
                write(p, x, area.bottom() + 17, f"{value:g}", LABEL, inks.soft, align=CENTRE)
        write(p, area.right(), area.bottom() + 17, unit.symbol, LABEL, inks.soft, align=RIGHT)

    def _paint_feasible(self, p: QPainter) -> None:
        chart, top = self._chart, self._top()
        inside = (chart.loading >= chart.loading_low) & (chart.loading <= chart.loading_high)
        roof = np.minimum(chart.roof, top)
        inside &= roof > chart.floor
        if not inside.any():
            return
        x = chart.loading[inside]
        p.fillPath(self.plot.between(x, chart.floor[inside], roof[inside]), theme.inks.wash)

    def _paint_habit(self, p: QPainter) -> None:
        brief, inks = self._store.design.brief, theme.inks
        values = PURPOSES[brief.purpose]
        low, high = loading_range(brief.purpose, brief.ceiling)
        a = self.at(low, values.thrust_ratio[1])
        b = self.at(high, values.thrust_ratio[0])
        box = QRectF(a, b).intersected(self._area())
        if box.width() < 4 or box.height() < 4:
            return
        hatch(p, box, brush_of(inks.soft, 90).color(), rising=False, step=6)
        p.setPen(pen(inks.soft, 1, Qt.PenStyle.DashLine))
        p.drawRect(box)
        if box.width() > 110:
            ends = (shown(value, "loading", self._store.units, 0) for value in (low, high))
            words = f"habit: {' to '.join(ends)}"
            write(p, box.right() - 6, box.bottom() - 7, words, LABEL, inks.soft, align=RIGHT, halo=True)

    def _paint_line(self, p: QPainter, item: Constraint) -> None:
        chart = self._chart
        ruling = item.key in (chart.ruling_high, chart.ruling_floor)
        if item.thrust_ratio is None:
            self._paint_upright(p, item, ruling)
            return
        points = self.plot.points(chart.loading, item.thrust_ratio)
        band = QPainterPath()
        band.addPolygon(QPolygonF(points + _beside(points, 7 if item.side == "below" else -7)[::-1]))
        hatch(p, band, theme.inks.ink if ruling else theme.inks.soft, step=5)
        p.setPen(pen(theme.inks.ink, 2 if ruling else 1.2))
        p.drawPolyline(QPolygonF(points))
        if (at := self._label_at(item, points, ruling)) is not None:
            write(p, at.x(), at.y(), self._words(item), LABEL, bold=ruling, align=CENTRE, halo=True)

    def _label_at(self, item: Constraint, points: list[QPointF], ruling: bool) -> QPointF | None:
        """Return where a line is named: along what is seen of it, clear of the upright lines and the design's words."""
        area, wide = self._area(), width_of(self._words(item), LABEL, ruling) + 8
        seen = [point for point in points if area.top() + 22 < point.y() < area.bottom() - 8]
        usual = {"ceiling": 0.5, "climb": 0.86, "turn": 0.90, "roll": 0.30}.get(item.key, 0.5)
        places: list[tuple[QPointF, QRectF]] = []
        for share in (usual, *_SHARES):
            at = seen[int(share * (len(seen) - 1))] if seen else points[0]
            x = min(max(at.x(), area.left() + wide / 2), area.right() - wide / 2)
            y = at.y() + (-6 if item.side == "below" else 16)
            if area.top() + 10 < at.y() < area.bottom():
                places.append((QPointF(x, y), QRectF(x - wide / 2, y - LABEL, wide, LABEL + 4)))
        taken = self._taken()

        def covers(place: tuple[QPointF, QRectF]) -> float:
            overlaps = ((place[1].intersected(other), weight) for other, weight in taken)
            return sum(weight * box.width() * box.height() for box, weight in overlaps if not box.isEmpty())

        return min(places, key=covers)[0] if places else None

    def _taken(self) -> list[tuple[QRectF, float]]:
        """Return what the words of a line keep clear of, and how much it matters: words more than lines."""
        area, brief = self._area(), self._store.design.brief
        where = self.at(brief.wing_loading, brief.thrust_ratio)
        taken = [
            (QRectF(where.x() - 34, where.y() - 26, 68, 34), 1.0),
            (QRectF(area.left(), where.y() - 20, 44, 22), 1.0),
            (QRectF(where.x(), area.bottom() - 20, 40, 20), 1.0),
        ]
        for item in self._chart.lines:
            if item.thrust_ratio is None:
                x = self.at(item.loading or 0.0, 0).x()
                wide, named = 10.0, width_of(self._words(item), LABEL) + 30
                taken.append((QRectF(x - 0.5 * wide, area.top(), wide, area.height()), 0.5))
                taken.append((QRectF(x - 9 if item.side == "left" else x - 18, area.bottom() - named, 26, named), 1.0))
        return taken

    def _paint_upright(self, p: QPainter, item: Constraint, ruling: bool) -> None:
        area = self._area()
        x = self.at(item.loading or 0.0, 0).x()
        if not area.left() <= x <= area.right() + 1:
            return
        box = (
            QRectF(x, area.top(), 7, area.height())
            if item.side == "right"
            else QRectF(x - 7, area.top(), 7, area.height())
        )
        hatch(p, box, theme.inks.ink if ruling else theme.inks.soft, step=5)
        line(p, x, area.top(), x, area.bottom(), theme.inks.ink, 2 if ruling else 1.2)
        words = self._words(item)
        p.save()
        p.translate(x + (-5 if item.side == "right" else 15), area.bottom() - 24)
        p.rotate(-90)
        metrics = QFontMetricsF(font(LABEL, ruling))
        p.fillRect(
            QRectF(-2, -metrics.ascent(), width_of(words, LABEL, ruling) + 4, metrics.height()), theme.inks.paper
        )
        write(p, 0, 0, words, LABEL, bold=ruling)
        p.restore()

    def _words(self, item: Constraint) -> str:
        brief, units = self._store.design.brief, self._store.units
        tail = {
            "climb": with_unit(brief.climb_rate, "speed", units),
            "turn": with_unit(brief.bank, "angle", units, 0),
            "ceiling": with_unit(brief.ceiling, "mass", units),
            "stall": with_unit(brief.stall_speed, "speed", units),
            "span": with_unit(brief.span_limit, "length", units),
            "roll": f"in {with_unit(brief.ground_roll, 'distance', units)}",
        }.get(item.key, "")
        return f"{item.label} {tail}".strip()

    def _paint_point(self, p: QPainter) -> None:
        inks, area, brief = theme.inks, self._area(), self._store.design.brief
        where = self.at(brief.wing_loading, brief.thrust_ratio)
        line(p, area.left(), where.y(), where.x(), where.y(), inks.live, dash=True)
        line(p, where.x(), where.y(), where.x(), area.bottom(), inks.live, dash=True)
        write(p, area.left() + 5, where.y() - 5, f"{brief.thrust_ratio:.2f}", VALUE, inks.live, True, halo=True)
        words = shown(brief.wing_loading, "loading", self._store.units)
        write(p, where.x() + 5, area.bottom() - 6, words, VALUE, inks.live, True, halo=True)
        write(p, where.x(), where.y() - 13, "this design", LABEL, inks.live, True, CENTRE, halo=True)


def _beside(points: list[QPointF], distance: float) -> list[QPointF]:
    """Return the points moved sideways by a distance, downwards for a positive one."""
    moved = []
    for index, point in enumerate(points):
        before, after = points[max(index - 1, 0)], points[min(index + 1, len(points) - 1)]
        along = after - before
        length = math.hypot(along.x(), along.y()) or 1.0
        moved.append(point + QPointF(-along.y() / length, along.x() / length) * distance)
    return moved
