"""A choice at the table and what it is worth."""

from __future__ import annotations

from dataclasses import dataclass

from aretane.core.physics.stroke import Stroke
from aretane.core.planning.choices.value import Value
from aretane.core.skill.reach import Reach

ATTACK = ("attack", "two-way")
FOULS_ON_PURPOSE = ("tie-up", "deny")  # as they are computed
SAFE = ("safety", "containing", "escape", *FOULS_ON_PURPOSE)


@dataclass(frozen=True)
class Option:
    """A choice. `ball` in `pocket` is meant, or nothing; `struck` is hit first; `path` is the cue ball's way
    when nothing goes wrong, `route` names its rails, `run` is how far it goes after the first ball (m), and
    `moves` are the balls it moves besides the one that is meant. `variations`: other strokes of the same idea.
    """

    kind: str
    also: tuple[str, ...]
    intent: str
    ball: str | None
    pocket: str | None
    stroke: Stroke
    value: Value
    reach: Reach
    fraction: float | None
    struck: str | None
    path: tuple[tuple[float, float], ...]
    route: str = "no rail"
    rails: int = 0
    run: float = 0.0
    moves: tuple[str, ...] = ()
    why: str = ""
    variations: tuple[Option, ...] = ()

    @property
    def win(self) -> float:
        return float(self.value.win.p or 0.0)


@dataclass(frozen=True)
class Options:
    """All choices, best first. `break_even_pot`: from which pot on the best attack beats the best safety.
    `horizon`: how far values look ahead; `points`: they are points, in frames chances unless `alone`.
    """

    options: tuple[Option, ...]
    best_attack: int | None
    best_safety: int | None
    break_even_pot: float | None
    horizon: str
    points: bool
    alone: bool = False
