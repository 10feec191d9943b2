"""The Power's leaves used by hand: match, flight, bench and bin."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import press, type_into
from ridgeline.files.design_file import load
from ridgeline.files.own_bin import load_bin
from ridgeline.library import demo_names, shipped_shelf

LEAVES = ("power.match", "power.flight", "power.drag", "power.wash", "power.bench", "power.bin")
SHELF = shipped_shelf()


@pytest.mark.parametrize("name", demo_names())
@pytest.mark.parametrize("key", LEAVES)
def test_each_leaf_paints_every_demo_small_and_large(open_window, name, key):
    window = open_window(load(f"demo:{name}"), first=key, size=(1100, 700))
    window.grab()
    window.resize(1920, 1080)
    QApplication.processEvents()
    assert not window.grab().isNull()


@pytest.mark.parametrize("key", LEAVES)
def test_each_leaf_paints_an_empty_design(open_window, key):
    assert not open_window(first=key).grab().isNull()


@pytest.fixture
def match(desk):
    desk.open_sheet("power.match")
    desk.sheet.finish_now()
    return desk.sheet


def test_a_match_is_chosen_seen_as_a_ghost_and_fitted_as_one_step(desk, match):
    before = desk.store.design
    assert match.found.fitting > 10 and match.matches.good > 3
    QTest.mouseClick(match.matches, Qt.MouseButton.LeftButton, pos=match.matches.place_of(2).center().toPoint())
    chosen = match.chosen
    assert desk.store.ghost[1].value("mass.auw") == pytest.approx(chosen.mass)
    desk.grab()
    press(match.fit_button)
    assert desk.store.design.power.motor.name == chosen.motor.name
    assert desk.store.report.value("power.thrust_ratio") == pytest.approx(chosen.ratio)
    desk.store.undo()
    assert desk.store.design == before


def test_keys_move_pin_and_fit(desk, match):
    match.matches.setFocus()
    for _ in range(2):
        QTest.keyClick(match.matches, Qt.Key.Key_Down)
    assert match.matches.chosen == 1 and "match 2 of" in match.matches.accessibleName()
    QTest.keyClick(match.matches, Qt.Key.Key_Space)
    assert match.pins == [match.chosen]
    desk.grab()
    QTest.keyClick(match.matches, Qt.Key.Key_Space)
    assert match.pins == []
    chosen = match.chosen
    QTest.keyClick(match.matches, Qt.Key.Key_Return)
    assert desk.store.design.power.propeller.name == chosen.propeller.name


def test_intents_order_the_rows(match):
    press(match.intents["longest"])
    times = [m.seconds for m in match.matches.rows[: match.matches.good]]
    assert times == sorted(times, reverse=True)
    press(match.intents["strongest"])
    ratios = [m.ratio for m in match.matches.rows[: match.matches.good]]
    assert ratios == sorted(ratios, reverse=True)


@pytest.mark.parametrize(
    ("scope", "same"),
    [("propeller", ("motor", "pack")), ("pack", ("motor", "propeller")), ("motor", ("propeller", "pack"))],
)
def test_one_link_is_varied_at_a_press(desk, match, scope, same):
    match.search_in(scope)
    match.finish_now()
    train = desk.store.design.power
    assert match.found.looked_at > 1
    for row in match.matches.rows:
        for link in same:
            assert getattr(row, link).name == getattr(train, link).name


def test_a_search_can_be_stopped_and_keeps_what_it_found(desk):
    desk.open_sheet("power.match")
    sheet = desk.sheet
    for _ in range(6):
        sheet._step()
    assert sheet.searching and 0 < sheet.progress < 1
    press(sheet.stop_button)
    assert not sheet.searching and 0 < sheet.found.looked_at < 30_000


def test_an_edit_elsewhere_is_searched_anew(desk, match):
    found = match.found
    desk.store.put("brief.endurance", 2400.0, "longer")
    assert match.searching
    match.finish_now()
    assert match.found.fitting < found.fitting
    desk.grab()


def test_a_ring_of_the_chart_chooses_its_match(desk, match):
    ring = match.found.front[3]
    QTest.mouseClick(match, Qt.MouseButton.LeftButton, pos=match._at(ring).toPoint())
    assert match.chosen.place == ring.place


def test_the_profile_is_typed_and_the_flight_follows(desk):
    desk.open_sheet("power.flight")
    before = desk.store.report.value("flight.endurance")
    type_into(desk.margin.dimensions.fields["brief.full_share"], "30 %")
    assert desk.store.report.value("flight.endurance") < 0.8 * before
    assert not desk.grab().isNull()


def test_the_stand_runs_and_what_it_measured_is_used_and_kept(desk):
    desk.open_sheet("power.bench")
    sheet, stated = desk.sheet, desk.store.design.power.motor.kv_rpm_per_v
    press(sheet.run_button)
    sheet._tick()
    assert sheet._running is not None
    desk.grab()
    sheet.finish_now()
    assert len(desk.store.design.power.bench) == 18 and sheet.fit is not None
    press(sheet.use_button)
    motor = desk.store.design.power.motor
    assert motor.stated_kv == stated and motor.kv_sigma is not None and motor.kv_rpm_per_v != stated
    assert "power.measured_kv" in {f.key for f in desk.store.report.findings}
    assert load_bin()[0].motors[0].kv_rpm_per_v == motor.kv_rpm_per_v
    desk.grab()
    # Measured again, the stand says the same of the motor that is now known.
    known = desk.store.design.power.propeller.power_factor
    assert known != 1.0 and sheet.fit.of("power_factor")[0] == pytest.approx(known, rel=0.02)
    press(sheet.forget_button)
    assert desk.store.design.power.bench == ()


def test_a_bench_file_with_bad_rows_is_read_with_a_report(desk, tmp_path):
    path = tmp_path / "run.csv"
    path.write_text("throttle (%),voltage (V),current (A),rpm,thrust (g)\n50,12,x,6000,200\n60,11.9,4,7200,330\n")
    desk.open_sheet("power.bench")
    desk.sheet.read(str(path))
    assert len(desk.store.design.power.bench) == 1 and "1 left out" in desk.notice.words
    assert any("line 2" in words for words in desk.sheet.report_lines)
    # One row is enough: it says what it can, and what stays of the class.
    assert desk.sheet.fit.used == 1 and "no-load current" in desk.sheet._verdict(desk.sheet.fit)[-1]
    desk.grab()
    path.write_text("nothing,here\n1,2\n")
    desk.sheet.read(str(path))
    assert len(desk.store.design.power.bench) == 1 and "throttle" in desk.notice.words


def test_a_reading_typed_on_the_bench_is_kept_used_and_undone_as_one(desk):
    desk.open_sheet("power.bench")
    sheet, before = desk.sheet, desk.store.design
    assert not sheet.add_button.isEnabled()
    # The volts alone ask what the model gives on them.
    type_into(sheet.readings["voltage"], "9")
    poor = sheet._promised()
    type_into(sheet.readings["voltage"], "11.4")
    assert poor.endswith("predicted") and poor != sheet._promised()
    for field, text in (("current", "14.5 A"), ("thrust", "780 g")):
        type_into(sheet.readings[field], text)
    assert sheet.add_button.isEnabled()
    press(sheet.add_button)
    (row,) = desk.store.design.power.bench
    assert (row.voltage, row.current, row.rpm, row.throttle) == (11.4, 14.5, None, None)
    assert row.thrust == pytest.approx(0.780 * 9.80665)
    assert desk.store.design.power.bench_fit is not None and desk.store.design.power.motor.kv_sigma is not None
    assert all(entry.text() == "" for entry in sheet.readings.values())
    desk.grab()
    desk.store.undo()
    assert desk.store.design == before


def test_volts_and_throttle_alone_are_no_reading(desk):
    desk.open_sheet("power.bench")
    sheet, before = desk.sheet, desk.store.design
    type_into(sheet.readings["voltage"], "11.4")
    type_into(sheet.readings["throttle"], "100 %")
    press(sheet.add_button)
    assert desk.store.design is before and "two or more of volts" in desk.notice.words
    for text in ("many", "900 A", "-2", "1e400"):
        type_into(sheet.readings["current"], text)
        assert sheet.readings["current"].value is None


def test_thrust_and_current_are_typed_straight_onto_the_chain(desk):
    desk.open_sheet("power")
    sheet, report = desk.sheet, desk.store.report
    sold = report.value("power.static_thrust"), report.figures["power.static_thrust"].sigma
    wanted = 1.15 * sold[0]
    type_into(sheet.typed_thrust, f"{1000 * wanted / 9.80665:.0f} g")
    now = desk.store.report
    assert now.value("power.static_thrust") == pytest.approx(wanted, rel=0.03)
    assert now.figures["power.static_thrust"].sigma < 0.6 * sold[1]
    type_into(sheet.typed_current, "13 A")
    rows = desk.store.design.power.bench
    assert len(rows) == 1 and rows[0].current == 13.0 and rows[0].throttle == 1.0
    assert desk.store.report.value("power.static_current") == pytest.approx(13.0, rel=0.04)
    desk.grab()
    # Another propeller forgets what was told of the two together; the rows stay.
    sheet.fit("propeller", SHELF.propellers[8])
    assert desk.store.design.power.bench_fit is None and desk.store.design.power.bench == rows
    for text in ("-3", "900", "1e300", "many", "0"):
        type_into(sheet.typed_thrust, text)
        assert desk.store.design.power.bench == rows and sheet.typed_thrust.property("wrong") == "true"
        QTest.keyClick(sheet.typed_thrust, Qt.Key.Key_Escape)


def test_the_bin_takes_parts_values_and_gives_them_to_the_match(desk, tmp_path):
    desk.open_sheet("power.bin")
    sheet = desk.sheet
    press(sheet.keep_button)
    assert len(load_bin()[0].stocked) == 4
    sheet.add("motors", SHELF.motors[30])
    sheet.add("motors", SHELF.motors[30])
    desk.grab()
    assert sheet.part.stock == 2
    fields = {field: entry for _label, field, entry in sheet.fields}
    type_into(fields["price"], "17.5")
    type_into(fields["mass"], "1.5 oz")
    kept = next(m for m in load_bin()[0].motors if m.name == SHELF.motors[30].name)
    assert kept.price == 17.5 and kept.mass == pytest.approx(0.04252, abs=1e-4)
    type_into(fields["max_cells"], "99")
    assert sheet.part.max_cells == SHELF.motors[30].max_cells
    type_into(fields["name"], "Drawer motor")
    assert sheet.part.name == "Drawer motor"
    press(sheet.fit_button)
    assert desk.store.design.power.motor.name == "Drawer motor"
    press(sheet.remove_button)
    assert "Drawer motor" not in load_bin()[0].stocked
    table = tmp_path / "packs.csv"
    table.write_text("name,cells,capacity_mah,cell_resistance_mohm,mass_g\nOld pack,3,1800,15,150\nBad,3,x,1,1\n")
    sheet.read(str(table))
    assert "Old pack" in load_bin()[0].stocked and "1 left out" in desk.notice.words
    desk.open_sheet("power.match")
    desk.sheet.search_in("bin")
    desk.sheet.finish_now()
    assert all(row.to_buy <= 1 for row in desk.sheet.matches.rows)


def test_parts_are_pressed_on_their_shelf(desk):
    desk.open_sheet("power.bin")
    sheet = desk.sheet
    for part in SHELF.packs[5:30]:
        sheet.add("packs", part)
    sheet.chosen = None
    desk.grab()
    rect, kind, name = sheet._places[0]
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=rect.center().toPoint())
    assert sheet.chosen == (kind, name)
    more, onward = sheet._more["packs"]
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=more.center().toPoint())
    desk.grab()
    assert onward > 0 and sheet._places[0][2] == sheet.own.packs[onward].name


def test_a_table_of_coefficients_stands_for_the_family(desk, tmp_path):
    path = tmp_path / "prop.csv"
    path.write_text("J,CT,CP\n0,0.10,0.05\n0.3,0.08,0.052\n0.6,0.03,0.035\n0.8,-0.01,0.01\n")
    desk.open_sheet("power")
    desk.sheet.read_coefficients(str(path))
    assert len(desk.store.design.power.propeller.table) == 4
    assert "of the table" in str(desk.store.report.figures["power.static_thrust"].working)
    path.write_text("J,CT\n0,1\n")
    desk.sheet.read_coefficients(str(path))
    assert "CP" in desk.notice.words


def test_the_wash_is_drawn_over_the_aircraft_and_follows_the_shaft(desk):
    desk.open_sheet("power.wash")
    sheet = desk.sheet
    assert "of the thrust" in sheet.subtitle() and len(sheet.found.tubes) == 1
    tube = sheet.found.tubes[0]
    assert tube.climbing[0] == pytest.approx(0.1016) and tube.standing[-1] == pytest.approx(0.1016 / 2**0.5, rel=0.02)
    assert tube.climbing[-1] > tube.standing[-1], "flying, the driven air narrows less"
    desk.grab()
    desk.store.put("power.mounts[0].x", 1.3, "behind it all")
    assert sheet.subtitle() == "nothing stands behind the propeller"
    desk.store.put("power.propeller.family", "ducted_fan", "a fan")
    assert sheet.found.tubes == ()
    desk.grab()


def test_an_empty_field_says_what_it_is_estimated_at_and_typing_ends_that(desk):
    desk.open_sheet("power")
    desk.store.select("power.pack")
    path = "power.pack.cell_resistance"
    field = next(f for f in desk.margin.dimensions.fields.values() if f.path == path)
    assert not field.text().startswith("≈")
    field.setFocus()
    field.selectAll()
    QTest.keyClick(field, Qt.Key.Key_Delete)
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert desk.store.design.power.pack.cell_resistance is None
    assert field.text() == "≈ 12", "0.4 V over 15 C honest × 2.2 Ah: 12 mΩ"
    desk.store.put("power.pack.capacity_ah", 1.1, "half")
    assert field.text() == "≈ 24"
    field.accept("≈ 30")
    assert desk.store.design.power.pack.cell_resistance is None, "what is estimated is not typed by pressing Enter"
    type_into(field, "15")
    assert desk.store.design.power.pack.cell_resistance == pytest.approx(0.015) and field.text() == "15"
