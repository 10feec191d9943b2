import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.engine.roots import edge_in, parabola_root, root_in


@given(st.floats(-3, 3), st.floats(0.1, 5), st.sampled_from([1, 3, 5]))
def test_a_power_crosses_where_it_does(place, steep, power):
    found = root_in(lambda x: steep * (x - place) ** power, -4.0, 4.5, 1e-9)
    assert found == pytest.approx(place, abs=2e-9 if power == 1 else 1e-3)


def test_few_evaluations_are_enough_and_known_ends_are_not_asked_again():
    asked = []

    def function(x):
        asked.append(x)
        return math.exp(x) - 2.0

    found = root_in(function, 0.0, 2.0, 1e-10, -1.0, math.exp(2.0) - 2.0)
    assert found == pytest.approx(math.log(2.0), abs=1e-10)
    assert len(asked) <= 9 and 0.0 not in asked and 2.0 not in asked


def test_an_end_that_is_the_root_is_found_and_no_bracket_is_refused():
    assert root_in(lambda x: x, 0.0, 1.0, 1e-9) == pytest.approx(0.0, abs=1e-9)
    assert root_in(lambda x: x - 1, 0.0, 1.0, 1e-9) == pytest.approx(1.0, abs=1e-9)
    with pytest.raises(ValueError, match="different signs"):
        root_in(lambda x: x * x + 1, -1.0, 1.0, 1e-9)


def test_a_step_is_halved_down_to():
    assert root_in(lambda x: -1.0 if x < 0.3 else 1.0, 0.0, 1.0, 1e-8) == pytest.approx(0.3, abs=1e-8)


@given(st.floats(0.0, 1.0), st.floats(1e-6, 0.1))
def test_the_edge_of_what_holds_is_on_the_side_where_it_holds(edge, close):
    found = edge_in(lambda x: x <= edge, 0.0, 1.0, close)
    assert found <= edge and edge - found <= close


@given(st.floats(-3, 3), st.floats(4, 9), st.sampled_from([-2.0, 1.0, 1e-9]), st.booleans())
def test_of_a_parabolas_roots_the_one_in_the_interval_is_taken(near, far, steep, second):
    inside, outside = (far, near) if second else (near, far)
    coefficients = steep * np.array([1.0, -(near + far), near * far])
    found = parabola_root(*coefficients, inside - 0.4, inside + 0.4)
    assert found == pytest.approx(inside, abs=1e-6) and abs(found - outside) > 0.5


def test_a_straight_line_has_its_one_root_too():
    assert parabola_root(*np.array([0.0, 2.0, -3.0]), 0.0, 9.0) == pytest.approx(1.5)
