"""The aircraft that is thrown on paper is the design's own: its glide, climb and sideways motions are the leaves'."""

from __future__ import annotations

import math

import pytest

from ridgeline.design.document import Design
from ridgeline.engine.aero import modes
from ridgeline.engine.flight.modelled import aircraft_of, can_be_flown, pull_of, wash_lag
from ridgeline.engine.flight.trimmed import linearised, steady
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power.full_throttle import MEAN_CHARGE
from ridgeline.files.design_file import load

SAMPLES = ("whimbrel", "dunlin", "avocet", "turnstone", "plover", "heron")


@pytest.mark.parametrize("name", SAMPLES)
def test_steady_glide_and_climb_are_those_of_the_flight_leaf_within_a_hundredth(name):
    design = load(f"demo:{name}")
    report = evaluate(design)
    craft, density = aircraft_of(design, report), report.results.air.density
    glide = steady(craft, None, speed=report.value("glide.ratio_speed"), density=density)
    assert -1 / math.tan(glide.path[0]) == pytest.approx(report.value("glide.ratio"), rel=0.01)
    pull, flight = pull_of(design, report, MEAN_CHARGE), report.results.flight
    if pull is not None:
        climb = steady(craft, pull, speed=flight.climb_speed, density=density, throttle=1.0)
        assert flight.climb_speed * math.sin(climb.path[0]) == pytest.approx(flight.climb_rate, rel=0.01)


@pytest.mark.parametrize("name", ["whimbrel", "dunlin", "avocet", "turnstone", "heron"])
def test_roll_and_dutch_roll_are_those_of_the_shape(name):
    design = load(f"demo:{name}")
    report = evaluate(design)
    craft, pull, density = aircraft_of(design, report), pull_of(design, report), report.results.air.density
    cruise = steady(craft, pull, speed=report.value("speed.cruise"), density=density, path=0.0)
    ours, theirs = modes.sideways(linearised(craft, pull, cruise, density)[1]), report.results.motions.sideways
    assert ours.roll.rate == pytest.approx(theirs.roll.rate, rel=0.02)
    assert ours.dutch_roll.frequency == pytest.approx(theirs.dutch_roll.frequency, rel=0.03)


def test_only_a_tail_behind_the_wing_meets_the_wash_of_a_moment_ago():
    lags = {}
    for name in ("whimbrel", "dunlin", "avocet"):
        design = load(f"demo:{name}")
        model = evaluate(design).results.lattice
        lags[name] = wash_lag(model, design.surfaces) / model.found.pitch_rate.pitch
    assert 0.2 < lags["whimbrel"] < 0.6 and lags["dunlin"] == 0.0 and lags["avocet"] == 0.0


def test_what_is_not_laid_out_cannot_be_flown():
    assert not can_be_flown(evaluate(Design())) and can_be_flown(evaluate(load("demo:stint")))
