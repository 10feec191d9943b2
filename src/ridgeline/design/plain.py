"""A design as plain data, as a file holds it: what follows from the rest is not said twice."""

from __future__ import annotations

from hashlib import sha1
from typing import Any

#: What a picture is replaced by in a version; no base64 begins so.
REFERENCE = "#"


def as_plain(design: Any) -> dict[str, Any]:
    """Return the plain data of a design.

    Parameters
    ----------
    design : Design

    Returns
    -------
    dict
        Of JSON: places of what hangs are left out, and kept pictures that the design shows itself.
    """
    data: dict[str, Any] = design.model_dump(mode="json")
    for item in data["parts"]:
        if item["on"] is not None:
            # Where it lies follows from what carries it: said once.
            del item["x"], item["y"], item["z"]
    shown = {picture["picture"] for picture in data["underlays"]}
    data["pictures"] = [kept for kept in data["pictures"] if kept["picture"] not in shown]
    return data


def mark_of(picture: str) -> str:
    """Return the mark a picture is referred to by.

    Parameters
    ----------
    picture : str
        Base64.

    Returns
    -------
    str
    """
    return sha1(picture.encode(), usedforsecurity=False).hexdigest()[:16]


def with_shown_pictures(data: dict[str, Any]) -> dict[str, Any]:
    """Return plain data with the pictures that versions refer to and the design shows itself among those kept.

    Parameters
    ----------
    data : dict
        As a file holds it; what is not as it should be is left to the validator.

    Returns
    -------
    dict
    """
    versions, underlays = data.get("versions"), data.get("underlays")
    kept = data.get("pictures", [])
    if not versions or not isinstance(underlays, list) or not isinstance(kept, list):
        return data
    told = repr(versions)
    known = {one.get("mark") for one in kept if isinstance(one, dict)}
    fresh = []
    for one in underlays:
        picture = one.get("picture") if isinstance(one, dict) else None
        if isinstance(picture, str) and (mark := mark_of(picture)) not in known and REFERENCE + mark in told:
            known.add(mark)
            fresh.append({"mark": mark, "picture": picture})
    return {**data, "pictures": [*fresh, *kept]} if fresh else data
