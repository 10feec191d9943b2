"""Killed at any instant, the program leaves the file whole and loses at most the last second of edits."""

import os
import random
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from ridgeline.design.paths import put
from ridgeline.files.design_file import load, save
from ridgeline.files.sittings import leftovers

#: Kills in the tests; bench/kills.py makes ten times as many.
KILLS = 40
#: What may be lost, s.
LEAST_KEPT = 1.0


def start_children():
    """Return the process that forks the children."""
    words = [sys.executable, str(Path(__file__).with_name("killed.py"))]
    return subprocess.Popen(words, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True)


def stop_children(children):
    """End the process that forks the children."""
    children.stdin.close()
    children.wait(10)
    children.stdout.close()


def kill_one(children, folder, after, how):
    """Start a child, kill it ``after`` seconds from its first edit, and hold what is left to what it said it did.

    Returns how many edits were made and how many of them came back.
    """
    path = save(put(load("demo:whimbrel"), "note", "0"), folder / "plane.ridge")
    log = folder / "log"
    before = {left.path for left in leftovers()[0]}
    children.stdin.write(f"{path} {log} {how}\n")
    children.stdin.flush()
    child = int(children.stdout.readline())
    while not (log.exists() and "begun" in log.read_text()):
        os.sched_yield()
    until = time.monotonic() + after
    while time.monotonic() < until:
        os.sched_yield()
    killed_at = time.time()
    os.kill(child, signal.SIGKILL)
    assert children.stdout.readline().strip() == "ended"
    said = [line.split() for line in log.read_text().split("\n")[:-1]]
    edits = {int(n): float(at) for what, n, at in said if what == "edited"}
    saved = max((int(n) for what, n, _at in said if what == "saved"), default=0)
    held = edit_of(load(path))
    assert held == 0 or held >= saved
    fresh = [left for left in leftovers()[0] if left.path not in before]
    assert len(fresh) <= 1
    if fresh:
        (left,) = fresh
        assert left.file == str(path) and left.edits and left.when <= killed_at
        held = max(held, edit_of(left.design()))
        left.path.unlink()
    made = max(edits, default=0)
    needed = max((n for n, at in edits.items() if at <= killed_at - LEAST_KEPT), default=0)
    # An edit may be under way when its child dies: one more than it said.
    assert max(saved, needed) <= held <= made + 1, f"{held} of {made} edits, {needed} were older than a second"
    return made, held


def edit_of(design):
    """Return which edit of the child a design holds."""
    return int(design.note)


@pytest.mark.parametrize("how", ["edit", "drag"])
def test_no_kill_costs_the_file_or_more_than_a_second_of_edits(tmp_path, how):
    rng, children, found = random.Random(f"kills {how}"), start_children(), []
    for number in range(KILLS // 2):
        folder = tmp_path / str(number)
        folder.mkdir()
        # Some at once, some within a save, some after more than the second that may be lost.
        found.append(kill_one(children, folder, rng.choice([0.02, 0.1, 0.3, 1.3]) * rng.random(), how))
    stop_children(children)
    # The children did edit, and what they did came back.
    assert sum(made for made, _held in found) > KILLS / 2 and sum(held for _made, held in found) > 0
