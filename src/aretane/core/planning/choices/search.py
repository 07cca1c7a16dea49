"""Strokes worth valuing, found by trying: fans of aims, speeds and tips played without error.

Nothing is assumed about which shots exist. Whatever pots a ball lawfully, or leaves the opponent little, comes up;
the kinds are named afterwards from what touched what.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from aretane.core.ball import CUE
from aretane.core.geometry.measured import visible_ball
from aretane.core.layout import Layout, first_overlap, on_table
from aretane.core.parameters import physics_of
from aretane.core.physics.compiled import R_CUE_RAILS, R_FIRST, R_RAILS_AFTER, Floats, Ints
from aretane.core.physics.cue import TIP_LIMIT, squirt
from aretane.core.physics.cueing import least_elevations
from aretane.core.physics.play import AIM, ELEVATION, HEIGHT
from aretane.core.physics.sampling import Samples, play_all, tries_of
from aretane.core.physics.start import start_of
from aretane.core.physics.stroke import Stroke
from aretane.core.physics.table_shape import table_shape
from aretane.core.planning.outlook.answer import follow_worth
from aretane.core.planning.outlook.maps import BLUR, expected, top
from aretane.core.planning.outlook.one_place import stroke_of
from aretane.core.planning.outlook.outlook import Game, Outlook
from aretane.core.planning.outlook.quick import quick_pot, quick_seen
from aretane.core.planning.pots.pot_kernel import C_SIDE
from aretane.core.planning.pots.pots import Ground
from aretane.core.planning.pots.strokes import Effort, draws_of
from aretane.core.planning.pots.ways_kernel import MOST_RAISED
from aretane.core.rules.game import RackState
from aretane.core.rules.masks import Outcomes, judge
from aretane.core.rules.traits import d_radius
from aretane.core.skill.hand import Hand
from aretane.core.skill.reach import RIGHT, Arm
from aretane.core.table import POCKETS, Point

OFFSETS = 41  # hits of a ball from thin on one side to thin on the other
KICK_AIMS = 540
ROUTES_APART = 0.35  # m between the cue ball's ends of two routes of the same pot
FINE_AIMS = 31
JUMP = math.radians(42)
TIPS = ((0.0, -0.4), (0.0, 0.0), (0.0, 0.35), (0.35, 0.0), (-0.35, 0.0))
ROUTES, ROUTES_TRIED, PLAIN_TRIED, ROUTE_DRAWS = 2, 8, 5, 16  # of one pot: kept, sampled (without side), how often
TUNED = 12  # strokes beside a safety that are tried
NEAR_BY = np.array([math.radians(0.35), 0.1, 0.1, 0.1, 0.0])  # aim, share of the speed, tip place
SAFETIES_TRIED, SAFETY_DRAWS, SAFETIES_APART = 25, 16, 0.3
# By how many balls can be struck: hits of each, and speeds; the more balls the coarser, so that none takes longer.
SAFE_FANS: tuple[tuple[int, int, tuple[float, ...]], ...] = (
    (3, OFFSETS, (0.5, 0.8, 1.2, 1.7, 2.4, 3.3)), (7, 27, (0.8, 1.5, 2.3, 3.0)), (99, 20, (0.8, 1.5, 2.4)),
)  # fmt: skip


@dataclass(frozen=True)
class Idea:
    """A stroke worth valuing: `ball` in `pocket` is meant, or nothing (a safety; a `foul` on purpose)."""

    stroke: Stroke
    ball: str | None = None
    pocket: str | None = None
    foul: bool = False


@dataclass(frozen=True)
class Tries:
    """Strokes (n x 5) played without error from a layout, and what the rules say of each."""

    layout: Layout
    strokes: Floats
    played: Samples
    judged: Outcomes


def play_fan(game: Game, layout: Layout, strokes: Floats, threads: int = 1, lucks: Ints | None = None) -> Tries:
    played = play_all(layout, start_of(layout), strokes, threads, lucks=lucks)
    return Tries(layout, strokes, played, judged(game, played))


def judged(
    game: Game, played: Samples, called: tuple[str, int] | None = None, state: RackState | None = None
) -> Outcomes:
    """What the rules say of samples played from `state` (None: the state of the game's layout)."""
    rails = np.bitwise_count(played.results[:, R_RAILS_AFTER]).astype(np.int64)
    rules = game.rules.masks(state or game.state, game.options)
    return judge(rules, played.names, played.fates, played.results[:, R_FIRST], rails, called)


def struck_first(layout: Layout, on: Sequence[str]) -> tuple[str, ...]:
    """Those of these balls that the cue ball can meet first, at least at their edge; all where it can meet none."""
    return tuple(ball for ball in on if visible_ball(layout, ball) > 0.0) or tuple(on)


def direct_fan(
    layout: Layout, on: Sequence[str], speeds: tuple[float, ...], tips: tuple[Point, ...], offsets: int = OFFSETS
) -> Floats:
    """So many hits of each of these balls, from thin on one side to thin on the other."""
    assert layout.cue is not None
    reach = layout.table.radius + layout.table.cue_radius
    end_mass = physics_of(layout.table).end_mass_ratio
    share = np.linspace(-0.985, 0.985, offsets)
    rows = []
    for ball in on:
        (cx, cy), (bx, by) = layout.cue, layout.balls[ball]
        away = max(math.hypot(bx - cx, by - cy), reach)
        aims = math.atan2(by - cy, bx - cx) + np.arcsin(share * reach / away)
        for speed, (side, height) in itertools.product(speeds, tips):
            block = np.zeros((len(aims), 5))
            block[:, AIM] = aims - squirt(side, end_mass)
            block[:, 1:4] = speed, side, height
            rows.append(block)
    return reachable(layout, np.concatenate(rows)) if rows else np.zeros((0, 5))


def kick_fan(layout: Layout, speeds: tuple[float, ...], tips: tuple[Point, ...], aims: int = KICK_AIMS) -> Floats:
    """The whole circle."""
    every = np.linspace(-math.pi, math.pi, aims, endpoint=False)
    blocks = []
    for speed, (side, height) in itertools.product(speeds, tips):
        block = np.zeros((aims, 5))
        block[:, AIM] = every
        block[:, 1:4] = speed, side, height
        blocks.append(block)
    return reachable(layout, np.concatenate(blocks))


def reachable(layout: Layout, strokes: Floats) -> Floats:
    """Those of `strokes` that the cue can come to, raised as far as a rail or a ball behind the cue ball asks."""
    start = start_of(layout)
    aims, heights = (np.ascontiguousarray(strokes[:, column]) for column in (AIM, HEIGHT))
    least = least_elevations(start.numbers, start.integers, table_shape(layout.table).size, aims, heights)
    raised = np.maximum(strokes[:, ELEVATION], least)
    kept = (least <= MOST_RAISED) | (strokes[:, ELEVATION] >= least)
    return np.asarray(np.column_stack([strokes[:, :ELEVATION], raised])[kept])


def jump_fan(layout: Layout, on: tuple[str, ...]) -> Floats:
    """Every hit with a raised cue: over what is in the way."""
    fan = direct_fan(layout, on, (2.2, 2.8, 3.4), ((0.0, 0.0),))
    fan[:, ELEVATION] = np.maximum(fan[:, ELEVATION], JUMP)
    return fan


def pot_ideas(outlook: Outlook, layout: Layout, effort: Effort, most: int, arm: Arm = RIGHT) -> list[Idea]:
    """Direct pots of balls on into every open pocket, by the routes that serve the next ball best, with side and
    without.
    """
    assert layout.cue is not None
    game, hand = outlook.game, outlook.hands[0]
    ground = Ground(layout)
    cue = np.array([layout.cue])
    missed = outlook.scale.flip(outlook.quick(game.passed(game.state)).standing.open)
    grid = outlook.quick(game.state).grid
    found: list[tuple[float, Idea]] = []
    for ball in game.on(game.state):
        pots = ground.pots(ball, cue, effort.strokes, arm)
        if not len(pots):
            continue
        worth = follow_worth(outlook, game.state, ball)
        chance = pots.chance(hand)
        first = chance * grid.at(grid.blurred(worth, BLUR), pots.landing) + (1 - chance) * missed
        centre = np.flatnonzero(pots.candidates[:, C_SIDE] == 0.0)
        plain = centre[top(pots.pocket[centre], first[centre], PLAIN_TRIED)]
        stirs = outlook.stirred(game.after_pot(game.state, ball)) > 0.0
        moves = np.flatnonzero(pots.moves & stirs)
        opening = moves[top(pots.pocket[moves], chance[moves], 1)]  # the surest that strikes a cluster
        pots = pots.only(np.unique(np.concatenate([top(pots.pocket, first, ROUTES_TRIED), plain, opening])))
        pot, value = expected(grid, ground.sampled(pots, hand, draws_of(ROUTE_DRAWS, 0)), worth)
        score = value + (1 - pot) * missed
        ends: dict[tuple[int, bool], list[Floats]] = {}
        opened = set[int]()
        for row in np.argsort(-score):
            with_side = bool(pots.candidates[row, C_SIDE] != 0.0)
            pocket = int(pots.pocket[row])
            rivals = ends.setdefault((pocket, with_side), [])
            end = pots.landing[row]
            opens = stirs and bool(pots.moves[row]) and pocket not in opened
            if not opens and (len(rivals) >= ROUTES or any(np.hypot(*(end - e)) < ROUTES_APART for e in rivals)):
                continue
            rivals.append(end)
            if opens:
                opened.add(pocket)
            idea = Idea(stroke_of(pots, int(row)), ball, POCKETS[pocket])
            found.append((float(score[row]), idea))
    found.sort(key=lambda one: -one[0])
    return [idea for _, idea in found[:most]]


def other_pots(game: Game, tries: Tries, known: list[Idea], most: int) -> list[Idea]:
    """Banks, kicks, combinations, cannons and whatever else pots: the widest run of aims of each."""
    fates, first = tries.played.fates, tries.played.results[:, R_FIRST]
    keep = np.flatnonzero(tries.judged.pot | tries.judged.won)
    direct = {(idea.ball, idea.pocket) for idea in known}
    groups: dict[tuple[str, str, int, bool], list[int]] = {}
    for row in keep:
        fallen = [
            (name, int(fate)) for name, fate in zip(tries.played.names, fates[row], strict=True) if 0 <= fate < 6
        ]
        name, fate = _counts(game, fallen)
        kicked = bool(tries.played.results[row, R_CUE_RAILS] > 0)
        key = name, POCKETS[fate], int(first[row]), kicked and not _aimed_at(tries, int(row))
        if key[:2] in direct and key[2] == tries.played.names.index(name) and not key[3]:
            continue
        groups.setdefault(key, []).append(int(row))
    chosen = []
    for (name, pocket, _, _), rows in groups.items():
        middle, width = _widest(tries, rows)
        chosen.append((width, Idea(stroke_from_row(tries.strokes[middle]), name, pocket)))
    chosen.sort(key=lambda one: -one[0])
    ideas = [_centred(game, tries.layout, idea) for _, idea in chosen[: 2 * most]]
    return [idea for idea in ideas if idea is not None][:most]


def safe_ideas(
    game: Game, fans: list[Tries], hands: tuple[Hand, Hand], on_after: tuple[str, ...], most: int
) -> list[Idea]:
    """Lawful strokes that pot nothing and leave the opponent least under the hand's errors, unlike each other."""
    layout = fans[0].layout
    rows, ends = [], []
    for tries in fans:
        judged = tries.judged
        keep = np.flatnonzero(~judged.foul & ~judged.pot & ~judged.lost & ~judged.won)
        if len(keep):
            left = quick_leave(layout, tries.played, keep, hands[1], on_after)
            best = keep[np.argsort(left)[:SAFETIES_TRIED]]
            rows.append(tries.strokes[best])
            ends.append(tries.played.places[best, 0])
    if not rows:
        return []
    strokes, end = np.concatenate(rows), np.concatenate(ends)
    score = _robust(game, layout, strokes, hands, on_after)
    found: list[int] = []
    for row in np.argsort(score):
        alike = any(
            np.hypot(*(end[row] - end[other])) < SAFETIES_APART
            or (_near(strokes[other, AIM], strokes[row, AIM]) and strokes[other, 4] == strokes[row, 4])
            for other in found
        )
        if not alike:
            found.append(int(row))
        if len(found) == most:
            break
    return [Idea(stroke_from_row(_tuned(game, layout, strokes[row], hands, on_after))) for row in found]


def _tuned(
    game: Game, layout: Layout, stroke: Floats, hands: tuple[Hand, Hand], on_after: tuple[str, ...]
) -> Floats:
    """The stroke, or one a little beside it in aim, speed and tip that leaves the opponent less."""
    near = stroke + np.random.default_rng(0).normal(size=(TUNED, 5)) * NEAR_BY * (1.0, stroke[1], 1.0, 1.0, 0.0)
    tip = np.hypot(near[:, 2], near[:, 3])
    near[:, 2:4] *= np.minimum(1.0, TIP_LIMIT / np.maximum(tip, 1e-9))[:, None]
    every = reachable(layout, np.concatenate([stroke[None], near]))
    return np.asarray(every[int(np.argmin(_robust(game, layout, every, hands, on_after)))])


def _robust(
    game: Game, layout: Layout, strokes: Floats, hands: tuple[Hand, Hand], on_after: tuple[str, ...]
) -> Floats:
    """What each stroke leaves on average when a hand plays it; a foul counts as a table left wide open."""
    made = [tries_of(layout, stroke_from_row(stroke), hands[0], SAFETY_DRAWS) for stroke in strokes]
    every = np.concatenate([one.strokes for one in made])
    tries = play_fan(game, layout, every, lucks=np.concatenate([one.lucks for one in made]))
    left = quick_leave(layout, tries.played, np.arange(len(every)), hands[1], on_after)
    left = np.where(tries.judged.foul | tries.judged.lost, 1.0, left)
    return np.asarray(np.where(tries.judged.pot, 0.3, left).reshape(len(strokes), SAFETY_DRAWS).mean(axis=1))


def quick_leave(layout: Layout, played: Samples, rows: Ints, hand: Hand, on_after: tuple[str, ...]) -> Floats:
    """What the opponent is left, at a first glance: his best pot, and a little for seeing the ball at all."""
    table = layout.table
    cue = played.places[rows, 0]
    gone = played.fates[rows] >= 0
    worst = np.zeros(len(rows))
    for ball in on_after:
        if ball not in played.names:
            continue
        at = played.names.index(ball)
        others = played.places[rows].copy()
        others[gone] = np.nan
        others = np.delete(others, [0, at], axis=1)
        others = np.where(np.isnan(others), -9.0, others)
        here = ~gone[:, at]
        pot = quick_pot(table, cue, played.places[rows, at], others, hand)
        seen = quick_seen(table, cue, played.places[rows, at], others)
        away = np.hypot(*(played.places[rows, at] - cue).T)
        worst = np.maximum(worst, np.where(here, pot + 0.15 * seen - 0.02 * away, 0.0))
    return worst


def in_hand_layouts(game: Game, outlook: Outlook, most: int) -> list[Layout]:
    """With ball in hand: the layout with the cue ball on each of the best places, none too near to another."""
    layout, table = game.layout, game.layout.table
    turn = outlook.turn(game.state)
    low, high = _bounds(game)
    x, y = np.meshgrid(np.linspace(low[0], high[0], 29), np.linspace(low[1], high[1], 15), indexing="ij")
    places = np.stack([x.ravel(), y.ravel()], axis=1)
    apart = 0.12 * math.dist(low, high)
    found: list[Layout] = []
    for at in np.argsort(-turn.at(places)):
        place = float(places[at, 0]), float(places[at, 1])
        placed = layout.placed(CUE, place)
        if not allowed(game, place) or not on_table(table, place, table.cue_radius) or first_overlap(placed):
            continue
        if all(math.dist(place, other.balls[CUE]) >= apart for other in found):
            found.append(placed)
        if len(found) == most:
            break
    return found


def _bounds(game: Game) -> tuple[Point, Point]:
    """Opposite corners of where ball in hand may be put."""
    table, where = game.layout.table, game.state.in_hand
    inset = 1.02 * table.cue_radius
    if where == "in-d":
        radius = d_radius(table)
        middle = table.width / 2
        return (table.head_line - radius, middle - radius), (table.head_line, middle + radius)
    far = table.head_line if where == "behind-line" else table.length - inset
    return (inset, inset), (far, table.width - inset)


def allowed(game: Game, place: Point) -> bool:
    """Where ball in hand may be put."""
    table, where = game.layout.table, game.state.in_hand
    if where == "behind-line":
        return place[0] <= table.head_line
    if where == "in-d":
        centre = table.head_line, table.width / 2
        return place[0] <= table.head_line and math.dist(place, centre) <= d_radius(table)
    return True


def _counts(game: Game, fallen: list[tuple[str, int]]) -> tuple[str, int]:
    """The fallen ball that matters: one that wins, else the first."""
    wins = game.rules.masks(game.state, game.options).wins
    objects = [one for one in fallen if one[0] != CUE]
    return next((one for one in objects if one[0] in wins), objects[0])


def _aimed_at(tries: Tries, row: int) -> bool:
    """Whether the first ball lies straight ahead: no rail was needed to reach it."""
    first = int(tries.played.results[row, R_FIRST])
    cue = tries.layout.cue
    assert cue is not None
    bx, by = tries.layout.balls[tries.played.names[first]]
    away = math.hypot(bx - cue[0], by - cue[1])
    reach = tries.layout.table.radius + tries.layout.table.cue_radius
    off = abs((math.atan2(by - cue[1], bx - cue[0]) - tries.strokes[row, AIM] + math.pi) % (2 * math.pi) - math.pi)
    return bool(off < math.asin(min(1.0, reach / max(away, reach))) + 0.03)


def _widest(tries: Tries, rows: list[int]) -> tuple[int, float]:
    """The middle of the widest run of neighbouring aims, and its width; a lone aim counts half a step."""
    best, width = rows[0], 0.0
    runs = np.split(np.array(rows), np.flatnonzero(np.diff(rows) != 1) + 1)
    for run in runs:
        step = abs(tries.strokes[run[-1], AIM] - tries.strokes[run[0], AIM]) if len(run) > 1 else 0.0
        wide = float(step) + 1e-4
        if wide > width:
            best, width = int(run[len(run) // 2]), wide
    return best, width


def _centred(game: Game, layout: Layout, idea: Idea) -> Idea | None:
    """The idea with its aim in the middle of the aims around it that still pot."""
    assert idea.ball is not None
    assert idea.pocket is not None
    assert idea.stroke.aim is not None
    aims = np.linspace(-0.012, 0.012, FINE_AIMS) + idea.stroke.aim
    rows = np.zeros((FINE_AIMS, 5))
    rows[:] = (0.0, idea.stroke.speed, idea.stroke.side, idea.stroke.height, idea.stroke.elevation)
    rows[:, AIM] = aims
    tries = play_fan(game, layout, rows)
    column = tries.played.names.index(idea.ball)
    pots = (tries.played.fates[:, column] == POCKETS.index(idea.pocket)) & ~tries.judged.foul & ~tries.judged.lost
    if not pots.any():
        return None
    runs = np.split(np.arange(FINE_AIMS), np.flatnonzero(np.diff(pots.astype(int))) + 1)
    longest = max((run for run in runs if pots[run[0]]), key=len)
    return replace(idea, stroke=idea.stroke.aimed(float(aims[longest[len(longest) // 2]])))


def stroke_from_row(row: Floats) -> Stroke:
    aim, speed, side, height, elevation = (float(value) for value in row)
    return Stroke(speed=speed, aim=aim, side=side, height=height, elevation=elevation)


def _near(one: float, other: float) -> bool:
    return abs((one - other + math.pi) % (2 * math.pi) - math.pi) < 0.01
