"""Kill a sitting at 400 random instants, in editing and in a drag without end: what is lost of file and edits.

python bench/kills.py [COUNT]
"""

import os
import random
import sys
import tempfile
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "tests"))
os.environ["RIDGELINE_DATA"] = tempfile.mkdtemp()

from test_kill import kill_one, start_children, stop_children


def main() -> None:
    """Print how many edits were made, came back, and were lost at most in one kill."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 400
    rng, children = random.Random(7), start_children()
    for how in ("edit", "drag"):
        found = []
        for _number in range(count // 2):
            with tempfile.TemporaryDirectory() as name:
                after = rng.choice([0.02, 0.1, 0.3, 1.3]) * rng.random()
                found.append(kill_one(children, Path(name), after, how))
        made, held = sum(m for m, _h in found), sum(h for _m, h in found)
        worst = max(m - h for m, h in found)
        print(f"{how}: {len(found)} kills, {made} edits made, {held} came back, at most {worst} lost in one kill")
    stop_children(children)


if __name__ == "__main__":
    main()
