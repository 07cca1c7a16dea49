"""A match as it is shown: its facts, and everything that follows from them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict
from typing import Any

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.layout import Layout
from aretane.core.review import visits as visiting
from aretane.core.review.leave import leave_of
from aretane.core.review.partners import who_played, who_plays_next
from aretane.core.review.replay import Replay, ReplayedShot, first_places, replay
from aretane.core.review.shot_figures import cue_error, object_errors, result_of
from aretane.core.rules.board import board
from aretane.core.rules.disciplines import rules_of
from aretane.core.rules.game import BREAK, CHOICES, RackState
from aretane.core.rules.referee import RackResult, ruling_as_data
from aretane.desk.table_view import table_as_answer
from aretane.store.games import Fact, Match


def game_as_data(
    game: Match, replayed: Replay, known: Mapping[str, Any] | None = None, since: int = 0
) -> dict[str, Any]:
    """A match with everything that follows from its facts. `known` is the same of a match with other racks from
    `since` on."""
    match = game.as_document()
    result = replayed.result
    names = who_played(match)
    played = visiting.visits(replayed)
    fresh = first_places(match, replayed.table, {})
    return {
        "id": game.id,
        "last_change": game.last_change,
        "header": game.header.document,
        "table": table_as_answer(replayed.table),
        "balls": balls_of(replayed),
        "rules": dict(result.options),
        "fresh": {"balls": dict(fresh), "player": result.breaker, "ball_in_hand": "in-d"} if fresh else None,
        "opening": None if match["racks"] else _opening(match),
        "next_breaker": result.breaker,
        "next_person": who_plays_next(match),
        "score": dict(result.score),
        "sets": dict(result.sets),
        "winner": result.winner,
        "visits": [dict(vars(visit)) for visit in played],
        "visit_figures": {player: asdict(visiting.figures(played, player)) for player in ("A", "B")},
        "racks": [
            *(known["racks"][:since] if known else ()),
            *(_rack(game, number, replayed, names[number]) for number in range(since, len(game.racks))),
        ],
        "trouble": [{"rack": t.rack, "shot": t.shot, "message": t.message} for t in result.trouble],
    }


def _opening(match: dict[str, Any]) -> dict[str, Any] | None:
    """What the first entry of a match starts from, which may be the middle of a rack."""
    replayed = replay({**match, "racks": [{"shots": []}]})
    return _next_up(replayed, replayed.result.racks[0], ())


def balls_of(replayed: Replay) -> list[str]:
    """The cue ball and the object balls that this match is played with (fewer reds in a short frame)."""
    reds = replayed.result.options.get("reds")
    left_out = {f"red-{n}" for n in range(int(reds) + 1, 16)} if reds else set()
    return [CUE, *(ball for ball in OBJECT_BALLS[replayed.discipline] if ball not in left_out)]


def _rack(game: Match, number: int, replayed: Replay, names: list[str | None]) -> dict[str, Any]:
    rack, shots = game.racks[number]
    result = replayed.result.racks[number]
    entries = replayed.racks[number]
    return {
        "id": rack.id,
        "seat": rack.seat,
        "document": rack.document,
        "breaker": result.breaker,
        "winner": result.winner,
        "score": dict(result.score),
        "sets": dict(result.sets),
        "over": result.over,
        "next_up": _next_up(replayed, result, entries),
        "shots": [
            {
                **_shot(shot, entry, entries[index + 1] if index + 1 < len(entries) else None),
                "person": names[index],
                "board": _board_before(replayed, result, index),
                "state": _state_before(result, index),
            }
            for index, (shot, entry) in enumerate(zip(shots, entries, strict=True))
        ],
    }


def _board_before(replayed: Replay, result: RackResult, index: int) -> dict[str, Any] | None:
    if index > len(result.rulings):
        return None  # after an impossible entry
    return _board(replayed, result.rulings[index - 1].after if index else result.begins)


def _state_before(result: RackResult, index: int) -> dict[str, Any] | None:
    if index > len(result.rulings):
        return None
    return _state(result.rulings[index - 1].after if index else result.begins)


def _state(state: RackState) -> dict[str, Any] | None:
    """What a layout's `state` says of it; None before a break, which is not valued."""
    if state.phase == BREAK or state.winner is not None:
        return None
    return {
        "player": state.player,
        "ball_in_hand": state.in_hand or False,
        "group": state.group[state.player],
        "on": state.on,
        "push_out_allowed": "push-out" in state.choices,
        "answering": "pass-back" in state.choices,
        "fouls": dict(state.fouls),
        "points": dict(state.points),
    }


def _board(replayed: Replay, state: RackState) -> dict[str, Any]:
    return dict(vars(board(replayed.discipline, state, replayed.result.options)))


def _next_up(replayed: Replay, result: RackResult, entries: tuple[ReplayedShot, ...]) -> dict[str, Any] | None:
    if result.over:
        return None
    state = result.state
    rules = rules_of(replayed.discipline)
    return {
        "player": state.player,
        "in_hand": state.in_hand,
        "choices": list(state.choices),
        "legal_balls": list(rules.legal_balls(state)),
        "phase": state.phase,
        "balls": list(state.balls),
        "free_shot": state.free_shot,
        "visits": state.visits,
        "board": _board(replayed, state),
        "state": _state(state),
        "before": _layout(entries[-1].after) if entries else None,
    }


def _shot(shot: Fact, entry: ReplayedShot, following: ReplayedShot | None) -> dict[str, Any]:
    stroke = entry.data.get("declared") not in CHOICES and not entry.data.get("hole")
    error = cue_error(entry, following) if stroke else None
    return {
        "id": shot.id,
        "seat": shot.seat,
        "document": shot.document,
        "ruling": ruling_as_data(entry.ruling) if entry.ruling else None,
        "before": _layout(entry.before),
        "after": _layout(entry.after),
        "leaves": _left(entry) if stroke else None,
        "result": result_of(entry.data, entry.ruling.foul if entry.ruling else None) if stroke else None,
        "error": error,
        "object_errors": object_errors(entry),
    }


def _left(entry: ReplayedShot) -> str | None:
    """What the other player finds; None while the same plays on, or has the cue ball in hand."""
    ruling = entry.ruling
    if ruling is None or entry.after is None or ruling.after.in_hand:
        return None
    if ruling.next in (None, entry.data.get("player")):
        return None
    return leave_of(entry.after, rules_of(entry.after.discipline).legal_balls(ruling.after))


def _layout(layout: Layout | None) -> dict[str, Any] | None:
    if layout is None:
        return None
    state = layout.state
    return {"balls": dict(layout.balls), "player": state.player, "ball_in_hand": state.ball_in_hand}
