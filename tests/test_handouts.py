"""Hand-outs: `drill` and `report` as a script uses them, read back by another reader, and over the interface."""

from __future__ import annotations

import json
import re
import time
import uuid

import pytest

from aretane.demo.load import game_of
from tests.lost_rack import lost_rack
from tests.test_command_line import refused

pdf = pytest.importorskip("pypdf")


@pytest.fixture
def match(tmp_path):
    path = tmp_path / "match.json"
    path.write_text(json.dumps(lost_rack()))
    return path


def text_of(path):
    return " ".join(page.extract_text() for page in pdf.PdfReader(path).pages)


def test_a_shot_as_an_exercise_with_its_card(here, match, tmp_path):
    target = tmp_path / "card.pdf"
    done = here("drill", match, "--rack", 1, "--shot", 2, "-o", target)
    assert done.stderr == ""
    answer = json.loads(done.stdout)
    assert (answer["ball"], answer["pocket"], answer["zone"]) == ("9", "head-right", None)
    assert answer["layout"]["balls"] == {"cue": [2.3, 0.4], "9": [0.5, 0.2]}
    assert [one["ball"] for one in answer["card"]] == ["9", "cue"]
    nine = answer["card"][0]
    assert (nine["long"], nine["short"]) == (1.55, 0.65)
    words = text_of(target)
    assert nine["text"] in re.sub(r"\s+", " ", words)
    assert "physician" in words
    assert len(pdf.PdfReader(target).pages) == 1


@pytest.mark.parametrize(
    ("rack", "shot", "said"),
    [(2, 1, "rack: there is no rack 2"), (1, 9, "shot: there is no shot 9"), (0, 1, "rack")],
)
def test_a_shot_that_is_not_there(here, match, rack, shot, said):
    assert said in refused(here("drill", match, "--rack", rack, "--shot", shot))


def test_the_report_of_a_match_for_one_player(here, match, tmp_path):
    page, paper = tmp_path / "report.html", tmp_path / "report.pdf"
    assert here("report", match, "-o", page, "--player", "Odile Brant").returncode == 0
    words = page.read_text()
    assert "Odile Brant: A rack let go" in words
    assert "Rack 1, shot 2" in words
    assert words.count("<svg") >= 2
    assert "http://" not in words.replace("http://www.w3.org", "")
    assert here("report", match, "-o", paper).returncode == 0
    told = text_of(paper)
    assert "The moments that mattered" in told
    assert "pots made" in told
    assert "50% (9% to 91%), n 2" in told


def test_a_report_needs_a_player_a_shot_and_a_place(here, match, tmp_path):
    target = tmp_path / "report.pdf"
    assert "--player" in refused(here("report", match, "-o", target, "--player", "Quentin"))
    assert "-o" in refused(here("report", match, "-o", tmp_path / "report.doc"))
    assert "-o" in refused(here("report", match, "-o", tmp_path / "nowhere" / "report.pdf"))
    empty = tmp_path / "empty.json"
    empty.write_text(json.dumps({**lost_rack(), "racks": []}))
    assert "nothing to report" in refused(here("report", empty, "-o", target))
    assert not target.exists()


def test_over_the_interface(client):
    game = client.post("/games/import", {**lost_rack(), "title": "For the hand"}).json
    shot = game["racks"][0]["shots"][1]["id"]
    early = client.get(f"/games/{game['id']}/report/pdf")
    assert early.status_code == 422
    assert "judged" in early.json["message"]
    until = time.monotonic() + 60
    while client.post(f"/games/{game['id']}/ledger", {}).json["state"] == "running":
        assert time.monotonic() < until
        time.sleep(0.2)
    report = client.get(f"/games/{game['id']}/report/pdf?player=Piers%20Coombe")
    assert report.mimetype == "application/pdf"
    assert report.data.startswith(b"%PDF")
    card = client.get(f"/games/{game['id']}/shots/{shot}/card/html")
    assert "9 ball: 1.55 diamonds" in card.text
    assert client.get(f"/games/{game['id']}/shots/{game['id']}/card/pdf").status_code == 404
    client.send("DELETE", f"/games/{game['id']}")


def test_the_report_of_a_time_adds_all_judged_matches_up(client):
    """Of the demo's nine-ball and ten-ball matches, as the ledger and the figures tell them."""
    players = {one["name"]: one["id"] for one in client.get("/players").json["players"]}
    words = client.get(f"/report/html?player={players['Ilse Marwood']}&words=Rest%20the%20wrist.").text
    told = client.get(f"/question?measure=decision&by=nothing&player={players['Ilse Marwood']}").json["whole"][0]
    total = told["mean"] * told["n"]
    assert f"decisions −{abs(total):.2f} ±" in words
    assert "Rest the wrist." in words
    assert words.count('class="moment"') == 3
    assert "racks in a hundred" in words
    assert client.get(f"/report/pdf?player={players['Ilse Marwood']}").data.startswith(b"%PDF")


def test_the_report_of_a_lesson(client):
    """What was tried at the table, and the shots to which something was written; nobody judges a lesson."""
    lesson = client.post("/games/import", {**lost_rack(), "session": "lesson", "date": "2031-03-05"}).json
    rack = lesson["racks"][0]
    shot = rack["shots"][1]
    name = lesson["header"]["players"][shot["document"]["player"]]["name"]
    document = {**shot["document"], "note": "Let the white run through."}
    change = {"kind": "shot", "id": shot["id"], "parent": rack["id"], "seat": shot["seat"], "document": document}
    assert client.change(lesson, change).status_code == 200
    made = client.post("/exercises", {"id": str(uuid.uuid4()), "game": lesson["id"], "shot": shot["id"]}).json
    tries = [
        {"id": str(uuid.uuid4()), "player": name, "result": result, "at": "2031-03-05T18:00:00"}
        for result in ("made", "made", "thick")
    ]
    assert client.post(f"/exercises/{made['id']}/attempts", {"attempts": tries}).status_code == 200
    player = next(one["id"] for one in client.get("/players").json["players"] if one["name"] == name)
    asked = f"/report/html?player={player}&since=2031-03-05&until=2031-03-05"
    told = client.get(f"{asked}&session=lesson").text
    assert f"{name}: 2031-03-05" in told
    assert "Let the white run through." in told
    assert made["title"] in told
    assert "67% (21% to 94%), n 3" in told  # Wilson, as statsmodels has it
    assert client.get(f"{asked}&session=solo").status_code == 200, "what was tried is there without a solo run"
    assert client.get(f"{asked}&session=match").status_code == 422
    empty = client.get(f"/report/html?player={player}&since=2032-01-01&session=lesson")
    assert (empty.status_code, "neither a shot nor an attempt" in empty.json["message"]) == (422, True)
    assert client.get(f"{asked}&session=party").status_code == 422
    client.send("DELETE", f"/exercises/{made['id']}")
    client.send("DELETE", f"/games/{lesson['id']}")


def test_the_report_of_nothing_is_said(client):
    answer = client.get("/report/html?player=1&since=2040-01-01")
    assert (answer.status_code, "no match of this time is judged" in answer.json["message"]) == (422, True)
    assert client.get("/report/html?player=999999").status_code == 422
    assert client.get("/report/html").status_code == 422


def test_a_card_for_a_smaller_table(here, match, client):
    answer = json.loads(here("drill", match, "--rack", 1, "--shot", 2, "--table", "pool-7ft").stdout)
    assert answer["layout"]["table"] == "pool-7ft"
    assert answer["card"][0]["long"] == pytest.approx(1.55, abs=0.06), "in diamonds it hardly moves"
    assert "another size" in refused(here("drill", match, "--rack", 1, "--shot", 2, "--table", "snooker-12ft"))
    assert "must be one of" in refused(here("drill", match, "--rack", 1, "--shot", 2, "--table", "mine"))
    game = game_of("nine-ball")
    shot = client.get(f"/games/{game}").json["racks"][0]["shots"][2]["id"]
    words = client.get(f"/games/{game}/shots/{shot}/card/html?table=pool-8ft").text
    assert "on 8 ft" in words
    assert client.get(f"/games/{game}/shots/{shot}/card/html?table=mine").status_code == 422
