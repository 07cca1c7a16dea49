"""The referee: goes through a match entry by entry and says what each did, as the rules have it.

A match is the plain data of the match format. Facts that are absent are taken from the layouts, else
taken as lawful. The coach's `overrule` and what was `called_at_table` replace the computed keys.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.errors import ImpossibleShot, InputError
from aretane.core.layout import Layout, State
from aretane.core.rules.game import (
    UNKNOWN,
    Discipline,
    IllegalEntry,
    RackState,
    Ruling,
    ShotFacts,
    opponent,
)
from aretane.core.rules.nine_ball import MONEY_BALL, NineBall
from aretane.core.table import table_from

Data = Mapping[str, Any]

_DISCIPLINES: dict[str, Discipline] = {"nine-ball": NineBall()}


def rules_of(name: str) -> Discipline:
    """The rules of a discipline, or `InputError` if Aretane cannot referee it."""
    if name not in _DISCIPLINES:
        raise InputError("discipline", f"{name} cannot be refereed yet; nine-ball can")
    return _DISCIPLINES[name]


@dataclass(frozen=True)
class RackResult:
    """Rulings of a rack's entries, its winner, the score after it, and the state it ended in.

    `trouble` is the first entry that cannot have happened, when the caller asked to go on.
    """

    rulings: tuple[Ruling, ...]
    winner: str | None
    score: Mapping[str, int]
    state: RackState
    breaker: str


@dataclass(frozen=True)
class MatchResult:
    racks: tuple[RackResult, ...]
    score: Mapping[str, int]
    winner: str | None
    trouble: tuple[ImpossibleShot, ...] = ()


def referee(match: Data, *, strict: bool = True) -> MatchResult:
    """Rule on every entry of a match.

    With `strict` the first entry that cannot have happened raises `ImpossibleShot`. Without it the
    rest of that rack is left out and the place is reported in `trouble`: that is how a rack that is
    being edited is shown.
    """
    rules = rules_of(match["discipline"])
    options = match.get("rules") or {}
    start = match.get("start") or {}
    race_to = match.get("race_to")
    score = {"A": 0, "B": 0, **(start.get("score") or {})}
    results: list[RackResult] = []
    trouble: list[ImpossibleShot] = []
    breaker: str | None = start.get("breaker")
    for number, rack in enumerate(match.get("racks") or ()):
        try:
            if race_to and max(score.values()) >= race_to and rack.get("shots"):
                raise ImpossibleShot(number, 0, f"race to {race_to}", "the match is already over")
            breaker = _breaker(number, rack, breaker, options)
        except ImpossibleShot as problem:
            if strict:
                raise
            trouble.append(problem)
            breaker = rack.get("breaker") or breaker or "A"
        state = _first_state(rules, rack, breaker, match, start if number == 0 else {})
        rulings, state, problem_found = _go_through(rules, number, rack, state, options)
        if problem_found is not None:
            if strict:
                raise problem_found
            trouble.append(problem_found)
        if state.winner:
            score = {**score, state.winner: score[state.winner] + 1}
        results.append(RackResult(rulings, state.winner, dict(score), state, breaker))
        breaker = _next_breaker(breaker, state.winner, options)
    winner = next((p for p in ("A", "B") if race_to and score[p] >= race_to), None)
    return MatchResult(tuple(results), score, winner, tuple(trouble))


def _breaker(number: int, rack: Data, due: str | None, options: Data) -> str:
    given: str | None = rack.get("breaker")
    if given and due and number > 0 and "breaks" in options and given != due:
        rule = f"option breaks: {options['breaks']}"
        raise ImpossibleShot(number, 0, rule, f"player {due} has the break, not {given}")
    first: Data = next(iter(rack.get("shots") or ()), {})
    return given or due or first.get("player") or "A"


def _next_breaker(breaker: str, winner: str | None, options: Data) -> str:
    """Who breaks next: the winner unless the option ``breaks`` says loser or alternate."""
    how = options.get("breaks", "winner")
    if how == "alternate" or winner is None:
        return opponent(breaker)
    return winner if how == "winner" else opponent(winner)


def _first_state(rules: Discipline, rack: Data, breaker: str, match: Data, start: Data) -> RackState:
    """A full rack, unless a start state or the first layout says that it is already under way."""
    first: Data = next(iter(rack.get("shots") or ()), {})
    described = start.get("layout") or {}
    balls = described.get("balls")
    if not balls and first.get("kind") not in (None, "break"):
        balls = (first.get("layout_before") or {}).get("balls")
    if not balls and not described.get("state"):
        return rules.rack(breaker)
    given = {**((first.get("layout_before") or {}).get("state") or {}), **(described.get("state") or {})}
    known = {key: given[key] for key in ("ball_in_hand", "push_out_allowed") if given.get(key)}
    player = given.get("player") or start.get("player") or first.get("player") or breaker
    fouls = {"A": 0, "B": 0, **(start.get("fouls") or given.get("fouls") or {})}
    discipline = match["discipline"]
    places = balls or dict.fromkeys(OBJECT_BALLS[discipline], (0.0, 0.0))
    table = table_from(match.get("table", "pool-9ft"))
    layout = Layout(table, discipline, places, State(player=player, fouls=fouls, **known))
    return rules.resume(layout)


def _go_through(
    rules: Discipline, number: int, rack: Data, state: RackState, options: Data
) -> tuple[tuple[Ruling, ...], RackState, ImpossibleShot | None]:
    rulings: list[Ruling] = []
    for index, shot in enumerate(rack.get("shots") or ()):
        try:
            ruling = rule_on(rules, state, shot, options)
        except IllegalEntry as refused:
            return tuple(rulings), state, ImpossibleShot(number, index, refused.rule, refused.message)
        rulings.append(ruling)
        state = ruling.after
    return tuple(rulings), state, None


def rule_on(rules: Discipline, state: RackState, shot: Data, options: Data) -> Ruling:
    """The ruling on one entry, after the coach's overrule and what was called at the table."""
    call = {**(shot.get("called_at_table") or {}), **(shot.get("overrule") or {})}
    facts = facts_of(shot, state)
    if call:
        # Play went on as it was called, whoever should have been at the table.
        state = state.turn_to(facts.player) if not state.winner else state
        if "foul" in call:
            facts = replace(facts, forced_foul=call["foul"])
    else:
        _refuse_contradictions(shot, state)
    ruling = rules.judge(state, facts, options)
    return _overruled(ruling, call) if call else ruling


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


def facts_of(shot: Data, state: RackState) -> ShotFacts:
    """The facts of one entry. What is not said is taken from its layouts, else left unknown."""
    potted = shot.get("potted")
    after = (shot.get("layout_after") or {}).get("balls")
    before = (shot.get("layout_before") or {}).get("balls")
    off_table = tuple(shot.get("off_table") or ())
    if potted is not None:
        gone = tuple(entry["ball"] for entry in potted)
    elif after is not None and before is not None:
        gone = tuple(b for b in before if b not in after and b != CUE and b not in off_table)
    else:
        gone = ()
    scratch = shot.get("scratch")
    if scratch is None:
        scratch = CUE in gone or (after is not None and CUE not in after and CUE not in off_table)
    called = shot.get("called")
    return ShotFacts(
        player=shot.get("player"),
        kind=shot.get("kind"),
        declared=shot.get("declared"),
        first_contact=shot.get("first_contact", UNKNOWN),
        rails=(shot["rails_after_contact"] or 0) if "rails_after_contact" in shot else None,
        object_balls_to_rail=shot.get("object_balls_to_rail"),
        past_line=shot.get("past_line"),
        potted=tuple(ball for ball in gone if ball != CUE),
        scratch=bool(scratch),
        off_table=off_table,
        fouls_seen=tuple(shot.get("fouls_seen") or ()),
        called=(called["ball"], called["pocket"]) if called else None,
    )


def _refuse_contradictions(shot: Data, state: RackState) -> None:
    known = set(state.balls)
    before = (shot.get("layout_before") or {}).get("balls") or {}
    for ball in before:
        if ball != CUE and ball not in known:
            raise IllegalEntry("layout before the shot", f"ball {ball} stands there but was potted earlier")
    after = (shot.get("layout_after") or {}).get("balls") or {}
    gone = {entry["ball"] for entry in shot.get("potted") or ()}
    for ball in after:
        if ball != CUE and ball not in known:
            raise IllegalEntry("layout after the shot", f"ball {ball} stands there but was potted earlier")
        if ball in gone and ball != MONEY_BALL:  # only the nine comes back to the table
            raise IllegalEntry("layout after the shot", f"ball {ball} stands there but was potted")
    if shot.get("scratch") and CUE in after and not _in_hand_after(shot):
        raise IllegalEntry("layout after the shot", "the cue ball stands there but was potted")


def _in_hand_after(shot: Data) -> bool:
    state = (shot.get("layout_after") or {}).get("state") or {}
    return bool(state.get("ball_in_hand"))


def result_as_data(result: MatchResult) -> dict[str, Any]:
    """The result with the keys of the `referee` command."""
    return {"racks": [_rack_as_data(rack) for rack in result.racks]}


def _rack_as_data(rack: RackResult) -> dict[str, Any]:
    return {
        "shots": [ruling_as_data(ruling) for ruling in rack.rulings],
        "winner": rack.winner,
        "score": dict(rack.score),
    }


def ruling_as_data(ruling: Ruling) -> dict[str, Any]:
    return {
        "legal_balls": list(ruling.legal_balls),
        "foul": ruling.foul,
        "fouls": list(ruling.fouls),
        "points": dict(ruling.after.points),
        "next": ruling.next,
        "in_hand": None if ruling.after.winner else ruling.after.in_hand,
        "choices": [] if ruling.after.winner else list(ruling.after.choices),
        "spotted": list(ruling.spotted),
        "why": ruling.why,
    }
