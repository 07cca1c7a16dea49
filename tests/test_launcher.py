"""The launcher: what it installs, what it skips, and what it says when it cannot go on."""

from __future__ import annotations

import subprocess
from importlib.machinery import SourceFileLoader
from importlib.util import module_from_spec, spec_from_loader
from types import SimpleNamespace

import pytest

from aretane.settings import ROOT


@pytest.fixture
def launcher(monkeypatch, tmp_path):
    loader = SourceFileLoader("launcher", str(ROOT / "aretane"))
    module = module_from_spec(spec_from_loader("launcher", loader))
    loader.exec_module(module)
    monkeypatch.setattr(module, "SETUP_LOG", tmp_path / "log" / "setup.log")
    return module


@pytest.fixture
def ran(launcher, monkeypatch):
    """Commands that the launcher would run, instead of running them."""
    commands: list[list[str]] = []

    def run(command, **_):
        commands.append([str(part) for part in command])
        return SimpleNamespace(returncode=0, stdout="v20.1.0\n")

    monkeypatch.setattr(launcher.subprocess, "run", run)
    return commands


def test_without_root_one_line_names_the_missing_packages(launcher, monkeypatch, ran):
    monkeypatch.setattr(launcher.os, "getuid", lambda: 1000)
    monkeypatch.setattr(launcher, "found", lambda program: False)
    monkeypatch.delenv("ARETANE_DATABASE_URL", raising=False)
    with pytest.raises(launcher.Stop, match="As root: apt-get install mariadb-server chromium"):
        launcher.database_packages(launcher.Progress(False), chromium=True)
    assert ran == []


def test_as_root_they_are_installed(launcher, monkeypatch, ran):
    monkeypatch.setattr(launcher.os, "getuid", lambda: 0)
    monkeypatch.setattr(launcher.shutil, "which", lambda name: "/usr/bin/apt-get" if name == "apt-get" else None)
    monkeypatch.setattr(launcher, "found", lambda program: program != "mariadbd")
    monkeypatch.delenv("ARETANE_DATABASE_URL", raising=False)
    launcher.database_packages(launcher.Progress(False), chromium=True)
    assert [command[:2] for command in ran] == [["apt-get", "update"], ["apt-get", "install"]]
    assert ran[1][-1] == "mariadb-server"


def test_another_database_needs_no_mariadb_here(launcher, monkeypatch, ran):
    monkeypatch.setattr(launcher, "found", lambda program: False)
    monkeypatch.setenv("ARETANE_DATABASE_URL", "mysql://a:b@c/d")
    launcher.database_packages(launcher.Progress(False), chromium=False)
    assert ran == []


def test_finished_steps_are_skipped_until_what_they_were_made_from_changes(launcher, monkeypatch, tmp_path, ran):
    env = tmp_path / "python"
    (env / "bin").mkdir(parents=True)
    (env / "bin" / "python").touch()
    (env / "bin" / "uv").touch()
    monkeypatch.setattr(launcher, "ENV", env)
    monkeypatch.setattr(launcher, "PYTHON", env / "bin" / "python")
    progress = launcher.Progress(False)
    launcher.python_packages(progress, test=False)
    assert len(ran) == 1
    launcher.python_packages(progress, test=False)
    assert len(ran) == 1
    (env / ".requirements").write_text("made from something older")
    launcher.python_packages(progress, test=False)
    assert len(ran) == 2
    assert "--require-hashes" in ran[1]


def test_a_full_disk_is_said_before_it_is_hit(launcher, monkeypatch):
    monkeypatch.setattr(launcher.shutil, "disk_usage", lambda _: SimpleNamespace(free=1_000_000_000))
    with pytest.raises(launcher.Stop, match=r"1\.0 GB free"):
        launcher.check_room()


def test_an_old_node_is_named(launcher, monkeypatch):
    monkeypatch.setattr(launcher.shutil, "which", lambda name: f"/usr/bin/{name}")
    answer = SimpleNamespace(stdout="v18.19.0\n")
    monkeypatch.setattr(launcher.subprocess, "run", lambda *_, **__: answer)
    with pytest.raises(launcher.Stop, match=r"Node\.js 20"):
        launcher.check_node()


def test_a_failed_step_says_its_last_words_and_where_the_log_is(launcher):
    progress = launcher.Progress(False)
    with pytest.raises(launcher.Stop, match=r"Trying failed: error: no such thing .*setup\.log"):
        progress.run("Trying", ["sh", "-c", "echo error: no such thing >&2; exit 3"])


def test_quiet_commands_keep_set_up_out_of_their_output(launcher, capsys):
    launcher.Progress(False).say("Installing")
    assert capsys.readouterr() == ("", "")
    launcher.Progress(True).say("Installing")
    assert capsys.readouterr().out == "Installing\n"


def test_no_file_names_a_registry_or_a_place_on_a_machine():
    tracked = subprocess.run(["git", "ls-files", "-z"], cwd=ROOT, capture_output=True, text=True, check=True).stdout
    for name in filter(None, tracked.split("\0")):
        if name.endswith((".txt", ".json", ".toml", ".npmrc", "aretane")):
            text = (ROOT / name).read_text()
            for host in ("pypi" + ".org", "registry.npmjs" + ".org", "files.python" + "hosted"):
                assert host not in text, f"{name} names {host}"
            assert '"resolved":' not in text, name
