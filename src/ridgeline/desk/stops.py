"""The stops of the work and their leaves, one row each: read by trail, window, command line and pictures.

No Qt is imported here, and no sheet before it is first opened.
"""

from __future__ import annotations

from collections.abc import Callable
from importlib import import_module
from typing import TYPE_CHECKING, Any, NamedTuple

from ridgeline.engine.advice.cautions import CAUTIONS
from ridgeline.units import shown, with_unit

if TYPE_CHECKING:
    from ridgeline.desk.store import Store

_SHEETS = "ridgeline.desk.sheets."


class Leaf(NamedTuple):
    """One sheet of a stop: its key, the word it is turned by, and the module and class that draw it."""

    key: str
    word: str
    module: str
    sheet: str

    def make(self, parent: Any, store: Store) -> Any:
        """Build the sheet; its module is imported here, so that the window opens with only one."""
        return getattr(import_module(_SHEETS + self.module), self.sheet)(parent, store)


class Stop(NamedTuple):
    """One stop of the trail: its leaves, the first of which has its key (none: not built yet), and its headline."""

    key: str
    name: str
    leaves: tuple[Leaf, ...] = ()
    headline: Callable[[Store], str] | None = None

    @property
    def alive(self) -> bool:
        """Whether there is a sheet to open."""
        return bool(self.leaves)

    @property
    def caution(self) -> str | None:
        """What to take care of there, if anything."""
        return CAUTIONS.get(self.key)


def _say(store: Store, key: str, decimals: int | None = None) -> str:
    found = store.report.figures[key]
    return "–" if found.value is None else with_unit(found.value, found.quantity, store.units, decimals)


def _ceiling(store: Store) -> str:
    return f"ceiling {with_unit(store.design.brief.ceiling, 'mass', store.units)}"


def _area_and_tail(store: Store) -> str:
    roles = {surface.role for surface in store.design.surfaces}
    tail = "V-tail" if "v_tail" in roles else ("foreplane" if "foreplane" in roles else "tail")
    kind = tail if roles & {"v_tail", "stabiliser", "foreplane"} else "tailless"
    return f"{_say(store, 'wing.area')}, {kind}"


def _of_ceiling(store: Store) -> str:
    auw = store.report.value("mass.auw")
    now = "–" if auw is None else shown(auw, "mass", store.units)
    return f"{now} of {with_unit(store.design.brief.ceiling, 'mass', store.units)}"


def _balance(store: Store) -> str:
    return f"{_say(store, 'balance.cg_fraction', 0)}, margin {_say(store, 'stability.static_margin', 0)}"


def _thrust(store: Store) -> str:
    if store.design.power is None:
        return f"glides {_say(store, 'glide.ratio')} to 1"
    return f"thrust {_say(store, 'power.thrust_ratio')}, {_say(store, 'power.static_current')}"


def _bears(store: Store) -> str:
    share, factor = store.report.value("structure.wing_share"), store.report.value("structure.load_factor")
    if share is None or factor is None:
        return "not known"
    bears = with_unit(factor / max(share, 1e-6), "factor", store.units)
    return f"bears {bears} of {shown(factor, 'factor', store.units)}"


def _moved(store: Store) -> str:
    found = store.report.results.linking
    if not found.rows:
        return "not linked yet" if found.bare else "no controls"
    worst = max((row.share or 0.0 for row in found.rows), default=0.0)
    return f"servos at {with_unit(worst, 'fraction', store.units, 0)}"


def _cut(store: Store) -> str:
    # Imported when it is asked: the pieces' engine is not needed to open a window.
    from ridgeline.engine.build.whole import pieces_of_design

    many = sum(piece.pieces for piece in pieces_of_design(store.design) if piece.flat)
    if many:
        return f"{many} pieces of board"
    parts: list[Any] = [*store.design.surfaces, *store.design.bodies]
    return "printed, no board" if any(one.built and one.built.form == "printed" for one in parts) else "nothing to cut"


def _flown(store: Store) -> str:
    many = len(store.design.flights)
    if not many:
        return "not flown yet"
    return (
        f"{many} flown" if store.report.value("log.minutes") is None else f"{many} flown, {_say(store, 'log.minutes')}"
    )


STOPS: tuple[Stop, ...] = (
    Stop("brief", "Brief", (Leaf("brief", "Wishes", "brief.wishes", "BriefSheet"),), _ceiling),
    Stop(
        "shape",
        "Shape",
        (
            Leaf("shape", "Views", "shape.views", "ShapeSheet"),
            Leaf("shape.solid", "Solid", "shape.solid", "ShapeSolidSheet"),
            Leaf("shape.planform", "Planform", "shape.planform", "ShapePlanformSheet"),
            Leaf("shape.body", "Body", "shape.body", "ShapeBodySheet"),
            Leaf("shape.section", "Sections", "shape.sections", "ShapeSectionSheet"),
            Leaf("shape.trim", "Trim", "shape.trim", "ShapeTrimSheet"),
            Leaf("shape.control", "Control", "shape.control", "ShapeControlSheet"),
            Leaf("shape.scale", "Scale", "shape.scaling", "ShapeScalingSheet"),
            Leaf("shape.start", "Start", "shape.start", "ShapeStartSheet"),
        ),
        _area_and_tail,
    ),
    Stop(
        "weights",
        "Weights",
        (
            Leaf("weights", "Budget", "weights.aboard", "WeightsSheet"),
            Leaf("weights.save", "Save", "weights.save", "WeightsSaveSheet"),
            Leaf("weights.weigh", "Weigh", "weights.weigh", "WeightsWeighSheet"),
            Leaf("weights.finish", "Finish", "weights.finish", "WeightsFinishSheet"),
            Leaf("weights.sets", "Sets", "weights.sets", "WeightsSetsSheet"),
        ),
        _of_ceiling,
    ),
    Stop(
        "balance",
        "Balance",
        (
            Leaf("balance", "Chord", "balance.chord", "BalanceSheet"),
            Leaf("balance.packs", "Packs", "balance.packs", "BalancePacksSheet"),
            Leaf("balance.levers", "Levers", "balance.levers", "BalanceLeversSheet"),
        ),
        _balance,
    ),
    Stop(
        "power",
        "Power",
        (
            Leaf("power", "Chain", "power.chain", "PowerSheet"),
            Leaf("power.match", "Match", "power.match", "PowerMatchSheet"),
            Leaf("power.flight", "Flight", "power.flight", "PowerFlightSheet"),
            Leaf("power.drag", "Drag", "power.dragging", "PowerDragSheet"),
            Leaf("power.wash", "Wash", "power.wash", "PowerWashSheet"),
            Leaf("power.bench", "Bench", "power.bench", "PowerBenchSheet"),
            Leaf("power.bin", "Bin", "power.bin", "PowerBinSheet"),
        ),
        _thrust,
    ),
    Stop(
        "controls",
        "Controls",
        (
            Leaf("controls", "Linkage", "controls.linkage", "ControlsLinkageSheet"),
            Leaf("controls.radio", "Radio", "controls.radio", "ControlsRadioSheet"),
            Leaf("controls.harness", "Harness", "controls.harness", "ControlsHarnessSheet"),
        ),
        _moved,
    ),
    Stop(
        "structure",
        "Structure",
        (
            Leaf("structure", "Wing", "structure.wing", "StructureWingSheet"),
            Leaf("structure.twist", "Twist", "structure.twist", "StructureTwistSheet"),
            Leaf("structure.joints", "Joints", "structure.joints", "StructureJointsSheet"),
            Leaf("structure.stock", "Stock", "structure.stock", "StructureStockSheet"),
        ),
        _bears,
    ),
    Stop(
        "templates",
        "Templates",
        (
            Leaf("templates", "Sheets", "templates.on_sheets", "TemplatesSheet"),
            Leaf("templates.prints", "Prints", "templates.prints", "TemplatesPrintsSheet"),
            Leaf("templates.lists", "Lists", "templates.lists", "TemplatesListsSheet"),
        ),
        _cut,
    ),
    Stop(
        "flights",
        "Flights",
        (
            Leaf("flights", "Log", "flights.log", "FlightsSheet"),
            Leaf("flights.throw", "First throw", "flights.throw", "FlightsThrowSheet"),
            Leaf("flights.setup", "Setup", "flights.setup", "FlightsSetupSheet"),
            Leaf("flights.built", "As built", "flights.built", "FlightsBuiltSheet"),
            Leaf("flights.causes", "Causes", "flights.causes", "FlightsCausesSheet"),
            Leaf("flights.record", "Record", "flights.record", "FlightsRecordSheet"),
            Leaf("flights.versions", "Versions", "flights.versions", "FlightsVersionsSheet"),
        ),
        _flown,
    ),
)
STOP: dict[str, Stop] = {stop.key: stop for stop in STOPS}
LEAVES: dict[str, Leaf] = {leaf.key: leaf for stop in STOPS for leaf in stop.leaves}
_STOP_OF: dict[str, Stop] = {leaf.key: stop for stop in STOPS for leaf in stop.leaves}


def stop_of(key: str) -> Stop:
    """Return the stop a leaf belongs to."""
    return _STOP_OF[key]


def headline(store: Store, stop: Stop) -> str:
    """Return the one figure a stop is known by."""
    if stop.headline is None:
        return "not yet"
    if stop.key != "brief" and not store.design.surfaces:
        return "not laid out"
    return stop.headline(store)
