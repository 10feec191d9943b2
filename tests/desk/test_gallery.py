"""The gallery of samples: silhouettes of every shipped design, opened by a press; each without anything to stop for."""

import pytest
from PySide6.QtWidgets import QApplication

from conftest import press
from ridgeline.design.document import Design
from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import load, to_text
from ridgeline.library import demo_names, demo_text, gallery_names


@pytest.mark.parametrize("size", [(1100, 700), (1280, 800)])
def test_every_sample_has_a_silhouette_and_opens_by_a_press(open_window, size):
    window = open_window(Design(), first="brief", size=size)
    window.open_gallery()
    QApplication.processEvents()
    sheet = window.sheet
    assert set(sheet.samples) == set(gallery_names()) and 6 <= len(sheet.samples) <= 8
    assert not any(button.isVisible() for button in sheet.layouts.values())
    areas = [button.geometry() for button in sheet.samples.values()]
    assert not any(a.intersects(b) for k, a in enumerate(areas) for b in areas[k + 1 :])
    window.grab()
    press(sheet.samples["plover"])
    assert window.store.design.name == "Ridge Plover" and window.open_key == "balance"


def test_the_layouts_come_back(open_window):
    window = open_window(Design(), first="shape.start")
    press(window.sheet.ways[1])
    press(window.sheet.ways[0])
    assert all(button.isVisible() for button in window.sheet.layouts.values())
    assert not any(button.isVisible() for button in window.sheet.samples.values())


@pytest.mark.parametrize("name", sorted(set(gallery_names()) - set(demo_names())))
def test_a_sample_stops_at_nothing_and_is_as_this_program_writes_it(name):
    design = load(f"demo:{name}")
    assert not [f.key for f in evaluate(design).findings if f.level == "stop"]
    assert demo_text(name) == to_text(design)
    assert "estuary club" in design.note


def test_the_samples_are_of_every_sort():
    designs = {name: load(f"demo:{name}") for name in gallery_names()}
    masses = sorted(evaluate(d).value("mass.auw") for d in designs.values())
    assert masses[0] < 0.12 and masses[-1] > 10.0
    assert any(d.power is None for d in designs.values())
    assert any(len({s.sets for s in d.surfaces + d.aside.surfaces if s.role == "wing"}) > 1 for d in designs.values())
    # One that is not alike on its two sides.
    assert any(any(b.y != 0 and not b.mirrored for b in d.bodies) for d in designs.values())
    assert {d.brief.build_method for d in designs.values()} >= {"foam_board", "printed_foaming"}
    assert len({d.brief.layout for d in designs.values()}) >= 4
