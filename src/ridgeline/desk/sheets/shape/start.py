"""Start from: every layout drawn from the brief, to one scale; pressing one lays it out near its balance."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from ridgeline.design.brief import Brief
from ridgeline.design.document import Design
from ridgeline.desk.drawing import View, draw_aircraft, extent
from ridgeline.desk.laying_out import lay_out_airframe
from ridgeline.desk.paint import fit, line, pen, rule, wrap, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.shape.gallery import SampleButton, sample_buttons
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import DrawnButton, LeafButton
from ridgeline.engine.sizing.arrangements import ARRANGEMENTS
from ridgeline.errors import DesignError
from ridgeline.units import shown, with_unit

_COLUMNS = 5
_TOP, _FOOT = 64, 34


def briefed(brief: Brief, layout: str) -> Brief:
    """Return the brief with another layout, its purpose's values kept to what that layout can have."""
    from ridgeline.engine.sizing.constraints import start_brief

    tailless = ARRANGEMENTS[layout].family == "tailless"
    changed = brief.model_copy(update={"layout": layout})
    if tailless != (brief.purpose == "tailless"):
        changed = start_brief(changed, "tailless" if tailless else "sport")
    return Brief.model_validate(changed.model_dump() | {"layout": layout})


class LayoutButton(DrawnButton):
    """One layout as a silhouette with its name and what it is good for."""

    def __init__(self, sheet: ShapeStartSheet, key: str) -> None:
        super().__init__(sheet)
        facts = ARRANGEMENTS[key]
        self.key, self._sheet = key, sheet
        self.setText(facts.label)
        self.setAccessibleName(f"start from {facts.label}: {facts.words}")
        self.setToolTip(f"{facts.label}: {facts.words}")

    def sizeHint(self) -> QSize:
        return QSize(140, 150)

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks, facts = theme.inks, ARRANGEMENTS[self.key]
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        chosen = self._sheet.store.design.brief.layout == self.key
        live = self.live
        if live or chosen:
            p.fillRect(self.rect(), inks.wash)
        if chosen:
            p.fillRect(QRectF(0, 0, self.width(), 3), inks.live)
        colour = inks.live if live or chosen else inks.ink
        base = self.height() - 30
        write(p, 8, base, facts.label, VALUE, colour, True)
        write(p, 8, base + 16, fit(facts.words, self.width() - 16, LABEL), LABEL, inks.soft)
        if self.hasFocus():
            p.setPen(pen(inks.live, 1, Qt.PenStyle.DotLine))
            p.drawRect(QRectF(0.5, 0.5, self.width() - 1, self.height() - 1))
        sketch = self._sheet.sketch_of(self.key)
        if not sketch.surfaces:
            for index, words in enumerate(wrap(self._sheet.why_not(self.key), self.width() - 16, LABEL)[:6]):
                write(p, 8, 20 + 15 * index, words, LABEL, inks.stop)
            return
        scale = self._sheet.common_scale()
        tall = self._sheet.tallest("front") * scale
        room = QRectF(8, 10, self.width() - 16, self.height() - 62 - tall)
        for kind, middle in (("plan", room.center().y()), ("front", room.bottom() + 6 + tall / 2)):
            box = extent(sketch, kind)
            x0, y0 = room.center().x() - box.center().x() * scale, middle - box.center().y() * scale
            draw_aircraft(p, sketch, View(kind, x0, y0, scale), fill=inks.paper)
        span = shown(extent(sketch, "front").width(), "length", self._sheet.store.units)
        write(p, 8, 16, span, LABEL, inks.soft)


class ShapeStartSheet(Sheet):
    """The gallery of layouts."""

    key = "shape.start"
    needs_airframe = False

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self._sketches: dict[str, Design] = {}
        self._reasons: dict[str, str] = {}
        self._of: Brief | None = None
        self.layouts = {key: LayoutButton(self, key) for key in ARRANGEMENTS}
        for key, button in self.layouts.items():
            button.clicked.connect(lambda _=False, k=key: self.lay_out(k))
        #: Made when the gallery is first turned to.
        self.samples: dict[str, SampleButton] = {}
        self.gallery = False
        self.ways = [LeafButton(self, words, chosen=k == 0) for k, words in enumerate(("A layout", "A sample"))]
        for k, way in enumerate(self.ways):
            way.clicked.connect(lambda _=False, on=bool(k): self.turn(on))

    def turn(self, gallery: bool) -> None:
        """Show the layouts, or the gallery of samples."""
        self.gallery = gallery
        if gallery and not self.samples:
            self.samples = sample_buttons(self, self.store)
            for name, button in self.samples.items():
                button.clicked.connect(lambda _=False, n=name: self.open_sample(n))
        for k, way in enumerate(self.ways):
            way.choose(bool(k) == gallery)
        self.refresh()

    def open_sample(self, name: str) -> None:
        """Open a sample; unsaved work stays in its journal."""
        if self.store.open(f"demo:{name}"):
            self.wants.emit("balance")

    def subtitle(self) -> str:
        brief, units = self.store.design.brief, self.store.units
        if self.gallery:
            return f"{len(self.samples)} samples; press one to open it"
        return f"for {with_unit(brief.ceiling, 'mass', units)} at most; press a layout"

    def sketch_of(self, layout: str) -> Design:
        """Return the sketch of a layout at the present brief, empty where it comes to no such airframe."""
        brief = self.store.design.brief
        if self._of is not brief:
            self._of, self._sketches, self._reasons = brief, {}, {}
        if layout not in self._sketches:
            from ridgeline.engine.sizing.outline import sketch

            try:
                self._sketches[layout] = sketch(briefed(brief, layout))
            except DesignError as error:
                self._sketches[layout] = Design()
                self._reasons[layout] = f"Not from these wishes: {error.understood}."
        return self._sketches[layout]

    def why_not(self, layout: str) -> str:
        """Return why the present brief comes to no such airframe."""
        return self._reasons.get(layout, "")

    def _drawn(self) -> list[Design]:
        return [sketch for key in self.layouts if (sketch := self.sketch_of(key)).surfaces]

    def tallest(self, kind: str) -> float:
        """Return the height of the tallest sketch in a view, m."""
        return max((extent(sketch, kind).height() for sketch in self._drawn()), default=0.0)

    def common_scale(self) -> float:
        """Return the scale at which the largest of the sketches, plan over front view, fills its place."""
        button = next(iter(self.layouts.values()))
        wide = max((extent(sketch, "plan").width() for sketch in self._drawn()), default=1.0)
        tall = self.tallest("plan") + self.tallest("front")
        return min((button.width() - 20) / wide, (button.height() - 74) / max(tall, 1e-3))

    def lay_out(self, layout: str) -> None:
        """Lay a layout out from the brief as one undoable step, and turn to its views."""
        called = ARRANGEMENTS[layout].label
        words = f"{called} laid out from the brief, balanced for its first throw. Undo brings the old one back."
        lay_out_airframe(self, briefed(self.store.design.brief, layout), f"Start from {called.lower()}", words)

    def arrange(self) -> None:
        x = PAD + 78
        for way in self.ways:
            way.move(x, 34)
            x += way.width() + 6
        for layout in self.layouts.values():
            layout.setVisible(not self.gallery)
        for sample in self.samples.values():
            sample.setVisible(self.gallery)
        if self.gallery:
            self._arrange_samples()
            return
        rows = -(-len(self.layouts) // _COLUMNS)
        width = (self.width() - 2 * PAD) / _COLUMNS
        height = (self.height() - _TOP - _FOOT) / rows
        for index, button in enumerate(self.layouts.values()):
            row, column = divmod(index, _COLUMNS)
            button.setGeometry(
                round(PAD + column * width), round(_TOP + row * height), round(width) - 1, round(height) - 1
            )

    def _arrange_samples(self) -> None:
        columns = max(len(self.samples) // 2, 1)
        width, height = (self.width() - 2 * PAD) / columns, (self.height() - _TOP - _FOOT) / 2
        for index, button in enumerate(self.samples.values()):
            row, column = divmod(index, columns)
            place = round(PAD + column * width), round(_TOP + row * height)
            button.setGeometry(*place, round(width) - 1, round(height) - 1)

    def draw(self, p: QPainter) -> None:
        inks = theme.inks
        write(p, PAD, 50, "Start from", 13, bold=True)
        if self.gallery:
            rule(p, PAD, 58, self.width() - 2 * PAD, strong=True)
            rule(p, PAD, _TOP + (self.height() - _TOP - _FOOT) / 2 - 1, self.width() - 2 * PAD)
            words = "Made-up aircraft of an estuary survey club; the smaller drawn a little larger than they are."
            write(p, PAD, self.height() - 12, words, LABEL, inks.soft)
            return
        words = f"to one scale, from the Brief; spans in {self.store.units['length'].symbol}"
        write(p, self.width() - PAD, 50, words, LABEL, inks.soft, align="right")
        rule(p, PAD, 58, self.width() - 2 * PAD, strong=True)
        rows = -(-len(self.layouts) // _COLUMNS)
        height = (self.height() - _TOP - _FOOT) / rows
        width = (self.width() - 2 * PAD) / _COLUMNS
        for row in range(1, rows + 1):
            rule(p, PAD, _TOP + row * height - 1, self.width() - 2 * PAD)
        for column in range(1, _COLUMNS):
            x = round(PAD + column * width) - 0.5
            line(p, x, _TOP, x, _TOP + rows * height, inks.hair)
        write(
            p,
            PAD,
            self.height() - 12,
            "Parts, weights and power are chosen anew; the brief, the name and the pictures under the views stay.",
            LABEL,
            inks.soft,
        )
