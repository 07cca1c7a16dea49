"""Which balls may be struck first in a layout: the one rule that reading a table needs.

Nine-ball asks its own module. The other disciplines have only this rule so far.
"""

from __future__ import annotations

from collections.abc import Callable

from aretane.core.ball import SNOOKER_COLOURS
from aretane.core.layout import Layout
from aretane.core.rules.nine_ball import NineBall

EIGHT = "8"


def legal_first(layout: Layout) -> tuple[str, ...]:
    """Balls that may lawfully be struck first, in the order of the layout."""
    return _RULES[layout.discipline](layout)


def _lowest(layout: Layout) -> tuple[str, ...]:
    return (min(layout.object_balls, key=int),)


def _eight_ball(layout: Layout) -> tuple[str, ...]:
    """WPA 3.4: open table any ball but the eight; then the own group, and the eight after it."""
    group = layout.state.group
    balls = [ball for ball in layout.object_balls if ball != EIGHT]
    if group is not None:
        balls = [ball for ball in balls if (int(ball) < int(EIGHT)) == (group == "solids")]
    return tuple(balls) or _only(layout, EIGHT)


def _blackball(layout: Layout) -> tuple[str, ...]:
    """Open table: any colour but the black; then the own colour, and the black after it."""
    group = layout.state.group
    balls = [ball for ball in layout.object_balls if ball != "black"]
    if group is not None:
        balls = [ball for ball in balls if ball.startswith(group.rstrip("s"))]
    return tuple(balls) or _only(layout, "black")


def _only(layout: Layout, ball: str) -> tuple[str, ...]:
    return (ball,) if ball in layout.object_balls else ()


def _snooker(layout: Layout) -> tuple[str, ...]:
    """WPBSA section 3: a red while reds stand, a colour after a red, else the lowest colour."""
    on, free = layout.state.on, layout.state.free_ball
    reds = [ball for ball in layout.object_balls if ball.startswith("red-")]
    colours = [ball for ball in SNOOKER_COLOURS if ball in layout.object_balls]
    if on == "colour":
        found = colours
    elif on in (None, "red"):
        found = reds or colours[:1]
    else:
        found = [str(on)] if on in layout.object_balls else []
    return tuple([*found, free] if free and free in layout.object_balls and free not in found else found)


_RULES: dict[str, Callable[[Layout], tuple[str, ...]]] = {
    "nine-ball": lambda layout: NineBall().legal_balls(NineBall().resume(layout)),
    "ten-ball": _lowest,
    "eight-ball": _eight_ball,
    "straight-pool": lambda layout: tuple(layout.object_balls),
    "blackball": _blackball,
    "snooker": _snooker,
}
