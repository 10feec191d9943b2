import shutil
import subprocess
import sys
from pathlib import Path

import pytest
from journey import make_a_plane

from ridgeline.files.design_file import load


def test_a_new_plane_from_brief_to_power_by_mouse_and_keys_is_saved_and_opens_equal(open_window, tmp_path):
    window = open_window(first="brief")
    path = tmp_path / "plover.ridge"
    saved = make_a_plane(window, path)
    assert saved.name == "Mud Plover"
    assert load(path) == saved
    assert window.open(path) and window.store.design == saved and not window.store.unsaved


def test_every_step_of_the_journey_can_be_undone_to_the_empty_sheet(open_window, tmp_path):
    window = open_window(first="brief")
    saved = make_a_plane(window, tmp_path / "plover.ridge")
    for _ in range(40):
        window.store.undo()
    assert window.store.design.surfaces == () and window.store.history.undo_label is None
    for _ in range(40):
        window.store.redo()
    assert window.store.design == saved


@pytest.mark.window
@pytest.mark.parametrize(
    ("script", "words"),
    [
        ("journey", "whole journey"),
        ("first_touch", "first touches"),
        ("any_aircraft", "any aircraft"),
        ("bearing_wing", "a bearing wing"),
        ("linked_wing", "a linked wing"),
        ("cut_sheets", "cut sheets"),
        ("flown_season", "a season"),
        ("thrown_journey", "a throw"),
    ],
)
def test_the_same_works_in_a_real_window_on_a_virtual_display(script, words):
    assert shutil.which("Xvfb"), "Xvfb is installed by ./test"
    place = str(Path(__file__).with_name(f"{script}.py"))
    done = subprocess.run(
        ["xvfb-run", "-a", "-s", "-screen 0 1280x800x24", sys.executable, place],
        capture_output=True,
        text=True,
        timeout=240,
        env=_display_environment(),
    )
    assert done.returncode == 0, done.stderr[-3000:]
    assert f"{words} on xcb" in done.stdout


def _display_environment():
    import os

    return {k: v for k, v in os.environ.items() if k not in ("QT_QPA_PLATFORM", "DISPLAY", "WAYLAND_DISPLAY")} | {
        "QT_QPA_PLATFORM": "xcb"
    }
