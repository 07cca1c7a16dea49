"""Names for the balls of a reading: by what they look like over all their looks, and by what cannot be otherwise.

A ball keeps its track while it stands and, as far as can be told, when it is struck. The fullest layout of a rack
gives names to all its tracks; the others only to what is new in them, rather to names of balls that were there a
shot before: balls only disappear, and come back by rule. What the coach has named stays so, and the rest is told
anew around it. The cue ball is told by what it does: every shot moves it.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Mapping, Sequence

from aretane.core.ball import CUE
from aretane.vision.appearance import Appearance, mean_of
from aretane.vision.identity import cue_cost, names_for
from aretane.vision.watch import WELL_KNOWN, Placed, Shot

STRUCK = 0.9  # confidence that the one ball that each shot moves is the cue ball
WHITE = 4.0  # of cost: what looks less like the cue ball is none, however it moved
MOVED_BEFORE = 1.5  # of cost, in favour of a ball that the shot before moved too

Names = dict[int, tuple[str, float]]


def name_tracks(shots: Sequence[Shot], balls: Sequence[str], pinned: Mapping[int, str]) -> Names:
    """Ball and confidence for each track of one rack's shots, which are in the order of time.

    `balls` are the names that there are. What has been seen for long is named before what came and went.
    """
    layouts = [layout for shot in shots for layout in layouts_of(shot)]
    looks: dict[int, list[Appearance]] = {}
    hits: dict[int, int] = {}
    for layout in layouts:
        for one in layout:
            if one.appearance is not None:
                looks.setdefault(one.track, []).append(one.appearance)
                hits[one.track] = max(one.hits, hits.get(one.track, 0))
    seen = {track: mean_of(found) for track, found in looks.items()}
    stayed = _resting(shots)
    struck = _struck(shots, seen, stayed, pinned) - pinned.keys()
    said = {track for track, ball in pinned.items() if ball == CUE}
    names: Names = dict.fromkeys(_one_at_a_time(struck, said, shots), (CUE, STRUCK))
    names |= {track: (ball, 1.0) for track, ball in pinned.items()}
    fullest = max(layouts, key=lambda layout: sum(one.hits >= WELL_KNOWN for one in layout), default=())
    for least in (WELL_KNOWN, 0):
        for before, layout in zip(((), (), *layouts), (fullest, *layouts), strict=False):
            here = [one.track for one in layout if one.track in seen]
            new = [track for track in here if track in pinned or (track not in names and hits[track] >= least)]
            if any(track not in names for track in new):
                taken = {names[track][0] for track in here if track in names and track not in pinned}
                own = {index: pinned[track] for index, track in enumerate(new) if track in pinned}
                likely = {names[one.track][0] for one in before if one.track in names} | {CUE}
                expected = likely if len(likely) > 1 else ()
                never = {index for index, track in enumerate(new) if track in stayed}
                found = names_for([seen[track] for track in new], balls, own, taken, expected, never)
                names |= {new[index]: name for index, name in found.items()}
    return names


def layouts_of(shot: Shot) -> tuple[tuple[Placed, ...], ...]:
    """A new rack's layouts: what stood before it belongs to the one before."""
    return (shot.after,) if shot.kind == "re-rack" else (shot.before, shot.after)


def _resting(shots: Sequence[Shot]) -> set[int]:
    """The tracks that lay where they lay in most shots: none of them is the cue ball. A few shots may be none."""
    moves = Counter(track for shot in shots for track in shot.left)
    stays = Counter(
        track
        for shot in shots
        for track in {one.track for one in shot.before}
        & {one.track for one in shot.after} - {*shot.left, *shot.arrived}
    )
    return {track for track, count in stays.items() if count > 2 * moves[track]}


def _struck(
    shots: Sequence[Shot], seen: Mapping[int, Appearance], stayed: Collection[int], pinned: Mapping[int, str]
) -> set[int]:
    """The tracks that are the cue ball's, by the shots that moved them and by being white enough."""
    cue: set[int] = set()
    for shot, arrived in zip(shots, ((), *(one.arrived for one in shots)), strict=False):
        if shot.kind != "shot":
            continue
        cue |= _whitest([one for one in shot.before if one.track in shot.left], arrived, seen, stayed, pinned)
    last = [shot for shot in shots if shot.kind == "shot"][-1:]
    for shot in last:
        cue |= _whitest([one for one in shot.after if one.track in shot.arrived], (), seen, stayed, pinned)
    return cue


def _one_at_a_time(struck: Collection[int], said: Collection[int], shots: Sequence[Shot]) -> set[int]:
    """Those of the struck tracks, the most moved first, that never lie beside another cue ball or beside what the
    coach said is it."""
    moves = Counter(track for shot in shots for track in shot.left)
    layouts = [{one.track for one in layout} for shot in shots for layout in layouts_of(shot)]
    kept: set[int] = set()
    for track in sorted(struck, key=lambda track: (-moves[track], track)):
        if not any(track in layout and layout & (kept | set(said)) for layout in layouts):
            kept.add(track)
    return kept


def _whitest(
    moved: Sequence[Placed],
    before: Collection[int],
    seen: Mapping[int, Appearance],
    stayed: Collection[int],
    pinned: Mapping[int, str],
) -> set[int]:
    """The one of these balls that is the cue ball, if one is."""
    can = [one.track for one in moved if one.track in seen and one.track not in stayed]
    costs = {
        track: cue_cost(seen[track]) - MOVED_BEFORE * (track in before)
        for track in can
        if pinned.get(track, CUE) == CUE
    }
    best = min(costs, key=lambda track: costs[track], default=None)
    return {best} if best is not None and costs[best] < WHITE else set()
