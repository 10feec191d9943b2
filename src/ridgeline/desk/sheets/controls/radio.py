"""Radio: the aircraft from behind, moved by the sticks under the hand; what every stick does to every control."""

from __future__ import annotations

from datetime import date
from typing import Any

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter

from ridgeline.design.paths import Change
from ridgeline.design.radio import StickName
from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.paint import fit, heading, line, pen, rule, width_of, wrap, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.controls.behind import draw_behind
from ridgeline.desk.sheets.controls.gyro_rows import gyro_rows
from ridgeline.desk.sheets.controls.stick_table import Cell, at_rate, counted, draw_table
from ridgeline.desk.sheets.controls.walking import Question, answered, further, questions
from ridgeline.desk.sheets.controls.what_sticks_do import draw_answers, draw_rates
from ridgeline.desk.theme import HEADING, LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.desk.widgets.handles import Handle
from ridgeline.engine.advice.benched import LOST, WALKED, Benched, benched, noted, stands
from ridgeline.engine.advice.linkage_rules import wrong_ways
from ridgeline.engine.advice.rate_rules import set_rates
from ridgeline.engine.controls.sense import FOLLOWS
from ridgeline.engine.sizing.linkages import usual_linkages
from ridgeline.engine.stages.linked import Linking
from ridgeline.units import with_unit

#: Share of the height the picture takes, and how wide the right column is, px.
_PICTURE, _COLUMN, _COLUMN_NARROW, _NARROW = 0.32, 300, 232, 700
#: Sticks in the hand: two pads, px; a hand that lets go brings all but the throttle back to the middle.
_PAD, _APART = 96, 24
#: The strip between picture and table, px: in a walk it has a row of answers.
_STRIP, _STRIP_WALKING = 30, 56
_CARE = "Propeller off, clear of its disc. Nose away from you, transmitter on first; link lost is tried last."
_ANSWER_KEYS = {
    Qt.Key.Key_Up: -1, Qt.Key.Key_Left: -1, Qt.Key.Key_Down: 1, Qt.Key.Key_Right: 1, Qt.Key.Key_0: 0,
    Qt.Key.Key_Space: 0,
}  # fmt: skip


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
        self.low = False
        self.rate_button = RuledButton(self, "Low rates")
        self.rate_button.clicked.connect(self._turn_rates)
        self.walk_button = RuledButton(self, "Walk round it")
        self.walk_button.clicked.connect(self._turn_walk)
        self.rates_button = RuledButton(self, "As this field asks")
        self.rates_button.clicked.connect(self._set_rates)
        self.answer_buttons = [RuledButton(self, "") for _ in range(3)]
        for k, button in enumerate(self.answer_buttons):
            button.clicked.connect(lambda _=False, k=k: self._press_answer(k))
        self._channels: list[tuple[QRectF, int]] = []
        self._cells: list[tuple[QRectF, Cell]] = []
        #: What is still asked in a walk, the next first; None where nobody walks.
        self.asking: list[Question] | None = None

    @property
    def linking(self) -> Linking:
        """All linkages as they are judged."""
        found: Linking = self.store.report.results.linking
        return found

    @property
    def here(self) -> Benched | None:
        """Everything that channels move, from port to starboard as it is seen from behind."""
        return benched(self.store.design, self.linking)

    def subtitle(self) -> str:
        design = self.store.design
        if design.radio is None:
            return "what the radio is set to is not said yet"
        wrong = sum(len(wrong_ways(design, row)) for row in self.linking.rows)
        if wrong:
            return "one movement goes the wrong way" if wrong == 1 else f"{wrong} movements go the wrong way"
        here = self.here
        if here is None:
            return "no channel moves anything yet"
        known, every, _day = counted(design, here)
        return f"every movement the right way as it is set; {known} of {every} seen on the bench"

    def _link_as_usual(self) -> None:
        usual = usual_linkages(self.store.design)
        self.store.edit([Change("linkages", usual.linkages), Change("radio", usual.radio)], "Link them as usual")

    def _turn_flaps(self) -> None:
        self.sticks["flap"] = 0.0 if self.sticks["flap"] else 1.0
        self.flap_button.say("Flaps up" if self.sticks["flap"] else "Flaps down")
        self.update()

    def _turn_rates(self) -> None:
        self.low = not self.low
        self.rate_button.say("High rates" if self.low else "Low rates")
        self.update()

    def _set_rates(self) -> None:
        change = set_rates(self.store.design, self.store.report)
        if change is not None:
            self.store.edit([change], "Set the rates")

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
        return Selection("radio", (*rows, *gyro_rows(self.store)))

    # -- drawing ------------------------------------------------------------------------------------------------------

    def arrange(self) -> None:
        said = self.store.design.radio is not None and bool(self.linking.rows)
        self.usual_button.setVisible(not said and bool(self.linking.bare or self.linking.rows))
        self.usual_button.setGeometry(PAD, 96, 200, 30)
        for handle in (self.left, self.right):
            handle.setVisible(said)
        self.rates_button.setVisible(said and set_rates(self.store.design, self.store.report) is not None)
        self._arrange_walk(said=said)
        self._place_sticks()
        first, second = self._pads()
        flaps = any("flap" in FOLLOWS[row.control.kind] for row in self.linking.rows)
        self.flap_button.setGeometry(int(first.left()), int(second.bottom() + 26), _PAD, 24)
        self.rate_button.setGeometry(int(second.left()), int(second.bottom() + 26), _PAD, 24)
        radio = self.store.design.radio
        self.rate_button.setVisible(said and radio is not None and bool(radio.rates))
        self.flap_button.setVisible(said and flaps)

    def _arrange_walk(self, *, said: bool) -> None:
        if self.asking and self.here is None:
            self.asking = None
        wide = int(self.width() - 3 * PAD - self._column)
        y = int(64 + self._picture)
        self.walk_button.say("End" if self.asking else "Walk round it")
        across = 56 if self.asking else 104
        self.walk_button.setGeometry(PAD + wide - across, y + (27 if self.asking else 0), across, 24)
        known, every, _day = (0, 1, "") if self.here is None else counted(self.store.design, self.here)
        self.walk_button.setVisible(said and (bool(self.asking) or known < every))
        answers = self.asking[0].answers if self.asking else ()
        each = min(130, (wide - 56 - 8 * len(answers)) // max(len(answers), 1))
        for k, button in enumerate(self.answer_buttons):
            button.setVisible(said and k < len(answers))
            if k < len(answers):
                button.say(answers[k][0])
                button.setGeometry(PAD + k * (each + 8), y + 27, each, 24)

    def draw(self, p: QPainter) -> None:
        self._channels, self._cells = [], []
        radio, here = self.store.design.radio, self.here
        wide = self.width() - 3 * PAD - self._column
        if radio is None or here is None:
            words = "Say how the servos move the controls: what every stick does is shown once it is said."
            write(p, PAD, 72, fit(words, self.width() - 2 * PAD), VALUE, theme.inks.soft)
            return
        heading(p, PAD, 52, wide, "From behind", "low rates" if self.low else "as the sticks stand")
        # What is asked is not shown: the answer is the aircraft's.
        asked = self.asking[0].cell if self.asking else None
        room = QRectF(PAD, 64, wide, self._picture)
        rated = at_rate(radio, high=not self.low or asked is not None)
        sticks = {} if asked else self.sticks
        draw_behind(p, self.store.design, here, rated, sticks, room, -1 if asked is None else asked.output)
        self._draw_sticks(p)
        self._draw_strip(p, wide, here)
        top = 64 + self._picture + self._strip + 4
        told = wrap(_CARE, wide, LABEL)
        table = QRectF(PAD, top, wide, self.height() - top - 12 - 14 * len(told))
        self._cells = draw_table(self, p, table, here, {} if self.asking else self.sticks, asked, rated)
        for k, words in enumerate(reversed(told)):
            write(p, PAD, self.height() - 8 - 14 * k, words, LABEL, theme.inks.soft)
        self._draw_under(p, self._draw_channels(p))

    def _draw_under(self, p: QPainter, y: float) -> None:
        """Draw what the sticks do and the rates under the channels, as far as there is room."""
        left, end = self.width() - PAD - self._column, self.height() - 12.0
        y = draw_answers(self, p, QRectF(left, y + 26, self._column, end - y - 26))
        rates = self.rates_button.isVisible()
        top = y + 28
        y = draw_rates(self, p, QRectF(left, top, self._column, end - top - (30 if rates else 0)))
        self.rates_button.setGeometry(int(left), int(min(y + 14, self.height() - 34)), 150, 24)

    @property
    def _picture(self) -> float:
        return _PICTURE * (self.height() - 66)

    @property
    def _strip(self) -> int:
        return _STRIP_WALKING if self.asking else _STRIP

    def _draw_strip(self, p: QPainter, wide: float, here: Benched) -> None:
        """Say how far the walk is, or ask the next question."""
        y = 64 + self._picture + 16
        if self.asking:
            words = self.asking[0].words
            size = HEADING if width_of(words, HEADING, bold=True) <= wide else LABEL
            write(p, PAD, y, fit(words, wide, size, bold=True), size, theme.inks.live, bold=True)
            return
        known, every, day = counted(self.store.design, here)
        words = f"{known} of {every} movements seen" + (f", last on {day}" if day else " on the bench")
        write(p, PAD, y, fit(words, wide - self.walk_button.width() - 12, VALUE), VALUE, theme.inks.soft)

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

    def _draw_channels(self, p: QPainter) -> float:
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
        return y - 22

    # -- the walk -----------------------------------------------------------------------------------------------------

    def _turn_walk(self) -> None:
        here = self.here
        if self.asking is not None or here is None:
            self.asking = None
        else:
            self.asking = list(questions(self.store.design, here)) or None
        self._follow_walk()

    def _follow_walk(self) -> None:
        """Put the sticks in the hand where the question has them, and the answers under it."""
        stick = self.asking[0].cell.stick if self.asking else ""
        for name in self.sticks:
            self.sticks[name] = 1.0 if name == stick else 0.0
        self._place_sticks()
        self.refresh()
        self.setFocus()

    def _press_answer(self, k: int) -> None:
        if self.asking and k < len(self.asking[0].answers):
            self.answer(self.asking[0].answers[k][1])

    def answer(self, way: int) -> None:
        """Write down what the output that is asked about did: 1 down, to starboard or forward, −1, or 0."""
        here = self.here
        if not self.asking or here is None:
            return
        asked = self.asking.pop(0)
        if asked.cell.output < 0 and way:
            self.asking[:0] = further(here, asked.cell.stick)
        changes = answered(self.store.design, here, asked, way, date.today().isoformat())
        self.asking = self.asking or None
        if changes:
            self.store.edit(changes, "What was seen", merge="walk")
        self._follow_walk()

    def _tick(self, cell: Cell) -> None:
        """Tick a movement as seen to be right, or take the tick away."""
        design, here = self.store.design, self.here
        if here is None:
            return
        one = here.outputs[cell.output]
        now = stands(design, one, cell.stick)
        right = 0 if cell.stick == LOST else int(here.wanted[cell.output, WALKED.index(cell.stick)])
        way = right if now is None else None
        self.store.edit([noted(design, one, cell.stick, way, date.today().isoformat())], "What was seen")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        key = Qt.Key(event.key())
        if self.asking and key == Qt.Key.Key_Escape:
            self._turn_walk()
        elif self.asking and _ANSWER_KEYS.get(key) in [way for _words, way in self.asking[0].answers]:
            self.answer(_ANSWER_KEYS[key])
        else:
            super().keyPressEvent(event)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        if event.button() != Qt.MouseButton.LeftButton or self.store.design.radio is None:
            return
        hit = next((k for rect, k in self._channels if rect.contains(event.position())), None)
        if hit is not None:
            channel = self.store.design.radio.channels[hit]
            self.store.put(f"radio.channels[{hit}].reversed", not channel.reversed, f"Reverse {channel.name}")
        cell = next((cell for rect, cell in self._cells if rect.contains(event.position())), None)
        here = self.here
        if cell is not None and here is not None and not self.asking:
            asks = {(k, stick) for k, stick, _way in here.asks()}
            if cell in asks or stands(self.store.design, here.outputs[cell.output], cell.stick) is not None:
                self._tick(cell)
