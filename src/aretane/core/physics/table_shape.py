"""The table's outline as numbers for the kernels: where rails are straight, jaws, the edges of the drops."""

from __future__ import annotations

import math
from functools import lru_cache
from typing import NamedTuple

import numpy as np

from aretane.core.jaws import Jaw, jaws
from aretane.core.physics.compiled import Floats
from aretane.core.table import Table


class TableShape(NamedTuple):
    """`size`: length, width, nose height, distances from corner and from the side pocket at which the rail is
    straight.

    `jaws` (12 x 12): two for each pocket in the order of `POCKETS`; columns as in `compiled`.
    `pockets` (6 x 9): middle of the mouth, axis out of the table, distance of the drop, the two tips.
    """

    size: Floats
    jaws: Floats
    pockets: Floats


@lru_cache(maxsize=64)
def table_shape(table: Table) -> TableShape:
    both = jaws(table)
    corner, side = both["foot-left"][0], both["side-left"][0]
    size = [
        table.length,
        table.width,
        table.nose_height,
        table.corner_mouth / math.sqrt(2) + corner.lead,
        table.side_mouth / 2 + side.lead,
    ]
    pockets = [
        [*pocket.mouth, *pocket.axis, pocket.shelf, *pocket.tips[0], *pocket.tips[1]]
        for pocket in table.pockets.values()
    ]
    rows = [_row(jaw) for pair in both.values() for jaw in pair]
    return TableShape(np.array(size), np.array(rows), np.array(pockets))


def _row(jaw: Jaw) -> list[float]:
    middle = np.array(jaw.rail_normal) + np.array(jaw.facing_normal)
    middle = middle / np.hypot(*middle)
    return [
        *jaw.centre,
        jaw.radius,
        *middle,
        math.cos(jaw.turn / 2),
        *jaw.facing_start,
        *jaw.facing_normal,
        *jaw.facing,
    ]
