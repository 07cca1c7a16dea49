"""The recordings that the reading of pictures is measured on: what clubs and phones really deliver."""

from __future__ import annotations

from dataclasses import replace
from typing import TypeVar

import numpy as np

from aretane.vision.render.film import Recipe
from aretane.vision.render.light import LAMPS
from aretane.vision.render.look import CLOTHS, POCKETS, SHIRTS, WOODS

T = TypeVar("T")

SHORT_720, SMALL, FULL = (1280, 720), (640, 480), (1920, 1080)

RECORDINGS: tuple[tuple[str, Recipe], ...] = (  # the discipline whose demo match is filmed, and how
    ("eight-ball", Recipe("phone behind the rail, blue", person=True, rate=25, lamps="three", wood="light",
               shirt="white", pockets="leather", seed=40)),
    (
        "nine-ball",
        Recipe("club camera overhead, grey", view="overhead", cloth="grey", rate=15, person=True, seed=41),
    ),
    (
        "ten-ball",
        Recipe("full HD corner, green", FULL, 30, "corner", "green", cropped=0.04, radial=-0.06, person=True,
               other_make=True, pockets="wide", seed=42),
    ),
    (
        "nine-ball",
        Recipe("small, short rail, green", SMALL, 15, cloth="green", person=True, second_table=True, noise=4,
               lamps="two", head_string=True, shirt="red", pockets="wide", seed=21),
    ),
    (
        "eight-ball",
        Recipe("corner, light blue, shaken, bumped", (960, 540), 15, "corner", "light blue", shake=0.8, bump=True,
               person=True, measles=True, head_string=True, shirt="green", seed=22),
    ),
    (
        "nine-ball",
        Recipe("one in 3 s, small, drawn lines", (854, 480), 1 / 3, cloth="green", lines=True, second_table=True,
               person=True, noise=4, quality=30, other_make=True, wood="black", pockets="leather",
               seed=23),
    ),
    (
        "ten-ball",
        Recipe("one in 5 s, blue, captions", rate=1 / 5, person=True, captions=True, second_table=True,
               lamps="frame", measles=True, pockets="wide", seed=24),
    ),
    ("snooker", Recipe("snooker, full HD", FULL, 25, cloth="green", person=True, seed=25)),
    ("snooker", Recipe("snooker, 720p, corner", SHORT_720, 15, "corner", "green", person=True, pockets="leather",
                          seed=26)),
    ("blackball", Recipe("blackball, corner, blue", rate=25, view="corner", person=True, warm=0.06, lamps="two",
               wood="light", pockets="wide", seed=27)),
    (
        "ten-ball",
        Recipe("edited: zoom, replays, blue", rate=15, person=True, zoom=True, replays=True, captions=True,
               shirt="white", pockets="leather",
               seed=28),
    ),
    (
        "straight-pool",
        Recipe("rack on a template, grey", rate=15, cloth="grey", person=True, template=True, shake=0.4,
               other_make=True, seed=29),
    ),
    (
        "nine-ball",
        Recipe("screen recording, uneven, light blue", rate=30, cloth="light blue", person=True, player_bar=True,
               lines=True, uneven=True, flicker=0.03, codec="libvpx-vp9", quality=36, lamps="frame",
               shirt="red", seed=30),
    ),
    (
        "eight-ball",
        Recipe("60 a second, warm light, green", rate=60, cloth="green", warm=0.1, person=True, measles=True,
               lamps="three", head_string=True, pockets="leather", seed=31),
    ),
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
    )
