"""An entry is never dropped: what the server refuses waits with its reason, and so does what comes after it."""

from __future__ import annotations

import json
import re

import pytest
from playwright.sync_api import Page, Route, expect

from tests.browser.hands import note, said_in
from tests.conftest import Client, rack_change, shot_change


class Server:
    """Stands before the real one and answers operations as it is told; what it lets through it counts."""

    def __init__(self, page: Page) -> None:
        self.answer: tuple[int, str] | None = None
        self.refuses: str | None = None
        self.asked: list[dict] = []
        page.route("**/operations", self._handle)

    def _handle(self, route: Route) -> None:
        sent = json.loads(route.request.post_data or "{}")
        self.asked.append(sent)
        if self.answer and self.refuses in (None, route.request.url.split("/")[-2]):
            status, message = self.answer
            route.fulfill(status=status, json={"message": message, "field": None})
        else:
            route.continue_()


@pytest.fixture
def two(client: Client):
    """Two matches, each with a rack of two shots."""
    found = []
    for _ in range(2):
        game = client.new_match()
        rack = rack_change(game)
        client.change(game, rack)
        game = client.get(f"/games/{game['id']}").json
        client.change(game, shot_change(rack, 0, player="A", kind="break", potted=[{"ball": "1"}]))
        game = client.get(f"/games/{game['id']}").json
        client.change(game, shot_change(rack, 1, player="A", kind="pot", potted=[]))
        found.append(client.get(f"/games/{game['id']}").json)
    return found


@pytest.fixture
def gate(page):
    return Server(page)


def opened(page: Page, game, shot: int = 0) -> None:
    page.goto(f"/match/{game['id']}?shot={game['racks'][0]['shots'][shot]['id']}")
    expect(page.get_by_test_id("entry")).to_contain_text("Logged shot")


def noted(page: Page, words: str) -> None:
    note(page, words)


def stored_note(client, game, shot: int = 0):
    return client.get(f"/games/{game['id']}").json["racks"][0]["shots"][shot]["document"].get("note")


def test_a_refused_entry_waits_and_editing_it_mends_it(page: Page, client, two, gate):
    first, second = two
    gate.answer, gate.refuses = (422, "this cannot have happened"), first["id"]
    opened(page, first)
    noted(page, "one")
    expect(page.get_by_role("alert")).to_contain_text("One change was not written: this cannot have happened")
    opened(page, second)
    noted(page, "other match")
    expect(page.get_by_role("alert")).to_be_visible()
    page.wait_for_timeout(300)
    assert stored_note(client, second) == "other match", "other matches go on"
    assert stored_note(client, first) is None
    gate.answer = None
    opened(page, first)
    expect(said_in(page, "note")).to_contain_text("one")
    noted(page, "one, mended")
    expect(page.get_by_test_id("sync")).to_have_text("all written")
    assert stored_note(client, first) == "one, mended"


def test_later_changes_of_the_match_wait_behind_it_and_come_in_order(page: Page, client, two, gate):
    game = two[0]
    gate.answer = (400, "no")
    opened(page, game)
    noted(page, "first")
    expect(page.get_by_role("alert")).to_be_visible()
    opened(page, game, 1)
    noted(page, "second")
    page.wait_for_timeout(300)
    sent = len(gate.asked)
    gate.answer = None
    page.get_by_role("alert").click()
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("no")
    dialog.get_by_role("button", name="try again").click()
    expect(dialog).to_contain_text("All is written, or on its way.")
    page.get_by_role("dialog").get_by_role("button", name="Close").click()
    expect(page.get_by_test_id("sync")).to_have_text("all written")
    assert (stored_note(client, game), stored_note(client, game, 1)) == ("first", "second")
    again, later = gate.asked[sent:]
    assert again["id"] == gate.asked[0]["id"], "the same operation: it is done once"
    assert later["changes"][0]["document"]["note"] == "second"


def test_only_the_coach_gives_a_change_up(page: Page, client, two, gate):
    game = two[0]
    gate.answer = (422, "no")
    opened(page, game)
    noted(page, "not wanted")
    page.get_by_role("alert").click()
    page.get_by_role("dialog").get_by_role("button", name="give up").click()
    page.get_by_role("dialog").get_by_role("button", name="Close").click()
    expect(page.get_by_test_id("sync")).to_have_text("all written")
    assert stored_note(client, game) is None


@pytest.mark.parametrize("status", [500, 502, 503, 429])
def test_troubles_of_the_servers_own_are_tried_again(page: Page, client, two, gate, status):
    game = two[0]
    gate.answer = (status, "trouble")
    opened(page, game)
    noted(page, "kept")
    expect(page.get_by_text(re.compile("1 change is kept here"))).to_be_visible()
    gate.answer = None
    expect(page.get_by_test_id("sync")).to_have_text("all written")
    assert stored_note(client, game) == "kept"


def test_what_a_closed_page_left_is_taken_over_by_the_next(page: Page, client, two, gate, chromium):
    game = two[0]
    gate.answer = (422, "no")
    opened(page, game)
    noted(page, "left behind")
    expect(page.get_by_role("alert")).to_be_visible()
    page.goto("about:blank")
    opened(page, game)
    expect(page.get_by_role("alert")).to_contain_text("no")
    expect(said_in(page, "note")).to_contain_text("left behind")
    kept = page.evaluate(
        """() => new Promise((done) => {
          const opening = indexedDB.open("keyval-store");
          opening.onsuccess = () => {
            const all = opening.result.transaction("keyval").objectStore("keyval").getAllKeys();
            all.onsuccess = () => done(all.result.filter((key) => key.startsWith("aretane-outbox:")).length);
          };
        })"""
    )
    assert kept == 1, "moved, not copied"
