"""From the verdict to the table: exercises made of shots, attempts at them, and what they come to."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

from aretane.core.ball import CUE
from aretane.core.errors import Refused
from aretane.core.geometry.card import card
from aretane.core.layout import Layout
from aretane.core.review.alike import LIKE, likeness_in
from aretane.core.review.exercise import AS_IT_WAS, WORTH, levels
from aretane.core.review.to_practise import gains, interval
from aretane.core.skill.hand import PRESETS
from aretane.core.statistics.curve import Day, curve
from aretane.core.statistics.fair import apart
from aretane.core.statistics.rates import mean_interval, wilson
from aretane.core.words import ball_words, pocket_words
from aretane.desk.house import House
from aretane.desk.reports import CAUTION, card_page
from aretane.draw.svg import drawing
from aretane.formats.layout import layout_as_data, layout_from
from aretane.store import alike, practice, practising
from aretane.store.database import Db
from aretane.store.practice import LAYOUT, RUN, Attempt, Exercise, Run
from aretane.store.scope import Scope

CLEARED = "cleared"
LAST_RUNS = 12  # that are told one by one
ENOUGH = 20  # attempts before anything is said of making it harder or easier


def to_practise(house: House, scope: Scope, player: int, since: str | None = None) -> dict[str, Any]:
    """What would bring this player most, by the ledgers of the matches (from a day on), with the strokes of which
    an exercise can be made.
    """
    with house.database.transaction() as db:
        sorts, racks = practising.sorts(db, scope, player, since)
        found = gains(sorts, racks)
        dear = {one.family: practising.dearest(db, scope, player, one.family, since) for one in found}
    return {
        "racks": racks,
        "gains": [
            {**asdict(one), "low": interval(one)[0], "high": interval(one)[1], "shots": dear[one.family]}
            for one in found
        ],
    }


def offered(house: House, scope: Scope, game_id: str, shot_id: str, hand: str) -> list[dict[str, Any]]:
    """The exercises that a shot gives for a hand: as it was, easier, harder."""
    layout, ball, pocket = _shot(house, scope, game_id, shot_id)
    return [
        {"name": one.name, "chance": one.chance, "cue": list(one.layout.balls[CUE])}
        for one in levels(layout, ball, pocket, PRESETS[hand])
    ]


def make(house: House, scope: Scope, id_: str, game_id: str, shot_id: str, hand: str, level: str) -> dict[str, Any]:
    """Make an exercise of a shot at one of its levels."""
    layout, ball, pocket = _shot(house, scope, game_id, shot_id)
    found = next((one for one in levels(layout, ball, pocket, PRESETS[hand]) if one.name == level), None)
    if found is None:
        raise Refused(f"there is no {level} one of this kind for this hand")
    words = f"{ball_words(ball)} {pocket_words(pocket, layout.discipline)}".strip()
    title = words if level == AS_IT_WAS else f"{words}, {level}"
    return _made(
        house,
        scope,
        Exercise(id_, title, game_id, shot_id, layout_as_data(found.layout), ball, pocket, found.chance),
    )


def make_layout(house: House, scope: Scope, id_: str, game_id: str, shot_id: str) -> dict[str, Any]:
    """Make an exercise of the whole table before a shot: run it out."""
    with house.database.transaction() as db:
        before = house.recent.find(db, scope, game_id).shot(shot_id).before
    if before is None or before.cue is None or not before.object_balls:
        raise Refused("nobody has said where the balls lay before this shot")
    title = f"{len(before.object_balls)} balls, run out"
    one = Exercise(id_, title, game_id, shot_id, layout_as_data(before), None, None, None, LAYOUT)
    return _made(house, scope, one)


def make_runs(house: House, scope: Scope, id_: str, title: str) -> dict[str, Any]:
    """Make a daily log of runs: no table of its own, as many balls as come."""
    if not title.strip():
        raise Refused("say what is run: straight pool alone, the line of reds")
    return _made(house, scope, Exercise(id_, title.strip(), None, None, None, None, None, None, RUN))


def _made(house: House, scope: Scope, one: Exercise) -> dict[str, Any]:
    house.database.write(lambda db: practice.add(db, scope, one))
    return told(house, scope, one.id)


def listed(house: House, scope: Scope) -> list[dict[str, Any]]:
    with house.database.transaction() as db:
        rows = practice.listed(db, scope)
    told = ("id", "title", "ball", "pocket", "chance", "task")
    return [{**{name: one[name] for name in told}, "rate": asdict(wilson(one["made"], one["n"]))} for one in rows]


def told(house: House, scope: Scope, id_: str) -> dict[str, Any]:
    """An exercise with its layout, set-up card, and what each player's attempts come to."""
    with house.database.transaction() as db:
        one = practice.find(db, scope, id_)
        days, runs = practice.days(db, one), practice.runs(db, one)
        before_and_since = _in_matches(db, scope, one, days)
    layout = layout_from(one.layout) if one.layout is not None else None
    names = dict.fromkeys(d["player"] for d in days)
    return {
        "id": one.id, "title": one.title, "task": one.task, "ball": one.ball, "pocket": one.pocket,
        "chance": one.chance, "discipline": layout.discipline if layout else None,
        "table": layout.table.name if layout else None, "balls": layout.balls if layout else {},
        "game": one.game_id, "shot": one.shot_id,
        "picture": drawing(layout, (), title=one.title, colours="print") if layout else "",
        "card": [each.text for each in card(layout)] if layout else [], "caution": CAUTION,
        "players": [
            {
                **_player(name, [d for d in days if d["player"] == name], one.chance),
                "runs": _runs([run for run in runs if run.player == name]),
                "matches": before_and_since.get(name),
            }
            for name in names
        ],
    }  # fmt: skip


def _runs(runs: Sequence[Run]) -> dict[str, Any] | None:
    """What a player's runs come to: mean and best, why they ended, the last ones."""
    if not runs:
        return None
    balls = [run.balls for run in runs]
    return {
        "mean": asdict(mean_interval([float(one) for one in balls])),
        "best": max(balls),
        "why": dict(Counter(run.why or CLEARED for run in runs).most_common()),
        "last": balls[-LAST_RUNS:],
        "days": [
            {"day": day, **asdict(mean_interval([float(run.balls) for run in runs if run.day == day]))}
            for day in sorted({run.day for run in runs})
        ],
    }


def _in_matches(db: Db, scope: Scope, one: Exercise, days: Sequence[dict[str, Any]]) -> dict[str, Any]:
    """By player: like shots in matches before the first try at this exercise and since then, and their difference:
    did what was practised get better in play?
    """
    if one.layout is None or one.ball is None or one.pocket is None:
        return {}
    like = likeness_in(layout_from(one.layout), one.ball, one.pocket)
    if like is None:
        return {}
    found = {}
    for name in dict.fromkeys(day["player"] for day in days):
        first = min(day["day"] for day in days if day["player"] == name)
        before, since = (wilson(*one) for one in alike.before_and_since(db, scope, like, LIKE, name, first))
        gap = apart(since, before)
        found[name] = {
            "before": asdict(before), "since": asdict(since), "difference": asdict(gap) if gap else None,
        }  # fmt: skip
    return found


def tried(house: House, scope: Scope, id_: str, attempts: Sequence[Attempt]) -> dict[str, Any]:
    """Log attempts, some of which may have been sent before."""

    def write(db: Any) -> None:
        practice.tried(db, scope, practice.find(db, scope, id_), attempts)

    house.database.write(write)
    return told(house, scope, id_)


def take_back(house: House, scope: Scope, id_: str, attempt: str) -> dict[str, Any]:
    house.database.write(lambda db: practice.take_back(db, practice.find(db, scope, id_), attempt))
    return told(house, scope, id_)


def drop(house: House, scope: Scope, id_: str) -> None:
    house.database.write(lambda db: practice.drop(db, scope, id_))


def card_of(house: House, scope: Scope, id_: str) -> str:
    """The set-up card of an exercise, as a page."""
    with house.database.transaction() as db:
        one = practice.find(db, scope, id_)
    if one.layout is None:
        raise Refused("an open run has no table to set up")
    layout = layout_from(one.layout)
    if one.ball is None or one.pocket is None:
        return card_page(layout, one.title, "Run the table out")
    task = f"Pot the {ball_words(one.ball)} into {pocket_words(one.pocket, layout.discipline)}"
    return card_page(layout, one.title, task)


def _player(name: str, days: Sequence[dict[str, Any]], chance: float | None) -> dict[str, Any]:
    n, made = (sum(day[what] for day in days) for what in ("n", "made"))
    rate = wilson(made, n)
    return {
        "name": name,
        "rate": asdict(rate),
        "zone": asdict(wilson(sum(day["inside"] for day in days), sum(day["zoned"] for day in days))),
        "thick": sum(day["thick"] for day in days),
        "thin": sum(day["thin"] for day in days),
        "days": [{"day": day["day"], "n": day["n"], "made": day["made"]} for day in days],
        "curve": [
            {"day": day, **asdict(one)} for day, one in curve([Day(d["day"], d["n"], d["made"]) for d in days])
        ],
        "advice": _advice(rate.low, rate.high, n, chance),
    }


def _advice(low: float, high: float, n: int, chance: float | None) -> str:
    """When to make it harder or easier, and when the numbers do not tell yet."""
    if n < ENOUGH:
        return f"{ENOUGH - n} more tries before the numbers tell anything"
    if low > WORTH[1]:
        return "make it harder: it comes off more than eight times in ten"
    if high < WORTH[0]:
        return "make it easier: it comes off less than six times in ten"
    if chance is not None and low > chance:
        return "above what was expected of this hand"
    return "stay with it: six to eight in ten teach most"


def _shot(house: House, scope: Scope, game_id: str, shot_id: str) -> tuple[Layout, str, str]:
    with house.database.transaction() as db:
        known = house.recent.find(db, scope, game_id)
    played = known.shot(shot_id)
    called = played.data.get("called") or {}
    ball, pocket = called.get("ball"), called.get("pocket")
    if played.before is None or played.before.cue is None or ball not in played.before.balls:
        raise Refused("an exercise needs a shot whose balls are placed and that has a meant ball")
    if pocket not in played.before.table.pockets:
        raise Refused("an exercise needs a meant pocket")
    return played.before, str(ball), str(pocket)
