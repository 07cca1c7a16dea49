"""The shot lab as a coach uses it."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from aretane.demo.load import game_of
from tests.browser.test_accessible import first_shot, violations

GAME = game_of("nine-ball")


def rates(page: Page):
    return page.get_by_test_id("rates")


def test_choose_tip_and_speed_and_see_the_answer_change(page: Page):
    page.goto("/lab")
    expect(page.get_by_test_id("outcome")).to_contain_text("1 in foot left")
    expect(rates(page)).to_contain_text("n 2000")
    assert page.get_by_test_id("cloud").locator("path").count() == 3
    before = page.locator('[data-line="cue-path"] path').get_attribute("d")
    tip = page.get_by_test_id("tip")
    tip.focus()
    for _ in range(6):
        tip.press("ArrowDown")
    expect(page.get_by_test_id("tip-words")).to_have_text("0.30 below")
    expect(page.locator('[data-line="cue-path"] path')).not_to_have_attribute("d", before or "")
    page.get_by_role("button", name="put aside to compare").click()
    page.get_by_label("Table", exact=True).get_by_role("combobox").first.select_option("pool-7ft")
    expect(rates(page)).to_contain_text("n 2000")
    page.get_by_role("button", name="put aside to compare").click()
    expect(page.get_by_test_id("variants").locator("tbody tr")).to_have_count(2)


def test_drag_a_ball_and_play_the_shot(page: Page):
    page.goto("/lab")
    expect(page.get_by_test_id("outcome")).to_contain_text("1 in foot left")
    ball = page.locator('[data-ball="1"]').bounding_box()
    assert ball
    page.mouse.move(ball["x"] + 8, ball["y"] + 8)
    page.mouse.down()
    page.mouse.move(ball["x"] - 60, ball["y"] + 90, steps=6)
    page.mouse.up()
    expect(page.get_by_test_id("outcome")).to_be_visible()
    place = page.locator('[data-ball="cue"]').get_attribute("transform")
    page.keyboard.press("Space")
    expect(page.locator('[data-ball="cue"]')).not_to_have_attribute("transform", place or "")
    page.get_by_role("button", name="before the shot").click()
    expect(page.locator('[data-ball="cue"]')).to_have_attribute("transform", place or "")


def test_a_shot_without_an_aim_says_so_and_a_free_line_works(page: Page):
    page.goto("/lab")
    page.get_by_role("combobox", name="Pocket", exact=True).select_option("head-left")
    expect(page.get_by_role("alert")).to_contain_text("ball 1")
    page.get_by_role("combobox", name="Ball", exact=True).select_option("")
    page.get_by_label("Line, degrees").fill("90")
    expect(page.get_by_test_id("outcome")).to_contain_text("left rail")
    tip = page.get_by_test_id("tip").bounding_box()
    assert tip
    page.mouse.click(tip["x"] + 0.85 * tip["width"], tip["y"] + tip["height"] / 2)
    expect(page.get_by_test_id("outcome")).to_contain_text("Miscue")


def test_a_logged_shot_is_set_beside_what_was_played(page: Page):
    page.goto(f"/match/{GAME}?rack=4")
    page.locator("[data-shot]").nth(2).click()
    page.get_by_role("link", name="simulate").click()
    expect(page.get_by_role("heading", name="Shot lab")).to_be_visible()
    expect(page.get_by_role("link", name=re.compile("rack 5"))).to_be_visible()
    # The demo's strokes are known, so the simulated cue ball stops where it was logged.
    expect(page.locator('[data-line="error"]').first).to_have_count(0)
    expect(page.get_by_label("In the picture")).to_be_visible()
    page.get_by_label("Speed", exact=True).fill("1.2")
    expect(page.get_by_text(re.compile(r"played \d+ cm off")).first).to_be_visible()
    page.get_by_role("button", name="keep this stroke with the shot").click()
    expect(page.get_by_test_id("sync")).to_have_text("all written")
    page.get_by_role("link", name=re.compile("rack 5")).click()
    page.get_by_role("button", name="Undo").click()


def test_another_game_brings_its_balls_and_table(page: Page):
    page.goto("/lab")
    page.get_by_label("Game").select_option("snooker")
    expect(page.get_by_test_id("outcome")).to_be_visible()
    expect(page.locator('[data-ball="red-1"]')).to_have_count(1)
    page.get_by_role("button", name="black").click()
    expect(page.locator('[data-ball="black"]')).to_have_count(1)
    expect(rates(page)).to_contain_text("n 2000")


def test_the_stroke_for_a_chosen_place_is_found_and_taken(page: Page):
    """A coach clicks where the cue ball should stop; the stroke that is taken really stops there."""
    page.goto("/lab")
    expect(page.get_by_test_id("drawing")).to_be_visible()
    page.get_by_role("button", name="where should it stop?").click()
    box = page.get_by_test_id("drawing").bounding_box()
    assert box
    page.mouse.click(box["x"] + 0.42 * box["width"], box["y"] + 0.62 * box["height"])
    way = page.get_by_test_id("way").first
    expect(way).to_contain_text("a tenth softer")
    way.get_by_role("button").click()
    expect(page.get_by_role("region", name="Stroke")).to_be_visible()
    page.get_by_role("button", name="kicks").click()
    expect(page.get_by_test_id("kick").first).to_contain_text("mirror at diamond")


def test_a_table_is_kept_found_by_likeness_and_opened_and_the_lab_remembers_its_own(page: Page):
    page.goto("/lab")
    tables = page.get_by_test_id("kept-tables")
    tables.get_by_label("Name of the table").fill("Beginning of the lab")
    tables.get_by_label("Tags").fill("lab stun")
    tables.get_by_role("button", name="keep", exact=True).click()
    kept = tables.get_by_role("button", name=re.compile("^Beginning of the lab lab stun"))
    expect(kept).to_be_visible()
    page.get_by_label("Table", exact=True).get_by_role("combobox").first.select_option("pool-7ft")
    expect(page.get_by_test_id("outcome")).to_contain_text("1 in foot left")
    page.wait_for_timeout(600)  # the table is remembered once it rests
    page.reload()
    expect(page.get_by_label("Table", exact=True).get_by_role("combobox").first).to_have_value("pool-7ft")
    tables.get_by_role("button", name="like this table").click()
    expect(tables).to_contain_text("0 cm a ball")  # the same, stretched to a smaller table
    kept.click()
    expect(page.get_by_label("Table", exact=True).get_by_role("combobox").first).to_have_value("pool-9ft")
    tables.get_by_role("button", name="give up Beginning of the lab").click()
    expect(kept).to_have_count(0)


def test_banks_plants_and_cannons_are_taught(page: Page) -> None:
    page.goto("/lab")
    page.get_by_role("button", name="banks", exact=True).click()
    bank = page.get_by_test_id("bank").first
    expect(bank).to_contain_text("mirror at diamond", timeout=20_000)
    bank.get_by_role("button").click()
    expect(page.get_by_test_id("outcome")).to_contain_text("1 in")
    page.get_by_role("button", name="plants and cannons").click()
    lines = page.get_by_test_id("lines")
    expect(lines).to_contain_text("cannons with stun")
    lines.get_by_role("listitem").first.get_by_role("button").click()
    expect(rates(page)).to_contain_text("n 2000")
    assert violations(page) == []


def test_a_kept_table_has_its_note(page: Page) -> None:
    page.goto("/lab")
    page.get_by_label("Name of the table").fill("three apart")
    page.get_by_label("Note", exact=True).fill("the far one first")
    page.get_by_role("button", name="keep", exact=True).click()
    kept = page.get_by_test_id("kept-tables")
    expect(kept).to_contain_text("the far one first")
    kept.get_by_role("button", name="give up three apart").click()


def test_the_aim_line_lies_beside_the_contact_point_and_in_the_picture(page: Page) -> None:
    """Balls of one size: the line passes twice as far beside the ball's middle as the contact point lies."""
    shot = first_shot(page, GAME, rack=4, shot=2).partition("shot=")[2]
    page.goto(f"/lab?match={GAME}&shot={shot}")
    page.get_by_role("button", name="aim line", exact=True).click()
    told = page.get_by_test_id("aim-line")
    expect(told).to_contain_text("twice as far")
    contact, aim = (float(one) for one in re.findall(r"([\d.]+) cm", told.inner_text())[:2])
    assert abs(aim - 2 * contact) <= 0.15
    picture = page.get_by_role("region", name="In the picture")
    expect(picture.locator('[data-line="aim"]')).to_have_count(1)
    expect(picture).to_contain_text("rings: where they lie")
    seen = picture.get_by_test_id("picture").bounding_box()
    assert seen
    assert seen["height"] > 100, "the picture has its own shape"
    page.get_by_role("button", name="banks", exact=True).click()
    page.get_by_test_id("bank").first.get_by_role("button").click()
    expect(picture.locator('[data-line="aim"]')).to_have_count(0)
    expect(picture.locator('[data-line="ghost"]')).to_have_count(1)


def test_the_next_ball_at_an_angle_and_a_ball_sent_to_a_place(page: Page) -> None:
    page.goto("/lab")
    expect(page.get_by_test_id("outcome")).to_contain_text("1 in foot left")
    panel = page.get_by_test_id("backwards")
    panel.get_by_role("button", name="next ball at an angle").click()
    panel.get_by_label("Next ball", exact=True).select_option("3")
    panel.get_by_label("Angle of the next ball").fill("25")
    expect(panel.get_by_test_id("way").or_(panel.get_by_test_id("nearest")).first).to_be_visible(timeout=20_000)
    assert violations(page) == []
    panel.get_by_role("button", name="where should it stop?").click()
    plan = page.get_by_role("img", name="Plan of the table with the simulated shot").bounding_box()
    assert plan
    page.mouse.click(plan["x"] + 0.55 * plan["width"], plan["y"] + 0.3 * plan["height"])
    panel.get_by_label("What should stop there").select_option("1")
    stroke = panel.get_by_test_id("sent").first
    expect(stroke).to_contain_text("a foul", timeout=20_000)
    stroke.get_by_role("button").click()
    expect(page.get_by_role("combobox", name="Ball", exact=True)).to_have_value("")
    expect(rates(page)).to_contain_text("n 2000")
