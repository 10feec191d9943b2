"""Log: the setup list at the left, the flights, what was measured beside what is predicted, and the versions flown."""

from __future__ import annotations

from time import monotonic
from typing import Any

from PySide6.QtCore import QRectF, Qt, QTimer
from PySide6.QtGui import QKeyEvent, QPainter

from ridgeline.design.flights import SightingKey
from ridgeline.design.keeping import is_kept
from ridgeline.desk.album import Album
from ridgeline.desk.dimensions import Selection
from ridgeline.desk.paint import fit, heading, line, write
from ridgeline.desk.scales import Scale, short_scale
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.flights.flight_rows import flight_rows, log_words
from ridgeline.desk.sheets.flights.log_list import LogList
from ridgeline.desk.sheets.flights.passes import COURSE, Course, PassEntry
from ridgeline.desk.sheets.flights.seen_picks import SeenPicks
from ridgeline.desk.sheets.flights.setup_rows import SetupList, turn_line
from ridgeline.desk.sheets.flights.version_strip import VersionStrip
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.version_edits import keep_version, log_flight
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.engine.advice.measured import MeasuredPair, measured_pairs
from ridgeline.engine.bands import BAND
from ridgeline.units import shown

#: Width of the setup column, height of the strip of versions, and of what is measured and picked, px.
_SETUP, _SETUP_NARROW, _STRIP, _FOOT = 186, 152, 124, 246
#: A sheet narrower than this tells less beside each line, and a row of figures too, px.
_NARROW, _NARROW_ROW, _ONE_ROW = 700, 190, 520
#: The watch is read so often while it runs, ms.
_TICK = 200


class FlightsSheet(Sheet):
    """The log of the flights."""

    key = "flights"

    def __init__(self, *arguments: Any) -> None:
        super().__init__(*arguments)
        self.setup = SetupList(self, self.store, together=True)
        self.setup.turned.connect(self._turn)
        self.setup.fitted.connect(lambda _row: self.wants.emit("flights.setup"))
        self.log = LogList(self, self.store)
        self.log.picked.connect(self._chosen)
        self.log.fitted.connect(lambda _row: self.type_first())
        self.seen = SeenPicks(self, self._turn_seen)
        self.strip = VersionStrip(self, self.store, Album(self.store))
        self.strip.paired.connect(self._compare)
        self.new_button = RuledButton(self, "New flight  N", bold=True)
        self.new_button.clicked.connect(self.fly)
        self.watch_button = RuledButton(self, "Start the watch  W")
        self.watch_button.clicked.connect(self.turn_watch)
        self.keep_button = RuledButton(self, "Keep this version")
        self.keep_button.clicked.connect(self.keep_version)
        self.course = COURSE
        self.course_field = Course(self, self)
        self.pass_fields = {"up": PassEntry(self, self, "up"), "down": PassEntry(self, self, "down")}
        #: When the watch was started, s of the machine's clock; None while it stands.
        self._started: float | None = None
        #: Id of the flight it was started for, whichever is looked at when it stops.
        self._timed = ""
        self._ticking = QTimer(self, interval=_TICK)
        self._ticking.timeout.connect(self._tick)

    # -- what is shown ------------------------------------------------------------------------------------------------

    @property
    def place(self) -> int | None:
        """Return the place of the flight that is chosen; None where none is."""
        many = len(self.store.design.flights)
        return self.log.chosen if 0 <= self.log.chosen < many else None

    def subtitle(self) -> str:
        return "" if self.empty else log_words(self.store)

    def selection(self) -> Selection:
        place = None if self.empty else self.place
        if place is None:
            return Selection("", ())
        words = "Start the watch" if self._started is None else "Stop the watch"
        return flight_rows(self.store, place, (words, self.turn_watch))

    def _chosen(self, _row: int) -> None:
        self.refresh()
        self.store.selected.emit()

    # -- what is done -------------------------------------------------------------------------------------------------

    def fly(self) -> None:
        """Log a flight; the first of its fields is ready to type in."""
        if log_flight(self.store):
            self.type_first()

    def type_first(self) -> None:
        """Put the hand into the first field of the flight."""
        self.store.selected.emit()
        window = self.window()
        margin = getattr(window, "margin", None)
        if margin is not None and self.place is not None:
            field = margin.dimensions.fields.get(f"flights[{self.place}].aloft")
            if field is not None:
                field.setFocus(Qt.FocusReason.TabFocusReason)

    def keep_version(self) -> None:
        """Keep the aircraft as it stands as a version."""
        if keep_version(self.store):
            self.strip.choose(self.store.design.revision)

    def _turn(self, row: int) -> None:
        if not 0 <= row < len(self.setup.rows):
            return
        lines = self.setup.rows[row].lines
        if lines[0].walked is not None:
            self.wants.emit("controls.radio")
        elif len(lines) > 1 or not turn_line(self.store, lines[0]):
            self.wants.emit("flights.setup")

    def _turn_seen(self, key: SightingKey) -> None:
        if self.place is None:
            self.store.noted.emit("Log a flight first: N.")
            return
        seen = self.store.design.flights[self.place].seen
        fresh = tuple(one for one in seen if one != key) if key in seen else (*seen, key)
        self.store.put(f"flights[{self.place}].seen", fresh, "What was seen")

    def _compare(self, one: int, other: int) -> None:
        self.wants.emit("flights.versions")
        leaf = getattr(self.window(), "sheets", {}).get("flights.versions")
        if leaf is not None:
            leaf.show_pair(one, other)

    # -- the watch ----------------------------------------------------------------------------------------------------

    @property
    def elapsed(self) -> float:
        """Return what the watch shows, s; nothing while it stands."""
        return 0.0 if self._started is None else monotonic() - self._started

    def turn_watch(self) -> None:
        """Start the watch, or stop it and write what it shows into the flight; without one a flight begins with it."""
        if self._started is None:
            if self.place is None:
                self.fly()
            self._timed = "" if self.place is None else self.store.design.flights[self.place].id
            self._started = monotonic()
            self._ticking.start()
        else:
            seconds, self._started = self.elapsed, None
            self._ticking.stop()
            place = next((k for k, one in enumerate(self.store.design.flights) if one.id == self._timed), None)
            if place is not None:
                self.store.put(f"flights[{place}].aloft", max(round(seconds, 1), 1.0), "Time in the air")
        self._tick()
        self.store.selected.emit()

    def _tick(self) -> None:
        seconds = int(self.elapsed)
        words = "Start the watch  W" if self._started is None else f"Stop at {seconds // 60}:{seconds % 60:02d}  W"
        self.watch_button.say(words)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        acts = {Qt.Key.Key_N: self.fly, Qt.Key.Key_W: self.turn_watch, Qt.Key.Key_K: self.keep_version}
        act = acts.get(Qt.Key(event.key())) if not event.modifiers() else None
        if act is None or self.empty:
            super().keyPressEvent(event)
        else:
            act()

    # -- drawing ------------------------------------------------------------------------------------------------------

    def arrange(self) -> None:
        wide, tall = self.width(), self.height()
        strip = tall - _STRIP
        self.setup.setGeometry(PAD, 64, self._setup, strip - 72)
        left = PAD + self._setup + 18
        room = wide - PAD - left
        foot = strip - _FOOT
        # Where one row has no room for buttons and passes there are two.
        lower = 28 if room < _ONE_ROW else 0
        self.log.setGeometry(left, 66, room, foot - 100 - lower)
        y = foot - 30 - lower
        self.new_button.setGeometry(left, y, 108, 24)
        self.watch_button.setGeometry(left + 114, y, 136, 24)
        x, y = wide - PAD, y + lower + 2
        for way in ("down", "up"):
            self.pass_fields[way].setGeometry(x - 50, y, 50, 20)
            x -= 50 + (38 if way == "down" else 66)
        self.course_field.setGeometry(x - 46, y, 46, 20)
        for field in (self.course_field, *self.pass_fields.values()):
            field.setProperty("off", self.place is None)
            field.setVisible(self.place is not None)
        half = self._half(room)
        self.seen.setGeometry(int(left + half + 16), foot + 28, int(room - half - 16), _FOOT - 34)
        self.strip.setGeometry(PAD, strip + 30, wide - 2 * PAD, _STRIP - 34)
        self.keep_button.setGeometry(wide - PAD - 130, strip + 2, 130, 22)
        self.keep_button.setVisible(not is_kept(self.store.design))
        self.setup.renew()
        self.log.renew()
        self.seen.setEnabled(self.place is not None)
        self.seen.show_chosen(() if self.place is None else self.store.design.flights[self.place].seen)
        self.strip.renew()
        for entry in (self.course_field, *self.pass_fields.values()):
            entry.refresh()
        self.follow(self.place)

    @property
    def _setup(self) -> int:
        return _SETUP_NARROW if self.width() < _NARROW else _SETUP

    def _half(self, room: float) -> float:
        return (0.34 if self.width() < _NARROW else 0.42) * room

    def draw(self, p: QPainter) -> None:
        inks, wide = theme.inks, self.width()
        strip, left = self.height() - _STRIP, PAD + self._setup + 18
        room, foot = wide - PAD - left, self.height() - _STRIP - _FOOT
        done = sum(row.state == "done" for row in self.setup.rows)
        heading(p, PAD, 52, self._setup, "Setup", f"{done} of {len(self.setup.rows)}")
        line(p, left - 9.5, 40, left - 9.5, strip, inks.hair)
        heading(p, left, 52, room, "Log", "one line a flight", strong=False)
        if not self.log.rows:
            write(
                p,
                left,
                112,
                fit("Nothing flown yet. N logs a flight; W starts the watch with it.", room),
                VALUE,
                inks.soft,
            )
        if self.course_field.isVisible():
            y = foot - 14
            for field, words in ((self.course_field, "over"), (self.pass_fields["up"], "passes up"),
                                 (self.pass_fields["down"], "down")):  # fmt: skip
                write(p, field.x() - 6, y, words, LABEL, inks.soft, align="right")
        half = self._half(room)
        title = "Measured" if half < _NARROW_ROW else "Predicted and measured"
        heading(p, left, foot + 14, half, title, "", strong=False)
        self._draw_pairs(p, QRectF(left, foot + 34, half, _FOOT - 40))
        place = self.place
        aside = "choose a flight" if place is None else f"flight {place + 1}"
        heading(p, left + half + 16, foot + 14, room - half - 16, "What was seen", aside, strong=False)
        many = len(self.store.design.versions)
        told = "each over the one before, dashed; Enter compares" if many else ""
        kept = self.keep_button.isVisible()
        heading(p, PAD, strip + 16, wide - 2 * PAD - (140 if kept else 0), "Versions", told)

    def _draw_pairs(self, p: QPainter, area: QRectF) -> None:
        pairs = measured_pairs(self.store.design, self.store.report)
        pitch = min(38.0, area.height() / max(len(pairs), 1))
        for k, pair in enumerate(pairs):
            self._draw_pair(p, QRectF(area.left(), area.top() + k * pitch, area.width(), pitch), pair)

    def _draw_pair(self, p: QPainter, row: QRectF, pair: MeasuredPair) -> None:
        """Draw one figure with its band, and what was measured of it under the same scale."""
        inks, units, figure = theme.inks, self.store.units, pair.figure
        narrow = row.width() < _NARROW_ROW
        y, right = row.top() + 13, row.right() - (0 if narrow else 30)
        write(p, row.left(), y, fit(pair.label, row.width() - (42 if narrow else 100)), VALUE)
        told = None if pair.measured is None else shown(pair.measured.value, figure.quantity, units)
        if not narrow:
            write(p, row.right(), y, units[figure.quantity].symbol, LABEL, inks.soft, align="right")
        if told is not None or not narrow:
            write(p, right, y, told or "–", VALUE, inks.measured, told is not None, "right")
        if figure.value is None:
            return
        words = shown(figure.value, figure.quantity, units)
        if told is None or not narrow:
            # What a narrow row has no room for is told by its scale.
            at = right if narrow else right - 48
            self.written(p, at, y, words, figure.key, VALUE, inks.predicted, align="right")
        scale = QRectF(row.left() + 2, row.top() + 16, row.width() - 6, 7)
        spans = [figure.below, figure.above]
        if pair.measured is not None:
            spans += [abs(pair.measured.value - figure.value) + BAND * pair.measured.sigma]
        reach = 1.25 * max(*spans, 1e-9)
        low, high = figure.value - reach, figure.value + reach
        short_scale(p, scale, low, high, figure.value, (figure.below, figure.above), None, inks.predicted)
        if pair.measured is not None:
            self._draw_measured(p, scale, Scale(low, high, scale.left(), scale.right()), pair)

    @staticmethod
    def _draw_measured(p: QPainter, scale: QRectF, place: Scale, pair: MeasuredPair) -> None:
        inks, told = theme.inks, pair.measured
        assert told is not None
        ends = [place.held(told.value + sign * BAND * told.sigma) for sign in (-1, 1)]
        y = scale.bottom() + 4
        line(p, ends[0], y, ends[1], y, inks.measured, 2)
        line(p, place.held(told.value), y - 3, place.held(told.value), y + 4, inks.measured, 2)
