"""What hangs on what: items keep their place on the part that carries them, whichever way that is moved.

An item's ``on`` holds its place in the axes of its carrier; its x, y and z are the same place in aircraft axes, written
anew whenever carrier or ``on`` change, and read back into ``on`` when they are typed.
"""

from __future__ import annotations

from typing import Any

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.axes import along_shaft, disc_of, from_surface, middle_back, middle_out, on_body, on_surface
from ridgeline.design.base import changed
from ridgeline.design.kinds import CARRYING, listed
from ridgeline.design.parts import Hung, Item
from ridgeline.design.power import Mount, PowerTrain

Carrier = Surface | Body | Mount
Place = tuple[float, float, float]
#: Places are kept to this, m: less is the noise of turning there and back.
_DECIMALS = 12


def carriers(design: Any) -> dict[str, Carrier]:
    """Return what can carry items, by id: surfaces, bodies and motor mounts.

    Parameters
    ----------
    design : Design

    Returns
    -------
    dict
        By id, of what is fitted.
    """
    found: dict[str, Carrier] = {}
    for kind in CARRYING:
        for part in listed(design, kind):
            held = (part,) if kind.carries == "itself" else getattr(part, kind.within)
            found |= {one.id: one for one in held}
    return found


def place_of(item: Item, carrier: Carrier, train: PowerTrain | None) -> Place:
    """Return the place of an item on its carrier.

    Parameters
    ----------
    item : Item
        That hangs on the carrier.
    carrier : Surface, Body or Mount
    train : PowerTrain or None
        Whose motor stands between a firewall and its disc.

    Returns
    -------
    x, y, z : float
        In aircraft axes, m; on the port one of a pair to port.
    """
    assert item.on is not None
    on = item.on
    if isinstance(carrier, Surface):
        x, y, z = on_surface(carrier, on.out, on.share, on.up)
    elif isinstance(carrier, Body):
        x, y, z = on_body(carrier, on.back, on.out, on.up)
    else:
        start = _start(item, carrier, train)
        x, y, z = start[0] + on.back, start[1] + on.out, start[2] + on.up
    return round(x, _DECIMALS), round(-y if on.port else y, _DECIMALS), round(z, _DECIMALS)


def hung_at(item: Item, carrier: Carrier, train: PowerTrain | None, place: Place) -> Hung:
    """Return where on a carrier an item lies.

    Parameters
    ----------
    train : PowerTrain or None
        Whose motor stands between a firewall and its disc.
    place : tuple of float
        In aircraft axes, m.

    Returns
    -------
    Hung
        On the port one where a pair carries it and it lies to port.
    """
    x, y, z = place
    # On a pair an item to port hangs on the port one.
    port = bool(carrier.mirrored) and y < 0
    y = -y if port else y
    if isinstance(carrier, Surface):
        out, share, up = from_surface(carrier, x, y, z)
        told = {"out": out, "share": share, "up": up}
    elif isinstance(carrier, Body):
        told = {"back": x - carrier.x, "out": y - carrier.y, "up": z - carrier.z}
    else:
        start = _start(item, carrier, train)
        told = {"back": x - start[0], "out": y - start[1], "up": z - start[2]}
    return Hung(to=carrier.id, port=port, **{name: round(value, _DECIMALS) for name, value in told.items()})


def _start(item: Item, mount: Mount, train: PowerTrain | None) -> Place:
    """Return where places on a mount are counted from: the disc for a propeller, the can's middle for a motor."""
    if train is not None and item.component == "propeller":
        return disc_of(mount, train)
    if train is not None and item.component == "motor":
        return along_shaft(mount, mount.spacer + 0.5 * train.motor.length)
    return mount.x, mount.y, mount.z


def settled(design: Any) -> Any:
    """Return a design whose hung items lie where their carriers put them."""
    found = carriers(design)
    items = [_settled(item, found, design.power) for item in design.parts]
    return _with_items(design, items)


def _settled(item: Item, found: dict[str, Carrier], train: PowerTrain | None) -> Item:
    carrier = found.get(item.on.to) if item.on is not None else None
    return item if carrier is None else _placed(item, place_of(item, carrier, train))


def _placed(item: Item, place: Place) -> Item:
    if (item.x, item.y, item.z) == place:
        return item
    return item.model_copy(update=dict(zip("xyz", place, strict=True)))


def _moved(item: Item, place: Place) -> Item:
    """Return an item at another place; a bay is built into what carries it, and goes along."""
    moved = _placed(item, place)
    if moved is item or item.rail is None or place[0] == item.x:
        return moved
    ends = {name: round(getattr(item.rail, name) + place[0] - item.x, _DECIMALS) for name in ("front", "back")}
    return moved.model_copy(update={"rail": item.rail.model_copy(update=ends)})


def _with_items(design: Any, items: list[Item]) -> Any:
    if len(items) == len(design.parts) and all(a is b for a, b in zip(items, design.parts, strict=True)):
        return design
    return design.model_copy(update={"parts": tuple(items)})


def carried(before: Any, after: Any, *, typed: bool = True) -> Any:
    """Return an edited design with its items carried along.

    An item whose coordinates were edited is hung anew where it was put; of one whose carrier moved the coordinates
    follow. What was built of a part that is gone goes with it, and what was bolted to it is left loose.

    Parameters
    ----------
    before, after : Design
        Of which only what changed is looked at.
    typed : bool
        Whether coordinates may have been edited; not where another set was fitted.

    Returns
    -------
    Design
        ``after`` itself when nothing had to move.
    """
    if before.parts is after.parts and _carriers_same(before, after):
        return after
    hung = _Hanging(before, after, typed=typed)
    # Most edits are of one item or one carrier: the others need not be looked at.
    touched = {*_edited(before.parts, after.parts), *hung.on_moved(after.parts)}
    if not touched:
        return after
    items: list[Item | None] = list(after.parts)
    for k in touched:
        items[k] = hung.item(after.parts[k])
    return _with_items(after, [item for item in items if item is not None])


def _edited(before: tuple[Item, ...], after: tuple[Item, ...]) -> list[int]:
    """Return the items that are not the same objects as before, wherever they stood."""
    if len(before) == len(after):
        return changed(after, before)
    former = set(map(id, before))
    return [k for k, item in enumerate(after) if id(item) not in former]


def _carriers_same(before: Any, after: Any) -> bool:
    return all(getattr(before, kind.field) is getattr(after, kind.field) for kind in CARRYING)


class _Hanging:
    """One edit's carriers, before and after it."""

    def __init__(self, before: Any, after: Any, *, typed: bool) -> None:
        self._typed = typed
        self._old, self._new, self._train = carriers(before), carriers(after), after.power
        self._gone = self._old.keys() - self._new.keys()
        self._stays = _same_train(before.power, after.power)
        self._former = {item.id: item for item in before.parts}
        self._moved = {ident for ident, carrier in self._old.items() if not self._stands(ident, carrier)}

    def _stands(self, ident: str, carrier: Carrier) -> bool:
        """Tell whether a carrier is the same as before, with what stands between it and its disc."""
        return self._new.get(ident) is carrier and (self._stays or not isinstance(carrier, Mount))

    def on_moved(self, parts: tuple[Item, ...]) -> list[int]:
        """Return the items that hang on a carrier that changed or went, or are built of one that went."""
        if not self._moved:
            return []
        return [
            k
            for k, item in enumerate(parts)
            if (item.on is not None and item.on.to in self._moved)
            or (item.build is not None and item.build.of in self._gone)
        ]

    def item(self, item: Item) -> Item | None:
        """Return an item where it lies after the edit; None where it went with what it was built of."""
        if item.build is not None and item.build.of in self._gone:
            return None
        if item.on is None:
            return item
        carrier, was = self._new.get(item.on.to), self._former.get(item.id)
        if carrier is None:
            return self._loose(item, item.on)
        if was is item and item.on.to not in self._moved and item.on.to in self._old:
            return was
        here = (item.x, item.y, item.z)
        if was is item:
            item = _spread(item, self._old.get(item.on.to if item.on else ""), carrier)
        if self._typed and was is not None and was is not item and was.on == item.on and (was.x, was.y, was.z) != here:
            # Placed from there again, so that a file that says it once opens the same.
            hung = item.model_copy(update={"on": hung_at(item, carrier, self._train, here)})
            return _placed(hung, place_of(hung, carrier, self._train))
        return _moved(item, place_of(item, carrier, self._train))

    def _loose(self, item: Item, on: Hung) -> Item:
        carrier = self._old.get(on.to)
        if carrier is None:
            # It hung on nothing before this edit: a finding says so already.
            return item
        return item.model_copy(update={"on": None, "loose": getattr(carrier, "name", "a motor mount")})


def _spread(item: Item, old: Carrier | None, new: Carrier) -> Item:
    """Return an item built of its carrier with its place in it spread as that is: on a longer panel farther out."""
    on = item.on
    if on is None or item.build is None or item.build.of != on.to:
        return item
    if isinstance(old, Surface) and isinstance(new, Surface):
        before, after = middle_out(old), middle_out(new)
        change = {"out": round(on.out * after / before, _DECIMALS)} if before > 0 and after != before else {}
    elif isinstance(old, Body) and isinstance(new, Body):
        before, after = middle_back(old), middle_back(new)
        change = {"back": round(on.back + after - before, _DECIMALS)} if after != before else {}
    else:
        change = {}
    return item.model_copy(update={"on": on.model_copy(update=change)}) if change else item


def free_of_mounts(design: Any) -> list[int]:
    """Return the items of motors and propellers that hang on no mount: what moves a mount must move them too."""
    mounts = set() if design.power is None else {mount.id for mount in design.power.mounts}
    return [
        k
        for k, item in enumerate(design.parts)
        if item.component in ("motor", "propeller") and (item.on is None or item.on.to not in mounts)
    ]


def _same_train(one: PowerTrain | None, other: PowerTrain | None) -> bool:
    """Tell whether what a mount carries stands where it did, as far as the train says."""
    return one is other or (one is not None and other is not None and one.motor.length == other.motor.length)
