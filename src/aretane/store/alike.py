"""The shots of a club that are most like one, told by the database."""

from __future__ import annotations

from dataclasses import astuple, fields

from aretane.core.review.alike import FAR, MIDDLE, UNITS, Likeness
from aretane.store.database import Db
from aretane.store.scope import Scope
from aretane.store.shot_figures import ShotRow, strokes_where

_APART = " + ".join(
    f"COALESCE(POW((shot_fact.{name} - %(like_{name})s) / {unit!r}, 2), 1)" for name, unit in UNITS.items()
)
_NEAR = " AND ".join(
    f"shot_fact.{name} BETWEEN %(like_{name})s - {FAR * UNITS[name]!r} AND %(like_{name})s + {FAR * UNITS[name]!r}"
    for name in ("cut_angle", "cue_distance", "pocket_distance")
)


def alike(
    db: Db, scope: Scope, like: Likeness, but: str, least: float, many: int
) -> tuple[int, int, list[ShotRow]]:
    """Shots less than `least` apart from it, the nearest first, at most `many`; `but` the shot itself. How many
    there are, and how many of them were made.
    """
    where, given = _like(scope, like, least)
    where, given = f"{where} AND shot_id <> %(but)s", {**given, "but": but}
    with db.cursor() as cursor:
        along = f"shot_fact FORCE INDEX (alike) WHERE {where}"  # found along the index alone, then read
        cursor.execute(f"SELECT COUNT(*) AS n, COALESCE(SUM(made), 0) AS made FROM {along}", given)
        told = cursor.fetchone() or {"n": 0, "made": 0}
        cursor.execute(f"SELECT game_id, shot_id FROM {along} ORDER BY {_APART}, shot_id LIMIT {many}", given)
        ids = [(row["game_id"], row["shot_id"]) for row in cursor.fetchall()]
    if not ids:
        return 0, 0, []
    near = "shot_fact.club_id = %(club)s AND (shot_fact.game_id, shot_fact.shot_id) IN %(ids)s"
    _, rows = strokes_where(db, near, {"club": scope.club_id, "ids": tuple(ids)}, 0, many)
    rows.sort(key=lambda row: ids.index((row.game_id, row.shot_id)))
    return int(told["n"]), int(told["made"]), rows


def before_and_since(
    db: Db, scope: Scope, like: Likeness, least: float, player: str, day: int
) -> tuple[tuple[int, int], tuple[int, int]]:
    """Such shots of a player in matches, before a day and from it on: how many were made, of how many. `day` counts
    from the first of January of the year 1.
    """
    where, given = _like(scope, like, least)
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT TO_DAYS(played_on) - 365 >= %(day)s AS since, COUNT(*) AS n, SUM(made) AS made FROM shot_fact"
            " JOIN player ON player.id = player_id LEFT JOIN player AS other ON other.id = player.joined_to"
            f" WHERE {where} AND session = 'match' AND COALESCE(other.name, player.name) = %(player)s"
            " GROUP BY since",
            {**given, "player": player, "day": day},
        )
        found = {bool(row["since"]): (int(row["made"]), int(row["n"])) for row in cursor.fetchall()}
    return found.get(False, (0, 0)), found.get(True, (0, 0))


def _like(scope: Scope, like: Likeness, least: float) -> tuple[str, dict[str, object]]:
    """Shots of the club less than `least` apart from it."""
    given = {f"like_{field.name}": value for field, value in zip(fields(like), astuple(like), strict=True)}
    given |= {"club": scope.club_id, "least": least**2, "middle": f"{MIDDLE}%"}
    pocket = "LIKE" if like.middle else "NOT LIKE"
    where = f"shot_fact.club_id = %(club)s AND tried AND {_NEAR} AND pocket {pocket} %(middle)s"
    return f"{where} AND {_APART} < %(least)s", given
