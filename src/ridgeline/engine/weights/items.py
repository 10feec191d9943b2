"""Read the items of a document into the arrays of the roll-up, with the bands of the trade."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple, get_args

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.base import changed
from ridgeline.design.parts import Group, Item
from ridgeline.design.power import PowerTrain
from ridgeline.engine.kept import kept
from ridgeline.engine.power.classes import mass_of as mass_of_link
from ridgeline.engine.power.leads import motor_lead_mass
from ridgeline.engine.weights.estimates import Extent, group_of, mass_of

Array = NDArray[np.float64]
GROUPS: tuple[str, ...] = get_args(Group)

#: One-sigma share of an estimate by how it was come by (handbook of the trade, §5).
ESTIMATE_SIGMA = {"library": 0.03, "stock": 0.03, "sheet": 0.07, "print": 0.10, "adhesive": 0.30}
#: Estimates of one of these kinds come from one material or one hand, and err together.
BATCHES = {"sheet": 0, "print": 1, "adhesive": 2}
WEIGHED_SIGMA = 0.0002
SCALE_STEP = 0.001
WEIGHED_SHARE = 0.002


@dataclass(frozen=True)
class ItemArrays:
    """Items as arrays of shape (n,): masses of all pieces of each, bands, places (n, 3), batches.

    ``group`` indexes `GROUPS`; ``growing`` marks what usually gains: board, glue and leads;
    ``estimated`` what has an estimate of its own. ``size`` (n, 3) is each
    piece's extent, m: as typed, or of the surface or body it is built along; ``out`` how far the pieces of a
    mirrored item lie to the sides, m.
    """

    mass: Array
    estimate: Array
    sigma: Array
    place: Array
    sigma_place: Array
    batch: NDArray[np.int64]
    weighed: NDArray[np.bool_]
    group: NDArray[np.int64]
    growing: NDArray[np.bool_]
    estimated: NDArray[np.bool_]
    size: Array
    out: Array

    @property
    def open(self) -> NDArray[np.bool_]:
        """Which items usually gain and are not weighed yet; what is cut out gains nothing."""
        return self.growing & ~self.weighed & (self.mass > 0)

    def grown(self, share: float) -> Array:
        """Return the masses to expect, kg, (n,): what is open grows by a share of itself."""
        return np.where(self.open, (1 + share) * self.mass, self.mass)


class Kinds(NamedTuple):
    """Which items are built along a part, lie on a rail, are servos, and take their mass from a link of the train."""

    built: tuple[int, ...]
    railed: tuple[int, ...]
    servos: tuple[int, ...]
    links: dict[str, tuple[int, ...]]


@kept(32)
def kinds_of(parts: tuple[Item, ...]) -> Kinds:
    """Return the indices of the items of each kind; most items are of none."""
    built, railed, servos = [], [], []
    links: dict[str, tuple[int, ...]] = {}
    for k, item in enumerate(parts):
        if item.build is not None:
            built.append(k)
        if item.rail is not None:
            railed.append(k)
        if item.servo is not None:
            servos.append(k)
        if item.component is not None:
            links[item.component] = (*links.get(item.component, ()), k)
    return Kinds(tuple(built), tuple(railed), tuple(servos), links)


def estimate_of(item: Item, power: PowerTrain | None, extents: dict[str, Extent] | None = None) -> float:
    """Return the estimated mass of one piece, kg: by recipe, as told, by class or link, or as weighed.

    A recipe that follows a part which is not there falls back on the item's own estimate.

    Parameters
    ----------
    item : Item
    power : PowerTrain or None
        For what is a link of it.
    extents : dict, optional
        Of surfaces and bodies by id.

    Returns
    -------
    float
        Of one piece, kg.
    """
    if item.build is not None:
        found = mass_of(item.build, extents or {})
        if found is not None:
            return found / item.count
    if item.estimate is not None:
        return item.estimate
    if item.servo is not None and item.servo.mass is not None:
        return item.servo.mass
    if item.component == "motor_leads" and power is not None:
        return motor_lead_mass(power)
    if item.component is not None and power is not None:
        each = mass_of_link(getattr(power, item.component))
        return each * power.packs / item.count if item.component == "pack" else each
    return item.weighed or 0.0


def sigma_of(item: Item, power: PowerTrain | None) -> float:
    """Return the one-sigma error of all pieces, kg.

    Parameters
    ----------
    item : Item
    power : PowerTrain or None
        For what is a link of it.

    Returns
    -------
    float
        Of all pieces, kg.

    Source
    ------
    Weighed: 0.2 g + half the scale step + 0.2 % of reading, pieces weighed apart; estimates by `ESTIMATE_SIGMA`.
    """
    if item.weighed is not None:
        each = WEIGHED_SIGMA + SCALE_STEP / 2 + WEIGHED_SHARE * abs(item.weighed)
        return float(np.sqrt(item.count)) * each
    return abs(_estimate_share(item) * item.count * estimate_of(item, power))


def _estimate_share(item: Item) -> float:
    """Return the one-sigma share of an estimate: as learnt from a like part on the scale, or by its kind."""
    if item.build is not None and item.build.known is not None:
        return item.build.known
    return ESTIMATE_SIGMA[item.basis]


def _size(item: Item, extents: dict[str, Extent] | None) -> tuple[float, float, float]:
    if item.size is not None:
        return item.size.length, item.size.width, item.size.height
    group = group_of(item.build, extents or {}) if item.build is not None else None
    if group is not None:
        return group.side if item.mirrored else group.whole
    followed = (extents or {}).get(item.build.of) if item.build is not None else None
    if followed is None:
        return 0.0, 0.0, 0.0
    length, width, height = followed.size
    # The pieces of a mirrored item share the width between the two sides.
    return length, width / 2 if item.mirrored else width, height


def _row(item: Item, estimate: float, size: tuple[float, float, float]) -> tuple[float, ...]:
    """Give one item as a row."""
    mass = item.count * (item.weighed if item.weighed is not None else estimate)
    if item.weighed is not None:
        sigma, batch = sigma_of(item, None), -1
    else:
        sigma, batch = abs(_estimate_share(item) * item.count * estimate), BATCHES.get(item.basis, -1)
    y = 0.0 if item.mirrored else item.y
    return (
        mass,
        item.count * estimate,
        sigma,
        item.x,
        y,
        item.z,
        item.place_sigma,
        batch,
        item.weighed is not None,
        GROUPS.index(item.group),
        item.group in ("airframe", "adhesive") or item.basis == "adhesive",
        item.estimate is not None or item.build is not None or item.servo is not None,
        *size,
        abs(item.y) if item.mirrored else 0.0,
    )


_COLUMNS = 16


class ItemRows:
    """The rows of the items read last: only those that changed since are read anew."""

    def __init__(self) -> None:
        self._parts: tuple[Item, ...] = ()
        self._power: PowerTrain | None = None
        self._extents: dict[str, Extent] | None = None
        self._rows = np.empty((0, _COLUMNS))

    def read(self, parts: tuple[Item, ...], power: PowerTrain | None, extents: dict[str, Extent] | None) -> Array:
        """Return a row per item, (n, 16)."""
        if len(parts) != len(self._parts):
            rows, stale = np.empty((len(parts), _COLUMNS)), list(range(len(parts)))
        else:
            rows = self._rows.copy()
            stale = changed(parts, self._parts)
            if power is not self._power or extents is not self._extents:
                kinds = kinds_of(parts)
                stale += kinds.built + tuple(k for members in kinds.links.values() for k in members)
        for k in stale:
            item = parts[k]
            rows[k] = _row(item, estimate_of(item, power, extents), _size(item, extents))
        self._parts, self._power, self._extents, self._rows = parts, power, extents, rows
        return rows


def item_arrays(
    parts: tuple[Item, ...],
    power: PowerTrain | None,
    extents: dict[str, Extent] | None = None,
    known: ItemRows | None = None,
) -> ItemArrays:
    """Turn the items into arrays; a mirrored item balances itself across the centre line.

    Parameters
    ----------
    extents : dict, optional
        Of the surfaces and bodies that items are built along, by id.
    known : ItemRows, optional
        The rows read last, so that only what changed is read.
    """
    rows = (known or ItemRows()).read(parts, power, extents)
    return ItemArrays(
        mass=rows[:, 0],
        estimate=rows[:, 1],
        sigma=rows[:, 2],
        place=rows[:, 3:6],
        sigma_place=rows[:, 6],
        batch=rows[:, 7].astype(np.int64),
        weighed=rows[:, 8].astype(bool),
        group=rows[:, 9].astype(np.int64),
        growing=rows[:, 10].astype(bool),
        estimated=rows[:, 11].astype(bool),
        size=rows[:, 12:15],
        out=rows[:, 15],
    )
