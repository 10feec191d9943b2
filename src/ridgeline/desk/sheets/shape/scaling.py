"""Scale: an airframe made larger or smaller, or from an original of any size, with what it comes to at once."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from ridgeline.design.document import Design
from ridgeline.desk.drawing import View, draw_aircraft, extent
from ridgeline.desk.paint import cg_mark, fit, heading, line, rule, write
from ridgeline.desk.scales import nice_step, ruler
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton, WordButton
from ridgeline.desk.widgets.fields import Entry
from ridgeline.engine.geometry.scaling import scaled
from ridgeline.engine.report import Report, within
from ridgeline.errors import DesignError
from ridgeline.ratios import ratio_of
from ridgeline.typed import parse, plain_number, told
from ridgeline.units import Units, shown, with_unit

_LEFT, _ROW = 252, 27
#: What is shown of the model as it would be.
_COMES_TO = (
    ("wing.span", "Span"),
    ("wing.area", "Wing area"),
    ("mass.auw", "All-up weight"),
    ("wing.loading", "Wing loading"),
    ("speed.stall", "Stall speed"),
    ("tail.volume_h", "Tail volume"),
    ("balance.cg_fraction", "Balance"),
    ("stability.static_margin", "Static margin"),
    ("power.thrust_ratio", "Thrust ratio"),
)
_EXPONENTS = (("3", "all of it: its cube"), ("2.5", "between the two"), ("2", "the same sheets: its square"))


class Wanted(NamedTuple):
    """What is asked for: the original's span, m, the model over it, its tail over that, and how built mass goes."""

    original: float
    scale: float = 1.0
    tail: float = 1.0
    exponent: float = 3.0


class Outcome(NamedTuple):
    """The airframe scaled as wanted from a design, what it comes to, and why there is none."""

    of: Design
    wanted: Wanted
    design: Design | None
    report: Report | None
    why: str = ""


class ScaleField(Entry):
    """One value of the scaling, read and written by two functions."""

    def __init__(
        self, sheet: ShapeScalingSheet, words: str, read: Callable[[], str], take: Callable[[str], None]
    ) -> None:
        super().__init__(sheet, words)
        self._sheet, self._read, self._take = sheet, read, take
        self.refresh()

    def current(self) -> str:
        return self._read()

    def accept(self, text: str) -> None:
        self._take(text)
        self._sheet.refresh()

    def refusal(self, error: DesignError) -> DesignError:
        return told(error, self._sheet.store.units)


class ShapeScalingSheet(Sheet):
    """A scaled airframe beside the present one."""

    key = "shape.scale"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self._wanted: Wanted | None = None
        self._made: Outcome | None = None
        self.fields = {
            "original": ScaleField(self, "span of the original", self._span_words, self._take_original),
            "scale": ScaleField(self, "scale of the model", self._scale_words, self._take_scale),
            "span": ScaleField(self, "span of the model", self._model_words, self._take_span),
            "tail": ScaleField(self, "tail enlarged by", lambda: f"{self.wanted.tail:.2f}", self._take_tail),
        }
        self.exponent = WordButton(
            self, "how built mass grows", _EXPONENTS, lambda: f"{self.wanted.exponent:g}", self._take_exponent
        )
        self.go = RuledButton(self, "Scale it", bold=True)
        self.go.clicked.connect(self.scale_it)

    # -- what is asked for ---------------------------------------------------------------------------------------

    @property
    def span(self) -> float:
        """Return the span of the present airframe, m."""
        return self.store.report.value("wing.span") or extent(self.store.design, "plan").width()

    @property
    def wanted(self) -> Wanted:
        """Return what is asked for: the present airframe as it is, until something is typed."""
        return self._wanted or Wanted(self.span)

    @property
    def factor(self) -> float:
        """Return what every length of the present airframe is taken times."""
        return self.wanted.original * self.wanted.scale / self.span

    def _span_words(self) -> str:
        return shown(self.wanted.original, "length", self.store.units)

    def _model_words(self) -> str:
        return shown(self.wanted.original * self.wanted.scale, "length", self.store.units)

    def _scale_words(self) -> str:
        return f"{100 * self.wanted.scale:.4g} %"

    def _length(self, text: str, path: str) -> float:
        value = parse(text, "length", path=path, bare=self.store.unit_of("length"))
        if not value > 0:
            raise DesignError(path, f"“{text.strip()}”", "a span of more than nothing")
        return value

    def _take_original(self, text: str) -> None:
        self._ask(self.wanted._replace(original=self._length(text, "span of the original")), firm=False)

    def _take_scale(self, text: str) -> None:
        self._ask(self.wanted._replace(scale=ratio_of(text)))

    def _take_span(self, text: str) -> None:
        self._ask(self.wanted._replace(scale=self._length(text, "span of the model") / self.wanted.original))

    def _take_tail(self, text: str) -> None:
        try:
            value = ratio_of(text, "tail") if "%" in text or "/" in text or ":" in text else plain_number(text)
        except ValueError as error:
            raise DesignError("tail", str(error), "a factor such as 1.15 or 115 %") from error
        self._ask(self.wanted._replace(tail=value))

    def _take_exponent(self, text: str) -> None:
        self._ask(self.wanted._replace(exponent=float(text)))
        self.refresh()

    def _ask(self, wanted: Wanted, *, firm: bool = True) -> None:
        """Ask for another scaling; one that comes to no airframe is refused where it is typed.

        A span of the original alone is none yet: its scale is typed next.

        Raises
        ------
        DesignError
            When it comes to none.
        """
        before, self._wanted = self._wanted, wanted
        why = self._outcome().why
        if why and firm:
            self._wanted = before
            raise DesignError("scale", why, "what leaves every length within a model's")

    def _outcome(self) -> Outcome:
        """Return the scaled airframe and what it comes to, or why there is none."""
        design, wanted = self.store.design, self.wanted
        if self._made is None or self._made.of is not design or self._made.wanted != wanted:
            try:
                made = scaled(design, self.factor, wanted.tail, wanted.exponent)
                self._made = Outcome(design, wanted, made, self.store.report.trial()(made))
            except DesignError as error:
                self._made = Outcome(design, wanted, None, None, f"{error.path}: {error.understood}")
        return self._made

    def scale_it(self) -> None:
        """Make the scaled airframe the present one, as one undoable step."""
        outcome = self._outcome()
        design = outcome.design
        if design is None:
            self.store.noted.emit(f"It comes to no airframe: {outcome.why}.")
            return
        words = f"Scale to {self._model_words()} {self.store.units['length'].symbol} span"
        self._wanted = None
        self.store.replace(design, words)
        self.store.noted.emit("Scaled. Built items are estimates again; choose pack, motor and propeller anew.")

    # -- drawing -------------------------------------------------------------------------------------------------

    def subtitle(self) -> str:
        return f"{self._scale_words()} of {with_unit(self.wanted.original, 'length', self.store.units)}"

    def arrange(self) -> None:
        for number, field in enumerate(self.fields.values()):
            field.setGeometry(PAD + 122, 82 + _ROW * number, 84, 22)
            field.refresh()
        self.exponent.refresh()
        self.exponent.move(PAD, 82 + _ROW * len(self.fields) + 22)
        self.go.setGeometry(PAD, self.height() - 40, _LEFT - 24, 26)
        self.go.setEnabled(abs(self.factor - 1) > 1e-6 or self.wanted.tail != 1)

    def draw(self, p: QPainter) -> None:
        inks, unit = theme.inks, self.store.units["length"].symbol
        heading(p, PAD, 54, _LEFT - 24, "Original and model")
        labels = ("Span of the original", "Scale of the model", "Span of the model", "Tail larger still, ×")
        for number, (words, tail) in enumerate(zip(labels, (unit, "", unit, ""), strict=True)):
            write(p, PAD, 97 + _ROW * number, words, VALUE, inks.soft)
            write(p, PAD + 210, 97 + _ROW * number, tail, LABEL, inks.soft)
        below = 82 + _ROW * len(labels)
        write(p, PAD, below + 16, "Built mass grows with", VALUE, inks.soft)
        self._draw_outcome(p, below + 66)
        line(p, PAD + _LEFT - 12.5, 40, PAD + _LEFT - 12.5, self.height() - 14, inks.hair)
        self._draw_both(p, QRectF(PAD + _LEFT, 44, self.width() - 2 * PAD - _LEFT, self.height() - 70))

    def _draw_outcome(self, p: QPainter, top: float) -> None:
        """List what the model comes to beside what the airframe is now; out of its wanted range with a mark."""
        inks, units = theme.inks, self.store.units
        outcome = self._outcome()
        report = outcome.report
        wide = _LEFT - 24
        heading(p, PAD, top, wide, "Comes to", "now → then")
        if report is None:
            write(p, PAD, top + 26, fit(f"no airframe: {outcome.why}", wide, LABEL), LABEL, inks.stop)
            return
        y = top + 26
        for key, words in _COMES_TO:
            if y > self.height() - 54:
                break
            now, then = self.store.report.figures[key], report.figures[key]
            named = write(p, PAD, y, words, LABEL, inks.soft)
            out = then.value is not None and not within(then.value, report.wanted.get(key))
            colour = inks.look if out else inks.live
            right = PAD + wide - 34
            used = write(p, right, y, _say(then.value, then.quantity, units), VALUE, colour, True, "right")
            write(p, right + 5, y, units[then.quantity].symbol, LABEL, inks.soft)
            write(p, right - used - 10, y, f"{_say(now.value, now.quantity, units)} →", LABEL, inks.soft, align="right")
            if out:
                write(p, PAD + named + 5, y, "▲", LABEL, inks.look)
            rule(p, PAD, y + 6, wide)
            y += 21

    def _draw_both(self, p: QPainter, room: QRectF) -> None:
        """Draw the present airframe and the model, side by side at one scale."""
        inks = theme.inks
        outcome = self._outcome()
        shown_designs = [(self.store.design, self.store.report, "now")]
        if outcome.design is not None and outcome.report is not None:
            shown_designs.append((outcome.design, outcome.report, "then"))
        boxes = [extent(one, "plan") for one, _report, _words in shown_designs]
        wide, high = max(b.width() for b in boxes), sum(b.height() for b in boxes)
        scale = self.scale = min(room.width() / wide, (room.height() - 30 - 40 * len(boxes)) / high)
        y = room.top() + 18
        for (one, one_report, words), box in zip(shown_designs, boxes, strict=True):
            span = with_unit(one_report.value("wing.span") or box.width(), "length", self.store.units)
            write(
                p, room.left(), y + 2, f"{words}, {span} span", VALUE, inks.ink if words == "now" else inks.live, True
            )
            view = View("plan", room.center().x() - box.center().x() * scale, y + 12 - box.top() * scale, scale)
            draw_aircraft(p, one, view, fill=inks.paper)
            state = one_report.results.masses.state
            if state is not None:
                cg_mark(p, *view.at((float(state.cg[0]), float(state.cg[1]), 0.0)), 5)
            y += box.height() * scale + 40
        unit = self.store.units["length"]
        long = wide * unit.factor
        ruler(p, QRectF(room.center().x() - 0.5 * wide * scale, room.bottom() - 2, wide * scale, 18), 0, long,
              nice_step(long, 8))  # fmt: skip


def _say(value: float | None, quantity: str, units: Units) -> str:
    return "–" if value is None else shown(value, quantity, units)
