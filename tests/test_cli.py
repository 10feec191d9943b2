import json
import subprocess
import sys

import pytest

from ridgeline.engine.pipeline import evaluate
from ridgeline.engine.register import REGISTER
from ridgeline.start import main


def run(capsys, *words):
    status = main(words)
    out, err = capsys.readouterr()
    return status, out, err


def test_figures_as_json_follow_the_contract(capsys, whimbrel):
    status, out, err = run(capsys, "figures", "demo:whimbrel", "--json")
    assert status == 0 and err == ""
    data = json.loads(out)
    report = evaluate(whimbrel)
    assert set(data) == {"figures", "findings"}
    for key, row in data["figures"].items():
        assert {"value", "low", "high", "unit", "label"} <= set(row)
        if not key.startswith("throw."):
            assert row["value"] == report.value(key)
    # What has to be flown for is flown by the command line.
    assert data["figures"]["throw.lowest_height"]["value"] == pytest.approx(1.7, abs=0.01)
    odds = data["figures"]["throw.odds_climb"]
    assert 0.8 < odds["value"] <= 1.0 and odds["low"] < odds["value"]
    assert data["figures"]["wing.mac"]["unit"] == "m"
    assert data["figures"]["mass.group.battery"]["value"] == pytest.approx(0.178)
    for row in data["findings"]:
        assert {"key", "level", "text", "remedies"} <= set(row)


@pytest.mark.parametrize(
    ("edit", "key", "value"),
    [
        ("parts[0].x=0.200", "balance.cg_x", None),
        ("surfaces[0].stations[0].chord=218 mm", "wing.area", 0.25594),
        ("brief.ceiling=30 oz", "mass.ceiling", 0.85048569),
        ("brief.purpose=sport", "mass.ceiling", 0.85),
        ("parts[0].weighed=none", "mass.auw", None),
        ("power.pack.cells=2", "power.static_thrust", None),
    ],
)
def test_set_edits_before_evaluating_with_any_unit(capsys, edit, key, value):
    status, out, _err = run(capsys, "figures", "demo:whimbrel", "--set", edit, "--json", "--no-throw")
    assert status == 0
    found = json.loads(out)["figures"][key]["value"]
    if value is not None:
        assert found == pytest.approx(value, rel=1e-6)
    else:
        plain = json.loads(run(capsys, "figures", "demo:whimbrel", "--json", "--no-throw")[1])["figures"][key]["value"]
        assert found != plain


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (("figures", "demo:pelican"), "demo:whimbrel"),
        (("figures", "nowhere.ridge"), "no such file"),
        (("figures",), "a .ridge file or demo:NAME"),
        (("figures", "demo:whimbrel", "--set", "surfaces[0].stations[0].chord=12 bananas"), "12 bananas"),
        (("figures", "demo:whimbrel", "--set", "surfaces[0].stations[0].chord=-0.1"), "0.001 m or more"),
        (("figures", "demo:whimbrel", "--set", "surfaces[0].stations[0].chord=nan"), "nan"),
        (("figures", "demo:whimbrel", "--set", "surfaces[7].x=1"), "[0] to [1]"),
        (("figures", "demo:whimbrel", "--set", "chord"), "PATH=VALUE"),
        (("figures", "demo:whimbrel", "--set", "parts[0].count=1.5"), "a whole number"),
        (("open", "demo:whimbrel", "--sheet", "hangar"), "brief, shape, shape.solid"),
        (("open", "demo:whimbrel", "--shot", "x.png", "--size", "big"), "WIDTHxHEIGHT"),
        (("nowhere.ridge",), "no such file"),
    ],
)
def test_bad_input_exits_2_with_one_line_that_says_what_was_understood_and_allowed(capsys, words, said):
    status, out, err = run(capsys, *words)
    assert status == 2 and out == ""
    assert err.count("\n") == 1 and said in err and "understood" in err and "allowed" in err


def test_the_list_is_the_register(capsys):
    listed = json.loads(run(capsys, "figures", "--list", "--json")[1])
    assert set(REGISTER) <= set(listed)
    plain = run(capsys, "figures", "--list")[1]
    assert all(key in plain for key in REGISTER)


def test_plain_figures_show_bands_units_and_findings(capsys):
    out = run(capsys, "figures", "demo:whimbrel", "--no-throw")[1]
    assert "759 g −51 +60" in out and "[look]" in out


def test_check_exits_1_only_when_a_finding_says_stop(capsys):
    assert run(capsys, "check", "demo:whimbrel")[0] == 0
    status, out, _err = run(capsys, "check", "demo:whimbrel", "--set", "brief.ceiling=0.6")
    assert status == 1 and "[stop]" in out


def test_figures_never_import_qt_and_neither_do_engine_design_and_files():
    code = (
        "import sys; from ridgeline.cli import main; main(['figures', 'demo:whimbrel']); "
        "import ridgeline.engine.sizing.layout, ridgeline.files.desk_memory, ridgeline.engine.advice.sensitivity; "
        "bad = [m for m in sys.modules if 'PySide6' in m or 'shiboken' in m]; sys.exit(7 if bad else 0)"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, timeout=120)
    assert done.returncode == 0, done.stderr


def test_figures_import_nothing_that_only_templates_need():
    heavy = ("shapely", "manifold3d", "trimesh", "lib3mf", "ezdxf", "reportlab", "spyrrow")
    code = (
        "import sys; from ridgeline.cli import main; main(['figures', 'demo:whimbrel']); "
        f"bad = [m for m in {heavy} if m in sys.modules]; print(bad, file=sys.stderr); sys.exit(7 if bad else 0)"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, timeout=120)
    assert done.returncode == 0, done.stderr[-200:]
