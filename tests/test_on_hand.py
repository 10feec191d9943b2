"""Ways out name parts of the shelf or the bin; where none does it they say what it would take."""

import pytest

from ridgeline.design.paths import apply, put
from ridgeline.design.power import Pack, Propeller, SpeedController
from ridgeline.engine.advice.consequences import brings
from ridgeline.engine.advice.on_hand import (
    controller_of,
    larger_packs,
    larger_propellers,
    smaller_packs,
    smaller_propellers,
    steeper_propellers,
    stronger_pack,
)
from ridgeline.engine.pipeline import Evaluator
from ridgeline.engine.power.pack import continuous_current
from ridgeline.library import shipped_shelf
from ridgeline.units import SYSTEMS
from test_promises import check, troubled

SHELF = shipped_shelf()
NAMES = {part.name for kind in (SHELF.packs, SHELF.escs, SHELF.propellers, SHELF.motors) for part in kind}


def with_shelf(shelf=SHELF):
    return Evaluator(stock=lambda: shelf)


def words(phrase):
    return phrase.render(SYSTEMS["metric"])


def fitted(design, changes):
    """Return the parts of a train that edits fit anew, by their names."""
    after = apply(design, changes).power
    before = design.power
    if after is None or before is None:
        return {}
    links = ("pack", "esc", "propeller", "motor")
    return {link: getattr(after, link) for link in links if getattr(after, link).name != getattr(before, link).name}


@pytest.mark.parametrize("block", range(2))
def test_every_part_a_way_out_names_is_on_the_shelf_and_gives_what_it_says(block):
    named = 0
    for seed in range(16 * block + 4, 16 * block + 16):
        design, trial = troubled(seed), with_shelf()
        before = trial(design)
        for finding in before.findings:
            for remedy in finding.remedies:
                for part in fitted(design, remedy.changes).values():
                    assert part.name in NAMES, f"{finding.key}: {words(remedy.text)}"
                    named += 1
                check(before, finding, remedy, design, trial)
    assert named


@pytest.mark.parametrize("block", range(4))
def test_no_way_out_brings_a_stop_that_was_not_there(block):
    for seed in range(4 * block, 4 * block + 4):
        design, trial = troubled(seed), with_shelf()
        before = trial(design)
        for finding in before.findings:
            for remedy in finding.remedies:
                new = [f for f in brings(before, trial(apply(design, remedy.changes))) if f.level == "stop"]
                if remedy.key == "ballast":
                    # A last resort, told in grams: it may be what passes the ceiling.
                    new = [f for f in new if f.key != "mass.over_ceiling"]
                assert not new or finding.level == "stop", f"{words(remedy.text)} brings {words(new[0].text)}"


def starved(whimbrel):
    """The demo with a controller far too small for what it draws."""
    return put(whimbrel, "power.esc.max_current", 9.0)


def test_a_controller_of_the_shelf_is_offered_and_none_where_there_is_none(whimbrel):
    design = starved(whimbrel)
    found = next(f for f in with_shelf()(design).findings if f.key == "power.esc_current")
    (bigger,) = [r for r in found.remedies if r.key == "bigger_esc"]
    esc = fitted(design, bigger.changes)["esc"]
    assert esc in SHELF.escs and 0.8 * esc.max_current >= 11.8
    bare = SHELF._replace(escs=tuple(e for e in SHELF.escs if e.max_current < 12))
    found = next(f for f in with_shelf(bare)(design).findings if f.key == "power.esc_current")
    assert "bigger_esc" not in {r.key for r in found.remedies}
    assert words(found.reason).endswith("None on the shelf: about 15 A for each motor.")


def test_a_part_of_the_bin_goes_before_the_library(whimbrel):
    mine = SpeedController(name="Old faithful", max_current=18.0, mass=0.009, max_cells=4, bec_current=2.0)
    own = SHELF._replace(escs=(mine, *SHELF.escs))
    found = next(f for f in with_shelf(own)(starved(whimbrel)).findings if f.key == "power.esc_current")
    (bigger,) = [r for r in found.remedies if r.key == "bigger_esc"]
    assert fitted(starved(whimbrel), bigger.changes)["esc"] == mine


def report_of(whimbrel):
    return with_shelf()(whimbrel)


def test_controllers_bear_the_cells_the_current_and_the_servos(whimbrel):
    report, esc = report_of(whimbrel), whimbrel.power.esc
    for rating, cells, supply in ((20, 3, 0.0), (45, 6, 5.0), (100, 12, 0.0)):
        like = esc if supply else esc.model_copy(update={"bec_current": 0.0})
        found = controller_of(report, like, rating, cells, supply)
        assert found.max_current >= rating and found.max_cells >= cells and found.bec_current >= supply
        lighter = [e for e in SHELF.escs if e.mass < found.mass and e.kind == "brushless"]
        assert all(e.max_current < rating or e.max_cells < cells or e.bec_current < supply for e in lighter)
    assert controller_of(report, esc, 1000, 3) is None


def test_packs_and_propellers_come_in_order_and_of_their_kind(whimbrel):
    report, train = report_of(whimbrel), whimbrel.power
    larger, smaller = list(larger_packs(report, train.pack)), list(smaller_packs(report, train.pack))
    assert [p.capacity_ah for p in larger] == sorted(p.capacity_ah for p in larger)
    assert [p.capacity_ah for p in smaller] == sorted((p.capacity_ah for p in smaller), reverse=True)
    assert {p.cells for p in (*larger, *smaller)} == {3}
    for found in (smaller_propellers(report, train.propeller, 0.1), larger_propellers(report, train.propeller)):
        props = list(found)
        assert props and {(p.family, p.blades) for p in props} == {(train.propeller.family, 2)}
    assert [p.name for p in steeper_propellers(report, train.propeller, 1.0)] == ["Thin electric 8×8"]
    strong = stronger_pack(report, train, 60.0)
    assert strong in SHELF.packs and continuous_current(strong) >= 60.0


def test_without_a_shelf_any_size_is_taken_as_sold(whimbrel):
    report = Evaluator()(whimbrel)
    assert report.shelf is None
    assert controller_of(report, whimbrel.power.esc, 52.0, 3).max_current == 55.0
    capacities = [pack.capacity_ah for pack in smaller_packs(report, whimbrel.power.pack)]
    assert capacities[0] == pytest.approx(2.1) and capacities[-1] == pytest.approx(0.1)
    assert isinstance(next(larger_propellers(report, whimbrel.power.propeller)), Propeller)
    assert isinstance(next(larger_packs(report, whimbrel.power.pack)), Pack)


def test_the_window_judges_with_the_builders_own_shelf(whimbrel, own_data):
    from ridgeline.files.own_bin import OwnBin, parts_on_hand, save_bin

    mine = SpeedController(name="Old faithful", max_current=18.0, mass=0.009, max_cells=4, bec_current=2.0)
    save_bin(OwnBin(escs=(mine,)))
    assert parts_on_hand().escs[0] == mine and len(parts_on_hand().escs) == len(SHELF.escs) + 1


@pytest.mark.parametrize(("share", "alike"), [(0.34, True), (0.36, False), (-0.34, True), (-0.36, False)])
def test_another_size_is_offered_while_its_pitch_keeps_near_its_diameter(whimbrel, share, alike):
    propeller = whimbrel.power.propeller
    size, ratio = propeller.diameter + 0.0254, propeller.pitch / propeller.diameter
    other = propeller.model_copy(update={"name": "other", "diameter": size, "pitch": (1 + share) * ratio * size})
    report = with_shelf(SHELF._replace(propellers=(other,)))(whimbrel)
    assert list(larger_propellers(report, propeller)) == ([other] if alike else [])
