"""What the sticks do, in cruise and near the stall, and the rates: drawn under the channels of the Radio leaf."""

from __future__ import annotations

import math

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter

from ridgeline.design.axes import is_upright
from ridgeline.design.radio import StickName
from ridgeline.desk.paint import brush_of, fit, heading, line, pen, rule, write
from ridgeline.desk.sheets.base import Sheet
from ridgeline.desk.theme import LABEL, theme
from ridgeline.engine.stages.steering import APART, MIXES
from ridgeline.engine.stages.stick_answers import Answer, Sticks, turns
from ridgeline.units import with_unit

#: Rows of both lists, and the bar of a rate with the words on either side of it, px.
_ROW, _BAR, _NAME = 18, 86, 58
#: A column narrower than this says it in fewer words, px.
_NARROW = 280
NAMES: dict[StickName, str] = {
    "roll": "aileron", "pitch": "elevator", "yaw": "rudder", "throttle": "throttle", "flap": "flaps"
}  # fmt: skip


def draw_answers(sheet: Sheet, p: QPainter, area: QRectF) -> float:
    """Draw what each stick comes to at full, in cruise and near the stall.

    Parameters
    ----------
    sheet : Sheet
        Whose figures are pressed.
    p : QPainter
    area : QRectF
        Its top left and its width; rows that do not fit are left out.

    Returns
    -------
    float
        Where it ends, px.
    """
    report = sheet.store.report
    sticks = report.results.sticking
    y = area.top()
    if sticks is None or not sticks.standing:
        return y
    heading(p, area.left(), y, area.width(), "What they do", "in cruise, near the stall", strong=False)
    middle = area.left() + _NAME + 0.5 * (area.width() - _NAME)
    y += 22
    for one in sticks.standing:
        row = _words(sheet, sticks, one.stick, short=area.width() < _NARROW)
        if row is None or y > area.bottom():
            continue
        (fast, fast_key), (slow, slow_key) = row
        write(p, area.left(), y, NAMES[one.stick], LABEL, theme.inks.soft)
        half = middle - area.left() - _NAME - 6
        _told(sheet, p, area.left() + _NAME, y, fit(fast, half, LABEL), fast_key)
        _told(sheet, p, middle + 4, y, fit(slow, area.right() - middle - 4, LABEL), slow_key)
        rule(p, area.left(), y + 5, area.width())
        y += _ROW
    elevator = report.value("trim.thrust_elevator")
    if elevator is not None and y <= area.bottom():
        rest = " at full" if area.width() < _NARROW else " holds the nose at full"
        write(p, area.left(), y, "throttle", LABEL, theme.inks.soft)
        _told(sheet, p, area.left() + _NAME, y, _held(sheet, elevator) + rest,
              "trim.thrust_elevator")  # fmt: skip
        y += _ROW
    nose, roll = report.value("control.thrust_slip"), report.value("control.thrust_roll")
    if nose is not None and roll is not None and y <= area.bottom():
        units = sheet.store.units
        told = f"nose {with_unit(nose, 'angle', units, 0)}, rolls {with_unit(roll, 'turn_rate', units, 0)}"
        write(p, area.left(), y, "by thrust", LABEL, theme.inks.soft)
        _told(sheet, p, area.left() + _NAME, y, told, "control.thrust_slip")
        y += _ROW
        for name, words, key in _by_thrust(sheet, short=area.width() < _NARROW):
            if y <= area.bottom():
                write(p, area.left(), y, name, LABEL, theme.inks.soft)
                _told(sheet, p, area.left() + _NAME, y, fit(words, area.width() - _NAME, LABEL), key)
                y += _ROW
    return y - _ROW


def _by_thrust(sheet: Sheet, *, short: bool) -> list[tuple[str, str, str]]:
    """Say how the turn by thrust changes with motors nearer or farther apart, with the mix, and without the fin."""
    found, units = sheet.store.report.results.steering, sheet.store.units
    if found is None or found.radius is None:
        return []
    now = APART.index(1.0), MIXES.index(1.0)
    tried, mixes = (now[0], -1) if short else (0, now[0], -1), (0, now[1], -1)
    long, far = units["length"], units["distance"]

    def over(of: list[float], radii: list[float], symbol: str) -> str:
        came = ", ".join(f"{far.factor * radius:.0f}" for radius in radii)
        return f"{', '.join(f'{value:.0f}' for value in of)} {symbol}: {came} {far.symbol}"

    spread = over([long.factor * found.apart[k] for k in tried], [found.radius[k, now[1]] for k in tried], long.symbol)
    mixed = over([100 * found.mixes[k] for k in mixes], [found.radius[now[0], k] for k in mixes], "%")
    bare = "spins round" if found.bare is None else f"turns in {_long(sheet, found.bare[now])}"
    rows = [
        ("apart" if short else "motors", spread, "control.thrust_radius"),
        ("mixed", mixed, "control.thrust_radius"),
    ]
    if any(is_upright(surface) for surface in sheet.store.design.surfaces):
        rows.append(("no fin", bare, "control.thrust_slip_bare"))
    return rows


def _told(sheet: Sheet, p: QPainter, x: float, y: float, words: str, key: str | None) -> None:
    if key is None:
        write(p, x, y, words, LABEL, theme.inks.ink)
    else:
        sheet.written(p, x, y, words, key, LABEL, theme.inks.ink)


Told = tuple[str, str | None]


def _words(sheet: Sheet, sticks: Sticks, stick: StickName, *, short: bool) -> tuple[Told, Told] | None:
    """Say what a stick comes to in cruise and near the stall, with the figures behind it."""
    fast, slow = sticks.of(stick), sticks.of(stick, slow=True)
    if fast is None or slow is None:
        return None
    if stick == "roll":
        return (_rolls(sheet, sticks, fast, short=short), "control.roll_rate"), (
            _rolls(sheet, sticks, slow, short=short), "control.adverse_yaw")  # fmt: skip
    if stick == "pitch":
        if sticks.pull is None:
            return None
        load, radius = turns(sticks, None, high=True) or (1.0, math.inf)
        round_ = f", {_long(sheet, radius)}" + ("" if short else " round") if math.isfinite(radius) else ""
        share = min(sticks.pull.control(sticks.pull.most) / sticks.up, 9.99) if sticks.up > 0 else math.inf
        stalls = f"stalls at {100 * share:.0f} %" if share <= 1 else "does not stall"
        return (f"{load:.1f} g{round_}", "control.turn_radius"), (stalls, "control.pitch_sensitivity")
    if stick == "yaw":
        return (_swings(sheet, sticks, fast, short=short), "control.rudder_sideslip"), (
            _swings(sheet, sticks, slow, short=short), None)  # fmt: skip
    elevator = sheet.store.report.value("flap.elevator")
    if stick == "flap" and elevator is not None:
        left = sheet.store.report.value("flap.roll_left")
        kept = (f"leaves {100 * left:.0f} % of roll", "flap.roll_left") if left is not None else ("", None)
        ends = [angle for _speed, angle in sticks.flapped] or [elevator]
        low, high = (with_unit(abs(value), "angle", sheet.store.units, 1) for value in (min(ends), max(ends)))
        held = _held(sheet, elevator) if low == high else f"elevator {low} to {high}"
        return (f"{held} holds", "flap.elevator"), kept
    return None


def _long(sheet: Sheet, value: float) -> str:
    return with_unit(value, "distance", sheet.store.units, 0)


def _held(sheet: Sheet, elevator: float) -> str:
    way = "down" if elevator > 0 else "up"
    return f"elevator {with_unit(abs(elevator), 'angle', sheet.store.units, 1)} {way}"


def _per_second(sheet: Sheet, sticks: Sticks, one: Answer, helix: float) -> str:
    return with_unit(helix * 2 * one.speed / sticks.span, "turn_rate", sheet.store.units, 0)


def _rolls(sheet: Sheet, sticks: Sticks, one: Answer, *, short: bool) -> str:
    if one.turned is None:
        return "does not settle"
    rate = _per_second(sheet, sticks, one, one.turned.held)
    off = with_unit(abs(one.turned.swing), "angle", sheet.store.units, 0)
    behind = one.turned.swing < 0
    if short:
        return f"{rate}, {'−' if behind else '+'}{off}"
    return f"{rate}, {off} {'adverse' if behind else 'ahead'}"


def _swings(sheet: Sheet, sticks: Sticks, one: Answer, *, short: bool) -> str:
    if one.turned is None:
        return "does not settle"
    off = with_unit(abs(one.turned.swing), "angle", sheet.store.units, 0)
    rate = _per_second(sheet, sticks, one, one.turned.held)
    return f"{off}, {rate}" if short else f"nose {off}, rolls {rate}"


def draw_rates(sheet: Sheet, p: QPainter, area: QRectF) -> float:
    """Draw rates and expo of each stick beside those that suit the purpose and the space it is flown in.

    Parameters
    ----------
    sheet : Sheet
    p : QPainter
    area : QRectF
        Its top left and its width; rows that do not fit are left out.

    Returns
    -------
    float
        Where it ends, px.
    """
    inks, design = theme.inks, sheet.store.design
    sticks, radio = sheet.store.report.results.sticking, design.radio
    y = area.top()
    if sticks is None or radio is None or not radio.rates:
        return y
    if y + 22 > area.bottom():
        return y
    field = with_unit(design.brief.field, "distance", sheet.store.units, 0)
    heading(p, area.left(), y, area.width(), "Rates", f"marks: for {field} of field", strong=False)
    suits = {rate.stick: rate for rate in sticks.proposed.rates}
    y += 22
    bar = _BAR if area.width() >= _NARROW else 0.6 * _BAR
    for rate in radio.rates:
        if y > area.bottom():
            break
        write(p, area.left(), y, NAMES[rate.stick], LABEL, inks.soft)
        left = area.left() + _NAME
        low, high = bar * min(rate.low, 1.0), bar * min(rate.high, 1.0)
        p.fillRect(QRectF(left, y - 9, low, 9), brush_of(inks.predicted, 150))
        p.setPen(pen(inks.predicted, 1))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawRect(QRectF(left, y - 9, high, 9))
        wish = suits.get(rate.stick)
        for share in () if wish is None else (wish.low, wish.high):
            line(p, left + bar * share, y - 12, left + bar * share, y + 3, inks.ink, 1.2)
        told = f"{100 * rate.high:.0f}/{100 * rate.low:.0f} %, expo {100 * rate.expo:.0f}"
        write(p, left + bar + 8, y, fit(told, area.right() - left - bar - 8, LABEL), LABEL, inks.ink)
        y += _ROW
    return y - _ROW
