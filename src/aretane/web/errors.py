"""Every failure is one clear message: JSON for the application, a page for a person."""

from __future__ import annotations

import logging
from typing import Any

from apiflask import APIFlask, HTTPError
from flask import Response, jsonify, request
from flask.typing import ResponseReturnValue
from flask_wtf.csrf import CSRFError
from werkzeug.exceptions import HTTPException

from aretane.core.errors import (
    Conflict,
    Crowded,
    ImpossibleMatch,
    InputError,
    Known,
    NotFound,
    Refused,
    Unavailable,
)

log = logging.getLogger("aretane.web")

RETRY_AFTER = 2  # seconds

_PAGE = """<!doctype html><html lang="en"><meta charset="utf-8"><title>Aretane</title>
<style>body{{font:16px/1.6 system-ui;max-width:34rem;margin:20vh auto;padding:0 1rem}}</style>
<h1>{title}</h1><p>{message}</p><p><a href="/">Back to the matches</a></p></html>"""


def _answer(status: int, message: str, field: str | None = None, **more: Any) -> tuple[Response | str, int]:
    if request.path.startswith("/api/"):
        return jsonify({"message": message, "field": field, **more}), status
    return _PAGE.format(title="This did not work", message=message), status


def register(app: APIFlask) -> None:
    @app.errorhandler(ImpossibleMatch)
    def impossible(problem: ImpossibleMatch) -> ResponseReturnValue:
        places = [{"rack": p.rack, "shot": p.shot, "message": p.message} for p in problem.places]
        return _answer(422, problem.message, problem.field, places=places)

    @app.errorhandler(Known)
    def known(problem: Known) -> ResponseReturnValue:
        return _answer(409, problem.message, problem.field, games=problem.games)

    @app.errorhandler(InputError)
    def bad_input(problem: InputError) -> ResponseReturnValue:
        return _answer(422, problem.message, problem.field)

    @app.errorhandler(Refused)
    def refused(problem: Refused) -> ResponseReturnValue:
        return _answer(422, str(problem))

    @app.errorhandler(NotFound)
    def not_found(problem: NotFound) -> ResponseReturnValue:
        return _answer(404, str(problem))

    @app.errorhandler(Conflict)
    def conflict(problem: Conflict) -> ResponseReturnValue:
        return _answer(409, str(problem), theirs=problem.theirs)

    @app.errorhandler(Unavailable)
    def unavailable(problem: Unavailable) -> ResponseReturnValue:
        answer, status = _answer(503, str(problem))
        seconds = problem.seconds if isinstance(problem, Crowded) else RETRY_AFTER
        return answer, status, {"Retry-After": str(max(1, round(seconds)))}

    @app.errorhandler(CSRFError)
    def stale_page(_: CSRFError) -> ResponseReturnValue:
        return _answer(400, "this page is out of date; load it again")

    @app.error_processor
    def validation(problem: HTTPError) -> Any:
        field, words = _first_detail(problem.detail)
        return _answer(problem.status_code, words or problem.message or "this did not work", field)

    @app.errorhandler(HTTPException)  # after the above, which would put "Not Found" in the place of our words
    def http(problem: HTTPException) -> ResponseReturnValue:
        words = {405: "this cannot be done at this address", 413: "this is too large"}.get(problem.code or 0)
        return _answer(problem.code or 500, words or problem.description or problem.name)

    @app.errorhandler(Exception)
    def unexpected(problem: Exception) -> ResponseReturnValue:
        log.exception("%s %s failed", request.method, request.path, exc_info=problem)
        return _answer(500, "this went wrong inside Aretane; nothing was written, the log has the details")


def _first_detail(detail: Any, path: str = "") -> tuple[str | None, str | None]:
    """The first field and message of APIFlask's nested validation detail."""
    if isinstance(detail, dict):
        for key, value in detail.items():
            return _first_detail(value, f"{path}.{key}".strip("."))
    if isinstance(detail, list) and detail:
        return _first_detail(detail[0], path)
    return (path or None, str(detail)) if isinstance(detail, str) else (None, None)
