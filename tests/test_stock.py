"""The search for the lightest stock against one try after another, and what grows and falls with size."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.paths import apply, put
from ridgeline.design.shelf import Material
from ridgeline.engine.advice.spar_ways import question, stepped_way
from ridgeline.engine.pipeline import Evaluator, evaluate
from ridgeline.engine.structure.beam import bent, carried
from ridgeline.engine.structure.built_up import board_strips
from ridgeline.engine.structure.half import _polar, half_of, spar_section
from ridgeline.engine.structure.sections import channel, strip
from ridgeline.engine.structure.stepped import stepped, steps_of
from ridgeline.engine.structure.stock import bears_in_bending, may_end, search, section_of, spar_of
from ridgeline.files.design_file import load
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


# -- channels, front and rear, strips of board, steps -----------------------------------------------------------------


def test_a_channel_is_a_strip_less_its_hollow():
    section = channel(0.004, 0.008, 0.0008)
    assert section.second == pytest.approx((4 * 8**3 - 3.2 * 6.4**3) / 12 * 1e-12)
    assert section.area == pytest.approx((2 * 4 * 0.8 + 6.4 * 0.8) * 1e-6)
    assert section.modulus == pytest.approx(section.second / 0.004)
    # With no hollow left it is a strip.
    whole, solid = channel(0.004, 0.008, 0.004), strip(0.004, 0.008)
    assert (whole.area, whole.second) == pytest.approx((solid.area, solid.second))
    shipped = next(m for m in STOCK if m.name == "Carbon channel 8 x 4 x 0.8 mm")
    assert section_of(shipped) == section and shipped.constant == pytest.approx(section.area * 1550, rel=0.01)


def test_a_channel_turns_as_its_walls_do_one_by_one():
    spar = spar_of(next(m for m in STOCK if m.name == "Aluminium channel 10 x 8 x 1 mm"))
    assert _polar(spar) == pytest.approx((8 + 8 + 8) * 1e-3 * 1e-9 / 3) and spar_section(spar).area == pytest.approx(
        24e-6
    )


def test_two_apart_bear_as_two_side_by_side_do_where_the_rear_is_high_enough():
    found = {(t.material.name, t.number, t.apart): t for t in find(rear_room=0.005)}
    for (name, number, apart), tried in found.items():
        if apart:
            beside = found[name, 2, False]
            assert number == 2 and (tried.mass, tried.share, tried.tip) == (beside.mass, beside.share, beside.tip)
            assert tried.fits == (tried.material.thickness <= 0.005)
    assert any(apart for _n, _c, apart in found) and not any(t.apart for t in find())


@pytest.mark.parametrize("layers", [1, 2, 3])
def test_stacked_board_is_the_sum_of_its_papers(layers):
    """Against the layers written out: papers of 0.09 mm and 3 GPa at their places, the outermost at 12 MPa."""
    strips = [s for s in board_strips(STOCK, 0.0051 * layers) if s.name.startswith("Foam board") and s.width == 0.02]
    made = strips[layers - 1]
    h, t, paper = layers * 0.005, 0.005, 0.09e-3
    stiff = 0.0
    for k in range(layers):
        for low in (k * t, (k + 1) * t - paper):
            middle = low + paper / 2 - h / 2
            stiff += 3e9 * 0.02 * (paper**3 / 12 + paper * middle**2)
    section = section_of(made)
    assert made.modulus * section.second == pytest.approx(stiff, rel=1e-3)
    at_break = 12e6 * stiff / (3e9 * (h - paper) / 2)
    assert made.strength * section.modulus == pytest.approx(at_break, rel=1e-3)
    assert made.constant == pytest.approx(0.3 * 0.02 * layers) and len(strips) == layers


def test_only_faced_board_is_made_into_strips_and_none_higher_than_its_room():
    assert {s.name.split(",")[0] for s in board_strips(STOCK, 0.02)} == {
        "Foam board 5 mm", "Heavy display board 5 mm", "Water-resistant board 5 mm"}  # fmt: skip
    assert board_strips(STOCK, 0.004) == () and max(s.thickness for s in board_strips(STOCK, 0.05)) == 0.02


@pytest.fixture(scope="module")
def asked():
    design = load("demo:whimbrel")
    found = question(design, evaluate(design), 0)
    return found._replace(most_tip=0.06, greatest=2.0 * found.greatest)


def test_a_spar_in_two_steps_is_the_lightest_of_all_pairs(asked):
    found = stepped(asked, STOCK)
    half, y = asked.half, asked.half.y
    end, best = y[0] + asked.end * half.half_span, np.inf
    able = [m for m in STOCK if bears_in_bending(m) and m.thickness <= asked.room]
    for inner in able:
        for outer in able:
            if outer.constant >= inner.constant:
                continue
            for share in (0.3, 0.4, 0.5, 0.6, 0.7):
                out = y[0] + share * (end - y[0])
                mass = 2 * (inner.constant * (out - y[0] + 0.04) + outer.constant * (end - out))
                if mass >= best:
                    continue
                spars = (spar_of(inner), spar_of(outer))
                bears = [spar_section(s).modulus * s.strength / (1 if s.yields else 1.5) for s in spars]
                moment = np.where(y <= out, bears[0], np.where(y <= end, bears[1], np.inf))
                beyond = np.interp(out, y, asked.greatest)
                if np.any(asked.greatest > moment) or beyond > bears[1]:
                    continue
                stiff = [spar_section(s).second * s.modulus for s in spars]
                along = np.where(y <= out, stiff[0], np.where(y <= end, stiff[1], 0.0)) + asked.skin
                if bent(y, asked.pull, along).deflection[-1] <= asked.most_tip:
                    best = mass
    assert found.mass == pytest.approx(best) and found.share <= 1 and found.tip <= 0.06


def test_a_stepped_spar_is_two_that_lie_side_by_side_where_they_meet(asked):
    found = stepped(asked, STOCK)
    inner, outer = steps_of(asked, found)
    assert inner.material == found.inner.name and outer.material == found.outer.name
    assert (inner.end - outer.start) * asked.half.half_span == pytest.approx(0.04) and outer.end == asked.end
    surface = asked.half.surface
    built = surface.built.model_copy(update={"spars": (inner, outer)})
    half = half_of(surface.model_copy(update={"built": built}), asked.half.seat)
    share = np.interp(half.y, asked.half.y, asked.greatest) / half.bears
    # Skins outside the seat bear beside it, so that it works no harder than was found.
    assert 0.5 * found.share < share.max() <= 1.001 * found.share


def test_no_step_where_nothing_holds(asked):
    assert stepped(asked._replace(greatest=100 * asked.greatest), STOCK) is None and stepped(asked, ()) is None


def test_the_stepped_way_bears_and_saves_what_it_says():
    design = load("demo:whimbrel")
    design = put(design, "loads.factor", 9.0)
    report = Evaluator(stock=shipped_shelf)(design)
    way = stepped_way(design, report, 0)
    if way is None:
        pytest.fail("nine g ask for a stout root")
    after = evaluate(apply(design, way.changes))
    assert after.results.bearing.borne[0].greatest <= 1
    gain = after.value("mass.auw") - report.value("mass.auw")
    assert abs(gain) == pytest.approx(way.text.values[-1].value, abs=2e-4)
