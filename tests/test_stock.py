"""The search for the lightest stock against one try after another, and what grows and falls with size."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.shelf import Material
from ridgeline.engine.structure.beam import bent, carried
from ridgeline.engine.structure.stock import bears_in_bending, may_end, search, section_of
from ridgeline.library import shipped_shelf

STOCK = shipped_shelf().materials
L = 0.6
Y = L * np.sin(np.linspace(0, np.pi / 2, 41))
LOAD = carried(Y, 20.0 * np.sqrt(1 - (Y / L) ** 2))
SKIN = np.full_like(Y, 0.4)


def find(load=LOAD, end=0.45, room=0.012, most_tip=0.06, stock=STOCK, **more):
    return search(stock, Y, load, end, room=room, most_tip=most_tip, skin=SKIN, **more)


def one_by_one(load, end, room, most_tip):
    """Every stock and count, written out plainly."""
    for material in STOCK:
        if not bears_in_bending(material):
            continue
        section = section_of(material)
        for count in (1, 2, 3, 4):
            inertia = np.where(end >= Y, count * section.second * material.modulus, 0.0)
            tip = bent(Y, load, inertia + SKIN).deflection[-1]
            most = material.strength if material.yields else material.strength / 1.5
            share = load.moment[0] / (count * section.modulus) / most
            mass = 2 * count * material.constant * end
            holds = material.thickness <= room and share <= 1 and tip <= most_tip
            yield material.name, count, mass, share, tip, holds


def test_the_search_is_what_trying_one_after_another_finds():
    plain = {(name, count): rest for name, count, *rest in one_by_one(LOAD, 0.45, 0.012, 0.06)}
    found = find()
    assert len(found) == len(plain) > 100
    for tried in found:
        mass, share, tip, holds = plain[tried.material.name, tried.number]
        assert (tried.mass, tried.share, tried.tip) == pytest.approx((mass, share, tip), rel=1e-9)
        assert tried.holds == holds
    lightest = min(mass for mass, _share, _tip, holds in plain.values() if holds)
    assert found[0].holds and found[0].mass == pytest.approx(lightest)


def test_those_that_hold_come_first_and_lightest_first_then_by_what_they_lack():
    found = find()
    first_that_fails = next(k for k, tried in enumerate(found) if not tried.holds)
    assert not any(tried.holds for tried in found[first_that_fails:])
    masses = [tried.mass for tried in found[:first_that_fails]]
    assert masses == sorted(masses)
    lacks = [max(t.share, t.tip / 0.06) if t.fits else np.inf for t in found[first_that_fails:]]
    assert lacks == sorted(lacks)


def test_what_does_not_fit_into_the_wing_does_not_hold():
    for tried in find(room=0.004):
        assert tried.fits == (tried.material.thickness <= 0.004) and (tried.fits or not tried.holds)


def test_a_wish_for_less_bend_takes_a_stiffer_spar():
    easy, strict = find(most_tip=0.2)[0], find(most_tip=0.02)[0]
    assert strict.mass > easy.mass and strict.tip <= 0.02 < easy.tip


def test_a_tube_that_bears_more_than_asked_says_how_much():
    tried = find()[0]
    assert tried.bears == pytest.approx(1 / tried.share)


def test_a_rod_of_3_mm_weighs_eleven_grams_a_metre_on_both_sides():
    rod = next(t for t in find(counts=(2,)) if t.material.name == "Carbon rod 3 mm")
    assert rod.number == 2 and rod.mass == pytest.approx(2 * 2 * 0.45 * 0.011)


def test_a_shelf_of_nothing_finds_nothing():
    assert find(stock=()) == () and find(stock=[m for m in STOCK if m.kind == "sheet"]) == ()


@given(st.floats(0.3, 3.0))
def test_stress_at_a_constant_factor_grows_with_the_size(size):
    """All of it k times as large: mass and lift by k³, moment k⁴, section k³, so that the stress grows by k."""
    rod = next(m for m in STOCK if m.name == "Carbon rod 4 mm")
    large = rod.model_copy(update={"thickness": size * rod.thickness})
    small = search([rod], Y, LOAD, 0.45, room=1, most_tip=1, skin=SKIN, counts=(1,))[0]
    load = carried(size * Y, size**2 * 20.0 * np.sqrt(1 - (Y / L) ** 2))
    grown = search([large], size * Y, load, size * 0.45, room=1, most_tip=1, skin=SKIN, counts=(1,))[0]
    assert grown.share == pytest.approx(size * small.share, rel=1e-6)


@given(st.floats(0.002, 0.015), st.floats(1.01, 2.0))
def test_a_larger_rod_bears_more_and_bends_less(outer, more):
    rods = [
        Material(name=f"{k}", kind="length", amount=0.01, unit="kg/m", thickness=d, strength=6e8, modulus=1.2e11)
        for k, d in enumerate((outer, more * outer))
    ]
    small, large = (search([rod], Y, LOAD, 0.45, room=1, most_tip=1, skin=SKIN, counts=(1,))[0] for rod in rods)
    assert large.share < small.share and large.tip < small.tip


def test_a_spar_may_end_where_the_skin_bears_alone():
    even = carried(Y, np.full_like(Y, 20.0))
    end = may_end(Y, even.moment, np.full_like(Y, 0.4))
    assert 0.5 * 20.0 * (L - end) ** 2 == pytest.approx(0.4, rel=0.02)
    assert may_end(Y, even.moment, np.full_like(Y, 99.0)) == 0.0
    assert may_end(Y, even.moment, np.full_like(Y, -1.0)) == L
