"""The drag list: what stands in the wind, from the parts present and from what was added, and what it costs."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.airframe import Body, BodyStation, Wheel
from ridgeline.design.axes import all_discs
from ridgeline.design.construction import BodyBuild
from ridgeline.design.document import Design, from_plain
from ridgeline.design.drag_items import DragItem
from ridgeline.design.paths import Change, apply
from ridgeline.engine.aero.drag import drag, shares
from ridgeline.engine.aero.drag_list import BASE, CAN, FACE, OPEN_SIDE, WHEEL, hindrances
from ridgeline.engine.bands import BAND
from ridgeline.engine.geometry.bodies import measure_body
from ridgeline.engine.pipeline import Evaluator, evaluate
from ridgeline.engine.power.flight import gained_without
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.sizing.wishes import brief_of
from ridgeline.errors import DesignError
from ridgeline.files.design_file import load
from ridgeline.library import shipped_shelf

BOX = Body(
    name="Box", stations=[BodyStation(x=x, width=w, height=h) for x, w, h in ((0, 0.05, 0.06), (0.5, 0.02, 0.02))]
)


@pytest.fixture(params=["whimbrel", "dunlin", "avocet", "turnstone"])
def every_demo(request):
    return load(f"demo:{request.param}")


@pytest.fixture(scope="module")
def turnstone():
    return load("demo:turnstone")


def listed(**parts):
    """The list of a few parts alone."""
    usual = {"surfaces": (), "bodies": (), "wheels": (), "parts": (), "power": None, "added": ()}
    return hindrances(**usual | parts)


def named(found, words):
    return next(one for one in found if one.name == words)


@pytest.mark.parametrize(
    ("kind", "coefficient", "band"),
    [
        ("wire", 1.1, 0.15),
        ("strut", 1.3, 0.25),
        ("faired_strut", 0.3, 0.5),
        ("opening", 0.06, 0.6),
        ("box", 1.05, 0.25),
        ("plate_edge", 1.2, 0.3),
        ("air_inlet", 0.7, 0.5),
    ],
)
def test_what_is_added_drags_by_its_area_and_its_kind(kind, coefficient, band):
    (one,) = listed(added=(DragItem(name="Thing", kind=kind, count=3, length=0.2, width=0.004),))
    assert one.drag_area == pytest.approx(3 * 0.2 * 0.004 * coefficient)
    assert one.added and one.path == "drag_items[0]"
    assert BAND * one.sigma == pytest.approx(one.drag_area * band)


def test_fairing_a_strut_takes_three_quarters_off():
    bare, faired = (
        listed(added=(DragItem(name="Strut", kind=kind, length=0.15, width=0.006),))[0].drag_area
        for kind in ("strut", "faired_strut")
    )
    assert faired / bare == pytest.approx(0.3 / 1.3)


def test_a_wheel_is_a_quarter_as_wide_as_high_on_a_leg_of_a_twentieth_of_it():
    wheel = Wheel(name="Main", x=0.2, y=0.0, z=-0.1, diameter=0.06)
    found = listed(wheels=(wheel,))
    assert named(found, "Main").drag_area == pytest.approx(2 * 0.6 * 0.25 * 0.06**2)
    assert named(found, "Main: leg").drag_area == pytest.approx(2 * 1.1 * 0.003 * 0.1)
    lone = listed(wheels=(wheel.model_copy(update={"mirrored": False}),))
    assert named(lone, "Main").drag_area == pytest.approx(0.5 * named(found, "Main").drag_area)


def test_a_leg_reaches_from_the_belly_out_to_the_wheel():
    wheel = Wheel(name="Main", x=0.0, y=0.085, z=-0.11, diameter=0.05)
    leg = named(listed(wheels=(wheel,), bodies=(BOX,)), "Main: leg")
    # Down from −30 mm to −110 mm, and 60 mm out from the side of the box.
    assert leg.area == pytest.approx(math.hypot(0.08, 0.06) * 0.0025)


def test_a_flat_nose_counts_by_its_face_and_a_blunt_end_by_base_drag():
    found = listed(bodies=(BOX,))
    assert named(found, "Box: flat nose").drag_area == pytest.approx(0.45 * 0.05 * 0.06)
    skin, base = measure_body(BOX).wetted, 0.02 * 0.02
    assert skin == pytest.approx(0.5 * (0.05 + 0.06 + 0.02 + 0.02), rel=1e-3)
    by_hoerner = 0.029 / math.sqrt(0.0055 * skin / base) * base
    assert named(found, "Box: blunt end").drag_area == pytest.approx(by_hoerner)


def test_a_boom_that_begins_in_a_body_has_no_nose():
    boom = Body(name="Boom", kind="boom", stations=[BodyStation(x=x, width=0.012, height=0.012) for x in (0.4, 0.9)])
    names = [one.name for one in listed(bodies=(BOX, boom))]
    assert "Boom: flat nose" not in names and "Box: blunt end" not in names
    alone = boom.model_copy(update={"y": 0.2, "mirrored": True})
    assert named(listed(bodies=(BOX, alone)), "Boom: flat nose").pieces == 2


def test_an_open_side_drags_by_what_is_left_out():
    open_box = BOX.model_copy(update={"built": BodyBuild(form="box", open="bottom")})
    one = named(listed(bodies=(open_box,)), "Box: open bottom")
    assert one.drag_area == pytest.approx(0.02 * 0.5 * 0.5 * (0.05 + 0.02))
    assert all(each.name != "Box: open bottom" for each in listed(bodies=(BOX,)))


def test_a_servo_counts_by_what_stands_out_of_the_sheet(whimbrel):
    item = next(part for part in whimbrel.parts if part.name == "Aileron servos")
    wing = next(s for s in whimbrel.surfaces if s.id == item.on.to)
    size = ((item.weighed or item.estimate or item.servo.mass) / 0.009) ** (1 / 3)
    sheets = {t: apply(whimbrel, [Change("surfaces[0].thickness", t)]) for t in (0.004, 0.02)}
    found = {t: evaluate(design).results.drag_list for t, design in sheets.items()}
    one = named(found[0.004], "Aileron servos")
    assert wing is whimbrel.surfaces[0]
    assert one.area == pytest.approx(0.023 * size * (0.012 * size - 0.004), rel=1e-6)
    assert one.pieces == item.count and all(each.name != "Aileron servos" for each in found[0.02])


def test_a_pack_under_a_profile_is_in_the_wind_and_in_a_box_is_not(turnstone):
    def out(form, wide):
        body = turnstone.bodies[0]
        flat = tuple(station.model_copy(update={"width": wide}) for station in body.stations)
        fresh = body.model_copy(update={"built": body.built.model_copy(update={"form": form}), "stations": flat})
        found = evaluate(apply(turnstone, [Change("bodies[0]", fresh)])).results.drag_list
        name = next(part.name for part in turnstone.parts if part.component == "pack")
        return next((one.area for one in found if one.name == name), 0.0)

    length = turnstone.power.pack.length
    assert out("profile", 0.005) == pytest.approx((0.25 * length - 0.005) * 0.33 * length)
    assert out("box", 0.06) == 0.0
    # In a box too narrow for it, what stands out is what the room inside does not hold.
    assert out("box", 0.025) == pytest.approx(0.33 * 0.25 * length**2 - 0.015 * 0.33 * length)


def test_a_motor_no_body_hides_is_in_the_wind(whimbrel):
    assert all(one.path != "power.motor" for one in evaluate(whimbrel).results.drag_list)
    aloft = apply(whimbrel, [Change("power.mounts[0].z", 0.2)])
    one = next(one for one in evaluate(aloft).results.drag_list if one.path == "power.motor")
    assert one.drag_area == pytest.approx(0.8 * math.pi / 4 * whimbrel.power.motor.diameter**2)


def test_a_horn_for_each_control_on_each_side(whimbrel):
    horns = [one for one in evaluate(whimbrel).results.drag_list if ".controls[" in one.path]
    assert len(horns) == sum(len(s.controls) for s in whimbrel.surfaces)
    assert all(one.pieces == 2 for one in horns)
    assert all(0.25 * 0.006**2 <= one.area <= 0.25 * 0.020**2 for one in horns)


def test_cooling_air_is_the_opening_told_or_what_the_heat_asks(whimbrel):
    told = apply(whimbrel, [Change("power.cooling_inlet", 4e-4)])
    assert named(evaluate(told).results.drag_list, "cooling air").drag_area == pytest.approx(0.7 * 4e-4)
    asked = named(evaluate(whimbrel).results.drag_list, "cooling air").area
    stand = evaluate(whimbrel).results.standing
    heat = float(stand.point.esc_heat + stand.point.pack_heat)
    speed = 0.5 * whimbrel.power.propeller.pitch * stand.rpm / 60
    density = evaluate(whimbrel).results.air.density
    # Warmed by 20 K, at half the airspeed.
    assert asked == pytest.approx(heat / (density * 0.5 * speed * 1005 * 20))


def test_the_figure_is_the_sum_with_each_named(every_demo):
    report = evaluate(every_demo)
    figure, listed_ = report.figures["drag.standing_out"], report.results.drag_list
    assert figure.value == pytest.approx(sum(one.drag_area for one in listed_))
    assert figure.sigma == pytest.approx(math.sqrt(sum(one.sigma**2 for one in listed_)))


def test_the_shares_make_up_the_drag(every_demo):
    report = evaluate(every_demo)
    polar, mass, air = report.results.polar, report.value("mass.auw"), report.results.air
    for speed in (9.0, 14.0, 22.0):
        parts = shares(polar, speed, mass, air.density, air.viscosity)
        whole = float(drag(polar, speed, mass, air.density, air.viscosity))
        assert sum(parts) * 0.5 * air.density * speed**2 == pytest.approx(whole)
        assert min(parts) > 0 and parts.standing_out == pytest.approx(report.value("drag.standing_out"))


def test_what_one_thing_costs_is_what_flying_without_it_gains(turnstone):
    """The cost beside a line, against the whole engine run again without that line."""
    strut = DragItem(name="Struts", kind="strut", count=4, length=0.15, width=0.005)
    with_it = evaluate(apply(turnstone, [Change("drag_items[-]", strut)]))
    flown, area = with_it.results.flight, named(with_it.results.drag_list, "Struts").drag_area
    without = flown.top_speed + float(gained_without(flown, area, with_it.results.air.density)[0])
    assert without == pytest.approx(evaluate(turnstone).value("speed.max"), rel=2e-4)
    assert with_it.value("speed.max") < without - 0.5


def test_bare_is_faster_than_as_it_is(every_demo):
    report = evaluate(every_demo)
    assert 1.02 < report.value("speed.bare") / report.value("speed.max") < 1.25


@given(length=st.floats(0.01, 1.0), width=st.floats(0.0005, 0.05), count=st.integers(1, 8))
def test_anything_added_slows_it_and_never_speeds_it(length, width, count):
    design = load("demo:turnstone")
    added = apply(design, [Change("drag_items[-]", DragItem(name="x", length=length, width=width, count=count))])
    before, after = Evaluator().result(design, "polar"), Evaluator().result(added, "polar")
    assert after.standing_out - before.standing_out == pytest.approx(1.3 * length * width * count)


def test_the_list_stays_the_same_object_where_nothing_in_it_changed(whimbrel):
    evaluator = Evaluator()
    evaluator(whimbrel)
    runs = evaluator.runs["polar"]
    evaluator(apply(whimbrel, [Change("parts[0].estimate", 0.123)]))
    assert evaluator.runs["polar"] == runs


def test_struts_come_with_wings_one_over_another():
    design = lay_out(brief_of({"layout": "biplane", "ceiling": 0.8}), shipped_shelf())
    (strut,) = design.drag_items
    upper, lower = design.surfaces[:2]
    assert strut.length == pytest.approx(upper.z - lower.z) and strut.count == 4
    item = next(part for part in design.parts if part.name == strut.name)
    assert item.count == 4 and item.mirrored and item.estimate == pytest.approx(0.011 * strut.length)
    assert min(lower.z, upper.z) < item.z < max(lower.z, upper.z)
    assert not lay_out(brief_of({"ceiling": 0.8}), shipped_shelf()).drag_items


def test_it_is_kept_in_the_file_and_bad_sizes_are_refused():
    design = Design(drag_items=(DragItem(name="Wire", kind="wire", length=0.3, width=0.0008),))
    assert from_plain(design.model_dump(mode="json")) == design
    with pytest.raises(DesignError, match="width"):
        from_plain({"format": "ridgeline", "format_version": 3, "drag_items": [{"name": "Wire", "width": -1.0}]})


def test_no_power_no_speed_but_the_list_is_there(whimbrel):
    report = evaluate(apply(whimbrel, [Change("power", None)]))
    assert report.value("speed.bare") is None and report.results.drag_list
    assert np.isfinite(report.value("drag.standing_out"))


def test_the_drag_is_known_to_a_quarter(whimbrel):
    sink = evaluate(whimbrel).figures["glide.sink"]
    assert BAND * sink.sigma / sink.value == pytest.approx(0.25)


def test_what_follows_from_the_parts_is_known_to_what_it_says():
    bands = [(FACE, 0.5), (WHEEL, 0.4), (CAN, 0.3), (BASE, 0.4), (OPEN_SIDE, 0.6)]
    assert all(shape.band == band for shape, band in bands)


def test_a_leg_is_of_wire_from_a_millimetre_to_five():
    legs = {d: named(listed(wheels=(Wheel(name="W", x=0, z=-0.1, diameter=d),)), "W: leg").area for d in (0.012, 0.2)}
    assert legs[0.012] == pytest.approx(0.1 * 0.001) and legs[0.2] == pytest.approx(0.1 * 0.005)


def test_a_motor_is_hidden_by_a_body_near_it_and_nearly_as_thick(whimbrel):
    def bare(station_off, thick):
        size = whimbrel.power.motor.diameter
        at = all_discs(whimbrel.power)[0]
        rows = [BodyStation(x=x, width=thick * size, height=thick * size) for x in (0.0, 0.3)]
        body = Body(name="B", x=at[0] + station_off * size, z=at[2], stations=rows)
        return any(one.path == "power.motor" for one in listed(bodies=(body,), power=whimbrel.power))

    assert [bare(off, 1.0) for off in (2.9, 3.1)] == [False, True]
    assert [bare(1.0, thick) for thick in (0.82, 0.78)] == [False, True]


def test_what_hardly_drags_is_left_out_unless_it_was_added():
    for edge, there in ((0.0105, True), (0.0095, False)):
        # A face of just over a cm², and of just under.
        body = Body(name="B", stations=[BodyStation(x=x, width=edge, height=edge) for x in (0.0, 0.2)])
        assert any(one.name == "B: flat nose" for one in listed(bodies=(body,))) is there
    wheels = [Wheel(name="W", x=0, z=-0.01, diameter=d, mirrored=False) for d in (0.0062, 0.0054)]
    # 0.6 · d²/4 on either side of a twentieth of a cm².
    assert [any(one.name == "W" for one in listed(wheels=(w,))) for w in wheels] == [True, False]
    assert listed(added=(DragItem(name="Thread", kind="wire", length=0.001, width=0.0001),))


def test_two_packs_on_a_stick_are_two_in_the_wind_however_they_are_entered(turnstone):
    body = turnstone.bodies[0]
    flat = tuple(station.model_copy(update={"width": 0.005}) for station in body.stations)
    stick = body.model_copy(update={"built": body.built.model_copy(update={"form": "profile"}), "stations": flat})
    item = next(k for k, part in enumerate(turnstone.parts) if part.component == "pack")
    found = []
    for parallel, count in ((1, 1), (2, 1), (2, 2)):
        changes = [Change("bodies[0]", stick), Change("power.pack_parallel", parallel)]
        design = apply(turnstone, [*changes, Change(f"parts[{item}].count", count)])
        found.append(named(evaluate(design).results.drag_list, turnstone.parts[item].name).drag_area)
    assert found[1] == pytest.approx(2 * found[0]) and found[2] == pytest.approx(found[1])
