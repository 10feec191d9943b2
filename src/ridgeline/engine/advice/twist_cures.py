"""Ways to stiffen a wing against twist, each solved for the speeds and the tips it gives."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any, NamedTuple

from ridgeline.design.airframe import Surface
from ridgeline.design.construction import Covering, SurfaceBuild
from ridgeline.design.document import Design
from ridgeline.engine.advice.gain import mass_gained
from ridgeline.engine.advice.spar_ways import spar_gain, with_spars
from ridgeline.engine.aero.airframe_lattice import ROLL_CONTROLS
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.report import Remedy, Report
from ridgeline.engine.sizing.building import RODS
from ridgeline.engine.sizing.forms import rebuilt
from ridgeline.engine.sizing.offers import changed_part
from ridgeline.engine.stages.bearing import Bearing
from ridgeline.engine.stages.twisting import FAR, OVER_DIVE, divergence_of, tip_in_dive
from ridgeline.engine.structure.choosing import main_spar, rear_place, with_spar_of
from ridgeline.engine.structure.half import Half, half_of
from ridgeline.engine.structure.room import SHEETS
from ridgeline.engine.structure.stock import spar_of

#: Tips that twist down this far in a dive are told: the trim goes with them (chosen).
TUCK = math.radians(6.0)
#: A cure that lifts reversal or divergence by less than this is none.
WORTH = 1.05

#: What is laid on all round (the shipped materials): mass per area and stiffness in shear.
GLASS = Covering(material="Glass cloth 25 g/m2, with resin", areal=0.050, wall=6e4)
FILM = Covering(material="Laminating film", areal=0.045, wall=3e4)
#: Where lift acts: a spar there is not twisted off, share of the chord.
_QUARTER = 0.25
#: Ailerons are shortened in these steps of their length.
_SHORTER = (0.9, 0.8, 0.7, 0.6, 0.5)
#: A rod against twist goes this far out, of the panel.
_TO_TIP = 0.9
#: Layers of glass that are laid on one another at most.
_MOST_LAYERS = 3


class Cure(NamedTuple):
    """A way to a stiffer wing: the edit, the speeds at which it then reverses and twists off, m/s.

    ``tip`` is the twist of its tips in a dive, rad, nose up; None where it twists off before.
    """

    remedy: Remedy
    reversal: float
    divergence: float
    tip: float | None


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
    for key, words, fields in ideas(surface, half):
        after = half_of(surface.model_copy(update=fields), half.seat)
        if after is None or after.panel is None:
            continue
        reversal, divergence = speeds_of(after, found, report)
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
    return math.isfinite(before) and now >= WORTH * before


def _flatter(now: float | None, before: float | None) -> bool:
    """Tell whether tips that turn down in a dive turn clearly less."""
    return before is not None and now is not None and before < -TUCK and WORTH * now > before


def _tip(half: Half, found: Bearing, report: Report) -> float | None:
    """Return the twist of a half's tip in the dive, rad, nose up; None where it twists off before."""
    if half.panel is None or found.dive is None:
        return None
    return tip_in_dive(half, 0.5 * report.results.air.density * found.dive**2)


def _told(words: str, reversal: float, gain: float) -> Phrase:
    if not math.isfinite(reversal):
        text, values = words + ": no reversal", []
    else:
        text, values = words + ": reverses at {}", [Measured(reversal, "speed", 0)]
    if abs(gain) < 5e-5:
        return say(text, *values)
    return say(text + f", {{}} {'more' if gain > 0 else 'less'}", *values, Measured(abs(gain), "mass", 0))


def speeds_of(half: Half, found: Bearing, report: Report) -> tuple[float, float]:
    """Return the speeds at which the ailerons of a half reverse and it twists off, m/s.

    Parameters
    ----------
    half : Half
        That does not stand upright.
    found : Bearing
    report : Report

    Returns
    -------
    reversal, divergence : float
        Infinite beyond what is looked at.
    """
    panel, density = half.panel, report.results.air.density
    assert panel is not None
    fast = FAR * (found.dive if found.dive is not None else 2 * (report.value("speed.cruise") or 10.0))
    most = 0.5 * density * fast**2
    reverses = panel.reversal(most) if half.rolls else math.inf
    diverges = divergence_of(half)
    return math.sqrt(2 * reverses / density), math.sqrt(2 * diverges / density) if diverges <= most else math.inf


def ideas(surface: Surface, half: Half) -> Iterator[tuple[str, str, dict[str, Any]]]:
    """Yield ways to stiffen a surface.

    Parameters
    ----------
    surface : Surface
        That says how it is built.
    half : Half
        Of it.

    Yields
    ------
    key, words, fields : str, str and dict
        The fields of the surface that change.
    """
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
    if which is None and built.form in SHEETS:
        # The thinnest rod that lies in the sheet brings the axis it twists about forward, where the air acts.
        for rod in (one for one in RODS if one.thickness <= surface.sheet):
            spar = spar_of(rod, place=_QUARTER, end=_TO_TIP)
            yield "quarter", f"A {rod.name} at the quarter chord", of(spars=(spar,))
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
        reversal, divergence = speeds_of(after, found, report)
        if reversal >= least_speed(found):
            changes = changed_part(design, f"surfaces[{index}]", {"controls": controls})
            gain = mass_gained(design, report, changes)
            words = f"Ailerons {100 * (1 - share):.0f} % shorter, from the tips"
            tip = _tip(after, found, report)
            yield Cure(Remedy("shorter", _told(words, reversal, gain), changes), reversal, divergence, tip)
            return


def least_speed(found: Bearing) -> float:
    """Return the speed up to which nothing is to reverse or twist off, m/s; nothing without a dive."""
    return 0.0 if found.dive is None else OVER_DIVE * found.dive


def stiffer(design: Design, report: Report, index: int) -> Iterator[Remedy]:
    """Offer what keeps a surface from twisting off in a dive, each solved for its speed.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    index : int
        Of the surface.

    Yields
    ------
    Remedy
    """
    surface, half, found = design.surfaces[index], report.results.beams[index], report.results.bearing
    if half is None or surface.built is None or found is None:
        return
    for key, words, fields in ideas(surface, half):
        after = half_of(surface.model_copy(update=fields), half.seat)
        if after is None or after.panel is None or speeds_of(after, found, report)[1] < least_speed(found):
            continue
        if after.spars != half.spars:
            changes = with_spars(design, index, after.spars)
            gain = spar_gain(design, report, index, changes)
        else:
            changes = changed_part(design, f"surfaces[{index}]", fields)
            gain = mass_gained(design, report, changes)
        told = f"{surface.name}: {words[0].lower()}{words[1:]}, {{}} {'more' if gain >= 0 else 'less'}"
        yield Remedy(key, say(told, Measured(abs(gain), "mass", 1)), changes)
