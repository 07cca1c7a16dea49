"""Many different questions at once: when each has something to see, and what the others are told meanwhile."""

from __future__ import annotations

import random
import threading
import time
from typing import Any

from tests.load.serving import Person, Served

LONGEST = 180.0  # seconds


def questions(served: Served, many: int) -> dict[str, Any]:
    """Five balls each, somewhere; seconds until the first options of each."""
    first: dict[int, float] = {}
    told: list[bool] = []
    refused: list[str] = []

    def ask(number: int) -> None:
        who, begun = Person(served.url), time.monotonic()
        body = {"discipline": "nine-ball", "balls": _balls(random.Random(number)), "page": who.id}
        while time.monotonic() - begun < LONGEST and number not in first:
            answer = who.send("POST", "/choices", body)
            if answer.status_code != 200:
                refused.append(answer.text)
                time.sleep(float(answer.headers.get("Retry-After", 2)))
                continue
            found = answer.json()
            if (found["body"].get("options") or {}).get("options"):
                first[number] = time.monotonic() - begun
                who.send("DELETE", f"/choices/{found['hash']}")
            elif found["place"]:
                told.append(found["place"]["seconds"] > 0)
            time.sleep(1.0 if found["place"] else 0.35)

    threads = [threading.Thread(target=ask, args=(n,)) for n in range(many)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return {
        "questions": many,
        "answered": len(first),
        "first_options_s": [round(min(first.values()), 1), round(max(first.values()), 1)],
        "told_their_place": len(told),
        "sent_away": len(refused),
    }


def _balls(dice: random.Random) -> dict[str, list[float]]:
    places: dict[str, list[float]] = {}
    for ball in ("cue", "5", "6", "7", "8", "9"):
        while True:
            place = [round(dice.uniform(0.1, 2.4), 3), round(dice.uniform(0.1, 1.15), 3)]
            if all((place[0] - x) ** 2 + (place[1] - y) ** 2 > 0.01 for x, y in places.values()):
                break
        places[ball] = place
    return places
