"""The demo's logged places are what its logged strokes do: picture, log and truth agree."""

from __future__ import annotations

import json

import pytest

from aretane.core.layout import Layout
from aretane.core.physics.shot import simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.table import PRESETS
from tests.conftest import DEMO

POOL = PRESETS["pool-9ft"]


def replayed(shot):
    before = {ball: tuple(place) for ball, place in shot["layout_before"]["balls"].items()}
    stroke = {key: shot["stroke"][key] for key in ("aim", "speed", "side", "height")}
    return simulate(Layout(POOL, "nine-ball", before), Stroke(**stroke))


def test_every_logged_stroke_leads_to_what_was_logged(demo_match):
    struck = [shot for rack in demo_match["racks"] for shot in rack["shots"] if "stroke" in shot]
    assert len(struck) == 83
    for shot in struck:
        result = replayed(shot)
        assert [ball for ball, _, _ in result.potted if ball != "cue"] == [b["ball"] for b in shot["potted"]]
        assert result.first_contact == shot["first_contact"]
        assert result.rails_after_contact == shot["rails_after_contact"]
        assert result.scratch == shot.get("scratch", False)
        spotted = {fall["ball"] for fall in shot["potted"]} if result.scratch else set()
        for ball, place in shot["layout_after"]["balls"].items():
            if ball not in spotted:
                assert result.final.balls[ball] == pytest.approx(place, abs=1e-4)


def test_the_films_truth_is_the_simulated_motion(demo_match):
    truth = json.loads((DEMO / "truth.json").read_bytes())
    rack = next(rack for rack in demo_match["racks"] if rack["shots"][0].get("time"))
    for shot, times in zip(rack["shots"], truth["shots"], strict=True):
        assert times["still"] - times["contact"] == pytest.approx(replayed(shot).duration, abs=0.01)
        seen = next(frame for frame in truth["frames"] if frame["t"] >= times["still"])
        for ball, place in shot["layout_after"]["balls"].items():
            assert seen["balls"][ball] == pytest.approx(place, abs=5e-4)


def test_the_recording_is_small_enough_to_ship():
    assert (DEMO / "rack.mp4").stat().st_size < 4_000_000
