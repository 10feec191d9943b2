"""The stages of an evaluation: each turns part of the document into results and registered figures."""

from ridgeline.engine.stages.balancing import balance
from ridgeline.engine.stages.bearing import bearing
from ridgeline.engine.stages.clearances import clearances
from ridgeline.engine.stages.clearing import clearing
from ridgeline.engine.stages.common import Last, Outcome
from ridgeline.engine.stages.dragging import drag_list, polar
from ridgeline.engine.stages.fastening import fastened
from ridgeline.engine.stages.flaps import flaps
from ridgeline.engine.stages.flexing import beams, bracing, flexed, spread
from ridgeline.engine.stages.flying import flight, pulling
from ridgeline.engine.stages.gliding import gliding
from ridgeline.engine.stages.handling import handling
from ridgeline.engine.stages.harnessing import feeding, harnessing
from ridgeline.engine.stages.linking import Followed, linking, moving
from ridgeline.engine.stages.logged import LogRows, logged
from ridgeline.engine.stages.masses import extents, followed, loading, masses, rooms, seats
from ridgeline.engine.stages.motions import motions
from ridgeline.engine.stages.resting import resting
from ridgeline.engine.stages.running import flown_trim, running
from ridgeline.engine.stages.shape import air, bodies, shape
from ridgeline.engine.stages.sideslip import sideslip
from ridgeline.engine.stages.speeds import speeds
from ridgeline.engine.stages.splicing import splices
from ridgeline.engine.stages.stability import lattice, stability
from ridgeline.engine.stages.standing import standing, thrust_ratio
from ridgeline.engine.stages.steering import steering
from ridgeline.engine.stages.stick_angles import throws
from ridgeline.engine.stages.sticking import effects, sticking
from ridgeline.engine.stages.supplying import supplying
from ridgeline.engine.stages.thrust_turning import thrust_turning
from ridgeline.engine.stages.thrusting import thrusting
from ridgeline.engine.stages.trimming import trimmed
from ridgeline.engine.stages.twisting import twisting
from ridgeline.engine.stages.washing import washing

__all__ = [
    "Followed",
    "Last",
    "LogRows",
    "Outcome",
    "air",
    "balance",
    "beams",
    "bearing",
    "bodies",
    "bracing",
    "clearances",
    "clearing",
    "drag_list",
    "effects",
    "extents",
    "fastened",
    "feeding",
    "flaps",
    "flexed",
    "flight",
    "flown_trim",
    "followed",
    "gliding",
    "handling",
    "harnessing",
    "lattice",
    "linking",
    "loading",
    "logged",
    "masses",
    "motions",
    "moving",
    "polar",
    "pulling",
    "resting",
    "rooms",
    "running",
    "seats",
    "shape",
    "sideslip",
    "speeds",
    "splices",
    "spread",
    "stability",
    "standing",
    "steering",
    "sticking",
    "supplying",
    "throws",
    "thrust_ratio",
    "thrust_turning",
    "thrusting",
    "trimmed",
    "twisting",
    "washing",
]
