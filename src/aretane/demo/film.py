"""Films a rack: every shot as moving pictures from a phone on a tripod behind the short rail.

Each logged stroke is simulated once more, so that picture, motion, log and truth agree. The truth (camera, every
ball at every fifth frame, every shot's stroke and times) is written beside the file.
"""

from __future__ import annotations

import hashlib
import json
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np

from aretane.core.ball import CUE
from aretane.core.table import PRESETS, Table
from aretane.vision.render.motion import at_time, course_of, random_turn, roll
from aretane.vision.render.scene import Scene
from aretane.vision.table.camera import Camera, project, solve_camera
from aretane.vision.table.marks import mark_places

TABLE: Table = PRESETS["pool-9ft"]
DISCIPLINE = "nine-ball"
SIZE = (960, 540)
RATE = 25
WAIT, AFTER = 1.4, 0.8  # seconds of stillness before the contact and after the last ball stops


def film_rack(rack: dict[str, Any], folder: Path) -> tuple[dict[str, Any], dict[str, Any]]:
    """Write rack.mp4 and truth.json; return the recording's entry and the rack with its times."""
    camera = phone_camera()
    scene = Scene(TABLE, camera, SIZE)
    dice = np.random.default_rng(5)
    turned = {ball: random_turn(dice) for ball in [CUE, *map(str, range(1, 10))]}
    shots = [dict(shot) for shot in rack["shots"]]
    path = folder / "rack.mp4"
    truth: list[dict[str, Any]] = []
    clock = 0.0
    with av.open(str(path), "w", options={"movflags": "+faststart"}) as file:
        stream = file.add_stream("libx264", rate=RATE, options={"crf": "27", "preset": "slow"})
        stream.width, stream.height = SIZE
        stream.pix_fmt = "yuv420p"
        stream.codec_context.gop_size = RATE
        for shot in shots:
            course = course_of(shot, TABLE, DISCIPLINE)
            tracks, length = course.tracks, course.length
            shot["recording"] = 0
            shot["time"] = {"start": clock, "contact": clock + WAIT, "still": clock + WAIT + length}
            frames = round((WAIT + length + AFTER) * RATE)
            for number in range(frames):
                places = at_time(tracks, number / RATE - WAIT)
                roll(turned, tracks, number / RATE - WAIT, 1 / RATE, TABLE.radius)
                picture = scene.paint(places, turned)
                frame = av.VideoFrame.from_ndarray(picture, format="bgr24")
                frame.pts = round(clock * RATE) + number
                frame.time_base = Fraction(1, RATE)
                file.mux(stream.encode(frame))
                if number % 5 == 0:
                    rounded = {b: [round(x, 4), round(y, 4)] for b, (x, y) in places.items()}
                    truth.append({"t": round(clock + number / RATE, 3), "balls": rounded})
            clock += frames / RATE
        file.mux(stream.encode(None))
    for shot in shots:
        shot["time"] = {key: round(value, 3) for key, value in shot["time"].items()}
    _write_truth(folder / "truth.json", camera, shots, truth)
    entry = {
        "sha256": hashlib.sha256(path.read_bytes()).hexdigest(),
        "name": "Rack five, from behind the head rail",
        "views": [{"from": 0, "to": None, "camera": {"marks": _marks(camera), "picture": None}}],
    }
    return entry, {**rack, "shots": shots}


def phone_camera() -> Camera:
    """A phone on a tall tripod, behind the head rail and a little to the right."""
    eye, aim, focal = np.array([-1.72, 0.34, 1.66]), np.array([0.93, 0.64, 0.0]), 905.0
    ahead = (aim - eye) / np.linalg.norm(aim - eye)
    right = np.cross(ahead, [0, 0, 1])
    right /= np.linalg.norm(right)
    rotation = np.array([right, np.cross(ahead, right), ahead])
    places = mark_places(TABLE)
    seen = (np.array(list(places.values())) - eye) @ rotation.T
    pixels = focal * seen[:, :2] / seen[:, 2:] + np.array(SIZE) / 2
    marks = {name: (float(u), float(v)) for name, (u, v) in zip(places, pixels, strict=True)}
    return solve_camera(TABLE, marks, SIZE)


def _marks(camera: Camera) -> dict[str, list[float]]:
    """The marks as a coach would have set them: corners and pockets, to the pixel."""
    places = {n: p for n, p in mark_places(TABLE).items() if n.startswith(("corner", "pocket"))}
    pixels = project(camera, np.array(list(places.values())))
    return {n: [float(round(u)), float(round(v))] for n, (u, v) in zip(places, pixels, strict=True)}


def _write_truth(path: Path, camera: Camera, shots: list[dict[str, Any]], frames: list[Any]) -> None:
    seen = {
        "size": SIZE,
        "focal": round(camera.focal, 3),
        "rotation": np.round(camera.rotation, 6).tolist(),
        "translation": np.round(camera.translation, 5).tolist(),
    }
    truth = {
        "camera": seen,
        "shots": [{**shot["time"], "stroke": shot["stroke"]} for shot in shots],
        "frames": frames,
    }
    path.write_text(json.dumps(truth, separators=(",", ":")))
