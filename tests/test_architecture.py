"""Imports run one way: web and cli to the desk, that to jobs, store, formats and vision, and those to core."""

from __future__ import annotations

import ast
import re
from graphlib import TopologicalSorter

import pytest

from aretane.core.rules.traits import TRAITS
from aretane.settings import ROOT

SOURCE = ROOT / "src" / "aretane"
ALLOWED = {
    "core": {"core"},
    "vision": {"core", "vision"},
    "formats": {"core", "formats"},
    "store": {"core", "store"},
    "draw": {"core", "draw"},
    "jobs": {"core", "store", "jobs"},
    "desk": {"core", "formats", "store", "vision", "draw", "jobs", "desk", "settings"},
}
# Types that a page passes on
PLAIN = ("scope", "changes", "database", "club", "games", "shot_figures", "practice", "plans", "riddles", "files")
FORBIDDEN_IN_CORE = {"flask", "pymysql", "cv2", "av", "pathlib", "os", "time", "datetime", "sqlite3"}


def imported(path):
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            yield from (alias.name for alias in node.names)
        elif isinstance(node, ast.ImportFrom) and node.module:
            yield node.module


@pytest.mark.parametrize("package", ALLOWED)
def test_a_package_imports_only_what_lies_below_it(package):
    for path in (SOURCE / package).rglob("*.py"):
        for name in imported(path):
            if name.startswith("aretane."):
                assert name.split(".")[1] in ALLOWED[package], f"{path.name} imports {name}"


def test_core_has_no_interface_no_sql_no_files_and_no_clock():
    for path in (SOURCE / "core").rglob("*.py"):
        assert not FORBIDDEN_IN_CORE & {name.split(".")[0] for name in imported(path)}, path.name


def test_the_desk_has_no_pages_and_no_sql():
    for path in (SOURCE / "desk").rglob("*.py"):
        assert not {"flask", "apiflask", "pymysql"} & {name.split(".")[0] for name in imported(path)}, path.name
        text = path.read_text()
        assert not any(word in text for word in ("SELECT ", "UPDATE ", "INSERT ", "DELETE FROM")), path.name


def test_pages_ask_the_desk_alone():
    """Of the store a page knows for whom it asks and what a change is, never how rows are found."""
    for path in (SOURCE / "web").rglob("*.py"):
        asked = {name for name in imported(path) if name.startswith("aretane.store")}
        assert asked <= {f"aretane.store.{one}" for one in PLAIN}, f"{path.name}: {asked}"


def test_disciplines_are_told_apart_by_their_traits_and_outlooks_answer_for_themselves():
    """Outside of the rules nobody compares a discipline's name, or asks for the kind of an outlook."""
    names = set(TRAITS)
    for path in SOURCE.rglob("*.py"):
        if "rules" in path.parts:
            continue
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Compare):
                told = {one.value for one in ast.walk(node) if isinstance(one, ast.Constant)}
                assert not told & names, f"{path.name}, line {node.lineno}"
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "isinstance":
                assert not ast.unparse(node.args[1]).endswith("Outlook"), f"{path.name}, line {node.lineno}"


def test_no_file_grows_beyond_a_sitting():
    for path in [*SOURCE.rglob("*.py"), *(ROOT / "frontend" / "src").rglob("*.ts*")]:
        if path.name != "api.d.ts":
            assert len(path.read_text().splitlines()) <= 500, path.name


def test_kernels_are_kept_by_the_source_that_they_came_from():
    """The compiler's own cache looks at one file only; a change in another would go unnoticed."""
    import numba

    import aretane.core.physics.play

    assert aretane.core.physics.play
    assert str(ROOT / "var" / "kernels") in str(numba.config.CACHE_DIR)
    assert not list((SOURCE / "core").rglob("*.nbi"))


def python_imports():
    """Every module with those that it imports, also for its types only."""
    paths = {
        ".".join(path.relative_to(ROOT / "src").with_suffix("").parts): path
        for path in SOURCE.rglob("*.py")
        if path.parent.name != "migrations"
    }
    found = {}
    for name, path in paths.items():
        reached = set()
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.ImportFrom) and node.module:
                own = {f"{node.module}.{alias.name}" for alias in node.names} & paths.keys()
                reached |= own or {node.module} & paths.keys()
        found[name] = reached - {name}
    return found


def page_imports():
    front = ROOT / "frontend" / "src"
    found = {}
    for path in front.rglob("*.ts*"):
        text = path.read_text()
        reached = set()
        for told in re.findall(r"""(?:from|import) ["'](\.[^"']+)["']""", text):
            base = (path.parent / told).resolve()
            reached |= {
                one for suffix in (".ts", ".tsx", ".d.ts") if (one := base.with_name(base.name + suffix)).is_file()
            }
        found[path] = reached - {path}
    return found


@pytest.mark.parametrize("graph", [python_imports, page_imports])
def test_no_module_leads_back_to_itself(graph):
    """Neither at run time nor for types: what belongs together stands together."""
    TopologicalSorter(graph()).prepare()
