"""Drawing by hand: on the picture and on the plan, measured, kept with the shot, out with it."""

from __future__ import annotations

import json
import math
import re

from playwright.sync_api import Page, expect

from aretane.demo.load import game_of
from tests.browser.test_accessible import first_shot

DEMO = game_of("nine-ball")


def copy_of_the_demo(page: Page) -> str:
    """A match of its own to draw on."""
    match = page.request.get(f"/api/games/{DEMO}/export").json()
    token = page.request.get("/api/session").json()["csrf"]
    answer = page.request.post(
        "/api/games/import?same=copy",
        data=json.dumps({**match, "title": "Drawn on", "session": "lesson"}),
        headers={"X-CSRFToken": token, "Content-Type": "application/json"},
    )
    return str(answer.json()["id"])


def open_shot(page: Page, game: str) -> None:
    page.goto(first_shot(page, game, rack=4))
    page.locator('[data-testid="picture"] [data-ring="cue"]').wait_for()


def ring(page: Page, ball: str) -> tuple[float, float]:
    box = page.locator(f'[data-testid="picture"] [data-ring="{ball}"] circle').bounding_box()
    assert box
    return box["x"] + box["width"] / 2, box["y"] + box["height"] / 2


def drag(page: Page, start: tuple[float, float], end: tuple[float, float]) -> None:
    page.mouse.move(*start)
    page.mouse.down()
    page.mouse.move(*end, steps=4)
    page.mouse.up()


def test_a_line_over_a_ball_in_the_picture_says_its_clearance_and_goes_out_with_the_shot(page: Page) -> None:
    game = copy_of_the_demo(page)
    open_shot(page, game)
    shot = page.request.get(f"/api/games/{game}").json()["racks"][4]["shots"][4]
    balls = shot["before"]["balls"]
    # from the cue ball past the 9 to the five's far side: the nine is beside the way
    page.keyboard.press("i")
    drag(page, ring(page, "cue"), ring(page, "7"))
    told = page.get_by_test_id("drawn-by-hand")
    length = math.dist(balls["cue"], balls["7"])
    expect(told).to_contain_text(f"{100 * length:.1f} cm")
    expect(page.get_by_test_id("sync")).to_have_text("all written")
    expect(told.locator('[data-gap="9"]')).to_contain_text(
        re.compile(r"passes the 9 ball by [\d.]+ cm ± [\d.]+ cm")
    )

    # the same line on the plan, from ball to ball
    assert page.locator('[data-testid="drawing"] [data-line="ink-dark"]').count() == 1
    assert page.locator('[data-testid="picture"] [data-line="ink-dark"]').count() == 1
    page.keyboard.press("Escape")
    page.reload()
    expect(page.get_by_test_id("drawn-by-hand")).to_contain_text(f"{100 * length:.1f} cm")

    # out with the match, and with the shot's picture
    (drawing,) = page.request.get(f"/api/games/{game}/export").json()["racks"][4]["shots"][4]["drawings"]
    assert drawing["kind"] == "line"
    assert all(math.dist(at, balls[ball]) < 1e-4 for at, ball in zip(drawing["points"], ("cue", "7"), strict=True))
    svg = page.request.get(f"/api/games/{game}/shots/{shot['id']}/drawing.svg").text()
    assert 'data-line="ink-dark"' in svg

    # off with one key, back with another
    page.keyboard.press("k")
    expect(page.get_by_test_id("drawn-by-hand")).to_have_count(0)
    page.keyboard.press("u")
    expect(page.get_by_test_id("drawn-by-hand")).to_be_visible()


def test_an_arrow_a_circle_and_an_area_by_keys_alone_in_three_inks(page: Page) -> None:
    game = copy_of_the_demo(page)
    open_shot(page, game)
    press = page.keyboard.press
    press("i")
    press("i")  # an arrow
    press("2")
    press(".")
    press("Enter")
    press(".")
    press(".")
    press("Enter")
    press("i")  # a circle
    press("3")
    press(".")
    press("Enter")
    for _ in range(3):
        press("Shift+ArrowRight")
    press("Enter")
    press("i")  # an area
    press("1")
    for _ in range(3):
        press(".")
        press("Enter")
    press("Enter")
    expect(page.get_by_test_id("drawn-by-hand")).to_contain_text("circle, radius")
    expect(page.get_by_test_id("drawn-by-hand")).to_contain_text("area of")
    expect(page.get_by_test_id("sync")).to_have_text("all written")
    drawings = page.request.get(f"/api/games/{game}/export").json()["racks"][4]["shots"][4]["drawings"]
    assert [(one["kind"], one["ink"]) for one in drawings] == [
        ("arrow", "red"),
        ("circle", "blue"),
        ("area", "dark"),
    ]
    assert len(drawings[2]["points"]) == 3


def test_a_hundred_drawings_overlap_nothing_and_are_told_shortly(page: Page) -> None:
    game = copy_of_the_demo(page)
    data = page.request.get(f"/api/games/{game}").json()
    rack = data["racks"][4]
    shot = rack["shots"][4]
    drawings = [
        {"kind": "line", "points": [[0.1, 0.1 + i / 100], [2.3, 1.1 - i / 100]], "ink": "red"} for i in range(100)
    ]
    token = page.request.get("/api/session").json()["csrf"]
    operation = {
        "id": "00000000-0000-4000-8000-00000000a100",
        "client": "00000000-0000-4000-8000-00000000a101",
        "seen": data["last_change"],
        "label": "drawn",
        "changes": [
            {
                "kind": "shot",
                "id": shot["id"],
                "parent": rack["id"],
                "seat": shot["seat"],
                "document": {**shot["document"], "drawings": drawings},
            }
        ],
    }
    answer = page.request.post(f"/api/games/{game}/operations", data=operation, headers={"X-CSRFToken": token})
    assert answer.ok, answer.text()
    open_shot(page, game)
    expect(page.locator('[data-testid="drawing"] [data-line="ink-red"]')).to_have_count(100)
    expect(page.get_by_test_id("drawn-by-hand")).to_contain_text("and 96 more")
    assert page.get_by_test_id("entry").is_visible()
