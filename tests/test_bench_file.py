"""Tables of bench rows and of parts: forgiving, with a report, and nothing lost."""

import json

import pytest

from ridgeline.errors import DesignError
from ridgeline.files.bench_file import bench_from_text
from ridgeline.files.choices import data_folder
from ridgeline.files.coefficient_file import coefficients_from_text
from ridgeline.files.own_bin import OwnBin, load_bin, read_parts, save_bin
from ridgeline.library import shipped_shelf

SHELF = shipped_shelf()


def test_columns_are_known_by_header_and_unit_in_any_order():
    text = "# stand 2, prop 8×6\nTime (s);Thrust (gf);ESC signal (µs);Voltage (V);Current (A);Motor speed (RPM)\n"
    text += "0,5;412,5;1500;11,8;6,2;8200\n1,0;800;2000;11,5;15,1;11050\n"
    read = bench_from_text(text)
    assert [row.throttle for row in read.rows] == [0.5, 1.0]
    assert read.rows[0].thrust == pytest.approx(0.4125 * 9.80665) and read.rows[1].rpm == 11050
    assert read.report == ["column “Time (s)” left out: not needed"] and read.understood["thrust"].startswith("Thrust")


def test_bad_rows_are_left_out_and_named_by_line():
    text = "throttle (%),cell (V),voltage (mV),current (mA),rpm,thrust (N)\n50,1,11800,6200,8200,4.1\nx,1,1,1,1,1\n"
    text += "# a note\n140,1,11800,6200,8200,4.1\n60,1,11700,8000\n70,1,11600,nan,9000,5\n80,1,11500,11000,9800,6.2\n"
    read = bench_from_text(text)
    assert [round(row.throttle, 9) for row in read.rows] == [0.5, 0.6, 0.8] and read.rows[0].current == pytest.approx(
        6.2
    )
    # What a row does not tell is left open: it tells enough all the same.
    assert read.rows[1].rpm is None and read.rows[1].current == pytest.approx(8.0)
    lines = [entry for entry in read.report if entry.startswith("line")]
    assert [entry.split()[1] for entry in lines] == ["3", "5", "7"]
    assert "throttle “x” is no number" in lines[0] and "throttle 1.4" in lines[1]


@pytest.mark.parametrize("text", ["", "a,b\n1,2\n", "throttle,voltage\n1,2\n"])
def test_a_table_without_the_columns_is_refused_with_what_was_understood(text):
    with pytest.raises(DesignError) as refused:
        bench_from_text(text, "run.csv")
    assert "run.csv" in str(refused.value) and "thrust" in str(refused.value)


def test_watts_are_read_and_those_at_the_shaft_are_not():
    read = bench_from_text("Electrical power (W),Shaft power (W),Thrust (oz)\n120,80,16\n")
    assert read.rows[0].power == 120 and read.rows[0].thrust == pytest.approx(16 * 0.27801385)
    assert read.report == ["column “Shaft power (W)” left out: not needed"] and read.rows[0].throttle is None


def test_a_current_of_the_esc_is_no_throttle():
    text = "Throttle (%)\tESC current (A)\tESC voltage (V)\trpm\tThrust (g)\n50\t6\t11.8\t8000\t400\n"
    row = bench_from_text(text).rows[0]
    assert (row.throttle, row.current, row.voltage) == (0.5, 6.0, 11.8)


def test_the_bin_is_kept_and_comes_back_equal(own_data):
    own = OwnBin().with_part("motors", SHELF.motors[5].model_copy(update={"price": 19.5, "stock": 2}))
    own = own.with_part("packs", SHELF.packs[10].model_copy(update={"stock": 0}))
    save_bin(own)
    again, report = load_bin()
    assert again == own and report == []
    assert set(again.stocked) == {SHELF.motors[5].name}
    shelf = again.before(SHELF)
    assert shelf.motors[0].price == 19.5 and len(shelf.motors) == len(SHELF.motors)
    assert again.with_part("motors", own.motors[0].model_copy(update={"stock": 5})).motors[0].stock == 5
    assert again.without("motors", SHELF.motors[5].name).motors == ()


def test_a_bin_that_cannot_be_read_is_set_aside_and_bad_parts_are_named(own_data):
    (data_folder() / "bin.json").write_text("not json")
    empty, report = load_bin()
    assert empty == OwnBin() and "kept as bin.unread" in report[0]
    assert (data_folder() / "bin.unread").read_text() == "not json"
    good = SHELF.escs[0].model_dump(mode="json")
    (data_folder() / "bin.json").write_text(json.dumps({"escs": [good, {"name": "bad"}]}))
    some, report = load_bin()
    assert some.escs == (SHELF.escs[0],) and len(report) == 2 and "bin.unread2" in report[1]


def test_parts_are_read_from_a_table_in_the_shipped_headers(tmp_path):
    path = tmp_path / "mine.csv"
    path.write_text(
        "name,kv_rpm_per_v,resistance_mohm,no_load_current_a,mass_g,max_current_a,price,stock\n"
        "Drawer motor,1100,70,0.8,52,18,12.5,3\nBroken,fast,70,0.8,52,18,,\n"
    )
    kind, parts, report = read_parts(path)
    assert kind == "motors" and parts[0].kv_rpm_per_v == 1100 and parts[0].price == 12.5 and parts[0].stock == 3
    assert len(report) == 1 and "line 3" in report[0] and "“fast”" in report[0]
    path.write_text("a,b\n1,2\n")
    with pytest.raises(DesignError):
        read_parts(path)


def test_coefficients_are_read_in_any_order_and_bad_rows_named():
    rows, report = coefficients_from_text(
        "# 9×6\nCP,J,CT,eta\n0.05,0.2,0.09,x\n0.055,0,0.1,0\nbad,0.3,1,1\n0.04,0.5,0.04,0\n"
    )
    assert [row.advance for row in rows] == [0.0, 0.2, 0.5] and rows[0].thrust == 0.1
    assert len(report) == 1 and "line 5" in report[0]
    spaced, _report = coefficients_from_text("J CT CP\n0 0.1 0.05\n0.3 0.08 0.05\n0.6 0.02 0.03\n")
    assert len(spaced) == 3
    for text in ("J,CT\n0,1\n", "J,CT,CP\n0,0.1,0.05\n0.2,0.09,0.05\n"):
        with pytest.raises(DesignError):
            coefficients_from_text(text)
