"""The rows of the packs: each with the balance it can reach on one scale, its figures, and why it does not fit."""

from __future__ import annotations

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from ridgeline.desk.paint import fit, hatch, line, rule, state_mark, write
from ridgeline.desk.scales import Scale
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton, discard
from ridgeline.engine.advice.pack_bin import PackOption
from ridgeline.engine.phrase import say
from ridgeline.engine.report import LEVELS, Remedy
from ridgeline.units import shown, with_unit

ROW = 42
#: Where the bars begin, and what stands right of them.
BAR_LEFT, NAME, _BUTTON = 130, 110, 60


class PackRows(QWidget):
    """Every pack tried, those that fit first; as tall as they are."""

    def __init__(self, store: Store) -> None:
        super().__init__()
        self._store = store
        self.options: list[PackOption] = []
        self.buttons: list[RuledButton] = []
        self.setAccessibleName("packs tried in the bay")

    def clear(self) -> None:
        """Begin anew."""
        for old in self.buttons:
            discard(old)
        self.options, self.buttons = [], []

    def take(self, option: PackOption) -> None:
        """Put one more pack in its place: what fits before what does not, light before heavy."""
        order = sorted(
            [*self.options, option], key=lambda o: (-LEVELS.index(o.level), o.pack.cells, o.pack.capacity_ah)
        )
        index = order.index(option)
        self.options.insert(index, option)
        button = RuledButton(self, "Fit it")
        button.setAccessibleName(f"fit pack {option.pack.name}")
        remedy = Remedy("fit_pack", say(f"Fit pack {option.pack.name}"), option.changes)
        button.setEnabled(bool(option.changes))
        button.clicked.connect(lambda _=False, r=remedy: self._store.apply_remedy(r))
        button.rested.connect(lambda on, r=remedy: self._store.show_ghost(r if on and r.changes else None))
        button.setVisible(bool(option.changes))
        self.buttons.insert(index, button)

    def arrange(self, width: int) -> None:
        """Lay the rows out in a width."""
        self.setFixedSize(width, ROW * len(self.options) + 20)
        for index, button in enumerate(self.buttons):
            button.setGeometry(width - _BUTTON, index * ROW + 4, _BUTTON, 24)
        self.update()

    def columns(self) -> tuple[float, float, float]:
        """Return where mass, thrust ratio and time end."""
        right = self.width() - 76
        return right - 92, right - 40, right

    def bar(self) -> QRectF:
        """Return the band the balance is drawn in, across all rows."""
        return QRectF(BAR_LEFT, 0, self.columns()[0] - 60 - BAR_LEFT, 18)

    def reach(self) -> tuple[float, float]:
        """Return the least and greatest balance that is drawn, per cent."""
        ends = [100 * v for option in self.options for v in (*(option.reach or ()), option.balance) if v is not None]
        targets = self._store.report.results.targets
        if targets is not None:
            ends += [100 * v for v in (*targets.settled, *targets.first_throw)]
        low, high = min(ends, default=0.0), max(ends, default=100.0)
        slack = max(0.08 * (high - low), 2.0)
        return low - slack, high + slack

    def _x(self, fraction: float) -> float:
        bar = self.bar()
        return Scale(*self.reach(), bar.left(), bar.right()).at(100 * fraction)

    def paintEvent(self, event: QPaintEvent) -> None:
        inks = theme.inks
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        targets = self._store.report.results.targets
        bottom = float(ROW * len(self.options))
        if targets is not None and self.options:
            left, right = self._x(targets.settled[0]), self._x(targets.settled[1])
            hatch(p, QRectF(left, 0, right - left, bottom), inks.hair)
            for edge in targets.first_throw:
                line(p, self._x(edge), 0, self._x(edge), bottom, inks.live, dash=True)
            write(p, left, bottom + 14, "hatched: settled window; dashed: first throw", LABEL, inks.soft)
        first, last = event.rect().top() // ROW, event.rect().bottom() // ROW
        for index in range(max(first, 0), min(last + 1, len(self.options))):
            y = index * ROW + 14
            self._draw_row(p, self.options[index], y)
            rule(p, 0, y + 26, self.width())

    def _draw_row(self, p: QPainter, option: PackOption, y: float) -> None:
        inks, units = theme.inks, self._store.units
        power = self._store.design.power
        fitted = power is not None and power.pack.name == option.pack.name
        state_mark(p, 6, y, option.level)
        write(p, 18, y + 4, fit(option.pack.name, NAME - 20), VALUE, inks.live if fitted else inks.ink, fitted)
        if option.reach is not None:
            x1, x2 = (self._x(v) for v in option.reach)
            line(p, x1, y, x2, y, inks.ink, 1.5)
            for x in (x1, x2):
                line(p, x, y - 5, x, y + 5, inks.ink, 1.5)
        if option.balance is not None:
            x = self._x(option.balance)
            line(p, x, y - 8, x, y + 8, inks.live, 2.5)
        mass, ratio, time = self.columns()
        if option.mass is not None:
            for x, value, quantity in (
                (mass, option.mass, "mass"),
                (ratio, option.thrust_ratio, "ratio"),
                (time, option.endurance, "time"),
            ):
                write(p, x, y + 4, "–" if value is None else shown(value, quantity, units), VALUE, align="right")
        elif option.pack.mass is not None:
            words = f"the pack {with_unit(option.pack.mass, 'mass', units)}"
            write(p, time, y + 4, words, LABEL, inks.soft, align="right")
        told = option.verdict.render(units)
        write(p, 18, y + 19, fit(told, self.width() - 100, LABEL), LABEL, inks.soft, halo=True)
