"""Under which circumstances a stroke was played, and what came of it beyond the stroke: what figures are told apart
by.

Pace and tip are told by the logged stroke, else by its words. The chance of a pot for a league hand is the closed
form of its window; it serves to compare players who had different shots, and says nothing of one shot.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from aretane.core.review import exchanges
from aretane.core.review.replay import Replay
from aretane.core.review.skill_figures import SkillFigures
from aretane.core.review.strokes import ESCAPE, Played, Visit, hidden_after, needed_by, strokes_of, visits_of
from aretane.core.rules.game import opponent
from aretane.core.rules.traits import traits_of
from aretane.core.skill.effort import USUAL_EFFORT
from aretane.core.skill.estimate import pot_chance
from aretane.core.skill.hand import PRESETS
from aretane.core.statistics.squares import square_of
from aretane.core.words import PACES, TIPS, pace_words, tip_words

Data = Mapping[str, Any]

MOST_RAILS = 3  # are told apart
LAST_BALLS = 3  # end pattern: so many balls or fewer are still needed


@dataclass(frozen=True)
class Circumstances:
    """`tip` follow, stun or draw; `pace` soft, medium or firm; `rails` of the cue ball; `reach` and `cueing` as
    `stance` tells them; `waited`: the first stroke of a visit; `seconds` from the contact before in the same visit;
    `standing` in racks before it: ahead, level, behind; `stake`: the rack could end the match; `phase` of the rack;
    `lay` and `stopped`: the cue ball's square before and after. None is unknown.

    After a lawful safety: the opponent did not attack (`held`), saw no ball on (`hidden`), fouled (`drew`), had so
    many metres to the nearest ball on (`away`); of the first one, whether the exchange gave the first attack
    (`exchange`). `hit`: of an escape, whether it hit.

    Of the first stroke of a visit what it `scored` (points, else balls); of an open chance whether it was
    `converted`, whether the rack was `won`, and of the first one in a rack whether it was `cleared`. `took`: the
    rack went to this player.

    `likely`: per cent that a league hand makes it; `felt` and `computed` per cent of somebody's own estimate and of
    what the choices said beside it. `entered`: the part of the pocket that a ball fell by, thick, middle or thin.
    `next_way`: m from the meant ball to the one that was meant next. `missed_by`:
    m from its zone at which the stroke before left the cue ball, 0 within it.
    """

    tip: str | None = None
    pace: str | None = None
    rails: int | None = None
    reach: str | None = None
    cueing: str | None = None
    waited: bool | None = None
    seconds: float | None = None
    standing: str | None = None
    stake: bool | None = None
    phase: str | None = None
    lay: int | None = None
    stopped: int | None = None
    held: bool | None = None
    hidden: bool | None = None
    drew: bool | None = None
    away: float | None = None
    exchange: bool | None = None
    hit: bool | None = None
    scored: int | None = None
    converted: bool | None = None
    cleared: bool | None = None
    won: bool | None = None
    took: bool | None = None
    likely: int | None = None
    felt: int | None = None
    computed: int | None = None
    entered: str | None = None
    next_way: float | None = None
    missed_by: float | None = None


UNKNOWN = Circumstances()


def circumstances(replayed: Replay, since: int = 0) -> dict[tuple[int, int], Circumstances]:
    """Of every ruled stroke from rack `since` on, by rack and entry; what a shot's geometry tells is added where
    that is measured (`likely`, `reach`, `cueing`, `missed_by`).
    """
    race = replayed.result.options.get("race_to")
    won = {"A": 0, "B": 0}
    found: dict[tuple[int, int], Circumstances] = {}
    for rack in range(len(replayed.racks)):
        winner = replayed.result.racks[rack].winner
        if rack >= since:
            at = Standing(replayed.discipline, dict(won), race, winner)
            visits = list(visits_of(list(strokes_of(0, replayed, rack))))
            first = next((number for number, one in enumerate(visits) if one.begins_with_attack), None)
            preceding = None
            for number, visit in enumerate(visits):
                found |= dict(_of_visit(visit, at, preceding, first_chance=number == first))
                preceding = visit.strokes[-1]
        if winner in won:
            won[winner] += 1
    return found


@dataclass(frozen=True)
class Standing:
    """Racks that each had won before this one, the `race` (None: no end is agreed), and who won this one."""

    discipline: str
    won: Mapping[str, int]
    race: int | None
    winner: str | None

    def of(self, player: str) -> str:
        lead = self.won[player] - self.won[opponent(player)] if player in self.won else 0
        return "ahead" if lead > 0 else "behind" if lead < 0 else "level"

    @property
    def at_stake(self) -> bool | None:
        if self.race is None or traits_of(self.discipline).goes_on:
            return None
        return max(self.won.values()) >= self.race - 1


def _of_visit(
    visit: Visit, at: Standing, preceding: Played | None, *, first_chance: bool
) -> Iterator[tuple[tuple[int, int], Circumstances]]:
    points = traits_of(at.discipline).points
    before: Played | None = None
    for one in visit.strokes:
        first = before is None
        chance = first and visit.begins_with_attack
        stroke, felt = one.data.get("stroke") or {}, one.data.get("felt") or {}
        layout, after = one.shot.before, one.shot.after
        yield (
            (one.rack, one.index),
            Circumstances(
                tip=tip_of(stroke),
                pace=pace_of(stroke),
                rails=min(MOST_RAILS, len(one.data["route"])) if one.data.get("route") is not None else None,
                waited=None if one.is_break else first,
                seconds=_seconds(before, one),
                standing=at.of(one.player),
                stake=at.at_stake,
                phase=_phase(one, at.discipline),
                lay=square_of(layout.table, layout.cue) if layout is not None and layout.cue else None,
                stopped=square_of(after.table, after.cue) if after is not None and after.cue else None,
                hidden=hidden_after(one) if one.safe and not one.ruling.fouls else None,
                **exchanges.after_safety(one, before or preceding),
                hit=not one.ruling.fouls if one.counts and one.data.get("intent") == ESCAPE else None,
                scored=(visit.scored if points else visit.balls) if first and visit.inning else None,
                converted=visit.converted(at.discipline) if chance else None,
                cleared=visit.cleared(at.discipline) if chance and first_chance else None,
                won=at.winner == one.player if chance and at.winner else None,
                took=at.winner == one.player if at.winner else None,
                felt=_per_cent(felt.get("pot")),
                computed=_per_cent((felt.get("computed") or {}).get("pot")),
                entered=(one.data.get("entered") or {}).get("part"),
                next_way=_next_way(one),
            ),
        )
        before = one


def _phase(one: Played, discipline: str) -> str:
    """Opening (break shots, push-outs), end (so few balls are still needed), pattern: the recovery among them is
    told by how far the stroke before missed its zone.
    """
    if one.is_break or one.is_push_out:
        return "opening"
    return "end" if len(needed_by(discipline, one.before, one.player)) <= LAST_BALLS else "pattern"


def _per_cent(share: object) -> int | None:
    return round(100 * share) if isinstance(share, int | float) and not isinstance(share, bool) else None


def likely_of(skill: SkillFigures) -> int | None:
    """The chance of a plain pot for a league hand, in per cent."""
    if skill.window is None or skill.gain is None or skill.rails or skill.made is None:
        return None
    return round(100 * pot_chance(skill.window, PRESETS["league"], USUAL_EFFORT, max(skill.gain, 1.0)))


def tip_of(stroke: Data) -> str | None:
    height = stroke.get("height")
    return tip_words(float(height)) if isinstance(height, int | float) else _word(stroke, TIPS)


def pace_of(stroke: Data) -> str | None:
    speed = stroke.get("speed")
    return pace_words(float(speed)) if isinstance(speed, int | float) else _word(stroke, PACES)


def _word(stroke: Data, known: Sequence[str]) -> str | None:
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
