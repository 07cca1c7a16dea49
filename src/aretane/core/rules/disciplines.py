"""The disciplines by name, and what reading a table needs of them."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from aretane.core.errors import InputError
from aretane.core.layout import Layout
from aretane.core.rules import blackball, eight_ball
from aretane.core.rules.blackball import Blackball
from aretane.core.rules.eight_ball import EightBall
from aretane.core.rules.game import Discipline, Masks
from aretane.core.rules.nine_ball import NINE_BALL
from aretane.core.rules.options import with_defaults
from aretane.core.rules.snooker import Snooker
from aretane.core.rules.straight_pool import StraightPool
from aretane.core.rules.ten_ball import TEN_BALL

RULES: dict[str, Discipline] = {
    rules.name: rules for rules in (NINE_BALL, TEN_BALL, EightBall(), Blackball(), StraightPool(), Snooker())
}

_GROUPS = {EightBall.name: eight_ball.group_of, Blackball.name: blackball.group_of}


def rules_of(name: str) -> Discipline:
    """The rules of a discipline, or `InputError` if there is none of that name."""
    if name not in RULES:
        raise InputError("discipline", f"unknown discipline {name!r}; known are {', '.join(RULES)}")
    return RULES[name]


def legal_first(layout: Layout, options: Mapping[str, Any] | None = None) -> tuple[str, ...]:
    """Balls that may lawfully be struck first from this layout; with a free ball that one too."""
    rules = rules_of(layout.discipline)
    found = rules.legal_balls(rules.resume(layout, with_defaults(rules.name, options or {})))
    free = layout.state.free_ball
    return (*found, free) if free in layout.object_balls and free not in found else found


def masks(layout: Layout, options: Mapping[str, Any] | None = None) -> Masks:
    """The rules for simulated shots from this layout."""
    rules = rules_of(layout.discipline)
    complete = with_defaults(rules.name, options or {})
    return rules.masks(rules.resume(layout, complete), complete)


def group_of(discipline: str, ball: str) -> str | None:
    """The group of an object ball; None for the ball that is played last, and in games without groups."""
    return _GROUPS[discipline](ball) if discipline in _GROUPS else None
