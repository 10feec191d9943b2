import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.errors import DesignError
from ridgeline.typed import parse
from ridgeline.units import IMPERIAL, METRIC, number, shown, with_unit


@pytest.mark.parametrize(
    ("text", "quantity", "value"),
    [
        ("3/16 in", "length", 0.0047625),
        ("1 ft 6 in", "length", 0.4572),
        ("1' 6\"", "length", 0.4572),
        ('1 1/2"', "length", 0.0381),
        ("1-1/2 in", "length", 0.0381),
        ("6ft2in", "length", 1.8796),
        ("-1 ft 6 in", "length", -0.4572),
        ("180 mm", "length", 0.18),
        ("0.18", "length", 0.18),
        ("4.5oz", "mass", 0.12757285),
        ("1 lb 2 oz", "mass", 0.51029141),
        ("30 mph", "speed", 13.4112),
        ("35 deg", "angle", 0.61086524),
        ("−2°", "angle", -0.03490659),
        ("29 g/dm²", "loading", 2.9),
        ("9.5 oz/ft2", "loading", 2.898941),
        ("2200 mAh", "capacity", 2.2),
        ("96 mΩ", "resistance", 0.096),
        ("1050 kv", "speed_constant", 1050.0),
        ("59 °F", "temperature", 15.0),
        ("18 min", "time", 1080.0),
        ("11 %", "fraction", 0.11),
    ],
)
def test_any_unit_mix_a_builder_types_is_understood(text, quantity, value):
    assert parse(text, quantity) == pytest.approx(value, rel=1e-5)


@pytest.mark.parametrize(
    "text", ["12 bananas", "nan", "inf", "", "  ", "mm", "5 kg", "1/0 in", "1 ft 6", "1e400 m", "3,5,"]
)
def test_what_is_not_a_length_is_refused_with_what_was_understood_and_what_is_allowed(text):
    with pytest.raises(DesignError) as caught:
        parse(text, "length", path="surfaces[0].x")
    assert str(caught.value).startswith("surfaces[0].x: understood")
    assert "allowed: a length" in str(caught.value)


def test_a_bare_number_is_in_the_unit_on_the_screen():
    assert parse("218", "length", bare=METRIC["length"]) == pytest.approx(0.218)
    assert parse("8.58", "length", bare=IMPERIAL["length"]) == pytest.approx(0.217932)
    assert parse("59", "temperature", bare=IMPERIAL["temperature"]) == pytest.approx(15.0)


@pytest.mark.parametrize("quantity", sorted(METRIC))
@pytest.mark.parametrize("system", [METRIC, IMPERIAL])
@given(value=st.floats(0.01, 50))
def test_what_is_shown_can_be_typed_back(system, quantity, value):
    text = shown(value, quantity, system, 9)
    assert parse(text, quantity, bare=system[quantity]) == pytest.approx(value, rel=1e-5, abs=1e-7)


def test_minus_signs_are_true_and_zero_is_never_negative():
    assert number(-1.5, 1) == "−1.5"
    assert number(-0.0001, 2) == "0.00"
    assert with_unit(math.radians(-2), "angle") == "−2.0°"


@pytest.mark.parametrize("text", ["300 g/m2", "300 g/m^2", "300 g/m**2", "300 g/m²", "3 g/dm^2"])
def test_powers_are_read_however_they_are_written(text):
    assert parse(text, "loading") == pytest.approx(0.3)
