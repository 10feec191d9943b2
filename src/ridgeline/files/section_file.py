"""Section coordinates as two-column text, in both common orderings: read with repairs and a report, written back.

One ordering runs round the outline from the trailing edge over the top to the nose and back. The other gives two
blocks, top then bottom, each from the nose to the trailing edge, often with the number of points of each before them.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from pathlib import Path
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import ValidationError

from ridgeline.design.airframe import Profile
from ridgeline.errors import DesignError
from ridgeline.files.reading import read_text
from ridgeline.typed import short

Array = NDArray[np.float64]
Ordering = Literal["round", "blocks"]
_MOST_BYTES = 400_000
_MOST_POINTS = 1000
_FEWEST = 7
#: No coordinate is written with more letters than this.
_LONGEST_NUMBER = 40
_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eEdD][-+]?\d+)?")


@dataclass
class SectionRead:
    """A section read from a file: the profile, its ordering in the file, and what was repaired or left out."""

    profile: Profile
    ordering: Ordering
    report: list[str] = field(default_factory=list)


def read_section(place: str | Path) -> SectionRead:
    """Read a section coordinate file.

    Raises
    ------
    DesignError
        When the file cannot be read, or holds no outline; it says what was understood.
    """
    report: list[str] = []
    found = section_from_text(read_text(place, _MOST_BYTES, "coordinate file", report), Path(place).stem)
    found.report[:0] = report
    return found


def section_from_text(text: str, name: str) -> SectionRead:
    """Read section coordinates from text; ``name`` is used when the text gives none.

    Raises
    ------
    DesignError
        When fewer than seven points remain, or they do not go round an outline.
    """
    report: list[str] = []
    title, blocks = _blocks(text, report)
    rows = np.array([row for block in blocks for row in block], float).reshape(-1, 2)
    if len(rows) < _FEWEST:
        raise DesignError(name, f"{len(rows)} points", f"at least {_FEWEST} pairs of coordinates, one to a line")
    ordering, points = _round(blocks, rows, report)
    points = _unit(points, name, report)
    points = _tidy(points, report)
    if len(points) < _FEWEST:
        raise DesignError(name, f"{len(points)} different points", f"at least {_FEWEST}")
    _check(points, name)
    try:
        profile = Profile(name=(title or name)[:120], points=tuple((float(x), float(z)) for x, z in points))
    except ValidationError as error:
        raise DesignError(name, "points far off a unit chord", "an outline within −0.6 to 1.6 chords") from error
    return SectionRead(profile, ordering, report)


def _blocks(text: str, report: list[str]) -> tuple[str, list[list[tuple[float, float]]]]:
    """Split a text into its title and its blocks of pairs, leaving out what is neither."""
    title = ""
    blocks: list[list[tuple[float, float]]] = [[]]
    left_out: list[int] = []
    for number, raw in enumerate(text.split("\n"), start=1):
        line = raw.split("#")[0].strip()
        if not line:
            if blocks[-1]:
                blocks.append([])
            continue
        pair = _pair(line)
        if pair is not None and np.isfinite(pair).all():
            blocks[-1].append(pair)
        elif not title and not any(blocks) and re.search(r"[^\W\d_]", line):
            title = short(line, 120)
        else:
            left_out.append(number)
    if left_out:
        shown = ", ".join(str(n) for n in left_out[:6]) + (" and more" if len(left_out) > 6 else "")
        report.append(f"left out line {shown}: not two numbers")
    found = [block for block in blocks if block]
    # Two counts before the blocks are no point of the section.
    if found and found[0] and max(found[0][0]) > 1.5 and found[0][0] != (100.0, 0.0):
        first = found[0][0]
        total = sum(len(block) for block in found) - 1
        if abs(sum(first) - total) <= 2 and all(abs(v - round(v)) < 1e-6 for v in first):
            found[0] = found[0][1:]
            if round(sum(first)) != total:
                report.append(f"the counts {first[0]:g} and {first[1]:g} do not match {total} points; the points count")
    return title, [block for block in found if block]


def _pair(line: str) -> tuple[float, float] | None:
    # A decimal comma is told from a separating one by what stands round it.
    cleaned = line.replace(";", " ").replace("\t", " ")
    if "," in cleaned:
        cleaned = cleaned.replace(",", "." if "." not in cleaned and cleaned.count(",") == 2 else " ")
    words = cleaned.split()
    if len(words) < 2 or not all(len(w) <= _LONGEST_NUMBER and _NUMBER.fullmatch(w) for w in words[:2]):
        return None
    return tuple(float(word.lower().replace("d", "e")) for word in words[:2])  # type: ignore[return-value]


def _round(blocks: list[list[tuple[float, float]]], rows: Array, report: list[str]) -> tuple[Ordering, Array]:
    """Bring either ordering to one round from the trailing edge over the top."""
    low, high = rows[:, 0].min(), rows[:, 0].max()
    near = 0.25 * (high - low)
    cut = len(blocks[0]) if len(blocks) == 2 else _turning_back(rows)
    is_blocks = rows[0, 0] - low < near and cut is not None and rows[cut, 0] - low < near
    if is_blocks and cut is not None:
        upper, lower = rows[:cut], rows[cut:]
        if upper[:, 1].mean() < lower[:, 1].mean():
            upper, lower = lower, upper
            report.append("the bottom came first: turned round")
        return "blocks", np.vstack([upper[::-1], lower])
    points = rows
    if rows[0, 0] - low < near:
        # Starts at the nose and goes round: begin it at the trailing edge instead.
        start = int(np.argmax(rows[:, 0]))
        points = np.vstack([rows[start:], rows[:start]])
        report.append("started at the nose: begun at the trailing edge instead")
    nose = int(np.argmin(points[:, 0]))
    top, bottom = points[: nose + 1], points[nose:]
    if len(top) > 1 and len(bottom) > 1 and top[:, 1].mean() < bottom[:, 1].mean():
        points = points[::-1]
        report.append("ran round the other way: turned round")
    return "round", points


def _turning_back(rows: Array) -> int | None:
    """Return where a second block begins: the one step that goes back from tail to nose."""
    back = np.diff(rows[:, 0])
    place = int(np.argmin(back))
    return place + 1 if back[place] < -0.5 * np.ptp(rows[:, 0]) else None


def _unit(points: Array, name: str, report: list[str]) -> Array:
    """Shift and scale to a unit chord from nose to tail."""
    low, high = points[:, 0].min(), points[:, 0].max()
    chord = high - low
    if not np.isfinite(chord) or chord <= 1e-9:
        raise DesignError(name, "points without length", "an outline with a chord")
    if abs(chord - 1) > 2e-3 or abs(low) > 2e-3:
        report.append(f"chord {chord:g} from {low:g}: scaled to 1")
    tail = 0.5 * (points[0] + points[-1])
    turned = (points - np.array([low, 0.0])) / chord
    off = (tail[1] - float(np.interp(0.0, [0, 1], [points[np.argmin(points[:, 0]), 1]] * 2))) / chord
    if abs(off) > 0.25:
        report.append("the trailing edge stands far off the nose's height: left as it is")
    return np.asarray(turned, float)


def _tidy(points: Array, report: list[str]) -> Array:
    """Drop points that repeat, thin a crowd, and say when the trailing edge is open."""
    steps = np.hypot(*np.diff(points, axis=0).T)
    keep = np.concatenate([[True], steps > 1e-7])
    if not keep.all():
        report.append(f"{np.count_nonzero(~keep)} repeated points dropped")
    points = points[keep]
    if len(points) > _MOST_POINTS:
        chosen = np.unique(np.linspace(0, len(points) - 1, _MOST_POINTS).astype(int))
        report.append(f"{len(points)} points thinned to {len(chosen)}")
        points = points[chosen]
    gap = float(np.hypot(*(points[0] - points[-1])))
    if 1e-6 < gap < 0.2:
        report.append(f"trailing edge {100 * gap:.1f} % of the chord thick: kept")
    return points


def _sides(points: Array) -> tuple[Array, Array]:
    """Return top and bottom of an outline, each from nose to tail; a square nose has a corner of its own for each."""
    nose = int(np.argmin(points[:, 0]))
    blunt = nose + 1 < len(points) and points[nose + 1, 0] <= points[nose, 0] + 1e-12
    return points[: nose + 1][::-1], points[nose + int(blunt) :]


def _check(points: Array, name: str) -> None:
    """Refuse what is no outline: a top that dips under the bottom, or no thickness."""
    upper, lower = _sides(points)
    x = np.linspace(0.02, 0.98, 49)

    def at(side: Array) -> Array:
        order = np.argsort(side[:, 0], kind="stable")
        return np.interp(x, side[order, 0], side[order, 1])

    depth = at(upper) - at(lower)
    if depth.max() < 1e-4:
        raise DesignError(name, "a line without thickness", "an outline round top and bottom")
    if (depth < -5e-3).any():
        place = 100 * x[int(np.argmin(depth))]
        raise DesignError(
            name, f"a top under the bottom at {place:.0f} % of the chord", "an outline that crosses nowhere"
        )


def section_text(name: str, outline: Array, ordering: Ordering = "round") -> str:
    """Write an outline, shape (n, 2) from the trailing edge over the top, in one of the two orderings."""

    def line(point: Array) -> str:
        return f" {point[0]:9.6f} {point[1]:9.6f}"

    if ordering == "round":
        return "\n".join([name, *map(line, outline)]) + "\n"
    upper, lower = _sides(outline)
    if lower[0, 0] > upper[0, 0] or (lower[0] != upper[0]).any():
        lower = np.vstack([upper[0], lower])
    counts = f" {len(upper):9.1f} {len(lower):9.1f}"
    return "\n".join([name, counts, "", *map(line, upper), "", *map(line, lower)]) + "\n"
