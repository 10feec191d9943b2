"""The samples, whose weights were entered by hand, rebuilt with a construction: what they weigh then."""

import pytest

from ridgeline.design.construction import Board, BodyBuild, Printing, SurfaceBuild
from ridgeline.design.paths import apply
from ridgeline.engine.build.whole import parts_of
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.offers import changed_part
from ridgeline.files.design_file import load

BOARD = Board()
FOAMING = Printing(material="Foaming PLA, as printed", density=575.0)
PLATE, BOX = SurfaceBuild(form="plate", board=BOARD), BodyBuild(form="box", board=BOARD)
RIBBED = SurfaceBuild(form="ribbed", board=BOARD, strips=1)
PRINTED = SurfaceBuild(form="printed", printing=FOAMING, hinge="printed")
#: How each sample is built, by its parts; spars and glue stay as they were entered.
BUILDS = {
    "whimbrel": {"s1": SurfaceBuild(form="stepped", board=BOARD, doubler=0.45), "s2": PLATE, "b4": BOX},
    "avocet": {"s1": SurfaceBuild(form="folded", board=BOARD), "s2": SurfaceBuild(form="folded", board=BOARD, strips=1),
               "s3": PLATE, "b4": BOX},
    "turnstone": {"s1": RIBBED, "s2": RIBBED, "s3": PLATE, "s4": PLATE, "b5": BOX},
    "dunlin": {"s1": PRINTED, "s2": PRINTED, "b3": BodyBuild(form="printed", printing=FOAMING)},
}  # fmt: skip


@pytest.mark.parametrize("name", sorted(BUILDS))
def test_a_sample_rebuilt_weighs_what_it_weighed(name):
    design = former = load(f"demo:{name}")
    for ident, built in BUILDS[name].items():
        path = next(path for path, part in parts_of(design) if part.id == ident)
        design = apply(design, changed_part(design, path, {"built": built}))
    assert evaluate(design).value("mass.auw") == pytest.approx(evaluate(former).value("mass.auw"), rel=0.08)
    # Nothing twice: as many items as before, those of what was rebuilt by their pieces.
    assert [part.name for part in design.parts] == [part.name for part in former.parts]
    assert sum(part.build is not None and part.build.kind == "pieces" for part in design.parts) == len(BUILDS[name])
