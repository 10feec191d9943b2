"""The lifting surfaces of an airframe from a brief, for every layout: wing, tail and fins in proportion."""

from __future__ import annotations

import math
from typing import Any, NamedTuple

from ridgeline.design.airframe import ControlKind, ControlSurface, Station, Surface
from ridgeline.design.brief import Brief
from ridgeline.engine.geometry.surfaces import SurfaceGeometry, measure_surface
from ridgeline.engine.sizing.arrangements import Arrangement, arrangement_of, controls_for
from ridgeline.engine.sizing.building import Plan
from ridgeline.engine.sizing.forms import thickness_of
from ridgeline.engine.sizing.sizes import BREAK, PLANFORMS, TIP_RATIO, Size

_DEGREE = math.pi / 180
#: Tail arm in mean chords by purpose, and the usual one (chosen; long enough for the volumes of the trade, §3).
_TAIL_ARM = {"glider": 3.4, "aerobatic": 2.4, "short_field": 3.0, "scale": 2.5}
_TAIL_ARM_USUAL = 2.8
#: Wings over one another: gap and stagger in mean chords (usual).
_GAP, _STAGGER = 1.0, 0.25


class _Hinged(NamedTuple):
    """A control by its ends over the half span and its share of the chord."""

    start: float
    end: float
    chord: float


#: Controls (handbook of the trade §4: ailerons 20–25 % chord, 30–60 % half span; elevons 15–25 % chord).
_ELEVON = _Hinged(0.28, 0.95, 0.24)
_AILERON, _FLAP = _Hinged(0.55, 0.95, 0.22), _Hinged(0.12, 0.5, 0.22)
_TAIL_HINGE = 0.35
#: Angles of wing and foreplane to the body, washout, rad (usual).
_WING_INCIDENCE, _FOREPLANE_INCIDENCE, _WASHOUT = 2.0 * _DEGREE, 2.2 * _DEGREE, -1.5 * _DEGREE
#: A tapered tip lies so far back over the taper; unswept quarter chords; plates (chosen: a straight hinge line).
_TIP_BACK, _QUARTER, _PLATE_BACK = 0.45, 0.25, 0.6
#: Height of wing, lowest of several wings, tail and foreplane over the body's middle, over its height.
_HIGH, _LOW, _STACK_LOW, _TAIL_HIGH, _FOREPLANE_HIGH = 0.5, -0.4, -0.45, 0.25, 0.2


class _Plate(NamedTuple):
    """A tail plate by its aspect ratio and taper."""

    aspect: float
    taper: float


#: Tail plates (usual); between booms the stabiliser is straight.
_V_TAIL, _STABILISER, _FOREPLANE = _Plate(4.6, 0.7), _Plate(4.2, 0.75), _Plate(6.0, 0.8)
_FIN, _TWIN_FIN = _Plate(1.5, 0.6), _Plate(1.5, 0.6)
_BETWEEN_BOOMS = ("twin_boom", "twin_fuselage")
#: A foreplane's area by the wing's area and mean chord over its arm; its own quarter chord behind the datum, where it
#: begins (mean chords).
_FOREPLANE_VOLUME, _FOREPLANE_QUARTER = 0.33, 0.12
#: Fins of layouts without a tail: taper and the tip's way back over the root, least volume, chord over the wing's root,
#: how far they reach behind it (mean chords); those of a delta, whose short span asks for more than its volume says.
_FIN_TIP, _FIN_BACK, _FIN_LEAST_VOLUME = 0.6, 0.4, 0.01
_FIN_CHORD, _FIN_BEHIND, _DELTA_CHORD, _DELTA_VOLUME = 0.45, 0.9, 0.5, 0.045
#: Tip fins: root over the tip's chord, and where it begins on that; a canard's reach back, or they would be towers.
_TIP_FIN, _CANARD_TIP_FIN = (0.9, 0.1), (1.15, 0.45)
#: Shortest arm a fin is sized with, over its own root; steps of the sizing.
_LEAST_ARM, _LEAST_TIP_ARM, _STEPS = 0.1, 0.3, 8


def airframe_surfaces(brief: Brief, size: Size, nose: float, plan: Plan) -> tuple[Surface, ...]:
    """Return wings (first), tail and fins of a brief; the first wing's root leading edge ``nose`` behind the datum.

    Parameters
    ----------
    brief : Brief
        With the scheme of controls it is built with.
    size : Size
    nose : float
        From the datum to the wing's root, m.
    plan : Plan
        How they are built.

    Returns
    -------
    tuple of Surface
    """
    surfaces = _airframe(brief, size, nose, plan)
    if controls_for(brief.layout, brief.controls) != "none":
        return surfaces
    return tuple(surface.model_copy(update={"controls": ()}) for surface in surfaces)


def _airframe(brief: Brief, size: Size, nose: float, plan: Plan) -> tuple[Surface, ...]:
    facts = arrangement_of(brief.layout)
    if facts.family == "tailless":
        wing = _plain_wing(brief, size, nose, plan)
        return _built(plan, (wing,), (_fins(brief, wing),))
    if facts.family == "canard":
        wing = _plain_wing(brief, size, nose, plan)
        return _built(plan, (wing, _foreplane(brief, size, wing, plan)), (_fins(brief, wing),), spars=1)
    wings = _wings(brief, size, nose, facts, plan)
    return _built(plan, wings, _tail(brief, size, wings), spars=len(wings))


def _built(plan: Plan, wings: tuple[Surface, ...], plates: tuple[Surface, ...], spars: int = 1) -> tuple[Surface, ...]:
    """Give surfaces their builds: the first ``spars`` wings with the plan's spar, other wings and plates without."""
    bare = plan.wing.model_copy(update={"spars": ()})
    winged = tuple(
        wing.model_copy(update={"built": plan.wing if k < spars else bare, "sheet": plan.sheet})
        for k, wing in enumerate(wings)
    )
    tails = tuple(
        plate.model_copy(update={"built": plan.tail, "sheet": plan.sheet, "thickness": plan.sheet}) for plate in plates
    )
    return (*winged, *tails)


def _controls(brief: Brief, half: float) -> tuple[ControlSurface, ...]:
    def hinged(kind: ControlKind, of: _Hinged) -> ControlSurface:
        return ControlSurface(kind=kind, start=of.start * half, end=of.end * half, chord_fraction=of.chord)

    scheme = controls_for(brief.layout, brief.controls)
    if scheme == "elevons":
        return (hinged("elevon", _ELEVON),)
    if scheme in ("rudder_elevator", "none"):
        return ()
    flaps = (hinged("flap", _FLAP),) if scheme == "full_house" else ()
    return (hinged("aileron", _AILERON), *flaps)


def _incidence(section: str) -> float:
    return 0.0 if section == "symmetrical" else _WING_INCIDENCE


#: Dihedral of the outer panels, degrees (handbook of the trade §4).
_DIHEDRAL = {"aileron_elevator": 2.0, "full_house": 2.0, "elevons": 0.0}
_LOW_WING_DIHEDRAL = 4.5
#: Rudder alone banks an aircraft from this spiral parameter on, at slow-flight lift; outer panels bear this share of
#: the wing's area moment, and rise no steeper than this, degrees (handbook of the trade §4; a little over its 5).
_SPIRAL, _SLOW_CL, _OUTER_SHARE, _STEEPEST = 5.3, 0.75, 0.68, 21.0


def _dihedral(brief: Brief, size: Size) -> float:
    """Return the dihedral of the outer panels, rad: what rudder alone needs to bank it, or the usual with ailerons."""
    scheme = controls_for(brief.layout, brief.controls)
    if scheme in ("rudder_elevator", "none"):
        arm = _TAIL_ARM.get(brief.purpose, _TAIL_ARM_USUAL) * size.mac
        usual = min(_SPIRAL * _SLOW_CL * size.span / arm / _OUTER_SHARE, _STEEPEST)
    else:
        usual = _DIHEDRAL[scheme]
    return math.radians(max(usual, _LOW_WING_DIHEDRAL) if brief.layout == "low_wing" else usual)


def _wings(brief: Brief, size: Size, nose: float, facts: Arrangement, plan: Plan) -> tuple[Surface, ...]:
    half, tip = 0.5 * size.span, TIP_RATIO * size.root
    section, incidence = plan.section, _incidence(plan.section)
    straight = section == "symmetrical"
    rise = (1 - BREAK) * half * math.tan(_dihedral(brief, size))
    stations = (
        Station(y=0.0, chord=size.root),
        Station(y=BREAK * half, chord=size.root),
        Station(y=half, chord=tip, x=_TIP_BACK * (size.root - tip), z=rise, twist=0.0 if straight else _WASHOUT),
    )
    if facts.wings == 1:
        places = [("Wing", 0.0, (_LOW if brief.layout == "low_wing" else _HIGH) * size.height)]
    else:
        gap = _GAP * size.mac
        names = ("Upper wing", "Lower wing") if facts.wings == 2 else ("Upper wing", "Middle wing", "Lower wing")
        top = _STACK_LOW * size.height + (facts.wings - 1) * gap
        places = [(name, k * _STAGGER * size.mac, top - k * gap) for k, name in enumerate(names)]
    return tuple(
        Surface(
            name=name,
            role="wing",
            x=nose + back,
            z=z,
            incidence=incidence,
            section=section,
            thickness=thickness_of(section, size.root, plan.sheet),
            stations=stations,
            controls=_controls(brief, half),
        )
        for name, back, z in places
    )


def _plain_wing(brief: Brief, size: Size, nose: float, plan: Plan) -> Surface:
    form = PLANFORMS[brief.layout]
    half, tip = 0.5 * size.span, form.taper * size.root
    back = half * math.tan(form.sweep) + _QUARTER * (size.root - tip)
    tailless = arrangement_of(brief.layout).family == "tailless"
    section, incidence = plan.section, _WING_INCIDENCE
    return Surface(
        name="Wing",
        role="wing",
        x=nose,
        section=section,
        thickness=thickness_of(section, size.root, plan.sheet),
        incidence=incidence if tailless else 0.0,
        stations=(Station(y=0.0, chord=size.root), Station(y=half, chord=tip, x=back, twist=form.twist)),
        controls=_controls(brief, half),
    )


def _panel(reach: float, area_one: float, taper: float) -> tuple[Station, Station]:
    root = 2 * area_one / (reach * (1 + taper))
    return Station(y=0.0, chord=root), Station(y=reach, chord=taper * root, x=_PLATE_BACK * root * (1 - taper))


def _plate(name: str, role: Any, stations: tuple[Station, Station], kind: ControlKind | None, **place: Any) -> Surface:
    hinge: tuple[ControlSurface, ...] = ()
    if kind is not None:
        hinge = (ControlSurface(kind=kind, start=0.0, end=stations[1].y, chord_fraction=_TAIL_HINGE),)
    return Surface(name=name, role=role, section="rounded_plate", stations=stations, controls=hinge, **place)


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
    z = _TAIL_HIGH * size.height

    def at_quarter(surface: Surface) -> Surface:
        off = quarter + arm - measure_surface(surface).x_quarter
        return surface.model_copy(update={"x": surface.x + off})

    if brief.layout in ("v_tail", "inverted_v"):
        turned = math.atan(math.sqrt(area_v / area_h))
        panels = _panel(0.5 * math.sqrt(_V_TAIL.aspect * (area_h + area_v)), 0.5 * (area_h + area_v), _V_TAIL.taper)
        sign = 1 if brief.layout == "v_tail" else -1
        return (at_quarter(_plate("V-tail", "v_tail", panels, "ruddervator", cant=sign * turned, z=z)),)
    half = 0.5 * math.sqrt(_STABILISER.aspect * area_h)
    halves = _panel(half, 0.5 * area_h, 1.0 if brief.layout in _BETWEEN_BOOMS else _STABILISER.taper)
    up = math.pi / 2
    if brief.layout in ("twin_fin", *_BETWEEN_BOOMS):
        fins = _panel(math.sqrt(0.5 * _TWIN_FIN.aspect * area_v), 0.5 * area_v, _TWIN_FIN.taper)
        fin = at_quarter(_plate("Fins", "fin", fins, "rudder", cant=up, y=half, z=z))
    else:
        one = _panel(math.sqrt(_FIN.aspect * area_v), area_v, _FIN.taper)
        fin = at_quarter(_plate("Fin", "fin", one, "rudder", mirrored=False, cant=up, z=z))
    top = fin.stations[-1].y if brief.layout == "t_tail" else 0.0
    return (at_quarter(_plate("Stabiliser", "stabiliser", halves, "elevator", z=z + top)), fin)


def _foreplane(brief: Brief, size: Size, wing: Surface, plan: Plan) -> Surface:
    """Return a foreplane at the datum, sized by its volume; loaded harder than the wing, so that it stalls first."""
    measured = measure_surface(wing)
    mac = measured.mean_chord.length
    arm = measured.x_quarter - _FOREPLANE_QUARTER * mac
    area = _FOREPLANE_VOLUME * measured.area * mac / arm
    half = 0.5 * math.sqrt(_FOREPLANE.aspect * area)
    stations = _panel(half, 0.5 * area, _FOREPLANE.taper)
    hinge = ControlSurface(kind="elevator", start=0.0, end=half, chord_fraction=_TAIL_HINGE)
    return Surface(
        name="Foreplane",
        role="foreplane",
        z=_FOREPLANE_HIGH * size.height,
        section=plan.section,
        thickness=thickness_of(plan.section, stations[0].chord, plan.sheet),
        incidence=_FOREPLANE_INCIDENCE,
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
    back = wing.x + root + (0.0 if brief.layout == "delta" else _FIN_BEHIND * mac)
    least = _DELTA_VOLUME if brief.layout == "delta" else _FIN_LEAST_VOLUME
    volume = max(brief.tail_volume_v, least) * area * span
    chord = (_DELTA_CHORD if brief.layout == "delta" else _FIN_CHORD) * root
    # The fin ends at ``back``; its height follows from the arm that its own quarter chord then has.
    height = 0.5 * chord
    kind: ControlKind | None = "rudder" if brief.layout == "plank" else None
    for _ in range(_STEPS):
        stations = (Station(y=0.0, chord=chord), Station(y=height, chord=_FIN_TIP * chord, x=_FIN_BACK * chord))
        fin = _plate("Fin", "fin", stations, kind, mirrored=False, cant=math.pi / 2, x=back - chord)
        shape = measure_surface(fin)
        height *= volume / (shape.area * max(shape.x_quarter - quarter, _LEAST_ARM * chord))
    return fin


def _tip_fins(brief: Brief, wing: Surface, area: float, span: float, quarter: float) -> Surface:
    tip = wing.stations[-1]
    share, start = _CANARD_TIP_FIN if brief.layout == "canard" else _TIP_FIN
    root, x_root = share * tip.chord, wing.x + tip.x + start * tip.chord
    # With the fin's root at the tip chord, its quarter chord and so the arm are known before its height is.
    arm = x_root + _QUARTER * root - quarter
    one = 0.5 * max(brief.tail_volume_v, _FIN_LEAST_VOLUME) * area * span / max(arm, _LEAST_TIP_ARM * root)
    tall = one / (0.5 * (1 + _FIN_TIP) * root)
    stations = (Station(y=0.0, chord=root), Station(y=tall, chord=_FIN_TIP * root, x=_FIN_BACK * root))
    fins = _plate("Tip fins", "fin", stations, None, x=x_root, y=tip.y, z=wing.z, cant=math.pi / 2)
    # The fin's own sweep lengthens the arm a little; shrink it to the volume asked for.
    measured = measure_surface(fins)
    gained = brief.tail_volume_v * area * span / (measured.area * (measured.x_quarter - quarter))
    last = stations[-1].model_copy(update={"y": stations[-1].y * gained})
    return fins.model_copy(update={"stations": (stations[0], last)})
