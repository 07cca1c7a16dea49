"""The demo club and the stories of its matches. Everybody and everything in them is invented."""

from __future__ import annotations

from aretane.demo.stories.blackball import BLACKBALL
from aretane.demo.stories.eight_ball import EIGHT_BALL
from aretane.demo.stories.nine_ball import NINE_BALL
from aretane.demo.stories.snooker import SNOOKER
from aretane.demo.stories.straight_pool import STRAIGHT_POOL
from aretane.demo.stories.ten_ball import TEN_BALL

CLUB = "Harbour Row Cue Club"
COACH = "Odile Fenwright"

STORIES = (NINE_BALL, TEN_BALL, EIGHT_BALL, BLACKBALL, STRAIGHT_POOL, SNOOKER)
