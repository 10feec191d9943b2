"""Loads along a half wing: all the lift is there, what hangs on the wing relieves it, and nothing pulls on nothing."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.structure.span_load import SpanLift, net_load, span_lift

G = 9.80665


@pytest.fixture(scope="module")
def model():
    from ridgeline.files.design_file import load

    return evaluate(load("demo:whimbrel")).results.lattice


@given(st.floats(-10, 60), st.floats(20, 300))
def test_the_sides_of_all_surfaces_carry_the_whole_lift(model, lift, pressure):
    """The Whimbrel's V-tail stands at an angle: what its strips carry up is their lift times its cosine."""
    wing = span_lift(model, 0, lift, pressure)
    up = 2 * wing.total
    lattice = model.solver.lattice
    for surface in sorted(set(model.owner) - {0}):
        one = span_lift(model, surface, lift, pressure)
        first = np.flatnonzero(np.array(model.owner)[lattice.sheet] == surface)[0]
        across = lattice.bound[first]
        up += 2 * one.total * across[1] / np.hypot(across[1], across[2])
    assert up == pytest.approx(lift, rel=0.02, abs=0.02)


def even(total=12.0, half=0.6):
    out = np.linspace(0.01, half - 0.01, 30)
    return SpanLift(out, np.full(30, half / 30), np.full(30, total / half))


Y = 0.6 * np.sin(np.linspace(0, np.pi / 2, 41))
CHORD = 0.2 - 0.1 * Y


def test_the_shear_at_the_root_is_lift_less_weight():
    load = net_load(even(), Y, CHORD, 0.05, [(0.2, 0.009), (0.45, 0.02)], 4.0)
    assert load.shear[0] == pytest.approx(12.0 - 4 * G * (0.05 + 0.029), rel=1e-9)


def test_what_hangs_far_out_relieves_the_root_by_its_arm():
    bare, hung = (net_load(even(), Y, CHORD, 0.0, items, 4.0) for items in ([], [(0.45, 0.02)]))
    assert bare.moment[0] - hung.moment[0] == pytest.approx(4 * G * 0.02 * 0.45)
    assert hung.moment[-5:] == pytest.approx(bare.moment[-5:])


def test_a_wing_that_lifts_its_own_weight_alone_and_likewise_spread_bears_nothing():
    mass = 0.08
    lift = SpanLift(Y, np.gradient(Y), np.zeros_like(Y))
    load = net_load(lift, Y, CHORD, mass, [], 3.0)
    falls = net_load(lift, Y, CHORD, mass, [], -3.0)
    assert load.shear == pytest.approx(-falls.shear) and load.shear[0] == pytest.approx(-3 * G * mass)
    nothing = net_load(lift, Y, CHORD, 0.0, [], 3.0)
    assert not nothing.shear.any() and not nothing.moment.any()


def test_the_lift_of_the_sample_lies_near_an_ellipse(model):
    found = span_lift(model, 0, 30.0, 150.0)
    half = model.solver.lattice.outer.max()
    load = net_load(found, np.linspace(0, half, 61), np.ones(61), 0.0, [], 1.0)
    middle = load.moment[0] / load.shear[0] / half
    # An ellipse's middle lies 4/3π out, an even load's a half.
    assert 4 / (3 * np.pi) - 0.02 < middle < 0.5
    assert load.shear[0] == pytest.approx(found.total, rel=1e-9)
