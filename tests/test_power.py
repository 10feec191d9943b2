import math

import numpy as np
import pytest
from hypothesis import assume, example, given
from hypothesis import strategies as st

from ridgeline.design.brief import Brief
from ridgeline.design.power import Motor, Mount, Pack, PowerTrain, Propeller, SpeedController
from ridgeline.engine.aero.drag import DragModel, drag
from ridgeline.engine.aero.sections import section
from ridgeline.engine.power import pack as packs
from ridgeline.engine.power import propeller_loads, thermal
from ridgeline.engine.power.chain import chain, lag_of
from ridgeline.engine.power.flight import level_flight
from ridgeline.engine.power.full_throttle import full_throttle
from ridgeline.engine.power.held_thrust import throttle_for_thrust
from ridgeline.engine.power.operating_point import PART_THROTTLE_LOSS, solve
from ridgeline.engine.power.prop_sizes import resized, size_words
from ridgeline.engine.power.survey import Survey
from ridgeline.engine.sizing.matching import nothing_known
from ridgeline.library import shipped_shelf

AIR = 1.225
SHELF = shipped_shelf()


def train(
    kv=1050, r=0.073, i0=0.9, cells=3, ah=2.2, cell=0.0121, d=8.0, p=6.0, motors=1, family="thin_electric", blades=2
):
    return PowerTrain(
        motor=Motor(name="m", kv_rpm_per_v=kv, resistance=r, no_load_current=i0, mass=0.055, max_current=17),
        esc=SpeedController(name="e", max_current=30, resistance=0.008, mass=0.025),
        pack=Pack(name="p", cells=cells, capacity_ah=ah, cell_resistance=cell, mass=0.175, c_rating=25),
        propeller=Propeller(name="x", family=family, diameter=d * 0.0254, pitch=p * 0.0254, blades=blades, mass=0.012),
        mounts=tuple(Mount(y=0.1 * k) for k in range(motors)),
    )


trains = st.builds(
    train,
    kv=st.floats(300, 3500),
    r=st.floats(0.01, 0.4),
    i0=st.floats(0.1, 2.0),
    cells=st.integers(1, 6),
    ah=st.floats(0.3, 6),
    cell=st.floats(0.002, 0.05),
    d=st.floats(4, 14),
    p=st.floats(2.5, 10),
    motors=st.integers(1, 4),
    family=st.sampled_from(["thin_electric", "slow_fly", "wood", "folding", "wide", "tiny"]),
    blades=st.integers(2, 4),
)


@given(trains, st.floats(0.05, 1.0), st.floats(0, 25))
@example(
    train(kv=2778.0, r=0.375, i0=1.0, cells=4, ah=1.0, cell=0.03125, d=11.5, family="wide", p=7.0, blades=3), 0.25, 21.0
)
def test_torque_and_voltage_balance_to_a_billionth(t, throttle, speed):
    link = chain(t)
    point = solve(link, throttle, speed, AIR)
    assume(not point.stopped)
    omega, current = float(point.omega), float(point.motor_current)
    i0 = link.i0_still + link.i0_slope * omega
    assume(abs(omega) > 1)
    motor_torque = (current - i0) / link.k_v
    prop_torque = float(propeller_loads.shaft_power(link.law, link.diameter, omega / (2 * math.pi), speed, AIR)) / omega
    assert motor_torque == pytest.approx(prop_torque, rel=1e-9, abs=1e-9)
    volts = throttle * (link.open_circuit - link.motors * throttle * current * link.source_resistance)
    esc = link.esc_resistance * (1 + PART_THROTTLE_LOSS * (1 - throttle))
    # R = R_20 (1 + 0.0039 ΔT) + (3/π) ω_e τ R_20, warmed by half a minute of its own heat.
    rise = float(point.winding_rise)
    warm = link.motor_resistance * (1 + 0.0039 * rise)
    late = 3 / math.pi * t.motor.poles / 2 * omega * lag_of(t.motor) * link.motor_resistance
    if current > 0 and rise < thermal.MOST_RISE:
        heat = current**2 * (warm + late) + i0 * omega / link.k_v
        assert rise == pytest.approx(heat * thermal.warming(t.motor.mass), rel=1e-9)
    lost = current * (esc + warm + late) + link.brush_drop
    assert volts == pytest.approx(lost + omega / link.k_v, rel=1e-9, abs=1e-9)


@given(trains, st.floats(0.1, 1.0))
def test_energy_in_is_shaft_power_plus_heat_at_every_link(t, throttle):
    point = solve(chain(t), throttle, 0.0, AIR)
    assume(not point.stopped)
    n = t.motors
    chemical = chain(t).open_circuit * point.pack_current
    assert chemical == pytest.approx(point.pack_power + point.pack_heat, rel=1e-9)
    handed_on = n * (point.shaft_power + point.motor_heat + point.esc_heat) + point.lead_heat
    assert point.pack_power == pytest.approx(handed_on, rel=1e-9)
    assert point.motor_heat >= 0 and point.esc_heat >= 0


@given(trains)
def test_static_thrust_never_beats_the_actuator_disc(t):
    point = solve(chain(t), 1.0, 0.0, AIR)
    assume(not point.stopped)
    limit = propeller_loads.actuator_disc_thrust(float(point.shaft_power), t.propeller.diameter, AIR)
    assert float(point.thrust) <= t.motors * limit


@given(trains, st.floats(0.1, 0.95), st.floats(0, 15))
def test_the_throttle_for_a_thrust_gives_that_thrust(t, throttle, speed):
    link = chain(t, 0.6)
    point = solve(link, throttle, speed, AIR)
    assume(not point.stopped and float(point.thrust) > 1e-3)
    found = float(throttle_for_thrust(link, point.thrust, speed, AIR))
    # The cubic of pack power has two roots; the smaller throttle is the efficient one.
    assume(math.isfinite(found))
    assert float(solve(link, found, speed, AIR).thrust) == pytest.approx(float(point.thrust), rel=1e-7)


def test_a_thrust_out_of_reach_has_no_throttle():
    assert math.isnan(float(throttle_for_thrust(chain(train()), 100.0, 10.0, AIR)))


def test_more_cells_turn_faster_and_pull_harder():
    two, three = (solve(chain(train(cells=n)), 1.0, 0.0, AIR) for n in (2, 3))
    assert three.rpm > two.rpm and three.thrust > two.thrust and three.pack_current > two.pack_current


def test_two_motors_on_one_pack_share_its_sag():
    one, two = (solve(chain(train(motors=n)), 1.0, 0.0, AIR) for n in (1, 2))
    assert one.thrust < two.thrust < 2 * one.thrust
    assert two.pack_voltage < one.pack_voltage


def test_operating_points_broadcast():
    point = solve(chain(train()), np.linspace(0, 1, 5)[:, None], np.linspace(0, 20, 7), AIR)
    assert point.thrust.shape == (5, 7)
    assert point.stopped[0].all() and np.isfinite(point.thrust).all()
    assert (np.diff(point.thrust[1:, 0]) > 0).all()
    assert (np.diff(point.thrust[-1]) < 0).all()


def test_a_motor_that_cannot_overcome_its_friction_stands_still():
    stuck = solve(chain(train(i0=20.0, r=5.0, cells=1)), 1.0, 0.0, AIR)
    assert bool(stuck.stopped) and float(stuck.thrust) == 0 and float(stuck.pack_current) == 0


def test_pack_voltage_falls_with_charge_and_claims_are_derated():
    pack = train().pack
    volts = [packs.open_circuit_voltage(pack, c) for c in np.linspace(0, 1, 21)]
    assert (np.diff(volts) > 0).all() and volts[-1] == pytest.approx(3 * 4.18)
    assert packs.continuous_current(pack) == pytest.approx(0.6 * 25 * 2.2)
    eager = pack.model_copy(update={"c_rating": 100.0})
    assert packs.continuous_current(eager) == pytest.approx(30 * 2.2)
    tiny = eager.model_copy(update={"capacity_ah": 0.3})
    assert packs.continuous_current(tiny) == pytest.approx(18 * 0.3)


MODEL = DragModel(0.256, 6.4, 0.203, section("flat_bottom"), 0.06, 0.12, 0.15, 0.9, 0.004)


def test_level_flight_meets_drag_at_cruise_and_at_top_speed():
    found = level_flight(full_throttle(train(), AIR, 20.0, 0.1), MODEL, 0.742, 7.4, 11.9, 1.79e-5)
    link = chain(train(), 0.6)
    cruise = solve(link, found.cruise_throttle, 11.9, AIR)
    assert float(cruise.thrust) == pytest.approx(float(drag(MODEL, 11.9, 0.742, AIR, 1.79e-5)))
    top = float(solve(link, 1.0, found.top_speed, AIR).thrust)
    assert top == pytest.approx(float(drag(MODEL, found.top_speed, 0.742, AIR, 1.79e-5)), rel=5e-3)


def test_an_aircraft_too_draggy_to_fly_level_says_so():
    bluff = DragModel(0.256, 6.4, 0.203, section("flat_bottom"), 0.06, 0.12, 0.15, 0.9, 2.0)
    found = level_flight(full_throttle(train(), AIR, 20.0, 0.1), bluff, 0.742, 7.4, 11.9, 1.79e-5)
    assert found.top_speed is None and found.cruise_throttle is None and found.discharge is None


def test_neighbouring_propellers_keep_family_and_pitch_ratio():
    prop = next(p for p in SHELF.propellers if size_words(p) == "8×6")
    larger = resized(prop, prop.diameter + 0.0508)
    assert size_words(larger) == "10×7.5"
    assert larger.family == prop.family and larger.mass > prop.mass


@pytest.mark.parametrize(
    ("diameter", "pitch", "words"),
    [
        (0.2032, 0.1524, "8×6"),
        (2.2 * 0.0254, 1.6 * 0.0254, "2.2×1.6"),
        (5.75 * 0.0254, 4.5 * 0.0254, "5.75×4.5"),
        (0.065, 0.045, "65×45 mm"),
        (0.040, 0.020, "40×20 mm"),
        (0.0508, 0.0254, "2×1"),
    ],
)
def test_sizes_are_told_as_propellers_are_sold(diameter, pitch, words):
    assert size_words(Propeller(name="x", diameter=diameter, pitch=pitch, mass=0.01)) == words


def test_every_shipped_motor_makes_sense_on_a_fitting_propeller():
    # At its own limits a motor of the class turns some propeller at 50–93 %; brushed ones at less.
    survey = Survey(SHELF.motors, SHELF.propellers, SHELF.packs, SHELF.escs, nothing_known(Brief(), 1.0, AIR, 1))
    best = np.zeros(len(SHELF.motors))
    for _index, row in survey.rows():
        sound = (row.motor_current <= survey.motor_limit) & (survey.cells <= survey.motor_cells) & (row.thrust > 0)
        share = np.where(sound, row.shaft / (row.shaft + row.heat), 0.0)
        best = np.maximum(best, share.max(axis=1))
    for motor, share in zip(SHELF.motors, best, strict=True):
        assert (0.35 if motor.kind == "brushed" else 0.5) < share < 0.93, motor.name


def test_the_library_is_large_and_its_constants_obey_the_laws_it_states():
    assert [len(kind) for kind in SHELF[:5]] >= [60, 90, 60, 20, 30]
    for motor in SHELF.motors:
        if motor.kind == "brushless":
            law = 7 / ((motor.kv_rpm_per_v * math.pi / 30) ** 2 * motor.mass ** (5 / 3))
            assert motor.resistance == pytest.approx(law, rel=0.02)
            assert motor.max_current * 3.7 * motor.max_cells / motor.mass == pytest.approx(3500, rel=0.1)
    for pack in SHELF.packs:
        energy = 3.7 * pack.cells * pack.capacity_ah
        assert 4 <= 1000 * pack.mass / energy <= 14
        assert pack.cell_resistance * 0.6 * pack.c_rating * pack.capacity_ah == pytest.approx(0.4, rel=0.02)
    for kind in SHELF[:5]:
        assert len({part.name for part in kind}) == len(kind)
