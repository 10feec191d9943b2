"""How an item is made, as rows of its dimensions: the material and what it follows, chosen; its amounts, typed."""

from __future__ import annotations

from collections.abc import Iterator

from ridgeline.design.build import Build, BuildKind
from ridgeline.design.parts import Basis, Item
from ridgeline.design.paths import Change
from ridgeline.design.shelf import Material
from ridgeline.desk.dimensions import Dimension
from ridgeline.desk.piece_rows import of_another_board, piece_rows
from ridgeline.desk.store import Store

_AMOUNT = ("the estimate as typed", "")
#: What a recipe lets be typed, by its kind.
BUILD_FIELDS: dict[str, tuple[tuple[str, str], ...]] = {
    "sheet": (("Mass per area", "areal"), ("Layers", "layers"), ("Papers peeled", "peeled"), ("Of one face", "share")),
    "covering": (("Mass per area", "areal"), ("Coats", "layers"), ("Share covered", "share")),
    "length": (("Mass per length", "linear"), ("Side by side", "layers"), ("Share of the length", "share")),
    "print": (
        ("Printed density", "density"),
        ("Line width", "line_width"),
        ("Perimeters", "perimeters"),
        ("Infill", "infill"),
        ("Ribs over shell", "ribs"),
    ),
}
_FIELD = {"sheet": "areal", "covering": "areal", "length": "linear", "print": "density"}
_BASIS: dict[str, Basis] = {"sheet": "sheet", "covering": "adhesive", "length": "stock", "print": "print"}


def kind_of(material: Material) -> BuildKind | None:
    """Return what kind of recipe a material makes; None for what is only known by its volume."""
    return None if material.kind == "bulk" else material.kind


def recipe_rows(store: Store, index: int) -> Iterator[Dimension]:
    """Yield the rows of one item's recipe."""
    part, base = store.design.parts[index], f"parts[{index}]"
    if part.component is not None:
        return
    found = materials()

    def read() -> str:
        build = _now(store, index)
        return "" if build is None else (build.material or "a material of its own")

    def made_of(name: str) -> None:
        words = f"{part.name} of {name}" if name else f"{part.name} as typed"
        store.edit(choose_material(store, index, found.get(name)), words)

    words = (_AMOUNT[::-1], *((name, name) for name in found))
    yield Dimension("Made of", read=lambda: read(), choices=words, choose=made_of)
    if part.build is None:
        return
    if part.build.kind == "pieces":
        yield from piece_rows(store, part.build)
        return
    along = [("", "its own extent"), *_followed(store).items()]
    yield Dimension(
        "Along",
        read=lambda: (_now(store, index) or Build(kind="sheet")).of,
        choices=tuple(along),
        choose=lambda name: _follow(store, index, name),
    )
    if not part.build.of:
        quantity = "Length" if part.build.kind == "length" else "Area"
        yield Dimension(f"{quantity}, {'m' if quantity == 'Length' else 'm²'}", f"{base}.build.extent")
    for label, field in BUILD_FIELDS[part.build.kind]:
        yield Dimension(label, f"{base}.build.{field}")


def materials() -> dict[str, Material]:
    """Return the materials an item can be made of, by name."""
    from ridgeline.library import shipped_shelf

    return {m.name: m for m in shipped_shelf().materials if kind_of(m) is not None}


def _now(store: Store, index: int) -> Build | None:
    parts = store.design.parts
    return parts[index].build if index < len(parts) else None


def _followed(store: Store) -> dict[str, str]:
    """Return the surfaces and bodies an item may follow: their ids, and what they are called."""
    design = store.design
    return {s.id: s.name for s in design.surfaces} | {b.id: b.name for b in design.bodies}


def followed_name(store: Store, index: int) -> str:
    """Return what the part is called that an item follows; "" for none."""
    build = _now(store, index)
    return "" if build is None else _followed(store).get(build.of, "")


def choose_material(store: Store, index: int, material: Material | None) -> list[Change]:
    """Return the edits that give an item a material, keeping what it follows, or take its estimate as typed."""
    part, base = store.design.parts[index], f"parts[{index}]"
    if material is not None and part.build is not None and part.build.kind == "pieces":
        board = of_another_board(store, part.build, material)
        if board:
            return list(board)
    if material is None:
        each = float(store.report.results.masses.items.estimate[index]) / part.count
        return [Change(f"{base}.estimate", each), Change(f"{base}.build", None)]
    kind = kind_of(material)
    assert kind is not None
    before = part.build
    of = before.of if before is not None else _carried_by(store, part)
    extent = before.extent if before is not None and before.kind == kind else (0.0 if of else 0.05)
    keep = {} if before is None or before.kind != kind else before.model_dump(exclude={"known", _FIELD[kind]})
    fields = {
        **keep,
        "kind": kind,
        "material": material.name,
        "of": of,
        "extent": extent,
        "faced": material.faced,
    }
    build = Build(**{**fields, _FIELD[kind]: material.constant})
    return [Change(f"{base}.build", build), Change(f"{base}.basis", _BASIS[kind])]


def _carried_by(store: Store, part: Item) -> str:
    """Return the surface or body an item hangs on: what it is most likely built of."""
    return part.on.to if part.on is not None and part.on.to in _followed(store) else ""


def _follow(store: Store, index: int, ident: str) -> None:
    part = store.design.parts[index]
    changes = [Change(f"parts[{index}].build.of", ident)]
    if not ident and part.build is not None and part.build.extent == 0:
        from ridgeline.engine.weights.estimates import extents_of

        found = extents_of(store.design.surfaces, store.design.bodies).get(part.build.of)
        size = 0.05 if found is None else (found.length if part.build.kind == "length" else found.area)
        changes.append(Change(f"parts[{index}].build.extent", size))
    store.edit(changes, f"{part.name} along {_followed(store).get(ident, 'its own extent')}")
