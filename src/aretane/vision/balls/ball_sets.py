"""The sets of balls and what they look like: the trade's standard colours (common practice)."""

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
_SNOOKER = {
    "red": (40, 36, 178), "yellow": (40, 200, 235), "green": (62, 118, 24), "brown": (38, 66, 112),
    "blue": (168, 92, 24), "pink": (172, 150, 238), "black": (26, 26, 26),
}  # fmt: skip
CUE_COLOUR = (232, 240, 242)
IVORY = (225, 236, 240)


def colour_of(ball: str) -> tuple[int, int, int]:
    """The ball's own colour (blue, green, red), of a striped one the stripe's."""
    if ball == CUE:
        return CUE_COLOUR
    if ball.isdigit():
        return _HUES[str((int(ball) - 1) % 8 + 1)]
    return _SNOOKER[ball.split("-")[0]]


def is_striped(ball: str) -> bool:
    return ball.isdigit() and int(ball) > 8


def ball_set_of(discipline: str) -> str:
    """The set that a discipline is played with."""
    return OF_DISCIPLINE.get(discipline, "pool")
