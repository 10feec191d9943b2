"""Section coordinates: both orderings, the ways such files go wrong, and back again."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ridgeline.engine.aero.sections import FORMS, section
from ridgeline.errors import DesignError
from ridgeline.files.section_file import read_section, section_from_text, section_text

OUTLINE = section("semi_symmetrical", 0.12, 0.02).outline


def same(profile, outline=OUTLINE):
    return np.allclose(np.array(profile.points), outline, atol=6e-6)


@pytest.mark.parametrize("ordering", ["round", "blocks"])
@pytest.mark.parametrize("form", sorted(set(FORMS) - {"sharp_plate", "stepped_plate"}))
def test_what_is_written_reads_back_the_same_in_both_orderings(form, ordering, tmp_path):
    outline = section(form, 0.1, 0.02).outline
    path = tmp_path / "mine.dat"
    path.write_text(section_text("Mine", outline, ordering))
    found = read_section(path)
    assert found.profile.name == "Mine"
    assert found.ordering == ordering
    back = section("profile", profile=found.profile)
    straight = section(form, 0.1, 0.02)
    assert back.thickness == pytest.approx(straight.thickness, abs=1e-5)
    assert back.camber == pytest.approx(straight.camber, abs=1e-5)
    assert back.alpha_0 == pytest.approx(straight.alpha_0, abs=2e-4)


def rows(outline=OUTLINE, write="{:.6f} {:.6f}"):
    return [write.format(x, z) for x, z in outline]


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("\n".join(["Name", *rows()]), ""),
        ("\n".join(rows()), ""),
        ("\ufeffName\r\n" + "\r\n".join(rows()), ""),
        ("\n".join(["Name", *rows(100 * OUTLINE)]), "scaled to 1"),
        ("\n".join(["Name", *rows(OUTLINE * 0.2 + [0.3, 0.0])]), "scaled to 1"),
        ("\n".join(["Name", *rows(OUTLINE[::-1])]), "other way"),
        ("\n".join(["Name", *rows(write="{:.6f}, {:.6f}")]), ""),
        ("\n".join(["Name", *(row.replace(".", ",") for row in rows())]), ""),
        ("\n".join(["Name", *rows(write="{:.6f}\t{:.6f} # note")]), ""),
        ("\n".join(["Name", *rows()[:20], "here follows the rest", *rows()[20:]]), "line 22"),
        ("\n".join(["Name", *rows()[:20], *rows()[19:]]), "repeated"),
        ("\n".join(["Name", *rows(write="{:.6E} {:.6E}")]), ""),
    ],
    ids=["plain", "no name", "marked", "percent", "scaled", "reversed", "commas", "decimal commas", "tabs", "words",
         "twice", "exponents"],
)  # fmt: skip
def test_the_ways_such_files_are_written_all_give_the_same_section(text, said):
    found = section_from_text(text.removeprefix("\ufeff"), "file")
    assert same(found.profile)
    assert said in " ".join(found.report)
    assert bool(found.report) == bool(said)


def test_blocks_with_the_bottom_first_are_turned_round():
    upper, lower = OUTLINE[:41][::-1], OUTLINE[40:]
    text = "\n".join(["Name", "", *rows(lower), "", *rows(upper)])
    found = section_from_text(text, "file")
    assert same(found.profile) and "bottom came first" in found.report[0]


def test_counts_that_do_not_match_are_reported_and_the_points_win():
    text = section_text("Name", OUTLINE, "blocks").replace(" 41.0", " 40.0", 1)
    found = section_from_text(text, "file")
    assert same(found.profile) and "do not match" in " ".join(found.report)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "0 points"),
        ("Name\n1 0\n0 0\n1 0", "3 points"),
        ("\n".join(f"{x} 0" for x in np.linspace(1, 0, 9)), "without thickness"),
        ("\n".join("0.5 0.1" for _ in range(9)), "without length"),
        ("the minutes of a meeting\n" * 30, "0 points"),
        ("\n".join(rows(np.column_stack([OUTLINE[:, 0], 40 * OUTLINE[:, 1]]))), "far off"),
    ],
    ids=["empty", "three", "line", "dot", "words", "tall"],
)
def test_what_is_no_outline_is_refused_with_what_was_understood(text, said):
    with pytest.raises(DesignError) as caught:
        section_from_text(text, "file")
    assert said in str(caught.value)


def test_a_file_that_is_not_there_is_refused(tmp_path):
    with pytest.raises(DesignError, match="readable"):
        read_section(tmp_path / "none.dat")


@given(st.text(max_size=400))
def test_any_text_is_read_or_refused_and_nothing_else(text):
    try:
        found = section_from_text(text, "any")
    except DesignError:
        return
    assert np.isfinite(np.array(found.profile.points)).all()


@given(st.floats(0.03, 0.2), st.floats(0.5, 3.0), st.floats(-2, 2))
def test_place_and_size_in_the_file_do_not_matter(thickness, scale, shift):
    outline = section("flat_bottom", thickness, 0.02).outline
    text = section_text("Name", outline * scale + [shift, 0.0])
    assert np.allclose(np.array(section_from_text(text, "x").profile.points), outline, atol=5e-6)
