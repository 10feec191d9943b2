"""How the plain data of older format versions become those of the next."""

from __future__ import annotations

import math
from collections.abc import Iterator
from typing import Any

from ridgeline.design.identity import Numbers

#: Letter the ids of sets begin with.
SET_PREFIX = "f"
_LAYOUT_OF_TAIL = {"conventional": "conventional", "v_tail": "v_tail", "none": "swept"}
#: Wishes that follow the purpose; what version 2 wrote of them may be the builder's own, and is kept as his.
_FOLLOWING = (
    "aspect_ratio", "cruise_ratio", "launch", "static_margin", "tail_volume_h", "tail_volume_v",
    "thrust_ratio", "wing_loading",
)  # fmt: skip
#: Version 1 did not say where a second motor stood.
_SECOND_MOTOR_OUT = 0.15


def from_version_1(data: dict[str, Any]) -> dict[str, Any]:
    """Name the layout instead of the tail alone, and give each motor its mount.

    Parameters
    ----------
    data : dict
        A design of version 1.

    Returns
    -------
    dict
        Of version 2.
    """
    fresh = {**data, "format_version": 2}
    brief = data.get("brief")
    if isinstance(brief, dict) and "tail" in brief:
        tail = brief["tail"]
        layout = _LAYOUT_OF_TAIL.get(tail, tail) if isinstance(tail, str) else tail
        fresh["brief"] = {k: v for k, v in brief.items() if k != "tail"} | {"layout": layout}
    if isinstance(data.get("power"), dict):
        fresh["power"] = _with_mounts(data["power"], data.get("bodies"))
    return fresh


def from_version_3(data: dict[str, Any]) -> dict[str, Any]:
    """Leave out a droop of nothing: it used to mean that none was known, and is computed now.

    Parameters
    ----------
    data : dict
        A design of version 3.

    Returns
    -------
    dict
        Of version 4.
    """
    fresh = {**data, "format_version": 4}
    if isinstance(data.get("surfaces"), list):
        fresh["surfaces"] = [_droop_known(surface) for surface in data["surfaces"]]
    aside = data.get("aside")
    if isinstance(aside, dict) and isinstance(aside.get("surfaces"), list):
        fresh["aside"] = {**aside, "surfaces": [_droop_known(surface) for surface in aside["surfaces"]]}
    return fresh


def _droop_known(surface: Any) -> Any:
    if isinstance(surface, dict) and surface.get("droop") == 0 and not isinstance(surface.get("droop"), bool):
        return {name: value for name, value in surface.items() if name != "droop"}
    return surface


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


def from_version_2(data: dict[str, Any]) -> dict[str, Any]:
    """Give every part an id, and what followed a part by its name, or was a servo by its own, says so.

    Parts that lie aside share the id of the part whose place they took when another set was fitted.

    Parameters
    ----------
    data : dict
        A design of version 2.

    Returns
    -------
    dict
        Of version 3.
    """
    fresh = {**data, "format_version": 3}
    brief = fresh.get("brief")
    if isinstance(brief, dict):
        fresh["brief"] = {"typed": [name for name in _FOLLOWING if name in brief], **brief}
    aside = fresh.get("aside")
    aside = dict(aside) if isinstance(aside, dict) else {}
    count = 0
    named: dict[str, list[tuple[str, set[str]]]] = {}
    for field, prefix in _PREFIXES.items():
        known = _Versions(field)
        for holder in (fresh, aside):
            if not isinstance(holder.get(field), list):
                continue
            parts = []
            for part in holder[field]:
                if isinstance(part, dict):
                    count += 1
                    part = {"id": known.ident_of(part, f"{prefix}{count}"), **part}
                    if field in ("surfaces", "bodies"):
                        named.setdefault(str(part.get("name")), []).append((part["id"], _sets(part)))
                parts.append(part)
            holder[field] = parts
    for holder in (fresh, aside):
        if isinstance(holder.get("parts"), list):
            holder["parts"] = [
                _item(part, named, count) if isinstance(part, dict) else part for part in holder["parts"]
            ]
        if isinstance(holder.get("bodies"), list):
            holder["bodies"] = [_from_nose(body) if isinstance(body, dict) else body for body in holder["bodies"]]
        trains = holder.get("power")
        if isinstance(trains, list):
            holder["power"] = [_on_firewalls(train) if isinstance(train, dict) else train for train in trains]
        elif isinstance(trains, dict):
            holder["power"] = _on_firewalls(trains)
    if aside:
        fresh["aside"] = aside
    return fresh


def with_set_ids(data: dict[str, Any]) -> dict[str, Any]:
    """Give sets ids where they went by name, as in versions 1 and 2; what flies in them, and the fitted one, say those.

    Parameters
    ----------
    data : dict
        A design.

    Returns
    -------
    dict
        The same one where no set goes by name.
    """
    names = data.get("configurations")
    if not isinstance(names, list) or not any(isinstance(name, str) for name in names):
        return data
    taken = Numbers(found for holder in (data, _dict(data.get("aside"))) for found in _plain_ids(holder))
    idents = {name: taken.fresh(SET_PREFIX) for name in names if isinstance(name, str)}
    sets = [{"id": idents[name], "name": name} if isinstance(name, str) else name for name in names]
    fresh = {**data, "configurations": sets}
    if isinstance(fresh.get("fitted"), str):
        fresh["fitted"] = idents.get(fresh["fitted"], fresh["fitted"])
    for holder in (fresh, fresh["aside"] if _set_copy(fresh, "aside") else {}):
        for field in (*_PREFIXES, "power"):
            parts = holder.get(field)
            if isinstance(parts, list):
                holder[field] = [_flying(part, idents) for part in parts]
            elif isinstance(parts, dict):
                holder[field] = _flying(parts, idents)
    return fresh


def _flying(part: Any, idents: dict[str, str]) -> Any:
    sets = part.get("sets") if isinstance(part, dict) else None
    if not isinstance(sets, list):
        return part
    return part | {"sets": [idents.get(name, name) if isinstance(name, str) else name for name in sets]}


def _dict(entry: Any) -> dict[str, Any]:
    return entry if isinstance(entry, dict) else {}


def _set_copy(holder: dict[str, Any], field: str) -> bool:
    """Put a copy of a dictionary in its place, to be written into; tell whether there is one."""
    if not isinstance(holder.get(field), dict):
        return False
    holder[field] = dict(holder[field])
    return True


def _plain_ids(holder: dict[str, Any]) -> Iterator[str]:
    """Yield every id in plain data, of parts and of what they hold."""
    for parts in holder.values():
        for part in _dicts(parts if isinstance(parts, list) else [parts]):
            inner = [one for held in part.values() for one in _dicts(held)]
            yield from (one["id"] for one in (part, *inner) if isinstance(one.get("id"), str))


def _number(node: dict[str, Any], name: str, otherwise: float) -> float:
    value = node.get(name, otherwise)
    return float(value) if isinstance(value, int | float) and not isinstance(value, bool) else otherwise


def _from_nose(body: dict[str, Any]) -> dict[str, Any]:
    """Count a body's sections from its nose."""
    stations = body.get("stations")
    if not isinstance(stations, list) or not all(isinstance(s, dict) and "x" in s for s in stations) or not stations:
        return body
    nose = _number(stations[0], "x", 0.0)
    moved = [s | {"x": round(s["x"] - nose, 12)} if isinstance(s["x"], int | float) else s for s in stations]
    return body | {"x": nose, "stations": moved}


#: What stood between a motor and its disc in version 2, which did not say, m.
_ADAPTER = 0.008


def _on_firewalls(train: dict[str, Any]) -> dict[str, Any]:
    """Say where each motor is screwed to instead of where its propeller turns."""
    motor, mounts = train.get("motor"), train.get("mounts", [{}])
    if not isinstance(motor, dict) or not isinstance(mounts, list):
        return train
    reach = _number(motor, "length", 0.026) + _ADAPTER
    found = []
    for mount in mounts:
        if isinstance(mount, dict):
            down, right = _number(mount, "down", 0.0), _number(mount, "right", 0.0)
            back = reach if not mount.get("pusher") else -reach
            forward = (-math.cos(right) * math.cos(down), math.sin(right) * math.cos(down), -math.sin(down))
            places = (_number(mount, "x", 0.015), _number(mount, "y", 0.0), _number(mount, "z", 0.0))
            moved = {n: round(p - back * f, 12) for n, p, f in zip("xyz", places, forward, strict=True)}
            mount = mount | moved | {"adapter": _ADAPTER}
        found.append(mount)
    return train | {"mounts": found}


_PREFIXES = {"surfaces": "s", "bodies": "b", "wheels": "w", "parts": "i"}


def _sets(part: dict[str, Any]) -> set[str]:
    sets = part.get("sets")
    return {name for name in sets if isinstance(name, str)} if isinstance(sets, list) else set()


class _Versions:
    """Which parts are versions of one: those version 2 put in each other's place when a set was fitted."""

    def __init__(self, field: str) -> None:
        self._task = {"surfaces": "role", "parts": "component"}.get(field, "")
        self._known: dict[tuple[str, str], list[tuple[str, set[str]]]] = {}

    def ident_of(self, part: dict[str, Any], fresh: str) -> str:
        """Return the id of the part that this is a version of, or else a fresh one."""
        sets = _sets(part)
        if not sets:
            return fresh
        keys = [("name", str(part.get("name")))]
        if self._task and part.get(self._task) is not None:
            keys.append(("task", str(part[self._task])))
        seen = (one for key in keys for one in self._known.get(key, ()))
        ident = next((ident for ident, theirs in seen if not sets & theirs), fresh)
        for key in keys:
            # A design has a dozen sets at most, and so no more versions of a part.
            self._known[key] = [*self._known.get(key, [])[-11:], (ident, sets)]
        return ident


def _item(part: dict[str, Any], named: dict[str, list[tuple[str, set[str]]]], count: int) -> dict[str, Any]:
    fresh = dict(part)
    if fresh.get("group") == "radio" and "servo" in str(fresh.get("name", "")).lower():
        fresh.setdefault("servo", {})
    build = fresh.get("build")
    if isinstance(build, dict):
        build = dict(build)
        if build.get("kind") == "sheet" and "board" in str(build.get("material", "")).lower():
            build.setdefault("faced", True)
        if build.get("of"):
            mine = _sets(part)
            alike = named.get(str(build["of"]), [])[:40]
            # Of two of one name the first counted, of those that fly with the item.
            flies = [ident for ident, sets in alike if not mine or not sets or mine & sets]
            # What followed a part that is not there still does.
            build["of"] = next(iter(flies or [ident for ident, _sets in alike]), f"gone{count + 1}")
        fresh["build"] = build
    return fresh
