"""Dimensions of what is selected on the Shape: stations of surfaces, bodies, wheels, motors, pictures."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from ridgeline.desk.choice_rows import BODY_KINDS, choice_row, joint_row, mount_rows
from ridgeline.desk.dimensions import Act, Dimension, Selection, name_row
from ridgeline.desk.part_edits import add_motors, duplicate_selected, remove_mount, remove_selected
from ridgeline.desk.set_edits import flies_row
from ridgeline.desk.store import Store
from ridgeline.desk.surface_edits import duplicate_surface, remove_surface, turn_seat, turn_sides
from ridgeline.desk.turning_rows import turning_rows

_STATION = (
    ("Out from the root", "y"),
    ("Chord", "chord"),
    ("Leading edge behind root", "x"),
    ("Height over root", "z"),
    ("Twist", "twist"),
)
_SURFACE = (
    ("Root edge behind datum", "x"),
    ("Root to starboard", "y"),
    ("Root over datum", "z"),
    ("Incidence", "incidence"),
    ("Panels turned up", "cant"),
    ("Thickness", "thickness"),
)
_SEAT = (
    ("Seat, foremost root edge", "front"),
    ("Seat, rearmost root edge", "back"),
    ("Hole to hole, 0 a rail", "step"),
    ("Incidence from", "low"),
    ("to", "high"),
    ("in steps of", "angle_step"),
)
_MOUNT = (
    ("Firewall behind datum", "x"),
    ("Shaft to starboard", "y"),
    ("Shaft over datum", "z"),
    ("Spacer under the motor", "spacer"),
    ("Round nose, inside", "inside"),
    ("Motor's end to disc", "adapter"),
    ("Shaft tilted down", "down"),
    ("Shaft turned right", "right"),
)
_WHEEL = (("Axle behind datum", "x"), ("Axle out", "y"), ("Axle height", "z"), ("Diameter", "diameter"))
_SECTION = (("Behind its nose", "x"), ("Width", "width"), ("Height", "height"), ("Middle over its origin", "z"))
_BODY = (
    ("Rounding of the body", "rounding"),
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


def station_selection(store: Store, index: int, number: int) -> Selection:
    """Return the dimensions of one station of a surface, and of the surface as a whole."""
    surface = store.design.surfaces[index]
    base = f"surfaces[{index}]"
    aside = not surface.mirrored or surface.y != 0
    whole = tuple(row for row in _SURFACE if aside or row[1] != "y")
    rows = (
        name_row(base),
        *_rows(f"{base}.stations[{number}]", _STATION),
        *_rows(base, whole),
        joint_row(store, base, surface),
        *(() if surface.seat is None else _rows(f"{base}.seat", _SEAT)),
        *flies_row(store, base),
    )
    place = "root" if number == 0 else ("tip" if number == len(surface.stations) - 1 else f"break {number}")
    acts: tuple[Act, ...] = (
        ("Duplicate", partial(duplicate_surface, store)),
        ("One side" if surface.mirrored else "Both sides", partial(turn_sides, store)),
        ("Remove", partial(remove_surface, store)),
        ("No seat" if surface.seat else "On a seat", partial(turn_seat, store, index)),
    )
    return Selection(f"station {number + 1}, {place}", rows, acts)


def body_selection(store: Store, index: int, number: int) -> Selection:
    """Return the dimensions of one cross-section of a body, and of the body as a whole."""
    base = f"bodies[{index}]"
    path = f"{base}.stations[{number}]"

    def then(do: Callable[[Store], None]) -> Callable[[], None]:
        def act() -> None:
            store.select(path)
            do(store)

        return act

    rows = (
        name_row(base),
        choice_row(store, "Is a", f"{base}.kind", BODY_KINDS),
        *_rows(path, _SECTION),
        Dimension("Rounding here, 0 box", f"{path}.rounding", empty=lambda: _round(store, index)),
        *_rows(base, _BODY),
        joint_row(store, base, store.design.bodies[index]),
        *flies_row(store, base),
    )
    acts = (("Duplicate", then(duplicate_selected)), ("Remove", then(remove_selected)))
    return Selection(f"section {number + 1}", rows, acts)


def other_selection(store: Store) -> Selection | None:
    """Return the dimensions of a selected body, wheel, motor or picture; None when a surface is selected."""
    design, spot = store.design, store.spot("body", "wheel", "mount", "picture")
    if spot is None:
        return None
    path, index = spot.path, spot.index
    acts: tuple[Act, ...] = (
        ("Duplicate", partial(duplicate_selected, store)),
        ("Remove", partial(remove_selected, store)),
    )
    match store.pick.kind:
        case "body":
            return body_selection(store, index, spot.inner)
        case "wheel":
            rows = [name_row(path), *_rows(path, _WHEEL), *flies_row(store, path)]
            return Selection("wheel", tuple(rows), acts)
        case "mount":
            assert design.power is not None
            sides = ", one on each side" if design.power.mounts[index].mirrored else ""
            rows = [*mount_rows(store, index), *_rows(path, _MOUNT), *turning_rows(store, index)]
            acts = (("Two motors more", partial(add_motors, store)), ("Remove", partial(remove_mount, store)))
            return Selection(f"motor {index + 1}{sides}", tuple(rows), acts)
    return Selection("picture", (name_row(path), *_rows(path, _PICTURE)))


def _round(store: Store, index: int) -> float | None:
    """Return how round a body is where a section does not say so itself."""
    bodies = store.design.bodies
    return bodies[index].rounding if index < len(bodies) else None


def _rows(base: str, fields: tuple[tuple[str, str], ...]) -> tuple[Dimension, ...]:
    return tuple(Dimension(words, f"{base}.{field}") for words, field in fields)
