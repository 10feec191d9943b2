"""A surface's outline by what is known of it; controls by a width of their own; strips behind the trailing edge."""

import itertools
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.airframe import ControlSurface, Station, Surface
from ridgeline.design.hinges import hinge_share, mean_share
from ridgeline.design.paths import Change, apply
from ridgeline.engine.aero.flap import flap_effectiveness, thin_effectiveness
from ridgeline.engine.geometry.planform import mean_aerodynamic_chord
from ridgeline.engine.geometry.scaling import scaled
from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.sizing.planforms import (
    KNOWN,
    planform_of,
    with_known,
    with_strip,
    with_sweep,
    with_taper,
    with_tip,
)
from ridgeline.errors import DesignError

lengths = st.floats(0.05, 0.5)


@st.composite
def wings(draw):
    """A wing of two or three panels, some of them swept and on a body."""
    gaps = [draw(st.floats(0.08, 0.6)) for _ in range(draw(st.integers(1, 3)))]
    ends = np.concatenate([[0.0], np.cumsum(gaps)])
    stations = tuple(
        Station(y=round(float(y), 5), chord=round(draw(lengths), 5), x=round(draw(st.floats(-0.1, 0.2)), 5))
        for y in ends
    )
    control = ControlSurface(kind="aileron", start=0.5 * stations[-1].y, end=0.9 * stations[-1].y, chord_fraction=0.25)
    return Surface(
        name="Wing", role="wing", y=draw(st.sampled_from([0.0, 0.03])), mirrored=draw(st.booleans()), stations=stations,
        controls=(control,),
    )  # fmt: skip


def rows(surface):
    return np.array([(s.y, s.chord, s.x) for s in surface.stations]).T


def quarter(surface):
    mean = mean_aerodynamic_chord(*rows(surface))
    return surface.x + mean.x_leading_edge + 0.25 * mean.length


def straight(chord=0.2, tip=0.1, half=0.6):
    return Surface(name="Wing", role="wing", stations=(Station(y=0.0, chord=chord), Station(y=half, chord=tip)))


@given(wings(), st.sampled_from(list(itertools.combinations(KNOWN, 2))), st.floats(0.8, 1.25), st.floats(0.8, 1.25))
def test_any_two_typed_are_what_it_comes_to(wing, pair, one, other):
    now = planform_of(wing)
    known = {pair[0]: getattr(now, pair[0]) * one, pair[1]: getattr(now, pair[1]) * other}
    try:
        fresh = planform_of(with_known(wing, known))
    except DesignError:
        # Two that leave no panel beside the middle part are refused, which only a wing with one can be.
        assert wing.y > 0 and wing.mirrored
        return
    for name, value in known.items():
        assert getattr(fresh, name) == pytest.approx(value, rel=2e-3)
    # The form stays: taper is none of what was typed.
    assert fresh.taper == pytest.approx(now.taper, rel=2e-3)


@given(wings(), st.floats(0.3, 1.5), st.floats(-0.5, 0.6))
def test_taper_and_sweep_leave_span_and_area(wing, taper, sweep):
    now = planform_of(wing)
    tapered = planform_of(with_taper(wing, taper))
    assert tapered.taper == pytest.approx(taper, rel=2e-3)
    swept = planform_of(with_sweep(wing, sweep))
    assert swept.sweep == pytest.approx(sweep, abs=2e-3)
    for one in (tapered, swept):
        assert (one.span, one.area) == (pytest.approx(now.span, rel=1e-3), pytest.approx(now.area, rel=2e-3))


@given(wings(), st.sampled_from(["known", "taper", "sweep", "rounded", "elliptical"]))
def test_the_quarter_of_the_mean_chord_stays_where_it_was(wing, what):
    fresh = {
        "known": lambda: with_known(wing, {"span": 1.2 * planform_of(wing).span, "area": planform_of(wing).area}),
        "taper": lambda: with_taper(wing, 0.6),
        "sweep": lambda: with_sweep(wing, 0.3),
    }.get(what, lambda: with_tip(wing, what))()
    assert quarter(fresh) == pytest.approx(quarter(wing), abs=3e-5)


def test_controls_and_dihedral_spread_with_the_span():
    wing = straight().model_copy(
        update={"controls": (ControlSurface(kind="aileron", start=0.3, end=0.57, chord_fraction=0.25),)}
    )
    lifted = wing.model_copy(update={"stations": (wing.stations[0], wing.stations[1].model_copy(update={"z": 0.06}))})
    fresh = with_known(lifted, {"span": 2.4, "area": 0.36})
    assert (fresh.controls[0].start, fresh.controls[0].end) == (pytest.approx(0.6), pytest.approx(1.14))
    assert fresh.stations[-1].z == pytest.approx(0.12)


@pytest.mark.parametrize("known", [{"span": 0.0, "area": 0.2}, {"span": 1.0, "area": -0.1}])
def test_nothing_is_no_outline(known):
    with pytest.raises(DesignError, match="more than nothing"):
        with_known(straight(), known)


@pytest.mark.parametrize("form", ["square", "rounded", "raked", "elliptical"])
def test_a_tip_keeps_the_span_and_goes_back_to_square(form):
    wing = straight()
    made = with_tip(wing, form)
    assert made.stations[-1].y == wing.stations[-1].y
    now, before = planform_of(made).area, planform_of(wing).area
    assert now == pytest.approx(before, rel=1e-3) if form == "square" else now < 0.985 * before
    assert now > 0.7 * before
    back = with_tip(made, "square")
    if form != "elliptical":
        assert planform_of(back).area == pytest.approx(before, rel=1e-3)
        assert back.stations[-1].chord == pytest.approx(wing.stations[-1].chord, rel=1e-3)


def test_an_elliptical_tip_follows_the_ellipse_of_its_inner_chord():
    wing = straight(chord=0.2, tip=0.2)
    made = with_tip(wing, "elliptical")
    reach = 0.6 * 0.6
    for s in made.stations:
        share = max(0.0, (s.y - (0.6 - reach)) / reach)
        assert s.chord == pytest.approx(0.2 * max(math.sqrt(max(1 - share**2, 0)), 0.15), rel=2e-3)


def test_a_strip_of_one_width_has_it_all_along_a_tapered_wing(whimbrel):
    wing = whimbrel.surfaces[0].model_copy(update={"controls": ()})
    made = with_strip(wing, 0.1, 0.5, 0.030, "aileron")
    (strip,) = made.controls
    for y in np.linspace(strip.start, strip.end, 7):
        chord = np.interp(y, *rows(made)[:2])
        plain = np.interp(y, *rows(wing)[:2])
        assert chord - plain == pytest.approx(0.030, abs=2e-5)
        assert float(hinge_share(made, strip, y)) * chord == pytest.approx(0.030, abs=1e-6)
    more = planform_of(made).area - planform_of(wing).area
    assert more == pytest.approx(2 * 0.030 * 0.4, rel=4e-3)


def test_area_mass_and_balance_follow_a_strip(whimbrel):
    bare = apply(whimbrel, [Change("surfaces[0].controls", ())])
    made = with_strip(bare.surfaces[0], 0.1, 0.5, 0.030, "aileron")
    after = apply(bare, [Change("surfaces[0].stations", made.stations), Change("surfaces[0].controls", made.controls)])
    one, two = evaluate(bare), evaluate(after)
    assert two.value("wing.area") - one.value("wing.area") == pytest.approx(0.024, rel=5e-3)
    assert two.value("mass.listed") - one.value("mass.listed") > 0.005
    assert two.value("balance.cg_x") > one.value("balance.cg_x")


def test_a_strip_over_another_control_or_without_length_is_refused():
    wing = straight().model_copy(
        update={"controls": (ControlSurface(kind="aileron", start=0.3, end=0.57, chord_fraction=0.25),)}
    )
    with pytest.raises(DesignError, match="aileron at 300"):
        with_strip(wing, 0.1, 0.4, 0.03, "flap")
    with pytest.raises(DesignError, match="length"):
        with_strip(wing, 0.1, 0.1, 0.03, "flap")


def test_a_width_over_a_straight_wing_is_a_share():
    wing = straight(tip=0.2)
    by_width = ControlSurface(kind="aileron", start=0.1, end=0.5, chord_fraction=0.9, width=0.05)
    assert hinge_share(wing, by_width, [0.1, 0.3, 0.5]) == pytest.approx([0.25] * 3)
    assert mean_share(wing, by_width) == pytest.approx(0.25)


def test_the_mean_share_of_a_width_is_its_area_over_that_of_the_wing_there():
    wing = straight(chord=0.2, tip=0.1, half=0.6)
    control = ControlSurface(kind="aileron", start=0.0, end=0.6, chord_fraction=0.5, width=0.03, width_out=0.06)
    assert mean_share(wing, control) == pytest.approx(0.045 / 0.15, rel=1e-6)


def test_the_lattice_takes_a_width_as_the_share_it_is(whimbrel):
    wing = whimbrel.surfaces[0]
    square = tuple(s.model_copy(update={"chord": 0.2, "x": 0.0}) for s in wing.stations)
    control = wing.controls[0]

    def rate(changed):
        surfaces = (wing.model_copy(update={"stations": square, "controls": (changed,)}), *whimbrel.surfaces[1:])
        return evaluate(apply(whimbrel, [Change("surfaces", surfaces)])).value("control.roll_rate")

    share = rate(control.model_copy(update={"chord_fraction": 0.2}))
    assert rate(control.model_copy(update={"chord_fraction": 0.9, "width": 0.04})) == pytest.approx(share, rel=1e-9)
    assert rate(control.model_copy(update={"width": 0.06})) > 1.05 * share


def test_effectiveness_takes_arrays_as_it_takes_numbers():
    shares = np.array([0.1, 0.25, 0.5, 1.0])
    assert thin_effectiveness(shares) == pytest.approx([thin_effectiveness(float(s)) for s in shares])
    assert flap_effectiveness(shares)[1] == pytest.approx(flap_effectiveness(0.25))


def test_widths_grow_with_the_airframe(whimbrel):
    strip = whimbrel.surfaces[0].controls[0].model_copy(update={"width": 0.03})
    made = scaled(apply(whimbrel, [Change("surfaces[0].controls", (strip,))]), 2.0)
    assert made.surfaces[0].controls[0].width == pytest.approx(0.06) and made.surfaces[0].controls[0].width_out is None


def test_a_raked_tip_leaves_two_fifths_of_its_chord_all_off_the_front():
    wing = straight(chord=0.2, tip=0.2)
    tip = with_tip(wing, "raked").stations[-1]
    assert tip.chord == pytest.approx(0.08) and tip.x + tip.chord == pytest.approx(0.2)
    assert with_tip(wing, "raked").stations[-2].y == pytest.approx(0.6 - 0.6 * 0.2)


def test_a_rounded_tip_closes_in_on_two_fifths_of_the_chord():
    tip = with_tip(straight(chord=0.2, tip=0.2), "rounded").stations[-1]
    assert tip.x + 0.4 * tip.chord == pytest.approx(0.4 * 0.2, abs=2e-4) and tip.chord == pytest.approx(0.03, abs=2e-4)
