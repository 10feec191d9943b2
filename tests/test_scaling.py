import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.design.configurations import fit
from ridgeline.engine.geometry.scaling import scaled
from ridgeline.engine.pipeline import evaluate
from ridgeline.errors import DesignError
from ridgeline.files.design_file import load
from ridgeline.ratios import ratio_of


@settings(max_examples=25)
@given(st.floats(0.4, 2.5))
def test_lengths_go_with_the_factor_and_areas_with_its_square(whimbrel, k):
    before, after = evaluate(whimbrel), evaluate(scaled(whimbrel, k))
    for key in ("wing.span", "wing.mac", "wing.mac_x_le", "tail.arm"):
        assert after.value(key) == pytest.approx(k * before.value(key), rel=1e-6)
    assert after.value("wing.area") == pytest.approx(k * k * before.value("wing.area"), rel=1e-6)
    for key in ("tail.volume_h", "tail.volume_v", "wing.aspect_ratio", "stability.cl_alpha"):
        assert after.value(key) == pytest.approx(before.value(key), rel=1e-6)
    assert after.value("stability.neutral_point_fraction") == pytest.approx(
        before.value("stability.neutral_point_fraction"), abs=1e-6
    )


@pytest.mark.parametrize(("exponent", "factor"), [(3.0, 1.5), (2.0, 1.5), (3.0, 0.7)])
def test_built_masses_go_with_the_chosen_power_and_bought_ones_stay(whimbrel, exponent, factor):
    after = scaled(whimbrel, factor, mass_exponent=exponent)
    for old, new in zip(whimbrel.parts, after.parts, strict=True):
        if old.group in ("airframe", "adhesive", "structure", "gear"):
            known = old.estimate if old.estimate is not None else old.weighed
            assert new.estimate == pytest.approx(known * factor**exponent) and new.weighed is None
        else:
            assert (new.estimate, new.weighed) == (old.estimate, old.weighed)


@settings(max_examples=15)
@given(st.floats(0.7, 1.6))
def test_an_enlarged_tail_keeps_its_arm_and_grows_its_volumes_by_the_square(whimbrel, tail):
    before, after = evaluate(whimbrel), evaluate(scaled(whimbrel, 1.0, tail))
    assert after.value("tail.arm") == pytest.approx(before.value("tail.arm"), abs=1e-6)
    assert after.value("tail.volume_h") == pytest.approx(tail**2 * before.value("tail.volume_h"), rel=1e-6)
    assert after.value("wing.area") == before.value("wing.area")


@pytest.mark.parametrize("name", ["dunlin", "avocet", "turnstone"])
def test_every_layout_scales_and_back_again(name):
    design = load(f"demo:{name}")
    there = scaled(design, 1.6)
    back = evaluate(scaled(there, 1 / 1.6))
    for key in ("wing.area", "wing.mac", "stability.neutral_point_x", "balance.cg_y"):
        assert back.value(key) == pytest.approx(evaluate(design).value(key), rel=1e-6, abs=1e-9)


def test_the_pack_stays_on_its_rail(whimbrel):
    for k in (0.3, 1.0, 2.0):
        part = scaled(whimbrel, k).parts[0]
        assert part.rail.front <= part.x - part.rail.item_length / 2 + 1e-9
        assert part.x + part.rail.item_length / 2 <= part.rail.back + 1e-9


@pytest.mark.parametrize(("factor", "tail"), [(0.0, 1.0), (50.0, 1.0), (-1.0, 1.0), (1.0, 5.0), (float("nan"), 1.0)])
def test_factors_out_of_range_are_refused(whimbrel, factor, tail):
    with pytest.raises(DesignError, match="a factor from"):
        scaled(whimbrel, factor, tail)


def test_a_scale_that_leaves_the_documents_limits_is_refused(whimbrel):
    with pytest.raises(DesignError, match="scaled by 9"):
        scaled(whimbrel, 9.0)


def test_one_without_a_power_train_scales_too(whimbrel):
    bare = whimbrel.model_copy(update={"power": None, "parts": whimbrel.parts[1:2]})
    assert scaled(bare, 1.5).power is None


def test_what_lies_aside_for_another_set_is_scaled_with_what_flies(whimbrel):
    assert whimbrel.aside.surfaces or whimbrel.aside.parts
    made = scaled(whimbrel, 2.0)
    for now, then in zip(whimbrel.aside.surfaces, made.aside.surfaces, strict=True):
        assert [s.chord for s in then.stations] == pytest.approx([2 * s.chord for s in now.stations])
    for now, then in zip(whimbrel.aside.parts, made.aside.parts, strict=True):
        assert then.x == pytest.approx(2 * now.x, abs=1e-6)
    other = next(one.id for one in whimbrel.configurations if one.id != whimbrel.fitted)
    here, there = evaluate(fit(whimbrel, other)), evaluate(fit(made, other))
    assert there.value("wing.span") == pytest.approx(2 * here.value("wing.span"), rel=1e-6)


@pytest.mark.parametrize(
    ("text", "ratio"), [("33 %", 0.33), ("1/3", 1 / 3), ("1:3", 1 / 3), ("0.33", 0.33), ("1 : 4", 0.25), ("115%", 1.15)]
)
def test_a_scale_is_read_as_builders_write_it(text, ratio):
    assert ratio_of(text) == pytest.approx(ratio)


@pytest.mark.parametrize("text", ["", "1/0", "a third", "-33 %", "1:2:3", "0"])
def test_what_is_no_scale_is_refused_with_what_is_one(text):
    with pytest.raises(DesignError, match="33 %, 1/3"):
        ratio_of(text)
