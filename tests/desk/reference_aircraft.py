"""Fourteen aircraft of the estuary survey club, each built through the window from a blank page.

They are made up; between them every kind of part, layout, size and way to build occurs. Each is a function of hands.
"""


def sandpiper(h):
    """A foam trainer laid out from three wishes."""
    h.brief(purpose="trainer", ceiling="900 g")
    h.lay_out()


def curlew(h):
    """A toss glider for the classroom, balanced by coins."""
    h.brief(purpose="glider", propulsion="none", controls="none", ceiling="60 g", span_limit="800 mm")
    h.lay_out()


def plover(h):
    """A sailplane without a motor and two wings to swap: one for calm air, one for the slope."""
    h.brief(purpose="glider", propulsion="none", controls="aileron_elevator", ceiling="1 kg", span_limit="2.2 m")
    h.lay_out()
    h.menu("Tow hook")
    h.turn("weights.sets")
    h.press(h.sheet.add)
    for number, words in enumerate(("Calm wing", "Slope wing")):
        h.type(h.sheet.names[number], words)
    h.turn("shape")
    h.pick("surfaces[0].stations[0]")
    h.choose("Flies in", "own")
    h.outline(0, span="1500 mm", area="24 dm2")
    h.settle()


def oystercatcher(h):
    """Two motors and nothing else to steer by."""
    h.brief(purpose="trainer", ceiling="700 g", controls="rudder_elevator")
    h.lay_out()
    h.turn("shape")
    h.pick("power.mounts[0]")
    h.choose("Stands on", "pair")
    for index, surface in enumerate(h.design.surfaces):
        while h.design.surfaces[index].controls:
            h.turn("shape.control")
            h.pick(f"surfaces[{index}].controls[0]")
            h.act("Remove")
        assert surface.name
    h.settle()


def godwit(h):
    """A twin boom with its motor between the booms, for a clear view ahead."""
    h.brief(purpose="camera", ceiling="1.6 kg", layout="twin_boom", payload="120 g")
    h.lay_out()
    h.settle()


def knot(h):
    """A fast one turned into a ducted fan."""
    h.brief(purpose="speed", ceiling="1.4 kg", build_method="extruded_foam")
    h.lay_out()
    h.turn("power")
    h.pick("power.motor")
    h.act("Fan instead")
    h.settle()


def lapwing(h):
    """Asymmetrical: a camera pod on one wing, and what balances it on the other."""
    h.brief(purpose="camera", ceiling="1.2 kg")
    h.lay_out()
    h.menu("Pod")
    index = len(h.design.bodies) - 1
    h.dim(f"bodies[{index}].y", "160 mm")
    h.dim(f"bodies[{index}].name", "Camera pod")
    h.settle(levels=("stop", "look"), most=6)
    h.remedy("balance.sideways", "tip_ballast")
    h.settle()


def redshank(h):
    """A bought foam airframe: as bought, its factory nose weight taken out when a motor goes in."""
    h.brief(
        purpose="glider", propulsion="none", controls="rudder_elevator", ceiling="800 g", build_method="extruded_foam"
    )
    h.lay_out()
    h.turn("shape.body")
    h.sheet.built.choose("bought")
    h.turn("shape.section")
    h.sheet.built.choose("bought")
    h.turn("weights")
    h.sheet.add_item()
    index = len(h.design.parts) - 1
    for path, text in (("name", "Factory nose weight"), ("estimate", "25 g"), ("x", "20 mm")):
        h.dim(f"parts[{index}].{path}", text)
    h.choose("Counts to", "ballast")
    h.turn("power")
    h.press(h.sheet.add)
    assert not [p for p in h.design.parts if p.name == "Factory nose weight"]
    h.settle()


def greenshank(h):
    """A quarter-scale model of an original of 7.2 m, its tail a little larger."""
    h.brief(purpose="scale", ceiling="3.2 kg", span_limit="2.2 m", launch="wheels")
    h.lay_out()
    h.turn("shape.scale")
    h.type(h.sheet.fields["original"], "7.2 m")
    h.type(h.sheet.fields["scale"], "1:4")
    h.type(h.sheet.fields["tail"], "1.05")
    h.press(h.sheet.go)
    h.settle()


def stint(h):
    """A hundred grams of thin sheet for the hall."""
    h.brief(purpose="slow", ceiling="110 g", controls="rudder_elevator", span_limit="700 mm")
    h.lay_out()
    h.settle()
    # It never flies faster in a hall.
    h.turn("structure")
    h.dim("loads.dive_speed", "12 m/s")


def heron(h):
    """Twelve kilograms on wheels, many cells."""
    h.brief(
        purpose="camera", ceiling="12 kg", span_limit="4.5 m", launch="wheels", payload="3.5 kg", endurance="30 min"
    )
    h.lay_out()
    h.settle()


def ruff(h):
    """Printed, swept, without a tail."""
    h.brief(purpose="tailless", ceiling="1 kg", build_method="printed_foaming", layout="swept")
    h.lay_out()
    h.settle()


def sanderling(h):
    """A test bed: the wing on a grid of holes, the tail set by degrees."""
    h.brief(purpose="sport", ceiling="1.3 kg", launch="wheels")
    h.lay_out()
    for index in (0, 1):
        h.turn("shape")
        h.pick(f"surfaces[{index}].stations[0]")
        h.act("On a seat")
    h.menu("Skid")
    h.settle()


def shelduck(h):
    """Drawn by hand from a blank page, part by part: a kink, round tips, strips, and it goes into a box."""
    for words in ("Wing", "Stabiliser", "Fin", "Fuselage", "Main wheels"):
        h.menu(words)
    h.outline(0, span="1300 mm", area="26 dm2", taper="0.7")
    h.press(h.sheet.tips["rounded"])
    h.press(h.sheet.kink)
    h.press(h.sheet.strip)
    h.menu("Power train")
    h.brief(ceiling="1.3 kg")
    h.turn("weights")
    for _ in range(2):
        h.sheet.add_item()
    for index, (name, mass, group) in zip(
        range(len(h.design.parts) - 2, len(h.design.parts)),
        (("Receiver", "8 g", "radio"), ("Servos, all", "40 g", "radio")),
        strict=True,
    ):
        h.pick(f"parts[{index}]")
        h.dim(f"parts[{index}].name", name)
        h.dim(f"parts[{index}].estimate", mass)
        h.choose("Counts to", group)
    h.settle(most=20)
    h.brief(box_length="1000 mm", box_width="300 mm", box_height="260 mm")
    h.remedy("brief.box")
    h.settle()


def trainer_by_hand(h):
    """A trainer added part by part, without the layout of the Brief; then what the findings offer."""
    for words in ("Wing", "Stabiliser", "Fin", "Fuselage", "Main wheels", "Power train"):
        h.menu(words)
    h.settle(levels=("stop", "look"), most=16)


def finished(build):
    """Return a builder that also presses what helps of what is to be looked at."""

    def built(h):
        build(h)
        h.settle(levels=("stop", "look"), most=10)

    return built


AIRCRAFT = {
    "Sandbank Sandpiper": finished(sandpiper),
    "Classroom Curlew": finished(curlew),
    "Ridge Plover": finished(plover),
    "Tidal Oystercatcher": finished(oystercatcher),
    "Lookout Godwit": finished(godwit),
    "Channel Knot": finished(knot),
    "Lopsided Lapwing": finished(lapwing),
    "Second-hand Redshank": finished(redshank),
    "Quarter Greenshank": finished(greenshank),
    "Boathouse Stint": finished(stint),
    "Harbour Heron": finished(heron),
    "Printed Ruff": finished(ruff),
    "Trial Sanderling": finished(sanderling),
    "Hand-drawn Shelduck": finished(shelduck),
}

#: A trainer each way: by the layout of its brief, and part by part.
TRAINERS = {"Trainer, laid out": sandpiper, "Trainer, by hand": trainer_by_hand}
