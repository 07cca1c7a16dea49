"""Values of a turn: with their errors, as chances or balls ahead, and as the other player sees them."""

from __future__ import annotations

from dataclasses import dataclass

from aretane.core.planning.outlook.frame import frame_chance
from aretane.core.planning.outlook.outlook import Game
from aretane.core.rules.game import RackState, opponent
from aretane.core.rules.traits import FRAMES, traits_of
from aretane.core.skill.hand import Hand
from aretane.core.skill.visits import goes_on

LEAST = {False: 0.02, True: 0.5}  # points of win chance, in straight pool balls: less is not worth a word
SURE = 1.96


@dataclass(frozen=True)
class Known:
    """A value with its standard error."""

    value: float
    error: float


def as_value(game: Game, state: RackState, ahead: float, hands: tuple[Hand, Hand]) -> float:
    """To the player of `state`: a chance to win as it is; points ahead from here as the chance to win the frame, or
    in straight pool as balls ahead in the end. `hands`: of the player whose game it is, and of the other.
    """
    traits = traits_of(game.layout.discipline)
    if traits.counts == FRAMES:
        number = game.number(state.player)
        mine, theirs = (goes_on(hands[one], game.layout.table) for one in (number, 1 - number))
        return frame_chance(state, ahead, (mine, theirs))
    if traits.goes_on:
        mine, theirs = state.points[state.player], state.points[opponent(state.player)]
        race = game.options.get("race_to")
        if not race:
            return mine - theirs + ahead
        return float(min(max(mine - theirs + ahead, mine - race), race - theirs))  # nobody comes further
    return ahead


def within(discipline: str, value: float) -> float:
    """A chance is one; balls ahead may be any number."""
    return value if traits_of(discipline).goes_on else min(1.0, max(0.0, value))


def flipped(discipline: str, value: float) -> float:
    """The same standing as the other player sees it."""
    return -value if traits_of(discipline).goes_on else 1.0 - value


def loses(value: float | None, error: float | None, discipline: str) -> bool:
    """Whether a part of an entry is a loss: more than a trifle, and than its uncertainty."""
    least = LEAST[traits_of(discipline).goes_on]
    return value is not None and value <= -max(least, SURE * (error or 0.0))


def lost_by(value: float | None, error: float | None, discipline: str) -> float | None:
    """What was lost by it; None where it is no loss."""
    return -value if value is not None and loses(value, error, discipline) else None
