"""The table: a worn, lit bed of cloth, cushions with dark faces, wood with sights, pockets."""

from __future__ import annotations

import math

import cv2
import numpy as np
from numpy.typing import NDArray

from aretane.core.table import Point, Table
from aretane.core.units import SIGHT_FROM_NOSE
from aretane.vision.balls.ball_sets import IVORY
from aretane.vision.render.brush import Colour, Image, Place3, blot, dim, fill, rectangle
from aretane.vision.render.look import POCKETS, Look
from aretane.vision.table.camera import Camera, project
from aretane.vision.table.marks import SIGHT_HEIGHT, mark_places

RAIL = 0.13  # m, from the nose to the outer edge of the wood
FACE = 0.42  # how bright a cushion's face is beside the cloth
GRID = 500  # pixels of the cloth's texture per metre
APRON = 0.05  # m of cloth that runs on under the cushions
HOLE, LINER = (10, 10, 10), (26, 28, 30)
SIDES = ("head", "foot", "left", "right")


def paint_behind(picture: Image, table: Table, camera: Camera, look: Look) -> None:
    """What lies behind the balls: the bed, the far rails, the pockets."""
    L, W = table.length, table.width
    fill(picture, camera, rectangle(-RAIL, -RAIL, L + RAIL, W + RAIL, -0.01), dim(look.wood, 0.45))
    _bed(picture, table, camera, look)
    for side in SIDES:
        if not is_near(side, table, camera):
            _rail(picture, table, camera, look, side)
    _pockets(picture, table, camera, look)


def paint_before(table: Table, camera: Camera, look: Look, behind: Image) -> tuple[Image, NDArray[np.float32]]:
    """The near rails, which cover some of the bed and of the balls on it, and how much they cover."""
    front = behind.copy()
    mask = np.zeros_like(behind)
    white = Look(cloth=(255, 255, 255), wood=(255, 255, 255))
    for side in SIDES:
        if is_near(side, table, camera):
            _rail(front, table, camera, look, side)
            _rail(mask, table, camera, white, side, plain=True)
    _pockets(front, table, camera, look)
    return front, cv2.GaussianBlur(mask, (3, 3), 0.7).astype(np.float32)[..., :1] / 255.0


def is_near(side: str, table: Table, camera: Camera) -> bool:
    """Whether the camera stands outside of this rail, and so sees it from behind."""
    x, y, _ = camera.position
    return bool({"head": x < 0, "foot": x > table.length, "right": y < 0, "left": y > table.width}[side])


def _bed(picture: Image, table: Table, camera: Camera, look: Look) -> None:
    """The cloth as a texture in the plane of the bed, seen by the camera."""
    texture = _cloth(table, look)
    height, width = texture.shape[:2]
    L, W = table.length, table.width
    corners = rectangle(-APRON, -APRON, L + APRON, W + APRON, 0.0)
    seen = project(camera, np.array(corners)).astype(np.float32)
    flat = np.array([[0, 0], [width, 0], [width, height], [0, height]], np.float32)
    warp = cv2.getPerspectiveTransform(flat, seen)
    size = (picture.shape[1], picture.shape[0])
    laid = cv2.warpPerspective(texture, warp, size, flags=cv2.INTER_AREA)
    mask = np.zeros(picture.shape[:2], np.uint8)
    cv2.fillPoly(mask, [np.round(seen * 16).astype(np.int32)], 255, lineType=cv2.LINE_AA, shift=4)
    share = mask.astype(np.float32)[..., None] / 255.0
    picture[:] = (share * laid + (1 - share) * picture).astype(np.uint8)


def _cloth(table: Table, look: Look) -> Image:
    """Light from the lamps, the shadow of the cushions, nap, wear, chalk dust, spots. Rows run along y."""
    dice = np.random.default_rng(look.seed + 11)
    L, W = table.length, table.width
    height, width = round((W + 2 * APRON) * GRID), round((L + 2 * APRON) * GRID)
    x = np.linspace(-APRON, L + APRON, width)[None, :]
    y = np.linspace(-APRON, W + APRON, height)[:, None]
    along = np.clip((np.abs(x - L / 2) - 0.3 * L) / (0.25 * L), 0, 1)
    across = (y - W / 2) / W
    light = 1.02 - 0.28 * along**2 - 0.5 * across**2 + 0.05 * dice.normal() * x / L
    wall = np.minimum(np.minimum(x, L - x), np.minimum(y, W - y))
    light = light * (0.72 + 0.28 * np.clip(wall / 0.05, 0, 1))
    nap = cv2.GaussianBlur(dice.normal(0, 1, (height, width)).astype(np.float32), (0, 0), 5, sigmaY=0.7)
    patches = cv2.GaussianBlur(dice.normal(0, 1, (height // 16, width // 16)).astype(np.float32), (0, 0), 3)
    patches = cv2.resize(patches, (width, height), interpolation=cv2.INTER_CUBIC)
    light = light * (1 + 0.05 * nap / nap.std() * 0.5 + 0.02 * patches / patches.std())
    colour = np.array(look.cloth, np.float32) * light[..., None].astype(np.float32)
    _worn(colour, dice, look, table)
    if look.template:
        _template(colour, table)
    if look.printed:
        _printed(colour, table, look.printed)
    return np.asarray(np.clip(colour, 0, 255), np.uint8)


def _worn(colour: NDArray[np.float32], dice: np.random.Generator, look: Look, table: Table) -> None:
    def at(place: Point) -> tuple[int, int]:
        return (round((place[0] + APRON) * GRID * 16), round((place[1] + APRON) * GRID * 16))

    over = np.zeros(colour.shape[:2], np.uint8)
    for _ in range(14):  # pale burns where balls have run and chalk was spread
        start = (dice.uniform(0.2, table.length), dice.uniform(0.1, table.width))
        end = (start[0] + dice.normal(0, 0.25), start[1] + dice.normal(0, 0.08))
        cv2.line(over, at(start), at(end), int(dice.uniform(20, 70)), int(dice.uniform(1, 4)), cv2.LINE_AA, 4)
    if look.head_string:
        x = table.length / 4  # common practice: a line drawn with pencil or chalk
        cv2.line(over, at((x, 0.0)), at((x, table.width)), 110, 2, cv2.LINE_AA, 4)
    for place in look.marks:
        cv2.circle(over, at(place), round(0.006 * GRID * 16), 170, -1, cv2.LINE_AA, 4)
    dust = cv2.GaussianBlur(over, (0, 0), 1.2).astype(np.float32)[..., None] / 255.0
    colour[:] = colour * (1 - dust) + np.array((196, 188, 176), np.float32) * dust
    for place in look.spots:
        over[:] = 0
        cv2.circle(over, at(place), round(0.009 * GRID * 16), 255, -1, cv2.LINE_AA, 4)
        colour *= 1 - 0.6 * over[..., None].astype(np.float32) / 255.0


def _template(colour: NDArray[np.float32], table: Table) -> None:
    """A thin sheet with holes on which the balls are racked: a faint pale outline."""
    apex, side = (table.foot_spot - 0.03, table.width / 2), table.ball_diameter * 5.4
    corners = [apex, (apex[0] + 0.87 * side, apex[1] - side / 2), (apex[0] + 0.87 * side, apex[1] + side / 2)]
    pixels = np.round((np.array(corners) + APRON) * GRID).astype(np.int32)
    over = np.zeros(colour.shape[:2], np.uint8)
    cv2.fillPoly(over, [pixels], 20, cv2.LINE_AA)
    cv2.polylines(over, [pixels], True, 90, 2, cv2.LINE_AA)
    share = over[..., None].astype(np.float32) / 255.0
    colour[:] = colour * (1 - share) + np.array((200, 200, 200), np.float32) * share


def _printed(colour: NDArray[np.float32], table: Table, what: str) -> None:
    """What is printed on the cloth: the outline of a ball, of a whole rack's balls, or letters."""
    over = np.zeros(colour.shape[:2], np.uint8)
    r, pen = table.radius, max(1, round(0.004 * GRID))

    def at(x: float, y: float) -> tuple[int, int]:
        return round((x + APRON) * GRID), round((y + APRON) * GRID)

    foot, middle = table.foot_spot, table.width / 2
    if what == "outline":
        cv2.circle(over, at(foot, middle), round(r * GRID), 150, pen, cv2.LINE_AA)
        cv2.circle(over, at(table.length - foot, middle), round(r * GRID), 150, pen, cv2.LINE_AA)
    elif what == "rack":
        for row in range(5):
            for n in range(row + 1):
                place = foot + row * r * math.sqrt(3), middle + (2 * n - row) * r
                cv2.circle(over, at(*place), round(0.35 * r * GRID), 110, pen, cv2.LINE_AA)
    else:
        cv2.putText(over, "HARBOUR ROW", at(0.62 * table.length, 0.25 * table.width), cv2.FONT_HERSHEY_DUPLEX,
                    0.0032 * GRID, 130, 2 * pen, cv2.LINE_AA)  # fmt: skip
    share = over[..., None].astype(np.float32) / 255.0
    colour[:] = colour * (1 - share) + np.array((225, 228, 228), np.float32) * share


def _rail(picture: Image, table: Table, camera: Camera, look: Look, side: str, plain: bool = False) -> None:
    """One rail: the cushion's dark face below its nose, its cloth on top, the wood with its sights."""
    L, W, nose = table.length, table.width, table.nose_height
    inner = {
        "head": ((0.0, W), (0.0, 0.0)), "foot": ((L, 0.0), (L, W)),
        "right": ((0.0, 0.0), (L, 0.0)), "left": ((L, W), (0.0, W)),
    }[side]  # fmt: skip
    out = {"head": (-1, 0), "foot": (1, 0), "right": (0, -1), "left": (0, 1)}[side]

    def line(away: float, z: float) -> list[Place3]:
        return [(x + away * out[0], y + away * out[1], z) for x, y in inner]

    def quad(a: list[Place3], b: list[Place3], colour: Colour) -> None:
        fill(picture, camera, [*a, *reversed(b)], colour)

    near = is_near(side, table, camera)
    cloth = look.cushions or look.cloth
    if not plain and not near:
        quad(line(0.014, 0.0), line(0.0, nose), dim(cloth, FACE))
    top = look.cloth if plain else dim(cloth, 0.98 if side in ("head", "foot") else 0.86)
    quad(line(0.0, nose), line(0.05, SIGHT_HEIGHT), top)
    quad(line(0.05, SIGHT_HEIGHT), line(RAIL, SIGHT_HEIGHT), look.wood)
    if plain:
        return
    quad(line(0.046, SIGHT_HEIGHT), line(0.052, SIGHT_HEIGHT), dim(look.wood, 0.5))
    quad(line(0.085, SIGHT_HEIGHT), line(0.11, SIGHT_HEIGHT), dim(look.wood, 1.2))
    if near:
        quad(line(RAIL, SIGHT_HEIGHT), line(RAIL, -0.25), dim(look.wood, 0.6))
    for name, (x, y, z) in mark_places(table).items():
        if name.startswith(f"sight:{side}"):
            s = SIGHT_FROM_NOSE / 12
            fill(picture, camera, [(x - s, y, z), (x, y - s, z), (x + s, y, z), (x, y + s, z)], IVORY)


def _pockets(picture: Image, table: Table, camera: Camera, look: Look) -> None:
    """A hole in a dark liner, or in the bed with a collar behind it; the way into it lies between the jaws."""
    kind = POCKETS[look.pockets]
    for pocket in table.pockets.values():
        half = kind.wider * pocket.mouth_width / 2
        away = pocket.mouth_width / 2 - kind.nearer
        x, y = pocket.drop[0] + away * pocket.axis[0], pocket.drop[1] + away * pocket.axis[1]

        def arc(grown: float, z: float, angles: NDArray[np.float64], middle: Place3 = (x, y, half)) -> list[Place3]:
            reach = grown * middle[2]
            return [(middle[0] + reach * math.cos(a), middle[1] + reach * math.sin(a), z) for a in angles]

        whole = np.linspace(0, 2 * math.pi, 40, endpoint=False)
        if kind.collar is None:
            fill(picture, camera, arc(1.18, table.nose_height, whole), LINER)
            fill(picture, camera, arc(1.0, table.nose_height * 0.5, whole), HOLE)
            blot(picture, camera, (x, y), 0.8 * half, HOLE, 0.0)
            continue
        behind = math.atan2(pocket.axis[1], pocket.axis[0]) + np.linspace(-1.7, 1.7, 30)
        fill(picture, camera, arc(1.05, 0.0, whole), HOLE)
        collar = arc(1.25, table.nose_height, behind) + arc(0.95, table.nose_height, behind[::-1])
        fill(picture, camera, collar, kind.collar)
        fill(picture, camera, arc(0.9, -0.02, behind), LINER)
