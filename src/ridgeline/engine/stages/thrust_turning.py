"""The thrust-turning stage: how an aircraft with motors on either side turns when one side is closed."""

from __future__ import annotations

from ridgeline.design.axes import all_discs
from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.figures import Put, absent, derive, later, put
from ridgeline.engine.power.flight import FlightFigures
from ridgeline.engine.stages.common import NO_POWER, Air, Outcome, Told

_KEY = "control.thrust_turn"
#: Nearer the centre line than this a motor turns nothing, m; a weathercock too weak to divide by, 1/rad.
_ASIDE, _LEAST_WEATHERCOCK = 0.01, 1e-4


def thrust_turning(
    power: PowerTrain | None, flown: FlightFigures | None, model: AirframeLattice | None, here: Air, *, told: Told
) -> Outcome[None]:
    """Give the steady roll with the motors of one side idle and those of the other at full throttle, climbing.

    Parameters
    ----------
    power : PowerTrain or None
    flown : FlightFigures or None
    model : AirframeLattice or None
    here : Air
    told : mapping
        Weathercock, dihedral effect and roll damping.

    Returns
    -------
    Outcome
        One figure, rad/s.

    Source
    ------
    Thrust off the centre line yaws it to the sideslip that the weathercock holds, the dihedral rolls it against its
    damping: steady values, docs/theory.md §11.
    """
    why = ""
    if power is None:
        why = NO_POWER
    elif flown is None or model is None:
        why = "it needs wing, mass and thrust first"
    else:
        places = [y for _x, y, _z in all_discs(power)]
        if not (min(places) < -_ASIDE and max(places) > _ASIDE):
            why = "there are no motors on either side"
        elif (told["stability.cn_beta"].value or 0.0) < _LEAST_WEATHERCOCK:
            why = "the nose does not follow the wind"
    if why:
        return Outcome(None, (absent(_KEY, why),))
    assert power is not None and flown is not None and model is not None
    each = flown.thrust_at_climb / power.motors
    moment = each * sum(y for _x, y, _z in all_discs(power) if y > _ASIDE)
    load = 0.5 * here.density * flown.climb_speed**2 * model.scale.area * model.scale.span
    figure = derive(
        _KEY,
        "({T_y}/{q_S_b})·(−{C_lb}/{C_nb})/−{C_lp} · 2·{V}/{b}",
        lambda T_y, q_S_b, C_lb, C_nb, C_lp, V, b: (T_y / q_S_b) * (-C_lb / C_nb) / -C_lp * 2 * V / b,
        {
            "T_y": later(
                moment,
                "thrust of one side times its arm",
                "torque",
                lambda: moment * flown.sigmas["thrust_at_climb"] / max(flown.thrust_at_climb, 1e-9),
            ),
            "q_S_b": Put(load, "dynamic pressure × area × span, climbing", "torque"),
            "C_lb": put(told["stability.cl_beta"], "dihedral effect"),
            "C_nb": put(told["stability.cn_beta"], "weathercock"),
            "C_lp": put(told["stability.cl_p"], "roll damping"),
            "V": Put(flown.climb_speed, "climbing speed", "speed"),
            "b": Put(model.scale.span, "span", "length"),
        },
        source="docs/theory.md §11",
        note="the other side idle; its drag when it windmills turns it a little more",
    )
    return Outcome(None, (figure,))
