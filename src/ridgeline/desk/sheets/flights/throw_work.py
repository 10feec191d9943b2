"""Throws flown aside for the sheet: the plan with its ghosts after every edit, and the odds when they are asked for."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal

from ridgeline.design.document import Design
from ridgeline.desk.store import Store
from ridgeline.desk.working_aside import Aside, Ask
from ridgeline.engine.flight.odds import BUILDS, Odds, odds_of
from ridgeline.engine.flight.scenes import Scene, SceneKey, fly_scene, scenes_of
from ridgeline.engine.flight.throwing import Launching, Thrown, launch_of

#: A throw is flown when nothing has been edited for so long, ms.
_QUIET = 200
SEED = 1
#: What a throw hangs on.
_HANGS_ON = (
    *("surfaces", "bodies", "wheels", "parts", "power", "brief", "first_throw", "learnt"),
    *("drag_items", "linkages", "radio", "loads"),
)


@dataclass(frozen=True)
class FlownPlan:
    """A plan that was flown: of which design, the launch (None where it cannot be), its ghosts and what became.

    ``scene`` is the moment that was flown, ``scenes`` all that can be.
    """

    design: Design
    launch: Launching | None
    ghosts: tuple[SceneKey, ...]
    thrown: Thrown | None
    scene: Scene = "throw"
    scenes: tuple[Scene, ...] = ("throw",)


class ThrowWork(QObject):
    """The throws of a store's design."""

    changed = Signal()

    def __init__(self, store: Store) -> None:
        super().__init__(store)
        self._store = store
        self.plan: FlownPlan | None = None
        #: What was flown before the last edit, to be seen beside it.
        self.before: FlownPlan | None = None
        self.odds: Odds | None = None
        self.scene: Scene = "throw"
        self._odds_of: Design | None = None
        self._flying: Design | None = None
        self.plans, self.odd = Aside(self), Aside(self)
        self.plans.done.connect(self._planned)
        self.odd.done.connect(self._drawn)
        self.odd.moved.connect(lambda _share: self.changed.emit())
        self._quiet = QTimer(self, singleShot=True, interval=_QUIET)
        self._quiet.timeout.connect(self._fly)

    @staticmethod
    def _wanted(design: Design) -> tuple[Any, ...]:
        return tuple(getattr(design, name) for name in _HANGS_ON)

    def _same(self, one: Design | None) -> bool:
        if one is None:
            return False
        wanted = zip(self._wanted(one), self._wanted(self._store.design), strict=True)
        return one is self._store.design or all(a is b or a == b for a, b in wanted)

    @property
    def current(self) -> bool:
        """Tell whether what was flown is of the design as it stands."""
        return self.plan is not None and self._same(self.plan.design) and self._is_flown(self.plan)

    def _is_flown(self, plan: FlownPlan) -> bool:
        return plan.scene == self.scene or self.scene not in plan.scenes

    def show(self, scene: Scene) -> None:
        """Fly another moment."""
        self.scene, self.before = scene, None
        self._fly()

    @property
    def odds_now(self) -> Odds | None:
        """The odds of the design as it stands; None where those were not flown."""
        return self.odds if self._same(self._odds_of) else None

    def begin(self) -> None:
        """Fly the plan where it has changed, as soon as the hand rests."""
        if (not self.current and not self.plans.busy) or (self.plans.busy and not self._same(self._flying)):
            self._quiet.start()

    def _fly(self) -> None:
        design, report = self._store.design, self._store.report
        if self.current:
            return
        self._flying, scene = design, self.scene

        def work(ask: Ask) -> FlownPlan:
            launch = launch_of(design, report)
            if launch is None:
                return FlownPlan(design, None, (), None)
            able = scenes_of(design, launch)
            wished = scene if scene in able else "throw"
            keys, thrown, flown = fly_scene(wished, design, report, launch, seed=SEED, stop=ask)
            return FlownPlan(design, flown, keys, thrown, wished, able)

        self.plans.begin(work)
        self.changed.emit()

    def _planned(self, found: object) -> None:
        if isinstance(found, FlownPlan):
            was = self.plan
            if was is not None and was.thrown is not None and found.thrown is not None and was.scene == found.scene:
                self.before = was
            self.plan = found
        self.changed.emit()

    def draw_odds(self) -> None:
        """Fly many builds."""
        design, report = self._store.design, self._store.report

        def work(ask: Ask) -> tuple[Design, Odds] | None:
            launch = launch_of(design, report)
            odds = None if launch is None else odds_of(design, report, launch, builds=BUILDS, seed=SEED, progress=ask)
            return None if odds is None else (design, odds)

        self.odd.begin(work)
        self.changed.emit()

    def stop(self) -> None:
        """Leave off flying builds."""
        self.odd.stop()
        self.changed.emit()

    def _drawn(self, found: object) -> None:
        if isinstance(found, tuple):
            self._odds_of, self.odds = found
        self.changed.emit()

    def settle(self) -> None:
        """Wait until everything that was begun is flown."""
        if self._quiet.isActive():
            self._quiet.stop()
            self._fly()
        self.plans.settle()
        self.odd.settle()
