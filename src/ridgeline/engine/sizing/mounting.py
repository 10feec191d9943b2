"""Motor mounts added, taken out, moved to the other end or given a pair, with the parts aboard of each."""

from __future__ import annotations

from collections.abc import Sequence

from ridgeline.design.airframe import Body
from ridgeline.design.axes import along_shaft, disc_of
from ridgeline.design.carrying import carriers, hung_at
from ridgeline.design.document import Design
from ridgeline.design.hanging import carrier_of
from ridgeline.design.parts import Component, Item
from ridgeline.design.paths import REMOVE, Change, apply
from ridgeline.design.power import Mount, PowerTrain

#: What of a train stands at every mount.
AT_MOUNTS: tuple[Component, ...] = ("propeller", "motor", "esc")
#: A pair added to a single motor stands so far out over the span; one added beyond others, so much farther.
_OUT, _FARTHER = 0.2, 0.15
#: A mount this near the end of a body, m, stands on it and goes to its other end when it is turned round.
_ON_THE_END = 0.05


def with_mounts(design: Design, mounts: Sequence[Mount]) -> tuple[Change, ...]:
    """Return the edits that put a train's motors on some mounts, one motor, propeller and ESC at each.

    Items are kept where their mount stays, with what the scale said of one piece; those of a new mount are like the
    first, those of one that goes are taken out.

    Parameters
    ----------
    design : Design
        With a power train.
    mounts : sequence of Mount
        New ones without an id.

    Returns
    -------
    tuple of Change

    Raises
    ------
    DesignError
        Where the train does not allow so many motors.
    """
    before = design.power
    assert before is not None
    changes = [Change("power.mounts", tuple(mounts))]
    after = apply(design, changes).power
    assert after is not None
    former = {mount.id: mount for mount in before.mounts}
    fresh: list[Change] = []
    gone: list[int] = []
    for component in AT_MOUNTS:
        found = [k for k, item in enumerate(design.parts) if item.component == component]
        owners = _owners(before, design.parts, found)
        for number, mount in enumerate(after.mounts if found else ()):
            own = owners.get(mount.id)
            if own is None:
                like = design.parts[found[0]].model_copy(update={"id": "", "loose": ""})
                name = f"{like.name}, mount {number + 1}"
                made = _at(like.model_copy(update={"name": name}), before.mounts[0], mount, after, design)
                fresh.append(Change("parts[-]", made))
            elif mount != former[mount.id]:
                changes.append(Change(f"parts[{own}]", _at(design.parts[own], former[mount.id], mount, after, design)))
        kept = {owners[mount.id] for mount in after.mounts if mount.id in owners}
        gone += [k for k in found if k not in kept]
    return (*changes, *(Change(f"parts[{k}]", REMOVE) for k in sorted(gone, reverse=True)), *fresh)


def _owners(train: PowerTrain, parts: Sequence[Item], found: list[int]) -> dict[str, int]:
    """Return which item of a component is whose, by mount: what hangs on one its, the others in order."""
    idents = [mount.id for mount in train.mounts]
    owners: dict[str, int] = {}
    for k in found:
        on = parts[k].on
        if on is not None and on.to in idents:
            owners.setdefault(on.to, k)
    rest = [k for k in found if k not in owners.values()]
    for ident, k in zip([ident for ident in idents if ident not in owners], rest, strict=False):
        owners[ident] = k
    return owners


def _at(item: Item, old: Mount, new: Mount, train: PowerTrain, design: Design) -> Item:
    """Return an item of one mount as it is at another, or where its own has gone to."""
    if item.component == "motor":
        place = along_shaft(new, new.spacer + 0.5 * train.motor.length)
    elif item.component == "propeller":
        place = disc_of(new, train)
    else:
        behind = item.x - old.x
        place = (new.x + (behind if new.pusher == old.pusher else -behind), new.y, new.z)
    count = 2 if new.mirrored else 1
    moved = item.model_copy(
        update={"count": count, "mirrored": new.mirrored, "on": None, **dict(zip("xyz", place, strict=True))}
    )
    if item.component in ("motor", "propeller"):
        return moved.model_copy(update={"on": hung_at(moved, new, train, place)})
    carrier = carrier_of(moved, carriers(design))
    return moved if carrier is None else moved.model_copy(update={"on": hung_at(moved, carrier, train, place)})


def _span(design: Design) -> float:
    """Return the widest span, or that of a usual wing where there is none yet, m."""
    return 2 * max((s.stations[-1].y for s in design.surfaces), default=0.6)


def two_more(design: Design) -> tuple[Mount, ...]:
    """Return the mounts of a train with a pair more: a single motor on the centre line becomes a pair.

    Parameters
    ----------
    design : Design
        With a power train.

    Returns
    -------
    tuple of Mount
    """
    train = design.power
    assert train is not None
    first = train.mounts[0]
    if train.motors == 1 and first.y == 0:
        return (first.model_copy(update={"y": round(_OUT * _span(design), 4), "mirrored": True}),)
    out = round(max(abs(m.y) for m in train.mounts) + _FARTHER * _span(design), 4)
    return (*train.mounts, first.model_copy(update={"id": "", "y": out, "mirrored": True}))


def one_in_the_middle(design: Design) -> tuple[Mount, ...]:
    """Return the mounts of a train with one more on the centre line, where the foremost stands.

    Parameters
    ----------
    design : Design
        With a power train.

    Returns
    -------
    tuple of Mount
    """
    assert design.power is not None
    first = min(design.power.mounts, key=lambda m: m.x)
    return (*design.power.mounts, first.model_copy(update={"id": "", "y": 0.0, "mirrored": False}))


def on_sides(design: Design, index: int, sides: str) -> tuple[Mount, ...]:
    """Return the mounts of a train with one of them as a pair, on the centre line, or on one side.

    Parameters
    ----------
    design : Design
        With a power train.
    index : int
        Of the mount.
    sides : {"pair", "middle", "one"}

    Returns
    -------
    tuple of Mount
    """
    assert design.power is not None
    mounts = list(design.power.mounts)
    out = mounts[index].y or round(_OUT * _span(design), 4)
    update = {"y": 0.0 if sides == "middle" else out, "mirrored": sides == "pair"}
    mounts[index] = mounts[index].model_copy(update=update)
    return tuple(mounts)


def sides_of_mount(mount: Mount) -> str:
    """Return how a mount stands: ``pair``, ``middle`` or ``one`` side.

    Parameters
    ----------
    mount : Mount

    Returns
    -------
    str
    """
    return "pair" if mount.mirrored else ("middle" if mount.y == 0 else "one")


def turned_round(design: Design, index: int) -> tuple[Mount, ...]:
    """Return the mounts of a train with a tractor made a pusher, or back; on the end of a body it goes to the other.

    Parameters
    ----------
    design : Design
        With a power train.
    index : int
        Of the mount.

    Returns
    -------
    tuple of Mount
    """
    assert design.power is not None
    mounts = list(design.power.mounts)
    mount = mounts[index]
    update: dict[str, object] = {"pusher": not mount.pusher}
    body = _under(mount, design.bodies)
    if body is not None:
        end = body.sections[0 if mount.pusher else -1]
        update |= {"x": round(end.x, 4), "z": round(end.z, 4)}
    mounts[index] = mount.model_copy(update=update)
    return tuple(mounts)


def _under(mount: Mount, bodies: tuple[Body, ...]) -> Body | None:
    """Return the body on whose nose a tractor stands, or on whose end a pusher."""

    def off(body: Body) -> float:
        end = body.sections[-1 if mount.pusher else 0]
        return abs(end.x - mount.x) + abs(abs(body.y) - abs(mount.y))

    near = min(bodies, key=off, default=None)
    return near if near is not None and off(near) <= _ON_THE_END else None


def with_motor_leads(design: Design, length: float) -> tuple[Change, ...]:
    """Return the edits that lengthen the leads between controllers and motors, with the item that carries their mass.

    Parameters
    ----------
    design : Design
        With a power train.
    length : float
        Of one motor's leads beyond their own, m; none takes the item out.

    Returns
    -------
    tuple of Change
    """
    assert design.power is not None
    changes = [Change("power.motor_lead", length)]
    found = [k for k, item in enumerate(design.parts) if item.component == "motor_leads"]
    if length <= 0:
        return (*changes, *(Change(f"parts[{k}]", REMOVE) for k in reversed(found)))
    if found:
        return tuple(changes)
    mount = design.power.mounts[0]
    esc = next((item for item in design.parts if item.component == "esc"), None)
    x = mount.x if esc is None else 0.5 * (mount.x + esc.x)
    made = Item(
        name="Motor leads",
        group="power",
        basis="stock",
        component="motor_leads",
        count=design.power.motors,
        mirrored=mount.mirrored,
        x=round(x, 4),
        y=mount.y,
        z=mount.z,
    )
    return (*changes, Change("parts[-]", made))
