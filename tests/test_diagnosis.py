"""What flights say: the inference on plain numbers, planted errors found, and what is taken into the design and out."""

from __future__ import annotations

import json
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import quad
from scipy.stats import multivariate_normal, norm

from planted import PLANTED, built, logged
from ridgeline.design.as_built import Levelled
from ridgeline.design.document import Design
from ridgeline.design.flights import Flight, SpeedPass
from ridgeline.design.keeping import flown, keep
from ridgeline.design.paths import apply, get, put
from ridgeline.engine.advice.flight_causes import (
    MEASURED_WORDS,
    TEST_WORDS,
    UNKNOWN_WORDS,
    contradiction_words,
    cure_edits,
    residual_words,
    told_causes,
)
from ridgeline.engine.advice.flown_in import TAKEN_IN, back_out, can_be_taken, is_taken, taken
from ridgeline.engine.bands import BAND
from ridgeline.engine.flight.diagnosis import (
    CAUSES,
    LEAST_EVIDENCE,
    TESTS,
    as_flown,
    diagnosed,
    explained,
    told_apart,
)
from ridgeline.engine.flight.inference import LEAST, RANGE, SLIPPED, Sighted, alike, infer, odd, ranked, told_by, worth
from ridgeline.engine.flight.learnt_pairs import learnt_pairs
from ridgeline.engine.flight.measurements import TESTABLE
from ridgeline.engine.flight.observed import UNKNOWNS, modelled, observables
from ridgeline.engine.flight.seen import ABOUT, OPPOSED
from ridgeline.engine.flight.sightings import SIGHTINGS, WELL
from ridgeline.engine.geometry.placed import placed_at
from ridgeline.engine.pipeline import Evaluator, evaluate
from ridgeline.files.design_file import from_text, load, to_text
from ridgeline.start import main

# -- on plain numbers -------------------------------------------------------------------------------------------------


def case(seed, m=4, n=3):
    rng = np.random.default_rng(seed)
    return rng.normal(size=(m, n)), np.diag(rng.uniform(0.1, 2, m)), np.diag(rng.uniform(0.1, 3, n)), rng.normal(size=m)


@given(st.integers(0, 10_000))
def test_the_posterior_is_that_of_the_normal_equations(seed):
    h, r_n, p, r = case(seed)
    found = infer(h, r_n, p, r)
    information = np.linalg.inv(p) + h.T @ np.linalg.inv(r_n) @ h
    assert found.covariance == pytest.approx(np.linalg.inv(information), rel=1e-8, abs=1e-12)
    assert found.mean == pytest.approx(np.linalg.solve(information, h.T @ np.linalg.solve(r_n, r)), rel=1e-8, abs=1e-12)
    assert np.all(np.diag(found.covariance) <= np.diag(p) + 1e-12)


@given(st.integers(0, 10_000))
def test_the_evidence_is_the_ratio_of_chances_with_the_cause_slipped(seed):
    h, r_n, p, r = case(seed)
    found = infer(h, r_n, p, r)
    plain = multivariate_normal.logpdf(r, np.zeros(4), h @ p @ h.T + r_n)
    for k in range(3):
        wide = p.copy()
        wide[k, k] *= 1 + SLIPPED
        assert SLIPPED == 8.0
        slipped = multivariate_normal.logpdf(r, np.zeros(4), h @ wide @ h.T + r_n)
        assert found.evidence[k] == pytest.approx(slipped - plain, rel=1e-7, abs=1e-9)
        other = infer(h, r_n, wide, r)
        assert found.slip[k] == pytest.approx(other.mean[k], rel=1e-8, abs=1e-10)
        assert found.slip_sigma[k] == pytest.approx(math.sqrt(other.covariance[k, k]), rel=1e-8)


def test_one_measurement_of_one_thing_is_shared_by_the_variances():
    found = infer(np.array([[2.0]]), np.array([[1.0]]), np.array([[4.0]]), np.array([3.0]))
    # z = h r/S, w = h²/S with S = 4·4 + 1.
    assert found.mean[0] == pytest.approx(4 * 2 * 3 / 17) and found.covariance[0, 0] == pytest.approx(4 / 17)
    z, w, k = 6 / 17, 4 / 17, 32.0
    told = 0.5 * z * z * k / (1 + k * w) - 0.5 * math.log(1 + k * w)
    assert found.evidence[0] == pytest.approx(told)


def test_shapes_that_do_not_go_together_are_refused():
    with pytest.raises(ValueError, match="slopes"):
        infer(np.ones((2, 3)), np.eye(2), np.eye(2), np.ones(2))
    with pytest.raises(ValueError, match="inverted"):
        infer(np.zeros((1, 1)), np.zeros((1, 1)), np.eye(1), np.ones(1))


@given(st.floats(-3, 3), st.floats(0.05, 4), st.floats(-2, 2), st.floats(0.1, 2), st.booleans())
@settings(max_examples=40)
def test_a_sighting_stands_for_the_moments_of_its_likelihood(value, variance, threshold, sigma, under):
    sighting = Sighted(np.array([1.0]), value, sigma, None if under else threshold, threshold if under else None)
    told = told_by(sighting, value, variance)
    spread = math.sqrt(variance)

    def weight(g):
        sense = -1 if under else 1
        return (LEAST + RANGE * norm.cdf(sense * (g - threshold) / sigma)) * norm.pdf(g, value, spread)

    ends = value - 9 * spread, value + 9 * spread
    whole = quad(weight, *ends, limit=200)[0]
    assert math.exp(told.chance) == pytest.approx(whole, rel=1e-5)
    if told.noise is not None and told.noise > 1e-6 * variance:
        mean = quad(lambda g: g * weight(g), *ends, limit=200)[0] / whole
        gain = variance / (variance + told.noise)
        assert value + gain * told.residual == pytest.approx(mean, rel=1e-4, abs=1e-5)


def test_a_sighting_both_ways_leaves_the_mean_and_makes_a_slip_likelier():
    either = Sighted(np.array([1.0, 0.0]), 0.0, 0.2, over=1.0, under=-1.0)
    nothing = np.zeros((0, 2)), np.zeros((0, 0))
    found = ranked(*nothing, np.diag([0.1, 0.1]), np.zeros(0), [either])
    assert found.posterior.mean == pytest.approx([0.0, 0.0]) and found.evidence[0] > 0.5
    assert found.evidence[1] == pytest.approx(0.0)
    assert found.chances[0] > 0.6 and found.chances[1] == 0.0
    assert found.chances.sum() + found.nothing == pytest.approx(1.0)


@given(st.integers(0, 2000))
@settings(max_examples=25)
def test_without_sightings_the_ranking_is_that_of_the_measurements(seed):
    h, r_n, p, r = case(seed)
    found = ranked(h, r_n, p, r)
    assert found.evidence == pytest.approx(infer(h, r_n, p, r).evidence, rel=1e-6, abs=1e-8)
    helps = found.evidence > 0
    assert np.all((found.chances > 0) == helps)
    assert found.chances.sum() + found.nothing == pytest.approx(1.0)


def test_a_test_is_worth_what_it_would_narrow():
    assert worth(np.array([1.0, 0.0]), 1.0, np.diag([3.0, 9.0])) == pytest.approx(0.5 * math.log(4))
    assert worth(np.array([0.0, 0.0]), 1.0, np.eye(2)) == 0.0


def test_a_measurement_that_does_not_go_with_the_others_is_odd():
    h, noise, prior = np.ones((3, 1)), 0.01 * np.eye(3), np.eye(1)
    off = odd(h, noise, prior, np.array([0.1, 0.12, 2.0]))
    assert abs(off[2]) > 6 and abs(off[2]) > 1.5 * abs(off[0])
    assert np.abs(odd(h, noise, prior, np.array([0.1, 0.12, 0.05]))).max() < 2


def test_causes_look_alike_by_the_cosine_of_what_they_do():
    h = np.array([[1.0, 2.0, 0.0], [0.0, 0.0, 1.0]])
    found = alike(h, np.eye(2), np.eye(3))
    assert found[0, 1] == pytest.approx(1.0) and found[0, 2] == pytest.approx(0.0)


# -- of a design ------------------------------------------------------------------------------------------------------


@pytest.fixture(scope="module")
def model():
    design = load("demo:whimbrel")
    evaluator = Evaluator()
    report = evaluator(design)
    return design, evaluator, report, modelled(design, report)


def test_every_sighting_is_about_something_the_model_has(model):
    _design, _evaluator, _report, found = model
    assert set(ABOUT) | set(WELL) == set(SIGHTINGS)
    has = {one.of for one in ABOUT.values()} - {"trim_flap"}
    assert has <= set(found.values)
    assert all(one in SIGHTINGS and other in SIGHTINGS for one, other in OPPOSED)
    assert set(UNKNOWN_WORDS) == set(UNKNOWNS) and set(TEST_WORDS) == set(TESTABLE)


def test_the_models_trims_and_speed_are_the_figures(model):
    _design, _evaluator, report, found = model
    assert found.values["trim_pitch"] == pytest.approx(-report.value("trim.elevator"), abs=math.radians(0.15))
    assert math.exp(found.values["top_speed"]) == pytest.approx(report.value("speed.max"), rel=0.08)
    assert math.exp(found.values["glide_ratio"]) == pytest.approx(report.value("glide.ratio"), rel=0.01)
    assert found.values["throttle"] == pytest.approx(report.value("flight.cruise_throttle"), abs=0.06)


def test_slopes_have_the_signs_of_the_field(model):
    _design, _evaluator, _report, found = model

    def slope(of, name):
        return float(found.slopes[of][UNKNOWNS.index(name)])

    # Nose heavy, or a tail set nose up, wants up trim; washout's tips let the nose up… the other way.
    assert slope("trim_pitch", "balance") < 0 < slope("trim_pitch", "tail")
    assert slope("margin", "balance") == pytest.approx(-1 / found.launch.craft.chord, rel=1e-6)
    assert slope("top_speed", "thrust") > 0 > slope("top_speed", "drag")
    assert slope("mean_current", "drag") > 0 > slope("mean_current", "thrust")
    assert slope("roll_seconds", "throws") == pytest.approx(-1.0, abs=1e-6)
    assert slope("rpm", "turns") == pytest.approx(1.0, abs=1e-6) and slope("rpm", "resistance") < 0
    assert slope("glide_ratio", "drag") < 0 and slope("endurance", "capacity") == pytest.approx(1.0, abs=1e-6)
    # Port tip nose up rolls it to starboard: aileron to port.
    assert slope("trim_roll", "warp") > 0


@pytest.mark.parametrize("seed", range(3))
@pytest.mark.parametrize("name", [*PLANTED[:1], "thrust", "mass", "drag"])
def test_an_error_that_was_planted_is_named_first_where_it_can_be_seen(model, name, seed):
    design, evaluator, report, found = model
    rng = np.random.default_rng([seed, PLANTED.index(name)])
    off = built(found, name, rng)
    told = design.model_copy(update={"flights": (logged(design, report, found, off, rng),)})
    said = diagnosed(told, evaluator(told), found)
    cause = next((one for one in said.causes if one.name == name), None)
    cosines, _shows = told_apart(found, said.measured)
    k = UNKNOWNS.index(name)
    alone = np.delete(np.abs(cosines[k]), k).max() < 0.9
    if cause is not None and cause.evidence > 1.5 and alone:
        assert said.causes[0].name == name
        true = float(off[name][0])
        assert abs(cause.slip - true) < 3 * cause.slip_sigma and cause.slip * true > 0


def test_bands_of_what_is_learnt_cover_what_is_so(model):
    design, evaluator, report, found = model
    covered = []
    for seed in range(24):
        rng = np.random.default_rng(seed + 500)
        off = built(found, None, rng)
        told = design.model_copy(update={"flights": (logged(design, report, found, off, rng),)})
        said = diagnosed(told, evaluator(told), found)
        covered += [
            abs(said.learnt[one][0] - float(off[one][0])) <= BAND * said.learnt[one][1]
            for one in UNKNOWNS
            if said.learnt[one][1] < 0.98 * said.before[one]
        ]
    assert len(covered) > 150 and 0.84 < np.mean(covered) < 0.97


def test_a_measured_balance_rules_the_trims_explanation(model):
    design, evaluator, report, found = model
    cg, trim = float(report.results.masses.state.cg[0]), -report.value("trim.elevator")
    slope = float(found.slopes["trim_pitch"][UNKNOWNS.index("balance")])
    flight = Flight(id="f1", balance=cg - 0.012, trim_pitch=trim - 0.012 * slope, mass=report.value("mass.auw"))
    told = design.model_copy(update={"flights": (flight,)})
    said = diagnosed(told, evaluator(told), found)
    assert said.causes[0].name == "balance"
    assert said.causes[0].slip == pytest.approx(-0.012, abs=0.002)
    first = told_causes(told, evaluator(told), said)[0]
    assert str(first.words) == "Balance 12 mm forward of reckoned" and "slide pack" in str(first.cure)
    assert {effect.words for effect in first.effects} & {"up trim", "static margin"}
    made = {row.of: row for row in explained(said)}
    assert made["balance"].parts[0][0] == "balance"
    # It is carried as flown, and put right as far as the pack's rail goes; with room on it, all the way.
    index = next(k for k, part in enumerate(told.parts) if part.group == "battery")
    roomy = put(told, f"parts[{index}].rail.back", told.parts[index].x + 0.3)
    for design, left in ((told, 0.0079), (roomy, 0.0)):
        changes = cure_edits(design, evaluator(design), said.causes[0])
        cured = evaluate(apply(design, changes))
        assert float(cured.results.masses.state.cg[0]) == pytest.approx(cg - left, abs=1.5e-3)
    assert "its end" in str(first.cure)


def test_sightings_alone_name_what_they_are_of(model):
    design, evaluator, _report, found = model

    def first(*seen):
        told = design.model_copy(update={"flights": (Flight(id="f1", seen=seen),)})
        return [one.name for one in diagnosed(told, evaluator(told), found).causes]

    assert first("drops_wing")[0] == "warp" and first("vibrates")[0] == "imbalance"
    assert first("brown_out")[0] in ("supply", "resistance") and first("short_flight")
    assert first("no_turn")[0] == "throws" and first("tucks", "touchy")[0] in ("balance", "neutral", "play")
    assert set(first("up_trim")) >= {"tail", "wing", "balance"}
    assert first("hot_motor")[0] in ("cooling", "turns") and first("flutters")[0] == "play"
    assert first("steady") == []


def test_what_does_not_go_together_is_told(model):
    design, evaluator, report, found = model
    both = design.model_copy(update={"flights": (Flight(id="f1", seen=("up_trim", "down_trim")),)})
    said = diagnosed(both, evaluator(both), found)
    assert [(one.one, one.other) for one in said.contradictions] == [("up_trim", "down_trim")]
    assert "cannot both be" in str(contradiction_words(said.contradictions[0]))
    trim = -report.value("trim.elevator")
    off = Flight(id="f1", seen=("up_trim",), trim_pitch=trim - math.radians(3.0))
    against = design.model_copy(update={"flights": (off,)})
    said = diagnosed(against, evaluator(against), found)
    assert ("up_trim", "") in [(one.one, one.other) for one in said.contradictions]
    agreed = design.model_copy(update={"flights": (Flight(id="f1", seen=("up_trim",), trim_pitch=trim + 0.03),)})
    assert diagnosed(agreed, evaluator(agreed), found).contradictions == ()


def test_what_is_off_is_told_in_the_builders_units():
    assert str(residual_words("balance", -0.0088)) == "−9 mm"
    assert str(residual_words("trim_pitch", math.radians(0.8))) == "+0.8°"
    assert str(residual_words("top_speed", math.log(0.9))) == "−10 %"


def test_next_tests_are_those_not_done_yet_and_at_most_three(model):
    design, evaluator, report, found = model
    plain = design.model_copy(update={"flights": (Flight(id="f1", trim_pitch=0.05),)})
    said = diagnosed(plain, evaluator(plain), found)
    assert len(said.tests) == TESTS and len(said.causes) <= CAUSES
    assert [one.worth for one in said.tests] == sorted((one.worth for one in said.tests), reverse=True)
    assert "supports" in {one.key for one in said.tests} | {"supports"} and all(
        one.key in TESTABLE for one in said.tests
    )
    cg = float(report.results.masses.state.cg[0])
    more = Flight(id="f1", trim_pitch=0.05, mass=0.76, balance=cg)
    done = design.model_copy(update={"flights": (more,)})
    after = diagnosed(done, evaluator(done), found)
    assert not {"weigh", "supports", "trim"} & {one.key for one in after.tests}
    assert all(one.evidence >= LEAST_EVIDENCE for one in said.causes)


def test_heights_on_the_bench_tell_the_tail_from_the_balance(model):
    design, evaluator, report, found = model
    rows = []
    for index, more in ((0, 0.0), (1, math.radians(2.0))):
        surface = design.surfaces[index]
        for out in (0.02, 0.5 * surface.stations[-1].y):
            here = placed_at(surface, np.array([surface.stations[0].y + out]))
            lead, trail = here.leading[0], here.trailing[0]
            chord = float(here.chord[0])
            for side in ("starboard", "port"):
                rows.append(Levelled(of=surface.id, side=side, out=out, leading=0.2 + float(lead[2]),
                                     trailing=0.2 + float(trail[2]) - chord * math.tan(more)))  # fmt: skip
    trim = -report.value("trim.elevator")
    slope = float(found.slopes["trim_pitch"][UNKNOWNS.index("tail")])
    flight = Flight(id="f1", trim_pitch=trim + math.radians(2.0) * slope)
    bench = design.as_built.model_copy(update={"levelled": tuple(rows)})
    told = design.model_copy(update={"flights": (flight,), "as_built": bench})
    said = diagnosed(told, evaluator(told), found)
    assert {one.of for one in said.measured} >= {"tail_level", "trim_pitch"}
    assert said.causes[0].name in ("tail", "wing")
    assert max(one.chance for one in said.causes if one.name in ("tail", "wing")) > 0.4
    assert not any(one.name == "balance" and one.chance > 0.1 for one in said.causes)


def test_what_the_flights_say_is_told_beside_what_was_reckoned(model):
    design, evaluator, report, found = model
    fast = (
        SpeedPass(speed=report.value("speed.max") * 0.85),
        SpeedPass(way="down", speed=report.value("speed.max") * 0.85),
    )
    told = design.model_copy(update={"flights": (Flight(id="f1", wind=0.0, mass=0.80, passes=fast),)})
    report = evaluator(told)
    pairs = {one.name: one for one in learnt_pairs(told, report, diagnosed(told, report, found))}
    assert set(pairs) == {"balance", "mass", "thrust", "drag", "trim"}
    assert (
        pairs["mass"].told == pytest.approx(0.80, abs=0.002) and pairs["mass"].sigma < 0.1 * pairs["mass"].sigma_before
    )
    assert pairs["thrust"].told < pairs["thrust"].reckoned and pairs["drag"].told > 1.0


# -- into the design, and out -----------------------------------------------------------------------------------------


@pytest.mark.parametrize("name", TAKEN_IN)
def test_what_flights_say_goes_in_by_one_press_and_out_by_another(whimbrel, name):
    report, slip = evaluate(whimbrel), {"balance": 0.008, "mass": 0.05}.get(name, 0.02)
    if not can_be_taken(whimbrel, name):
        assert name == "resistance"
        return
    into = apply(whimbrel, taken(whimbrel, report, name, slip, 0.3 * slip))
    assert is_taken(into, name) and not is_taken(whimbrel, name)
    assert from_text(to_text(into), "x.ridge") == into
    out = apply(into, back_out(into, name))
    assert out == whimbrel
    after = evaluate(into)
    if name == "balance":
        assert after.value("balance.cg_x") == pytest.approx(report.value("balance.cg_x") + slip)
        assert after.figures["balance.cg_x"].sigma == pytest.approx(0.3 * slip)
        terms = {term.symbol: term.value for term in after.figures["balance.cg_x"].working.terms}
        assert terms["flown"] == pytest.approx(slip)
    elif name == "mass":
        assert after.value("mass.auw") == pytest.approx(1.05 * report.value("mass.auw"))
        assert after.figures["mass.auw"].sigma == pytest.approx(0.015 * report.value("mass.auw"))
        assert after.results.masses.expected.sum() == pytest.approx(after.value("mass.auw"))
        assert after.value("speed.stall") > report.value("speed.stall")
    elif name == "thrust":
        assert after.value("power.static_thrust") == pytest.approx(math.exp(slip) * report.value("power.static_thrust"))
    elif name == "drag":
        assert after.value("speed.max") < report.value("speed.max")
    elif name == "tail":
        assert after.value("trim.elevator") < report.value("trim.elevator")


def test_what_was_edited_since_keeps_what_it_was_edited_to(whimbrel):
    report = evaluate(whimbrel)
    into = apply(whimbrel, taken(whimbrel, report, "tail", 0.02, 0.005))
    edited = put(into, "surfaces[1].incidence", 0.05)
    out = apply(edited, back_out(edited, "tail"))
    assert get(out, "surfaces[1].incidence") == 0.05 and out.learnt.taken == ()
    twice = apply(into, taken(into, evaluate(into), "tail", 0.01, 0.005))
    assert get(apply(twice, back_out(twice, "tail")), "surfaces[1].incidence") == whimbrel.surfaces[1].incidence


def test_what_flew_is_the_aircraft_of_that_version(whimbrel):
    design = keep(whimbrel, name="first", day="2026-05-01")
    design = flown(design, Flight(id="", trim_pitch=0.02), day="2026-05-02")
    assert as_flown(design) is design
    changed = put(design, "surfaces[0].stations[2].chord", 0.15)
    was = as_flown(changed)
    assert was.surfaces == whimbrel.surfaces and was.flights == changed.flights
    assert as_flown(whimbrel) is whimbrel


def test_the_balance_that_the_trim_tells_is_where_it_was_put(whimbrel, model):
    _design, _evaluator, report, found = model
    slope = float(found.slopes["trim_pitch"][UNKNOWNS.index("balance")])
    trim = -report.value("trim.elevator") - 0.006 * slope
    told = evaluate(whimbrel.model_copy(update={"flights": (Flight(id="f1", trim_pitch=trim),)}))
    figure = told.figures["log.cg_by_trim"]
    chord = found.launch.craft.chord
    assert figure.value == pytest.approx(report.value("balance.cg_fraction") - 0.006 / chord, abs=0.004)
    assert figure.sigma > 0.004
    assert report.figures["log.cg_by_trim"].value is None


def test_observables_of_nothing_off_are_the_reckoned(model):
    design, _evaluator, report, found = model
    again = observables(design, report, found.launch, {"balance": np.zeros(2)})
    for name, row in again.items():
        assert row == pytest.approx(np.full(2, found.values[name]), abs=1e-9), name


def test_nothing_flown_says_nothing(whimbrel, capsys):
    assert diagnosed(whimbrel, evaluate(whimbrel)) is None and modelled(Design(), evaluate(Design())) is None
    assert main(["diagnose", "demo:whimbrel", "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["causes"] == []


def test_diagnose_by_command_tells_causes_cures_and_tests(capsys):
    assert main(["diagnose", "demo:season", "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    first = told["causes"][0]
    assert first["name"] == "balance" and first["probability"] > 0.3 and "pack" in first["cure"] and first["changes"]
    assert told["version"] == 5 and len(told["tests"]) == TESTS and set(told["learnt"]) == set(UNKNOWNS)
    assert sum(one["probability"] for one in told["causes"]) + told["nothing"] <= 1.0 + 1e-6
    assert {one["of"] for one in told["measured"]} <= set(MEASURED_WORDS)
    assert main(["diagnose", "demo:season"]) == 0
    assert "next:" in capsys.readouterr().out


# -- constants held ---------------------------------------------------------------------------------------------------


def test_what_nobody_writes_down_is_known_as_well_as_is_told(model):
    _design, _evaluator, _report, found = model
    told = {"washout": math.radians(1.0), "down": math.radians(0.75), "side": math.radians(0.75), "capacity": 0.08,
            "resistance": 0.25, "throws": 0.12, "turns": 0.04, "play": math.radians(1.0),
            "tail": math.radians(0.75), "wing": math.radians(0.75)}  # fmt: skip
    sigmas = dict(zip(UNKNOWNS, found.sigmas, strict=True))
    for name, band in told.items():
        assert sigmas[name] == pytest.approx(band / BAND), name


def test_readings_err_as_much_as_is_told_and_half_of_it_each_time(model):
    design, evaluator, report, found = model
    one = Flight(id="f1", trim_pitch=0.02, trim_power=0.01, trim_roll=0.01, glide_ratio=7.0, rpm=9000.0,
                 roll_seconds=3.0, mass=0.76, balance=0.28)  # fmt: skip
    told = design.model_copy(update={"flights": (one,)})
    sigmas = {row.of: row.sigma for row in diagnosed(told, evaluator(told), found).measured}
    assert sigmas == pytest.approx({
        "trim_pitch": math.radians(0.3), "trim_power": math.radians(0.4), "trim_roll": math.radians(0.4),
        "glide_ratio": 0.12, "rpm": 0.02, "roll_seconds": 0.12, "mass": 0.001, "balance": 0.0015,
    })  # fmt: skip
    two = design.model_copy(update={"flights": (one, one.model_copy(update={"id": "f2"}))})
    again = {row.of: row.sigma for row in diagnosed(two, evaluator(two), found).measured}
    assert again["trim_pitch"] == pytest.approx(math.radians(0.3) * math.sqrt(0.75))
    assert report.figures["mass.auw"].value is not None


@pytest.mark.parametrize(
    ("seen", "name", "sign"),
    [
        ("tucks", "balance", 1), ("touchy", "balance", 1), ("hunts", "balance", 1), ("balloons", "balance", -1),
        ("up_trim", "tail", 1), ("down_trim", "tail", -1), ("slower", "thrust", -1), ("faster", "thrust", 1),
        ("needs_throttle", "drag", 1), ("no_turn", "throws", -1), ("rolls_fast", "throws", 1),
        ("hot_pack", "resistance", 1), ("short_flight", "capacity", -1), ("mushy", "throws", -1),
        ("tip_stalls", "washout", -1), ("tail_wag", "play", 1), ("throw_drops", "drag", 1), ("power_up", "balance", -1),
        ("flap_nothing", "throws", -1), ("brown_out", "supply", 1), ("vibrates", "imbalance", 1),
        ("throttle_steps", "thrust", 1),
    ],
)  # fmt: skip
def test_each_sighting_moves_what_it_is_about_the_way_it_should(model, seen, name, sign):
    design, evaluator, _report, found = model
    told = design.model_copy(update={"flights": (Flight(id="f1", seen=(seen,)),)})
    mean, _sigma = diagnosed(told, evaluator(told), found).learnt[name]
    assert sign * mean > 0


def test_measurements_that_cannot_all_be_are_told(model):
    design, evaluator, report, found = model
    current, top = report.value("flight.mean_current"), report.value("speed.max")
    passes = tuple(SpeedPass(way=way, speed=1.25 * top) for way in ("up", "down"))
    flight = Flight(id="f1", wind=0.0, aloft=600.0, put_back_ah=1.9 * current / 6, passes=passes, cells=3,
                    capacity_ah=design.power.capacity_ah)  # fmt: skip
    told = design.model_copy(update={"flights": (flight,)})
    said = diagnosed(told, evaluator(told), found)
    off = {one.one: one.sigmas for one in said.contradictions}
    assert {"mean_current", "top_speed"} & set(off) and all(3.0 < abs(one) < 30.0 for one in off.values())


def test_the_trim_is_read_to_a_third_of_a_degree(whimbrel):
    told = evaluate(whimbrel.model_copy(update={"flights": (Flight(id="f1", trim_pitch=0.02),)}))
    terms = {term.symbol: term for term in told.figures["log.cg_by_trim"].working.terms}
    assert terms["d"].sigma == pytest.approx(math.radians(0.3))
