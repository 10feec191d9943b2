import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.engine.aero.derivatives import derivatives
from ridgeline.engine.aero.lattice import Sheet, Solver, build
from ridgeline.engine.aero.lifting import Scale, induced_drag, lateral, longitudinal, span_loading
from ridgeline.engine.aero.washes import wash_of_angle, wash_of_control


def sheet(half_span, root, tip=None, sweep=0.0, dihedral=0.0, angle=0.0, x=0.0, z=0.0, mirrored=True, **more):
    y, stations = 0.0, 2
    s = np.linspace(0, half_span, stations)
    tip = root if tip is None else tip
    chord = root + (tip - root) * s / half_span
    lead = np.column_stack([x + s * math.tan(sweep), y + s * math.cos(dihedral), z + s * math.sin(dihedral)])
    return Sheet(lead, chord, np.full(stations, float(angle)), mirrored, **more)


def scale_of(area, span, chord, x=0.0):
    return Scale(area, span, chord, np.array([x, 0.0, 0.0]))


def slope(aspect_ratio, along=4, across=14, **more):
    half = 0.5 * aspect_ratio
    found = derivatives(Solver(build([sheet(half, 1.0, **more)], along, across)), scale_of(2 * half, 2 * half, 1.0))
    return found.alpha.lift


def test_the_swept_wing_of_the_textbook_has_its_published_lift_slope():
    # Bertin and Smith, Aerodynamics for Engineers, ex. 7.2: aspect ratio 5, 45° swept, untapered, 1 × 4 panels a
    # half wing, horseshoes with straight wakes: C_L = 3.44 α.
    wing = sheet(2.5, 1.0, sweep=math.radians(45))
    found = derivatives(Solver(build([wing], along=1, across=4, cosine=False)), scale_of(5.0, 5.0, 1.0))
    assert found.alpha.lift == pytest.approx(3.44, rel=0.005)


def test_a_wing_without_ends_has_the_flat_plates_slope():
    assert slope(2000.0) == pytest.approx(2 * math.pi, rel=0.005)


@pytest.mark.parametrize(
    ("aspect_ratio", "value"),
    # Lifting-surface values for flat rectangular wings; Jones' πA/2 is the limit below.
    [(1.0, 1.46), (2.0, 2.47), (4.0, 3.62), (6.0, 4.24), (8.0, 4.62), (20.0, 5.49)],
)
def test_rectangular_wings_match_accepted_lifting_surface_values(aspect_ratio, value):
    assert slope(aspect_ratio) == pytest.approx(value, rel=0.02)


def test_a_slender_wing_tends_to_jones_limit():
    assert slope(0.05, along=10) == pytest.approx(math.pi * 0.05 / 2, rel=0.05)


def test_an_elliptic_wing_is_loaded_elliptically_and_has_span_efficiency_one():
    theta = np.linspace(0, 0.5 * np.pi, 61)
    y = 5.0 * np.sin(theta)
    chord = np.maximum(np.cos(theta), 0.01)
    wing = Sheet(np.column_stack([-0.25 * chord, y, 0 * y]), chord, np.zeros(61), True)
    lattice = build([wing], along=1, across=60)
    solver = Solver(lattice)
    gamma = solver.circulation(wash_of_angle(lattice), symmetric=True)
    area = 2 * np.trapezoid(chord, y)
    lift = longitudinal(lattice, gamma, scale_of(area, 10.0, 1.0)).lift
    efficiency = lift**2 / (math.pi * 100 / area * induced_drag(lattice, gamma, area))
    assert efficiency == pytest.approx(1.0, abs=0.02)
    load = span_loading(lattice, gamma)
    shape = load.c_l * load.chord / np.sqrt(np.maximum(1 - (load.y / 5.0) ** 2, 1e-9))
    inner = load.y < 4.5
    assert np.ptp(shape[inner]) / shape[inner].mean() < 0.06


@given(st.floats(3, 14), st.floats(0.25, 1.0), st.floats(-0.5, 0.6), st.floats(0.02, 0.2))
@settings(max_examples=60)
def test_no_planar_wing_beats_elliptic_loading(aspect_ratio, taper, sweep, alpha):
    half = 0.5 * aspect_ratio
    lattice = build([sheet(half, 1.0, taper, sweep)], along=2, across=16)
    gamma = alpha * Solver(lattice).circulation(wash_of_angle(lattice), symmetric=True)
    area = half * (1 + taper)
    lift = longitudinal(lattice, gamma, scale_of(area, 2 * half, 1.0)).lift
    least = lift**2 / (math.pi * (2 * half) ** 2 / area)
    assert 0.995 * least < induced_drag(lattice, gamma, area) < 1.4 * least


def test_two_wings_far_apart_lift_as_two_lone_wings():
    one = derivatives(Solver(build([sheet(3, 1.0)])), scale_of(6, 6, 1)).alpha.lift
    far = [sheet(3, 1.0), sheet(3, 1.0, x=0.0, z=400.0)]
    assert derivatives(Solver(build(far)), scale_of(6, 6, 1)).alpha.lift == pytest.approx(2 * one, rel=1e-4)


@pytest.mark.parametrize("gap", [0.5, 1.0, 2.0])
def test_biplane_wings_spoil_each_other_by_prandtls_amount(gap):
    # Munk and Prandtl: equal wings of span b and gap g at equal lift have D_i = ½(1 + σ) of the lone wing's at
    # the whole lift, σ ≈ (1 − 0.66 g/b)/(1.05 + 3.7 g/b).
    pair = [sheet(3, 1.0, z=0.0), sheet(3, 1.0, z=gap)]
    lattice = build(pair)
    gamma = Solver(lattice).circulation(wash_of_angle(lattice), symmetric=True)
    both = longitudinal(lattice, gamma, scale_of(12, 6, 1)).lift
    lone = derivatives(Solver(build([sheet(3, 1.0)])), scale_of(6, 6, 1)).alpha.lift
    assert both < lone
    share = gap / 6
    sigma = (1 - 0.66 * share) / (1.05 + 3.7 * share)
    ratio = induced_drag(lattice, gamma, 12) * math.pi * 36 / 12 / both**2
    assert ratio == pytest.approx(0.5 * (1 + sigma), rel=0.06)


def test_a_tail_sees_the_wings_downwash():
    wing, tail = sheet(3, 1.0), sheet(1, 0.5, x=4.0, z=0.3)
    scale = scale_of(6, 6, 1)
    alone = derivatives(Solver(build([tail])), scale).alpha.lift
    together = derivatives(Solver(build([wing, tail])), scale).alpha.lift
    wing_alone = derivatives(Solver(build([wing])), scale).alpha.lift
    kept = (together - wing_alone) / alone
    # Lifting-line far wake at aspect ratio 6: 1 − dε/dα about 0.5 to 0.7 here.
    assert 0.45 < kept < 0.75


def test_lift_acts_at_the_quarter_chord_of_a_straight_wing():
    found = derivatives(Solver(build([sheet(6, 1.0)])), scale_of(12, 12, 1))
    assert found.neutral_point(scale_of(12, 12, 1)) == pytest.approx(0.25, abs=0.012)


@given(st.floats(-2, 2))
@settings(max_examples=20)
def test_forces_and_neutral_point_do_not_depend_on_the_datum(shift):
    here = [sheet(3, 1.0, 0.6, 0.2), sheet(1, 0.5, x=4.0, z=0.3)]
    there = [sheet(3, 1.0, 0.6, 0.2, x=shift), sheet(1, 0.5, x=4.0 + shift, z=0.3)]
    a = derivatives(Solver(build(here)), scale_of(6, 6, 1, 0.3))
    b = derivatives(Solver(build(there)), scale_of(6, 6, 1, 0.3 + shift))
    assert b.alpha.lift == pytest.approx(a.alpha.lift)
    assert b.alpha.pitch == pytest.approx(a.alpha.pitch)
    assert b.beta.yaw == pytest.approx(a.beta.yaw, abs=1e-12)


@given(st.floats(0.1, 10))
@settings(max_examples=20)
def test_coefficients_do_not_depend_on_size(k):
    small = derivatives(Solver(build([sheet(3, 1.0, 0.5, 0.3, 0.1)])), scale_of(4.5, 6, 1))
    large = derivatives(Solver(build([sheet(3 * k, k, 0.5 * k, 0.3, 0.1)])), scale_of(4.5 * k * k, 6 * k, k))
    assert large.alpha.lift == pytest.approx(small.alpha.lift, rel=1e-9)
    assert large.roll_rate.roll == pytest.approx(small.roll_rate.roll, rel=1e-9)


def test_an_image_is_the_same_as_the_other_half_panelled():
    wing = sheet(3, 1.0, 0.6, 0.3, 0.1)
    lead = wing.leading * [1, -1, 1]
    # One surface: neither half's wake is smeared where it passes the other.
    port = Sheet(lead[::-1], wing.chord[::-1], wing.angle[::-1], False, surface=0)
    starboard = Sheet(wing.leading, wing.chord, wing.angle, False, surface=0)
    # Even spacing, since the port half is panelled from its tip to its root.
    image = build([wing], 2, 8, cosine=False)
    both = build([port, starboard], 2, 8, cosine=False)
    a = Solver(image).circulation(wash_of_angle(image), symmetric=True)
    solver = Solver(both)
    b = solver.circulation(wash_of_angle(both), symmetric=True)
    scale = scale_of(4.8, 6, 1)
    assert longitudinal(both, b, scale).lift == pytest.approx(longitudinal(image, a, scale).lift, rel=2e-2)


def test_refining_the_lattice_settles_the_neutral_point():
    def place(along, across):
        found = derivatives(
            Solver(build([sheet(3, 1.0, 0.6, 0.2), sheet(1, 0.5, x=4.0, z=0.3)], along, across)), scale_of(4.8, 6, 0.8)
        )
        return found.neutral_point(scale_of(4.8, 6, 0.8))

    assert abs(place(4, 14) - place(8, 28)) < 0.005 * 0.8


def test_roll_damping_of_a_rectangular_wing_is_of_the_accepted_size():
    # Lifting-line and DATCOM values at aspect ratio 6: C_lp about −0.40 to −0.46 per p b/2V.
    found = derivatives(Solver(build([sheet(3, 1.0)])), scale_of(6, 6, 1))
    assert -0.47 < found.roll_rate.roll < -0.39
    assert found.roll_rate.side == pytest.approx(0, abs=1e-9)


def test_dihedral_rolls_away_from_the_wind_and_a_high_fin_turns_into_it():
    flat = derivatives(Solver(build([sheet(3, 1.0)])), scale_of(6, 6, 1))
    bent = derivatives(Solver(build([sheet(3, 1.0, dihedral=math.radians(5))])), scale_of(6, 6, 1))
    assert flat.beta.roll == pytest.approx(0, abs=1e-12)
    # Strip theory: C_lβ ≈ −C_lα Γ/4·… about −0.012 per degree of dihedral at aspect ratio 6 is −0.06 to −0.08 here.
    assert -0.10 < bent.beta.roll < -0.05
    fin = sheet(0.8, 0.6, x=4.0, dihedral=math.pi / 2, mirrored=False)
    finned = derivatives(Solver(build([sheet(3, 1.0), fin])), scale_of(6, 6, 1))
    assert finned.beta.yaw > 0.01 and finned.beta.side < 0 and finned.beta.roll < 0
    assert finned.yaw_rate.yaw < 0
    assert finned.alpha.lift == pytest.approx(flat.alpha.lift, rel=1e-6)


def test_a_v_tail_pulls_sideways_weaker_than_the_sine_squared():
    # The two panels load oppositely in sideslip and spoil each other: about 0.6 to 0.8 of S sin²Γ (NACA Report 823).
    def tail(angle):
        return derivatives(Solver(build([sheet(1.0, 0.5, dihedral=angle)])), scale_of(1, 2, 0.5))

    cant = math.radians(40)
    flat, bent = tail(0.0), tail(cant)
    assert bent.alpha.lift / flat.alpha.lift == pytest.approx(math.cos(cant) ** 2, rel=0.12)
    sideways = -bent.beta.side / flat.alpha.lift / math.sin(cant) ** 2
    assert 0.5 < sideways < 0.85


def test_pitch_damping_comes_from_the_tail():
    wing, tail = sheet(3, 1.0), sheet(1, 0.5, x=4.0, z=0.3)
    scale = scale_of(6, 6, 1, 0.4)
    bare, tailed = (derivatives(Solver(build(s)), scale).pitch_rate.pitch for s in ([wing], [wing, tail]))
    assert tailed < bare <= 0.0
    assert tailed - bare == pytest.approx(-2 * 3.62 * (1.0 / 6) * 3.725**2, rel=0.08)


def test_camber_and_incidence_act_at_zero_angle():
    level = derivatives(Solver(build([sheet(3, 1.0, angle=0.05)])), scale_of(6, 6, 1, 0.25))
    assert level.zero.lift == pytest.approx(0.05 * level.alpha.lift)
    cambered = derivatives(Solver(build([sheet(3, 1.0, angle=0.05, moment=-0.08)])), scale_of(6, 6, 1, 0.25))
    assert cambered.zero.pitch - level.zero.pitch == pytest.approx(-0.08)


def test_a_full_span_control_acts_as_its_effectiveness_times_an_angle():
    lattice = build([sheet(3, 1.0)])
    solver = Solver(lattice)
    whole = solver.circulation(wash_of_control(lattice, 0, 0.0, 3.0, 0.5), symmetric=True)
    scale = scale_of(6, 6, 1)
    angle = solver.circulation(wash_of_angle(lattice), symmetric=True)
    assert longitudinal(lattice, whole, scale).lift == pytest.approx(0.5 * longitudinal(lattice, angle, scale).lift)
    half = solver.circulation(wash_of_control(lattice, 0, 1.5, 3.0, 0.5), symmetric=False)
    # Starboard control down lifts that wing: it rolls to port.
    assert lateral(lattice, half, scale).roll < -0.05


def test_one_factored_lattice_serves_every_case():
    before = Solver.solves
    derivatives(Solver(build([sheet(3, 1.0)])), scale_of(6, 6, 1))
    assert Solver.solves == before + 1


def test_no_surface_is_no_lattice():
    with pytest.raises(ValueError, match="at least one"):
        build([])
