"""Requests that can be written, from the interface's own description: as it says, and as nobody should.

Each operation has one good request, which must reach an answer; others are made from its schema with the ids of
things that are there, or by spoiling the good one. None may be answered by an accident inside.
"""

from __future__ import annotations

import copy
import json
import random
import uuid
import warnings
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import Any

import schemathesis
from hypothesis import HealthCheck, Phase, given, seed, settings

from aretane.settings import ROOT
from tests.conftest import DEMO, Client, rack_change
from tests.web.test_hostile import spoiled

DOCUMENT = json.loads((ROOT / "docs" / "openapi.json").read_text())
SCHEMA = schemathesis.openapi.from_dict(copy.deepcopy(DOCUMENT))
BALLS = {"cue": [0.62, 0.4], "3": [1.31, 0.96]}
ADD = {"do": "add", "at": 20.0}
STROKE = {"speed": 2.0, "at": "3", "pocket": "foot-left"}
STRANGE = [
    "", "0", "-1", "null", "..", "%00", "é", "\U0001f3b1", "x" * 3000, "1e309", "' OR 1=1 --", "a/b",
    str(uuid.UUID(int=0)), "{}", "[" * 200,
]  # fmt: skip

Route = tuple[str, str]  # method and path


def routes() -> list[Route]:
    return [(method.upper(), path) for path, methods in DOCUMENT["paths"].items() for method in methods]


@dataclass
class Sent:
    """One request: path and query with their values, a body as data or as bytes."""

    path: dict[str, str]
    query: dict[str, Any] = field(default_factory=dict)
    body: Any = None
    raw: bytes | None = None


class World:
    """A club with a match, a recording, an upload and a question, made anew where a request has removed them."""

    def __init__(self, client: Client) -> None:
        self.client = client
        self.film = (DEMO / "rack.mp4").read_bytes()
        client.http.application.extensions["aretane"].house.files.room = lambda: (
            10**15
        )  # others' claims are no matter
        self.match = json.loads((DEMO / "matches" / "nine-ball.json").read_bytes())
        self.game: dict[str, Any] = {}
        self.sha256 = ""

    def ids(self) -> dict[str, str]:
        if not self.game or self.client.get(f"/games/{self.game['id']}").status_code != 200:
            self.game = self.client.send("POST", "/games/import", data=json.dumps(self.match).encode()).json
        if not self.sha256 or self.client.get(f"/recordings/{self.sha256}").status_code != 200:
            self.sha256 = self.client.post(f"/uploads/{self.upload()}/finish", {"name": "rack"}).json["sha256"]
        return {
            "game_id": self.game["id"], "shot_id": self.game["racks"][0]["shots"][2]["id"], "sha256": self.sha256,
            "direction": "undo", "hash": "ab" * 32, "offset": "0", "kind": "html",
        }  # fmt: skip

    def upload(self, *, whole: bool = True) -> str:
        upload = str(self.client.post("/uploads", {"size": len(self.film), "name": "rack"}).json["upload"])
        if whole:
            self.client.send("PUT", f"/uploads/{upload}/0", data=self.film)
        return upload

    def good(self, route: Route) -> Sent:
        """A request that is answered, or as it should be refused (`REFUSED`)."""
        ids = self.ids()
        make = GOOD.get(route, lambda world: Sent({}))
        sent = make(self)
        names = [part[1:-1].rpartition(":")[2] for part in route[1].split("/") if part.startswith("{")]
        return Sent(
            {name: sent.path.get(name, ids.get(name, "")) for name in names}, sent.query, sent.body, sent.raw
        )


def _reading(world: World) -> None:
    body = {"id": str(uuid.uuid4()), "begin": 0, "end": 1, "marked_at": 0.5}
    world.client.post(f"/games/{world.game['id']}/reading", body)
    world.client.post(f"/games/{world.game['id']}/reading/stop")


def _after_reading(sent: Sent) -> Callable[[World], Sent]:
    def make(world: World) -> Sent:
        _reading(world)
        return sent

    return make


def _after_correction(world: World) -> Sent:
    _reading(world)
    world.client.post(f"/games/{world.game['id']}/reading/corrections", ADD)
    return Sent({})


def _operation(**more: Any) -> dict[str, Any]:
    return {"id": str(uuid.uuid4()), "client": str(uuid.uuid4()), "seen": 2**60, **more}


def _after_change(world: World) -> Sent:
    body = _operation(label="x", changes=[rack_change(world.game)])
    world.client.post(f"/games/{world.game['id']}/operations", body)
    return Sent({}, body=_operation(client=body["client"]))


def _ledger_of_no_shot(world: World) -> Sent:
    """A whole match is judged for minutes; this one has nothing to judge."""
    document = {**world.match, "racks": [], "recordings": []}
    made = world.client.post("/games", {"id": str(uuid.uuid4()), "document": document}).json
    return Sent({"game_id": made["id"]}, body={"care": "coarse"})


PAPER = b"date,player,game,pots made,pots missed\n2026-11-01,Somebody,snooker,1,2\n"


def _somebody(world: World) -> Sent:
    world.client.send("POST", "/paper", data=PAPER)
    players = world.client.get("/players").json["players"]
    return Sent({"player": str(players[0]["id"])}, body={"joined_to": None})


PLANNED = {"id": str(uuid.uuid4()), "player": "Somebody", "begins": "2026-12-01T18:00:00", "minutes": 60}


def _planned(world: World) -> Sent:
    world.client.send("PUT", "/plan", PLANNED)
    return Sent({"planned": str(PLANNED["id"])})


def _riddle(world: World) -> Sent:
    shot = world.game["racks"][0]["shots"][2]["id"]
    body = {"id": str(uuid.uuid4()), "game": world.game["id"], "shot": shot}
    made = world.client.post("/riddles", body).json
    return Sent({"riddle": made["id"]}, body={"name": "somebody", "intent": "attack"})


def _clip(world: World) -> Sent:
    """A film of a moment that the recording has."""
    shot = next(
        one["id"]
        for rack in world.game["racks"]
        for one in rack["shots"]
        if (one["document"].get("time") or {}).get("contact") is not None
    )
    made = world.client.post(f"/games/{world.game['id']}/clips", {"shots": [shot]}).json
    return Sent({"clip": made["clip"]}, body={"shots": [shot]})


def _exercise(world: World) -> str:
    shot = world.game["racks"][0]["shots"][2]["id"]
    body = {"id": str(uuid.uuid4()), "game": world.game["id"], "shot": shot}
    return str(world.client.post("/exercises", body).json["id"])


NUMBER = "55555555-5555-4555-8555-555555555555"
ATTEMPT = {"id": NUMBER, "player": "A", "result": "made", "at": "2026-11-01T10:00:00Z"}


BARE = {"discipline": "nine-ball", "balls": {"cue": [1, 0.6], "9": [1.6, 0.6]}}
TABLE = {"id": NUMBER, "name": "mine", **BARE}


def _kept(world: World) -> Sent:
    world.client.post("/kept-tables", TABLE)
    return Sent({"kept": NUMBER})


def _marks(world: World) -> Any:
    return world.match["recordings"][0]["views"][0]["camera"]["marks"]


REFUSED = {
    ("GET", "/api/games/{game_id}/reading/table"): 422,  # nothing was read from which a table could be told
    ("GET", "/api/games/{game_id}/report/{kind}"): 422,  # nobody has judged it
    ("GET", "/api/report/{kind}"): 422,  # nobody has judged any
    ("GET", "/api/clips/{clip}/file"): 404,  # not made yet
    ("GET", "/api/games/{game_id}/shots/{shot_id}/voice"): 404,  # nobody has said anything
    ("PUT", "/api/games/{game_id}/shots/{shot_id}/voice"): 422,  # no recorded voice
}

GOOD: dict[Route, Callable[[World], Sent]] = {
    ("POST", "/api/camera"): lambda w: Sent({}, body={"marks": _marks(w), "width": 960, "height": 540}),
    ("POST", "/api/choices"): lambda w: Sent({}, body={"discipline": "nine-ball", "balls": BALLS}),
    ("POST", "/api/measure"): lambda w: Sent(
        {},
        body={
            "discipline": "nine-ball",
            "balls": BALLS,
            "drawings": [{"kind": "line", "points": [[1, 0.5], [2, 1]]}],
        },
    ),
    ("GET", "/api/games/moments"): lambda w: Sent({}, {"search": "went"}),
    ("GET", "/api/figures/shots"): lambda w: Sent({}, {"by": "kind", "name": "pot"}),
    ("GET", "/api/question/shots"): lambda w: Sent({}, {"by": "kind", "key": "pot"}),
    ("PUT", "/api/questions"): lambda w: Sent({}, body={"name": "cuts", "asked": "by=cut"}),
    ("DELETE", "/api/questions"): lambda w: Sent({}, {"name": "cuts"}),
    ("PUT", "/api/players/{player}"): _somebody,
    ("POST", "/api/games/{game_id}/clips"): _clip,
    ("GET", "/api/clips/{clip}"): _clip,
    ("DELETE", "/api/clips/{clip}"): _clip,
    ("PUT", "/api/games/{game_id}/shots/{shot_id}/voice"): lambda w: Sent({}, raw=b"no sound at all"),
    ("POST", "/api/exercises"): lambda w: Sent(
        {}, body={"id": str(uuid.uuid4()), "game": w.game["id"], "shot": w.game["racks"][0]["shots"][2]["id"]}
    ),
    ("POST", "/api/exercises/layouts"): lambda w: Sent(
        {}, body={"id": str(uuid.uuid4()), "game": w.game["id"], "shot": w.game["racks"][0]["shots"][2]["id"]}
    ),
    ("POST", "/api/exercises/runs"): lambda w: Sent({}, body={"id": str(uuid.uuid4()), "title": "alone"}),
    ("POST", "/api/riddles"): lambda w: Sent(
        {}, body={"id": str(uuid.uuid4()), "game": w.game["id"], "shot": w.game["racks"][0]["shots"][2]["id"]}
    ),
    ("GET", "/api/riddles/{riddle}"): lambda w: Sent(_riddle(w).path),
    ("DELETE", "/api/riddles/{riddle}"): lambda w: Sent(_riddle(w).path),
    ("POST", "/api/riddles/{riddle}/answers"): _riddle,
    ("PUT", "/api/plan"): lambda w: Sent({}, body=PLANNED),
    ("DELETE", "/api/plan/{planned}"): _planned,
    ("GET", "/api/report/{kind}"): lambda w: Sent({"kind": "html"}, {"player": "1"}),
    ("GET", "/api/to-practise"): lambda w: Sent({}, {"player": "1"}),
    ("GET", "/api/exercises/{exercise}"): lambda w: Sent({"exercise": _exercise(w)}),
    ("DELETE", "/api/exercises/{exercise}"): lambda w: Sent({"exercise": _exercise(w)}),
    ("GET", "/api/exercises/{exercise}/card/{kind}"): lambda w: Sent({"exercise": _exercise(w), "kind": "html"}),
    ("POST", "/api/exercises/{exercise}/attempts"): lambda w: Sent(
        {"exercise": _exercise(w)}, body={"attempts": [ATTEMPT]}
    ),
    ("DELETE", "/api/exercises/{exercise}/attempts/{attempt}"): lambda w: Sent(
        {"exercise": _exercise(w), "attempt": ATTEMPT["id"]}
    ),
    ("POST", "/api/kept-tables"): lambda w: Sent({}, body=TABLE),
    ("POST", "/api/kept-tables/search"): lambda w: Sent({}, body={"words": "mine", "like": BARE}),
    ("DELETE", "/api/kept-tables/{kept}"): _kept,
    ("POST", "/api/paper"): lambda w: Sent({}, raw=PAPER),
    ("POST", "/api/games"): lambda w: Sent(
        {}, body={"id": str(uuid.uuid4()), "document": {**w.match, "racks": [], "recordings": []}}
    ),
    ("POST", "/api/games/import"): lambda w: Sent({}, raw=json.dumps(w.match).encode()),
    ("POST", "/api/games/{game_id}/choices"): lambda w: Sent(
        {},
        body={
            "shot": w.game["racks"][0]["shots"][2]["id"],
            "balls": w.game["racks"][0]["shots"][2]["before"]["balls"],
        },
    ),
    ("POST", "/api/games/{game_id}/ledger"): _ledger_of_no_shot,
    ("POST", "/api/games/{game_id}/operations"): lambda w: Sent(
        {}, body=_operation(label="x", changes=[rack_change(w.game)])
    ),
    ("POST", "/api/games/{game_id}/reading"): lambda w: Sent(
        {}, body={"id": str(uuid.uuid4()), "begin": 0, "end": 1, "marked_at": 0.5}
    ),
    ("DELETE", "/api/games/{game_id}/reading/corrections"): _after_correction,
    ("POST", "/api/games/{game_id}/reading/corrections"): _after_reading(Sent({}, body=ADD)),
    ("POST", "/api/games/{game_id}/reading/stop"): _after_reading(Sent({})),
    ("GET", "/api/games/{game_id}/still"): lambda w: Sent({}, {"at": 1.0}),
    ("POST", "/api/games/{game_id}/{direction}"): _after_change,
    ("GET", "/api/hand"): lambda w: Sent({}, {"player": 1}),
    ("POST", "/api/reach"): lambda w: Sent(
        {},
        body={"discipline": "nine-ball", "balls": BALLS, "ball": "3", "pocket": "foot-left", "to": [1.0, 0.6]},
    ),
    ("POST", "/api/send"): lambda w: Sent(
        {}, body={"discipline": "nine-ball", "balls": BALLS, "ball": "3", "to": [1.0, 0.6]}
    ),
    ("POST", "/api/bank"): lambda w: Sent({}, body={"discipline": "nine-ball", "balls": BALLS, "ball": "3"}),
    ("POST", "/api/lines"): lambda w: Sent({}, body={"discipline": "nine-ball", "balls": BALLS}),
    ("POST", "/api/kick"): lambda w: Sent({}, body={"discipline": "nine-ball", "balls": BALLS, "ball": "3"}),
    ("POST", "/api/read"): lambda w: Sent(
        {}, body={"discipline": "nine-ball", "balls": BALLS, "ball": "3", "pocket": "foot-left"}
    ),
    ("POST", "/api/recordings/{sha256}/outline"): lambda w: Sent({}, body={"table": "pool-9ft", "at": 1.0}),
    ("POST", "/api/simulate"): lambda w: Sent(
        {}, body={"discipline": "nine-ball", "balls": BALLS, "stroke": STROKE, "samples": 20}
    ),
    ("POST", "/api/uploads"): lambda w: Sent({}, body={"size": 100, "name": "x"}),
    ("DELETE", "/api/uploads/{upload}"): lambda w: Sent({"upload": w.upload(whole=False)}),
    ("POST", "/api/uploads/{upload}/finish"): lambda w: Sent({"upload": w.upload()}, body={"name": "x"}),
    ("PUT", "/api/uploads/{upload}/{offset}"): lambda w: Sent({"upload": w.upload(whole=False)}, raw=b"abc"),
}


def send(client: Client, route: Route, sent: Sent) -> Any:
    from urllib.parse import quote

    path = route[1].removeprefix("/api")
    for name, value in sent.path.items():
        path = path.replace("{int:" + name + "}", "{" + name + "}").replace("{" + name + "}", quote(value, safe=""))
    more: dict[str, Any] = {"query_string": sent.query} if sent.query else {}
    if sent.raw is not None:
        more["data"] = sent.raw
    elif sent.body is not None:
        more["data"] = json.dumps(sent.body)
    if "data" in more and not route[1].startswith("/api/uploads/{upload}/{"):
        more["content_type"] = "application/json"
    return client.send(route[0], path, **more)


def spoilt(world: World, route: Route, dice: random.Random) -> Sent:
    """The good request with one thing in it changed."""
    sent = world.good(route)
    targets = [name for name, there in (("path", sent.path), ("query", sent.query)) if there]
    targets += ["body"] if sent.body is not None else ["raw"] if sent.raw is not None else []
    target = dice.choice([*targets, "query"])
    if target == "path":
        sent.path = {**sent.path, dice.choice(list(sent.path)): dice.choice(STRANGE[1:])}
    elif target == "query":
        sent.query = {**sent.query, dice.choice([*sent.query, "begin", "search", "x"]): dice.choice(STRANGE)}
    elif target == "body":
        sent.body = spoiled(copy.deepcopy(sent.body), dice)
    else:
        raw = sent.raw or b""
        at = dice.randrange(len(raw) + 1)
        sent.raw = dice.choice(
            [raw[:at], raw[:at] + b"\xff\x00" + raw[at:], b"[" * 5000, b"", b"null", b'"\\ud800"']
        )
    return sent


def generated(world: World, route: Route, many: int, start: int | None = None) -> Iterator[Sent]:
    """Requests as the schema has them, with what is there in the place of most ids; without a `start` always
    the same ones."""
    operation = SCHEMA[route[1]][route[0]]
    found: list[Any] = []

    @(seed(start) if start is not None else lambda test: test)
    @settings(
        max_examples=many, deadline=None, database=None, derandomize=start is None, phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )  # fmt: skip
    @given(operation.as_strategy())
    def collect(case: Any) -> None:
        found.append(case)

    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        collect()
    dice = random.Random(start)
    for case in found:
        good = world.good(route)
        path = {
            name: value if dice.random() < 0.8 else str((case.path_parameters or {}).get(name, value)) or "x"
            for name, value in good.path.items()
        }
        body = case.body if isinstance(case.body, dict | list | str | int | float | bool) else None
        yield Sent(path, dict(case.query or {}), body, good.raw if body is None else None)


def trouble(answer: Any) -> str | None:
    """What is wrong with an answer: an accident inside, or a refusal without a word."""
    if answer.status_code >= 500:
        return f"{answer.status_code}: {answer.text[:300]}"
    if answer.status_code >= 400 and not (answer.is_json and answer.json.get("message")):
        return f"{answer.status_code} without a word: {answer.text[:300]}"
    return None
