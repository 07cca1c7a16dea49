"""An eight-ball match with a rack that was thrown away on its last ball."""

from aretane.demo.stories.story import Story

RACKS = [
    [
        "A break any",
        "A run 3",
        "A miss thick [missed pattern] -- Took the easy ones first and left the two on the rail for the end.",
        "B run 2",
        "B miss thin [line]",
        "A miss jaw [speed]",
        "B run 2",
        "B safe -- Nothing clean was left. Better than a hopeful bank.",
        "A kick",
        "B run 3 -- The group is gone, the eight stands free, the cue ball a little too near the pocket's line.",
        "B scratch [careless, speed, dwelling on the last shot] -- Thrown away: the eight falls, the cue ball"
        " follows it. Seven good shots and one that was not looked at.",
    ],
    [
        "B break -",
        "A run 2",
        "A miss jaw [speed]",
        "B run 2",
        "B safe",
        "A kick no-hit [wrong option]",
        "B run 3 -- With the cue ball in hand the order was counted out loud first.",
        "B miss thick [attention on position]",
        "A pot",
        "A miss thin [line]",
        "B run 2 -- It shows.",
        "B pot -- The eight, and this time the cue ball was looked at.",
    ],
    [
        "A break -",
        "B run 1",
        "B miss thin [pressure]",
        "A run 4",
        "A miss thick [line]",
        "B run 3",
        "B miss jaw [rushed]",
        "A run 3",
        "A pot",
    ],
]

COUNTED_OUT = {
    "from": 8,
    "by": "Tomas Verrall",
    "order": [{"ball": ball} for ball in ("4", "5", "3", "1", "6", "8")],
    "words": "the 6 last, it is the key ball",
    "felt": 0.5,
}

EIGHT_BALL = Story(
    discipline="eight-ball",
    title="Club eights, the thrown-away rack",
    date="2026-02-14",
    players={"A": "Noor Halvorsen", "B": "Tomas Verrall"},
    racks=RACKS,
    race_to=2,
    table="pool-8ft",
    rules={"breaks": "loser"},
    plans={1: [COUNTED_OUT]},
)
