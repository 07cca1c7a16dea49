"""What came of a safety: did it hold, what did it leave, who won the exchange that it began."""

from __future__ import annotations

import math
from typing import Any

from aretane.core.review.strokes import ESCAPE, Played
from aretane.core.rules.game import opponent


def after_safety(one: Played, preceding: Played | None) -> dict[str, Any]:
    """`held`, `drew`, `away`, `exchange` of a lawful safety; nothing of any other stroke, or before an answer.
    `preceding`: the stroke before it in the rack."""
    following = one.following
    if not one.safe or one.ruling.fouls or following is None or following.player == one.player:
        return {}
    return {
        "held": not following.attacks,
        "drew": bool(following.ruling.fouls),
        "away": _away(following),
        "exchange": None if _answers(one, preceding) else _won(one),
    }


def _away(following: Played) -> float | None:
    """From the cue ball to the nearest ball that may be struck next, as the opponent found it; metres."""
    layout = following.shot.before
    if layout is None or layout.cue is None or following.before.in_hand:
        return None
    legal = following.ruling.legal_balls
    return min((math.dist(layout.cue, layout.balls[ball]) for ball in legal if ball in layout.balls), default=None)


def _defends(one: Played) -> bool:
    return one.safe or one.data.get("intent") == ESCAPE


def _answers(one: Played, preceding: Played | None) -> bool:
    """Whether it answers a safety of the opponent: the exchange began before."""
    return preceding is not None and preceding.player != one.player and _defends(preceding)


def _won(one: Played) -> bool | None:
    """Whether this player had the first attack after the exchange, or the other fouled; None: it had no end."""
    at: Played | None = one
    while at is not None and _defends(at):
        if at.ruling.fouls:
            return opponent(at.player) == one.player
        at = at.following
    return None if at is None else at.player == one.player
