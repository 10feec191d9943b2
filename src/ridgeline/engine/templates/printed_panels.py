"""Printed panels of a surface: its loft with channels, pockets and hinges, cut across to what a printer takes."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from itertools import pairwise
from typing import NamedTuple

import numpy as np
from manifold3d import Manifold
from numpy.typing import NDArray

from ridgeline.design.airframe import ControlSurface, Surface
from ridgeline.design.construction import Spar
from ridgeline.design.cutting import Printer
from ridgeline.design.hinges import hinge_share
from ridgeline.design.parts import Item
from ridgeline.engine.build.seats import servo_case, servo_mass
from ridgeline.engine.templates.features import bevel_of
from ridgeline.engine.templates.printed_frame import Edge, Frame, behind, beyond, edge_along
from ridgeline.engine.templates.solids import BEYOND, SHORT, box, largest, loft, round_along, sound

Array = NDArray[np.float64]
#: Least that stays over a pocket; slits at the ends of a control; gap beside one that is hinged with tape; room round a
#: servo, all round; mm (chosen).
SKIN, SLIT, GAP, ROOM = 1.0, 0.8, 0.5, 0.5
#: Leads take a channel so wide where the section has room for it, at most and at least, and no more than this share of
#: its height, mm (plug of a servo lead 7.6 × 2.6 mm, turned; chosen).
WIRE_MOST, WIRE_LEAST, _WIRE_SHARE = 5.0, 2.6, 0.5
#: A dowel at each cut reaches so deep either way; it is no thicker than this, nor than so much of the section, mm.
DOWEL_DEEP, DOWEL_MOST, _DOWEL_SHARE = 12.0, 3.0, 0.3
#: Where dowels lie, as shares of the chord: with a spar the second keeps it from turning.
_DOWELS = (0.22, 0.62)
#: What a panel cut along its span comes to, from the nose; how many more cuts across are tried before it is; land to a
#: spar, m; what is less than this is a crumb, mm³; turns tried, °.
_STRIPS: tuple[tuple[str, ...], ...] = ((), ("front", "rear"), ("front", "middle", "rear"))
_MORE, _LAND, _CRUMB, _TURN = 3, 0.004, 50.0, 2.0
#: Cuts go so far beside even ones, m.
_BESIDE = 4e-5
#: What is said of a body that the printer does not take.
TOO_LARGE = "larger than the printer's bed"
#: A control that takes all of the chord but this moves whole: nothing is cut.
_WHOLE = 0.97


class Panel(NamedTuple):
    """A body to print as it stands on the bed, mm: its name, which cut of the panel from its root, what is amiss.

    ``fits`` tells that the printer takes it, ``shell`` that it is part of what the shell weighs.
    """

    name: str
    body: Manifold
    number: int
    notes: tuple[str, ...]
    fits: bool = True
    shell: bool = True


def channels_of(frame: Frame, printer: Printer) -> Iterator[Manifold]:
    """Yield what spars take out of a panel.

    Parameters
    ----------
    frame : Frame
    printer : Printer
        Its clearance is on the diameter.

    Yields
    ------
    Manifold
    """
    built = frame.surface.built
    assert built is not None
    for spar in built.spars:
        ends = np.interp([spar.start * frame.s[-1], spar.end * frame.s[-1]], frame.s, frame.y)
        # A channel open at the root lets the spar in; one that ends inside ends there.
        line = beyond(frame.middle(frame.between(*ends), spar.place), BEYOND if spar.start == 0 else 0.0,
                      BEYOND if spar.end == 1 else 0.0)  # fmt: skip
        yield _channel(line, spar, 1000 * printer.clearance)


def _channel(line: Array, spar: Spar, room: float) -> Manifold:
    if spar.round and spar.count == 1:
        return round_along(line, 1000 * spar.height + room)
    wide, tall = 500 * spar.width * spar.count + 0.5 * room, 500 * spar.height + 0.5 * room
    corners = np.array([(-wide, -tall, 0.0), (wide, -tall, 0.0), (wide, tall, 0.0), (-wide, tall, 0.0)])
    return loft(line[:, None, :] + corners)


def with_pockets(frame: Frame, body: Manifold, servos: Sequence[Item], notes: list[str]) -> Manifold:
    """Return a panel with a pocket from below for each servo, and a channel for its leads to the root."""
    built = frame.surface.built
    assert built is not None
    for item in servos:
        if item.on is None:
            continue
        thick, wide = (1000 * size for size in servo_case(servo_mass(item)))
        out, share = item.on.out, item.on.share
        chord = 1000 * float(np.interp(out, frame.y, [one.chord for one in frame.surface.stations]))
        half = 0.5 * wide + ROOM
        if not half < share * chord < chord - half:
            notes.append(f"{item.name}: off the panel, no pocket")
            continue
        x, v, w = frame.at([out], [[share]], [frame.heights([share])[0]])[0, 0]
        deep = min(thick + ROOM, float(frame.thick(out, share)) - SKIN)
        if deep > 0:
            body = body - box((x - half, v - 20.0, w - half), (x + half, v + deep, w + half))
        body = _wired(frame, body, out, share, w)
    return body


def _wired(frame: Frame, body: Manifold, out: float, share: float, w: float) -> Manifold:
    """Return a panel with a channel from a servo to the root, beside the spars."""
    built = frame.surface.built
    assert built is not None
    places = frame.between(float(frame.y[0]), out)
    chord = 1000 * np.interp(places, frame.y, [one.chord for one in frame.surface.stations])
    for spar in built.spars:
        apart = (0.5 * WIRE_MOST + 500 * spar.width * spar.count + 1.5) / float(chord.min())
        if abs(share - spar.place) < apart:
            share = spar.place + apart
    wide = min(WIRE_MOST, _WIRE_SHARE * float(frame.thick(places, share).min()))
    if wide < WIRE_LEAST or w < BEYOND or share > 0.9:
        return body
    return body - round_along(beyond(frame.middle(places, share), BEYOND, 0.0), wide)


def with_hinges(frame: Frame, body: Manifold, line_width: float) -> tuple[Manifold, list[tuple[str, Manifold]]]:
    """Return a panel with its controls hinged in it, or without those that are hinged with tape, and these.

    Parameters
    ----------
    frame : Frame
    body : Manifold
        The panel.
    line_width : float
        What is left of the upper skin at a printed hinge, mm.

    Returns
    -------
    body : Manifold
    controls : list of (str, Manifold)
    """
    surface = frame.surface
    found: list[tuple[str, Manifold]] = []
    assert surface.built is not None
    for control in surface.controls:
        ends = float(np.clip(control.start, frame.y[0], frame.y[-1])), float(min(control.end, frame.y[-1]))
        if ends[1] - ends[0] < 1e-3 or control.chord_fraction >= _WHOLE:
            continue
        if surface.built.hinge == "printed":
            body = body - _groove(_hinge(frame, control, ends), control, frame, line_width)
            for end in ends:
                if frame.y[0] + 1e-6 < end < frame.y[-1] - 1e-6:
                    body = body - behind(frame, _hinge(frame, control, (end, end + 1e-3 * SLIT)))
        else:
            edge = _hinge(frame, control, ends)
            part = (body ^ behind(frame, edge)) - _bevel(edge, control, frame)
            inner, outer = (0.0 if end in (frame.y[0], frame.y[-1]) else 1e-3 * GAP for end in ends)
            body = body - behind(frame, _hinge(frame, control, (ends[0] - inner, ends[1] + outer)))
            found.append((control.kind, part))
    return body, found


def _hinge(frame: Frame, control: ControlSurface, ends: tuple[float, float]) -> Edge:
    out = frame.between(*ends)
    return edge_along(frame, out, 1 - hinge_share(frame.surface, control, np.clip(out, control.start, control.end)))


def _groove(edge: Edge, control: ControlSurface, frame: Frame, skin: float) -> Manifold:
    """Return the V under a hinge that bends in the upper skin: it closes at the throw down and five degrees."""
    apex, foot = edge.high - skin, edge.low - BEYOND
    half = np.maximum(apex - foot, 0.1) * math.tan(0.5 * bevel_of(control))
    return loft(frame.ring(edge.out, ((edge.x - half, foot), (edge.x + half, foot),
                                      (edge.x, np.maximum(apex, foot + 0.1)))))  # fmt: skip


def _bevel(edge: Edge, control: ControlSurface, frame: Frame) -> Manifold:
    """Return the wedge that is bevelled off a control that hinges along its upper edge."""
    x, foot = edge.x, edge.low - BEYOND
    back = (edge.high - foot) * math.tan(bevel_of(control))
    return loft(frame.ring(edge.out, ((x - back, foot), (x + BEYOND, foot), (x + BEYOND, edge.high), (x, edge.high))))


def panels_of(surface: Surface, servos: Sequence[Item], printer: Printer) -> tuple[Panel, ...]:
    """Return the printed panels of one side of a surface, and its controls, each on its root rib.

    Parameters
    ----------
    surface : Surface
        One that is printed.
    servos : sequence of Item
        Those that sit in it.
    printer : Printer

    Returns
    -------
    tuple of Panel
        Starboard ones, or those of a lone surface.

    Source
    ------
    Cut across, standing on the root rib, no higher than the bed less 5 mm: second part of the handbook §15.4.
    """
    assert surface.built is not None
    frame, notes = Frame(surface), list[str]()
    body = frame.whole()
    for channel in channels_of(frame, printer):
        body = body - channel
    body = with_pockets(frame, body, servos, notes)
    body, controls = with_hinges(frame, body, 1000 * surface.built.printing.line_width)
    cut = _cut_up(frame, body, printer, _kept_clear(frame, servos))
    body = _doweled(frame, body, cut.out[1:-1], printer)
    made: list[Panel] = []
    for n, (name, whole) in enumerate((("panel", body), *controls)):
        for k, low, high in zip(range(len(cut.out) - 1), cut.levels, cut.levels[1:], strict=False):
            part = _trimmed(whole, low if k else None, high if k < len(cut.out) - 2 else None)
            for where, strip in cut.strips(part) if n == 0 else (("", part),):
                if strip.is_empty() or strip.volume() < _CRUMB:
                    continue
                stood, fits = on_its_rib(largest(strip), printer)
                told = (*(() if made else notes), *(() if fits else (TOO_LARGE,)))
                made.append(Panel(f"{name} {where}".strip(), stood, k + 1, told, fits))
    return tuple(made)


class _CutUp(NamedTuple):
    """How a panel is cut: across at places out, m, and their levels, mm, and along by what lies behind a line."""

    out: Array
    levels: Array
    rear: tuple[Manifold, ...]
    fits: bool

    def strips(self, part: Manifold) -> Iterator[tuple[str, Manifold]]:
        """Yield what a part is cut into along the span, from the nose, with words for where it lies."""
        names = _STRIPS[len(self.rear)] or ("",)
        for k, name in enumerate(names):
            piece = part if k == 0 else part ^ self.rear[k - 1]
            yield name, piece if k == len(self.rear) else piece - self.rear[k]


def _kept_clear(frame: Frame, servos: Sequence[Item]) -> list[tuple[float, float]]:
    """Return where no cut runs along a panel: shares of the chord and how far to either side, of spars and servos."""
    built = frame.surface.built
    assert built is not None
    least = float(min(one.chord for one in frame.surface.stations))
    found = [(spar.place, (0.5 * spar.width * spar.count + _LAND) / least) for spar in built.spars]
    for item in servos:
        if item.on is not None:
            half = 0.5 * servo_case(servo_mass(item))[1] + 1e-3 * ROOM
            chord = float(np.interp(item.on.out, frame.y, [one.chord for one in frame.surface.stations]))
            # Leads run in at the same share, where the chord is another.
            found.append((item.on.share, max((half + _LAND) / chord, (0.5e-3 * WIRE_MOST + _LAND) / least)))
    return found


def _cut_up(frame: Frame, body: Manifold, printer: Printer, clear: Sequence[tuple[float, float]]) -> _CutUp:
    """Return how a panel is cut into as few as the printer takes: across first, along where the chord is too long."""
    tall = printer.height - printer.clear
    least = max(math.ceil((frame.y[-1] - frame.y[0]) / tall - 1e-9), 1)
    first: _CutUp | None = None
    for along in range(1, len(_STRIPS) + 1):
        rear = tuple(behind(frame, edge_along(frame, frame.followed, np.full(len(frame.followed), share)))
                     for share in _shares_along(along, clear))  # fmt: skip
        for count in range(least, least + _MORE):
            out = np.linspace(frame.y[0], frame.y[-1], count + 1)
            # A cut in the very plane of a ring leaves slivers: it goes a hair beside it.
            out[1:-1] += _BESIDE
            levels = frame.ring(out, ((np.zeros_like(out), np.zeros_like(out)),))[:, 0, 2]
            found = _CutUp(out, levels, rear, True)
            parts = (strip for low, high in pairwise(levels)
                     for _name, strip in found.strips(_trimmed(body, low, high)))  # fmt: skip
            if all(on_its_rib(part, printer)[1] for part in parts if not part.is_empty()):
                return found
            first = first or found._replace(fits=False)
    assert first is not None
    return first


def _shares_along(count: int, clear: Sequence[tuple[float, float]]) -> list[float]:
    """Return where a panel is cut along its span, as shares of the chord: near evenly, but clear of what is in it."""
    tried = np.arange(0.1, 0.9, 0.005)
    free = [float(one) for one in tried if all(abs(one - place) >= apart for place, apart in clear)]
    return [min(free or [k / count], key=lambda one: abs(one - k / count)) for k in range(1, count)]


def _trimmed(body: Manifold, low: float | None, high: float | None) -> Manifold:
    if low is not None:
        body = body.trim_by_plane((0.0, 0.0, 1.0), low)
    return body if high is None else body.trim_by_plane((0.0, 0.0, -1.0), -high)


def _doweled(frame: Frame, body: Manifold, cuts: Array, printer: Printer) -> Manifold:
    """Return a panel with holes for dowels across each cut."""
    built = frame.surface.built
    assert built is not None
    spars = [spar.place for spar in built.spars]
    # A spar holds a cut already: one dowel, the one farther from it, keeps it from turning.
    shares = [max(_DOWELS, key=lambda share: min(abs(share - spar) for spar in spars))] if spars else list(_DOWELS)
    for cut in cuts:
        for share in shares:
            wide = min(DOWEL_MOST, _DOWEL_SHARE * float(frame.thick(cut, share)))
            if wide < 1.0:
                continue
            reach = 1e-3 * DOWEL_DEEP
            places = np.clip([cut - reach, cut + reach], frame.y[0], frame.y[-1])
            body = body - round_along(frame.middle(places, share), wide + 1000 * printer.clearance)
    return body


def on_its_rib(body: Manifold, printer: Printer) -> tuple[Manifold, bool]:
    """Return a body turned on the bed, across it where that is the only way, and whether the printer takes it.

    Parameters
    ----------
    body : Manifold
        Standing, mm.
    printer : Printer

    Returns
    -------
    body : Manifold
        Its corner at the bed's.
    fits : bool
    """
    # Edges too short for a file go before it is turned: turned, their ends would fall together.
    body = body.as_original().simplify(SHORT)
    points = np.asarray(body.to_mesh().vert_properties[:, :2], float)
    turns = np.radians(np.arange(0.0, 180.0, _TURN))
    across = np.outer(points[:, 0], np.cos(turns)) - np.outer(points[:, 1], np.sin(turns))
    along = np.outer(points[:, 0], np.sin(turns)) + np.outer(points[:, 1], np.cos(turns))
    # How much of the bed it takes, the fuller way: as it stands where that fits, else the least turned that does.
    taken = np.maximum(np.ptp(across, axis=0) / printer.width, np.ptp(along, axis=0) / printer.depth) / 1000
    able = np.flatnonzero(taken <= 1.0)
    stood = body.rotate((0.0, 0.0, float(np.degrees(turns[int(able[0]) if len(able) else int(np.argmin(taken))]))))
    stood = sound(stood)
    bounds = np.asarray(stood.bounding_box(), float)
    size = bounds[3:] - bounds[:3]
    room = 1000 * np.array([printer.width, printer.depth, printer.height - printer.clear])
    return stood.translate((-bounds[:3]).tolist()), bool(np.all(size <= room + 1e-3))
