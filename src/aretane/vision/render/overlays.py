"""What an editor or a screen puts over the picture: captions, drawn lines, a pointer, a player bar."""

from __future__ import annotations

import cv2
import numpy as np

from aretane.core.table import Point, Table
from aretane.vision.render.brush import Image
from aretane.vision.table.camera import Camera, project

INKS = {  # blue, green, red
    "yellow": (40, 240, 250), "white": (250, 250, 250), "black": (16, 14, 14), "cyan": (230, 200, 40),
    "orange": (30, 130, 250), "pink": (200, 60, 250), "green": (60, 230, 60), "red": (60, 60, 250),
}  # fmt: skip
TEXT = "Harbour Row   Marwood 3   Verrall 2"


def draw_lines(picture: Image, camera: Camera, table: Table, places: dict[str, Point]) -> None:
    """What a commentator draws: a line between two balls and a ring round one."""
    if len(places) < 2:
        return
    chosen = sorted(places)[:2]
    pixels = project(camera, np.array([[*places[ball], table.radius] for ball in chosen]))
    a, b = (tuple(int(v) for v in pixel) for pixel in pixels)
    cv2.line(picture, a, b, INKS["yellow"], 2, cv2.LINE_AA)
    cv2.circle(picture, b, max(8, picture.shape[1] // 58), INKS["red"], 2, cv2.LINE_AA)


def scribble(picture: Image, dice: np.random.Generator) -> None:
    """Arrows and a ring anywhere, of one ink and one pen: somebody has explained a shot on the screen."""
    h, w = picture.shape[:2]
    ink = list(INKS.values())[int(dice.integers(len(INKS)))]
    pen = max(1, round(dice.uniform(2, 8) * w / 1280))
    for x, y, u, v in dice.uniform(0.2, 0.8, (int(dice.integers(1, 4)), 4)):
        cv2.arrowedLine(picture, (int(x * w), int(y * h)), (int(u * w), int(v * h)), ink, pen, cv2.LINE_AA, 0, 0.06)
    x, y, breadth = dice.uniform(0.2, 0.8), dice.uniform(0.2, 0.8), dice.uniform(0.02, 0.06) * w
    cv2.ellipse(
        picture, (int(x * w), int(y * h)), (int(breadth), int(0.7 * breadth)), 0, 0, 360, ink, pen, cv2.LINE_AA
    )


def draw_captions(picture: Image) -> None:
    """A scoreboard over the lower edge."""
    h, w = picture.shape[:2]
    cv2.rectangle(picture, (int(0.06 * w), int(0.9 * h)), (int(0.5 * w), int(0.96 * h)), (40, 24, 20), -1)
    at = (int(0.08 * w), int(0.945 * h))
    cv2.putText(picture, TEXT, at, cv2.FONT_HERSHEY_SIMPLEX, h / 1100, (240, 240, 240), 1, cv2.LINE_AA)


def draw_player_bar(picture: Image, share: float) -> None:
    """The bar of a player program and a mouse pointer, as in a recording of a screen."""
    h, w = picture.shape[:2]
    cv2.rectangle(picture, (0, int(0.94 * h)), (w, h), (22, 20, 20), -1)
    cv2.line(picture, (int(0.04 * w), int(0.97 * h)), (int(0.96 * w), int(0.97 * h)), (90, 90, 90), 2)
    cv2.line(
        picture, (int(0.04 * w), int(0.97 * h)), (int((0.04 + 0.92 * share) * w), int(0.97 * h)), (60, 60, 220), 3
    )
    x, y = int((0.3 + 0.4 * share) * w), int(0.55 * h)
    arrow = np.array([(0, 0), (0, 16), (4, 12), (7, 18), (9, 17), (6, 11), (11, 11)]) + np.array((x, y))
    cv2.fillPoly(picture, [arrow.astype(np.int32)], (250, 250, 250), cv2.LINE_AA)
    cv2.polylines(picture, [arrow.astype(np.int32)], True, (20, 20, 20), 1, cv2.LINE_AA)
