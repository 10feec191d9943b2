"""Causes: what was measured and seen in flight, ranked causes with cures, what to measure next, what is learnt."""

from __future__ import annotations

from typing import Any, NamedTuple

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter

from ridgeline.design.document import Design
from ridgeline.design.flights import TakenKey
from ridgeline.desk.dimensions import Act, Dimension, Selection
from ridgeline.desk.paint import fit, hatch, heading, line, pen, rule, state_mark, width_of, wrap, write
from ridgeline.desk.scales import Scale
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.flights.cause_list import CauseList
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.advice.flight_causes import (
    UNKNOWN_WORDS,
    ToldCause,
    contradiction_words,
    cure_edits,
    residual_words,
    seen_words,
    test_words,
    told_causes,
)
from ridgeline.engine.advice.flown_in import back_out, can_be_taken, is_taken, taken
from ridgeline.engine.bands import BAND
from ridgeline.engine.flight.diagnosis import Diagnosis, as_flown, diagnosed, explained
from ridgeline.engine.flight.learnt_pairs import LearntPair, learnt_pairs
from ridgeline.engine.flight.sightings import SIGHTINGS
from ridgeline.engine.report import Report
from ridgeline.units import shown, with_unit

#: Height of a cause, of a row of what was learnt, and the least of what is told under the causes, px.
_PAIR, _FOOT = 34, 214


class Said(NamedTuple):
    """What the flights say: of which aircraft, its report, the diagnosis, and the causes in words."""

    design: Design
    report: Report
    found: Diagnosis | None
    causes: tuple[ToldCause, ...]


def said_of(store: Store) -> Said:
    """Return what the flights of a store's design say."""
    flown = as_flown(store.design)
    report = store.report if flown is store.design else store.report.trial()(flown)
    found = diagnosed(flown, report)
    return Said(flown, report, found, () if found is None else told_causes(flown, report, found))


class FlightsCausesSheet(Sheet):
    """What the flights said."""

    key = "flights.causes"

    def __init__(self, *arguments: Any) -> None:
        super().__init__(*arguments)
        self.list = CauseList(self, self.store)
        self.list.picked.connect(self._picked)
        self.list.fitted.connect(lambda _row: self.cure())
        self._said: tuple[Design, Said] | None = None

    @property
    def said(self) -> Said:
        """What the flights say of the design as it stands; found when it is first asked for after an edit."""
        design = self.store.design
        if self._said is None or self._said[0] is not design:
            self._said = (design, said_of(self.store))
        return self._said[1]

    @property
    def cause(self) -> ToldCause | None:
        """The cause that is chosen."""
        causes = self.said.causes
        return causes[self.list.chosen] if 0 <= self.list.chosen < len(causes) else None

    def _picked(self, _row: int) -> None:
        self.refresh()
        self.store.selected.emit()

    # -- what is done -------------------------------------------------------------------------------------------------

    def take(self) -> None:
        """Take the chosen cause into the design, as flown; or take it back."""
        told = self.cause
        if told is None:
            return
        name, design = told.cause.name, self.store.design
        if not can_be_taken(design, name):
            self.store.noted.emit("That has no place in the design: see to the aircraft.")
            return
        key: TakenKey = name  # type: ignore[assignment]
        words = told.words.render(self.store.units)
        if is_taken(design, name):
            self.store.edit(list(back_out(design, key)), f"Taken back: {words}")
        else:
            changes = taken(design, self.store.report, key, told.cause.slip, told.cause.slip_sigma)
            self.store.edit(list(changes), f"As flown: {words}")

    def cure(self) -> None:
        """Do what cures the chosen cause, where it can be done to the drawing: as flown, and put right."""
        told = self.cause
        if told is None:
            return
        changes = cure_edits(self.store.design, self.store.report, told.cause)
        if not changes:
            self.store.noted.emit(f"On the bench: {told.cure.render(self.store.units)}.")
            return
        self.store.edit(list(changes), told.cure.render(self.store.units))

    def take_back(self, key: TakenKey) -> None:
        """Take back what was taken from flights."""
        self.store.edit(list(back_out(self.store.design, key)), "Taken back: as reckoned")

    # -- what is shown ------------------------------------------------------------------------------------------------

    def subtitle(self) -> str:
        if self.empty:
            return ""
        found = self.said.found
        if found is None:
            return "nothing flown yet"
        many = len(found.flights)
        return f"version {found.flights[0].version}, {many} flight{'' if many == 1 else 's'}"

    def selection(self) -> Selection:
        told = None if self.empty else self.cause
        design, units = self.store.design, self.store.units
        back: list[Act] = [
            (f"Take back: {key}", lambda key=key: self.take_back(key))  # type: ignore[misc]
            for key in dict.fromkeys(one.key for one in design.learnt.taken)
        ]
        if told is None:
            return Selection("what was learnt", (), tuple(back)) if back else Selection("", ())
        rows = [
            Dimension("Chance", read=lambda: f"{100 * told.cause.chance:.0f} %"),
            Dimension("Told by", read=lambda: seen_words(told.cause.seen_by[0]) if told.cause.seen_by else "–"),
        ]
        for effect in told.effects:
            before, after = (with_unit(one, effect.quantity, units) for one in (effect.before, effect.after))
            rows.append(Dimension(effect.words.capitalize(), read=lambda a=before, b=after: f"{a} → {b}"))  # type: ignore[misc]
        acts: list[Act] = [("Cure it", self.cure)]
        if can_be_taken(design, told.cause.name):
            acts.append(("Take it back" if is_taken(design, told.cause.name) else "Take it in", self.take))
        return Selection(told.words.render(units), tuple(rows), (*acts, *back))

    def arrange(self) -> None:
        wide, tall = self.width(), self.height()
        self.list.setGeometry(PAD, 62, wide - 2 * PAD, tall - _FOOT - 72)
        self.list.show_causes(self.said.causes, self.said.found)
        self.follow((self.list.chosen, id(self.store.design)))

    def draw(self, p: QPainter) -> None:
        inks, wide, tall = theme.inks, self.width(), self.height()
        said, foot = self.said, tall - _FOOT
        found = said.found
        heading(p, PAD, 52, wide - 2 * PAD, "What was seen → likely causes",
                "" if found is None else f"{100 * found.nothing:.0f} % none of these")  # fmt: skip
        if found is None:
            words = "Log a flight: trims, charge, passes, and what was seen."
            write(p, PAD, 92, fit(words, wide - 2 * PAD), VALUE, inks.soft)
            return
        if not said.causes:
            words = "Nothing stands out: what was measured and seen is within what is known of the design."
            write(p, PAD, 92, fit(words, wide - 2 * PAD), VALUE, inks.soft)
        self._draw_explained(p, found, 62 + self.list.head + len(said.causes) * self.list.row_height + 26, foot - 8)
        half = 0.5 * wide
        heading(p, PAD, foot + 14, half - PAD - 12, "The flights say", "predicted, flown", strong=False)
        for k, pair in enumerate(learnt_pairs(said.design, said.report, found)):
            self._draw_pair(p, QRectF(PAD, foot + 24 + k * _PAIR, half - PAD - 12, _PAIR), pair)
        left, room = half + 8, wide - PAD - half - 8
        heading(p, left, foot + 14, room, "What would tell them apart", "", strong=False)
        y = foot + 38
        for one in found.tests:
            p.setPen(pen(inks.hair, 1))
            p.drawRect(QRectF(left + 0.5, y - 9.5, 9, 9))
            write(p, left + 16, y, fit(test_words(one), room - 16, LABEL), LABEL)
            y += 19
        y += 8
        self._draw_seen(p, left, y, room, found)

    def _draw_explained(self, p: QPainter, found: Diagnosis, top: float, bottom: float) -> None:
        """Draw what each measurement is made up of by all that was learnt, where there is room for it."""
        inks, wide = theme.inks, self.width()
        rows = explained(found)
        rows = rows[: max(int((bottom - top - 12) // 21), 0)]
        if not rows:
            return
        heading(
            p,
            PAD,
            top,
            wide - 2 * PAD,
            "Where it came from",
            "off the reckoned, over what a reading errs",
            strong=False,
        )
        middle, reach = PAD + 0.5 * wide, 0.24 * wide
        sigmas = {one.of: one.sigma for one in found.measured}
        most = max(max(abs(one.residual) / sigmas[one.of] for one in rows), 2.0)
        line(p, middle, top + 10, middle, top + 12 + 21 * len(rows), inks.soft)
        for k, one in enumerate(rows):
            y, sigma = top + 26 + 21 * k, sigmas[one.of]
            off = residual_words(one.of, one.residual).render(self.store.units)
            start = write(p, middle - reach - 8, y, off, VALUE, inks.measured, align="right")
            write(p, PAD, y, fit(seen_words(one.of), middle - reach - 16 - start - PAD), VALUE)
            at = middle + reach * one.residual / sigma / most
            line(p, middle, y - 4, at, y - 4, inks.measured, 5)
            x = {1: middle, -1: middle}
            for part, (_name, amount) in enumerate(one.parts):
                side = 1 if amount > 0 else -1
                far = x[side] + reach * amount / sigma / most
                far = min(max(far, middle - reach), middle + reach)
                box = QRectF(min(x[side], far), y + 1, abs(far - x[side]), 4)
                if part % 2:
                    hatch(p, box, inks.soft, step=3)
                else:
                    p.fillRect(box, inks.soft)
                x[side] = far
            parts = [f"{UNKNOWN_WORDS[name]} {amount / sigma:+.1f}".replace("-", "−") for name, amount in one.parts[:3]]
            room = wide - PAD - (middle + reach + 12)
            write(p, middle + reach + 12, y, fit(", ".join(parts), room, LABEL), LABEL, inks.soft)

    def _draw_seen(self, p: QPainter, left: float, y: float, room: float, found: Diagnosis) -> None:
        """Tell what the model has to say of what was seen, and what does not go together."""
        inks = theme.inks
        rule(p, left, y - 13, room)
        for key in found.seen[:3]:
            # What the model itself has to say of what was seen.
            x = left + write(p, left, y, f"{seen_words(key)}:", LABEL, inks.ink) + 6
            for figure in SIGHTINGS[key].figures:
                known = self.said.report.figures.get(figure)
                if known is None or known.value is None:
                    continue
                words = f"{known.label.lower()} {with_unit(known.value, known.quantity, self.store.units)}"
                if x + width_of(words, LABEL) > left + room:
                    break
                x += self.written(p, x, y, words, figure, LABEL, inks.soft) + 10
            y += 15
        for one in found.contradictions[:2]:
            state_mark(p, left + 5, y - 2, "look")
            for row in wrap(contradiction_words(one).render(self.store.units), room - 16, LABEL)[:2]:
                write(p, left + 16, y + 2, row, LABEL, inks.ink)
                y += 15
            y += 3

    def _draw_pair(self, p: QPainter, row: QRectF, pair: LearntPair) -> None:
        """Draw what was predicted with its band, and what the flights say under it."""
        inks, units = theme.inks, self.store.units
        y = row.top() + 14
        wide = write(p, row.left(), y, pair.label, VALUE)
        if any(one.key == pair.name for one in self.store.design.learnt.taken):
            write(p, row.left() + wide + 8, y, "taken in", LABEL, inks.measured)
        symbol = units[pair.quantity].symbol
        write(p, row.right(), y, symbol, LABEL, inks.soft, align="right")
        write(p, row.right() - 34, y, shown(pair.told, pair.quantity, units), VALUE, inks.measured, True, "right")
        write(p, row.right() - 92, y, shown(pair.reckoned, pair.quantity, units), VALUE, inks.predicted, align="right")
        reach = 1.2 * max(BAND * pair.sigma_before, abs(pair.told - pair.reckoned) + BAND * pair.sigma, 1e-12)
        scale = Scale(pair.reckoned - reach, pair.reckoned + reach, row.left() + 2, row.right() - 4)
        top = row.top() + 20
        band = QRectF(scale.held(pair.reckoned - BAND * pair.sigma_before), top, 0, 6)
        band.setRight(scale.held(pair.reckoned + BAND * pair.sigma_before))
        hatch(p, band, inks.predicted, step=4)
        line(p, scale.start, top + 6.5, scale.end, top + 6.5, inks.hair)
        line(p, scale.at(pair.reckoned), top - 2, scale.at(pair.reckoned), top + 7, inks.predicted, 2)
        ends = [scale.held(pair.told + sign * BAND * pair.sigma) for sign in (-1, 1)]
        line(p, ends[0], top + 9, ends[1], top + 9, inks.measured, 2.5)
        line(p, scale.held(pair.told), top + 5, scale.held(pair.told), top + 12, inks.measured, 2)
