"""What hangs on what: whatever moves a carrier, in whatever way, moves what hangs on it, and nothing else."""

import json
import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ridgeline.cli import main
from ridgeline.design import configurations as sets
from ridgeline.design.airframe import Station, Surface
from ridgeline.design.axes import (
    all_discs,
    cut_at,
    disc_of,
    from_surface,
    is_upright,
    lowered,
    middle_out,
    on_surface,
    raised,
)
from ridgeline.design.carrying import carriers, hung_at, place_of
from ridgeline.design.document import from_plain
from ridgeline.design.hanging import hung
from ridgeline.design.parts import Item
from ridgeline.design.paths import REMOVE, Change, apply, put
from ridgeline.design.power import Mount
from ridgeline.engine.advice.levers import wing_moved
from ridgeline.engine.geometry.scaling import scaled
from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import from_text, load, to_text
from ridgeline.library import demo_names

surfaces = st.builds(
    lambda cant, incidence, x, y, z, tip, sweep, rise, twist, taper: Surface(
        id="s1", name="S", role="wing", cant=cant, incidence=incidence, x=x, y=y, z=z,
        stations=(
            Station(y=0.02, chord=0.2),
            Station(y=0.3, chord=0.2 * taper, x=0.3 * sweep, z=rise, twist=0.5 * twist),
            Station(y=0.3 + tip, chord=0.1, x=sweep, z=2 * rise, twist=twist),
        ),
    ),
    st.floats(-1.5, 1.5), st.floats(-0.3, 0.3), st.floats(-0.5, 1), st.floats(0, 0.3), st.floats(-0.2, 0.2),
    st.floats(0.05, 0.6), st.floats(-0.2, 0.3), st.floats(-0.1, 0.1), st.floats(-0.2, 0.2), st.floats(0.4, 1.2),
)  # fmt: skip


@given(surfaces, st.floats(-0.1, 1.2), st.floats(-0.5, 1.5), st.floats(-0.1, 0.1))
def test_a_place_on_a_surface_is_found_again(surface, out, share, over):
    place = on_surface(surface, out, share, over)
    assert from_surface(surface, *place) == pytest.approx((out, share, over), abs=1e-9)
    up = lowered(surface, *raised(surface, out, over))
    assert up == pytest.approx((out, over), abs=1e-12)


@given(surfaces, st.floats(0.02, 0.35))
def test_the_chord_runs_from_the_leading_edge_at_its_angle(surface, out):
    cut = cut_at(surface, out)
    lead, trail = on_surface(surface, out, 0.0, 0.0), on_surface(surface, out, 1.0, 0.0)
    assert math.dist(lead, trail) == pytest.approx(cut.chord)
    angle = 0.0 if is_upright(surface) else surface.incidence + cut.twist
    assert trail[0] - lead[0] == pytest.approx(cut.chord * math.cos(angle))
    high = on_surface(surface, out, 0.4, 0.01)
    assert math.dist(high, on_surface(surface, out, 0.4, 0.0)) == pytest.approx(0.01)


def on(design, ident):
    """Return the items that hang on a part, by index."""
    return [k for k, item in enumerate(design.parts) if item.on is not None and item.on.to == ident]


def moved_by_share(before, after, ident, move):
    """See that the balance point moved by Σ m Δ/M of what hangs on a part, and nothing else moved."""
    one, other = evaluate(before).results.masses, evaluate(after).results.masses
    mine = on(before, ident)
    assert mine
    share = float(one.expected[mine].sum()) / one.state.mass
    assert other.state.cg - one.state.cg == pytest.approx([share * d for d in move], abs=1e-9)
    for k, (now, was) in enumerate(zip(after.parts, before.parts, strict=True)):
        assert (now is was) == (k not in mine)


def ways_to_move_the_wing(design, d):
    """Return the design with its first wing moved aft: typed, by a lever, by a list of changes, by --set's own path."""
    x = design.surfaces[0].x + d
    yield put(design, "surfaces[0].x", x)
    yield apply(design, [Change("surfaces[0].x", x)])
    yield put(design, "surfaces[0]", design.surfaces[0].model_copy(update={"x": x}))
    wings = [s for s in design.surfaces if s.role == "wing"]
    if len(wings) == 1:
        yield apply(design, wing_moved(design, d))


@pytest.mark.parametrize("name", demo_names())
@pytest.mark.parametrize("d", [0.0375, -0.021])
def test_a_wing_moved_in_any_way_carries_what_hangs_on_it(name, d):
    design = load(f"demo:{name}")
    for after in ways_to_move_the_wing(design, d):
        moved_by_share(design, after, design.surfaces[0].id, (d, 0.0, 0.0))


@pytest.mark.parametrize("name", demo_names())
def test_bodies_and_mounts_carry_what_hangs_on_them(name):
    design = load(f"demo:{name}")
    for axis, move in (("x", (0.03, 0, 0)), ("z", (0, 0, -0.012))):
        body = design.bodies[0]
        after = put(design, f"bodies[0].{axis}", getattr(body, axis) + sum(move))
        moved_by_share(design, after, body.id, move)
        mount = design.power.mounts[0]
        after = put(design, f"power.mounts[0].{axis}", getattr(mount, axis) + sum(move))
        moved_by_share(design, after, mount.id, move)
        assert [b - a for a, b in zip(disc_of(mount, design.power), all_discs(after.power)[0], strict=True)] == (
            pytest.approx(list(move))
        )


def test_set_on_the_command_line_carries_too(capsys, whimbrel):
    def cg(*more):
        assert main(["figures", "demo:whimbrel", "--json", "--no-throw", *more]) == 0
        return json.loads(capsys.readouterr().out)["figures"]["balance.cg_x"]["value"]

    masses = evaluate(whimbrel).results.masses
    share = float(masses.expected[on(whimbrel, whimbrel.surfaces[0].id)].sum()) / masses.state.mass
    assert cg("--set", f"surfaces[0].x={1e3 * (whimbrel.surfaces[0].x + 0.05):.6f} mm") - cg() == pytest.approx(
        0.05 * share, abs=1e-9
    )


def test_a_drag_a_sweep_and_a_longer_chord_carry_servos(whimbrel):
    index = next(k for k, p in enumerate(whimbrel.parts) if p.servo is not None and p.mirrored)
    hang = whimbrel.parts[index].on
    assert hang.to == whimbrel.surfaces[0].id
    at60 = put(whimbrel, f"parts[{index}].on.share", 0.6)
    wider = put(at60, "surfaces[0].stations[0].chord", whimbrel.surfaces[0].stations[0].chord + 0.08)
    wing, item = wider.surfaces[0], wider.parts[index]
    cut = cut_at(wing, hang.out)
    assert item.x == pytest.approx(on_surface(wing, hang.out, 0.6, hang.up)[0], abs=1e-9)
    assert item.x - wing.x - cut.x == pytest.approx(0.6 * cut.chord, abs=0.003)
    # Dihedral lifts it.
    raised_tip = put(whimbrel, "surfaces[0].stations[2].z", whimbrel.surfaces[0].stations[2].z + 0.05)
    assert raised_tip.parts[index].z > whimbrel.parts[index].z + 0.01


def test_coordinates_typed_are_read_back_into_the_carriers_axes(whimbrel):
    index = on(whimbrel, whimbrel.surfaces[0].id)[-1]
    before = whimbrel.parts[index]
    moved = put(whimbrel, f"parts[{index}].x", before.x + 0.02)
    after = moved.parts[index]
    assert after.x == before.x + 0.02 and after.on.share > before.on.share
    assert place_of(after, moved.surfaces[0], None) == pytest.approx((after.x, after.y, after.z), abs=1e-11)
    on_wing = put(moved, "surfaces[0].x", moved.surfaces[0].x + 0.1)
    assert on_wing.parts[index].x == pytest.approx(after.x + 0.1, abs=1e-11)


def test_the_file_says_each_place_once_and_opens_the_same(whimbrel):
    data = json.loads(to_text(whimbrel))
    for item in data["parts"]:
        assert (item["on"] is None) == ("x" in item)
    assert from_text(to_text(whimbrel), "x") == whimbrel
    # What a file says besides is not believed.
    data["parts"][2]["x"] = 5.0
    assert from_plain(data).parts[2].x == whimbrel.parts[2].x


def test_what_is_built_of_a_part_goes_with_it_and_what_was_bolted_to_it_is_left_loose(whimbrel):
    wing = whimbrel.surfaces[0]
    mine = on(whimbrel, wing.id)
    built = [k for k in mine if whimbrel.parts[k].build is not None and whimbrel.parts[k].build.of == wing.id]
    assert built and len(mine) > len(built)
    gone = put(whimbrel, "surfaces[0]", REMOVE)
    left = {item.id: item for item in gone.parts}
    for k in mine:
        item = whimbrel.parts[k]
        if k in built:
            assert item.id not in left
        else:
            loose = left[item.id]
            assert loose.on is None and loose.loose == wing.name
            assert (loose.x, loose.y, loose.z) == (item.x, item.y, item.z)
    found = next(f for f in evaluate(gone).findings if f.key == "mass.loose")
    assert any(whimbrel.parts[k].name in str(found.text) for k in mine if k not in built)
    settled_again = apply(gone, found.remedies[0].changes)
    assert not any(f.key == "mass.loose" for f in evaluate(settled_again).findings)


def test_what_is_built_of_a_longer_panel_lies_farther_out(whimbrel):
    wing = whimbrel.surfaces[0]
    index = next(k for k, p in enumerate(whimbrel.parts) if p.build is not None and p.build.of == wing.id)
    stations = tuple(s.model_copy(update={"y": 1.5 * s.y}) for s in wing.stations)
    longer = put(whimbrel, "surfaces[0].stations", stations)
    assert middle_out(longer.surfaces[0]) == pytest.approx(1.5 * middle_out(wing))
    assert longer.parts[index].on.out == pytest.approx(1.5 * whimbrel.parts[index].on.out)
    servo = next(k for k, p in enumerate(whimbrel.parts) if p.on.to == wing.id and p.servo is not None)
    assert longer.parts[servo].on.out == whimbrel.parts[servo].on.out, "what is bolted on stays where it was bolted"


@pytest.mark.parametrize("pusher", [False, True])
def test_a_longer_motor_moves_the_disc_by_the_difference(whimbrel, pusher):
    design = put(whimbrel, "power.mounts[0].pusher", pusher)
    train = design.power
    x = disc_of(train.mounts[0], train)[0]
    assert x == pytest.approx(
        train.mounts[0].x + (1 if pusher else -1) * (train.motor.length + train.mounts[0].adapter)
    )
    longer = put(design, "power.motor.length", train.motor.length + 0.010)
    spaced = put(longer, "power.mounts[0].spacer", 0.006)
    way = 1 if pusher else -1
    assert all_discs(longer.power)[0][0] - x == pytest.approx(way * 0.010)
    assert all_discs(spaced.power)[0][0] - x == pytest.approx(way * 0.016)
    by = {p.component: q.x - p.x for p, q in zip(design.parts, spaced.parts, strict=True)}
    assert by["propeller"] == pytest.approx(way * 0.016) and by["motor"] == pytest.approx(way * 0.011)
    assert by["esc"] == 0


def test_a_tilted_shaft_turns_its_disc_about_the_firewall(whimbrel):
    mount = Mount(x=0.1, z=0.02, y=0.15, mirrored=True, down=0.1, right=0.05, spacer=0.02)
    train = put(whimbrel, "power.mounts", (mount,)).power
    reach = 0.02 + train.motor.length + mount.adapter
    (x, y, z), port = all_discs(train)
    assert math.dist((x, y, z), (0.1, 0.15, 0.02)) == pytest.approx(reach)
    assert (z - 0.02) / reach == pytest.approx(-math.sin(0.1)) and (y - 0.15) / reach == pytest.approx(
        math.sin(0.05) * math.cos(0.1)
    )
    assert port == (x, -y, z)


def test_an_item_in_the_port_body_of_a_pair_hangs_there_and_counts_there(whimbrel):
    pair = put(put(whimbrel, "bodies[0].mirrored", True), "bodies[0].y", 0.2)
    esc = next(k for k, p in enumerate(pair.parts) if p.component == "esc")
    port = put(pair, f"parts[{esc}].y", -0.2)
    assert port.parts[esc].on.port and port.parts[esc].on.out == pytest.approx(0.0)
    out = put(port, "bodies[0].y", 0.25)
    assert out.parts[esc].y == pytest.approx(-0.25)


def test_scaling_carries_and_so_does_another_set(whimbrel):
    large = scaled(whimbrel, 1.7)
    for now, was in zip(large.parts, whimbrel.parts, strict=True):
        # A pack keeps its length, and may have to move up in its longer bay; a motor keeps its, and so its disc's.
        if was.rail is not None or was.component in ("motor", "propeller"):
            continue
        assert (now.x, now.y, now.z) == pytest.approx((1.7 * was.x, 1.7 * was.y, 1.7 * was.z), abs=1e-9)
        assert now.on.share == pytest.approx(was.on.share)
    for ident in sets.idents(whimbrel):
        fitted = sets.fit(whimbrel, ident)
        found = carriers(fitted)
        for item in fitted.parts:
            if item.on is not None:
                assert place_of(item, found[item.on.to], fitted.power) == (item.x, item.y, item.z)
        back = sets.fit(fitted, whimbrel.fitted)
        assert sorted(back.parts, key=lambda p: p.id) == sorted(whimbrel.parts, key=lambda p: p.id)
        assert all(item.on is not None for item in (*fitted.parts, *fitted.aside.parts))


@given(st.sampled_from(demo_names()), st.data())
@settings(max_examples=25)
def test_any_edits_leave_every_item_where_its_carrier_puts_it(name, data):
    design = load(f"demo:{name}")
    paths = st.sampled_from(
        ["surfaces[0].x", "surfaces[1].z", "surfaces[0].incidence", "surfaces[0].stations[0].chord", "bodies[0].x",
         "power.mounts[0].x", "power.motor.length", "power.mounts[0].down", "parts[1].x", "parts[4].z"]
    )  # fmt: skip
    for _ in range(4):
        path, by = data.draw(paths), data.draw(st.floats(-0.01, 0.02))
        now = design
        for step in path.replace("]", "").replace("[", ".").split("."):
            now = now[int(step)] if step.isdigit() else getattr(now, step)
        design = put(design, path, now + by)
    found = carriers(design)
    for item in design.parts:
        if item.on is not None:
            place = place_of(item, found[item.on.to], design.power)
            assert place == pytest.approx((item.x, item.y, item.z), abs=1e-9)
    assert from_plain(json.loads(to_text(design))).parts == design.parts


def test_what_lies_free_is_hung_without_moving():
    design = load("demo:turnstone")
    bare = design.model_copy(update={"parts": tuple(p.model_copy(update={"on": None}) for p in design.parts)})
    again = hung(bare)
    assert [p.on.to for p in again.parts] == [p.on.to for p in design.parts]
    far = Item(id="i99", name="Ground station", group="payload", x=4.0, estimate=0.1)
    assert hung(design.model_copy(update={"parts": (*design.parts, far)})).parts[-1].on is None
    assert hung_at(far, design.bodies[0], None, (0.3, 0.0, 0.01)).back == pytest.approx(0.3 - design.bodies[0].x)


def test_what_lay_aside_hangs_where_its_carrier_stands_by_now():
    """A version in another set keeps its place on the wing, not the coordinates it was laid aside with."""
    plain = load("demo:turnstone")
    index = on(plain, plain.surfaces[0].id)[-1]
    two = sets.own_version(sets.add(plain, "Other"), f"parts[{index}]")
    moved = put(two, "surfaces[0].x", two.surfaces[0].x + 0.05)
    back = sets.fit(moved, next(ident for ident in sets.idents(moved) if ident != moved.fitted))
    item = next(p for p in back.parts if p.id == plain.parts[index].id)
    assert item.x == pytest.approx(plain.parts[index].x + 0.05, abs=1e-9) and item.on == plain.parts[index].on
