"""The trim stage: angle of attack and elevator in cruise, by the lattice."""

from __future__ import annotations

import math
from typing import Any

from ridgeline.engine.aero.airframe_lattice import AirframeLattice, trim
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.figures import Put, absent, derive
from ridgeline.engine.stages.balancing import Balance
from ridgeline.engine.stages.common import Air, Outcome
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.shape import Shape
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.stages.stability import Stability

_KEYS = ("trim.alpha", "trim.elevator")


def trimmed(
    form: Shape,
    model: AirframeLattice | None,
    stable: Stability | None,
    balanced: Balance | None,
    speed: Speeds | None,
    mass: Masses,
    here: Air,
) -> Outcome:
    """Solve angle of attack and elevator for level cruise."""
    ref = form.reference
    if model is None or stable is None or balanced is None or speed is None or ref is None or mass.state is None:
        return Outcome(None, tuple(absent(key, "it needs wing, mass and neutral point first") for key in _KEYS))
    if model.pitch_control is None:
        return Outcome(None, tuple(absent(key, "no surface has an elevator, ruddervator or elevon") for key in _KEYS))
    c_l = mass.state.mass * GRAVITY / (0.5 * here.density * speed.cruise**2 * ref.area)
    solved = trim(model, c_l, balanced.cg_fraction, stable.body_shift)
    if solved is None:
        return Outcome(None, tuple(absent(key, "lift and moment do not fix one trim here") for key in _KEYS))
    rows = {
        "C_L": Put(c_l, "lift coefficient in cruise", "ratio", 0.05 * c_l),
        "cg": Put(balanced.cg_fraction, "balance point", "fraction", 0.008, "balance.cg_fraction"),
        "body": Put(stable.body_shift, "forward shift by the body", "ratio", 0.4 * stable.body_shift),
    }

    def part(name: str) -> Any:
        def value(C_L: float, cg: float, body: float) -> float:
            result = trim(model, C_L, cg, body)
            return math.nan if result is None else float(getattr(result, name))

        return value

    formula = "lift {C_L}, no moment about {cg}, body shift {body}: "
    source, sigma = "docs/theory.md §7", math.radians(1.0) / 1.645
    note = "linear; small angles; the propeller's wash is left out"
    alpha = derive(
        "trim.alpha", formula + "the angle", part("alpha"), rows, source=source, note=note, model_sigma=sigma
    )
    elevator = derive(
        "trim.elevator",
        formula + "the elevator",
        part("control"),
        rows,
        source=source,
        note=note,
        model_sigma=1.5 * sigma,
    )
    return Outcome(solved, (alpha, elevator))
