"""Which ball is it: colours seen on the disc against what the set's balls look like, one ball one name.

Colour is a hint only. A striped ball shows more or less of its ivory as it lies, light has a colour of its own, and
some hues lie close together; so every name comes with a confidence.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.optimize import linear_sum_assignment

from aretane.core.ball import CUE
from aretane.vision.balls import Candidate
from aretane.vision.ball_sets import BALL_SETS, colour_of, is_striped
from aretane.vision.sight import Still

INSIDE = 0.82  # of the radius: the rim mixes with the cloth
SHINE = 92.0  # lightness of a specular light
PALE = 24.0  # chroma below which a bright pixel is ivory
WHITE = 58.0  # lightness above which a pale pixel is ivory
SPREAD = 0.55  # of the cost, for the confidence (fitted by eye on the synthetic recordings)


@dataclass(frozen=True)
class Appearance:
    """What a disc shows: the share of ivory and of dark pixels, and the median colour (Lab) of the rest."""

    ivory: float
    dark: float
    colour: NDArray[np.float64]


def mean_of(looks: Sequence[Appearance]) -> Appearance:
    """What a ball looks like over several looks, from whatever side."""
    return Appearance(
        float(np.mean([one.ivory for one in looks])),
        float(np.mean([one.dark for one in looks])),
        np.median([one.colour for one in looks], axis=0),
    )


def unlikeness(one: Sequence[Appearance], other: Sequence[Appearance]) -> float:
    """How unlike two balls are: 0 for the same, about 1 for a doubt, more for two balls."""
    a, b = mean_of(one), mean_of(other)
    colour = (a.colour - b.colour) / [30.0, 14.0, 14.0]
    return float(np.hypot(np.linalg.norm(colour), (a.ivory - b.ivory) / 0.3))


@dataclass(frozen=True)
class Named:
    """A candidate with its name. `confidence` is 0 to 1."""

    ball: str
    confidence: float
    candidate: Candidate


def name_balls(still: Still, found: Sequence[Candidate], ball_set: str) -> list[Named]:
    """Give each candidate a name of the set, every name once (reds and yellows as often as there are)."""
    if not found:
        return []
    names = BALL_SETS[ball_set]
    seen = [appearance(still, one) for one in found]
    gain = _white_balance(seen)
    costs = np.array([[_cost(look, name, gain, ball_set) for name in names] for look in seen])
    rows, columns = linear_sum_assignment(costs) if len(found) <= len(names) else _crowded(costs)
    named = []
    for row, column in zip(rows, columns, strict=True):
        rival = min(
            (costs[row, other] for other in range(len(names)) if not _same(names[other], names[column])),
            default=costs[row, column] + 1,
        )
        margin = float(rival - costs[row, column])
        named.append(Named(names[column], float(1 / (1 + np.exp(-margin / SPREAD))), found[row]))
    return named


def _crowded(costs: NDArray[np.float64]) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """More discs than balls: the ones that fit worst stay without a name."""
    columns, rows = linear_sum_assignment(costs.T)
    return rows, columns


def _same(one: str, other: str) -> bool:
    """Whether it is the same ball, or one that the eye cannot tell from it at all: reds among themselves."""
    return one == other or ("-" in one and one.split("-")[0] == other.split("-")[0])


def appearance(still: Still, one: Candidate) -> Appearance:
    """The lit pixels well inside the disc, without its specular light."""
    u, v = np.array(one.pixel) - still.bed.corner
    reach = max(1, int(np.ceil(one.radius)))
    x0, y0 = max(0, int(u) - reach), max(0, int(v) - reach)
    part = still.colours[y0 : int(v) + reach + 2, x0 : int(u) + reach + 2]
    rows, columns = np.mgrid[y0 : y0 + part.shape[0], x0 : x0 + part.shape[1]]
    near = np.hypot(columns - u, rows - v) < max(1.2, INSIDE * one.radius)
    pixels = part[near].astype(np.float64)
    if len(pixels) == 0:
        return Appearance(0.0, 0.0, np.array([50.0, 0.0, 0.0]))
    pixels = pixels[pixels[:, 0] >= np.percentile(pixels[:, 0], 35)]  # the shaded side has lost its colour
    chroma = np.hypot(pixels[:, 1], pixels[:, 2])
    shine = (pixels[:, 0] > SHINE) & (chroma < PALE / 2)
    ivory = (pixels[:, 0] > WHITE) & (chroma < PALE)
    dark = (pixels[:, 0] < 22) & (chroma < PALE)
    rest = pixels[~ivory & ~shine]
    if len(rest) < max(3, 0.08 * len(pixels)):
        rest = pixels
    return Appearance(float(ivory.mean()), float(dark.mean()), np.median(rest, axis=0))


def _white_balance(seen: Sequence[Appearance]) -> NDArray[np.float64]:
    """How far the light's colour takes ivory off neutral (a, b): from the whitest ball, if one is white enough."""
    whitest = max(seen, key=lambda look: look.ivory)
    if whitest.ivory < 0.6:
        return np.zeros(2)
    return np.clip(whitest.colour[1:] - _lab(colour_of(CUE))[1:], -12, 12)


def _lab(bgr: tuple[int, ...]) -> NDArray[np.float64]:
    pixel = np.array([[bgr]], np.float32) / 255.0
    return np.asarray(cv2.cvtColor(pixel, cv2.COLOR_BGR2LAB)[0, 0], np.float64)


def _cost(look: Appearance, ball: str, gain: NDArray[np.float64], ball_set: str) -> float:
    """How unlike the ball it looks, in units of about one standard deviation each."""
    wanted = _lab(colour_of(ball))
    if ball == CUE:
        return 6.0 * max(0.0, 0.8 - look.ivory) + 0.02 * float(np.linalg.norm(look.colour[1:] - gain))
    colour = look.colour - np.array([0.0, *gain])
    chroma, hue_off = _hue_off(colour, wanted)
    lightness = abs(colour[0] - wanted[0]) / 22.0
    cost = hue_off + 0.6 * lightness + abs(np.hypot(*wanted[1:]) - chroma) / 34.0
    if ball in ("8", "black"):
        cost = 2.2 * max(0.0, 0.5 - look.dark) + chroma / 18.0 + max(0.0, colour[0] - 30) / 14.0
    if ball_set == "pool":
        expected = 0.5 if is_striped(ball) else 0.1
        cost += 2.4 * max(0.0, abs(look.ivory - expected) - (0.22 if is_striped(ball) else 0.14))
        if look.ivory > 0.85:
            cost += 2.0
    return float(cost)


def _hue_off(colour: NDArray[np.float64], wanted: NDArray[np.float64]) -> tuple[float, float]:
    """Chroma, and the distance round the colour circle in units of 14 degrees: less where colour is weak."""
    chroma = float(np.hypot(colour[1], colour[2]))
    own = float(np.hypot(wanted[1], wanted[2]))
    angle = np.arctan2(colour[2], colour[1]) - np.arctan2(wanted[2], wanted[1])
    off = abs(float(np.angle(np.exp(1j * angle))))
    return chroma, off / np.radians(14.0) * min(1.0, min(chroma, own) / 20.0)
