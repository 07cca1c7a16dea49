"""Debian's Chromium, driven by Playwright against the real application."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pytest
from playwright.sync_api import Page, expect, sync_playwright

ARGUMENTS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-dev-shm-usage",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--disable-quic",
    "--disable-default-apps",
    "--metrics-recording-only",
    "--use-fake-device-for-media-stream",  # a microphone that beeps
    "--use-fake-ui-for-media-stream",
    "--disable-features=MediaRouter,OptimizationHints,Translate",
]

expect.set_options(timeout=30_000)


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """A page that was slow, on a machine that others use too, is opened again, twice at most."""
    for item in items:
        if "tests/browser/" in item.nodeid:
            item.add_marker(pytest.mark.flaky(reruns=2))


@pytest.fixture(scope="session")
def chromium() -> Iterator[Any]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", headless=True, args=ARGUMENTS)
        yield browser
        browser.close()


@pytest.fixture
def page(chromium, site, judged) -> Iterator[Page]:
    """A fresh page on the application, its matches judged; an error said on the console fails the test."""
    context = chromium.new_context(base_url=site, viewport={"width": 1280, "height": 800})
    opened = context.new_page()
    opened.set_default_timeout(30_000)
    problems: list[str] = []
    opened.on("pageerror", lambda problem: problems.append(str(problem)))
    opened.on("dialog", lambda dialog: dialog.accept())
    yield opened
    context.close()
    assert not problems, problems
