"""Makes the shipped demo: `python -m aretane.demo.make [DISCIPLINE ...]`. Seeded, so that it comes out the same.

Every shot is simulated: for each line of a story strokes are tried until one does what the line says and leaves a
table from which the next line can be played. The stroke is kept with the shot, so that the file repeats it.
"""

from __future__ import annotations

import json
import random
import re
import sys
from dataclasses import replace
from pathlib import Path
from typing import Any

from aretane.core.ball import CUE
from aretane.core.rack import racked
from aretane.core.rules.disciplines import rules_of
from aretane.core.rules.referee import referee
from aretane.demo.making import DeadEnd, Line, Making, in_play, rounded
from aretane.demo.plays import play
from aretane.demo.stories import STORIES
from aretane.demo.stories.story import Story

FOLDER = Path(__file__).parent
ATTEMPTS = 3000  # entries of one rack
PATIENCE = 2  # failures of a line before one line more is played anew


def make_match(story: Story) -> dict[str, Any]:
    """A whole match as data of the match format."""
    racks = [make_rack(story, number) for number in range(len(story.racks))]
    start = dict(story.start)
    if start:
        start["layout"] = {"balls": racks[0]["shots"][0]["layout_before"]["balls"], "state": {}}
    match: dict[str, Any] = {
        "format": "aretane-match",
        "version": 1,
        "title": story.title,
        "date": story.date,
        "discipline": story.discipline,
        "rules": dict(story.rules),
        "table": story.table,
        "race_to": story.race_to,
        "session": "match",
        "players": {seat: {"name": name} for seat, name in story.players.items()},
        "recordings": [],
        "racks": racks,
    }
    if start:
        match["start"] = start
    referee(match)
    return match


def make_rack(story: Story, number: int) -> dict[str, Any]:
    """A rack line by line; where the story cannot go on, lines before are played anew, further and further back."""
    lines = [line for told in story.racks[number] for line in read_line(told)]
    making = _begin(story, lines[0].player, random.Random(1000 * number))
    making.filmed = number == story.recorded
    reached = [making.mark()]
    failed = [0] * len(lines)
    for attempt in range(ATTEMPTS):
        index = len(reached) - 1
        if index == len(lines):
            print(f"{story.discipline}, rack {number + 1}: {attempt} entries tried", flush=True)
            return _rack(story, number, making)
        try:
            play(making, lines[index], lines[index + 1] if index + 1 < len(lines) else None)
            reached.append(making.mark())
        except DeadEnd:
            failed[index] += 1
            del reached[max(1, len(reached) - 1 - failed[index] // PATIENCE) :]
            making.back_to(reached[-1])
    raise RuntimeError(f"{story.discipline}: rack {number + 1} stays at {lines[len(reached) - 1]}")


def _rack(story: Story, number: int, making: Making) -> dict[str, Any]:
    rack: dict[str, Any] = {"breaker": making.shots[0]["player"]}
    if number in story.conceded_by:
        rack["conceded_by"] = story.conceded_by[number]
    if number in story.notes:
        rack["note"] = story.notes[number]
    if number in story.plans:
        rack["plan"] = {"plans": [dict(plan) for plan in story.plans[number]]}
    return {**rack, "shots": making.shots}


def _begin(story: Story, breaker: str, dice: random.Random) -> Making:
    state = rules_of(story.discipline).rack(breaker, Making(story, dice, None).options)  # type: ignore[arg-type]
    making = Making(story, dice, state)
    if story.start:
        making.state = in_play(state)
        making.places = _break_ball(making)
    return making


def _break_ball(making: Making) -> dict[str, tuple[float, float]]:
    """Straight pool: fourteen in the rack, the fifteenth beside it, the cue ball above it for a break shot."""
    table, dice = making.table, making.dice
    balls = {
        b: rounded(p, 5) for b, p in racked(table, making.story.discipline, dice.randrange(10**6)).balls.items()
    }
    last = next(iter(balls))
    side = dice.choice((-1, 1))
    balls[last] = rounded(
        (table.foot_spot + dice.uniform(-0.02, 0.1), table.width / 2 + side * dice.uniform(0.2, 0.3))
    )
    cue = (balls[last][0] - dice.uniform(0.3, 0.5), balls[last][1] - side * dice.uniform(-0.05, 0.25))
    return {CUE: rounded(cue), **balls}


def read_line(told: str) -> list[Line]:
    """A line of a story; a run becomes several, the first with the note."""
    head, _, note = told.partition(" -- ")
    causes = tuple(cause.strip() for found in re.findall(r"\[(.*)\]", head) for cause in found.split(","))
    player, what, *particulars = re.sub(r"\[.*\]", "", head).split()
    first = Line(player, what, particulars[0] if particulars else "", causes, note)
    if what != "run":
        return [first]
    sorts = [""] * int(particulars[0]) if particulars[0].isdigit() else particulars
    pots = [replace(first, what="pot", particular=sort, note="") for sort in sorts]
    return [replace(pots[0], note=note), *pots[1:]]


def write(story: Story) -> None:
    from aretane.demo.film import film_rack

    made = make_match(story)
    if story.recorded is not None:
        recording, timed = film_rack(made["racks"][story.recorded], FOLDER)
        made["racks"][story.recorded] = timed
        made["recordings"] = [recording]
        referee(made)
    text = json.dumps(made, indent=1, ensure_ascii=False)
    (FOLDER / "matches" / f"{story.discipline}.json").write_text(text + "\n")


if __name__ == "__main__":
    for story in STORIES:
        if len(sys.argv) == 1 or story.discipline in sys.argv[1:]:
            write(story)
