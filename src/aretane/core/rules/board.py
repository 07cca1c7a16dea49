"""The scoreboard of a rack: what is on, what is left, what a player still needs."""

from __future__ import annotations

from dataclasses import dataclass

from aretane.core.rules import blackball, eight_ball, snooker
from aretane.core.rules.disciplines import group_of
from aretane.core.rules.game import Options, RackState, opponent
from aretane.core.rules.traits import Traits, traits_of

_SPOKEN = {"red": "a red", "colour": "a colour"}


@dataclass(frozen=True)
class _Shown:
    """What a discipline's own scoreboard says."""

    on: str
    run: int
    left: int
    unit: str
    needs: dict[str, int | None]
    snookers: dict[str, int]


@dataclass(frozen=True)
class Board(_Shown):
    """`on` in words, `run` as it stands and what it is called, `left` balls or points on the table and in words,
    `needs` each player's balls or points to go (None where that says nothing), `snookers` required in snooker.
    `says` of each player, in the game's own terms, what he still needs and what he stands on; "" for nothing.
    `points`, `fouls` and `group` as they stand.
    """

    run_word: str
    left_words: str
    says: dict[str, str]
    points: dict[str, int]
    fouls: dict[str, int]
    group: dict[str, str | None]


def board(discipline: str, state: RackState, options: Options) -> Board:
    """What the scoreboard shows before the next entry."""
    shown, traits = _board(discipline, state, options), traits_of(discipline)
    words = {"points": "points left", "balls": "balls left"}.get(shown.unit, shown.unit)
    says = {player: _says(shown, traits, state, options, player) for player in ("A", "B")}
    return Board(
        **vars(shown), run_word=traits.scored, left_words=f"{shown.left} {words}", says=says,
        points=dict(state.points), fouls=dict(state.fouls), group=dict(state.group),
    )  # fmt: skip


def _says(shown: _Shown, traits: Traits, state: RackState, options: Options, player: str) -> str:
    group, snookers, left, fouls = (one[player] for one in (state.group, shown.snookers, shown.needs, state.fouls))
    counted = fouls and options.get("three_fouls")
    said = (
        group,
        f"needs {'a snooker' if snookers == 1 else f'{snookers} snookers'}" if snookers else None,
        traits.needs.format(left) if left else None,
        f"on {fouls} {'foul' if fouls == 1 else 'fouls'}" if counted else None,
    )
    return ", ".join(str(one) for one in said if one)


def _board(discipline: str, state: RackState, options: Options) -> _Shown:
    none: dict[str, int | None] = {"A": None, "B": None}
    quiet = {"A": 0, "B": 0}
    if discipline == "snooker":
        needs = {player: _to_win(state, player) for player in ("A", "B")}
        snookers = {player: snooker.snookers_required(state, player) for player in ("A", "B")}
        return _Shown(_snooker_on(state), state.run, snooker.remaining(state), "points", needs, snookers)
    left = len(state.balls)
    if discipline == "straight-pool":
        target = options.get("race_to")
        to_go = {p: max(0, target - state.points[p]) for p in ("A", "B")} if target else none
        return _Shown("any ball", state.run, left - 1 if left > 1 else left, "balls to the next rack", to_go, quiet)
    if discipline in ("eight-ball", "blackball"):
        return _Shown(
            _group_on(discipline, state), state.run, left, "balls", _balls_to_go(discipline, state), quiet
        )
    lowest = min(state.balls, key=int) if state.balls else "nothing"
    return _Shown(f"the {lowest}", state.run, left, "balls", none, quiet)


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
    return sum(group_of(discipline, ball) == state.group[player] for ball in state.balls)


def _balls_to_go(discipline: str, state: RackState) -> dict[str, int | None]:
    """Own balls and the last one."""
    return {
        player: _own_left(discipline, state, player) + 1 if state.group[player] else None for player in ("A", "B")
    }
