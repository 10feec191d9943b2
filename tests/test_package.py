"""The wheel: what it promises to need, and that it opens a window where only the pinned packages are there."""

import os
import shutil
import subprocess
import sys
import sysconfig
import venv
import zipfile
from email import message_from_string
from pathlib import Path

import pytest
from packaging.requirements import Requirement
from packaging.version import Version

ROOT = Path(__file__).resolve().parents[1]
#: Run in the second environment: a window drawn, a sample evaluated, everything shipped found.
USE = """
import sys
from pathlib import Path
import ridgeline
assert Path(ridgeline.__file__).is_relative_to(sys.prefix), ridgeline.__file__
from ridgeline.start import main
assert main(["open", "demo:whimbrel", "--shot", sys.argv[1], "--size", "1100x700"]) == 0
from ridgeline.engine.pipeline import evaluate
from ridgeline.files.design_file import load
print(f"{evaluate(load('demo:whimbrel')).value('mass.auw'):.4f}")
"""


@pytest.fixture(scope="module")
def wheel(tmp_path_factory):
    """Build the wheel from a copy of what is shipped, without fetching anything."""
    tree = tmp_path_factory.mktemp("tree")
    for name in ("pyproject.toml", "README.md", "LICENSE", "NOTICE"):
        shutil.copy(ROOT / name, tree / name)
    shutil.copytree(ROOT / "src", tree / "src", ignore=shutil.ignore_patterns("__pycache__", "*.egg-info"))
    out = tmp_path_factory.mktemp("wheel")
    _run("wheel", "--no-deps", "--no-build-isolation", "--no-index", "--wheel-dir", out, tree)
    (made,) = out.glob("*.whl")
    return made


def _run(*words):
    command = [sys.executable, "-m", "pip", "--disable-pip-version-check", *map(str, words)]
    done = subprocess.run(command, capture_output=True, text=True)
    assert done.returncode == 0, done.stderr[-2000:]


@pytest.fixture(scope="module")
def metadata(wheel):
    with zipfile.ZipFile(wheel) as archive:
        name = next(n for n in archive.namelist() if n.endswith(".dist-info/METADATA"))
        return message_from_string(archive.read(name).decode("utf-8"))


def pins():
    lines = (ROOT / "constraints.txt").read_text("utf-8").split()
    return {
        name.lower().replace("_", "-"): Version(version) for name, _eq, version in (e.partition("==") for e in lines)
    }


def test_every_dependency_is_bound_below_and_above_and_the_pinned_version_lies_within(metadata):
    needs = [Requirement(words) for words in metadata.get_all("Requires-Dist")]
    needed = [n for n in needs if n.marker is None or "extra" not in str(n.marker)]
    assert {n.name.lower() for n in needed} >= {
        "pyside6-essentials",
        "numpy",
        "scipy",
        "pydantic",
        "pint",
        "platformdirs",
    }
    for need in needed:
        assert {"<", ">="} <= {spec.operator for spec in need.specifier}, str(need)
        if need.marker is None or need.marker.evaluate():
            assert need.specifier.contains(pins()[need.name.lower()]), str(need)


@pytest.mark.parametrize(("python", "sound"), [("3.11", False), ("3.12", True)])
def test_the_release_of_the_window_library_that_aborts_is_kept_out_where_it_does(metadata, python, sound):
    needs = [Requirement(words) for words in metadata.get_all("Requires-Dist")]
    held = [n for n in needs if n.name == "PySide6-Essentials" and n.marker.evaluate({"python_version": python})]
    assert len(held) == 1 and held[0].specifier.contains("6.11.3") and held[0].specifier.contains("6.12.0") is sound


def test_licence_author_and_notices_are_in_the_wheel(wheel, metadata):
    assert metadata["License-Expression"] == "MIT" and metadata["Author"] == "Ridgeline contributors"
    with zipfile.ZipFile(wheel) as archive:
        names = archive.namelist()
        assert {"LICENSE", "NOTICE", "OFL.txt"} <= {Path(n).name for n in names if ".dist-info/licenses/" in n}
        assert [n for n in names if n.endswith("B612-Regular.otf")] and [
            n for n in names if n.endswith("whimbrel.ridge")
        ]
        text = archive.read(next(n for n in names if n.endswith("licenses/NOTICE"))).decode()
    assert all(word in text for word in ("B612", "PySide6", "NumPy", "pydantic", "Pint", "platformdirs"))


def test_the_wheel_opens_a_window_in_an_environment_of_its_own(wheel, tmp_path):
    home = tmp_path / "env"
    venv.create(home, with_pip=False)
    python = home / "bin" / "python"
    packages = next(home.glob("lib/python*/site-packages"))
    # The second environment sees the pinned packages, but not this checkout: paths in a .pth are taken as they stand.
    (packages / "pinned.pth").write_text(sysconfig.get_paths()["purelib"] + "\n")
    _run("--python", python, "install", "--no-deps", "--no-index", "--ignore-installed", wheel)
    shot = tmp_path / "shot.png"
    environment = {k: v for k, v in os.environ.items() if k != "PYTHONPATH"} | {"QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run(
        [python, "-c", USE, shot], capture_output=True, text=True, env=environment, cwd=tmp_path, timeout=120
    )
    assert done.returncode == 0, done.stderr[-2000:]
    assert shot.stat().st_size > 20_000 and 0.5 < float(done.stdout) < 2.0
