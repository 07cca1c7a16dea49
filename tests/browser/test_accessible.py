"""Every view, light and dark, by axe-core (its WCAG 2.2 AA rules and best practices): no violation."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pytest
from playwright.sync_api import Page

from aretane.demo.load import game_of
from aretane.settings import ROOT

AXE = (ROOT / "frontend" / "node_modules" / "axe-core" / "axe.min.js").read_text()
RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]
NINE, SNOOKER = game_of("nine-ball"), game_of("snooker")


def violations(page: Page) -> list[str]:
    page.evaluate("document.fonts.ready")
    page.evaluate(AXE)
    found: dict[str, Any] = page.evaluate("rules => axe.run(document, { runOnly: rules })", RULES)
    return [
        f"{one['id']}: {node['html'][:120]} {node['failureSummary'][:200]}"
        for one in found["violations"]
        for node in one["nodes"]
    ]


def first_shot(page: Page, game: str, rack: int = 0, shot: int = 4) -> str:
    rackful = page.request.get(f"/api/games/{game}").json()["racks"][rack]
    return f"/match/{game}?shot={rackful['shots'][shot]['id']}"


@pytest.fixture(params=["light", "dark"])
def lit(chromium, site, request) -> Iterator[Page]:
    context = chromium.new_context(
        base_url=site, viewport={"width": 1280, "height": 800}, color_scheme=request.param
    )
    page = context.new_page()
    page.set_default_timeout(30_000)
    yield page
    context.close()


def test_the_start_page_and_its_dialogs(lit: Page) -> None:
    lit.goto("/")
    lit.get_by_role("button", name="About").first.wait_for()
    assert violations(lit) == []
    for name in ("New match", "About", "Delete"):
        lit.get_by_role("button", name=name).first.click()
        lit.get_by_role("dialog").wait_for()
        if name == "About":
            lit.get_by_label("Day", exact=True).wait_for()
        assert violations(lit) == [], name
        lit.keyboard.press("Escape")


@pytest.mark.parametrize(("path", "ready"), [("/first-hour", "h1"), ("/nowhere", "h1"), ("/lab", "[data-ball]")])
def test_what_is_reached_from_it(lit: Page, path: str, ready: str) -> None:
    lit.goto(path)
    lit.locator(ready).first.wait_for()
    assert violations(lit) == []


def test_the_figures(lit: Page) -> None:
    for path in ("/figures", "/figures/survey"):
        lit.goto(path)
        lit.locator("table button").first.wait_for()
        assert violations(lit) == [], path


def test_the_bench_and_what_opens_on_it(lit: Page) -> None:
    lit.goto(first_shot(lit, NINE, rack=4))
    lit.get_by_test_id("reading").get_by_text("Fraction").wait_for()
    assert violations(lit) == []
    for key in ("?", "/", "Shift+A", "Shift+W", "f", "Shift+K", "Shift+S", "i"):
        lit.keyboard.press(key)
        assert violations(lit) == [], key
        lit.keyboard.press("Escape")
        lit.keyboard.press("Escape")
    lit.get_by_role("button", name="mark the table").click()
    assert violations(lit) == []


def test_snooker_logged_and_next(lit: Page) -> None:
    for path in (first_shot(lit, SNOOKER), f"/match/{SNOOKER}"):
        lit.goto(path)
        lit.get_by_test_id("sentence").wait_for()
        assert violations(lit) == []


def test_the_choices(lit: Page) -> None:
    lit.goto(first_shot(lit, NINE))
    lit.get_by_test_id("sentence").wait_for()
    lit.keyboard.press("Shift+C")
    lit.get_by_test_id("option").first.wait_for(timeout=60_000)
    assert violations(lit) == []
    for page in ("attack or safety", "who could run this", "trouble"):
        lit.get_by_role("tab", name=page, exact=True).click()
        assert violations(lit) == [], page
