"""Versions kept of an aircraft: each as what changed of its plain data since the one before."""

from __future__ import annotations

import json
from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field, PlainSerializer, StringConstraints, WithJsonSchema

from ridgeline.design.base import DAY, Node, Whole
from ridgeline.design.underlay import MOST_PICTURE

#: Most of one version, characters: a design of several thousand items, anew.
_LARGEST = 8_000_000


def _text_of(data: Any) -> Any:
    """Keep patches as text: what is frozen holds nothing that can be changed in place."""
    return data if isinstance(data, str) else json.dumps(data, ensure_ascii=False, separators=(",", ":"))


Patches = Annotated[
    str,
    StringConstraints(max_length=_LARGEST, pattern=r"^\["),
    BeforeValidator(_text_of),
    PlainSerializer(json.loads, return_type=list[Any], when_used="json"),
    WithJsonSchema({"type": "array", "items": {"type": "array"}, "description": "what changed since the one before"}),
]


class Version(Node):
    """An aircraft as it was: what changed since the version before, in the order of their numbers."""

    number: Whole = Field(ge=1, le=100_000)
    name: str = Field("", max_length=80)
    note: str = Field("", max_length=200)
    day: str = Field("", max_length=10, pattern=DAY, description="it was kept, as 2026-11-26")
    kept: Literal["asked", "flown", "left"] = Field(
        "asked", description="why: asked for, flown, or left for another version"
    )
    changed: Patches


class KeptPicture(Node):
    """A picture that versions refer to by its mark; not written where the design itself shows the same one."""

    mark: str = Field(min_length=1, max_length=40)
    picture: Annotated[str, StringConstraints(max_length=MOST_PICTURE)] = Field(
        min_length=1, description="PNG or JPEG, base64"
    )
