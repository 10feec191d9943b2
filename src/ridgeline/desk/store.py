"""What the window shows: the design, its report, the ghost of a remedy, and every edit as one undoable step."""

from __future__ import annotations

import os
from collections.abc import Iterable
from contextlib import suppress
from pathlib import Path
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal

from ridgeline.design.document import Design
from ridgeline.design.history import History
from ridgeline.design.keeping import counted
from ridgeline.design.paths import Change, apply
from ridgeline.desk.gate import window_at_work
from ridgeline.desk.picks import NOTHING, PickKind, Spot, pick_at, spot_of
from ridgeline.engine.pipeline import Evaluator
from ridgeline.engine.report import Finding, Remedy, Report
from ridgeline.engine.sizing.wishes import with_own_wishes
from ridgeline.errors import DesignError
from ridgeline.files import desk_memory
from ridgeline.files.atomic import DoubtKind, SaveDoubt, Stamp, has_changed, stamp_of
from ridgeline.files.design_file import SUFFIX, OpenedFile, load, open_file, save
from ridgeline.files.journal import Opened
from ridgeline.files.names import named
from ridgeline.files.own_bin import parts_on_hand
from ridgeline.files.sittings import Leftover, Sitting, drop, others_on
from ridgeline.units import SYSTEMS, DisplayUnit, Units

#: While a hand drags, the journal follows at most this often; any other edit is recorded at once.
_RECORD_EACH_MS = 300
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
    #: A question in words, with its answers: (label, what to do) each.
    questioned = Signal(str, object)
    #: A save that would surprise, to be answered: see `SaveDoubt`.
    doubted = Signal(object)
    #: That unsaved work cannot be kept, and why; with nothing when it can again.
    unkept = Signal(str)

    def __init__(self, design: Design, *, system: str = "metric", keep: bool = True) -> None:
        super().__init__()
        self._evaluate = Evaluator(stock=parts_on_hand)
        self._evaluate_ghost = Evaluator(stock=parts_on_hand)
        self._history = History.of(design)
        self.path: Path | None = None
        self._saved = design
        self._stamp: Stamp | None = None
        self._sitting = Sitting(Opened(None, design.name), self._tell_unkept) if keep else None
        #: What the edits of this sitting began at, and the state its journal was last told.
        self._begun, self._recorded = design, design
        self.system = system
        self.report: Report = self._evaluate(design)
        #: The findings on show: while a hand drags they follow the figures by a moment.
        self.findings: tuple[Finding, ...] = self.report.findings
        self.ghost: tuple[Design, Report] | None = None
        self.ghost_remedy: Remedy | None = None
        self.pick = NOTHING
        #: What the last step did to the balance: its label, and the fractions of c̄ before and after.
        self.moved: tuple[str, float, float] | None = None
        self._balance_of: dict[int, tuple[Design, float | None]] = {
            id(design): (design, self.report.value("balance.cg_fraction"))
        }
        # Started by the first step of a drag and not again by the next: a drag without end is recorded too.
        self._keeper = QTimer(self, singleShot=True, interval=_RECORD_EACH_MS)
        self._keeper.timeout.connect(self._record)
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
            changes = tuple(changes)
            design = with_own_wishes(apply(self.design, changes), (change.path for change in changes))
            design = counted(self.design, design)
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
        self._record()

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
        with window_at_work():
            self._go_on(history, dragged)

    def _go_on(self, history: History, dragged: bool) -> None:
        forward = len(history.past) >= len(self._history.past)
        self._history = history
        self.ghost = self.ghost_remedy = None
        self.report = self._evaluate(self.design)
        self._note_balance(forward)
        if not dragged:
            self._record(undone=not forward)
        elif not self._keeper.isActive():
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

    def select(self, path: str) -> None:
        """Select what stands at a path of the document; "" selects nothing."""
        pick = pick_at(self.design, path) if path else NOTHING
        if pick != self.pick:
            self.pick = pick
            self.selected.emit()

    def spot(self, *kinds: PickKind) -> Spot | None:
        """Return where the selected thing stands now, if it is of one of these kinds (or of any) and still there."""
        return spot_of(self.design, self.pick) if not kinds or self.pick.kind in kinds else None

    def start(self, design: Design, path: Path | None = None, *, stamp: Stamp | None = None) -> None:
        """Begin with another design and an empty history; unsaved work on the present one stays in its journal."""
        self._end_sitting()
        self._take(design, path, stamp)
        self.pick = NOTHING
        self._go(self._history)
        self.selected.emit()

    def _take(self, design: Design, path: Path | None, stamp: Stamp | None) -> None:
        self._history = History.of(design)
        self.path, self._stamp = path, stamp
        self._saved = self._begun = self._recorded = design
        if self._sitting is not None:
            self._sitting = Sitting(self._opened(), self._tell_unkept)

    def _opened(self) -> Opened:
        return Opened(str(self.path.absolute()) if self.path else None, self.design.name, self._stamp)

    def bring_back(self, left: Leftover) -> bool:
        """Take up work a sitting left, as one undoable step on what it began at; its file is known again."""
        try:
            design = left.design()
            base = left.base() or Design()
        except DesignError as error:
            self.refused.emit(error)
            return False
        read = left.read
        file = None if left.file is None else Path(left.file)
        self.start(base, file, stamp=None if read is None else read.opened.stamp)
        count = "" if left.edits is None else f" {left.edits} edit{'' if left.edits == 1 else 's'}"
        self.replace(design, f"Bring back{count or ' unsaved work'}")
        # The former journal goes only when this one holds the work.
        if self._sitting is None or self._sitting.flush():
            try:
                drop(left)
            except DesignError as error:
                self.refused.emit(error)
        if read is not None and read.torn:
            self.noted.emit(f"The last of it was lost with the program: {read.torn}.")
        return True

    def open(self, place: str | Path) -> bool:
        """Open a file; a file that cannot be read is refused and nothing changes."""
        demo = isinstance(place, str) and place.startswith("demo:")
        try:
            opened = OpenedFile(load(place), None) if demo else open_file(place)
        except DesignError as error:
            self.refused.emit(error)
            return False
        self.start(opened.design, None if demo else Path(place), stamp=opened.stamp)
        self.noted.emit(opened.note or f"Opened {opened.design.name}")
        if not demo:
            self._note_recent(Path(place))
            self.tell_others()
        return True

    def others(self) -> set[str]:
        """Return the journals of other windows that have the same file open."""
        if self.path is None or self._sitting is None:
            return set()
        return {other.path.name for other in others_on(self.path, token=self._sitting.token)}

    def tell_others(self) -> None:
        """Say when another window has the same file open."""
        if self.path is None or self._sitting is None:
            return
        others = others_on(self.path, token=self._sitting.token)
        if others:
            edits = sum(len(other.edits) for other in others)
            where = "another window" if len(others) == 1 else f"{len(others)} other windows"
            unsaved = f", with {edits} edit{'' if edits == 1 else 's'} not saved" if edits else ""
            self.noted.emit(f"{self.path.name} is open in {where} too{unsaved}. Whoever saves last is asked first.")

    def _note_recent(self, path: Path) -> None:
        if self._sitting is not None:
            # Where nothing can be kept is said once, at the start.
            with suppress(DesignError):
                desk_memory.note_recent(path)

    def reload(self) -> bool:
        """Take what the file holds now, as an undoable step on the present work."""
        if self.path is None:
            return False
        try:
            opened = open_file(self.path)
        except DesignError as error:
            self.refused.emit(error)
            return False
        self._stamp = opened.stamp
        self.replace(opened.design, f"Reload {self.path.name}")
        self._saved = self._begun = self._recorded = self.design
        if self._sitting is not None:
            self._sitting.restart(self._opened())
        self.changed.emit()
        return True

    @property
    def file_changed(self) -> bool:
        """Tell whether the file holds something else than when it was read or saved here."""
        return self.path is not None and has_changed(self.path, self._stamp)

    def save(self, place: str | Path | None = None, *, even_if: Iterable[DoubtKind] = ()) -> bool:
        """Save to a file, by default the one it came from; what would surprise is asked through ``doubted``."""
        target = place or self.path
        if target is None:
            return False
        path, sure = named(target, SUFFIX, ".json"), tuple(even_if)
        try:
            self._doubt(path, sure)
            save(self.design, path, even_if=sure)
        except SaveDoubt as doubt:
            self.doubted.emit(doubt)
            return False
        except DesignError as error:
            self.refused.emit(error)
            return False
        self.path, self._stamp = path, stamp_of(path)
        self._saved = self._begun = self._recorded = self.design
        self._keeper.stop()
        if self._sitting is not None:
            self._sitting.restart(self._opened())
        self._note_recent(path)
        self.noted.emit(f"Saved {path.name}")
        self.changed.emit()
        return True

    def _doubt(self, path: Path, sure: tuple[DoubtKind, ...]) -> None:
        if self._is_own(path):
            if "changed" not in sure and self.file_changed:
                allowed = "to overwrite it, to reload it, or another name"
                raise SaveDoubt("changed", path, "a file that was changed by something else since it was read", allowed)
        elif "exists" not in sure and os.path.lexists(path):
            raise SaveDoubt("exists", path, "a file that is there already", "to overwrite it, or another name")

    def _is_own(self, path: Path) -> bool:
        return self.path is not None and os.path.realpath(path) == os.path.realpath(self.path)

    def _record(self, *, undone: bool = False) -> None:
        """Hand the present state to the journal."""
        self._keeper.stop()
        if self._sitting is None or self.design is self._recorded:
            return
        label = self._history.redo_label if undone else self._history.undo_label
        words = f"Undo {label}" if undone else label or "Edit"
        self._recorded = self.design
        self._sitting.record(self._begun, self.design, words)

    def _tell_unkept(self, problem: str) -> None:
        # Called from the journal's thread; the window may be gone by then.
        with suppress(RuntimeError):
            self.unkept.emit(problem)

    def _end_sitting(self) -> None:
        if self._sitting is not None:
            self._record()
            self._sitting.close(keep=self.unsaved)

    def forget(self) -> None:
        """Leave the present work as it is: no journal from here on."""
        self._keeper.stop()
        if self._sitting is not None:
            self._sitting.close(keep=False)
            self._sitting = None

    def keep_unsaved(self) -> bool:
        """Wait until every edit is on disk; False when that cannot be had."""
        self._record()
        return self._sitting is None or self._sitting.flush()

    def close(self) -> None:
        """End the sitting; unsaved work stays in its journal, to be offered at the next start."""
        self._end_sitting()
        self._sitting = None
