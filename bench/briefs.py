"""Random briefs over the whole schema through sketch and lay-out: anything raised that is no refusal of ours is named.

python bench/briefs.py [COUNT]
"""

import collections
import random
import sys
import traceback
from multiprocessing import Pool
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "tests"))

from briefs import random_brief, try_brief


def one(seed: int) -> str:
    """Return what came of one brief: laid out, refused and why, or what was raised."""
    brief = random_brief(random.Random(f"bench {seed}"))
    try:
        refused = try_brief(brief)
    except Exception as fault:
        place = traceback.extract_tb(fault.__traceback__)[-1]
        return f"RAISED at seed {seed}: {type(fault).__name__} {fault} ({Path(place.filename).name}:{place.lineno})"
    return "refused: " + refused.partition("allowed: ")[2] if refused else "laid out"


def main() -> int:
    """Print how often each came; returns 1 when anything was raised."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 5000
    with Pool(2) as pool:
        found = collections.Counter(pool.imap_unordered(one, range(count), chunksize=20))
    for words, times in found.most_common():
        print(f"{times:6}  {words}")
    return 1 if any(words.startswith("RAISED") for words in found) else 0


if __name__ == "__main__":
    sys.exit(main())
