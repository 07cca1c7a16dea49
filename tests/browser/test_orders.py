"""Orders on the bench: what beginning with another ball costs, and an order of the coach's own."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from aretane.demo.load import game_of


def choices_at(page: Page, discipline: str, rack: int, shot: int) -> None:
    page.goto(f"/match/{game_of(discipline)}")
    page.get_by_role("button", name=re.compile(rf"^(rack|frame|game) {rack}")).first.click()
    shots = page.locator("[data-shot]")
    expect(shots.nth(shot - 1)).to_be_visible()
    shots.nth(shot - 1).click()
    page.keyboard.press("Shift+C")
    expect(page.get_by_test_id("plan")).to_contain_text("key ball", timeout=90_000)


@pytest.mark.parametrize(("discipline", "shot", "last"), [("eight-ball", 7, "8")])
def test_an_order_that_begins_with_another_ball_and_its_price(page: Page, discipline: str, shot: int, last: str):
    choices_at(page, discipline, 1, shot)
    plan, others = page.get_by_test_id("plan"), page.get_by_test_id("other-orders")
    expect(others.locator("li").first).to_contain_text(re.compile(r"as good|−\d+ points"))
    rows = plan.locator("tbody tr")
    expect(rows.last).to_contain_text(last)
    first = rows.first.locator("button").inner_text()
    other = others.locator("li button").first
    wanted = other.inner_text()
    assert wanted != first
    other.click()
    expect(rows.first.locator("button")).to_have_text(wanted, timeout=60_000)
    expect(page.locator('[data-line="aim"]').first).to_be_visible()
    page.get_by_role("button", name="back to the best order").click()
    expect(rows.first.locator("button")).to_have_text(first)
    page.get_by_role("button", name="draw the order").click()
    expect(page.locator('[data-line="aim"]')).to_have_count(0)
