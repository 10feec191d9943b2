"""What the window shows: the design, its report, the ghost of a remedy, and every edit as one undoable step."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path
from typing import Any
from uuid import uuid4

from PySide6.QtCore import QObject, QTimer, Signal

from ridgeline.design.document import Design
from ridgeline.design.history import History
from ridgeline.design.paths import Change, apply
from ridgeline.engine.figures import Finding, Remedy, Report
from ridgeline.engine.pipeline import Evaluator
from ridgeline.errors import DesignError
from ridgeline.files import desk_memory
from ridgeline.files.design_file import load, save
from ridgeline.units import SYSTEMS, DisplayUnit, Units

_KEEP_AFTER_MS = 1200
#: While a hand drags, findings are judged this often; the figures follow at every step.
_JUDGE_EACH_MS = 100
#: A shift of the balance worth a word, in mean chords, and how many former balances are remembered.
_MOVED, _KEPT_BALANCES = 0.01, 64


class Store(QObject):
    """The one place the design changes. Widgets read it and ask it for edits."""

    changed = Signal()
    judged = Signal()
    ghosted = Signal()
    selected = Signal()
    restyled = Signal()
    refused = Signal(object)
    noted = Signal(str)

    def __init__(self, design: Design, *, system: str = "metric", keep: bool = True) -> None:
        super().__init__()
        self._evaluate = Evaluator()
        self._evaluate_ghost = Evaluator()
        self._history = History.of(design)
        self.path: Path | None = None
        self._saved = design
        self._keeps = keep
        self._token = uuid4().hex[:12]
        self.system = system
        self.report: Report = self._evaluate(design)
        #: The findings on show: while a hand drags they follow the figures by a moment.
        self.findings: tuple[Finding, ...] = self.report.findings
        self.ghost: tuple[Design, Report] | None = None
        self.ghost_remedy: Remedy | None = None
        self.selection: str = ""
        #: What the last step did to the balance: its label, and the fractions of c̄ before and after.
        self.moved: tuple[str, float, float] | None = None
        self._balance_of: dict[int, tuple[Design, float | None]] = {
            id(design): (design, self.report.value("balance.cg_fraction"))
        }
        self._keeper = QTimer(self, singleShot=True, interval=_KEEP_AFTER_MS)
        self._keeper.timeout.connect(self.keep_unsaved)
        self._judging = QTimer(self, singleShot=True, interval=_JUDGE_EACH_MS)
        self._judging.timeout.connect(self._judge)

    @property
    def design(self) -> Design:
        return self._history.present

    @property
    def history(self) -> History:
        return self._history

    @property
    def units(self) -> Units:
        return SYSTEMS[self.system]

    @property
    def unsaved(self) -> bool:
        return self.design is not self._saved

    def unit_of(self, quantity: str) -> DisplayUnit:
        """Return how a quantity is shown and typed now."""
        return self.units[quantity]

    def choose_units(self, system: str) -> None:
        """Show every value in another unit system."""
        self.system = system
        self.restyled.emit()
        self.changed.emit()
        self._judge()

    def edit(self, changes: Iterable[Change], label: str, merge: str | None = None) -> bool:
        """Apply edits as one undoable step; a refused edit changes nothing and is said through ``refused``."""
        try:
            design = apply(self.design, changes)
        except DesignError as error:
            self.refused.emit(error)
            return False
        if design != self.design:
            self._go(self._history.push(design, label, merge), dragged=merge is not None)
        return True

    def put(self, path: str, value: Any, label: str, merge: str | None = None) -> bool:
        """Edit one place."""
        return self.edit([Change(path, value)], label, merge)

    def replace(self, design: Design, label: str) -> None:
        """Make another design the present one, as an undoable step."""
        self._go(self._history.push(design, label))

    def seal(self) -> None:
        """Close a drag, so that the next one is undone apart from it, and judge where it ended."""
        self._history = self._history.seal()
        if self._judging.isActive():
            self._judge()

    def apply_remedy(self, remedy: Remedy) -> None:
        """Apply a remedy as one step."""
        self.edit(remedy.changes, str(remedy.text.render(self.units)))

    def undo(self) -> None:
        """Go back one edit."""
        self._go(self._history.undo())

    def redo(self) -> None:
        """Go forward one undone edit."""
        self._go(self._history.redo())

    def _go(self, history: History, *, dragged: bool = False) -> None:
        forward = len(history.past) >= len(self._history.past)
        self._history = history
        self.ghost = self.ghost_remedy = None
        self.report = self._evaluate(self.design)
        self._note_balance(forward)
        self._keeper.start()
        self.changed.emit()
        if not dragged:
            self._judge()
        elif not self._judging.isActive():
            self._judging.start()

    def _judge(self) -> None:
        """Bring the findings on show up to date."""
        self._judging.stop()
        self.findings = self.report.findings
        self.judged.emit()

    def _note_balance(self, forward: bool) -> None:
        """Keep what the last step did to the balance, when it moved by more than a builder should overlook."""
        now, former = self.report.value("balance.cg_fraction"), self._history.before
        self._balance_of[id(self.design)] = (self.design, now)
        while len(self._balance_of) > _KEPT_BALANCES:
            self._balance_of.pop(next(iter(self._balance_of)))
        self.moved = None
        kept = None if former is None else self._balance_of.get(id(former))
        label = self._history.undo_label
        if not forward or label is None or now is None or kept is None or kept[0] is not former or kept[1] is None:
            return
        if abs(now - kept[1]) > _MOVED:
            self.moved = (label, kept[1], now)

    def show_ghost(self, remedy: Remedy | None) -> None:
        """Show what a remedy would give, without applying it."""
        if remedy is self.ghost_remedy:
            return
        self.ghost_remedy, self.ghost = remedy, None
        if remedy is not None:
            try:
                design = apply(self.design, remedy.changes)
            except DesignError:
                self.ghost_remedy = None
            else:
                self.ghost = (design, self._evaluate_ghost(design))
        self.ghosted.emit()

    def select(self, what: str) -> None:
        """Select a part of the drawing by its path."""
        if what != self.selection:
            self.selection = what
            self.selected.emit()

    def start(self, design: Design, path: Path | None, *, saved: bool = True, token: str = "") -> None:
        """Begin with another design and an empty history."""
        self._history = History.of(design)
        self.path = path
        self._token = token or uuid4().hex[:12]
        # A recovered design has no file that holds it: compare with nothing.
        self._saved = design if saved else Design()
        self.selection = ""
        self._go(self._history)
        self._keeper.stop()
        self.selected.emit()

    def open(self, place: str | Path) -> bool:
        """Open a file; a file that cannot be read is refused and nothing changes."""
        try:
            design = load(place)
        except DesignError as error:
            self.refused.emit(error)
            return False
        if self.unsaved:
            self.keep_unsaved()
        demo = isinstance(place, str) and place.startswith("demo:")
        self.start(design, None if demo else Path(place))
        if not demo:
            desk_memory.note_recent(Path(place))
        self.noted.emit(f"Opened {design.name}")
        return True

    def save(self, place: str | Path | None = None) -> bool:
        """Save to a file, by default the one it came from."""
        target = place or self.path
        if target is None:
            return False
        try:
            self.path = save(self.design, target)
        except DesignError as error:
            self.refused.emit(error)
            return False
        self._saved = self.design
        self._keeper.stop()
        if self._keeps:
            desk_memory.forget_unsaved(self._token)
            desk_memory.note_recent(self.path)
        self.noted.emit(f"Saved {self.path.name}")
        self.changed.emit()
        return True

    def forget(self) -> None:
        """Leave the present work as it is: no recovery copy from here on."""
        self._keeper.stop()
        self._keeps = False

    def keep_unsaved(self) -> None:
        """Write the recovery copy."""
        if self._keeps and self.unsaved:
            try:
                desk_memory.keep_unsaved(self.design, self._token)
            except DesignError as error:
                self.noted.emit(f"The recovery copy was not written: {error}")
