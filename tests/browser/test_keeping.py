"""Nothing that was logged is lost: a killed server, a killed database, a second browser, undo."""

from __future__ import annotations

import json
import os
import re
import signal
import subprocess
import sys
import time
import urllib.request
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from aretane.demo.load import game_of
from aretane.settings import ROOT
from aretane.store.private_server import _alive
from tests.browser.hands import cause, note, said_in
from tests.conftest import Client, rack_change, shot_change

GAME = game_of("nine-ball")


class Serving:
    """Aretane as a coach starts it, in a folder of its own."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.port: int | None = None
        self.start()

    def start(self) -> None:
        extra = ["--port", str(self.port)] if self.port else []
        environment = {**os.environ, "ARETANE_VAR": str(self.folder), "PYTHONPATH": str(ROOT / "src")}
        self.process = subprocess.Popen(
            [sys.executable, "-m", "aretane.cli", "demo", *extra],
            stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, env=environment,
        )  # fmt: skip
        assert self.process.stdout
        said = self.process.stdout.readline()
        assert "http://127.0.0.1:" in said, said + (self.process.stdout.read() or "")
        self.port = int(said.split("127.0.0.1:")[1].split("/")[0])

    @property
    def site(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def kill_server(self) -> None:
        self.process.send_signal(signal.SIGKILL)
        self.process.wait(timeout=10)

    def database_pid(self) -> int:
        return int((self.folder / "database" / "pid").read_text())

    def stop(self) -> None:
        self.process.send_signal(signal.SIGINT)
        self.process.wait(timeout=30)

    def game(self) -> dict:
        with urllib.request.urlopen(f"{self.site}/api/games/{GAME}") as answer:
            return json.loads(answer.read())


@pytest.fixture
def serving(tmp_path):
    made = Serving(tmp_path / "var")
    yield made
    if made.process.poll() is None:
        made.stop()


@pytest.fixture
def coach(chromium: Browser, serving):
    context = chromium.new_context(base_url=serving.site, viewport={"width": 1280, "height": 800})
    page = context.new_page()
    yield page
    context.close()


def open_shot(page: Page, number: int = 1) -> None:
    page.goto(f"/match/{GAME}?rack=1")
    page.locator("[data-shot]").nth(number).click()
    expect(page.get_by_test_id("entry")).to_contain_text("Logged shot")


def test_a_killed_server_loses_nothing_and_the_rest_is_sent_once(coach: Page, serving):
    open_shot(coach, 2)
    cause(coach, "rushed")
    expect(coach.get_by_test_id("sync")).to_have_text("all written")
    serving.kill_server()
    cause(coach, "tired", "pressure")
    expect(coach.get_by_text("Aretane does not answer; 2 changes are kept here")).to_be_visible()
    expect(said_in(coach, "causes")).to_contain_text("rushed, tired, pressure")
    serving.start()
    expect(coach.get_by_test_id("sync")).to_have_text("all written", timeout=30_000)
    shot = serving.game()["racks"][1]["shots"][2]
    assert shot["document"]["causes"] == ["rushed", "tired", "pressure"]
    with urllib.request.urlopen(f"{serving.site}/api/games/{GAME}/history") as answer:
        labels = [entry["label"] for entry in json.loads(answer.read())["entries"]]
    assert len([label for label in labels if label.startswith("causes")]) == 3


def test_what_was_kept_survives_a_closed_page(coach: Page, serving):
    open_shot(coach, 3)
    serving.kill_server()
    cause(coach, "careless")
    expect(coach.get_by_text("1 change is kept here")).to_be_visible()
    coach.wait_for_timeout(300)
    serving.start()
    coach.goto("about:blank")
    coach.goto(f"/match/{GAME}")
    expect(coach.get_by_test_id("sync")).to_have_text("all written", timeout=30_000)
    deadline = time.monotonic() + 10
    while time.monotonic() < deadline:
        if serving.game()["racks"][1]["shots"][3]["document"].get("causes") == ["careless"]:
            return
        time.sleep(0.2)
    raise AssertionError("the kept change never arrived")


def test_every_entry_is_there_whatever_dies_while_a_coach_types(coach: Page, serving):
    """The server, the database and both are killed between one entry and the next; none is waited for."""
    open_shot(coach, 1)
    happens = {
        3: [serving.kill_server],
        5: [serving.start],
        6: [lambda: os.kill(serving.database_pid(), signal.SIGKILL)],
        7: [serving.kill_server, lambda: os.kill(serving.database_pid(), signal.SIGKILL)],
        9: [serving.start],
    }
    numbers = range(2, 11)
    for number in numbers:
        for happen in happens.get(number, ()):
            happen()
        coach.locator("[data-shot]").nth(number).click()
        note(coach, f"entry {number}")
    expect(coach.get_by_test_id("sync")).to_have_text("all written", timeout=30_000)
    shots = serving.game()["racks"][1]["shots"]
    assert [shots[number]["document"].get("note") for number in numbers] == [f"entry {n}" for n in numbers]
    with urllib.request.urlopen(f"{serving.site}/api/games/{GAME}/history") as answer:
        labels = [entry["label"] for entry in json.loads(answer.read())["entries"]]
    assert len(labels) == 1 + len(numbers), "each was written once"


def test_a_killed_database_is_brought_back(coach: Page, serving):
    open_shot(coach, 2)
    os.kill(serving.database_pid(), signal.SIGKILL)
    cause(coach, "rushed")
    expect(coach.get_by_test_id("sync")).to_have_text("all written", timeout=30_000)
    assert serving.game()["racks"][1]["shots"][2]["document"]["causes"] == ["rushed"]


def test_ctrl_c_stops_what_was_started(serving):
    pid = serving.database_pid()
    serving.stop()
    assert serving.process.returncode == 0
    assert not _alive(pid)


def test_a_taken_port_is_one_line(serving):
    environment = {**os.environ, "ARETANE_VAR": str(serving.folder), "PYTHONPATH": str(ROOT / "src")}
    second = subprocess.run(
        [sys.executable, "-m", "aretane.cli", "serve", "--port", str(serving.port)],
        capture_output=True, text=True, check=False, env=environment, timeout=60,
    )  # fmt: skip
    assert second.returncode == 2
    assert (
        second.stderr.strip() == f"error: port {serving.port} is taken by another program; choose one with --port"
    )
    assert serving.game()["id"] == GAME  # the first one's database was left running


# Two browsers and undo, on the shared application


def logged_match(app) -> tuple[Client, dict]:
    client = Client(app)
    game = client.new_match(session="both-sides")
    rack = rack_change(game)
    first = shot_change(rack, 0, player="A", kind="break", first_contact="1", potted=[{"ball": "2"}])
    second = shot_change(rack, 1, player="A", kind="pot", first_contact="1", potted=[{"ball": "1"}])
    return client, client.change(game, rack, first, second).json


def test_a_second_browser_is_told_and_shown_both(page: Page, app):
    """Different fields of one shot make one shot; the same field is shown in both versions."""
    client, game = logged_match(app)
    page.goto(f"/match/{game['id']}")
    page.locator("[data-shot]").nth(1).click()

    def on_the_tablet(**changes):
        now = client.get(f"/games/{game['id']}").json
        shot = now["racks"][0]["shots"][1]
        theirs = {
            **shot_change(now["racks"][0], shot["seat"], shot["id"]),
            "document": {**shot["document"], **changes},
        }
        assert client.change(now, theirs).status_code == 200

    def stored():
        return client.get(f"/games/{game['id']}").json["racks"][0]["shots"][1]["document"]

    on_the_tablet(note="written on the tablet")
    cause(page, "speed")
    expect(said_in(page, "note")).to_contain_text("written on the tablet")
    assert stored()["causes"] == ["speed"]
    on_the_tablet(note="and once more")
    note(page, "written at the desk")
    dialog = page.get_by_role("dialog", name="Somebody else changed this too")
    expect(dialog).to_contain_text("and once more")
    expect(dialog).to_contain_text("written at the desk")
    dialog.get_by_role("button", name="Keep theirs").click()
    expect(said_in(page, "note")).to_contain_text("and once more")
    expect(page.get_by_test_id("sync")).to_have_text("all written")
    assert stored()["note"] == "and once more"


def test_undo_and_redo_by_key(page: Page, app):
    _client, game = logged_match(app)
    page.goto(f"/match/{game['id']}")
    page.locator("[data-shot]").nth(1).click()
    cause(page, "line")
    page.keyboard.press("Escape")
    expect(said_in(page, "causes")).to_contain_text("line")
    page.keyboard.press("u")
    expect(said_in(page, "causes")).not_to_contain_text("line")
    expect(page.get_by_test_id("said")).to_contain_text("Taken back: causes")
    page.keyboard.press("Shift+U")
    expect(said_in(page, "causes")).to_contain_text("line")


def test_an_impossible_edit_is_shown_and_can_be_overruled(page: Page, app):
    _client, game = logged_match(app)
    page.goto(f"/match/{game['id']}")
    page.locator("[data-shot]").nth(1).click()
    page.locator('[data-word="player"]').click()
    page.get_by_test_id("asks").get_by_role("button", name="Ben").click()
    expect(page.get_by_role("alert")).to_contain_text("player A is at the table")
    page.get_by_role("button", name="Overrule").click()
    page.get_by_label("Why").fill("took it by mistake, nobody minded")
    page.get_by_role("dialog").get_by_role("button", name="Overrule").click()
    expect(page.get_by_role("alert")).to_have_count(0)
    expect(page.get_by_test_id("ruling")).to_contain_text("nobody minded")


def test_a_push_out_is_offered_answered_and_explained(page: Page, app):
    client = Client(app)
    game = client.new_match()
    rack = rack_change(game)
    client.change(game, rack, shot_change(rack, 0, player="A", kind="break", first_contact="1", potted=[]))
    page.goto(f"/match/{game['id']}")
    expect(page.get_by_test_id("allowed")).to_have_text("Ben to shoot: the 1. The push-out is allowed.")
    page.keyboard.press("x")
    page.keyboard.press("Enter")
    expect(page.get_by_test_id("allowed")).to_contain_text("Ann has a choice")
    page.get_by_role("button", name="hands it back").click()
    expect(page.get_by_test_id("allowed")).to_contain_text("Ben to shoot")
    expect(page.locator("[data-shot]")).to_have_count(3)


def test_balls_snap_to_touching_and_to_the_rail_and_say_so(page: Page, app):
    from tests.browser.test_first_rack import drag_on_plan, on_plan

    client = Client(app)
    game = client.new_match(start={"player": "A", "layout": {"state": {}}})
    page.goto(f"/match/{game['id']}")
    expect(page.get_by_test_id("drawing")).to_be_visible()
    page.keyboard.press("p")
    page.mouse.click(*on_plan(page, [0.6, 0.6]))
    page.mouse.click(*on_plan(page, [1.2, 0.6]))
    page.keyboard.press("Escape")
    drag_on_plan(page, "cue", [1.19, 0.6])
    expect(page.get_by_test_id("said")).to_have_text("Touching the 1.")
    drag_on_plan(page, "1", [1.2, -0.05])
    expect(page.get_by_test_id("said")).to_have_text("Against the rail.")


def test_the_cue_ball_by_two_diamond_figures_and_the_keys_explained(page: Page, app):
    client = Client(app)
    game = client.new_match(start={"player": "A", "layout": {"state": {}}})
    page.goto(f"/match/{game['id']}")
    expect(page.get_by_test_id("drawing")).to_be_visible()
    page.keyboard.press("y")
    page.keyboard.type("4")
    page.keyboard.press("Tab")
    page.keyboard.type("2")
    page.keyboard.press("Enter")
    expect(page.locator('[data-ball="cue"]')).to_have_count(1)
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="What is possible now")).to_contain_text("log the shot and go on")
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog")).to_have_count(0)


def test_a_half_entered_shot_survives_a_reload(page: Page, app):
    client, game = logged_match(app)
    page.goto(f"/match/{game['id']}")
    expect(page.get_by_test_id("allowed")).to_contain_text("Ann to shoot: the 3.")
    page.keyboard.press("e")
    page.keyboard.press("t")
    page.keyboard.press("Shift+T")
    page.keyboard.type("ask her why this side")
    page.reload()  # in mid-word: nothing was left behind
    expect(page.get_by_test_id("sentence")).to_have_text("Ann: 3 into foot left, missed thick")
    expect(said_in(page, "note")).to_contain_text("ask her why this side")
    page.keyboard.press("Enter")
    expect(page.locator("[data-shot]")).to_have_count(3)
    expect(page.get_by_test_id("sync")).to_have_text("all written")
    stored = client.get(f"/games/{game['id']}").json["racks"][0]["shots"][2]["document"]
    assert (stored["result"], stored["note"]) == ("missed-thick", "ask her why this side")


def test_a_new_view_is_marked_for_itself(page: Page, app):
    """From a cut on, the table is marked anew; what was marked before it stays."""
    demo = Client(app).get(f"/games/{GAME}").json["header"]["recordings"]
    client = Client(app)
    game = client.new_match(recordings=demo)
    page.goto(f"/match/{game['id']}")
    expect(page.get_by_test_id("frame-label")).to_have_text(re.compile(r"/\d{4}$"))
    page.get_by_label("Frame", exact=True).fill("500")
    expect(page.get_by_test_id("transport")).to_have_attribute("data-frame", "500")
    page.get_by_role("button", name="mark the table").click()
    page.get_by_role("button", name="new view from here").click()
    expect(page.locator("[data-mark]")).to_have_count(4)
    expect(page.get_by_test_id("sync")).to_have_text("all written")
    views = client.get(f"/games/{game['id']}").json["header"]["recordings"][0]["views"]
    assert [view["from"] for view in views] == [0, 20.0]
    assert views[0]["to"] == 20.0
    assert len(views[0]["camera"]["marks"]) == 10
    assert views[1]["camera"] is None
