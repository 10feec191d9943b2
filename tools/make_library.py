"""Write the shipped tables of motors, propellers, packs, controllers and servos from the scaling laws they state.

The rows of a class are generic: sizes and windings as they are sold, constants by law, so that they hold together.
"""

from __future__ import annotations

import csv
import math
from collections.abc import Iterable, Sequence
from pathlib import Path

from ridgeline.engine.power import classes

FOLDER = Path(__file__).resolve().parents[1] / "src" / "ridgeline" / "library"

#: Stator class, mass g, can diameter and length mm, most cells, shaft mm, bolt circle mm, magnets, windings in rpm/V.
OUTRUNNERS: tuple[tuple[str, float, float, float, int, float, float, int, tuple[int, ...]], ...] = (
    ("08-03", 4, 10, 10, 1, 1.0, 6, 9, (12000,)),
    ("11-03", 5.5, 14, 13, 2, 1.5, 9, 12, (8000, 5000)),
    ("13-05", 7, 16, 14, 2, 1.5, 9, 12, (4200, 3100)),
    ("14-06", 9, 14, 18, 2, 1.5, 12, 12, (2500,)),
    ("14-07", 12, 18, 16, 3, 1.5, 12, 12, (3600, 2700)),
    ("18-06", 14, 18, 18, 2, 2.0, 12, 12, (2300,)),
    ("18-08", 17, 22, 18, 3, 2.0, 12, 12, (2600, 1800)),
    ("18-11", 19, 18, 23, 2, 2.0, 12, 12, (2000,)),
    ("22-04", 24, 28, 18, 3, 3.0, 16, 14, (2300, 1700)),
    ("22-08", 27, 22, 20, 3, 3.0, 16, 14, (1800, 1500, 1200)),
    ("22-12", 38, 22, 24, 3, 3.0, 16, 14, (1400,)),
    ("22-12", 39, 22, 24, 3, 3.0, 16, 14, (1000,)),
    ("22-12", 39, 28, 25, 4, 3.0, 16, 14, (1200, 850)),
    ("28-08", 42, 28, 22, 3, 3.17, 19, 14, (1600, 1250)),
    ("28-12", 48, 28, 24, 4, 3.17, 19, 14, (1400, 1100, 900)),
    ("28-14", 55, 28, 26, 3, 3.17, 19, 14, (1050,)),
    ("28-14", 56, 28, 26, 4, 3.17, 19, 14, (1300, 850)),
    ("28-20", 76, 28, 32, 4, 3.17, 19, 14, (1200, 900)),
    ("28-26", 95, 28, 38, 4, 4.0, 19, 14, (1000, 760)),
    ("35-10", 82, 35, 25, 4, 4.0, 25, 14, (1250, 1000)),
    ("35-15", 98, 35, 30, 4, 4.0, 25, 14, (1150, 880)),
    ("35-20", 112, 35, 32, 4, 4.0, 25, 14, (1100, 900, 720)),
    ("35-26", 140, 35, 38, 5, 5.0, 25, 14, (950, 710)),
    ("35-36", 180, 35, 48, 5, 5.0, 25, 14, (800, 700, 560)),
    ("42-20", 165, 42, 38, 5, 5.0, 25, 14, (780, 600)),
    ("42-30", 210, 42, 48, 6, 5.0, 25, 14, (650, 520)),
    ("42-40", 265, 42, 56, 6, 5.0, 25, 14, (620, 480)),
    ("50-35", 330, 50, 55, 6, 6.0, 30, 14, (580, 430)),
    ("50-45", 400, 50, 65, 6, 6.0, 30, 14, (520, 380)),
    ("50-65", 560, 50, 80, 8, 6.0, 30, 14, (410, 320)),
    ("63-50", 630, 63, 62, 10, 8.0, 44, 14, (320, 230)),
    ("63-64", 760, 63, 76, 10, 8.0, 44, 14, (280, 190)),
    ("80-60", 980, 80, 70, 12, 10.0, 60, 20, (230, 170)),
    ("80-80", 1240, 80, 90, 12, 10.0, 60, 20, (190, 150)),
    ("80-100", 1500, 80, 108, 12, 12.0, 60, 20, (170, 130)),
)
#: Short fat motors for many cells or slow propellers: as above.
FLAT: tuple[tuple[str, float, float, float, int, float, float, int, tuple[int, ...]], ...] = (
    ("23-06", 33, 28, 19, 6, 4.0, 16, 14, (1900, 1300)),
    ("28-06", 65, 34, 20, 6, 4.0, 19, 14, (750, 480)),
    ("41-08", 95, 46, 25, 6, 4.0, 25, 24, (480, 380)),
)
#: Long slim motors that turn fans: as above.
INRUNNERS: tuple[tuple[str, float, float, float, int, float, float, int, tuple[int, ...]], ...] = (
    ("20-30", 34, 20, 34, 3, 2.3, 12, 4, (4800, 4100)),
    ("24-40", 68, 24, 44, 4, 3.17, 16, 4, (3900, 3200)),
    ("28-40", 112, 28, 48, 6, 4.0, 19, 4, (3000, 2300)),
    ("29-52", 165, 29, 60, 6, 4.0, 19, 4, (2500, 1900)),
)
#: Name, mass g, diameter and length mm, cells, rpm/V, winding mΩ, no-load A at V, most A.
BRUSHED = (
    ("Brushed coreless 7-16, 17000 Kv", 3, 7, 16, 1, 17000, 900, 0.10, 3.7, 2.2),
    ("Brushed coreless 8-20, 13000 Kv", 5, 8.5, 20, 1, 13000, 550, 0.14, 3.7, 3.2),
    ("Brushed can 20-25, 3500 Kv", 17, 20, 25, 2, 3500, 600, 0.35, 7.4, 5.0),
    ("Brushed can 28-38, 2300 Kv", 70, 28, 38, 2, 2300, 120, 1.2, 7.4, 15.0),
)
PROPELLERS = {
    "thin_electric": "4×2.5 4.5×3 5×3 5×4.5 5.5×4.5 6×3 6×4 6×5.5 7×4 7×5 7×6 8×4 8×6 8×8 9×4.5 9×6 9×7.5 "
    "10×5 10×7 10×10 "
    "11×5.5 11×7 11×8.5 12×6 12×8 13×6.5 13×8 14×7 14×8.5 15×8 16×8 16×10 "
    "17×8 17×10 18×8 18×10 18×12 19×10 20×8 20×10 20×13 22×10 22×12 24×12",
    "slow_fly": "7×3.5 7×6 8×3.8 8×4 8×6 9×3.8 9×4.5 9×4.7 9×6 "
    "10×3.8 10×4.7 10×7 11×3.8 11×4.7 11×5 12×3.8 12×6 13×4.7",
    "wood": "9×6 10×6 11×6 12×6 13×7 14×7 15×8 16×8 17×8 18×8 18×10 19×10 20×8 20×10 "
    "22×8 22×10 24×8 24×10 26×10 26×12 28×10 30×10 32×12 34×12 36×12",
    "folding": "6×3 7×4 8×4.5 8×5 9×5 10×6 11×6 11×8 12×6 12×8 13×6.5 13×8 14×8 15×8 16×10 18×10 20×12",
    "tiny": "2×1 2.2×1.6 2.5×1.2 3×2 3×3 3.5×2.5 4×2.5",
}
#: Three and four blades.
WIDE = ("4×3×3", "5×3×3", "5×4.5×3", "6×4×3", "6×4.5×3", "7×4×3", "8×4×3", "5×4.5×4", "6×4.5×4")
FANS_MM = (50, 55, 64, 70, 80, 90)
_LABEL = {
    "thin_electric": "Thin electric",
    "slow_fly": "Slow fly",
    "wood": "Wood",
    "folding": "Folding",
    "tiny": "Tiny",
}
_MASS_8IN = {"thin_electric": 12.5, "slow_fly": 8.5, "wood": 15.0, "folding": 17.0, "tiny": 10.0, "wide": 15.0}
#: Cells, then capacities in mAh with the C that size is usually sold at.
PACKS: dict[int, tuple[tuple[int, int], ...]] = {
    1: ((150, 25), (220, 25), (300, 30), (450, 30), (600, 30), (850, 25)),
    2: (
        (300, 30),
        (450, 30),
        (650, 30),
        (850, 30),
        (1000, 30),
        (1300, 25),
        (1500, 30),
        (1800, 25),
        (2200, 25),
        (3000, 25),
    ),
    3: (
        *((450, 45), (650, 45), (850, 30), (1000, 30), (1300, 30), (1500, 30), (1800, 25), (2200, 25), (2200, 40)),
        *((2600, 25), (3000, 30), (3300, 30), (4000, 30), (5000, 30)),
    ),
    4: (
        *((650, 60), (850, 60), (1300, 45), (1500, 45), (1800, 40), (2200, 40), (2600, 35), (3000, 30), (3300, 30)),
        *((4000, 30), (5000, 30)),
    ),
    5: ((1500, 45), (2200, 40), (3000, 35), (4000, 35), (5000, 30)),
    6: (
        (1300, 60),
        (1800, 45),
        (2200, 40),
        (3000, 40),
        (3700, 35),
        (4500, 35),
        (5000, 35),
        (6000, 30),
        (8000, 25),
        (10000, 25),
    ),
    8: ((3000, 40), (4000, 35), (5000, 35), (6000, 30)),
    10: ((4000, 35), (5000, 35), (6000, 30)),
    12: ((3000, 40), (4000, 35), (5000, 35), (6000, 30), (8000, 25), (10000, 25)),
}
#: Cells and mAh of round-cell packs, one or two side by side.
#: Volts at no load over charge of a round nickel-rich cell, and what it may be pulled to (typical of data sheets).
ROUND_CURVE = (
    "0 3.00; 0.05 3.25; 0.1 3.38; 0.2 3.50; 0.3 3.57; 0.4 3.62; "
    "0.5 3.68; 0.6 3.77; 0.7 3.87; 0.8 3.97; 0.9 4.06; 1 4.17"
)
ROUND_CUT_OFF = 2.8
ROUND = ((2, 3000), (3, 3000), (3, 6000), (4, 3000), (4, 6000), (6, 6000))
#: Rating A, most cells, receiver supply A.
ESCS = (
    *((3, 1, 0.0), (6, 2, 1.0), (8, 2, 1.0), (10, 2, 1.0), (12, 3, 1.0), (15, 3, 2.0), (18, 3, 2.0), (20, 4, 2.0)),
    *((25, 4, 3.0), (30, 4, 3.0), (35, 4, 3.0), (40, 4, 3.0), (45, 6, 5.0), (50, 6, 5.0), (60, 6, 5.0), (70, 6, 5.0)),
    *((80, 6, 5.0), (90, 8, 0.0), (100, 6, 5.0), (110, 10, 0.0), (120, 6, 0.0), (130, 12, 0.0), (160, 12, 0.0)),
    *((200, 12, 0.0), (250, 12, 0.0)),
)
#: Mass g, stall torque N·m, stall A at 5 V, s per 60°, and what is special.
SERVOS = (
    *((1.7, 0.010, 0.25, 0.08, ""), (2.2, 0.015, 0.3, 0.10, "linear"), (2.5, 0.02, 0.3, 0.1, "")),
    *((3.5, 0.04, 0.4, 0.09, ""), (3.7, 0.045, 0.45, 0.08, "digital"), (4, 0.05, 0.45, 0.09, "")),
    *(
        (4.3, 0.06, 0.5, 0.09, ""),
        (5, 0.07, 0.5, 0.09, ""),
        (6, 0.09, 0.6, 0.09, ""),
        (6.5, 0.10, 0.65, 0.10, "metal gear"),
    ),
    *(
        (8, 0.13, 0.75, 0.10, ""),
        (9, 0.15, 0.8, 0.11, ""),
        (9, 0.16, 0.9, 0.10, "digital"),
        (10, 0.16, 0.8, 0.12, "wing"),
    ),
    *((11, 0.18, 0.9, 0.11, "metal gear"), (12, 0.2, 0.9, 0.11, "metal gear"), (13, 0.22, 0.95, 0.10, "digital")),
    *(
        (14, 0.22, 1.0, 0.13, "wing"),
        (17, 0.25, 1.1, 0.12, ""),
        (18, 0.26, 1.1, 0.12, ""),
        (20, 0.3, 1.2, 0.12, "metal gear"),
    ),
    *(
        (22, 0.35, 1.3, 0.11, "digital"),
        (26, 0.35, 1.3, 0.13, "wing"),
        (30, 0.36, 1.3, 0.14, ""),
        (37, 0.42, 1.4, 0.16, ""),
    ),
    *(
        (43, 0.5, 1.4, 0.18, ""),
        (45, 0.5, 1.4, 0.16, ""),
        (48, 0.9, 1.9, 0.15, "metal gear"),
        (55, 1.5, 2.8, 0.14, "digital"),
    ),
    *((60, 2.0, 3.0, 0.14, "digital"), (72, 3.2, 3.5, 0.15, "digital"), (80, 4.5, 4.2, 0.16, "digital")),
)


def write(name: str, source: str, header: Sequence[str], rows: Iterable[Sequence[object]]) -> None:
    """Write one table with its source line."""
    with (FOLDER / name).open("w", newline="", encoding="utf-8") as file:
        file.write(f"# source: {source}\n")
        table = csv.writer(file, lineterminator="\n")
        table.writerow(header)
        table.writerows(rows)


def _short(value: float, digits: int = 1) -> str:
    return f"{value:.{digits}f}".rstrip("0").rstrip(".") if digits else f"{value:.0f}"


def motors() -> None:
    """Winding 7/(Kv² m^(5/3)); no-load current in proportion to Kv m^0.9; rating 3.5 W/g on the most cells."""
    rows: list[tuple[float, tuple[object, ...]]] = []
    for kind, table in (("Outrunner", OUTRUNNERS), ("Flat outrunner", FLAT), ("Inrunner", INRUNNERS)):
        for size, grams, wide, long, cells, shaft, circle, poles, windings in table:
            for kv in windings:
                m = grams / 1000
                ohms, idle = classes.winding(kv, m), classes.idle_current(kv, m)
                volts = 3.7 if cells == 1 else 7.4 if cells == 2 else 10
                most = 3.5 * grams / (3.7 * cells)
                name = f"{kind} {size}, {kv} Kv"
                told = _short(1000 * ohms, 1 if ohms > 0.004 else 2)
                cell = (name, "brushless", kv, told, _short(idle, 2), volts, grams, _short(most), cells)
                rows.append((grams, (*cell, wide, long, shaft, circle, poles, 0)))
    for name, grams, wide, long, cells, kv, mohm, idle, volts, most in BRUSHED:
        rows.append((grams, (name, "brushed", kv, mohm, idle, volts, grams, most, cells, wide, long, 1.0, 0, 2, 0.15)))
    head = "name kind kv_rpm_per_v resistance_mohm no_load_current_a no_load_voltage_v mass_g max_current_a max_cells "
    head += "diameter_mm length_mm shaft_mm bolt_circle_mm poles brush_drop_v"
    law = "winding from 7/(Kv^2 m^(5/3)) SI, no-load current ~ Kv m^0.9, rating 3.5 W/g on the most cells"
    write("motors.csv", f"representative of the class; {law}; brushed typical", head.split(), _ordered(rows))


def _ordered(rows: list[tuple[float, tuple[object, ...]]]) -> list[tuple[object, ...]]:
    return [row for _size, row in sorted(rows, key=lambda entry: entry[0])]


def propellers() -> None:
    """Mass by D^2.6 from 8 in; wide ones in proportion to their blades."""
    rows = []
    for family, sizes in PROPELLERS.items():
        for size in sizes.split():
            d, pitch = map(float, size.split("×"))
            mass = _MASS_8IN[family] * (d / 8) ** 2.6
            rows.append((f"{_LABEL[family]} {size}", family, d, pitch, 2, _short(mass)))
    for size in WIDE:
        d, pitch, blades = map(float, size.split("×"))
        mass = _MASS_8IN["wide"] * (d / 8) ** 2.6 * blades / 2
        rows.append(
            (f"{'Three' if blades == 3 else 'Four'}-blade {d:g}×{pitch:g}", "wide", d, pitch, int(blades), _short(mass))
        )
    for mm in FANS_MM:
        d = mm / 25.4
        rows.append(
            (f"Ducted fan {mm} mm", "ducted_fan", round(d, 3), round(1.45 * d, 3), 4, _short(0.35 * mm + 0.012 * mm**2))
        )
    source = (
        "representative of the class; mass ~ D^2.6 through 12.5 g (thin electric), 8.5 g (slow fly), 15 g (wood), 17 g "
        "(folding, with hub), 10 g (tiny) and 15 g (wide, two blades' worth) at 8 in; fans with their duct, "
        "pitch = jet a turn"
    )
    write("propellers.csv", source, ["name", "family", "diameter_in", "pitch_in", "blades", "mass_g"], rows)


def packs() -> None:
    """Mass 7 g/Wh and leads; resistance 0.4 V/(0.6 C × Ah); sides by 1.9 g/cm³."""
    rows = []
    seen: set[str] = set()
    for cells, sizes in PACKS.items():
        for mah, rate in sizes:
            ah = mah / 1000
            grams = 1e3 * classes.pack_mass(cells, ah)
            name = f"{cells}S {mah}"
            name = f"{name}, {rate} C" if name in seen else name
            seen.add(name)
            length = 106 * (grams / 174.9) ** (1 / 3) if grams > 20 else 60 * (grams / 20) ** 0.5
            rows.append(_pack(name, cells, mah, 1e3 * classes.cell_resistance(ah, rate), rate, grams, length))
    for cells, mah in ROUND:
        side = mah // 3000
        grams = 4.7 * 3.6 * cells * mah / 1000 + 5
        rows.append(
            (
                f"{cells}S {mah}, round cells",
                cells,
                mah,
                _short(1e3 * classes.cell_resistance(mah / 1000, 10)),
                10,
                _short(grams),
                70,
                19 * cells,
                19 * side,
                ROUND_CURVE,
                ROUND_CUT_OFF,
            )
        )
    head = [
        "name",
        "cells",
        "capacity_mah",
        "cell_resistance_mohm",
        "c_rating",
        "mass_g",
        "length_mm",
        "width_mm",
        "height_mm",
        "curve",
        "cut_off_v",
    ]
    law = (
        "7 g/Wh plus 4 g of leads (1 g for 1S), cell resistance 0.4 V/(0.6 C x Ah), round cells 4.7 g/Wh at 10 C, "
        "their volts over charge and 2.8 V under load typical of nickel-rich cells"
    )
    write("packs.csv", f"representative of the class; {law}", head, rows)


def _pack(name: str, cells: int, mah: int, mohm: float, rate: int, grams: float, length: float) -> tuple[object, ...]:
    across = grams / 1.9e-3 / length
    width = math.sqrt(1.4 * across)
    return (
        name,
        cells,
        mah,
        _short(mohm),
        rate,
        _short(grams),
        _short(length, 0),
        _short(width, 0),
        _short(across / width, 0),
        "",
        "",
    )


def escs() -> None:
    """On-resistance 0.24 V over the rating; mass ~ rating^0.86 through 25 g at 30 A."""
    rows = []
    for amps, cells, supply in ESCS:
        grams = {6: 5.5, 12: 10, 20: 18, 30: 25, 40: 34, 60: 55}.get(amps, 25 * (amps / 30) ** 0.95)
        linear = int(0 < supply <= 2 and cells <= 3)
        rows.append(
            (
                f"ESC {amps} A",
                amps,
                _short(1e3 * classes.controller_resistance(amps)),
                _short(grams),
                cells,
                supply,
                linear,
                "brushless",
            )
        )
    for amps, cells in ((3, 1), (10, 2), (20, 2)):
        rows.append(
            (f"Brushed ESC {amps} A", amps, _short(180 / amps), _short(1.0 + 0.6 * amps), cells, 1.0, 1, "brushed")
        )
    head = ["name", "max_current_a", "resistance_mohm", "mass_g", "max_cells", "bec_current_a", "bec_linear", "kind"]
    law = "on-resistance 0.24 V over the rating, leads included; mass ~ rating^0.95 through 25 g at 30 A"
    write("escs.csv", f"representative of the class; {law}", head, rows)


def servos() -> None:
    """Typical values by mass."""
    rows = [(f"Servo {m:g} g" + (f", {what}" if what else ""), m, t, i, s) for m, t, i, s, what in SERVOS]
    head = ["name", "mass_g", "stall_torque_nm", "stall_current_a", "seconds_per_60_deg"]
    write(
        "servos.csv",
        "representative of the class at 5 V; stall torque and current by mass as tabulated for hobby servos",
        head,
        rows,
    )


def main() -> None:
    """Write every table."""
    for table in (motors, propellers, packs, escs, servos):
        table()


if __name__ == "__main__":
    main()
