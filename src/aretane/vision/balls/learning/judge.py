"""What the network that judges patches learns: whether a ball is there, where its middle is and how much of it is
to be seen.

Every centre that the search would try is a case, and some around the balls and at random; alone, and with some of
the balls beside it known; and lonely balls as they look while they run.
"""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from numpy.typing import NDArray

from aretane.vision.balls.candidates import candidates_at, explained
from aretane.vision.balls.finding import centres_in, neighbours
from aretane.vision.balls.learning.fitting import Cases, Task
from aretane.vision.balls.learning.pictures import LEAST, Shown, radii_at, seen_of
from aretane.vision.balls.patches import patches
from aretane.vision.table.camera import places_at
from aretane.vision.table.cloth import Array
from aretane.vision.table.sight import Still, prepare

HERE, THERE = 0.5, 0.9  # ball radii: nearer than the one a ball is there, farther than the other there is none
WAYS = 3  # in which some balls are known beforehand
AT_RANDOM, ABOUT = 14, 4  # places tried anywhere, and about each ball
WHOLE, LONELY = 0.95, 4.5  # of a ball is to be seen, and radii to the next, that it may be shown running
FASTEST = 3.0  # radii that it runs while the picture is taken


def cases_of(shown: Shown, dice: np.random.Generator) -> Cases:
    """What is to be told apart in a picture: whether a ball is there (0, 1, or -1: either may be said), its middle
    beside the patch's in radii (2), the share of it to be seen, and how much that counts."""
    table, camera = shown.table, shown.camera
    still = prepare(shown.picture, table, camera)
    balls = candidates_at([one.place for one in shown.balls], [1.0] * len(shown.balls), table, camera)
    middles = np.array([one.pixel for one in balls]) - still.bed.corner
    radii = np.array([one.radius for one in balls])
    seen = seen_of(shown, still, middles, radii)
    wrong = dice.normal(0, 0.4, (ABOUT * len(balls), 2)) * np.repeat(radii, ABOUT)[:, None]
    inside = np.column_stack(np.nonzero(still.bed.seen))[:, ::-1]
    anywhere = inside[dice.integers(0, max(1, len(inside)), AT_RANDOM)]
    beside = neighbours(balls, still, table, camera)
    starts = np.vstack([centres_in(still), beside, np.repeat(middles, ABOUT, axis=0) + wrong, anywhere])
    places = places_at(camera, starts + still.bed.corner, table.radius)
    fine = np.all(np.isfinite(places), axis=1)
    fine &= np.all(
        (places > -table.radius) & (places < np.array([table.length, table.width]) + table.radius), axis=1
    )
    starts, own = starts[fine], radii_at(camera, places[fine], table).astype(np.float32)
    looked_at, told = [], []
    for way in range(1 + WAYS):
        is_known = dice.random(len(balls)) < (0.0 if way == 0 else dice.uniform(0.2, 0.9))
        known = explained(
            still.known,
            [one for one, told_of in zip(balls, is_known, strict=True) if told_of],
            still,
            table,
            camera,
        )
        some = np.ones(len(starts), bool) if way == 0 else dice.random(len(starts)) < 0.5
        clear = np.ones(len(starts), bool)
        if is_known.any():
            apart = np.linalg.norm(starts[:, None] - middles[is_known], axis=2) / own[:, None]
            clear = apart.min(axis=1) > 1.1
            if way > 0:
                some &= apart.min(axis=1) < 4.0
        chosen = some & clear
        if chosen.any():
            looked_at.append(patches(still, known, starts[chosen], own[chosen]).astype(np.float16))
            told.append(_told(starts[chosen], own[chosen], middles[~is_known], radii[~is_known], seen[~is_known]))
    for n in np.nonzero(seen > WHOLE)[0]:
        if len(balls) == 1 or np.sort(np.linalg.norm(middles - middles[n], axis=1))[1] > LONELY * radii[n]:
            smear, off = _smeared(still, middles[n], radii[n], dice)
            looked_at.append(smear)
            told.append(np.array([[1.0, *off, 1.0, 1.0]]))
    return Cases(np.concatenate(looked_at), np.concatenate(told).astype(np.float32))


def _smeared(
    still: Still, middle: NDArray[np.float64], radius: float, dice: np.random.Generator
) -> tuple[NDArray[np.float16], NDArray[np.float64]]:
    """A lonely ball as it looks while it runs, about a place beside its middle; and where that is from there."""
    angle, run = dice.uniform(0, 2 * math.pi), dice.uniform(0.3, FASTEST)
    way = run * np.array([math.cos(angle), math.sin(angle)])
    off = dice.normal(0, 0.3, 2)
    steps = np.linspace(-0.5, 0.5, 9)[:, None] * way
    seen = patches(still, still.known, middle + radius * (steps - off), np.full(len(steps), radius))
    return seen.mean(axis=0, keepdims=True).astype(np.float16), off


def _told(
    starts: NDArray[np.float64],
    own: Array,
    middles: NDArray[np.float64],
    radii: NDArray[np.float64],
    seen: NDArray[np.float64],
) -> NDArray[np.float64]:
    told = np.zeros((len(starts), 5))
    told[:, 4] = 1.0
    if not len(middles):
        return told
    off = (middles - starts[:, None]) / own[:, None, None]
    away = np.linalg.norm(off, axis=2)
    nearest = away.argmin(axis=1)
    least, share = away[np.arange(len(starts)), nearest], seen[nearest]
    told[:, 0] = np.where(least < HERE, 1.0, np.where(least < THERE, -1.0, 0.0))
    told[:, 1:3] = off[np.arange(len(starts)), nearest]
    told[:, 3] = np.nan_to_num(share)
    doubtful = (least < THERE) & ~(share >= LEAST)
    told[doubtful, 4] = 0.0
    return told


def _loss(said: Any, told: Any) -> Any:
    from torch.nn import functional

    counts = told[:, 4] * (told[:, 0] >= 0)
    ball = functional.binary_cross_entropy_with_logits(said[:, 0], told[:, 0].clamp(0, 1), weight=counts)
    near = (told[:, 0] != 0).float() * told[:, 4]
    apart = functional.smooth_l1_loss(said[:, 1:3], told[:, 1:3], beta=0.1, reduction="none").sum(dim=1)
    off = apart * near * told[:, 3]
    shown = functional.binary_cross_entropy_with_logits(said[:, 3], told[:, 3].clamp(0, 1), weight=near)
    return ball + 2.0 * off.mean() + 0.2 * shown


def _checked(said: NDArray[np.float32], told: NDArray[np.float32]) -> str:
    """Wrong among balls and among others, and how far off the middle is."""
    sure, is_ball = told[:, 4] > 0, told[:, 0] == 1
    missed = float((said[sure & is_ball, 0] < 0).mean())
    extra = float((said[sure & (told[:, 0] == 0), 0] > 0).mean())
    off = np.linalg.norm(said[sure & is_ball, 1:3] - told[sure & is_ball, 1:3], axis=1)
    return f"missed {missed:.4f} extra {extra:.4f} off {np.median(off):.3f} {np.percentile(off, 95):.3f}"


TASK = Task(4, _loss, (1,), _checked)
