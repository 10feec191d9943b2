"""The holes, the tooth and the travel that give a control the throws that are wished."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from itertools import product
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.linkage import Linkage
from ridgeline.engine.controls.four_bar import NEAR_CENTRE, Motion, motion
from ridgeline.engine.controls.linkage import FOLLOWED, Throw, Travel, bars

Array = NDArray[np.float64]
#: Teeth that are tried ahead and behind of square, and the least and the most of the travel a radio is set to (second
#: part of the handbook §17: 60 %; no servo is sent past its full pulse).
TEETH, LEAST_TRAVEL, MOST_TRAVEL = range(-4, 5), 0.60, 1.0
#: Holes that miss a throw by more than this by their lengths alone are not looked at (chosen: clocking and the rod's
#: slope change a throw by less).
_NEARLY = 1.35


class Setting(NamedTuple):
    """A way to hit wished throws: holes m, teeth ahead of square, and travel of the radio each way.

    ``up_travel`` and ``down_travel`` are shares of the full pulse that move the trailing edge up and down; ``load`` the
    greatest turn of the control over that of the servo on the way, by which a hinge moment reaches the servo;
    ``near_centre`` how near to over-centre it comes, rad.
    """

    arm: float
    horn: float
    clocked: int
    up_travel: float
    down_travel: float
    load: float
    near_centre: float

    @property
    def resolution(self) -> float:
        """The lesser of the travels: what is left of the radio's steps."""
        return min(self.up_travel, self.down_travel)


def fitted(one: Linkage, setting: Setting) -> Linkage:
    """Return a linkage set so."""
    found: Linkage = one.model_copy(update={"arm": setting.arm, "horn": setting.horn, "clocked": setting.clocked})
    return found


def turn_for(travel: Travel, angle: float) -> float | None:
    """Return the servo's turn nearest neutral at which a control stands at an angle, rad; None where it never does.

    Parameters
    ----------
    travel : Travel
    angle : float
        rad, trailing edge down positive.

    Returns
    -------
    float or None
    """
    surface = travel.motion.surface
    middle = len(surface) // 2
    best: float | None = None
    for part in (slice(middle, None), slice(middle, None, -1)):
        turns, angles = travel.turns[part], surface[part]
        there = np.flatnonzero(np.isnan(angles))
        if len(there):
            turns, angles = turns[: there[0]], angles[: there[0]]
        past = np.flatnonzero((angles[:-1] - angle) * (angles[1:] - angle) <= 0)
        if not len(past):
            continue
        k = int(past[0])
        step = angles[k + 1] - angles[k]
        found = float(turns[k] + ((angle - angles[k]) / step if step else 0.0) * (turns[k + 1] - turns[k]))
        if best is None or abs(found) < abs(best):
            best = found
    return best


def settings_for(
    one: Linkage,
    wished: Throw,
    arms: Iterable[float] | None = None,
    horns: Iterable[float] | None = None,
    teeth: Iterable[int] = TEETH,
    least: float = LEAST_TRAVEL,
) -> tuple[Setting, ...]:
    """Return every way to hit wished throws, the finest steps and the lightest load on the servo first.

    Parameters
    ----------
    one : Linkage
    wished : Throw
    arms, horns : iterable of float, optional
        Holes to choose from, m; those of the linkage where left out.
    teeth : iterable of int
        Ahead of square.
    least : float
        Travel that is left to the radio at least, of the full pulse.

    Returns
    -------
    tuple of Setting
        None where no hole and tooth does it.
    """
    holes = product(arms if arms is not None else one.arm_holes, horns if horns is not None else one.horn_holes)
    able = [pair for pair in holes if not _far_off(one, wished, *pair, least)]
    tried = tuple(teeth)
    found = [setting for arm, horn in able for setting in _tried(one, wished, arm, horn, tried, least)]
    # Settings that differ by less than a hundredth of the travel are as fine: the lighter load comes first.
    return tuple(sorted(found, key=lambda s: (-round(s.resolution, 2), s.load, abs(s.clocked))))


def _far_off(one: Linkage, wished: Throw, arm: float, horn: float, least: float) -> bool:
    """Tell whether holes cannot do it by far, from arm and horn alone: what is near is looked at as it turns."""
    full = math.asin(min((arm + one.extension) / horn * math.sin(min(one.travel, math.pi / 2)), 1.0))
    largest = max(wished)
    return largest > _NEARLY * full or largest < least * full / _NEARLY


def _tried(
    one: Linkage, wished: Throw, arm: float, horn: float, teeth: tuple[int, ...], least: float
) -> Iterator[Setting]:
    """Yield the teeth that hit a wish through two holes, all followed at once."""
    trials = [
        one.model_copy(update={"arm": arm, "horn": horn, "clocked": n, "rod_long": None, "kind": "rod"}) for n in teeth
    ]
    ends = [bars(trial) for trial in trials]
    first, horns = ends[0]
    arms = first._replace(vector=np.array([a.vector for a, _h in ends]))
    turns = np.linspace(-one.travel, one.travel, FOLLOWED)
    moved = motion(arms, horns, turns)
    for k, clocked in enumerate(teeth):
        travel = Travel(turns, Motion(*(row[k] for row in moved)))
        setting = _setting(one, wished, travel, (arm, horn, clocked), least)
        if setting is not None:
            yield setting


def _setting(
    one: Linkage, wished: Throw, travel: Travel, place: tuple[float, float, int], least: float
) -> Setting | None:
    up, down = turn_for(travel, -wished.up), turn_for(travel, wished.down)
    if up is None or down is None or (wished.up and wished.down and up * down > 0):
        return None
    shares = [abs(turn) / one.travel for turn in (up, down)]
    moved = [share for share, throw in zip(shares, wished, strict=True) if throw > 0]
    if not moved or min(moved) < least - 1e-9 or max(moved) > MOST_TRAVEL + 1e-9:
        return None
    here = (travel.turns >= min(up, down) - 1e-9) & (travel.turns <= max(up, down) + 1e-9)
    near = float(min(np.nanmin(travel.motion.at_arm[here]), np.nanmin(travel.motion.at_horn[here])))
    if near < NEAR_CENTRE:
        return None
    load = float(np.nanmax(np.abs(travel.motion.ratio[here])))
    # A side that is not wished for takes no travel from the other.
    shares = [share if throw > 0 else max(moved) for share, throw in zip(shares, wished, strict=True)]
    return Setting(*place, shares[0], shares[1], load, near)
