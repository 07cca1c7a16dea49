"""What should have been played: choices, plans and maps in the background, and what was felt beside them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from aretane.core.errors import InputError
from aretane.core.rules.options import check_options
from aretane.core.skill.hand import hand_as_data
from aretane.core.table import Point, table_from
from aretane.desk.hands import asked_hand
from aretane.desk.house import House
from aretane.desk.layouts import asked_layout
from aretane.desk.work.choices import Drawn, Wanted, wanted_as_data
from aretane.desk.work.kinds import CHOICES
from aretane.store import answers, jobs
from aretane.store.database import Db
from aretane.store.games import felt_shots
from aretane.store.jobs import RUNNING, Job
from aretane.store.scope import Scope

FIRST, SETTLED = ("glance", "coarse"), ("glance", "coarse", "fine")


@dataclass(frozen=True)
class Question:
    """A layout and two hands, each as `asked_hand` takes it. `settle`: go on to the fine level. `race`: racks that
    the player and the opponent still need; `answering`: the player answers a push-out; `drawn` strokes are valued
    among those found.
    """

    kind: str
    table: Any
    discipline: str
    balls: dict[str, Point]
    state: dict[str, Any] | None = None
    rules: Mapping[str, Any] = field(default_factory=dict)
    player: str | Mapping[str, Any] = "club"
    opponent: str | Mapping[str, Any] | None = None
    handed: str = "right"
    settle: bool = False
    race: tuple[int, int] | None = None
    answering: bool = False
    drawn: Sequence[Drawn] = ()


def choices(house: House, scope: Scope, asked: Question) -> dict[str, Any]:
    """What is known now; asking again tells how far it has come. Work stops when nobody asks any more."""
    table = table_from(asked.table)
    player = asked_hand(house, scope, asked.player, table, "player")
    opponent = player if asked.opponent is None else asked_hand(house, scope, asked.opponent, table, "opponent")
    layout = asked_layout(asked.table, asked.discipline, asked.balls, asked.state)
    if not layout.object_balls:
        raise InputError("balls", "there is no ball that may be played")
    check_options(layout.discipline, asked.rules)
    wanted = Wanted(
        asked.kind, layout, dict(asked.rules), (player, opponent), asked.handed,
        SETTLED if asked.settle else FIRST, tuple(asked.drawn), asked.race, asked.answering,
    )  # fmt: skip
    key = wanted.hash

    def ask(db: Db) -> tuple[Job, dict[str, Any]]:
        job = house.jobs.ask(db, scope, CHOICES, key, wanted_as_data(wanted))
        return job, answers.find(db, scope, key)

    job, body = house.database.write(ask)
    if job.going:
        house.jobs.wake()
    return {
        "hash": key,
        "state": RUNNING if job.going else job.state,
        "progress": job.progress,
        "said": job.said,
        "body": body,
        "hands": [hand_as_data(player), hand_as_data(opponent)],
    }


def stop(house: House, scope: Scope, key: str) -> None:
    house.database.write(lambda db: jobs.stop(db, scope, CHOICES, key))


def felt(house: House, scope: Scope) -> list[dict[str, Any]]:
    """Every shot at which somebody's own estimate was kept, with the computed numbers of that moment."""
    with house.database.transaction() as db:
        return felt_shots(db, scope)
