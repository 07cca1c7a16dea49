"""What the disciplines share: entries that cannot have happened, and the standard fouls.

World Pool-Billiard Association, The Rules of Play, section 6 (Fouls); numbers in comments are its rules.
"""

from __future__ import annotations

from collections.abc import Collection
from typing import Any

from aretane.core.ball import CUE, OBJECT_BALLS
from aretane.core.layout import Layout
from aretane.core.rules.game import (
    BREAK,
    PLAY,
    UNKNOWN,
    IllegalEntry,
    Options,
    RackState,
    Ruling,
    Seen,
    in_order,
    opponent,
)

BALLS_TO_RAIL_ON_BREAK = 4  # nine-ball 2.3, eight-ball 3.3, ten-ball 9.3: unless a ball is pocketed
FOULS_TO_LOSE = 3  # 6.14: three consecutive fouls, with the warning given

ANSWER = "answer"  # the phase in which the player to act may accept the table or choose something else


def refuse_common(state: RackState, shot: Seen, declared: Collection[str]) -> None:
    """Refuse what no discipline allows; `declared` are the words that this one knows besides choices."""
    if state.winner:
        raise IllegalEntry("end of the rack", "the rack is already over")
    if shot.player is not None and shot.player != state.player:
        raise IllegalEntry("order of play", f"player {state.player} is at the table, not {shot.player}")
    if shot.is_choice:
        if shot.declared not in state.choices:
            raise IllegalEntry("choices", f"there is nothing to {shot.declared} now")
        return
    if shot.declared is not None and shot.declared not in declared and shot.free_ball is None:
        raise IllegalEntry("declarations", f"{shot.declared!r} is not declared in this game")
    refuse_balls(state, shot)


def refuse_break(state: RackState, shot: Seen) -> None:
    """A rack begins with its break, and has one."""
    if shot.kind is not None and (shot.kind == "break") != (state.phase == BREAK):
        message = "a rack begins with a break" if state.phase == BREAK else "the break has been played"
        raise IllegalEntry("break shot", message)


def refuse_balls(state: RackState, shot: Seen) -> None:
    """Balls that are gone cannot be hit or potted, and none leaves the table twice."""
    moved = [*shot.potted, *shot.off_table]
    if shot.first_contact not in (None, UNKNOWN):
        moved.append(str(shot.first_contact))
    for ball in moved:
        if ball != CUE and ball not in state.balls:
            raise IllegalEntry("balls on the table", f"ball {ball} is not on the table any more")
    if shot.first_contact is None and shot.potted and not shot.touching:
        raise IllegalEntry("first contact", "balls were potted although none was touched")
    for ball in shot.potted:
        if ball in shot.off_table or shot.potted.count(ball) > 1:
            raise IllegalEntry("balls on the table", f"ball {ball} cannot leave the table twice")


def fouls_of(
    shot: Seen, legal: Collection[str], options: Options, *, contact: bool = True, rail: bool = True
) -> list[str]:
    """The standard fouls of 6.1 to 6.8; `contact` and `rail` say whether 6.2 and 6.3 hold for this shot.

    A cue ball that touches a lawful ball before the stroke counts as having hit it where the rule is to play away.
    """
    all_balls = options["fouls"] == "all-balls"
    found = [foul for foul in shot.fouls_seen if foul != "moved-ball" or all_balls]
    if shot.scratch:
        found.append("scratch")
    if shot.off_table:
        found.append("off-table")
    touched = options.get("touching", "away") == "away" and any(ball in legal for ball in shot.touching)
    if contact and not touched:
        if shot.first_contact is None:
            found.append("no-contact")
        elif shot.first_contact != UNKNOWN and shot.first_contact not in legal:
            found.append("wrong-ball-first")
    struck = touched or shot.first_contact is not None
    if rail and struck and not shot.potted and not shot.scratch and shot.rails == 0:
        found.append("no-rail")
    return found


def standing(shot: Seen, found: Collection[str]) -> tuple[str, ...]:
    """The fouls that count: as found, or the one that an overruled call puts in their place."""
    if shot.forced_foul != UNKNOWN:
        return (shot.forced_foul,) if shot.forced_foul else ()
    return in_order([*found])


def dry_and_soft(shot: Seen) -> bool:
    """A break without a pot that drove fewer than four object balls to a rail."""
    to_rail = shot.object_balls_to_rail if shot.object_balls_to_rail is not None else shot.rails
    return not shot.potted and to_rail is not None and to_rail < BALLS_TO_RAIL_ON_BREAK


def accepts(state: RackState) -> RackState:
    """The chooser plays on from here: also what playing on without a word means."""
    return state.turn_to(state.player, phase=PLAY, choices=())


def answer(state: RackState, choice: str) -> Ruling:
    """The table accepted as it lies, or handed back to the player who left it."""
    if choice == "accept":
        return Ruling((), (), (), accepts(state), f"{state.player} accepts the table")
    after = accepts(state).turn_to(opponent(state.player))
    return Ruling((), (), (), after, f"{state.player} hands the shot back")


def under_way(layout: Layout, **more: Any) -> RackState:
    """A rack that has begun, as its layout and state describe it; `more` is what a discipline adds."""
    state = layout.state
    known = {
        "player": state.player,
        "balls": tuple(ball for ball in OBJECT_BALLS[layout.discipline] if ball in layout.balls),
        "phase": PLAY,
        "in_hand": state.ball_in_hand,
        "fouls": dict(state.fouls),
        "points": dict(state.points),
    }
    return RackState(**{**known, **more})


def third_foul(options: Options, in_a_row: int) -> bool:
    return bool(options["three_fouls"]) and in_a_row >= FOULS_TO_LOSE
