"""`options` and `plan` as a script uses them: the contract's keys, sound numbers, exact repetition, refusals."""

from __future__ import annotations

import json

import pytest

from tests.formats.test_formats import LAYOUT
from tests.test_command_line import refused

RACK = {
    **LAYOUT,
    "discipline": "nine-ball",
    "table": "pool-9ft",
    "balls": {"cue": [1.5, 0.55], "7": [1.9, 0.9], "8": [1.4, 1.05], "9": [0.6, 0.9]},
    "state": {"player": "A"},
}
RATE = {"p", "low", "high", "n"}


@pytest.fixture
def rack(tmp_path):
    def write(**changes):
        path = tmp_path / "rack.json"
        path.write_text(json.dumps({**RACK, **changes}))
        return path

    return write


def test_options_keep_to_the_contract(here, rack):
    done = here("options", rack(), "--player", "professional", "--effort", "glance")
    assert (done.returncode, done.stderr) == (0, "")
    answer = json.loads(done.stdout)
    wins = [option["win"] for option in answer["options"]]
    best = max(wins, key=lambda win: win["p"])
    assert best["p"] - wins[0]["p"] <= max(
        0.011, best["high"] - best["low"]
    )  # the plainest of those not told apart
    assert wins[-1]["p"] < best["p"]
    for option in answer["options"]:
        assert {
            "kind",
            "also",
            "intent",
            "ball",
            "pocket",
            "stroke",
            "why",
            "route",
            "variations",
            "played",
        } <= set(option)
        for name in ("pot", "position", "foul", "win", "opponent_next"):
            assert set(option[name]) == RATE
            if option[name]["p"] is not None:
                assert 0 <= option[name]["low"] <= option[name]["p"] <= option[name]["high"] <= 1
    assert answer["options"][answer["best_attack"]]["intent"] in ("attack", "two-way")
    assert answer["options"][answer["best_safety"]]["intent"] in (
        "safety",
        "containing",
        "escape",
        "deny",
        "tie-up",
    )


def test_an_options_stroke_played_again_pots_as_often_as_it_says(here, rack, tmp_path):
    path = rack()
    best = json.loads(here("options", path, "--player", "professional").stdout)["options"][0]
    stroke = tmp_path / "stroke.json"
    stroke.write_text(json.dumps(best["stroke"]))
    again = json.loads(
        here("simulate", path, stroke, "--samples", 4000, "--player", "professional", "--seed", 9).stdout
    )
    assert best["pot"]["low"] <= again["pot"]["p"] <= best["pot"]["high"]


def test_a_plan_keeps_to_the_contract_and_repeats(here, rack):
    path = rack()
    done = here("plan", path, "--player", "professional", "--effort", "glance")
    assert (done.returncode, done.stderr) == (0, "")
    answer = json.loads(done.stdout)
    assert [entry["ball"] for entry in answer["order"]] == ["7", "8", "9"]
    for entry in answer["order"]:
        assert {"centre", "area", "outline"} <= set(entry["zone"])
        assert set(entry["value_rate"]) == RATE
        assert 0 <= entry["value"] <= 1
    assert 0 <= answer["key_shot"] < 3
    assert set(answer["run_out"]) == RATE
    assert (answer["break_ball"], answer["key_ball"], answer["key_chain"]) == (None, None, [])
    assert here("plan", path, "--player", "professional", "--effort", "glance").stdout == done.stdout


def test_straight_pool_has_runs_and_no_racks_to_win(here, rack):
    path = rack(discipline="straight-pool", balls={ball: RACK["balls"][ball] for ball in ("cue", "8", "9")})
    answer = json.loads(here("options", path, "--effort", "glance").stdout)
    assert all(option["win"] is None and option["run"] >= 0 for option in answer["options"])
    assert json.loads(here("plan", path, "--effort", "glance").stdout)["break_ball"] is not None


def test_ball_in_hand_gives_every_stroke_its_place(here, rack):
    balls = {ball: place for ball, place in RACK["balls"].items() if ball != "cue"}
    path = rack(balls=balls, state={"ball_in_hand": "behind-line"})
    answer = json.loads(here("options", path, "--effort", "glance").stdout)
    assert all(option["stroke"]["place"][0] <= 0.64 for option in answer["options"])


def test_bad_input_is_one_line(here, rack, tmp_path):
    assert "--player" in refused(here("options", rack(), "--player", "nobody"))
    hand = tmp_path / "hand.json"
    hand.write_text('{"aim_deg": -1, "speed": 0.1, "side": 0, "height": 0}')
    assert "aim_deg" in refused(here("plan", rack(), "--player", hand))
    assert "balls" in refused(here("options", rack(balls={"cue": [1.0, 0.5]})))
    assert "ball" in refused(here("plan", rack(balls={"cue": [1.0, 0.5], "9": [1.01, 0.5]})))


EIGHTS = {"cue": [1.2, 0.5], "2": [1.9, 0.9], "3": [0.5, 0.35], "8": [0.6, 0.9], "12": [1.2, 1.1]}


def test_an_order_of_ones_own_has_its_price(here, rack):
    path = rack(discipline="eight-ball", balls=EIGHTS, state={"group": "solids"})
    best = json.loads(here("plan", path, "--effort", "glance").stdout)
    first, other = (one["ball"] for one in best["instead"])
    assert best["order"][0]["ball"] == first
    assert best["instead"][0]["cost"] == 0
    price = best["instead"][1]
    assert price["cost"] >= 0
    assert price["why"]
    assert price["equal"] == (price["cost"] <= price["error"])
    begun = json.loads(here("plan", path, "--effort", "glance", "--order", other).stdout)
    assert [entry["ball"] for entry in begun["order"]] == [other, first, "8"]
    assert (begun["key_ball"], begun["key_chain"]) == (first, [first, other])
    assert begun["groups"] == []


def test_where_the_order_is_given_only_that_can_be_asked_for(here, rack):
    path = rack()
    done = here("plan", path, "--effort", "glance", "--order", "7,8")
    assert [entry["ball"] for entry in json.loads(done.stdout)["order"]] == ["7", "8", "9"]
    assert "order" in here("plan", path, "--effort", "glance", "--order", "8").stderr


def test_an_open_table_has_both_groups(here, rack):
    answer = json.loads(here("plan", rack(discipline="eight-ball", balls=EIGHTS), "--effort", "glance").stdout)
    assert {one["group"] for one in answer["groups"]} == {"solids", "stripes"}
    assert answer["groups"][0]["win"] >= answer["groups"][1]["win"]
    assert all(set(one["run"]) == RATE for one in answer["groups"])


@pytest.mark.parametrize("order", ["12", "8", "99", "2,2"])
def test_an_order_that_cannot_be_played_is_said(here, rack, order):
    path = rack(discipline="eight-ball", balls=EIGHTS, state={"group": "solids"})
    done = here("plan", path, "--effort", "glance", "--order", order)
    assert (done.returncode, done.stdout) == (2, "")
    assert "order" in done.stderr
    assert done.stderr.count("\n") == 1
