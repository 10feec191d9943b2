"""What a builder read off a bench, typed: thrust and current on the chain itself, or any reading on the bench leaf."""

from __future__ import annotations

from collections.abc import Callable

from pydantic import ValidationError
from PySide6.QtWidgets import QWidget

from ridgeline.design.explain import explain
from ridgeline.design.paths import Change, apply
from ridgeline.design.power import BenchRow, PowerTrain
from ridgeline.desk.store import Store
from ridgeline.desk.widgets.fields import Entry
from ridgeline.engine.power import bench
from ridgeline.errors import DesignError
from ridgeline.typed import parse
from ridgeline.units import shown

#: What a reading may tell: field of the row, its quantity, its name.
TOLD: tuple[tuple[str, str, str], ...] = (
    ("voltage", "voltage", "volts"),
    ("current", "current", "amperes"),
    ("thrust", "force", "thrust"),
    ("rpm", "rotation", "rpm"),
    ("power", "power", "watts"),
    ("throttle", "fraction", "throttle"),
)


class Reading(Entry):
    """One number read off a bench, kept until the reading is added."""

    def __init__(
        self,
        parent: QWidget,
        store: Store,
        told: tuple[str, str, str],
        kept: Callable[[float | None], None],
    ) -> None:
        self._field, self._quantity, name = told
        super().__init__(parent, f"{name} read")
        self._store, self._kept = store, kept
        self.value: float | None = None
        self.refresh()

    def current(self) -> str:
        return "" if self.value is None else shown(self.value, self._quantity, self._store.units)

    def accept(self, text: str) -> None:
        if not text.strip():
            self.value = None
        else:
            value = _read(self._store, text, self._quantity)
            # With two others that are right it is refused for itself alone.
            row_of({"rpm": 1.0, "current": 1.0, self._field: value})
            self.value = value
        self._kept(self.value)

    def clear_value(self) -> None:
        """Forget the number."""
        self.value = None
        self.setModified(False)
        self.refresh()


class OnTheChain(Entry):
    """A figure of the chain standing at full throttle that a measured one can be typed over."""

    def __init__(self, parent: QWidget, store: Store, key: str, field: str, quantity: str, name: str) -> None:
        super().__init__(parent, f"{name}, standing: type what was measured")
        self._store, self._key, self._field, self._quantity, self._name = store, key, field, quantity, name
        self.refresh()
        store.changed.connect(self.refresh)

    def current(self) -> str:
        value = self._store.report.value(self._key)
        if value is None:
            return "–"
        symbol = self._store.units[self._quantity].symbol
        return f"{shown(value, self._quantity, self._store.units)} {symbol}"

    def accept(self, text: str) -> None:
        train = self._store.design.power
        if train is None:
            return
        value = _read(self._store, text, self._quantity) / train.motors
        measure(self._store, _with_typed(train, self._field, value), f"Measured {self._name} {text.strip()}")

    def ink(self) -> None:
        """Show by its colour whether the figure is measured."""
        train = self._store.design.power
        measured = "true" if train is not None and train.bench_fit is not None else "false"
        if self.property("measured") != measured:
            self.setProperty("measured", measured)
            self.style().unpolish(self)
            self.style().polish(self)


def _read(store: Store, text: str, quantity: str) -> float:
    value = float(parse(text, quantity, path="reading", bare=store.unit_of(quantity)))
    if not value > 0:
        raise DesignError("reading", f"“{text.strip()}”", "more than nothing")
    return value


def _with_typed(train: PowerTrain, field: str, value: float) -> tuple[BenchRow, ...]:
    """Return the rows with one number of the reading typed on the chain put in: full throttle, on the train's pack."""
    last = train.bench[-1] if train.bench else None
    if last is not None and last.throttle == 1.0 and last.voltage is None and last.rpm is None and last.power is None:
        return (*train.bench[:-1], row_of({**last.model_dump(exclude_none=True), field: value}))
    return (*train.bench, row_of({"throttle": 1.0, field: value}))


def row_of(told: dict[str, float]) -> BenchRow:
    """Return a row of the bench.

    Raises
    ------
    DesignError
        When the document refuses it, with what was understood and what is allowed.
    """
    try:
        return BenchRow(**told)
    except ValidationError as error:
        raise explain(error, "reading") from error


def measure(store: Store, rows: tuple[BenchRow, ...], words: str) -> bool:
    """Keep rows of the bench, and use from now on what they say, as one step.

    Raises
    ------
    DesignError
        When the document refuses them, or what they say.
    """
    train = store.design.power
    if train is None:
        return False
    rows = rows[-2000:]
    try:
        after = bench.fit(train, rows, store.report.results.air.density).fitted(train)
    except ValueError as error:
        raise DesignError("reading", "a reading that tells nothing of the motor under load", str(error)) from error
    changes = [Change("power.bench", rows)]
    changes += [Change(f"power.{link}", getattr(after, link)) for link in ("motor", "propeller", "bench_fit")]
    apply(store.design, changes)
    return store.edit(changes, words)
