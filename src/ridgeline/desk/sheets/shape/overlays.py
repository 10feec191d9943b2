"""What is laid over the plan: the pencil construction, balance and neutral point, panel areas."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter

from ridgeline.design.airframe import Surface
from ridgeline.design.axes import disc_of, is_upright, mean_disc
from ridgeline.desk.drawing import View, chord_point, extent, panel_point
from ridgeline.desk.paint import cg_mark, dimension, line, outline, path_of, pen, state_mark, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.geometry.clearance import LEAST_GROUND
from ridgeline.engine.geometry.reference import main_wing
from ridgeline.engine.report import within
from ridgeline.engine.results import given
from ridgeline.units import shown, with_unit


def draw_points(p: QPainter, sheet: Sheet, plan: View, side: View) -> None:
    inks, report, view = theme.inks, sheet.store.report, plan
    neutral, cg = report.value("stability.neutral_point_x"), report.value("balance.cg_x")
    wide = 0.10 * view.scale + 20
    if neutral is not None:
        y = view.at((neutral, 0, 0))[1]
        line(p, view.x0 - wide, y, view.x0 + wide, y, inks.predicted, 1.2, dash=True)
        apart = 99.0 if cg is None else y - view.at((cg, 0, 0))[1]
        # Two labels closer than a line of type are set apart; the lines stay true.
        base = y + 4 + (max(0.0, 15 - abs(apart)) * (1 if apart >= 0 else -1))
        words = f"NP {sheet.words('stability.neutral_point_fraction', 0)}"
        key = "stability.neutral_point_fraction"
        sheet.written(p, view.x0 - wide - 4, base, words, key, VALUE, inks.predicted, align="right", halo=True)
    if cg is not None:
        y = view.at((cg, 0, 0))[1]
        balanced = report.results.balance
        line(p, view.x0 - wide, y, view.x0 + wide, y, inks.live, 1.5)
        if balanced is not None:
            words = f"CG {sheet.words('balance.cg_fraction', 0)}"
            place, key = view.x0 - wide - 4, "balance.cg_fraction"
            sheet.written(p, place, y + 4, words, key, VALUE, inks.live, bold=True, align="right", halo=True)
        cg_mark(p, view.x0, y, 6)
        at = side.at((cg, 0, report.value("balance.cg_z") or 0.0))
        cg_mark(p, *at, 5)


def draw_pencil(p: QPainter, sheet: Sheet, plan: View) -> None:
    """Draw the pencil construction on the port outer panel, and the mean chord where it stands."""
    inks, view = theme.inks, plan
    ref = given(sheet.store.report.results.shape.reference)
    wing = main_wing(sheet.store.design.surfaces)
    a, b = wing.stations[-2], wing.stations[-1]

    def at(y: float, x: float) -> tuple[float, float]:
        return view.at(panel_point(wing, y, x, 0.0, -1))

    # The tip's chord is added to the root's on one side, the root's to the tip's on the other: whichever way round
    # stays nearer to the drawing.
    box = extent(sheet.store.design, "plan")
    ends = (
        ((a.y, a.x, a.x - b.chord), (b.y, b.x + b.chord, b.x + b.chord + a.chord)),
        ((a.y, a.x + a.chord, a.x + a.chord + b.chord), (b.y, b.x, b.x - a.chord)),
    )

    def past(way: tuple[tuple[float, float, float], ...]) -> float:
        far = [wing.x + x for _y, _from, x in way]
        return max(box.top() - min(far), max(far) - box.bottom(), 0.0)

    inner, outer = min(ends, key=past)
    p.setPen(pen(inks.soft, 1))
    near, far = at(inner[0], inner[2]), at(outer[0], outer[2])
    line(p, *near, *at(inner[0], inner[1]), inks.soft)
    line(p, *far, *at(outer[0], outer[1]), inks.soft)
    line(p, *near, *far, inks.soft, dash=True)
    line(p, *at(a.y, a.x + a.chord / 2), *at(b.y, b.x + b.chord / 2), inks.soft)
    write(p, near[0] - 6, near[1] + 10, "tip chord added", LABEL, inks.soft, align="right", halo=True)
    write(p, far[0] + 6, far[1] - 2, "root chord added", LABEL, inks.soft, halo=True)
    x1, y1 = view.at((ref.mac_x_le, -ref.mac_y, 0.0))
    y2 = view.at((ref.at(1.0), 0.0, 0.0))[1]
    line(p, x1, y1, x1, y2, inks.ink, 2.5)
    write(p, x1 + 5, y2 - 6, f"mean chord {sheet.length(ref.mac)}", VALUE, halo=True)


def draw_discs(p: QPainter, sheet: Sheet, plan: View) -> None:
    """Write how far the propeller disc stands from the nearest part."""
    found, power = sheet.store.report.results.clearances, sheet.store.design.power
    if found is None or power is None or found.nearest is None:
        return
    x, y, z = disc_of(power.mounts[0], power)
    px, py = plan.at((x, y + 0.5 * power.propeller.diameter, z))
    colour = theme.inks.soft if found.nearest >= 0.008 else theme.inks.stop
    write(p, px + 8, py + 4, f"{sheet.length(found.nearest)} to {found.part.lower()}", LABEL, colour, halo=True)


def draw_ground(p: QPainter, sheet: Sheet, side: View, *, with_gap: bool) -> None:
    """Draw the ground under the wheels, and the room under the propeller."""
    design = sheet.store.design
    if not design.wheels:
        return
    y = side.at((0, 0, min(w.z - w.diameter / 2 for w in design.wheels)))[1]
    line(p, PAD, y + 0.5, sheet.width() - PAD, y + 0.5, theme.inks.ink)
    gap = sheet.store.report.value("clearance.ground")
    if design.power is not None and gap is not None and with_gap:
        colour = theme.inks.soft if gap >= LEAST_GROUND else theme.inks.stop
        x = side.at((mean_disc(design.power)[0], 0, 0))[0]
        write(p, x - 14, y + 14, f"{sheet.length(gap)} under the propeller", LABEL, colour)


def draw_areas(p: QPainter, sheet: Sheet, plan: View) -> None:
    from ridgeline.engine.geometry.planform import panel_areas

    for surface in sheet.store.design.surfaces:
        stations = surface.stations
        areas = panel_areas([s.y for s in stations], [s.chord for s in stations])
        for a, b, area in zip(stations[:-1], stations[1:], areas, strict=True):
            place = panel_point(surface, (a.y + b.y) / 2, (a.x + b.x) / 2 + 0.5 * a.chord, (a.z + b.z) / 2)
            x, y = plan.at(place)
            if not is_upright(surface):
                write(
                    p,
                    x,
                    y + 4,
                    with_unit(float(area), "area", sheet.store.units),
                    LABEL,
                    theme.inks.soft,
                    align="centre",
                )


def draw_loading(p: QPainter, sheet: Sheet, front: View, ceiling: float) -> None:
    """Draw the local lift coefficients at the stall over the front view, their limit dashed, and where they meet."""
    speeds = sheet.store.report.results.speeds
    if speeds is None or speeds.section is None:
        return
    inks, stall = theme.inks, speeds.section
    load = stall.loading
    mine = stall.own
    base = front.at((0.0, 0.0, float(load.z[mine].max())))[1] - 10
    top = min(46.0, max(base - ceiling, 12.0)) / max(float(stall.limits[mine].max()), 0.1)
    xs = [front.at((0.0, float(y), 0.0))[0] for y in load.y[mine]]
    mirror = [2 * front.x0 - x for x in reversed(xs)]
    lift = [base - top * float(c) for c in load.c_l[mine]]
    limit = [base - top * float(c) for c in stall.limits[mine]]
    for heights, dash, colour in ((limit, True, inks.soft), (lift, False, inks.predicted)):
        points = list(zip(mirror, reversed(heights), strict=True)) + list(zip(xs, heights, strict=True))
        outline(p, path_of(points, closed=False), colour, 1.5, dash=dash)
    x = front.at((0.0, float(load.y[stall.strip]), 0.0))[0]
    y = base - top * float(load.c_l[stall.strip])
    p.setPen(pen(inks.predicted, 1.5))
    p.setBrush(inks.paper)
    p.drawEllipse(QRectF(x - 3, y - 3, 6, 6))
    p.setBrush(Qt.BrushStyle.NoBrush)
    words = "lift at the stall, limit dashed"
    write(p, xs[-1], limit[-1] - 4, words, LABEL, inks.predicted, align="right", halo=True)


def draw_proportion(p: QPainter, sheet: Sheet, key: str, words: str, y: float, room: float) -> None:
    """Write one proportion with its wanted range, marked where it lies outside."""
    inks, units, report = theme.inks, sheet.store.units, sheet.store.report
    figure, wanted = report.figures[key], report.wanted.get(key)
    write(p, PAD, y, words, LABEL, inks.soft)
    if figure.value is None:
        write(p, PAD + 106, y, "–", VALUE, inks.soft, align="right")
        return
    symbol = units[figure.quantity].symbol
    low, high = wanted or (None, None)
    if not within(figure.value, wanted):
        state_mark(p, PAD - 8, y - 4, "look")
    sheet.written(p, PAD + 106, y, shown(figure.value, figure.quantity, units), key, align="right")
    if wanted and low is not None and high is not None:
        digits = 2 if figure.quantity != "coefficient" else 3
        write(p, PAD + room, y, f"{low:.{digits}g}–{high:.{digits}g}", 10, inks.soft, align="right")
    else:
        write(p, PAD + 110, y, symbol, LABEL, inks.soft)


def draw_station(p: QPainter, sheet: Sheet, surface: Surface, number: int, view: View, front: View) -> None:
    """Draw a selected station's chord line and its distance out, and mark it in the front view."""
    inks, station = theme.inks, surface.stations[number]
    x1, y1 = view.at(chord_point(surface, station.y, 0.0))
    x2, y2 = view.at(chord_point(surface, station.y, 1.0))
    line(p, x1, y1, x2, y2, inks.live, 2)
    if number > 0 and view.kind == "plan":
        root = view.at(panel_point(surface, 0.0, 0.0, 0.0))
        y = min(y1, root[1]) - 26
        line(p, x1, y1, x1, y - 3, inks.hair)
        dimension(p, root[0], x1, y, "", colour=inks.live)
    if surface.role == "wing":
        fx, fy = front.at(panel_point(surface, station.y, station.x, station.z))
        p.fillRect(QRectF(fx - 3, fy - 3, 6, 6), inks.live)
        if station.z:
            write(p, fx, fy - 8, f"{sheet.length(station.z)} up", LABEL, inks.live, True, "right", halo=True)
