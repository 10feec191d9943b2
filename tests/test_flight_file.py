"""Recorded flights: tables of any make read or refused with a reason, and what a record tells."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.flights import Moment
from ridgeline.engine.flight.record import MOMENTS, moments_of, read_record
from ridgeline.errors import DesignError
from ridgeline.files.flight_file import flight_from_text, read_flight
from ridgeline.standins.flight_recorder import Flying, SimulatedRecorder


def test_columns_are_known_by_header_and_unit_in_any_order():
    read = flight_from_text("Alt (ft);Motor RPM;VBat (mV);t (ms);GPS speed (km/h);IAS (mph);Curr;thr\n"
                            "10;6000;11800;0;36;20;4,5;50\n20;6100;11700;500;72;30;5,5;60\n")  # fmt: skip
    first = read.record[0]
    assert first.at == 0 and read.record[1].at == pytest.approx(0.5)
    assert first.height == pytest.approx(3.048) and first.rpm == 6000 and first.voltage == pytest.approx(11.8)
    assert first.ground_speed == pytest.approx(10.0) and first.speed == pytest.approx(8.9408)
    assert first.current == 4.5 and first.throttle == pytest.approx(0.5)
    assert read.report == []


def test_what_is_no_speed_is_not_read_as_one():
    read = flight_from_text("time (s),motor speed (rpm),GPS altitude (m),battery current (A)\n0,6000,3,4\n1,6100,4,5\n")
    assert read.record[0].speed is None and read.record[0].ground_speed is None
    assert (read.record[0].rpm, read.record[0].height, read.record[0].current) == (6000, 3, 4)


def test_bad_rows_are_left_out_by_line_with_why():
    read = flight_from_text("time (s),current (A)\n0,4\n1,x\n1,5\n0.5,5\n3,999\n4,6\n40,6\n")
    told = "\n".join(read.report)
    assert "line 3 left out: current" in told and "line 5 left out: its time 0.5 s is not after" in told
    assert "line 6 left out: current 999; allowed: -5 to 400" in told
    assert "before line 8 nothing was recorded for 36 s" in told
    assert [moment.at for moment in read.record] == [0, 1, 4, 40]


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("current (A),voltage (V)\n1,2\n", "no time is told, beside current and voltage"),
        ("time (s)\n1\n", "the time alone"),
        ("time (s),current (A)\n1,2\n", "1 readable row"),
        ("", "a table with a header"),
    ],
)
def test_a_table_that_tells_no_flight_is_refused_with_one_that_would(text, words):
    with pytest.raises(DesignError, match=words) as refused:
        flight_from_text(text, "a.csv")
    assert "time (s)" in refused.value.allowed or "two or more" in refused.value.allowed


@given(st.text(alphabet='0123456789.,;\t\n"time(s)Acurent-e#/', max_size=200))
@settings(max_examples=150)
def test_whatever_stands_in_a_file_is_read_or_refused(text):
    try:
        read = flight_from_text(text)
    except DesignError:
        return
    assert len(read.record) >= 2
    assert all(b.at > a.at for a, b in zip(read.record, read.record[1:], strict=False))


def test_a_record_of_an_hour_is_read(tmp_path):
    place = tmp_path / "long.csv"
    place.write_text("time (s),current (A)\n" + "".join(f"{k / 10:.1f},5\n" for k in range(36_000)), "utf-8")
    assert len(read_flight(place).record) == MOMENTS


# -- what a record tells ----------------------------------------------------------------------------------------------


@given(st.integers(2, 3000), st.integers(0, 9))
@settings(max_examples=30)
def test_moments_hold_the_charge_of_the_record_they_stand_for(many, seed):
    at = np.cumsum(np.random.default_rng(seed).uniform(0.4, 0.6, many))
    record = moments_of({"at": at, "current": np.full(many, 6.0)})
    assert len(record) <= MOMENTS and all(moment.current == pytest.approx(6.0) for moment in record)
    used = read_record(record).used_ah
    if many > 400:
        # The ends of a record are the middles of its first and last moment.
        assert used == pytest.approx(6.0 * (at[-1] - at[0]) / 3600, rel=0.03)


def test_what_no_row_tells_no_moment_tells():
    record = moments_of(
        {"at": np.arange(8.0), "current": np.array([1, np.nan, 3, 4, 5, 6, 7, 8.0]), "height": np.full(8, np.nan)}
    )
    assert record[1].current is None and record[0].current == 1 and record[0].height is None


def test_resistance_comes_out_of_how_the_voltage_goes_with_the_current():
    at = np.arange(0.0, 200.0, 2.0)
    current = 6 + 4 * np.sin(at / 9)
    gone = np.concatenate(([0.0], np.cumsum(0.5 * (current[1:] + current[:-1]) * 2.0))) / 3600
    record = [
        Moment(at=t, current=i, voltage=12.4 - 0.045 * i - 1.5 * q) for t, i, q in zip(at, current, gone, strict=True)
    ]
    told = read_record(record).resistance
    assert told.value == pytest.approx(0.045, rel=1e-6)
    steady = [moment.model_copy(update={"current": 6.0}) for moment in record]
    assert read_record(steady).resistance is None


def test_too_short_a_record_tells_nothing():
    assert read_record([Moment(at=0.0, current=4.0), Moment(at=1.0, current=4.0)]).used_ah is None


def true_aircraft(throttle: float, charge: float) -> Flying:
    current = 14.0 * throttle**2
    return Flying(
        12.6 - 1.5 * (1 - charge) - 0.04 * current, current, 9 + 11 * throttle, 3.0 * throttle, 9000 * throttle
    )


@pytest.mark.parametrize("seed", [1, 2, 3])
def test_the_simulated_recorder_tells_what_the_true_aircraft_did(seed):
    recorder = SimulatedRecorder(true_aircraft, 2.2, seconds=300.0, cruise=0.55, seed=seed)
    text = recorder.download()
    read = flight_from_text(text)
    assert read.report == [] and len(read.record) == MOMENTS
    told = read_record(read.record)
    assert told.resistance.value == pytest.approx(0.04, rel=0.2)
    assert told.full_current.value == pytest.approx(14.0, rel=0.1)
    assert told.top_speed.value == pytest.approx(20.0, rel=0.06)
    assert 200 < told.aloft <= 300 and told.climb == pytest.approx(3.0, rel=0.3)
    again, other = (SimulatedRecorder(true_aircraft, 2.2, seconds=300.0, cruise=0.55, seed=k) for k in (seed, seed + 9))
    assert again.download() == text != other.download()
