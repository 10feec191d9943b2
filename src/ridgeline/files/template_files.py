"""Writing templates into a folder: sheets as DXF, SVG or PDF, tiled or whole, and what is on which sheet."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import NamedTuple

from ridgeline.design.cutting import Cutting, SheetStock
from ridgeline.design.document import Design
from ridgeline.engine.build.whole import pieces_of_design
from ridgeline.engine.report import Report
from ridgeline.engine.templates.build_order import build_order
from ridgeline.engine.templates.gauges import templates_of
from ridgeline.engine.templates.nesting import Nested, Progress, nested
from ridgeline.engine.templates.shopping import needs_of
from ridgeline.engine.templates.splitting import split_to_fit
from ridgeline.engine.templates.stock_cut import cut_from, rods_of
from ridgeline.errors import DesignError
from ridgeline.files.atomic import write_atomically
from ridgeline.files.names import safe_name
from ridgeline.files.own_bin import load_bin
from ridgeline.files.sheet_dxf import sheet_dxf
from ridgeline.files.sheet_pdf import PAPERS, PaperName, full_pdf, tiled_pdf
from ridgeline.files.sheet_svg import sheet_svg
from ridgeline.files.summary_pdf import summary_pdf
from ridgeline.typed import short

#: Sheets as they are typed, ``508x762``, mm; what a kerf may be, mm.
_SHEET = re.compile(r"(\d+(?:\.\d+)?)\s*[x×]\s*(\d+(?:\.\d+)?)")
_MOST_KERF = 5.0


class Wanted(NamedTuple):
    """What is written: the design and its report, its sheets, the kerf, m, and the paper of tiles."""

    found: Nested
    kerf: float
    paper: PaperName
    design: Design
    report: Report

    @property
    def name(self) -> str:
        """What the design is called."""
        return self.design.name


#: A file and what stands in it.
File = tuple[str, bytes]


def _sheets(suffix: str, text: Callable[[Wanted, int], str]) -> Callable[[Wanted], Iterator[File]]:
    def files(wanted: Wanted) -> Iterator[File]:
        for k in range(len(wanted.found.sheets)):
            yield safe_name(f"{wanted.name} sheet {k + 1}", suffix), text(wanted, k).encode("utf-8")

    return files


def _full(wanted: Wanted) -> Iterator[File]:
    yield safe_name(f"{wanted.name} sheets", ".pdf"), full_pdf(wanted.found, wanted.kerf, wanted.name)


def _tiles(wanted: Wanted) -> Iterator[File]:
    name = safe_name(f"{wanted.name} tiles {wanted.paper}", ".pdf")
    yield name, tiled_pdf(wanted.found, wanted.paper, wanted.kerf, wanted.name)


def _lists(wanted: Wanted) -> Iterator[File]:
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(["sheet", "piece", "material", "long_mm", "wide_mm", "area_mm2", "mass_g"])
    for k, sheet in enumerate(wanted.found.sheets):
        for one in sheet.laid:
            low_x, low_y, high_x, high_y = one.pattern.polygon.bounds
            rows.writerow(
                [k + 1, one.pattern.name, one.pattern.material, f"{1000 * (high_x - low_x):.1f}",
                 f"{1000 * (high_y - low_y):.1f}", f"{1e6 * one.pattern.area:.0f}", f"{1000 * one.pattern.mass:.2f}"]
            )  # fmt: skip
    yield safe_name(f"{wanted.name} pieces", ".csv"), out.getvalue().encode("utf-8")
    yield safe_name(f"{wanted.name} rods", ".csv"), _rods(wanted).encode("utf-8")
    yield safe_name(f"{wanted.name} to buy", ".csv"), _to_buy(wanted).encode("utf-8")
    yield safe_name(f"{wanted.name} order", ".csv"), _order(wanted).encode("utf-8")


def _summary(wanted: Wanted) -> Iterator[File]:
    yield safe_name(f"{wanted.name} summary", ".pdf"), summary_pdf(wanted.design, wanted.report)


def _rods(wanted: Wanted) -> str:
    """Return which rod is cut from which length of stock, and what is left of it."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(["stock", "length_mm", "cut", "piece_mm", "left_mm"])
    for material, pieces in rods_of(wanted.design, wanted.report).items():
        for number, length in enumerate(cut_from(pieces)):
            for rod in length.pieces:
                rows.writerow([f"{material} {number + 1}", f"{1000 * length.stock:.0f}", rod.name,
                               f"{1000 * rod.length:.0f}", f"{1000 * length.left:.0f}"])  # fmt: skip
    return out.getvalue()


def _to_buy(wanted: Wanted) -> str:
    """Return what is needed, how much of it is there, what is to buy, and its price as far as it is known."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(["kind", "name", "use", "needed", "unit", "there", "buy", "each", "cost"])
    for one in needs_of(wanted.design, wanted.report, wanted.found, load_bin()[0].stocked):
        told = ("" if one.there is None else f"{one.there:g}", f"{one.buy:g}")
        money = ("" if value is None else f"{value:.2f}" for value in (one.each, one.cost))
        rows.writerow([one.kind, one.name, one.use, f"{one.amount:g}", one.unit, *told, *money])
    return out.getvalue()


def _order(wanted: Wanted) -> str:
    """Return the order it is built in: what goes in at each step, what waits for what, what sets, what is fragile."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(["step", "do", "pieces", "fit", "after", "sets_min", "closes", "fragile"])
    pieces, items = pieces_of_design(wanted.design), {item.id: item.name for item in wanted.design.parts}
    steps = build_order(wanted.design)
    number = {step.key: k + 1 for k, step in enumerate(steps)}
    for step in steps:
        laid = ", ".join(dict.fromkeys(pieces[k].name for k in step.pieces))
        before = " ".join(str(k) for k in sorted(number[key] for key in step.after))
        fit, sets = ", ".join(items[i] for i in step.items), f"{step.cures:g}" if step.cures else ""
        shut = "yes" if step.closes else ""
        rows.writerow([number[step.key], step.words, laid, fit, before, sets, shut, step.fragile])
    return out.getvalue()


#: What can be written, by its word on the command line.
KINDS: dict[str, Callable[[Wanted], Iterator[File]]] = {
    "pdf": _full,
    "tiles": _tiles,
    "dxf": _sheets(".dxf", lambda wanted, k: sheet_dxf(wanted.found.sheets[k], wanted.kerf)),
    "svg": _sheets(".svg", lambda wanted, k: sheet_svg(wanted.found.sheets[k], wanted.kerf, wanted.name)),
    "lists": _lists,
    "summary": _summary,
}
#: Those that need no sheet.
_WITHOUT_SHEETS = ("summary",)


def read_sheet(text: str) -> SheetStock:
    """Return a sheet as it is typed, across and along its grain in millimetres.

    Parameters
    ----------
    text : str
        As ``508x762``.

    Returns
    -------
    SheetStock

    Raises
    ------
    DesignError
    """
    read = _SHEET.fullmatch(text.strip())
    allowed = "two lengths from 20 to 5000 mm, such as 508x762"
    if read is None:
        raise DesignError("sheet", f"“{short(text)}”", allowed)
    width, length = (float(one) / 1000 for one in read.groups())
    if not (0.02 <= width <= 5 and 0.02 <= length <= 5):
        raise DesignError("sheet", f"{1000 * width:g} × {1000 * length:g} mm", allowed)
    return SheetStock(width=width, length=length)


def read_kerf(text: str) -> float:
    """Return a kerf, m, as it is typed in millimetres.

    Parameters
    ----------
    text : str

    Returns
    -------
    float

    Raises
    ------
    DesignError
    """
    try:
        value = float(text.replace(",", "."))
    except ValueError:
        value = -1.0
    if not 0 <= value <= _MOST_KERF:
        raise DesignError("kerf", f"“{short(text)}”", f"0 to {_MOST_KERF:g} mm")
    return value / 1000


def laid_out(
    design: Design, cutting: Cutting, balance: float | None = None, progress: Progress | None = None
) -> Nested:
    """Return the patterns of a design on sheets, those too large for any of them split.

    Parameters
    ----------
    design : Design
    cutting : Cutting
    balance : float, optional
        Balance point behind the datum, m, for its marks.
    progress : callable, optional

    Returns
    -------
    Nested
    """
    return nested(split_to_fit(templates_of(design, balance), cutting), cutting, progress)


def write_templates(
    design: Design, report: Report, what: str, folder: Path, *, cutting: Cutting | None = None, paper: str = "a4",
    force: bool = False,
) -> list[Path]:  # fmt: skip
    """Write templates of a design into a folder, and return the files.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design: its balance is marked.
    what : str
        A key of `KINDS`.
    folder : Path
        Made where it is not there.
    cutting : Cutting, optional
        In place of the design's.
    paper : str
        A key of `PAPERS`.
    force : bool
        Write over files that are there.

    Returns
    -------
    list of Path

    Raises
    ------
    DesignError
        Of what is not known, of a design without pieces of sheet, pieces that no sheet takes, a folder that cannot be
        written, or a file that is there already.
    """
    if what not in KINDS:
        raise DesignError("--what", f"“{short(what)}”", "one of " + ", ".join(KINDS))
    if paper not in PAPERS:
        raise DesignError("--paper", f"“{short(paper)}”", "one of " + ", ".join(PAPERS))
    cutting = cutting or design.cutting
    needed = what not in _WITHOUT_SHEETS
    found = laid_out(design, cutting, report.value("balance.cg_x")) if needed else Nested((), ())
    if found.left:
        names = ", ".join(one.name for one in found.left[:3])
        more = f" and {len(found.left) - 3} more" if len(found.left) > 3 else ""
        raise DesignError("--sheet", f"{names}{more} on no sheet", "sheets as wide as they are, and enough of them")
    if needed and not found.sheets:
        raise DesignError("export", "no piece of sheet", "a design that says how it is built of board")
    files = list(KINDS[what](Wanted(found, cutting.kerf, paper, design, report)))
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise DesignError("--out", f"“{folder}”", f"a folder that can be made: {error.strerror}") from None
    places = [folder / name for name, _data in files]
    there = next((place for place in places if place.exists()), None)
    if there is not None and not force:
        raise DesignError("--out", f"“{there.name}” is there already", "another folder, or --force")
    for place, (_name, data) in zip(places, files, strict=True):
        write_atomically(place, data, keep_previous=False)
    return places
