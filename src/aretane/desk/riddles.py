"""A shot asked as a question: the table stands still, what comes is hidden until people have said what to play."""

from __future__ import annotations

from collections import Counter
from dataclasses import asdict
from typing import Any

from aretane.core.errors import InputError, Refused
from aretane.core.words import ball_words, pocket_words
from aretane.desk import ledger
from aretane.desk.house import House
from aretane.desk.table_view import table_as_answer
from aretane.store import riddles
from aretane.store.database import Db
from aretane.store.riddles import Guess, Riddle
from aretane.store.scope import Scope

MOST_ANSWERS = 500


def make(house: House, scope: Scope, id_: str, game_id: str, shot_id: str) -> dict[str, Any]:
    with house.database.transaction() as db:
        before = house.recent.find(db, scope, game_id).shot(shot_id).before
    if before is None or not before.object_balls:
        raise Refused("nobody has said where the balls lay before this shot")
    house.database.write(lambda db: riddles.make(db, scope, Riddle(id_, game_id, shot_id)))
    return told(house, scope, id_)


def told(house: House, scope: Scope, id_: str, *, shown: bool = False) -> dict[str, Any]:
    """The table as it stands; what people said, what was played and what is computed only where it is `shown`."""
    with house.database.transaction() as db:
        one = riddles.find(db, scope, id_)
        known = house.recent.find(db, scope, one.game_id)
        guesses = riddles.answers(db, one)
    shot = known.shot(one.shot_id)
    assert shot.before is not None
    data = shot.data
    header = known.match.header.document
    film = _film(header, data)
    return {
        "id": one.id,
        "game": one.game_id,
        "discipline": shot.before.discipline,
        "table": table_as_answer(shot.before.table),
        "balls": shot.before.balls,
        "player": _name(header, str(data.get("player") or "")),
        "film": film,
        "n": len(guesses),
        "shown": _shown(house, scope, one, data, guesses, shot.before.discipline) if shown else None,
    }


def answered(house: House, scope: Scope, id_: str, guess: Guess) -> dict[str, Any]:
    """Take in what somebody would play. Raises `InputError`, `Refused`."""
    name = guess.name.strip()
    if not name:
        raise InputError("name", "say who answers")
    before = told(house, scope, id_)
    if guess.ball is not None and guess.ball not in before["balls"]:
        raise InputError("ball", f"{guess.ball} is not on the table")

    def write(db: Db) -> None:
        one = riddles.find(db, scope, id_)
        given = riddles.answers(db, one)
        if len(given) >= MOST_ANSWERS and all(other.name != name for other in given):
            raise Refused(f"{MOST_ANSWERS} people have answered; ask it anew")
        riddles.answer(db, one, Guess(**{**vars(guess), "name": name}))

    house.database.write(write)
    return told(house, scope, id_)


def drop(house: House, scope: Scope, id_: str) -> None:
    house.database.write(lambda db: riddles.drop(db, scope, id_))


def _shown(house: House, scope: Scope, one: Riddle, data: Any, guesses: list[Guess], game: str) -> dict[str, Any]:
    """Answers counted, the most frequent first, beside what was played and what the ledger says of it."""
    counted = Counter(_choice(guess.intent, guess.ball, guess.pocket, game) for guess in guesses)
    felt = [guess.felt for guess in guesses if guess.felt is not None]
    called = data.get("called") or {}
    intent = "safety" if "safety" in (data.get("intent"), data.get("declared")) else "attack"
    return {
        "answers": [asdict(guess) for guess in guesses],
        "counted": [{"words": words, "n": n} for words, n in counted.most_common()],
        "felt": sum(felt) / len(felt) if felt else None,
        "played": _choice(intent, called.get("ball"), called.get("pocket"), game),
        "result": str(data.get("result") or ""),
        "stopped": list(_stop(house, scope, one) or ()) or None,
        "computed": _computed(house, scope, one),
    }


def _choice(intent: str, ball: str | None, pocket: str | None, game: str) -> str:
    where = f" {pocket_words(pocket, game)}" if pocket else ""
    return f"{intent}: {ball_words(ball)}{where}" if ball else intent


def _stop(house: House, scope: Scope, one: Riddle) -> tuple[float, float] | None:
    with house.database.transaction() as db:
        after = house.recent.find(db, scope, one.game_id).shot(one.shot_id).after
    return after.cue if after is not None else None


def _computed(house: House, scope: Scope, one: Riddle) -> dict[str, Any] | None:
    """The best by the numbers and what was played by them, where the match is judged as it stands."""
    found = ledger.known(house, scope, one.game_id)
    if not found["current"]:
        return None
    every = (entry for rack in found["body"]["racks"] for entry in rack["shots"])
    entry = next((each for each in every if each.get("id") == one.shot_id), None)
    if entry is None or entry["better"] is None:
        return None
    return {
        "best": f"{entry['better']['words']['title']}, {entry['better']['words']['stroke']}",
        "path": entry["better"]["path"],
        "worth": entry["before"],
        "played_worth": entry["chosen"],
        "pot": (entry["played"] or {}).get("pot"),
        "unit": found["body"].get("unit") or "points",
    }


def _film(header: Any, data: Any) -> dict[str, Any] | None:
    """The recording, from its still picture to rest."""
    time, recording = data.get("time") or {}, data.get("recording")
    entries = header.get("recordings") or []
    if time.get("start") is None or recording is None or not 0 <= recording < len(entries):
        return None
    return {"sha256": entries[recording]["sha256"], "still": time["start"], "rest": time.get("still")}


def _name(header: Any, seat: str) -> str:
    return str(((header.get("players") or {}).get(seat) or {}).get("name") or seat)
