"""What a layout chose and why, one line each, for the Brief."""

from __future__ import annotations

from collections.abc import Iterator

from ridgeline.design.brief import Brief
from ridgeline.design.document import Choice, Design
from ridgeline.engine.sizing.building import Plan, is_light
from ridgeline.engine.sizing.forms import FORM_WORDS
from ridgeline.engine.sizing.purposes import PURPOSES

_PEELED = {0: "papers on", 1: "papers off inside", 2: "both papers off"}
_SCHEMES = {
    "rudder_elevator": "rudder and elevator",
    "aileron_elevator": "ailerons, elevator and rudder",
    "full_house": "ailerons, flaps, elevator and rudder",
    "elevons": "elevons",
}


def choices_of(design: Design, wished: Brief, plan: Plan) -> tuple[Choice, ...]:
    """Return what was chosen for a design and why.

    Parameters
    ----------
    design : Design
        As laid out.
    wished : Brief
        What was wished for.
    plan : Plan
        That it is built by.

    Returns
    -------
    tuple of Choice
    """
    return tuple(_choices(design, wished, plan))


def _choices(design: Design, wished: Brief, plan: Plan) -> Iterator[Choice]:
    purpose = PURPOSES[wished.purpose].label.lower()
    wing, body = plan.wing, plan.body
    if wing.form == "printed":
        made = f"{FORM_WORDS['printed']} of {wing.printing.material}"
        why = "the method chosen; a thin wall over webs is its lightest"
    else:
        papers = f", {_PEELED[wing.board.peeled]}" if wing.board.faced else ""
        made = f"{FORM_WORDS[wing.form]} of {wing.board.material}{papers}"
        why = "the lightest usual kind of wing" if is_light(wished) else f"usual for this purpose ({purpose})"
    yield Choice(part="Wing", what=made, why=why)
    if plan.steps:
        yield Choice(part="Lightened", what=", ".join(plan.steps), why="the usual build came out over the ceiling")
    for spar in wing.spars:
        several = f"{spar.count} × " if spar.count > 1 else ""
        yield Choice(part="Spar", what=several + spar.material, why="the lightest in stock that bears the pull-up")
    shape = {"box": "a box", "profile": "a profile", "printed": "a printed shell"}[body.form]
    if body.form == "box" and body.open != "none":
        shape = "an open box"
    yield Choice(
        part="Body",
        what=shape,
        why="room for the pack and a stiff tail" if body.form != "profile" else "flat and light",
    )
    servo = next((part.servo for part in design.parts if part.servo is not None), None)
    if servo is not None:
        yield Choice(
            part="Servos", what=f"{servo.name}; {_SCHEMES[plan.controls]}", why="by the weight of the aircraft"
        )
    train = design.power
    if train is not None:
        what = f"{train.motor.name}, {train.propeller.name}, {train.esc.name}, {train.pack.name}"
        yield Choice(part="Power", what=what, why="the lightest that pulls and lasts as wished")
    if design.wheels and "launch" not in wished.typed:
        yield Choice(part="Wheels", what="laid out for a take-off run", why="too heavy to be thrown by one")
