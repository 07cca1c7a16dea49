"""What a ball's disc shows: how much of it is ivory, how much black, and the colour of the rest."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from aretane.vision.balls.candidates import Candidate
from aretane.vision.table.sight import Still

Pixels = NDArray[np.float64]

INSIDE, BLURRED = 0.92, 0.8  # of the radius, less so many pixels: the rim mixes with the cloth
LEAST = 0.55  # of the radius is looked at in any case
LIT = 0.4  # of the radius below the centre: farther down a ball lies in its own shadow and mirrors the cloth
BEFORE = 1.04  # radii: what a nearer ball covers
FEWEST = 4  # pixels
SHINE, PALE = 90.0, 14.0  # lightness and chroma of a lamp's image
VIVID, BASE, FAINT = 0.27, 4.0, 11.0  # chroma beside lightness, and at least, of a coloured pixel
DARK = 42.0  # lightness below which what has no colour is black
SOME = 0.08  # of a disc: less colour is chance
WHITE = np.array([88.0, 0.0, 5.0])  # Lab of a clean cue ball in full light
LIGHTER = (0.85, 1.25)  # how much darker or lighter than that a picture may be taken to be
UNEVEN = (0.7, 1.5)  # how uneven the light over a table may be
PALEST, CREAM = 38.0, 0.42  # lightness, and chroma beside it, of what may be white here
COLOURS = np.array([30.0, 14.0, 14.0])  # units of Lab in which colours differ


@dataclass(frozen=True)
class Appearance:
    """The shares of ivory and of black; what is left is coloured. `colour` (Lab) is the median of that, or of all
    where there is none."""

    ivory: float
    dark: float
    colour: NDArray[np.float64]

    @property
    def coloured(self) -> float:
        return max(0.0, 1.0 - self.ivory - self.dark)


NOTHING = Appearance(0.0, 0.0, np.array([50.0, 0.0, 0.0]))


def mean_of(looks: Sequence[Appearance]) -> Appearance:
    """What a ball looks like over several looks, from whatever side."""
    told = [one.colour for one in looks if one.coloured > SOME] or [one.colour for one in looks]
    return Appearance(
        float(np.mean([one.ivory for one in looks])),
        float(np.mean([one.dark for one in looks])),
        np.median(told, axis=0),
    )


def unlikeness(looks: Sequence[Appearance]) -> NDArray[np.float64]:
    """How unlike each two balls are: 0 for the same, about 1 for a doubt, more for two balls."""
    colours, ivory, dark, coloured = (
        np.array([getattr(one, part) for one in looks]) for part in ("colour", "ivory", "dark", "coloured")
    )
    told = np.minimum(1.0, np.minimum.outer(coloured, coloured) / (2 * SOME))
    colour = told * np.linalg.norm((colours[:, None] - colours) / COLOURS, axis=2)
    shares = np.hypot(np.subtract.outer(ivory, ivory) / 0.4, np.subtract.outer(dark, dark) / 0.3)
    return np.asarray(np.hypot(colour, shares))


def appearances(still: Still, found: Sequence[Candidate]) -> list[Appearance]:
    """Of every ball, by what nearer ones leave to be seen, beside what is white here."""
    usual = float(np.median(still.cloth.colour[still.bed.samples][:, 0])) if len(still.bed.samples[0]) else 0.0
    pixels = [
        _pixels(still, one, [other for other in found if _before(other, one)]) * _light_at(still, one, usual)
        for one in found
    ]
    white = white_among(pixels)
    return [_shares(own, white) if len(own) else NOTHING for own in pixels]


def _light_at(still: Still, one: Candidate, usual: float) -> float:
    """How much lighter a ball would be in the middle of the table's light: as its cloth would."""
    v, u = (int(n) for n in np.round(np.array(one.pixel) - still.bed.corner)[::-1])
    height, width = still.bed.cloth.shape
    here = float(still.cloth.colour[min(max(v, 0), height - 1), min(max(u, 0), width - 1), 0])
    return float(np.clip(usual / here, *UNEVEN)) if here > 1.0 else 1.0


def white_among(pixels: Sequence[Pixels]) -> Pixels:
    """The Lab colour of the whitest of some balls (each n x 3): an old cue ball in warm light is cream, and white
    all the same. Without one that is nearly white, white itself."""
    middles = [np.median(own, axis=0) for own in pixels if len(own)]
    pale = [one for one in middles if one[0] > PALEST and np.hypot(one[1], one[2]) < CREAM * one[0]]
    if not pale:
        return WHITE
    return np.asarray(min(pale, key=lambda one: float(np.hypot(one[1], one[2]) / one[0] - one[0] / 100)))


def _before(other: Candidate, one: Candidate) -> bool:
    """Whether another ball is nearer to the camera and may hide some of one."""
    return other.radius > one.radius and math.dist(other.pixel, one.pixel) < BEFORE * other.radius + 2 * one.radius


def _pixels(still: Still, one: Candidate, nearer: Sequence[Candidate]) -> Pixels:
    """What of a ball is looked at, n x 3."""
    u, v = np.array(one.pixel) - still.bed.corner
    reach = max(1, int(np.ceil(one.radius)))
    x0, y0 = max(0, int(u) - reach), max(0, int(v) - reach)
    part = still.colours[y0 : int(v) + reach + 2, x0 : int(u) + reach + 2]
    rows, columns = np.mgrid[y0 : y0 + part.shape[0], x0 : x0 + part.shape[1]]
    inside = max(LEAST * one.radius, INSIDE * one.radius - BLURRED)
    near = (np.hypot(columns - u, rows - v) < max(1.2, inside)) & (rows - v < LIT * one.radius)
    free = near.copy()
    for other in nearer:
        x, y = np.array(other.pixel) - still.bed.corner
        free &= np.hypot(columns - x, rows - y) > BEFORE * other.radius
    return np.asarray(part[free if free.sum() >= FEWEST else near].astype(np.float64))


def _shares(pixels: Pixels, white: Pixels = WHITE) -> Appearance:
    seen = beside(pixels, white)
    light, chroma = seen[:, 0], np.hypot(seen[:, 1], seen[:, 2])
    plain = ~((light > SHINE) & (chroma < PALE))
    white_all = plain.sum() < max(2, 0.25 * len(pixels))  # a white ball in full light
    kept = seen if white_all else seen[plain]
    light, chroma = (light, chroma) if white_all else (light[plain], chroma[plain])
    coloured = chroma > np.maximum(FAINT, VIVID * (light + BASE))
    dark = ~coloured & (light < DARK * min(1.0, float(white[0]) * _lighter(white) / float(WHITE[0])))
    some = kept[coloured] if coloured.mean() > SOME else kept
    return Appearance(float((~coloured & ~dark).mean()), float(dark.mean()), np.median(some, axis=0))


def _lighter(white: Pixels) -> float:
    return float(np.clip(WHITE[0] / white[0], *LIGHTER))


def beside(pixels: Pixels, white: Pixels) -> Pixels:
    """Colours as they would be if what is white here were white: its tint is taken away in proportion to light."""
    share = pixels[:, :1] / max(1.0, float(white[0]))
    return np.column_stack([pixels[:, 0] * _lighter(white), pixels[:, 1:] - share * (white[1:] - WHITE[1:])])


def lightest(looks: Sequence[Appearance]) -> Appearance | None:
    """The whitest ball, if one is white all over."""
    whitest = max(looks, key=lambda look: look.ivory, default=None)
    return whitest if whitest is not None and whitest.ivory > 0.9 else None
