"""Findings on templates: what splices weigh and whether they hold, sheets that spare them, bolts to measure."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence

import numpy as np

from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.build.pieces import Piece
from ridgeline.engine.build.whole import pieces_of_design
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Finding, Remedy, Report
from ridgeline.engine.structure.cases import ULTIMATE
from ridgeline.engine.templates.fittings import circle_of

#: Sheets are offered in steps of this, and no longer than this, m.
_STEP, _MOST = 0.01, 3.0


def findings(design: Design, report: Report) -> Iterator[Finding]:
    """Judge what is cut and drilled."""
    yield from _splices(design, report)
    yield from _bolts(design)


def _bolts(design: Design) -> Iterator[Finding]:
    """Tell of a mount that is drilled by its class: the motor has to be measured first."""
    motor = None if design.power is None else design.power.motor
    if motor is None or motor.diameter <= 0:
        return
    circle, measured = circle_of(motor)
    if measured:
        return
    yield Finding(
        "templates.bolts",
        "settled",
        "templates",
        say("Measure the motor's bolts before drilling."),
        say("Its mount is drawn at {}, as of its class.", Measured(circle, "length", 1)),
    )


def _splices(design: Design, report: Report) -> Iterator[Finding]:
    """Judge the splices of all pieces, where no sheet on hand takes them whole."""
    if not any(room.long < math.inf for room in report.results.rooms):
        return
    pieces = pieces_of_design(design)
    cut = [piece for piece in pieces if piece.parts]
    if not cut:
        return
    mass = math.fsum(piece.total for piece in pieces if piece.face == "splice")
    rows = report.results.splices
    worst = rows[0] if rows else None
    ways = tuple(_larger(design, cut))
    names = say(f"{{}} and {len(cut) - 1} more", cut[0].name) if len(cut) > 1 else say("{}", cut[0].name)
    if worst is not None and worst.share > 1:
        yield Finding(
            "templates.splices",
            "stop" if worst.share > ULTIMATE else "look",
            "templates",
            say("A splice of the {} would part.", design.surfaces[worst.surface].name.lower()),
            say("{} in its {} {} out; its glue bears {}.", Measured(worst.force, "force"), worst.piece.lower(),
                Measured(worst.out, "length"), Measured(worst.bears, "force")),
            ways,
            ("structure.splice_share",),
        )  # fmt: skip
        return
    yield Finding(
        "templates.splices",
        "settled",
        "templates",
        say("Pieces no sheet takes are spliced."),
        say(f"{names.template}; splices weigh {{}} together" + ("" if worst is None else ", the nearest at {} of what "
            "it bears") + ".", *names.values, Measured(mass, "mass", 1),
            *(() if worst is None else (Measured(worst.share, "fraction", 0),))),
        ways,
        ("structure.splice_share",),
    )  # fmt: skip


def _larger(design: Design, cut: Sequence[Piece]) -> Iterator[Remedy]:
    """Offer the sheet that takes every piece whole."""
    sheets = design.cutting.sheets
    index = next((k for k, one in enumerate(sheets) if one.material in ("", cut[0].material)), None)
    if index is None:
        return
    sizes = np.array([np.ptp(piece.outline, axis=0) for piece in cut])
    less = 2 * design.cutting.edge + design.cutting.kerf
    long, wide = (_STEP * math.ceil((size + less) / _STEP - 1e-9) for size in sizes.max(axis=0))
    long, wide = max(long, sheets[index].length), max(wide, sheets[index].width)
    if max(long, wide) > _MOST:
        return
    changes = (Change(f"cutting.sheets[{index}].length", round(long, 4)),
               Change(f"cutting.sheets[{index}].width", round(wide, 4)))  # fmt: skip
    yield Remedy("larger_sheets", say("Sheets of {} × {}: nothing spliced", Measured(wide, "length", 0),
                                      Measured(long, "length", 0)), changes)  # fmt: skip
