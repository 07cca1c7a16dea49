"""Recordings and their uploads."""

from __future__ import annotations

from datetime import datetime

from pydantic import Field

from aretane.vision.files.recording import Probe
from aretane.web.schemas import Answer


class UploadRequest(Answer):
    size: int = Field(le=100_000_000_000)
    name: str = Field(max_length=300)


class UploadAnswer(Answer):
    upload: str
    chunk: int


class UploadProgress(Answer):
    arrived: int


class RecordingAnswer(Answer):
    """`converted` is how much of a recording that browsers cannot play is converted, null when there is nothing to
    do; `problem` why it cannot be."""

    sha256: str
    name: str
    bytes: int
    added_at: datetime
    seen_by: str
    probe: Probe
    converted: float | None
    problem: str | None


class RecordingList(Answer):
    recordings: list[RecordingAnswer]


class FinishRequest(Answer):
    name: str = Field(max_length=300)
    seen_by: str = Field(default="", max_length=500)
