"""Identity: what a part is called changes nothing; what refers to it does so by an id that stays."""

import json
import math
from pathlib import Path

import pytest

from ridgeline.design import configurations as sets
from ridgeline.design.brief import Brief
from ridgeline.design.document import Aside, Design, from_plain
from ridgeline.design.kinds import KIND_OF, KINDS, duplicate, everywhere, idents_of, listed, references
from ridgeline.design.paths import REMOVE, put
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.constraints import start_brief
from ridgeline.engine.sizing.layout import lay_out
from ridgeline.errors import DesignError
from ridgeline.files.design_file import from_text, load, to_text
from ridgeline.library import demo_names, shipped_shelf

VERSION_2 = sorted((Path(__file__).parent / "formats" / "v2").glob("*.ridge"))


def renamed(design):
    """Return a design in which every name is another."""
    data = json.loads(to_text(design))
    count = 0
    waiting = [data]
    while waiting:
        node = waiting.pop()
        if isinstance(node, dict):
            if "name" in node and node is not data:
                count += 1
                node["name"] = f"Thing {count}"
            waiting += list(node.values())
        elif isinstance(node, list):
            waiting += node
    assert count > 10
    return from_plain(data)


def told(design):
    """Return all that is computed and judged, without words."""
    report = evaluate(design)
    figures = {key: (figure.value, figure.sigma) for key, figure in report.figures.items()}
    return figures, [(f.key, f.level, [(r.key, len(r.changes)) for r in f.remedies]) for f in report.findings]


@pytest.mark.parametrize("name", demo_names())
def test_other_names_change_no_figure_finding_or_remedy(name):
    design = load(f"demo:{name}")
    assert told(renamed(design)) == told(design)


def test_other_names_change_nothing_of_a_laid_out_design_and_its_sets():
    design = lay_out(start_brief(Brief(ceiling=0.9), "sport"), shipped_shelf())
    two = sets.own_version(sets.add(design, "Long"), "surfaces[0]")
    assert told(renamed(two)) == told(two)
    there = [told(sets.fit(one, sets.idents(one)[0])) for one in (two, renamed(two))]
    assert there[0] == there[1]


def test_starting_values_of_version_2_count_as_the_builders_own():
    brief = load(VERSION_2[0]).brief
    assert {"wing_loading", "static_margin", "cruise_ratio", "launch"} <= set(brief.typed)
    assert start_brief(brief, "speed").wing_loading == brief.wing_loading


@pytest.mark.parametrize("place", VERSION_2, ids=lambda place: place.stem)
def test_designs_of_version_2_open_with_the_figures_they_had(place):
    old = load(place)
    assert old.format_version == 4
    # The samples as version 3 had them before surfaces and bodies said how they are built.
    first, then = (told(one) for one in (old, load(place.parents[1] / "v3" / place.name)))
    # Controls had no ids then, and are numbered when they are read.
    figures = [
        {key: value for key, value in one[0].items() if not key.startswith("controls.")} for one in (first, then)
    ]
    assert figures[0] == figures[1] and first[1] == then[1]


@pytest.mark.parametrize("name", demo_names())
def test_every_part_has_an_id_and_every_reference_finds_its_part(name):
    design = load(f"demo:{name}")
    flying = [i for kind in KINDS for part in listed(design, kind) for i in idents_of(part, kind)]
    assert all(flying) and len(set(flying)) == len(flying)
    known = {i for kind, part in everywhere(design) for i in idents_of(part, kind)}
    assert set(references(design)) <= known | set(sets.idents(design))


def test_an_id_stays_through_edits_files_and_sets(whimbrel):
    wing = whimbrel.surfaces[0].id
    moved = put(put(whimbrel, "surfaces[0].x", 0.3), "surfaces[0].name", "Other")
    assert moved.surfaces[0].id == wing and from_text(to_text(moved), "x").surfaces[0].id == wing
    for fitted in sets.idents(whimbrel):
        assert [s.id for s in sets.fit(whimbrel, fitted).surfaces if s.role == "wing"] == [wing]


def test_a_copy_is_another_part_and_so_is_what_it_holds(whimbrel):
    wing = whimbrel.surfaces[0]
    for copy in (wing, duplicate(wing, KIND_OF["surfaces"], name="Second")):
        two = put(whimbrel, "surfaces[-]", copy)
        fresh = two.surfaces[-1]
        mine = set(idents_of(fresh, KIND_OF["surfaces"]))
        assert mine.isdisjoint(i for s in two.surfaces[:-1] for i in idents_of(s, KIND_OF["surfaces"]))
        assert two.surfaces[0] is wing and len(mine) == 1 + len(wing.controls)
    # A number given away is not given again while something refers to it.
    gone = put(put(whimbrel, "parts[1].build.of", "s99"), "surfaces[1]", REMOVE)
    assert put(gone, "surfaces[-]", duplicate(wing, KIND_OF["surfaces"])).surfaces[-1].id not in ("s99", wing.id)
    lost = put(whimbrel, "parts[1].on.to", "s98")
    assert put(lost, "surfaces[-]", duplicate(wing, KIND_OF["surfaces"])).surfaces[-1].id == "s99"


def test_a_file_in_which_two_parts_share_an_id_is_refused_at_its_place(whimbrel):
    data = json.loads(to_text(whimbrel))
    data["parts"][3]["id"] = data["surfaces"][0]["controls"][0]["id"]
    with pytest.raises(DesignError, match="a second time") as caught:
        from_plain(data)
    assert caught.value.path.endswith("parts[3]")


def test_servos_are_what_says_so(whimbrel):
    load_now = evaluate(whimbrel).value("power.receiver_load")
    index = next(i for i, part in enumerate(whimbrel.parts) if part.servo is not None)
    none = put(whimbrel, f"parts[{index}].servo", None)
    assert evaluate(none).value("power.receiver_load") < load_now - 0.2
    strong = put(whimbrel, f"parts[{index}].servo.stall_current", 2.0)
    figure = evaluate(strong).figures["power.receiver_load"]
    assert figure.value > load_now + 0.5
    # By its mass a servo's current is known to 25 %, by its class to 13 % (90 %).
    for design, known in ((whimbrel, 0.15), (strong, 0.08)):
        found = evaluate(design).figures["power.receiver_load"]
        terms = {term.symbol: term for term in found.working.terms}
        assert terms["one"].sigma == pytest.approx(known * terms["one"].value)
        assert found.sigma == pytest.approx(known * math.hypot(terms["one"].value, terms["others"].value))
    # Splitting an item in halves is bookkeeping.
    part = whimbrel.parts[index]
    assert part.count == 2
    halves = put(put(whimbrel, f"parts[{index}].count", 1), "parts[-]", part.model_copy(update={"count": 1}))
    assert evaluate(halves).value("power.receiver_load") == pytest.approx(load_now)


def test_the_table_of_kinds_is_the_document():
    for kind in KINDS:
        assert kind.field in Design.model_fields and kind.field in Aside.model_fields
        for name in kind.lengths:
            model = kind.model
            for step in name.split("."):
                info = model.model_fields[step]
                inner = [a for a in getattr(info.annotation, "__args__", ()) if hasattr(a, "model_fields")]
                model = inner[0] if inner else model
            assert info.json_schema_extra["quantity"] == "length"
    holds_parts = {
        name for name, info in Design.model_fields.items() if "Sets" not in str(info) and name in Aside.model_fields
    }
    assert holds_parts == {kind.field for kind in KINDS}
