"""Sets in the air: the sink of each over airspeed in one chart, and what each is best at."""

from __future__ import annotations

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter

from ridgeline.desk.paint import fit, heading, line, rule, write
from ridgeline.desk.scales import Plot, nice_step
from ridgeline.desk.sheets.base import Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.advice.set_polars import SetPolar, best_of
from ridgeline.units import with_unit

_LIST = 300
#: The chart reaches down to so many times the least sink of all.
_DEEP = 4.0


def draw_set_polars(p: QPainter, sheet: Sheet, polars: tuple[SetPolar, ...], area: QRectF) -> None:
    """Draw the sink of every set over airspeed, and list what each is best at."""
    inks, units = theme.inks, sheet.store.units
    rule(p, area.left(), area.top() + 4, area.width(), strong=True)
    if not polars:
        write(p, area.left(), area.top() + 30, "No set flies yet: it needs wing, mass and balance.", VALUE, inks.soft)
        return
    list_left = area.right() - _LIST
    box = QRectF(area.left() + 44, area.top() + 34, list_left - area.left() - 76, area.height() - 74)
    _draw_curves(p, sheet, polars, box)
    line(p, list_left - 14, area.top() + 10, list_left - 14, area.bottom(), inks.hair)
    heading(p, list_left, area.top() + 24, _LIST, "Best at", "propeller folded or off")
    best, y = best_of(polars), area.top() + 52
    for key, words, value in (
        ("calm", "Calm air", lambda one: f"sinks {with_unit(one.sink, 'speed', units)}"),
        ("upwind", "Against the wind", lambda one: f"{with_unit(one.over_ground, 'glide', units)} forward to 1 down"),
        ("slope", "A strong slope", lambda one: f"up to {with_unit(one.slope[1], 'speed', units)} of wind"),
        ("power", "Under power", lambda one: f"stays up {with_unit(one.endurance, 'time', units)}"),
    ):
        if key not in best:
            continue
        one = next(polar for polar in polars if polar.ident == best[key])
        write(p, list_left, y, words, VALUE, inks.soft)
        write(p, list_left, y + 17, fit(one.name or "as it is", 130), VALUE, inks.live, True)
        write(p, area.right(), y + 17, value(one), LABEL, inks.soft, align="right")
        rule(p, list_left, y + 26, _LIST)
        y += 46
    for one in polars:
        if y > area.bottom() - 4:
            break
        write(p, list_left, y, fit(one.name or "as it is", 110, LABEL), LABEL)
        low, high = (with_unit(value, "speed", units) for value in one.slope)
        told = f"{with_unit(one.mass, 'mass', units)}, slope {low} to {high}"
        write(p, area.right(), y, told, LABEL, inks.soft, align="right")
        y += 18


def _draw_curves(p: QPainter, sheet: Sheet, polars: tuple[SetPolar, ...], box: QRectF) -> None:
    inks, unit = theme.inks, sheet.store.units["speed"]
    deepest = _DEEP * min(polar.sink for polar in polars)
    drawn = [(one, one.sinks <= deepest) for one in polars]
    fastest = max(float(one.speeds[held].max()) for one, held in drawn if held.any())
    plot = Plot.of(box, (0.0, fastest), (-1.06 * deepest, 0.0), inside=True)
    heading(p, box.left() - 44, box.top() - 10, box.width() + 44, "Down", f"sink, {unit.symbol}, over airspeed")
    step = nice_step(deepest * unit.factor, 5)
    for number in range(1, int(deepest * unit.factor / step) + 1):
        y = plot.at(0.0, -number * step / unit.factor).y()
        line(p, box.left(), y, box.right(), y, inks.hair)
        write(p, box.left() - 6, y + 4, f"−{number * step:g}", LABEL, inks.soft, align="right")
    plot.foot(p, nice_step(fastest * unit.factor, 7), unit.factor, 26)
    fitted = sheet.store.design.fitted
    for number, (one, held) in enumerate(drawn):
        mine = one.ident == fitted
        speeds, sinks = one.speeds[held], one.sinks[held]
        plot.curve(p, speeds, -sinks, inks.live if mine else inks.ink, 2.2 if mine else 1.3, dash=number % 2 == 1)
        at = min(int((0.5 + 0.16 * number) * len(speeds)), len(speeds) - 1)
        place = plot.at(float(speeds[at]), -float(sinks[at]))
        words = fit(one.name or "as it is", 120, LABEL)
        write(p, place.x() + 10, place.y() - 4, words, LABEL, inks.live if mine else inks.ink, mine, halo=True)
