"""How an airframe is going to be built: form, board, papers and spar by purpose, method and size; lighter ways."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import NamedTuple

from ridgeline.design.airframe import SectionForm
from ridgeline.design.brief import Brief
from ridgeline.design.construction import Board, BodyBuild, Covering, Printing, SurfaceBuild, SurfaceForm
from ridgeline.design.shelf import Material
from ridgeline.engine.aero.atmosphere import GRAVITY
from ridgeline.engine.sizing.arrangements import arrangement_of, controls_for
from ridgeline.engine.sizing.forms import DRAWN_USUAL, FORM_WORDS, SECTION_OF
from ridgeline.engine.structure.cases import ULTIMATE
from ridgeline.engine.structure.load_cases import usual_factor
from ridgeline.engine.structure.stock import boom_fields, section_of, spar_of


class Sheet(NamedTuple):
    """A board and its thickness, m."""

    board: Board
    thickness: float


#: Boards by method, from the usual to the lightest (the shipped materials; a test holds them to each other).
SHEETS: dict[str, tuple[Sheet, ...]] = {
    "foam_board": (Sheet(Board(material="Foam board 5 mm", areal=0.300, faced=True), 0.005),),
    "extruded_foam": (
        Sheet(Board(material="Extruded sheet 6 mm", areal=0.210, faced=False), 0.006),
        Sheet(Board(material="Extruded sheet 3 mm", areal=0.105, faced=False), 0.003),
    ),
}
#: Plastics by method, walls from the usual to the thinnest that prints well (the shipped materials).
PRINTS: dict[str, tuple[Printing, ...]] = {
    "printed_foaming": (
        Printing(material="Foaming PLA, as printed", density=575.0, line_width=0.00045),
        Printing(material="Foaming PLA, as printed", density=575.0, line_width=0.00040, ribs=0.08),
    ),
    "printed_plain": (
        Printing(material="PLA", density=1240.0, line_width=0.00045),
        Printing(material="PLA", density=1240.0, line_width=0.00035, ribs=0.08),
    ),
}
#: Thickness of a printed tail plate, m (chosen).
_PRINTED_PLATE = 0.005
#: At and under this ceiling everything is built as light as a slow flyer, kg (second part of the handbook §15.1).
LIGHT = 0.15
#: Extruded sheet of the lighter kind is stiff enough up to here, kg (chosen; the usual micro and slow flyers).
_THIN_SHEET = 0.6
#: Aerobatic plates with a profile body up to here, kg (chosen).
_PLATE_AEROBATIC = 0.3
#: Forms by purpose, from the usual to the lightest (second part of the handbook §15.1).
FORMS: dict[str, tuple[SurfaceForm, ...]] = {
    "slow": ("curved", "plate"),
    "glider": ("ribbed", "folded"),
    "aerobatic": ("ribbed", "plate"),
    "speed": ("ribbed", "plate"),
    "tailless": ("ribbed", "plate"),
}
#: A curved sheet is stiff enough up to this ceiling, kg; beyond it a slow flyer's wing is closed (chosen).
_CURVED_UP_TO = 0.5
_LARGE_SLOW: tuple[SurfaceForm, ...] = ("folded", "curved", "plate")
_FOLDED: tuple[SurfaceForm, ...] = ("folded", "stepped", "plate")
_DRAWN: dict[str, SectionForm] = {"aerobatic": "symmetrical", "speed": "symmetrical", "tailless": "reflexed"}

#: Where half a wing's lift acts, as a share of the half span (an elliptic span load: 4/(3π)).
_LIFT_OUT = 4 / (3 * math.pi)
#: What skins bear of the bending beside the spar, by form, until the Structure computes it (chosen, low).
_SKIN_BEARS = {"folded": 0.4, "folded_under": 0.4, "ribbed": 0.4, "printed": 0.3}


def _rod(name: str, grams_a_metre: float, outer: float, inner: float, strength: float) -> Material:
    """Return a carbon rod or tube of the shipped materials."""
    return Material(
        name=name, kind="length", amount=grams_a_metre, unit="g/m", thickness=outer, inner=inner,
        strength=strength, modulus=120e9,
    )  # fmt: skip


#: Spar and boom stock (the shipped materials; a test holds them to each other).
RODS: tuple[Material, ...] = (
    _rod("Carbon rod 1.5 mm", 2.7, 0.0015, 0.0, 600e6),
    _rod("Carbon rod 2 mm", 4.9, 0.002, 0.0, 600e6),
    _rod("Carbon rod 3 mm", 11.0, 0.003, 0.0, 600e6),
    _rod("Carbon rod 4 mm", 19.5, 0.004, 0.0, 600e6),
    _rod("Carbon tube 6/4 mm", 24.3, 0.006, 0.004, 400e6),
    _rod("Carbon tube 8/6 mm", 34.1, 0.008, 0.006, 400e6),
    _rod("Carbon tube 10/8 mm", 43.8, 0.010, 0.008, 400e6),
    _rod("Carbon tube 12/10 mm", 53.6, 0.012, 0.010, 400e6),
    _rod("Carbon tube 16/14 mm", 73.0, 0.016, 0.014, 400e6),
    _rod("Carbon tube 20/18 mm", 92.5, 0.020, 0.018, 400e6),
)
#: A first spar ends at this share of the panel, and stands where a section is deepest; in a flat one at the quarter
#: chord, where the air does not twist it off (chosen; the Structure solves the end).
_SPAR_END, _SPAR_PLACE, _FLAT_PLACE = 0.8, 0.3, 0.25
_MOST_RODS = 4
#: Tail booms by what hangs on them: rods from this one on, for each kilogram aboard (chosen).
_BOOM_STEP = {0.3: 2, 0.8: 3, 1.5: 4, 3.0: 6}
_BOOM_HEAVY = 7
#: Servos as a share of the aircraft, and of one that must be light (chosen: 9 g for 0.75 kg).
SERVO_SHARE, LIGHT_SERVO_SHARE = 0.012, 0.008
#: Glue beads, kg/m: a thin bead of hot glue (second part of the handbook §15.2).
_BEAD = 0.004


@dataclass(frozen=True)
class Plan:
    """How a design is built: its wing's section and build, that of tail plates and of bodies, and their ``sheet``, m.

    ``steps`` names what was lightened, in the builder's words; ``servo_share`` of the aircraft weighs one servo;
    ``controls`` is the scheme it is built with.
    """

    section: SectionForm
    wing: SurfaceBuild
    tail: SurfaceBuild
    sheet: float
    body: BodyBuild
    servo_share: float
    controls: str
    steps: tuple[str, ...] = ()


class _Ways(NamedTuple):
    """Which of the forms, peeled papers, sheets, servos and channels are taken; each grows as the plan gets lighter."""

    form: int = 0
    peeled: int = 0
    sheet: int = 0
    servos: int = 0
    channels: int = 0


def plans(brief: Brief) -> tuple[Plan, ...]:
    """Return how to build for a brief: the usual way first, then each lighter one, in the order of the trade.

    Parameters
    ----------
    brief : Brief

    Returns
    -------
    tuple of Plan
        Each lighter than the one before, in one respect more.

    Source
    ------
    Choice by purpose and the order of lightening: lighter form, papers off inside, lighter sheet, (the spar is always
    the smallest that bears), smaller servos, fewer channels: second part of the handbook §15.1.
    """
    ways = _usual(brief)
    found = [_plan(brief, ways, ())]
    steps: tuple[str, ...] = ()
    while (better := _lighter(brief, ways)) is not None:
        ways, words = better
        steps = (*steps, words)
        found.append(_plan(brief, ways, steps))
    return tuple(found)


def plan_of(brief: Brief) -> Plan:
    """Return the usual way to build for a brief."""
    return _plan(brief, _usual(brief), ())


def _character(brief: Brief) -> str:
    """Return what the wing's section is chosen by: its purpose, or that nothing but it trims the aircraft."""
    return "tailless" if arrangement_of(brief.layout).family == "tailless" else brief.purpose


def is_light(brief: Brief) -> bool:
    """Tell whether everything is built as light as a slow flyer."""
    return brief.purpose == "slow" or brief.ceiling <= LIGHT


def _forms(brief: Brief) -> tuple[SurfaceForm, ...]:
    """Return the forms a wing may take, from the usual to the lightest."""
    if brief.build_method in PRINTS:
        return ("printed",)
    if brief.purpose == "aerobatic" and brief.ceiling <= _PLATE_AEROBATIC:
        return ("plate",)
    if _character(brief) == "slow" and brief.ceiling > _CURVED_UP_TO:
        return _LARGE_SLOW
    if _character(brief) in FORMS:
        return FORMS[_character(brief)]
    return FORMS["slow"] if is_light(brief) else _FOLDED


def _usual(brief: Brief) -> _Ways:
    thin = brief.build_method == "extruded_foam" and brief.ceiling <= _THIN_SHEET
    faced = brief.build_method == "foam_board"
    return _Ways(peeled=int(faced and is_light(brief)), sheet=int(thin))


_FEWER = {"full_house": "aileron_elevator", "aileron_elevator": "rudder_elevator"}


def _channels(brief: Brief, ways: _Ways) -> str:
    scheme = controls_for(brief.layout, brief.controls)
    for _ in range(ways.channels):
        scheme = _FEWER[scheme]
    return scheme


def _lighter(brief: Brief, ways: _Ways) -> tuple[_Ways, str] | None:
    """Return the next lighter way and what it is called; None when there is none."""
    forms = _forms(brief)
    faced = brief.build_method == "foam_board"
    if ways.form + 1 < len(forms):
        now, lighter = forms[ways.form], forms[ways.form + 1]
        return ways._replace(form=ways.form + 1), f"{FORM_WORDS[lighter]} instead of {FORM_WORDS[now]}"
    if faced and ways.peeled < (2 if is_light(brief) else 1):
        return ways._replace(peeled=ways.peeled + 1), "papers off inside" if ways.peeled == 0 else "both papers off"
    if ways.sheet + 1 < len(_sheets(brief)):
        words = "thinner printed walls" if brief.build_method in PRINTS else "the lighter sheet"
        return ways._replace(sheet=ways.sheet + 1), words
    if ways.servos == 0:
        return ways._replace(servos=1), "smaller servos"
    if "controls" not in brief.typed and _channels(brief, ways) in _FEWER:
        return ways._replace(channels=ways.channels + 1), "fewer channels"
    return None


def _sheets(brief: Brief) -> tuple[object, ...]:
    return PRINTS.get(brief.build_method) or SHEETS[brief.build_method]


def _plan(brief: Brief, ways: _Ways, steps: tuple[str, ...]) -> Plan:
    form = _forms(brief)[ways.form]
    section = SECTION_OF.get(form) or _DRAWN.get(_character(brief), DRAWN_USUAL)
    share = LIGHT_SERVO_SHARE if ways.servos else SERVO_SHARE
    controls = _channels(brief, ways)
    if brief.build_method in PRINTS:
        printing = PRINTS[brief.build_method][ways.sheet]
        shell = SurfaceBuild(form="printed", printing=printing, hinge="printed", bead=_BEAD)
        body = BodyBuild(form="printed", printing=printing, bead=_BEAD)
        return Plan(section, shell, shell, _PRINTED_PLATE, body, share, controls, steps)
    board, thickness = SHEETS[brief.build_method][ways.sheet]
    board = board.model_copy(update={"peeled": ways.peeled})
    light = is_light(brief)
    film = Covering() if ways.peeled == 2 else None
    wing = SurfaceBuild(form=form, board=board, strips=1 if light else 2, covering=film, bead=_BEAD)
    tail = SurfaceBuild(form="plate", board=board, covering=film, bead=_BEAD)
    body = BodyBuild(form="box", board=board, sheet=thickness, bead=_BEAD)
    if brief.purpose == "aerobatic" and brief.ceiling <= _PLATE_AEROBATIC:
        body = body.model_copy(update={"form": "profile"})
    elif light:
        body = body.model_copy(update={"open": "bottom", "doubler": 0.0, "formers": 2})
    return Plan(section, wing, tail, thickness, body, share, controls, steps)


def with_spar(plan: Plan, brief: Brief, mass: float, span: float) -> Plan:
    """Return a plan whose wing has the lightest spar of the stock that bears its purpose's load factor.

    Parameters
    ----------
    plan : Plan
    brief : Brief
        Its purpose says the load factor, its layout how many wings share the lift.
    mass, span : float
        All-up kg, and m.

    Returns
    -------
    Plan

    Source
    ------
    M = 1.5 n (m g/2) · 4/(3π) · b/2 at the root against W σ; W = π(D⁴ − d⁴)/(32 D): docs/theory.md §5.
    """
    factor, wings = usual_factor(brief.purpose), arrangement_of(brief.layout).wings
    half_lift = ULTIMATE * factor * mass * GRAVITY / 2 / wings
    moment = (1 - _SKIN_BEARS.get(plan.wing.form, 0.0)) * half_lift * _LIFT_OUT * span / 2
    able = (
        (count * rod.constant, count, rod)
        for rod in RODS
        for count in range(1, _MOST_RODS + 1)
        if count * section_of(rod).modulus * rod.strength >= moment
    )
    # Where nothing bears, the strongest there is: the Structure will say so.
    _mass, count, rod = min(able, key=lambda row: row[:2], default=(0.0, _MOST_RODS, RODS[-1]))
    place = _FLAT_PLACE if plan.wing.form in ("plate", "curved", "stepped") else _SPAR_PLACE
    spar = spar_of(rod, count=count, place=place, end=_SPAR_END)
    return replace(plan, wing=plan.wing.model_copy(update={"spars": (spar,)}))


def boom_build(mass: float) -> BodyBuild:
    """Return a tail boom of stock for an aircraft of a mass, kg."""
    at = next((k for most, k in _BOOM_STEP.items() if mass <= most), _BOOM_HEAVY)
    rod = RODS[at]
    return BodyBuild(form="stick", **boom_fields(rod))
