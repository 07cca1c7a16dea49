"""`ledger` as a script uses it: the contract's keys and sums, exact repetition, refusals."""

from __future__ import annotations

import json
import math

import pytest

from aretane.settings import ROOT
from tests.lost_rack import lost_rack
from tests.test_command_line import refused

PARTS = ("decision", "pot", "position", "luck", "unsplit")


@pytest.fixture
def match(tmp_path):
    def write(**changes):
        path = tmp_path / "match.json"
        path.write_text(json.dumps({**lost_rack(), **changes}))
        return path

    return write


def test_the_ledger_keeps_to_the_contract_and_adds_up(here, match):
    done = here("ledger", match(), "--player-b", "professional")
    assert (done.returncode, done.stderr) == (0, "")
    answer = json.loads(done.stdout)
    (rack,) = answer["racks"]
    assert answer["start"] == rack["start"]
    assert rack["result"] == 0.0
    assert rack["turning_point"] == 1, "the missed nine"
    for before, after in zip(rack["shots"], [*rack["shots"][1:], None], strict=True):
        told = [before[part] for part in PARTS if before[part] is not None]
        assert math.fsum(told) == pytest.approx(before["after"] - before["before"], abs=1e-9)
        assert set(before["error"]) == set(PARTS) - {"unsplit"}
        assert before["split"] == "no-stroke"
        assert before["decision"] <= 0.2
        if after is not None:
            value = after["before"] if after["player"] == before["player"] else 1 - after["before"]
            assert before["after"] == pytest.approx(value, abs=1e-12)
    for seat in ("A", "B"):
        assert set(rack["sums"][seat]) == set(PARTS)
        assert answer["players"][seat]["shots"] == sum(shot["player"] == seat for shot in rack["shots"])
    whole = math.fsum(rack["sums"]["A"].values()) - math.fsum(rack["sums"]["B"].values())
    assert whole == pytest.approx(rack["result"] - rack["start"], abs=1e-9)
    assert "A" in answer["said"]
    again = json.loads(here("ledger", match(), "--player-b", "professional").stdout)
    assert again == answer


def test_the_plan_that_was_left_is_told(here, match):
    plan = {"plans": [{"by": "Odile Brant", "from": 0, "order": [{"ball": "9"}, {"ball": "8"}], "felt": 0.4}]}
    racks = [{**lost_rack()["racks"][0], "plan": plan}]
    answer = json.loads(here("ledger", match(racks=racks), "--player-a", "club", "--player-b", "club").stdout)
    (told,) = answer["racks"][0]["plans"]
    assert (told["kept"], told["left_at"], told["left_for"]) == (0, 0, "8")


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"racks": [{"breaker": "A", "shots": [lost_rack()["racks"][0]["shots"][0]] * 2}]}, "racks[0].shots[1]"),
        ({"racks": [{"plan": {"plans": [{"order": [{"pocket": "foot-left"}]}]}, "shots": []}]}, "ball"),
        ({"discipline": "bowls"}, "discipline"),
    ],
)
def test_a_match_that_cannot_be_judged_is_refused(here, match, changes, field):
    assert field in refused(here("ledger", match(**changes)))


def test_a_hand_that_nobody_has_is_refused(here, match):
    assert "--player-a" in refused(here("ledger", match(), "--player-a", "wizard"))


def test_the_published_schema_is_what_is_answered():
    from aretane.web.ledger.schemas import Ledger

    written = json.loads((ROOT / "docs" / "schemas" / "ledger.json").read_text())
    assert written == {"$schema": "https://json-schema.org/draft/2020-12/schema", **Ledger.model_json_schema()}
