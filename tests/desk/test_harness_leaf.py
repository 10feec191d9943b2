"""The Harness leaf, and what the Radio and Linkage leaves say of sticks, rates, gyro and lines: by mouse and keys."""

import math

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import press, type_into
from ridgeline.design.paths import apply, put
from ridgeline.design.radio import Gyro, Rate
from ridgeline.desk.stops import STOP
from ridgeline.desk.throws_from import ask_throws
from ridgeline.engine.advice.harness_rules import with_lead
from ridgeline.engine.advice.rate_rules import set_rates
from ridgeline.files.design_file import load

LEAVES = [leaf.key for leaf in STOP["controls"].leaves]


@pytest.fixture
def leaf(open_window):
    """Return a function that opens a leaf on a sample."""

    def at(key, name="whimbrel", design=None, **more):
        window = open_window(design or load(f"demo:{name}"), first=key, **more)
        sheet = window.sheets[key]
        sheet.grab()
        return window, sheet

    return at


def click(sheet, x, y):
    QTest.mouseClick(sheet, Qt.MouseButton.LeftButton, pos=QPoint(round(x), round(y)))
    QApplication.processEvents()
    sheet.grab()


# -- harness ----------------------------------------------------------------------------------------------------------


def test_a_press_on_a_row_or_on_a_lead_shows_it_straightened(leaf):
    window, sheet = leaf("controls.harness")
    assert sheet.subtitle() == "5 leads, all of them reach"
    scarcest = sheet.run
    assert scarcest is sheet.wired.shortest
    rect, run = next((rect, run) for rect, run in sheet._rows if run.of != scarcest.of)
    click(sheet, rect.center().x(), rect.center().y())
    assert sheet.run.of == run.of and window.margin.dimensions.grab().height() > 0
    other = next(one for one in sheet.wired.runs if one.of not in (run.of, scarcest.of))
    view_at = None
    for x in range(20, 420, 3):
        for y in range(70, 480, 3):
            hit = sheet._lead_at(QPoint(x, y).toPointF())
            if hit is not None and hit.of == other.of:
                view_at = x, y
                break
        if view_at:
            break
    click(sheet, *view_at)
    assert sheet.run.of == other.of


def test_lengths_are_told_typed_and_taken_back(leaf):
    window, sheet = leaf("controls.harness")
    store, run = window.store, sheet.run
    acts = dict(sheet.selection().acts)
    acts["Tell its lengths"]()
    QApplication.processEvents()
    place = next(k for k, lead in enumerate(store.design.radio.leads) if lead.of == run.of)
    fields = window.margin.dimensions.fields
    type_into(fields[f"radio.leads[{place}].extension"], "10 mm")
    assert store.design.radio.leads[place].extension == pytest.approx(0.010)
    assert sheet.subtitle().endswith("1 too short")
    short = next(f for f in store.report.findings if f.key.startswith("harness.short"))
    store.apply_remedy(short.remedies[0])
    assert sheet.subtitle().endswith("all of them reach")
    dict(sheet.selection().acts)["As usual"]()
    QApplication.processEvents()
    assert store.design.radio.leads == ()


def test_the_receiver_is_chosen(leaf):
    window, sheet = leaf("controls.harness")
    store = window.store
    receiver = sheet._receiver()
    assert receiver
    sheet._take_receiver("")
    assert sheet.subtitle() == "which item is the receiver is not said yet" and sheet.run is None
    sheet.grab()
    sheet._take_receiver(receiver)
    assert sheet._receiver() == receiver and sum(i.harness == "receiver" for i in store.design.parts) == 1


def test_odd_harnesses_are_drawn_without_a_fault(leaf, caplog):
    design = load("demo:dunlin")
    run = next(iter(leaf("controls.harness", "dunlin")[1].wired.runs))
    bare = apply(design, [with_lead(design, run.of, extension=0.0, own=0.0, aside=0.3)])
    for odd in (bare, put(design, "power", None), put(design, "parts", design.parts[:1])):
        for size in ((1280, 800), (1100, 700)):
            _window, sheet = leaf("controls.harness", design=odd, size=size)
            assert sheet.subtitle()
    assert not caplog.records


# -- what sticks do, rates, gyro --------------------------------------------------------------------------------------


def test_rates_are_set_for_the_field_by_one_press(leaf):
    design = load("demo:turnstone")
    odd = put(design, "radio.rates", (Rate(stick="pitch", high=0.5, low=0.4),))
    window, sheet = leaf("controls.radio", design=odd)
    assert sheet.rates_button.isVisible()
    before = sheet.grab().toImage()
    press(sheet.rates_button)
    assert set_rates(window.store.design, window.store.report) is None and not sheet.rates_button.isVisible()
    assert {rate.stick for rate in window.store.design.radio.rates} == {"roll", "pitch", "yaw"}
    assert sheet.grab().toImage() != before
    window.store.undo()
    assert window.store.design.radio == odd.radio
    window.store.put("brief.field", 40.0, "Field")
    assert sheet.rates_button.isVisible(), "another field asks for others"


def test_low_rates_are_seen_on_the_aircraft_and_in_the_table(leaf):
    _window, sheet = leaf("controls.radio", "turnstone")
    sheet.move(pitch=1.0)
    high = sheet.grab().toImage()
    assert sheet.rate_button.isVisible() and not sheet.low
    press(sheet.rate_button)
    assert sheet.low and sheet.grab().toImage() != high
    press(sheet.rate_button)
    assert not sheet.low
    sheet.grab()


def test_what_the_sticks_do_opens_its_working(leaf):
    window, sheet = leaf("controls.radio", "turnstone")
    for key in ("control.roll_rate", "control.adverse_yaw", "control.turn_radius", "trim.thrust_elevator"):
        rect = next(rect for rect, figure in sheet._traced if figure == key)
        click(sheet, rect.center().x(), rect.center().y())
        assert window.working.isVisible() and window.working.key == key
        sheet.grab()


@pytest.mark.parametrize("size", [(1280, 800), (1100, 700), (1920, 1080)])
def test_every_leaf_of_controls_is_drawn_with_flaperons_gyro_and_lines(leaf, caplog, size):
    design = load("demo:turnstone")
    for kind in ("pull_pull", "spring_line", "torque_rod", "direct"):
        odd = put(put(design, "linkages[2].kind", kind), "radio.gyro", Gyro(upside_down=True))
        for key in LEAVES:
            _window, sheet = leaf(key, design=odd, size=size)
            if key == "controls":
                sheet.choose(design.linkages[2].control)
                sheet.grab()
    assert not caplog.records


def test_a_gyro_is_said_and_its_fight_is_a_stop(leaf):
    window, sheet = leaf("controls.radio")
    store = window.store

    def dimension(label):
        return next(one for one in sheet.selection().rows if one.label == label)

    assert dimension("Gyro board").read() == "no"
    dimension("Gyro board").choose("over")
    assert store.design.radio.gyro.upside_down
    stops = [f for f in store.report.findings if f.key.startswith("gyro.sense")]
    assert {f.level for f in stops} == {"stop"} and len(stops) == 2
    dimension("Gyro: pitch").choose("over")
    dimension("Gyro: yaw").choose("over")
    assert not [f for f in store.report.findings if f.key.startswith("gyro.sense")]
    dimension("Gyro: yaw").choose("plain")
    assert store.design.radio.gyro.reversed == ("pitch",)
    dimension("Gyro board").choose("no")
    assert store.design.radio.gyro is None


# -- linkage ----------------------------------------------------------------------------------------------------------


def test_a_linkage_is_moved_otherwise_and_its_fields_follow(leaf):
    window, sheet = leaf("controls", "turnstone")
    store = window.store

    def dimension(label):
        return next(one for one in sheet.selection().rows if one.label == label)

    dimension("Moved by").choose("spring_line")
    fields = window.margin.dimensions.fields
    type_into(fields["linkages[0].preload"], "2.5 N")
    assert store.design.linkages[0].preload == pytest.approx(2.5)
    dimension("Hangs by").choose("rod")
    assert store.design.linkages[0].hinge.kind == "rod" and dimension("Hangs by").read() == "rod"
    type_into(window.margin.dimensions.fields["surfaces[0].controls[0].neutral"], "-2°")
    assert store.design.surfaces[0].controls[0].neutral == pytest.approx(math.radians(-2))
    dimension("Moved by").choose("rod")
    assert "linkages[0].preload" not in window.margin.dimensions.fields


def test_the_throws_of_another_design_are_asked_for(leaf, monkeypatch):
    window, _sheet = leaf("controls", "turnstone")
    monkeypatch.setattr("ridgeline.desk.throws_from.QFileDialog.getOpenFileName", lambda *_a: ("demo:heron", ""))
    before = window.store.design
    ask_throws(window, window.store)
    assert window.store.design.surfaces != before.surfaces
    monkeypatch.setattr("ridgeline.desk.throws_from.QFileDialog.getOpenFileName", lambda *_a: ("", ""))
    now = window.store.design
    ask_throws(window, window.store)
    assert window.store.design is now
