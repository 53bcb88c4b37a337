"""The structure of the source: one tree, no circle, files that fit in the head. Contracts are import-linter's."""

import ast
import graphlib
from pathlib import Path

import grimp
import pytest

SOURCE = Path(__file__).resolve().parent.parent / "src" / "zinnet"
MOST_LINES, MOST_METHODS = 400, 20


def test_at_the_top_there_is_nothing_but_packages():
    assert sorted(path.name for path in SOURCE.glob("*.py")) == ["__init__.py", "__main__.py"]


def test_no_module_imports_itself_by_any_way():
    graph = grimp.build_graph("zinnet", cache_dir=None)
    imports = {name: graph.find_modules_directly_imported_by(name) for name in graph.modules}
    assert sum(map(len, imports.values())) > 2000
    order = list(graphlib.TopologicalSorter(imports).static_order())  # raises CycleError, which names the circle
    assert len(order) == len(imports)


def test_no_module_is_longer_than_fits_in_the_head():
    lines = {path: len(path.read_text(encoding="utf-8").splitlines()) for path in SOURCE.rglob("*.py")}
    assert {path.name: count for path, count in lines.items() if count > MOST_LINES} == {}


@pytest.mark.parametrize(("file", "name"), [("session", "Session"), ("window", "MainWindow")])
def test_session_and_window_do_little_themselves(file, name):
    tree = ast.parse((SOURCE / "ui" / f"{file}.py").read_text(encoding="utf-8"))
    (found,) = [node for node in tree.body if isinstance(node, ast.ClassDef) and node.name == name]
    public = [one.name for one in found.body if isinstance(one, ast.FunctionDef) and not one.name.startswith("_")]
    assert len(public) < MOST_METHODS
