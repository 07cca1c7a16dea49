"""Facts that got in, or got lost, at the bench: each went wrong before."""

from __future__ import annotations

import json
import re
import uuid

import pytest
from playwright.sync_api import Page, expect

from aretane.demo.load import game_of
from tests.browser.hands import unfold
from tests.browser.test_first_rack import on_plan
from tests.conftest import DEMO, Client, rack_change, shot_change

FILM = json.loads((DEMO / "matches" / "nine-ball.json").read_bytes())["recordings"]
PLACES = {"cue": [0.6, 0.6], "1": [2.1, 1.0], "3": [1.0, 0.3], "9": [1.6, 0.9]}


@pytest.fixture
def match(app):
    """A break and two shots with layouts, in a match with the demo's recording."""
    client = Client(app)
    game = client.new_match(session="lesson", recordings=FILM)
    rack = rack_change(game)
    after = {name: at for name, at in PLACES.items() if name != "1"} | {"cue": [1.8, 0.8]}
    shots = [
        shot_change(rack, 0, player="A", kind="break", first_contact="1", potted=[{"ball": "2"}]),
        shot_change(
            rack, 1, player="A", kind="pot", called={"ball": "1", "pocket": "foot-left"}, first_contact="1",
            potted=[{"ball": "1", "pocket": "foot-left"}], result="made", layout_before={"balls": PLACES},
            layout_after={"balls": after}, recording=0, time={"start": 10.9, "contact": 12.1, "still": 17.8},
        ),
        shot_change(rack, 2, player="A", kind="pot", first_contact="3", result="missed-thin"),
    ]  # fmt: skip
    game = client.change(game, rack, *shots).json
    yield client, game
    client.send("DELETE", f"/games/{game['id']}")


def at(page: Page, game, shot: int) -> None:
    page.goto(f"/match/{game['id']}?shot={game['racks'][0]['shots'][shot]['id']}")
    expect(page.get_by_test_id("sentence")).not_to_be_empty()


def stored(client, game, shot: int):
    return client.get(f"/games/{game['id']}").json["racks"][0]["shots"][shot]["document"]


def written(page: Page) -> None:
    expect(page.get_by_test_id("sync")).to_have_text("all written")


def test_the_pictures_time_goes_on_after_choices_were_open(page: Page, match):
    client, game = match
    at(page, game, 1)
    transport = page.get_by_test_id("transport")
    start = str(int(10.9 * 25))  # the last picture that begins by then
    expect(transport).to_have_attribute("data-frame", start)
    page.keyboard.press("Shift+C")
    expect(transport).to_have_count(0)
    page.keyboard.press("Shift+C")
    expect(transport).to_have_attribute("data-frame", start)
    page.keyboard.press("Shift+ArrowRight")
    expect(transport).to_have_attribute("data-frame", str(int(start) + 25))
    page.keyboard.press("]")
    written(page)
    assert stored(client, game, 1)["time"]["start"] == 10.9


def test_another_moment_of_the_recording_is_said_and_has_no_rings(page: Page, match):
    _, game = match
    at(page, game, 2)
    expect(page.get_by_test_id("elsewhere")).to_contain_text("no moment in the recording")
    expect(page.locator("[data-ring]")).to_have_count(0)
    page.keyboard.press("ArrowUp")
    expect(page.get_by_test_id("elsewhere")).to_have_count(0)
    expect(page.locator("[data-ring]").first).to_be_visible()


def test_a_result_without_a_place_is_no_scratch(page: Page, match):
    """With a known layout, before anybody placed the cue ball. What fell in a gap is left out: figures say so."""
    client, game = match
    page.goto(f"/match/{game['id']}")
    expect(page.get_by_test_id("entry")).to_contain_text("Next shot")
    page.keyboard.press("m")
    page.keyboard.press("Enter")
    expect(page.locator("[data-shot]")).to_have_count(4)
    written(page)
    told = client.get(f"/games/{game['id']}").json["racks"][0]["shots"][3]
    assert told["ruling"]["foul"] is None
    assert "layout_after" not in told["document"]
    hole = {**shot_change(game["racks"][0], 9), "document": {"hole": True, "state": {"player": "A"}}}
    assert client.change(game, hole, seen=2**60).status_code == 200
    page.goto("/figures/survey")
    page.get_by_label("Session").select_option("lesson")
    page.get_by_label("Match", exact=True).select_option(game["id"])
    expect(page.get_by_text("One stretch that nobody saw is left out")).to_be_visible()


def test_a_zone_is_drawn_for_a_safety_and_dragged(page: Page, match):
    client, game = match
    at(page, game, 1)
    for key in ("z", "z"):
        page.keyboard.press(key)
    expect(page.get_by_test_id("said")).to_contain_text("A window along a line")
    page.keyboard.press("g")
    expect(page.get_by_test_id("said")).to_contain_text("for a safety")
    for place in ([1.2, 0.4], [1.6, 0.4]):
        page.mouse.click(*on_plan(page, place))
    written(page)
    (zone,) = stored(client, game, 1)["targets"]["cue"]["zones"]
    assert (zone["next"], zone["grade"], len(zone["outline"])) == ("safety", "acceptable", 4)
    page.keyboard.press("o")
    expect(page.get_by_test_id("said")).to_contain_text("Rather long")
    handle = page.locator('[data-handle="zone:cue"]')
    box = handle.bounding_box()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(*on_plan(page, [1.0, 0.8]), steps=4)
    page.mouse.up()
    written(page)
    (moved,) = stored(client, game, 1)["targets"]["cue"]["zones"]
    assert moved["rather"] == "long"
    assert sum(x for x, _ in moved["outline"]) / 4 == pytest.approx(1.0, abs=0.02)


def test_a_ball_is_chosen_and_moved_by_keys(page: Page, match):
    client, game = match
    at(page, game, 1)
    page.keyboard.press(".")
    expect(page.get_by_test_id("said")).to_contain_text("The cue ball: arrows move it")
    page.keyboard.press("Shift+ArrowRight")
    page.keyboard.press("ArrowUp")
    written(page)
    x, y = stored(client, game, 1)["layout_before"]["balls"]["cue"]
    assert (x, y) == pytest.approx((0.6 + 2.54 / 64, 0.602), abs=1e-4)


def test_the_meant_ball_of_a_logged_shot_is_changed_and_no_layout_with_it(page: Page, match):
    client, game = match
    at(page, game, 2)
    page.keyboard.press("9")
    expect(page.get_by_test_id("sentence")).to_contain_text("9 (which pocket?)")
    page.keyboard.press("w")
    written(page)
    assert stored(client, game, 2)["called"] == {"ball": "9", "pocket": "side-left"}
    assert stored(client, game, 1) == game["racks"][0]["shots"][1]["document"]


def test_keys_in_one_breath_each_find_the_bench_as_the_one_before_left_it(page: Page, match):
    """A step to the shot before and its result, pressed within a millisecond: the result is that shot's."""
    client, game = match
    at(page, game, 2)
    page.evaluate(
        """async () => { for (const key of ["ArrowUp", "j"]) {
             document.body.dispatchEvent(new KeyboardEvent("keydown", { key, code: "", bubbles: true }));
             await new Promise((done) => setTimeout(done, 0)); } }"""
    )
    expect(page.get_by_test_id("sentence")).to_contain_text("in the jaws")
    written(page)
    assert (stored(client, game, 1)["result"], stored(client, game, 2)["result"]) == ("missed-jaw", "missed-thin")


def test_a_key_held_down_is_one_deed(page: Page, match):
    client, game = match
    page.goto(f"/match/{game['id']}")
    expect(page.get_by_test_id("entry")).to_contain_text("Next shot")
    for key in ("g", "Enter"):
        page.keyboard.down(key)
        for _ in range(5):
            page.keyboard.down(key)  # as a keyboard repeats
        page.keyboard.up(key)
    written(page)
    assert len(client.get(f"/games/{game['id']}").json["racks"][0]["shots"]) == 4


def test_a_shot_in_the_wrong_place_is_moved_and_undo_says_so(page: Page, match):
    client, game = match
    at(page, game, 2)
    with page.expect_response("**/operations"):
        page.keyboard.press("{")
    written(page)
    order = [shot["id"] for shot in client.get(f"/games/{game['id']}").json["racks"][0]["shots"]]
    was = [shot["id"] for shot in game["racks"][0]["shots"]]
    assert order == [was[0], was[2], was[1]]
    page.keyboard.press("u")
    expect(page.get_by_test_id("said")).to_contain_text("Taken back: shot moved")


def test_undo_while_placing_takes_the_placing_back_and_no_logged_shot(page: Page, match):
    client, game = match
    page.goto(f"/match/{game['id']}")
    expect(page.get_by_test_id("entry")).to_contain_text("Next shot")
    page.keyboard.press("m")
    page.keyboard.press("u")
    expect(page.get_by_test_id("said")).to_contain_text("Taken back: made")
    expect(page.get_by_test_id("sentence")).to_contain_text("made or missed?")
    assert len(client.get(f"/games/{game['id']}").json["racks"][0]["shots"]) == 3


def test_in_a_fresh_match_there_is_nothing_to_undo(page: Page, app):
    game = Client(app).new_match()
    page.goto(f"/match/{game['id']}")
    expect(page.get_by_test_id("entry")).to_be_visible()
    page.keyboard.press("u")
    expect(page.get_by_test_id("said")).to_contain_text("there is nothing to undo")


def test_choosing_the_game_keeps_title_and_players(page: Page):
    page.goto("/")
    page.get_by_role("button", name="New match").click()
    page.get_by_label("Title", exact=True).fill("Tuesday")
    page.get_by_label("Player A", exact=True).fill("Ada Lindqvist")
    page.get_by_label("Game").select_option("snooker")
    expect(page.get_by_label("Title", exact=True)).to_have_value("Tuesday")
    expect(page.get_by_label("Player A", exact=True)).to_have_value("Ada Lindqvist")
    expect(page.get_by_role("dialog")).to_contain_text("The miss rule is off unless you choose it")


def test_the_same_match_is_offered_to_be_replaced_or_copied(page: Page, client, demo_match):
    own = {**demo_match, "id": f"twice-{uuid.uuid4().hex[:6]}", "title": "Twice brought in"}
    file = {"name": "twice.json", "mimeType": "application/json", "buffer": json.dumps(own).encode()}
    first = client.send("POST", "/games/import", data=json.dumps(own)).json
    page.goto("/")
    page.locator('section[aria-label="Matches"] input[type="file"]').set_input_files(file)
    dialog = page.get_by_role("dialog", name="This match is here already")
    expect(dialog).to_contain_text("“Twice brought in” is here already")
    dialog.get_by_role("button", name="Leave it").click()
    expect(page.get_by_role("link", name=re.compile("^Twice brought in"))).to_have_count(1)
    page.locator('section[aria-label="Matches"] input[type="file"]').set_input_files(file)
    page.get_by_role("button", name="Take it in as a copy").click()
    expect(page.get_by_test_id("score")).to_be_visible()
    page.goto("/")
    expect(page.get_by_role("link", name=re.compile("^Twice brought in"))).to_have_count(2)
    for one in {first["id"], *[g["id"] for g in client.get("/games?search=Twice").json["games"]]}:
        client.send("DELETE", f"/games/{one}")


@pytest.mark.parametrize("discipline", ["nine-ball", "eight-ball", "blackball", "straight-pool", "snooker"])
def test_the_entry_asks_for_what_is_open_and_for_no_more(page: Page, discipline):
    """Two to eight controls in a row; everything else lies behind at most nine keys."""
    page.goto(f"/match/{game_of(discipline)}")
    entry = page.get_by_test_id("entry")
    expect(entry).to_be_visible()
    for number in (0, 4, 9):
        page.locator("[data-shot]").nth(min(number, page.locator("[data-shot]").count() - 1)).click()
        assert page.get_by_test_id("asks").get_by_role("button").count() <= 8
        assert entry.get_by_role("button").count() <= 22
    unfold(page, "fouls")
    letters = page.get_by_test_id("unfolded").locator(".key").all_inner_texts()
    assert len(letters) == len(set(letters)), "each word has a letter of its own"
