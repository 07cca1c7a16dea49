"""Long work as rows: asked for by a club, claimed by one server at a time, gone on with when that one dies."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from typing import Any

import orjson

from aretane.store.database import Db
from aretane.store.scope import Scope

Data = dict[str, Any]

WAITING, RUNNING, DONE, STOPPED, FAILED = "waiting", "running", "done", "stopped", "failed"
SILENT = timedelta(seconds=40)  # without a heartbeat: nobody works on it any more
UNWATCHED = timedelta(seconds=25)  # nobody has asked for it: not worth going on, unless it is to be kept
OLD = timedelta(days=90)
FRESH = timedelta(seconds=5)  # asked for again within this: nothing is written
MOST_WAITING = 100  # that somebody waits for
MOST_DEATHS = 2  # of workers, without any progress between them
SERVERS_DIED = "the server ended twice while this was worked on; it is given up"

_COLUMNS = "id, club_id, author_id, kind, subject, arguments, kept, page, state, progress, said, deaths, asked_at"


@dataclass(frozen=True)
class Job:
    """`state` is waiting, running, done, stopped or failed (`said` tells why); `deaths` counts the workers that it
    stopped since it last came on.
    """

    id: int
    scope: Scope
    kind: str
    subject: str
    arguments: Data
    kept: bool
    page: str
    state: str
    progress: float
    said: str
    deaths: int
    asked_at: datetime

    @property
    def going(self) -> bool:
        return self.state in (WAITING, RUNNING)


@dataclass(frozen=True)
class Queued:
    """What tells the turn of a job that waits or runs."""

    id: int
    author_id: int
    page: str
    kept: bool
    state: str
    progress: float


def ask(
    db: Db, scope: Scope, kind: str, subject: str, arguments: Data, *, kept: bool, page: str = "",
    again: bool = False,
) -> Job:  # fmt: skip
    """The job as it stands, made if there is none. One that was stopped waits to be done again, and with `again`
    one that has failed. `page` is who asks: each gets its turn.
    """
    job, now = find(db, scope, kind, subject), _now()
    over = (STOPPED, FAILED) if again else (STOPPED,)
    if job and job.state not in over and job.page == page and job.asked_at > now - FRESH:
        return job
    with db.cursor() as cursor:
        cursor.execute(
            "INSERT INTO job (club_id, author_id, kind, subject, arguments, kept, page, state, heartbeat, asked_at)"
            " VALUES (%(club_id)s, %(author_id)s, %(kind)s, %(subject)s, %(arguments)s, %(kept)s, %(page)s,"
            " 'waiting', %(now)s, %(now)s) ON DUPLICATE KEY UPDATE asked_at = %(now)s, page = %(page)s,"
            " arguments = IF(state IN %(over)s, %(arguments)s, arguments),"
            " deaths = IF(state IN %(over)s, 0, deaths), said = IF(state IN %(over)s, '', said),"
            " progress = IF(state IN %(over)s, 0, progress), state = IF(state IN %(over)s, 'waiting', state)",
            {
                "club_id": scope.club_id, "author_id": scope.author_id, "kind": kind, "subject": subject,
                "arguments": orjson.dumps(arguments).decode(), "kept": kept, "page": page, "now": now,
                "over": over,
            },
        )  # fmt: skip
    made = find(db, scope, kind, subject)
    assert made is not None
    return made


def find(db: Db, scope: Scope, kind: str, subject: str) -> Job | None:
    with db.cursor() as cursor:
        cursor.execute(
            f"SELECT {_COLUMNS} FROM job WHERE club_id = %s AND kind = %s AND subject = %s",
            (scope.club_id, kind, subject),
        )
        row = cursor.fetchone()
    return _job(row) if row else None


def stop(db: Db, scope: Scope, kind: str, subject: str) -> None:
    """It is not wanted any more; whoever works on it notices at its next heartbeat."""
    with db.cursor() as cursor:
        cursor.execute(
            "UPDATE job SET state = 'stopped' WHERE club_id = %s AND kind = %s AND subject = %s"
            " AND state IN ('waiting', 'running')",
            (scope.club_id, kind, subject),
        )


def forget(db: Db, scope: Scope, kind: str, subject: str) -> None:
    with db.cursor() as cursor:
        cursor.execute(
            "DELETE FROM job WHERE club_id = %s AND kind = %s AND subject = %s", (scope.club_id, kind, subject)
        )


def queue(db: Db, kinds: Sequence[str]) -> list[Queued]:
    """What waits and runs of these kinds, of any club, without what nobody waits for any more."""
    with db.cursor() as cursor:
        cursor.execute(
            "SELECT id, author_id, page, kept, state, progress FROM job WHERE state IN ('waiting', 'running')"
            " AND kind IN %s AND (kept OR asked_at > %s)",
            (tuple(kinds), _now() - UNWATCHED),
        )
        return [Queued(**{**row, "kept": bool(row["kept"])}) for row in cursor.fetchall()]


def in_turn(queued: Sequence[Queued]) -> list[Queued]:
    """Those that wait, in the order of their turns: what somebody waits for before what is to be kept; a page that
    has fewer at work or before it first, then who has waited for longest; of one page the newest question first."""
    busy = Counter((one.author_id, one.page) for one in queued if one.state == RUNNING and not one.kept)
    waiting = [one for one in queued if one.state == WAITING]
    pages: dict[tuple[int, str], list[Queued]] = {}
    for one in sorted(waiting, key=lambda one: -one.id):
        if not one.kept:
            pages.setdefault((one.author_id, one.page), []).append(one)
    turns = {
        one.id: (busy[page] + number, min(other.id for other in own))
        for page, own in pages.items()
        for number, one in enumerate(own)
    }
    return sorted(waiting, key=lambda one: (one.kept, turns.get(one.id, (0, one.id))))


def claim(db: Db, worker: str, kinds: Sequence[str], *, watched: bool = True, kept: bool = True) -> Job | None:
    """The next job of these kinds: with `watched` of those that somebody waits for, with `kept` of the others."""
    for one in in_turn(queue(db, kinds)):
        if not (kept if one.kept else watched):
            continue
        with db.cursor() as cursor:
            cursor.execute(
                f"SELECT {_COLUMNS} FROM job WHERE id = %s AND state = 'waiting' FOR UPDATE SKIP LOCKED", (one.id,)
            )
            if (row := cursor.fetchone()) is None:
                continue  # another server was quicker
            cursor.execute(
                "UPDATE job SET state = 'running', worker = %s, heartbeat = %s WHERE id = %s",
                (worker, _now(), one.id),
            )
        return _job({**row, "state": RUNNING})
    return None


def beat(db: Db, job: Job, worker: str, progress: float | None = None) -> bool:
    """This worker is still at it, and has come on if it tells its `progress`. False when it is not wanted any more:
    stopped, another's, or nobody looks at what need not be kept."""
    now = _now()
    with db.cursor() as cursor:
        cursor.execute("SELECT state, worker, asked_at FROM job WHERE id = %s FOR UPDATE", (job.id,))
        row = cursor.fetchone()
        if row is None or row["state"] != RUNNING or row["worker"] != worker:
            return False
        wanted: bool = job.kept or row["asked_at"] > now - UNWATCHED
        cursor.execute(
            "UPDATE job SET heartbeat = %s, state = %s, progress = COALESCE(%s, progress),"
            " deaths = IF(%s IS NULL, deaths, 0) WHERE id = %s",
            (now, RUNNING if wanted else STOPPED, progress, progress, job.id),
        )
    return wanted


def died(db: Db, job: Job, worker: str) -> bool:
    """What worked on it has died. Returns whether it may be tried once more."""
    with db.cursor() as cursor:
        cursor.execute("UPDATE job SET deaths = deaths + 1 WHERE id = %s AND worker = %s", (job.id, worker))
        cursor.execute("SELECT deaths FROM job WHERE id = %s", (job.id,))
        row = cursor.fetchone()
    return row is not None and row["deaths"] < MOST_DEATHS


def end(db: Db, job: Job, worker: str, state: str, said: str = "") -> None:
    """It is done or has failed; one that was stopped or is another's by now stays as it is."""
    with db.cursor() as cursor:
        cursor.execute(
            "UPDATE job SET state = %s, said = %s, progress = IF(%s = 'done', 1, progress)"
            " WHERE id = %s AND worker = %s AND state = 'running'",
            (state, said[:500], state, job.id, worker),
        )


def give_back(db: Db, workers: Sequence[str]) -> None:
    """These workers end by themselves: what they were at waits for others."""
    with db.cursor() as cursor:
        cursor.executemany(
            "UPDATE job SET state = 'waiting' WHERE state = 'running' AND worker = %s", [(one,) for one in workers]
        )


def take_silent(db: Db, *, everything: bool = False) -> None:
    """Jobs of any club whose worker has died wait for another, once; with `everything` no other server is there,
    and all that run are such. What nobody waits for any more is stopped."""
    now = _now()
    with db.cursor() as cursor:
        cursor.execute(
            "UPDATE job SET deaths = deaths + 1, state = IF(deaths < %s, 'waiting', 'failed'),"
            " said = IF(deaths < %s, said, %s) WHERE state = 'running' AND heartbeat <= %s",
            (MOST_DEATHS, MOST_DEATHS, SERVERS_DIED, now if everything else now - SILENT),
        )
        cursor.execute(
            "UPDATE job SET state = 'stopped' WHERE state = 'waiting' AND NOT kept AND asked_at <= %s",
            (now - UNWATCHED,),
        )


def forget_old(db: Db) -> None:
    """Work that need not be kept: what nobody asked for in a long time, and what failed, to be tried again."""
    with db.cursor() as cursor:
        cursor.execute("DELETE FROM job WHERE NOT kept AND (asked_at < %s OR state = 'failed')", (_now() - OLD,))


def _job(row: Data) -> Job:
    club_id, author_id = row.pop("club_id"), row.pop("author_id")
    scope = Scope(club_id, author_id, "", "")
    return Job(**{**row, "arguments": orjson.loads(row["arguments"]), "kept": bool(row["kept"])}, scope=scope)


def _now() -> datetime:
    return datetime.now(UTC).replace(tzinfo=None)
