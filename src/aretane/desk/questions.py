"""Questions to figures, asked for a scope: the answer in words and numbers, the strokes behind it, kept by name."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict
from datetime import date
from typing import Any

from aretane.core.errors import InputError, Refused
from aretane.core.statistics import question
from aretane.core.statistics.measures import BY, DAY, MEASURES, SESSION, SQUARES, Measure, key_words
from aretane.core.statistics.question import Asked, Group
from aretane.core.statistics.rates import Mean, Rate, mean_of
from aretane.core.statistics.streaks import SIGNED, may_be_pace, pace_words, streak_words, streaks
from aretane.core.words import SESSIONS, pocket_words
from aretane.desk.house import House
from aretane.formats import tables
from aretane.formats.paper import counts_from
from aretane.store import club, questions
from aretane.store.database import Db
from aretane.store.scope import Scope

PAGE = 50  # strokes that are told at once
MANY = 10  # fields: some then differ by chance alone
MOST_KEPT = 100  # questions of one author
MOST_GROUPS = 60  # fields of an answer that are told, those of most strokes


def answer(house: House, scope: Scope, asked: Asked) -> dict[str, Any]:
    """The answer by fields and altogether, with the sentence to say aloud."""
    measure = _checked(asked)
    with house.database.transaction() as db:
        rows = questions.rows(db, scope, asked)
        found = question.answer(measure, asked.by, rows, asked.series)
        groups = found.groups
        ids = questions.names(db, scope, asked.by, [group.key for group in groups if group.key])
        series = _series(asked, questions.names(db, scope, "player", []))
        days = questions.practised(db, scope, asked.player) if asked.by == DAY else []
        notes = _notes(db, scope, asked, found.whole[0])
    shown, rest = _most(asked.by, groups)
    return {
        "measure": {**asdict(measure), "expects": question.expects(measure, asked.by)},
        "by": asked.by,
        "by_words": BY[asked.by],
        "series": series,
        "groups": [_group(asked, ids, group) for group in shown],
        "not_shown": rest,
        "expected": list(found.expected),
        "whole": [asdict(value) for value in found.whole],
        "difference": asdict(found.difference) if found.difference else None,
        "curves": [[{"day": day, **asdict(rate)} for day, rate in curve] for curve in found.curves],
        "practised": [day.isoformat() for day in days],
        "left_out": found.left_out,
        "many": len(shown) if len(shown) >= MANY else None,
        "notes": notes,
        "said": question.said(measure, asked.by, dict(enumerate(series)), found),
    }


def _notes(db: Db, scope: Scope, asked: Asked, own: Rate | Mean) -> list[str]:
    """Of how one player stops: streaks of one sign, and whether it may be the table's pace."""
    if asked.measure not in SIGNED or asked.player is None or asked.series == 2 or not isinstance(own, Mean):
        return []
    words = SIGNED[asked.measure]
    values = questions.in_order(db, scope, asked)
    found = streaks([*values.values()])
    if found is None:
        return []
    told = [streak_words(found, words)]
    if may_be_pace(own, asked.measure):
        told += pace_words(own, mean_of([questions.of_others(db, scope, asked, values.keys())]))
    return told


def table(house: House, scope: Scope, asked: Asked, form: str) -> bytes:
    """The numbers of an answer as CSV or XLSX."""
    told = answer(house, scope, asked)
    rows = [
        [group["words"], name, value.get("p", value.get("mean")), value["low"], value["high"], value["n"]]
        for group in told["groups"]
        for name, value in zip(told["series"], group["values"], strict=True)
    ]
    return tables.AS[form](rows, tables.ANSWER)


def strokes(house: House, scope: Scope, asked: Asked, key: str, begin: int) -> dict[str, Any]:
    """The strokes behind a field of the answer."""
    _checked(asked)
    with house.database.transaction() as db:
        n, rows = questions.strokes(db, scope, asked, key, begin, PAGE)
    return {"n": n, "shots": [asdict(row) for row in rows]}


def take_in(house: House, scope: Scope, sheet: bytes) -> int:
    """Counts from a sheet of paper: how many. One that is wrong changes nothing."""
    counts = counts_from(sheet)
    house.database.write(lambda db: questions.take_in(db, scope, counts))
    return len(counts)


def join(house: House, scope: Scope, player: int, other: int | None) -> list[dict[str, object]]:
    """Let a name stand for another player, or for itself again; everybody as they are then."""

    def write(db: Any) -> list[dict[str, object]]:
        club.join(db, scope, player, other)
        return club.players(db, scope)

    return house.database.write(write)


def named(house: House, scope: Scope, name: str) -> int:
    """The player of this name. Raises `InputError`."""
    with house.database.transaction() as db:
        known = {str(one["name"]): int(str(one["id"])) for one in club.players(db, scope)}
    if name not in known:
        raise InputError("player", f"nobody is called “{name}”; there are {', '.join(known) or 'no players yet'}")
    return known[name]


def kept(house: House, scope: Scope) -> list[dict[str, Any]]:
    with house.database.transaction() as db:
        return questions.kept(db, scope)


def keep(house: House, scope: Scope, name: str, asked: str) -> list[dict[str, Any]]:
    """Keep a question by its name, in place of one of the same name."""
    name = name.strip()
    if not name:
        raise InputError("name", "a question that is kept needs a name")

    def write(db: Any) -> list[dict[str, Any]]:
        known = questions.kept(db, scope)
        if len(known) >= MOST_KEPT and all(one["name"] != name for one in known):
            raise Refused(f"{MOST_KEPT} questions are kept already; give one up first")
        questions.keep(db, scope, name, asked)
        return questions.kept(db, scope)

    return house.database.write(write)


def drop(house: House, scope: Scope, name: str) -> list[dict[str, Any]]:
    def write(db: Any) -> list[dict[str, Any]]:
        questions.drop(db, scope, name)
        return questions.kept(db, scope)

    return house.database.write(write)


def _checked(asked: Asked) -> Measure:
    if asked.measure not in MEASURES:
        raise InputError("measure", f"there is no such figure; there are {', '.join(MEASURES)}")
    if asked.by not in BY:
        raise InputError("by", f"figures are not told apart by that, but by {', '.join(BY)}")
    if asked.versus is not None and asked.player is None:
        raise InputError("player", "say who is compared")
    if asked.versus is not None and asked.parted is not None:
        raise InputError("parted", "compare two players or two times, not both at once")
    if asked.versus is not None and asked.versus == asked.player:
        raise InputError("versus", "that is the same player")
    return MEASURES[asked.measure]


def _series(asked: Asked, names: Mapping[str, str]) -> list[str]:
    one = names.get(str(asked.player), "everybody")
    if asked.versus is not None:
        return [one, names.get(str(asked.versus), "nobody")]
    return [f"before {asked.parted}", f"from {asked.parted} on"] if asked.parted else [one]


def _group(asked: Asked, ids: Mapping[str, str], group: Group) -> dict[str, Any]:
    if asked.by == DAY:
        ids = {str(group.key): date.fromordinal(int(group.key or 0)).isoformat()}
    key = str(group.key)
    words = ids.get(key) or _words_of(asked, key)
    return {
        "key": key,
        "words": words,
        "values": [asdict(value) for value in group.values],
        "expected": list(group.expected),
    }


def _words_of(asked: Asked, key: str) -> str:
    if asked.by == "pocket":
        return pocket_words(key, str(asked.where.get("discipline") or "nine-ball"))
    return SESSIONS.get(key, key) if asked.by == SESSION else key_words(asked.by, key)


def _most(by: str, groups: Sequence[Group]) -> tuple[list[Group], int]:
    """The fields with most strokes, in their order; days and squares in full: they
    are a picture."""
    if by in (DAY, *SQUARES) or len(groups) <= MOST_GROUPS:
        return list(groups), 0
    told = sorted(groups, key=lambda group: -sum(value.n for value in group.values))[:MOST_GROUPS]
    return [group for group in groups if group in told], len(groups) - MOST_GROUPS
