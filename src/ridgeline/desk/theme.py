"""Paper, inks and type of the drafting sheet, light and dark."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from importlib import resources

from PySide6.QtGui import QColor, QFont, QFontDatabase, QPalette
from PySide6.QtWidgets import QApplication

FAMILY = "B612"
SCALE_END, LABEL, VALUE, HEADING, TITLE, VITAL = 10, 11, 12, 13, 16, 18


@dataclass(frozen=True)
class Inks:
    """The colours by role. Hatching, line weight and dash carry the meaning first."""

    paper: QColor
    ink: QColor
    soft: QColor
    hair: QColor
    fill: QColor
    live: QColor
    wash: QColor
    look: QColor
    stop: QColor
    predicted: QColor
    measured: QColor
    ruler: QColor


def _inks(**values: str) -> Inks:
    return Inks(**{role: QColor(value) for role, value in values.items()})


LIGHT = _inks(
    paper="#F5F1E6",
    ink="#22303A",
    soft="#5C6468",
    hair="#B9B19E",
    fill="#DFDDD3",
    live="#1C6E70",
    wash="#DCE4DB",
    look="#B9770E",
    stop="#A63A2B",
    predicted="#3F5F8A",
    measured="#7A3E6D",
    ruler="#E9E4D5",
)
DARK = _inks(
    paper="#161C20",
    ink="#E4E0D4",
    soft="#A3A79F",
    hair="#4B5357",
    fill="#2A3338",
    live="#5FBDBB",
    wash="#1F3436",
    look="#E0A544",
    stop="#E07A68",
    predicted="#8FB0DC",
    measured="#C48DB8",
    ruler="#20282C",
)


class _Theme:
    """The inks in force; switched as a whole, then everything repaints."""

    def __init__(self) -> None:
        self.inks = LIGHT

    @property
    def dark(self) -> bool:
        return self.inks is DARK

    def choose(self, name: str) -> None:
        self.inks = DARK if name == "dark" else LIGHT


theme = _Theme()


@lru_cache(maxsize=1)
def load_fonts() -> None:
    """Register the shipped fonts with the application."""
    folder = resources.files("ridgeline.desk").joinpath("fonts")
    for name in ("B612-Regular.otf", "B612-Bold.otf"):
        QFontDatabase.addApplicationFontFromData(folder.joinpath(name).read_bytes())


@lru_cache(maxsize=64)
def font(size: int, bold: bool = False) -> QFont:
    """Return the sheet's type at a pixel size."""
    chosen = QFont(FAMILY)
    chosen.setPixelSize(size)
    chosen.setBold(bold)
    chosen.setHintingPreference(QFont.HintingPreference.PreferNoHinting)
    return chosen


def style_sheet() -> str:
    """Return the style of the few stock widgets: fields, menus, tables, scroll bars."""
    i = theme.inks
    n = {role: getattr(i, role).name() for role in Inks.__dataclass_fields__}
    return f"""
    QWidget {{ color: {n["ink"]}; font-family: "{FAMILY}"; font-size: {VALUE}px; }}
    QMainWindow, QMenuBar, QStatusBar {{ background: {n["paper"]}; }}
    QMenuBar {{ font-size: {VALUE}px; padding: 0; border-bottom: 1px solid {n["hair"]}; }}
    QMenuBar::item {{ padding: 6px 12px; background: transparent; }}
    QMenuBar::item:selected, QMenu::item:selected {{ background: {n["wash"]}; color: {n["live"]}; }}
    QMenu {{ background: {n["paper"]}; border: 1px solid {n["hair"]}; padding: 4px 0; }}
    QMenu::item {{ padding: 5px 24px 5px 24px; }}
    QMenu::item:disabled {{ color: {n["hair"]}; }}
    QMenu::separator {{ height: 1px; background: {n["hair"]}; margin: 4px 8px; }}
    QLineEdit {{ background: transparent; border: none; border-bottom: 1px solid {n["ink"]}; padding: 0 1px;
        selection-background-color: {n["live"]}; selection-color: {n["paper"]}; }}
    QLineEdit:focus {{ border-bottom: 2px solid {n["live"]}; color: {n["live"]}; }}
    QLineEdit[measured="false"] {{ font-weight: bold; }}
    QLineEdit[measured="true"] {{ font-weight: bold; color: {n["measured"]}; }}
    QLineEdit[wrong="true"] {{ border-bottom: 2px solid {n["stop"]}; color: {n["stop"]}; }}
    QToolTip {{ background: {n["paper"]}; color: {n["ink"]}; border: 1px solid {n["ink"]}; padding: 4px; }}
    QScrollArea {{ background: transparent; border: none; }}
    QScrollBar:vertical {{ background: transparent; width: 8px; margin: 0; }}
    QScrollBar::handle:vertical {{ background: {n["hair"]}; min-height: 24px; }}
    QScrollBar:horizontal {{ background: transparent; height: 8px; margin: 0; }}
    QScrollBar::handle:horizontal {{ background: {n["hair"]}; min-width: 24px; }}
    QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page
        {{ background: none; border: none; width: 0; height: 0; }}
    QTableView {{ background: {n["paper"]}; border: none; gridline-color: {n["hair"]}; font-size: {LABEL}px;
        selection-background-color: {n["wash"]}; selection-color: {n["live"]}; outline: none; }}
    QTableView::item {{ padding: 0 3px; border-bottom: 1px solid {n["ruler"]}; }}
    QHeaderView, QHeaderView::section {{ background: {n["paper"]}; border: none; font-size: {LABEL}px;
        color: {n["soft"]}; padding: 0 3px; border-bottom: 1px solid {n["ink"]}; }}
    QTableView QLineEdit {{ background: {n["paper"]}; border: 1px solid {n["live"]}; font-size: {LABEL}px; }}
    QCheckBox {{ font-size: {LABEL}px; spacing: 8px; }}
    QCheckBox::indicator {{ width: 10px; height: 10px; border: 1px solid {n["ink"]}; background: transparent; }}
    QCheckBox::indicator:checked {{ background: {n["live"]}; }}
    QCheckBox:focus {{ color: {n["live"]}; }}
    QListView {{ background: {n["paper"]}; border: 1px solid {n["ink"]}; outline: none; }}
    QListView::item:selected {{ background: {n["wash"]}; color: {n["live"]}; }}
    QComboBox {{ background: transparent; border: none; border-bottom: 1px solid {n["ink"]}; padding: 0 2px; }}
    QComboBox:focus {{ border-bottom: 2px solid {n["live"]}; }}
    QComboBox::drop-down {{ width: 12px; border: none; }}
    """


def dress(app: QApplication, name: str) -> None:
    """Put the application in light or dark; where it is dressed so already, its widgets are left alone."""
    theme.choose(name)
    if app.styleSheet() == style_sheet():
        return
    palette = QPalette()
    inks = theme.inks
    palette.setColor(QPalette.ColorRole.Window, inks.paper)
    palette.setColor(QPalette.ColorRole.Base, inks.paper)
    palette.setColor(QPalette.ColorRole.Text, inks.ink)
    palette.setColor(QPalette.ColorRole.WindowText, inks.ink)
    palette.setColor(QPalette.ColorRole.Highlight, inks.live)
    palette.setColor(QPalette.ColorRole.PlaceholderText, inks.soft)
    app.setPalette(palette)
    app.setStyleSheet(style_sheet())
