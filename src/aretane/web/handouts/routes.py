"""Hand-outs: the report of a match for one player, the set-up card of a shot; as a page or for print."""

from __future__ import annotations

from apiflask import APIBlueprint
from flask import Response

from aretane.desk import reports
from aretane.desk.period import period_report
from aretane.web.context import asking, house
from aretane.web.files import printed
from aretane.web.handouts.schemas import CardQuery, PeriodQuery, ReportQuery

blueprint = APIBlueprint("handouts", __name__, url_prefix="/api", tag="handouts")


@blueprint.get("/games/<game_id>/report/<any(pdf, html):kind>")
@blueprint.input(ReportQuery, location="query")
def report(game_id: str, kind: str, query_data: ReportQuery) -> Response:
    """The report of a judged match for one player."""
    asked = query_data
    shots = asked.shots.split(",") if asked.shots else []
    page = reports.report_of(house(), asking(), game_id, asked.player, shots, asked.words)
    return printed(page, kind, "report")


@blueprint.get("/report/<any(pdf, html):kind>")
@blueprint.input(PeriodQuery, location="query")
def period(kind: str, query_data: PeriodQuery) -> Response:
    """The report of a time for one player, over all judged matches in it, or over its lessons or solo runs."""
    asked = query_data
    since, until = (day.isoformat() if day else None for day in (asked.since, asked.until))
    page = period_report(house(), asking(), asked.player, since, until, asked.words, asked.session)
    return printed(page, kind, "report")


@blueprint.get("/games/<game_id>/shots/<shot_id>/card/<any(pdf, html):kind>")
@blueprint.input(CardQuery, location="query")
def card(game_id: str, shot_id: str, kind: str, query_data: CardQuery) -> Response:
    """The layout before a shot as a card by which it is set up on a real table."""
    return printed(reports.card_of(house(), asking(), game_id, shot_id, query_data.table), kind, "card")
