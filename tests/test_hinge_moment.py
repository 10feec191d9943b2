"""Hinge moments of plain flaps against the printed table and the pressures integrated."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.integrate import quad

from ridgeline.engine.aero.flap import thin_effectiveness
from ridgeline.engine.controls.hinge_moment import KEPT, flap_moment, hinge_coefficients, hinge_moment

#: Second part of the handbook §17: share of the chord, τ, c_mδ, C_hα, C_hδ.
TABLE = (
    (0.10, 0.396, -0.540, -0.345, -0.884),
    (0.15, 0.481, -0.607, -0.427, -0.903),
    (0.20, 0.550, -0.640, -0.499, -0.923),
    (0.25, 0.609, -0.650, -0.565, -0.944),
    (0.30, 0.661, -0.642, -0.627, -0.965),
    (0.40, 0.748, -0.588, -0.745, -1.013),
    (0.50, 0.818, -0.500, -0.858, -1.066),
)


@pytest.mark.parametrize(("share", "tau", "moment", "alpha", "delta"), TABLE)
def test_the_printed_table_is_met(share, tau, moment, alpha, delta):
    found = hinge_coefficients(share)
    assert thin_effectiveness(share) == pytest.approx(tau, abs=1e-3)
    assert flap_moment(share) == pytest.approx(moment, abs=1e-3)
    assert (found.alpha, found.delta) == (pytest.approx(alpha, abs=1e-3), pytest.approx(delta, abs=1e-3))


@given(st.floats(0.05, 0.95))
def test_they_are_the_pressures_behind_the_hinge_integrated(share):
    hinge = 1 - share
    theta_h = math.acos(1 - 2 * hinge)

    def moment(pressure):
        def row(theta):
            return pressure(theta) * (0.5 * (1 - math.cos(theta)) - hinge) * 0.5 * math.sin(theta)

        return -quad(row, theta_h + 1e-12, math.pi, limit=200)[0] / share**2

    def plate(theta):
        return 4 * (1 + math.cos(theta)) / math.sin(theta)

    def flap(theta):
        log = math.log(abs(math.sin((theta + theta_h) / 2) / math.sin((theta - theta_h) / 2)))
        return (math.pi - theta_h) / math.pi * plate(theta) + 4 / math.pi * log

    found = hinge_coefficients(share)
    assert found.alpha == pytest.approx(moment(plate), rel=1e-5)
    assert found.delta == pytest.approx(moment(flap), rel=1e-5)


def test_the_air_pushes_a_control_back_and_in_proportion_to_what_it_is():
    one = hinge_moment(0.25, 100.0, 0.01, 0.05, 0.0, 0.3)
    assert one == pytest.approx(-KEPT * 0.944 * 0.3 * 100 * 0.01 * 0.05, rel=1e-3) and KEPT == 0.85
    assert hinge_moment(0.25, 200.0, 0.02, 0.05, 0.0, 0.3) == pytest.approx(4 * one)
    assert hinge_moment(0.25, 100.0, 0.01, 0.05, 0.1, 0.0) < 0


def test_all_of_a_surface_that_turns_about_its_nose_is_a_plate():
    found = hinge_coefficients(1.0)
    # About the leading edge: the plate's lift 2π acts at a quarter of the chord.
    assert found.alpha == found.delta == pytest.approx(-2 * math.pi / 4)
    assert np.isfinite(hinge_coefficients(1e-9).delta)
