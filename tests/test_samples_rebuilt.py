"""The samples with a construction against what they weighed when their items were entered by hand."""

import pytest

from ridgeline.engine.build.whole import parts_of
from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import load

#: All-up weight to expect as the samples were entered by hand, kg.
FORMER = {"avocet": 0.9121, "dunlin": 0.6503, "turnstone": 0.5712, "whimbrel": 0.7948}


@pytest.mark.parametrize("name", sorted(FORMER))
def test_a_sample_rebuilt_weighs_what_it_weighed(name):
    design = load(f"demo:{name}")
    assert evaluate(design).value("mass.auw") == pytest.approx(FORMER[name], rel=0.08)
    built = [part for _path, part in parts_of(design) if part.built is not None]
    pieces = [part.build for part in design.parts if part.build is not None and part.build.kind == "pieces"]
    shells = [build.of for build in pieces if build.pieces == "shell"]
    # Each once, and nothing beside it for the same board.
    assert sorted(shells) == sorted(part.id for part in built) and len(built) >= 3
    board = [part for part in design.parts if part.group == "airframe" and part.on and part.on.to in shells]
    assert len(board) == len(shells)
