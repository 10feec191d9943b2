"""What must change which way when one thing changes, on every demo: physics told as comparisons."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.paths import put
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.power.pack import continuous_current
from ridgeline.files.design_file import load
from ridgeline.library import demo_names, shipped_shelf

DESIGNS = {name: load(f"demo:{name}") for name in demo_names()}
REPORTS = {name: evaluate(design) for name, design in DESIGNS.items()}
every_demo = pytest.mark.parametrize("name", sorted(DESIGNS))


def heavier(design, grams):
    """Return the design with ballast at its own balance point, so that only the mass changes."""
    report = evaluate(design)
    item = {
        "name": "Lead",
        "group": "ballast",
        "x": report.value("balance.cg_x"),
        "y": report.value("balance.cg_y"),
        "z": report.value("balance.cg_z"),
        "weighed": grams / 1000,
    }
    return put(design, "parts[-]", item)


@every_demo
def test_more_mass_stalls_faster_climbs_worse_and_stays_up_less(name):
    before, after = REPORTS[name], evaluate(heavier(DESIGNS[name], 100))
    assert after.value("mass.auw") == pytest.approx(before.value("mass.auw") + 0.1)
    assert after.value("balance.cg_x") == pytest.approx(before.value("balance.cg_x"))
    for key in ("speed.stall", "speed.cruise", "wing.loading"):
        assert after.value(key) > before.value(key)
    for key in ("power.thrust_ratio", "flight.climb_rate", "flight.endurance"):
        assert after.value(key) < before.value(key)
    assert after.value("power.static_thrust") == before.value("power.static_thrust")
    assert after.value("stability.neutral_point_x") == before.value("stability.neutral_point_x")


@every_demo
def test_stall_speed_goes_with_the_root_of_the_mass(name):
    # The lift limit creeps up with the Reynolds number, so the root is a little undershot.
    before, after = REPORTS[name], evaluate(heavier(DESIGNS[name], 1000 * REPORTS[name].value("mass.auw")))
    ratio = after.value("speed.stall") / before.value("speed.stall")
    assert 1.30 < ratio <= math.sqrt(2) * 1.001


@every_demo
def test_thin_air_stalls_faster_and_pulls_less(name):
    high = evaluate(put(put(DESIGNS[name], "brief.elevation", 2500.0), "brief.temperature_c", 25.0))
    before = REPORTS[name]
    assert high.value("speed.stall") > 1.08 * before.value("speed.stall")
    assert high.value("power.static_thrust") < 0.95 * before.value("power.static_thrust")
    assert high.value("power.static_rpm") > before.value("power.static_rpm")
    assert high.value("balance.cg_fraction") == before.value("balance.cg_fraction")


@every_demo
def test_moving_everything_aft_changes_no_figure_but_places(name):
    design, shift = DESIGNS[name], 0.25
    for index, surface in enumerate(design.surfaces):
        design = put(design, f"surfaces[{index}].x", surface.x + shift)
    for index, body in enumerate(design.bodies):
        design = put(design, f"bodies[{index}].x", body.x + shift)
    for index, mount in enumerate(design.power.mounts):
        design = put(design, f"power.mounts[{index}].x", mount.x + shift)
    for index, wheel in enumerate(design.wheels):
        design = put(design, f"wheels[{index}].x", wheel.x + shift)
    # Everything aboard hangs on something, and bays go with the bodies they are in.
    for part, was in zip(design.parts, DESIGNS[name].parts, strict=True):
        assert part.x == pytest.approx(was.x + shift)
        assert part.rail is None or part.rail.front == pytest.approx(was.rail.front + shift)
    after, before = evaluate(design), REPORTS[name]
    for key in ("balance.cg_fraction", "stability.static_margin", "trim.elevator", "tail.arm", "modes.phugoid_period"):
        if before.value(key) is not None:
            assert after.value(key) == pytest.approx(before.value(key), rel=1e-6, abs=1e-9)
    for key in ("balance.cg_x", "stability.neutral_point_x", "wing.mac_x_le"):
        assert after.value(key) == pytest.approx(before.value(key) + shift)


@every_demo
def test_the_pack_further_forward_makes_more_margin_and_more_up_elevator(name):
    design = DESIGNS[name]
    index = next(i for i, p in enumerate(design.parts) if p.component == "pack")
    forward = evaluate(put(design, f"parts[{index}].x", design.parts[index].x - 0.02))
    before = REPORTS[name]
    assert forward.value("stability.static_margin") > before.value("stability.static_margin")
    canard = any(s.role == "foreplane" for s in design.surfaces)
    change = forward.value("trim.elevator") - before.value("trim.elevator")
    # A foreplane's elevator lifts the nose with its trailing edge down; everything else with it up.
    assert (change > 0) if canard else (change < 0)


@every_demo
def test_a_longer_tip_chord_lifts_more_area_and_lowers_the_loading(name):
    design = DESIGNS[name]
    wing = next(i for i, s in enumerate(design.surfaces) if s.role == "wing")
    last = len(design.surfaces[wing].stations) - 1
    path = f"surfaces[{wing}].stations[{last}].chord"
    after = evaluate(put(design, path, design.surfaces[wing].stations[last].chord * 1.1))
    before = REPORTS[name]
    assert after.value("wing.area") > before.value("wing.area")
    assert after.value("wing.loading") < before.value("wing.loading")
    assert after.value("wing.span") == before.value("wing.span")


@every_demo
@settings(max_examples=12)
@given(share=st.floats(0.6, 1.4))
def test_more_pitch_flies_faster_and_draws_more(name, share):
    design = DESIGNS[name]
    pitch = design.power.propeller.pitch
    other = evaluate(put(design, "power.propeller.pitch", pitch * share))
    before = REPORTS[name]
    if share > 1.02:
        assert other.value("power.static_current") > before.value("power.static_current")
    if share < 0.98:
        assert other.value("power.static_current") < before.value("power.static_current")


@every_demo
@pytest.mark.parametrize("pack", shipped_shelf().packs[::3], ids=lambda p: p.name)
def test_every_pack_of_the_shelf_gives_figures_within_the_discs_limit(name, pack):
    design = put(DESIGNS[name], "power.pack", pack)
    report = evaluate(design)
    standing = report.results.standing
    assert report.value("power.static_thrust") <= standing.disc_limit
    over = report.value("power.static_current") > continuous_current(pack)
    assert over == any(f.key == "power.pack_current" for f in report.findings)
    cells = pack.cells > min(design.power.motor.max_cells, design.power.esc.max_cells)
    assert cells == any(f.key == "power.cells" for f in report.findings)


@every_demo
@pytest.mark.parametrize(
    "form", ["sharp_plate", "stepped_plate", "curved_sheet", "folded", "flat_bottom", "symmetrical"]
)
def test_every_section_gives_a_flying_wing_a_stall_of_its_own(name, form):
    design = DESIGNS[name]
    for index, surface in enumerate(design.surfaces):
        if surface.role in ("wing", "foreplane"):
            design = put(design, f"surfaces[{index}].section", form)
    report = evaluate(design)
    # A foreplane at its angle may stall early on a plate; the airframe then has little lift, but some.
    assert 0.25 < report.value("wing.cl_max") < 1.5
    assert report.value("stability.neutral_point_x") == pytest.approx(
        REPORTS[name].value("stability.neutral_point_x"), abs=0.004
    )


@every_demo
def test_bands_are_never_nothing_where_something_is_estimated(name):
    exact = ("wing.", "tail.", "mass.ceiling", "mass.weighed", "mass.group", "mass.reserve", "structure.load_factor")
    washed = REPORTS[name].results.washing.elevator.share > 0
    for key, figure in REPORTS[name].figures.items():
        if not washed and key in ("control.elevator_wash", "control.elevator_standing"):
            # Nothing of it stands behind a disc: that is drawn, not guessed.
            assert (figure.value, figure.sigma) in ((1.0, 0.0), (0.0, 0.0))
            continue
        if figure.value is not None and not key.startswith(exact) and key not in ("balance.cg_y", "balance.cg_z"):
            assert figure.sigma > 0, key


@every_demo
def test_the_shares_of_every_band_sum_to_one(name):
    for figure in REPORTS[name].figures.values():
        if figure.working is not None:
            total = sum(term.share for term in figure.working.terms) + figure.working.model_share
            assert total == pytest.approx(1.0) or total == 0.0
