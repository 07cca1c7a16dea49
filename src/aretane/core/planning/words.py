"""Why an option is worth what it is, in a coach's words."""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from aretane.core.planning.options import Option

_POCKETS = {
    "head-left": "head left corner",
    "head-right": "head right corner",
    "side-left": "left side pocket",
    "side-right": "right side pocket",
    "foot-left": "foot left corner",
    "foot-right": "foot right corner",
}


def why(option: Option) -> str:
    """One or two sentences: what it needs, what it gives, what a failure leaves."""
    return " ".join(part for part in (_does(option), _fails(option), _reaches(option)) if part)


def _percent(share: float | None) -> str:
    return "never" if not share else f"{int(100 * share + 0.5)} %"


def _does(option: Option) -> str:
    value = option.value
    if option.intent == "push-out":
        return "Rolls the cue ball where the opponent gains as little by playing on as by handing the shot back."
    if option.ball is not None:
        way = "" if option.kind == "pot" else f" as a {option.kind}"
        text = f"{_name(option.ball)} goes {_percent(value.pot.p)} of the time{way}"
        text += f" into the {_POCKETS.get(str(option.pocket), str(option.pocket))}"
        if (value.position.p or 0.0) and value.position.n:
            text += f", and then leaves good position {_percent(value.position.p)}"
        if "break-out" in option.also:
            text += "; it opens the cluster"
        return text + "."
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
    if not option.reach.words:
        return ""
    return f"Cueing: {', '.join(option.reach.words)}; the aim's error counts {option.reach.wider:.2f} times."


def _name(ball: str) -> str:
    return f"The {ball}" if not ball.startswith(("red-", "yellow-")) else f"The {ball.split('-')[0]}"
