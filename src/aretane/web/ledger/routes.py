"""The verdict on a match: its ledger, as far as it is known."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint

from aretane.desk import ledger
from aretane.web.context import asking, house
from aretane.web.ledger.schemas import LedgerAnswer, LedgerQuery, LedgerRequest

blueprint = APIBlueprint("ledger", __name__, url_prefix="/api", tag="ledger")


@blueprint.get("/games/<game_id>/ledger")
@blueprint.input(LedgerQuery, location="query")
@blueprint.output(LedgerAnswer)
def known_ledger(game_id: str, query_data: LedgerQuery) -> dict[str, Any]:
    """What is known now; nothing is begun."""
    return ledger.known(house(), asking(), game_id, query_data.care)


@blueprint.post("/games/<game_id>/ledger")
@blueprint.input(LedgerRequest)
@blueprint.output(LedgerAnswer)
def ask_ledger(game_id: str, json_data: LedgerRequest) -> dict[str, Any]:
    """What is known now; what is missing or out of date is worked out from now on, whoever looks."""
    return ledger.asked(house(), asking(), game_id, json_data.care, again=json_data.again)
