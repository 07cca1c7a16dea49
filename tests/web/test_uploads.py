"""Uploads keep their word, whoever asks at once: sizes, room, finishing, removing, leftovers."""

from __future__ import annotations

import os
import threading
import time
from concurrent.futures import ThreadPoolExecutor

import pytest

from aretane.core.errors import Refused
from aretane.desk import recordings
from aretane.desk.house import House
from aretane.store.scope import Scope
from tests.conftest import Client
from tests.vision.films import film, steady
from tests.web.test_api import left_behind, upload


@pytest.fixture
def house(app) -> House:
    return app.extensions["aretane"].house


@pytest.fixture(scope="module")
def raw(tmp_path_factory) -> bytes:
    return film(tmp_path_factory.mktemp("film") / "a.mp4", steady(30), grainy=True).read_bytes()


def sent(client: Client, raw: bytes) -> str:
    """A whole upload that is not finished yet."""
    where = client.post("/uploads", {"size": len(raw), "name": "a"}).json["upload"]
    assert client.send("PUT", f"/uploads/{where}/0", data=raw).status_code == 200
    return where


def finish(client: Client, where: str):
    return client.post(f"/uploads/{where}/finish", {"name": "a"})


def at_once(app, *tasks):
    """Each by a client of its own, begun together."""
    gate = threading.Barrier(len(tasks))

    def run(task):
        client = Client(app)
        gate.wait()
        return task(client)

    with ThreadPoolExecutor(len(tasks)) as pool:
        return list(pool.map(run, tasks))


def test_no_more_arrives_than_was_announced(client, app):
    where = client.post("/uploads", {"size": 10, "name": "a"}).json["upload"]
    answer = client.send("PUT", f"/uploads/{where}/0", data=b"x" * 11)
    assert (answer.status_code, "announced" in answer.json["message"]) == (422, True)
    assert client.send("PUT", f"/uploads/{where}/0", data=b"x" * 10).json == {"arrived": 10}
    assert client.send("PUT", f"/uploads/{where}/10", data=b"x").status_code == 422
    assert [path.stat().st_size for path in left_behind(app)] == [10]
    client.send("DELETE", f"/uploads/{where}")


def test_a_part_that_is_missing_is_told_at_the_end_and_can_follow(client, raw):
    where = client.post("/uploads", {"size": len(raw), "name": "a"}).json["upload"]
    client.send("PUT", f"/uploads/{where}/0", data=raw[:1000])
    answer = finish(client, where)
    assert (answer.status_code, "1000 of" in answer.json["message"]) == (422, True)
    client.send("PUT", f"/uploads/{where}/1000", data=raw[1000:])
    found = finish(client, where)
    assert found.status_code == 200
    client.send("DELETE", f"/recordings/{found.json['sha256']}")


def test_room_is_set_aside_for_what_is_announced(house, scope, monkeypatch):
    monkeypatch.setattr(type(house.files), "room", lambda self: 1000)
    first = recordings.begin_upload(house, scope, 600)["upload"]
    with pytest.raises(Refused, match="disk has no room"):
        recordings.begin_upload(house, scope, 600)
    recordings.append(house, scope, first, 0, b"x" * 600)  # on the disk by now: no longer to be set aside
    second = recordings.begin_upload(house, scope, 600)["upload"]
    for one in (first, second):
        recordings.give_up(house, scope, one)


def test_who_announces_and_never_sends_keeps_no_room_for_long(house, scope, app, monkeypatch):
    monkeypatch.setattr(type(house.files), "room", lambda self: 1000)
    asleep = recordings.begin_upload(house, scope, 900)["upload"]
    with pytest.raises(Refused, match="disk has no room"):
        recordings.begin_upload(house, scope, 900)
    (path,) = left_behind(app)
    os.utime(path, (time.time() - 3700,) * 2)
    awake = recordings.begin_upload(house, scope, 900)["upload"]
    for one in (asleep, awake):
        recordings.give_up(house, scope, one)


def test_a_club_has_its_share_and_others_theirs(house, scope, client, database):
    from dataclasses import replace

    small = replace(house, room=recordings_of(house, scope) + 1000)
    first = recordings.begin_upload(small, scope, 700)["upload"]
    with pytest.raises(Refused, match="your club's room for recordings is full"):
        recordings.begin_upload(small, scope, 700)
    with database.transaction() as db:
        from aretane.store.club import scope_of

        other: Scope = scope_of(db, "A club with its own room", "Its coach")
    second = recordings.begin_upload(small, other, 700)["upload"]
    recordings.give_up(house, scope, first)
    recordings.give_up(house, other, second)


def recordings_of(house: House, scope: Scope) -> int:
    return sum(one["bytes"] for one in recordings.listed(house, scope))


def test_four_finishes_at_once_are_one(app, client, raw):
    where = sent(client, raw)
    answers = at_once(app, *[lambda own: finish(own, where)] * 4)
    assert [one.status_code for one in answers] == [200] * 4
    assert len({one.json["sha256"] for one in answers}) == 1
    assert left_behind(app) == []
    assert finish(client, where).json == answers[0].json, "also later"
    client.send("DELETE", f"/recordings/{answers[0].json['sha256']}")


def test_a_refused_film_is_refused_to_all_who_finish_it(app, client):
    where = sent(client, b"a shopping list")
    answers = at_once(app, *[lambda own: finish(own, where)] * 3)
    assert [one.status_code for one in answers] == [422] * 3
    assert left_behind(app) == []


def test_a_row_and_its_file_come_and_go_together(app, client, house, raw):
    """Finishing against removing, and two finishes of the same film, in every order that chance gives."""
    sha = finish(client, sent(client, raw)).json["sha256"]
    for _ in range(12):
        first, second = sent(client, raw), sent(client, raw)
        answers = at_once(
            app,
            lambda own, where=first: finish(own, where),
            lambda own: own.send("DELETE", f"/recordings/{sha}"),
            lambda own, where=second: finish(own, where),
            lambda own: own.send("DELETE", f"/recordings/{sha}"),
        )
        assert {one.status_code for one in answers} <= {200, 204, 404}
        assert house.files.path(sha).exists() == (client.get(f"/recordings/{sha}").status_code == 200)
    client.send("DELETE", f"/recordings/{sha}")
    assert left_behind(app) == []


def test_what_cannot_be_noted_can_be_finished_later(client, app, house, raw, monkeypatch):
    from aretane.core.errors import Unavailable

    where = sent(client, raw)
    with monkeypatch.context() as broken:

        def gone(work):
            raise Unavailable("the database went away; nothing was written")

        broken.setattr(house.database, "write", gone)
        assert finish(client, where).status_code == 503
    found = finish(client, where)
    assert found.status_code == 200
    client.send("DELETE", f"/recordings/{found.json['sha256']}")


def test_a_conversion_that_ends_after_its_recording_went_leaves_nothing(house, client, raw):
    sha = finish(client, sent(client, raw)).json["sha256"]
    house.files.converting(sha).write_bytes(b"converted")
    client.send("DELETE", f"/recordings/{sha}")
    house.files.converting(sha).write_bytes(b"converted")  # the worker was about to end
    assert not house.files.keep_playable(sha)
    house.files.drop_conversion(sha)
    assert not house.files.playable(sha).exists()
    assert not house.files.converting(sha).exists()


def test_a_running_server_puts_away_what_was_left(client, app, house, database, raw):
    where = sent(client, raw)
    stray = house.files.path("ab" * 32)
    stray.parent.mkdir(exist_ok=True)
    stray.write_bytes(b"a file whose row was never written")
    young = house.files.path("cd" * 32)
    young.parent.mkdir(exist_ok=True)
    young.write_bytes(b"perhaps on its way")
    yesterday = time.time() - 25 * 3600
    for path in (*left_behind(app), stray):
        os.utime(path, (yesterday, yesterday))
    with database.transaction() as db, db.cursor() as cursor:
        cursor.execute("UPDATE upload SET begun_at = NOW() - INTERVAL 25 HOUR WHERE id = %s", (where,))
    house.keeper.tidy()
    assert left_behind(app) == []
    assert (stray.exists(), young.exists()) == (False, True)
    assert "not known any more" in finish(client, where).json["message"]
    assert all(house.files.path(one["sha256"]).exists() for one in client.get("/recordings").json["recordings"])
    young.unlink()


def test_a_film_that_takes_too_much_is_refused_and_the_server_stays(client, app, monkeypatch, raw):
    monkeypatch.setattr(recordings, "probe", takes_everything)
    answer = finish(client, sent(client, raw))
    assert (answer.status_code, "too much memory or time" in answer.json["message"]) == (422, True)
    monkeypatch.setattr(recordings, "probe", dies)
    answer = finish(client, sent(client, raw))
    assert (answer.status_code, "too much memory or time" in answer.json["message"]) == (422, True)
    monkeypatch.undo()
    found = upload(client, raw)
    assert found.status_code == 200
    client.send("DELETE", f"/recordings/{found.json['sha256']}")


def takes_everything(_: object) -> bytes:
    return b"x" * 8_000_000_000


def dies(_: object) -> None:
    os._exit(9)
