"""An airframe scaled from an original of any size, with what the model comes to before it is made."""

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from conftest import type_into
from ridgeline.engine.geometry.scaling import scaled


@pytest.fixture
def sheet(desk):
    desk.open_sheet("shape.scale")
    return desk.sheet


def test_an_original_of_seven_metres_is_built_at_a_quarter(sheet):
    store = sheet.store
    type_into(sheet.fields["original"], "7.2 m")
    type_into(sheet.fields["scale"], "1:4")
    assert sheet.fields["span"].text() == "1800"
    type_into(sheet.fields["tail"], "115 %")
    promised = sheet._outcome().report
    QTest.mouseClick(sheet.go, Qt.MouseButton.LeftButton)
    QApplication.processEvents()
    assert store.report.value("wing.span") == pytest.approx(1.8, abs=1e-3)
    for key in ("wing.loading", "speed.stall", "balance.cg_fraction", "tail.volume_h"):
        assert store.report.value(key) == pytest.approx(promised.value(key), rel=1e-9)
    store.undo()
    assert store.report.value("wing.span") == pytest.approx(1.28, abs=1e-3)


def test_the_span_of_the_model_gives_the_scale(sheet):
    type_into(sheet.fields["original"], "7200")
    type_into(sheet.fields["span"], "2.4 m")
    assert sheet.fields["scale"].text() == "33.33 %"
    assert sheet.factor == pytest.approx(2.4 / 1.28, rel=1e-3)


def test_the_exponent_says_how_built_mass_grows(sheet):
    store = sheet.store
    type_into(sheet.fields["scale"], "1.5")
    heavy = sheet._outcome().report.value("mass.listed")
    sheet.exponent.choose("2")
    light = sheet._outcome().report.value("mass.listed")
    assert light < heavy - 0.05
    assert light == pytest.approx(
        store.report.trial()(scaled(store.design, 1.5, mass_exponent=2.0)).value("mass.listed"), rel=1e-9
    )


@pytest.mark.parametrize(
    ("name", "text"), [("scale", "none"), ("scale", "0"), ("span", "-2"), ("tail", "9"), ("scale", "90")]
)
def test_what_comes_to_no_airframe_is_refused_where_it_is_typed(sheet, name, text):
    before = sheet.wanted
    type_into(sheet.fields[name], text)
    assert sheet.fields[name].property("wrong") == "true" and sheet.wanted == before


def test_as_it_is_there_is_nothing_to_do(sheet):
    assert not sheet.go.isEnabled()
    type_into(sheet.fields["scale"], "80 %")
    assert sheet.go.isEnabled()


def test_the_command_line_takes_a_scale_as_it_is_written(desk):
    desk.bar.command.run("scale 1:2")
    assert desk.store.report.value("wing.span") == pytest.approx(0.64, abs=1e-3)
