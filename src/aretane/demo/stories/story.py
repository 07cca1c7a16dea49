"""A match told line by line, from which `make` finds strokes that do what the lines say.

One line an entry: the player, what happened, its particulars, causes in brackets, the coach's note after ``--``:

``break 3,6`` these balls fall (``-`` none, ``any`` some, not the money ball; ``scratch``), ``pot``, ``pot black``,
``run 4`` or ``run red black red`` several pots, ``bank``, ``miss thick|thin|jaw``, ``safe``, ``kick``,
``kick no-rail|no-hit|wrong`` (fouls), ``scratch`` (ball made, cue ball lost), ``in-off`` (cue ball lost alone),
``combo 9``, ``combo-scratch 9``, ``fluke 7``, ``wrong-pocket``, ``push-out``, and the choices ``accept``,
``pass-back``, ``re-rack``, ``re-break``, ``play-again``.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any


@dataclass(frozen=True)
class Story:
    """`racks` are lines; by rack number `conceded_by` says who gave it up at the end and `plans` which orders were
    laid down. With `open_end` the last line need not win."""

    discipline: str
    title: str
    date: str
    players: Mapping[str, str]
    racks: Sequence[Sequence[str]]
    race_to: int
    table: str = "pool-9ft"
    rules: Mapping[str, Any] = field(default_factory=dict)
    start: Mapping[str, Any] = field(default_factory=dict)
    conceded_by: Mapping[int, str] = field(default_factory=dict)
    notes: Mapping[int, str] = field(default_factory=dict)
    plans: Mapping[int, Sequence[Mapping[str, Any]]] = field(default_factory=dict)
    recorded: int | None = None
    open_end: bool = False
