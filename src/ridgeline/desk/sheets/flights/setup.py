"""Setup: the list line by line, what is read of each, where on the aircraft it is looked at, and the card to print."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter

from ridgeline.design.arms import arm_at
from ridgeline.design.axes import all_discs
from ridgeline.design.document import Design
from ridgeline.desk.absent_rows import absent_rows
from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.drawing import View, control_points, draw_aircraft, extent, path_in, sides_of
from ridgeline.desk.exporting import ask_export
from ridgeline.desk.paint import brush_of, cg_mark, fit, heading, line, pen, wrap, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.flights.setup_rows import SetupList, put_line, turn_line
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.version_edits import today
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.desk.widgets.fields import Entry
from ridgeline.engine.advice.cautions import CAUTIONS
from ridgeline.engine.advice.setup_list import Line, absent_now, state_now
from ridgeline.engine.advice.signing import signed_of, state_of
from ridgeline.errors import DesignError
from ridgeline.typed import parse
from ridgeline.units import with_unit

#: Share of the width the list takes.
_LIST = 0.46
#: How a line is done, a sentence each.
_HOW: dict[str, str] = {
    "plugs": "Plus to plus at every plug, before the pack goes near it.",
    "directions": "Walk round the controls on the Radio sheet: every stick, every surface.",
    "centred": "Trims at zero, arms square to their rods, surfaces in line with their neutral marks.",
    "throw_up": "Hold the stick at its end; read the angle, or millimetres at the trailing edge.",
    "throw_down": "Hold the stick at its end; read the angle, or millimetres at the trailing edge.",
    "gyro": "Turn the model about each axis by hand: the surface must move against the turn.",
    "motor": "Propeller off: throttle up a little, look from behind.",
    "sweep": "Propeller off: throttle slowly to full and back. A stutter is timing or a plug.",
    "switches": "Flap and rate switches as they are when it is launched.",
    "failsafe": "Propeller off: switch the transmitter off. The motor stops, surfaces rest.",
    "range": "Thirty paces off, at the radio's reduced power: no twitch with the motor running.",
    "balance": "On two fingers at the marks, the pack in, what is not on yet said in the margin.",
    "sideways": "Hang it by nose and tail: how far must a finger move to level it?",
    "screws": "The short screw in the servo arm: a long one strips its gears. Clevises closed.",
    "fastened": "Bands, bolts and pins at their number, none cracked.",
    "pack": "Strapped so that it cannot slide; full, not puffed. Read the volts.",
    "timer": "Minutes on the transmitter: about half of what is reckoned, at first.",
    "wind": "Read it, or judge it: leaves move at 3 m/s, twigs at 5.",
    "field": "Allowed to fly here, space clear, people behind you, someone to look out.",
    "propeller": "Bolted tight, the right way round. From here stay clear of its disc.",
    "full": "Held by hand or tied, five seconds at full throttle: read the current.",
    "signed": "All of it done today: the pilot signs.",
}


class Reading(Entry):
    """What is read of the line that is chosen; Enter signs it."""

    def __init__(self, sheet: FlightsSetupSheet) -> None:
        super().__init__(sheet, "what was read")
        self._sheet = sheet
        self.refresh()

    def current(self) -> str:
        line = self._sheet.line
        last = None if line is None else signed_of(self._sheet.store.design, line)
        if line is None or last is None or last.read is None:
            return ""
        return with_unit(last.read, line.quantity, self._sheet.store.units)

    def accept(self, text: str) -> None:
        line, store = self._sheet.line, self._sheet.store
        if line is None or not text.strip():
            return
        arm = arm_at(store.design, self._sheet.route(line))
        value = float(parse(text, line.quantity, path=line.words, bare=store.unit_of(line.quantity), arm=arm))
        if not put_line(store, line, value):
            raise DesignError(line.words, text, "its turn in the list")


class FlightsSetupSheet(Sheet):
    """The setup list."""

    key = "flights.setup"

    def __init__(self, *arguments: Any) -> None:
        super().__init__(*arguments)
        self.list = SetupList(self, self.store, together=False)
        self.list.turned.connect(self.turn)
        self.list.fitted.connect(lambda row: self.turn(row))
        self.list.picked.connect(self._picked)
        self.reading = Reading(self)
        self.right_button = RuledButton(self, "Right: sign it", bold=True)
        self.right_button.clicked.connect(lambda: self.turn(self.list.chosen))
        self.wrong_button = RuledButton(self, "Not right")
        self.wrong_button.clicked.connect(self.mark_wrong)
        self.card_button = RuledButton(self, "Card to print…")
        self.card_button.clicked.connect(lambda: ask_export(self, self.store, "setup_card"))

    @property
    def line(self) -> Line | None:
        """The line that is chosen; the first one where none is."""
        rows = self.list.rows
        if not rows:
            return None
        chosen: Line = rows[max(self.list.chosen, 0)].lines[0]
        return chosen

    def route(self, line: Line) -> tuple[str | int, ...]:
        """Return where in the document the throw of a line stands, so that millimetres may be typed for it."""
        for i, surface in enumerate(self.store.design.surfaces):
            for j, control in enumerate(surface.controls):
                if control.id == line.of:
                    return "surfaces", i, "controls", j, "up" if line.key == "throw_up" else "down"
        return ("setup",)

    def subtitle(self) -> str:
        if self.empty:
            return ""
        states = [row.state for row in self.list.rows]
        again = states.count("again")
        told = f"{states.count('done')} of {len(states)} done"
        return f"{told}; {again} to be done again since something changed" if again else f"{told}, in this order"

    def turn(self, row: int) -> None:
        """Sign a line, or take that back; where it is read, put the hand into its field."""
        if not 0 <= row < len(self.list.rows):
            return
        self.list.choose(row)
        line = self.list.rows[row].lines[0]
        if line.walked is not None:
            self.wants.emit("controls.radio")
        elif not turn_line(self.store, line) and line.quantity:
            self.reading.setFocus()

    def mark_wrong(self) -> None:
        """Write down that a line was looked at and is not right."""
        if self.line is not None and self.line.walked is None:
            put_line(self.store, self.line, good=False)

    def _picked(self, _row: int) -> None:
        self.refresh()
        self.store.selected.emit()

    def selection(self) -> Selection:
        if self.empty:
            return Selection("", ())
        rows = [
            Dimension("Pilot", "log_book.pilot", words=True),
            Dimension("A click of a trim", "log_book.click"),
        ]
        line = self.line
        if line is None or line.key not in ("balance", "sideways"):
            return Selection("setup", tuple(rows))
        return Selection("on while it is balanced", absent_rows(self.store))

    # -- drawing ------------------------------------------------------------------------------------------------------

    def arrange(self) -> None:
        wide = int(_LIST * self.width())
        care = len(wrap(CAUTIONS["flights"], wide - 2 * PAD, LABEL))
        self.list.setGeometry(PAD, 64, wide - PAD, self.height() - 64 - 16 - 14 * care)
        self.list.renew()
        left, room = wide + PAD + 10, self.width() - wide - 2 * PAD - 10
        self.reading.setGeometry(left + 70, 126, 110, 22)
        self.right_button.setGeometry(left, 160, 126, 26)
        self.wrong_button.setGeometry(left + 134, 161, 90, 24)
        self.card_button.setGeometry(left + room - 120, self.height() - 34, 120, 24)
        line = self.line
        quantity, walked = line is not None and bool(line.quantity), line is not None and line.walked is not None
        state = None if line is None else state_of(self.store.design, line, today())
        self.reading.setVisible(quantity)
        self.reading.refresh()
        self.right_button.say("Walk round it" if walked else "Take back" if state == "done" else "Right: sign it")
        self.right_button.setVisible(not quantity or state == "done")
        self.wrong_button.setVisible(not walked and state != "done")
        if quantity and state != "done":
            self.wrong_button.move(left, 161)
        self.follow(None if self.line is None else self.line.place)

    def draw(self, p: QPainter) -> None:
        inks, wide = theme.inks, int(_LIST * self.width())
        done = sum(row.state == "done" for row in self.list.rows)
        heading(p, PAD, 52, wide - PAD, "Setup", f"{done} of {len(self.list.rows)}, {today()}")
        told = wrap(CAUTIONS["flights"], wide - PAD, LABEL)
        for k, words in enumerate(reversed(told)):
            write(p, PAD, self.height() - 8 - 14 * k, words, LABEL, inks.soft)
        chosen = self.line
        if chosen is None:
            return
        left, room = wide + PAD + 10, self.width() - wide - 2 * PAD - 10
        line(p, left - 12.5, 40, left - 12.5, self.height() - 8, inks.hair)
        heading(p, left, 52, room, chosen.words, chosen.told.render(self.store.units))
        for k, words in enumerate(wrap(_HOW.get(chosen.key, ""), room, VALUE)[:3]):
            write(p, left, 80 + 17 * k, words, VALUE, inks.ink)
        if self.reading.isVisible():
            write(p, left, 141, "Read", VALUE, inks.soft)
            write(p, left + 188, 141, self._judged(chosen), LABEL, inks.soft)
        elif chosen.walked is None:
            write(p, left, 141, self._judged(chosen), LABEL, inks.soft)
        self._draw_where(p, QRectF(left, 204, room, self.height() - 204 - 46), chosen)

    def _judged(self, chosen: Line) -> str:
        """Return who signed a line and when, or that it is to be done again."""
        last = signed_of(self.store.design, chosen)
        if last is None:
            return ""
        state = state_of(self.store.design, chosen, today())
        by = f" by {last.by}" if last.by else ""
        words = {"again": "again: something it hangs on changed since", "wrong": "not right", "done": "signed"}
        return f"{words.get(state, '')} {last.day}{by}".strip()

    def _draw_where(self, p: QPainter, area: QRectF, chosen: Line) -> None:
        """Draw the aircraft from above, with what the line is about lit."""
        inks, design = theme.inks, self.store.design
        box = extent(design, "plan")
        self.scale = min(area.width() / max(box.width(), 1e-3), area.height() / max(box.height(), 1e-3))
        view = View("plan", area.center().x() - box.center().x() * self.scale,
                    area.center().y() - box.center().y() * self.scale, self.scale)  # fmt: skip
        draw_aircraft(p, design, view, fill=inks.paper)
        self._light_controls(p, design, view, chosen)
        if chosen.key in ("balance", "sideways"):
            now = state_now(design, self.store.report.results.masses)
            if now is not None:
                at = view.at((float(now.cg[0]), 0.0, 0.0))
                cg_mark(p, *at, 7, inks.live)
                words = f"{with_unit(float(now.cg[0]), 'length', self.store.units)} expected now"
                off = len(absent_now(design))
                words += f", {off} part{'' if off == 1 else 's'} not on" if off else ""
                write(p, area.left(), area.bottom() + 18, fit(words, area.width() - 130), LABEL, inks.live)
        if chosen.key in ("motor", "propeller", "full", "sweep") and design.power is not None:
            radius = design.power.propeller.diameter / 2 * self.scale
            p.setPen(pen(inks.stop if not chosen.bare else inks.live, 2))
            p.setBrush(Qt.BrushStyle.NoBrush)
            for disc in all_discs(design.power):
                x, y = view.at(disc)
                p.drawLine(QPointF(x - radius, y), QPointF(x + radius, y))
                if not chosen.bare:
                    p.drawEllipse(QPointF(x, y), radius, radius)

    @staticmethod
    def _light_controls(p: QPainter, design: Design, view: View, chosen: Line) -> None:
        inks, every = theme.inks, chosen.key in ("directions", "centred", "failsafe", "screws")
        for surface in design.surfaces:
            for control in surface.controls:
                if every or control.id == chosen.of:
                    for side in sides_of(surface):
                        path = path_in(view, control_points(surface, control, side))
                        p.fillPath(path, brush_of(inks.live, 90))
