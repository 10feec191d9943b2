"""How a first layout is chosen among drafts: what gives way, what is tried again, and what it is judged by."""

from dataclasses import replace

import pytest

from ridgeline.design.brief import Brief
from ridgeline.design.parts import Item
from ridgeline.design.paths import Change, apply
from ridgeline.engine.advice.weight_rules import RULE_THRESHOLD
from ridgeline.engine.pipeline import Evaluator, evaluate
from ridgeline.engine.power.limits import CRUISE_THROTTLE
from ridgeline.engine.sizing.building import plans
from ridgeline.engine.sizing.choices import given_way_of
from ridgeline.engine.sizing.constraints import constraint_chart, loading_limit
from ridgeline.engine.sizing.drafts import _twists, assembled, balance_of, drafted, middling, nose_limits, way_of
from ridgeline.engine.sizing.layout import _wanting, lay_out
from ridgeline.engine.sizing.matching import FANS, FIRST_FAMILIES, _of_a_kind, first_power_train
from ridgeline.engine.sizing.wishes import brief_of
from ridgeline.library import shipped_shelf

SHELF = shipped_shelf()


def laid(**wishes):
    return lay_out(brief_of({"span_limit": 2.0, **wishes}), SHELF)


@pytest.fixture(scope="module")
def heavy_printed():
    """A kind of aircraft that cannot be built as lightly loaded as it usually starts."""
    return laid(purpose="sport", ceiling=0.25, build_method="printed_plain")


def test_a_start_that_nobody_typed_gives_way_to_what_is_drawn(heavy_printed):
    report = evaluate(heavy_printed)
    start = brief_of({"span_limit": 2.0, "purpose": "sport", "ceiling": 0.25, "build_method": "printed_plain"})
    drawn = report.value("wing.loading")
    assert drawn > 1.15 * start.wing_loading
    assert heavy_printed.brief.wing_loading == pytest.approx(drawn, abs=1e-3)
    assert "wing_loading" not in heavy_printed.brief.typed
    line = next(choice for choice in heavy_printed.choices if choice.part == "Loading")
    assert f"{100 * (drawn / start.wing_loading - 1):.0f} %" in line.what
    assert all(f.key != "wish.loading" for f in report.findings)


def test_what_was_typed_stays_and_a_finding_says_when_it_gives_way():
    design = laid(purpose="sport", ceiling=0.8, build_method="printed_plain", wing_loading=3.0)
    assert design.brief.wing_loading == 3.0 and all(choice.part != "Loading" for choice in design.choices)
    ballast = Item(name="Ballast", group="ballast", estimate=0.25, x=design.surfaces[0].x)
    loaded = evaluate(apply(design, [Change("parts[-]", ballast)]))
    assert loaded.value("wing.loading") > 1.15 * 3.0
    assert any(f.key == "wish.loading" and f.level == "look" for f in loaded.findings)
    assert "wing_loading" not in given_way_of(loaded, design.brief)


def test_a_start_kept_within_a_share_or_bettered_does_not_give_way(whimbrel):
    report = evaluate(whimbrel)
    drawn, thrust = report.value("wing.loading"), report.value("power.thrust_ratio")
    told = {"typed": (), "wing_loading": drawn / 1.14, "thrust_ratio": thrust / 0.86}
    assert given_way_of(report, whimbrel.brief.model_copy(update=told)) == {}
    bettered = {"typed": (), "wing_loading": 2 * drawn, "thrust_ratio": 0.5 * thrust}
    assert given_way_of(report, whimbrel.brief.model_copy(update=bettered)) == {}
    worse = {"typed": (), "wing_loading": drawn / 1.16, "thrust_ratio": thrust / 0.84}
    found = given_way_of(report, whimbrel.brief.model_copy(update=worse))
    assert found == {"wing_loading": pytest.approx(drawn, abs=6e-4), "thrust_ratio": pytest.approx(thrust, abs=6e-4)}


def test_a_bank_of_a_large_slow_one_does_not_steepen_quickly():
    design = laid(purpose="slow", ceiling=3.0, span_limit=6.0)
    report = evaluate(design)
    spiral = next(f for f in report.findings if f.key == "modes.spiral")
    assert spiral.level == "settled"


def test_none_is_drawn_beside_the_threshold_where_a_lighter_way_is_sure():
    design = laid(purpose="trainer", ceiling=0.36, wing_loading=3.5)
    mass = evaluate(design).value("mass.auw")
    assert mass < 0.92 * RULE_THRESHOLD
    assert any(choice.part == "Lightened" for choice in design.choices)


@pytest.mark.parametrize(
    ("expected", "ceiling", "wants"),
    [
        (0.224, 0.4, False),
        (0.230, 0.4, True),
        (0.270, 0.4, True),
        (0.285, 0.4, False),
        (0.240, 0.25, False),
    ],
)
def test_what_only_the_scale_can_tell_is_something_to_be_wished_for(expected, ceiling, wants):
    brief = brief_of({"ceiling": ceiling, "span_limit": 2.0})
    way = replace(way_of(brief, plans(brief)[0]), expected=expected)
    assert (_wanting(way) > 0) is wants
    assert _wanting(replace(way, lacks=0.2)) == pytest.approx(0.2 + _wanting(way))


def test_a_steeper_propeller_is_chosen_where_more_pitch_speed_is_asked_for():
    brief = brief_of({"purpose": "sport", "ceiling": 0.8, "span_limit": 2.0})
    usual, steep = (
        first_power_train(brief, SHELF, 0.7, 1.225, 1.1, pitch_over_cruise=ratio).propeller for ratio in (1.0, 3.2)
    )
    assert steep.pitch > usual.pitch


def test_a_motor_of_few_poles_is_a_first_choice_for_a_fan_only():
    """It makes speed rather than torque; where the shelf has no other, it is still taken."""
    brief = brief_of({"purpose": "scale", "ceiling": 0.25, "span_limit": 2.0})
    motor = first_power_train(brief, SHELF, 0.25, 1.225, 1.1).motor
    few, enough = (motor.model_copy(update={"poles": poles}) for poles in (7, 8))
    brushed = few.model_copy(update={"kind": "brushed"})
    assert _of_a_kind((few, enough, brushed), FIRST_FAMILIES) == (enough, brushed)
    assert _of_a_kind((few, enough), FANS) == (few, enough)
    assert _of_a_kind((few,), FIRST_FAMILIES) == (few,)
    for poles in (10, 4):
        like = motor.model_copy(update={"name": "tempting", "poles": poles})
        chosen = first_power_train(brief, SHELF._replace(motors=(like, *SHELF.motors)), 0.25, 1.225, 1.1).motor
        assert (chosen == like) is (poles == 10)


def test_a_draft_that_cruises_hard_is_given_more_pitch_or_thrust():
    """What kept level flight above its throttle by the first choice flies easier by the last."""
    brief = brief_of({"purpose": "scale", "ceiling": 0.25, "build_method": "extruded_foam", "span_limit": 2.0})
    way = drafted(way_of(brief, plans(brief)[0]), SHELF, brief.ceiling)
    first = first_power_train(brief, SHELF, way.size.mass, 1.225, way.size.span)
    draft = assembled(way, SHELF, middling(way), "")
    trial = Evaluator()
    as_drafted = trial.value(draft, "flight.cruise_throttle")
    mounted = first.model_copy(update={"mounts": draft.power.mounts})
    as_first = trial.value(apply(draft, [Change("power", mounted)]), "flight.cruise_throttle")
    # Its power train lacks nothing: what counts against it is what its wing twists.
    assert way.lacks == pytest.approx(_twists(draft, trial)) and as_drafted <= CRUISE_THROTTLE < as_first


def test_the_expected_weight_lies_between_those_of_the_shortest_and_longest_nose():
    brief = brief_of({"purpose": "trainer", "ceiling": 0.8, "span_limit": 2.0})
    way = drafted(way_of(brief, plans(brief)[0]), SHELF, brief.ceiling)
    trial = Evaluator()
    short, long = nose_limits(brief, way.size, way.train)
    assert short < middling(way) < long
    masses = [trial.value(assembled(way, SHELF, nose, ""), "mass.auw") for nose in (short, long)]
    assert masses[0] <= way.expected <= masses[1]
    balances = [balance_of(assembled(way, SHELF, nose, ""), trial) for nose in (short, long)]
    assert balances[0] > balances[1]


@pytest.mark.parametrize("wishes", [{}, {"launch": "wheels"}, {"ceiling": 1.9}, {"stall_speed": 5.0}])
def test_the_limit_of_the_loading_is_its_charts(wishes):
    brief = brief_of({"span_limit": 2.0, **wishes})
    assert loading_limit(brief) == constraint_chart(brief).loading_high


def test_a_drawn_aircraft_is_thrown_at_what_it_weighs():
    brief = Brief(ceiling=1.5, launch="hand")
    light, heavy = (constraint_chart(brief, cl_max=1.1, mass=mass) for mass in (0.6, None))
    limits = [next(line.loading for line in chart.lines if line.key == "hand") for chart in (light, heavy)]
    assert limits[0] > limits[1]
    spans = [next(line.loading for line in chart.lines if line.key == "span") for chart in (light, heavy)]
    assert spans[0] == pytest.approx(0.4 * spans[1])


@pytest.mark.parametrize(("short", "level"), [(0, "settled"), (25, "settled"), (40, "look")])
def test_half_a_minute_on_the_clock_is_not_short(whimbrel, short, level):
    lasts = evaluate(whimbrel).value("flight.endurance")
    wished = apply(whimbrel, [Change("brief.endurance", lasts + short)])
    finding = next(f for f in evaluate(wished).findings if f.key == "flight.endurance")
    assert finding.level == level
