"""Small parts cut from ply: motor mounts with their bolts, notch and tabs, and horns; and what proves and sets a build.

Cards for throws, a square with its centre line, seats of wings at their incidence.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray
from shapely import Polygon
from shapely.geometry.base import BaseGeometry
from shapely.geometry.polygon import orient

from ridgeline.design.airframe import Surface
from ridgeline.design.axes import is_upright
from ridgeline.design.document import Design
from ridgeline.engine.build.pieces import Line
from ridgeline.engine.geometry.placed import outline_over_chord, placed
from ridgeline.engine.geometry.section_outline import split
from ridgeline.engine.report import Report
from ridgeline.engine.templates.fittings import (
    HORN_PLY,
    NOTCH,
    PLY,
    PLY_DENSITY,
    HornPlan,
    MountPlan,
    horns_of,
    mounts_of,
)
from ridgeline.engine.templates.patterns import Label, Pattern, circle, thickness

Array = NDArray[np.float64]
#: A throw card reaches so far beyond its control, m; what is longer is cut short there; letters, m.
BEYOND, LONGEST, _LETTERS = 0.020, 0.140, 0.004
#: A square has sides of this, m; a seat's foot is so high; a hole of a linkage, m.
SQUARE, FOOT, PIN = 0.150, 0.012, 0.0016
#: Forms that nothing is cut from sheet for.
_NO_BOARD = ("printed", "bought", "core", "stick", "carved")
#: A wing on a body's top is seated over at least this length, m, from this share of its chord.
_SEATED, _NOSE = 0.03, 0.05


def small_cuts_of(design: Design, report: Report, slot_fit: float) -> tuple[Pattern, ...]:
    """Return the small parts and aids of a design that hang on its results.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    slot_fit : float
        Tabs are wider than their slots by this, m.

    Returns
    -------
    tuple of Pattern
        Mounts and horns of ply; throw cards, a square and seats of the board of what they prove. They weigh in the
        list of pieces and in nothing else. Nothing of a design without board: its small parts are printed.
    """
    forms = [part.built.form for part in design.surfaces if part.built] + [
        part.built.form for part in design.bodies if part.built
    ]
    if all(form in _NO_BOARD for form in forms):
        return ()
    return (
        *(one for k, plan in enumerate(mounts_of(design)) for one in _mounts(plan, k, slot_fit)),
        *(one for k, plan in enumerate(horns_of(design, report)) for one in _horns(plan, k)),
        *_cards(design, report),
        *_squares(design),
        *_seats(design),
    )


def _ply(key: str, name: str, ply: tuple[str, float], shape: BaseGeometry, openings: tuple[Array, ...], text: str,
         lines: tuple[Line, ...] = ()) -> Pattern:  # fmt: skip
    assert isinstance(shape, Polygon)
    outline = np.asarray(orient(shape).exterior.coords)[:-1]
    area = shape.area - math.fsum(Polygon(hole).area for hole in openings)
    wide, tall = np.ptp(outline, axis=0)
    size = min(_LETTERS, 0.9 * float(max(wide, tall)) / (0.6 * max(len(text), 1)), 0.2 * float(min(wide, tall)))
    low = float(outline[:, 1].min())
    label = Label(text, float(outline[:, 0].mean()), low + 1.2 * size, size, 0.0)
    return Pattern(key, name, "", 0, ply[0], ply[1], outline, openings, lines, (label,), area * ply[1] * PLY_DENSITY)


def _mounts(plan: MountPlan, number: int, slot_fit: float) -> Iterator[Pattern]:
    """Yield a plate for each motor: tabs left and right into slots of the sides, a notch for wires below."""
    w, h, t = 0.5 * plan.width, 0.5 * plan.height, PLY[1]
    if plan.round:
        shape: BaseGeometry = Polygon(circle(0.0, 0.0, w))
    else:
        tab = 0.5 * (plan.height / 6 + slot_fit)
        right = [(w, -h), *_tabs(w, t, h, tab)]
        left = [(-x, -y) for x, y in right]
        shape = Polygon([*right, (w, h), *left, (-w, -h)])
    wide, deep = NOTCH
    shape = shape.difference(Polygon([(-0.5 * wide, -h - 1), (0.5 * wide, -h - 1), (0.5 * wide, -h + deep),
                                      (-0.5 * wide, -h + deep)]))  # fmt: skip
    holes = [circle(x, y, 0.5 * plan.bolt) for x, y in plan.bolts]
    holes.append(circle(0.0, 0.0, 0.5 * plan.shaft))
    reach = 0.5 * plan.motor
    cross = (Line("mark", np.array([(-reach, 0.0), (reach, 0.0)])),
             Line("mark", np.array([(0.0, -reach), (0.0, reach)])))  # fmt: skip
    down, right_ = math.degrees(plan.down), math.degrees(plan.right)
    text = f"{down:.1f}° down, {right_:.1f}° right"
    for n in range(plan.pieces):
        name = plan.name + (f", {'starboard' if n == 0 else 'port'}" if plan.pieces > 1 else "")
        yield _ply(f"mount{number}.{n + 1}", name, PLY, shape, tuple(holes), text, cross)


def _tabs(w: float, t: float, h: float, half: float) -> list[tuple[float, float]]:
    """Return the corners of two tabs on the right edge, from below."""
    return [corner for y in (-0.5 * h, 0.5 * h)
            for corner in ((w, y - half), (w + t, y - half), (w + t, y + half), (w, y + half))]  # fmt: skip


def _horns(plan: HornPlan, number: int) -> Iterator[Pattern]:
    """Yield the horns: a tab let into the control through its skin."""
    tab = Polygon([(0.0, -plan.tab), (plan.base, -plan.tab), (plan.base, 1e-5), (0.0, 1e-5)])
    shape = plan.outline.union(tab)
    holes = tuple(circle(-plan.ahead, y, 0.5 * PIN) for y in plan.holes)
    skin = (Line("mark", np.array([(0.0, 0.0), (plan.base, 0.0)])),)
    for n in range(plan.pieces):
        name = f"{plan.name} {n + 1}" if plan.pieces > 1 else plan.name
        yield _ply(f"horn{number}.{n + 1}", name, HORN_PLY, shape, holes, f"{1000 * plan.holes[-1]:.0f}", skin)


def _cards(design: Design, report: Report) -> Iterator[Pattern]:
    """Yield a card for each control: held against its end, neutral, the take-off trim and the throws are read off."""
    trim = report.value("trim.elevator")
    done: set[tuple[str, str]] = set()
    for surface in design.surfaces:
        board = _board_of(surface)
        for control in surface.controls if board else ():
            if (surface.id, control.kind) in done:
                continue
            done.add((surface.id, control.kind))
            up, down = control.up or math.radians(20.0), control.down or math.radians(20.0)
            chord = float(np.interp(control.start, [s.y for s in surface.stations],
                                    [s.chord for s in surface.stations])) * control.chord_fraction  # fmt: skip
            long = min(chord, LONGEST)
            marks = [("0", 0.0), ("up", up), ("down", -down)]
            if trim is not None and control.kind in ("elevator", "ruddervator", "elevon") and abs(trim) > 0.002:
                marks.append(("trim", -trim))
            yield _card(surface, control.kind, long, marks, board)


def _card(surface: Surface, kind: str, long: float, marks: list[tuple[str, float]], board: str) -> Pattern:
    reach = long + BEYOND
    angles = np.linspace(min(a for _w, a in marks) - 0.09, max(a for _w, a in marks) + 0.09, 25)
    outline = np.vstack([[(-0.01, 0.0)], reach * np.column_stack([np.cos(angles), np.sin(angles)])])
    lines, labels = [], []
    for words, angle in marks:
        way = np.array([math.cos(angle), math.sin(angle)])
        lines.append(Line("mark", np.array([0.4 * long * way, (long + 0.5 * BEYOND) * way])))
        x, y = (long + 0.75 * BEYOND) * way
        text = words if words == "0" else f"{words} {math.degrees(abs(angle)):.0f}°"
        labels.append(Label(text, float(x), float(y), 0.003, 0.0))
    name = f"{surface.name}: throw card, {kind}"
    # Its kind is read between neutral and the first throw.
    size = min(_LETTERS, 0.5 * long / (0.6 * len(kind)))
    title = Label(kind, 0.62 * long, 0.62 * long * math.tan(0.5 * marks[1][1]), size, 0.5 * marks[1][1])
    return Pattern(f"{surface.id}.card.{kind}", name, surface.id, 0, board, thickness(surface), outline, (),
                   tuple(lines), (title, *labels), 0.0)  # fmt: skip


def _board_of(surface: Surface) -> str:
    built = surface.built
    return "" if built is None or built.form in _NO_BOARD else built.board.material


def _squares(design: Design) -> Iterator[Pattern]:
    """Yield a square with a centre line, and on it how far each wing tip is from the tail where all is square."""
    wing = next((s for s in design.surfaces if s.role == "wing" and s.mirrored and _board_of(s)), None)
    tail = next((s for s in design.surfaces if s.role in ("stabiliser", "v_tail", "foreplane") and s.mirrored), None)
    if wing is None:
        return
    words = f"{wing.name}: square, 90°"
    labels = [Label(words, 0.30 * SQUARE, 0.10 * SQUARE, _LETTERS, 0.0)]
    if tail is not None:
        across = placed(wing).leading[-1] - placed(tail).leading[0] * (1.0, 0.0, 1.0)
        far = 1000 * float(np.linalg.norm(across))
        labels.append(Label(f"tip to tail root, both sides: {far:.0f} mm", 0.36 * SQUARE, 0.04 * SQUARE, 0.003, 0.0))
    outline = np.array([(0.0, 0.0), (SQUARE, 0.0), (0.0, SQUARE)])
    centre = Line("mark", np.array([(0.0, 0.0), (0.5 * SQUARE, 0.5 * SQUARE)]))
    yield Pattern(f"{wing.id}.square", words, wing.id, 0, _board_of(wing), thickness(wing), outline, (), (centre,),
                  tuple(labels), 0.0)  # fmt: skip


def _seats(design: Design) -> Iterator[Pattern]:
    """Yield two cheeks for each wing that lies on a box: level below, along the wing's underside at its incidence."""
    for surface in design.surfaces:
        if surface.role not in ("wing", "foreplane") or is_upright(surface) or not surface.mirrored:
            continue
        for body in design.bodies:
            built = body.built
            if built is None or built.form != "box" or abs(body.y) > 1e-6:
                continue
            x = [one.x for one in body.sections]
            root = surface.stations[0]
            front, back = surface.x + root.x, surface.x + root.x + root.chord
            top = float(np.interp(0.5 * (front + back), x, [one.z + 0.5 * one.height for one in body.sections]))
            # The nose rises off its seat.
            low, high = max(front + _NOSE * root.chord, x[0]), min(back, x[-1])
            if abs(surface.z + root.z - top) > 0.02 or high - low < _SEATED:
                continue
            lower = split(outline_over_chord(surface))[1]
            share = np.linspace((low - front) / root.chord, (high - front) / root.chord, 24)
            under = np.interp(share, np.maximum.accumulate(lower[:, 0]), lower[:, 1])
            angle = surface.incidence + root.twist
            rise = root.chord * (under * math.cos(angle) - share * math.sin(angle))
            along = root.chord * share
            outline = np.vstack([np.column_stack([along, rise - rise.min() + FOOT])[::-1],
                                 [(along[0], 0.0), (along[-1], 0.0)]])  # fmt: skip
            for n, hand in enumerate((1, -1)):
                name = f"{surface.name}: seat, {math.degrees(angle):.1f}°, {'starboard' if hand > 0 else 'port'}"
                size = min(_LETTERS, 0.8 * float(np.ptp(along)) / (0.6 * len(name)))
                label = Label(name, float(along.mean()) * hand, 0.5 * FOOT, size, 0.0)
                turned = outline * (hand, 1.0) if hand > 0 else (outline * (hand, 1.0))[::-1]
                yield Pattern(f"{surface.id}.seat.{n + 1}", name, surface.id, hand, built.board.material, built.sheet,
                              turned, (), (), (label,), 0.0)  # fmt: skip
            break
