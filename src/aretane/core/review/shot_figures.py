"""The narrow table behind every figure: one row a shot, computed from the facts of a match.

`VERSION` is stored with each row; rows of an older version are computed again.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, fields, replace
from functools import lru_cache
from itertools import pairwise
from typing import Any

from aretane.core.ball import CUE
from aretane.core.geometry.measured import MeasuredShot, measure_shot
from aretane.core.geometry.zone import zones_of
from aretane.core.layout import Layout
from aretane.core.review.break_figures import BreakFigures, break_figures
from aretane.core.review.circumstances import UNKNOWN, Circumstances, circumstances, likely_of
from aretane.core.review.position import HAND_PLACED, PositionError, position_error
from aretane.core.review.replay import Replay, ReplayedShot
from aretane.core.review.skill_figures import NOTHING_KNOWN, SkillFigures, skill_figures
from aretane.core.review.stance import cueing_of, reach_of
from aretane.core.review.strokes import NOT_A_TRY_FLAGS
from aretane.core.rules.game import CHOICES
from aretane.core.statistics.cells import cell_of
from aretane.core.table import Point, Table

VERSION = 10

TRY_RULE = (
    "A try is a shot with a meant ball and pocket whose intent is attack or two-way or is not known, "
    "without breaks, push-outs, experiments and demonstrations. It is made when that ball falls "
    "into that pocket without a foul; a fluke elsewhere is a miss."
)

HOLE = "hole"  # the kind of what was not seen


@dataclass(frozen=True)
class ShotFigures:
    """What figures read of one shot. Angles in radians, lengths in metres; None is unknown. `cell` is its field of
    the potting map, `apart` how far somebody's own estimate of its chances is from what was computed.
    """

    rack: int
    shot: int
    player: str | None
    kind: str | None
    intent: str | None
    intent_source: str | None
    ball: str | None
    pocket: str | None
    result: str | None
    foul: str | None
    tried: bool
    made: bool
    cut_angle: float | None
    cut_side: str | None
    cue_distance: float | None
    pocket_distance: float | None
    cell: int | None
    open: float | None
    tolerance: float | None
    travel: float | None
    target_source: str | None
    error: PositionError | None
    apart: float | None
    opening: BreakFigures | None
    skill: SkillFigures = NOTHING_KNOWN
    around: Circumstances = UNKNOWN


def shot_figures(replayed: Replay, since: int = 0) -> list[ShotFigures]:
    """One for every stroke of a replayed match from rack `since` on; choices without a stroke are left out."""
    found = []
    around = circumstances(replayed, since)
    for number, rack in enumerate(replayed.racks[since:], start=since):
        lags = dict(replayed.lags[number])  # told with each player's first stroke of the rack
        before: ShotFigures | None = None
        for index, shot in enumerate(rack):
            if shot.data.get("declared") in CHOICES:
                continue
            if shot.data.get("hole"):
                found.append(_hole(number, index))
                continue
            following = rack[index + 1] if index + 1 < len(rack) else None
            lag = lags.pop(str(shot.data.get("player")), None)
            figures = _figures(number, index, shot, following, lag)
            opening = break_figures(replayed.discipline, shot, replayed.result.racks[number].winner)
            known = _measured_around(around.get((number, index), UNKNOWN), replayed, shot, figures, before)
            before = replace(figures, opening=opening, around=known)
            found.append(before)
    return found


def _measured_around(
    known: Circumstances, replayed: Replay, shot: ReplayedShot, figures: ShotFigures, before: ShotFigures | None
) -> Circumstances:
    """With what the shot's own geometry tells, and how the stroke before had left the cue ball."""
    measured = _measured(shot.before, shot.data.get("called") or {})
    missed = before.error.distance if known.waited is False and before is not None and before.error else None
    return replace(
        known,
        likely=likely_of(figures.skill),
        reach=reach_of(
            shot.data.get("stroke") or {}, shot.before, measured, replayed.handed.get(figures.player or "")
        ),
        cueing=cueing_of(shot.before, measured),
        missed_by=missed,
        phase="recovery" if missed and known.phase == "pattern" else known.phase,
    )


def _hole(rack: int, index: int) -> ShotFigures:
    """A stretch that was not seen counts nowhere, but figures say that it is left out."""
    nothing = dict.fromkeys(field.name for field in fields(ShotFigures))
    told: dict[str, Any] = {"rack": rack, "shot": index, "kind": HOLE, "skill": NOTHING_KNOWN, "around": UNKNOWN}
    return ShotFigures(**{**nothing, **told, "tried": False, "made": False})


def _figures(
    rack: int, index: int, shot: ReplayedShot, following: ReplayedShot | None, lag: float | None
) -> ShotFigures:
    data = shot.data
    called = data.get("called") or {}
    measured = _measured(shot.before, called)
    cut = measured.cut if measured else None
    foul = shot.ruling.foul if shot.ruling else None
    tried, made = _is_try(data), _is_made(data) and foul is None
    return ShotFigures(
        rack=rack,
        shot=index,
        player=data.get("player"),
        kind=data.get("kind"),
        intent=data.get("intent"),
        intent_source=data.get("intent_source"),
        ball=called.get("ball"),
        pocket=called.get("pocket"),
        result=result_of(data, foul),
        foul=foul,
        tried=tried,
        made=made,
        cut_angle=abs(cut.angle) if cut else None,
        cut_side=cut.side if cut else None,
        cue_distance=cut.cue_distance if cut else None,
        pocket_distance=measured.pocket_distance if measured else None,
        cell=cell_of(abs(cut.angle), cut.cue_distance + measured.pocket_distance) if cut and measured else None,
        open=measured.open if measured else None,
        tolerance=measured.tolerance if measured else None,
        travel=_travel(shot, measured),
        target_source=((data.get("targets") or {}).get(CUE) or {}).get("source"),
        error=cue_error(shot, following),
        apart=_apart(data.get("felt")),
        opening=None,
        skill=skill_figures(shot, measured, made if tried else None, lag),
    )


def _apart(felt: Any) -> float | None:
    """Between felt and computed, of pot or run-out the greater; 0 where nothing was computed yet."""
    if not isinstance(felt, Mapping):
        return None
    computed = felt.get("computed") or {}
    pairs = [(felt.get(name), computed.get(name)) for name in ("pot", "run_out")]
    return max((abs(own - other) for own, other in pairs if own is not None and other is not None), default=0.0)


def _travel(shot: ReplayedShot, measured: MeasuredShot | None) -> float | None:
    """How far the cue ball ran after the contact, by its logged route or straight; None where it is not known."""
    if measured is None or shot.after is None or shot.after.cue is None:
        return None
    route = [(float(x), float(y)) for x, y in shot.data.get("route") or ()]
    points = [measured.ghost, *route, shot.after.cue]
    return sum(math.dist(a, b) for a, b in pairwise(points))


def _measured(before: Layout | None, called: Mapping[str, Any]) -> MeasuredShot | None:
    ball, pocket = str(called.get("ball")), str(called.get("pocket"))
    if before is None or ball not in before.balls or pocket not in before.table.pockets:
        return None
    return _read(before.table, before.discipline, tuple(before.balls.items()), ball, pocket)


@lru_cache(maxsize=8192)
def _read(
    table: Table, discipline: str, balls: tuple[tuple[str, Point], ...], ball: str, pocket: str
) -> MeasuredShot:
    """A shot measured, kept: every change of a match computes its figures anew, and most layouts stay."""
    return measure_shot(Layout(table, discipline, dict(balls)), ball, pocket)


def _is_try(data: Mapping[str, Any]) -> bool:
    called = data.get("called") or {}
    return (
        bool(called.get("ball") and called.get("pocket"))
        and data.get("kind") != "break"
        and data.get("declared") != "push-out"
        and data.get("intent") in (None, "attack", "two-way")
        and not NOT_A_TRY_FLAGS.intersection(data.get("flags") or ())
    )


def _is_made(data: Mapping[str, Any]) -> bool:
    called = data.get("called") or {}
    return any(
        entry["ball"] == called.get("ball") and entry.get("pocket") in (None, called.get("pocket"))
        for entry in data.get("potted") or ()
    )


def result_of(data: Mapping[str, Any], foul: str | None) -> str:
    """The result in one word: as logged, else from what fell."""
    if data.get("scratch"):
        return "scratch"
    if foul:
        return "foul"
    if data.get("result"):
        return str(data["result"])
    if _is_made(data):
        return "made"
    if data.get("potted"):
        return "fluke" if data.get("called") else "made"
    return "missed" if _is_try(data) else "played"


def cue_error(shot: ReplayedShot, following: ReplayedShot | None) -> PositionError | None:
    """The cue ball's position error; None without a zone, a known place, or for an experiment."""
    return ball_error(shot, CUE, next_line=_next_line(shot, following))


def object_errors(shot: ReplayedShot) -> dict[str, PositionError]:
    """The errors of other balls that had a target: a nudge, a break-out, a safety's object ball."""
    others = (ball for ball in shot.data.get("targets") or () if ball != CUE)
    found = {ball: ball_error(shot, ball) for ball in others}
    return {ball: error for ball, error in found.items() if error is not None}


def ball_error(shot: ReplayedShot, ball: str, next_line: tuple[Point, Point] | None = None) -> PositionError | None:
    target = (shot.data.get("targets") or {}).get(ball) or {}
    if target.get("source") not in ("stated", "inferred") or shot.after is None:
        return None
    if ball not in shot.after.balls or NOT_A_TRY_FLAGS.intersection(shot.data.get("flags") or ()):
        return None
    stop = shot.after.balls[ball]
    start, assumed = _last_leg(shot, ball, stop)
    sigma = ((shot.data.get("layout_after") or {}).get("sigma") or {}).get(ball, HAND_PLACED)
    return position_error(zones_of(target), stop, start, assumed=assumed, sigma=sigma, next_line=next_line)


def _last_leg(shot: ReplayedShot, ball: str, stop: Point) -> tuple[Point, bool]:
    """Where the last leg began: the last logged point, else (assumed) where the ball started from."""
    route = [tuple(point) for point in shot.data.get("route") or ()] if ball == CUE else []
    if route and math.dist(route[-1], stop) > 0:
        return (float(route[-1][0]), float(route[-1][1])), False
    before = shot.before.balls if shot.before else {}
    measured = _measured(shot.before, shot.data.get("called") or {})
    if ball == CUE and measured is not None:
        return measured.ghost, True
    return before.get(ball, stop), True


def _next_line(shot: ReplayedShot, following: ReplayedShot | None) -> tuple[Point, Point] | None:
    """The next ball's place and mouth: as named with the target, else what was played next."""
    target = (shot.data.get("targets") or {}).get(CUE) or {}
    meant = target.get("next") or (following.data.get("called") if following else None) or {}
    ball, pocket = str(meant.get("ball")), str(meant.get("pocket"))
    if shot.after is None or ball not in shot.after.balls or pocket not in shot.after.table.pockets:
        return None
    return shot.after.balls[ball], shot.after.table.pockets[pocket].mouth
