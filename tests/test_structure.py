"""The direction of imports, the shipped tables and the published schema."""

import ast
import json
from pathlib import Path

import pytest

from ridgeline.design.document import Design
from ridgeline.design.power import Motor
from ridgeline.errors import DesignError
from ridgeline.library import shipped_shelf
from ridgeline.library.tables import read_table

ROOT = Path(__file__).resolve().parents[1]
SOURCE = ROOT / "src" / "ridgeline"

#: What each part may import from; anything else of ridgeline is the wrong way round.
MAY_IMPORT = {
    "design": {"design", "errors", "units", "typed"},
    "engine": {"engine", "design", "errors", "units", "typed"},
    "library": {"library", "design", "errors", "typed"},
    "files": {"files", "engine", "library", "design", "errors", "typed"},
    "standins": {"standins", "design", "errors"},
    "desk": {"desk", "files", "engine", "library", "standins", "design", "errors", "units", "typed", "ratios"},
}


def imported(path):
    for node in ast.walk(without_types(ast.parse(path.read_text("utf-8")))):
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom) and node.module:
            yield node.module


def without_types(tree):
    """Leave out what is imported for the type checker alone."""

    class Bare(ast.NodeTransformer):
        def visit_If(self, node):
            return None if getattr(node.test, "id", "") == "TYPE_CHECKING" else self.generic_visit(node)

    return Bare().visit(tree)


def modules(typed=False):
    """Return every module by its name, with the modules of ours that it imports, wherever in it that stands.

    ``typed`` counts what is imported for the type checker alone, too.
    """
    paths = {}
    for path in SOURCE.rglob("*.py"):
        dotted = ".".join(("ridgeline", *path.relative_to(SOURCE).with_suffix("").parts))
        paths[dotted.removesuffix(".__init__")] = path
    found = {}
    for name, path in paths.items():
        wanted = set()
        tree = ast.parse(path.read_text("utf-8"))
        for node in ast.walk(tree if typed else without_types(tree)):
            if isinstance(node, ast.Import):
                wanted |= {alias.name for alias in node.names}
            elif isinstance(node, ast.ImportFrom) and node.module:
                inner = {f"{node.module}.{alias.name}" for alias in node.names}
                wanted |= {one if one in paths else node.module for one in inner}
        found[name] = {one for one in wanted if one in paths and one != name}
    return found


def test_no_module_imports_itself_round_a_circle():
    waiting = modules(typed=True)
    while free := [name for name, needs in waiting.items() if not needs & waiting.keys()]:
        for name in free:
            del waiting[name]
    assert not waiting


def test_advice_is_handed_what_evaluates_and_geometry_knows_no_aerodynamics():
    for name, needs in modules().items():
        if name.startswith("ridgeline.engine.advice"):
            assert "ridgeline.engine.pipeline" not in needs, name
        if name.startswith("ridgeline.engine.geometry"):
            assert not any(one.startswith("ridgeline.engine.aero") for one in needs), name
        if name == "ridgeline.cli":
            assert not any(one.startswith("ridgeline.desk") for one in needs)


@pytest.mark.parametrize("part", sorted(MAY_IMPORT))
def test_imports_point_one_way(part):
    for path in (SOURCE / part).rglob("*.py"):
        for name in imported(path):
            if name.startswith("ridgeline."):
                assert name.split(".")[1] in MAY_IMPORT[part], f"{path.name} imports {name}"


@pytest.mark.parametrize("part", ["design", "engine", "library", "files"])
def test_the_core_knows_no_window_and_the_engine_no_file_and_no_clock(part):
    banned = {"PySide6"} | ({"os", "time", "datetime", "pathlib", "io"} if part in ("design", "engine") else set())
    for path in (SOURCE / part).rglob("*.py"):
        assert not {name.split(".")[0] for name in imported(path)} & banned, path.name


def test_modules_stay_short_enough_to_have_one_subject():
    long = {p.name: n for p in SOURCE.rglob("*.py") if (n := len(p.read_text("utf-8").splitlines())) > 400}
    assert not long, long


def test_public_functions_of_the_engine_say_what_they_do():
    for path in (SOURCE / "engine").rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text("utf-8"))):
            if isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
                inside = any(node in ast.walk(parent) for parent in ast.walk(ast.parse("")))
                assert ast.get_docstring(node) or inside or _is_nested_or_property(path, node), (
                    f"{path.name}: {node.name}"
                )


def _is_nested_or_property(path, wanted):
    tree = ast.parse(path.read_text("utf-8"))
    for parent in ast.walk(tree):
        if isinstance(parent, ast.FunctionDef) and any(
            isinstance(child, ast.FunctionDef) and child.name == wanted.name
            for child in ast.walk(parent)
            if child is not parent
        ):
            return True
    return any(isinstance(d, ast.Name) and d.id == "property" for d in wanted.decorator_list)


def test_the_shipped_shelf_is_as_large_as_promised_and_named_by_class():
    shelf = shipped_shelf()
    assert [len(rows) >= n for rows, n in zip(shelf, (70, 120, 75, 28, 30, 20, 30), strict=True)] == [True] * 7
    assert max(p.diameter for p in shelf.propellers) == pytest.approx(36 * 0.0254)
    assert max(m.mass for m in shelf.motors) == pytest.approx(1.5)
    assert max(p.cells for p in shelf.packs) == max(e.max_cells for e in shelf.escs) == 12
    for rows in shelf:
        assert len({row.name for row in rows}) == len(rows)
    for pack in shelf.packs:
        if pack.capacity_ah >= 0.8 and "round" not in pack.name:
            assert 6.0 <= 1000 * pack.mass / (3.7 * pack.cells * pack.capacity_ah) <= 8.5
    for motor in (m for m in shelf.motors if m.kind == "brushless"):
        k = motor.kv_rpm_per_v * 3.14159265 / 30
        assert motor.resistance == pytest.approx(7 / (k**2 * motor.mass ** (5 / 3)), rel=0.05)


@pytest.mark.parametrize("name", ["motors", "propellers", "packs", "escs", "servos", "materials"])
def test_every_table_states_its_source(name):
    first = (SOURCE / "library" / f"{name}.csv").read_text("utf-8").splitlines()[0]
    assert first.startswith("# source: ") and len(first) > 30


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("name,mass_g\nA,1\n", "line 1"),
        (
            "# source: x\nname,kv_rpm_per_v,resistance_mohm,no_load_current_a,mass_g,max_current_a\nA,fast,1,1,1,1\n",
            "line 3",
        ),
        (
            "# source: x\nname,kv_rpm_per_v,resistance_mohm,no_load_current_a,mass_g,max_current_a\nA,-5,1,1,1,1\n",
            "10 rpm/V or more",
        ),
        ("# source: x\nname,kv_rpm_per_v\nA,1000\n", "this field to be present"),
    ],
)
def test_a_table_with_a_bad_row_is_refused_by_line(text, words):
    with pytest.raises(DesignError, match=words):
        read_table(text, Motor, "motors.csv")


#: Share of the public functions of the core that tell their parameters: it may only rise.
TOLD = 0.66


def test_public_functions_of_the_core_tell_their_parameters():
    told = public = 0
    for part in ("engine", "design"):
        for path in (SOURCE / part).rglob("*.py"):
            for node in ast.parse(path.read_text("utf-8")).body:
                if isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
                    public += 1
                    told += "Parameters\n------" in (ast.get_docstring(node) or "")
    assert told / public >= TOLD


def test_the_published_schema_is_that_of_the_code():
    published = json.loads((ROOT / "docs" / "design.schema.json").read_text("utf-8"))
    assert published == Design.model_json_schema(), "run tools/write_schema.py"


def test_the_format_page_names_every_field_of_the_design():
    page = (ROOT / "docs" / "format.md").read_text("utf-8")
    assert all(f"`{name}`" in page for name in Design.model_fields)
