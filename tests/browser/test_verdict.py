"""From a lost rack to the moment that turned it, the better option, the recording's place, and back."""

from __future__ import annotations

import json
import re

import pytest
from playwright.sync_api import Page, expect

from aretane.demo.load import game_of
from tests.conftest import Client
from tests.lost_rack import lost_rack


@pytest.fixture(scope="module")
def match(app) -> str:
    return str(Client(app).send("POST", "/games/import", data=json.dumps(lost_rack())).json["id"])


@pytest.fixture
def verdict(page: Page, site: str, match: str) -> Page:
    page.goto(f"/match/{match}/verdict")
    expect(page.locator("[data-moment]").first).to_be_visible(timeout=120_000)
    return page


def test_a_lost_rack_its_turning_point_the_better_option_and_back(verdict: Page, match: str):
    page = verdict
    expect(page.locator("[data-rack='0']")).to_contain_text("turned at shot 2 by Odile Brant")
    moment = page.locator("[data-moment]", has_text="turned the rack")
    expect(moment).to_contain_text("shot 2")
    expect(moment.get_by_test_id("cost")).to_contain_text("points")
    moment.get_by_test_id("cost").click()
    expect(page).to_have_url(re.compile("moment="))
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile(rf"/match/{match}\?shot="))
    expect(page.locator("[data-shot][aria-current=true]")).to_contain_text("9")
    expect(page.get_by_test_id("win-line")).to_be_visible()
    expect(page.locator("[data-shot]").first.get_by_test_id("change")).to_have_text(re.compile(r"[+−]?\d"))
    page.keyboard.press("Shift+J")
    expect(page).to_have_url(re.compile("verdict"))
    expect(page.locator("[data-moment][aria-current=true]")).to_contain_text("shot 2")


def test_a_moments_links_lead_to_the_bench_and_to_an_exercise(verdict: Page, match: str):
    page = verdict
    page.locator("[data-moment]").first.get_by_role("link", name=re.compile(r"^rack \d")).click()
    expect(page).to_have_url(re.compile(rf"/match/{match}\?shot="))
    expect(page.locator("[data-shot][aria-current=true]")).to_be_visible()
    page.keyboard.press("Shift+J")
    page.locator("[data-moment]").first.get_by_test_id("cost").click()
    page.locator("[data-moment]").first.get_by_role("link", name="make it an exercise").click()
    expect(page.get_by_role("heading", name="An exercise of this shot")).to_be_visible()


def test_on_a_phone_the_verdict_is_no_wider_than_the_page(page: Page):
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"/match/{game_of('nine-ball')}/verdict")
    expect(page.get_by_test_id("match-card")).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_moments_are_filtered_and_the_address_keeps_it(verdict: Page):
    page = verdict
    page.get_by_role("button", name="Piers Coombe").click()
    expect(page.locator("[data-moment]", has_text="Odile Brant")).to_have_count(0)
    page.get_by_label("What is looked for").select_option("decisions")
    expect(page).to_have_url(re.compile("player=B.*what=decisions"))
    page.reload()
    expect(page.get_by_label("What is looked for")).to_have_value("decisions", timeout=20_000)
    page.get_by_role("button", name="by phase and school").click()
    expect(page.get_by_test_id("phases")).to_contain_text("end pattern")
    expect(page.get_by_test_id("schools")).to_contain_text("matter of taste")


def test_an_edit_of_an_early_shot_is_followed(verdict: Page, match: str):
    page = verdict
    page.goto(f"/match/{match}")
    page.locator("[data-shot]").first.click()
    with page.expect_response("**/operations"):
        page.keyboard.press("d")
    page.keyboard.press("Shift+J")
    card = page.locator("[data-moment][aria-current=true]")
    expect(card).to_contain_text("foot right", timeout=120_000)
    page.goto(f"/match/{match}")
    page.locator("[data-shot]").first.click()
    with page.expect_response("**/undo"):
        page.keyboard.press("u")


def test_a_plan_is_laid_down_and_an_option_weighed(page: Page, match: str):
    page.goto(f"/match/{match}")
    page.locator("[data-shot]").first.click()
    page.keyboard.press("Shift+C")
    expect(page.get_by_test_id("option").nth(1)).to_be_visible(timeout=120_000)
    page.get_by_role("button", name="lay one down").click()
    page.get_by_role("group", name="Balls in their order").get_by_role("button", name="8").click()
    page.locator("[data-ball='9']").first.click()  # or on the table itself
    drawing = page.get_by_test_id("drawing")
    drawing.click(position={"x": 250, "y": 120})  # where the cue ball should be to play it
    expect(page.get_by_role("button", name="Remove the zone for the 9 ball")).to_be_visible()
    page.get_by_label("Pocket for the 8 ball").select_option("foot left")
    page.get_by_label("Speed for the 8 ball").select_option("medium")
    page.get_by_label("In words").fill("eight, then up the table")
    with page.expect_response("**/operations"):
        page.get_by_role("button", name="Keep the plan").click()
    expect(page.get_by_test_id("written-plan")).to_contain_text("8 – 9 (zone)")
    page.get_by_test_id("option").first.get_by_role("button").first.click()
    page.get_by_label("What speaks for it").fill("it is nearly straight")
    with page.expect_response("**/operations"):
        page.get_by_role("button", name="weigh it").click()
    expect(page.get_by_test_id("weighed")).to_contain_text("nearly straight")
    page.get_by_role("button", name="compare with another").click()
    page.get_by_test_id("option").nth(1).get_by_role("button").first.click()
    expect(page.get_by_test_id("side-by-side")).to_contain_text("where it stops")
    firmer = page.get_by_role("row", name=re.compile("a tenth firmer"))
    expect(firmer).to_contain_text(re.compile("cm off|cue ball lost"))


def test_a_written_plan_stands_beside_what_was_played(page: Page):
    """The demo's order that was counted out loud, and left for another ball."""
    page.goto(f"/match/{game_of('eight-ball')}/verdict")
    told = page.get_by_test_id("followed")
    expect(told).to_contain_text("Tomas Verrall: 4 – 5 – 3 – 1 – 6 – 8")
    expect(told).to_contain_text("left at shot 12 for the 6")
    expect(told).to_contain_text("keeping to it −")
    expect(told).to_contain_text("the 6 was better at shot 9")
