"""Every way out of many troubled designs: what its words say against what it gives, with any part and off the shelf.

python bench/ways_out.py [COUNT]
"""

import os
import sys
import tempfile
from collections import Counter
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1] / "tests"))
os.environ["RIDGELINE_DATA"] = tempfile.mkdtemp()

from ridgeline.engine.pipeline import Evaluator
from test_on_hand import with_shelf
from test_promises import check, troubled


def main() -> None:
    """Print how many ways out were tried, of how many kinds, and each that does not keep its word."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else 192
    tried: Counter[str] = Counter()
    broken = 0
    for seed in range(count):
        design = troubled(seed)
        for trial in (Evaluator(), with_shelf()):
            before = trial(design)
            for finding in before.findings:
                for remedy in finding.remedies:
                    tried[remedy.key] += 1
                    try:
                        check(before, finding, remedy, design, trial)
                    except AssertionError as error:
                        broken += 1
                        print(f"seed {seed}, {finding.key}, {remedy.key}: {str(error).splitlines()[0]}")
    print(f"{count} designs: {sum(tried.values())} ways out of {len(tried)} kinds, {broken} broke their word")


if __name__ == "__main__":
    main()
