"""The gallery of samples: every shipped design as a silhouette, all to one scale, pressed to open it."""

from __future__ import annotations

from functools import lru_cache

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from ridgeline.design.document import Design
from ridgeline.desk.drawing import View, draw_aircraft, extent
from ridgeline.desk.paint import fit, pen, write
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import DrawnButton
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names
from ridgeline.units import with_unit

#: Spans differ by more than six to one: the drawn scale goes with this power of a sample's own size.
_EVENED = 0.45


@lru_cache(maxsize=16)
def sample(name: str) -> Design:
    """Return a shipped sample, read once."""
    design: Design = load(f"demo:{name}")
    return design


class SampleButton(DrawnButton):
    """One sample: plan and front, its name, span and what it is for."""

    def __init__(self, parent: QWidget, store: Store, name: str) -> None:
        super().__init__(parent)
        self.name, self._store = name, store
        design = sample(name)
        self.setText(design.name)
        self.setAccessibleName(f"open the sample {design.name}: {design.note}")
        self.setToolTip(f"{design.name}: {design.note}")

    def sizeHint(self) -> QSize:
        return QSize(180, 220)

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks, design = theme.inks, sample(self.name)
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        if self.live:
            p.fillRect(self.rect(), inks.wash)
        if self.hasFocus():
            p.setPen(pen(inks.live, 1, Qt.PenStyle.DotLine))
            p.drawRect(QRectF(0.5, 0.5, self.width() - 1, self.height() - 1))
        colour = inks.live if self.live else inks.ink
        base = self.height() - 26
        write(p, 8, base, fit(design.name, self.width() - 16, VALUE, True), VALUE, colour, True)
        write(p, 8, base + 16, fit(design.note.partition(", estuary")[0], self.width() - 16, LABEL), LABEL, inks.soft)
        plan, front = extent(design, "plan"), extent(design, "front")
        room = QRectF(10, 24, self.width() - 20, self.height() - 74)
        tall = plan.height() + 0.12 * plan.height() + front.height()
        scale = min(room.width() / max(plan.width(), 1e-3), room.height() / max(tall, 1e-3))
        # A small one is drawn smaller than a large one, though not by as much as it is.
        scale *= min((plan.width() / _LARGEST) ** _EVENED, 1.0)
        across = room.center().x() - plan.center().x() * scale
        top = room.top() + 0.5 * (room.height() - tall * scale)
        draw_aircraft(p, design, View("plan", across, top - plan.top() * scale, scale), fill=inks.paper)
        middle = top + (1.12 * plan.height() + 0.5 * front.height()) * scale
        across = room.center().x() - front.center().x() * scale
        draw_aircraft(p, design, View("front", across, middle - front.center().y() * scale, scale), fill=inks.paper)
        words = f"{with_unit(front.width(), 'length', self._store.units)} span"
        if design.power is None:
            words += ", no motor"
        if design.configurations:
            words += f", {len(design.configurations)} sets"
        write(p, 8, 16, words, LABEL, inks.soft)


#: Span that is drawn as large as its place lets it, m.
_LARGEST = 4.5


def sample_buttons(parent: QWidget, store: Store) -> dict[str, SampleButton]:
    """Return a button for each sample, small aircraft first."""
    names = sorted(gallery_names(), key=lambda name: extent(sample(name), "front").width())
    return {name: SampleButton(parent, store, name) for name in names}
