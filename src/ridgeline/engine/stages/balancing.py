"""The balance stage: the balance point against the neutral point and the wanted margin."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from ridgeline.design.airframe import Surface
from ridgeline.design.axes import all_discs, cut_at, raised
from ridgeline.design.brief import Brief
from ridgeline.design.power import PowerTrain
from ridgeline.engine.aero import stall
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.attitude import LEVEL, Height, margin_of_height
from ridgeline.engine.aero.sections import drag_coefficient, section_of
from ridgeline.engine.aero.slipstream import across_slope
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure, Put, absent, derive, put
from ridgeline.engine.geometry.reference import WINGS, Reference, main_wing
from ridgeline.engine.power.prop_families import chord_over_diameter
from ridgeline.engine.sizing.purposes import (
    FIRST_THROW_TAILED,
    FIRST_THROW_TAILLESS,
    FOREPLANE_MARGIN,
    PURPOSES,
    RULE_TAILED,
    RULE_TAILLESS,
    middle,
)
from ridgeline.engine.stages.common import HANDBOOK, NO_MASS, NO_POWER, NO_WING, Air, Outcome
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.shape import Shape
from ridgeline.engine.stages.stability import Stability

#: The body's angle in cruise is good to two degrees (90 %): as much as cruise speed and incidences are known.
_ATTITUDE_SIGMA = math.radians(2.0) / BAND
_BLADES = "stability.propeller_shift"
#: de Young's fit is good to a tenth; chords by family, inflow of a working propeller and wash round the wing add to it.
_BLADE_SIGMA = 0.4 / BAND


@dataclass(frozen=True)
class Targets:
    """Where the balance point should be, fractions of c̄: the ``neutral`` point in flight and what is wanted before it.

    ``settled`` and ``first_throw`` are windows, foremost first; ``aim`` is the margin wished, for good.
    """

    neutral: float
    settled: tuple[float, float]
    aim: float
    first_throw: tuple[float, float]

    @property
    def first_aim(self) -> float:
        """The middle of the first throw's window."""
        return 0.5 * sum(self.first_throw)


@dataclass(frozen=True)
class Balance:
    """Balance now, as a fraction of c̄, and its targets (None while the neutral point is not known).

    ``habit`` is the rule of thumb, None for foreplanes, which have none; ``height`` how the balance point hangs under
    the wing; ``shift`` how far bodies and propellers bring the neutral point forward.
    """

    cg_fraction: float
    targets: Targets | None = None
    habit: tuple[float, float] | None = None
    tailless: bool = False
    height: Height = LEVEL
    shift: float = 0.0


def balance(
    form: Shape,
    mass: Masses,
    stable: Stability | None,
    brief: Brief,
    surfaces: tuple[Surface, ...],
    model: AirframeLattice | None,
    here: Air,
    power: PowerTrain | None,
) -> Outcome[Balance | None]:
    """Compare the centre of gravity with the neutral point and the wanted margin."""
    keys = (
        "balance.cg_fraction",
        "balance.cg_from_root",
        "balance.mark",
        "balance.hang_depth",
        "balance.hang_per_degree",
        "balance.target_low",
        "balance.target_high",
        "balance.first_flight",
        "stability.static_margin",
        "stability.cm_alpha",
        "stability.neutral_in_flight",
        _BLADES,
    )
    ref, state = form.reference, mass.state
    if ref is None or state is None:
        why = NO_WING if ref is None else NO_MASS
        return Outcome(None, tuple(absent(key, why) for key in keys))
    cg_x = Put(float(state.cg[0]), "balance point", "length", float(state.sigma_cg[0]), "balance.cg_x")
    fraction = derive(
        "balance.cg_fraction",
        "({x_cg} − {x_mac})/{mac}",
        lambda x_cg, x_mac, mac: (x_cg - x_mac) / mac,
        {
            "x_cg": cg_x,
            "x_mac": Put(ref.mac_x_le, "leading edge of the mean chord", "length", 0.0, "wing.mac_x_le"),
            "mac": Put(ref.mac, "mean chord", "length", 0.0, "wing.mac"),
        },
        source="docs/theory.md §6",
    )
    from_root = derive(
        "balance.cg_from_root",
        "{x_cg} − {x_root}",
        lambda x_cg, x_root: x_cg - x_root,
        {"x_cg": cg_x, "x_root": Put(ref.x_root_le, "root leading edge", "length")},
        source="docs/theory.md §6",
    )
    mark = _mark(cg_x, brief, surfaces)
    hung = _hung(mass, brief, surfaces)
    assert fraction.value is not None
    if stable is None or model is None:
        why = "the lattice gives no neutral point for these surfaces"
        result = Balance(fraction.value)
        return Outcome(result, (fraction, from_root, mark, *hung, *(absent(key, why) for key in keys[5:])))
    blades = _blade_shift(stable, power, ref, model)
    height, flown = _flown_neutral(stable, blades, mass, model, brief, surfaces, here)
    found = _balance_targets(fraction, from_root, stable, brief, height, flown)
    result = replace(found.result, shift=stable.body_shift + (blades.value or 0.0))
    return Outcome(result, (mark, *hung, *found.figures, blades))


def _blade_shift(stable: Stability, power: PowerTrain | None, ref: Reference, model: AirframeLattice) -> Figure:
    """Give how far the propellers' normal force brings the neutral point forward."""
    if power is None:
        return absent(_BLADES, NO_POWER)
    if power.propeller.family == "ducted_fan":
        return absent(_BLADES, "a fan in its duct is none of this kind")
    prop = power.propeller
    slope = across_slope(prop.blades, chord_over_diameter(prop.family), prop.pitch / prop.diameter)
    disc = math.pi * prop.diameter**2 / 4
    where = float(np.mean([ref.fraction(px) for px, _y, _z in all_discs(power)]))
    return derive(
        _BLADES,
        "{N}·{C_N}·{A}/{S}·({n} − {x})/({a} + {N}·{C_N}·{A}/{S})",
        lambda N, C_N, A, S, n, x, a: N * C_N * A / S * (n - x) / (a + N * C_N * A / S),
        {
            "n": Put(stable.neutral_fraction, "neutral point", "fraction"),
            "x": Put(where, "propellers, as the mean chord counts", "fraction"),
            "a": Put(stable.slope, "lift slope", "per_radian"),
            "N": Put(power.motors, "propellers", "count"),
            "C_N": Put(slope, "normal force of one, over its disc", "per_radian", _BLADE_SIGMA * slope),
            "A": Put(disc, "disc", "area"),
            "S": Put(model.scale.area, "wing area", "area"),
        },
        source="docs/theory.md §11; de Young, Journal of Aircraft 2 (1965)",
        note="blades at an angle to the air push across their shaft; ahead of the wing that unsteadies",
    )


def _hung(mass: Masses, brief: Brief, surfaces: tuple[Surface, ...]) -> tuple[Figure, Figure]:
    """Give how deep the balance point lies under fingertips at the marks, and how sharply it hangs there."""
    wing = main_wing(surfaces)
    out = min(brief.mark_out, wing.stations[-1].y)
    under = raised(wing, out, cut_at(wing, out).z)[1]
    state = mass.state
    assert state is not None
    depth = derive(
        "balance.hang_depth",
        "{z_wing} − {z_cg}",
        lambda z_wing, z_cg: z_wing - z_cg,
        {
            "z_wing": Put(float(under), "underside of the wing at the marks", "length", 0.002),
            "z_cg": Put(float(state.cg[2]), "height of the balance point", "length", float(state.sigma_cg[2])),
        },
        source="docs/theory.md §6",
        note="negative: the balance point lies over the fingers; turn the model over to balance it",
    )
    per_degree = derive(
        "balance.hang_per_degree",
        "|{d}|·tan 1°",
        lambda d: abs(d) * np.tan(np.radians(1.0)),
        {"d": put(depth, "balance point under the marks")},
        source="docs/theory.md §6: a weight hangs under its pivot",
    )
    return depth, per_degree


def _mark(cg_x: Put, brief: Brief, surfaces: tuple[Surface, ...]) -> Figure:
    """Give how far behind the leading edge the balance marks stand at their station, with the sweep there."""
    wing = main_wing(surfaces)
    out = min(brief.mark_out, wing.stations[-1].y)
    edge = float(np.interp(out, [s.y for s in wing.stations], [s.x for s in wing.stations]))
    return derive(
        "balance.mark",
        "{x_cg} − ({x_0} + {x_y})",
        lambda x_cg, x_0, x_y: x_cg - x_0 - x_y,
        {
            "x_cg": cg_x,
            "x_0": Put(wing.x, "root leading edge", "length"),
            "x_y": Put(edge, f"sweep of the leading edge {1e3 * out:.0f} mm out", "length", 0.0005),
        },
        source="docs/theory.md §6",
    )


def _flown_neutral(
    stable: Stability,
    blades: Figure,
    mass: Masses,
    model: AirframeLattice,
    brief: Brief,
    surfaces: tuple[Surface, ...],
    here: Air,
) -> tuple[Height, Figure]:
    """Give how the balance point hangs, and the neutral point that its height feels at the body's angle in cruise."""
    state, scale = mass.state, model.scale
    assert state is not None
    wing = section_of(next(s for s in surfaces if s.role in WINGS))
    limit = stall.airframe_cl_max(wing, state.mass, here.density, here.viscosity, scale.area, scale.chord)
    c_l = limit / brief.cruise_ratio**2
    slow = stall.stall_speed(state.mass, here.density, scale.area, limit)
    profile = float(drag_coefficient(wing, wing.cl_0, here.density * slow * scale.chord / here.viscosity))
    up = (float(state.cg[2]) - float(scale.centre[2])) / scale.chord
    height = Height(up, profile, model.induced_k)
    # With the elevator neutral: what is aimed at does not shift with what is moved towards it.
    alpha = (c_l - model.found.zero.lift) / stable.slope
    figure = derive(
        "stability.neutral_in_flight",
        "{n} − {p} − {z}·(tan {a} + {C_L}·(1/{C_La} − 2·{k}))",
        lambda n, p, a, z, C_L, C_La, k: n - p + margin_of_height(z, a, C_L, C_La, k),
        {
            "n": put(stable.neutral, "neutral point"),
            "p": put(blades, "forward shift by the propeller")
            if blades.value is not None
            else Put(0.0, "no propeller across the air", "fraction"),
            "a": Put(alpha, "body to the air in cruise", "angle", _ATTITUDE_SIGMA),
            "z": Put(up, "balance point over the wing, mean chords", "ratio", float(state.sigma_cg[2]) / scale.chord),
            "C_L": Put(c_l, "lift coefficient in cruise", "ratio", wing.limit_sigma * c_l),
            "C_La": Put(stable.slope, "lift slope", "per_radian"),
            "k": Put(model.induced_k, "induced drag over lift squared", "ratio"),
        },
        source="docs/theory.md §7",
        note="weight under the wing swings forward as the nose comes up, and lift and drag turn past it",
    )
    return height, figure


def _balance_targets(
    fraction: Figure, from_root: Figure, stable: Stability, brief: Brief, height: Height, flown: Figure
) -> Outcome[Balance]:
    assert fraction.value is not None and flown.value is not None
    neutral = put(flown, "neutral point in flight")
    low_margin, high_margin = FOREPLANE_MARGIN if stable.foreplane else PURPOSES[brief.purpose].static_margin
    wished = min(max(brief.static_margin, low_margin), high_margin) if stable.foreplane else brief.static_margin
    source = f"{HANDBOOK} §§3, 6: from the neutral point and the margin the purpose wants"

    def target(key: str, margin: float, label: str) -> Figure:
        row = {"n": neutral, "SM": Put(margin, label, "fraction")}
        return derive(key, "{n} − {SM}", lambda n, SM: n - SM, row, source=source)

    front = target("balance.target_low", high_margin, "greatest margin wanted")
    back = target("balance.target_high", low_margin, "least margin wanted")
    ahead = FIRST_THROW_TAILLESS if stable.tailless else FIRST_THROW_TAILED
    aim = flown.value - wished
    first = derive(
        "balance.first_flight",
        "{n} − {SM} − {ahead}",
        lambda n, SM, ahead: n - SM - ahead,
        {
            "n": neutral,
            "SM": Put(wished, "margin aimed at", "fraction"),
            "ahead": Put(middle(ahead), "ahead of it for a first flight", "fraction"),
        },
        source=source,
    )
    margin = derive(
        "stability.static_margin",
        "{n} − {cg}",
        lambda n, cg: n - cg,
        {"n": neutral, "cg": put(fraction, "balance point")},
        source="docs/theory.md §7",
    )
    assert margin.value is not None
    stiffness = derive(
        "stability.cm_alpha",
        "−{a}·{SM}",
        lambda a, SM: -a * SM,
        {"a": Put(stable.slope, "lift slope", "per_radian", 0.04 * stable.slope), "SM": put(margin)},
        source="docs/theory.md §7",
    )
    result = Balance(
        fraction.value,
        Targets(
            flown.value,
            (flown.value - high_margin, flown.value - low_margin),
            aim,
            (aim - ahead[1], aim - ahead[0]),
        ),
        None if stable.foreplane else (RULE_TAILLESS if stable.tailless else RULE_TAILED),
        stable.tailless,
        height,
    )
    return Outcome(result, (fraction, from_root, front, back, first, margin, stiffness, flown))
