"""The API: round trips, refusals, and what surrounds it."""

from __future__ import annotations

import json
import uuid
from urllib.parse import urlencode

import pytest

from aretane.demo.load import game_of
from tests.conftest import Client, rack_change, shot_change
from tests.vision.films import film, sound, steady

GAME = game_of("nine-ball")


def test_the_demo_is_there(client):
    games = client.get("/games").json["games"]
    demo = next(game for game in games if game["id"] == GAME)
    assert demo["players"] == {"A": "Ilse Marwood", "B": "Tomas Verrall"}
    assert (demo["racks"], demo["shots"]) == (9, 85)
    game = client.get(f"/games/{GAME}").json
    assert game["score"] == {"A": 5, "B": 4}
    assert game["trouble"] == []


def test_out_and_in_again_changes_nothing(client, judged, demo_match):
    exported = client.get(f"/games/{GAME}/export")
    ledger = exported.json["ledger"]  # worked out, so it is not taken in
    assert exported.json == {**demo_match, "ledger": ledger}
    assert "attachment" in exported.headers["Content-Disposition"]
    again = client.send("POST", "/games/import", data=exported.data).json
    assert client.get(f"/games/{again['id']}/export").json == demo_match
    wanted = ("overall", "map", "by_pocket", "by_kind", "along", "across", "distance")
    first = client.get(f"/figures?game={GAME}").json
    second = client.get(f"/figures?game={again['id']}").json
    assert [first[key] for key in wanted] == [second[key] for key in wanted]
    assert [one["error"] for one in first["errors"]] == [one["error"] for one in second["errors"]]
    assert client.send("DELETE", f"/games/{again['id']}").status_code == 204
    assert client.get(f"/games/{again['id']}").status_code == 404


@pytest.mark.parametrize("raw", [b"", b"not json", b'{"format": "aretane-match"}', b'{"a": NaN}', b"[]"])
def test_a_broken_import_leaves_nothing(client, raw):
    before = client.matches()
    answer = client.send("POST", "/games/import", data=raw)
    assert answer.status_code == 422
    assert answer.json["message"]
    assert client.matches() == before


def test_an_import_with_an_impossible_shot_names_its_place(client, demo_match):
    match = json.loads(json.dumps(demo_match))
    match["racks"][1]["shots"][4]["potted"] = [{"ball": "99"}]
    answer = client.send("POST", "/games/import", data=json.dumps(match).encode())
    assert (answer.status_code, answer.json["field"]) == (422, "racks[1].shots[4].potted[0].ball")


def test_what_is_longer_than_any_match_is_refused_at_once(client, demo_match):
    endless = {**demo_match, "racks": demo_match["racks"] * 60}
    answer = client.send("POST", "/games/import", data=json.dumps(endless).encode())
    assert (answer.status_code, answer.json["field"]) == (422, "racks")
    assert "more than a match has" in answer.json["message"]


def test_every_figure_has_its_sample_and_interval(client):
    figures = client.get(f"/figures?game={GAME}").json
    assert figures["overall"] == pytest.approx({"p": 49 / 60, "low": 0.7008, "high": 0.8943, "n": 60}, abs=1e-3)
    for rate in [cell["rate"] for cell in figures["map"]] + [f["rate"] for f in figures["by_pocket"]]:
        assert set(rate) == {"p", "low", "high", "n"}
        assert rate["p"] is None or rate["low"] <= rate["p"] <= rate["high"]
    for family in figures["by_player"]:
        asked = {"game": GAME, "by": "player", "name": family["name"]}
        behind = client.get(f"/figures/shots?{urlencode(asked)}").json
        assert behind["n"] == len(behind["shots"]) == family["rate"]["n"]
        assert {shot["player_name"] for shot in behind["shots"]} == {family["name"]}


def test_the_shots_behind_every_figure_are_as_many_as_it_counts(client):
    """Of all matches together, a page after the other."""
    figures = client.get("/figures").json

    def behind(by, name, **more):
        shots, n = [], 1
        while len(shots) < n:
            asked = {"by": by, "name": name, "begin": len(shots), **more}
            page = client.get(f"/figures/shots?{urlencode(asked)}").json
            shots, n = shots + page["shots"], page["n"]
            if not page["shots"]:
                break
        assert len({shot["shot_id"] for shot in shots}) == n
        return n

    for cell in figures["map"]:
        assert behind("cell", cell["number"]) == cell["rate"]["n"]
    for by in ("pocket", "kind", "player"):
        for family in figures[f"by_{by}"]:
            assert behind(by, family["name"]) == family["rate"]["n"]
    for table in figures["breaks"]:
        for family in table["families"]:
            more = {"discipline": family["discipline"]} if family["discipline"] else {}
            assert behind(table["key"], family["name"], **more) == family["balls"]["n"]
    assert behind("shot", figures["errors"][0]["shot"]) == 1
    assert client.get("/figures/shots?by=shoe&name=1").status_code == 422


def test_matches_come_in_pages_and_are_found_by_title_or_player(client):
    made = [client.new_match(title=f"Evening {n:02}", players={"A": {"name": "Zoe %_"}}) for n in range(53)]
    first = client.get("/games").json
    assert (len(first["games"]), first["n"] >= 53) == (50, True)
    second = client.get("/games?begin=50").json["games"]
    assert not {one["id"] for one in first["games"]} & {one["id"] for one in second}
    for words, n in (("Evening 07", 1), ("zoe", 53), ("%_", 53), ("nobody at all", 0)):
        assert client.get(f"/games?{urlencode({'search': words})}").json["n"] == n
    for game in made:
        client.send("DELETE", f"/games/{game['id']}")
    assert len(client.get("/games").json["deleted"]) == 50
    assert client.get("/games?begin=-1").status_code == 422


def test_a_deleted_match_counts_nowhere_until_it_is_had_back(client, demo_match):
    def tries():
        return client.get("/figures").json["overall"]["n"]

    before = tries()
    game = client.send("POST", "/games/import", data=json.dumps(demo_match).encode()).json
    assert tries() == before + 60
    client.send("DELETE", f"/games/{game['id']}")
    assert tries() == before
    undo = {"id": str(uuid.uuid4()), "client": str(uuid.UUID(int=7)), "seen": 0}
    assert client.post(f"/games/{game['id']}/undo", undo).status_code == 200
    assert tries() == before + 60
    client.send("DELETE", f"/games/{game['id']}")


def test_a_reading_is_given_with_its_uncertainty(client):
    body = {"discipline": "nine-ball", "balls": {"cue": [0.62, 0.4], "3": [1.31, 0.96]}, "ball": "3",
            "pocket": "foot-left", "sigma": {"cue": 0.01, "3": 0.01}}  # fmt: skip
    answer = client.post("/read", body).json
    assert answer["spread"]["cut_angle_deg"] > 1
    without = client.post("/read", {**body, "balls": {"3": [1.31, 0.96]}}).json
    assert without["visible"] == {}
    assert without["spread"]["cut_angle_deg"] is None


@pytest.mark.parametrize(
    ("body", "status"),
    [
        ({"discipline": "nine-ball", "balls": {"cue": [0.6, 0.4], "3": [7, 7]}}, 422),
        ({"discipline": "nine-ball", "balls": {"cue": [0.6]}}, 422),
        ({"balls": {}}, 422),
        ("nonsense", 422),
    ],
)
def test_a_wrong_reading_is_refused_in_one_sentence(client, body, status):
    answer = client.post("/read", body)
    assert answer.status_code == status
    assert answer.json["message"]


def test_a_camera_needs_four_good_marks(client):
    answer = client.post("/camera", {"marks": {"corner:head-left": [1, 2]}, "width": 960, "height": 540})
    assert (answer.status_code, "four marks" in answer.json["message"]) == (422, True)
    marks = client.get(f"/games/{GAME}").json["header"]["recordings"][0]["views"][0]["camera"]["marks"]
    found = client.post("/camera", {"marks": marks, "width": 960, "height": 540}).json
    assert found["error_px"] < 1
    assert len(found["sigma"]) == 15
    assert all(0.001 < sigma < 0.05 for _, _, sigma in found["sigma"])


# Recordings


def upload(client, raw, name="film.mp4", chunk=40_000):
    begun = client.post("/uploads", {"size": len(raw), "name": name})
    if begun.status_code != 200:
        return begun
    where = begun.json["upload"]
    for offset in range(0, len(raw), chunk):
        part = raw[offset : offset + chunk]
        answer = client.send("PUT", f"/uploads/{where}/{offset}", data=part)
        assert answer.json["arrived"] == offset + len(part)
        client.send("PUT", f"/uploads/{where}/{offset}", data=part)  # a part that is sent twice counts once
    return client.post(f"/uploads/{where}/finish", {"name": name, "seen_by": "the club"})


def left_behind(app):
    return list(app.extensions["aretane"].house.files.incoming.iterdir())


def test_a_recording_is_known_by_its_content_and_served_with_ranges(client, app, tmp_path):
    raw = film(tmp_path / "a.mp4", steady(90), grainy=True).read_bytes()
    found = upload(client, raw).json
    assert (found["probe"]["frames"], found["seen_by"]) == (90, "the club")
    assert upload(client, raw, "again.mp4").json["sha256"] == found["sha256"]
    part = client.send("GET", f"/recordings/{found['sha256']}/file", headers={"Range": "bytes=100-199"})
    assert (part.status_code, part.data) == (206, raw[100:200])
    times = client.get(f"/recordings/{found['sha256']}/frames").data
    assert len(times) == 90 * 8
    assert client.send("DELETE", f"/recordings/{found['sha256']}").status_code == 204
    assert client.get(f"/recordings/{found['sha256']}/file").status_code == 404
    assert not app.extensions["aretane"].house.files.path(found["sha256"]).exists()


def test_what_is_no_recording_leaves_nothing_behind(client, app, tmp_path):
    whole = film(tmp_path / "a.mp4", steady(90), grainy=True).read_bytes()
    before = client.get("/recordings").json
    for raw, said in (
        (b"a shopping list", "no video"),
        (whole[: len(whole) // 2], "cut off"),
        (sound(tmp_path / "s.m4a").read_bytes(), "no picture"),
    ):
        answer = upload(client, raw)
        assert answer.status_code == 422
        assert said in answer.json["message"]
    assert "empty" in upload(client, b"").json["message"]
    assert left_behind(app) == []
    assert client.get("/recordings").json == before


def test_a_cancelled_upload_leaves_nothing_and_cannot_go_on(client, app):
    where = client.post("/uploads", {"size": 100, "name": "x"}).json["upload"]
    client.send("PUT", f"/uploads/{where}/0", data=b"abc")
    assert client.send("DELETE", f"/uploads/{where}").status_code == 204
    assert left_behind(app) == []
    assert "not known any more" in client.send("PUT", f"/uploads/{where}/3", data=b"d").json["message"]


def test_a_missing_part_and_a_full_disk_are_said(client):
    where = client.post("/uploads", {"size": 100, "name": "x"}).json["upload"]
    assert "missing" in client.send("PUT", f"/uploads/{where}/50", data=b"abc").json["message"]
    client.send("DELETE", f"/uploads/{where}")
    assert "no room" in client.post("/uploads", {"size": 10**11, "name": "x"}).json["message"]


def test_a_disk_that_fills_up_while_a_recording_arrives_is_said(client, monkeypatch):
    import errno
    from pathlib import Path

    where = client.post("/uploads", {"size": 100, "name": "x"}).json["upload"]
    opened = Path.open

    def full(path, mode="r", *rest, **more):
        if mode == "r+b":
            raise OSError(errno.ENOSPC, "No space left on device")
        return opened(path, mode, *rest, **more)

    monkeypatch.setattr(Path, "open", full)
    answer = client.send("PUT", f"/uploads/{where}/0", data=b"abc")
    assert (answer.status_code, "No space left" in answer.json["message"]) == (503, True)
    monkeypatch.undo()
    client.send("DELETE", f"/uploads/{where}")


# What surrounds it


def test_a_request_of_another_page_is_refused(app, client):
    body = {"id": str(uuid.uuid4()), "document": {}}
    assert client.post("/games", body, headers={"Origin": "http://evil.example"}).status_code == 403
    assert client.send("GET", "/games", headers={"Host": "evil.example"}).status_code == 400
    bare = app.test_client().post("/api/games", json=body)
    assert (bare.status_code, "out of date" in bare.json["message"]) == (400, True)


def test_answers_carry_headers_that_let_nothing_in(client):
    headers = client.get("/health").headers
    assert "default-src 'self'" in headers["Content-Security-Policy"]
    assert headers["X-Content-Type-Options"] == "nosniff"


@pytest.mark.parametrize(
    "path", ["/games/../../etc/passwd", "/games/%2e%2e", "/recordings/..%2f..%2fx/file", "/nothing"]
)
def test_strange_addresses_are_answered_plainly(client, path):
    answer = client.get(path)
    assert answer.status_code in (404, 405)
    assert "Traceback" not in answer.text


def test_an_accident_inside_is_one_sentence_and_a_line_in_the_log(app, client, monkeypatch, caplog):
    def broken(*_, **__):
        raise ZeroDivisionError("inside")

    monkeypatch.setattr("aretane.store.games.listed", broken)
    monkeypatch.setitem(app.config, "PROPAGATE_EXCEPTIONS", False)
    answer = client.get("/games")
    assert answer.status_code == 500
    assert "inside" not in answer.json["message"].replace("inside Aretane", "")
    assert "ZeroDivisionError" in caplog.text


def test_nobody_writes_when_the_database_is_away(settings):
    from aretane.store.database import Address, Database
    from aretane.web.app import create_app

    nowhere = create_app(settings, Database(Address("127.0.0.1", 1, "x", "x", "x")))
    answer = nowhere.test_client().get("/api/games")
    assert (answer.status_code, "database" in answer.json["message"]) == (503, True)


def test_the_interface_description_is_current():
    """docs/openapi.json, from which the pages' types are made, is what the server says of itself."""
    from aretane.serving import interface_description
    from aretane.settings import ROOT

    written = json.loads((ROOT / "docs" / "openapi.json").read_text())
    assert json.loads(json.dumps(interface_description())) == written


def test_a_shot_is_logged_through_the_whole_path(app):
    client = Client(app)
    game = client.new_match(start={"player": "B", "score": {"A": 1, "B": 3}, "layout": {"state": {}}})
    rack = rack_change(game)
    balls = {"cue": [0.6, 0.6], "8": [1.6, 0.9], "9": [0.5, 0.9]}
    shot = shot_change(
        rack, 0, player="B", kind="pot", intent="attack", called={"ball": "8", "pocket": "foot-left"},
        potted=[{"ball": "8", "pocket": "foot-left"}], layout_before={"balls": balls}, seen=False,
    )  # fmt: skip
    logged = client.change(game, rack, shot).json
    (only,) = logged["racks"][0]["shots"]
    assert (only["result"], only["ruling"]["next"]) == ("made", "B")
    assert logged["racks"][0]["next_up"]["legal_balls"] == ["9"]
    assert "8" not in logged["racks"][0]["next_up"]["before"]["balls"]
    assert logged["score"] == {"A": 1, "B": 3}


def test_two_that_begin_one_match_at_once_are_answered_alike(app):
    """The same request, sent twice before either was answered."""
    from concurrent.futures import ThreadPoolExecutor

    from tests.conftest import Client

    clients = [Client(app) for _ in range(4)]
    body = {
        "id": str(uuid.uuid4()),
        "document": {"format": "aretane-match", "version": 1, "discipline": "nine-ball"},
    }
    with ThreadPoolExecutor(4) as pool:
        answers = list(pool.map(lambda one: one.post("/games", body), clients))
    assert {answer.status_code for answer in answers} == {200}
    assert len({answer.text for answer in answers}) == 1
    history = clients[0].get(f"/games/{body['id']}/history").json["entries"]
    assert len(history) == 1


def test_an_operation_of_another_match_is_refused(client):
    first, second = client.new_match(), client.new_match()
    operation = {"id": str(uuid.uuid4()), "client": str(uuid.uuid4()), "seen": 0, "label": "a rack"}
    rack = rack_change(first)
    assert client.post(f"/games/{first['id']}/operations", {**operation, "changes": [rack]}).status_code == 200
    again = client.post(f"/games/{first['id']}/operations", {**operation, "changes": [rack]})
    assert again.status_code == 200, "sent twice, done once"
    other = client.post(f"/games/{second['id']}/operations", {**operation, "changes": [rack_change(second)]})
    assert other.status_code == 422
    assert "another match" in other.json["message"]
    assert client.get(f"/games/{second['id']}").json["racks"] == []
