"""Which way propellers turn: torque, hand and nut follow each mount's rotation, seen from behind."""

import pytest

from ridgeline.design.paths import apply, put
from ridgeline.design.power import Mount
from ridgeline.engine.advice.turning_rules import nut_tightens
from ridgeline.engine.pipeline import evaluate


@pytest.fixture
def twin(whimbrel):
    """The demo with a motor on either wing."""
    mount = whimbrel.power.mounts[0]
    return put(whimbrel, "power.mounts", (mount.model_copy(update={"y": 0.2, "mirrored": True}),))


def torque(design):
    return evaluate(design).figures["launch.torque_aileron"]


def test_a_motor_that_turns_the_other_way_rolls_the_other_way(whimbrel):
    right = torque(whimbrel)
    left = torque(put(whimbrel, "power.mounts[0].clockwise", False))
    assert right.value > 0 and left.value == pytest.approx(-right.value) and left.sigma == pytest.approx(right.sigma)


def test_an_opposed_pair_gives_no_roll_and_one_turning_alike_gives_twice(twin):
    alike, opposed = torque(twin), torque(put(twin, "power.mounts[0].opposed", True))
    assert opposed.value == 0.0 and evaluate(twin).results.washing.torque > 0 < alike.value
    three = (*twin.power.mounts, Mount(x=0.05, clockwise=False))
    assert put(twin, "power.mounts", three).power.turning == 1


def test_mirrored_motors_turn_as_the_mount_says():
    assert Mount().turns == (1,) and Mount(clockwise=False).turns == (-1,)
    assert Mount(y=0.1, mirrored=True).turns == (1, 1)
    assert Mount(y=0.1, mirrored=True, opposed=True, clockwise=False).turns == (-1, 1)


def test_a_propeller_of_the_wrong_hand_is_a_stop_with_two_ways_out(whimbrel):
    wrong = put(whimbrel, "power.mounts[0].right_handed", False)
    found = next(f for f in evaluate(wrong).findings if f.key == "power.hand.0")
    assert found.level == "stop" and "left-handed propeller that turns clockwise" in str(found.text.template)
    for remedy in found.remedies:
        cured = apply(wrong, remedy.changes)
        assert cured.power.mounts[0].blows_back
        assert not any(f.key == "power.hand.0" for f in evaluate(cured).findings)


@pytest.mark.parametrize(
    ("clockwise", "pusher", "tight"),
    [(True, False, True), (True, True, False), (False, False, False), (False, True, True)],
)
def test_a_nut_is_drawn_tight_where_its_shaft_turns_against_the_clock_seen_from_it(whimbrel, clockwise, pusher, tight):
    mount = Mount(clockwise=clockwise, right_handed=clockwise, pusher=pusher)
    assert nut_tightens(mount) is tight
    told = any(f.key == "power.nut.0" for f in evaluate(put(whimbrel, "power.mounts", (mount,))).findings)
    assert told is not tight
