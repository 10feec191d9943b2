"""A brief from wishes said in any order: what the builder chose is his, the rest follows from purpose and wishes."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from ridgeline.design.brief import Brief
from ridgeline.design.document import Design
from ridgeline.engine.sizing.constraints import start_brief


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
    Starting values: handbook of the trade §2.
    """
    brief = Brief(**typed, typed=tuple(sorted(typed.keys() - {"purpose"})))
    return start_brief(brief, brief.purpose)


def taken(brief: Brief, chosen: Iterable[str], *, follow: bool) -> Brief:
    """Return a brief in which some fields were just chosen: they are the builder's own from here on.

    Parameters
    ----------
    brief : Brief
        With the values chosen.
    chosen : iterable of str
        Names of its fields.
    follow : bool
        Whether what he did not choose follows, as it does until there is an airframe.

    Returns
    -------
    Brief
    """
    own = brief.model_copy(update={"typed": tuple(sorted({*brief.typed, *chosen}))})
    if not follow:
        return own
    if "launch" not in own.typed:
        own = own.model_copy(update={"launch": Brief.model_fields["launch"].default})
    return start_brief(own, own.purpose)


def given_back(brief: Brief) -> Brief:
    """Return a brief with the starting values of its purpose in place of the builder's own.

    Parameters
    ----------
    brief : Brief

    Returns
    -------
    Brief
        With ceiling, field, packs and the other wishes as they are.
    """
    return start_brief(brief.model_copy(update={"typed": ()}), brief.purpose)


def with_own_wishes(design: Design, edited: Iterable[str]) -> Design:
    """Return a design whose brief knows which of its wishes were just edited one by one.

    Parameters
    ----------
    design : Design
        With the edits made.
    edited : iterable of str
        Paths of the edits; what is no single wish of the brief is left out.

    Returns
    -------
    Design
        The wishes that follow are brought up to date as long as there is no airframe: from then on the drawn
        one speaks, and a wish alone moves nothing.
    """
    wishes = (path.removeprefix("brief.") for path in edited if path.startswith("brief."))
    chosen = {wish for wish in wishes if wish in Brief.model_fields} - {"purpose", "typed"}
    if not chosen:
        return design
    return design.model_copy(update={"brief": taken(design.brief, chosen, follow=not design.surfaces)})
