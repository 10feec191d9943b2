"""Pictures under the views: put in from a file, scaled by two picked points and their distance, dimmed."""

from __future__ import annotations

import base64
import math
from functools import lru_cache
from pathlib import Path

from PySide6.QtCore import QBuffer, QByteArray, QIODevice, QRectF, Qt
from PySide6.QtGui import QImage, QImageReader, QImageWriter, QPainter
from PySide6.QtWidgets import QWidget

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.design.underlay import MOST_PICTURE, Underlay, ViewName
from ridgeline.desk.drawing import View, extent
from ridgeline.desk.paint import line, pen, write
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, theme
from ridgeline.desk.widgets.fields import Entry
from ridgeline.errors import DesignError
from ridgeline.files.reading import read_bytes
from ridgeline.typed import parse

#: Longest side kept, px: enough to trace from, small enough to live in the design.
_MOST_PIXELS = 1600
_MOST_FILE = 40_000_000
#: Larger ones would take gigabytes to unpack; smaller or more slender ones hold nothing to trace.
_MOST_READ, _LEAST_SIDE, _MOST_SLENDER = 60_000_000, 16, 50


def picture_from_file(place: str | Path) -> tuple[str, int, int]:
    """Read a picture, shrink it if large, and return it as base64 with its width and height in px.

    Raises
    ------
    DesignError
        When the file cannot be read, is too large, too small, or no picture.
    """
    path = Path(place)
    store = QByteArray(read_bytes(path, _MOST_FILE, "picture"))
    buffer = QBuffer(store)
    buffer.open(QIODevice.OpenModeFlag.ReadOnly)
    reader = QImageReader(buffer)
    reader.setAutoTransform(True)
    size = reader.size()
    if size.isValid() and size.width() * size.height() > _MOST_READ:
        understood = f"a picture of {size.width()} × {size.height()} px"
        raise DesignError(path.name, understood, f"pictures of up to {_MOST_READ // 10**6} million px")
    image = reader.read()
    if image.isNull():
        raise DesignError(path.name, "no picture", "a PNG, JPEG, BMP or GIF picture")
    if min(image.width(), image.height()) < _LEAST_SIDE or max(image.width(), image.height()) > _MOST_SLENDER * min(
        image.width(), image.height()
    ):
        understood = f"a picture of {image.width()} × {image.height()} px"
        allowed = f"{_LEAST_SIDE} px or more each way, at most {_MOST_SLENDER} times as long as wide"
        raise DesignError(path.name, understood, allowed)
    if max(image.width(), image.height()) > _MOST_PIXELS:
        image = image.scaled(
            _MOST_PIXELS, _MOST_PIXELS, Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation
        )
    data = _encoded(image, "PNG" if image.hasAlphaChannel() else "JPG")
    if len(data) > MOST_PICTURE:
        data = _encoded(image, "JPG")
    return data, image.width(), image.height()


def _encoded(image: QImage, kind: str) -> str:
    store = QByteArray()
    buffer = QBuffer(store)
    buffer.open(QIODevice.OpenModeFlag.WriteOnly)
    writer = QImageWriter(buffer, QByteArray(kind.encode("ascii")))
    if kind == "JPG":
        writer.setQuality(82)
    writer.write(image)
    return base64.b64encode(store.data()).decode("ascii")


@lru_cache(maxsize=6)
def image_of(picture: str) -> QImage:
    """Return the decoded picture; an empty one when it is none."""
    try:
        data = base64.b64decode(picture, validate=True)
    except ValueError:
        return QImage()
    return QImage.fromData(data)


def add_underlay(store: Store, place: str | Path, view: ViewName) -> bool:
    """Put a picture under a view, as wide as the aircraft there, and select it."""
    try:
        data, width, height = picture_from_file(place)
    except DesignError as error:
        store.refused.emit(error)
        return False
    box = extent(store.design, view)
    size = max(box.width(), 0.1) / width
    made = Underlay(
        name=Path(place).name[:120],
        view=view,
        picture=data,
        across=round(box.center().x() - 0.5 * size * width, 4),
        along=round(box.center().y() - 0.5 * size * height, 4),
        metres_per_pixel=size,
    )
    if not store.edit([Change("underlays[-]", made)], f"Put a picture under the {view}"):
        return False
    store.select(f"underlays[{len(store.design.underlays) - 1}]")
    store.noted.emit("Now scale it: pick two points on the picture whose distance you know.")
    return True


def draw_underlays(p: QPainter, design: Design, view: View) -> None:
    """Draw the pictures under a view, dimmed."""
    for under in design.underlays:
        if under.view != view.kind or not under.shown:
            continue
        image = image_of(under.picture)
        if image.isNull():
            continue
        p.save()
        p.setOpacity(under.strength)
        p.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        p.drawImage(_box(under, view, image), image)
        p.restore()


def _box(under: Underlay, view: View, image: QImage) -> QRectF:
    size = under.metres_per_pixel * view.scale
    return QRectF(
        view.x0 + under.across * view.scale,
        view.y0 + under.along * view.scale,
        image.width() * size,
        image.height() * size,
    )


def scaled_by(under: Underlay, first: tuple[float, float], second: tuple[float, float], distance: float) -> Underlay:
    """Return the picture scaled so that two places on it, view metres now, stand ``distance`` apart.

    The first place stays where it is.

    Raises
    ------
    DesignError
        When the places are one, or the distance is none.
    """
    apart = math.dist(first, second)
    if apart <= 1e-9 or distance <= 0:
        understood = f"{distance:g} m between two places {apart:g} m apart"
        raise DesignError("scale of the picture", understood, "two places and their distance")
    k = distance / apart
    return Underlay.model_validate(
        under.model_dump()
        | {
            "metres_per_pixel": under.metres_per_pixel * k,
            "across": first[0] - k * (first[0] - under.across),
            "along": first[1] - k * (first[1] - under.along),
        }
    )


class ScaleTool(Entry):
    """Two picks on a picture, then their distance typed where the second was made."""

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, "distance between the two picked points", right=False)
        self._store = store
        self.index: int | None = None
        self.picks: list[tuple[float, float]] = []
        self.setProperty("off", True)
        self.setPlaceholderText("distance")
        self.setFixedSize(110, 22)
        self.hide()

    @property
    def picking(self) -> bool:
        """Tell whether the next press on the drawing is a pick."""
        return self.index is not None and len(self.picks) < 2

    def begin(self, index: int) -> None:
        """Start picking on one picture."""
        self.index, self.picks = index, []
        self.hide()
        self._store.noted.emit("Pick the first of two points on the picture.")

    def stop(self) -> None:
        """Give up, or be done."""
        self.index, self.picks = None, []
        self.hide()

    def pick(self, view: View, px: float, py: float) -> None:
        """Take one pick, in the view's own metres across and down."""
        self.picks.append(((px - view.x0) / view.scale, (py - view.y0) / view.scale))
        if len(self.picks) == 1:
            self._store.noted.emit("Now the second.")
            return
        self.setText("")
        self.setModified(True)
        self.move(int(px + 10), int(py - 11))
        self.show()
        self.raise_()
        self.setFocus()
        self._store.noted.emit("Type the distance between them, in any unit.")

    def accept(self, text: str) -> None:
        if self.index is None or len(self.picks) != 2 or not text.strip():
            return
        distance = float(parse(text, "length", path="distance", bare=self._store.unit_of("length")))
        index, picks = self.index, self.picks
        under = scaled_by(self._store.design.underlays[index], picks[0], picks[1], distance)
        # Done before the edit: losing the focus to it must not hand the same distance in twice.
        self.stop()
        self._store.edit([Change(f"underlays[{index}]", under)], "Scale the picture")

    def draw(self, p: QPainter, view: View) -> None:
        """Draw the picks on their view."""
        inks = theme.inks
        points = [(view.x0 + a * view.scale, view.y0 + b * view.scale) for a, b in self.picks]
        for index, (x, y) in enumerate(points):
            p.setPen(pen(inks.look, 1.5))
            p.drawEllipse(QRectF(x - 4, y - 4, 8, 8))
            write(p, x + 6, y - 6, str(index + 1), LABEL, inks.look, True, halo=True)
        if len(points) == 2:
            line(p, *points[0], *points[1], inks.look, 1.2, dash=True)
