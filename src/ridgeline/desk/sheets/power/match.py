"""Match: every combination of the parts at hand judged, drawn as weight against time, ranked, compared and fitted."""

from __future__ import annotations

from collections.abc import Iterator

from PySide6.QtCore import QLineF, QPointF, QRectF, Qt, QTimer
from PySide6.QtGui import QColor, QMouseEvent, QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from ridgeline.design.document import Design
from ridgeline.desk.paint import hatch, heading, pen, rule, write
from ridgeline.desk.scales import Plot, nice_step
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.power.compare import Compared
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import LeafButton, RuledButton, WordButton
from ridgeline.desk.widgets.match_list import MatchList, short_name
from ridgeline.engine.advice.match import Match, Matches, Search, Wishes
from ridgeline.engine.advice.match_design import candidates, wishes_of
from ridgeline.engine.advice.match_design import fit as fit_match
from ridgeline.engine.phrase import say
from ridgeline.engine.report import Remedy
from ridgeline.files.own_bin import load_bin
from ridgeline.units import with_unit

INTENTS = (("lightest", "Lightest"), ("longest", "Longest"), ("strongest", "Strongest"), ("cheapest", "Cheapest"))
SCOPES = (
    ("all", "every combination"),
    ("bin", "only what is in the bin"),
    ("propeller", "same motor and pack, other propeller"),
    ("pack", "same motor and propeller, one cell more or less"),
    ("motor", "same pack and propeller, other motor"),
)
_CHART_TOP, _CHART_HEIGHT, _SIDE = 96, 196, 292


class PowerMatchSheet(Sheet):
    """The search, its front, its list, and two or three side by side."""

    key = "power.match"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.intent, self.scope = "lightest", "all"
        self.found: Matches | None = None
        self.pins: list[Match] = []
        self.progress = 0.0
        self._search: Search | None = None
        self._steps: Iterator[float] | None = None
        self._of: tuple[Design, str] | None = None
        self._wishes: Wishes | None = None
        #: Least and most mass, kg, and minutes of the chart as it is drawn.
        self._plot = Plot.of(QRectF(0, 0, 1, 1), (0.0, 1.0), (0.0, 1.0))
        self.compared = Compared(store)
        self.intents: dict[str, LeafButton] = {}
        for key, word in INTENTS:
            button = LeafButton(self, word, chosen=key == self.intent)
            button.setAccessibleName(f"{word} first")
            button.clicked.connect(lambda _=False, k=key: self.rank_by(k))
            self.intents[key] = button
        self.scope_word = WordButton(self, "what is searched", SCOPES, lambda: self.scope, self.search_in)
        self.stop_button = RuledButton(self, "Stop")
        self.stop_button.clicked.connect(self.stop_search)
        self.fit_button = RuledButton(self, "Fit it", strong=True)
        self.fit_button.clicked.connect(lambda: self.fit_row(self.matches.chosen))
        self.pin_button = RuledButton(self, "Set beside")
        self.pin_button.clicked.connect(lambda: self.pin(self.matches.chosen))
        self.matches: MatchList = MatchList(self, store)
        self.matches.picked.connect(self._show_ghost)
        self.matches.fitted.connect(self.fit_row)
        self.matches.pinned.connect(self.pin)
        self._timer = QTimer(self, interval=0)
        self._timer.timeout.connect(self._step)

    # -- the search, a slice at a time, so that the window stays live --------------------------------------------

    @property
    def searching(self) -> bool:
        """Tell whether a search is under way."""
        return self._steps is not None

    def search_in(self, scope: str) -> None:
        """Search another part of the shelf."""
        self.scope = scope
        self.scope_word.refresh()
        self._begin()
        self.refresh()

    def _begin(self) -> None:
        from ridgeline.library import shipped_shelf

        design, report = self.store.design, self.store.report
        self._of = (design, self.scope)
        own, _report = load_bin()
        survey = candidates(design, own.before(shipped_shelf()), report, self.scope, own.stocked)
        self.found, self._steps, self._search = None, None, None
        self.progress = 0.0
        if survey is None or not (survey.motors and survey.propellers and survey.packs):
            self._fill()
            return
        self._wishes = wishes_of(design, report)
        self._search = Search(survey, self._wishes, own.stocked)
        self._steps = self._search.steps()
        self._timer.start()

    def _step(self) -> None:
        """Look at one propeller more; called while the event loop has nothing else to do."""
        if self._steps is None:
            self._timer.stop()
            return
        share = next(self._steps, None)
        if share is None:
            self._finish()
        else:
            self.progress = share
            self.update(0, 30, self.width(), 40)

    def stop_search(self) -> None:
        """Stop searching and keep what was found so far."""
        if self._steps is not None:
            self._finish()

    def finish_now(self) -> None:
        """Search on without waiting for the event loop, for pictures and tests."""
        if self._steps is not None:
            for share in self._steps:
                self.progress = share
            self._finish()

    def _finish(self) -> None:
        assert self._search is not None
        self._timer.stop()
        self._steps = None
        self.found = self._search.result()
        self._search = None
        self._fill()
        self.refresh()

    def _fill(self) -> None:
        if self.found is None:
            self.matches.show_matches((), (), None)
            return
        near = self.found.near[:12] if self.scope in ("all", "bin") else self.found.near
        window = self._wishes.balance if self._wishes is not None else None
        self.matches.show_matches(self.found.ranked[self.intent][: max(self.matches.shown_rows() - 5, 6)], near, window)

    def rank_by(self, intent: str) -> None:
        """Rank what was found by another intent."""
        self.intent = intent
        for key, button in self.intents.items():
            button.choose(key == intent)
        self._fill()
        self.refresh()

    # -- what the hand does --------------------------------------------------------------------------------------

    @property
    def chosen(self) -> Match | None:
        """Return the chosen match."""
        rows = self.matches.rows
        return rows[self.matches.chosen] if 0 <= self.matches.chosen < len(rows) else None

    def _remedy(self, match: Match) -> Remedy | None:
        if match.esc is None:
            return None
        targets, ref = self.store.report.results.targets, self.store.report.results.shape.reference
        aim = None if targets is None or ref is None else ref.at(targets.first_aim)
        return Remedy("fit_match", say(f"Fit {short_name(match)}"), fit_match(self.store.design, match, aim))

    def _show_ghost(self, index: int) -> None:
        self.store.show_ghost(self._remedy(self.matches.rows[index]))
        self.refresh()

    def fit_row(self, index: int) -> None:
        """Fit a match as one step."""
        if not 0 <= index < len(self.matches.rows):
            return
        remedy = self._remedy(self.matches.rows[index])
        if remedy is not None:
            self.matches.chosen = -1
            self.store.show_ghost(None)
            self.store.apply_remedy(remedy)

    def pin(self, index: int) -> None:
        """Set a match beside what is fitted, or take it away again; two at most."""
        if not 0 <= index < len(self.matches.rows):
            return
        match = self.matches.rows[index]
        if match in self.pins:
            self.pins.remove(match)
        else:
            self.pins = [*self.pins[-1:], match]
        self.refresh()

    def hideEvent(self, event: object) -> None:
        super().hideEvent(event)  # type: ignore[arg-type]
        self.store.show_ghost(None)
        self._timer.stop()

    def showEvent(self, event: object) -> None:
        super().showEvent(event)
        if self._steps is not None:
            self._timer.start()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        if self.found is None:
            return
        at = event.position()
        drawn = [match for match in self.found.front if self._inside(match)]
        match = min(drawn, key=lambda m: QLineF(self._at(m), at).length(), default=None)
        if match is not None and QLineF(self._at(match), at).length() < 9:
            index = next((i for i, row in enumerate(self.matches.rows) if row.place == match.place), None)
            if index is None:
                self.matches.show_matches(
                    (match, *self.matches.rows[: self.matches.good]), self.found.near[:12], self._window()
                )
                index = 0
            self.matches.choose(index)

    def _window(self) -> tuple[float, float] | None:
        return self._wishes.balance if self._wishes is not None else None

    # -- drawing -------------------------------------------------------------------------------------------------

    def subtitle(self) -> str:
        if self._wishes is None:
            return ""
        w, units = self._wishes, self.store.units
        prop = with_unit(w.largest_propeller, "length", units, 0)
        return (
            f"wanted: thrust ratio {w.thrust_ratio:.2f}, {w.seconds / 60:.0f} min, under "
            f"{with_unit(w.ceiling, 'mass', units)}, propeller to {prop}"
        )

    def arrange(self) -> None:
        if self.isVisible() and self._of != (self.store.design, self.scope) and not self.store.ghost:
            self._begin()
        x = PAD
        for button in self.intents.values():
            button.move(int(x), 40)
            x += button.width() + 6
        self.scope_word.move(int(x) + 60, 42)
        self.stop_button.setGeometry(self.width() - PAD - 70, 40, 70, 24)
        self.stop_button.setProperty("off", not self.searching)
        self.stop_button.setVisible(self.searching)
        side = self.width() - PAD - _SIDE
        top = _CHART_TOP + _CHART_HEIGHT
        self.fit_button.setGeometry(side, top + 10, 130, 24)
        self.pin_button.setGeometry(side + 140, top + 10, _SIDE - 140, 24)
        chosen = self.chosen
        self.fit_button.setEnabled(chosen is not None and chosen.esc is not None)
        self.pin_button.setEnabled(chosen is not None)
        list_top = top + 62
        self.matches.setGeometry(PAD, list_top, self.width() - 2 * PAD, self.height() - list_top - 8)

    def draw(self, p: QPainter) -> None:
        inks = theme.inks
        scope_left = self.scope_word.x()
        write(p, scope_left - 8, 56, "among", VALUE, inks.soft, align="right")
        self._draw_progress(p)
        rule(p, PAD, 72, self.width() - 2 * PAD)
        self._draw_front(p)
        side = QRectF(self.width() - PAD - _SIDE, 78, _SIDE, _CHART_HEIGHT + 20)
        self.compared.draw(p, side, self.chosen, self.pins)
        top = _CHART_TOP + _CHART_HEIGHT + 56
        rule(p, PAD, top, self.width() - 2 * PAD)
        if self.found is not None and not self.matches.rows:
            self._say_nothing_fits(p, top + 60)

    def _draw_progress(self, p: QPainter) -> None:
        inks, right = theme.inks, self.width() - PAD
        if self.searching:
            box = QRectF(right - 210, 48, 120, 8)
            p.setPen(pen(inks.ink, 1))
            p.drawRect(box)
            p.fillRect(QRectF(box.left(), box.top(), box.width() * self.progress, box.height()), inks.live)
        elif self.found is not None:
            looked = f"{self.found.looked_at:,}".replace(",", " ")
            words = f"{self.found.fitting} of {looked} fit"
            write(p, right, 56, words, VALUE, inks.live if self.found.fitting else inks.look, True, align="right")

    def _say_nothing_fits(self, p: QPainter, y: float) -> None:
        assert self.found is not None
        worst = sorted(self.found.ruled_out.items(), key=lambda entry: -entry[1])[:4]
        write(p, PAD, y, "Nothing fits, and nothing misses by one limit alone.", 13, theme.inks.look, True)
        for k, (words, count) in enumerate(worst):
            write(p, PAD, y + 20 + 17 * k, f"{count} ruled out: {words}", VALUE, theme.inks.soft)

    def _chart(self) -> QRectF:
        return QRectF(PAD + 44, _CHART_TOP, self.width() - 2 * PAD - _SIDE - 80, _CHART_HEIGHT - 8)

    def _fitting(self) -> Plot:
        """Return the chart of minutes over mass, kg, that shows all there is to show."""
        assert self.found is not None
        points = [*self.found.front, *self.pins]
        masses = [m.mass for m in points] or [0.5, 1.0]
        minutes = [m.seconds / 60 for m in points] or [0.0, 30.0]
        auw, time = self.store.report.value("mass.auw"), self.store.report.value("flight.endurance")
        if auw is not None and time is not None:
            masses.append(auw)
            minutes.append(time / 60)
        if self._wishes is not None:
            masses.append(self._wishes.ceiling)
        low, high = min(masses), max(masses)
        slack = max(0.06 * (high - low), 0.01)
        return Plot.of(self._chart(), (low - slack, high + slack), (0.0, 1.12 * max(minutes)))

    def _at(self, match: Match) -> QPointF:
        return self._plot.at(match.mass, match.seconds / 60)

    def _inside(self, match: Match) -> bool:
        return self._chart().adjusted(-2, -2, 2, 2).contains(self._at(match))

    def _draw_front(self, p: QPainter) -> None:
        inks, area, units = theme.inks, self._chart(), self.store.units
        heading(p, PAD, 90, area.right() - PAD, "Weight against time", "a larger ring pulls harder", strong=False)
        if self.found is None:
            words = "searching" if self.searching else "no power train to match yet"
            write(p, area.center().x(), area.center().y(), words, VALUE, inks.soft, align="centre")
            return
        plot = self._plot = self._fitting()
        factor = units["mass"].factor
        plot.foot(p, nice_step((plot.x.high - plot.x.low) * factor, 7), factor)
        write(p, area.right() + 4, area.bottom() + 15, units["mass"].symbol, LABEL, inks.soft)
        plot.side(p, nice_step(plot.y.high, 5))
        write(p, area.left() + 6, area.top() + 12, "min", LABEL, inks.soft)
        if self._wishes is not None:
            ceiling = plot.x.at(self._wishes.ceiling)
            if ceiling < area.right():
                hatch(p, QRectF(ceiling, area.top(), area.right() - ceiling, area.height()), inks.stop)
            plot.upright(p, self._wishes.ceiling, inks.stop, 1.5)
            wish = plot.level(p, self._wishes.seconds / 60, inks.live, dash=True)
            write(p, area.right() - 40, wish + 13, "time wished", LABEL, inks.live, align="right", halo=True)
        for match in sorted(self.found.front, key=lambda m: -m.ratio):
            self._ring(p, match, inks.predicted, 1.2)
        for match in self.pins:
            self._ring(p, match, inks.look, 2)
        if self.chosen is not None and self._inside(self.chosen):
            self._ring(p, self.chosen, inks.live, 2.5)
        self._draw_now(p)

    def _ring(self, p: QPainter, match: Match, colour: QColor, width: float) -> None:
        radius = 2.0 + 3.2 * min(match.ratio, 2.5)
        p.setPen(pen(colour, width))
        p.setBrush(theme.inks.paper if width > 1.5 else Qt.BrushStyle.NoBrush)
        p.drawEllipse(self._at(match), radius, radius)
        p.setBrush(Qt.BrushStyle.NoBrush)

    def _draw_now(self, p: QPainter) -> None:
        """Mark what is fitted now."""
        report, inks = self.store.report, theme.inks
        auw, time = report.value("mass.auw"), report.value("flight.endurance")
        if auw is None or time is None:
            return
        at = self._plot.at(auw, time / 60)
        p.setPen(pen(inks.ink, 1.5))
        p.setBrush(inks.ink)
        p.drawPolygon(QPolygonF([at + QPointF(0, -6), at + QPointF(5, 0), at + QPointF(0, 6), at + QPointF(-5, 0)]))
        p.setBrush(Qt.BrushStyle.NoBrush)
        write(p, at.x() + 9, at.y() + 4, "fitted now", LABEL, bold=True, halo=True)
