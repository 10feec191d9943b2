"""A nested sheet as a DXF in millimetres: contours closed on CUT, and scores, hinges, marks and words on their own."""

from __future__ import annotations

import io
import math

import ezdxf
import numpy as np
from ezdxf.enums import TextEntityAlignment

from ridgeline.engine.build.pieces import LineKind
from ridgeline.engine.templates.nesting import UsedSheet

#: Layers by the kind of a line, and their colours by index.
LAYERS: dict[LineKind, str] = {"cut": "CUT", "score": "SCORE", "hinge": "HINGE", "mark": "MARK"}
#: Letters beside a sheet that tell which way its grain runs, mm.
GRAIN = 6.0
_COLOURS = {"CUT": 7, "SCORE": 3, "HINGE": 5, "MARK": 8, "TEXT": 9, "SHEET": 8}


def sheet_dxf(sheet: UsedSheet, kerf: float = 0.0) -> str:
    """Return a sheet as the text of a DXF.

    Parameters
    ----------
    sheet : UsedSheet
    kerf : float
        The tool's, m: contours are the way of its middle.

    Returns
    -------
    str
        In millimetres; contours and openings as closed polylines.
    """
    made = ezdxf.new("R2010", setup=False)
    made.units = ezdxf.units.MM
    for name, colour in _COLOURS.items():
        made.layers.add(name, color=colour)
    space = made.modelspace()
    wide, long = 1000 * sheet.stock.width, 1000 * sheet.stock.length
    space.add_lwpolyline([(0, 0), (wide, 0), (wide, long), (0, long)], close=True, dxfattribs={"layer": "SHEET"})
    grain = space.add_text("grain", height=GRAIN, rotation=90, dxfattribs={"layer": "TEXT"})
    grain.set_placement((wide + 2 * GRAIN, 0.5 * long), align=TextEntityAlignment.MIDDLE_CENTER)
    for one in sheet.laid:
        shape = one.shape(kerf)
        for ring in (shape.exterior, *shape.interiors):
            points = 1000 * np.asarray(ring.coords)[:-1]
            space.add_lwpolyline(points.tolist(), close=True, dxfattribs={"layer": "CUT"})
        for line in one.pattern.lines:
            points = 1000 * one.points(line.points)
            space.add_lwpolyline(points.tolist(), dxfattribs={"layer": LAYERS[line.kind]})
        for label in one.pattern.labels:
            x, y = 1000 * one.points(np.array([[label.x, label.y]]))[0]
            turn = math.degrees(label.turn + one.turn)
            text = space.add_text(
                label.text, height=1000 * label.size, rotation=_upright(turn), dxfattribs={"layer": "TEXT"}
            )
            text.set_placement((x, y), align=TextEntityAlignment.MIDDLE_CENTER)
    out = io.StringIO()
    made.write(out)
    return out.getvalue()


def _upright(turn: float) -> float:
    """Return a turn, degrees, at which words are not read upside down."""
    turn = (turn + 180) % 360 - 180
    return turn - 180 if turn > 90.5 else turn + 180 if turn < -90.5 else turn
