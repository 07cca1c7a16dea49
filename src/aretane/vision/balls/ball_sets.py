"""The sets of balls and what they look like: the trade's colours, and how sets differ (common practice)."""

from __future__ import annotations

from aretane.core.ball import CUE, OBJECT_BALLS

BALL_SETS = {
    "pool": (CUE, *OBJECT_BALLS["eight-ball"]),
    "snooker": (CUE, *OBJECT_BALLS["snooker"]),
    "blackball": (CUE, *OBJECT_BALLS["blackball"]),
}
OF_DISCIPLINE = {"snooker": "snooker", "blackball": "blackball"}  # all others play with pool's

_HUES = {  # BGR
    "1": (30, 190, 240), "2": (160, 70, 20), "3": (40, 40, 205), "4": (120, 40, 90), "5": (30, 110, 235),
    "6": (60, 120, 20), "7": (40, 30, 120), "8": (28, 28, 28),
}  # fmt: skip
_OTHERWISE = {  # makes whose colours differ so that screens tell them apart
    "plain": {},
    "television": {"4": (160, 120, 232), "7": (92, 138, 184)},
    "turquoise": {"2": (176, 100, 30), "4": (168, 132, 236), "6": (150, 158, 62), "7": (96, 146, 190)},
}  # fmt: skip
MAKES = tuple(_OTHERWISE)
_SNOOKER = {
    "red": (40, 36, 178), "yellow": (40, 200, 235), "green": (62, 118, 24), "brown": (38, 66, 112),
    "blue": (168, 92, 24), "pink": (172, 150, 238), "black": (26, 26, 26),
}  # fmt: skip
CUE_COLOUR = (232, 240, 242)
IVORY = (225, 236, 240)


def colour_of(ball: str, make: str = "plain") -> tuple[int, int, int]:
    """The ball's own colour (blue, green, red) in a set of that make, of a striped one the stripe's."""
    if ball == CUE:
        return CUE_COLOUR
    if ball.isdigit():
        hue = str((int(ball) - 1) % 8 + 1)
        return _OTHERWISE[make].get(hue, _HUES[hue])
    return _SNOOKER[ball.split("-")[0]]


def is_striped(ball: str) -> bool:
    return ball.isdigit() and int(ball) > 8


def ball_set_of(discipline: str) -> str:
    """The set that a discipline is played with."""
    return OF_DISCIPLINE.get(discipline, "pool")
