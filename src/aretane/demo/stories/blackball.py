"""A set of blackball on the small table, decided by a free shot."""

from aretane.demo.stories.story import Story

RACKS = [
    [
        "A break any",
        "A run 2",
        "A miss thick [line]",
        "B run 3",
        "B in-off [speed] -- The free shot that follows is worth more than the ball was.",
        "A run 4 -- First the free shot, used to clear the one on the cushion; that is what it is for.",
        "A miss thin [attention on position]",
        "B run 2",
        "B miss jaw [speed]",
        "A run 1",
        "A pot -- The black.",
    ],
    [
        "B break any",
        "B run 2",
        "B miss thin [line]",
        "A pot",
        "A miss jaw [rushed]",
        "B run 2",
        "B safe -- Snookers her behind his own colour.",
        "A kick no-hit",
        "B run 3",
        "B pot -- The black, and level.",
    ],
    [
        "A break any",
        "A run 3",
        "A safe",
        "B kick wrong [wrong option] -- Hit her colour first.",
        "A run 3",
        "A miss jaw [pressure]",
        "B run 2",
        "B miss thick [rushed]",
        "A run 1",
        "A pot -- The set. It was won with two free shots and one good safety.",
    ],
]

BLACKBALL = Story(
    discipline="blackball",
    title="A set on the small table",
    date="2026-02-21",
    players={"A": "Mirela Anscombe", "B": "Jory Pell"},
    racks=RACKS,
    race_to=2,
    table="blackball-7ft",
)
