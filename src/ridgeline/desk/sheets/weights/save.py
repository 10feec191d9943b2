"""Save: what makes it lighter, most first, with what else each changes and what it costs."""

from __future__ import annotations

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from ridgeline.design.document import Design
from ridgeline.desk.paint import fit, heading, rule, state_mark, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton, discard
from ridgeline.engine.advice.savings import Saving, savings
from ridgeline.engine.report import Remedy
from ridgeline.units import number, with_unit

_ROW, _TOP = 44, 84


class WeightsSaveSheet(Sheet):
    """Ways to save, as a ranked list that says its price."""

    key = "weights.save"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.savings: tuple[Saving, ...] = ()
        self.buttons: list[RuledButton] = []
        self._of: Design | None = None

    def subtitle(self) -> str:
        return "only what is still guessed; what was weighed stays as it is"

    def _fill(self) -> None:
        if self._of is self.store.design:
            return
        from ridgeline.library import shipped_shelf

        self._of = self.store.design
        self.savings = savings(self.store.design, self.store.report, shipped_shelf())
        for old in self.buttons:
            discard(old)
        self.buttons = []
        for number_, saving in enumerate(self.savings):
            button = RuledButton(self, "Do it")
            button.setAccessibleName(saving.text.render(self.store.units))
            remedy = Remedy(f"save_{number_}", saving.text, saving.changes)
            button.clicked.connect(lambda _=False, r=remedy: self.store.apply_remedy(r))
            button.rested.connect(lambda on, r=remedy: self.store.show_ghost(r if on else None))
            self.buttons.append(button)

    def arrange(self) -> None:
        self._fill()
        for index, button in enumerate(self.buttons):
            y = _TOP + 10 + index * _ROW
            button.setGeometry(self.width() - PAD - 64, y, 64, 24)
            button.setVisible(y + 40 < self.height())

    def draw(self, p: QPainter) -> None:
        inks, units = theme.inks, self.store.units
        heading(p, PAD, 52, self.width() - 2 * PAD, "What saves most", "resting on one draws its ghost")
        right = self.width() - PAD - 80
        columns = (right - 150, right - 76, right)
        for x, words in zip(columns, ("balance", "T/W", "min"), strict=True):
            write(p, x, _TOP - 4, words, LABEL, inks.soft, align="right")
        if not self.savings:
            words = "Nothing here is still a guess that could be made lighter."
            write(p, PAD, _TOP + 24, words, VALUE, inks.soft)
            return
        most = max(saving.saved for saving in self.savings)
        for index, saving in enumerate(self.savings):
            y = _TOP + 10 + index * _ROW
            if y + 40 >= self.height():
                break
            state_mark(p, PAD + 6, y + 8, "look" if saving.grave else "settled")
            room = columns[0] - PAD - 250
            write(p, PAD + 20, y + 12, fit(saving.text.render(units), room + 60, VALUE, True), VALUE, bold=True)
            write(p, PAD + 20, y + 28, fit(saving.price.render(units), room + 120, LABEL), LABEL, inks.soft)
            long = 70 * saving.saved / most
            bar = QRectF(columns[0] - 178, y + 4, long, 9)
            p.fillRect(bar, inks.live)
            write(p, bar.right() + 6, y + 13, with_unit(saving.saved, "mass", units, 1), VALUE, inks.live, True)
            for x, value, decimals in (
                (columns[0], 100 * saving.balance, 1),
                (columns[1], saving.thrust_ratio, 2),
                (columns[2], saving.endurance / 60, 1),
            ):
                sign = "+" if value > 0 else ""
                tail = " %" if x == columns[0] else ""
                write(p, x, y + 12, f"{sign}{number(value, decimals)}{tail}", VALUE, align="right")
            rule(p, PAD, y + 34, self.width() - 2 * PAD)
