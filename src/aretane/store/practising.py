"""What the ledger booked for a player's strokes, by families that can be practised."""

from __future__ import annotations

from aretane.core.review.to_practise import DECISIONS, Sort
from aretane.store.club import every_name
from aretane.store.database import Db
from aretane.store.scope import Scope

LONG, THIN = 1.8, 0.698  # m of both balls' ways together; radians: forty degrees
DEAREST = 3  # strokes of a family that are told

_POTS = (
    f"CASE WHEN cut_angle > {THIN} THEN 'thin cuts' WHEN cue_distance + pocket_distance > {LONG} THEN 'long pots'"
    " ELSE 'pots' END"
)
# Family, what is good, what the ledger booked for it, of which strokes.
_SORTS = (
    (_POTS, "made", "potting", "tried AND cut_angle IS NOT NULL"),
    ("'position'", "distance = 0", "position", "distance IS NOT NULL AND made"),
    ("'safeties'", "held", "position", "held IS NOT NULL"),
    ("'break'", "break_balls > 0", "potting", "break_balls IS NOT NULL"),
    (f"'{DECISIONS}'", "NULL", "decision", "break_balls IS NULL"),
)


def sorts(
    db: Db, scope: Scope, player: int, since: str | None = None, until: str | None = None, session: str = "match"
) -> tuple[list[Sort], int]:
    """Of the matches of a player (from a day to another): what came of each family, and of how many racks."""
    where, given = _where(db, scope, player, since, until, session)
    found: list[Sort] = []
    with db.cursor() as cursor:
        for family, good, booked, which in _SORTS:
            cursor.execute(
                f"SELECT {family} AS family, {good} AS good, COUNT(*) AS n, SUM({booked}) AS total,"
                f" SUM({booked} * {booked}) AS squares, SUM(likely / 100) AS likely, COUNT(likely) AS known"
                f" FROM shot_fact WHERE {where} AND {which} AND {booked} IS NOT NULL GROUP BY family, good",
                given,
            )
            found += [
                Sort(
                    row["family"], None if row["good"] is None else bool(row["good"]), int(row["n"]),
                    float(row["total"]), float(row["squares"]), float(row["likely"] or 0), int(row["known"]),
                )
                for row in cursor.fetchall()
            ]  # fmt: skip
        cursor.execute(
            f"SELECT COUNT(DISTINCT game_id, rack) AS n FROM shot_fact WHERE {where} AND promised IS NOT NULL",
            given,
        )
        row = cursor.fetchone() or {"n": 0}
    return found, int(row["n"])


def dearest(db: Db, scope: Scope, player: int, family: str, since: str | None = None) -> list[dict[str, str]]:
    """The strokes of a family that cost most: of which an exercise can be made."""
    where, given = _where(db, scope, player, since)
    found: list[dict[str, str]] = []
    with db.cursor() as cursor:
        for name, _, booked, which in _SORTS:
            cursor.execute(
                f"SELECT game_id AS game, shot_id AS shot, ball, pocket, {booked} AS cost FROM shot_fact"
                f" WHERE {where} AND {which} AND {name} = %(family)s AND {booked} < 0 AND ball IS NOT NULL"
                f" AND pocket IS NOT NULL ORDER BY {booked} LIMIT {DEAREST}",
                {**given, "family": family},
            )
            found += cursor.fetchall()
    return found


def moments(
    db: Db, scope: Scope, player: int, since: str | None, until: str | None, many: int, session: str = "match"
) -> list[dict[str, str]]:
    """The strokes of that time that cost most by decision, pot and position."""
    where, given = _where(db, scope, player, since, until, session)
    cost = "COALESCE(decision, 0) + COALESCE(potting, 0) + COALESCE(position, 0)"
    with db.cursor() as cursor:
        cursor.execute(
            f"SELECT game_id AS game, shot_id AS shot FROM shot_fact WHERE {where} AND break_balls IS NULL"
            f" AND {cost} < 0 ORDER BY {cost} LIMIT {many}",
            given,
        )
        return list(cursor.fetchall())


def noted(
    db: Db, scope: Scope, player: int, since: str | None, until: str | None, many: int, session: str
) -> list[dict[str, str]]:
    """The strokes of that time to which somebody wrote a note, in the order of play."""
    where, given = _where(db, scope, player, since, until, session)
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT shot_fact.game_id AS game, shot_id AS shot FROM shot_fact JOIN fact"
            " ON fact.game_id = shot_fact.game_id AND fact.kind = 'shot' AND fact.id = shot_id"
            f" WHERE {where} AND JSON_VALUE(document, '$.note') <> ''"
            f" ORDER BY played_on, shot_fact.game_id, rack, shot LIMIT {many}",
            given,
        )
        return list(cursor.fetchall())


def _where(
    db: Db, scope: Scope, player: int, since: str | None, until: str | None = None, session: str = "match"
) -> tuple[str, dict[str, object]]:
    clauses = "shot_fact.club_id = %(club)s AND session = %(session)s AND player_id IN %(ids)s"
    clauses += (" AND played_on >= %(since)s" if since else "") + (" AND played_on <= %(until)s" if until else "")
    given = {"club": scope.club_id, "ids": every_name(db, scope, player), "session": session}
    return clauses, {**given, "since": since, "until": until}
