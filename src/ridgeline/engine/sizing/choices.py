"""What a layout chose and why, one line each, for the Brief."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from ridgeline.design.brief import Brief
from ridgeline.design.document import Choice, Design
from ridgeline.engine.report import Report
from ridgeline.engine.sizing.building import Plan, is_light
from ridgeline.engine.sizing.forms import FORM_WORDS
from ridgeline.engine.sizing.purposes import AGREES, PURPOSES

_PEELED = {0: "papers on", 1: "papers off inside", 2: "both papers off"}
_SCHEMES = {
    "rudder_elevator": "rudder and elevator",
    "aileron_elevator": "ailerons, elevator and rudder",
    "full_house": "ailerons, flaps, elevator and rudder",
    "elevons": "elevons",
    "none": "none",
}


#: Starting values that give way where nobody typed them: the figure held against each, and on which side it is worse.
_STARTS = {"wing_loading": ("wing.loading", 1), "thrust_ratio": ("power.thrust_ratio", -1)}
_GAVE_WAY = {
    "wing_loading": ("Loading", "over its usual start", "as light as it can be built under this ceiling"),
    "thrust_ratio": ("Thrust", "under its usual start", "the strongest on the shelf that is light enough"),
}


def given_way_of(report: Report, wished: Brief) -> dict[str, float]:
    """Return the starting values that gave way to what is drawn, by their names in the brief.

    Parameters
    ----------
    report : Report
        Of what is drawn.
    wished : Brief

    Returns
    -------
    dict of str to float
        What is drawn; nothing of wishes that were typed, or kept within 15 %.
    """
    found = {}
    for name, (key, worse) in _STARTS.items():
        now, start = report.value(key), float(getattr(wished, name))
        if name not in wished.typed and now is not None and start > 0 and worse * (now / start - 1) > AGREES:
            found[name] = round(now, 3)
    return found


def choices_of(design: Design, wished: Brief, plan: Plan, given_way: Mapping[str, float]) -> tuple[Choice, ...]:
    """Return what was chosen for a design and why.

    Parameters
    ----------
    design : Design
        As laid out.
    wished : Brief
        What was wished for.
    plan : Plan
        That it is built by.
    given_way : dict of str to float
        Starting values that gave way, and to what.

    Returns
    -------
    tuple of Choice
    """
    return (*_choices(design, wished, plan), *_gave_way(wished, given_way))


def _gave_way(wished: Brief, given_way: Mapping[str, float]) -> Iterator[Choice]:
    for name, now in given_way.items():
        part, words, why = _GAVE_WAY[name]
        share = abs(now / float(getattr(wished, name)) - 1)
        yield Choice(part=part, what=f"{100 * share:.0f} % {words}", why=why)


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
    if design.loads.dive_speed is not None:
        what = f"not above {design.loads.dive_speed:.1f} m/s"
        yield Choice(part="Fastest", what=what, why="beyond that the wing twists; stiffen it to fly faster")
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
