"""Levers, packs in the bin, growth and the simulated scale: closed forms and brute-force re-evaluation."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.paths import apply, put
from ridgeline.engine.advice.levers import least_added_mass, levers, wing_moved
from ridgeline.engine.advice.pack_bin import options
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.matching import packs_in_hand, packs_to_try
from ridgeline.engine.weights.growth import growth_of
from ridgeline.engine.weights.items import item_arrays
from ridgeline.files.design_file import load
from ridgeline.library import demo_names, shipped_shelf
from ridgeline.standins.scale import SimulatedScale
from ridgeline.units import SYSTEMS

SHELF = shipped_shelf()


def options_of(design, packs, **more):
    return options(design, evaluate(design), packs, **more)


@pytest.mark.parametrize("name", demo_names())
@pytest.mark.parametrize("shift", [-0.03, -0.01, 0.02])
def test_every_lever_applied_lands_where_it_says(name, shift):
    design = load(f"demo:{name}")
    report = evaluate(design)
    aim = report.value("balance.cg_fraction") + shift
    found = levers(design, report, aim)
    assert found
    for lever in found:
        after = evaluate(apply(design, lever.changes))
        assert after.value("balance.cg_fraction") == pytest.approx(lever.reached, abs=1e-6), lever.key
        if lever.whole and lever.key != "move_wing":
            assert lever.reached == pytest.approx(aim, abs=1e-6), lever.key
        assert after.value("mass.auw") - report.value("mass.auw") == pytest.approx(lever.added, abs=1e-9)
        if lever.key == "move_wing":
            margin = report.results.targets.neutral - aim
            assert after.value("stability.static_margin") == pytest.approx(margin, abs=1e-5)


def test_what_adds_nothing_comes_before_what_does(whimbrel):
    report = evaluate(whimbrel)
    added = [lever.added > 0 for lever in levers(whimbrel, report, 0.30)]
    assert added == sorted(added)


def test_levers_stop_at_their_limits(whimbrel):
    report = evaluate(whimbrel)
    for lever in levers(whimbrel, report, 0.02):
        after = apply(whimbrel, lever.changes)
        for part in after.parts:
            if part.rail is not None:
                assert part.rail.front - 1e-9 <= part.x - part.rail.item_length / 2
                assert part.x + part.rail.item_length / 2 <= part.rail.back + 1e-9
        assert lever.whole == (abs(lever.reached - 0.02) < 1e-6) or lever.key == "move_wing"


@settings(max_examples=12, deadline=None)
@given(st.sampled_from(demo_names()), st.floats(-0.06, 0.06))
def test_the_least_added_mass_never_adds_more_than_ballast_alone(name, shift):
    design = load(f"demo:{name}")
    report = evaluate(design)
    aim = report.value("balance.cg_fraction") + shift
    found = least_added_mass(design, report, aim)
    after = evaluate(apply(design, found.changes))
    assert after.value("balance.cg_fraction") == pytest.approx(found.reached, abs=1e-6)
    alone = [lever.added for lever in levers(design, report, aim) if lever.key == "ballast"]
    if found.there and alone:
        assert found.added <= alone[0] + 1e-9


def test_a_balance_out_of_all_reach_is_told_as_such(whimbrel):
    found = least_added_mass(whimbrel, evaluate(whimbrel), -3.0)
    assert not found.there and found.reached > -3.0


def test_moving_the_wing_takes_what_is_built_on_it_along(whimbrel):
    moved = apply(whimbrel, wing_moved(whimbrel, 0.02))
    assert moved.surfaces[0].x == pytest.approx(whimbrel.surfaces[0].x + 0.02)
    assert moved.surfaces[1] == whimbrel.surfaces[1]
    panels = next(i for i, part in enumerate(whimbrel.parts) if part.name.startswith("Wing panels"))
    assert moved.parts[panels].x == pytest.approx(whimbrel.parts[panels].x + 0.02)


def test_each_pack_of_the_bin_is_what_fitting_it_gives(whimbrel):
    found = list(options_of(whimbrel, packs_in_hand(whimbrel.brief, SHELF)))
    assert [option.pack.name for option in found] == list(whimbrel.brief.packs)
    for option in found:
        after = evaluate(apply(whimbrel, option.changes))
        assert after.value("balance.cg_fraction") == pytest.approx(option.balance)
        assert after.value("mass.auw") == pytest.approx(option.mass)
        assert after.value("flight.endurance") == pytest.approx(option.endurance)
        assert option.reach[0] - 1e-9 <= option.balance <= option.reach[1] + 1e-9
    heavy = max(found, key=lambda option: option.pack.mass)
    light = min(found, key=lambda option: option.pack.mass)
    assert heavy.reach[1] - heavy.reach[0] != light.reach[1] - light.reach[0]


def test_packs_that_cannot_be_fitted_say_why(whimbrel):
    pack = whimbrel.power.pack
    long = pack.model_copy(update={"name": "long", "length": 0.4})
    high = pack.model_copy(update={"name": "high", "cells": 8})
    found = {option.pack.name: option for option in options_of(whimbrel, (long, high))}
    rail = next(part.rail for part in whimbrel.parts if part.rail is not None)
    room = 1000 * (rail.back - rail.front)
    assert words_of(found["long"]) == f"400 mm long, the bay takes {room:.0f} mm" and not found["long"].changes
    assert words_of(found["high"]) == "8 cells, the ESC takes 4" and found["high"].level == "stop"


def test_a_pack_too_broad_for_a_bay_that_was_measured_says_so(whimbrel):
    index = next(k for k, part in enumerate(whimbrel.parts) if part.rail is not None)
    bay = whimbrel.parts[index].rail.model_copy(update={"width": 0.030, "height": 0.040})
    design = put(whimbrel, f"parts[{index}].rail", bay)
    pack = whimbrel.power.pack
    broad = pack.model_copy(update={"name": "broad", "width": 0.035, "height": 0.033})
    turned = pack.model_copy(update={"name": "turned", "width": 0.039, "height": 0.029})
    found = {option.pack.name: option for option in options_of(design, (broad, turned))}
    assert words_of(found["broad"]) == "35 by 33 mm across, the bay takes 40 by 30 mm"
    # On its side it goes in.
    assert found["turned"].changes


def words_of(option):
    return option.verdict.render(SYSTEMS["metric"])


def test_bin_and_brief_are_tried_and_the_shelf_only_without_them(whimbrel):
    own = (whimbrel.power.pack.model_copy(update={"name": "Mine"}), SHELF.packs[3])
    named = whimbrel.brief.model_copy(update={"packs": (SHELF.packs[3].name, SHELF.packs[8].name)})
    names = [pack.name for pack in packs_to_try(named, own, SHELF)]
    assert names == ["Mine", SHELF.packs[3].name, SHELF.packs[8].name]
    bare = whimbrel.brief.model_copy(update={"packs": ()})
    assert packs_to_try(bare, (), SHELF) == SHELF.packs and packs_to_try(bare, own, SHELF) == own


def test_a_stopped_search_of_the_bin_yields_no_more(whimbrel):
    assert not list(options_of(whimbrel, SHELF.packs, stop=lambda: True))


def weighed(design, factor, count):
    """Return a design with its first airframe items weighed at a factor of their guesses."""
    done = 0
    for index, part in enumerate(design.parts):
        if part.group == "airframe" and part.weighed is None and done < count:
            design = put(design, f"parts[{index}].weighed", part.estimate * factor)
            done += 1
    return design


@pytest.mark.parametrize("factor", [0.9, 1.0, 1.25])
def test_growth_follows_the_scale_and_more_so_the_more_is_weighed(whimbrel, factor):
    shifts = []
    for count in (1, 2):
        design = weighed(whimbrel, factor, count)
        found = growth_of(item_arrays(design.parts, design.power), 0.2)
        group = next(row for row in found.groups if row.group == "airframe")
        assert min(1.2, factor) - 1e-9 <= group.factor <= max(1.2, factor) + 1e-9
        shifts.append(abs(group.factor - 1.2))
    assert shifts[0] <= shifts[1] + 1e-9


def test_when_all_is_weighed_the_finished_weight_is_what_the_scale_said(whimbrel):
    design = whimbrel
    for index, part in enumerate(design.parts):
        if part.weighed is None:
            design = put(design, f"parts[{index}].weighed", part.estimate)
    found = growth_of(item_arrays(design.parts, design.power), design.brief.growth)
    assert found.finished == pytest.approx(evaluate(design).value("mass.auw")) and found.sigma == 0


def settled(scale):
    while not (reading := scale.read()).steady:
        pass
    return reading.mass


@given(st.floats(0.002, 4.0), st.sampled_from([0.0001, 0.001, 0.005]), st.integers(0, 1000))
def test_a_settled_reading_is_the_mass_to_the_step_and_the_noise(mass, step, seed):
    scale = SimulatedScale(step=step, noise=0.2 * step, seed=seed)
    scale.put_on(mass)
    reading = settled(scale)
    assert abs(reading - mass) <= 0.5 * step + 6 * 0.2 * step
    assert math.isclose(reading / step, round(reading / step), abs_tol=1e-6)


def test_tare_forgets_the_tray_and_an_overload_reads_the_capacity():
    scale = SimulatedScale(step=0.001, noise=0.0, capacity=2.0)
    scale.put_on(0.250)
    scale.tare()
    scale.put_on(0.112)
    assert settled(scale) == pytest.approx(0.112)
    scale.clear()
    assert settled(scale) == pytest.approx(-0.250)
    scale.put_on(9.0)
    assert settled(scale) == pytest.approx(2.0 - 0.250)
    assert np.isfinite(scale.read().mass)


def test_the_display_swings_before_it_settles():
    scale = SimulatedScale(noise=0.0)
    scale.put_on(1.0)
    first = scale.read()
    assert not first.steady and first.mass != pytest.approx(1.0, abs=1e-4)
    assert settled(scale) == pytest.approx(1.0)
