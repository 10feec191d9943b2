"""The shipped designs: each of another layout, each balanced, trimmed and flyable."""

import math

import pytest

from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import load
from ridgeline.library import demo_names

NAMES = demo_names()


def layout(design):
    roles = [s.role for s in design.surfaces]
    if "foreplane" in roles:
        return "canard"
    if roles.count("wing") > 1:
        return "biplane"
    if "v_tail" in roles:
        return "v_tail"
    return "tailless" if "stabiliser" not in roles else "tailed"


def test_there_are_four_demos_of_four_layouts():
    assert {layout(load(f"demo:{name}")) for name in NAMES} == {"v_tail", "tailless", "canard", "biplane"}


@pytest.mark.parametrize("name", NAMES)
def test_each_demo_has_no_reason_to_stop(name):
    assert [f.key for f in evaluate(load(f"demo:{name}")).findings if f.level == "stop"] == []


@pytest.mark.parametrize("name", NAMES)
def test_each_demo_is_balanced_at_its_first_throw_or_its_settled_window(name):
    report = evaluate(load(f"demo:{name}"))
    balanced = report.results.balance
    assert balanced.targets.first_throw[0] - 0.002 <= balanced.cg_fraction <= balanced.targets.settled[1] + 0.002
    assert report.value("stability.static_margin") > 0.05


@pytest.mark.parametrize("name", NAMES)
def test_each_demo_trims_within_a_few_degrees_and_stays_up(name):
    report = evaluate(load(f"demo:{name}"))
    assert abs(math.degrees(report.value("trim.alpha"))) < 6
    assert abs(math.degrees(report.value("trim.elevator"))) < 6
    assert report.value("flight.cruise_throttle") < 0.7
    assert report.value("flight.endurance") >= load(f"demo:{name}").brief.endurance


@pytest.mark.parametrize("name", NAMES)
def test_each_demo_turns_back_into_the_wind_and_damps_its_roll(name):
    found = evaluate(load(f"demo:{name}")).results.lattice.found
    assert found.beta.yaw > 0 and found.beta.side < 0
    assert found.roll_rate.roll < -0.2 and found.pitch_rate.pitch < 0


def test_the_canard_stalls_at_its_foreplane_and_has_no_rule_of_thumb():
    report = evaluate(load("demo:avocet"))
    assert report.results.speeds.section.role == "foreplane"
    assert report.results.balance.habit is None
    assert not any(f.key == "balance.schools" for f in report.findings)
    assert 0.10 <= report.value("stability.static_margin") <= 0.25


def test_a_foreplane_that_outlasts_the_wing_is_stopped_at():
    from ridgeline.design.paths import put

    # In trim a foreplane carries what the balance asks of it, whatever its incidence: only its size lets it off.
    big = load("demo:avocet")
    for station, chord in ((0, 0.26), (1, 0.216)):
        big = put(big, f"surfaces[1].stations[{station}].chord", chord)
    assert any(f.key == "speed.stall.wing_first" and f.level == "stop" for f in evaluate(big).findings)


def test_the_biplanes_wings_share_one_neutral_point_between_them():
    report = evaluate(load("demo:turnstone"))
    assert report.value("stability.neutral_point_hand") is None
    assert 0.25 < report.value("stability.neutral_point_fraction") < 0.45


def test_a_pointed_wing_is_told_to_twist_and_the_twist_cures_it(whimbrel):
    from ridgeline.design.paths import apply, put

    pointed = put(put(whimbrel, "surfaces[0].stations[2].chord", 0.07), "surfaces[0].stations[2].twist", 0.0)
    found = next(f for f in evaluate(pointed).findings if f.key == "speed.stall.tip")
    cured = apply(pointed, found.remedies[0].changes)
    assert evaluate(cured).results.speeds.section.where <= 0.62
    assert any(f.key == "speed.stall.place" for f in evaluate(cured).findings)


def test_a_foreplane_is_judged_by_the_neutral_point_and_not_by_its_volume():
    report = evaluate(load("demo:avocet"))
    assert not any(f.key.startswith("tail.volume_h") for f in report.findings)
    assert "tail.volume_h" not in report.wanted and report.value("tail.volume_h") is not None
