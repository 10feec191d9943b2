"""Lay an airframe out in the window: progress in the strip while it takes time, one undoable step, then the Shape."""

from __future__ import annotations

from time import monotonic

from PySide6.QtCore import QEventLoop, Qt, QTimer
from PySide6.QtWidgets import QApplication

from ridgeline.design.brief import Brief
from ridgeline.design.keeping import laid_anew
from ridgeline.desk.gate import window_at_work
from ridgeline.desk.sheets.base import Sheet
from ridgeline.desk.version_edits import today
from ridgeline.errors import DesignError

#: Beyond this the window says what is being tried, s.
TELLS_AFTER = 0.3


def lay_out_airframe(sheet: Sheet, brief: Brief, label: str, words: str, *, newer: bool = False) -> bool:
    """Lay out a brief in a sheet's store and turn to the Shape; a refusal is said and changes nothing.

    ``newer`` counts it as another revision where there was an airframe before.
    """
    from ridgeline.engine.sizing.layout import lay_out
    from ridgeline.library import shipped_shelf

    store, design, began = sheet.store, sheet.store.design, monotonic()

    def tell(step: str) -> None:
        if monotonic() - began > TELLS_AFTER:
            store.noted.emit(f"Laying out: {step}…")
            # The window paints; what a hand does waits until the airframe is there.
            QApplication.processEvents(QEventLoop.ProcessEventsFlag.ExcludeUserInputEvents)

    QApplication.setOverrideCursor(Qt.CursorShape.WaitCursor)
    try:
        with window_at_work():
            made = lay_out(brief, shipped_shelf(), design.name, tell)
        fresh = laid_anew(design, made, day=today())
        if newer and design.surfaces and not fresh.versions:
            fresh = fresh.model_copy(update={"revision": design.revision + 1})
        store.replace(fresh, label)
    except DesignError as error:
        store.refused.emit(error)
        return False
    finally:
        QApplication.restoreOverrideCursor()
    store.noted.emit(words)
    QTimer.singleShot(0, lambda: sheet.wants.emit("shape"))
    return True
