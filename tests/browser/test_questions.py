"""The questions a coach asks of a season, in clicks: a picture, its numbers, and the shots behind them."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from aretane.demo.load import game_of
from tests.browser.test_accessible import first_shot


def ask(page: Page, **words: str) -> None:
    page.goto("/figures")
    for label, option in words.items():
        page.get_by_label(label.replace("_", " "), exact=True).select_option(label=option)


def told(page: Page, words: str | re.Pattern[str]) -> None:
    expect(page.get_by_test_id("said")).to_contain_text(words)
    expect(page.get_by_test_id("chart").locator("svg")).to_be_visible()


def test_does_one_miss_more_on_long_cuts_given_the_shots_they_had(page: Page) -> None:
    ask(page, What="pots made", Told_apart_by="distance", Player="Ilse Marwood", Against="Tomas Verrall")
    page.get_by_role("button", name="more conditions").click()
    page.get_by_label("cut", exact=True).select_option(label="30 to 45°")
    told(page, "on the same shots")
    told(page, re.compile(r"Ilse Marwood: \d+ % made .* Tomas Verrall: \d+ %"))
    expect(page.get_by_text("The chance that the first is")).to_be_visible()
    row = page.get_by_test_id("numbers").get_by_role("button").first
    row.click()
    expect(page.get_by_test_id("behind").get_by_role("link").first).to_be_visible()
    page.reload()  # the question and its open row are in the address
    expect(page.get_by_test_id("behind").get_by_role("link").first).to_be_visible()
    page.get_by_test_id("behind").get_by_role("link").first.click()
    expect(page).to_have_url(re.compile(r"/match/.*shot="))


def test_which_way_does_she_miss_position_with_follow(page: Page) -> None:
    ask(page, What="long or short of the zone", Told_apart_by="follow, stun, draw", Player="Ilse Marwood")
    told(page, re.compile(r"[+−]\d+.\d cm long \("))
    expect(page.get_by_test_id("numbers").get_by_role("row", name=re.compile(r"^follow [−\d]"))).to_contain_text(
        "cm"
    )


@pytest.mark.parametrize(
    ("measure", "words"),
    [("safeties that held", "not attacked"), ("racks won after an open chance", "expected"),
     ("what decisions cost", "points by decisions")],
)  # fmt: skip
def test_safeties_chances_against_how_it_should_be_and_the_ledger(page: Page, measure: str, words: str) -> None:
    ask(page, What=measure, Told_apart_by="player")
    told(page, words)
    assert page.get_by_test_id("numbers").get_by_role("row").count() > 3


def test_did_the_month_help(page: Page) -> None:
    """One player before and from a day on, and over the days."""
    ask(page, Told_apart_by="day", Player="Ilse Marwood", What="pots made")
    page.get_by_label("Before and from a day on").fill("2026-01-20")
    told(page, re.compile(r"Before 2026-01-20: \d+ % made .*; from 2026-01-20 on: \d+ % made .* A difference"))
    page.get_by_label("Before and from a day on").fill("")
    told(page, "Ilse Marwood")


def test_a_question_is_kept_by_its_name_and_opened_again(page: Page) -> None:
    ask(page, What="pots made", Told_apart_by="pace")
    page.get_by_label("Name of the question").fill("pots by pace")
    page.get_by_role("button", name="keep", exact=True).click()
    expect(page.get_by_role("button", name="give up “pots by pace”")).to_be_visible()
    page.get_by_label("Told apart by").select_option(label="pocket")
    page.get_by_label("Kept questions").select_option(label="pots by pace")
    expect(page.get_by_label("Told apart by")).to_have_value("pace")
    page.get_by_role("button", name="give up “pots by pace”").click()
    expect(page.get_by_label("Kept questions")).to_have_count(0)


def test_numbers_and_picture_are_taken_away(page: Page) -> None:
    ask(page, What="pots made", Told_apart_by="pocket")
    told(page, "made")
    files = ("picture, SVG", "svg"), ("picture, PNG", "png"), ("numbers, CSV", "csv"), ("numbers, XLSX", "xlsx")
    for name, ends in files:
        with page.expect_download() as found:
            page.get_by_text(name).click()
        assert found.value.suggested_filename == f"answer.{ends}"
        assert found.value.path().stat().st_size > 100


def test_where_the_white_stopped_is_drawn_on_the_table(page: Page) -> None:
    ask(page, What="stops in the zone", Told_apart_by="where the white stopped")
    expect(page.get_by_test_id("said")).to_contain_text("inside the acceptable zone")
    told_squares = page.get_by_test_id("table-map").locator("rect.cursor-pointer")
    expect(told_squares.first).to_be_visible()
    assert told_squares.count() == page.get_by_test_id("numbers").locator("tbody tr").count() > 5
    told_squares.first.click()
    expect(page.get_by_test_id("behind").get_by_role("link").first).to_be_visible()


def test_where_the_misses_go_through_the_pockets_mouth(page: Page) -> None:
    ask(page, What="which shots were tried", Told_apart_by="where it reached the pocket")
    mouth = page.get_by_test_id("mouth")
    for part in ("missed thick", "thick side", "middle", "thin side", "missed thin", "in the jaws"):
        expect(mouth).to_contain_text(part)
    expect(mouth).to_contain_text(re.compile(r"in the jaws \d+ % · \d+"))
    page.get_by_role("button", name="more conditions").click()
    page.get_by_label("pocket", exact=True).select_option(label="side left")
    expect(page).to_have_url(re.compile("pocket=side-left"))
    mouth.locator("rect").first.click()
    expect(page.get_by_test_id("behind").get_by_role("link").first).to_be_visible()


def test_what_a_hand_should_make_against_what_was_made(page: Page) -> None:
    ask(page, What="pots made", Told_apart_by="chance of a league hand")
    told(page, "a league hand on these shots")
    expect(page.get_by_test_id("numbers")).to_contain_text("90 to 100 %")


def test_streaks_of_one_sign_and_the_tables_pace(page: Page) -> None:
    ask(page, What="long or short of the zone", Told_apart_by="all together", Player="Ilse Marwood")
    told(page, "cm long")
    expect(page.get_by_test_id("note").first).to_contain_text("in a row were")


def test_what_a_position_error_costs(page: Page) -> None:
    ask(page, What="pots made", Told_apart_by="where the stroke before left it")
    told(page, "made")
    expect(page.get_by_test_id("numbers")).to_contain_text("in its zone")


def test_nothing_logged_is_said(page: Page) -> None:
    page.goto("/figures?measure=pots&by=cut&since=2031-01-01")
    expect(page.get_by_test_id("said")).to_have_text("Nothing was logged that answers this.")
    page.goto("/figures?measure=nonsense")
    expect(page.get_by_role("alert")).to_contain_text("no such figure")


def test_where_was_this_shot_before(page: Page) -> None:
    page.goto(first_shot(page, game_of("nine-ball"), rack=0))
    page.locator("[data-shot]").nth(2).click()
    page.keyboard.press("Shift+B")
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text(re.compile(r"Made \d+ % \(.*\), n \d+|Never yet"))
    before = page.url
    dialog.get_by_role("link").first.click()
    expect(page).not_to_have_url(before)
    expect(dialog).to_have_count(0)


def test_on_a_phone_nothing_is_wider_than_the_page(page: Page) -> None:
    page.set_viewport_size({"width": 390, "height": 844})
    ask(page, What="pots made", Told_apart_by="distance", Player="Ilse Marwood", Against="Tomas Verrall")
    told(page, "on the same shots")
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
