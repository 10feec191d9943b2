"""The purposes to choose from, each with its silhouette and its usual loading."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QAbstractButton, QWidget

from ridgeline.desk.paint import pen, rule, write
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.sizing.purposes import PURPOSES

#: Width of the column of purposes; rows, and the tighter ones of a window lower than this.
COLUMN = 246
PURPOSE_ROW, TIGHT_ROW, TIGHT_BELOW = 22, 17, 640


class PurposeRow(QAbstractButton):
    """One purpose with its usual loading and thrust ratio."""

    def __init__(self, parent: QWidget, store: Store, key: str) -> None:
        super().__init__(parent)
        self._store, self.key = store, key
        self.setCheckable(True)
        self.setAccessibleName(f"purpose {PURPOSES[key].label}")
        self.setToolTip(f"{PURPOSES[key].label}: sets the starting values; pressed again, in place of yours")
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def sizeHint(self) -> QSize:
        return QSize(COLUMN, PURPOSE_ROW)

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks, values = theme.inks, PURPOSES[self.key]
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        chosen = self._store.design.brief.purpose == self.key
        live = chosen or self.hasFocus() or self.underMouse()
        if chosen:
            p.fillRect(self.rect(), inks.wash)
            p.fillRect(QRectF(0, 0, 3, self.height()), inks.live)
        colour = inks.live if live else inks.ink
        base = self.height() // 2 + 4
        write(p, 8, base, values.label, VALUE, colour, chosen)
        unit = self._store.units["loading"]
        low, high = (f"{v * unit.factor:.0f}" for v in values.loading)
        write(p, 158, base, f"{low}–{high}", LABEL, colour, align="right")
        write(p, 206, base, "–".join(f"{v:g}" for v in values.thrust_ratio), LABEL, colour, align="right")
        self._silhouette(p, QRectF(214, self.height() / 2 - 8, 30, 16))
        rule(p, 0, self.height() - 1, self.width())

    def _silhouette(self, p: QPainter, box: QRectF) -> None:
        """Sketch the purpose's usual aspect ratio in plan; the tailless one swept."""
        values = PURPOSES[self.key]
        span = box.width()
        chord = span / (0.5 * sum(values.aspect_ratio))
        x, y = box.center().x(), box.top() + 4
        p.setPen(pen(theme.inks.ink, 1))
        p.setBrush(theme.inks.paper)
        if self.key == "tailless":
            from ridgeline.desk.paint import path_of

            p.drawPath(
                path_of(
                    [
                        (x, y - 2),
                        (x + span / 2, y + 6),
                        (x + span / 2, y + 9),
                        (x, y + 4),
                        (x - span / 2, y + 9),
                        (x - span / 2, y + 6),
                    ]
                )
            )
            return
        p.drawRect(QRectF(x - 1.2, y - 3, 2.4, 15))
        p.drawRect(QRectF(x - span / 2, y, span, max(chord, 2.2)))
        p.drawRect(QRectF(x - 4.5, y + 9, 9, 2.4))
