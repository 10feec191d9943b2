"""The strip of sets in the top bar: press one to fit it; where they do not fit side by side, a menu of them."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from ridgeline.design.document import Configuration
from ridgeline.desk.set_edits import fit_set
from ridgeline.desk.store import Store
from ridgeline.desk.widgets.buttons import LeafButton, WordButton, discard


class SetStrip(QWidget):
    """Every set of the design; empty while there is only the one airframe."""

    def __init__(self, parent: QWidget, store: Store) -> None:
        super().__init__(parent)
        self._store = store
        self.setAccessibleName("sets of this airframe")
        self.buttons: dict[str, LeafButton] = {}
        self.menu: WordButton | None = None
        self._shown: tuple[object, ...] = ()
        store.changed.connect(self.refresh)
        self.refresh()

    @property
    def used(self) -> bool:
        """Tell whether there is a set to choose."""
        return bool(self.buttons)

    @property
    def wish(self) -> int:
        """Return the width it needs to show every set side by side, px."""
        return sum(button.width() + 4 for button in self.buttons.values()) + 4

    def refresh(self) -> None:
        """Show the sets of the present design."""
        design = self._store.design
        shown = (design.configurations, design.fitted)
        if shown != self._shown:
            self._shown = shown
            self._make(*shown)
        self._place()

    def _make(self, sets: tuple[Configuration, ...], fitted: str) -> None:
        for old in (*self.buttons.values(), *([self.menu] if self.menu else [])):
            discard(old)
        self.buttons, self.menu = {}, None
        for one in sets:
            button = LeafButton(self, one.name, chosen=one.id == fitted)
            button.setAccessibleName(f"fit the set {one.name}")
            button.setToolTip(f"fit the set {one.name}")
            button.clicked.connect(lambda _=False, ident=one.id: self._fit(ident))
            self.buttons[one.id] = button
        if sets:
            self.menu = WordButton(
                self,
                "the set that is fitted",
                [(one.id, one.name) for one in sets],
                lambda: self._store.design.fitted,
                self._fit,
                widest=170,
            )

    def _fit(self, ident: str) -> None:
        fit_set(self._store, ident)

    def _place(self) -> None:
        wide = sum(button.width() + 4 for button in self.buttons.values())
        side_by_side = wide <= self.width()
        x = 0
        for button in self.buttons.values():
            button.setVisible(side_by_side)
            button.move(x, 2)
            x += button.width() + 4
        if self.menu is not None:
            self.menu.setVisible(not side_by_side)
            self.menu.move(0, 4)

    def resizeEvent(self, event: object) -> None:
        super().resizeEvent(event)  # type: ignore[arg-type]
        self._place()
