"""Judge a report: the wanted range of each figure, and the findings of every stop in turn."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from functools import partial
from types import ModuleType

from ridgeline.design.document import Design
from ridgeline.design.paths import apply
from ridgeline.engine.advice import (
    as_built_rules,
    balance_rules,
    banking_rules,
    brief_rules,
    clearing_rules,
    control_rules,
    glide_rules,
    gyro_rules,
    harness_rules,
    joint_rules,
    line_rules,
    linkage_rules,
    log_rules,
    motion_rules,
    power_rules,
    rate_rules,
    setup_rules,
    shape_rules,
    sighting_rules,
    stick_rules,
    structure_rules,
    supply_rules,
    template_rules,
    throw_rules,
    transport_rules,
    trim_rules,
    turning_rules,
    twist_rules,
    walk_rules,
    weight_rules,
    wish_rules,
)
from ridgeline.engine.figures import Figure
from ridgeline.engine.power.ratings import ratings
from ridgeline.engine.report import Finding, Remedy, Report, Wanted
from ridgeline.engine.results import Results
from ridgeline.engine.sizing.purposes import FOREPLANE_MARGIN, PURPOSES, loading_range
from ridgeline.errors import DesignError

#: The rules of every stop after the Brief, in the order of the trail; what became of the wishes hurts nobody, so last.
_STOPS: tuple[ModuleType, ...] = (
    *(weight_rules, shape_rules, trim_rules, control_rules, banking_rules, motion_rules, balance_rules),
    *(
        power_rules,
        glide_rules,
        supply_rules,
        turning_rules,
        structure_rules,
        twist_rules,
        joint_rules,
        template_rules,
        linkage_rules,
        line_rules,
        clearing_rules,
        stick_rules,
        rate_rules,
        gyro_rules,
        walk_rules,
        harness_rules,
        wish_rules,
        setup_rules,
        as_built_rules,
        log_rules,
        sighting_rules,
        throw_rules,
        transport_rules,
    ),
)


def wanted_ranges(design: Design, figures: Mapping[str, Figure], results: Results) -> dict[str, Wanted]:
    """Return the wanted range of figures that have one; None is an open end."""
    brief = design.brief
    values = PURPOSES[brief.purpose]
    wanted: dict[str, Wanted] = {
        "mass.auw": (None, brief.ceiling),
        "wing.loading": loading_range(brief.purpose, figures["mass.auw"].value or brief.ceiling),
        "wing.aspect_ratio": values.aspect_ratio,
        "speed.stall": (None, brief.stall_speed),
        "stability.static_margin": values.static_margin,
        "power.thrust_ratio": values.thrust_ratio,
        "flight.endurance": (brief.endurance, None),
        "flight.climb_rate": (brief.climb_rate, None),
        "tail.volume_v": values.volume_v,
    }
    roles = [surface.role for surface in design.surfaces]
    if roles.count("wing") > 1:
        # Span squared over the area of all wings says nothing about any one of them.
        del wanted["wing.aspect_ratio"]
    if "foreplane" in roles and not {"stabiliser", "v_tail"} & set(roles):
        wanted["stability.static_margin"] = FOREPLANE_MARGIN
    elif values.volume_h[1] > 0:
        wanted["tail.volume_h"] = values.volume_h
    if design.power is not None:
        held = ratings(design.power)
        wanted["power.static_current"] = (None, min(design.power.motors * held.esc_current, held.pack_current))
    wanted.update(control_rules.wanted(results.handling))
    wanted.update(banking_rules.wanted(brief, results.handling))
    if results.targets is not None:
        wanted["balance.cg_fraction"] = results.targets.settled
    return wanted


def judge(design: Design, report: Report) -> list[Finding]:
    """Return every finding, in the order of the stops."""
    findings: list[Finding] = list(brief_rules.findings(design.brief, *brief_rules.known_of(report)))
    if design.surfaces:
        for rules in _STOPS:
            findings.extend(rules.findings(design, report))
    accepted = partial(_accepted, design)
    return [replace(finding, accepted=accepted) if finding.ways else finding for finding in findings]


def _accepted(design: Design, remedy: Remedy) -> bool:
    try:
        apply(design, remedy.changes)
    except DesignError:
        return False
    return True
