"""Which stock a surface is to have for its spar: the question a half asks, and the edits that fit an answer."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Surface
from ridgeline.design.construction import Spar
from ridgeline.design.hinges import hinge_share
from ridgeline.design.shelf import Material
from ridgeline.engine.structure.beam import Carried
from ridgeline.engine.structure.built_up import board_strips
from ridgeline.engine.structure.half import Half
from ridgeline.engine.structure.room import between_skins, sheet_at
from ridgeline.engine.structure.stock import COUNTS, Tried, may_end, search, spar_of

Array = NDArray[np.float64]
#: A first spar stands here and ends here, where a surface has none (chosen).
FIRST_PLACE, FIRST_END = 0.3, 0.8
#: A rod lies in a slot of a plate and may stand out of it by this share of the sheet (chosen: papers part round it).
_STANDS_OUT = 1.2
#: Hollow forms leave a spar so much of the height between their skins.
_CLEAR = 0.95
#: A rear spar stands this far ahead of the hinge and this far behind the main one at least, and no farther back, shares
#: of the chord (chosen).
_AHEAD, _APART, _REARMOST = 0.05, 0.15, 0.70
#: Ends of spars are told in steps of this share of the panel.
_STEP = 0.01


class Question(NamedTuple):
    """What the main spar of a half has to do.

    ``which`` is its index, None where there is none yet; ``place`` the share of the chord it stands at, ``rear`` that
    of a second one behind it, None where none stands well apart; ``pull`` the load its bend is judged by, ``greatest``
    (n,) the worst moment of all cases at each station, N m; ``room`` the height there is, m; ``most_tip`` m; ``skin``
    (n,) the bending stiffness of all but that spar, N m².
    """

    half: Half
    which: int | None
    place: float
    rear: float | None
    start: float
    end: float
    pull: Carried
    greatest: Array
    room: float
    most_tip: float
    skin: Array


def main_spar(surface: Surface) -> int | None:
    """Return which spar of a surface carries it: the stiffest stock that does not slide; None without one."""
    spars = () if surface.built is None else surface.built.spars
    able = [k for k, spar in enumerate(spars) if not spar.sliding]
    return max(able, key=lambda k: spars[k].count * spars[k].height ** 3 * spars[k].width, default=None)


def room_at(surface: Surface, place: float, end: float) -> float:
    """Return the height there is for a spar, m: in the sheet of a plate, between the skins of a hollow form.

    Parameters
    ----------
    surface : Surface
    place : float
        Share of the chord.
    end : float
        Share of the panel at which it ends: the wing is lowest there.

    Returns
    -------
    float
    """
    sheet = sheet_at(surface, place)
    if sheet is not None:
        return sheet * _STANDS_OUT
    stations = surface.stations
    at = stations[0].y + end * (stations[-1].y - stations[0].y)
    chord = np.interp(at, [s.y for s in stations], [s.chord for s in stations])
    return _CLEAR * float(between_skins(surface, place, chord))


def rear_place(surface: Surface, place: float) -> float | None:
    """Return where a second spar stands behind one, ahead of every hinge, share of the chord.

    Parameters
    ----------
    surface : Surface
    place : float
        Of the first, share of the chord.

    Returns
    -------
    float or None
        None where it would not stand well apart.
    """
    hinge = min((1 - float(hinge_share(surface, c, [c.start])[0]) for c in surface.controls), default=1.0)
    rear = round(min(hinge - _AHEAD, _REARMOST), 2)
    return rear if rear - place >= _APART else None


def question_of(half: Half, moment: Array, shear: Array, tip_share: float) -> Question:
    """Return what the main spar of a half has to do.

    Parameters
    ----------
    half : Half
    moment, shear : ndarray, shape (cases, n)
        The pull first.
    tip_share : float
        Most the tip may bend in the pull, of the half span.

    Returns
    -------
    Question
    """
    which = main_spar(half.surface)
    spar = None if which is None else half.spars[which]
    place = FIRST_PLACE if spar is None else spar.place
    start, end = (0.0, FIRST_END) if spar is None else (spar.start, spar.end)
    other = half.bending if which is None else half.bending - half.spar_bending[which]
    return Question(
        half,
        which,
        place,
        rear_place(half.surface, place) if len(half.spars) < 2 else None,
        start,
        end,
        Carried(shear[0], moment[0]),
        np.abs(moment).max(axis=0),
        room_at(half.surface, place, end),
        tip_share * half.half_span,
        other,
    )


def answers(
    question: Question, stock: Sequence[Material], counts: Sequence[int] = COUNTS, *, made: bool = True
) -> tuple[Tried, ...]:
    """Try every stock; the lightest that holds first, then by what they lack.

    Parameters
    ----------
    question : Question
    stock : sequence of Material
    counts : sequence of int
        How many side by side.
    made : bool
        Strips cut and stacked from the stock's board are tried too.

    Returns
    -------
    tuple of Tried
    """
    half = question.half
    end = half.y[0] + question.end * half.half_span
    sides = 1.0 if half.surface.mirrored else 0.5
    found = search(
        (*stock, *board_strips(stock, question.room)) if made else stock,
        half.y,
        question.pull,
        float(end),
        room=question.room,
        most_tip=question.most_tip,
        skin=question.skin,
        greatest=question.greatest,
        counts=counts,
        rear_room=None if question.rear is None else room_at(half.surface, question.rear, question.end),
    )
    return found if sides == 1.0 else tuple(one._replace(mass=sides * one.mass) for one in found)


def shortest_end(question: Question) -> float:
    """Return the share of the panel at which its spar may end: where the skins bear alone, in whole hundredths.

    Parameters
    ----------
    question : Question

    Returns
    -------
    float
        1 where they nowhere do.
    """
    half = question.half
    out = may_end(half.y, question.greatest, np.maximum(half.skins.bears, 1e-12))
    share = (out - half.y[0]) / half.half_span
    return min(max(float(np.ceil(share / _STEP - 1e-9) * _STEP), 0.0), 1.0)


def reaching(question: Question) -> Question:
    """Return the question with a spar long enough that the skins bear alone beyond it.

    Parameters
    ----------
    question : Question

    Returns
    -------
    Question
    """
    return question._replace(end=max(question.end, shortest_end(question)))


def fitted(question: Question, tried: Tried) -> tuple[Spar, ...]:
    """Return the spar of a stock that was tried, two where one stands at the rear.

    Parameters
    ----------
    question : Question
    tried : Tried

    Returns
    -------
    tuple of Spar
    """
    half = question.half
    through = half.spars[question.which].through if question.which is not None else half.surface.joint == "fixed"
    places = [question.place]
    if tried.apart and question.rear is not None:
        places.append(question.rear)
    count = tried.number // len(places)
    return tuple(
        spar_of(tried.material, place=place, start=question.start, end=question.end, count=count, through=through)
        for place in places
    )


def with_spar_of(surface: Surface, which: int | None, *fresh: Spar) -> tuple[Spar, ...]:
    """Return the spars of a surface with one of them exchanged for others, or those added where ``which`` is None."""
    spars = () if surface.built is None else surface.built.spars
    if which is None:
        return (*spars, *fresh)
    return (*spars[:which], *fresh, *spars[which + 1 :])
