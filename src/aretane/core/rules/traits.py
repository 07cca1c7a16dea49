"""What sets one discipline apart from another, apart from the rules of its shots: asked here, never by its name."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from aretane.core.ball import SNOOKER_COLOURS
from aretane.core.errors import InputError
from aretane.core.table import PRESETS, Table

RACKS, FRAMES, BALLS = "racks", "frames", "balls"  # what is counted

_D_RADIUS, _FULL_LENGTH = 0.292, 3.569  # m: WPBSA, Official Rules, section 1


@dataclass(frozen=True)
class Traits:
    """`counts`: a rack is won, points decide a frame, or balls are counted on over racks. `rotation`: the lowest
    ball is struck first. `returns`: balls that come back to their spots when they were potted. `hand`: where the
    cue ball is placed when it was gone. `table`: the one table that its balls fit, if there is but one. `ends` of
    the table as its players call them. `colours`: its balls, and so their places in the rack, are told by colours.
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
        Traits("nine-ball", "Nine-ball", rotation=True),
        Traits("ten-ball", "Ten-ball", rotation=True),
        Traits("eight-ball", "Eight-ball"),
        Traits("blackball", "Blackball", table="blackball-7ft", ends=("baulk", "top"), colours=True),
        Traits("straight-pool", "Straight pool", counts=BALLS),
        Traits(
            "snooker", "Snooker", counts=FRAMES, returns=frozenset(SNOOKER_COLOURS), hand="in-d",
            table="snooker-12ft", ends=("baulk", "top"), colours=True,
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
