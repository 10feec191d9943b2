"""A long sitting: random edits with undo and redo, then random clicks and keys on every sheet in a real window.

    python bench/soak.py [MINUTES]

The second half wants a display; without one it starts a virtual one for itself. Wanted: no traceback, no event that
holds the window for more than a second, memory flat within a fifth, and every undo back to the very same design.
"""

import ctypes
import gc
import multiprocessing
import os
import random
import resource
import shutil
import subprocess
import sys
import tempfile
import time
import traceback

from ridgeline.design.history import History
from ridgeline.design.paths import get, put
from ridgeline.engine.advice.sensitivity import measures
from ridgeline.engine.pipeline import Evaluator
from ridgeline.errors import DesignError
from ridgeline.files.design_file import load

EDITS = 2000
#: Units of the witness's work remembered, and how large one is.
_RING, _UNIT = 20000, 20000
SHEETS = (
    *("brief", "shape", "shape.solid", "shape.section", "shape.trim", "shape.control", "shape.start"),
    *("weights", "weights.save", "weights.weigh", "weights.finish", "weights.sets"),
    *("balance", "balance.packs", "balance.levers"),
    *("power", "power.match", "power.flight", "power.wash", "power.bench", "power.bin"),
)


class Witness:
    """A process beside that does one small thing over and over: it tells how much of a while the machine gave.

    A machine shared with others stops for a second now and then; what it did not give is no fault of the window's.
    """

    def __init__(self) -> None:
        self._ends = multiprocessing.Array("d", _RING, lock=False)
        self._count = multiprocessing.Value("L", 0, lock=False)
        self._best = multiprocessing.Value("d", 1.0, lock=False)
        self._process = multiprocessing.Process(target=self._watch, daemon=True)
        self._process.start()

    def _watch(self) -> None:
        while True:
            begun = time.perf_counter()
            sum(range(_UNIT))
            ended = time.perf_counter()
            self._best.value = min(self._best.value, ended - begun)
            self._ends[self._count.value % _RING] = ended
            self._count.value += 1

    def given(self, start: float, end: float) -> float:
        """Return the seconds that an unhindered machine would have needed for what was given meanwhile."""
        ends = [t for t in self._ends[:] if start <= t <= end]
        return len(ends) * self._best.value


def edits_and_undo() -> None:
    """Make random edits, undo and redo them all, and hold every state to the object it was."""
    rng, start, evaluate = random.Random(11), load("demo:whimbrel"), Evaluator()
    history, states, refused = History.of(start), [start], 0
    paths = [path for path, _label in measures(start)]
    while len(states) <= EDITS:
        path = rng.choice(paths)
        try:
            fresh = put(history.present, path, get(history.present, path) * rng.uniform(0.97, 1.03))
        except DesignError:
            refused += 1
            continue
        history = history.push(fresh, path)
        states.append(fresh)
        if len(states) % 20 == 0:
            evaluate(fresh)
    for state in reversed(states):
        assert history.present is state
        history = history.undo()
    for state in states:
        assert history.present is state
        history = history.redo()
    print(f"{EDITS} edits undone and redone to the same objects ({refused} refused)")


def memory() -> float:
    """Return what this process holds now, MB, after what is free was given back."""
    gc.collect()
    ctypes.CDLL("libc.so.6").malloc_trim(0)
    with open("/proc/self/statm") as stream:
        return int(stream.read().split()[1]) * resource.getpagesize() / 1e6


def monkey(minutes: float) -> int:
    """Press, drag and type at random on every sheet of a real window; returns how many things went wrong."""
    from PySide6.QtCore import QEvent, QPoint, Qt
    from PySide6.QtTest import QTest
    from PySide6.QtWidgets import QAbstractButton, QApplication, QFileDialog, QLineEdit, QMenu, QWidget

    from ridgeline.desk.app import prepare, read_ahead
    from ridgeline.desk.store import Store
    from ridgeline.desk.window import Window

    faults: list[str] = []

    def note_fault(kind: type[BaseException], fault: BaseException, trace: object) -> None:
        place = traceback.extract_tb(trace)[-1]  # type: ignore[arg-type]
        faults.append(f"{kind.__name__}: {fault} ({os.path.basename(place.filename)}:{place.lineno})")
        traceback.print_exception(kind, fault, trace)  # type: ignore[arg-type]

    sys.excepthook = note_fault
    app = prepare("light")
    folder = tempfile.mkdtemp()
    QFileDialog.getOpenFileName = staticmethod(lambda *_a: ("", ""))
    QFileDialog.getSaveFileName = staticmethod(lambda *_a: (os.path.join(folder, f"made{rng.randrange(3)}"), ""))
    window = Window(Store(load("demo:whimbrel")), first="balance")
    window.resize(1280, 800)
    window.show()
    read_ahead()
    QTest.qWaitForWindowExposed(window)
    rng, until, began = random.Random(23), time.monotonic() + 60 * minutes, time.monotonic()
    slow: list[tuple[float, str]] = []
    stopped: list[tuple[float, str]] = []
    witness = Witness()
    sizes: list[float] = [memory()]
    texts = ("900", "12,5", "1/3", "", "-", "x" * 300, "3/16 in", "1e400", "200 °", "0.25", "33%")
    events = 0
    typed = (Qt.Key.Key_Tab, Qt.Key.Key_Left, Qt.Key.Key_Up, Qt.Key.Key_Return, Qt.Key.Key_Escape, Qt.Key.Key_Delete)
    while time.monotonic() < until:
        if events % 40 == 0:
            window.open_sheet(rng.choice(SHEETS))
        if events % 3000 == 0 or not window.store.design.surfaces:
            window.open(f"demo:{rng.choice(('whimbrel', 'dunlin', 'avocet', 'turnstone'))}")
        seen = [w for w in window.findChildren(QWidget) if w.isVisible() and w.isEnabled() and w.width() > 2]
        widget = rng.choice(seen)
        what = f"{window.open_key}: {type(widget).__name__} {widget.accessibleName()[:50]}"
        kind, start = rng.random(), time.perf_counter()
        place = QPoint(rng.randrange(widget.width()), rng.randrange(max(widget.height(), 1)))
        try:
            if kind < 0.35:
                QTest.mouseClick(widget, Qt.MouseButton.LeftButton, pos=place)
            elif kind < 0.5:
                QTest.mousePress(widget, Qt.MouseButton.LeftButton, pos=place)
                for _ in range(4):
                    QTest.mouseMove(widget, place + QPoint(rng.randrange(-30, 30), rng.randrange(-30, 30)))
                QTest.mouseRelease(widget, Qt.MouseButton.LeftButton, pos=place)
            elif kind < 0.7 and isinstance(widget, QLineEdit):
                widget.setFocus()
                widget.selectAll()
                QTest.keyClicks(widget, rng.choice(texts))
                QTest.keyClick(widget, Qt.Key.Key_Return)
            elif kind < 0.8:
                rng.choice((window.store.undo, window.store.redo))()
            elif kind < 0.85 and isinstance(widget, QAbstractButton):
                QTest.mouseDClick(widget, Qt.MouseButton.LeftButton, pos=place)
            else:
                shift = rng.choice((Qt.KeyboardModifier.NoModifier, Qt.KeyboardModifier.ShiftModifier))
                QTest.keyClick(QApplication.focusWidget() or window, rng.choice(typed), shift)
        except Exception as fault:
            # A press may take its own widget away; what is dragged on is gone then.
            if not (isinstance(fault, RuntimeError) and "already deleted" in str(fault)):
                note_fault(type(fault), fault, fault.__traceback__)
        for menu in QApplication.topLevelWidgets():
            if isinstance(menu, QMenu):
                menu.close()
        QApplication.processEvents()
        # Outside an event loop of its own, what was taken away is deleted only when it is asked for.
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
        spent = time.perf_counter() - start
        if spent > 1.0:
            given = witness.given(start, start + spent)
            (slow if given > 1.0 else stopped).append((spent, f"{what} {kind:.2f}; the machine gave {given:.1f} s"))
        events += 1
        if events % 500 == 0:
            sizes.append(memory())
    sys.excepthook = sys.__excepthook__
    third = max(len(sizes) // 3, 1)
    growth = sum(sizes[-third:]) / sum(sizes[third : 2 * third] or sizes[:third]) - 1
    print(f"{events} clicks, drags and keys in {(time.monotonic() - began) / 60:.1f} min on {app.platformName()}")
    print(
        f"memory {sizes[0]:.0f} MB at first, {sizes[-1]:.0f} at last; last third over the middle {100 * growth:+.0f} %"
    )
    print(f"{len(faults)} faults, {len(slow)} events over a second, {len(stopped)} more by the clock alone")
    for line in (
        *sorted(set(faults))[:10],
        *(f"{s:.1f} s {what}" for s, what in sorted(slow + stopped, reverse=True)[:10]),
    ):
        print("  ", line)
    window.store.forget()
    return len(faults) + len(slow) + (growth > 0.2)


def main() -> int:
    """Run both halves; the second on a display of its own where there is none."""
    minutes = float(sys.argv[1]) if len(sys.argv) > 1 else 10.0
    os.environ["RIDGELINE_DATA"] = tempfile.mkdtemp()
    if not os.environ.get("DISPLAY") and shutil.which("xvfb-run"):
        edits_and_undo()
        words = ["xvfb-run", "-a", "-s", "-screen 0 1280x800x24", sys.executable, *sys.argv]
        return subprocess.run(words, env=os.environ | {"QT_QPA_PLATFORM": "xcb"}).returncode
    return 1 if monkey(minutes) else 0


if __name__ == "__main__":
    sys.exit(main())
