"""The empty sheet that is painted at once, before the program behind it is read, and then holds it."""

from __future__ import annotations

from contextlib import suppress

from PySide6.QtCore import QRectF
from PySide6.QtGui import QCloseEvent, QPainter, QPaintEvent
from PySide6.QtWidgets import QMainWindow

from ridgeline.desk.paint import line, path_of, pen, write
from ridgeline.desk.theme import HEADING, TITLE, theme
from ridgeline.errors import DesignError
from ridgeline.files.choices import remember

LEAST_SIZE = (1100, 700)
_BAR, _TRAIL, _MARGIN, _TITLE_BLOCK = 28, 172, 320, 92


class Shell(QMainWindow):
    """The top-level window: ruled paper until the desk is ready, then the desk."""

    def __init__(self, opening: str) -> None:
        super().__init__()
        self._opening = opening
        self.setMinimumSize(*LEAST_SIZE)
        self.setWindowTitle("Ridgeline")

    def adopt(self, window: QMainWindow) -> None:
        """Put the desk on the paper."""
        window.windowTitleChanged.connect(self.setWindowTitle)
        self.setWindowTitle(window.windowTitle())
        self.setCentralWidget(window)
        window.show()

    def closeEvent(self, event: QCloseEvent) -> None:
        desk = self.centralWidget()
        if desk is not None:
            if not (self.isMaximized() or self.isFullScreen()):
                # Where nothing can be kept was said at the start.
                with suppress(DesignError):
                    remember(size=[self.width(), self.height()])
            desk.close()
        event.accept()

    def paintEvent(self, _event: QPaintEvent) -> None:
        inks, width, height = theme.inks, self.width(), self.height()
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), inks.paper)
        if self.centralWidget() is not None:
            return
        p.setPen(pen(inks.live, 1.6))
        p.drawPath(path_of([(16, 20), (22, 10), (27, 16), (33, 8), (40, 20)], closed=False))
        write(p, 48, 19, "Ridgeline", HEADING, bold=True)
        line(p, 0, _BAR - 0.5, width, _BAR - 0.5, inks.hair)
        line(p, _TRAIL - 0.5, _BAR, _TRAIL - 0.5, height - _TITLE_BLOCK, inks.hair)
        line(p, width - _MARGIN + 0.5, _BAR, width - _MARGIN + 0.5, height, inks.hair)
        p.fillRect(QRectF(0, height - _TITLE_BLOCK, width, 2), inks.ink)
        middle = (_TRAIL + width - _MARGIN) / 2
        write(p, middle, height / 2, f"Opening {self._opening}", TITLE, inks.soft, align="centre")
