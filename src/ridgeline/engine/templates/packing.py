"""Packing sheets tighter than corner by corner: the one place that knows the packer library, and does without it.

The library packs shapes on a strip of endless length. It starts from sheets laid corner by corner and, sheet by sheet,
tries to bring pieces of later sheets in: with as many as may fit first, with fewer where the strip is longer than the
sheet. So it is never worse than what it started from.
"""

from __future__ import annotations

import math
import threading
from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from ridgeline.design.cutting import Cutting
from ridgeline.engine.templates.nesting import Laid, Nested, Nesting, UsedSheet, faults, turns_of
from ridgeline.engine.templates.patterns import Pattern
from ridgeline.engine.templates.splitting import fits

#: The fullest a sheet is tried, the least that must be gained, and in how many steps it is looked for between them.
_FULL, _GAIN, _STEPS = 0.90, 0.01, 6
#: One attempt takes so long, s; a cancel is heard after so long, s; the library's numbers are short: room for that, m.
_SECONDS, _HEARD, _ROOM = 2, 0.05, 2e-5
#: Corners nearer to a straight line than this are left out for the packer, m; the seed that makes runs alike.
_STRAIGHT, _SEED = 5e-6, 1


def packer() -> Any | None:
    """Return the packer library, or None where it is not installed."""
    try:
        import spyrrow
    except ImportError:
        return None
    return spyrrow


class Packing:
    """Laying patterns tighter: `steps` yields the share that is done, `result` the best that was found.

    What is laid by hand stays where it is, and its sheet is left as it was laid corner by corner.
    """

    def __init__(self, patterns: Sequence[Pattern], cutting: Cutting) -> None:
        self._cutting = cutting
        plain = Nesting(patterns, cutting)
        for _share in plain.steps():
            pass
        self.plain = plain.result()
        self._best = self.plain

    def steps(self) -> Iterator[float]:
        """Fill one sheet after the other; yield the share of sheets that is done, often enough to be stopped."""
        library = packer()
        if library is None or self._cutting.laid:
            return
        sheets = list(self.plain.sheets)
        for k in range(len(sheets)):
            if k >= len(sheets):
                break
            filling = _Filling(library, sheets[k], [one for sheet in sheets[k + 1 :] for one in sheet.laid],
                               self._cutting)  # fmt: skip
            for _ in filling.steps():
                yield k / len(sheets)
            if filling.laid:
                sheets[k] = replace(sheets[k], laid=filling.laid)
                here = {one.pattern.key for one in filling.laid}
                for later in range(k + 1, len(sheets)):
                    kept = tuple(one for one in sheets[later].laid if one.pattern.key not in here)
                    sheets[later] = replace(sheets[later], laid=kept)
                sheets = [one for one in sheets if one.laid]
                self._best = Nested(tuple(sheets), self.plain.left)

    def result(self) -> Nested:
        """Return the better of both ways to lay them, as far as they have come."""
        return self._best


class _Filling:
    """Attempts to bring pieces of later sheets into one; for the last, to leave a longer offcut of it."""

    def __init__(self, library: Any, sheet: UsedSheet, later: Sequence[Laid], cutting: Cutting) -> None:
        self._library, self._stock, self._cutting = library, sheet.stock, cutting
        self._here, self._reach = [one.pattern for one in sheet.laid], sheet.reach
        able = [one.pattern for one in later if fits(one.pattern, sheet.stock, cutting)]
        self._later = sorted(able, key=lambda one: -one.area)
        self.laid: tuple[Laid, ...] = ()

    def steps(self) -> Iterator[None]:
        """Try with fewer and fewer until they fit on the sheet; yield while waiting."""
        tried: set[frozenset[str]] = set()
        here = math.fsum(one.area for one in self._here) / (self._stock.width * self._stock.length)
        for fill in np.linspace(max(_FULL, here + _GAIN), here + _GAIN, _STEPS):
            chosen = [*self._here, *self._brought(float(fill))]
            keys = frozenset(one.key for one in chosen)
            if keys in tried or (self._later and len(chosen) == len(self._here)):
                continue
            tried.add(keys)
            found: list[tuple[Laid, ...]] = []
            # The library lets no one stop it, but holds nobody up: it is left to end by itself, within seconds.
            work = threading.Thread(target=self._attempt, args=(chosen, found), daemon=True)
            work.start()
            while work.is_alive():
                yield
                work.join(_HEARD)
            if found:
                self.laid = found[0]
                return

    def _brought(self, fill: float) -> list[Pattern]:
        """Return the largest patterns of later sheets that may come in, up to a share of the sheet."""
        room = fill * self._stock.width * self._stock.length - math.fsum(one.area for one in self._here)
        found = []
        for one in self._later:
            if one.area <= room:
                found.append(one)
                room -= one.area
        return found

    def _attempt(self, chosen: Sequence[Pattern], found: list[tuple[Laid, ...]]) -> None:
        """Pack patterns on a strip as wide as the sheet; tell what was found where the sheet is long enough for it."""
        cutting, stock = self._cutting, self._stock
        turns = turns_of(grain=cutting.grain)
        # The library's strip runs to the right, the sheet upwards: turned by a quarter between them.
        ways = sorted({round(math.degrees(turn - math.pi / 2)) % 360 for turn in turns})
        grown = 0.5 * (cutting.gap + _ROOM)
        items = []
        for one in chosen:
            shape = one.cut(cutting.kerf).simplify(_STRAIGHT).exterior
            points = 1000 * np.asarray(shape.coords)[:-1]
            items.append(self._library.Item(one.key, [tuple(p) for p in points.tolist()], 1, ways))
        room = stock.width - 2 * cutting.edge
        config = self._library.StripPackingConfig(
            total_computation_time=_SECONDS, min_items_separation=2000 * grown, num_workers=2, seed=_SEED
        )
        try:
            solved = self._library.StripPackingInstance("", 1000 * room, items).solve(config)
        except (ValueError, RuntimeError):
            return
        # What only lies otherwise must at least leave a longer offcut.
        most = stock.length - cutting.edge if len(chosen) > len(self._here) else self._reach
        if solved.width > 1000 * (most - cutting.edge):
            return
        by_key = {one.key: one for one in chosen}
        laid = []
        for one in solved.placed_items:
            turn = math.radians(one.rotation) + math.pi / 2
            x, y = (v / 1000 for v in one.translation)
            # A quarter turn to the left of the strip stands it up: its width runs to the left, so the sheet's does.
            laid.append(Laid(by_key[one.id], stock.width - cutting.edge - y, cutting.edge + x, _within(turn)))
        whole = Nested((UsedSheet(stock, tuple(laid)),), ())
        if not faults(whole, cutting):
            found.append(tuple(laid))


def _within(turn: float) -> float:
    """Return a turn between half a turn either way, one of a quarter exactly."""
    quarters = round(turn / (math.pi / 2))
    return (quarters + 1) % 4 * (math.pi / 2) - math.pi / 2

