"""Rows of dimensions that are chosen from a few words: what a part is, which group it counts to, where it stands."""

from __future__ import annotations

from ridgeline.design.airframe import Body, Surface
from ridgeline.design.paths import get
from ridgeline.design.power import Mount
from ridgeline.desk.dimensions import Dimension
from ridgeline.desk.part_edits import put_mounts, turn_mount
from ridgeline.desk.store import Store
from ridgeline.engine.geometry.transport import joints_for
from ridgeline.engine.power.prop_families import FAMILY_WORDS
from ridgeline.engine.sizing.mounting import on_sides, sides_of_mount
from ridgeline.errors import DesignError

Words = tuple[tuple[str, str], ...]
BODY_KINDS: Words = (("fuselage", "fuselage"), ("pod", "pod"), ("boom", "boom"))
GROUPS: Words = (
    ("airframe", "built shell"),
    ("adhesive", "glue and covering"),
    ("structure", "structure"),
    ("radio", "radio and servos"),
    ("power", "power"),
    ("battery", "packs"),
    ("payload", "payload"),
    ("gear", "gear"),
    ("ballast", "ballast"),
)
JOINTS: dict[str, str] = {
    "fixed": "stays on",
    "off": "comes off whole",
    "halves": "comes off in halves",
    "panels": "comes apart at kinks",
}
_SIDES: Words = (("pair", "a pair"), ("middle", "the centre line"), ("one", "one side"))
_ENDS: Words = (("ahead", "ahead of it"), ("behind", "behind it"))


def choice_row(store: Store, label: str, path: str, words: Words) -> Dimension:
    """Return a row that sets a field of the document to one of some words."""

    def read() -> str:
        try:
            return str(get(store.design, path))
        except DesignError:
            return ""

    def choose(value: str) -> None:
        store.put(path, value, f"{label}: {dict(words)[value]}")

    return Dimension(label, read=read, choices=words, choose=choose)


def joint_row(store: Store, path: str, part: Surface | Body) -> Dimension:
    """Return the row of how a part comes off for transport."""
    words = tuple((joint, JOINTS[joint]) for joint in joints_for(part))
    return choice_row(store, "For transport", f"{path}.joint", words)


def switch_row(store: Store, label: str, path: str, yes: str, no: str) -> Dimension:
    """Return a row that turns a field of the document on or off, said in two words."""

    def read() -> str:
        return "yes" if get(store.design, path) else "no"

    def choose(word: str) -> None:
        store.put(path, word == "yes", f"{label}: {yes if word == 'yes' else no}")

    return Dimension(label, read=read, choices=(("yes", yes), ("no", no)), choose=choose)


def family_row(store: Store) -> Dimension:
    """Return the row of a propeller's family, which its coefficients come from where nothing was measured."""
    return choice_row(store, "Family", "power.propeller.family", tuple(FAMILY_WORDS.items()))


def mount_rows(store: Store, index: int) -> tuple[Dimension, ...]:
    """Return the rows of where a motor stands: on which side, and at which end of its propeller."""

    def mount() -> Mount | None:
        mounts = () if store.design.power is None else store.design.power.mounts
        return mounts[index] if index < len(mounts) else None

    def sides() -> str:
        found = mount()
        return "" if found is None else sides_of_mount(found)

    def stand(word: str) -> None:
        put_mounts(store, on_sides(store.design, index, word), f"Motor on {dict(_SIDES)[word]}")

    def end() -> str:
        found = mount()
        return "" if found is None else ("behind" if found.pusher else "ahead")

    def turn(word: str) -> None:
        if word != end():
            turn_mount(store)

    return (
        Dimension("Stands on", read=sides, choices=_SIDES, choose=stand),
        Dimension("Propeller stands", read=end, choices=_ENDS, choose=turn),
    )
