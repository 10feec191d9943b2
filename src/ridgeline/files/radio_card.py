"""The radio as a card to print and keep with the model: channels, rates, mixes, gyro, and what is tried beforehand."""

from __future__ import annotations

import math
from datetime import date

from ridgeline.design.document import Design
from ridgeline.design.radio import Channel, Radio, StickName
from ridgeline.engine.advice.gyro_rules import TRIED
from ridgeline.engine.controls.sense import FOLLOWS, wanted
from ridgeline.engine.report import Report
from ridgeline.engine.stages.linked import LinkedControl
from ridgeline.errors import DesignError
from ridgeline.files.card import HEAD, CardLine, drawn_card
from ridgeline.typed import short

_TITLES = ("", "Channel", "Turns", "High", "Low", "Trim", "Sticks it takes")
_STICKS: dict[StickName, str] = {
    "roll": "aileron", "pitch": "elevator", "yaw": "rudder", "throttle": "throttle", "flap": "flaps"
}  # fmt: skip
#: A stick to the right, back or up, and which way a control goes.
_HELD: dict[StickName, str] = {
    "roll": "Stick right", "pitch": "Stick back", "yaw": "Rudder right", "throttle": "Throttle up", "flap": "Flaps down"
}  # fmt: skip
_CARE = "Propeller off until the last line. Transmitter on first; link lost is tried last, the throttle closes."


def radio_card(design: Design, report: Report, day: str = "") -> str:
    """Return the card as an SVG of its true size.

    Parameters
    ----------
    design : Design
        With a radio.
    report : Report
        Of the design: travels that are left out are those that give the throws wished.
    day : str
        Date it is printed with; today's where it is left out.

    Returns
    -------
    str

    Raises
    ------
    DesignError
        Where nothing is said of the radio.
    """
    radio = design.radio
    if radio is None or not radio.channels:
        raise DesignError("radio", "nothing is said of it", "a design whose linkages and radio are said")
    lines = [CardLine(design.name, size=HEAD, bold=True, right=day or date.today().isoformat())]
    lines += _channels(radio, report)
    lines += _rates(radio)
    lines += _gyro(radio)
    lines += _tried(design, report)
    return drawn_card(lines)


def _percent(value: float | None) -> str:
    return "100 %" if value is None else f"{100 * value:.0f} %"


def _signed(value: float) -> str:
    return "0 %" if abs(value) < 0.005 else f"{100 * value:+.0f} %".replace("-", "−")


def _channels(radio: Radio, report: Report) -> list[CardLine]:
    rows = report.results.linking.rows
    set_by = {side.channel.id: side.channel for row in rows for side in row.sides if side.channel is not None}
    lines = [CardLine(*_TITLES, bold=True, ruled=True)]
    for k, written in enumerate(radio.channels):
        channel = set_by.get(written.id, written)
        lines.append(
            CardLine(
                f"{k + 1}", short(written.name, 22), "reversed" if written.reversed else "normal",
                _percent(channel.high), _percent(channel.low), _signed(written.sub_trim), _mix(written),
            )
        )  # fmt: skip
    return lines


def _mix(channel: Channel) -> str:
    parts = []
    for part in channel.mix:
        back = "" if part.back is None else f", back {_signed(part.back)}"
        parts.append(f"{_STICKS[part.stick]} {_signed(part.amount)}{back}")
    return ", ".join(parts)


def _rates(radio: Radio) -> list[CardLine]:
    if not radio.rates:
        return []
    lines = [CardLine("", "Rates", "", "High", "Low", "Expo", bold=True, ruled=True)]
    for rate in radio.rates:
        lines.append(
            CardLine("", _STICKS[rate.stick], "", _percent(rate.high), _percent(rate.low), _percent(rate.expo))
        )
    return lines


def _gyro(radio: Radio) -> list[CardLine]:
    gyro = radio.gyro
    if gyro is None or not gyro.axes:
        return []
    lines = [CardLine("", "Gyro", bold=True, ruled=True, right="upside down" if gyro.upside_down else "upright")]
    over = ", ".join(gyro.reversed) or "none"
    lines.append(CardLine("", f"gain {_percent(gyro.gain)}, turned over: {over}"))
    lines += [CardLine("", TRIED[axis], boxed=True) for axis in gyro.axes]
    return lines


def _tried(design: Design, report: Report) -> list[CardLine]:
    """Return what is tried before a flight, as seen from behind: each stick, and what each control has to do."""
    lines = [CardLine("", "Tried, seen from behind", bold=True, ruled=True)]
    for stick, words in _HELD.items():
        told = [done for row in report.results.linking.rows if (done := _does(design, row, stick))]
        if stick == "throttle" and design.power is not None:
            told = ["motor turns, last of all"]
        if told:
            lines.append(CardLine("", f"{words}: {'; '.join(told)}", boxed=True))
    lines.append(CardLine("", _CARE))
    return lines


def _does(design: Design, row: LinkedControl, stick: StickName) -> str:
    if stick not in FOLLOWS[row.control.kind]:
        return ""
    surface = design.surfaces[row.surface]
    found = {side.side: wanted(surface, row.control.kind, side.side, stick) for side in row.sides}
    alike = len(set(found.values())) == 1
    ways: list[str] = []
    for side, way in found.items():
        if way and not (alike and ways):
            hand = "" if alike else {"starboard": "stbd. ", "port": "port "}[side]
            turned = ("right" if way > 0 else "left") if surface.role == "fin" and not surface.mirrored else (
                "down" if way > 0 else "up")  # fmt: skip
            ways.append(f"{hand}{row.control.kind} {turned}")
    angle = row.sides[0].angle(row.linkage, design.radio, {stick: 1.0}) if design.radio is not None else 0.0
    return (", ".join(ways) + f" {math.degrees(abs(angle)):.0f}°") if ways else ""
