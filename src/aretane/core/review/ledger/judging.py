"""One entry judged: the best that could be played, what was meant, and what usually comes of that.

The best option is picked on one set of samples; it and the chosen stroke are valued on a second one, the same for
both, so that a choice costs nothing in the mean where two are worth the same. Where racks can be played on to
their end, maps and played racks are put together, each with the weight of its own uncertainty.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, MutableMapping
from contextlib import suppress
from dataclasses import dataclass, field, replace

from aretane.core.ball import CUE
from aretane.core.errors import InputError
from aretane.core.geometry.plane import turn
from aretane.core.layout import Layout, first_overlap
from aretane.core.physics.aim import aimed
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.choices.option import ATTACK, SAFE, Option, Options
from aretane.core.planning.choices.options import Task, arranged, outlook_for, push_of, pushed, tasks_for, valued
from aretane.core.planning.choices.played import PLAYED_SEED, played_on, racks_from
from aretane.core.planning.choices.schools import SCHOOLS, liking, order_for
from aretane.core.planning.choices.search import Idea, pot_ideas
from aretane.core.planning.choices.value import STILL
from aretane.core.planning.outlook.outlook import Game, Outlook
from aretane.core.planning.outlook.stage import Stage
from aretane.core.planning.pots.strokes import Effort
from aretane.core.review.ledger.juncture import ALL, NO_INTENT, NO_STROKE, PUSH_OUT, Juncture, Meant
from aretane.core.review.ledger.outcome import Outcomes
from aretane.core.review.ledger.valuing import MAP_OFF, Care, Valuing, played_share, together
from aretane.core.review.ledger.worth import Known, within
from aretane.core.rules.disciplines import rules_of
from aretane.core.rules.traits import traits_of
from aretane.core.skill.hand import Hand
from aretane.core.statistics.rates import Rate

SECOND = 5000  # seeds of the second set of samples lie so far from the first
POTS = 6  # plain pots of a ball that was meant, where its stroke is not logged
ASIDE = 3.0  # standard deviations of an aim that is taken for one at the middle of the pocket
SAME_PLACE = 0.1  # m: a ball in hand placed as near as this to another place is placed the same


@dataclass(frozen=True)
class Choice:
    """A choice as it is shown: what it is, its stroke, the chance of its pot and what it is worth, with the cue
    ball's way.
    """

    kind: str
    intent: str
    ball: str | None
    pocket: str | None
    stroke: Stroke
    pot: float | None
    value: float
    route: str
    path: tuple[tuple[float, float], ...]
    why: str


@dataclass(frozen=True)
class Judgement:
    """`before`: what the best option is worth. `chosen`: what was meant is worth; `decision` is what that costs and
    `expected` what remained when it was known whether the pot was made or a foul; `fortune` what the other balls
    did beyond what was to be expected (None: not told). `split` says how far it could be told.
    """

    before: Known
    best: Choice | None
    attack: Choice | None
    safety: Choice | None
    chosen: Choice | None
    decision: Known | None
    expected: Known | None
    fortune: Known | None
    split: str
    even: float | None = None  # the pot chance from which the best attack is right
    tastes: Mapping[str, float] = field(default_factory=dict)  # what the choice costs by each school's liking


Stages = MutableMapping[tuple[str, ...], Stage]


def judge(
    at: Juncture, hands: tuple[Hand, Hand], care: Care, seed: int = 0, threads: int = 1, known: Stages | None = None
) -> Judgement:
    """An entry with a stroke, its balls all known; `hands` of the player to act and of the other. `known` serves
    the next entries of a rack too, see `still_true`. Raises `InputError` where there is nothing to play.
    """
    game = game_at(at)
    outlook = outlook_for(game, hands, care.effort, seed, threads, known=known)
    found, options = _options(outlook, care, seed, threads)
    best = _best(options)
    valuing = Valuing(outlook, care, seed + SECOND, threads)
    value = valuing.value(best)
    own, split = (
        _own(at, found, options, best, outlook, valuing) if at.came or at.meant.intent else (None, NO_INTENT)
    )
    told = Judgement(
        value, _choice(game, best, value.value), _first(game, options, ATTACK, valuing),
        _first(game, options, SAFE, valuing), None, None, None, None, split, options.break_even_pot,
    )  # fmt: skip
    if own is None:
        return told
    decision = Known(0.0, 0.0) if own is best else valuing.difference(own, best)
    chosen = within(at.discipline, value.value + decision.value)
    decision = Known(chosen - value.value, decision.error)
    tastes = _tastes(options, own, decision.value)
    told = replace(told, chosen=_choice(game, own, chosen), decision=decision, tastes=tastes)
    if at.came is None:
        return told
    outcome = Outcomes(outlook, own, valuing, chosen)
    expected = outcome.expected(at.came)
    fortune = outcome.fortune(at.came) if split == ALL else None
    return replace(told, expected=expected, fortune=fortune)


def game_at(at: Juncture) -> Game:
    layout = at.layout
    assert layout is not None
    return Game(layout, rules_of(at.discipline), at.options, at.state)


def still_true(known: Stages, before: Juncture, now: Juncture) -> dict[tuple[str, ...], Stage]:
    """What is known of a rotation table that still holds after a shot: of balls that nobody moved."""
    was, lies = before.balls or {}, now.balls or {}
    kept = {ball for ball in was if ball in lies and math.dist(was[ball], lies[ball]) < STILL}
    return {balls: stage for balls, stage in known.items() if kept.issuperset(balls)}


def _options(outlook: Outlook, care: Care, seed: int, threads: int) -> tuple[list[Option], Options]:
    tasks = tasks_for(outlook, care.effort, threads)
    found = [valued(outlook, task, care.effort, seed, threads) for task in tasks]
    found += pushed(outlook, care.effort, seed)
    if outlook.plays_on:
        found = played_on(outlook, found, lambda one: _rate_of(outlook, one, care.picked, seed, threads))
    return found, arranged(outlook, found)


def _best(options: Options) -> Option:
    """The leading choice of either sort that is worth more. Few racks leave most choices within their ± of each
    other: by plainness among all of them a safety would stand before every pot.
    """
    leading: dict[str, Option] = {}
    for one in options.options:
        leading.setdefault("attack" if one.intent in ATTACK else "safe" if one.intent in SAFE else one.intent, one)
    return max(leading.values(), key=lambda one: one.win)


def _rate_of(outlook: Outlook, one: Option, racks: int, seed: int, threads: int) -> Rate:
    """What an option is picked by: few racks and the map, each with its weight. By the racks alone a choice would
    often be called the best that is not, and what was played then better than the best."""
    rate = racks_from(outlook, one, racks, seed + PLAYED_SEED, threads)
    off = MAP_OFF[traits_of(outlook.game.layout.discipline).rotation]
    return replace(rate, p=together([Known(one.win, off), played_share(rate.n * (rate.p or 0.0), rate.n)]).value)


def _tastes(options: Options, own: Option, decision: float) -> dict[str, float]:
    """By each school's liking: the choice against what that school would have played. By the numbers it is the
    decision itself."""
    found = {}
    for school in SCHOOLS:
        first = options.options[order_for(options, school)[0]]
        if school.run == school.left == 0.0:
            found[school.name] = decision
        elif own is first or _same_idea(own, first):
            found[school.name] = 0.0
        else:
            found[school.name] = min(0.0, liking(options, own, school) - liking(options, first, school))
    return found


def _first(game: Game, options: Options, sort: tuple[str, ...], valuing: Valuing) -> Choice | None:
    one = next((option for option in options.options if option.intent in sort), None)
    return None if one is None else _choice(game, one, valuing.lead + one.win)


def _choice(game: Game, one: Option, value: float) -> Choice:
    return Choice(
        one.kind, one.intent, one.ball, one.pocket, one.stroke, one.value.pot.p if one.ball else None, value,
        one.route, one.path, one.why,
    )  # fmt: skip


# What was chosen.


def _own(
    at: Juncture, found: list[Option], options: Options, best: Option, outlook: Outlook, valuing: Valuing
) -> tuple[Option | None, str]:
    """The option that was played, and how far that is known. The best one itself stands for every stroke of its
    idea."""
    meant = at.meant
    if meant.declared == PUSH_OUT or meant.intent == PUSH_OUT:
        if meant.stroke is None:
            return None, NO_STROKE
        worth = push_of(outlook, meant.stroke, valuing.care.samples, valuing.seed)
        return (best if best.intent == PUSH_OUT else worth), ALL
    if meant.stroke is not None:
        task = _meant_task(meant, outlook, made=at.came is not None and at.came.made)
        if task is None:
            return None, NO_STROKE
        own = valuing.option(task)
        return (best if _same_idea(own, best) else own), ALL
    if meant.pot is None:
        return None, NO_STROKE if meant.intent or meant.declared else NO_INTENT
    same = [one for one in options.options if (one.ball, one.pocket) == meant.pot and _placed_as(one, meant)]
    if same:
        return same[0], NO_STROKE
    more = [valuing.option(task) for task in _plain_pots(meant, outlook, valuing.care.effort)]
    return max(more, key=lambda one: one.win, default=None), NO_STROKE


def _meant_task(meant: Meant, outlook: Outlook, *, made: bool) -> Task | None:
    """The stroke as it was meant: a direct pot with the aim for it, anything else as it was struck."""
    layout, stroke = _from_place(meant, outlook), meant.stroke
    assert stroke is not None
    if layout is None:
        return None
    if meant.pot is None or meant.pot[0] not in layout.balls:
        return Task(layout, Idea(aimed(layout, stroke), None, None))
    with suppress(InputError):
        stroke = _as_meant(layout, stroke, *meant.pot, outlook.hands[0].aim if made else math.inf)
    return Task(layout, Idea(aimed(layout, stroke), *meant.pot))


def _as_meant(layout: Layout, stroke: Stroke, ball: str, pocket: str, error: float) -> Stroke:
    """Aimed at the middle of the pocket, or at a part of it where the stroke went in so far aside that no error of
    this hand (`error`, radians) explains it: a ball that hangs is cut in so that the white stays out."""
    free = replace(stroke, aim=None, at=ball, pocket=pocket)
    middle, struck = aimed(layout, free), stroke.aim
    if struck is None or abs(turn(middle.aim or 0.0, struck)) <= ASIDE * error:
        return middle
    sides = [aimed(layout, replace(free, part=part)) for part in ("thick", "thin")]
    return min((middle, *sides), key=lambda one: abs(turn(one.aim or 0.0, struck)))


def _from_place(meant: Meant, outlook: Outlook) -> Layout | None:
    layout = outlook.game.layout
    if outlook.game.state.in_hand is None:
        return layout
    if meant.place is None:
        return None
    placed = layout.placed(CUE, meant.place)
    return None if first_overlap(placed) else placed


def _plain_pots(meant: Meant, outlook: Outlook, effort: Effort) -> list[Task]:
    layout = _from_place(meant, outlook)
    if layout is None or meant.pot is None:
        return []
    found = [one for one in pot_ideas(outlook, layout, effort, 60) if (one.ball, one.pocket) == meant.pot]
    return [Task(layout, one) for one in found[:POTS]]


def _placed_as(option: Option, meant: Meant) -> bool:
    if option.stroke.place is None:
        return True
    return meant.place is not None and math.dist(option.stroke.place, meant.place) < SAME_PLACE


def _same_idea(own: Option, best: Option) -> bool:
    """Whether two options are one idea: ball, pocket, way and purpose, from the same place."""
    one, other = own.stroke.place, best.stroke.place
    if one is not None and other is not None and math.dist(one, other) > SAME_PLACE:
        return False
    sort = (own.intent in ATTACK) == (best.intent in ATTACK)
    return sort and (own.struck, own.ball, own.pocket, own.kind, own.route) == (
        best.struck, best.ball, best.pocket, best.kind, best.route,
    )  # fmt: skip
