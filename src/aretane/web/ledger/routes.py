"""The verdict on a match: its ledger, as far as it is known."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint

from aretane.desk import ledger
from aretane.web.context import asking, house
from aretane.web.ledger.schemas import LedgerAnswer, LedgerRequest

blueprint = APIBlueprint("ledger", __name__, url_prefix="/api", tag="ledger")


@blueprint.post("/games/<game_id>/ledger")
@blueprint.input(LedgerRequest)
@blueprint.output(LedgerAnswer)
def ask_ledger(game_id: str, json_data: LedgerRequest) -> dict[str, Any]:
    """What is known now; what is missing or out of date is worked out from now on, whoever looks."""
    return ledger.of_match(house(), asking(), game_id, json_data.care, again=json_data.again)
