"""How fair the ledger is: racks played by the model's own choices, then with a weakness planted at the outcome.

In fair play no column of the ledger may lean to either side. A planted weakness must show in its own column: a
tenth of the makes turned into misses in potting, stops displaced by some 40 cm in position, the second-best
choice now and then in decisions. All are valued with the unplanted hand.
"""

from __future__ import annotations

import math
import random
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from aretane.core.ball import CUE
from aretane.core.layout import Layout, first_overlap, on_table
from aretane.core.physics.compiled import R_FIRST, R_RAILS_AFTER
from aretane.core.physics.sampling import Samples, play_all, tries_of
from aretane.core.physics.start import start_of
from aretane.core.planning.choices.option import Option
from aretane.core.planning.choices.options import arranged, outlook_for, tasks_for, valued
from aretane.core.planning.choices.value import cases_of
from aretane.core.planning.outlook.outlook import Game, game_of
from aretane.core.planning.pots.strokes import GLANCE
from aretane.core.review.ledger.juncture import layout_at
from aretane.core.skill.demand import demand_of
from aretane.core.skill.hand import PRESETS, Hand
from aretane.core.table import POCKETS
from aretane.core.table import PRESETS as TABLES
from aretane.desk.work.ledger import Wanted, ledger

BALLS, RACKS, MOST_SHOTS = ("7", "8", "9"), 24, 30
PARTS = ("decision", "pot", "position", "luck")
MISSES, DISPLACED, SECOND = 0.1, 0.4, 0.3  # share of makes, m, share of choices
OUTCOMES = 64  # of a stroke, from which a planted one is taken


@dataclass(frozen=True)
class Planted:
    """How play is spoilt: the share of makes that are misses, by how much stops are displaced (m), the share of
    choices that are the second. `column`: where it must show; '' for fair play.
    """

    name: str
    column: str
    misses: float = 0.0
    displaced: float = 0.0
    second: float = 0.0


PLANTED = (
    Planted("fair play", ""), Planted("a tenth of the makes missed", "pot", misses=MISSES),
    Planted("stops displaced", "position", displaced=DISPLACED),
    Planted("second-best choices", "decision", second=SECOND),
)  # fmt: skip


def measure(racks: int = RACKS, told: Callable[[str], None] = lambda _: None) -> list[dict[str, Any]]:
    """For each way to play the mean of every column with its standard error, and how many entries."""
    found = []
    for planted in PLANTED:
        told(planted.name)
        match = _match([_rack(seed, PRESETS["league"], planted) for seed in range(racks)])
        judged = ledger(Wanted(match, {"A": PRESETS["league"], "B": PRESETS["league"]}, "coarse", 3))
        entries = [entry for rack in judged["racks"] for entry in rack["shots"]]
        columns = {part: _mean([one[part] for one in entries if one[part] is not None]) for part in PARTS}
        found.append({"played": planted.name, "column": planted.column, "entries": len(entries), **columns})
    return found


def _mean(values: list[float]) -> dict[str, float]:
    spread = float(np.std(values, ddof=1)) / math.sqrt(len(values)) if len(values) > 1 else 0.0
    return {"mean": float(np.mean(values)) if values else 0.0, "error": spread}


def _match(racks: list[dict[str, Any]]) -> dict[str, Any]:
    return {
        "format": "aretane-match", "version": 1, "discipline": "nine-ball", "table": "pool-9ft", "racks": racks,
    }  # fmt: skip


def _rack(seed: int, hand: Hand, planted: Planted) -> dict[str, Any]:
    """A rack from a few strewn balls on to its end, as it would be logged."""
    dice = random.Random(seed)
    layout = _strewn(dice)
    game = game_of(layout)
    shots: list[dict[str, Any]] = []
    for number in range(MOST_SHOTS):
        option = _choice(game, hand, dice.random() < planted.second)
        place = option.stroke.place
        before = game.layout if place is None else game.layout.placed(CUE, place)
        called = (option.ball, option.pocket) if option.ball and option.pocket else None
        played = _played(before, option, hand, seed * 1000 + number, dice.random() < planted.misses)
        after = _after(before, played, planted, dice)
        shots.append(_logged(game, option, before, played, after))
        if number == 0:
            shots[0]["layout_before"]["state"] = {"player": game.me}
        state = cases_of(game, played, called)[0].after
        if state.winner is not None:
            break
        left = {ball: after.get(ball, before.balls.get(ball, (0.0, 0.0))) for ball in state.balls}
        if state.in_hand is None:
            left[CUE] = after[CUE]
        game = replace(game, layout=layout_at(layout.table, layout.discipline, left, state), state=state)
    return {"breaker": "A", "shots": shots}


def _strewn(dice: random.Random) -> Layout:
    table = TABLES["pool-9ft"]
    while True:
        places = {
            ball: (round(dice.uniform(0.1, table.length - 0.1), 4), round(dice.uniform(0.1, table.width - 0.1), 4))
            for ball in (CUE, *BALLS)
        }
        layout = Layout(table, "nine-ball", places)
        if not first_overlap(layout):
            return layout


def _choice(game: Game, hand: Hand, second: bool) -> Option:
    outlook = outlook_for(game, (hand, hand), GLANCE, 1, 2)
    found = [valued(outlook, task, GLANCE, 1, 2) for task in tasks_for(outlook, GLANCE, 2)]
    options = arranged(outlook, found).options
    return options[1] if second and len(options) > 1 else options[0]


def _played(before: Layout, option: Option, hand: Hand, seed: int, miss: bool) -> Samples:
    """One outcome of the stroke; with `miss` one in which the ball does not fall, if there is any."""
    stroke = replace(option.stroke, place=None)
    tries = tries_of(before, stroke, hand, OUTCOMES, seed, demand_of(before, stroke, option.ball))
    every = play_all(before, start_of(before), tries.strokes, lucks=tries.lucks)
    row = 0
    if miss and option.ball and option.pocket:
        fell = every.fates[:, every.names.index(option.ball)] == POCKETS.index(option.pocket)
        row = int(np.argmin(fell)) if fell[0] else 0
    return replace(
        every, places=every.places[row : row + 1], fates=every.fates[row : row + 1],
        results=every.results[row : row + 1], durations=every.durations[row : row + 1],
    )  # fmt: skip


def _after(
    before: Layout, played: Samples, planted: Planted, dice: random.Random
) -> dict[str, tuple[float, float]]:
    left = {
        ball: (float(played.places[0, at, 0]), float(played.places[0, at, 1]))
        for at, ball in enumerate(played.names)
        if played.fates[0, at] == -1
    }
    for _ in range(20 if planted.displaced and CUE in left else 0):
        x, y = left[CUE]
        moved = {**left, CUE: (x + dice.gauss(0, planted.displaced), y + dice.gauss(0, planted.displaced))}
        table = before.table
        if on_table(table, moved[CUE], table.radius / 0.96) and not first_overlap(replace(before, balls=moved)):
            return moved
    return left


def _logged(game: Game, option: Option, before: Layout, played: Samples, after: dict[str, Any]) -> dict[str, Any]:
    stroke, first = option.stroke, int(played.results[0, R_FIRST])
    fallen = [(n, POCKETS[f]) for n, f in zip(played.names, played.fates[0], strict=True) if 0 <= f < 6]
    shot: dict[str, Any] = {
        "player": game.me, "kind": "pot" if option.ball else "other", "intent": option.intent,
        "layout_before": {"balls": {ball: list(place) for ball, place in before.balls.items()}},
        "layout_after": {"balls": {ball: list(place) for ball, place in after.items()}},
        "first_contact": played.names[first] if first > 0 else None,
        "rails_after_contact": int(played.results[0, R_RAILS_AFTER]).bit_count(),
        "potted": [{"ball": ball, "pocket": pocket} for ball, pocket in fallen if ball != CUE],
        "scratch": any(ball == CUE for ball, _ in fallen),
        "off_table": [n for n, f in zip(played.names, played.fates[0], strict=True) if f == 6],
        "stroke": {"aim": stroke.aim, "speed": stroke.speed, "side": stroke.side, "height": stroke.height},
    }  # fmt: skip
    if option.ball:
        shot["called"] = {"ball": option.ball, "pocket": option.pocket}
    return shot
