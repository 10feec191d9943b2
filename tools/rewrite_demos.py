"""Write the shipped samples anew in the present format, after the document's definition changed."""

from __future__ import annotations

from pathlib import Path

from ridgeline.files.design_file import load, to_text
from ridgeline.library import demo_names, flown_names, gallery_names

LIBRARY = Path(__file__).resolve().parents[1] / "src" / "ridgeline" / "library"


def main() -> None:
    """Load each sample, migrating it, and write it back."""
    for name in (*gallery_names(), *flown_names()):
        folder = LIBRARY / ("demo" if name in demo_names() else "flown" if name in flown_names() else "samples")
        (folder / f"{name}.ridge").write_text(to_text(load(f"demo:{name}")), "utf-8")


if __name__ == "__main__":
    main()
