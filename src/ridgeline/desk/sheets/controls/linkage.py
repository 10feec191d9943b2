"""Linkage: servo, arm, rod and horn at true size, neutral and both ends; the angle over the stick; servo loads."""

from __future__ import annotations

import math
from operator import attrgetter
from typing import Any

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QMouseEvent, QPainter

from ridgeline.design.airframe import Surface
from ridgeline.design.axes import is_upright
from ridgeline.design.paths import Change
from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.drawing import draw_aircraft, fitted, joined_points, path_in
from ridgeline.desk.paint import fit, heading, outline, rule, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.controls.at_work import draw_curve, draw_loads, loads_tall
from ridgeline.desk.sheets.controls.giving import draw_giving
from ridgeline.desk.sheets.controls.linkage_fields import FACINGS, FINER, HINGES, KINDS, LENGTHS, OF_KIND, PORTS
from ridgeline.desk.sheets.controls.true_size import (
    Frame,
    Told,
    draw_control,
    draw_rod,
    draw_shape,
    draw_words,
    framed,
)
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton
from ridgeline.desk.widgets.handles import Handle
from ridgeline.engine.advice.linkage_edits import called
from ridgeline.engine.build.seats import servo_case, servo_mass
from ridgeline.engine.controls.drawn import DrawnLinkage, Stand, drawn, stand_at
from ridgeline.engine.controls.sense import FOLLOWS
from ridgeline.engine.report import Report
from ridgeline.engine.sizing.linkages import usual_linkages
from ridgeline.engine.stages.linked import LinkedControl, Linking
from ridgeline.units import with_unit

#: Share of the width the drawing takes, and of the height.
_WIDE, _TALL = 0.64, 0.60
#: Steps of the servo's place as it is dragged, m, and the most teeth the arm is clocked by hand.
_STEP, _MOST_TEETH = 0.0005, 8


class ControlsLinkageSheet(Sheet):
    """One linkage, true size."""

    key = "controls"

    def __init__(self, *arguments: Any) -> None:
        super().__init__(*arguments)
        self._chosen = ""
        self._places: list[tuple[Any, str]] = []
        self.usual_button = RuledButton(self, "Link them as usual", bold=True)
        self.usual_button.clicked.connect(self._link_as_usual)
        self.arm_handle = Handle(self, "hole of the arm", self._drag_arm, self._let_go)
        self.horn_handle = Handle(self, "hole of the horn", self._drag_horn, self._let_go)
        self.tooth_handle = Handle(self, "tooth of the arm", self._drag_tooth, self._let_go)
        self.servo_handle = Handle(self, "place of the servo", self._drag_servo, self._let_go)
        self._handles = (self.arm_handle, self.horn_handle, self.tooth_handle, self.servo_handle)
        self._kept: Frame | None = None

    # -- what is shown ------------------------------------------------------------------------------------------------

    @property
    def linking(self) -> Linking:
        """All linkages as they are judged."""
        found: Linking = self.store.report.results.linking
        return found

    @property
    def row(self) -> LinkedControl | None:
        """The linkage that is shown: the chosen one, else the first."""
        rows = self.linking.rows
        return next((row for row in rows if row.control.id == self._chosen), rows[0] if rows else None)

    @property
    def place(self) -> int:
        """The place of the linkage that is shown in the document's list."""
        row = self.row
        assert row is not None
        return next(k for k, one in enumerate(self.store.design.linkages) if one.id == row.linkage.id)

    def choose(self, control: str) -> None:
        """Show the linkage of a control by its id."""
        self._chosen = control
        self.store.select("")
        self.store.selected.emit()
        self.refresh()

    def subtitle(self) -> str:
        row = self.row
        if row is None:
            return "what moves the controls is not said yet" if self.linking.bare else "it has no controls"
        name = called(self.store.design.surfaces[row.surface], row.control)
        throw = row.sides[0].throw
        up, down = (with_unit(angle, "angle", self.store.units, 0) for angle in throw)
        ways = _ways(self.store.design.surfaces[row.surface])
        return f"{name}, {up} {ways[0]}, {down} {ways[1]}"

    def _link_as_usual(self) -> None:
        usual = usual_linkages(self.store.design)
        self.store.edit([Change("linkages", usual.linkages), Change("radio", usual.radio)], "Link them as usual")

    def _out(self, row: LinkedControl) -> float:
        told = row.linkage.out
        return told if told is not None else 0.5 * (row.control.start + row.control.end)

    def _drawn(self, row: LinkedControl) -> DrawnLinkage:
        item = next((item for item in self.store.design.parts if item.id == row.linkage.servo), None)
        case = servo_case(servo_mass(item) if item is not None else 0.009)[1]
        surface = self.store.design.surfaces[row.surface]
        flat = row.linkage.facing in ("up", "down")
        return drawn(row.linkage, surface, row.control, self._out(row), (case, case if flat else case * 0.52))

    def _stands(self, row: LinkedControl) -> tuple[Stand, Stand, Stand]:
        first = row.sides[0]
        trim = 0.0 if first.channel is None else first.channel.sub_trim * row.linkage.travel
        low, none, high = (
            stand_at(row.linkage, first.travel, turn, trim=trim) for turn in (first.low, 0.0, first.high)
        )
        return low, none, high

    def _room(self) -> QRectF:
        return QRectF(PAD, 66, _WIDE * (self.width() - 2 * PAD) - 16, _TALL * (self.height() - 66) - 16)

    def _frame(self, row: LinkedControl, shape: DrawnLinkage) -> Frame:
        """Return the drawing's frame; under a hand it stays as it was, so that what is dragged does not run away."""
        if self._kept is None or not any(handle.held for handle in self._handles):
            self._kept = framed(row, shape, self._room())
        return self._kept

    # -- handles ------------------------------------------------------------------------------------------------------

    def arrange(self) -> None:
        row = self.row
        self.usual_button.setVisible(row is None and bool(self.linking.bare))
        self.usual_button.setGeometry(PAD, 96, 200, 30)
        plain = row is not None and row.linkage.kind != "direct" and row.linkage.facing in ("out", "in")
        for handle in self._handles:
            handle.setVisible(plain)
        if row is None or not plain:
            return
        shape, (_low, stand, _high) = self._drawn(row), self._stands(row)
        frame = self._frame(row, shape)
        self.scale = frame.scale
        for handle, point in ((self.arm_handle, stand.arm), (self.horn_handle, stand.horn)):
            at = frame.at(point)
            handle.place(at.x(), at.y())
        last = frame.at(shape.arm_holes[-1])
        centre = frame.at(shape.arm_centre)
        beyond = centre + (last - centre) * (1 + 16 / max(math.hypot(*(last - centre).toTuple()), 1.0))
        self.tooth_handle.place(beyond.x(), beyond.y())
        case = shape.servo
        at = frame.at((case[0, 0] + 0.2 * (case[1, 0] - case[0, 0]), case[2, 1]))
        self.servo_handle.place(at.x(), at.y())

    def _hand(self, x: float, y: float) -> tuple[LinkedControl, float, float] | None:
        row = self.row
        if row is None:
            return None
        across, up = self._frame(row, self._drawn(row)).back(x, y)
        return row, across, up

    def _drag_arm(self, x: float, y: float) -> None:
        hand = self._hand(x, y)
        if hand is None:
            return
        row, across, up = hand
        centre = self._drawn(row).arm_centre
        radius = math.hypot(across - centre[0], up - centre[1]) - row.linkage.extension
        hole = min({*row.linkage.arm_holes, row.linkage.arm}, key=lambda one: abs(one - radius))
        self._set("arm", hole, "Hole of the arm")

    def _drag_horn(self, x: float, y: float) -> None:
        hand = self._hand(x, y)
        if hand is None:
            return
        row, _across, up = hand
        hole = min({*row.linkage.horn_holes, row.linkage.horn}, key=lambda one: abs(one - abs(up)))
        self._set("horn", hole, "Hole of the horn")

    def _drag_tooth(self, x: float, y: float) -> None:
        hand = self._hand(x, y)
        if hand is None:
            return
        row, across, up = hand
        one = row.linkage
        centre = self._drawn(row).arm_centre
        below = -1.0 if one.arm_to == "below" else 1.0
        # How far ahead of pointing straight the hand is, against how far a square arm would be.
        pointed = math.atan2(-(across - centre[0]), below * (up - centre[1]))
        square = one.model_copy(update={"clocked": 0, "arm_angle": 0.0})
        stand = stand_at(square, row.sides[0].travel, 0.0)
        straight = math.atan2(-(stand.arm[0] - centre[0]), below * (stand.arm[1] - centre[1]))
        teeth = round((pointed - straight) / (2 * math.pi / one.teeth))
        self._set("clocked", min(max(teeth, -_MOST_TEETH), _MOST_TEETH), "Tooth of the arm")

    def _drag_servo(self, x: float, y: float) -> None:
        hand = self._hand(x, y)
        if hand is None:
            return
        row, across, up = hand
        case = self._drawn(row).servo
        # The handle stands a fifth back on the upper edge.
        nose = across - 0.2 * (case[1, 0] - case[0, 0])
        centre = nose + (1 - 0.27) * (case[1, 0] - case[0, 0])
        middle = up - 0.5 * (case[2, 1] - case[1, 1])
        ahead = max(round(-centre / _STEP) * _STEP, 0.012)
        base = f"linkages[{self.place}]"
        changes = [
            Change(f"{base}.ahead", round(ahead, 4)),
            Change(f"{base}.up", round(round(middle / _STEP) * _STEP, 4)),
        ]
        self.store.edit(changes, "Place of the servo", merge="servo_place")

    def _set(self, field: str, value: float, label: str) -> None:
        self.store.put(f"linkages[{self.place}].{field}", value, label, merge=f"linkage_{field}")

    def _let_go(self) -> None:
        self.store.seal()
        self.refresh()

    # -- dimensions ---------------------------------------------------------------------------------------------------

    def selection(self) -> Selection:
        row = self.row
        if row is None or self.empty:
            return Selection("", ())
        base = f"linkages[{self.place}]"
        surface = self.store.design.surfaces[row.surface]
        control = next(k for k, c in enumerate(surface.controls) if c.id == row.control.id)
        wished = f"surfaces[{row.surface}].controls[{control}]"
        servos = (("", "none"), *((i.id, i.name) for i in self.store.design.parts if i.servo is not None))

        def chosen(field: str, label: str) -> Any:
            return lambda value: self.store.put(f"{base}.{field}", value, label)

        def read(field: str) -> Any:
            return lambda: attrgetter(field)(self.row.linkage) if self.row is not None else ""

        def one_of(label: str, field: str, choices: Any, done: str) -> Dimension:
            return Dimension(label, read=read(field), choices=choices, choose=chosen(field, done))

        rows = [
            Dimension("Wished up", f"{wished}.up", empty=lambda: row.wish.up),
            Dimension("Wished down", f"{wished}.down", empty=lambda: row.wish.down),
            Dimension("Set at rest, down", f"{wished}.neutral"),
            one_of("Moved by", "kind", KINDS, "Moved otherwise"),
            *(Dimension(name, f"{base}.{field}") for name, field in LENGTHS),
            *(Dimension(name, f"{base}.{field}") for name, field in OF_KIND.get(row.linkage.kind, ())),
            Dimension("Rod", f"{base}.rod_long", empty=lambda: row.rod),
            one_of("Servo", "servo", servos, "Another servo"),
            Dimension("Its shaft looks", read=read("facing"), choices=FACINGS, choose=self._face),
            one_of("Other side", "port", PORTS, "The other side"),
            one_of("Hangs by", "hinge.kind", HINGES, "Another hinge"),
            *(Dimension(name, f"{base}.{field}") for name, field in FINER),
        ]
        return Selection("linkage", tuple(rows))

    def _face(self, facing: str) -> None:
        """Turn the servo: an arm that lay below or above points out or in where it lies flat."""
        base = f"linkages[{self.place}]"
        arm = "below" if facing in ("out", "in") else "out"
        row = self.row
        if row is not None and (row.linkage.facing in ("out", "in")) == (facing in ("out", "in")):
            arm = row.linkage.arm_to
        changed = self.store.design.linkages[self.place].model_copy(update={"facing": facing, "arm_to": arm})
        self.store.edit([Change(base, changed)], "The servo turned")

    # -- drawing ------------------------------------------------------------------------------------------------------

    def draw(self, p: QPainter) -> None:
        row, room = self.row, self._room()
        self._places = []
        if row is None:
            words = (
                "Say how the servos move the controls: throws, servo loads and the radio are judged once it is said."
            )
            write(p, PAD, 72, fit(words if self.linking.bare else "There are no controls yet.", self.width() - 2 * PAD),
                  VALUE, theme.inks.soft)  # fmt: skip
            return
        out = self.length(self._out(row))
        name = called(self.store.design.surfaces[row.surface], row.control)
        aside = f"{name} at {out} {self.store.units['length'].symbol} out, neutral and both ends"
        heading(p, PAD, 52, room.width(), "Linkage", fit(aside, room.width() - 80, LABEL))
        shape, stands = self._drawn(row), self._stands(row)
        frame = self._frame(row, shape)
        p.save()
        p.setClipRect(room.adjusted(0, -6, 0, 0))
        draw_shape(p, frame, shape, stands, room)
        ghost = self.store.ghost
        if ghost is not None:
            self._draw_ghost(p, frame, ghost[1])
        p.restore()
        draw_words(self, p, row, shape, stands, frame, room, self._told(row))
        right = QRectF(room.right() + 24, 66, self.width() - room.right() - 24 - PAD, room.height())
        heading(p, right.left(), 52, right.width(), "Angle", f"over the {_STICKS[FOLLOWS[row.control.kind][0]]}")
        draw_curve(self, p, row, right)
        top = room.bottom() + 26
        rule(p, PAD, top - 16, self.width() - 2 * PAD)
        self._places += draw_loads(self, p, self.linking, row, QRectF(PAD, top, room.width(), self.height() - top - 8))
        under = top + 72 + loads_tall(len(self.linking.rows))
        draw_giving(self, p, row, QRectF(PAD, under, room.width(), self.height() - under - 8))
        self._draw_key(p, QRectF(right.left(), top - 4, right.width(), self.height() - top - 4))

    def _told(self, row: LinkedControl) -> Told:
        item = next((i for i in self.store.design.parts if i.id == row.linkage.servo), None)
        name = (item.servo.name or item.name) if item is not None and item.servo is not None else "no servo named"
        return Told(name, _ways(self.store.design.surfaces[row.surface]))

    def _draw_ghost(self, p: QPainter, frame: Frame, report: Report) -> None:
        """Draw where a remedy would put the rod and both ends of the control."""
        mine = self.row
        row = None if mine is None else report.results.linking.of(mine.control.id)
        if row is None or mine is None or row.linkage == mine.linkage:
            return
        draw_rod(p, frame, self._stands(row)[1], theme.inks.live, dash=True)
        for turn in (row.sides[0].low, row.sides[0].high):
            angle = stand_at(row.linkage, row.sides[0].travel, turn).angle
            draw_control(p, frame, self._drawn(row), angle, theme.inks.live)

    def _draw_key(self, p: QPainter, room: QRectF) -> None:
        """Draw the aircraft from above; a press on a surface shows its control."""
        inks, design, row = theme.inks, self.store.design, self.row
        write(p, room.left(), room.top() + 4, "Press what to see", LABEL, inks.soft)
        view = fitted(design, "plan", room.adjusted(0, 12, 0, 0))
        draw_aircraft(p, design, view, fill=inks.paper)
        linked = {one.surface: one.control.id for one in reversed(self.linking.rows)}
        for k, control in linked.items():
            for points in joined_points(design.surfaces[k]):
                path = path_in(view, points)
                box = path.boundingRect()
                self._places.append((path if box.width() > 8 else box.adjusted(-4, -4, 4, 4), control))
                if row is not None and row.surface == k:
                    outline(p, path, inks.live, 1.8, inks.wash)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        traced = self.figure_at(event.position())
        super().mousePressEvent(event)
        if event.button() != Qt.MouseButton.LeftButton or traced:
            return
        hit = next((control for shape, control in reversed(self._places) if shape.contains(event.position())), None)
        if hit is not None:
            self.choose(hit)


def _ways(surface: Surface) -> tuple[str, str]:
    """Return which ways a control of a surface goes, up first: of one that stands, to port."""
    return ("to port", "to starboard") if is_upright(surface) else ("up", "down")


_STICKS = {"roll": "aileron stick", "pitch": "elevator stick", "yaw": "rudder stick", "flap": "flap switch"}
