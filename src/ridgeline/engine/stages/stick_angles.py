"""How far every control goes for each stick: by its linkage where that is known, else as wished."""

from __future__ import annotations

from ridgeline.design.airframe import Surface
from ridgeline.design.brief import Brief
from ridgeline.design.radio import Radio, StickName
from ridgeline.engine.aero.control_effects import Angles
from ridgeline.engine.aero.throws import Throws, as_one, share_of, throws_of, travel
from ridgeline.engine.controls.sense import FOLLOWS, wanted
from ridgeline.engine.stages.common import Last, Outcome
from ridgeline.engine.stages.linked import Linking


def throws(
    linked: Linking, radio: Radio | None, surfaces: tuple[Surface, ...], brief: Brief, *, memory: Last | None = None
) -> Outcome[Throws]:
    """Give how far the controls go for each stick: by their linkages where these are known, else as wished."""
    wished = throws_of(surfaces, brief.purpose)
    found = _linked_throws(linked, radio, wished) if radio is not None and linked.rows else wished
    return Outcome(memory.same(found) if memory is not None else found)


def _linked_throws(linked: Linking, radio: Radio, wished: Throws) -> Throws:
    """Replace what is wished by the least that linked controls give for each stick."""

    def least(stick: StickName, value: float, way: float, fallback: float) -> float:
        given = []
        for row in linked.rows:
            if stick not in FOLLOWS[row.control.kind]:
                continue
            for side in row.sides:
                if side.channel is not None:
                    given.append(side.angle(row.linkage, _level(radio), {stick: value}))
        able = [way * angle for angle in given if way * angle > 1e-6]
        # A job that no linked control does keeps its wish; the lesser of those that do it counts.
        return min(able) if able else fallback

    up_way = -1.0
    pitch_up = max(least("pitch", 1.0, up_way, 0.0), least("pitch", 1.0, -up_way, 0.0))
    pitch_down = max(least("pitch", -1.0, -up_way, 0.0), least("pitch", -1.0, up_way, 0.0))
    roll = as_one(least("roll", 1.0, -1.0, 0.0), least("roll", 1.0, 1.0, 0.0))
    yaw = 0.5 * (max(least("yaw", 1.0, 1.0, 0.0), least("yaw", 1.0, -1.0, 0.0))
                 + max(least("yaw", -1.0, 1.0, 0.0), least("yaw", -1.0, -1.0, 0.0)))  # fmt: skip
    flap = least("flap", 1.0, 1.0, 0.0)
    return Throws(
        pitch_up or wished.pitch_up, pitch_down or wished.pitch_down, roll or wished.roll, yaw or wished.yaw,
        flap or wished.flap,
    )  # fmt: skip


def _level(radio: Radio) -> Radio:
    """Return a radio without rates: full sticks ask for all."""
    found: Radio = radio.model_copy(update={"rates": ()})
    return found


def angles_for(
    stick: StickName, value: float, linked: Linking, radio: Radio | None, surfaces: tuple[Surface, ...], purpose: str
) -> dict[str, Angles]:
    """Return how every control stands for one stick, by its id, rad, trailing edge down: as linked, else as wished.

    Parameters
    ----------
    stick : str
    value : float
        -1 to 1.
    linked : Linking
    radio : Radio or None
    surfaces : tuple of Surface
    purpose : str

    Returns
    -------
    dict
    """
    found: dict[str, Angles] = {}
    for surface in surfaces:
        for control in surface.controls:
            row = linked.of(control.id)
            if row is not None and radio is not None and any(side.channel is not None for side in row.sides):
                by = {side.side: side.angle(row.linkage, _level(radio), {stick: value}) for side in row.sides}
                pair = by.get("starboard", 0.0), by.get("port", 0.0)
            else:
                up, down = travel(control, purpose)
                share = share_of(control.kind, stick)
                ways = [value * wanted(surface, control.kind, side, stick) for side in ("starboard", "port")]
                right, left = (share * way * (down if way > 0 else up) for way in ways)
                pair = right, left if surface.mirrored else 0.0
            if any(abs(angle) > 1e-9 for angle in pair):
                found[control.id] = pair
    return found
