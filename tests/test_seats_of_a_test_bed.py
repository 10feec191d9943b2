"""A test bed: wings on a bolt grid or a rail, tails set in steps; the levers go where there is a hole."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.airframe import Seat
from ridgeline.design.paths import Change, apply, put
from ridgeline.engine.advice.levers import levers
from ridgeline.engine.advice.seat_levers import angle_ways, nearest_angle, nearest_place
from ridgeline.engine.geometry.scaling import scaled
from ridgeline.engine.pipeline import evaluate
from ridgeline.errors import DesignError
from ridgeline.units import SYSTEMS


@given(st.floats(-0.3, 0.6), st.floats(0.01, 0.2), st.floats(0.002, 0.05), st.floats(-1, 1))
def test_the_nearest_hole_is_a_hole_and_none_is_nearer(front, length, step, x):
    seat = Seat(front=front, back=front + length, step=step)
    place = nearest_place(seat, x)
    holes = [front + k * step for k in range(int(length / step + 1e-6) + 1)]
    assert place.holes == len(holes) and place.x == pytest.approx(holes[place.number - 1], abs=1e-5)
    held = min(max(x, front), front + length)
    assert abs(place.x - held) <= min(abs(h - held) for h in holes) + 2e-6


def test_a_rail_takes_any_place_between_its_ends():
    seat = Seat(front=0.1, back=0.2)
    assert nearest_place(seat, 0.1234) == (0.1234, 1, 1)
    assert nearest_place(seat, 0.5).x == 0.2 and nearest_place(seat, -1).x == 0.1


def test_settings_go_in_their_steps():
    seat = Seat(front=0, back=0, low=math.radians(-2), high=math.radians(3), angle_step=math.radians(0.5))
    assert math.degrees(nearest_angle(seat, math.radians(1.3))) == pytest.approx(1.5)
    assert math.degrees(nearest_angle(seat, 1.0)) == pytest.approx(3.0)
    free = seat.model_copy(update={"angle_step": 0.0})
    assert math.degrees(nearest_angle(free, math.radians(1.3))) == pytest.approx(1.3)


def test_a_seat_from_back_to_front_is_refused(whimbrel):
    with pytest.raises(DesignError, match="rearmost"):
        put(whimbrel, "surfaces[0].seat", {"front": 0.3, "back": 0.2})


def test_incidence_goes_to_45_degrees_either_way(whimbrel):
    for angle in (45, -45):
        assert evaluate(put(whimbrel, "surfaces[1].incidence", math.radians(angle))).figures
    with pytest.raises(DesignError):
        put(whimbrel, "surfaces[1].incidence", math.radians(46))


@pytest.fixture
def bed(whimbrel):
    """The demo with its wing on a grid of 10 mm and its tail set by whole degrees."""
    wing, tail = whimbrel.surfaces[0], whimbrel.surfaces[1]
    grid = Seat(front=wing.x - 0.05, back=wing.x + 0.05, step=0.01)
    turned = Seat(front=tail.x, back=tail.x, low=math.radians(-6), high=math.radians(6), angle_step=math.radians(1))
    return apply(whimbrel, [Change("surfaces[0].seat", grid), Change("surfaces[1].seat", turned)])


def test_the_wing_goes_to_the_hole_nearest_to_the_balance_wanted(bed):
    report = evaluate(bed)
    aim = report.results.targets.first_aim
    (lever,) = [one for one in levers(bed, report, aim) if one.key.startswith("seat")]
    after = apply(bed, lever.changes)
    seat = bed.surfaces[0].seat
    assert (after.surfaces[0].x - seat.front) / seat.step == pytest.approx(
        round((after.surfaces[0].x - seat.front) / seat.step)
    )
    assert lever.reached == pytest.approx(evaluate(after).value("balance.cg_fraction"), abs=1e-9)
    assert "hole" in lever.text.render(SYSTEMS["metric"]) and "of 11" in lever.text.render(SYSTEMS["metric"])
    assert "move_wing" not in {one.key for one in levers(bed, report, aim)}
    # What hangs on the wing went along.
    assert all(
        b.x - a.x == pytest.approx(after.surfaces[0].x - bed.surfaces[0].x, abs=1e-9)
        for a, b in zip(bed.parts, after.parts, strict=True)
        if a.on is not None and a.on.to == bed.surfaces[0].id
    )


def test_on_a_rail_it_goes_exactly_where_it_should(bed):
    railed = put(bed, "surfaces[0].seat.step", 0.0)
    report = evaluate(railed)
    aim = report.results.targets.first_aim
    (lever,) = [one for one in levers(railed, report, aim) if one.key.startswith("seat")]
    after = evaluate(apply(railed, lever.changes))
    wanted = report.results.targets.neutral - aim
    assert after.value("stability.static_margin") == pytest.approx(wanted, abs=5e-3)


def test_the_tail_is_offered_the_setting_that_holds_cruise_with_least_elevator(bed):
    spoilt = put(bed, "surfaces[1].incidence", math.radians(-4.0))
    report = evaluate(spoilt)
    (way,) = [w for w in angle_ways(spoilt, report) if w.changes[0].path.startswith("surfaces[1]")]
    steps = math.degrees(way.changes[0].value)
    assert steps == pytest.approx(round(steps), abs=1e-9)
    after = abs(evaluate(apply(spoilt, way.changes)).value("trim.elevator"))
    for other in (-1, 1):
        neighbour = put(spoilt, "surfaces[1].incidence", way.changes[0].value + math.radians(other))
        assert after <= abs(evaluate(neighbour).value("trim.elevator"))
    found = next(f for f in report.findings if f.key == "trim.cruise")
    assert "seat_angle" in {r.key for r in found.remedies} and "tail_incidence" not in {r.key for r in found.remedies}


def test_a_seat_grows_with_the_airframe(bed):
    seat = scaled(bed, 2.0).surfaces[0].seat
    assert (seat.front, seat.step) == (pytest.approx(2 * bed.surfaces[0].seat.front), pytest.approx(0.02))
    assert scaled(put(bed, "surfaces[1].seat", None), 2.0).surfaces[1].seat is None
