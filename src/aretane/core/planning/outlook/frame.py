"""Snooker: from points ahead to the chance to win the frame, by frames played on visit by visit.

A visit that has begun goes on with one chance a ball, whatever its place. Many begin with nothing (a safety, no
open ball): few after a miss, which leaves the next ball more often than not, half of them after a safety. A missed
colour leaves the reds. So a frame is a chain, and the margin that it ends with has a distribution: narrow between
players who score little by little, wide where one visit may bring everything that is left. Of the visits that begin
with no ball made a few are fouls: who needs snookers has these and nothing else.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from aretane.core.physics.compiled import Floats
from aretane.core.rules.game import RackState, opponent
from aretane.core.rules.snooker import BLACK, COLOUR, LEAST_FOUL, VALUES, is_red, value

MOST = 160  # points that a frame may still bring, and more than one player ever needs
MISSED, SAFE = 0, 1  # what the one before has left: the table after a miss, or after a safety
# With so many reds this share of the visits after a miss begins with a try at a ball: the colours alone, one red,
# which can be hidden, open reds, the pack. A safety takes so much of it away, times the square of its player's
# chance to go on, and what is tried is as hard as two balls (frames played out, see docs/method.md).
REDS = 0.0, 1.0, 3.0, 6.0, 15.0
TRIED = 0.82, 0.77, 0.97, 1.0, 0.93
TAKEN = 0.62, 0.68, 0.56, 0.42, 0.42
FIRST = 1, 2  # balls
FOULS = 0.05  # of the visits that begin with no ball made: some two in a frame of forty visits (common practice)
USUAL_COLOUR = 5  # points, with a red: mostly black, pink and blue (common practice)
STEPS = 24  # chances between which is interpolated
SETTLED = 1e-10

Left = tuple[int, tuple[int, ...], bool]  # reds, values of the colours in their order, on a colour with a red
Begins = tuple[float, float, float]  # shares of visits: the first ball made, missed, or a safety instead


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
    """How far a turn on a red or in the colours that a miss has left puts its player ahead in the mean."""
    return _usual_ahead(left_in(state), _rounded(pots))


@lru_cache(maxsize=512)
def _usual_ahead(left: Left, pots: tuple[float, float]) -> float:
    return float(_chain(left[0], left[1], pots)[left][MISSED] @ np.arange(-MOST, MOST + 1))


def turn_chances(left: Left, lead: int, pots: tuple[float, float], after: int = MISSED) -> tuple[float, float]:
    """How often the first of two players wins the frame, `lead` ahead: with himself at the table, with the other,
    `after` a miss or a safety of the one before. `left` is a turn's, so on no colour.
    """
    first, second = (_chain(left[0], left[1], one)[left][after] for one in (pots, pots[::-1]))
    points = np.arange(-MOST, MOST + 1)
    won = (points + lead > 0) + 0.5 * (points + lead == 0)
    return float(first @ won), float(second[::-1] @ won)


def left_in(state: RackState) -> Left:
    colours = sorted(value(ball) for ball in state.balls if not is_red(ball))
    return sum(map(is_red, state.balls)), tuple(colours), state.on == COLOUR


@lru_cache(maxsize=512)
def _frames(left: Left, lead: int, pots: tuple[float, float]) -> tuple[Floats, Floats]:
    """Points gained in the mean and the chance to win, rising together: from a table that the other clears, by his
    usual visit, a safety of one's own and one's usual visit, to one that this visit clears.
    """
    mine, theirs = _chain(left[0], left[1], pots), _chain(left[0], left[1], pots[::-1])
    margins = [_run(_without_colour(left), mine, *visit)[::-1] for visit in reversed(_better(left[0], pots[1]))]
    margins += [_run(left, theirs, *visit) for visit in [*_worse(left[0], pots[0]), *_better(left[0], pots[0])]]
    points = np.arange(-MOST, MOST + 1)
    gains = np.array([float(margin @ points) for margin in margins])
    won = (points + lead > 0) + 0.5 * (points + lead == 0)
    return np.maximum.accumulate(gains), np.maximum.accumulate([float(margin @ won) for margin in margins])


def begins(reds: int, goes_on: float, after: int = MISSED, other: float = 0.0) -> Begins:
    """How a usual visit begins after a miss, or a safety of a player whose own chance to go on is the `other`."""
    taken = float(np.interp(reds, REDS, TAKEN)) * other**2 if after == SAFE else 0.0
    tried = float(np.interp(reds, REDS, TRIED)) * (1.0 - taken)
    made = tried * goes_on ** FIRST[after]
    return made, tried - made, 1.0 - tried


def _worse(reds: int, goes_on: float) -> list[tuple[Begins, float]]:
    """Visits from a safety on to the usual one after a miss: how they begin and the chance of each further ball."""
    made, missed, safe = begins(reds, goes_on)
    shares = np.linspace(0.0, 1.0, STEPS)[:-1]
    return [((share * made, share * missed, 1.0 - share * (1.0 - safe)), goes_on) for share in shares]


def _better(reds: int, goes_on: float) -> list[tuple[Begins, float]]:
    """The same from the usual visit after a miss on to a clearance."""
    made, missed, safe = begins(reds, goes_on)
    shares = np.linspace(0.0, 1.0, STEPS)
    return [
        (
            (made + share * (1.0 - made), (1.0 - share) * missed, (1.0 - share) * safe),
            goes_on + share * (1.0 - goes_on),
        )
        for share in shares
    ]


def _run(left: Left, theirs: dict[Left, Floats], first: Begins, further: float) -> Floats:
    """The distribution of what is gained from here by one visit that begins so, and then a usual frame with the
    other at the table.
    """
    made, *ended = first
    return np.asarray(ended @ theirs[_without_colour(left)][:, ::-1] + made * _made(left, theirs, further))


@lru_cache(maxsize=256)
def _chain(reds: int, colours: tuple[int, ...], pots: tuple[float, float]) -> dict[Left, Floats]:
    """At every turn on a red or in the colours: the distributions of what the player at the table gains, after a
    miss and after a safety of the other (2 x margins).
    """
    mine: dict[Left, Floats] = {}
    theirs: dict[Left, Floats] = {}
    turns: list[Left] = [(0, colours[at:], False) for at in range(len(colours), -1, -1)]
    for left in [*turns, *((red, colours, False) for red in range(1, reds + 1))]:
        if _is_over(left):
            mine[left] = theirs[left] = np.array([_nothing()] * 2)
            continue
        made = _made(left, theirs, pots[0]), _made(left, mine, pots[1])
        mine[left], theirs[left] = _turns(left, made, pots)
    return mine


def foul_of(left: Left) -> int:
    """The points that a foul gives away: the ball on, four at least (rule 12)."""
    reds, colours, _ = left
    return max(LEAST_FOUL, 0 if reds or not colours else colours[0])


def _turns(left: Left, made: tuple[Floats, Floats], pots: tuple[float, float]) -> Floats:
    """The turns of both players (2 x 2 x margins: whose, after a miss or a safety) from what follows the first ball
    that either has made.

    F = made S + missed K F' + safe K F'', where F' and F'' are the other's turn, after a miss and after a safety,
    as this player sees it, and K takes a foul's points with the chance of one; what it leaves is a miss's. With the
    black alone on the table a foul ends the frame (rule 4). Gone through in turns until nothing changes.
    """
    foul, ends = foul_of(left), left[:2] == (0, (VALUES[BLACK],))
    shares = np.array(
        [[begins(left[0], mine, after, theirs) for after in (MISSED, SAFE)] for mine, theirs in (pots, pots[::-1])]
    )
    found, change = np.zeros((2, 2, 2 * MOST + 1)), 1.0
    while change > SETTLED:
        before = found.copy()
        for player in (0, 1):
            theirs = found[1 - player][:, ::-1]
            lost = _shifted(_nothing() if ends else theirs[MISSED], -foul)
            follows = (1.0 - FOULS) * theirs + FOULS * lost
            found[player] = shares[player][:, :1] * made[player] + shares[player][:, 1:] @ follows
        change = float(np.abs(found - before).max())
    return found


def _made(left: Left, theirs: dict[Left, Floats], goes_on: float) -> Floats:
    """What is gained once a ball is made: its points, and what goes on."""
    points, after = _after(left)
    if after is None:
        return _shifted(_nothing(), points)
    return _shifted(_run(after, theirs, (goes_on, 1.0 - goes_on, 0.0), goes_on), points)


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
