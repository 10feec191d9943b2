"""“Built as”: the ways a part could be built, as small pictures with what each weighs and where it stalls."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QColor, QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QWidget

from ridgeline.design.airframe import Body, Surface
from ridgeline.desk.paint import fit, hatch, line, outline, path_of, pen, write
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, theme
from ridgeline.desk.widgets.buttons import DrawnButton, discard
from ridgeline.engine.aero.sections import section_of
from ridgeline.engine.build.whole import parts_of
from ridgeline.engine.sizing.offers import LABELS, Offer, built_as, offers
from ridgeline.units import Units, shown, with_unit

#: Height of a picture with its words, and of the drawing in it, px.
TALL = 62
_DRAWING = 26
#: Narrower pictures than this cannot be read, px.
_NARROW = 56
#: Sections are drawn so much taller than true: what is inside has to be seen.
_TALLER = 1.8


class BuiltPicture(DrawnButton):
    """One way to build, pressed to choose it."""

    def __init__(self, row: BuiltRow, offer: Offer) -> None:
        super().__init__(row)
        self.offer, self._row = offer, row

    def tell(self, offer: Offer, units: Units) -> None:
        """Show an offer, in the builder's units."""
        self.offer = offer
        mass = with_unit(offer.mass, "mass", units)
        limit = "" if offer.limit is None else f", lift limit {offer.limit:.2f}"
        words = f"{LABELS[offer.form]}: {mass}{limit}"
        self.setAccessibleName(f"built as {words}")
        self.setToolTip(words)
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(64, TALL)

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks, p = theme.inks, QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        chosen = self._row.form == self.offer.form
        ink = inks.live if chosen or self.live else inks.ink
        if chosen:
            p.fillRect(self.rect(), inks.wash)
            p.fillRect(QRectF(0, 0, self.width(), 2.5), inks.live)
        write(p, 4, 14, fit(LABELS[self.offer.form], self.width() - 6, LABEL, chosen), LABEL, ink, chosen)
        box = QRectF(5, 18, self.width() - 10, _DRAWING)
        draw_surface(p, box, self.offer, ink) if isinstance(self.offer.part, Surface) else draw_body(
            p, box, self.offer, ink
        )
        units = self._row.store.units
        y = self.height() - 6
        write(p, 4, y, shown(self.offer.mass, "mass", units), LABEL, ink, chosen)
        if self.offer.limit is not None:
            write(p, self.width() - 4, y, f"{self.offer.limit:.2f}", LABEL, inks.soft, align="right")
        line(p, self.width() - 0.5, 4, self.width() - 0.5, self.height() - 4, inks.hair)


def draw_surface(p: QPainter, box: QRectF, offer: Offer, ink: QColor) -> None:
    """Draw the section of a surface with what it is made of inside."""
    part = offer.part
    assert isinstance(part, Surface) and part.built is not None
    shape = section_of(part)
    wide, base = box.width(), box.bottom() - 6
    thick = max(float(shape.outline[:, 1].max() - shape.outline[:, 1].min()), 1e-3)
    # Drawn taller than true, and thin plates thick enough to be told from a line.
    tall = max(min(_TALLER, (box.height() - 8) / (thick * wide)), 4.0 / (thick * wide))
    points = [(box.left() + a * wide, base - b * wide * tall) for a, b in shape.outline.tolist()]
    path = path_of(points)
    filled = offer.form == "core"
    outline(p, path, ink, 1.2, theme.inks.wash)
    if filled:
        hatch(p, path, theme.inks.soft)
    if offer.form in ("folded", "folded_under", "ribbed") and part.built.strips:
        x, high = box.left() + (part.built.strip_place - 0.06) * wide, 0.7 * thick * wide * tall
        p.fillRect(QRectF(x, base - 0.15 * thick * wide * tall - high, 0.12 * wide, high), ink)
    if offer.form == "ribbed":
        hatch(p, path, theme.inks.hair, rising=False)
    if offer.form == "printed":
        inner = [
            (box.left() + (0.06 + 0.86 * a) * wide, base - 2 - 0.62 * b * wide * tall)
            for a, b in shape.outline.tolist()
        ]
        outline(p, path_of(inner), ink, 0.7)
    if offer.form == "bought":
        write(p, box.center().x(), base - 2, "?", LABEL, theme.inks.soft, align="middle")


def draw_body(p: QPainter, box: QRectF, offer: Offer, ink: QColor) -> None:
    """Draw a body's cross-section as it is built."""
    x, y, side = box.center().x(), box.center().y(), box.height() - 4
    square = QRectF(x - side / 2, y - side / 2, side, side)
    p.setPen(pen(ink, 1.2))
    p.setBrush(Qt.BrushStyle.NoBrush)
    form = offer.form
    if form == "profile":
        p.fillRect(QRectF(x - 2, square.top(), 4, side), ink)
    elif form == "stick":
        p.fillRect(QRectF(x - 3, y - 3, 6, 6), ink)
    elif form in ("box", "folded_box"):
        p.drawRect(square)
        if form == "box":
            p.drawRect(square.adjusted(3, 3, -3, -3))
        else:
            p.drawLine(square.topLeft(), square.topLeft() + (square.center() - square.topLeft()) / 2)
    else:
        p.drawEllipse(square)
        if form == "printed":
            p.drawEllipse(square.adjusted(2.5, 2.5, -2.5, -2.5))
        if form == "carved":
            hatch(p, square, theme.inks.soft)
        if form == "bought":
            write(p, x, y + 4, "?", LABEL, theme.inks.soft, align="middle")


class BuiltRow(QWidget):
    """The pictures for one part of the design, side by side; hidden where there is none."""

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent)
        self.store = store
        self.path = ""
        self.pictures: dict[str, BuiltPicture] = {}
        self.setAccessibleName("ways to build the part")

    @property
    def part(self) -> Surface | Body | None:
        """The part whose ways are shown; None where there is none."""
        return dict(parts_of(self.store.design)).get(self.path)

    @property
    def form(self) -> str:
        """The form the part is built in; "" where that is not said."""
        part = self.part
        return "" if part is None or part.built is None else part.built.form

    def show_part(self, path: str) -> None:
        """Show the ways a part at a path can be built; "" for none."""
        self.path = path
        part = self.part
        self.setVisible(part is not None)
        found = {} if part is None else {offer.form: offer for offer in offers(part, self.store.design.brief)}
        if list(found) != list(self.pictures):
            for old in self.pictures.values():
                discard(old)
            self.pictures = {form: BuiltPicture(self, offer) for form, offer in found.items()}
            for form, picture in self.pictures.items():
                picture.clicked.connect(lambda _=False, f=form: self.choose(f))
                picture.show()
        for form, offer in found.items():
            self.pictures[form].tell(offer, self.store.units)
        self._arrange()

    def choose(self, form: str) -> None:
        """Build the part in another form, as one undoable step."""
        part = self.part
        if part is not None and form != self.form:
            self.store.edit(built_as(self.store.design, self.path, form), f"{part.name}: {LABELS[form].lower()}")

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._arrange()

    def tall_for(self, width: int) -> int:
        """Return how tall the row has to be in a width, px: narrow ones take two lines."""
        return TALL * self._lines(width)

    def _lines(self, width: int) -> int:
        return 1 if width >= _NARROW * len(self.pictures) else 2

    def _arrange(self) -> None:
        in_line = -(-len(self.pictures) // self._lines(self.width())) or 1
        each = self.width() / in_line
        for number, picture in enumerate(self.pictures.values()):
            row, index = divmod(number, in_line)
            left = int(index * each)
            picture.setGeometry(left, row * TALL, int((index + 1) * each) - left, TALL)
