"""Opening, saving and what was left behind, for one window: every question asked in its strip, none in a dialog."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QFileSystemWatcher, QObject
from PySide6.QtWidgets import QFileDialog, QMenu, QWidget

from ridgeline.design.document import Design
from ridgeline.desk.comparing import ComparePanel
from ridgeline.desk.leftovers import LeftoversPanel
from ridgeline.desk.notice import Answer
from ridgeline.desk.store import Store
from ridgeline.desk.whole import Desk
from ridgeline.errors import DesignError
from ridgeline.files import desk_memory
from ridgeline.files.atomic import PREVIOUS, DoubtKind, SaveDoubt, previous_of
from ridgeline.files.choices import folder_problem
from ridgeline.files.design_file import SUFFIX, open_file
from ridgeline.files.names import named, safe_name
from ridgeline.files.sittings import Leftover, drop, leftovers, undrop

_FILTER = "Ridgeline designs (*.ridge);;All files (*)"
_CHANGED = "{} was changed by something else since it was read here."


class Filing(QObject):
    """Asks for files, answers doubts, and lists what former sittings left."""

    def __init__(self, window: Desk, stage: QWidget) -> None:
        super().__init__(window)
        self._window, self._store = window, window.store
        self.leftovers = LeftoversPanel(stage)
        self.compare = ComparePanel(stage, window.store)
        self.leftovers.brought.connect(self.bring_back)
        self.leftovers.compared.connect(self._compare_leftover)
        self.leftovers.dropped.connect(self._drop)
        self._told_changed = ""
        #: Doubts answered for the save under way.
        self._agreed: tuple[DoubtKind, ...] = ()
        self._others: set[str] = set()
        self._unkept = ""
        self._watch = QFileSystemWatcher(self)
        self._watch.fileChanged.connect(lambda _path: self.look_at_file())
        self._store.doubted.connect(self._ask)
        self._store.unkept.connect(self._say_unkept)
        self._store.changed.connect(self._watch_file)

    def place(self) -> None:
        """Follow the size of the stage."""
        for panel in (self.leftovers, self.compare):
            if panel.isVisible():
                panel.place()

    def start(self) -> None:
        """Say what cannot be kept here, and list what former sittings left: done once, when the window is there."""
        problem = folder_problem()
        if problem:
            self._say_unkept(problem)
        self._store.tell_others()
        self.offer()

    def offer(self, *, asked: bool = False) -> None:
        """List the work former sittings left unsaved."""
        try:
            rows, report = leftovers()
        except DesignError as error:
            rows, report = [], [str(error)] if asked else []
        for words in report:
            self._window.notice.say(f"{words[0].upper()}{words[1:]}.", grave=True)
        self.leftovers.show_rows(rows)
        if asked and not rows and not report:
            self._window.notice.say("No unsaved work of former sittings is left.")

    def bring_back(self, left: Leftover) -> None:
        """Take up what a sitting left."""
        if self._store.bring_back(left):
            self.leftovers.dismiss()
            self._window.open_sheet("balance" if self._store.design.surfaces else "brief")
            self.offer_rest()

    def offer_rest(self) -> None:
        """Say that more was left, where there is more."""
        try:
            rows, _report = leftovers()
        except DesignError:
            return
        if rows:
            words = f"{len(rows)} more piece{'' if len(rows) == 1 else 's'} of unsaved work."
            self._window.notice.say(words, answers=(("Show", self.offer), ("Later", lambda: None)))

    def _drop(self, left: Leftover) -> None:
        try:
            there = drop(left)
        except DesignError as error:
            self._store.refused.emit(error)
            return
        self.offer()
        if there is None:
            self._window.notice.say(
                f"{left.name} is being worked on in another window: it was not dropped.", grave=True
            )
            return

        def take_back() -> None:
            undrop(left, there)
            self.offer()

        self._window.notice.say(f"Dropped {left.name}.", answers=(("Take it back", take_back), ("Good", lambda: None)))

    def _compare_leftover(self, left: Leftover) -> None:
        try:
            design = left.design()
            before, name = self._file_or_base(left)
        except DesignError as error:
            self._store.refused.emit(error)
            return
        self.compare.compare(before, design, (name, "unsaved work"))

    def _file_or_base(self, left: Leftover) -> tuple[Design, str]:
        """Return what unsaved work is compared with: the file as it is now, or else what its edits began at."""
        if left.file is not None:
            try:
                return open_file(left.file).design, Path(left.file).name
            except DesignError:
                pass  # gone or spoilt since: its base is known all the same
        return left.base() or Design(), "as it began"

    def choose_open(self) -> None:
        """Ask for a file and open it."""
        name, _kind = QFileDialog.getOpenFileName(self._window, "Open a design", "", _FILTER)
        if name:
            self._window.open(name)

    def save(self) -> None:
        """Save to the design's file, asking for one the first time."""
        if self._store.path is None:
            self.choose_save()
        else:
            self._store.save()

    def choose_save(self) -> None:
        """Ask where to save."""
        start = str(self._store.path or safe_name(self._store.design.name, SUFFIX))
        name = ask_place(self._window, "Save the design", start, _FILTER)
        if name:
            self._store.save(named(name, SUFFIX, ".json"))

    def _overwrite(self, place: Path, agreed: tuple[DoubtKind, ...]) -> None:
        """Save in spite of the doubts that were answered; another one is asked for itself."""
        self._agreed = agreed
        try:
            self._store.save(place, even_if=agreed)
        finally:
            self._agreed = ()

    def _ask(self, doubt: SaveDoubt) -> None:
        """Ask what to do about a save that would surprise."""
        name = doubt.place.name
        # One press answers one doubt: a file changed and marked read-only is asked about twice.
        over = ("Overwrite", partial(self._overwrite, doubt.place, (*self._agreed, doubt.kind)))
        other: Answer = ("Save as…", self.choose_save)
        questions: dict[str, tuple[str, tuple[Answer, ...]]] = {
            "changed": (
                _CHANGED.format(name),
                (over, ("Reload", self._store.reload), ("Compare", lambda: self._compare_file(doubt)), other),
            ),
            "read_only": (f"{name} is marked read-only.", (("Overwrite it all the same", over[1]), other)),
            "exists": (f"{name} is there already.", (over, ("Another name…", self.choose_save))),
        }
        words, answers = questions[doubt.kind]
        self._window.notice.say(words, grave=True, answers=answers)

    def _compare_file(self, doubt: SaveDoubt) -> None:
        try:
            there = open_file(doubt.place).design
        except DesignError as error:
            self._store.refused.emit(error)
            return
        self.compare.compare(there, self._store.design, (f"{doubt.place.name} now", "this window"))
        # Looking answers nothing: the question comes back.
        self._ask(doubt)

    def look_around(self) -> None:
        """Look at the file and at the other windows: this one has just come to the front."""
        self.look_at_file()
        others = self._store.others()
        if others - self._others:
            self._store.tell_others()
        self._others = others

    def look_at_file(self) -> None:
        """Say, once for each change, that the open file was changed by something else."""
        store = self._store
        if not store.file_changed or store.path is None:
            return
        mark = f"{store.path}:{store.path.stat().st_mtime_ns}" if store.path.exists() else ""
        if mark and mark != self._told_changed:
            self._told_changed = mark
            self._ask(SaveDoubt("changed", store.path, "", ""))

    def _watch_file(self) -> None:
        wanted = [str(self._store.path)] if self._store.path is not None else []
        if self._watch.files() != wanted:
            if self._watch.files():
                self._watch.removePaths(self._watch.files())
            if wanted:
                self._watch.addPaths(wanted)

    def _say_unkept(self, problem: str) -> None:
        if self._unkept:
            self._window.notice.withdraw(self._unkept)
        self._unkept = ""
        if problem:
            self._unkept = (
                f"Nothing can be kept in the data folder ({problem}): recent files, choices, your parts and unsaved "
                "work are lost when this window closes. Save often."
            )
            self._window.notice.say(self._unkept, grave=True, answers=(("Good", lambda: None),))

    def fill_earlier(self, menu: QMenu) -> None:
        """List the states of the file before its last saves."""
        menu.clear()
        path = self._store.path
        for age in range(1, PREVIOUS + 1):
            if path is not None and previous_of(path, age).exists():
                words = "before the last save" if age == 1 else f"{age} saves ago"
                menu.addAction(words.capitalize()).triggered.connect(lambda _=False, a=age: self._go_back(a))
        if menu.isEmpty():
            menu.addAction("none kept").setEnabled(False)

    def _go_back(self, age: int) -> None:
        if self._store.path is None:
            return
        try:
            design = open_file(previous_of(self._store.path, age)).design
        except DesignError as error:
            self._store.refused.emit(error)
            return
        self._store.replace(design, "Go back to an earlier save")

    def fill_recent(self, menu: QMenu) -> None:
        """List the files used last."""
        menu.clear()
        names = desk_memory.recent_files()
        for name in names:
            menu.addAction(Path(name).name).triggered.connect(lambda _=False, n=name: self._window.open(n))
        if not names:
            menu.addAction("none yet").setEnabled(False)


def ask_place(parent: QWidget, title: str, start: str, kinds: str) -> str:
    """Ask where to write. Whether to overwrite is asked afterwards, when the name has its suffix."""
    options = QFileDialog.Option.DontConfirmOverwrite
    name, _kind = QFileDialog.getSaveFileName(parent, title, start, kinds, "", options)
    return name


def sure_of(place: Path, store: Store, write: Callable[[], object], again: Callable[[], object]) -> None:
    """Write a file, or ask first when one of that name is there."""
    if not place.exists():
        write()
        return
    store.questioned.emit(f"{place.name} is there already.", (("Overwrite", write), ("Another name…", again)))
