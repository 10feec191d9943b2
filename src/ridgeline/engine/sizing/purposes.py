"""Starting values by purpose (handbook of the trade §3), each a range a builder can leave on purpose."""

from __future__ import annotations

from typing import NamedTuple

Range = tuple[float, float]
#: What is drawn with a loading or thrust ratio within this share of its wish agrees with it (chosen).
AGREES = 0.15


class PurposeValues(NamedTuple):
    """Wanted ranges: loading kg/m², aspect ratio, tail volumes, static thrust ratio, static margin."""

    label: str
    loading: Range
    aspect_ratio: Range
    volume_h: Range
    volume_v: Range
    thrust_ratio: Range
    static_margin: Range
    cruise_ratio: float


PURPOSES: dict[str, PurposeValues] = {
    "trainer": PurposeValues(
        "Trainer", (2.0, 3.5), (5, 7), (0.50, 0.70), (0.035, 0.050), (0.5, 0.9), (0.10, 0.15), 1.7
    ),
    "slow": PurposeValues(
        "Slow, indoor", (0.5, 1.5), (4, 6), (0.50, 0.70), (0.035, 0.050), (0.6, 1.0), (0.10, 0.15), 1.6
    ),
    "sport": PurposeValues("Sport", (3.0, 5.0), (5, 6.5), (0.45, 0.60), (0.030, 0.045), (0.9, 1.4), (0.06, 0.12), 1.9),
    "aerobatic": PurposeValues(
        "Aerobatic, 3D", (2.0, 4.5), (4.5, 6), (0.40, 0.60), (0.030, 0.045), (1.4, 2.2), (0.02, 0.07), 1.9
    ),
    "short_field": PurposeValues(
        "Short field", (1.5, 3.5), (5, 7), (0.60, 0.90), (0.040, 0.060), (1.2, 2.2), (0.08, 0.14), 1.6
    ),
    "glider": PurposeValues("Glider", (1.5, 4.0), (9, 16), (0.38, 0.55), (0.018, 0.030), (0.0, 0.6), (0.05, 0.10), 1.6),
    "camera": PurposeValues(
        "Camera, range", (3.5, 6.5), (6, 10), (0.45, 0.65), (0.030, 0.045), (0.5, 0.9), (0.08, 0.14), 1.6
    ),
    "tailless": PurposeValues(
        "Tailless", (2.0, 5.0), (2, 8), (0.0, 0.0), (0.015, 0.040), (0.7, 1.4), (0.04, 0.10), 1.8
    ),
    "speed": PurposeValues("Speed", (4.5, 8.0), (4.5, 7), (0.40, 0.55), (0.025, 0.040), (1.0, 1.8), (0.06, 0.10), 2.2),
    "scale": PurposeValues("Scale", (3.0, 9.0), (5, 8), (0.40, 0.60), (0.030, 0.045), (0.6, 1.2), (0.08, 0.14), 1.8),
}

#: The rule of thumb beside the computed target, fractions of c̄ (handbook of the trade §6).
RULE_TAILED: Range = (0.25, 0.33)
RULE_TAILLESS: Range = (0.15, 0.20)
#: Margin wanted with a foreplane, whatever the purpose (handbook of the trade §14).
FOREPLANE_MARGIN: Range = (0.10, 0.20)
#: First throw ahead of the settled balance, fractions of c̄.
FIRST_THROW_TAILED: Range = (0.03, 0.05)
FIRST_THROW_TAILLESS: Range = (0.01, 0.02)


def loading_range(purpose: str, mass: float) -> Range:
    """Return the wanted wing loading for an all-up mass, kg/m².

    The table suits 0.5 to 1.5 kg; outside that, equal cubic loading asks for loading ∝ m^⅓.

    Parameters
    ----------
    purpose : str
    mass : float
        All-up, kg.

    Returns
    -------
    tuple of float
        kg/m².

    Source
    ------
    m/S = WCL^⅔ m^⅓: docs/theory.md §3.
    """
    low, high = PURPOSES[purpose].loading
    factor = (mass / min(max(mass, 0.5), 1.5)) ** (1 / 3)
    return low * factor, high * factor


def middle(values: Range) -> float:
    """Return the middle of a range."""
    return 0.5 * (values[0] + values[1])
