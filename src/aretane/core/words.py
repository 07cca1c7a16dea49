"""The words of the trade, once: what formats and keys call a thing, and what people say.

The page has them as `frontend/src/trade.ts`, written by `aretane trade`.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import asdict
from typing import Any

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.rules.game import FOULS
from aretane.core.rules.traits import TRAITS, Traits, traits_of
from aretane.core.statistics.measures import BY, ESTIMATES, GROUPS, MEASURES, MOUTH, SQUARES
from aretane.core.table import POCKETS

KINDS = (
    "pot", "bank", "kick", "combination", "cannon", "glance", "jump", "nudge", "break-out", "thin", "other",
)  # fmt: skip
INTENTS = (
    "attack", "safety", "two-way", "containing", "escape", "deny", "tie-up", "position", "experiment",
)  # fmt: skip
INTENT_MEANS = {
    "attack": "pots to go on", "safety": "leaves the opponent nothing he likes",
    "two-way": "pots, and a miss leaves nothing", "containing": "only keeps the score: no pot, nothing given away",
    "escape": "out of a snooker or hook: the ball on must be hit",
    "deny": "takes a ball or pocket from the opponent",
    "tie-up": "ties balls up that the opponent needs", "position": "moves balls for a later shot",
    "experiment": "was tried out and counts nowhere",
}  # fmt: skip
SOURCES = {"stated": "the player's own word", "inferred": "as it looks", "unknown": "nobody's word"}
RESULTS = {
    "made": "made", "missed-thick": "missed thick", "missed-thin": "missed thin", "missed-jaw": "in the jaws",
    "fluke": "fluke", "played": "no pot meant",
}  # fmt: skip
SESSIONS = {
    "match": "match", "solo": "solo run", "both-sides": "one person, both sides",
    "partners": "partners in alternation", "lesson": "lesson or demonstration",
}  # fmt: skip
TABLES = {
    "pool-9ft": "9 ft", "pool-8ft": "8 ft", "pool-7ft": "7 ft", "snooker-12ft": "12 ft snooker",
    "blackball-7ft": "7 ft with small pockets",
}  # fmt: skip
CAUSES = (
    "speed", "too much spin", "too little spin", "needless spin", "line", "wrong part of the pocket", "off centre",
    "steered", "throw", "squirt", "route never decided", "rushed", "routine skipped", "got up from the shot",
    "stretched", "attention on position", "attention on the pot", "careless", "overconfident", "forced",
    "fixed on one ball", "easier ball not seen", "table not re-read", "missed pattern", "wrong option",
    "under-hit break-out", "over-hit soft shot", "cold after a wait", "dwelling on the last shot", "pressure",
    "tired", "distracted", "discomfort", "equipment not at hand", "rail", "roll", "pocket", "speed of the table",
)  # fmt: skip
ROUTINE = ("decided before getting down", "walked the table", "stayed down", "began again", "elbow still")
ENTERED = ("thick", "middle", "thin")  # part of the pocket, as of a ball that was hit so
HOW_IT_FELL = ("clean", "rattled")
CONTACTS = {"stopped": "used as a stop", "nudged": "nudged", "kissed": "kissed"}
LUCK = {"planned": "planned", "some": "planned, with some fortune", "pure": "pure luck"}
PACES = ("soft", "medium", "firm")
_PACE_ENDS = (1.2, 2.4)  # m/s of the cue ball: where medium and firm begin (common practice)
TIPS = ("draw", "stun", "follow")
REACHES = ("comfortable", "stretched", "rest", "off hand")
_OFF_CENTRE, _SIDE = 0.12, 0.1  # of the radius: less is said to be stun, and no side
STROKES = (
    PACES, TIPS, ("left", "no side", "right"),
    # What a camera from behind or on the head shows of the delivery: where it was aimed, and where the cue went.
    ("aimed thick", "aimed right", "aimed thin"), ("cue to the left", "cue straight", "cue to the right"),
    REACHES,
)  # fmt: skip

_FULLNESS = ("full", "three-quarter", "half", "thin")
LEAVES = ("nothing", "a long pot", "a pot", "an easy pot")
_NEXT = ("Next", "next_visible", ("yes", "partly", "no"))
_POOL_BREAK = (
    ("From", "from", ("left rail", "left", "centre", "right", "right rail")),
    ("Power", "power", (*PACES, "full")),
    ("First", "fullness", _FULLNESS),
    ("Made", "made", ("wing ball", "head ball in the side", "money ball", "other")),
    ("White", "rests", ("centre", "head", "foot", "left rail", "right rail")),
)
_SNOOKER_BREAK = (
    (
        "Break", "type",
        (
            "thin off the end red", "thin off the second red", "with check side", "into the pack",
            "off two cushions", "other",
        ),
    ),
    ("White", "rests", ("baulk cushion", "in baulk", "in the open")),
    ("Leaves", "leaves", LEAVES),
)  # fmt: skip
_OPENING = (
    ("White", "rests", ("head", "centre", "foot", "left rail", "right rail")),
    ("Leaves", "leaves", LEAVES),
)
BREAK_SHOT = (
    ("Pack", "side", ("left", "right", "above", "below", "behind")),
    ("Power", "power", PACES),
    ("First", "fullness", _FULLNESS),
    ("Opened", "opened", ("wide", "well", "partly", "hardly")),
    ("Next", "next_shot", ("yes", "no")),
)


def pocket_words(pocket: str | None, discipline: str) -> str:
    """A pocket by the name that the game has for it."""
    return _pockets(traits_of(discipline)).get(pocket or "", "")


def _pockets(traits: Traits) -> dict[str, str]:
    head, foot = traits.ends
    ends = {"head": head, "side": "side" if head == "head" else "middle", "foot": foot}
    return {pocket: f"{ends[pocket.split('-')[0]]} {pocket.split('-')[1]}" for pocket in POCKETS}


def ball_words(ball: str) -> str:
    return "cue ball" if ball == CUE else f"{ball} ball" if ball.isdigit() else ball.replace("-", " ")


def pace_words(speed: float) -> str:
    """How hard a cue ball of that speed (m/s) is played."""
    return PACES[sum(speed >= end for end in _PACE_ENDS)]


def tip_words(height: float) -> str:
    """Where above or below the middle (radii) a cue ball is struck."""
    return "draw" if height < -_OFF_CENTRE else "follow" if height > _OFF_CENTRE else "stun"


def stroke_words(speed: float, side: float = 0.0, height: float = 0.0, elevation: float = 0.0) -> str:
    """ "draw, firm, left (2.6 m/s)": a stroke as a coach says it."""
    turn = ", right" if side > _SIDE else ", left" if side < -_SIDE else ""
    raised = round(math.degrees(elevation))
    up = f", cue raised {raised}°" if raised > 0 else ""
    return f"{tip_words(height)}, {pace_words(speed)}{turn} ({speed:.1f} m/s{up})"


def break_lines(traits: Traits) -> tuple[Any, ...]:
    """What a coach notes of a break: heading, field, what it may be."""
    if traits.goes_on:
        return _OPENING
    if traits.points:
        return _SNOOKER_BREAK
    return (*_POOL_BREAK, _NEXT) if traits.rotation else _POOL_BREAK


def trade() -> Mapping[str, Any]:
    """All of them for the page."""
    return {
        "disciplines": [
            {
                **asdict(traits), "returns": sorted(traits.returns), "points": traits.points,
                "goes_on": traits.goes_on, "first": traits.first, "pockets": _pockets(traits),
                "breaks": break_lines(traits), "balls": OBJECT_BALLS[traits.name],
            }
            for traits in TRAITS.values()
        ],
        "kinds": KINDS, "intents": INTENTS, "intent_means": INTENT_MEANS,
        "sources": tuple(SOURCES.items()), "results": RESULTS, "causes": CAUSES,
        "strokes": STROKES, "fouls": [foul for foul in FOULS if foul != "three-fouls"],
        "routine": ROUTINE, "entered": ENTERED, "how_it_fell": HOW_IT_FELL, "contacts": CONTACTS, "luck": LUCK,
        "sessions": tuple(SESSIONS.items()), "tables": tuple(TABLES.items()), "break_shot": BREAK_SHOT,
        "measures": [
            (group, [(name, MEASURES[name].words) for name in names]) for group, names in GROUPS.items()
        ],
        "by": tuple(BY.items()), "squares": SQUARES, "estimates": ESTIMATES, "mouth": MOUTH,
    }  # fmt: skip
