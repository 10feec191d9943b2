"""Hot-wire cores: templates of root and tip with ticks that two hands call out, so that the wire keeps its sweep."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np
from numpy.typing import NDArray
from shapely import Polygon
from shapely.geometry.polygon import orient

from ridgeline.design.airframe import Station, Surface
from ridgeline.design.document import Design
from ridgeline.engine.build.pieces import Line
from ridgeline.engine.geometry.placed import outline_over_chord
from ridgeline.engine.geometry.section_outline import split
from ridgeline.engine.templates.fittings import PLY, PLY_DENSITY
from ridgeline.engine.templates.patterns import Label, Pattern

Array = NDArray[np.float64]
#: A hot wire melts so wide a way, m: the core comes out smaller than its template by half of it (second part of the
#: handbook §15.3: 0.8 to 1.5 mm).
WIRE = 0.0011
#: So many ticks from nose to tail on either side, each so long, m; their numbers, m.
TICKS, LONG, _LETTERS = 10, 0.004, 0.003


def core_templates_of(design: Design) -> tuple[Pattern, ...]:
    """Return the templates that foam cores are cut along, a pair for each surface that has one.

    Parameters
    ----------
    design : Design

    Returns
    -------
    tuple of Pattern
        Larger than the section by half of what the wire melts; nothing of surfaces that are no core.
    """
    found: list[Pattern] = []
    for surface in design.surfaces:
        if surface.built is not None and surface.built.form == "core":
            found += _pair(surface)
    return tuple(found)


def _pair(surface: Surface) -> Iterator[Pattern]:
    """Yield the templates at the ends of each straight panel: neighbours share one."""
    last = len(surface.stations) - 1
    for k, station in enumerate(surface.stations):
        where = "root" if k == 0 else "tip" if k == last else f"station {k + 1}"
        yield _template(surface, station, f"core{k}", f"{surface.name}: core, {where}")


def _template(surface: Surface, station: Station, key: str, name: str) -> Pattern:
    unit = outline_over_chord(surface)
    c, s = math.cos(station.twist), math.sin(station.twist)
    # Laid level as it is cut: washed out by its twist, about the leading edge.
    turn = station.chord * np.array([[c, -s], [s, c]])
    grown = orient(Polygon(unit @ turn).buffer(0).buffer(0.5 * WIRE, join_style="mitre", mitre_limit=2.0))
    outline = np.asarray(grown.exterior.coords)[:-1]
    lines: list[Line] = []
    labels: list[Label] = []
    for side, inward in zip(split(unit), (-1.0, 1.0), strict=True):
        for tick in range(TICKS + 1):
            share = tick / TICKS
            height = float(np.interp(share, np.maximum.accumulate(side[:, 0]), side[:, 1]))
            foot = np.array([share, height]) @ turn
            lines.append(Line("mark", np.array([foot, (foot[0], foot[1] + inward * LONG)])))
            if inward < 0:
                labels.append(Label(str(tick), float(foot[0]), float(foot[1]) - 1.6 * LONG, _LETTERS, 0.0))
    size = min(0.005, 0.7 * station.chord / (0.6 * len(name)), 0.25 * float(np.ptp(outline[:, 1])))
    middle = 0.5 * (outline.min(axis=0) + outline.max(axis=0))
    title = Label(name, float(middle[0]), float(middle[1]) - 0.5 * size, size, 0.0)
    mass = float(grown.area) * PLY[1] * PLY_DENSITY
    return Pattern(f"{surface.id}.{key}", name, surface.id, 0, *PLY, outline, (), tuple(lines),
                   (title, *labels), mass)  # fmt: skip
