"""A design on the bench: what moves as signs, what was seen of it, and the edits that changes at the radio are."""

from __future__ import annotations

from hashlib import sha1
from typing import Final, NamedTuple

import numpy as np

from ridgeline.design.axes import is_upright
from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.design.radio import Channel, StickName
from ridgeline.design.walk import Asked, Seen
from ridgeline.engine.controls.sense import SideName, channel_of, wanted
from ridgeline.engine.controls.walk import Bench, Look, Signs
from ridgeline.engine.stages.linked import LinkedControl, Linking, Moved

#: Sticks that are walked through, and what is asked last.
WALKED: tuple[StickName, ...] = ("roll", "pitch", "yaw", "flap", "throttle")
LOST: Final = "lost"
SEEN: tuple[Asked, ...] = (*WALKED, LOST)
_SIDES: dict[SideName, str] = {"starboard": "stbd.", "port": "port"}
#: A motor nearer to the middle than this has no side of its own, m.
_ASIDE = 0.01


class Movable(NamedTuple):
    """What a channel moves: one side of a control, or a motor (``row`` and ``moved`` are None then).

    ``across`` orders them from port to starboard, m; ``level`` tells that it goes to port and starboard.
    """

    of: str
    side: SideName
    channel: Channel
    name: str
    across: float
    level: bool
    row: LinkedControl | None = None
    moved: Moved | None = None


class Benched(NamedTuple):
    """A design as signs, one output for everything a channel moves, and what is ``wanted`` of each."""

    bench: Bench
    outputs: tuple[Movable, ...]
    wanted: Signs

    def asks(self) -> tuple[tuple[int, Asked, int], ...]:
        """Return what is to be seen: output, stick and which way; every one of them with the link lost at the end."""
        found: list[tuple[int, Asked, int]] = [
            (k, stick, int(self.wanted[k, s]))
            for s, stick in enumerate(WALKED)
            for k in range(len(self.outputs))
            if self.wanted[k, s]
        ]
        return (*found, *((k, LOST, 0) for k in range(len(self.outputs))))


def movables(design: Design, linking: Linking) -> tuple[Movable, ...]:
    """Return everything that channels move, from port to starboard.

    Parameters
    ----------
    design : Design
    linking : Linking
        Of the design.

    Returns
    -------
    tuple of Movable
    """
    if design.radio is None:
        return ()
    found = [_control(design, row, side) for row in linking.rows for side in row.sides if side.channel is not None]
    for mount in design.power.mounts if design.power is not None else ():
        middle = not mount.mirrored and abs(mount.y) < _ASIDE
        sides: tuple[SideName, ...] = ("starboard", "port") if mount.mirrored else (
            "port" if mount.y < -_ASIDE else "starboard",
        )  # fmt: skip
        for side in sides:
            channel = channel_of(design.radio, mount.id, side)
            if channel is not None:
                out = 0.0 if middle else abs(mount.y) * (1 if side == "starboard" else -1)
                found.append(
                    Movable(mount.id, side, channel, "motor" if middle else f"{_SIDES[side]} motor", out, False)
                )
    return tuple(sorted(found, key=lambda one: one.across))


def _control(design: Design, row: LinkedControl, side: Moved) -> Movable:
    surface = design.surfaces[row.surface]
    level = is_upright(surface)
    out = 0.0 if level and not surface.mirrored else row.control.start + 0.01
    assert side.channel is not None
    name = f"{_SIDES[side.side]} {row.control.kind}" if surface.mirrored else row.control.kind
    across = out * (1 if side.side == "starboard" else -1)
    return Movable(row.linkage.id, side.side, side.channel, name, across, level, row, side)


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
    radio, outputs = design.radio, movables(design, linking)
    if radio is None or not outputs:
        return None
    place = {channel.id: k for k, channel in enumerate(radio.channels)}
    sends = np.array([_sends(channel) for channel in radio.channels], np.int8).reshape(len(radio.channels), len(WALKED))
    plug = np.array([place[one.channel.id] for one in outputs])
    built = np.array([_built(one) for one in outputs], np.int8)
    asked = np.array([[_wanted(design, one, stick) for stick in WALKED] for one in outputs], np.int8)
    # That a motor turns backwards no radio cures: what counts here is that it runs.
    runs = np.array([[one.row is None and stick == "throttle" for stick in WALKED] for one in outputs])
    return Benched(Bench(sends, plug, built, runs), outputs, asked)


def _built(one: Movable) -> int:
    if one.moved is None:
        return -1 if one.channel.reversed else 1
    return 1 if float(one.moved.travel.at(0.02)) > float(one.moved.travel.at(-0.02)) else -1


def _wanted(design: Design, one: Movable, stick: StickName) -> int:
    if one.row is not None:
        return wanted(design.surfaces[one.row.surface], one.row.control.kind, one.side, stick)
    mixed = {part.stick for part in one.channel.mix}
    if stick not in mixed:
        return 0
    # For a turn to starboard the port motor pushes.
    return (-1 if one.side == "starboard" else 1) if stick == "yaw" else int(stick == "throttle")


def _sends(channel: Channel) -> list[int]:
    way = -1 if channel.reversed else 1
    total = dict.fromkeys(WALKED, 0.0)
    for part in channel.mix:
        total[part.stick] += part.amount
    return [way * int(np.sign(total[stick])) for stick in WALKED]


# -- what was seen ----------------------------------------------------------------------------------------------------


def setting_of(design: Design, one: Movable) -> str:
    """Return the mark of all that says which way something goes: its servo or motor, its channel, the mix.

    Parameters
    ----------
    design : Design
    one : Movable

    Returns
    -------
    str
        Another one after any change of those.
    """
    radio, channel = design.radio, one.channel
    place = -1 if radio is None else next(k for k, c in enumerate(radio.channels) if c.id == channel.id)
    mixed = tuple((part.stick, part.amount, part.back) for part in channel.mix)
    parts: tuple[object, ...] = (place, channel.moves, channel.side, mixed, channel.reversed)
    if one.row is None:
        power = design.power
        parts += (None if power is None else (power.motor.model_dump(), power.motors),)
    else:
        linkage = one.row.linkage
        item = next((item for item in design.parts if item.id == linkage.servo), None)
        servo = None if item is None or item.servo is None else item.servo.model_dump()
        parts += (linkage.servo, servo, linkage.kind, linkage.facing, linkage.arm_to, linkage.port, linkage.backwards)
        parts += (linkage.horn_below, one.row.control.kind)
    return sha1(repr(parts).encode(), usedforsecurity=False).hexdigest()[:12]


def seen_of(design: Design, one: Movable, stick: Asked) -> Seen | None:
    """Return what was seen last of a movement, whether or not it was changed since; None where nothing was."""
    rows = (s for s in reversed(design.walk) if s.of == one.of and s.side == one.side and s.stick == stick)
    return next(rows, None)


def stands(design: Design, one: Movable, stick: Asked) -> Seen | None:
    """Return what was seen of a movement where nothing it hangs on was changed since; None otherwise."""
    seen = seen_of(design, one, stick)
    return seen if seen is not None and seen.setting == setting_of(design, one) else None


def noted(design: Design, one: Movable, stick: Asked, way: int | None, day: str) -> Change:
    """Return the edit that writes down what was seen; without a way it is forgotten.

    Parameters
    ----------
    design : Design
    one : Movable
    stick : str
    way : int or None
        1 down (to starboard of what stands, forward of a motor), -1, or 0.
    day : str
        As 2026-11-26.

    Returns
    -------
    Change
    """
    kept = [s for s in design.walk if not (s.of == one.of and s.side == one.side and s.stick == stick)]
    if way is not None:
        kept.append(Seen(of=one.of, side=one.side, stick=stick, way=way, day=day, setting=setting_of(design, one)))
    return Change("walk", tuple(kept))


def look_of(design: Design, here: Benched) -> Look:
    """Return what was seen, and still stands, as a look at the bench.

    Parameters
    ----------
    design : Design
    here : Benched
        Of the design.

    Returns
    -------
    Look
    """
    does, known = here.bench.does.copy(), np.zeros(here.bench.does.shape, np.bool_)
    for k, one in enumerate(here.outputs):
        for s, stick in enumerate(WALKED):
            seen = stands(design, one, stick)
            if seen is not None:
                runs = here.bench.runs is not None and bool(here.bench.runs[k, s])
                does[k, s], known[k, s] = abs(seen.way) if runs else seen.way, True
    return Look((), does, known)
