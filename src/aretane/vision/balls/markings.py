"""How much ivory a ball shows as it lies: a solid one its number's field, a striped one its caps as well.

Found by laying a ball down in many ways: the chances of the share that is seen, for both kinds.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

STRIPE = 0.55  # of the radius: half the stripe's width (common practice)
PLATE = 24.0  # degrees: half the angle that a number's field takes (common practice; makers differ)
SEEN, BELOW = 0.8, 0.4  # of the radius: what of a disc is looked at
WAYS = 1500  # ways to lie
SHARES = np.linspace(0, 1, 51)
BLUR = 0.1  # of the share, one standard deviation: what a small picture adds
ODD = 0.2  # chance density of any share at all: shadows, hands, other makers' balls


def surprise(share: float, striped: bool) -> float:
    """Minus the logarithm of the chance density that a solid or striped ball shows this share of ivory, less what
    it is at best."""
    known = _surprises()[int(striped)]
    return float(np.interp(share, SHARES, known))


@lru_cache(maxsize=1)
def _surprises() -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    solid, striped = shown(np.random.default_rng(11))
    return _of(solid), _of(striped)


def shown(dice: np.random.Generator) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Shares of ivory on the disc of a solid and of a striped ball that lies anyhow, many times over."""
    x, y = np.meshgrid(np.linspace(-1, 1, 25), np.linspace(-1, 1, 25))
    disc = (np.hypot(x, y) < SEEN) & (y < BELOW)
    points = np.stack([x[disc], y[disc], np.sqrt(1 - x[disc] ** 2 - y[disc] ** 2)], axis=1)
    turns = np.linalg.qr(dice.normal(size=(WAYS, 3, 3)))[0]
    turned = points @ turns
    field = np.abs(turned[..., 0]) > np.cos(np.radians(PLATE))
    caps = np.abs(turned[..., 2]) > STRIPE
    return field.mean(axis=1), (field | caps).mean(axis=1)


def _of(shares: NDArray[np.float64]) -> NDArray[np.float64]:
    kernel = np.exp(-(((SHARES[:, None] - shares) / BLUR) ** 2) / 2) / (BLUR * np.sqrt(2 * np.pi))
    told = -np.log(kernel.mean(axis=1) + ODD)
    return np.asarray(told - told.min())
