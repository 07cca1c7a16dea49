"""The demo's logged places are what its logged strokes do, and its matches end as their stories say."""

from __future__ import annotations

import io
import itertools
import json

import pytest
from pypdf import PdfReader

from aretane.core.layout import Layout
from aretane.core.physics.shot import simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.review.replay import replay
from aretane.core.review.visits import figures, visits
from aretane.core.rules.referee import referee
from aretane.core.table import PRESETS
from aretane.demo.load import game_of
from aretane.demo.stories import STORIES
from aretane.desk.work.ledger import version_of
from tests.conftest import DEMO

MATCHES = {s.discipline: json.loads((DEMO / "matches" / f"{s.discipline}.json").read_bytes()) for s in STORIES}


def strokes(match):
    return [shot for rack in match["racks"] for shot in rack["shots"] if "stroke" in shot]


def replayed(match, shot):
    before = {ball: tuple(place) for ball, place in shot["layout_before"]["balls"].items()}
    stroke = {key: shot["stroke"][key] for key in ("aim", "speed", "side", "height")}
    return simulate(Layout(PRESETS[match["table"]], match["discipline"], before), Stroke(**stroke))


@pytest.mark.parametrize("match", MATCHES.values(), ids=list(MATCHES))
def test_every_logged_stroke_leads_to_what_was_logged(match):
    assert strokes(match)
    for shot in strokes(match):
        result = replayed(match, shot)
        assert [ball for ball, _, _ in result.potted if ball != "cue"] == [b["ball"] for b in shot["potted"]]
        assert result.first_contact == shot["first_contact"]
        assert result.rails_after_contact == shot["rails_after_contact"]
        assert result.scratch == shot.get("scratch", False)
        for ball, place in shot["layout_after"]["balls"].items():
            assert result.final.balls[ball] == pytest.approx(place, abs=1e-4)


@pytest.mark.parametrize("match", MATCHES.values(), ids=list(MATCHES))
def test_a_layout_is_the_one_before_with_what_the_rules_put_back(match):
    """The next shot begins where the replay says, but for a cue ball that was placed by hand."""
    for rack in replay(match).racks:
        for one, following in itertools.pairwise(rack):
            given = (following.data.get("layout_before") or {}).get("balls")
            if given is None or following.data.get("kind") == "break":
                continue
            for ball, place in one.after.balls.items():
                if ball != "cue":
                    assert given[ball] == pytest.approx(place, abs=1e-4)


SCORES = {
    "nine-ball": {"A": 5, "B": 4},
    "ten-ball": {"A": 1, "B": 2},
    "eight-ball": {"A": 2, "B": 1},
    "blackball": {"A": 2, "B": 1},
    "snooker": {"A": 1, "B": 0},
}


@pytest.mark.parametrize("discipline", SCORES)
def test_a_match_ends_as_its_story_says(discipline):
    """Kept by hand from the lines of the story."""
    assert referee(MATCHES[discipline]).score == SCORES[discipline]


def test_the_snooker_frame_has_a_break_of_more_than_fifty():
    """Summed by hand: eight reds 8, six blacks 42, a pink 6 and a blue 5."""
    played = replay(MATCHES["snooker"])
    assert figures(visits(played), "A").best == 8 + 6 * 7 + 6 + 5


def test_the_inning_of_straight_pool_goes_through_a_re_rack():
    played = replay(MATCHES["straight-pool"])
    long = max(visits(played), key=lambda visit: visit.points)
    assert (long.player, long.points) == ("B", 1 + 13 + 1 + 3)
    rulings = played.result.racks[0].rulings
    assert [len(ruling.racked) for ruling in rulings if ruling.racked] == [14]
    foul = next(ruling for ruling in rulings if ruling.fouls)
    assert foul.foul == "scratch"
    assert played.result.score == {"A": 41 + 2 + 1 - 1 + 1, "B": 36 + 18 + 1 + 2 + 1}


def test_the_films_truth_is_the_simulated_motion():
    match = MATCHES["nine-ball"]
    truth = json.loads((DEMO / "truth.json").read_bytes())
    rack = next(rack for rack in match["racks"] if rack["shots"][0].get("time"))
    for shot, times in zip(rack["shots"], truth["shots"], strict=True):
        assert times["still"] - times["contact"] == pytest.approx(replayed(match, shot).duration, abs=0.01)
        seen = next(frame for frame in truth["frames"] if frame["t"] >= times["still"])
        for ball, place in shot["layout_after"]["balls"].items():
            assert seen["balls"][ball] == pytest.approx(place, abs=5e-4)


def test_the_recording_is_small_enough_to_ship():
    assert (DEMO / "rack.mp4").stat().st_size < 4_000_000


@pytest.mark.parametrize("discipline", [story.discipline for story in STORIES])
def test_the_kept_verdict_is_of_this_model_and_adds_up(client, discipline):
    """All six demo matches show their verdict at once; sums as the contract of the ledger has them."""
    told = client.get(f"/games/{game_of(discipline)}/ledger").json
    assert told["body"]["version"] == version_of(discipline), "judge the demo anew: python -m aretane.demo.judge"
    racks = told["body"]["racks"]
    assert any(entry["better"] for rack in racks for entry in rack["shots"])
    for rack in racks:
        end = rack["now"] if rack["result"] is None else rack["result"]
        whole = sum(rack["sums"]["A"].values()) - sum(rack["sums"]["B"].values())
        assert whole == pytest.approx(end - rack["start"], abs=1e-6)
        for entry in rack["shots"]:
            told_of = [entry[part] or 0.0 for part in ("decision", "pot", "position", "luck", "unsplit")]
            assert sum(told_of) == pytest.approx(entry["after"] - entry["before"], abs=1e-6)


@pytest.mark.parametrize("discipline", [story.discipline for story in STORIES])
def test_what_the_verdicts_come_to_is_what_such_players_do(client, discipline):
    """Common practice: a good player gives away some points a shot by his choices, not whole racks or runs: under a
    tenth of a rack a stroke in the mean, in straight pool under a ball."""
    body = client.get(f"/games/{game_of(discipline)}/ledger").json["body"]
    least = -1.0 if body.get("unit") == "balls" else -0.1
    frames = discipline in ("snooker", "blackball")
    assert not any((" racks" if frames else " frames") in words for words in body["said"].values())
    for sums in body["players"].values():
        assert least < sums["decision"] / sums["shots"] < 0.02


@pytest.mark.parametrize("seat", ["A", "B"])
@pytest.mark.parametrize("discipline", ["nine-ball", "snooker", "straight-pool"])
def test_a_report_is_one_page(client, judged, discipline, seat):
    """With its three moments, figures and what to practise; read by another reader of PDF."""
    game = game_of(discipline)
    name = client.get(f"/games/{game}").json["header"]["players"][seat]["name"]
    answer = client.get(f"/games/{game}/report/pdf?player={name}")
    assert len(PdfReader(io.BytesIO(answer.data)).pages) == 1
