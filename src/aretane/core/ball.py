"""Balls: their ids and which of them a discipline plays with."""

CUE = "cue"

SNOOKER_COLOURS = ("yellow", "green", "brown", "blue", "pink", "black")  # in rising value

OBJECT_BALLS: dict[str, tuple[str, ...]] = {
    "nine-ball": tuple(str(n) for n in range(1, 10)),
    "ten-ball": tuple(str(n) for n in range(1, 11)),
    "eight-ball": tuple(str(n) for n in range(1, 16)),
    "straight-pool": tuple(str(n) for n in range(1, 16)),
    "blackball": (
        *(f"red-{n}" for n in range(1, 8)),
        *(f"yellow-{n}" for n in range(1, 8)),
        "black",
    ),
    "snooker": (*(f"red-{n}" for n in range(1, 16)), *SNOOKER_COLOURS),
}

DISCIPLINES = tuple(OBJECT_BALLS)
