"""The documentation says the same as the code."""

from __future__ import annotations

import re

import pytest

from aretane.core.rules.options import OPTIONS
from aretane.settings import ROOT

RULES = (ROOT / "docs" / "rules.md").read_text()
ROWS = {(row[1], row[2]) for row in re.finditer(r"^\| `(\w+)` \| `([^`]+)` \|", RULES, re.MULTILINE)}


@pytest.mark.parametrize("discipline", OPTIONS)
def test_every_option_is_documented_with_its_default(discipline):
    told = {name for name, _ in ROWS}
    for option in OPTIONS[discipline]:
        default = str(option.default).lower() if isinstance(option.default, bool) else str(option.default)
        assert option.name in told
        if discipline != "ten-ball":  # which is told as what differs from nine-ball
            assert (option.name, default) in ROWS


def test_every_page_of_the_documentation_is_linked_from_the_readme():
    readme = (ROOT / "README.md").read_text()
    for page in (ROOT / "docs").glob("*.md"):
        assert f"docs/{page.name}" in readme
