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
    given = {f"like_{field.name}": value for field, value in zip(fields(like), astuple(like), strict=True)}
    given |= {"club": scope.club_id, "but": but, "least": least**2, "middle": f"{MIDDLE}%"}
    pocket = "LIKE" if like.middle else "NOT LIKE"
    where = (
        f"shot_fact.club_id = %(club)s AND tried AND {_NEAR} AND pocket {pocket} %(middle)s"
        f" AND shot_id <> %(but)s AND {_APART} < %(least)s"
    )
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
