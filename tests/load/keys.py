"""Keys at the bench: from the press to the next paint, and how long the server takes over a logged shot."""

from __future__ import annotations

from typing import Any

import numpy as np

from tests.browser.conftest import ARGUMENTS
from tests.conftest import DEMO
from tests.load.serving import Person, Served

MEASURE = """() => {
  window.__painted = [];
  window.__answers = [];
  addEventListener("keydown", (event) => {
    const pressed = event.timeStamp;
    requestAnimationFrame(() => {
      const channel = new MessageChannel();
      channel.port1.onmessage = () => window.__painted.push(performance.now() - pressed);
      channel.port2.postMessage(0);
    });
  }, true);
  new PerformanceObserver((list) => {
    for (const one of list.getEntries())
      if (one.name.endsWith("/operations")) window.__answers.push(one.responseEnd - one.requestStart);
  }).observe({ type: "resource" });
}"""

FOLLOWS = """() => {
  window.__behind = [];
  const plan = document.querySelector('[data-testid="drawing"] [data-ball="cue"]');
  const ring = () => document.querySelector('[data-testid="picture"] [data-ring="cue"] circle').getAttribute("cx");
  let before = ring();
  new MutationObserver(() => {
    const wait = (frames) => {
      if (ring() !== before || frames > 9) { before = ring(); window.__behind.push(frames); }
      else requestAnimationFrame(() => wait(frames + 1));
    };
    wait(0);
  }).observe(plan, { attributes: true, attributeFilter: ["transform"] });
}"""

KEYS = ("e", "m", "t", "d", "f", "Escape", "z", "Escape", "b", "b", "ArrowUp", "ArrowDown", "x", "x")
ROUNDS, SHOTS = 6, 12


def keys(served: Served, match: dict[str, Any]) -> dict[str, Any]:
    """Milliseconds in a match of 85 shots: median and 95 %."""
    from playwright.sync_api import sync_playwright

    who = Person(served.url)
    who.bring_film(DEMO / "rack.mp4")
    game = who.bring_in({**match, "race_to": 9, "title": "Keys"})
    filmed = game["racks"][4]["shots"][4]["id"]  # the rack of the film
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=ARGUMENTS)
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(f"{served.url}/match/{game['id']}")
        page.get_by_test_id("entry").wait_for()
        page.wait_for_timeout(1500)
        page.evaluate(MEASURE)
        for _ in range(ROUNDS):
            for key in KEYS:
                page.keyboard.press(key)
                page.wait_for_timeout(60)
        for _ in range(SHOTS):
            page.keyboard.press("t")
            page.wait_for_timeout(60)
            page.keyboard.press("Enter")
            page.wait_for_timeout(250)
        painted, answers = page.evaluate("[window.__painted, window.__answers]")
        apart = _dragged(page, f"{served.url}/match/{game['id']}?shot={filmed}")
        browser.close()
    return {
        "key_to_paint_ms": _told(painted),
        "logged_shot_answer_ms": _told(answers),
        "frames_between_plan_and_picture": apart,
    }


def _dragged(page: Any, shot: str) -> dict[str, int]:
    """A ball dragged over the plan of a shot with its picture: after how many frames the picture's ring follows."""
    page.goto(shot)
    page.locator('[data-testid="picture"] [data-ring="cue"]').wait_for()
    box = page.locator('[data-testid="drawing"] [data-ball="cue"]').bounding_box()
    page.evaluate(FOLLOWS)
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    for step in range(1, 25):
        page.mouse.move(box["x"] + 4 * step, box["y"] - step)
        page.wait_for_timeout(40)
    behind = page.evaluate("window.__behind")
    page.mouse.up()
    page.keyboard.press("u")
    return {"n": len(behind), "most": max(behind, default=0)}


def _told(times: list[float]) -> dict[str, float]:
    return {
        "n": len(times),
        "median": round(float(np.median(times)), 1),
        "p95": round(float(np.quantile(times, 0.95)), 1),
    }
