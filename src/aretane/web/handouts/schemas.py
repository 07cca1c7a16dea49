"""What hand-outs are asked for with."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from aretane.web.schemas import Answer


class ReportQuery(Answer):
    """`player`: for whom, by name; the first one if nobody is named."""

    player: Annotated[str, Field(max_length=200)] | None = None
