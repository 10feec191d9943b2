"""Whatever a design is written out as: by one row each, the same from the menu and from the command line."""

import csv
import io
import json

import pytest

from ridgeline.cli import main
from ridgeline.design.document import Design
from ridgeline.engine.pipeline import evaluate
from ridgeline.errors import DesignError
from ridgeline.files.exports import EXPORT, EXPORTS, Source, surface_called, text_of, write_export
from ridgeline.files.item_file import items_from_text
from ridgeline.files.section_file import section_from_text


@pytest.fixture(scope="module")
def source(request):
    from ridgeline.files.design_file import load

    design = load("demo:whimbrel")
    return Source(design, lambda: evaluate(design), surface_called(design))


@pytest.mark.parametrize("row", EXPORTS, ids=lambda row: row.key)
def test_every_row_writes_a_file_with_its_suffix_and_the_command_prints_the_same(row, source, tmp_path, capsys):
    path = write_export(row, tmp_path / "out", source)
    assert path.suffix == row.suffixes[0] and row.start(source).endswith(row.suffixes[0])
    assert all(f"*{suffix}" in row.kinds for suffix in row.suffixes)
    assert main(["export", row.key, "demo:whimbrel", "-"]) == 0
    assert capsys.readouterr().out == path.read_text("utf-8") == text_of(row, source)


def test_tables_and_sections_are_read_back(source):
    assert len(items_from_text(text_of(EXPORT["items"], source)).items) == len(source.design.parts)
    wing = source.surface
    assert wing.role == "wing"
    for key, ordering in (("section", "round"), ("section_halves", "blocks")):
        found = section_from_text(text_of(EXPORT[key], source), "wing")
        assert found.ordering == ordering and wing.name in found.profile.name


def test_the_table_of_figures_has_every_figure_with_its_band_or_why_not(source):
    rows = list(csv.DictReader(io.StringIO(text_of(EXPORT["figures"], source))))
    report = source.report()
    assert [row["key"] for row in rows] == list(report.figures)
    for row in rows:
        figure = report.figures[row["key"]]
        if figure.value is None:
            assert row["value"] == "" and row["why not"] == figure.why_not
        else:
            assert float(row["value"]) == pytest.approx(figure.value, rel=1e-8)
            assert float(row["low"]) <= float(row["value"]) <= float(row["high"])
    assert json.loads(text_of(EXPORT["report"], source))["figures"].keys() == report.figures.keys()


def test_a_surface_is_found_by_its_id_or_its_name(source):
    tail = source.design.surfaces[1]
    assert surface_called(source.design, tail.id) is tail and surface_called(source.design, tail.name) is tail
    with pytest.raises(DesignError, match=tail.id):
        surface_called(source.design, "Mudflat")


def test_a_section_of_nothing_is_refused_and_writes_nothing(tmp_path):
    empty = Source(Design(), lambda: evaluate(Design()), surface_called(Design()))
    with pytest.raises(DesignError, match="without surfaces"):
        write_export(EXPORT["section"], tmp_path / "none", empty)
    assert not list(tmp_path.iterdir())


def test_a_file_that_is_there_is_kept_unless_asked(tmp_path, capsys):
    place = tmp_path / "items.csv"
    place.write_text("mine")
    assert main(["export", "items", "demo:whimbrel", str(place)]) == 2
    assert place.read_text() == "mine" and "--overwrite" in capsys.readouterr().err
    assert main(["export", "items", "demo:whimbrel", str(place), "--overwrite"]) == 0
    assert place.read_text() != "mine"


def test_an_edit_comes_first_and_the_surface_can_be_named(capsys):
    assert main(["export", "figures", "demo:whimbrel", "-", "--set", "brief.ceiling=900 g"]) == 0
    rows = {row["key"]: row for row in csv.DictReader(io.StringIO(capsys.readouterr().out))}
    assert float(rows["mass.ceiling"]["value"]) == pytest.approx(0.9)
    assert main(["export", "section", "demo:whimbrel", "-", "--of", "V-tail"]) == 0
    assert "V-tail" in capsys.readouterr().out.splitlines()[0]


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (["export"], "one of items"),
        (["export", "mudmap", "demo:whimbrel", "-"], "mudmap"),
        (["export", "items", "demo:whimbrel"], "file name"),
        (["export", "section", "demo:whimbrel", "-", "--of", "Nose"], "Wing"),
    ],
)
def test_what_cannot_be_exported_is_said_in_one_line(words, said, capsys):
    assert main(words) == 2
    told = capsys.readouterr().err
    assert said in told and told.count("\n") == 1


def test_the_list_names_every_row(capsys):
    assert main(["export", "--list"]) == 0
    told = capsys.readouterr().out
    assert all(row.key in told and row.words in told for row in EXPORTS)
