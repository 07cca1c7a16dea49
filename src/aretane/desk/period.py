"""The report of a time for one player: over all judged matches in it, from kept facts and values."""

from __future__ import annotations

from typing import Any

from aretane.core.errors import InputError, Refused
from aretane.core.review.replay import replay
from aretane.core.review.to_practise import Gain, gains, interval
from aretane.core.statistics.measures import MEASURES
from aretane.core.statistics.question import Asked, answer, told
from aretane.core.statistics.rates import Mean
from aretane.desk.house import House
from aretane.desk.ledger import COARSE
from aretane.desk.moments import PARTS, WORDS
from aretane.desk.reports import CAUTION, HOW_TO_READ, MOMENTS, TO_PRACTISE, bar_of, judged_at, moment_of
from aretane.formats.printed.pages import page
from aretane.store import club, games, ledgers, practising, questions
from aretane.store.database import Db
from aretane.store.scope import Scope

Data = dict[str, Any]

FIGURES = (
    "pots", "nearly", "recovered", "zone", "along", "safeties", "exchanges", "escapes", "chances", "cleared",
    "broke", "fouls", "time",
)  # fmt: skip
OF_LEDGER = {"decision": "decision", "pot": "potting", "position": "position", "luck": "luck"}


def period_report(
    house: House, scope: Scope, player: int, since: str | None, until: str | None, words: str = ""
) -> str:
    """Raises `InputError` for nobody, `Refused` where nothing was judged."""
    with house.database.transaction() as db:
        names = {one["id"]: str(one["name"]) for one in club.players(db, scope)}
        if player not in names:
            raise InputError("player", "there is no such player")
        asked = Asked("pots", player=player, since=since, until=until, where={"session": "match"})
        sums = {part: _value(db, scope, asked, of) for part, of in OF_LEDGER.items()}
        if not any(one.n for one in sums.values()):
            raise Refused("no match of this time is judged: open the verdicts first")
        dear = practising.moments(db, scope, player, since, until, MOMENTS)
        moments = [moment for one in dear if (moment := _moment(db, scope, one)) is not None]
        figures = [(MEASURES[name].words, told(MEASURES[name], _value(db, scope, asked, name))) for name in FIGURES]
        sorts, racks = practising.sorts(db, scope, player, since, until)
    return page(
        "report",
        title=f"{names[player]}: {_time(since, until)}",
        subtitle=f"{racks} judged racks in matches",
        said="",
        words=words.strip(),
        bar=bar_of({part: _sum(one)[0] for part, one in sums.items()}),
        bar_words=", ".join(_sum_words(part, sums[part]) for part in PARTS),
        moments=moments,
        good=[],
        figures=[(name, value) for name, value in figures if not value.startswith("no ")],
        practise=[_gain_words(one) for one in gains(sorts, racks)[:TO_PRACTISE]],
        how_to_read=HOW_TO_READ,
        caution=CAUTION,
    )


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
    return {**found, "where": f"{document.get('title') or document['discipline']}, {found['where'].lower()}"}


def _gain_words(one: Gain) -> str:
    low, high = interval(one)
    return (
        f"{one.family[:1].upper()}{one.family[1:]} ({one.often:.1f} a rack; worth {100 * one.gain:.0f} ±"
        f" {100 * (high - low) / 2:.0f} racks in a hundred): {one.words}."
    )


def _time(since: str | None, until: str | None) -> str:
    if since and until:
        return f"{since} to {until}"
    return f"from {since} on" if since else f"up to {until}" if until else "all matches"
