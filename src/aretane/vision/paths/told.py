"""What is told of a shot's course: places of balls at times, and what happened."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from aretane.core.table import Point

STRAIGHT = 0.008  # m: a way that bends less is drawn straight


@dataclass(frozen=True)
class Mark:
    """A place of a ball's middle at a time, with its standard deviation (m)."""

    t: float
    place: Point
    sigma: float = math.nan


@dataclass(frozen=True)
class Event:
    """`kind`: strike, contact, rail, pocket, rest. `balls`: the one or two that it happened to; `at` the first
    ball's middle; `what` the rail's or pocket's name."""

    t: float
    kind: str
    balls: tuple[str, ...]
    at: Point
    what: str | None = None


def turns_of(marks: Sequence[Mark]) -> list[Mark]:
    """Those marks between which a ball ran straight on: enough to draw its way (Douglas and Peucker 1973)."""
    if len(marks) < 3:
        return list(marks)
    a, b = np.array(marks[0].place), np.array(marks[-1].place)
    way = np.array([mark.place for mark in marks]) - a
    length = float(np.linalg.norm(b - a))
    ahead = (b - a) / max(length, 1e-9)
    along = np.clip(way @ ahead, 0.0, length)[:, None] * ahead
    off = np.linalg.norm(way - along, axis=1)
    far = int(off.argmax())
    if off[far] < STRAIGHT:
        return [marks[0], marks[-1]]
    return [*turns_of(marks[: far + 1])[:-1], *turns_of(marks[far:])]


def marks_as_data(marks: Iterable[Mark]) -> list[list[float]]:
    """Time, place and standard deviation of each."""
    return [[round(m.t, 3), round(m.place[0], 4), round(m.place[1], 4), round(m.sigma, 4)] for m in marks]


def marks_from(data: Iterable[Sequence[float]]) -> tuple[Mark, ...]:
    return tuple(Mark(t, (x, y), sigma) for t, x, y, sigma in data)


def event_as_data(one: Event) -> dict[str, Any]:
    """An event as the command line gives it."""
    at = [round(one.at[0], 4), round(one.at[1], 4)]
    told = {"t": round(one.t, 3), "kind": one.kind, "balls": list(one.balls), "at": at}
    return told | ({one.kind: one.what} if one.what else {})


def event_from(data: Mapping[str, Any]) -> Event:
    x, y = data["at"]
    return Event(data["t"], data["kind"], tuple(data["balls"]), (x, y), data.get(data["kind"]))
