"""Radio: the aircraft from behind, moved by the sticks under the hand; what every stick does to every control."""

from __future__ import annotations

import math
from typing import Any, NamedTuple

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QMouseEvent, QPainter

from ridgeline.design.airframe import Surface
from ridgeline.design.axes import cut_at, is_upright
from ridgeline.design.hinges import hinge_share
from ridgeline.design.paths import Change
from ridgeline.design.radio import StickName
from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.drawing import View, draw_aircraft, fitted, panel_point
from ridgeline.desk.paint import arrow_head, fit, heading, line, outline, path_of, pen, rule, state_mark, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.desk.widgets.handles import Handle
from ridgeline.engine.advice.linkage_rules import wrong_ways
from ridgeline.engine.controls.sense import FOLLOWS, wanted, way_of
from ridgeline.engine.sizing.linkages import usual_linkages
from ridgeline.engine.stages.linked import LinkedControl, Linking, Moved
from ridgeline.units import with_unit

#: Share of the height the picture takes, and how wide the right column is, px.
_PICTURE, _COLUMN, _COLUMN_NARROW, _NARROW = 0.36, 300, 232, 700
#: Sticks in the hand: two pads, px; a hand that lets go brings all but the throttle back to the middle.
_PAD, _APART = 96, 24
_ROWS: tuple[tuple[StickName, str], ...] = (
    ("roll", "stick right"), ("pitch", "stick back"), ("yaw", "rudder right"), ("flap", "flaps"),
)  # fmt: skip
_SIDES = {"starboard": "stbd.", "port": "port"}
#: The longest arrow stands for this angle, rad, and is so long, px.
_LARGEST, _LONG = math.radians(30), 20


class Output(NamedTuple):
    """One side of a control, as a column of the table."""

    row: LinkedControl
    side: Moved


class ControlsRadioSheet(Sheet):
    """What the radio makes the controls do."""

    key = "controls.radio"

    def __init__(self, *arguments: Any) -> None:
        super().__init__(*arguments)
        self.sticks: dict[StickName, float] = {"roll": 0.0, "pitch": 0.0, "yaw": 0.0, "throttle": 0.0, "flap": 0.0}
        self.left = Handle(self, "rudder and throttle stick", self._move_left, self._let_go_left)
        self.right = Handle(self, "aileron and elevator stick", self._move_right, self._let_go_right)
        self.usual_button = RuledButton(self, "Link them as usual", bold=True)
        self.usual_button.clicked.connect(self._link_as_usual)
        self.flap_button = RuledButton(self, "Flaps down")
        self.flap_button.clicked.connect(self._turn_flaps)
        self._channels: list[tuple[QRectF, int]] = []

    @property
    def linking(self) -> Linking:
        """All linkages as they are judged."""
        found: Linking = self.store.report.results.linking
        return found

    @property
    def outputs(self) -> list[Output]:
        """Every side of every control, from port to starboard as they are seen from behind."""
        found = [Output(row, side) for row in self.linking.rows for side in row.sides]

        def across(one: Output) -> float:
            surface = self.store.design.surfaces[one.row.surface]
            out = 0.0 if is_upright(surface) and not surface.mirrored else one.row.control.start + 0.01
            return out * (1 if one.side.side == "starboard" else -1)

        return sorted(found, key=across)

    def subtitle(self) -> str:
        design = self.store.design
        if design.radio is None:
            return "what the radio is set to is not said yet"
        wrong = sum(len(wrong_ways(design, row)) for row in self.linking.rows)
        if wrong:
            return "one movement goes the wrong way" if wrong == 1 else f"{wrong} movements go the wrong way"
        return f"{len(design.radio.channels)} channels, every movement the right way"

    def _link_as_usual(self) -> None:
        usual = usual_linkages(self.store.design)
        self.store.edit([Change("linkages", usual.linkages), Change("radio", usual.radio)], "Link them as usual")

    def _turn_flaps(self) -> None:
        self.sticks["flap"] = 0.0 if self.sticks["flap"] else 1.0
        self.flap_button.setText("Flaps up" if self.sticks["flap"] else "Flaps down")
        self.update()

    # -- sticks -------------------------------------------------------------------------------------------------------

    @property
    def _column(self) -> int:
        return _COLUMN_NARROW if self.width() < _NARROW else _COLUMN

    def _pads(self) -> tuple[QRectF, QRectF]:
        right = self.width() - PAD
        top = 84.0
        left = right - self._column
        first = QRectF(left + 0.5 * (self._column - 2 * _PAD - _APART), top, _PAD, _PAD)
        return first, first.translated(_PAD + _APART, 0)

    def move(self, *at: Any, **sticks: float) -> None:
        """Move sticks by name, −1 to 1; without names, the widget itself."""
        if at:
            super().move(*at)
            return
        for name, value in sticks.items():
            self.sticks[name] = min(max(value, -1.0 if name != "throttle" else 0.0), 1.0)  # type: ignore[index]
        self._place_sticks()
        self.update()

    def _place_sticks(self) -> None:
        left, right = self._pads()
        self.left.place(left.center().x() + 0.5 * _PAD * self.sticks["yaw"],
                        left.bottom() - _PAD * self.sticks["throttle"])  # fmt: skip
        self.right.place(right.center().x() + 0.5 * _PAD * self.sticks["roll"],
                         right.center().y() + 0.5 * _PAD * self.sticks["pitch"])  # fmt: skip

    def _move_left(self, x: float, y: float) -> None:
        pad = self._pads()[0]
        self.move(yaw=(x - pad.center().x()) / (0.5 * _PAD), throttle=(pad.bottom() - y) / _PAD)

    def _move_right(self, x: float, y: float) -> None:
        pad = self._pads()[1]
        self.move(roll=(x - pad.center().x()) / (0.5 * _PAD), pitch=(y - pad.center().y()) / (0.5 * _PAD))

    def _let_go_left(self) -> None:
        self.move(yaw=0.0)

    def _let_go_right(self) -> None:
        self.move(roll=0.0, pitch=0.0)

    # -- dimensions ---------------------------------------------------------------------------------------------------

    def selection(self) -> Selection:
        radio = self.store.design.radio
        if radio is None or self.empty:
            return Selection("", ())
        words = {"roll": "Aileron", "pitch": "Elevator", "yaw": "Rudder", "throttle": "Throttle", "flap": "Flaps"}
        rows = []
        for k, rate in enumerate(radio.rates):
            base, name = f"radio.rates[{k}]", words[rate.stick]
            rows += [Dimension(f"{name}: high rate", f"{base}.high"), Dimension(f"{name}: low rate", f"{base}.low"),
                     Dimension(f"{name}: expo", f"{base}.expo")]  # fmt: skip
        for k, channel in enumerate(radio.channels):
            if channel.mix and channel.mix[0].stick != "throttle":
                rows.append(Dimension(f"{k + 1} {channel.name}: trim", f"radio.channels[{k}].sub_trim"))
        return Selection("radio", tuple(rows))

    # -- drawing ------------------------------------------------------------------------------------------------------

    def arrange(self) -> None:
        said = self.store.design.radio is not None and bool(self.linking.rows)
        self.usual_button.setVisible(not said and bool(self.linking.bare or self.linking.rows))
        self.usual_button.setGeometry(PAD, 96, 200, 30)
        for handle in (self.left, self.right):
            handle.setVisible(said)
        self._place_sticks()
        first, second = self._pads()
        flaps = any("flap" in FOLLOWS[row.control.kind] for row in self.linking.rows)
        self.flap_button.setGeometry(int(first.left()), int(second.bottom() + 26), int(2 * _PAD + _APART), 24)
        self.flap_button.setVisible(said and flaps)

    def draw(self, p: QPainter) -> None:
        self._channels = []
        radio = self.store.design.radio
        wide = self.width() - 3 * PAD - self._column
        if radio is None or not self.linking.rows:
            words = "Say how the servos move the controls: what every stick does is shown once it is said."
            write(p, PAD, 72, fit(words, self.width() - 2 * PAD), VALUE, theme.inks.soft)
            return
        heading(p, PAD, 52, wide, "From behind", "as the sticks stand; arrows to size below")
        tall = _PICTURE * (self.height() - 66)
        self._draw_behind(p, QRectF(PAD, 64, wide, tall))
        self._draw_sticks(p)
        self._draw_table(p, QRectF(PAD, 64 + tall + 14, wide, self.height() - 64 - tall - 20))
        self._draw_channels(p)

    def _draw_behind(self, p: QPainter, room: QRectF) -> None:
        """Draw the aircraft from behind with its controls as the sticks have them."""
        inks, design, radio = theme.inks, self.store.design, self.store.design.radio
        assert radio is not None
        view = fitted(design, "front", room.adjusted(10, 8, -10, -8))
        draw_aircraft(p, design, view, fill=inks.paper)
        for one in self.outputs:
            angle = one.side.angle(one.row.linkage, radio, self.sticks)
            path = path_of(_turned(view, design.surfaces[one.row.surface], one, angle))
            moved = abs(angle) > math.radians(0.5)
            outline(p, path, inks.live if moved else inks.ink, 1.6 if moved else 1.0, inks.wash if moved else inks.fill)

    def _draw_sticks(self, p: QPainter) -> None:
        inks = theme.inks
        first, second = self._pads()
        heading(p, self.width() - PAD - self._column, 52, self._column, "Sticks", "drag, or arrow keys")
        for pad, across, up in ((first, "rudder", "throttle"), (second, "aileron", "elevator")):
            p.setPen(pen(inks.hair, 1))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawRect(pad)
            line(p, pad.center().x(), pad.top(), pad.center().x(), pad.bottom(), inks.hair)
            line(p, pad.left(), pad.center().y(), pad.right(), pad.center().y(), inks.hair)
            write(p, pad.center().x(), pad.bottom() + 14, f"{across}, {up}", LABEL, inks.soft, align="centre")

    def _draw_table(self, p: QPainter, area: QRectF) -> None:
        """Draw what each stick at full does to each control, as arrows; what goes wrong with a stop's mark."""
        inks, design, units = theme.inks, self.store.design, self.store.units
        radio, outputs = design.radio, self.outputs
        assert radio is not None
        sticks = [(stick, words) for stick, words in _ROWS
                  if any(stick in FOLLOWS[one.row.control.kind] for one in outputs)]  # fmt: skip
        first = area.left() + (118 if area.width() > 420 else 88)
        each = (area.right() - first) / max(len(outputs), 1)
        y = area.top() + 12
        for k, one in enumerate(outputs):
            x = first + (k + 0.5) * each
            surface = design.surfaces[one.row.surface]
            side = _SIDES[one.side.side] if surface.mirrored else ""
            write(p, x, y, fit(side or surface.name, each - 4, LABEL), LABEL, inks.soft, align="centre")
            write(p, x, y + 14, fit(one.row.control.kind, each - 4, LABEL), LABEL, inks.ink, align="centre")
        y += 26
        rule(p, area.left(), y, area.width(), strong=True)
        tall = min(54.0, (area.bottom() - y - 4) / max(len(sticks), 1))
        for stick, words in sticks:
            here = abs(self.sticks[stick]) > 0.02
            if here:
                p.fillRect(QRectF(area.left(), y + 1, area.width(), tall - 1), inks.wash)
            middle = y + 0.5 * tall
            write(p, area.left() + 6, middle + 4, words, VALUE, inks.live if here else inks.ink, bold=here)
            for k, one in enumerate(outputs):
                x = first + (k + 0.5) * each
                surface = design.surfaces[one.row.surface]
                angle = one.side.angle(one.row.linkage, radio, {stick: 1.0})
                way = way_of(angle)
                right = wanted(surface, one.row.control.kind, one.side.side, stick)
                if not way and not right:
                    write(p, x, middle + 4, "–", LABEL, inks.soft, align="centre")
                    continue
                wrong = way != right
                ink = inks.stop if wrong else inks.ink
                self._draw_arrow(p, QPointF(x - 12, middle), angle, ink, level=is_upright(surface))
                write(p, x, middle + 4, with_unit(abs(angle), "angle", units, 0), VALUE, ink, bold=wrong)
                if wrong:
                    state_mark(p, x + 4, middle + 14, "stop")
            y += tall
            rule(p, area.left(), y - 1, area.width())

    def _draw_arrow(self, p: QPainter, at: QPointF, angle: float, ink: QColor, *, level: bool) -> None:
        """Draw which way and how far a trailing edge goes: up or down, of what stands to port or starboard."""
        way = way_of(angle)
        long = way * max(_LONG * min(abs(angle) / _LARGEST, 1.0), 6.0)
        if not way:
            return
        if level:
            line(p, at.x() - 0.5 * long, at.y(), at.x() + 0.5 * long, at.y(), ink, 2)
            arrow_head(p, at.x() + 0.5 * long + 2 * way, at.y(), way, 0, ink)
            return
        line(p, at.x() - 6, at.y(), at.x() + 6, at.y(), theme.inks.hair)
        line(p, at.x(), at.y(), at.x(), at.y() + long, ink, 2)
        arrow_head(p, at.x(), at.y() + long + 2 * way, 0, way, ink)

    def _draw_channels(self, p: QPainter) -> None:
        """List the channels: name, travel either way as a bar, whether it is reversed; a press turns it over."""
        inks, units, radio = theme.inks, self.store.units, self.store.design.radio
        assert radio is not None
        left, top = self.width() - PAD - self._column, self._pads()[0].bottom() + 66
        heading(p, left, top, self._column, "Channels", "press to reverse", strong=False)
        set_by = {side.channel.id: side.channel for row in self.linking.rows for side in row.sides
                  if side.channel is not None}  # fmt: skip
        y = top + 26
        for k, written in enumerate(radio.channels):
            if y > self.height() - 8:
                break
            channel = set_by.get(written.id, written)
            rect = QRectF(left, y - 15, self._column, 22)
            self._channels.append((rect, k))
            write(p, left, y, f"{k + 1}", LABEL, inks.soft)
            write(p, left + 16, y, fit(written.name, self._column - 172, VALUE), VALUE, inks.ink)
            middle = left + self._column - 104
            line(p, middle, y - 11, middle, y + 3, inks.hair)
            for travel, way in ((channel.high, 1), (channel.low, -1)):
                reach = 44 * min(travel if travel is not None else 1.0, 1.25)
                p.fillRect(QRectF(middle if way > 0 else middle - reach, y - 8, reach, 8), inks.fill)
            least = min(channel.high or 1.0, channel.low or 1.0)
            write(p, middle, y, with_unit(least, "fraction", units, 0), LABEL, inks.ink, align="centre", halo=True)
            told = "reversed" if written.reversed else "normal"
            write(p, left + self._column, y, told, LABEL, inks.live if written.reversed else inks.soft, align="right")
            rule(p, left, y + 6, self._column)
            y += 22

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        if event.button() != Qt.MouseButton.LeftButton or self.store.design.radio is None:
            return
        hit = next((k for rect, k in self._channels if rect.contains(event.position())), None)
        if hit is not None:
            channel = self.store.design.radio.channels[hit]
            self.store.put(f"radio.channels[{hit}].reversed", not channel.reversed, f"Reverse {channel.name}")


def _turned(view: View, surface: Surface, one: Output, angle: float) -> list[tuple[float, float]]:
    """Return a control from behind, its trailing edge where its angle puts it, px."""
    side = 1 if one.side.side == "starboard" else -1
    control = one.row.control
    ends: list[tuple[tuple[float, float], tuple[float, float]]] = []
    for out in np.linspace(control.start, control.end, 7):
        cut = cut_at(surface, float(out))
        behind = float(hinge_share(surface, control, [float(out)])[0]) * cut.chord
        hinge = panel_point(surface, float(out), cut.x + cut.chord - behind, cut.z, side)
        edge = panel_point(surface, float(out), cut.x + cut.chord, cut.z - behind * math.sin(angle), side)
        ends.append((view.at(hinge), view.at(edge)))
    return [first for first, _second in ends] + [second for _first, second in reversed(ends)]
