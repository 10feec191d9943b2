"""The shape of an airframe from a brief: wing, tail and body in proportion."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from ridgeline.design.airframe import Body, BodyStation, ControlKind, ControlSurface, Station, Surface
from ridgeline.design.brief import Brief
from ridgeline.design.power import PowerTrain
from ridgeline.engine.geometry.surfaces import measure_surface

#: The all-up weight aimed at leaves the growth reserve under the ceiling.
AIM_UNDER_CEILING = 0.92


_BREAK, _TIP_RATIO = 0.53, 0.65


_TAIL_ARM = {"glider": 3.4, "aerobatic": 2.4, "short_field": 3.0, "scale": 2.5}


_TAIL_ARM_USUAL = 2.8


_SWEEP = math.radians(24)


_SECTION = {
    "foam_board": "folded",
    "extruded_foam": "curved_sheet",
    "printed_foaming": "flat_bottom",
    "printed_plain": "flat_bottom",
}


@dataclass(frozen=True)
class Size:
    """The sizes everything else hangs on, m and m²."""

    mass: float
    area: float
    span: float
    root: float
    mac: float
    width: float
    height: float


def first_sizes(brief: Brief) -> Size:
    """Return the sizes a brief comes to: area from the design point, span from area and aspect ratio."""
    mass = AIM_UNDER_CEILING * brief.ceiling
    area = mass / brief.wing_loading
    span = min(math.sqrt(brief.aspect_ratio * area), brief.span_limit)
    if brief.tail == "none":
        root = 2 * area / (span * 1.6)
        mac = 2 / 3 * root * (1 + 0.6 + 0.36) / 1.6
    else:
        half = 0.5 * span
        root = 0.5 * area / (_BREAK * half + (1 - _BREAK) * half * 0.5 * (1 + _TIP_RATIO))
        mac = 0.95 * root
    width = min(max(0.30 * mac, 0.035), 0.14)
    return Size(mass, area, span, root, mac, width, 1.15 * width)


def _wing(brief: Brief, size: Size, nose: float) -> Surface:
    half = 0.5 * size.span
    tip = _TIP_RATIO * size.root
    dihedral = math.radians(
        {"rudder_elevator": 9.0, "aileron_elevator": 2.0, "full_house": 2.0, "elevons": 0.0}[brief.controls]
    )
    symmetrical = brief.purpose in ("aerobatic", "speed")
    section: Any = "symmetrical" if symmetrical else _SECTION[brief.build_method]
    stations = (
        Station(y=0.0, chord=size.root),
        Station(y=_BREAK * half, chord=size.root),
        Station(
            y=half,
            chord=tip,
            x=0.45 * (size.root - tip),
            z=(1 - _BREAK) * half * math.tan(dihedral),
            twist=0.0 if symmetrical else math.radians(-1.5),
        ),
    )
    controls: tuple[ControlSurface, ...] = ()
    if brief.controls in ("aileron_elevator", "full_house"):
        controls = (ControlSurface(kind="aileron", start=0.55 * half, end=0.95 * half, chord_fraction=0.22),)
    if brief.controls == "full_house":
        controls += (ControlSurface(kind="flap", start=0.12 * half, end=0.5 * half, chord_fraction=0.22),)
    return Surface(
        name="Wing",
        role="wing",
        x=nose,
        z=0.5 * size.height,
        incidence=0.0 if symmetrical else math.radians(2.0),
        section=section,
        thickness=0.09 * size.root,
        stations=stations,
        controls=controls,
    )


def _swept_wing(size: Size, nose: float) -> Surface:
    half, tip = 0.5 * size.span, 0.6 * size.root
    sweep = half * math.tan(_SWEEP) + 0.25 * (size.root - tip)
    return Surface(
        name="Wing",
        role="wing",
        x=nose,
        section="reflexed",
        thickness=0.09 * size.root,
        incidence=math.radians(2.0),
        stations=(Station(y=0.0, chord=size.root), Station(y=half, chord=tip, x=sweep, twist=math.radians(-3.0))),
        controls=(ControlSurface(kind="elevon", start=0.35 * half, end=0.95 * half, chord_fraction=0.20),),
    )


def _panel(reach: float, area_one: float, taper: float) -> tuple[Station, Station]:
    root = 2 * area_one / (reach * (1 + taper))
    return Station(y=0.0, chord=root), Station(y=reach, chord=taper * root, x=0.6 * root * (1 - taper))


def _plate(name: str, role: Any, stations: tuple[Station, Station], kind: ControlKind, **place: Any) -> Surface:
    hinge = ControlSurface(kind=kind, start=0.0, end=stations[1].y, chord_fraction=0.35)
    return Surface(
        name=name, role=role, section="rounded_plate", thickness=0.005, stations=stations, controls=(hinge,), **place
    )


def _tail(brief: Brief, size: Size, wing: Surface) -> tuple[Surface, ...]:
    """Return tail surfaces that give the brief's volumes exactly, at an arm in mean chords by purpose."""
    measured = measure_surface(wing)
    quarter, mac = measured.x_quarter, measured.mean_chord.length
    if brief.tail == "none":
        return _tip_fins(brief, wing, measured.area, measured.span, quarter)
    arm = _TAIL_ARM.get(brief.purpose, _TAIL_ARM_USUAL) * mac
    area_h = brief.tail_volume_h * measured.area * mac / arm
    area_v = brief.tail_volume_v * measured.area * measured.span / arm

    def at_quarter(surface: Surface) -> Surface:
        off = quarter + arm - measure_surface(surface).x_quarter
        return surface.model_copy(update={"x": surface.x + off})

    if brief.tail == "v_tail":
        area, cant = area_h + area_v, math.atan(math.sqrt(area_v / area_h))
        panels = _panel(0.5 * math.sqrt(4.6 * area), 0.5 * area, 0.7)
        return (at_quarter(_plate("V-tail", "v_tail", panels, "ruddervator", cant=cant)),)
    halves = _panel(0.5 * math.sqrt(4.2 * area_h), 0.5 * area_h, 0.75)
    fin = _panel(math.sqrt(1.5 * area_v), area_v, 0.6)
    return (
        at_quarter(_plate("Stabiliser", "stabiliser", halves, "elevator")),
        at_quarter(_plate("Fin", "fin", fin, "rudder", mirrored=False, cant=math.pi / 2)),
    )


def _tip_fins(brief: Brief, wing: Surface, area: float, span: float, quarter: float) -> tuple[Surface, ...]:
    tip = wing.stations[-1]
    x_tip = wing.x + tip.x
    root = 0.9 * tip.chord
    # With the fin's root on the tip chord, its quarter chord and so the arm are known before its height is.
    arm = x_tip + 0.1 * tip.chord + 0.25 * root - quarter
    one = 0.5 * max(brief.tail_volume_v, 0.01) * area * span / max(arm, 0.3 * root)
    stations = (Station(y=0.0, chord=root), Station(y=one / (0.8 * root), chord=0.6 * root, x=0.4 * root))
    x = x_tip + 0.1 * tip.chord
    fins = Surface(
        name="Tip fins",
        role="fin",
        x=x,
        y=tip.y,
        cant=math.pi / 2,
        section="rounded_plate",
        thickness=0.005,
        stations=stations,
    )
    # The fin's own sweep lengthens the arm a little; shrink it to the volume asked for.
    measured = measure_surface(fins)
    gained = brief.tail_volume_v * area * span / (measured.area * (measured.x_quarter - quarter))
    last = stations[-1].model_copy(update={"y": stations[-1].y * gained})
    return (fins.model_copy(update={"stations": (stations[0], last)}),)


def body_around(brief: Brief, size: Size, wing: Surface, tail: tuple[Surface, ...], train: PowerTrain | None) -> Body:
    """Return a fuselage that holds motor and pack ahead of the wing and carries the tail."""
    front = 0.0 if brief.tail == "none" else (train.motor.length if train else 0.02) + 0.012
    w, h = size.width, size.height
    wing_back = wing.x + size.root
    if brief.tail == "none":
        ends = [(wing_back, 0.6 * w, 0.6 * h, 0.0)]  # the motor pushes from here
    else:
        end = max(s.x + s.stations[0].chord for s in tail)
        slim = max(0.018, 0.22 * w)
        ends = [(wing_back + 0.1 * size.root, 0.7 * w, 0.7 * h, 0.1 * h), (end, slim, slim, 0.25 * h)]
    shoulder = front + 0.3 * (wing.x - front)
    rows = [(front, 0.75 * w, 0.7 * h, 0.0), (shoulder, w, h, 0.0), (wing.x + 0.5 * size.root, w, h, 0.0), *ends]
    stations = tuple(BodyStation(x=x, width=a, height=b, z=z) for x, a, b, z in rows)
    return Body(name="Fuselage", kind="fuselage", stations=stations)


def airframe_surfaces(brief: Brief, size: Size, nose: float) -> tuple[Surface, ...]:
    """Return wing and tail of a brief, the wing's root leading edge ``nose`` metres behind the datum."""
    wing = _swept_wing(size, nose) if brief.tail == "none" else _wing(brief, size, nose)
    tail_z = 0.25 * size.height
    tail = _tail(brief, size, wing)
    return (wing, *(s if s.role == "fin" and s.mirrored else s.model_copy(update={"z": tail_z}) for s in tail))
