"""Connections that are silent, slow, broken or greedy shut nobody out."""

from __future__ import annotations

import socket
import time
from contextlib import ExitStack
from urllib.parse import urlsplit

import pytest
import requests


@pytest.fixture
def connect(site):
    """Makes raw connections to the application; all end with the test."""
    where = urlsplit(site)
    with ExitStack() as every:

        def make(said: bytes = b"") -> socket.socket:
            connection = every.enter_context(socket.create_connection((where.hostname, where.port), timeout=10))
            connection.sendall(said)
            return connection

        yield make


def answers(site, within=2.0):
    begun = time.monotonic()
    assert requests.get(f"{site}/api/session", timeout=10).status_code == 200
    assert time.monotonic() - begun < within


def test_many_idle_and_half_sent_ones_hold_nobody_up(site, connect):
    for _ in range(200):
        connect()
        connect(b"GET / HTTP/1.1\r\nHost: localhost\r\nX-Slow: ")
    answers(site)
    for _ in range(50):
        connect(b"POST /api/games HTTP/1.1\r\nHost: localhost\r\nContent-Length: 1000\r\n\r\n{")
    answers(site)


def test_paused_films_hold_no_thread(site, connect, client):
    """Players ask for all of a film, read a little and stop."""
    sha = client.get("/recordings").json["recordings"][0]["sha256"]
    for _ in range(16):
        line = f"GET /api/recordings/{sha}/file HTTP/1.1\r\nHost: localhost\r\nRange: bytes=0-\r\n\r\n"
        assert connect(line.encode()).recv(20).startswith(b"HTTP/1.1 206")
    answers(site)


def test_a_body_that_is_too_large_is_refused_before_it_is_read(connect):
    head = b"POST /api/games HTTP/1.1\r\nHost: localhost\r\nContent-Length: 9000000000\r\n\r\n"
    connection = connect(head)
    assert b" 413 " in connection.recv(200)


@pytest.mark.parametrize(
    "said",
    [
        b"\x16\x03\x01\x02\x00\x01\x00\x01\xfc\x03\x03",  # TLS where there is none
        b"GET / HTTP/9.9\r\n\r\n",
        b"GET " + b"x" * 300_000 + b" HTTP/1.1\r\n\r\n",
        b"POST /api/games HTTP/1.1\r\nHost: localhost\r\nContent-Length: -5\r\n\r\n",
        b"POST /api/games HTTP/1.1\r\nHost: localhost\r\nTransfer-Encoding: chunked\r\n\r\nZZ\r\n",
        b"\r\n\r\n\r\n",
    ],
)
def test_what_is_no_request_is_no_accident(site, connect, said):
    connection = connect(said)
    connection.settimeout(1)
    try:
        answer = connection.recv(200)
    except TimeoutError:
        answer = b""
    assert b" 5" not in answer.split(b"\r\n")[0] or b" 501 " in answer or b" 505 " in answer
    answers(site)


def test_behind_tls_the_session_is_for_tls_alone(site):
    """A proxy on this machine says so."""
    plain = requests.get(f"{site}/api/session", timeout=10).headers["Set-Cookie"]
    secure = requests.get(f"{site}/api/session", headers={"X-Forwarded-Proto": "https"}, timeout=10)
    assert "Secure" not in plain
    assert "Secure" in secure.headers["Set-Cookie"]
    assert "HttpOnly" in plain
