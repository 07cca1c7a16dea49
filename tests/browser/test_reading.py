"""A recording dropped in and read: outline confirmed, one ball corrected, all shots on the strip with layouts."""

from __future__ import annotations

import json
import re

from playwright.sync_api import Page, expect

from tests.browser.test_first_rack import POCKET_KEYS, RESULT_KEYS
from tests.conftest import DEMO
from tests.vision.films import beginning

TRUTH = json.loads((DEMO / "truth.json").read_bytes())
MATCH = json.loads((DEMO / "matches" / "nine-ball.json").read_bytes())
WORDS = {
    "made": "made",
    "missed-thick": "missed thick",
    "missed-thin": "missed thin",
    "missed-jaw": "in the jaws",
    "fluke": "fluke",
}
UNTIL = 31.0  # seconds of the recording that are read
SHOTS = sum(shot["still"] < UNTIL for shot in TRUTH["shots"])
PATIENCE = 240_000  # ms for reading so much on a slow machine


def new_match(page: Page) -> None:
    page.goto("/")
    page.get_by_role("button", name="New match").click()
    page.get_by_label("Title", exact=True).fill("Found by looking")
    page.get_by_label("Player A", exact=True).fill("Ada Lindqvist")
    page.get_by_label("Player B", exact=True).fill("Ben Castellan")
    page.get_by_role("button", name="Begin").click()
    page.get_by_test_id("drawing").wait_for()


def test_a_recording_is_read_from_the_file_to_the_log(page: Page, tmp_path) -> None:
    new_match(page)
    page.get_by_role("button", name="Choose a recording").click()
    page.get_by_role("dialog").locator('input[type="file"]').set_input_files(
        beginning(tmp_path / "rack.mp4", DEMO / "rack.mp4", UNTIL)
    )
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

    review_by_keys(page)


def review_by_keys(page: Page) -> None:
    """The shots into the log: a nod where the sentence is right, else one word put right. What it says then is
    what the film's own script says.
    """
    script = MATCH["racks"][4]["shots"][:SHOTS]
    page.keyboard.press("Escape")
    page.keyboard.press("Escape")
    page.keyboard.press("'")
    pressed: list[int] = []
    sentence = page.get_by_test_id("sentence")
    for number, true in enumerate(script):
        expect(page.locator("[data-found]").nth(number)).to_have_attribute("aria-current", "true")
        expect(sentence).not_to_be_empty()
        keys = []
        called = true.get("called")
        if called and f"into {called['pocket'].replace('-', ' ')}" not in sentence.inner_text():
            keys.append(POCKET_KEYS[called["pocket"]])
        wanted = WORDS.get(true.get("result") or ("made" if true["potted"] else ""), "")
        if called and wanted not in sentence.inner_text():
            keys.append(RESULT_KEYS[true["result"]])
        for key in [*keys, "Enter"]:
            page.keyboard.press(key)
        pressed.append(len(keys) + 1)
        expect(page.locator("[data-shot]")).to_have_count(number + 1)
    expect(page.get_by_test_id("entry")).to_contain_text("Next shot")  # nothing that was found is left to nod at
    expect(page.get_by_test_id("sync")).to_have_text("all written")
    assert sorted(pressed)[len(pressed) // 2] == 1
    assert max(pressed) <= 2
    assert sum(pressed) <= SHOTS + 1, pressed
    game = page.request.get(f"/api/games/{page.url.rsplit('/', 1)[1].split('?')[0]}").json()
    for told, true in zip(game["racks"][0]["shots"], script, strict=True):
        document = told["document"]
        assert document["player"] == true["player"]
        assert {one["ball"] for one in document["potted"]} == {one["ball"] for one in true["potted"]}
        assert document.get("called") == true.get("called")
        assert set(document["inferred"]) <= {"layout_before", "layout_after", "time", "route"}, "it was nodded at"

    # a correction of the recording reaches what the picture had told, and a word of the coach stays
    page.locator("[data-found]").nth(2).click()
    page.locator('[data-testid="drawing"] [data-ball="8"]').click()
    page.keyboard.press("4")
    expect(page.get_by_test_id("said")).to_contain_text("It is the 4")
    page.locator("[data-shot]").nth(2).click()
    expect(page.locator('[data-testid="drawing"] [data-ball="4"]')).to_have_count(1)
    page.keyboard.press("u")
    expect(page.get_by_test_id("said")).to_contain_text("Taken back")
    expect(page.locator('[data-testid="drawing"] [data-ball="8"]')).to_have_count(1)
