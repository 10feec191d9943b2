"""The wing the coefficients refer to: one wing, or several taken together."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ridgeline.design.airframe import Surface
from ridgeline.engine.geometry.surfaces import SurfaceGeometry, measure_surface

WINGS = ("wing",)
TAILS = ("stabiliser", "v_tail")
#: What is judged as a wing under load, and lifts as one.
LIFTING = (*WINGS, "foreplane")


@dataclass(frozen=True)
class Reference:
    """Reference area m², span m, mean chord with its place (aircraft axes, m), and how many wings it joins."""

    area: float
    span: float
    aspect_ratio: float
    mac: float
    mac_x_le: float
    mac_y: float
    z: float
    x_root_le: float
    wings: int

    def at(self, fraction: float) -> float:
        """Return where a fraction of the mean chord lies, m behind the datum."""
        return self.mac_x_le + fraction * self.mac

    def fraction(self, x: float) -> float:
        """Return which fraction of the mean chord a place lies at, m behind the datum."""
        return (x - self.mac_x_le) / self.mac


def main_wing(surfaces: Sequence[Surface]) -> Surface:
    """Return the wing that balance is measured at, by its shape: the largest, then the widest, highest and foremost.

    Parameters
    ----------
    surfaces : sequence of Surface
        A wing among them.

    Returns
    -------
    Surface

    Raises
    ------
    ValueError
        Without any wing.
    """
    return max((s for s in surfaces if s.role in WINGS), key=_standing)


def _standing(surface: Surface) -> tuple[float, ...]:
    # Rounded, so that wings drawn alike are told apart by their height and not by noise.
    area = round(measure_surface(surface).area, 6)
    return area, round(surface.stations[-1].y, 5), round(surface.z, 5), -round(surface.x, 5)


def combine_wings(wings: list[SurfaceGeometry], x_root: list[float], main: int = 0) -> Reference:
    """Join wings by the area-weighted mean of their mean chords and leading-edge places.

    Parameters
    ----------
    wings : list of SurfaceGeometry
        At least one.
    x_root : list of float
        Root leading edge of each, behind the datum, m.
    main : int
        Which of them balance is measured at.

    Source
    ------
    docs/theory.md §2: area-weighted mean; the span is the widest wing's.
    """
    area = math.fsum(w.area for w in wings)
    span = max(w.span for w in wings)

    def mean(values: list[float]) -> float:
        return math.fsum(w.area * v for w, v in zip(wings, values, strict=True)) / area

    return Reference(
        area=area,
        span=span,
        aspect_ratio=span**2 / area,
        mac=mean([w.mean_chord.length for w in wings]),
        mac_x_le=mean([x + w.mean_chord.x_leading_edge for w, x in zip(wings, x_root, strict=True)]),
        mac_y=mean([w.mean_chord.y for w in wings]),
        z=mean([w.z_mean for w in wings]),
        x_root_le=x_root[main],
        wings=len(wings),
    )


@dataclass(frozen=True)
class TailVolumes:
    """Volumes (dimensionless, None without such a surface) and arms (m), quarter chord to quarter chord."""

    horizontal: float | None
    vertical: float | None
    arm_h: float | None
    arm_v: float | None
    area_h: float
    area_v: float
    foreplane: bool
    tailed: bool


def tail_volumes(reference: Reference, surfaces: list[SurfaceGeometry], x_wing_quarter: float) -> TailVolumes:
    """Return V_H = S_H l_H/(S c̄) and V_V = S_V l_V/(S b) of all tails together.

    A V panel counts S cos²Γ and S sin²Γ; twin fins add; a fin ahead of the wing's quarter chord counts
    negative. Without a tail, a foreplane gives V_H by the same arithmetic (its distance taken positive).

    Parameters
    ----------
    reference : Reference
    surfaces : list of SurfaceGeometry
    x_wing_quarter : float
        Of the mean chord, behind the datum, m.

    Returns
    -------
    TailVolumes

    Source
    ------
    docs/theory.md §4; cos²Γ and sin²Γ: NACA Report 823.
    """
    tails = [s for s in surfaces if s.role in TAILS]
    foreplanes = [s for s in surfaces if s.role == "foreplane"]
    horizontal = tails or foreplanes
    fins = [s for s in surfaces if s.role in (*TAILS, "fin") and s.sin2 > 0.02]
    sign = 1.0 if tails else -1.0

    area_h = math.fsum(s.area_h for s in horizontal)
    moment_h = sign * math.fsum(s.area_h * (s.x_quarter - x_wing_quarter) for s in horizontal)
    area_v = math.fsum(s.area_v for s in fins)
    moment_v = math.fsum(s.area_v * (s.x_quarter - x_wing_quarter) for s in fins)
    return TailVolumes(
        horizontal=moment_h / (reference.area * reference.mac) if area_h > 0 else None,
        vertical=moment_v / (reference.area * reference.span) if area_v > 0 else None,
        arm_h=moment_h / area_h if area_h > 0 else None,
        arm_v=moment_v / area_v if area_v > 0 else None,
        area_h=area_h,
        area_v=area_v,
        foreplane=bool(foreplanes),
        tailed=bool(tails),
    )
