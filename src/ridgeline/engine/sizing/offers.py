"""The ways a surface or a body could be built, with what each weighs and where it stalls; and the edits that do it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, NamedTuple, get_args

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.brief import Brief
from ridgeline.design.construction import BodyBuild, BodyForm, SurfaceBuild, SurfaceForm
from ridgeline.design.document import Design
from ridgeline.design.paths import Change, apply
from ridgeline.engine.aero.sections import section_of
from ridgeline.engine.build.hulls import pieces_of_body
from ridgeline.engine.build.making import remade
from ridgeline.engine.build.panels import pieces_of_surface
from ridgeline.engine.build.pieces import Piece
from ridgeline.engine.build.whole import parts_of
from ridgeline.engine.kept import kept
from ridgeline.engine.sizing.building import boom_build, plan_of
from ridgeline.engine.sizing.forms import rebuilt, resectioned

#: Forms in a word, for a small picture.
LABELS: dict[str, str] = {
    "plate": "Plate",
    "stepped": "Stepped",
    "curved": "Curved",
    "folded": "Folded",
    "folded_under": "Folded up",
    "ribbed": "Ribbed",
    "core": "Core",
    "printed": "Printed",
    "bought": "Bought",
    "profile": "Profile",
    "box": "Box",
    "stick": "Stick",
    "folded_box": "Folded box",
    "carved": "Carved",
}


Build = SurfaceBuild | BodyBuild
#: No more than a document holds for a part that is bought, kg.
_MOST = 20.0


class Offer(NamedTuple):
    """One way to build a part: its form, the part so built, all it weighs, kg, and its section's lift limit."""

    form: str
    part: Surface | Body
    mass: float
    limit: float | None


def first_build(part: Surface | Body, brief: Brief) -> SurfaceBuild | BodyBuild:
    """Return how a part is built, or would be if that were said now: by the brief's method and purpose.

    Parameters
    ----------
    part : Surface or Body
    brief : Brief

    Returns
    -------
    SurfaceBuild or BodyBuild
    """
    if part.built is not None:
        return part.built
    plan = plan_of(brief)
    if isinstance(part, Surface):
        return plan.wing if part.role in ("wing", "foreplane") else plan.tail
    return boom_build(brief.ceiling) if part.kind == "boom" else plan.body


@kept(64)
def offers(part: Surface | Body, brief: Brief) -> tuple[Offer, ...]:
    """Return every way a part could be built.

    Parameters
    ----------
    part : Surface or Body
    brief : Brief

    Returns
    -------
    tuple of Offer
        In the order of the forms.
    """
    start = first_build(part, brief)
    if isinstance(part, Surface):
        told = part.model_copy(update={"built": _as_heavy(start, sum(p.total for p in _pieces(part, start)))})
        return tuple(_of_surface(told, form) for form in get_args(SurfaceForm))
    start = _as_heavy(start, sum(p.total for p in _pieces(part, start)))
    return tuple(_of_body(part, start, form) for form in get_args(BodyForm))


def _pieces(part: Surface | Body, built: Build) -> tuple[Piece, ...]:
    trial = part.model_copy(update={"built": built})
    return pieces_of_surface(trial) if isinstance(trial, Surface) else pieces_of_body(trial)


def _as_heavy(built: Build, mass: float) -> Build:
    """Return a build that, were it bought, would weigh what it does now: until the real one is known."""
    return built if built.form == "bought" else built.model_copy(update={"mass": min(mass, _MOST)})


def _of_surface(surface: Surface, form: SurfaceForm) -> Offer:
    trial = surface.model_copy(update=rebuilt(surface, form))
    mass = sum(piece.total for piece in pieces_of_surface(trial))
    return Offer(form, trial, mass, section_of(trial).cl_max)


def _of_body(body: Body, start: SurfaceBuild | BodyBuild, form: str) -> Offer:
    trial = body.model_copy(update={"built": start.model_copy(update={"form": form})})
    return Offer(form, trial, sum(piece.total for piece in pieces_of_body(trial)), None)


def changed_part(design: Design, path: str, fields: Mapping[str, Any]) -> tuple[Change, ...]:
    """Return the edits that change fields of a surface or body, and make its items those of its pieces.

    Parameters
    ----------
    design : Design
    path : str
        Of the part.
    fields : mapping
        New values by field.

    Returns
    -------
    tuple of Change
    """
    changes = tuple(Change(f"{path}.{name}", value) for name, value in fields.items())
    after = apply(design, changes)
    part = dict(parts_of(after))[path]
    return (*changes, *remade(after, part)) if part.built is not None else changes


def built_as(design: Design, path: str, form: str) -> tuple[Change, ...]:
    """Return the edits that build a part in another form: section, thickness and pieces follow.

    Parameters
    ----------
    design : Design
    path : str
        Of a surface or body.
    form : str

    Returns
    -------
    tuple of Change
    """
    part = dict(parts_of(design))[path]
    offer = next(one for one in offers(part, design.brief) if one.form == form)
    fields = {name: getattr(offer.part, name) for name in type(part).model_fields}
    return changed_part(
        design, path, {n: v for n, v in fields.items() if v is not getattr(part, n) and v != getattr(part, n)}
    )


def with_section(design: Design, index: int, section: str) -> tuple[Change, ...]:
    """Return the edits that give a surface another section; how it is built, where that is said, follows.

    Parameters
    ----------
    design : Design
    index : int
        Of the surface.
    section : str

    Returns
    -------
    tuple of Change
    """
    return changed_part(design, f"surfaces[{index}]", resectioned(design.surfaces[index], section))


def added(design: Design, field: str, part: Surface | Body) -> tuple[Change, ...]:
    """Return the edits that add a part with its pieces: nothing is weightless unseen.

    Parameters
    ----------
    design : Design
    field : str
        Surfaces or bodies.
    part : Surface or Body
        Without an id; built as the brief says where it does not say how.

    Returns
    -------
    tuple of Change
    """
    built = part.model_copy(update={"built": first_build(part, design.brief)})
    after = apply(design, (Change(f"{field}[-]", built),))
    numbered = getattr(after, field)[-1]
    return (Change(f"{field}[-]", numbered), *remade(after, numbered))
