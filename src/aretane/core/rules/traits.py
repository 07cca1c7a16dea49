"""What sets one discipline apart from another, apart from the rules of its shots: asked here, never by its name."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from aretane.core.ball import SNOOKER_COLOURS
from aretane.core.errors import InputError
from aretane.core.table import PRESETS, Table

RACKS, FRAMES, BALLS = "racks", "frames", "balls"  # what is counted

_FOULS = ("no-contact", "no-rail", "off-table", "double-hit", "push", "touching-ball", "no-foot", "moved-ball")
_D_RADIUS, _FULL_LENGTH = 0.292, 3.569  # m: WPBSA, Official Rules, section 1


@dataclass(frozen=True)
class Traits:
    """What is played for, in which order, with which balls, and what it is called.

    `counts`: a rack is won, points decide a frame, or balls are counted on over racks. `rotation`: the lowest
    ball is struck first. `returns`: balls that come back to their spots when they were potted. `hand`: where the
    cue ball is placed when it was gone. `table`: the one table that its balls fit, if there is but one. `ends` of
    the table as its players call them. `colours`: its balls, and so their places in the rack, are told by these.
    `money` is the ball that wins; `sorts` the beginnings of the names of balls that are alike; `digits` the sorts
    that the number keys name, where it is not the balls' own numbers, and `keys` says so; `groups` that a player
    may have. `fouls` that can be seen besides a scratch; whether one `foul_on_purpose` costs no more than another
    (snooker and blackball ask for an honest try).

    Words: what is won (`rack`, `race` for many, usually `usual_race` of them), what a player plays until the turn
    passes (`visit`, `best` of them, `listed` from so many on), what he scores then (`scored`), the cue ball lost in
    a pocket, what taking the table as it is is called, what is still needed.
    """

    name: str
    title: str
    counts: str = RACKS
    rotation: bool = False
    returns: frozenset[str] = frozenset()
    hand: str = "anywhere"
    table: str | None = None
    ends: tuple[str, str] = ("head", "foot")
    colours: bool = False
    money: str | None = None
    sorts: tuple[str, ...] = ()
    digits: tuple[str, ...] = ()
    keys: tuple[str, str] = ("1 – 9", "the ball that is meant")
    groups: tuple[str, ...] = ()
    fouls: tuple[str, ...] = (*_FOULS, "illegal-break")
    foul_on_purpose: bool = True
    rack: str = "rack"
    race: str = "racks"
    usual_race: int = 5
    visit: str = "inning"
    best: str = "best run"
    listed: int | None = None
    scored: str = "run"
    scratch: str = "scratch"
    accepts: str = "takes the table as it is"
    needs: str = "{} to go"

    @property
    def first(self) -> str | None:
        """What the break must hit first: the lowest ball, or one of a sort; None: any ball."""
        return "lowest" if self.rotation else self.sorts[0] if self.counts == FRAMES else None

    @property
    def points(self) -> bool:
        """Whether a turn is worth points or balls, and not the chance to win the rack."""
        return self.counts != RACKS

    @property
    def goes_on(self) -> bool:
        """Whether an inning goes on into the next rack, which its last ball opens."""
        return self.counts == BALLS

    @property
    def break_from(self) -> str:
        """Where the cue ball is placed for the break."""
        return "behind-line" if self.hand == "anywhere" else self.hand


TRAITS: Mapping[str, Traits] = {
    one.name: one
    for one in (
        Traits("nine-ball", "Nine-ball", rotation=True, money="9"),
        Traits(
            "ten-ball", "Ten-ball", rotation=True, money="10",
            keys=("1 – 9, 0", "the ball that is meant (0: the ten)"),
        ),
        Traits(
            "eight-ball", "Eight-ball", money="8", groups=("solids", "stripes"),
            keys=("1 – 9, 0", "the ball that is meant; with Shift from ten up"),
        ),
        Traits(
            "blackball", "Blackball", table="blackball-7ft", ends=("baulk", "top"), colours=True, money="black",
            sorts=("red", "yellow"), digits=("red", "yellow", "black"), groups=("reds", "yellows"),
            keys=("1, 2, 3", "red, yellow, black; again: the next of them"),
            rack="frame", race="frames", visit="visit", best="best visit", scratch="in-off", foul_on_purpose=False,
        ),
        Traits(
            "straight-pool", "Straight pool", counts=BALLS, fouls=(*_FOULS, "breaking-foul"),
            keys=("1 – 9, 0", "the ball that is meant; with Shift from ten up"),
            race="points", usual_race=100, best="high run",
        ),
        Traits(
            "snooker", "Snooker", counts=FRAMES, returns=frozenset(SNOOKER_COLOURS), hand="in-d",
            table="snooker-12ft", ends=("baulk", "top"), colours=True, money="black", sorts=("red",),
            digits=("red", *SNOOKER_COLOURS),
            keys=("1 – 7", "the ball that is meant, by its value; 1 again: the next red"),
            fouls=("no-contact", "off-table", "double-hit", "push", "touching-ball", "no-foot", "moved-ball"),
            foul_on_purpose=False,
            rack="frame", race="frames", usual_race=3, visit="visit", best="highest break", listed=20,
            scored="break", scratch="in-off", accepts="plays on", needs="needs {}",
        ),
    )
}  # fmt: skip


def traits_of(discipline: str) -> Traits:
    """Raises `InputError` if there is none of that name."""
    if discipline not in TRAITS:
        raise InputError("discipline", f"unknown discipline {discipline!r}; known are {', '.join(TRAITS)}")
    return TRAITS[discipline]


def made_for(table: Table) -> Traits | None:
    """The discipline that this kind of table is made for; None for a pool table, which takes several."""
    return next((one for one in TRAITS.values() if one.table == table.name), None)


def usual_table(discipline: str) -> Table:
    """The table that a discipline is usually played on."""
    return PRESETS[traits_of(discipline).table or "pool-9ft"]


def d_radius(table: Table) -> float:
    """Of the D, m: 292 mm on a full-size table, in proportion on others."""
    return _D_RADIUS * table.length / _FULL_LENGTH
