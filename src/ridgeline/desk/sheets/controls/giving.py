"""What a linkage gives: how far the dive pushes its control back, and what a turn of the clevis or a tooth sets."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter

from ridgeline.desk.paint import brush_of, fit, heading, pen, write
from ridgeline.desk.sheets.base import Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.advice.line_rules import MUCH, TOLD
from ridgeline.engine.controls.linkage import neutral_shift
from ridgeline.engine.register import CONTROL_CENTRE, CONTROL_GIVE, CONTROL_STEPS, CONTROL_TIME
from ridgeline.engine.stages.linked import LinkedControl
from ridgeline.units import with_unit

#: How tall the block is at least: heading, bar and one row, px.
TALL, _ROW = 70, 20


def draw_giving(sheet: Sheet, p: QPainter, row: LinkedControl, area: QRectF) -> None:
    """Draw how far the dive pushes a control back, of its throw, and what sets its neutral.

    Parameters
    ----------
    sheet : Sheet
        Whose figures are pressed.
    p : QPainter
    row : LinkedControl
    area : QRectF
        Nothing is drawn into one less tall than `TALL`.
    """
    if area.height() < TALL:
        return
    inks, units = theme.inks, sheet.store.units
    most, given = max(row.sides[0].throw), row.given
    heading(p, area.left(), area.top(), area.width(), "It gives", "in a dive, of its throw", strong=False)
    y = area.top() + 26
    left, wide = area.left() + 0.36 * area.width(), 0.30 * area.width()
    share = given.whole / most if most > 0 else 0.0
    write(p, area.left() + 22, y, fit(_parts(row), left - area.left() - 30, VALUE), VALUE, inks.ink)
    ink = inks.predicted if share <= TOLD else inks.look if share <= MUCH else inks.stop
    p.fillRect(QRectF(left, y - 9, wide * min(share, 1.0), 9), brush_of(ink, 140))
    p.setPen(pen(inks.hair, 1))
    p.setBrush(Qt.BrushStyle.NoBrush)
    p.drawRect(QRectF(left, y - 9, wide, 9))
    told = with_unit(given.whole, "angle", units, 1)
    sheet.written(p, left + wide + 46, y, told, CONTROL_GIVE.key(row.control.id), VALUE, align="right")
    write(p, area.right(), y, f"of {with_unit(most, 'angle', units, 0)}", LABEL, inks.soft, align="right")
    y += _ROW + 2
    for words in _setting(sheet, row):
        if y > area.bottom():
            break
        write(p, area.left() + 22, y, fit(words, area.width() - 22, LABEL), LABEL, inks.soft)
        y += _ROW - 2


def _parts(row: LinkedControl) -> str:
    """Name what gives most."""
    given = row.given
    parts = {"the rod": given.rod + given.twist, "the arm": given.arm, "the horn's base": given.horn}
    return max(parts, key=lambda name: parts[name]) if given.whole > 0 else "nothing"


def _setting(sheet: Sheet, row: LinkedControl) -> list[str]:
    """Say what sets the neutral, and what lines do at the ends of the travel."""
    units, one = sheet.store.units, row.linkage
    if one.kind == "direct":
        return ["its servo turns it without a rod: by sub-trim alone"]
    rod, tooth = neutral_shift(one)
    said = [f"{with_unit(0.001, 'length', units)} more rod sets it {with_unit(rod, 'angle', units, 1)}, "
            f"a tooth {with_unit(tooth, 'angle', units, 1)}"]  # fmt: skip
    time, steps = (sheet.store.report.value(family.key(row.control.id)) for family in (CONTROL_TIME, CONTROL_STEPS))
    centre = sheet.store.report.value(CONTROL_CENTRE.key(row.control.id))
    if time is not None and steps is not None and centre is not None:
        said.append(f"full throw in {with_unit(time, 'seconds', units)} and {steps:.0f} steps, "
                    f"back within {with_unit(centre, 'angle', units, 1)}")  # fmt: skip
    if one.kind == "pull_pull":
        slack, tight = (with_unit(value, "length", units, 1) for value in row.slack)
        said.append(f"the other line: {slack} slack, {tight} too short at worst")
    if one.kind == "spring_line" and row.spring is not None:
        bent = "" if row.bent is None else f", moves its panel's edge {with_unit(row.bent, 'length', units, 1)}"
        said.append(f"its spring holds {with_unit(row.spring, 'torque', units)} more than the air{bent}")
    return said
