"""Commands of the log and of first throws."""

from __future__ import annotations

import argparse
from typing import Any

from ridgeline.cli_design import edited
from ridgeline.errors import DesignError


def log(options: argparse.Namespace) -> int:
    from ridgeline.engine.pipeline import evaluate
    from ridgeline.files.log_file import log_lines, log_text

    design = edited(options)
    report = evaluate(design)
    print(log_text(design, report) if options.json else "\n".join(log_lines(design, report)))
    return 0


def compare(options: argparse.Namespace) -> int:
    from ridgeline.design.keeping import at
    from ridgeline.engine.advice.two_versions import differences
    from ridgeline.engine.pipeline import evaluate
    from ridgeline.files.compare_file import compare_lines, compare_text
    from ridgeline.files.design_file import load
    from ridgeline.typed import short

    def version(word: str) -> Any:
        if word == "now":
            return design
        if not (word.isascii() and word.isdecimal() and len(word) < 7):
            raise DesignError("VERSION", f"“{short(word)}”", "the number of a version, or now; or one other file alone")
        return at(design, int(word))

    design = load(options.file)
    is_file = not options.one.isdecimal() and options.one != "now"
    if is_file and options.other == "now":
        names, one, other = (options.file, options.one), design, load(options.one)
    else:
        names, one, other = (options.one, options.other), version(options.one), version(options.other)
    report = evaluate(one)
    found = differences(one, report, other, report.trial()(other))
    print(compare_text(names, found) if options.json else "\n".join(compare_lines(names, found)))
    return 0


def _whole(text: str, path: str, low: int, high: int) -> int:
    from ridgeline.typed import short

    if not (text.isascii() and text.isdecimal() and len(text) < 7 and low <= int(text) <= high):
        raise DesignError(path, f"“{short(text)}”", f"a whole number, {low} to {high}")
    return int(text)


def throw(options: argparse.Namespace) -> int:
    """Fly the first throw on paper."""
    from ridgeline.engine.flight.ghosts import ghosts_of, with_ghosts
    from ridgeline.engine.flight.odds import odds_of
    from ridgeline.engine.flight.throwing import launch_of
    from ridgeline.engine.pipeline import evaluate
    from ridgeline.files.throw_file import throw_lines, throw_text
    from ridgeline.typed import parse

    design = edited(options)
    plan: dict[str, Any] = {}
    aft = parse(options.cg, "length", path="--cg") if options.cg else 0.0
    if abs(aft) > 0.5:
        raise DesignError("--cg", f"“{options.cg}”", "500 mm forward to 500 mm aft")
    if options.wind:
        plan["wind"] = parse(options.wind, "speed", path="--wind")
    seed = _whole(options.seed, "--seed", 0, 999_999)
    builds = _whole(options.odds, "--odds", 2, 2000) if options.odds else 0
    if plan:
        from ridgeline.design.paths import put

        design = put(design, "first_throw.wind", plan["wind"])
    report = evaluate(design)
    launch = launch_of(design, report)
    if launch is None:
        raise DesignError(options.file, "a design that cannot be trimmed to fly", "wing, tail, masses and a balance")
    ghosts = ghosts_of(design, launch)
    thrown = with_ghosts(launch, ghosts, aft=aft, seed=seed)
    odds = odds_of(design, report, launch, builds=builds, seed=seed) if builds else None
    if options.json:
        print(throw_text(launch, thrown, ghosts, odds), end="")
    else:
        print("\n".join(throw_lines(launch, thrown, ghosts, odds)))
    return 0


def diagnose(options: argparse.Namespace) -> int:
    """Print what the flights say."""
    from ridgeline.engine.flight.diagnosis import as_flown, diagnosed
    from ridgeline.engine.pipeline import evaluate
    from ridgeline.files.diagnose_file import diagnose_lines, diagnose_text

    design = as_flown(edited(options))
    report = evaluate(design)
    found = diagnosed(design, report)
    print(diagnose_text(design, report, found) if options.json else "\n".join(diagnose_lines(design, report, found)))
    return 0
