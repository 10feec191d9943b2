"""The aircraft that is thrown on paper is the design's own: its glide, climb and sideways motions are the leaves'."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.linalg import expm

from ridgeline.design.document import Design
from ridgeline.engine.aero import modes
from ridgeline.engine.aero.wash_lag import wash_lag
from ridgeline.engine.flight.launch import hands_off
from ridgeline.engine.flight.modelled import aircraft_of, can_be_flown, pull_of
from ridgeline.engine.flight.six_degrees import fly
from ridgeline.engine.flight.small import lengthwise_matrix
from ridgeline.engine.flight.trimmed import linearised, steady
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power.full_throttle import MEAN_CHARGE
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names


@pytest.mark.parametrize("name", gallery_names())
def test_steady_glide_and_climb_are_those_of_the_flight_leaf_within_a_hundredth(name):
    design = load(f"demo:{name}")
    report = evaluate(design)
    craft, density = aircraft_of(report), report.results.air.density
    glide = steady(craft, None, speed=report.value("glide.ratio_speed"), density=density)
    assert -1 / math.tan(glide.path[0]) == pytest.approx(report.value("glide.ratio"), rel=0.01)
    pull, flight = pull_of(design, report, MEAN_CHARGE), report.results.flight
    if pull is not None:
        climb = steady(craft, pull, speed=flight.climb_speed, density=density, throttle=1.0)
        assert flight.climb_speed * math.sin(climb.path[0]) == pytest.approx(flight.climb_rate, rel=0.01)


@pytest.mark.parametrize("name", gallery_names())
def test_all_five_motions_flown_are_those_of_the_shape(name):
    design = load(f"demo:{name}")
    report = evaluate(design)
    craft, density, shape = aircraft_of(report), report.results.air.density, report.results.motions
    pull, speed = pull_of(design, report, MEAN_CHARGE), report.value("speed.cruise")
    cruise = steady(craft, pull, speed=speed, density=density, path=None if pull is None else 0.0)
    along, across = linearised(craft, pull, cruise, density)
    for ours, theirs in ((along, lengthwise_matrix(craft, shape.flight, density)), (across, shape.across.matrix)):
        flown, told = (np.sort_complex(np.linalg.eigvals(one)) for one in (ours, theirs))
        assert np.all(np.abs(flown - told) < 0.02 * np.abs(told))
    swings = modes.lengthwise(along), modes.sideways(across)
    for mine, its in (
        (swings[0].short_period, shape.lengthwise.short_period),
        (swings[0].phugoid, shape.lengthwise.phugoid),
        (swings[1].roll, shape.sideways.roll),
        (swings[1].dutch_roll, shape.sideways.dutch_roll),
    ):
        assert complex(mine.rate, mine.frequency) == pytest.approx(complex(its.rate, its.frequency), rel=0.02)
    assert swings[1].spiral.rate == pytest.approx(shape.sideways.spiral.rate, rel=0.02, abs=1e-3)


@pytest.mark.parametrize("name", ["whimbrel", "lapwing"])
def test_a_small_push_in_flight_goes_as_the_matrices_say(name):
    design = load(f"demo:{name}")
    report = evaluate(design)
    craft, density, shape = aircraft_of(report), report.results.air.density, report.results.motions
    pull = pull_of(design, report, MEAN_CHARGE)
    cruise = steady(craft, pull, speed=report.value("speed.cruise"), density=density, path=0.0)
    start = cruise.state(100.0)
    push = 0.02
    start[10] += push * math.cos(cruise.alpha[0])
    start[12] += push * math.sin(cruise.alpha[0])
    held = hands_off(cruise.held)
    pushed = fly(craft, pull, start, held, seconds=1.0, density=density)
    alone = fly(craft, pull, cruise.state(100.0), held, seconds=1.0, density=density)
    turned = (pushed.state - alone.state)[:, :, 0]
    cos, sin = math.cos(cruise.alpha[0]), math.sin(cruise.alpha[0])
    roll, yaw = turned[:, 10] * cos + turned[:, 12] * sin, turned[:, 12] * cos - turned[:, 10] * sin
    told = np.array([expm(shape.across.matrix * time) @ (0, push, 0, 0) for time in pushed.time])
    assert np.abs(roll - told[:, 1]).max() < 0.02 * push and np.abs(yaw - told[:, 2]).max() < 0.02 * push


def test_only_a_tail_behind_the_wing_meets_the_wash_of_a_moment_ago():
    lags = {}
    for name in ("whimbrel", "dunlin", "avocet"):
        design = load(f"demo:{name}")
        model = evaluate(design).results.lattice
        lags[name] = wash_lag(model, design.surfaces) / model.found.pitch_rate.pitch
    assert 0.2 < lags["whimbrel"] < 0.6 and lags["dunlin"] == 0.0 and lags["avocet"] == 0.0


def test_what_is_not_laid_out_cannot_be_flown():
    assert not can_be_flown(evaluate(Design())) and can_be_flown(evaluate(load("demo:stint")))
