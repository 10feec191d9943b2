"""Files that mean harm, or were made by accident: the small ones lie under tests/hostile, the large are made here."""

import base64
import json
from pathlib import Path

from ridgeline.desk.sheets.shape.underlay import picture_from_file
from ridgeline.errors import DesignError
from ridgeline.files.bench_file import read_bench
from ridgeline.files.coefficient_file import read_coefficients
from ridgeline.files.design_file import load
from ridgeline.files.item_file import read_items
from ridgeline.files.own_bin import read_parts
from ridgeline.files.section_file import read_section

FOLDER = Path(__file__).with_name("hostile")
EXPECTED = json.loads((FOLDER / "expected.json").read_text("utf-8"))


def _picture(place):
    picture_from_file(place)
    return []


#: What reads a kind of file, by the first word of its name; each returns its report.
READERS = {
    "design": lambda place: [load(place)][1:],
    "items": lambda place: read_items(place).report,
    "bench": lambda place: read_bench(place).report,
    "coefficients": lambda place: read_coefficients(place)[1],
    "section": lambda place: read_section(place).report,
    "parts": lambda place: read_parts(place)[2],
    "picture": _picture,
}


def answer(kind, place):
    """Return what a reader says of a file: its refusal, or its report, as lines."""
    try:
        return READERS[kind](place)
    except DesignError as error:
        return [str(error)]


def large():
    """Yield the large cases: kind, name, bytes, and words of the answer."""
    design = '{"format": "ridgeline", "format_version": 2, %s}'
    yield "design", "many entries", (design % ('"note": [' + "0," * 3_000_000 + "0]")).encode(), "500 000 entries"
    yield "design", "many digits", (design % ('"revision": ' + "9" * 2_000_000)).encode(), "2000000 digits"
    yield "design", "deep", b"[" * 5_000_000, "nested too deep"
    yield "design", "vast", b" " * 70_000_000, "a design file of up to 64 MB"
    yield "design", "one string", (design % ('"note": "' + "a" * 20_000_000 + '"')).encode(), "4000 letters at most"
    picture = base64.b64encode(b"x" * 9_000_000).decode()
    entry = f'{{"name": "a", "picture": "{picture}"}}'
    yield "design", "picture too large", (design % f'"underlays": [{entry}]').encode(), "8000000 letters at most"
    yield (
        "design",
        "late error",
        (design % ('"parts": [' + "{}," * 100_000 + "{}]")).encode(),
        "this field to be present",
    )
    yield "design", "backslashes", (design % ('"name": "' + "\\\\" * 4_000_000)).encode(), "cut short"
    for kind, header in (
        ("items", "item,estimate (g)"),
        ("bench", "throttle,V,A,rpm,thrust"),
        ("coefficients", "J,CT,CP"),
    ):
        yield kind, "many rows", (header + "\n" + "x\n" * 1_500_000).encode(), "a table of up to 10000 rows"
        yield kind, "one cell", (header + "\n" + "x" * 200_000 + ",1\n").encode(), "more letters than any has"
        yield kind, "one header", ("(" * 3_900_000).encode(), "more letters than any has"
        yield kind, "spaces", (" " * 3_900_000).encode(), "nothing"
        yield kind, "too large", b"x" * 4_100_000, "a table of up to 4 MB"
        yield kind, "many columns", ("a," * 500_000).encode(), "columns"
    yield (
        "items",
        "open bracket",
        ("item,estimate (" + " " * 1_000_000 + "\nSpar,1\n").encode(),
        "more letters than any has",
    )
    yield "parts", "many rows", ("name,capacity_mah\n" + "x,1\n" * 9_999).encode(), "line 2"
    yield "section", "digits", ("1" * 399_000).encode(), "0 points"
    yield "section", "lines of digits", ("1" * 39 + "x\n").encode() * 9_000, "0 points"
    yield "section", "many points", b"0.5 0.1\n" * 49_000, "understood"
    yield "picture", "too large", b"x" * 41_000_000, "a picture of up to 40 MB"
