"""`./aretane bench --load`: what happens under load, faults and hostile input, as one JSON object a line.

Name parts to run only those: crowd, season, kills, questions, fuzz, films, soak, keys (`--keys` alone runs it).
"""

from __future__ import annotations

import functools
import json
import random
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

import numpy as np

from tests.conftest import DEMO, Client, shot_change
from tests.load.crowd import crowd, evenings
from tests.load.films import films
from tests.load.keys import keys
from tests.load.kills import kills
from tests.load.questions import questions
from tests.load.serving import Served
from tests.load.start_page import start_page

MATCH = json.loads((DEMO / "matches" / "nine-ball.json").read_bytes())


def on_a_server(part: Callable[[Served], dict[str, Any]]) -> dict[str, Any]:
    with tempfile.TemporaryDirectory(prefix="aretane-load-") as folder:
        served = Served(Path(folder) / "var")
        served.start()
        try:
            return part(served)
        finally:
            took = served.stop()
            print(json.dumps({"ended_within_s": round(took, 1)}), flush=True)


def in_process(part: Callable[[Any, Path], dict[str, Any]]) -> dict[str, Any]:
    """On the application itself, without a network: milliseconds at the server."""
    from aretane.demo.load import load_demo
    from aretane.settings import Settings
    from aretane.store.database import Database, migrate
    from aretane.store.private_server import PrivateServer
    from aretane.web.app import create_app

    with tempfile.TemporaryDirectory(prefix="aretane-load-") as folder:
        settings = Settings(Path(folder), room=10**18, judges=False)
        private = PrivateServer(settings.database)
        database = Database(private.ensure(), private.ensure)
        migrate(database.address)
        app = create_app(settings, database)
        house = app.extensions["aretane"].house
        load_demo(database, house.files)
        try:
            return part(app, Path(folder))
        finally:
            house.close()
            private.stop()


QUESTIONS = {
    "pots_by_cut": "measure=pots&by=cut",
    "two_players_on_the_same_shots": "measure=pots&by=way&player=7&versus=6",
    "over_the_days": "measure=pots&by=day",
    "position_by_tip": "measure=along&by=tip",
    "safeties_by_opponent": "measure=safeties&by=opponent",
    "racks_after_a_chance": "measure=fulfilled&by=month",
    "decisions_by_player": "measure=decision&by=player",
    "on_the_table": "measure=zone&by=stopped",
    "pots_by_where_the_white_lay": "measure=pots&by=lay&player=7&versus=6",
    "calibration": "measure=pots&by=likely",
    "across_the_mouth": "measure=mix&by=mouth",
    "kinds_of_sessions": "measure=pots&by=session",
    "price_of_an_error": "measure=pots&by=missed_band&phase=recovery",
    "streaks": "measure=along&by=nothing&player=7",
    "exchanges": "measure=exchanges&by=player&stake=1",
    "own_breaks": "measure=broke&by=player",
    "travel": "measure=travel&by=cut",
    "soft_draw_when_behind": "measure=zone&by=rails&tip=draw&pace=soft&standing=behind",
}


def season(app: Any, _: Path) -> dict[str, Any]:
    """2,000 matches of 83 shots."""
    from aretane.demo.load import game_of
    from tests.load.season import fill

    fill(app.extensions["aretane"].house.database, 2000)
    client = Client(app)
    game = client.get(f"/games/{game_of('nine-ball')}").json

    def log() -> None:
        shot = shot_change(game["racks"][-1], 1000 + time.monotonic(), player="A", kind="pot")
        assert client.change(game, shot, seen=2**60).status_code == 200

    acts: dict[str, Callable[[], Any]] = {
        "list": lambda: client.get("/games"),
        "list_by_player_and_days": lambda: client.get(
            "/games?player=Ilse+Marwood&since=2026-01-01&until=2026-02-01&search=ladder"
        ),
        "moments": lambda: client.get("/games/moments?search=looked+up"),
        "figures": lambda: client.get("/figures"),
        "figures_of_a_game": lambda: client.get("/figures?discipline=nine-ball"),
        "shots_behind": lambda: client.get("/figures/shots?by=cell&name=6"),
        **{name: functools.partial(client.get, f"/question?{asked}") for name, asked in QUESTIONS.items()},
        "shots_of_an_answer": lambda: client.get("/question/shots?by=cut&key=1"),
        "alike": lambda: client.get(f"/games/{game['id']}/shots/{game['racks'][0]['shots'][2]['id']}/alike"),
        "felt": lambda: client.get("/felt"),
        "log_a_shot": log,
    }
    found = {name: _median(act) for name, act in acts.items()}
    return {"matches": 2000, "median_ms": {**found, "start_page_in_the_browser": start_page(app)}}


def _median(act: Callable[[], Any], times: int = 11) -> float:
    took = []
    for _ in range(times):
        begun = time.perf_counter()
        act()
        took.append(time.perf_counter() - begun)
    return round(1000 * float(np.median(took)), 1)


def fuzz(app: Any, _: Path, cases: int = 20_000) -> dict[str, Any]:
    from tests.load import fuzz as fuzzing

    world, routes = fuzzing.World(Client(app)), fuzzing.routes()
    dice, accidents, slowest, sent = random.Random(1), 0, 0.0, 0
    slow = {("POST", "/api/recordings/{sha256}/outline"), ("GET", "/api/games/{game_id}/still")}  # read pictures
    while sent < cases:
        for route in routes:
            many = 1 if route in slow else 20
            requests = [fuzzing.spoilt(world, route, dice) for _ in range(many)]
            requests += fuzzing.generated(world, route, many, dice.randrange(10**6))
            for one in requests:
                begun = time.monotonic()
                wrong = fuzzing.trouble(fuzzing.send(world.client, route, one))
                slowest, sent = max(slowest, time.monotonic() - begun), sent + 1
                if wrong:
                    accidents += 1
                    print(json.dumps({"route": route, "sent": str(one)[:400], "answer": wrong}), flush=True)
    return {"cases": sent, "accidents": accidents, "slowest_s": round(slowest, 1)}


def soak(served: Served, minutes: float = 60) -> dict[str, Any]:
    """The same crowd for long: megabytes after ten minutes and at the end."""
    games = evenings(served, MATCH)  # the same all along: other matches would be kept in memory beside them
    early = crowd(served, games, 60 * min(10, minutes / 2))
    late = crowd(served, games, 60 * max(minutes - 10, minutes / 2))
    return {
        "minutes": minutes,
        "early_mb": early["memory_mb"],
        "late_mb": late["memory_mb"],
        "errors": late["errors"],
    }


PARTS: dict[str, Callable[[], dict[str, Any]]] = {
    "crowd": lambda: on_a_server(lambda served: crowd(served, evenings(served, MATCH), 120)),
    "season": lambda: in_process(season),
    "questions": lambda: on_a_server(lambda served: questions(served, 30)),
    "kills": lambda: on_a_server(lambda served: kills(served, 60)),
    "films": lambda: on_a_server(lambda served: films(served, 1000)),
    "fuzz": lambda: in_process(fuzz),
    "soak": lambda: on_a_server(soak),
    "keys": lambda: on_a_server(lambda served: keys(served, MATCH)),
}


def main() -> None:
    wanted = sys.argv[1:] or list(PARTS)
    for name in wanted:
        if name not in PARTS:
            sys.exit(f"there is no part {name!r}; there are {', '.join(PARTS)}")
        print(json.dumps({name: PARTS[name]()}), flush=True)


if __name__ == "__main__":
    main()
