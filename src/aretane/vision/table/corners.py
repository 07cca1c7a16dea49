"""A suggestion for the table's corners and pockets: a first guess to drag, not a truth.

The largest area of one colour in the middle of the picture is taken for the cloth, cushions included. The
four-sided outline that it fills best gives a first camera; that is moved until the lines of the noses, and of the
edge between cushion and wood, lie on edges of the picture.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.optimize import minimize

from aretane.core.errors import InputError
from aretane.core.table import Point, Table
from aretane.vision.table.camera import HALF, Camera, camera_through, project, solve_camera
from aretane.vision.table.cloth import Array, Image, Mask, lab
from aretane.vision.table.marks import SIGHT_HEIGHT, mark_places

Pixels = NDArray[np.float64]

NO_TABLE = "no table is to be seen here; choose a picture that shows it whole, or set the marks by hand"
TWO_TABLES = "two tables are seen equally well here; set the corners of the one that is meant by hand"
WIDE = 640  # pixels: the picture is made smaller for this
CUSHION = 0.05  # m, from the nose to the wood
MIDDLE, WOOD = (0.5 * CUSHION, SIGHT_HEIGHT), (1.5 * CUSHION, SIGHT_HEIGHT)  # lines on cushion and wood
CLOTH = 40.0  # of an edge's strength: cloth where it should be
NEAR = ((0.3, 11.0), (0.3, 7.0), (0.7, 9.0))  # how much lightness counts, and units of colour from the cloth's
AS_LIKELY, OTHER = 0.8, 0.04  # of the likeliest area: others are tried too, if so much of them is elsewhere
LEAST, MOST = 0.04, 0.85  # of the picture that a table's cloth takes
SHADES = 8  # commonest colours that are tried
RIVAL, RIVAL_NEAR = 0.7, 12.0  # of the cloth's area and likeliness; units of colour from it: another table
FILLED = 0.72  # of the four-sided outline that must be cloth
BLURS = (3.0, 1.2)  # pixels: edges are looked for from far, then from near
MOST_STRENGTH = 90.0  # of an edge: stronger ones count no more
REACH = 0.03  # of the picture's width: a suggested corner this near to one that was set is that one
GUESSED, SET = 0.02, 1.0  # how much a camera through a guessed outline and one through marks set by eye are trusted
EYE_HEIGHT = (0.4, 6.0)  # m above the bed: where cameras are


def suggest_marks(picture: Image, table: Table) -> dict[str, Point]:
    """Marks for corners and pockets, in pixels of this picture. Raises `InputError` if no table is to be seen."""
    small, scale = _smaller(picture)
    strength = _strength(small, BLURS[0])
    tried = [
        (cloth, camera) for cloth in _cloths(lab(small)) if (camera := _first_camera(table, cloth)) is not None
    ]
    if not tried:
        raise InputError("picture", NO_TABLE)
    cloth, camera = max(tried, key=lambda one: _on_edges(strength, one[1], table))
    if _has_rival(lab(small), cloth):
        raise InputError("picture", TWO_TABLES)
    return _marks(_fitted(small, table, camera, GUESSED, cloth), table, scale)


def snap_marks(picture: Image, table: Table, marks: Mapping[str, Point]) -> dict[str, Point]:
    """Marks that were set by eye, moved so that the table's edges lie on edges of the picture.

    Where the picture suggests corners near all of those that were set, these are taken.
    """
    try:
        guess = suggest_marks(picture, table)
    except InputError:
        guess = {}
    corners = {name: at for name, at in marks.items() if name.startswith("corner")}
    others = [at for name, at in guess.items() if name.startswith("corner")]
    reach = REACH * picture.shape[1]
    nearest = {name: min(others, key=lambda one: math.dist(one, at), default=at) for name, at in corners.items()}
    agreed = len(set(nearest.values())) == len(corners) and all(
        math.dist(nearest[name], at) < reach for name, at in corners.items()
    )
    small, scale = _smaller(picture)
    start = nearest if guess and agreed and len(corners) == 4 else marks
    set_small = {name: (u * scale, v * scale) for name, (u, v) in start.items()}
    camera = solve_camera(table, set_small, (small.shape[1], small.shape[0]))
    cloths = _cloths(lab(small)) or [np.zeros(small.shape[:2], bool)]
    return _marks(_fitted(small, table, camera, SET, cloths[0]), table, scale)


def _smaller(picture: Image) -> tuple[Image, float]:
    scale = min(1.0, WIDE / picture.shape[1])
    size = (round(picture.shape[1] * scale), round(picture.shape[0] * scale))
    return np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA), np.uint8), scale


def _marks(camera: Camera, table: Table, scale: float) -> dict[str, Point]:
    """Where this camera sees corners and pockets, in pixels of the whole picture."""
    places = {name: at for name, at in mark_places(table).items() if not name.startswith("sight")}
    pixels = project(camera, np.array(list(places.values()))) / scale
    return {name: (round(float(u), 1), round(float(v), 1)) for name, (u, v) in zip(places, pixels, strict=True)}


def _cloths(colours: Array) -> list[Mask]:
    """Areas of one colour that may be the cloth, people and balls on it filled in; the likeliest first."""
    height, width = colours.shape[:2]
    y, x = np.mgrid[-1 : 1 : height * 1j, -1 : 1 : width * 1j]
    middle = np.exp(-2 * (x**2 + y**2)).ravel()
    bins = np.round(colours[..., 1:].reshape(-1, 2) / 5).astype(int)
    shade = np.round(colours[..., 0].reshape(-1, 1) / 14).astype(int)
    _, which = np.unique(np.hstack([bins, shade]), axis=0, return_inverse=True)
    counts = np.bincount(which.ravel(), weights=middle)
    found: list[tuple[float, Mask]] = []
    for index in np.argsort(-counts)[:SHADES]:
        centre = np.median(colours.reshape(-1, 3)[which.ravel() == index], axis=0)
        for light, near in NEAR:
            mask = _largest(np.linalg.norm((colours - centre) * np.array([light, 1.0, 1.0]), axis=2) < near)
            found.append((_likely(mask), mask))
    found.sort(key=lambda one: -one[0])
    kept: list[Mask] = []
    for likely, mask in found:
        if likely > AS_LIKELY * found[0][0] and all((mask ^ other).mean() > OTHER * mask.mean() for other in kept):
            kept.append(mask)
    return kept


def _has_rival(colours: Array, cloth: Mask) -> bool:
    """Whether another area of the cloth's colour is as likely a table."""
    colour = np.median(colours[cloth], axis=0)
    near = np.linalg.norm((colours - colour) * np.array([0.5, 1.0, 1.0]), axis=2) < RIVAL_NEAR
    grown = cv2.dilate(cloth.astype(np.uint8), np.ones((9, 9), np.uint8)) > 0
    other = _largest(near & ~grown)
    return bool(other.sum() > RIVAL * cloth.sum() and _likely(other) > RIVAL * _likely(cloth))


def _largest(mask: Mask) -> Mask:
    """Its largest connected area, small gaps filled in and small bridges taken away."""
    whole = cv2.morphologyEx(mask.astype(np.uint8), cv2.MORPH_CLOSE, np.ones((7, 7), np.uint8))
    whole = cv2.morphologyEx(whole, cv2.MORPH_OPEN, np.ones((5, 5), np.uint8))
    _, labels, stats, _ = cv2.connectedComponentsWithStats(whole)
    if len(stats) < 2:
        return np.zeros(mask.shape, bool)
    return np.asarray(labels == 1 + int(np.argmax(stats[1:, cv2.CC_STAT_AREA])))


def _likely(mask: Mask) -> float:
    """How well an area fills its four-sided outline, weighted by its size; what leaves the picture is a room."""
    share = float(mask.mean())
    quad = _four_sides(mask) if LEAST < share < MOST else None
    if quad is None:
        return 0.0
    border = np.concatenate([mask[0], mask[-1], mask[:, 0], mask[:, -1]]).mean()
    return float(np.sqrt(share) * _filling(mask, quad) * max(0.0, 1 - 2.5 * border))


def _filling(mask: Mask, quad: Pixels) -> float:
    inside = np.zeros(mask.shape, np.uint8)
    cv2.fillConvexPoly(inside, np.round(quad).astype(np.int32), 1)
    return float(mask[inside > 0].mean()) if inside.any() else 0.0


def _four_sides(mask: Mask) -> Pixels | None:
    """The hull with its sides left out one after the other, the one that adds least first, until four are left."""
    outlines, _ = cv2.findContours(mask.astype(np.uint8), cv2.RETR_EXTERNAL, cv2.CHAIN_APPROX_SIMPLE)
    if not outlines or not LEAST < mask.mean() < MOST:
        return None
    hull = cv2.convexHull(max(outlines, key=cv2.contourArea))
    points = cv2.approxPolyDP(hull, 0.004 * cv2.arcLength(hull, True), True)[:, 0].astype(float)
    while len(points) > 4:
        options = [_without(points, index) for index in range(len(points))]
        able = [option for option in options if option is not None]
        if not able:
            return None
        points = min(able, key=lambda option: option[0])[1]
    if len(points) < 4 or _filling(mask, points) < FILLED:
        return None
    return points


def _without(points: Pixels, index: int) -> tuple[float, Pixels] | None:
    """The polygon without the side from this point to the next, its neighbours prolonged; and the area added."""
    a, b, c, d = (points[(index + offset) % len(points)] for offset in (-1, 0, 1, 2))
    u, v = b - a, c - d
    cross = u[0] * v[1] - u[1] * v[0]
    if abs(cross) < 1e-9:
        return None
    t = ((d - a)[0] * v[1] - (d - a)[1] * v[0]) / cross
    met = a + t * u
    s = ((met - d) @ v) / (v @ v)
    if t < 1 or s < 1:
        return None
    added = 0.5 * abs((met - b)[0] * (c - b)[1] - (met - b)[1] * (c - b)[0])
    rest = [points[n] for n in range(len(points)) if n not in (index, (index + 1) % len(points))]
    at = index if index + 1 < len(points) else 0
    rest.insert(at if index + 1 < len(points) else len(rest), met)
    return float(added), np.array(rest)


def _outer(table: Table) -> Pixels:
    """Corners of the edge between cushion and wood: head-left, head-right, foot-right, foot-left."""
    L, W, c, z = table.length, table.width, CUSHION, SIGHT_HEIGHT
    return np.array([(-c, W + c, z), (-c, -c, z), (L + c, -c, z), (L + c, W + c, z)])


def _first_camera(table: Table, cloth: Mask) -> Camera | None:
    """The way to lay the table into an area's outline that a real camera could see, its head nearest to it."""
    quad, size = _four_sides(cloth), (cloth.shape[1], cloth.shape[0])
    if quad is None:
        return None
    quad = quad + HALF
    middle = quad.mean(axis=0)
    order = np.argsort(np.arctan2(*(quad - middle).T[::-1]))
    ring = quad[order][::-1]  # counter-clockwise as seen, like the table's corners from above
    found: list[tuple[float, Camera]] = []
    for turn in range(4):
        try:
            camera = camera_through(_outer(table), np.roll(ring, turn, axis=0), size)
        except InputError:
            continue
        if EYE_HEIGHT[0] < camera.position[2] < EYE_HEIGHT[1]:
            near = float(np.hypot(camera.position[0], camera.position[1] - table.width / 2))
            far = float(np.hypot(camera.position[0] - table.length, camera.position[1] - table.width / 2))
            off = abs(np.log(camera.focal / (1.1 * max(size))))
            found.append((camera.error_px / max(size) * 200 + off + (1e-3 if near > far else 0.0), camera))
    return min(found, key=lambda one: one[0])[1] if found else None


def _fitted(picture: Image, table: Table, camera: Camera, trust: float, cloth: Mask) -> Camera:
    """The camera moved until both outlines lie on edges, with cloth on the cushions between them and none on the
    wood beyond; `trust` holds it back to where it was."""
    covered = np.asarray(cv2.GaussianBlur(cloth.astype(np.float32), (0, 0), 1.0), np.float32)
    for blur in BLURS:
        strength = _strength(picture, blur)
        start = camera
        step = blur / start.focal * np.array([1.0, 0.5, 0.5, 0.5, 1.0, 1.0, 1.0])

        def moved(values: Pixels, start: Camera = start, step: Pixels = step) -> Camera:
            parameters = start._parameters.copy()
            parameters[:7] += values * step
            return replace(start, _parameters=parameters)

        def badness(values: Pixels, strength: Array = strength) -> float:
            tried = moved(values)
            inside, beyond = (_along(covered, tried, table, [line]) for line in (MIDDLE, WOOD))
            return trust * float(values @ values) - _on_edges(strength, tried, table) - CLOTH * (inside - beyond)

        fit = minimize(badness, np.zeros(7), method="Powell", options={"maxfev": 1500, "xtol": 0.02, "ftol": 1e-4})
        camera = moved(fit.x)
    return camera


def fit_of_marks(picture: Image, table: Table, camera: Camera) -> float:
    """How well the table's outlines lie on edges of a picture, 0 to 1: to tell a view of it from others."""
    small, scale = _smaller(picture)
    return _on_edges(_strength(small, BLURS[0]), camera.scaled(scale), table) / MOST_STRENGTH


def _strength(picture: Image, blur: float) -> Array:
    """How much colours change at each pixel, seen through a blur of so many pixels."""
    soft = cv2.GaussianBlur(cv2.cvtColor(picture, cv2.COLOR_BGR2LAB).astype(np.float32), (0, 0), blur)
    across, down = cv2.Sobel(soft, cv2.CV_32F, 1, 0), cv2.Sobel(soft, cv2.CV_32F, 0, 1)
    return np.asarray(np.minimum(np.sqrt((across**2 + down**2).sum(axis=2)) * blur, MOST_STRENGTH), np.float32)


def _on_edges(strength: Array, camera: Camera, table: Table) -> float:
    """Mean strength of edges along the noses and along the wood."""
    return _along(strength, camera, table, [(0.0, table.nose_height), (CUSHION, SIGHT_HEIGHT)])


def _along(values: Array, camera: Camera, table: Table, lines: Sequence[tuple[float, float]]) -> float:
    """The mean along lines round the table so far outside of the noses, at that height; pockets left out."""
    L, W = table.length, table.width
    shares = np.concatenate([np.linspace(0.08, 0.42, 14), np.linspace(0.58, 0.92, 14)])
    sides = []
    for out, z in lines:
        for y in (-out, W + out):
            sides.append(np.column_stack([shares * L, np.full(28, y), np.full(28, z)]))
        for x in (-out, L + out):
            sides.append(np.column_stack([np.full(28, x), shares * W, np.full(28, z)]))
    pixels = np.nan_to_num(project(camera, np.concatenate(sides)) - HALF, nan=-1.0).astype(np.float32)
    seen = cv2.remap(values, pixels[:, :1], pixels[:, 1:], cv2.INTER_LINEAR, borderMode=cv2.BORDER_CONSTANT)
    return float(seen.mean())
