"""The options of every discipline: one table for the referee, the importer, the pages and the documentation.

A match's `rules` holds what differs from the defaults, which are the published world rules.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from aretane.core.errors import InputError


@dataclass(frozen=True)
class Option:
    """Its default, the values it may take (empty: a whole number from `least` to `most`), its meaning."""

    name: str
    default: Any
    values: tuple[Any, ...]
    means: str
    least: int = 0
    most: int = 1000


YES_NO = (True, False)

FOULS = Option("fouls", "cue-ball", ("cue-ball", "all-balls"), "all-balls: a moved object ball is a foul too")
BREAKS = Option("breaks", "alternate", ("alternate", "winner", "loser"), "who breaks after the first rack")
SETS = Option("sets", 1, (), "sets to win; the race is then that of one set", 1, 100)
HANDICAP = (
    Option("handicap_a", 0, (), "what player A starts with: racks of a set, points of a frame or game"),
    Option("handicap_b", 0, (), "the same for player B"),
)
EVERYWHERE = (BREAKS, SETS, *HANDICAP)
TOUCHING = Option("touching", "through", ("through", "away"), "away: a frozen ball must be played away from")


def three_fouls(default: bool) -> Option:
    return Option("three_fouls", default, YES_NO, "three fouls in a row cost the rack")


_ROTATION = (
    Option("push_out", True, YES_NO, "push-out after a legal break"),
    three_fouls(True),
    Option("three_point_break", False, YES_NO, "three object balls must fall or pass the line on the break"),
    Option(
        "three_point_line",
        "head-string",
        ("head-string", "side-pockets"),
        "which line the balls had to pass when they were counted",
    ),
    Option(
        "three_point_consequence",
        "choice",
        ("choice", "foul"),
        "choice: the opponent accepts the table or hands it back, without push-out; foul: ball in hand",
    ),
    TOUCHING,
    FOULS,
    *EVERYWHERE,
)

OPTIONS: dict[str, tuple[Option, ...]] = {
    "nine-ball": (
        Option("call", False, YES_NO, "ball and pocket must be called"),
        Option("money_ball_on_break", "win", ("win", "spot"), "the nine on a legal break"),
        Option("money_ball_early", "win", ("win", "spot"), "the nine before the other balls are gone"),
        *_ROTATION,
    ),
    "ten-ball": (
        Option("call", True, YES_NO, "ball and pocket must be called"),
        Option("money_ball_on_break", "spot", ("win", "spot"), "the ten on a legal break"),
        Option("money_ball_early", "win", ("win", "spot"), "the called ten before the other balls are gone"),
        *_ROTATION,
    ),
    "eight-ball": (
        Option("call", True, YES_NO, "ball and pocket must be called"),
        Option("open_after_break", True, YES_NO, "the table is open after the break whatever fell"),
        Option("eight_on_break", "choice", ("choice", "win", "spot"), "the eight on a legal break"),
        Option("eight_on_foul_break", "choice", ("choice", "loss"), "the eight on a break with a scratch"),
        Option("scratch_on_eight", "foul", ("foul", "loss"), "a scratch while playing the eight, which stays up"),
        Option("in_hand", "anywhere", ("anywhere", "behind-line"), "where the cue ball goes after a foul"),
        three_fouls(False),
        TOUCHING,
        FOULS,
        *EVERYWHERE,
    ),
    "blackball": (
        Option("after_foul", "free-shot", ("free-shot", "two-visits"), "what the opponent has after a foul"),
        Option("group_on_break", False, YES_NO, "one colour potted on the break settles the groups"),
        Option("opponents_ball", "foul", ("foul", "turn"), "potting only the opponent's ball"),
        Option("black_with_last", "loss", ("loss", "win"), "the black in the same shot as the last own ball"),
        Option("balls_past_middle", 2, (), "balls that must pass the middle on a break without a pot", 0, 15),
        FOULS,
        *EVERYWHERE,
    ),
    "straight-pool": (
        Option("call", True, YES_NO, "ball and pocket must be called"),
        Option("three_fouls", True, YES_NO, "three fouls in a row cost fifteen points and a new break"),
        TOUCHING,
        FOULS,
        *EVERYWHERE,
    ),
    "snooker": (
        Option("reds", 15, (), "reds in the frame; 6 for the short game", 1, 15),
        Option("miss", False, YES_NO, "a miss lets the opponent have the shot replayed from the old places"),
        Option("fouls", "all-balls", ("cue-ball", "all-balls"), "all-balls: a moved object ball is a foul too"),
        *EVERYWHERE,
    ),
}


def with_defaults(discipline: str, given: Mapping[str, Any]) -> dict[str, Any]:
    """Every option of the discipline, and what the match is played to; other keys of `given` are left out."""
    chosen = {option.name: given.get(option.name, option.default) for option in OPTIONS[discipline]}
    return {**chosen, "race_to": given.get("race_to")}


def check_options(discipline: str, given: Mapping[str, Any]) -> None:
    """Raise `InputError` for an option that has no such value. Unknown keys are none of our business."""
    for option in OPTIONS[discipline]:
        if option.name not in given:
            continue
        value = given[option.name]
        if option.values:
            if not any(value is one or (value == one and not isinstance(one, bool)) for one in option.values):
                known = ", ".join(str(one).lower() if isinstance(one, bool) else str(one) for one in option.values)
                raise InputError(f"rules.{option.name}", f"must be one of {known}")
        elif isinstance(value, bool) or not isinstance(value, int) or not option.least <= value <= option.most:
            raise InputError(f"rules.{option.name}", f"must be a whole number from {option.least} to {option.most}")
