"""The pieces of a design as JSON, for what cuts, weighs or orders them."""

from __future__ import annotations

import json
from collections.abc import Iterable
from typing import Any

from ridgeline.design.document import Design
from ridgeline.engine.build.pieces import Piece
from ridgeline.engine.build.whole import parts_of, pieces_of_design

_DECIMALS = 6


def pieces_text(design: Design) -> str:
    """Return the pieces of a design as JSON text, in SI units.

    Parameters
    ----------
    design : Design

    Returns
    -------
    str
        A list: name, of (the part's id and name), group, material, mass and area of one, length, how many, where its
        middle lies, its outline as it is cut, holes, and lines with their kind.
    """
    names = {part.id: part.name for _path, part in parts_of(design)}
    rows = [_row(piece, names) for piece in pieces_of_design(design)]
    return json.dumps({"name": design.name, "pieces": rows}, indent=1, ensure_ascii=False) + "\n"


def _row(piece: Piece, names: dict[str, str]) -> dict[str, Any]:
    return {
        "name": piece.name,
        "of": {"id": piece.of, "name": names.get(piece.of, "")},
        "group": piece.group,
        "material": piece.material,
        "mass": round(piece.mass, 7),
        "area": round(piece.area, 8),
        "length": round(piece.length, _DECIMALS),
        "count": piece.pieces,
        "mirrored": piece.mirrored,
        "centroid": _numbers(piece.spread.centroid),
        "outline": [_numbers(point) for point in piece.outline],
        "holes": [_numbers(hole) for hole in piece.holes],
        "lines": [{"kind": line.kind, "points": [_numbers(point) for point in line.points]} for line in piece.lines],
    }


def _numbers(values: Iterable[float]) -> list[float]:
    return [round(float(value), _DECIMALS) for value in values]
