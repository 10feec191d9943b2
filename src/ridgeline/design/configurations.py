"""Sets (configurations): one airframe that flies with other wings, packs, power, floats or loads, and shares the rest.

The design holds what is fitted where it always is, so that every edit, figure and finding is about the set in the
builder's hands. What flies only in other sets lies in ``design.aside``. A part's ``sets`` are the ids of those it flies
in; none means in all of them. Names are for reading only.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from typing import Any

from ridgeline.design.airframe import Body, Surface, Wheel
from ridgeline.design.carrying import carried
from ridgeline.design.document import Aside, Configuration, Design
from ridgeline.design.identity import Numbers
from ridgeline.design.kinds import KIND_OF, KINDS, all_idents, as_field, listed, references
from ridgeline.design.migrations import SET_PREFIX
from ridgeline.design.parts import Item
from ridgeline.design.paths import get
from ridgeline.design.power import PowerTrain
from ridgeline.errors import DesignError

Part = Surface | Body | Wheel | Item | PowerTrain
#: The name the first set gets when a second one is made.
FIRST = "Standard"


def idents(design: Design) -> tuple[str, ...]:
    """Return the ids of the sets, in their order.

    Parameters
    ----------
    design : Design

    Returns
    -------
    tuple of str
    """
    return tuple(one.id for one in design.configurations)


def name_of(design: Design, ident: str) -> str:
    """Return the name of a set, "" where no set has that id.

    Parameters
    ----------
    design : Design
    ident : str
        Of a set.

    Returns
    -------
    str
    """
    return next((one.name for one in design.configurations if one.id == ident), "")


def called(design: Design, name: str) -> str:
    """Return the id of the set of a name.

    Parameters
    ----------
    design : Design
    name : str

    Returns
    -------
    str

    Raises
    ------
    DesignError
        When no set has that name.
    """
    found = next((one.id for one in design.configurations if one.name == name), None)
    if found is None:
        raise DesignError("set", f"“{name}”", _known(design))
    return found


def _known(design: Design) -> str:
    return ", ".join(one.name for one in design.configurations) or "no set yet: make one first"


def fit(design: Design, ident: str) -> Design:
    """Return the design with another set fitted; what comes takes the place of its like that goes.

    Parameters
    ----------
    design : Design
    ident : str
        Of a set.

    Returns
    -------
    Design
        What hangs on what comes is carried.

    Raises
    ------
    DesignError
        When there is no such set.
    """
    _require(design, ident)
    if ident == design.fitted:
        return design
    update: dict[str, Any] = {"fitted": ident}
    shelf: dict[str, Any] = {}
    for kind in KINDS:
        flying, shelf[kind.field] = _exchange(listed(design, kind), listed(design.aside, kind), ident)
        update[kind.field] = as_field(kind, flying)
    return _checked(design, update | {"aside": Aside(**shelf)})


def _exchange(on_it: Sequence[Any], aside: Sequence[Any], ident: str) -> tuple[tuple[Any, ...], tuple[Any, ...]]:
    """Return what is fitted and what lies aside once a set is fitted."""
    coming = [part for part in aside if ident in part.sets]
    left = [part for part in aside if ident not in part.sets]
    fitted: list[Any] = []
    for part in on_it:
        if not part.sets or ident in part.sets:
            fitted.append(part)
            continue
        left.append(part)
        version = next((k for k, other in enumerate(coming) if other.id == part.id), None)
        if version is not None:
            fitted.append(coming.pop(version))
    return (*fitted, *coming), tuple(left)


def _checked(design: Design, update: dict[str, Any]) -> Design:
    """Copy with changes and validate the whole, keeping the identity of what did not change."""
    fresh = design.model_copy(update=update)
    Design.model_validate({name: getattr(fresh, name) for name in Design.model_fields})
    moved: Design = carried(design, fresh, typed=False)
    return moved


def add(design: Design, name: str) -> Design:
    """Return the design with one more set, made like the fitted one and fitted.

    Parameters
    ----------
    design : Design
    name : str
        New, of 1 to 40 letters.

    Returns
    -------
    Design
        With the new set fitted.
    """
    numbers = Numbers([*all_idents(design), *all_idents(design.aside), *idents(design), *references(design)])
    taken = design.configurations or (Configuration(id=numbers.fresh(SET_PREFIX), name=FIRST),)
    fresh = Configuration(id=numbers.fresh(SET_PREFIX), name=_new_name(name, taken))
    both = {
        kind.field: as_field(
            kind, tuple(_with(part, (*part.sets, fresh.id)) if part.sets else part for part in listed(design, kind))
        )
        for kind in KINDS
    }
    now = design.fitted or taken[0].id
    first = _checked(design, {**both, "configurations": (*taken, fresh), "fitted": now})
    return fit(first, fresh.id)


def _require(design: Design, ident: str) -> None:
    if ident not in idents(design):
        raise DesignError("set", f"“{ident}”", _known(design))


def _new_name(name: str, taken: Sequence[Configuration]) -> str:
    """Return a name for a set, its spaces tidied, that no other has."""
    name = " ".join(name.split())
    names = [one.name for one in taken]
    if not name or name in names or len(name) > 40:
        raise DesignError("set", f"“{name}”", f"a new name of 1 to 40 letters, not {', '.join(names)}")
    return name


def _with(part: Any, sets: Iterable[str]) -> Any:
    return part.model_copy(update={"sets": tuple(sets)})


def rename(design: Design, ident: str, name: str) -> Design:
    """Return the design with a set called otherwise; what flies in it goes by its id.

    Parameters
    ----------
    design : Design
    ident : str
        Of a set.
    name : str
        Its new one.

    Returns
    -------
    Design
    """
    _require(design, ident)
    if " ".join(name.split()) == name_of(design, ident):
        return design
    name = _new_name(name, design.configurations)
    sets = tuple(one.model_copy(update={"name": name}) if one.id == ident else one for one in design.configurations)
    return _checked(design, {"configurations": sets})


def drop(design: Design, ident: str) -> Design:
    """Return the design without a set: what flew only in it goes too. Dropping the second but last leaves none.

    Parameters
    ----------
    design : Design
    ident : str
        Of a set.

    Returns
    -------
    Design
        With another set fitted, if it was that.
    """
    _require(design, ident)
    rest = tuple(one for one in design.configurations if one.id != ident)
    if design.fitted == ident:
        design = fit(design, rest[0].id)

    def without(part: Any) -> Any:
        if not part.sets:
            return part
        left = tuple(one for one in part.sets if one != ident)
        if not left:
            return None
        return _with(part, () if len(rest) == 1 else left)

    update = _all_parts(design, without)
    if len(rest) == 1:
        update["aside"] = Aside()
    update["configurations"] = rest if len(rest) > 1 else ()
    update["fitted"] = design.fitted if len(rest) > 1 else ""
    return _checked(design, update)


def _all_parts(design: Design, do: Callable[[Any], Any]) -> dict[str, Any]:
    """Treat every part, fitted or aside; one that comes back as None is left out."""

    def over(parts: Sequence[Any]) -> tuple[Any, ...]:
        return tuple(fresh for fresh in map(do, parts) if fresh is not None)

    update: dict[str, Any] = {kind.field: as_field(kind, over(listed(design, kind))) for kind in KINDS}
    update["aside"] = Aside(**{kind.field: over(listed(design.aside, kind)) for kind in KINDS})
    return update


def _others(design: Design, part: Any) -> tuple[str, ...]:
    return tuple(n for n in (part.sets or idents(design)) if n != design.fitted)


def _with_masses(design: Design, path: str, do: Callable[[Design, str], Design]) -> Design:
    """Treat the items of a part like the part itself: a train's, and of a surface or body what is built of it or on it.

    A wing of its own has panels, spar and servos of its own, each with what the scale says of it.
    """
    if path == "power":
        own = [item.id for item in design.parts if item.component is not None]
    elif _field(path) in ("surfaces", "bodies"):
        ident = _part(design, path).id
        own = [item.id for item in design.parts if _is_of(item, ident)]
    else:
        return design
    for ident in own:
        index = next((i for i, part in enumerate(design.parts) if part.id == ident), None)
        if index is not None:
            design = do(design, f"parts[{index}]")
    return design


def _is_of(item: Any, ident: str) -> bool:
    """Tell whether an item is built of a part or, on a surface, hangs on it; what lies in a body is not of the body."""
    if item.build is not None and item.build.of == ident:
        return True
    hung = item.on is not None and item.on.to == ident
    return hung and (item.group == "structure" or item.servo is not None)


def own_version(design: Design, path: str) -> Design:
    """Give the fitted set a version of a part of its own; the other sets keep theirs as it is.

    A power train's items go with it, here and in the other ways of sharing.

    Parameters
    ----------
    design : Design
    path : str
        Of a part, such as surfaces[0] or power.

    Returns
    -------
    Design
        The versions share the part's id.
    """
    design = _with_masses(design, path, own_version)
    part = _part(design, path)
    others = _others(design, part)
    if not others:
        return design
    return _split(design, path, _with(part, (design.fitted,)), _with(part, others))


def only_here(design: Design, path: str) -> Design:
    """Let a part fly in the fitted set alone; the others go without.

    Parameters
    ----------
    design : Design
    path : str
        Of a part.

    Returns
    -------
    Design
    """
    design = _with_masses(design, path, only_here)
    return _split(design, path, _with(_part(design, path), (design.fitted,)), None)


def not_here(design: Design, path: str) -> Design:
    """Leave a part out of the fitted set; the others keep it.

    Parameters
    ----------
    design : Design
    path : str
        Of a part.

    Returns
    -------
    Design
    """
    design = _with_masses(design, path, not_here)
    part = _part(design, path)
    others = _others(design, part)
    if not others:
        raise DesignError(path, "a part of this set alone", "a part that another set flies; or remove it")
    return _split(design, path, None, _with(part, others))


def everywhere(design: Design, path: str) -> Design:
    """Let the fitted version of a part fly in every set, in place of the others' versions of it.

    Parameters
    ----------
    design : Design
    path : str
        Of a part.

    Returns
    -------
    Design
    """
    design = _with_masses(design, path, everywhere)
    part = _part(design, path)
    fresh = _split(design, path, _with(part, ()), None)
    field = _field(path)
    shelf = {kind.field: listed(fresh.aside, kind) for kind in KINDS}
    # There is one power train: whatever drove the others goes.
    shelf[field] = () if field == "power" else tuple(other for other in shelf[field] if other.id != part.id)
    return _checked(fresh, {"aside": Aside(**shelf)})


def _field(path: str) -> str:
    return path.partition("[")[0]


def _part(design: Design, path: str) -> Any:
    """Return the part at a path such as ``surfaces[0]`` or ``power``; only in a design that has sets."""
    if not design.configurations:
        raise DesignError("set", "no set yet", "a design with two sets or more: make one first")
    part = get(design, path)
    if _field(path) not in KIND_OF or not hasattr(part, "sets"):
        raise DesignError(path, "no part of a set", "a surface, body, wheel, item, or the power train")
    return part


def _split(design: Design, path: str, here: Any, there: Any) -> Design:
    """Put one version in the fitted set and another aside; None for neither."""
    kind = KIND_OF[_field(path)]
    shelf = {each.field: listed(design.aside, each) for each in KINDS}
    if there is not None:
        shelf[kind.field] = (*shelf[kind.field], there)
    index = int(path.partition("[")[2].rstrip("]") or 0)
    now = listed(design, kind)
    fresh = (*now[:index], *(() if here is None else (here,)), *now[index + 1 :])
    return _checked(design, {kind.field: as_field(kind, fresh), "aside": Aside(**shelf)})


def flies_in(design: Design, part: Part) -> str:
    """Say in words where a part flies."""
    return ", ".join(name_of(design, ident) for ident in part.sets) if part.sets else "every set"
