"""Sets of one airframe: what is shared stays shared, what is swapped is swapped, and nothing is lost."""

import json
from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design import configurations as sets
from ridgeline.design import kinds
from ridgeline.design.document import from_plain
from ridgeline.design.paths import put
from ridgeline.engine.advice.compare import compare, swap_of, swapped
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.weights.estimates import extents_of
from ridgeline.engine.weights.items import item_arrays
from ridgeline.errors import DesignError
from ridgeline.files.design_file import load, to_text


@pytest.fixture
def two(plain):
    """A design with two sets, the second fitted."""
    return sets.add(plain, "Floats")


@pytest.fixture
def plain():
    """The tail-dragging biplane, which ships without sets."""
    return load("demo:turnstone")


def fitted(design, name):
    """Return the design with the set of a name fitted."""
    return sets.fit(design, sets.called(design, name))


def only(design, name):
    """Return what a part says that flies in the set of a name alone."""
    return (sets.called(design, name),)


def everything(design):
    """All parts of a design, fitted or aside, in no order."""
    return sorted(part.model_dump_json() for _kind, part in kinds.everywhere(design))


def figures(design):
    return {key: figure.value for key, figure in evaluate(design).figures.items()}


def test_a_new_set_is_the_same_aircraft_until_something_is_swapped(plain, two):
    assert [one.name for one in two.configurations] == [sets.FIRST, "Floats"]
    assert sets.name_of(two, two.fitted) == "Floats"
    assert figures(two) == figures(plain)
    first, other = compare(two, evaluate(two))
    assert swapped(first, other) == ()


def test_an_edit_of_a_shared_part_shows_in_every_set(two):
    heavier = put(two, "parts[0].estimate", 0.5)
    assert fitted(heavier, sets.FIRST).parts[0].estimate == 0.5


def test_a_version_of_its_own_leaves_the_other_sets_as_they_were(plain, two):
    own = sets.own_version(two, "surfaces[0]")
    index = next(i for i, s in enumerate(own.surfaces) if s.sets == only(own, "Floats"))
    longer = put(own, f"surfaces[{index}].thickness", 0.03)
    back = fitted(longer, sets.FIRST)
    kept = next(s for s in back.surfaces if s.name == plain.surfaces[0].name)
    assert kept.thickness == plain.surfaces[0].thickness
    assert figures(back) == pytest.approx(figures(plain), nan_ok=False)
    again = fitted(back, "Floats")
    assert next(s for s in again.surfaces if s.name == kept.name).thickness == 0.03


def aboard(design):
    """Return the mass of every item of the fitted set, kg."""
    extents = extents_of(design.surfaces, design.bodies)
    return float(item_arrays(design.parts, design.power, extents).mass.sum())


@given(st.lists(st.tuples(st.sampled_from(["own", "only", "not"]), st.integers(0, 5)), max_size=5), st.data())
def test_fitting_sets_in_any_order_loses_nothing(acts, data):
    design = sets.add(sets.add(load("demo:turnstone"), "B"), "C")
    for act, index in acts:
        do = {"own": sets.own_version, "only": sets.only_here, "not": sets.not_here}[act]
        try:
            design = do(design, f"parts[{index % len(design.parts)}]")
        except DesignError:
            continue
        design = sets.fit(design, data.draw(st.sampled_from(sets.idents(design))))
    whole, before = everything(design), {n: aboard(fitted(design, n)) for n in "BC"}
    for name in data.draw(st.lists(st.sampled_from(sets.idents(design)), max_size=6)):
        design = sets.fit(design, name)
    assert everything(design) == whole
    for name, mass in before.items():
        assert aboard(fitted(design, name)) == pytest.approx(mass, rel=1e-12)
    assert from_plain(json.loads(to_text(design))) == design


def test_a_part_of_one_set_alone_weighs_in_that_set_only(plain, two):
    grown = put(two, "parts[-]", {"name": "Floats", "group": "gear", "x": 0.2, "z": -0.1, "estimate": 0.09})
    own = sets.only_here(grown, f"parts[{len(grown.parts) - 1}]")
    masses = {one.name: evaluate(sets.fit(own, one.id)).value("mass.auw") for one in own.configurations}
    assert masses["Floats"] - masses[sets.FIRST] == pytest.approx(0.09)
    assert masses[sets.FIRST] == pytest.approx(evaluate(plain).value("mass.auw"))


def test_left_out_here_it_stays_there_and_can_fly_everywhere_again(two):
    count = len(two.parts)
    out = sets.not_here(two, "parts[1]")
    assert len(out.parts) == count - 1 and len(fitted(out, sets.FIRST).parts) == count
    with pytest.raises(DesignError, match="this set alone"):
        sets.not_here(sets.only_here(two, "parts[1]"), "parts[1]")
    back = fitted(out, sets.FIRST)
    index = next(i for i, p in enumerate(back.parts) if p.sets == only(back, sets.FIRST))
    shared = sets.everywhere(back, f"parts[{index}]")
    assert len(fitted(shared, "Floats").parts) == count and shared.aside.parts == ()


def test_another_power_train_takes_its_items_with_it(two):
    own = sets.own_version(two, "power")
    carried = {p.component for p in own.parts if p.sets == only(own, "Floats")}
    assert carried == {p.component for p in own.parts if p.component is not None}
    stronger = put(own, "power.motor.mass", 0.2)
    gain = evaluate(stronger).value("mass.auw") - evaluate(fitted(stronger, sets.FIRST)).value("mass.auw")
    assert gain != 0
    assert fitted(stronger, sets.FIRST).power.motor == two.power.motor
    assert sets.everywhere(stronger, "power").aside.power == ()


def test_sets_are_renamed_and_dropped_with_what_flew_only_there(two):
    own = sets.own_version(two, "parts[0]")
    renamed = sets.rename(own, own.fitted, " On  floats ")
    assert sets.name_of(renamed, renamed.fitted) == "On floats"
    # What flies in a set goes by its id: only the name changes.
    assert everything(renamed) == everything(own) and renamed.fitted == own.fitted
    assert sets.rename(renamed, own.fitted, "On floats") is renamed
    dropped = sets.drop(renamed, renamed.fitted)
    assert dropped.configurations == () and dropped.fitted == ""
    assert everything(dropped) == everything(load("demo:turnstone"))


@pytest.mark.parametrize(
    ("edit", "why"),
    [
        (lambda d: sets.fit(d, "Skis"), "Skis"),
        (lambda d: sets.add(d, "Floats"), "new name"),
        (lambda d: sets.add(d, "  "), "new name"),
        (lambda d: sets.rename(d, d.fitted, sets.FIRST), "new name"),
        (lambda d: sets.drop(d, "Skis"), "Skis"),
        (lambda d: sets.own_version(d, "brief"), "no part of a set"),
        (lambda d: put(d, "parts[0].sets", ("Skis",)), "Floats"),
        (lambda d: put(d, "fitted", "Skis"), "Skis"),
        (lambda d: put(d, "configurations[0].name", "Floats"), "different names"),
        (lambda d: put(d, "configurations[0].id", d.fitted), "different names and ids"),
        (lambda d: sets.called(d, "Skis"), "Standard, Floats"),
    ],
)
def test_what_cannot_be_is_refused_with_the_reason(two, edit, why):
    with pytest.raises(DesignError, match=why):
        edit(two)


def test_without_sets_a_part_cannot_be_swapped(plain):
    with pytest.raises(DesignError, match="make one first"):
        sets.own_version(plain, "parts[0]")


def test_the_swap_sheet_tells_mass_current_and_what_has_to_fit(two):
    own = sets.own_version(two, "power")
    motor = own.power.motor.model_copy(update={"mass": 0.08, "bolt_circle": 0.025, "max_current": 30.0, "name": "Big"})
    old = own.power.motor.model_copy(update={"bolt_circle": 0.019})
    now = put(own, "power.motor", motor)
    there = fitted(now, sets.FIRST)
    there = fitted(put(there, "power.motor", old), "Floats")
    first, second = compare(there, evaluate(there))
    found = next(s for s in swapped(first, second) if getattr(s.new, "name", "") == "Big")
    assert found.mass == pytest.approx(0.08 - old.mass)
    assert found.current == pytest.approx(30.0 - old.max_current)
    assert found.fits is False and "holes" in str(found.fit)


def test_items_that_come_and_go_sum_to_the_change_of_weight():
    whimbrel = load("demo:whimbrel")
    found = {one.name: one for one in compare(whimbrel, evaluate(whimbrel))}
    assert set(found) == {"Seal count", "Marker floats", "Long wing"}
    for name in ("Marker floats", "Long wing"):
        swaps = swapped(found["Seal count"], found[name])
        change = found[name].report.value("mass.listed") - found["Seal count"].report.value("mass.listed")
        assert sum(s.mass for s in swaps if s.mass is not None) == pytest.approx(change)
        assert all(s.moment is not None for s in swaps if s.mass is not None)


@pytest.mark.parametrize(
    ("old", "new", "fits", "words"),
    [
        (0.016, 0.016, True, "as before"),
        (0.016, 0.019, False, "the mount has 16"),
        (0.0, 0.019, None, "measure the mounting holes"),
    ],
)
def test_a_swapped_motor_is_held_to_its_mounting_holes(whimbrel, old, new, fits, words):
    train = whimbrel.power
    before, after = (train.motor.model_copy(update={"bolt_circle": b, "mass": 0.05 + b}) for b in (old, new))
    told = swap_of(before, after, train)
    assert told.fits is fits and words in str(told.fit)
    assert told.mass == pytest.approx(new - old) and told.current == 0


@pytest.mark.parametrize(
    ("bore", "shaft", "fits", "words"),
    [
        (0.006, 0.006, True, "on a shaft"),
        (0.008, 0.005, True, "collar"),
        (0.004, 0.005, False, "under the shaft"),
        (0.0, 0.005, None, "measure shaft and bore"),
    ],
)
def test_a_swapped_propeller_is_held_to_the_shaft(whimbrel, bore, shaft, fits, words):
    motor = whimbrel.power.motor.model_copy(update={"shaft": shaft})
    train = whimbrel.power.model_copy(update={"motor": motor})
    told = swap_of(train.propeller, train.propeller.model_copy(update={"bore": bore}), train)
    assert told.fits is fits and words in str(told.fit)


def test_swapped_packs_and_controllers_are_held_to_their_cells(whimbrel):
    train = whimbrel.power
    six = train.pack.model_copy(update={"cells": 6})
    weak = train.esc.model_copy(update={"max_cells": 2, "max_current": train.esc.max_current + 10})
    assert swap_of(train.pack, six, train).fits is False and swap_of(six, train.pack, train).fits is True
    told = swap_of(train.esc, weak, train)
    assert told.fits is False and "takes 2 cells" in str(told.fit) and told.current == pytest.approx(10)
    assert swap_of(weak, train.esc, train).fits is True


def test_a_set_without_a_power_train_is_a_swap_of_the_whole(whimbrel):
    other = sets.add(whimbrel, "Glider")
    bare = other.model_copy(update={"power": None, "parts": tuple(p for p in other.parts if p.component is None)})
    here = next(fitted for fitted in compare(whimbrel, evaluate(whimbrel)) if fitted.ident == whimbrel.fitted)
    told = [s for s in swapped(here, replace(here, design=bare, report=evaluate(bare))) if s.old is whimbrel.power]
    assert len(told) == 1 and told[0].new is None and "as a whole" in str(told[0].fit)


def test_sets_that_go_by_name_open_with_ids_and_the_same_figures(whimbrel):
    data = json.loads(to_text(whimbrel))
    names = {one["id"]: one["name"] for one in data["configurations"]}

    def by_name(node):
        if isinstance(node, list):
            return [by_name(one) for one in node]
        if isinstance(node, dict):
            return {k: [names[i] for i in v] if k == "sets" else by_name(v) for k, v in node.items()}
        return node

    old = by_name(data) | {"configurations": list(names.values()), "fitted": names[data["fitted"]]}
    opened = from_plain(old)
    assert [one.name for one in opened.configurations] == list(names.values())
    assert len(set(sets.idents(opened)) - set(kinds.all_idents(opened))) == len(names)
    for name in names.values():
        assert figures(fitted(opened, name)) == figures(fitted(whimbrel, name))


def test_a_new_set_gets_an_id_that_nothing_has(two):
    taken = {*kinds.all_idents(two), *kinds.all_idents(two.aside), *sets.idents(two)}
    third = sets.add(two, "Skis")
    assert third.fitted not in taken
    gone = sets.drop(third, third.fitted)
    assert sets.idents(gone) == sets.idents(two)


def test_a_set_written_without_an_id_is_given_one(plain):
    data = json.loads(to_text(plain)) | {"configurations": [{"name": "One"}, {"id": "k", "name": "Two"}], "fitted": "k"}
    opened = from_plain(data)
    assert opened.fitted == "k" and all(sets.idents(opened)) and sets.name_of(opened, "k") == "Two"
