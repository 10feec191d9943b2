"""The points of general bench practice that the power model is held to: motors of their class, at the bench's volts."""

import csv
from dataclasses import replace
from pathlib import Path

from ridgeline.design.power import Motor, Pack, PowerTrain, Propeller, SpeedController
from ridgeline.engine.power import classes
from ridgeline.engine.power.chain import chain
from ridgeline.engine.power.operating_point import solve
from ridgeline.engine.power.scatter import scatter_of, widened_past_mach

AIR, INCH, GRAM_FORCE = 1.225, 0.0254, 9.80665e-3
#: What a controller is rated over the current it carries: the usual headroom.
HEADROOM = 1.25


def points():
    """Return the rows of the table as dictionaries of numbers, and the family."""
    lines = (Path(__file__).parent / "bench_points.csv").read_text(encoding="utf-8").splitlines()
    rows = csv.DictReader(line for line in lines if not line.startswith("#"))
    return [{name: text if name == "family" else float(text) for name, text in row.items()} for row in rows]


def train(row):
    """Return a train of the class: the library's laws for all that the table does not tell."""
    kv, mass = row["kv_rpm_per_v"], row["mass_g"] / 1000
    rating = HEADROOM * row["current_a"]
    return PowerTrain(
        motor=Motor(
            name="Class motor",
            kv_rpm_per_v=kv,
            resistance=classes.winding(kv, mass),
            no_load_current=classes.idle_current(kv, mass),
            mass=mass,
            max_current=200.0,
        ),
        esc=SpeedController(
            name="Class ESC", max_current=rating, resistance=classes.controller_resistance(rating), mass=0.02
        ),
        pack=Pack(name="Bench supply", cells=3, capacity_ah=5.0, cell_resistance=0.001, mass=0.3),
        propeller=Propeller(
            name="Class propeller",
            family=row["family"],
            diameter=row["diameter_in"] * INCH,
            pitch=row["pitch_in"] * INCH,
            blades=int(row["blades"]),
            mass=0.01,
        ),
    )


def told(row):
    """Return ((thrust g, its sigma), (current A, its sigma)) of the model at the bench's volts."""
    power = train(row)
    link = replace(chain(power), open_circuit=row["volts"], pack_resistance=0.0, lead_resistance=0.0)
    point = solve(link, 1.0, 0.0, AIR)
    scatter = scatter_of(power, widened_past_mach(link, float(point.omega)))
    moved = solve(scatter.moved(link), 1.0, 0.0, AIR)
    thrust = float(point.thrust) / GRAM_FORCE, float(scatter.sigma(moved.thrust)) / GRAM_FORCE
    return thrust, (float(point.motor_current), float(scatter.sigma(moved.motor_current)))
