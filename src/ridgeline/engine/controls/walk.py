"""From what every control was seen to do on the bench to the fewest changes at the radio that put it right.

A bench is signs alone: what each channel sends for each stick, which channel each output is plugged into, and which way
round each output is built in. What is wrong may be any of them; the simplest explanation of all that was seen is taken,
and the next look tells whether it was the right one.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import combinations
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray

Signs = NDArray[np.int8]
#: At most so many things are taken to be wrong at once.
MOST_FAULTS = 3


class Bench(NamedTuple):
    """Signs of a radio and what hangs on it.

    ``sends`` (channels, sticks) what a channel sends for a stick; ``plug`` (outputs,) the channel each output is on;
    ``built`` (outputs,) 1 where a rising pulse moves it down. ``runs`` (outputs, sticks) tells of what it only shows
    that it moves, not which way: a motor for the throttle.
    """

    sends: Signs
    plug: NDArray[np.intp]
    built: Signs
    runs: NDArray[np.bool_] | None = None

    @property
    def does(self) -> Signs:
        """What each output does for each stick, (outputs, sticks): 1 down, -1 up, 0 nothing."""
        found: Signs = (self.built[:, None] * self.sends[self.plug]).astype(np.int8)
        return found if self.runs is None else np.where(self.runs, np.abs(found), found).astype(np.int8)


StepKind = Literal["reverse", "swap", "mix", "turn", "around"]


class Step(NamedTuple):
    """Something that is changed, or that is wrong.

    ``reverse`` channel ``one``; ``swap`` the leads of channels ``one`` and ``other``; ``mix`` the share of stick
    ``other`` on channel ``one`` turned over; ``turn`` output ``one``, built in the other way round; ``around`` all that
    is on channel ``one``. Each undoes itself.
    """

    kind: StepKind
    one: int
    other: int = -1


class Look(NamedTuple):
    """What was seen, (outputs, sticks), after some steps were taken since the look before.

    ``known`` tells which of it was looked at; all of it where left out.
    """

    steps: tuple[Step, ...]
    does: Signs
    known: NDArray[np.bool_] | None = None

    def fits(self, does: Signs) -> bool:
        """Tell whether what was seen is what a bench does."""
        off = self.does != does
        return not bool((off if self.known is None else off & self.known).any())


class Mending(NamedTuple):
    """What is taken to be wrong, and the fewest changes at the radio that put it right; None where none does."""

    wrong: tuple[Step, ...]
    steps: tuple[Step, ...] | None


def stepped(bench: Bench, step: Step) -> Bench:
    """Return a bench after a step."""
    if step.kind == "reverse":
        sends = bench.sends.copy()
        sends[step.one] *= -1
        return bench._replace(sends=sends)
    if step.kind == "mix":
        sends = bench.sends.copy()
        sends[step.one, step.other] *= -1
        return bench._replace(sends=sends)
    if step.kind == "swap":
        plug = bench.plug.copy()
        plug[bench.plug == step.one], plug[bench.plug == step.other] = step.other, step.one
        return bench._replace(plug=plug)
    built = bench.built.copy()
    built[bench.plug == step.one if step.kind == "around" else step.one] *= -1
    return bench._replace(built=built)


def after(bench: Bench, steps: Sequence[Step]) -> Bench:
    """Return a bench after several steps."""
    for step in steps:
        bench = stepped(bench, step)
    return bench


def faults(bench: Bench) -> list[Step]:
    """Return everything that can be wrong with a bench, one at a time, the likeliest first.

    A channel that goes the other way is one whose servo turns so, before it is one that is not set as it is written.
    """
    channels, sticks = bench.sends.shape
    mixed = [k for k in range(channels) if np.count_nonzero(bench.sends[k]) > 1]
    return [
        *(Step("turn", k) for k in range(len(bench.built))),
        *(Step("around", k) for k in range(channels) if np.count_nonzero(bench.plug == k) > 1),
        *(Step("swap", a, b) for a, b in combinations(range(channels), 2)),
        *(Step("mix", k, s) for k in mixed for s in range(sticks) if bench.sends[k, s]),
        *(Step("reverse", k) for k in range(channels) if bench.sends[k].any()),
    ]


def explanations(bench: Bench, looks: Sequence[Look]) -> Iterator[tuple[Step, ...]]:
    """Yield what may be wrong, the simplest first, so that every look is what it would be.

    Parameters
    ----------
    bench : Bench
        As it is written down.
    looks : sequence of Look

    Yields
    ------
    tuple of Step
        Nothing at all first, where that explains it.
    """
    able = [step for step in faults(bench) if _touches(bench, step, _seen_off(bench, looks))]
    for count in range(MOST_FAULTS + 1):
        for wrong in combinations(able, count):
            there = after(bench, wrong)
            if all(_fits(there, looks, k) for k in range(len(looks))):
                yield wrong


def _fits(there: Bench, looks: Sequence[Look], last: int) -> bool:
    for look in looks[: last + 1]:
        there = after(there, look.steps)
    return looks[last].fits(there.does)


def _seen_off(bench: Bench, looks: Sequence[Look]) -> set[int]:
    """Return the outputs that did in any look what the bench, as it is written, does not."""
    here, found = bench, set()
    for look in looks:
        here = after(here, look.steps)
        off = look.does != here.does
        found.update(np.flatnonzero((off if look.known is None else off & look.known).any(axis=1)).tolist())
    return found


def _touches(bench: Bench, step: Step, outputs: set[int]) -> bool:
    """Tell whether something wrong alters any of some outputs: of others it explains nothing."""
    if step.kind == "turn":
        return step.one in outputs
    on_it = {step.one, step.other} if step.kind == "swap" else {step.one}
    return any(int(bench.plug[k]) in on_it for k in outputs)


def repair(bench: Bench, wanted: Signs, looks: Sequence[Look]) -> tuple[Step, ...] | None:
    """Return the fewest changes at the radio that make every output do what is wanted.

    Parameters
    ----------
    bench : Bench
        As it is written down, before any change.
    wanted : ndarray, shape (outputs, sticks)
    looks : sequence of Look
        What was seen, each after the changes that were made since the one before.

    Returns
    -------
    tuple of Step or None
        Nothing to do where it is right; None where up to three faults explain it in no way, or no change does it.
    """
    found = mending(bench, wanted, looks)
    return None if found is None else found.steps


def mending(bench: Bench, wanted: Signs, looks: Sequence[Look]) -> Mending | None:
    """Return the simplest explanation of what was seen, with the fewest changes at the radio that put it right.

    Parameters
    ----------
    bench : Bench
        As it is written down, before any change.
    wanted : ndarray, shape (outputs, sticks)
    looks : sequence of Look

    Returns
    -------
    Mending or None
        None where up to three faults explain it in no way.
    """
    if looks and looks[-1].known is None and looks[-1].fits(wanted):
        return Mending((), ())
    best: Mending | None = None
    simplest = None
    for wrong in explanations(bench, looks):
        # Of explanations as simple as one another the one that is put right with least.
        if simplest is not None and len(wrong) > simplest:
            break
        simplest = len(wrong)
        now = after(bench, wrong)
        for look in looks:
            now = after(now, look.steps)
        steps = _fewest(now, wanted)
        if best is None or (steps is not None and (best.steps is None or len(steps) < len(best.steps))):
            best = Mending(wrong, steps)
    return best


def _fewest(bench: Bench, wanted: Signs) -> tuple[Step, ...] | None:
    """Return the fewest changes at the radio that a known bench needs: leads swapped, then each channel by itself."""
    swaps = [Step("swap", a, b) for a, b in combinations(range(len(bench.sends)), 2)]
    best: tuple[Step, ...] | None = None
    for count in range(MOST_FAULTS + 1):
        for moved in combinations(swaps, count):
            if best is not None and len(moved) >= len(best):
                continue
            found = _by_channel(after(bench, moved), wanted)
            if found is not None and (best is None or len(moved) + len(found) < len(best)):
                best = (*moved, *found)
    return best


def _by_channel(bench: Bench, wanted: Signs) -> tuple[Step, ...] | None:
    """Return what each channel needs: reversed, and shares of sticks turned over; None where that is not enough."""
    steps: list[Step] = []
    for channel in range(len(bench.sends)):
        on_it = np.flatnonzero(bench.plug == channel)
        if not len(on_it):
            continue
        # What the channel has to send for each of its outputs, which have to agree.
        sends = bench.sends[channel]
        asked = bench.built[on_it, None] * wanted[on_it]
        if bench.runs is not None:
            asked = np.where(bench.runs[on_it] & (asked != 0) & (sends != 0), sends, asked)
        if not np.array_equal(asked, np.broadcast_to(asked[0], asked.shape)):
            return None
        if not np.array_equal(sends != 0, asked[0] != 0):
            return None
        off = sends != asked[0]
        turned = [Step("mix", channel, int(s)) for s in np.flatnonzero(off)]
        over = [Step("mix", channel, int(s)) for s in np.flatnonzero(~off & (sends != 0))]
        # Of ways as short as one another a channel is rather reversed.
        reverse = [Step("reverse", channel), *over]
        steps += reverse if 0 < len(turned) >= len(reverse) else turned
    return tuple(steps)
