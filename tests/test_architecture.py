"""Imports run one way: web and cli to store, formats and vision, and those to core; core looks at nothing above."""

from __future__ import annotations

import ast

import pytest

from aretane.settings import ROOT

SOURCE = ROOT / "src" / "aretane"
ALLOWED = {
    "core": {"core"},
    "vision": {"core", "vision"},
    "formats": {"core", "formats"},
    "store": {"core", "store"},
    "jobs": {"core", "formats", "store", "vision", "jobs"},
}
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
