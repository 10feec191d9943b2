"""What a builder types, read into stored units: "1 ft 6 in", "3/16 in", "12,5", "33 %"; and refusals in the same units.

Every rule here is linear in the length of the text, and texts longer than a value can be are refused unread.
Pint, which knows the units, is imported on first use, so that the window paints before it is loaded.
"""

from __future__ import annotations

import math
import re
from functools import lru_cache
from typing import Any, NamedTuple

from ridgeline.errors import DesignError
from ridgeline.units import METRIC, STORED_UNIT, DisplayUnit, Units

#: No value is written with more letters than this.
_LONGEST = 120
_SHOWN = 40

_GRAVITY = 9.80665
#: What may be typed, by quantity; the others are "a number".
_WORDS: dict[str, str] = {
    "length": "a length such as 180 mm, 3/16 in or 1 ft 6 in",
    "fine_length": "a length such as 0.4 mm or 0.01 in",
    "distance": "a length such as 40 m or 120 ft",
    "area": "an area such as 22 dm² or 340 in²",
    "mass": "a mass such as 120 g or 4.5 oz",
    "loading": "a loading such as 29 g/dm² or 9.5 oz/ft²",
    "cubic_loading": "a loading such as 6 kg/m³",
    "linear_mass": "a mass by length such as 9 g/m",
    "density": "a density such as 30 kg/m³",
    "speed": "a speed such as 12 m/s, 43 km/h or 27 mph",
    "angle": "an angle such as 12° or 0.2 rad",
    "force": "a force such as 3.5 N, or the weight of 780 g",
    "torque": "a torque such as 0.15 N m",
    "voltage": "a voltage such as 11.1 V",
    "current": "a current such as 18 A",
    "power": "a power such as 240 W",
    "resistance": "a resistance such as 45 mΩ",
    "capacity": "a capacity such as 2200 mAh",
    "speed_constant": "a speed constant such as 1000 rpm/V",
    "rotation": "a speed of rotation such as 8200 rpm",
    "time": "a time such as 18 min or 90 s",
    "seconds": "a time such as 20 s",
    "temperature": "a temperature such as 20 °C or 68 °F",
    "fraction": "a share such as 25 %",
    "stress": "a stress such as 240 MPa",
    "modulus": "a modulus such as 120 GPa",
    "factor": "a load factor such as 4 g",
    "wall_stiffness": "a stiffness such as 60 kN/m",
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
    "oz/ft²": "ounce/foot**2",
    "kmh": "km/hour",
    "km/h": "km/hour",
    "kn": "knot",
    "minutes": "minute",
    "m": "meter",
    "min": "minute",
}

_DECIMAL = re.compile(r"(?:\d+(?:[.,]\d+)*\.?|[.,]\d+)(?:[eE][-+]?\d+)?")
_NUMBER = re.compile(rf"([-+]?) ?(?:(?:(\d+)(?: |-))?(\d+) ?/ ?(\d+)|({_DECIMAL.pattern}))")
#: A unit runs up to the next digit, comma, semicolon or plus; a minus before a digit belongs to the number.
_UNIT = re.compile(r"[^\d\s,;+][^\d,;+]*")
_UNIT_STARTS = "\"'″′°%µΩ"
_EARTH = re.compile(r"\s*g\s*$")
_GROUPED = {mark: re.compile(rf"\d{{1,3}}(?:{re.escape(mark)}\d{{3}})+") for mark in ".,"}


class Arm(NamedTuple):
    """A length across which an angle is a height, so that either may be typed for the other.

    Attributes
    ----------
    length : float
        Chord between the two ends, m.
    swung : bool
        True for a trailing edge swung about its hinge, whose travel is 2 c sin(δ/2); False for one end of a chord
        raised by a shim, c sin(δ).
    """

    length: float
    swung: bool = False

    def angle(self, height: float) -> float:
        """Return the angle of a height, rad; not a number where the arm is too short for it."""
        share = height / (2 * self.length if self.swung else self.length)
        return math.asin(share) * (2 if self.swung else 1) if abs(share) <= 1 else math.nan

    def height(self, angle: float) -> float:
        """Return the height of an angle, m."""
        return 2 * self.length * math.sin(angle / 2) if self.swung else self.length * math.sin(angle)


class Typed(NamedTuple):
    """A typed value in the stored unit, and the unit it was typed in where that was one unit."""

    value: float
    unit: DisplayUnit | None


def plain_number(text: str) -> float:
    """Read one finite number without a unit; a decimal comma is one where it cannot stand between thousands.

    Raises
    ------
    ValueError
        When it is none, or could be two different ones; the message says which.
    """
    cleaned = " ".join(text.replace("−", "-").split())
    sign = -1.0 if cleaned.startswith("-") else 1.0
    body = cleaned[1:].lstrip() if cleaned[:1] in ("-", "+") else cleaned
    if len(body) > _LONGEST or not _DECIMAL.fullmatch(body):
        raise ValueError(f"“{short(text)}” is no number")
    value = sign * _decimal(body)
    if not math.isfinite(value):
        raise ValueError(f"“{short(text)}” is too large")
    return value


def _decimal(text: str) -> float:
    """Read digits with points and commas; refuse ``1,200``, which is two different numbers to two builders."""
    body, mark, power = text.replace("E", "e").partition("e")
    exponent = mark + power
    if "," in body and "." in body:
        decimal = max(",.", key=body.rindex)
        other = "." if decimal == "," else ","
        whole, _mark, rest = body.rpartition(decimal)
        if not _GROUPED[other].fullmatch(whole):
            raise ValueError(f"“{text}” is no number")
        return float(f"{whole.replace(other, '')}.{rest}{exponent}")
    for mark in ",.":
        if body.count(mark) > 1:
            if not _GROUPED[mark].fullmatch(body):
                raise ValueError(f"“{text}” is no number")
            return float(body.replace(mark, "") + exponent)
    if _GROUPED[","].fullmatch(body) and not body.startswith("0"):
        whole = body.replace(",", "")
        raise ValueError(f"“{text}” may be {whole} or {float(body.replace(',', '.')):g}")
    return float(body.replace(",", ".") + exponent)


def short(text: str, most: int = _SHOWN) -> str:
    """Return a text as it is quoted in a refusal: on one line, its middle left out when it is long."""
    line = "".join(letter if letter.isprintable() else " " for letter in text[: most + 1])
    return line.strip() if len(text) <= most else line[:most].strip() + "…"


def parse(
    text: str, quantity: str, *, path: str = "value", bare: DisplayUnit | None = None, arm: Arm | None = None
) -> float:
    """Read a typed value of any unit mix into the stored unit; see `read`."""
    return read(text, quantity, path=path, bare=bare, arm=arm).value


def read(
    text: str, quantity: str, *, path: str = "value", bare: DisplayUnit | None = None, arm: Arm | None = None
) -> Typed:
    """Read a typed value of any unit mix.

    Parameters
    ----------
    text : str
        For instance ``"3/16 in"``, ``"1 ft 6 in"``, ``"1 1/2\\""``, ``"4.5oz"``, ``"0.18"``, ``"12,5"``.
    quantity : str
        A key of `STORED_UNIT`.
    path : str
        What the value is for; named in the error.
    bare : DisplayUnit, optional
        The unit a number without one is in; the stored unit by default.
    arm : Arm, optional
        For an angle or a length that are one another's across a known chord: either may then be typed.

    Returns
    -------
    Typed
        The value in the stored unit, and the unit typed.

    Raises
    ------
    DesignError
        When the text is not a number with a unit of that quantity, is not finite, or could be two values.
    """
    allowed = _WORDS.get(quantity, "a number")
    plain = short(text)
    if len(text) > _LONGEST:
        raise DesignError(path, f"“{plain}”, {len(text)} letters", allowed)
    try:
        # Of load factors g is the pull of the earth, and no gram.
        terms = _split_terms(_EARTH.sub("", text) if quantity == "factor" else text)
    except ValueError as error:
        raise DesignError(path, str(error), allowed) from error
    if not terms:
        raise DesignError(path, f"“{plain}”" if plain else "nothing", allowed)
    if len(terms) == 1 and not terms[0][1]:
        return Typed(_bare_value(terms[0][0], plain, path, allowed, bare), bare)
    missing = next((index for index, (_count, unit) in enumerate(terms) if not unit), None)
    if missing is not None:
        # In "1 ft 6", the bare 6 has no unit of its own: refuse rather than guess.
        raise DesignError(path, f"“{plain}” with no unit for its part {missing + 1}", allowed)
    value = _sum(terms, STORED_UNIT[quantity])
    if value is None and quantity == "force":
        # Builders read thrust off a kitchen scale: a mass is its weight.
        hung = _sum(terms, STORED_UNIT["mass"])
        if hung is not None:
            return Typed(hung * _GRAVITY, None)
    unit = None if value is None else _unit_of(terms, value)
    if value is None and arm is not None and arm.length > 0:
        value = _across(terms, quantity, arm)
    if value is None:
        if arm is not None and (reach := _past_reach(terms, quantity, arm)):
            raise DesignError(path, f"“{plain}”", f"heights of up to {reach} across its chord")
        if arm is not None:
            allowed += ", or an angle" if quantity == "length" else ", or its height across the chord such as 6 mm"
        raise DesignError(path, f"“{plain}”", allowed)
    if not math.isfinite(value):
        raise DesignError(path, f"“{plain}”, which is not finite", allowed)
    return Typed(value, unit)


def _bare_value(number: float, plain: str, path: str, allowed: str, bare: DisplayUnit | None) -> float:
    if bare is None:
        value = number
    elif bare.symbol == "%" and 0 < abs(number) < 1:
        raise DesignError(
            path, f"“{plain}”, which may be {number:g} % or {100 * number:g} %", f"{number:g} % or {100 * number:g} %"
        )
    else:
        value = (number - bare.offset) / bare.factor
    if not math.isfinite(value):
        raise DesignError(path, f"“{plain}”, which is not finite", allowed)
    return value


def _sum(terms: list[tuple[float, str]], stored: str) -> float | None:
    """Add the terms up in a stored unit; None where a unit is none of its kind."""
    try:
        return _added(terms, stored)
    except Exception:  # Pint raises many kinds; each means "not that quantity" to the builder
        return None


def _across(terms: list[tuple[float, str]], quantity: str, arm: Arm) -> float | None:
    """Return the angle of a typed height, or the height of a typed angle; None where it is neither."""
    typed = _sum(terms, "m" if quantity == "angle" else "rad")
    if typed is None or not math.isfinite(typed):
        return None
    value = arm.angle(typed) if quantity == "angle" else arm.height(typed)
    return value if math.isfinite(value) else None


def _past_reach(terms: list[tuple[float, str]], quantity: str, arm: Arm) -> str:
    """Return what the arm reaches, when a height was typed that is past it, in the unit typed."""
    typed = _sum(terms, "m") if quantity == "angle" else None
    if typed is None:
        return ""
    unit = _unit_of(terms, typed) or METRIC["length"]
    return f"{arm.length * (2 if arm.swung else 1) * unit.factor:.3g} {unit.symbol}"


def _added(terms: list[tuple[float, str]], stored: str) -> float:
    total = 0.0
    for number, unit in terms:
        part = _to_stored(number, unit, stored)
        total += -abs(part) if total < 0 else part
    return total


def _unit_of(terms: list[tuple[float, str]], value: float) -> DisplayUnit | None:
    """Return the unit of a value typed in one, so that its limits can be told in it."""
    (number, unit), *more = terms
    if more or not number or not value or unit in ("°C", "°F", "C", "F"):
        return None
    return DisplayUnit(unit, number / value)


def _split_terms(text: str) -> list[tuple[float, str]]:
    """Split a text into numbers with their units; none at all when it is something else."""
    line = " ".join(text.replace("−", "-").replace("⁄", "/").split())
    # "oz/ft2" is a square foot; the 2 of "6ft2in" starts the next part.
    line = re.sub(r"(?:\^|\*\*) ?([23])(?!\d)", lambda m: "²³"[int(m[1]) - 2], line)
    line = re.sub(r"(/ ?[^\W\d_]{1,12})([23])(?!\d)", lambda m: m[1] + "²³"[int(m[2]) - 2], line)
    # "24 dm2" ends in a square; feet are left out, for "6ft2" may want its inches.
    line = re.sub(r"(?<![^\W\d_])(mm|cm|dm|m|in)([23])$", lambda m: m[1] + "²³"[int(m[2]) - 2], line)
    terms: list[tuple[float, str]] = []
    place = 0
    while place < len(line):
        match = _NUMBER.match(line, place)
        if not match:
            return []
        place = match.end()
        while line[place : place + 1] == " ":
            place += 1
        unit = _UNIT.match(line, place)
        words = unit.group() if unit else ""
        if words and not (words[0].isalpha() or words[0] in _UNIT_STARTS):
            return []
        if words.endswith("-"):
            words = words[:-1]
        place += len(words)
        terms.append((_number_of(match), words.strip()))
        if line[place:] in (",", "+", ";"):
            return []
        while line[place : place + 1] in (" ", ",", "+") and place < len(line):
            place += 1
    return terms


def _number_of(match: re.Match[str]) -> float:
    sign, whole, top, bottom, decimal = match.groups()
    if decimal:
        value = _decimal(decimal)
    elif int(bottom) == 0:
        raise ValueError(f"“{match.group()}”, which divides by nothing")
    else:
        value = (int(whole) if whole else 0) + int(top) / int(bottom)
    return -value if sign == "-" else value


@lru_cache(maxsize=1)
def _registry() -> Any:
    import pint

    registry: Any = pint.UnitRegistry(autoconvert_offset_to_baseunit=True)
    registry.define("gram_per_square_decimeter = gram / decimeter**2")
    return registry


def _to_stored(value: float, unit: str, stored: str) -> float:
    name = _NICKNAMES.get(unit, unit.replace("²", "**2").replace("³", "**3").replace("·", "*"))
    quantity = _registry().Quantity(value, name)
    return float(quantity.to(_PINT_NAME.get(stored, stored)).magnitude)


def told(error: DesignError, units: Units = METRIC, unit: DisplayUnit | None = None) -> DesignError:
    """Return a refusal with its limit in the unit that was typed, or else in the units shown.

    Parameters
    ----------
    error : DesignError
        As it was raised.
    units : Units
        The builder's units.
    unit : DisplayUnit, optional
        The unit the value was typed in (`Typed.unit`).
    """
    if error.bound is None:
        return error
    words, value, quantity = error.bound
    chosen = unit or units[quantity]
    amount = f"{value * chosen.factor + chosen.offset:.4g}".replace("-", "−")
    gap = "" if chosen.symbol in ("", "°", '"', "'", "″", "′") else " "
    return DesignError(error.path, error.understood, words.format(f"{amount}{gap}{chosen.symbol}".strip()))
