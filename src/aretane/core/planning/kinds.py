"""What a shot was, from what touched what: the words of the trade for it."""

from __future__ import annotations

import math
from dataclasses import dataclass

from aretane.core.ball import CUE
from aretane.core.geometry.groups import clusters
from aretane.core.layout import Layout
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
    first = next((e for e in shot.events if e.kind == "contact"), None)
    until = first.t if first is not None else math.inf
    if any(e.kind == "landing" and e.balls[0] == CUE and e.t <= until for e in shot.events):
        words.append("jump")
    if any(e.kind == "rail" and e.balls[0] == CUE and e.t < until for e in shot.events):
        words.append("kick")
    fraction = _fraction(before, shot, first)
    if ball is not None and first is not None:
        words += _way_of(ball, first, shot.events)
    opened = _opened(before, shot, ball)
    if opened:
        words.append(opened)
    if ball is None and fraction is not None and fraction < THIN:
        words.append("thin")
    plain = "pot" if ball is not None else "other"
    words = list(dict.fromkeys(words))
    main = next((word for word in words if word not in ("break-out", "nudge")), plain)
    return Kind(main, tuple(word for word in words if word != main), fraction)


def _way_of(ball: str, first: Event, events: tuple[Event, ...]) -> list[str]:
    """How the potted ball came to its pocket."""
    struck = first.balls[1] if first.balls[0] == CUE else first.balls[0]
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


def _fraction(before: Layout, shot: Shot, first: Event | None) -> float | None:
    """How full the first ball is hit: from the cue ball's direction at the contact."""
    if first is None or before.cue is None:
        return None
    struck = first.balls[1] if first.balls[0] == CUE else first.balls[0]
    leg = max((leg for leg in shot.legs[CUE] if leg.t < first.t - 1e-9), key=lambda leg: leg.t, default=None)
    if leg is None:
        return None
    s = first.t - leg.t
    x, y = (leg.place[i] + leg.velocity[i] * s + leg.acceleration[i] * s * s / 2 for i in (0, 1))
    vx, vy = (leg.velocity[i] + leg.acceleration[i] * s for i in (0, 1))
    bx, by = before.balls[struck]
    speed, apart = math.hypot(vx, vy), math.hypot(bx - x, by - y)
    if speed < 1e-9 or apart < 1e-9:
        return None
    across = abs(vx * (by - y) - vy * (bx - x)) / speed / apart
    return 1.0 - min(1.0, across)


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
