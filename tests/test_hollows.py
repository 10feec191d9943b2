"""Hollows cut out of a body, and cross-sections that are each as round as they say."""

import math

import pytest

from ridgeline.design.paths import Change, apply
from ridgeline.engine.geometry.bodies import measure_body
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.hollows import hollow_of, hollows_in, mass_of_hollow, resized
from ridgeline.engine.sizing.offers import built_as


@pytest.fixture
def carved(whimbrel):
    return apply(whimbrel, built_as(whimbrel, "bodies[0]", "carved"))


def with_hollow(design):
    return apply(design, [Change("parts[-]", hollow_of(design, design.bodies[0]))])


def test_a_hollow_weighs_what_its_foam_did_and_lies_inside(carved):
    body = carved.bodies[0]
    item = hollow_of(carved, body)
    size = item.size
    density = body.built.foam_density
    assert item.estimate == pytest.approx(-density * size.length * size.width * size.height, abs=1e-5)
    first, last = item.x - 0.5 * size.length, item.x + 0.5 * size.length
    inside = [s for s in body.sections if first <= s.x <= last]
    assert inside and all(size.width < s.width and size.height < s.height for s in inside)
    assert body.sections[0].x < first < last < body.sections[-1].x


def test_the_aircraft_gets_lighter_by_it_and_goes_along_when_the_body_moves(carved):
    hollowed = with_hollow(carved)
    out = hollowed.parts[-1].estimate
    change = evaluate(hollowed).value("mass.listed") - evaluate(carved).value("mass.listed")
    assert change == pytest.approx(out, abs=1e-6)
    moved = apply(hollowed, [Change("bodies[0].x", hollowed.bodies[0].x + 0.03)])
    assert moved.parts[-1].x == pytest.approx(hollowed.parts[-1].x + 0.03)
    ((index, item),) = hollows_in(moved, moved.bodies[0])
    assert index == len(moved.parts) - 1 and mass_of_hollow(item) == out


def test_another_size_takes_as_much_more_out(carved):
    item = hollow_of(carved, carved.bodies[0])
    larger = resized(item, item.size.model_copy(update={"length": 1.5 * item.size.length}))
    assert larger.estimate == pytest.approx(1.5 * item.estimate, rel=1e-4)


def test_what_weighs_something_is_no_hollow(carved):
    assert list(hollows_in(carved, carved.bodies[0])) == []
    assert mass_of_hollow(carved.parts[0]) == 0.0


def test_sections_round_of_themselves_measure_as_a_round_body(whimbrel):
    body = whimbrel.bodies[0]
    each = body.model_copy(
        update={"stations": tuple(s.model_copy(update={"rounding": 1.0}) for s in body.stations), "rounding": 0.0}
    )
    whole = body.model_copy(update={"rounding": 1.0})
    assert measure_body(each).volume == pytest.approx(measure_body(whole).volume)
    assert measure_body(each).wetted == pytest.approx(measure_body(whole).wetted)


def test_the_frontal_area_is_that_of_the_section_as_it_is(whimbrel):
    body = whimbrel.bodies[0]
    k = max(range(len(body.stations)), key=lambda k: body.stations[k].width * body.stations[k].height)
    rounded = apply(whimbrel, [Change(f"bodies[0].stations[{n}].rounding", 1.0) for n in range(len(body.stations))])
    face = body.stations[k].width * body.stations[k].height
    assert measure_body(body).frontal == pytest.approx(face)
    assert measure_body(rounded.bodies[0]).frontal == pytest.approx(math.pi / 4 * face)
    # A round end has less of a flat face in the wind.
    faces = [
        sum(h.area for h in evaluate(d).results.drag_list if h.path.startswith("bodies[0]"))
        for d in (whimbrel, rounded)
    ]
    assert faces[1] == pytest.approx(math.pi / 4 * faces[0], rel=0.2) and faces[1] < faces[0]


def test_a_first_hollow_leaves_walls_of_three_tenths_over_four_fifths_of_the_broad_part(carved):
    """Along a straight body of one section the broad part is the whole of it."""
    body = carved.bodies[0]
    ends = [body.stations[k].model_copy(update={"width": 0.1, "height": 0.12, "z": 0.0}) for k in (0, -1)]
    straight = body.model_copy(update={"stations": tuple(ends)})
    size = hollow_of(carved, straight).size
    assert (size.width, size.height) == (pytest.approx(0.07, abs=1e-4), pytest.approx(0.084, abs=1e-4))
    assert size.length == pytest.approx(0.8 * (ends[1].x - ends[0].x), abs=2e-4)
    # Foam of a body that does not say which: that of bought airframes.
    bought = straight.model_copy(update={"built": None})
    item = hollow_of(carved, bought)
    assert item.estimate == pytest.approx(-28 * size.length * 0.07 * 0.084, abs=1e-4)
