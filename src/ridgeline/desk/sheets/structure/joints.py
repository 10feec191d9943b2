"""Joints: what holds the aircraft together, each as a bar of what it bears; typed, added and taken off."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QMouseEvent, QPainter

from ridgeline.design.carrying import carriers
from ridgeline.design.fastening import BRACES, Fastening, FasteningKind
from ridgeline.design.paths import REMOVE, Change
from ridgeline.desk.dimensions import Dimension, Selection, name_row
from ridgeline.desk.drawing import draw_aircraft, fitted, joined_points, path_in
from ridgeline.desk.paint import brush_of, fit, heading, line, outline, pen, rule, state_mark, width_of, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.engine.advice.joint_rules import level_of
from ridgeline.engine.geometry.reference import LIFTING
from ridgeline.engine.register import JOINT_SHARE
from ridgeline.engine.sizing.held_together import usual_fastenings, usual_sizes
from ridgeline.engine.stages.fastening import Held
from ridgeline.engine.structure.bracing import drop_of
from ridgeline.engine.structure.fastening_laws import Share
from ridgeline.units import shown, with_unit

_TOP, _ROW, _BAR, _SPLICE = 66, 38, 96, 24
#: The column of what can be added: wide with two in a row, narrow with one where the sheet is narrower than this, px.
_ADDING, _ADDING_NARROW, _NARROW = 232, 128, 700
#: Under this stress hundredths of it are told, Pa.
_SOFT = 10e6
#: A share past this is drawn as long as this.
_MOST = 1.5
_BRACED = (("Out on the wing", "out"), ("Foot, out", "foot"), ("Foot, below", "drop"), ("Pads, long", "length"),
           ("Pads, wide", "width"), ("Young's modulus", "modulus"), ("Breaks at", "bears"))  # fmt: skip
_SOFTENS = ("Softens at", "softens_c")
#: Kinds in the builder's words, and the fields each has: label and field.
KINDS: dict[FasteningKind, tuple[str, tuple[tuple[str, str], ...]]] = {
    "bands": ("Bands on dowels", (("Strands a side", "count"), ("Pull of one", "hold"), ("Dowel", "size"),
                                    ("Stick along the edge", "length"), ("Sheet under it", "sheet"),
                                    ("To the seat", "angle"))),
    "bolts": ("Nylon bolts", (("Bolts", "count"), ("Diameter", "size"), ("Tension of one", "hold"))),
    "magnets": ("Magnets", (("Magnets", "count"), ("Rated pull", "hold"), ("Gap", "gap"))),
    "tongue": ("Tongue", (("Wide", "width"), ("Deep", "length"))),
    "elbow": ("Taped elbow", (("Out", "out"), ("Width of tape", "width"))),
    "screws": ("Motor screws", (("Screws", "count"), ("Pull-out of one", "hold"), ("Across", "width"), _SOFTENS)),
    "bond": ("Glued joint", (("Long", "length"), ("Wide", "width"))),
    "prop_bands": ("Propeller's bands", (("Bands", "count"), ("Pull of one", "hold"))),
    "strap": ("Pack strap", (("Straps", "count"), ("Bears, one", "hold"))),
    "legs": ("Wire legs", (("Legs", "count"), ("Wire", "size"), ("Reach sideways", "length"))),
    "boom": ("Tail boom", (("Booms", "count"), ("Outside", "size"), ("Bore", "inner"), ("Long", "length"),
                           ("Young's modulus", "modulus"))),
    "socket": ("Boom's socket", (("Booms", "count"), ("Boom", "size"), ("Deep", "length"))),
    "strut": ("Wing struts", (("Struts a side", "count"), ("Outside", "size"), ("Bore", "inner"), *_BRACED)),
    "thread": ("Tension thread", (("Threads a side", "count"), ("Thick", "size"), *_BRACED)),
    "firewall": ("Firewall", (("Side", "length"), ("Glued all round", "width"), ("Plate", "sheet"), _SOFTENS)),
    "blade_stop": ("Blade's stop", (("Pin", "size"), ("From the hinge", "length"))),
    "skid": ("Skid", (("Long", "length"), ("Wide", "width"), ("Foam bears", "bears"))),
    "servo_seat": ("Servo seat", (("Long", "length"), ("Wide", "width"))),
    "lines": ("Spring or lines", (("Pull", "hold"), ("Horn, out", "out"))),
}  # fmt: skip
#: The kinds as they are offered, by what they hold.
_OFFERED: tuple[tuple[str, tuple[FasteningKind, ...]], ...] = (
    ("the wing", ("bands", "bolts", "magnets", "tongue", "elbow", "strut", "thread")),
    ("the tail", ("bond", "boom", "socket", "lines")),
    ("a motor", ("screws", "firewall", "prop_bands", "blade_stop")),
    ("the rest", ("legs", "skid", "strap", "servo_seat")),
)


class StructureJointsSheet(Sheet):
    """The fastenings."""

    key = "structure.joints"

    def __init__(self, *arguments: Any) -> None:
        super().__init__(*arguments)
        self._places: list[tuple[QRectF, int]] = []
        self._chosen = ""
        self.usual_button = RuledButton(self, "Say the usual", bold=True)
        self.usual_button.clicked.connect(self._say_usual)
        self.remove_button = RuledButton(self, "Take it off")
        self.remove_button.clicked.connect(self._remove)
        self.add_buttons: dict[FasteningKind, RuledButton] = {}
        self._headed: list[tuple[str, int]] = []
        for kind in (kind for _head, kinds in _OFFERED for kind in kinds):
            words = KINDS[kind][0]
            button = RuledButton(self, words)
            button.setAccessibleName(f"add a joint: {words}")
            button.clicked.connect(lambda _=False, k=kind: self.add(k))
            self.add_buttons[kind] = button

    @property
    def held(self) -> Held | None:
        """What every fastening bears, None before that can be had."""
        result: Held | None = self.store.report.results.fastened
        return result

    @property
    def chosen(self) -> int | None:
        """The place of the chosen fastening in the document's list."""
        rows = self.store.design.fastenings
        return next((k for k, one in enumerate(rows) if one.id == self._chosen), None)

    def choose(self, index: int) -> None:
        """Choose a fastening, so that its sizes can be typed."""
        self._chosen = self.store.design.fastenings[index].id
        self.store.select("")
        self.store.selected.emit()
        self.refresh()

    def add(self, kind: FasteningKind) -> None:
        """Add one, of the part it is usually of."""
        words, design = KINDS[kind][0], self.store.design
        of = self._usually_of(kind)
        fresh = Fastening(kind=kind, name=words, of=of, **usual_sizes(design, kind, of))
        if self.store.edit([Change("fastenings[-]", fresh)], f"Add {words.lower()}"):
            self.choose(len(design.fastenings))

    def _usually_of(self, kind: FasteningKind) -> str:
        design, found = self.store.design, self.store.report.results.bearing
        if kind in ("screws", "prop_bands", "firewall", "blade_stop"):
            return design.power.mounts[0].id if design.power is not None else ""
        if kind == "strap":
            return next((p.id for p in design.parts if p.component == "pack"), "")
        if kind in ("boom", "socket"):
            return next((b.id for b in design.bodies if b.kind == "boom"), "")
        if kind == "servo_seat":
            return next((p.id for p in design.parts if p.servo is not None), "")
        if kind == "skid":
            return next((b.id for b in design.bodies), "")
        if kind in ("bond", "lines"):
            return next((s.id for s in design.surfaces if s.role not in LIFTING), "")
        if kind == "legs":
            return next((w.id for w in design.wheels), "")
        return design.surfaces[found.main].id if found is not None else ""

    def _say_usual(self) -> None:
        self.store.put("fastenings", usual_fastenings(self.store.design, self.store.report), "Say the usual joints")

    def _remove(self) -> None:
        index = self.chosen
        if index is not None:
            name = self.store.design.fastenings[index].name
            self.store.edit([Change(f"fastenings[{index}]", REMOVE)], f"Take off {name}")

    def subtitle(self) -> str:
        held = self.held
        if held is None:
            return "it needs wing and masses first"
        if not held.rows:
            return "how it is held together is not said yet"
        weak = [one.name for one, shares in held.rows if shares[0].share > 1]
        if weak:
            return f"{', '.join(weak[:2])} {'gives' if len(weak) == 1 else 'give'} first"
        return f"all {len(held.rows)} hold" if len(held.rows) > 1 else "it holds"

    def selection(self) -> Selection:
        index = self.chosen
        if index is None:
            return Selection("", ())
        one, base = self.store.design.fastenings[index], f"fastenings[{index}]"
        words, fields = KINDS[one.kind]

        def hold(part: str) -> None:
            self.store.put(f"{base}.of", part, f"{one.name} of another part")

        rows = [
            name_row(base),
            Dimension("Holds", read=lambda: self._held_part(index), choices=self._parts(), choose=hold),
        ]
        if one.kind in BRACES:

            def stand(part: str) -> None:
                self.store.put(f"{base}.to", part, f"{one.name} on another part")

            rows.append(Dimension("Stands on", read=lambda: self._foot(index), choices=self._parts("to"), choose=stand))
        drop = drop_of(one, self.store.design.surfaces, self.store.design.bodies) if one.kind in BRACES else None
        rows += [
            Dimension(label, f"{base}.{field}", empty=(lambda: drop) if field == "drop" else None)
            for label, field in fields
        ]
        return Selection(words.lower(), tuple(rows), acts=(("Take it off", self._remove),))

    def _held_part(self, index: int) -> str:
        rows = self.store.design.fastenings
        return rows[index].of if index < len(rows) else ""

    def _foot(self, index: int) -> str:
        rows = self.store.design.fastenings
        return rows[index].to if index < len(rows) else ""

    def _parts(self, end: str = "of") -> tuple[tuple[str, str], ...]:
        design = self.store.design
        named = [(surface.id, surface.name) for surface in design.surfaces]
        named += [(body.id, body.name) for body in design.bodies]
        if end == "to":
            return (("", "nothing named"), *named)
        named += [(wheel.id, wheel.name) for wheel in design.wheels]
        named += [
            (item.id, item.name)
            for item in design.parts
            if item.component == "pack" or item.group == "payload" or item.servo is not None
        ]
        if design.power is not None:
            named += [(mount.id, f"motor mount {k + 1}") for k, mount in enumerate(design.power.mounts)]
        return (("", "nothing named"), *named)

    @property
    def _adding(self) -> int:
        return _ADDING_NARROW if self.width() < _NARROW else _ADDING

    def arrange(self) -> None:
        rows = len(self.store.design.fastenings)
        there = self.held is not None
        self.usual_button.setVisible(there and rows == 0)
        self.usual_button.setGeometry(PAD, _TOP + 44, 200, 30)
        x, y = self.width() - PAD - self._adding, _TOP + 2
        # Under what they hold; a narrow column has no room for heads, and taking off is with the sizes too.
        narrow = self._adding == _ADDING_NARROW
        beside = 1 if narrow else 2
        lines = sum((not narrow) - (-len(kinds) // beside) for _head, kinds in _OFFERED)
        pitch = min(28, int((self.height() - y - (6 if narrow else 44)) / lines))
        each = (self._adding - 6 * (beside - 1)) // beside
        self._headed = []
        for head, kinds in _OFFERED:
            if not narrow:
                self._headed.append((head, y + pitch - 8))
                y += pitch
            for k, kind in enumerate(kinds):
                row, column = divmod(k, beside)
                self.add_buttons[kind].setGeometry(x + column * (each + 6), y + row * pitch, each, pitch - 3)
            y += -(-len(kinds) // beside) * pitch
        self.remove_button.setGeometry(x, y + 8, self._adding, pitch - 3)
        self.remove_button.setVisible(self.chosen is not None and not self.empty and not narrow)

    def draw(self, p: QPainter) -> None:
        inks, held = theme.inks, self.held
        wide = self.width() - 3 * PAD - self._adding
        heading(p, PAD, 52, wide, "Joints and mounts", "share of what each bears; press one to change it")
        left = self.width() - PAD - self._adding
        heading(p, left, 52, self._adding, "Add what holds", "", strong=False)
        for head, at in self._headed:
            write(p, left, at, head, LABEL, inks.soft)
        self._places = []
        if held is None:
            write(p, PAD, _TOP + 30, "Its loads are not known yet.", VALUE, inks.soft)
            return
        if not held.rows:
            words = "Seats, mounts, straps, legs and booms are judged once they are said."
            write(p, PAD, _TOP + 24, fit(words, wide, VALUE), VALUE, inks.soft)
        y = float(_TOP + 12)
        pitch = min(_ROW, (self.height() - _TOP - 190) / max(len(held.rows), 1))
        for index, (one, shares) in enumerate(held.rows):
            self._draw_row(p, index, one, shares, QRectF(PAD, y, wide, pitch))
            y += pitch
        if self.store.report.results.splices:
            self._draw_splice(p, QRectF(PAD, y, wide, _SPLICE))
            y += _SPLICE
        room = QRectF(PAD + 20, max(y + 16, _TOP + 110), wide - 40, self.height() - max(y + 16, _TOP + 110) - 12)
        if room.height() > 70:
            self._draw_key(p, held, room)

    def _draw_row(self, p: QPainter, index: int, one: Fastening, shares: tuple[Share, ...], rect: QRectF) -> None:
        inks, units, worst = theme.inks, self.store.units, shares[0]
        live = index == self.chosen
        if live:
            p.fillRect(rect, inks.wash)
        self._places.append((rect, index))
        base = rect.top() + 15
        state_mark(p, rect.left() + 8, base - 4, level_of(worst))
        bar = rect.right() - _BAR - 64
        fine = 2 if worst.quantity == "stress" and worst.bears < _SOFT else 0
        amounts = f"{shown(worst.load, worst.quantity, units, fine)} of "
        amounts += with_unit(worst.bears, worst.quantity, units, fine)
        write(p, rect.left() + 22, base, fit(one.name, bar - rect.left() - 160, VALUE), VALUE,
              inks.live if live else inks.ink, bold=live)  # fmt: skip
        write(p, bar - 10, base, amounts, LABEL, inks.soft, align="right")
        long = _BAR * min(worst.share, _MOST) / _MOST
        p.fillRect(QRectF(bar, base - 9, long, 8), brush_of(inks.predicted if worst.share <= 1 else inks.stop, 140))
        mark = bar + _BAR / _MOST
        line(p, mark, base - 12, mark, base + 2, inks.ink, dash=True)
        told = f"{100 * min(worst.share, 99):.0f} %"
        ink = inks.ink if worst.share <= 1 else inks.stop
        key = JOINT_SHARE.key(one.id)
        self.written(p, rect.right(), base, told, key, VALUE, ink, bold=worst.share > 1, align="right")
        if rect.height() >= 32:
            words = fit(worst.words.render(units), rect.width() - 30, LABEL)
            write(p, rect.left() + 22, base + 15, words, LABEL, inks.soft)
        rule(p, rect.left(), rect.bottom() - 1, rect.width())

    def _draw_splice(self, p: QPainter, rect: QRectF) -> None:
        """Draw the splice of a skin that is nearest to what its glue bears: no sheet took the skin whole."""
        inks, units, design = theme.inks, self.store.units, self.store.design
        rows = self.store.report.results.splices
        worst, base = rows[0], rect.top() + 15
        name = f"Splice, {design.surfaces[worst.surface].name.lower()}: {worst.piece.lower()}"
        name += f" {with_unit(worst.out, 'length', units, 0)} out" + (f", of {len(rows)}" if len(rows) > 1 else "")
        amounts = f"{shown(worst.force, 'force', units, 0)} of {with_unit(worst.bears, 'force', units, 0)}"
        state_mark(p, rect.left() + 8, base - 4, "settled" if worst.share <= 1 else "look")
        room = rect.width() - 100 - width_of(amounts, LABEL)
        write(p, rect.left() + 22, base, fit(name, room, VALUE), VALUE)
        write(p, rect.right() - 64, base, amounts, LABEL, inks.soft, align="right")
        ink = inks.ink if worst.share <= 1 else inks.stop
        told = f"{100 * min(worst.share, 99):.0f} %"
        self.written(p, rect.right(), base, told, "structure.splice_share", VALUE, ink, align="right")
        rule(p, rect.left(), rect.bottom() - 1, rect.width())

    def _draw_key(self, p: QPainter, held: Held, room: QRectF) -> None:
        """Draw the aircraft from above with a ring at what each fastening holds; the chosen one's part is inked."""
        inks, design = theme.inks, self.store.design
        view = fitted(design, "plan", room)
        draw_aircraft(p, design, view, fill=inks.paper)
        found, items = carriers(design), {item.id: item for item in design.parts}
        chosen = self.chosen
        for surface in design.surfaces:
            if chosen is not None and design.fastenings[chosen].of == surface.id:
                for points in joined_points(surface):
                    outline(p, path_in(view, points), inks.live, 1.8, inks.wash)
        for index, (one, shares) in enumerate(held.rows):
            part = found.get(one.of) or items.get(one.of)
            wheel = next((w for w in design.wheels if w.id == one.of), None)
            place = part or wheel
            if place is None:
                continue
            x, y = view.at((float(place.x), float(place.y), 0.0))
            weak = shares[0].share > 1
            p.setPen(pen(inks.stop if weak else inks.live if index == chosen else inks.ink, 1.5))
            p.setBrush(inks.paper)
            p.drawEllipse(QPointF(x, y), 5, 5)
            p.setBrush(Qt.BrushStyle.NoBrush)
            self._places.append((QRectF(x - 7, y - 7, 14, 14), index))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        traced = self.figure_at(event.position())
        super().mousePressEvent(event)
        if event.button() != Qt.MouseButton.LeftButton or traced:
            return
        hit = next((k for rect, k in reversed(self._places) if rect.contains(event.position())), None)
        if hit is not None:
            self.choose(hit)
