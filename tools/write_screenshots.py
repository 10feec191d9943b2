"""Write the pictures of docs/screenshots anew from the demo design, each main view once.

Run: QT_QPA_PLATFORM=offscreen ./.venv/bin/python tools/write_screenshots.py
"""

from __future__ import annotations

import os
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path
from typing import Any

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["RIDGELINE_DATA"] = tempfile.mkdtemp()

from PySide6.QtWidgets import QApplication

from ridgeline.desk.app import prepare
from ridgeline.desk.store import Store
from ridgeline.desk.window import Window
from ridgeline.files.design_file import load

FOLDER = Path(__file__).resolve().parents[1] / "docs" / "screenshots"


def _nothing(_window: Any) -> None:
    pass


def _matched(window: Any) -> None:
    window.sheet.finish_now()
    window.sheet.matches.choose(2)
    window.sheet.pin(5)


def _laid(window: Any) -> None:
    window.sheet.laying.weigh_now()


def _stick(window: Any) -> None:
    window.sheet.move(roll=1.0, pitch=0.4)


def _gallery(window: Any) -> None:
    window.sheet.turn(True)


def _thrown(window: Any) -> None:
    work = window.sheet.work
    work.settle()
    work.draw_odds()
    work.settle()


def _working(window: Any) -> None:
    window.show_working("flight.endurance")
    window.working.wait()


#: File, sheet, and what is done before the picture is taken.
VIEWS: tuple[tuple[str, str, Callable[[Any], None]], ...] = (
    ("brief", "brief", _nothing),
    ("shape", "shape", _nothing),
    ("shape_start", "shape.start", _gallery),
    ("weights", "weights", _nothing),
    ("balance", "balance", _nothing),
    ("power", "power", _nothing),
    ("power_match", "power.match", _matched),
    ("controls", "controls", _nothing),
    ("controls_radio", "controls.radio", _stick),
    ("structure", "structure", _nothing),
    ("structure_twist", "structure.twist", _nothing),
    ("templates", "templates", _laid),
    ("templates_prints", "templates.prints", _laid),
    ("templates_lists", "templates.lists", _laid),
    ("flights", "flights", _nothing),
    ("flights_throw", "flights.throw", _thrown),
    ("flights_causes", "flights.causes", _nothing),
    ("flights_setup", "flights.setup", _nothing),
    ("working", "power", _working),
)
#: Views of another sample: what is printed is of one that is.
OF = {"templates_prints": "dunlin", "flights": "season", "flights_causes": "season", "flights_setup": "season"}


def main() -> None:
    """Write the named views, or all."""
    app = prepare("light")
    for name, sheet, ready in VIEWS:
        if len(sys.argv) > 1 and name not in sys.argv[1:]:
            continue
        window = Window(Store(load(f"demo:{OF.get(name, 'whimbrel')}"), keep=False), first=sheet)
        window.resize(1280, 800)
        window.show()
        app.processEvents()
        ready(window)
        for _ in range(4):
            QApplication.processEvents()
        window.grab().save(str(FOLDER / f"{name}.png"), "PNG")
        window.store.forget()
        window.close()


if __name__ == "__main__":
    main()
