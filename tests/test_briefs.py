"""Any wishes give an airframe or one clear refusal."""

import random

import pytest

from briefs import random_brief, try_brief
from ridgeline.design.brief import Brief
from ridgeline.engine.sizing.outline import sketch
from ridgeline.engine.sizing.sizes import AIM_UNDER_CEILING, sized
from ridgeline.errors import DesignError


@pytest.mark.parametrize("seed", range(0, 40, 2))
def test_any_brief_is_laid_out_or_refused_in_one_line(seed):
    refused = try_brief(random_brief(random.Random(f"brief {seed}")))
    assert "\n" not in refused and len(refused) < 300


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"tail_volume_h": 0.0}, "a tail of no size"),
        ({"tail_volume_v": 0.0}, "a fin of no size"),
        ({"tail_volume_h": 0.0, "layout": "plank", "controls": "elevons"}, ""),
        ({"ceiling": 25.0, "span_limit": 0.5}, "deeper than wide"),
        ({"ceiling": 0.05, "wing_loading": 20.0}, "0.4 dm² or more"),
    ],
)
def test_wishes_that_come_to_no_airframe_say_which_of_them(changes, words):
    brief = Brief(**changes)
    if not words:
        assert sketch(brief).surfaces and sized(brief, brief.ceiling).area > 0
        return
    for make in (lambda brief: sized(brief, AIM_UNDER_CEILING * brief.ceiling), sketch):
        with pytest.raises(DesignError, match=words):
            make(brief)


def test_the_least_volumes_are_where_a_tail_begins():
    assert sketch(Brief(tail_volume_h=0.05)).surfaces and sketch(Brief(tail_volume_v=0.003)).surfaces
    for least in ({"tail_volume_h": 0.049}, {"tail_volume_v": 0.0029}):
        with pytest.raises(DesignError):
            sketch(Brief(**least))
