"""Findings on what was seen on the bench: what went the wrong way, what puts it right, what is still to be seen."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.design.walk import Asked, Seen
from ridgeline.engine.advice.bench_repair import edits, mended, told
from ridgeline.engine.advice.benched import (
    LOST,
    SEEN,
    WALKED,
    Benched,
    Movable,
    benched,
    look_of,
    noted,
    seen_of,
    stands,
)
from ridgeline.engine.phrase import say
from ridgeline.engine.report import Finding, Remedy, Report

#: What each stick is called in a sentence.
STICK_WORDS: dict[Asked, str] = {
    "roll": "right stick",
    "pitch": "a pull",
    "yaw": "right rudder",
    "flap": "flaps",
    "throttle": "throttle",
    "lost": "a lost link",
}
_CAUTION = "Propeller off, clear of its disc, nose away from you; the link is lost last of all."


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge what was seen of the controls."""
    here = benched(design, report.results.linking)
    if here is None:
        return
    seen = {(k, stick): stands(design, here.outputs[k], stick) for k, stick, _way in here.asks()}
    # What moved for a stick it does not follow was seen too.
    every = {(k, stick): stands(design, one, stick) for k, one in enumerate(here.outputs) for stick in SEEN}
    wrong = [key for key, one in every.items() if one is not None and _is_wrong(here, *key, one)]
    backwards = [k for k, stick in wrong if here.outputs[k].row is None and stick == "throttle" and _way(every, k) < 0]
    lost = [k for k, stick in wrong if stick == LOST]
    ways = [(k, stick) for k, stick in wrong if stick != LOST and not (k in backwards and stick == "throttle")]
    written = look_of(design, here)
    if not ways and not written.fits(here.bench.does):
        yield _written(design, here)
    if ways:
        yield _wrong(design, here, {key: every[key] for key in ways})
    if backwards:
        yield _backwards(design, here.outputs[backwards[0]])
    if lost:
        yield _failsafe(design, here, lost)
    yield _progress(design, here, seen, good=not wrong)


def _way(every: dict[tuple[int, Asked], Seen | None], k: int) -> int:
    one = every[k, "throttle"]
    return 0 if one is None else one.way


def _is_wrong(here: Benched, k: int, stick: Asked, seen: Seen) -> bool:
    return seen.way != (0 if stick == LOST else int(here.wanted[k, WALKED.index(stick)]))


def went(one: Movable, way: int) -> str:
    """Return the words for a way something went: "up", "to port", "nowhere", "backwards".

    Parameters
    ----------
    one : Movable
    way : int

    Returns
    -------
    str
    """
    if not way:
        return "nowhere"
    if one.row is None:
        return "forward" if way > 0 else "backwards"
    if one.level:
        return "to starboard" if way > 0 else "to port"
    return "down" if way > 0 else "up"


def _wrong(design: Design, here: Benched, wrong: dict[tuple[int, Asked], Seen | None]) -> Finding:
    (k, stick), seen = next(iter(wrong.items()))
    one = here.outputs[k]
    more = f", and {len(wrong) - 1} more" if len(wrong) > 1 else ""
    assert seen is not None
    return Finding(
        "controls.walk.wrong",
        "stop",
        "controls",
        say(f"On the bench {one.name} went {went(one, seen.way)} for {STICK_WORDS[stick]}{more}."),
        say("It is not flown so. What was changed is looked at again, propeller off."),
        partial(_mending, design, here),
    )


def _written(design: Design, here: Benched) -> Finding:
    return Finding(
        "controls.walk.written",
        "look",
        "controls",
        say("What was seen on the bench is right, and is not what is written down."),
        say("A servo turns the other way, or a lead is on another channel, than is said here."),
        partial(_mending, design, here),
    )


def _mending(design: Design, here: Benched) -> Iterator[Remedy]:
    found = mended(design, here)
    if found is None or design.radio is None:
        yield Remedy("again", say("Look again at what went wrong"), _without_wrong(design, here))
        return
    if found.steps is not None:
        words = told(design.radio, found.steps) if found.steps else say("Write it down as it was seen")
        yield Remedy("mend", words, edits(design, here, found))
    else:
        turned = [step for step in found.wrong if step.kind == "turn"]
        names = " and ".join(here.outputs[step.one].name for step in turned) or "its servo"
        yield Remedy(
            "turn", say(f"Arm of {names} to its other side: one lead turns both"), _without_wrong(design, here)
        )


def _without_wrong(design: Design, here: Benched) -> tuple[Change, ...]:
    names = set()
    for k, one in enumerate(here.outputs):
        for stick in SEEN:
            seen = stands(design, one, stick)
            if seen is not None and _is_wrong(here, k, stick, seen):
                names.add((one.of, one.side, stick))
    return (Change("walk", tuple(s for s in design.walk if (s.of, s.side, s.stick) not in names)),)


def _backwards(design: Design, one: Movable) -> Finding:
    brushed = design.power is not None and design.power.motor.kind == "brushed"
    leads = "its two leads" if brushed else "any two of its three leads"
    way = Remedy("swapped", say(f"Swapped {leads}: look again"), (noted(design, one, "throttle", None, ""),))
    return Finding(
        "controls.walk.motor",
        "stop",
        "controls",
        say(f"The {one.name} runs backwards."),
        say(f"Swap {leads}, with the pack unplugged; no channel is reversed for it."),
        (way,),
    )


def _failsafe(design: Design, here: Benched, lost: list[int]) -> Finding:
    names = ", ".join(here.outputs[k].name for k in lost)
    kept = tuple(
        s for s in design.walk
        if not (s.stick == LOST and (s.of, s.side) in {(here.outputs[k].of, here.outputs[k].side) for k in lost})
    )  # fmt: skip
    motor = any(here.outputs[k].row is None for k in lost)
    return Finding(
        "controls.walk.failsafe",
        "stop",
        "controls",
        say(f"With the link lost {names} did not come to rest."),
        say("Set the failsafe: motor off, controls neutral. Try it with the propeller off."
            if motor else "Set the failsafe: controls neutral, motor off."),
        (Remedy("failsafe", say("Failsafe set: look again"), (Change("walk", kept),)),),
    )  # fmt: skip


def _progress(
    design: Design, here: Benched, seen: dict[tuple[int, Asked], Seen | None], *, good: bool
) -> Finding:  # fmt: skip
    known = [one for one in seen.values() if one is not None]
    stale = sum(one is None and seen_of(design, here.outputs[k], stick) is not None for (k, stick), one in seen.items())
    if len(known) == len(seen) and good:
        last = max((one.day for one in known if one.day), default="")
        text = say(f"All {len(seen)} movements were seen to be right" + (f", last on {last}." if last else "."))
        return Finding("controls.walk.seen", "settled", "controls", text, say("Seen again after any change of them."))
    text = say(f"{len(known)} of {len(seen)} movements were seen on the bench.")
    again = f"{stale} of the others were seen before their servo, motor, channel or mix was changed. " if stale else ""
    return Finding("controls.walk.seen", "settled", "controls", text, say(again + _CAUTION))
