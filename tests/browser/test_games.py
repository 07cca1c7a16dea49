"""Every game at the bench, by keyboard: a rack, a visit, an inning; and each demo match from end to end."""

from __future__ import annotations

import json
import re

import pytest
from playwright.sync_api import Page, expect

from aretane.core.rules.disciplines import RULES
from aretane.demo.load import game_of
from tests.browser import hands
from tests.core.rules.sheets import entry, match


class Bench:
    def __init__(self, page: Page, game: str, **fields: str) -> None:
        self.page = page
        page.goto("/")
        page.get_by_role("button", name="New match").click()
        page.get_by_label("Game").select_option(game)
        if "session" in fields:
            page.get_by_label("Session").select_option(fields["session"])
        page.get_by_label("Title", exact=True).fill(f"Bench of {game}")
        for label, text in fields.items():
            if label != "session":
                page.get_by_label(label, exact=True).fill(text)
        page.get_by_role("button", name="Begin").click()
        expect(page.get_by_test_id("entry")).to_be_visible()

    def log(self, keys: str, fell: str = "", most: int = 3) -> None:
        """One entry by its keys and Enter; `fell` are balls that are ticked."""
        before = self.page.locator("[data-shot]").count()
        pressed = [*keys.split(), "Enter"]
        assert len(pressed) <= most
        for key in pressed[:-1]:
            self.page.keyboard.press(key)
        if fell:
            hands.fell(self.page, *fell.split())
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_test_id("sync")).to_have_text("all written")
        expect(self.page.locator("[data-shot]")).to_have_count(before + 1)

    def shows(self, where: str, words: str) -> None:
        expect(self.page.get_by_test_id(where)).to_contain_text(words)

    def answer(self, words: str) -> None:
        self.page.get_by_test_id("entry").get_by_role("button", name=words).click()
        expect(self.page.get_by_test_id("sync")).to_have_text("all written")


PLAYERS = {"Player A": "Ada Lindqvist", "Player B": "Ben Castellan"}


def test_a_snooker_break_is_two_or_three_keys_a_shot(page: Page) -> None:
    bench = Bench(page, "snooker", **PLAYERS)
    bench.log("g")
    bench.log("m")
    bench.log("m")
    bench.log("m")
    bench.log("5 m")
    bench.log("m")
    bench.log("m")  # the colour of before is offered again
    bench.shows("board", "Ada Lindqvist 0 – 20 Ben Castellan")
    bench.shows("board", "on: a red")
    bench.shows("board", "123 points left")
    bench.log("t")
    bench.shows("visits", "highest break 20")
    bench.log("c")
    bench.shows("board", "Ada Lindqvist 0 – 24 Ben Castellan")
    bench.shows("allowed", "has a choice")
    bench.answer("has Ada Lindqvist play again")
    bench.shows("allowed", "Ada Lindqvist to shoot")
    hands.command(page, "Ada Lindqvist gives")
    bench.shows("score", "Ada Lindqvist 0 : 1 Ben Castellan")


def test_an_inning_of_straight_pool(page: Page) -> None:
    bench = Bench(page, "straight-pool", **PLAYERS)
    bench.log("x g")
    for _ in range(3):
        bench.log("m")
    bench.log("Shift+3 m")
    bench.shows("board", "Ada Lindqvist 0 – 4 Ben Castellan")
    bench.log("t")
    bench.shows("visits", "high run 4, 4.0 balls an inning (n 1)")
    hands.pick(page, "fouls", "hit nothing")
    bench.log("g")
    bench.shows("board", "Ada Lindqvist -1 – 4 Ben Castellan")


def test_a_rack_of_eight_ball_lost_with_the_eight(page: Page) -> None:
    bench = Bench(page, "eight-ball", **PLAYERS)
    bench.log("g", fell="3")
    bench.shows("board", "on: an open table")
    bench.log("9 m")
    bench.shows("board", "Ada Lindqvist: stripes, 7 to go")
    bench.log("x g")
    bench.shows("allowed", "Ben Castellan to shoot: solids")
    bench.log("8 m")
    bench.shows("score", "Ada Lindqvist 1 : 0 Ben Castellan")
    page.locator("[data-shot]").last.click()
    bench.shows("ruling", "The eight falls before the group is cleared")


def test_a_visit_of_blackball_after_a_foul(page: Page) -> None:
    bench = Bench(page, "blackball", **PLAYERS)
    bench.log("g", fell="red")
    bench.log("2 m")
    bench.shows("board", "Ada Lindqvist: yellows, 7 to go")
    bench.log("c")
    bench.shows("allowed", "Free shot: any ball may be played.")
    bench.log("2 m")  # the opponent's, allowed once
    bench.log("1 m")
    bench.shows("board", "Ben Castellan: reds, 6 to go")


def test_a_push_out_in_ten_ball_is_handed_back(page: Page) -> None:
    bench = Bench(page, "ten-ball", **PLAYERS)
    bench.log("g")
    bench.log("x")
    bench.answer("hands it back to Ben Castellan")
    bench.shows("allowed", "Ben Castellan to shoot: the 1.")
    bench.log("m")
    bench.log("0 m")
    bench.shows("score", "Ada Lindqvist 0 : 1 Ben Castellan")


def test_a_rack_of_nine_ball_by_partners_and_a_break_record(page: Page) -> None:
    pairs = {"Partner of A": "Ida Lindqvist", "Partner of B": "Bo Castellan"}
    bench = Bench(page, "nine-ball", session="partners", **PLAYERS, **pairs)
    hands.pick(page, "break", "firm", "left rail")
    bench.log("g", fell="4")
    bench.shows("sentence", "Ida Lindqvist:")
    bench.log("m")
    bench.shows("sentence", "Ada Lindqvist:")
    bench.log("9 m")
    bench.shows("score", "Ada Lindqvist 1 : 0 Ben Castellan")
    page.get_by_role("link", name="Figures").click()
    page.get_by_role("link", name="survey").click()
    page.get_by_label("Session").select_option("partners")
    expect(page.get_by_test_id("breaks")).to_contain_text("left rail")


def test_a_solo_run_ends_at_its_first_miss(page: Page) -> None:
    bench = Bench(page, "nine-ball", session="solo", Player="Ada Lindqvist")
    bench.log("g")
    bench.shows("allowed", "Ada Lindqvist to shoot")
    bench.log("m")
    bench.log("t")
    bench.shows("allowed", "breaks rack 2")
    expect(page.get_by_role("button", name="rack 1 no winner")).to_be_visible()


def test_a_frame_that_is_under_way_begins_with_its_points_its_run_and_its_ball(page: Page) -> None:
    page.goto("/")
    page.get_by_role("button", name="New match").click()
    page.get_by_label("Game").select_option("snooker")
    for label, text in PLAYERS.items():
        page.get_by_label(label, exact=True).fill(text)
    page.get_by_text("The recording begins later").click()
    page.get_by_label("a frame is under way").check()
    for label, text in {"frames A": "1", "run so far": "9", "points A": "30", "points B": "41"}.items():
        page.get_by_label(label, exact=True).fill(text)
    page.locator("select[name=player]").select_option("B")
    page.locator("select[name=on]").select_option("pink")
    page.get_by_role("button", name="Begin").click()
    expect(page.get_by_test_id("score")).to_contain_text("Ada Lindqvist 1 : 0 Ben Castellan")
    page.keyboard.press("6")
    page.keyboard.press("m")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("board")).to_contain_text("Ada Lindqvist 30 – 47 Ben Castellan")
    expect(page.get_by_test_id("board")).to_contain_text("break 15")


def test_a_call_is_overruled_with_points_and_the_score_follows(page: Page) -> None:
    bench = Bench(page, "snooker", **PLAYERS)
    bench.log("g")
    bench.log("m")
    page.locator("[data-shot]").last.click()
    page.get_by_role("button", name="Overrule").click()
    dialog = page.get_by_role("dialog", name="Overrule")
    dialog.locator("select[name=foul]").select_option("moved-ball")
    dialog.get_by_label("Next at the table").select_option("A")
    dialog.get_by_label("Points of Ada Lindqvist afterwards").fill("4")
    dialog.get_by_label("Points of Ben Castellan afterwards").fill("0")
    dialog.get_by_label("Why").fill("The sleeve moved the pink")
    dialog.get_by_role("button", name="Overrule").click()
    bench.shows("ruling", "The sleeve moved the pink")
    page.get_by_role("button", name="next shot").click()
    bench.shows("board", "Ada Lindqvist 4 – 0 Ben Castellan")


def test_an_impossible_file_is_shown_place_by_place_and_kept(page: Page) -> None:
    strange = match(
        "snooker", [entry("A", kind="break"), entry("A", "red-1", first_contact="red-1")], title="Strange"
    )
    page.goto("/")
    page.locator('section[aria-label="Matches"] input[type="file"]').set_input_files(
        {"name": "strange.json", "mimeType": "application/json", "buffer": json.dumps(strange).encode()}
    )
    expect(page.get_by_test_id("impossible")).to_contain_text("Rack 1, shot 2: player B is at the table, not A")
    page.get_by_role("button", name="Import and keep them as my word").click()
    expect(page.get_by_role("heading", name="Strange")).to_be_visible()
    expect(page.get_by_role("alert")).to_have_count(0)


@pytest.mark.parametrize("discipline", RULES)
def test_each_demo_match_opens_plays_through_and_exports(page: Page, discipline: str) -> None:
    page.goto(f"/match/{game_of(discipline)}?rack=0")
    total = page.locator("[data-shot]")
    expect(total.first).to_be_visible()
    total.first.click()
    for number in range(total.count()):
        expect(total.nth(number)).to_have_attribute("aria-current", "true")
        expect(page.get_by_test_id("ruling")).to_be_visible()
        expect(page.get_by_test_id("board")).to_contain_text("on:")
        page.keyboard.press("b")
        page.keyboard.press("ArrowDown")
    expect(page.get_by_role("alert")).to_have_count(0)
    exported = page.request.get(f"/api/games/{game_of(discipline)}/export")
    assert exported.json()["discipline"] == discipline


def test_a_season_is_brought_in_file_by_file(page: Page) -> None:
    """Those before a file that is refused are in, and it is named."""
    names = [f"Evening {letter} of the season" for letter in "PQR"]
    files = [
        {
            "name": f"{title}.json",
            "mimeType": "application/json",
            "buffer": json.dumps(match("nine-ball", [entry("A", kind="break")], title=title)).encode(),
        }
        for title in names
    ]
    files.insert(2, {"name": "list.json", "mimeType": "application/json", "buffer": b"a shopping list"})
    page.goto("/")
    page.locator('section[aria-label="Matches"] input[type="file"]').set_input_files(files)
    expect(page.get_by_role("alert")).to_contain_text("list.json: no valid JSON")
    for title, there in zip(names, (1, 1, 0), strict=True):
        expect(page.get_by_role("link", name=re.compile(f"^{title}"))).to_have_count(there)
    expect(page.get_by_role("progressbar")).to_have_count(0)
