"""Forms of construction: their words, the section that goes with each, and a surface built another way."""

from __future__ import annotations

from typing import Any

from ridgeline.design.airframe import SectionForm, Surface
from ridgeline.design.construction import SurfaceBuild, SurfaceForm

#: Forms in the builder's words.
FORM_WORDS: dict[str, str] = {
    "plate": "a plate",
    "stepped": "a stepped plate",
    "curved": "a curved sheet",
    "folded": "a folded sheet",
    "folded_under": "a sheet folded the other way round",
    "ribbed": "ribs under skins",
    "core": "a solid core",
    "printed": "a printed shell",
    "bought": "as bought",
}
#: The section of a form; forms not named are built to a drawn one.
SECTION_OF: dict[str, SectionForm] = {
    "plate": "rounded_plate",
    "stepped": "stepped_plate",
    "curved": "curved_sheet",
    "folded": "folded",
    "folded_under": "folded",
}
#: Sections a form takes besides its usual one.
_ALSO: dict[str, tuple[str, ...]] = {"plate": ("sharp_plate", "rounded_plate")}
#: Sections that tell the form, where none was chosen; all others are drawn.
FORM_OF: dict[str, SurfaceForm] = {
    "sharp_plate": "plate",
    "rounded_plate": "plate",
    "stepped_plate": "stepped",
    "curved_sheet": "curved",
    "folded": "folded",
}
DRAWN_USUAL: SectionForm = "flat_bottom"
#: Forms that are built to any drawn section; the usual one is ribbed.
DRAWN_FORMS: tuple[SurfaceForm, ...] = ("ribbed", "core", "printed", "bought")
#: The next lighter form of board (second part of the handbook §15.1).
LIGHTER_FORM: dict[str, SurfaceForm] = {"ribbed": "folded", "folded": "stepped", "stepped": "plate", "curved": "plate"}
#: Thickness of drawn and folded sections, and rise of a curved sheet, over the chord (usual).
DRAWN_THICKNESS, CURVED_RISE = 0.09, 0.05


def thickness_of(section: str, chord: float, sheet: float) -> float:
    """Return the thickness a section is drawn with on a chord, m: plates by their sheet, others by the chord.

    Parameters
    ----------
    section : str
        A built form.
    chord, sheet : float
        m.

    Returns
    -------
    float
    """
    plates = {"rounded_plate": sheet, "sharp_plate": sheet, "stepped_plate": 2 * sheet}
    if section in plates:
        return plates[section]
    return CURVED_RISE * chord + sheet if section == "curved_sheet" else DRAWN_THICKNESS * chord


def section_for(form: SurfaceForm, now: str) -> str:
    """Return the section a surface of a form has: the form's, or its own where the form is built to any drawn one."""
    if form in DRAWN_FORMS:
        # Prints and cores may be plates too.
        return now if form in ("printed", "bought") or now not in FORM_OF else DRAWN_USUAL
    return now if now in _ALSO.get(form, ()) else SECTION_OF[form]


def form_for(section: str, built: SurfaceBuild) -> SurfaceForm:
    """Return the form a surface of a section is built in: its own where that can be, else the section's.

    Parameters
    ----------
    section : str
    built : SurfaceBuild
        As it is built now.

    Returns
    -------
    SurfaceForm
    """
    if built.form in ("printed", "bought") or (built.form == "folded_under" and section == "folded"):
        return built.form
    if section in FORM_OF:
        return FORM_OF[section]
    return built.form if built.form in DRAWN_FORMS else DRAWN_FORMS[0]


def rebuilt(surface: Surface, form: SurfaceForm) -> dict[str, Any]:
    """Return the fields of a surface that change when it is built in another form: its build, section and thickness.

    Parameters
    ----------
    surface : Surface
    form : SurfaceForm

    Returns
    -------
    dict
        By field; only what differs.
    """
    built = (surface.built or SurfaceBuild()).model_copy(update={"form": form})
    section = section_for(form, surface.section)
    fields: dict[str, Any] = {"built": built}
    if section != surface.section:
        chord = surface.stations[0].chord
        fields |= {"section": section, "thickness": thickness_of(section, chord, surface.sheet)}
    return fields


def resectioned(surface: Surface, section: str) -> dict[str, Any]:
    """Return the fields of a surface that change with its section: the form it is built in follows.

    Parameters
    ----------
    surface : Surface
    section : str

    Returns
    -------
    dict
        By field.
    """
    fields: dict[str, Any] = {"section": section}
    if surface.built is not None:
        form = form_for(section, surface.built)
        if form != surface.built.form:
            fields["built"] = surface.built.model_copy(update={"form": form})
    return fields
