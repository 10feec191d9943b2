"""The words of the command line: its commands and what each takes."""

from __future__ import annotations

import argparse
from collections.abc import Sequence

from ridgeline import __version__

COMMANDS = (
    "figures",
    "check",
    "layout",
    "pieces",
    "stock",
    "linkage",
    "export",
    "log",
    "compare",
    "throw",
    "diagnose",
    "open",
)


def parser(sheets: Sequence[str]) -> argparse.ArgumentParser:
    """Return what reads the command line; ``sheets`` are those the window has."""
    words = argparse.ArgumentParser(
        prog="ridgeline", description="Size, balance and power a scratch-built model aircraft, and see the working."
    )
    words.add_argument("--version", action="version", version=f"ridgeline {__version__}")
    commands = words.add_subparsers(dest="command")
    figures = commands.add_parser("figures", help="evaluate a design and print its figures")
    figures.add_argument("file", nargs="?", help="a .ridge file, or demo:NAME")
    figures.add_argument("--set", action="append", default=[], metavar="PATH=VALUE", dest="edits", help="edit first")
    figures.add_argument("--json", action="store_true", help="print JSON in stored (SI) units")
    figures.add_argument("--list", action="store_true", help="print the register of figures")
    figures.add_argument("--no-throw", action="store_true", help="leave out what a throw has to be flown for")
    check = commands.add_parser("check", help="print the findings; exit 1 when one says stop")
    check.add_argument("file", help="a .ridge file, or demo:NAME")
    check.add_argument("--set", action="append", default=[], metavar="PATH=VALUE", dest="edits", help="edit first")
    layout = commands.add_parser("layout", help="lay out an airframe from wishes and print its figures")
    layout.add_argument("--set", action="append", default=[], metavar="PATH=VALUE", dest="edits", help="a wish")
    layout.add_argument("--name", default="Untitled", help="name of the design")
    layout.add_argument("--out", metavar="FILE", help="write the design")
    layout.add_argument("--overwrite", action="store_true", help="write over a file that is there")
    layout.add_argument("--json", action="store_true", help="print JSON in stored (SI) units")
    pieces = commands.add_parser("pieces", help="print the pieces a design is built of")
    pieces.add_argument("file", help="a .ridge file, or demo:NAME")
    pieces.add_argument("--set", action="append", default=[], metavar="PATH=VALUE", dest="edits", help="edit first")
    pieces.add_argument("--json", action="store_true", help="print JSON in stored (SI) units, outlines and all")
    linkage = commands.add_parser("linkage", help="the angle of a control over the travel of its servo")
    linkage.add_argument("file", help="a .ridge file, or demo:NAME")
    linkage.add_argument("control", help="id of the control, or its kind where there is one of that")
    linkage.add_argument("--set", dest="edits", action="append", default=[], metavar="PATH=VALUE")
    linkage.add_argument("--like", default="", metavar="OTHER", help="take the throws of another design")
    linkage.add_argument("--json", action="store_true")
    stock = commands.add_parser("stock", help="try every stock as the spar of a wing, the lightest that holds first")
    stock.add_argument("file", help="a .ridge file, or demo:NAME")
    stock.add_argument("--of", default="", metavar="SURFACE", help="id or name of the surface; the main wing without")
    stock.add_argument("--set", action="append", default=[], metavar="PATH=VALUE", dest="edits", help="edit first")
    stock.add_argument("--json", action="store_true", help="print JSON in stored (SI) units")
    export = commands.add_parser("export", help="write a table, a section or the figures of a design")
    export.add_argument("what", nargs="?", help="what to write: see --list")
    export.add_argument("file", nargs="?", help="a .ridge file, or demo:NAME")
    export.add_argument("place", nargs="?", help="where to; - prints it")
    export.add_argument("--of", default="", metavar="SURFACE", help="id or name of the surface; the main wing without")
    export.add_argument("--set", action="append", default=[], metavar="PATH=VALUE", dest="edits", help="edit first")
    export.add_argument("--overwrite", action="store_true", help="write over a file that is there")
    export.add_argument("--list", action="store_true", help="print what can be written")
    export.add_argument("--what", dest="kind", default="", help="pdf, tiles, dxf, svg, stl, 3mf, lists or summary")
    export.add_argument("--out", default="", metavar="DIR", help="templates: the folder they are written into")
    export.add_argument("--sheet", action="append", default=[], metavar="508x762", help="templates: a sheet, mm")
    export.add_argument("--paper", default="a4", help="templates: a4, letter or a3 of tiles; roll of a pdf")
    export.add_argument("--kerf", default="", metavar="MM", help="templates: what the tool takes away")
    export.add_argument("--tight", action="store_true", help="templates: pack the sheets tighter first, for a minute")
    export.add_argument("--force", action="store_true", help="templates: write over files that are there")
    log = commands.add_parser("log", help="print the flights of a design and what they come to")
    log.add_argument("file", help="a .ridge file, or demo:NAME")
    log.add_argument("--set", action="append", default=[], metavar="PATH=VALUE", dest="edits", help="edit first")
    log.add_argument("--json", action="store_true", help="print JSON in stored (SI) units")
    compare = commands.add_parser("compare", help="two versions of a design, or two files: what differs")
    compare.add_argument("file", help="a .ridge file, or demo:NAME")
    compare.add_argument("one", help="a version by its number, now for the design as it stands, or another file")
    compare.add_argument("other", nargs="?", default="now", help="another version; now by default")
    compare.add_argument("--json", action="store_true", help="print JSON in stored (SI) units")
    throw = commands.add_parser("throw", help="fly the first throw on paper, and beside it with what could be wrong")
    throw.add_argument("file", help="a .ridge file, or demo:NAME")
    throw.add_argument("--set", action="append", default=[], metavar="PATH=VALUE", dest="edits", help="edit first")
    throw.add_argument("--cg", default="", metavar="+10mm", help="balance further aft than reckoned, or ahead: -10mm")
    throw.add_argument("--wind", default="", metavar="M/S", help="from ahead at ten metres; from behind below nothing")
    throw.add_argument("--seed", default="1", metavar="N", help="of gusts and builds")
    throw.add_argument("--odds", default="", metavar="N", help="fly so many builds drawn from the bands, such as 200")
    throw.add_argument("--json", action="store_true", help="print JSON in stored (SI) units")
    diagnose = commands.add_parser("diagnose", help="what the flights say: likely causes, cures and next tests")
    diagnose.add_argument("file", help="a .ridge file, or demo:NAME")
    diagnose.add_argument("--set", action="append", default=[], metavar="PATH=VALUE", dest="edits", help="edit first")
    diagnose.add_argument("--json", action="store_true", help="print JSON in stored (SI) units")
    window = commands.add_parser("open", help="open the window (also without a command)")
    window.add_argument("file", nargs="?", help="a .ridge file, or demo:NAME")
    window.add_argument("--shot", metavar="FILE.png", help="write a picture of the window and exit")
    window.add_argument("--sheet", default="balance", help=", ".join(sheets) or "which sheet to open first")
    window.add_argument("--size", metavar="WxH", help="window size, such as 1280x800; as it was last by default")
    window.add_argument("--theme", choices=("light", "dark"), help="paper or night")
    return words


def signed(words: Sequence[str]) -> list[str]:
    """Join options to values that begin with a minus, such as ``--cg -10mm``, which would be taken for an option."""
    joined: list[str] = []
    for word in words:
        if joined and joined[-1] in ("--cg", "--wind") and word[:1] in ("-", "−"):
            joined[-1] += f"={word}"
        else:
            joined.append(word)
    return joined
