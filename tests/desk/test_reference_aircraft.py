"""Every kind of aircraft is built through the window from a blank page, and comes without anything to stop for."""

import pytest
from hands import Hands
from reference_aircraft import AIRCRAFT, TRAINERS

from conftest import type_into
from ridgeline.design.document import Design, from_plain
from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import to_text


@pytest.fixture
def hands(open_window):
    return Hands(open_window(Design(), first="brief"))


@pytest.mark.parametrize("name", AIRCRAFT)
def test_it_is_built_from_a_blank_page_and_flies(hands, name):
    AIRCRAFT[name](hands)
    type_into(hands.window.title_block.name, name)
    report = hands.store.report
    stops = [str(f.text) for f in report.findings if f.level == "stop"]
    assert not stops, f"{stops} after {hands.count} presses"
    assert report.value("mass.auw") > 0.02 and report.value("stability.static_margin") > 0
    assert hands.design.name == name
    # What was built is a file that opens to the same.
    import json

    opened = from_plain(json.loads(to_text(hands.design)), source=name)
    assert evaluate(opened).value("mass.auw") == pytest.approx(report.value("mass.auw"), rel=1e-9)


@pytest.mark.parametrize("way", TRAINERS)
def test_a_balanced_powered_trainer_takes_few_presses_from_a_blank_page(hands, way):
    TRAINERS[way](hands)
    report = hands.store.report
    assert hands.count <= 25
    assert hands.design.power is not None and report.value("power.thrust_ratio") >= 0.5
    assert all(f.level != "stop" for f in report.findings)
    assert any(f.key == "balance.first_throw" and f.level == "settled" for f in report.findings)
