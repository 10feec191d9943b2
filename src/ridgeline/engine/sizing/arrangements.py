"""The layouts an airframe can be laid out in, and what sets each apart."""

from __future__ import annotations

from typing import Literal, NamedTuple

Family = Literal["tail", "canard", "tailless"]
MotorPlace = Literal["nose", "behind", "each_body"]


class Arrangement(NamedTuple):
    """One layout: its name, what it is good for, its family, number of wings, and where the motors stand."""

    label: str
    words: str
    family: Family
    wings: int = 1
    motor: MotorPlace = "nose"


ARRANGEMENTS: dict[str, Arrangement] = {
    "conventional": Arrangement("High wing", "steady, easy", "tail"),
    "low_wing": Arrangement("Low wing", "sits on its wheels", "tail"),
    "t_tail": Arrangement("T-tail", "clear of the wash", "tail"),
    "v_tail": Arrangement("V-tail", "two panels", "tail"),
    "inverted_v": Arrangement("Inverted V", "rudder banks it", "tail"),
    "twin_fin": Arrangement("Twin fin", "low to pack", "tail"),
    "twin_boom": Arrangement("Twin boom", "clear view ahead", "tail", motor="behind"),
    "twin_fuselage": Arrangement("Twin fuselage", "two motors", "tail", motor="each_body"),
    "canard": Arrangement("Canard", "stalls in front", "canard", motor="behind"),
    "plank": Arrangement("Plank", "compact", "tailless"),
    "swept": Arrangement("Swept wing", "no tail, pusher", "tailless", motor="behind"),
    "forward_swept": Arrangement("Forward swept", "root stalls first", "tailless"),
    "delta": Arrangement("Delta", "lands steeply", "tailless", motor="behind"),
    "biplane": Arrangement("Biplane", "short span", "tail", wings=2),
    "triplane": Arrangement("Triplane", "rolls quickly", "tail", wings=3),
}


def arrangement_of(layout: str) -> Arrangement:
    """Return the facts of a layout of the brief."""
    return ARRANGEMENTS[layout]


def controls_for(layout: str, wished: str) -> str:
    """Return the control scheme a layout can carry: elevons without a tail, and never with one; or none at all."""
    if wished == "none":
        return wished
    if ARRANGEMENTS[layout].family == "tailless":
        return "elevons"
    return "aileron_elevator" if wished == "elevons" else wished
