"""Dimensions of what is selected on the Shape besides surfaces: bodies, wheels, motors, pictures."""

from __future__ import annotations

from ridgeline.desk.margin import Dimension, Selection
from ridgeline.desk.set_edits import flies_row
from ridgeline.desk.store import Store

_MOUNT = (
    ("Firewall behind datum", "x"),
    ("Shaft to starboard", "y"),
    ("Shaft over datum", "z"),
    ("Spacer under the motor", "spacer"),
    ("Motor's end to disc", "adapter"),
    ("Shaft tilted down", "down"),
    ("Shaft turned right", "right"),
)
_WHEEL = (("Axle behind datum", "x"), ("Axle out", "y"), ("Axle height", "z"), ("Diameter", "diameter"))
_SECTION = (("Behind its nose", "x"), ("Width", "width"), ("Height", "height"), ("Middle over its origin", "z"))
_BODY = (
    ("Rounding, 0 box", "rounding"),
    ("Body behind datum", "x"),
    ("Body to starboard", "y"),
    ("Body over datum", "z"),
)
_PICTURE = (
    ("Left edge", "across"),
    ("Upper edge", "along"),
    ("Size of one pixel", "metres_per_pixel"),
    ("How strongly it shows", "strength"),
)


def _index(text: str, name: str) -> int:
    return int(text[len(name) + 1 :].partition("]")[0])


def other_selection(store: Store) -> Selection | None:
    """Return the dimensions of a selected body, wheel, motor or picture; None when a surface is selected."""
    text, design = store.selection, store.design
    if text.startswith("bodies[") and _index(text, "bodies") < len(design.bodies):
        body = design.bodies[_index(text, "bodies")]
        number = int(text.rpartition("[")[2].rstrip("]"))
        if number < len(body.stations):
            base = text.partition(".")[0]
            rows = [Dimension(words, f"{text}.{field}") for words, field in _SECTION]
            rows += [Dimension(words, f"{base}.{field}") for words, field in _BODY]
            rows += flies_row(store, base)
            return Selection(f"{body.name}, section {number + 1}", tuple(rows))
    if text.startswith("wheels[") and _index(text, "wheels") < len(design.wheels):
        wheel = design.wheels[_index(text, "wheels")]
        rows = [Dimension(words, f"{text}.{field}") for words, field in _WHEEL]
        return Selection(wheel.name, (*rows, *flies_row(store, text)))
    if text.startswith("power.mounts[") and design.power is not None:
        number = _index(text, "power.mounts")
        if number < len(design.power.mounts):
            mount = design.power.mounts[number]
            sides = ", one on each side" if mount.mirrored else ""
            rows = [Dimension(words, f"{text}.{field}") for words, field in _MOUNT]
            return Selection(f"motor {number + 1}{sides}", tuple(rows))
    if text.startswith("underlays[") and _index(text, "underlays") < len(design.underlays):
        under = design.underlays[_index(text, "underlays")]
        return Selection(under.name, tuple(Dimension(words, f"{text}.{field}") for words, field in _PICTURE))
    return None
