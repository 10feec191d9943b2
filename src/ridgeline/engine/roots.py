"""One root in a bracket, with few evaluations: each may be a whole aircraft.

A library's would do as well, but to import it takes longer than all that is solved at the first press.
"""

from __future__ import annotations

from collections.abc import Callable

#: Halving alone would need this many steps for fifteen figures.
_MOST = 60


def root_in(
    function: Callable[[float], float],
    low: float,
    high: float,
    close: float,
    at_low: float | None = None,
    at_high: float | None = None,
) -> float:
    """Return where a function crosses nothing between two places.

    Parameters
    ----------
    close : float
        How near the root must be known, in the units of ``low`` and ``high``.
    at_low, at_high : float, optional
        The function's values at the ends where they are known already.

    Raises
    ------
    ValueError
        When both ends have the same sign.

    Source
    ------
    Chandrupatla, Advances in Engineering Software 28 (1997) 145: inverse quadratic steps where three points allow
    them, halving otherwise.
    """
    a, b = high, low
    f_a = function(a) if at_high is None else at_high
    f_b = function(b) if at_low is None else at_low
    if f_a * f_b > 0:
        raise ValueError("both ends lie on the same side of nothing")
    if f_a * f_b == 0:
        return a if f_a == 0 else b
    share = 0.5
    for _ in range(_MOST):
        x = a + share * (b - a)
        f_x = function(x)
        if (f_x > 0) == (f_a > 0):
            c, f_c = a, f_a
        else:
            c, f_c, b, f_b = b, f_b, a, f_a
        a, f_a = x, f_x
        best, f_best = (a, f_a) if abs(f_a) < abs(f_b) else (b, f_b)
        room = 0.5 * close / abs(b - a) if b != a else 1.0
        if f_best == 0 or room > 0.5:
            return best
        # ξ and φ tell where an inverse parabola through the three points may be trusted.
        xi, phi = (a - b) / (c - b), (f_a - f_b) / (f_c - f_b)
        share = 0.5
        if phi**2 < xi and (1 - phi) ** 2 < 1 - xi:
            share = f_a / (f_b - f_a) * f_c / (f_b - f_c) + (c - a) / (b - a) * f_a / (f_c - f_a) * f_b / (f_c - f_b)
        share = min(max(share, room), 1 - room)
    return best
