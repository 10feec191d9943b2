"""The dimensions of one link of the power chain, and what can be done with the train."""

from __future__ import annotations

from functools import partial

from ridgeline.design.paths import Change
from ridgeline.design.power import PowerTrain
from ridgeline.desk.choice_rows import family_row, mount_rows
from ridgeline.desk.converting import conversion, convert
from ridgeline.desk.dimensions import Dimension, Selection, name_row
from ridgeline.desk.part_edits import add_motors, remove_power
from ridgeline.desk.set_edits import flies_row
from ridgeline.desk.sheets.power.links import NAMES
from ridgeline.desk.store import Store
from ridgeline.engine.power.leads import motor_lead_resistance
from ridgeline.engine.power.typed_parts import of_class
from ridgeline.engine.sizing.matching import FANS
from ridgeline.engine.sizing.mounting import with_motor_leads
from ridgeline.units import shown

#: What of each link can be typed: words and field.
_ROWS: dict[str, tuple[tuple[str, str], ...]] = {
    "motor": (
        ("Speed constant", "kv_rpm_per_v"),
        ("Winding, cold", "resistance"),
        ("No-load current", "no_load_current"),
        ("  at", "no_load_voltage"),
        ("Greatest current", "max_current"),
        ("Most cells", "max_cells"),
        ("Magnets around the bell", "poles"),
        ("Shaft", "shaft"),
        ("Bolt circle", "bolt_circle"),
        ("Can diameter", "diameter"),
        ("Can length", "length"),
        ("Mass", "mass"),
        ("Price", "price"),
    ),
    "esc": (
        ("Rating", "max_current"),
        ("Receiver supply", "bec_current"),
        ("On-resistance", "resistance"),
        ("Most cells", "max_cells"),
        ("Electrical speed limit", "max_erpm"),
        ("Mass", "mass"),
        ("Price", "price"),
    ),
    "pack": (
        ("Cells", "cells"),
        ("Capacity", "capacity_ah"),
        ("One cell's resistance", "cell_resistance"),
        ("Claimed C", "c_rating"),
        ("Least a cell, loaded", "cut_off"),
        ("Length", "length"),
        ("Width", "width"),
        ("Height", "height"),
        ("Mass", "mass"),
        ("Price", "price"),
    ),
    "propeller": (
        ("Diameter", "diameter"),
        ("Pitch", "pitch"),
        ("Blades", "blades"),
        ("Bore", "bore"),
        ("Mass", "mass"),
        ("Price", "price"),
    ),
}
#: What of the train belongs with a link: words and path.
_WITH: dict[str, tuple[tuple[str, str], ...]] = {
    "propeller": (
        ("Firewall behind the datum", "power.mounts[0].x"),
        ("Thrust line over datum", "power.mounts[0].z"),
    ),
    "pack": (
        ("Packs in series", "power.pack_series"),
        ("Packs side by side", "power.pack_parallel"),
        ("Leads, AWG", "power.lead_awg"),
    ),
}


def _lead_rows(store: Store, train: PowerTrain) -> list[Dimension]:
    """Return the rows of longer leads to the motor: an item carries their mass, and what they drop is told."""

    def changes(length: float) -> list[Change]:
        return list(with_motor_leads(store.design, length))

    def drop() -> str:
        power, current = store.design.power, store.report.value("power.static_current")
        if power is None or current is None:
            return "–"
        return shown(current / power.motors * motor_lead_resistance(power), "voltage", store.units, 2)

    rows = [Dimension("Longer leads, each", "power.motor_lead", changes=changes)]
    if train.motor_lead > 0:
        rows.append(Dimension("Their gauge, AWG", "power.motor_lead_awg"))
        rows.append(Dimension("They drop, full throttle", read=drop, unit=store.units["voltage"].symbol))
    return rows


def link_selection(store: Store, link: str, train: PowerTrain) -> Selection:
    """Return the dimensions of one link of the chain."""

    def by_class(field: str) -> float | None:
        """Return what a constant that nobody typed comes to by the part's class."""
        power = store.design.power
        return None if power is None else of_class(getattr(power, link), field)

    rows = [name_row(f"power.{link}")]
    if link == "propeller":
        rows.append(family_row(store))
    rows += [Dimension(words, f"power.{link}.{field}", empty=partial(by_class, field)) for words, field in _ROWS[link]]
    rows += [Dimension(words, path) for words, path in _WITH.get(link, ())]
    if link == "motor":
        rows += [*_lead_rows(store, train), *mount_rows(store, 0)]
    if link in ("esc", "pack"):
        rows.append(Dimension("Plug", f"power.{link}.connector", words=True))
    rows += flies_row(store, "power")
    motors = f", {train.motors} of them" if train.motors > 1 and link != "pack" else ""
    words = NAMES[link] if link == "esc" else NAMES[link].lower()
    other = "Propeller instead" if train.propeller.family in FANS else "Fan instead"
    acts = (
        ("Two motors more", partial(add_motors, store)),
        (other, partial(convert, store)),
        ("Take it out", partial(remove_power, store)),
    )
    return Selection(f"{words}{motors}", tuple(rows), acts, {other: partial(conversion, store)})
