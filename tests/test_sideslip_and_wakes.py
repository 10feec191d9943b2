"""What passes near another: wakes of coplanar surfaces, a wing on its body; and figures that go from stage to stage."""

import math
import re

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.airframe import Body, BodyStation
from ridgeline.design.paths import put
from ridgeline.engine.aero.derivatives import derivatives
from ridgeline.engine.aero.lattice import Solver, build
from ridgeline.engine.aero.lifting import best_efficiency, induced_drag, roll_of_lift
from ridgeline.engine.aero.washes import wash_of_angle
from ridgeline.engine.aero.wing_body import Section, body_under, roll_from_sideslip, section_at
from ridgeline.engine.pipeline import STAGES, Evaluator, evaluate
from ridgeline.files.design_file import load
from ridgeline.library import demo_names
from test_lattice import scale_of, sheet

SPAN, AREA = 6.0, 6.0


def pair(half, height, x):
    """A wing of aspect ratio 6 and another surface ahead of it or behind, each its own surface."""
    counts = [14, max(6, round(14 * half / 3))]
    return build([sheet(3, 1.0, surface=0), sheet(half, 0.5, x=x, z=height, surface=1)], 4, counts)


def efficiency(lattice):
    found = derivatives(Solver(lattice), scale_of(AREA, SPAN, 1.0))
    k = induced_drag(lattice, found.alpha_circulation, AREA) / found.alpha.lift**2
    return min(1 / (math.pi * SPAN**2 / AREA * k), best_efficiency(lattice, SPAN))


@pytest.mark.parametrize("half", [1.0, 1.3, 1.7, 2.3, 3.0])
def test_span_efficiency_is_smooth_as_a_tail_rises_from_the_wings_plane(half):
    heights = np.linspace(0.0, 0.03, 7) * SPAN
    found = [efficiency(pair(half, float(z), 3.0)) for z in heights]
    assert np.abs(np.diff(found)).max() < 0.02
    # One plane has 1 at most; two, 3 % of the span apart, 7 % more (Munk and Prandtl).
    assert min(found) > 0.9 and found[0] <= 1.0 + 1e-9 and max(found) <= 1.075


def test_two_wings_share_their_drag_by_munk_and_prandtl_and_canted_ones_are_not_judged():
    level = [pair(3.0, gap * SPAN, 0.0) for gap in (0.0, 0.1, 0.25)]
    assert [best_efficiency(lattice, SPAN) for lattice in level] == pytest.approx([1.0, 2 / 1.655, 2 / 1.42])
    assert best_efficiency(build([sheet(3, 1.0, dihedral=0.3)]), SPAN) == math.inf
    # Nor is an airframe of which nothing lies level.
    assert best_efficiency(build([sheet(3, 1.0, dihedral=1.5)]), SPAN) == math.inf


def test_a_coplanar_foreplanes_strips_do_not_swing_the_lift_slope():
    # By its span the slope rises evenly; where strips happen to meet must not matter (it did, by 6 %).
    halves = np.arange(0.8, 1.45, 0.1)

    def slopes(height):
        return np.array(
            [derivatives(Solver(pair(h, height, -2.0)), scale_of(AREA, SPAN, 1.0)).alpha.lift for h in halves]
        )

    coplanar, clear = slopes(0.0), slopes(0.06 * SPAN)
    assert np.abs(coplanar / clear - 1).max() < 0.015


def test_a_section_of_less_slope_lifts_less_in_two_dimensions_and_by_the_same_share_nowhere_else():
    def slope(half, kappa):
        lattice = build([sheet(half, 1.0, slope=kappa)], 4, 14)
        return derivatives(Solver(lattice), scale_of(2 * half, 2 * half, 1.0)).alpha.lift

    assert slope(1000.0, 0.9) == pytest.approx(0.9 * 2 * math.pi, rel=0.005)
    # Lifting line: a = a0/(1 + a0/πA (1 + τ)), so a finite wing loses less.
    kept = slope(3.0, 0.9) / slope(3.0, 1.0)
    assert 0.92 < kept < 0.95


def test_the_airframes_lattice_takes_the_sections_slope(whimbrel):
    assert set(np.round(evaluate(whimbrel).results.lattice.solver.lattice.slope, 6)) == {0.9}


def fuselage(**more):
    stations = (
        BodyStation(x=0.0, width=0.04, height=0.06, z=0.0),
        BodyStation(x=1.0, width=0.08, height=0.10, z=0.02),
    )
    return Body(name="Body", stations=stations, **more)


def test_a_high_wing_rolls_away_and_a_low_one_into_the_slip_by_the_formula():
    here = Section(0.10, 0.12, 0.0)
    high, low = (roll_from_sideslip(6.25, 1.5, z, here) for z in (0.06, -0.06))
    assert high == pytest.approx(-1.2 * 2.5 * 0.04 * 0.22 / 1.5) and low == pytest.approx(-high)
    assert roll_from_sideslip(6.25, 1.5, 0.01, Section(0.10, 0.12, 0.01)) == 0.0


def test_a_wing_sits_on_the_body_nearest_its_root(whimbrel):
    wing = whimbrel.surfaces[0].model_copy(update={"x": 0.45, "y": 0.0})
    middle = section_at(fuselage(), 0.5)
    assert middle == pytest.approx((0.06, 0.08, 0.01))
    assert section_at(fuselage(), -0.1) is None and section_at(fuselage(), 1.1) is None
    quarter = wing.x + 0.25 * wing.stations[0].chord
    assert body_under(wing, (fuselage(y=0.3), fuselage())) == section_at(fuselage(), quarter)
    assert body_under(wing.model_copy(update={"x": 3.0}), (fuselage(),)) is None


def term_of(report, key, symbol):
    return next(term.value for term in report.figures[key].working.terms if term.symbol == symbol)


def test_sideslip_is_told_about_the_real_balance_point(whimbrel):
    before = evaluate(whimbrel)
    lowered = tuple(p.model_copy(update={"z": p.z - 0.03}) for p in whimbrel.parts)
    after = evaluate(whimbrel.model_copy(update={"parts": lowered}))
    slip, moved = before.results.sideslip, after.results.sideslip
    fall = float(after.results.masses.state.cg[2] - before.results.masses.state.cg[2])
    assert fall < -0.01
    side, span = before.results.lattice.found.beta.side, before.results.lattice.scale.span
    # A lower weight trims, and so cruises, a shade differently: what lift adds is told apart.
    by_lift = [
        term_of(report, "stability.cl_beta", "lift") + term_of(report, "stability.cl_beta", "bend")
        for report in (before, after)
    ]
    assert moved.roll - slip.roll == pytest.approx(by_lift[1] - by_lift[0] - side * fall / span)
    body = before.figures["stability.cn_beta"].working.terms[3]
    assert body.symbol == "body" and body.value < 0
    assert before.results.handling.yaw_stiffness == before.value("stability.cn_beta") == slip.yaw


@pytest.mark.parametrize("name", sorted(demo_names()))
def test_a_figure_used_by_another_stage_carries_its_own_value_and_band(name):
    report = evaluate(load(f"demo:{name}"))
    linked = 0
    for figure in report.figures.values():
        for term in figure.working.terms if figure.working else ():
            if term.figure:
                linked += 1
                told = report.figures[term.figure]
                wanted = pytest.approx((told.value, told.sigma), rel=1e-12)
                assert (term.value, term.sigma) == wanted, (figure.key, term.figure)
    assert linked > 40


def test_a_stage_takes_figures_only_of_stages_before_it_and_is_reached_through_them(whimbrel):
    report = evaluate(whimbrel)
    assert set(report.figures) >= {key for stage in STAGES for key in stage.takes}
    evaluator, givers = Evaluator(), {}
    evaluator(whimbrel)
    for stage in STAGES:
        assert {givers[key] for key in stage.takes} <= set(givers.values()), stage.name
        givers.update((figure.key, stage.name) for figure in evaluator._outcomes[stage.name].figures)
    # One figure alone, by what it hangs on, is the figure of the whole.
    for key in ("power.thrust_ratio", "wing.loading", "control.roll_helix", "modes.spiral_rate"):
        alone = Evaluator()
        alone(put(whimbrel, "parts[0].weighed", 0.2))
        assert alone.value(whimbrel, key) == report.value(key)


@pytest.mark.parametrize(("name", "usual"), [("whimbrel", 50.0), ("turnstone", 60.0)])
def test_the_demos_spirals_are_slow_and_their_bands_hold_the_hand_estimate(name, usual):
    # The estimate by hand is of wings that do not bend.
    design = load(f"demo:{name}")
    for index in range(len(design.surfaces)):
        design = put(design, f"surfaces[{index}].droop", 0.0)
    doubling = evaluate(design).figures["modes.spiral_double_time"]
    assert doubling.value > 15 and doubling.low < usual < doubling.high


def lifted(span, chord=1.0, **more):
    """Roll that a radian's lift adds to sideslip and to a unit yaw rate, over that lift."""
    wing = sheet(span / 2, chord, **more)
    solver, scale = Solver(build([wing], 4, [24])), scale_of(span * chord, span, chord)
    found = derivatives(solver, scale)
    slipped, turned = roll_of_lift(solver, scale, wash_of_angle(solver.lattice))
    return np.array([slipped, turned]) / found.alpha.lift


def test_a_turn_in_yaw_rolls_endless_strips_by_a_third_of_their_lift():
    # ∫ 2(2y/b)·y/b over a rectangular wing: C_L/3; induced flow takes from it as the span shrinks.
    endless, usual, short = (lifted(span)[1] for span in (400.0, 6.0, 3.0))
    assert endless == pytest.approx(1 / 3, rel=0.03)
    # Elliptic loading would give a quarter.
    assert short < usual < endless and usual == pytest.approx(0.24, abs=0.015)


@given(st.floats(0.1, 0.7))
@settings(max_examples=8)
def test_sweep_rolls_away_from_the_wind_by_the_lift(sweep):
    slipped, _turned = lifted(6.0, sweep=sweep)
    # Simple sweep theory for a load centred at 4/(3π) of the half span: −½·0.424·tan Λ.
    assert slipped == pytest.approx(-0.5 * 0.424 * math.tan(sweep), rel=0.2)
    assert lifted(6.0, sweep=-sweep)[0] == pytest.approx(-slipped, rel=0.15)
    assert lifted(6.0)[0] == pytest.approx(0.0, abs=1e-12)


def test_a_spirals_growth_is_the_root_of_the_motions_and_its_time_has_both_ends(whimbrel):
    whimbrel = put(whimbrel, "surfaces[0].droop", 0.0)
    report = evaluate(whimbrel)
    growth, time = report.figures["modes.spiral_rate"], report.figures["modes.spiral_double_time"]
    assert growth.value == pytest.approx(report.results.motions.sideways.spiral.rate, rel=1e-9)
    assert time.value == pytest.approx(math.log(2) / growth.value)
    assert time.low == pytest.approx(math.log(2) / growth.high)
    assert time.high == pytest.approx(min(math.log(2) / max(growth.low, 1e-9), 600.0))
    # The band is that of the terms: a small difference of two effects each known to a third.
    assert growth.sigma > 2 * growth.value
    shares = {term.symbol: term.share for term in growth.working.terms}
    assert min(shares[symbol] for symbol in ("C_lb", "C_lr", "C_nb", "C_nr")) > 0.1
    assert all(term.sigma > 0.1 * abs(term.value) for term in report.figures["stability.cl_beta"].working.terms[:2])
    flat = put(whimbrel, "surfaces[0].stations[2].z", whimbrel.surfaces[0].stations[2].z + 0.06)
    given_back = evaluate(flat).figures
    assert given_back["modes.spiral_rate"].value < 0 and given_back["modes.spiral_double_time"].value is None


@pytest.mark.parametrize("name", sorted(demo_names()))
def test_no_working_only_repeats_its_result(name):
    report = evaluate(load(f"demo:{name}"))
    for key, figure in report.figures.items():
        working = figure.working
        if working is None or key in ("mass.ceiling", "structure.load_factor"):
            continue
        symbols = {term.symbol for term in working.terms}
        # Every number put in stands in the formula, and one alone only where a sum has one item.
        assert symbols <= set(re.findall(r"\{(\w+)\}", working.template)), key
        if working.template in {f"{{{symbol}}}" for symbol in symbols}:
            assert key.startswith("mass."), key
