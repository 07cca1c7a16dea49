"""Shots that were seen in a recording, told one after the other as entries of a match: who played is said by the
rules, the rest by the layouts, and every field that nobody stated is marked as inferred.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from aretane.core.layout import Layout
from aretane.core.review.course import Happening, with_course
from aretane.core.review.proposal import propose
from aretane.core.rules.disciplines import rules_of
from aretane.core.rules.game import RackState
from aretane.core.rules.referee import MatchResult, referee

Data = Mapping[str, Any]

SEEN = (
    "layout_before",
    "layout_after",
    "time",
    "route",
)  # what the picture tells: a later look at it may change these
FELL = ("potted", "scratch")  # what layouts tell without a doubt


@dataclass(frozen=True)
class Seen:
    """The layouts around a shot, whether it opens a rack that was set up before it, and what was seen between."""

    before: Layout
    after: Layout
    begins: bool
    course: tuple[Happening, ...] = ()


@dataclass(frozen=True)
class Told:
    """A shot as an entry: its fields in the match format, those that are open, and what the rules make of it."""

    document: dict[str, Any]
    open: tuple[str, ...]
    why: str


def told_after(match: Data, shots: Sequence[Seen]) -> list[Told]:
    """These shots as the next entries of a match, in order. Where the rules refuse one, who plays is asked."""
    racks = [dict(rack) for rack in match.get("racks") or ()]
    result = referee(match, strict=False)
    found = []
    for shot in shots:
        if not racks or result.racks[-1].over or (shot.begins and racks[-1].get("shots")):
            racks.append({"shots": []})
            result = _ruled(match, racks, result)
        document, unsure = _entry(result.racks[-1].state, shot, match["discipline"])
        racks[-1] = {**racks[-1], "shots": [*racks[-1]["shots"], document]}
        result = _ruled(match, racks, result)
        refused = next((one.message for one in result.trouble if one.rack == len(racks) - 1), None)
        rulings = result.racks[-1].rulings
        why = refused or (rulings[-1].why if rulings else "")
        found.append(Told(document, (*unsure, "player") if refused else unsure, why))
    return found


def told_before(match: Data, result: MatchResult, rack: int, index: int, shot: Seen) -> Told:
    """A shot as it would be told in the place of an entry that is in the log, or just before it."""
    played = result.racks[rack]
    if index > len(played.rulings):  # after an entry that cannot have happened
        proposal = with_course(propose(shot.before, shot.after, ()), shot.course)
        return Told(
            {**proposal.facts, "inferred": sorted({*proposal.facts, *SEEN})}, (*proposal.open, "player"), ""
        )
    state = played.rulings[index - 1].after if index else played.begins
    document, unsure = _entry(state, shot, match["discipline"])
    return Told(document, unsure, "")


def _ruled(match: Data, racks: Sequence[Data], known: MatchResult) -> MatchResult:
    """The match with these racks, of which only the last one may be another than in `known`."""
    return referee(
        {**match, "racks": racks}, strict=False, known=known, since=min(len(racks) - 1, len(known.racks))
    )


def _entry(state: RackState, shot: Seen, discipline: str) -> tuple[dict[str, Any], tuple[str, ...]]:
    legal = rules_of(discipline).legal_balls(state)
    proposal = with_course(propose(shot.before, shot.after, legal, state.phase), shot.course)
    unsure = proposal.open
    if "push-out" in state.choices and not proposal.facts.get("potted") and "intent" not in unsure:
        unsure = (*unsure, "intent")
    document = {"player": state.player, **proposal.facts}
    if "intent" in document:
        document["intent_source"] = "inferred"
    return {**document, "inferred": sorted({*document, *SEEN})}, unsure


def renewed(document: Data, fresh: Data) -> dict[str, Any]:
    """An entry after its recording was looked at again: only what nobody confirmed follows."""
    follows = set(document.get("inferred") or ())
    kept = {key: value for key, value in document.items() if key not in follows}
    return {**kept, **{key: value for key, value in fresh.items() if key in follows}}


def contradicted(document: Data, fresh: Data) -> list[str]:
    """The fields that somebody confirmed and that the recording tells otherwise."""
    confirmed = [key for key in FELL if key not in (document.get("inferred") or ())]
    return [key for key in confirmed if _told(document, key) != _told(fresh, key)]


def _told(document: Data, key: str) -> Any:
    if key == "potted":
        return {one["ball"] for one in document.get("potted") or ()}
    return bool(document.get(key))
