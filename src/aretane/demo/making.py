"""A match while it is being made up: where the balls lie, how the rack stands, what would follow from a stroke."""

from __future__ import annotations

import math
import random
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from aretane.core.ball import CUE
from aretane.core.geometry.measured import MeasuredShot, measure_shot
from aretane.core.geometry.potting_window import aim_gain, potting_window
from aretane.core.geometry.sight import visible_part
from aretane.core.layout import Layout, first_overlap
from aretane.core.review.replay import racked_again
from aretane.core.rules.disciplines import rules_of
from aretane.core.rules.entries import facts_of
from aretane.core.rules.game import IllegalEntry, RackState, Ruling, judge
from aretane.core.rules.options import with_defaults
from aretane.core.rules.spotting import spotted
from aretane.core.rules.traits import traits_of
from aretane.core.skill.effort import USUAL_EFFORT
from aretane.core.skill.estimate import pot_chance
from aretane.core.skill.hand import PRESETS as HANDS
from aretane.core.table import PRESETS, Point, Table
from aretane.demo.search import Outcome, Places
from aretane.demo.stories.story import Story

NEVER = math.inf
CROWDED = 1.25  # in ball diameters: nearer to another ball nobody likes to play
HIDDEN = 0.03

HARDLY = 0.2  # a league hand makes it: nobody plays a rack on with such pots
# It makes what is missed: by turns so often, never more than the last. Among many balls an easy one is always on.
MISSED, MISSED_AMONG_MANY = (0.35, 0.5, 0.65, 0.75, 0.9), (0.7, 0.8, 0.9, 1.0)

# The hardest pot that is made, and that is tried: cut in degrees, way of both balls in lengths of the table
MADE, TRIED = (56.0, 0.95), (66.0, 1.35)


Mark = tuple[RackState, Places, list[dict[str, Any]]]


class DeadEnd(RuntimeError):
    """The story cannot go on from here; the rack is begun again."""


@dataclass(frozen=True)
class Line:
    """One entry of a story, as told."""

    player: str
    what: str
    particular: str = ""
    causes: tuple[str, ...] = ()
    note: str = ""


@dataclass(frozen=True)
class Next:
    """What an entry would lead to: the ruling, and the places with everything spotted or racked again."""

    shot: dict[str, Any]
    ruling: Ruling
    places: Places


@dataclass
class Making:
    """One rack of the story under way. `filmed`: the recording that reading is measured on shows it, so its strokes
    stay as they first came.
    """

    story: Story
    dice: random.Random
    state: RackState
    places: Places = field(default_factory=dict)
    shots: list[dict[str, Any]] = field(default_factory=list)
    filmed: bool = False

    @property
    def table(self) -> Table:
        return PRESETS[self.story.table]

    @property
    def options(self) -> Mapping[str, Any]:
        given = {**self.story.rules, "race_to": self.story.race_to}
        return with_defaults(self.story.discipline, given)

    @property
    def layout(self) -> Layout:
        return self.layout_of(self.places)

    @property
    def legal(self) -> tuple[str, ...]:
        return rules_of(self.story.discipline).legal_balls(self.state)

    def legal_after(self, follows: Next) -> tuple[str, ...]:
        return rules_of(self.story.discipline).legal_balls(follows.ruling.after)

    def layout_of(self, places: Places) -> Layout:
        return Layout(self.table, self.story.discipline, places)

    def entry(self, shot: dict[str, Any], outcome: Outcome) -> Next | None:
        """The shot with this outcome as an entry, and what the rules make of it; None if that cannot be."""
        told = {
            **shot,
            "layout_before": snapshot(self.places),
            "first_contact": outcome.first,
            "rails_after_contact": outcome.rails,
            "potted": [{"ball": ball, "pocket": pocket} for ball, pocket in outcome.fell.items()],
            "layout_after": snapshot(outcome.places),
        }
        if shot.get("kind") == "break":
            told["object_balls_to_rail"] = outcome.object_rails
        if outcome.scratch:
            told["scratch"] = True
        if outcome.off_table:
            told["off_table"] = list(outcome.off_table)
        return self.judged(told, outcome.places)

    def judged(self, shot: dict[str, Any], places: Places) -> Next | None:
        discipline = self.story.discipline
        facts = facts_of(shot, self.table, discipline)
        try:
            ruling = judge(rules_of(discipline), self.state, facts, self.options)
        except IllegalEntry:
            return None
        if ruling.racked:
            after = dict(racked_again(self.table, discipline, places, places, ruling))
        else:
            after = spotted(self.table, discipline, places, ruling.spotted)
        if ruling.after.in_hand and CUE in after and ruling.fouls:
            after = {ball: place for ball, place in after.items() if ball != CUE}
        if first_overlap(self.layout_of(after)):
            return None
        return Next(shot, ruling, {ball: rounded(place) for ball, place in after.items()})

    def take(self, following: Next) -> None:
        self.shots.append(following.shot)
        self.state, self.places = following.ruling.after, following.places

    def mark(self) -> Mark:
        """Where the rack stands now, to come back to."""
        return self.state, dict(self.places), list(self.shots)

    def back_to(self, mark: Mark) -> None:
        self.state, self.places, self.shots = mark[0], dict(mark[1]), list(mark[2])

    def cost(self, follows: Next, line: Line | None) -> float:
        """How unlike what the next line needs this would leave the table; infinite if it cannot be played."""
        ruling = follows.ruling
        if line is None:
            return 0.0 if ruling.after.winner or self.story.open_end else NEVER
        if ruling.after.winner or ruling.next != line.player:
            return NEVER
        if CUE not in follows.places:
            return 0.0
        return self.cost_here(self.layout_of(follows.places), self.legal_after(follows), line)

    def cost_here(self, layout: Layout, legal: tuple[str, ...], line: Line) -> float:
        """The same of a table as it lies. People miss what is hard, seldom what is nearly certain; the filmed rack
        was told before that was asked.
        """
        cost = cost_of(layout, legal, line)
        if self.filmed or cost == NEVER or line.what not in ("pot", "miss"):
            return cost
        chosen = best(layout, wanted(legal, line.particular if line.what == "pot" else ""), line.what == "miss")
        assert chosen is not None
        chance = chance_of(layout, chosen[1])
        if line.what == "pot":
            return cost if chance > HARDLY else NEVER
        missed = MISSED_AMONG_MANY if traits_of(self.story.discipline).goes_on else MISSED
        usual = missed[len(self.shots) % len(missed)]
        return 4 * abs(chance - usual) if chance <= missed[-1] else NEVER


def cost_of(layout: Layout, legal: tuple[str, ...], line: Line) -> float:
    """How hard the line is to play from here: the length and cut of a pot, nothing for most others."""
    if crowded(layout):
        return NEVER
    if line.what in ("pot", "scratch", "fluke", "wrong-pocket", "miss"):
        chosen = best(layout, wanted(legal, line.particular if line.what == "pot" else ""), line.what == "miss")
        return chosen[0] if chosen else NEVER
    if line.what == "kick":
        return 0.0 if seen(layout, legal) < HIDDEN else NEVER
    return 0.0


def chance_of(layout: Layout, shot: MeasuredShot) -> float:
    """How often a league hand makes it."""
    assert shot.cut is not None
    assert shot.tolerance is not None
    angle, away = shot.cut.angle, shot.cut.cue_distance
    window = potting_window(layout.table, shot.pocket, angle, away, shot.pocket_distance, shot.tolerance, shot.open)
    return pot_chance(window, HANDS["league"], USUAL_EFFORT, aim_gain(layout.table, angle, away))


def wanted(legal: tuple[str, ...], sort: str) -> tuple[str, ...]:
    """The lawful balls that the line speaks of: all of them, or "red", "black", "7"."""
    return tuple(ball for ball in legal if not sort or ball == sort or ball.startswith(f"{sort}-"))


def best(layout: Layout, balls: tuple[str, ...], hard: bool = False) -> tuple[float, MeasuredShot] | None:
    """The pot that most players would choose, with its cost; `hard` allows what is often missed."""
    found = pots(layout, balls, TRIED if hard else MADE)
    return min(found, key=lambda one: one[0]) if found else None


def pots(layout: Layout, balls: tuple[str, ...], limit: tuple[float, float]) -> list[tuple[float, MeasuredShot]]:
    """Every pot within the limit, with its cost."""
    found = []
    for ball in balls:
        if ball not in layout.balls:
            continue
        for pocket in layout.table.pockets:
            shot = measure_shot(layout, ball, pocket)
            if not shot.playable or shot.cut is None or shot.open < 0.95:
                continue
            cut = abs(math.degrees(shot.cut.angle))
            way = (shot.cut.cue_distance + shot.pocket_distance) / layout.table.length
            if 2.0 < cut < limit[0] and way < limit[1] and shot.cut.cue_distance > 2 * layout.table.ball_diameter:
                found.append((cut / 40 + 2.5 * way + 0.8 * (shot.pocket_distance / layout.table.length), shot))
    return found


def seen(layout: Layout, legal: tuple[str, ...]) -> float:
    """How much of the best seen lawful ball can be hit."""
    if layout.cue is None:
        return 0.0
    reach = layout.table.radius + layout.table.cue_radius
    return max((visible_part(layout.cue, ball, layout.object_balls, reach) for ball in legal), default=0.0)


def crowded(layout: Layout) -> bool:
    cue = layout.cue
    near = CROWDED * layout.table.ball_diameter
    return cue is not None and any(math.dist(cue, place) < near for place in layout.object_balls.values())


def snapshot(places: Places) -> dict[str, Any]:
    return {"balls": {ball: list(place) for ball, place in places.items()}}


def rounded(place: Point, digits: int = 4) -> Point:
    return round(place[0], digits), round(place[1], digits)


def in_play(state: RackState) -> RackState:
    """A rack that is begun in the middle: its break is over."""
    return replace(state, phase="play", in_hand=None)
