"""Flights: what versions and a long log cost, and whether bands of what was measured cover what is so.

Run: ./.venv/bin/python bench/flights.py

Speeds are told beside that of one evaluation on this machine; the exit is 1 where a wish is not met.
"""

from __future__ import annotations

import sys
import time
from collections.abc import Callable

import numpy as np

from ridgeline.design.as_built import AsBuilt, Levelled
from ridgeline.design.flights import Flight, SpeedPass
from ridgeline.design.keeping import at, counted, keep
from ridgeline.design.paths import put
from ridgeline.engine.advice.two_versions import differences
from ridgeline.engine.bands import BAND
from ridgeline.engine.flight.airspeed import airspeed_of
from ridgeline.engine.geometry.levelled import SIDES, bench_fit
from ridgeline.engine.geometry.placed import mirrored, placed_at
from ridgeline.engine.pipeline import Evaluator
from ridgeline.files.design_file import from_text, load, to_text

#: Wishes: a comparison, s; 200 versions, bytes; what a log of 500 adds to an edit, a share; coverage of a 90 % band.
COMPARED, KEPT, LOGGED, COVERED = 0.2, 3_000_000, 0.2, (0.85, 0.97)


def best(do: Callable[[], object], times: int = 5) -> float:
    """Return the shortest of several runs, s."""
    found = []
    for _ in range(times):
        begun = time.perf_counter()
        do()
        found.append(time.perf_counter() - begun)
    return min(found)


def versions() -> bool:
    """Keep two hundred and compare two of them."""
    design = load("demo:whimbrel").model_copy(update={"revision": 1})
    for k in range(200):
        design = keep(counted(design, put(design, f"surfaces[{k % 2}].stations[1].chord", 0.12 + 2e-4 * k)))
    text = to_text(design)
    read = best(lambda: from_text(text, "versions"))
    report = Evaluator()(design)

    def compare() -> None:
        one, other = at(design, 60), at(design, 140)
        trial = report.trial()
        differences(one, trial(one), other, trial(other))

    taken = best(compare)
    size = len(text.encode()) / 1e3
    print(f"200 versions: {size:.0f} kB, read in {1e3 * read:.0f} ms; two compared in {1e3 * taken:.0f} ms")
    return len(text.encode()) < KEPT and taken < COMPARED


def long_log() -> bool:
    """Edit a design whose log holds five hundred flights."""
    plain = load("demo:whimbrel")
    flights = tuple(Flight(id=f"t{k}", aloft=300.0 + k, put_back_ah=0.4, cells=3, capacity_ah=2.2) for k in range(500))
    taken = []
    for design in (plain, plain.model_copy(update={"flights": flights})):
        evaluator = Evaluator()
        evaluator(design)
        chords = iter(np.linspace(0.14, 0.20, 64).tolist())

        def edit(design: object = design, evaluator: Evaluator = evaluator, chords: object = chords) -> None:
            evaluator(put(design, "surfaces[0].stations[1].chord", next(chords)))  # type: ignore[arg-type, call-overload]

        taken.append(best(edit, 12))
    more = taken[1] / taken[0] - 1
    print(f"an edit: {1e3 * taken[0]:.0f} ms; with 500 flights {100 * more:+.0f} %")
    return more < LOGGED


def covered(runs: int = 2000) -> bool:
    """Measure airframes and passes with noise, and count how often the band holds what is so."""
    chance, design = np.random.default_rng(5), load("demo:heron")
    wing, inside = design.surfaces[0], {"twist": 0, "dihedral": 0, "passes": 0}
    for _ in range(runs):
        twist, dihedral = chance.normal(size=2) * 0.01
        bent = wing.model_copy(update={"cant": wing.cant + dihedral})
        rows = []
        for side in SIDES:
            for share in (0.05, 0.5, 0.95):
                out = wing.stations[0].y + share * (wing.stations[-1].y - wing.stations[0].y)
                here = placed_at(bent, [out], warp=twist)
                ends = np.stack([here.leading[0], here.trailing[0]])
                ends = ends if side == "starboard" else mirrored(ends)
                heights = 0.3 + ends[:, 2] * np.cos(0.04) - ends[:, 0] * np.sin(0.04) + 0.0005 * chance.normal(size=2)
                rows.append(Levelled(of=wing.id, side=side, out=out, leading=heights[0], trailing=heights[1]))
        fit = bench_fit(design.surfaces, AsBuilt(levelled=tuple(rows)), 0)
        assert fit is not None
        one = fit.surfaces[0]
        for name, told, true in (("twist", one.twist, twist), ("dihedral", one.dihedral, dihedral)):
            assert told is not None
            inside[name] += abs(told.value - true) <= BAND * told.sigma
        paced = 1 + 0.02 * chance.normal()
        ground = (15 - 3 * (1 + 0.15 * chance.normal()), 15 + 3 * (1 + 0.15 * chance.normal()))
        passes = [
            SpeedPass(way=way, length=100.0, seconds=100 * paced / over + 0.21 * chance.normal())
            for way, over in zip(("up", "down"), ground, strict=True)
        ]
        speed = airspeed_of(passes, 3.0)
        assert speed is not None
        inside["passes"] += abs(speed.value - 15) <= BAND * speed.sigma
    shares = {name: many / runs for name, many in inside.items()}
    print("bands cover " + ", ".join(f"{name} {100 * share:.0f} %" for name, share in shares.items()))
    return all(COVERED[0] <= share <= COVERED[1] for share in shares.values())


def main() -> int:
    """Run all of it."""
    return 0 if all([versions(), long_log(), covered()]) else 1


if __name__ == "__main__":
    sys.exit(main())
