"""The choices at the table, found and valued: attack and safety for these two players, best first."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, MutableMapping
from dataclasses import dataclass, replace
from typing import Any

from aretane.core.errors import InputError
from aretane.core.layout import Layout
from aretane.core.physics.compiled import Floats
from aretane.core.physics.sampling import Cancelled
from aretane.core.physics.shot import simulate
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.equity import break_even
from aretane.core.planning.frame import frame_chance
from aretane.core.planning.free_order import FreeOrderOutlook
from aretane.core.planning.kinds import kind_of
from aretane.core.planning.outlook import Game, Outlook, game_of
from aretane.core.planning.plan import Renew
from aretane.core.planning.push_out import push_outs
from aretane.core.planning.reach import Reach, reach_for
from aretane.core.planning.rotation import RotationOutlook, Stage
from aretane.core.planning.search import (
    SAFE_SPEEDS,
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
)
from aretane.core.planning.strokes import COARSE, Effort
from aretane.core.planning.value import Leaves, Value, value_of
from aretane.core.planning.words import why
from aretane.core.rules.game import RackState
from aretane.core.skill.hand import Hand
from aretane.core.statistics.rates import Rate

ATTACK = ("attack", "two-way")
SAFE = ("safety", "containing", "escape", "deny", "tie-up")
ROTATION = ("nine-ball", "ten-ball")
MOST_POTS, MOST_OTHERS, MOST_SAFE = 9, 8, 8
TWO_WAY = 0.04  # how much worse than the best safety a miss may be, so that a pot is a safety as well
LEAST_POT = 0.15  # of a two-way shot
HIDES = 0.35  # a safety that hides the ball less often only contains


@dataclass(frozen=True)
class Option:
    """A choice. `ball` in `pocket` is meant, or nothing; `path` is the cue ball's way when nothing goes wrong."""

    kind: str
    also: tuple[str, ...]
    intent: str
    ball: str | None
    pocket: str | None
    stroke: Stroke
    value: Value
    reach: Reach
    fraction: float | None
    path: tuple[tuple[float, float], ...]
    why: str = ""

    @property
    def win(self) -> float:
        return float(self.value.win.p or 0.0)


@dataclass(frozen=True)
class Options:
    """All choices, best first, for `hands` (the player's, the opponent's). `horizon`: how far values look ahead."""

    options: tuple[Option, ...]
    best_attack: int | None
    best_safety: int | None
    break_even_pot: float | None
    horizon: str
    points: bool
    push_out: Mapping[str, float] | None = None


def outlook_for(
    game: Game, hands: tuple[Hand, Hand], effort: Effort = COARSE, seed: int = 0, threads: int = 1,
    progress: Callable[[Any], None] | None = None, cancelled: Callable[[], bool] | None = None,
    known: MutableMapping[tuple[str, ...], Stage] | None = None,
) -> Outlook:  # fmt: skip
    """The values of this layout for these two hands, by the discipline's own way to look ahead."""
    if game.layout.discipline in ROTATION:
        return RotationOutlook(game, hands, effort, seed, threads, progress, cancelled, known)
    return FreeOrderOutlook(game, hands, effort, seed, threads, progress, cancelled)


def renewed(hands: tuple[Hand, Hand], effort: Effort, seed: int = 0, threads: int = 1) -> Renew:
    """For a plan: the outlook of a table from which some balls are gone."""

    def make(layout: Layout, state: RackState) -> Outlook:
        game = game_of(layout)
        return outlook_for(replace(game, state=state), hands, effort, seed, threads)

    return make


def options_for(
    layout: Layout, hands: tuple[Hand, Hand], effort: Effort = COARSE, seed: int = 0, threads: int = 1,
    rules: Mapping[str, Any] | None = None, handed: str = "right", drawn: tuple[Stroke, ...] = (),
    outlook: Outlook | None = None, progress: Callable[[float], None] | None = None,
    cancelled: Callable[[], bool] | None = None,
) -> Options:  # fmt: skip
    """Find and value the choices of the player to shoot. `drawn` strokes (aimed) are valued among them.

    Raises `InputError` when there is nothing to play, and `Cancelled`.
    """
    game = outlook.game if outlook is not None else game_of(layout, rules)
    if not game.on(game.state):
        raise InputError("balls", "there is no ball that may be played")
    outlook = outlook or outlook_for(game, hands, effort, seed, threads, cancelled=cancelled)
    tasks: list[tuple[Layout, Idea, str | None]] = []
    if game.state.in_hand is not None:
        places = in_hand_layouts(game, outlook, 5 if effort.level else 4)
        if not places:
            raise InputError("state.ball_in_hand", "no free place for the cue ball was found there")
        for n, place in enumerate(places):
            tasks += [(place, idea, None) for idea in pot_ideas(game, place, outlook, hands[0], effort, 3, handed)]
            if n == 0:
                tasks += _others(game, place, outlook, hands, effort, [], threads, jumps=False)
    else:
        pots = pot_ideas(game, layout, outlook, hands[0], effort, MOST_POTS, handed)
        tasks += [(layout, idea, None) for idea in pots]
        tasks += _others(game, layout, outlook, hands, effort, pots, threads, jumps=not pots)
    tasks += [(layout, Idea(stroke, stroke.at, stroke.pocket), "drawn") for stroke in drawn]
    found = []
    for done, (place, idea, source) in enumerate(tasks):
        if cancelled is not None and cancelled():
            raise Cancelled
        found.append(_option(game, outlook, place, idea, hands[0], effort, seed, threads, handed, source))
        if progress is not None:
            progress((done + 1) / len(tasks))
    found += [
        Option("other", (), "push-out", None, None, stroke, value, Reach(1.0, ()), None, path)
        for stroke, value, path in push_outs(game, layout, outlook, hands[0], effort, seed)
    ]
    return arranged(game, outlook, found)


def arranged(game: Game, outlook: Outlook, found: list[Option]) -> Options:
    """Best first, with intents, the best of either sort, the break-even between them and a sentence for each."""
    safest = max((one.win for one in found if one.intent in SAFE), default=None)
    named = [_two_way(one, safest) for one in found]
    named.sort(key=lambda one: -one.win)
    attack = next((i for i, one in enumerate(named) if one.intent in ATTACK), None)
    safety = next((i for i, one in enumerate(named) if one.intent in SAFE), None)
    even = None
    if attack is not None and safety is not None:
        value = named[attack].value
        even = break_even(value.after_pot, value.after_miss, named[safety].win)
    told = tuple(replace(one, why=why(game, one, outlook.scale.points)) for one in named)
    pushed = None
    if "push-out" in game.state.choices and game.layout.cue is not None:
        pushed = {"play": max((o.win for o in named if o.intent != "push-out"), default=0.0)}
    return Options(told, attack, safety, even, outlook.horizon, outlook.scale.points, pushed)


def _others(
    game: Game, layout: Layout, outlook: Outlook, hands: tuple[Hand, Hand], effort: Effort, pots: list[Idea],
    threads: int, *, jumps: bool,
) -> list[tuple[Layout, Idea, str | None]]:  # fmt: skip
    """Everything that is no plain pot."""
    on = game.on(game.state)
    hard = direct_fan(layout, on, (1.5, 2.4, 3.6) if len(on) < 4 else (1.6, 3.0), TIPS)
    kicks = kick_fan(
        (1.7, 2.7, 4.0) if effort.level else (1.8, 3.2), TIPS[1:2] + TIPS[3:], 720 if effort.level else 360
    )
    soft = direct_fan(layout, on, SAFE_SPEEDS if len(on) < 4 else (0.8, 1.5), TIPS)
    fans = [play_fan(game, layout, fan, threads) for fan in (hard, kicks, soft)]
    if jumps:
        fans.append(play_fan(game, layout, jump_fan(layout, on), threads))
    after = game.on(game.passed(game.state))
    found = other_pots(game, fans[0], pots, MOST_OTHERS)
    found += other_pots(game, fans[1], [*pots, *found], MOST_OTHERS // 2)
    if jumps:
        found += other_pots(game, fans[-1], [*pots, *found], 2)
    found += safe_ideas(game, fans, hands, after, MOST_SAFE)
    return [(layout, idea, None) for idea in found]


def _option(
    game: Game, outlook: Outlook, layout: Layout, idea: Idea, hand: Hand, effort: Effort, seed: int, threads: int,
    handed: str, source: str | None,
) -> Option:  # fmt: skip
    stroke = idea.stroke
    assert layout.cue is not None and stroke.aim is not None
    reach = reach_for(layout.table, layout.cue, stroke.aim, layout.object_balls, handed)
    wide = replace(hand, aim=hand.aim * reach.wider)
    called = (idea.ball, idea.pocket) if idea.ball and idea.pocket else None
    looks = 12 if effort.level == 0 else 30
    value = value_of(outlook, layout, stroke, wide, effort.samples, seed, called, looks, threads)
    shot = simulate(layout, stroke)
    kind = kind_of(layout, shot, idea.ball)
    if game.state.in_hand is not None:
        stroke = replace(stroke, place=layout.cue)
    path = tuple((leg.place[0], leg.place[1]) for leg in shot.legs["cue"])
    option = Option(
        kind.kind, kind.also, _intent(idea, value.leaves, kind.kind), idea.ball, idea.pocket, stroke,
        _as_win(game, outlook, value), reach, kind.fraction, path,
    )  # fmt: skip
    return replace(option, also=(*option.also, source)) if source else option


def _intent(idea: Idea, leaves: Leaves | None, kind: str) -> str:
    if idea.ball is not None:
        return "attack"
    if kind in ("kick", "jump"):
        return "escape"
    return "safety" if leaves is not None and (leaves.hidden.p or 0.0) >= HIDES else "containing"


def _two_way(option: Option, safest: float | None) -> Option:
    """A pot whose miss leaves no more than the best safety does is both."""
    miss = option.value.after_miss
    if (
        option.intent == "attack"
        and (option.value.pot.p or 0.0) >= LEAST_POT
        and safest is not None
        and miss is not None
        and miss >= safest - TWO_WAY
    ):
        return replace(option, intent="two-way")
    return option


def _as_win(game: Game, outlook: Outlook, value: Value) -> Value:
    """In snooker: points ahead as the chance to win the frame."""
    if game.layout.discipline != "snooker":
        return value

    def chance(ahead: float | None) -> float | None:
        return None if ahead is None else frame_chance(game.state, ahead)

    win = value.win
    assert win.p is not None
    low, mid, high = (frame_chance(game.state, ahead) for ahead in (win.low, win.p, win.high))
    return replace(
        value,
        win=Rate(mid, low, high, win.n),
        after_pot=chance(value.after_pot),
        after_miss=chance(value.after_miss),
    )


def landing_of(option: Option, most: int = 80) -> Floats:
    """A few of the places where the cue ball stopped."""
    step = max(1, math.ceil(len(option.value.landing) / most))
    return option.value.landing[::step]
