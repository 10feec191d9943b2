"""A propeller exchanged for a ducted fan, or back: the train of the other kind that the shelf has for the aircraft."""

from __future__ import annotations

from ridgeline.design.document import Design
from ridgeline.design.parts import Component
from ridgeline.design.paths import Change
from ridgeline.design.power import PowerTrain
from ridgeline.design.shelf import Shelf
from ridgeline.engine.aero.atmosphere import density
from ridgeline.engine.power.aboard import called_aboard
from ridgeline.engine.power.exchange import exchange
from ridgeline.engine.sizing.matching import FANS, FIRST_FAMILIES, first_power_train

_LINKS: tuple[Component, ...] = ("motor", "esc", "pack", "propeller")


def other_train(design: Design, shelf: Shelf, mass: float) -> PowerTrain | None:
    """Return the train of the other kind for an aircraft, on the mounts it has.

    Parameters
    ----------
    design : Design
        With a power train.
    shelf : Shelf
    mass : float
        All-up, kg.

    Returns
    -------
    PowerTrain or None
        None where the shelf has none.
    """
    train = design.power
    assert train is not None
    families = FIRST_FAMILIES if train.propeller.family in FANS else FANS
    span = 2 * max((s.y + s.stations[-1].y for s in design.surfaces), default=0.6)
    air = density(design.brief.elevation, design.brief.temperature_c)
    motors = train.motors
    found = first_power_train(design.brief, shelf, mass, air, span, motors=motors, families=families)
    return None if found is None else found.model_copy(update={"mounts": train.mounts})


def converted(design: Design, train: PowerTrain) -> tuple[Change, ...]:
    """Return the edits that fit another train's motor, controller, pack and propeller in place of those there are.

    Parameters
    ----------
    design : Design
        With a power train.
    train : PowerTrain

    Returns
    -------
    tuple of Change
        Their items take the new masses and names, and forget the old weighing.
    """
    parts = {link: getattr(train, link) for link in _LINKS}
    return tuple(change for link, part in parts.items() for change in exchange(design, link, part, called_aboard(part)))
