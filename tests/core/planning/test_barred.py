"""What the house forbids is proposed nowhere: neither among the choices nor against other opponents."""

from __future__ import annotations

from aretane.core.layout import Layout
from aretane.core.planning.choices.options import options_for
from aretane.core.planning.pots.strokes import GLANCE
from aretane.core.skill.hand import presets_for
from aretane.core.table import PRESETS

# three balls across the way to the one: over them or off a rail
WALL = {
    "cue": (0.6, 0.635), "1": (1.6, 0.635), "5": (0.86, 0.635), "6": (0.86, 0.70), "7": (0.86, 0.57),
    "9": (2.2, 0.3),
}  # fmt: skip


def kinds(barred):
    layout = Layout(PRESETS["pool-9ft"], "nine-ball", WALL)
    hand = presets_for(layout.table)["professional"]
    return {option.kind for option in options_for(layout, (hand, hand), GLANCE, barred=barred).options}


def test_a_jump_is_proposed_only_where_it_is_allowed():
    assert "jump" in kinds(())
    allowed = kinds(("jump",))
    assert "jump" not in allowed
    assert allowed, "a kick is left"
