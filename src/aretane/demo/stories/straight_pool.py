"""Straight pool from the middle of a game: one inning through the end of a rack and into the next."""

from aretane.demo.stories.story import Story

RACKS = [
    [
        "B pot -- The break shot: the recording begins with it.",
        "B run 13 -- Kept the ball on the left as the key ball from early on.",
        "B pot -- The second break shot, a little thin, and enough came loose.",
        "B run 3",
        "B miss thick [attention on position] -- Looked at the next ball and not at this one.",
        "A run 2",
        "A miss jaw [speed]",
        "B pot",
        "B miss thin [rushed]",
        "A pot",
        "A miss thick [line]",
        "B safe -- Nothing open, so a called safety to the foot rail.",
        "A in-off [line] -- A point off.",
        "B run 2",
        "B miss jaw [speed] -- A touch too firm for the jaws.",
        "A pot",
        "A miss thin [cold after a wait]",
        "B pot",
        "B miss thin",
    ],
]

STRAIGHT_POOL = Story(
    discipline="straight-pool",
    title="Straight pool, one inning through two racks",
    date="2026-02-28",
    players={"A": "Odo Brightwell", "B": "Priya Castellane"},
    racks=RACKS,
    race_to=100,
    open_end=True,
    start={"score": {"A": 41, "B": 36}, "player": "B", "breaker": "A"},
)
