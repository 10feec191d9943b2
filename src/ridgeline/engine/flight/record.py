"""A recorded flight, put into few moments and the figures it tells: charge, current, resistance, speed and climb."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.flights import Moment
from ridgeline.engine.flight.airspeed import FULL
from ridgeline.engine.flight.battery import Told

Array = NDArray[np.float64]
#: Moments a record is kept as.
MOMENTS = 80
#: What is taken of a record, besides its time.
TOLD = ("voltage", "current", "speed", "ground_speed", "height", "rpm", "throttle")
#: Moments that count as held in the air, and the least that tell anything of a fit.
_LEAST = 4
#: A current sensor's own scale is off by this, one sigma, a share (chosen: 5 % in 90 %); a speed sensor's likewise.
SENSOR_SIGMA = 0.03


def moments_of(columns: Mapping[str, Array], most: int = MOMENTS) -> tuple[Moment, ...]:
    """Return a record as the means of equal spans of its time; a charge counted over them stays what it was.

    Parameters
    ----------
    columns : mapping
        ``at`` s, rising, and any of `TOLD`, each of shape (n,); NaN where a row does not tell it.
    most : int

    Returns
    -------
    tuple of Moment
    """
    at = np.asarray(columns["at"], float)
    at = at - at[0]
    many = min(most, len(at))
    place = np.arange(many)
    if len(at) > many:
        edges = np.linspace(0.0, at[-1], many + 1)
        place = np.clip(np.searchsorted(edges, at, side="right") - 1, 0, many - 1)
    found = []
    for k in range(many):
        here = place == k
        if not here.any():
            continue
        row = {"at": float(at[here].mean())}
        for name in TOLD:
            values = np.asarray(columns[name], float)[here] if name in columns else np.empty(0)
            values = values[np.isfinite(values)]
            if len(values):
                row[name] = float(values.mean())
        found.append(Moment(**row))
    return tuple(found)


class Recorded(NamedTuple):
    """What a record tells, each None where it does not: aloft s, charge used Ah, currents A, resistance Ω, speed m/s.

    ``full_current`` at full throttle at the fastest it went, ``top_speed`` the fastest held, ``climb`` m/s the best.
    """

    aloft: float | None
    used_ah: float | None
    full_current: Told | None
    resistance: Told | None
    top_speed: Told | None
    climb: float | None


def column(record: Sequence[Moment], name: str) -> Array:
    """Return one quantity of every moment, NaN where it is not told.

    Parameters
    ----------
    record : sequence of Moment
    name : str
        Of its fields.

    Returns
    -------
    ndarray
    """
    values = (getattr(one, name) for one in record)
    return np.array([np.nan if value is None else value for value in values], float)


def read_record(record: Sequence[Moment]) -> Recorded:
    """Return what a record tells.

    Parameters
    ----------
    record : sequence of Moment

    Returns
    -------
    Recorded

    Source
    ------
    Charge by the trapezoid rule; V = V_0 − R I − k Q by least squares: docs/theory.md §16.
    """
    if len(record) < _LEAST:
        return Recorded(None, None, None, None, None, None)
    at = column(record, "at")
    current, speed, height = (column(record, name) for name in ("current", "speed", "height"))
    used = _charge(at, current)
    full = column(record, "throttle") >= FULL
    drawn = current[full & np.isfinite(current)]
    fastest = np.sort(speed[np.isfinite(speed)])[-3:]
    return Recorded(
        float(at[-1] - at[0]),
        used,
        Told(float(np.median(drawn)), SENSOR_SIGMA * float(np.median(drawn))) if len(drawn) else None,
        _resistance(at, column(record, "voltage"), current),
        Told(float(np.median(fastest)), SENSOR_SIGMA * float(np.median(fastest))) if len(fastest) == 3 else None,
        _best_climb(at, height),
    )


def _charge(at: Array, current: Array) -> float | None:
    known = np.isfinite(current)
    if known.sum() < _LEAST:
        return None
    return float(np.trapezoid(current[known], at[known])) / 3600.0


def _resistance(at: Array, voltage: Array, current: Array) -> Told | None:
    """Return the pack's resistance: by how its voltage goes with the current, once its charge is taken out."""
    known = np.isfinite(voltage) & np.isfinite(current)
    if known.sum() < 2 * _LEAST or np.ptp(current[known]) < 0.3 * max(float(np.median(current[known])), 1e-6):
        return None
    t, v, i = at[known], voltage[known], current[known]
    gone = np.concatenate(([0.0], np.cumsum(0.5 * (i[1:] + i[:-1]) * np.diff(t)))) / 3600.0
    rows = np.stack((np.ones_like(i), i, gone), axis=1)
    found, _rest, rank, _s = np.linalg.lstsq(rows, v, rcond=None)
    if rank < rows.shape[1] or found[1] >= 0:
        return None
    left = v - rows @ found
    spread = np.linalg.inv(rows.T @ rows)[1, 1] * float(left @ left) / max(len(v) - 3, 1)
    return Told(-float(found[1]), float(np.hypot(np.sqrt(spread), SENSOR_SIGMA * float(found[1]))))


def _best_climb(at: Array, height: Array) -> float | None:
    known = np.isfinite(height)
    if known.sum() < _LEAST:
        return None
    t, h = at[known], height[known]
    # Over three moments: one alone is a barometer's noise.
    rates = (h[3:] - h[:-3]) / (t[3:] - t[:-3])
    return float(rates.max()) if len(rates) else None
