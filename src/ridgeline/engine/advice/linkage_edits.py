"""Edits of linkages that several rules offer: other holes, teeth and throws, in the builder's words."""

from __future__ import annotations

from ridgeline.design.airframe import ControlSurface, Surface
from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.engine.controls.inverse import Setting, settings_for
from ridgeline.engine.controls.linkage import Throw
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Remedy
from ridgeline.engine.stages.linked import LinkedControl


def called(surface: Surface, control: ControlSurface) -> str:
    """Return what a control is called: its kind, and whose it is where it is not plain."""
    return f"{surface.name}: {control.kind}"


def place_of(design: Design, row: LinkedControl) -> str:
    """Return the path of a linkage."""
    return f"linkages[{next(k for k, one in enumerate(design.linkages) if one.id == row.linkage.id)}]"


def control_path(design: Design, row: LinkedControl) -> str:
    """Return the path of the control a linkage moves."""
    surface = design.surfaces[row.surface]
    which = next(k for k, control in enumerate(surface.controls) if control.id == row.control.id)
    return f"surfaces[{row.surface}].controls[{which}]"


def reaches(row: LinkedControl, throw: Throw) -> bool:
    """Tell whether a linkage gives throws with its present holes and tooth and a travel of 60 to 100 %.

    Parameters
    ----------
    row : LinkedControl
    throw : Throw

    Returns
    -------
    bool
    """
    one = row.linkage
    return bool(settings_for(one, throw, (one.arm,), (one.horn,), (one.clocked,)))


def with_setting(design: Design, row: LinkedControl, setting: Setting) -> Remedy:
    """Return the edit to other holes and teeth, the radio's travel left to be set for the wish."""
    base, one = place_of(design, row), row.linkage
    told, values, changes = [], [], []
    for field, now, then in (("arm", one.arm, setting.arm), ("horn", one.horn, setting.horn)):
        if abs(now - then) > 1e-6:
            told.append(f"{field} hole {{}}")
            values.append(Measured(then, "length", 1))
            changes.append(Change(f"{base}.{field}", then))
    if setting.clocked != one.clocked:
        way = "square" if not setting.clocked else (
            f"{abs(setting.clocked)} {'tooth' if abs(setting.clocked) == 1 else 'teeth'} "
            f"{'ahead' if setting.clocked > 0 else 'behind'}"
        )  # fmt: skip
        told.append(f"arm {way}")
        changes.append(Change(f"{base}.clocked", setting.clocked))
    if one.rod_long is not None:
        changes.append(Change(f"{base}.rod_long", None))
    for k, channel in enumerate(design.radio.channels if design.radio is not None else ()):
        if one.id in channel.moves and (channel.high is not None or channel.low is not None):
            changes += [Change(f"radio.channels[{k}].high", None), Change(f"radio.channels[{k}].low", None)]
    words = ", ".join(told) if told else "the radio's travel set for it"
    values.append(Measured(setting.resolution, "fraction", 0))
    return Remedy("holes", say(words[:1].upper() + words[1:] + ": {} of the travel", *values), tuple(changes))
