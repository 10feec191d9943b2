"""Packing sheets tighter than corner by corner: the one place that knows the packer library, and does without it.

The library packs shapes on a strip of endless length. It starts from sheets laid corner by corner and, sheet by sheet,
tries to bring pieces of later sheets in: with as many as may fit first, with fewer where the strip is longer than the
sheet. So it is never worse than what it started from.
"""

from __future__ import annotations

import importlib.util
import json
import math
import subprocess
import sys
from collections.abc import Generator, Iterator, Sequence
from dataclasses import replace
from typing import Any

import numpy as np
from shapely import LinearRing

from ridgeline.design.cutting import Cutting
from ridgeline.engine.templates.nesting import Laid, Nested, Nesting, UsedSheet, faults, fits, turns_of
from ridgeline.engine.templates.patterns import Pattern

#: The fullest a sheet is tried, the least that must be gained, and in how many steps it is looked for between them.
_FULL, _GAIN, _STEPS = 0.90, 0.01, 6
#: One attempt takes so long, s; a cancel is heard after so long, s; the library's numbers are short: room for that, m.
_SECONDS, _HEARD, _ROOM = 2, 0.05, 2e-5
#: Corners nearer to a straight line than this are left out for the packer, m; the seed that makes runs alike.
_STRAIGHT, _SEED = 5e-6, 1
_CHILD = (sys.executable, "-m", "ridgeline.engine.templates.pack_child")


def packer() -> bool:
    """Tell whether the packer library is installed."""
    try:
        return importlib.util.find_spec("spyrrow") is not None
    except (ImportError, ValueError):
        return False


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
        if not packer() or self._cutting.laid:
            return
        sheets = list(self.plain.sheets)
        for k in range(len(sheets)):
            if k >= len(sheets):
                break
            beyond = [one for sheet in sheets[k + 1 :] for one in sheet.laid]
            filling = _Filling(sheets[k], beyond, self._cutting)
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

    def __init__(self, sheet: UsedSheet, later: Sequence[Laid], cutting: Cutting) -> None:
        self._stock, self._cutting = sheet.stock, cutting
        self._here, self._reach = [one.pattern for one in sheet.laid], sheet.reach
        board = (self._here[0].material, self._here[0].sheet)
        able = [one.pattern for one in later if (one.pattern.material, one.pattern.sheet) == board
                and fits(one.pattern, sheet.stock, cutting)]  # fmt: skip
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
            told = yield from self._attempt(chosen)
            laid = () if told is None else self._taken(chosen, told)
            if laid:
                self.laid = laid
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

    def _attempt(self, chosen: Sequence[Pattern]) -> Generator[None, None, dict[str, Any] | None]:
        """Pack patterns on a strip as wide as the sheet, in a process of its own: what is stopped is gone at once."""
        cutting = self._cutting
        items = []
        for one in chosen:
            ring = LinearRing(one.cut(cutting.kerf).exterior).simplify(_STRAIGHT)
            items.append((one.key, (1000 * np.asarray(ring.coords)[:-1]).tolist()))
        # The library's strip runs to the right, the sheet upwards: turned by a quarter between them.
        turns = sorted({round(math.degrees(turn - math.pi / 2)) % 360 for turn in turns_of(grain=cutting.grain)})
        wanted = {"items": items, "turns": turns, "room": 1000 * (self._stock.width - 2 * cutting.edge),
                  "apart": 1000 * (cutting.gap + _ROOM), "seconds": _SECONDS, "seed": _SEED}  # fmt: skip
        try:
            child = subprocess.Popen(_CHILD, stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL,
                                     text=True)  # fmt: skip
        except OSError:
            return None
        text: str | None = json.dumps(wanted)
        try:
            while True:
                try:
                    out, _none = child.communicate(text, timeout=_HEARD)
                    break
                except subprocess.TimeoutExpired:
                    text = None
                    yield
        finally:
            if child.poll() is None:
                child.kill()
                child.wait()
        return json.loads(out) if child.returncode == 0 else None

    def _taken(self, chosen: Sequence[Pattern], told: dict[str, Any]) -> tuple[Laid, ...]:
        """Return where patterns lie on the sheet; nothing where it is too short for them, or where they would touch."""
        cutting, stock = self._cutting, self._stock
        # What only lies otherwise must at least leave a longer offcut.
        most = stock.length - cutting.edge if len(chosen) > len(self._here) else self._reach
        if told["width"] > 1000 * (most - cutting.edge):
            return ()
        by_key = {one.key: one for one in chosen}
        # A quarter turn to the left of the strip stands it up: its width runs to the left, so the sheet's does.
        laid = tuple(
            Laid(by_key[key], stock.width - cutting.edge - y / 1000, cutting.edge + x / 1000,
                 _within(math.radians(turn) + math.pi / 2))
            for key, turn, x, y in told["placed"]
        )  # fmt: skip
        return () if faults(Nested((UsedSheet(stock, laid),), ()), cutting) else laid


def _within(turn: float) -> float:
    """Return a turn between half a turn either way, one of a quarter exactly."""
    quarters = round(turn / (math.pi / 2))
    return (quarters + 1) % 4 * (math.pi / 2) - math.pi / 2
