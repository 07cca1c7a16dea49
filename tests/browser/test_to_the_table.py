"""The whole way: from a lost rack to its moment, a report, an exercise, ten tries and the curve; from a place in
the lab to a stroke, a kept table, and the same table found again in the mirror."""

from __future__ import annotations

import io
import json
import re

import pypdf
from playwright.sync_api import Page, expect

from tests.conftest import Client
from tests.lost_rack import lost_rack


def test_from_a_lost_rack_to_the_progress_curve(page: Page, app) -> None:
    match = str(Client(app).send("POST", "/games/import", data=json.dumps(lost_rack())).json["id"])
    page.goto(f"/match/{match}/verdict")
    moment = page.locator("[data-moment]", has_text="turned the rack")
    expect(moment).to_contain_text("Odile Brant", timeout=60_000)
    moment.get_by_test_id("cost").click()

    moment.get_by_role("button", name="pick it").click()
    page.get_by_label("what you say to it").fill("This one, ten times, before you play again.")
    report = page.get_by_role("region", name="Picked moments").get_by_role("link", name="report for Odile Brant")
    paper = pypdf.PdfReader(io.BytesIO(page.request.get(report.get_attribute("href") or "").body()))
    words = re.sub(r"\s+", " ", " ".join(one.extract_text() for one in paper.pages))
    assert len(paper.pages) == 1
    assert "This one, ten times, before you play again." in words
    assert "Rack 1, shot 2" in words

    moment.get_by_role("link", name="make it an exercise").click()
    page.get_by_label("for a player of the level").select_option("club")
    page.get_by_role("button", name=re.compile("^as it was")).click()
    page.set_viewport_size({"width": 390, "height": 844})
    page.get_by_label("who practises").fill("Odile Brant")
    for number in range(10):
        name = "missed thin" if number in (2, 7) else "made"
        page.get_by_role("button", name=name, exact=True).click()
        expect(page.get_by_test_id("set")).to_contain_text(f"of {number + 1}")
    region = page.get_by_role("region", name="Odile Brant")
    expect(region.get_by_test_id("progress")).to_contain_text("80 %")
    expect(region.get_by_test_id("progress")).to_contain_text("n 10")
    expect(region.locator("svg")).to_be_visible()
    expect(region).to_contain_text("10 more tries before the numbers tell anything")
    page.reload()
    expect(region.get_by_test_id("progress")).to_contain_text("n 10")  # nothing is counted twice
    page.get_by_role("button", name="give it up").click()
    Client(app).send("DELETE", f"/games/{match}")


def test_a_place_a_stroke_a_kept_table_and_its_mirror_image(page: Page) -> None:
    page.goto("/lab")
    page.get_by_role("button", name="where should it stop?").click()
    box = page.get_by_test_id("drawing").bounding_box()
    assert box
    page.mouse.click(box["x"] + 0.42 * box["width"], box["y"] + 0.62 * box["height"])
    way = page.get_by_test_id("way").first
    expect(way).to_contain_text("a tenth softer")
    way.get_by_role("button").click()
    tables = page.get_by_test_id("kept-tables")
    tables.get_by_label("Name of the table").fill("three to come")
    tables.get_by_role("button", name="keep", exact=True).click()
    expect(tables).to_contain_text("three to come")
    page.wait_for_timeout(600)  # the lab remembers its table once it rests

    mirrored = """() => {
        const lab = JSON.parse(sessionStorage.getItem('aretane-lab'));
        for (const ball in lab.balls) lab.balls[ball][1] = lab.drawn.width - lab.balls[ball][1];
        sessionStorage.setItem('aretane-lab', JSON.stringify(lab));
    }"""
    page.evaluate(mirrored)
    page.reload()
    tables.get_by_role("button", name="like this table").click()
    expect(tables).to_contain_text("0 cm a ball")
    tables.get_by_role("button", name="give up three to come").click()
