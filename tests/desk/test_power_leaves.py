"""The Power's leaves used by hand: match, flight, bench and bin."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import press, type_into
from ridgeline.files.design_file import load
from ridgeline.files.own_bin import load_bin
from ridgeline.library import demo_names, shipped_shelf

LEAVES = ("power.match", "power.flight", "power.bench", "power.bin")
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
    assert sheet.fit.of("power_factor")[0] == pytest.approx(1.0, abs=0.02)
    press(sheet.forget_button)
    assert desk.store.design.power.bench == ()


def test_a_bench_file_with_bad_rows_is_read_with_a_report(desk, tmp_path):
    path = tmp_path / "run.csv"
    path.write_text("throttle (%),voltage (V),current (A),rpm,thrust (g)\n50,12,x,6000,200\n60,11.9,4,7200,330\n")
    desk.open_sheet("power.bench")
    desk.sheet.read(str(path))
    assert len(desk.store.design.power.bench) == 1 and "1 left out" in desk.notice.words
    assert any("line 2" in words for words in desk.sheet.report_lines) and desk.sheet.fit is None
    assert "5 rows or more" in desk.sheet.why
    desk.grab()
    path.write_text("nothing,here\n1,2\n")
    desk.sheet.read(str(path))
    assert len(desk.store.design.power.bench) == 1 and "throttle" in desk.notice.words


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
