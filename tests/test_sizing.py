import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.axes import mean_disc
from ridgeline.design.brief import Brief
from ridgeline.engine.aero.atmosphere import GRAVITY, density
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power.chain import chain
from ridgeline.engine.power.operating_point import solve
from ridgeline.engine.power.pack import continuous_current
from ridgeline.engine.sizing.constraints import (
    constraint_chart,
    loading_for_stall,
    start_brief,
    throw_speed,
)
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.sizing.matching import first_power_train
from ridgeline.engine.sizing.outline import outcome, sketch
from ridgeline.engine.sizing.purposes import PURPOSES, loading_range
from ridgeline.library import shipped_shelf

SHELF = shipped_shelf()


@pytest.mark.parametrize(("mass", "speed"), [(0.3, 8.7), (1.0, 7.2), (2.0, 6.0)])
def test_a_throw_is_as_fast_as_the_trade_says(mass, speed):
    assert throw_speed(mass) == pytest.approx(speed, abs=0.05)


def test_the_loading_for_a_stall_speed_stalls_there():
    loading = loading_for_stall(8.5, 1.225, 0.95)
    assert math.sqrt(2 * loading * GRAVITY / (1.225 * 0.95)) == pytest.approx(8.5)


@pytest.mark.parametrize(("mass", "grams_per_dm2"), [(0.08, 14), (1.0, 33), (15.0, 81)])
def test_equal_cubic_loading_scales_the_wanted_loading(mass, grams_per_dm2):
    # A cubic loading of 6 means 14, 33 and 81 g/dm² at 0.08, 1 and 15 kg.
    assert 10 * 6 ** (2 / 3) * mass ** (1 / 3) == pytest.approx(grams_per_dm2, rel=0.03)
    low, _high = loading_range("trainer", mass)
    inside = min(max(mass, 0.5), 1.5)
    assert low == pytest.approx(PURPOSES["trainer"].loading[0] * (mass / inside) ** (1 / 3))


def line(chart, key):
    return next(item for item in chart.lines if item.key == key)


def test_constraint_lines_match_flight_mechanics_worked_by_hand():
    brief = Brief(climb_rate=3.0, aspect_ratio=6.0, launch="wheels", ground_roll=12.0, head_wind=0.0)
    chart = constraint_chart(brief, cl_max=0.95)
    k = 40
    weight = chart.loading[k] * GRAVITY
    d = density(0, 15)
    stall = math.sqrt(2 * weight / (d * 0.95))
    q = 0.5 * d * (1.3 * stall) ** 2
    level = q * 0.045 / weight + weight / (math.pi * 6.0 * 0.8 * q)
    assert line(chart, "climb").thrust_ratio[k] == pytest.approx((3.0 / (1.3 * stall) + level) / 0.75)
    assert line(chart, "roll").thrust_ratio[k] == pytest.approx((1.1 * stall) ** 2 / (2 * GRAVITY * 12.0) + 0.10)
    assert line(chart, "span").loading == pytest.approx(brief.ceiling * 5.0 / brief.span_limit**2)


@given(st.floats(0.2, 5), st.floats(6, 14), st.floats(1, 8), st.sampled_from(sorted(PURPOSES)))
def test_stricter_wishes_never_widen_the_feasible_ground(ceiling, stall, climb, purpose):
    easy = constraint_chart(Brief(purpose=purpose, ceiling=ceiling, stall_speed=stall, climb_rate=climb))
    hard = constraint_chart(Brief(purpose=purpose, ceiling=ceiling, stall_speed=0.9 * stall, climb_rate=1.2 * climb))
    assert hard.loading_high <= easy.loading_high + 1e-12
    at = np.linspace(max(easy.loading[0], hard.loading[0]), min(easy.loading[-1], hard.loading[-1]), 30)
    easy_floor = np.interp(at, easy.loading, easy.floor)
    assert (np.interp(at, hard.loading, hard.floor) >= easy_floor * (1 - 2e-3)).all()
    assert np.isfinite(easy.floor).all() and np.isfinite(easy.roof).all()


@pytest.mark.parametrize("purpose", sorted(PURPOSES))
def test_starting_values_meet_the_stall_and_launch_wishes(purpose):
    brief = start_brief(Brief(), purpose)
    chart = constraint_chart(brief)
    assert brief.purpose == purpose
    assert brief.wing_loading <= chart.loading_high * 1.001
    assert brief.thrust_ratio >= float(np.interp(brief.wing_loading, chart.loading, chart.floor)) * 0.999
    assert PURPOSES[purpose].aspect_ratio[0] <= brief.aspect_ratio <= PURPOSES[purpose].aspect_ratio[1]


@pytest.mark.parametrize("purpose", sorted(PURPOSES))
def test_every_purpose_lays_out_an_airframe_that_balances_and_flies(purpose):
    brief = start_brief(Brief(ceiling=0.9), purpose)
    design = lay_out(brief, SHELF, purpose)
    report = evaluate(design)
    first = report.value("balance.first_flight")
    assert report.value("balance.cg_fraction") == pytest.approx(first, abs=0.012)
    assert report.value("flight.cruise_throttle") is not None
    assert report.value("wing.span") <= brief.span_limit + 1e-9
    if purpose != "tailless":
        assert report.value("tail.volume_h") == pytest.approx(brief.tail_volume_h, rel=1e-6)
    assert report.value("tail.volume_v") == pytest.approx(brief.tail_volume_v, rel=0.12)
    rail = next(p for p in design.parts if p.rail is not None)
    assert rail.rail.front <= rail.x - rail.rail.item_length / 2 + 1e-9


@pytest.mark.parametrize(
    ("build", "tail", "launch"),
    [("foam_board", "v_tail", "hand"), ("foam_board", "conventional", "wheels"), ("extruded_foam", "v_tail", "wheels"),
     ("extruded_foam", "conventional", "hand"), ("printed_foaming", "v_tail", "hand"),
     ("printed_foaming", "conventional", "wheels"), ("printed_plain", "v_tail", "wheels"),
     ("printed_plain", "conventional", "hand")],
)  # fmt: skip
def test_any_build_tail_and_launch_lays_out_a_valid_design(build, tail, launch):
    brief = start_brief(Brief(build_method=build, layout=tail, launch=launch, payload=0.05), "sport")
    design = lay_out(brief, SHELF)
    assert evaluate(design).value("balance.cg_fraction") is not None
    assert bool(design.wheels) == (launch == "wheels")
    assert any(s.role == ("v_tail" if tail == "v_tail" else "stabiliser") for s in design.surfaces)
    if launch == "wheels":
        ground = min(w.z - w.diameter / 2 for w in design.wheels)
        assert mean_disc(design.power)[1] - design.power.propeller.diameter / 2 - ground >= 0.025 - 1e-9


def test_the_first_power_train_is_the_best_of_brute_force():
    brief = start_brief(Brief(packs=("3S 1500", "3S 2200")), "sport")
    train = first_power_train(brief, SHELF, 0.7, 1.225, 1.2)
    assert train.pack.name in brief.packs
    point = solve(chain(train), 1.0, 0.0, 1.225)
    assert float(point.thrust) >= brief.thrust_ratio * 0.7 * GRAVITY
    assert float(point.pack_current) <= min(0.8 * train.esc.max_current, continuous_current(train.pack))
    assert float(point.motor_current) <= train.motor.max_current


def test_an_empty_shelf_gives_no_power_train_and_a_design_without_one():
    bare = SHELF._replace(motors=())
    brief = start_brief(Brief(), "trainer")
    assert first_power_train(brief, bare, 0.7, 1.225, 1.2) is None
    design = lay_out(brief, bare)
    assert design.power is None and evaluate(design).value("mass.auw") > 0.1


def test_the_sketch_is_what_laying_out_makes():
    brief = start_brief(Brief(), "trainer")
    drawn = {label: value for label, value, _quantity in outcome(brief, sketch(brief).surfaces)}
    made = evaluate(lay_out(brief, SHELF))
    assert drawn["Span"] == pytest.approx(made.value("wing.span"))
    assert drawn["Wing"] == pytest.approx(made.value("wing.area"))
    assert drawn["Mean chord"] == pytest.approx(made.value("wing.mac"))
    assert drawn["Tail arm"] == pytest.approx(made.value("tail.arm"))
