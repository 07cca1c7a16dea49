"""Hand-outs: the report of a match for one player, the set-up card of a shot; as a page or for print."""

from __future__ import annotations

from apiflask import APIBlueprint
from flask import Response

from aretane.desk import reports
from aretane.web.context import asking, house
from aretane.web.files import printed
from aretane.web.handouts.schemas import ReportQuery

blueprint = APIBlueprint("handouts", __name__, url_prefix="/api", tag="handouts")


@blueprint.get("/games/<game_id>/report/<any(pdf, html):kind>")
@blueprint.input(ReportQuery, location="query")
def report(game_id: str, kind: str, query_data: ReportQuery) -> Response:
    """The report of a judged match for one player."""
    return printed(reports.report_of(house(), asking(), game_id, query_data.player), kind, "report")


@blueprint.get("/games/<game_id>/shots/<shot_id>/card/<any(pdf, html):kind>")
def card(game_id: str, shot_id: str, kind: str) -> Response:
    """The layout before a shot as a card by which it is set up on a real table."""
    return printed(reports.card_of(house(), asking(), game_id, shot_id), kind, "card")
