"""Write the shipped demo designs anew in the present format, after the document's definition changed."""

from __future__ import annotations

from pathlib import Path

from ridgeline.files.design_file import load, to_text
from ridgeline.library import demo_names

FOLDER = Path(__file__).resolve().parents[1] / "src" / "ridgeline" / "library" / "demo"


def main() -> None:
    """Load each demo, migrating it, and write it back."""
    for name in demo_names():
        (FOLDER / f"{name}.ridge").write_text(to_text(load(f"demo:{name}")), "utf-8")


if __name__ == "__main__":
    main()
