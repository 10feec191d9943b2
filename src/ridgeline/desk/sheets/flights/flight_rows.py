"""What is typed of one flight, as rows of the margin, and what is done with it."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from ridgeline.design.configurations import name_of
from ridgeline.design.paths import REMOVE, Change
from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.store import Store
from ridgeline.engine.aero.airframe_lattice import FLAP_CONTROLS
from ridgeline.engine.flight.clicks import TrimField, clicks_read
from ridgeline.units import with_unit

_LAUNCHES = (
    ("hand", "by hand"),
    ("wheels", "off wheels"),
    ("bungee", "by bungee"),
    ("tow", "by tow"),
    ("slope", "slope"),
)


def flight_rows(store: Store, place: int, watch: tuple[str, Callable[[], object]]) -> Selection:
    """Return the rows of a flight by its place in the log."""
    flight, base = store.design.flights[place], f"flights[{place}]"
    row = store.report.results.logged.rows[place]
    units = store.units

    def launched(value: str) -> None:
        store.put(f"{base}.launch", value, "Launch")

    def mended(value: str) -> None:
        store.put(f"{base}.repaired", value, "Part that was mended")

    def clicks(trim: TrimField, text: str) -> float | None:
        return clicks_read(store.design, store.report, trim, text)

    def told(value: float | None, quantity: str) -> Callable[[], str]:
        return lambda: "–" if value is None else with_unit(value, quantity, units)

    parts = [(surface.id, surface.name) for surface in store.design.surfaces]
    parts += [(body.id, body.name) for body in store.design.bodies]
    powered = store.design.power is not None
    rows = [Dimension("In the air", f"{base}.aloft")]
    if powered:
        rows += [
            Dimension("Put back into the pack", f"{base}.put_back_ah"),
            Dimension("Rested, per cell", f"{base}.rested"),
            Dimension("Pack", f"{base}.pack", words=True),
        ]
    rows += [
        Dimension("Wind", f"{base}.wind"),
        Dimension("Gusts", f"{base}.gusts"),
        Dimension("Up trim, ° or clicks", f"{base}.trim_pitch", reads=partial(clicks, "trim_pitch")),
        Dimension("Right trim", f"{base}.trim_roll", reads=partial(clicks, "trim_roll")),
        Dimension("Right rudder trim", f"{base}.trim_yaw", reads=partial(clicks, "trim_yaw")),
        Dimension("Words", f"{base}.words", words=True),
        Dimension("Changed", f"{base}.changed", words=True),
        Dimension("Damage", f"{base}.damage", words=True),
        Dimension("Mended with", f"{base}.repair"),
    ]
    if flight.repair:
        now = ((flight.repaired, "not told"),) if not any(flight.repaired == ident for ident, _n in parts) else ()
        rows.append(Dimension("Mended part", read=lambda: flight.repaired, choices=(*now, *parts), choose=mended))
    rows += [
        Dimension("Launch", read=lambda: flight.launch, choices=_LAUNCHES, choose=launched),
        Dimension("Weighed before it", f"{base}.mass"),
        Dimension("Balance, behind datum", f"{base}.balance"),
        Dimension("Air", f"{base}.temperature_c"),
    ]
    if powered:
        rows += [
            Dimension("More up trim at full", f"{base}.trim_power"),
            Dimension("Turns, full throttle", f"{base}.rpm"),
            Dimension("Pack resistance", f"{base}.resistance"),
        ]
    if any(one.kind in FLAP_CONTROLS for surface in store.design.surfaces for one in surface.controls):
        rows.append(Dimension("More up trim, flaps", f"{base}.trim_flap"))
    rows += [
        Dimension("A whole roll", f"{base}.roll_seconds"),
        Dimension("Glide, power off", f"{base}.glide_ratio"),
    ]
    if powered:
        left = None if row.left is None else row.left.value
        rows.append(Dimension("Mean current", read=told(None if row.mean is None else row.mean.value, "current")))
        rows.append(Dimension("Left in the pack", read=told(left, "fraction")))
    if store.design.configurations:
        rows.append(Dimension("Set", read=lambda: name_of(store.design, flight.fitted) or "not told"))
    speed = None if row.airspeed is None else row.airspeed.value
    rows.append(Dimension("Airspeed, full throttle", read=told(speed, "speed")))
    acts: list[tuple[str, Callable[[], object]]] = [watch]
    if flight.passes:
        acts.append(("Last pass out", lambda: store.edit([Change(f"{base}.passes[{len(flight.passes) - 1}]", REMOVE)],
                                                         "Take the last pass out")))  # fmt: skip
    acts.append(("Take it out", lambda: store.edit([Change(base, REMOVE)], f"Take flight {place + 1} out")))
    return Selection(f"flight {place + 1}, version {flight.version}", tuple(rows), tuple(acts))


def log_words(store: Store) -> str:
    """Return what the log comes to in a few words."""
    logged, many = store.report.results.logged, len(store.design.flights)
    if not many:
        return "nothing flown yet"
    minutes = with_unit(store.report.value("log.minutes") or 0.0, "flight_time", store.units, 0)
    doubted = sum(any(doubt.kind != "left" for doubt in found) for found in logged.doubts.values())
    told = f"{minutes} in {many} flight{'' if many == 1 else 's'}"
    return f"{told}; {doubted} cannot be as written" if doubted else f"{told}; measured against predicted"
