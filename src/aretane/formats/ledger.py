"""The ledger as data: the answer of `ledger`, and of the pages."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

import numpy as np

from aretane.core.review.ledger.booking import PARTS, Entry, Judged, RackLedger
from aretane.core.review.ledger.judging import Choice, Judgement
from aretane.core.review.ledger.match import MatchLedger
from aretane.core.review.ledger.named import Named
from aretane.core.review.ledger.opening import Broken, Opening
from aretane.core.review.ledger.verdict import Verdict
from aretane.core.review.ledger.worth import Known
from aretane.core.rules.traits import traits_of
from aretane.core.words import ball_words, pocket_words
from aretane.formats.choices import words_of
from aretane.formats.stroke import stroke_as_data, stroke_from

Data = dict[str, Any]


def ledger_as_data(ledger: MatchLedger, verdict: Verdict, discipline: str) -> Data:
    """Everything but hands and care, which whoever asked knows."""
    racks = zip(ledger.racks, verdict.phases, verdict.named, verdict.plans, strict=True)
    found: Data = {
        "start": ledger.racks[0].start if ledger.racks else None,
        "racks": [
            {**rack_as_data(rack, phases, named, discipline), "plans": [asdict(one) for one in plans]}
            for rack, phases, named, plans in racks
        ],
        "players": {seat: {**sums, "shots": int(sums["shots"])} for seat, sums in ledger.players.items()},
        "errors": dict(verdict.errors),
        "phases": dict(verdict.by_phase),
        "schools": dict(verdict.schools),
        "said": dict(verdict.said),
    }
    if traits_of(discipline).goes_on:
        found["unit"] = "balls"
    return found


def rack_as_data(
    rack: RackLedger, phases: Sequence[str], named: Sequence[Sequence[Named]], discipline: str
) -> Data:
    return {
        "start": rack.start,
        "shots": [
            {**entry_as_data(entry, discipline), "phase": phase, "named": [asdict(one) for one in names]}
            for entry, phase, names in zip(rack.entries, phases, named, strict=True)
        ],
        "result": rack.result,
        "now": rack.now,
        "sums": rack.sums,
        "turning_point": rack.turning_point,
    }


def entry_as_data(entry: Entry, discipline: str) -> Data:
    stroke = entry.judged.stroke

    def choice(name: str) -> Data | None:
        one = getattr(stroke, name) if stroke else None
        return choice_as_data(one, discipline) if one else None

    return {
        "player": entry.player,
        "kind": entry.kind,
        "before": entry.before,
        "best": entry.before,
        "chosen": entry.chosen,
        "after": entry.after,
        **{part: entry.parts[part] for part in PARTS},
        "unsplit": entry.unsplit,
        "split": entry.split,
        "error": {part: entry.errors[part] for part in PARTS},
        "better": choice("best"),
        "played": choice("chosen"),
        "attack": choice("attack"),
        "safety": choice("safety"),
        "break_even_pot": stroke.even if stroke else None,
        "tastes": dict(stroke.tastes) if stroke else {},
    }


def choice_as_data(choice: Choice, discipline: str) -> Data:
    return {
        "kind": choice.kind,
        "intent": choice.intent,
        "ball": choice.ball,
        "pocket": choice.pocket,
        "stroke": stroke_as_data(choice.stroke),
        "pot": choice.pot,
        "value": choice.value,
        "route": choice.route,
        "path": [list(place) for place in choice.path],
        "words": {"title": title_of(choice, discipline), "stroke": words_of(choice.stroke)},
        "why": choice.why,
    }


def title_of(choice: Choice, discipline: str) -> str:
    """What it is, in a few words."""
    if choice.ball is None or choice.intent == "push-out":
        return choice.intent if choice.kind in ("other", "") else f"{choice.kind}, {choice.intent}"
    kind = "" if choice.kind == "pot" else f"{choice.kind}: "
    return f"{kind}{ball_words(choice.ball)} {pocket_words(choice.pocket, discipline)}"


# What was worked out for an entry, as it is kept.


def judged_as_data(judged: Judged) -> Data:
    stroke, opening = judged.stroke, judged.opening
    data: Data = {"others": asdict(judged.others) if judged.others else None, "stroke": None, "opening": None}
    if stroke is not None:
        data["stroke"] = asdict(stroke) | {
            name: None
            if (one := getattr(stroke, name)) is None
            else asdict(one) | {"stroke": stroke_as_data(one.stroke)}
            for name in _CHOICES
        }
    if opening is not None:
        data["opening"] = {
            "broken": [
                {
                    "outcome": one.outcome,
                    "value": one.value,
                    "places": None if one.places is None else one.places.tolist(),
                }
                for one in opening.broken
            ]
        }
    return data


def judged_from(data: Data) -> Judged:
    """The inverse of `judged_as_data`."""
    return Judged(_stroke_from(data["stroke"]), _opening_from(data["opening"]), _known(data["others"]))


_CHOICES = ("best", "attack", "safety", "chosen")
_VALUES = ("before", "decision", "expected", "fortune")


def _known(data: Data | None) -> Known | None:
    return None if data is None else Known(**data)


def _stroke_from(data: Data | None) -> Judgement | None:
    if data is None:
        return None
    return Judgement(
        **{
            **data,
            **{name: _choice_from(data[name]) for name in _CHOICES},
            **{name: _known(data[name]) for name in _VALUES},
        }
    )


def _choice_from(data: Data | None) -> Choice | None:
    if data is None:
        return None
    path = tuple((float(x), float(y)) for x, y in data["path"])
    return Choice(**{**data, "stroke": stroke_from(data["stroke"]), "path": path})


def _opening_from(data: Data | None) -> Opening | None:
    if data is None:
        return None
    broken = [
        Broken(**{**one, "places": None if one["places"] is None else np.array(one["places"])})
        for one in data["broken"]
    ]
    return Opening(tuple(broken))
