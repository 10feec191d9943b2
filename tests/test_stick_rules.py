"""Findings on the sticks: each cure applied gives what its words say."""

import math

import pytest

from ridgeline.design.airframe import ControlSurface
from ridgeline.design.paths import Change, apply, put
from ridgeline.design.radio import Amount, Channel, Radio, Rate
from ridgeline.engine.advice.rate_rules import set_rates
from ridgeline.engine.advice.stick_rules import LEAST_LEFT, LEFT_OF_ROLL, TOLD, mixed_in, roll_left
from ridgeline.engine.phrase import Measured
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.linkages import usual_linkages
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names

DEGREE = math.radians(1)
TURNSTONE, HERON, AVOCET = load("demo:turnstone"), load("demo:heron"), load("demo:avocet")


def told(design, key):
    return next((f for f in evaluate(design).findings if f.key.startswith(key)), None)


def numbers(text):
    return [value.value for value in text.values if isinstance(value, Measured)]


def ailerons(design):
    return next((k, j) for k, s in enumerate(design.surfaces) for j, c in enumerate(s.controls) if c.kind == "aileron")


def test_the_nose_against_the_turn_is_told_and_each_cure_leaves_what_it_says():
    for design in (TURNSTONE, HERON):
        before = evaluate(design)
        found = told(design, "sticks.against")
        assert found.level == "settled" and before.value("control.adverse_yaw") > TOLD
        ways = {way.key: way for way in found.remedies}
        assert set(ways) == {"differential", "rudder_mix"}
        for way in ways.values():
            after = evaluate(apply(design, way.changes))
            left = after.value("control.adverse_yaw")
            assert left < before.value("control.adverse_yaw")
            assert max(left, 0.0) == pytest.approx(numbers(way.text)[-1], abs=0.1 * DEGREE)
        apart = evaluate(apply(design, ways["differential"].changes))
        assert apart.value("control.roll_rate") == pytest.approx(before.value("control.roll_rate"), rel=0.03)
        up, down = numbers(ways["differential"].text)[:2]
        assert up == pytest.approx(2 * down, rel=1e-3)


def test_ailerons_that_hardly_roll_near_the_stall_are_a_look():
    assert told(TURNSTONE, "sticks.against").level == "settled"
    # Rudder mixed in the wrong way round, so that it swings the nose out of the turn.
    wrong = apply(TURNSTONE, list(mixed_in(TURNSTONE.radio, "roll", "yaw", -1.0)))
    sticks = evaluate(wrong).results.sticking
    slow = sticks.of("roll", slow=True).turned
    assert (slow.held < LEFT_OF_ROLL * slow.first) == (told(wrong, "sticks.against").level == "look")
    assert told(wrong, "sticks.against").level == "look"


def test_differential_the_wrong_way_round_is_a_look_and_is_turned_over():
    k, j = ailerons(TURNSTONE)
    base = f"surfaces[{k}].controls[{j}]"
    wrong = apply(TURNSTONE, [Change(f"{base}.up", 10 * DEGREE), Change(f"{base}.down", 12 * DEGREE)])
    found = told(wrong, "sticks.differential")
    assert found.level == "look"
    right = apply(wrong, found.remedies[0].changes)
    control = right.surfaces[k].controls[j]
    assert (control.up, control.down) == (12 * DEGREE, 10 * DEGREE) and told(right, "sticks.differential") is None
    nearly = apply(TURNSTONE, [Change(f"{base}.up", 11 * DEGREE), Change(f"{base}.down", 12 * DEGREE)])
    assert told(nearly, "sticks.differential") is None


def with_flaperons(flap=35.0):
    k, j = ailerons(TURNSTONE)
    old = TURNSTONE.surfaces[k].controls[j]
    new = ControlSurface(kind="flaperon", start=old.start, end=old.end, chord_fraction=old.chord_fraction,
                         up=20 * DEGREE, down=flap * DEGREE)  # fmt: skip
    return apply(TURNSTONE, [Change("linkages", ()), Change("radio", None), Change(f"surfaces[{k}].controls", (new,))])


def test_flaperons_that_hang_too_far_down_are_told_and_let_up():
    deep = with_flaperons(75.0)
    report = evaluate(deep)
    assert report.value("flap.roll_left") < LEAST_LEFT
    found = told(deep, "sticks.flaperon")
    assert found.level == "look"
    after = evaluate(apply(deep, found.remedies[0].changes))
    assert after.value("flap.roll_left") > LEAST_LEFT and told(apply(deep, found.remedies[0].changes),
                                                               "sticks.flaperon") is None  # fmt: skip
    assert told(with_flaperons(20.0), "sticks.flaperon") is None


def test_what_flaperons_keep():
    assert roll_left(0.0, 15 * DEGREE) == pytest.approx(1.0)
    assert roll_left(30 * DEGREE, 15 * DEGREE) < roll_left(20 * DEGREE, 15 * DEGREE) < 1.0


def flapped():
    """The Turnstone with flaps inboard of its ailerons, linked as usual."""
    k, _j = ailerons(TURNSTONE)
    surface = TURNSTONE.surfaces[k]
    flap = ControlSurface(id="c90", kind="flap", start=0.05, end=surface.controls[0].start - 0.005,
                          chord_fraction=0.25, down=50 * DEGREE)  # fmt: skip
    made = put(TURNSTONE, f"surfaces[{k}].controls", (*surface.controls, flap))
    channel = Channel(id="h90", name="flaps", moves=(), mix=(Amount(stick="flap"),))
    return put(made, "radio.channels", (*made.radio.channels, channel))


def test_flaps_that_ask_for_elevator_are_mixed_in_by_as_much_as_they_ask():
    design = flapped()
    asked = evaluate(design).value("flap.elevator")
    found = told(design, "sticks.mix_flap")
    assert (found is not None) == (abs(asked) >= 1.5 * DEGREE)
    if found is None:
        pytest.fail("these flaps should ask for elevator")
    mixed = apply(design, found.remedies[0].changes)
    assert told(mixed, "sticks.mix_flap") is None
    row = next(row for row in evaluate(mixed).results.moving.rows if row.control.kind == "elevator")
    stands = row.sides[0].angle(row.linkage, mixed.radio, {"flap": 1.0})
    assert stands == pytest.approx(asked, rel=0.1, abs=0.3 * DEGREE)


def test_a_mix_goes_where_its_stick_goes_and_once():
    radio = Radio(channels=(
        Channel(id="h1", name="rudder", mix=(Amount(stick="yaw", amount=-1.0),)),
        Channel(id="h2", name="aileron", mix=(Amount(stick="roll"),)),
    ))  # fmt: skip
    (one,) = mixed_in(radio, "roll", "yaw", 0.4)
    assert one.path == "radio.channels[0].mix"
    assert one.value == (Amount(stick="yaw", amount=-1.0), Amount(stick="roll", amount=-0.4))
    elevons = Radio(channels=(Channel(id="h1", mix=(Amount(stick="pitch"), Amount(stick="roll"))),))
    assert not list(mixed_in(elevons, "roll", "pitch", 0.4))


def test_a_field_too_small_for_its_turns_is_told():
    tight = put(HERON, "brief.field", 40.0)
    found = told(tight, "sticks.room")
    assert found.level == "look"
    assert told(apply(tight, found.remedies[0].changes), "sticks.room") is None
    assert told(TURNSTONE, "sticks.room") is None
    # Where the rate is what holds it back, all of it is offered.
    k = next(k for k, r in enumerate(TURNSTONE.radio.rates) if r.stick == "pitch")
    report = evaluate(TURNSTONE)
    slow = apply(TURNSTONE, [Change(f"radio.rates[{k}].high", 0.1), Change(f"radio.rates[{k}].low", 0.1),
                             Change("brief.field", 6.5 * report.value("control.turn_radius"))])  # fmt: skip
    found = told(slow, "sticks.room")
    assert found.remedies[0].key == "all_of_it"
    assert told(apply(slow, found.remedies[0].changes), "sticks.room") is None


@pytest.mark.parametrize("name", sorted(gallery_names()))
def test_samples_have_the_rates_that_suit_and_others_are_told(name):
    design = load(f"demo:{name}")
    assert set_rates(design, evaluate(design)) is None and told(design, "sticks.rates") is None
    odd = put(design, "radio.rates", tuple(Rate(stick=r.stick, high=0.35, low=0.3) for r in design.radio.rates))
    found = told(odd, "sticks.rates")
    assert found.level == "settled"
    assert apply(odd, found.remedies[0].changes).radio.rates == design.radio.rates


def test_linked_as_usual_throttle_and_flaps_start_unmixed():
    usual = usual_linkages(AVOCET)
    assert all(len({p.stick for p in c.mix}) == len(c.mix) for c in usual.radio.channels)


def test_the_elevator_for_flaps_is_solved_at_three_speeds():
    report = evaluate(flapped())
    rows = report.results.sticking.flapped
    speeds = [speed for speed, _angle in rows]
    assert speeds[0] == pytest.approx(1.3 * report.value("speed.stall"))
    assert speeds == sorted(speeds) and speeds[-1] == pytest.approx(report.value("speed.cruise"))
    # The flow is linear but for the height of the balance point: near the one value of the figure.
    for _speed, angle in rows:
        assert angle == pytest.approx(report.value("flap.elevator"), rel=0.2)
    assert evaluate(TURNSTONE).results.sticking.flapped == ()
