"""The three small drawings under the balance: sideways, up and down, and where the marks go."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter

from ridgeline.design.axes import mean_disc
from ridgeline.desk.drawing import View, body_points, chord_point, draw_aircraft, extent, path_in
from ridgeline.desk.paint import cg_mark, dimension, fit, line, outline, width_of, write
from ridgeline.desk.sheets.base import Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.advice.balance_rules import LEAST_HANG
from ridgeline.engine.geometry.reference import main_wing


def _title(p: QPainter, sheet: Sheet, rect: QRectF, words: str, aside: str) -> None:
    write(p, rect.left(), rect.top() + 12, words, VALUE, bold=True)
    room = rect.width() - width_of(words, VALUE, True) - 10
    write(p, rect.right(), rect.top() + 12, fit(aside, room, LABEL), LABEL, theme.inks.soft, align="right")


def draw_sideways(p: QPainter, sheet: Sheet, rect: QRectF) -> None:
    inks, design = theme.inks, sheet.store.design
    offset = sheet.store.report.value("balance.cg_y")
    if offset is None:
        return
    side = "starboard" if offset > 0 else "port"
    level = abs(offset) < 5e-5
    aside = "level" if level else f"{sheet.length(abs(offset), 1)} {sheet.store.units['length'].symbol} to {side}"
    _title(p, sheet, rect, "Sideways", aside)
    box = extent(design, "front")
    room = QRectF(rect.left() + 6, rect.top() + 20, rect.width() - 12, rect.height() - 46)
    scale = min(room.width() / box.width(), room.height() / box.height())
    view = View(
        "front", room.center().x() - box.center().x() * scale, room.center().y() - box.center().y() * scale, scale
    )
    draw_aircraft(p, design, view, fill=inks.paper)
    x = view.at((0.0, offset, 0.0))[0]
    line(p, x, room.top() - 4, x, room.bottom() + 6, inks.live, 2)
    write(p, rect.left(), rect.bottom() - 2, "port", LABEL, inks.soft)
    write(p, rect.right(), rect.bottom() - 2, "starboard", LABEL, inks.soft, align="right")


def draw_upright(p: QPainter, sheet: Sheet, rect: QRectF) -> None:
    inks, design, report = theme.inks, sheet.store.design, sheet.store.report
    height, power = report.value("balance.cg_z"), design.power
    thrust = report.value("power.static_thrust")
    if height is None or power is None or thrust is None:
        _title(p, sheet, rect, "Up and down", "no thrust line yet")
        return
    level = mean_disc(power)[1]
    gap = level - height
    word = "over" if gap > 0 else "under"
    unit = sheet.store.units["length"].symbol
    _title(p, sheet, rect, "Up and down", f"thrust {sheet.length(abs(gap), 0)} {unit} {word}")
    box = extent(design, "side")
    room = QRectF(rect.left() + 6, rect.top() + 20, rect.width() - 12, rect.height() - 46)
    scale = min(room.width() / box.width(), room.height() / box.height())
    view = View(
        "side", room.center().x() - box.center().x() * scale, room.center().y() - box.center().y() * scale, scale
    )
    for body in design.bodies:
        outline(p, path_in(view, body_points(body, "side")), inks.ink, 1.2)
    for surface in design.surfaces:
        if surface.role == "wing":
            start, end = (view.at(chord_point(surface, 0.0, share)) for share in (0.0, 1.0))
            line(p, *start, *end, inks.ink, 2)
    x, y = view.at((report.value("balance.cg_x") or 0.0, 0.0, height))
    line_y = view.at((0.0, 0.0, level))[1]
    line(p, rect.left() + 4, line_y, rect.right() - 4, line_y, inks.predicted, 1.2, dash=True)
    cg_mark(p, x, y, 5)
    moment = thrust * abs(gap)
    turn = "level" if moment < 5e-4 else ("nose down" if gap > 0 else "nose up")
    write(
        p,
        rect.left(),
        rect.bottom() - 2,
        fit(f"{moment:.2f} N m {turn} at full throttle", rect.width(), LABEL),
        LABEL,
        inks.soft,
    )


def draw_balance_marks(p: QPainter, sheet: Sheet, rect: QRectF) -> None:
    inks = theme.inks
    from_root = sheet.store.report.value("balance.mark")
    _title(p, sheet, rect, "Balance marks", "under the wing" if (from_root or 0.0) >= 0 else "ahead of the wing")
    if from_root is None:
        return
    wings = [s for s in sheet.store.design.surfaces if s.role == "wing"]
    wing = main_wing(wings) if wings else None
    if wing is None:
        return
    apart = 2 * sheet.store.design.brief.mark_out
    edge = rect.top() + 30
    line(p, rect.left(), edge, rect.right() - 66, edge, inks.ink, 2)
    write(p, rect.right(), edge + 4, "edge there", LABEL, inks.soft, align="right")
    middle, row = rect.left() + (rect.width() - 66) / 2, edge + 30
    for side in (-1, 1):
        p.setPen(Qt.PenStyle.NoPen)
        p.setBrush(inks.live)
        p.drawEllipse(QRectF(middle + side * 34 - 4, row - 4, 8, 8))
        p.setBrush(Qt.BrushStyle.NoBrush)
    dimension(p, middle - 34, middle + 34, row + 18, sheet.length(apart), witness=(row, row))
    line(p, rect.right() - 56, edge, rect.right() - 56, row, inks.live)
    write(p, rect.right() - 50, row + 4, sheet.length(abs(from_root)), VALUE, inks.live, True)
    write(p, rect.left(), rect.bottom() - 2, fit(_hang_words(sheet), rect.width(), LABEL), LABEL, inks.soft)


def _hang_words(sheet: Sheet) -> str:
    """Say how the model should hang from the marks."""
    depth, per_degree = (sheet.store.report.value(f"balance.{key}") for key in ("hang_depth", "hang_per_degree"))
    if depth is None or per_degree is None:
        return "support it here: it should lie level"
    unit = sheet.store.units["length"].symbol
    if depth < LEAST_HANG:
        return "turn it over and hold it here: upright it tips"
    return f"it should hang level; {sheet.length(per_degree, 1)} {unit} off tips it 1°"
