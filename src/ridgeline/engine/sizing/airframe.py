"""The lifting surfaces of an airframe from a brief, for every layout: wing, tail and fins in proportion."""

from __future__ import annotations

import math
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from ridgeline.design.airframe import ControlKind, ControlSurface, Station, Surface
from ridgeline.design.brief import Brief
from ridgeline.design.explain import explain
from ridgeline.engine.geometry.surfaces import SurfaceGeometry, measure_surface
from ridgeline.engine.sizing.arrangements import Arrangement, arrangement_of, controls_for
from ridgeline.errors import DesignError

#: The all-up weight aimed at leaves the growth reserve under the ceiling.
AIM_UNDER_CEILING = 0.92
_BREAK, _TIP_RATIO = 0.53, 0.65
_TAIL_ARM = {"glider": 3.4, "aerobatic": 2.4, "short_field": 3.0, "scale": 2.5}
_TAIL_ARM_USUAL = 2.8
_SECTION = {
    "foam_board": "folded",
    "extruded_foam": "curved_sheet",
    "printed_foaming": "flat_bottom",
    "printed_plain": "flat_bottom",
}
#: Wings over one another share the span of one: shorter by these factors, their gap in mean chords.
_SPAN_OF = {1: 1.0, 2: 0.82, 3: 0.70}
_GAP, _STAGGER = 1.0, 0.25
#: Wishes past these come to no airframe: aspect ratio, wing area m², root chord m, volumes of tail and fin.
_LEAST_ASPECT, _LEAST_AREA, _MOST_ROOT = 1.0, 0.004, 3.0
_LEAST_VOLUME_H, _LEAST_VOLUME_V = 0.05, 0.003


@dataclass(frozen=True)
class Planform:
    """A straight-tapered half wing: taper, quarter-chord sweep rad, tip twist rad, greatest aspect ratio."""

    taper: float
    sweep: float
    twist: float
    most_aspect: float = 25.0


_PLANFORMS = {
    "swept": Planform(0.6, math.radians(22), math.radians(-3.0)),
    "forward_swept": Planform(0.6, math.radians(-13), math.radians(1.0), 7.0),
    "plank": Planform(0.85, 0.0, 0.0),
    "delta": Planform(0.22, math.radians(39), math.radians(-2.5), 2.6),
    "canard": Planform(0.65, math.radians(14), math.radians(-1.5)),
}


@dataclass(frozen=True)
class Size:
    """The sizes everything else hangs on, m and m²; ``area`` of all wings, chords of one."""

    mass: float
    area: float
    span: float
    root: float
    mac: float
    width: float
    height: float


def first_sizes(brief: Brief) -> Size:
    """Return the sizes a brief comes to: area from the design point, span from area and aspect ratio."""
    wings = arrangement_of(brief.layout).wings
    plan = _PLANFORMS.get(brief.layout)
    mass = AIM_UNDER_CEILING * brief.ceiling
    # A canard stalls with its foreplane, its wing still short of its own limit: it needs more of it.
    area = mass / brief.wing_loading * (1.32 if brief.layout == "canard" else 1.0)
    aspect = min(brief.aspect_ratio, plan.most_aspect if plan else 25.0)
    span = min(_SPAN_OF[wings] * math.sqrt(aspect * area), brief.span_limit)
    if plan is not None:
        t = plan.taper
        root = 2 * area / wings / (span * (1 + t))
        mac = 2 / 3 * root * (1 + t + t * t) / (1 + t)
    else:
        half = 0.5 * span
        root = 0.5 * area / wings / (_BREAK * half + (1 - _BREAK) * half * 0.5 * (1 + _TIP_RATIO))
        mac = 0.95 * root
    chord = min(mac * math.sqrt(wings), 0.5 * span)
    width = min(max(0.30 * chord, 0.035), 0.14)
    return Size(mass, area, span, root, mac, width, 1.15 * width)


def sized(brief: Brief) -> Size:
    """Return the sizes of a brief that comes to an airframe.

    Raises
    ------
    DesignError
        When the wing would be deeper than wide, or larger than a document holds, or a tail or fin of no size.
    """
    size = first_sizes(brief)
    facts = arrangement_of(brief.layout)
    aspect = size.span**2 * facts.wings / size.area
    if aspect < _LEAST_ASPECT:
        raise DesignError(
            "brief",
            f"{size.area * 100:.0f} dm² of wing on {size.span:.2f} m of span, deeper than wide",
            f"an aspect ratio of {_LEAST_ASPECT:g} and more: a wider span, less weight, or a higher loading",
        )
    if size.root > _MOST_ROOT or size.area < _LEAST_AREA:
        raise DesignError(
            "brief",
            f"{size.area * 100:.2g} dm² of wing, {size.root:.2f} m deep",
            f"{100 * _LEAST_AREA:g} dm² or more, {_MOST_ROOT:g} m deep or less: another weight or loading",
        )
    if facts.family == "tail" and brief.tail_volume_h < _LEAST_VOLUME_H:
        raise DesignError(
            "brief.tail_volume_h",
            f"a tail volume of {brief.tail_volume_h:g}, a tail of no size",
            f"{_LEAST_VOLUME_H:g} or more, or a layout without a tail",
        )
    if brief.tail_volume_v < _LEAST_VOLUME_V:
        raise DesignError(
            "brief.tail_volume_v",
            f"a fin volume of {brief.tail_volume_v:g}, a fin of no size",
            f"{_LEAST_VOLUME_V:g} or more",
        )
    return size


@contextmanager
def within_the_document() -> Iterator[None]:
    """Turn a part that comes out larger or smaller than a document holds into a refusal of the wishes.

    Raises
    ------
    DesignError
        Naming what came out, and what a document holds.
    """
    try:
        yield
    except ValidationError as error:
        refused = explain(error)
        words = f"a {error.title.lower()} whose {refused.path} is {refused.understood}"
        raise DesignError("brief", words, f"{refused.allowed}: other wishes") from error


def airframe_surfaces(brief: Brief, size: Size, nose: float) -> tuple[Surface, ...]:
    """Return wings (first), tail and fins of a brief; the first wing's root leading edge ``nose`` behind the datum.

    Parameters
    ----------
    brief : Brief
    size : Size
    nose : float
        From the datum to the wing's root, m.

    Returns
    -------
    tuple of Surface
    """
    facts = arrangement_of(brief.layout)
    if facts.family == "tailless":
        wing = _plain_wing(brief, size, nose)
        return (wing, _fins(brief, wing))
    if facts.family == "canard":
        wing = _plain_wing(brief, size, nose)
        return (wing, _foreplane(brief, size, wing), _fins(brief, wing))
    wings = _wings(brief, size, nose, facts)
    return (*wings, *_tail(brief, size, wings))


def _controls(brief: Brief, half: float) -> tuple[ControlSurface, ...]:
    scheme = controls_for(brief.layout, brief.controls)
    if scheme == "elevons":
        return (ControlSurface(kind="elevon", start=0.28 * half, end=0.95 * half, chord_fraction=0.24),)
    controls: tuple[ControlSurface, ...] = ()
    if scheme in ("aileron_elevator", "full_house"):
        controls = (ControlSurface(kind="aileron", start=0.55 * half, end=0.95 * half, chord_fraction=0.22),)
    if scheme == "full_house":
        controls += (ControlSurface(kind="flap", start=0.12 * half, end=0.5 * half, chord_fraction=0.22),)
    return controls


def _section(brief: Brief) -> tuple[Any, float]:
    """Return section and wing incidence of a tailed layout."""
    if brief.purpose in ("aerobatic", "speed"):
        return "symmetrical", 0.0
    return _SECTION[brief.build_method], math.radians(2.0)


def _thickness(section: str, chord: float) -> float:
    """Return a usual thickness: a twentieth of camber for curved sheet, 9 % of the chord for the others."""
    return 0.05 * chord + 0.005 if section == "curved_sheet" else 0.09 * chord


def _dihedral(brief: Brief) -> float:
    scheme = controls_for(brief.layout, brief.controls)
    usual = {"rudder_elevator": 9.0, "aileron_elevator": 2.0, "full_house": 2.0, "elevons": 0.0}[scheme]
    return math.radians(max(usual, 4.5) if brief.layout == "low_wing" else usual)


def _wings(brief: Brief, size: Size, nose: float, facts: Arrangement) -> tuple[Surface, ...]:
    half, tip = 0.5 * size.span, _TIP_RATIO * size.root
    section, incidence = _section(brief)
    straight = section == "symmetrical"
    rise = (1 - _BREAK) * half * math.tan(_dihedral(brief))
    stations = (
        Station(y=0.0, chord=size.root),
        Station(y=_BREAK * half, chord=size.root),
        Station(y=half, chord=tip, x=0.45 * (size.root - tip), z=rise, twist=0.0 if straight else math.radians(-1.5)),
    )
    if facts.wings == 1:
        places = [("Wing", 0.0, (-0.4 if brief.layout == "low_wing" else 0.5) * size.height)]
    else:
        gap = _GAP * size.mac
        names = ("Upper wing", "Lower wing") if facts.wings == 2 else ("Upper wing", "Middle wing", "Lower wing")
        top = -0.45 * size.height + (facts.wings - 1) * gap
        places = [(name, k * _STAGGER * size.mac, top - k * gap) for k, name in enumerate(names)]
    return tuple(
        Surface(
            name=name,
            role="wing",
            x=nose + back,
            z=z,
            incidence=incidence,
            section=section,
            thickness=_thickness(section, size.root),
            stations=stations,
            controls=_controls(brief, half),
        )
        for name, back, z in places
    )


def _plain_wing(brief: Brief, size: Size, nose: float) -> Surface:
    plan = _PLANFORMS[brief.layout]
    half, tip = 0.5 * size.span, plan.taper * size.root
    back = half * math.tan(plan.sweep) + 0.25 * (size.root - tip)
    tailless = arrangement_of(brief.layout).family == "tailless"
    section, incidence = ("reflexed", math.radians(2.0)) if tailless else _section(brief)
    return Surface(
        name="Wing",
        role="wing",
        x=nose,
        section=section,
        thickness=_thickness(section, size.root),
        incidence=incidence if tailless else 0.0,
        stations=(Station(y=0.0, chord=size.root), Station(y=half, chord=tip, x=back, twist=plan.twist)),
        controls=_controls(brief, half),
    )


def _panel(reach: float, area_one: float, taper: float) -> tuple[Station, Station]:
    root = 2 * area_one / (reach * (1 + taper))
    return Station(y=0.0, chord=root), Station(y=reach, chord=taper * root, x=0.6 * root * (1 - taper))


def _plate(name: str, role: Any, stations: tuple[Station, Station], kind: ControlKind | None, **place: Any) -> Surface:
    hinge: tuple[ControlSurface, ...] = ()
    if kind is not None:
        hinge = (ControlSurface(kind=kind, start=0.0, end=stations[1].y, chord_fraction=0.35),)
    return Surface(
        name=name, role=role, section="rounded_plate", thickness=0.005, stations=stations, controls=hinge, **place
    )


def _joined(wings: tuple[Surface, ...]) -> tuple[list[SurfaceGeometry], float, float, float, float]:
    """Return the measured wings and their joint area, span, mean quarter chord and mean chord."""
    measured = [measure_surface(w) for w in wings]
    area = sum(m.area for m in measured)
    quarter = sum(m.area * m.x_quarter for m in measured) / area
    mac = sum(m.area * m.mean_chord.length for m in measured) / area
    return measured, area, max(m.span for m in measured), quarter, mac


def _tail(brief: Brief, size: Size, wings: tuple[Surface, ...]) -> tuple[Surface, ...]:
    """Return tail surfaces that give the brief's volumes exactly, at an arm in mean chords by purpose."""
    _measured, area, span, quarter, mac = _joined(wings)
    # Several wings on one body: the arm is counted in the chord one wing of their area would have.
    arm = _TAIL_ARM.get(brief.purpose, _TAIL_ARM_USUAL) * mac * math.sqrt(len(wings))
    area_h = brief.tail_volume_h * area * mac / arm
    area_v = brief.tail_volume_v * area * span / arm
    z = 0.25 * size.height

    def at_quarter(surface: Surface) -> Surface:
        off = quarter + arm - measure_surface(surface).x_quarter
        return surface.model_copy(update={"x": surface.x + off})

    if brief.layout in ("v_tail", "inverted_v"):
        turned = math.atan(math.sqrt(area_v / area_h))
        panels = _panel(0.5 * math.sqrt(4.6 * (area_h + area_v)), 0.5 * (area_h + area_v), 0.7)
        sign = 1 if brief.layout == "v_tail" else -1
        return (at_quarter(_plate("V-tail", "v_tail", panels, "ruddervator", cant=sign * turned, z=z)),)
    half = 0.5 * math.sqrt(4.2 * area_h)
    halves = _panel(half, 0.5 * area_h, 1.0 if brief.layout in ("twin_boom", "twin_fuselage") else 0.75)
    up = math.pi / 2
    if brief.layout in ("twin_fin", "twin_boom", "twin_fuselage"):
        fins = _panel(math.sqrt(0.75 * area_v), 0.5 * area_v, 0.6)
        fin = at_quarter(_plate("Fins", "fin", fins, "rudder", cant=up, y=half, z=z))
    else:
        fin = at_quarter(
            _plate("Fin", "fin", _panel(math.sqrt(1.5 * area_v), area_v, 0.6), "rudder", mirrored=False, cant=up, z=z)
        )
    top = fin.stations[-1].y if brief.layout == "t_tail" else 0.0
    return (at_quarter(_plate("Stabiliser", "stabiliser", halves, "elevator", z=z + top)), fin)


def _foreplane(brief: Brief, size: Size, wing: Surface) -> Surface:
    """Return a foreplane at the datum, sized by its volume; loaded harder than the wing, so that it stalls first."""
    measured = measure_surface(wing)
    mac = measured.mean_chord.length
    arm = measured.x_quarter - 0.12 * mac
    area = 0.33 * measured.area * mac / arm
    half = 0.5 * math.sqrt(6.0 * area)
    stations = _panel(half, 0.5 * area, 0.8)
    section, _incidence = _section(brief)
    hinge = ControlSurface(kind="elevator", start=0.0, end=half, chord_fraction=0.35)
    return Surface(
        name="Foreplane",
        role="foreplane",
        z=0.2 * size.height,
        section=section,
        thickness=_thickness(section, stations[0].chord),
        incidence=math.radians(3.0),
        stations=stations,
        controls=(hinge,),
    )


def _fins(brief: Brief, wing: Surface) -> Surface:
    """Return fins for a layout without a tail: at swept tips, or one behind the middle of an unswept wing."""
    measured = measure_surface(wing)
    quarter, area, span = measured.x_quarter, measured.area, measured.span
    if brief.layout in ("swept", "canard"):
        return _tip_fins(brief, wing, area, span, quarter)
    root, mac = wing.stations[0].chord, measured.mean_chord.length
    back = wing.x + root + (0.0 if brief.layout == "delta" else 0.9 * mac)
    # A delta's short span asks for more fin than its volume says.
    volume = max(brief.tail_volume_v, 0.045 if brief.layout == "delta" else 0.01) * area * span
    chord = 0.5 * root if brief.layout == "delta" else 0.45 * root
    # The fin ends at ``back``; its height follows from the arm that its own quarter chord then has.
    height = 0.5 * chord
    kind: ControlKind | None = "rudder" if brief.layout == "plank" else None
    for _ in range(8):
        stations = (Station(y=0.0, chord=chord), Station(y=height, chord=0.6 * chord, x=0.4 * chord))
        fin = _plate("Fin", "fin", stations, kind, mirrored=False, cant=math.pi / 2, x=back - chord)
        shape = measure_surface(fin)
        height *= volume / (shape.area * max(shape.x_quarter - quarter, 0.1 * chord))
    return fin


def _tip_fins(brief: Brief, wing: Surface, area: float, span: float, quarter: float) -> Surface:
    tip = wing.stations[-1]
    # A canard's wing is swept little: its fins reach back behind the tips, or they would have to be towers.
    share, start = (1.15, 0.45) if brief.layout == "canard" else (0.9, 0.1)
    root, x_root = share * tip.chord, wing.x + tip.x + start * tip.chord
    # With the fin's root at the tip chord, its quarter chord and so the arm are known before its height is.
    arm = x_root + 0.25 * root - quarter
    one = 0.5 * max(brief.tail_volume_v, 0.01) * area * span / max(arm, 0.3 * root)
    stations = (Station(y=0.0, chord=root), Station(y=one / (0.8 * root), chord=0.6 * root, x=0.4 * root))
    fins = _plate("Tip fins", "fin", stations, None, x=x_root, y=tip.y, z=wing.z, cant=math.pi / 2)
    # The fin's own sweep lengthens the arm a little; shrink it to the volume asked for.
    measured = measure_surface(fins)
    gained = brief.tail_volume_v * area * span / (measured.area * (measured.x_quarter - quarter))
    last = stations[-1].model_copy(update={"y": stations[-1].y * gained})
    return fins.model_copy(update={"stations": (stations[0], last)})
