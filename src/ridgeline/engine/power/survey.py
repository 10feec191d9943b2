"""Every combination of motors, propellers and packs at once: what each does standing and in level cruise."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import partial
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.power import Motor, Pack, Propeller, SpeedController
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.aero.drag import DragModel, drag, thrust_left
from ridgeline.engine.power import pack as packs
from ridgeline.engine.power import propeller as propellers
from ridgeline.engine.power import thermal
from ridgeline.engine.power.chain import I0_STILL, I0_TURNING, Chain, lag_of
from ridgeline.engine.power.classes import idle_of, mass_of, on_resistance_of, winding_of
from ridgeline.engine.power.discharge import Profile
from ridgeline.engine.power.full_throttle import MEAN_CHARGE
from ridgeline.engine.power.held_thrust import held_thrust
from ridgeline.engine.power.limits import ESC_SHARE
from ridgeline.engine.power.operating_point import full_draw, solve
from ridgeline.engine.power.supply import LINEAR_HEAT, linear_heat

Array = NDArray[np.float64]
#: The speed of rotation a controller is chosen by need be no nearer than the square of this, as a share.
_ROUGHLY = 3e-4


@dataclass(frozen=True)
class Airframe:
    """What the power train is carried by.

    ``rest`` kg without motors, controllers, propellers and packs, and ``rest_moment`` kg m about the datum; places in x
    of ``motor``, ``esc`` and ``propeller``, m; the packs' centres between ``pack_front`` and ``pack_back`` for a pack
    without length, m; ``longer`` how far aft a longer motor than one of ``motor_length`` brings the propeller, m per m,
    and its own middle by half that. ``stall`` m/s at ``stall_mass`` kg; ``cruise_ratio`` times that is flown. ``drag``
    may be None: then nothing is said of flight.
    """

    rest: float
    rest_moment: float
    motor_x: float
    esc_x: float
    propeller_x: float
    longer: float
    motor_length: float
    pack_front: float
    pack_back: float
    stall: float
    stall_mass: float
    cruise_ratio: float
    air_density: float
    viscosity: float
    temperature_c: float
    drag: DragModel | None
    profile: Profile
    motors: int = 1
    pack_series: int = 1
    pack_parallel: int = 1
    lead_resistance: float = 0.004
    #: What servos and receiver may draw, A: a controller with a supply of its own must give it.
    receiver: float = 0.0


@dataclass(frozen=True)
class Row:
    """What one propeller does on every motor (axis 0) and pack (axis 1); all arrays (m, k).

    ``esc`` indexes the controllers, −1 for none. Currents in A (pack in all, motor each), ``heat`` W of one motor,
    ``thrust`` N in all, ``rpm``, ``cell`` V under load, ``mass`` kg all-up, ``foremost`` and ``rearmost`` balance m,
    ``ratio`` thrust over weight, ``throttle`` in cruise (NaN where it is not held), ``seconds`` aloft,
    ``stall`` m/s, ``shaft`` W of one motor.
    """

    esc: NDArray[np.int64]
    current: Array
    motor_current: Array
    heat: Array
    thrust: Array
    rpm: Array
    cell: Array
    mass: Array
    foremost: Array
    rearmost: Array
    ratio: Array
    throttle: Array
    seconds: Array
    stall: Array
    shaft: Array


def _column(parts: tuple[Any, ...], read: Callable[[Any], float]) -> Array:
    return np.array([read(part) for part in parts], float)


class Survey:
    """A shelf on an airframe; `row` evaluates one propeller on all motors and packs."""

    def __init__(
        self,
        motors: tuple[Motor, ...],
        propeller_shelf: tuple[Propeller, ...],
        pack_shelf: tuple[Pack, ...],
        escs: tuple[SpeedController, ...],
        airframe: Airframe,
    ) -> None:
        self.motors, self.propellers, self.packs, self.escs = motors, propeller_shelf, pack_shelf, escs
        self.airframe = airframe
        self._k_v = _column(motors, lambda m: m.kv_rpm_per_v * math.pi / 30)[:, None]
        self._i0 = _column(motors, idle_of)[:, None]
        self._reference = self._k_v * _column(motors, lambda m: m.no_load_voltage)[:, None]
        cold = packs.cold_factor(airframe.temperature_c)
        series, parallel = airframe.pack_series, airframe.pack_parallel
        self._pack_resistance = _column(pack_shelf, packs.resistance)[None] * cold * series / parallel
        #: Of all packs, charged and in the middle of the discharge.
        self._open_circuit = {
            charge: _column(pack_shelf, partial(packs.open_circuit_voltage, charge=charge))[None] * series
            for charge in (1.0, MEAN_CHARGE)
        }
        self._pack_mass = _column(pack_shelf, mass_of)[None] * series * parallel
        self._capacity = _column(pack_shelf, lambda p: p.capacity_ah)[None] * parallel * 3600
        self.cells = _column(pack_shelf, lambda p: p.cells)[None] * series
        self.pack_limit = _column(pack_shelf, packs.continuous_current)[None] * parallel
        self.least_cell = _column(pack_shelf, packs.least_voltage)[None]
        self._by_rating = self._controllers()
        self._resistance = _column(motors, winding_of)[:, None]
        self._lag = _column(motors, lag_of)[:, None]
        self._pole_pairs = _column(motors, lambda m: m.poles / 2)[:, None]
        self._warming = _column(motors, lambda m: thermal.warming(m.mass))[:, None]
        self._brush = _column(motors, lambda m: m.brush_drop)[:, None]
        self.motor_mass = _column(motors, lambda m: m.mass)[:, None]
        self._aft = airframe.longer * (_column(motors, lambda m: m.length)[:, None] - airframe.motor_length)
        self.motor_limit = _column(motors, lambda m: m.max_current)[:, None]
        self.motor_cells = _column(motors, lambda m: m.max_cells)[:, None]

    def rows(self, stop: Callable[[], bool] = lambda: False) -> Iterator[tuple[int, Row]]:
        """Yield each propeller's index and row; a stopped survey yields no more."""
        for index, propeller in enumerate(self.propellers):
            if stop():
                return
            yield index, self.row(propeller)

    def row(self, propeller: Propeller) -> Row:
        """Return what one propeller does on every motor and pack."""
        frame, law, n = self.airframe, propellers.law_of(propeller), self.airframe.motors
        # The current without any controller's resistance is the most there can be: the controller is chosen by it.
        omega, drawn = full_draw(self._chain(propeller, law, 1.0, 0.0), frame.air_density, near=_ROUGHLY)
        esc = self._choose(drawn)
        resistance = np.where(esc >= 0, self._esc_resistance[esc], 0.0)
        esc_mass = np.where(esc >= 0, self._esc_mass[esc], 0.0)
        still = solve(self._chain(propeller, law, 1.0, resistance), 1.0, 0.0, frame.air_density, omega)
        train = n * (self.motor_mass + esc_mass + propeller.mass)
        mass = frame.rest + train + self._pack_mass
        moment = frame.rest_moment + n * (
            self.motor_mass * (frame.motor_x + 0.5 * self._aft)
            + esc_mass * frame.esc_x
            + propeller.mass * (frame.propeller_x + self._aft)
        )
        half = 0.5 * _column(self.packs, lambda p: p.length)[None]
        front = np.minimum(frame.pack_front + half, 0.5 * (frame.pack_front + frame.pack_back))
        back = np.maximum(frame.pack_back - half, front)
        throttle, seconds, stall = self._flown(propeller, law, resistance, mass, still.omega)
        return Row(
            esc=esc,
            current=still.pack_current,
            motor_current=still.motor_current,
            heat=still.motor_heat,
            thrust=still.thrust,
            rpm=still.rpm,
            cell=still.pack_voltage / self.cells,
            mass=mass,
            foremost=(moment + self._pack_mass * front) / mass,
            rearmost=(moment + self._pack_mass * back) / mass,
            ratio=still.thrust / (mass * GRAVITY),
            throttle=throttle,
            seconds=seconds,
            stall=stall,
            shaft=still.shaft_power,
        )

    def _chain(self, propeller: Propeller, law: propellers.Law, charge: float, esc: Any) -> Chain:
        frame = self.airframe
        return Chain(
            k_v=self._k_v,
            motor_resistance=self._resistance,
            lag=self._lag,
            pole_pairs=self._pole_pairs,
            warming=self._warming,
            esc_resistance=esc,
            pack_resistance=self._pack_resistance,
            lead_resistance=frame.lead_resistance,
            open_circuit=self._open_circuit[charge],
            brush_drop=self._brush,
            i0_still=I0_STILL * self._i0,
            i0_slope=I0_TURNING * self._i0 / self._reference,
            motors=frame.motors,
            diameter=propeller.diameter,
            law=law,
            air_c=frame.temperature_c,
        )

    def _flown(
        self, propeller: Propeller, law: propellers.Law, esc: Array, mass: Array, start: Array
    ) -> tuple[Array, Array, Array]:
        """Return throttle, seconds and stall speed at the middle of the discharge."""
        frame = self.airframe
        stall = frame.stall * np.sqrt(mass / frame.stall_mass)
        if frame.drag is None:
            nothing = np.full(mass.shape, np.nan)
            return nothing, nothing, stall
        speed = frame.cruise_ratio * stall
        needed = drag(frame.drag, speed, mass, frame.air_density, frame.viscosity)
        needed /= thrust_left(frame.drag, propeller.diameter)
        half = self._chain(propeller, law, MEAN_CHARGE, esc)
        throttle, amps = held_thrust(half, needed, speed, frame.air_density)
        level = np.nan_to_num(throttle, nan=1.0) * frame.motors * amps
        full = frame.motors * np.maximum(full_draw(half, frame.air_density, speed, start)[1], 0.0)
        share, usable = frame.profile.full_share, (1 - packs.RESERVE) * self._capacity
        away = np.minimum(full * frame.profile.climb, usable)
        mean = share * full + (1 - share) * np.maximum(level, 1e-6)
        seconds = np.where(np.isfinite(throttle), frame.profile.climb + (usable - away) / mean, 0.0)
        return throttle, seconds, stall

    def _controllers(self) -> dict[tuple[str, int], tuple[Array, NDArray[np.int64]]]:
        """Return, for each kind and cell count, ratings upward and the lightest controller of each rating or more."""
        self._esc_resistance = _column(self.escs, on_resistance_of)
        self._esc_mass = _column(self.escs, lambda e: e.mass)
        found: dict[tuple[str, int], tuple[Array, NDArray[np.int64]]] = {}
        for kind in ("brushless", "brushed"):
            for cells in {int(c) for c in self.cells[0]}:
                fit = [
                    i
                    for i, e in enumerate(self.escs)
                    if e.kind == kind and e.max_cells >= cells and self._feeds(e, cells)
                ]
                fit.sort(key=lambda i: self.escs[i].max_current)
                best: list[int] = []
                for i in reversed(fit):
                    lighter = not best or self.escs[i].mass <= self.escs[best[-1]].mass
                    best.append(i if lighter else best[-1])
                ratings = np.array([self.escs[i].max_current for i in fit], float)
                found[kind, cells] = ratings, np.array(best[::-1], np.int64)
        return found

    def _feeds(self, esc: SpeedController, cells: int) -> bool:
        """Tell whether a controller's supply, if it has one, feeds the receiver without burning off too much."""
        load = self.airframe.receiver
        if esc.bec_current == 0 or not esc.bec_linear:
            return esc.bec_current == 0 or esc.bec_current >= load
        volts = float(self._open_circuit[1.0][0][self.cells[0] == cells].max())
        return esc.bec_current >= load and linear_heat(volts, load) <= LINEAR_HEAT

    def _choose(self, current: Array) -> NDArray[np.int64]:
        """Return the lightest controller that holds each current with its headroom, −1 for none."""
        chosen = np.full(current.shape, -1, np.int64)
        kinds = np.array([motor.kind for motor in self.motors])
        for (kind, cells), (ratings, best) in self._by_rating.items():
            if not len(ratings):
                continue
            lines, columns = np.flatnonzero(kinds == kind), np.flatnonzero(self.cells[0] == cells)
            place = np.searchsorted(ratings * ESC_SHARE, current[np.ix_(lines, columns)], side="left")
            chosen[np.ix_(lines, columns)] = np.where(place < len(ratings), best[np.minimum(place, len(best) - 1)], -1)
        return chosen
