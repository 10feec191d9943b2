"""Motors more or fewer, on other sides and at the other end: what stands at each mount goes along."""

import pytest

from ridgeline.design.paths import Change, apply
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.mounting import (
    AT_MOUNTS,
    on_sides,
    one_in_the_middle,
    sides_of_mount,
    turned_round,
    two_more,
    with_mounts,
)
from ridgeline.errors import DesignError
from ridgeline.files.design_file import load


def put(design, mounts):
    return apply(design, with_mounts(design, mounts))


def aboard(design, component):
    return [item for item in design.parts if item.component == component]


def pieces(design):
    return {component: sum(item.count for item in aboard(design, component)) for component in AT_MOUNTS}


def test_a_pair_stands_where_the_single_one_did_not_and_carries_two_of_each(whimbrel):
    twin = put(whimbrel, two_more(whimbrel))
    assert twin.power.motors == 2 and set(pieces(twin).values()) == {2}
    (mount,) = twin.power.mounts
    span = 2 * twin.surfaces[0].stations[-1].y
    assert mount.y == pytest.approx(0.2 * span, abs=1e-4) and mount.mirrored
    for item in aboard(twin, "motor") + aboard(twin, "propeller"):
        assert item.on.to == mount.id and item.mirrored and item.y == pytest.approx(mount.y, abs=0.01)
    # One motor and ESC more, and one propeller: nothing else came or went.
    each = sum(
        item.weighed or evaluate(whimbrel).results.masses.items.estimate[whimbrel.parts.index(item)]
        for item in whimbrel.parts
        if item.component in AT_MOUNTS
    )
    more = evaluate(twin).value("mass.listed") - evaluate(whimbrel).value("mass.listed")
    assert more == pytest.approx(each, abs=1e-4)


def test_what_the_scale_said_of_one_motor_holds_for_both(whimbrel):
    (motor,) = aboard(whimbrel, "motor")
    (two,) = aboard(put(whimbrel, two_more(whimbrel)), "motor")
    assert motor.weighed is not None and two.weighed == motor.weighed


def test_one_more_in_the_middle_of_a_twin_has_parts_of_its_own(whimbrel):
    twin = put(whimbrel, two_more(whimbrel))
    three = put(twin, one_in_the_middle(twin))
    assert three.power.motors == 3 and set(pieces(three).values()) == {3}
    assert len({mount.id for mount in three.power.mounts}) == 2
    middle = three.power.mounts[-1]
    assert (middle.y, middle.mirrored) == (0.0, False)
    (own,) = [item for item in aboard(three, "motor") if item.on.to == middle.id]
    assert own.count == 1 and own.y == pytest.approx(0.0, abs=1e-9) and "mount 2" in own.name


def test_a_mount_taken_out_takes_its_parts_and_leaves_those_of_the_other(whimbrel):
    twin = put(whimbrel, two_more(whimbrel))
    three = put(twin, one_in_the_middle(twin))
    back = put(three, three.power.mounts[:1])
    assert pieces(back) == pieces(twin)
    assert {item.id for item in back.parts} == {item.id for item in twin.parts}


def test_a_fifth_motor_is_refused_with_what_is_allowed(whimbrel):
    twin = put(whimbrel, two_more(whimbrel))
    four = put(twin, two_more(twin))
    assert four.power.motors == 4
    with pytest.raises(DesignError, match="four"):
        with_mounts(four, one_in_the_middle(four))


@pytest.mark.parametrize("sides", ["pair", "middle", "one"])
def test_a_mount_stands_where_it_is_told(whimbrel, sides):
    made = put(whimbrel, on_sides(whimbrel, 0, sides))
    assert sides_of_mount(made.power.mounts[0]) == sides
    assert set(pieces(made).values()) == {2 if sides == "pair" else 1}


def test_a_tractor_on_the_nose_goes_to_the_tail_end_as_a_pusher_and_back():
    design = load("demo:whimbrel")
    body = design.bodies[0]
    nose = on_nose(design, body)
    behind = put(nose, turned_round(nose, 0))
    mount, end = behind.power.mounts[0], body.sections[-1]
    assert mount.pusher and (mount.x, mount.z) == (pytest.approx(end.x, abs=1e-4), pytest.approx(end.z, abs=1e-4))
    (motor,), (propeller,), (esc,) = (aboard(behind, c) for c in ("motor", "propeller", "esc"))
    assert propeller.x > motor.x > end.x and esc.x < end.x
    again = put(behind, turned_round(behind, 0))
    assert again.power.mounts[0] == nose.power.mounts[0]


def on_nose(design, body):
    first = body.sections[0]
    mount = design.power.mounts[0].model_copy(update={"x": round(first.x, 4), "z": round(first.z, 4)})
    return put(design, (mount,))


def test_a_pusher_away_from_every_body_end_stays_where_it_is(whimbrel):
    aside = put(whimbrel, two_more(whimbrel))
    turned = put(aside, turned_round(aside, 0))
    assert turned.power.mounts[0].pusher and turned.power.mounts[0].x == aside.power.mounts[0].x


def test_a_mount_that_is_not_touched_leaves_its_parts_as_they_are(whimbrel):
    moved = apply(
        whimbrel, [Change(f"parts[{k}].x", p.x + 0.01) for k, p in enumerate(whimbrel.parts) if p.component == "esc"]
    )
    three = put(
        moved, (*moved.power.mounts, moved.power.mounts[0].model_copy(update={"id": "", "y": 0.2, "mirrored": True}))
    )
    for component in AT_MOUNTS:
        assert aboard(three, component)[0] == aboard(moved, component)[0]


def test_a_second_pair_stands_farther_out_by_a_share_of_the_span(whimbrel):
    twin = put(whimbrel, two_more(whimbrel))
    inner, outer = put(twin, two_more(twin)).power.mounts
    assert outer.y - inner.y == pytest.approx(0.15 * 2 * twin.surfaces[0].stations[-1].y, abs=1e-4)
