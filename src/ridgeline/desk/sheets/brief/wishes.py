"""Brief: the purpose, the wishes as sentences, what they allow, and what it comes to."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QMenu, QWidget

from ridgeline.design.document import Design
from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.drawing import View, draw_aircraft, fitted
from ridgeline.desk.laying_out import lay_out_airframe
from ridgeline.desk.paint import cg_mark, dimension, fit, heading, line, pen, rule, wrap, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.brief.purposes import COLUMN, PURPOSE_ROW, TIGHT_BELOW, TIGHT_ROW, PurposeRow
from ridgeline.desk.store import Store
from ridgeline.desk.theme import HEADING, LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton, WordButton
from ridgeline.desk.widgets.constraint_plot import ConstraintPlot
from ridgeline.desk.widgets.fields import PathField
from ridgeline.desk.widgets.sentences import Sentence, Sentences
from ridgeline.engine.geometry.surfaces import measure_surface
from ridgeline.engine.sizing.arrangements import ARRANGEMENTS
from ridgeline.engine.sizing.constraints import start_brief
from ridgeline.engine.sizing.purposes import PURPOSES
from ridgeline.engine.sizing.wishes import given_back
from ridgeline.errors import DesignError
from ridgeline.units import shown, with_unit

CHOICES: dict[str, tuple[str, tuple[tuple[str, str], ...]]] = {
    "brief.build_method": (
        "build method",
        (
            ("foam_board", "foam board 5 mm"),
            ("extruded_foam", "extruded sheet 6 mm"),
            ("printed_foaming", "foaming plastic, printed"),
            ("printed_plain", "plain plastic, printed"),
        ),
    ),
    "brief.controls": (
        "controls",
        (
            ("rudder_elevator", "rudder and elevator"),
            ("aileron_elevator", "ailerons and elevator"),
            ("full_house", "ailerons, flaps, rudder"),
            ("elevons", "elevons"),
            ("none", "no controls"),
        ),
    ),
    "brief.layout": ("layout", tuple((key, facts.label.lower()) for key, facts in ARRANGEMENTS.items())),
    "brief.propulsion": ("what drives it", (("electric", "a motor"), ("none", "nothing"))),
    "brief.launch": ("launch", (("hand", "by hand"), ("wheels", "from wheels"), ("bungee", "by bungee"))),
}

#: Length of the ruler drawn beside the sketch, m.
_STICK = 0.30


class BriefSheet(Sheet):
    """From a purpose to a design point, and to an airframe laid out from it."""

    key, needs_airframe = "brief", False

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.purposes = {key: PurposeRow(self, store, key) for key in PURPOSES}
        for key, row in self.purposes.items():
            row.clicked.connect(lambda _=False, k=key: self.choose_purpose(k))
        self.wishes = Sentences(self)
        self.words: dict[str, WordButton] = {path: self._word(path) for path in CHOICES}  # type: ignore[assignment]
        self.fields: dict[str, PathField] = {}
        self.packs = WordButton(self.wishes, "packs on hand", (), self._pack_words, lambda _value: None)
        self.packs.clicked.disconnect()
        self.packs.clicked.connect(self._open_packs)
        self._tell()
        self.plot = ConstraintPlot(self, store)
        self.lay_out_button = RuledButton(self, "Lay out the airframe", aside="Ctrl+Z undoes", bold=True, strong=True)
        self.lay_out_button.clicked.connect(self.lay_out)
        self._sketch = Design()
        #: Why the wishes come to no airframe, where they do not.
        self._why_not = ""
        self._sketch_of: object = None

    def subtitle(self) -> str:
        brief = self.store.design.brief
        launch = {"hand": "hand-launched", "wheels": "wheeled", "bungee": "bungee-launched"}[brief.launch]
        label = PURPOSES[brief.purpose].label.lower()
        return f"a {launch} {label} design, under {with_unit(brief.ceiling, 'mass', self.store.units)}"

    def _word(self, path: str) -> WordButton:
        name, choices = CHOICES[path]
        field = path.removeprefix("brief.")

        def choose(value: str) -> None:
            self.store.put(path, value, f"Set {name}")

        return WordButton(self.wishes, name, choices, lambda: str(getattr(self.store.design.brief, field)), choose)

    def _field(self, path: str, name: str) -> PathField:
        field = PathField(self.wishes, self.store, f"brief.{path}", name, right=False, unit=True)
        self.fields[path] = field
        return field

    def _tell(self) -> None:
        w, f = self.words, self._field
        self.wishes.tell(
            (
                Sentence(
                    (
                        "Built from",
                        w["brief.build_method"],
                        ", with",
                        w["brief.controls"],
                        ", laid out as",
                        w["brief.layout"],
                        ".",
                    )
                ),
                Sentence(
                    (
                        "Driven by",
                        w["brief.propulsion"],
                        ", launched",
                        w["brief.launch"],
                        "in",
                        f("head_wind", "head wind"),
                        "wind, over",
                        f("field", "space it is flown in, across"),
                        "of field, off wheels in",
                        f("ground_roll", "take-off run"),
                        ".",
                    )
                ),
                Sentence(
                    (
                        "At most",
                        f("ceiling", "ceiling weight"),
                        "and",
                        f("span_limit", "span limit"),
                        "of span, carrying",
                        f("payload", "payload"),
                        ", boxed in",
                        f("box_length", "transport box, longest side"),
                        "×",
                        f("box_width", "transport box, middle side"),
                        "×",
                        f("box_height", "transport box, shortest side"),
                        ".",
                    )
                ),
                Sentence(
                    (
                        "Flown",
                        f("elevation", "field elevation"),
                        "above the sea at",
                        f("temperature_c", "air temperature"),
                        ".",
                    )
                ),
                Sentence(
                    (
                        "Stalls below",
                        f("stall_speed", "stall speed wish"),
                        ", climbs",
                        f("climb_rate", "climb wish"),
                        ", turns at",
                        f("bank", "bank in a turn"),
                        ", stays up",
                        f("endurance", "wished time"),
                        ".",
                    )
                ),
                Sentence(("Packs on hand:", self.packs, ".")),
            )
        )

    def _pack_words(self) -> str:
        packs = self.store.design.brief.packs
        return (
            ", ".join(packs[:3]) + (f" and {len(packs) - 3} more" if len(packs) > 3 else "")
            if packs
            else "any of the library"
        )

    def _open_packs(self) -> None:
        from ridgeline.library import shipped_shelf

        menu = QMenu(self)
        for pack in shipped_shelf().packs:
            action = menu.addAction(pack.name)
            action.setCheckable(True)
            action.setChecked(pack.name in self.store.design.brief.packs)
            action.triggered.connect(lambda on, name=pack.name: self._set_pack(name, on))
        menu.popup(self.packs.mapToGlobal(self.packs.rect().bottomLeft()))

    def _set_pack(self, name: str, on: bool) -> None:
        packs = [p for p in self.store.design.brief.packs if p != name] + ([name] if on else [])
        self.store.put("brief.packs", tuple(packs), "Set packs on hand")

    def choose_purpose(self, key: str) -> None:
        """Take the starting values of a purpose under the builder's own; pressed again, in place of his."""
        brief, name = self.store.design.brief, PURPOSES[key].label
        if key == brief.purpose:
            self.store.put("brief", given_back(brief), f"Starting values of {name}")
        else:
            self.store.put("brief", start_brief(brief, key), f"Set purpose {name}")

    def lay_out(self) -> None:
        """Make the airframe of the brief, as one undoable step."""
        words = (
            "Laid out: weigh, balance and power it next. The Brief says what was chosen; Undo brings the old one back."
        )
        lay_out_airframe(self, self.store.design.brief, "Lay out the airframe", words, newer=True)

    def selection(self) -> Selection:
        values = PURPOSES[self.store.design.brief.purpose]

        def usual(low_high: tuple[float, float], digits: int) -> str:
            if not low_high[1]:
                return "not used without a tail"
            return f"usual {low_high[0]:.{digits}f} to {low_high[1]:.{digits}f}"

        def row(words: str, field: str, hint: str) -> Dimension:
            own = field in self.store.design.brief.typed
            return Dimension(words, f"brief.{field}", hint=f"yours; {hint}" if own else hint)

        unit = self.store.units["loading"]
        loading = (values.loading[0] * unit.factor, values.loading[1] * unit.factor)
        margin = (100 * values.static_margin[0], 100 * values.static_margin[1])
        return Selection(
            "starting values",
            (
                row("Wing loading", "wing_loading", usual(loading, 0)),
                row("Thrust ratio", "thrust_ratio", usual(values.thrust_ratio, 1)),
                row("Aspect ratio", "aspect_ratio", usual(values.aspect_ratio, 1)),
                row("Tail volume", "tail_volume_h", usual(values.volume_h, 2)),
                row("Fin volume", "tail_volume_v", usual(values.volume_v, 3)),
                row("Static margin", "static_margin", usual(margin, 0)),
                row("Cruise over stall", "cruise_ratio", "usual 1.6 to 2.2"),
            ),
        )

    @property
    def _row(self) -> int:
        return TIGHT_ROW if self.height() < TIGHT_BELOW else PURPOSE_ROW

    def arrange(self) -> None:
        for index, row in enumerate(self.purposes.values()):
            row.setGeometry(PAD, 62 + index * self._row, COLUMN, self._row)
            row.setChecked(row.key == self.store.design.brief.purpose)
        for button in (*self.words.values(), self.packs):
            button.refresh()
        top = 62 + len(self.purposes) * self._row + 38
        self.wishes.setGeometry(PAD, top, COLUMN, self.height() - top - 46)
        self.wishes.tight = self.height() < TIGHT_BELOW
        self.wishes.flow()
        self.lay_out_button.setGeometry(PAD, self.height() - 42, COLUMN, 32)
        right = PAD + COLUMN + 20
        self.plot.setGeometry(right, 58, self.width() - right - 12, int(0.50 * self.height()))

    def refresh(self) -> None:
        if self._sketch_of is not self.store.design.brief:
            self._sketch_of = self.store.design.brief
            from ridgeline.engine.sizing.outline import sketch

            self._why_not = ""
            try:
                self._sketch = sketch(self.store.design.brief)
            except DesignError as error:
                self._sketch, self._why_not = Design(), f"They come to {error.understood}. Needed: {error.allowed}."
        super().refresh()

    def draw(self, p: QPainter) -> None:
        if not self._sketch.surfaces and not self._why_not:
            self.refresh()
        inks = theme.inks
        heading(p, PAD, 48, COLUMN, "Purpose")
        unit = self.store.units["loading"].symbol
        write(p, PAD + 158, 48, unit, LABEL, inks.soft, align="right")
        write(p, PAD + 206, 48, "T/W", LABEL, inks.soft, align="right")
        heading(p, PAD, 62 + len(self.purposes) * self._row + 24, COLUMN, "Wishes", "press an underlined value")
        right = PAD + COLUMN + 20
        line(p, right - 10.5, 36, right - 10.5, self.height() - 8, inks.hair)
        used = write(p, right, 48, "What the wishes allow", 13, bold=True)
        aside = f"thrust ratio over wing loading, lift limit {self.plot.drawn_for:.2f}"
        room = self.width() - PAD - right - used - 14
        write(p, self.width() - PAD, 48, fit(aside, room, LABEL), LABEL, inks.soft, align="right")
        self._draw_outcome(
            p, QRectF(right, 58 + int(0.50 * self.height()) + 8, self.width() - right - PAD, 0.50 * self.height() - 74)
        )

    def _draw_outcome(self, p: QPainter, area: QRectF) -> None:
        inks = theme.inks
        rule(p, area.left(), area.top() - 4, area.width())
        write(p, area.left(), area.top() + 14, "What it comes to", 13, bold=True)
        if self._why_not:
            write(p, area.left(), area.top() + 44, "These wishes come to no airframe.", HEADING, bold=True)
            for index, words in enumerate(wrap(self._why_not, area.width() - 20, VALUE)):
                write(p, area.left(), area.top() + 66 + 17 * index, words, VALUE, inks.stop)
            return
        rows = self._outcome_rows()
        left = area.right() - 142
        line(p, left - 12.5, area.top(), left - 12.5, area.bottom(), inks.hair)
        pitch = min(24.0, (area.height() - 4) / len(rows))
        for index, (label, value, unit) in enumerate(rows):
            y = area.top() + 12 + index * pitch
            write(p, left, y, label, LABEL, inks.soft)
            write(p, area.right() - 30, y, value, VALUE, align="right")
            write(p, area.right() - 26, y, unit, LABEL, inks.soft)
        room = QRectF(area.left() + 6, area.top() + 40, left - 24 - area.left() - 12, area.height() - 48)
        view = fitted(self._sketch, "plan", room)
        if _STICK * view.scale > 0.5 * room.width() - 0.5 * self._tail_span() * view.scale:
            # The ruler lies under a tail that reaches over it.
            view = fitted(self._sketch, "plan", room.adjusted(0, 0, 0, -30))
        self.scale = view.scale
        self._draw_sketch(p, view, room)

    def _tail_span(self) -> float:
        """Return how wide the rearmost surface of the sketch is, m."""
        return measure_surface(max(self._sketch.surfaces, key=lambda s: s.x)).span

    def _draw_sketch(self, p: QPainter, view: View, room: QRectF) -> None:
        inks = theme.inks
        draw_aircraft(p, self._sketch, view, fill=inks.fill)
        wing = self._sketch.surfaces[0]
        half_span = wing.stations[-1].y
        (x1, _), (x2, _) = view.at((0, -half_span, 0)), view.at((0, half_span, 0))
        y = view.at((wing.x, 0, 0))[1]
        dimension(p, x1, x2, y - 14, self.length(2 * half_span), witness=(y + 10, y + 10))
        measured = measure_surface(wing)
        cg = view.at((wing.x + measured.mean_chord.x_leading_edge + 0.33 * measured.mean_chord.length, 0.0, 0.0))
        cg_mark(p, *cg, 5)
        self._draw_stick(p, view, room)

    def _draw_stick(self, p: QPainter, view: View, room: QRectF) -> None:
        """Draw a 30 cm ruler at the same scale, for the eye."""
        inks = theme.inks
        metric = self.store.system == "metric"
        real = _STICK if metric else 0.3048
        wide = real * view.scale
        box = QRectF(room.left(), room.bottom() - 26, wide, 11)
        p.setPen(pen(inks.ink, 1))
        p.setBrush(inks.ruler)
        p.drawRect(box)
        p.setBrush(Qt.BrushStyle.NoBrush)
        parts = 30 if metric else 12
        for index in range(1, parts):
            x = box.left() + index * wide / parts
            line(p, x, box.top(), x, box.top() + (5 if index % 5 == 0 else 3), inks.ink)
        write(p, box.left(), box.bottom() + 14, "ruler, 30 cm" if metric else "ruler, 1 ft", LABEL, inks.soft)

    def _outcome_rows(self) -> list[tuple[str, str, str]]:
        from ridgeline.engine.sizing.outline import outcome

        units = self.store.units
        rows = []
        for label, value, quantity in outcome(self.store.design.brief, self._sketch.surfaces):
            rows.append((label, shown(value, quantity, units), units[quantity].symbol))
        return rows
