"""The chain drawn as a line diagram: pack, controller, motor, propeller, with values and loads at each link."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter, QPainterPath

from ridgeline.design.power import PowerTrain
from ridgeline.desk.paint import CENTRE, fit, hatch, line, pen, write
from ridgeline.desk.scales import Scale
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.power.operating_point import OperatingPoint
from ridgeline.engine.power.prop_sizes import size_words
from ridgeline.engine.power.ratings import ratings
from ridgeline.units import with_unit

CHAIN_TOP, CHAIN_HEIGHT = 40, 188
LINKS = ("pack", "esc", "motor", "propeller")
NAMES = {"pack": "Pack", "esc": "ESC", "motor": "Motor", "propeller": "Propeller"}


def each_link(sheet: Sheet) -> float:
    """Return the width one link has on the sheet, px."""
    return (sheet.width() - 2 * PAD) / len(LINKS)


def draw_chain(p: QPainter, sheet: Sheet, full: OperatingPoint, level: OperatingPoint, speed: float) -> None:
    """Draw the links with their values now and standing at full throttle."""
    train = sheet.store.design.power
    assert train is not None
    inks, each = theme.inks, each_link(sheet)
    y = CHAIN_TOP + 74
    names = {
        "pack": train.pack.name,
        "esc": train.esc.name.removeprefix("ESC "),
        "motor": train.motor.name.removeprefix("Outrunner "),
        "propeller": f"{size_words(train.propeller)}, {train.propeller.blades} blades",
    }
    n = train.motors
    rows = {
        "pack": _values(
            level.pack_power,
            full.pack_power,
            f"{float(level.pack_voltage):.1f} V  {float(level.pack_current):.1f} A",
            # Beside the volts stands a field (`power_measured.OnTheChain`): a measured current is typed over it.
            "",
        ),
        "esc": _values(
            n * level.motor_voltage * level.motor_current,
            n * full.motor_voltage * full.motor_current,
            f"{float(level.motor_voltage):.1f} V  {float(level.motor_current):.1f} A",
            f"{float(full.motor_voltage):.1f} V  {float(full.motor_current):.1f} A",
        ),
        "motor": _values(
            n * level.shaft_power, n * full.shaft_power, f"{float(level.rpm):.0f} rpm", f"{float(full.rpm):.0f} rpm"
        ),
        "propeller": (
            f"{float(level.thrust):.2f} N",
            f"at {with_unit(speed, 'speed', sheet.store.units)}",
            "standing",
            "",
        ),
    }
    for index, link in enumerate(LINKS):
        x = PAD + index * each
        used = write(p, x, CHAIN_TOP + 14, NAMES[link], 13, bold=True)
        if n > 1 and link != "pack":
            used += write(p, x + used + 6, CHAIN_TOP + 14, f"{n} ×", LABEL, inks.live, True) + 6
        write(p, x + used + 8, CHAIN_TOP + 14, fit(names[link], each - used - 20, LABEL), LABEL, inks.soft)
        _draw_link(p, sheet, link, x, y, each)
        middle = x + 62 + (each - 70) / 2
        top, top2, low, low2 = rows[link]
        write(p, middle, y - 25, top, VALUE, inks.live, True, CENTRE)
        write(p, middle, y - 10, top2, VALUE, inks.live, align=CENTRE)
        write(p, middle, y + 21, low, VALUE, align=CENTRE)
        write(p, middle, y + 36, low2, VALUE, bold=True, align=CENTRE)
    left = PAD + 62 + (each - 70) / 2 - 3
    write(p, left, y + 21, f"{float(full.pack_voltage):.1f} V", VALUE, align="right")
    _draw_heats(p, sheet, full, level, y + 56)
    write(p, PAD, y - 29, "now", LABEL, inks.live)
    write(p, PAD, y + 39, "full, standing", LABEL, inks.soft)
    _draw_loads(p, sheet, train, full, level, y + 60)


def _draw_heats(p: QPainter, sheet: Sheet, full: OperatingPoint, level: OperatingPoint, y: float) -> None:
    """Write what each link turns to heat, now and standing at full throttle."""
    train = sheet.store.design.power
    assert train is not None
    n, each = train.motors, each_link(sheet)
    lost = (
        (level.pack_heat + level.lead_heat, full.pack_heat + full.lead_heat),
        (n * level.esc_heat, n * full.esc_heat),
        (n * level.motor_heat, n * full.motor_heat),
    )
    for index, (now, most) in enumerate(lost):
        words = f"heat {float(now):.1f}, {float(most):.1f} W"
        write(p, PAD + index * each, y, words, LABEL, theme.inks.soft)
    efficiency = sheet.store.report.value("power.efficiency")
    if efficiency is not None:
        write(p, PAD + 3 * each, y, f"{efficiency:.1f} g/W standing", LABEL, theme.inks.soft)


def _values(now: object, full: object, words: str, full_words: str) -> tuple[str, str, str, str]:
    return f"{float(now):.0f} W", words, full_words, f"{float(full):.0f} W"  # type: ignore[arg-type]


def _draw_link(p: QPainter, sheet: Sheet, link: str, x: float, y: float, each: float) -> None:
    inks = theme.inks
    p.setPen(pen(inks.ink, 1.5))
    p.setBrush(inks.paper)
    if link != "propeller":
        gap = 5 if link in ("pack", "esc") else 2
        for offset in (-gap, gap) if link == "motor" else (-gap, 0.0, gap) if link == "esc" else (-gap, gap):
            line(p, x + 46, y + offset, x + each, y + offset, inks.ink, 1.2)
        p.setPen(pen(inks.ink, 1.5))
        p.setBrush(inks.paper)
        p.drawRect(QRectF(x, y - 17, 54 if link == "pack" else 46, 34))
    if link == "pack":
        train = sheet.store.design.power
        cells = train.cells if train else 1
        for k in range(cells):
            box = QRectF(x + 3 + k * 48 / cells, y - 13, 48 / cells - 2, 26)
            p.setPen(pen(inks.ink, 1))
            p.setBrush(inks.wash)
            p.drawRect(box)
    elif link == "esc":
        for k in (-8, 0, 8):
            line(p, x + 6, y + k, x + 16, y + k, inks.ink)
            line(p, x + 16, y + k, x + 28, y + k - 5, inks.ink)
            line(p, x + 30, y + k, x + 40, y + k, inks.ink)
    elif link == "motor":
        p.setBrush(inks.fill)
        for k in (-9, -2, 5):
            p.drawRect(QRectF(x + 8, y + k, 30, 4))
    else:
        blade = QPainterPath()
        blade.addEllipse(QRectF(x + 8, y - 30, 8, 28))
        blade.addEllipse(QRectF(x + 8, y + 2, 8, 28))
        p.drawPath(blade)
        p.drawEllipse(QRectF(x + 5, y - 5, 18, 10))
        line(p, x + 34, y, x + each - 16, y, inks.predicted, 1.2, dash=True)
    p.setBrush(Qt.BrushStyle.NoBrush)


def _draw_loads(
    p: QPainter, sheet: Sheet, train: PowerTrain, full: OperatingPoint, level: OperatingPoint, y: float
) -> None:
    """Draw each link's load against its limit: now and full throttle as ticks, the forbidden end hatched."""
    mass, most_of = train.motor.mass, ratings(train)
    loads = {
        "pack": (float(level.pack_current), float(full.pack_current), most_of.pack_current, "A"),
        "esc": (float(level.motor_current), float(full.motor_current), most_of.esc_current, "A"),
        "motor": (
            float(level.motor_heat) / mass / 1e3,
            float(full.motor_heat) / mass / 1e3,
            most_of.motor_heat / mass / 1e3,
            "W/g heat",
        ),
        "propeller": (
            float(level.rpm) / 1e3,
            float(full.rpm) / 1e3,
            most_of.rpm / 1e3,
            "000 rpm",
        ),
    }
    inks, each = theme.inks, each_link(sheet)
    for index, link in enumerate(LINKS):
        now, most, limit, unit = loads[link]
        x, room = PAD + index * each, each - 90
        scale = Scale(0.0, max(1.25 * limit, 1.08 * most), x, x + room)
        line(p, x, y + 12, x + room, y + 12, inks.ink)
        over, edge = most > limit, scale.at(limit)
        hatch(p, QRectF(edge, y + 6, x + room - edge, 6), inks.stop if over else inks.soft, step=4)
        for place, ink in ((scale.held(now), inks.live), (scale.at(most), inks.stop if over else inks.ink)):
            line(p, place, y + 3, place, y + 15, ink, 2)
        write(p, x + room + 5, y + 15, f"{limit:.2g} {unit}" if limit < 1 else f"{limit:.0f} {unit}", LABEL, inks.soft)
