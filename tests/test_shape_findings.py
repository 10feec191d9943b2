"""Findings on shape, trim and control: each trouble is seen, and its remedy, applied, cures it."""

import math

import pytest

from ridgeline.design.airframe import ControlSurface
from ridgeline.design.paths import REMOVE, Change, apply, put
from ridgeline.engine.advice.control_edits import tilted
from ridgeline.engine.advice.motion_rules import _fin_remedy, stretched
from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import load


def finding(design, key):
    return next((f for f in evaluate(design).findings if f.key == key), None)


def cured(design, key, remedy):
    found = finding(design, key)
    assert found is not None, [f.key for f in evaluate(design).findings]
    way = next((r for r in found.remedies if r.key == remedy), None)
    assert way is not None, [r.key for r in found.remedies]
    return apply(design, way.changes)


def stations(design, index, **changes):
    made = tuple(s.model_copy(update={k: v(s) for k, v in changes.items()}) for s in design.surfaces[index].stations)
    return put(design, f"surfaces[{index}].stations", made)


@pytest.fixture
def biplane():
    return load("demo:turnstone")


def test_an_oversize_tail_is_cut_to_its_usual_range(whimbrel):
    big = put(whimbrel, "surfaces[1].x", 1.45)
    found = finding(big, "tail.volume_h.high")
    assert found.level == "look" and "Shorten" in str(found.remedies[0].text)
    after = evaluate(cured(big, "tail.volume_h.high", "more_area_h"))
    assert after.value("tail.volume_h") == pytest.approx(0.65, rel=1e-6)


def test_a_missing_fin_is_added_with_a_usual_volume(biplane):
    fin = next(i for i, s in enumerate(biplane.surfaces) if s.role == "fin")
    bare = put(biplane, f"surfaces[{fin}]", REMOVE)
    after = evaluate(cured(bare, "tail.no_fin", "add_fin"))
    assert after.value("tail.volume_v") == pytest.approx(0.0375, rel=0.03)
    assert not any(f.key == "tail.no_fin" for f in after.findings)


def test_a_fin_too_small_to_hold_the_nose_is_made_higher(biplane):
    fin = next(i for i, s in enumerate(biplane.surfaces) if s.role == "fin")
    low = stations(biplane, fin, y=lambda s: 0.65 * s.y)
    low = put(low, f"surfaces[{fin}].controls", ())
    found = finding(low, "modes.weathercock")
    assert found is not None and found.level in ("look", "stop")
    after = evaluate(cured(low, "modes.weathercock", "fin_height"))
    assert after.results.handling.yaw_stiffness > 0.025


def test_a_steep_wing_is_levelled_with_its_tail(whimbrel):
    steep = put(whimbrel, "surfaces[0].incidence", math.radians(8))
    after = evaluate(cured(steep, "trim.incidence", "level_body"))
    assert after.value("trim.alpha") == pytest.approx(0, abs=math.radians(0.3))
    assert after.value("trim.elevator") == pytest.approx(0, abs=math.radians(0.3))


@pytest.mark.parametrize("angle", [-5, 7])
def test_an_elevator_that_holds_cruise_is_built_in(whimbrel, angle):
    off = put(whimbrel, "surfaces[1].incidence", math.radians(angle))
    found = finding(off, "trim.cruise")
    assert found.level in ("look", "stop")
    after = evaluate(cured(off, "trim.cruise", "tail_incidence"))
    assert after.value("trim.elevator") == pytest.approx(0, abs=math.radians(0.2))


def test_past_what_an_elevator_should_hold_is_a_stop(whimbrel):
    assert finding(put(whimbrel, "surfaces[1].incidence", math.radians(14)), "trim.cruise").level == "stop"


def test_a_weak_elevator_gets_the_throw_or_the_chord_it_needs(whimbrel):
    control = whimbrel.surfaces[1].controls[0]
    for update, remedy in (
        ({"chord_fraction": 0.06, "up": 0.05}, "more_throw"),
        ({"chord_fraction": 0.12, "up": 0.09}, "more_elevator"),
    ):
        weak = put(whimbrel, "surfaces[1].controls[0]", control.model_copy(update=update))
        after = evaluate(cured(weak, "control.elevator_low", remedy))
        assert after.value("control.elevator_to_stall") <= after.results.handling.throws.pitch_up * 1.02


def unlinked(design):
    """The throws wished count where nothing is linked; else those that the linkages give."""
    return put(design, "linkages", ())


def test_a_touchy_elevator_gets_less_throw(whimbrel):
    control = whimbrel.surfaces[1].controls[0]
    strong = put(unlinked(whimbrel), "surfaces[1].controls[0]", control.model_copy(update={"up": 1.0, "down": 1.0}))
    calm = cured(strong, "control.elevator_touchy", "less_throw")
    assert finding(calm, "control.elevator_touchy") is None


@pytest.mark.parametrize(
    ("throw", "key", "remedy"), [(3, "control.roll_low", "more_throw"), (28, "control.roll_high", "less_throw")]
)
def test_roll_is_brought_into_its_range_by_throw(whimbrel, throw, key, remedy):
    aileron = whimbrel.surfaces[0].controls[0]
    angle = math.radians(throw)
    changed = aileron.model_copy(update={"up": angle, "down": angle})
    design = put(unlinked(whimbrel), "surfaces[0].controls[0]", changed)
    assert finding(cured(design, key, remedy), "control.roll_good") is not None


def test_short_ailerons_are_lengthened_by_the_amount_that_does_it(whimbrel):
    aileron = whimbrel.surfaces[0].controls[0]
    short = put(whimbrel, "surfaces[0].controls[0]", aileron.model_copy(update={"start": 0.52, "end": 0.62}))
    after = evaluate(cured(short, "control.roll_low", "longer_ailerons"))
    assert after.value("control.roll_helix") == pytest.approx(0.0525, rel=0.02)


def rudder_only(design):
    return apply(design, [Change("surfaces[0].controls", ()), Change("brief.controls", "rudder_elevator")])


def test_rudder_alone_without_dihedral_is_given_the_dihedral_it_needs(whimbrel):
    flat = stations(rudder_only(whimbrel), 0, z=lambda s: 0.2 * s.z)
    found = finding(flat, "control.rudder_only")
    assert found.level == "stop"
    after = evaluate(cured(flat, "control.rudder_only", "more_dihedral"))
    assert any(f.key == "control.rudder_turns" for f in after.findings)
    assert after.value("stability.spiral_parameter") == pytest.approx(5.1, abs=0.1)


def test_tilting_a_panel_turns_every_part_of_it_alike(whimbrel):
    whimbrel = put(whimbrel, "surfaces[0].droop", 0.0)
    wing = whimbrel.surfaces[0]
    before = evaluate(whimbrel).value("stability.dihedral")
    turned = put(whimbrel, "surfaces[0].stations", tilted(wing, math.radians(3)))
    assert evaluate(turned).value("stability.dihedral") == pytest.approx(before + math.radians(3), abs=1e-6)


def test_a_quick_spiral_is_slowed_by_dihedral(biplane):
    flat = biplane
    for index, surface in enumerate(biplane.surfaces):
        if surface.role == "wing":
            flat = stations(flat, index, z=lambda s: -0.05 * s.y)
    found = finding(flat, "modes.spiral")
    assert found.level == "look"
    after = evaluate(cured(flat, "modes.spiral", "more_dihedral"))
    slow = after.value("modes.spiral_double_time")
    assert slow is None or slow > 4.5


def test_a_wagging_tail_is_calmed_by_more_fin_or_less_dihedral(biplane):
    wagging = biplane
    for index, surface in enumerate(biplane.surfaces):
        if surface.role == "wing":
            wagging = stations(wagging, index, z=lambda s: 0.36 * s.y)
        if surface.role == "fin":
            wagging = stations(put(wagging, f"surfaces[{index}].controls", ()), index, y=lambda s: 0.65 * s.y)
    before = evaluate(wagging).value("modes.dutch_roll_damping")
    assert before < 0.05
    remedies = finding(wagging, "modes.dutch_roll").remedies
    assert "fin_height" in {r.key for r in remedies}
    for remedy in remedies:
        after = evaluate(apply(wagging, remedy.changes)).value("modes.dutch_roll_damping")
        assert after is None or after >= 0.05, remedy.key


def test_an_aileron_held_against_a_warp_is_told(whimbrel):
    warped = put(whimbrel, "surfaces[0].warp_starboard", 0.012)
    assert "starboard up" in str(finding(warped, "trim.aileron").text)
    assert finding(whimbrel, "trim.aileron") is None


def test_a_propeller_near_the_ground_gets_longer_legs(whimbrel):
    low = put(whimbrel, "wheels[0].z", whimbrel.wheels[0].z + 0.02)
    after = evaluate(cured(low, "clearance.ground", "longer_legs"))
    assert after.value("clearance.ground") == pytest.approx(0.025)


def test_a_pusher_disc_too_near_a_wing_moves_aft():
    avocet = load("demo:avocet")
    x = avocet.power.mounts[0].x
    near = put(avocet, "power.mounts[0].x", x - 0.042)
    found = finding(near, "clearance.disc")
    assert found.level == "stop"
    after = evaluate(cured(near, "clearance.disc", "move_disc"))
    assert after.value("clearance.disc") == pytest.approx(0.008, abs=1e-3)


def test_two_discs_that_overlap_are_stopped_at(whimbrel):
    mount = whimbrel.power.mounts[0].model_copy(update={"y": 0.05, "mirrored": True})
    report = evaluate(put(whimbrel, "power.mounts[0]", mount))
    assert report.value("clearance.disc") < 0
    assert any(f.key == "clearance.disc" and f.level == "stop" for f in report.findings)


def test_control_power_is_not_judged_without_a_control(whimbrel):
    bare = apply(whimbrel, [Change("surfaces[0].controls", ()), Change("surfaces[1].controls", ())])
    report = evaluate(bare)
    assert report.value("control.roll_helix") is None and report.value("trim.elevator") is None
    assert report.figures["control.roll_rate"].why_not
    assert not any(f.key.startswith("control.elevator") for f in report.findings)
    assert ControlSurface(kind="flap", start=0, end=1, chord_fraction=0.2).up is None


def test_no_higher_fin_is_offered_where_there_is_more_than_needed_nor_a_lower_one_where_there_is_too_little(biplane):
    def offered(design, factor):
        return [r.key for r in _fin_remedy(design, evaluate(design), factor)]

    high = evaluate(biplane).wanted["tail.volume_v"][1]
    volume = evaluate(biplane).value("tail.volume_v")
    large = apply(biplane, stretched(biplane, 1.2 * high / volume))
    small = apply(biplane, stretched(biplane, 0.3 * high / volume))
    assert evaluate(large).value("tail.volume_v") > high
    assert offered(large, 1.3) == [] and offered(large, 0.8) == ["fin_height"]
    assert offered(small, 1.3) == ["fin_height"] and offered(small, 0.8) == []


def test_a_motor_past_its_current_is_not_called_hot(whimbrel):
    drawn = evaluate(whimbrel).value("power.static_current")
    found = next(
        f
        for f in evaluate(put(whimbrel, "power.motor.max_current", 0.98 * drawn)).findings
        if f.key == "power.motor_hot"
    )
    assert "hot" not in str(found.text) and str(found.text).startswith("The motor draws")
