"""How the bench uses its room: everything seen at once, the bar, one pane alone, a second window, watching."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Locator, Page, expect

from aretane.demo.load import game_of
from tests.browser.test_accessible import first_shot

DEMO = game_of("nine-ball")


def open_bench(page: Page) -> None:
    page.goto(first_shot(page, DEMO, rack=4))
    page.locator('[data-testid="picture"] [data-ring="cue"]').wait_for()


def box(one: Locator) -> dict[str, float]:
    found = one.bounding_box()
    assert found
    return dict(found)


def until(video: Locator, holds: str) -> None:
    """The page allows no script from text, which Playwright's own waiting needs."""
    for _ in range(200):
        if video.evaluate(holds):
            return
        video.page.wait_for_timeout(50)
    raise AssertionError(holds)


@pytest.mark.parametrize(("width", "height"), [(1280, 800), (820, 1180)])
def test_picture_plan_sentence_and_strip_are_seen_at_once(page: Page, width: int, height: int) -> None:
    page.set_viewport_size({"width": width, "height": height})
    open_bench(page)
    for part in ("picture", "drawing", "sentence"):
        at = box(page.get_by_test_id(part))
        assert at["y"] >= 0, part
        assert at["y"] + at["height"] <= height, part
        assert at["x"] + at["width"] <= width, part
    strip = box(page.get_by_role("region", name="Shots"))
    assert strip["y"] + strip["height"] <= height
    assert page.evaluate("document.documentElement.scrollHeight") <= height
    assert box(page.get_by_test_id("drawing"))["width"] > 0.35 * width


def test_on_a_phone_the_entry_begins_on_the_first_screen_and_nothing_is_wider(page: Page) -> None:
    page.set_viewport_size({"width": 390, "height": 844})
    open_bench(page)
    assert page.evaluate("document.documentElement.scrollTop") == 0
    assert box(page.get_by_test_id("entry"))["y"] < 844
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_text_twice_as_large_loses_nothing(page: Page) -> None:
    """A window of 640 x 400 is what 200 % leaves of 1280 x 800."""
    page.set_viewport_size({"width": 640, "height": 400})
    open_bench(page)
    assert page.evaluate("document.documentElement.scrollWidth") <= 640
    page.get_by_test_id("sentence").scroll_into_view_if_needed()
    expect(page.get_by_test_id("sentence")).to_be_in_viewport()


def test_the_bar_is_dragged_and_moved_by_keys(page: Page) -> None:
    open_bench(page)
    bar = page.get_by_role("separator", name="Room of the picture")
    before = box(page.get_by_role("region", name="Picture"))["width"]
    at = box(bar)
    page.mouse.move(at["x"] + 5, at["y"] + 50)
    page.mouse.down()
    page.mouse.move(at["x"] + 165, at["y"] + 50, steps=5)
    page.mouse.up()
    wider = box(page.get_by_role("region", name="Picture"))["width"]
    assert wider == pytest.approx(before + 160, abs=12)
    bar.focus()
    page.keyboard.press("ArrowLeft")
    assert box(page.get_by_role("region", name="Picture"))["width"] < wider - 20


def test_one_pane_alone_on_a_key(page: Page) -> None:
    open_bench(page)
    page.keyboard.press("=")
    expect(page.get_by_test_id("drawing")).to_have_count(0)
    page.keyboard.press("=")
    expect(page.get_by_test_id("picture")).to_have_count(0)
    page.keyboard.press("=")
    expect(page.get_by_test_id("picture")).to_be_visible()
    expect(page.get_by_test_id("drawing")).to_be_visible()


def test_the_plan_in_its_own_window_keeps_in_step_and_hands_back_what_is_done_there(page: Page) -> None:
    open_bench(page)
    page.keyboard.press("/")
    page.get_by_role("combobox", name="Command").fill("window of its own")
    with page.context.expect_page() as opened:
        page.keyboard.press("Enter")
    other = opened.value
    other.locator('[data-ball="cue"]').wait_for()
    expect(other).to_have_title(re.compile("^Plan: Winter ladder"))
    place = other.locator('[data-ball="8"]').get_attribute("transform")
    assert page.locator('[data-testid="drawing"] [data-ball="8"]').get_attribute("transform") == place
    page.bring_to_front()
    page.keyboard.press("ArrowDown")  # the next shot: the window follows
    expect(other.locator('[data-ball="5"]')).to_have_attribute(
        "transform", str(page.locator('[data-testid="drawing"] [data-ball="5"]').get_attribute("transform"))
    )
    other.bring_to_front()
    other.keyboard.press("b")  # keys pressed there are the bench's
    expect(page.get_by_role("button", name="after")).to_have_attribute("aria-pressed", "true")
    other.locator('[data-ball="cue"]').click()
    chosen = '[data-ball="cue"] > circle[stroke="var(--color-primary)"]'
    expect(page.locator(f'[data-testid="drawing"] {chosen}')).to_have_count(1)
    expect(other.locator(chosen)).to_have_count(1)


def test_a_match_is_watched_without_its_waiting(page: Page) -> None:
    open_bench(page)
    video = page.get_by_test_id("video")
    page.keyboard.press("ArrowUp")
    page.keyboard.press(";")
    expect(page.get_by_test_id("said")).to_contain_text("Watching")
    until(video, "one => one.paused")  # at the still picture
    page.keyboard.press("Space")
    until(video, "one => !one.paused")
    until(video, "one => one.playbackRate === 0.25")  # round the contact
    page.keyboard.press("Space")
    until(video, "one => one.paused")
    page.keyboard.press(";")
    assert video.evaluate("one => one.paused")
