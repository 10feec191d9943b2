"""A propeller exchanged for a ducted fan, or back: shown as a ghost first, then done as one step."""

from __future__ import annotations

from ridgeline.design.document import Design
from ridgeline.design.power import PowerTrain
from ridgeline.desk.store import Store
from ridgeline.engine.phrase import say
from ridgeline.engine.power.classes import mass_of
from ridgeline.engine.report import Remedy
from ridgeline.engine.sizing.conversion import converted, other_train
from ridgeline.files.own_bin import parts_on_hand
from ridgeline.units import with_unit

_LINKS = (("motor", "motor"), ("propeller", "propeller or fan"), ("pack", "pack"), ("esc", "ESC"))


def _other(store: Store) -> PowerTrain | None:
    mass = store.report.value("mass.auw")
    if store.design.power is None or mass is None:
        return None
    return other_train(store.design, parts_on_hand(), mass)


def conversion(store: Store) -> Remedy | None:
    """Return the exchange as a way out, to be shown before it is made; None where the shelf has none."""
    train = _other(store)
    return None if train is None else Remedy("convert", say("{}", train.propeller.name), converted(store.design, train))


def convert(store: Store) -> None:
    """Exchange the propeller for a ducted fan, or back, and say what each part weighs before and after."""
    train = _other(store)
    if train is None:
        store.noted.emit("There is none on the shelf for an aircraft of this weight.")
        return
    before: Design = store.design
    if store.edit(converted(before, train), f"Fit {train.propeller.name}"):
        store.noted.emit(f"{train.motor.name}, {train.propeller.name}: {_masses(store, before.power, train)}.")


def _masses(store: Store, old: PowerTrain | None, new: PowerTrain) -> str:
    """Say old and new masses of each link that changed."""
    told = []
    for link, words in _LINKS:
        was, now = getattr(old, link), getattr(new, link)
        if was.name != now.name:
            grams = (with_unit(mass_of(part), "mass", store.units) for part in (was, now))
            told.append(f"{words} {' → '.join(grams)}")
    return ", ".join(told)
