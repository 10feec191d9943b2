"""A propeller for a ducted fan and back: parts of the shelf, every item with its new mass, and all of it undone."""

import pytest

from ridgeline.design.paths import apply
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power.classes import mass_of
from ridgeline.engine.sizing.conversion import converted, other_train
from ridgeline.files.design_file import load
from ridgeline.library import demo_names, shipped_shelf

SHELF = shipped_shelf()


@pytest.mark.parametrize("name", demo_names())
def test_a_fan_of_the_shelf_is_fitted_and_a_propeller_again(name):
    design = load(f"demo:{name}")
    report = evaluate(design)
    fan = other_train(design, SHELF, report.value("mass.auw"))
    assert fan.propeller.family == "ducted_fan" and fan.propeller in SHELF.propellers and fan.motor in SHELF.motors
    assert fan.mounts == design.power.mounts
    blown = apply(design, converted(design, fan))
    after = evaluate(blown)
    masses = {p.component: float(m) for p, m in zip(blown.parts, after.results.masses.items.mass, strict=True)}
    for link in ("motor", "esc", "propeller"):
        assert masses[link] == pytest.approx(mass_of(getattr(fan, link)), rel=1e-6)
        assert next(p for p in blown.parts if p.component == link).weighed is None
    assert after.value("power.static_thrust") > 0.4 * 9.81 * after.value("mass.auw")
    assert after.value("power.static_current") <= fan.esc.max_current
    # A fan asks for more watts for its thrust: a small disc.
    assert after.value("power.efficiency") < report.value("power.efficiency")
    back = other_train(blown, SHELF, after.value("mass.auw"))
    assert back.propeller.family != "ducted_fan"
