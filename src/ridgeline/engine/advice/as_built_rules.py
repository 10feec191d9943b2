"""Findings on the airframe as it came out: incidence, twist, warp, dihedral and skew against the drawing."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ridgeline.design.airframe import Surface
from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.bands import BAND
from ridgeline.engine.geometry.levelled import BenchFit, CameOut, Off, bench_fit, skew_of
from ridgeline.engine.geometry.placed import tip_angles
from ridgeline.engine.geometry.reference import WINGS, main_wing
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.report import Finding, Level, Remedy, Report

#: Off by more than this is worth setting right before it flies, rad (chosen: half a degree of tail is 2 to 3 % c̄ of
#: trim; of warp it takes a fifth of the ailerons; a degree of dihedral is seen by nobody; of skew it yaws little).
_INCIDENCE, _TWIST, _WARP, _DIHEDRAL, _SKEW = (math.radians(limit) for limit in (0.5, 1.0, 0.5, 3.0, 1.0))
#: Readings that differ by so much more than they should are taken again.
_SCATTER = 2.5


def fit_of(design: Design) -> BenchFit | None:
    """Return what the heights of a design's edges say; None where none were measured, or it has no wing.

    Parameters
    ----------
    design : Design

    Returns
    -------
    BenchFit or None
    """
    wings = [surface for surface in design.surfaces if surface.role in WINGS]
    if not design.as_built.levelled or not wings:
        return None
    return bench_fit(design.surfaces, design.as_built, design.surfaces.index(main_wing(design.surfaces)))


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge how the airframe came out."""
    fit = fit_of(design)
    if fit is not None:
        if fit.scatter > _SCATTER:
            words = say("The heights on the bench do not agree: off by {} times what was told.", f"{fit.scatter:.1f}")
            why = say("Measure again with controls at neutral, the rule upright, the model not moved between.")
            yield Finding("flights.built.scatter", "look", "flights", words, why)
        for one in fit.surfaces:
            yield from _came_out(design, one)
    yield from _skews(design)


def certain(off: Off | None) -> bool:
    """Tell whether something is off the drawing by more than its own band.

    Parameters
    ----------
    off : Off or None

    Returns
    -------
    bool
    """
    return off is not None and abs(off.value) > BAND * off.sigma


def adopted(surface: Surface, index: int, one: CameOut) -> tuple[Change, ...]:
    """Return the edits that carry a surface as it was measured, as far as that is certain.

    Parameters
    ----------
    surface : Surface
    index : int
        Its place in the design.
    one : CameOut

    Returns
    -------
    tuple of Change
    """
    path, found = f"surfaces[{index}]", []
    if one.incidence is not None and certain(one.incidence):
        found.append(Change(f"{path}.incidence", surface.incidence + one.incidence.value))
    if one.dihedral is not None and certain(one.dihedral):
        found.append(Change(f"{path}.cant", surface.cant + one.dihedral.value))
    if one.twist is not None and certain(one.twist):
        first, last = surface.stations[0].y, surface.stations[-1].y
        for k, station in enumerate(surface.stations[1:], 1):
            more = one.twist.value * (station.y - first) / (last - first)
            found.append(Change(f"{path}.stations[{k}].twist", station.twist + more))
    if one.warp is not None and certain(one.warp):
        chord, was = surface.stations[-1].chord, tip_angles(surface)
        for side, angle, sign in (("starboard", was[0], 1), ("port", was[1], -1)):
            found.append(Change(f"{path}.warp_{side}", chord * math.tan(angle + sign * one.warp.value)))
    return tuple(found)


def _came_out(design: Design, one: CameOut) -> Iterator[Finding]:
    surface = design.surfaces[one.surface]
    told: list[tuple[str, Off, float]] = [
        (words, off, limit)
        for words, off, limit in (
            ("incidence", one.incidence, _INCIDENCE), ("tips twisted", one.twist, _TWIST),
            ("warped", one.warp, _WARP), ("dihedral", one.dihedral, _DIHEDRAL),
        )
        if off is not None
    ]  # fmt: skip
    if not told:
        return
    off = [(words, by, limit) for words, by, limit in told if certain(by)]
    beyond = [row for row in off if abs(row[1].value) - BAND * row[1].sigma > row[2]]
    level: Level = "look" if beyond else "settled"
    if not off:
        words = say("The {} came out as drawn, as well as it was measured.", surface.name.lower())
    else:
        parts = [_told(f"{name} {{}} {_way(name, by.value)}", abs(by.value)) for name, by, _limit in off]
        words = _joined(say("The {} came out otherwise:", surface.name.lower()), parts)
    why = _joined(say("Measured"), [_told(f"{name} ± {{}}", BAND * by.sigma) for name, by, _limit in told])
    changes = adopted(surface, one.surface, one)
    ways = (Remedy("as_built", say("Carry it as it was measured"), changes, _shim(surface, one)),) if changes else ()
    figures = ("trim.elevator",) if one.incidence is not None else ()
    yield Finding(f"flights.built.{surface.id}", level, "flights", words, why, ways, figures)


def _way(name: str, value: float) -> str:
    if name == "incidence":
        return "nose up" if value > 0 else "nose down"
    if name == "tips twisted":
        return "nose up" if value > 0 else "nose down"
    if name == "warped":
        return "starboard nose up" if value > 0 else "port nose up"
    return "more" if value > 0 else "less"


def _told(words: str, angle: float) -> Phrase:
    return say(words, Measured(angle, "angle", 2))


def _joined(head: Phrase, parts: list[Phrase]) -> Phrase:
    template = f"{head.template} " + ", ".join(part.template for part in parts) + "."
    return say(template, *head.values, *(value for part in parts for value in part.values))


def _shim(surface: Surface, one: CameOut) -> Phrase | None:
    """Tell what would set its incidence right instead: a shim under one end of its root chord."""
    if one.incidence is None or not certain(one.incidence):
        return None
    end = "back" if one.incidence.value > 0 else "front"
    height = surface.stations[0].chord * math.sin(abs(one.incidence.value))
    return say(f"or a shim of {{}} under its {end}", Measured(height, "length", 1))


def _skews(design: Design) -> Iterator[Finding]:
    for diagonal in design.as_built.diagonals:
        surface = next((one for one in design.surfaces if one.id == diagonal.of and one.mirrored), None)
        if surface is None:
            continue
        skew = skew_of(surface, diagonal, design.as_built.length_sigma)
        level: Level = "look" if abs(skew.value) - BAND * skew.sigma > _SKEW else "settled"
        if not certain(skew):
            words = say("The {} stands square.", surface.name.lower())
        else:
            side = "starboard" if skew.value > 0 else "port"
            words = say("The {} stands askew: its {} tip {} aft.", surface.name.lower(), side,
                        Measured(surface.stations[-1].y * math.sin(abs(skew.value)), "length"))  # fmt: skip
        why = say("{} ± {} by its two diagonals.", Measured(abs(skew.value), "angle", 2),
                  Measured(BAND * skew.sigma, "angle", 2))  # fmt: skip
        yield Finding(f"flights.built.skew.{surface.id}", level, "flights", words, why)
