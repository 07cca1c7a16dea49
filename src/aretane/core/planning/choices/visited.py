"""Choices in games of points held against visits played on to their end.

A map takes the balls that are left to stay where they are: what it promises of a run is off by as much for one pot
as for the next. The visit is played on, every stroke chosen anew; what it scores in the mean is the longest
run, and scales all others. What a miss or a safety leaves to the other player stays the maps'.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import replace

from aretane.core.physics.compiled import Floats
from aretane.core.planning.choices.frames import with_points, within_scale
from aretane.core.planning.choices.option import ATTACK, Option
from aretane.core.planning.choices.search import in_hand_layouts
from aretane.core.planning.outlook.outlook import Outlook, shown_maps
from aretane.core.planning.outlook.rollout import VISITS, visits_here
from aretane.core.planning.pots.strokes import Effort
from aretane.core.statistics.rates import Rate


def visits_of(outlook: Outlook, effort: Effort, seed: int = 0, threads: int = 1) -> Rate:
    """What a visit from the table as it stands scores in the mean; with ball in hand from the best place."""
    layout = outlook.game.layout
    if outlook.game.state.in_hand is not None or layout.cue is None:
        layout = in_hand_layouts(outlook.game, outlook, 1)[0]
    scored = visits_here(outlook, layout, effort, VISITS, seed, threads).scored
    assert scored is not None
    return scored


def scored_on(outlook: Outlook, found: Sequence[Option], scored_of: Callable[[Option], Rate]) -> list[Option]:
    """The options with runs as visits bring them: the longest run, as a visit is played for it, by what `scored_of`
    tells as `visits_of` does, and the others' scaled alike.
    """
    best = longest(found)
    if best is None:
        return list(found)
    came = scored_of(best)
    by, wide = (came.p or 0.0) / best.value.run, (came.high - came.low) / 2.0 / best.value.run
    return [_brought(outlook, one, by, wide, came.n if one is best else 0) if _runs(one) else one for one in found]


def longest(found: Sequence[Option]) -> Option | None:
    """The attack with the longest run by the maps."""
    return max(filter(_runs, found), key=lambda one: one.value.run, default=None)


def _runs(option: Option) -> bool:
    return option.intent in ATTACK and option.value.run > 0.0 and bool(option.value.pot.p)


def maps_as_scored(
    outlook: Outlook, found: Sequence[Option], came: Rate
) -> list[tuple[str | None, Floats, Floats]]:
    """The outlook's maps with their runs as visits bring them."""
    best = longest(found)
    by = (came.p or 0.0) / best.value.run if best is not None else 1.0
    lever = outlook.lever(outlook.game.state)
    return [(ball, by * run, worth + (by - 1.0) * lever * run) for ball, run, worth in shown_maps(outlook)]


def _brought(outlook: Outlook, option: Option, by: float, wide: float, times: int) -> Option:
    """The option with its run times `by`, known to `wide`; `times` visits say so of it itself."""
    value = option.value
    made, pot = value.after_pot, value.pot.p
    assert made is not None
    assert pot
    points = value.run * outlook.lever(outlook.game.state) / pot  # of a made pot, by the map
    better = with_points(outlook, made, (by - 1.0) * points)
    off = pot * (better - made)
    half = math.hypot(
        (value.win.high - value.win.low) / 2.0,
        pot * (with_points(outlook, made, (by - 1.0 + wide) * points) - better),
    )
    win = within_scale(
        outlook, Rate(option.win + off, option.win + off - half, option.win + off + half, value.win.n)
    )
    samples = value.samples + off
    return replace(
        option,
        value=replace(value, win=win, after_pot=better, run=by * value.run, samples=samples, played=times),
    )
