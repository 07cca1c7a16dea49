"""The report of a time for one player: over all judged matches in it, or over lessons or solo runs with what was
tried at the table; from kept facts and values."""

from __future__ import annotations

from typing import Any

from aretane.core.errors import InputError, Refused
from aretane.core.review.replay import replay
from aretane.core.review.to_practise import Gain, gains, interval
from aretane.core.statistics.measures import MEASURES
from aretane.core.statistics.question import Asked, answer, told
from aretane.core.statistics.rates import Mean, wilson
from aretane.core.words import SESSIONS
from aretane.desk.house import House
from aretane.desk.ledger import COARSE
from aretane.desk.moments import PARTS, WORDS
from aretane.desk.reports import (
    CAUTION,
    HOW_TO_READ,
    MOMENTS,
    TO_PRACTISE,
    bar_of,
    judged_at,
    moment_of,
    rate_words,
    remark_of,
)
from aretane.formats.printed.pages import page
from aretane.store import club, games, ledgers, practice, practising, questions
from aretane.store.database import Db
from aretane.store.practice import RUN
from aretane.store.scope import Scope

Data = dict[str, Any]

MATCH = "match"
FIGURES = (
    "pots", "nearly", "recovered", "zone", "along", "safeties", "exchanges", "escapes", "chances", "cleared",
    "broke", "fouls", "time",
)  # fmt: skip
OF_LEDGER = {"decision": "decision", "pot": "potting", "position": "position", "luck": "luck"}


def period_report(
    house: House, scope: Scope, player: int, since: str | None, until: str | None, words: str = "",
    session: str = MATCH,
) -> str:  # fmt: skip
    """Raises `InputError` for nobody, `Refused` where nothing tells of that time: no judged match, or neither a
    stroke nor an attempt of another `session`.
    """
    with house.database.transaction() as db:
        names = {one["id"]: str(one["name"]) for one in club.players(db, scope)}
        if player not in names:
            raise InputError("player", "there is no such player")
        asked = Asked("pots", player=player, since=since, until=until, where={"session": session})
        sums = {part: _value(db, scope, asked, of) for part, of in OF_LEDGER.items()}
        judged = any(one.n for one in sums.values())
        if session == MATCH and not judged:
            raise Refused("no match of this time is judged: open the verdicts first")
        moments = _moments(db, scope, (player, since, until), session, judged=judged)
        tried = [] if session == MATCH else practice.tried_by(db, scope, player, since, until)
        figures = [(MEASURES[name].words, told(MEASURES[name], _value(db, scope, asked, name))) for name in FIGURES]
        figures = [(name, value) for name, value in figures if not value.startswith("no ")]
        if not figures and not tried:
            raise Refused("nothing of this time was logged: neither a shot nor an attempt")
        sorts, racks = practising.sorts(db, scope, player, since, until, session)
    return page(
        "report",
        title=f"{names[player]}: {_time(since, until)}",
        subtitle=f"{racks} judged racks in matches" if session == MATCH else SESSIONS[session],
        said="",
        words=words.strip(),
        bar=bar_of({part: _sum(one)[0] for part, one in sums.items()}) if judged else "",
        bar_words=", ".join(_sum_words(part, sums[part]) for part in PARTS) if judged else "",
        moments=moments,
        good=[],
        figures=figures,
        tried=[_tried_words(one) for one in tried],
        practise=[_gain_words(one) for one in gains(sorts, racks)[:TO_PRACTISE]],
        how_to_read=HOW_TO_READ if judged else "",
        caution=CAUTION,
    )


def _moments(
    db: Db, scope: Scope, of: tuple[int, str | None, str | None], session: str, *, judged: bool
) -> list[Data]:
    """The dearest where they are judged; else those to which the coach wrote something."""
    if not judged:
        return [_remark(db, scope, one) for one in practising.noted(db, scope, *of, MOMENTS, session)]
    dear = practising.moments(db, scope, *of, MOMENTS, session)
    return [moment for one in dear if (moment := _moment(db, scope, one)) is not None]


def _value(db: Db, scope: Scope, asked: Asked, measure: str) -> Any:
    own = Asked(measure, player=asked.player, since=asked.since, until=asked.until, where=asked.where)
    return answer(MEASURES[measure], own.by, questions.rows(db, scope, own)).whole[0]


def _sum(mean: Mean) -> tuple[float, float]:
    """What a mean comes to over all its strokes, and the half of its interval."""
    if mean.mean is None:
        return 0.0, 0.0
    half = (mean.high or mean.mean) - mean.mean
    return mean.n * mean.mean, mean.n * half


def _sum_words(part: str, mean: Mean) -> str:
    value, half = _sum(mean)
    sign = "+" if value > 0 else "−" if value < 0 else ""
    return f"{WORDS[part]} {sign}{abs(value):.2f} ± {half:.2f} racks"


def _moment(db: Db, scope: Scope, one: Data) -> Data | None:
    """None where the match was changed since and is not judged anew."""
    kept = ledgers.find(db, scope, one["game"], COARSE)
    match = games.load(db, scope, one["game"])
    place = match.place(one["shot"])
    if kept is None or not kept.body or place[0] >= len(kept.body["racks"]):
        return None
    document = match.as_document()
    found = moment_of(document, replay(document), judged_at(kept.body, place), kept.body.get("unit") != "balls")
    return {**found, "where": f"{_name(document)}, {found['where'].lower()}"}


def _remark(db: Db, scope: Scope, one: Data) -> Data:
    """A shot with what was written to it."""
    match = games.load(db, scope, one["game"])
    document, (rack, index) = match.as_document(), match.place(one["shot"])
    return {**remark_of(replay(document), rack, index), "where": f"{_name(document)}, shot {index + 1}"}


def _name(document: Data) -> str:
    return str(document.get("title") or document["discipline"])


def _tried_words(one: Data) -> tuple[str, str]:
    """An exercise with what came of it, and what was expected."""
    if one["task"] == RUN:
        return one["title"], f"{one['n']} runs, {one['balls']} balls, the longest {one['most'] or 0}"
    expected = f"; {one['chance']:.0%} expected" if one["chance"] is not None else ""
    return one["title"], f"{rate_words(wilson(one['made'], one['n']))}{expected}"


def _gain_words(one: Gain) -> str:
    low, high = interval(one)
    return (
        f"{one.family[:1].upper()}{one.family[1:]} ({one.often:.1f} a rack; worth {100 * one.gain:.0f} ±"
        f" {100 * (high - low) / 2:.0f} racks in a hundred): {one.words}."
    )


def _time(since: str | None, until: str | None) -> str:
    if since == until and since:
        return since
    if since and until:
        return f"{since} to {until}"
    return f"from {since} on" if since else f"up to {until}" if until else "all of it"
