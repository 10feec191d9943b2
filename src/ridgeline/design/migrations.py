"""How the plain data of older format versions become those of the next."""

from __future__ import annotations

from typing import Any

_LAYOUT_OF_TAIL = {"conventional": "conventional", "v_tail": "v_tail", "none": "swept"}
#: Version 1 did not say where a second motor stood.
_SECOND_MOTOR_OUT = 0.15


def from_version_1(data: dict[str, Any]) -> dict[str, Any]:
    """Name the layout instead of the tail alone, and give each motor its mount."""
    fresh = {**data, "format_version": 2}
    brief = data.get("brief")
    if isinstance(brief, dict) and "tail" in brief:
        tail = brief["tail"]
        layout = _LAYOUT_OF_TAIL.get(tail, tail) if isinstance(tail, str) else tail
        fresh["brief"] = {k: v for k, v in brief.items() if k != "tail"} | {"layout": layout}
    if isinstance(data.get("power"), dict):
        fresh["power"] = _with_mounts(data["power"], data.get("bodies"))
    return fresh


def _with_mounts(power: dict[str, Any], bodies: Any) -> dict[str, Any]:
    names = {"x": "x", "z": "z", "down_thrust": "down", "right_thrust": "right"}
    mount = {new: power[old] for old, new in names.items() if old in power}
    ends = [s.get("x", 0.0) for b in _dicts(bodies) for s in _dicts(b.get("stations"))]
    try:
        mount["pusher"] = bool(ends) and float(mount.get("x", 0.0)) > max(ends) - 1e-6
    except (TypeError, ValueError):
        mount["pusher"] = False
    motors = power.get("motors", 1)
    if isinstance(motors, bool) or not isinstance(motors, int):
        return power  # the validator says what is wrong with it
    mounts: list[dict[str, Any]] = [mount]
    if motors in (2, 4):
        mounts = [mount | {"y": _SECOND_MOTOR_OUT * (k + 1), "mirrored": True} for k in range(motors // 2)]
    elif motors == 3:
        mounts = [mount, mount | {"y": _SECOND_MOTOR_OUT, "mirrored": True}]
    elif motors != 1:
        return power  # the validator says what is wrong with it
    return {k: v for k, v in power.items() if k not in (*names, "motors")} | {"mounts": mounts}


def _dicts(entries: Any) -> list[dict[str, Any]]:
    return [entry for entry in entries if isinstance(entry, dict)] if isinstance(entries, list) else []
