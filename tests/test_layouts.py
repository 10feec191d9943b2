"""Every layout of the gallery: laid out from a brief it balances, trims, and clears its own propeller."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.axes import all_discs
from ridgeline.design.brief import Brief
from ridgeline.design.power import Mount
from ridgeline.engine.geometry.clearance import clearance_of, disc_ring
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.airframe import airframe_surfaces
from ridgeline.engine.sizing.arrangements import ARRANGEMENTS, controls_for
from ridgeline.engine.sizing.building import plan_of
from ridgeline.engine.sizing.constraints import start_brief
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.sizing.outline import sketch
from ridgeline.engine.sizing.sizes import first_sizes
from ridgeline.errors import DesignError
from ridgeline.library import shipped_shelf

SHELF = shipped_shelf()


def brief_for(layout, **more):
    family = ARRANGEMENTS[layout].family
    brief = start_brief(Brief(ceiling=0.9, layout=layout, **more), "tailless" if family == "tailless" else "sport")
    assert brief.layout == layout
    return brief


@pytest.mark.parametrize("layout", sorted(ARRANGEMENTS))
def test_each_layout_comes_balanced_for_its_first_throw_and_trims(layout):
    design = lay_out(brief_for(layout), SHELF, layout)
    report = evaluate(design)
    keys = {f.key for f in report.findings if f.level == "settled"}
    assert "balance.first_throw" in keys
    assert not [str(f.text) for f in report.findings if f.level == "stop"]
    assert abs(report.value("trim.elevator")) < math.radians(6)
    assert report.value("clearance.disc") > 0.008
    assert abs(report.value("balance.cg_y")) < 1e-9
    low, high = report.wanted["stability.static_margin"]
    assert low < report.value("stability.static_margin") < high + 0.06


@pytest.mark.parametrize(
    ("layout", "roles"),
    [
        ("v_tail", {"wing", "v_tail"}),
        ("canard", {"wing", "foreplane", "fin"}),
        ("delta", {"wing", "fin"}),
        ("conventional", {"wing", "stabiliser", "fin"}),
    ],
)
def test_layouts_have_the_surfaces_they_are_named_for(layout, roles):
    assert {s.role for s in lay_out(brief_for(layout), SHELF).surfaces} == roles


def _of(layout):
    brief = brief_for(layout)
    return brief, first_sizes(brief, 0.7), 0.2, plan_of(brief)


def test_what_sets_the_layouts_apart():
    made = {layout: lay_out(brief_for(layout), SHELF, layout) for layout in ("t_tail", "inverted_v", "twin_boom")}
    tail, fin = (next(s for s in made["t_tail"].surfaces if s.role == role) for role in ("stabiliser", "fin"))
    assert tail.z == pytest.approx(fin.z + fin.stations[-1].y)
    assert made["inverted_v"].surfaces[1].cant < 0
    boom = next(b for b in made["twin_boom"].bodies if b.kind == "boom")
    assert boom.mirrored and boom.y > 0.5 * made["twin_boom"].power.propeller.diameter
    assert made["twin_boom"].power.mounts[0].pusher
    wings = [s for s in airframe_surfaces(*_of("triplane")) if s.role == "wing"]
    assert len(wings) == 3 and wings[0].z > wings[1].z > wings[2].z


def test_two_motors_share_the_thrust_and_the_pack():
    design = lay_out(brief_for("twin_fuselage"), SHELF, "twin")
    assert design.power.motors == 2
    assert [p.count for p in design.parts if p.component in ("motor", "esc", "propeller")] == [2, 2, 2]
    report = evaluate(design)
    assert report.value("power.thrust_ratio") >= 0.9 * design.brief.thrust_ratio


@pytest.mark.parametrize("layout", sorted(ARRANGEMENTS))
def test_each_layout_is_sketched_at_once(layout):
    drawn = sketch(brief_for(layout))
    assert drawn.surfaces and drawn.bodies and drawn.brief.layout == layout


def test_controls_go_with_the_layout():
    assert controls_for("plank", "aileron_elevator") == "elevons"
    assert controls_for("biplane", "elevons") == "aileron_elevator"
    assert controls_for("biplane", "full_house") == "full_house"


@settings(max_examples=5, deadline=None)
@given(st.sampled_from(sorted(ARRANGEMENTS)), st.floats(0.25, 6.0), st.floats(0.6, 2.5))
def test_any_ceiling_and_span_lays_out_something_that_evaluates(layout, ceiling, span):
    brief = brief_for(layout).model_copy(update={"ceiling": ceiling, "span_limit": span})
    try:
        report = evaluate(lay_out(Brief.model_validate(brief.model_dump()), SHELF))
    except DesignError as error:
        assert "aspect ratio" in str(error)
        return
    assert report.value("balance.cg_fraction") is not None
    assert report.value("stability.neutral_point_fraction") is not None


def test_a_disc_stands_square_to_its_shaft():
    mount = Mount(x=0.1, z=0.05, down=0.1, right=0.05)
    ring = disc_ring(mount, (0.1, 0.0, 0.05), 1, 0.12)
    centre = ring.mean(axis=0)
    assert centre == pytest.approx((0.1, 0.0, 0.05), abs=1e-12)
    assert [math.dist(centre, place) for place in ring] == pytest.approx([0.12] * len(ring))
    # Shaft down: the top of the disc leans ahead, the bottom aft.
    assert ring[ring[:, 2].argmax(), 0] < 0.1 < ring[ring[:, 2].argmin(), 0]


def test_clearances_of_a_bare_disc(whimbrel):
    def seated(z=0.0):
        return whimbrel.power.model_copy(update={"mounts": (Mount(z=z),)})

    none = clearance_of(seated(), 0.1, (), (), ())
    assert none.ground is None and none.nearest is None
    over = clearance_of(seated(0.05), 0.1, (), (), whimbrel.wheels)
    wheel = whimbrel.wheels[0]
    assert over.ground == pytest.approx(0.05 - 0.1 - (wheel.z - 0.5 * wheel.diameter), abs=1e-4)


@pytest.mark.parametrize("layout", ["conventional", "twin_boom", "swept", "twin_fuselage"])
def test_a_laid_out_motor_stands_on_its_firewall_with_its_controller_inside(layout):
    design = lay_out(start_brief(Brief(ceiling=1.2, layout=layout), "sport"), shipped_shelf())
    mount, body = design.power.mounts[0], design.bodies[0]
    front, back = body.sections[0].x, body.sections[-1].x
    esc = next(p for p in design.parts if p.component == "esc")
    assert front <= esc.x <= back and abs(esc.x - mount.x) < 0.05
    # Nothing stands before the datum, and the firewall is an end of the body or just behind the wing.
    disc = min(x for x, _y, _z in all_discs(design.power))
    assert disc >= 0.0
    # A nose propeller leaves room for a spinner, and no more.
    assert mount.pusher or 0.005 <= disc <= 0.025
    assert mount.x == pytest.approx(front) if not mount.pusher else mount.x > design.surfaces[0].x
    assert body.stations[0].x == 0.0 and body.x == front
