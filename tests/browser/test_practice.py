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
    expect(page.get_by_text("this set").locator("..")).to_contain_text("1 kept here")
    page.reload()
    page.unroute("**/attempts")
    page.reload()
    expect(page.get_by_test_id("progress")).to_contain_text("50 %")
    expect(page.get_by_test_id("progress")).to_contain_text("1 thick")
    expect(page.get_by_role("region", name="Ilse Marwood")).to_contain_text("18 more tries before the numbers tell")

    page.get_by_role("link", name="Practice").click()
    page.get_by_role("listitem").get_by_role("link").first.click()
    page.on("dialog", lambda dialog: dialog.accept())
    page.get_by_role("button", name="give it up").click()
    expect(page.get_by_text("No exercise yet")).to_be_visible()
    assert violations(page) == []


def test_a_shot_that_makes_no_exercise_says_why(page: Page) -> None:
    asked = first_shot(page, game_of("nine-ball"), shot=0).replace("/match/", "game=").replace("?", "&")
    page.goto(f"/practice/new?{asked}")
    expect(page.get_by_role("alert")).to_contain_text("meant ball")


def test_what_to_practise_leads_to_an_exercise(page: Page) -> None:
    page.goto("/practice")
    page.get_by_label("Who").select_option(label="Ilse Marwood")
    gains = page.get_by_test_id("gains")
    expect(gains.get_by_role("listitem").first).to_contain_text("racks in a hundred")
    assert violations(page) == []
    gains.get_by_role("link").first.click()
    expect(page.get_by_role("heading", name="An exercise of this shot")).to_be_visible()


def test_a_whole_table_is_run_out_on_a_phone_by_two_students(page: Page) -> None:
    page.goto(first_shot(page, game_of("nine-ball"), rack=0, shot=2))
    page.locator('[data-testid="entry"]').wait_for()
    page.keyboard.press("Shift+E")
    page.get_by_role("button", name=re.compile("^the whole table")).click()
    expect(page.get_by_role("heading", name=re.compile(r"\d balls, run out"))).to_be_visible()
    page.set_viewport_size({"width": 390, "height": 844})
    for name, balls in (("Ilse Marwood", "3"), ("Tomas Verrall", "all")):
        page.get_by_label("who practises").fill(name)
        page.get_by_role("button", name="no position").click()
        page.get_by_role("group", name="Balls made").get_by_role("button", name=balls, exact=True).click()
        expect(page.get_by_role("region", name=name)).to_contain_text("n 1")
    expect(page.get_by_role("region", name="Ilse Marwood")).to_contain_text("ended by no position 1")
    expect(page.get_by_test_id("side-by-side")).to_contain_text("Tomas Verrall")
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    page.get_by_text("sets and rest").click()
    page.get_by_role("button", name="warming up").click()
    page.get_by_role("group", name="Balls made").get_by_role("button", name="0", exact=True).click()
    expect(page.get_by_test_id("set")).to_contain_text("nothing is logged")
    expect(page.get_by_role("region", name="Tomas Verrall")).to_contain_text("n 1")
    assert violations(page) == []
    page.on("dialog", lambda dialog: dialog.accept())
    page.get_by_role("button", name="give it up").click()


def test_sessions_are_planned_by_week_and_taken_into_a_calendar(page: Page) -> None:
    page.goto("/practice/plan")
    form = page.get_by_role("form", name="A session")
    for when, goal in (("2026-12-01T18:30", "thin cuts, eight of ten"), ("2026-12-03T18:30", "the break")):
        form.get_by_label("who").fill("Ilse Marwood")
        form.get_by_label("when").fill(when)
        form.get_by_label("goal").fill(goal)
        form.get_by_role("button", name="plan it").click()
        expect(page.get_by_role("region", name="Week of 2026-11-30")).to_contain_text(goal)
    week = page.get_by_role("region", name="Week of 2026-11-30")
    expect(week).to_contain_text("2 sessions, 120 minutes")
    assert violations(page) == []
    with page.expect_download() as found:
        page.get_by_role("link", name="calendar file").click()
    assert found.value.suggested_filename == "practice.ics"
    for _ in range(2):
        week.get_by_role("button", name="remove").first.click()
    expect(page.get_by_text("Nothing is planned yet")).to_be_visible()


def test_a_shot_is_asked_as_a_question_and_all_answers_appear_together(page: Page) -> None:
    page.goto(first_shot(page, game_of("nine-ball"), rack=4, shot=4))
    page.locator('[data-testid="entry"]').wait_for()
    page.keyboard.press("Shift+E")
    page.get_by_role("button", name=re.compile("^a question")).click()
    expect(page.get_by_role("heading", name="What would you play?")).to_be_visible()
    expect(page.locator("video")).to_have_js_property("paused", True)
    form = page.get_by_role("form", name="An answer")
    for name, kind, felt in (("Odile", "attack", "80"), ("Piers", "safety", "55")):
        form.get_by_label("who").fill(name)
        page.locator("[data-ball='5']").first.click()
        form.get_by_role("button", name=kind).click()
        form.get_by_label("pocket").select_option("side-right")
        form.get_by_label("times in a hundred").fill(felt)
        form.get_by_role("button", name="that is my answer").click()
        expect(form.get_by_label("who")).to_have_value("")
    expect(page.get_by_test_id("answered")).to_have_text("2 answered")
    expect(page.get_by_text("Best by the numbers")).to_have_count(0)
    page.get_by_role("button", name=re.compile("^show all answers")).click()
    shown = page.get_by_role("region", name="All answers")
    expect(shown.get_by_test_id("counted")).to_contain_text("attack: 5 ball side right")
    expect(shown).to_contain_text("Best by the numbers")
    expect(shown).to_contain_text("Felt: 68 times in a hundred")
    assert violations(page) == []
