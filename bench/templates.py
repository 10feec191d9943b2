"""Templates of every layout in every construction: all that can be written is written, and what of the sheets is used.

python bench/templates.py [EVERY]    every EVERYth of layouts × forms of surfaces × forms of bodies
python bench/templates.py pack       sheets packed tighter against corner by corner, samples and sets of random shapes

Checked of each: all pieces lie on sheets without a fault, sheets and their DXF agree, every printed part closes and is
of the volume it was made with, what is written is not empty. Faults are named, and the exit is 1 where there are any.
"""

from __future__ import annotations

import collections
import io
import sys
import time
from itertools import product
from multiprocessing import Pool
from typing import Any, get_args

import numpy as np
import trimesh

from ridgeline.design.construction import BodyForm, SurfaceForm
from ridgeline.design.cutting import Cutting
from ridgeline.design.document import Design
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.arrangements import ARRANGEMENTS
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.sizing.offers import rebuilt
from ridgeline.engine.sizing.wishes import brief_of
from ridgeline.engine.templates.nesting import faults
from ridgeline.engine.templates.packing import Packing
from ridgeline.engine.templates.patterns import Pattern
from ridgeline.engine.templates.prints import prints_of
from ridgeline.engine.templates.whole import laid_out, templates_of
from ridgeline.errors import DesignError
from ridgeline.files.design_file import load
from ridgeline.files.solid_files import stl_of
from ridgeline.files.template_files import KINDS, Wanted, files_of
from ridgeline.library import gallery_names, shipped_shelf

GRID = tuple(product(ARRANGEMENTS, get_args(SurfaceForm), get_args(BodyForm)))
#: A stereolithography file holds its volume as well as this.
_VOLUME = 1e-3


def built_as(layout: str, surface: SurfaceForm, body: BodyForm) -> Design:
    """Return a layout with every surface and body built in a form."""
    purpose = "tailless" if ARRANGEMENTS[layout].family == "tailless" else "trainer"
    wishes: dict[str, Any] = {"purpose": purpose, "ceiling": 0.8, "layout": layout}
    design = lay_out(brief_of(wishes), shipped_shelf())
    surfaces = tuple(one.model_copy(update=rebuilt(one, surface)) for one in design.surfaces)
    bodies = tuple(
        one if one.built is None else one.model_copy(update={"built": one.built.model_copy(update={"form": body})})
        for one in design.bodies
    )
    return design.model_copy(update={"surfaces": surfaces, "bodies": bodies})


def one(wish: tuple[str, SurfaceForm, BodyForm]) -> tuple[tuple[str, ...], float]:
    """Return what is wrong with the templates of a layout in a construction, and the share of its sheets used."""
    told: list[str] = []
    try:
        design = built_as(*wish)
        report = evaluate(design)
        found = laid_out(design, design.cutting, report)
        told += faults(found, design.cutting)
        told += [f"{pattern.name} on no sheet" for pattern in found.left]
        told += [f"{pattern.name} is no polygon" for sheet in found.sheets for pattern in
                 (laid.pattern for laid in sheet.laid) if not pattern.polygon.is_valid]  # fmt: skip
        for part in prints_of(design, report, shipped_shelf()):
            read = trimesh.load_mesh(io.BytesIO(stl_of(part)), file_type="stl")
            if not read.is_watertight or abs(read.volume / part.body.volume() - 1) > _VOLUME:
                told.append(f"{part.name} does not close in its file")
        wanted = Wanted(found, 0.0002, "a4", design, report)
        for kind in KINDS:
            try:
                told += [f"{name} is empty" for name, data in files_of(wanted, kind) if not data]
            except DesignError as error:
                if found.sheets or kind in ("stl", "3mf", "lists", "summary"):
                    told.append(f"{kind}: {error}")
        return tuple(told), found.share
    except Exception as error:
        return (f"{type(error).__name__}: {error}",), 0.0


def random_set(count: int, seed: int) -> list[Pattern]:
    """Return star-shaped patterns."""
    rng = np.random.default_rng(seed)
    found = []
    for k in range(count):
        turn = (np.arange(7) + rng.uniform(-0.3, 0.3, 7)) * 2 * np.pi / 7
        size = rng.uniform(0.03, 0.11, 7)
        outline = np.column_stack([1.6 * size * np.cos(turn), size * np.sin(turn)])
        found.append(Pattern(f"p{k}", f"p{k}", "s", 0, "Board", 0.005, outline, (), (), (), 0.0))
    return found


def pack() -> None:
    """Tell what packing gains over corner by corner."""
    sets = {f"{count} shapes, set {seed}": (random_set(count, seed), Cutting()) for count, seed in
            ((20, 1), (30, 1), (40, 2))}  # fmt: skip
    for name in gallery_names():
        design = load(f"demo:{name}")
        patterns = list(templates_of(design, evaluate(design)))
        if patterns:
            sets[name] = patterns, design.cutting
    for name, (patterns, cutting) in sets.items():
        start = time.perf_counter()
        work = Packing(patterns, cutting)
        plain = time.perf_counter() - start
        for _ in work.steps():
            pass
        took, found = time.perf_counter() - start - plain, work.result()
        ends = [f"{len(one.sheets)} sheets, {100 * one.share:.0f} %, last to {1000 * one.sheets[-1].reach:.0f} mm"
                for one in (work.plain, found)]  # fmt: skip
        sound = faults(found, cutting) or "sound"
        print(f"{name:22} {ends[0]} in {plain:.2f} s; packed {ends[1]} in {took:.0f} s; {sound}")


def main() -> int:
    """Go through the grid."""
    if sys.argv[1:] == ["pack"]:
        pack()
        return 0
    every = int(sys.argv[1]) if len(sys.argv) > 1 else 1
    grid = GRID[::every]
    with Pool(2) as pool:
        found = pool.map(one, grid, chunksize=4)
    wrong = [(wish, told) for wish, (told, _share) in zip(grid, found, strict=True) if told]
    shares = [share for _told, share in found if share > 0]
    print(f"{len(grid)} constructions, {len(wrong)} with faults; sheets used {100 * np.mean(shares):.0f} %, "
          f"{100 * min(shares):.0f} to {100 * max(shares):.0f} %")  # fmt: skip
    for told, count in collections.Counter(one for _wish, all_ in wrong for one in all_).most_common(20):
        print(f"  {count:4} × {told}")
    for wish, told in wrong[:10]:
        print(" ", *wish, told[:2])
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
