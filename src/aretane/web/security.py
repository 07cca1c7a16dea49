"""Loopback only: known hosts, same origin, CSRF token, and headers that let nothing from outside in."""

from __future__ import annotations

import fcntl
import os
import re
import secrets
from pathlib import Path
from urllib.parse import urlsplit

from flask import Flask, Response, abort, request
from flask.sessions import SecureCookieSessionInterface
from flask_wtf.csrf import CSRFProtect

from aretane.core.errors import NotFound
from aretane.web.schemas import ID

ANY, UUID, SHA256 = re.compile(".*", re.DOTALL), re.compile(ID), re.compile("[0-9a-f]{64}")
NAMES = {  # in addresses: what it is of, and how it looks
    "game_id": ("match", UUID), "shot_id": ("shot", UUID), "upload": ("upload", UUID),
    "exercise": ("exercise", UUID), "clip": ("film", SHA256), "attempt": ("attempt", UUID),
    "planned": ("session", UUID), "riddle": ("question", UUID), "kept": ("table", UUID),
    "sha256": ("recording", SHA256), "hash": ("question", SHA256),
}  # fmt: skip
HOSTS = ["127.0.0.1", "localhost", "[::1]"]

_POLICY = (
    "default-src 'self'; img-src 'self' data: blob:; media-src 'self' blob:; font-src 'self' data:;"
    " style-src 'self' 'unsafe-inline'; object-src 'none'; base-uri 'none'; form-action 'self';"
    " frame-ancestors 'none'"
)


def protect(app: Flask, secret_file: Path) -> None:
    app.config.update(
        SECRET_KEY=_secret(secret_file),
        TRUSTED_HOSTS=HOSTS,
        SESSION_COOKIE_SAMESITE="Strict",
        SESSION_COOKIE_HTTPONLY=True,
        WTF_CSRF_TIME_LIMIT=None,
        WTF_CSRF_SSL_STRICT=False,
    )
    app.session_interface = _Session()
    CSRFProtect(app)
    app.before_request(_same_origin)
    app.before_request(_names)
    app.after_request(_headers)


class _Session(SecureCookieSessionInterface):
    """A session that began over TLS never goes without it."""

    def get_cookie_secure(self, app: Flask) -> bool:
        return request.is_secure


def _same_origin() -> None:
    """A page of another site may not make the browser write here, nor read through a rebound name."""
    origin = request.headers.get("Origin")
    if origin and urlsplit(origin).netloc != request.host:
        abort(403, "this request comes from another page")


def _names() -> None:
    """What has no name that we give is not there: no store need be asked."""
    for name, value in (request.view_args or {}).items():
        noun, pattern = NAMES.get(name, ("", ANY))
        if not pattern.fullmatch(str(value)):
            raise NotFound(noun)


def _headers(response: Response) -> Response:
    response.headers["Content-Security-Policy"] = _POLICY
    response.headers["X-Content-Type-Options"] = "nosniff"
    response.headers["Referrer-Policy"] = "no-referrer"
    return response


def _secret(path: Path) -> str:
    """The key that signs the session cookie, made once, also when two servers begin together."""
    path.parent.mkdir(parents=True, exist_ok=True)
    with os.fdopen(os.open(path, os.O_RDWR | os.O_CREAT, 0o600), "r+") as file:
        fcntl.flock(file, fcntl.LOCK_EX)
        os.fchmod(file.fileno(), 0o600)
        key = file.read().strip()
        if not key:
            key = secrets.token_urlsafe(32)
            file.write(key)
    return key
