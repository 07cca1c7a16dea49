"""The derived rows that figures read: one a stroke."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass
from typing import Any

import orjson

from aretane.core.review.break_facts import BreakFact
from aretane.core.review.partners import SEATS, who_played
from aretane.core.review.position import PositionError
from aretane.core.review.replay import replay
from aretane.core.review.shot_facts import VERSION, ShotFact, shot_facts
from aretane.core.review.skill_fact import SkillFact
from aretane.store.club import player_id
from aretane.store.database import Db
from aretane.store.games import Game, load
from aretane.store.scope import Scope

_COLUMNS = (
    "game_id, shot_id, version, club_id, player_id, session, discipline, rack, shot, player, kind, intent,"
    " intent_source, ball, pocket, result, foul, tried, made, cut_angle, cut_side, cue_distance,"
    " pocket_distance, open, tolerance, travel, target_source, error, opening, skill"
)
_INSERT = f"INSERT INTO shot_fact ({_COLUMNS}) VALUES ({', '.join(['%s'] * 30)})"


@dataclass(frozen=True)
class StoredFact:
    """A fact with the shot it is about."""

    game_id: str
    shot_id: str
    player_name: str | None
    discipline: str
    fact: ShotFact


@dataclass(frozen=True)
class Filter:
    """Which shots figures are made of. None leaves a property free; sessions are never mixed unasked."""

    session: str | None = "match"
    discipline: str | None = None
    player: int | None = None
    game: str | None = None
    target_source: str | None = None


def rebuild(db: Db, scope: Scope, game: Game, facts: Sequence[ShotFact] | None = None, since: int = 0) -> None:
    """Write the rows of one match anew; `facts` are computed from it unless the caller has them already.

    Nothing flows back, so after a change in one rack only the rows `since` that rack have to be written.
    """
    match = game.as_match()
    facts = shot_facts(replay(match)) if facts is None else facts
    ids = [[shot.id for shot in shots] for _, shots in game.racks]
    names = who_played(match)
    known = {name for rack in names for name in rack if name} | _named(match)
    players = {name: player_id(db, scope, name) for name in sorted(known)}
    rows = [
        (
            game.id,
            ids[fact.rack][fact.shot],
            VERSION,
            scope.club_id,
            players.get(names[fact.rack][fact.shot] or ""),
            match.get("session") or "match",
            match["discipline"],
            fact.rack,
            fact.shot,
            fact.player,
            fact.kind,
            fact.intent,
            fact.intent_source,
            fact.ball,
            fact.pocket,
            fact.result,
            fact.foul,
            fact.tried,
            fact.made,
            fact.cut_angle,
            fact.cut_side,
            fact.cue_distance,
            fact.pocket_distance,
            fact.open,
            fact.tolerance,
            fact.travel,
            fact.target_source,
            orjson.dumps(asdict(fact.error)).decode() if fact.error else None,
            orjson.dumps(asdict(fact.opening)).decode() if fact.opening else None,
            orjson.dumps(asdict(fact.skill)).decode(),
        )
        for fact in facts
        if fact.rack >= since
    ]
    with db.cursor() as cursor:
        cursor.execute("DELETE FROM shot_fact WHERE game_id = %s AND rack >= %s", (game.id, since))
        cursor.executemany(_INSERT, rows)


def _named(match: dict[str, Any]) -> set[str]:
    """Everybody who is named, also before the first stroke."""
    sides = (match.get("players") or {}).values()
    return {str(side[seat]) for side in sides for seat in SEATS if side.get(seat)}


def rebuild_outdated(db: Db) -> int:
    """Rebuild the rows that an older version of the model made; returns how many matches that were."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT DISTINCT game.id, game.club_id, game.author_id"
            " FROM game JOIN shot_fact ON shot_fact.game_id = game.id "
            " WHERE game.deleted_at IS NULL AND shot_fact.version <> %s",
            (VERSION,),
        )
        outdated = cursor.fetchall()
    for row in outdated:
        scope = Scope(row["club_id"], row["author_id"], "", "")
        rebuild(db, scope, load(db, scope, row["id"]))
    return len(outdated)


def chosen(db: Db, scope: Scope, wanted: Filter) -> list[StoredFact]:
    """The facts that pass the filter, oldest match first, in the order of play."""
    clauses = ["shot_fact.club_id = %s"]
    values: list[int | str] = [scope.club_id]
    for column, value in (
        ("shot_fact.session", wanted.session),
        ("shot_fact.discipline", wanted.discipline),
        ("shot_fact.player_id", wanted.player),
        ("shot_fact.game_id", wanted.game),
        ("shot_fact.target_source", wanted.target_source),
    ):
        if value is not None:
            clauses.append(f"{column} = %s")
            values.append(value)
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT shot_fact.*, player.name AS player_name FROM shot_fact"
            " JOIN game ON game.id = shot_fact.game_id AND game.deleted_at IS NULL"
            " LEFT JOIN player ON player.id = shot_fact.player_id"
            f" WHERE {' AND '.join(clauses)} ORDER BY game.created_at, game.id, rack, shot",
            values,
        )
        return [_stored(row) for row in cursor.fetchall()]


def _stored(row: dict[str, Any]) -> StoredFact:
    error = orjson.loads(row["error"]) if row["error"] else None
    if error:
        error["vector"] = tuple(error["vector"])
    names = ShotFact.__dataclass_fields__
    opening = orjson.loads(row["opening"]) if row["opening"] else None
    values = {name: row[name] for name in names if name not in ("error", "opening", "skill")}
    values["tried"], values["made"] = bool(row["tried"]), bool(row["made"])
    fact = ShotFact(
        **values,
        error=PositionError(**error) if error else None,
        opening=BreakFact(**opening) if opening else None,
        skill=SkillFact(**orjson.loads(row["skill"])) if row["skill"] else SkillFact(),
    )
    return StoredFact(row["game_id"], row["shot_id"], row["player_name"], row["discipline"], fact)
