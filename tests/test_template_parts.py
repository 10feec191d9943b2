"""Small parts and openings of the templates: at the sizes of what they hold, and where that lies."""

import math
import re
from xml.etree import ElementTree

import numpy as np
import pypdfium2
import pytest
from shapely import LineString, Point, Polygon

from ridgeline.cli import main
from ridgeline.design.airframe import Body, BodyStation
from ridgeline.design.construction import BodyBuild, SurfaceBuild
from ridgeline.design.paths import put
from ridgeline.engine.build.whole import pieces_of_design
from ridgeline.engine.geometry.placed import outline_over_chord, placed_at
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.templates.hot_wire import LONG, TICKS, core_templates_of
from ridgeline.engine.templates.more_cuts import cowl_rings_of, trays_of
from ridgeline.engine.templates.openings import EXIT, HATCH_WIDE, LAND, air_in, hatch_over_pack, pack_of
from ridgeline.engine.templates.patterns import patterns_of
from ridgeline.engine.templates.small_cuts import FOOT, SQUARE, small_cuts_of
from ridgeline.engine.templates.underside import decals_of
from ridgeline.engine.templates.whole import templates_of
from ridgeline.files.decal_svg import decal_svg
from ridgeline.files.design_file import load, save

SVG = "{http://www.w3.org/2000/svg}"


@pytest.fixture(scope="module")
def whimbrel():
    return load("demo:whimbrel")


@pytest.fixture(scope="module")
def report(whimbrel):
    return evaluate(whimbrel)


@pytest.fixture(scope="module")
def small(whimbrel, report):
    return {one.name: one for one in small_cuts_of(whimbrel, report, 0.0002)}


def of_body(design, face):
    ids = {body.id for body in design.bodies}
    names = {piece.name.lower() for piece in pieces_of_design(design) if piece.of in ids and piece.face == face}
    return [one for one in patterns_of(design, 0.3, 0.0004)
            if one.of in ids and one.name.partition(": ")[2].split(",")[0] in names]  # fmt: skip


# -- what is cut out of bodies ----------------------------------------------------------------------------------------


def test_formers_let_the_pack_through_where_it_passes_and_wires_elsewhere(whimbrel):
    pack, body = pack_of(whimbrel), whimbrel.bodies[0]
    formers = [piece for piece in pieces_of_design(whimbrel) if piece.face == "former"]
    patterns = of_body(whimbrel, "former")
    assert len(formers) == len(patterns) == body.built.formers
    passed = 0
    for piece, one in zip(formers, patterns, strict=True):
        (hole,) = one.openings
        opening, rest = Polygon(hole), Polygon(one.outline)
        assert rest.exterior.distance(opening) >= LAND - 1e-9, "land is left all round"
        if abs(pack.x - float(piece.origin[0])) < 0.5 * pack.long:
            passed += 1
            wide, high = np.ptp(hole, axis=0)
            assert wide == pytest.approx(pack.wide + 0.006, abs=1e-6) or wide == pytest.approx(
                np.ptp(one.outline[:, 0]) - 2 * LAND)  # fmt: skip
            assert high > 0.8 * pack.high
        else:
            # Round, a third of the lesser side at most.
            assert opening.area == pytest.approx(math.pi / 4 * np.ptp(hole[:, 0]) ** 2, rel=0.02)
            assert 0.006 - 1e-9 <= np.ptp(hole[:, 0]) <= 0.020 + 1e-9
    assert passed >= 1


def test_the_size_of_a_pack_follows_from_its_mass_or_is_measured(whimbrel):
    bare = put(put(whimbrel, "power.pack.width", 0.0), "power.pack.height", 0.0)
    pack, told = pack_of(bare), whimbrel.power.pack
    assert pack.long == told.length
    item = next(one for one in whimbrel.parts if one.group == "battery")
    mass = item.weighed or item.estimate or told.mass
    assert pack.long * pack.wide * pack.high * 1900 == pytest.approx(mass) and pack.wide > pack.high
    measured = put(put(whimbrel, "power.pack.width", 0.034), "power.pack.height", 0.027)
    assert pack_of(measured)[3:] == (0.034, 0.027)


def test_a_hatch_is_marked_in_the_top_over_the_pack(whimbrel):
    body = whimbrel.bodies[0]
    hatch = hatch_over_pack(whimbrel, body)
    (top,) = of_body(whimbrel, "top")
    (line,) = [one for one in top.lines if one.kind == "cut"]
    assert np.ptp(line.points[:, 0]) == pytest.approx(hatch.end - hatch.start, rel=0.02)
    width = min(float(np.interp(x, [s.x for s in body.sections], [s.width for s in body.sections])) for x in hatch)
    assert np.ptp(line.points[:, 1]) == pytest.approx(HATCH_WIDE * width)
    assert any(label.text == "hatch" for label in top.labels)
    assert Polygon(top.outline).contains(Polygon(line.points))


def test_a_seat_is_cut_out_of_a_side_at_the_surface_s_incidence():
    design = load("demo:turnstone")
    whole = {piece.name: piece for piece in pieces_of_design(design) if piece.face == "side"}
    side = next(one for one in of_body(design, "side") if one.hand > 0)
    gone = Polygon(next(iter(whole.values())).outline).difference(Polygon(side.outline, side.openings))
    assert gone.area > 5e-5
    # Of a plate-like tail or a wing: what is gone is no thicker than the thickest surface that passes.
    bare = design.model_copy(update={"surfaces": ()})
    assert next(one for one in of_body(bare, "side") if one.hand > 0).area == pytest.approx(
        next(iter(whole.values())).area)  # fmt: skip


def test_a_servo_that_sits_half_in_a_panel_is_cut_in_from_its_edge(whimbrel):
    servo = next(k for k, item in enumerate(whimbrel.parts) if item.servo is not None and item.on is not None
                 and item.on.to == whimbrel.surfaces[0].id)  # fmt: skip
    inside = next(one for one in patterns_of(whimbrel) if one.name == "Wing: plate, starboard")
    at_root = put(put(whimbrel, f"parts[{servo}].y", 0.004), f"parts[{servo}].on.out", 0.004)
    notched = next(one for one in patterns_of(at_root) if one.name == "Wing: plate, starboard")
    assert len(inside.openings) == 1 and notched.openings == () and notched.polygon.is_valid
    assert inside.area < notched.area < Polygon(inside.outline).area


def test_air_comes_in_and_goes_out_through_half_as_much_again():
    ends = BodyStation(x=0, width=0.08, height=0.08), BodyStation(x=0.6, width=0.06, height=0.06)
    body = Body(name="b", stations=ends, built=BodyBuild())
    (first, inlet), (second, outlet) = air_in(body, 0.0006)
    assert first == "air in 6.0 cm²" and second == "air out 9.0 cm²"
    assert Polygon(inlet).area == pytest.approx(0.0006) and Polygon(outlet).area == pytest.approx(EXIT * 0.0006)
    assert inlet[:, 0].max() < outlet[:, 0].min()
    assert list(air_in(body, 0.2)) == [], "no bottom takes that"
    design = load("demo:whimbrel")
    needed = evaluate(design).value("power.cooling_inlet")
    texts = [label.text for one in templates_of(design, evaluate(design)) for label in one.labels]
    assert f"air in {1e4 * needed:.1f} cm²" in texts


# -- small parts ------------------------------------------------------------------------------------------------------


def test_a_mount_has_its_bolts_on_the_circle_tabs_and_a_notch(small):
    mount = small["Motor mount"]
    *bolts, shaft = mount.openings
    far = [float(np.hypot(*hole.mean(axis=0))) for hole in bolts]
    assert len(bolts) == 4 and far == pytest.approx([0.008] * 4)
    assert [Polygon(hole).area for hole in bolts] == pytest.approx([math.pi / 4 * 0.0032**2] * 4)
    assert Polygon(shaft).contains(Point(0, 0)) and mount.sheet == 0.003
    bare = put(load("demo:whimbrel"), "power.mounts[0].down", math.radians(2.5))
    told = next(one for one in small_cuts_of(bare, evaluate(bare), 0.0) if one.name == "Motor mount")
    assert told.labels[0].text == "2.5° down, 0.0° right"
    # Two tabs either side stand out by the ply's thickness, and a notch for wires is cut below.
    wide = np.ptp(mount.outline[:, 0])
    inner = {round(x, 6) for x in mount.outline[:, 0]}
    assert round(wide / 2 - 0.003, 6) in inner
    low = Polygon(mount.outline)
    assert not low.contains(Point(0.0, mount.outline[:, 1].min() + 0.003))


def test_a_round_plate_closes_a_measured_nose(whimbrel):
    design = put(whimbrel, "power.mounts[0].inside", 0.0437)
    plate = next(one for one in small_cuts_of(design, evaluate(design), 0.0) if one.name == "Motor mount")
    assert np.ptp(plate.outline[:, 0]) == pytest.approx(0.0437, abs=5e-5)
    assert plate.area < math.pi / 4 * 0.0437**2


def test_pieces_tell_which_side_is_up(whimbrel):
    texts = {}
    for one in patterns_of(load("demo:turnstone")):
        for label in one.labels:
            if label.text.endswith(" up"):
                texts.setdefault(one.name.partition(": ")[2].split(",")[0], set()).add(label.text)
                assert Polygon(one.outline).contains(Point(label.x, label.y))
    assert texts["bottom skin"] == texts["side"] == {"inside up"}
    assert texts["top skin"] == texts["top"] == {"outside up"}


def test_horns_stand_on_a_tab_as_deep_as_the_sheet(small, whimbrel, report):
    row = report.results.linking.rows[0]
    horn = next(one for name, one in small.items() if "aileron horn" in name)
    assert horn.outline[:, 1].min() == pytest.approx(-whimbrel.surfaces[row.surface].sheet)
    heights = sorted(float(hole[:, 1].mean()) for hole in horn.openings)
    assert heights == pytest.approx(sorted({*row.linkage.horn_holes, row.linkage.horn}))
    assert [Polygon(hole).area for hole in horn.openings] == pytest.approx([math.pi / 4 * 0.0016**2] * len(heights))
    assert horn.mass == pytest.approx(680 * 0.002 * horn.area, rel=1e-6)


def test_throw_cards_show_neutral_throws_and_the_take_off_trim(small, whimbrel, report):
    card = next(one for name, one in small.items() if "throw card, ruddervator" in name)
    control = next(c for s in whimbrel.surfaces for c in s.controls if c.kind == "ruddervator")
    angles = sorted(math.degrees(math.atan2(*(line.points[1][::-1]))) for line in card.lines)
    trim = report.value("trim.elevator")
    up, down = (math.radians(20) if value is None else value for value in (control.up, control.down))
    wanted = [0.0, math.degrees(up), -math.degrees(down)]
    if abs(trim) > 0.002:
        wanted.append(-math.degrees(trim))
    assert angles == pytest.approx(sorted(wanted), abs=1e-6)
    assert card.polygon.is_valid


def test_a_square_is_square_and_tells_both_diagonals(small, whimbrel):
    square = next(one for name, one in small.items() if "square" in name)
    assert square.area == pytest.approx(0.5 * SQUARE**2)
    text = next(label.text for label in square.labels if "tip to tail" in label.text)
    told = float(re.search(r"(\d+) mm", text)[1]) / 1000
    wing, tail = whimbrel.surfaces[0], next(s for s in whimbrel.surfaces if s.role == "v_tail")
    tip = placed_at(wing, [wing.stations[-1].y]).leading[0]
    root = placed_at(tail, [tail.stations[0].y]).leading[0] * (1, 0, 1)
    assert told == pytest.approx(float(np.linalg.norm(tip - root)), abs=6e-4)


@pytest.mark.parametrize("angle", [0.0, 2.0, 3.5])
def test_a_seat_carries_the_wing_at_its_incidence(angle):
    design = put(load("demo:lapwing"), "surfaces[0].incidence", math.radians(angle))
    seats = [one for one in small_cuts_of(design, evaluate(design), 0.0) if ".seat." in one.key]
    if not seats:
        pytest.skip("the wing does not lie on its body")
    seat = next(one for one in seats if one.hand > 0)
    # Its lower edge is level; a straight underside leans as the wing does.
    top = seat.outline[np.argsort(seat.outline[:, 0])]
    top = top[top[:, 1] > FOOT - 1e-9]
    slope = -np.polyfit(top[4:-4, 0], top[4:-4, 1], 1)[0]
    level = put(design, "surfaces[0].incidence", 0.0)
    flat = next(one for one in small_cuts_of(level, evaluate(level), 0.0) if ".seat." in one.key and one.hand > 0)
    still = flat.outline[np.argsort(flat.outline[:, 0])]
    still = still[still[:, 1] > FOOT - 1e-9]
    at_rest = -np.polyfit(still[4:-4, 0], still[4:-4, 1], 1)[0]
    assert math.degrees(math.atan(slope) - math.atan(at_rest)) == pytest.approx(angle, abs=0.15)


def test_trays_fit_the_room_inside_and_what_sits_on_them(whimbrel):
    trays = trays_of(whimbrel, 0.0002)
    body, pack = whimbrel.bodies[0], pack_of(whimbrel)
    on_pack = next(one for one in trays if "pack" in one.name)
    assert np.ptp(on_pack.outline[:, 0]) == pytest.approx(pack.long + 0.02)
    rows = [(s.x, s.width) for s in body.sections]
    room = min(float(np.interp(x, *zip(*rows, strict=True))) for x in (pack.x - pack.long / 2, pack.x + pack.long / 2))
    assert np.ptp(on_pack.outline[:, 1]) == pytest.approx(room - 2 * body.built.sheet - 0.0002)
    assert len(on_pack.openings) == 4
    for tray in trays:
        assert tray.polygon.is_valid and tray.polygon.area < Polygon(tray.outline).area


def test_a_tray_lies_at_the_angle_of_the_body_s_middle(whimbrel):
    level = next(one for one in trays_of(whimbrel, 0.0) if "pack" in one.name)
    body, pack = whimbrel.bodies[0], pack_of(whimbrel)
    rising = whimbrel
    for k, station in enumerate(body.stations):
        rising = put(rising, f"bodies[0].stations[{k}].z", 0.1 * station.x)
    tilted = next(one for one in trays_of(rising, 0.0) if "pack" in one.name)
    angle = math.degrees(math.atan(0.1))
    assert level.name.endswith("level") and tilted.name.endswith(f"{angle:.0f}° nose down")
    assert np.ptp(tilted.outline[:, 0]) == pytest.approx(pack.long / math.cos(math.atan(0.1)) + 0.02, rel=1e-6)


def test_a_receiver_in_a_wing_has_its_opening(whimbrel):
    k = next(k for k, item in enumerate(whimbrel.parts) if item.harness == "receiver")
    mass = whimbrel.parts[k].weighed or whimbrel.parts[k].estimate
    servo = next(item for item in whimbrel.parts if item.servo is not None and item.on is not None
                 and item.on.to == whimbrel.surfaces[0].id)  # fmt: skip
    there = put(whimbrel, f"parts[{k}].on", servo.on.model_copy(update={"out": 0.12, "share": 0.4}))
    plate = next(one for one in patterns_of(there) if one.name == "Wing: plate, starboard")
    sizes = sorted(tuple(np.ptp(hole, axis=0)) for hole in plate.openings)
    by = (mass / 0.008) ** (1 / 3)
    assert len(sizes) == 2
    assert any(size == pytest.approx((by * 0.024 + 0.001, by * 0.042 + 0.001), abs=1e-6) for size in sizes)


def test_a_cowl_ring_leaves_a_way_for_the_air(whimbrel):
    assert cowl_rings_of(whimbrel) == ()
    nose = put(put(whimbrel, "bodies[0].rounding", 1.0), "bodies[0].stations[0].width", 0.07)
    nose = put(nose, "bodies[0].stations[0].height", 0.07)
    (ring,) = cowl_rings_of(nose)
    (hole,) = ring.openings
    motor = whimbrel.power.motor.diameter
    assert np.ptp(hole[:, 0]) >= motor + 2 * 0.005 - 1e-6 and np.ptp(ring.outline[:, 0]) > np.ptp(hole[:, 0])


# -- cores ------------------------------------------------------------------------------------------------------------


def test_core_templates_are_the_ends_larger_by_half_the_wire_and_ticked_alike(whimbrel):
    built = SurfaceBuild(form="core")
    design = put(whimbrel, "surfaces[0].built", built)
    wing = design.surfaces[0]
    found = core_templates_of(design)
    assert len(found) == len(wing.stations)
    for station, one in zip(wing.stations, found, strict=True):
        section = Polygon(outline_over_chord(wing) * station.chord).buffer(0)
        # Half of 1.1 mm all round.
        assert one.area - section.area == pytest.approx(0.00055 * section.length, rel=0.1)
        ticks = [line.points for line in one.lines]
        assert len(ticks) == 2 * (TICKS + 1)
        assert all(LineString(tick).length == pytest.approx(LONG) for tick in ticks)
        numbers = [label.text for label in one.labels[1:]]
        assert numbers == [str(k) for k in range(TICKS + 1)]
        # Both hands pass the same share of the chord at the same number.
        shares = [(label.x / math.cos(station.twist)) / station.chord for label in one.labels[1:]]
        assert shares == pytest.approx([k / TICKS for k in range(TICKS + 1)], abs=0.03)
    assert core_templates_of(whimbrel) == ()


# -- underside and roll -----------------------------------------------------------------------------------------------


def test_the_underside_tells_starboard_from_port_and_keeps_off_hinges(whimbrel):
    found = decals_of(whimbrel)
    assert sum("starboard" in one.name for one in found) >= 2 > sum("bar 1, port" in one.name for one in found) - 1
    root = ElementTree.fromstring(decal_svg(found, "Odd & name"))
    wide = float(root.get("width").removesuffix("mm"))
    paths = list(root.iter(f"{SVG}path"))
    assert [path.get("id") for path in paths] == [one.name for one in found]
    for path, one in zip(paths, found, strict=True):
        points = np.array([[float(v) for v in pair.split()]
                           for pair in path.get("d").strip("MZ").split("L")])  # fmt: skip
        assert Polygon(points).area == pytest.approx(1e6 * Polygon(one.outline).area, rel=1e-4)
        assert points.min() > 0 and points[:, 0].max() < wide
    # Seen from below starboard lies to the left.
    assert all((one.outline[:, 0].mean() < 0) == ("starboard" in one.name) for one in found)
    assert decals_of(whimbrel.model_copy(update={"surfaces": ()})) == ()


def test_a_roll_takes_every_sheet_on_one_page_and_tiles_refuse_it(capsys, tmp_path):
    command = ["export", "demo:whimbrel", "--paper", "roll", "--out", str(tmp_path / "out"), "--what"]
    assert main([*command, "pdf"]) == 0
    read = pypdfium2.PdfDocument(next((tmp_path / "out").iterdir()))
    wide, tall = (size / 72 * 25.4 for size in read[0].get_size())
    assert len(read) == 1 and wide == pytest.approx(508 + 30, abs=0.01)
    assert tall == pytest.approx(3 * (762 + 30) + 2 * (300 + 30), abs=0.01)
    assert main([*command, "tiles"]) == 2
    told = capsys.readouterr().err
    assert "roll for tiles" in told and told.count("\n") == 1


# -- where pieces lie -------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("name", ["whimbrel", "turnstone", "stint"])
def test_pieces_placed_back_lie_on_what_is_drawn(name):
    """Plates on their chord plane, sides on the body's flanks, within half the board."""
    design = load(f"demo:{name}")
    faces = {(piece.of, piece.name.lower()): piece.face for piece in pieces_of_design(design)}
    surfaces = {one.id: one for one in design.surfaces}
    bodies = {one.id: one for one in design.bodies}
    checked = 0
    for one in patterns_of(design):
        words = re.sub(r" \d+$", "", one.name.partition(": ")[2].split(",")[0])
        face = faces.get((one.of, one.name.partition(": ")[2].split(",")[0]), faces.get((one.of, words)))
        places = one.placed(one.outline)
        if face == "plate" and len(surfaces[one.of].stations) == 2:
            surface = surfaces[one.of]
            here = placed_at(surface, np.linspace(surface.stations[0].y, surface.stations[-1].y, 60))
            plane = here.points(np.linspace(0, 1, 60), 0.0).reshape(-1, 3) * (1, one.hand or 1, 1)
            off = np.linalg.norm(places[:, None] - plane[None], axis=-1).min(axis=1)
            # The net's own steps apart: what is off the plane is less than half the board.
            assert off.max() < 0.5 * one.sheet + 0.012
            normal = np.cross(plane[1] - plane[0], plane[-1] - plane[0])
            assert np.abs((places - plane[0]) @ normal / np.linalg.norm(normal)).max() < 0.5 * one.sheet
            checked += 1
        elif face == "side":
            x, height, z = np.array([(s.x, s.height, s.z) for s in bodies[one.of].sections]).T
            top, low = (np.interp(places[:, 0], x, z + side * height / 2) for side in (1, -1))
            assert np.all(places[:, 2] < top + 0.006) and np.all(places[:, 2] > low - 0.006)
            checked += 1
    assert checked >= 2


def test_a_design_of_cores_is_written_out(tmp_path, whimbrel):
    design = put(whimbrel, "surfaces[0].built", SurfaceBuild(form="core"))
    file = tmp_path / "core.ridge"
    save(design, file)
    for what in ("dxf", "svg", "lists", "stl"):
        assert main(["export", str(file), "--what", what, "--out", str(tmp_path / what)]) == 0


# -- constants held ---------------------------------------------------------------------------------------------------


def test_a_pack_has_three_millimetres_round_it_and_two_centimetres_more_of_hatch(whimbrel):
    # A pack far smaller than its formers and its bay: neither is cut short by them.
    small = put(put(put(whimbrel, "power.pack.width", 0.020), "power.pack.height", 0.012), "power.pack.length", 0.05)
    pack, body = pack_of(small), small.bodies[0]
    hatch = hatch_over_pack(small.model_copy(update={"surfaces": ()}), body)
    assert hatch.end - hatch.start == pytest.approx(0.07)
    middle = put(small, "bodies[0].built.formers", 15)
    passed = [one for one in of_body(middle, "former")
              if one.openings and np.ptp(one.openings[0][:, 0]) > 0.0205]  # fmt: skip
    assert passed
    for one in passed:
        assert np.ptp(one.openings[0], axis=0) == pytest.approx([0.020 + 0.006, 0.012 + 0.006], abs=1e-6)
    assert pack.wide == 0.020


def test_slots_of_straps_are_three_by_twenty_two(whimbrel):
    tray = next(one for one in trays_of(whimbrel, 0.0) if "pack" in one.name)
    assert [tuple(np.ptp(hole, axis=0)) for hole in tray.openings] == [pytest.approx((0.022, 0.003))] * 4


def test_a_mount_lets_the_shaft_and_the_wires_through(small, whimbrel):
    mount, motor = small["Motor mount"], whimbrel.power.motor.diameter
    assert Polygon(mount.openings[-1]).area == pytest.approx(math.pi / 4 * (0.3 * motor) ** 2)
    low = mount.outline[:, 1].min()
    notch = mount.outline[np.isclose(mount.outline[:, 1], low + 0.006)]
    assert np.ptp(notch[:, 0]) == pytest.approx(0.010)


def test_bars_are_a_ninth_of_the_panel_wide(whimbrel):
    wing = whimbrel.surfaces[0]
    rows = np.array([(one.y, one.z) for one in wing.stations])
    long = float(np.hypot(*np.diff(rows, axis=0).T).sum())
    widths = [np.ptp(one.outline[:, 0]) for one in decals_of(whimbrel)]
    assert max(widths) == pytest.approx(0.11 * long, rel=1e-6)
