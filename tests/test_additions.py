"""Parts added by hand: sized and placed by the wing and tail there are."""

import pytest

from ridgeline.design.airframe import Station, Surface
from ridgeline.design.document import Design
from ridgeline.design.paths import Change, apply
from ridgeline.engine.sizing.additions import called, first_train, fresh_body, fresh_hook, fresh_skid, fresh_wheels
from ridgeline.library import shipped_shelf

WING = Surface(
    name="Wing", role="wing", x=0.3, z=0.05, stations=(Station(y=0.0, chord=0.2), Station(y=0.7, chord=0.16))
)
PLAIN = Design(surfaces=(WING,))


def outline(body):
    return [(s.x, s.width, s.height) for s in body.sections]


def test_a_pod_is_one_and_a_half_chords_long_under_the_wing():
    pod = fresh_body(PLAIN, "pod")
    nose, full, end = outline(pod)
    assert (nose[0], end[0]) == (pytest.approx(0.3 - 0.7 * 0.2), pytest.approx(0.3 + 0.8 * 0.2))
    assert full == pytest.approx((0.16 + 0.35 * 0.3, 0.064, 0.08))
    assert nose[1:] == pytest.approx((0.048, 0.06)) and end[1:] == pytest.approx((0.032, 0.04))
    assert pod.z == pytest.approx(0.05 - 0.04)


def test_a_fuselage_without_a_tail_ends_where_one_would_be():
    nose, shoulder, full, end = outline(fresh_body(PLAIN, "fuselage"))
    assert nose == pytest.approx((0.12, 0.048, 0.06))
    assert shoulder == pytest.approx((0.12 + 0.35 * 0.18, 0.064, 0.08))
    assert full == pytest.approx((0.3 + 0.8 * 0.2, 0.064, 0.08))
    assert end == pytest.approx((0.3 + 3.6 * 0.2, 0.0192, 0.024))


def test_a_boom_runs_from_the_wing_to_the_tail(whimbrel):
    tail = whimbrel.surfaces[1]
    front, end = outline(fresh_body(whimbrel, "boom"))
    assert front[0] == pytest.approx(whimbrel.surfaces[0].x + whimbrel.surfaces[0].stations[0].chord, abs=1e-4)
    assert end == pytest.approx((tail.x + tail.stations[0].chord, 0.012, 0.012), abs=1e-4)


def test_main_wheels_go_by_the_span_and_a_tail_wheel_by_them():
    main, legs = fresh_wheels(PLAIN, 1.0)
    assert (main.diameter, main.y) == (pytest.approx(0.05 * 1.4), pytest.approx(0.09 * 1.4))
    assert main.z - main.diameter / 2 == pytest.approx(0.05 - 0.04)
    tail, fork = fresh_wheels(PLAIN, 1.0, tail=True)
    assert (tail.diameter, tail.x) == (pytest.approx(0.4 * 0.07), pytest.approx(0.3 + 3 * 0.2))
    assert legs.estimate == pytest.approx(0.045) and fork.estimate == pytest.approx(0.045 * 0.16)
    # Without any weight yet it goes by the ceiling.
    assert fresh_wheels(PLAIN, None)[1].estimate == pytest.approx(0.045 * 0.92 * PLAIN.brief.ceiling, abs=1e-4)


def test_a_first_train_is_chosen_by_what_flies_without_it(whimbrel):
    glider = apply(whimbrel, [Change("power", None), Change("brief.thrust_ratio", 0.0), Change("brief.ceiling", 1.5)])
    light, heavy = (first_train(glider, shipped_shelf(), mass)[0] for mass in (0.4, 0.95))
    assert heavy.motor.mass > light.motor.mass and len(light.mounts) == 1
    nose = min(body.sections[0].x for body in whimbrel.bodies)
    assert heavy.mounts[0].x == pytest.approx(nose, abs=1e-4)


def test_names_are_counted_on_from_what_is_taken():
    assert [called("Pod", taken) for taken in ((), ("Pod",), ("Pod", "Pod 2"))] == ["Pod", "Pod 2", "Pod 3"]


@pytest.mark.parametrize(
    ("flies", "aimed"), [(0.6, 1.33 * 0.6), (0.1, 0.3 * 1.5), (1.4, 0.92 * 1.5), (None, 0.3 * 1.5)]
)
def test_a_first_train_is_chosen_for_a_third_more_within_the_ceiling(monkeypatch, whimbrel, flies, aimed):
    asked = {}

    def choose(brief, _shelf, mass, _air, span):
        asked.update(thrust=brief.thrust_ratio, mass=mass, span=span)

    monkeypatch.setattr("ridgeline.engine.sizing.additions.first_power_train", choose)
    changes = [Change("power", None), Change("brief.ceiling", 1.5)]
    assert first_train(apply(whimbrel, changes), shipped_shelf(), flies) is None
    assert asked["mass"] == pytest.approx(aimed) and asked["span"] == pytest.approx(1.28)
    assert asked["thrust"] == whimbrel.brief.thrust_ratio
    first_train(apply(whimbrel, [*changes, Change("brief.thrust_ratio", 0.0)]), shipped_shelf(), flies)
    assert asked["thrust"] == 0.5


def test_skid_and_hook_lie_under_the_belly_where_they_work():
    """A skid below the wing; a hook at a fifth of the chord, ahead of where gliders balance."""
    skid, hook = fresh_skid(PLAIN), fresh_hook(PLAIN)
    assert skid.x == pytest.approx(0.3 + 0.3 * 0.2) and hook.x == pytest.approx(0.3 + 0.2 * 0.2)
    assert skid.z < hook.z < 0.05 and skid.estimate == hook.estimate == 0.003
