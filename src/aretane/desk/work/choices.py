"""Choices: coarse at once, then finer while somebody looks; who could run this, and against whom.

The same steps serve the page, whose job has them done in parts elsewhere, and the command line, which does them at
once. Stored is all that is known after every part; what was worked out before is found again by the hash of layout,
hands, rules and the model's version.
"""

from __future__ import annotations

import hashlib
from collections.abc import Callable, Iterator
from dataclasses import asdict, dataclass, replace
from typing import TYPE_CHECKING, Any, Concatenate, ParamSpec, Protocol, TypeVar

import orjson

from aretane.core.conditions import arm_of
from aretane.core.errors import InputError
from aretane.core.layout import Layout
from aretane.core.physics.stroke import Stroke
from aretane.core.rules.traits import traits_of
from aretane.core.skill.hand import Hand, presets_for
from aretane.core.skill.reach import Arm
from aretane.core.statistics.rates import Rate, wilson
from aretane.formats.layout import layout_as_data, layout_from
from aretane.formats.stroke import stroke_as_data, stroke_from
from aretane.jobs.kept import Kept

if TYPE_CHECKING:
    from aretane.core.planning.choices.option import Option, Options
    from aretane.core.planning.choices.options import Task
    from aretane.core.planning.outlook.outlook import Outlook
    from aretane.core.planning.outlook.stage import Stage
    from aretane.core.planning.pots.strokes import Effort

    Stages = dict[tuple[str, ...], Stage]

P = ParamSpec("P")
K = TypeVar("K")
T = TypeVar("T")
Body = dict[str, Any]

VERSION = 14  # of the model; results of another one are worked out again
LIMIT = 120.0  # seconds for one part; they take a few
THREADS = 2  # of a part
CHUNK = 4  # strokes valued in one part
RACKS = 100  # played on in one part


@dataclass(frozen=True)
class Drawn:
    """A stroke to value among those found: where it is from (played, added), and the pot that is meant, if any."""

    source: str
    stroke: Stroke
    ball: str | None
    pocket: str | None


@dataclass(frozen=True)
class Wanted:
    """What to work out: `kind` is choices, order (a plan that is to `begin` with these balls), who (could run this)
    or against (each opponent). `levels` from coarse to fine; `drawn` strokes are valued among those found. `race`:
    racks that the player and the opponent still need; `answering`: the player answers a push-out; `barred`: what is
    not there or not allowed, see `core/conditions`; `alone`: nobody plays after a miss.
    """

    kind: str
    layout: Layout
    rules: dict[str, Any]
    hands: tuple[Hand, Hand]
    handed: str
    levels: tuple[str, ...]
    drawn: tuple[Drawn, ...] = ()
    race: tuple[int, int] | None = None
    answering: bool = False
    barred: tuple[str, ...] = ()
    seed: int = 0
    begin: tuple[str, ...] = ()
    alone: bool = False

    @property
    def arm(self) -> Arm:
        return arm_of(self.handed, self.barred)

    @property
    def hash(self) -> str:
        data = {**wanted_as_data(self), "version": VERSION}
        return hashlib.sha256(orjson.dumps(data, option=orjson.OPT_SORT_KEYS)).hexdigest()


def wanted_as_data(wanted: Wanted) -> Body:
    """What a job is asked for, as its row keeps it."""
    return {
        **asdict(wanted),
        "layout": layout_as_data(wanted.layout),
        "drawn": [{**asdict(one), "stroke": stroke_as_data(one.stroke)} for one in wanted.drawn],
    }


def wanted_from(data: Body) -> Wanted:
    """The inverse of `wanted_as_data`."""
    first, second = data["hands"]
    return Wanted(
        **{
            **data,
            "layout": layout_from(data["layout"]),
            "hands": (_hand_again(first), _hand_again(second)),
            "levels": tuple(data["levels"]),
            "drawn": tuple(Drawn(**{**one, "stroke": stroke_from(one["stroke"])}) for one in data["drawn"]),
            "race": tuple(data["race"]) if data["race"] else None,
            "barred": tuple(data.get("barred") or ()),
            "begin": tuple(data.get("begin") or ()),
        }
    )


def _hand_again(data: Body) -> Hand:
    partner = data.get("partner")
    return Hand(**{**data, "partner": None if partner is None else Hand(**partner)})


class Doing(Protocol):
    """Who does the parts: a job's `Work`, or `Here`."""

    def part(self, limit: float, work: Callable[P, T], /, *arguments: P.args, **named: P.kwargs) -> T: ...

    def keep(
        self, limit: float, key: str, make: Callable[P, tuple[K, T]], /, *arguments: P.args, **named: P.kwargs
    ) -> tuple[Kept[K], T]: ...

    def with_kept(
        self, limit: float, held: Kept[K], work: Callable[Concatenate[K, P], T], /, *arguments: P.args,
        **named: P.kwargs,
    ) -> T: ...  # fmt: skip


class Here:
    """Does parts at once, in this process."""

    def part(self, limit: float, work: Callable[P, T], /, *arguments: P.args, **named: P.kwargs) -> T:
        return work(*arguments, **named)

    def keep(
        self, limit: float, key: str, make: Callable[P, tuple[K, T]], /, *arguments: P.args, **named: P.kwargs
    ) -> tuple[Kept[K], T]:
        value, told = make(*arguments, **named)
        return Kept(key, value=value), told

    def with_kept(
        self, limit: float, held: Kept[K], work: Callable[Concatenate[K, P], T], /, *arguments: P.args,
        **named: P.kwargs,
    ) -> T:  # fmt: skip
        assert held.value is not None
        return work(held.value, *arguments, **named)


def steps(do: Doing, wanted: Wanted) -> Iterator[tuple[float, Body]]:
    """Progress, 0 to 1, and all that is known, after every part."""
    return {"choices": _choices, "order": _ordered, "who": _who, "against": _against}[wanted.kind](do, wanted)


def options(wanted: Wanted) -> Body:
    """The choices at once, as the `options` command tells them."""
    outlook, _ = _outlook(Here(), wanted, wanted.levels[-1])
    *_, (_, body) = _found(Here(), wanted, wanted.levels[-1], outlook, coarse=False)
    found: Body = body["options"]
    return {name: found[name] for name in found if name != "complete"}


def balls_in(order: str) -> tuple[str, ...]:
    """Balls written one after the other, between commas."""
    return tuple(ball.strip() for ball in order.split(",") if ball.strip())


def plan(wanted: Wanted) -> Body:
    """The plan at once, as the `plan` command tells it."""
    outlook, _ = make_outlook(wanted, wanted.levels[-1], {})
    return planned(outlook, wanted, wanted.levels[-1])["plan"]  # type: ignore[no-any-return]


def _choices(do: Doing, wanted: Wanted) -> Iterator[tuple[float, Body]]:
    body: Body = {}
    share = 1.0 / len(wanted.levels)
    for number, level in enumerate(wanted.levels):
        base = number * share
        outlook, told = _outlook(do, wanted, level)
        body |= told | {"level": level}
        yield base + 0.2 * share, body
        for part, told in _found(do, wanted, level, outlook, coarse=number == 0):
            body |= told
            yield base + (0.25 + 0.55 * part) * share, body
        body |= do.with_kept(LIMIT, outlook, planned, wanted, level)
        yield base + share, body


def _ordered(do: Doing, wanted: Wanted) -> Iterator[tuple[float, Body]]:
    """A plan that begins as somebody wants it, coarse and then finer."""
    share = 1.0 / len(wanted.levels)
    for number, level in enumerate(wanted.levels, start=1):
        outlook, _ = _outlook(do, wanted, level)
        yield number * share, do.with_kept(LIMIT, outlook, planned, wanted, level) | {"level": level}


def _outlook(do: Doing, wanted: Wanted, level: str) -> tuple[Kept[Outlook], Body]:
    """The values of the table; where they take long a ball at a time, so that no part does."""
    stages: dict[tuple[str, ...], Stage] = {}
    if _effort(level).level > 0:
        while (one := do.part(LIMIT, next_stage, wanted, level, stages)) is not None:
            stages |= one
    return do.keep(LIMIT, level, make_outlook, wanted, level, stages)


def _found(
    do: Doing, wanted: Wanted, level: str, outlook: Kept[Outlook], *, coarse: bool
) -> Iterator[tuple[float, Body]]:
    """The options of one level; `coarse` ones are shown as they come, finer ones when all are there."""
    found: list[Option] = []
    tasks = pots = do.with_kept(LIMIT, outlook, find_pots, wanted, level)
    searched = False  # for what is no plain pot: those are shown first, the rest takes a while to find
    while tasks or not searched:
        if not searched and (not coarse or found or not tasks):
            more, pushes = do.with_kept(LIMIT, outlook, find_others, wanted, level, pots)
            tasks, found, searched = tasks + more, found + pushes, True
        part, tasks = tasks[:CHUNK], tasks[CHUNK:]
        over = searched and not tasks
        worth, told = do.with_kept(
            LIMIT, outlook, value, wanted, level, part, found if coarse or over else None, over
        )
        found += worth
        left = len(tasks) + (CHUNK if searched else 4 * CHUNK)
        yield 0.9 * len(found) / (len(found) + left), told
    known: dict[int, list[Rate]] = {}
    told, unknown = do.with_kept(LIMIT, outlook, played, wanted, level, found, known)
    while unknown is not None:
        pieces = [0] if traits_of(wanted.layout.discipline).points else range(0, _effort(level).played, RACKS)
        known[unknown] = [
            do.with_kept(LIMIT, outlook, racks_of, wanted, level, found[unknown], at) for at in pieces
        ]
        told, unknown = do.with_kept(LIMIT, outlook, played, wanted, level, found, known)
    yield 1.0, told


def _who(do: Doing, wanted: Wanted) -> Iterator[tuple[float, Body]]:
    every = {"this player": wanted.hands[0], **presets_for(wanted.layout.table)}
    known: Body = {}
    for name, hand in every.items():
        known[name] = do.part(LIMIT, runs_out, wanted, hand)
        yield len(known) / len(every), {"who": known}


def _against(do: Doing, wanted: Wanted) -> Iterator[tuple[float, Body]]:
    every = presets_for(wanted.layout.table)
    known: list[Body] = []
    for name, hand in every.items():
        known.append(do.part(LIMIT, stand_against, wanted, name, hand))
        yield len(known) / len(every), {"against": known}


def _effort(level: str) -> Effort:
    from aretane.core.planning.pots.strokes import (
        EFFORTS,
    )  # loads the kernels, which a server's start does not need

    return EFFORTS[level]


# The parts.


def next_stage(wanted: Wanted, level: str, known: Stages) -> Stages | None:
    """In rotation games the values with one more ball, from the last on; None when all are known."""
    from aretane.core.planning.choices.options import playable
    from aretane.core.planning.outlook.outlook import game_of
    from aretane.core.planning.outlook.rotation import one_more

    game = game_of(wanted.layout, wanted.rules, alone=wanted.alone)
    playable(game)
    if not traits_of(wanted.layout.discipline).rotation:
        return None
    more = dict(known)
    if one_more(game, wanted.hands, _effort(level), wanted.seed, THREADS, None, more) is None:
        return None
    return {balls: stage for balls, stage in more.items() if balls not in known}


def make_outlook(wanted: Wanted, level: str, stages: Stages) -> tuple[Outlook, Body]:
    from aretane.core.planning.choices.options import outlook_for, playable
    from aretane.core.planning.outlook.outlook import game_of, shown_maps
    from aretane.formats.choices import maps_as_data

    game = game_of(wanted.layout, wanted.rules, alone=wanted.alone)
    playable(game)
    outlook = outlook_for(game, wanted.hands, _effort(level), wanted.seed, THREADS, known=stages)
    told: Body = {"maps": maps_as_data(outlook.grid, shown_maps(outlook))}
    if wanted.answering:
        told["answer"] = push_answer(outlook)
    return outlook, told


def find_pots(outlook: Outlook, wanted: Wanted, level: str) -> list[Task]:
    """The drawn strokes and the plain pots to value."""
    from aretane.core.physics.stroke import check_stroke
    from aretane.core.planning.choices.options import Task, pot_tasks
    from aretane.core.planning.choices.search import Idea

    tasks = []
    for one in wanted.drawn:
        place = check_stroke(wanted.layout, one.stroke)
        tasks.append(Task(place, Idea(_meant(place, one), one.ball, one.pocket), one.source))
    return tasks + pot_tasks(outlook, _effort(level), wanted.arm, wanted.barred)


def find_others(outlook: Outlook, wanted: Wanted, level: str, pots: list[Task]) -> tuple[list[Task], list[Option]]:
    """Everything else to value, and the push-outs, which are valued at once."""
    from aretane.core.planning.choices.options import other_tasks, pushed

    effort = _effort(level)
    plain = [task for task in pots if task.source is None]
    return other_tasks(outlook, effort, plain, THREADS, wanted.barred), pushed(outlook, effort, wanted.seed)


def _meant(layout: Layout, drawn: Drawn) -> Stroke:
    """The stroke as it was meant: for a direct pot with the aim for it; a bank or kick as it was struck."""
    from aretane.core.physics.aim import aimed

    if drawn.ball is None or drawn.pocket is None:
        return aimed(layout, drawn.stroke)
    try:
        return aimed(layout, replace(drawn.stroke, aim=None, at=drawn.ball, pocket=drawn.pocket))
    except InputError:
        return aimed(layout, drawn.stroke)


def value(
    outlook: Outlook, wanted: Wanted, level: str, tasks: list[Task], shown: list[Option] | None, over: bool
) -> tuple[list[Option], Body]:
    """The strokes' worth, and all options with them, if those known are to be `shown`."""
    from aretane.core.planning.choices.options import arranged, fits, valued

    found = [valued(outlook, task, _effort(level), wanted.seed, THREADS, wanted.arm) for task in tasks]
    worth = [one for one, task in zip(found, tasks, strict=True) if task.source or fits(one, wanted.barred)]
    if shown is None:
        return worth, {}
    return worth, {"options": _told(wanted, arranged(outlook, [*shown, *worth]), complete=over)}


def racks_of(outlook: Outlook, wanted: Wanted, level: str, option: Option, at: int) -> Rate:
    """Some of the racks that are played on to their end from an option; in games of points all visits."""
    from aretane.core.planning.choices.options import rate_of

    return rate_of(outlook, option, _effort(level), wanted.seed, THREADS, slice(at, at + RACKS))


class _Unknown(Exception):
    """The racks of this option, by its place among those found, are not played yet."""


def played(
    outlook: Outlook, wanted: Wanted, level: str, found: list[Option], known: dict[int, list[Rate]]
) -> tuple[Body, int | None]:
    """The options with values from racks played on to their end, and what follows from them; or, second, the place
    of the option whose racks must be played first."""
    from aretane.core.planning.choices.options import arranged
    from aretane.core.planning.choices.played import played_on
    from aretane.core.planning.choices.visited import maps_as_scored
    from aretane.formats.choices import maps_as_data

    def rate_of(option: Option) -> Rate:
        place = next(place for place, one in enumerate(found) if one.stroke is option.stroke)
        if place not in known:
            raise _Unknown(place)
        pieces = known[place]
        if len(pieces) == 1:
            return pieces[0]
        return wilson(round(sum((one.p or 0.0) * one.n for one in pieces)), sum(one.n for one in pieces))

    try:
        worth = played_on(outlook, found, rate_of) if _effort(level).played else found
    except _Unknown as unknown:
        return {}, int(unknown.args[0])
    every = arranged(outlook, worth)
    told = {
        "options": _told(wanted, every, complete=True),
        "curves": curves(every, wanted.race),
        "schools": schools(every),
    }
    if not outlook.plays_on and known:
        ((came,),) = known.values()
        told["maps"] = maps_as_data(outlook.grid, maps_as_scored(outlook, found, came))
    return told, None


def _told(wanted: Wanted, known: Options, *, complete: bool) -> Body:
    from aretane.formats.choices import options_as_data

    return {**options_as_data(known, wanted.layout.discipline), "complete": complete}


def planned(outlook: Outlook, wanted: Wanted, level: str) -> Body:
    from aretane.core.planning.plans.plan import plan_for
    from aretane.core.planning.plans.trouble import trouble_on
    from aretane.formats.choices import plan_as_data, trouble_as_data

    effort, seed = _effort(level), wanted.seed
    made = plan_for(outlook, effort, seed, THREADS, begin=wanted.begin)
    trouble = trouble_on(outlook, made, seed, THREADS, closely=effort.played > 0)  # not at a first look
    return {"plan": plan_as_data(made), "trouble": trouble_as_data(trouble)}


def runs_out(wanted: Wanted, hand: Hand) -> Body:
    """How often this hand finishes from here."""
    from aretane.core.planning.choices.options import outlook_for
    from aretane.core.planning.outlook.outlook import game_of
    from aretane.core.planning.plans.plan import who_could_run
    from aretane.core.planning.pots.strokes import GLANCE

    game = game_of(wanted.layout, wanted.rules, alone=wanted.alone)
    outlook = outlook_for(game, (hand, hand), GLANCE, wanted.seed, THREADS)
    return asdict(who_could_run(outlook, seed=wanted.seed, threads=THREADS))


def stand_against(wanted: Wanted, name: str, opponent: Hand) -> Body:
    """Best attack and safety against this opponent."""
    from aretane.core.planning.choices.options import options_for
    from aretane.core.planning.choices.sensitivity import against
    from aretane.core.planning.pots.strokes import GLANCE

    hands = wanted.hands[0], opponent
    found = options_for(wanted.layout, hands, GLANCE, wanted.seed, THREADS, wanted.rules, wanted.arm, wanted.barred)
    return asdict(against(name, found))


def push_answer(outlook: Outlook) -> Body | None:
    from aretane.core.planning.choices.push_out import answer_to_push

    found = answer_to_push(outlook)
    return {"play": found[0], "hand_back": found[1]} if found else None


def curves(found: Options, race: tuple[int, int] | None) -> Body:
    from aretane.core.planning.choices.sensitivity import for_match, over_pot, ten_points_better

    curve, match = over_pot(found), for_match(found, *race) if race else None
    return {
        "over_pot": asdict(curve) if curve else None,
        "ten_points_better": ten_points_better(found),
        "match": asdict(match) if match else None,
    }


def schools(found: Options) -> list[Body]:
    from aretane.core.planning.choices.schools import SCHOOLS, order_for

    return [{"name": one.name, "says": one.says, "order": order_for(found, one)} for one in SCHOOLS]
