"""Finding a match again, what waits in it, putting right what is known of it, deleting and having it back."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from tests.conftest import Client

LONG = "An evening that goes on " * 9
ARABIC = "مباراة الشتاء"


def lines(page: Page):
    return page.get_by_role("list", name="List of matches").get_by_role("listitem")


def test_a_match_is_found_by_player_and_date_and_its_deletion_is_taken_back(page: Page, app) -> None:
    client = Client(app)
    people = {"A": {"name": "Wren Abara"}, "B": {"name": "Ottilie Strand"}}
    client.new_match(title="The evening that is looked for", date="2026-03-12", players=people)
    client.new_match(title="Another evening of hers", date="2026-05-02", players=people)
    page.goto("/")
    page.get_by_label("Who played").select_option("Wren Abara")
    expect(lines(page)).to_have_count(2)
    page.get_by_label("since").fill("2026-03-01")
    page.get_by_label("until").fill("2026-03-31")
    expect(lines(page)).to_have_count(1)
    expect(lines(page)).to_contain_text("12 March 2026")

    page.get_by_role("button", name="Delete The evening").click()
    expect(page.get_by_role("dialog")).to_contain_text("0 racks, 0 shots")
    page.get_by_role("dialog").get_by_role("button", name="Delete").click()
    expect(page.get_by_text("No match is like that.")).to_be_visible()
    page.locator("details", has_text="Deleted in the last").evaluate("one => { one.open = true; }")
    gone = page.locator("details li", has_text="The evening that is looked for")
    gone.get_by_role("button", name="Have it back").click()
    expect(lines(page)).to_have_count(1)

    # the list is an address: a reload finds the same
    page.reload()
    expect(lines(page)).to_have_count(1)
    page.get_by_role("button", name="show all").click()
    expect(lines(page).nth(1)).to_be_visible()


def test_players_day_place_and_conditions_are_put_right(page: Page, app) -> None:
    game = Client(app).new_match(title="Put right", players={"A": {"name": "Anm"}, "B": {"name": "Beck"}})
    page.goto("/?search=Put+right")
    page.get_by_role("button", name="About Put right").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Player A", exact=True).fill("Ann Marlow")
    dialog.get_by_label("Day").fill("2026-02-03")
    dialog.get_by_label("Place").fill("Back room")
    dialog.get_by_label("Pockets").select_option("tight")
    dialog.get_by_label("The house allows jump shots").uncheck()
    dialog.get_by_label("plays with the").first.select_option("left")
    dialog.get_by_label("Hours played").fill("2.5")
    dialog.get_by_role("button", name="Write it down").click()
    expect(lines(page)).to_contain_text("Ann Marlow – Beck")
    expect(lines(page)).to_contain_text("3 February 2026, Back room")
    header = page.request.get(f"/api/games/{game['id']}").json()["header"]
    assert header["conditions"] == {
        "pockets": "tight",
        "jump": False,
        "hours_before": 2.5,
        "A": {"hand": "left", "cue": None, "jump_cue": None},
    }
    # and taken back on the bench like any change
    page.goto(f"/match/{game['id']}")
    page.get_by_test_id("sentence").wait_for()
    page.keyboard.press("u")
    expect(page.get_by_test_id("score")).to_contain_text("Anm")


def test_a_moment_is_found_by_the_words_of_its_note(page: Page) -> None:
    page.goto("/")
    page.get_by_label("Find a match").fill("did not loo")
    moment = page.get_by_test_id("moments").get_by_role("link").first
    expect(moment).to_contain_text("All went well")
    moment.click()
    expect(page.get_by_test_id("entry")).to_contain_text("All went well")


def test_long_names_and_other_scripts_stay_inside_a_small_window(page: Page, app) -> None:
    people = {"A": {"name": "N" * 200}, "B": {"name": ARABIC}}
    game = Client(app).new_match(title=LONG[:200], place=ARABIC, players=people)
    for width in (320, 390, 820, 1280):
        page.set_viewport_size({"width": width, "height": 800})
        for path in ("/?search=goes+on", f"/match/{game['id']}"):
            page.goto(path)
            page.get_by_text("An evening that goes on").first.wait_for()
            wide = page.evaluate("document.documentElement.scrollWidth")
            assert wide <= width, (width, path)


def test_an_empty_club_is_greeted_with_three_steps_that_lead_to_the_first_hour(page: Page) -> None:
    empty = {"n": 0, "games": [], "deleted": []}
    page.route("**/api/games?**", lambda route: route.fulfill(json=empty))
    page.goto("/")
    steps = page.get_by_role("region", name="First steps")
    expect(steps.get_by_role("listitem")).to_have_count(3)
    steps.get_by_role("link", name="first hour").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("A coach's first hour")
    picture = page.get_by_role("img", name="Marking the table")
    picture.scroll_into_view_if_needed()
    page.wait_for_timeout(300)
    assert picture.evaluate("one => one.naturalWidth") > 1000


def test_what_was_found_and_not_logged_waits_in_the_list(page: Page, app) -> None:
    game = Client(app).new_match(title="Half reviewed")
    told = {"games": {game["id"]: {"found": 4, "doubtful": 2, "reading": False}}}
    page.route("**/api/games/unfinished?**", lambda route: route.fulfill(json=told))
    page.goto("/?search=Half+reviewed")
    expect(page.get_by_test_id("unfinished")).to_have_text("4 shots found, not logged yet, 2 to look at")
