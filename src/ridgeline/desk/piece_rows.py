"""What an item made of pieces lets be typed: the board, papers, walls and glue of the part it is built of."""

from __future__ import annotations

from collections.abc import Iterator

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.build import Build
from ridgeline.design.construction import Board
from ridgeline.design.paths import Change
from ridgeline.design.shelf import Material
from ridgeline.desk.dimensions import Dimension
from ridgeline.desk.store import Store
from ridgeline.engine.build.whole import parts_of

_Row = tuple[str, str]
_BOARD: tuple[_Row, ...] = (("Mass per area", "board.areal"), ("Papers peeled", "board.peeled"))
_PRINT: tuple[_Row, ...] = (
    ("Printed density", "printing.density"),
    ("Line width", "printing.line_width"),
    ("Perimeters", "printing.perimeters"),
    ("Infill", "printing.infill"),
    ("Ribs over shell", "printing.ribs"),
)
_STRIPS: tuple[_Row, ...] = (("Spar strips", "strips"), ("Strip width", "strip_width"), ("Strips at", "strip_place"))
_BOX: tuple[_Row, ...] = (("Board thickness", "sheet"), ("Doubled, from the nose", "doubler"))
#: What of a construction can be typed, by its form.
SHELL_ROWS: dict[str, tuple[_Row, ...]] = {
    "plate": _BOARD,
    "stepped": (*_BOARD, ("Doubled, of the chord", "doubler")),
    "curved": (*_BOARD, ("Between ribs", "rib_spacing")),
    "folded": (*_BOARD, ("Second skin reaches", "reach"), *_STRIPS),
    "folded_under": (*_BOARD, ("Second skin reaches", "reach"), *_STRIPS),
    "ribbed": (*_BOARD, ("Between ribs", "rib_spacing"), *_STRIPS),
    "core": (("Foam density", "foam_density"),),
    "printed": _PRINT,
    "bought": (("Mass", "mass"),),
    "profile": (*_BOARD, *_BOX),
    "box": (*_BOARD, *_BOX, ("Formers", "formers")),
    "folded_box": (*_BOARD, *_BOX, ("Formers", "formers")),
    "stick": (("Mass per length", "linear"),),
    "carved": (("Foam density", "foam_density"), ("Hollowed out", "hollow")),
}
_SPAR: tuple[_Row, ...] = (
    ("Mass per length", "linear"),
    ("At, of the chord", "place"),
    ("Begins, of the panel", "start"),
    ("Ends, of the panel", "end"),
    ("Side by side", "count"),
)


def built_part(store: Store, ident: str) -> tuple[str, Surface | Body] | None:
    """Return the path of the part of an id, and the part, where it says how it is built."""
    found = ((path, part) for path, part in parts_of(store.design) if part.id == ident and part.built is not None)
    return next(found, None)


def path_built(store: Store, index: int) -> str:
    """Return the path of the surface or body that an item is the pieces of; "" for other items."""
    build = store.design.parts[index].build
    found = built_part(store, build.of) if build is not None and build.kind == "pieces" else None
    return "" if found is None else found[0]


def piece_rows(store: Store, build: Build) -> Iterator[Dimension]:
    """Yield the rows of the construction behind an item of pieces."""
    if not build.of:
        for path, part in parts_of(store.design):
            if part.built is not None:
                yield Dimension(f"Bead, {part.name}", f"{path}.built.bead")
        return
    found = built_part(store, build.of)
    if found is None:
        return
    path, part = found
    assert part.built is not None
    if build.pieces == "spars" and isinstance(part, Surface) and part.built is not None:
        for k, spar in enumerate(part.built.spars):
            for label, field in _SPAR:
                yield Dimension(label if k == 0 else f"{label}, {spar.material}", f"{path}.built.spars[{k}].{field}")
        return
    if build.pieces == "covering":
        yield Dimension("Mass per area", f"{path}.built.covering.areal")
        yield Dimension("Layers", f"{path}.built.covering.layers")
        return
    for label, field in SHELL_ROWS[part.built.form]:
        yield Dimension(label, f"{path}.built.{field}")


def of_another_board(store: Store, build: Build, material: Material) -> tuple[Change, ...]:
    """Return the edits that build a part of another board; none where board is not what it is made of."""
    found = built_part(store, build.of) if build.pieces == "shell" and material.kind == "sheet" else None
    if found is None:
        return ()
    path, part = found
    if part.built is None or not set(_BOARD) <= set(SHELL_ROWS[part.built.form]):
        return ()
    board = Board(material=material.name, areal=material.constant, faced=material.faced)
    changes = [Change(f"{path}.built.board", board)]
    if material.thickness:
        sheet = f"{path}.sheet" if isinstance(part, Surface) else f"{path}.built.sheet"
        changes.append(Change(sheet, material.thickness))
    return (*changes, *_named(store, build, material))


def _named(store: Store, build: Build, material: Material) -> Iterator[Change]:
    """Say the new material in the item, so that the scale tells of like ones."""
    for index, item in enumerate(store.design.parts):
        if item.build is build:
            yield Change(f"parts[{index}].build.material", material.name)
