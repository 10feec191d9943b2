"""How the first throw is planned, as rows of the margin, and in words."""

from __future__ import annotations

from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.store import Store
from ridgeline.engine.flight.throwing import Launching
from ridgeline.units import with_unit

_KINDS = (("", "as the brief"), ("hand", "by hand"), ("swing", "swung by the tip"), ("tow", "by a line"),
          ("wheels", "off wheels"))  # fmt: skip
_WHO = (("", "as the launch"), ("off", "hands off"), ("on", "somebody holds it"))
_FLAPS = (("", "up"), ("on", "down"))
_GUSTS = (("", "steady"), ("on", "in gusts"))
KIND_WORDS = {"hand": "thrown", "swing": "swung", "tow": "on a line", "wheels": "off its wheels"}


def throw_rows(store: Store, launch: Launching | None) -> Selection:
    """Return the rows of the plan."""
    plan = store.design.first_throw

    def turned(field: str, label: str) -> object:
        return lambda value: store.put(f"first_throw.{field}", bool(value), label)

    def switch(label: str, field: str, words: tuple[tuple[str, str], ...]) -> Dimension:
        return Dimension(label, read=lambda: "on" if getattr(plan, field) else "", choices=words,
                         choose=turned(field, label))  # type: ignore[arg-type]  # fmt: skip

    def kind(value: str) -> None:
        store.put("first_throw.kind", value or None, "How it is launched")

    def who(value: str) -> None:
        store.put("first_throw.pilot", {"": None, "on": True, "off": False}[value], "Who holds the sticks")

    used = launch

    def known(read: str) -> float | None:
        if used is None:
            return None
        return {
            "speed": float(used.throw.speed), "throttle": float(used.held.throttle), "trim": -float(used.held.pitch),
        }[read]  # fmt: skip

    rows = [
        Dimension("Launched", read=lambda: plan.kind or "", choices=_KINDS, choose=kind),
        Dimension("Let go at", "first_throw.speed", empty=lambda: known("speed")),
        Dimension("Upward", "first_throw.angle"),
        Dimension("Hand over ground", "first_throw.height"),
        Dimension("Throttle", "first_throw.throttle", empty=lambda: known("throttle")),
        Dimension("Up trim", "first_throw.trim", empty=lambda: known("trim")),
        Dimension("Bank, starboard down", "first_throw.bank"),
        Dimension("Head wind at 10 m", "first_throw.wind"),
        switch("Wind", "gusty", _GUSTS),
        Dimension("Rising air", "first_throw.rising"),
        Dimension("Ground falls ahead", "first_throw.falls"),
        Dimension("Sticks", read=lambda: {None: "", True: "on", False: "off"}[plan.pilot], choices=_WHO, choose=who),
        Dimension("Flown for", "first_throw.seconds"),
    ]
    if launch is not None and launch.flaps.angle:
        rows.insert(-1, switch("Flaps", "flaps", _FLAPS))
    if launch is not None and launch.kind == "tow":
        rows[7:7] = [
            Dimension("Line pulls", "first_throw.pull"),
            Dimension("Over", "first_throw.line", empty=lambda: store.design.brief.ground_roll),
            Dimension("Hook ahead", "first_throw.hook"),
            Dimension("Hook under", "first_throw.hook_below"),
        ]
    if launch is not None and launch.kind == "wheels":
        rows += _run_rows(store)
    return Selection("the plan", tuple(rows))


def _run_rows(store: Store) -> list[Dimension]:
    """Return what the run before it comes to, to be read."""
    figure, running, units = store.report.figures["flight.takeoff_run"], store.report.results.running, store.units
    run = "–" if figure.value is None else with_unit(figure.value, figure.quantity, units)
    rows = [Dimension("Take-off run", read=lambda: run)]
    if running is not None and running.stance is not None:
        tips = with_unit(running.stance.tips, "angle", units, 0)
        way = "onto its tail at" if running.stance.behind > 0 else "onto its nose at"
        rows.append(Dimension(f"Tips {way}", read=lambda: tips))
    if running is not None and running.left is not None:
        left = with_unit(max(running.left, -9.99), "fraction", units, 0)
        rows.append(Dimension("Elevator left, nose up", read=lambda: left))
    return rows


def plan_words(store: Store, launch: Launching) -> str:
    """Return the plan in one line."""
    units, plan = store.units, store.design.first_throw
    up = with_unit(float(launch.throw.path), "angle", units, 0)
    parts = [f"{with_unit(float(launch.throw.speed), 'speed', units)} at {up} up"]
    if launch.pull is not None:
        parts.append(f"{with_unit(float(launch.held.throttle), 'fraction', units, 0)} throttle")
    who = "somebody at the sticks" if launch.held_by else "hands off"
    parts.append(f"{who} for {with_unit(plan.seconds, 'seconds', units, 0)}")
    if plan.wind:
        way = "head" if plan.wind > 0 else "tail"
        parts.append(f"{way} wind {with_unit(abs(plan.wind), 'speed', units)}")
    return ", ".join(parts)
