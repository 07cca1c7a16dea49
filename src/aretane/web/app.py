"""The application: blueprints, the built front end, and what surrounds them."""

from __future__ import annotations

import logging
from collections.abc import Callable
from logging.handlers import RotatingFileHandler
from pathlib import Path
from typing import Any

import orjson
from apiflask import APIBlueprint, APIFlask
from flask import Response, abort, request, send_from_directory
from flask.json.provider import JSONProvider
from flask_wtf.csrf import generate_csrf

from aretane import __version__
from aretane.desk.house import House
from aretane.settings import Settings
from aretane.store.club import coach
from aretane.store.database import Database, Db
from aretane.store.scope import Scope
from aretane.web import errors, security
from aretane.web.choices.routes import blueprint as choices
from aretane.web.clips.routes import blueprint as clips
from aretane.web.context import Context, asking, context, house
from aretane.web.figures.routes import blueprint as figures
from aretane.web.games.routes import blueprint as games
from aretane.web.handouts.routes import blueprint as handouts
from aretane.web.kept_tables.routes import blueprint as kept_tables
from aretane.web.lab.routes import blueprint as lab
from aretane.web.ledger.routes import blueprint as ledger
from aretane.web.practice.routes import blueprint as practice
from aretane.web.readings.routes import blueprint as readings
from aretane.web.recordings.routes import blueprint as recordings
from aretane.web.riddles.routes import blueprint as riddles
from aretane.web.schemas import Health, SessionAnswer
from aretane.web.table.routes import blueprint as table

LARGEST_BODY = 32 * 1024 * 1024  # bytes; more is refused before it is read

front = APIBlueprint("front", __name__, tag="around")


class _Json(JSONProvider):
    """orjson: floats come back as they went in, and numbers that JSON cannot hold are refused."""

    def dumps(self, obj: Any, **_: Any) -> str:
        return orjson.dumps(obj, option=orjson.OPT_NON_STR_KEYS).decode()

    def loads(self, s: str | bytes, **_: Any) -> Any:
        return orjson.loads(s)


def create_app(settings: Settings, database: Database, who: Callable[[Db], Scope] = coach) -> APIFlask:
    """The application on a store; `who` tells for whom a request asks."""
    no_folder: Any = None  # of static files: the front end is served by `page`
    app = APIFlask("aretane", title="Aretane", version=__version__, static_folder=no_folder, docs_path=None)
    app.json = _Json(app)
    app.config.update(
        OPENAPI_VERSION="3.1.0",
        MAX_CONTENT_LENGTH=LARGEST_BODY,
        VALIDATION_ERROR_DESCRIPTION="the request is not well formed",
    )
    app.extensions["aretane"] = Context(settings, House.opened(settings, database), who)
    security.protect(app, settings.var / "secret")
    errors.register(app)
    for noun in (
        games,
        table,
        recordings,
        readings,
        figures,
        lab,
        choices,
        ledger,
        handouts,
        clips,
        riddles,
        practice,
        kept_tables,
    ):
        app.register_blueprint(noun)
    app.register_blueprint(front)
    app.after_request(_log)
    return app


class _JsonLines(logging.Formatter):
    def format(self, record: logging.LogRecord) -> str:
        line = {"at": self.formatTime(record), "level": record.levelname, "said": record.getMessage()}
        if record.exc_info:
            line["trace"] = self.formatException(record.exc_info)
        return orjson.dumps(line).decode()


def open_log(folder: Path) -> None:
    """One structured line a request, and the traces of what went wrong, under var/log."""
    folder.mkdir(parents=True, exist_ok=True)
    folder.chmod(0o700)
    handler = RotatingFileHandler(folder / "aretane.log", maxBytes=5_000_000, backupCount=3)
    handler.setFormatter(_JsonLines())
    logging.getLogger("aretane").setLevel(logging.INFO)
    logging.getLogger("aretane").addHandler(handler)


def _log(response: Response) -> Response:
    logging.getLogger("aretane.web").info("%s %s %s", request.method, request.path, response.status_code)
    return response


@front.get("/api/session")
@front.output(SessionAnswer)
def session() -> dict[str, Any]:
    scope = asking()
    return {"csrf": generate_csrf(), "club": scope.club, "author": scope.author, "version": __version__}


@front.get("/api/health")
@front.output(Health)
def health() -> dict[str, Any]:
    trouble = house().database.trouble()
    return {"ok": trouble is None, "database": trouble is None, "trouble": trouble, "version": __version__}


@front.get("/")
@front.get("/<path:path>")
@front.doc(hide=True)
def page(path: str = "") -> Response:
    """The built front end; every path that is no file is one of its pages."""
    if path.startswith("api/"):
        abort(404, "there is nothing at this address")
    folder = context().settings.front_end
    if path and (folder / path).is_file():
        return send_from_directory(folder, path, max_age=31536000 if path.startswith("assets/") else 0)
    if path.startswith("assets/"):
        abort(404, "there is nothing at this address")
    if not (folder / "index.html").is_file():
        abort(503, "the front end is not built; run ./aretane setup")
    return send_from_directory(folder, "index.html", max_age=0)
