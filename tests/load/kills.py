"""Server, database and both are killed while shots are logged as a page logs them: sent until acknowledged."""

from __future__ import annotations

import threading
import time
import uuid
from typing import Any

import requests

from tests.conftest import rack_change, shot_change
from tests.load.serving import Person, Served

PAUSE = 0.05  # seconds before what was not acknowledged is sent again


def kills(served: Served, rounds: int, writers: int = 4) -> dict[str, int]:
    """Of all shots that were logged: lost though acknowledged, there twice, and never acknowledged."""
    first = Person(served.url)
    document = {"format": "aretane-match", "version": 1, "discipline": "nine-ball", "players": {}, "title": "Kills"}
    game = first.send("POST", "/games", {"id": str(uuid.uuid4()), "document": document}).json()
    racks = [rack_change(game, n) for n in range(writers)]
    first.send("POST", f"/games/{game['id']}/operations", first.operation(*racks)).raise_for_status()
    over = threading.Event()
    acknowledged: list[str] = []
    begun: list[str] = []

    def log(rack: dict[str, Any]) -> None:
        who, seat = Person(served.url), 0
        while not over.is_set():
            seat += 1
            shot = shot_change(rack, seat, player="A", kind="pot")
            operation = who.operation(shot)
            begun.append(shot["id"])
            while True:
                try:
                    answer = who.send("POST", f"/games/{game['id']}/operations", operation, timeout=10)
                    if answer.status_code == 200:
                        acknowledged.append(shot["id"])
                        break
                    if answer.status_code == 400:
                        who.token = ""
                    elif answer.status_code != 503:
                        raise AssertionError(answer.text)
                except (requests.RequestException, ValueError):
                    pass
                time.sleep(PAUSE)

    threads = [threading.Thread(target=log, args=(rack,)) for rack in racks]
    for thread in threads:
        thread.start()
    for number in range(rounds):
        time.sleep(0.4 + 0.13 * (number % 7))
        if number % 3 != 0:
            served.kill_database()
        if number % 3 != 1:
            served.kill()
            served.start()
    over.set()
    for thread in threads:
        thread.join()
    there = [
        shot["id"] for rack in first.send("GET", f"/games/{game['id']}").json()["racks"] for shot in rack["shots"]
    ]
    return {
        "rounds": rounds,
        "logged": len(begun),
        "acknowledged": len(acknowledged),
        "lost": len(set(acknowledged) - set(there)),
        "doubled": len(there) - len(set(there)),
        "never_acknowledged": len(set(begun) - set(acknowledged)),
    }
