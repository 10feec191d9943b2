"""Matching: brute force over a small shelf, the front, near misses, and what is fitted."""

import math
from dataclasses import replace

import numpy as np
import pytest

from ridgeline.design.paths import apply
from ridgeline.design.power import PowerTrain
from ridgeline.engine.advice.match import LIMITS, Search, Wishes
from ridgeline.engine.advice.match_design import airframe_of, candidates, doubts_of, fit, largest_propeller, wishes_of
from ridgeline.engine.aero.drag import drag, thrust_left
from ridgeline.engine.geometry.clearance import LEAST_APART, LEAST_GROUND
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power import pack as packs
from ridgeline.engine.power.chain import chain
from ridgeline.engine.power.full_throttle import MEAN_CHARGE
from ridgeline.engine.power.held_thrust import throttle_for_thrust
from ridgeline.engine.power.limits import CRUISE_THROTTLE, ESC_SHARE, MOTOR_HEAT_MINUTE, PITCH_OVER_STALL
from ridgeline.engine.power.operating_point import full_draw, solve
from ridgeline.engine.power.propeller import law_of, tip_speed_limit
from ridgeline.engine.power.survey import Survey
from ridgeline.library import shipped_shelf

SHELF = shipped_shelf()


@pytest.fixture(scope="module")
def case():
    from ridgeline.files.design_file import load

    design = load("demo:whimbrel")
    design = design.model_copy(
        update={"brief": design.brief.model_copy(update={"packs": (), "endurance": 600.0, "cruise_ratio": 1.4})}
    )
    return design, evaluate(design)


@pytest.fixture(scope="module")
def small(case):
    design, report = case
    motors = tuple(m for m in SHELF.motors if 0.035 <= m.mass <= 0.08)[:9]
    blades = tuple(p for p in SHELF.propellers if 0.15 <= p.diameter <= 0.23 and p.family != "ducted_fan")[::2]
    shelf = tuple(p for p in SHELF.packs if p.cells in (2, 3, 4) and 1 <= p.capacity_ah <= 3)[::2]
    survey = Survey(motors, blades, shelf, SHELF.escs, airframe_of(design, report))
    asked = wishes_of(design, report)
    # Wishes wide enough that a few dozen fit.
    easy = replace(asked, thrust_ratio=0.5, seconds=400.0, balance=(asked.balance[0] - 0.03, asked.balance[1] + 0.03))
    search = Search(survey, easy)
    for _ in search.steps():
        pass
    return design, report, survey, search


def by_hand(design, frame, wishes, motor, blade, pack):
    """One combination through the single-chain functions: the limits it breaks, and mass, seconds and ratio."""

    def train(esc):
        return PowerTrain(motor=motor, esc=esc, pack=pack, propeller=blade, mounts=design.power.mounts)

    free = SHELF.escs[0].model_copy(update={"resistance": 0.0})
    need = float(solve(chain(train(free), 1.0, frame.temperature_c), 1.0, 0.0, frame.air_density).motor_current)
    able = [e for e in SHELF.escs if e.kind == motor.kind and e.max_cells >= pack.cells]
    able = [e for e in able if ESC_SHARE * e.max_current >= need]
    able = [e for e in able if e.bec_current == 0 or e.bec_current >= frame.receiver]
    # A linear supply burns (U − 5 V) × 0.3 of the load: 2.5 W at most.
    volts = max(float(packs.open_circuit_voltage(p, 1.0)) for p in SHELF.packs if p.cells == pack.cells)
    able = [e for e in able if not (e.bec_linear and e.bec_current) or (volts - 5) * 0.3 * frame.receiver <= 2.5]
    if not able:
        return None
    esc = min(able, key=lambda e: (e.mass, e.max_current))
    full = chain(train(esc), 1.0, frame.temperature_c)
    point = solve(full, 1.0, 0.0, frame.air_density)
    mass = frame.rest + motor.mass + esc.mass + blade.mass + pack.mass
    stall = frame.stall * math.sqrt(mass / frame.stall_mass)
    speed = frame.cruise_ratio * stall
    needed = float(drag(frame.drag, speed, mass, frame.air_density, frame.viscosity))
    needed /= thrust_left(frame.drag, blade.diameter)
    half = chain(train(esc), MEAN_CHARGE, frame.temperature_c)
    throttle = float(throttle_for_thrust(half, needed, speed, frame.air_density))
    seconds = 0.0
    if math.isfinite(throttle):
        level = float(solve(half, throttle, speed, frame.air_density).pack_current)
        fast = max(float(solve(half, 1.0, speed, frame.air_density).pack_current), 0.0)
        usable = (1 - packs.RESERVE) * pack.capacity_ah * 3600
        away = min(fast * frame.profile.climb, usable)
        seconds = frame.profile.climb + (usable - away) / (frame.profile.full_share * fast + 0.9 * level)
    ratio = float(point.thrust) / (mass * 9.80665)
    carried = ((motor, frame.motor_x), (esc, frame.esc_x), (blade, frame.propeller_x))
    moment = frame.rest_moment + sum(part.mass * x for part, x in carried)
    ends = [
        (moment + pack.mass * x) / mass for x in (frame.pack_front + pack.length / 2, frame.pack_back - pack.length / 2)
    ]
    broken = (
        pack.cells > motor.max_cells,
        False,
        float(point.pack_current) > packs.continuous_current(pack),
        float(point.motor_current) > motor.max_current,
        float(point.motor_heat) > MOTOR_HEAT_MINUTE * motor.mass,
        math.pi * blade.diameter * float(point.rpm) / 60 > tip_speed_limit(blade),
        blade.diameter > wishes.largest_propeller,
        float(point.pack_voltage) / pack.cells < packs.least_voltage(pack),
        pack.length > wishes.bay,
        ratio < wishes.thrust_ratio,
        not throttle <= CRUISE_THROTTLE,
        seconds < wishes.seconds,
        mass > wishes.ceiling,
        blade.pitch * float(point.rpm) / 60 < PITCH_OVER_STALL * stall,
        ends[0] > wishes.balance[1] or ends[1] < wishes.balance[0],
    )
    return broken, mass, seconds, ratio


def test_brute_force_over_a_small_shelf_gives_the_same_result_in_the_same_order(small):
    design, _report, survey, search = small
    frame, wishes = survey.airframe, search.wishes
    good, counts = [], np.zeros(len(LIMITS), int)
    for j, blade in enumerate(survey.propellers):
        for i, motor in enumerate(survey.motors):
            for k, pack in enumerate(survey.packs):
                told = by_hand(design, frame, wishes, motor, blade, pack)
                assert told is not None
                broken, mass, seconds, ratio = told
                counts += broken
                if not any(broken):
                    good.append((j, i, k, mass, seconds, ratio))
    found = search.result(rank=10_000)
    assert found.looked_at == len(survey.propellers) * len(survey.motors) * len(survey.packs)
    assert found.fitting == len(good) >= 10
    assert found.ruled_out == {LIMITS[i]: n for i, n in enumerate(counts) if n}
    for intent, key in (("lightest", 3), ("longest", 4), ("strongest", 5)):
        sign = 1 if key == 3 else -1
        wanted = sorted(good, key=lambda g, key=key, sign=sign: (sign * g[key], g[3], g[0], g[1], g[2]))
        ranked = found.ranked[intent]
        assert [(m.place[1], m.place[0], m.place[2]) for m in ranked] == [g[:3] for g in wanted]
        for match, told in zip(ranked, wanted, strict=True):
            assert (match.mass, match.seconds, match.ratio) == pytest.approx(told[3:], rel=1e-9)


def test_nothing_on_the_front_is_beaten_and_all_off_it_are(small):
    found = small[3].result(rank=10_000)
    values = {m.place: (-m.mass, m.seconds, m.ratio) for m in found.ranked["lightest"]}
    front = {m.place for m in found.front}

    def beaten(place):
        mine = np.array(values[place])
        return any((np.array(other) >= mine).all() and (np.array(other) > mine).any() for other in values.values())

    assert front and not any(beaten(place) for place in front)
    assert all(beaten(place) for place in values if place not in front)


def test_a_near_miss_names_the_one_limit_that_rules_it_out(small):
    design, _report, survey, search = small
    near = search.result().near
    assert near
    for match in near[:10]:
        broken, *_ = by_hand(design, survey.airframe, search.wishes, match.motor, match.propeller, match.pack)
        assert sum(broken) == 1 and LIMITS[broken.index(True)] == match.binding and 0 < match.excess < 0.35


def test_a_match_fitted_has_the_figures_that_were_promised(small):
    design, report, _survey, search = small
    targets, ref = report.results.targets, report.results.shape.reference
    aim = ref.at(targets.first_aim)
    for match in search.result().ranked["longest"][:3]:
        fitted = apply(design, fit(design, match, aim))
        after = evaluate(fitted)
        assert after.value("mass.auw") == pytest.approx(match.mass, rel=1e-9)
        assert after.value("power.thrust_ratio") == pytest.approx(match.ratio, rel=1e-9)
        assert after.value("power.static_current") == pytest.approx(match.current, rel=1e-9)
        # The search flies at one state of charge and full throttle at cruise; the pipeline steps the pack down.
        assert after.value("flight.endurance") == pytest.approx(match.seconds, rel=0.04)
        low, high = match.balance
        assert after.value("balance.cg_x") == pytest.approx(min(max(aim, low), high), abs=1e-9)


def test_a_match_promises_the_bands_it_has_once_fitted(small):
    design, report, _survey, search = small
    match = search.result().ranked["strongest"][0]
    told = doubts_of(design, report, match)
    fitted = apply(design, fit(design, match))
    # Weighed as the match has it: the small rest of its parts' own weights aside.
    after = evaluate(fitted)
    current, ratio = after.figures["power.static_current"], after.figures["power.thrust_ratio"]
    assert told.current == pytest.approx(current.sigma, rel=1e-6)
    assert told.ratio == pytest.approx(ratio.sigma, rel=0.15)
    share = after.figures["flight.endurance"].sigma / after.value("flight.endurance")
    assert told.seconds / match.seconds == pytest.approx(share, rel=0.35)
    assert 0.05 < told.ratio / match.ratio < 0.3


def test_what_lies_in_the_bin_comes_first(small):
    _design, _report, survey, search = small
    plain = search.result(rank=500).ranked["lightest"]
    own = plain[-1]
    names = {part.name: 1 for part in (own.motor, own.propeller, own.pack, own.esc)}
    again = Search(survey, search.wishes, names)
    for _ in again.steps():
        pass
    ranked = again.result(rank=500).ranked["lightest"]
    assert ranked[0].to_buy == 0 and [m.to_buy for m in ranked] == sorted(m.to_buy for m in ranked)
    assert ranked[0].price == 0 and plain[0].price is None


def test_a_stopped_search_keeps_what_it_found_so_far(small):
    _design, _report, survey, search = small
    begun = Search(survey, search.wishes)
    seen = []
    for share in begun.steps(lambda: len(seen) >= 2):
        seen.append(share)
    assert len(seen) == 2 and 0 < begun.result().looked_at < search.looked_at


def test_the_whole_library_is_searched_and_the_brief_names_the_packs(case):
    design, report = case
    survey = candidates(design, SHELF, report)
    assert len(survey.motors) * len(survey.propellers) * len(survey.packs) >= 300_000
    named = design.model_copy(update={"brief": design.brief.model_copy(update={"packs": ("3S 2200",)})})
    assert [p.name for p in candidates(named, SHELF, report).packs] == ["3S 2200"]


def test_the_largest_propeller_just_clears(case):
    design, _report = case
    most = largest_propeller(design)
    for diameter, clears in ((most - 0.002, True), (most + 0.004, False)):
        fitted = apply(design, ())
        train = fitted.power.model_copy(
            update={"propeller": fitted.power.propeller.model_copy(update={"diameter": diameter})}
        )
        report = evaluate(fitted.model_copy(update={"power": train}))
        ground, disc = report.value("clearance.ground"), report.value("clearance.disc")
        assert (ground >= LEAST_GROUND - 1e-6 and disc >= LEAST_APART - 1e-6) == clears


@pytest.mark.parametrize("link", ["motor", "propeller", "pack"])
def test_a_scope_of_one_link_keeps_the_others_as_fitted_whatever_packs_the_brief_names(case, link):
    design, report = case
    named = design.model_copy(update={"brief": design.brief.model_copy(update={"packs": ("6S 5000",)})})
    survey = candidates(named, SHELF, report, link)
    shelves = {"motor": survey.motors, "propeller": survey.propellers, "pack": survey.packs}
    for kind, parts in shelves.items():
        assert parts[0] == getattr(design.power, kind) and len({p.name for p in parts}) == len(parts)
        assert (len(parts) > 1) == (kind == link)
    if link == "pack":
        assert [p.cells - design.power.pack.cells for p in parts[1:]] == [-1, 1]


def test_a_twin_buys_two_of_each_and_what_lies_in_the_bin_is_not_bought_again(case):
    design, report = case
    frame = replace(airframe_of(design, report), motors=2, pack_series=1, pack_parallel=2)
    priced = lambda part, price: part.model_copy(update={"price": price})  # noqa: E731
    motor, blade, pack = design.power.motor, design.power.propeller, design.power.pack
    escs = tuple(priced(e, 4.0) for e in SHELF.escs)
    survey = Survey((priced(motor, 20.0),), (priced(blade, 3.0),), (priced(pack, 15.0),), escs, frame)
    loose = Wishes(0.0, 0.0, 25.0, 1.0, 1.0, None)
    for own, pieces, price in (({}, 8, 84.0), ({motor.name: 1, pack.name: 5}, 5, 34.0)):
        search = Search(survey, loose, own)
        for _ in search.steps():
            pass
        found = search.result()
        match = next(iter((*found.ranked["cheapest"], *found.near)))
        assert (match.to_buy, match.price) == (pieces, pytest.approx(price))


def test_controllers_are_chosen_by_the_current_that_is_drawn(small):
    _design, _report, survey, _search = small
    for propeller in survey.propellers:
        free = survey._chain(propeller, law_of(propeller), 1.0, 0.0)
        exact = full_draw(free, survey.airframe.air_density, near=1e-12)[1]
        assert np.array_equal(survey.row(propeller).esc, survey._choose(exact))
