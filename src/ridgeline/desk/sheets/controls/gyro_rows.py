"""What is said of a gyro board in the margin of the Radio leaf."""

from __future__ import annotations

from ridgeline.design.radio import Gyro, GyroAxis
from ridgeline.desk.dimensions import Dimension
from ridgeline.desk.store import Store


def gyro_rows(store: Store) -> tuple[Dimension, ...]:
    """Return what is said of a gyro board: that there is one, how it is mounted, its sense and its gain."""
    radio = store.design.radio
    gyro = None if radio is None else radio.gyro
    words = (("no", "none aboard"), ("yes", "aboard, upright"), ("over", "aboard, upside down"))
    now = "no" if gyro is None else "over" if gyro.upside_down else "yes"

    def take(value: str) -> None:
        made = None if value == "no" else (gyro or Gyro()).model_copy(update={"upside_down": value == "over"})
        store.put("radio.gyro", made, "A gyro board")

    rows = [Dimension("Gyro board", read=lambda: now, choices=words, choose=take)]
    if gyro is None:
        return tuple(rows)
    rows.append(Dimension("Gyro: gain", "radio.gyro.gain"))
    for axis in gyro.axes:

        def turn(value: str, axis: GyroAxis = axis) -> None:
            others = tuple(one for one in gyro.reversed if one != axis)
            store.put("radio.gyro.reversed", (*others, axis) if value == "over" else others, "Gyro's sense")

        def sense(axis: GyroAxis = axis) -> str:
            return "over" if axis in gyro.reversed else "plain"

        rows.append(Dimension(f"Gyro: {axis}", read=sense, choose=turn,
                              choices=(("plain", "as it comes"), ("over", "turned over"))))  # fmt: skip
    return tuple(rows)
