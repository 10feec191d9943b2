"""Every hostile file of the tests, each read in a process of its own: time to its answer, and memory taken for it.

    python bench/hostile.py

Wanted: an answer of one line within 1 s and 500 MB. The reading of the program itself comes before the clock starts.
"""

import os
import resource
import sys
import tempfile
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "tests"))

import hostile_files
from ridgeline.desk.app import prepare
from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import load


def measured(kind: str, place: Path) -> tuple[float, float, str]:
    """Return seconds, megabytes at the peak, and the first line of the answer, from a forked child."""
    reading, writing = os.pipe()
    child = os.fork()
    if child == 0:
        start = time.perf_counter()
        try:
            said = hostile_files.answer(kind, place)
        except BaseException as fault:
            said = [f"RAISED {type(fault).__name__}: {fault}"]
        spent = time.perf_counter() - start
        peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1e3
        os.write(writing, f"{spent}\n{peak}\n{(said or [''])[0][:200]}".encode())
        os._exit(0)
    os.close(writing)
    os.waitpid(child, 0)
    with os.fdopen(reading) as stream:
        spent, peak, *said = stream.read().split("\n")
    return float(spent), float(peak), " ".join(said)


def main() -> int:
    """Print the slowest and the largest; returns 1 when one is past what is wanted, or raised."""
    prepare("light")
    evaluate(load("demo:whimbrel"))
    rows = []
    with tempfile.TemporaryDirectory() as folder:
        place = Path(folder) / "large"
        for name in sorted(hostile_files.EXPECTED):
            rows.append((*measured(name.partition("-")[0], hostile_files.FOLDER / name), name))
        for kind, name, data, _words in hostile_files.large():
            place.write_bytes(data)
            del data
            rows.append((*measured(kind, place), f"{kind} {name}"))
    bad = [row for row in rows if row[0] > 1.0 or row[1] > 500 or row[2].startswith("RAISED")]
    for title, key in (("slowest", 0), ("largest", 1)):
        print(title)
        for row in sorted(rows, key=lambda r: -r[key])[:6]:
            print(f"  {row[0]:6.2f} s {row[1]:6.0f} MB  {row[3]}: {row[2][:90]}")
    print(f"{len(rows)} files, {len(bad)} past 1 s or 500 MB or raised: {[row[3] for row in bad]}")
    return 1 if bad else 0


if __name__ == "__main__":
    sys.exit(main())
