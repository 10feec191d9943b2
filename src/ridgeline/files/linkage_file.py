"""What a linkage does over its servo's travel as JSON, for what draws or checks it."""

from __future__ import annotations

import json
import math
from typing import Any

from ridgeline.design.document import Design
from ridgeline.engine.stages.linked import LinkedControl, Linking, Moved

_DECIMALS = 6


def control_called(design: Design, linking: Linking, told: str) -> LinkedControl | None:
    """Return the linked control of an id, or the one of a kind; None without one, or with several.

    Parameters
    ----------
    design : Design
    linking : Linking
    told : str

    Returns
    -------
    LinkedControl or None
    """
    of_id = linking.of(told)
    if of_id is not None:
        return of_id
    of_kind = [row for row in linking.rows if row.control.kind == told]
    return of_kind[0] if len(of_kind) == 1 else None


def linkage_text(design: Design, row: LinkedControl) -> str:
    """Return the angle of a control over its servo's travel, as JSON text in SI units.

    Parameters
    ----------
    design : Design
    row : LinkedControl

    Returns
    -------
    str
        The control, and for each side the servo's turns from neutral (rad, of a rising pulse), the control's angle
        (rad, trailing edge down positive, null where it binds), its turn over the servo's, the turns used and the
        throws they give.
    """
    told = {
        "control": {"id": row.control.id, "kind": row.control.kind, "surface": design.surfaces[row.surface].name},
        "linkage": row.linkage.id,
        "wished": {"up": row.wish.up, "down": row.wish.down},
        "rod": round(row.rod, _DECIMALS),
        "sides": [_side(side) for side in row.sides],
    }
    return json.dumps(told, indent=1, ensure_ascii=False) + "\n"


def _side(side: Moved) -> dict[str, Any]:
    return {
        "side": side.side,
        "channel": None if side.channel is None else side.channel.name,
        "servo": _numbers(side.travel.turns),
        "angle": _numbers(side.travel.motion.surface),
        "ratio": _numbers(side.travel.motion.ratio),
        "used": [round(side.low, _DECIMALS), round(side.high, _DECIMALS)],
        "up": round(side.throw.up, _DECIMALS),
        "down": round(side.throw.down, _DECIMALS),
        "binds": side.travel.binds,
    }


def _numbers(values: Any) -> list[float | None]:
    return [round(float(value), _DECIMALS) if math.isfinite(value) else None for value in values]
