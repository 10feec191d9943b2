"""Children for the kill tests, forked from one process that has read the program already.

Each line on its input, ``FILE LOG HOW``, starts a child that edits without end and writes to LOG what it did; its pid
is said on the output, and later that it ended.
"""

import os
import sys
import time
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PySide6.QtCore import QCoreApplication, QTimer

from ridgeline.desk.store import Store
from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import load


def work(file, log, dragging):
    """Edit once a few milliseconds; every so often save. A drag is one edit that never ends."""
    handle = os.open(log, os.O_WRONLY | os.O_CREAT | os.O_APPEND)

    def say(what, number):
        os.write(handle, f"{what} {number} {time.time()}\n".encode())

    app = QCoreApplication(sys.argv[:1])
    store = Store(load(file))
    assert store.open(Path(file))
    count = [0]

    def step():
        count[0] += 1
        number = count[0]
        # Words change no figure: what is tried is that they are kept, however slow the machine works figures out.
        store.put("note", str(number), f"edit {number}", merge="drag" if dragging else None)
        say("edited", number)
        if not dragging and number % 20 == 0:
            say("saving", number)
            assert store.save()
            say("saved", number)

    timer = QTimer()
    timer.timeout.connect(step)
    timer.start(5)
    say("begun", 0)
    app.exec()


def main():
    """Fork a child for every line."""
    evaluate(load("demo:whimbrel"))  # all that is imported late is imported now
    for line in sys.stdin:
        file, log, how = line.split()
        child = os.fork()
        if child == 0:
            work(file, log, how == "drag")
            os._exit(1)
        print(child, flush=True)
        os.waitpid(child, 0)
        print("ended", flush=True)


if __name__ == "__main__":
    main()
