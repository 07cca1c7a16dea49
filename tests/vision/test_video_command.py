"""`video render`, `video balls` and `video shots` as others script them, on a recording rendered for it."""

from __future__ import annotations

import json
import math
import os
import subprocess
import sys

import av
import pytest

from aretane.settings import ROOT
from tests.conftest import DEMO


def aretane(*arguments):
    command = [sys.executable, "-m", "aretane.cli", *map(str, arguments)]
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "src")}
    return subprocess.run(command, capture_output=True, text=True, env=environment, timeout=300)


@pytest.fixture(scope="module")
def film(tmp_path_factory):
    """Three shots of the eight-ball demo, small and few pictures, with its truth."""
    path = tmp_path_factory.mktemp("film") / "film.mp4"
    match = DEMO / "matches" / "nine-ball.json"
    done = aretane("video", "render", match, "-o", path, "--size", "854x480", "--rate", 5, "--shots", 3)
    assert done.returncode == 0, done.stderr
    return path, json.loads(path.with_suffix(".json").read_bytes()), json.loads(done.stdout)


def corners(told):
    return " ".join(f"{u},{v}" for u, v in told["corners"])


def test_a_rendered_recording_holds_its_shots_and_its_truth(film):
    path, truth, told = film
    assert told["shots"] == len(truth["shots"]) == 3
    with av.open(str(path)) as container:
        times = [frame.time for frame in container.decode(video=0)]
    assert times == sorted(times)
    assert times[-1] >= truth["shots"][-1]["still"]


def test_after_the_end_there_is_no_picture(film):
    path, truth, told = film
    end = truth["frames"][-1]["t"]
    late = aretane("video", "balls", path, "--at", end + 60, "--corners", corners(told))
    assert late.returncode == 2
    assert late.stderr.startswith("error: at: the recording's last picture is at ")


def test_the_balls_of_a_moment_are_where_the_truth_has_them(film):
    path, truth, told = film
    shot = truth["shots"][2]
    done = aretane("video", "balls", path, "--at", shot["start"] + 0.5, "--corners", corners(told))
    assert done.returncode == 0, done.stderr
    answer = json.loads(done.stdout)
    frame = next(one for one in truth["frames"] if one["t"] >= shot["start"] + 0.4)
    for place in frame["balls"].values():
        nearest = min(answer["balls"], key=lambda ball: math.dist((ball["x"], ball["y"]), place))
        assert math.dist((nearest["x"], nearest["y"]), place) < 0.03
    assert len(answer["balls"]) == len(frame["balls"])
    assert set(answer["balls"][0]) == {"id", "confidence", "x", "y", "sigma", "pixel", "racked"}
    assert answer["camera"]["error_px"] < 1
    assert answer["camera"]["focal_px"] == pytest.approx(truth["camera"]["focal"], rel=0.05)


def test_the_shots_are_found_with_their_times(film):
    path, truth, told = film
    done = aretane("video", "shots", path, "--corners", corners(told))
    assert done.returncode == 0, done.stderr
    answer = json.loads(done.stdout)
    assert answer["frames_per_second"] == pytest.approx(5, rel=0.05)
    assert len(answer["shots"]) == 3
    for found, true in zip(answer["shots"], truth["shots"], strict=True):
        assert found["start"] <= true["contact"] + 0.6
        assert true["contact"] - 0.6 <= found["contact"] <= true["still"]
        assert abs(found["still"] - true["still"]) < 1.6
        assert 0 <= found["confidence"] <= 1
        assert set(found["proposal"]) == {
            "ball", "pocket", "potted", "scratch", "first_contact", "rails_after_contact",
        }  # fmt: skip
        assert len(found["layout_before"]["balls"]) - len(found["layout_after"]["balls"]) == found["gone"]


def test_what_happened_is_proposed_from_the_layouts_and_the_rules(film):
    """The demo's first shots are known: a break, and two pots."""
    path, _, told = film
    done = aretane("video", "shots", path, "--corners", corners(told), "--discipline", "nine-ball")
    shots = json.loads(done.stdout)["shots"]
    match = json.loads((DEMO / "matches" / "nine-ball.json").read_bytes())["racks"][0]["shots"]
    for found, true in zip(shots[1:], match[1:], strict=False):
        assert (found["proposal"]["ball"], found["proposal"]["pocket"]) == tuple(true["called"].values())
        assert found["proposal"]["first_contact"] == true["first_contact"]
        assert found["proposal"]["potted"] == true["potted"]
    refused = aretane("video", "shots", path, "--corners", corners(told), "--discipline", "croquet")
    assert refused.returncode == 2
    assert "discipline" in refused.stderr


@pytest.mark.parametrize(
    ("arguments", "names"),
    [
        (["--at", "1"], "corners"),
        (["--at", "1", "--corners", "1,2 3,4"], "corners"),
        (["--at", "1", "--corners", "0,0 1,x 2,2 3,3"], "corners"),
        (["--at", "1", "--corners", "10,10 11,10 12,10 13,10"], "corners"),
        (["--at", "1", "--corners", "1e9,0 1,0 2,2 3,3"], "corners"),
        (["--at", "nan", "--corners", "0,400 854,400 600,100 300,100"], "at"),
        (["--at", "1", "--corners", "0,400 854,400 600,100 300,100", "--picture", "1,2,3"], "picture"),
        (["--at", "1", "--corners", "0,400 854,400 600,100 300,100", "--table", "kitchen"], "table"),
    ],
)
def test_bad_input_is_one_line_that_names_the_field(film, arguments, names):
    done = aretane("video", "balls", film[0], *arguments)
    assert done.returncode == 2
    assert done.stdout == ""
    assert done.stderr.count("\n") == 1
    assert names in done.stderr
    assert "Traceback" not in done.stderr


def test_what_is_no_recording_is_refused(tmp_path):
    text = tmp_path / "notes.mp4"
    text.write_text("not a film")
    for command in (["balls", text, "--at", "1"], ["shots", text]):
        done = aretane("video", *command, "--corners", "0,400 854,400 600,100 300,100")
        assert (done.returncode, done.stdout) == (2, "")
        assert "no video" in done.stderr


def test_a_match_without_layouts_cannot_be_rendered(tmp_path):
    bare = tmp_path / "bare.json"
    bare.write_text(
        '{"format": "aretane-match", "version": 1, "discipline": "nine-ball", "racks": [{"shots": [{}]}]}'
    )
    done = aretane("video", "render", bare, "-o", tmp_path / "x.mp4")
    assert done.returncode == 2
    assert "layout" in done.stderr


@pytest.fixture(scope="module")
def demo(tmp_path_factory):
    """The demo's recording, a file of its marks, and its truth."""
    match = json.loads((DEMO / "matches" / "nine-ball.json").read_bytes())
    marks = tmp_path_factory.mktemp("marks") / "marks.json"
    marks.write_text(json.dumps({"marks": match["recordings"][0]["views"][0]["camera"]["marks"]}))
    return DEMO / "rack.mp4", marks, json.loads((DEMO / "truth.json").read_bytes())


def test_the_ways_of_a_shot_agree_with_the_truth(demo):
    path, marks, truth = demo
    shot = truth["shots"][3]
    span = ["--from", shot["contact"] - 0.3, "--to", shot["still"] + 0.6]
    done = aretane("video", "track", path, *span, "--camera", marks, "--discipline", "nine-ball")
    assert done.returncode == 0, done.stderr
    answer = json.loads(done.stdout)
    assert set(answer) == {"paths", "events", "stroke"}
    ways = {one["ball"]: one["points"] for one in answer["paths"]}
    frames = [one for one in truth["frames"] if shot["contact"] < one["t"] < shot["still"]]
    offs = []
    for t, x, y, sigma in ways["cue"]:
        assert 0 < sigma < 0.05
        near = [one for one in frames if abs(one["t"] - t) < 0.005 and "cue" in one["balls"]]
        offs += [math.dist(one["balls"]["cue"], (x, y)) for one in near]
    assert len(offs) > 3
    assert sorted(offs)[len(offs) // 2] < 0.015
    strike = next(one for one in answer["events"] if one["kind"] == "strike")
    assert strike["t"] == pytest.approx(shot["contact"], abs=0.08)
    assert (
        answer["stroke"]["speed"]["low"] <= answer["stroke"]["speed"]["value"] <= answer["stroke"]["speed"]["high"]
    )
    assert answer["stroke"]["speed"]["value"] == pytest.approx(shot["stroke"]["speed"], rel=0.2)


def test_what_cannot_be_followed_is_said(demo, film):
    path, marks, _ = demo
    backwards = aretane("video", "track", path, "--from", 9, "--to", 3, "--camera", marks)
    assert (backwards.returncode, "from: must be a time" in backwards.stderr) == (2, True)
    slow, _, told = film
    few = aretane("video", "track", slow, "--from", 0, "--to", 3, "--corners", corners(told))
    assert (few.returncode, "balls are followed from 15 on" in few.stderr) == (2, True)


def test_films_of_others_need_their_truth(tmp_path):
    none = aretane("bench", "--vision", "--films", tmp_path)
    assert (none.returncode, "holds no film" in none.stderr) == (2, True)
    assert aretane("bench", "--films", tmp_path).returncode == 2
