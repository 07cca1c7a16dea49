"""Damaged films: cut, with bits turned over, with headers that lie. None may take the server along."""

from __future__ import annotations

import random
from collections import Counter
from typing import Any

from tests.conftest import DEMO
from tests.load.serving import Person, Served

HEADERS = (b"moov", b"mvhd", b"tkhd", b"stsd", b"stts", b"stsz", b"stco", b"avcC", b"mdat", b"ftyp")


def films(served: Served, many: int) -> dict[str, Any]:
    whole = (DEMO / "rack.mp4").read_bytes()
    who, dice = Person(served.url), random.Random(4)
    statuses: Counter[int] = Counter()
    pid = served.pid
    for number in range(many):
        raw = _damaged(whole, dice, number)
        upload = who.send("POST", "/uploads", {"size": len(raw), "name": "damaged.mp4"}).json()["upload"]
        who.send("PUT", f"/uploads/{upload}/0", raw=raw)
        answer = who.send("POST", f"/uploads/{upload}/finish", {"name": "damaged.mp4"}, timeout=120)
        statuses[answer.status_code] += 1
        if answer.status_code == 200:
            who.send("DELETE", f"/recordings/{answer.json()['sha256']}")
    left = list((served.folder / "recordings" / "incoming").iterdir())
    return {
        "films": many, "statuses": dict(statuses), "same_server": served.pid == pid,
        "memory_mb": served.memory(), "left_behind": len(left),
    }  # fmt: skip


def _damaged(whole: bytes, dice: random.Random, number: int) -> bytes:
    raw = bytearray(whole)
    if number % 4 == 0:
        return bytes(raw[: dice.randrange(1, len(raw))])
    if number % 4 == 1:  # bits anywhere
        for _ in range(dice.choice((1, 20, 2000))):
            raw[dice.randrange(len(raw))] ^= 1 << dice.randrange(8)
        return bytes(raw)
    name = dice.choice(HEADERS)
    at = whole.find(name)
    if at < 0:
        return bytes(raw[dice.randrange(1, 64) :])
    span = range(max(0, at - 4), min(len(raw), at + 60)) if number % 4 == 2 else range(max(0, at - 4), at)
    for place in span:
        if dice.random() < 0.3 or number % 4 == 3:
            raw[place] = dice.choice((0, 255, 127, dice.randrange(256)))
    return bytes(raw)
