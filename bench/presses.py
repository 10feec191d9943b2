"""How many presses and typed values a balanced, powered aircraft takes from a blank page, for each reference aircraft.

Run: ./.venv/bin/python bench/presses.py. Every aircraft of the tests is built through a window shown offscreen, by
its menus, buttons and fields; a way out pressed and taken back counts twice.
"""

from __future__ import annotations

import os
import sys
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")


def main() -> None:
    """Build each and print its presses, what the findings say and whether it is powered."""
    sys.path[:0] = [str(Path(__file__).parents[1] / "tests" / part) for part in ("desk", "")]
    from hands import Hands
    from reference_aircraft import AIRCRAFT, TRAINERS

    from ridgeline.design.document import Design
    from ridgeline.desk.app import prepare
    from ridgeline.desk.store import Store
    from ridgeline.desk.window import Window

    prepare("light")
    print(f"{'aircraft':22s} presses  stop look settled  powered")
    for name, build in {**TRAINERS, **AIRCRAFT}.items():
        window = Window(Store(Design()))
        window.resize(1280, 800)
        window.show()
        window.open_sheet("brief")
        hands = Hands(window)
        build(hands)
        levels = [f.level for f in hands.store.report.findings]
        counts = "  ".join(f"{levels.count(level):4d}" for level in ("stop", "look", "settled"))
        print(f"{name:22s} {hands.count:7d}  {counts}  {'yes' if hands.design.power else 'no'}")
        window.hide()
        window.deleteLater()


if __name__ == "__main__":
    main()
