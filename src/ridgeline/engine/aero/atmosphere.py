"""Air density and viscosity at the field."""

from __future__ import annotations

GRAVITY = 9.80665
_SEA_LEVEL_PRESSURE = 101325.0
_SEA_LEVEL_TEMPERATURE = 288.15
_LAPSE = 0.0065
_GAS_CONSTANT = 287.05287


def density(elevation: float, temperature_c: float) -> float:
    """Return the air density, kg/m³: ISA pressure at the elevation, at the air temperature found there.

    Parameters
    ----------
    elevation : float
        Field above sea level, m, −400 to 11 000.
    temperature_c : float
        Air temperature at the field, °C.

    Source
    ------
    International Standard Atmosphere (ISO 2533), troposphere; ideal gas.
    """
    exponent = GRAVITY / (_LAPSE * _GAS_CONSTANT)
    pressure = _SEA_LEVEL_PRESSURE * (1 - _LAPSE * elevation / _SEA_LEVEL_TEMPERATURE) ** exponent
    result: float = pressure / (_GAS_CONSTANT * (temperature_c + 273.15))
    return result


def dynamic_viscosity(temperature_c: float) -> float:
    """Return the dynamic viscosity of air, Pa·s.

    Parameters
    ----------
    temperature_c : float
        °C.

    Returns
    -------
    float
        Pa s.

    Source
    ------
    Sutherland's law with the ISO 2533 constants 1.458e-6 and 110.4 K.
    """
    kelvin = temperature_c + 273.15
    result: float = 1.458e-6 * kelvin**1.5 / (kelvin + 110.4)
    return result
