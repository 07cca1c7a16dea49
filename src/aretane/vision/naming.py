"""Names for the balls of a reading: by what they look like over all their looks, and by what cannot be otherwise.

A ball keeps its track while it stands and, as far as can be told, when it is struck. The fullest layout of a rack
gives names to all its tracks; the others only to what is new in them, rather to names of balls that were there a
shot before: balls only disappear, and come back by rule. What the coach has named stays so, and the rest is told
anew around it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from aretane.core.ball import CUE
from aretane.vision.identity import Appearance, mean_of, names_for
from aretane.vision.watch import WELL_KNOWN, Placed

Names = dict[int, tuple[str, float]]


def name_tracks(layouts: Sequence[Sequence[Placed]], balls: Sequence[str], pinned: Mapping[int, str]) -> Names:
    """Ball and confidence for each track of one rack's layouts, which are in the order of time.

    `balls` are the names that there are. What has been seen for long is named before what came and went.
    """
    looks: dict[int, list[Appearance]] = {}
    hits: dict[int, int] = {}
    for layout in layouts:
        for one in layout:
            if one.appearance is not None:
                looks.setdefault(one.track, []).append(one.appearance)
                hits[one.track] = max(one.hits, hits.get(one.track, 0))
    seen = {track: mean_of(found) for track, found in looks.items()}
    names: Names = {track: (ball, 1.0) for track, ball in pinned.items()}
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
                found = names_for([seen[track] for track in new], balls, own, taken, expected)
                names |= {new[index]: name for index, name in found.items()}
    return names
