"""What was seen to happen in a shot, beside what the layouts around it tell."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from aretane.core.ball import CUE
from aretane.core.review.proposal import Proposal

STROKE, CONTACT, RAIL, POCKET, REST = "strike", "contact", "rail", "pocket", "rest"


@dataclass(frozen=True)
class Happening:
    """`kind`: strike, contact, rail, pocket or rest; to which balls, at which rail or pocket; `t` in seconds."""

    t: float
    kind: str
    balls: tuple[str, ...]
    what: str | None = None


def first_hit(course: Iterable[Happening]) -> Happening | None:
    """The cue ball's first contact."""
    return next((one for one in course if one.kind == CONTACT and CUE in one.balls), None)


def rails_after(course: Sequence[Happening]) -> int | None:
    """How many balls touched a rail after the first contact; None without one."""
    first = first_hit(course)
    if first is None:
        return None
    return len({one.balls[0] for one in course if one.kind == RAIL and one.t > first.t})


def with_course(proposal: Proposal, course: Sequence[Happening]) -> Proposal:
    """The proposal as it is after the balls' ways were seen: which ball was hit first, how many came to a rail,
    which fell where. What is seen is asked no more."""
    if not course:
        return proposal
    facts, unsure = dict(proposal.facts), set(proposal.open)
    first, rails = first_hit(course), rails_after(course)
    if first is not None:
        hit = next(ball for ball in first.balls if ball != CUE)
        if facts.get("first_contact") in (None, hit) or hit not in _fell(facts):
            facts["first_contact"] = hit
            unsure.discard("first_contact")
        facts["rails_after_contact"] = rails
    fell = {one.balls[0]: one.what for one in course if one.kind == POCKET}
    if facts.get("potted"):
        facts["potted"] = [_where(one, fell) for one in facts["potted"]]
    called: Mapping[str, Any] = facts.get("called") or {}
    if called.get("ball") in fell and facts.get("result") == "made":
        facts["called"] = {"ball": called["ball"], "pocket": fell[called["ball"]]}
        unsure.discard("called")
    return replace(proposal, facts=facts, open=tuple(one for one in proposal.open if one in unsure))


def _fell(facts: Mapping[str, Any]) -> set[str]:
    return {one["ball"] for one in facts.get("potted") or ()}


def _where(one: Mapping[str, Any], fell: Mapping[str, str | None]) -> dict[str, Any]:
    return {"ball": one["ball"], "pocket": fell[one["ball"]]} if fell.get(one["ball"]) else dict(one)
