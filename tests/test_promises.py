"""What a way out says is what it gives: every remedy of many troubled designs, applied and evaluated whole."""

import random

import pytest

from ridgeline.design.document import Design
from ridgeline.design.paths import apply, get, put
from ridgeline.engine.advice.sensitivity import measures
from ridgeline.engine.phrase import Measured
from ridgeline.engine.pipeline import Evaluator
from ridgeline.engine.report import LEVELS
from ridgeline.errors import DesignError
from ridgeline.files.design_file import load
from ridgeline.library import demo_names


def figure(key):
    return lambda _before, after, _design: after.value(key)


def gained(before, after, _design):
    return after.value("mass.auw") - before.value("mass.auw")


def lost(before, after, _design):
    return before.value("mass.auw") - after.value("mass.auw")


def changed(before, after, design):
    """What the words "more" or "less" go with."""
    return abs(gained(before, after, design))


def brief(field):
    return lambda _before, _after, design: getattr(design.brief, field)


#: By remedy: which number of its sentence (from the left, or from the right when negative) says what will be, and how
#: well it must hold, as a share.
PROMISES = {
    "slide_pack": [(-1, figure("balance.cg_fraction"), 1e-6)],
    "ballast": [(0, gained, 1e-6), (-1, figure("balance.cg_fraction"), 1e-6)],
    "lighter": [(0, brief("wing_loading"), 1e-9)],
    "stronger": [(0, brief("thrust_ratio"), 1e-9)],
    "wider": [(0, brief("span_limit"), 1e-9), (1, brief("wing_loading"), 1e-9)],
    "allow_stall": [(0, brief("stall_speed"), 1e-9)],
    "raise_ceiling": [(-1, brief("ceiling"), 1e-6)],
    "larger_pack": [(0, changed, 1e-6)],
    "smaller_pack": [(-1, lost, 1e-6)],
    "lighten_1": [(0, lost, 1e-6)],
    "lighten_2": [(0, lost, 1e-6)],
    "lighten_3": [(0, lost, 1e-6)],
    "lighten_together": [(0, lost, 1e-6)],
    "bigger_esc": [(0, changed, 1e-6)],
    "stronger_supply": [(0, changed, 1e-6)],
    "more_wing": [(-1, figure("wing.span"), 1e-6)],
    "more_area_h": [(-1, figure("tail.volume_h"), 1e-6)],
    "more_arm_h": [(-1, figure("tail.volume_h"), 1e-6)],
    "more_area_v": [(-1, figure("tail.volume_v"), 1e-6)],
    "more_arm_v": [(-1, figure("tail.volume_v"), 1e-6)],
    "smaller_propeller": [(0, figure("power.static_current"), 1e-6), (1, figure("power.thrust_ratio"), 0.005)],
    "larger_propeller": [(0, figure("power.thrust_ratio"), 0.005), (1, figure("power.static_current"), 1e-6)],
    "steeper_propeller": [(0, figure("flight.cruise_throttle"), 0.005), (1, figure("power.static_current"), 1e-6)],
    "slower_cruise": [(0, figure("speed.cruise"), 1e-6), (1, figure("flight.cruise_throttle"), 1e-6)],
}
#: Ways out that only go as far as they can may leave their finding.
PARTIAL = {"slide_pack", "ballast", "larger_pack", "smaller_pack", "stronger_pack", "pack", "esc", "smaller_propeller"}
PARTIAL |= {"lighten_1", "lighten_2", "lighten_3", "part_glass", "part_film", "part_rear_spar", "part_closed"}
PARTIAL |= {"part_papers", "part_root", "part_shorter", "part_forward"}
#: A touchy elevator calmed by less throw still says that its margin is small.
HALF_DONE = {("control.elevator_touchy", "less_throw")}


def troubled(seed):
    """Return a sample with two to five of its numbers spoilt."""
    chance = random.Random(seed)
    design = load(f"demo:{chance.choice(demo_names())}")
    # Joints and linkages have many numbers, of which few move anything else; they are spoilt in tests of their own.
    apart = ("fastenings", "linkages", "radio")
    places = [path for path, _label in measures(design) if not path.startswith(apart)]
    for path in chance.sample(places, chance.randint(2, 5)):
        spoilt = get(design, path) * chance.choice([0.4, 0.6, 0.8, 1.25, 1.6, 2.5]) + chance.choice([0, 0, 0.02, -0.02])
        try:
            design = put(design, path, spoilt)
        except DesignError:
            continue
    return design


def check(before, finding, remedy, design: Design, trial: Evaluator):
    fresh = apply(design, remedy.changes)
    after = trial(fresh)
    words = f"{finding.key}: {remedy.text}"
    numbers = [value.value for value in remedy.text.values if isinstance(value, Measured)]
    if remedy.text.template.endswith((" more", " less")):
        assert remedy.text.template.endswith(" more") == (gained(before, after, fresh) > 0), words
    for place, measure, share in PROMISES.get(remedy.key, ()):
        now = measure(before, after, fresh)
        assert now is not None and numbers[place] == pytest.approx(now, rel=share, abs=1e-9), words
    same = next((f for f in after.findings if f.key == finding.key), None)
    if remedy.key not in PARTIAL and (finding.key, remedy.key) not in HALF_DONE and same is not None:
        assert LEVELS.index(same.level) > LEVELS.index(finding.level) or same.level == "settled", words


@pytest.mark.parametrize("block", range(4))
def test_every_way_out_gives_what_its_words_say(block):
    kept = set()
    for seed in range(16 * block, 16 * block + 16):
        design, trial = troubled(seed), Evaluator()
        before = trial(design)
        for finding in before.findings:
            for remedy in finding.remedies:
                check(before, finding, remedy, design, trial)
                kept.add(remedy.key)
    assert len(kept & set(PROMISES)) >= 4
