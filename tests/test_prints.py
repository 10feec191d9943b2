"""Printed parts: closed, outward, on the bed, of the volumes that closed forms give, their channels open."""

import io
import math

import numpy as np
import pytest
import trimesh
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.cli import main
from ridgeline.design.airframe import Body, BodyStation, ControlSurface, Station, Surface, Wheel
from ridgeline.design.construction import BodyBuild, Printing, Spar, SurfaceBuild
from ridgeline.design.cutting import Printer
from ridgeline.design.document import Design
from ridgeline.design.paths import put
from ridgeline.engine.build.whole import pieces_of_design
from ridgeline.engine.geometry.bodies import measure_body
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.sizing.wishes import brief_of
from ridgeline.engine.templates.fittings import MountPlan, circle_of, horns_of, mounts_of
from ridgeline.engine.templates.openings import Hatch, hatch_of
from ridgeline.engine.templates.printed_frame import Frame
from ridgeline.engine.templates.printed_hulls import hulls_of, outside_of, power_of, shell_of
from ridgeline.engine.templates.printed_panels import DOWEL_DEEP, panels_of
from ridgeline.engine.templates.prints import deposit_hours, prints_of
from ridgeline.engine.templates.small_parts import PAD, PLATE, mount_body, small_parts_of
from ridgeline.engine.templates.solids import (
    NoSolid,
    box,
    closes_welded,
    disc,
    loft,
    mesh_of,
    plate,
    round_along,
    sound,
)
from ridgeline.errors import DesignError
from ridgeline.files.design_file import load
from ridgeline.files.solid_files import checked_mesh, stl_of, three_mf_of
from ridgeline.library import shipped_shelf

BED = Printer()
SQUARE = np.array([(0.0, 0.0), (10.0, 0.0), (10.0, 10.0), (0.0, 10.0)])


def wing(span=0.4, root=0.16, tip=0.12, **fields):
    """A printed wing of a symmetrical section, one side."""
    built = fields.pop("built", SurfaceBuild(form="printed", hinge="printed", printing=Printing(perimeters=1)))
    usual = {"name": "Wing", "role": "wing", "section": "symmetrical", "thickness": 0.018, "built": built}
    stations = (Station(y=0, chord=root), Station(y=span / 2, chord=tip, x=fields.pop("sweep", 0.0),
                                                  twist=fields.pop("twist", 0.0)))  # fmt: skip
    return Surface(stations=stations, **{**usual, **fields})


def tube(rounding=1.0, **fields):
    """A printed body."""
    usual = {"name": "Body", "rounding": rounding,
             "built": BodyBuild(form="printed", printing=Printing(perimeters=2)),
             "stations": (BodyStation(x=0, width=0.05, height=0.05), BodyStation(x=0.2, width=0.06, height=0.07),
                          BodyStation(x=0.5, width=0.03, height=0.03))}  # fmt: skip
    return Body(**{**usual, **fields})


def mesh(body):
    points, faces = mesh_of(body)
    return trimesh.Trimesh(points, faces, process=False)


def walls_met(found, start, way):
    """Count the triangles a ray meets (Möller and Trumbore 1997)."""
    a, b, c = (found.triangles[:, k] for k in range(3))
    across = np.cross(way, c - a)
    size = np.einsum("ij,ij->i", b - a, across)
    with np.errstate(all="ignore"):
        u = np.einsum("ij,ij->i", start - a, across) / size
        turned = np.cross(start - a, b - a)
        v, far = turned @ way / size, np.einsum("ij,ij->i", c - a, turned) / size
        return int(np.sum((np.abs(size) > 1e-12) & (u >= 0) & (v >= 0) & (u + v <= 1) & (far > 0)))


@pytest.fixture(scope="module")
def dunlin():
    design = load("demo:dunlin")
    return design, evaluate(design)


@pytest.fixture(scope="module")
def printed(dunlin):
    return prints_of(*dunlin, shipped_shelf())


# -- solids -----------------------------------------------------------------------------------------------------------


@given(st.floats(1.0, 80.0), st.floats(0.2, 3.0), st.floats(0.2, 3.0), st.floats(-20.0, 20.0))
def test_a_loft_of_two_squares_is_a_frustum(tall, low, high, off):
    rings = np.stack([np.column_stack([SQUARE * low, np.zeros(4)]),
                      np.column_stack([SQUARE * high + off, np.full(4, tall)])])  # fmt: skip
    a, b = 100 * low**2, 100 * high**2
    assert loft(rings).volume() == pytest.approx(tall * (a + b + math.sqrt(a * b)) / 3, rel=1e-4)


@given(st.floats(1.0, 9.0), st.floats(-30.0, 30.0), st.floats(-30.0, 30.0))
def test_a_round_channel_that_leans_is_a_cylinder(diameter, x, y):
    line = np.array([(0.0, 0.0, 0.0), (x, y, 40.0)])
    length = float(np.linalg.norm(line[1]))
    # Cut level at its ends: the area of the level ring is larger by how far it leans.
    assert round_along(line, diameter).volume() == pytest.approx(math.pi * diameter**2 / 4 * length, rel=1e-4)


def test_holes_hold_their_area_and_what_encloses_nothing_is_refused():
    assert plate(SQUARE, 3.0, [disc(5, 5, 4)]).volume() == pytest.approx(300 - 3 * math.pi * 4, rel=1e-5)
    with pytest.raises(NoSolid):
        loft(np.zeros((2, 4, 3)))


# -- panels -----------------------------------------------------------------------------------------------------------


def test_a_panel_holds_the_volume_of_its_section():
    """Of the four-digit form with a closed trailing edge: the integral of its polynomial; frustums between stations."""
    surface = wing()
    (panel,) = panels_of(surface, (), BED)
    c0, c1, t = 160.0, 120.0, 18.0 / 140.0
    area = 10 * (2 * 0.2969 / 3 - 0.1260 / 2 - 0.3516 / 3 + 0.2843 / 4 - 0.1036 / 5)
    assert panel.body.volume() == pytest.approx(area * t * 200 * (c0**2 + c0 * c1 + c1**2) / 3, rel=2e-3)
    assert np.array(panel.body.bounding_box()[3:]) == pytest.approx([160, 160 * t, 200], rel=5e-3)


@settings(max_examples=15, deadline=None)
@given(st.floats(-0.1, 0.25), st.floats(-0.08, 0.08), st.floats(0.3, 0.9), st.booleans())
def test_panels_are_closed_fit_the_bed_and_add_up(sweep, twist, span, cross):
    surface = wing(span=span, sweep=sweep, twist=twist)
    frame = Frame(surface)
    printer = Printer(height=0.18, width=0.22, depth=0.22 if cross else 0.15)
    panels = panels_of(surface, (), printer)
    assert panels
    room = 1000 * np.array([printer.width, printer.depth, printer.height - printer.clear])
    for panel in panels:
        found = mesh(panel.body)
        assert found.is_watertight and found.is_winding_consistent and found.volume > 0
        low, high = found.bounds
        assert np.all(low >= -1e-3)
        if not panel.notes:
            assert np.all(high <= room + 1e-2)
    parts = sum(panel.body.volume() for panel in panels)
    cuts = max(panel.number for panel in panels) - 1
    # What is missing of the whole are the holes of two dowels at each cut, longer where they lean with the sweep.
    lean = max(math.hypot(1.0, (sweep + share * -0.04) / (span / 2)) for share in (0.0, 1.0))
    holes = lean * cuts * 2 * 2 * DOWEL_DEEP * math.pi / 4 * 3.25**2
    whole = frame.whole().volume()
    assert whole - 1.1 * holes - 1 <= parts <= whole * (1 + 1e-5)


def test_a_long_chord_is_cut_along_and_what_is_too_large_says_so():
    panels = panels_of(wing(root=0.4, tip=0.3, thickness=0.03), (), Printer(width=0.25, depth=0.25))
    assert {panel.name for panel in panels} == {"panel front", "panel rear"} and not any(p.notes for p in panels)
    huge = panels_of(wing(root=2.0, tip=2.0, thickness=0.1), (), Printer(width=0.1, depth=0.1))
    assert any("larger than the printer's bed" in panel.notes for panel in huge)


@pytest.mark.parametrize("sweep", [0.0, 0.08])
def test_a_spar_s_channel_is_open_from_end_to_end(sweep):
    spar = Spar(width=0.006, height=0.006, place=0.3, start=0.0, end=1.0)
    built = SurfaceBuild(form="printed", spars=(spar,), printing=Printing(perimeters=1))
    surface = wing(built=built, sweep=sweep)
    (panel,) = panels_of(surface, (), Printer(width=0.3, depth=0.3))
    plain = panels_of(wing(sweep=sweep), (), Printer(width=0.3, depth=0.3))[0].body.volume()
    length = math.hypot(200.0, 1000 * (sweep + 0.3 * (0.12 - 0.16)))
    taken = math.pi / 4 * 6.25**2 * length
    assert plain - panel.body.volume() == pytest.approx(taken, rel=2e-3)
    found = mesh(panel.body)
    # The panel stands as it was drawn, but for the corner of the bed: the axis is found from its own frame.
    line = Frame(surface).middle(np.array([0.0, 0.2]), 0.3)
    shift = np.array([Frame(surface).whole().bounding_box()[k] for k in range(3)])
    start, end = line - shift
    way = (end - start) / np.linalg.norm(end - start)
    for aside in (np.zeros(3), np.array([2.5, 0, 0]), np.array([0, 2.5, 0])):
        assert walls_met(found, start + aside - 20 * way, way) == 0
    assert walls_met(found, start + np.array([0.0, 20.0, 0.0]) - 20 * way, way) == 0
    assert walls_met(found, start + np.array([12.0, 0.0, 0.0]) - 20 * way, way) >= 2


@pytest.mark.parametrize("hinge", ["printed", "tape"])
def test_a_control_hangs_on_a_skin_or_is_a_part_of_its_own(hinge):
    built = SurfaceBuild(form="printed", hinge=hinge, printing=Printing(perimeters=1))
    aileron = ControlSurface(kind="aileron", start=0.06, end=0.16, chord_fraction=0.25, down=math.radians(15))
    panels = panels_of(wing(built=built, controls=(aileron,)), (), BED)
    names = [panel.name for panel in panels]
    assert names == (["panel"] if hinge == "printed" else ["panel", "aileron"])
    whole = panels_of(wing(), (), BED)[0].body.volume()
    parts = sum(panel.body.volume() for panel in panels)
    assert 0.9 * whole < parts < whole
    assert len(panels[0].body.decompose()) == 1, "the control stays on its skin" if hinge == "printed" else ""
    if hinge == "tape":
        # As long as its span; bevelled, so it is smaller than the box it comes out of.
        size = panels[1].body.bounding_box()
        assert size[5] == pytest.approx(100.0, abs=0.01)


def test_a_servo_takes_a_pocket_and_leads_a_channel_to_the_root(dunlin):
    design, _report = dunlin
    item = next(one for one in design.parts if one.servo is not None)
    surface = wing(root=0.2, tip=0.2, thickness=0.03)
    there = item.model_copy(update={"on": item.on.model_copy(update={"to": surface.id, "out": 0.1, "share": 0.4})})
    with_servo, plain = (panels_of(surface, servos, BED)[0] for servos in ([there], []))
    assert not with_servo.notes and len(with_servo.body.decompose()) == 1
    assert with_servo.body.volume() < plain.body.volume() - 23 * 23 * 10
    off = item.model_copy(update={"on": item.on.model_copy(update={"to": surface.id, "out": 0.1, "share": -0.2})})
    (panel,) = panels_of(surface, [off], BED)
    assert panel.notes == (f"{item.name}: off the panel, no pocket",)
    assert panel.body.volume() == pytest.approx(plain.body.volume())


# -- bodies -----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("rounding", [0.0, 0.3, 1.0])
def test_a_body_encloses_what_is_measured_of_it(rounding):
    body = tube(rounding)
    assert outside_of(body).volume() == pytest.approx(1e9 * measure_body(body).volume, rel=5e-3)
    assert power_of(1.0) == pytest.approx(1.0, abs=0.01) and power_of(0.0) == pytest.approx(0.01)


def test_a_shell_is_as_thick_as_its_walls():
    """Of a straight tube: a ring between two circles, and its two ends."""
    ends = tuple(BodyStation(x=x, width=0.06, height=0.06) for x in (0.0, 0.2))
    body = tube(stations=ends)
    wall = 2 * 0.45
    closed = math.pi / 4 * (60**2 - (60 - 2 * wall) ** 2) * 200 + 2 * 3 * wall * math.pi / 4 * (60 - 2 * wall) ** 2
    assert shell_of(body).volume() == pytest.approx(closed, rel=5e-3)


def test_a_hatch_lies_over_the_pack_and_never_under_a_wing_on_top():
    body = tube()
    free = hatch_of(body, (), 0.1, 0.2)
    assert (free.start, free.end) == pytest.approx((0.15, 0.25))
    high = wing(x=0.22, z=0.04)
    kept = hatch_of(body, (high,), 0.1, 0.2)
    assert kept.end <= 0.22 and kept.start == pytest.approx(0.15)
    below = wing(x=0.22, z=-0.04)
    assert hatch_of(body, (below,), 0.1, 0.2) == free
    assert hatch_of(body, (wing(x=0.0, z=0.04, root=0.5, tip=0.5),), 0.1, 0.2) is None


# -- small parts ------------------------------------------------------------------------------------------------------


def plan(**fields):
    usual = {"name": "Motor mount", "width": 0.05, "height": 0.05, "round": False, "circle": 0.019, "measured": True,
             "bolt": 0.0032, "shaft": 0.008, "motor": 0.028, "down": 0.0, "right": 0.0, "pieces": 1}  # fmt: skip
    return MountPlan(**{**usual, **fields})


@pytest.mark.parametrize(("down", "right"), [(0.0, 0.0), (2.8, 0.0), (0.0, 2.0), (3.0, -2.5)])
def test_the_face_of_a_mount_is_square_to_the_shaft(down, right):
    found = mesh(mount_body(plan(down=math.radians(down), right=math.radians(right))))
    assert found.is_watertight and found.volume > 0
    wanted = np.array([-math.sin(math.radians(right)), -math.sin(math.radians(down)), 0.0])
    wanted[2] = math.sqrt(1 - wanted @ wanted)
    # The motor sits on the largest flat face over the plate.
    up = [k for k, way in enumerate(found.face_normals) if way[2] > 0.8]
    face = max(up, key=lambda k: found.triangles_center[k][2])
    assert found.face_normals[face] == pytest.approx(wanted, abs=1e-4)
    # Its bolts and its shaft go right through, along the shaft: nothing is met on the way.
    middle = PLATE + PAD + 16.0 * math.tan(math.acos(wanted[2]))
    for x, y in ((0.0, 0.0), *(1000 * np.array(plan().bolts))):
        across = np.cross([0, 1, 0], wanted)
        across /= np.linalg.norm(across)
        start = np.array([0, 0, middle]) + x * across + y * np.cross(wanted, across) + 40 * wanted
        assert walls_met(found, start, -wanted) == 0


def test_mounts_fill_the_body_they_close_and_tell_what_was_not_measured():
    design = load("demo:whimbrel")
    (mount,) = mounts_of(design)
    motor = design.power.motor
    assert mount.circle == pytest.approx(0.016) and not mount.measured
    assert mount.width >= motor.diameter and mount.bolt == pytest.approx(0.0032)
    told = put(design, "power.motor.bolt_circle", 0.0195)
    assert circle_of(told.power.motor) == (0.0195, True)
    part = small_parts_of(design, evaluate(design))[0]
    assert any("measure the motor first" in note for note in part.notes) and part.warm
    assert mounts_of(load("demo:plover")) == ()


def test_horns_have_the_holes_and_the_base_of_their_linkages():
    design = load("demo:whimbrel")
    report = evaluate(design)
    rows = report.results.linking.rows
    plans = horns_of(design, report)
    assert [one.base for one in plans] == [row.linkage.base for row in rows]
    for one, row in zip(plans, rows, strict=True):
        assert row.linkage.horn in one.holes
        low_x, _y, _x, top = one.outline.bounds
        assert top == pytest.approx(one.holes[-1] + 0.0035, abs=1e-4) and low_x <= -one.ahead


def test_a_wheel_has_its_axle_and_its_diameter():
    design = Design(wheels=(Wheel(x=0.1, y=0.1, z=-0.05, diameter=0.05),))
    (part,) = small_parts_of(design, evaluate(design))
    found = mesh(part.body)
    assert found.is_watertight and part.pieces == 2
    assert found.extents == pytest.approx([50, 50, 12.5], abs=0.1)
    assert walls_met(found, np.array([25.06, 25.06, -5.0]), np.array([0, 0, 1.0])) == 0


# -- the list ---------------------------------------------------------------------------------------------------------


def test_what_is_printed_is_what_is_weighed(dunlin, printed):
    design, _report = dunlin
    for piece in pieces_of_design(design):
        if piece.group == "shell":
            mine = [one for one in printed if one.of == piece.of and "sleeve" not in one.name]
            assert math.fsum(one.mass * one.count for one in mine) == pytest.approx(piece.total, rel=1e-9)


def test_port_parts_are_mirror_images_and_stand_for_themselves(printed):
    pairs = [(one, other) for one in printed for other in printed
             if one.hand > 0 and other.hand < 0 and one.key[:-1] == other.key[:-1]]  # fmt: skip
    assert len(pairs) == 7
    for right, left in pairs:
        assert right.body.volume() == pytest.approx(left.body.volume(), rel=1e-6)
        a, b = mesh(right.body), mesh(left.body)
        wide = a.bounds[1][0]
        assert a.center_mass[0] == pytest.approx(wide - b.center_mass[0], abs=1e-2)
        assert right.name.replace("starboard", "port") == left.name


def test_every_sample_s_parts_are_closed_and_on_the_bed(dunlin, printed):
    for one in printed:
        found = checked_mesh(one)
        assert found.bounds[0] == pytest.approx([0, 0, 0], abs=1e-3)
        assert one.fits == bool(np.all(found.extents <= [220.01, 220.01, 245.01]))
        assert one.hours.slow >= one.hours.fast > 0 and one.mass > 0
    assert any("not in a parked car" in note for one in printed for note in one.notes)
    mount = next(one for one in printed if one.name == "Motor mount")
    assert mount.material == "PETG" and mount.softens == 75 and not any("softens" in note for note in mount.notes)


def test_hours_are_what_is_laid_down_over_the_flow():
    plain, foaming = deposit_hours(0.0124, 1240.0), deposit_hours(0.00575, 575.0)
    assert (3600 * plain.fast, 3600 * plain.slow) == pytest.approx((10000 / 12, 10000 / 5))
    assert (3600 * foaming.fast, 3600 * foaming.slow) == pytest.approx((10000 / 4, 10000 / 2))


# -- files ------------------------------------------------------------------------------------------------------------


def test_an_stl_is_read_back_closed_and_of_its_volume(printed):
    for one in printed[:3] + printed[-2:]:
        found = trimesh.load_mesh(io.BytesIO(stl_of(one)), file_type="stl")
        assert found.is_watertight and found.volume == pytest.approx(one.body.volume(), rel=1e-5)


def test_a_3mf_is_read_back_with_names_materials_and_counts(printed):
    data = three_mf_of(printed)
    scene = trimesh.load(io.BytesIO(data), file_type="3mf")
    assert scene.units == "millimeter" and set(scene.geometry) == {one.name for one in printed}
    for one in printed:
        found = scene.geometry[one.name]
        assert found.is_watertight and found.volume == pytest.approx(one.body.volume(), rel=1e-4)
    built = sum(len(nodes) for nodes in scene.graph.geometry_nodes.values())
    assert built == sum(one.count for one in printed)
    import zipfile

    model = zipfile.ZipFile(io.BytesIO(data)).read("3D/3dmodel.model").decode()
    assert 'name="PETG"' in model and 'name="Foaming PLA, as printed"' in model
    # Side by side: no part stands in another.
    boxes = [scene.geometry[name].bounds + scene.graph.get(node)[0][:3, 3]
             for name, nodes in scene.graph.geometry_nodes.items() for node in nodes]  # fmt: skip
    for k, (low, high) in enumerate(boxes):
        for other_low, other_high in boxes[k + 1 :]:
            assert np.any(low[:2] > other_high[:2] - 1e-3) or np.any(high[:2] < other_low[:2] + 1e-3)


def test_a_body_that_does_not_close_is_not_written(printed, monkeypatch):
    points, faces = mesh_of(printed[0].body)
    monkeypatch.setattr("ridgeline.files.solid_files.mesh_of", lambda _body: (points, faces[1:]))
    with pytest.raises(DesignError, match="does not close"):
        stl_of(printed[0])


@pytest.mark.parametrize(("what", "count"), [("stl", 21), ("3mf", 1), ("lists", 5)])
def test_parts_are_written_by_command(what, count, capsys, tmp_path):
    assert main(["export", "demo:dunlin", "--what", what, "--out", str(tmp_path / "out")]) == 0
    files = capsys.readouterr().out.split("\n")[:-1]
    assert len(files) == count == len(list((tmp_path / "out").iterdir()))


def test_a_design_with_nothing_to_print_is_refused(capsys, tmp_path):
    bare = tmp_path / "bare.ridge"
    from ridgeline.files.design_file import save

    save(Design(name="Bare"), bare)
    assert main(["export", str(bare), "--what", "stl", "--out", str(tmp_path / "out")]) == 2
    assert "nothing to print" in capsys.readouterr().err


# -- constants held ---------------------------------------------------------------------------------------------------


def test_a_taped_control_stands_half_a_millimetre_off_at_its_ends():
    built = SurfaceBuild(form="printed", hinge="tape", printing=Printing(perimeters=1))
    aileron = ControlSurface(kind="aileron", start=0.06, end=0.16, chord_fraction=0.25, down=math.radians(15))
    panel, control = panels_of(wing(root=0.16, tip=0.16, built=built, controls=(aileron,)), (), BED)
    plain = panels_of(wing(root=0.16, tip=0.16), (), BED)[0].body.volume()
    # What is cut out of the panel is the section behind the hinge over the control's span and a gap at either end.
    behind = plain - panel.body.volume()
    area = behind / (100.0 + 2 * 0.5)
    mine = panels_of(wing(root=0.16, tip=0.16, built=built, controls=(
        aileron.model_copy(update={"start": 0.04, "end": 0.18}),)), (), BED)[0].body.volume()  # fmt: skip
    assert plain - mine == pytest.approx(area * (140.0 + 2 * 0.5), rel=1e-4)
    assert control.body.volume() < area * 100.0


def test_small_parts_are_four_walls_and_two_fifths_of_the_rest():
    design = load("demo:whimbrel")
    parts = prints_of(design, evaluate(design), shipped_shelf())
    foot, mount = (next(one for one in parts if one.name.startswith(name)) for name in ("Gauge foot", "Motor mount"))
    volume, skin = foot.body.volume() * 1e-9, foot.body.surface_area() * 1e-6
    wall = skin * 4 * 0.00045
    assert wall < volume and foot.mass == pytest.approx(1270 * (wall + 0.4 * (volume - wall)))
    assert (foot.walls, foot.infill) == (4, 0.4)
    # What is thinner than its walls is solid.
    assert mount.mass == pytest.approx(1270 * mount.body.volume() * 1e-9)


@pytest.mark.parametrize("layout", ["swept", "v_tail", "twin_boom"])
def test_printed_layouts_are_read_back_closed(layout):
    """Twisted panels cut in the plane of a ring, tails whose halves meet in the body: no sliver, no skin of nothing."""
    purpose = "tailless" if layout == "swept" else "trainer"
    wishes = {"purpose": purpose, "ceiling": 0.9, "layout": layout, "build_method": "printed_foaming"}
    design = lay_out(brief_of(wishes), shipped_shelf())
    for one in prints_of(design, evaluate(design), shipped_shelf()):
        found = trimesh.load_mesh(io.BytesIO(stl_of(one)), file_type="stl")
        assert found.is_watertight, one.name
        assert found.volume == pytest.approx(one.body.volume(), rel=1e-4)


def test_a_body_that_touches_itself_does_not_close_in_a_file():
    cube = box((0, 0, 0), (10, 10, 10))
    assert closes_welded(cube)
    touching = cube + box((10, 10, 0), (20, 20, 10))
    assert not closes_welded(touching), "two boxes share an edge"
    # A sliver thinner than single precision holds is taken out.
    thin = cube.translate((300.0, 300.0, 0.0)) - box((300, 300, 9.9999995), (305, 305, 11))
    assert closes_welded(sound(thin))


def test_leads_take_half_the_section_and_five_millimetres_at_most(dunlin):
    design, _report = dunlin
    item = next(one for one in design.parts if one.servo is not None)

    def channel(thick):
        """What a servo at 0.14 m takes more than one at the root side of the same pocket: a channel's area, mm²."""
        surface = wing(root=0.2, tip=0.2, thickness=thick)
        volumes = []
        for out in (0.06, 0.14):
            there = item.model_copy(update={"on": item.on.model_copy(update={"to": surface.id, "out": out,
                                                                             "share": 0.4})})  # fmt: skip
            volumes.append(panels_of(surface, [there], BED)[0].body.volume())
        return (volumes[0] - volumes[1]) / 80.0

    # A thick section leaves the channel its greatest width, a thin one half of its height.
    assert channel(0.030) == pytest.approx(math.pi / 4 * 5.0**2, rel=1e-3)
    thin = float(Frame(wing(root=0.2, tip=0.2, thickness=0.008)).thick(0.1, 0.4))
    assert 2.6 < 0.5 * thin < 5.0
    assert channel(0.008) == pytest.approx(math.pi / 4 * (0.5 * thin) ** 2, rel=1e-3)


def test_screws_of_a_mount_are_two_millimetres_and_a_half():
    body = mount_body(plan())
    bare = mount_body(plan(width=0.034, height=0.034))
    holes = math.pi / 4 * 2.6**2 * PLATE
    pad = math.pi * 16.0**2 * PAD
    through = PLATE + PAD
    bolts = 4 * math.pi / 4 * 3.2**2 * through + math.pi / 4 * 8.0**2 * through
    assert body.volume() == pytest.approx(50 * 50 * PLATE + pad - bolts - 4 * holes, rel=1e-3)
    assert bare.volume() < body.volume()


def test_a_hatch_has_play_and_a_sleeve_reaches_eight_millimetres_either_way():
    ends = tuple(BodyStation(x=x, width=0.06, height=0.06) for x in (0.0, 0.4))
    body = tube(rounding=0.0, stations=ends)
    made = {panel.name: panel for panel in hulls_of(body, (), Hatch(0.1, 0.2), BED)}
    hatch = np.array(made["hatch"].body.bounding_box())
    assert sorted(hatch[3:5] - hatch[:2]) == pytest.approx([0.7 * 60 - 0.6, 100 - 0.6], abs=1e-3)
    sleeve = np.array(made["joint sleeve"].body.bounding_box())
    assert sleeve[5] - sleeve[2] == pytest.approx(16.0, abs=1e-3)
    assert not made["joint sleeve"].shell and made["shell"].shell
