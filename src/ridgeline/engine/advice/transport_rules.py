"""Findings on the transport box: which parts come apart, which go in, and which joint is missing."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import NamedTuple

from ridgeline.design.airframe import Body, Joint
from ridgeline.design.brief import Brief
from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.build.whole import parts_of
from ridgeline.engine.geometry.transport import Load, Part, joints_for, loads_of
from ridgeline.engine.phrase import Measured, Phrase, say
from ridgeline.engine.report import Finding, Remedy, Report

_OFFERED = {
    "off": "{} comes off in one piece",
    "halves": "{} comes apart in the middle",
    "panels": "{} comes apart at every kink",
}
#: So many missing joints are named one by one.
_NAMED = 3


Box = tuple[float, float, float]


class _Missing(NamedTuple):
    """A joint that is missing: the part's path and name, and the joint that would do."""

    path: str
    name: str
    joint: Joint


def box_of(brief: Brief) -> Box | None:
    """Return the sides of the transport box of a brief, m; None until all three are given.

    Parameters
    ----------
    brief : Brief

    Returns
    -------
    tuple of float or None
    """
    sides = (brief.box_length, brief.box_width, brief.box_height)
    return None if any(side is None for side in sides) else (sides[0] or 0.0, sides[1] or 0.0, sides[2] or 0.0)


def findings(design: Design, _report: Report) -> Iterator[Finding]:
    """Judge what an airframe is carried as against the box of its brief."""
    box = box_of(design.brief)
    if box is None:
        return
    parts = dict(parts_of(design))
    if not parts:
        return
    loads = loads_of(parts)
    left = [load for load in loads if not load.fits(box)]
    told = [Measured(side, "length", bare=k < 2) for k, side in enumerate(box)]
    if not left:
        count = sum(load.pieces for load in loads)
        pieces = "In one piece it goes" if count == 1 else f"Its {count} pieces go"
        yield Finding(
            "brief.box",
            "settled",
            "brief",
            say(f"{pieces} into the box of {{}} × {{}} × {{}}.", *told),
            say("One by one and square to its sides, propellers off; pack what bends easily on top."),
        )
        return
    missing = tuple(_missing(parts, box))
    yield Finding(
        "brief.box",
        "look",
        "brief",
        say("{} does not go into the box of {} × {} × {}.", _named(left[0]), *told),
        _why(left[0], missing),
        tuple(_remedies(missing)),
    )


def _named(load: Load) -> str:
    return load.name[:1].upper() + load.name[1:]


def _why(load: Load, missing: tuple[_Missing, ...]) -> Phrase:
    sides = [Measured(side, "length", bare=k < 2) for k, side in enumerate(sorted(load.sides, reverse=True))]
    if missing:
        names = ", ".join(one.name for one in missing[:_NAMED])
        return say(f"It measures {{}} × {{}} × {{}}. A joint is missing: {names}.", *sides)
    return say("It measures {} × {} × {}, and no joint of its parts makes it small enough.", *sides)


def _missing(parts: Mapping[str, Part], box: Box) -> Iterator[_Missing]:
    """Yield the joints that bring every part into the box, the largest parts first; nothing where none does.

    The body keeps what may stay on it.
    """
    keeper = next((path for path, part in parts.items() if isinstance(part, Body)), next(iter(parts)))
    found: list[_Missing] = []
    for path, part in parts.items():
        own = part.joint if part.joint != "fixed" else "off"
        if part.joint != "fixed" and _alone(part, own, box):
            continue
        joint = next((one for one in joints_for(part) if one != "fixed" and _alone(part, one, box)), None)
        if joint is None:
            return
        if path != keeper or joint != "off":
            found.append(_Missing(path, part.name, joint))
    made = dict(parts)
    for one in sorted(found, key=lambda one: -_longest(parts[one.path])):
        if all(load.fits(box) for load in loads_of(made)):
            return
        made[one.path] = made[one.path].model_copy(update={"joint": one.joint})
        yield one


def _longest(part: Part) -> float:
    return max(loads_of({"": part.model_copy(update={"joint": "off"})})[0].sides)


def _alone(part: Part, joint: Joint, box: Box) -> bool:
    """Tell whether a part goes into the box by itself with a joint."""
    return all(load.fits(box) for load in loads_of({"": part.model_copy(update={"joint": joint})}))


def _remedies(missing: tuple[_Missing, ...]) -> Iterator[Remedy]:
    price = say("a joint weighs, and has to bear what the part bears: add it on Weights")
    if len(missing) > 1:
        changes = tuple(Change(f"{one.path}.joint", one.joint) for one in missing)
        names = ", ".join(f"{one.name} {_SHORT[one.joint]}" for one in missing)
        yield Remedy("all_joints", say("{}", names[:1].upper() + names[1:]), changes, price)
    elif missing:
        one = missing[0]
        yield Remedy("joint", say(_OFFERED[one.joint], one.name), (Change(f"{one.path}.joint", one.joint),), price)


_SHORT = {"off": "off", "halves": "in halves", "panels": "in panels"}
