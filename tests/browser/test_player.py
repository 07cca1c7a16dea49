"""The picture on the screen is the frame that the bench says it is: read from its bar code, held to media time."""

from __future__ import annotations

import uuid
from fractions import Fraction

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from tests.conftest import Client
from tests.vision.films import film, steady
from tests.vision.test_recording import turn
from tests.web.test_api import upload

SHOWN = """() => {
  const video = document.querySelector('[data-testid=video]');
  const canvas = document.createElement('canvas');
  canvas.width = video.videoWidth; canvas.height = video.videoHeight;
  const pen = canvas.getContext('2d'); pen.drawImage(video, 0, 0);
  let number = 0;
  for (let bit = 0; bit < 16; bit++) {
    const x = Math.floor((bit + 0.5) * canvas.width / 16);
    if (pen.getImageData(x, Math.floor(canvas.height / 8), 1, 1).data[0] > 128) number |= 1 << bit;
  }
  return number;
}"""

IRREGULAR = [float(t) for t in np.cumsum(np.random.default_rng(1).uniform(0.02, 0.2, 60))]

FILMS = {
    "h264": {"name": "a.mp4", "times": steady(90)},
    "h264 beginning late": {"name": "b.mp4", "times": steady(60, start=1.5)},
    "h264 with irregular stamps": {"name": "c.mp4", "times": IRREGULAR},
    "h264 with wide pixels": {"name": "d.mp4", "times": steady(60), "aspect": Fraction(4, 3)},
    "one picture every three seconds": {"name": "e.mp4", "times": [3.0 * n for n in range(12)]},
    "vp9": {"name": "f.webm", "times": steady(60), "codec": "libvpx-vp9"},
    "vp9 beginning late": {"name": "g.webm", "times": steady(60, start=2.0), "codec": "libvpx-vp9"},
}


def open_with(page: Page, app, path) -> dict:
    client = Client(app)
    recording = upload(client, path.read_bytes(), path.name, chunk=8_000_000).json
    entry = {"sha256": recording["sha256"], "name": path.name, "views": [{"from": 0, "to": None, "camera": None}]}
    game = client.new_match(recordings=[entry], title=f"Film {uuid.uuid4()}")
    page.goto(f"/match/{game['id']}")
    expect(page.get_by_test_id("frame-label")).to_contain_text(f"/{recording['probe']['frames']}")
    page.wait_for_function("() => document.querySelector('[data-testid=video]').readyState >= 2")
    return recording


def expect_frame(page: Page, number: int) -> None:
    expect(page.get_by_test_id("transport")).to_have_attribute("data-frame", str(number))
    page.wait_for_function("() => !document.querySelector('[data-testid=video]').seeking")
    assert page.evaluate(SHOWN) == number


def go_to(page: Page, number: int) -> None:
    page.get_by_label("Frame", exact=True).fill(str(number))


@pytest.mark.parametrize("kind", FILMS)
def test_every_step_shows_the_frame_it_names(page: Page, app, tmp_path, kind):
    how = dict(FILMS[kind])
    path = film(tmp_path / how.pop("name"), how.pop("times"), **how)
    frames = open_with(page, app, path)["probe"]["frames"]
    for target in (frames // 2, frames // 2 + 1, 3, frames - 2, 0):
        go_to(page, target)
        expect_frame(page, target)
    for expected in (1, 2, 3):
        page.keyboard.press("ArrowRight")
        expect_frame(page, expected)
    page.keyboard.press("ArrowLeft")
    expect_frame(page, 2)


def test_a_second_forward_and_back_a_play_and_a_stop(page: Page, app, tmp_path):
    open_with(page, app, film(tmp_path / "a.mp4", steady(150)))
    go_to(page, 40)
    expect_frame(page, 40)
    page.keyboard.press("Shift+ArrowRight")
    expect_frame(page, 70)
    page.keyboard.press("Shift+ArrowLeft")
    expect_frame(page, 40)
    page.keyboard.press(">")
    expect(page.get_by_test_id("transport")).to_contain_text("2 ×")
    for _ in range(3):
        page.keyboard.press("<")
    expect(page.get_by_test_id("transport")).to_contain_text("0.25 ×")
    page.keyboard.press("Space")
    page.wait_for_function("() => document.querySelector('[data-testid=transport]').dataset.frame > 42")
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Play")).to_be_visible()
    number = int(page.get_by_test_id("transport").get_attribute("data-frame") or "-1")
    assert page.evaluate(SHOWN) == number


def test_a_loop_stays_within_its_shot(page: Page, app, tmp_path):
    """At a quarter of the speed, so that a browser held up for seconds does not come to the end of the film."""
    open_with(page, app, film(tmp_path / "a.mp4", steady(150)))
    go_to(page, 30)
    page.keyboard.press("[")
    go_to(page, 48)
    page.keyboard.press("]")
    go_to(page, 44)
    page.keyboard.press("v")
    for _ in range(2):
        page.keyboard.press("<")
    expect(page.get_by_test_id("transport")).to_contain_text("0.25 ×")
    page.keyboard.press("Space")
    shown = page.get_by_test_id("transport")
    seen = [int(shown.get_attribute("data-frame") or "-1")]
    while seen[-1] >= seen[0]:
        page.wait_for_timeout(60)
        seen.append(int(shown.get_attribute("data-frame") or "-1"))
        assert seen[-1] < 140, "ran on past the end of its loop"
    assert seen[-1] >= 30


def test_a_large_file_is_added_and_stepped_exactly(page: Page, app, tmp_path):
    """Two hundred megabytes of H.264: grain that cannot be compressed."""
    path = film(
        tmp_path / "large.mp4", steady(320), size=(960, 720), grainy=True,
        options={"preset": "ultrafast", "crf": "4"},
    )  # fmt: skip
    assert path.stat().st_size > 200_000_000
    frames = open_with(page, app, path)["probe"]["frames"]
    for target in (120, 121, 7, frames - 1, 60):
        go_to(page, target)
        expect_frame(page, target)


def test_a_turned_phones_picture_stands_upright(page: Page, app, tmp_path):
    """The browser turns the picture; the bench's pixels are those of the upright frame."""
    path = turn(film(tmp_path / "a.mp4", steady(30)), tmp_path / "turned.mp4")
    found = open_with(page, app, path)["probe"]
    natural = page.evaluate(
        "() => [...document.querySelectorAll('video')].map(v => [v.videoWidth, v.videoHeight])[0]"
    )
    assert natural == [found["width"], found["height"]] == [240, 320]
    assert page.get_by_test_id("picture").get_attribute("viewBox") == "0 0 240 320"


def test_a_file_with_few_pictures_says_so(page: Page, app, tmp_path):
    open_with(page, app, film(tmp_path / "a.mp4", [4.0 * n for n in range(6)]))
    expect(page.get_by_test_id("transport")).to_contain_text("layouts only")


def test_what_is_no_recording_is_refused_on_the_page(page: Page, tmp_path):
    page.goto("/")
    shelf = page.get_by_label("Recordings")
    expect(shelf).to_contain_text("Rack five")
    before = shelf.get_by_role("listitem").count()
    for name, raw, said in (
        ("list.mp4", b"milk, bread", "this is no video"),
        ("cut.mp4", film(tmp_path / "w.mp4", steady(90), grainy=True).read_bytes()[:200_000], "cut off"),
    ):
        shelf.locator('input[type="file"]').set_input_files({"name": name, "mimeType": "video/mp4", "buffer": raw})
        expect(shelf.get_by_role("alert")).to_contain_text(said)
    assert shelf.get_by_role("listitem").count() == before
