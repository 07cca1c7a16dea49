"""The recordings that the reading of pictures is measured on: what clubs and phones really deliver."""

from __future__ import annotations

from dataclasses import replace
from typing import TypeVar

import numpy as np

from aretane.vision.balls.ball_sets import MAKES
from aretane.vision.render.film import Recipe
from aretane.vision.render.light import LAMPS
from aretane.vision.render.look import CLOTHS, POCKETS, PRINTED, SHIRTS, WOODS
from aretane.vision.render.places import VIEWS

T = TypeVar("T")

SHORT_720, FULL = (1280, 720), (1920, 1080)

RECORDINGS: tuple[tuple[str, Recipe], ...] = (  # the discipline whose demo match is filmed, and how
    ("nine-ball", Recipe("phone behind the rail, turquoise 6", person=True, rate=30, lamps="three", wood="light",
               make="turquoise", cream=0.7, printed="outline", shutter=0.012, soft=0.5, reaching=True, seed=51)),
    ("eight-ball", Recipe("club camera overhead, worn balls", view="overhead", cloth="grey", rate=25, person=True,
               aged=0.7, cream=0.5, warm=0.1, shutter=0.01, other_make=True, seed=52)),
    ("ten-ball", Recipe("corner, a pocket cut off, 480p", (854, 480), 25, "corner", "green", cropped=0.12,
               radial=-0.06, person=True, pockets="wide", black_cushions=True, quality=32, shutter=0.015, seed=53)),
    ("nine-ball", Recipe("hall, one in 5 s, warm and soft", SHORT_720, 1 / 5, "corner", "blue", person=True,
               warm=0.14, soft=0.9, quality=34, reaching=True, second_table=True, printed="letters", seed=54)),
    ("eight-ball", Recipe("phone, shaken, bumped, dark", SHORT_720, 30, "short rail", "light blue", shake=0.8,
               bump=True, person=True, measles=True, exposure=0.75, shutter=0.02, shirt="green", seed=55)),
    ("ten-ball", Recipe("broadcast: cuts, inset, captions", SHORT_720, 25, make="television", person=True,
               replays=True, inset=True, captions=True, zoom=True, shirt="white", pockets="leather", seed=56)),
    ("nine-ball", Recipe("screen recording, pauses, lines", SHORT_720, 30, cloth="green", person=True,
               player_bar=True, lines=True, pauses=True, uneven=True, codec="libvpx-vp9", quality=36, lamps="frame",
               seed=57)),
    ("snooker", Recipe("snooker, full HD", FULL, 25, cloth="green", person=True, shutter=0.01, seed=58)),
    ("straight-pool", Recipe("rack on a template, 15 a second", SHORT_720, 15, cloth="tan", person=True,
               template=True, shake=0.4, other_make=True, reaching=True, printed="rack", seed=59)),
)  # fmt: skip

KEPT: tuple[tuple[str, Recipe], ...] = (  # for a last look only: nothing is found out from these
    ("nine-ball", Recipe("kept: behind the rail, 30 a second", SHORT_720, 30, cloth="red", person=True, cream=0.4,
               make="television", printed="outline", shutter=0.012, reaching=True, warm=0.06, seed=71)),
    ("blackball", Recipe("kept: blackball, corner, dim", SHORT_720, 25, "corner", "blue", person=True, warm=0.06,
               lamps="two", wood="light", exposure=0.8, soft=0.6, seed=72)),
    ("ten-ball", Recipe("kept: one in 3 s, 480p, captions", (854, 480), 1 / 3, person=True, captions=True,
               second_table=True, aged=0.5, quality=30, pockets="wide", reaching=True, seed=73)),
)  # fmt: skip


def varied(recipe: Recipe, seed: int, snooker: bool) -> Recipe:
    """The same in another club: other seed, lamps, wood, pockets, balls and clothes, and often another cloth."""
    dice = np.random.default_rng([seed, recipe.seed])

    def one_of(names: dict[str, T]) -> str:
        return list(names)[int(dice.integers(len(names)))]

    return replace(
        recipe,
        seed=recipe.seed + seed,
        lamps=one_of(LAMPS),
        wood=one_of(WOODS),
        shirt=one_of(SHIRTS),
        pockets=one_of(POCKETS),
        measles=bool(dice.random() < 0.5),
        head_string=bool(dice.random() < 0.5) and not snooker,
        other_make=bool(dice.random() < 0.7),
        cloth=recipe.cloth if snooker or dice.random() < 0.5 else one_of(CLOTHS),
        template=recipe.template or bool(dice.random() < 0.3),
        make=MAKES[int(dice.integers(len(MAKES)))],
        aged=float(dice.uniform(0, 0.9)) if dice.random() < 0.5 else 0.0,
        cream=float(dice.uniform(0, 1)) if dice.random() < 0.5 else 0.0,
        printed=PRINTED[int(dice.integers(len(PRINTED)))] if not snooker else "",
        black_cushions=bool(dice.random() < 0.15),
        reaching=bool(dice.random() < 0.6),
        soft=float(dice.uniform(0.4, 1.3)) if dice.random() < 0.4 else 0.0,
        exposure=float(dice.uniform(0.75, 1.35)),
        warm=float(dice.uniform(-0.08, 0.15)),
        view=recipe.view if dice.random() < 0.6 else VIEWS[int(dice.integers(3))],
    )
