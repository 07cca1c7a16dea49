"""The worth of a break: the usual one, simulated on racks of which no two are alike.

Where the balls come to lie after a break is mostly chance. So its player answers for whether it was dry, made a
ball or was a foul, and for where the cue ball stopped among balls that lie as they usually do; the rest is luck.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from aretane.core.ball import CUE
from aretane.core.physics.compiled import Floats
from aretane.core.physics.sampling import play_all, tries_of
from aretane.core.physics.start import start_of
from aretane.core.planning.choices.break_shot import Opener, usual_break
from aretane.core.planning.choices.options import outlook_for
from aretane.core.planning.choices.search import judged
from aretane.core.planning.choices.value import cases_of, left_by
from aretane.core.planning.outlook.outlook import Game
from aretane.core.planning.pots.grid import Grid
from aretane.core.planning.pots.strokes import GLANCE
from aretane.core.review.ledger.juncture import CameOf, Juncture, layout_at
from aretane.core.review.ledger.valuing import Care
from aretane.core.review.ledger.worth import Known, as_value, flipped
from aretane.core.rules.disciplines import rules_of
from aretane.core.rules.traits import traits_of
from aretane.core.skill.demand import demand_of
from aretane.core.skill.hand import Hand
from aretane.core.table import Table

RACKS_EACH = 6  # played on from each break, where that can be done
LEAST = 4  # breaks that are looked at where a whole table takes long
WHOLE_TABLE_COSTS = 4  # times as much in games without racks that can be played on


@dataclass(frozen=True)
class Broken:
    """One simulated break: what became of it, what the table then is worth to its player, and the same for each
    place of the cue ball on a grid (None: the rack is over, or the cue ball in hand).
    """

    outcome: str
    value: float
    places: Floats | None


@dataclass(frozen=True)
class Opening:
    """The breaks of one hand against another."""

    broken: tuple[Broken, ...]

    @property
    def worth(self) -> Known:
        return _mean([one.value for one in self.broken])

    def expected(self, came: CameOf) -> Known | None:
        """What is left of it when it is known whether a ball fell, or it was a foul; None where no such break was
        simulated."""
        same = [one.value for one in self.broken if one.outcome == came.outcome]
        return _mean(same) if same else None

    def placed(self, came: CameOf, table: Table) -> Known | None:
        """What the cue ball's place is worth more than where it usually stops, among balls that lie as they usually
        do after such a break."""
        place = (came.balls or {}).get(CUE)
        if place is None or came.state.in_hand is not None:
            return None
        same = [one.places for one in self.broken if one.outcome == came.outcome and one.places is not None]
        if not same:
            return None
        grid = Grid(table, *same[0].shape)
        here = [float(grid.at(values, np.array([place]))[0]) for values in same]
        apart = [at - float(values.mean()) for at, values in zip(here, same, strict=True)]
        return _mean(apart)


def opening_of(
    at: Juncture, hands: tuple[Hand, Hand], care: Care, seed: int = 0, threads: int = 1
) -> Opening | None:
    """The breaks of the first of these hands: the usual one, in games that have none the stroke that was played;
    None where neither is known.
    """
    whole = traits_of(at.discipline).points
    count = max(LEAST, care.breaks // WHOLE_TABLE_COSTS) if whole else care.breaks
    found = []
    for number in range(seed * 10_007, seed * 10_007 + count):
        opener = usual_break(at.discipline, hands[0], at.table, number) or _as_played(at)
        if opener is None:
            return None
        rules = rules_of(at.discipline)
        state = replace(at.state, balls=tuple(opener.layout.object_balls), in_hand=None)
        found.append(_broken(Game(opener.layout, rules, at.options, state), opener, hands, number, threads))
    return Opening(tuple(found))


def _as_played(at: Juncture) -> Opener | None:
    """The break that was played, by its logged stroke."""
    layout, stroke, place = at.layout, at.meant.stroke, at.meant.place
    if layout is None or stroke is None or place is None:
        return None
    layout = layout.placed(CUE, place)
    return Opener(layout, stroke, demand_of(layout, stroke))


def _broken(game: Game, opener: Opener, hands: tuple[Hand, Hand], seed: int, threads: int) -> Broken:
    layout = opener.layout
    tries = tries_of(layout, opener.stroke, hands[0], 1, seed, opener.demand)
    played = play_all(layout, start_of(layout), tries.strokes, lucks=tries.lucks)
    after = cases_of(game, played)[0].after
    foul = bool(judged(game, played).foul[0])
    outcome = "foul" if foul else "made" if after.player == game.me else "missed"
    if after.winner is not None and not traits_of(game.layout.discipline).points:
        return Broken(outcome, float(after.winner == game.me), None)
    left = left_by(layout, played, 0, after).balls
    if after.in_hand is not None:
        left = {ball: place for ball, place in left.items() if ball != CUE}
    following = replace(game, layout=layout_at(layout.table, layout.discipline, left, after), state=after)
    mine = after.player == game.me
    breaker, other = hands[0].turn(1), hands[1]
    turned = (breaker, other) if mine else (other, breaker)
    outlook = outlook_for(following, turned, GLANCE, seed, threads)
    turn = outlook.turn(after)
    in_hand = after.in_hand is not None
    racks = outlook.racks(following.layout)
    if racks is not None:
        worth = float(racks.wins_of(RACKS_EACH, seed, threads).p or 0.0)
    else:
        worth = turn.standing.in_hand if in_hand else float(turn.at(np.array(following.layout.cue)))
    places = None if in_hand else np.vectorize(lambda at: _to_breaker(following, turned, mine, at))(turn.worth)
    return Broken(outcome, _to_breaker(following, turned, mine, worth), places)


def _to_breaker(following: Game, hands: tuple[Hand, Hand], mine: bool, worth: float) -> float:
    """What a turn is worth to whoever broke."""
    value = as_value(following, following.state, worth, hands)
    return value if mine else flipped(following.layout.discipline, value)


def _mean(values: list[float]) -> Known:
    spread = float(np.std(values, ddof=1)) if len(values) > 1 else 0.3
    return Known(float(np.mean(values)), max(spread, 0.02) / math.sqrt(len(values)))
