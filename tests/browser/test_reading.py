"""A recording dropped in and read: outline confirmed, one ball corrected, all shots on the strip with layouts."""

from __future__ import annotations

import json
import re

from playwright.sync_api import Page, expect

from tests.conftest import DEMO

TRUTH = json.loads((DEMO / "truth.json").read_bytes())
SHOTS = len(TRUTH["shots"])
PATIENCE = 180_000  # ms for reading 73 s of recording on a slow machine


def new_match(page: Page) -> None:
    page.goto("/")
    page.get_by_role("button", name="New match").click()
    page.get_by_label("Title").fill("Found by looking")
    page.get_by_label("Player A", exact=True).fill("Ada Lindqvist")
    page.get_by_label("Player B", exact=True).fill("Ben Castellan")
    page.get_by_role("button", name="Begin").click()
    page.get_by_test_id("drawing").wait_for()


def test_a_recording_is_read_from_the_file_to_the_log(page: Page) -> None:
    new_match(page)
    page.get_by_role("button", name="Choose a recording").click()
    page.get_by_role("dialog").locator('input[type="file"]').set_input_files(DEMO / "rack.mp4")
    page.get_by_test_id("video").wait_for()

    page.get_by_role("button", name="mark the table").click()
    page.get_by_role("button", name="suggest").click()
    expect(page.get_by_test_id("said")).to_contain_text("A first guess", timeout=60_000)
    expect(page.get_by_test_id("camera-error")).to_be_visible()
    page.get_by_role("button", name="done marking").click()

    page.keyboard.press("Shift+R")
    expect(page.get_by_test_id("said")).to_contain_text(re.compile(r"\d+ balls"), timeout=60_000)
    assert page.locator("[data-ball]").count() >= 8

    page.get_by_role("button", name="find shots").click()
    expect(page.locator("[data-found]").first).to_be_visible(timeout=PATIENCE)
    expect(page.get_by_role("progressbar")).to_have_count(0, timeout=PATIENCE)
    expect(page.locator("[data-found]")).to_have_count(SHOTS)
    expect(page.get_by_test_id("said")).to_contain_text("read to its end")

    # one ball is corrected, and the correction holds in the next shot too
    page.locator("[data-found]").nth(1).click()
    ring = page.locator('[data-testid="drawing"] [data-ball="8"]')
    ring.click()
    page.keyboard.press("4")
    expect(page.get_by_test_id("said")).to_contain_text("It is the 4")
    page.locator("[data-found]").nth(2).click()
    expect(page.locator('[data-testid="drawing"] [data-ball="8"]')).to_have_count(0)
    page.keyboard.press("Shift+Z")
    expect(page.locator('[data-testid="drawing"] [data-ball="8"]')).to_have_count(1)

    # the same without a keyboard, as on a tablet
    page.locator('[data-testid="drawing"] [data-ball="8"]').click()
    page.get_by_role("group", name="Which ball is it").get_by_text("4", exact=True).click()
    expect(page.get_by_test_id("said")).to_contain_text("It is the 4")
    page.get_by_role("button", name="take back").click()
    expect(page.locator('[data-testid="drawing"] [data-ball="8"]')).to_have_count(1)

    # a false one is deleted and comes back, the picture is compared with the drawing
    page.keyboard.press("Delete")
    expect(page.locator("[data-found]")).to_have_count(SHOTS - 1)
    page.keyboard.press("Shift+Z")
    expect(page.locator("[data-found]")).to_have_count(SHOTS)
    page.keyboard.press("Shift+D")
    expect(page.get_by_test_id("drawn")).to_be_visible()
    page.keyboard.press("Shift+D")

    # all of them into the log, each with both layouts
    page.locator("[data-found]").first.click()
    page.get_by_role("button", name="log all").click()
    expect(page.locator("[data-shot]")).to_have_count(SHOTS)
    for number in (0, SHOTS // 2, SHOTS - 1):
        page.locator("[data-shot]").nth(number).click()
        expect(page.locator('[data-testid="drawing"] [data-ball]').first).to_be_visible()
        page.get_by_role("button", name="after", exact=True).click()
        expect(page.locator('[data-testid="drawing"] [data-ball]').first).to_be_visible()
