"""What the controls can do, as short scales, and how the aircraft moves when left alone after a push."""

from __future__ import annotations

import math

import numpy as np
from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter

from ridgeline.desk.paint import fit, heading, line, write
from ridgeline.desk.scales import Plot, short_scale
from ridgeline.desk.sheets.base import Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.aero.modes import Motion
from ridgeline.engine.report import within
from ridgeline.units import shown, with_unit


def draw_powers(p: QPainter, sheet: Sheet, left: float, right: float, top: float) -> None:
    """List what the controls can do, each on a short scale with its wanted range."""
    inks, store, report = theme.inks, sheet.store, sheet.store.report
    heading(p, left, top + 22, right - left, "What they can do", "wanted hatched")
    handled = report.results.handling
    throw = handled.throws.pitch_up if handled else 0.0
    rows = (
        ("control.roll_helix", "Roll helix angle", (0.0, 0.2)),
        ("control.elevator_to_stall", "Elevator to stall", (0.0, max(1.6 * throw, 0.05))),
        ("control.pitch_sensitivity", "Cruise to stall", (0.0, 0.35)),
        ("control.rudder_sideslip", "Rudder, 10° sideslip", (0.0, 0.6)),
        ("stability.spiral_parameter", "Spiral parameter", (0.0, 10.0)),
        ("stability.dihedral", "Dihedral", (0.0, math.radians(14))),
        ("flap.elevator", "Elevator for flaps", (-0.2, 0.2)),
    )
    pitch = min((sheet.height() - top - 48) / len(rows), 36)
    y = top + 34 + pitch / 2
    for key, words, (low, high) in rows:
        figure, wanted = report.figures[key], report.wanted.get(key)
        if figure.value is None:
            write(p, left, y + 4, words, LABEL, inks.soft)
            write(p, right, y + 4, fit(figure.why_not, right - left - 140, LABEL), LABEL, inks.soft, align="right")
        else:
            write(p, left, y + 4, words, LABEL, inks.soft)
            decimals = {"ratio": 2, "angle": 1}.get(figure.quantity)
            text = with_unit(figure.value, figure.quantity, store.units, decimals)
            sheet.written(p, left + 190, y + 4, text, key, align="right")
            inside = within(figure.value, wanted)
            scale = QRectF(left + 206, y - 7, right - left - 212, 10)
            short_scale(
                p,
                scale,
                low,
                high,
                figure.value,
                (figure.below, figure.above),
                wanted,
                inks.live if inside else inks.look,
            )
        y += pitch


def draw_motions(p: QPainter, sheet: Sheet, left: float, right: float, top: float) -> None:
    """Draw the five motions after a push, as they die away or grow."""
    inks, found = theme.inks, sheet.store.report.results.motions
    heading(p, left, top + 22, right - left, "Left alone after a push", "in cruise, ± 30 %")
    if found is None:
        write(
            p,
            left,
            top + 52,
            fit(sheet.store.report.figures["modes.roll_half_time"].why_not, right - left),
            LABEL,
            inks.soft,
        )
        return
    rows: tuple[tuple[str, Motion | None, float], ...] = (
        ("Pitch", found.lengthwise.short_period, 2.0),
        ("Slow swing", found.lengthwise.phugoid, 40.0),
        ("Roll", found.sideways.roll, 0.5),
        ("Tail wag", found.sideways.dutch_roll, 6.0),
        ("Spiral", found.sideways.spiral, 20.0),
    )
    pitch = (sheet.height() - top - 48) / len(rows)
    for index, (words, motion, seconds) in enumerate(rows):
        y = top + 36 + (index + 0.5) * pitch
        write(p, left, y - 1, words, VALUE)
        soonest = sheet.store.report.figures["modes.spiral_double_time"].low if words == "Spiral" else None
        write(p, left, y + 13, _verdict(words, motion, soonest), LABEL, inks.soft)
        box = QRectF(left + 152, y - 0.36 * pitch, right - left - 152, 0.72 * pitch)
        line(p, box.left(), y, box.right(), y, inks.hair)
        write(p, box.right(), box.bottom() + 2, f"{seconds:g} s", 10, inks.soft, align="right")
        if motion is None:
            continue
        t = np.linspace(0.0, seconds, 160)
        push = np.exp(np.clip(motion.rate * t, -50, 1.2)) * np.cos(motion.frequency * t)
        size = max(float(np.abs(push).max()), 1.0)
        plot = Plot.of(box, (0.0, seconds), (-size, size))
        plot.curve(p, t, push, inks.look if motion.rate > 1e-3 else inks.live, 1.5)


def _verdict(words: str, motion: Motion | None, soonest: float | None) -> str:
    """Say in a few words how a motion goes; a growth also with the soonest it may double, s."""
    if motion is None:
        return "does not swing" if words in ("Slow swing", "Tail wag") else "no such motion"
    time = shown(motion.half_time, "ratio", decimals=2 if motion.half_time < 1 else 1)
    if not math.isfinite(motion.half_time) or motion.half_time > 600:
        return "stays as it is"
    if motion.rate > 0:
        return f"doubles in {time} s" + ("" if soonest is None else f", soonest {shown(soonest, 'ratio', decimals=0)}")
    if motion.frequency > 0:
        return f"half in {time} s, swings {motion.period:.1f} s"
    return f"half in {time} s"
