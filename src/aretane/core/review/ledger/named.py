"""What a coach would call a moment: chances, choices, ways out of position, found from values and layouts.

Each is a candidate: it becomes a logged cause when the coach nods. What is smaller than its own uncertainty is not
called an error.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from aretane.core.geometry.groups import clusters
from aretane.core.planning.choices.option import ATTACK, SAFE
from aretane.core.review.ledger.booking import Entry, RackLedger
from aretane.core.review.ledger.juncture import OPENING, STROKE, Juncture
from aretane.core.review.ledger.worth import LEAST, SURE, loses, lost_by
from aretane.core.review.position import PositionError
from aretane.core.review.replay import ReplayedShot
from aretane.core.review.shot_figures import cue_error
from aretane.core.review.strokes import needed_by
from aretane.core.rules.traits import FRAMES, traits_of

OPEN_CHANCE = 0.5  # a visit that begins with a pot of so much is a chance
CHANCE_SCORES = {True: 10, False: 30}  # balls in straight pool, points in snooker, that convert one
LEFT_A_POT, DEAD = 0.5, 0.2  # what a safety should not leave; less than this cannot be gone on from
LAST_BALLS = 3  # end pattern: so many balls or fewer are still needed


@dataclass(frozen=True)
class Named:
    """`what` it is, in `words` to be read aloud; what it `cost` (None: nothing by itself) and the entry where it
    `began`, counted from 0; the `cause` it is logged as when the coach nods.
    """

    what: str
    words: str
    cost: float | None = None
    began: int | None = None
    cause: str | None = None


def phase_of(at: Juncture, previous: Entry | None) -> str:
    """Opening, pattern, recovery (the cue ball came badly, or there is no fair pot), or end pattern."""
    if at.kind == OPENING or (at.meant.declared == "push-out"):
        return "opening"
    if len(needed_by(at.discipline, at.state, at.player)) <= LAST_BALLS:
        return "end"
    mine = previous is not None and previous.player == at.player
    if (
        mine
        and previous is not None
        and loses(previous.parts["position"], previous.errors["position"], at.discipline)
    ):
        return "recovery"
    return "pattern"


def named_in(rack: Sequence[Juncture], shots: Sequence[ReplayedShot], ledger: RackLedger) -> list[list[Named]]:
    """For each entry of a rack whatever it may be called."""
    found: list[list[Named]] = [[] for _ in ledger.entries]
    for index, entry in enumerate(ledger.entries):
        at = rack[index]
        if at.kind != STROKE or entry.judged.stroke is None:
            continue
        following = rack[index + 1] if index + 1 < len(rack) else None
        after = shots[index + 1] if index + 1 < len(shots) else None
        found[index] += _choice(at, entry)
        found[index] += _position(at, entry, cue_error(shots[index], after))
        found[index] += _break_out(at, following)
        if index + 1 < len(ledger.entries):
            found[index] += _safety(at, ledger.entries[index + 1])
    for first, last in visits_in(rack):
        found[first] += _chance(rack, ledger, first, last)
        found[last] += _trouble(rack, ledger, first, last)
        hardest = _hardest(rack, ledger, first, last)
        if hardest is not None:
            found[hardest[0]].append(hardest[1])
    return found


def visits_in(rack: Sequence[Juncture]) -> Iterator[tuple[int, int]]:
    """First and last entry of each visit that has a stroke."""
    first = None
    for index, at in enumerate(rack):
        if at.kind != STROKE:
            first = None
            continue
        first = index if first is None else first
        goes_on = (
            index + 1 < len(rack)
            and rack[index + 1].kind == STROKE
            and rack[index + 1].player == at.player
            and at.came is not None
            and not at.came.foul
        )
        if not goes_on:
            yield first, index
            first = None


# What was chosen.


def _choice(at: Juncture, entry: Entry) -> Iterator[Named]:
    judged = entry.judged.stroke
    assert judged is not None
    best, own, lost = (
        judged.best,
        judged.chosen,
        lost_by(entry.parts["decision"], entry.errors["decision"], at.discipline),
    )
    if at.meant.intent in SAFE and judged.safety is not None and best is not None and best.intent in ATTACK:
        better = best.value - judged.safety.value
        if own is None and better > max(LEAST[_straight(at)], SURE * judged.before.error):
            yield Named("safety-for-attack", "a safety where attack was better", better, cause="wrong option")
    if lost is None or best is None or own is None:
        return
    school = next((name for name, cost in judged.tastes.items() if cost > -LEAST[_straight(at)]), None)
    if school is not None:
        yield Named("taste", f"a matter of taste: the school of {school} plays it so")
        return
    if own.intent in ATTACK and best.intent in SAFE:
        yield Named("attack-for-safety", "attack where a safety was better", lost, cause="wrong option")
        if judged.even is not None and own.pot is not None and own.pot < judged.even:
            said = f"a pot of {own.pot:.0%} that had to be {judged.even:.0%} to be right"
            yield Named("below-break-even", said, lost, cause="wrong option")
    elif own.intent in SAFE and best.intent in ATTACK:
        yield Named("safety-for-attack", "a safety where attack was better", lost, cause="wrong option")
    elif own.ball is not None and best.ball is not None and own.ball != best.ball:
        yield Named("better-ball", f"passed up the {best.ball}", lost, cause="easier ball not seen")
    elif own.ball is not None and own.pocket == best.pocket:
        yield Named(
            "dearer-stroke", "the right pot with a stroke that risked more than it won", lost, cause="forced"
        )
        return
    others = [one for one in (judged.attack, judged.safety) if one is not None]
    if len(others) == 2 and all(entry.before - lost < one.value - LEAST[_straight(at)] for one in others):
        yield Named("between-two", "neither the best attack nor the best safety", lost, cause="wrong option")


# Where the cue ball came.


def _position(at: Juncture, entry: Entry, error: PositionError | None) -> Iterator[Named]:
    lost = lost_by(entry.parts["position"], entry.errors["position"], at.discipline)
    if error is not None and error.side == "wrong":
        yield Named("wrong-side", "on the wrong side of the next ball", lost, cause="line")
    if error is not None and error.grade == "forbidden":
        yield Named("dead-area", "into the area that was to be avoided", lost, cause="speed")
    if lost is not None and at.came is not None and at.came.made:
        how = ""
        if error is not None and error.distance > error.plus_minus:
            how = f" by {100 * error.distance:.0f} cm"
        cause = "line" if error is not None and abs(error.across) > abs(error.along) else "speed"
        yield Named("out-of-position", f"ran out of position{how}", lost, cause=cause)


def _safety(at: Juncture, following: Entry) -> Iterator[Named]:
    """A safety after which the other one had a fair pot."""
    judged = following.judged.stroke
    if at.meant.intent not in SAFE or at.came is None or at.came.foul or following.player == at.player:
        return
    if judged is not None and judged.attack is not None and (judged.attack.pot or 0.0) >= LEFT_A_POT:
        yield Named("left-a-shot", f"the safety left a pot of {judged.attack.pot:.0%}")


def _break_out(at: Juncture, following: Juncture | None) -> Iterator[Named]:
    """A cluster of own balls that was opened, and with how many balls to fall back on."""
    before, after = at.layout, following.layout if following is not None else None
    if before is None or after is None or following is None or following.player != at.player:
        return
    mine = set(needed_by(at.discipline, at.state, at.player))
    tied = {ball for group in clusters(before) if mine.intersection(group) for ball in group} & mine
    still = {ball for group in clusters(after) for ball in group}
    opened = {ball for ball in tied if ball in after.balls and ball not in still}
    if not opened:
        return
    loose = len(mine - tied - {at.meant.ball})
    when = "early" if loose * 2 >= len(mine) else "late"
    said = f"a cluster opened {when}, with {loose} {'ball' if loose == 1 else 'balls'} to fall back on"
    yield Named(f"break-out-{when}", said, cause="missed pattern" if when == "late" and loose == 0 else None)


# What became of a visit.


def _chance(rack: Sequence[Juncture], ledger: RackLedger, first: int, last: int) -> Iterator[Named]:
    judged = ledger.entries[first].judged.stroke
    if judged is None or judged.attack is None or (judged.attack.pot or 0.0) < OPEN_CHANCE:
        return
    end = rack[last].came
    at, traits = rack[first], traits_of(rack[first].discipline)
    if end is None:
        return
    won = end.state.winner == at.player
    if traits.points:
        scored = end.state.points[at.player] - at.state.points[at.player]
        won = won or scored >= CHANCE_SCORES[traits.counts != FRAMES]
    said = f"an open chance (a pot of {judged.attack.pot:.0%}), {'taken' if won else 'not taken'}"
    yield Named("chance-taken" if won else "chance-lost", said)


def _trouble(rack: Sequence[Juncture], ledger: RackLedger, first: int, last: int) -> Iterator[Named]:
    """A visit that ended with a miss: the shot where its trouble began."""
    end, at = rack[last].came, rack[last]
    if end is None or end.made or at.meant.pot is None or last == first:
        return
    costs = [
        (lost, index)
        for index in range(first, last)
        if (lost := lost_by(_both(ledger.entries[index]), _error(ledger.entries[index]), at.discipline)) is not None
    ]
    if costs:
        lost, index = max(costs)
        yield Named("began-earlier", f"the trouble began {last - index} shots earlier", lost, index)


def _hardest(rack: Sequence[Juncture], ledger: RackLedger, first: int, last: int) -> tuple[int, Named] | None:
    """The key shot of a visit: the one whose pot was least likely."""
    pots = [
        (judged.chosen.pot, index)
        for index in range(first, last + 1)
        if (judged := ledger.entries[index].judged.stroke) is not None
        and judged.chosen is not None
        and judged.chosen.pot is not None
    ]
    if len(pots) < 2:
        return None
    pot, index = min(pots)
    came = rack[index].came
    made = came is not None and came.made
    said = f"the key shot of this visit ({pot:.0%}), {'made' if made else 'missed'}"
    return index, Named("key-shot-made" if made else "key-shot-missed", said)


# Small parts.


def _straight(at: Juncture) -> bool:
    return traits_of(at.discipline).goes_on


def _both(entry: Entry) -> float | None:
    told = [value for part in ("decision", "position") if (value := entry.parts[part]) is not None]
    return sum(told) if told else None


def _error(entry: Entry) -> float | None:
    return max((entry.errors[part] or 0.0 for part in ("decision", "position")), default=0.0)
