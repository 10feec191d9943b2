"""Odds of a throw: what becomes of many builds, which error matters most, and what raises the odds, to be pressed."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from ridgeline.design.paths import Change
from ridgeline.desk.paint import fit, hatch, line, pen, width_of, write
from ridgeline.desk.sheets.flights.throw_work import ThrowWork
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton, discard
from ridgeline.engine.advice.throw_ways import edits_of, matter_words, way_words
from ridgeline.engine.flight.launch import Outcome
from ridgeline.engine.flight.odds import ALONE, BUILDS, Became, Better, Odds

_OUTCOMES: tuple[tuple[Outcome, str], ...] = (
    ("climbs", "climb away"), ("holds", "fly on"), ("sinks", "come down"), ("stalls", "stall"), ("rolls", "roll off"),
)  # fmt: skip
#: Matters that are told, and remedies that are offered.
_MATTERS, _WAYS = 3, 3


class OddsPanel(QWidget):
    """The odds, and what to do about them."""

    def __init__(self, parent: QWidget, store: Store, work: ThrowWork) -> None:
        super().__init__(parent)
        self._store, self._work = store, work
        self.fly_button = RuledButton(self, f"Fly {BUILDS} builds  O", bold=True)
        self.fly_button.clicked.connect(self._press)
        self.way_buttons: list[RuledButton] = []
        self._shown: Odds | None = None

    def _press(self) -> None:
        if self._work.odd.busy:
            self._work.stop()
        else:
            self._work.draw_odds()

    def renew(self) -> None:
        """Follow what was flown."""
        odds, busy = self._work.odds_now, self._work.odd.busy
        share = f"{100 * self._work.odd.share:.0f} %"
        self.fly_button.say(f"Stop at {share}  Esc" if busy else f"Fly {BUILDS} builds  O")
        self.fly_button.setGeometry(0, 0, 150, 24)
        if odds is not self._shown:
            self._shown = odds
            for button in self.way_buttons:
                discard(button)
            self.way_buttons = [] if odds is None else [self._offer(one) for one in odds.better[:_WAYS]]
        half, y = self._half, self.height() - 24 * len(self.way_buttons)
        for k, button in enumerate(self.way_buttons):
            button.setGeometry(half + 8, y + 24 * k, self.width() - half - 8, 24)
            button.show()
        self.update()

    @property
    def _half(self) -> int:
        return int(0.36 * self.width())

    def _offer(self, way: Better) -> RuledButton:
        launch = None if self._work.plan is None else self._work.plan.launch
        words = way_words(self._store.design, self._store.report, way).render(self._store.units)
        button = RuledButton(self, words, aside=f"{100 * way.odds:.0f} %")
        changes = () if launch is None else edits_of(self._store.design, self._store.report, launch, way)
        button.setEnabled(bool(changes))
        button.clicked.connect(self._doing(changes, words))
        return button

    def _doing(self, changes: tuple[Change, ...], words: str) -> Callable[[], None]:
        def do() -> None:
            if changes:
                self._store.edit(list(changes), words)

        return do

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks, odds = theme.inks, self._work.odds_now
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self._work.odd.busy:
            box = QRectF(158, 8, max(self.width() - 160, 10), 8)
            p.setPen(pen(inks.hair, 1))
            p.drawRect(box)
            p.fillRect(
                box.adjusted(1, 1, -1, 0) & QRectF(box.left() + 1, 9, box.width() * self._work.odd.share, 7), inks.live
            )
        if odds is None:
            told = "Mass, balance, incidences, warp, thrust, drag, throw and wind,", "each as well as it is known."
            for k, part in enumerate(told):
                write(p, 0, 48 + 17 * k, fit(part, self.width(), VALUE), VALUE, inks.soft)
            return
        if not self._work.odd.busy:
            many = f"{odds.builds}, and {min(odds.builds, ALONE)} hands off"
            write(p, 158, 16, fit(many, self.width() - 160, LABEL), LABEL, inks.soft)
        self._draw_became(p, 34, "somebody at the sticks", odds.piloted)
        self._draw_became(p, 66, "hands off", odds.alone)
        half = self._half
        top = 108
        write(p, 0, top, "Matters most", VALUE)
        who = "with a pilot" if odds.held_by else "hands off"
        write(p, half + 8, top, "Helps most", VALUE)
        write(p, self.width(), top, who, LABEL, inks.soft, align="right")
        for k, one in enumerate(odds.matters[:_MATTERS]):
            y = top + 20 + 17 * k
            wide = 26 * abs(one.correlation)
            p.fillRect(QRectF(0, y - 8, wide, 8), inks.measured)
            words = matter_words(one).render(self._store.units)
            if width_of(words, LABEL) > half - 32:
                words = words.partition(" ±")[0]
            write(p, 30, y, fit(words, half - 32, LABEL), LABEL)
        if not odds.matters:
            write(p, 0, top + 20, "nothing stands out", LABEL, inks.soft)
        if not self.way_buttons:
            write(p, half + 8, top + 20, fit("nothing tried raises it", self.width() - half, LABEL), LABEL, inks.soft)

    def _draw_became(self, p: QPainter, y: float, words: str, became: Became) -> None:
        """Draw shares of outcomes as one bar."""
        inks = theme.inks
        share = f"{100 * became.well:.0f} % come away"
        written = write(p, 0, y + 9, share, VALUE, inks.live if became.well > 0.9 else inks.look, bold=True)
        write(p, written + 8, y + 9, fit(words, self.width() - written - 8, LABEL), LABEL, inks.soft)
        others = [
            f"{100 * became.shares[key]:.0f} {name}"
            for key, name in _OUTCOMES
            if key != "climbs" and became.shares[key] >= 0.01
        ]
        room = self.width() - written - 16 - width_of(words, LABEL)
        write(p, self.width(), y + 9, fit(", ".join(others[:3]), room, LABEL), LABEL, inks.soft, align="right")
        box = QRectF(0, y + 14, self.width() - 1, 8)
        x = box.left()
        for key, _name in _OUTCOMES:
            wide = became.shares[key] * box.width()
            part = QRectF(x, box.top(), wide, box.height())
            if key in ("climbs", "holds"):
                p.fillRect(part, inks.live if key == "climbs" else inks.wash)
            else:
                hatch(p, part, _ink(key), rising=key != "stalls", step=3.5)
            x += wide
        p.setPen(pen(inks.soft, 1))
        p.setBrush(Qt.BrushStyle.NoBrush)
        p.drawRect(box)
        line(p, box.left(), box.bottom(), box.right(), box.bottom(), inks.soft, 0.5)


def _ink(key: Outcome) -> QColor:
    inks = theme.inks
    return {"sinks": inks.look, "stalls": inks.stop, "rolls": inks.measured}.get(key, inks.soft)
