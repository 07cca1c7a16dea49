"""Single shots as tallies of one: the oracle for what the store adds up."""

from __future__ import annotations

from aretane.core.review.break_figures import BreakFigures
from aretane.core.review.shot_figures import ShotFigures
from aretane.core.statistics.breaks import BreakTally
from aretane.core.statistics.potting import Tally
from aretane.core.statistics.rates import Sums

NONE = Sums(0, 0.0, 0.0)


def tally_of(shot: ShotFigures, player: str | None = None) -> Tally:
    error = shot.error
    known = error is not None and not error.assumed
    return Tally(
        player=player or shot.player, tried=shot.tried, cell=shot.cell, pocket=shot.pocket, kind=shot.kind, n=1,
        made=int(shot.made),
        along=Sums(1, error.along, error.along**2) if known else NONE,
        across=Sums(1, error.across, error.across**2) if known else NONE,
        distance=Sums(1, error.distance, error.distance**2) if error else NONE,
    )  # fmt: skip


def break_tally_of(one: BreakFigures, player: str | None = None) -> BreakTally:
    return BreakTally(
        discipline=one.discipline, player=player, place=one.place, power=one.power, fullness=one.fullness,
        type=one.type, opened=one.opened, leaves=one.leaves, balls=one.balls, scratch=one.scratch,
        seen=one.next_visible, won=one.won, n=1,
    )  # fmt: skip
