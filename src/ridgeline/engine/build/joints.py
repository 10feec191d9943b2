"""What holds pieces together: beads of glue, hinges, coverings, as pieces with a mass of their own."""

from __future__ import annotations

import math

from ridgeline.engine.build.pieces import Lies, Piece

#: A hinge's mass along it, kg/m: 48 mm tape, a fillet of flexible glue (second part of the handbook §15.2).
HINGE_LINEAR = {"tape": 0.0022, "glue": 0.003, "printed": 0.0, "none": 0.0}
HINGE_MATERIAL = {"tape": "Packing tape 48 mm", "glue": "Flexible glue", "printed": "", "none": ""}
#: Printed parts are joined with a film of instant glue, kg/m (second part of the handbook §15.2).
INSTANT_GLUE = 0.0005


def bead(of: str, length: float, linear: float, lies: Lies, *, mirrored: bool) -> list[Piece]:
    """Return the glue of a part as one piece, if there is any.

    Parameters
    ----------
    of : str
        Id of the part.
    length : float
        Of all beads of one side, m.
    linear : float
        kg/m.
    lies : callable
        Of what it joins.
    mirrored : bool

    Returns
    -------
    list of Piece
        One or none.
    """
    if length <= 0 or linear <= 0:
        return []
    return [Piece("Glue", of, "glue", "Glue bead", length * linear, lies, length=length, mirrored=mirrored)]


def fold_width(sheet: float, turn: float) -> float:
    """Return how wide a V is at its foot that lets a board be folded, m.

    Parameters
    ----------
    sheet : float
        Thickness, m.
    turn : float
        How far it is folded, rad.

    Returns
    -------
    float

    Source
    ------
    2 t tan(φ/2), up to 100°: second part of the handbook §15.3.
    """
    return 2 * sheet * math.tan(0.5 * turn)
