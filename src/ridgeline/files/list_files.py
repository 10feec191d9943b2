"""Lists as tables: pieces and their sheets, rods cut from stock, what is printed and bought, the order of building."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator

from ridgeline.design.document import Design
from ridgeline.engine.build.whole import pieces_of_design
from ridgeline.engine.report import Report
from ridgeline.engine.templates.build_order import build_order
from ridgeline.engine.templates.nesting import Nested
from ridgeline.engine.templates.prints import Print, prints_of
from ridgeline.engine.templates.shopping import needs_of
from ridgeline.engine.templates.stock_cut import cut_from, rods_of
from ridgeline.files.own_bin import load_bin, parts_on_hand


def lists_of(design: Design, report: Report, found: Nested) -> Iterator[tuple[str, str]]:
    """Yield the lists of a design: what each is called, and its text.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.
    found : Nested
        Its patterns on sheets.

    Yields
    ------
    name, text : str
        Comma separated, in millimetres, grams and minutes; the units stand in the heads.
    """
    yield "pieces", _pieces(found)
    yield "rods", _rods(design, report)
    yield "prints", _prints(prints_of(design, report, parts_on_hand()))
    yield "to buy", _to_buy(design, report, found)
    yield "order", _order(design)


def _prints(parts: tuple[Print, ...]) -> str:
    """Return what is printed, of what, how, what it weighs and how long it takes."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(["part", "material", "count", "hand", "walls", "infill_percent", "each_g", "each_min_fast",
                   "each_min_slow", "fits_bed", "notes"])  # fmt: skip
    for one in parts:
        hand = {1: "starboard", -1: "port", 0: ""}[one.hand]
        fast, slow = (f"{60 * hours:.0f}" for hours in one.hours)
        rows.writerow([one.name, one.material, one.count, hand, f"{one.walls:g}", f"{100 * one.infill:.0f}",
                       f"{1000 * one.mass:.1f}", fast, slow, "yes" if one.fits else "no",
                       "; ".join(one.notes)])  # fmt: skip
    return out.getvalue()


def _pieces(wanted: Nested) -> str:
    """Return which piece is cut from which sheet."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(["sheet", "piece", "material", "long_mm", "wide_mm", "area_mm2", "mass_g"])
    for k, sheet in enumerate(wanted.sheets):
        for one in sheet.laid:
            low_x, low_y, high_x, high_y = one.pattern.polygon.bounds
            rows.writerow(
                [k + 1, one.pattern.name, one.pattern.material, f"{1000 * (high_x - low_x):.1f}",
                 f"{1000 * (high_y - low_y):.1f}", f"{1e6 * one.pattern.area:.0f}", f"{1000 * one.pattern.mass:.2f}"]
            )  # fmt: skip
    return out.getvalue()


def _rods(design: Design, report: Report) -> str:
    """Return which rod is cut from which length of stock, and what is left of it."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(["stock", "length_mm", "cut", "piece_mm", "left_mm"])
    for material, pieces in rods_of(design, report).items():
        for number, length in enumerate(cut_from(pieces)):
            for rod in length.pieces:
                rows.writerow([f"{material} {number + 1}", f"{1000 * length.stock:.0f}", rod.name,
                               f"{1000 * rod.length:.0f}", f"{1000 * length.left:.0f}"])  # fmt: skip
    return out.getvalue()


def _to_buy(design: Design, report: Report, wanted: Nested) -> str:
    """Return what is needed, how much of it is there, what is to buy, and its price as far as it is known."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(["kind", "name", "use", "needed", "unit", "there", "buy", "each", "cost"])
    for one in needs_of(design, report, wanted, load_bin()[0].stocked):
        told = ("" if one.there is None else f"{one.there:g}", f"{one.buy:g}")
        money = ("" if value is None else f"{value:.2f}" for value in (one.each, one.cost))
        rows.writerow([one.kind, one.name, one.use, f"{one.amount:g}", one.unit, *told, *money])
    return out.getvalue()


def _order(design: Design) -> str:
    """Return the order it is built in: what goes in at each step, what waits for what, what sets, what is fragile."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(["step", "do", "pieces", "fit", "after", "sets_min", "closes", "fragile"])
    pieces, items = pieces_of_design(design), {item.id: item.name for item in design.parts}
    steps = build_order(design)
    number = {step.key: k + 1 for k, step in enumerate(steps)}
    for step in steps:
        laid = ", ".join(dict.fromkeys(pieces[k].name for k in step.pieces))
        before = " ".join(str(k) for k in sorted(number[key] for key in step.after))
        fit, sets = ", ".join(items[i] for i in step.items), f"{step.cures:g}" if step.cures else ""
        shut = "yes" if step.closes else ""
        rows.writerow([number[step.key], step.words, laid, fit, before, sets, shut, step.fragile])
    return out.getvalue()
