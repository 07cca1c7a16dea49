"""The words of the trade: each once, the same on the page. Common practice where no other source is named."""

from __future__ import annotations

import re

import pytest

from aretane.core.rules.traits import TRAITS, traits_of
from aretane.core.table import POCKETS
from aretane.core.words import ball_words, pace_words, pocket_words, stroke_words, trade
from aretane.settings import ROOT

PAGE = ROOT / "frontend" / "src"


def test_the_page_has_them_as_they_are(here):
    assert (PAGE / "trade.ts").read_text() == here("trade").stdout


def test_pockets_have_their_games_names():
    assert pocket_words("foot-left", "nine-ball") == "foot left"
    assert pocket_words("head-right", "snooker") == "baulk right"
    assert pocket_words("side-left", "blackball") == "middle left"
    assert pocket_words(None, "nine-ball") == ""
    for name in TRAITS:
        assert len({pocket_words(pocket, name) for pocket in POCKETS}) == 6


def test_strokes_are_said_as_a_coach_says_them():
    assert stroke_words(0.9) == "stun, soft (0.9 m/s)"
    assert stroke_words(2.6, side=-0.3, height=-0.4) == "draw, firm, left (2.6 m/s)"
    assert stroke_words(1.5, side=0.05, height=0.3, elevation=0.35) == "follow, medium (1.5 m/s, cue raised 20°)"
    assert [pace_words(speed) for speed in (0.5, 1.2, 2.4)] == ["soft", "medium", "firm"]
    assert [ball_words(ball) for ball in ("cue", "7", "red-3", "black")] == ["cue ball", "7 ball", "red 3", "black"]


@pytest.mark.parametrize("name", TRAITS)
def test_a_games_words_and_keys_fit_its_balls(name):
    """World rules: what is potted last wins; in snooker colours count 2 to 7, and their keys are their values."""
    traits = traits_of(name)
    assert traits.money == {
        "nine-ball": "9", "ten-ball": "10", "eight-ball": "8", "blackball": "black", "straight-pool": None,
        "snooker": "black",
    }[name]  # fmt: skip
    if name == "snooker":
        assert traits.digits == ("red", "yellow", "green", "brown", "blue", "pink", "black")
    told = next(one for one in trade()["disciplines"] if one["name"] == name)
    assert all(values for _, _, values in told["breaks"])


def test_the_page_never_asks_for_a_game_by_its_name():
    """It asks the traits; only a test may name a game."""
    named = re.compile(r"""["'`](?:%s)["'`]|\b(?:%s): [\[{]""" % (("|".join(TRAITS),) * 2))
    for path in PAGE.rglob("*.ts*"):
        if path.name in ("trade.ts", "api.d.ts") or ".test." in path.name:
            continue
        assert not named.findall(path.read_text()), path
