"""The story of the demo match, shot by shot. Everybody and everything in it is invented.

One line an entry: the player, what happened, and its particulars:
``break 3,6`` (balls potted), ``pot``, ``bank``, ``miss thick|thin|jaw``, ``safe``, ``kick``,
``kick no-rail|no-hit|wrong`` (fouls), ``scratch`` (ball made, cue ball lost), ``combo 9``,
``combo-scratch 9``, ``fluke 7``, ``push-out``, ``accept``, ``pass-back``. A sentence after ``--`` is
the coach's note, words in brackets are causes.
"""

CLUB = "Harbour Row Cue Club"
COACH = "Odile Fenwright"
TITLE = "Winter ladder, round three"
PLAYERS = {"A": "Ilse Marwood", "B": "Tomas Verrall"}
RACE_TO = 5
RECORDED_RACK = 4  # counted from zero

RACKS = [
    [
        "A break 3",
        "A pot",
        "A pot",
        "A pot",
        "A miss thick [line, attention on position] -- Looking at the six before the five was down.",
        "B pot",
        "B safe -- Good choice: nothing was on, and now nothing can be seen.",
        "A kick",
        "B pot",
        "B pot",
        "B miss jaw [speed] -- Too firm for that pocket.",
        "A pot",
        "A pot",
    ],
    [
        "A break -",
        "B push-out -- Rolls out and leaves the choice.",
        "A pass-back",
        "B safe",
        "A kick no-rail [route never decided]",
        "B pot",
        "B pot",
        "B pot",
        "B miss thin [got up from the shot]",
        "A pot",
        "A pot",
        "A pot",
        "A scratch [speed, wrong part of the pocket] -- The scratch was there to be seen.",
        "B pot",
        "B pot",
    ],
    ["B break 9,2 -- Nine on the break. No credit to the plan."],
    [
        "B break scratch",
        "A pot",
        "A pot",
        "A combo 9 -- Seen early. Right to take it.",
    ],
    [
        "A break 4,6",
        "A pot",
        "A pot -- Wanted this side of the three, said so, and got there.",
        "A pot",
        "A miss thin [speed, rushed] -- All went well, and then she did not look at the line again.",
        "B pot",
        "B pot",
        "B miss jaw [careless]",
        "A pot",
        "A pot",
    ],
    [
        "A break 1",
        "A push-out",
        "B accept",
        "B safe",
        "A kick no-hit",
        "B pot",
        "B pot",
        "B combo-scratch 9 [wrong option] -- The nine comes back to the spot, and Ilse has the table.",
        "A pot",
        "A pot",
        "A miss thick [line]",
        "B pot",
        "B pot",
        "B pot",
        "B pot",
    ],
    [
        "B break 5",
        "B safe",
        "A kick no-rail",
        "B safe -- Ball in hand and no way out: keep her there.",
        "A kick wrong",
        "B safe",
        "A kick no-hit [wrong option] -- On two fouls any hit was enough.",
    ],
    [
        "B break -",
        "A pot",
        "A pot",
        "A bank",
        "A pot",
        "A fluke 7 [line] -- Luck. Not counted as made.",
        "A pot",
        "A miss jaw [speed]",
        "B pot",
        "B miss thick [pressure]",
        "A pot",
        "A pot",
    ],
    [
        "A break 2,8",
        "A pot",
        "A pot",
        "A pot",
        "A pot",
        "A pot",
        "A pot",
        "A pot -- Six in a row under the lights. Keep this rack.",
    ],
]
