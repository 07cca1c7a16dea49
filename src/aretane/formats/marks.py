"""Corners, rectangles and sizes as they are typed on a command line, and marks as a file has them."""

from __future__ import annotations

import math
from typing import Any

from aretane.core.errors import InputError

Point = tuple[float, float]

CORNERS = ("corner:head-left", "corner:head-right", "corner:foot-right", "corner:foot-left")
LARGEST = 20_000  # pixels


def corners_from(text: str) -> dict[str, Point]:
    """The marks of "x,y x,y x,y x,y": head-left, head-right, foot-right, foot-left."""
    parts = text.split()
    if len(parts) != len(CORNERS):
        raise InputError("corners", f'four points "x,y x,y x,y x,y" are needed, not {len(parts)}')
    return dict(zip(CORNERS, (_point(part, "corners") for part in parts), strict=True))


def marks_from(data: Any) -> dict[str, Point]:
    """Marks of a camera file: {"marks": {"corner:head-left": [x, y], ...}}."""
    marks = data.get("marks") if isinstance(data, dict) else None
    if not isinstance(marks, dict):
        raise InputError("camera", 'the file must hold {"marks": {"corner:head-left": [x, y], ...}}')
    return {str(name): _pair(place, f"camera.marks.{name}") for name, place in marks.items()}


def rectangle_from(text: str | None) -> tuple[float, float, float, float] | None:
    """The rectangle "x,y,w,h"."""
    if text is None:
        return None
    try:
        x, y, width, height = (float(part) for part in text.split(","))
    except ValueError:
        raise InputError("picture", 'must be four numbers "x,y,w,h"') from None
    if not all(map(math.isfinite, (x, y, width, height))) or width < 16 or height < 16:
        raise InputError("picture", "must be a rectangle of at least 16 by 16 pixels")
    return x, y, width, height


def size_from(text: str) -> tuple[int, int]:
    """A picture's size "1280x720", even in both directions."""
    try:
        width, height = (int(part) for part in text.lower().split("x"))
    except ValueError:
        raise InputError("size", 'must be like "1280x720"') from None
    if not (64 <= width <= 4096 and 64 <= height <= 4096) or width % 2 or height % 2:
        raise InputError("size", "must be even numbers between 64 and 4096")
    return width, height


def _point(text: str, field: str) -> Point:
    try:
        x, y = (float(part) for part in text.split(","))
    except ValueError:
        raise InputError(field, f"{text!r} is no point x,y") from None
    return _pair((x, y), field)


def _pair(place: Any, field: str) -> Point:
    numbers = isinstance(place, (list, tuple)) and len(place) == 2
    if not numbers or not all(isinstance(v, (int, float)) and math.isfinite(v) and abs(v) < LARGEST for v in place):
        raise InputError(field, "must be two pixels of the picture")
    return float(place[0]), float(place[1])
