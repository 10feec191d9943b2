"""The airframe as a solid for the eye: closed skins of surfaces and bodies, and a parallel view of them."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from ridgeline.design.airframe import Body, Surface, Wheel
from ridgeline.design.document import Design
from ridgeline.engine.geometry.placed import bent, mirrored, outline_over_chord, sections
from ridgeline.engine.geometry.section_outline import split

Array = NDArray[np.float64]
#: Chordwise places a skin is drawn at: enough for the nose to look round.
_ALONG = 0.5 * (1 - np.cos(np.linspace(0, np.pi, 11)))
_ROUND = 20


@dataclass(frozen=True)
class Skin:
    """One closed skin: corners (n, 3) in aircraft axes, m, and faces (f, 4) of corner numbers, outward by the right
    hand; ``part`` names what it is of.
    """

    part: str
    corners: Array
    faces: NDArray[np.int64]


def _tube(rings: Array, part: str) -> Skin:
    """Close a row of rings (k, m, 3) into a skin with caps at both ends."""
    k, m, _ = rings.shape
    here = np.arange(m)
    after = (here + 1) % m
    faces = [
        np.column_stack([r * m + here, r * m + after, (r + 1) * m + after, (r + 1) * m + here]) for r in range(k - 1)
    ]
    for ring, turn in ((0, -1), (k - 1, 1)):
        # A cap is folded across, pair by pair, so that every face has four corners.
        ids = ring * m + here[::turn]
        half = m // 2
        caps = [(ids[i], ids[i + 1], ids[m - 2 - i], ids[m - 1 - i]) for i in range(half - 1)]
        faces.append(np.array(caps))
    skin = Skin(part, rings.reshape(-1, 3), np.concatenate(faces).astype(np.int64))
    # Rings may run either way round: outward is the way that encloses a positive volume.
    return skin if volume_of(skin) >= 0 else Skin(part, skin.corners, skin.faces[:, ::-1].copy())


def surface_skins(surface: Surface) -> list[Skin]:
    """Return the skins of a surface, one for each side: its section at every station, turned by its angles.

    Parameters
    ----------
    surface : Surface

    Returns
    -------
    list of Skin
        One a side, in aircraft axes, m.
    """
    upper, lower = split(outline_over_chord(surface))

    def height(side: Array) -> Array:
        order = np.argsort(side[:, 0], kind="stable")
        result: Array = np.interp(_ALONG, side[order, 0], side[order, 1])
        return result

    loop_x = np.concatenate([_ALONG[::-1], _ALONG[1:-1]])
    loop_z = np.concatenate([height(upper)[::-1], height(lower)[1:-1]])
    starboard = sections(bent(surface), np.column_stack([loop_x, loop_z]))
    skins = [_tube(starboard, surface.name)]
    if surface.mirrored:
        skins.append(_tube(mirrored(starboard), surface.name))
    return skins


def body_skins(body: Body) -> list[Skin]:
    """Return the skins of a body: boxes and ellipses blended by its rounding."""
    theta = 2 * math.pi * (np.arange(_ROUND) + 0.5) / _ROUND
    c, s = np.cos(theta), np.sin(theta)
    # A superellipse: square for a box, round for an ellipse.
    powers = 0.15 + 0.85 * np.array(body.roundings)[:, None]
    y, z = np.sign(c) * np.abs(c) ** powers, np.sign(s) * np.abs(s) ** powers
    skins = []
    for side in (1.0, -1.0) if body.mirrored else (1.0,):
        rings = np.array(
            [
                np.column_stack(
                    [
                        np.full(_ROUND, st.x),
                        side * body.y + 0.5 * max(st.width, 1e-4) * y[k],
                        st.z + 0.5 * max(st.height, 1e-4) * z[k],
                    ]
                )
                for k, st in enumerate(body.sections)
            ]
        )
        skins.append(_tube(rings, body.name))
    return skins


def wheel_skins(wheel: Wheel) -> list[Skin]:
    """Return the skins of a wheel, a quarter as wide as it is high."""
    theta = 2 * math.pi * np.arange(_ROUND) / _ROUND
    r, half = 0.5 * wheel.diameter, 0.125 * wheel.diameter
    skins = []
    for side in (1.0, -1.0) if wheel.mirrored else (1.0,):
        ring = np.column_stack([wheel.x + r * np.cos(theta), np.zeros(_ROUND), wheel.z + r * np.sin(theta)])
        rings = np.array([ring + np.array([0.0, side * wheel.y + off, 0.0]) for off in (-half, half)])
        skins.append(_tube(rings, wheel.name))
    return skins


def leg_skins(wheel: Wheel) -> list[Skin]:
    """Return thin legs from under the body to the wheels."""
    if wheel.z >= 0:
        return []
    thin = 0.0025
    square = np.array([(-thin, -thin), (thin, -thin), (thin, thin), (-thin, thin)])
    skins = []
    for side in (1.0, -1.0) if wheel.mirrored else (1.0,):
        ends = ((0.35 * side * wheel.y, -0.01), (side * wheel.y, wheel.z))
        rings = np.array([np.column_stack([wheel.x + square[:, 0], y + square[:, 1], np.full(4, z)]) for y, z in ends])
        skins.append(_tube(rings, wheel.name))
    return skins


def skins_of(design: Design) -> list[Skin]:
    """Return every skin of a design."""
    found = [skin for surface in design.surfaces for skin in surface_skins(surface)]
    found += [skin for body in design.bodies for skin in body_skins(body)]
    return found + [skin for wheel in design.wheels for skin in (*wheel_skins(wheel), *leg_skins(wheel))]


def volume_of(skin: Skin) -> float:
    """Return the volume a skin encloses, m³, by the divergence theorem over its triangles.

    Parameters
    ----------
    skin : Skin
        Closed, outward.

    Returns
    -------
    float
        m³.
    """
    total = 0.0
    for a, b, c in ((0, 1, 2), (0, 2, 3)):
        p, q, r = (skin.corners[skin.faces[:, k]] for k in (a, b, c))
        total += float(np.einsum("ij,ij->", p, np.cross(q, r))) / 6
    return total


@dataclass(frozen=True)
class Picture:
    """Faces to paint, farthest first: corners (f, 4, 2) in metres right and down, and their light 0 to 1 (f,)."""

    faces: Array
    light: Array
    parts: tuple[str, ...]


def eye(turn: float, tilt: float) -> tuple[Array, Array, Array]:
    """Return the axes of a parallel view in aircraft axes: towards the eye, to its right, and up, each (3,).

    Parameters
    ----------
    turn : float
        How far the eye stands round from dead ahead to starboard, rad.
    tilt : float
        How far it looks down, rad.

    Returns
    -------
    ahead, right, up : ndarray
    """
    ahead = np.array([-math.cos(turn) * math.cos(tilt), math.sin(turn) * math.cos(tilt), math.sin(tilt)])
    right = np.array([-math.sin(turn), -math.cos(turn), 0.0])
    up = np.cross(right, -ahead)
    return ahead, right, up / np.linalg.norm(up)


def seen(points: Array, turn: float, tilt: float) -> Array:
    """Return where places, (n, 3), stand in a view, (n, 2): right and down, in their own unit."""
    _ahead, right, up = eye(turn, tilt)
    found: Array = np.column_stack([points @ right, -(points @ up)])
    return found


def view(skins: list[Skin], turn: float, tilt: float) -> Picture:
    """Return the faces of skins that look at the eye, in a parallel view.

    Parameters
    ----------
    turn : float
        How far the eye stands round from dead ahead to starboard, rad.
    tilt : float
        How far it looks down, rad.

    Source
    ------
    Faces sorted by their middle's depth (painter's algorithm); light from over the eye's left shoulder.
    """
    ahead, right, up = eye(turn, tilt)
    lamp = ahead + 0.9 * up - 0.5 * right
    lamp /= np.linalg.norm(lamp)
    quads, light, depth, parts = [], [], [], []
    for skin in skins:
        points = skin.corners[skin.faces]
        normal = np.cross(points[:, 2] - points[:, 0], points[:, 3] - points[:, 1])
        size = np.linalg.norm(normal, axis=1)
        shown = (normal @ ahead > 1e-12) & (size > 1e-14)
        points, normal = points[shown], normal[shown] / size[shown, None]
        quads.append(np.stack([points @ right, -(points @ up)], axis=-1))
        light.append(np.clip(0.35 + 0.65 * (normal @ lamp), 0.0, 1.0))
        depth.append(points.mean(axis=1) @ ahead)
        parts += [skin.part] * len(points)
    if not quads:
        return Picture(np.zeros((0, 4, 2)), np.zeros(0), ())
    order = np.argsort(np.concatenate(depth))
    return Picture(np.concatenate(quads)[order], np.concatenate(light)[order], tuple(parts[i] for i in order))
