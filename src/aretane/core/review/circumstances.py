"""Under which circumstances a stroke was played, and what came of it beyond the stroke: what figures are told apart
by.

Pace and tip are told by the logged stroke, else by its words. The chance of a pot for a league hand is the closed
form of its window; it serves to compare players who had different shots, and says nothing of one shot.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Any

from aretane.core.review.replay import Replay
from aretane.core.review.skill_figures import SkillFigures
from aretane.core.review.strokes import Played, Visit, hidden_after, strokes_of, visits_of
from aretane.core.rules.game import opponent
from aretane.core.skill.effort import USUAL_EFFORT
from aretane.core.skill.estimate import pot_chance
from aretane.core.skill.hand import PRESETS

Data = Mapping[str, Any]

SOFT, FIRM = 1.3, 2.6  # m/s: paces as coaches call them (common practice)
CENTRE = 0.12  # radii: nearer to the middle of the ball's height is stun
MOST_RAILS = 3  # are told apart


@dataclass(frozen=True)
class Circumstances:
    """`tip` follow, stun or draw; `pace` soft, medium or firm; `rails` of the cue ball; `waited`: the first stroke
    of a visit; `seconds` from the contact before in the same visit; `standing` in racks before it: ahead, level,
    behind. `held`: after a lawful safety the opponent did not attack, `hidden`: he saw no ball on; `converted`: of
    the first stroke of an open chance, whether the visit brought it home, and whether the rack was `won`. `likely`:
    per cent that a league hand makes it. `next_way`: m from the meant ball to the one that was meant next. None is
    unknown.
    """

    tip: str | None = None
    pace: str | None = None
    rails: int | None = None
    waited: bool | None = None
    seconds: float | None = None
    standing: str | None = None
    held: bool | None = None
    hidden: bool | None = None
    converted: bool | None = None
    won: bool | None = None
    likely: int | None = None
    next_way: float | None = None


UNKNOWN = Circumstances()


def circumstances(replayed: Replay, since: int = 0) -> dict[tuple[int, int], Circumstances]:
    """Of every ruled stroke from rack `since` on, by rack and entry; `likely` is told by the window."""
    won = {"A": 0, "B": 0}
    found: dict[tuple[int, int], Circumstances] = {}
    for rack in range(len(replayed.racks)):
        if rack >= since:
            for visit in visits_of(list(strokes_of(0, replayed, rack))):
                found |= dict(_of_visit(visit, replayed.discipline, won, replayed.result.racks[rack].winner))
        if (winner := replayed.result.racks[rack].winner) in won:
            won[winner] += 1
    return found


def _of_visit(
    visit: Visit, discipline: str, won: Mapping[str, int], winner: str | None
) -> Iterator[tuple[tuple[int, int], Circumstances]]:
    before: Played | None = None
    for one in visit.strokes:
        first = before is None
        lead = won[one.player] - won[opponent(one.player)] if one.player in won else 0
        yield (
            (one.rack, one.index),
            Circumstances(
                tip=tip_of(one.data.get("stroke") or {}),
                pace=pace_of(one.data.get("stroke") or {}),
                rails=min(MOST_RAILS, len(one.data["route"])) if one.data.get("route") is not None else None,
                waited=None if one.is_break else first,
                seconds=_seconds(before, one),
                standing="ahead" if lead > 0 else "behind" if lead < 0 else "level",
                held=_held(one),
                hidden=hidden_after(one) if one.safe and not one.ruling.fouls else None,
                converted=visit.converted(discipline) if first and visit.begins_with_attack else None,
                next_way=_next_way(one),
                won=winner == one.player if first and visit.begins_with_attack and winner else None,
            ),
        )
        before = one


def likely_of(skill: SkillFigures) -> int | None:
    """The chance of a plain pot for a league hand, in per cent."""
    if skill.window is None or skill.gain is None or skill.rails or skill.made is None:
        return None
    return round(100 * pot_chance(skill.window, PRESETS["league"], USUAL_EFFORT, max(skill.gain, 1.0)))


def tip_of(stroke: Data) -> str | None:
    height = stroke.get("height")
    if isinstance(height, int | float):
        return "follow" if height > CENTRE else "draw" if height < -CENTRE else "stun"
    return _word(stroke, ("follow", "stun", "draw"))


def pace_of(stroke: Data) -> str | None:
    speed = stroke.get("speed")
    if isinstance(speed, int | float):
        return "soft" if speed < SOFT else "medium" if speed < FIRM else "firm"
    return _word(stroke, ("soft", "medium", "firm"))


def _word(stroke: Data, known: tuple[str, ...]) -> str | None:
    return next((word for word in stroke.get("words") or () if word in known), None)


def _next_way(one: Played) -> float | None:
    """From the meant ball to the one that the same player meant next, as they lay."""
    following = one.following
    if following is None or following.player != one.player or one.shot.before is None:
        return None
    balls = one.shot.before.balls
    meant, then = (str((each.data.get("called") or {}).get("ball")) for each in (one, following))
    if meant not in balls or then not in balls or meant == then:
        return None
    return math.dist(balls[meant], balls[then])


def _seconds(before: Played | None, now: Played) -> float | None:
    """From contact to contact in one recording."""
    if before is None or before.data.get("recording") != now.data.get("recording"):
        return None
    was, is_now = ((one.data.get("time") or {}).get("contact") for one in (before, now))
    return float(is_now - was) if was is not None and is_now is not None and is_now > was else None


def _held(one: Played) -> bool | None:
    """Of a lawful safety that was answered: whether the opponent did not attack."""
    following = one.following
    if not one.safe or one.ruling.fouls or following is None or following.player == one.player:
        return None
    return not following.attacks
