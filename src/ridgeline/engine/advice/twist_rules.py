"""Findings on torsion: ailerons that lose their effect or reverse, wings that twist off, tips that tuck; and cures."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import Any, NamedTuple

from ridgeline.design.airframe import Surface
from ridgeline.design.construction import Covering, SurfaceBuild
from ridgeline.design.document import Design
from ridgeline.design.hinges import hinge_share
from ridgeline.design.paths import Change
from ridgeline.engine.advice.consequences import harmless
from ridgeline.engine.advice.gain import mass_gained
from ridgeline.engine.advice.spar_ways import spar_gain, with_spars
from ridgeline.engine.aero.airframe_lattice import ROLL_CONTROLS
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.report import Finding, Level, Remedy, Report
from ridgeline.engine.sizing.forms import rebuilt
from ridgeline.engine.sizing.offers import changed_part
from ridgeline.engine.stages.bearing import Bearing
from ridgeline.engine.stages.twisting import FAR, OVER_DIVE, Twisting, divergence_of, tip_in_dive
from ridgeline.engine.structure.choosing import main_spar, rear_place, with_spar_of
from ridgeline.engine.structure.half import Half, half_of

#: Least of the ailerons that is to be left in cruise (second part of the handbook §16.5).
LEAST_LEFT = 0.70
#: Tips that twist down this far in a dive are told: the trim goes with them (chosen).
TUCK = math.radians(6.0)
#: Hinge play that lets a control flutter, of its chord, and from which speed on large controls want balance, m/s
#: (second part of the handbook §16.5); a large one has this share of the wing's chord (chosen).
SLOP, _FAST, _LARGE = 0.015, 25.0, 0.2
#: What is laid on all round (the shipped materials): mass per area and stiffness in shear.
GLASS = Covering(material="Glass cloth 25 g/m2, with resin", areal=0.050, wall=6e4)
FILM = Covering(material="Laminating film", areal=0.045, wall=3e4)
#: Where lift acts: a spar there is not twisted off, share of the chord.
_QUARTER = 0.25
#: Ailerons are shortened in these steps of their length.
_SHORTER = (0.9, 0.8, 0.7, 0.6, 0.5)
#: So many cures are named where none is enough by itself.
_PARTS = 2
#: Layers of glass that are laid on one another at most.
_MOST_LAYERS = 3
#: A cure that lifts reversal or divergence by less than this is none.
_WORTH = 1.05


class Cure(NamedTuple):
    """A way to a stiffer wing: the edit, the speeds at which it then reverses and twists off, m/s.

    ``tip`` is the twist of its tips in a dive, rad, nose up; None where it twists off before.
    """

    remedy: Remedy
    reversal: float
    divergence: float
    tip: float | None


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge what twist leaves of the ailerons, reversal, divergence, tuck and flutter."""
    found, twist = report.results.bearing, report.results.twisting
    if found is None or twist is None:
        return
    yield from _reversing(design, report, found, twist)
    yield from _diverging(design, report, found, twist)
    yield from _tucking(design, report, found, twist)
    yield from _fluttering(design, report, found)


def _speed(value: float) -> Measured:
    return Measured(value, "speed", 0)


def _slowest(report: Report) -> float:
    """Return the speed under which it cannot be flown at all without reversing or twisting off, m/s."""
    return OVER_DIVE * (report.value("speed.cruise") or 0.0)


def _least(found: Bearing) -> float:
    return 0.0 if found.dive is None else OVER_DIVE * found.dive


def _reversing(design: Design, report: Report, found: Bearing, twist: Twisting) -> Iterator[Finding]:
    left, top = report.value("structure.effectiveness_cruise"), found.top
    if left is None:
        return
    dive = found.dive
    keys = ("structure.reversal_speed", "structure.effectiveness_cruise")
    if left >= LEAST_LEFT and twist.reversal >= _least(found):
        words = "Ailerons keep {} of their effect in cruise."
        reason = (
            say("They reverse at {}; a dive is {}.", _speed(twist.reversal), _speed(dive))
            if math.isfinite(twist.reversal) and dive is not None
            else say("They do not reverse at any speed it is judged at.")
        )
        text = say(words, Measured(left, "fraction", 0))
        yield Finding("structure.reversal", "settled", "structure", text, reason, (), keys)
        return
    level: Level = "stop" if twist.reversal < _slowest(report) else "look"

    def ways() -> Iterator[Remedy]:
        enough = _enough(
            cures(design, report),
            lambda cure: cure.reversal >= _least(found) and cure.divergence >= min(_least(found), twist.divergence),
        )
        yield from harmless(design, report, enough)
        if left >= LEAST_LEFT:
            yield from _heeding(report, found, twist)

    if math.isfinite(twist.reversal) and dive is not None:
        text = say("Ailerons reverse at {}, a dive is {}.", _speed(twist.reversal), _speed(dive))
    else:
        text = say("Twist leaves {} of the ailerons in cruise.", Measured(left, "fraction", 0))
    yield Finding("structure.reversal", level, "structure", text, _why(twist, left, top, report), ways, keys)


def _heeding(report: Report, found: Bearing, twist: Twisting) -> Iterator[Remedy]:
    """Offer never to fly it faster than the wing bears in torsion, where that leaves its level flight alone."""
    most = min(twist.reversal, twist.divergence) / OVER_DIVE
    most = math.floor(10 * most) / 10
    if most >= max(found.top or 0.0, _slowest(report)):
        yield Remedy("heed", say("Never faster than {}", Measured(most, "speed")), (Change("loads.dive_speed", most),))


def _enough(found: tuple[Cure, ...], holds: Callable[[Cure], bool]) -> tuple[Remedy, ...]:
    """Return the cures that are enough; where none is, those that go farthest, as parts of one."""
    whole = tuple(cure.remedy for cure in found if holds(cure))
    if whole:
        return whole
    best = sorted(found, key=lambda cure: -min(cure.reversal, cure.divergence))[:_PARTS]
    return tuple(replace(cure.remedy, key=f"part_{cure.remedy.key}") for cure in best)


def _why(twist: Twisting, left: float, top: float | None, report: Report) -> Phrase:
    words = "The wing twists: {} is left in cruise"
    values = [Measured(left, "fraction", 0)]
    if top is not None:
        at_top = float(twist.left([top], report.results.air.density)[0])
        if math.isfinite(at_top) and at_top > 0:
            words += ", {} at top speed"
            values.append(Measured(at_top, "fraction", 0))
        else:
            words += ", nothing at top speed: keep the throttle down"
    built = twist.half.surface.built
    papers = built is not None and built.board.papers > 0
    return say(
        words + f". {OVER_DIVE:g} times a dive is wanted." + (" Tape over paper adds nothing." if papers else ""),
        *values,
    )


def _diverging(design: Design, report: Report, found: Bearing, twist: Twisting) -> Iterator[Finding]:
    if twist.divergence >= _least(found) or found.dive is None:
        return

    def ways() -> Iterator[Remedy]:
        enough = _enough(cures(design, report), lambda cure: cure.divergence >= _least(found))
        yield from harmless(design, report, enough)
        yield from _heeding(report, found, twist)

    yield Finding(
        "structure.divergence",
        "stop" if twist.divergence < _slowest(report) else "look",
        "structure",
        say("The wing twists off at {}, a dive is {}.", _speed(twist.divergence), _speed(found.dive)),
        say("The air turns it further the more it has turned. Stay well below, or stiffen it."),
        ways,
        ("structure.divergence_speed",),
    )


def _tucking(design: Design, report: Report, found: Bearing, twist: Twisting) -> Iterator[Finding]:
    if twist.tip_dive is None or twist.tip_dive > -TUCK or found.dive is None:
        return
    yield Finding(
        "structure.tuck",
        "look",
        "structure",
        say("In a dive the tips twist {} nose down.", Measured(-twist.tip_dive, "angle")),
        say(
            "The camber's moment does that at {}; the trim goes with it, and on a swept wing the nose. Ease out early.",
            _speed(found.dive),
        ),
        lambda: harmless(design, report, _flat_enough(cures(design, report), twist.tip_dive)),
    )


def _flat_enough(found: tuple[Cure, ...], now: float | None) -> tuple[Remedy, ...]:
    """Return the cures that leave the tips flat enough; where none is, those that go farthest, as parts of one."""
    able = sorted((cure for cure in found if cure.tip is not None), key=lambda cure: -(cure.tip or 0.0))
    whole = tuple(cure.remedy for cure in able if (cure.tip or 0.0) > -TUCK)
    if whole:
        return whole
    better = [cure for cure in able[:_PARTS] if now is not None and _WORTH * (cure.tip or 0.0) > now]
    return tuple(replace(cure.remedy, key=f"part_{cure.remedy.key}") for cure in better)


def _fluttering(design: Design, report: Report, found: Bearing) -> Iterator[Finding]:
    """Warn of flutter by what lets it begin: play at the trailing edge of controls, and speed."""
    fast = found.top if found.top is not None else found.dive
    if fast is None or fast < _FAST:
        return
    chords = [
        (float(hinge_share(surface, c, [c.start])[0]) * surface.stations[0].chord, surface.stations[0].chord)
        for surface in design.surfaces
        for c in surface.controls
    ]
    large = [chord for chord, whole in chords if chord >= _LARGE * whole]
    if not large:
        return
    yield Finding(
        "structure.flutter",
        "settled",
        "structure",
        say("Above {} keep controls free of play.", _speed(_FAST)),
        say(
            "It flies {}. Less than {} of play at any trailing edge, or balance weights ahead of the hinge; no flutter "
            "speed is computed.",
            _speed(fast),
            Measured(SLOP * min(large), "length", 1),
        ),
    )


def cures(design: Design, report: Report) -> tuple[Cure, ...]:
    """Return what stiffens the main wing against twist, each solved for the speeds it gives.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.

    Returns
    -------
    tuple of Cure
        Those worth their while, as they come to mind on a building board.
    """
    found, twist = report.results.bearing, report.results.twisting
    if found is None or twist is None:
        return ()
    index, half = found.main, twist.half
    surface = design.surfaces[index]
    kept: list[Cure] = []
    for key, words, fields in _ideas(surface, half):
        after = half_of(surface.model_copy(update=fields), half.seat)
        if after is None or after.panel is None:
            continue
        reversal, divergence = _speeds(after, found, report)
        tip = _tip(after, found, report)
        if not (
            _better(reversal, twist.reversal) or _better(divergence, twist.divergence) or _flatter(tip, twist.tip_dive)
        ):
            continue
        if after.spars != half.spars:
            changes = with_spars(design, index, after.spars)
            gain = spar_gain(design, report, index, changes)
        else:
            changes = changed_part(design, f"surfaces[{index}]", fields)
            gain = mass_gained(design, report, changes)
        kept.append(Cure(Remedy(key, _told(words, reversal, gain), changes), reversal, divergence, tip))
    return (*kept, *_shorter(design, report, index, half, found))


def _better(now: float, before: float) -> bool:
    return math.isfinite(before) and now >= _WORTH * before


def _flatter(now: float | None, before: float | None) -> bool:
    """Tell whether tips that turn down in a dive turn clearly less."""
    return before is not None and now is not None and before < -TUCK and _WORTH * now > before


def _tip(half: Half, found: Bearing, report: Report) -> float | None:
    """Return the twist of a half's tip in the dive, rad, nose up; None where it twists off before."""
    if half.panel is None or found.dive is None:
        return None
    return tip_in_dive(half, 0.5 * report.results.air.density * found.dive**2)


def _told(words: str, reversal: float, gain: float) -> Phrase:
    if not math.isfinite(reversal):
        text, values = words + ": no reversal", []
    else:
        text, values = words + ": reverses at {}", [_speed(reversal)]
    if abs(gain) < 5e-5:
        return say(text, *values)
    return say(text + f", {{}} {'more' if gain > 0 else 'less'}", *values, Measured(abs(gain), "mass", 0))


def _speeds(half: Half, found: Bearing, report: Report) -> tuple[float, float]:
    """Return the speeds of reversal and divergence of a half, m/s; infinite beyond what is looked at."""
    panel, density = half.panel, report.results.air.density
    assert panel is not None
    fast = FAR * (found.dive if found.dive is not None else 2 * (report.value("speed.cruise") or 10.0))
    most = 0.5 * density * fast**2
    reverses = panel.reversal(most) if half.rolls else math.inf
    diverges = divergence_of(half)
    return math.sqrt(2 * reverses / density), math.sqrt(2 * diverges / density) if diverges <= most else math.inf


def _ideas(surface: Surface, half: Half) -> Iterator[tuple[str, str, dict[str, Any]]]:
    """Yield ways to stiffen a wing: key, words, and the fields that change."""
    built = surface.built
    assert built is not None

    def of(**update: Any) -> dict[str, SurfaceBuild]:
        assert built is not None
        return {"built": built.model_copy(update=update)}

    wall = 0.0 if built.covering is None else built.covering.wall * built.covering.layers
    if wall < GLASS.wall:
        yield "glass", "Glass 25 g/m² laid on both faces", of(covering=GLASS)
    elif built.covering is not None and built.covering.layers < _MOST_LAYERS:
        more = built.covering.model_copy(update={"layers": built.covering.layers + 1})
        yield "glass_again", f"Another layer of {built.covering.material}", of(covering=more)
    bare = not built.board.papers or built.form == "core"
    if bare and built.form != "printed" and wall < FILM.wall:
        yield "film", "Laminating film on both faces", of(covering=FILM)
    which = main_spar(surface)
    if which is not None:
        spar = built.spars[which]
        place = rear_place(surface, spar.place)
        if place is not None and len(built.spars) < 2:
            rear = spar.model_copy(update={"place": place})
            yield "rear_spar", f"A second {spar.material} at {100 * place:.0f} % of the chord", of(
                spars=(*built.spars, rear)
            )  # fmt: skip
    if which is not None and built.spars[which].place > _QUARTER + 0.02:
        moved = built.spars[which].model_copy(update={"place": _QUARTER})
        yield "forward", "The spar at the quarter chord", of(spars=with_spar_of(surface, which, moved))
    if built.form in ("plate", "stepped"):
        yield "closed", "A closed cell: folded sheet instead", rebuilt(surface, "folded")
    if built.board.faced and built.board.peeled and built.form != "printed":
        yield "papers", "Leave the papers on", of(board=built.board.model_copy(update={"peeled": 0}))
    if built.root is not None:
        yield "root", "Hold the root whole, pinned and glued", of(root=None)


def _shorter(design: Design, report: Report, index: int, half: Half, found: Bearing) -> Iterator[Cure]:
    """Yield the longest ailerons, cut from the tips, that reverse late enough."""
    surface, twist = design.surfaces[index], report.results.twisting
    mine = [k for k, c in enumerate(surface.controls) if c.kind in ROLL_CONTROLS]
    if not mine or twist is None or not math.isfinite(twist.reversal):
        return
    for share in _SHORTER:
        controls = tuple(
            c.model_copy(update={"end": round(c.start + share * (c.end - c.start), 4)}) if k in mine else c
            for k, c in enumerate(surface.controls)
        )
        after = half_of(surface.model_copy(update={"controls": controls}), half.seat)
        if after is None or after.panel is None:
            return
        reversal, divergence = _speeds(after, found, report)
        if reversal >= _least(found):
            changes = changed_part(design, f"surfaces[{index}]", {"controls": controls})
            gain = mass_gained(design, report, changes)
            words = f"Ailerons {100 * (1 - share):.0f} % shorter, from the tips"
            tip = _tip(after, found, report)
            yield Cure(Remedy("shorter", _told(words, reversal, gain), changes), reversal, divergence, tip)
            return
