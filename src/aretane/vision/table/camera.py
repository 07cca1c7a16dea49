"""A full camera from marked points: pixels to places on the table and back.

Square pixels; the principal point lies at half the height of the picture and near the middle of its width, because
pictures are cut at the sides (a prior says how near); one radial term when there are many marks.
The start is the closed-form focal length from a plane homography with both constraints (orthogonal
axes, equal scale) in the least-squares sense (Zhang 2000, IEEE PAMI 22, 1330); Levenberg-Marquardt
refines it. A soft prior keeps the focal length in the range of real cameras. Pixels have their origin
at the top left corner of the upright frame, u to the right and v down: the middle of the first pixel lies at
(`HALF`, `HALF`), while arrays are read at whole numbers there.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import least_squares

from aretane.core.errors import InputError
from aretane.core.table import Point, Table
from aretane.vision.table.marks import mark_places

Array = NDArray[np.float64]

HALF = 0.5  # pixels from a pixel's corner to its middle
MARK_SIGMA = 2.0  # pixels, one standard deviation of a mark set by hand (brief measurements: about 2)
FOCAL_PRIOR = 1.1  # of the picture's longer side: a phone's main camera
FOCAL_SPREAD = 0.6  # of the logarithm
MARKS_FOR_RADIAL = 12
ASIDE_SPREAD = 0.03  # of the longer side: how far aside of the middle the principal point is
RADIAL, ASIDE, COUNT = 7, 8, 9  # places of these in the parameters: log focal, rotation, translation before them
WORST_MARK = 0.05  # of the picture's longer side: beyond this the marks are not those of a table


@dataclass(frozen=True)
class Camera:
    """`rotation` and `translation` take table coordinates to the camera's (x right, y down, z ahead)."""

    focal: float
    centre: Point
    rotation: Array
    translation: Array
    radial: float
    pixel_aspect: float
    covariance: Array
    error_px: float
    _parameters: Array

    @property
    def middle(self) -> Point:
        """The middle of the picture, beside which the principal point lies."""
        return self.centre[0] - float(self._parameters[ASIDE]), self.centre[1]

    @property
    def position(self) -> Array:
        """Where the camera is, in table coordinates (metres)."""
        return np.asarray(-self.rotation.T @ self.translation)

    def scaled(self, by: float) -> Camera:
        """The same camera for a picture that was made smaller or larger."""
        parameters = self._parameters.copy()
        parameters[0] += np.log(by)
        parameters[ASIDE] *= by
        centre = (self.centre[0] * by, self.centre[1] * by)
        return replace(
            self, focal=self.focal * by, centre=centre, error_px=self.error_px * by, _parameters=parameters
        )


def indexed(camera: Camera) -> Camera:
    """The same camera for arrays, in which a pixel's middle is a whole number."""
    return replace(camera, centre=(camera.centre[0] - HALF * camera.pixel_aspect, camera.centre[1] - HALF))


def camera_from(focal: float, centre: Point, rotation: Array, translation: Array, radial: float = 0.0) -> Camera:
    """A camera that is known exactly; `rotation` (3 x 3) and `translation` take the table's frame to its own."""
    parameters = np.array([np.log(focal), *_rotation_vector(rotation), *translation, radial, 0.0])
    return Camera(focal, centre, rotation, translation, radial, 1.0, np.zeros((COUNT, COUNT)), 0.0, parameters)


def project(camera: Camera, places: Array) -> Array:
    """Pixels (n, 2) of places (n, 3) in metres. Places behind the camera give NaN."""
    return _project(camera._parameters, np.atleast_2d(places), camera.middle, camera.pixel_aspect)


def place_at(camera: Camera, pixel: Point, height: float) -> Point | None:
    """The place of a point at `height` above the cloth that is seen at `pixel`; None above the horizon."""
    x, y = places_at(camera, np.array([pixel]), height)[0]
    return (float(x), float(y)) if np.isfinite(x) else None


def places_at(camera: Camera, pixels: Array, height: float) -> Array:
    """Places (n x 2) of points at `height` that are seen at these pixels (n x 2); NaN above the horizon."""
    return _places(camera._parameters, camera.middle, camera.pixel_aspect, np.atleast_2d(pixels), height)


def place_sigma(camera: Camera, pixel: Point, height: float, pixel_sigma: float = MARK_SIGMA) -> float:
    """Standard deviation (metres, worst direction) of that place: of the click and of the camera itself."""
    return float(places_sigma(camera, np.array([pixel]), height, pixel_sigma)[0])


def places_sigma(camera: Camera, pixels: Array, height: float, pixel_sigma: float) -> Array:
    """Standard deviations (n, metres, worst direction) of the places seen at pixels (n x 2)."""

    def places(change: Array, beside: Array) -> Array:
        return _places(camera._parameters + change, camera.middle, camera.pixel_aspect, pixels + beside, height)

    here, none = np.zeros(2), np.zeros_like(camera._parameters)
    seen = places(none, here)
    of_click = np.stack([(places(none, 0.1 * side) - seen) / 0.1 for side in np.eye(2)], axis=2)
    of_camera = np.stack([(places(1e-5 * one, here) - seen) / 1e-5 for one in np.eye(len(none))], axis=2)
    spread = pixel_sigma**2 * of_click @ of_click.transpose(0, 2, 1)
    spread += of_camera @ camera.covariance @ of_camera.transpose(0, 2, 1)
    told = np.all(np.isfinite(spread), axis=(1, 2))
    found = np.full(len(pixels), np.inf)
    found[told] = np.sqrt(np.linalg.eigvalsh(spread[told])[:, -1])
    return found


def solve_camera(
    table: Table,
    marks: Mapping[str, Point],
    size: tuple[float, float],
    *,
    picture: tuple[float, float, float, float] | None = None,
    pixel_aspect: float = 1.0,
) -> Camera:
    """The camera that sees the marks where they were set.

    `size` is the frame's width and height in pixels, `picture` (x, y, w, h) the real picture inside a
    screen recording, `pixel_aspect` the width of a pixel over its height. Raises `InputError` for
    unknown marks, fewer than four, or marks that no picture of a table shows.
    """
    known = mark_places(table)
    for name in marks:
        if name not in known:
            raise InputError(f"marks.{name}", "the table has no such point")
    if len(marks) < 4:
        raise InputError("marks", f"four marks are needed, {len(marks)} set")
    places = np.array([known[name] for name in marks])
    pixels = np.array([marks[name] for name in marks], dtype=float)
    return camera_through(places, pixels, size, picture=picture, pixel_aspect=pixel_aspect)


def camera_through(
    places: Array,
    pixels: Array,
    size: tuple[float, float],
    *,
    picture: tuple[float, float, float, float] | None = None,
    pixel_aspect: float = 1.0,
) -> Camera:
    """The camera that sees these places (n x 3, metres, at least four) at these pixels (n x 2)."""
    x, y, w, h = picture or (0.0, 0.0, *size)
    centre = ((x + w / 2) * pixel_aspect, y + h / 2)
    longer = max(w * pixel_aspect, h)
    square = pixels * [pixel_aspect, 1.0]
    starts = _starts(places, square - centre, longer)
    if not starts:
        raise InputError("marks", "these points lie on one line; mark points all round the table")
    fits = [_refine(start, places, pixels, centre, pixel_aspect, longer) for start in starts]
    best = min(fits, key=lambda fit: fit.cost)
    camera = _camera(best, places, pixels, centre, pixel_aspect)
    if camera.error_px > WORST_MARK * longer or camera.position[2] <= 0:
        raise InputError("marks", "no camera sees a table like this; is a corner at the wrong end?")
    return camera


def _starts(places: Array, square: Array, longer: float) -> list[Array]:
    homography = _homography(places[:, :2], square)
    if homography is None:
        return []
    focals = [0.8 * longer, 1.3 * longer, 2.2 * longer]
    closed = _closed_form_focal(homography)
    if closed is not None and 0.2 * longer < closed < 20 * longer:
        focals.insert(0, closed)
    return [_pose(homography, focal) for focal in focals]


def _homography(places: Array, pixels: Array) -> Array | None:
    """Direct linear transform with Hartley's normalisation; None for degenerate points."""
    t1, a = _normalised(places)
    t2, b = _normalised(pixels)
    rows = []
    for (x, y), (u, v) in zip(a, b, strict=True):
        rows.append([x, y, 1, 0, 0, 0, -u * x, -u * y, -u])
        rows.append([0, 0, 0, x, y, 1, -v * x, -v * y, -v])
    _, singular, vt = np.linalg.svd(np.array(rows))
    if singular[7] < 1e-6 * singular[0]:
        return None
    return np.asarray(np.linalg.inv(t2) @ vt[-1].reshape(3, 3) @ t1)


def _normalised(points: Array) -> tuple[Array, Array]:
    middle = points.mean(axis=0)
    scale = np.sqrt(2) / max(1e-12, float(np.mean(np.linalg.norm(points - middle, axis=1))))
    transform = np.array([[scale, 0, -scale * middle[0]], [0, scale, -scale * middle[1]], [0, 0, 1]])
    return transform, (points - middle) * scale


def _closed_form_focal(h: Array) -> float | None:
    orthogonal = h[0, 0] * h[0, 1] + h[1, 0] * h[1, 1], h[2, 0] * h[2, 1]
    equal = h[0, 0] ** 2 + h[1, 0] ** 2 - h[0, 1] ** 2 - h[1, 1] ** 2, h[2, 0] ** 2 - h[2, 1] ** 2
    weight = orthogonal[0] ** 2 + equal[0] ** 2
    inverse = -(orthogonal[0] * orthogonal[1] + equal[0] * equal[1]) / weight if weight > 0 else 0.0
    return float(1 / np.sqrt(inverse)) if inverse > 0 else None


def _pose(homography: Array, focal: float) -> Array:
    columns = np.diag([1 / focal, 1 / focal, 1.0]) @ homography
    scale = 2 / (np.linalg.norm(columns[:, 0]) + np.linalg.norm(columns[:, 1]))
    if columns[2, 2] < 0:  # the table lies in front of the camera
        scale = -scale
    r1, r2, t = (columns * scale).T
    u, _, vt = np.linalg.svd(np.column_stack([r1, r2, np.cross(r1, r2)]))
    rotation = u @ np.diag([1, 1, np.linalg.det(u @ vt)]) @ vt
    return np.array([np.log(focal), *_rotation_vector(rotation), *t, 0.0, 0.0])


def _refine(start: Array, places: Array, pixels: Array, centre: Point, aspect: float, longer: float) -> _Fit:
    free = [n for n in range(COUNT) if n != RADIAL or len(places) >= MARKS_FOR_RADIAL]
    aside = np.ones(COUNT)
    aside[ASIDE] = longer  # as a share of the picture, so that all numbers are about one

    def residuals(values: Array) -> Array:
        parameters = _all(values, free) * aside
        misses = (_project(parameters, places, centre, aspect) - pixels) / MARK_SIGMA
        priors = (values[0] - np.log(FOCAL_PRIOR * longer)) / FOCAL_SPREAD, values[-1] / ASIDE_SPREAD
        return np.asarray(np.nan_to_num(np.append(misses.ravel(), priors), nan=1e3))

    fit = least_squares(residuals, start[free], method="lm", x_scale="jac", max_nfev=400)
    scale = aside[free]
    return _Fit(_all(fit.x, free) * aside, fit.cost, _spread(fit.jac / scale, free))


@dataclass(frozen=True)
class _Fit:
    parameters: Array
    cost: float
    covariance: Array


def _all(values: Array, free: list[int]) -> Array:
    parameters = np.zeros(COUNT)
    parameters[free] = values
    return parameters


def _spread(jacobian: Array, free: list[int]) -> Array:
    covariance = np.zeros((COUNT, COUNT))
    covariance[np.ix_(free, free)] = np.linalg.pinv(jacobian.T @ jacobian)
    return covariance


def _camera(fit: _Fit, places: Array, pixels: Array, centre: Point, aspect: float) -> Camera:
    parameters = fit.parameters
    misses = _project(parameters, places, centre, aspect) - pixels
    return Camera(
        focal=float(np.exp(parameters[0])),
        centre=(centre[0] + float(parameters[ASIDE]), centre[1]),
        rotation=_rotation(parameters[1:4]),
        translation=parameters[4:7],
        radial=float(parameters[RADIAL]),
        pixel_aspect=aspect,
        covariance=fit.covariance,
        error_px=float(np.sqrt(np.mean(np.sum(misses**2, axis=1)))),
        _parameters=parameters,
    )


def _project(parameters: Array, places: Array, centre: Point, aspect: float) -> Array:
    focal, radial = np.exp(parameters[0]), parameters[RADIAL]
    seen = places @ _rotation(parameters[1:4]).T + parameters[4:7]
    depth = np.where(seen[:, 2] > 1e-6, seen[:, 2], np.nan)
    flat = seen[:, :2] / depth[:, None]
    bent = flat * (1 + radial * np.sum(flat**2, axis=1))[:, None]
    return np.asarray((focal * bent + centre + [parameters[ASIDE], 0.0]) / [aspect, 1.0])


def _places(parameters: Array, centre: Point, aspect: float, pixels: Array, height: float) -> Array:
    focal, radial = np.exp(parameters[0]), parameters[RADIAL]
    bent = (pixels * [aspect, 1.0] - [parameters[ASIDE], 0.0] - centre) / focal
    flat = bent.copy()
    for _ in range(12 if radial else 0):  # fixed point of flat (1 + k r²) = bent
        flat = bent / (1 + radial * (flat[:, 0] ** 2 + flat[:, 1] ** 2))[:, None]
    rotation = _rotation(parameters[1:4])
    rays = np.column_stack([flat, np.ones(len(flat))]) @ rotation
    origin = -rotation.T @ parameters[4:7]
    down = np.where(rays[:, 2] < -1e-9, rays[:, 2], np.nan)
    return np.asarray(origin[:2] + ((height - origin[2]) / down)[:, None] * rays[:, :2])


def _rotation(vector: Array) -> Array:
    """Rodrigues' formula."""
    angle = float(np.linalg.norm(vector))
    if angle < 1e-12:
        return np.eye(3)
    x, y, z = vector / angle
    cross = np.array([[0, -z, y], [z, 0, -x], [-y, x, 0]])
    return np.asarray(np.eye(3) + np.sin(angle) * cross + (1 - np.cos(angle)) * (cross @ cross))


def _rotation_vector(rotation: Array) -> Array:
    from scipy.spatial.transform import Rotation

    return np.asarray(Rotation.from_matrix(rotation).as_rotvec())
