"""Cost of one evaluation after an edit, as a ratio to a first evaluation and to its own lattice; and of 2 000 items.

Run: ./.venv/bin/python bench/evaluate.py
"""

from __future__ import annotations

import gc
import statistics
import time
from collections.abc import Callable

from ridgeline.design.document import Design, from_plain
from ridgeline.design.paths import put
from ridgeline.engine.aero.airframe_lattice import solve_airframe
from ridgeline.engine.geometry.reference import combine_wings
from ridgeline.engine.geometry.surfaces import measure_surface
from ridgeline.engine.pipeline import Evaluator, evaluate
from ridgeline.engine.stages.masses import masses
from ridgeline.engine.weights.items import ItemRows
from ridgeline.files.design_file import load


def median_ms(action: Callable[[int], object], rounds: int = 40) -> float:
    """Return the median time of an action, ms."""
    times = []
    for index in range(rounds):
        begun = time.perf_counter()
        action(index)
        times.append(1e3 * (time.perf_counter() - begun))
    return statistics.median(times)


def solving(design: Design) -> Callable[[], object]:
    """Return what assembles and solves the lattice of a design, with the cases an evaluation needs."""
    wings = [measure_surface(s) for s in design.surfaces if s.role == "wing"]
    reference = combine_wings(wings, [s.x for s in design.surfaces if s.role == "wing"])
    return lambda: solve_airframe(design.surfaces, reference)


def beside_lattice(edits: list[Design], evaluator: Evaluator) -> tuple[float, float]:
    """Return the median time of an evaluation with its findings, ms, and the median of its ratio to its own lattice.

    The two are timed in turn: a machine that slows down slows both.
    """
    times, ratios = [], []
    for edit in edits:
        solve = solving(edit)
        begun = time.perf_counter()
        solve()
        between = time.perf_counter()
        evaluator(edit).findings  # noqa: B018
        times.append(1e3 * (time.perf_counter() - between))
        ratios.append(times[-1] / (1e3 * (between - begun)))
    return statistics.median(times), statistics.median(ratios)


def main() -> None:
    """Print the costs."""
    design = load("demo:whimbrel")
    # Fresh copies: what is remembered of the same parts does not count.
    copies = [from_plain(design.model_dump(mode="json")) for _ in range(40)]
    whole = median_ms(lambda i: evaluate(copies[i]).findings)
    alone = solving(design)
    solve = median_ms(lambda _i: alone())
    print(f"whole evaluation of the demo {whole:.2f} ms; its lattice, assembled and solved, {solve:.2f} ms")
    many = put(design, "parts", (*design.parts, *(design.parts[3] for _ in range(2000))))
    print(f"masses of 2 017 items rolled up after one was moved {masses_ms(many):.2f} ms (5 wanted)")
    for name, base, path, value in (
        ("tip chord", design, "surfaces[0].stations[2].chord", 0.140),
        ("pack place", design, "parts[0].x", 0.180),
        ("propeller", design, "power.propeller.pitch", 0.150),
        ("name only", design, "name", None),
        ("one of 2 017 items", many, "parts[0].x", 0.180),
    ):
        evaluator = Evaluator()
        evaluator(base)
        edits = [put(base, path, f"plane {k}" if value is None else value + 5e-4 * k) for k in range(40)]
        # The copies and edits of this bench are not to be gone through by the collector: no window holds as many.
        gc.collect()
        gc.freeze()
        if name == "tip chord":
            cost, ratio = beside_lattice(edits, evaluator)
            lattices = f", {cost / solve:.2f} times the lattice above, {ratio:.2f} times its own solved just before"
        else:
            cost, lattices = median_ms(lambda i, e=edits, v=evaluator: v(e[i]).findings), ""
        print(f"after an edit of {name}: {cost:.2f} ms, {cost / whole:.2f} of a whole evaluation{lattices}")


def masses_ms(design: Design) -> float:
    """Return the median time of rolling up the masses after one item of a design was moved."""
    edits = [put(design, "parts[0].x", 0.18 + 1e-5 * k) for k in range(40)]
    known = ItemRows()
    masses(design.parts, design.power, design.brief, memory=known)
    return median_ms(lambda i: masses(edits[i].parts, edits[i].power, edits[i].brief, memory=known))


if __name__ == "__main__":
    main()
