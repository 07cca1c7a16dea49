"""The plan for the rack: an order for every ball, where the cue ball must go for each, which shot decides it."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from aretane.core.ball import CUE
from aretane.core.errors import InputError
from aretane.core.geometry.plane import bearing
from aretane.core.layout import Layout, first_overlap
from aretane.core.physics.sampling import Samples, play_all, tries_of
from aretane.core.physics.shot import simulate
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.planning.choices.search import in_hand_layouts, judged
from aretane.core.planning.choices.value import STILL, mean_rate
from aretane.core.planning.orders.break_ball import PLAYED, BreakMap
from aretane.core.planning.outlook.answer import follow_run
from aretane.core.planning.outlook.one_place import Best
from aretane.core.planning.outlook.outlook import Outlook
from aretane.core.planning.outlook.rollout import PLAYED_SEED, VISITS, best_now, remaining, visits, visits_here
from aretane.core.planning.outlook.strength import freedom
from aretane.core.planning.plans.instead import Group, Instead, groups_of, instead_of
from aretane.core.planning.pots.grid import Grid
from aretane.core.planning.pots.moved import OPENED, with_moved
from aretane.core.planning.pots.strokes import Effort
from aretane.core.planning.pots.zone import (
    Angle,
    Area,
    Harmless,
    angle_from,
    area_at,
    harmless_error,
)
from aretane.core.rules.game import RackState
from aretane.core.rules.masks import Flags
from aretane.core.rules.traits import traits_of
from aretane.core.skill.hand import Hand
from aretane.core.statistics.rates import Rate
from aretane.core.table import POCKETS, Point

LOOKED_AT = 8  # strokes of one ball whose planned place is tried
SOON = 8  # balls of a plan for which a first look does so too
SAMPLES = 300
CHAIN = 4  # balls before the last that are called its chain
MOST_ENTRIES = 40
SPOT = 0.03  # m: the first zone is the place itself


@dataclass(frozen=True)
class Entry:
    """One ball of the plan. `stroke` and `pocket` are None-like only where no way was found (`stroke` None).

    `place`: where the cue ball is for it, `zone` where it may be; `value` the chance to finish from this ball on
    (in points: what is still scored), with the interval of the samples behind it; `pot` this shot's chance;
    `angle` the cut from the place, `harmless` the speed error that costs less on the way there.
    """

    ball: str
    pocket: str
    stroke: Stroke | None
    place: Point
    zone: Area | None
    value: Rate
    pot: float
    angle: Angle | None
    harmless: Harmless | None


@dataclass(frozen=True)
class Plan:
    """`key_shot`: the index of the hand-over with the lowest chance. `run_out`: how often rollouts finish the
    rack. `key_chain`: the balls before the last, backwards. `instead`: what beginning with each other ball costs;
    `groups` on an open table, `break_shots` of the balls that may be kept for it.
    """

    order: tuple[Entry, ...]
    key_shot: int
    run_out: Rate
    break_ball: str | None
    key_ball: str | None
    key_chain: tuple[str, ...]
    horizon: str
    instead: tuple[Instead, ...] = ()
    groups: tuple[Group, ...] = ()
    break_shots: tuple[BreakMap, ...] = ()


def plan_for(
    outlook: Outlook, effort: Effort, seed: int = 0, threads: int = 1, tries: int = VISITS,
    progress: Callable[[float], None] | None = None, cancelled: Callable[[], bool] | None = None,
    begin: Sequence[str] = (),
) -> Plan:  # fmt: skip
    """The plan of the player to shoot. `begin`: balls that somebody wants played first, in this order. Raises
    `InputError` when there is nothing to play or these cannot be played so, `Cancelled`.
    """
    game = outlook.game
    if not game.on(game.state):
        raise InputError("balls", "there is no ball that may be played")
    layout = game.layout
    if game.state.in_hand is not None or layout.cue is None:
        placed = in_hand_layouts(game, outlook, 1)
        if not placed:
            raise InputError("state.ball_in_hand", "no free place for the cue ball was found there")
        layout = placed[0]
    firsts = instead_of(
        outlook,
        layout,
        game.state,
        effort,
        seed,
        lambda best: _value(outlook, layout, game.state, best, outlook.hands[0], seed),
    )
    order = _order(outlook, layout, effort, seed, begin or [one.ball for one in firsts[:1]])
    if progress is not None:
        progress(0.5)
    came = visits_here(outlook, layout, effort, tries, seed, threads, cancelled)
    promised = firsts[0].value if firsts else order[0].value
    if came.scored is not None:
        order, firsts = _as_scored(order, firsts, promised, came.scored)
    elif outlook.plays_on:
        drawn = _drawn_to(promised, came.cleared)
        order = _as_played(order, drawn)
        firsts = [_priced(one, drawn(promised), drawn(one.value)) for one in firsts]
    balls = [entry.ball for entry in order]
    last = balls[-1]
    traits = traits_of(layout.discipline)
    before = [ball for ball in balls[:-1] if ball != last] if traits.goes_on or traits.groups else []
    return Plan(
        tuple(order),
        key_shot(order),
        came.cleared,
        last if traits.goes_on else None,
        before[-1] if before else None,
        tuple(reversed(before[-CHAIN:])),
        outlook.horizon,
        tuple(firsts),
        tuple(groups_of(outlook, layout, game.state, firsts)),
        tuple(outlook.break_maps().values()),
    )


def _as_scored(
    order: list[Entry], firsts: list[Instead], promised: Rate, came: Rate
) -> tuple[list[Entry], list[Instead]]:
    """Points drawn to what visits played on brought: all in one proportion before the first ball, less and less of
    it towards the last, which no other ball can spoil.
    """
    if not (promised.p or 0.0) > 0.0 or not (came.p or 0.0) > 0.0:
        return order, firsts
    wide = (came.high - came.low) / 2.0 / (came.p or 1.0)

    def drawn(value: Rate, share: float, first: Rate) -> Rate:
        by = ((came.p or 0.0) / (first.p or came.p or 1.0)) ** share
        p = by * (value.p or 0.0)
        half = math.hypot(by * (value.high - value.low) / 2.0, p * wide * share)
        return Rate(p, max(0.0, p - half), p + half, value.n)

    last = max(len(order) - 1, 1)
    begins = order[0].value  # its stroke serves the next ball best, and is not always the one of `firsts`
    order = [replace(entry, value=drawn(entry.value, 1.0 - at / last, begins)) for at, entry in enumerate(order)]
    best = drawn(promised, 1.0, promised)
    return order, [_priced(one, best, drawn(one.value, 1.0, promised)) for one in firsts]


def _drawn_to(promised: Rate, came: Rate) -> Callable[[Rate], Rate]:
    """Chances drawn to what racks played on came to: each raised to the one power that makes of what the maps
    `promised` what `came`.
    """
    least = 0.5 / max(came.n, 1)
    p = min(max(came.p or 0.0, least), 1.0 - least)
    known = least < (promised.p or 0.0) < 1.0 - least
    power = math.log(p) / math.log(promised.p or 0.5) if known else 1.0

    def drawn(value: Rate) -> Rate:
        if not known:
            return value
        p, low, high = (max(one or 0.0, 0.0) ** power for one in (value.p, value.low, value.high))
        half = max(p - low, high - p, (came.high - came.low) / 2 * p)
        return Rate(p, max(0.0, p - half), min(1.0, p + half), value.n)

    return drawn


def _as_played(order: list[Entry], drawn: Callable[[Rate], Rate]) -> list[Entry]:
    """The values from ball to ball as racks played on came out. The last ball's, which no other ball can spoil,
    hardly moves. No ball is potted less often than the rack is finished from it.
    """
    values = [drawn(entry.value) for entry in order]
    pots = [
        max(entry.pot, drawn(Rate(entry.pot, entry.pot, entry.pot, 1)).p or 0.0, value.p or 0.0)
        for entry, value in zip(order, values, strict=True)
    ]
    return [replace(entry, value=value, pot=pot) for entry, value, pot in zip(order, values, pots, strict=True)]


def _priced(one: Instead, best: Rate, value: Rate) -> Instead:
    """Another order's price at values drawn to what was played. Its error is the maps' and shrinks with it:
    what the racks played on leave open is the same for both.
    """
    cost = max(0.0, (best.p or 0.0) - (value.p or 0.0))
    error = one.error * cost / one.cost if one.cost > 0.0 else one.error
    return replace(one, value=value, cost=cost, error=error)


def key_shot(order: list[Entry]) -> int:
    """The hand-over that decides: the entry whose own step, its value over the next one's, is lowest."""
    steps = []
    for entry, after in zip(order, [*order[1:], None], strict=True):
        following = after.value.p if after is not None else None
        own = entry.value.p or 0.0
        steps.append(own / following if following else entry.pot)
    return int(np.argmin(steps)) if steps else 0


def _order(outlook: Outlook, layout: Layout, effort: Effort, seed: int, begin: Sequence[str] = ()) -> list[Entry]:
    state = outlook.game.state
    order: list[Entry] = []
    came: float | None = None
    while len(order) < MOST_ENTRIES and outlook.game.on(state) and state.winner is None:
        on = [ball for ball in outlook.game.on(state) if ball in layout.balls]
        if not on:
            break
        if len(order) < len(begin):
            on = _wanted(begin[len(order)], on)
        hand = outlook.hands[0].turn(len(order))
        most = LOOKED_AT if effort.played or len(order) < SOON else 1
        best = _steady(outlook, layout, state, on, hand, effort, seed, most)
        ball = best.ball if best is not None else max(on, key=lambda one: freedom(layout, one))
        order.append(_entry(outlook, layout, state, ball, best, hand, came, seed, first=not order))
        end = best.landing if best is not None else _good_place(outlook, state)
        came = _last_way(layout, best)
        left = remaining(outlook.game, layout.placed(CUE, end), state, ball)
        if left is None:
            break
        state, balls = left
        layout = _clear_of_balls(replace(layout, balls={CUE: end, **balls}))
    return order


def _wanted(ball: str, on: Sequence[str]) -> list[str]:
    if ball not in on:
        raise InputError("order", f"the {ball} cannot be played there; on are {', '.join(on)}")
    return [ball]


def _steady(
    outlook: Outlook, layout: Layout, state: RackState, on: list[str], hand: Hand, effort: Effort, seed: int,
    most: int,
) -> Best | None:  # fmt: skip
    """Of the best few strokes, `most` of a ball, the one whose planned place serves the next ball best: it is what
    the plan goes on from.
    """
    if (opening := outlook.break_shot(layout)) is not None:
        return opening
    found = best_now(outlook, layout, state, hand, effort, seed, on, most)

    def goes_on(best: Best) -> float:
        left = remaining(outlook.game, layout.placed(CUE, best.landing), state, best.ball)
        if left is None:
            return best.value
        after, balls = left
        if traits_of(layout.discipline).goes_on and len(balls) == 1:
            return best.pot * float(outlook.grid.at(outlook.run_ahead(after), np.array(best.landing)))
        there = replace(layout, balls={CUE: best.landing, **balls})
        if first_overlap(there):
            return 0.0
        following = best_now(outlook, there, after, hand.turn(1), effort, seed)
        return best.pot * following[0].value if following else 0.0

    if len(found) > 1:  # the values say which ball; of its strokes the one that serves the next best
        found = [one for one in found if one.ball == found[0].ball]
        return max(found, key=lambda one: (goes_on(one), one.value))
    return next(iter(found), None)


def _clear_of_balls(layout: Layout) -> Layout:
    """The cue ball moved out of a ball that has come back to its spot there."""
    overlap = first_overlap(layout)
    if overlap is None:
        return layout
    ground = Grid(layout.table, 25, 13).free_places(
        np.array(list(layout.object_balls.values())), 2.1 * layout.table.radius
    )
    assert layout.cue is not None
    x, y = min(ground.tolist(), key=lambda place: math.dist(place, layout.cue or (0.0, 0.0)))
    return layout.placed(CUE, (x, y))


def _entry(
    outlook: Outlook, layout: Layout, state: RackState, ball: str, best: Best | None, hand: Hand,
    came: float | None, seed: int, *, first: bool,
) -> Entry:  # fmt: skip
    assert layout.cue is not None
    place, player = layout.cue, outlook.game.number(state.player)
    pocket = best.pocket if best is not None else _likeliest(layout, ball)
    chart = outlook.run_map(player, ball, state)
    zone = _spot(place) if first else area_at(outlook.grid, chart, place)
    harmless = None if first or came is None else harmless_error(outlook.grid, chart, place, came)
    return Entry(
        ball=ball,
        pocket=pocket,
        stroke=best.stroke if best is not None else None,
        place=place,
        zone=zone,
        value=_value(outlook, layout, state, best, hand, seed),
        pot=best.pot if best is not None else 0.0,
        angle=angle_from(layout, place, ball, POCKETS.index(pocket)),
        harmless=harmless,
    )


def _value(outlook: Outlook, layout: Layout, state: RackState, best: Best | None, hand: Hand, seed: int) -> Rate:
    """The value of a ball's stroke, played `SAMPLES` times and continued by the next ball's map."""
    if best is None:  # a ball of a cluster goes once that has been opened
        stirred = outlook.stirred(state)
        return Rate(OPENED * stirred, 0.0, stirred if outlook.scale.points else 1.0, 0)
    if traits_of(layout.discipline).goes_on and len(layout.object_balls) == 1:
        half = 1.96 * best.value / math.sqrt(PLAYED)
        return Rate(best.value, max(0.0, best.value - half), best.value + half, PLAYED)
    tried = tries_of(layout, best.stroke, hand, SAMPLES, seed, ball=best.ball)
    played = play_all(layout, start_of(layout), tried.strokes, lucks=tried.lucks)
    outcome = judged(outlook.game, played, (best.ball, POCKETS.index(best.pocket)), state)
    worth = outlook.grid.at(follow_run(outlook, state, best.ball), played.places[:, 0])
    stirred = outlook.stirred(outlook.game.after_pot(state, best.ball))
    worth = with_moved(worth, _moved(layout, played, best.ball), stirred)
    return mean_rate(np.where(outcome.pot | outcome.won, worth, 0.0), outlook.scale.points)


def _moved(layout: Layout, played: Samples, ball: str) -> Flags:
    """In which samples another ball than the one that was potted was moved."""
    columns = [at for at, name in enumerate(played.names) if name not in (CUE, ball)]
    before = np.array([layout.balls[played.names[at]] for at in columns]).reshape(-1, 2)
    return np.asarray((np.hypot(*np.moveaxis(played.places[:, columns] - before, 2, 0)) > STILL).any(axis=1))


def _likeliest(layout: Layout, ball: str) -> str:
    x, y = layout.balls[ball]
    return min(layout.table.pockets.values(), key=lambda pocket: math.dist((x, y), pocket.mouth)).name


def _good_place(outlook: Outlook, state: RackState) -> Point:
    """Where to go on from when no stroke was found: the best place for whatever follows."""
    x, y = outlook.grid.places[int(np.argmax(outlook.run_ahead(state)))]
    return float(x), float(y)


def _last_way(layout: Layout, best: Best | None) -> float | None:
    """Direction of the cue ball's last way to where it stops."""
    if best is None:
        return None
    legs = simulate(layout, best.stroke).legs["cue"]
    points = [(leg.place[0], leg.place[1]) for leg in legs]
    far = next((p for p in reversed(points[:-1]) if math.dist(p, points[-1]) > 0.05), None)
    return bearing(far, points[-1]) if far is not None else None


def _spot(place: Point) -> Area:
    """A small square: the cue ball is where it is."""
    x, y = place
    square = ((x - SPOT, y - SPOT), (x + SPOT, y - SPOT), (x + SPOT, y + SPOT), (x - SPOT, y + SPOT))
    return Area("ideal", place, 4 * SPOT * SPOT, square)


def who_could_run(outlook: Outlook, tries: int = VISITS, seed: int = 0, threads: int = 1) -> Rate:
    """How often the player of this outlook finishes from here, by rollouts; with ball in hand from the best
    place.
    """
    layout = outlook.game.layout
    if outlook.game.state.in_hand is not None or layout.cue is None:
        layout = in_hand_layouts(outlook.game, outlook, 1)[0]
    return visits(outlook, layout, tries, seed + PLAYED_SEED, threads).cleared
