"""Masses from the geometry: each recipe against its closed form, and what an edit of the shape does to them."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.airframe import Body, BodyStation, Station, Surface
from ridgeline.design.brief import Brief
from ridgeline.design.build import Build
from ridgeline.design.parts import Item
from ridgeline.design.paths import Change, apply, put
from ridgeline.engine.geometry.scaling import scaled
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.constraints import start_brief
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.weights.estimates import body_extent, extents_of, mass_of, surface_extent
from ridgeline.library import shipped_shelf

PLATE = Surface(
    id="plate", name="Plate", role="wing", section="sharp_plate", sheet=0.005,
    stations=(Station(y=0, chord=0.2), Station(y=0.5, chord=0.2)),
)  # fmt: skip
EXTENTS = extents_of((PLATE,), ())


def test_a_plate_weighs_its_area_times_its_board():
    # 0.2 m² of 300 g/m² board.
    assert mass_of(Build(kind="sheet", of="plate", areal=0.3), EXTENTS) == pytest.approx(0.060)
    assert mass_of(Build(kind="sheet", of="plate", areal=0.3, layers=2, share=0.5), EXTENTS) == pytest.approx(0.060)


@pytest.mark.parametrize(("peeled", "left"), [(0, 1.0), (1, 0.78), (2, 0.55)])
def test_peeled_papers_save_what_the_trade_says(peeled, left):
    board = Build(kind="sheet", of="plate", areal=0.3, peeled=peeled)
    assert mass_of(board, EXTENTS) == pytest.approx(0.060 * left)


def test_a_plates_skin_edges_length_and_volume_are_those_of_a_box():
    extent = surface_extent(PLATE)
    assert extent.area == pytest.approx(0.2)
    assert extent.skin == pytest.approx(2 * 0.2 + 2 * 0.005 * 1.0, rel=2e-3)
    assert extent.volume == pytest.approx(0.2 * 0.005, rel=2e-3)
    assert extent.length == pytest.approx(1.0)
    assert extent.edges == pytest.approx(2 * (0.5 + 0.5 + 0.2 + 0.2))


def test_dihedral_makes_more_material_than_the_projection_shows():
    bent = PLATE.model_copy(update={"stations": (PLATE.stations[0], PLATE.stations[1].model_copy(update={"z": 0.5}))})
    assert surface_extent(bent).area == pytest.approx(math.sqrt(2) * surface_extent(PLATE).area)


def test_a_printed_shell_is_wall_times_skin_with_its_ribs_and_infill():
    rows = (BodyStation(x=0, width=0.1, height=0.1), BodyStation(x=1, width=0.1, height=0.1))
    box = Body(id="box", name="Box", stations=rows)
    extent = body_extent(box)
    assert extent.skin == pytest.approx(0.4) and extent.volume == pytest.approx(0.01)
    shell = Build(kind="print", of="box", density=1240, line_width=0.0004, perimeters=2, ribs=0.25)
    wall = 0.4 * 0.0008 * 1.25
    assert mass_of(shell, {"box": extent}) == pytest.approx(1240 * wall)
    filled = shell.model_copy(update={"infill": 0.1})
    assert mass_of(filled, {"box": extent}) == pytest.approx(1240 * (wall + 0.1 * (0.01 - wall)))


def test_lengths_and_coverings_follow_the_part_or_their_own_extent():
    rod = Build(kind="length", of="plate", linear=0.018, layers=2)
    assert mass_of(rod, EXTENTS) == pytest.approx(0.036)
    bead = Build(kind="length", linear=0.010, extent=2.4)
    assert mass_of(bead, EXTENTS) == pytest.approx(0.024)
    paint = Build(kind="covering", of="plate", areal=0.040, layers=2)
    assert mass_of(paint, EXTENTS) == pytest.approx(2 * 0.040 * EXTENTS["plate"].skin)


@given(st.floats(0.5, 2.0), st.sampled_from(["sheet", "print", "length", "covering"]))
def test_doubling_the_share_doubles_the_mass_and_more_material_never_weighs_less(share, kind):
    one = Build(kind=kind, of="plate", share=share)
    two = one.model_copy(update={"share": 2 * share})
    assert mass_of(two, EXTENTS) == pytest.approx(2 * mass_of(one, EXTENTS))
    assert mass_of(one.model_copy(update={"layers": 3.0, "perimeters": 3.0}), EXTENTS) > mass_of(one, EXTENTS)


def test_a_recipe_for_a_part_that_is_gone_falls_back_and_is_told(whimbrel):
    item = Item(
        name="Skin", group="airframe", basis="sheet", x=0.3, estimate=0.05, build=Build(kind="sheet", of="Gone")
    )
    design = put(whimbrel, "parts[-]", item)
    report = evaluate(design)
    plain = evaluate(whimbrel).value("mass.auw")
    # Its estimate, and what a board not yet weighed gains.
    assert report.value("mass.auw") == pytest.approx(plain + 1.2 * 0.05)
    found = next(f for f in report.findings if f.key == "mass.lost_recipe")
    kept = apply(design, found.remedies[0].changes)
    assert kept.parts[-1].build is None and evaluate(kept).value("mass.auw") == pytest.approx(plain + 1.2 * 0.05)


def laid_out(build, **more):
    return lay_out(start_brief(Brief(ceiling=0.9, build_method=build, **more), "sport"), shipped_shelf())


@pytest.mark.parametrize("build", ["foam_board", "extruded_foam", "printed_foaming", "printed_plain"])
def test_a_laid_out_airframe_follows_its_shape_and_its_material(build):
    design = laid_out(build)
    wing = next(i for i, part in enumerate(design.parts) if part.name == "Wing panels")
    before = evaluate(design).value("mass.auw")
    stations = tuple(s.model_copy(update={"chord": 1.1 * s.chord}) for s in design.surfaces[0].stations)
    wider = put(design, "surfaces[0].stations", stations)
    recipe = design.parts[wing].build
    # Its panels, and the glue and hinges that are those of the whole aircraft.
    wholes = [extents_of(d.surfaces, d.bodies) for d in (wider, design)]
    glue = next(part.build for part in design.parts if part.build is not None and part.build.pieces == "glue")
    more, less = (sum(mass_of(one, whole) for one in (recipe, glue)) for whole in wholes)
    gained = more - less
    assert gained > 0.005 and evaluate(wider).value("mass.auw") == pytest.approx(before + 1.2 * gained, rel=1e-5)
    assert recipe.kind == "pieces" and recipe.share == 1.0
    built = design.surfaces[0].built
    field, now = ("board.areal", built.board.areal)
    if built.form == "printed":
        field, now = ("printing.density", built.printing.density)
    lighter = put(design, f"surfaces[0].built.{field}", 0.5 * now)
    assert evaluate(lighter).value("mass.auw") == pytest.approx(
        before - 1.2 * 0.5 * mass_of(recipe, extents_of(design.surfaces, ()))
    )


def test_a_longer_tail_weighs_more_and_moves_the_balance_aft():
    design = laid_out("foam_board")
    tail = next(i for i, s in enumerate(design.surfaces) if s.role == "stabiliser")
    stations = tuple(s.model_copy(update={"y": 1.3 * s.y}) for s in design.surfaces[tail].stations)
    longer = apply(design, [Change(f"surfaces[{tail}].stations", stations)])
    one, other = evaluate(design), evaluate(longer)
    assert other.value("mass.auw") > one.value("mass.auw")
    assert other.value("balance.cg_x") > one.value("balance.cg_x")


@pytest.mark.parametrize(("exponent", "factor"), [(2.0, 1.2), (3.0, 1.2), (3.0, 0.8)])
def test_a_scaled_airframes_recipes_weigh_what_the_exponent_says(exponent, factor):
    design = laid_out("foam_board")
    wing = next(i for i, part in enumerate(design.parts) if part.name == "Wing panels")
    larger = scaled(design, factor, mass_exponent=exponent)
    one = mass_of(design.parts[wing].build, extents_of(design.surfaces, design.bodies))
    other = mass_of(larger.parts[wing].build, extents_of(larger.surfaces, larger.bodies))
    assert other == pytest.approx(one * factor**exponent)


def test_what_is_cut_out_counts_as_negative_mass(whimbrel):
    hole = Item(name="Cut out of the bay", group="airframe", basis="sheet", x=0.25, estimate=-0.012)
    plain, cut = evaluate(whimbrel), evaluate(put(whimbrel, "parts[-]", hole))
    assert cut.value("mass.auw") == pytest.approx(plain.value("mass.auw") - 0.012)
    moment = plain.value("mass.auw") * plain.value("balance.cg_x") - 0.012 * 0.25
    assert cut.value("balance.cg_x") == pytest.approx(moment / cut.value("mass.auw"))
    assert cut.figures["mass.auw"].sigma >= plain.figures["mass.auw"].sigma
