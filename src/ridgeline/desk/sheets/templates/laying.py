"""What the leaves of the templates share: pieces laid a step at a time, packed tighter, and what files come to."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal
from PySide6.QtWidgets import QWidget
from shiboken6 import isValid

from ridgeline.design.cutting import LaidPiece
from ridgeline.design.document import Design
from ridgeline.design.paths import Change
from ridgeline.desk.store import Store
from ridgeline.engine.templates.nesting import Nested, Nesting
from ridgeline.engine.templates.packing import Packing, packer
from ridgeline.engine.templates.prints import Print, prints_of
from ridgeline.engine.templates.whole import templates_of
from ridgeline.errors import DesignError
from ridgeline.files.own_bin import parts_on_hand
from ridgeline.files.template_files import KINDS, File, Wanted, files_of

#: Files are weighed when nothing has changed for so long, one after the other with so much between them, ms.
_QUIET, _BETWEEN = 900, 60


class Laying(QObject):
    """The pieces of a design on its sheets, and all that is written of them."""

    changed = Signal()
    #: Progress alone has changed.
    moved = Signal()

    def __init__(self, store: Store) -> None:
        super().__init__(store)
        self.store = store
        self.found: Nested | None = None
        self.progress = 0.0
        #: Files and bytes by kind, as far as they are known.
        self.sizes: dict[str, tuple[int, int]] = {}
        self._of: tuple[Any, ...] | None = None
        self._printed: tuple[tuple[Any, ...], tuple[Print, ...]] | None = None
        self._work: Nesting | Packing | None = None
        self._steps: Iterator[float] | None = None
        self._timer = QTimer(self, interval=0)
        self._timer.timeout.connect(self._step)
        self._weigher = QTimer(self, singleShot=True)
        self._weigher.timeout.connect(self._weigh_next)
        self._watching: list[QWidget] = []

    def watched(self, sheet: QWidget) -> None:
        """Say which sheet shows it: files are weighed only while one is in view."""
        self._watching.append(sheet)

    @property
    def _in_view(self) -> bool:
        self._watching = [sheet for sheet in self._watching if isValid(sheet)]
        return any(sheet.isVisible() for sheet in self._watching)

    @property
    def busy(self) -> bool:
        """Tell whether pieces are being laid, or packed."""
        return self._steps is not None

    @property
    def packing(self) -> bool:
        """Tell whether pieces are being packed tighter."""
        return self.busy and isinstance(self._work, Packing)

    @property
    def can_pack(self) -> bool:
        """Tell whether pieces can be packed tighter than they lie."""
        return packer() and not self.busy and self.found is not None and len(self.found.sheets) > 0

    def _wanted(self) -> tuple[Any, ...]:
        design = self.store.design
        return (design.surfaces, design.bodies, design.parts, design.cutting, design.power, design.linkages,
                design.wheels, design.printer)  # fmt: skip

    def begin(self) -> None:
        """Lay the pieces anew where what they hang on has changed."""
        wanted = self._wanted()
        if self._of is not None and all(a is b for a, b in zip(self._of, wanted, strict=True)):
            return
        self._of = wanted
        self.sizes = {}
        design: Design = self.store.design
        self._start(Nesting(templates_of(design, self.store.report), design.cutting))

    def _start(self, work: Nesting | Packing) -> None:
        self._work, self._steps, self.progress = work, work.steps(), 0.0
        self._weigher.stop()
        self._timer.start()

    def pack(self) -> None:
        """Pack the pieces tighter: begun from corner by corner, and kept as laid by hand."""
        design: Design = self.store.design
        cutting = design.cutting.model_copy(update={"laid": ()})
        self._start(Packing(templates_of(design, self.store.report), cutting))
        self.changed.emit()

    def stop(self) -> None:
        """Leave off packing: what was there stays."""
        if self.packing:
            self._end()
            self.changed.emit()

    def _step(self) -> None:
        if self._steps is None:
            self._timer.stop()
            return
        share = next(self._steps, None)
        if share is None:
            self._finish()
        else:
            self.progress = share
            self.moved.emit()

    def finish_now(self) -> None:
        """Lay all of it without waiting for the event loop, for pictures and tests."""
        self.begin()
        if self._steps is not None:
            for share in self._steps:
                self.progress = share
            self._finish()

    def _end(self) -> None:
        self._timer.stop()
        steps, self._steps, self._work = self._steps, None, None
        if steps is not None and hasattr(steps, "close"):
            steps.close()

    def _finish(self) -> None:
        work = self._work
        self._end()
        if isinstance(work, Packing):
            self._keep(work)
        elif work is not None:
            self.found = work.result()
        self._weigher.start(_QUIET)
        self.changed.emit()

    def _keep(self, work: Packing) -> None:
        """Keep what was packed as if it were laid by hand; say so where nothing was gained."""
        found = work.result()
        if found is work.plain:
            self.store.noted.emit("No tighter way was found: they stay as they lie")
            return
        laid = tuple(LaidPiece(piece=one.pattern.key, sheet=sheet.number, x=one.x, y=one.y, turn=one.turn)
                     for sheet in found.sheets for one in sheet.laid)  # fmt: skip
        less = len(work.plain.sheets) - len(found.sheets)
        self.store.edit([Change("cutting.laid", laid)], "Pack the sheets tighter")
        gained = f"{less} sheets less" if less > 1 else "a sheet less" if less == 1 else "a longer offcut"
        self.store.noted.emit(f"Packed tighter: {gained}")

    # -- prints and files ---------------------------------------------------------------------------------------------

    @property
    def prints(self) -> tuple[Print, ...]:
        """What is printed of the design; made when it is first asked for."""
        wanted = self._wanted()
        if self._printed is None or any(a is not b for a, b in zip(self._printed[0], wanted, strict=True)):
            self._printed = wanted, prints_of(self.store.design, self.store.report, parts_on_hand())
        return self._printed[1]

    def files(self, kind: str) -> list[File]:
        """Return what is written of a kind; refuses what cannot be."""
        if kind not in ("stl", "3mf", "summary"):
            self.finish_now()
        design: Design = self.store.design
        return files_of(Wanted(self.found or Nested((), ()), design.cutting.kerf, "a4", design, self.store.report),
                        kind)  # fmt: skip

    def _weigh_next(self) -> None:
        """Find out how large the files of one more kind are."""
        kind = next((kind for kind in KINDS if kind not in self.sizes), None)
        if kind is None or self.busy or not self._in_view:
            return
        self._weigh(kind)
        self._weigher.start(_BETWEEN)

    def _weigh(self, kind: str) -> None:
        try:
            files = self.files(kind)
            self.sizes[kind] = len(files), sum(len(data) for _name, data in files)
        except DesignError:
            self.sizes[kind] = 0, 0
        self.changed.emit()

    def weigh_now(self) -> None:
        """Find out how large all files are without waiting, for pictures and tests."""
        self.finish_now()
        for kind in KINDS:
            if kind not in self.sizes:
                self._weigh(kind)


def laying_of(store: Store) -> Laying:
    """Return the one that the leaves of a window share."""
    found = store.findChild(Laying)
    return Laying(store) if found is None else found
