"""The entries of a story: for each kind of line, strokes are tried until one does what the line says."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import Any

from aretane.core.ball import CUE
from aretane.core.geometry.measured import MeasuredShot
from aretane.core.geometry.plane import bearing, turn
from aretane.core.layout import Layout
from aretane.core.physics.sampling import tries_of
from aretane.core.physics.shot import Shot, simulate
from aretane.core.rack import racked
from aretane.core.rules.traits import d_radius, traits_of
from aretane.core.skill.hand import PRESETS
from aretane.demo.making import (
    MADE,
    NEVER,
    TRIED,
    DeadEnd,
    Line,
    Making,
    Next,
    best,
    pots,
    rounded,
    seen,
    wanted,
)
from aretane.demo.placing import aim_for_zone, near, take_in_hand, zones
from aretane.demo.search import SPEEDS, Outcome, outcomes, strokes_anywhere, strokes_at, strokes_for

TRIES = 1500  # strokes for one way of playing a line
RACKS = 400  # racks broken for one break
BREAK_SHOT = (2.2, 4.6)  # m/s: firm enough to open the pack
LOOKED_AT = 40  # outcomes that are compared before one is taken
PLAIN = 12  # of them where nothing follows
FORGIVING, DRAWN = 10, 24  # the best of them, each played so many times with errors
FAILED = 8.0  # the cost of a pot missed, a white lost or nothing to go on with

Found = tuple[float, Next, Outcome]


def play(making: Making, line: Line, following: Line | None) -> None:
    """Play one line and write it down. Raises `DeadEnd`."""
    shot: dict[str, Any] = {"player": line.player}
    if line.causes:
        shot["causes"] = list(line.causes)
    if line.note:
        shot["note"] = line.note
    if line.what in ("accept", "pass-back", "re-rack", "re-break", "play-again"):
        shot["declared"] = line.what
        chosen = making.judged(shot, making.places)
        if chosen is None:
            raise DeadEnd
        making.take(chosen)
        return
    if making.state.in_hand and line.what != "break":
        take_in_hand(making, line)
    _PLAYS[line.what](making, shot, line, following)


def _write(making: Making, found: Found) -> Shot:
    """Take the outcome: its stroke in words and numbers, and the way of the cue ball, go into the entry."""
    _, follows, outcome = found
    shot, result = follows.shot, simulate(making.layout, outcome.stroke)
    stroke = outcome.stroke
    numbers = {"aim": stroke.aim, "speed": stroke.speed, "side": stroke.side, "height": stroke.height}
    shot["stroke"] = {"words": _words(stroke.speed, stroke.side, stroke.height), **numbers}
    order = [ball for ball, _, _ in result.potted]
    shot["potted"].sort(key=lambda fall: order.index(fall["ball"]))
    rails = [e.place for e in result.events if e.kind == "rail" and e.balls[0] == CUE]
    if rails:
        shot["route"] = [list(rounded(place)) for place in rails]
    making.take(follows)
    return result


def _words(speed: float, side: float, height: float) -> list[str]:
    words = ["soft" if speed < 1.3 else "medium" if speed < 2.6 else "firm"]
    words.append("follow" if height > 0.12 else "draw" if height < -0.12 else "stun")
    if side:
        words.append("right" if side > 0 else "left")
    return words


def _choose(
    making: Making, shot: dict[str, Any], tried: Iterable[Outcome], following: Line | None, *, careful: bool
) -> Found | None:
    """The outcome that suits the next line: if `careful` of several the one that leaves it easiest."""
    found: list[Found] = []
    for outcome in tried:
        follows = making.entry(shot, outcome)
        if follows is None:
            continue
        cost = making.cost(follows, following)
        if cost < NEVER:
            found.append((cost, follows, outcome))
        if found and (not careful or len(found) >= LOOKED_AT):
            break
    return min(found, key=lambda one: one[0]) if found else None


def _surest(
    making: Making, shot: dict[str, Any], tried: Iterable[Outcome], following: Line | None, few: int
) -> Found | None:
    """Of the first outcomes that suit the next line the one whose stroke does so with a player's errors as well:
    people play the strokes that forgive, not those that happened to come out well.
    """
    found: list[Found] = []
    for outcome in tried:
        follows = making.entry(shot, outcome)
        if follows is not None and (cost := making.cost(follows, following)) < NEVER:
            found.append((cost, follows, outcome))
        if len(found) >= few:
            break
    found = sorted(found, key=lambda one: one[0])[:FORGIVING]
    return min(found, key=lambda one: _with_errors(making, shot, one[2], following), default=None)


def _with_errors(making: Making, shot: dict[str, Any], meant: Outcome, following: Line | None) -> float:
    """The mean cost of a stroke under a league player's errors; what does not come off costs `FAILED`."""
    tries = tries_of(making.layout, meant.stroke, PRESETS["league"], DRAWN, ball=shot["called"]["ball"])
    costs = []
    for outcome in outcomes(making.layout, tries.strokes):
        follows = making.entry(shot, outcome) if outcome.fell == meant.fell and not outcome.scratch else None
        costs.append(min(making.cost(follows, following), FAILED) if follows else FAILED)
    return sum(costs) / len(costs)


# Breaks


def _break(making: Making, shot: dict[str, Any], line: Line, following: Line | None) -> None:
    if traits_of(making.story.discipline).returns:
        _break_off(making, shot, following)
        return
    table, discipline, dice = making.table, making.story.discipline, making.dice
    shot.update(kind="break", intent="attack", intent_source="inferred")
    for _ in range(RACKS):
        balls = racked(table, discipline, dice.randrange(10**6)).balls
        cue = (round(table.head_line - 0.03, 4), round(table.width / 2 + dice.uniform(-0.35, 0.35), 4))
        making.places = {CUE: cue, **{ball: rounded(place, 5) for ball, place in balls.items()}}
        target = "1" if "1" in balls else min(balls, key=lambda ball: balls[ball][0])
        rows = strokes_at(making.layout, target, dice, 12, (6.0, 9.0))
        straight = bearing(cue, balls[target])
        rows[:, 0] = [round(straight + dice.gauss(0, 0.006), 5) for _ in rows]
        rows[:, 2:4] = 0.0
        fitting = (one for one in outcomes(making.layout, rows) if _broke(one, line.particular, making))
        found = _choose(making, shot, fitting, following, careful=False)
        if found:
            _write(making, found)
            return
    raise DeadEnd


def _broke(outcome: Outcome, particular: str, making: Making) -> bool:
    down, fell = [ball for ball in particular.split(",") if ball.isdigit()], set(outcome.fell)
    if particular == "any":
        money = {"ten-ball": "10", "eight-ball": "8", "blackball": "black"}.get(making.story.discipline)
        return 0 < len(fell) < 4 and money not in fell and not outcome.scratch and not outcome.off_table
    lawful = bool(fell) or outcome.object_rails >= 4
    return fell == set(down) and outcome.scratch == (particular == "scratch") and lawful and not outcome.off_table


def _break_off(making: Making, shot: dict[str, Any], following: Line | None) -> None:
    """Thin off the end red and back to baulk: of many the one that brings the white nearest to the cushion."""
    table, dice = making.table, making.dice
    balls = dict(racked(table, "snooker", dice.randrange(10**6)).balls)
    cue = rounded((table.head_line, table.width / 2 - 0.6 * d_radius(table)))
    making.places = {CUE: cue, **{ball: rounded(place, 5) for ball, place in balls.items()}}
    shot.update(kind="break", intent="safety", intent_source="stated")
    shot["break_record"] = {"type": "thin off the end red", "rests": "baulk cushion", "leaves": "nothing"}
    end = min(balls, key=lambda ball: (-balls[ball][0], balls[ball][1]) if ball.startswith("red") else (9.0, 9.0))
    rows = strokes_at(making.layout, end, dice, 4000, (2.2, 3.6))
    quiet = [one for one in outcomes(making.layout, rows) if _nothing(one) and one.first == end]
    for outcome in sorted(quiet, key=lambda one: one.places[CUE][0])[:40]:
        found = _choose(making, shot, [outcome], following, careful=False)
        if found:
            _write(making, found)
            return
    raise DeadEnd


# Pots


def _pot(making: Making, shot: dict[str, Any], line: Line, following: Line | None) -> None:
    stays = following is not None and following.player == line.player
    chosen: list[Found] = []
    speeds = BREAK_SHOT if _pack_stands(making.layout) else SPEEDS
    for _, measured in _measured_pots(making, line):
        _describe(shot, measured)
        rows = strokes_for(measured, making.dice, TRIES, speeds, wide=0.6)
        made = _fitting(making, rows, measured, {measured.ball})
        if making.filmed:
            found = _choose(making, shot, made, following, careful=stays)
        else:
            found = _surest(making, shot, made, following, few=LOOKED_AT if stays else PLAIN)
        if found:
            chosen.append(found)
    if not chosen:
        raise DeadEnd
    found = min(chosen, key=lambda one: one[0])
    before = Layout(making.table, making.story.discipline, making.places)
    result = _write(making, found)
    if stays and following is not None and CUE in making.places and not found[1].ruling.racked:
        aim_for_zone(making, result, following)
    if part := _entered(before, result, found[1].shot["called"]):
        found[1].shot["entered"] = {"part": part}
    if found[1].shot["called"]["ball"] in before.balls and _pack_stands(before):
        found[1].shot.update(kind="break-out", also=["pot"])
        found[1].shot["break_record"] = _opened(before, result)


def _measured_pots(making: Making, line: Line, hard: bool = False) -> list[tuple[float, MeasuredShot]]:
    """The few best pots of the lawful balls that the line speaks of, the easiest first."""
    balls = wanted(making.legal, line.particular if line.what == "pot" else "")
    found = sorted(pots(making.layout, balls, TRIED if hard else MADE), key=lambda one: one[0])
    if not found:
        raise DeadEnd
    return found[:3]


def _fitting(
    making: Making, rows: Any, measured: MeasuredShot, down: set[str], scratch: bool = False
) -> Iterator[Outcome]:
    """Outcomes in which just these balls fall, the meant one into its pocket and not by way of a rail."""
    for outcome in outcomes(making.layout, rows):
        if set(outcome.fell) != down or outcome.scratch != scratch or outcome.off_table:
            continue
        if outcome.first == measured.ball and outcome.fell.get(measured.ball) == measured.pocket:
            yield outcome


def _describe(shot: dict[str, Any], measured: MeasuredShot, kind: str = "pot") -> None:
    stated = shot["player"] == "A"
    shot.update(kind=kind, intent="attack", intent_source="stated" if stated else "inferred")
    shot["called"] = {"ball": measured.ball, "pocket": measured.pocket}


def _pack_stands(layout: Layout) -> bool:
    """Straight pool: whether fourteen balls stand in the rack still."""
    if not traits_of(layout.discipline).goes_on or len(layout.object_balls) < 15:
        return False
    return sum(x > layout.table.foot_spot - 0.01 for x, _ in layout.object_balls.values()) >= 14


def _opened(before: Layout, result: Shot) -> dict[str, Any]:
    """The record of a break shot: how many balls of the pack it moved."""
    moved = sum(math.dist(before.balls[b], p) > 0.15 for b, p in result.final.balls.items() if b in before.balls)
    opened = "wide" if moved > 9 else "well" if moved > 6 else "partly" if moved > 2 else "hardly"
    speed = result.stroke.speed
    return {"opened": opened, "power": "firm" if speed > 2.6 else "medium", "next_shot": "yes"}


def _scratch(making: Making, shot: dict[str, Any], line: Line, following: Line | None) -> None:
    for _, measured in _measured_pots(making, line):
        _describe(shot, measured)
        rows = strokes_for(measured, making.dice, 4 * TRIES, wide=0.6)
        lost = _fitting(making, rows, measured, {measured.ball}, scratch=True)
        if found := _choose(making, shot, lost, following, careful=False):
            _write(making, found)
            return
    raise DeadEnd


def _in_off(making: Making, shot: dict[str, Any], line: Line, following: Line | None) -> None:
    for _, measured in _measured_pots(making, line, hard=True):
        _describe(shot, measured)
        rows = strokes_for(measured, making.dice, 4 * TRIES, wide=3.0)
        lost = (one for one in outcomes(making.layout, rows) if one.scratch and not one.fell and not one.off_table)
        hit = (one for one in lost if one.first == measured.ball)
        if found := _choose(making, shot, hit, following, careful=False):
            _write(making, found)
            return
    raise DeadEnd


def _wrong_pocket(making: Making, shot: dict[str, Any], line: Line, following: Line | None) -> None:
    """The called ball falls, but into another pocket than the called one."""
    for _, measured in _measured_pots(making, line, hard=True):
        _describe(shot, measured)
        rows = strokes_at(making.layout, measured.ball, making.dice, 6 * TRIES)
        strange = (
            one
            for one in outcomes(making.layout, rows)
            if set(one.fell) == {measured.ball} and one.fell[measured.ball] != measured.pocket
            and one.first == measured.ball and not one.scratch and not one.off_table
        )  # fmt: skip
        if found := _choose(making, shot, strange, following, careful=False):
            found[1].shot["result"] = "fluke"
            _write(making, found)
            return
    raise DeadEnd


def _miss(making: Making, shot: dict[str, Any], line: Line, following: Line | None) -> None:
    for _, measured in _measured_pots(making, line, hard=True):
        _describe(shot, measured)
        shot["result"] = f"missed-{line.particular}"
        rows = strokes_for(measured, making.dice, 2 * TRIES, wide=2.0)
        dry = (one for one in outcomes(making.layout, rows) if _nothing(one) and one.first == measured.ball)
        near = (one for one in dry if one.rails and _missed(making, one, measured) == line.particular)
        if found := _choose(making, shot, near, following, careful=False):
            _write(making, found)
            return
    raise DeadEnd


def _nothing(outcome: Outcome) -> bool:
    return not outcome.fell and not outcome.scratch and not outcome.off_table


def _missed(making: Making, outcome: Outcome, measured: MeasuredShot) -> str | None:
    """How the ball missed its pocket: in the jaws, thick or thin of it; None if it was nowhere near."""
    result = simulate(making.layout, outcome.stroke)
    for event in result.events:
        if event.balls[0] == measured.ball and event.kind in ("jaw", "rail"):
            if event.kind == "jaw" and event.pocket == measured.pocket:
                return "jaw"
            break
    off = _off_line(making.layout, result, measured.ball, measured.pocket)
    if off is None or not 0.02 < abs(off) < 0.12:
        return None
    return "thin" if off > 0 else "thick"


def _off_line(before: Layout, result: Shot, ball: str, pocket: str) -> float | None:
    """The angle between where a ball went and the middle of its pocket, greater 0 where it was hit too thin."""
    moving = next((leg for leg in result.legs[ball] if leg.phase == "slide"), None)
    if moving is None:
        return None
    place, mouth = before.balls[ball], before.table.pockets[pocket].mouth
    off = turn(bearing(place, mouth), math.atan2(moving.velocity[1], moving.velocity[0]))
    return math.copysign(off, off * turn(bearing(before.balls[CUE], place), bearing(place, mouth)))


def _entered(before: Layout, result: Shot, called: Mapping[str, str]) -> str | None:
    """The third of the free way between the jaws by which the ball fell, as of one hit so."""
    off = _off_line(before, result, called["ball"], called["pocket"])
    if off is None:
        return None
    pocket = before.table.pockets[called["pocket"]]
    aside = math.dist(before.balls[called["ball"]], pocket.mouth) * math.sin(off)
    if abs(aside) < (pocket.mouth_width / 2 - before.table.radius) / 3:
        return "middle"
    return "thin" if off > 0 else "thick"


def _bank(making: Making, shot: dict[str, Any], line: Line, following: Line | None) -> None:
    ball = making.legal[0]
    for outcome in outcomes(making.layout, strokes_at(making.layout, ball, making.dice, 6 * TRIES)):
        if (
            set(outcome.fell) != {ball}
            or outcome.scratch
            or outcome.first != ball
            or not _banked(making, outcome, ball)
        ):
            continue
        shot.update(kind="bank", intent="attack", intent_source="stated", felt={"pot": 0.45})
        shot["called"] = {"ball": ball, "pocket": outcome.fell[ball]}
        if found := _choose(making, shot, [outcome], following, careful=False):
            _write(making, found)
            return
    raise DeadEnd


def _banked(making: Making, outcome: Outcome, ball: str) -> bool:
    """Whether the ball struck a rail on its way into the pocket."""
    events = simulate(making.layout, outcome.stroke).events
    return any(event.kind == "rail" and event.balls[0] == ball for event in events)


def _fluke(making: Making, shot: dict[str, Any], line: Line, following: Line | None) -> None:
    for _, measured in _measured_pots(making, line, hard=True):
        _describe(shot, measured)
        shot["result"] = "fluke"
        rows = strokes_at(making.layout, measured.ball, making.dice, 6 * TRIES)
        lucky = (one for one in outcomes(making.layout, rows) if set(one.fell) == {line.particular})
        clean = (one for one in lucky if not one.scratch and not one.off_table and one.first == measured.ball)
        if found := _choose(making, shot, clean, following, careful=False):
            _write(making, found)
            return
    raise DeadEnd


def _combo(making: Making, shot: dict[str, Any], line: Line, following: Line | None) -> None:
    _combination(making, shot, line, following, scratch=False)


def _combo_scratch(making: Making, shot: dict[str, Any], line: Line, following: Line | None) -> None:
    _combination(making, shot, line, following, scratch=True)


def _combination(
    making: Making, shot: dict[str, Any], line: Line, following: Line | None, *, scratch: bool
) -> None:
    first, ball = making.legal[0], line.particular
    for outcome in outcomes(making.layout, strokes_at(making.layout, first, making.dice, 6 * TRIES)):
        if set(outcome.fell) != {ball} or outcome.scratch != scratch or outcome.first != first:
            continue
        events = simulate(making.layout, outcome.stroke).events
        pushed = any(event.kind == "contact" and set(event.balls) == {first, ball} for event in events)
        if not pushed or _banked(making, outcome, ball):
            continue
        shot.update(kind="combination", intent="attack", intent_source="stated")
        shot["called"] = {"ball": ball, "pocket": outcome.fell[ball]}
        if found := _choose(making, shot, [outcome], following, careful=False):
            _write(making, found)
            return
    raise DeadEnd


# Safeties, kicks, push-outs


def _safe(making: Making, shot: dict[str, Any], line: Line, following: Line | None) -> None:
    """Of many quiet shots the one after which the other player sees least and has the hardest pot."""
    shot.update(kind="thin", also=["safety"], intent="safety", intent_source="inferred")
    if making.options.get("call"):
        shot["declared"] = "safety"
    left: list[Found] = []
    for ball in _nearest(making, 3):
        tried = outcomes(making.layout, strokes_at(making.layout, ball, making.dice, TRIES))
        for outcome in tried:
            if not _nothing(outcome) or outcome.first != ball or not outcome.rails:
                continue
            follows = making.entry(shot, outcome)
            if follows is None or follows.ruling.fouls or making.cost(follows, following) == NEVER:
                continue
            layout = making.layout_of(follows.places)
            legal = making.legal_after(follows)
            chance = best(layout, legal)
            left.append((seen(layout, legal) - (chance[0] if chance else 4.0), follows, outcome))
            if len(left) >= 4 * LOOKED_AT:
                break
    if not left:
        raise DeadEnd
    found = min(left, key=lambda one: one[0])
    _write(making, found)
    found[1].shot["targets"] = zones(near(making, making.places[CUE], 0.05), 0.15, "inferred", None)


def _nearest(making: Making, count: int) -> list[str]:
    cue = making.places[CUE]
    return sorted(making.legal, key=lambda ball: math.dist(cue, making.places[ball]))[:count]


def _kick(making: Making, shot: dict[str, Any], line: Line, following: Line | None) -> None:
    others = [ball for ball in making.places if ball not in (CUE, *making.legal)]
    shot.update(kind="kick", intent="escape", intent_source="inferred")
    special: dict[str, set[str | None]] = {"no-hit": {None}, "wrong": set(others)}
    wanted_first = special.get(line.particular, set(making.legal))
    rows = strokes_anywhere(making.dice, 10 * TRIES, (1.2, 3.6))
    for outcome in outcomes(making.layout, rows):
        if not _nothing(outcome) or outcome.first not in wanted_first:
            continue
        if (line.particular == "no-rail") != (outcome.rails == 0) and line.particular in ("", "no-rail"):
            continue
        events = simulate(making.layout, outcome.stroke).events
        struck = next((event.t for event in events if event.kind == "contact"), math.inf)
        if not any(event.kind == "rail" and event.balls[0] == CUE and event.t < struck for event in events):
            continue
        if found := _choose(making, shot, [outcome], following, careful=False):
            _write(making, found)
            return
    raise DeadEnd


def _push_out(making: Making, shot: dict[str, Any], line: Line, following: Line | None) -> None:
    shot.update(kind="other", declared="push-out", intent="push-out", intent_source="stated")
    rows = strokes_anywhere(making.dice, 300, (0.6, 2.0))
    quiet = (one for one in outcomes(making.layout, rows) if one.first is None and _nothing(one))
    found = _choose(making, shot, quiet, following, careful=False)
    if found is None:
        raise DeadEnd
    _write(making, found)


_PLAYS: dict[str, Callable[[Making, dict[str, Any], Line, Line | None], None]] = {
    "break": _break,
    "pot": _pot,
    "bank": _bank,
    "scratch": _scratch,
    "in-off": _in_off,
    "wrong-pocket": _wrong_pocket,
    "miss": _miss,
    "fluke": _fluke,
    "combo": _combo,
    "combo-scratch": _combo_scratch,
    "safe": _safe,
    "kick": _kick,
    "push-out": _push_out,
}
