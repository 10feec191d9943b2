"""A half as a beam: its forms against closed forms, spars and skins together, and what grows with what."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.airframe import Body, BodyStation, ControlSurface, Station, Surface
from ridgeline.design.construction import Board, Covering, Holes, Printing, RootHold, Spar, SurfaceBuild
from ridgeline.engine.geometry.placed import outline_over_chord
from ridgeline.engine.geometry.section_outline import split
from ridgeline.engine.structure.half import BOUGHT, NOT_BUILT, NOT_KNOWN, half_of, seat_of, why_not
from ridgeline.engine.structure.room import between_skins
from ridgeline.engine.structure.skin_forms import plastic
from ridgeline.engine.structure.skins import skins_of
from ridgeline.files.design_file import load

TUBE = Spar(height=0.006, width=0.006, inner=0.004, modulus=120e9, strength=400e6, end=0.8)
FORMS = ("plate", "stepped", "curved", "folded", "folded_under", "ribbed", "core", "printed")
SECTIONS = {"plate": "rounded_plate", "stepped": "stepped_plate", "curved": "curved_sheet", "folded": "folded",
            "folded_under": "folded"}  # fmt: skip


def wing(form="plate", *, chord=0.2, tip=0.2, half=0.6, thickness=None, controls=(), joint="fixed", x=0.0, **built):
    section = SECTIONS.get(form, "flat_bottom")
    thick = {"plate": 0.005, "stepped": 0.010}.get(form, 0.09 * chord) if thickness is None else thickness
    return Surface(
        id="s1",
        name="Wing",
        role="wing",
        section=section,
        thickness=thick,
        sheet=0.005,
        joint=joint,
        stations=(Station(y=0.0, chord=chord), Station(y=half, chord=tip, x=x)),
        controls=controls,
        built=SurfaceBuild(form=form, **built),
    )


def half(*arguments, seat=0.0, **more):
    return half_of(wing(*arguments, **more), seat)


# -- forms ------------------------------------------------------------------------------------------------------------


def test_a_plate_of_faced_board_is_the_sum_of_three_layers():
    found = half("plate")
    # Papers at half the board's thickness, and the core's own.
    layers = 0.2 * (2 * 3.0e9 * 0.09e-3 * 0.0025**2 + 9.0e6 * 0.005**3 / 12)
    assert found.bending == pytest.approx(layers)
    assert found.torsion == pytest.approx(2 * 1.0e9 * 0.09e-3 * 0.005**2 * 0.2 + 3.5e6 * 0.2 * 0.005**3 / 3)


@pytest.mark.parametrize(("peeled", "share"), [(1, 0.10), (2, 0.03)])
def test_peeled_papers_leave_a_tenth_and_three_hundredths_beside_the_core(peeled, share):
    core = 0.2 * 9.0e6 * 0.005**3 / 12
    whole, left = (half("plate", board=Board(peeled=k)).bending[0] - core for k in (0, peeled))
    assert left / whole == pytest.approx(share)


def test_paper_bears_eight_megapascals_at_limit_load():
    found = half("plate").skins
    stiff = found.bending[0]
    assert found.limit == pytest.approx(12e6 / 1.5) and found.facing == "paper"
    assert found.bears[0] == pytest.approx(8e6 * stiff / (3e9 * 0.0025))
    assert half("plate", board=Board(peeled=2)).skins.facing == "foam"


def test_a_step_stiffens_over_its_share_alone_and_lies_before_the_middle():
    plain, stepped = half("plate").bending[0], half("stepped", doubler=0.45).bending[0]
    assert 2 < stepped / plain < 4
    assert half("stepped", doubler=1.0).bending[0] > stepped
    # Two boards flat on each other: four papers, 5 mm apart each.
    heights = np.array([-0.0025, 0.0025, 0.0025, 0.0075]) - 0.0025
    whole = 0.2 * (3.0e9 * 0.09e-3 * np.sum(heights**2) + 9.0e6 * 0.010**3 / 12)
    assert half("stepped", doubler=1.0).bending[0] == pytest.approx(whole)


def test_a_folded_wing_twists_as_a_closed_cell_of_its_wall():
    found = half("folded", strips=0)
    # Bredt by the outline as it is drawn: 4 A² G t/girth.
    outline = 0.2 * outline_over_chord(wing("folded"))
    there = np.roll(outline, -1, axis=0)
    area = 0.5 * abs(np.sum(outline[:, 0] * there[:, 1] - there[:, 0] * outline[:, 1]))
    girth = np.hypot(*(there - outline).T).sum()
    wall = 2 * 1.0e9 * 0.09e-3 + 3.5e6 * 0.005
    assert found.torsion[0] == pytest.approx(4 * area**2 * wall / girth, rel=0.02)
    assert found.torsion[0] > 5 * half("plate").torsion[0]


def test_a_core_twists_and_bends_by_its_whole_section():
    found = half("core", foam_density=32.0)
    x = np.linspace(0, 1, 400)
    upper, lower = split(outline_over_chord(wing("core")))
    deep = np.interp(x, upper[:, 0], upper[:, 1]) - np.interp(x, lower[:, 0], lower[:, 1])
    assert found.torsion[0] == pytest.approx(3.5e6 * np.trapezoid(deep**3 / 3, x) * 0.2**4, rel=0.01)
    assert half("core", foam_density=16.0).bending[0] == pytest.approx(0.5 * found.bending[0])


def test_prints_are_read_across_their_layers_by_density():
    plain, foaming = (plastic(Printing(density=d)) for d in (1240.0, 575.0))
    assert plain == pytest.approx((3.0e9, 1.2e9, 25e6)) and foaming == pytest.approx((1.0e9, 0.35e9, 8e6))
    between = plastic(Printing(density=900.0))
    assert all(low < middle < high for low, middle, high in zip(foaming, between, plain, strict=True))


def test_closer_ribs_let_a_printed_skin_bear_more():
    wide, close = (half("printed", printing=Printing(ribs=r)).skins.limit for r in (0.05, 0.3))
    assert close > 4 * wide
    # Never more than the plastic does: 25 MPa over 1.5.
    thick = half("printed", printing=Printing(line_width=0.004, perimeters=3.0, ribs=3.0)).skins
    assert thick.limit == pytest.approx(25e6 / 1.5)


def test_glass_stiffens_a_plate_and_paint_or_tape_over_paper_do_not():
    plain = half("plate").torsion[0]
    glass = half("plate", covering=Covering(material="Glass", areal=0.05, wall=6e4)).torsion[0]
    assert glass - plain == pytest.approx(2 * 6e4 * 0.005**2 * 0.2)
    assert half("plate", covering=Covering(material="Tape", areal=0.04)).torsion[0] == plain
    assert half("plate", covering=Covering(wall=6e4, layers=2.0)).torsion[0] - plain == pytest.approx(
        2 * (glass - plain)
    )
    cell = half("folded", strips=0, covering=Covering(wall=6e4)).torsion[0] / half("folded", strips=0).torsion[0]
    assert cell == pytest.approx(1 + 6e4 / 1.975e5, rel=1e-6)


def test_holes_and_hinges_take_what_they_cut():
    whole, holed = half("plate"), half("plate", holes=Holes(size=0.05))
    assert holed.skins.bending / whole.skins.bending == pytest.approx(1 - 0.05 / 0.2)
    aileron = ControlSurface(id="c1", kind="aileron", start=0.3, end=0.6, chord_fraction=0.25)
    cut = half("plate", controls=(aileron,))
    inner, outer = cut.bending[cut.y < 0.29], cut.bending[cut.y > 0.31]
    assert outer / inner[0] == pytest.approx(0.75) and inner == pytest.approx(whole.bending[0])
    assert cut.rolls and not whole.rolls


def test_strips_of_board_inside_stiffen_by_their_papers():
    bare, two, three = (half("folded", strips=n, strip_width=0.03).bending[0] for n in (0, 2, 3))
    apart = np.array([-0.005, 0.0, 0.0, 0.005])
    assert two - bare == pytest.approx(3e9 * 0.09e-3 * 0.03 * np.sum(apart**2))
    assert three - bare > 2 * (two - bare)


# -- spars ------------------------------------------------------------------------------------------------------------


def test_a_spar_bears_by_its_section_and_the_skins_beyond_it():
    found = half("plate", spars=(TUBE,), seat=0.03)
    section = math.pi * (0.006**4 - 0.004**4) / 64
    assert found.spar_bending[0][0] == pytest.approx(120e9 * section)
    moment = 2 * section / 0.006 * 400e6 / 1.5
    assert found.bears[0] == pytest.approx(moment)
    assert found.spar_end == pytest.approx(0.48, abs=1e-6)
    assert found.bears[-1] == pytest.approx(found.skins.bears[-1]) and found.skin_share < 0.2


def test_in_the_seat_the_skins_are_cut_and_outside_they_carry_where_a_spar_carries_less():
    thin = TUBE.model_copy(update={"height": 0.001, "width": 0.001, "inner": 0.0})
    found = half("plate", spars=(thin,), seat=0.05)
    inside, outside = found.y < 0.049, (found.y > 0.06) & (found.y < 0.4)
    assert np.all(found.bears[inside] < 0.05) and np.all(found.bears[outside] == found.skins.bears[outside])


def test_spars_side_by_side_share_by_stiffness():
    two = half("plate", spars=(TUBE.model_copy(update={"count": 2}),)).bears[0]
    one = half("plate", spars=(TUBE,)).bears[0]
    assert two == pytest.approx(2 * one)
    # A stiff weak one beside it takes the load that it cannot bear.
    weak = TUBE.model_copy(update={"place": 0.6, "modulus": 360e9, "strength": 100e6})
    both = half("plate", spars=(TUBE, weak)).bears[0]
    assert both == pytest.approx(one / 4 * 4 / 3, rel=1e-6) and both < one


def test_metal_may_come_to_its_yield_at_limit_load():
    steel = TUBE.model_copy(update={"yields": True})
    assert half("plate", spars=(steel,)).bears[0] == pytest.approx(1.5 * half("plate", spars=(TUBE,)).bears[0])


def test_strips_stand_by_their_height_and_width():
    strip = Spar(round=False, width=0.001, height=0.006, modulus=120e9, strength=600e6)
    found = half("plate", spars=(strip,))
    assert found.spar_bending[0][0] == pytest.approx(120e9 * 0.001 * 0.006**3 / 12)
    assert found.bears[0] == pytest.approx(0.001 * 0.006**2 / 6 * 600e6 / 1.5)


def test_a_wing_bends_about_its_spar_the_more_the_stiffer_that_is():
    skins, soft, stiff = (
        half("plate", spars=spars).axis[0] for spars in ((), (TUBE,), (TUBE.model_copy(update={"count": 8}),))
    )
    assert skins == pytest.approx(0.5) and 0.3 < stiff < soft < 0.4


def test_a_second_spar_behind_the_first_holds_against_twist():
    rear = TUBE.model_copy(update={"place": 0.7})
    one, two = (half("plate", spars=spars) for spars in ((TUBE,), (TUBE, rear)))
    stiff = one.spar_bending[0][0]
    rod = one.torsion[0] - half("plate").torsion[0]
    # Each bends by half the other way: 3 (EI/2) h²/L² over what the rods themselves are.
    assert two.torsion[0] - half("plate").torsion[0] == pytest.approx(
        2 * rod + 3 * stiff / 2 * (0.4 * 0.2) ** 2 / 0.48**2, rel=1e-4
    )
    loose = half("plate", spars=(TUBE.model_copy(update={"sliding": True}),))
    assert loose.torsion[0] == half("plate").torsion[0], "what slides is turned by nothing"


def test_a_wing_on_one_pin_is_held_by_spring_times_arm_squared():
    panel = half("plate", spars=(TUBE,), root=RootHold(arm=0.08, spring=2e4)).panel
    assert panel.root == pytest.approx(128.0) and half("plate").panel.root == math.inf


def test_an_upright_fin_has_no_panel_that_air_turns():
    fin = wing("plate").model_copy(update={"cant": math.pi / 2, "mirrored": False})
    assert half_of(fin, 0.0).panel is None


def test_what_is_not_known_says_why():
    assert why_not(wing().model_copy(update={"built": None})) == NOT_BUILT
    assert why_not(wing("bought")) == BOUGHT and half("bought") is None
    unknown = wing("plate", spars=(Spar(),))
    assert why_not(unknown) == NOT_KNOWN and half_of(unknown, 0.0) is None
    assert why_not(wing("plate", spars=(TUBE,))) == ""
    assert skins_of(wing("bought"), np.array([0.0, 0.6]), np.array([0.2, 0.2])) is None


def test_a_seat_is_as_wide_as_the_body_or_as_it_says():
    body = Body(id="b1", name="Body", stations=(BodyStation(x=-0.1, width=0.07, height=0.08),
                                                BodyStation(x=0.5, width=0.07, height=0.08)))  # fmt: skip
    assert seat_of(wing(), (body,)) == pytest.approx(0.035) and seat_of(wing(), ()) == 0.0
    assert seat_of(wing("plate", seat_out=0.05), (body,)) == 0.05
    assert seat_of(wing("plate", seat_out=1.5), (body,)) == pytest.approx(0.3), "no farther out than half the panel"


def test_sweep_is_that_of_the_axis():
    assert half("plate", x=0.6 * math.tan(math.radians(20))).sweep == pytest.approx(math.radians(20))
    assert half("plate").sweep == pytest.approx(0.0)


@given(
    st.sampled_from(FORMS),
    st.floats(0.03, 1.2),
    st.floats(0.2, 1.0),
    st.floats(0.05, 3.0),
    st.integers(0, 2),
    st.integers(0, 3),
    st.floats(0.3, 1.0),
)
@settings(max_examples=60, deadline=None)
def test_any_construction_is_finite_and_a_longer_or_second_spar_never_weakens_it(
    form, chord, taper, long, peeled, count, end
):
    spars = tuple(TUBE.model_copy(update={"end": end, "place": 0.3 + 0.1 * k}) for k in range(count))
    found = half(
        form, chord=chord, tip=taper * chord, half=long, board=Board(peeled=peeled), spars=spars, seat=0.1 * long
    )
    for values in (found.bending, found.torsion, found.bears, found.axis, found.skins.shear_bears):
        assert np.all(np.isfinite(values)) and np.all(values >= 0)
    assert np.all(found.bending > 0) and np.all(found.torsion > 0)
    more = half(form, chord=chord, tip=taper * chord, half=long, board=Board(peeled=peeled), seat=0.1 * long,
                spars=(*spars, TUBE.model_copy(update={"end": end, "place": 0.75})))  # fmt: skip
    # A first spar takes the moment over in the seat, where skins are cut; another one only adds.
    if count:
        assert np.all(np.interp(found.y, more.y, more.bending) >= found.bending * (1 - 1e-9))
        assert np.all(np.interp(found.y, more.y, more.bears) >= found.bears * (1 - 1e-6))


def test_stress_at_a_constant_load_factor_grows_as_the_size():
    """Same material, k times the size: moments grow as k⁴ (weight k³, arms k), sections as k³: stress as k."""
    k = 2.0
    small = half("core", foam_density=30.0)
    large = half("core", foam_density=30.0, chord=0.4, tip=0.4, half=1.2, thickness=0.036)
    grown = large.skins.bears[0] / small.skins.bears[0]
    assert grown == pytest.approx(k**3, rel=1e-6)
    assert k**4 / grown == pytest.approx(k)


def test_a_glued_rod_twists_along_its_fibre_and_metal_as_metal_does():
    plain = half("plate").torsion[0]
    polar = 2 * math.pi * (0.006**4 - 0.004**4) / 64
    assert half("plate", spars=(TUBE,)).torsion[0] - plain == pytest.approx(120e9 / 20 * polar)
    metal = TUBE.model_copy(update={"yields": True, "modulus": 69e9})
    assert half("plate", spars=(metal,)).torsion[0] - plain == pytest.approx(69e9 / 2.6 * polar)


def test_strips_along_both_skins_bear_by_their_height_apart():
    """By hand: E (A h²/2 + own), h between the skins less half the board on either side, and less a strip."""
    wing = load("demo:avocet").surfaces[0]
    spar = Spar(width=0.006, height=0.001, round=False, modulus=120e9, strength=600e6, count=2, caps=True, end=0.8)
    built = wing.built.model_copy(update={"spars": (spar,)})
    half = half_of(wing.model_copy(update={"built": built}), 0.05)
    middle = half_of(
        wing.model_copy(
            update={"built": built.model_copy(update={"spars": (spar.model_copy(update={"caps": False}),)})}
        ),
        0.05,
    )
    at = half.at_seat
    high = float(between_skins(wing, spar.place, half.chord[at])) - 0.001
    second = 6e-6 * high**2 / 2 + 2 * 6e-3 * 1e-9 / 12
    assert half.spar_bending[0, at] == pytest.approx(120e9 * second)
    assert half.spar_bears[0, at] == pytest.approx(400e6 * second / (0.5 * (high + 0.001)))
    assert half.spar_bending[0, at] > 50 * middle.spar_bending[0, at] and half.spar_bending[0, -1] == 0
    # It follows the chord.
    assert half.spar_bending[0, at] > half.spar_bending[0, half.spar_here.nonzero()[0][-1]]


def test_caps_on_a_plate_lie_on_its_faces_and_come_in_pairs():
    wing = load("demo:whimbrel").surfaces[0]
    spar = Spar(width=0.006, height=0.001, round=False, modulus=120e9, strength=600e6, count=2, caps=True, place=0.6)
    built = wing.built.model_copy(update={"spars": (spar,)})
    half = half_of(wing.model_copy(update={"built": built}), 0.035)
    second = 6e-6 * 0.006**2 / 2 + 2 * 6e-3 * 1e-9 / 12
    assert half.spar_bending[0, half.at_seat] == pytest.approx(120e9 * second)
    with pytest.raises(ValueError, match="odd number"):
        Spar(count=3, caps=True)
