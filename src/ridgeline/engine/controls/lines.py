"""Lines that pull: two against each other, or one against a spring; slack, tightness, and what the spring must hold."""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from ridgeline.design.linkage import Linkage
from ridgeline.engine.controls.four_bar import bar, motion, turned
from ridgeline.engine.controls.linkage import bars

Array = NDArray[np.float64]


class Slack(NamedTuple):
    """What the other of two lines does as one pulls: the most it hangs slack and the most it is too short, m."""

    slack: float
    tight: float


def other_line(one: Linkage, turns: ArrayLike) -> Array:
    """Return how much longer the second of two lines is than its way, m, at turns of the servo.

    Parameters
    ----------
    one : Linkage
        Whose first line is drawn; the second runs from the arm's other end to the horn's other side.
    turns : array_like, shape (n,)
        rad.

    Returns
    -------
    ndarray, shape (n,)
        Positive where it hangs slack; nan where the first binds.

    Source
    ------
    Both taut at neutral; equal radii keep tension, horn holes behind the hinge slacken, ahead of it they tighten
    (second part of the handbook §17).
    """
    arm, horn = bars(one)
    at = np.asarray(turns, float)
    surface = motion(arm, horn, at, one.rod_long).surface
    # What stands off the arm's axis goes to its other side; the horn's other hole is its image in the control's plane.
    far_arm = bar(arm.centre, arm.axis, -arm.vector)
    far_horn = bar(horn.centre, horn.axis, horn.vector * np.array([1.0, 1.0, -1.0]))
    first = far_arm.centre + far_arm.vector - far_horn.centre - far_horn.vector
    way = np.linalg.norm(turned(far_arm, at) - turned(far_horn, np.nan_to_num(surface)), axis=-1)
    found: Array = np.where(np.isfinite(surface), float(np.linalg.norm(first)) - way, np.nan)
    return found


def slack_of(one: Linkage, low: float, high: float) -> Slack:
    """Return the worst of a second line over a travel.

    Parameters
    ----------
    one : Linkage
    low, high : float
        Turns of the servo, rad.

    Returns
    -------
    Slack
    """
    found = other_line(one, np.linspace(low, high, 61))
    found = found[np.isfinite(found)]
    if not len(found):
        return Slack(0.0, 0.0)
    return Slack(max(float(found.max()), 0.0), max(float(-found.min()), 0.0))


def spring_moment(one: Linkage, angle: ArrayLike) -> Array:
    """Return the moment of a returning spring about the hinge at angles of the control, N m; none once it is slack.

    Parameters
    ----------
    one : Linkage
        The line pulls the horn forward: the trailing edge goes to the horn's side, and the spring brings it back.
    angle : array_like
        rad, trailing edge down positive.

    Returns
    -------
    ndarray
    """
    toward = 1.0 if one.horn_below else -1.0
    drawn = one.preload + one.spring * one.horn * np.sin(toward * np.asarray(angle, float))
    found: Array = np.maximum(drawn, 0.0) * one.horn
    return found


def spring_left(one: Linkage, away: float, moment: float) -> float:
    """Return what a spring's moment exceeds that of the air by where it holds the control alone, N m.

    Parameters
    ----------
    one : Linkage
    away : float
        How far it takes the control from the horn's side, rad.
    moment : float
        Of the air there, N m.

    Returns
    -------
    float
        Below nothing: the air closes it.
    """
    toward = 1.0 if one.horn_below else -1.0
    return float(spring_moment(one, -toward * away)) - moment


def preload_for(one: Linkage, away: float, moment: float) -> float:
    """Return the pull of a spring at neutral that just holds a moment where it holds the control alone, N.

    Parameters
    ----------
    one : Linkage
    away : float
        rad.
    moment : float
        N m.

    Returns
    -------
    float
    """
    return moment / one.horn + one.spring * one.horn * math.sin(away)
