"""Wishes said in any order give one brief, and `ridgeline layout` lays it out."""

import json
from itertools import permutations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.cli import main
from ridgeline.design.brief import Brief
from ridgeline.design.document import Design
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.constraints import start_brief
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.engine.sizing.matching import MEAN_POWER, first_power_train, usable_energy
from ridgeline.engine.sizing.purposes import PURPOSES
from ridgeline.engine.sizing.wishes import brief_of, given_back, with_own_wishes
from ridgeline.files.design_file import load
from ridgeline.library import shipped_shelf


@given(st.sampled_from(sorted(PURPOSES)), st.floats(0.06, 2.4), st.floats(0.5, 3.0))
def test_a_brief_is_its_purposes_start_under_what_is_typed(purpose, ceiling, span):
    typed = {"purpose": purpose, "ceiling": ceiling, "span_limit": span}
    brief = brief_of(typed)
    plain = start_brief(Brief(ceiling=ceiling, span_limit=span, purpose=purpose), purpose)
    assert brief == plain.model_copy(update={"typed": ("ceiling", "span_limit")})
    kept = brief_of(typed | {"wing_loading": 2.22, "thrust_ratio": 0.987, "static_margin": 0.123})
    assert (kept.wing_loading, kept.thrust_ratio, kept.static_margin) == (2.22, 0.987, 0.123)
    assert kept.aspect_ratio == brief.aspect_ratio


@given(st.permutations([("ceiling", 3.1), ("bank", 0.8), ("aspect_ratio", 7.5), ("purpose", "camera")]))
def test_wishes_edited_one_by_one_come_to_the_same_brief_in_any_order(wishes):
    design = Design()
    for name, value in wishes:
        edited = design.brief.model_copy(update={name: value})
        brief = start_brief(design.brief, value) if name == "purpose" else edited
        design = with_own_wishes(design.model_copy(update={"brief": brief}), [f"brief.{name}"])
    assert design.brief == brief_of(dict(wishes))
    assert given_back(design.brief) == start_brief(design.brief.model_copy(update={"typed": ()}), "camera")
    assert given_back(design.brief).aspect_ratio == 0.5 * sum(PURPOSES["camera"].aspect_ratio) != 7.5


def test_the_launch_follows_the_ceiling_until_it_is_chosen():
    def edited(design, **wishes):
        for name, value in wishes.items():
            brief = design.brief.model_copy(update={name: value})
            design = with_own_wishes(design.model_copy(update={"brief": brief}), [f"brief.{name}"])
        return design

    heavy = edited(Design(), ceiling=3.0)
    assert heavy.brief.launch == "wheels"
    assert edited(heavy, ceiling=0.8).brief == edited(Design(), ceiling=0.8).brief
    assert edited(Design(), launch="bungee", ceiling=3.0).brief.launch == "bungee"
    assert edited(heavy, launch="hand", bank=0.6).brief.launch == "hand"


def test_a_wish_of_a_design_with_an_airframe_is_kept_but_moves_no_other(whimbrel):
    lighter = whimbrel.model_copy(update={"brief": whimbrel.brief.model_copy(update={"ceiling": 0.5})})
    design = with_own_wishes(lighter, ["brief.ceiling", "parts[0].x", "brief.nothing", "name"])
    assert set(design.brief.typed) == {*whimbrel.brief.typed, "ceiling"}
    assert design.brief.model_copy(update={"typed": ()}) == lighter.brief.model_copy(update={"typed": ()})
    assert with_own_wishes(lighter, ["parts[0].x", "brief"]) is lighter


def test_a_typed_layout_the_purpose_cannot_have_gives_way():
    brief = brief_of({"purpose": "tailless", "layout": "conventional", "tail_volume_v": 0.03})
    assert brief.layout != "conventional" and brief.tail_volume_v == 0.03


@pytest.mark.parametrize("ceiling", [2.49, 2.51])
def test_what_is_too_heavy_to_throw_gets_wheels_unless_told_otherwise(ceiling):
    brief = brief_of({"ceiling": ceiling, "span_limit": 3.0})
    assert brief.launch == ("wheels" if ceiling > 2.5 else "hand")
    assert brief_of({"ceiling": ceiling, "launch": "bungee"}).launch == "bungee"


def test_the_command_gives_the_same_airframe_in_whichever_order_it_is_wished(capsys):
    wishes = ["brief.purpose=camera", "brief.ceiling=700 g", "brief.payload=50 g"]
    told = []
    for order in permutations(wishes):
        assert main(["layout", "--json", *(word for wish in order for word in ("--set", wish))]) == 0
        told.append(capsys.readouterr().out)
    assert len(set(told)) == 1
    figures = json.loads(told[0])["figures"]
    assert figures["mass.ceiling"]["value"] == pytest.approx(0.7) and figures["wing.area"]["value"] > 0.05


def test_a_laid_out_design_is_written_and_opens_with_the_figures_that_were_printed(tmp_path, capsys):
    place = tmp_path / "stint"
    wishes = ["--set", "brief.purpose=glider", "--name", "Little Stint"]
    assert main(["layout", *wishes, "--json", "--out", str(place)]) == 0
    told = json.loads(capsys.readouterr().out)["figures"]
    design = load(place.with_suffix(".ridge"))
    assert design.name == "Little Stint" and design.brief.purpose == "glider"
    assert evaluate(design).value("mass.auw") == pytest.approx(told["mass.auw"]["value"], rel=1e-9)
    before = place.with_suffix(".ridge").read_bytes()
    assert main(["layout", *wishes, "--out", str(place)]) == 2
    assert place.with_suffix(".ridge").read_bytes() == before and "--overwrite" in capsys.readouterr().err
    assert main(["layout", *wishes, "--out", str(place), "--overwrite"]) == 0


@pytest.mark.parametrize(
    ("wish", "said"),
    [
        ("parts[0].x=1", "a wish of the brief"),
        ("brief.colour=red", "a wish of the brief"),
        ("brief.typed=ceiling", "a wish of the brief"),
        ("brief.ceiling=40 kg", "25 kg or less"),
        ("brief.purpose=boat", "trainer"),
        ("brief.ceiling", "PATH=VALUE"),
    ],
)
def test_what_is_no_wish_is_refused_in_one_line(wish, said, capsys):
    assert main(["layout", "--set", wish]) == 2
    told = capsys.readouterr()
    assert said in told.err and told.err.count("\n") == 1 and not told.out


def test_wishes_that_leave_no_airframe_are_refused_with_the_reason(capsys):
    assert main(["layout", "--set", "brief.tail_volume_h=0.01", "--set", "brief.purpose=sport"]) == 2
    assert capsys.readouterr().err.startswith("ridgeline: ")


@pytest.mark.parametrize(
    ("purpose", "ceiling", "method"),
    [
        ("trainer", 0.8, "foam_board"),
        ("sport", 0.8, "extruded_foam"),
        ("camera", 3.0, "foam_board"),
        ("glider", 0.8, "printed_foaming"),
        ("speed", 0.8, "foam_board"),
    ],
)
def test_a_first_layout_lasts_as_wished_and_is_no_handful(purpose, ceiling, method):
    brief = brief_of({"purpose": purpose, "ceiling": ceiling, "build_method": method, "span_limit": 2.0})
    report = evaluate(lay_out(brief, shipped_shelf()))
    told = {finding.key for finding in report.findings}
    assert not told & {"control.roll_high", "control.elevator_touchy", "mass.over_ceiling"}
    assert report.value("flight.endurance") >= 0.97 * brief.endurance


def test_a_draft_that_draws_much_asks_for_more_pack():
    brief = brief_of({"purpose": "sport", "ceiling": 0.8})
    shelf, air = shipped_shelf(), 1.225
    lean, thirsty = (
        first_power_train(brief, shelf, 0.55, air, 1.2, mean_power=watts).pack for watts in (MEAN_POWER, 90.0)
    )
    lean_need, thirsty_need = (0.55 * watts * brief.endurance for watts in (MEAN_POWER, 90.0))
    assert lean_need <= usable_energy(lean) < thirsty_need <= usable_energy(thirsty)
    fed = first_power_train(brief, shelf, 0.55, air, 1.2, receiver=4.6)
    assert fed.esc.bec_current == 0 or fed.esc.bec_current >= 4.6
