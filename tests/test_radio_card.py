"""The radio card: what is set stands on it, at true size, and nothing runs off it."""

import re
from xml.etree import ElementTree

import pytest

from ridgeline.cli import main
from ridgeline.design.paths import put
from ridgeline.design.radio import Gyro
from ridgeline.engine.pipeline import evaluate
from ridgeline.errors import DesignError
from ridgeline.files.design_file import load
from ridgeline.files.radio_card import radio_card
from ridgeline.library import gallery_names

SVG = "{http://www.w3.org/2000/svg}"


def card_of(design):
    return ElementTree.fromstring(radio_card(design, evaluate(design), "2026-05-01"))


def words_of(card):
    return [one.text for one in card.iter(f"{SVG}text")]


@pytest.mark.parametrize("name", sorted(gallery_names()))
def test_every_channel_and_rate_stands_on_the_card_and_nothing_runs_off(name):
    design = put(load(f"demo:{name}"), "radio.gyro", Gyro(axes=("roll",), gain=0.25))
    card = card_of(design)
    words = words_of(card)
    assert design.name in words and "2026-05-01" in words
    for channel in design.radio.channels:
        assert channel.name in words
    wide, tall = (float(value) for value in card.get("viewBox").split()[2:])
    assert card.get("width") == f"{wide:.1f}mm" and wide == 148.0
    for one in card.iter(f"{SVG}text"):
        x, y, size = (float(one.get(key)) for key in ("x", "y", "font-size"))
        assert 0 < y < tall - 2
        if one.get("text-anchor") != "end":
            assert x + 0.5 * size * len(one.text) < wide - 4, one.text
    assert any("gain 25 %" in word for word in words) and any("Roll it right by hand" in word for word in words)


def test_it_says_what_each_control_has_to_do():
    words = " ".join(words_of(card_of(load("demo:turnstone"))))
    assert "Stick right: stbd. aileron up, port aileron down 15°" in words
    assert "Stick back: elevator up 12°" in words and "Rudder right: rudder right 22°" in words
    assert "Throttle up: motor turns, last of all" in words and "Propeller off" in words
    elevons = " ".join(words_of(card_of(load("demo:dunlin"))))
    assert "Stick back: elevon up" in elevons and "stbd. elevon up, port elevon down" in elevons


def test_travels_are_those_that_give_the_throws_wished():
    design = load("demo:turnstone")
    report = evaluate(design)
    channel = report.results.linking.rows[0].sides[0].channel
    words = words_of(card_of(design))
    assert f"{100 * channel.high:.0f} %" in words and f"{100 * channel.low:.0f} %" in words


def test_odd_names_are_escaped_and_long_mixes_go_on_below():
    design = put(load("demo:heron"), "name", "Odd <name> & more")
    assert "Odd <name> & more" in words_of(card_of(design))
    assert re.search("&lt;name&gt;", radio_card(design, evaluate(design), "2026-05-01"))


def test_without_a_radio_there_is_no_card(capsys, tmp_path):
    bare = put(load("demo:heron"), "radio", None)
    with pytest.raises(DesignError, match="nothing is said of it"):
        radio_card(bare, evaluate(bare))
    assert main(["export", "radio_card", "demo:heron", str(tmp_path / "card.svg")]) == 0
    assert (tmp_path / "card.svg").read_text("utf-8").startswith("<svg")
