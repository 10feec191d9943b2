"""What each control by itself does to an airframe: lift, moments and yaw of the lattice for any set of deflections.

One radian down on both sides and one radian down to starboard and up to port are solved of every control; what stands
unlike on its two sides is the sum of the two.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import ControlSurface, Surface
from ridgeline.design.axes import is_upright
from ridgeline.design.hinges import mean_share
from ridgeline.engine.aero import lifting
from ridgeline.engine.aero.airframe_lattice import AirframeLattice, Cases
from ridgeline.engine.aero.flap import effective_deflection, flap_drag
from ridgeline.engine.geometry.placed import in_the_middle, mean_chord_of

Array = NDArray[np.float64]
#: Deflections of a control to starboard and to port, rad, trailing edge down positive; a lone one has the first.
Angles = tuple[float, float]


class Change(NamedTuple):
    """What deflections add: coefficients about the lattice's centre.

    ``yaw`` is that of side forces alone; ``drag_yaw`` that of the flaps' own drag; ``lift_yaw`` and ``lift_yaw_slope``
    what the wing's lift makes of them at no body angle, and for each radian of it.
    """

    lift: float
    pitch: float
    side: float
    roll: float
    yaw: float
    drag_yaw: float
    lift_yaw: float
    lift_yaw_slope: float


@dataclass(frozen=True, eq=False)
class ControlEffects:
    """Every control of an airframe solved by itself.

    ``both`` and ``apart`` are coefficients of one small radian, down on both sides, and down to starboard and up to
    port; ``lift_yaw`` what the wing's lift makes of the latter, at no body angle and for each radian of it; ``drag``
    chord share, share of the wing's area of one side and its arm in spans; ``paired`` tells of a control on each side.
    """

    both: Mapping[str, lifting.Longitudinal]
    apart: Mapping[str, lifting.Lateral]
    lift_yaw: Mapping[str, tuple[float, float]]
    drag: Mapping[str, tuple[float, float, float]]
    paired: Mapping[str, bool]

    def of(self, angles: Mapping[str, Angles]) -> Change:
        """Return what deflections of controls come to together.

        Parameters
        ----------
        angles : mapping
            By id of the control, as they really stand: large ones count by what a plain flap keeps.

        Returns
        -------
        Change
        """
        sums = np.zeros(8)
        for ident, (starboard, port) in angles.items():
            if ident not in self.both:
                continue
            right, left = effective_deflection(starboard), effective_deflection(port)
            even, unlike = (0.5 * (right + left), 0.5 * (right - left)) if self.paired[ident] else (right, right)
            along, across = self.both[ident], self.apart[ident]
            share, area, arm = self.drag[ident]
            apart = flap_drag(share, area, starboard) - (flap_drag(share, area, port) if self.paired[ident] else 0.0)
            sums += (even * along.lift, even * along.pitch, unlike * across.side, unlike * across.roll,
                     unlike * across.yaw, arm * apart, *(unlike * made for made in self.lift_yaw[ident]))  # fmt: skip
        return Change(*(float(value) for value in sums))


def control_effects(model: AirframeLattice, surfaces: tuple[Surface, ...]) -> ControlEffects:
    """Solve every control of an airframe by itself.

    Parameters
    ----------
    model : AirframeLattice
        Of the same surfaces.
    surfaces : tuple of Surface

    Returns
    -------
    ControlEffects

    Source
    ------
    Products with the inverted lattice: docs/theory.md §7 and §14.
    """
    lattice = model.solver.lattice
    cases = Cases(surfaces, lattice, list(model.owner), list(model.side), model.scale)
    found = [(surface, control) for surface in surfaces for control in surface.controls]
    if not found:
        return ControlEffects({}, {}, {}, {}, {})

    def only(wanted: ControlSurface, *, even: bool) -> tuple[Array, Array]:
        return cases.some(lambda _surface, one: one is wanted, even=even)

    # A control of an upright fin amidships bends no air up or down.
    evens = [(np.zeros_like(lattice.area),) * 2 if is_upright(surface) and in_the_middle(surface) else
             only(control, even=True) for surface, control in found]  # fmt: skip
    odds = [only(control, even=False)[0] for _surface, control in found]
    alike = model.solver.circulation(np.column_stack([wash for wash, _couple in evens]), symmetric=True)
    unlike = model.solver.circulation(np.column_stack(odds), symmetric=False)
    both, apart, lift_yaw, drag, paired = {}, {}, {}, {}, {}
    wings, wakes = (model.found.zero_circulation, model.found.alpha_circulation), lifting.wakes_of(lattice)
    for k, (surface, control) in enumerate(found):
        both[control.id] = lifting.longitudinal(lattice, alike[:, k], model.scale, couples=evens[k][1])
        apart[control.id] = lifting.lateral(lattice, unlike[:, k], model.scale)
        level, steep = (lifting.induced_yaw(lattice, wing, unlike[:, k], model.scale, wakes) for wing in wings)
        lift_yaw[control.id] = level, steep
        paired[control.id] = surface.mirrored
        drag[control.id] = _drag_of(surface, control, model.scale)
    return ControlEffects(both, apart, lift_yaw, drag, paired)


def _drag_of(surface: Surface, control: ControlSurface, scale: lifting.Scale) -> tuple[float, float, float]:
    """Return the chord share of a control, the wing area of one side behind which it stands, and its arm in spans."""
    area = (control.end - control.start) * mean_chord_of(surface) / scale.area
    arm = 0.0 if in_the_middle(surface) and is_upright(surface) else 0.5 * (control.start + control.end) / scale.span
    return mean_share(surface, control), area, arm
