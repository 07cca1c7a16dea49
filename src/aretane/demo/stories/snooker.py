"""A frame of snooker with a break of more than fifty."""

from aretane.demo.stories.story import Story

RACKS = [
    [
        "A break - -- Thin off the end red, and back to the baulk cushion.",
        "B safe",
        "A safe",
        "B miss thick [line] -- Long and thin from the cushion. A containing shot was there.",
        "A run red black red black red pink red black red black red blue red black red black -- The break. Note how"
        " often the white stays on the same side of the black, and how little it travels.",
        "A miss thick [attention on position] -- On the last easy red the eye was with the next black.",
        "B run red blue red pink",
        "B in-off [speed] -- Four away, and the D for Mirela.",
        "A miss thin [line]",
        "B miss jaw [pressure]",
        "A run red",
        "A miss jaw [line]",
        "B run red black red black -- Two clean ones, but forty behind: he needs nearly all that is left.",
        "B miss thin [forced]",
        "A miss thick [attention on position]",
        "B miss jaw [speed]",
        "A run red black",
    ],
]

SNOOKER = Story(
    discipline="snooker",
    title="Thursday frame, a break of fifty",
    date="2026-03-05",
    players={"A": "Mirela Anscombe", "B": "Odo Brightwell"},
    racks=RACKS,
    race_to=3,
    table="snooker-12ft",
    open_end=True,
    conceded_by={0: "B"},
    notes={0: "Won by one visit. The rest was safety, and hers was tighter."},
)
