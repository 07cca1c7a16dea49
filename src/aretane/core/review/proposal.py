"""What happened in a shot, as far as the layouts around it tell: a proposal, until somebody says that it is so.

Common practice of somebody who reviews: what is gone fell; what was hit first is the nearest moved ball that could
be seen, a lawful one before any other; without an open pot it was a safety, without a ball in sight an escape. The
pocket that was meant, and the side on which a ball passed it, are told by strokes that explain the layouts. What
they leave open is named, so that it is asked.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Any

from aretane.core.ball import CUE
from aretane.core.geometry.measured import MeasuredShot, measure_shot, visible_parts
from aretane.core.geometry.plane import turn
from aretane.core.layout import Layout
from aretane.core.review.break_figures import cue_place, cue_rests
from aretane.core.review.explained import Explanation, explanations
from aretane.core.rules.game import BREAK, PLAY
from aretane.core.table import Point, Table

MOVED = 0.5  # of the radius: less is how well a place is known
CLOSE = math.radians(8.0)  # a ball that ran further off a pocket's line was not meant for it
STRAIGHT = math.radians(2.0)  # a cut under which nobody speaks of thick and thin
ON = 0.3  # a pocket open by this much is on
FITS = 0.45  # m: an explanation that is further off explains nothing
UNUSUAL = 0.05  # m for each unit of effort: of two stories that fit alike the easier shot is believed
NOT_MEANT = 0.12  # m: that a pot was on and nobody tried it needs so much better a fit
BANKED = 0.4  # m: nobody banks a ball, or caroms it, that can be cut in
LEAD = 0.12  # m: by so much the next story must fit worse, or it is asked


@dataclass(frozen=True)
class Proposal:
    """`facts` are fields of a shot in the match format; `open` names those that the layouts leave open."""

    facts: dict[str, Any] = field(default_factory=dict)
    open: tuple[str, ...] = ()


@dataclass(frozen=True)
class _Story:
    """What an explanation says was played, and how badly it fits (m): the facts, and how easily it is believed."""

    facts: dict[str, Any]
    cost: float

    @property
    def told(self) -> tuple[Any, ...]:
        called = self.facts.get("called") or {}
        return self.facts["result"], called.get("ball"), called.get("pocket")


def propose(before: Layout, after: Layout, legal: Sequence[str], phase: str = PLAY) -> Proposal:
    """What these layouts say of the shot between them; `legal` balls may be struck first (none: any may)."""
    places = (tuple(before.balls.items()), tuple(after.balls.items()))
    return _proposed(before.table, before.discipline, *places, tuple(legal), phase)


@lru_cache(maxsize=2048)
def _proposed(
    table: Table, discipline: str, lay: tuple[tuple[str, Point], ...], lies: tuple[tuple[str, Point], ...],
    legal: tuple[str, ...], phase: str,
) -> Proposal:  # fmt: skip
    """Kept: a recording's shots are asked about again whenever one of them is logged or put right."""
    before, after = Layout(table, discipline, dict(lay)), Layout(table, discipline, dict(lies))
    gone = [ball for ball in before.object_balls if ball not in after.balls]
    facts: dict[str, Any] = {"scratch": CUE in before.balls and CUE not in after.balls}
    if phase == BREAK:
        record = {"from": cue_place(before)[0], "rests": cue_rests(after)}
        known = {key: word for key, word in record.items() if word is not None}
        opening = {**facts, "kind": BREAK, "potted": [{"ball": ball} for ball in gone]}
        return Proposal(opening | ({"break_record": known} if known else {}))
    if before.cue is None:
        return Proposal({**facts, "potted": [{"ball": ball} for ball in gone]}, ("called", "result"))
    moved = [*gone, *_moved(before, after)]
    first, sure = _first(before, legal, gone, moved)
    if first is None:
        return Proposal(
            {**facts, "first_contact": None, "potted": [], **_safety(before, legal)}, ("first_contact",)
        )
    seen = visible_parts(before).get(first, 0.0) > 0.0
    found = explanations(before, after, [first] if seen else [])
    told = _potted(before, first, gone, found) if gone else _missed(before, first, legal, found)
    return Proposal(
        {**facts, "first_contact": first, **told.facts}, (*(() if sure else ("first_contact",)), *told.open)
    )


def _moved(before: Layout, after: Layout) -> list[str]:
    least = MOVED * before.table.radius
    return [
        ball
        for ball, place in before.object_balls.items()
        if ball in after.balls and math.dist(place, after.balls[ball]) > least
    ]


def _first(before: Layout, legal: Sequence[str], gone: list[str], moved: list[str]) -> tuple[str | None, bool]:
    """The ball that was hit first, and whether that is sure. A lawful one is believed before any other."""
    if not moved:
        return None, False
    allowed = [ball for ball in moved if ball in legal]
    among, seen = allowed or moved, visible_parts(before)
    cue = before.balls[CUE]

    def order(ball: str) -> tuple[bool, bool, float]:
        pot = ball in gone and bool(_ways(before, ball))
        return (not pot, seen.get(ball, 0.0) <= 0.0, math.dist(cue, before.balls[ball]))

    return min(among, key=order), bool(allowed) or not legal


def _ways(before: Layout, ball: str, least: float = 0.0) -> list[MeasuredShot]:
    """The pockets into which this ball can be sent by a cut, the easiest first."""
    shots = [measure_shot(before, ball, pocket) for pocket in before.table.pockets]
    return sorted((shot for shot in shots if shot.playable and shot.open > least), key=_effort)


def _effort(shot: MeasuredShot) -> float:
    """How much a pot asks: the angle, the way, and what is left of the pocket."""
    cut = abs(shot.cut.angle) if shot.cut else math.pi / 2
    distance = shot.cut.cue_distance if shot.cut else 3.0
    return math.degrees(cut) / 40 + distance / 3 + shot.pocket_distance + 2 * (1 - shot.open)


def _potted(before: Layout, first: str, gone: list[str], found: Sequence[Explanation]) -> Proposal:
    """Something fell: which ball was meant, and where it and the others went."""
    ball = first if first in gone else gone[0]
    ways = {shot.pocket: shot for shot in _ways(before, ball)} if ball == first else {}
    kind = "pot" if ways else "combination" if ball != first else "bank"
    stories = []
    for one in found:
        fell = {name: pocket for name, pocket, _ in one.shot.potted}
        if ball in fell and one.off < FITS:
            unusual = UNUSUAL * _effort(ways[fell[ball]]) if fell[ball] in ways else BANKED
            stories.append(_Story(_made(kind, ball, gone, fell), one.off + unusual))
    if stories:
        return _believed(stories, "called")
    likely = next(iter(ways), None) or _nearest_pocket(before, ball)
    return Proposal(_made(kind, ball, gone, {ball: likely}), ("called",))


def _made(kind: str, ball: str, gone: list[str], fell: dict[str, str]) -> dict[str, Any]:
    return {
        "kind": kind,
        "intent": "attack",
        "called": {"ball": ball, "pocket": fell[ball]},
        "potted": [{"ball": one, "pocket": fell[one]} if one in fell else {"ball": one} for one in gone],
        "result": "made",
    }


def _nearest_pocket(before: Layout, ball: str) -> str:
    """Where a ball that no cut sends there most likely fell."""
    place = before.balls[ball]
    return min(before.table.pockets.values(), key=lambda pocket: math.dist(place, pocket.mouth)).name


def _missed(before: Layout, first: str, legal: Iterable[str], found: Sequence[Explanation]) -> Proposal:
    """Nothing fell: a pot that was missed, a safety, or an escape."""
    safe = _safety(before, legal)
    ways = _ways(before, first, ON)
    if not ways:
        return Proposal(safe)
    stories = [_Story(safe, FITS)]
    for one in found:
        if one.direction is None or one.off >= FITS:
            continue
        near = min(ways, key=lambda shot: abs(_past(shot, one.direction)) + math.radians(_effort(shot)))
        if abs(_past(near, one.direction)) < CLOSE:
            stories.append(_Story(_tried(near, one), one.off + UNUSUAL * _effort(near)))
        else:
            stories.append(_Story(safe, one.off + NOT_MEANT))
    told = _believed(stories, "result", "intent")
    # where a pot was on, only the player knows that it was not meant
    return told if told.facts is not safe else Proposal(safe, ("result", "intent"))


def _past(shot: MeasuredShot, direction: float | None) -> float:
    """How far a ball that ran in this direction turned past the pocket's line (radians, to the left positive)."""
    assert shot.cut is not None
    assert direction is not None
    return turn(shot.cut.object_direction, direction)


def _tried(shot: MeasuredShot, how: Explanation) -> dict[str, Any]:
    """A pot that was missed: in the jaws, or past them on one side."""
    assert shot.cut is not None
    touched = next(
        (e for e in how.shot.events if e.balls[0] == shot.ball and e.kind in ("jaw", "rail", "contact")), None
    )
    if touched is not None and touched.kind == "jaw" and touched.pocket == shot.pocket:
        result = "missed-jaw"
    elif abs(shot.cut.angle) < STRAIGHT:
        result = "missed"
    else:  # one that turned further to the side to which it is cut was hit thin
        thin = (_past(shot, how.direction) > 0) == (shot.cut.angle > 0)
        result = "missed-thin" if thin else "missed-thick"
    called = {"ball": shot.ball, "pocket": shot.pocket}
    return {"kind": "pot", "intent": "attack", "called": called, "potted": [], "result": result}


def _believed(stories: Sequence[_Story], *unsure: str) -> Proposal:
    """The story that fits best, and what is asked because another fits nearly as well."""
    best = min(stories, key=lambda story: story.cost)
    others = [story.cost for story in stories if story.told != best.told]
    clear = best.cost + LEAD < min(others, default=math.inf)
    return Proposal(best.facts, () if clear else unsure)


def _safety(before: Layout, legal: Iterable[str]) -> dict[str, Any]:
    """No pot was tried: hit what could be seen, or escape from a snooker."""
    seen = visible_parts(before)
    hidden = [seen.get(ball, 0.0) <= 0.0 for ball in legal if ball in before.balls]
    escape = bool(hidden) and all(hidden)
    facts: dict[str, Any] = {"kind": "kick", "intent": "escape"} if escape else {"kind": "thin", "intent": "safety"}
    return {**facts, "potted": [], "result": "played"}
