"""The order of building: no step before what it waits for, every piece and part once, nothing shut in untried."""

from collections import Counter

import pytest

from ridgeline.design.document import Design
from ridgeline.engine.build.whole import pieces_of_design
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.sizing.wishes import brief_of
from ridgeline.engine.templates.build_order import build_order
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names, shipped_shelf

DESIGNS = [load(f"demo:{name}") for name in sorted(gallery_names())]


def held(design, school):
    steps = build_order(design, school)
    place = {step.key: k for k, step in enumerate(steps)}
    assert len(place) == len(steps)
    for step in steps:
        assert all(place[key] < place[step.key] for key in step.after), step.words
    pieces = Counter(k for step in steps for k in step.pieces)
    assert pieces == Counter(range(len(pieces_of_design(design))))
    items = Counter(i for step in steps for i in step.items)
    assert items == Counter(item.id for item in design.parts if item.build is None)
    joined = Counter(step.of for step in steps if step.key.startswith("join:"))
    assert joined == Counter(part.id for part in (*design.surfaces, *design.bodies))
    return steps, place


@pytest.mark.parametrize("school", ["parts", "whole"])
@pytest.mark.parametrize("design", DESIGNS, ids=lambda design: design.name)
def test_every_sample_is_built_step_by_step(design, school):
    steps, place = held(design, school)
    shut = {step.of for step in steps if step.closes}
    assert shut == {step.of for step in steps if step.key.startswith("fit:")} and shut
    for step in steps:
        if step.closes:
            # What is shut in was tried, and lies in it by then.
            fit = next(one for one in steps if one.key == f"fit:{step.of}")
            assert place["try"] < place[step.key] and place[fit.key] < place["try"] and fit.items
    assert [step.key for step in steps][-2:] == ["balance", "blades"]
    blades = [item.id for item in design.parts if item.component == "propeller"]
    assert list(steps[-1].items) == blades and "Propeller" in steps[-1].words
    packs = [item.id for item in design.parts if item.group == "battery"]
    load_ = next(step for step in steps if step.key == "load")
    assert set(packs) <= set(load_.items)


@pytest.mark.parametrize("school", ["parts", "whole"])
def test_the_schools_of_paint_differ_in_what_is_joined_by_then(school):
    steps, place = held(DESIGNS[0], school)
    coats = [place[step.key] for step in steps if step.key.startswith("coat:")]
    joins = [place[step.key] for step in steps if step.key.startswith("join:")]
    if school == "whole":
        assert len(coats) == 1 and coats[0] > max(joins)
    else:
        for step in steps:
            if step.key.startswith("join:"):
                assert place[f"coat:{step.of}"] < place[step.key]


def test_a_spar_sets_before_anything_is_laid_in_and_glue_before_it_is_shut():
    steps, place = held(load("demo:whimbrel"), "parts")
    spars = [step for step in steps if step.key.startswith("spar:")]
    assert spars and all(step.cures == 30 for step in spars)
    for step in spars:
        assert place[f"cut:{step.of}"] < place[step.key] < place[f"close:{step.of}"]
        assert place[step.key] < place.get(f"fit:{step.of}", len(steps))
    sets = {step.key.split(":")[0]: step.cures for step in steps}
    assert (sets["close"], sets["coat"], sets["cut"], sets["try"]) == (30, 60, 0, 0)
    first, *more = (step for step in steps if step.key.startswith("join:"))
    assert first.cures == 0 and all(step.cures == 30 for step in more)
    assert [step.of for step in more if step.fragile] == [load("demo:whimbrel").surfaces[1].id]
    assert all(step.items for step in steps if step.key.startswith("fit:"))


def test_the_body_comes_first_and_what_stands_upright_last():
    design = load("demo:lapwing")
    joined = [step.of for step in build_order(design) if step.key.startswith("join:")]
    assert joined[0] == design.bodies[0].id and joined[-1] == design.surfaces[-1].id


def test_an_empty_design_waits_for_nothing():
    steps, _place = held(Design(), "parts")
    assert not any(step.pieces or step.items for step in steps)


@pytest.mark.parametrize("layout", ["canard", "plank", "biplane", "twin_boom"])
def test_layouts_are_built_step_by_step(layout):
    design = lay_out(brief_of({"layout": layout, "ceiling": 0.9}), shipped_shelf())
    for school in ("parts", "whole"):
        held(design, school)
