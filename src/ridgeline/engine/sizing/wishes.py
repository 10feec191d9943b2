"""A brief from wishes said in any order."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from ridgeline.design.brief import Brief
from ridgeline.engine.sizing.constraints import start_brief

#: Heavier than this it is not thrown: laid out for wheels unless told otherwise, kg.
WHEELS_ABOVE = 2.5


def brief_of(typed: Mapping[str, Any]) -> Brief:
    """Return the brief of a purpose with its starting values, under what is typed; the order of that does not matter.

    Parameters
    ----------
    typed : mapping
        Fields of the brief, valid and in stored units: what the builder said, and nothing else.

    Returns
    -------
    Brief
        What is typed is kept; the rest follows from purpose, ceiling and field.

    Source
    ------
    Starting values: handbook of the trade §2; wheels above 2.5 kg: chosen, nobody throws such a plane alone.
    """
    said = dict(typed)
    plain = Brief(**said)
    if plain.ceiling > WHEELS_ABOVE and "launch" not in said:
        said["launch"] = "wheels"
    return start_brief(Brief(**said), plain.purpose).model_copy(update=said)
