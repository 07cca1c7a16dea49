"""The verdict in short: sums by phase of play, their uncertainty, and one sentence for each player."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from aretane.core.review.ledger.booking import PARTS, Entry
from aretane.core.review.ledger.juncture import Juncture
from aretane.core.review.ledger.match import MatchLedger
from aretane.core.review.ledger.named import Named, named_in, phase_of
from aretane.core.review.ledger.plans import Followed, followed
from aretane.core.review.ledger.worth import SURE
from aretane.core.review.replay import Replay
from aretane.core.rules.traits import Traits, traits_of

PHASES = ("opening", "pattern", "recovery", "end")
ALL_PARTS = (*PARTS, "unsplit")
_GAINED = {"decision": "decisions", "pot": "potting", "position": "position", "luck": "luck"}

Booked = Sequence[tuple[Entry, str]]  # every entry with its phase


@dataclass(frozen=True)
class Verdict:
    """By rack and entry the `phases` and what each may be called (`named`); by rack the written `plans`;
    by player the sums of each phase, the standard errors of all sums, what the choices cost by each school, and one
    sentence.
    """

    phases: tuple[tuple[str, ...], ...]
    named: tuple[tuple[tuple[Named, ...], ...], ...]
    plans: tuple[tuple[Followed, ...], ...]
    by_phase: Mapping[str, list[dict[str, float | str]]]
    errors: Mapping[str, dict[str, float]]
    schools: Mapping[str, dict[str, float]]
    said: Mapping[str, str]


def verdict_of(
    match: Mapping[str, Any], racks: Sequence[Sequence[Juncture]], replayed: Replay, ledger: MatchLedger
) -> Verdict:
    phases, named = [], []
    plans = tuple(
        tuple(followed(rack, shots, booked.entries, replayed.discipline))
        for rack, shots, booked in zip(match.get("racks") or (), replayed.racks, ledger.racks, strict=False)
    )
    players = match.get("players") or {}
    names = {seat: str((players.get(seat) or {}).get("name") or seat) for seat in ("A", "B")}
    for rack, shots, booked in zip(racks, replayed.racks, ledger.racks, strict=False):
        before = (None, *booked.entries)
        phases.append(tuple(phase_of(at, before[index]) for index, at in enumerate(rack[: len(booked.entries)])))
        named.append(tuple(tuple(one) for one in named_in(rack, shots, booked)))
    entries = [entry for rack in ledger.racks for entry in rack.entries]
    booked_in = list(zip(entries, (phase for rack in phases for phase in rack), strict=True))
    traits, count = traits_of(replayed.discipline), sum(bool(rack.entries) for rack in ledger.racks)
    return Verdict(
        tuple(phases), tuple(named), plans, {seat: by_phase(booked_in, seat) for seat in ("A", "B")},
        {seat: errors_of(entries, seat) for seat in ("A", "B")},
        {seat: by_school(entries, seat) for seat in ("A", "B")},
        {seat: sentence(entries, seat, names[seat], count, traits) for seat in ("A", "B")},
    )  # fmt: skip


def by_phase(booked: Booked, player: str) -> list[dict[str, float | str]]:
    """What a player gained and lost in each phase that he was in."""
    found: list[dict[str, float | str]] = []
    for phase in PHASES:
        own = [entry for entry, one in booked if one == phase and entry.player == player]
        if own:
            found.append({"phase": phase, "shots": len(own), **{part: sum_of(own, part) for part in ALL_PARTS}})
    return found


def sum_of(entries: Sequence[Entry], part: str) -> float:
    values = [entry.unsplit if part == "unsplit" else entry.parts[part] for entry in entries]
    return math.fsum(value for value in values if value is not None)


def by_school(entries: Sequence[Entry], player: str) -> dict[str, float]:
    """What a player's choices cost by each school's liking."""
    found: dict[str, list[float]] = {}
    for entry in entries:
        if entry.player == player and entry.judged.stroke is not None and entry.parts["decision"] is not None:
            for school, cost in entry.judged.stroke.tastes.items():
                found.setdefault(school, []).append(cost)
    return {school: math.fsum(costs) for school, costs in found.items()}


def errors_of(entries: Sequence[Entry], player: str) -> dict[str, float]:
    """Standard errors of a player's sums: those of his entries, taken as independent."""
    return {
        part: math.sqrt(sum((entry.errors[part] or 0.0) ** 2 for entry in entries if entry.player == player))
        for part in PARTS
    }


def sentence(entries: Sequence[Entry], player: str, name: str, racks: int, traits: Traits) -> str:
    """What can be said aloud: where he lost most, where he gained, how much of it luck was."""
    own = [entry for entry in entries if entry.player == player]
    if not own:
        return ""
    errors = errors_of(entries, player)
    sums = {part: sum_of(own, part) for part in PARTS}
    told = {part: value for part, value in sums.items() if part != "luck" and abs(value) > SURE * errors[part]}
    if told.get("decision", 0.0) > 0:  # nobody chooses better than best: that the best was not found costs nobody
        del told["decision"]
    unit = "balls" if traits.goes_on else f"{traits.rack}s"
    shots = f"{len(own)} shot{'s' * (len(own) != 1)}"
    if not told:
        many = f"{racks} {traits.rack}{'s' * (racks != 1)}"
        return f"{name}: in {shots} over {many} nothing stands out from what is not known for sure."
    worst, best = min(told, key=lambda part: told[part]), max(told, key=lambda part: told[part])
    said = []
    if told[worst] < 0:
        said.append(f"lost {-told[worst]:.1f} {unit} by {_GAINED[worst]}")
    if told[best] > 0:
        said.append(f"won {told[best]:.1f} {unit} by {_GAINED[best]}")
    if abs(sums["luck"]) > SURE * errors["luck"]:
        said.append(f"had {'luck' if sums['luck'] > 0 else 'bad luck'} worth {abs(sums['luck']):.1f}")
    words = said[0] if len(said) == 1 else ", ".join(said[:-1]) + " and " + said[-1]
    return f"{name} {words}, over {shots}."
