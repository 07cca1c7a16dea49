"""Matches: listed, begun, opened, changed, undone, handed out and taken in."""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from itertools import chain
from typing import Any

from aretane.core.errors import InputError, Known, NotFound, Taken
from aretane.core.review.replay import carry_forward, replay
from aretane.core.rules.disciplines import rules_of
from aretane.core.statistics import flat
from aretane.core.table import table_from
from aretane.desk import ledger
from aretane.desk.house import House
from aretane.desk.recent import Replayed
from aretane.formats import tables
from aretane.formats.match import check_people, check_shot, match_from, read_match
from aretane.formats.schema import LARGEST_FILE
from aretane.store import changes as log
from aretane.store import games
from aretane.store import shot_figures as figure_rows
from aretane.store.changes import Operation, already_done
from aretane.store.database import Db
from aretane.store.games import Changes, Fact, Match, Sought
from aretane.store.matches import store_match
from aretane.store.scope import Scope

Data = dict[str, Any]

ASK, REPLACE, COPY = "ask", "replace", "copy"  # what is done with a match that is there already
PAGE = 50  # matches that are told at once
MOMENTS = 20
LEDGER = "ledger"
UNTITLED = "Untitled match"


def listed(house: House, scope: Scope, begin: int = 0, sought: Sought = Sought()) -> Data:  # noqa: B008
    """How many matches are what is sought, and a page of them, those worked on last first."""
    with house.database.transaction() as db:
        n, rows = games.listed(db, scope, begin, PAGE, sought)
    return {"n": n, "games": [_line(row) for row in rows]}


def moments(house: House, scope: Scope, words: str) -> list[Data]:
    """Shots whose notes hold these words, those of the matches worked on last first."""
    with house.database.transaction() as db:
        return [{**one, "title": one["title"] or UNTITLED} for one in games.noted(db, scope, words, MOMENTS)]


def begin(house: House, scope: Scope, game_id: str, document: Data) -> Data:
    """A new match; one that was begun with this id already stays as it is."""
    match = match_from({"id": game_id, **document, "racks": []})
    check_people(match)
    rules_of(match["discipline"])

    def write(db: Db) -> Replayed:
        if not games.is_known(db, scope, game_id):
            store_match(db, scope, game_id, match, "new match")
        return house.recent.find(db, scope, game_id)

    try:
        found = house.database.write(write)
    except Taken as taken:
        try:  # perhaps by the same request, sent twice at once
            found = house.database.write(lambda db: house.recent.find(db, scope, game_id))
        except NotFound:
            raise taken from None
    return house.recent.keep(found)


def take_in(house: House, scope: Scope, raw: bytes, *, keep: bool = False, same: str = ASK) -> Data:
    """A match from a file's bytes. With `keep` its impossible entries stand as the coach's word."""
    if len(raw) > LARGEST_FILE:
        raise InputError("file", f"larger than {LARGEST_FILE // 1_000_000} MB")
    (game_id,) = take_in_all(house, scope, [read_match(raw, keep=keep)], same)
    return _noticed(house, scope, opened(house, scope, game_id))


def take_in_all(house: House, scope: Scope, matches: list[Data], same: str = ASK) -> list[str]:
    """All of these matches, or none; their ids. One that is here already is `Known`, unless `same` says to replace
    it (the old one can be had back as any deleted match) or to take it in as a copy, a match of its own.
    """
    ids = [str(uuid.uuid4()) for _ in matches]

    def write(db: Db) -> None:
        for game_id, match in zip(ids, matches, strict=True):
            there = games.of_same(db, scope, str(match["id"])) if match.get("id") else []
            if there and same == ASK:
                raise Known(str(match.get("title") or "This match"), there)
            if same == REPLACE:
                for old in there:
                    _delete(db, scope, old)
            taken = {name: value for name, value in match.items() if name != LEDGER}  # worked out, no fact
            if there and same == COPY:
                taken["id"] = game_id
            store_match(db, scope, game_id, taken, "imported")

    house.database.write(write)
    return ids


def opened(house: House, scope: Scope, game_id: str) -> Data:
    with house.database.transaction() as db:
        known = house.recent.find(db, scope, game_id)
    return house.recent.keep(known)


def as_file(house: House, scope: Scope, game_id: str) -> Data:
    """A match in the match format, exactly as it was given, with its ledger where that is known as it stands."""
    with house.database.transaction() as db:
        document = games.load(db, scope, game_id).as_document()
    found = ledger.known(house, scope, game_id)
    return {**document, LEDGER: found["body"]} if found["current"] else document


def as_table(house: House, scope: Scope, game_id: str, form: str) -> bytes:
    """A match as csv, xlsx, parquet, vtt or txt: the flat table of its shots with what each changed where it was
    judged, or the chapters of its first recording."""
    if form in tables.CHAPTERS:
        return tables.CHAPTERS[form](as_file(house, scope, game_id)).encode()
    return tables.AS[form](_flat(house, scope, game_id), tables.SHOTS)


def as_season(house: House, scope: Scope, form: str) -> bytes:
    """Everything as one flat table of shots, match after match."""
    ids: list[str] = []
    with house.database.transaction() as db:
        n = games.listed(db, scope, 0, 1)[0]
        while len(ids) < n:
            page = [one["id"] for one in games.listed(db, scope, len(ids), PAGE)[1]]
            if not page:
                break
            ids += page
    return tables.AS[form](chain.from_iterable(_flat(house, scope, one) for one in ids), tables.SHOTS)


def _flat(house: House, scope: Scope, game_id: str) -> Iterator[list[flat.Cell]]:
    match = as_file(house, scope, game_id)
    return flat.rows(match, replay(match), match.get(LEDGER))


def called(house: House, scope: Scope, words: str) -> str:
    """The id of the one match with this id, or with a title that begins so."""
    with house.database.transaction() as db:
        if games.is_known(db, scope, words):
            return words
    found = [one for one in listed(house, scope, sought=Sought(words))["games"] if one["title"].startswith(words)]
    if len(found) != 1:
        raise InputError("match", f"{len(found)} matches are called {words!r}")
    return str(found[0]["id"])


def delete(house: House, scope: Scope, game_id: str) -> None:
    """A match is gone; undoing that has it back within 30 days."""
    house.database.write(lambda db: _delete(db, scope, game_id))


def _delete(db: Db, scope: Scope, game_id: str) -> None:
    games.delete(db, scope, game_id, Operation(str(uuid.uuid4()), str(uuid.uuid4()), 0, "deleted"))
    figure_rows.forget(db, scope, game_id)


def change(
    house: House, scope: Scope, game_id: str, operation: Operation, changes: Changes, *, over: bool = False
) -> Data:
    """Write a change. Sending the same operation again changes nothing and answers the same. `over`: where somebody
    else wrote the same fields since, these stand.
    """

    def write(db: Db) -> Replayed:
        return written(house, db, scope, game_id, operation, changes, over=over)

    return _noticed(house, scope, house.recent.keep(house.database.write(write)))


def _noticed(house: House, scope: Scope, answer: Data) -> Data:
    """A match that was changed, and is judged anew for that."""
    ledger.noticed(house, scope, answer)
    return answer


def written(
    house: House, db: Db, scope: Scope, game_id: str, operation: Operation, changes: Changes, *, over: bool = False
) -> Replayed:
    """The match with a change, inside of a transaction."""
    known = house.recent.find(db, scope, game_id, lock=True)
    if already_done(db, scope, game_id, operation.id):
        return known
    wanted = games.merged(db, scope, known.match, operation, changes, over=over)
    _check(known.match, wanted)
    carried = _carried(known.match, wanted)
    entry = games.write(db, scope, known.match, operation, carried)
    since = _first_rack(known.match, wanted)
    changed = known.changed(games.with_changes(known.match, carried, entry), since)
    same = known.match.header == changed.match.header
    figure_rows.rebuild(db, scope, changed.match, changed.rows, known.rows if same else None)
    return changed


def reverse(house: House, scope: Scope, game_id: str, operation: Operation, direction: str) -> Data:
    """Undo the author's newest change of a match, its deletion too, or redo the newest that was undone; `reversed`
    says what it was."""

    def write(db: Db) -> tuple[Replayed, str]:
        done = already_done(db, scope, game_id, operation.id)
        label = "" if done else games.reverse(db, scope, game_id, operation, direction)
        found = house.recent.find(db, scope, game_id)
        if not done:
            figure_rows.rebuild(db, scope, found.match, found.rows)
        return found, label

    found, label = house.database.write(write)
    return {**_noticed(house, scope, house.recent.keep(found)), "reversed": label}


def history(house: House, scope: Scope, game_id: str) -> list[Data]:
    with house.database.transaction() as db:
        if not games.is_known(db, scope, game_id):
            raise NotFound("match")
        return log.history(db, scope, game_id)


def _first_rack(game: Match, changes: Changes) -> int:
    """The first rack that these changes touch, where it stands or will stand."""
    places = {rack.key: number for number, (rack, _) in enumerate(game.racks)}
    places |= {shot.key: number for number, (_, shots) in enumerate(game.racks) for shot in shots}
    touched = [places[key] for key in changes if key in places]
    for fact in changes.values():
        if fact is not None and fact.kind == "rack":
            touched.append(sum(rack.seat < fact.seat for rack, _ in game.racks))
        elif fact is not None:  # of the match itself, a rack that is there, or one that comes with this change
            touched.append(0 if fact.kind == "match" else places.get(f"rack:{fact.parent}", len(game.racks)))
    return min(touched, default=0)


def _check(game: Match, changes: Changes) -> None:
    """The form of what is to be written; impossible sequences are shown on the bench, not refused."""
    header = game.header.document
    parents = {game.id} | {rack.id for rack, _ in game.racks}
    parents |= {fact.id for fact in changes.values() if fact is not None and fact.kind == "rack"}
    table = table_from(header.get("table", "pool-9ft"))
    for key, fact in changes.items():
        if fact is None:
            if key == game.header.key:
                raise InputError("changes", "the match itself is removed by deleting it")
            continue
        if fact.parent not in parents:
            raise InputError("changes.parent", "the rack of this shot is not there any more")
        if fact.kind == "match":
            match_from({**fact.document, "racks": []})
            if fact.document.get("players") != header.get("players"):
                check_people(fact.document)
        elif fact.kind == "rack":
            match_from({**header, "racks": [{**fact.document, "shots": []}]})
        else:
            match_from({**header, "racks": [{"shots": [fact.document]}]})
            check_shot(header["discipline"], table, fact.document)


def _carried(game: Match, changes: Changes) -> dict[str, Fact | None]:
    """The changes, and the later layouts that follow an edited one."""
    found = dict(changes)
    for _, shots in game.racks:
        documents = [shot.document for shot in shots]
        for index, shot in enumerate(shots):
            edited = changes.get(shot.key)
            if edited is None:
                continue
            for number, document in carry_forward(documents, index, edited.document).items():
                documents[number] = document
                own = shots[number]
                if number == index or own.key not in changes:
                    seat = edited.seat if number == index else own.seat
                    found[own.key] = Fact("shot", own.id, own.parent, seat, document)
    return found


def _line(row: Data) -> Data:
    document = row["document"]
    players = document.get("players") or {}
    return {
        "id": row["id"],
        "day": str(document.get("date") or row["created_at"].date()),
        "place": str(document.get("place") or ""),
        "changed_at": row["changed_at"] or row["created_at"],
        "title": str(document.get("title") or UNTITLED),
        "discipline": document["discipline"],
        "session": document.get("session") or "match",
        "players": {side: str(players[side].get("name") or side) for side in ("A", "B") if side in players},
        "racks": row["racks"],
        "shots": row["shots"],
    }
