"""What is done about a walk that went wrong: the repair as edits of the radio, and of what is known of the servos."""

from __future__ import annotations

from collections.abc import Sequence
from hashlib import sha1

import numpy as np

from ridgeline.design.document import Design
from ridgeline.design.linkage import Linkage
from ridgeline.design.paths import Change
from ridgeline.design.radio import Radio
from ridgeline.design.walk import Changed, PastLook, Tried
from ridgeline.engine.advice.benched import WALKED, Benched, look_of
from ridgeline.engine.controls.sense import SideName
from ridgeline.engine.controls.walk import Look, Mending, Step, after, mending
from ridgeline.engine.phrase import Phrase, say
from ridgeline.engine.results import given

_WORDS = {"roll": "ailerons", "pitch": "elevator", "yaw": "rudder", "flap": "flaps", "throttle": "throttle"}
#: So many looks are remembered.
_MOST_LOOKS = 8


def _mark(design: Design) -> str:
    """Return a mark of the radio's channels and of how everything is built in."""
    radio = design.radio
    channels = () if radio is None else tuple((c.id, c.moves, c.side, c.mix, c.reversed) for c in radio.channels)
    built = tuple((one.id, one.backwards, one.port, one.facing, one.arm_to) for one in design.linkages)
    return sha1(repr((channels, built)).encode(), usedforsecurity=False).hexdigest()[:12]


def _tried(design: Design) -> Tried:
    """Return what was tried so far, where nothing else was changed since."""
    tried = design.tried
    return tried if tried is not None and tried.mark == _mark(design) else Tried()


def _steps(rows: Sequence[Changed]) -> tuple[Step, ...]:
    return tuple(Step(row.kind, row.one, row.other) for row in rows)


def _changed(steps: Sequence[Step]) -> tuple[Changed, ...]:
    return tuple(Changed(kind=step.kind, one=step.one, other=step.other) for step in steps)


def _undone(tried: Tried) -> tuple[Step, ...]:
    """Return the steps that lead back to what was written before the first look: each undoes itself."""
    taken = [*_steps(tried.wrong), *(step for look in tried.looks for step in _steps(look.steps)), *_steps(tried.steps)]
    return tuple(reversed(taken))


def _look_again(past: PastLook, shape: tuple[int, ...]) -> Look:
    if len(past.does) != shape[0] * shape[1]:
        return Look(_steps(past.steps), np.zeros(shape, np.int8), np.zeros(shape, np.bool_))
    signs = np.array([{"+": 1, "-": -1}.get(one, 0) for one in past.does], np.int8).reshape(shape)
    known = np.array([one != "." for one in past.does]).reshape(shape)
    return Look(_steps(past.steps), signs, known)


def mended(design: Design, here: Benched) -> Mending | None:
    """Return what explains every look at a walk, and what puts it right now.

    Parameters
    ----------
    design : Design
    here : Benched
        Of the design.

    Returns
    -------
    Mending or None
        None where nothing simple explains it.
    """
    tried = _tried(design)
    base, shape = after(here.bench, _undone(tried)), here.bench.does.shape
    looks = [_look_again(past, shape) for past in tried.looks]
    return mending(base, here.wanted, (*looks, look_of(design, here)._replace(steps=_steps(tried.steps))))


def edits(design: Design, here: Benched, found: Mending) -> tuple[Change, ...]:
    """Return the edits that write down what was wrong and what is changed for it; what they alter is unseen again.

    Parameters
    ----------
    design : Design
        With a radio.
    here : Benched
        Of the design.
    found : Mending
        Of `mended`, with steps.

    Returns
    -------
    tuple of Change
    """
    tried, look, steps = _tried(design), look_of(design, here), given(found.steps)
    so_far = tuple(step for past in tried.looks for step in _steps(past.steps)) + _steps(tried.steps)
    there = _stepped(design, here, (*_undone(tried), *found.wrong, *so_far, *steps))
    known = np.ones_like(look.does, bool) if look.known is None else look.known
    before = after(here.bench, (*_undone(tried), *found.wrong, *so_far))
    altered = ((look.does != here.wanted) & known).any(axis=1) | (after(before, steps).does != before.does).any(axis=1)
    names = {(here.outputs[k].of, here.outputs[k].side) for k in np.flatnonzero(altered)}
    kept = tuple(seen for seen in design.walk if (seen.of, seen.side) not in names)
    told_ = "".join(
        "." if not k else "-0+"[int(way) + 1] for way, k in zip(look.does.ravel(), known.ravel(), strict=True)
    )
    past = (*tried.looks, PastLook(steps=tried.steps, does=told_))
    now = Tried(looks=past[-_MOST_LOOKS:], steps=_changed(steps), wrong=_changed(found.wrong), mark=_mark(there))
    return (
        Change("radio", there.radio), Change("linkages", there.linkages), Change("walk", kept), Change("tried", now),
    )  # fmt: skip


def _stepped(design: Design, here: Benched, steps: Sequence[Step]) -> Design:
    """Return a design after steps, with the leads as they are at each of them."""
    bench, radio = here.bench, given(design.radio)
    linkages = {one.id: one for one in design.linkages}
    for step in steps:
        if step.kind in ("turn", "around"):
            on_it = [step.one] if step.kind == "turn" else np.flatnonzero(bench.plug == step.one).tolist()
            # A servo that moves both sides turns them both over by itself.
            both = len(on_it) > 1 and len({here.outputs[k].of for k in on_it}) == 1
            for k in on_it:
                one = here.outputs[k]
                if one.of in linkages:
                    linkages[one.of] = _turned(linkages[one.of], one.side, alone=not both)
        else:
            radio = with_step(radio, step)
        bench = after(bench, (step,))
    built = tuple(linkages[one.id] for one in design.linkages)
    return design.model_copy(update={"radio": radio, "linkages": built})


def _turned(one: Linkage, side: SideName, *, alone: bool) -> Linkage:
    """Return a linkage whose servo on a side is known to turn the other way; a side that it moves too follows."""
    if one.port in ("joined", "opposed"):
        other = "opposed" if one.port == "joined" else "joined"
        if side == "port":
            return one.model_copy(update={"port": other}) if alone else one
        both = {"backwards": "neither" if one.backwards in ("starboard", "both") else "starboard"}
        return one.model_copy(update=both | ({"port": other} if alone else {}))
    sides = {"neither": set(), "both": {"starboard", "port"}}.get(one.backwards, {one.backwards}) ^ {side}
    told = "both" if len(sides) > 1 else next(iter(sides), "neither")
    return one.model_copy(update={"backwards": told})


def with_step(radio: Radio, step: Step) -> Radio:
    """Return a radio after a step; what turns a servo round leaves it alone.

    Parameters
    ----------
    radio : Radio
    step : Step

    Returns
    -------
    Radio
    """
    channels = list(radio.channels)
    if step.kind in ("turn", "around"):
        return radio
    one = channels[step.one]
    if step.kind == "reverse":
        channels[step.one] = one.model_copy(update={"reversed": not one.reversed})
    elif step.kind == "mix":
        mix = tuple(
            part.model_copy(update={"amount": -part.amount, "back": None if part.back is None else -part.back})
            if part.stick == WALKED[step.other] else part
            for part in one.mix
        )  # fmt: skip
        channels[step.one] = one.model_copy(update={"mix": mix})
    else:
        other = channels[step.other]
        channels[step.one] = one.model_copy(update={"moves": other.moves, "side": other.side})
        channels[step.other] = other.model_copy(update={"moves": one.moves, "side": one.side})
    return radio.model_copy(update={"channels": tuple(channels)})


def told(radio: Radio, steps: Sequence[Step]) -> Phrase:
    """Say steps in the builder's words: "Reverse channel 2; swap the leads of 3 and 4"."""
    rows = []
    for step in steps:
        if step.kind == "reverse":
            rows.append(f"reverse channel {step.one + 1}, {radio.channels[step.one].name}")
        elif step.kind == "swap":
            rows.append(f"swap the leads of channels {step.one + 1} and {step.other + 1}")
        else:
            rows.append(f"turn over {_WORDS[WALKED[step.other]]} in the mix of channel {step.one + 1}")
    words = "; ".join(rows)
    return say(words[:1].upper() + words[1:])
