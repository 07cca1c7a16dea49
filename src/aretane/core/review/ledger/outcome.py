"""What came of a stroke, against what usually comes of it."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from aretane.core.ball import CUE
from aretane.core.layout import Layout, first_overlap
from aretane.core.physics.compiled import Floats
from aretane.core.physics.sampling import Samples, play_all, tries_of
from aretane.core.physics.start import start_of
from aretane.core.planning.choices.option import Option
from aretane.core.planning.choices.search import judged
from aretane.core.planning.choices.value import cases_of, left_by
from aretane.core.planning.outlook.answer import answer_to
from aretane.core.planning.outlook.outlook import Outlook
from aretane.core.review.ledger.juncture import PUSH_OUT, CameOf
from aretane.core.review.ledger.valuing import Valuing
from aretane.core.review.ledger.worth import Known, as_value, flipped
from aretane.core.rules.game import RackState
from aretane.core.rules.traits import traits_of
from aretane.core.skill.demand import demand_of
from aretane.core.skill.hand import Hand
from aretane.core.table import POCKETS

LOOKS = 8  # outcomes of a sort whose other balls are looked at
FEW = 12  # outcomes of a sort that tell its mean
WILDER, SURER = 2.5, 0.4  # of the hand's errors, where something hardly ever happens to it
MOVED = 0.02  # m: a ball seen elsewhere by less than this has not moved, for all that anybody can tell


class Played:
    """A stroke's samples by what became of them: made, missed or foul."""

    def __init__(self, outlook: Outlook, option: Option, hand: Hand, seed: int, threads: int) -> None:
        game = outlook.game
        layout, stroke = game.layout, option.stroke
        if stroke.place is not None:
            layout, stroke = layout.placed(CUE, stroke.place), replace(stroke, place=None)
        self.layout, self.option = layout, option
        demand, count = demand_of(layout, stroke, option.ball), len(option.value.samples)
        tries = tries_of(layout, stroke, hand, count, seed, demand)
        self.samples: Samples = play_all(layout, start_of(layout), tries.strokes, threads, lucks=tries.lucks)
        pot = (option.ball, option.pocket) if option.ball and option.pocket else None
        self.cases = cases_of(game, self.samples, pot)
        self.sorts = np.full(count, "missed", dtype=object)
        call = (pot[0], POCKETS.index(str(pot[1]))) if pot and game.options.get("call") else None
        self.sorts[judged(game, self.samples, call).foul] = "foul"
        if pot:
            column = self.samples.names.index(pot[0])
            self.sorts[self.samples.fates[:, column] == POCKETS.index(str(pot[1]))] = "made"

    def worth(self, outcome: str) -> Floats:
        """What is left after each sample that became so."""
        found: Floats = self.option.value.samples[self.sorts == outcome]
        return found


class Outcomes:
    """The chosen stroke by what became of it."""

    def __init__(self, outlook: Outlook, own: Option, valuing: Valuing, chosen: float) -> None:
        self.outlook, self.chosen, self.valuing = outlook, chosen, valuing
        self.own = valuing.again(own)
        self.played = Played(outlook, self.own, outlook.hands[0], valuing.seed, valuing.threads)
        self.layout = self.played.layout

    def expected(self, came: CameOf) -> Known:
        """What is left in the mean of what happened. What hardly ever happens is looked at with a hand to which it
        happens more often."""
        found = self.played.worth(came.outcome)
        if len(found) < FEW and self.own.intent != PUSH_OUT:
            found = np.concatenate([found, self._by_another(SURER if came.outcome == "made" else WILDER, came)])
        if len(found) < 2:
            return Known(self._general(came), 0.1 * self._unit)
        spread = max(float(np.std(found, ddof=1)), 0.02 * self._unit)
        return Known(self.chosen + float(found.mean()) - self.own.win, spread / math.sqrt(len(found)))

    def _by_another(self, wider: float, came: CameOf) -> Floats:
        own = self.outlook.hands[0]
        hand = replace(own, aim=wider * own.aim, speed=wider * own.speed)
        option, seed = self.valuing.by_hand(self.own, hand)
        return Played(self.outlook, option, hand, seed, self.valuing.threads).worth(came.outcome)

    @property
    def _unit(self) -> float:
        return 10.0 if traits_of(self.outlook.game.layout.discipline).goes_on else 1.0

    def _general(self, came: CameOf) -> float:
        """What did not happen once: the turn in general, from a place like any other."""
        state = came.state
        if state.winner is not None:
            return self.value_to_me(state, 0.0)
        standing = self.outlook.quick(self._known(state)).standing
        return self.value_to_me(state, standing.in_hand if state.in_hand is not None else standing.open)

    def _known(self, state: RackState) -> RackState:
        """A state without the balls that this table never had (a re-rack)."""
        known = self.outlook.game.state.balls
        return state if all(ball in known for ball in state.balls) else replace(state, balls=known)

    def value_to_me(self, state: RackState, worth: float) -> float:
        """What a turn's `worth` to the player of `state` is to the player of this entry."""
        game = self.outlook.game
        if state.winner is not None and not self.outlook.scale.points:
            return float(state.winner == game.me)
        value = as_value(game, state, worth, self.outlook.hands)
        return value if state.player == game.me else flipped(game.layout.discipline, value)

    def fortune(self, came: CameOf) -> Known | None:
        """What the other balls did beyond what they usually do, the cue ball being where it stopped; nothing where
        they lie as they were to be expected.
        """
        state = came.state
        if came.balls is None or len(state.balls) > len(self.outlook.game.state.balls):
            return None if came.balls is None and state.winner is None else Known(0.0, 0.0)
        if state.winner is not None or state.in_hand is not None or CUE not in came.balls:
            return Known(0.0, 0.0)
        rows = np.flatnonzero(self.played.sorts == came.outcome)
        lies = self._displaced(came)
        same = [row for row in rows if not self._apart(int(row), came)]
        if not len(rows) or (not lies and 2 * len(same) >= len(rows)):
            return Known(0.0, 0.0)
        if 2 * len(same) >= len(rows):
            return Known(0.0, 0.0)
        usual = [
            value for row in rows[:: max(1, math.ceil(len(rows) / LOOKS))]
            if (value := self._moved_to(int(row), came)) is not None
        ]  # fmt: skip
        seen = self._looked_at(dict(came.balls), state)
        if len(usual) < 2 or seen is None:
            return Known(0.0, 0.1 * self._unit)
        return Known(seen - float(np.mean(usual)), float(np.std(usual, ddof=1)) / math.sqrt(len(usual)))

    def _displaced(self, came: CameOf) -> bool:
        balls = came.balls or {}
        meant = self.own.ball
        return any(
            ball != meant and ball in balls and math.dist(place, balls[ball]) > MOVED
            for ball, place in self.layout.object_balls.items()
        )

    def _apart(self, row: int, came: CameOf) -> bool:
        """Whether an outcome's object balls lie otherwise than they were seen."""
        balls = came.balls or {}
        for column, ball in enumerate(self.played.samples.names):
            if ball == CUE:
                continue
            stays = self.played.samples.fates[row, column] == -1
            if stays != (ball in balls):
                return True
            if stays and math.dist(tuple(self.played.samples.places[row, column]), balls[ball]) > MOVED:
                return True
        return False

    def _moved_to(self, row: int, came: CameOf) -> float | None:
        """An outcome's value with the cue ball moved to where it stopped."""
        case = next(case for case in self.played.cases if row in case.rows)
        if case.after.winner is not None or case.after.in_hand is not None:
            return None
        balls = dict(left_by(self.layout, self.played.samples, row, case.after).balls)
        balls[CUE] = (came.balls or {})[CUE]
        return self._looked_at(balls, case.after)

    def _looked_at(self, balls: dict[str, tuple[float, float]], state: RackState) -> float | None:
        layout = Layout(self.layout.table, self.layout.discipline, balls)
        if any(ball not in balls for ball in state.balls) or first_overlap(layout):
            return None
        return self.value_to_me(state, answer_to(layout, state, self.outlook).value)
