"""Flights of an aircraft that is off by something known, as the simulation trims and flies it, written into a log."""

from __future__ import annotations

import math

import numpy as np

from ridgeline.design.as_built import Levelled
from ridgeline.design.flights import Flight, SpeedPass
from ridgeline.engine.flight.observed import UNKNOWNS, observables
from ridgeline.engine.geometry.placed import placed_at

#: What is planted: unknowns, each slipped by three of its one-sigma errors.
PLANTED = ("balance", "tail", "thrust", "mass", "drag", "washout", "wing")
#: One sigma of what the pilot reads: angles rad, and shares.
READ, SHARE = math.radians(0.3), 0.05


def built(model, name, rng, *, slip=3.0):
    """Return what a build is off by: everything as likely as it is, and one thing slipped."""
    off = {one: np.array([sigma * rng.normal()]) for one, sigma in zip(UNKNOWNS, model.sigmas, strict=True)}
    if name is not None:
        sigma = model.sigmas[UNKNOWNS.index(name)]
        off[name] = np.array([sigma * slip * rng.choice([-1.0, 1.0])])
    return off


def levelled(design, off, rng, *, sigma=0.0005):
    """Return heights on the bench of a build that is off: root and tip of wing and tail, either side."""

    def of(name):
        return float(off[name][0])

    rows = []
    for surface in design.surfaces:
        if surface.role not in ("wing", "stabiliser", "v_tail"):
            continue
        first, last = surface.stations[0].y, surface.stations[-1].y
        for out in (0.1 * (last - first), 0.9 * (last - first)):
            here = placed_at(surface, np.array([first + out]))
            lead, trail, chord = here.leading[0], here.trailing[0], float(here.chord[0])
            for hand, side in ((1, "starboard"), (-1, "port")):
                share = (first + out) / last
                wing = of("wing") + share * (hand * of("warp") - of("washout"))
                angle = wing if surface.role == "wing" else of("tail")
                noise = sigma * rng.normal(size=2)
                rows.append(Levelled(of=surface.id, side=side, out=out, leading=0.2 + float(lead[2]) + noise[0],
                                     trailing=0.2 + float(trail[2]) - chord * math.tan(angle) + noise[1]))  # fmt: skip
    return design.as_built.model_copy(update={"levelled": tuple(rows)})


def logged(design, report, model, off, rng, *, version=1):
    """Return a flight of a build that is off, as its pilot would write it down."""
    true = {name: float(row[0]) for name, row in observables(design, report, model.launch, off).items()}
    plain = model.values

    def away(name):
        return true[name] - plain[name]

    def angle(name, sigma=READ):
        return None if name not in true else true[name] + sigma * rng.normal()

    def share(figure, name, sigma=SHARE):
        value = None if figure is None else report.value(figure)
        return None if value is None or name not in true else value * math.exp(away(name) + sigma * rng.normal())

    trim, told = report.value("trim.elevator"), {}
    if trim is not None and "trim_pitch" in true:
        told["trim_pitch"] = -trim + away("trim_pitch") + READ * rng.normal()
    speed, current = share("speed.max", "top_speed", 0.02), share("flight.mean_current", "mean_current", 0.08)
    if speed is not None:
        told["passes"] = tuple(SpeedPass(way=way, speed=speed) for way in ("up", "down"))
    if current is not None and design.power is not None:
        told |= {"aloft": 360.0, "put_back_ah": min(current * 0.1, design.power.capacity_ah)}
        told |= {"cells": design.power.pack.cells, "capacity_ah": design.power.capacity_ah}
    state = report.results.masses.state
    return Flight(
        id="f1", version=version, wind=0.0,
        mass=report.value("mass.auw") + away("mass") + 0.001 * rng.normal(),
        balance=float(state.cg[0]) + away("balance") + 0.0015 * rng.normal(),
        trim_power=angle("trim_power", math.radians(0.4)), trim_roll=angle("trim_roll", math.radians(0.4)),
        glide_ratio=share("glide.ratio", "glide_ratio", 0.12), rpm=share("power.static_rpm", "rpm", 0.02),
        roll_seconds=None if "roll_seconds" not in true else math.exp(true["roll_seconds"] + 0.12 * rng.normal()),
        **told,
    )  # fmt: skip
