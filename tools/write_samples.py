"""Write the samples of the gallery that are built through the window: a part of the reference aircraft, as saved.

Run offscreen; every value comes from what hands press and type, nothing is edited afterwards.
"""

from __future__ import annotations

import math
import os
import sys
import tempfile
from pathlib import Path
from typing import Any

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
os.environ["RIDGELINE_DATA"] = tempfile.mkdtemp()
ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "tests" / "desk"), str(ROOT / "tests")]

from hands import Hands  # noqa: E402
from reference_aircraft import AIRCRAFT  # noqa: E402

from ridgeline.design.document import Design  # noqa: E402
from ridgeline.design.flights import SpeedPass  # noqa: E402
from ridgeline.design.keeping import counted, flown, keep, next_flight  # noqa: E402
from ridgeline.design.paths import put  # noqa: E402
from ridgeline.desk.app import prepare  # noqa: E402
from ridgeline.desk.store import Store  # noqa: E402
from ridgeline.desk.window import Window  # noqa: E402
from ridgeline.files.design_file import load, to_text  # noqa: E402

FOLDER = ROOT / "src" / "ridgeline" / "library" / "samples"
#: File, aircraft, and its note.
SAMPLES = (
    ("heron", "Harbour Heron", "maps the outer mudflats, estuary club"),
    ("lapwing", "Lopsided Lapwing", "seal camera pod on one wing, estuary club"),
    ("plover", "Ridge Plover", "no motor; calm and slope wings, estuary club"),
    ("stint", "Boathouse Stint", "counts terns in the boathouse, estuary club"),
)


#: The season of the Whimbrel: a version's name, its note, day, and the edits that led to it.
SEASON: tuple[tuple[str, str, str, tuple[tuple[str, float], ...]], ...] = (
    ("first sketch", "tail close, tips wide", "2026-03-07",
     (("surfaces[1].x", 0.74), ("surfaces[0].stations[2].chord", 0.18), ("surfaces[1].incidence", 0.034))),
    ("tail 38 mm aft", "less elevator", "2026-03-14", (("surfaces[1].x", 0.778),)),
    ("tip 180 → 160", "lighter panels", "2026-04-04", (("surfaces[0].stations[2].chord", 0.16),)),
    ("tip 160 → 141", "as it is drawn", "2026-04-18", (("surfaces[0].stations[2].chord", 0.141),)),
)  # fmt: skip
#: What flew: which edit came before it, minutes, Ah put back, wind, up trim °, what was seen, words, and passes.
FLOWN: tuple[tuple[Any, ...], ...] = (
    ((), 4.0, 0.26, 2.5, 1.9, ("throw_drops",), "", ()),
    ((), 9.5, 0.63, 3.0, 2.4, ("up_trim", "power_up"), "counted 14 seals on the north bar", ()),
    ((), 6.0, 1.70, 1.5, 2.4, ("up_trim", "power_up"), "two fast passes", (5.9, 4.8)),
    ((("power.mounts[0].down", 0.07),), 14.0, 0.94, 2.0, 2.1, ("up_trim",), "level with power now", ()),
    ((), 17.5, 1.19, 3.5, 2.1, ("up_trim", "hot_motor"), "wide turns over the mudflat", (6.1, 4.7)),
)  # fmt: skip


def season() -> Design:
    """Return the Whimbrel with its versions and its log: the sample as drawn is what flew first."""
    told = {"revision": 1, "name": "Saltmarsh Whimbrel, a season", "note": "versions and log, estuary club"}
    design = load("demo:whimbrel").model_copy(update=told)
    for name, note, day, edits in SEASON:
        for path, value in edits:
            design = counted(design, put(design, path, value))
        design = keep(design, name=name, note=note, day=day)
    for k, (edits, minutes, charge, wind, trim, seen, words, passes) in enumerate(FLOWN):
        for path, value in edits:
            design = counted(design, put(design, path, value))
        timed = tuple(
            SpeedPass(way=way, length=100.0, seconds=s) for way, s in zip(("up", "down"), passes, strict=False)
        )
        flight = next_flight(design).model_copy(
            update={
                "aloft": 60 * minutes, "put_back_ah": charge, "wind": wind, "seen": seen,
                "trim_pitch": round(math.radians(trim), 6), "words": words, "passes": timed,
                "pack": "A" if k % 2 else "B", "rested": 3.86 if k == 1 else None,
                "balance": 0.2735 if k == 4 else None,
            }
        )  # fmt: skip
        design = flown(design, flight, day=f"2026-05-{k + 2:02d}")
    return design


def main() -> None:
    """Build each and write it."""
    prepare("light")
    flown_folder = FOLDER.parent / "flown"
    flown_folder.mkdir(exist_ok=True)
    (flown_folder / "season.ridge").write_text(to_text(season()), "utf-8")
    if sys.argv[1:] == ["season"]:
        return
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
