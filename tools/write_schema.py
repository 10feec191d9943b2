"""Write docs/design.schema.json and docs/format.md from the document's own definition."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from ridgeline.design.document import FORMAT_VERSION, Design
from ridgeline.files.design_file import _LARGEST
from ridgeline.files.json_text import _MOST_ENTRIES

DOCS = Path(__file__).resolve().parents[1] / "docs"

HEAD = f"""# The design file

A design is one plain-text JSON file, UTF-8, with a name ending in `.ridge`. Numbers are in SI units; a field that
holds anything else says so in its name (`capacity_ah`, `kv_rpm_per_v`, `temperature_c`). Angles are radians. This is
format version {FORMAT_VERSION}; the machine-readable schema is [design.schema.json](design.schema.json). Both pages are
written from the code by `tools/write_schema.py`, and a test holds them to it.

* Axes: x aft from the datum (the foremost point), y to starboard, z up. A mirrored entry stands for both sides.
* A surface's stations lie in its own axes, out along the unfolded panel; `cant` then turns the panel up about its root.
* Every part, control and motor mount has an `id` that never changes; what refers to a part does so by it (`build.of`,
  `on.to`, `drives`). Ids mean nothing by their letters; one left out is numbered on opening, one given twice is
  refused. Versions of a part that fly in different sets share its id. Sets have ids too: `sets` of a part and `fitted`
  are those; sets that go by name, as older files have them, are given ids on opening. Names are words and change
  nothing.
* A body's sections count from the body's own origin (`x`, `y`, `z`), its nose as it is laid out. A motor mount stands
  at the firewall: spacer, motor and adapter say where the propeller turns.
* An item that hangs on a part says where on that (`on`): out along a surface's panel, the share of its chord and the
  height over it; behind, aside and over a body's origin or a mount. Its `x`, `y`, `z` follow and are not written;
  where a file says them besides, they are not believed. A free item says `x`, `y`, `z`.
* `built` of a surface or body says how it is built; a form reads only the fields that it has. An item whose `build` is
  of the kind `pieces` stands for that part's shell, spars or covering, or for the glue of all; its `estimate` is what
  it came to when it was made.
* Item masses are for one piece; `count` pieces are carried. A weighed value wins over an estimate. An item with a
  `component` takes its estimate from the power train, one with a `servo` of known mass from that. An estimate below
  nothing is what is cut out: a hollow where it lies.
* A control's hinge is told by `chord_fraction`, or by `width` at its inner and `width_out` at its outer end. A body's
  station is as round as its body unless it says its own `rounding`. `joint` says how a part comes off for the transport
  box of the brief, `seat` which holes or settings a surface can be bolted to.
* A brief with `propulsion` "none" is of a glider, with `controls` "none" of one that nothing steers; neither is a lack.
* Saving writes a temporary file, syncs it, keeps the two last states as `NAME.ridge~` and `NAME.ridge~2` and renames.
  Links are followed; a file of several names is written in place, the whole text beside it until that is done.
* A reader refuses a file whole, naming line, column and field, what it understood and what is allowed. It reads UTF-8
  and, by its mark, UTF-16 and UTF-32, with any line ends. A number stands as a number (no `"0.18"`, no `true`), whole
  numbers without a point, every field once, up to {_MOST_ENTRIES:,} entries and {_LARGEST // 10**6} MB; older versions
  are migrated on opening, newer ones refused.
* `versions` are the aircraft as they were kept: each says what `changed` since the one before, the first since
  nothing, as patches of the plain data (`[path, value]`, `[path]` for what is gone, `[path, start, removed, values]`
  within a list), without log, signatures and bench. In them a picture is `#` and its mark; it stands among `pictures`,
  or under a view of the design itself. `revision` is the number of the aircraft as it stands: that of the newest
  version until it is edited.
* `flights` are the log, `signed` the lines of the setup list with a mark of what each hung on, `as_built` heights
  and lengths of the bench, `learnt` what flights changed of what is reckoned (`taken` says of each field what stood
  there before), `first_throw` the plan of a launch to be flown on paper: what is left out follows the aircraft.
* Tables (items, bench rows, coefficients, parts) name their columns by header and unit. What can be read in one way
  only is read; a row or column that cannot is left out and reported with its line. In a text cell that a spreadsheet
  would run (it begins with `=`, `+`, `-`, `@`, tab or return) a `'` comes first, and is taken off again on reading.
* Work that is not saved stands in a journal of the sitting, in the folder `sittings` of the user's data folder: a line
  of JSON that says who writes it, one for what is open, one with the design the edits begin at, then one for each edit,
  with its label, its time and its patches (`[path, value]`, or `[path, start, removed, values]` within a list).

Paths such as `surfaces[0].stations[1].chord` name a value on the command line (`--set`) and in every error.
"""


def _kind(field: dict[str, Any]) -> str:
    if "$ref" in field:
        return field["$ref"].rsplit("/", 1)[-1]
    if "anyOf" in field:
        return " or ".join(_kind(option) for option in field["anyOf"])
    if "enum" in field:
        return " \\| ".join(f'"{value}"' for value in field["enum"])
    if "const" in field:
        return json.dumps(field["const"])
    if field.get("type") == "array":
        return f"list of {_kind(field.get('items', {}))}"
    return str(field.get("type", "any")).replace("null", "none")


def _limits(field: dict[str, Any]) -> str:
    options = [field, *field.get("anyOf", [])]
    words = {"exclusiveMinimum": "> ", "minimum": "≥ ", "maximum": "≤ "}
    return ", ".join(f"{sign}{option[key]:g}" for key, sign in words.items() for option in options if key in option)


def _table(name: str, schema: dict[str, Any]) -> str:
    lines = [f"\n## {name}\n", schema.get("description", "").split("\n")[0], ""]
    lines += ["| field | kind | unit | limits | meaning |", "|---|---|---|---|---|"]
    for key, field in schema.get("properties", {}).items():
        row = (f"`{key}`", _kind(field), field.get("unit", ""), _limits(field), field.get("description", ""))
        lines.append("| " + " | ".join(row) + " |")
    return "\n".join(lines)


def main() -> None:
    """Write both files."""
    schema = Design.model_json_schema()
    (DOCS / "design.schema.json").write_text(json.dumps(schema, indent=1, ensure_ascii=False) + "\n", "utf-8")
    parts = [HEAD, _table("Design", schema)]
    parts += [_table(name, part) for name, part in schema["$defs"].items()]
    (DOCS / "format.md").write_text("\n".join(parts) + "\n", "utf-8")


if __name__ == "__main__":
    main()
