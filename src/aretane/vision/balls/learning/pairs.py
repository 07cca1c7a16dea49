"""What the network that tells two balls from one learns, and where both are.

A case is a place where a ball might be found: about a ball that stands alone, or somewhere between two of which one
hides much of the other; alone, and with some of the others known.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from aretane.vision.balls.candidates import candidates_at, explained
from aretane.vision.balls.learning.fitting import Cases, Task
from aretane.vision.balls.learning.pictures import LEAST, Shown, seen_of
from aretane.vision.balls.patches import CHANNELS, SIDE, patches
from aretane.vision.table.sight import prepare

PAIR, ALONE = 1.2, 1.5  # radii between the middles of two that may be taken for one, and from which on none is
WAYS = 4  # in which some balls are known beforehand
STARTS = 4  # places about each pair, and about a ball alone
ABOUT = 0.18  # radii off, one standard deviation
BEYOND = 0.2  # of their distance: so far outside of two a place may be


def cases_of(shown: Shown, dice: np.random.Generator) -> Cases:
    """What is to be told apart in a picture: the chance of two (0 or 1), the nearer one's middle beside the patch's
    and the farther one's, in radii."""
    still = prepare(shown.picture, shown.table, shown.camera)
    balls = candidates_at([one.place for one in shown.balls], [1.0] * len(shown.balls), shown.table, shown.camera)
    middles = np.array([one.pixel for one in balls]) - still.bed.corner
    radii = np.array([one.radius for one in balls])
    seen = seen_of(shown, still, middles, radii)
    looked_at, told = [np.zeros((0, CHANNELS, SIDE, SIDE), np.float16)], [np.zeros((0, 5))]
    for way in range(WAYS):
        is_known = dice.random(len(balls)) < (dice.uniform(0.2, 0.9) if way else 0.0)
        left = np.nonzero(~is_known)[0]
        starts, sizes, says = _about(middles[left], radii[left], seen[left], dice)
        if len(starts):
            others = [one for one, it_is in zip(balls, is_known, strict=True) if it_is]
            known = explained(still.known, others, still, shown.table, shown.camera)
            looked_at.append(patches(still, known, starts, sizes).astype(np.float16))
            told.append(says)
    return Cases(np.concatenate(looked_at), np.concatenate(told).astype(np.float32))


def _about(
    middles: NDArray[np.float64], radii: NDArray[np.float64], seen: NDArray[np.float64], dice: np.random.Generator
) -> tuple[NDArray[np.float64], NDArray[np.float32], NDArray[np.float64]]:
    """Places, the radius there, and what is to be said of each; none where more than two stand together, or where
    it is not known what is to be seen."""
    starts, sizes, says = [], [], []
    for n in range(len(middles)):
        away = np.linalg.norm(middles - middles[n], axis=1) / radii[n]
        near = np.nonzero((away < ALONE) & (away > 0))[0]
        if not seen[n] >= LEAST or len(near) > 1:
            continue
        if len(near) == 0:
            at = middles[n] + radii[n] * dice.normal(0, ABOUT, (STARTS, 2))
            size, told = radii[n], np.zeros((STARTS, 5))
        else:
            other = near[0]
            crowd = np.sum(np.linalg.norm(middles - middles[other], axis=1) < ALONE * radii[other]) > 2
            if radii[other] >= radii[n] or away[other] > PAIR or not seen[other] >= LEAST or crowd:
                continue  # each pair once, from its nearer ball
            along = dice.uniform(-BEYOND, 1 + BEYOND, (STARTS, 1))
            size = (radii[n] + radii[other]) / 2
            at = middles[n] + along * (middles[other] - middles[n]) + size * dice.normal(0, ABOUT, (STARTS, 2))
            told = np.column_stack([np.ones(STARTS), (middles[n] - at) / size, (middles[other] - at) / size])
        starts.append(at)
        sizes.append(np.full(len(at), size, np.float32))
        says.append(told)
    if not starts:
        return np.zeros((0, 2)), np.zeros(0, np.float32), np.zeros((0, 5))
    return np.concatenate(starts), np.concatenate(sizes), np.concatenate(says)


def _loss(said: Any, told: Any) -> Any:
    from torch.nn import functional

    two = functional.binary_cross_entropy_with_logits(said[:, 0], told[:, 0])
    apart = functional.smooth_l1_loss(said[:, 1:], told[:, 1:], beta=0.1, reduction="none").sum(dim=1)
    return two + (apart * told[:, 0]).mean()


def _checked(said: NDArray[np.float32], told: NDArray[np.float32]) -> str:
    """Pairs missed and single balls taken for two, surely; and how far off the middles are."""
    is_two, surely = told[:, 0] == 1, said[:, 0] > np.log(9.0)
    off = np.linalg.norm((said - told)[is_two, 1:].reshape(-1, 2), axis=1)
    return (
        f"missed {1 - surely[is_two].mean():.4f} extra {surely[~is_two].mean():.5f} "
        f"off {np.median(off):.3f} {np.percentile(off, 95):.3f}"
    )


TASK = Task(5, _loss, (1, 3), _checked, rare=3)
