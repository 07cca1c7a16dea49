"""The command line as a script uses it: JSON out, exit 2 and one or two lines for bad input, nothing heavy."""

from __future__ import annotations

import json
import os
import subprocess
import sys

import pytest
from click.testing import CliRunner

from aretane import planning_bench, simulator_bench
from aretane.cli import commands
from aretane.settings import ROOT
from aretane.store.private_server import PrivateServer
from tests.conftest import DEMO
from tests.formats.test_formats import LAYOUT


def aretane(*arguments, **environment):
    return subprocess.run(
        [sys.executable, ROOT / "aretane", *map(str, arguments)],
        capture_output=True, text=True, check=False, env={**os.environ, **environment}, timeout=120,
    )  # fmt: skip


@pytest.fixture
def layout_file(tmp_path):
    path = tmp_path / "layout.json"
    path.write_text(json.dumps(LAYOUT))
    return path


def test_read_answers_in_json_when_piped(layout_file):
    done = aretane("read", layout_file)
    assert (done.returncode, done.stderr) == (0, "")
    answer = json.loads(done.stdout)
    assert len(answer["shots"]) == 12
    assert aretane("read", layout_file, "--json").stdout == done.stdout


def test_referee_rules_on_the_demo():
    done = aretane("referee", DEMO / "matches" / "nine-ball.json")
    assert done.returncode == 0
    assert json.loads(done.stdout)["racks"][-1]["score"] == {"A": 5, "B": 4}


def refused(done):
    assert done.returncode == 2
    assert done.stdout == ""
    assert 1 <= len(done.stderr.strip().splitlines()) <= 2
    assert "Traceback" not in done.stderr
    return done.stderr


def test_help_lists_the_commands():
    for asked in ([], ["--help"]):
        done = aretane(*asked)
        assert done.returncode == 0
        assert all(command in done.stdout for command in ("demo", "serve", "read", "simulate", "import"))


def test_the_bench_prints_the_promised_keys(monkeypatch):
    """With one ball and fewer shots than when it is asked for."""
    rack = planning_bench._rack
    monkeypatch.setattr(planning_bench, "_rack", lambda balls, seed: rack(min(balls, 1), seed))
    for name, few in (("LAYOUTS", 2), ("SHOTS", 20), ("ROUNDS", 1), ("THREAD_SHOTS", 100)):
        monkeypatch.setattr(simulator_bench, name, few)
    monkeypatch.setattr(simulator_bench, "_start", lambda environment: 1.0)
    answer = json.loads(CliRunner().invoke(commands, ["bench", "--json"], catch_exceptions=False).stdout)
    assert {"machine", "cases", "timings", "warm_start_s", "cold_start_s"} <= set(answer)
    assert all(timing["seconds"] > 0 for timing in answer["timings"])
    names = [case["name"] for case in answer["cases"]]
    assert names[:4] == ["two balls", "seven balls", "snooker 12 balls", "15-ball break"]
    for case in answer["cases"]:
        assert {"name", "per_second", "events_p99", "capped"} <= set(case)
        assert case["per_second"] > 0
        assert case["capped"] is False
    assert answer["workspace_bytes"] < 100_000


@pytest.fixture
def stroke_file(tmp_path):
    path = tmp_path / "stroke.json"

    def write(**stroke):
        path.write_text(json.dumps(stroke))
        return path

    return write


PROMISED = {
    "potted", "off_table", "first_contact", "rails_after_contact", "cue_rails", "scratch", "duration", "events",
    "capped", "final",
}  # fmt: skip


def test_simulate_answers_and_its_final_layout_is_read_again(layout_file, stroke_file, tmp_path):
    stroke = stroke_file(at="3", pocket="foot-left", speed=2.5, height=-0.3)
    done = aretane("simulate", layout_file, stroke)
    assert (done.returncode, done.stderr) == (0, "")
    answer = json.loads(done.stdout)
    assert set(answer) >= PROMISED
    assert [answer["potted"][0][key] for key in ("ball", "pocket")] == ["3", "foot-left"]
    assert answer["first_contact"] == "3"
    assert {"t", "kind", "balls"} <= set(answer["events"][0])
    path = tmp_path / "final.json"
    path.write_text(json.dumps(answer["final"]))
    assert aretane("read", path).returncode == 0


def test_samples_repeat_and_never_change_the_noiseless_part(here, layout_file, stroke_file):
    stroke = stroke_file(aim=0.7, speed=2.0)
    plain = json.loads(here("simulate", layout_file, stroke).stdout)
    with_samples = ("simulate", layout_file, stroke, "--samples", "300", "--player", "league", "--seed", "4")
    one, two = (here(*with_samples) for _ in range(2))
    assert one.stdout == two.stdout
    answer = json.loads(one.stdout)
    assert {key: answer[key] for key in plain} == plain
    assert answer["pot"]["n"] == answer["scratch_rate"]["n"] == 300
    assert len(answer["landing"]) <= 300


def test_a_shot_that_cannot_be_played_is_one_line_that_names_the_field(here, layout_file, stroke_file, tmp_path):
    for stroke, field in (
        ({"at": "7", "pocket": "foot-left", "speed": 2}, "at"),
        ({"at": "3", "pocket": "head-right", "speed": 2}, "at"),
        ({"aim": 0, "speed": -2}, "speed"),
        ({"aim": 0, "speed": 2, "side": 1.2}, "side"),
        ({"aim": 0, "speed": float("nan")}, "speed"),
        ({"aim": 0, "speed": 2, "place": [9, 9]}, "place"),
        ({"speed": 2}, "aim"),
        ([], "file"),
    ):
        path = tmp_path / "stroke.json"
        path.write_text(json.dumps(stroke))
        assert refused(here("simulate", layout_file, path)).startswith(f"error: {field}:")
    good = stroke_file(aim=0, speed=2)
    assert "--player" in refused(here("simulate", layout_file, good, "--player", "wizard"))
    refused(here("simulate", layout_file, good, "--samples", "-1"))
    hand = tmp_path / "hand.json"
    hand.write_text('{"aim_deg": 0.4, "speed": 0.1, "side": 0.05}')
    assert "height" in refused(here("simulate", layout_file, good, "--samples", "5", "--player", hand))


def test_a_miscue_and_ball_in_hand(here, layout_file, stroke_file, tmp_path):
    answer = json.loads(here("simulate", layout_file, stroke_file(aim=0, speed=2, side=0.6)).stdout)
    assert answer["miscue"] is True
    in_hand = tmp_path / "hand.json"
    in_hand.write_text(json.dumps({**LAYOUT, "balls": {"3": [1.31, 0.96]}, "state": {"ball_in_hand": "anywhere"}}))
    assert "place" in refused(here("simulate", in_hand, stroke_file(aim=0, speed=1)))
    stroke = stroke_file(at="3", pocket="foot-left", speed=2, place=[0.9, 0.7])
    assert json.loads(here("simulate", in_hand, stroke).stdout)["potted"][0]["ball"] == "3"


def test_bad_input_is_one_line_that_names_the_field(here, tmp_path):
    path = tmp_path / "bad.json"
    path.write_text(json.dumps({**LAYOUT, "balls": {"cue": [0.6, 0.4], "3": [0.61, 0.4]}}))
    assert "balls.3" in refused(here("read", path))
    path.write_text("{")
    assert "JSON" in refused(here("read", path))
    assert "nothing.json" in refused(here("read", tmp_path / "nothing.json"))
    refused(here("read"))
    refused(here("juggle"))
    refused(here("read", path, "--loud"))
    refused(here("read", tmp_path))


def test_an_impossible_shot_is_named(tmp_path):
    match = json.loads((DEMO / "matches" / "nine-ball.json").read_text())
    match["racks"][0]["shots"][1]["player"] = "B"
    path = tmp_path / "match.json"
    path.write_text(json.dumps(match))
    said = refused(aretane("referee", path))
    assert "racks[0].shots[1]" in said
    assert "order of play" in said


def test_reading_loads_nothing_heavy(layout_file):
    code = (
        "import sys; from aretane.cli import main; sys.argv = ['aretane', 'read', sys.argv[1]]; main();"
        "heavy = {'numba', 'scipy', 'cv2', 'flask', 'pymysql', 'av', 'numpy'};"
        "print(sorted(heavy & set(sys.modules)), file=sys.stderr)"
    )
    done = subprocess.run(
        [sys.executable, "-c", code, str(layout_file)],
        capture_output=True, text=True, check=True, env={**os.environ, "PYTHONPATH": str(ROOT / "src")},
    )  # fmt: skip
    assert done.stderr.strip() == "[]"


def test_import_and_export_through_a_store_of_its_own(tmp_path, request):
    where = {"ARETANE_VAR": str(tmp_path)}
    imported = aretane("import", DEMO / "matches" / "nine-ball.json", **where)
    assert imported.returncode == 0, imported.stderr
    (game,) = json.loads(imported.stdout)["imported"]
    running = PrivateServer(tmp_path / "database")  # the commands that follow find it
    request.addfinalizer(running.stop)
    running.ensure()
    exported = aretane("export", game, "--as", "json", **where)
    assert json.loads(exported.stdout) == json.loads((DEMO / "matches" / "nine-ball.json").read_text())
    by_title = aretane("export", "Winter ladder", **where)
    assert by_title.stdout == exported.stdout
    assert "matches are called" in refused(aretane("export", "Summer", **where))
    assert "mysql://" in refused(aretane("export", "x", ARETANE_DATABASE_URL="postgres://here", **where))
    broken = tmp_path / "broken.json"
    broken.write_text("{}")
    assert str(broken) in refused(aretane("import", DEMO / "matches" / "nine-ball.json", broken, **where))
    assert aretane("export", "Winter ladder", **where).returncode == 0  # still one match of that title
