"""The stroke of the `simulate` command and of the shot lab."""

from __future__ import annotations

from typing import Any

from aretane.core.physics.stroke import Stroke
from aretane.formats.schema import parse, validate


def read_stroke(raw: bytes) -> Stroke:
    """A stroke from a file's bytes; `InputError` names the field that is wrong. Its values are not checked yet."""
    return stroke_from(parse(raw))


def stroke_from(data: Any) -> Stroke:
    validate("stroke", data)
    known = {key: data[key] for key in Stroke.__dataclass_fields__ if data.get(key) is not None}
    if "place" in known:
        known["place"] = (float(known["place"][0]), float(known["place"][1]))
    return Stroke(**known)


def stroke_as_data(stroke: Stroke) -> dict[str, Any]:
    """The inverse of `stroke_from`, without what is not set."""
    given = {key: getattr(stroke, key) for key in Stroke.__dataclass_fields__}
    given["place"] = list(stroke.place) if stroke.place else None
    if stroke.at is None:
        del given["part"]
    return {key: value for key, value in given.items() if value is not None}
