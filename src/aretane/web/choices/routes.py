"""What should have been played, a player's hand, and what was felt."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint

from aretane.desk import choices, hands
from aretane.desk.choices import AtShot, Question
from aretane.desk.work.choices import Drawn
from aretane.formats.stroke import stroke_from
from aretane.web.choices.schemas import (
    Asking,
    ChoicesAnswer,
    ChoicesRequest,
    HandAnswer,
    HandQuery,
    ShotChoicesAnswer,
    ShotChoicesRequest,
)
from aretane.web.context import asking, house

blueprint = APIBlueprint("choices", __name__, url_prefix="/api", tag="choices")


@blueprint.post("/choices")
@blueprint.input(ChoicesRequest)
@blueprint.output(ChoicesAnswer)
def ask(json_data: ChoicesRequest) -> dict[str, Any]:
    """What is known now; asking again tells how far it has come. Work stops when nobody asks any more."""
    drawn = [
        Drawn(one.source, stroke_from(one.stroke.model_dump(exclude_none=True)), one.ball, one.pocket)
        for one in json_data.drawn
    ]
    asked, page, again = _asked(json_data)
    return choices.choices(house(), asking(), Question(**{**asked, "drawn": drawn}), page, again=again)


@blueprint.post("/games/<game_id>/choices")
@blueprint.input(ShotChoicesRequest)
@blueprint.output(ShotChoicesAnswer)
def ask_at_shot(game_id: str, json_data: ShotChoicesRequest) -> dict[str, Any]:
    """The same at an entry of a match, with which of the choices was played."""
    added = json_data.added and stroke_from(json_data.added.model_dump(exclude_none=True))
    asked, page, again = _asked(json_data)
    return choices.at_shot(house(), asking(), game_id, AtShot(**{**asked, "added": added}), page, again=again)


def _asked(told: Asking) -> tuple[dict[str, Any], str, bool]:
    """The question itself, which page asks it, and whether what failed is tried again."""
    fields = dict(told)
    return fields, str(fields.pop("page") or ""), bool(fields.pop("again"))


@blueprint.delete("/choices/<hash>")
@blueprint.output({}, status_code=204)
def stop_choices(hash: str) -> tuple[str, int]:
    choices.stop(house(), asking(), hash)
    return "", 204


@blueprint.get("/hand")
@blueprint.input(HandQuery, location="query")
@blueprint.output(HandAnswer)
def hand(query_data: HandQuery) -> dict[str, Any]:
    return hands.hand_on_record(house(), asking(), **query_data.model_dump())
