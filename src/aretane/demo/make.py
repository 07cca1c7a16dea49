"""Makes the shipped demo: `python -m aretane.demo.make`. Seeded, so that it comes out the same.

Every shot is simulated: for each line of the story strokes are tried until one does what the line says and
leaves a table from which the next line can be played. The stroke is kept with the shot, so that the file
repeats it.
"""

from __future__ import annotations

import json
import math
import random
import re
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from aretane.core.ball import CUE
from aretane.core.geometry.plane import ahead, bearing, turn
from aretane.core.geometry.reading import ShotReading, read_shot, visible_parts
from aretane.core.layout import Layout, first_overlap, on_table
from aretane.core.physics.shot import Shot
from aretane.core.rack import racked
from aretane.core.rules.referee import referee
from aretane.core.table import PRESETS, Point, Table
from aretane.demo import script
from aretane.demo.search import falls, first_is, nothing_falls, played, strokes_anywhere, strokes_at

FOLDER = Path(__file__).parent
DISCIPLINE = "nine-ball"
TABLE: Table = PRESETS["pool-9ft"]
TRIES = 3000  # strokes for one line
RACKS = 1500  # racks broken for one break

Places = dict[str, Point]


class DeadEnd(RuntimeError):
    """The story cannot go on from these places; the rack is begun again."""


@dataclass
class Story:
    """The rack while it is being made up."""

    dice: random.Random
    places: Places = field(default_factory=dict)
    shots: list[dict[str, Any]] = field(default_factory=list)
    in_hand: bool = False

    @property
    def layout(self) -> Layout:
        return _layout(self.places)

    @property
    def lowest(self) -> str:
        return min((ball for ball in self.places if ball != CUE), key=int)


def make_match(recording: dict[str, Any] | None = None) -> dict[str, Any]:
    """The whole demo match as data of the match format."""
    racks = [make_rack(number, lines) for number, lines in enumerate(script.RACKS)]
    match: dict[str, Any] = {
        "format": "aretane-match",
        "version": 1,
        "title": script.TITLE,
        "date": "2026-01-17",
        "discipline": DISCIPLINE,
        "rules": {"breaks": "winner"},
        "table": TABLE.name,
        "race_to": script.RACE_TO,
        "session": "match",
        "players": {seat: {"name": name} for seat, name in script.PLAYERS.items()},
        "recordings": [recording] if recording else [],
        "racks": racks,
    }
    referee(match)
    return match


def make_rack(number: int, lines: list[str]) -> dict[str, Any]:
    for attempt in range(400):
        try:
            table = Story(random.Random(1000 * number + attempt))
            for index, line in enumerate(lines):
                _play(table, line, lines[index + 1] if index + 1 < len(lines) else "")
            print(f"rack {number + 1}: {attempt + 1} attempts")
            return {"breaker": lines[0][0], "shots": table.shots}
        except DeadEnd:
            continue
    raise RuntimeError(f"rack {number + 1} cannot be made up")


def _play(table: Story, line: str, following: str) -> None:
    head, _, note = line.partition(" -- ")
    causes = re.findall(r"\[(.*)\]", head)
    words = re.sub(r"\[.*\]", "", head).split()
    player, what, particular = words[0], words[1], words[2] if len(words) > 2 else ""
    shot: dict[str, Any] = {"player": player}
    if what in ("accept", "pass-back"):
        shot["declared"] = what
        shot["layout_before"] = shot["layout_after"] = _snapshot(table.places)
    else:
        if table.in_hand and what != "break":
            _take_in_hand(table, what)
        _PLAYS[what](table, shot, particular, following)
        shot["layout_after"] = _snapshot(table.places)
        table.in_hand = CUE not in table.places
    if causes:
        shot["causes"] = [cause.strip() for cause in causes[0].split(",")]
    if note:
        shot["note"] = note
    table.shots.append(shot)


def _snapshot(places: Places) -> dict[str, Any]:
    return {"balls": {ball: list(place) for ball, place in places.items()}}


def _take(table: Story, shot: dict[str, Any], result: Shot) -> None:
    """Write down what the simulated shot was, and go on from where it left the balls."""
    shot.setdefault("layout_before", _snapshot(table.places))
    stroke = result.stroke
    numbers = {"aim": stroke.aim, "speed": stroke.speed, "side": stroke.side, "height": stroke.height}
    shot["stroke"] = {"words": _stroke_words(stroke.speed, stroke.side, stroke.height), **numbers}
    shot["first_contact"] = result.first_contact
    shot["rails_after_contact"] = result.rails_after_contact
    shot["potted"] = [{"ball": ball, "pocket": pocket} for ball, pocket, _ in result.potted if ball != CUE]
    if result.scratch:
        shot["scratch"] = True
    way = [event for event in result.events if event.balls[0] == CUE and event.kind in ("rail", "contact")]
    if way and result.cue_rails:
        shot["route"] = [list(_rounded(event.place)) for event in way if event.kind == "rail"]
    table.places = {ball: _rounded(place) for ball, place in result.final.balls.items()}
    if first_overlap(table.layout):
        raise DeadEnd


def _stroke_words(speed: float, side: float, height: float) -> list[str]:
    words = ["soft" if speed < 1.3 else "medium" if speed < 2.6 else "firm"]
    words.append("follow" if height > 0.12 else "draw" if height < -0.12 else "stun")
    if side:
        words.append("right" if side > 0 else "left")
    return words


# The entries of the story


def _break(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    potted = [ball for ball in particular.split(",") if ball.isdigit()]
    scratch = particular == "scratch"
    for _ in range(RACKS):
        layout = racked(TABLE, DISCIPLINE, table.dice.randrange(10**6))
        cue = (round(TABLE.head_line - 0.03, 4), round(TABLE.width / 2 + table.dice.uniform(-0.35, 0.35), 4))
        table.places = {CUE: cue, **{ball: _rounded(place, 5) for ball, place in layout.balls.items()}}
        rows = strokes_at(table.layout, "1", table.dice, 12, (7.0, 9.0))
        straight = bearing(cue, table.places["1"])
        rows[:, 0] = [round(straight + table.dice.gauss(0, 0.006), 5) for _ in rows]
        rows[:, 2:4] = 0.0
        down = [*potted, CUE] if scratch else potted
        for result in played(table.layout, rows, first_is("1", falls(*down))):
            if not potted and result.object_balls_to_rail < 4:
                continue
            if not scratch and not _suits(_after(result), following):
                continue
            shot.update(kind="break", intent="attack", intent_source="inferred")
            shot["object_balls_to_rail"] = result.object_balls_to_rail
            _take(table, shot, result)
            return
    raise DeadEnd


def _pot(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    reading = _best(table.places)
    _describe(shot, reading, "pot")
    same = following[:1] == shot["player"] and following.split()[1:2] in (["pot"], ["miss"], ["bank"], ["scratch"])
    for result in _shots(table, first_is(reading.ball, falls(reading.ball))):
        if result.potted[0][1] == reading.pocket and not _banked(result, reading.ball):
            if not _suits(_after(result), following):
                continue
            _take(table, shot, result)
            if same:
                _aim_for_zone(table, shot, result)
            return
    raise DeadEnd


def _bank(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    ball = table.lowest
    for result in _shots(table, first_is(ball, falls(ball)), rounds=3):
        if _banked(result, ball) and _suits(_after(result), following):
            shot.update(kind="bank", intent="attack", intent_source="stated", felt={"pot": 0.45})
            shot["called"] = {"ball": ball, "pocket": result.potted[0][1]}
            _take(table, shot, result)
            return
    raise DeadEnd


def _scratch(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    reading = _best(table.places)
    _describe(shot, reading, "pot")
    for result in _shots(table, first_is(reading.ball, falls(reading.ball, CUE))):
        if not _banked(result, reading.ball) and (reading.ball, reading.pocket) in [p[:2] for p in result.potted]:
            _take(table, shot, result)
            return
    raise DeadEnd


def _miss(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    reading = _best(table.places, hard=True)
    _describe(shot, reading, "pot")
    for result in _shots(table, first_is(reading.ball, nothing_falls)):
        if result.rails_after_contact and _missed(table, result, reading) == particular:
            if not _suits(_after(result), following):
                continue
            shot["result"] = f"missed-{particular}"
            _take(table, shot, result)
            if following[:1] == shot["player"]:
                _aim_for_zone(table, shot, result)
            return
    raise DeadEnd


def _missed(table: Story, result: Shot, reading: ShotReading) -> str | None:
    """How the ball missed its pocket: in the jaws, thick or thin of it; None if it was nowhere near."""
    for event in result.events:
        if event.balls[0] == reading.ball and event.kind in ("jaw", "rail"):
            if event.kind == "jaw" and event.pocket == reading.pocket:
                return "jaw"
            break
    moving = next((leg for leg in result.legs[reading.ball] if leg.phase == "slide"), None)
    if moving is None or reading.cut is None:
        return None
    ball = table.places[reading.ball]
    went = math.atan2(moving.velocity[1], moving.velocity[0])
    off = turn(bearing(ball, TABLE.pockets[reading.pocket].mouth), went)
    full = turn(bearing(table.places[CUE], ball), bearing(ball, TABLE.pockets[reading.pocket].mouth))
    if not 0.02 < abs(off) < 0.12:
        return None
    return "thin" if off * full > 0 else "thick"


def _fluke(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    reading = _best(table.places)
    _describe(shot, reading, "pot")
    for result in _shots(table, first_is(reading.ball, falls(particular)), rounds=3):
        if _suits(_after(result), following):
            shot["result"] = "fluke"
            _take(table, shot, result)
            return
    raise DeadEnd


def _combo(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    _combination(table, shot, particular, falls(particular))


def _combo_scratch(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    _combination(table, shot, particular, falls(particular, CUE))
    table.places[particular] = (TABLE.foot_spot, TABLE.width / 2)
    if first_overlap(table.layout):
        raise DeadEnd


def _combination(table: Story, shot: dict[str, Any], ball: str, down: Any) -> None:
    for result in _shots(table, first_is(table.lowest, down), rounds=3):
        pushed = any(
            event.kind == "contact" and set(event.balls) == {table.lowest, ball} for event in result.events
        )
        if pushed and not _banked(result, ball):
            pocket = next(pocket for fallen, pocket, _ in result.potted if fallen == ball)
            shot.update(kind="combination", intent="attack", intent_source="stated")
            shot["called"] = {"ball": ball, "pocket": pocket}
            _take(table, shot, result)
            return
    raise DeadEnd


def _safe(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    ball = table.lowest
    for result in _shots(table, first_is(ball, nothing_falls)):
        after = _after(result)
        if result.rails_after_contact and not _crowded(after) and visible_parts(_layout(after))[ball] < 0.05:
            shot.update(kind="thin", also=["safety"], intent="safety", intent_source="inferred")
            shot["targets"] = _zones(_near(table.dice, after[CUE], 0.05), 0.15, "inferred", None)
            _take(table, shot, result)
            return
    raise DeadEnd


def _kick(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    ball = table.lowest
    others = [b for b in table.places if b not in (CUE, ball)]
    first: str | None = {"no-hit": None, "wrong": table.dice.choice(others)}.get(particular, ball)
    rows = strokes_anywhere(table.dice, 4 * TRIES, (1.2, 3.6))
    for result in played(table.layout, rows, first_is(first, nothing_falls)):
        struck = next((e.t for e in result.events if e.kind == "contact"), math.inf)
        kicked = any(e.kind == "rail" and e.balls[0] == CUE and e.t < struck for e in result.events)
        legal = result.rails_after_contact > 0
        if not kicked or (particular == "" and not (legal and _suits(_after(result), following))):
            continue
        if particular == "no-rail" and legal:
            continue
        shot.update(kind="kick", intent="escape", intent_source="inferred")
        _take(table, shot, result)
        if particular:  # a foul: the other player picks the cue ball up
            del table.places[CUE]
        return
    raise DeadEnd


def _push_out(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    rows = strokes_anywhere(table.dice, 300, (0.6, 2.0))
    for result in played(table.layout, rows, first_is(None, nothing_falls)):
        shot.update(kind="other", declared="push-out", intent="push-out", intent_source="stated")
        _take(table, shot, result)
        return
    raise DeadEnd


_PLAYS = {
    "break": _break,
    "pot": _pot,
    "bank": _bank,
    "scratch": _scratch,
    "miss": _miss,
    "fluke": _fluke,
    "combo": _combo,
    "combo-scratch": _combo_scratch,
    "safe": _safe,
    "kick": _kick,
    "push-out": _push_out,
}


# Where balls go


def _shots(table: Story, wanted: Any, rounds: int = 1) -> Iterator[Shot]:
    """Shots at the lowest ball whose outcome is wanted."""
    for _ in range(rounds):
        yield from played(table.layout, strokes_at(table.layout, table.lowest, table.dice, TRIES), wanted)


def _after(result: Shot) -> Places:
    return dict(result.final.balls)


def _banked(result: Shot, ball: str) -> bool:
    """Whether the ball struck a rail on its way into the pocket."""
    return any(event.kind == "rail" and event.balls[0] == ball for event in result.events)


def _describe(shot: dict[str, Any], reading: ShotReading, kind: str) -> None:
    stated = shot["player"] == "A"
    shot.update(kind=kind, intent="attack", intent_source="stated" if stated else "inferred")
    shot["called"] = {"ball": reading.ball, "pocket": reading.pocket}


def _aim_for_zone(table: Story, shot: dict[str, Any], result: Shot) -> None:
    """The zone that was meant: the stop less an error of speed and line."""
    stop = table.places[CUE]
    turns = [e.place for e in result.events if e.balls[0] == CUE and e.kind in ("rail", "contact")]
    leg = bearing(turns[-1], stop) if math.dist(turns[-1], stop) > 0.02 else 0.0
    long = table.dice.gauss(0.04, 0.13)  # this player's table runs a little long
    wide = table.dice.gauss(0.0, 0.06)
    centre = ahead(ahead(stop, leg, -long), leg + math.pi / 2, -wide)
    if not on_table(TABLE, centre, TABLE.radius / 0.96):
        centre = stop
    following = _best(table.places, hard=True)
    source = "stated" if shot["player"] == "A" else "inferred"
    shot["targets"] = _zones(centre, 0.1, source, {"ball": following.ball, "pocket": following.pocket})


def _zones(centre: Point, radius: float, source: str, following: dict[str, str] | None) -> dict[str, Any]:
    rounded = [round(centre[0], 4), round(centre[1], 4)]
    zones = [
        {"grade": "ideal", "centre": rounded, "radius": round(radius / 2, 3)},
        {"grade": "acceptable", "centre": rounded, "radius": radius},
    ]
    target: dict[str, Any] = {"source": source, "zones": zones}
    if following:
        target["next"] = following
    return {CUE: target}


def _take_in_hand(table: Story, what: str) -> None:
    for _ in range(600):
        place = _near(table.dice, table.places[table.lowest], 0.7)
        trial = {**table.places, CUE: place}
        if not on_table(TABLE, place, TABLE.radius / 0.96) or first_overlap(_layout(trial)):
            continue
        if _suits(trial, f"A {what}"):
            table.places = trial
            return
    raise DeadEnd


def _suits(places: Places, following: str) -> bool:
    """Whether the next line of the story can be played from here."""
    if first_overlap(_layout(places)) or _crowded(places):
        return False
    what = following.split()[1] if following else ""
    if what in ("pot", "scratch", "fluke", "miss"):
        try:
            _best(places, hard=what == "miss")
        except DeadEnd:
            return False
    return True


def _best(places: Places, hard: bool = False) -> ShotReading:
    """The pot a player would choose; `hard` allows what is often missed."""
    layout = _layout(places)
    ball = min((b for b in places if b != CUE), key=int)
    found = []
    for pocket in TABLE.pockets:
        shot = read_shot(layout, ball, pocket)
        if not shot.playable or shot.cut is None or shot.open < 0.95 or shot.cut.cue_distance < 0.12:
            continue
        cut = abs(math.degrees(shot.cut.angle))
        length = shot.cut.cue_distance + shot.pocket_distance
        limit = (62.0, 3.0) if hard else (48.0, 2.1)
        if 2.0 < cut < limit[0] and length < limit[1]:
            found.append((cut / 40 + length, shot))
    if not found:
        raise DeadEnd
    return min(found, key=lambda item: item[0])[1]


def _layout(places: Places) -> Layout:
    return Layout(TABLE, DISCIPLINE, places)


def _crowded(places: Places) -> bool:
    """Whether the cue ball lies so near to another that nobody would like to play on."""
    cue = places.get(CUE)
    return cue is not None and any(math.dist(cue, place) < 0.07 for ball, place in places.items() if ball != CUE)


def _near(dice: random.Random, place: Point, distance: float) -> Point:
    return _rounded(ahead(place, dice.uniform(0, 2 * math.pi), dice.uniform(0.3, 1.0) * distance))


def _rounded(place: Point, digits: int = 4) -> Point:
    return round(place[0], digits), round(place[1], digits)


if __name__ == "__main__":
    from aretane.demo.film import film_rack

    made = make_match()
    recording, timed = film_rack(made["racks"][script.RECORDED_RACK], FOLDER)
    made["racks"][script.RECORDED_RACK] = timed
    made["recordings"] = [recording]
    referee(made)
    (FOLDER / "match.json").write_text(json.dumps(made, indent=1))
    print(f"{sum(len(rack['shots']) for rack in made['racks'])} shots")
