"""Random valid designs: any plausible mix of layout, sizes, parts and power, including odd and empty ones."""

import math

from hypothesis import strategies as st

from ridgeline.design.airframe import Body, BodyStation, ControlSurface, Station, Surface
from ridgeline.design.brief import Brief
from ridgeline.design.document import Design
from ridgeline.design.parts import Item, Rail
from ridgeline.design.power import Motor, Mount, Pack, PowerTrain, Propeller, SpeedController
from ridgeline.engine.sizing.purposes import PURPOSES

sections = st.sampled_from(
    ["sharp_plate", "stepped_plate", "curved_sheet", "folded", "flat_bottom", "semi_symmetrical", "reflexed"]
)


@st.composite
def stations(draw, reach=(0.05, 1.5), chord=(0.02, 0.6)):
    count = draw(st.integers(2, 4))
    whole = draw(st.floats(*reach))
    rows = []
    for index in range(count):
        rows.append(
            Station(
                y=whole * index / (count - 1),
                chord=draw(st.floats(*chord)),
                x=draw(st.floats(-0.1, 0.4)) if index else 0.0,
                z=draw(st.floats(-0.1, 0.2)) if index else 0.0,
                twist=draw(st.floats(-0.1, 0.1)),
            )
        )
    return tuple(rows)


@st.composite
def controls(draw, reach, kinds):
    found = []
    for kind in draw(st.lists(st.sampled_from(kinds), max_size=2, unique=True)):
        start = draw(st.floats(0.0, 0.8)) * reach
        end = start + draw(st.floats(0.1, 1.0)) * (reach - start)
        throw = draw(st.one_of(st.none(), st.floats(0.0, 1.0)))
        share = draw(st.floats(0.05, 1.0))
        found.append(ControlSurface(kind=kind, start=start, end=end, chord_fraction=share, up=throw, down=throw))
    return tuple(found)


WING_KINDS = ["aileron", "elevon", "flap", "flaperon"]
TAIL_KINDS = {"fin": ["rudder"], "v_tail": ["ruddervator"]}


@st.composite
def surfaces(draw):
    found = []
    for index in range(draw(st.integers(0, 2))):
        rows = draw(stations())
        found.append(
            Surface(
                name=f"Wing {index}",
                role="wing",
                x=draw(st.floats(0, 0.6)),
                z=draw(st.floats(-0.2, 0.2)),
                section=draw(sections),
                thickness=draw(st.floats(0.002, 0.05)),
                incidence=draw(st.floats(-0.1, 0.1)),
                stations=rows,
                sheet=draw(st.floats(0.0005, 0.02)),
                droop=draw(st.floats(-0.05, 0.1)),
                warp_starboard=draw(st.floats(-0.02, 0.02)),
                warp_port=draw(st.floats(-0.02, 0.02)),
                mirrored=index == 0 or draw(st.booleans()),
                y=0.0 if index == 0 else draw(st.floats(-0.3, 0.3)),
                controls=draw(controls(rows[-1].y, WING_KINDS)),
            )
        )
    for role in draw(st.lists(st.sampled_from(["stabiliser", "v_tail", "fin", "foreplane"]), max_size=3)):
        panel = draw(stations(reach=(0.03, 0.5), chord=(0.02, 0.3)))
        cant = {"fin": math.pi / 2, "v_tail": draw(st.floats(0.2, 1.2))}.get(role, 0.0)
        found.append(
            Surface(
                name=role.capitalize(),
                role=role,
                x=draw(st.floats(-0.5, 1.5)),
                z=draw(st.floats(-0.2, 0.3)),
                cant=cant,
                mirrored=role != "fin" or draw(st.booleans()),
                stations=panel,
                controls=draw(controls(panel[-1].y, TAIL_KINDS.get(role, ["elevator"]))),
            )
        )
    return tuple(found)


@st.composite
def bodies(draw):
    if not draw(st.booleans()):
        return ()
    length, size = draw(st.floats(0.1, 2.0)), draw(st.floats(0.01, 0.3))
    rows = (
        BodyStation(x=0.0, width=draw(st.floats(0, 0.1)), height=draw(st.floats(0, 0.1))),
        BodyStation(x=0.4 * length, width=size, height=size),
        BodyStation(x=length, width=0.0, height=draw(st.floats(0, 0.1))),
    )
    return (Body(name="Body", rounding=draw(st.floats(0, 1)), stations=rows),)


@st.composite
def mounts(draw):
    places = st.builds(
        Mount,
        x=st.floats(-0.1, 1.5),
        y=st.floats(-0.5, 0.5),
        z=st.floats(-0.1, 0.2),
        mirrored=st.booleans(),
        pusher=st.booleans(),
        down=st.floats(-0.2, 0.2),
        right=st.floats(-0.2, 0.2),
    )
    return tuple(draw(st.lists(places, min_size=1, max_size=2)))


@st.composite
def power_trains(draw):
    diameter = draw(st.floats(0.05, 0.5))
    return PowerTrain(
        motor=Motor(
            name="Motor",
            kv_rpm_per_v=draw(st.floats(100, 6000)),
            resistance=draw(st.floats(0.005, 2)),
            no_load_current=draw(st.floats(0, 5)),
            mass=draw(st.floats(0.003, 0.5)),
            max_current=draw(st.floats(1, 80)),
        ),
        esc=SpeedController(name="ESC", max_current=draw(st.floats(3, 100)), mass=0.02),
        pack=Pack(
            name="Pack",
            cells=draw(st.integers(1, 8)),
            capacity_ah=draw(st.floats(0.1, 8)),
            cell_resistance=draw(st.floats(0.001, 0.2)),
            mass=draw(st.floats(0.005, 1)),
        ),
        propeller=Propeller(name="Prop", diameter=diameter, pitch=draw(st.floats(0.1, 2.0)) * diameter, mass=0.01),
        mounts=draw(mounts()),
    )


@st.composite
def parts(draw, power):
    found = []
    for index in range(draw(st.integers(0, 6))):
        estimate = draw(st.one_of(st.none(), st.floats(0, 1)))
        weighed = draw(st.one_of(st.none(), st.floats(0, 1))) if estimate is not None else draw(st.floats(0, 1))
        found.append(
            Item(
                name=f"Item {index}",
                group=draw(st.sampled_from(["airframe", "radio", "battery", "payload", "ballast"])),
                basis=draw(st.sampled_from(["library", "sheet", "print", "adhesive", "stock"])),
                count=draw(st.integers(1, 4)),
                mirrored=draw(st.booleans()),
                x=draw(st.floats(-0.5, 1.5)),
                y=draw(st.floats(-0.5, 0.5)),
                z=draw(st.floats(-0.2, 0.2)),
                estimate=estimate,
                weighed=weighed,
            )
        )
    if power is not None and draw(st.booleans()):
        rail = Rail(front=0.05, back=draw(st.floats(0.2, 0.6)), item_length=0.1)
        found.append(Item(name="Pack", group="battery", component="pack", x=0.12, rail=rail))
    return tuple(found)


@st.composite
def designs(draw):
    """Draw a design: any layout this document can describe, sensible or not."""
    power = draw(st.one_of(st.none(), power_trains()))
    brief = Brief(
        purpose=draw(st.sampled_from(sorted(PURPOSES))),
        ceiling=draw(st.floats(0.05, 15)),
        elevation=draw(st.floats(0, 3000)),
        launch=draw(st.sampled_from(["hand", "wheels", "bungee"])),
    )
    return Design(
        name="Any", brief=brief, surfaces=draw(surfaces()), bodies=draw(bodies()), parts=draw(parts(power)), power=power
    )
