"""The page and the server paint one picture: every shape, every ball in its place and colour."""

from __future__ import annotations

import math
import re
from xml.etree import ElementTree

import pytest
from playwright.sync_api import Page, expect

from aretane.demo.load import game_of

NUMBER = re.compile(r"-?\d+\.?\d*(?:e-?\d+)?")
READ = """svg => ({
  shapes: [...svg.querySelectorAll("[data-line]")].map((one) => {
    const [path, words] = [one.querySelector("path"), one.querySelector("text")];
    const drawn = path ? path.getAttribute("d") : words.getAttribute("transform");
    return [one.dataset.line, drawn, words?.textContent ?? "", path?.getAttribute("stroke-dasharray") ?? ""];
  }),
  balls: [...svg.querySelectorAll("[data-ball]")].map((one) => [
    one.dataset.ball, one.getAttribute("transform"), one.querySelector("circle").getAttribute("fill"),
    one.querySelector("text")?.textContent ?? ""]),
  box: svg.getAttribute("viewBox"),
})"""


def numbers(words):
    return [float(number) for number in NUMBER.findall(words)]


def servers(text):
    """The same of the server's SVG."""
    name = "{http://www.w3.org/2000/svg}"
    svg = ElementTree.fromstring(text)
    shapes, balls = [], []
    for one in svg.iter(f"{name}g"):
        path, words, circle = one.find(f"{name}path"), one.find(f"{name}text"), one.find(f"{name}circle")
        said = words.text if words is not None else ""
        if one.get("data-line"):
            drawn = path.get("d") if path is not None else words.get("transform")
            dash = path.get("stroke-dasharray", "") if path is not None else ""
            shapes.append([one.get("data-line"), drawn, said, dash])
        if one.get("data-ball"):
            balls.append([one.get("data-ball"), one.get("transform"), circle.get("fill"), said])
    return {"shapes": shapes, "balls": balls, "box": svg.get("viewBox")}


def alike(one, other):
    """Numbers to a third of a millimetre, words exactly."""
    if isinstance(one, list):
        return len(one) == len(other) and all(alike(a, b) for a, b in zip(one, other, strict=True))
    found, wanted = numbers(one), numbers(other)
    return NUMBER.sub("#", one) == NUMBER.sub("#", other) and all(
        math.isclose(a, b, abs_tol=0.3) for a, b in zip(found, wanted, strict=True)
    )


@pytest.mark.parametrize(("game", "rack", "shot"), [("nine-ball", 0, 3), ("snooker", 0, 4), ("blackball", 0, 3)])
def test_page_and_server_draw_the_same(page: Page, client, game, rack, shot):
    played = client.get(f"/games/{game_of(game)}").json["racks"][rack]["shots"]
    of = next(one for one in played[shot:] if one["document"].get("called") and one["before"] and not one["error"])
    page.goto(f"/match/{game_of(game)}?shot={of['id']}")
    drawing = page.get_by_test_id("drawing")
    expect(drawing).to_be_visible()
    expect(drawing.locator('[data-line="ghost"]')).to_have_count(1)
    ours = drawing.evaluate(READ)
    theirs = servers(client.get(f"/games/{game_of(game)}/shots/{of['id']}/drawing.svg").text)
    assert alike([ours["box"]], [theirs["box"]])
    for mine, other in ((ours["balls"], theirs["balls"]), (ours["shapes"], theirs["shapes"])):
        assert sorted(one[0] for one in mine) == sorted(one[0] for one in other)
        for a, b in zip(sorted(mine), sorted(other), strict=True):
            assert alike(a, b), (a, b)
