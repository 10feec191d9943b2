"""Loads along a half wing: all the lift is there, what hangs on the wing relieves it, and nothing pulls on nothing."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.parts import Hung, Item
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.stages.flexing import pulls_level
from ridgeline.engine.structure.hung import Hanging, hanging_on
from ridgeline.engine.structure.load_along import flown_along, load_along
from ridgeline.engine.structure.span_load import Strips, hanging_load, span_load, strips_of
from ridgeline.files.design_file import load

G = 9.80665
HALF = 0.6
Y = np.union1d(HALF * np.sin(np.linspace(0, np.pi / 2, 41)), [0.05])
CHORD = 0.2 - 0.1 * Y


@pytest.fixture(scope="module")
def report():
    return evaluate(load("demo:whimbrel"))


@pytest.fixture(scope="module")
def model(report):
    return report.results.lattice


def pulled(model, surface, lift, pressure):
    zero, alpha = pulls_level(model, lift, pressure)
    strips = strips_of(model, surface)
    return strips, np.array([zero, alpha, 0.0, 0.0, 0.0])


@given(st.floats(-10, 60), st.floats(20, 300))
def test_the_sides_of_all_surfaces_carry_the_whole_lift(model, lift, pressure):
    """The Whimbrel's V-tail stands at an angle: what its strips carry up is their lift times its cosine."""
    lattice, up = model.solver.lattice, 0.0
    for surface in sorted(set(model.owner)):
        strips, rows = pulled(model, surface, lift, pressure)
        first = np.flatnonzero(np.array(model.owner)[lattice.sheet] == surface)[0]
        across = lattice.bound[first]
        up += 2 * float(rows @ strips.total) * across[1] / np.hypot(across[1], across[2])
    assert up == pytest.approx(lift, rel=5e-3, abs=0.01)


def even(per_metre=20.0, strips=30):
    edges = np.linspace(0.0, HALF, strips + 1)
    rows = np.zeros((5, strips))
    rows[1] = per_metre
    return Strips(edges[:-1], edges[1:], rows)


def test_an_even_lift_is_that_of_a_uniform_cantilever_at_every_station():
    found = span_load(even(), Y, 0.0)
    assert found.shear[1] == pytest.approx(20 * (HALF - Y))
    assert found.moment[1] == pytest.approx(10 * (HALF - Y) ** 2)
    assert not found.moment[[0, 2, 3, 4]].any()


def test_a_seat_carries_the_moment_of_its_edge_and_no_shear():
    found = span_load(even(), Y, 0.05)
    inside = Y < 0.05 - 1e-9
    assert inside.sum() >= 2 and not found.shear[1][inside].any()
    assert found.moment[1][inside] == pytest.approx(10 * (HALF - 0.05) ** 2)


def test_the_weight_of_a_panel_lies_as_its_chord_does():
    found = hanging_load(Y, CHORD, 0.05, [])
    assert found.shear[0] == pytest.approx(-G * 0.05)
    arm = float(np.trapezoid(CHORD * Y, Y) / np.trapezoid(CHORD, Y))
    assert found.moment[0] == pytest.approx(-G * 0.05 * arm, rel=1e-3)


def test_what_hangs_far_out_relieves_the_root_by_its_arm():
    bare, hung = (hanging_load(Y, CHORD, 0.05, items) for items in ([], [(0.45, 0.02)]))
    assert bare.moment[0] - hung.moment[0] == pytest.approx(G * 0.02 * 0.45)
    assert hung.moment[Y > 0.45] == pytest.approx(bare.moment[Y > 0.45])


def test_the_lift_of_the_sample_lies_near_an_ellipse(model):
    strips, rows = pulled(model, 0, 30.0, 150.0)
    y = np.linspace(0, strips.outer.max(), 61)
    found = span_load(strips, y, 0.0)
    shear, moment = rows @ found.shear, rows @ found.moment
    # An ellipse's middle lies 4/3π out, an even load's a half.
    assert 4 / (3 * np.pi) - 0.02 < moment[0] / shear[0] / y[-1] < 0.5
    assert shear[0] == pytest.approx(float(rows @ strips.total), rel=1e-9)


def test_ailerons_lift_the_side_they_go_down_on_and_flaps_both(report):
    strips = strips_of(report.results.lattice, 0)
    roll, flap, pitch = strips.total[[4, 2, 3]]
    assert roll > 0 and flap == 0
    # The V-tail's controls work on it, and barely on the wing.
    assert strips_of(report.results.lattice, 1).total[3] > 10 * abs(pitch)


def hung(on, **more):
    return Item(name="Lamp", group="payload", estimate=0.1, on=on, **more)


def test_a_wing_is_relieved_by_what_hangs_on_both_sides_and_not_by_what_hangs_on_one(report):
    wing, tail = load("demo:whimbrel").surfaces
    on = Hung(to=wing.id, out=0.4)

    def of(*items, masses):
        return hanging_on((wing, tail), items, masses, 0.05)[0].items

    assert of(hung(on, mirrored=True, count=2), masses=[0.2]) == ((0.4, 0.1),)
    assert of(hung(on), masses=[0.1]) == ()
    both = of(hung(on), hung(on.model_copy(update={"port": True})), masses=[0.1, 0.1])
    assert both == ((0.4, 0.1),)
    # A pair in nacelles of their own pulls where it stands; what lies amidships does not.
    assert of(hung(None, mirrored=True, y=0.3, count=2), masses=[0.3]) == ((0.3, 0.15),)
    assert of(hung(None, y=0.04), hung(None, y=-0.04), masses=[0.1, 0.1]) == ()
    assert of(hung(None, mirrored=True, y=0.9), masses=[0.3]) == ()


def test_the_panel_of_a_wing_is_what_is_built_of_it(report):
    design, found = load("demo:whimbrel"), report.results.flexed.hanging
    masses = report.results.masses.expected
    built = sum(m for item, m in zip(design.parts, masses, strict=True) if item.build and item.build.of == "s1")
    assert found[0].panel == pytest.approx(built / 2) and found[0].total > found[0].panel


# -- as it is drawn ---------------------------------------------------------------------------------------------------


def test_lift_and_what_hangs_outside_the_seat_leave_the_shear_at_its_edge(report):
    bears, flex = report.results.bearing, report.results.flexed
    k = bears.main
    half, own, inertia = report.results.beams[k], bears.borne[k], bears.cases[0].inertia
    hanging = Hanging(flex.hanging[k].panel, ((0.25, 0.06), (0.01, 0.5)))
    down = hanging_load(half.y, half.chord, hanging.panel, hanging.items, half.seat)
    found = flown_along(half, own.shear[0], hanging, down, inertia, 400)
    assert found.y[0] > half.seat and found.y[-1] < half.y[-1] and len(found.y) == len(found.lift) == 399
    # What hangs inside the seat pulls on the body.
    assert found.items == ((0.25, pytest.approx(inertia * 0.06 * G)),)
    outside = np.interp(half.y, half.y, half.chord) * (half.y >= half.seat - 1e-9)
    share = np.trapezoid(outside, half.y) / np.trapezoid(half.chord, half.y)
    assert found.hung == pytest.approx(inertia * G * (hanging.panel * share + 0.06), rel=0.02)
    edge = int(np.flatnonzero(half.y >= half.seat - 1e-9)[0])
    assert found.lifted == pytest.approx(own.shear[0, edge] - inertia * down.shear[edge], rel=1e-3)
    # The lift of the pull is all positive, greatest inside and little at the tip.
    assert found.lift[5] > 2 * found.lift[-1] > 0


def test_a_half_of_which_only_the_air_is_known_carries_its_shear(report):
    half = report.results.beams[report.results.bearing.main]
    shear = 20 * (half.y[-1] - half.y)
    found = load_along(half, shear, 50)
    assert found.lift == pytest.approx(20) and found.hung == 0 and found.items == ()
    assert found.lifted == pytest.approx(20 * (half.y[-1] - half.seat))
