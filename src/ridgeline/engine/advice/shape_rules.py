"""Findings on the shape: tail volumes, loading, stall."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator

from ridgeline.design.airframe import ControlSurface, Station, Surface
from ridgeline.design.document import Design
from ridgeline.design.paths import Change, apply
from ridgeline.engine.advice.trials import proved, settled_by
from ridgeline.engine.aero.critical import washout_for
from ridgeline.engine.geometry.reference import TAILS
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Remedy, Report
from ridgeline.engine.sizing.purposes import PURPOSES
from ridgeline.engine.weights.items import kinds_of
from ridgeline.errors import DesignError

#: A remedy aims this far into the wanted range, so that the next small edit does not undo it.
_INTO_RANGE = 0.25
#: A stall that starts further out than the first drops a wing; the remedy brings it within the second (half spans).
_TIP_STALL, _INBOARD = 0.62, 0.50
#: Washout tried over the first guess, degrees.
_MORE_WASHOUT = (0.0, 0.25, 0.5, 1.0, 1.5)
#: A volume past this many times its usual range is a tail to cut down.
_OVERSIZE = 1.3

#: No wing is offered at more than this times its span: that is another aircraft.
_MOST_WIDENING = 1.6


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge tail and fin volume, and the stall speed, against the brief."""
    values = PURPOSES[design.brief.purpose]
    volume_h, volume_v = report.value("tail.volume_h"), report.value("tail.volume_v")
    # A foreplane is judged by the neutral point, never by its volume.
    canard = any(s.role == "foreplane" for s in design.surfaces)
    if volume_h is not None and values.volume_h[1] > 0 and not canard:
        yield from _volume(design, report, "h", volume_h, values.volume_h, values.label)
    if volume_v is not None:
        yield from _volume(design, report, "v", volume_v, values.volume_v, values.label)
    elif values.volume_v[1] > 0 and report.value("wing.area") is not None:
        yield Finding(
            "tail.no_fin",
            "stop",
            "shape",
            say("There is no fin."),
            say("Nothing turns the nose back into the wind."),
            tuple(_add_fin(design, report, values.volume_v)),
        )
    yield from _stall(design, report)
    yield from _stall_place(design, report)
    yield from _skipped(design, report)


def _skipped(design: Design, report: Report) -> Iterator[Finding]:
    """Say when a shape has more stations than the lattice follows."""
    model = report.results.lattice
    if model is None or not model.skipped:
        return
    number = sum(len(surface.stations) for surface in design.surfaces)
    yield Finding(
        "shape.many_stations",
        "look",
        "shape",
        say(f"The lattice follows only some of these {number} stations."),
        say("Lift and stability are reckoned on an even choice of them: fewer stations would all be followed."),
    )


def _volume(
    design: Design, report: Report, axis: str, value: float, wanted: tuple[float, float], purpose: str
) -> Iterator[Finding]:
    name = {"h": "Tail volume", "v": "Fin volume"}[axis]
    digits = {"h": 2, "v": 3}[axis]
    now = Measured(value, "ratio", digits)
    low, high = Measured(wanted[0], "ratio", digits), Measured(wanted[1], "ratio", digits)
    key = f"tail.volume_{axis}"
    if value < wanted[0]:
        aim = wanted[0] + _INTO_RANGE * (wanted[1] - wanted[0])
        yield Finding(
            f"{key}.low",
            "look" if value > 0.7 * wanted[0] else "stop",
            "shape",
            say(f"{name} {{}} is low.", now),
            say(f"A {purpose.lower()} design wants {{}} to {{}}: it will wander and answer late.", low, high),
            tuple(_volume_remedies(design, report, axis, value, aim, digits)),
            (key,),
        )
    elif value > wanted[1]:
        over = value > _OVERSIZE * wanted[1]
        yield Finding(
            f"{key}.high",
            "look" if over else "settled",
            "shape",
            say(f"{name} {{}} is more than needed.", now),
            say("{} to {} is usual: steady, at the price of weight at the tail.", low, high),
            tuple(_volume_remedies(design, report, axis, value, wanted[1], digits)) if over else (),
            (key,),
        )
    else:
        yield Finding(
            f"{key}.good",
            "settled",
            "shape",
            say(f"{name} {{}} is in the usual range.", now),
            say(f"{{}} to {{}} for a {purpose.lower()} design.", low, high),
            (),
            (key,),
        )


def _add_fin(design: Design, report: Report, wanted: tuple[float, float]) -> Iterator[Remedy]:
    """Offer a fin of a usual volume at the end of the body."""
    ref = report.results.shape.reference
    ends = [s.x for body in design.bodies for s in body.sections]
    if ref is None or not ends:
        return
    volume, quarter = 0.5 * sum(wanted), ref.at(0.25)
    root = height = 0.0
    # The chord takes room ahead of the body's end, so that the arm depends on it: a few rounds settle both.
    for _ in range(12):
        arm = max(ends) - 0.6 * root - quarter
        if arm <= 0:
            return
        area = volume * ref.area * ref.span / arm
        height = math.sqrt(1.5 * area)
        root = area / (0.8 * height)
    stations = (Station(y=0.0, chord=root), Station(y=height, chord=0.6 * root, x=0.4 * root))
    fin = Surface(
        name="Fin",
        role="fin",
        mirrored=False,
        x=max(ends) - root,
        cant=math.pi / 2,
        section="rounded_plate",
        thickness=0.005,
        stations=stations,
        controls=(ControlSurface(kind="rudder", start=0.0, end=height, chord_fraction=0.35),),
    )
    text = say("Add a fin {} high: volume {}", Measured(height, "length"), Measured(volume, "ratio", 3))
    yield Remedy("add_fin", text, (Change("surfaces[-]", fin),))


def _counts_for(surface: Surface, axis: str) -> bool:
    if axis == "h":
        return surface.role in TAILS
    return surface.role == "fin" or (surface.role == "v_tail")


def _volume_remedies(
    design: Design, report: Report, axis: str, value: float, aim: float, digits: int
) -> Iterator[Remedy]:
    members = [i for i, s in enumerate(design.surfaces) if _counts_for(s, axis)]
    if not members or value <= 0:
        return
    # Stretching only the spans keeps chords and places, so the volume grows exactly in proportion.
    stretch = aim / value
    changes: list[Change] = []
    for index in members:
        surface = design.surfaces[index]
        root = surface.stations[0].y
        stations = tuple(
            s.model_copy(update={"y": root + (s.y - root) * stretch, "z": s.z * stretch}) for s in surface.stations
        )
        controls = tuple(
            c.model_copy(update={"start": root + (c.start - root) * stretch, "end": root + (c.end - root) * stretch})
            for c in surface.controls
        )
        changes += [
            Change(f"surfaces[{index}].stations", stations),
            Change(f"surfaces[{index}].controls", controls),
        ]
    if stretch < 1 and _too_far_back(design, report, changes):
        return
    first = design.surfaces[members[0]]
    reach = first.stations[-1].y - first.stations[0].y
    word = "V panels" if first.role == "v_tail" else ("fin" if axis == "v" else "stabiliser halves")
    yield Remedy(
        f"more_area_{axis}",
        say(
            f"{'Lengthen' if stretch > 1 else 'Shorten'} {word} {{}} → {{}}: volume {{}}",
            Measured(reach, "length", bare=True),
            Measured(reach * stretch, "length"),
            Measured(aim, "ratio", digits),
        ),
        tuple(changes),
    )
    move = _aft_move(report, axis, value, aim)
    if move is not None:
        yield Remedy(
            f"more_arm_{axis}",
            say("Tail {} further aft: volume {}", Measured(move, "length"), Measured(aim, "ratio", digits)),
            tuple(move_tail(design, move)),
        )


def _too_far_back(design: Design, report: Report, changes: Iterable[Change]) -> bool:
    """Tell whether edits that take from the tail leave the balance point behind where it may be."""
    try:
        after = report.trial().result(apply(design, changes), "balance")
    except DesignError:
        return True
    return after is None or after.targets is None or after.cg_fraction > after.targets.settled[1]


def _aft_move(report: Report, axis: str, value: float, aim: float) -> float | None:
    """Return how far aft the tail goes for a volume: V grows by S_t Δ over S c̄ (or S b)."""
    shape = report.results.shape
    if shape.reference is None or shape.tails is None:
        return None
    area = shape.tails.area_h if axis == "h" else shape.tails.area_v
    length = shape.reference.mac if axis == "h" else shape.reference.span
    move = (aim - value) * shape.reference.area * length / area
    return float(move) if 0 < move < 0.5 * shape.reference.span else None


def move_tail(design: Design, move: float) -> Iterator[Change]:
    """Yield the edits that move the whole tail: its surfaces, what sits at them, and the bodies' last stations.

    Parameters
    ----------
    design : Design
    move : float
        Aft, m.

    Returns
    -------
    iterator of Change
    """
    tails = [i for i, s in enumerate(design.surfaces) if s.role in (*TAILS, "fin")]
    front = min(design.surfaces[i].x for i in tails) - 0.02
    for index in tails:
        yield Change(f"surfaces[{index}].x", design.surfaces[index].x + move)
    carriers = {design.surfaces[i].id for i in tails}
    for index, part in enumerate(design.parts):
        if part.x >= front and (part.on is None or part.on.to not in carriers):
            yield Change(f"parts[{index}].x", part.x + move)
    for index, body in enumerate(design.bodies):
        last = body.stations[-1]
        if body.x + last.x >= front:
            longer = (*body.stations[:-1], last.model_copy(update={"x": last.x + move}))
            yield Change(f"bodies[{index}].stations", longer)


def _wing_factor(design: Design, report: Report, share: float, auw: float) -> float:
    """Return how much wider the wing must be to bring loading to a share of itself, its own growth in mass included.

    With M_w of the mass growing along: (M − M_w + M_w f)/f = share·M. Without an answer, the mass is taken as it is.
    """
    wings = {s.id for s in design.surfaces if s.role == "wing"}
    expected = report.results.masses.expected
    growing = sum(
        float(expected[i])
        for i in kinds_of(design.parts).built
        if (build := design.parts[i].build) is not None and build.of in wings and design.parts[i].weighed is None
    )
    left = share * auw - growing
    return (auw - growing) / left if left > 0.1 * auw else 1.0 / share


def _stall(design: Design, report: Report) -> Iterator[Finding]:
    stall = report.value("speed.stall")
    area, auw = report.value("wing.area"), report.value("mass.auw")
    if stall is None or area is None or auw is None:
        return
    wish = design.brief.stall_speed
    now, limit, allowed = Measured(stall, "speed"), Measured(wish, "speed"), round(stall + 0.005, 2)
    if stall <= wish:
        yield Finding(
            "speed.stall.good",
            "settled",
            "shape",
            say("It stalls at {}, the brief allows {}.", now, limit),
            say("Level, power off, at the weight it has now."),
            (),
            ("speed.stall",),
        )
        return
    yield Finding(
        "speed.stall.high",
        "look",
        "shape",
        say("It stalls at {}, the brief wishes {}.", now, limit),
        say("At {} the wing would need {}.", Measured(auw, "mass"), Measured(area * (stall / wish) ** 2, "area")),
        (
            *_more_wing(design, report, stall, auw),
            Remedy(
                "allow_stall",
                say("Allow a stall at {}", Measured(allowed, "speed")),
                (Change("brief.stall_speed", allowed),),
            ),
        ),
        ("speed.stall",),
    )


def _more_wing(design: Design, report: Report, stall: float, auw: float) -> Iterator[Remedy]:
    """Offer the span that brings the stall to the wish, its own mass, downwash and Reynolds number with it."""
    wish, span = design.brief.stall_speed, report.value("wing.span") or 0.0
    wings = [i for i, s in enumerate(design.surfaces) if s.role == "wing"]

    def edits(factor: float) -> Iterator[Change] | None:
        return _widen(design, wings, factor) if factor <= _MOST_WIDENING else None

    def excess(after: Report) -> float | None:
        reached = after.value("speed.stall")
        return None if reached is None else reached / wish

    # The stall goes with one over the root of the area; a little inside the wish, for what grows along.
    found = settled_by(design, report, edits, excess, _wing_factor(design, report, (wish / stall) ** 2, auw), 0.5)
    if found is not None:
        ends = Measured(span, "length", bare=True), Measured(span * found[0], "length")
        beyond = ", past the span limit" if span * found[0] > design.brief.span_limit + 1e-6 else ""
        yield Remedy("more_wing", say(f"Wider wing, span {{}} → {{}}{beyond}", *ends), found[1])


def _stall_place(design: Design, report: Report) -> Iterator[Finding]:
    """Judge where the stall starts: at the root of a wing, or first at a foreplane."""
    speeds, model = report.results.speeds, report.results.lattice
    if speeds is None or speeds.section is None or model is None:
        return
    stall = speeds.section
    share = Measured(stall.where, "fraction", 0)
    canard = any(s.role == "foreplane" for s in design.surfaces)
    if canard and stall.role == "wing":
        yield Finding(
            "speed.stall.wing_first",
            "stop",
            "shape",
            say("The wing stalls before the foreplane."),
            say("Then the tail drops and nothing lowers the nose. Less foreplane, or the balance further ahead."),
        )
        return
    if canard or stall.where <= _TIP_STALL:
        what = "foreplane" if canard else "wing"
        place = "so the nose drops by itself" if canard else "so the ailerons still answer"
        yield Finding(
            "speed.stall.place",
            "settled",
            "shape",
            say(f"The stall starts {{}} out on the {what}.", share),
            say(f"The section there meets its limit first, {place}."),
        )
        return
    guess = washout_for(model, stall, _INBOARD)
    yield Finding(
        "speed.stall.tip",
        "look",
        "shape",
        say("The stall starts near the tip, {} out.", share),
        say("A wing drops without warning. Washout or a wider tip brings the stall inboard."),
        () if guess is None else _proved_washout(design, report, stall.surface, guess),
    )


def _proved_washout(design: Design, report: Report, index: int, guess: float) -> tuple[Remedy, ...]:
    """Offer the least washout from a guess on that, evaluated whole, brings the stall off the tip."""
    twists = tuple(guess + math.radians(extra) for extra in _MORE_WASHOUT)
    return proved(design, report, (_washout(design, index, twist) for twist in twists), _off_the_tip, 1.0, most=1)


def _off_the_tip(report: Report) -> float:
    speeds = report.results.speeds
    return float(speeds is not None and speeds.section is not None and speeds.section.where <= _TIP_STALL)


def _washout(design: Design, index: int, twist: float) -> Remedy:
    stations = design.surfaces[index].stations
    tip = stations[-1].y
    twisted = tuple(s.model_copy(update={"twist": s.twist - twist * s.y / tip}) for s in stations)
    text = say("Twist the tip {} down: stall starts inboard", Measured(twist, "angle"))
    return Remedy("washout", text, (Change(f"surfaces[{index}].stations", twisted),))


def _widen(design: Design, wings: list[int], factor: float) -> Iterator[Change]:
    for index in wings:
        surface = design.surfaces[index]
        stations = tuple(s.model_copy(update={"y": s.y * factor, "z": s.z * factor}) for s in surface.stations)
        controls = tuple(
            c.model_copy(update={"start": c.start * factor, "end": c.end * factor}) for c in surface.controls
        )
        yield Change(f"surfaces[{index}].stations", stations)
        yield Change(f"surfaces[{index}].controls", controls)
