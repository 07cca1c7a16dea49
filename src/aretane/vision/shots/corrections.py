"""The coach's corrections of what was found: found shots stay as they were, corrections come on top."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Any

from aretane.core.errors import InputError
from aretane.core.review.course import Happening
from aretane.vision.shots.found_data import placed_from
from aretane.vision.shots.joining import goes_on, one_of
from aretane.vision.shots.naming import Doubt, Names, Told, name_racks
from aretane.vision.shots.watch import Placed, Shot

Data = dict[str, Any]

BY_HAND = 1.0  # confidence of what the coach has said
HAND_SIGMA = 0.008  # m: a ball placed by hand


@dataclass(frozen=True)
class Found:
    """A shot of the strip: `id` stays the same while others are deleted or added."""

    id: str
    shot: Shot
    rack: int = 0


def corrected(shots: Sequence[Shot], corrections: Sequence[Mapping[str, Any]]) -> list[Found]:
    """The shots in the order of time with all corrections applied, and the rack that each belongs to.

    Raises `InputError` for a correction of a shot that is not there.
    """
    found: list[Found] = []
    for number, shot in enumerate(shots):
        if found and goes_on(found[-1].shot, shot):
            found[-1] = replace(found[-1], shot=one_of(found[-1].shot, shot))
        else:
            found.append(Found(f"s{number}", shot))
    found = _agreeing(found)
    for correction in correcting(corrections):
        found = _CORRECT[correction["do"]](found, correction)
    found.sort(key=lambda one: one.shot.start)
    rack, numbered = 0, []
    for one in found:
        rack += one.shot.kind == "re-rack"
        numbered.append(replace(one, rack=rack))
    return numbered


def _agreeing(found: Sequence[Found]) -> list[Found]:
    """One layout between two shots: what was first seen some time after a shot, and stood there unseen, is a ball
    of the layout that the shot left."""
    told = list(found)
    for number, (one, later) in enumerate(pairwise(found)):
        shot = one.shot
        known = {placed.track for placed in shot.after}
        late = [placed for placed in later.shot.before if placed.late and placed.track not in known]
        if late:
            moved = min(len(late), shot.gone)  # what was not seen again was taken to be gone
            tracks = tuple(placed.track for placed in late[:moved])
            after = replace(shot, after=(*shot.after, *late), arrived=(*shot.arrived, *tracks),
                            moved=shot.moved + moved, gone=shot.gone - moved)  # fmt: skip
            told[number] = replace(one, shot=after)
    return told


def correcting(corrections: Sequence[Mapping[str, Any]]) -> list[Mapping[str, Any]]:
    """Those that change shots, not names."""
    return [one for one in corrections if one["do"] != "name"]


def named(found: Sequence[Found], balls: Sequence[str], corrections: Sequence[Mapping[str, Any]]) -> Told:
    """The name of every track, with what the coach has named, and what is in doubt."""
    pinned: dict[int, str] = {}
    for one in corrections:
        if one["do"] in ("name", "ball"):
            pinned.pop(int(one["track"]), None)  # the newest word comes last
            pinned[int(one["track"])] = str(one["ball"])
    racks = [[one.shot for one in found if one.rack == rack] for rack in sorted({one.rack for one in found})]
    told = name_racks(racks, balls, pinned)
    by_hand = {int(one["track"]) for one in corrections if one["do"] == "ball"}  # nobody saw what it looks like
    return replace(told, names=told.names | {track: (pinned[track], BY_HAND) for track in by_hand})


@dataclass(frozen=True)
class Question:
    """Whether a ball of a found shot is the one that it is taken for, or another; and in how many places of how
    many layouts the answer tells who stands there."""

    shot: str
    side: str
    track: int
    ball: str
    instead: str
    settles: int


def question(found: Sequence[Found], doubts: Sequence[Doubt]) -> Question | None:
    """The one whose answer settles most; None where nothing is in doubt."""
    layouts = [
        (one.id, side, [placed for placed in layout if placed.seen])
        for one in found
        for side, layout in (("before", one.shot.before), ("after", one.shot.after))
    ]
    asked = []
    for doubt in doubts:
        seen = [(shot, side, one) for shot, side, layout in layouts for one in layout if one.track in doubt.names]
        if seen:
            shot, side, best = max(seen, key=lambda each: each[2].hits)
            track = best.track
            told = Question(shot, side, track, doubt.names[track], doubt.instead[track], len(seen))
            asked.append((len(seen) * (1 - doubt.confidence), told))
    return max(asked, key=lambda one: one[0], default=(0.0, None))[1]


def course_of(shot: Shot, names: Names) -> tuple[Happening, ...]:
    """What was seen to happen, by the balls' names. Contacts of balls without a name are left out."""
    told = []
    for one in shot.events:
        balls = tuple(names.get(int(track), ("", 0.0))[0] for track in one.balls)
        if all(balls):
            told.append(Happening(one.t, one.kind, balls, one.what))
    return tuple(told)


def _index(found: Sequence[Found], correction: Mapping[str, Any]) -> int:
    for index, one in enumerate(found):
        if one.id == correction["shot"]:
            return index
    raise InputError("shot", "it is not on the strip any more")


def _delete(found: list[Found], correction: Mapping[str, Any]) -> list[Found]:
    index = _index(found, correction)
    return found[:index] + found[index + 1 :]


def _merge(found: list[Found], correction: Mapping[str, Any]) -> list[Found]:
    """One shot of this and the next."""
    index = _index(found, correction)
    if index + 1 >= len(found):
        raise InputError("shot", "there is no shot after it to merge it with")
    both = replace(one_of(found[index].shot, found[index + 1].shot), confidence=BY_HAND)
    return [*found[:index], replace(found[index], shot=both), *found[index + 2 :]]


def _split(found: list[Found], correction: Mapping[str, Any]) -> list[Found]:
    """Two shots with the layout between them that was read at `at`."""
    index, at = _index(found, correction), float(correction["at"])
    whole = found[index].shot
    if not whole.start < at < whole.still:
        raise InputError("at", "a shot is split at a time between its start and its end")
    between = tuple(placed_from(one) for one in correction["layout"])
    first = replace(whole, still=at, after=between, confidence=BY_HAND)
    second = replace(whole, start=at, contact=max(at, whole.contact), before=between, confidence=BY_HAND)
    id_ = found[index].id
    return [*found[:index], Found(f"{id_}a", first), Found(f"{id_}b", second), *found[index + 1 :]]


def _add(found: list[Found], correction: Mapping[str, Any]) -> list[Found]:
    """A shot that was missed, from `at` on; its layouts are those of its neighbours."""
    at = float(correction["at"])
    earlier = [one for one in found if one.shot.start <= at]
    later = [one for one in found if one.shot.start > at]
    before = earlier[-1].shot.after if earlier else later[0].shot.before if later else ()
    after = later[0].shot.before if later else before
    still = min(at + 5.0, later[0].shot.start) if later else at + 5.0
    gone = max(0, len(before) - len(after))
    shot = Shot(at, at, still, BY_HAND, 1, gone, "shot", before, after, (), ())
    return [*earlier, Found(str(correction["id"]), shot), *later]


def _kind(found: list[Found], correction: Mapping[str, Any]) -> list[Found]:
    index = _index(found, correction)
    shot = replace(found[index].shot, kind=str(correction["kind"]), confidence=BY_HAND)
    return [*found[:index], replace(found[index], shot=shot), *found[index + 1 :]]


def _place(found: list[Found], correction: Mapping[str, Any]) -> list[Found]:
    """A ball put where it stood; with `following` also in all later layouts in which it has not moved since."""
    index, track = _index(found, correction), int(correction["track"])
    side, to = str(correction["side"]), correction["place"]
    old = next((one.place for one in getattr(found[index].shot, side) if one.track == track), None)

    def moved(layout: Sequence[Placed]) -> tuple[Placed, ...]:
        return tuple(
            replace(one, place=(float(to[0]), float(to[1])), sigma=HAND_SIGMA)
            if one.track == track and (old is None or one.place == old)
            else one
            for one in layout
        )

    changed = list(found)
    one = found[index].shot
    if side == "before":
        one = replace(one, before=moved(one.before))
    if side == "after" or correction.get("following"):
        one = replace(one, after=moved(one.after))
    changed[index] = replace(found[index], shot=one)
    if correction.get("following"):
        for later in range(index + 1, len(found)):
            shot = found[later].shot
            changed[later] = replace(
                found[later], shot=replace(shot, before=moved(shot.before), after=moved(shot.after))
            )
    return changed


def _ball(found: list[Found], correction: Mapping[str, Any]) -> list[Found]:
    """A ball that was not seen, put where it stood: in this layout, and in the one that shows the same moment."""
    index, side = _index(found, correction), str(correction["side"])
    x, y = correction["place"]
    ball = Placed(int(correction["track"]), (float(x), float(y)), HAND_SIGMA, 1, None)
    other = index + (1 if side == "after" else -1)
    changed = list(found)
    for number, where in ((index, side), (other, "before" if side == "after" else "after")):
        if not 0 <= number < len(found) or found[number].rack != found[index].rack:
            continue
        shot = found[number].shot
        layout = (*getattr(shot, where), ball)
        told = replace(shot, before=layout) if where == "before" else replace(shot, after=layout)
        changed[number] = replace(found[number], shot=told)
    return changed


def _remove(found: list[Found], correction: Mapping[str, Any]) -> list[Found]:
    """What is no ball, taken out of every layout."""
    track = int(correction["track"])

    def without(layout: Sequence[Placed]) -> tuple[Placed, ...]:
        return tuple(one for one in layout if one.track != track)

    return [
        replace(one, shot=replace(one.shot, before=without(one.shot.before), after=without(one.shot.after)))
        for one in found
    ]


_CORRECT: dict[str, Callable[[list[Found], Mapping[str, Any]], list[Found]]] = {
    "delete": _delete,
    "merge": _merge,
    "split": _split,
    "add": _add,
    "kind": _kind,
    "place": _place,
    "remove": _remove,
    "ball": _ball,
}
