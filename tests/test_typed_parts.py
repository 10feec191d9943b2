"""Typed parts: what is left empty follows from class, mass and rating; packs may bring their own volts."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.paths import put
from ridgeline.design.power import ChargePoint, Motor, Pack, SpeedController
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power import pack as packs
from ridgeline.engine.power.chain import chain
from ridgeline.engine.power.classes import (
    cell_resistance_of,
    idle_of,
    mass_of,
    on_resistance_of,
    settled,
    winding_of,
)
from ridgeline.engine.power.typed_parts import of_class
from ridgeline.errors import DesignError
from ridgeline.files.design_file import from_text, to_text
from ridgeline.library import shipped_shelf

ROUND = next(pack for pack in shipped_shelf().packs if pack.name == "3S 3000, round cells")


def emptied(design):
    """The design with every constant left to its class."""
    for path in ("motor.resistance", "motor.no_load_current", "esc.resistance", "pack.cell_resistance", "pack.mass"):
        design = put(design, f"power.{path}", None)
    return design


def test_an_empty_winding_follows_speed_constant_and_mass(whimbrel):
    motor = emptied(whimbrel).power.motor
    k_v = motor.kv_rpm_per_v * math.pi / 30
    assert winding_of(motor) == pytest.approx(7 / (k_v**2 * motor.mass ** (5 / 3)))
    heavier = motor.model_copy(update={"mass": 2 * motor.mass})
    assert winding_of(heavier) == pytest.approx(winding_of(motor) / 2 ** (5 / 3))
    faster = motor.model_copy(update={"kv_rpm_per_v": 2 * motor.kv_rpm_per_v})
    assert winding_of(faster) == pytest.approx(winding_of(motor) / 4)
    assert idle_of(faster) == pytest.approx(2 * idle_of(motor))
    assert settled(motor).resistance == winding_of(motor) and settled(motor).no_load_current == idle_of(motor)


@given(st.floats(0.2, 6.0), st.floats(10, 80), st.integers(1, 6))
def test_an_empty_pack_follows_capacity_claim_and_cells(capacity, rate, cells):
    pack = Pack(name="P", cells=cells, capacity_ah=capacity, c_rating=rate)
    assert cell_resistance_of(pack) == pytest.approx(0.4 / (0.6 * rate * capacity))
    assert mass_of(pack) == pytest.approx(0.007 * 3.7 * cells * capacity + (0.001 if cells == 1 else 0.004))
    assert packs.resistance(pack) == pytest.approx(cells * cell_resistance_of(pack))


def test_what_is_typed_wins():
    motor = Motor(name="M", kv_rpm_per_v=1000, mass=0.05, max_current=15, resistance=0.2, no_load_current=0.7)
    esc = SpeedController(name="E", max_current=30, mass=0.02, resistance=0.004)
    assert (winding_of(motor), idle_of(motor), on_resistance_of(esc)) == (0.2, 0.7, 0.004)
    assert on_resistance_of(esc.model_copy(update={"resistance": None})) == pytest.approx(0.24 / 30)
    assert of_class(motor, "resistance") == 0.2 and of_class(motor, "mass") is None


def test_the_whole_aircraft_follows_what_an_empty_field_follows(whimbrel):
    empty = emptied(whimbrel)
    before = evaluate(empty)
    link = chain(empty.power)
    assert link.motor_resistance == winding_of(empty.power.motor)
    assert link.esc_resistance == on_resistance_of(empty.power.esc)
    assert all(before.value(key) is not None for key in ("power.static_current", "flight.endurance", "mass.auw"))
    stronger = evaluate(put(empty, "power.pack.c_rating", 60.0))
    assert stronger.value("power.static_thrust") > before.value("power.static_thrust"), "less resistance by its claim"
    index = next(i for i, part in enumerate(empty.parts) if part.component == "pack")
    unweighed = put(empty, f"parts[{index}].weighed", None)
    lighter = evaluate(put(unweighed, "power.pack.capacity_ah", 1.1))
    saved = evaluate(unweighed).value("mass.listed") - lighter.value("mass.listed")
    assert saved == pytest.approx(0.007 * 3.7 * 3 * 1.1), "its mass goes with its energy"


def test_an_empty_field_is_saved_empty_and_read_back(whimbrel):
    again = from_text(to_text(emptied(whimbrel)), "memory")
    assert again.power.pack.mass is None and again.power.motor.resistance is None
    assert evaluate(again).value("power.static_current") == evaluate(emptied(whimbrel)).value("power.static_current")


def test_a_pack_brings_its_own_volts(whimbrel):
    assert packs.open_circuit_voltage(ROUND, [0.0, 0.5, 1.0]) == pytest.approx([9.0, 3 * 3.68, 3 * 4.17])
    assert packs.least_voltage(ROUND) == 2.8 and packs.least_voltage(whimbrel.power.pack) == 3.4
    pouch = ROUND.model_copy(update={"curve": (), "cut_off": None})
    halves = np.array([0.4, 0.5])
    assert (packs.open_circuit_voltage(ROUND, halves) < packs.open_circuit_voltage(pouch, halves)).all()


def test_round_cells_fly_on_to_their_own_least(whimbrel):
    tired = ROUND.model_copy(update={"cell_resistance": 0.06})
    fitted = put(whimbrel, "power.pack", tired)
    pouch = put(whimbrel, "power.pack", tired.model_copy(update={"cut_off": None}))
    longer, shorter = (evaluate(d).value("flight.endurance") for d in (fitted, pouch))
    assert longer > shorter, "a pouch's limit would land it early"
    assert evaluate(fitted).results.flight.discharge.ends == "reserve"
    assert evaluate(pouch).results.flight.discharge.ends == "voltage"


def test_a_cell_is_judged_by_its_own_least(whimbrel):
    weak = ROUND.model_copy(update={"cell_resistance": 0.09})

    def told(pack):
        report = evaluate(put(whimbrel, "power.pack", pack))
        volts = report.value("power.cell_voltage")
        return volts, next((f for f in report.findings if f.key == "power.cell_voltage"), None)

    volts, found = told(weak)
    assert 2.8 < volts < 3.4 and found is None
    volts, found = told(weak.model_copy(update={"cut_off": None}))
    assert volts < 3.4 and found is not None and "3.4 V" in str(found.reason)


@pytest.mark.parametrize(
    "curve",
    [
        [(0.1, 3.0), (1.0, 4.2)],
        [(0.0, 3.0), (0.9, 4.2)],
        [(0.0, 3.0), (0.5, 3.9), (0.5, 4.0), (1.0, 4.2)],
        [(0.0, 3.5), (0.5, 3.4), (1.0, 4.2)],
    ],
)
def test_a_curve_that_is_none_is_refused(whimbrel, curve):
    rows = tuple(ChargePoint(charge=c, volts=v) for c, v in curve)
    with pytest.raises(DesignError, match="voltage curve"):
        put(whimbrel, "power.pack.curve", rows)


@pytest.mark.parametrize(("ohms", "level"), [(0.07, "look"), (0.16, "stop")])
def test_a_cell_pulled_far_under_its_least_is_a_stop(whimbrel, ohms, level):
    pack = whimbrel.power.pack.model_copy(update={"cell_resistance": ohms})
    report = evaluate(put(whimbrel, "power.pack", pack))
    volts = report.value("power.cell_voltage")
    assert (3.0 <= volts < 3.4) if level == "look" else volts < 3.0
    assert next(f for f in report.findings if f.key == "power.cell_voltage").level == level
