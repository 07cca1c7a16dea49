"""What is sent and answered about films of moments and voices over them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from aretane.web.schemas import Answer, Id


class ClipRequest(Answer):
    """The shots in the order of the film; `sound`: the room is heard while they run."""

    shots: Annotated[list[Id], Field(max_length=100)]
    sound: bool = True


class ClipAnswer(Answer):
    """`clip`: its name; `said`: why it could not be made."""

    clip: str
    state: Literal["running", "done", "failed"]
    progress: float
    said: str


class VoiceList(Answer):
    """By shot how many seconds somebody speaks over it."""

    voices: dict[str, float]
