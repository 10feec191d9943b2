import math
from dataclasses import FrozenInstanceError
from typing import get_args, get_type_hints

import pytest
from hypothesis import given, settings

from ridgeline.design.document import Design
from ridgeline.design.paths import apply, put
from ridgeline.engine.advice import rules
from ridgeline.engine.aero.lattice import Solver
from ridgeline.engine.figures import BAND, Put, derive
from ridgeline.engine.kept import kept
from ridgeline.engine.pipeline import STAGES, Evaluator, evaluate
from ridgeline.engine.register import FAMILIES, REGISTER, TITLE_BLOCK, entry_of
from ridgeline.engine.results import Results
from ridgeline.engine.results import given as made_sure
from ridgeline.errors import DesignError
from ridgeline.files.report_file import as_data
from strategies import designs


@settings(max_examples=60)
@given(designs())
def test_any_design_gives_finite_figures_or_the_reason_why_not(design):
    report = evaluate(design)
    for figure in report.figures.values():
        if figure.value is None:
            assert len(figure.why_not) > 8
        else:
            assert math.isfinite(figure.value) and math.isfinite(figure.sigma) and figure.sigma >= 0
            assert figure.low <= figure.value <= figure.high
            assert figure.working is not None and figure.working.source
    for finding in report.findings:
        words = f"{finding.text} {finding.reason}"
        assert "nan" not in words.lower() and "inf " not in words.lower() and "{" not in words


@settings(max_examples=24)
@given(designs())
def test_every_remedy_of_any_design_can_be_applied_and_does_not_break_it(design):
    trial = Evaluator()
    for finding in trial(design).findings:
        for remedy in finding.remedies:
            assert trial(apply(design, remedy.changes)).figures


def test_the_register_and_the_demos_figures_are_the_same_set(whimbrel):
    found = {key for key in evaluate(whimbrel).figures if not key.startswith(tuple(family.stem for family in FAMILIES))}
    assert found == set(REGISTER)
    assert set(evaluate(Design()).figures) == set(REGISTER)


def test_a_family_of_figures_is_registered_once():
    assert entry_of("mass.group.battery").label == "Battery mass" and entry_of("mass.auw") is REGISTER["mass.auw"]
    assert entry_of("structure.joint_share.f3").quantity == "fraction"
    with pytest.raises(KeyError):
        entry_of("mass.grouped")


def test_title_block_figures_are_all_there_in_the_demo(whimbrel):
    report = evaluate(whimbrel)
    assert all(report.value(key) is not None for key in TITLE_BLOCK)


def test_the_demo_comes_out_as_a_hand_calculation_does(whimbrel):
    report = evaluate(whimbrel)
    listed = {p: p.count * (p.weighed if p.weighed is not None else p.estimate) for p in whimbrel.parts}
    # A fifth more of the board, glue and leads that no scale has seen yet.
    grown = {
        p: m * (1.2 if p.weighed is None and (p.group in ("airframe", "adhesive") or p.basis == "adhesive") else 1.0)
        for p, m in listed.items()
    }
    mass, moment = sum(grown.values()), sum(m * p.x for p, m in grown.items())
    assert report.value("mass.listed") == pytest.approx(sum(listed.values()))
    assert report.value("mass.reserve") == pytest.approx(mass - sum(listed.values())) and mass > 1.02 * 0.742
    assert report.value("mass.auw") == pytest.approx(mass)
    assert report.value("balance.cg_x") == pytest.approx(moment / mass)
    assert report.value("wing.area") == pytest.approx(0.25594)
    fraction = (moment / mass - report.value("wing.mac_x_le")) / report.value("wing.mac")
    assert report.value("balance.cg_fraction") == pytest.approx(fraction)
    margin = report.value("stability.neutral_in_flight") - fraction
    assert report.value("stability.static_margin") == pytest.approx(margin)
    assert report.value("stability.cm_alpha") == pytest.approx(-report.value("stability.cl_alpha") * margin)
    thrust = report.value("power.static_thrust")
    assert report.value("power.thrust_ratio") == pytest.approx(thrust / (mass * 9.80665))


def test_groups_sum_to_the_weight_as_listed(whimbrel):
    report = evaluate(whimbrel)
    groups = [f.value for key, f in report.figures.items() if key.startswith("mass.group.")]
    assert sum(groups) == pytest.approx(report.value("mass.listed"))


def runs_after(whimbrel, path, value):
    evaluator = Evaluator()
    evaluator(whimbrel)
    evaluator.runs.clear()
    evaluator(put(whimbrel, path, value))
    return set(evaluator.runs)


def test_an_edit_redoes_only_what_depends_on_it(whimbrel):
    everything = {stage.name for stage in STAGES}
    assert runs_after(whimbrel, "name", "Other") == set()
    assert "shape" not in runs_after(whimbrel, "parts[0].x", 0.2)
    assert "stability" not in runs_after(whimbrel, "parts[0].x", 0.2)
    typed = whimbrel.model_copy(
        update={
            "parts": tuple(
                p.model_copy(update={"build": None, "on": None, "estimate": p.estimate or 0.1}) for p in whimbrel.parts
            )
        }
    )
    assert "standing" not in runs_after(typed, "surfaces[0].stations[2].chord", 0.15)
    assert "masses" not in runs_after(typed, "surfaces[0].stations[2].chord", 0.15)
    # Items that follow the shape are weighed anew with it; the lattice is left alone by what only weighs.
    assert "masses" in runs_after(whimbrel, "surfaces[0].stations[2].chord", 0.15)
    assert "lattice" not in runs_after(whimbrel, "parts[1].build.areal", 0.25)
    assert runs_after(whimbrel, "power.propeller.diameter", 0.22) < everything


def test_reused_stages_give_the_same_report_as_fresh_ones(whimbrel):
    evaluator = Evaluator()
    evaluator(whimbrel)
    edited = put(put(whimbrel, "parts[0].x", 0.2), "surfaces[0].stations[2].chord", 0.16)
    assert as_data(evaluator(edited)) == as_data(evaluate(edited))


def test_the_hand_formula_is_refused_for_a_second_wing_and_the_lattice_takes_over(whimbrel):
    wing = whimbrel.surfaces[0]
    both = whimbrel.model_copy(update={"surfaces": (*whimbrel.surfaces, wing.model_copy(update={"z": 0.25}))})
    report = evaluate(both)
    assert report.value("stability.neutral_point_hand") is None
    assert "several wings" in report.figures["stability.neutral_point_hand"].why_not
    assert report.value("stability.static_margin") is not None


def test_lattice_and_hand_check_agree_on_the_demo(whimbrel):
    report = evaluate(whimbrel)
    gap = report.value("stability.neutral_point_hand") - report.value("stability.neutral_point_fraction")
    assert abs(gap) < 0.03
    assert any(f.key == "balance.hand_check" and f.level == "settled" for f in report.findings)


def test_surfaces_that_lie_in_one_another_give_no_neutral_point_and_say_why(whimbrel):
    twice = whimbrel.model_copy(update={"surfaces": (*whimbrel.surfaces, whimbrel.surfaces[0])})
    report = evaluate(twice)
    if report.value("stability.static_margin") is None:
        assert "cross" in report.figures["stability.neutral_point_x"].why_not
        assert any(finding.key == "balance.unknown" for finding in report.findings)
    assert report.value("balance.cg_fraction") is not None


def test_an_edit_that_leaves_the_shape_alone_never_solves_the_lattice_again(whimbrel):
    evaluator = Evaluator()
    evaluator(whimbrel)
    before = Solver.solves
    design = whimbrel
    for k in range(5):
        design = put(put(design, "parts[0].x", 0.15 + 0.01 * k), "power.propeller.pitch", 0.14 + 0.005 * k)
        design = put(put(design, "brief.ceiling", 0.8 + 0.01 * k), "bodies[0].rounding", 0.1 * k)
        evaluator(design)
    assert Solver.solves == before
    evaluator(put(design, "surfaces[0].stations[2].chord", 0.15))
    assert Solver.solves == before + 1


def test_derive_carries_errors_and_writes_its_working():
    rows = {"m": Put(2.0, "mass", "mass", 0.1), "S": Put(-4.0, "area", "area", 0.2)}
    figure = derive("wing.loading", "{m}/{S}", lambda m, S: m / S, rows, source="test", model_sigma=0.01)
    assert figure.value == -0.5
    assert figure.sigma == pytest.approx(math.sqrt((0.1 / 4) ** 2 + (2 * 0.2 / 16) ** 2 + 0.01**2), rel=1e-2)
    assert figure.low == pytest.approx(-0.5 - BAND * figure.sigma)
    assert figure.working.formula == "m/S"
    assert figure.working.substituted == "2.000/(−4.000)"
    shares = [term.share for term in figure.working.terms] + [figure.working.model_share]
    assert sum(shares) == pytest.approx(1.0)


def test_a_formula_without_a_finite_result_gives_no_figure():
    row = {"m": Put(1.0, "mass", "mass")}
    assert derive("wing.loading", "{m}", lambda m: math.inf, row, source="test").value is None


def test_workings_can_be_redone_with_a_pocket_calculator(whimbrel):
    """Evaluate the substituted formulas that are plain arithmetic, as a builder would key them in."""
    report = evaluate(whimbrel)
    done = 0
    for figure in report.figures.values():
        text = figure.working.substituted if figure.working else ""
        for old, new in (
            ("·", "*"),
            ("−", "-"),
            ("×", "*"),
            ("^", "**"),
            ("²", "**2"),
            ("⁴", "**4"),
            ("¼", "0.25"),
            ("⅔", "(2/3)"),
        ):
            text = text.replace(old, new)
        if not text or not set(text) <= set("0123456789.+-*/() "):
            continue
        # A name before a bracket means a product on paper.
        assert eval(text) == pytest.approx(figure.value, rel=5e-3, abs=2e-4), figure.key
        done += 1
    assert done >= 18


def test_a_bad_edit_never_reaches_the_engine(whimbrel):
    for path, value in (("surfaces[0].stations[0].chord", 0.0), ("power.pack.cells", 0), ("parts[0].x", math.nan)):
        with pytest.raises(DesignError):
            put(whimbrel, path, value)


def test_results_are_kept_by_identity_and_the_oldest_go_first():
    asked = []

    @kept(2)
    def size(part):
        asked.append(part)
        return len(part)

    one, alike, third = [1], [1], [1, 2, 3]
    assert (size(one), size(one), size(alike)) == (1, 1, 1) and len(asked) == 2
    assert size(third) == 3 and size(alike) == 1 and len(asked) == 3
    assert size(one) == 1 and len(asked) == 4


def test_findings_are_judged_when_asked_for_and_once(whimbrel, monkeypatch):
    judged = []
    monkeypatch.setattr(rules, "judge", lambda design, report: judged.append(design) or [])
    report = evaluate(whimbrel)
    assert report.value("mass.auw") is not None and not judged
    assert report.findings == report.findings == () and judged == [whimbrel]


@pytest.mark.parametrize("key", [*TITLE_BLOCK, "trim.elevator", "control.roll_rate", "modes.dutch_roll_damping"])
def test_one_figure_alone_is_the_whole_evaluations_and_runs_only_what_it_hangs_on(whimbrel, key):
    trial = Evaluator()
    trial(whimbrel)
    for path, value in (("surfaces[0].stations[2].chord", 0.15), ("parts[0].x", 0.17), ("power.propeller.pitch", 0.15)):
        before = trial.runs.copy()
        edited = put(whimbrel, path, value)
        assert trial.value(edited, key) == evaluate(edited).value(key)
        run = trial.runs - before
        if key == "mass.auw":
            assert not set(run) - {"followed", "seats", "extents", "masses"}
        if key.startswith(("speed", "wing", "mass", "balance", "stability")):
            assert not set(run) & {"flight", "handling", "motions", "supplying"}


def test_one_figure_of_an_unknown_key_is_none(whimbrel):
    assert Evaluator().value(whimbrel, "no.such.figure") is None
    assert Evaluator().value(whimbrel, "mass.auw") == evaluate(whimbrel).value("mass.auw")


def test_every_stage_hands_on_what_the_results_say_it_does(whimbrel):
    handed_on = get_type_hints(Results)
    for stage in STAGES:
        (given_back,) = get_args(get_type_hints(stage.function)["return"])
        assert handed_on.pop(stage.name, type(None)) == given_back, stage.name
    assert not handed_on
    with pytest.raises(FrozenInstanceError):
        evaluate(whimbrel).results.balance = None


def test_what_was_not_made_sure_of_is_said_to_be_a_mistake():
    with pytest.raises(LookupError):
        made_sure(None)
    assert made_sure(0.0) == 0.0
