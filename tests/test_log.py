"""The log: charge and time, airspeed over the ground, packs that age, entries that cannot be, and what drag learns."""

from __future__ import annotations

import json
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.cli import main
from ridgeline.design.axes import all_discs
from ridgeline.design.flights import Flight, SightingKey, Signed, SpeedPass
from ridgeline.design.paths import apply, put
from ridgeline.engine.advice.measured import measured_pairs
from ridgeline.engine.bands import BAND
from ridgeline.engine.flight.airspeed import airspeed_of, ground_error
from ridgeline.engine.flight.battery import Told, charge_by_count, charge_by_rest, mean_current, resistance_trend
from ridgeline.engine.flight.entries import Able, doubts_of, row_of, slips_of
from ridgeline.engine.flight.learning import drag_from_speed
from ridgeline.engine.flight.level import level_currents, settles_at
from ridgeline.engine.flight.sightings import SIGHTINGS, WELL
from ridgeline.engine.flight.wake_cut import wakes_cut
from ridgeline.engine.pipeline import Evaluator, evaluate
from ridgeline.engine.power.pack import open_circuit_voltage
from ridgeline.engine.register import REGISTER
from ridgeline.errors import DesignError
from ridgeline.files.design_file import from_text, load, save, to_text

DAY = "2026-11-20"


def flight(**told) -> Flight:
    return Flight.model_validate({"day": DAY, "cells": 3, "capacity_ah": 2.2, **told})


def flown(*flights: Flight, name: str = "whimbrel"):
    return load(f"demo:{name}").model_copy(update={"flights": flights})


def findings_of(design, *words: str):
    return [one for one in evaluate(design).findings if one.stop == "flights" and all(w in one.key for w in words)]


# -- charge and time --------------------------------------------------------------------------------------------------


def test_thirteen_hundred_in_two_minutes_is_39_ampere():
    current, sigma = mean_current(1.3, 120.0)
    assert float(current) == pytest.approx(39.0)
    # A thumb that is five seconds late on two minutes outweighs the charger.
    assert float(sigma) == pytest.approx(39.0 * math.hypot(0.03, 5 / 120))


@given(st.floats(0.05, 5.0), st.floats(20.0, 3600.0))
def test_mean_current_times_time_is_the_charge(charge, seconds):
    current, sigma = mean_current(charge, seconds)
    assert float(current) * seconds / 3600 == pytest.approx(charge)
    assert 0 < float(sigma) < float(current)


@given(st.floats(0.02, 0.98))
def test_a_rested_cell_is_read_back_along_the_packs_own_curve(charge):
    pack = load("demo:whimbrel").power.pack
    told = charge_by_rest(float(open_circuit_voltage(pack, charge)) / pack.cells, pack)
    assert told.value == pytest.approx(charge, abs=0.005)


def test_a_cell_tells_little_where_its_curve_is_flat():
    pack = load("demo:whimbrel").power.pack
    assert charge_by_rest(3.78, pack).sigma > 2 * charge_by_rest(4.1, pack).sigma
    assert charge_by_rest(3.78, pack).sigma == pytest.approx(0.018 / 0.4, rel=0.6)


def test_what_was_put_back_tells_what_was_left():
    told = charge_by_count(1.1, 2.2)
    assert told.value == pytest.approx(0.5) and told.sigma == pytest.approx(0.5 * math.hypot(0.03, 0.03))


def test_a_straight_line_through_resistances_is_that_line():
    trend = resistance_trend([0.030, 0.032, 0.034, 0.036], [1.0] * 4)
    assert (trend.first, trend.last, trend.each, trend.sigma) == pytest.approx((0.030, 0.036, 0.002, 0.0), abs=1e-12)
    cold = resistance_trend([0.030, 0.064], [1.0, 2.0])
    assert cold.last == pytest.approx(0.032)
    assert resistance_trend([0.03], [1.0]) is None


# -- airspeed over the ground -----------------------------------------------------------------------------------------


@given(st.floats(8.0, 30.0), st.floats(0.0, 6.0), st.floats(30.0, 200.0))
def test_passes_both_ways_take_the_wind_out(speed, wind, length):
    passes = [
        SpeedPass(way=way, length=length, seconds=length / (speed + sign * wind))
        for way, sign in (("up", -1), ("down", 1))
    ]
    for known in (wind, None):
        assert airspeed_of(passes, known).value == pytest.approx(speed)


def test_a_pass_across_and_one_against_a_known_wind_tell_the_same_airspeed():
    up = [SpeedPass(way="up", speed=12.0)]
    across = [SpeedPass(way="across", speed=math.sqrt(15.0**2 - 3.0**2))]
    assert airspeed_of(up, 3.0).value == pytest.approx(15.0)
    assert airspeed_of(across, 3.0).value == pytest.approx(15.0)
    # A wind nobody measured makes one way worth little.
    assert airspeed_of(up, None).sigma > 2 * airspeed_of(up, 3.0).sigma
    assert airspeed_of([], 3.0) is None


def test_a_short_course_tells_less_than_a_long_one_and_a_paced_length_errs_alike_every_time():
    def course(length):
        return SpeedPass(way="up", length=length, seconds=length / 15.0)

    assert ground_error(course(30.0)) > 2 * ground_error(course(120.0))
    assert ground_error(course(120.0)) == pytest.approx(15.0 * math.hypot(0.21 * 15 / 120, 0.02))
    many = [SpeedPass(way=way, length=100.0, seconds=100 / 15.0) for way in ("up", "down") * 20]
    assert airspeed_of(many, 0.0).sigma > 15.0 * 0.02 / math.sqrt(2) - 1e-9


def test_bands_of_timed_passes_cover_the_airspeed_about_nine_times_in_ten():
    chance, inside = np.random.default_rng(3), 0
    for _k in range(600):
        speed, wind, length = 16.0, 3.0, 100.0
        paced = 1 + 0.02 * chance.normal()
        passes = []
        for way, sign in (("up", -1), ("down", 1)):
            ground = speed + sign * wind * (1 + 0.15 * chance.normal())
            passes.append(SpeedPass(way=way, length=length, seconds=length * paced / ground + 0.21 * chance.normal()))
        told = airspeed_of(passes, wind)
        inside += abs(told.value - speed) <= BAND * told.sigma
    assert 0.86 <= inside / 600 <= 0.97


@pytest.mark.parametrize("told", [{}, {"length": 100.0}, {"seconds": 5.0}])
def test_a_pass_says_a_speed_or_a_length_and_its_time(told):
    with pytest.raises(ValueError, match="a speed, or a length"):
        SpeedPass(**told)


# -- what cannot be ---------------------------------------------------------------------------------------------------

ABLE = Able(Told(14.6, 0.8), Told(20.0, 1.0), 5.3)


def test_a_mean_above_full_throttle_cannot_be_and_one_within_both_bands_can():
    row = row_of(flight(aloft=360.0, put_back_ah=1.7), None)
    (doubt,) = doubts_of(row, ABLE)
    assert doubt.kind == "current" and doubt.told == pytest.approx(17.0)
    edge = 14.6 + BAND * math.hypot(0.8, 15.8 * math.hypot(0.03, 5 / 360))
    for current, doubted in ((edge - 0.1, False), (edge + 0.2, True)):
        row = row_of(flight(aloft=360.0, put_back_ah=round(current / 10, 4)), None)
        assert bool(doubts_of(row, ABLE)) == doubted


@pytest.mark.parametrize(
    ("minutes", "mah", "meant"),
    [
        (6.0, 1700, ("put_back_ah", 0.7)),
        (2.0, 1300, ("aloft", 12 * 60.0)),
        (1.0, 850, ("aloft", 10 * 60.0)),
        (1.0, 400, ("aloft", 10 * 60.0)),
    ],
)
def test_the_likely_slip_is_a_digit_too_many_or_too_few(minutes, mah, meant):
    row = row_of(flight(aloft=60 * minutes, put_back_ah=mah / 1000), None)
    slips = slips_of(row, ABLE)
    assert meant in [(slip.field, pytest.approx(slip.value)) for slip in slips[:3]]
    assert all(0.3 * 5.3 < slip.current < 14.6 for slip in slips)
    near = [abs(math.log(slip.current / 5.3)) for slip in slips]
    assert near == sorted(near)


def test_more_than_a_pack_holds_and_a_level_pass_faster_than_a_dive_cannot_be():
    kinds = {doubt.kind for doubt in doubts_of(row_of(flight(put_back_ah=2.5), None), ABLE)}
    assert kinds == {"capacity"}
    assert not doubts_of(row_of(flight(put_back_ah=2.3), None), ABLE)
    fast = flight(wind=0.0, passes=({"way": "up", "speed": 33.0}, {"way": "down", "speed": 33.0}))
    assert {doubt.kind for doubt in doubts_of(row_of(fast, None), ABLE)} == {"speed"}


def test_charger_and_rested_cells_that_disagree_are_told_and_those_that_agree_are_not():
    power = load("demo:whimbrel").power
    volts = float(open_circuit_voltage(power.pack, 0.55)) / power.pack.cells
    assert not doubts_of(row_of(flight(put_back_ah=0.99, rested=volts), power), ABLE)
    row = row_of(flight(put_back_ah=0.3, rested=volts), power)
    assert [doubt.kind for doubt in doubts_of(row, ABLE)] == ["left"]
    # The charger is believed where the curve is flat.
    assert row.left == row.by_count


def test_an_impossible_flight_is_found_with_why_and_one_press_puts_it_right():
    good = flight(aloft=570.0, put_back_ah=0.84, id="t1")
    design = flown(good, flight(aloft=360.0, put_back_ah=1.7, id="t2"))
    (finding,) = findings_of(design, "doubt.t2")
    assert str(finding.text) == "Flight 2 cannot be: 1700 mAh in 6.0 min."
    assert "17.0 A" in str(finding.reason) and finding.level == "look"
    fixed = [apply(design, remedy.changes) for remedy in finding.remedies]
    assert len(fixed) == 2 and not any(findings_of(one, "doubt.t2") for one in fixed)
    assert evaluate(design).value("log.mean_current") == pytest.approx(3600 * 0.84 / 570)


# -- figures of the log -----------------------------------------------------------------------------------------------


def test_figures_of_the_log_are_sums_over_what_can_be_believed_of_the_newest_version():
    design = flown(
        flight(aloft=300.0, put_back_ah=0.2, version=1),
        flight(aloft=600.0, put_back_ah=0.9, version=2),
        flight(aloft=300.0, put_back_ah=0.45, version=2),
        flight(aloft=60.0, put_back_ah=2.1, version=2),
    )
    report = evaluate(design)
    assert report.value("log.flights") == 4 and report.value("log.minutes") == pytest.approx(1260.0)
    figure = report.figures["log.mean_current"]
    assert figure.value == pytest.approx(3600 * 1.35 / 900) and "version 2" in figure.working.note
    assert figure.sigma == pytest.approx(figure.value * math.hypot(0.03, 5 * math.sqrt(2) / 900), rel=1e-3)
    empty = evaluate(load("demo:whimbrel"))
    assert empty.value("log.minutes") is None and "no flight" in empty.figures["log.minutes"].why_not


def test_top_speeds_of_flights_are_weighed_by_how_sure_each_is_and_stretch_where_they_disagree():
    def passes(speed):
        return ({"way": "up", "speed": speed}, {"way": "down", "speed": speed})

    near = evaluate(flown(flight(passes=passes(18.0), wind=0.0), flight(passes=passes(18.2), wind=0.0)))
    far = evaluate(flown(flight(passes=passes(16.0), wind=0.0), flight(passes=passes(20.0), wind=0.0)))
    one = evaluate(flown(flight(passes=passes(18.0), wind=0.0)))
    assert near.value("log.top_speed") == pytest.approx(18.1, abs=0.02)
    assert far.figures["log.top_speed"].sigma > 3 * near.figures["log.top_speed"].sigma
    assert near.figures["log.top_speed"].sigma < one.figures["log.top_speed"].sigma
    slow = ({"way": "up", "speed": 9.0, "throttle": 0.5},)
    assert evaluate(flown(flight(passes=slow))).value("log.top_speed") is None


def test_five_hundred_flights_are_read_once_and_an_edit_of_the_wing_reads_none_again():
    rows = tuple(flight(id=f"t{k}", aloft=400.0 + k, put_back_ah=0.6) for k in range(500))
    design = flown(*rows)
    evaluator = Evaluator()
    first = evaluator(design).results.logged.rows
    again = evaluator(put(design, "surfaces[0].stations[1].chord", 0.15)).results.logged.rows
    assert all(a is b for a, b in zip(first, again, strict=True))
    more = evaluator(put(design, "flights[7].aloft", 333.0)).results.logged.rows
    assert [a is b for a, b in zip(first, more, strict=True)].count(False) == 1


# -- what drag learns -------------------------------------------------------------------------------------------------


@given(st.floats(0.6, 1.6), st.floats(1.0, 4.0), st.floats(0.005, 0.1), st.floats(0.01, 0.3), st.floats(0.02, 0.3))
def test_drag_from_speed_is_the_posterior_of_two_normal_logarithms(ratio, slope, speed, thrust, drag):
    told = drag_from_speed(ratio, slope, speed_share=speed, thrust_share=thrust, drag_share=drag)
    # By the two-dimensional update: unknowns ln D and ln T, one measurement of their difference.
    P, h, r = np.diag([drag**2, thrust**2]), np.array([1.0, -1.0]), (slope * speed) ** 2
    gain = P @ h / (h @ P @ h + r)
    assert math.log(told.value) == pytest.approx(gain[0] * math.log(ratio), rel=1e-9)
    assert told.sigma**2 == pytest.approx((P - np.outer(gain, h @ P))[0, 0], rel=1e-6)


def fast_passes(speed: float) -> Flight:
    return flight(wind=0.0, passes=({"way": "up", "speed": speed}, {"way": "down", "speed": speed}))


@pytest.mark.parametrize("share", [0.9, 1.1])
def test_a_measured_speed_is_taken_into_the_drag_by_one_press_and_back_by_one(share):
    predicted = evaluate(load("demo:whimbrel")).figures["speed.max"]
    design = flown(fast_passes(share * predicted.value))
    (finding,) = findings_of(design, "speed")
    (way,) = finding.remedies
    taken = apply(design, way.changes)
    after = evaluate(taken).figures["speed.max"]
    # Nearer to what was measured, not all the way: thrust was doubted too. And surer than before.
    assert abs(after.value - share * predicted.value) < 0.85 * abs(predicted.value - share * predicted.value)
    assert (after.value - predicted.value) * (share - 1) > 0 and after.sigma < predicted.sigma
    assert taken.learnt.drag_factor > 1 if share < 1 else taken.learnt.drag_factor < 1
    (settled,) = findings_of(taken, "drag")
    back = apply(taken, settled.remedies[0].changes)
    assert back.learnt == design.learnt and evaluate(back).value("speed.max") == predicted.value


def test_a_speed_as_predicted_leaves_the_drag_alone():
    predicted = evaluate(load("demo:whimbrel")).value("speed.max")
    (finding,) = findings_of(flown(fast_passes(predicted)), "speed")
    assert finding.remedies == () and finding.level == "settled"
    (finding,) = findings_of(flown(fast_passes(1.4 * predicted)), "speed")
    assert finding.level == "look"


# -- packs, repairs, sightings ----------------------------------------------------------------------------------------


def test_a_pack_that_ages_is_told_and_one_that_scatters_is_not():
    aging = flown(*(flight(pack="A", resistance=0.030 + 0.005 * k) for k in range(6)))
    (finding,) = findings_of(aging, "pack")
    assert finding.level == "look" and "83 %" in str(finding.text)
    assert not findings_of(flown(*(flight(pack="A", resistance=r) for r in (0.03, 0.045, 0.028, 0.042))), "pack")
    assert not findings_of(flown(*(flight(pack="A", resistance=0.030 + 0.001 * k) for k in range(6))), "pack")


def test_a_repair_is_carried_where_it_was_made():
    wing = load("demo:whimbrel").surfaces[0]
    design = flown(flight(id="t1", repair=0.012, repaired=wing.id))
    (finding,) = findings_of(design, "repair")
    carried = apply(design, finding.remedies[0].changes)
    gained = evaluate(carried).value("mass.auw") - evaluate(design).value("mass.auw")
    assert gained == pytest.approx(0.012, abs=1e-9) and not findings_of(carried, "repair")
    nowhere = flown(flight(id="t1", repair=0.012))
    assert findings_of(nowhere, "repair")[0].remedies == ()


def test_warmth_noise_and_shaking_are_answered_with_the_models_figures():
    report = evaluate(flown(flight(seen=("hot_motor", "hot_pack", "hot_controller", "noisy", "vibrates", "steady"))))
    told = {one.key: f"{one.text} {one.reason}" for one in report.findings if "flights.seen" in one.key}
    assert len(told) == 5
    turns = report.value("power.static_rpm") / 60
    assert f"{turns:.0f} times a second" in told["flights.seen.vibrates"]
    assert f"{report.value('power.static_current'):.1f} A" in told["flights.seen.hot_pack"]
    assert f"{report.value('power.motor_heat'):.0f} W" in told["flights.seen.hot_motor"]


def test_only_what_was_seen_of_the_newest_version_is_answered():
    design = flown(flight(seen=("noisy",), version=2), flight(seen=("vibrates",), version=1))
    assert [one.key for one in findings_of(design, "seen")] == ["flights.seen.noisy"]


def test_a_pusher_close_behind_the_wing_cuts_its_wake_and_one_ahead_does_not():
    design = load("demo:whimbrel")
    wing = design.surfaces[0]
    edge = wing.x + wing.stations[0].x + wing.stations[0].chord
    mount = design.power.mounts[0].model_copy(update={"z": wing.z, "y": 0.0})
    ahead = mount.x - all_discs(design.power)[0][0]
    for back, cut in ((edge + 0.02, True), (edge + 0.6, False), (wing.x - 0.1, False)):
        train = design.power.model_copy(update={"mounts": (mount.model_copy(update={"x": back + ahead}),)})
        found = [one.surface for one in wakes_cut(design.surfaces, train)]
        assert (0 in found) == cut, back


def test_every_sighting_of_the_document_has_words_and_figures_that_exist():
    assert set(SIGHTINGS) == set(SightingKey.__args__)
    assert len({sighting.words for sighting in SIGHTINGS.values()}) == len(SIGHTINGS)
    assert all(key in REGISTER for sighting in SIGHTINGS.values() for key in sighting.figures)
    assert set(WELL) < set(SIGHTINGS)


# -- the command line -------------------------------------------------------------------------------------------------


def test_the_log_is_printed_and_given_to_scripts(tmp_path, capsys):
    design = flown(flight(aloft=360.0, put_back_ah=1.7, seen=("up_trim",)), flight(aloft=600.0, put_back_ah=0.8))
    place = tmp_path / "a.ridge"
    save(design, place)
    assert main(["log", str(place)]) == 0
    told = capsys.readouterr().out
    assert "needs up trim" in told and "CANNOT BE" in told and "In the air: 16.0 min" in told
    assert main(["log", str(place), "--json"]) == 0
    data = json.loads(capsys.readouterr().out)
    assert data["flights"][0]["doubts"][0]["kind"] == "current" and data["flights"][0]["meant"]
    assert data["flights"][1]["mean_current"]["value"] == pytest.approx(4.8)
    assert data["figures"]["log.minutes"]["value"] == pytest.approx(960.0)
    assert from_text(to_text(design), "x") == load(str(place))


def test_versions_and_files_are_compared_by_command(tmp_path, capsys):
    from ridgeline.design.keeping import counted, keep

    design = keep(load("demo:whimbrel").model_copy(update={"revision": 1}))
    later = keep(counted(design, put(design, "surfaces[0].stations[1].chord", 0.16)))
    place = tmp_path / "a.ridge"
    save(later, place)
    assert main(["compare", str(place), "1", "2"]) == 0
    assert "wing.area" in capsys.readouterr().out
    assert main(["compare", str(place), "2"]) == 0
    assert "nothing differs" in capsys.readouterr().out
    assert main(["compare", str(place), "demo:dunlin", "--json"]) == 0
    data = json.loads(capsys.readouterr().out)
    assert data["other"] == "demo:dunlin" and data["figures"]["wing.area"]["one"]["value"] > 0
    for words in (["7"], ["1", "x"], ["nowhere.ridge"]):
        assert main(["compare", str(place), *words]) == 2
        assert capsys.readouterr().err.count("\n") == 1


def test_a_flight_that_cannot_be_written_is_refused_with_what_is_allowed():
    with pytest.raises(DesignError, match="flights"):
        put(load("demo:whimbrel"), "flights[-]", {"aloft": -5.0})
    with pytest.raises(DesignError, match="each sighting once"):
        put(load("demo:whimbrel"), "flights[-]", {"seen": ["noisy", "noisy"]})


def test_a_tip_that_goes_fast_and_a_wake_that_is_cut_near_are_called_loud():
    design = flown(flight(seen=("noisy",)))
    report = evaluate(design)
    mach = report.value("power.tip_mach")
    (finding,) = findings_of(design, "noisy")
    assert ("larger and slower" in str(finding.reason)) == (mach > 0.45)
    small = put(put(design, "power.propeller.diameter", 0.12), "power.propeller.pitch", 0.05)
    fast = put(put(small, "power.motor.kv_rpm_per_v", 3300.0), "power.pack.cells", 4)
    assert 0.45 < evaluate(fast).value("power.tip_mach") < 0.7
    assert "larger and slower is quieter" in str(findings_of(fast, "noisy")[0].reason)


def test_level_flight_draws_what_the_chain_draws_for_the_drag():
    design = load("demo:whimbrel")
    found = evaluate(design).results
    curve = level_currents(found.pulling, found.polar, found.masses.state.mass, found.speeds.stall, found.air.viscosity)
    assert curve.speed[0] == pytest.approx(found.speeds.stall) and (curve.current > 0).all()
    assert (curve.low <= curve.current).all() and (curve.high >= curve.current).all()
    # Where it ends full throttle is drawn, at about top speed.
    top = evaluate(design).value("speed.max")
    most = float(np.interp(top, found.pulling.speed, found.pulling.point.pack_current))
    assert float(np.interp(top, curve.speed, curve.current)) == pytest.approx(most, rel=0.03)


def test_an_aircraft_settles_where_thrust_meets_drag():
    design = load("demo:whimbrel")
    report = evaluate(design)
    found = report.results
    settled = settles_at(
        found.pulling, found.polar, found.masses.state.mass, found.speeds.stall, found.air.viscosity, 4.0
    )  # fmt: skip
    full = settled(1.0, 0.6)
    assert full.speed == pytest.approx(report.value("speed.max"), rel=0.05) and full.climb == pytest.approx(4.0)
    assert settled(0.0, 1.0).current == 0.0 and settled(0.6, 0.6).speed < full.speed
    assert settled(1.0, 1.0).current > settled(1.0, 0.2).current


def test_what_was_measured_stands_beside_what_is_predicted_with_the_error_of_its_tool():
    design = put(flown(flight(mass=0.751, balance=0.28)), "signed", (Signed(line="full", read=12.0),))
    report = evaluate(design)
    pairs = {pair.label: pair for pair in measured_pairs(design, report)}
    ref = report.results.shape.reference
    assert pairs["All-up weight"].measured == (0.751, 0.001)
    assert pairs["Balance"].measured == pytest.approx((ref.fraction(0.28), 0.0015 / ref.mac))
    assert pairs["Full throttle"].measured == pytest.approx((12.0, 0.03 * 12.0))
    assert pairs["Top speed"].measured is None
    assert len(measured_pairs(load("demo:plover"), evaluate(load("demo:plover")))) == 2
