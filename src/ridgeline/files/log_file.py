"""The log of a design, as lines for a terminal and as JSON for scripts."""

from __future__ import annotations

import json
from typing import Any

from ridgeline.design.document import Design
from ridgeline.engine.bands import BAND
from ridgeline.engine.flight.battery import Told
from ridgeline.engine.flight.entries import LogRow
from ridgeline.engine.flight.sightings import SIGHTINGS
from ridgeline.engine.phrase import Measured, say
from ridgeline.engine.report import Report

_FIGURES = ("log.flights", "log.minutes", "log.mean_current", "log.top_speed")


def log_text(design: Design, report: Report) -> str:
    """Return JSON of the log in stored (SI) units.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.

    Returns
    -------
    str
    """
    logged = report.results.logged
    data = {
        "flights": [_flight(design, k, row, report) for k, row in enumerate(logged.rows)],
        "packs": {pack: trend._asdict() for pack, trend in logged.trends.items()},
        "figures": {
            key: {"value": figure.value, "low": figure.low, "high": figure.high, "unit": figure.unit,
                  "label": figure.label}
            for key in _FIGURES
            for figure in (report.figures[key],)
        },
    }  # fmt: skip
    return json.dumps(data, indent=1, ensure_ascii=False)


def _flight(design: Design, place: int, row: LogRow, report: Report) -> dict[str, Any]:
    logged, flight = report.results.logged, row.flight
    return {
        "number": place + 1,
        **flight.model_dump(mode="json", exclude={"record"}),
        "moments": len(flight.record),
        "mean_current": _told(row.mean),
        "left": _told(row.left),
        "airspeed": _told(row.airspeed),
        "doubts": [{"kind": one.kind, "told": one.told, "most": one.most} for one in logged.doubts.get(place, ())],
        "meant": [slip._asdict() for slip in logged.slips(place)] if place in logged.doubts else [],
    }


def _told(told: Told | None) -> dict[str, float] | None:
    if told is None:
        return None
    return {"value": told.value, "low": told.value - BAND * told.sigma, "high": told.value + BAND * told.sigma}


def log_lines(design: Design, report: Report) -> list[str]:
    """Return the log as lines, in metric units.

    Parameters
    ----------
    design : Design
    report : Report
        Of the design.

    Returns
    -------
    list of str
    """
    logged = report.results.logged
    lines = []
    for k, row in enumerate(logged.rows):
        flight = row.flight
        cells = [f"{k + 1:3} {flight.day or 'no day':10} v{flight.version}"]
        for value, quantity in (
            *((flight.wind, "speed"), (flight.aloft, "flight_time"), (flight.put_back_ah, "capacity")),
            *((None if row.mean is None else row.mean.value, "current"), (flight.trim_pitch, "angle")),
        ):
            cells.append(f"{'–' if value is None else str(say('{}', Measured(value, quantity))):>9}")
        seen = [SIGHTINGS[key].words for key in flight.seen] + ([flight.words] if flight.words else [])
        cells.append("; ".join(seen))
        if k in logged.doubts:
            cells.append("CANNOT BE")
        lines.append(" ".join(cells).rstrip())
    for key in _FIGURES:
        figure = report.figures[key]
        if figure.value is None:
            lines.append(f"{figure.label}: – ({figure.why_not})")
        else:
            lines.append(f"{figure.label}: {say('{}', Measured(figure.value, figure.quantity))}")
    return lines
