"""From moments of the verdict to a film with what was better drawn in it, and the coach's voice over it."""

from __future__ import annotations

import re

import av
import pytest
from playwright.sync_api import Locator, Page, expect

from aretane.demo.load import game_of

GAME = game_of("nine-ball")


@pytest.fixture
def filmed(page: Page) -> Locator:
    """The dearest moment of the filmed rack, chosen."""
    page.goto(f"/match/{GAME}/verdict?shown=60")
    moment = page.locator("[data-moment]", has_text="rack 5, shot").first
    moment.get_by_test_id("cost").click()
    return moment


def test_moments_are_picked_and_taken_away_as_a_film(page: Page, filmed: Locator):
    filmed.get_by_role("button", name="pick it").click()
    picked = page.get_by_role("region", name="Picked moments")
    expect(picked.get_by_role("listitem")).to_have_count(1)
    picked.get_by_label("the room is heard").uncheck()
    picked.get_by_role("button", name="make a film").click()
    link = picked.get_by_role("link", name="take the film away")
    expect(link).to_be_visible(timeout=30_000)
    with page.expect_download() as found:
        link.click()
    assert found.value.suggested_filename == "moments.mp4"
    with av.open(found.value.path()) as file:
        assert file.duration / av.time_base > 7
    picked.get_by_role("button", name="none of them").click()
    expect(picked).to_have_count(0)


def test_a_moment_without_a_recording_goes_into_a_report_and_not_into_a_film(page: Page):
    page.goto(f"/match/{GAME}/verdict")
    moments = page.locator("[data-moment]", has_text=re.compile("rack [1-4], shot"))
    for at in (0, 1):
        moments.nth(at).get_by_test_id("cost").click()
        moments.nth(at).get_by_role("button", name="pick it").click()
    picked = page.get_by_role("region", name="Picked moments")
    second = picked.get_by_role("listitem").nth(1).text_content()
    picked.get_by_role("button", name="earlier").click()
    expect(picked.get_by_role("listitem").first).to_contain_text(second.replace("←", ""))
    picked.get_by_label("what you say to it").fill("Well played until here.")
    link = picked.get_by_role("link", name="report for Ilse Marwood").get_attribute("href")
    words = page.request.get(link.replace("/pdf", "/html")).text()
    assert "Well played until here." in words
    assert words.index(second.replace("←", "").capitalize()) > 0
    assert words.count('class="moment"') == 2
    picked.get_by_role("button", name="make a film").click()
    expect(picked.get_by_role("alert")).to_contain_text("is in no recording")


def test_the_coach_says_something_over_a_moment_and_takes_it_back(page: Page, filmed: Locator):
    voice = filmed.get_by_test_id("voice")
    voice.get_by_role("button", name="say something over it").click()
    expect(voice.get_by_role("button", name=re.compile("stop, [12] s"))).to_be_visible()
    with page.expect_response("**/voice") as kept:
        voice.get_by_role("button", name="stop").click()
    assert kept.value.ok, kept.value.text()
    expect(voice.locator("audio")).to_have_attribute("aria-label", re.compile(r"[12] seconds"))
    page.reload()
    expect(
        page.locator("[data-moment][aria-current=true]").get_by_test_id("voice").locator("audio")
    ).to_be_visible()
    page.get_by_role("button", name="Take back what was said").click()
    expect(page.locator("audio")).to_have_count(0)
