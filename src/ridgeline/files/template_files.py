"""Writing templates into a folder: sheets as DXF, SVG or PDF, tiled or whole; parts to print; lists and a summary."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from pathlib import Path
from typing import Literal, NamedTuple

from ridgeline.design.cutting import Cutting, SheetStock
from ridgeline.design.document import Design
from ridgeline.engine.report import Report
from ridgeline.engine.templates.nesting import Nested
from ridgeline.engine.templates.prints import prints_of
from ridgeline.engine.templates.underside import decals_of
from ridgeline.engine.templates.whole import laid_out, packed
from ridgeline.errors import DesignError
from ridgeline.files.atomic import write_atomically
from ridgeline.files.decal_svg import decal_svg
from ridgeline.files.list_files import lists_of
from ridgeline.files.names import safe_name
from ridgeline.files.own_bin import parts_on_hand
from ridgeline.files.sheet_dxf import sheet_dxf
from ridgeline.files.sheet_pdf import PAPERS, PaperName, full_pdf, roll_pdf, tiled_pdf
from ridgeline.files.sheet_svg import sheet_svg
from ridgeline.files.solid_files import stl_of, three_mf_of
from ridgeline.files.summary_pdf import summary_pdf
from ridgeline.typed import short

#: Sheets as they are typed, ``508x762``, mm; what a kerf may be, mm.
_SHEET = re.compile(r"(\d+(?:\.\d+)?)\s*[x×]\s*(\d+(?:\.\d+)?)")
_MOST_KERF = 5.0
#: The paper that takes every sheet on one page.
ROLL: Literal["roll"] = "roll"


class Wanted(NamedTuple):
    """What is written: the design and its report, its sheets, the kerf, m, and the paper of tiles."""

    found: Nested
    kerf: float
    paper: PaperName | Literal["roll"]
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
    written = roll_pdf if wanted.paper == ROLL else full_pdf
    yield safe_name(f"{wanted.name} sheets", ".pdf"), written(wanted.found, wanted.kerf, wanted.name)


def _tiles(wanted: Wanted) -> Iterator[File]:
    if wanted.paper == ROLL:
        raise DesignError("--paper", f"{ROLL} for tiles", "one of " + ", ".join(PAPERS) + f", or pdf on a {ROLL}")
    name = safe_name(f"{wanted.name} tiles {wanted.paper}", ".pdf")
    yield name, tiled_pdf(wanted.found, wanted.paper, wanted.kerf, wanted.name)


def _lists(wanted: Wanted) -> Iterator[File]:
    for what, text in lists_of(wanted.design, wanted.report, wanted.found):
        yield safe_name(f"{wanted.name} {what}", ".csv"), text.encode("utf-8")


def _summary(wanted: Wanted) -> Iterator[File]:
    yield safe_name(f"{wanted.name} summary", ".pdf"), summary_pdf(wanted.design, wanted.report)


def _stl(wanted: Wanted) -> Iterator[File]:
    for part in prints_of(wanted.design, wanted.report, parts_on_hand()):
        yield safe_name(f"{wanted.name} {part.name}", ".stl"), stl_of(part)


def _three_mf(wanted: Wanted) -> Iterator[File]:
    parts = prints_of(wanted.design, wanted.report, parts_on_hand())
    if parts:
        yield safe_name(f"{wanted.name} parts", ".3mf"), three_mf_of(parts)


_sheet_svgs = _sheets(".svg", lambda wanted, k: sheet_svg(wanted.found.sheets[k], wanted.kerf, wanted.name))


def _svg(wanted: Wanted) -> Iterator[File]:
    yield from _sheet_svgs(wanted)
    decals = decals_of(wanted.design)
    if decals:
        yield safe_name(f"{wanted.name} underside", ".svg"), decal_svg(decals, wanted.name).encode("utf-8")


#: What can be written, by its word on the command line.
KINDS: dict[str, Callable[[Wanted], Iterator[File]]] = {
    "pdf": _full,
    "tiles": _tiles,
    "dxf": _sheets(".dxf", lambda wanted, k: sheet_dxf(wanted.found.sheets[k], wanted.kerf)),
    "svg": _svg,
    "stl": _stl,
    "3mf": _three_mf,
    "lists": _lists,
    "summary": _summary,
}
#: Those that need sheets, and those that are written of sheets where there are any.
_OF_SHEETS, _OF_ANY = ("pdf", "tiles", "dxf", "svg"), ("lists",)


def files_of(wanted: Wanted, what: str) -> list[File]:
    """Return what is written of one kind: names, and what stands in each.

    Parameters
    ----------
    wanted : Wanted
    what : str
        A key of `KINDS`.

    Returns
    -------
    list of (str, bytes)

    Raises
    ------
    DesignError
        Of what is not known, of a design without pieces of sheet or parts to print, or pieces that no sheet takes.
    """
    if what not in KINDS:
        raise DesignError("--what", f"“{short(what)}”", "one of " + ", ".join(KINDS))
    left = wanted.found.left if what in _OF_SHEETS else ()
    if left:
        names = ", ".join(one.name for one in left[:3])
        more = f" and {len(left) - 3} more" if len(left) > 3 else ""
        raise DesignError("--sheet", f"{names}{more} on no sheet", "sheets as wide as they are, and enough of them")
    if what in _OF_SHEETS and not wanted.found.sheets:
        raise DesignError("export", "no piece of sheet", "a design that says how it is built of board")
    files = list(KINDS[what](wanted))
    if not files:
        raise DesignError("export", "nothing to print", "a design with a printed part, a motor or controls")
    return files


def write_files(files: Sequence[File], folder: Path, *, force: bool = False) -> list[Path]:
    """Write files into a folder, all of them or none over what is there.

    Parameters
    ----------
    files : sequence of (str, bytes)
    folder : Path
        Made where it is not there.
    force : bool
        Write over files that are there.

    Returns
    -------
    list of Path

    Raises
    ------
    DesignError
        Of a folder that cannot be written, or a file that is there already.
    """
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


def _paper(name: str) -> PaperName | Literal["roll"]:
    if name not in PAPERS and name != ROLL:
        raise DesignError("--paper", f"“{short(name)}”", "one of " + ", ".join((*PAPERS, ROLL)))
    return name


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


def write_templates(
    design: Design, report: Report, what: str, folder: Path, *, cutting: Cutting | None = None, paper: str = "a4",
    force: bool = False, tight: bool = False,
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
        A key of `PAPERS` for tiles, or a roll that takes every sheet on one page.
    force : bool
        Write over files that are there.
    tight : bool
        Pack the sheets tighter first, which takes up to a minute.

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
    sort = _paper(paper)
    cutting = cutting or design.cutting
    lay = packed if tight else laid_out
    found = lay(design, cutting, report) if what in (*_OF_SHEETS, *_OF_ANY) else Nested((), ())
    return write_files(files_of(Wanted(found, cutting.kerf, sort, design, report), what), folder, force=force)
