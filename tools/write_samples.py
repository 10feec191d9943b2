"""Write the samples of the gallery that are built through the window: a part of the reference aircraft, as saved.

Run offscreen; every value comes from what hands press and type, nothing is edited afterwards.
"""

from __future__ import annotations

import os
import sys
import tempfile
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["RIDGELINE_DATA"] = tempfile.mkdtemp()
ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "tests" / "desk"), str(ROOT / "tests")]

from hands import Hands  # noqa: E402
from reference_aircraft import AIRCRAFT  # noqa: E402

from ridgeline.design.document import Design  # noqa: E402
from ridgeline.desk.app import prepare  # noqa: E402
from ridgeline.desk.store import Store  # noqa: E402
from ridgeline.desk.window import Window  # noqa: E402
from ridgeline.files.design_file import to_text  # noqa: E402

FOLDER = ROOT / "src" / "ridgeline" / "library" / "samples"
#: File, aircraft, and its note.
SAMPLES = (
    ("heron", "Harbour Heron", "maps the outer mudflats, estuary club"),
    ("lapwing", "Lopsided Lapwing", "seal camera pod on one wing, estuary club"),
    ("plover", "Ridge Plover", "no motor; calm and slope wings, estuary club"),
    ("stint", "Boathouse Stint", "counts terns in the boathouse, estuary club"),
)


def main() -> None:
    """Build each and write it."""
    prepare("light")
    FOLDER.mkdir(exist_ok=True)
    for file, name, note in SAMPLES:
        window = Window(Store(Design(), keep=False), first="brief")
        window.resize(1280, 800)
        window.show()
        hands = Hands(window)
        AIRCRAFT[name](hands)
        made = hands.design.model_copy(update={"name": name, "note": note})
        (FOLDER / f"{file}.ridge").write_text(to_text(made), "utf-8")
        window.close()


if __name__ == "__main__":
    main()
