"""What should have been played: choices, plans and maps in the background, and what was felt beside them."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import asdict, dataclass, field
from typing import Any

from aretane.core.ball import CUE
from aretane.core.conditions import conditions_from, table_under
from aretane.core.errors import InputError, NotFound
from aretane.core.physics.stroke import Stroke
from aretane.core.review.partners import SEATS, SIDES, alone_at, turns_at
from aretane.core.rules.game import opponent
from aretane.core.rules.options import check_options
from aretane.core.rules.traits import traits_of
from aretane.core.skill.hand import hand_as_data
from aretane.core.table import Point, table_as_data, table_from
from aretane.desk.hands import asked_hand, on_record
from aretane.desk.house import House
from aretane.desk.layouts import asked_layout
from aretane.desk.work.choices import Drawn, Wanted, wanted_as_data
from aretane.desk.work.kinds import CHOICES
from aretane.jobs.runner import QueuePlace
from aretane.store import answers, jobs
from aretane.store.database import Db
from aretane.store.jobs import RUNNING, Job
from aretane.store.scope import Scope

FIRST, SETTLED = ("glance", "coarse"), ("glance", "coarse", "fine")


@dataclass(frozen=True)
class Question:
    """A layout and two hands, each as `asked_hand` takes it. `settle`: go on to the fine level. `race`: racks that
    the player and the opponent still need; `answering`: the player answers a push-out; `drawn` strokes are valued
    among those found. `begin`: balls that an order is to begin with; `alone`: nobody plays after a miss.
    """

    kind: str
    table: Any
    discipline: str
    balls: dict[str, Point]
    state: dict[str, Any] | None = None
    rules: Mapping[str, Any] = field(default_factory=dict)
    player: str | Mapping[str, Any] = "club"
    opponent: str | Mapping[str, Any] | None = None
    handed: str = "right"
    settle: bool = False
    race: tuple[int, int] | None = None
    answering: bool = False
    barred: tuple[str, ...] = ()
    drawn: Sequence[Drawn] = ()
    begin: tuple[str, ...] = ()
    alone: bool = False


def choices(house: House, scope: Scope, asked: Question, page: str = "", *, again: bool = False) -> dict[str, Any]:
    """What is known now; asking again tells how far it has come. Work stops when nobody asks any more.

    `page` is who asks, `again` whether what failed is to be tried again.
    """
    table = table_from(asked.table)
    player = asked_hand(house, scope, asked.player, table, "player")
    opponent = player if asked.opponent is None else asked_hand(house, scope, asked.opponent, table, "opponent")
    layout = asked_layout(asked.table, asked.discipline, asked.balls, asked.state)
    if not layout.object_balls:
        raise InputError("balls", "there is no ball that may be played")
    check_options(layout.discipline, asked.rules)
    wanted = Wanted(
        asked.kind, layout, dict(asked.rules), (player, opponent), asked.handed,
        SETTLED if asked.settle else FIRST, tuple(asked.drawn), asked.race, asked.answering, asked.barred,
        begin=asked.begin, alone=asked.alone,
    )  # fmt: skip
    key = wanted.hash

    def ask(db: Db) -> tuple[Job, QueuePlace | None, dict[str, Any]]:
        job = house.jobs.ask(db, scope, CHOICES, key, wanted_as_data(wanted), page, again=again)
        return job, house.jobs.place(db, job), answers.find(db, scope, key)

    job, place, body = house.database.write(ask)
    if job.going:
        house.jobs.wake()
    return {
        "hash": key,
        "state": RUNNING if job.going else job.state,
        "progress": job.progress,
        "said": job.said,
        "place": asdict(place) if place else None,
        "body": body,
        "hands": [hand_as_data(player), hand_as_data(opponent)],
    }


@dataclass(frozen=True)
class AtShot:
    """What a coach looks at: an entry of a match (None: the one that comes next, of player `seat`), the
    balls as they lie there, `tried` if he put some elsewhere, a stroke that he `added`, and the hands to take:
    "record" for what is logged of each player, or a preset. `handed`: other than the match says.
    """

    kind: str
    shot: str | None
    balls: dict[str, Point]
    seat: str | None = None
    tried: bool = False
    added: Stroke | None = None
    player: str = "record"
    opponent: str = "record"
    handed: str | None = None
    settle: bool = False
    begin: tuple[str, ...] = ()


def at_shot(
    house: House, scope: Scope, game_id: str, asked: AtShot, page: str = "", *, again: bool = False
) -> dict[str, Any]:
    """The choices there, and which of them was played."""
    with house.database.transaction() as db:
        match = house.recent.find(db, scope, game_id).answer
    rack, shot = _entry(match, asked.shot)
    state = shot["state"] if shot else (rack["next_up"] if rack else match["opening"] or {}).get("state")
    if state is None:
        raise InputError("shot", "there is nothing to choose here: it is a break, or the rack is over")
    document: dict[str, Any] = shot["document"] if shot else {}
    seat = document.get("player") or asked.seat or state["player"]
    drawn = [] if asked.added is None else [Drawn("added", asked.added, None, None)]
    if shot and not asked.tried:
        drawn = [*_logged(document), *drawn]
    standing = (shot.get("before") or {}).get("balls") if shot else None
    header = match["header"]
    day = conditions_from(header.get("conditions"))
    due = _due(match, asked.shot)
    player, other = (
        on_record(header, side, due[side]) if name == "record" else name
        for side, name in ((seat, asked.player), (opponent(seat), asked.opponent))
    )
    table = table_as_data(table_under(table_from(header.get("table") or "pool-9ft"), day))
    question = Question(
        asked.kind, table, header["discipline"],
        {ball: place for ball, place in asked.balls.items() if not standing or ball in standing or ball == CUE},
        {**state, "ball_in_hand": False if CUE in asked.balls else state["ball_in_hand"]},
        header.get("rules") or {}, player, other, asked.handed or day.hand(seat) or "right", asked.settle,
        _race(match, rack, seat), bool(state["answering"]), day.barred(seat), drawn, asked.begin,
        alone_at(header, seat),
    )  # fmt: skip
    found = choices(house, scope, question, page, again=again)
    options = (found["body"].get("options") or {}).get("options")
    return {**found, "played": played_of(document, options) if shot and options and not asked.tried else None}


def _entry(match: dict[str, Any], shot_id: str | None) -> tuple[dict[str, Any] | None, dict[str, Any] | None]:
    """The rack and the shot; for the entry that comes next the rack that is under way, if one is."""
    if shot_id is None:
        last = match["racks"][-1] if match["racks"] else None
        return (last if last and not last["over"] else None), None
    for rack in match["racks"]:
        for shot in rack["shots"]:
            if shot["id"] == shot_id:
                return rack, shot
    raise NotFound("shot")


def _logged(document: dict[str, Any]) -> list[Drawn]:
    """The stroke that was played, if it was logged, with what was meant."""
    stroke, called = document.get("stroke") or {}, document.get("called") or {}
    if stroke.get("aim") is None or stroke.get("speed") is None:
        return []
    meant = document.get("intent") in (None, "attack", "two-way") and document.get("declared") != "safety"
    known = Stroke(
        stroke["speed"], stroke["aim"], side=stroke.get("side") or 0.0, height=stroke.get("height") or 0.0
    )
    return [Drawn("played", known, called.get("ball") if meant else None, called.get("pocket") if meant else None)]


def _due(match: dict[str, Any], shot_id: str | None) -> dict[str, str]:
    """Of each side's partners whose turn it is there."""
    racks = [{"shots": [shot["document"] for shot in rack["shots"]]} for rack in match["racks"]]
    turns = turns_at({**match["header"], "racks": racks})
    for rack, due in zip(match["racks"], turns, strict=True):
        for shot, seats in zip(rack["shots"], due, strict=False):
            if shot["id"] == shot_id:
                return seats
    return turns[-1][-1] if turns else dict.fromkeys(SIDES, SEATS[0])


def _race(match: dict[str, Any], rack: dict[str, Any] | None, seat: str) -> tuple[int, int] | None:
    """Racks that the player and the opponent still needed before this rack; None where none are raced for."""
    target = match["header"].get("race_to")
    traits = traits_of(match["header"]["discipline"])
    if not target or int(match["rules"].get("sets") or 1) > 1 or traits.goes_on:
        return None
    index = match["racks"].index(rack) if rack else len(match["racks"])
    score = match["racks"][index - 1]["score"] if index else {}
    mine, theirs = (target - (score.get(who) or 0) for who in (seat, opponent(seat)))
    return (mine, theirs) if mine > 0 and theirs > 0 else None


def played_of(document: Mapping[str, Any], options: Sequence[Mapping[str, Any]]) -> dict[str, Any] | None:
    """The option that was played: the logged stroke itself (`exact`), else the nearest to what was logged of it."""
    called, intent = document.get("called") or {}, document.get("intent")

    def first(fits: Callable[[Mapping[str, Any]], bool], *, exact: bool) -> dict[str, Any] | None:
        index = next((index for index, one in enumerate(options) if fits(one)), None)
        return None if index is None else {"index": index, "exact": exact}

    itself = first(lambda one: "played" in one["also"], exact=True)
    if itself is not None:
        return itself
    if called.get("ball") and called.get("pocket"):
        return first(lambda one: (one["ball"], one["pocket"]) == (called["ball"], called["pocket"]), exact=False)
    return first(lambda one: one["ball"] is None, exact=False) if intent and intent != "attack" else None


def stop(house: House, scope: Scope, key: str) -> None:
    house.database.write(lambda db: jobs.stop(db, scope, CHOICES, key))
