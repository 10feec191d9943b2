"""Scale a whole airframe by a factor, its tail by another on top: for full-size drawings and sister aircraft."""

from __future__ import annotations

from ridgeline.design.airframe import Body, Surface, Wheel
from ridgeline.design.document import Design, from_plain
from ridgeline.design.parts import Item
from ridgeline.design.power import Mount
from ridgeline.engine.geometry.reference import TAILS
from ridgeline.engine.geometry.surfaces import measure_surface
from ridgeline.errors import DesignError

#: Built groups grow with the airframe; what is bought keeps its mass until it is chosen anew.
_BUILT = ("airframe", "adhesive", "structure", "gear")
FACTORS = (0.1, 10.0)
TAIL_FACTORS = (0.5, 2.0)


def scaled(design: Design, factor: float, tail: float = 1.0, mass_exponent: float = 3.0) -> Design:
    """Return the design with every length times ``factor``, and tails times ``tail`` about their quarter chords.

    Parameters
    ----------
    factor : float
        Linear scale, 0.1 to 10. Areas go with its square.
    tail : float
        Further linear enlargement of stabilisers, V-tails and fins, 0.5 to 2: scale tails are often too small.
    mass_exponent : float
        Built items' estimates go with ``factor`` to this power: 3 for everything scaled, 2 for the same sheet.

    Raises
    ------
    DesignError
        When a factor or a resulting length is out of range. Weighed values of built items are dropped, since they
        were of another size.

    Source
    ------
    Lengths k, areas k², masses k³ or a chosen exponent (handbook of the trade §0).
    """
    for name, value, (low, high) in (("scale", factor, FACTORS), ("tail", tail, TAIL_FACTORS)):
        if not low <= value <= high:
            raise DesignError(name, f"{value:g}", f"a factor from {low:g} to {high:g}")
    surfaces = tuple(_surface(s, factor, tail if s.role in (*TAILS, "fin") else 1.0) for s in design.surfaces)
    update = {
        "surfaces": surfaces,
        "bodies": tuple(_body(body, factor) for body in design.bodies),
        "wheels": tuple(_wheel(wheel, factor) for wheel in design.wheels),
        "parts": tuple(_item(part, factor, factor**mass_exponent) for part in design.parts),
        "power": design.power
        and design.power.model_copy(update={"mounts": tuple(_mount(m, factor) for m in design.power.mounts)}),
    }
    return from_plain(design.model_copy(update=update).model_dump(mode="json"), source=f"scaled by {factor:g}")


def _surface(surface: Surface, factor: float, tail: float) -> Surface:
    k = factor * tail
    stations = tuple(
        s.model_copy(update={"y": s.y * k, "chord": s.chord * k, "x": s.x * k, "z": s.z * k}) for s in surface.stations
    )
    controls = tuple(c.model_copy(update={"start": c.start * k, "end": c.end * k}) for c in surface.controls)
    place = {name: getattr(surface, name) * factor for name in ("x", "y", "z")}
    grown = surface.model_copy(
        update={
            **place,
            "stations": stations,
            "controls": controls,
            "thickness": surface.thickness * factor,
            "droop": surface.droop * factor,
        }
    )
    # An enlarged tail keeps its arm: its quarter chord stays where the plain scale puts it.
    off = factor * measure_surface(surface).x_quarter - measure_surface(grown).x_quarter
    return grown.model_copy(update={"x": grown.x + off}) if tail != 1.0 else grown


def _body(body: Body, k: float) -> Body:
    stations = tuple(
        s.model_copy(update={"x": s.x * k, "width": s.width * k, "height": s.height * k, "z": s.z * k})
        for s in body.stations
    )
    return body.model_copy(update={"stations": stations, "y": body.y * k})


def _wheel(wheel: Wheel, k: float) -> Wheel:
    return wheel.model_copy(update={name: getattr(wheel, name) * k for name in ("x", "y", "z", "diameter")})


def _mount(mount: Mount, k: float) -> Mount:
    return mount.model_copy(update={name: getattr(mount, name) * k for name in ("x", "y", "z")})


def _item(item: Item, k: float, mass: float) -> Item:
    update: dict[str, object] = {name: getattr(item, name) * k for name in ("x", "y", "z")}
    if item.group in _BUILT:
        known = item.estimate if item.estimate is not None else item.weighed
        update |= {"estimate": None if known is None else known * mass, "weighed": None}
    if item.build is not None:
        # Areas grow with k², lengths with k; what the chosen exponent asks beyond that goes into the share.
        by_itself = k if item.build.kind == "length" else k * k
        own = 1.0 if item.build.of else by_itself
        build = {"share": min(item.build.share * mass / by_itself, 5.0), "extent": item.build.extent * own}
        update["build"] = item.build.model_copy(update=build)
    if item.rail is not None:
        room = (item.rail.back - item.rail.front) * k
        length = min(item.rail.item_length, room)
        rail = {"front": item.rail.front * k, "back": item.rail.back * k, "item_length": length}
        update["rail"] = item.rail.model_copy(update=rail)
        update["x"] = min(max(item.x * k, rail["front"] + length / 2), rail["back"] - length / 2)
    return item.model_copy(update=update)
