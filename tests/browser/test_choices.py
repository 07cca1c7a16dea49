"""From a lost rack to the choice that cost it, to the better option, and on to another table."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from aretane.demo.load import game_of

GAME = game_of("nine-ball")
LOST = {"rack": 1, "shot": 11}  # a forced pot of the eight, missed in the jaws: the rack goes to the other


@pytest.fixture
def choices(page: Page):
    """The bench at the costly shot, its choices open."""
    page.goto(f"/match/{GAME}")
    page.get_by_role("button", name=re.compile(rf"^rack {LOST['rack']}")).click()
    shots = page.locator("[data-shot]")
    expect(shots.nth(LOST["shot"] - 1)).to_be_visible()
    shots.nth(LOST["shot"] - 1).click()
    page.keyboard.press("Shift+C")
    expect(page.get_by_test_id("option").first).to_be_visible(timeout=60_000)
    return page


def test_the_choice_that_cost_the_rack_and_the_better_one(choices: Page):
    page = choices
    expect(page.get_by_test_id("cost")).to_contain_text("costs", timeout=60_000)
    expect(page.get_by_text("played", exact=True)).to_be_visible()
    better = page.get_by_test_id("option").first
    better.get_by_role("button").click()
    expect(page.locator('[data-line="cue-path"]')).to_be_visible()
    expect(page.get_by_test_id("cloud")).to_be_visible()
    expect(better).to_contain_text("m/s")
    better.get_by_role("button").click()
    expect(page.locator('[data-line="acceptable"]').first).to_be_visible()
    page.keyboard.press("Shift+M")
    expect(page.locator('[data-line="acceptable"]')).to_have_count(0)
    page.keyboard.press("Shift+M")


def test_dragging_the_cue_ball_changes_the_value_at_once(choices: Page):
    page = choices
    here = page.get_by_test_id("here")
    expect(here).to_contain_text("runs out")
    before = here.inner_text()
    cue = page.locator("[data-ball=cue]").bounding_box()
    assert cue
    page.mouse.move(cue["x"] + 6, cue["y"] + 6)
    page.mouse.down()
    page.mouse.move(cue["x"] + 120, cue["y"] - 70, steps=6)
    expect(here).not_to_have_text(before)
    page.mouse.up()
    expect(page.get_by_test_id("said")).to_contain_text("what was logged stays")
    page.get_by_role("button", name="as logged").click()
    expect(here).to_contain_text("runs out")
    expect(page.get_by_role("button", name="as logged")).to_have_count(0)


def test_plan_break_even_and_trouble_lie_behind_the_list(choices: Page):
    page = choices
    expect(page.get_by_test_id("plan")).to_contain_text("racks played on", timeout=90_000)
    expect(page.get_by_test_id("plan").locator("tbody tr").first).to_be_visible()
    page.get_by_role("tab", name="attack or safety").click()
    expect(page.get_by_test_id("break-even")).to_be_visible()
    page.get_by_role("tab", name="trouble").click()
    expect(page.get_by_test_id("trouble")).to_be_visible()


def test_what_is_felt_is_kept_and_listed(choices: Page):
    page = choices
    pot = page.get_by_label("Felt pot in percent")
    pot.fill("70")
    pot.press("Enter")
    page.get_by_label("Verdict").select_option("wrong choice")
    expect(page.get_by_text("all written")).to_be_visible()
    page.get_by_role("link", name="Figures").click()
    page.get_by_role("link", name="survey").click()
    line = page.get_by_test_id("felt-list").locator("tbody tr", has_text="wrong choice")
    expect(line).to_contain_text("70 %")
    page.goto(f"/match/{GAME}")
    expect(page.locator("[data-shot]").first).to_be_visible()
    for _ in range(2):  # the match is the other tests' too: both changes are taken back
        with page.expect_response("**/undo") as undone:
            page.keyboard.press("u")
        assert undone.value.ok
    page.get_by_role("link", name="Figures").click()
    page.get_by_role("link", name="survey").click()
    expect(page.get_by_test_id("felt-list")).to_be_visible()
    expect(page.get_by_test_id("felt-list").get_by_text("wrong choice")).to_have_count(0)


def test_a_break_is_not_valued_and_says_so(page: Page):
    page.goto(f"/match/{GAME}")
    page.get_by_role("button", name=re.compile(r"^rack 1")).click()
    page.locator("[data-shot]").first.click()
    page.keyboard.press("Shift+C")
    expect(page.get_by_test_id("choices")).to_contain_text("A break is not valued")


def choices_at(page: Page, discipline: str, rack: int, shot: int) -> None:
    page.goto(f"/match/{game_of(discipline)}")
    page.get_by_role("button", name=re.compile(rf"^(rack|frame|game) {rack}")).first.click()
    shots = page.locator("[data-shot]")
    expect(shots.nth(shot - 1)).to_be_visible()
    shots.nth(shot - 1).click()
    page.keyboard.press("Shift+C")
    expect(page.get_by_test_id("plan")).to_contain_text("key ball", timeout=90_000)


def test_an_order_that_begins_with_another_ball_and_its_price(page: Page):
    choices_at(page, "eight-ball", 1, 14)
    plan, others = page.get_by_test_id("plan"), page.get_by_test_id("other-orders")
    expect(others.locator("li").first).to_contain_text(re.compile(r"as good|−\d+ points"))
    rows = plan.locator("tbody tr")
    expect(rows.last).to_contain_text("8")
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


def test_from_the_open_table_to_the_eight(page: Page):
    choices_at(page, "eight-ball", 1, 2)
    groups = page.get_by_test_id("groups")
    expect(groups).to_contain_text(re.compile("Take the (solids|stripes)"))
    expect(groups).to_contain_text("wins")
    page.locator("[data-shot]").nth(16).click()
    rows = page.get_by_test_id("plan").locator("tbody tr")
    expect(rows).to_have_count(1, timeout=60_000)
    expect(rows.first).to_contain_text("8")
    expect(page.get_by_test_id("other-orders")).to_have_count(0)


def test_straight_pool_down_to_its_break_shot(page: Page):
    choices_at(page, "straight-pool", 1, 13)
    shots = page.get_by_test_id("break-shots")
    expect(shots).to_contain_text(re.compile(r"opens from a cut of \d+°|does not open"))
    rows = page.get_by_test_id("plan").locator("tbody tr")
    last = rows.last.locator("button").inner_text()
    expect(page.get_by_test_id("plan")).to_contain_text(f"break ball {last}")
    rows.last.locator("button").click()
    expect(page.locator('[data-line="acceptable"]').first).to_be_visible()


def test_in_straight_pool_choices_and_plan_come_from_the_same_visits(page: Page):
    choices_at(page, "straight-pool", 1, 13)
    expect(page.get_by_test_id("choices").get_by_role("button", name="stop")).to_have_count(0, timeout=90_000)
    expect(page.get_by_test_id("plan")).to_contain_text(re.compile(r"\d+ visits played on"))
    page.get_by_role("button", name=re.compile(r"^all \d+")).click()
    seen = []
    for row in page.get_by_test_id("option").all():
        row.get_by_role("button").first.click()
        seen.append(row.inner_text().lower())
        row.get_by_role("button").first.click()
    played = [text for text in seen if re.search(r"from \d+ visits played to their end", text)]
    assert len(played) == 1, "one attack was played on"
    assert "scores" in played[0]
    assert "runs out" not in "".join(seen)
    assert any("drawn to what was played to the end" in text for text in seen)
