"""The solid for the eye: closed skins, outward faces, and a view that turns without distorting."""

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.design.airframe import Body, BodyStation, Station, Surface
from ridgeline.engine.aero.sections import section_of
from ridgeline.engine.geometry.solid import body_skins, skins_of, surface_skins, view, volume_of
from ridgeline.files.design_file import load
from ridgeline.library import demo_names
from strategies import designs


def edges_of(skin):
    found = {}
    for face in skin.faces:
        for a, b in zip(face, np.roll(face, -1), strict=True):
            found[(a, b)] = found.get((a, b), 0) + 1
    return found


@pytest.mark.parametrize("name", demo_names())
def test_every_skin_is_closed_and_looks_outward(name):
    for skin in skins_of(load(f"demo:{name}")):
        edges = edges_of(skin)
        assert all(edges.get((b, a)) == count for (a, b), count in edges.items()), skin.part
        assert volume_of(skin) > 0, skin.part


def test_a_plain_wing_encloses_its_sections_area_times_its_span():
    wing = Surface(
        name="w", role="wing", section="symmetrical", thickness=0.02,
        stations=(Station(y=0, chord=0.2), Station(y=0.5, chord=0.2)),
    )  # fmt: skip
    x, z = section_of(wing).outline.T
    area = 0.5 * abs(np.dot(x, np.roll(z, 1)) - np.dot(z, np.roll(x, 1))) * 0.2**2
    starboard, port = surface_skins(wing)
    assert volume_of(starboard) == pytest.approx(0.5 * area, rel=0.03)
    assert volume_of(port) == pytest.approx(volume_of(starboard))


@pytest.mark.parametrize(("rounding", "share"), [(1.0, math.pi / 4), (0.0, 1.0)])
def test_a_body_encloses_a_box_or_an_ellipse(rounding, share):
    rows = (BodyStation(x=0, width=0.1, height=0.06), BodyStation(x=1, width=0.1, height=0.06))
    (skin,) = body_skins(Body(name="b", rounding=rounding, stations=rows))
    assert volume_of(skin) == pytest.approx(share * 0.006, rel=0.04)


@given(designs(), st.floats(-7, 7), st.floats(-1.5, 1.5))
def test_any_design_is_seen_from_anywhere_without_a_fault(design, turn, tilt):
    picture = view(skins_of(design), turn, tilt)
    assert np.isfinite(picture.faces).all()
    assert ((picture.light >= 0) & (picture.light <= 1)).all()
    assert len(picture.parts) == len(picture.faces)


def test_turning_the_eye_half_round_mirrors_a_symmetric_aircraft(whimbrel):
    skins = skins_of(whimbrel)
    one, other = (view(skins, turn, 0.5) for turn in (0.7, -0.7))
    assert one.faces[..., 0].min() == pytest.approx(-other.faces[..., 0].max())
    assert one.faces[..., 1].min() == pytest.approx(other.faces[..., 1].min())


def test_from_above_the_span_is_true_to_scale(whimbrel):
    picture = view(skins_of(whimbrel), 0.0, math.radians(89.9))
    assert np.ptp(picture.faces[..., 0]) == pytest.approx(1.28, rel=1e-3)
