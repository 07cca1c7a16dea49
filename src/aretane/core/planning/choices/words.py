"""Why an option is worth what it is, in a coach's words."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

from aretane.core.words import pocket_words

if TYPE_CHECKING:
    from aretane.core.planning.choices.option import Option

SIDE = 0.15  # of the radius: less is no side worth a word
FIRM = 2.4  # m/s: a stroke that must say what its speed buys


def why(option: Option, others: Sequence[Option], discipline: str) -> str:
    """One or two sentences: what it needs, what it gives, what side or speed buys, what a failure leaves."""
    parts = _does(option, discipline), _buys(option, others), _fails(option), _reaches(option)
    return " ".join(part for part in parts if part)


def _buys(option: Option, others: Sequence[Option]) -> str:
    """What side or speed buys against the best plainer stroke at the same pot or, where none goes, the same
    ball.
    """
    stroke = option.stroke
    every = [one for entry in others for one in (entry, *entry.variations)]
    rivals = [one for one in every if one is not option and (one.ball, one.pocket) == (option.ball, option.pocket)]
    if abs(stroke.side) >= SIDE:
        plain = [one for one in rivals if abs(one.stroke.side) < SIDE / 2]
        word, instead = f"{'Right' if stroke.side > 0 else 'Left'}-hand side", "a centre ball"
    elif stroke.speed >= FIRM:
        plain = [one for one in rivals if one.stroke.speed < 0.8 * stroke.speed and abs(one.stroke.side) < SIDE / 2]
        word, instead = f"{stroke.speed:.1f} m/s", "a softer stroke"
    else:
        return ""
    rival = max(plain, key=lambda one: one.win, default=None)
    if rival is None:
        return f"{word}: {instead} has no such way." if option.ball is not None else ""
    bought = []
    if abs(option.run - rival.run) >= 0.2:
        more = "less" if option.run < rival.run else "more"
        bought.append(f"{abs(option.run - rival.run):.1f} m {more} run")
    spared = [ball for ball in rival.moves if ball not in option.moves]
    if spared:
        bought.append(f"keeps clear of {', '.join(_the(ball) for ball in spared)}")
    points = round(100 * (option.win - rival.win))
    costs = (
        f"{instead} costs {points} point{'s' if points > 1 else ''}"
        if points >= 1
        else f"{instead} is worth the same"
    )
    return f"{word}: {', '.join(bought) or 'another place for the cue ball'}; {costs}."


def _percent(share: float | None) -> str:
    return "never" if not share else f"{int(100 * share + 0.5)} %"


def _does(option: Option, discipline: str) -> str:
    value = option.value
    if option.intent == "push-out":
        return "Rolls the cue ball where the opponent gains as little by playing on as by handing the shot back."
    if option.ball is not None:
        way = "" if option.kind == "pot" else f" as a {option.kind}"
        text = f"{_name(option.ball)} goes {_percent(value.pot.p)} of the time{way}"
        text += f" into the {pocket_words(option.pocket, discipline)} pocket"
        if (value.position.p or 0.0) and value.position.n:
            text += f", and then leaves good position {_percent(value.position.p)}"
        if "break-out" in option.also:
            text += "; it opens the cluster"
        return text + "."
    if option.intent == "tie-up":
        return "A foul on purpose, if the house allows it: the opponent has ball in hand, and balls that do not go."
    if option.intent == "deny":
        return "A foul on purpose, if the house allows it, that leaves no shot."
    leaves = value.leaves
    hit = {"kick": "Kicks at the ball", "jump": "Jumps to the ball", "thin": "A thin hit"}.get(option.kind)
    full = "A full hit" if (option.fraction or 0.0) > 0.7 else "A half-ball hit"
    text = hit or full
    if leaves is not None:
        hidden = leaves.hidden.p or 0.0
        if hidden >= 0.2:
            text += f" that hides the ball {_percent(hidden)} of the time"
            if leaves.kick < 0.9:
                text += f" (a kick then hits {_percent(leaves.kick)})"
        text += f"; the opponent's best pot is {_percent(leaves.pot)} on average, from {leaves.distance:.1f} m"
    if "break-out" in option.also:
        text += "; it opens the cluster"
    return text + "."


def _fails(option: Option) -> str:
    value = option.value
    if (value.foul.p or 0.0) >= 0.08:
        return f"It is a foul {_percent(value.foul.p)} of the time."
    if option.ball is not None and (value.opponent_next.p or 0.0) >= 0.25:
        return f"A miss leaves the opponent a good pot in {_percent(value.opponent_next.p)} of all tries."
    if option.intent == "two-way":
        return "A miss leaves no more than the best safety would."
    return ""


def _reaches(option: Option) -> str:
    raised = math.degrees(option.stroke.elevation)
    words = [
        *option.reach.words,
        *([f"cue raised {raised:.0f} degrees"] if raised > 0 and option.kind != "jump" else []),
    ]
    return f"Cueing: {', '.join(words)}." if words else ""


def _the(ball: str) -> str:
    return f"the {ball.split('-')[0]}"


def _name(ball: str) -> str:
    return f"The {ball}" if not ball.startswith(("red-", "yellow-")) else f"The {ball.split('-')[0]}"
