"""What was measured beside what is predicted: weight, balance, current and speed, with their bands."""

from __future__ import annotations

from typing import NamedTuple

from ridgeline.design.document import Design
from ridgeline.engine.figures import Figure
from ridgeline.engine.flight.battery import Told
from ridgeline.engine.flight.record import SENSOR_SIGMA
from ridgeline.engine.report import Report

#: One sigma of a finished model on a kitchen scale, kg, and of its balance on two supports, m (docs/theory.md §6).
_SCALE_SIGMA, _SUPPORT_SIGMA = 0.001, 0.0015


class MeasuredPair(NamedTuple):
    """A predicted figure and what was measured of it, in its stored unit; one of them may be missing."""

    label: str
    figure: Figure
    measured: Told | None


def measured_pairs(design: Design, report: Report) -> tuple[MeasuredPair, ...]:
    """Return predicted figures with what the log and the setup list say of each.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.

    Returns
    -------
    tuple of MeasuredPair
    """
    figures = report.figures
    pairs = [
        MeasuredPair("All-up weight", figures["mass.auw"], _weighed(design)),
        MeasuredPair("Balance", figures["balance.cg_fraction"], _balanced(design, report)),
    ]
    if design.power is not None:
        pairs += [
            MeasuredPair("Full throttle", figures["power.static_current"], _full(design, report)),
            MeasuredPair("Top speed", figures["speed.max"], _of(figures["log.top_speed"])),
            MeasuredPair("Mean current", figures["flight.mean_current"], _of(figures["log.mean_current"])),
        ]
    return tuple(pairs)


def _of(figure: Figure) -> Told | None:
    return None if figure.value is None else Told(figure.value, figure.sigma)


def _weighed(design: Design) -> Told | None:
    last = next((flight.mass for flight in reversed(design.flights) if flight.mass is not None), None)
    return None if last is None else Told(last, _SCALE_SIGMA)


def _balanced(design: Design, report: Report) -> Told | None:
    last = next((flight.balance for flight in reversed(design.flights) if flight.balance is not None), None)
    ref = report.results.shape.reference
    return None if last is None or ref is None else Told(ref.fraction(last), _SUPPORT_SIGMA / ref.mac)


def _full(design: Design, report: Report) -> Told | None:
    """Full throttle, standing: as it was read at its line of the setup list."""
    read = next((one.read for one in reversed(design.signed) if one.line == "full" and one.read is not None), None)
    return None if read is None else Told(read, SENSOR_SIGMA * read)
