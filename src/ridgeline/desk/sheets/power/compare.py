"""Two or three power trains side by side: what is fitted, and matches."""

from __future__ import annotations

import math
from collections.abc import Sequence

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter

from ridgeline.desk.paint import fit, heading, write
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, theme
from ridgeline.engine.advice.match import Match
from ridgeline.engine.advice.match_design import Doubts, doubts_of
from ridgeline.engine.bands import BAND
from ridgeline.engine.figures import Figure
from ridgeline.engine.power.prop_sizes import size_words
from ridgeline.engine.report import Report
from ridgeline.units import limits, shown

_ROW, _LABELS = 15.6, 80


def _number(value: float | None, words: str) -> str:
    return "–" if value is None or not math.isfinite(value) else words.format(value)


def _banded(figure: Figure, factor: float, digits: int) -> str:
    if figure.value is None:
        return "–"
    band = limits(factor * figure.below, factor * figure.above, digits).replace("± ", "±")
    return f"{factor * figure.value:.{digits}f} {band}"


def _can(name: str) -> str:
    """Return the size in a motor's name."""
    return next((word.rstrip(",") for word in name.split() if word[:1].isdigit()), name)


def fitted_column(store: Store) -> dict[str, str]:
    """Return what is fitted now."""
    train, report = store.design.power, store.report
    if train is None:
        return {}
    throttle = report.value("flight.cruise_throttle")
    return {
        "Motor": _can(train.motor.name),
        "Kv": f"{train.motor.kv_rpm_per_v:.0f}",
        "Propeller": size_words(train.propeller),
        "Pack": train.pack.name,
        "ESC": f"{train.esc.max_current:.0f} A",
        "All-up weight": shown(report.value("mass.auw") or 0.0, "mass", store.units),
        "Thrust ratio": _banded(report.figures["power.thrust_ratio"], 1.0, 2),
        "Full throttle, A": _banded(report.figures["power.static_current"], 1.0, 1),
        "Cruise": _number(None if throttle is None else 100 * throttle, "{:.0f} %"),
        "Minutes": _banded(report.figures["flight.endurance"], 1 / 60, 0),
        "To buy": "nothing",
    }


def match_column(store: Store, match: Match, doubts: Doubts) -> dict[str, str]:
    """Return a match in the same rows, with its bands."""
    units = store.units
    return {
        "Motor": _can(match.motor.name),
        "Kv": f"{match.motor.kv_rpm_per_v:.0f}",
        "Propeller": size_words(match.propeller),
        "Pack": match.pack.name,
        "ESC": "none" if match.esc is None else f"{match.esc.max_current:.0f} A",
        "All-up weight": shown(match.mass, "mass", units),
        "Thrust ratio": f"{match.ratio:.2f} ±{BAND * doubts.ratio:.2f}",
        "Full throttle, A": f"{match.current:.1f} ±{BAND * doubts.current:.1f}",
        "Cruise": _number(100 * match.throttle, "{:.0f} %"),
        "Minutes": f"{match.seconds / 60:.0f} ±{BAND * doubts.seconds / 60:.0f}",
        "To buy": f"{match.to_buy} parts" if match.price is None else f"{match.price:.2f}",
    }


class Compared:
    """What is fitted now beside the chosen match and those set beside it; their doubts are known from one look on."""

    def __init__(self, store: Store) -> None:
        self._store = store
        self._report: Report | None = None
        self._known: list[tuple[Match, Doubts]] = []

    def _doubts(self, match: Match) -> Doubts:
        if self._report is not self._store.report:
            self._report, self._known = self._store.report, []
        known = next((doubts for one, doubts in self._known if one is match), None)
        if known is None:
            known = doubts_of(self._store.design, self._store.report, match)
            self._known.append((match, known))
        return known

    def draw(self, p: QPainter, area: QRectF, chosen: Match | None, pins: Sequence[Match]) -> None:
        """Draw the columns side by side."""
        inks, store = theme.inks, self._store
        heading(p, area.left(), area.top() + 12, area.width(), "Side by side", "", strong=False)
        beside = [("chosen", chosen)] if chosen is not None else []
        beside += [("beside", match) for match in pins if match is not chosen]
        columns = [("fitted", fitted_column(store))]
        columns += [(word, match_column(store, match, self._doubts(match))) for word, match in beside[:2]]
        width = (area.width() - _LABELS) / 3
        for k, label in enumerate(columns[0][1]):
            write(p, area.left(), area.top() + 52 + _ROW * k, label, LABEL, inks.soft)
        for place, (word, values) in enumerate(columns):
            x = area.left() + _LABELS + width * (place + 1)
            ink = inks.live if word == "chosen" else inks.soft
            write(p, x, area.top() + 34, word, LABEL, ink, True, align="right")
            for k, value in enumerate(values.values()):
                write(p, x, area.top() + 52 + _ROW * k, fit(value, width - 4, LABEL), LABEL, align="right")
