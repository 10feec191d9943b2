"""Longer motor leads: published wire tables, what they cost the train, their item; and plugs that do not mate."""

import pytest

from ridgeline.design.paths import Change, apply, put
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power.leads import motor_lead_mass, motor_lead_resistance, section_of
from ridgeline.engine.sizing.mounting import two_more, with_motor_leads, with_mounts
from ridgeline.library import shipped_shelf


@pytest.mark.parametrize(
    ("gauge", "square_mm", "mohm_per_m"), [(10, 5.26, 3.28), (14, 2.08, 8.29), (18, 0.823, 20.9), (24, 0.205, 84.2)]
)
def test_wire_is_as_the_tables_have_it(whimbrel, gauge, square_mm, mohm_per_m):
    assert section_of(gauge) == pytest.approx(square_mm * 1e-6, rel=5e-3)
    train = whimbrel.power.model_copy(update={"motor_lead": 1.0, "motor_lead_awg": gauge})
    # Two conductors of three carry the current.
    assert motor_lead_resistance(train) == pytest.approx(2e-3 * mohm_per_m, rel=1e-2)


@pytest.mark.parametrize("gauge", [14, 18])
def test_they_weigh_what_the_shipped_wire_does(whimbrel, gauge):
    wire = next(m for m in shipped_shelf().materials if m.name == f"Silicone wire {gauge} AWG, one conductor")
    train = whimbrel.power.model_copy(update={"motor_lead": 1.0, "motor_lead_awg": gauge})
    assert motor_lead_mass(train) == pytest.approx(3 * wire.amount / 1000, rel=0.08)


def test_longer_leads_take_thrust_and_their_item_carries_their_mass(whimbrel):
    longer = apply(whimbrel, with_motor_leads(whimbrel, 0.5))
    before, after = evaluate(whimbrel), evaluate(longer)
    assert after.value("power.static_thrust") < before.value("power.static_thrust")
    assert after.results.standing.chain.esc_resistance - before.results.standing.chain.esc_resistance == pytest.approx(
        motor_lead_resistance(longer.power)
    )
    item = next(p for p in longer.parts if p.component == "motor_leads")
    grams = after.value("mass.listed") - before.value("mass.listed")
    assert item.count == 1 and grams == pytest.approx(motor_lead_mass(longer.power), rel=1e-6)
    # Thinner ones weigh less and drop more; none takes the item out.
    thin = put(longer, "power.motor_lead_awg", 20)
    assert evaluate(thin).value("mass.listed") < after.value("mass.listed")
    assert evaluate(thin).value("power.static_thrust") < after.value("power.static_thrust")
    gone = apply(longer, with_motor_leads(longer, 0.0))
    assert gone.parts == whimbrel.parts and gone.power.motor_lead == 0.0


def test_a_twin_has_leads_to_both(whimbrel):
    twin = apply(whimbrel, with_mounts(whimbrel, two_more(whimbrel)))
    longer = apply(twin, with_motor_leads(twin, 0.3))
    item = next(p for p in longer.parts if p.component == "motor_leads")
    assert item.count == 2 and item.mirrored
    more = evaluate(longer).value("mass.listed") - evaluate(twin).value("mass.listed")
    assert more == pytest.approx(2 * motor_lead_mass(longer.power), rel=1e-6)


def test_plugs_that_do_not_mate_are_told_once_both_are_known(whimbrel):
    def finding(pack, esc):
        design = apply(whimbrel, [Change("power.pack.connector", pack), Change("power.esc.connector", esc)])
        return next((f for f in evaluate(design).findings if f.key == "power.plug"), None)

    assert finding("", "Round 4 mm") is None and finding("Flat 60 A", " flat 60 a ") is None
    assert finding("Flat 60 A", "Round 4 mm").level == "look"
    assert "Flat {60}" in str(finding("Flat {60}", "Round 4 mm").text)
