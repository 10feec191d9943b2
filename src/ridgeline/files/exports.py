"""Everything a design can be written out as: one row each, read by the menu, the sheets and the command line."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from ridgeline.design.airframe import Surface
from ridgeline.design.document import Design
from ridgeline.engine.aero.sections import section_of
from ridgeline.engine.geometry.reference import WINGS, main_wing
from ridgeline.engine.report import Report
from ridgeline.errors import DesignError
from ridgeline.files.atomic import write_atomically
from ridgeline.files.item_file import items_text
from ridgeline.files.names import named, safe_name
from ridgeline.files.radio_card import radio_card
from ridgeline.files.report_file import figures_table, report_text
from ridgeline.files.section_file import Ordering, section_text
from ridgeline.files.setup_card import setup_card


@dataclass(frozen=True)
class Source:
    """What an export is made from; the report is asked for only by what needs it."""

    design: Design
    report: Callable[[], Report]
    surface: Surface | None = None


@dataclass(frozen=True)
class Export:
    """One kind of file: what it is called, its suffixes (the first is given), and how its text is made.

    ``of_surface`` tells that it is made of one surface, which must be there.
    """

    key: str
    words: str
    suffixes: tuple[str, ...]
    text: Callable[[Source], str]
    of_surface: bool = False

    @property
    def kinds(self) -> str:
        """What a file dialog offers."""
        return f"{self.words} ({' '.join(f'*{suffix}' for suffix in self.suffixes)});;All files (*)"

    def start(self, source: Source) -> str:
        """Return the name a file of it is offered under."""
        of = source.surface.name if self.of_surface and source.surface is not None else source.design.name
        return safe_name(f"{of} {self.words.partition(',')[0].lower()}", self.suffixes[0])


def _section(ordering: Ordering) -> Callable[[Source], str]:
    def text(source: Source) -> str:
        surface = source.surface
        assert surface is not None
        shape = section_of(surface)
        return section_text(f"{source.design.name}, {surface.name}, {shape.label}", shape.outline, ordering)

    return text


_TABLE, _SECTION = (".csv", ".txt", ".tsv"), (".dat", ".txt", ".cor")
EXPORTS: tuple[Export, ...] = (
    Export("items", "Table of items", _TABLE, lambda source: items_text(source.design.parts)),
    Export("figures", "Table of figures", _TABLE, lambda source: figures_table(source.report())),
    Export("report", "Figures and findings", (".json",), lambda source: report_text(source.report())),
    Export("radio_card", "Radio card, to print", (".svg",), lambda source: radio_card(source.design, source.report())),
    Export("setup_card", "Setup card, to print", (".svg",), lambda source: setup_card(source.design, source.report())),
    Export("section", "Section, round the outline", _SECTION, _section("round"), of_surface=True),
    Export("section_halves", "Section, top then bottom", _SECTION, _section("blocks"), of_surface=True),
)
EXPORT = {row.key: row for row in EXPORTS}


def surface_called(design: Design, called: str = "") -> Surface | None:
    """Return the surface of an id or a name; of none, the main wing; None in a design without surfaces.

    Raises
    ------
    DesignError
        When no surface is called so.
    """
    for surface in design.surfaces:
        if called and called in (surface.id, surface.name):
            return surface
    if called:
        known = ", ".join(f"{s.name} ({s.id})" for s in design.surfaces) or "none: the design has no surface"
        raise DesignError("surface", f"“{called}”", known)
    if any(surface.role in WINGS for surface in design.surfaces):
        return main_wing(design.surfaces)
    return next(iter(design.surfaces), None)


def text_of(export: Export, source: Source) -> str:
    """Return the text of an export.

    Raises
    ------
    DesignError
        When what it is made of is not there.
    """
    if export.of_surface and source.surface is None:
        raise DesignError(export.words, "a design without surfaces", "a surface whose section it is")
    return export.text(source)


def write_export(export: Export, place: str | Path, source: Source) -> Path:
    """Write an export to a file; a name without a suffix of its kind gets one. Returns the path written.

    Raises
    ------
    DesignError
        When what it is made of is not there, or the file cannot be written.
    """
    path = named(place, *export.suffixes)
    write_atomically(path, text_of(export, source))
    return path
