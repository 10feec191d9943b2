"""Sets compared in the air, wings that own what is built of them, and a swap sheet that tells each part once."""

import numpy as np
import pytest

from ridgeline.design import configurations as sets
from ridgeline.design.paths import put
from ridgeline.engine.advice.compare import compare, swapped
from ridgeline.engine.advice.set_polars import best_of, polar_of
from ridgeline.engine.aero.glide import SLOPE_RISE
from ridgeline.engine.pipeline import evaluate


@pytest.fixture(scope="module")
def fitted(request):
    from ridgeline.files.design_file import load

    design = load("demo:whimbrel")
    return compare(design, evaluate(design))


def test_a_polar_without_ballast_and_wind_is_that_of_the_report(fitted):
    for one in fitted:
        polar = polar_of(one, 0.0, 0.0)
        assert polar.sink == pytest.approx(one.report.value("glide.sink"), rel=1e-6)
        assert polar.over_ground == pytest.approx(one.report.value("glide.ratio"), rel=1e-3)
        assert polar.slope[0] == pytest.approx(one.report.value("glide.slope_wind"), rel=1e-6)


def test_ballast_makes_it_faster_and_sink_with_the_root_of_the_mass(fitted):
    plain, heavy = (polar_of(fitted[0], ballast, 0.0) for ballast in (0.0, 0.3))
    root = np.sqrt(heavy.mass / plain.mass)
    assert heavy.mass == pytest.approx(plain.mass + 0.3)
    # A little less: profile drag falls with the Reynolds number.
    assert 0.95 * root < heavy.sink / plain.sink <= root * 1.001
    assert heavy.speeds[0] / plain.speeds[0] == pytest.approx(root, rel=1e-6)
    assert heavy.slope[1] > plain.slope[1]


def test_wind_shortens_the_way_over_the_ground_and_ballast_pays_in_it(fitted):
    ways = [polar_of(fitted[0], 0.0, wind).over_ground for wind in (0.0, 4.0, 8.0)]
    assert ways[0] > ways[1] > ways[2] > 0
    assert polar_of(fitted[0], 0.3, 8.0).over_ground > ways[2]


def test_the_strongest_slope_wind_is_one_it_makes_way_against(fitted):
    polar = polar_of(fitted[0], 0.0, 0.0)
    speed = float(np.interp(polar.slope[1] * SLOPE_RISE, polar.sinks[30:], polar.speeds[30:]))
    assert speed >= polar.slope[1] * 0.99


def test_the_best_set_is_named_by_what_it_is_best_at(fitted):
    polars = tuple(polar_of(one, 0.0, 0.0) for one in fitted)
    names = {polar.ident: polar.name for polar in polars}
    best = {key: names[ident] for key, ident in best_of(polars).items()}
    assert best["calm"] == "Long wing" and set(best) == {"calm", "upwind", "slope", "power"}
    assert best_of(()) == {}


def test_a_wing_of_its_own_owns_its_panels_spar_and_servos(whimbrel):
    design = sets.own_version(whimbrel, "surfaces[0]")
    wing = design.surfaces[0]
    own = [p for p in design.parts if p.sets == wing.sets and wing.sets]
    assert {"Wing panels, board", "Spar tube"} & {p.name for p in own}
    assert any(p.servo is not None for p in own)
    # What the scale says of one is not said of the other.
    index = next(k for k, p in enumerate(design.parts) if p in own and p.build is not None)
    weighed = put(design, f"parts[{index}].weighed", 0.2)
    other = next(c.id for c in weighed.configurations if c.id not in wing.sets)
    ident = weighed.parts[index].id
    assert next(p for p in sets.fit(weighed, other).parts if p.id == ident).weighed is None


def test_the_swap_sheet_tells_each_part_once(whimbrel):
    two = sets.own_version(whimbrel, "power")
    larger = put(
        two, "power.pack", two.power.pack.model_copy(update={"name": "3S 3000", "capacity_ah": 3.0, "mass": 0.24})
    )
    one, other = compare(larger, evaluate(larger))[:2]
    rows = swapped(*((one, other) if one.ident != larger.fitted else (other, one)))
    names = [getattr(row.new if row.new is not None else row.old, "name", "") for row in rows]
    assert len(names) == len(set(names))
    assert not any("Pack" in name for name in names if name != "3S 3000" and "3S 3000" in name)
    packs = [row for row in rows if getattr(row.new, "name", "") == "3S 3000"]
    assert len(packs) == 1 and packs[0].mass is not None and "cells" in str(packs[0].fit)
