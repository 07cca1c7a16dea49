"""The scoreboard of a rack: what is on, what is left, what a player still needs."""

from __future__ import annotations

from dataclasses import dataclass

from aretane.core.rules import blackball, eight_ball, snooker
from aretane.core.rules.game import Options, RackState, opponent

_SPOKEN = {"red": "a red", "colour": "a colour"}


@dataclass(frozen=True)
class Board:
    """`on` in words, `points` and `run` as they stand, `left` balls or points on the table, `needs` each player's
    balls or points to go (None where that says nothing), `snookers` required in snooker.
    """

    on: str
    run: int
    left: int
    unit: str
    needs: dict[str, int | None]
    snookers: dict[str, int]


def board(discipline: str, state: RackState, options: Options) -> Board:
    """What the scoreboard shows before the next entry."""
    none: dict[str, int | None] = {"A": None, "B": None}
    quiet = {"A": 0, "B": 0}
    if discipline == "snooker":
        needs = {player: _to_win(state, player) for player in ("A", "B")}
        snookers = {player: snooker.snookers_required(state, player) for player in ("A", "B")}
        return Board(_snooker_on(state), state.run, snooker.remaining(state), "points", needs, snookers)
    left = len(state.balls)
    if discipline == "straight-pool":
        target = options.get("race_to")
        to_go = {p: max(0, target - state.points[p]) for p in ("A", "B")} if target else none
        return Board("any ball", state.run, left - 1 if left > 1 else left, "balls to the next rack", to_go, quiet)
    if discipline in ("eight-ball", "blackball"):
        return Board(_group_on(discipline, state), state.run, left, "balls", _balls_to_go(discipline, state), quiet)
    lowest = min(state.balls, key=int) if state.balls else "nothing"
    return Board(f"the {lowest}", state.run, left, "balls", none, quiet)


def _snooker_on(state: RackState) -> str:
    on = state.on or "nothing"
    return _SPOKEN.get(on, f"the {on}")


def _to_win(state: RackState, player: str) -> int | None:
    """Points to be ahead with everything that is left counted for the other side: the frame is safe with these."""
    behind = state.points[opponent(player)] - state.points[player]
    to_safety = (behind + snooker.remaining(state)) // 2 + 1
    return max(0, to_safety) if snooker.snookers_required(state, player) == 0 else None


def _group_on(discipline: str, state: RackState) -> str:
    group = state.group[state.player]
    money = eight_ball.EIGHT if discipline == "eight-ball" else blackball.BLACK
    if state.phase == "break":
        return "the break"
    if group is None:
        return "an open table"
    own = _own_left(discipline, state, state.player)
    return group if own else f"the {'black' if money == 'black' else 'eight'}"


def _own_left(discipline: str, state: RackState, player: str) -> int:
    group_of = eight_ball.group_of if discipline == "eight-ball" else blackball.group_of
    return sum(group_of(ball) == state.group[player] for ball in state.balls)


def _balls_to_go(discipline: str, state: RackState) -> dict[str, int | None]:
    """Own balls and the last one."""
    return {
        player: _own_left(discipline, state, player) + 1 if state.group[player] else None for player in ("A", "B")
    }
