"""Launches on plain numbers: wind and gusts, the pilot, and what became of a throw."""

from __future__ import annotations

import numpy as np
import pytest

from ridgeline.engine.flight.craft import Held
from ridgeline.engine.flight.launch import (
    OUTCOMES,
    Pilot,
    Throw,
    Weather,
    flown,
    hands_off,
    wind_at,
)
from ridgeline.engine.flight.six_degrees import angles_of, fly, still_air
from ridgeline.engine.flight.trimmed import steady
from test_six_degrees import DENSITY, craft, thrust


def test_the_wind_grows_with_height_by_its_power():
    heights = np.array([1.7, 10.0, 40.0])
    assert wind_at(heights, 3.0) == pytest.approx(3.0 * (heights / 10) ** 0.14)


def test_gusts_scatter_as_they_are_told_and_are_the_same_for_the_same_seed():
    air = Weather(wind=0.0, gusts=4.0, seed=3, builds=50)
    along = np.array([np.asarray(air(0.02 * k, np.full(50, 10.0))[0]) for k in range(0, 2000, 10)])
    assert along.std() == pytest.approx(0.15 * 4.0, rel=0.12) and abs(along.mean()) < 0.1
    up = np.array([np.asarray(air(0.02 * k, np.full(50, 10.0))[2]) for k in range(0, 2000, 10)])
    assert up.std() == pytest.approx(0.10 * 4.0, rel=0.08)

    def alike(rows):
        """How alike gusts a fifth of a second apart are: as long as they last to what flies through."""
        return float(np.corrcoef(rows[:-1].ravel(), rows[1:].ravel())[0, 1])

    assert alike(along) == pytest.approx(np.exp(-12 * 0.2 / 30), abs=0.02)
    assert alike(up) == pytest.approx(np.exp(-12 * 0.2 / 5), abs=0.03)
    again = Weather(wind=0.0, gusts=4.0, seed=3, builds=50)
    assert again(1.234, np.full(50, 10.0))[0] == pytest.approx(air(1.234, np.full(50, 10.0))[0])
    calm = Weather(wind=2.0)(1.0, np.array([10.0]))
    assert float(calm[0][0]) == pytest.approx(-2.0) and float(calm[2][0]) == 0.0


def test_a_head_wind_adds_to_the_airspeed_and_a_tail_wind_takes_from_it():
    speeds = []
    for wind in (3.0, 0.0, -3.0):
        air = Weather(wind=wind)
        path = fly(craft(), None, Throw(8.0).state(), hands_off(Held()), seconds=0.1, density=DENSITY, air=air)
        speeds.append(float(flown(craft(), path, air).airspeed[0, 0]))
    blown = 3.0 * (1.7 / 10) ** 0.14
    assert speeds == pytest.approx([8 + blown, 8.0, 8 - blown])


def test_a_pilot_brings_the_wings_level_and_sees_late():
    flight = steady(craft(), thrust(sense=0.0), speed=13.0, density=DENSITY, path=0.0)
    start = flight.state(60.0)
    banked = Throw(13.0, nose=float(flight.alpha[0]), bank=0.5, height=60.0, runs=float(flight.throttle[0])).state()
    pilot = Pilot(flight.held, aileron=0.25, pitch=0.2, wished=float(flight.alpha[0]))
    path = fly(craft(), thrust(sense=0.0), banked, pilot, seconds=4.0, density=DENSITY)
    assert abs(float(angles_of(path.state[-1, 6:10])[0][0])) < 0.05
    fresh = Pilot(flight.held, aileron=0.25, pitch=0.2)
    fresh(0.0, start)
    # What happens within the delay is not seen yet.
    assert float(np.asarray(fresh(0.2, banked).aileron).ravel()[0]) == pytest.approx(0.0, abs=1e-9)
    assert float(np.asarray(fresh(0.5, banked).aileron).ravel()[0]) < 0


def test_throws_are_told_apart_by_what_became_of_them():
    flight = steady(craft(), thrust(8.0, sense=0.0), speed=11.0, density=DENSITY, throttle=1.0)

    def of(throw, throttle, seconds=4.0, **told):
        held = Held(pitch=float(flight.pitch[0]), throttle=throttle, **told)
        pull = thrust(8.0, sense=0.0)
        path = fly(craft(), pull, throw.state(), hands_off(held), seconds=seconds, density=DENSITY)
        return OUTCOMES[int(flown(craft(), path, still_air).outcome[0])]

    nose = float(flight.alpha[0])
    assert of(Throw(11.0, path=0.1, nose=nose, runs=1.0), 1.0) == "climbs"
    assert of(Throw(9.0, path=-0.05, nose=nose), 0.0) == "sinks"
    assert of(Throw(5.0, path=0.7, nose=0.5, runs=0.2), 0.2) == "stalls"
    assert of(Throw(12.0, nose=nose, height=30.0, runs=0.5), 0.5, aileron=0.4) == "rolls"
