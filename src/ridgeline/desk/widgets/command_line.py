"""One line that finds a figure, a part, a stop or a command by typing a piece of its name."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import partial

from PySide6.QtCore import QStringListModel, Qt
from PySide6.QtGui import QFocusEvent, QKeyEvent
from PySide6.QtWidgets import QCompleter, QLineEdit, QWidget

from ridgeline.desk.stops import STOPS
from ridgeline.desk.theme import LABEL, font
from ridgeline.desk.whole import Desk
from ridgeline.engine.geometry.scaling import scaled
from ridgeline.errors import DesignError
from ridgeline.ratios import ratio_of
from ridgeline.typed import short

_LONGEST = 200
_SCALE = re.compile(r"scale\s+(?P<factor>[\d.:/ ]*\d\s*%?)(?:\s*,?\s*tail\s+(?P<tail>\d*\.?\d+))?", re.IGNORECASE)


class CommandLine(QLineEdit):
    """Typed words complete to figures (their working), parts (their dimensions), stops and commands."""

    def __init__(self, parent: QWidget, window: Desk) -> None:
        super().__init__(parent)
        self._window = window
        self.narrow(False)
        self.setAccessibleName("find a figure, part or command")
        self.setMaxLength(_LONGEST)
        self.setFont(font(LABEL))
        self._model = QStringListModel(self)
        completer = QCompleter(self._model, self)
        completer.setFilterMode(Qt.MatchFlag.MatchContains)
        completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
        completer.activated.connect(self.run)
        self.setCompleter(completer)
        self.returnPressed.connect(lambda: self.run(self.text()))

    def narrow(self, on: bool) -> None:
        """Say what it is for in few words where there is little room."""
        self.setPlaceholderText("Find a figure   Ctrl K" if on else "Type a figure, part or command   Ctrl K")

    def entries(self) -> dict[str, Callable[[], object]]:
        """Return everything that can be found now, by its words."""
        window, store = self._window, self._window.store
        found: dict[str, Callable[[], object]] = {}
        for figure in store.report.figures.values():
            found.setdefault(f"{figure.label} – figure", partial(window.show_working, figure.key))
        for index, part in enumerate(store.design.parts):
            found.setdefault(f"{part.name} – part", partial(self._show_part, index))
        for stop in STOPS:
            if stop.alive:
                found[f"{stop.name} – sheet"] = partial(window.open_sheet, stop.key)
            for leaf in stop.leaves[1:]:
                found[f"{leaf.word} – sheet of {stop.name}"] = partial(window.open_sheet, leaf.key)
        found.update({f"{words} – command": action for words, action in window.commands()})
        return found

    def _show_part(self, index: int) -> None:
        self._window.open_sheet("weights")
        self._window.store.select(f"parts[{index}]")

    def _scale(self, words: str) -> bool:
        """Scale the airframe when the words say so: ``scale 1.2``, ``scale 1:3`` or ``scale 33 %, tail 1.1``."""
        match = _SCALE.fullmatch(words.strip())
        if match is None:
            return False
        store = self._window.store
        try:
            design = scaled(store.design, ratio_of(match["factor"]), float(match["tail"] or 1.0))
        except DesignError as error:
            store.refused.emit(error)
            return True
        self.clear()
        store.replace(design, words.strip().capitalize())
        store.noted.emit("Scaled. Built items are estimates again; choose pack, motor and propeller anew.")
        return True

    def run(self, words: str) -> None:
        """Do what the words name: the exact entry, one of that name, or the first that contains them."""
        words = words[:_LONGEST]
        if self._scale(words):
            return
        entries = self.entries()
        said = words.strip().lower()
        name = (
            next((e for e in entries if e == words), None)
            or next((e for e in entries if e.partition(" – ")[0].rpartition(": ")[2].lower() == said), None)
            or next((e for e in entries if said and said in e.lower()), None)
        )
        if name is None:
            self._window.notice.say(f"Nothing here is called “{short(words)}”.")
            return
        self.clear()
        self._window.sheet.setFocus()
        entries[name]()

    def focusInEvent(self, event: QFocusEvent) -> None:
        self._model.setStringList(list(self.entries()))
        super().focusInEvent(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.clear()
            self._window.sheet.setFocus()
            return
        super().keyPressEvent(event)
