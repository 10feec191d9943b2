"""The leaves of the Flights: the log by keys, the watch, passes, the setup list, as built, records, and versions."""

import pytest
from flown_season import fly_the_season
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import press, type_into
from ridgeline.design.as_built import Levelled
from ridgeline.design.document import Design
from ridgeline.design.flights import Flight
from ridgeline.design.keeping import at, counted, flown, keep, next_flight, same_aircraft
from ridgeline.design.paths import put
from ridgeline.desk.sheets.flights.seen_picks import _KEYS
from ridgeline.desk.stops import STOP, headline
from ridgeline.engine.flight.sightings import SIGHTINGS
from ridgeline.engine.geometry.placed import placed_at
from ridgeline.files.design_file import load, save
from ridgeline.library import gallery_names

LEAVES = ("flights", "flights.setup", "flights.built", "flights.record", "flights.versions")


def season(many=3):
    """The sample with two versions and some flights on the second."""
    design = keep(load("demo:whimbrel"), name="first")
    design = keep(counted(design, put(design, "surfaces[0].stations[1].chord", 0.165)), name="wider tip")
    for k in range(many):
        flight = next_flight(design).model_copy(update={"aloft": 300.0 + k, "put_back_ah": 0.4, "wind": 2.0})
        design = flown(design, flight, day="2026-11-27")
    return design


@pytest.fixture
def leaf(open_window):
    """Return a function that opens a leaf on a design."""

    def at_leaf(key="flights", design=None, **more):
        window = open_window(design or season(), first=key, **more)
        QApplication.processEvents()
        return window, window.sheet

    return at_leaf


def emptied(field):
    """Take all of a field's text out."""
    field.setFocus()
    field.selectAll()
    QTest.keyClick(field, Qt.Key.Key_Delete)
    QTest.keyClick(field, Qt.Key.Key_Return)
    live()


def live():
    for _ in range(3):
        QApplication.processEvents()


@pytest.mark.parametrize("name", sorted(gallery_names()))
@pytest.mark.parametrize("size", [(1280, 800), (1100, 700)])
def test_every_leaf_of_every_sample_is_drawn(leaf, caplog, name, size):
    window, _sheet = leaf(LEAVES[0], load(f"demo:{name}"), size=size)
    for key in LEAVES:
        window.open_sheet(key)
        live()
        window.sheet.grab()
        assert window.sheet.subtitle()
    assert not caplog.records


def test_the_leaves_of_an_empty_design_say_so_and_take_no_key(leaf, caplog):
    window, sheet = leaf("flights", Design())
    for key in LEAVES:
        window.open_sheet(key)
        live()
        window.sheet.grab()
        assert window.sheet.empty
    window.open_sheet("flights")
    QTest.keyClick(sheet, Qt.Key.Key_N)
    assert window.store.design == Design() and not caplog.records


def test_a_season_is_set_up_flown_compared_and_gone_back_to(open_window):
    fly_the_season(open_window(load("demo:whimbrel"), first="shape"))


# -- the log ----------------------------------------------------------------------------------------------------------


def test_the_headline_and_the_subtitle_tell_what_was_flown(leaf):
    window, sheet = leaf()
    assert headline(window.store, STOP["flights"]) == "3 flown, 15.0 min"
    assert sheet.subtitle() == "15 min in 3 flights; measured against predicted"
    window, sheet = leaf(design=load("demo:whimbrel"))
    assert headline(window.store, STOP["flights"]) == "not flown yet" and sheet.subtitle() == "nothing flown yet"


def test_a_flight_is_told_beside_the_log_and_the_one_above_it_by_an_arrow(leaf):
    window, sheet = leaf()
    assert sheet.place == 2 and "flights[2].aloft" in window.margin.dimensions.fields
    sheet.log.setFocus()
    QTest.keyClick(sheet.log, Qt.Key.Key_Up)
    live()
    assert sheet.place == 1 and "flights[1].aloft" in window.margin.dimensions.fields
    QTest.keyClick(sheet.log, Qt.Key.Key_Home)
    assert sheet.place == 0


def test_the_next_flight_is_as_the_last_one_and_tells_nothing_that_was_not_measured(leaf):
    window, sheet = leaf()
    press(sheet.new_button)
    fresh = window.store.design.flights[-1]
    assert (fresh.capacity_ah, fresh.cells, fresh.wind, fresh.version) == (2.2, 3, 2.0, window.store.design.revision)
    assert fresh.aloft is None and fresh.put_back_ah is None and fresh.seen == ()
    window.store.undo()
    assert len(window.store.design.flights) == 3


def test_an_aircraft_that_was_changed_is_kept_as_a_version_by_flying_it(leaf):
    window, sheet = leaf()
    versions = window.store.design.versions
    window.store.put("surfaces[0].stations[1].chord", 0.15, "Tip")
    press(sheet.new_button)
    kept = window.store.design.versions[-1]
    assert len(window.store.design.versions) == len(versions) + 1 and kept.kept == "flown"
    assert window.store.design.flights[-1].version == kept.number
    assert same_aircraft(at(window.store.design, kept.number), window.store.design)


def test_trims_are_typed_in_degrees_or_in_clicks(leaf):
    window, _sheet = leaf()
    fields = window.margin.dimensions.fields
    type_into(fields["flights[2].trim_pitch"], "2.1")
    assert window.store.design.flights[2].trim_pitch == pytest.approx(0.03665, abs=1e-5)
    type_into(fields["flights[2].trim_pitch"], "5 clicks")
    control = next(
        one for surface in window.store.design.surfaces for one in surface.controls if one.kind == "ruddervator"
    )
    full = window.store.report.value(f"controls.{control.id}.up")
    assert window.store.design.flights[2].trim_pitch == pytest.approx(5 * 0.01 * full)
    type_into(fields["flights[2].trim_pitch"], "-3 clicks")
    assert window.store.design.flights[2].trim_pitch < 0


def test_what_was_typed_wrong_is_refused_where_it_stands(leaf):
    window, _sheet = leaf()
    field = window.margin.dimensions.fields["flights[2].rested"]
    type_into(field, "11.4")
    assert field.property("wrong") == "true" and window.store.design.flights[2].rested is None
    field = window.margin.dimensions.fields["flights[2].pack"]
    type_into(field, "A")
    assert window.store.design.flights[2].pack == "A"
    emptied(field)
    assert window.store.design.flights[2].pack == ""


def test_the_watch_writes_what_it_shows_into_the_flight(leaf, monkeypatch):
    from ridgeline.desk.sheets.flights import log

    now = [100.0]
    monkeypatch.setattr(log, "monotonic", lambda: now[0])
    window, sheet = leaf()
    sheet.setFocus()
    QTest.keyClick(sheet, Qt.Key.Key_W)
    now[0] += 252.4
    sheet._tick()
    assert "4:12" in sheet.watch_button.text()
    QTest.keyClick(sheet, Qt.Key.Key_W)
    assert window.store.design.flights[2].aloft == pytest.approx(252.4)
    assert sheet.elapsed == 0.0 and "Start" in sheet.watch_button.text()


def test_the_watch_writes_into_the_flight_it_was_started_for_whichever_is_looked_at(leaf):
    window, sheet = leaf()
    press(sheet.watch_button)
    sheet.log.choose(0)
    press(sheet.watch_button)
    flights = window.store.design.flights
    assert flights[0].aloft == 300.0 and flights[2].aloft < 300.0


def test_a_watch_without_a_flight_begins_one(leaf):
    window, sheet = leaf(design=load("demo:whimbrel"))
    press(sheet.watch_button)
    assert len(window.store.design.flights) == 1 and sheet.elapsed >= 0.0
    press(sheet.watch_button)
    assert window.store.design.flights[0].aloft >= 1.0


def test_passes_are_typed_in_seconds_or_as_a_speed(leaf):
    window, sheet = leaf()
    type_into(sheet.course_field, "120 m")
    type_into(sheet.pass_fields["up"], "6.0")
    type_into(sheet.pass_fields["down"], "24 m/s")
    passes = window.store.design.flights[2].passes
    assert [(one.way, one.over_ground) for one in passes] == [
        ("up", pytest.approx(20.0)),
        ("down", pytest.approx(24.0)),
    ]
    assert window.store.report.value("log.top_speed") == pytest.approx(22.0)
    type_into(sheet.pass_fields["up"], "soon")
    assert sheet.pass_fields["up"].property("wrong") == "true"
    window.margin.dimensions.acts["Last pass out"].click()
    assert len(window.store.design.flights[2].passes) == 1


def test_a_sighting_is_ticked_by_a_press_and_again_taken_back(leaf):
    window, sheet = leaf()
    place = sheet.seen.place_of("noisy").center().toPoint()
    QTest.mouseClick(sheet.seen, Qt.MouseButton.LeftButton, pos=place)
    assert window.store.design.flights[2].seen == ("noisy",)
    assert any("noisy" in str(finding.text) for finding in window.store.findings)
    QTest.mouseClick(sheet.seen, Qt.MouseButton.LeftButton, pos=place)
    assert window.store.design.flights[2].seen == ()


@pytest.mark.parametrize("size", [(1100, 700), (1280, 800), (1920, 1080)])
def test_every_sighting_stands_in_view(leaf, size):
    _window, sheet = leaf(size=size)
    for key in _KEYS:
        assert sheet.seen.rect().contains(sheet.seen.place_of(key).toAlignedRect().adjusted(1, 1, -1, -2)), key
    assert len(_KEYS) == len(SIGHTINGS)


def test_what_is_impossible_is_put_right_by_its_button(leaf):
    design = season()
    design = put(design, "flights[1].put_back_ah", 2.1)
    window, sheet = leaf(design=design)
    assert "1 cannot be" in sheet.subtitle()
    finding = next(one for one in window.store.findings if "doubt" in one.key)
    window.store.apply_remedy(finding.remedies[0])
    assert "cannot" not in sheet.subtitle()


# -- the setup list ---------------------------------------------------------------------------------------------------


def test_a_box_is_ticked_by_a_press_and_taken_back_by_another(leaf):
    window, sheet = leaf()
    row = next(k for k, one in enumerate(sheet.setup.rows) if one.lines[0].key == "plugs")
    at_box = QPoint(6, int(sheet.setup._top(row) + sheet.setup.row_height / 2))
    QTest.mouseClick(sheet.setup, Qt.MouseButton.LeftButton, pos=at_box)
    assert [one.line for one in window.store.design.signed] == ["plugs"]
    QTest.mouseClick(sheet.setup, Qt.MouseButton.LeftButton, pos=at_box)
    assert window.store.design.signed == ()


def test_a_line_that_is_walked_or_read_turns_to_where_that_is_done(leaf):
    window, sheet = leaf()
    keys = [row.lines[0].key for row in sheet.setup.rows]
    sheet.setup.turned.emit(keys.index("directions"))
    assert window.open_key == "controls.radio"
    window.open_sheet("flights")
    sheet.setup.turned.emit(keys.index("wind"))
    assert window.open_key == "flights.setup"


def test_what_is_read_signs_its_line_and_what_is_off_is_said(leaf):
    window, sheet = leaf("flights.setup")
    rows = [row.lines[0].key for row in sheet.list.rows]
    sheet.list.choose(rows.index("throw_up"))
    live()
    # Millimetres at the trailing edge are as good as degrees.
    type_into(sheet.reading, "40 mm")
    assert len(window.store.design.signed) == 1
    finding = next(one for one in window.store.findings if one.key.startswith("flights.setup.throw_up"))
    assert finding.level == "stop" and "was read" in str(finding.reason)
    sheet.list.choose(rows.index("centred"))
    live()
    press(sheet.wrong_button)
    assert window.store.design.signed[-1].good is False


def test_the_balance_expected_follows_what_is_not_on_yet(leaf):
    window, sheet = leaf("flights.setup")
    rows = [row.lines[0].key for row in sheet.list.rows]
    sheet.list.choose(rows.index("balance"))
    live()
    words = window.margin.dimensions.words
    battery = next(item for item in window.store.design.parts if item.component == "pack")
    before = sheet.line.low
    words[battery.name].choose("off")
    live()
    assert battery.id in window.store.design.log_book.absent and sheet.line.low != before
    words = window.margin.dimensions.words
    words[battery.name].choose("on")
    live()
    assert sheet.line.low == pytest.approx(before)


def test_a_finished_model_is_weighed_without_what_is_not_on_yet(leaf):
    window, sheet = leaf("weights.finish")
    masses = window.store.report.results.masses.state
    battery = next(item for item in window.store.design.parts if item.component == "pack")
    sheet.read()
    whole = sheet.found
    window.store.put("log_book.absent", (battery.id,), "Pack not on")
    live()
    sheet.read()
    assert sum(sheet.readings) < whole.mass - 0.05
    # What is not on is counted to it as it is expected.
    assert sheet.found.mass == pytest.approx(whole.mass, rel=0.02)
    assert float(sheet.found.cg[0]) == pytest.approx(float(whole.cg[0]), abs=0.006)
    assert masses.mass < sheet.found.mass


# -- as built ---------------------------------------------------------------------------------------------------------


def test_heights_are_typed_two_in_a_field_and_tell_the_angles(leaf):
    window, sheet = leaf("flights.built")
    wing = window.store.design.surfaces[0]
    for field in (one for one in sheet.fields if one.of == wing.id):
        here = placed_at(wing, [sheet._out(wing, field.share)], warp=0.02 if field.side == "starboard" else 0.0)
        ends = [1000 * (0.3 + float(end[0, 2])) for end in (here.leading, here.trailing)]
        type_into(field, f"{ends[0]:.2f} / {ends[1]:.2f}")
    assert len(window.store.design.as_built.levelled) == 6
    finding = next(one for one in window.store.findings if one.key == f"flights.built.{wing.id}")
    assert "twisted" in str(finding.text) and "starboard nose up" in str(finding.text)
    window.store.apply_remedy(finding.remedies[0])
    finding = next(one for one in window.store.findings if one.key == f"flights.built.{wing.id}")
    assert "came out as drawn" in str(finding.text)
    emptied(sheet.fields[0])
    assert len(window.store.design.as_built.levelled) == 5
    window.margin.dimensions.acts["Measure anew"].click()
    assert window.store.design.as_built.levelled == ()


@pytest.mark.parametrize("text", ["312", "312 / x", "900 / 100", "1 / 2 / 3"])
def test_heights_that_cannot_be_are_refused_in_their_field(leaf, text):
    window, sheet = leaf("flights.built")
    type_into(sheet.fields[0], text)
    assert sheet.fields[0].property("wrong") == "true" and window.store.design.as_built.levelled == ()


def test_a_reading_of_the_file_near_a_place_is_shown_there(leaf):
    design = load("demo:whimbrel")
    wing = design.surfaces[0]
    out = wing.stations[0].y + 0.5 * (wing.stations[-1].y - wing.stations[0].y)
    rows = (Levelled(of=wing.id, side="port", out=out, leading=0.312, trailing=0.305),)
    _window, sheet = leaf("flights.built", put(design, "as_built.levelled", rows))
    field = next(one for one in sheet.fields if one.of == wing.id and one.side == "port" and one.share == 0.5)
    assert field.text() == "312 / 305"


def test_diagonals_tell_how_far_the_wing_stands_askew(leaf):
    window, sheet = leaf("flights.built")
    field = sheet.diagonals[0]
    type_into(field, "900 / 906")
    assert len(window.store.design.as_built.diagonals) == 1
    assert any("askew" in str(one.text) for one in window.store.findings)
    type_into(field, "9000 / 9")
    assert field.property("wrong") == "true"


# -- records ----------------------------------------------------------------------------------------------------------


def test_the_simulated_recorder_is_read_into_the_flight_and_its_charge_taken(leaf, caplog):
    window, sheet = leaf("flights.record")
    told = []
    window.store.noted.connect(told.append)
    press(sheet.simulate_button)
    live()
    flight = window.store.design.flights[2]
    assert len(flight.record) == 80 and "80 moments" in told[0]
    sheet.grab()
    window.margin.dimensions.acts["Take charge and time"].click()
    flight = window.store.design.flights[2]
    assert flight.put_back_ah == pytest.approx(sheet.row.recorded.used_ah, abs=1e-3) and flight.aloft > 60
    assert not caplog.records


def test_a_record_that_cannot_be_read_changes_nothing(leaf, tmp_path):
    window, sheet = leaf("flights.record")
    place = tmp_path / "a.csv"
    place.write_text("volts\n11\n", "utf-8")
    refused, before = [], window.store.design
    window.store.refused.connect(refused.append)
    sheet.read(str(place))
    assert len(refused) == 1 and window.store.design is before


# -- versions ---------------------------------------------------------------------------------------------------------


def test_a_version_is_renamed_and_two_pressed_with_shift_are_compared(leaf):
    window, sheet = leaf("flights.versions")
    first, second = (version.number for version in window.store.design.versions)
    assert sheet.pair == (first, second)
    type_into(window.margin.dimensions.fields["versions[0].name"], "the first one")
    assert window.store.design.versions[0].name == "the first one"
    assert same_aircraft(at(window.store.design, first), load("demo:whimbrel"))
    sheet.strip.choose(second)
    live()
    half = sheet.strip.width() // 4
    shift = Qt.KeyboardModifier.ShiftModifier
    QTest.mouseClick(sheet.strip, Qt.MouseButton.LeftButton, shift, QPoint(half, 40))
    assert sheet.pair == (first, second)
    assert sheet.found.gained == pytest.approx(
        sheet.album.report(second).results.masses.state.mass - sheet.album.report(first).results.masses.state.mass,
        abs=2e-4,
    )


def test_another_file_is_compared_with(leaf, tmp_path):
    window, sheet = leaf("flights.versions")
    other = tmp_path / "b.ridge"
    save(load("demo:dunlin"), other)
    sheet.against(str(other))
    live()
    assert sheet.pair[1] == -1 and load("demo:dunlin").name in sheet.subtitle()
    assert len(sheet.found.figures) > 50
    sheet.grab()
    refused = []
    window.store.refused.connect(refused.append)
    sheet.against(str(tmp_path / "none.ridge"))
    assert len(refused) == 1


def test_keeping_twice_keeps_once_and_laying_out_anew_keeps_what_it_leaves(leaf):
    window, _sheet = leaf("flights.versions")
    told = []
    window.store.noted.connect(told.append)
    window.bar.command.setText("Keep this version")
    assert dict(window.commands())["Keep this version"]() is False and "kept already" in told[0]
    window.store.put("surfaces[0].stations[1].chord", 0.15, "Tip")
    changed = window.store.design
    window.open_sheet("brief")
    press(window.sheet.lay_out_button)
    design = window.store.design
    assert len(design.versions) == 3 and design.flights == changed.flights
    assert same_aircraft(at(design, design.versions[-1].number), changed) and design.revision == changed.revision + 1


def test_two_hundred_versions_scroll_and_five_hundred_flights_are_listed(leaf, caplog):
    design = load("demo:whimbrel")
    for k in range(60):
        design = keep(counted(design, put(design, "surfaces[0].stations[1].chord", 0.15 + 1e-4 * k)))
    flights = tuple(Flight(id=f"t{k}", aloft=300.0, put_back_ah=0.4, cells=3, capacity_ah=2.2) for k in range(500))
    window, sheet = leaf(design=design.model_copy(update={"flights": flights}))
    assert sheet.place == 499 and sheet.strip.chosen == design.revision
    sheet.grab()
    sheet.strip.choose(design.versions[3].number)
    sheet.grab()
    assert sheet.strip._first <= 3
    window.store.put("flights[7].aloft", 200.0, "Time")
    assert sheet.log.rows[7].mean.value == pytest.approx(7.2) and not caplog.records
