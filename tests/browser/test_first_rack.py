"""The whole path as a coach walks it: a recording of their own, marked, placed, logged by keyboard, counted."""

from __future__ import annotations

import json
import math
import re
from itertools import count

import pytest
from playwright.sync_api import Locator, Page, expect

from tests.conftest import DEMO

TRUTH = json.loads((DEMO / "truth.json").read_bytes())
MATCH = json.loads((DEMO / "matches" / "nine-ball.json").read_bytes())
RACK = MATCH["racks"][4]
MARKS = MATCH["recordings"][0]["views"][0]["camera"]["marks"]
SIZE = TRUTH["camera"]["size"]

TITLES = (f"Wednesday practice {n}" for n in count(1))  # another one for another try

POCKET_KEYS = {
    "head-left": "q",
    "side-left": "w",
    "foot-left": "e",
    "head-right": "a",
    "side-right": "s",
    "foot-right": "d",
}
RESULT_KEYS = {"missed-thick": "t", "missed-thin": "n", "missed-jaw": "j"}


def pixel_of(place: list[float]) -> tuple[float, float]:
    """Where the truth's own camera sees a ball's centre that stands at `place`."""
    import numpy as np

    rotation, translation = np.array(TRUTH["camera"]["rotation"]), np.array(TRUTH["camera"]["translation"])
    x, y, z = rotation @ np.array([*place, 0.028575]) + translation
    focal = TRUTH["camera"]["focal"]
    return focal * x / z + SIZE[0] / 2, focal * y / z + SIZE[1] / 2


class BenchPage:
    def __init__(self, page: Page) -> None:
        self.page = page
        self.keys = 0

    def press(self, *keys: str) -> None:
        for key in keys:
            self.page.keyboard.press(key)
            self.keys += 1

    def picture_point(self, pixel: tuple[float, float]) -> tuple[float, float]:
        box = self.page.get_by_test_id("picture").bounding_box()
        assert box
        return box["x"] + pixel[0] / SIZE[0] * box["width"], box["y"] + pixel[1] / SIZE[1] * box["height"]

    def click_picture(self, place: list[float]) -> None:
        x, y = self.picture_point(pixel_of(place))
        self.page.mouse.click(x, y)

    def drag_mark(self, name: str, pixel: tuple[float, float]) -> None:
        box = self.page.locator(f'[data-mark="{name}"]').first.bounding_box()
        held = self.page.locator(f'[data-mark="{name}"] circle').first.bounding_box()
        assert box
        self.page.mouse.move(held["x"] + held["width"] / 2, held["y"] + held["height"] / 2)
        self.page.mouse.down()
        x, y = self.picture_point(pixel)
        self.page.mouse.move(x - 5, y - 5)
        self.page.mouse.move(x, y)
        self.page.mouse.up()

    def written(self) -> None:
        expect(self.page.get_by_test_id("sync")).to_have_text("all written")


def test_a_rack_from_recording_to_percentage(page: Page) -> None:
    bench = BenchPage(page)
    page.goto("/")
    page.get_by_role("button", name="New match").click()
    title = next(TITLES)
    page.get_by_label("Title", exact=True).fill(title)
    page.get_by_label("Player A", exact=True).fill("Ada Lindqvist")
    page.get_by_label("Player B", exact=True).fill("Ben Castellan")
    page.get_by_label("Session").select_option("lesson")
    page.get_by_role("button", name="Begin").click()

    # A recording of their own
    page.get_by_role("button", name="Choose a recording").click()
    page.get_by_role("dialog").locator('input[type="file"]').set_input_files(DEMO / "rack.mp4")
    expect(page.get_by_test_id("transport")).to_be_visible()
    expect(page.get_by_test_id("frame-label")).to_have_text(re.compile(r"/\d{4}$"))

    # The table is marked once
    page.get_by_role("button", name="mark the table").click()
    for name, pixel in MARKS.items():
        if name.startswith("corner"):
            bench.drag_mark(name, tuple(pixel))
    expect(page.get_by_test_id("camera-error")).to_contain_text("px")
    page.get_by_role("button", name="add pockets").click()
    for name, pixel in MARKS.items():
        if name.startswith("pocket"):
            bench.drag_mark(name, tuple(pixel))
    page.locator('[data-mark="pocket:side-left"] circle').dblclick(force=True)  # one is taken away again
    page.get_by_role("button", name="picture's edge").click()  # as of a screen recording; this is none
    bench.drag_mark("frame:top-left", (20, 12))
    assert float(page.get_by_test_id("picture-edge").get_attribute("x") or 0) == pytest.approx(20, abs=4)
    page.get_by_role("button", name="picture's edge").click()
    expect(page.get_by_test_id("picture-edge")).to_have_count(0)
    expect(page.locator("[data-mark]")).to_have_count(9)
    page.get_by_role("button", name="done marking").click()
    bench.written()

    # The break: what fell, and on to the next still picture
    shots = RACK["shots"]
    for entry in shots[0]["potted"]:
        bench.press(entry["ball"])
    expect(page.get_by_test_id("sentence")).to_contain_text("breaks, makes the")
    bench.press("Enter")
    bench.written()

    # The balls are placed by clicking them in the picture
    before = shots[1]["layout_before"]["balls"]
    bench.press("p")
    for ball in ["cue", *sorted((b for b in before if b != "cue"), key=int)]:
        expect(page.get_by_test_id("said")).to_contain_text("cue ball" if ball == "cue" else f"{ball} ball")
        bench.click_picture(before[ball])
    expect(page.get_by_test_id("reading")).to_contain_text("1 ball to")
    expect(page.get_by_test_id("reading")).to_contain_text("full")

    # The rest of the rack by keyboard: at most five keys and one placement of the cue ball a plain shot
    for number, shot in enumerate(shots[1:], start=1):
        bench.keys = 0
        bench.press(POCKET_KEYS[shot["called"]["pocket"]])
        if shot.get("targets"):
            bench.press("z")
            drop_on_plan(page, shot["targets"]["cue"]["zones"][0]["centre"])
        bench.press(RESULT_KEYS.get(shot.get("result", "made"), "m"))
        for ball, place in shot["layout_after"]["balls"].items():
            if ball != "cue" and math.dist(place, shot["layout_before"]["balls"][ball]) > 0.001:
                drag_on_plan(page, ball, place)
        bench.click_picture(shot["layout_after"]["balls"]["cue"])
        bench.press("Enter")
        assert bench.keys <= 5
        bench.written()
        expect(page.locator("[data-shot]")).to_have_count(number + 1)

    expect(page.get_by_test_id("score")).to_contain_text("Ada Lindqvist 1 : 0 Ben Castellan")

    # The places are true, and the position errors follow
    game = page.request.get(f"/api/games/{page.url.rsplit('/', 1)[1].split('?')[0]}").json()
    logged = game["racks"][0]["shots"]
    for found, true in zip(logged[1:], shots[1:], strict=True):
        stop, truth = found["after"]["balls"]["cue"], true["layout_after"]["balls"]["cue"]
        assert math.dist(stop, truth) < 0.008
    page.locator("[data-shot]").nth(1).click()
    expect(page.get_by_test_id("position-error")).to_be_visible()

    # Percentages, and from a figure back to the moment in the recording
    page.get_by_role("link", name="Figures").click()
    page.get_by_role("link", name="survey").click()
    page.get_by_label("Session").select_option("lesson")
    page.get_by_label("Match", exact=True).select_option(label=title)
    expect(page.get_by_test_id("overall")).to_contain_text("n 9")
    figures = page.get_by_test_id("overall").inner_text()
    expect(page.get_by_test_id("map").get_by_role("button").first).to_be_visible()
    page.get_by_role("button", name="Ben Castellan").click()
    page.get_by_test_id("behind").get_by_role("link").first.click()
    expect(page.get_by_test_id("entry")).to_contain_text("Logged shot")

    # Out, away, in again: the same figures
    page.goto("/")
    with page.expect_download() as download:
        row(page, title).get_by_role("link", name="Export").click()
    exported = download.value.path()
    row(page, title).get_by_role("button", name="Delete").click()
    page.get_by_role("dialog").get_by_role("button", name="Delete").click()
    page.locator("details", has_text="Deleted in the last").evaluate("one => { one.open = true; }")
    row(page, title).get_by_role("button", name="Have it back").click()
    row(page, title).get_by_role("button", name="Delete").click()
    page.get_by_role("dialog").get_by_role("button", name="Delete").click()
    expect(page.get_by_role("link", name=title)).to_have_count(0)
    page.locator('section[aria-label="Matches"] input[type="file"]').set_input_files(
        {"name": "match.json", "mimeType": "application/json", "buffer": exported.read_bytes()}
    )
    expect(page.get_by_test_id("score")).to_contain_text("Ada Lindqvist 1 : 0 Ben Castellan")
    page.get_by_role("link", name="Figures").click()
    page.get_by_role("link", name="survey").click()
    page.get_by_label("Session").select_option("lesson")
    page.get_by_label("Match", exact=True).select_option(label=title)
    expect(page.get_by_test_id("overall")).to_have_text(figures)


def row(page: Page, title: str) -> Locator:
    return page.get_by_role("listitem").filter(has_text=title)


def on_plan(page: Page, place: list[float]) -> tuple[float, float]:
    box = page.get_by_test_id("drawing").bounding_box()
    assert box
    scale = box["width"] / (2540 + 2 * 150)
    return box["x"] + (place[0] * 1000 + 150) * scale, box["y"] + (1270 - place[1] * 1000 + 150) * scale


def drop_on_plan(page: Page, place: list[float]) -> None:
    page.mouse.click(*on_plan(page, place))


def drag_on_plan(page: Page, ball: str, place: list[float]) -> None:
    held = page.get_by_test_id("drawing").locator(f'[data-ball="{ball}"] circle').first.bounding_box()
    assert held
    x, y = on_plan(page, place)
    page.mouse.move(held["x"] + held["width"] / 2, held["y"] + held["height"] / 2)
    page.mouse.down()
    page.mouse.move(x + 3, y + 3)
    page.mouse.move(x, y)
    page.mouse.up()
