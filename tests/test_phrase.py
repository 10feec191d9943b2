"""Sentences: what is claimed of two values can be read off them."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.paths import Change, apply
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.pipeline import evaluate
from ridgeline.units import IMPERIAL, METRIC


@pytest.mark.parametrize(
    ("now", "limit", "words"),
    [
        (Measured(52.9, "current"), Measured(52.6, "current", 0), "52.9 A is more than 52.6 A."),
        (Measured(53.4, "current"), Measured(53.0, "current", 0), "53.4 A is more than 53 A."),
        (Measured(4.53, "speed"), Measured(4.50, "speed"), "4.53 m/s is more than 4.50 m/s."),
        (Measured(30.2, "current"), Measured(30.0, "current", 0), "30.2 A is more than 30 A."),
        (Measured(0.604, "fraction", 0), Measured(0.6, "fraction", 0), "60.4 % is more than 60.0 %."),
        (Measured(4.5, "speed"), Measured(4.5, "speed"), "4.5 m/s is more than 4.5 m/s."),
    ],
)
def test_two_values_get_the_decimals_that_tell_them_apart(now, limit, words):
    assert str(say("{} is more than {}.", now, limit)) == words


def test_values_of_other_quantities_keep_their_decimals():
    told = say("{} at {} and {}", Measured(4.5, "speed"), Measured(4.5, "mass", 0), "4.5")
    assert str(told) == "4.5 m/s at 4500 g and 4.5"


@given(
    low=st.floats(0.5, 400.0),
    more=st.floats(1e-3, 0.5),
    quantity=st.sampled_from(["speed", "current", "mass", "fraction", "length", "temperature"]),
    units=st.sampled_from([METRIC, IMPERIAL]),
)
def test_the_larger_of_two_reads_larger_where_two_decimals_more_can_show_it(low, more, quantity, units):
    high = low * (1 + more)
    told = say("{} | {}", Measured(low, quantity, bare=True), Measured(high, quantity, bare=True)).render(units)
    one, other = (float(re.sub("−", "-", words)) for words in told.split(" | "))
    unit = units[quantity]
    if (high - low) * abs(unit.factor) > 2 * 10.0 ** -(unit.decimals + 2):
        assert one < other


def test_a_motor_over_its_current_but_cool_is_not_said_to_run_hot(whimbrel):
    drawn = evaluate(whimbrel).value("power.static_current")
    over = apply(whimbrel, [Change("power.motor.max_current", round(drawn - 0.3, 1))])
    finding = next(f for f in evaluate(over).findings if f.key == "power.motor_hot")
    assert str(finding.text).startswith("The motor draws") and "hot" not in str(finding.text)
    now, most = (float(n) for n in re.findall(r"[\d.]+", str(finding.text))[:2])
    assert now > most
