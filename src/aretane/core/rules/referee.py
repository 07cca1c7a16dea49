"""The referee: goes through a match entry by entry and says what each did, as the rules have it.

A match is the plain data of the match format. Facts that are absent are taken from the layouts, else
taken as lawful. The coach's `overrule` and what was `called_at_table` replace the computed keys.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from aretane.core.ball import OBJECT_BALLS
from aretane.core.errors import ImpossibleShot
from aretane.core.layout import Layout, State
from aretane.core.rules.disciplines import rules_of
from aretane.core.rules.entries import facts_of, refuse_contradictions
from aretane.core.rules.game import (
    BREAK,
    PLAY,
    Discipline,
    IllegalEntry,
    Options,
    RackState,
    Ruling,
    opponent,
)
from aretane.core.rules.options import with_defaults
from aretane.core.rules.traits import traits_of
from aretane.core.table import Table, table_from

Data = Mapping[str, Any]

PUT_BACK = "put-back"  # a flag: the balls were put back, so the game stands as before the shot
ALONE = ("solo", "lesson")  # sessions in which nobody waits for a turn


@dataclass(frozen=True)
class RackResult:
    """Rulings of a rack's entries, its winner, the score and the sets after it, and the states around it.

    `over`: it has a winner, or was closed without one.
    """

    rulings: tuple[Ruling, ...]
    winner: str | None
    score: Mapping[str, int]
    sets: Mapping[str, int]
    begins: RackState
    state: RackState
    breaker: str
    over: bool


@dataclass(frozen=True)
class MatchResult:
    """`options` are complete, `breaker` has the next break. `trouble`: the entries that cannot have happened, when
    the caller asked to go on. `stood`: where the match stood before each rack, and at the end."""

    racks: tuple[RackResult, ...]
    score: Mapping[str, int]
    sets: Mapping[str, int]
    winner: str | None
    options: Options
    breaker: str
    trouble: tuple[ImpossibleShot, ...] = ()
    stood: tuple[_Book, ...] = ()


@dataclass
class _Book:
    """A match under way: its rules, and where it stands."""

    match: Data
    rules: Discipline
    options: Options
    table: Table
    score: dict[str, int]
    sets: dict[str, int]
    breaker: str | None
    winner: str | None = None
    state: RackState | None = None

    @property
    def session(self) -> str:
        return self.match.get("session") or "match"

    @property
    def straight(self) -> bool:
        return traits_of(self.rules.name).goes_on


def referee(match: Data, *, strict: bool = True, known: MatchResult | None = None, since: int = 0) -> MatchResult:
    """Rule on every entry of a match. `known` is the result of the same match with other racks from `since` on:
    what comes before them is taken from it.

    With `strict` the first entry that cannot have happened raises `ImpossibleShot`. Without it the
    rest of that rack is left out and the place is reported in `trouble`: that is how a rack that is
    being edited is shown.
    """
    book, results, trouble, stood = _open(match), list[RackResult](), list[ImpossibleShot](), list[_Book]()
    if known is not None and since > 0:  # before the first rack its own head counts, which may have changed
        book = replace(known.stood[since], match=match)
        results, stood = list(known.racks[:since]), list(known.stood[:since])
        trouble = [place for place in known.trouble if place.rack < since]
    for number, rack in enumerate((match.get("racks") or ())[since:], start=since):
        stood.append(replace(book))
        result, problems = _rack(book, number, rack)
        if problems and strict:
            raise problems[0]
        trouble += problems
        results.append(result)
    due = book.breaker or (match.get("start") or {}).get("player") or "A"
    return MatchResult(
        tuple(results), book.score, book.sets, book.winner, book.options, due, tuple(trouble), (*stood, book)
    )


def _open(match: Data) -> _Book:
    rules = rules_of(match["discipline"])
    options = with_defaults(rules.name, {**(match.get("rules") or {}), "race_to": match.get("race_to")})
    start = match.get("start") or {}
    if match.get("session") in ALONE and "three_fouls" in options:
        options["three_fouls"] = False
    score = {**_handicap(rules.name, options), **_of_sides(start.get("score"))}
    sets = {"A": 0, "B": 0, **_of_sides(start.get("sets"))}
    table = table_from(match.get("table", "pool-9ft"))
    return _Book(match, rules, options, table, score, sets, start.get("breaker"))


def _of_sides(told: Data | None) -> dict[str, Any]:
    """What is told of the two sides; what a file says of anything else is not ours."""
    return {side: told[side] for side in ("A", "B") if told and side in told}


def _handicap(discipline: str, options: Options) -> dict[str, int]:
    """What a set begins with; in snooker the handicap is in points of each frame."""
    if discipline == "snooker":
        return {"A": 0, "B": 0}
    return {"A": options["handicap_a"], "B": options["handicap_b"]}


def _rack(book: _Book, number: int, rack: Data) -> tuple[RackResult, list[ImpossibleShot]]:
    problems: list[ImpossibleShot] = []
    said = _word_of_the_coach(next(iter(rack.get("shots") or ()), {}))
    if book.winner and rack.get("shots") and not said:
        over = f"race to {book.match.get('race_to')}"
        problems.append(ImpossibleShot(number, 0, over, "the match is already over"))
    breaker, out_of_order = _breaker(book, number, rack) if not problems else (rack.get("breaker") or "A", [])
    problems += out_of_order
    state = _first_state(book, number, rack, breaker)
    begins = state
    rulings, state, stopped = _go_through(book, number, rack, state)
    problems += stopped
    if rack.get("conceded_by") and not state.winner:
        state = replace(state, winner=opponent(rack["conceded_by"]))
    book.state, book.breaker = state, breaker
    _count(book, state)
    ended = bool(rulings) and rulings[-1].ends
    closed = bool(state.winner or rack.get("closed") or ended)
    score, sets = dict(book.score), dict(book.sets)
    result = RackResult(rulings, state.winner, score, sets, begins, state, breaker, closed)
    if state.winner and not book.straight:
        book.breaker = _next_breaker(breaker, state.winner, book.options)
        if not book.winner and _set_won(book, state.winner):
            book.score = _handicap(book.rules.name, book.options)
    return result, problems


def _count(book: _Book, state: RackState) -> None:
    """Bring the rack that has been played into the score."""
    if book.straight:
        book.score = dict(state.points)
        book.winner = book.winner or state.winner
        return
    if state.winner is None:
        return
    book.score = {**book.score, state.winner: book.score[state.winner] + 1}
    if _set_won(book, state.winner):
        book.sets = {**book.sets, state.winner: book.sets[state.winner] + 1}
        if book.sets[state.winner] >= book.options["sets"]:
            book.winner = book.winner or state.winner


def _set_won(book: _Book, player: str) -> bool:
    race_to: int | None = book.match.get("race_to")
    return race_to is not None and book.score[player] >= race_to > 0


def _breaker(book: _Book, number: int, rack: Data) -> tuple[str, list[ImpossibleShot]]:
    """Who breaks: as the rack says, else as is due. Only an order that was agreed is enforced."""
    given, due = rack.get("breaker"), book.breaker
    first: Data = next(iter(rack.get("shots") or ()), {})
    agreed = (book.match.get("rules") or {}).get("breaks")
    if agreed and number > 0 and due and not book.straight:
        if given and given != due and book.session not in ALONE and not _word_of_the_coach(first):
            wrong = ImpossibleShot(
                number, 0, f"option breaks: {agreed}", f"player {due} has the break, not {given}"
            )
            return given, [wrong]
        return given or due, []
    return given or first.get("player") or due or "A", []


def _next_breaker(breaker: str, winner: str, options: Options) -> str:
    how = options["breaks"]
    if how == "alternate":
        return opponent(breaker)
    return winner if how == "winner" else opponent(winner)


def _first_state(book: _Book, number: int, rack: Data, breaker: str) -> RackState:
    """A full rack, unless a start state or the first layout says that it is already under way."""
    first: Data = next(iter(rack.get("shots") or ()), {})
    start: Data = (book.match.get("start") or {}) if number == 0 else {}
    described = start.get("layout") or {}
    begins_later = first.get("kind") not in (None, "break")
    if book.straight and number > 0 and book.state is not None and first.get("kind") != "break":
        return book.state  # another stretch of the same game
    balls = described.get("balls")
    if not balls and begins_later:
        balls = (first.get("layout_before") or {}).get("balls")
    if balls or described.get("state"):
        state = _resumed(book, first, start, balls, breaker)
    else:
        state = book.rules.rack(breaker, book.options)
        if book.straight and begins_later:
            state = replace(state, phase=PLAY, in_hand=None)
        if start.get("fouls"):
            state = replace(state, fouls={**state.fouls, **_of_sides(start["fouls"])})
    if book.straight:
        state = replace(state, points=book.score)
    return replace(state, run=start.get("run") or 0, breaker=breaker)


def _resumed(book: _Book, first: Data, start: Data, balls: Data | None, breaker: str) -> RackState:
    described = (start.get("layout") or {}).get("state") or {}
    given = {**((first.get("layout_before") or {}).get("state") or {}), **described}
    player = given.get("player") or start.get("player") or first.get("player") or breaker
    standing = balls or given.get("standing") or book.rules.rack(breaker, book.options).balls
    told = {**given, "player": player, "fouls": start.get("fouls") or given.get("fouls")}
    return _as_stated(book, told, standing)


def _as_stated(book: _Book, told: Data, standing: Iterable[str]) -> RackState:
    """A rack under way with these object balls on the table, and everything else as it is told."""
    known = {
        key: told[key] for key in ("ball_in_hand", "push_out_allowed", "group", "on", "free_ball") if told.get(key)
    }
    nothing, name, there = {"A": 0, "B": 0}, book.rules.name, frozenset(standing)
    fouls = {**nothing, **_of_sides(told.get("fouls"))}
    points = {**nothing, **_of_sides(told.get("points"))}
    state = State(player=told["player"], fouls=fouls, points=points, **known)
    balls = {ball: (0.0, 0.0) for ball in OBJECT_BALLS[name] if ball in there}  # the rules ask for no place
    return book.rules.resume(Layout(book.table, name, balls, state), book.options)


def _go_through(
    book: _Book, number: int, rack: Data, state: RackState
) -> tuple[tuple[Ruling, ...], RackState, list[ImpossibleShot]]:
    rulings: list[Ruling] = []
    shots = rack.get("shots") or ()
    for index, shot in enumerate(shots):
        try:
            if shot.get("hole"):
                ruling = _hole(book, state, shot, next(iter(shots[index + 1 :]), {}))
            else:
                ruling = rule_on(book, state, shot)
        except IllegalEntry as refused:
            return tuple(rulings), state, [ImpossibleShot(number, index, refused.rule, refused.message)]
        rulings.append(ruling)
        state = ruling.after
    return tuple(rulings), state, []


def _hole(book: _Book, state: RackState, shot: Data, following: Data) -> Ruling:
    """A stretch that nobody saw: the game goes on as it is stated, else as the next entry has it."""
    if state.winner:
        raise IllegalEntry("end of the rack", "the rack is already over")
    told = shot.get("state") or {}
    places = [(following.get("layout_before") or {}), (shot.get("layout_after") or {})]
    seen = next((layout["balls"] for layout in reversed(places) if layout.get("balls")), None)
    player = told.get("player") or following.get("player") or state.player
    points = {**state.points, **_of_sides(told.get("points"))}
    standing = seen or told.get("standing") or state.balls
    after = _as_stated(book, {**told, "player": player, "points": points}, standing)
    if told.get("racks"):
        book.score = {**book.score, **_of_sides(told["racks"])}
    after = replace(after, breaker=state.breaker, run=told.get("run") or 0, winner=told.get("winner"))
    return Ruling((), (), (), after, "not seen; the game goes on as it is stated", hole=True)


def rule_on(book: _Book, state: RackState, shot: Data) -> Ruling:
    """The ruling on one entry, after the session, the coach's overrule and what was called at the table."""
    facts = facts_of(shot, book.table, book.rules.name)
    call = _word_of_the_coach(shot)
    if call or book.session in ALONE:
        # Play went on as it was called, whoever should have been at the table.
        state = state.turn_to(facts.player, winner=None if call else state.winner)
    if call and facts.is_choice and facts.declared not in state.choices:
        ruling = _overruled(Ruling((), (), (), state, f"{facts.declared} is noted"), call)
    elif call:
        ruling = book.rules.settle(state, facts, book.options)
        seen = ruling.fouls
        if "foul" in call:
            ruling = book.rules.settle(state, replace(facts, forced_foul=call["foul"]), book.options)
        ruling = _overruled(replace(ruling, seen=tuple(f for f in seen if f not in ruling.fouls)), call)
    else:
        book.rules.refuse(state, facts, book.options)
        ruling = book.rules.settle(state, facts, book.options)
        refuse_contradictions(shot, state, ruling)
    if PUT_BACK in (shot.get("flags") or ()):
        return replace(
            ruling, after=state, spotted=(), racked=(), counted=0, why=f"{ruling.why}; the balls are put back"
        )
    return _alone(book, state, ruling) if book.session == "solo" else ruling


def _word_of_the_coach(shot: Data) -> dict[str, Any]:
    """What replaces the computed call: what was called at the table, and over it what the coach says."""
    return {**(shot.get("called_at_table") or {}), **(shot.get("overrule") or {})}


def _alone(book: _Book, before: RackState, ruling: Ruling) -> Ruling:
    """Nobody comes to the table but the one player, whose run ends with the first miss or foul."""
    after = ruling.after
    if after.winner:
        return ruling
    player = (book.match.get("start") or {}).get("player") or "A"
    phase = after.phase if after.phase in (BREAK, PLAY) else PLAY
    run = after.run if after.player == player else 0
    changed = replace(after, player=player, choices=(), phase=phase, free_shot=False, run=run)
    missed = after.player != player and before.phase != BREAK  # after a dry break the run goes on
    return replace(ruling, after=changed, ends=missed, why="the run ends" if missed else ruling.why)


def _overruled(ruling: Ruling, call: Data) -> Ruling:
    changes: dict[str, Any] = {}
    if call.get("next"):
        changes["player"] = call["next"]
    if "in_hand" in call:
        changes["in_hand"] = call["in_hand"]
    if call.get("points"):
        changes["points"] = {**ruling.after.points, **call["points"]}
    if "winner" in call:
        changes["winner"] = call["winner"]
    why = call.get("note") or "as overruled"
    return replace(ruling, after=replace(ruling.after, **changes), why=f"{ruling.why}; {why}")


def result_as_data(result: MatchResult) -> dict[str, Any]:
    """The result with the keys of the `referee` command."""
    return {"racks": [_rack_as_data(rack) for rack in result.racks], "winner": result.winner}


def _rack_as_data(rack: RackResult) -> dict[str, Any]:
    return {
        "shots": [ruling_as_data(ruling) for ruling in rack.rulings],
        "winner": rack.winner,
        "score": dict(rack.score),
        "sets": dict(rack.sets),
    }


def ruling_as_data(ruling: Ruling) -> dict[str, Any]:
    after = ruling.after
    return {
        "legal_balls": list(ruling.legal_balls),
        "foul": ruling.foul,
        "fouls": list(ruling.fouls),
        "points": dict(after.points),
        "next": ruling.next,
        "in_hand": None if after.winner else after.in_hand,
        "choices": [] if after.winner else list(after.choices),
        "counted": ruling.counted,
        "run": after.run,
        "spotted": list(ruling.spotted),
        "racked": list(ruling.racked),
        "placed": dict(ruling.placed),
        "seen_fouls": list(ruling.seen),
        "hole": ruling.hole,
        "why": ruling.why,
    }
