"""Time from process start to the first painted window of the demo, as a ratio to a bare Qt window's.

Run: ./.venv/bin/python bench/first_paint.py [rounds]. The two are started in turn, so that a noisy machine is
noisy for both; medians and their ratio are printed.
"""

from __future__ import annotations

import os
import statistics
import subprocess
import sys
import time

BARE = """
from PySide6.QtWidgets import QApplication, QWidget
from PySide6.QtCore import QTimer
class Bare(QWidget):
    def paintEvent(self, event):
        super().paintEvent(event)
        QTimer.singleShot(0, app.quit)
app = QApplication([])
window = Bare()
window.resize(1280, 800)
window.show()
app.exec()
"""

DEMO = """
import sys
from PySide6.QtCore import QEvent, QObject, QTimer
from ridgeline.desk import app as desk
from ridgeline.desk.shell import Shell
whole = {whole}
class First(QObject):
    def eventFilter(self, watched, event):
        if event.type() == QEvent.Type.Paint:
            QTimer.singleShot(0, app.quit)
            if not whole:
                print("heavy imports before it:", [m for m in {heavy} if m in sys.modules] or "none")
                sys.stdout.flush()
                import os
                os._exit(0)
        return False
app = desk.prepare("light")
first = First()
shell = Shell("Whimbrel")
shell.resize(1280, 800)
if not whole:
    shell.installEventFilter(first)
shell.show()
app.processEvents()
window = desk.open_window("demo:whimbrel", "balance")
window.store.forget()
window.sheet.installEventFilter(first)
shell.adopt(window)
app.exec()
"""

HEAVY = ("numpy", "pydantic", "pint", "scipy")
PAPER = DEMO.format(whole=False, heavy=HEAVY)
WHOLE = DEMO.format(whole=True, heavy=HEAVY)


def once(code: str) -> float:
    """Run one start to its end and return the seconds it took."""
    # Compiled modules are kept, as they are on a builder's machine.
    environment = {k: v for k, v in os.environ.items() if k != "PYTHONDONTWRITEBYTECODE"}
    environment.setdefault("QT_QPA_PLATFORM", "offscreen")
    begun = time.perf_counter()
    subprocess.run([sys.executable, "-c", code], check=True, env=environment, stdout=subprocess.DEVNULL)
    return time.perf_counter() - begun


def main() -> None:
    """Print the medians, their ratios to the bare window, and what was imported before the first paint."""
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else 9
    kinds = {"bare window": BARE, "first paint": PAPER, "demo on it": WHOLE}
    for code in kinds.values():
        once(code)
    times: dict[str, list[float]] = {name: [] for name in kinds}
    for _ in range(rounds):
        for name, code in kinds.items():
            times[name].append(once(code))
    bare = statistics.median(times["bare window"])
    for name, found in times.items():
        middle = statistics.median(found)
        print(f"{name}: {1000 * middle:.0f} ms, {middle / bare:.2f} of a bare window (median of {rounds}; aim 2.5)")
    subprocess.run([sys.executable, "-c", PAPER], check=True, env=os.environ | {"QT_QPA_PLATFORM": "offscreen"})


if __name__ == "__main__":
    main()
