"""The radio as a card to print and keep with the model: channels, rates, mixes, gyro, and what is tried beforehand."""

from __future__ import annotations

import math
import textwrap
from datetime import date
from xml.sax.saxutils import escape

from ridgeline.design.document import Design
from ridgeline.design.radio import Channel, Radio, StickName
from ridgeline.engine.advice.gyro_rules import TRIED
from ridgeline.engine.controls.sense import FOLLOWS, wanted
from ridgeline.engine.report import Report
from ridgeline.engine.stages.linked import LinkedControl
from ridgeline.errors import DesignError
from ridgeline.typed import short

#: A card as wide as a postcard; rows, columns and margins, mm; and letters, mm.
_WIDE, _ROW, _EDGE, _SIZE, _HEAD = 148.0, 5.6, 8.0, 3.2, 5.2
_COLUMNS = (0.0, 6.0, 40.0, 58.0, 71.0, 84.0, 96.0)
_TITLES = ("", "Channel", "Turns", "High", "Low", "Trim", "Sticks it takes")
#: A letter is about so wide for its size: what would run off is broken.
_LETTER = 0.60
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
    lines = [_Line(design.name, size=_HEAD, bold=True, right=day or date.today().isoformat())]
    lines += _channels(radio, report)
    lines += _rates(radio)
    lines += _gyro(radio)
    lines += _tried(design, report)
    return _drawn(lines)


class _Line:
    """A row of a card: cells at columns, or words across it; ruled where it heads others."""

    def __init__(
        self, *cells: str, size: float = _SIZE, bold: bool = False, right: str = "", ruled: bool = False,
        boxed: bool = False,
    ) -> None:  # fmt: skip
        self.cells, self.size, self.bold = cells, size, bold
        self.right, self.ruled, self.boxed = right, ruled, boxed


def _percent(value: float | None) -> str:
    return "100 %" if value is None else f"{100 * value:.0f} %"


def _signed(value: float) -> str:
    return "0 %" if abs(value) < 0.005 else f"{100 * value:+.0f} %".replace("-", "−")


def _channels(radio: Radio, report: Report) -> list[_Line]:
    rows = report.results.linking.rows
    set_by = {side.channel.id: side.channel for row in rows for side in row.sides if side.channel is not None}
    lines = [_Line(*_TITLES, bold=True, ruled=True)]
    for k, written in enumerate(radio.channels):
        channel = set_by.get(written.id, written)
        lines.append(
            _Line(
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


def _rates(radio: Radio) -> list[_Line]:
    if not radio.rates:
        return []
    lines = [_Line("", "Rates", "", "High", "Low", "Expo", bold=True, ruled=True)]
    for rate in radio.rates:
        lines.append(_Line("", _STICKS[rate.stick], "", _percent(rate.high), _percent(rate.low), _percent(rate.expo)))
    return lines


def _gyro(radio: Radio) -> list[_Line]:
    gyro = radio.gyro
    if gyro is None or not gyro.axes:
        return []
    lines = [_Line("", "Gyro", bold=True, ruled=True, right="upside down" if gyro.upside_down else "upright")]
    over = ", ".join(gyro.reversed) or "none"
    lines.append(_Line("", f"gain {_percent(gyro.gain)}, turned over: {over}"))
    lines += [_Line("", TRIED[axis], boxed=True) for axis in gyro.axes]
    return lines


def _tried(design: Design, report: Report) -> list[_Line]:
    """Return what is tried before a flight, as seen from behind: each stick, and what each control has to do."""
    lines = [_Line("", "Tried, seen from behind", bold=True, ruled=True)]
    for stick, words in _HELD.items():
        told = [done for row in report.results.linking.rows if (done := _does(design, row, stick))]
        if stick == "throttle" and design.power is not None:
            told = ["motor turns, last of all"]
        if told:
            lines.append(_Line("", f"{words}: {'; '.join(told)}", boxed=True))
    lines.append(_Line("", _CARE))
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


def _drawn(lines: list[_Line]) -> str:
    """Draw rows as an SVG in millimetres; words too long for their place go on below it."""
    y, body = _EDGE + _HEAD, []
    for line in lines:
        deep = 1
        weight = ' font-weight="bold"' if line.bold else ""
        if line.ruled:
            y += 0.5 * _ROW
            body.append(f'<path d="M{_EDGE:.1f} {y + 1.4:.1f}H{_WIDE - _EDGE:.1f}" stroke="#000" stroke-width="0.2"/>')
        if line.boxed:
            body.append(f'<rect x="{_EDGE:.1f}" y="{y - 2.8:.1f}" width="3" height="3" fill="none" stroke="#000" '
                        f'stroke-width="0.25"/>')  # fmt: skip
        for k, words in enumerate(line.cells):
            if not words:
                continue
            x, ends = _EDGE + _COLUMNS[k], k == len(line.cells) - 1
            room = _WIDE - _EDGE - x if ends else _COLUMNS[k + 1] - _COLUMNS[k] - 1.0
            rows = textwrap.wrap(words, max(int(room / (_LETTER * line.size)), 4)) if ends else [words]
            for n, part in enumerate(rows):
                body.append(f'<text x="{x:.1f}" y="{y + 0.8 * n * _ROW:.1f}" font-size="{line.size}"{weight}>'
                            f"{escape(part)}</text>")  # fmt: skip
            deep = max(deep, len(rows))
        if line.right:
            body.append(f'<text x="{_WIDE - _EDGE:.1f}" y="{y:.1f}" font-size="{_SIZE}" text-anchor="end">'
                        f"{escape(line.right)}</text>")  # fmt: skip
        y += 0.8 * (deep - 1) * _ROW + (_ROW if line.size == _SIZE else _HEAD + 1.0)
    tall = y + _EDGE - _ROW
    head = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{_WIDE:.1f}mm" height="{tall:.1f}mm" '
        f'viewBox="0 0 {_WIDE:.1f} {tall:.1f}" font-family="sans-serif">'
    )
    frame = (f'<rect x="1" y="1" width="{_WIDE - 2:.1f}" height="{tall - 2:.1f}" fill="#fff" stroke="#000" '
             f'stroke-width="0.3"/>')  # fmt: skip
    return "\n".join([head, frame, *body, "</svg>"]) + "\n"
