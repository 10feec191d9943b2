"""Constants and steps that a slip could change without anything else noticing: each has one claim of its own."""

import math

import numpy as np
import pytest

from ridgeline.design.airframe import Body, BodyStation, ControlSurface
from ridgeline.design.brief import Brief
from ridgeline.design.paths import put
from ridgeline.design.power import Mount
from ridgeline.engine.aero.critical import critical_section, trimmed
from ridgeline.engine.aero.drag import DragModel, drag
from ridgeline.engine.aero.flap import LIMIT_SHARE, effective_deflection
from ridgeline.engine.aero.sections import section
from ridgeline.engine.geometry.clearance import clearance_of
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power.blade_element import coefficients_over
from ridgeline.engine.power.chain import chain
from ridgeline.engine.power.operating_point import solve
from ridgeline.engine.power.prop_families import FAMILIES
from ridgeline.engine.power.scatter import scatter_of
from ridgeline.engine.sizing.constraints import FIRST_CD_0, FLIGHT_THRUST_SHARE, constraint_chart
from ridgeline.engine.weights.growth import growth_of
from ridgeline.engine.weights.items import item_arrays
from ridgeline.files.design_file import load

AIR = 1.225


def test_the_turn_line_is_that_of_a_level_turn_at_the_briefs_bank():
    brief = Brief(bank=math.radians(50))
    chart = constraint_chart(brief)
    line = next(c for c in chart.lines if c.key == "turn")
    # T/W = q C_D0/(W/S) + k n² (W/S)/q with n = 1/cos φ: the bank enters by n² alone.
    level = constraint_chart(brief.model_copy(update={"bank": 0.0}))
    straight = next(c for c in level.lines if c.key == "turn")
    more = (np.asarray(line.thrust_ratio) - np.asarray(straight.thrust_ratio)) * FLIGHT_THRUST_SHARE
    steeper = constraint_chart(brief.model_copy(update={"bank": math.radians(60)}))
    steep = next(c for c in steeper.lines if c.key == "turn")
    most = (np.asarray(steep.thrust_ratio) - np.asarray(straight.thrust_ratio)) * FLIGHT_THRUST_SHARE
    n2 = [1 / math.cos(math.radians(a)) ** 2 - 1 for a in (50, 60)]
    assert FIRST_CD_0 > 0 and np.median(most / more) == pytest.approx(n2[1] / n2[0], rel=1e-6)


def test_one_motor_out_is_one_motors_thrust(whimbrel):
    pair = (Mount(x=0.15, y=0.25, mirrored=True),)
    twin = put(whimbrel, "power.mounts", pair)
    report = evaluate(twin)
    working = report.figures["power.one_out_rudder"].working
    told = {term.symbol: term.value for term in working.terms}
    assert told["T"] == pytest.approx(report.results.flight.thrust_at_climb / 2) and told["y"] == 0.25


def test_a_body_drags_as_a_rough_boxy_plate_of_its_skin():
    bare = DragModel(0.25, 6.0, 0.2, section("flat_bottom"), 0.0, 0.1, 0.0, 1.0, 0.0)
    body = DragModel(0.25, 6.0, 0.2, section("flat_bottom"), 0.0, 0.1, 0.30, 1.0, 0.0)
    more = float(drag(body, 12.0, 0.8, AIR, 1.8e-5) - drag(bare, 12.0, 0.8, AIR, 1.8e-5))
    reynolds = AIR * 12.0 * 1.0 / 1.8e-5
    assert more == pytest.approx(1.15 * 1.6 * 0.074 * reynolds**-0.2 * 0.30 * 0.5 * AIR * 144.0)


def test_it_touches_down_a_tenth_over_the_stall(whimbrel):
    report = evaluate(whimbrel)
    stall = report.value("speed.stall")
    assert report.value("flight.landing_slide") == pytest.approx((1.1 * stall) ** 2 / (2 * 0.35 * 9.80665))
    assert report.value("speed.approach") == pytest.approx(1.3 * stall)


def test_flaperons_down_keep_half_the_difference_of_their_two_halves(whimbrel):
    both = ControlSurface(kind="flaperon", start=0.05, end=0.6, chord_fraction=0.25, down=math.radians(20))
    report = evaluate(put(whimbrel, "surfaces[0].controls", (both,)))
    roll, setting = report.results.handling.throws.roll, report.results.flaps.setting
    down, up = effective_deflection(setting + roll), effective_deflection(setting - roll)
    assert setting > 0 and report.results.flaps.roll_left == pytest.approx(
        0.5 * (down - up) / effective_deflection(roll)
    )


def test_a_deflected_strips_limit_moves_by_its_share_of_the_lift_it_adds(whimbrel):
    report = evaluate(load("demo:dunlin"))
    model, limits = report.results.lattice, report.results.speeds.limits
    line = trimmed(model, report.results.balance.cg_fraction, report.results.stability.body_shift)
    found = critical_section(model, limits, line)
    first = np.unique(model.solver.lattice.strip, return_index=True)[1]
    moved = LIMIT_SHARE * 2 * math.pi * 0.9 * model.pitch_wash[first] * found.control
    finite = np.isfinite(limits)
    assert np.abs(moved[finite]).max() > 0.005
    assert found.limits[finite] - limits[finite] == pytest.approx(moved[finite], abs=1e-12)
    assert pytest.approx(0.6, abs=0.08) == LIMIT_SHARE  # DATCOM 6.1.4: plain flaps


def test_the_hub_costs_thrust_only_near_itself():
    def thrust(blades):
        law = {"family": FAMILIES["thin_electric"], "diameter": 0.2286, "pitch_ratio": 0.5, "blades": blades}
        return float(coefficients_over(np.array([0.0]), **law)[0][0])

    # Prandtl's loss at the hub takes a little: with it C_T of two blades is what tests of the families were set by.
    assert thrust(2) == pytest.approx(0.0987, abs=0.0012)
    assert 1.32 < thrust(3) / thrust(2) < 1.36


def test_a_part_within_the_hubs_room_is_not_in_the_discs_way(whimbrel):
    # The disc turns 20 mm behind the datum.
    mount = Mount(x=0.02 + whimbrel.power.motor.length + 0.008)
    train = whimbrel.power.model_copy(update={"mounts": (mount,)})

    def nearest(off):
        body = Body(
            name="Pod",
            y=0.0,
            stations=(
                BodyStation(x=0.05, width=2 * off, height=2 * off, z=0.0),
                BodyStation(x=0.3, width=2 * off, height=2 * off, z=0.0),
            ),
        )
        return clearance_of(train, 0.1, (), (body,), ()).nearest

    # Points of a square pod's octagon lie ``off`` from the shaft: 0.35 of the radius is the hub's own.
    assert nearest(0.034) is None and nearest(0.036) is not None
    assert nearest(0.036) == pytest.approx(0.03, abs=1e-6)


def test_a_first_weighing_counts_as_if_a_quarter_had_come_out_true(whimbrel):
    parts = list(whimbrel.parts)
    index = next(k for k, p in enumerate(parts) if p.group == "airframe" and p.estimate and p.weighed is None)
    heavy = 1.4 * parts[index].estimate * 1.0
    parts[index] = parts[index].model_copy(update={"weighed": heavy, "count": 1})
    items = item_arrays(tuple(parts), whimbrel.power)
    group = next(g for g in growth_of(items, 0.2).groups if g.group == "airframe")
    whole = group.estimated + group.open
    assert group.factor == pytest.approx((group.weighed + 0.25 * 1.2 * whole) / (group.estimated + 0.25 * whole))
    assert 1.2 < group.factor < group.weighed / group.estimated


def test_the_band_of_static_thrust_is_what_the_trains_doubts_make_it(whimbrel):
    report = evaluate(whimbrel)
    link = chain(whimbrel.power, 1.0, whimbrel.brief.temperature_c)
    scatter = scatter_of(whimbrel.power, link)
    moved = solve(scatter.moved(link), 1.0, 0.0, report.results.air.density)
    figures = report.figures
    assert figures["power.static_current"].sigma == pytest.approx(float(scatter.sigma(moved.pack_current)))
    assert figures["power.static_rpm"].sigma == pytest.approx(float(scatter.sigma(moved.rpm)))
    # Thrust by C_T n² from both: the two doubts stand apart in the working.
    assert figures["power.static_thrust"].sigma == pytest.approx(float(scatter.sigma(moved.thrust)), rel=0.05)


@pytest.mark.parametrize(("share", "level"), [(0.72, "look"), (0.68, "stop")])
def test_thrust_under_seven_tenths_of_the_least_wanted_is_a_stop(whimbrel, share, level):
    report = evaluate(whimbrel)
    low = report.wanted["power.thrust_ratio"][0]
    ratio = report.value("power.thrust_ratio")
    factor = share * low / ratio * whimbrel.power.propeller.thrust_factor
    weak = evaluate(put(whimbrel, "power.propeller.thrust_factor", factor))
    assert weak.value("power.thrust_ratio") / low == pytest.approx(share, rel=1e-6)
    found = next(f for f in weak.findings if f.key.startswith("power.thrust"))
    assert found.level == level


@pytest.mark.parametrize(("share", "level"), [(0.72, "look"), (0.68, "stop")])
def test_a_tail_under_seven_tenths_of_its_usual_volume_is_a_stop(share, level):
    design = load("demo:turnstone")
    report = evaluate(design)
    low, volume = report.wanted["tail.volume_v"][0], report.value("tail.volume_v")
    fin = next(k for k, s in enumerate(design.surfaces) if s.role == "fin")
    factor = share * low / volume
    stations = tuple(s.model_copy(update={"chord": s.chord * factor, "x": s.x}) for s in design.surfaces[fin].stations)
    small = evaluate(put(put(design, f"surfaces[{fin}].controls", ()), f"surfaces[{fin}].stations", stations))
    now = small.value("tail.volume_v") / low
    found = next(f for f in small.findings if f.key == "tail.volume_v.low")
    assert found.level == ("look" if now > 0.7 else "stop") and abs(now - share) < 0.03


def test_incidence_is_felt_as_the_bodys_angle_to_the_air(whimbrel):
    def with_incidence(degrees):
        turned = tuple(
            s.model_copy(update={"incidence": s.incidence + math.radians(degrees)}) if s.role != "fin" else s
            for s in whimbrel.surfaces
        )
        return evaluate(whimbrel.model_copy(update={"surfaces": turned}))

    level, turned, steep = (with_incidence(d) for d in (0, 12, 20))
    # All surfaces turned together fly as before; the body hangs nose down by as much, drags and pitches.
    assert turned.value("trim.alpha") - level.value("trim.alpha") == pytest.approx(-math.radians(12), abs=0.01)
    tops = [r.value("speed.max") for r in (level, turned, steep)]
    assert tops[0] > tops[1] + 0.05 and tops[1] > tops[2] + 0.2
    assert abs(steep.value("trim.elevator") - level.value("trim.elevator")) > math.radians(0.3)
    told = next(f for f in steep.findings if f.key == "trim.incidence")
    assert told.level == "look"


def test_a_body_across_the_flow_drags_by_its_planform():
    base = DragModel(0.25, 6.0, 0.2, section("flat_bottom"), 0.0, 0.1, 0.0, 1.0, 0.0)
    at = DragModel(
        *(0.25, 6.0, 0.2, section("flat_bottom"), 0.0, 0.1, 0.0, 1.0, 0.0),
        body_planform=0.06,
        slope=4.5,
        lift_level=0.9,
    )
    q, mass = 0.5 * AIR * 144.0, 0.8
    alpha = (mass * 9.80665 / (q * 0.25) - 0.9) / 4.5
    more = float(drag(at, 12.0, mass, AIR, 1.8e-5) - drag(base, 12.0, mass, AIR, 1.8e-5))
    assert more == pytest.approx(q * 1.2 * 0.06 * abs(math.sin(alpha)) ** 3)


@pytest.mark.parametrize("degrees", [44.9, -44.9])
def test_a_test_bed_may_stand_its_wing_at_forty_five_degrees(whimbrel, degrees):
    report = evaluate(put(whimbrel, "surfaces[0].incidence", math.radians(degrees)))
    assert any(f.key == "trim.incidence" for f in report.findings)
    assert all(f.value is None or math.isfinite(f.value) for f in report.figures.values())


def test_a_body_across_the_wind_keeps_three_quarters_of_munks_moment(whimbrel):
    report = evaluate(whimbrel)
    told = {term.symbol: term for term in report.figures["stability.cn_beta"].working.terms}
    stable, scale = report.results.stability, report.results.lattice.scale
    munk = stable.body_shift * stable.slope * scale.chord / scale.span
    assert told["body"].value == pytest.approx(-0.75 * munk)
    assert told["body"].sigma * 1.645 == pytest.approx(0.40 * 0.75 * munk)


def test_bands_of_controls_and_rates_are_those_the_light_aircraft_ask_for(whimbrel):
    report = evaluate(whimbrel)
    shares = {
        "control.cm_elevator": 0.20,
        "control.cl_aileron": 0.20,
        "control.cn_rudder": 0.40,
        "stability.cl_alpha": 0.06,
        "stability.cl_p": 0.15,
        "stability.cm_q": 0.35,
        "stability.cn_r": 0.35,
    }
    for key, share in shares.items():
        figure = report.figures[key]
        assert 1.645 * figure.sigma / abs(figure.value) == pytest.approx(share, rel=1e-6), key
