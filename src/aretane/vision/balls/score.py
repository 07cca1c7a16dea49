"""The chance that a ball stands at a place, by what the picture shows there.

A network of one hidden layer weighs what `outline.agreement` measures; `learning` finds its weights (`score.json`)
on synthetic recordings. It sees numbers about outlines only, never a picture: little can be learnt by heart.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Table
from aretane.vision.balls.outline import Agreement
from aretane.vision.table.cloth import Array

INPUTS = (
    "full", "dimmest", "edged", "free", "around", "inner", "person", "visible", "unlike", "faint", "shine",
    "stepped", "under", "limb",
)  # fmt: skip
FILE = Path(__file__).with_name("score.json")


@dataclass(frozen=True)
class Network:
    """`hidden` (units x (1 + inputs)) and `last` (1 + units), each with its constant first."""

    hidden: NDArray[np.float64]
    last: NDArray[np.float64]

    def chances(self, inputs: Array) -> Array:
        """For n cases (n x inputs)."""
        units = np.tanh(inputs @ self.hidden[:, 1:].T + self.hidden[:, 0])
        return np.asarray(1 / (1 + np.exp(-(units @ self.last[1:] + self.last[0]))), np.float32)


@lru_cache(maxsize=1)
def _network() -> Network:
    told = json.loads(FILE.read_bytes())
    return Network(np.array(told["hidden"]), np.array(told["last"]))


def at_mouth(places: NDArray[np.float64], table: Table) -> Array:
    """How near to a pocket places (n x 2) are: 1 at the hole's edge, 0 from a ball's diameter away on."""
    away = np.full(len(places), np.inf)
    for pocket in table.pockets.values():
        half = pocket.mouth_width / 2
        middle = np.array(pocket.drop) + half * np.array(pocket.axis)
        away = np.minimum(away, np.linalg.norm(places - middle, axis=1) - half)
    return np.asarray(np.clip(1 - away / table.ball_diameter, 0.0, 1.0), np.float32)


def inputs_of(seen: Agreement, shine: Array, mouth: Array) -> Array:
    """What is weighed, n x inputs: `shine` is how the lamp shines there (`lamps.lit`), `mouth` how near a pocket
    is, whose liner may look like a ball."""
    return np.column_stack([*(getattr(seen, name) for name in INPUTS), shine, mouth])


def score(seen: Agreement, shine: Array, mouth: Array) -> Array:
    """The chances that balls stand at n places."""
    return _network().chances(inputs_of(seen, shine, mouth))
