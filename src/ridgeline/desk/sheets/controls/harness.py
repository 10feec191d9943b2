"""Harness: every lead along its way from above, the receiver's channels, its supply, and what is to be bought."""

from __future__ import annotations

import math
from itertools import pairwise
from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QMouseEvent, QPainter

from ridgeline.design.paths import Change
from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.drawing import View, draw_aircraft, fitted
from ridgeline.desk.paint import brush_of, fit, hatch, heading, line, pen, rule, wrap, write
from ridgeline.desk.scales import nice_step, ruler
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.engine.advice.harness_rules import called, with_lead
from ridgeline.engine.controls.harness import APART, SLACK, Run
from ridgeline.engine.sizing.linkages import usual_linkages
from ridgeline.engine.stages.harnessing import Wired
from ridgeline.units import with_unit

#: How wide the right column is, and on a narrow sheet, px; how tall the straightened lead is; rows of the lists.
_COLUMN, _COLUMN_NARROW, _NARROW, _STRIP, _ROW = 320, 262, 700, 132, 20
#: A press this near to a lead chooses it, px.
_NEAR = 7.0
_SIDES = {"starboard": "stbd.", "port": "port"}


class ControlsHarnessSheet(Sheet):
    """All leads."""

    key = "controls.harness"

    def __init__(self, *arguments: Any) -> None:
        super().__init__(*arguments)
        self._chosen: tuple[str, str] = ("", "")
        self._rows: list[tuple[QRectF, Run]] = []
        self.usual_button = RuledButton(self, "Link them as usual", bold=True)
        self.usual_button.clicked.connect(self._link_as_usual)

    # -- what is shown ------------------------------------------------------------------------------------------------

    @property
    def wired(self) -> Wired:
        """The harness as it is judged."""
        found: Wired = self.store.report.results.harness
        return found

    @property
    def run(self) -> Run | None:
        """The lead that is shown: the chosen one, else the scarcest."""
        runs = self.wired.runs
        chosen = next((run for run in runs if (run.of, run.side) == self._chosen), None)
        return chosen if chosen is not None else self.wired.shortest

    def choose(self, run: Run) -> None:
        """Show a lead."""
        self._chosen = (run.of, run.side)
        self.store.select("")
        self.store.selected.emit()
        self.refresh()

    def subtitle(self) -> str:
        wired = self.wired
        if self.store.design.radio is None:
            return "what the radio is set to is not said yet"
        if wired.receiver is None:
            return "which item is the receiver is not said yet"
        if not wired.runs:
            return "no channel has a lead"
        short = sum(run.margin < -1e-6 for run in wired.runs)
        return f"{len(wired.runs)} leads" + (f", {short} too short" if short else ", all of them reach")

    def _link_as_usual(self) -> None:
        usual = usual_linkages(self.store.design)
        self.store.edit([Change("linkages", usual.linkages), Change("radio", usual.radio)], "Link them as usual")

    # -- dimensions ---------------------------------------------------------------------------------------------------

    def selection(self) -> Selection:
        design, run = self.store.design, self.run
        if self.empty or design.radio is None:
            return Selection("", ())
        able = [item for item in design.parts if item.group == "radio" and item.servo is None]
        rows = [Dimension("Receiver", read=self._receiver, choose=self._take_receiver,
                          choices=(("", "not said"), *((item.id, item.name) for item in able)))]  # fmt: skip
        acts: tuple[Any, ...] = ()
        title = ""
        if run is not None:
            title = f"lead, {called(design, run)}"
            place = next((k for k, lead in enumerate(design.radio.leads) if lead.of == run.of), None)
            if place is None:
                acts = (("Tell its lengths", lambda: self._tell(run)),)
            else:
                base = f"radio.leads[{place}]"
                rows += [
                    Dimension("What it comes with", f"{base}.own", empty=lambda: run.own),
                    Dimension("Extension", f"{base}.extension", empty=lambda: run.extension),
                    Dimension("Run, to starboard", f"{base}.aside", empty=lambda: float(run.path[-2][1])),
                ]
                acts = (("As usual", lambda: self._forget(run)),)
        return Selection(title, tuple(rows), acts)

    def _tell(self, run: Run) -> None:
        self.store.edit([with_lead(self.store.design, run.of, own=run.own)], "Tell a lead's lengths")

    def _forget(self, run: Run) -> None:
        change = with_lead(self.store.design, run.of, own=None, extension=None, aside=None, via=())
        self.store.edit([change], "A lead as usual")

    def _receiver(self) -> str:
        found = self.wired.receiver
        return "" if found is None else found.id

    def _take_receiver(self, ident: str) -> None:
        changes = []
        for k, item in enumerate(self.store.design.parts):
            if item.id == ident and item.harness != "receiver":
                changes.append(Change(f"parts[{k}].harness", "receiver"))
            elif item.harness == "receiver" and item.id != ident:
                changes.append(Change(f"parts[{k}].harness", None))
        if changes:
            self.store.edit(changes, "Another receiver")

    # -- drawing ------------------------------------------------------------------------------------------------------

    def arrange(self) -> None:
        self.usual_button.setVisible(self.store.design.radio is None)
        self.usual_button.setGeometry(PAD, 96, 200, 30)

    @property
    def _column(self) -> int:
        return _COLUMN_NARROW if self.width() < _NARROW else _COLUMN

    def draw(self, p: QPainter) -> None:
        self._rows = []
        wired, run = self.wired, self.run
        wide = self.width() - 3 * PAD - self._column
        left = self.width() - PAD - self._column
        if self.store.design.radio is None:
            words = "Say how the servos move the controls: leads are measured once it is said."
            write(p, PAD, 72, fit(words, self.width() - 2 * PAD), VALUE, theme.inks.soft)
            return
        heading(p, PAD, 52, wide, "From above", "every lead along its way; press one")
        tall = self.height() - 66 - (_STRIP if run is not None else 0)
        self._draw_leads(p, QRectF(PAD, 66, wide, tall))
        if run is not None:
            self._draw_straight(p, run, QRectF(PAD, 66 + tall, wide, _STRIP))
        y = self._draw_channels(p, QRectF(left, 40, self._column, 0))
        y = self._draw_supply(p, QRectF(left, y + 24, self._column, 0))
        self._draw_list(p, QRectF(left, y + 26, self._column, self.height() - y - 34), wired)

    def _draw_leads(self, p: QPainter, room: QRectF) -> None:
        inks, design, wired = theme.inks, self.store.design, self.wired
        view = fitted(design, "plan", room.adjusted(6, 10, -6, -14))
        self.scale = view.scale
        draw_aircraft(p, design, view, fill=inks.paper)
        for way in wired.powers:
            _draw_way(p, view, way, inks.stop, 3.0)
        shown = self.run
        for run in sorted(wired.runs, key=lambda one: one is shown):
            live = one_of(shown, run)
            _draw_way(p, view, run.path, inks.live if live else inks.predicted, 2.4 if live else 1.3)
            x, y = view.at(tuple(run.path[0]))
            p.setBrush(inks.paper)
            p.setPen(pen(inks.live if live else inks.predicted, 1.3))
            p.drawRect(QRectF(x - 4, y - 3, 8, 6))
        if wired.receiver is not None:
            x, y = view.at((wired.receiver.x, wired.receiver.y, wired.receiver.z))
            p.setBrush(inks.fill)
            p.setPen(pen(inks.ink, 1.3))
            p.drawRect(QRectF(x - 6, y - 8, 12, 16))
        if wired.near is not None and wired.near[1].apart < APART:
            x, y = view.at(tuple(wired.near[1].at))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.setPen(pen(inks.stop, 1.4, Qt.PenStyle.DashLine))
            p.drawEllipse(QPointF(x, y), 9, 9)
        if wired.powers:
            write(p, room.left(), room.bottom() - 2, "thick: motor current", LABEL, inks.stop)

    def _draw_straight(self, p: QPainter, run: Run, area: QRectF) -> None:
        """Draw a lead straightened: its way and slack over what it comes with and what is plugged in."""
        inks, units = theme.inks, self.store.units
        symbol, factor = units["length"].symbol, units["length"].factor
        name = called(self.store.design, run)
        heading(p, area.left(), area.top() + 16, area.width(), "Straightened", f"{name}, {symbol}", strong=False)
        reach = max(run.long + SLACK, run.own + run.extension) * 1.04
        scale = area.width() / reach
        top = area.top() + 44
        way = QRectF(area.left(), top, run.long * scale, 12)
        p.fillRect(way, brush_of(inks.predicted, 120))
        slack = QRectF(way.right(), top, SLACK * scale, 12)
        hatch(p, slack, inks.predicted)
        write(p, area.left() + 4, top - 3, f"way {self.length(run.long)}, slack {self.length(SLACK)}", LABEL, inks.soft)
        x, y = area.left(), top + 18
        for k, long in enumerate((run.own, *(piece.length for piece in run.pieces))):
            box = QRectF(x, y, long * scale, 14)
            p.setPen(pen(inks.ink, 1.2))
            p.setBrush(inks.wash if k else inks.fill)
            p.drawRect(box)
            told = ("own " if not k else "+ ") + self.length(long)
            write(p, box.center().x(), y + 11, fit(told, box.width() - 4, LABEL), LABEL, inks.ink, align="centre")
            x = box.right()
        p.setBrush(Qt.BrushStyle.NoBrush)
        end = area.left() + (run.long + SLACK) * scale
        line(p, end, top - 4, end, y + 18, inks.ink, dash=True)
        spare = f"{self.length(abs(run.margin))} {'to spare' if run.margin >= -1e-6 else 'short'}"
        ink = inks.soft if run.margin >= -1e-6 else inks.stop
        self.written(p, area.right(), y + 30, spare, "harness.shortest_margin", VALUE, ink, bold=run.margin < 0,
                     align="right")  # fmt: skip
        if run.parted:
            write(p, area.left(), y + 30, "a plug at the root: the wing comes off", LABEL, inks.soft)
        step = nice_step(reach * factor, 8)
        ruler(p, QRectF(area.left(), area.bottom() - 34, area.width(), 16), 0.0, reach * factor, step, box=False)

    def _draw_channels(self, p: QPainter, area: QRectF) -> float:
        inks, design, wired, shown = theme.inks, self.store.design, self.wired, self.run
        radio = design.radio
        assert radio is not None
        left, right = area.left(), area.right()
        heading(p, left, 52, area.width(), "Receiver", f"channel, lead {self.store.units['length'].symbol}, A at work")
        y = 78.0
        draws = dict(self.store.report.results.feeding)
        for k, channel in enumerate(radio.channels):
            runs = [run for run in wired.runs if run.channel == k]
            for n, run in enumerate(runs or [None]):
                rect = QRectF(left, y - 14, area.width(), _ROW)
                live = run is not None and one_of(shown, run)
                if live:
                    p.fillRect(rect, inks.wash)
                if run is not None:
                    self._rows.append((rect, run))
                write(p, left + 2, y, f"{k + 1}" if not n else "Y", LABEL, inks.soft)
                name = channel.name if len(runs) < 2 or run is None else f"{channel.name}, {_SIDES[run.side]}"
                write(p, left + 18, y, fit(name, area.width() - 178, VALUE), VALUE, inks.live if live else inks.ink)
                if run is not None:
                    told = " + ".join(self.length(long) for long in (run.own, *(q.length for q in run.pieces)))
                    ink = inks.stop if run.margin < -1e-6 else inks.ink
                    write(p, right - 44, y, told, VALUE, ink, align="right")
                    draw = draws.get(run.of)
                    if draw is not None:
                        write(p, right, y, f"{draw.working:.2f}", VALUE, inks.soft, align="right")
                rule(p, left, y + 5, area.width())
                y += _ROW
        return y - _ROW

    def _draw_supply(self, p: QPainter, area: QRectF) -> float:
        """Draw the receiver supply as a bar: at work, the largest stalled, and what the controller gives."""
        inks, report, power = theme.inks, self.store.report, self.store.design.power
        typical, stalled = report.value("radio.supply_typical"), report.value("radio.supply_stalled")
        moving = report.value("radio.supply_moving")
        top = area.top()
        if typical is None or stalled is None or moving is None:
            heading(p, area.left(), top, area.width(), "Receiver supply", "no servo aboard", strong=False)
            return top + 8
        gives = None if power is None or power.esc.bec_current <= 0 else power.esc.bec_current
        aside = "from a pack of its own" if gives is None else f"{100 * stalled / gives:.0f} % of {gives:.1f} A"
        heading(p, area.left(), top, area.width(), "Receiver supply", aside, strong=False)
        most = 1.08 * max(stalled, gives or 0.0)
        scale = area.width() / most
        y = top + 18
        p.fillRect(QRectF(area.left(), y, typical * scale, 14), brush_of(inks.predicted, 140))
        rest = QRectF(area.left() + typical * scale, y, (stalled - typical) * scale, 14)
        hatch(p, rest, inks.stop if gives is not None and stalled > gives else inks.predicted)
        p.setPen(pen(inks.ink, 1))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawRect(QRectF(area.left(), y, stalled * scale, 14))
        mark = area.left() + moving * scale
        line(p, mark, y - 3, mark, y + 17, inks.ink, dash=True)
        if gives is not None:
            line(p, area.left() + gives * scale, y - 4, area.left() + gives * scale, y + 18, inks.ink, 2)
        ruler(p, QRectF(area.left(), y + 16, area.width(), 14), 0.0, most, nice_step(most, 4), box=False)
        y += 48
        each = area.width() / 3
        for k, (words, value, key) in enumerate((("at work", typical, "radio.supply_typical"),
                                                 ("all moving", moving, "radio.supply_moving"),
                                                 ("one stalled", stalled, "radio.supply_stalled"))):  # fmt: skip
            write(p, area.left() + k * each, y, words, LABEL, inks.soft)
            self.written(p, area.left() + k * each, y + 16, f"{value:.2f} A", key, VALUE, inks.ink)
        heat = report.value("radio.bec_heat")
        if heat is not None:
            told = with_unit(heat, "power", self.store.units)
            told = f"the supply turns {told} into heat"
            self.written(p, area.left(), y + 36, told, "radio.bec_heat", LABEL, inks.soft)
            return y + 36
        return y + 16

    def _draw_list(self, p: QPainter, area: QRectF, wired: Wired) -> None:
        """List what is to be bought, and how far signal and power stay apart."""
        inks, units = theme.inks, self.store.units
        heading(p, area.left(), area.top(), area.width(), "To buy", "", strong=False)
        words = [f"{count} × extension {self.length(long)} {units['length'].symbol}"
                 for long, count in wired.extensions]  # fmt: skip
        if wired.joins:
            words.append(f"{wired.joins} × Y lead")
        if not words:
            words = ["nothing: every lead reaches by itself" if wired.runs else "nothing yet"]
        y = area.top() + 26
        for row in words:
            if y > area.bottom():
                return
            write(p, area.left() + 2, y, fit(row, area.width(), VALUE), VALUE)
            y += _ROW
        if wired.runs:
            told = f"{with_unit(wired.mass, 'mass', units)} in all"
            self.written(p, area.right(), area.top() + 26, told, "harness.mass", VALUE, inks.soft, align="right")
        if wired.near is not None:
            apart = with_unit(wired.near[1].apart, "length", units, 0)
            told = f"signal stays {apart} from power"
            ink = inks.soft if wired.near[1].apart >= APART else inks.stop
            self.written(p, area.left() + 2, y + 2, told, "harness.apart", LABEL, ink)
            y += _ROW
        for row in wrap("Plugs are pushed home and held by tape; nothing hangs on a servo's own wires.",
                        area.width(), LABEL):  # fmt: skip
            if y + 4 < area.bottom():
                write(p, area.left() + 2, y + 4, row, LABEL, inks.soft)
                y += 15

    def mousePressEvent(self, event: QMouseEvent) -> None:
        traced = self.figure_at(event.position())
        super().mousePressEvent(event)
        if event.button() != Qt.MouseButton.LeftButton or traced or self.empty:
            return
        hit = next((run for rect, run in self._rows if rect.contains(event.position())), None)
        if hit is None and event.position().x() < self.width() - self._column - PAD:
            hit = self._lead_at(event.position())
        if hit is not None:
            self.choose(hit)

    def _lead_at(self, at: QPointF) -> Run | None:
        """Return the lead that is drawn at a place, the nearest of them."""
        wide = self.width() - 3 * PAD - self._column
        tall = self.height() - 66 - (_STRIP if self.run is not None else 0)
        view = fitted(self.store.design, "plan", QRectF(PAD, 66, wide, tall).adjusted(6, 10, -6, -14))
        best: tuple[float, Run] | None = None
        for run in self.wired.runs:
            spots = [view.at(tuple(point)) for point in run.path]
            for a, b in pairwise(spots):
                apart = _from_segment((at.x(), at.y()), a, b)
                if apart <= _NEAR and (best is None or apart < best[0]):
                    best = apart, run
        return None if best is None else best[1]


def one_of(shown: Run | None, run: Run) -> bool:
    """Tell whether a lead is the one that is shown."""
    return shown is not None and (shown.of, shown.side, shown.channel) == (run.of, run.side, run.channel)


def _from_segment(at: tuple[float, float], a: tuple[float, float], b: tuple[float, float]) -> float:
    along = (b[0] - a[0], b[1] - a[1])
    size = along[0] ** 2 + along[1] ** 2
    share = 0.0 if size == 0 else ((at[0] - a[0]) * along[0] + (at[1] - a[1]) * along[1]) / size
    share = min(max(share, 0.0), 1.0)
    return math.hypot(at[0] - a[0] - share * along[0], at[1] - a[1] - share * along[1])


def _draw_way(p: QPainter, view: View, path: Any, ink: QColor, wide: float) -> None:
    p.setPen(pen(ink, wide))
    p.setBrush(Qt.BrushStyle.NoBrush)
    p.drawPolyline([QPointF(*view.at(tuple(point))) for point in path])
