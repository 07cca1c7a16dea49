"""Many reviewers at once, each with pauses for thought: how long each of them waits."""

from __future__ import annotations

import random
import threading
import time
import uuid
from collections import defaultdict
from typing import Any

import numpy as np
import requests

from tests.conftest import shot_change
from tests.load.serving import Person, Served

THINKING = 5.0  # seconds between two requests, on average
SHOTS = 12  # that each writes: a match stays as long as matches are
ACTS = {"shot": 0.6, "match": 0.15, "list": 0.1, "figures": 0.15}


def evenings(served: Served, match: dict[str, Any], many: int = 50) -> list[dict[str, Any]]:
    """So many matches to work at."""
    first = Person(served.url)
    return [first.bring_in({**match, "title": f"Evening {n}"}) for n in range(many)]


def crowd(served: Served, games: list[dict[str, Any]], seconds: float, people: int = 100) -> dict[str, Any]:
    """95 % of each kind of request are answered within so many milliseconds; errors by their status."""
    times: dict[str, list[float]] = defaultdict(list)
    errors: dict[str, int] = defaultdict(int)
    lock = threading.Lock()
    until = time.monotonic() + seconds

    def review(number: int) -> None:
        dice, who, game = random.Random(number), Person(served.url), games[number % len(games)]
        time.sleep(dice.uniform(0, THINKING))
        own = [(1000.0 + number + 200 * n, str(uuid.UUID(int=1000 * number + n, version=4))) for n in range(SHOTS)]
        turn = 0
        while time.monotonic() < until:
            act = dice.choices(list(ACTS), list(ACTS.values()))[0]
            begun = time.monotonic()
            try:
                if act == "shot":
                    seat, shot_id = own[turn % SHOTS]  # a review goes on where it is, and puts right what it said
                    turn += 1
                    shot = shot_change(
                        game["racks"][-1],
                        seat,
                        shot_id,
                        player=dice.choice("AB"),
                        kind="pot",
                        called={"ball": "5", "pocket": "foot-left"},
                        note=str(turn),
                    )
                    answer = who.send("POST", f"/games/{game['id']}/operations", who.operation(shot))
                else:
                    path = {"match": f"/games/{game['id']}", "list": "/games", "figures": "/figures"}[act]
                    answer = who.send("GET", path)
                took, status = time.monotonic() - begun, str(answer.status_code)
            except requests.RequestException as problem:
                took, status = time.monotonic() - begun, repr(problem)[:200]
            with lock:
                times[act].append(took)
                errors[status] += status != "200"
            time.sleep(dice.expovariate(1 / THINKING))

    threads = [threading.Thread(target=review, args=(n,)) for n in range(people)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return {
        "people": people,
        "requests": sum(map(len, times.values())),
        "p95_ms": {act: round(1000 * float(np.quantile(took, 0.95))) for act, took in sorted(times.items())},
        "errors": {status: n for status, n in errors.items() if n},
        "memory_mb": served.memory(),
    }
