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
    "conventional": Arrangement("High wing", "steady, easy to launch", "tail"),
    "low_wing": Arrangement("Low wing", "lands on its wheels, rolls freely", "tail"),
    "t_tail": Arrangement("T-tail", "tail clear of the wash and the grass", "tail"),
    "v_tail": Arrangement("V-tail", "two panels do for three", "tail"),
    "inverted_v": Arrangement("Inverted V", "rudder rolls into the turn", "tail"),
    "twin_fin": Arrangement("Twin fin", "end plates, low to pack", "tail"),
    "twin_boom": Arrangement("Twin boom", "pusher, clear view ahead", "tail", motor="behind"),
    "twin_fuselage": Arrangement("Twin fuselage", "two motors, room between", "tail", motor="each_body"),
    "canard": Arrangement("Canard", "foreplane stalls first", "canard", motor="behind"),
    "plank": Arrangement("Plank", "unswept, reflexed, compact", "tailless"),
    "swept": Arrangement("Swept wing", "no tail, pusher", "tailless", motor="behind"),
    "forward_swept": Arrangement("Forward swept", "root stalls first, tips fly on", "tailless"),
    "delta": Arrangement("Delta", "strong, short, steep to land", "tailless", motor="behind"),
    "biplane": Arrangement("Biplane", "short span, two wings", "tail", wings=2),
    "triplane": Arrangement("Triplane", "shortest span, quick to roll", "tail", wings=3),
}


def arrangement_of(layout: str) -> Arrangement:
    """Return the facts of a layout of the brief."""
    return ARRANGEMENTS[layout]


def controls_for(layout: str, wished: str) -> str:
    """Return the control scheme a layout can carry: elevons without a tail, and never with one."""
    if ARRANGEMENTS[layout].family == "tailless":
        return "elevons"
    return "aileron_elevator" if wished == "elevons" else wished
