"""Printed parts as files: an STL for each, or one 3MF of all with their names and materials; millimetres."""

from __future__ import annotations

import warnings
from collections.abc import Sequence
from typing import Any

import numpy as np
import trimesh

from ridgeline.engine.templates.prints import Print
from ridgeline.engine.templates.solids import mesh_of
from ridgeline.errors import DesignError

#: Between parts that stand side by side in one file, mm; rows are no longer than this, mm; colours of materials.
_APART, _ROW = 10.0, 900.0
_COLOURS = ((214, 208, 192), (38, 116, 112), (90, 96, 104), (192, 120, 40), (150, 60, 50))


def checked_mesh(part: Print) -> trimesh.Trimesh:
    """Return a part as a mesh, found closed and turned outward.

    Parameters
    ----------
    part : Print

    Returns
    -------
    trimesh.Trimesh
        mm.

    Raises
    ------
    DesignError
        Of a body that is not closed: nothing of it is written.
    """
    points, faces = mesh_of(part.body)
    # As it is read back: corners in single precision, each once.
    mesh = trimesh.Trimesh(points.astype(np.float32), faces, process=True)
    if not (mesh.is_watertight and mesh.is_winding_consistent and mesh.volume > 0):
        raise DesignError("export", f"“{part.name}” does not close", "another bed, or what is in it moved")
    return mesh


def stl_of(part: Print) -> bytes:
    """Return a part as a binary STL, standing as it is printed.

    Parameters
    ----------
    part : Print

    Returns
    -------
    bytes
    """
    data = checked_mesh(part).export(file_type="stl")
    assert isinstance(data, bytes)
    return data


def three_mf_of(parts: Sequence[Print]) -> bytes:
    """Return parts as one 3MF: an object for each, named, with its material, as many built as are wanted.

    Parameters
    ----------
    parts : sequence of Print

    Returns
    -------
    bytes
    """
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        import lib3mf
        from lib3mf import get_wrapper
    kit: Any = get_wrapper()
    model = kit.CreateModel()
    model.SetUnit(lib3mf.ModelUnit.MilliMeter)
    group = model.AddBaseMaterialGroup()
    numbers: dict[str, int] = {}
    x = y = deep = 0.0
    for part in parts:
        mesh = checked_mesh(part)
        if part.material not in numbers:
            red, green, blue = _COLOURS[len(numbers) % len(_COLOURS)]
            numbers[part.material] = group.AddMaterial(part.material, kit.RGBAToColor(red, green, blue, 255))
        made = model.AddMeshObject()
        made.SetName(part.name)
        made.SetPartNumber(part.key)
        made.SetGeometry(_positions(lib3mf, mesh.vertices), _triangles(lib3mf, mesh.faces))
        made.SetObjectLevelProperty(group.GetUniqueResourceID(), numbers[part.material])
        wide, tall = mesh.extents[:2]
        for _ in range(part.count):
            if x + wide > _ROW and x > 0:
                x, y, deep = 0.0, y + deep + _APART, 0.0
            model.AddBuildItem(made, kit.GetTranslationTransform(x, y, 0.0))
            x, deep = x + wide + _APART, max(deep, float(tall))
    return bytes(model.QueryWriter("3mf").WriteToBuffer())


def _positions(kit: Any, points: np.ndarray) -> list[Any]:
    found = []
    for x, y, z in points.tolist():
        one = kit.Position()
        one.Coordinates[0], one.Coordinates[1], one.Coordinates[2] = x, y, z
        found.append(one)
    return found


def _triangles(kit: Any, faces: np.ndarray) -> list[Any]:
    found = []
    for a, b, c in faces.tolist():
        one = kit.Triangle()
        one.Indices[0], one.Indices[1], one.Indices[2] = a, b, c
        found.append(one)
    return found
