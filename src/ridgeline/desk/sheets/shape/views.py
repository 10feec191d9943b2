"""Shape: plan, side and front views linked, with a handle on every station and dimensions typed on the drawing."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QMouseEvent, QPainter
from PySide6.QtWidgets import QCheckBox, QWidget

from ridgeline.design.airframe import Surface
from ridgeline.design.axes import is_upright
from ridgeline.design.paths import REMOVE, Change
from ridgeline.desk.dimensions import Selection
from ridgeline.desk.drawing import View, chord_point, draw_aircraft, extent, panel_point
from ridgeline.desk.paint import dimension, dimension_up, heading, line, outline, path_of, rule, still, wrap, write
from ridgeline.desk.scales import nice_step, ruler
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.sheets.shape.dimensions import other_selection, station_selection
from ridgeline.desk.sheets.shape.grips import Grip, Key, grips_of
from ridgeline.desk.sheets.shape.overlays import (
    draw_areas,
    draw_discs,
    draw_ground,
    draw_loading,
    draw_pencil,
    draw_points,
    draw_proportion,
    draw_station,
)
from ridgeline.desk.sheets.shape.underlay import ScaleTool, draw_underlays
from ridgeline.desk.store import Store
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.desk.widgets.buttons import RuledButton, WordButton, discard
from ridgeline.desk.widgets.fields import PathField
from ridgeline.desk.widgets.handles import Handle, keep_handles
from ridgeline.engine.aero.sections import FORMS, section_of
from ridgeline.engine.sizing.planforms import halfway
from ridgeline.units import shown, with_unit

_LEFT = 184
_OVERLAY_ROW = 18
_OVERLAYS = (
    ("pencil", "Pencil mean chord", True),
    ("points", "Balance and neutral point", True),
    ("arm", "Tail arm", True),
    ("areas", "Panel areas", False),
    ("loading", "Lift along the span", True),
    ("discs", "Propeller clearances", True),
    ("bodies", "Body outlines to drag", False),
)


class ShapeSheet(Sheet):
    """The airframe in three views."""

    key = "shape"
    known_by = "wing.span"

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent, store)
        self.handles: dict[Key, Handle] = {}
        self._grips: dict[Key, Grip] = {}
        self.scale_tool = ScaleTool(self, store)
        self.overlays: dict[str, QCheckBox] = {}
        for key, words, on in _OVERLAYS:
            box = QCheckBox(words, self)
            box.setChecked(on)
            box.toggled.connect(self.refresh)
            self.overlays[key] = box
        self.section = WordButton(
            self,
            "section of the surface",
            tuple((key, form.label) for key, form in FORMS.items()),
            lambda: self.surface.section if self.surface else "flat_bottom",
            self._set_section,
        )
        self.split = RuledButton(self, "Add station")
        self.split.clicked.connect(self.add_station)
        self.drop = RuledButton(self, "Remove it")
        self.drop.clicked.connect(self.remove_station)
        self._typed: list[PathField] = []
        self._typed_key: object = None
        self._plan, self._side, self._front = (View(k, 0, 0, 1) for k in ("plan", "side", "front"))

    def subtitle(self) -> str:
        store = self.store
        box = extent(store.design, "side")
        return f"{self.words('wing.span')} span, {with_unit(box.width(), 'length', store.units)} long"

    @property
    def chosen(self) -> tuple[int, int]:
        """Return the selected surface and station; the wing's tip when nothing else is."""
        surfaces, spot = self.store.design.surfaces, self.store.spot("surface")
        if spot is not None:
            return spot.index, spot.inner
        wing = next((i for i, s in enumerate(surfaces) if s.role == "wing"), 0)
        return wing, len(surfaces[wing].stations) - 1

    @property
    def surface(self) -> Surface | None:
        if not self.store.design.surfaces:
            return None
        return self.store.design.surfaces[self.chosen[0]]

    def _set_section(self, form: str) -> None:
        surface = self.surface
        if surface is not None:
            self.store.put(f"surfaces[{self.chosen[0]}].section", form, f"Set section of {surface.name}")

    def selection(self) -> Selection:
        if not self.store.design.surfaces:
            return Selection("", ())
        other = other_selection(self.store)
        if other is not None:
            return other
        return station_selection(self.store, *self.chosen)

    def add_station(self) -> None:
        """Add a station halfway between the selected one and the next inboard."""
        i, j = self.chosen
        stations = self.store.design.surfaces[i].stations
        j = max(j, 1)
        middle = halfway(stations[j - 1], stations[j])
        self.store.put(f"surfaces[{i}].stations", (*stations[:j], middle, *stations[j:]), "Add a station")
        self.store.select(f"surfaces[{i}].stations[{j}]")

    def remove_station(self) -> None:
        """Remove the selected station."""
        i, j = self.chosen
        self.store.edit([Change(f"surfaces[{i}].stations[{j}]", REMOVE)], "Remove a station")

    def arrange(self) -> None:
        self._fit_views()
        self._arrange_left()
        self._arrange_handles()
        self._arrange_typed()

    @property
    def _overlays_top(self) -> int:
        return self._bottom() - 57 - _OVERLAY_ROW * len(self.overlays)

    def _bottom(self) -> int:
        return int(0.735 * self.height())

    def _fit_views(self) -> None:
        # The paper stays still under a moving hand; the fit is made anew when it lets go.
        if any(handle.held for handle in self.handles.values()):
            return
        design = self.store.design
        plan, side, front = (extent(design, kind) for kind in ("plan", "side", "front"))
        room = QRectF(PAD + _LEFT + 34, 74, self.width() - _LEFT - 2 * PAD - 68, self._bottom() - 104)
        low = QRectF(PAD + 10, self._bottom() + 14, self.width() - 2 * PAD - 20, self.height() - self._bottom() - 46)
        scale = min(room.width() / plan.width(), room.height() / plan.height())
        lower = min(
            scale,
            low.height() / max(side.height(), front.height()),
            (low.width() - 60) / (side.width() + front.width()),
        )
        self.scale = scale
        self._plan = View(
            "plan",
            room.center().x() - plan.center().x() * scale,
            room.top() - plan.top() * scale + (room.height() - plan.height() * scale) / 2,
            scale,
        )
        base = low.bottom() - max(side.bottom(), front.bottom()) * lower
        self._side = View("side", low.left() - side.left() * lower + 6, base, lower)
        # The front view stands under the plan where it fits, at its right end where not.
        x = min(self._plan.x0, low.right() - front.right() * lower)
        x = max(x, self._side.x0 + side.right() * lower + 40 - front.left() * lower)
        self._front = View("front", x, base, lower)

    def _arrange_left(self) -> None:
        top = self._overlays_top
        for index, box in enumerate(self.overlays.values()):
            box.setGeometry(PAD, top + 20 + _OVERLAY_ROW * index, _LEFT - 8, 17)
        self.section.refresh()
        self.section.move(PAD - 2, 118)
        half = (_LEFT - 20) // 2
        self.split.setGeometry(PAD, self._bottom() - 34, half + 6, 24)
        self.drop.setGeometry(PAD + half + 12, self._bottom() - 34, half - 6, 24)
        surface = self.surface
        self.drop.setEnabled(surface is not None and len(surface.stations) > 2)

    def _arrange_handles(self) -> None:
        grips = {grip.key: grip for grip in grips_of(self.store.design, bodies=self.overlays["bodies"].isChecked())}
        keep_handles(self.handles, grips, lambda key: self._make_handle(key, grips[key].name))
        spot = self.store.spot()
        chosen = f"surfaces[{self.chosen[0]}].stations[{self.chosen[1]}]"
        picked = chosen if spot is None else spot.path
        for key, grip in grips.items():
            handle = self.handles[key]
            handle.place(*self._view(grip.view).at(grip.place))
            handle.chosen = grip.path == picked or (grip.path == chosen and len(key) == 3)
            handle.show()
            handle.update()
        self._grips = grips

    def _make_handle(self, key: Key, name: str) -> Handle:
        size = 15 if len(key) == 3 and key[0] != "front" else 11
        move, press = partial(self._drag, key), partial(self._press, key)
        return Handle(self, name, move, self._let_go, on_press=press, size=size, step=self.document_step)

    def _view(self, kind: str) -> View:
        return {"plan": self._plan, "side": self._side, "front": self._front}[kind]

    def _view_of(self, surface: Surface) -> View:
        """Return the view a surface is dragged in: plan, or side for one that stands upright."""
        return self._side if is_upright(surface) else self._plan

    def _press(self, key: Key) -> None:
        self.store.select(self._grips[key].path)

    def _let_go(self) -> None:
        self.store.seal()
        self.refresh()

    def _drag(self, key: Key, px: float, py: float) -> None:
        grip = self._grips[key]
        across, along = self._view(grip.view).back(px, py)
        changes = grip.move(self.store.design, across, along)
        self.store.edit(changes, f"Drag {grip.name}", merge=f"{grip.path}{key}")

    def mousePressEvent(self, event: QMouseEvent) -> None:
        tool, at = self.scale_tool, event.position()
        under = None if tool.index is None else self.store.design.underlays[tool.index]
        if tool.picking and under is not None and event.button() == Qt.MouseButton.LeftButton:
            tool.pick(self._view(under.view), at.x(), at.y())
            self.update()
            return
        super().mousePressEvent(event)

    def scale_picture(self, index: int) -> None:
        """Scale a picture by two points picked on it."""
        self.scale_tool.begin(index)
        self.update()

    def _arrange_typed(self) -> None:
        """Put the selected station's chord and distance out on the drawing, to be typed there."""
        i, j = self.chosen
        key = (i, j, self.store.design.surfaces[i].name)
        if self._typed_key != key:
            self._typed_key = key
            for old in self._typed:
                self.store.changed.disconnect(old.refresh)
                discard(old)
            here = f"surfaces[{i}].stations[{j}]"
            name = self.store.design.surfaces[i].name
            self._typed = [
                PathField(
                    self, self.store, f"{here}.chord", f"{name} station {j + 1} chord on the drawing", right=False
                ),
                PathField(
                    self, self.store, f"{here}.y", f"{name} station {j + 1} distance out on the drawing", right=False
                ),
            ]
        surface = self.store.design.surfaces[i]
        station, view = surface.stations[j], self._view_of(surface)
        x1, y1 = view.at(chord_point(surface, station.y, 0.0))
        _x2, y2 = view.at(chord_point(surface, station.y, 1.0))
        for field in self._typed:
            field.fit_width()
            field.setFixedHeight(20)
            field.show()
        chord, out = self._typed
        chord.move(int(x1 - chord.width() - 9), int((y1 + y2) / 2 - 10))
        out.setVisible(j > 0 and view.kind == "plan")
        root = view.at(panel_point(surface, 0.0, 0.0, 0.0))[0]
        out.move(int((root + x1) / 2 - out.width() / 2), int(min(y1, view.at(panel_point(surface, 0, 0, 0))[1]) - 36))

    def draw(self, p: QPainter) -> None:
        inks = theme.inks
        rule(p, PAD, self._bottom() - 2, self.width() - 2 * PAD)
        self._draw_rulers(p)
        ghost = self.store.ghost
        for view in (self._plan, self._side, self._front):
            draw_underlays(p, self.store.design, view)
            draw_aircraft(p, self.store.design, view, fill=inks.paper)
            if ghost is not None:
                draw_aircraft(p, ghost[0], view, ghost=True)
        write(p, PAD + _LEFT + 30, 92, "Plan", VALUE, bold=True)
        write(p, PAD, self._bottom() + 14, "Side", VALUE, bold=True)
        front_left = self._front.x0 + extent(self.store.design, "front").left() * self._front.scale
        write(p, front_left, self._bottom() + 14, "Front", VALUE, bold=True)
        draw_ground(p, self, self._side, with_gap=self.overlays["discs"].isChecked())
        self._draw_overlays(p)
        index, number = self.chosen
        chosen = self.store.design.surfaces[index]
        draw_station(p, self, chosen, number, self._view_of(chosen), self._front)
        self._draw_left(p)
        if self.scale_tool.index is not None and self.scale_tool.index < len(self.store.design.underlays):
            self.scale_tool.draw(p, self._view(self.store.design.underlays[self.scale_tool.index].view))

    def _draw_rulers(self, p: QPainter) -> None:
        box, view, unit = extent(self.store.design, "plan"), self._plan, self.store.units["length"]
        left, right = PAD + _LEFT + 22, self.width() - PAD - 22
        top, bottom = 58.0, self._bottom() - 10.0

        def rulers(q: QPainter) -> None:
            low, high = ((x - view.x0) / view.scale * unit.factor for x in (left, right))
            ruler(q, QRectF(left, 36, right - left, 18), low, high, nice_step(high - low, 10), top=False, mirrored=True)
            write(q, right + 5, 49, unit.symbol, LABEL, theme.inks.soft)
            q.translate(self.width() - PAD - 2, top)
            q.rotate(90)
            low, high = ((y - view.y0) / view.scale * unit.factor for y in (top, bottom))
            ruler(q, QRectF(0, 0, bottom - top, 18), low, high, nice_step(high - low, 8), top=False)

        # They stand still while a hand moves a part: drawn once for each fit of the views.
        room = QRectF(left - 4, 32, self.width() - left + 4, bottom - 28)
        still(p, room, ("shape rulers", view, unit.symbol), rulers)
        y = view.y0 + box.top() * view.scale - 16
        wings = [s for s in self.store.design.surfaces if s.role == "wing"]
        if wings:
            wing = max(wings, key=lambda s: s.stations[-1].y + s.y)
            tip = wing.stations[-1].y + wing.y
            x1, x2 = view.at((0, -tip, 0))[0], view.at((0, tip, 0))[0]
            dimension(p, x1, x2, max(y, 66), self.length(2 * tip))

    def _draw_overlays(self, p: QPainter) -> None:
        inks, report, view = theme.inks, self.store.report, self._plan
        ref = report.results.shape.reference
        if ref is None:
            return
        if self.overlays["pencil"].isChecked():
            draw_pencil(p, self, self._plan)
        if self.overlays["arm"].isChecked() and report.value("tail.arm") is not None:
            quarter = ref.at(0.25)
            arm = report.value("tail.arm") or 0.0
            x = view.x0 + 0.05 * view.scale + 16
            tails = report.results.shape.tails
            ahead = tails is not None and tails.foreplane and not report.results.shape.of("stabiliser", "v_tail")
            y1, y2 = view.at((quarter, 0, 0))[1], view.at((quarter + (-arm if ahead else arm), 0, 0))[1]
            for y in (y1, y2):
                line(p, view.x0, y, x + 4, y, inks.hair)
            dimension_up(p, x, y1, y2, f"{self.length(arm)} tail arm")
        if self.overlays["discs"].isChecked():
            draw_discs(p, self, self._plan)
        if self.overlays["areas"].isChecked():
            draw_areas(p, self, self._plan)
        if self.overlays["loading"].isChecked():
            draw_loading(p, self, self._front, self._bottom() + 24)
        if self.overlays["points"].isChecked():
            draw_points(p, self, self._plan, self._side)

    def _draw_left(self, p: QPainter) -> None:
        inks, units, report = theme.inks, self.store.units, self.store.report
        surface, room = self.surface, _LEFT - 14
        assert surface is not None
        station = surface.stations[self.chosen[1]]
        heading(p, PAD, 48, room, "Section", surface.name)
        shape = section_of(surface)
        scale = room - 4
        path = path_of([(PAD + 2 + x * scale, 92 - z * scale) for x, z in shape.outline.tolist()])
        outline(p, path, inks.live, 1.5, inks.wash)
        for index in range(11):
            x = PAD + 2 + index * scale / 10
            line(p, x, 106, x, 110 if index % 5 == 0 else 108, inks.soft)
        line(p, PAD + 2, 106, PAD + 2 + scale, 106, inks.soft)
        write(p, PAD, 152, f"lift limit {shape.cl_max:.2f} at Re 100 000", LABEL, inks.soft)
        write(
            p,
            PAD,
            167,
            f"{self.length(surface.thickness, 1)} thick, {shown(station.chord, 'length', units)} chord here",
            LABEL,
            inks.soft,
        )
        heading(p, PAD, 196, room, "Proportions", "wanted")
        y = 219
        for key, words in (
            ("wing.area", "Wing area"),
            ("wing.aspect_ratio", "Aspect ratio"),
            ("wing.mac", "Mean chord"),
            ("tail.volume_h", "Tail volume"),
            ("tail.volume_v", "Fin volume"),
            ("tail.arm", "Tail arm"),
        ):
            if y > self._overlays_top - 16:
                break
            draw_proportion(p, self, key, words, y, room)
            y += 19
        heading(p, PAD, self._overlays_top, room, "Overlays")
        if report.results.stability is None:
            for row, words in enumerate(wrap(report.figures["stability.cl_alpha"].why_not, room, LABEL)[:2]):
                write(p, PAD, y + 6 + 15 * row, words, LABEL, inks.look)
