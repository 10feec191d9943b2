"""The window: trail, sheet, margin and title block around one design, with menus and keys."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QEvent
from PySide6.QtGui import (
    QAction,
    QCloseEvent,
    QDragEnterEvent,
    QDropEvent,
    QKeySequence,
    QResizeEvent,
    QShortcut,
)
from PySide6.QtWidgets import QApplication, QFileDialog, QMenu, QWidget

from ridgeline.design.airframe import Role
from ridgeline.design.document import Design
from ridgeline.design.paths import REMOVE, Change
from ridgeline.design.underlay import ViewName
from ridgeline.design.wording import words_of
from ridgeline.desk.exporting import ask_export
from ridgeline.desk.filing import Filing
from ridgeline.desk.gate import window_at_work
from ridgeline.desk.margin import Margin
from ridgeline.desk.notice import Notice
from ridgeline.desk.part_edits import ADDED_PARTS, PART_EDITS
from ridgeline.desk.samples import SAMPLES
from ridgeline.desk.sheets.base import Sheet
from ridgeline.desk.stops import LEAVES, STOPS
from ridgeline.desk.store import Store
from ridgeline.desk.surface_edits import ADDED_SURFACES, SURFACE_EDITS, add_surface
from ridgeline.desk.text_choice import choose_text_size, fill_text_sizes
from ridgeline.desk.text_size import SIZES
from ridgeline.desk.theme import theme
from ridgeline.desk.throws_from import ask_throws
from ridgeline.desk.title_block import HEIGHT as TITLE_HEIGHT
from ridgeline.desk.title_block import MARGIN_WIDTH, TitleBlock
from ridgeline.desk.top_bar import BAR, TopBar
from ridgeline.desk.trail import WIDTH, Trail
from ridgeline.desk.version_edits import keep_version
from ridgeline.desk.whole import Command, Desk
from ridgeline.desk.working import WorkingPanel
from ridgeline.errors import DesignError
from ridgeline.files import choices
from ridgeline.files.exports import EXPORTS
from ridgeline.typed import told

_PICTURES = "Pictures (*.png *.jpg *.jpeg *.bmp *.gif);;All files (*)"


class Window(Desk):
    """The drafting sheet and everything round it."""

    def __init__(self, store: Store, *, first: str = "brief") -> None:
        super().__init__()
        self.store = store
        self.setAcceptDrops(True)
        self._body = QWidget(self)
        self.setCentralWidget(self._body)
        self.trail = Trail(self._body, store)
        self.margin = Margin(self._body, store)
        self.title_block = TitleBlock(self._body, store)
        self._stage = QWidget(self._body)
        self.notice = Notice(self._stage)
        self.bar = TopBar(self)
        self.working = WorkingPanel(self._stage, store)
        self.filing = Filing(self, self._stage)
        self.sheets: dict[str, Sheet] = {}
        self.open_key = ""
        self.title_block.scale_of = lambda: self.sheet.scale if self.open_key else 0.0
        self._connect()
        self._menus()
        for number, stop in enumerate(STOPS, start=1):
            if stop.alive:
                shortcut = QShortcut(QKeySequence(f"Alt+{number}"), self)
                shortcut.activated.connect(lambda key=stop.key: self.open_sheet(key))
        self.open_sheet(first)
        self._refresh()

    def _connect(self) -> None:
        store = self.store
        self.trail.chosen.connect(self.open_sheet)
        self.title_block.asked.connect(self._ask)
        self.working.closed.connect(lambda: self.title_block.mark(None))
        self.working.asked.connect(self.title_block.mark)
        store.changed.connect(self._refresh)
        store.selected.connect(self._show_selection)
        store.refused.connect(self._refuse)
        store.questioned.connect(lambda words, answers: self.notice.say(words, grave=True, answers=answers))
        self.notice.moved.connect(self._lay_stage)
        store.noted.connect(self.notice.say)

    def _refuse(self, error: DesignError) -> None:
        """Say what was refused, in the builder's words and units."""
        plain = told(error, self.store.units)
        place = words_of(self.store.design, plain.path)
        self.notice.say(f"{place}: understood {plain.understood}; allowed: {plain.allowed}", grave=True)

    def _ask(self, key: str) -> None:
        self.working.ask(key)
        self.title_block.mark(self.working.key or None)

    def show_working(self, key: str) -> None:
        """Open the working of a figure."""
        if self.working.key != key:
            self._ask(key)

    def open_sheet(self, key: str) -> None:
        """Open the sheet of a stop."""
        with window_at_work():
            self._turn_to(key)

    def _turn_to(self, key: str) -> None:
        if key not in self.sheets:
            sheet: Sheet = LEAVES[key].make(self._stage, self.store)
            sheet.wants.connect(self.open_sheet)
            sheet.asks.connect(self._ask)
            self.sheets[key] = sheet
            self._lay_stage()
        if self.open_key:
            self.sheets[self.open_key].hide()
        self.open_key = key
        self.store.show_ghost(None)
        self.sheets[key].show()
        self.sheets[key].lower()
        self.sheets[key].setFocus()
        self.title_block.update()
        self.trail.show_stop(self.sheet.stop)
        self.margin.show_stop(self.sheet.stop)
        self._show_selection()

    @property
    def sheet(self) -> Sheet:
        return self.sheets[self.open_key]

    def _show_selection(self) -> None:
        if self.open_key:
            self.margin.dimensions.show_selection(self.sheet.selection())

    def _refresh(self) -> None:
        name = self.store.design.name
        self.setWindowTitle(f"{name}{' *' if self.store.unsaved else ''} – Ridgeline")
        self._show_selection()

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        width, height = self.width(), self.height()
        self.bar.setGeometry(0, 0, width, BAR)
        self._body.setGeometry(0, 0, width, height)
        self.trail.setGeometry(0, BAR, WIDTH, height - BAR - TITLE_HEIGHT)
        self.margin.setGeometry(width - MARGIN_WIDTH, BAR, MARGIN_WIDTH, height - BAR - TITLE_HEIGHT)
        self.title_block.setGeometry(0, height - TITLE_HEIGHT, width, TITLE_HEIGHT)
        self._stage.setGeometry(WIDTH, BAR, width - WIDTH - MARGIN_WIDTH, height - BAR - TITLE_HEIGHT)
        self._lay_stage()
        if self.working.isVisible():
            self.working.place()
        self.filing.place()
        self._refresh()

    def _lay_stage(self) -> None:
        """Place the open sheet, over a notice that stands; one that passes by lies over its foot for a moment."""
        stage, notice = self._stage.rect(), self.notice
        notice.setGeometry(0, stage.height() - notice.height(), stage.width(), notice.height())
        room = stage.height() - (notice.height() if notice.standing else 0)
        for sheet in self.sheets.values():
            sheet.setGeometry(0, 0, stage.width(), room)

    def _menus(self) -> None:
        self.bar.raise_()
        design = self.bar.menus.addMenu("Design")
        self._action(design, "New", "Ctrl+N", self.new)
        self._action(design, "Open…", "Ctrl+O", self.filing.choose_open)
        self.recent = design.addMenu("Recent")
        self.recent.aboutToShow.connect(partial(self.filing.fill_recent, self.recent))
        samples = design.addMenu("Samples")
        for name, words in SAMPLES:
            samples.addAction(words).triggered.connect(lambda _=False, n=name: self.open(f"demo:{n}"))
        samples.addSeparator()
        samples.addAction("All as silhouettes").triggered.connect(lambda _=False: self.open_gallery())
        design.addSeparator()
        self._action(design, "Save", "Ctrl+S", self.filing.save)
        self._action(design, "Save as…", "Ctrl+Shift+S", self.filing.choose_save)
        self.earlier = design.addMenu("Earlier saves")
        self.earlier.aboutToShow.connect(partial(self.filing.fill_earlier, self.earlier))
        exports = design.addMenu("Write out")
        for row in EXPORTS:
            exports.addAction(f"{row.words}…").triggered.connect(
                lambda _=False, key=row.key: ask_export(self, self.store, key)
            )
        self._action(design, "Work not saved…", "", partial(self.filing.offer, asked=True))
        design.addSeparator()
        self._action(design, "Quit", "Ctrl+Q", self.close)
        edit = self.bar.menus.addMenu("Edit")
        self._action(edit, "Undo", "Ctrl+Z", self.store.undo)
        self._action(edit, "Redo", "Ctrl+Shift+Z", self.store.redo)
        edit.addSeparator()
        self._action(edit, "Keep this version", "Ctrl+Shift+K", partial(keep_version, self.store))
        self._action(edit, "Log a flight", "Ctrl+Shift+L", self.log_flight)
        self._action(edit, "Scale the airframe", "", self.ask_scale)
        self._action(edit, "Throws of another design…", "", partial(ask_throws, self, self.store))
        adding = edit.addMenu("Add a surface")
        for words, role in ADDED_SURFACES:
            adding.addAction(words).triggered.connect(lambda _=False, r=role: self._add_surface(r))
        parts = edit.addMenu("Add a part")
        for words, add in ADDED_PARTS:
            parts.addAction(words).triggered.connect(lambda _=False, do=add: self._add_part(do))
        for label, change in (*SURFACE_EDITS, *PART_EDITS):
            self._action(edit, label, "", partial(change, self.store))
        pictures = edit.addMenu("Picture under a view")
        views: tuple[ViewName, ...] = ("plan", "side", "front")
        for name in views:
            pictures.addAction(f"Under the {name}…").triggered.connect(lambda _=False, v=name: self.choose_picture(v))
        pictures.addSeparator()
        pictures.addAction("Scale by two points").triggered.connect(lambda _=False: self.scale_picture())
        pictures.addAction("Show or hide").triggered.connect(lambda _=False: self.turn_picture())
        pictures.addAction("Take it out").triggered.connect(lambda _=False: self.remove_picture())
        view = self.bar.menus.addMenu("View")
        for number, stop in enumerate(STOPS, start=1):
            if stop.alive:
                view.addAction(f"{stop.name}\tAlt+{number}").triggered.connect(
                    lambda _=False, key=stop.key: self.open_sheet(key)
                )
        view.addSeparator()
        self._action(view, "Light or dark", "Ctrl+D", self.turn_theme)
        self._action(view, "Millimetres or inches", "Ctrl+U", self.turn_units)
        self.text_sizes = view.addMenu("Text size")
        self.text_sizes.aboutToShow.connect(partial(fill_text_sizes, self.text_sizes, self))
        helping = self.bar.menus.addMenu("Help")
        self._action(helping, "Find a figure or command", "Ctrl+K", self.bar.command.setFocus)
        self._action(helping, "Keys", "F1", self._say_keys)

    def _action(self, menu: QMenu, words: str, keys: str, do: Callable[[], object]) -> QAction:
        action = menu.addAction(words)
        if keys:
            action.setShortcut(QKeySequence(keys))
        action.triggered.connect(lambda _=False: do())
        self.addAction(action)
        return action

    def _say_keys(self) -> None:
        self.notice.say("Alt+1 to 9 open the stops; Tab reaches every handle, arrows move it; Ctrl+K finds a figure.")

    def commands(self) -> list[Command]:
        """Return what can be done by its words alone."""
        done: list[Command] = [
            ("Save", self.filing.save),
            ("Undo", self.store.undo),
            ("Redo", self.store.redo),
            ("Light or dark", self.turn_theme),
            ("Millimetres or inches", self.turn_units),
            ("New design", self.new),
            ("Keep this version", partial(keep_version, self.store)),
            ("Log a flight", self.log_flight),
            ("Scale the airframe", self.ask_scale),
            ("Gallery of samples", self.open_gallery),
        ]
        done += [(words, partial(change, self.store)) for words, change in (*SURFACE_EDITS, *PART_EDITS)]
        done += [(f"Add: {words}", partial(self._add_part, add)) for words, add in ADDED_PARTS]
        done += [(f"Add: {words}", partial(self._add_surface, role)) for words, role in ADDED_SURFACES]
        done += [(f"Text size {size} %", partial(choose_text_size, self, size)) for size in SIZES]
        done += [(f"Write out: {row.words}", partial(ask_export, self, self.store, row.key)) for row in EXPORTS]
        return done

    def open_gallery(self) -> None:
        """Turn to the gallery of samples."""
        self.open_sheet("shape.start")
        sheet = self.sheet
        if hasattr(sheet, "turn"):
            sheet.turn(True)

    def log_flight(self) -> None:
        """Log a flight, and turn to it with the hand in its first field."""
        self.open_sheet("flights")
        sheet = self.sheet
        if hasattr(sheet, "fly"):
            sheet.fly()

    def ask_scale(self) -> None:
        """Write a scale into the command line, to be changed and confirmed there."""
        self.bar.command.setFocus()
        self.bar.command.setText("scale 1.2, tail 1.0")
        self.bar.command.selectAll()

    def new(self) -> None:
        """Start an empty design; unsaved work stays in its journal."""
        self.store.start(Design())
        self.open_sheet("brief")

    def open(self, place: str | Path) -> bool:
        """Open a design file or a sample."""
        done = self.store.open(place)
        if done:
            self.open_sheet("balance" if self.store.design.surfaces else "brief")
        return done

    def _add_surface(self, role: Role) -> None:
        self.open_sheet("shape")
        add_surface(self.store, role)

    def _add_part(self, add: Callable[[Store], None]) -> None:
        self.open_sheet("shape")
        add(self.store)

    def choose_picture(self, view: ViewName) -> None:
        """Ask for a picture and put it under a view of the Shape."""
        from ridgeline.desk.sheets.shape.underlay import add_underlay

        name, _kind = QFileDialog.getOpenFileName(self, f"Picture under the {view}", "", _PICTURES)
        if name and add_underlay(self.store, name, view):
            self.open_sheet("shape")
            self.scale_picture()

    def _picture(self) -> int | None:
        """Return the selected picture, or the last; None without one, which is said."""
        count, spot = len(self.store.design.underlays), self.store.spot("picture")
        if not count:
            self.notice.say("There is no picture under a view yet: Edit, Picture under a view.")
            return None
        return count - 1 if spot is None else spot.index

    def scale_picture(self) -> None:
        """Scale a picture by two picked points and their distance."""
        index = self._picture()
        if index is not None:
            self.open_sheet("shape")
            self.store.select(f"underlays[{index}]")
            sheet = self.sheet
            if hasattr(sheet, "scale_picture"):
                sheet.scale_picture(index)

    def turn_picture(self) -> None:
        """Show or hide a picture."""
        index = self._picture()
        if index is not None:
            shown = self.store.design.underlays[index].shown
            self.store.put(f"underlays[{index}].shown", not shown, "Hide the picture" if shown else "Show the picture")

    def remove_picture(self) -> None:
        """Take a picture out of the design."""
        index = self._picture()
        if index is not None:
            self.store.edit([Change(f"underlays[{index}]", REMOVE)], "Take the picture out")

    def turn_theme(self) -> None:
        """Change between light and dark."""
        from ridgeline.desk.theme import dress

        app = QApplication.instance()
        if isinstance(app, QApplication):
            name = "light" if theme.dark else "dark"
            dress(app, name)
            self._remember(theme=name)
        for widget in self.findChildren(QWidget):
            widget.update()

    def turn_units(self) -> None:
        """Change between millimetres and inches."""
        system = "imperial" if self.store.system == "metric" else "metric"
        self.store.choose_units(system)
        self._remember(units=system)
        self.bar.update()

    def _remember(self, **chosen: str) -> None:
        try:
            choices.remember(**chosen)
        except DesignError as error:
            self.notice.say(str(error), grave=True)

    def dragEnterEvent(self, event: QDragEnterEvent) -> None:
        if event.mimeData().hasUrls():
            event.acceptProposedAction()

    def dropEvent(self, event: QDropEvent) -> None:
        urls = event.mimeData().urls()
        if urls:
            self.open(urls[0].toLocalFile())

    def changeEvent(self, event: QEvent) -> None:
        super().changeEvent(event)
        if event.type() == QEvent.Type.WindowDeactivate:
            self.store.show_ghost(None)
        elif event.type() == QEvent.Type.WindowActivate:
            self.filing.look_around()

    def closeEvent(self, event: QCloseEvent) -> None:
        # No question asked: unsaved work is kept and offered at the next start.
        self.store.close()
        event.accept()
