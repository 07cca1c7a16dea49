"""Choices worked out in the background: coarse at once, then finer while somebody looks.

A thread for each drives small parts of work, done elsewhere by processes or a cluster, and stores what is known
after every part. What was worked out before is found again by the hash of layout, hands, rules and the model's
version.
"""

from __future__ import annotations

import hashlib
import logging
import threading
from collections.abc import Callable, Iterator
from concurrent.futures import BrokenExecutor, CancelledError
from dataclasses import asdict, dataclass, replace
from typing import Any

import orjson

from aretane.core.errors import InputError
from aretane.core.layout import Layout
from aretane.core.physics.stroke import Stroke
from aretane.core.skill.hand import LEVELS, Hand, presets_for
from aretane.formats.layout import layout_as_data
from aretane.jobs.pool import Pool
from aretane.store import answers
from aretane.store.database import Database
from aretane.store.scope import Scope

VERSION = 5  # of the model; results of another one are worked out again
PATIENCE = 120.0  # seconds for one part
THREADS = 2  # of a part
CHUNK = 4  # strokes valued in one part
ROLLOUTS = 150
SEED = 0

log = logging.getLogger("aretane.jobs")

Body = dict[str, Any]


@dataclass(frozen=True)
class Drawn:
    """A stroke to value among those found: where it is from (played, added), and the pot that is meant, if any."""

    source: str
    stroke: Stroke
    ball: str | None
    pocket: str | None


@dataclass(frozen=True)
class Wanted:
    """What to work out: `kind` is choices, who (could run this) or against (each opponent). `levels` from coarse to
    fine; `drawn` strokes are valued among those found. `race`: racks that the player and
    the opponent still need; `answering`: the player answers a push-out.
    """

    kind: str
    layout: Layout
    rules: dict[str, Any]
    hands: tuple[Hand, Hand]
    handed: str
    levels: tuple[str, ...]
    drawn: tuple[Drawn, ...] = ()
    race: tuple[int, int] | None = None
    answering: bool = False

    @property
    def hash(self) -> str:
        data = {
            **{name: value for name, value in asdict(self).items() if name != "layout"},
            "layout": layout_as_data(self.layout),
            "version": VERSION,
        }
        return hashlib.sha256(orjson.dumps(data, option=orjson.OPT_SORT_KEYS)).hexdigest()


class Choices:
    """Works out answers in the background of a server."""

    def __init__(self, database: Database, pool: Pool) -> None:
        self._database, self._pool = database, pool
        self._ending = threading.Event()

    def begin(self) -> None:
        """When a server starts: forget old answers, and load what the parts need."""
        with self._database.transaction() as db:
            answers.forget_old(db)
        self._pool.submit(ready)

    def ask(self, scope: Scope, wanted: Wanted) -> answers.Answer:
        """What is known of it now; work on it begins if nobody else is at it."""
        with self._database.transaction() as db:
            answer, begin = answers.ask(db, scope, wanted.hash)
        if begin:
            threading.Thread(target=self._run, args=(scope, wanted), daemon=True).start()
        return answer

    def stop(self, scope: Scope, key: str) -> None:
        with self._database.transaction() as db:
            answers.end(db, scope, key, "stopped")

    def close(self) -> None:
        self._ending.set()

    def _run(self, scope: Scope, wanted: Wanted) -> None:
        key = wanted.hash
        try:
            for progress, body in self._steps(wanted):
                with self._database.transaction() as db:
                    going = answers.advance(db, scope, key, progress, body)
                if not going or self._ending.is_set():
                    return
            self._end(scope, key, "done")
        except InputError as problem:
            self._end(scope, key, "failed", str(problem))
        except Exception:
            if not self._ending.is_set():
                log.exception("choices %s", key)
                self._end(scope, key, "failed", "this could not be worked out; the log has the reason")

    def _end(self, scope: Scope, key: str, state: str, said: str = "") -> None:
        with self._database.transaction() as db:
            answers.end(db, scope, key, state, said)

    def _steps(self, wanted: Wanted) -> Iterator[tuple[float, Body]]:
        """Progress and all that is known, after every part."""
        steps = {"choices": self._choices, "who": self._who, "against": self._against}[wanted.kind]
        return steps(wanted)

    def _choices(self, wanted: Wanted) -> Iterator[tuple[float, Body]]:
        from aretane.core.planning.choices.options import arranged
        from aretane.formats.choices import options_as_data

        body: Body = {}
        share = 1.0 / len(wanted.levels)
        for number, level in enumerate(wanted.levels):
            base = number * share
            outlook, body["maps"] = self._part(make_outlook, wanted, level)
            if wanted.answering:
                body["answer"] = push_answer(outlook)
            body["level"] = level
            yield base + 0.2 * share, body
            found: list[Any] = []
            tasks = pots = self._part(find_pots, wanted, level, outlook)
            searched = False  # for what is no plain pot: those are shown first, the rest takes a while to find
            while tasks or not searched:
                if not searched and (number > 0 or found or not tasks):
                    more, pushes = self._part(find_others, wanted, level, outlook, pots)
                    tasks, found, searched = tasks + more, found + pushes, True
                part, tasks = tasks[:CHUNK], tasks[CHUNK:]
                found += self._part(value, wanted, level, outlook, part)
                over = searched and not tasks
                if number == 0 or over:
                    body["options"] = options_as_data(arranged(outlook, found), wanted.layout.discipline)
                    body["options"]["complete"] = over
                left = len(tasks) + (CHUNK if searched else 4 * CHUNK)
                yield base + share * (0.25 + 0.5 * len(found) / (len(found) + left)), body
            found = self._part(played, level, outlook, found)
            body["options"] = options_as_data(arranged(outlook, found), wanted.layout.discipline)
            body["options"]["complete"] = True
            yield base + 0.8 * share, body
            body["curves"] = curves(arranged(outlook, found), wanted.race)
            body["schools"] = schools(arranged(outlook, found))
            body["plan"], body["trouble"] = self._part(plan, wanted, level, outlook)
            yield base + share, body

    def _who(self, wanted: Wanted) -> Iterator[tuple[float, Body]]:
        body: Body = {"who": {}}
        every = {"this player": wanted.hands[0], **presets_for(wanted.layout.table)}
        for number, (name, hand) in enumerate(every.items(), start=1):
            body["who"][name] = self._part(runs_out, wanted, hand)
            yield number / len(every), body

    def _against(self, wanted: Wanted) -> Iterator[tuple[float, Body]]:
        body: Body = {"against": []}
        for number, (name, hand) in enumerate(presets_for(wanted.layout.table).items(), start=1):
            body["against"].append(self._part(stand_against, wanted, name, hand))
            yield number / len(LEVELS), body

    def _part(self, work: Callable[..., Any], *arguments: Any) -> Any:
        try:
            return self._pool.submit(work, *arguments).result(PATIENCE)
        except (BrokenExecutor, CancelledError):
            self._pool.renew()
            return self._pool.submit(work, *arguments).result(PATIENCE)


# The parts, each done by a worker.


def ready() -> None:
    """Load what the parts need, so that the first one does not wait for it."""
    import scipy.stats.qmc

    import aretane.core.planning.choices.options  # noqa: F401

    assert scipy.stats.qmc


def make_outlook(wanted: Wanted, level: str) -> tuple[Any, list[Body]]:
    from aretane.core.planning.choices.options import outlook_for, playable
    from aretane.core.planning.outlook.outlook import game_of
    from aretane.core.planning.pots.strokes import EFFORTS
    from aretane.formats.choices import maps_as_data

    game = game_of(wanted.layout, wanted.rules)
    playable(game)
    outlook = outlook_for(game, wanted.hands, EFFORTS[level], SEED, THREADS)
    return outlook, maps_as_data(outlook)


def find_pots(wanted: Wanted, level: str, outlook: Any) -> list[Any]:
    """The drawn strokes and the plain pots to value."""
    from aretane.core.physics.stroke import check_stroke
    from aretane.core.planning.choices.options import Task, pot_tasks
    from aretane.core.planning.choices.search import Idea
    from aretane.core.planning.pots.strokes import EFFORTS

    tasks = []
    for one in wanted.drawn:
        place = check_stroke(wanted.layout, one.stroke)
        tasks.append(Task(place, Idea(_meant(place, one), one.ball, one.pocket), one.source))
    return tasks + pot_tasks(outlook, EFFORTS[level], wanted.handed)


def find_others(wanted: Wanted, level: str, outlook: Any, pots: list[Any]) -> tuple[list[Any], list[Any]]:
    """Everything else to value, and the push-outs, which are valued at once."""
    from aretane.core.planning.choices.options import other_tasks, pushed
    from aretane.core.planning.pots.strokes import EFFORTS

    effort = EFFORTS[level]
    plain = [task for task in pots if task.source is None]
    return other_tasks(outlook, effort, plain, THREADS), pushed(outlook, effort, SEED)


def _meant(layout: Layout, drawn: Drawn) -> Stroke:
    """The stroke as it was meant: for a direct pot with the aim for it; a bank or kick as it was struck."""
    from aretane.core.physics.aim import aimed

    if drawn.ball is None or drawn.pocket is None:
        return aimed(layout, drawn.stroke)
    try:
        return aimed(layout, replace(drawn.stroke, aim=None, at=drawn.ball, pocket=drawn.pocket))
    except InputError:
        return aimed(layout, drawn.stroke)


def value(wanted: Wanted, level: str, outlook: Any, tasks: list[Any]) -> list[Any]:
    from aretane.core.planning.choices.options import valued
    from aretane.core.planning.pots.strokes import EFFORTS

    return [valued(outlook, task, EFFORTS[level], SEED, THREADS, wanted.handed) for task in tasks]


def played(level: str, outlook: Any, found: list[Any]) -> list[Any]:
    """The options with values from racks played on to their end."""
    from aretane.core.planning.choices.played import played_on
    from aretane.core.planning.pots.strokes import EFFORTS

    return played_on(outlook, found, EFFORTS[level].played, SEED, THREADS)


def plan(wanted: Wanted, level: str, outlook: Any) -> tuple[Body, Body]:
    from aretane.core.planning.choices.options import renewed
    from aretane.core.planning.plans.plan import plan_for
    from aretane.core.planning.plans.trouble import trouble_on
    from aretane.core.planning.pots.strokes import EFFORTS
    from aretane.formats.choices import plan_as_data, trouble_as_data

    effort = EFFORTS[level]
    made = plan_for(outlook, renewed(wanted.hands, effort, SEED, THREADS), effort, SEED, THREADS, ROLLOUTS)
    return plan_as_data(made), trouble_as_data(trouble_on(outlook, made, SEED))


def runs_out(wanted: Wanted, hand: Hand) -> Body:
    """How often this hand finishes from here."""
    from aretane.core.planning.choices.options import outlook_for
    from aretane.core.planning.outlook.outlook import game_of
    from aretane.core.planning.plans.plan import who_could_run
    from aretane.core.planning.pots.strokes import GLANCE

    game = game_of(wanted.layout, wanted.rules)
    outlook = outlook_for(game, (hand, hand), GLANCE, SEED, THREADS)
    return asdict(who_could_run(outlook, ROLLOUTS, SEED, THREADS))


def stand_against(wanted: Wanted, name: str, opponent: Hand) -> Body:
    """Best attack and safety against this opponent."""
    from aretane.core.planning.choices.options import options_for
    from aretane.core.planning.choices.sensitivity import against
    from aretane.core.planning.pots.strokes import GLANCE

    hands = wanted.hands[0], opponent
    found = options_for(wanted.layout, hands, GLANCE, SEED, THREADS, wanted.rules, wanted.handed)
    return asdict(against(name, found))


def push_answer(outlook: Any) -> Body | None:
    from aretane.core.planning.choices.push_out import answer_to_push

    found = answer_to_push(outlook)
    return {"play": found[0], "hand_back": found[1]} if found else None


def curves(found: Any, race: tuple[int, int] | None) -> Body:
    from aretane.core.planning.choices.sensitivity import for_match, over_pot, ten_points_better

    curve, match = over_pot(found), for_match(found, *race) if race else None
    return {
        "over_pot": asdict(curve) if curve else None,
        "ten_points_better": ten_points_better(found),
        "match": asdict(match) if match else None,
    }


def schools(found: Any) -> list[Body]:
    from aretane.core.planning.choices.schools import SCHOOLS, order_for

    return [{"name": one.name, "says": one.says, "order": order_for(found, one)} for one in SCHOOLS]
