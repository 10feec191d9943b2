"""A design on the bench: its radio and linkages as signs, and the edits that changes at the radio are."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.design.radio import Channel, Radio, StickName
from ridgeline.engine.controls.sense import wanted
from ridgeline.engine.controls.walk import Bench, Signs, Step
from ridgeline.engine.phrase import Phrase, say
from ridgeline.engine.stages.linked import LinkedControl, Linking, Moved

#: Sticks that are walked through.
WALKED: tuple[StickName, ...] = ("roll", "pitch", "yaw", "flap")
_WORDS = {"roll": "ailerons", "pitch": "elevator", "yaw": "rudder", "flap": "flaps"}


class Benched(NamedTuple):
    """A design as signs, one output a side of a control that a channel moves, and what is ``wanted`` of each."""

    bench: Bench
    outputs: tuple[tuple[LinkedControl, Moved], ...]
    wanted: Signs


def benched(design: Design, linking: Linking) -> Benched | None:
    """Return a design as a bench; None where no channel moves anything.

    Parameters
    ----------
    design : Design
    linking : Linking
        Of the design.

    Returns
    -------
    Benched or None
    """
    radio = design.radio
    outputs = tuple((row, side) for row in linking.rows for side in row.sides if side.channel is not None)
    if radio is None or not outputs:
        return None
    place = {channel.id: k for k, channel in enumerate(radio.channels)}
    sends = np.array([_sends(channel) for channel in radio.channels], np.int8).reshape(len(radio.channels), len(WALKED))
    plug = np.array([place[side.channel.id] for _row, side in outputs if side.channel is not None])
    rises = [float(side.travel.at(0.02)) > float(side.travel.at(-0.02)) for _row, side in outputs]
    built = np.where(rises, 1, -1).astype(np.int8)
    asked = np.array(
        [[wanted(design.surfaces[row.surface], row.control.kind, side.side, stick) for stick in WALKED]
         for row, side in outputs], np.int8,
    )  # fmt: skip
    return Benched(Bench(sends, plug, built), outputs, asked)


def _sends(channel: Channel) -> list[int]:
    way = -1 if channel.reversed else 1
    total = dict.fromkeys(WALKED, 0.0)
    for part in channel.mix:
        if part.stick in total:
            total[part.stick] += part.amount
    return [way * int(np.sign(total[stick])) for stick in WALKED]


def edits(radio: Radio, steps: Sequence[Step]) -> tuple[Change, ...]:
    """Return the edits of a radio that steps are.

    Parameters
    ----------
    radio : Radio
    steps : sequence of Step
        At the radio: none that turns a servo round.

    Returns
    -------
    tuple of Change
    """
    channels = list(radio.channels)
    for step in steps:
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
        elif step.kind == "swap":
            other = channels[step.other]
            channels[step.one] = one.model_copy(update={"moves": other.moves, "side": other.side})
            channels[step.other] = other.model_copy(update={"moves": one.moves, "side": one.side})
    return (Change("radio", radio.model_copy(update={"channels": tuple(channels)})),)


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
