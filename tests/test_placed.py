"""Placed geometry: one outline for lattice, solid, views and clearances; figures do not hang on order or form."""

import math
from functools import lru_cache

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.airframe import Surface
from ridgeline.design.axes import UPRIGHT, is_upright, on_surface
from ridgeline.design.brief import Brief
from ridgeline.design.document import from_plain
from ridgeline.design.paths import put
from ridgeline.desk.drawing import body_front, chord_point, control_points, extent, profile_points, surface_points
from ridgeline.engine.aero.airframe_lattice import solve_airframe
from ridgeline.engine.geometry.clearance import _surface_points
from ridgeline.engine.geometry.placed import (
    bent,
    in_the_middle,
    outline_over_chord,
    placed,
    placed_at,
    sections,
    warped,
)
from ridgeline.engine.geometry.reference import main_wing
from ridgeline.engine.geometry.solid import surface_skins
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.arrangements import ARRANGEMENTS
from ridgeline.engine.sizing.constraints import start_brief
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.files.design_file import load
from ridgeline.library import demo_names, shipped_shelf
from test_carrying import surfaces


@given(surfaces, st.lists(st.floats(0.02, 0.35), min_size=1, max_size=5, unique=True), st.floats(0, 1))
def test_arrays_and_single_places_are_the_same_geometry(surface, out, share):
    here = placed_at(surface, sorted(out))
    for y, point in zip(sorted(out), here.points([share])[:, 0], strict=True):
        assert point == pytest.approx(on_surface(surface, y, share, 0.0), abs=1e-12)
    assert np.linalg.norm(here.trailing - here.leading, axis=1) == pytest.approx(here.chord)


@given(surfaces)
@settings(max_examples=20)
def test_views_clearances_and_sections_take_the_same_outline(surface):
    here = placed(surface)
    n = len(here.out)
    drawn = np.array(surface_points(surface))
    assert drawn[:n] == pytest.approx(here.leading) and drawn[n:][::-1] == pytest.approx(here.trailing)
    rings = sections(here, outline_over_chord(surface))
    for k, station in enumerate(surface.stations):
        assert chord_point(surface, station.y, 1.0) == pytest.approx(tuple(here.trailing[k]))
        cut = np.array(profile_points(surface, k))
        assert cut[:, (0, 2)] == pytest.approx(rings[k][:, (0, 2)]) and not cut[:, 1].any()
    points = _surface_points(surface)
    starboard = points[: len(points) // 2].reshape(-1, 9, 3)[::6]
    assert starboard[:, 0] == pytest.approx(here.leading) and starboard[:, -1] == pytest.approx(here.trailing)


def test_droop_and_warp_are_in_lattice_and_solid_alike(whimbrel):
    wing = whimbrel.surfaces[0].model_copy(update={"droop": 0.05, "warp_starboard": 0.004, "warp_port": 0.004})
    flying, rest = bent(wing), placed(wing)
    assert flying.leading[-1, 2] - rest.leading[-1, 2] == pytest.approx(0.05)
    assert len(flying.out) > len(rest.out) and flying.leading[0] == pytest.approx(rest.leading[0])
    model = solve_airframe((wing,), evaluate(whimbrel).results.shape.reference)
    lattice = model.solver.lattice
    assert np.vstack([lattice.left, lattice.right])[:, 2].max() == pytest.approx(flying.leading[:, 2].max(), abs=2e-3)
    skin = surface_skins(wing)[0]
    assert skin.corners[:, 2].max() == pytest.approx(sections(flying, outline_over_chord(wing))[..., 2].max(), abs=1e-4)
    tip = math.atan2(0.004, wing.stations[-1].chord)
    assert warped(wing, tip).angle[-1] - flying.angle[-1] == pytest.approx(tip)


@pytest.mark.parametrize(
    ("degrees", "stands"), [(0, False), (45, False), (59, False), (61, True), (-75, True), (90, True)]
)
def test_upright_means_one_thing(degrees, stands):
    surface = Surface(
        id="s1", name="S", role="v_tail", cant=math.radians(degrees), incidence=0.05,
        stations=({"y": 0.0, "chord": 0.1}, {"y": 0.2, "chord": 0.1}),
    )  # fmt: skip
    assert is_upright(surface) is stands and math.degrees(UPRIGHT) == pytest.approx(60)
    assert (placed(surface).angle == 0).all() == stands
    assert in_the_middle(surface) == (degrees == 90)


def test_a_control_lies_on_its_surface_behind_its_hinge(whimbrel):
    wing = whimbrel.surfaces[0]
    control = wing.controls[0]
    points = control_points(wing, control)
    half = len(points) // 2
    hinge = placed_at(wing, [control.start, control.end]).points([1 - control.chord_fraction])[:, 0]
    assert points[0] == pytest.approx(tuple(hinge[0])) and points[half - 1] == pytest.approx(tuple(hinge[1]))


def test_both_bodies_of_a_pair_stand_in_the_front_view(whimbrel):
    pair = put(put(whimbrel, "bodies[0].mirrored", True), "bodies[0].y", 0.9)
    body = pair.bodies[0]
    starboard, port = (np.array(body_front(body, side)) for side in (1, -1))
    assert starboard[:, 1].mean() == pytest.approx(0.9) and port[:, 1].mean() == pytest.approx(-0.9)
    box = extent(pair, "front")
    assert box.left() < -0.9 < 0.9 < box.right()


LAID_OUT = ("biplane", "triplane", "canard", "twin_boom", "twin_fuselage", "swept")


@lru_cache
def designs():
    """Every demo, and one laid-out design of each arrangement."""
    brief = Brief(ceiling=1.2)
    laid = {
        name: lay_out(start_brief(brief.model_copy(update={"layout": name}), "sport"), shipped_shelf())
        for name in LAID_OUT
    }
    assert set(laid) <= set(ARRANGEMENTS)
    return {name: load(f"demo:{name}") for name in demo_names()} | laid


def values(design):
    return {key: figure.value for key, figure in evaluate(design).figures.items()}


def same(one, other):
    assert one.keys() == other.keys()
    for key, value in one.items():
        if value is None or other[key] is None:
            assert value is other[key], key
        else:
            assert other[key] == pytest.approx(value, rel=1e-6, abs=1e-9), key


@given(st.sampled_from([*demo_names(), *LAID_OUT]), st.data())
@settings(max_examples=14)
def test_the_order_of_parts_does_not_matter(name, data):
    design = designs()[name]
    update = {
        kind: tuple(data.draw(st.permutations(getattr(design, kind)), label=kind))
        for kind in ("surfaces", "bodies", "wheels", "parts")
    }
    same(values(design), values(design.model_copy(update=update)))


@given(st.sampled_from([*demo_names(), "biplane", "canard"]), st.floats(-0.2, 0.8))
@settings(max_examples=10)
def test_the_datum_does_not_matter(name, shift):
    """Moving the datum moves places and nothing else."""
    design = designs()[name]
    moved = design.model_copy(
        update={
            "surfaces": tuple(s.model_copy(update={"x": s.x + shift}) for s in design.surfaces),
            "bodies": tuple(b.model_copy(update={"x": b.x + shift}) for b in design.bodies),
            "wheels": tuple(w.model_copy(update={"x": w.x + shift}) for w in design.wheels),
            "power": design.power.model_copy(
                update={"mounts": tuple(m.model_copy(update={"x": m.x + shift}) for m in design.power.mounts)}
            ),
            "parts": tuple(
                p.model_copy(update={"x": p.x + shift, "rail": p.rail and p.rail.model_copy(
                    update={"front": p.rail.front + shift, "back": p.rail.back + shift})})
                for p in design.parts
            ),
        }
    )  # fmt: skip
    before, after = values(design), values(moved)
    places = {"wing.mac_x_le", "balance.cg_x", "stability.neutral_point_x", "stability.neutral_point_hand"}
    for key in places & before.keys():
        if before[key] is not None and key != "stability.neutral_point_hand":
            assert after[key] - before[key] == pytest.approx(shift, abs=1e-9), key
    rest = [key for key in before if key not in places]
    same({k: before[k] for k in rest}, {k: after[k] for k in rest})


@pytest.mark.parametrize("name", demo_names())
def test_an_item_split_in_two_or_a_file_written_and_read_changes_no_figure(name):
    design = designs()[name]
    index = next(k for k, p in enumerate(design.parts) if p.count == 2 and p.build is None)
    half = design.parts[index].model_copy(update={"count": 1, "mirrored": False})
    other = half.model_copy(update={"id": "", "y": -half.y if design.parts[index].mirrored else half.y, "on": None})
    split = put(design, "parts", (*design.parts[:index], half, *design.parts[index + 1 :], other))
    before, after = values(design), values(split)
    # No linkage names the other of two servos, so that what it bears is not known, nor where its lead runs.
    for key in ("radio.supply_moving", "harness.apart"):
        before.pop(key), after.pop(key)
    # Two estimated pieces err apart where they erred together; that is a band, and no value.
    same(before, after)
    same(values(design), values(from_plain(design.model_dump(mode="json"))))


def test_the_main_wing_is_told_by_its_shape(whimbrel):
    wing = whimbrel.surfaces[0]
    upper = wing.model_copy(update={"id": "s90", "z": wing.z + 0.2})
    small = wing.model_copy(
        update={"id": "s91", "stations": tuple(s.model_copy(update={"chord": 0.6 * s.chord}) for s in wing.stations)}
    )
    for order in ((wing, upper, small), (small, wing, upper), (upper, small, wing)):
        assert main_wing(order) is upper
    assert main_wing((small, wing)) is wing
