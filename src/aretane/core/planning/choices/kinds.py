"""What a shot was, from what touched what: the words of the trade for it."""

from __future__ import annotations

import math
from dataclasses import dataclass

from aretane.core.ball import CUE
from aretane.core.geometry.groups import clusters
from aretane.core.geometry.plane import distance_to_segment
from aretane.core.layout import Layout
from aretane.core.physics.hit import Hit, first_hit
from aretane.core.physics.shot import Event, Shot

THIN = 0.30  # of a full ball: less is a thin hit
FIRM = 0.12  # m that a cluster's ball must be moved to be opened; less is a nudge


@dataclass(frozen=True)
class Kind:
    """`kind` and further words `also`, as in the match format; `fraction` of the first ball that was hit."""

    kind: str
    also: tuple[str, ...]
    fraction: float | None


def kind_of(before: Layout, shot: Shot, ball: str | None) -> Kind:
    """The kind of a simulated shot that pots `ball` (None: a safety)."""
    words = []
    hit = first_hit(before, shot)
    if hit is not None and _flew_over(before, shot, hit):
        words.append("jump")
    if hit is not None and hit.rails:
        words.append("kick")
    fraction = hit.fraction if hit is not None else None
    if ball is not None and hit is not None:
        words += _way_of(ball, hit.ball, shot.events)
    opened = _opened(before, shot, ball)
    if opened:
        words.append(opened)
    if ball is None and fraction is not None and fraction < THIN:
        words.append("thin")
    plain = "pot" if ball is not None else "other"
    words = list(dict.fromkeys(words))
    main = next((word for word in words if word not in ("break-out", "nudge")), plain)
    return Kind(main, tuple(word for word in words if word != main), fraction)


def _flew_over(before: Layout, shot: Shot, hit: Hit) -> bool:
    """Whether the cue ball was in the air over another ball before it hit; a hop beside nothing is no jump."""
    reach = before.table.radius + before.table.cue_radius
    others = [place for name, place in before.object_balls.items() if name != hit.ball]
    legs = [leg for leg in shot.legs[CUE] if leg.t < hit.t]
    ends = [*(leg.t for leg in legs[1:]), hit.t] if legs else []  # a touching ball is hit before any leg
    for leg, after in zip(legs, ends, strict=True):
        if leg.phase == "air":
            x, y = (leg.place[i] + leg.velocity[i] * (after - leg.t) for i in (0, 1))
            if any(distance_to_segment(place, leg.place[:2], (x, y)) < reach for place in others):
                return True
    return False


def _way_of(ball: str, struck: str, events: tuple[Event, ...]) -> list[str]:
    """How the potted ball came to its pocket."""
    fell = next((e.t for e in events if e.kind == "pocket" and e.balls[0] == ball), math.inf)
    mine = [e for e in events if ball in e.balls and e.t <= fell]
    contacts = [e for e in mine if e.kind == "contact"]
    words = []
    if ball != struck:
        hit = contacts[0].balls if contacts else ()
        words.append("cannon" if CUE in hit else "combination")
    elif any(CUE not in e.balls for e in contacts):
        words.append("glance")
    if any(e.kind == "rail" for e in mine):
        words.append("bank")
    return words


def _opened(before: Layout, shot: Shot, ball: str | None) -> str | None:
    """Whether a cluster was opened, or a ball of it nudged."""
    moved = 0.0
    for group in clusters(before):
        for name in group:
            if name == ball or name not in shot.final.balls:
                continue
            moved = max(moved, math.dist(before.balls[name], shot.final.balls[name]))
    if moved > FIRM:
        return "break-out"
    return "nudge" if moved > 0.01 else None
