"""Ways out tried whole, what exchanged parts do to the weight, and the small figures of wind and chord."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.brief import Brief
from ridgeline.design.paths import Change, put
from ridgeline.engine.advice.gain import mass_gained, with_gain
from ridgeline.engine.advice.pack_bin import options
from ridgeline.engine.advice.trials import proved, settled_by
from ridgeline.engine.figures import Put, derive
from ridgeline.engine.geometry.reference import Reference
from ridgeline.engine.phrase import say
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power.exchange import exchange
from ridgeline.engine.report import Remedy
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.library import shipped_shelf
from ridgeline.units import SYSTEMS


def options_of(design, packs, **more):
    return options(design, evaluate(design), packs, **more)


def nose_mass(amount):
    return [Change("parts[-]", {"name": "Lead", "group": "ballast", "x": 0.05, "estimate": amount})]


def balance_over(wish):
    return lambda report: report.value("balance.cg_fraction") / wish


def test_a_first_guess_too_small_is_corrected_until_it_does_it(whimbrel):
    amount, changes = settled_by(whimbrel, evaluate(whimbrel), nose_mass, balance_over(0.30), 0.02, power=0.1)
    assert amount > 0.02
    assert evaluate(put(whimbrel, "parts[-]", changes[0].value)).value("balance.cg_fraction") <= 0.30 + 1e-9


def test_a_guess_that_does_it_is_left_as_it_is(whimbrel):
    assert settled_by(whimbrel, evaluate(whimbrel), nose_mass, balance_over(0.30), 0.2)[0] == 0.2


@pytest.mark.parametrize(
    ("edits", "excess"),
    [
        (lambda _amount: None, balance_over(0.30)),
        (lambda _amount: [Change("parts[0].x", 99.0)], balance_over(0.30)),
        (nose_mass, lambda _report: None),
        (lambda _amount: [Change("name", "no help")], balance_over(0.30)),
    ],
)
def test_where_no_amount_does_it_nothing_is_offered(whimbrel, edits, excess):
    assert settled_by(whimbrel, evaluate(whimbrel), edits, excess, 0.02) is None


def test_only_what_is_proved_is_kept_and_a_refused_edit_is_none(whimbrel):
    words = say("try")
    ways = [
        Remedy("helps", words, (Change("parts[0].x", 0.10),)),
        Remedy("hurts", words, (Change("parts[0].x", 0.23),)),
        Remedy("refused", words, (Change("parts[0].x", 99.0),)),
    ]
    kept = proved(whimbrel, evaluate(whimbrel), ways, lambda report: report.value("stability.static_margin"), 0.12)
    assert [remedy.key for remedy in kept] == ["helps"]


@pytest.mark.parametrize("link", ["motor", "esc", "pack", "propeller"])
@pytest.mark.parametrize("factor", [0.7, 1.6])
def test_the_gain_of_an_exchange_is_what_the_whole_evaluation_gains(whimbrel, link, factor):
    part = getattr(whimbrel.power, link)
    changes = exchange(whimbrel, link, part.model_copy(update={"mass": part.mass * factor, "name": "Other"}))
    before, gain = evaluate(whimbrel), mass_gained(whimbrel, evaluate(whimbrel), changes)
    after = whimbrel
    for change in changes:
        after = put(after, change.path, change.value)
    assert gain == pytest.approx(evaluate(after).value("mass.auw") - before.value("mass.auw"), abs=1e-12)
    assert ("more" if gain >= 0 else "less") in str(with_gain("Fit it", gain)) and "-" not in str(
        with_gain("Fit", gain)
    )


def test_edits_the_document_refuses_gain_nothing(whimbrel):
    assert mass_gained(whimbrel, evaluate(whimbrel), [Change("parts[0].count", 0)]) == 0.0


@given(st.floats(0.02, 1.0), st.floats(-1.0, 2.0), st.floats(-1.0, 2.0))
def test_a_place_on_the_mean_chord_goes_there_and_back(chord, lead, fraction):
    ref = Reference(0.3, 1.2, 4.8, chord, lead, 0.25, 0.0, lead, 1)
    assert ref.fraction(ref.at(fraction)) == pytest.approx(fraction, abs=1e-9)
    assert ref.at(0.0) == lead and ref.at(1.0) == pytest.approx(lead + chord)


@pytest.mark.parametrize("wind", [0.0, 3.0, 15.0])
def test_wind_adds_and_subtracts_and_a_third_of_cruise_is_the_first_flights_limit(whimbrel, wind):
    report = evaluate(put(whimbrel, "brief.head_wind", wind))
    cruise = report.value("speed.cruise")
    assert report.value("flight.ground_out") == pytest.approx(cruise - wind)
    assert report.value("flight.ground_home") == pytest.approx(cruise + wind)
    assert report.value("flight.wind_limit") == pytest.approx(cruise / 3)
    assert report.value("power.pitch_ratio") == pytest.approx(
        report.value("power.pitch_speed") / report.value("speed.stall")
    )


def test_a_formula_that_ends_on_one_side_takes_its_error_from_the_other():
    row = {"x": Put(1.0, "reach", "length", 0.1)}
    figure = derive("wing.span", "√(1.02 − {x})", lambda x: math.sqrt(1.02 - x), row, source="test")
    assert figure.sigma == pytest.approx(math.sqrt(0.12) - math.sqrt(0.02))


def test_a_canards_fins_have_the_volume_asked_for_and_stay_lower_than_half_its_span():
    design = lay_out(Brief(layout="canard"), shipped_shelf())
    report = evaluate(design)
    assert report.value("tail.volume_v") == pytest.approx(design.brief.tail_volume_v, rel=1e-6)
    fins = next(s for s in design.surfaces if s.role == "fin")
    assert fins.stations[-1].y < 0.25 * report.value("wing.span")


@pytest.mark.parametrize(
    ("path", "value", "verdict"),
    [
        ("brief.ceiling", 0.6, "over the ceiling by 156 g"),
        ("brief.endurance", 7200.0, "flies 29 min, 120 min wished"),
        ("power.esc.max_current", 12.0, "draws 11.8 A, 9.6 A is the most"),
        ("brief.endurance", 60.0, "balances and lasts"),
    ],
)
def test_the_bin_says_the_worst_of_each_pack(whimbrel, path, value, verdict):
    option = next(options_of(put(whimbrel, path, value), (whimbrel.power.pack,)))
    assert option.verdict.render(SYSTEMS["metric"]) == verdict
