"""One part of a reading: a stretch of a recording, read by a worker that knows nothing but what it is given."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterable, Sequence
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass, field
from pathlib import Path

from aretane.core.errors import InputError
from aretane.core.table import Point
from aretane.vision.balls.finding import SURE, find_balls
from aretane.vision.files.frames import Rhythm, picture_at, pictures, rhythm_of
from aretane.vision.paths.course import SLOWEST, with_paths
from aretane.vision.shots.following import EVERY, Eye, Reader, Sight, read
from aretane.vision.shots.moments import with_contact
from aretane.vision.shots.wandering import Wanderer
from aretane.vision.shots.wanted import Wanted, camera_of
from aretane.vision.shots.watch import SPARSE, Shot, Watch
from aretane.vision.table.cloth import Image
from aretane.vision.table.sight import prepare

LONG = 60.0  # seconds of a recording read at once, where nobody waits for the first shots
PAIRS = (0.05, 0.15, 0.25, 0.35, 0.45, 0.55, 0.65, 0.75, 0.85)  # of a recording: where two pictures are compared
FEWEST_PAIRS, NEARLY_ALL = 3, 0.7  # pairs that tell anything; and of them, if no two show one layout
FAR_ENOUGH = 1.1  # intervals between looks: so far back one is surely found
MOVED = 0.04  # m: a ball that is found so far off stands elsewhere
FEWEST = 0.35  # of the bed must look like cloth in half of the pictures
RIGHT_SIZE = 0.06  # balls may look larger or smaller by so much


@dataclass(frozen=True)
class Tally:
    """What the pictures were like, for a word to the coach."""

    looked: int = 0
    lost: int = 0
    sizes: frozenset[tuple[int, int]] = frozenset()
    ratios: tuple[float, ...] = ()
    cloth: tuple[float, ...] = ()

    def with_(self, other: Tally) -> Tally:
        return Tally(
            self.looked + other.looked,
            self.lost + other.lost,
            self.sizes | other.sizes,
            (self.ratios + other.ratios)[-200:],
            (self.cloth + other.cloth)[-2000:],
        )


@dataclass(frozen=True)
class Part:
    """`reached` is where the next part begins; `over` whether the recording has ended."""

    reached: float
    shots: tuple[Shot, ...]
    watch: Watch
    tally: Tally = field(default_factory=Tally)
    over: bool = False


def watch_for(wanted: Wanted, shots: tuple[Shot, ...] = ()) -> Watch:
    """A watch for this recording's rhythm, going on after shots that were found before."""
    rhythm = rhythm_of(Path(wanted.path))
    if rhythm.rate <= 0:
        raise InputError("recording", "the recording has no picture, or only one")
    interval = max(EVERY, 1 / rhythm.rate)
    return Watch.resumed(interval, shots, interval > SPARSE and _each_alone(wanted, rhythm))


def _each_alone(wanted: Wanted, rhythm: Rhythm) -> bool:
    """Whether hardly two pictures of a recording show the same layout: it was cut to one still picture of each."""
    path, pairs, changed = Path(wanted.path), 0, 0
    for share in PAIRS:
        coming = pictures(path, EVERY, rhythm.first + share * (rhythm.last - rhythm.first))
        two = [picture for _, picture in itertools.islice(coming, 2)]
        if len(two) < 2 or two[0].shape != two[1].shape:
            continue
        places = [_sure_places(wanted, picture) for picture in two]
        pairs += 1
        changed += _some_new(*places) and _some_new(*places[::-1])  # an arm hides balls, and shows none elsewhere
    return pairs >= FEWEST_PAIRS and changed > NEARLY_ALL * pairs


def _some_new(some: Sequence[Point], others: Sequence[Point]) -> bool:
    """Whether a ball of these is at none of the other places."""
    return any(all(math.dist(at, other) > MOVED for other in others) for at in some)


def _sure_places(wanted: Wanted, picture: Image) -> list[Point]:
    camera = camera_of(wanted, wanted.table, (picture.shape[1], picture.shape[0]))
    still = prepare(picture, wanted.table, camera)
    return [one.place for one in find_balls(still, wanted.table, camera) if one.score > SURE]


def read_part(
    wanted: Wanted, watch: Watch | None, begin: float, length: float, ends: bool = False, ways: bool = True
) -> Part:
    """Read from `begin` on, `length` seconds of the recording. If the reading `ends` there, what was under way then
    is a shot too. Without `ways` no ball is followed."""
    path, table = Path(wanted.path), wanted.table
    watch = watch or watch_for(wanted)

    eye = Eye([_sight(one) for one in wanted.cameras], Wanderer(wanted))
    reader = Reader(table, wanted.ball_set, watch)
    until = begin + length
    back = FAR_ENOUGH * watch.interval if watch.settled_once else 0.0
    shots: list[Future[Shot]] = []
    looked = lost = 0
    sizes: set[tuple[int, int]] = set()
    over = until >= rhythm_of(path).last
    with ThreadPoolExecutor(1) as beside:
        for ready, progress in read(path, eye, reader, begin, until, back):
            shots += [beside.submit(_looked_into, path, eye.now, shot, ways) for shot in progress.shots]
            looked += 1
            lost += not progress.seen
            if ready is not None:
                sizes.add((ready.picture.shape[1], ready.picture.shape[0]))
        over = over or looked == 0
        if ends and not over:
            shots += [beside.submit(_looked_into, path, eye.now, shot, ways) for shot in reader.finish(until)]
        found = tuple(shot.result() for shot in shots)
    reader.watch.forget()  # a picture is not handed on
    tally = Tally(looked, lost, frozenset(sizes), tuple(reader.ratios), tuple(reader.cloth))
    return Part(math.inf if over else until, found, reader.watch, tally, over)


def _sight(wanted: Wanted) -> Sight:
    _, marked = picture_at(Path(wanted.path), wanted.marked_at or 0.0)
    return Sight(wanted.table, wanted.ball_set, lambda size: camera_of(wanted, wanted.table, size), marked)


def _looked_into(path: Path, sight: Sight, shot: Shot, ways: bool) -> Shot:
    """A found shot with what every picture of it tells: the ways of its balls, or at least its contact."""
    rate = rhythm_of(path).rate
    if sight.view is None or sight.registrar is None or max(EVERY, 1 / rate) > SPARSE:
        return shot
    if ways and rate >= SLOWEST and shot.kind == "shot":
        followed = with_paths(path, sight.view, sight.registrar, shot)
        if followed.paths:
            return followed
    return with_contact(path, shot, sight.view.camera, sight.view.table.radius)


def read_all(wanted: Wanted) -> list[Shot]:
    """Every shot of a recording, read at once."""
    watch, at, over = None, rhythm_of(Path(wanted.path)).first, False
    shots: list[Shot] = []
    while not over:
        part = read_part(wanted, watch, at, LONG)
        watch, at, over = part.watch, part.reached, part.over
        shots += part.shots
    return shots


def words_about(tally: Tally, shots: int, misgivings: Iterable[str] = ()) -> str:
    """What a coach should know about a recording that was read; empty if all is well."""
    said = list(misgivings)
    cloth = sorted(tally.cloth)
    if tally.looked and tally.lost >= tally.looked:
        said.append("the marked view was not seen again; mark the table in a picture of this recording")
    elif cloth and cloth[len(cloth) // 2] < FEWEST:
        said.append("what the marks enclose does not look like a table's cloth; check the corners")
    elif tally.looked > tally.lost and not tally.ratios and shots == 0:
        said.append("no ball is seen on this table")
    elif shots == 0:
        said.append("no ball left its place in the marked view; if shots are to be seen, check the corners")
    elif tally.lost > 0.5 * tally.looked:
        share = 100 * tally.lost / tally.looked
        said.append(f"{share:.0f} % of the pictures show another view and were passed over")
    ratios = sorted(tally.ratios)
    if len(ratios) > 5 and abs(ratios[len(ratios) // 2] - 1) > RIGHT_SIZE:
        off = 100 * (ratios[len(ratios) // 2] - 1)
        more = "larger" if off > 0 else "smaller"
        said.append(
            f"balls look {abs(off):.0f} % {more} than the marks say: check the corners and the table's size"
        )
    if len(tally.sizes) > 1:
        said.append("the picture's size changes in this recording; only the marked size can be trusted")
    return "; ".join(said)
