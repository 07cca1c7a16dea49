"""Which ball is it: colours seen on the disc against what the set's balls look like, one ball one name.

Colour is a hint only. A striped ball shows more or less of its ivory as it lies, light has a colour of its own, and
some hues lie close together; so every name comes with a confidence.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.optimize import linear_sum_assignment

from aretane.core.ball import CUE
from aretane.vision.balls.appearance import Appearance, lightest
from aretane.vision.balls.ball_sets import MAKES, colour_of, is_striped
from aretane.vision.balls.markings import surprise
from aretane.vision.balls.order import out_of_turn

ROUNDS = 3  # of telling names and light in turn
FEW = 5  # coloured balls from which on the light can be told
PLAIN = (CUE, "8", "black")  # show nothing of the light's colour
WASHED = {"pink": 1.0}  # of cost for ivory: in full light some pale colours look like it
SHADED = 0.3  # of a disc: as much of a white ball may lie in shadow
OUT_OF_TURN = 0.8  # of cost: a ball is seen, and one that falls later is not
COLOURFUL = 0.15  # of a disc: less colour than that tells less
SPREAD = 0.55  # of the cost, for the confidence (fitted by eye on the synthetic recordings)


def names_for(looks: Sequence[Appearance], balls: Sequence[str]) -> dict[int, tuple[str, float]]:
    """Names and confidences (0 to 1) for balls that look like this, each name of `balls` once.

    More balls than names leave the ones that fit worst without one.
    """
    if not looks:
        return {}
    order = OUT_OF_TURN * out_of_turn(np.full(len(looks), len(balls) - len(looks), np.float64), balls)
    told = [_told(looks, balls, make, order) for make in makes_of(balls)]
    costs, rows, columns = min(told, key=lambda one: float(one[0][one[1], one[2]].sum()))
    found = {}
    for row, column in zip(rows, columns, strict=True):
        rivals = [costs[row, other] for other, name in enumerate(balls) if not same(name, balls[column])]
        margin = float(min(rivals) - costs[row, column]) if rivals else 1.0
        found[int(row)] = (balls[column], confidence(margin))
    return found


def makes_of(balls: Sequence[str]) -> tuple[str, ...]:
    """The makes that sets of these balls come in."""
    return MAKES if any(ball.isdigit() for ball in balls) else MAKES[:1]


def _told(
    looks: Sequence[Appearance], balls: Sequence[str], make: str, order: NDArray[np.float64]
) -> tuple[NDArray[np.float64], NDArray[np.int64], NDArray[np.int64]]:
    """The costs if the balls are of that make, beside those of the order in which they fall, and who is who at the
    least."""
    light = first_light(looks)
    for _ in range(ROUNDS):
        costs = costs_under(light, looks, balls, make) + order
        rows, columns = linear_sum_assignment(costs) if len(looks) <= len(balls) else _crowded(costs)
        told = {int(row): balls[column] for row, column in zip(rows, columns, strict=True)}
        light = light_of(looks, told, light, make)
    return costs, rows, columns


def confidence(margin: float) -> float:
    """In a name that costs so much less than the next best."""
    return float(1 / (1 + np.exp(-margin / SPREAD)))


def _crowded(costs: NDArray[np.float64]) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """More discs than balls: the ones that fit worst stay without a name."""
    columns, rows = linear_sum_assignment(costs.T)
    return rows, columns


def same(one: str, other: str) -> bool:
    """Whether it is the same ball, or one that the eye cannot tell from it at all: reds among themselves."""
    return one == other or ("-" in one and one.split("-")[0] == other.split("-")[0])


@lru_cache(maxsize=64)
def _lab(bgr: tuple[int, ...]) -> NDArray[np.float64]:
    pixel = np.array([[bgr]], np.float32) / 255.0
    return np.asarray(cv2.cvtColor(pixel, cv2.COLOR_BGR2LAB)[0, 0], np.float64)


@dataclass(frozen=True)
class Light:
    """How this recording shows colours: seen = scale x true + shift, in each channel of Lab."""

    scale: NDArray[np.float64]
    shift: NDArray[np.float64]

    def undone(self, colour: NDArray[np.float64]) -> NDArray[np.float64]:
        return np.asarray((colour - self.shift) / self.scale)


def first_light(looks: Sequence[Appearance]) -> Light:
    """How far the light's colour takes ivory off neutral: from the whitest ball, if one is white enough."""
    white = lightest(looks)
    off = np.zeros(2) if white is None else np.clip(white.colour[1:] - _lab(colour_of(CUE))[1:], -12, 12)
    return Light(np.ones(3), np.concatenate([[0.0], off]))


def light_of(looks: Sequence[Appearance], told: Mapping[int, str], before: Light, make: str) -> Light:
    """The light under which the balls told so look as they do: a line through seen and true colours, by weighted
    least squares with a pull towards what was thought before."""
    coloured = [
        (looks[index].colour, _lab(colour_of(name, make))) for index, name in told.items() if name not in PLAIN
    ]
    if len(coloured) < FEW:
        return before
    seen, true = (np.array(side) for side in zip(*coloured, strict=True))
    scale, shift = np.ones(3), np.zeros(3)
    for channel in range(3):
        spread = np.array([20.0, 40.0, 40.0])[channel]
        pull = np.array([[spread, 0.0], [0.0, 0.5]]) * np.sqrt(len(true)) * 0.5
        line = np.column_stack([true[:, channel], np.ones(len(true))])
        weight = np.ones(len(true))
        for _ in range(3):
            a = np.vstack([line * weight[:, None], pull])
            b = np.concatenate([seen[:, channel] * weight, pull @ [1.0, before.shift[channel]]])
            found = np.linalg.lstsq(a, b, rcond=None)[0]
            weight = 1 / np.maximum(1.0, np.abs(line @ found - seen[:, channel]) / 8.0)
        scale[channel], shift[channel] = found
    return Light(np.clip(scale, 0.5, 1.6), np.clip(shift, -18.0, 18.0))


def cue_cost(look: Appearance) -> float:
    """How unlike the cue ball it looks; a little black on it is its own shadow."""
    return 8.0 * max(0.0, 0.92 - look.ivory - 0.6 * min(look.dark, SHADED))


def costs_under(light: Light, looks: Sequence[Appearance], balls: Sequence[str], make: str) -> NDArray[np.float64]:
    """How unlike each of the balls (columns) each look is (rows), in units of about one standard deviation."""
    return np.array([[_cost(look, ball, light, make) for ball in balls] for look in looks])


def _cost(look: Appearance, ball: str, light: Light, make: str) -> float:
    wanted = _lab(colour_of(ball, make))
    if ball == CUE:
        return cue_cost(look)
    if ball in ("8", "black"):
        return 5.0 * max(0.0, 0.6 - look.dark) + 6.0 * look.coloured
    colour = light.undone(look.colour)
    chroma, hue_off = _hue_off(colour, wanted)
    off = hue_off + 0.6 * abs(colour[0] - wanted[0]) / 22.0 + abs(np.hypot(*wanted[1:]) - chroma) / 34.0
    told = min(1.0, look.coloured / COLOURFUL)
    ivory = surprise(look.ivory, is_striped(ball)) if ball.isdigit() else WASHED.get(ball, 6.0) * look.ivory
    return float(told * off + (1 - told) * 2.0 + ivory + 5.0 * max(0.0, look.dark - 0.3))


def _hue_off(colour: NDArray[np.float64], wanted: NDArray[np.float64]) -> tuple[float, float]:
    """Chroma, and the distance round the colour circle in units of 14 degrees: less where colour is weak."""
    chroma = float(np.hypot(colour[1], colour[2]))
    own = float(np.hypot(wanted[1], wanted[2]))
    angle = np.arctan2(colour[2], colour[1]) - np.arctan2(wanted[2], wanted[1])
    off = abs(float(np.angle(np.exp(1j * angle))))
    return chroma, off / np.radians(14.0) * min(1.0, min(chroma, own) / 20.0)
