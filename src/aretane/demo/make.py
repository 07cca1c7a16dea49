"""Makes the shipped demo: `python -m aretane.demo.make`. Seeded, so that it comes out the same.

Until the simulator exists, motion is a placeholder: object balls run straight to the pocket, the cue
ball leaves on its rolling line, by at most one rail, and stops where the story needs it.
"""

from __future__ import annotations

import json
import math
import random
import re
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.geometry.plane import ahead, bearing
from aretane.core.geometry.reading import ShotReading, read_shot, visible_parts
from aretane.core.layout import Layout, first_overlap, on_table
from aretane.core.rules.referee import referee
from aretane.core.table import PRESETS, Point, Table
from aretane.demo import script

FOLDER = Path(__file__).parent
DISCIPLINE = "nine-ball"
TABLE: Table = PRESETS["pool-9ft"]
MARGIN = 0.035

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
    else:
        if table.in_hand and what != "break":
            _take_in_hand(table, what)
        shot["layout_before"] = _snapshot(table) if what != "break" else {}
        _PLAYS[what](table, shot, particular, following)
        if CUE in table.places or table.places:
            shot["layout_after"] = _snapshot(table)
        table.in_hand = CUE not in table.places
    if causes:
        shot["causes"] = [cause.strip() for cause in causes[0].split(",")]
    if note:
        shot["note"] = note
    if shot.get("layout_before") == {}:
        del shot["layout_before"]
    table.shots.append(shot)


def _snapshot(table: Story) -> dict[str, Any]:
    return {"balls": {ball: list(place) for ball, place in table.places.items()}}


# The entries of the story


def _break(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    potted = [ball for ball in particular.split(",") if ball.isdigit()]
    shot.update(kind="break", first_contact="1", object_balls_to_rail=table.dice.randint(5, 7))
    shot["potted"] = [{"ball": b, "pocket": table.dice.choice(["foot-left", "foot-right"])} for b in potted]
    shot["intent"], shot["intent_source"] = "attack", "inferred"
    shot["scratch"] = particular == "scratch"
    left = [ball for ball in OBJECT_BALLS[DISCIPLINE] if ball not in potted]
    for _ in range(500):
        places: Places = {}
        for ball in left:
            places[ball] = _anywhere(table.dice, 0.9 if ball != "1" else 0.4)
        if "9" in potted:
            places[CUE] = _anywhere(table.dice, 0.6)
            table.places = places
            return
        if first_overlap(_layout(places)) or _crowded(places):
            continue
        if shot["scratch"]:
            table.places = places
            return
        for _ in range(60):
            places[CUE] = (table.dice.uniform(0.8, 1.7), table.dice.uniform(0.3, 0.95))
            if not first_overlap(_layout(places)) and _suits(places, following):
                table.places = places
                return
    raise DeadEnd


def _pot(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    reading = _best(table.places)
    _describe(table, shot, reading, "pot", made=True)
    _position(table, shot, reading, following)


def _bank(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    _pot(table, shot, particular, following)
    shot.update(kind="bank", felt={"pot": 0.45})


def _scratch(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    reading = _best(table.places)
    _describe(table, shot, reading, "pot", made=True)
    shot["scratch"] = True
    del table.places[reading.ball], table.places[CUE]


def _miss(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    reading = _best(table.places, hard=True)
    _describe(table, shot, reading, "pot", made=False)
    shot["result"] = f"missed-{particular}"
    mouth = TABLE.pockets[reading.pocket].mouth
    away = bearing(mouth, (TABLE.length / 2, TABLE.width / 2))
    near = 0.10 if particular == "jaw" else 0.28
    _resettle(table, reading.ball, lambda dice: ahead(mouth, away + dice.uniform(-0.5, 0.5), near))
    _position(table, shot, reading, following, gone=False)


def _fluke(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    reading = _best(table.places)
    _describe(table, shot, reading, "pot", made=False)
    shot["potted"] = [{"ball": particular, "pocket": "side-left"}]
    shot["result"] = "fluke"
    del table.places[particular]
    _resettle(table, reading.ball, lambda dice: _anywhere(dice, 0.9))
    _position(table, shot, reading, following, gone=False)


def _combo(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    shot.update(kind="combination", first_contact=table.lowest, intent="attack", intent_source="stated")
    shot["called"] = {"ball": particular, "pocket": "foot-left"}
    shot["potted"] = [dict(shot["called"])]
    shot["rails_after_contact"] = 1
    del table.places[particular]
    _resettle(table, table.lowest, lambda dice: _anywhere(dice, 0.9))
    _resettle(table, CUE, lambda dice: _anywhere(dice, 0.9))


def _combo_scratch(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    _combo(table, shot, particular, following)
    shot["scratch"] = True
    del table.places[CUE]
    table.places[particular] = (TABLE.foot_spot, TABLE.width / 2)
    if first_overlap(_layout(table.places)):
        raise DeadEnd


def _safe(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    ball = table.lowest
    shot.update(kind="pot", also=["safety"], intent="safety", intent_source="inferred", potted=[])
    shot.update(kind="thin", first_contact=ball, rails_after_contact=2)
    _resettle(table, ball, lambda dice: _anywhere(dice, 0.95))
    for _ in range(400):
        place = _anywhere(table.dice, 0.95)
        trial = {**table.places, CUE: place}
        if first_overlap(_layout(trial)) is None and visible_parts(_layout(trial))[ball] < 0.05:
            table.places = trial
            shot["targets"] = _zones(_near(table.dice, place, 0.05), 0.15, "inferred", None)
            return
    raise DeadEnd


def _kick(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    ball = table.lowest
    others = [b for b in table.places if b not in (CUE, ball)]
    first: str | None = ball
    if particular == "no-hit":
        first = None
    elif particular == "wrong":
        first = table.dice.choice(others)
    shot.update(kind="kick", intent="escape", intent_source="inferred", first_contact=first, potted=[])
    shot["rails_after_contact"] = 0 if particular in ("no-rail", "no-hit") else 1
    if particular not in ("no-hit",):
        _resettle(table, first or ball, lambda dice: _near(dice, table.places[first or ball], 0.35))
    if particular:
        del table.places[CUE]
    else:
        _resettle(table, CUE, lambda dice: _anywhere(dice, 0.95), lambda places: _suits(places, following))


def _push_out(table: Story, shot: dict[str, Any], particular: str, following: str) -> None:
    shot.update(kind="other", declared="push-out", intent="push-out", intent_source="stated", potted=[])
    shot.update(first_contact=None, rails_after_contact=0)
    _resettle(table, CUE, lambda dice: _anywhere(dice, 0.9))


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


def _describe(table: Story, shot: dict[str, Any], reading: ShotReading, kind: str, made: bool) -> None:
    stated = shot["player"] == "A"
    shot.update(kind=kind, intent="attack", intent_source="stated" if stated else "inferred")
    shot["called"] = {"ball": reading.ball, "pocket": reading.pocket}
    shot["first_contact"] = reading.ball
    shot["potted"] = [dict(shot["called"])] if made else []
    shot["rails_after_contact"] = 1
    soft = reading.cut is not None and reading.cut.cue_distance < 0.5
    shot["stroke"] = {"words": [("soft" if soft else "medium"), table.dice.choice(["stun", "follow", "draw"])]}


def _position(table: Story, shot: dict[str, Any], reading: ShotReading, following: str, gone: bool = True) -> None:
    """Let the cue ball run on its rolling line, by one rail at most, to where the story goes on."""
    if gone:
        del table.places[reading.ball]
    same = following[:1] == shot["player"]
    for _ in range(900):
        stop, route = _run(table.dice, reading)
        trial = {**table.places, CUE: stop}
        if not _fits(stop) or first_overlap(_layout(trial)) or not _suits(trial, following):
            continue
        table.places = trial
        if route:
            shot["route"] = [list(route)]
        if same and len(trial) > 1 and following.split()[1] in ("pot", "miss", "bank", "scratch"):
            _aim_for_zone(table, shot, stop, route or reading.ghost)
        return
    raise DeadEnd


def _aim_for_zone(table: Story, shot: dict[str, Any], stop: Point, leg_start: Point) -> None:
    """The zone that was meant: the stop less an error of speed and line."""
    leg = bearing(leg_start, stop)
    long = table.dice.gauss(0.04, 0.13)  # this player's table runs a little long
    wide = table.dice.gauss(0.0, 0.06)
    centre = ahead(ahead(stop, leg, -long), leg + math.pi / 2, -wide)
    if not _fits(centre):
        centre = stop
    following = _best({**table.places, CUE: stop})
    source = "stated" if shot["player"] == "A" else "inferred"
    aim = {"ball": following.ball, "pocket": following.pocket}
    shot["targets"] = _zones(centre, 0.1, source, aim)


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


def _run(dice: random.Random, reading: ShotReading) -> tuple[Point, Point | None]:
    direction = (reading.roll if reading.roll is not None else 0.0) + dice.gauss(0, 0.25)
    length = dice.uniform(0.15, 1.9)
    end = ahead(reading.ghost, direction, length)
    low, high_x, high_y = TABLE.radius, TABLE.length - TABLE.radius, TABLE.width - TABLE.radius
    for axis, low_edge, high_edge in ((0, low, high_x), (1, low, high_y)):
        if low_edge <= end[axis] <= high_edge:
            continue
        edge = low_edge if end[axis] < low_edge else high_edge
        share = (edge - reading.ghost[axis]) / (end[axis] - reading.ghost[axis])
        rail = (
            reading.ghost[0] + share * (end[0] - reading.ghost[0]),
            reading.ghost[1] + share * (end[1] - reading.ghost[1]),
        )
        back = 2 * edge - end[axis]
        bounced = (back, end[1]) if axis == 0 else (end[0], back)
        return _rounded(bounced), _rounded(rail)
    return _rounded(end), None


def _take_in_hand(table: Story, what: str) -> None:
    for _ in range(600):
        place = _near(table.dice, table.places[table.lowest], 0.7)
        trial = {**table.places, CUE: place}
        if _fits(place) and first_overlap(_layout(trial)) is None and _suits(trial, f"A {what}"):
            table.places = trial
            return
    raise DeadEnd


def _resettle(table: Story, ball: str, draw: Any, suits: Any = None) -> None:
    for _ in range(300):
        trial = {**table.places, ball: draw(table.dice)}
        if _fits(trial[ball]) and first_overlap(_layout(trial)) is None and (suits is None or suits(trial)):
            table.places = trial
            return
    raise DeadEnd


def _suits(places: Places, following: str) -> bool:
    """Whether the next line of the story can be played from here."""
    what = following.split()[1] if following else ""
    if what in ("pot", "bank", "scratch", "fluke", "miss"):
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
    balls = list(places.values())
    return any(math.dist(p, q) < 0.12 for i, p in enumerate(balls) for q in balls[:i])


def _anywhere(dice: random.Random, share: float) -> Point:
    half_x, half_y = (TABLE.length / 2 - MARGIN) * share, (TABLE.width / 2 - MARGIN) * share
    x, y = TABLE.length / 2 + dice.uniform(-half_x, half_x), TABLE.width / 2 + dice.uniform(-half_y, half_y)
    return _rounded((x, y))


def _near(dice: random.Random, place: Point, distance: float) -> Point:
    return _rounded(ahead(place, dice.uniform(0, 2 * math.pi), dice.uniform(0.3, 1.0) * distance))


def _rounded(place: Point) -> Point:
    return round(place[0], 4), round(place[1], 4)


def _fits(place: Point) -> bool:
    return on_table(TABLE, place, TABLE.radius / 0.96) and TABLE.radius <= place[1] <= TABLE.width - TABLE.radius


if __name__ == "__main__":
    from aretane.demo.film import film_rack

    made = make_match()
    recording, timed = film_rack(made["racks"][script.RECORDED_RACK], FOLDER)
    made["racks"][script.RECORDED_RACK] = timed
    made["recordings"] = [recording]
    referee(made)
    (FOLDER / "match.json").write_text(json.dumps(made, indent=1))
    print(f"{sum(len(rack['shots']) for rack in made['racks'])} shots")
