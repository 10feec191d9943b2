"""Stages of the shape: air, surfaces, bodies."""

from __future__ import annotations

from dataclasses import dataclass

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.brief import Brief
from ridgeline.engine.aero.atmosphere import density, dynamic_viscosity
from ridgeline.engine.figures import Figure, Put, absent, derive
from ridgeline.engine.geometry.bodies import BodyGeometry, measure_body
from ridgeline.engine.geometry.reference import (
    WINGS,
    Reference,
    TailVolumes,
    combine_wings,
    main_wing,
    tail_volumes,
)
from ridgeline.engine.geometry.surfaces import SurfaceGeometry, measure_surface
from ridgeline.engine.stages.common import NO_WING, Air, Outcome


def air(brief: Brief) -> Outcome[Air]:
    """Return the air at the field."""
    return Outcome(Air(density(brief.elevation, brief.temperature_c), dynamic_viscosity(brief.temperature_c)))


@dataclass(frozen=True)
class Shape:
    """Measured surfaces, the reference wing (None without one) and the tail volumes."""

    surfaces: tuple[SurfaceGeometry, ...]
    reference: Reference | None
    tails: TailVolumes | None

    def of(self, *roles: str) -> list[SurfaceGeometry]:
        """Return the surfaces of some roles."""
        return [s for s in self.surfaces if s.role in roles]


def shape(surfaces: tuple[Surface, ...]) -> Outcome[Shape]:
    """Measure every surface and refer them to the wing."""
    measured = tuple(measure_surface(s) for s in surfaces)
    wings = [m for m in measured if m.role in WINGS]
    keys = ("area", "span", "aspect_ratio", "mac", "mac_x_le", "mac_y")
    if not wings:
        missing = [f"wing.{key}" for key in keys] + ["tail.volume_h", "tail.volume_v", "tail.arm"]
        return Outcome(Shape(measured, None, None), tuple(absent(key, NO_WING) for key in missing))
    placed = [s for s in surfaces if s.role in WINGS]
    reference = combine_wings(wings, [s.x for s in placed], placed.index(main_wing(placed)))
    quarter = reference.at(0.25)
    tails = tail_volumes(reference, list(measured), quarter)
    figures = _wing_figures(reference, surfaces, wings) + _tail_figures(reference, tails)
    return Outcome(Shape(measured, reference, tails), figures)


def _wing_figures(ref: Reference, surfaces: tuple[Surface, ...], wings: list[SurfaceGeometry]) -> tuple[Figure, ...]:
    source = "docs/theory.md §2"
    joined = "" if ref.wings == 1 else "area-weighted mean of the wings"
    first = next(s for s in surfaces if s.role in WINGS)
    panels = " + ".join(
        f"½({a.chord:.4g} + {b.chord:.4g})({b.y:.4g} − {a.y:.4g})"
        for a, b in zip(first.stations[:-1], first.stations[1:], strict=True)
    )
    root = Put(first.stations[0].chord, "root chord", "length")
    tip = Put(first.stations[-1].chord, "tip chord", "length")
    area = Put(ref.area, "wing area", "area", 0.0, "wing.area")
    span = Put(ref.span, "span", "length")
    if ref.wings == 1 and len(first.stations) == 2:
        mac = derive(
            "wing.mac",
            "⅔·{c_r}·(1 + λ + λ²)/(1 + λ), λ = {c_t}/{c_r}",
            lambda c_r, c_t: 2 / 3 * c_r * (1 + c_t / c_r + (c_t / c_r) ** 2) / (1 + c_t / c_r),
            {"c_r": root, "c_t": tip},
            source=source,
        )
    else:
        mac = derive(
            "wing.mac",
            "(2/S) ∫ c² dy, panel by panel, S = {S}",
            lambda S: ref.mac,
            {"S": area},
            source=source,
            note=joined or "exact for straight panels; see the pencil construction on the Shape sheet",
        )
    return (
        derive(
            "wing.area",
            f"{wings[0].sides} × ({panels})" + (" + the other wings" if ref.wings > 1 else ""),
            lambda: ref.area,
            {},
            source=source,
            note="projected, with the part inside the body",
        ),
        derive(
            "wing.span",
            "2 × {y_tip}",
            lambda y_tip: ref.span,
            {"y_tip": Put(ref.span / 2, "tip", "length")},
            source=source,
        ),
        derive("wing.aspect_ratio", "{b}²/{S}", lambda b, S: b * b / S, {"b": span, "S": area}, source=source),
        mac,
        derive(
            "wing.mac_x_le",
            "{x_0} + (2/S) ∫ c·x dy",
            lambda x_0: ref.mac_x_le,
            {"x_0": Put(first.x, "root leading edge", "length")},
            source=source,
            note=joined,
        ),
        derive(
            "wing.mac_y",
            "(2/S) ∫ c·y dy, S = {S}",
            lambda S: ref.mac_y,
            {"S": area},
            source=source,
            note=joined,
        ),
    )


def _tail_figures(ref: Reference, tails: TailVolumes) -> tuple[Figure, ...]:
    source = "docs/theory.md §4; NACA Report 823 for a V-tail"
    area, mac, span = (
        Put(ref.area, "wing area", "area", 0.0, "wing.area"),
        Put(ref.mac, "mean chord", "length", 0.0, "wing.mac"),
        Put(ref.span, "span", "length"),
    )
    figures = []
    if tails.horizontal is None or tails.arm_h is None:
        figures += [
            absent("tail.volume_h", "there is no horizontal tail"),
            absent("tail.arm", "there is no horizontal tail"),
        ]
    else:
        arm = Put(tails.arm_h, "tail arm", "length")
        # A foreplane's distance is told positive.
        way = -1.0 if tails.foreplane and tails.arm_h > 0 and not tails.tailed else 1.0
        figures += [
            derive(
                "tail.volume_h",
                "{S_H}·{l_H}/({S}·{mac})",
                lambda S_H, l_H, S, mac: S_H * l_H / (S * mac),
                {"S_H": Put(tails.area_h, "tail area, S cos²Γ", "area"), "l_H": arm, "S": area, "mac": mac},
                source=source,
            ),
            derive(
                "tail.arm",
                "|{x_t} − {x_w}|",
                lambda x_t, x_w: abs(x_t - x_w),
                {
                    "x_t": Put(ref.at(0.25) + way * tails.arm_h, "quarter chord of the tail, by area", "length"),
                    "x_w": Put(ref.at(0.25), "quarter of the mean chord", "length"),
                },
                source="quarter chord to quarter chord",
            ),
        ]
    if tails.vertical is None or tails.arm_v is None:
        figures.append(absent("tail.volume_v", "there is no fin"))
    else:
        figures.append(
            derive(
                "tail.volume_v",
                "{S_V}·{l_V}/({S}·{b})",
                lambda S_V, l_V, S, b: S_V * l_V / (S * b),
                {
                    "S_V": Put(tails.area_v, "fin area, S sin²Γ", "area"),
                    "l_V": Put(tails.arm_v, "fin arm", "length"),
                    "S": area,
                    "b": span,
                },
                source=source,
            )
        )
    return tuple(figures)


@dataclass(frozen=True)
class Bodies:
    """Measured bodies."""

    bodies: tuple[BodyGeometry, ...]


def bodies(shapes: tuple[Body, ...]) -> Outcome[Bodies]:
    """Measure bodies."""
    return Outcome(Bodies(tuple(measure_body(b) for b in shapes)))
