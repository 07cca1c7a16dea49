"""The page of percentages."""

from __future__ import annotations

from typing import Any

from apiflask import APIBlueprint
from flask import Response, request

from aretane.core.statistics.question import Asked
from aretane.desk import figures, questions
from aretane.desk.alike import alike_to
from aretane.store.shot_figures import Filter
from aretane.web.context import asking, house
from aretane.web.figures.schemas import (
    AlikeAnswer,
    BehindQuery,
    DisagreementList,
    DropQuestion,
    FiguresAnswer,
    FiguresQuery,
    JoinRequest,
    KeepQuestion,
    KeptQuestions,
    MatchSheet,
    PageQuery,
    PaperAnswer,
    PlayerList,
    QuestionAnswer,
    QuestionQuery,
    QuestionShotsQuery,
    QuestionTableQuery,
    ShotList,
)
from aretane.web.files import taken_away

blueprint = APIBlueprint("figures", __name__, url_prefix="/api", tag="figures")


@blueprint.get("/players")
@blueprint.output(PlayerList)
def list_players() -> dict[str, Any]:
    return {"players": figures.players(house(), asking())}


@blueprint.put("/players/<int:player>")
@blueprint.input(JoinRequest)
@blueprint.output(PlayerList)
def join_player(player: int, json_data: JoinRequest) -> dict[str, Any]:
    """Let a name stand for another player, or for itself again."""
    return {"players": questions.join(house(), asking(), player, json_data.joined_to)}


@blueprint.post("/paper")
@blueprint.output(PaperAnswer)
def take_in_paper() -> dict[str, Any]:
    """Counts from a sheet of paper, as CSV."""
    return {"counts": questions.take_in(house(), asking(), request.get_data())}


@blueprint.get("/figures")
@blueprint.input(FiguresQuery, location="query")
@blueprint.output(FiguresAnswer)
def percentages(query_data: FiguresQuery) -> dict[str, Any]:
    return figures.figures(house(), asking(), _filter(query_data))


@blueprint.get("/figures/shots")
@blueprint.input(BehindQuery, location="query")
@blueprint.output(ShotList)
def shots_behind(query_data: BehindQuery) -> dict[str, Any]:
    """The shots behind a figure, newest match first, a page of them from `begin` on."""
    asked = query_data
    return figures.behind(house(), asking(), _filter(asked), asked.by, asked.name, asked.begin)


@blueprint.get("/question")
@blueprint.input(QuestionQuery, location="query")
@blueprint.output(QuestionAnswer)
def ask(query_data: QuestionQuery) -> dict[str, Any]:
    """The answer by fields and altogether, with a sentence to say aloud."""
    return questions.answer(house(), asking(), _asked(query_data))


@blueprint.get("/question/table")
@blueprint.input(QuestionTableQuery, location="query")
def table_of_answer(query_data: QuestionTableQuery) -> Response:
    """The numbers of an answer as a file."""
    form = query_data.form
    return taken_away(questions.table(house(), asking(), _asked(query_data), form), form, "answer")


@blueprint.get("/question/shots")
@blueprint.input(QuestionShotsQuery, location="query")
@blueprint.output(ShotList)
def shots_of_answer(query_data: QuestionShotsQuery) -> dict[str, Any]:
    """The shots behind a field of an answer, newest match first."""
    return questions.strokes(house(), asking(), _asked(query_data), query_data.key, query_data.begin)


@blueprint.get("/questions")
@blueprint.output(KeptQuestions)
def kept_questions() -> dict[str, Any]:
    return {"questions": questions.kept(house(), asking())}


@blueprint.put("/questions")
@blueprint.input(KeepQuestion)
@blueprint.output(KeptQuestions)
def keep_question(json_data: KeepQuestion) -> dict[str, Any]:
    return {"questions": questions.keep(house(), asking(), json_data.name, json_data.asked)}


@blueprint.delete("/questions")
@blueprint.input(DropQuestion, location="query")
@blueprint.output(KeptQuestions)
def drop_question(query_data: DropQuestion) -> dict[str, Any]:
    return {"questions": questions.drop(house(), asking(), query_data.name)}


@blueprint.get("/games/<game_id>/sheet")
@blueprint.output(MatchSheet)
def sheet(game_id: str) -> dict[str, Any]:
    """What a match adds up to for each player."""
    return figures.sheet(house(), asking(), game_id)


@blueprint.get("/games/<game_id>/shots/<shot_id>/alike")
@blueprint.output(AlikeAnswer)
def alike(game_id: str, shot_id: str) -> dict[str, Any]:
    """Where this shot was before, the likest first."""
    return alike_to(house(), asking(), game_id, shot_id)


@blueprint.get("/felt")
@blueprint.input(PageQuery, location="query")
@blueprint.output(DisagreementList)
def felt(query_data: PageQuery) -> dict[str, Any]:
    """Where felt and computed are furthest apart first."""
    return figures.felt(house(), asking(), query_data.begin)


def _filter(asked: FiguresQuery) -> Filter:
    return Filter(asked.session, asked.discipline, asked.player, asked.game, asked.target_source)


def _asked(query: QuestionQuery) -> Asked:
    own = {"measure", "by", "player", "versus", "parted", "since", "until", "key", "begin", "form"}
    columns = {"opponent": "opponent_id", "game": "game_id", "table": "played_at"}
    told = query.model_dump(exclude_none=True)
    where = {columns.get(name, name): value for name, value in told.items() if name not in own}
    parted, since, until = (day.isoformat() if day else None for day in (query.parted, query.since, query.until))
    return Asked(query.measure, query.by, query.player, query.versus, parted, since, until, where)
