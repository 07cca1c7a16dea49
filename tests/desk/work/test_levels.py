"""What is looked at closely, and what at a first look already."""

from __future__ import annotations

import pytest

from aretane.core.layout import Layout, State
from aretane.core.planning.plans import trouble
from aretane.core.skill.hand import PRESETS
from aretane.core.table import PRESETS as TABLES
from aretane.desk.work.choices import Wanted, make_outlook, planned

LAYOUT = Layout(
    TABLES["pool-9ft"], "nine-ball", {"cue": (1.4, 0.5), "8": (1.9, 0.9), "9": (0.6, 0.4)}, State(player="A")
)


@pytest.mark.parametrize(("level", "closely"), [("glance", False), ("coarse", True), ("fine", True)])
def test_nudges_and_secondary_breaks_wait_for_the_second_look(monkeypatch, level, closely):
    seen = []
    found = trouble.trouble_on

    def noted(*arguments, **named):
        seen.append(named["closely"])
        return found(*arguments, **named)

    monkeypatch.setattr(trouble, "trouble_on", noted)
    wanted = Wanted("choices", LAYOUT, {}, (PRESETS["professional"],) * 2, "right", (level,))
    outlook, _ = make_outlook(wanted, "glance", {})
    told = planned(outlook, wanted, level)
    assert seen == [closely]
    assert told["trouble"] == {"problem_balls": [], "clusters": [], "nudges": []}
