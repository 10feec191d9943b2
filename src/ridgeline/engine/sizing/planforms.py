"""A surface's outline by what a builder knows of it: two of span, area, aspect ratio and mean chord; taper, sweep, tip.

Every edit is made to the stations there are, so that kinks, twist and dihedral stay, and leaves the quarter of the mean
aerodynamic chord where it was.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import ControlKind, ControlSurface, Station, Surface
from ridgeline.engine.geometry.planform import mean_aerodynamic_chord, panel_areas, sweep_tangent
from ridgeline.errors import DesignError

Array = NDArray[np.float64]
TipForm = Literal["square", "rounded", "raked", "elliptical"]
Known = Literal["span", "area", "aspect_ratio", "mean_chord"]
KNOWN: tuple[Known, ...] = ("span", "area", "aspect_ratio", "mean_chord")
#: How far in a tip form reaches, over the tip's chord and the panel at most; an elliptical one over the panel.
_REACH, _REACH_MOST, _ELLIPTICAL = 0.6, 0.3, 0.6
#: Places of the stations of a curved tip over its reach, and the least chord left at the very tip.
_PLACES, _LEAST_TIP = (0.35, 0.6, 0.8, 0.93, 1.0), 0.15
#: Share of the chord that a rounded tip closes in on, and what a raked one leaves of its chord, all off the front.
_CLOSES_AT, _RAKED = 0.4, 0.4
#: Half the step where a strip behind the trailing edge begins or ends, m.
_STEP = 0.0005
#: Nearer the end of a panel than this, m, a strip reaches to it.
_TO_THE_END = 0.003


class Planform(NamedTuple):
    """The outline of a surface in a builder's terms: m, m², ratios; the sweep of its quarter line, rad."""

    span: float
    area: float
    aspect_ratio: float
    mean_chord: float
    taper: float
    sweep: float


def _rows(surface: Surface) -> tuple[Array, Array, Array]:
    """Return places out, chords and leading edges of the stations, m."""
    rows = np.array([(s.y, s.chord, s.x) for s in surface.stations])
    return rows[:, 0], rows[:, 1], rows[:, 2]


def _sides(surface: Surface) -> tuple[int, float]:
    """Return how many panels a surface has, and what of its span is not panel, m."""
    root = surface.stations[0].y
    return (2, 2 * (surface.y + root)) if surface.mirrored else (1, 0.0)


def planform_of(surface: Surface) -> Planform:
    """Return what a surface's outline comes to, over its unfolded panels.

    Parameters
    ----------
    surface : Surface

    Returns
    -------
    Planform
        The mean chord is the standard one, area over the span of the panels.
    """
    y, chord, x = _rows(surface)
    sides, gap = _sides(surface)
    long = float(y[-1] - y[0])
    area = sides * float(panel_areas(y, chord).sum())
    span = sides * long + gap
    return Planform(
        span, area, span**2 / area, area / (sides * long), float(chord[-1] / chord[0]),
        math.atan(sweep_tangent(y, chord, x, 0.25)),
    )  # fmt: skip


def _span_and_area(known: dict[Known, float], gap: float) -> tuple[float, float]:
    """Return the span and area that two of the four come to, m and m²."""
    match known:
        case {"span": span, "area": area}:
            return span, area
        case {"span": span, "aspect_ratio": ratio}:
            return span, span**2 / ratio
        case {"span": span, "mean_chord": chord}:
            return span, (span - gap) * chord
        case {"area": area, "aspect_ratio": ratio}:
            return math.sqrt(area * ratio), area
        case {"area": area, "mean_chord": chord}:
            return area / chord + gap, area
        case {"aspect_ratio": ratio, "mean_chord": chord}:
            # b² = A (b − gap) c, the larger root: with no gap b = A c.
            half = 0.5 * ratio * chord
            if half**2 < ratio * chord * gap:
                raise DesignError("aspect_ratio", f"{ratio:g}", "a longer mean chord or more span for its middle part")
            span = half + math.sqrt(half**2 - ratio * chord * gap)
            return span, span**2 / ratio
    raise ValueError(f"two of {', '.join(KNOWN)} are needed")


def with_known(surface: Surface, known: dict[Known, float]) -> Surface:
    """Return a surface with two of span, area, aspect ratio and mean chord as typed; its form stays.

    Parameters
    ----------
    surface : Surface
    known : dict
        Two of the four, m, m² or a ratio.

    Returns
    -------
    Surface

    Raises
    ------
    DesignError
        Where they come to no panel.
    """
    _panels, gap = _sides(surface)
    for name, value in known.items():
        if not value > 0:
            raise DesignError(name, f"{value:g}", "more than nothing")
    span, area = _span_and_area(known, gap)
    now = planform_of(surface)
    if span - gap <= 0:
        raise DesignError("span", f"{span:g} m", f"more than the {gap:g} m between its panels")
    out = (span - gap) / (now.span - gap)
    deep = area / now.area / out
    return _remade(surface, lambda y, c, x: (y[0] + (y - y[0]) * out, c * deep, (x + 0.25 * c) * out), out)


def with_taper(surface: Surface, taper: float) -> Surface:
    """Return a surface with another tip chord over root chord; span, area and quarter line stay.

    Parameters
    ----------
    surface : Surface
    taper : float

    Returns
    -------
    Surface
    """
    if not taper > 0:
        raise DesignError("taper", f"{taper:g}", "more than nothing")
    now = planform_of(surface).taper

    def made(y: Array, c: Array, x: Array) -> tuple[Array, Array, Array]:
        share = (y - y[0]) / (y[-1] - y[0])
        chord = c * (1 + (taper / now - 1) * share)
        chord = chord * panel_areas(y, c).sum() / panel_areas(y, chord).sum()
        return y, chord, x + 0.25 * c

    return _remade(surface, made)


def with_sweep(surface: Surface, sweep: float) -> Surface:
    """Return a surface with its quarter line swept by another angle on the whole, rad; chords stay.

    Parameters
    ----------
    surface : Surface
    sweep : float
        Aft positive, rad.

    Returns
    -------
    Surface
    """
    more = math.tan(sweep) - math.tan(planform_of(surface).sweep)
    return _remade(surface, lambda y, c, x: (y, c, x + 0.25 * c + more * (y - y[0])))


def _remade(
    surface: Surface, made: Callable[[Array, Array, Array], tuple[Array, Array, Array]], out: float = 1.0
) -> Surface:
    """Return a surface with places, chords and quarter points made anew, and its controls spread along."""
    before = _rows(surface)
    y, chord, quarter = made(*before)
    x = quarter - 0.25 * chord
    x = x - x[0] + before[2][0]
    stations = tuple(
        s.model_copy(update={"y": float(a), "chord": float(b), "x": float(c), "z": s.z * out})
        for s, a, b, c in zip(surface.stations, y, chord, x, strict=True)
    )
    first = float(before[0][0])
    controls = tuple(
        c.model_copy(update={"start": first + (c.start - first) * out, "end": first + (c.end - first) * out})
        for c in surface.controls
    )
    return _held(surface, surface.model_copy(update={"stations": _rounded(stations), "controls": controls}))


def _held(before: Surface, after: Surface) -> Surface:
    """Return a changed surface moved so that the quarter of its mean aerodynamic chord lies where it lay."""

    def quarter(surface: Surface) -> float:
        mean = mean_aerodynamic_chord(*_rows(surface))
        return surface.x + mean.x_leading_edge + 0.25 * mean.length

    return after.model_copy(update={"x": round(after.x + quarter(before) - quarter(after), 5)})


def halfway(inner: Station, outer: Station) -> Station:
    """Return the section halfway between two, on the straight line between them.

    Parameters
    ----------
    inner, outer : Station

    Returns
    -------
    Station
    """
    told = {n: 0.5 * (getattr(inner, n) + getattr(outer, n)) for n in ("y", "chord", "x", "z", "twist")}
    (made,) = _rounded((Station(**told),))
    return made


def _rounded(stations: Sequence[Station]) -> tuple[Station, ...]:
    """Return stations to a hundredth of a millimetre."""
    return tuple(
        s.model_copy(update={name: round(getattr(s, name), 5) for name in ("y", "chord", "x", "z")}) for s in stations
    )


def reach_of(surface: Surface, form: TipForm) -> float:
    """Return how far in from its tip a form of tip reaches, m.

    Parameters
    ----------
    surface : Surface
    form : str

    Returns
    -------
    float
    """
    y, chord, _x = _rows(surface)
    long = float(y[-1] - y[0])
    if form == "elliptical":
        return _ELLIPTICAL * long
    # By the chord where the panel is still straight, so that a form chosen again reaches as far.
    return min(_REACH * float(np.interp(y[-1] - _REACH_MOST * long, y, chord)), _REACH_MOST * long)


def with_tip(surface: Surface, form: TipForm, reach: float | None = None) -> Surface:
    """Return a surface whose tip has another form; the span stays.

    What lies within the reach is made anew from the straight panel inside it.

    Parameters
    ----------
    surface : Surface
    form : {"square", "rounded", "raked", "elliptical"}
    reach : float, optional
        How far in from the tip, m; by the form where left out.

    Returns
    -------
    Surface
    """
    tip = surface.stations[-1]
    reach = reach_of(surface, form) if reach is None else reach
    start = tip.y - max(reach, max(reach_of(surface, other) for other in ("rounded", form)))
    kept, at_start = _inside(surface, start)
    slope = _slope(kept, at_start)

    def straight(y: float) -> Station:
        away = y - at_start.y
        told = {name: getattr(at_start, name) + slope[name] * away for name in ("chord", "x", "z", "twist")}
        told["chord"] = max(told["chord"], 0.2 * at_start.chord)
        return at_start.model_copy(update={"y": y, **told})

    end = straight(tip.y)
    begin = tip.y - reach
    outer = [straight(begin)] if begin > at_start.y + 1e-4 else []
    base = straight(begin)
    if form == "square":
        outer = [end]
    elif form == "raked":
        chord = _RAKED * end.chord
        outer.append(end.model_copy(update={"chord": chord, "x": end.x + end.chord - chord}))
    else:
        for share in _PLACES:
            plain = straight(begin + share * reach)
            left = max(math.sqrt(max(1 - share**2, 0.0)), _LEAST_TIP)
            whole = base if form == "elliptical" else plain
            chord = left * whole.chord
            close = 0.25 if form == "elliptical" else _CLOSES_AT
            outer.append(plain.model_copy(update={"chord": chord, "x": plain.x + close * (plain.chord - chord)}))
    stations = _rounded((*kept, at_start, *outer))
    return _held(surface, surface.model_copy(update={"stations": stations}))


def _inside(surface: Surface, start: float) -> tuple[list[Station], Station]:
    """Return the stations inside a place, and the section at it."""
    stations = surface.stations
    kept = [s for s in stations if s.y < start - 1e-4] or [stations[0]]
    start = max(start, kept[-1].y + 2e-4)
    y = [s.y for s in stations]
    told = {
        name: float(np.interp(start, y, [getattr(s, name) for s in stations])) for name in ("chord", "x", "z", "twist")
    }
    return kept, Station(y=start, **told)


def _slope(kept: list[Station], at: Station) -> dict[str, float]:
    """Return how the straight panel goes on outward, per metre."""
    inner = kept[-1]
    return {n: (getattr(at, n) - getattr(inner, n)) / (at.y - inner.y) for n in ("chord", "x", "z", "twist")}


def with_strip(surface: Surface, start: float, end: float, width: float, kind: ControlKind) -> Surface:
    """Return a surface with a hinged strip of one width added behind its trailing edge.

    The chord grows by the width along the strip, so that area, mass and balance follow.

    Parameters
    ----------
    surface : Surface
    start, end : float
        Along the panel from the surface's root, m.
    width : float
        Of the strip, m.
    kind : str
        What it is hinged as.

    Returns
    -------
    Surface

    Raises
    ------
    DesignError
        Where the strip is no strip, or another control is hinged there.
    """
    first, last = surface.stations[0].y, surface.stations[-1].y
    start = first if start < first + _TO_THE_END else start
    end = last if end > last - _TO_THE_END else end
    if end - start < 2 * _STEP + 1e-3 or width <= 0:
        raise DesignError("strip", f"{1000 * (end - start):.0f} by {1000 * width:.0f} mm", "a strip with some length")
    taken = next((c for c in surface.controls if c.start < end and c.end > start), None)
    if taken is not None:
        raise DesignError(
            "strip",
            f"{1000 * start:.0f} to {1000 * end:.0f} mm out",
            f"a place free of the {taken.kind} at {1000 * taken.start:.0f} to {1000 * taken.end:.0f} mm",
        )
    y, chord, x = _rows(surface)
    z, twist = (np.array([getattr(s, name) for s in surface.stations]) for name in ("z", "twist"))
    edges = [a for a in (start - _STEP, start + _STEP) if start > first]
    edges += [a for a in (end - _STEP, end + _STEP) if end < last]
    places = np.unique([*(a for a in y if all(abs(a - e) > 2 * _STEP for e in edges)), *edges])
    inside = (places > start - 1e-9) & (places < end + 1e-9)
    stations = tuple(
        Station(
            y=float(a),
            chord=float(np.interp(a, y, chord)) + (width if within else 0.0),
            x=float(np.interp(a, y, x)),
            z=float(np.interp(a, y, z)),
            twist=float(np.interp(a, y, twist)),
        )
        for a, within in zip(places, inside, strict=True)
    )
    low, high = float(places[inside][0]), float(places[inside][-1])
    share = width / float(np.interp(0.5 * (low + high), [s.y for s in stations], [s.chord for s in stations]))
    control = ControlSurface(
        kind=kind, start=low, end=high, chord_fraction=round(min(max(share, 0.01), 1.0), 4), width=width
    )
    return surface.model_copy(update={"stations": _rounded(stations), "controls": (*surface.controls, control)})
