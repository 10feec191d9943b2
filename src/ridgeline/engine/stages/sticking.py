"""The stage of the sticks: how each control stands for each, and what the aircraft does in cruise and near stall."""

from __future__ import annotations

from dataclasses import replace
from typing import NamedTuple

from ridgeline.design.airframe import Surface
from ridgeline.design.brief import Brief
from ridgeline.design.radio import Radio
from ridgeline.engine.aero.airframe_lattice import AirframeLattice
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.control_effects import ControlEffects, control_effects
from ridgeline.engine.aero.flap import deflection_for, effective_deflection
from ridgeline.engine.aero.lifting import YAW_FROM_ROLL
from ridgeline.engine.aero.trim import control_per_moment, trim
from ridgeline.engine.controls.answers import Pull, Sideways, nosed, turned
from ridgeline.engine.controls.rates import Answering, proposed
from ridgeline.engine.controls.sense import STICKS
from ridgeline.engine.figures import absent
from ridgeline.engine.stages.balancing import Balance
from ridgeline.engine.stages.common import Air, Outcome
from ridgeline.engine.stages.flaps import Flaps
from ridgeline.engine.stages.handling import Handling
from ridgeline.engine.stages.linked import Linking
from ridgeline.engine.stages.masses import Masses
from ridgeline.engine.stages.sideslip import Sideslip
from ridgeline.engine.stages.speeds import Speeds
from ridgeline.engine.stages.stability import Stability
from ridgeline.engine.stages.stick_angles import angles_for
from ridgeline.engine.stages.stick_answers import Answer, Standing, Sticks
from ridgeline.engine.stages.sticking_figures import (
    ADVERSE,
    LEFT,
    SLOW,
    TURNS,
    adverse_figures,
    left_figure,
    turn_figures,
)

#: The approach, over the stall speed (handbook of the trade §12).
APPROACH = 1.3


def effects(model: AirframeLattice | None, surfaces: tuple[Surface, ...]) -> Outcome[ControlEffects | None]:
    """Solve every control by itself."""
    return Outcome(None if model is None else control_effects(model, surfaces))


def sticking(
    model: AirframeLattice | None,
    stable: Stability | None,
    balanced: Balance | None,
    speed: Speeds | None,
    slip: Sideslip | None,
    mass: Masses,
    here: Air,
    handled: Handling | None,
    flap: Flaps | None,
    by_control: ControlEffects | None,
    linked: Linking,
    radio: Radio | None,
    surfaces: tuple[Surface, ...],
    brief: Brief,
) -> Outcome[Sticks | None]:
    """Hold each stick at full through the lattice, in cruise and near the stall."""
    ready = model is not None and stable is not None and balanced is not None and speed is not None
    if not ready or by_control is None or slip is None or handled is None or mass.state is None:
        why = "it needs wing, mass and neutral point first"
        return Outcome(None, tuple(absent(key, why) for key in (*ADVERSE, *TURNS, LEFT)))
    assert model is not None and stable is not None and balanced is not None and speed is not None
    standing = tuple(
        Standing(stick, angles, by_control.of(angles))
        for stick in STICKS
        if (angles := angles_for(stick, 1.0, linked, radio, surfaces, brief.purpose))
    )
    at = _Place(model, stable, balanced, slip, mass.state.mass, here.density, speed.cruise)
    slow, cruise = SLOW * speed.stall, speed.cruise
    by = at.sideways(cruise), at.sideways(slow)
    fast = tuple(at.answer(one, cruise, by[0]) for one in standing)
    near = tuple(at.answer(one, slow, by[1]) for one in standing)
    rolls = next((one for one in standing if one.stick == "roll"), None)
    alike = None if rolls is None else at.answer(_alike(rolls, by_control), slow, by[1])
    pull, up, flare, approach = _pull(at, handled, speed)
    roll = None if rolls is None else -fast[standing.index(rolls)].roll / by[0].roll_by_roll
    rate = None if roll is None else roll * 2 * cruise / model.scale.span
    full = Answering(pull, up, flare, approach, rate, model.scale.span, cruise)
    suits = proposed(full, brief.purpose, brief.field, tuple(one.stick for one in standing))
    lifts = [(v, at.lift(v)) for v in (APPROACH * speed.stall, 0.5 * (APPROACH * speed.stall + cruise), cruise)]
    flapped = () if flap is None else tuple(_flapped(at, flap.setting, *one) for one in lifts)
    found = Sticks(fast, near, alike, standing, pull, up, suits, by, model.scale.span,
                   tuple(one for one in flapped if one is not None))  # fmt: skip
    figures = (*adverse_figures(found, by[1]), *turn_figures(found, full, radio), left_figure(handled, flap))
    return Outcome(found, figures)


class _Place(NamedTuple):
    """An aircraft about its balance point, at any speed."""

    model: AirframeLattice
    stable: Stability
    balanced: Balance
    slip: Sideslip
    mass: float
    density: float
    cruise: float

    def lift(self, speed: float) -> float:
        """Return the lift coefficient of level flight."""
        return self.mass * GRAVITY / (0.5 * self.density * speed**2 * self.model.scale.area)

    def alpha(self, lift: float) -> float:
        """Return the body's angle for a lift, controls neutral, rad."""
        found = self.model.found
        return (lift - found.zero.lift) / found.alpha.lift

    def sideways(self, speed: float) -> Sideways:
        """Return the derivatives about the balance point: those of cruise, with the roll of this speed's lift."""
        rates, lift = self.model.found.roll_rate, self.lift(speed)
        more = self.slip.roll_by_lift * (lift - self.lift(self.cruise))
        return Sideways(self.slip.roll + more, self.slip.yaw, rates.roll, rates.yaw + YAW_FROM_ROLL * lift)

    def answer(self, one: Standing, speed: float, by: Sideways) -> Answer:
        """Return what a stick comes to at a speed."""
        model, change, lift = self.model, one.change, self.lift(speed)
        scale = model.scale
        arm = self.balanced.cg_fraction - 0.25
        wing = change.lift_yaw + self.alpha(lift) * change.lift_yaw_slope
        yaw = change.yaw + change.side * arm * scale.chord / scale.span + change.drag_yaw + wing
        roll = change.roll - change.side * self.slip.rise
        pitch = change.pitch + arm * change.lift
        stiffness = -self.stable.slope * (self.stable.neutral_fraction - self.balanced.cg_fraction)
        nose = nosed(pitch, stiffness)
        return Answer(one.stick, speed, roll, yaw, pitch, turned(roll, yaw, by), nose)


def _alike(one: Standing, effects: ControlEffects) -> Standing:
    """Return the roll stick with up and down alike on both sides, for the same roll."""
    angles = {}
    for ident, (right, left) in one.angles.items():
        even = 0.5 * (effective_deflection(right) - effective_deflection(left))
        angles[ident] = (deflection_for(even), -deflection_for(even))
    return Standing(one.stick, angles, effects.of(angles))


def _flapped(at: _Place, setting: float, speed: float, c_l: float) -> tuple[float, float] | None:
    """Return a speed, m/s, and the elevator that holds the nose there as the flaps go down at the same lift, rad."""
    model, balanced = at.model, at.balanced
    if model.flap is None:
        return None
    small = effective_deflection(setting)
    zero = model.found.zero
    down = replace(zero, lift=zero.lift + model.flap.lift * small, pitch=zero.pitch + model.flap.pitch * small)
    flapped = replace(model, found=replace(model.found, zero=down))
    before, after = (trim(one, c_l, balanced.cg_fraction, balanced.shift, balanced.height) for one in (model, flapped))
    return None if before is None or after is None else (speed, after.control - before.control)


def _pull(at: _Place, handled: Handling, speed: Speeds) -> tuple[Pull | None, float, float, float]:
    """Return what a pull takes in cruise, and rad of it: what there is, what the stall asks, and the approach."""
    model, balanced = at.model, at.balanced
    control = model.pitch_control
    per = control_per_moment(model, balanced.shift)
    lifts = [at.lift(v) for v in (speed.cruise, APPROACH * speed.stall)] + [speed.cl_max]
    solved = [trim(model, c_l, balanced.cg_fraction, balanced.shift, balanced.height) for c_l in lifts]
    cruise, approach, stall = solved
    if control is None or per is None or cruise is None or approach is None or stall is None:
        return None, 0.0, 0.0, 0.0
    if speed.cl_max <= lifts[0] * (1 + 1e-6):
        return None, 0.0, 0.0, 0.0
    # Nose up is trailing edge up on a tail, and down on a foreplane.
    way = -1.0 if control.pitch < 0 else 1.0
    found = model.found
    # A pitch rate lifts too: at the same lift the body stands lower.
    damping = found.pitch_rate.pitch - found.pitch_rate.lift * (
        found.alpha.pitch + balanced.shift * found.alpha.lift) / found.alpha.lift  # fmt: skip
    pull = Pull(
        way * (stall.control - cruise.control) / (speed.cl_max - lifts[0]),
        way * per * damping,
        lifts[0],
        speed.cruise,
        model.scale.chord,
        speed.cl_max / lifts[0],
    )
    if pull.per_lift <= 0 or pull.per_rate < 0:
        return None, 0.0, 0.0, 0.0
    up = effective_deflection(handled.throws.pitch_up) - way * cruise.control
    flare, slower = (max(way * (other.control - cruise.control), 0.0) for other in (stall, approach))
    return pull, max(up, 0.0), flare, slower
