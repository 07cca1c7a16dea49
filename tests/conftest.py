"""Shared by all tests: a private MariaDB for the session, an application on it, and the demo's match."""

from __future__ import annotations

import json
import shutil
import socket
import subprocess
import sys
import tempfile
import threading
import uuid
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from aretane.core.layout import Layout
from aretane.core.table import PRESETS
from aretane.settings import ROOT, Settings

DEMO = ROOT / "src" / "aretane" / "demo"


@pytest.fixture
def nine_foot():
    return PRESETS["pool-9ft"]


@pytest.fixture
def layout():
    """Make a nine-ball layout on a 9-ft table; ball 3 is the keyword `b3`."""

    def make(discipline: str = "nine-ball", table: str = "pool-9ft", **balls: tuple[float, float]) -> Layout:
        named = {name.removeprefix("b"): place for name, place in balls.items()}
        return Layout(PRESETS[table], discipline, named)

    return make


@pytest.fixture(scope="session")
def demo_match() -> dict[str, Any]:
    return json.loads((DEMO / "matches" / "nine-ball.json").read_bytes())


@pytest.fixture(scope="session")
def server():
    """A private database for this test session, thrown away afterwards."""
    from aretane.store.database import migrate
    from aretane.store.private_server import PrivateServer

    folder = Path(tempfile.mkdtemp(prefix="aretane-db-"))
    private = PrivateServer(folder, durable=False)
    try:
        migrate(private.ensure())
        yield private
    finally:
        private.stop()
        shutil.rmtree(folder, ignore_errors=True)


@pytest.fixture(scope="session")
def settings(tmp_path_factory) -> Settings:
    return Settings(tmp_path_factory.mktemp("var"), judges=False)  # other tests need the machine


@pytest.fixture(scope="session")
def database(server):
    from aretane.store.database import Database

    return Database(server.address(), server.ensure)


@pytest.fixture(scope="session")
def app(database, settings):
    from aretane.demo.load import load_demo
    from aretane.web.app import create_app

    made = create_app(settings, database)
    made.config["CHECK_ANSWERS"] = True
    house = made.extensions["aretane"].house
    load_demo(database, house.files)
    yield made
    house.close()


@pytest.fixture
def scope(app, database):
    """That of the coach of the demo's club."""
    from aretane.store.club import coach

    with database.transaction() as db:
        return coach(db)


@pytest.fixture
def judged(database, scope):
    """The demo's matches are judged as they stand, whatever other tests changed in them before."""
    from aretane.demo.load import game_of
    from aretane.demo.stories import STORIES
    from aretane.desk.work.judging import stamp_of
    from aretane.store import games, ledgers

    def stamped(db):
        for game in (game_of(story.discipline) for story in STORIES):
            kept = ledgers.find(db, scope, game, "coarse")
            now = stamp_of(games.load(db, scope, game).as_document(), kept.hands)
            if now != kept.stamp:
                ledgers.keep(db, scope, game, "coarse", now, kept.body)

    database.write(stamped)  # once more where a page that was just left is still writing


@pytest.fixture
def here(monkeypatch, capsys):
    """The same command within this process: a start of Python for each would take most of the time."""
    from aretane.cli import main

    def run(*arguments):
        monkeypatch.setattr(sys, "argv", ["aretane", *map(str, arguments)])
        capsys.readouterr()
        code = main()
        said = capsys.readouterr()
        return subprocess.CompletedProcess(arguments, code, said.out, said.err)

    return run


class Client:
    """The API as a page uses it: with the token, in JSON."""

    def __init__(self, app: Any) -> None:
        self.http = app.test_client()
        self.token = self.http.get("/api/session").json["csrf"]

    def send(self, method: str, path: str, body: Any = None, **more: Any) -> Any:
        headers = {"X-CSRFToken": self.token, **more.pop("headers", {})}
        if body is not None:
            more["json"] = body
        return self.http.open(f"/api{path}", method=method, headers=headers, **more)

    def get(self, path: str) -> Any:
        return self.send("GET", path)

    def post(self, path: str, body: Any = None, **more: Any) -> Any:
        return self.send("POST", path, body, **more)

    def matches(self) -> list[str]:
        """The ids of every match on the list, page by page."""
        found: list[str] = []
        while page := [game["id"] for game in self.get(f"/games?begin={len(found)}").json["games"]]:
            found += page
        return found

    def new_match(self, **more: Any) -> dict[str, Any]:
        document = {
            "format": "aretane-match",
            "version": 1,
            "discipline": "nine-ball",
            "title": "Test",
            "session": "lesson",
            "race_to": 5,
            "players": {"A": {"name": "Ann"}, "B": {"name": "Ben"}},
            **more,
        }
        answer = self.post("/games", {"id": str(uuid.uuid4()), "document": document})
        assert answer.status_code == 200, answer.text
        return answer.json

    def change(self, game: dict[str, Any], *changes: Any, client: str = "", seen: int | None = None) -> Any:
        operation = {
            "id": str(uuid.uuid4()),
            "client": client or str(uuid.UUID(int=1)),
            "seen": game["last_change"] if seen is None else seen,
            "label": "test",
            "changes": list(changes),
        }
        return self.post(f"/games/{game['id']}/operations", operation)


def rack_change(game: dict[str, Any], seat: float = 0, **document: Any) -> dict[str, Any]:
    document = {"breaker": "A", **document}
    return {"kind": "rack", "id": str(uuid.uuid4()), "parent": game["id"], "seat": seat, "document": document}


def shot_change(rack: dict[str, Any], seat: float, id: str = "", **document: Any) -> dict[str, Any]:
    return {
        "kind": "shot",
        "id": id or str(uuid.uuid4()),
        "parent": rack["id"],
        "seat": seat,
        "document": document,
    }


@pytest.fixture
def client(app) -> Client:
    return Client(app)


@pytest.fixture(scope="session")
def site(app) -> Iterator[str]:
    """The application on a real port, for the browser."""
    from aretane.serving import wired

    listener = socket.socket()
    listener.bind(("127.0.0.1", 0))
    server = wired(app, listener)
    thread = threading.Thread(target=server.run, daemon=True)
    thread.start()
    yield f"http://127.0.0.1:{listener.getsockname()[1]}"
    server.close()
    thread.join(timeout=5)
