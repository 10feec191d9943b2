"""Sizes of an airframe from a brief: wing area from the design point, span from area and aspect ratio; refusals."""

from __future__ import annotations

import math
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass

from pydantic import ValidationError

from ridgeline.design.brief import Brief
from ridgeline.design.explain import explain
from ridgeline.engine.sizing.arrangements import arrangement_of
from ridgeline.errors import DesignError

#: The all-up weight aimed at leaves the growth reserve under the ceiling.
AIM_UNDER_CEILING = 0.92
#: A wing with a tail: where its taper begins, over the half span, and its tip over its root; the mean chord over the
#: root that this comes to (chosen; near enough to elliptic to stall in the middle first).
BREAK, TIP_RATIO, _MAC_OF_ROOT = 0.53, 0.65, 0.95
#: Wings over one another share the span of one: shorter by these factors (usual).
_SPAN_OF = {1: 1.0, 2: 0.82, 3: 0.70}
#: A canard stalls with its foreplane, its wing still short of its own limit: so much more wing (chosen).
_CANARD_WING = 1.32
#: Bodies: width over the mean chord and its limits m, height over width (usual; a pack and two servos side by side).
_BODY_WIDTH, _BODY_LEAST, _BODY_MOST, _BODY_HEIGHT = 0.30, 0.035, 0.14, 1.15
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


#: Layouts without a tail behind (usual; swept ones washed out so that the tips stall last).
PLANFORMS = {
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


def first_sizes(brief: Brief, mass: float) -> Size:
    """Return the sizes a brief comes to: area from the design point, span from area and aspect ratio.

    Parameters
    ----------
    brief : Brief
    mass : float
        All-up, that the wing is sized for, kg.

    Returns
    -------
    Size
    """
    wings = arrangement_of(brief.layout).wings
    plan = PLANFORMS.get(brief.layout)
    area = mass / brief.wing_loading * (_CANARD_WING if brief.layout == "canard" else 1.0)
    aspect = min(brief.aspect_ratio, plan.most_aspect) if plan else brief.aspect_ratio
    span = min(_SPAN_OF[wings] * math.sqrt(aspect * area), brief.span_limit)
    if plan is not None:
        t = plan.taper
        root = 2 * area / wings / (span * (1 + t))
        mac = 2 / 3 * root * (1 + t + t * t) / (1 + t)
    else:
        half = 0.5 * span
        root = 0.5 * area / wings / (BREAK * half + (1 - BREAK) * half * 0.5 * (1 + TIP_RATIO))
        mac = _MAC_OF_ROOT * root
    chord = min(mac * math.sqrt(wings), 0.5 * span)
    width = min(max(_BODY_WIDTH * chord, _BODY_LEAST), _BODY_MOST)
    return Size(mass, area, span, root, mac, width, _BODY_HEIGHT * width)


def sized(brief: Brief, mass: float) -> Size:
    """Return the sizes of a brief that comes to an airframe.

    Parameters
    ----------
    brief : Brief
    mass : float
        All-up, that the wing is sized for, kg.

    Returns
    -------
    Size

    Raises
    ------
    DesignError
        When the wing would be deeper than wide, or larger than a document holds, or a tail or fin of no size.
    """
    size = first_sizes(brief, mass)
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
