"""A short race in ten-ball, where every ball is called."""

from aretane.demo.stories.story import Story

RACKS = [
    [
        "A break any",
        "A run 2",
        "A wrong-pocket [throw] -- Called the other pocket. Priya may take it or hand it back, and hands it back.",
        "B pass-back",
        "A safe -- Handed back, so a safety, and called as one.",
        "B kick no-hit [route never decided]",
        "A run 2 -- In hand, and no hurry.",
        "A miss thick [attention on position] -- Looking at the next angle before this ball was down.",
        "B pot",
        "B miss jaw [speed, pressure]",
        "A run 2 -- Every angle was chosen a ball ahead, to the ten.",
    ],
    [
        "B break -",
        "A push-out -- Nothing to see of the one: rolls to a long kick and leaves the choice.",
        "B accept",
        "B safe",
        "A kick",
        "B run 4",
        "B miss jaw [speed, wrong part of the pocket] -- The same pocket as in the first rack, again too firm.",
        "A run 3",
        "A scratch [speed] -- Followed where a stun shot would have stayed. That was the rack.",
        "B run 2",
    ],
    [
        "A break any",
        "A run 3",
        "A miss thin [cold after a wait]",
        "B safe",
        "A kick no-rail",
        "B run 2",
        "B miss thin [rushed]",
        "A safe -- Meant to hide it, and left a shot: half a safety is none.",
        "B run 4 -- Four with the cue ball in the middle of the table throughout. Show this one to the juniors.",
    ],
]

TEN_BALL = Story(
    discipline="ten-ball",
    title="Called shots, a short race",
    date="2026-02-07",
    players={"A": "Ilse Marwood", "B": "Priya Castellane"},
    racks=RACKS,
    race_to=2,
)
