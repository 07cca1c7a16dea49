"""Judges the demo's matches once, so that their verdicts are there at the first start.

The hands are those that each match's own shots tell. A verdict of an older model is left out and worked out anew
when somebody opens it. `python -m aretane.demo.judge` makes them.
"""

from __future__ import annotations

import gzip
import sys
from pathlib import Path
from typing import Any

import orjson

from aretane.demo.stories import STORIES
from aretane.desk.work.judging import stamp_of, with_ids
from aretane.desk.work.ledger import Wanted, ledger, version_of
from aretane.formats.match import read_match
from aretane.store import games, ledgers
from aretane.store.database import Db
from aretane.store.scope import Scope

FOLDER = Path(__file__).parent
CARE = "coarse"


def judge(discipline: str) -> None:
    """Judge a demo match and keep what was found beside it."""
    match = read_match((FOLDER / "matches" / f"{discipline}.json").read_bytes())
    keep(discipline, ledger(Wanted(match, {}, CARE)))


def keep(discipline: str, body: dict[str, Any]) -> None:
    target = FOLDER / "ledgers" / f"{discipline}.json.gz"
    target.parent.mkdir(exist_ok=True)
    target.write_bytes(gzip.compress(orjson.dumps(_rounded(body)), 9, mtime=0))


def _rounded(value: Any) -> Any:
    """Numbers to what anybody reads; the parts of an entry still add up to far less than that."""
    if isinstance(value, float):
        return float(f"{value:.9g}")
    if isinstance(value, dict):
        return {key: _rounded(one) for key, one in value.items()}
    return [_rounded(one) for one in value] if isinstance(value, list) else value


def load_verdict(db: Db, scope: Scope, discipline: str, game_id: str) -> None:
    """Put a kept verdict into the store, if it is of this model."""
    file = FOLDER / "ledgers" / f"{discipline}.json.gz"
    body = orjson.loads(gzip.decompress(file.read_bytes())) if file.is_file() else {}
    if body.get("version") != version_of(discipline):
        return
    match = games.load(db, scope, game_id)
    document = match.as_document()
    ledgers.begin(db, scope, game_id, CARE, body["hands"])
    ledgers.keep(db, scope, game_id, CARE, stamp_of(document, body["hands"]), with_ids(body, match))


if __name__ == "__main__":
    for one in sys.argv[1:] or [story.discipline for story in STORIES]:
        judge(one)
