"""Quantities: how a value is stored (SI), shown (the builder's choice) and read ("1 ft 6 in").

Showing needs only the tables here. Reading typed units is Pint's work and imports it on first use, so that
the window paints before Pint is loaded.
"""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from ridgeline.errors import DesignError

#: The stored unit of each quantity. A stored unit that is not SI is also part of the field's name.
STORED_UNIT: dict[str, str] = {
    "length": "m",
    "distance": "m",
    "area": "m²",
    "volume": "m³",
    "mass": "kg",
    "loading": "kg/m²",
    "cubic_loading": "kg/m³",
    "linear_mass": "kg/m",
    "density": "kg/m³",
    "speed": "m/s",
    "acceleration": "m/s²",
    "angle": "rad",
    "force": "N",
    "torque": "N·m",
    "pressure": "Pa",
    "voltage": "V",
    "current": "A",
    "power": "W",
    "resistance": "Ω",
    "capacity": "Ah",
    "speed_constant": "rpm/V",
    "rotation": "rpm",
    "turn_rate": "rad/s",
    "time": "s",
    "seconds": "s",
    "temperature": "°C",
    "temperature_rise": "K",
    "per_radian": "1/rad",
    "power_loading": "kg/W",
    "viscosity": "Pa·s",
    "fraction": "1",
    "ratio": "1",
    "count": "1",
    "coefficient": "1",
}

_PINT_NAME = {
    "m²": "meter**2",
    "m³": "meter**3",
    "kg/m²": "kilogram/meter**2",
    "kg/m": "kilogram/meter",
    "kg/m³": "kilogram/meter**3",
    "m/s²": "meter/second**2",
    "N·m": "newton*meter",
    "Ω": "ohm",
    "Ah": "ampere*hour",
    "rpm/V": "rpm/volt",
    "°C": "degC",
    "1/rad": "1/radian",
    "rad/s": "radian/second",
    "kg/W": "kilogram/watt",
    "Pa·s": "pascal*second",
    "1": "dimensionless",
}


@dataclass(frozen=True)
class DisplayUnit:
    """One way of showing a quantity: ``shown = stored * factor + offset``."""

    symbol: str
    factor: float = 1.0
    decimals: int = 2
    offset: float = 0.0


_DEGREES = 180.0 / math.pi
_COMMON: dict[str, DisplayUnit] = {
    "angle": DisplayUnit("°", _DEGREES, 1),
    "force": DisplayUnit("N", 1, 2),
    "torque": DisplayUnit("N m", 1, 3),
    "pressure": DisplayUnit("Pa", 1, 0),
    "voltage": DisplayUnit("V", 1, 1),
    "current": DisplayUnit("A", 1, 1),
    "power": DisplayUnit("W", 1, 0),
    "resistance": DisplayUnit("mΩ", 1e3, 0),
    "capacity": DisplayUnit("mAh", 1e3, 0),
    "speed_constant": DisplayUnit("rpm/V", 1, 0),
    "rotation": DisplayUnit("rpm", 1, 0),
    "turn_rate": DisplayUnit("°/s", _DEGREES, 0),
    "time": DisplayUnit("min", 1 / 60, 0),
    "seconds": DisplayUnit("s", 1, 2),
    "per_radian": DisplayUnit("per rad", 1, 3),
    "power_loading": DisplayUnit("g/W", 1e3, 1),
    "acceleration": DisplayUnit("m/s²", 1, 2),
    "viscosity": DisplayUnit("µPa s", 1e6, 1),
    "density": DisplayUnit("kg/m³", 1, 3),
    "fraction": DisplayUnit("%", 100, 1),
    "ratio": DisplayUnit("", 1, 2),
    "count": DisplayUnit("", 1, 0),
    "coefficient": DisplayUnit("", 1, 3),
}

METRIC: dict[str, DisplayUnit] = _COMMON | {
    "length": DisplayUnit("mm", 1e3, 0),
    "distance": DisplayUnit("m", 1, 0),
    "area": DisplayUnit("dm²", 100, 1),
    "volume": DisplayUnit("dm³", 1e3, 2),
    "mass": DisplayUnit("g", 1e3, 0),
    "loading": DisplayUnit("g/dm²", 10, 1),
    "linear_mass": DisplayUnit("g/m", 1e3, 1),
    "cubic_loading": DisplayUnit("kg/m³", 1, 1),
    "speed": DisplayUnit("m/s", 1, 1),
    "temperature": DisplayUnit("°C", 1, 0),
    "temperature_rise": DisplayUnit("K", 1, 0),
}

IMPERIAL: dict[str, DisplayUnit] = _COMMON | {
    "length": DisplayUnit("in", 1 / 0.0254, 2),
    "distance": DisplayUnit("ft", 1 / 0.3048, 0),
    "area": DisplayUnit("in²", 1 / 0.0254**2, 0),
    "volume": DisplayUnit("in³", 1 / 0.0254**3, 1),
    "mass": DisplayUnit("oz", 1 / 0.028349523125, 1),
    "loading": DisplayUnit("oz/ft²", 0.3048**2 / 0.028349523125, 1),
    "linear_mass": DisplayUnit("oz/ft", 0.3048 / 0.028349523125, 2),
    "cubic_loading": DisplayUnit("oz/ft³", 0.3048**3 / 0.028349523125, 1),
    "speed": DisplayUnit("mph", 3600 / 1609.344, 1),
    "temperature": DisplayUnit("°F", 1.8, 0, 32.0),
    "temperature_rise": DisplayUnit("°F", 1.8, 0),
}

SYSTEMS: dict[str, Mapping[str, DisplayUnit]] = {"metric": METRIC, "imperial": IMPERIAL}
Units = Mapping[str, DisplayUnit]


def number(value: float, decimals: int) -> str:
    """Write a number with a true minus sign and no negative zero."""
    text = f"{value:.{decimals}f}"
    if float(text) == 0:
        text = text.lstrip("-")
    return text.replace("-", "−")


def shown(value: float, quantity: str, units: Units = METRIC, decimals: int | None = None) -> str:
    """Write a stored value in display units, without the unit symbol."""
    unit = units[quantity]
    return number(value * unit.factor + unit.offset, unit.decimals if decimals is None else decimals)


def with_unit(value: float, quantity: str, units: Units = METRIC, decimals: int | None = None) -> str:
    """Write a stored value in display units with its symbol: ``"218 mm"``, ``"35.0°"``."""
    text, symbol = shown(value, quantity, units, decimals), units[quantity].symbol
    if not symbol:
        return text
    return f"{text}{symbol}" if symbol == "°" else f"{text} {symbol}"


@lru_cache(maxsize=1)
def _registry() -> Any:
    import pint

    registry: Any = pint.UnitRegistry(autoconvert_offset_to_baseunit=True)
    registry.define("gram_per_square_decimeter = gram / decimeter**2")
    return registry


_NUMBER = r"[-−+]?\s*(?:\d+(?:[ ]+|-)\d+\s*[/⁄]\s*\d+|\d+\s*[/⁄]\s*\d+|(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?)"
_TERM = re.compile(rf"\s*({_NUMBER})\s*((?:[^\W\d_]|[\"'″′°%µΩ])(?:[^,;+]*?))?\s*(?=$|(?:[-−+]?\s*\d)|,|\+)")
_NICKNAMES = {
    '"': "inch",
    "″": "inch",
    "''": "inch",
    "'": "foot",
    "′": "foot",
    "°": "degree",
    "°C": "degC",
    "°F": "degF",
    "C": "degC",
    "F": "degF",
    "%": "percent",
    "Ω": "ohm",
    "mΩ": "milliohm",
    "kv": "rpm/volt",
    "Kv": "rpm/volt",
    "g/dm²": "gram/decimeter**2",
    "g/dm2": "gram/decimeter**2",
    "oz/ft²": "ounce/foot**2",
    "oz/ft2": "ounce/foot**2",
    "kmh": "km/hour",
    "km/h": "km/hour",
    "kn": "knot",
    "minutes": "minute",
    "m": "meter",
    "min": "minute",
}


def _read_number(text: str) -> float:
    text = text.replace("−", "-").replace("⁄", "/").strip()
    sign = -1.0 if text.startswith("-") else 1.0
    text = text.lstrip("+-").strip()
    if "/" not in text:
        return sign * float(text)
    *whole, fraction = re.split(r"[ ]+(?=\d+\s*/)|-", text)
    top, bottom = (float(part) for part in fraction.split("/"))
    if bottom == 0:
        raise ZeroDivisionError(text)
    return sign * (sum(float(part) for part in whole) + top / bottom)


def _split_terms(text: str) -> list[tuple[str, str]]:
    terms, place = [], 0
    while place < len(text.rstrip()):
        match = _TERM.match(text, place)
        if not match or match.end() == place:
            return []
        terms.append((match.group(1), (match.group(2) or "").strip()))
        place = match.end()
        while place < len(text) and text[place] in " ,+":
            place += 1
    return terms


def parse(text: str, quantity: str, *, path: str = "value", bare: DisplayUnit | None = None) -> float:
    """Read a typed value of any unit mix into the stored unit.

    Parameters
    ----------
    text : str
        For instance ``"3/16 in"``, ``"1 ft 6 in"``, ``"1 1/2\\""``, ``"4.5oz"``, ``"0.18"``.
    quantity : str
        A key of `STORED_UNIT`.
    path : str
        What the value is for; named in the error.
    bare : DisplayUnit, optional
        The unit a number without one is in; the stored unit by default.

    Raises
    ------
    DesignError
        When the text is not a number with a unit of that quantity, or is not finite.
    """
    stored = STORED_UNIT[quantity]
    example = {"length": " such as 180 mm, 3/16 in or 1 ft 6 in", "mass": " such as 120 g or 4.5 oz"}
    allowed = f"a {quantity.replace('_', ' ')}{example.get(quantity, '')}"
    plain = text.strip()
    # "oz/ft2" is a square foot; the 2 of "6ft2in" starts the next part.
    raised = re.sub(r"(?:\^|\*\*)\s*([23])(?!\d)", lambda m: "²³"[int(m[1]) - 2], plain)
    terms = _split_terms(re.sub(r"(/\s*[^\W\d_]+)([23])(?!\d)", lambda m: m[1] + "²³"[int(m[2]) - 2], raised))
    if not terms:
        raise DesignError(path, f"“{plain}”", allowed)
    try:
        if len(terms) == 1 and not terms[0][1]:
            value = _read_number(terms[0][0])
            return _finite((value - bare.offset) / bare.factor if bare else value, path, plain, allowed)
        total = 0.0
        for index, (count, unit) in enumerate(terms):
            # In "1 ft 6", the bare 6 has no unit of its own: refuse rather than guess.
            if not unit:
                raise DesignError(path, f"“{plain}” with no unit for its part {index + 1}", allowed)
            part = _to_stored(_read_number(count), unit, stored)
            total += -abs(part) if total < 0 else part
        return _finite(total, path, plain, allowed)
    except DesignError:
        raise
    except Exception as error:  # Pint raises many kinds; each means "not that quantity" to the builder
        raise DesignError(path, f"“{plain}”", f"{allowed}, in {stored} or a unit like it") from error


def _to_stored(value: float, unit: str, stored: str) -> float:
    registry = _registry()
    name = _NICKNAMES.get(unit, unit.replace("²", "**2").replace("³", "**3").replace("·", "*"))
    quantity = registry.Quantity(value, name)
    return float(quantity.to(_PINT_NAME.get(stored, stored)).magnitude)


def _finite(value: float, path: str, plain: str, allowed: str) -> float:
    if not math.isfinite(value):
        raise DesignError(path, f"“{plain}”, which is not finite", allowed)
    return value
