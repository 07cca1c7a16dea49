"""The choices at the table, found and valued: attack and safety for these two players, best first."""

from __future__ import annotations

import math
from collections.abc import Callable, Collection, Mapping, MutableMapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from aretane.core.ball import CUE
from aretane.core.conditions import JUMPS, allowed
from aretane.core.errors import InputError
from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats
from aretane.core.physics.shot import simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.choices.frames import as_win
from aretane.core.planning.choices.kinds import kind_of
from aretane.core.planning.choices.last_resort import last_resorts
from aretane.core.planning.choices.option import ATTACK, SAFE, Option, Options
from aretane.core.planning.choices.plain import moved_by, plain_first, route_of, run_after
from aretane.core.planning.choices.played import PLAYED_SEED, played_on, racks_from
from aretane.core.planning.choices.push_out import Path, push_outs, value_of_push
from aretane.core.planning.choices.search import (
    SAFE_FANS,
    TIPS,
    Idea,
    direct_fan,
    in_hand_layouts,
    jump_fan,
    kick_fan,
    other_pots,
    play_fan,
    pot_ideas,
    safe_ideas,
    struck_first,
)
from aretane.core.planning.choices.value import Leaves, Value, value_of
from aretane.core.planning.choices.visited import visits_of
from aretane.core.planning.choices.words import why
from aretane.core.planning.outlook.equity import break_even
from aretane.core.planning.outlook.groups import GroupOutlook
from aretane.core.planning.outlook.outlook import Game, Outlook, game_of
from aretane.core.planning.outlook.rotation import RotationOutlook
from aretane.core.planning.outlook.snooker import SnookerOutlook
from aretane.core.planning.outlook.stage import Stage
from aretane.core.planning.outlook.straight import StraightOutlook
from aretane.core.planning.pots.strokes import COARSE, Effort
from aretane.core.rules.traits import traits_of
from aretane.core.skill.demand import demand_of
from aretane.core.skill.hand import Hand
from aretane.core.skill.reach import RIGHT, Arm, Reach, reach_for
from aretane.core.statistics.rates import Rate

MOST_POTS, MOST_OTHERS, MOST_SAFE, MOST_RESORTS = 9, 8, 8, 2
TWO_WAY = 0.04  # how much worse than the best safety a miss may be, so that a pot is a safety as well
LEAST_POT = 0.15  # of a two-way shot
LOOKS = 12  # leaves of a case that are looked at closely, at least (in games of points see `valued`)
ALL = slice(None)
ALONE = "nobody plays after a miss, so a choice is worth its run"
HIDES = 0.35  # a safety that hides the ball less often only contains


def outlook_for(
    game: Game, hands: tuple[Hand, Hand], effort: Effort = COARSE, seed: int = 0, threads: int = 1,
    progress: Callable[[Any], None] | None = None, cancelled: Callable[[], bool] | None = None,
    known: MutableMapping[tuple[str, ...], Stage] | None = None,
) -> Outlook:  # fmt: skip
    """The values of this layout for these two hands, by the discipline's own way to look ahead."""
    if traits_of(game.layout.discipline).rotation:
        return RotationOutlook(game, hands, effort, seed, threads, progress, cancelled, known)
    if traits_of(game.layout.discipline).groups:
        return GroupOutlook(game, hands, effort, seed, threads, cancelled)
    if traits_of(game.layout.discipline).goes_on:
        return StraightOutlook(game, hands, effort, seed, threads, cancelled)
    return SnookerOutlook(game, hands, effort, seed, threads, cancelled)


@dataclass(frozen=True)
class Task:
    """A stroke to be valued, with the layout that it is played from (its cue ball in place)."""

    layout: Layout
    idea: Idea
    source: str | None = None


def options_for(
    layout: Layout, hands: tuple[Hand, Hand], effort: Effort = COARSE, seed: int = 0, threads: int = 1,
    rules: Mapping[str, Any] | None = None, arm: Arm = RIGHT, barred: Collection[str] = (), *, alone: bool = False,
) -> Options:  # fmt: skip
    """Find and value the choices of the player to shoot, but for what is `barred` (see `core/conditions`); `alone`
    as a `Game` has it. Raises `InputError` when there is nothing to play.
    """
    game = game_of(layout, rules, alone=alone)
    playable(game)
    outlook = outlook_for(game, hands, effort, seed, threads)
    tasks = tasks_for(outlook, effort, threads, arm, barred)
    found = [valued(outlook, task, effort, seed, threads, arm) for task in tasks]
    found = [option for option in found if fits(option, barred)]
    if effort.played:
        found = played_on(outlook, found, lambda option: rate_of(outlook, option, effort, seed, threads))
    return arranged(outlook, [*found, *pushed(outlook, effort, seed)])


def rate_of(outlook: Outlook, option: Option, effort: Effort, seed: int, threads: int, piece: slice = ALL) -> Rate:
    """What a choice comes to when it is played on: wins of racks that begin with it, or of a `piece` of them; in
    games of points what a visit scores.
    """
    if outlook.plays_on:
        return racks_from(outlook, option, effort.played, seed + PLAYED_SEED, threads, piece)
    return visits_of(outlook, effort, seed, threads)


def playable(game: Game) -> None:
    """Raise `InputError` where there is nothing to decide."""
    if not game.on(game.state):
        raise InputError("balls", "there is no ball that may be played")
    if game.layout.cue is None and game.state.in_hand is None:
        raise InputError("balls.cue", "the cue ball is missing and nobody has ball in hand")


def tasks_for(
    outlook: Outlook, effort: Effort, threads: int = 1, arm: Arm = RIGHT, barred: Collection[str] = ()
) -> list[Task]:
    """The strokes worth valuing, the likeliest first."""
    pots = pot_tasks(outlook, effort, arm, barred)
    return [*pots, *other_tasks(outlook, effort, pots, threads, barred)]


def fits(option: Option, barred: Collection[str]) -> bool:
    """Whether a stroke, now that it was played, is none of what is barred: a raised cue may jump unmeant."""
    return option.kind != JUMPS or JUMPS not in barred


def pot_tasks(outlook: Outlook, effort: Effort, arm: Arm = RIGHT, barred: Collection[str] = ()) -> list[Task]:
    """The plain pots worth valuing, quickly found from the maps."""
    game = outlook.game
    stands = game.state.in_hand is None
    places, most = ([game.layout], MOST_POTS) if stands else (_places(outlook, effort), 3)
    ideas = ((place, idea) for place in places for idea in pot_ideas(outlook, place, effort, most, arm))
    return [Task(place, idea) for place, idea in ideas if allowed(idea.stroke, barred)]


def other_tasks(
    outlook: Outlook, effort: Effort, pots: Sequence[Task], threads: int = 1, barred: Collection[str] = ()
) -> list[Task]:
    """Everything that is no plain pot: other ways to pot, safeties, kicks, jumps, but for what is `barred`."""
    game = outlook.game
    if game.state.in_hand is None:
        ideas = [task.idea for task in pots]
        found = _others(outlook, game.layout, effort, ideas, threads, jumps=not ideas and JUMPS not in barred)
        return [Task(game.layout, idea) for idea in found if allowed(idea.stroke, barred)]
    place = _places(outlook, effort)[0]
    others = _others(outlook, place, effort, [], threads, jumps=False)
    return [Task(place, idea) for idea in others if allowed(idea.stroke, barred)]


def _places(outlook: Outlook, effort: Effort) -> list[Layout]:
    """With ball in hand: the layouts that it is worth playing from."""
    places = in_hand_layouts(outlook.game, outlook, 5 if effort.level else 4)
    if not places:
        raise InputError("state.ball_in_hand", "no free place for the cue ball was found there")
    return places


def pushed(outlook: Outlook, effort: Effort, seed: int) -> list[Option]:
    """The best push-outs, where one is allowed."""
    return [_push(*one) for one in push_outs(outlook, effort, seed)]


def push_of(outlook: Outlook, stroke: Stroke, samples: int, seed: int) -> Option:
    """A push-out that somebody played, with its worth."""
    shot = simulate(outlook.game.layout, stroke)
    path = tuple((leg.place[0], leg.place[1]) for leg in shot.legs[CUE])
    return _push(stroke, value_of_push(outlook, stroke, samples, seed), path)


def _push(stroke: Stroke, value: Value, path: Path) -> Option:
    return Option("other", (), "push-out", None, None, stroke, value, Reach(1.0, ()), None, None, path)


def arranged(outlook: Outlook, found: Sequence[Option]) -> Options:
    """One entry for each idea, those not told apart from the best first and the plainest of them leading, then
    by worth; with intents, the leading one of either sort, the break-even between them and a sentence for each.
    """
    if outlook.game.alone:
        found = [one for one in found if one.intent in ATTACK] or found
    safest = max((one.win for one in found if one.intent in SAFE), default=None)
    named = plain_first([_two_way(one, safest) for one in found])
    attack = next((i for i, one in enumerate(named) if one.intent in ATTACK), None)
    safety = next((i for i, one in enumerate(named) if one.intent in SAFE), None)
    even = None
    if attack is not None and safety is not None:
        value = named[attack].value
        even = break_even(value.after_pot, value.after_miss, named[safety].win)
    told = tuple(replace(one, why=why(one, named, outlook.game.layout.discipline)) for one in named)
    horizon = f"{outlook.horizon}; {ALONE}" if outlook.game.alone else outlook.horizon
    return Options(told, attack, safety, even, horizon, outlook.scale.points, outlook.game.alone)


def _others(
    outlook: Outlook, layout: Layout, effort: Effort, pots: list[Idea], threads: int, *, jumps: bool
) -> list[Idea]:
    """Everything that is no plain pot."""
    game = outlook.game
    on = struck_first(layout, game.on(game.state))
    hits, speeds = next((hits, speeds) for most, hits, speeds in SAFE_FANS if len(on) <= most)
    hard = direct_fan(layout, on, (1.5, 2.4, 3.6) if len(on) < 4 else (1.6, 3.0), TIPS, hits)
    kicks = kick_fan(
        layout, (1.7, 2.7, 4.0) if effort.level else (1.8, 3.2), TIPS[1:2] + TIPS[3:], 720 if effort.level else 360
    )
    soft = direct_fan(layout, on, speeds, TIPS, hits)
    fans = [play_fan(game, layout, fan, threads) for fan in (hard, kicks, soft)]
    if jumps:
        fans.append(play_fan(game, layout, jump_fan(layout, on), threads))
    after = game.on(game.passed(game.state))
    found = other_pots(game, fans[0], pots, MOST_OTHERS)
    found += other_pots(game, fans[1], [*pots, *found], MOST_OTHERS // 2)
    if jumps:
        found += other_pots(game, fans[-1], [*pots, *found], 2)
    if game.alone and (pots or found):
        return found
    found += safe_ideas(game, fans, outlook.hands, after, MOST_SAFE)
    return found if pots else [*found, *last_resorts(outlook, layout, fans[2], MOST_RESORTS, threads)]


def valued(
    outlook: Outlook, task: Task, effort: Effort, seed: int = 0, threads: int = 1, arm: Arm = RIGHT,
    hand: Hand | None = None,
) -> Option:  # fmt: skip
    """One stroke as a choice with its worth; its intent may still turn out to be two-way. `hand`: how it is struck,
    if not by the player's own."""
    game, layout, idea, stroke = outlook.game, task.layout, task.idea, task.idea.stroke
    assert layout.cue is not None
    assert stroke.aim is not None
    reach = reach_for(layout.table, layout.cue, stroke.aim, arm)
    shot = simulate(layout, stroke)
    demand = demand_of(layout, stroke, idea.ball, arm, shot)
    called = (idea.ball, idea.pocket) if idea.ball and idea.pocket else None
    samples, looks = effort.samples, max(LOOKS, effort.samples // 40)
    if not outlook.plays_on:  # no rack is played on: a safety is worth what its leaves are, a pot what the maps say
        looks = looks // 2 if idea.ball else 3 * looks
    value = value_of(outlook, layout, stroke, demand, samples, seed, called, looks, threads, hand)
    kind = kind_of(layout, shot, idea.ball)
    if game.state.in_hand is not None:
        stroke = replace(stroke, place=layout.cue)
    path = tuple((leg.place[0], leg.place[1]) for leg in shot.legs[CUE])
    return Option(
        kind.kind, (*kind.also, *((task.source,) if task.source else ())),
        _intent(idea, value.leaves, kind.kind), idea.ball, idea.pocket, stroke,
        as_win(outlook, value, idea.ball), reach,
        kind.fraction, shot.first_contact, path, route_of(shot), shot.cue_rails, run_after(layout, shot),
        moved_by(layout, shot, idea.ball),
    )  # fmt: skip


def _intent(idea: Idea, leaves: Leaves | None, kind: str) -> str:
    """Why it is played; a foul on purpose ties balls up, or where the cue ball stays, leaves no shot."""
    if idea.ball is not None:
        return "attack"
    if idea.foul:
        return "tie-up" if leaves is None else "deny"
    if kind in ("kick", "jump"):
        return "escape"
    return _keeps(leaves)


def _keeps(leaves: Leaves | None) -> str:
    return "safety" if leaves is not None and (leaves.hidden.p or 0.0) >= HIDES else "containing"


def _two_way(option: Option, safest: float | None) -> Option:
    """A pot whose miss leaves no more than the best safety does is both; one that hardly ever goes is a safety."""
    miss = option.value.after_miss
    if option.intent != "attack" or safest is None or miss is None or miss < safest - TWO_WAY:
        return option
    if (option.value.pot.p or 0.0) >= LEAST_POT:
        return replace(option, intent="two-way")
    return replace(option, intent=_keeps(option.value.leaves), ball=None, pocket=None)


def landing_of(option: Option, most: int = 80) -> Floats:
    """A few of the places where the cue ball stopped."""
    step = max(1, math.ceil(len(option.value.landing) / most))
    return option.value.landing[::step]
