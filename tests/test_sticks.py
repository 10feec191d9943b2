"""What the sticks do: controls through the lattice, the nose against the turn, turns at the rates, rates that suit."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.airframe import ControlSurface
from ridgeline.design.paths import Change, apply, put
from ridgeline.design.radio import Amount, Rate
from ridgeline.engine.aero import lifting
from ridgeline.engine.aero.control_effects import control_effects
from ridgeline.engine.aero.flap import deflection_for, effective_deflection
from ridgeline.engine.aero.lattice import Sheet, Solver, build
from ridgeline.engine.controls.answers import Pull, Sideways, load_for, turn_radius, turned
from ridgeline.engine.controls.rates import ACROSS, Answering, proposed
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.stages.stick_angles import angles_for
from ridgeline.engine.stages.stick_answers import turns
from ridgeline.files.design_file import load
from ridgeline.library import gallery_names

DEGREE = math.radians(1)


# -- yaw of the wing's lift -------------------------------------------------------------------------------------------


def elliptic(aspect):
    """An elliptic wing of one metre span as a lattice, without sweep of the quarter chord."""
    out = 0.5 * np.sin(np.linspace(0, math.pi / 2, 33))
    chord = np.maximum(4 / (math.pi * aspect) * np.sqrt(1 - (2 * out) ** 2), 1e-3)
    leading = np.column_stack([-0.25 * chord, out, np.zeros_like(out)])
    return Solver(build([Sheet(leading, chord, np.zeros_like(out), True)], 1, 40))


@pytest.mark.parametrize("aspect", [4.0, 8.0])
def test_the_yaw_of_an_elliptic_wing_is_that_of_its_series(aspect):
    # Γ = A1 sin θ and A2 sin 2θ: C_n = −3 C_L C_l/(π A), Glauert.
    lattice = elliptic(aspect).lattice
    first = np.unique(lattice.strip, return_index=True)[1]
    theta = np.arccos(np.clip(2 * lattice.middle[first, 1], -1, 1))
    even, odd = np.sin(theta)[lattice.strip], np.sin(2 * theta)[lattice.strip]
    scale = lifting.Scale(1 / aspect, 1.0, 1 / aspect, np.zeros(3))
    c_l = lifting.longitudinal(lattice, even, scale).lift
    roll = lifting.lateral(lattice, odd, scale).roll
    found = lifting.induced_yaw(lattice, even, odd, scale)
    assert found == pytest.approx(-3 * c_l * roll / (math.pi * aspect), rel=0.02)
    assert roll < 0 < found


@pytest.fixture(scope="module")
def reports():
    return {name: (load(f"demo:{name}"), evaluate(load(f"demo:{name}"))) for name in sorted(gallery_names())}


@pytest.mark.parametrize("name", sorted(gallery_names()))
def test_controls_by_themselves_add_up_to_those_of_their_kinds(reports, name):
    design, report = reports[name]
    model = report.results.lattice
    effects = control_effects(model, design.surfaces)
    kinds = {control.id: control.kind for surface in design.surfaces for control in surface.controls}
    for whole, able, part in (
        (model.pitch_control, ("elevator", "ruddervator", "elevon"), effects.both),
        (model.roll_control, ("aileron", "elevon", "flaperon"), effects.apart),
    ):
        mine = [part[ident] for ident, kind in kinds.items() if kind in able]
        if whole is not None:
            # Starboard up rolls starboard down: the sum of what goes down there, turned over.
            sign = 1.0 if part is effects.both else -1.0
            for field in ("lift", "pitch") if part is effects.both else ("side", "roll", "yaw"):
                total = sign * math.fsum(getattr(one, field) for one in mine)
                assert total == pytest.approx(getattr(whole, field), abs=1e-9)


def test_a_deflection_on_one_side_is_half_of_both_and_half_of_apart(reports):
    design, report = reports["turnstone"]
    effects = report.results.lattice and control_effects(report.results.lattice, design.surfaces)
    ident = design.surfaces[0].controls[0].id
    small = 0.01
    right, left = effects.of({ident: (small, 0.0)}), effects.of({ident: (0.0, small)})
    both, apart = effects.of({ident: (small, small)}), effects.of({ident: (small, -small)})
    for field in ("lift", "pitch", "side", "roll", "yaw", "lift_yaw", "lift_yaw_slope", "drag_yaw"):
        a, b = getattr(right, field), getattr(left, field)
        odd = field not in ("lift", "pitch")
        assert a == pytest.approx((-b if odd else b), abs=1e-12)
        assert getattr(both, field) == pytest.approx(a + b, abs=1e-12)
        if field != "drag_yaw":
            assert getattr(apart, field) == pytest.approx(a - b, abs=1e-12)
    assert both.lift == pytest.approx(small * effects.both[ident].lift)


def test_up_and_down_apart_drag_more_where_more_goes_up(reports):
    design, report = reports["turnstone"]
    effects = control_effects(report.results.lattice, design.surfaces)
    ident = design.surfaces[0].controls[0].id
    alike = effects.of({ident: (-15 * DEGREE, 15 * DEGREE)})
    more_up = effects.of({ident: (-20 * DEGREE, 8 * DEGREE)})
    assert alike.drag_yaw == pytest.approx(0, abs=1e-12)
    # Right stick: the starboard one goes up and drags the nose into the turn.
    assert more_up.drag_yaw > 0 and more_up.roll > 0 and more_up.lift < 0


# -- what is held -----------------------------------------------------------------------------------------------------

slopes = st.tuples(
    st.floats(-0.3, 0.05), st.floats(0.02, 0.2), st.floats(-0.7, -0.2), st.floats(-0.12, 0.0)
).map(lambda row: Sideways(*row))  # fmt: skip


@given(st.floats(-0.1, 0.1), st.floats(-0.02, 0.02), slopes)
def test_what_settles_holds_roll_and_yaw(roll, yaw, by):
    found = turned(roll, yaw, by)
    if found is None:
        return
    slip = -found.swing
    assert roll + by.roll_by_slip * slip + by.roll_by_roll * found.held == pytest.approx(0, abs=1e-9)
    assert yaw + by.yaw_by_slip * slip + by.yaw_by_roll * found.held == pytest.approx(0, abs=1e-9)
    assert found.first == pytest.approx(-roll / by.roll_by_roll)


def test_nothing_settles_without_a_weathercock_and_much_yaw_turns_the_roll_round():
    weak = Sideways(-0.1, 0.002, -0.5, -0.05)
    assert turned(0.03, -0.01, weak) is None
    dihedral = Sideways(-0.20, 0.03, -0.5, -0.05)
    assert turned(0.03, -0.001, dihedral).held > 0
    # C_nβ C_l against C_lβ C_n: more than 0.03·0.03/0.20 of yaw against it, and it rolls the other way.
    assert turned(0.03, -0.0050, dihedral).held < 0 < turned(0.03, -0.0040, dihedral).held
    assert turned(0.03, -0.005, dihedral).swing < 0


@given(st.floats(6, 40), st.floats(1.02, 6))
def test_radius_and_load_of_a_turn_are_inverse(speed, load):
    assert load_for(speed, turn_radius(speed, load)) == pytest.approx(load)
    # tan φ = √(n² − 1), and R = V²/(g tan φ).
    bank = math.acos(1 / load)
    assert turn_radius(speed, load) == pytest.approx(speed**2 / (9.80665 * math.tan(bank)))
    assert math.isinf(turn_radius(speed, 1.0))


@given(st.floats(0.02, 0.5), st.floats(0, 20), st.floats(0.1, 1.0), st.floats(6, 30), st.floats(1.2, 8),
       st.floats(0, 1))  # fmt: skip
def test_a_pull_and_its_control_are_inverse(per_lift, per_rate, lift, speed, most, share):
    pull = Pull(per_lift, per_rate, lift, speed, 0.2, most)
    load = 1 + share * (most - 1)
    assert pull.load(pull.control(load)) == pytest.approx(load, rel=1e-6)
    assert pull.load(pull.control(most) + 0.1) == most and pull.load(0.0) == 1.0


# -- on an aircraft ---------------------------------------------------------------------------------------------------


def test_sticks_move_what_they_should_as_linked_or_as_wished(reports):
    for design, report in reports.values():
        linked, radio = report.results.moving, design.radio
        for stick in ("roll", "pitch", "yaw"):
            there = angles_for(stick, 1.0, linked, radio, design.surfaces, design.brief.purpose)
            bare = angles_for(stick, 1.0, linked, None, design.surfaces, design.brief.purpose)
            assert set(there) == set(bare)
            for ident, pair in there.items():
                for a, b in zip(pair, bare[ident], strict=True):
                    assert a == pytest.approx(b, abs=1.5 * DEGREE)


def test_the_throws_of_the_linkages_are_what_the_handling_counts(reports):
    design, report = reports["turnstone"]
    row = next(row for row in report.results.moving.rows if row.control.kind == "aileron")
    k = design.linkages.index(row.linkage)
    channels = tuple(c.model_copy(update={"high": 0.6, "low": 0.6}) for c in design.radio.channels)
    less = evaluate(apply(design, [Change("radio.channels", channels), Change(f"linkages[{k}].arm", 0.006)]))
    given = less.results.moving.rows[k].sides[0].throw
    assert given.up < 0.9 * row.wish.up
    assert less.results.handling.throws.roll == pytest.approx(0.5 * (given.up + given.down), rel=1e-3)
    assert less.value("control.roll_rate") < 0.95 * report.value("control.roll_rate")
    bare = evaluate(put(design, "linkages", ()))
    assert bare.results.handling.throws.roll == pytest.approx(15 * DEGREE, abs=1e-6)


def test_the_nose_goes_against_the_turn_and_more_so_near_the_stall(reports):
    for name in ("whimbrel", "turnstone", "heron", "dunlin"):
        _design, report = reports[name]
        sticks = report.results.sticking
        cruise, slow = sticks.of("roll"), sticks.of("roll", slow=True)
        assert slow.speed == pytest.approx(1.1 * report.value("speed.stall"))
        assert 0 < -cruise.turned.swing < -slow.turned.swing
        assert report.value("control.adverse_yaw") == pytest.approx(-slow.turned.swing)
        span = report.value("wing.span")
        assert report.value("control.roll_slow") == pytest.approx(slow.turned.held * 2 * slow.speed / span)
        assert slow.turned.held < slow.turned.first
        # Before the nose has swung it rolls as the handling says.
        rate = cruise.turned.first * 2 * cruise.speed / span
        assert rate == pytest.approx(report.value("control.roll_rate"), rel=0.02)


def test_the_bands_of_yaw_and_turns_are_a_third_and_an_eighth(reports):
    _design, report = reports["whimbrel"]
    share = {key: 1.645 * report.figures[key].sigma / report.value(key)
             for key in ("control.adverse_yaw", "control.turn_radius_low", "control.roll_slow")}  # fmt: skip
    assert share["control.adverse_yaw"] == pytest.approx(0.331, abs=0.008)
    assert share["control.turn_radius_low"] == pytest.approx(0.17, abs=0.06)
    assert share["control.roll_slow"] == pytest.approx(0.31, abs=0.06)


def test_differential_brings_the_nose_round(reports):
    design, _report = reports["turnstone"]
    wing = next(k for k, s in enumerate(design.surfaces) if any(c.kind == "aileron" for c in s.controls))
    base = f"surfaces[{wing}].controls[0]"
    apart = evaluate(apply(put(design, "linkages", ()), [Change(f"{base}.up", 22 * DEGREE),
                                                         Change(f"{base}.down", 9 * DEGREE)]))  # fmt: skip
    assert apart.value("control.adverse_yaw") < 0.98 * apart.value("control.adverse_yaw_alike")


def test_a_full_pull_turns_as_its_load_says_and_a_low_rate_wider(reports):
    design, report = reports["turnstone"]
    sticks, radio = report.results.sticking, design.radio
    load, radius = turns(sticks, radio, high=True)
    assert report.value("control.turn_radius") == pytest.approx(radius)
    assert radius == pytest.approx(turn_radius(report.value("speed.cruise"), load))
    assert load <= sticks.pull.most == pytest.approx((report.value("speed.cruise") / report.value("speed.stall")) ** 2)
    pitch = next(rate for rate in radio.rates if rate.stick == "pitch")
    low_load, low_radius = turns(sticks, radio, high=False)
    assert low_load == pytest.approx(sticks.pull.load(sticks.up * pitch.low)) and low_radius > radius
    assert report.value("control.turn_radius_low") == pytest.approx(low_radius)
    assert report.value("control.roll_rate_low") == pytest.approx(
        report.value("control.roll_rate") * next(r.low for r in radio.rates if r.stick == "roll"), rel=0.02
    )


def test_flaperons_that_hang_down_roll_less():
    design = load("demo:turnstone")
    wing = next(k for k, s in enumerate(design.surfaces) if any(c.kind == "aileron" for c in s.controls))
    old = design.surfaces[wing].controls[0]
    new = ControlSurface(kind="flaperon", start=old.start, end=old.end, chord_fraction=old.chord_fraction,
                         up=15 * DEGREE, down=35 * DEGREE)  # fmt: skip
    made = evaluate(apply(design, [Change("linkages", ()), Change(f"surfaces[{wing}].controls", (new,))]))
    f, a = made.results.flaps.setting, made.results.handling.throws.roll
    kept = (effective_deflection(f + a) - effective_deflection(f - a)) / (2 * effective_deflection(a))
    assert 0 < kept < 0.8 and made.value("flap.roll_left") == pytest.approx(kept)
    assert evaluate(design).figures["flap.roll_left"].value is None


# -- rates ------------------------------------------------------------------------------------------------------------

PULL = Pull(0.15, 9.0, 0.35, 11.0, 0.2, 2.5)


def full(**fields):
    usual = {"pull": PULL, "up": 0.30, "flare": 0.05, "approach": 0.0, "roll": 1.8, "span": 1.4, "speed": 11.0}
    return Answering(**{**usual, **fields})


def test_the_low_rate_holds_a_circle_that_fits_into_the_field():
    made = proposed(full(), "trainer", 60.0, ("pitch", "roll", "yaw"))
    assert made.radius == pytest.approx(60 / 2 / ACROSS) and made.load == pytest.approx(load_for(11.0, 10.0))
    pitch, roll, yaw = made.rates
    held = PULL.load(0.30 * pitch.low)
    assert turn_radius(11.0, held) <= made.radius
    assert turn_radius(11.0, PULL.load(0.30 * (pitch.low - 0.05) / 1.25)) > made.radius
    # Banked to acos(1/n) within a second, a quarter of the stick to spare.
    bank = math.acos(1 / made.load)
    assert roll.low * 1.8 >= 1.25 * bank - 1e-9 > (roll.low - 0.05) * 1.8
    assert roll.high >= 0.07 * 2 * 11.0 / 1.4 / 1.8 > roll.high - 0.05
    assert yaw.high == 1.0


def test_the_low_rate_still_holds_the_approach():
    for approach, low in ((0.0, 0.30), (0.12, 0.50), (0.20, 0.85)):
        rate = proposed(full(approach=approach), "trainer", 2000.0, ("pitch",)).rates[0]
        assert rate.low == pytest.approx(low)


def test_a_tight_garden_asks_for_more_at_the_low_rate_and_an_aerobat_for_all():
    wide, tight = (proposed(full(), "trainer", field, ("pitch", "roll")).rates for field in (300.0, 40.0))
    assert tight[0].low > wide[0].low and tight[1].low > wide[1].low
    assert proposed(full(), "aerobatic", 100.0, ("roll",)).rates[0].high == 1.0
    assert proposed(full(), "trainer", 100.0, ("roll",)).rates[0].high < 1.0


@given(st.floats(5, 2000), st.floats(0.05, 0.6), st.floats(0.2, 12), st.sampled_from(["trainer", "sport", "aerobatic"]))
def test_rates_are_ones_a_radio_takes(field, up, roll, purpose):
    for rate in proposed(full(up=up, roll=roll), purpose, field, ("pitch", "roll", "yaw")).rates:
        assert 0.3 <= rate.low <= rate.high <= 1.0 and 0 <= rate.expo <= 0.6
        assert Rate(**rate.model_dump()) == rate
        for value in (rate.high, rate.low, rate.expo):
            assert value * 20 == pytest.approx(round(value * 20), abs=1e-6)


def test_expo_softens_what_is_touchy_alone():
    calm, touchy = (proposed(full(roll=roll), "aerobatic", 100.0, ("roll",)).rates[0] for roll in (1.0, 4.0))
    assert calm.expo == 0.0
    # At 2 rad/s and all of it a tenth of the stick, 0.2 rad/s, comes down to 8°/s: 1 − 0.1396/0.2 in steps of 5 %.
    assert proposed(full(roll=2.0), "aerobatic", 100.0, ("roll",)).rates[0].expo == pytest.approx(0.35)
    assert touchy.high == pytest.approx(0.55) and touchy.expo == pytest.approx(0.40)


def test_mixing_is_followed_into_the_answers(reports):
    # Rudder mixed into the roll stick brings the nose round.
    design, report = reports["heron"]
    k = next(k for k, c in enumerate(design.radio.channels) if any(p.stick == "yaw" for p in c.mix))
    mixed = put(design, f"radio.channels[{k}].mix", (*design.radio.channels[k].mix, Amount(stick="roll", amount=0.5)))
    assert evaluate(mixed).value("control.adverse_yaw") < report.value("control.adverse_yaw") - 2 * DEGREE


def test_alike_throws_roll_the_same(reports):
    _design, report = reports["turnstone"]
    sticks = report.results.sticking
    assert sticks.alike.roll == pytest.approx(sticks.of("roll", slow=True).roll, rel=1e-6)
    assert effective_deflection(deflection_for(0.2)) == pytest.approx(0.2)
