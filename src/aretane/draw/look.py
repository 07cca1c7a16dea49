"""How shapes and balls look. The numbers stand in `look.json`, which the page reads as well."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import Any, Literal

import orjson

from aretane.core.ball import CUE
from aretane.core.rules.snooker import VALUES

LineName = Literal[
    "frame", "bed", "grid", "head-line", "spot", "d", "nose", "hole", "diamond", "end", "cloud", "pocket",
    "aim", "stun", "roll", "ghost", "ideal", "acceptable", "recoverable", "forbidden", "error", "route",
    "cue-path", "ball-path", "contact", "outline",
    "ink-dark", "ink-red", "ink-blue",
]  # fmt: skip

_DATA: dict[str, Any] = orjson.loads((Path(__file__).parent / "look.json").read_bytes())


@dataclass(frozen=True)
class Line:
    """Of a line or area: names of colours, widths and dashes in screen pixels, `shares` of the fill's colour (%),
    one a part."""

    stroke: str | None
    width: float
    dash: tuple[float, ...] = ()
    fill: str | None = None
    shares: tuple[float, ...] = (100,)
    opacity: float = 1.0
    letters: float = 11.0


@dataclass(frozen=True)
class BallLook:
    fill: str
    striped: bool
    label: str
    dark: bool


def _line(data: dict[str, Any]) -> Line:
    lists: dict[str, Any] = {key: tuple(value) for key, value in data.items() if isinstance(value, list)}
    return Line(**{**data, **lists})


@dataclass(frozen=True)
class Look:
    """Lengths in metres; `screen` is the width in pixels for which line widths are meant."""

    margin: float
    rail: float
    corner: float
    screen: float
    lines: dict[LineName, Line]
    label: dict[str, float]
    ball: dict[str, Any]
    colours: dict[str, dict[str, str]]


LOOK = Look(**{**_DATA, "lines": {name: _line(one) for name, one in _DATA["lines"].items()}})


def ball_look(ball: str, *, valued: bool = False) -> BallLook:
    """The trade's usual colours. With `valued` snooker's colours carry their value, so that none is told by its
    colour alone."""
    look = LOOK.ball
    if ball == CUE:
        return BallLook(look["white"], False, "", False)
    if ball.isdigit():
        hue = str(int(ball) - 8) if int(ball) > 8 else ball
        striped = int(ball) > 8
        dark = not striped and ball not in look["light"]
        return BallLook(look["hues"].get(hue, look["unknown"]), striped, ball, dark)
    colour, _, number = ball.partition("-")
    label = ("Y" if colour == "yellow" else "") if number else str(VALUES.get(ball, "")) if valued else ""
    return BallLook(look["hues"].get(colour, look["unknown"]), False, label, colour not in look["light"])
