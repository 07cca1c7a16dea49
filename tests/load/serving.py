"""A real server in a process of its own, on a store of its own, and people who use it."""

from __future__ import annotations

import json
import os
import signal
import socket
import subprocess
import sys
import time
import uuid
from contextlib import suppress
from pathlib import Path
from typing import Any

import requests

from aretane.settings import ROOT

PATIENCE = 60.0  # seconds for a start


class Served:
    """`./aretane serve` on a folder; killed and started again at will."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        self.url = f"http://127.0.0.1:{self.port}"
        self._process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        environment = {**os.environ, "PYTHONPATH": str(ROOT / "src"), "ARETANE_VAR": str(self.folder)}
        environment.pop("ARETANE_DATABASE_URL", None)
        self.folder.mkdir(parents=True, exist_ok=True)
        with (self.folder / "said").open("ab") as said:
            self._process = subprocess.Popen(
                [sys.executable, "-m", "aretane.cli", "serve", "--port", str(self.port)],
                env=environment, stdout=said, stderr=said,
            )  # fmt: skip
        until = time.monotonic() + PATIENCE
        while time.monotonic() < until:
            try:
                if requests.get(f"{self.url}/api/health", timeout=2).json()["ok"]:
                    return
            except (requests.RequestException, ValueError):
                time.sleep(0.05)
        raise RuntimeError((self.folder / "said").read_text())

    @property
    def pid(self) -> int:
        assert self._process is not None
        return self._process.pid

    def kill(self) -> None:
        assert self._process is not None
        self._process.kill()
        self._process.wait()

    def kill_database(self) -> None:
        with suppress(OSError, ValueError):  # it is being started again
            os.kill(int((self.folder / "database" / "pid").read_text()), signal.SIGKILL)

    def stop(self) -> float:
        """Seconds that it took to end in order."""
        assert self._process is not None
        begun = time.monotonic()
        self._process.terminate()
        self._process.wait(30)
        return time.monotonic() - begun

    def memory(self) -> dict[str, float]:
        """Megabytes of the server itself, and of the largest of its workers since it was made."""
        workers = [int(child) for child in Path(f"/proc/{self.pid}/task/{self.pid}/children").read_text().split()]
        return {
            "server": _megabytes(self.pid, "VmRSS"),
            "worker": max((_megabytes(w, "VmHWM") for w in workers), default=0.0),
        }


def _megabytes(pid: int, what: str) -> float:
    try:
        lines = Path(f"/proc/{pid}/status").read_text().splitlines()
    except OSError:
        return 0.0
    return next((int(line.split()[1]) / 1024 for line in lines if line.startswith(what)), 0.0)


class Person:
    """A page's way of asking: a session, its token, JSON."""

    def __init__(self, url: str) -> None:
        self.url, self.id = f"{url}/api", str(uuid.uuid4())
        self.http = requests.Session()
        self.token = ""

    def send(self, method: str, path: str, body: Any = None, raw: bytes | None = None, timeout: float = 30) -> Any:
        if method != "GET" and not self.token:
            self.token = self.http.get(f"{self.url}/session", timeout=timeout).json()["csrf"]
        headers = {
            "X-CSRFToken": self.token,
            "Content-Type": "application/json" if raw is None else "application/octet-stream",
        }
        data = raw if raw is not None else json.dumps(body) if body is not None else None
        return self.http.request(method, f"{self.url}{path}", data=data, headers=headers, timeout=timeout)

    def bring_in(self, match: dict[str, Any]) -> dict[str, Any]:
        answer = self.send("POST", "/games/import", match)
        answer.raise_for_status()
        found: dict[str, Any] = answer.json()
        return found

    def bring_film(self, film: Path) -> None:
        content = film.read_bytes()
        upload = self.send("POST", "/uploads", {"size": len(content), "name": film.name}).json()["upload"]
        self.send("PUT", f"/uploads/{upload}/0", raw=content).raise_for_status()
        self.send("POST", f"/uploads/{upload}/finish", {"name": film.name}).raise_for_status()

    def operation(self, *changes: dict[str, Any]) -> dict[str, Any]:
        return {
            "id": str(uuid.uuid4()),
            "client": self.id,
            "seen": 2**60,
            "label": "load",
            "changes": list(changes),
        }
