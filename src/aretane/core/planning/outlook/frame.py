"""Snooker: from points ahead to the chance to win the frame, by frames played on visit by visit.

A visit that has begun goes on with one chance a ball, whatever its place; many begin with nothing (a safety, no
open ball), the more the fewer balls may be played or the more of them lie in the pack. After a miss the other is at
the table, a missed colour leaves him the reds. So a frame is a chain, and the margin that it ends with has a
distribution: narrow between players who score little by little, wide where one visit may bring everything that is
left. Of the visits that begin with nothing a few are fouls: who needs snookers has these and nothing else.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from scipy.linalg import solve_banded

from aretane.core.physics.compiled import Floats
from aretane.core.rules.game import RackState, opponent
from aretane.core.rules.snooker import BLACK, COLOUR, LEAST_FOUL, VALUES, is_red, value

MOST = 160  # points that a frame may still bring, and more than one player ever needs
# At so many reds this share of the visits begins with a ball that is made where the next one would be: the colours
# alone, one red, which can be hidden, open reds, the pack (frames played out on the table, see docs/method.md).
OPENS = ((0.0, 1.0, 3.0, 6.0, 15.0), (0.5, 0.45, 0.75, 0.85, 0.5))
FOULS = 0.05  # of the visits that begin with nothing: some two in a frame of forty visits (common practice)
USUAL_COLOUR = 5  # points, with a red: mostly black, pink and blue (common practice)
STEPS = 24  # chances between which is interpolated

Left = tuple[int, tuple[int, ...], bool]  # reds, values of the colours in their order, on a colour with a red


def frame_chance(state: RackState, ahead: float, pots: tuple[float, float]) -> float:
    """Chance that the player of `state` wins, if he is expected to gain `ahead` points on the other from here.
    `pots`: the chance of the next ball too, his own and the other one's.
    """
    gains, chances = _curve(state, pots)
    return float(np.interp(ahead, gains, chances))


def ahead_at(state: RackState, chance: float, pots: tuple[float, float]) -> float:
    """The inverse: how far the player of `state` is expected to get ahead from here who wins so often."""
    gains, chances = _curve(state, pots)
    return float(np.interp(chance, chances, gains))


def _curve(state: RackState, pots: tuple[float, float]) -> tuple[Floats, Floats]:
    lead = state.points[state.player] - state.points[opponent(state.player)]
    return _frames(left_in(state), int(lead), _rounded(pots))


def _rounded(pots: tuple[float, float]) -> tuple[float, float]:
    """So that chains are worked out once for players who hardly differ."""
    return round(pots[0], 3), round(pots[1], 3)


def usual_ahead(state: RackState, pots: tuple[float, float]) -> float:
    """How far a turn on a red or in the colours puts its player ahead in the mean, wherever the balls lie."""
    return _usual_ahead(left_in(state), _rounded(pots))


@lru_cache(maxsize=512)
def _usual_ahead(left: Left, pots: tuple[float, float]) -> float:
    return float(_chain(left[0], left[1], pots)[left] @ np.arange(-MOST, MOST + 1))


def turn_chances(left: Left, lead: int, pots: tuple[float, float]) -> tuple[float, float]:
    """How often the first of two players wins the frame, `lead` ahead: with himself at the table, with the other.
    `left` is a turn's, so on no colour.
    """
    first, second = (_chain(left[0], left[1], one)[left] for one in (pots, pots[::-1]))
    points = np.arange(-MOST, MOST + 1)
    won = (points + lead > 0) + 0.5 * (points + lead == 0)
    return float(first @ won), float(second[::-1] @ won)


def left_in(state: RackState) -> Left:
    colours = sorted(value(ball) for ball in state.balls if not is_red(ball))
    return sum(map(is_red, state.balls)), tuple(colours), state.on == COLOUR


@lru_cache(maxsize=512)
def _frames(left: Left, lead: int, pots: tuple[float, float]) -> tuple[Floats, Floats]:
    """Points gained in the mean and the chance to win, rising together: from a table that the other clears, by his
    usual visit and one's own, to one that this visit clears.
    """
    mine, theirs = _chain(left[0], left[1], pots), _chain(left[0], left[1], pots[::-1])
    usual = opens(left[0]) * pots[1]
    his = [visit for visit in _visits(left[0], pots[1]) if visit[0] > usual]  # his usual one is what a miss leaves
    margins = [_run(_without_colour(left), mine, *visit)[::-1] for visit in reversed(his)]
    margins += [_run(left, theirs, *visit) for visit in _visits(left[0], pots[0])]
    points = np.arange(-MOST, MOST + 1)
    gains = np.array([float(margin @ points) for margin in margins])
    won = (points + lead > 0) + 0.5 * (points + lead == 0)
    return np.maximum.accumulate(gains), np.maximum.accumulate([float(margin @ won) for margin in margins])


def opens(reds: int) -> float:
    """The share of visits that begin with a ball that may be made."""
    return float(np.interp(reds, *OPENS))


def _visits(reds: int, goes_on: float) -> list[tuple[float, float]]:
    """Chances of the first ball of a visit and of each further one: from none by a usual visit to a clearance."""
    usual = opens(reds) * goes_on
    worse = [(first, goes_on) for first in np.linspace(0.0, usual, STEPS)[:-1]]
    shares = np.linspace(0.0, 1.0, STEPS)
    return [*worse, *((usual + share * (1.0 - usual), goes_on + share * (1.0 - goes_on)) for share in shares)]


def _run(left: Left, theirs: dict[Left, Floats], first: float, further: float) -> Floats:
    """The distribution of what is gained from here by one visit, its balls made with these chances, and then a
    usual frame with the other at the table.
    """
    found, stays, gained, chance = np.zeros(2 * MOST + 1), 1.0, 0, first
    at: Left | None = left
    while at is not None:
        found += stays * (1.0 - chance) * _shifted(theirs[_without_colour(at)][::-1], gained)
        stays *= chance
        points, at = _after(at)
        gained, chance = gained + points, further
    return found + stays * _shifted(_nothing(), gained)


@lru_cache(maxsize=256)
def _chain(reds: int, colours: tuple[int, ...], pots: tuple[float, float]) -> dict[Left, Floats]:
    """At every turn on a red or in the colours: the distribution of what the player at the table gains.

    F = q S + (1 - q) K F' and F' = q' S' + (1 - q') K' F, where S follows a pot and F' is the other's turn as this
    player sees it; q is `opens` times the chance of going on, and K takes a foul's points with the chance of one.
    """
    mine: dict[Left, Floats] = {}
    theirs: dict[Left, Floats] = {}
    turns: list[Left] = [(0, colours[at:], False) for at in range(len(colours), -1, -1)]
    for left in [*turns, *((red, colours, False) for red in range(1, reds + 1))]:
        if _is_over(left):
            mine[left] = theirs[left] = _nothing()
            continue
        q, p = (opens(left[0]) * chance for chance in pots)
        own, other = _made(left, theirs, pots[0]), _made(left, mine, pots[1])
        mine[left] = _turns(left, own, other[::-1], q, p)
        theirs[left] = _turns(left, other, own[::-1], p, q)
    return mine


def foul_of(left: Left) -> int:
    """The points that a foul gives away: the ball on, four at least (rule 12)."""
    reds, colours, _ = left
    return max(LEAST_FOUL, 0 if reds or not colours else colours[0])


def _turns(left: Left, own: Floats, other: Floats, q: float, p: float) -> Floats:
    """F of the one at the table, from what follows his own pot and the other one's. With the black alone on the
    table a foul ends the frame (rule 4).
    """
    foul, clean = foul_of(left), 1.0 - FOULS
    stays = (1.0 - q) * (1.0 - p)
    if left[:2] == (0, (VALUES[BLACK],)):
        won = _shifted(_nothing(), foul)
        ends = (1.0 - q) * FOULS * won[::-1] + stays * clean * FOULS * won
        return np.asarray((q * own + (1.0 - q) * p * clean * other + ends) / (1.0 - stays * clean**2))
    once = q * own + (1.0 - q) * p * (clean * other + FOULS * _shifted(other, -foul))
    bands = np.zeros((2 * foul + 1, len(once)))
    bands[foul] = 1.0 - stays * (clean**2 + FOULS**2)
    bands[[0, -1]] = -stays * FOULS * clean
    return np.asarray(solve_banded((foul, foul), bands, once))


def _made(left: Left, theirs: dict[Left, Floats], goes_on: float) -> Floats:
    """What is gained once the first ball of a visit is made."""
    points, after = _after(left)
    return _shifted(_run(after, theirs, goes_on, goes_on) if after else _nothing(), points)


def _after(left: Left) -> tuple[int, Left | None]:
    """The points of the next ball, and what is left then; None at the end."""
    reds, colours, on_colour = left
    if on_colour:
        return USUAL_COLOUR, None if _is_over((reds, colours, False)) else (reds, colours, False)
    if reds:
        return 1, (reds - 1, colours, True)
    rest: Left = (0, colours[1:], False)
    return colours[0], None if _is_over(rest) else rest


def _without_colour(left: Left) -> Left:
    """What the other one finds after a miss."""
    return left[0], left[1], False


def _is_over(left: Left) -> bool:
    return not left[0] and not left[1]


def _nothing() -> Floats:
    found = np.zeros(2 * MOST + 1)
    found[MOST] = 1.0
    return found


def _shifted(margin: Floats, points: int) -> Floats:
    """The distribution with so many points more (or fewer); what a frame cannot bring is no margin."""
    found = np.zeros_like(margin)
    if points > 0:
        found[points:] = margin[:-points]
    elif points < 0:
        found[:points] = margin[-points:]
    else:
        return margin
    return found
