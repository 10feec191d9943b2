"""Parts that ways out may name: those of the shelf the report was made with, or the size needed where there is none."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ridgeline.design.power import Pack, PowerTrain, Propeller, SpeedController
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.power.classes import mass_of
from ridgeline.engine.power.exchange import scaled
from ridgeline.engine.power.pack import continuous_current
from ridgeline.engine.power.prop_sizes import HALF_INCH, resized, size_words
from ridgeline.engine.report import Report

#: Steps of capacity that packs are taken as sold in, Ah.
_PACK_STEP_AH = 0.1
#: A propeller of about the same kind: its pitch over its diameter lies this near, as a share.
_ALIKE = 0.35
#: Propellers within this of one diameter are of one size, m.
_SAME_SIZE = 0.3 * 0.0254


def lacking(reason: Phrase, needed: str, *values: Measured) -> Phrase:
    """Return a reason with what is needed and not on the shelf said after it.

    Parameters
    ----------
    reason : Phrase
    needed : str
        What it takes, as "about {} for each motor".
    *values : Measured

    Returns
    -------
    Phrase
    """
    return say(f"{reason.template} None on the shelf: {needed}.", *reason.values, *values)


def controller_of(
    report: Report, like: SpeedController, rating: float, cells: int, supply: float = 0.0
) -> SpeedController | None:
    """Return the lightest controller that bears a current; without a shelf one like the present in steps of 5 A.

    Parameters
    ----------
    report : Report
    like : SpeedController
    rating : float
        Continuous current of one, A.
    cells : int
        In series.
    supply : float
        Least current of its receiver supply, A.

    Returns
    -------
    SpeedController or None
        None where the shelf has none.
    """
    if report.shelf is None:
        wanted = 5 * math.ceil(rating / 5 - 1e-9)
        scale = wanted / like.max_current
        return like.model_copy(
            update={
                "name": f"ESC {wanted} A",
                "max_current": float(wanted),
                "mass": like.mass * scale**0.8,
                "resistance": scaled(like.resistance, 1 / scale),
            }
        )
    fitting = (
        esc
        for esc in report.shelf.escs
        if esc.kind == like.kind
        and esc.max_current >= rating - 1e-9
        and esc.max_cells >= cells
        and esc.bec_current >= supply - 1e-9
        and (like.bec_current <= 0 or esc.bec_current > 0)
    )
    return min(fitting, key=lambda esc: (esc.mass, esc.max_current), default=None)


def packs_of(report: Report, cells: int) -> tuple[Pack, ...] | None:
    """Return the packs of some cells on the shelf, smallest first; None where there is no shelf.

    Parameters
    ----------
    report : Report
    cells : int

    Returns
    -------
    tuple of Pack or None
    """
    if report.shelf is None:
        return None
    found = [pack for pack in report.shelf.packs if pack.cells == cells]
    return tuple(sorted(found, key=lambda pack: (pack.capacity_ah, mass_of(pack))))


def larger_packs(report: Report, pack: Pack) -> Iterator[Pack]:
    """Yield packs of the cells of one with more in them, the next first.

    Parameters
    ----------
    report : Report
    pack : Pack

    Yields
    ------
    Pack
        Of the shelf, or in steps where any size is taken as sold.
    """
    shelf = packs_of(report, pack.cells)
    if shelf is not None:
        yield from (p for p in shelf if p.capacity_ah > pack.capacity_ah)
        return
    for count in range(1, 40):
        yield _of_capacity(pack, round(pack.capacity_ah + count * _PACK_STEP_AH, 3))


def smaller_packs(report: Report, pack: Pack) -> Iterator[Pack]:
    """Yield packs of the cells of one with less in them, the next first.

    Parameters
    ----------
    report : Report
    pack : Pack

    Yields
    ------
    Pack
        Of the shelf, or in steps where any size is taken as sold.
    """
    shelf = packs_of(report, pack.cells)
    if shelf is not None:
        yield from (p for p in reversed(shelf) if p.capacity_ah < pack.capacity_ah)
        return
    steps = int(pack.capacity_ah / _PACK_STEP_AH + 1e-9)
    for count in range(steps if steps * _PACK_STEP_AH < pack.capacity_ah - 1e-9 else steps - 1, 0, -1):
        yield _of_capacity(pack, count * _PACK_STEP_AH)


def _of_capacity(pack: Pack, capacity: float) -> Pack:
    """Return a pack like another with another capacity, Ah, as one would be sold."""
    scale = capacity / pack.capacity_ah
    update = {
        "name": f"{pack.cells}S {capacity * 1000:.0f}",
        "capacity_ah": capacity,
        "cell_resistance": scaled(pack.cell_resistance, 1 / scale),
        "mass": mass_of(pack) * scale,
        "length": pack.length * scale ** (1 / 3),
    }
    return pack.model_copy(update=update)


def stronger_pack(report: Report, train: PowerTrain, current: float) -> Pack | None:
    """Return a pack of about the size there is that gives a current, A.

    Parameters
    ----------
    report : Report
    train : PowerTrain
    current : float
        Of all packs side by side, A.

    Returns
    -------
    Pack or None
        Of the shelf the lightest of the same cells and no less capacity; without a shelf the present one claimed
        stronger. None where there is none.
    """
    pack, each = train.pack, current / train.pack_parallel
    shelf = packs_of(report, pack.cells)
    if shelf is not None:
        fitting = (p for p in shelf if p.capacity_ah >= 0.95 * pack.capacity_ah and continuous_current(p) >= each)
        return min(fitting, key=mass_of, default=None)
    rating = 5 * math.ceil(each / pack.capacity_ah / 0.6 / 5)
    if rating * 0.6 > 30 or pack.capacity_ah < 0.5:
        return None
    scale = rating / pack.c_rating
    # A pack that gives more current has thicker foils: its resistance falls with the rating, its mass hardly rises.
    return pack.model_copy(
        update={
            "c_rating": float(rating),
            "cell_resistance": scaled(pack.cell_resistance, 1 / scale),
            "mass": mass_of(pack) * 1.03,
        }
    )


def _like(report: Report, propeller: Propeller) -> Iterator[Propeller]:
    """Yield the propellers of the shelf of one's family and blades."""
    assert report.shelf is not None
    for other in report.shelf.propellers:
        if other.family == propeller.family and other.blades == propeller.blades and not other.table:
            yield other


def _ratio_off(one: Propeller, other: Propeller) -> float:
    return abs(one.pitch / one.diameter / (other.pitch / other.diameter) - 1)


def smaller_propellers(report: Report, propeller: Propeller, least: float) -> Iterator[Propeller]:
    """Yield propellers of the kind of one in smaller diameters, the next first.

    Parameters
    ----------
    report : Report
    propeller : Propeller
    least : float
        Diameter, m.

    Yields
    ------
    Propeller
    """
    if report.shelf is None:
        for count in range(1, 17):
            size = propeller.diameter - count * HALF_INCH
            if size < least:
                return
            yield resized(propeller, size)
        return
    fitting = [p for p in _like(report, propeller) if least <= p.diameter < propeller.diameter - 1e-6]
    fitting = [p for p in fitting if _ratio_off(p, propeller) <= _ALIKE]
    yield from sorted(fitting, key=lambda p: (-p.diameter, _ratio_off(p, propeller)))


def larger_propellers(report: Report, propeller: Propeller) -> Iterator[Propeller]:
    """Yield propellers of the kind of one in larger diameters, the next first.

    Parameters
    ----------
    report : Report
    propeller : Propeller

    Yields
    ------
    Propeller
    """
    if report.shelf is None:
        for count in range(1, 13):
            yield resized(propeller, propeller.diameter + count * HALF_INCH)
        return
    most = propeller.diameter + 12 * HALF_INCH
    fitting = [p for p in _like(report, propeller) if propeller.diameter + 1e-6 < p.diameter <= most]
    fitting = [p for p in fitting if _ratio_off(p, propeller) <= _ALIKE]
    yield from sorted(fitting, key=lambda p: (p.diameter, _ratio_off(p, propeller)))


def steeper_propellers(report: Report, propeller: Propeller, steepest: float) -> Iterator[Propeller]:
    """Yield propellers of the size and kind of one with more pitch, the next first.

    Parameters
    ----------
    report : Report
    propeller : Propeller
    steepest : float
        Pitch over diameter.

    Yields
    ------
    Propeller
    """
    if report.shelf is None:
        for count in range(1, 9):
            pitch = propeller.pitch + count * HALF_INCH
            if pitch > steepest * propeller.diameter:
                return
            other = propeller.model_copy(update={"pitch": pitch})
            name = f"{other.family.replace('_', ' ').capitalize()} {size_words(other)}"
            yield other.model_copy(update={"name": name})
        return
    fitting = [p for p in _like(report, propeller) if abs(p.diameter - propeller.diameter) <= _SAME_SIZE]
    yield from sorted(
        (p for p in fitting if propeller.pitch + 1e-6 < p.pitch <= steepest * p.diameter),
        key=lambda p: (p.pitch, abs(p.diameter - propeller.diameter)),
    )
