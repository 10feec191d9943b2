"""A spar in two steps: a stout stock as far out as it must, a lighter one from there to its end."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from ridgeline.design.construction import Spar
from ridgeline.design.shelf import Material
from ridgeline.engine.structure.beam import bent
from ridgeline.engine.structure.choosing import Question
from ridgeline.engine.structure.sections import allowed
from ridgeline.engine.structure.stock import bears_in_bending, section_of, spar_of

#: Where the step is tried, shares of the spar's length, and how far both lie side by side there, m (a socket of six of
#: the usual diameters).
STEPS, OVERLAP = (0.3, 0.4, 0.5, 0.6, 0.7), 0.04
#: So many pairs that are strong enough are bent, the lightest first.
_BENT = 60


class Stepped(NamedTuple):
    """A spar in two steps: stocks, the step's share of the panel, mass kg of both sides, share of the stress, tip m."""

    inner: Material
    outer: Material
    step: float
    mass: float
    share: float
    tip: float


def stepped(question: Question, stock: Sequence[Material]) -> Stepped | None:
    """Return the lightest spar in two steps that bears and bends no more than is wished; None without one.

    Parameters
    ----------
    question : Question
    stock : sequence of Material

    Returns
    -------
    Stepped or None
    """
    half, y = question.half, question.half.y
    able = [one for one in stock if bears_in_bending(one) and one.thickness <= question.room + 1e-9]
    if not able:
        return None
    first, long = float(y[0]), half.half_span
    end = first + question.end * long
    bears = np.array([section_of(m).modulus * allowed(m.strength, brittle=not m.yields) for m in able])
    stiff = np.array([section_of(m).second * m.modulus for m in able])
    linear = np.array([m.constant for m in able])
    sides = 2.0 if half.surface.mirrored else 1.0
    rows: list[tuple[float, int, int, float, float]] = []
    for step in STEPS:
        out = first + step * (end - first)
        within, beyond = y <= out + 1e-9, (y >= out - 1e-9) & (y <= end + 1e-9)
        inside = float(question.greatest[within].max())
        outside = max(float(question.greatest[beyond].max(initial=0.0)), float(np.interp(out, y, question.greatest)))
        share = np.maximum(inside / bears[:, None], outside / bears[None, :])
        mass = sides * (linear[:, None] * (out - first + OVERLAP) + linear[None, :] * (end - out))
        good = (share <= 1 + 1e-9) & (linear[:, None] > linear[None, :])
        rows += [
            (float(mass[i, j]), int(i), int(j), out, float(share[i, j])) for i, j in zip(*np.nonzero(good), strict=True)
        ]
    for mass_, i, j, out, share_ in sorted(rows)[:_BENT]:
        along = np.where(y <= out, stiff[i], np.where(y <= end, stiff[j], 0.0))
        tip = float(bent(y, question.pull, along + question.skin).deflection[-1])
        if abs(tip) <= question.most_tip + 1e-9:
            return Stepped(able[i], able[j], (out - first) / long, mass_, share_, tip)
    return None


def steps_of(question: Question, found: Stepped) -> tuple[Spar, ...]:
    """Return the spars of a stepped one, side by side where they meet.

    Parameters
    ----------
    question : Question
    found : Stepped

    Returns
    -------
    tuple of Spar
    """
    half = question.half
    through = half.spars[question.which].through if question.which is not None else half.surface.joint == "fixed"
    reach = min(found.step + OVERLAP / half.half_span, question.end)
    inner = spar_of(found.inner, place=question.place, start=question.start, end=reach, through=through)
    outer = spar_of(found.outer, place=question.place, start=found.step, end=question.end, through=False)
    return inner, outer
