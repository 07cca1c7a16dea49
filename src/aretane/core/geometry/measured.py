"""Reading the table: every ball into every pocket, what blocks it, and what is wrong with it."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from aretane.core.geometry.cue_lines import roll_direction, scratches_in, stun_direction
from aretane.core.geometry.cut import Cut, cut_for, ghost_ball, tolerance
from aretane.core.geometry.groups import clusters, frozen_pairs, on_rail
from aretane.core.geometry.pocket_window import PocketWindow, pocket_line, pocket_window
from aretane.core.geometry.sight import in_the_way, visible_part
from aretane.core.layout import OFF_TABLE, Layout
from aretane.core.table import Pocket, Point

FULL = 0.98  # an open part from here on is called full, below CLOSED closed
CLOSED = 0.02
JAW = "jaw"


@dataclass(frozen=True)
class MeasuredShot:
    """One object ball into one pocket, seen from the cue ball. Radians and metres.

    Without a cue ball, or where no cut sends the ball there, what needs it is None. `cut` refers to the
    middle of the mouth, also when the pocket is partly closed.
    """

    ball: str
    pocket: str
    legal: bool
    open: float
    pocket_distance: float
    cut: Cut | None
    ghost: Point
    tolerance: float | None
    blocked_cue: tuple[str, ...]
    blocked_object: tuple[str, ...]
    stun: float | None
    roll: float | None
    scratch_stun: str | None
    scratch_roll: str | None

    @property
    def openness(self) -> str:
        return "full" if self.open >= FULL else "closed" if self.open <= CLOSED else "part"

    @property
    def playable(self) -> bool:
        """A direct pot that nothing forbids: the pocket is open, the way is clear, a cut exists."""
        return self.cut is not None and self.open > CLOSED and not self.blocked_cue


@dataclass(frozen=True)
class ProblemBall:
    ball: str
    why: str


@dataclass(frozen=True)
class MeasuredTable:
    shots: tuple[MeasuredShot, ...]
    clusters: tuple[tuple[str, ...], ...]
    frozen: tuple[tuple[str, str], ...]
    on_rail: tuple[str, ...]
    problem_balls: tuple[ProblemBall, ...]
    visible: Mapping[str, float]


def measure_table(layout: Layout, legal: Iterable[str]) -> MeasuredTable:
    """The whole table: one entry for every object ball and pocket. `legal` may be struck first now."""
    allowed = set(legal)
    shots = tuple(
        measure_shot(layout, ball, pocket, ball in allowed)
        for ball in layout.object_balls
        for pocket in layout.table.pockets
    )
    groups = tuple(tuple(group) for group in clusters(layout))
    rail = tuple(on_rail(layout))
    return MeasuredTable(
        shots=shots,
        clusters=groups,
        frozen=tuple(frozen_pairs(layout)),
        on_rail=rail,
        problem_balls=tuple(_problems(layout, shots, groups, rail)),
        visible=visible_parts(layout),
    )


def visible_parts(layout: Layout) -> dict[str, float]:
    """How much of every object ball the cue ball can reach directly; empty without a cue ball."""
    return {ball: visible_ball(layout, ball) for ball in layout.object_balls} if layout.cue else {}


def visible_ball(layout: Layout, ball: str) -> float:
    """How much of one object ball the cue ball can reach directly."""
    assert layout.cue is not None
    return visible_part(layout.cue, ball, layout.object_balls, layout.table.radius + layout.table.cue_radius)


def measure_shot(layout: Layout, ball: str, pocket_name: str, legal: bool = True) -> MeasuredShot:
    """One ball into one pocket. Raises `KeyError` when the ball is not on the table."""
    table = layout.table
    pocket = table.pockets[pocket_name]
    place = layout.balls[ball]
    reach = table.radius + table.cue_radius
    others = {name: at for name, at in layout.object_balls.items() if name != ball}
    window = _window(layout, ball, pocket)
    line = pocket_line(place, pocket)
    ghost = ghost_ball(place, line, reach)
    blocked_object = (*window.blockers, *((JAW,) if window.jaws is None else ()))
    cut = cut_for(layout.cue, place, line, reach) if layout.cue is not None else None
    blocked_cue: tuple[str, ...] = ()
    if layout.cue is not None:
        blocked_cue = tuple(in_the_way(layout.cue, ghost, others, reach)) if cut is not None else ()
        if not _stands(layout, ghost, pocket):
            blocked_cue, cut = (*blocked_cue, JAW), None
    edge = window.widest
    stun = stun_direction(cut) if cut is not None else None
    roll = roll_direction(cut) if cut is not None else None
    return MeasuredShot(
        ball=ball,
        pocket=pocket_name,
        legal=legal,
        open=window.open,
        pocket_distance=math.dist(place, pocket.mouth),
        cut=cut,
        ghost=ghost,
        tolerance=tolerance(layout.cue, place, edge, reach) if layout.cue and cut and edge else None,
        blocked_cue=blocked_cue,
        blocked_object=blocked_object,
        stun=stun,
        roll=roll,
        scratch_stun=scratches_in(table, ghost, stun, others),
        scratch_roll=scratches_in(table, ghost, roll, others),
    )


def _window(layout: Layout, ball: str, pocket: Pocket) -> PocketWindow:
    table = layout.table
    # The cue ball itself is no obstacle on the way to the pocket: it is the one that moves.
    others = {name: at for name, at in layout.object_balls.items() if name != ball}
    reach = dict.fromkeys(others, 2 * table.radius)
    return pocket_window(layout.balls[ball], pocket, others, table.radius, reach)


def _stands(layout: Layout, ghost: Point, pocket: Pocket) -> bool:
    """Whether the cue ball's centre can be at the ghost ball's place: not inside a cushion."""
    inset = OFF_TABLE * layout.table.cue_radius
    x, y = ghost
    inside = inset <= x <= layout.table.length - inset and inset <= y <= layout.table.width - inset
    return inside or math.dist(ghost, pocket.mouth) < pocket.mouth_width / 2


def _problems(
    layout: Layout,
    shots: tuple[MeasuredShot, ...],
    groups: tuple[tuple[str, ...], ...],
    rail: tuple[str, ...],
) -> Iterable[ProblemBall]:
    """Balls that will not simply go: no open pocket, tied up in a cluster, or on the rail."""
    tied = {ball: [other for other in group if other != ball] for group in groups for ball in group}
    for ball in layout.object_balls:
        ways = [shot for shot in shots if shot.ball == ball and shot.open > CLOSED]
        if not ways:
            yield ProblemBall(ball, "no pocket is open for it")
        elif ball in tied and len(ways) <= 2:
            yield ProblemBall(ball, f"tied up with {', '.join(tied[ball])}, {_ways(ways)}")
        elif ball in rail and len(ways) == 1:
            yield ProblemBall(ball, f"on the rail, {_ways(ways)}")


def _ways(ways: list[MeasuredShot]) -> str:
    return "goes only to " + " or ".join(shot.pocket for shot in ways)


def measured_as_data(layout: Layout, measured: MeasuredTable) -> dict[str, object]:
    """The table with the keys of the `read` command: angles named `_deg` in degrees, others in radians."""
    return {
        "shots": [shot_as_data(shot) for shot in measured.shots],
        "clusters": [list(group) for group in measured.clusters],
        "frozen": [list(pair) for pair in measured.frozen],
        "on_rail": list(measured.on_rail),
        "problem_balls": [{"ball": p.ball, "why": p.why} for p in measured.problem_balls],
        "visible": dict(measured.visible),
    }


def shot_as_data(shot: MeasuredShot) -> dict[str, object]:
    """One entry of `measured_as_data`."""
    cut = shot.cut
    both = dict.fromkeys((*shot.blocked_cue, *shot.blocked_object))
    return {
        "ball": shot.ball,
        "pocket": shot.pocket,
        "legal": shot.legal,
        "open": shot.open,
        "openness": shot.openness,
        "cut_angle_deg": math.degrees(abs(cut.angle)) if cut else None,
        "cut_side": cut.side if cut else None,
        "fraction": cut.fraction if cut else None,
        "cue_distance": cut.cue_distance if cut else None,
        "pocket_distance": shot.pocket_distance,
        "tolerance_deg": math.degrees(shot.tolerance) if shot.tolerance is not None else None,
        "ghost": list(shot.ghost),
        "aim": cut.aim if cut else None,
        "blocked_by": list(both),
        "blocked_cue": list(shot.blocked_cue),
        "blocked_object": list(shot.blocked_object),
        "stun_direction": shot.stun,
        "roll_direction": shot.roll,
        "scratch": {"stun": shot.scratch_stun, "roll": shot.scratch_roll},
    }
