import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.errors import Bound, DesignError
from ridgeline.typed import Arm, parse, read, told
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
    text = shown(value, quantity, system, 16)
    assert parse(text, quantity, bare=system[quantity]) == pytest.approx(value, rel=1e-5, abs=1e-7)


def test_minus_signs_are_true_and_zero_is_never_negative():
    assert number(-1.5, 1) == "−1.5"
    assert number(-0.0001, 2) == "0.00"
    assert with_unit(math.radians(-2), "angle") == "−2.0°"


@pytest.mark.parametrize("text", ["300 g/m2", "300 g/m^2", "300 g/m**2", "300 g/m²", "3 g/dm^2"])
def test_powers_are_read_however_they_are_written(text):
    assert parse(text, "loading") == pytest.approx(0.3)


@pytest.mark.parametrize(
    ("text", "quantity", "value"),
    [
        ("33%", "fraction", 0.33),
        ("33 %", "ratio", 0.33),
        ("1/3", "ratio", 1 / 3),
        ("12,5", "length", 12.5),
        ("12,5 mm", "length", 0.0125),
        ("0,125", "mass", 0.125),
        (",5 oz", "mass", 0.0141748),
        ("1,200.5 mm", "length", 1.2005),
        ("1.200,5 mm", "length", 1.2005),
        ("1,200,000 mm", "length", 1200.0),
        ("1 ft, 6 in", "length", 0.4572),
        ("2 1/4 in", "length", 0.05715),
        ("5.e-1 m", "length", 0.5),
    ],
)
def test_numbers_are_read_as_they_are_written_at_kitchen_tables(text, quantity, value):
    assert parse(text, quantity) == pytest.approx(value, rel=1e-5)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("1,200", "may be 1200 or 1.2"),
        ("1,200 mm", "may be 1200 or 1.2"),
        ("1_000", "“1_000”"),
        ("1,2,3", "no number"),
        ("1.2.3", "no number"),
        ("0x10", "“0x10”"),
        ("5 m m**9**9", "“5 m m**9**9”"),
        ("9" * 121, "121 letters"),
        ("x" * 16_000, "16000 letters"),
        (" " * 16_000, "16000 letters"),
        ("1/0 in", "divides by nothing"),
    ],
)
def test_a_doubt_or_a_long_text_is_told_and_not_guessed(text, words):
    with pytest.raises(DesignError) as caught:
        parse(text, "length")
    assert words in caught.value.understood and len(str(caught.value)) < 300


def test_a_share_below_one_without_its_sign_is_a_doubt_where_shares_are_shown_in_per_cent():
    for text in ("0.25", "0,25", "-0.5"):
        with pytest.raises(DesignError, match=r"may be -?0\.\d+ % or -?\d+ %"):
            parse(text, "fraction", bare=METRIC["fraction"])
    assert parse("0.25 %", "fraction", bare=METRIC["fraction"]) == pytest.approx(0.0025)
    assert parse("25", "fraction", bare=METRIC["fraction"]) == pytest.approx(0.25)
    assert parse("1", "fraction", bare=METRIC["fraction"]) == pytest.approx(0.01)
    assert parse("0", "fraction", bare=METRIC["fraction"]) == 0.0
    assert parse("0.25", "fraction") == 0.25, "stored values have no doubt"


@given(st.floats(0.02, 1.0), st.floats(-0.9, 0.9), st.booleans())
def test_a_height_across_an_arm_and_its_angle_are_one(length, angle, swung):
    arm = Arm(length, swung)
    assert arm.angle(arm.height(angle)) == pytest.approx(angle, abs=1e-9)
    assert parse(f"{math.degrees(angle):.9f}°", "angle", arm=arm) == pytest.approx(angle, abs=1e-7)
    height = parse(f"{1000 * arm.height(angle):.9f} mm", "angle", arm=arm)
    assert height == pytest.approx(angle, abs=1e-6)
    assert parse(f"{math.degrees(angle):.9f}°", "length", arm=arm) == pytest.approx(arm.height(angle), abs=1e-7)


def test_a_height_is_no_angle_without_an_arm_or_past_its_reach():
    with pytest.raises(DesignError, match="an angle such as"):
        parse("3 mm", "angle")
    with pytest.raises(DesignError, match="heights of up to 100 mm"):
        parse("101 mm", "angle", arm=Arm(0.1))
    assert parse("101 mm", "angle", arm=Arm(0.1, True)) == pytest.approx(2 * math.asin(0.505))


@pytest.mark.parametrize(
    ("quantity", "text", "units", "told_as"),
    [
        ("length", "5 m", METRIC, "3 m or less"),
        ("length", "200 in", METRIC, "118.1 in or less"),
        ("length", "20 ft 1 in", METRIC, "3000 mm or less"),
        ("length", "9000", METRIC, "3000 mm or less"),
        ("length", "200", IMPERIAL, "118.1 in or less"),
        ("temperature", "900 °C", IMPERIAL, "37.4 °F or less"),
        ("angle", "200°", METRIC, "171.9° or less"),
    ],
)
def test_a_limit_is_told_in_the_unit_typed_or_else_in_those_shown(quantity, text, units, told_as):
    refused = DesignError("x", "y", "3 m or less", bound=Bound("{} or less", 3.0, quantity))
    unit = read(text, quantity, bare=units[quantity]).unit
    assert told(refused, units, unit).allowed == told_as
    assert told(DesignError("x", "y", "words"), units).allowed == "words"


SQUARES = [("24 dm2", 0.24), ("24dm2", 0.24), ("24 dm^2", 0.24), ("2400 cm2", 0.24), ("340 in2", 0.21935)]


@pytest.mark.parametrize(("text", "square_metres"), SQUARES)
def test_a_square_may_be_typed_plainly(text, square_metres):
    assert parse(text, "area") == pytest.approx(square_metres, rel=1e-4)


def test_feet_keep_their_inches():
    with pytest.raises(DesignError):
        parse("6ft2", "area")
    assert parse("6ft2in", "length") == pytest.approx(74 * 0.0254)
