"""Bodies, wheels and power train added, duplicated and taken out by the Edit menu and by Ctrl+K."""

import pytest
from PySide6.QtGui import QAction
from PySide6.QtWidgets import QApplication

from ridgeline.design.document import Design
from ridgeline.design.paths import Change, apply
from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import load


def choose(window, words):
    """Press an entry of a menu."""
    action = next(a for a in window.bar.menus.findChildren(QAction) if a.text().split("\t")[0] == words)
    action.trigger()
    QApplication.processEvents()


@pytest.fixture
def said(desk):
    notes = []
    desk.store.noted.connect(notes.append)
    return notes


@pytest.mark.parametrize("words", ["Fuselage", "Pod", "Boom"])
def test_a_body_is_added_with_its_pieces_selected_and_undone(open_window, words):
    window = open_window(Design(), first="brief")
    store = window.store
    choose(window, "Wing")
    before = store.design
    choose(window, words)
    (body,) = store.design.bodies
    assert body.name == words and body.built is not None
    shell = next(part for part in store.design.parts if part.build and part.build.of == body.id)
    assert store.report.results.masses.items.mass[store.design.parts.index(shell)] > 0.001
    assert store.spot("body").path == "bodies[0].stations[0]" and window.open_key == "shape"
    store.undo()
    assert store.design == before


def test_a_second_one_has_a_name_of_its_own(open_window):
    window = open_window(Design(), first="shape")
    for _ in range(3):
        choose(window, "Boom")
    assert [body.name for body in window.store.design.bodies] == ["Boom", "Boom 2", "Boom 3"]


def test_a_fuselage_reaches_from_ahead_of_the_wing_to_the_tail(open_window, whimbrel):
    bare = apply(whimbrel, [Change("bodies", ())])
    window = open_window(bare, first="shape")
    choose(window, "Fuselage")
    body, tail = window.store.design.bodies[0], whimbrel.surfaces[1]
    wing = whimbrel.surfaces[0]
    assert body.sections[0].x < wing.x - 0.5 * wing.stations[0].chord
    assert body.sections[-1].x == pytest.approx(tail.x + tail.stations[0].chord, abs=1e-3)
    # The wing lies on top of it.
    assert body.z + 0.5 * max(s.height for s in body.stations) == pytest.approx(wing.z, abs=1e-3)


def test_a_glider_is_given_its_first_motor_with_all_its_parts(open_window, whimbrel):
    parts = tuple(part for part in whimbrel.parts if part.component is None)
    glider = apply(whimbrel, [Change("power", None), Change("parts", parts)])
    window = open_window(glider, first="shape")
    choose(window, "Power train")
    store = window.store
    power = store.design.power
    aboard = {part.component for part in store.design.parts}
    assert {"motor", "esc", "propeller", "pack"} <= aboard
    nose = store.design.bodies[0].sections[0]
    assert (power.mounts[0].x, power.mounts[0].z) == (pytest.approx(nose.x, abs=1e-4), pytest.approx(nose.z, abs=1e-4))
    assert store.report.value("power.thrust_ratio") > 0.4
    choose(window, "Take the power train out")
    assert store.design.power is None and all(part.component is None for part in store.design.parts)
    store.undo()
    store.undo()
    assert store.design == glider


def test_a_second_train_and_one_without_a_body_are_refused_in_words(desk, said, open_window):
    before = desk.store.design
    choose(desk, "Power train")
    assert desk.store.design is before and "already" in said[-1]
    empty = open_window(Design(), first="shape")
    notes = []
    empty.store.noted.connect(notes.append)
    choose(empty, "Power train")
    assert empty.store.design.power is None and "body" in notes[-1]


def test_wheels_keep_belly_and_propeller_off_the_ground_and_weigh(open_window):
    window = open_window(load("demo:avocet"), first="shape")
    store = window.store
    mass = store.report.value("mass.listed")
    choose(window, "Main wheels")
    wheel = store.design.wheels[-1]
    ground = wheel.z - 0.5 * wheel.diameter
    belly = min(s.z - 0.5 * s.height for b in store.design.bodies for s in b.sections)
    tip = min(m.z for m in store.design.power.mounts) - 0.5 * store.design.power.propeller.diameter
    assert ground <= min(belly, tip) - 0.04 + 1e-3
    assert store.report.value("mass.listed") - mass > 0.01
    assert store.spot("wheel").index == len(store.design.wheels) - 1
    choose(window, "Tail wheel")
    assert store.design.wheels[-1].name == "Tail wheel" and not store.design.wheels[-1].mirrored
    assert store.design.wheels[-1].diameter == pytest.approx(0.4 * wheel.diameter, abs=2e-4)


def test_a_body_taken_out_takes_its_pieces_and_leaves_what_was_bolted_to_it_loose(desk, said):
    store = desk.store
    body = store.design.bodies[0]
    store.select("bodies[0].stations[1]")
    choose(desk, "Remove what is selected")
    assert body.id not in {b.id for b in store.design.bodies}
    assert not [part for part in store.design.parts if part.build is not None and part.build.of == body.id]
    loose = [part.name for part in store.design.parts if part.loose == body.name]
    assert loose and "Loose now" in said[-1] and body.name in said[-1]
    evaluate(store.design)


def test_a_control_and_a_wheel_are_taken_out(desk):
    store = desk.store
    store.select("surfaces[0].controls[0]")
    choose(desk, "Remove what is selected")
    assert store.design.surfaces[0].controls == ()
    store.select("wheels[0]")
    choose(desk, "Remove what is selected")
    assert store.design.wheels == ()


def test_a_body_and_a_wheel_are_doubled_beside_themselves(desk):
    store = desk.store
    store.select("bodies[0].stations[0]")
    choose(desk, "Duplicate what is selected")
    first, copy = store.design.bodies[0], store.design.bodies[-1]
    assert copy.name == f"{first.name} 2" and copy.y - first.y > max(s.width for s in first.stations)
    shells = [
        p.build.of for p in store.design.parts if p.build and p.build.kind == "pieces" and p.build.pieces == "shell"
    ]
    assert copy.id in shells
    store.select("wheels[0]")
    choose(desk, "Duplicate what is selected")
    assert [w.name for w in store.design.wheels] == ["Main wheels", "Main wheels 2"]


@pytest.mark.parametrize("words", ["Duplicate what is selected", "Remove what is selected"])
def test_with_nothing_selected_it_says_what_to_select(desk, said, words):
    desk.store.select("")
    before = desk.store.design
    choose(desk, words)
    assert desk.store.design is before and said[-1].startswith("Select a surface")


def test_they_are_found_by_their_words(desk):
    words = [command[0] for command in desk.commands()]
    assert {"Add: Fuselage", "Add: Tail wheel", "Add: Power train", "Add: Wing", "Remove what is selected"} <= set(
        words
    )
