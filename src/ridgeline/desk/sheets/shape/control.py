"""Control: the hinged parts dragged on the plan, what they can do, and how the aircraft moves when left alone."""

from __future__ import annotations

import math
from functools import partial

from PySide6.QtCore import QRectF
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from ridgeline.design.airframe import ControlSurface, Surface
from ridgeline.design.axes import cut_at, is_upright
from ridgeline.design.hinges import hinge_share, mean_share
from ridgeline.design.paths import REMOVE, Change
from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.drawing import (
    View,
    chord_point,
    control_points,
    draw_aircraft,
    extent,
    path_in,
    sides_of,
)
from ridgeline.desk.paint import line, outline, rule, write
from ridgeline.desk.part_edits import duplicate_control
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.shape.control_charts import draw_motions, draw_powers
from ridgeline.desk.sheets.shape.grips import angle_of, in_panel
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton, WordButton
from ridgeline.desk.widgets.handles import Handle, keep_handles
from ridgeline.engine.aero.throws import travel
from ridgeline.engine.sizing.additions import usual_kind

_KINDS = (
    ("aileron", "aileron"),
    ("elevator", "elevator"),
    ("rudder", "rudder"),
    ("ruddervator", "V-tail mix"),
    ("elevon", "elevon"),
    ("flap", "flap"),
    ("flaperon", "flaperon"),
)
_LEAST = 0.005
_HINGES = (("share", "share of the chord"), ("width", "width at both ends"))
Grip = tuple[int, int, str]


class ShapeControlSheet(Sheet):
    """Hinged surfaces and their effect."""

    key = "shape.control"
    known_by = "control.roll_rate"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.handles: dict[Grip, Handle] = {}
        self._plan = View("plan", 0, 0, 1)
        self._side = View("side", 0, 0, 1)
        self.kind = WordButton(self, "kind of the chosen control", _KINDS, self._kind, self._set_kind)
        self.add = RuledButton(self, "Add a control")
        self.add.clicked.connect(self.add_control)
        self.remove = RuledButton(self, "Remove it")
        self.remove.clicked.connect(self.remove_control)

    def subtitle(self) -> str:
        rate = self.words("control.roll_rate")
        return f"rolls at {rate} in cruise" if rate != "–" else "what the controls can do"

    @property
    def chosen(self) -> tuple[int, int] | None:
        """Return the chosen control: the selected one, or the first there is."""
        spot = self.store.spot("control")
        if spot is not None:
            return spot.index, spot.inner
        return next(((i, 0) for i, s in enumerate(self.store.design.surfaces) if s.controls), None)

    @property
    def _surface(self) -> int:
        chosen = self.chosen
        if chosen is not None:
            return chosen[0]
        return next((i for i, s in enumerate(self.store.design.surfaces) if s.role == "wing"), 0)

    def _kind(self) -> str:
        chosen = self.chosen
        return "none" if chosen is None else self.store.design.surfaces[chosen[0]].controls[chosen[1]].kind

    def _set_kind(self, kind: str) -> None:
        chosen = self.chosen
        if chosen is not None:
            self.store.put(f"surfaces[{chosen[0]}].controls[{chosen[1]}].kind", kind, f"Make it an {kind}")

    def add_control(self) -> None:
        """Add a hinged part to the selected surface, on the outer half that is still free."""
        index = self._surface_of_selection()
        surface = self.store.design.surfaces[index]
        reach = surface.stations[-1].y
        taken = sorted((c.start, c.end) for c in surface.controls)
        start, end = 0.1 * reach, 0.45 * reach
        if not taken:
            start, end = 0.5 * reach, 0.95 * reach
        elif taken[0][0] > 0.15 * reach:
            end = min(end, taken[0][0] - 0.01 * reach)
        kind = usual_kind(surface)
        made = ControlSurface(kind=kind, start=round(start, 4), end=round(end, 4), chord_fraction=0.25)
        if self.store.edit([Change(f"surfaces[{index}].controls[-]", made)], f"Add a {kind}"):
            self.store.select(f"surfaces[{index}].controls[{len(surface.controls)}]")

    def _hinge_by(self) -> str:
        chosen = self.chosen
        if chosen is None:
            return "share"
        return "share" if self.store.design.surfaces[chosen[0]].controls[chosen[1]].width is None else "width"

    def _set_hinge(self, way: str) -> None:
        """Keep the hinge where it is, and have it told by its share of the chord, or by its width at both ends."""
        chosen = self.chosen
        if chosen is None or way == self._hinge_by():
            return
        i, j = chosen
        surface = self.store.design.surfaces[i]
        control = surface.controls[j]
        if way == "share":
            update = {"width": None, "width_out": None, "chord_fraction": round(mean_share(surface, control), 4)}
        else:
            inner, outer = (
                round(float(hinge_share(surface, control, y)) * cut_at(surface, y).chord, 4)
                for y in (control.start, control.end)
            )
            update = {"width": inner, "width_out": outer}
        self.store.put(f"surfaces[{i}].controls[{j}]", control.model_copy(update=update), f"Hinge by its {way}")

    def _hinge_rows(self, control: ControlSurface, base: str) -> tuple[Dimension, ...]:
        if control.width is None:
            return (Dimension("Share of the chord", f"{base}.chord_fraction", hint="behind the hinge"),)
        inner = control.width
        return (
            Dimension("Width, inner end", f"{base}.width", hint="behind the hinge"),
            Dimension("Width, outer end", f"{base}.width_out", hint="as the inner where empty", empty=lambda: inner),
        )

    def _surface_of_selection(self) -> int:
        spot = self.store.spot("surface", "control")
        return self._surface if spot is None else spot.index

    def remove_control(self) -> None:
        """Remove the chosen control."""
        chosen = self.chosen
        if chosen is not None:
            self.store.edit([Change(f"surfaces[{chosen[0]}].controls[{chosen[1]}]", REMOVE)], "Remove a control")

    def selection(self) -> Selection:
        chosen = self.chosen
        if chosen is None:
            return Selection("no control yet", ())
        i, j = chosen
        surface = self.store.design.surfaces[i]
        control = surface.controls[j]
        base = f"surfaces[{i}].controls[{j}]"
        up, down = travel(control, self.store.design.brief.purpose)

        def usual(value: float) -> str:
            return f"usual {math.degrees(value):.0f}°"

        rows = (
            Dimension("Inner end", f"{base}.start", hint="out from the root"),
            Dimension("Outer end", f"{base}.end", hint="out from the root"),
            Dimension("Hinge by", read=self._hinge_by, choices=_HINGES, choose=self._set_hinge, hint="what is typed"),
            *self._hinge_rows(control, base),
            Dimension("Throw up", f"{base}.up", hint=usual(up) if control.up is None else "trailing edge up"),
            Dimension("Throw down", f"{base}.down", hint=usual(down) if control.down is None else "trailing edge down"),
        )
        acts = (
            ("Duplicate", partial(duplicate_control, self.store, i, j)),
            ("Remove", self.remove_control),
        )
        return Selection(f"{control.kind} of {surface.name}", rows, acts)

    @property
    def _bottom(self) -> int:
        return int(0.56 * self.height())

    def arrange(self) -> None:
        if not any(handle.held for handle in self.handles.values()):
            self._fit()
        wanted: list[Grip] = [
            (i, j, end)
            for i, surface in enumerate(self.store.design.surfaces)
            for j in range(len(surface.controls))
            for end in ("start", "end")
        ]
        keep_handles(self.handles, wanted, self._make_handle)
        for grip in wanted:
            i, j, end = grip
            surface = self.store.design.surfaces[i]
            control = surface.controls[j]
            y = getattr(control, end)
            place = chord_point(surface, y, 1 - float(hinge_share(surface, control, y)))
            handle = self.handles[grip]
            handle.place(*self._view_of(surface).at(place))
            handle.chosen = self.chosen == (i, j)
            handle.show()
            handle.update()
        x0 = PAD
        self.kind.refresh()
        self.kind.setVisible(self.chosen is not None)
        self.kind.move(x0 + 76, 44)
        self.add.setGeometry(x0, self._bottom - 36, 112, 24)
        self.remove.setGeometry(x0 + 120, self._bottom - 36, 88, 24)
        self.remove.setEnabled(self.chosen is not None)

    def _fit(self) -> None:
        design = self.store.design
        room = QRectF(PAD + 90, 70, self.width() - 2 * PAD - 180, self._bottom - 92)
        box, side = extent(design, "plan"), extent(design, "side")
        upright = any(is_upright(s) and s.controls for s in design.surfaces)
        wide = room.width() * (0.66 if upright else 1.0)
        scale = min(wide / box.width(), room.height() / box.height())
        self.scale = scale
        middle = room.left() + wide / 2
        self._plan = View(
            "plan", middle - box.center().x() * scale, room.center().y() - box.center().y() * scale, scale
        )
        lower = min((room.right() + 60 - (room.left() + wide)) / side.width(), room.height() / side.height(), scale)
        left = room.right() + 60 - side.width() * lower
        self._side = View("side", left - side.left() * lower, room.center().y() - side.center().y() * lower, lower)
        self._has_side = upright

    def _view_of(self, surface: Surface) -> View:
        return self._side if is_upright(surface) else self._plan

    def _make_handle(self, grip: Grip) -> Handle:
        i, j, end = grip
        surface = self.store.design.surfaces[i]
        words = f"{surface.controls[j].kind} of {surface.name}, {'inner' if end == 'start' else 'outer'} hinge end"
        place = f"surfaces[{i}].controls[{j}]"
        select = partial(self.store.select, place)
        return Handle(self, words, partial(self._drag, grip), self._let_go, on_press=select, step=self.document_step)

    def _let_go(self) -> None:
        self.store.seal()
        self.refresh()

    def _drag(self, grip: Grip, px: float, py: float) -> None:
        i, j, end = grip
        surface = self.store.design.surfaces[i]
        control = surface.controls[j]
        view = self._view_of(surface)
        across, along = view.back(px, py)
        out, back = in_panel(surface, across, along)
        low, high = surface.stations[0].y, surface.stations[-1].y
        limits = (low, control.end - _LEAST) if end == "start" else (control.start + _LEAST, high)
        out = min(max(out, limits[0]), limits[1])
        cut = cut_at(surface, out)
        share = 1 - (back - cut.x) / (cut.chord * math.cos(angle_of(surface, cut.twist)))
        share = min(max(share, 0.05), 0.95)
        fresh = control.model_copy(update={end: round(out, 4), **_moved_hinge(control, end, share, cut.chord)})
        path = f"surfaces[{i}].controls[{j}]"
        self.store.edit([Change(path, fresh)], f"Drag {control.kind}", merge=f"{path}{end}")

    def draw(self, p: QPainter) -> None:
        inks, design = theme.inks, self.store.design
        if self.chosen is not None:
            write(p, PAD, 58, "This one is", VALUE, inks.soft)
        for view in (self._plan, self._side) if self._has_side else (self._plan,):
            draw_aircraft(p, design, view, fill=inks.paper)
            if self.store.ghost is not None:
                draw_aircraft(p, self.store.ghost[0], view, ghost=True)
        for i, surface in enumerate(design.surfaces):
            for j, control in enumerate(surface.controls):
                self._draw_control(p, surface, control, self.chosen == (i, j))
        rule(p, PAD, self._bottom, self.width() - 2 * PAD)
        middle = PAD + int(0.5 * (self.width() - 2 * PAD))
        line(p, middle - 0.5, self._bottom + 10, middle - 0.5, self.height() - 10, inks.hair)
        draw_powers(p, self, PAD, middle - 16, self._bottom)
        draw_motions(p, self, middle + 14, self.width() - PAD, self._bottom)

    def _draw_control(self, p: QPainter, surface: Surface, control: ControlSurface, chosen: bool) -> None:
        inks, view = theme.inks, self._view_of(surface)
        for side in sides_of(surface) if view.kind == "plan" else (1,):
            path = path_in(view, control_points(surface, control, side))
            outline(p, path, inks.live if chosen else inks.ink, 1.6 if chosen else 1.0, inks.wash if chosen else None)
        up, down = travel(control, self.store.design.brief.purpose)
        place = chord_point(surface, 0.5 * (control.start + control.end), 1.0)
        px, py = view.at(place)
        words = f"{math.degrees(up):.0f}° up, {math.degrees(down):.0f}° down"
        if view.kind == "plan":
            write(p, px, py + 19, words, LABEL, inks.live if chosen else inks.soft, align="centre", halo=True)
        else:
            write(p, px + 8, py + 4, f"{math.degrees(max(up, down)):.0f}°", LABEL, inks.soft, halo=True)


def _moved_hinge(control: ControlSurface, end: str, share: float, chord: float) -> dict[str, float]:
    """Return what a drag of one end of a hinge sets: the share of the chord, or the width at that end."""
    if control.width is None:
        return {"chord_fraction": round(share, 3)}
    wide = round(share * chord, 4)
    outer = control.width if control.width_out is None else control.width_out
    return {"width": wide, "width_out": outer} if end == "start" else {"width_out": wide}
