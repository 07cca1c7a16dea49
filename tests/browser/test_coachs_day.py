"""A coach's day and a snooker coach's day by keys alone: no mouse is touched in this file."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from tests.browser.hands import said_in
from tests.conftest import Client, shot_change

NAME = """() => {
  const one = document.activeElement;
  if (!one) return "";
  const own = one.getAttribute("aria-label") || (one.labels && one.labels[0]?.textContent) || one.textContent || "";
  return own.trim();
}"""


class Keys:
    def __init__(self, page: Page) -> None:
        self.page = page

    def press(self, keys: str) -> None:
        for key in keys.split():
            self.page.keyboard.press(key)

    def tab_to(self, name: str) -> None:
        """Tab, as somebody without a mouse does, until the field or button of this name has the focus."""
        for _ in range(80):
            if self.page.evaluate(NAME).startswith(name):
                return
            self.page.keyboard.press("Tab")
        raise AssertionError(f"no Tab leads to {name!r}")

    def fill(self, name: str, text: str) -> None:
        self.tab_to(name)
        self.page.keyboard.press("ControlOrMeta+A")
        self.page.keyboard.type(text)

    def choose(self, name: str, word: str) -> None:
        self.tab_to(name)
        self.page.keyboard.type(word)

    def tick(self, name: str) -> None:
        self.tab_to(name)
        self.page.keyboard.press("Space")

    def do(self, words: str) -> None:
        """By the command line."""
        self.page.keyboard.press("/")
        expect(self.page.get_by_role("combobox", name="Command")).to_be_focused()
        self.page.keyboard.type(words)
        self.page.keyboard.press("Enter")

    def log(self, keys: str) -> None:
        """An entry, which is there afterwards."""
        self.written()
        before = self.entries()
        self.press(f"{keys} Enter")
        self.written()
        assert self.entries() == before + 1

    def entries(self) -> int:
        game = self.page.request.get(f"/api/games/{self.game_id}").json()
        return sum(len(rack["shots"]) for rack in game["racks"])

    def shows(self, where: str, words: str) -> None:
        expect(self.page.get_by_test_id(where)).to_contain_text(words)

    def written(self) -> None:
        expect(self.page.get_by_test_id("sync")).to_have_text("all written")

    @property
    def game_id(self) -> str:
        return self.page.url.rsplit("/", 1)[1].split("?")[0]


def test_a_pool_coachs_day(page: Page, app) -> None:
    keys, client = Keys(page), Client(app)
    page.goto("/")
    keys.tab_to("New match")
    keys.press("Enter")
    keys.fill("Title", "Coach's day")
    keys.fill("Player A", "Ada Lindqvist")
    keys.fill("Player B", "Ben Castellan")
    keys.tick("The recording begins later")
    keys.tick("a rack is under way")
    keys.fill("racks A", "2")
    keys.fill("racks B", "1")
    keys.choose("At the table", "player B")
    for ball in "1278":
        keys.tick(f"{ball} on the table")
    keys.tab_to("Begin")
    keys.press("Enter")
    keys.shows("score", "Ada Lindqvist 2 : 1 Ben Castellan")
    keys.shows("allowed", "Ben Castellan to shoot: the 3.")

    # the recording that is there already
    keys.do("choose a rec")
    keys.tab_to("Use Rack five, from behind the head rail")
    keys.press("Enter")
    expect(page.get_by_test_id("frame-label")).to_have_text(re.compile(r"/\d{4}$"))

    # late start: a pot in three keys, times marked in their order only
    keys.log("e m")
    page.keyboard.press("ArrowUp")
    keys.shows("sentence", "Ben Castellan: 3 into foot left, made")
    keys.press("Shift+ArrowRight ]")
    keys.shows("said", "Marked: the standstill")
    keys.press("Shift+ArrowRight \\")
    keys.shows("said", "Not marked: the contact would be after the standstill")
    keys.press("ArrowDown")

    # a hole: the end of that rack was not seen
    keys.press("Shift+S")
    keys.choose("Winner of the rack", "Ben")
    keys.fill("Why it was not seen", "the battery was flat")
    keys.press("Enter")
    keys.shows("score", "Ada Lindqvist 2 : 2 Ben Castellan")
    keys.shows("allowed", "breaks rack 2")

    # a break that makes the two, a push-out, handed back; played; the miss by the jaws
    keys.log("2")
    keys.shows("allowed", "The push-out is allowed")
    keys.log("x")
    keys.shows("allowed", "has a choice")
    keys.press("L")
    keys.shows("allowed", "to shoot: the 1")
    keys.log("s m")
    keys.log("q j")
    keys.written()

    # a foul that only the recording shows: it stays noted, play went on as it was called
    page.keyboard.press("ArrowUp")
    keys.shows("sentence", "in the jaws")
    keys.press("f d Escape")
    keys.shows("ruling", "double hit")
    keys.do("overrule")
    keys.choose("Call", "no foul")
    keys.tick("So called at the table")
    keys.fill("Why", "nobody saw it at the table")
    keys.tab_to("Overrule")
    keys.press("Enter")
    keys.shows("ruling", "Seen in review: double hit")

    # an early shot is put right, then one that was forgotten put before it
    page.keyboard.press("ArrowUp")
    keys.shows("sentence", "1 into side right, made")
    keys.press("a")
    keys.shows("sentence", "1 into head right, made")
    keys.press("u")
    keys.shows("said", "Taken back: pocket meant")
    keys.shows("sentence", "1 into side right, made")
    keys.press("Shift+U")
    keys.shows("sentence", "1 into head right, made")
    count = keys.entries()
    keys.press("Shift+I")
    keys.shows("entry", "Forgotten shot")
    keys.press("g Enter")
    keys.written()
    assert keys.entries() == count + 1
    keys.press("u")
    keys.shows("said", "Taken back: a shot put into rack 2")
    for _ in range(50):
        if keys.entries() == count:
            break
        page.wait_for_timeout(100)
    assert keys.entries() == count

    # two windows: the tablet writes a cause, the desk a note; in mid-word the page is loaded anew
    game = client.get(f"/games/{keys.game_id}").json
    rack = game["racks"][1]
    last = rack["shots"][-1]
    theirs = shot_change(rack, last["seat"], last["id"], **{**last["document"], "causes": ["rushed"]})
    page.keyboard.press("ArrowUp")
    keys.shows("sentence", "in the jaws")
    assert client.change(game, theirs).status_code == 200
    keys.press("Shift+T")
    page.keyboard.type("ask him why he did not wa")
    page.reload()
    expect(said_in(page, "note")).to_contain_text("ask him why he did not wa")
    expect(said_in(page, "causes")).to_contain_text("rushed")
    keys.written()
    told = client.get(f"/games/{keys.game_id}").json["racks"][1]["shots"][-1]["document"]
    assert (told["note"], told["causes"]) == ("ask him why he did not wa", ["rushed"])


def test_a_snooker_coachs_day(page: Page) -> None:
    keys = Keys(page)
    page.goto("/")
    keys.tab_to("New match")
    keys.press("Enter")
    keys.fill("Title", "A frame by keys")
    keys.choose("Game", "Snooker")
    page.keyboard.press("Tab")
    keys.fill("Player A", "Mirela Anscombe")
    keys.fill("Player B", "Odo Brightwell")
    keys.choose("The miss rule", "on")
    keys.tab_to("Begin")
    keys.press("Enter")
    keys.shows("allowed", "Mirela Anscombe breaks frame 1")

    # a break-off, a red with its black, a miss that is called and played again from the old places
    keys.log("g")
    keys.log("m")
    keys.log("m")
    keys.shows("board", "Mirela Anscombe 0 – 8 Odo Brightwell")
    keys.log("g")
    page.keyboard.press("f")
    keys.shows("unfolded", "hit nothing")
    keys.press("h Escape")
    keys.log("")
    keys.shows("board", "Mirela Anscombe 0 – 12 Odo Brightwell")
    keys.press("G")
    keys.shows("allowed", "Mirela Anscombe to shoot")
    keys.log("g")

    # an escape that is a foul leaves a free ball, which is nominated and made
    keys.log("g c")
    keys.shows("board", "Mirela Anscombe 4 – 12 Odo Brightwell")
    keys.press("Shift+F")
    keys.shows("said", "Free ball: the yellow")
    keys.log("m")
    keys.shows("board", "Mirela Anscombe 5 – 12 Odo Brightwell")
    keys.log("7 m")
    keys.shows("board", "Mirela Anscombe 12 – 12 Odo Brightwell")

    # a foot off the floor is a foul like others; what fell is said by digits and letters
    keys.press("f f Escape")
    keys.log("g")
    keys.shows("board", "Mirela Anscombe 12 – 16 Odo Brightwell")
    keys.press("Y")

    # a concession; a frame that is level on the last black: it is spotted again
    keys.do("Odo Brightwell gives")
    keys.shows("score", "Mirela Anscombe 1 : 0 Odo Brightwell")
    keys.press("Shift+S")
    keys.fill("frames Mirela Anscombe", "1")
    keys.fill("points Mirela Anscombe", "40")
    keys.fill("points Odo Brightwell", "47")
    keys.choose("on", "black")
    keys.fill("red balls on the table", "0")
    for colour in ("yellow", "green", "brown", "blue", "pink"):
        keys.tick(f"{colour} on the table")
    keys.tab_to("Log the gap")
    keys.press("Enter")
    keys.shows("board", "on: the black")
    keys.log("m")
    page.keyboard.press("ArrowUp")
    keys.shows("ruling", "the black is spotted")
    page.keyboard.press("ArrowDown")
    keys.log("Shift+P m")  # they drew lots
    keys.shows("score", "2 : 0")
    keys.written()
