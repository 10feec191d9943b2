"""Quantities: how a value is stored (SI) and shown (the builder's choice). `ridgeline.typed` reads them."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

#: The stored unit of each quantity. A stored unit that is not SI is also part of the field's name.
STORED_UNIT: dict[str, str] = {
    "length": "m",
    "distance": "m",
    "fine_length": "m",
    "area": "m²",
    "drag_area": "m²",
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
    "stress": "Pa",
    "modulus": "Pa",
    "bending_stiffness": "N·m²",
    "wall_stiffness": "N/m",
    "line_load": "N/m",
    "factor": "1",
    "voltage": "V",
    "cell_voltage": "V",
    "current": "A",
    "power": "W",
    "resistance": "Ω",
    "capacity": "Ah",
    "speed_constant": "rpm/V",
    "rotation": "rpm",
    "turn_rate": "rad/s",
    "time": "s",
    "flight_time": "s",
    "seconds": "s",
    "temperature": "°C",
    "temperature_rise": "K",
    "per_radian": "1/rad",
    "growth": "1/s",
    "power_loading": "kg/W",
    "viscosity": "Pa·s",
    "fraction": "1",
    "ratio": "1",
    "glide": "1",
    "count": "1",
    "coefficient": "1",
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
    "stress": DisplayUnit("MPa", 1e-6, 1),
    "modulus": DisplayUnit("GPa", 1e-9, 1),
    "bending_stiffness": DisplayUnit("N m²", 1, 2),
    "wall_stiffness": DisplayUnit("kN/m", 1e-3, 1),
    "line_load": DisplayUnit("N/m", 1, 1),
    "factor": DisplayUnit("g", 1, 1),
    "voltage": DisplayUnit("V", 1, 1),
    "cell_voltage": DisplayUnit("V", 1, 2),
    "current": DisplayUnit("A", 1, 1),
    "power": DisplayUnit("W", 1, 0),
    "resistance": DisplayUnit("mΩ", 1e3, 0),
    "capacity": DisplayUnit("mAh", 1e3, 0),
    "speed_constant": DisplayUnit("rpm/V", 1, 0),
    "rotation": DisplayUnit("rpm", 1, 0),
    "turn_rate": DisplayUnit("°/s", _DEGREES, 0),
    "time": DisplayUnit("min", 1 / 60, 0),
    "flight_time": DisplayUnit("min", 1 / 60, 1),
    "seconds": DisplayUnit("s", 1, 2),
    "per_radian": DisplayUnit("per rad", 1, 3),
    "growth": DisplayUnit("% a second", 100, 1),
    "power_loading": DisplayUnit("g/W", 1e3, 1),
    "acceleration": DisplayUnit("m/s²", 1, 2),
    "viscosity": DisplayUnit("µPa s", 1e6, 1),
    "density": DisplayUnit("kg/m³", 1, 3),
    "fraction": DisplayUnit("%", 100, 1),
    "ratio": DisplayUnit("", 1, 2),
    "glide": DisplayUnit("", 1, 1),
    "count": DisplayUnit("", 1, 0),
    "coefficient": DisplayUnit("", 1, 3),
}

METRIC: dict[str, DisplayUnit] = _COMMON | {
    "length": DisplayUnit("mm", 1e3, 0),
    "fine_length": DisplayUnit("mm", 1e3, 2),
    "distance": DisplayUnit("m", 1, 0),
    "area": DisplayUnit("dm²", 100, 1),
    "drag_area": DisplayUnit("cm²", 1e4, 1),
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
    "fine_length": DisplayUnit("in", 1 / 0.0254, 3),
    "distance": DisplayUnit("ft", 1 / 0.3048, 0),
    "area": DisplayUnit("in²", 1 / 0.0254**2, 0),
    "drag_area": DisplayUnit("in²", 1 / 0.0254**2, 2),
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


def band_shown(below: float, above: float, quantity: str, units: Units = METRIC, decimals: int | None = None) -> str:
    """Write how far a band reaches to either side: ``"± 12"``, or ``"−8 +14"`` where the two sides differ as shown."""
    factor, digits = units[quantity].factor, units[quantity].decimals if decimals is None else decimals
    return limits(below * factor, above * factor, digits)


def limits(below: float, above: float, digits: int) -> str:
    """Write how far two limits reach to either side, in the unit shown: one number where both read alike."""
    down, up = number(below, digits), number(above, digits)
    return f"± {up}" if down == up else f"−{down} +{up}"


def with_unit(value: float, quantity: str, units: Units = METRIC, decimals: int | None = None) -> str:
    """Write a stored value in display units with its symbol: ``"218 mm"``, ``"35.0°"``."""
    text, symbol = shown(value, quantity, units, decimals), units[quantity].symbol
    if not symbol:
        return text
    return f"{text}{symbol}" if symbol == "°" else f"{text} {symbol}"
