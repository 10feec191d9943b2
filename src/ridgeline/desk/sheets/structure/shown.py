"""Which half the Structure's leaves show, and the small aircraft on which another is pressed."""

from __future__ import annotations

from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QMouseEvent, QPainter

from ridgeline.design.airframe import Surface
from ridgeline.design.construction import RootHold
from ridgeline.design.document import Design
from ridgeline.design.paths import Change, get
from ridgeline.desk.dimensions import Dimension, Selection
from ridgeline.desk.drawing import draw_aircraft, fitted, joined_points, path_in
from ridgeline.desk.paint import fit, outline, state_mark, write
from ridgeline.desk.sheets.base import PAD, Sheet
from ridgeline.desk.theme import LABEL, VALUE, theme
from ridgeline.engine.advice.structure_rules import level_of
from ridgeline.engine.report import Report
from ridgeline.engine.stages.bearing import Borne
from ridgeline.engine.structure.choosing import main_spar
from ridgeline.engine.structure.half import Half, why_not

Array = NDArray[np.float64]


class Shown(NamedTuple):
    """A half that is shown: its place among the surfaces, the half and what it bears."""

    place: int
    half: Half
    own: Borne


def shown_in(design: Design, report: Report, index: int) -> Shown | None:
    """Return a half of a design as it is shown, None where it cannot be judged."""
    found = report.results.bearing
    if found is None or index >= len(design.surfaces):
        return None
    half, own = report.results.beams[index], found.borne[index]
    return None if half is None or own is None else Shown(index, half, own)


class HalfSheet(Sheet):
    """What the leaves share: the surface that is shown, and pressing another one."""

    def __init__(self, *arguments: Any) -> None:
        super().__init__(*arguments)
        self._pressed: list[tuple[object, int]] = []

    @property
    def index(self) -> int:
        """The surface that is selected, or the main wing."""
        spot = self.store.spot("surface", "control")
        if spot is not None and spot.index < len(self.store.design.surfaces):
            return spot.index
        found = self.store.report.results.bearing
        return 0 if found is None else found.main

    @property
    def main(self) -> int:
        """The place of the main wing, −1 while there is none."""
        found = self.store.report.results.bearing
        return -1 if found is None else found.main

    @property
    def surface(self) -> Surface:
        """The surface that is shown."""
        return self.store.design.surfaces[self.index]

    @property
    def shown(self) -> Shown | None:
        """The half that is shown, None where it cannot be judged."""
        return shown_in(self.store.design, self.store.report, self.index)

    @property
    def ghost_shown(self) -> Shown | None:
        """The same half under the ghost of a remedy."""
        ghost = self.store.ghost
        return None if ghost is None else shown_in(*ghost, self.index)

    def why_not(self) -> str:
        """Say why the surface cannot be judged."""
        if self.store.report.results.bearing is None:
            return self.store.report.figures["structure.wing_share"].why_not
        return f"{self.surface.name}: {why_not(self.surface)}"

    def say_why(self, p: QPainter) -> None:
        """Say it on the sheet."""
        words = f"{self.why_not()}."
        write(p, PAD, 84, fit(words[0].upper() + words[1:], self.width() - 2 * PAD), VALUE, theme.inks.soft)
        write(p, PAD, 104, "The findings offer what would tell it.", LABEL, theme.inks.soft)

    def selection(self) -> Selection:
        if self.empty:
            return Selection("", ())
        surface, base = self.surface, f"surfaces[{self.index}].built"
        rows = [Dimension("Built to", "loads.factor", empty=lambda: self.store.report.value("structure.load_factor"))]
        rows += [
            Dimension("Tips bend, at most", "loads.tip"),
            Dimension("Dive speed", "loads.dive_speed", empty=lambda: self.store.report.value("structure.dive_speed")),
        ]
        rows += self._met_rows()
        rows += self._root_rows(surface, base)
        which = main_spar(surface)
        if which is not None:
            spar = f"{base}.spars[{which}]"
            made = surface.built.spars[which] if surface.built else None
            rows += [Dimension("Spar: outside, up", f"{spar}.height")]
            rows += [Dimension("Bore", f"{spar}.inner")] if made and made.round else [
                Dimension("Width", f"{spar}.width")
            ]  # fmt: skip
            rows += [
                Dimension("At, of the chord", f"{spar}.place"),
                Dimension("Ends, of the panel", f"{spar}.end"),
                Dimension("How many", f"{spar}.count"),
                self._caps_row(spar),
                Dimension("Young's modulus", f"{spar}.modulus"),
                Dimension("Strength", f"{spar}.strength"),
            ]
        title = surface.name if which is None else f"{surface.name}, {surface.built.spars[which].material}"  # type: ignore[union-attr]
        return Selection(fit(title, 190, LABEL), tuple(rows))

    def _caps_row(self, spar: str) -> Dimension:
        """Return where its pieces lie: in the middle, or along both skins."""

        def lie(way: str) -> None:
            count = int(get(self.store.design, f"{spar}.count"))
            even = Change(f"{spar}.count", count + count % 2)
            changes = [even, Change(f"{spar}.caps", True)] if way else [Change(f"{spar}.caps", False)]
            self.store.edit(changes, "Along both skins" if way else "In the middle")

        def read() -> str:
            which = main_spar(self.surface)
            built = self.surface.built
            return "caps" if built is not None and which is not None and built.spars[which].caps else ""

        ways = (("", "in the middle"), ("caps", "along both skins"))
        return Dimension("They lie", read=read, choices=ways, choose=lie)

    def _met_rows(self) -> list[Dimension]:
        """Return what it meets: gusts, hard touch-downs, a launch by its tip."""

        def swing(way: str) -> None:
            self.store.put("loads.swung", bool(way), "Launch by the wing tip")

        loads = self.store.design.loads
        ways = (("", "thrown or rolling"), ("tip", "swung by its tip"))
        rows = [
            Dimension("Gust, upward", "loads.gust"),
            Dimension("Hard touch-down", "loads.sink"),
            Dimension(
                "Leaves", read=lambda: "tip" if self.store.design.loads.swung else "", choices=ways, choose=swing
            ),
        ]
        if loads.swung:
            rows.append(Dimension("Leaves the hand at", "loads.swing_speed", empty=self._swing_speed))
        return rows

    def _swing_speed(self) -> float | None:
        found = self.store.report.results.bearing
        return None if found is None else next((case.speed for case in found.cases if case.swing), None)

    def _root_rows(self, surface: Surface, base: str) -> list[Dimension]:
        """Return how its root is held against turning."""
        if surface.built is None:
            return []

        def hold(way: str) -> None:
            self.store.put(f"{base}.root", RootHold() if way else None, "Hold of the root")

        def read() -> str:
            built = self.surface.built
            return "pin" if built is not None and built.root is not None else ""

        ways = (("", "held whole"), ("pin", "turns on its spar"))
        rows = [Dimension("Its root", read=read, choices=ways, choose=hold)]
        if surface.built.root is not None:
            rows += [Dimension("Pin from the spar", f"{base}.root.arm"), Dimension("It gives", f"{base}.root.spring")]
        return rows

    def draw_key(self, p: QPainter, room: QRectF) -> None:
        """Draw the aircraft from above, the surface on show inked; a press on another one shows that."""
        inks, design = theme.inks, self.store.design
        view = fitted(design, "plan", room)
        draw_aircraft(p, design, view, fill=inks.paper)
        self._pressed = []
        found = self.store.report.results.bearing
        for k, surface in enumerate(design.surfaces):
            for points in joined_points(surface):
                path = path_in(view, points)
                grown = path.boundingRect().adjusted(-4, -4, 4, 4)
                self._pressed.append((path if path.boundingRect().width() > 8 else grown, k))
                if k == self.index:
                    outline(p, path, inks.live, 1.8, inks.wash)
            own = None if found is None else found.borne[k]
            level = "settled" if own is None else level_of(surface, own)
            if level != "settled":
                at = path_in(view, joined_points(surface)[0]).boundingRect().center()
                state_mark(p, at.x(), at.y(), level)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        super().mousePressEvent(event)
        if event.button() != Qt.MouseButton.LeftButton:
            return
        at = event.position()
        hit = next((k for shape, k in reversed(self._pressed) if shape.contains(QPointF(at))), None)  # type: ignore[attr-defined]
        if hit is not None:
            self.store.select(f"surfaces[{hit}].stations[{len(self.store.design.surfaces[hit].stations) - 1}]")
