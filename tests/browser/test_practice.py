"""To the table and back: a shot becomes an exercise, is tapped on a phone, and the line may drop."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from aretane.demo.load import game_of
from tests.browser.test_accessible import first_shot, violations


def test_a_shot_is_practised_on_a_phone_and_nothing_is_lost_when_the_line_drops(page: Page) -> None:
    page.goto(first_shot(page, game_of("nine-ball"), rack=0, shot=2))
    page.locator('[data-testid="entry"]').wait_for()
    page.keyboard.press("Shift+E")
    expect(page).to_have_url(re.compile("/practice/new"))
    page.get_by_label("for a player of the level").select_option("league")
    page.get_by_role("button", name=re.compile("^(harder|as it was)")).last.click()
    expect(page).to_have_url(re.compile(r"/practice/[0-9a-f-]{36}"))

    page.set_viewport_size({"width": 390, "height": 844})
    page.get_by_label("who practises").fill("Ilse Marwood")
    page.get_by_role("button", name="white where it should be").click()
    page.get_by_role("button", name="made", exact=True).click()
    expect(page.get_by_test_id("progress")).to_contain_text("100 %")
    expect(page.get_by_test_id("progress")).to_contain_text("white in place 100 %")
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    assert violations(page) == []

    page.route("**/attempts", lambda route: route.abort())
    page.get_by_role("button", name="missed thick").click()
    page.get_by_role("button", name="missed thin").click()
    expect(page.get_by_text("this set").locator("..")).to_contain_text("2 kept here, sent when the line is back")
    page.get_by_role("button", name="take “missed thin” back").click()
    page.reload()
    page.unroute("**/attempts")
    page.reload()
    expect(page.get_by_test_id("progress")).to_contain_text("50 %")
    expect(page.get_by_test_id("progress")).to_contain_text("1 thick")
    expect(page.get_by_role("region", name="Ilse Marwood")).to_contain_text("18 more tries before the numbers tell")

    page.get_by_role("link", name="Practice").click()
    page.locator('a[href^="/practice/"]').first.click()
    page.on("dialog", lambda dialog: dialog.accept())
    page.get_by_role("button", name="give it up").click()
    expect(page.get_by_text("No exercise yet")).to_be_visible()
    assert violations(page) == []


def test_a_shot_that_makes_no_exercise_says_why(page: Page) -> None:
    asked = first_shot(page, game_of("nine-ball"), shot=0).replace("/match/", "game=").replace("?", "&")
    page.goto(f"/practice/new?{asked}")
    expect(page.get_by_role("alert")).to_contain_text("meant ball")
