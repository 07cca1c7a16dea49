"""What is burnt into the picture: lines on the cloth where the camera sees them, words on a plain bar under it."""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterator, Sequence
from functools import lru_cache

import cv2
import numpy as np
from PIL import Image as Picture
from PIL import ImageDraw, ImageFont
from PIL.ImageFont import FreeTypeFont

from aretane.core.errors import InputError
from aretane.core.table import Point
from aretane.vision.clip.moment import Line, Moment
from aretane.vision.table.camera import Camera, project, solve_camera
from aretane.vision.table.cloth import Image

STEP = 0.02  # m between two points of a line as it is laid into the picture: a lens bends it
DASH = 0.06  # m
PAPER, INK = (250, 247, 240), (34, 48, 60)
WORDS_AT, ROWS = 28, 4  # a picture's height is so many lines of words; lines of the bar


def camera_of(moment: Moment, width: int, height: int) -> Camera | None:
    """The camera that sees the moment's marks; None where there are none, or none that a camera could see."""
    if not moment.marks:
        return None
    try:
        return solve_camera(moment.table, moment.marks, (width, height), picture=moment.picture)
    except InputError:
        return None


def painted(picture: Image, camera: Camera | None, lines: Sequence[Line], radius: float) -> Image:
    """The picture (blue, green, red) with lines on the cloth, as high over it as a ball's centre."""
    if camera is None or not lines:
        return picture
    page = Picture.fromarray(picture[:, :, ::-1])
    pen = ImageDraw.Draw(page)
    width = max(3, round(page.height / 200))
    for line in lines:
        for piece in _pieces(line):
            seen = project(camera, np.array([(x, y, radius) for x, y in piece]))
            if np.isfinite(seen).all():
                at = [(float(u), float(v)) for u, v in seen]
                pen.line(at, fill=INK if line.colour == PAPER else PAPER, width=width + 3, joint="curve")
                pen.line(at, fill=line.colour, width=width, joint="curve")
    return np.ascontiguousarray(np.asarray(page)[:, :, ::-1])


def bar_under(height: int) -> int:
    """How high the bar with words is under a picture of this height."""
    size = max(12, height // WORDS_AT)
    return ROWS * (size + size // 2) + size


@lru_cache(maxsize=4)
def _page(lines: tuple[str, ...], size: tuple[int, int], letters: str) -> tuple[Image, int]:
    """Plain paper with words on its bar, and where the bar begins."""
    width, height = size
    page = Picture.new("RGB", size, PAPER)
    bar = next(high for high in range(height) if high >= bar_under(height - high))
    high = max(12, (height - bar) // WORDS_AT)
    pen, font, step = ImageDraw.Draw(page), _font(letters, high), high + high // 2
    rows = [row for line in lines if line for row in _rows(line, font, width - 2 * high)]
    for at, row in enumerate(rows[:ROWS]):
        pen.text((high, height - bar + high // 2 + at * step), row, fill=INK, font=font)
    return np.ascontiguousarray(np.asarray(page)[:, :, ::-1]), height - bar


def composed(picture: Image, lines: Sequence[str], size: tuple[int, int], letters: str) -> Image:
    """The whole picture over a bar with words, together of this size, plain paper beside; a line that is too long
    goes on in the next one. `letters`: the font's file.
    """
    page, height = _page(tuple(lines), size, letters)
    scale = min(size[0] / picture.shape[1], height / picture.shape[0])
    wide, high = round(picture.shape[1] * scale), round(picture.shape[0] * scale)
    small = picture if scale == 1.0 else cv2.resize(picture, (wide, high), interpolation=cv2.INTER_AREA)
    x, y = (size[0] - wide) // 2, (height - high) // 2
    found = page.copy()
    found[y : y + high, x : x + wide] = small
    return found


def _pieces(line: Line) -> Iterator[list[Point]]:
    """A line as it is drawn: whole and close-set, or in dashes."""
    points = [*line.points, line.points[0]] if line.closed else list(line.points)
    fine: list[Point] = [points[0]]
    for (ax, ay), (bx, by) in itertools.pairwise(points):
        parts = max(1, math.ceil(math.dist((ax, ay), (bx, by)) / STEP))
        fine += [(ax + (bx - ax) * n / parts, ay + (by - ay) * n / parts) for n in range(1, parts + 1)]
    if not line.dashed:
        yield fine
        return
    many = max(2, round(DASH / STEP))
    for at in range(0, len(fine) - 1, 2 * many):
        yield fine[at : at + many + 1]


def _rows(words: str, font: FreeTypeFont, width: float) -> list[str]:
    rows = [""]
    for word in words.split():
        longer = f"{rows[-1]} {word}".strip()
        if font.getlength(longer) <= width or not rows[-1]:
            rows[-1] = longer
        else:
            rows.append(word)
    return rows


@lru_cache(maxsize=8)
def _font(letters: str, size: int) -> FreeTypeFont:
    return ImageFont.truetype(letters, size)
