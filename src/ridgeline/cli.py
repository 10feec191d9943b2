"""The command line: ``figures``, ``check``, ``layout``, ``pieces``, ``stock``, ``export``, and ``open``; no Qt."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable, Sequence
from typing import Any

from ridgeline import cli_flights
from ridgeline.cli_design import edited, edits
from ridgeline.cli_words import COMMANDS, parser, signed
from ridgeline.errors import DesignError

Opener = Callable[..., int]


def main(arguments: Sequence[str] | None = None, window: Opener | None = None, sheets: Sequence[str] = ()) -> int:
    """Run the command line; returns the exit status (0 well, 1 a finding says stop, 2 bad input).

    Parameters
    ----------
    window : callable, optional
        Opens the window on a file, with ``shot``, ``sheet``, ``size`` and ``theme``; without it ``open`` is refused.
    sheets : sequence of str
        Those the window has.
    """
    words = list(sys.argv[1:] if arguments is None else arguments)
    if not words or (words[0] not in COMMANDS and not words[0].startswith("-")):
        words.insert(0, "open")
    options = parser(sheets).parse_args(signed(words))
    try:
        plain = {
            "figures": _figures,
            "check": _check,
            "layout": _layout,
            "pieces": _pieces,
            "stock": _stock,
            "linkage": _linkage,
            "export": _export,
            "log": cli_flights.log,
            "compare": cli_flights.compare,
            "throw": cli_flights.throw,
            "diagnose": cli_flights.diagnose,
        }
        if options.command in plain:
            return plain[options.command](options)
        return _open(options, window)
    except DesignError as error:
        print(f"ridgeline: {error}", file=sys.stderr)
        return 2
    except BrokenPipeError:
        return 0


def _layout(options: argparse.Namespace) -> int:
    from ridgeline.design.document import Design
    from ridgeline.design.paths import put, read_text
    from ridgeline.engine.pipeline import evaluate
    from ridgeline.engine.sizing.layout import lay_out
    from ridgeline.engine.sizing.wishes import brief_of
    from ridgeline.files.design_file import SUFFIX, to_text
    from ridgeline.library import shipped_shelf
    from ridgeline.typed import short

    wishes, typed = Design(), {}
    for path, text in edits(options, "brief.ceiling=249 g"):
        group, _dot, field = path.partition(".")
        if group != "brief" or field not in {*type(wishes.brief).model_fields} - {"typed"}:
            raise DesignError("--set", f"“{short(path)}”", "a wish of the brief, such as brief.ceiling")
        wishes = put(wishes, path, read_text(wishes, path, text))
        typed[field] = getattr(wishes.brief, field)
    design = lay_out(brief_of(typed), shipped_shelf(), options.name)
    if options.out:
        _write(options.out, (SUFFIX,), options.overwrite, lambda: to_text(design))
    return _print(evaluate(design), options.json)


def _write(place: str, suffixes: tuple[str, ...], overwrite: bool, text: Callable[[], str]) -> Any:
    """Write a file that is not there yet, or over one where that was said; returns its path."""
    from ridgeline.files.atomic import write_atomically
    from ridgeline.files.names import named

    path = named(place, *suffixes)
    if path.exists() and not overwrite:
        raise DesignError(path.name, "a file that is there already", "another name, or --overwrite")
    write_atomically(path, text())
    return path


def _figures(options: argparse.Namespace) -> int:
    if options.list:
        return _list(options.json)
    from ridgeline.engine.pipeline import evaluate

    design = edited(options)
    report = evaluate(design)
    if not options.no_throw:
        from ridgeline.engine.flight.throw_figures import with_throws

        report = with_throws(design, report)
    return _print(report, options.json)


def _print(report: Any, as_json: bool) -> int:
    from ridgeline.units import band_shown, with_unit

    if as_json:
        from ridgeline.files.report_file import report_text

        print(report_text(report), end="")
        return 0
    for key, figure in report.figures.items():
        if figure.value is None:
            text = f"– ({figure.why_not})"
        else:
            text = (
                f"{with_unit(figure.value, figure.quantity)} {band_shown(figure.below, figure.above, figure.quantity)}"
            )
        print(f"{key:36} {figure.label:28} {text}")
    for finding in report.findings:
        print(f"[{finding.level}] {finding.text} {finding.reason}")
    return 0


def _list(as_json_too: bool) -> int:
    from ridgeline.engine.register import FAMILIES, REGISTER, entry_of
    from ridgeline.units import STORED_UNIT

    known = {**REGISTER, **{f.key(f"<{f.of}>"): entry_of(f.key(f.of)) for f in FAMILIES}}
    rows = {key: {"label": e.label, "unit": STORED_UNIT[e.quantity], "about": e.about} for key, e in known.items()}
    if as_json_too:
        print(json.dumps(rows, indent=1, ensure_ascii=False))
        return 0
    for key, row in rows.items():
        print(f"{key:36} {row['unit']:8} {row['label']}: {row['about']}")
    return 0


def _check(options: argparse.Namespace) -> int:
    from ridgeline.engine.pipeline import evaluate
    from ridgeline.files.own_bin import parts_on_hand

    report = evaluate(edited(options), parts_on_hand)
    for finding in report.findings:
        print(f"[{finding.level}] {finding.text} {finding.reason}")
    return 1 if any(finding.level == "stop" for finding in report.findings) else 0


def _pieces(options: argparse.Namespace) -> int:
    from ridgeline.engine.build.whole import parts_of, pieces_of_design
    from ridgeline.files.pieces_file import pieces_text
    from ridgeline.units import with_unit

    design = edited(options)
    if options.json:
        print(pieces_text(design), end="")
        return 0
    names = {part.id: part.name for _path, part in parts_of(design)}
    for piece in pieces_of_design(design):
        size = with_unit(piece.area, "area") if piece.area else with_unit(piece.length, "length")
        mass = with_unit(piece.total, "mass")
        print(f"{names[piece.of]:16} {piece.name:14} {piece.pieces:3} × {size:12} {mass:>9}  {piece.material}")
    return 0


def _stock(options: argparse.Namespace) -> int:
    from ridgeline.engine.advice.spar_ways import called, question
    from ridgeline.engine.pipeline import evaluate
    from ridgeline.engine.structure.choosing import answers, shortest_end
    from ridgeline.engine.structure.half import why_not
    from ridgeline.engine.structure.stepped import stepped
    from ridgeline.files.exports import surface_called
    from ridgeline.files.own_bin import parts_on_hand
    from ridgeline.files.stock_file import stock_text
    from ridgeline.units import with_unit

    design = edited(options)
    report = evaluate(design, parts_on_hand)
    surface, found = surface_called(design, options.of), report.results.bearing
    asked = None if surface is None or found is None else question(design, report, design.surfaces.index(surface))
    if surface is None or found is None or asked is None:
        why = report.figures["structure.wing_share"].why_not if found is None or surface is None else why_not(surface)
        raise DesignError(options.file, why, "a wing whose build, spars and masses are known")
    stock = parts_on_hand().materials
    tried, steps = answers(asked, stock), stepped(asked, stock)
    if options.json:
        print(stock_text(asked, tried, found.factor, steps), end="")
        return 0
    for one in tried:
        name = called(one.material.name, one.number, apart=one.apart)
        mark = "holds" if one.holds else "too thick" if not one.fits else "over"
        bears, tip = with_unit(found.factor * one.bears, "factor"), with_unit(abs(one.tip), "length")
        print(f"{name:42} {with_unit(one.mass, 'mass', decimals=1):>9} bears {bears:>9} tip {tip:>8}  {mark}")
    if steps is not None:
        size = with_unit(steps.mass, "mass", decimals=1)
        print(f"in two steps: {steps.inner.name} to {steps.step:.0%} of the panel, then {steps.outer.name}, {size}")
    print(f"{surface.name}: its spar may end at {shortest_end(asked):.0%} of the panel")
    return 0


def _linkage(options: argparse.Namespace) -> int:
    from ridgeline.engine.advice.linkage_edits import called
    from ridgeline.engine.pipeline import evaluate
    from ridgeline.files.linkage_file import control_called, linkage_text
    from ridgeline.units import with_unit

    design = edited(options)
    linking = evaluate(design).results.linking
    row = control_called(design, linking, options.control or "")
    if row is None:
        known = ", ".join(f"{r.control.id} ({called(design.surfaces[r.surface], r.control)})" for r in linking.rows)
        raise DesignError("CONTROL", f"“{options.control or ''}”", f"the id of a linked control: {known or 'none is'}")
    if options.like:
        return _like(options, design, linking)
    if options.json:
        print(linkage_text(design, row), end="")
        return 0
    for side in row.sides:
        print(f"{called(design.surfaces[row.surface], row.control)}, {side.side}")
        for turn, angle in zip(side.travel.turns[::6], side.travel.motion.surface[::6], strict=True):
            stands = "binds" if angle != angle else with_unit(float(angle), "angle")
            print(f"  servo {with_unit(float(turn), 'angle'):>8}   trailing edge down {stands:>8}")
    return 0


def _like(options: argparse.Namespace, design: Any, linking: Any) -> int:
    """Print what gives every control the throws of another design."""
    from ridgeline.engine.advice.alike import throws_like
    from ridgeline.engine.pipeline import evaluate
    from ridgeline.files.design_file import load
    from ridgeline.units import with_unit

    other = load(options.like)
    found = throws_like(design, linking, other, evaluate(other).results.linking)
    for one in found.rows:
        up, down = (with_unit(angle, "angle") for angle in one.throw)
        reached = "" if one.reached else "   no hole here reaches that"
        print(f"{one.surface.name}: {one.control.kind:12} {up:>8} up {down:>8} down{reached}")
    for change in found.changes:
        print(f"  --set {change.path}={change.value}")
    return 0


def _templates(options: argparse.Namespace) -> int:
    """Write templates into a folder, and print the files."""
    from pathlib import Path

    from ridgeline.engine.pipeline import evaluate
    from ridgeline.files.template_files import read_kerf, read_sheet, write_templates

    if options.file:
        raise DesignError("export", f"“{options.file}”", "with --what, one design file alone")
    options.file = options.what
    if not options.out:
        raise DesignError("--out", "nothing", "the folder to write into")
    design = edited(options)
    cutting = design.cutting
    if options.sheet:
        # Offcuts that are kept for a board of their own stay beside the sheets that are typed.
        kept = (sheet for sheet in cutting.sheets if sheet.material)
        cutting = cutting.model_copy(update={"sheets": (*(read_sheet(text) for text in options.sheet), *kept)})
    if options.kerf:
        cutting = cutting.model_copy(update={"kerf": read_kerf(options.kerf)})
    places = write_templates(
        design, evaluate(design), options.kind, Path(options.out), cutting=cutting, paper=options.paper,
        force=options.force, tight=options.tight,
    )  # fmt: skip
    for place in places:
        print(place)
    return 0


def _export(options: argparse.Namespace) -> int:
    from ridgeline.files.exports import EXPORT, EXPORTS, Source, surface_called, text_of
    from ridgeline.typed import short

    if options.list:
        for row in EXPORTS:
            print(f"{row.key:16} {row.suffixes[0]:6} {row.words}{', of a surface' if row.of_surface else ''}")
        return 0
    if options.kind:
        return _templates(options)
    if options.what not in EXPORT:
        raise DesignError("export", f"“{short(options.what or '')}”", "one of " + ", ".join(EXPORT))
    design = edited(options)

    def report() -> Any:
        from ridgeline.engine.pipeline import evaluate

        return evaluate(design)

    export, source = EXPORT[options.what], Source(design, report, surface_called(design, options.of))
    if options.place == "-":
        print(text_of(export, source), end="")
        return 0
    if not options.place:
        raise DesignError("PLACE", "nothing", "a file name, or - to print it")
    print(f"wrote {_write(options.place, export.suffixes, options.overwrite, lambda: text_of(export, source))}")
    return 0


def _open(options: argparse.Namespace, window: Opener | None) -> int:
    if window is None:
        raise DesignError("open", "no window here", "figures or check; `ridgeline` itself opens the window")
    return window(
        options.file if hasattr(options, "file") else None,
        shot=getattr(options, "shot", None),
        sheet=getattr(options, "sheet", "balance"),
        size=getattr(options, "size", None),
        theme=getattr(options, "theme", None),
    )
