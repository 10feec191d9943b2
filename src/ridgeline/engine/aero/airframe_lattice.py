"""The lattice of a whole airframe of the document, solved once per shape: the basis of stability, trim and stall."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import ControlSurface, Surface
from ridgeline.design.axes import is_upright
from ridgeline.design.hinges import hinge_share
from ridgeline.engine.aero import lifting, washes
from ridgeline.engine.aero.derivatives import Derivatives, derivatives
from ridgeline.engine.aero.flap import flap_effectiveness, flap_lift_arm
from ridgeline.engine.aero.lattice import Lattice, Sheet, Solver, build
from ridgeline.engine.aero.neutral_point import TAIL_PRESSURE_RATIO
from ridgeline.engine.aero.sections import SLOPE_FACTOR, section_of
from ridgeline.engine.geometry.placed import in_the_middle, tip_angles, warped
from ridgeline.engine.geometry.reference import TAILS, WINGS, Reference

Array = NDArray[np.float64]
ALONG, ACROSS, LEAST_ACROSS = 4, 14, 6
#: Strips in all. Every gap between stations takes two: past this the answer takes seconds and gigabytes.
MOST_STRIPS = 200
#: Which kinds of control pitch, roll, yaw and flap the aircraft.
PITCH_CONTROLS = ("elevator", "ruddervator", "elevon")
ROLL_CONTROLS = ("aileron", "elevon", "flaperon")
YAW_CONTROLS = ("rudder", "ruddervator")
FLAP_CONTROLS = ("flap", "flaperon")


@dataclass(frozen=True)
class AirframeLattice:
    """A solved airframe about the quarter chord of its reference wing.

    ``pitch_control`` and ``flap`` are one radian of those controls, trailing edges down on both sides;
    ``roll_control`` one radian starboard up and port down, ``yaw_control`` one radian that turns the nose to
    starboard; None without such a control. ``wing_angle`` and ``tail_angle`` are one radian of incidence of all wings
    and of all tails (or foreplanes), ``dihedral`` what one radian more of it adds to a sideslip of one radian,
    ``warp`` the measured unlike twist of the two sides. ``pitch_wash`` and ``flap_wash`` are the angles those controls
    are worth on each panel. ``owner`` and ``side`` name the surface of each sheet and
    whether it stands to starboard (1), port (−1) or is its own image (0). ``induced_k`` is C_Di/C_L² of the
    angle-of-attack loading. ``skipped`` counts the stations the lattice does not follow, since there are too many.
    """

    solver: Solver
    scale: lifting.Scale
    found: Derivatives
    owner: tuple[int, ...]
    side: tuple[int, ...]
    roles: tuple[str, ...]
    pitch_control: lifting.Longitudinal | None
    pitch_circulation: Array | None
    pitch_wash: Array
    flap: lifting.Longitudinal | None
    flap_circulation: Array | None
    flap_wash: Array
    roll_control: lifting.Lateral | None
    roll_circulation: Array | None
    yaw_control: lifting.Lateral | None
    wing_angle: lifting.Longitudinal
    tail_angle: lifting.Longitudinal | None
    dihedral: lifting.Lateral
    warp: lifting.Lateral | None
    induced_k: float
    skipped: int

    @property
    def neutral_fraction(self) -> float:
        """Neutral point of the surfaces, without bodies, as a fraction of the mean chord."""
        return 0.25 - self.found.alpha.pitch / self.found.alpha.lift

    @property
    def strip_owner(self) -> NDArray[np.int64]:
        """Surface of each strip, shape (s,)."""
        lattice = self.solver.lattice
        first = np.unique(lattice.strip, return_index=True)[1]
        return np.array(self.owner)[lattice.sheet[first]]

    def loading(self, alpha: float) -> lifting.SpanLoading:
        """Return the span loading at a body angle of attack, rad."""
        circulation = self.found.zero_circulation + alpha * self.found.alpha_circulation
        return lifting.span_loading(self.solver.lattice, circulation)


def is_lopsided(surface: Surface) -> bool:
    """Tell whether a lone surface makes the airframe unlike on its two sides: anything but an upright one amidships."""
    return not surface.mirrored and not in_the_middle(surface)


def _sheet(surface: Surface, index: int, *, split: bool = False, port: bool = False) -> Sheet:
    shape = section_of(surface)
    starboard_warp, port_warp = tip_angles(surface)
    # Both sides alike: their mean; a side of its own: that side's.
    here = warped(surface, 0.5 * (starboard_warp + port_warp) if surface.mirrored else starboard_warp)
    return Sheet(
        here.leading,
        here.chord,
        # An upright fin is set straight: its incidence would be a rudder trim.
        here.angle if is_upright(surface) else here.angle - shape.alpha_0,
        surface.mirrored and not split,
        shape.cm_quarter * SLOPE_FACTOR,
        TAIL_PRESSURE_RATIO if surface.role in (*TAILS, "fin") else 1.0,
        port,
        is_lopsided(surface),
        index,
        SLOPE_FACTOR,
    )


def _sheets(surfaces: tuple[Surface, ...]) -> tuple[list[Sheet], list[int], list[int]]:
    """Return the sheets with their surfaces and sides; an unlike airframe is panelled on both sides."""
    split = any(is_lopsided(s) for s in surfaces)
    sheets, owner, side = [], [], []
    for index, surface in enumerate(surfaces):
        for hand in (1, -1) if split and surface.mirrored else (1 if is_lopsided(surface) else 0,):
            sheets.append(_sheet(surface, index, split=split, port=hand < 0))
            owner.append(index)
            side.append(hand if split else 0)
    return sheets, owner, side


class Cases:
    """Builds the washes of controls and incidences over the panels of all surfaces."""

    def __init__(
        self, surfaces: tuple[Surface, ...], lattice: Lattice, owner: list[int], side: list[int], scale: lifting.Scale
    ) -> None:
        self.surfaces, self.lattice, self.scale = surfaces, lattice, scale
        self.owner, self.side = owner, side

    def controls(self, kinds: tuple[str, ...], *, even: bool, sign: float = 1.0) -> tuple[Array, Array]:
        """Return wash and couple of one radian of some kinds of control."""
        # A rudder works on a fin alone, and nothing else does there.
        return self.some(
            lambda surface, one: one.kind in kinds and (surface.role == "fin") == (one.kind == "rudder"),
            even=even,
            sign=sign,
        )

    def some(
        self, chosen: Callable[[Surface, ControlSurface], bool], *, even: bool, sign: float = 1.0
    ) -> tuple[Array, Array]:
        """Return wash and couple of one radian of the controls that are chosen, trailing edge down."""
        wash, couple = np.zeros(len(self.lattice.area)), np.zeros(len(self.lattice.area))
        for sheet, index in enumerate(self.owner):
            surface = self.surfaces[index]
            hand = -1.0 if not even and self.side[sheet] < 0 else 1.0
            for control in surface.controls:
                if not chosen(surface, control):
                    continue
                # At each strip its own share: a strip of one width is a larger part of a shorter chord.
                middle = 0.5 * (self.lattice.inner + self.lattice.outer)
                share = hinge_share(surface, control, np.clip(middle, control.start, control.end))
                effect = sign * hand * flap_effectiveness(share)
                here = washes.wash_of_control(self.lattice, sheet, control.start, control.end, effect)
                wash += here
                # The lift of a flap acts behind the quarter chord by its thin-airfoil arm.
                couple -= SLOPE_FACTOR * 2 * math.pi * here * flap_lift_arm(share)
        return wash, couple

    def incidence(self, roles: tuple[str, ...]) -> Array:
        """Return the wash of one radian of incidence of every surface of some roles that is not upright."""
        wash = np.zeros(len(self.lattice.area))
        for sheet, index in enumerate(self.owner):
            if self.surfaces[index].role in roles and not is_upright(self.surfaces[index]):
                wash[self.lattice.sheet == sheet] = 1.0
        return wash

    def handed(self, roles: tuple[str, ...]) -> Array:
        """Return a one on starboard panels of some roles and minus one on port ones, as an odd case has it."""
        wash = self.incidence(roles)
        for sheet, hand in enumerate(self.side):
            if hand < 0:
                wash[self.lattice.sheet == sheet] *= -1
        return wash

    def unlike_warp(self) -> Array:
        """Return the wash of the measured warps: half their difference, growing in proportion to the distance out."""
        wash = np.zeros(len(self.lattice.area))
        for sheet, index in enumerate(self.owner):
            surface = self.surfaces[index]
            if not surface.mirrored:
                continue
            starboard, port = tip_angles(surface)
            mine = self.lattice.sheet == sheet
            reach = float(self.lattice.outer[mine].max())
            hand = -1.0 if self.side[sheet] < 0 else 1.0
            wash += np.where(mine, hand * 0.5 * (starboard - port) * self.lattice.out / reach, 0.0)
        return wash


def roll_power(model: AirframeLattice, surfaces: tuple[Surface, ...]) -> float:
    """Return roll per radian of roll control, for other controls on the same panels, 1/rad.

    Parameters
    ----------
    model : AirframeLattice
    surfaces : tuple of Surface
        With the controls to judge.

    Returns
    -------
    float
        1/rad.
    """
    lattice = model.solver.lattice
    cases = Cases(surfaces, lattice, list(model.owner), list(model.side), model.scale)
    wash, _couple = cases.controls(ROLL_CONTROLS, even=False, sign=-1.0)
    return lifting.lateral(lattice, model.solver.circulation(wash, symmetric=False), model.scale).roll


def _within(sheets: list[Sheet], counts: list[int]) -> tuple[list[Sheet], list[int], int]:
    """Keep the strips in all within bounds: sheets of very many stations follow an even choice of them.

    Returns the sheets, their strips, and how many stations are skipped.
    """
    needs = [max(count, 2 * (len(sheet.chord) - 1)) for sheet, count in zip(sheets, counts, strict=True)]
    total = sum(needs)
    if total <= MOST_STRIPS:
        return sheets, counts, 0
    fewer, skipped = [], 0
    shares = [max(MOST_STRIPS * need // total, 2) for need in needs]
    for sheet, share in zip(sheets, shares, strict=True):
        last = len(sheet.chord) - 1
        kept = np.unique(np.round(np.linspace(0, last, min(share // 2, last) + 1)).astype(int))
        skipped += last + 1 - len(kept)
        fewer.append(replace(sheet, leading=sheet.leading[kept], chord=sheet.chord[kept], angle=sheet.angle[kept]))
    return fewer, [min(count, share) for count, share in zip(counts, shares, strict=True)], skipped


def solve_airframe(surfaces: tuple[Surface, ...], reference: Reference) -> AirframeLattice:
    """Panel and solve an airframe.

    Parameters
    ----------
    surfaces : tuple of Surface
        At least one wing among them.
    reference : Reference
        What the coefficients refer to.

    Raises
    ------
    numpy.linalg.LinAlgError
        When surfaces coincide, so that no lattice solution exists.
    """
    sheets, owner, side = _sheets(surfaces)
    # Surfaces are panelled one by one, so that each gets strips by its own size.
    half = max(s.stations[-1].y for s in surfaces)
    counts = [
        max(LEAST_ACROSS, round((2 if is_lopsided(surfaces[k]) else 1) * ACROSS * surfaces[k].stations[-1].y / half))
        for k in owner
    ]
    sheets, counts, skipped = _within(sheets, counts)
    solver = Solver(build(sheets, ALONG, counts))
    lattice = solver.lattice
    centre = np.array([reference.at(0.25), 0.0, reference.z])
    scale = lifting.Scale(reference.area, reference.span, reference.mac, centre)
    found = derivatives(solver, scale)
    cases = Cases(surfaces, lattice, owner, side, scale)
    pitch, flap = cases.controls(PITCH_CONTROLS, even=True), cases.controls(FLAP_CONTROLS, even=True)
    wing, tail = cases.incidence(WINGS), cases.incidence(TAILS)
    tail = tail if tail.any() else cases.incidence(("foreplane",))
    even = solver.circulation(np.column_stack([pitch[0], flap[0], wing, tail]), symmetric=True)
    # Starboard up turns starboard down: minus the trailing-edge-down sense there.
    roll, _ = cases.controls(ROLL_CONTROLS, even=False, sign=-1.0)
    yaw, _ = cases.controls(YAW_CONTROLS, even=False)
    warp = cases.unlike_warp()
    odd = solver.circulation(np.column_stack([roll, yaw, cases.handed(WINGS), warp]), symmetric=False)

    def along(case: int, wash: Array, couple: Array | None = None) -> lifting.Longitudinal | None:
        return lifting.longitudinal(lattice, even[:, case], scale, couples=couple) if wash.any() else None

    def across(case: int, wash: Array) -> lifting.Lateral | None:
        return lifting.lateral(lattice, odd[:, case], scale) if wash.any() else None

    lift = found.alpha.lift
    drag = lifting.induced_drag(lattice, found.alpha_circulation, reference.area)
    # The smeared wakes of surfaces close together are a shade too kind: no better than the best there can be.
    least = 1 / (math.pi * reference.aspect_ratio * lifting.best_efficiency(lattice, reference.span))
    return AirframeLattice(
        solver,
        scale,
        found,
        tuple(owner),
        tuple(side),
        tuple(surfaces[k].role for k in owner),
        along(0, *pitch),
        even[:, 0] if pitch[0].any() else None,
        pitch[0],
        along(1, *flap),
        even[:, 1] if flap[0].any() else None,
        flap[0],
        across(0, roll),
        odd[:, 0] if roll.any() else None,
        across(1, yaw),
        lifting.longitudinal(lattice, even[:, 2], scale),
        along(3, tail),
        lifting.lateral(lattice, odd[:, 2], scale),
        across(3, warp),
        max(drag / lift**2, least) if lift > 0 else math.nan,
        skipped,
    )
