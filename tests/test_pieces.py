"""Pieces from a construction: areas against closed forms and triangulation, masses, places, pairs, holes."""

import math
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.airframe import Body, BodyStation, ControlSurface, Station, Surface
from ridgeline.design.build import Build
from ridgeline.design.construction import Board, BodyBuild, Covering, Holes, Printing, Spar, SurfaceBuild
from ridgeline.design.document import Design
from ridgeline.design.parts import Hung, Item, Servo
from ridgeline.engine.build.developed import developed, leading_of
from ridgeline.engine.build.flat import girth
from ridgeline.engine.build.hulls import pieces_of_body
from ridgeline.engine.build.making import items_of
from ridgeline.engine.build.panels import pieces_of_surface
from ridgeline.engine.build.pieces import area_of, spread_over
from ridgeline.engine.build.seats import Seat, servo_case
from ridgeline.engine.build.whole import pieces_of_design
from ridgeline.engine.geometry.placed import outline_over_chord, placed_at
from ridgeline.engine.geometry.section_outline import split
from ridgeline.engine.geometry.surfaces import measure_surface
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.weights.estimates import body_extent, extents_of, mass_of, surface_extent

SECTION = {
    "plate": ("rounded_plate", 0.005), "stepped": ("stepped_plate", 0.010), "curved": ("curved_sheet", 0.015),
    "folded": ("folded", 0.018), "folded_under": ("folded", 0.018), "ribbed": ("flat_bottom", 0.018),
    "core": ("flat_bottom", 0.018), "printed": ("flat_bottom", 0.018), "bought": ("flat_bottom", 0.018),
}  # fmt: skip
FORMS = sorted(SECTION)


def wing(form, *, root=0.2, tip=0.2, half=0.5, sweep=0.0, rise=0.0, **built):
    section, thickness = SECTION[form]
    return Surface(
        id="w", name="Wing", role="wing", section=section, thickness=thickness,
        stations=(Station(y=0, chord=root), Station(y=half, chord=tip, x=sweep, z=rise)),
        built=SurfaceBuild(form=form, **built),
    )  # fmt: skip


def of_group(pieces, group="shell"):
    return sum(piece.total for piece in pieces if piece.group == group)


def named(pieces, name):
    return next(piece for piece in pieces if piece.name == name)


def hull(form, **built):
    rows = (
        BodyStation(x=0.0, width=0.05, height=0.06),
        BodyStation(x=0.3, width=0.07, height=0.08, z=0.01),
        BodyStation(x=0.8, width=0.03, height=0.02, z=0.02),
    )
    return Body(id="b", name="Body", stations=rows, built=BodyBuild(form=form, **built))


def test_a_plate_of_light_board_weighs_fifteen_grams():
    # 500 × 100 × 5 mm of 300 g/m²: half of a 1 m span, chord 0.1 m.
    one = named(pieces_of_surface(wing("plate", root=0.1, tip=0.1)), "Plate")
    assert one.mass == pytest.approx(0.0150) and one.pieces == 2


@given(
    root=st.floats(0.08, 0.4), taper=st.floats(0.3, 1.0), half=st.floats(0.2, 1.5),
    sweep=st.floats(-0.2, 0.4), rise=st.floats(-0.2, 0.3),
)  # fmt: skip
def test_a_plates_area_is_the_true_planform_and_its_mass_area_times_board(root, taper, half, sweep, rise):
    surface = wing("plate", root=root, tip=taper * root, half=half, sweep=sweep, rise=rise)
    plate = named(pieces_of_surface(surface), "Plate")
    assert 2 * plate.area == pytest.approx(measure_surface(surface).true_area)
    assert plate.mass == pytest.approx(0.3 * plate.area)
    assert area_of(plate.outline) == pytest.approx(plate.area)


@pytest.mark.parametrize("form", ["folded", "folded_under"])
def test_a_folded_skin_is_its_developed_girth_times_the_span(form):
    surface = wing(form, strips=0)
    upper, lower = split(outline_over_chord(surface))
    skin = named(pieces_of_surface(surface), "Folded skin")
    assert skin.area == pytest.approx((girth(upper) + girth(lower)) * 0.2 * 0.5, rel=1e-9)
    points = np.array(outline_over_chord(surface)) * 0.2
    assert girth(upper) + girth(lower) == pytest.approx(np.hypot(*np.diff(points, axis=0).T).sum() / 0.2)


@pytest.mark.parametrize("form", ["folded", "ribbed", "curved"])
def test_tapered_skins_agree_with_the_triangulated_loft(form):
    surface = wing(form, root=0.25, tip=0.15, half=0.7, sweep=0.05, strips=0)
    upper, lower = split(outline_over_chord(surface))
    here = placed_at(surface, np.linspace(0, 0.7, 9))
    areas = {
        name: spread_over(here.points(side[:, 0], side[:, 1]))[0] for name, side in (("upper", upper), ("lower", lower))
    }
    lofted = areas["upper"] if form == "curved" else sum(areas.values())
    cut = sum(piece.area for piece in pieces_of_surface(surface) if piece.group == "shell" and piece.name != "Rib")
    assert cut == pytest.approx(lofted, rel=1e-4)


def edges_of(net):
    """Return how long the edges of a skin laid flat are: nose, tail, root and tip, m."""

    def length(points):
        return float(np.hypot(*np.diff(points, axis=0).T).sum())

    return length(net.points[:, 0]), length(net.points[:, -1]), length(net.points[0]), length(net.points[-1])


@given(
    root=st.floats(0.08, 0.4), taper=st.floats(0.3, 1.0), half=st.floats(0.2, 1.5),
    sweep=st.floats(-0.2, 0.4), rise=st.floats(-0.2, 0.3), twist=st.floats(-0.07, 0.07),
    reach=st.sampled_from([0.6, 0.8, 1.0]), ahead=st.booleans(),
)  # fmt: skip
def test_the_edges_of_a_folded_skin_are_as_long_as_lofted(root, taper, half, sweep, rise, twist, reach, ahead):
    surface = wing("folded", root=root, tip=taper * root, half=half, sweep=sweep, rise=rise)
    stations = (surface.stations[0], surface.stations[1].model_copy(update={"twist": twist}))
    surface = surface.model_copy(update={"stations": stations})
    for side in split(outline_over_chord(surface)):
        net = developed(surface, side, leading_of(surface), reach, ahead=ahead)
        x = np.maximum.accumulate(side[:, 0])
        shares = np.unique(np.concatenate([x[x < reach], [reach]]))
        heights = np.interp(shares, x, side[:, 1])
        loft = placed_at(surface, [0.0, half]).points(net.share, np.interp(net.share, x, side[:, 1]))
        lofted = [np.linalg.norm(np.diff(row, axis=0), axis=1).sum() for row in (loft[:, 0], loft[:, -1], *loft)]
        # A nose that stands upright has two heights at one share: it is followed as it is drawn.
        if len(np.unique(x)) == len(x):
            assert edges_of(net) == pytest.approx(lofted, abs=1e-4)
        else:
            assert edges_of(net)[0] == pytest.approx(lofted[0], abs=1e-4)
        assert len(shares) == len(heights)


@given(radius=st.floats(0.02, 0.3), turn=st.floats(0.2, 1.6), long=st.floats(0.1, 1.0), taper=st.floats(0.4, 1.0))
def test_cylinder_and_cone_unroll_to_closed_forms(radius, turn, long, taper):
    """A strip of a cylinder is a rectangle of its arc; one of a cone a part of a ring: area ½ (a0 + a1) × slant."""
    angle = np.linspace(0.0, turn, 241)
    chord = radius * math.sin(turn)
    side = np.column_stack([np.sin(angle) / math.sin(turn), (1 - np.cos(angle)) / math.sin(turn)])
    if turn > math.pi / 2:
        return
    surface = wing("plate", root=chord, tip=taper * chord, half=long)
    # Straight generators meet the axis of the nose at one apex only where the nose is one of them.
    net = developed(surface, side, leading_of(surface))
    arcs = radius * turn, taper * radius * turn
    assert edges_of(net)[2:] == pytest.approx(arcs, rel=1e-4)
    x, y = net.outline().T
    area = 0.5 * abs(float(x @ np.roll(y, -1) - y @ np.roll(x, -1)))
    corners = placed_at(surface, [0.0, long]).points(net.share, np.interp(net.share, side[:, 0], side[:, 1]))
    near, far = corners
    slants = np.linalg.norm(far - near, axis=1)
    if taper > 0.999:
        assert area == pytest.approx(radius * turn * long, rel=1e-4)
    exact = sum(0.5 * np.linalg.norm(np.cross(near[j + 1] - near[j], far[j] - near[j]))
                + 0.5 * np.linalg.norm(np.cross(far[j + 1] - far[j], near[j + 1] - far[j]))
                for j in range(len(near) - 1))  # fmt: skip
    assert area == pytest.approx(exact, rel=2e-4)
    assert edges_of(net)[:2] == pytest.approx([slants[0], slants[-1]], abs=1e-6)


def test_the_fold_of_a_swept_panel_opens_about_its_leading_edge():
    surface = wing("folded", sweep=0.2, strips=0)
    skin = named(pieces_of_surface(surface), "Folded skin")
    fold = next(line for line in skin.lines if line.kind == "score").points
    way = (fold[1] - fold[0]) / np.linalg.norm(fold[1] - fold[0])
    normal = np.array([-way[1], way[0]])
    far = (skin.outline - fold[0]) @ normal
    upper, lower = split(outline_over_chord(surface))
    # One skin ahead of the fold and one behind, each as wide as its girth square to the sweep.
    square = float(normal @ (0.0, 1.0))
    assert far.min() == pytest.approx(-girth(upper) * 0.2 * square, rel=0.02)
    assert far.max() == pytest.approx(girth(lower) * 0.2 * square, rel=0.02)


def test_no_sheet_folds_about_a_broken_leading_edge():
    surface = wing("folded")
    stations = (Station(y=0, chord=0.2), Station(y=0.3, chord=0.2), Station(y=0.5, chord=0.12, x=0.06))
    names = {p.name for p in pieces_of_surface(surface.model_copy(update={"stations": stations}))}
    assert {"Top skin", "Bottom skin"} <= names and "Folded skin" not in names


#: Second part of the handbook, §15.1: kg/m² of projected area, 5 mm light board, 0.2 m chord, adhesive apart.
HANDBOOK = {
    "plate": (0.30, 0.30), "stepped": (0.41, 0.47), "curved": (0.31, 0.34), "folded": (0.56, 0.74),
    "ribbed": (0.69, 0.75), "printed": (1.1, 1.4),
}  # fmt: skip


@pytest.mark.parametrize("form", sorted(HANDBOOK))
def test_forms_weigh_what_the_trade_says(form):
    pieces = pieces_of_surface(wing(form))
    low, high = HANDBOOK[form]
    assert low - 1e-9 <= of_group(pieces) / 0.2 <= high
    # Glue, tape and spars add 0.04 to 0.15 kg/m² where there is anything to join.
    if form not in ("plate", "printed"):
        assert 0.04 <= of_group(pieces, "glue") / 0.2 <= 0.15


def test_a_foaming_shell_of_one_perimeter_weighs_what_the_trade_says():
    shell = wing("printed", printing=Printing(density=575.0))
    assert 0.45 <= of_group(pieces_of_surface(shell)) / 0.2 <= 0.80


@pytest.mark.parametrize(("peeled", "left"), [(0, 1.0), (1, 0.78), (2, 0.55)])
def test_peeled_papers_and_plain_sheet(peeled, left):
    light = of_group(pieces_of_surface(wing("folded", board=Board(peeled=peeled))))
    assert light == pytest.approx(left * of_group(pieces_of_surface(wing("folded"))))
    bare = Board(faced=False, peeled=peeled)
    assert of_group(pieces_of_surface(wing("plate", board=bare))) == pytest.approx(0.3 * 0.2)


def test_a_core_is_volume_times_density_and_its_film_goes_all_round():
    surface = wing("core", covering=Covering(areal=0.02, layers=2))
    pieces, extent = pieces_of_surface(surface), surface_extent(surface)
    assert of_group(pieces) == pytest.approx(25.0 * extent.volume, rel=1e-6)
    assert of_group(pieces, "covering") == pytest.approx(0.04 * extent.skin, rel=1e-3)


@pytest.mark.parametrize("form", FORMS)
def test_panels_are_in_pairs_and_lie_within_the_surface(form):
    for piece in pieces_of_surface(wing(form, sweep=0.1, rise=0.05)):
        assert piece.mirrored and piece.pieces == 2 * piece.count
        x, y, z = piece.spread.centroid
        assert 0 <= x <= 0.31 and 0.2 <= y <= 0.3 and -0.01 <= z <= 0.06


def test_a_lone_fin_is_cut_once_and_stands_up():
    fin = wing("plate").model_copy(update={"mirrored": False, "cant": math.pi / 2, "role": "fin"})
    plate = named(pieces_of_surface(fin), "Plate")
    assert plate.pieces == 1
    assert plate.spread.centroid == pytest.approx([0.1, 0.0, 0.25], abs=1e-9)
    assert plate.spread.size == pytest.approx([0.2, 0.0, 0.5], abs=1e-9)


def test_a_spar_through_both_halves_is_one_rod_and_one_in_halves_two():
    through = wing("folded", spars=(Spar(linear=0.011, end=0.8),))
    rod = named(pieces_of_surface(through), "Spar")
    assert (rod.pieces, rod.length, rod.mass) == (1, pytest.approx(0.8), pytest.approx(0.0088))
    assert rod.spread.centroid[1] == pytest.approx(0.0)
    halves = wing("folded", spars=(Spar(linear=0.011, end=0.8, through=False, count=2),))
    rod = named(pieces_of_surface(halves), "Spar")
    assert (rod.pieces, rod.length, rod.total) == (4, pytest.approx(0.4), pytest.approx(0.0176))
    assert named(pieces_of_surface(wing("folded", spars=(Spar(sliding=True),))), "Joiner").pieces == 1


def test_hinges_are_tape_along_the_controls():
    aileron = ControlSurface(id="c", kind="aileron", start=0.2, end=0.45, chord_fraction=0.25)
    surface = wing("plate").model_copy(update={"controls": (aileron,)})
    hinge = named(pieces_of_surface(surface), "Hinge")
    assert hinge.total == pytest.approx(2 * 0.25 * 0.0022)
    assert hinge.spread.centroid == pytest.approx([0.15, 0.325, 0.0])
    lines = [line.kind for line in named(pieces_of_surface(surface), "Plate").lines]
    assert lines.count("hinge") == 1 and lines.count("cut") == 2
    fillet = surface.model_copy(update={"built": surface.built.model_copy(update={"hinge": "glue"})})
    assert named(pieces_of_surface(fillet), "Hinge").total == pytest.approx(2 * 0.25 * 0.003)


@given(
    count=st.integers(1, 30), size=st.floats(0.01, 0.12), land=st.floats(0.004, 0.04),
    place=st.floats(0.1, 0.6), flap=st.floats(0.15, 0.4), taper=st.floats(0.4, 1.0),
)  # fmt: skip
def test_holes_stay_clear_of_edges_spars_and_hinges(count, size, land, place, flap, taper):
    spar = Spar(place=place, width=0.004, end=1.0)
    aileron = ControlSurface(id="c", kind="aileron", start=0.1, end=0.5, chord_fraction=flap)
    surface = wing("plate", root=0.3, tip=0.3 * taper, holes=Holes(count=count, size=size, land=land), spars=(spar,))
    surface = surface.model_copy(update={"controls": (aileron,)})
    plate = named(pieces_of_surface(surface), "Plate")
    whole = wing("plate", root=0.3, tip=0.3 * taper)
    assert len(plate.holes) <= count
    gone = len(plate.holes) * math.pi / 4 * size**2
    assert plate.area == pytest.approx(named(pieces_of_surface(whole), "Plate").area - gone)
    for along, back, diameter in plate.holes:
        chord = np.interp(along + np.array([-1, 0, 1]) * size / 2, [0, 0.5], [0.3, 0.3 * taper])
        near, far = back - diameter / 2, back + diameter / 2
        assert near >= land - 1e-9 and far <= chord.min() - land + 1e-9
        assert far <= (place * chord).min() - 0.002 - land + 1e-9 or near >= (place * chord).max() + 0.002 + land - 1e-9
        if along + size / 2 > 0.1:
            hinge = (1 - flap) * chord
            assert far <= hinge.min() - land + 1e-9 or near >= hinge.max() + land - 1e-9
    places = sorted(along for along, _back, _diameter in plate.holes)
    assert all(b - a >= size + land - 1e-9 for a, b in pairwise(places))


@given(
    out=st.floats(0.05, 0.45),
    share=st.floats(0.2, 0.8),
    size=st.floats(0.01, 0.05),
    hole=st.floats(0.02, 0.08),
)
def test_no_hole_goes_through_a_servo(out, share, size, hole):
    surface = wing("plate", root=0.25, tip=0.25, holes=Holes(count=6, size=hole, land=0.01))
    plate = named(pieces_of_surface(surface, (Seat(out, share, size),)), "Plate")
    for along, back, diameter in plate.holes:
        aside = max(abs(along - out) - size / 2, 0.0), max(abs(back - share * 0.25) - size / 2, 0.0)
        assert math.hypot(*aside) >= diameter / 2 + 0.01 - 1e-9


def test_a_servo_in_a_holed_wing_takes_its_hole_and_the_weight_follows():
    """Where a hole would be, and ahead of it by the nose."""
    surface = wing("plate", root=0.25, tip=0.25, holes=Holes(count=4, size=0.09, land=0.02))
    shell = next(item for item in items_of(surface) if item.build.pieces == "shell")
    hole = named(pieces_of_surface(surface), "Plate").holes[1]
    found = []
    for share in (0.5, 0.08):
        hung = Hung(to="w", out=hole[0], share=share)
        servo = Item(name="Servos", group="radio", count=2, mirrored=True, servo=Servo(mass=0.009), on=hung)
        design = Design(surfaces=(surface,), parts=(shell, servo))
        found.append((evaluate(design).value("mass.listed"), len(named(pieces_of_design(design), "Plate").holes)))
    (through, fewer), (clear, all_) = found
    assert (fewer, all_) == (3, 4)
    assert through - clear == pytest.approx(2 * math.pi / 4 * 0.09**2 * surface.built.board.areal)


def test_a_nine_gram_servo_is_23_by_12_and_others_go_by_the_cube_root():
    assert servo_case(0.009) == pytest.approx((0.012, 0.023))
    assert servo_case(0.072) == pytest.approx((0.024, 0.046))


def test_holes_that_have_room_are_all_there():
    assert len(named(pieces_of_surface(wing("plate", holes=Holes(count=5, size=0.05))), "Plate").holes) == 5


def test_a_box_is_made_of_its_stations():
    body = hull("box", doubler=0.0, formers=0)
    pieces = pieces_of_body(body)
    # Sides between top and bottom, lower by two sheets; lengths along the slopes.
    run = [math.hypot(0.3, 0.01), math.hypot(0.5, 0.02)]
    side = run[0] * (0.05 + 0.07) / 2 + run[1] * (0.07 + 0.01) / 2
    assert named(pieces, "Side").area == pytest.approx(side) and named(pieces, "Side").pieces == 2
    top = [math.hypot(0.3, 0.02), math.hypot(0.5, 0.02)]
    assert named(pieces, "Top").area == pytest.approx(top[0] * 0.06 + top[1] * 0.05)
    bottom = [math.hypot(0.3, 0.0), math.hypot(0.5, 0.04)]
    assert named(pieces, "Bottom").area == pytest.approx(bottom[0] * 0.06 + bottom[1] * 0.05)
    whole = 2 * side + named(pieces, "Top").area + named(pieces, "Bottom").area
    assert of_group(pieces) == pytest.approx(0.3 * whole)


def test_doublers_reach_as_far_as_they_should_and_formers_fill_the_inside():
    rows = (BodyStation(x=0, width=0.05, height=0.06), BodyStation(x=1, width=0.05, height=0.06))
    straight = Body(id="b", name="Body", stations=rows, built=BodyBuild(form="box", doubler=0.4, formers=2))
    pieces = pieces_of_body(straight)
    assert named(pieces, "Doubler").area == pytest.approx(0.4 * 0.05) and named(pieces, "Doubler").pieces == 2
    assert named(pieces, "Former 1").area == pytest.approx(0.04 * 0.05)
    assert [p.spread.centroid[0] for p in pieces if p.name.startswith("Former")] == pytest.approx([0.25, 0.75])
    opened = straight.model_copy(update={"built": straight.built.model_copy(update={"open": "bottom"})})
    assert "Bottom" not in {p.name for p in pieces_of_body(opened)}
    assert named(pieces_of_body(opened), "Side").area == pytest.approx(0.055)


def test_other_bodies_by_their_closed_forms():
    extent = body_extent(hull("box"))
    assert of_group(pieces_of_body(hull("stick", linear=0.02))) == pytest.approx(
        0.02 * (math.hypot(0.3, 0.01) + math.hypot(0.5, 0.01))
    )
    assert of_group(pieces_of_body(hull("carved", hollow=0.25))) == pytest.approx(0.75 * 32 * extent.volume)
    shell = hull("printed", printing=Printing(density=1000, perimeters=2, ribs=0.2))
    assert of_group(pieces_of_body(shell)) == pytest.approx(1000 * extent.skin * 0.0009 * 1.2)
    assert of_group(pieces_of_body(hull("bought", mass=0.234))) == pytest.approx(0.234)
    profile = pieces_of_body(hull("profile", doubler=0.0))
    assert of_group(profile) == pytest.approx(0.3 * (0.3 * 0.07 + 0.5 * 0.05))


@pytest.mark.parametrize("form", ["profile", "box", "stick", "folded_box", "printed", "carved"])
def test_a_pair_of_bodies_weighs_twice_one_and_lies_on_both_sides(form):
    one = hull(form)
    pair = one.model_copy(update={"mirrored": True, "y": 0.3})
    assert sum(p.total for p in pieces_of_body(pair)) == pytest.approx(2 * sum(p.total for p in pieces_of_body(one)))
    assert all(p.mirrored and p.spread.centroid[1] == pytest.approx(0.3) for p in pieces_of_body(pair))


def test_items_are_groups_of_pieces_and_glue_is_that_of_the_whole():
    surface, body = wing("folded", spars=(Spar(),)), hull("box")
    extents = extents_of((surface,), (body,))
    shell, spars = Build(kind="pieces", of="w"), Build(kind="pieces", of="w", pieces="spars")
    glue = Build(kind="pieces", pieces="glue")
    pieces = (*pieces_of_surface(surface), *pieces_of_body(body))
    assert mass_of(shell, extents) == pytest.approx(of_group(pieces_of_surface(surface)))
    assert mass_of(spars, extents) == pytest.approx(0.9 * 0.011)
    assert mass_of(glue, extents) == pytest.approx(of_group(pieces, "glue"))
    assert mass_of(Build(kind="pieces", of="w", pieces="covering"), extents) is None
    items = (
        Item(name="Panels", group="airframe", basis="sheet", count=2, mirrored=True, y=0.25, build=shell),
        Item(name="Glue", group="adhesive", basis="adhesive", build=glue),
    )
    design = Design(surfaces=(surface,), bodies=(body,), parts=items)
    arrays = evaluate(design).results.masses.items
    assert arrays.mass == pytest.approx([mass_of(shell, extents), mass_of(glue, extents)])
    # The panel's extent is a filled panel's: chord, half span, and the height of the section.
    assert arrays.size[0, :2] == pytest.approx([0.2, 0.5], rel=0.05)


def test_a_learnt_share_rescales_pieces():
    extents = extents_of((wing("plate"),), ())
    assert mass_of(Build(kind="pieces", of="w", share=1.1), extents) == pytest.approx(0.066)


@given(st.sampled_from(FORMS), st.floats(1.01, 1.6))
def test_a_larger_panel_of_the_same_build_weighs_more(form, k):
    def total(surface):
        return sum(piece.total for piece in pieces_of_surface(surface))

    larger = wing(form, root=0.2 * k, tip=0.2 * k, half=0.5 * k)
    assert total(larger) >= total(wing(form)) - 1e-12


def test_a_pair_spreads_about_the_centre_line_wherever_it_stands():
    fins = wing("plate").model_copy(update={"cant": math.pi / 2, "role": "fin", "y": 0.3})
    group = surface_extent(fins).groups["shell"]
    # Two plates 0.6 m apart: √12 × 0.3 m of evenly filled bar.
    assert group.centroid[1] == pytest.approx(0.3) and group.side[1] == pytest.approx(0.0, abs=1e-9)
    assert group.whole[1] == pytest.approx(math.sqrt(12) * 0.3)
    lone = surface_extent(fins.model_copy(update={"mirrored": False})).groups["shell"]
    assert lone.whole == lone.side


# -- slots of ribs ----------------------------------------------------------------------------------------------------


def rib_of(form="ribbed", **built):
    surface = wing(form, root=0.2, tip=0.2, **built)
    return named(pieces_of_surface(surface), "Rib"), surface


def test_a_rod_goes_through_a_hole_where_there_is_land_and_else_through_a_notch():
    rod = Spar(width=0.004, height=0.004, place=0.3)
    plain_, _surface = rib_of(strips=0)
    (rib, _surface) = rib_of(strips=0, spars=(rod,))
    (hole,) = rib.openings
    assert hole.mean(axis=0)[0] == pytest.approx(0.06, abs=1e-4) and np.ptp(hole[:, 0]) == pytest.approx(0.004)
    assert rib.mass == pytest.approx(0.3 * (plain_.area - area_of(hole))) and rib.area < plain_.area
    tall = float(np.ptp(plain_.outline[:, 1]))
    # A millimetre and a half stays over and under a hole; a thicker rod leaves only what is below it.
    thick = rib_of(strips=0, spars=(Spar(width=0.004, height=tall - 0.0025, place=0.3),))[0]
    assert thick.openings == () or np.ptp(thick.openings[0][:, 1]) <= tall - 0.003 + 1e-9
    just = rib_of(strips=0, spars=(Spar(width=0.004, height=tall - 0.0035, place=0.3),))[0]
    assert len(just.openings) == 1


def test_the_ribs_under_a_curved_sheet_are_plain_shapes():
    surface = wing("curved", root=0.2, tip=0.14)
    ribs = [piece for piece in pieces_of_surface(surface) if piece.name == "Rib"]
    assert ribs
    for rib in ribs:
        x, y = rib.outline.T
        assert y.min() >= -1e-9 and y.max() > 0.003
        order = np.argsort(x[y > 1e-9])
        assert len(order) > 3


def test_strips_notch_a_rib_or_cut_it_in_two():
    plain_, _surface = rib_of(strips=0)
    notched, surface = rib_of(strips=1, strip_width=0.02)
    gone = plain_.area - notched.area
    assert gone == pytest.approx(0.02 * surface.sheet, rel=0.15) and not notched.lines
    through, _surface = rib_of(strips=6, strip_width=0.02)
    assert through.area == pytest.approx(plain_.area) and [line.kind for line in through.lines] == ["cut", "cut"]
