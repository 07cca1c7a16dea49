"""One entry of the match format as facts, and the contradictions it may hold."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from aretane.core.ball import CUE
from aretane.core.layout import Layout
from aretane.core.rules.game import UNKNOWN, IllegalEntry, RackState, Ruling, Seen
from aretane.core.table import Table

Data = Mapping[str, Any]


def facts_of(shot: Data, table: Table, discipline: str) -> Seen:
    """The facts of one entry. What is not said is taken from its layouts, else left unknown."""
    before, after = (
        layout_of(shot, "layout_before", table, discipline),
        layout_of(shot, "layout_after", table, discipline),
    )
    potted = shot.get("potted")
    off_table = tuple(shot.get("off_table") or ())
    if potted is not None:
        gone = tuple(entry["ball"] for entry in potted)
    elif after is not None and before is not None:
        gone = tuple(b for b in before.balls if b not in after.balls and b != CUE and b not in off_table)
    else:
        gone = ()
    scratch = shot.get("scratch")
    if scratch is None:
        scratch = CUE in gone or (after is not None and CUE not in after.balls and CUE not in off_table)
    called = shot.get("called")
    stated = (((shot.get("layout_before") or {}).get("state") or {}).get("touching")) or ()
    return Seen(
        player=shot.get("player"),
        kind=shot.get("kind"),
        declared=shot.get("declared"),
        first_contact=shot.get("first_contact", UNKNOWN),
        rails=(shot["rails_after_contact"] or 0) if "rails_after_contact" in shot else None,
        object_balls_to_rail=shot.get("object_balls_to_rail"),
        past_line=shot.get("past_line"),
        potted=tuple(ball for ball in gone if ball != CUE),
        pockets={entry["ball"]: entry.get("pocket") for entry in potted or ()},
        scratch=bool(scratch),
        off_table=off_table,
        fouls_seen=tuple(shot.get("fouls_seen") or ()),
        called=(called["ball"], called.get("pocket")) if called and called.get("ball") else None,
        touching=tuple(ball for pair in stated if CUE in pair for ball in pair if ball != CUE),
        before=before,
        after=after,
        replaced=shot.get("replaced"),
    )


def layout_of(shot: Data, key: str, table: Table, discipline: str) -> Layout | None:
    balls = (shot.get(key) or {}).get("balls")
    if balls is None:
        return None
    return Layout(table, discipline, {ball: (float(at[0]), float(at[1])) for ball, at in balls.items()})


def refuse_contradictions(shot: Data, state: RackState, ruling: Ruling) -> None:
    """Refuse layouts that hold balls which the rack no longer has, or that the shot took off."""
    if ruling.racked:  # the layout may show the table before or after the balls were set up again
        return
    known = {*state.balls, CUE}
    before = (shot.get("layout_before") or {}).get("balls") or {}
    for ball in before:
        if ball not in known:
            raise IllegalEntry("layout before the shot", f"ball {ball} stands there but was potted earlier")
    after = (shot.get("layout_after") or {}).get("balls") or {}
    gone = {entry["ball"] for entry in shot.get("potted") or ()}
    for ball in after:
        if ball not in known:
            raise IllegalEntry("layout after the shot", f"ball {ball} stands there but was potted earlier")
        if ball in gone and ball not in ruling.spotted:
            raise IllegalEntry("layout after the shot", f"ball {ball} stands there but was potted")
    if shot.get("scratch") and CUE in after and not _in_hand_after(shot):
        raise IllegalEntry("layout after the shot", "the cue ball stands there but was potted")


def _in_hand_after(shot: Data) -> bool:
    state = (shot.get("layout_after") or {}).get("state") or {}
    return bool(state.get("ball_in_hand"))
